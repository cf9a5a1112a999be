"""The movement of a picture: from what is on the screen to the layout it should have.

Nodes are matched by id along the tree. Each number and colour that has to change gets a field
with a motion of its own beginning; when the target changes again on the way, only the fields
that now have another target begin anew, from where they are. A frame is again a scene with
placements, so the painter, the hit test and the next change treat it like any other picture.
What is the same object on both sides is used as it is and costs nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple
from weakref import ref

import msgspec

from outgrowth.core.document.cues import Motion, Path
from outgrowth.core.document.properties import TABLE
from outgrowth.core.layout import Placed
from outgrowth.core.motion.fields import Field, begin
from outgrowth.core.motion.tracks import Begun, Tracks, Values, length
from outgrowth.core.motion.view import GHOST, View
from outgrowth.core.resolve.scene import LONG, Like, PaintStyle, SceneNode, SceneParts

_PAINT = tuple(row for row in TABLE.values() if row.affects == "paint")
_OPACITY = TABLE["opacity"]

MotionOf = Callable[[Path, str], Motion]
"""How the property of a node moves, by the node's path through instances; layout's numbers
are called x, y, width and height, appearing and disappearing is opacity."""


class Moved(NamedTuple):
    """One track, for people: whose it is, what moves, and from what to what."""

    path: Path
    name: str
    property: str
    start: object
    end: object
    begun: Begun


class _Child(NamedTuple):
    """A child of a node in the frames: who it is, where it stands (moving or not), how far it
    has faded in or out, and what is below it."""

    id: str
    name: str
    x: float
    y: float
    view: View
    across: Field | None = None
    down: Field | None = None
    fade: Field | None = None
    plan: _Plan | None = None
    ghost: bool = False

    @property
    def moves(self) -> bool:
        return bool(self.across or self.down or self.fade or self.plan)


class _Plan:
    """How the frames of one node are built."""

    __slots__ = ("before", "children", "end", "fields", "height", "ids", "moving", "names", "width")

    def __init__(self, end: View, children: list[_Child]) -> None:
        self.end = end
        self.children = children
        self.width: Field | None = None
        self.height: Field | None = None
        self.fields: dict[str, Field] = {}
        self.moving = [n for n, child in enumerate(children) if child.moves]
        self.ids = tuple([child.id for child in children])
        self.names = tuple([child.name for child in children])
        self.before: SceneNode | None = None

    @property
    def still(self) -> bool:
        ghosts = any(child.ghost for child in self.children)
        return not (self.moving or ghosts or self.width or self.height or self.fields)


class Movement:
    """What is shown, on its way to `target`. Times are in ms and only grow."""

    def __init__(self, target: View) -> None:
        self.target = target
        self._tracks = Tracks()
        self._plan: _Plan | None = None
        self._built: tuple[float, View] | None = None

    @property
    def moving(self) -> bool:
        return self._plan is not None

    @property
    def next_end(self) -> float:
        """When the next of the motions ends; infinite at rest."""
        ends = self._tracks.ends() if self._plan is not None else []
        return ends[0] if ends else float("inf")

    def cut(self, target: View) -> None:
        """Shows a target at once."""
        self.target, self._plan, self._tracks = target, None, Tracks()
        self._built = None

    def retarget(self, target: View, now: float, motion_of: MotionOf) -> None:
        """From what is shown now on to another target; what has arrived is forgotten."""
        work = _Retarget(self._tracks, now, motion_of)
        self._plan = work.plan((), (), self.target, target, self._plan)
        self._tracks = work.tracks
        self.target = target
        self._built = None

    def replace(self, target: View, now: float, motion_of: MotionOf) -> None:
        """Another picture altogether (a screen): the one that is shown fades away over it."""
        shown = self.at(now)
        self.cut(target)
        begun = Begun(motion_of((), "opacity"), now)
        fade = begin(_OPACITY, 1.0, 0.0, self._tracks, begun)
        if fade is None or length(begun.motion) <= 0:
            return
        ghost = _Child(f"{GHOST}screen", "", 0.0, 0.0, _untouchable(shown), fade=fade, ghost=True)
        self._plan = _Plan(target, [*_standing(target), ghost])

    def prune(self, now: float) -> None:
        """Forgets what has arrived."""
        self.retarget(self.target, now, lambda path, name: Motion(0.0))

    def at(self, now: float) -> View:
        """What is shown at a time; asked again for the same, the very same picture."""
        if self._plan is None:
            return self.target
        if self._built is None or self._built[0] != now:
            self._built = now, _built(self._plan, self._tracks.at(now))
        return self._built[1]

    def moved(self) -> list[Moved]:
        """All tracks that are under way, in the order of the tree."""
        if self._plan is None:
            return []
        return list(_listed(self._plan, (), (), "", self._tracks))


# --- building frames --------------------------------------------------------------------


def _built(plan: _Plan, values: Values) -> View:
    end = plan.end
    views = [child.view for child in plan.children]
    xs = [child.x for child in plan.children]
    ys = [child.y for child in plan.children]
    for n in plan.moving:
        child = plan.children[n]
        views[n] = _child_built(child, values)
        if child.across is not None:
            xs[n] = _float(child.across, values)
        if child.down is not None:
            ys[n] = _float(child.down, values)
    placed = Placed(
        end.placed.width if plan.width is None else _float(plan.width, values),
        end.placed.height if plan.height is None else _float(plan.height, values),
        tuple([view.placed for view in views]),
        tuple(xs),
        tuple(ys),
        end.placed.text,
    )
    paint = end.scene.paint
    if plan.fields:
        changes = {name: field.value(values) for name, field in plan.fields.items()}
        paint = msgspec.structs.replace(paint, **changes)
    scenes = tuple([view.scene for view in views])
    like = None
    if len(scenes) >= LONG and plan.before is not None:
        like = Like(ref(plan.before), tuple(plan.moving))
    scene = _scene(end.scene, paint, scenes, (plan.ids, plan.names), like)
    plan.before = scene
    return View(scene, placed)


def _child_built(child: _Child, values: Values) -> View:
    view = child.view if child.plan is None else _built(child.plan, values)
    if child.fade is None:
        return view
    share = min(max(_float(child.fade, values), 0.0), 1.0)
    scene = view.scene
    paint = msgspec.structs.replace(scene.paint, opacity=scene.paint.opacity * share)
    return View(_scene(scene, paint, scene.children, (scene.ids, scene.names)), view.placed)


def _float(field: Field, values: Values) -> float:
    found = field.value(values)
    assert isinstance(found, float)
    return found


def _scene(
    like: SceneNode,
    paint: PaintStyle,
    children: tuple[SceneNode, ...],
    called: tuple[tuple[str, ...], tuple[str, ...]],
    after: Like | None = None,
    click_through: bool | None = None,
) -> SceneNode:
    parts = SceneParts(
        like.kind,
        like.layout,
        paint,
        children,
        *called,
        like.click_through if click_through is None else click_through,
        like.component,
        like.variant,
        like.problem,
        like.order,
        like.interaction,
    )
    return SceneNode(parts, after)


def _untouchable(view: View) -> View:
    """The view as one that the pointer goes through."""
    s = view.scene
    return View(_scene(s, s.paint, s.children, (s.ids, s.names), None, True), view.placed)


# --- planning ---------------------------------------------------------------------------


def _standing(view: View) -> list[_Child]:
    """The children of a view that is at rest."""
    scene, placed = view
    return [
        _Child(child_id, name, x, y, View(inner, at))
        for child_id, name, x, y, inner, at in zip(
            scene.ids,
            scene.names,
            placed.xs,
            placed.ys,
            scene.children,
            placed.children,
            strict=True,
        )
    ]


class _Retarget:
    """One change of target: carries on what stays under way and begins what is new."""

    def __init__(self, old: Tracks, now: float, motion_of: MotionOf) -> None:
        self.tracks = Tracks()
        self._old = old
        self._now = now
        self._shown = old.at(now)
        self._motion_of = motion_of

    def plan(
        self, path: Path, instance: Path, was: View, end: View, old: _Plan | None
    ) -> _Plan | None:
        """The plan for a node: `was` is where it went until now, `old` how. None for one that
        is at rest."""
        if old is None and was.scene is end.scene and was.placed is end.placed:
            return None
        inside = path if end.scene.component else instance
        made = _Plan(end, self._children(inside, was, end, old))
        made.width = self._field(
            path, None, "width", (was.placed.width, end.placed.width), old.width if old else None
        )
        made.height = self._field(
            path,
            None,
            "height",
            (was.placed.height, end.placed.height),
            old.height if old else None,
        )
        self._paint(path, was, end, old, made)
        return None if made.still else made

    def _paint(self, path: Path, was: View, end: View, old: _Plan | None, made: _Plan) -> None:
        fields = old.fields if old is not None else {}
        if was.scene.paint is end.scene.paint and not fields:
            return
        for row in _PAINT:
            pair = getattr(was.scene.paint, row.field), getattr(end.scene.paint, row.field)
            field = self._field(path, row.name, row.field, pair, fields.get(row.field))
            if field is not None:
                made.fields[row.field] = field

    def _field(
        self,
        path: Path,
        row: str | None,
        name: str,
        ends: tuple[object, object],
        old: Field | None,
    ) -> Field | None:
        """A field to its new target: carried on, begun, or begun anew from where it is."""
        start, end = ends
        if old is not None and old.begun.end <= self._now:
            start, old = old.target, None
        if old is not None and old.target == end:
            return old.carried(self._old, self.tracks)
        speed = 0.0
        if old is not None:
            start = old.value(self._shown)
            if len(old.numbers) == 1 and not old.colors:
                speed = self._old.speed(old.numbers[0], self._now)
        elif start == end:
            return None
        motion = self._motion_of(path, row or name)
        if length(motion) <= 0:
            return None
        begun = Begun(motion, self._now)
        return begin(TABLE[row] if row else None, start, end, self.tracks, begun, speed)

    # --- children -----------------------------------------------------------------------

    def _children(self, inside: Path, was: View, end: View, old: _Plan | None) -> list[_Child]:
        if old is None and _same_children(was, end):
            return _standing(end)
        went = {child.id: child for child in _standing(was)}
        before = {child.id: child for child in old.children} if old else dict(went)
        found: list[_Child] = []
        for now in _standing(end):
            held = before.pop(now.id, None)
            target = went.get(now.id)
            path = (*inside, now.id)
            if held is None or target is None:
                ghost = before.pop(GHOST + now.id, None)
                if ghost is None or ghost.fade is None or _other(ghost.view, now.view):
                    found += [self._appearing(path, now)]
                    found += [] if ghost is None else self._left_over(path, ghost)
                else:
                    found.append(self._returning(path, inside, now, ghost))
            elif _other(target.view, now.view):
                found += self._left_over(path, held)
                found.append(self._appearing(path, now))
            else:
                found.append(self._staying(path, inside, held, target, now))
        for left in before.values():
            found += self._left_over((*inside, left.id.removeprefix(GHOST)), left)
        return found

    def _staying(
        self, path: Path, inside: Path, held: _Child, target: _Child, now: _Child
    ) -> _Child:
        fade = held.fade
        return now._replace(
            across=self._field(path, None, "x", (target.x, now.x), held.across),
            down=self._field(path, None, "y", (target.y, now.y), held.down),
            fade=self._field(path, "opacity", "fade", (1.0, 1.0), fade) if fade else None,
            plan=self.plan(path, inside, target.view, now.view, held.plan),
        )

    def _appearing(self, path: Path, now: _Child, share: float = 0.0) -> _Child:
        """Fades in where it will stand."""
        motion = self._motion_of(path, "opacity")
        if length(motion) <= 0:
            return now
        begun = Begun(motion, self._now)
        return now._replace(fade=begin(_OPACITY, share, 1.0, self.tracks, begun))

    def _returning(self, path: Path, inside: Path, now: _Child, ghost: _Child) -> _Child:
        """One that was just fading away turns around, from where it is."""
        share = _float(ghost.fade, self._shown) if ghost.fade is not None else 0.0
        return self._appearing(path, now, share)._replace(
            across=self._field(path, None, "x", (ghost.x, now.x), None),
            down=self._field(path, None, "y", (ghost.y, now.y), None),
            plan=self.plan(path, inside, ghost.view, now.view, None),
        )

    def _left_over(self, path: Path, left: _Child) -> list[_Child]:
        """The ghost of what is no longer there: one that goes on fading, or that begins to."""
        if not left.ghost:
            found = self._disappearing(path, left)
        elif left.fade is None or left.fade.begun.end <= self._now:
            found = None
        else:
            found = left._replace(fade=left.fade.carried(self._old, self.tracks))
        return [found] if found is not None else []

    def _disappearing(self, path: Path, held: _Child) -> _Child | None:
        """Fades where it is, as it looks now."""
        motion = self._motion_of(path, "opacity")
        if length(motion) <= 0:
            return None
        share = 1.0 if held.fade is None else _float(held.fade, self._shown)
        if share <= 0:
            return None
        plain = held._replace(fade=None)
        view = _untouchable(_child_built(plain, self._shown))
        begun = Begun(motion, self._now)
        ghost = held.id if held.ghost else GHOST + held.id
        return _Child(
            ghost,
            held.name,
            held.x if held.across is None else _float(held.across, self._shown),
            held.y if held.down is None else _float(held.down, self._shown),
            view,
            fade=begin(_OPACITY, share, 0.0, self.tracks, begun),
            ghost=True,
        )


def _same_children(was: View, end: View) -> bool:
    return (
        was.scene.ids == end.scene.ids
        and was.placed.xs == end.placed.xs
        and was.placed.ys == end.placed.ys
        and all(a is b for a, b in zip(was.scene.children, end.scene.children, strict=True))
        and all(a is b for a, b in zip(was.placed.children, end.placed.children, strict=True))
    )


def _other(was: View, now: View) -> bool:
    """Whether two texts, two pictures or two kinds of node have to fade into each other."""
    if was.scene.kind != now.scene.kind:
        return True
    if was.scene.kind == "image":
        return was.scene.layout.style.picture != now.scene.layout.style.picture
    return was.scene.kind == "text" and was.placed.text != now.placed.text


def _listed(plan: _Plan, path: Path, instance: Path, name: str, tracks: Tracks) -> Iterator[Moved]:
    fields = [("width", plan.width), ("height", plan.height), *plan.fields.items()]
    yield from _named(path, name, fields, tracks)
    inside = path if plan.end.scene.component else instance
    for child in plan.children:
        at = (*inside, child.id.removeprefix(GHOST))
        own = [("x", child.across), ("y", child.down), ("opacity", child.fade)]
        yield from _named(at, child.name, own, tracks)
        if child.plan is not None:
            yield from _listed(child.plan, at, inside, child.name, tracks)


def _named(
    path: Path, name: str, fields: list[tuple[str, Field | None]], tracks: Tracks
) -> Iterator[Moved]:
    for what, field in fields:
        if field is not None:
            start = field.value(tracks.at(field.begun.start))
            yield Moved(path, name, what.replace("_", "-"), start, field.target, field.begun)
