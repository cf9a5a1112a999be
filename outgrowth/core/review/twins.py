"""Drawn parts that look like a component's instance, and components that are nearly the same.

A drawn part is matched with a component part by part, by kind and place, as gathering matches
drawings; of the component's variants that one counts which leaves the fewest differences, and
these become overrides of the instance. It is offered only where the engine draws the same.
"""

from __future__ import annotations

import heapq
from collections.abc import Iterator, Mapping
from functools import partial
from itertools import combinations
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.properties import CHOICE, TABLE, rows_of
from outgrowth.core.document.records import (
    Component,
    Document,
    Node,
    Owner,
    Path,
    Rule,
    Screen,
    find,
    walk,
)
from outgrowth.core.document.values import FromProperty, Literals, Value, is_content, plain
from outgrowth.core.document.variants import Variant, default_variant
from outgrowth.core.edits.tree.trees import with_node, with_owner
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.styles import LayoutStyle, PaintRows
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.views import ReviewContext

_PLACE = rows_of("placement")
_LEAST = 6
"""How many values a component says at least before a part can look like it."""
_SHARE = 4
"""A part looks like a component where at most one in so many of its values differs."""
_FEW = 3
_ITS_OWN = ("path", "picture", "form")
"""What makes a mark another mark, whatever else is the same."""
_MOST_PARTS = 60
_NEAREST = 3

_Shape = tuple[object, ...]
_Positions = tuple[int, ...]
_Said = tuple[_Positions, str, Literals]


class StyleDifference(NamedTuple):
    """What a drawn part says otherwise than a component: at which of its parts, which property,
    and the value as it is drawn."""

    path: Path
    property: str
    value: Literals


class _Model(NamedTuple):
    """A component as it is drawn in one variant; `value_count` counts the values that it gives."""

    component: Component
    variant: Variant
    scene: SceneNode
    value_count: int


Models = Mapping[_Shape, list[_Model]]
"""Variants of components by the shapes of their scenes."""


def _shape(scene: SceneNode) -> _Shape:
    return (scene.kind, *[shape_of(child) for child in scene.children])


shape_of = ByIdentity(_shape, 8192)
"""The kinds of a scene's parts, as they are nested."""


def models(context: ReviewContext) -> Models:
    """All components that a drawn part could look like, by their shapes."""
    results: dict[_Shape, list[_Model]] = {}
    for component in context.document.in_order():
        if component.root.kind != "box" or not component.root.children:
            continue
        for view in context.views(component):
            count = len(said_of(view.scene))
            if view.variant is not None and count >= _LEAST and len(view.parts) <= _MOST_PARTS:
                model = _Model(component, view.variant, view.scene, count)
                results.setdefault(shape_of(view.scene), []).append(model)
    return results


def _style_said(style: LayoutStyle | PaintRows) -> frozenset[tuple[str, Literals]]:
    """What of a resolved style is not what nobody said, by the names of the properties."""
    statements = (
        (field.replace("_", "-"), getattr(style, field)) for field in style.__struct_fields__
    )
    return frozenset(
        (name, value)
        for name, value in statements
        if name in TABLE and value != TABLE[name].default
    )


_style_of = ByIdentity(_style_said, 8192)


def _all_said(scene: SceneNode) -> frozenset[_Said]:
    own = _style_of(scene.layout.style) | _style_of(scene.paint)
    statements: set[_Said] = {((), name, value) for name, value in own}
    for number, child in enumerate(scene.children):
        statements |= {((number, *place), name, value) for place, name, value in said_of(child)}
    return frozenset(statements)


said_of = ByIdentity(_all_said, 8192)
"""All that a scene says otherwise than nobody would: at which of its parts (which child of which),
which property, and the value."""


