"""The movement of a picture: the newest layout, plus what each change still adds to it.

A change of target is a difference between two real layouts and belongs to an origin, such as
one axis of one instance. It runs out by that change's own motion, whatever else begins or ends
meanwhile. An origin that changes again takes over what is left of its own. So nothing jumps, and
what stands side by side in a layout stays side by side on the way: a difference in size carries
its neighbours' differences in place under the same progress.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterator, Sequence
from typing import NamedTuple

import msgspec

from outgrowth.core.document.cues import Motion, Path
from outgrowth.core.motion.differences import (
    Changed,
    Differing,
    ViewDifferences,
    differences,
    differences_at,
    is_other,
)
from outgrowth.core.motion.forms import (
    PLACE,
    SHARE,
    SIZE,
    Form,
    LinesForm,
    form_between,
    widened,
)
from outgrowth.core.motion.frames import PRESENCE, Frames, Ghost, Values, copied
from outgrowth.core.motion.sums import ColumnBlock, Delta, Part, Sums
from outgrowth.core.motion.timing import Begun, length
from outgrowth.core.motion.view import GHOST, View
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import line_to, positions_of
from outgrowth.core.text import Paragraph

MotionLookup = Callable[[Path, str], Motion | None]
"""How the property of a node moves within any change, by the node's path through instances;
layout's numbers are called x, y, width and height, coming and going is opacity."""
Views = Callable[[], tuple[View, View]]
"""The layouts before and after one of several changes, made when they are needed."""

# Of one node: words that change faster than they fade leave no more of them behind.
_MOST_GHOSTS = 8


class Moved(NamedTuple):
    """One value under way, for people: whose it is, what moves, and from what to what."""

    path: Path
    name: str
    property: str
    start: object
    end: object
    begun: Begun


