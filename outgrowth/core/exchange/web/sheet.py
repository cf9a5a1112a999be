"""The style sheet of a component or a screen: few rules, for all of its variants.

A rule with n conditions becomes a selector with n states, so that "fewer conditions before more"
is specificity, and equal counts fall to the order in the sheet: the cascade is CSS's own. What an
owner says of the inside of an instance is a rule on a part; an outer tree wins over an inner one
in CSS as it does with us (CSS Scoping 1, section 3.3).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import groupby
from typing import NamedTuple

from outgrowth.core.document.extent import fillings
from outgrowth.core.document.properties import FAMILY_MEMBERS, rows_of
from outgrowth.core.document.records import Component, ComponentProperty, Path
from outgrowth.core.document.rooms import room_steps
from outgrowth.core.exchange.web.compress import fewest_rules
from outgrowth.core.exchange.web.css import Css
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.initial import initial
from outgrowth.core.exchange.web.node_styles import STRUTTED, NodeStyles
from outgrowth.core.exchange.web.selectors import (
    ANY_FILLING,
    COMPONENT,
    FRAME,
    HELPERS,
    Selectors,
    SelectorWriter,
    SlotFilling,
    from_right_to_left,
)
from outgrowth.core.exchange.web.sheet_paths import ARRANGING, SheetPaths
from outgrowth.core.exchange.web.shorthands import folded
from outgrowth.core.exchange.web.sides import EDGE_INSET, TURNS, by_lines, edges_turned, lines_last
from outgrowth.core.exchange.web.steps import AxisKey, AxisValues, Conditions, ScopedStep

# Where a part of an instance stands and how large it is: what its holder has to say again, since
# it depends on how the holder arranges it; of a grid whether its tracks are those around it.
_PLACED = rows_of("placement", "size") | {"subgrid", "columns", "rows", "gap", "cross-gap"}


# What decides which sides the start and end of lines are.
_LINES = frozenset({"sides", "mirrored", "flow"})


class CssRule(NamedTuple):
    """One rule of a style sheet; `inside` are the rules that it stands in, the outermost first."""

    selector: str
    css: Css
    inside: tuple[str, ...] = ()


class StyleSheet(NamedTuple):
    """The rules of an owner, and what could not be said exactly, as sentences."""

    rules: list[CssRule]
    problems: list[str]


class Adapts(NamedTuple):
    """What holders say of components, which these have to be ready for: other paddings, and
    other sizes of boxes in which all lies free (by component and path)."""

    padded: frozenset[str] = frozenset()
    held_open: frozenset[tuple[str, Path]] = frozenset()


NOTHING_ELSE = Adapts()


_NodeRules = dict[str, dict[Conditions, Css]]
"""What is said of a node and of the elements that help to draw it, by their kind and case."""


class SheetMaker:
    """Makes the sheet of one owner.

    measured(path, cell)  the size of what is in a free box (px), which CSS cannot work out
    """

    def __init__(
        self,
        evaluator: Evaluator,
        families: tuple[str, ...],
        measured: Callable[[Path, AxisValues], tuple[float, float]],
        selectors: Selectors = COMPONENT,
        adapts: Adapts = NOTHING_ELSE,
    ) -> None:
        self._evaluator = evaluator
        self._steps = evaluator.steps
        self._families = families
        self.adapts = adapts
        self.problems: list[str] = []
        self.paths = SheetPaths(evaluator)
        self._selectors = SelectorWriter(evaluator, selectors, self.problems)
        own = evaluator.steps.owner.id
        held_open = frozenset(path for owner, path in adapts.held_open if owner == own)
        self.styles = NodeStyles(
            evaluator, families, measured, held_open, self.paths, self._selectors
        )

    @property
    def is_framed(self) -> bool:
        """Whether the owner's root is an element of its own within the element (selectors.py)."""
        return self._selectors.framed(())

    def rules(self) -> list[CssRule]:
        """All rules, in the order in which they have to stand."""
        results: list[tuple[Conditions, CssRule]] = []
        for path in self.paths.all():
            for maker, rules, filling in self._fillings(path):
                for extra, sheet in rules.items():
                    for when, css in sheet.items():
                        results.append((when, maker._rule(path, extra, when, css, filling)))
        results.sort(key=lambda rule: self._selectors.rank(rule[0]))
        written = [one for _, rule in results for one in (rule, *_turned(rule))]
        return _gathered([*written, *self._room_values()])

    def _room_values(self) -> Iterator[CssRule]:
        """Which value each room makes of the owner's axes, told by a custom property."""
        names = self._evaluator.names.owners[self._steps.owner.id]
        for axis_id, room in names.rooms.items():
            for step in room_steps(room.axis):
                when = frozenset({(AxisKey((), axis_id), step.value)})
                css = {names.variable_of(room): room.values[step.value]}
                yield CssRule("#root", css, self._selectors.containers((), "", when))

    def _rule(
        self,
        path: Path,
        extra: str,
        when: Conditions,
        css: Css,
        filling: SlotFilling = ANY_FILLING,
    ) -> CssRule:
        return CssRule(
            self._selectors.selector(path, extra, when, filling),
            lines_last(self._written(path, css, when)),
            self._selectors.containers(path, extra, when),
        )

    def _written(self, path: Path, css: Css, when: Conditions) -> Css:
        """With shorthands. The padding of an element itself stands against the reset sheets of
        pages (`* { padding: 0 }`), so a holder says another by a name of its own."""
        component = self._steps.component_at(path)
        node = self._steps.node_at(path)
        if component is None or (path and (node is None or node.kind != "instance")):
            return folded(css)
        element = self._evaluator.names.owners[component.id].element
        named = {name: f"--{element}-{name}" for name in css if name.startswith("padding-")}
        if path:
            return folded({named.get(name, name): value for name, value in css.items()})
        if component.id in self.adapts.padded:
            if not when:
                # Every side, since a holder may say one that the component itself never does.
                css = _every_padding(css) | css
                named = {name: f"--{element}-{name}" for name in css if name.startswith("padding-")}
            css = {n: f"var({named[n]}, {v})" if n in named else v for n, v in css.items()}
        short = folded(css)
        return {n: f"{v} !important" if n.startswith("padding") else v for n, v in short.items()}

    def rules_of(self, path: Path) -> list[tuple[Conditions, CssRule]]:
        """What the sheet says of one node, with the conditions of each rule."""
        results = [
            (when, self._rule(path, extra, when, css))
            for extra, sheet in self._of(path).items()
            for when, css in sheet.items()
        ]
        return sorted(results, key=lambda rule: self._selectors.rank(rule[0]))

    # --- slots --------------------------------------------------------------------------------

    def _fillings(self, path: Path) -> Iterator[tuple[SheetMaker, _NodeRules, SlotFilling]]:
        """The rules of a node, with who writes them: of a slot, once for all that stand in it
        alike, since where a part stands and how large it is comes from its own root."""
        rules = self._of(path)
        slot = self._steps.slot_at(path)
        if slot is None:
            yield self, rules, ANY_FILLING
            return
        usual = self._steps.component_at(path)
        known: list[tuple[object, int]] = [(self._said_of_filling(path, usual), 0)]
        groups: list[tuple[SheetMaker, _NodeRules, list[str]]] = [(self, rules, [])]
        for component in fillings(self._steps.document, slot):
            said = self._said_of_filling(path, component)
            place = next((n for one, n in known if one == said), None)
            if place is None:
                maker = self._with_filling(slot, component)
                other = maker._of(path)
                place = next((n for n, g in enumerate(groups) if g[1] == other), len(groups))
                known.append((said, place))
                if place == len(groups):
                    groups.append((maker, other, []))
            groups[place][2].append(self._evaluator.names.owners[component.id].element)
        others = [element for _, _, elements in groups[1:] for element in elements]
        yield self, rules, SlotFilling("", f":not({', '.join(others)})") if others else ANY_FILLING
        for maker, other, elements in groups[1:]:
            one = elements[0] if len(elements) == 1 else f":is({', '.join(elements)})"
            yield maker, other, SlotFilling(one)

    def _said_of_filling(self, path: Path, component: Component | None) -> object:
        """What the root of a component says that its holder has to say again in a slot."""
        if component is None:
            return None
        own = {s.property for s in self._steps.of(path) if s.depth == 0}
        taken = own | _together(own) | _PLACED | _LINES
        steps = self._steps.other(component).of(())
        said = [(s.property, s.value, s.when) for s in steps if s.property in taken]
        return component.root.kind, said

    def _with_filling(self, prop: ComponentProperty, component: Component) -> SheetMaker:
        """The maker of the owner's sheet, with something else in a slot."""
        evaluator = Evaluator(self._steps.filled(prop, component), self._evaluator.names)
        selectors = self._selectors.selectors
        return SheetMaker(
            evaluator, self._families, lambda path, cell: (0.0, 0.0), selectors, self.adapts
        )

    # --- one node -----------------------------------------------------------------------------

    def _of(self, path: Path) -> _NodeRules:
        """The rules of a node and of the elements that help to draw it, by their kind."""
        steps = self._steps.of(path)
        node = self._steps.node_at(path)
        inner = tuple(s for s in steps if s.depth > 0) if path else ()
        is_instance = bool(path) and node is not None and node.kind == "instance"
        steps = self._decisive(path, steps, is_instance)
        line = [s for parent in self._evaluator.line_to(path) for s in self._arranging(parent)]
        if self._measures(path):
            # How large a free box is hangs on everything in it.
            line += [s for inside in self.paths.own_nodes() for s in self._steps.of(inside)]
        if path in self.paths.restated:
            line += [s for inside in self.paths.nodes_of(path[:1]) for s in self._steps.of(inside)]
        keys = self._steps.keys_of((*steps, *line))
        cells = self.styles.cells(path, keys)
        whens = self._whens((*steps, *line))
        nothing: Callable[[AxisValues], dict[str, Css]] = lambda cell: {}  # noqa: E731
        base = nothing
        if inner or is_instance:
            base = self._baseline(path, frozenset(s.property for s in steps))
        parts = self._parts_of(path, steps)
        bare = not path and self._evaluator.kind_at(path) == "text"
        usual = (lambda name: "initial") if bare else initial
        result: dict[str, dict[Conditions, Css]] = {}
        for extra in ("", FRAME, *HELPERS):
            # How much a box inside has to be held open only its holder knows, and whether it has
            # to: its component may say that it has not.
            restated = extra == "strut" and path in self.paths.restated
            target, below = _only(parts, extra), _only(nothing if restated else base, extra)
            unsaid = _unsaid_of_strut if restated else usual
            rules = fewest_rules(target, below, whens, cells, self._selectors.rank, unsaid)
            if rules:
                result[extra] = {when: dict(css) for when, css in rules.items()}
        return result

    def _measures(self, path: Path) -> bool:
        """Whether a node is in some case a box whose size is measured."""
        flows = [s.value for s in self._steps.of(path) if s.property == "flow"]
        return "free" in flows and self.styles.strutted(path)

    def _decisive(
        self, path: Path, steps: tuple[ScopedStep, ...], is_instance: bool
    ) -> tuple[ScopedStep, ...]:
        """The steps that matter for what the owner has to say of a node: of an instance, its own,
        what they change, and what places it."""
        if not path or all(s.depth == 0 for s in steps):
            return steps
        own = {s.property for s in steps if s.depth == 0}
        taken = own | _together(own) | _LINES | (_PLACED if is_instance else frozenset())
        if is_instance and self._selectors.framed(path):
            taken |= _FLOW_AND_PADDING
        if path in self.paths.restated:
            taken |= STRUTTED
        if path in self.paths.sticking:
            taken |= _PLACED
        if len(path) > 1 and any(
            self.paths.rearranges(p) for p in self._evaluator.line_to(path)[-1:]
        ):
            taken |= _PLACED
        return tuple(s for s in steps if s.property in taken)

    def _arranging(self, parent: Path) -> tuple[ScopedStep, ...]:
        return tuple(s for s in self._steps.of(parent) if s.property in ARRANGING)

    def _whens(self, steps: tuple[ScopedStep, ...]) -> list[Conditions]:
        whens = {s.when for s in steps}
        for s in steps:
            prop = self._steps.property_at(s.scope, s.value)
            if prop is not None and prop.kind == "switch":
                key = AxisKey(s.scope, prop.id)
                whens.add(s.when | {(key, self._steps.values_of(key)[1])})
                whens.add(frozenset({(key, self._steps.values_of(key)[1])}))
        return sorted(whens, key=self._selectors.rank)

    def _parts_of(
        self, path: Path, steps: tuple[ScopedStep, ...]
    ) -> Callable[[AxisValues], dict[str, Css]]:
        """What a node is in a case, worked out once for it and all its helpers."""
        cached: dict[object, dict[str, Css]] = {}

        def parts(cell: AxisValues) -> dict[str, Css]:
            key = frozenset(cell.items())
            if key not in cached:
                cached[key] = self.styles.parts(
                    path, cell, steps, self._evaluator.around(path, cell)
                )
            return cached[key]

        return parts

    def _baseline(
        self, path: Path, taken: frozenset[str]
    ) -> Callable[[AxisValues], dict[str, Css]]:
        """What the component of the instance says of the node in its own sheet."""
        component = self._steps.component_at(path[:1])
        if component is None:
            return lambda cell: {}
        inner = self._inner_maker(component)
        remainder = path[1:]
        steps = tuple(s for s in inner._steps.of(remainder) if s.property in taken)
        cached: dict[object, dict[str, Css]] = {}

        def baseline(cell: AxisValues) -> dict[str, Css]:
            own = {
                AxisKey(key.instance[1:], key.id): value
                for key, value in cell.items()
                if key.instance[:1] == path[:1]
            }
            key = frozenset(own.items())
            if key not in cached:
                arrangement = inner._evaluator.around(remainder, own)
                cached[key] = inner.styles.parts(remainder, own, steps, arrangement)
            return cached[key]

        return baseline

    def _inner_maker(self, component: Component) -> SheetMaker:
        evaluator = Evaluator(self._steps.other(component), self._evaluator.names)
        return SheetMaker(evaluator, self._families, lambda path, cell: (0.0, 0.0))


