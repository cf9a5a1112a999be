"""Working out the component: axes from the names, rules from the differences, and the proof
that every drawing comes out again exactly."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from itertools import product
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.axis_parts import resting_value
from outgrowth.core.document.everyday_words import driven_by, plainly, usual_axis_name
from outgrowth.core.document.properties import TABLE, row_of, rows_of
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Driver,
    Node,
    Path,
    Rule,
    Screen,
)
from outgrowth.core.document.rooms import circle_in, grows_within
from outgrowth.core.document.values import Value
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits.gather.fewest import Combination, Found, fewest_rules
from outgrowth.core.edits.gather.merge import MergedNode, merge
from outgrowth.core.edits.gather.rooms import in_any_room, reads_as_rooms, with_leasts
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode

PLACE = rows_of("placement")
"""What a drawing says about its place among its neighbours: kept by its instance."""


class GatheredDrawing(NamedTuple):
    """One drawn part: its path name, its tree, and where it stands. `owner` is the screen
    (or component) that holds it; for a component that is itself a drawing, its own id."""

    name: str
    root: Node
    owner: str = ""


class Report(NamedTuple):
    """What gathering found. `component` is None where conflicts have to be mended first.

    places       the variant that each drawing became, in the drawings' order
    differences  what would not come out again, in words; must be empty to apply
    missing      combinations that nobody drew: not offered
    conflicts    sentences that name the drawings that stand against each other
    not_by_room  why an axis is not set by the room, where that was asked for; a sentence
    letters_grow_anew  whether letters that grew with what the drawings stand in grow with the
                 part itself from now on, and so may be of another size
    """

    drawings: tuple[GatheredDrawing, ...]
    component: Component | None
    places: tuple[Variant, ...] = ()
    differences: tuple[str, ...] = ()
    missing: tuple[Variant, ...] = ()
    conflicts: tuple[str, ...] = ()
    not_by_room: str = ""
    letters_grow_anew: bool = False


Watch = Callable[[float], None]
"""Told which share of the work is done, from 0 to 1; what it raises ends the work."""


def gather(
    document: Document,
    drawings: Sequence[GatheredDrawing],
    component_id: str,
    axis_names: Sequence[str] = (),
    drivers: Sequence[Driver | None] = (),
    watch: Watch = lambda share: None,
) -> Report:
    """Gathers drawings into one component; nothing is changed by it.

    axis_names  names for the axes, in the order of the path's segments; guessed if missing
    drivers     what sets each axis, likewise; None (or missing) is guessed
    """
    names = [tuple(part.strip() for part in d.name.split("/")) for d in drawings]
    conflicts = tuple(_conflicts(names))
    if conflicts or not drawings:
        return Report(tuple(drawings), None, conflicts=conflicts or ("Nothing was picked.",))
    shared = _shared_segments(names)
    varying = [name[shared:] for name in names]
    axes = _started(_axes(varying, axis_names, drivers), varying)
    by_room, refused = _set_by_room(axes, varying, drawings, drivers)
    bare = [_without_place(document, drawing) for drawing in drawings]
    if by_room is not None:
        bare = [drawing._replace(root=in_any_room(drawing.root)) for drawing in bare]
    axes = by_room or axes
    places = [_place(axes, name) for name in varying]
    trees = {place: d.root for place, d in zip(places, bare, strict=True)}
    component = _component(component_id, "/".join(names[0][:shared]), axes, trees, watch)
    circle = circle_in(component)
    if circle and by_room is None:
        return Report(tuple(drawings), None, conflicts=(circle,))
    if circle:
        chosen = [axis.driver if axis.driver != "room" else "none" for axis in axes]
        again = gather(document, drawings, component_id, axis_names, chosen, watch)
        return again._replace(not_by_room=circle)
    variants = {place: _variant(axes, place) for place in trees}
    return Report(
        tuple(drawings),
        component,
        tuple(variants[place] for place in places),
        tuple(_differences(document, component, bare, [variants[p] for p in places], watch)),
        component.not_offered,
        not_by_room=refused,
        letters_grow_anew=any(grows_within(d.root) for d in drawings if not is_whole(document, d)),
    )


def _set_by_room(
    axes: tuple[Axis, ...],
    varying: Sequence[tuple[str, ...]],
    drawings: Sequence[GatheredDrawing],
    drivers: Sequence[Driver | None],
) -> tuple[tuple[Axis, ...] | None, str]:
    """The axes, one of them set by the room, if that was asked for or is told by its words; and why
    it is not, where it was asked for."""
    for n, axis in enumerate(axes):
        asked = drivers[n] if n < len(drivers) else None
        plain = axis.driver == "none" and axis.meaning == "none"
        is_told = asked is None and plain and reads_as_rooms([v.name for v in axis.values])
        if asked != "room" and not is_told:
            continue
        drawn = [(name[n], d.root) for name, d in zip(varying, drawings, strict=True)]
        try:
            given = with_leasts(axis, drawn)
        except Refusal as problem:
            return None, str(problem) if asked == "room" else ""
        if given.name == f"Axis {n + 1}":  # as it is called where nothing tells
            given = msgspec.structs.replace(given, name="Room")
        return (*axes[:n], given, *axes[n + 1 :]), ""
    return None, ""


def is_whole(document: Document, drawing: GatheredDrawing) -> bool:
    """Whether a drawing is a component as a whole, not a part of something."""
    component = document.components.get(drawing.owner)
    return component is not None and component.root is drawing.root


def _without_place(document: Document, drawing: GatheredDrawing) -> GatheredDrawing:
    """The drawing without what it says of its place among its neighbours: that stays with the
    instance, or each state would stand elsewhere."""
    if is_whole(document, drawing):
        return drawing
    style = Map({k: v for k, v in drawing.root.style.items() if k not in PLACE})
    return drawing._replace(root=msgspec.structs.replace(drawing.root, style=style))


def _conflicts(names: Sequence[tuple[str, ...]]) -> Iterator[str]:
    for name, times in Counter(names).items():
        if times > 1:
            yield f"{times} drawings are called “{'/'.join(name)}”; rename all but one."
    lengths = Counter(len(name) for name in names)
    if len(lengths) > 1:
        usual = lengths.most_common(1)[0][0]
        odd = next(name for name in names if len(name) != usual)
        yield f"“{'/'.join(odd)}” has {len(odd)} parts in its name, the others have {usual}."
    elif any(len(name) < 2 for name in names):
        yield "A drawing's name needs a path, like Button/Primary/Large."


def _shared_segments(names: Sequence[tuple[str, ...]]) -> int:
    """How many leading segments all names have in common; one is always left to vary."""
    count = 0
    while count < len(names[0]) - 1 and len({name[count] for name in names}) == 1:
        count += 1
    return max(count, 1)


def _axes(
    varying: Sequence[tuple[str, ...]], names: Sequence[str], drivers: Sequence[Driver | None]
) -> tuple[Axis, ...]:
    axes: list[Axis] = []
    for n in range(len(varying[0])):
        words = list(dict.fromkeys(name[n] for name in varying))
        values = tuple(AxisValue(value_id, word) for value_id, word in _with_ids(words))
        name = names[n] if n < len(names) and names[n] else usual_axis_name(words, n + 1)
        axis = plainly(Axis(f"axis-{n + 1}", name, values, values[0].id))
        driver = drivers[n] if n < len(drivers) else None
        driver = "none" if driver == "room" else driver  # its widths say where its values begin
        if driver is None and any(axis.driver == a.driver != "none" for a in axes):
            driver = "none"
        axes.append(axis if driver is None else driven_by(axis, driver))
    return tuple(axes)


def _started(axes: tuple[Axis, ...], varying: Sequence[tuple[str, ...]]) -> tuple[Axis, ...]:
    """The axes, starting with the first drawing that is at rest."""

    def is_at_rest(name: tuple[str, ...]) -> bool:
        pairs = zip(axes, name, strict=True)
        return all(
            _value_called(a, word).id == resting_value(a)
            for a, word in pairs
            if a.driver == "pointer"
        )

    first = next((name for name in varying if is_at_rest(name)), varying[0])
    return tuple(
        msgspec.structs.replace(axis, default=_value_called(axis, word).id)
        for axis, word in zip(axes, first, strict=True)
    )


def _value_called(axis: Axis, word: str) -> AxisValue:
    return next(value for value in axis.values if value.name == word)


def _with_ids(words: Sequence[str]) -> Iterator[tuple[str, str]]:
    """Words and an id of each: two that differ in capitals only have two ids."""
    used: set[str] = set()
    for word in words:
        stem = _id(word)
        free = next(i for i in (stem, *(f"{stem}-{n}" for n in range(2, 9999))) if i not in used)
        used.add(free)
        yield free, word


def _id(word: str) -> str:
    return "-".join(word.lower().split()) or "value"


def _place(axes: tuple[Axis, ...], name: tuple[str, ...]) -> Combination:
    return tuple(
        axis.values.index(_value_called(axis, word)) for axis, word in zip(axes, name, strict=True)
    )


def _variant(axes: tuple[Axis, ...], place: Combination) -> Variant:
    return Map({axis.id: axis.values[n].id for axis, n in zip(axes, place, strict=True)})


# --- rules from differences -----------------------------------------------------------------


def _component(
    component_id: str,
    name: str,
    axes: tuple[Axis, ...],
    trees: dict[Combination, Node],
    watch: Watch,
) -> Component:
    merged = merge(trees)
    writer = _RuleWriter(axes, _work(merged), watch)
    root = writer.node(merged, tuple(trees))
    everything = product(*(range(len(axis.values)) for axis in axes))
    missing = tuple(_variant(axes, place) for place in everything if place not in trees)
    return Component(component_id, name, root, axes, tuple(writer.rules), not_offered=missing)


def _work(merged: MergedNode) -> int:
    """How many properties the drawings speak of."""
    return len(_stated(merged)) + sum(_work(child) for child in merged.children)


# The share of the work that the proof takes, roughly.
_PROOF = 0.2


class _RuleWriter:
    """Turns merged nodes into a tree of base values and a list of rules."""

    def __init__(self, axes: tuple[Axis, ...], work: int, watch: Watch) -> None:
        self._work = max(work, 1)
        self._finished_count = 0
        self._watch = watch
        self._axes = axes
        self._sizes = tuple(len(axis.values) for axis in axes)
        self._solved: dict[tuple[tuple[Combination, int], ...], Found] = {}
        self.rules: list[Rule] = []

    def node(self, merged: MergedNode, combinations: tuple[Combination, ...]) -> Node:
        """The node with what most drawings agree on; `combinations` are those that draw
        its parent."""
        style: dict[str, Value] = {}
        overrides = []
        for path, name in _stated(merged):
            self._watch((1 - _PROOF) * self._finished_count / self._work)
            self._finished_count += 1
            values = {c: _value(node, path, name) for c, node in merged.drawn.items()}
            base = self._ruled((merged.id, *path), name, values)
            if path:
                overrides.append(Rule(Map(), path, name, base))
            elif base != row_of(name).default:
                style[name] = base
        if len(merged.drawn) < len(combinations):
            visible = {c: c in merged.drawn and _is_shown(merged.drawn[c]) for c in combinations}
            base = self._ruled((merged.id,), "shown", dict(visible))
            style = {k: v for k, v in style.items() if k != "shown"}
            if base is False:
                style["shown"] = False
        children = tuple(self.node(child, tuple(merged.drawn)) for child in merged.children)
        return Node(merged.id, merged.name, merged.kind, Map(style), children, tuple(overrides))

    def _ruled(self, path: Path, name: str, values: dict[Combination, Value]) -> Value:
        """Writes the rules of one property; its base value."""
        distinct = list(dict.fromkeys(values.values()))
        table = tuple(sorted((c, distinct.index(v)) for c, v in values.items()))
        cached = self._solved.get(table)
        if cached is None:
            cached = self._solved[table] = fewest_rules(self._sizes, dict(table))
        for when, value in cached.rules:
            conditions = {self._axes[a].id: self._axes[a].values[v].id for a, v in when}
            self.rules.append(Rule(Map(conditions), path, name, distinct[value]))
        return distinct[cached.base]


def _stated(merged: MergedNode) -> list[tuple[Path, str]]:
    """Every property that any of the drawings sets on the node, or inside its instance."""
    paths: set[tuple[Path, str]] = set()
    for node in merged.drawn.values():
        paths |= {((), name) for name in node.style}
        paths |= {(rule.node, rule.property) for rule in node.overrides if not rule.when}
    order = {name: n for n, name in enumerate(TABLE)}
    return sorted(paths, key=lambda value: (value[0], order.get(value[1], len(order)), value[1]))


def _value(node: Node, path: Path, name: str) -> Value:
    if not path:
        return node.style.get(name, row_of(name).default)
    for rule in node.overrides:
        if (rule.node, rule.property) == (path, name) and not rule.when:
            return rule.value
    return row_of(name).default


def _is_shown(node: Node) -> bool:
    return node.style.get("shown", True) is not False


# --- the proof ------------------------------------------------------------------------------


def _differences(
    document: Document,
    component: Component,
    drawings: Sequence[GatheredDrawing],
    variants: Sequence[Variant],
    watch: Watch,
) -> Iterator[str]:
    """Resolves every variant and every drawing, and compares them property by property."""
    resolver = Resolver()
    trial = _with(document, component)
    for n, (drawing, variant) in enumerate(zip(drawings, variants, strict=True)):
        watch(1 - _PROOF + _PROOF * n / len(drawings))
        drawn = resolver.screen(trial, Screen("(drawing)", drawing.name, drawing.root))
        resolved = resolver.variant(trial, component.id, variant)
        # What letters that grow ask of their room is no part of the look.
        resolved = resolved.rooms[0] if resolved.rooms else resolved
        yield from _compared(drawing.name, drawn, resolved)


def _with(document: Document, component: Component) -> Document:
    components = document.components.set(component.id, component)
    order = tuple(dict.fromkeys((*document.component_order, component.id)))
    return msgspec.structs.replace(document, components=components, component_order=order)


def _compared(place_name: str, drawn: SceneNode, scene: SceneNode) -> Iterator[str]:
    for half in ("layout", "paint"):
        a, b = getattr(drawn, half), getattr(scene, half)
        a, b = (a.style, b.style) if half == "layout" else (a, b)
        if a is not b:
            for field in a.__struct_fields__:
                if getattr(a, field) != getattr(b, field):
                    yield f"{place_name}: {field.replace('_', '-')} differs"
    if drawn.kind != scene.kind:
        yield f"{place_name}: kind differs"
    for name in ("click_through", "order"):
        if getattr(drawn, name) != getattr(scene, name):
            yield f"{place_name}: {name.replace('_', '-')} differs"
    for name, drawn_value, other in zip(
        drawn.interaction._fields, drawn.interaction, scene.interaction, strict=True
    ):
        if drawn_value != other:
            yield f"{place_name}: {name.replace('_', '-')} differs"
    if drawn.names != scene.names:
        yield f"{place_name}: it holds {', '.join(drawn.names)}, not {', '.join(scene.names)}"
        return
    for name, a_child, b_child in zip(drawn.names, drawn.children, scene.children, strict=True):
        yield from _compared(f"{place_name} › {name}", a_child, b_child)