class Movement:
    """What is shown, on its way to `target`. Times are in ms and only grow."""

    def __init__(self, target: View) -> None:
        self.target = target
        self._sums = Sums()
        self._ghosts: dict[Path, Ghost] = {}
        self._groups: dict[Hashable, _Member] = {}
        self._frames: Frames | None = None
        self._built: tuple[float, View] | None = None

    @property
    def moving(self) -> bool:
        """Whether anything is under way."""
        return bool(self._sums.rows)

    @property
    def next_end(self) -> float:
        """When the next of the differences has run out; infinite at rest."""
        return self._sums.next_end

    def at_time(self, now: float) -> View:
        """What is shown at a time; asked again for the same, the very same picture."""
        if not self.moving:
            return self.target
        # Invariant: the frame of the very time beside it; whatever changes rows or ghosts drops
        # it.
        if self._built is None or self._built[0] != now:
            self._built = now, self._planned().at_time(now)
        return self._built[1]

    def cut(self, target: View) -> None:
        """Shows a target at once."""
        self.target, self._sums, self._ghosts, self._groups = target, Sums(), {}, {}
        self._frames = self._built = None

    def change(
        self,
        target: View,
        now: float,
        origin: Hashable,
        motion: Motion,
        part_motion: MotionLookup | None = None,
    ) -> None:
        """From what is shown now on to another target, by one origin and its motion."""
        # Its share of a group is split off first, else it would run out twice.
        self._hand_over(origin)
        deltas = _Deltas(self._sums, motion, part_motion)
        self._turn(differences(self.target, target), deltas, now)
        self._sums.change(origin, motion, deltas.by_part, now)
        self.target = target
        self._frames = self._built = None
        # A change of no length leaves no row, but may have left ghosts or emptied columns.
        if not self.moving:
            self.cut(target)
        elif length(motion) <= 0:
            self._sweep()

    def change_many(
        self,
        target: View,
        now: float,
        origins: Sequence[tuple[Hashable, Views]],
        motion: Motion,
        part_motion: MotionLookup | None = None,
    ) -> None:
        """Several changes at one instant with one motion, of origins that are at rest. What
        each of them adds is worked out only if it changes again before it has run out: with
        one progress for all, their sum is one difference."""
        # One row for all of them: equal progress, so their sum is one difference.
        group = object()
        self.change(target, now, group, motion, part_motion)
        if self.moving:
            for origin, views in origins:
                self._groups[origin] = _Member(group, views, motion, part_motion)

    def busy(self, origin: Hashable) -> bool:
        """Whether something of this origin has not yet run out."""
        member = self._groups.get(origin)
        return origin in self._sums.rows or (member is not None and member.group in self._sums.rows)

    def replace(self, target: View, now: float, motion: Motion) -> None:
        """Another picture altogether (a screen): the one that is shown fades away over it."""
        visible = self.at_time(now)
        self.cut(target)
        if length(motion) > 0:
            path = (f"{GHOST}screen",)
            # Drawn after everything else, so over the new screen.
            after_id = target.scene.ids[-1] if target.scene.ids else ""
            self._ghosts[path] = Ghost(path, (), "", _untouchable(visible, 1.0), 0.0, 0.0, after_id)
            deltas = _Deltas(self._sums, motion, None)
            deltas.presence(path, path, 1.0, 0.0)
            self._sums.change(path, motion, deltas.by_part, now)

    def prune(self, now: float) -> None:
        """Forgets what has run out. Only here, so that looking at a frame changes nothing."""
        # Rows first: ghosts and columns are given up where no row is left to use them.
        self._sums.prune(now)
        self._frames = self._built = None
        if not self.moving:
            self.cut(self.target)
            return
        self._sweep()

    def _sweep(self) -> None:
        """Gives up values to which nothing is added any more, and ghosts that have faded."""
        self._sums.sweep()
        blocks = self._sums.blocks
        self._ghosts = {path: g for path, g in self._ghosts.items() if (path, PRESENCE) in blocks}

    def moved(self) -> list[Moved]:
        """All values that are under way, in the order of the tree."""
        if not self.moving:
            return []
        frames, result = self._planned(), []
        # What a row adds is told from the end that all rows lead to, as if it ran alone.
        end = frames.end()
        for rows in self._sums.rows.values():
            for row in rows.values():
                start = frames.with_row(row.columns, row.differences)
                touched = set(row.columns.tolist())
                for (path, name), block in self._sums.blocks.items():
                    if not touched.isdisjoint(block.columns):
                        result.append(self._moved_of(path, name, block, (start, end), row.begun))
        return [moved for _, moved in sorted(result, key=lambda pair: pair[0])]

    def _moved_of(
        self, path: Path, name: str, block: ColumnBlock, ends: tuple[Values, Values], begun: Begun
    ) -> tuple[tuple[int, ...], Moved]:
        ghost = self._ghosts.get(path)
        start, end = (values.value(block) for values in ends)
        text = "opacity" if name == PRESENCE else name
        if ghost is not None:
            route = positions_of(self.target.scene, ghost.holder) or ()
            plain = (*path[:-1], path[-1].lstrip(GHOST))
            return (*route, len(self.target.scene.ids)), Moved(
                plain, ghost.name, text, start, end, begun
            )
        line = line_to(self.target.scene, path)
        holder = line[-2][1] if len(line) > 1 else None
        called = holder.names[holder.ids.index(path[-1])] if holder is not None else ""
        route = positions_of(self.target.scene, path) or ()
        return route, Moved(path, called, text, start, end, begun)

    # --- changing -----------------------------------------------------------------------

    def _planned(self) -> Frames:
        if self._frames is None:
            self._frames = Frames(self.target, self._sums, self._ghosts)
        return self._frames

    def _hand_over(self, origin: Hashable) -> None:
        """Gives an origin that changed in a group what of the group's difference is its own."""
        member = self._groups.pop(origin, None)
        if member is None or member.group not in self._sums.rows:
            return
        differing = differences(*member.views())
        deltas = _Deltas(self._sums, member.motion, member.part_motion)
        for value in differing.values:
            deltas.differ(value)
        # Presence runs from 0 to 1 for what comes, from 1 to 0 for what goes.
        for changed, before in (
            *((c, 0.0) for c in differing.comes),
            *((g, 1.0) for g in differing.goes),
        ):
            shown_path = self._where_now(changed.path)
            if shown_path is not None:
                deltas.presence(changed.path, shown_path, before, 1.0 - before)
        for changed in differing.exchanged:
            path = changed.path
            old = next(
                (g for g in self._beside(path) if not is_other(g.view, changed.before)), None
            )
            if old is not None:
                deltas.presence(path, old.path, 1.0, 0.0)
                deltas.presence(path, path, 0.0, 1.0)
        self._sums.split(member.group, origin, deltas.by_part)
        self._frames = self._built = None

    def _where_now(self, path: Path) -> Path | None:
        """Under which path a node is drawn: its own, or its ghost's while it fades."""
        if positions_of(self.target.scene, path) is not None:
            return path
        ghost = self._ghost_at(path)
        return ghost.path if ghost is not None else None

    def _turn(self, result: ViewDifferences, deltas: _Deltas, now: float) -> None:
        # Only what goes or is exchanged leaves a picture behind, so only then is the frame
        # needed.
        visible = self.at_time(now) if result.goes or result.exchanged else self.target
        shares: dict[Path, float] = {}
        if self.moving and visible is not self.target:
            values = self._planned().values(now)
            for (path, name), block in self._sums.blocks.items():
                if name == PRESENCE:
                    shares[path] = values.number(block)
        # All ghosts are taken before any value below is forgotten: they look as the frame does.
        removed = [
            (changed, self._leave(changed, visible, shares.get(changed.path, 1.0), ""))
            for changed in result.goes
        ]
        self._forget_below(result.goes, visible)
        for changed, ghost in removed:
            self._goes(changed, ghost, deltas)
        for changed in result.exchanged:
            self._exchanged(changed, deltas, visible, shares)
        for value in result.values:
            deltas.differ(value)
        for changed in result.comes:
            self._comes(changed, deltas)

    def _goes(self, changed: Changed, ghost: Ghost | None, deltas: _Deltas) -> None:
        """It fades where it is, as it looks now, and takes no part any more."""
        path = changed.path
        if ghost is None or not deltas.moves(path, "opacity", True):
            self._sums.drop([(path, PRESENCE)])
            return
        self._ghosts[ghost.path] = ghost
        # What is left of an earlier coming or going goes on with the ghost.
        self._sums.rename((path, PRESENCE), (ghost.path, PRESENCE))
        deltas.presence(path, ghost.path, 1.0, 0.0)

    def _exchanged(
        self, changed: Changed, deltas: _Deltas, view: View, shares: dict[Path, float]
    ) -> None:
        """Other words, or another picture, fade in over the old ones, which stay beside."""
        path = changed.path
        ghost = self._leave(changed, view, shares.get(path, 1.0), path[-1])
        if changed.before.scene.kind != changed.after.scene.kind:
            self._forget_below([changed], view)
        # Lines moved as numbers only while the words were the same.
        self._sums.drop([(path, "lines")])
        beside = self._beside(path)
        # Words that come back while they fade turn around instead of coming a second time.
        same = next((g for g in beside if not is_other(g.view, changed.after)), None)
        if not deltas.moves(path, "opacity", True):
            self._exorcise([*beside])
            self._sums.drop([(path, PRESENCE)])
            return
        if ghost is not None:
            self._ghosts[ghost.path] = ghost
            self._sums.rename((path, PRESENCE), (ghost.path, PRESENCE))
            deltas.presence(path, ghost.path, 1.0, 0.0)
        if same is not None:
            del self._ghosts[same.path]
            self._sums.rename((same.path, PRESENCE), (path, PRESENCE))
        deltas.presence(path, path, 0.0, 1.0)
        self._exorcise([g for g in beside if g is not same][: 1 - _MOST_GHOSTS])

    def _comes(self, changed: Changed, deltas: _Deltas) -> None:
        """It fades in where it will stand; one that was just fading away turns around."""
        path, ghost = changed.path, self._ghost_at(changed.path)
        if ghost is not None and not is_other(ghost.view, changed.after):
            del self._ghosts[ghost.path]
            self._sums.rename((ghost.path, PRESENCE), (path, PRESENCE))
            inner = differences_at(path, path[:-1], ghost.view, changed.after)
            for name, before, after in (
                ("x", ghost.x, changed.origin[0]),
                ("y", ghost.y, changed.origin[1]),
            ):
                if before != after:
                    inner.values.append(Differing(path, name, None, before, after, False))
            for value in inner.values:
                deltas.differ(value)
        if deltas.moves(path, "opacity", True):
            deltas.presence(path, path, 0.0, 1.0)
        else:
            self._sums.drop([(path, PRESENCE)])

    # --- ghosts -------------------------------------------------------------------------

    def _ghost_at(self, path: Path) -> Ghost | None:
        """What is left of a node that went away, if it is still fading."""
        for count in range(_MOST_GHOSTS + 2, 0, -1):
            ghost = self._ghosts.get((*path[:-1], GHOST * count + path[-1]))
            if ghost is not None and not ghost.beside:
                return ghost
        return None

    def _beside(self, path: Path) -> list[Ghost]:
        """What fades beside a node: other words, or another picture, of before."""
        ghosts = self._ghosts.values()
        return [g for g in ghosts if g.beside == path[-1] and g.path[:-1] == path[:-1]]

    def _leave(self, changed: Changed, visible: View, share: float, beside: str) -> Ghost | None:
        """The ghost of a node that is shown; None where nothing is to be seen of it."""
        route = positions_of(visible.scene, changed.path)
        if not route or share <= 0:
            return None
        scene, placed = visible
        for n in route[:-1]:
            scene, placed = scene.children[n], placed.children[n]
        n = route[-1]
        # The frame holds what of it is seen; its presence is a value of its own and multiplies
        # again when it is drawn, so it is taken out here.
        view = _untouchable(View(scene.children[n], placed.children[n]), share)
        path = (*changed.path[:-1], GHOST + changed.path[-1])
        # A part may leave again while its last ghost still fades: one more mark, one more ghost.
        while path in self._ghosts:
            path = (*path[:-1], GHOST + path[-1])
        x, y, name = placed.xs[n], placed.ys[n], scene.names[n]
        return Ghost(path, changed.holder, name, view, x, y, changed.after_id, beside)

    def _forget_below(self, removed: list[Changed], view: View) -> None:
        """Nothing in nodes that are gone moves any more; other ghosts beside them stay where
        they are, those in them are part of their picture."""
        if not removed or not self._sums.blocks:
            return
        inside = {
            p for changed in removed for p in _paths_below(changed.before.scene, changed.path)
        }
        own = {(changed.path, PRESENCE) for changed in removed}
        self._sums.drop([k for k in self._sums.blocks if k[0] in inside and k not in own])
        self._exorcise([ghost for ghost in self._ghosts.values() if ghost.holder in inside])
        for ghost in list(self._ghosts.values()):
            if ghost.beside and (*ghost.path[:-1], ghost.beside) in inside:
                self._ghosts[ghost.path] = self._still(ghost, view)

    @staticmethod
    def _still(ghost: Ghost, view: View) -> Ghost:
        """A ghost that stood beside a node, where it is now that this is gone."""
        route, placed = positions_of(view.scene, ghost.path), view.placed
        for n in route[:-1] if route else ():
            placed = placed.children[n]
        x, y = (placed.xs[route[-1]], placed.ys[route[-1]]) if route else (ghost.x, ghost.y)
        return ghost._replace(x=x, y=y, beside="")

    def _exorcise(self, ghosts: list[Ghost]) -> None:
        for ghost in ghosts:
            self._ghosts.pop(ghost.path, None)
        self._sums.drop([(ghost.path, PRESENCE) for ghost in ghosts])