def _ids(scene: SceneNode) -> dict[_Positions, Path]:
    """The paths of a component's own parts by where they stand in its scene."""
    paths: dict[_Positions, Path] = {(): ()}
    waiting: list[tuple[SceneNode, _Positions, Path]] = [(scene, (), ())]
    for node, place, inside in waiting:
        for number, (child_id, child) in enumerate(zip(node.ids, node.children, strict=True)):
            path = (*inside, child_id)
            paths[(*place, number)] = path
            waiting.append((child, (*place, number), path if child.component else inside))
    return paths


_paths_of = ByIdentity(_ids, 2048)


def twin_findings(
    context: ReviewContext, owner: Owner, by_shape: Models
) -> Iterator[Finding | None]:
    """Drawn parts of an owner that look like another component's instance."""
    for view in context.views(owner):
        scenes = {part.path[0]: part.scene for part in view.parts if len(part.path) == 1}
        covered: set[str] = set()
        for node in walk(owner.root):
            scene = scenes.get(node.id)
            if node is owner.root or node.kind != "box" or scene is None or node.id in covered:
                continue
            yield None
            best = _best(owner, node, scene, by_shape.get(shape_of(scene), []))
            if best is None:
                continue
            model, differences = best
            after = _as_instance(owner, node, model, differences)
            if after is None or not _draws_alike(context, after, scene):
                continue
            covered |= {inner.id for inner in walk(node)}
            yield _finding(owner, node, model, differences)
        return  # the tree is that of all variants


def _finding(
    owner: Owner, node: Node, model: _Model, differences: list[StyleDifference]
) -> Finding:
    count = len([d for d in differences if d.property not in _PLACE])
    name = model.component.short_name
    phrase = "the same" if not count else f"{count} value{'s' * (count != 1)} of its own"
    text = f"{node.name} is drawn, and looks like an instance of “{name}”, with {phrase}."
    mend = Mend(
        f"make it an instance of “{name}”",
        partial(_made_one, owner.id, node.id, model, tuple(differences)),
    )
    return finding("drawn-like-instance", owner.id, (node.id,), text, mend, model.component.id)


def _best(
    owner: Owner, node: Node, scene: SceneNode, candidates: list[_Model]
) -> tuple[_Model, list[StyleDifference]] | None:
    best: tuple[_Model, list[StyleDifference]] | None = None
    drawn = said_of(scene)
    foreign = [model for model in candidates if model.component.id != owner.id]
    # A difference is in one of the two or in both: the nearest few have the fewest.
    nearest = heapq.nsmallest(_NEAREST, foreign, key=lambda m: len(drawn ^ said_of(m.scene)))
    for model in nearest:
        differences = _differences(scene, model.scene)
        weight = [d for d in differences if d.property not in ("content", *_PLACE)]
        if any(d.property in _ITS_OWN for d in weight) or len(weight) * _SHARE > model.value_count:
            continue
        if best is None or len(differences) < len(best[1]):
            best = model, differences
    return best


def _differences(drawn: SceneNode, scene: SceneNode) -> list[StyleDifference]:
    """What of a drawn part is said otherwise than in a component's scene of the same shape."""
    ours, theirs = said_of(drawn), said_of(scene)
    if ours == theirs:
        return []
    places = {(place, name) for place, name, _ in ours ^ theirs}
    values = {(place, name): value for place, name, value in ours}
    paths = _paths_of(scene)
    return [
        StyleDifference(paths[place], name, values.get((place, name), TABLE[name].default))
        for place, name in sorted(places)
    ]


def _made_one(
    owner_id: str,
    node_id: str,
    model: _Model,
    differences: tuple[StyleDifference, ...],
    document: Document,
) -> Document:
    owner = document.owner(owner_id)
    node = find(owner.root, node_id) if owner is not None else None
    if owner is None or node is None:
        return document
    after = _as_instance(owner, node, model, list(differences))
    if after is None:
        return document
    return with_owner(document, with_node(owner, node_id, lambda _: after))


