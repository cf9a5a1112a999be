"""What differs between two pictures of one running thing: numbers and colours of the nodes that
are in both, and the nodes that come, go, or show other words or another picture.

Nodes are matched by id along the tree. What is the same object on both sides is passed by.
"""

from __future__ import annotations

from operator import ne
from typing import NamedTuple

from outgrowth.core.document.cues import Path
from outgrowth.core.document.properties import TABLE, StyleProperty
from outgrowth.core.memo import differing, flagged
from outgrowth.core.motion.forms import same_letters
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.scene import SceneNode

_PAINT = tuple(row for row in TABLE.values() if row.affects == "paint")


class Differing(NamedTuple):
    """A value of a node that differs. `row` is None for x, y, width, height and the lines of a
    text, which layout gives. `alone`: no other node's place or size depends on it."""

    path: Path
    name: str
    row: StyleProperty | None
    before: object
    after: object
    alone: bool


class Changed(NamedTuple):
    """A node that comes, goes or is exchanged: its path, that of the node that holds it, and
    its corner there (of one that goes: where it was). `after_id` is the id of the sibling that
    it was drawn after, "" for the first. What comes is the same on both sides, and what goes."""

    path: Path
    holder: Path
    origin: tuple[float, float]
    after_id: str
    before: View
    after: View


class ViewDifferences(NamedTuple):
    """All of it, in the order of the tree."""

    values: list[Differing]
    comes: list[Changed]
    goes: list[Changed]
    exchanged: list[Changed]


def differences(before: View, after: View) -> ViewDifferences:
    """What differs between two pictures of the same owner."""
    return differences_at((), (), before, after)


def differences_at(path: Path, instance: Path, before: View, after: View) -> ViewDifferences:
    """The same for two pictures of one node, itself in `instance`'s tree."""
    result = ViewDifferences([], [], [], [])
    _node(result, path, instance, before, after)
    return result


def is_other(before: View, after: View) -> bool:
    """Whether two texts, two pictures or two kinds of node have to fade into each other."""
    kind = after.scene.kind
    if before.scene.kind != kind:
        return True
    if kind == "image":
        return before.scene.layout.style.picture != after.scene.layout.style.picture
    text, other = before.placed.text, after.placed.text
    if kind != "text" or text is other or text is None or other is None:
        return False
    return not same_letters(text, other)


def _node(result: ViewDifferences, path: Path, instance: Path, before: View, after: View) -> None:
    # Scenes and layouts are shared, so the same object is the same picture: all beneath is passed
    # by.
    if before.scene is after.scene and before.placed is after.placed:
        return
    _own(result, path, before, after)
    inside = path if after.scene.component else instance
    # Nearly always the same children: then only the places that hold other objects are looked at.
    if before.scene.ids == after.scene.ids:
        for n in _places_that_differ(before, after):
            _child(result, path, inside, (before, n), (after, n))
        return
    old_indexes = {node_id: n for n, node_id in enumerate(before.scene.ids)}
    for n, node_id in enumerate(after.scene.ids):
        old_index = old_indexes.pop(node_id, None)
        if old_index is None:
            result.comes.append(_changed(path, inside, after, n))
        else:
            _child(result, path, inside, (before, old_index), (after, n))
    # What was not met again has gone.
    for n in old_indexes.values():
        result.goes.append(_changed(path, inside, before, n))


def _changed(holder: Path, inside: Path, view: View, n: int) -> Changed:
    origin, child = (view.placed.xs[n], view.placed.ys[n]), _view(view, n)
    after_id = view.scene.ids[n - 1] if n else ""
    return Changed((*inside, view.scene.ids[n]), holder, origin, after_id, child, child)


def _places_that_differ(before: View, after: View) -> list[int]:
    """Which of the children, the same on both sides by id, are not quite the same."""
    old, new = before.placed, after.placed
    places = set(differing(before.scene.children, after.scene.children))
    if old is not new:
        places.update(differing(old.children, new.children))
        if old.xs is not new.xs:
            places.update(flagged(map(ne, old.xs, new.xs)))
        if old.ys is not new.ys:
            places.update(flagged(map(ne, old.ys, new.ys)))
    return sorted(places)


def _view(holder: View, n: int) -> View:
    return View(holder.scene.children[n], holder.placed.children[n])


def _child(
    result: ViewDifferences,
    holder: Path,
    inside: Path,
    old: tuple[View, int],
    new: tuple[View, int],
) -> None:
    (before, m), (after, n) = old, new
    path = (*inside, after.scene.ids[n])
    was, now = _view(before, m), _view(after, n)
    # What floats takes no room, so no neighbour's place hangs on its own.
    alone = _floats(was.scene) and _floats(now.scene)
    x, y = before.placed.xs[m], before.placed.ys[m]
    if x != after.placed.xs[n]:
        result.values.append(Differing(path, "x", None, x, after.placed.xs[n], alone))
    if y != after.placed.ys[n]:
        result.values.append(Differing(path, "y", None, y, after.placed.ys[n], alone))
    # Words that differ cannot be mixed: they cross over, each at its own place.
    if is_other(was, now):
        _own(result, path, was, now)
        result.exchanged.append(_changed(holder, inside, after, n)._replace(before=was))
    else:
        if was.placed.text is not now.placed.text and was.placed.text != now.placed.text:
            lines = was.placed.text, now.placed.text
            result.values.append(Differing(path, "lines", None, *lines, True))
        _node(result, path, inside, was, now)


def _own(result: ViewDifferences, path: Path, before: View, after: View) -> None:
    """The node's own size and paint."""
    old, new = before.placed, after.placed
    scene, following = after.scene, before.scene
    if old.width != new.width or old.height != new.height:
        alone = (
            _floats(scene) and _floats(following) and not scene.children and not following.children
        )
        for name, a, b in (("width", old.width, new.width), ("height", old.height, new.height)):
            if a != b:
                result.values.append(Differing(path, name, None, a, b, alone))
    if following.paint is scene.paint:
        return
    for row in _PAINT:
        a, b = getattr(following.paint, row.field), getattr(scene.paint, row.field)
        # Identity first: most values are shared.
        if a is not b and a != b:
            result.values.append(Differing(path, row.name, row, a, b, True))


def _floats(scene: SceneNode) -> bool:
    return scene.layout.style.floating
