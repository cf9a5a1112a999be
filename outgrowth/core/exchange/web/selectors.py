"""How the nodes of an owner are selected in its style sheet, in which cases, and what wins."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from outgrowth.core.document.records import Axis, Path
from outgrowth.core.document.rooms import asks_room, range_of
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.steps import YES, AxisKey, Conditions, Steps
from outgrowth.core.exchange.web.symbols import px, zeros

HELPERS = {"edge": "-edge", "strut": "-strut", "svg": "-form"}
"""The elements that help to draw a node: what their names end in."""
_HELPER_OF_ROOT = {"edge": " #root-edge", "strut": " #root-strut", "svg": " #root-form"}
FRAME = "frame"
"""The element itself of a component whose room decides what it is: it stands in its holder, is
asked for its room, and holds the root as an element of its own. Source: CSS Conditional 5, section
5: what is in an element is styled by its size, the element itself is not."""
_ALWAYS = ":nth-child(n)"
"""What is so of every element: what no selector says counts as much as what one does."""


class Selectors(NamedTuple):
    """How an owner's nodes are selected: its root, and its root in some states."""

    root: str
    conditional: Callable[[str], str]


COMPONENT = Selectors(":host", lambda states: f":host({states})")
SCREEN = Selectors("main", lambda states: "main")


class SlotFilling(NamedTuple):
    """What stands in a slot: a compound selector around the slot's name, which adds to its
    specificity no more than one element does."""

    before: str = ""
    after: str = ""


ANY_FILLING = SlotFilling()


def has_frame(steps: Steps, path: Path) -> bool:
    """Whether the root of what stands at a path is an element of its own: its room decides what it
    is."""
    node = steps.node_at(path)
    component = steps.component_at(path) if node is not None else None
    entire = node is not None and (not path or node.kind == "instance")
    return entire and component is not None and asks_room(component)