def _as_instance(
    owner: Owner, node: Node, model: _Model, differences: list[StyleDifference]
) -> Node | None:
    """The instance that takes the place of a drawn part; None where something is said
    about the inside of the part, which would be lost."""
    inner = {inside.id for inside in walk(node)} - {node.id}
    if _speaks_of(owner, inner) or any(inside.kind == "instance" for inside in walk(node)):
        return None
    component = model.component
    usual = default_variant(component)
    style: dict[str, Value] = {"component": component.id}
    style |= {CHOICE + a: v for a, v in model.variant.items() if usual.get(a) != v}
    # Where it stands, and what of its size was said, is its own.
    style |= {name: value for name, value in node.style.items() if name in _PLACE}
    rules: list[Rule] = []
    for path, name, value in differences:
        if name in _PLACE and not path:
            continue
        prop = _property_of(component, path, name)
        if prop is not None and is_content(value):
            style[CHOICE + prop] = plain(value)
        elif not path:
            style[name] = value
        else:
            rules.append(Rule(Map(), path, name, value))
    return Node(node.id, node.name, "instance", Map(style), overrides=tuple(rules))


def _property_of(component: Component, path: Path, name: str) -> str | None:
    """The property of a component that gives a value of one of its parts; None for none."""
    node = find(component.root, path[-1]) if len(path) == 1 else None
    value = node.style.get(name) if node is not None else None
    return value.property if isinstance(value, FromProperty) else None


def _speaks_of(owner: Owner, ids: set[str]) -> bool:
    behaviour = owner.behaviour
    paths: list[Path] = [cue.node for cue in behaviour.cues]
    paths += [change.at for cue in behaviour.cues for change in cue.changes]
    paths += [condition.at for cue in behaviour.cues for condition in cue.conditions]
    paths += [motion.node for motion in behaviour.motions]
    if isinstance(owner, Component):
        paths += [rule.node for rule in owner.rules]
    return any(path and path[0] in ids for path in paths)


def _draws_alike(context: ReviewContext, instance: Node, scene: SceneNode) -> bool:
    """Whether an instance is drawn as the part is that it would replace: the proof, as gathering
    gives one."""
    holder = Node("(proof)", "", "box", children=(instance,))
    result = context.renderer.resolver.screen(context.document, Screen("(proof)", "", holder))
    return (
        result is not None
        and len(result.children) == 1
        and _same_drawing(scene, result.children[0])
    )


def _same_drawing(drawn_part: SceneNode, twin_part: SceneNode) -> bool:
    if drawn_part is twin_part:
        return True
    styles = (
        drawn_part.layout.style == twin_part.layout.style and drawn_part.paint == twin_part.paint
    )
    if (
        not styles
        or drawn_part.kind != twin_part.kind
        or len(drawn_part.children) != len(twin_part.children)
    ):
        return False
    return all(
        _same_drawing(a, b) for a, b in zip(drawn_part.children, twin_part.children, strict=True)
    )


def near_equal_findings(context: ReviewContext) -> Iterator[Finding]:
    """Components of one shape that differ in a few values only, and vary alike."""
    by_shape: dict[_Shape, list[tuple[Component, SceneNode]]] = {}
    for component in context.document.in_order():
        view = next(context.views(component), None)
        if view is not None and len(said_of(view.scene)) >= _LEAST:
            by_shape.setdefault(shape_of(view.scene), []).append((component, view.scene))
    for group in by_shape.values():
        for (first, scene), (second, twin) in combinations(group, 2):
            if len(first.axes) != len(second.axes):
                continue
            differences = _differences(scene, twin)
            names = {d.property for d in differences}
            if len(differences) > _FEW or names & {"content", *_ITS_OWN}:
                continue
            text = (
                f"“{second.name}” and “{first.name}” differ in {len(differences) or 'no'} values "
                "of how they are drawn: one component with an axis would do for both."
            )
            yield finding("components-near-equal", second.id, (), text, about=first.id)