class _Member(NamedTuple):
    """One of the origins that changed together: the layouts before and after its own change."""

    group: Hashable
    views: Views
    motion: Motion
    part_motion: MotionLookup | None


class _Deltas:
    """What one change adds, by the rows it goes to."""

    def __init__(self, sums: Sums, motion: Motion, part_motion: MotionLookup | None) -> None:
        self.by_part: dict[Part, Delta] = {}
        self._sums = sums
        self._motion = motion
        self._part_motion = part_motion

    def moves(self, path: Path, name: str, alone: bool) -> bool:
        """Whether a value of a node takes any time."""
        return length(self._part(path, name, alone) or self._motion) > 0

    def differ(self, value: Differing) -> None:
        """Adds the difference of a value that can be added up; any other is cut."""
        part = self._part(value.path, value.name, value.alone)
        block, moves = self._block(value), length(part or self._motion) > 0
        # A new column only for what takes time: a cut is in the target already.
        if block is None and moves:
            form = _form(value)
            if form is not None:
                block = self._sums.add((value.path, value.name), form)
        if block is not None and moves:
            before, after = block.form.numbers(value.before), block.form.numbers(value.after)
            if before is not None and after is not None:
                self._delta(part).add(block, before, after)

    def presence(self, path: Path, shown_path: Path, before: float, after: float) -> None:
        """A node comes or goes; its presence is kept at `shown_path`: its ghost's path, or its
        own."""
        block = self._sums.blocks.get((shown_path, PRESENCE))
        if block is None:
            block = self._sums.add((shown_path, PRESENCE), SHARE)
        self._delta(self._part(path, "opacity", True)).add(block, [before], [after])

    def _part(self, path: Path, name: str, alone: bool) -> Part:
        """The motion that somebody gave to the value alone, if nothing else goes with it."""
        return self._part_motion(path, name) if alone and self._part_motion else None

    def _delta(self, part: Part) -> Delta:
        return self.by_part.setdefault(part, Delta([], []))

    def _block(self, value: Differing) -> ColumnBlock | None:
        """The columns that the value has already, if its new one can be told in them."""
        key = value.path, value.name
        block = self._sums.blocks.get(key)
        if block is None or block.form.numbers(value.after) is not None:
            return block
        wider = widened(block.form, value.after)
        if wider is not None:
            return self._sums.widen(key, *wider)
        self._sums.drop([key])
        return None


def _form(value: Differing) -> Form | None:
    if value.row is not None:
        return form_between(value.row, value.before, value.after)
    if isinstance(value.after, Paragraph):
        return LinesForm(value.after)
    return PLACE if value.name in ("x", "y") else SIZE


def _paths_below(scene: SceneNode, path: Path) -> Iterator[Path]:
    """The paths of a node and of all beneath it."""
    yield path
    inside = path if scene.component else path[:-1]
    for node_id, child in zip(scene.ids, scene.children, strict=True):
        yield from _paths_below(child, (*inside, node_id))


def _untouchable(view: View, share: float) -> View:
    """The view with that share of its opacity taken out again, and one that the pointer goes
    through."""
    scene = view.scene
    paint = scene.paint
    if share < 1.0:
        opacity = min(paint.opacity / share, 1.0)
        paint = msgspec.structs.replace(paint, opacity=opacity)
    called = scene.ids, scene.names
    return View(copied(scene, paint, scene.children, called, click_through=True), view.placed)