class SelectorWriter:
    """Writes the selectors of one owner.

    selectors  how the owner's root is selected
    problems   what cannot be selected, as sentences
    """

    def __init__(self, evaluator: Evaluator, selectors: Selectors, problems: list[str]) -> None:
        self._evaluator = evaluator
        self._steps = evaluator.steps
        self._names = evaluator.names.owners[evaluator.steps.owner.id]
        self.selectors = selectors
        self.problems = problems

    def rank(self, when: Conditions) -> tuple[object, ...]:
        """The order of rules: fewer conditions first, then as the cascade has them."""
        axes = [axis.id for axis in getattr(self._steps.owner, "axes", ())]
        own = tuple(
            sorted(
                axes.index(key.id) if not key.instance and key.id in axes else len(axes)
                for key, _ in when
            )
        )
        return len(when), own, tuple(sorted(when))

    def framed(self, path: Path) -> bool:
        """Whether a node is the root of a component whose room decides what it is."""
        return has_frame(self._steps, path)

    def containers(self, path: Path, extra: str, when: Conditions) -> tuple[str, ...]:
        """What a rule has to stand in, for those of its conditions that are about a room."""
        results = []
        for key, value in sorted(when):
            axis = self._room_axis(key)
            component = self._steps.component_at(key.instance)
            if axis is None or component is None:
                continue
            if extra == FRAME and key.instance == path:
                self.problems.append(f"{self.called(path)} can't stand otherwise by its own room.")
            element = self._evaluator.names.owners[component.id].element
            results.append(f"@container {element} {_room_query(axis, value)}")
        return tuple(results)

    def _room_axis(self, key: AxisKey) -> Axis | None:
        component = self._steps.component_at(key.instance)
        axis = component.axis(key.id) if component is not None else None
        return axis if axis is not None and axis.driver == "room" else None

    def selector(
        self, path: Path, extra: str, when: Conditions, filling: SlotFilling = ANY_FILLING
    ) -> str:
        """A node, or (by its kind) an element that helps to draw it, under conditions; `filling`
        tells what stands in it, where it is a slot."""
        ordered = sorted(when)
        framed = extra in ("", FRAME) and self.framed(path)
        if extra == FRAME:
            extra = ""
        elif framed:
            extra = "root"
        own = [(key, value) for key, value in ordered if not key.instance]
        inner = [(key, value) for key, value in ordered if key.instance]
        if any(not self._reaches(key, path) for key, _ in inner):
            self.problems.append(f"{self.called(path)} depends on what cannot be selected.")
        root = self.selectors.root
        if own:
            root = self.selectors.conditional("".join(self._state(k, v) for k, v in own))
        if not path:
            lead = root if own else ""
            helper = " #root" if extra == "root" else _HELPER_OF_ROOT.get(extra, "")
            return f"{lead}{helper}".strip() if extra else root
        states = "".join(self._state(k, v) for k, v in inner)
        name = f"{filling.before}#{self._names.nodes[path[0]]}{filling.after}"
        lead = f"{root} " if own or inner else ""
        if len(path) > 1:
            part = part_name(self._evaluator, path)
            inside = self._steps.node_at(path)
            if extra and inside is not None and inside.kind == "instance":
                part += "-root"
            return f"{lead}{name}{states}::part({part}{HELPERS.get(extra, '')})"
        node = self._steps.node_at(path)
        if extra and node is not None and node.kind == "instance":
            return f"{lead}{name}{states}::part(root{HELPERS.get(extra, '')})"
        return f"{lead}{name}{HELPERS.get(extra, '')}{states}"

    def _state(self, key: AxisKey, value: str) -> str:
        component = self._steps.component_at(key.instance)
        assert component is not None
        names = self._evaluator.names.owners[component.id]
        if key.id in names.rooms:
            return _ALWAYS
        if key.id in names.axes:
            return names.axes[key.id].state(value)
        prop = names.properties[key.id]
        state = f":state({prop.attribute})"
        return state if (value == YES) == prop.yes else f":not({state})"

    @staticmethod
    def _reaches(key: AxisKey, path: Path) -> bool:
        """Whether a selector can say an axis: of the outermost instance on the way."""
        return len(key.instance) == 1 and key.instance == path[:1]

    def called(self, path: Path) -> str:
        """What a node is called in a problem."""
        node = self._steps.node_at(path)
        return f"“{node.name if node is not None else path[-1]}” of “{self._steps.owner.name}”"


def _room_query(axis: Axis, value: str) -> str:
    """The room in which a value holds. Source: CSS Conditional 5, section 5.4."""
    least, below = range_of(axis, value)
    side, unit = axis.side, axis.unit
    if below is not None and below <= least:
        return f"({side} < 0px)"  # nowhere
    length = zeros if unit == "ch" else px
    from_least = [f"({side} >= {length(least)})"] if least else []
    to_below = [f"({side} < {length(below)})"] if below is not None else []
    return " and ".join([*from_least, *to_below]) or f"({side} >= 0px)"


def from_right_to_left(selector: str) -> str:
    """What a selector finds, where the page goes from right to left. Source: Selectors 4, section
    7.1 (:dir), which sees what the attribute says and no style."""
    whole, part, named = selector.partition("::part(")
    if whole == COMPONENT.root:
        return COMPONENT.conditional(":dir(rtl)")
    # Only the root itself is selected by what stands between the brackets.
    if whole.startswith(":host(") and " " not in whole:
        return f"{whole[:-1]}:dir(rtl)){part}{named}"
    return f"{whole}:dir(rtl){part}{named}"


def part_name(evaluator: Evaluator, path: Path) -> str:
    """What a node inside an instance is called as a part: by the names on the way."""
    names = []
    for n in range(1, len(path)):
        owner = evaluator.steps.owner_at(path[:n])
        if owner is None:
            continue
        names.append(evaluator.names.owners[owner.id].nodes[path[n]])
    return "-".join(names)