def _every_padding(css: Css) -> Css:
    """The four paddings of a box, as it says its sides."""
    sides = dict.fromkeys(FAMILY_MEMBERS["padding"], "0px")
    return by_lines(sides) if any("-inline-" in name for name in css) else sides


def _unsaid_of_strut(name: str) -> str:
    """What a property is that a holder leaves unsaid; whether a strut is there it always says."""
    return "" if name == "display" else initial(name)


def _only(parts: Callable[[AxisValues], dict[str, Css]], extra: str) -> Callable[[AxisValues], Css]:
    return lambda cell: parts(cell).get(extra, {})


_FLOW_AND_PADDING = frozenset({"flow", "clears-edges", *FAMILY_MEMBERS["padding"]})
# Properties that CSS says together: who changes one has to know the others.
_GROUPS = (
    _PLACED,
    frozenset({"shadow", "stroke", "stroke-place", *FAMILY_MEMBERS["stroke-width"]}),
    frozenset(FAMILY_MEMBERS["radius"]),
    frozenset({"translate-x", "translate-y"}),
    frozenset({"origin-x", "origin-y"}),
    frozenset({"clip", "scrolls"}),
    frozenset({"font-size", "fluid-size", "fluid-from", "fluid-until"}),
    frozenset({"fit", "focal-x", "focal-y"}),
    frozenset({"flow", "gap", "cross-gap", "wrap", "reversed", "lines-reversed"}),
    # What lies free keeps no distance from the edge.
    _FLOW_AND_PADDING,
    frozenset({"form", "arc-start", "arc-sweep", "thickness", "fill", "stroke", "line-width"}),
)


