"""The style sheet of a component or a screen: few rules, for all of its variants.

A rule with n conditions becomes a selector with n states, so that "fewer conditions before more"
is specificity, and equal counts fall to the order in the sheet: the cascade is CSS's own. What an
owner says of the inside of an instance is a rule on a part; an outer tree wins over an inner one
in CSS as it does with us (CSS Scoping 1, section 3.3).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cached_property
from typing import NamedTuple

import msgspec

from outgrowth.core.document.properties import FAMILY_MEMBERS, rows_of
from outgrowth.core.document.records import Component, Node, Path, walk
from outgrowth.core.exchange.web.compress import fewest_rules
from outgrowth.core.exchange.web.css import (
    FITS,
    SIDES,
    Around,
    Css,
    edge_css,
    even,
    is_replaced,
    node_css,
    strut_css,
)
from outgrowth.core.exchange.web.evaluate import Evaluated, Evaluator
from outgrowth.core.exchange.web.held_open import restated_boxes
from outgrowth.core.exchange.web.initial import initial
from outgrowth.core.exchange.web.shapes import shape_css
from outgrowth.core.exchange.web.shorthands import folded
from outgrowth.core.exchange.web.steps import AxisKey, AxisValues, Conditions, ScopedStep
from outgrowth.core.layout.sizes import GLYPH_BOX
from outgrowth.core.resolve.scene import PaintStyle

# Where a part of an instance stands and how large it is: what its holder has to say again, since
# it depends on how the holder arranges it.
_PLACED = rows_of("placement", "size")
_ARRANGING = frozenset({"flow", "align", "mirrored", "justify-items", "scrolls"})
MOST_CELLS = 20_000
_HELPERS = {"edge": "-edge", "strut": "-strut", "svg": "-form"}


class CssRule(NamedTuple):
    """One rule of a style sheet."""

    selector: str
    css: Css


class StyleSheet(NamedTuple):
    """The rules of an owner, and what could not be said exactly, as sentences."""

    rules: list[CssRule]
    problems: list[str]


class Selectors(NamedTuple):
    """How an owner's nodes are selected: its root, and any other by its name."""

    root: str
    conditional: Callable[[str], str]


COMPONENT = Selectors(":host", lambda states: f":host({states})")


SCREEN = Selectors("main", lambda states: "main")


_PADDINGS = tuple(f"padding-{side}" for side in ("top", "right", "bottom", "left"))


class Adapts(NamedTuple):
    """What holders say of components, which these have to be ready for: other paddings, and
    other sizes of boxes in which all lies free (by component and path)."""

    padded: frozenset[str] = frozenset()
    held_open: frozenset[tuple[str, Path]] = frozenset()


