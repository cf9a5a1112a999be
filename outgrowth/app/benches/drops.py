"""What is dropped on a bench: a component goes beside others or takes an instance's place, an end
of a cue goes to a part, files from outside are brought in. While it is dragged, it is shown."""

from __future__ import annotations

from typing import Any, Protocol

from PyQt6.QtCore import QMimeData, QPointF, QRectF

from outgrowth.app.benches.gesture_controller import GestureController
from outgrowth.app.clipboard import files_of
from outgrowth.core.document.records import Node, Path
from outgrowth.core.document.sentences import node_named
from outgrowth.core.geometry import Rect
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import imports, instance_commands, selection_commands
from outgrowth.workspace.views.landing import Landing

COMPONENT_MIME = "application/x-outgrowth-component"
"""What a drag from the Library carries: a component's id."""
CUE_MIME = "application/x-outgrowth-cue"
"""What a drag out of a cue's sheet carries: “node” (where it listens), or “change” and which."""

# Share of an instance's sides at which a dropped component goes beside it, not in its place.
_RIM = 0.22


class DropSurface(Protocol):
    """What dropping asks of a bench."""

    gestures: GestureController
    cue_dropped: Any  # a signal: an end of a cue, and the path that it goes to

    def path_under(self, point: QPointF) -> Path | None: ...
    def rect_of_path(self, path: Path) -> QRectF | None: ...
    def landing_for(self, point: QPointF, moving: Node | None) -> tuple[Landing, Rect] | None: ...
    def spot_in(self, box: str, point: QPointF) -> tuple[float, float]: ...
    def show_hint(self, text: str) -> None: ...
    def aim(self, point: QPointF) -> None: ...
    def setFocus(self) -> None: ...
    def update(self) -> None: ...