def _together(own: set[str]) -> set[str]:
    return {name for group in _GROUPS if own & group for name in group}


def _gathered(rules: list[CssRule]) -> list[CssRule]:
    """Rules of one selector as one, and equal ones of neighbours with both selectors."""
    by_selector: dict[tuple[tuple[str, ...], str], Css] = {}
    for rule in rules:
        key = rule.inside, rule.selector
        by_selector[key] = lines_last(by_selector.get(key, {}) | rule.css)
    merged: list[CssRule] = []
    for (inside, selector), css in by_selector.items():
        if merged and merged[-1].css == css and merged[-1].inside == inside:
            merged[-1] = CssRule(f"{merged[-1].selector},\n{selector}", css, inside)
        else:
            merged.append(CssRule(selector, css, inside))
    return merged


def _turned(rule: CssRule) -> Iterator[CssRule]:
    """On a page from right to left, what is mirrored goes the other way again, and at the start of
    lines is another edge of the device."""
    css: Css = {
        name: edges_turned(value)
        for name, value in rule.css.items()
        if "-inline" in name and EDGE_INSET in value
    }
    direction, turns = rule.css.get("direction"), rule.css.get(TURNS)
    if direction is not None:
        css["direction"] = "ltr" if direction == "rtl" else "rtl"
    if turns is not None:
        css["transform"] = "scaleX(-1)" if turns == "1" else "none"
    if css:
        yield CssRule(from_right_to_left(rule.selector), css, rule.inside)


def sheet_text(rules: list[CssRule], indent: str = "") -> str:
    """The rules as a style sheet."""
    lines = []
    for inside, group in groupby(rules, key=lambda rule: rule.inside):
        written = [line for rule in group for line in _rule_lines(rule)]
        for outer in reversed(inside):
            written = [f"{outer} {{", *(f"  {line}" for line in written), "}"]
        lines += written
    return "\n".join(indent + line if line else line for line in lines)


def _rule_lines(rule: CssRule) -> list[str]:
    said = [f"  {name}: {value};" for name, value in rule.css.items()]
    return [*f"{rule.selector} {{".split("\n"), *said, "}"]