NOTHING_ELSE = Adapts()


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
        self._names = evaluator.names.owners[evaluator.steps.owner.id]
        self._families = families
        self._measured = measured
        self._selectors = selectors
        self.adapts = adapts
        self.problems: list[str] = []
        self._edges: dict[Path, bool] = {}
        self._struts: dict[Path, bool] = {}

    def rules(self) -> list[CssRule]:
        """All rules, in the order in which they have to stand."""
        results: list[tuple[Conditions, str, Css]] = []
        for path in self._paths():
            for extra, sheet in self._of(path).items():
                for when, css in sheet.items():
                    written = self._written(path, css, when)
                    results.append((when, self._selector(path, extra, when), written))
        results.sort(key=lambda rule: self._rank(rule[0]))
        return _gathered([CssRule(selector, css) for _, selector, css in results])

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
                css = dict.fromkeys(_PADDINGS, "0px") | css
                named = {side: f"--{element}-{side}" for side in _PADDINGS}
            css = {n: f"var({named[n]}, {v})" if n in named else v for n, v in css.items()}
        short = folded(css)
        return {n: f"{v} !important" if n.startswith("padding") else v for n, v in short.items()}

    def rules_of(self, path: Path) -> list[tuple[Conditions, CssRule]]:
        """What the sheet says of one node, with the conditions of each rule."""
        results = [
            (when, CssRule(self._selector(path, extra, when), self._written(path, css, when)))
            for extra, sheet in self._of(path).items()
            for when, css in sheet.items()
        ]
        return sorted(results, key=lambda rule: self._rank(rule[0]))

    def _paths(self) -> Iterator[Path]:
        """The owner's own nodes, and those inside its instances that it says something of."""
        owner = self._steps.owner
        yield ()
        for node in walk(owner.root):
            if node is not owner.root:
                yield (node.id,)
        yield from sorted(self.deep_paths())

    def padded_components(self) -> set[str]:
        """The components whose padding the owner says otherwise at an instance."""
        components = set()
        for path in self._paths():
            node = self._steps.node_at(path)
            component = self._steps.component_at(path) if path and node is not None else None
            if component is None or node is None or node.kind != "instance":
                continue
            own = (s.property for s in self._steps.of(path) if s.depth == 0)
            if any(name.startswith("padding-") for name in own):
                components.add(component.id)
        return components

    def deep_paths(self) -> set[Path]:
        """The nodes inside instances that the owner itself says something of."""
        owner = self._steps.owner
        paths = {(n.id, *rule.node) for n in walk(owner.root) for rule in n.overrides if rule.node}
        if isinstance(owner, Component):
            paths |= {rule.node for rule in owner.rules if len(rule.node) > 1}
        paths = {p for p in paths if self._steps.node_at(p) is not None}
        instances = {(n.id,) for n in walk(owner.root) if n.kind == "instance"}
        for path in sorted(paths | instances):
            if self._rearranges(path):
                paths |= {(*self._inside(path), child.id) for child in self._children(path)}
        return paths | self.sticking | {path for path in self.restated if len(path) > 1}

    @cached_property
    def sticking(self) -> frozenset[Path]:
        """The nodes inside of instances that can stick, and do so where the owner scrolls."""
        results: set[Path] = set()
        for node in walk(self._steps.owner.root):
            line = self._evaluator.line_to((node.id,)) if node.kind == "instance" else []
            if any(s.property == "scrolls" for p in line for s in self._steps.of(p)):
                results |= {
                    path
                    for path in self._nodes_of((node.id,))
                    if any(s.property == "sticks" for s in self._steps.of(path))
                }
        return frozenset(path for path in results if len(path) > 1)

    @cached_property
    def restated(self) -> frozenset[Path]:
        """The free boxes inside of instances whose size the owner says again."""
        return restated_boxes(self._evaluator)

    def _rearranges(self, path: Path) -> bool:
        """Whether the owner says how a node inside an instance (or its root) arranges what is in
        it: then all that stands there has to be said again."""
        return any(s.depth == 0 and s.property in _ARRANGING for s in self._steps.of(path))

    def _inside(self, path: Path) -> Path:
        """The path from which the children of a node go on."""
        node = self._steps.node_at(path)
        return path if node is not None and node.kind == "instance" else path[:-1]

    def _children(self, path: Path) -> tuple[Node, ...]:
        node = self._steps.node_at(path)
        component = self._steps.component_at(path) if node is not None else None
        if node is None or node.kind != "instance":
            return node.children if node is not None else ()
        return component.root.children if component is not None else ()

    # --- one node -----------------------------------------------------------------------------

    def _of(self, path: Path) -> dict[str, dict[Conditions, Css]]:
        """The rules of a node and of the elements that help to draw it, by their kind."""
        steps = self._steps.of(path)
        node = self._steps.node_at(path)
        inner = tuple(s for s in steps if s.depth > 0) if path else ()
        is_instance = bool(path) and node is not None and node.kind == "instance"
        steps = self._decisive(path, steps, is_instance)
        line = [s for parent in self._evaluator.line_to(path) for s in self._arranging(parent)]
        if self._measures(path):
            # How large a free box is hangs on everything in it.
            line += [s for inside in self._own_nodes() for s in self._steps.of(inside)]
        if path in self.restated:
            line += [s for inside in self._nodes_of(path[:1]) for s in self._steps.of(inside)]
        keys = self._steps.keys_of((*steps, *line))
        cells = self._cells(path, keys)
        whens = self._whens((*steps, *line))
        nothing: Callable[[AxisValues], dict[str, Css]] = lambda cell: {}  # noqa: E731
        base = nothing
        if inner or is_instance:
            base = self._baseline(path, frozenset(s.property for s in steps))
        parts = self._parts_of(path, steps)
        bare = not path and self._evaluator.kind_at(path) == "text"
        usual = (lambda name: "initial") if bare else initial
        result: dict[str, dict[Conditions, Css]] = {}
        for extra in ("", *_HELPERS):
            # How much a box inside has to be held open only its holder knows.
            known = base if extra != "strut" or path not in self.restated else nothing
            target, below = _only(parts, extra), _only(known, extra)
            rules = fewest_rules(target, below, whens, cells, self._rank, usual)
            if rules:
                result[extra] = {when: dict(css) for when, css in rules.items()}
        return result

    def _measures(self, path: Path) -> bool:
        """Whether a node is in some case a box whose size is measured."""
        flows = [s.value for s in self._steps.of(path) if s.property == "flow"]
        return "free" in flows and self.strutted(path)

    def _own_nodes(self) -> Iterator[Path]:
        root = self._steps.owner.root
        return ((node.id,) if node is not root else () for node in walk(root))

    def _nodes_of(self, instance: Path) -> Iterator[Path]:
        component = self._steps.component_at(instance)
        for node in walk(component.root) if component is not None else ():
            path = instance if component and node is component.root else (*instance, node.id)
            yield path
            if node.kind == "instance" and path != instance:
                yield from self._nodes_of(path)

    def _decisive(
        self, path: Path, steps: tuple[ScopedStep, ...], is_instance: bool
    ) -> tuple[ScopedStep, ...]:
        """The steps that matter for what the owner has to say of a node: of an instance, its own,
        what they change, and what places it."""
        if not path or all(s.depth == 0 for s in steps):
            return steps
        own = {s.property for s in steps if s.depth == 0}
        taken = own | _together(own) | (_PLACED if is_instance else frozenset())
        if path in self.restated:
            taken |= _STRUTTED
        if path in self.sticking:
            taken |= _PLACED
        if len(path) > 1 and any(self._rearranges(p) for p in self._evaluator.line_to(path)[-1:]):
            taken |= _PLACED
        return tuple(s for s in steps if s.property in taken)

    def _arranging(self, parent: Path) -> tuple[ScopedStep, ...]:
        return tuple(s for s in self._steps.of(parent) if s.property in _ARRANGING)

    def _cells(self, path: Path, keys: list[AxisKey]) -> list[dict[AxisKey, str]]:
        count = 1
        for key in keys:
            count *= len(self._steps.values_of(key))
        if count > MOST_CELLS:
            self.problems.append(f"{self._said(path)} depends on {count:,} cases; it is as usual.")
            return [{}]
        return list(self._steps.cells(keys))

    def _whens(self, steps: tuple[ScopedStep, ...]) -> list[Conditions]:
        whens = {s.when for s in steps}
        for s in steps:
            prop = self._steps.property_at(s.scope, s.value)
            if prop is not None and prop.kind == "switch":
                key = AxisKey(s.scope, prop.id)
                whens.add(s.when | {(key, self._steps.values_of(key)[1])})
                whens.add(frozenset({(key, self._steps.values_of(key)[1])}))
        return sorted(whens, key=self._rank)

    def _parts_of(
        self, path: Path, steps: tuple[ScopedStep, ...]
    ) -> Callable[[AxisValues], dict[str, Css]]:
        """What a node is in a case, worked out once for it and all its helpers."""
        cached: dict[object, dict[str, Css]] = {}

        def parts(cell: AxisValues) -> dict[str, Css]:
            key = frozenset(cell.items())
            if key not in cached:
                cached[key] = self._parts(path, cell, steps, self._evaluator.around(path, cell))
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
                cached[key] = inner._parts(remainder, own, steps, arrangement)
            return cached[key]

        return baseline

    def _inner_maker(self, component: Component) -> SheetMaker:
        evaluator = Evaluator(self._steps.other(component), self._evaluator.names)
        return SheetMaker(evaluator, self._families, lambda path, cell: (0.0, 0.0))

    # --- its CSS --------------------------------------------------------------------------------

    def _parts(
        self, path: Path, cell: AxisValues, steps: tuple[ScopedStep, ...], arrangement: Around
    ) -> dict[str, Css]:
        styled = self._evaluator.evaluated(path, cell, steps)
        node, paint = styled.node, styled.paint
        own = node_css(node, paint, arrangement, self._families, styled.click_through)
        if styled.cursor != "auto":
            own["cursor"] = styled.cursor
        if styled.order:
            own["order"] = f"{styled.order:g}"
        if is_replaced(node):
            own["object-fit"] = FITS[paint.fit]
        if not styled.shown:
            own["display"] = "none"
        own |= styled.variables
        parts = {"": own}
        if node.kind == "box" and self.edged(path):
            own.pop("box-shadow", None)
            shadows = node_css(node, _unstroked(styled), arrangement).get("box-shadow")
            own |= {"box-shadow": shadows} if shadows else {}
            parts["edge"] = edge_css(paint)
        if node.kind == "shape":
            parts["svg"] = shape_css(paint)
        strut = self._strut(path, cell, styled)
        if path in self.restated:
            parts["strut"] = {"display": "block"} | strut if strut else {"display": "none"}
        elif strut:
            parts["strut"] = strut
        elif self.strutted(path):
            # Where nothing has to be held open it takes no part, nor a gap.
            parts["strut"] = {"display": "none"}
        return parts

    def edged(self, path: Path) -> bool:
        """The same, for the template too: asked of the component whose node it is."""
        cached = self._edges.get(path)
        if cached is None:
            cached = self._edges[path] = self._any_edge(path)
        return cached

    def _any_edge(self, path: Path) -> bool:
        named = tuple(s for s in self._steps.of(path) if s.property.startswith("stroke-"))
        for cell in self._cells(path, self._steps.keys_of(named)) if named else ():
            paint = self._evaluator.evaluated(path, cell, named).paint
            if any(paint.strokes) and not even(paint):
                return True
        return False

    def strutted(self, path: Path) -> bool:
        """Whether an element holds a node open in any case."""
        cached = self._struts.get(path)
        if cached is None:
            cached = self._struts[path] = self._any_strut(path)
        return cached

    def _any_strut(self, path: Path) -> bool:
        if path and self._steps.component_at(path) is not None:
            return False
        if (self._steps.owner.id, path) in self.adapts.held_open:
            return True
        if self._evaluator.kind_at(path) not in ("shape", "image", "box"):
            return False
        steps = tuple(s for s in self._steps.of(path) if s.property in _STRUTTED)
        for cell in self._cells(path, self._steps.keys_of(steps)):
            styled = self._evaluator.evaluated(path, cell, self._steps.of(path))
            if self._strut(path, cell, styled):
                return True
        return False

    def _strut(self, path: Path, cell: AxisValues, styled: Evaluated) -> Css:
        style, kind = styled.node.style, styled.node.kind
        if kind in ("shape", "image") and not is_replaced(styled.node):
            css = strut_css(style, GLYPH_BOX, GLYPH_BOX)
        elif kind == "box" and style.flow == "free":
            wide, high = self._measured(path, cell)
            # Words are rounded up, each run by itself, and a browser counts in 64ths of a px.
            css = strut_css(style, wide + 1 / 32, high)
        else:
            return {}
        return css if set(css.values()) != {"0px"} else {}

    # --- selectors --------------------------------------------------------------------------------

    def _rank(self, when: Conditions) -> tuple[object, ...]:
        axes = [axis.id for axis in getattr(self._steps.owner, "axes", ())]
        own = tuple(
            sorted(
                axes.index(key.id) if not key.instance and key.id in axes else len(axes)
                for key, _ in when
            )
        )
        return len(when), own, tuple(sorted(when))

    def _selector(self, path: Path, extra: str, when: Conditions) -> str:
        ordered = sorted(when)
        own = [(key, value) for key, value in ordered if not key.instance]
        inner = [(key, value) for key, value in ordered if key.instance]
        if any(k[0] != path[: len(k[0])] or len(k[0]) > 1 for k, _ in inner):
            self.problems.append(f"{self._said(path)} depends on what cannot be selected.")
        root = self._selectors.root
        if own:
            root = self._selectors.conditional("".join(self._state(k, v) for k, v in own))
        if not path:
            lead = root if own else ""
            return f"{lead}{_HELPER_OF_ROOT[extra]}".strip() if extra else root
        states = "".join(self._state(k, v) for k, v in inner)
        name = self._names.nodes[path[0]]
        lead = f"{root} " if own or inner else ""
        if len(path) > 1:
            part = part_name(self._evaluator, path)
            inside = self._steps.node_at(path)
            if extra and inside is not None and inside.kind == "instance":
                part += "-root"
            return f"{lead}#{name}{states}::part({part}{_HELPERS.get(extra, '')})"
        node = self._steps.node_at(path)
        if extra and node is not None and node.kind == "instance":
            return f"{lead}#{name}{states}::part(root{_HELPERS[extra]})"
        return f"{lead}#{name}{_HELPERS.get(extra, '')}{states}"

    def _state(self, key: AxisKey, value: str) -> str:
        component = self._steps.component_at(key.instance)
        assert component is not None
        names = self._evaluator.names.owners[component.id]
        if key.id in names.axes:
            return names.axes[key.id].state(value)
        prop = names.properties[key.id]
        state = f":state({prop.attribute})"
        return state if (value == "yes") == prop.yes else f":not({state})"

    def _said(self, path: Path) -> str:
        node = self._steps.node_at(path)
        return f"“{node.name if node is not None else path[-1]}” of “{self._steps.owner.name}”"