class DropController:
    """One drag over a bench, from where it comes in to where it is let go.

    exchanging  the instance whose place is being taken, as long as that is shown
    """

    def __init__(self, workspace: Workspace, bench: DropSurface) -> None:
        self._workspace = workspace
        self._bench = bench
        self.exchanging: Path | None = None
        # Where the old part stood: its place still counts while the new one is shown there.
        self._old_place = QRectF()
        self._step = ""
        # The instances under the pointer, the innermost first; whether the second is taken, and
        # whether it is wanted now.
        self._levels: tuple[Path, ...] = ()
        self._outer = self._outer_wanted = False

    def takes(self, data: QMimeData | None) -> bool:
        """Whether a drag carries something for a bench."""
        return bool(cue_end(data) or dragged(data) or files_of(data))

    def landing(self, point: QPointF) -> Landing | None:
        """Where a component dropped at a point of the widget would go beside others."""
        landing = self._bench.landing_for(point, None)
        return None if landing is None else landing[0]

    def move(self, data: QMimeData | None, point: QPointF, outer: bool = False) -> None:
        """Shows what a drop would do there; `outer`: of two instances the one around is meant."""
        bench, self._outer_wanted = self._bench, outer
        if cue_end(data):
            bench.aim(point)
            path, owner = bench.path_under(point), self._workspace.owner
            bench.gestures.pointer = point
            if owner is not None and path is not None:
                bench.show_hint(node_named(self._workspace.document, owner, path))
            return
        if self.exchanging is None:
            bench.aim(point)
        self._show(dragged(data), point)

    def drop(self, data: QMimeData | None, point: QPointF, outer: bool = False) -> None:
        """Does what was shown."""
        self._outer_wanted = outer
        end = cue_end(data)
        if end:
            self._bench.aim(point)
            self._bench.show_hint("")
            self._bench.cue_dropped.emit(end, self._bench.path_under(point))
            return
        if self.exchanging is None:
            self._bench.aim(point)
        landing = self._bring(dragged(data), point)
        into = None if landing is None else (landing.parent, landing.before)
        imports.bring(self._workspace, files_of(data), into)
        self._bench.setFocus()
        self._bench.update()

    def forget(self) -> None:
        """Nothing is dragged here any more, and nothing of it stays."""
        self.exchanging = None
        self._workspace.cancel_drag()
        self._bench.gestures.show_landing(None)
        self._bench.show_hint("")

    def _bring(self, component: str, point: QPointF) -> Landing | None:
        """A component takes a place, or goes beside others; where that is."""
        workspace, target = self._workspace, self._target(component, point)
        landing = self.landing(point) if target is None else None
        self.forget()
        if target is not None:
            instance_commands.exchange_paths(workspace, self._taken(target), component)
            if target not in workspace.selection.paths:
                offer = workspace.offer
                workspace.select(target)
                if offer is not None:
                    workspace.make_offer(*offer)
        elif landing is not None and component:
            spot = self._bench.spot_in(landing.parent, point)
            instance_commands.place_into(workspace, component, landing.parent, landing.before, spot)
        return landing

    def _show(self, component: str, point: QPointF) -> None:
        """The line where it goes, or the very result of an exchange, in place and size."""
        bench, workspace = self._bench, self._workspace
        bench.gestures.pointer = point
        target = self._target(component, point)
        if target is None:
            bench.gestures.show_landing(bench.landing_for(point, None))
            bench.show_hint("")
            return
        if self.exchanging is None:
            self.exchanging = target
            self._old_place = bench.rect_of_path(target) or QRectF()
            self._step = instance_commands.exchange_step(workspace, self._taken(target), component)
            workspace.drag(
                instance_commands.exchange_edit(workspace, self._taken(target), component)
            )
        bench.gestures.show_landing(None)
        bench.show_hint(f"{self._step}{self._other_level(target)}")

    def _target(self, component: str, point: QPointF) -> Path | None:
        """What a component dropped there would take the place of."""
        if self.exchanging is not None:
            if self._old_place.contains(point) and self._outer == self._outer_wanted:
                return self.exchanging
            self.exchanging = None
            self._workspace.cancel_drag()
        return self._exchanged_at(point) if component else None

    def _exchanged_at(self, point: QPointF) -> Path | None:
        """The instance whose place a component dropped there would take: the innermost one that
        the pointer is well inside of; with Shift the one in which that lies."""
        under, owner = self._bench.path_under(point), self._workspace.owner
        if not under or owner is None:
            return None
        levels = [under[:n] for n in range(len(under), 0, -1)]
        instances = [path for path in levels if self._is_instance(path)]
        inside = next((path for path in instances if self._well_inside(path, point)), None)
        if inside is None:
            return None
        self._outer = self._outer_wanted
        self._levels = tuple(instances[instances.index(inside) :][:2])
        return self._levels[-1] if self._outer else inside

    def _taken(self, target: Path) -> tuple[Path, ...]:
        """The target, with all that are selected where it is one of them."""
        selected = self._workspace.selection.paths
        if target not in selected:
            return (target,)
        return instance_commands.exchanged_paths(self._workspace, selected)

    def _other_level(self, target: Path) -> str:
        """What Shift would exchange instead, or what it does not."""
        others = [path for path in self._levels if path != target]
        if not others:
            return ""
        name = selection_commands.named_paths(self._workspace, others)
        return f" · without Shift: {name}" if self._outer else f" · Shift: {name}"

    def _is_instance(self, path: Path) -> bool:
        place = selection_commands.place_of(self._workspace, path)
        inspection = inspect(self._workspace.document, place)
        return inspection is not None and inspection.instance is not None

    def _well_inside(self, path: Path, point: QPointF) -> bool:
        rect = self._bench.rect_of_path(path)
        if rect is None:
            return False
        rim = _RIM * min(rect.width(), rect.height())
        return rect.adjusted(rim, rim, -rim, -rim).contains(point)


def cue_end(data: QMimeData | None) -> str:
    """Which end of a cue a drag carries; empty if it carries none."""
    if data is None or not data.hasFormat(CUE_MIME):
        return ""
    return bytes(data.data(CUE_MIME).data()).decode()


def dragged(data: QMimeData | None) -> str:
    """The id of the component that a drag carries; empty if it carries none."""
    if data is None or not data.hasFormat(COMPONENT_MIME):
        return ""
    return bytes(data.data(COMPONENT_MIME).data()).decode()
