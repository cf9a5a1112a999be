"""How the nodes of an owner are selected in its style sheet, in which cases, and what wins."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from outgrowth.core.document.records import Path
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.steps import YES, AxisKey, Conditions

HELPERS = {"edge": "-edge", "strut": "-strut", "svg": "-form"}
"""The elements that help to draw a node: what their names end in."""
_HELPER_OF_ROOT = {"edge": " #root-edge", "strut": " #root-strut", "svg": " #root-form"}


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

    def selector(
        self, path: Path, extra: str, when: Conditions, filling: SlotFilling = ANY_FILLING
    ) -> str:
        """A node, or (by its kind) an element that helps to draw it, under conditions; `filling`
        tells what stands in it, where it is a slot."""
        ordered = sorted(when)
        own = [(key, value) for key, value in ordered if not key.instance]
        inner = [(key, value) for key, value in ordered if key.instance]
        if any(not self._reaches(key, path) for key, _ in inner):
            self.problems.append(f"{self.called(path)} depends on what cannot be selected.")
        root = self.selectors.root
        if own:
            root = self.selectors.conditional("".join(self._state(k, v) for k, v in own))
        if not path:
            lead = root if own else ""
            return f"{lead}{_HELPER_OF_ROOT[extra]}".strip() if extra else root
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
            return f"{lead}{name}{states}::part(root{HELPERS[extra]})"
        return f"{lead}{name}{HELPERS.get(extra, '')}{states}"

    def _state(self, key: AxisKey, value: str) -> str:
        component = self._steps.component_at(key.instance)
        assert component is not None
        names = self._evaluator.names.owners[component.id]
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