_STRUTTED = rows_of("size") | {"flow", "picture"}
_HELPER_OF_ROOT = {"edge": " #root-edge", "strut": " #root-strut", "svg": " #root-form"}


def part_name(evaluator: Evaluator, path: Path) -> str:
    """What a node inside an instance is called as a part: by the names on the way."""
    names = []
    for n in range(1, len(path)):
        owner = evaluator.steps.owner_at(path[:n])
        if owner is None:
            continue
        names.append(evaluator.names.owners[owner.id].nodes[path[n]])
    return "-".join(names)


def _only(parts: Callable[[AxisValues], dict[str, Css]], extra: str) -> Callable[[AxisValues], Css]:
    return lambda cell: parts(cell).get(extra, {})


def _unstroked(styled: Evaluated) -> PaintStyle:
    none = {f"stroke_{side}": 0.0 for side in SIDES}
    return msgspec.structs.replace(styled.paint, **none)


# Properties that CSS says together: who changes one has to know the others.
_GROUPS = (
    _PLACED,
    frozenset({"shadow", "stroke", "stroke-place", *FAMILY_MEMBERS["stroke-width"]}),
    frozenset(FAMILY_MEMBERS["radius"]),
    frozenset({"translate-x", "translate-y"}),
    frozenset({"origin-x", "origin-y"}),
    frozenset({"clip", "scrolls"}),
    frozenset({"flow", "gap", "cross-gap", "wrap", "reversed"}),
    frozenset({"form", "arc-start", "arc-sweep", "thickness", "fill", "stroke", "line-width"}),
    frozenset({"fill"}),
)


def _together(own: set[str]) -> set[str]:
    return {name for group in _GROUPS if own & group for name in group}


def _gathered(rules: list[CssRule]) -> list[CssRule]:
    """Rules of one selector as one, and equal ones of neighbours with both selectors."""
    by_selector: dict[str, Css] = {}
    for rule in rules:
        by_selector[rule.selector] = by_selector.get(rule.selector, {}) | rule.css
    merged: list[CssRule] = []
    for selector, css in by_selector.items():
        if merged and merged[-1].css == css:
            merged[-1] = CssRule(f"{merged[-1].selector},\n{selector}", css)
        else:
            merged.append(CssRule(selector, css))
    return merged


def sheet_text(rules: list[CssRule], indent: str = "") -> str:
    """The rules as a style sheet."""
    lines = []
    for rule in rules:
        lines.append(f"{rule.selector} {{")
        lines += [f"  {name}: {value};" for name, value in rule.css.items()]
        lines.append("}")
    return "\n".join(indent + line if line else line for line in lines)
