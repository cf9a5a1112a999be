"""The cue board: the drawer under the bench with the graph, the cues, the motion, and the
scrubber that drives the real movement in the variant on the grid."""

from __future__ import annotations

from functools import partial

from immutables import Map
from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QSlider,
    QSplitter,
    QToolButton,
    QWidget,
)

from outgrowth.app.panels.cues.graph import Graph
from outgrowth.app.panels.cues.list import CueList
from outgrowth.app.panels.cues.motion import MotionEditor
from outgrowth.app.panels.sheet import line, muted
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.cues import Cue, Path
from outgrowth.core.document.graph import Edge, edges
from outgrowth.core.document.variants import Variant
from outgrowth.core.motion.movement import Moved, Movement
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import cue_commands
from outgrowth.workspace.cue_options import movement_text, short_value_text
from outgrowth.workspace.views.planned_movement import inner_parts, planned_movement

# Finer than any slider has px.
# Px that the curve and the graph need to be read; what is wider than the window is scrolled.
_LEAST_HEIGHT = 220
_STEPS = 1000
# More is not read; the rest is counted.
_MOST_TRACKS = 24
# What others' places depend on, and so has the motion of the whole change.
_CARRY = ("x", "y", "width", "height")


class CueBoard(QWidget):
    """framed(variant, View | None)  a variant is to be shown in the middle of its movement"""

    framed = pyqtSignal(object, object)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self.graph = Graph(workspace, theme)
        self.list = CueList(workspace)
        self.motion = MotionEditor(workspace, theme)
        self._movement: tuple[Movement, float] | None = None
        self._variant: Variant = Map()
        dress(self, "panel", "top")
        row = builders.row(self, (0, 1, 0, 0))
        panes = QSplitter(Qt.Orientation.Horizontal)
        panes.setHandleWidth(1)
        panes.setChildrenCollapsible(False)
        row.addWidget(builders.scroll_area(panes))
        self.setMinimumHeight(_LEAST_HEIGHT)
        frame = builders.scroll_area(self.graph)
        for pane in (frame, self.list, self._right()):
            panes.addWidget(pane)
        panes.setSizes([300, 250, 390])
        self.graph.picked.connect(self.choose)
        self.graph.drawn.connect(self._draw)
        self.graph.moved.connect(self._move)
        self.list.picked.connect(self.choose)
        self.motion.changed.connect(self._plan)
        workspace.panels_due.connect(self.refresh)
        workspace.selection_changed.connect(self.refresh)

    def _right(self) -> QWidget:
        container = QWidget()
        dress(container, "panel", "left")
        column = builders.column(container, (0, 0, 0, 6), 2)
        across = QHBoxLayout()
        across.setSpacing(0)
        across.addWidget(self.motion, 1)
        self.tracks = builders.scroll_area()
        self.tracks.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.tracks.setAccessibleName("What moves")
        self.tracks.setMinimumWidth(150)
        across.addWidget(self.tracks, 1)
        column.addLayout(across, 1)
        foot = QHBoxLayout()
        foot.setContentsMargins(10, 0, 10, 0)
        self.scrubber = QSlider(Qt.Orientation.Horizontal)
        self.scrubber.setRange(0, _STEPS)
        self.scrubber.setAccessibleName("Scrubber: drives the movement in the variant")
        self.scrubber.valueChanged.connect(self._scrub)
        self.time = QLabel("0 ms")
        self.time.setMinimumWidth(54)
        self.rest = QToolButton()
        self.rest.setText("at rest")
        self.rest.setProperty("look", "segment")
        self.rest.setToolTip("Shows the variant at rest again.")
        self.rest.clicked.connect(self.release)
        foot.addWidget(self.scrubber, 1)
        foot.addWidget(self.time)
        foot.addWidget(self.rest)
        column.addLayout(foot)
        return container

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.graph.set_theme(theme)
        self.motion.set_theme(theme)

    # --- the drawer -----------------------------------------------------------------------

    def toggle(self) -> None:
        """Opens or closes the drawer."""
        visible = not self.isVisible()
        self.setVisible(visible)
        if visible:
            self.refresh()
        else:
            self.release()

    def add_cue(self) -> None:
        """A cue at the selected part; the drawer opens for it."""
        if not self.isVisible():
            self.toggle()
        self.list.add()

    # --- what is shown --------------------------------------------------------------------

    @property
    def cue(self) -> Cue | None:
        """The cue that is looked at."""
        owner = self._workspace.owner
        cues_here = owner.behaviour.cues if owner is not None else ()
        return next((cue for cue in cues_here if cue.id == self.list.chosen), None)

    def choose(self, cue_id: str) -> None:
        """Looks at a cue; "" for none."""
        self.list.choose(cue_id)
        self.graph.show_chosen(cue_id)
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        if not self.isVisible():
            return
        if self.list.chosen and self.cue is None:
            self.list.chosen = ""
        self.graph.show_chosen(self.list.chosen)
        self.graph.refresh()
        self.list.refresh()
        edge = self._edge()
        component = self._workspace.component
        axis = component.axis(edge.axis) if component is not None and edge is not None else None
        cue = self.cue or (edge.cue if edge is not None else None)
        self.motion.show_for(cue, axis, edge.end if edge is not None else "")
        self._plan()

    def _edge(self) -> Edge | None:
        """The change that is looked at: of the chosen cue, from the variant at hand if it can;
        else the first way out of the variant's state."""
        component = self._workspace.component
        if component is None:
            return None
        variant, cue = self._workspace.selection.variant, self.cue
        shown_edges = [e for e in edges(component) if cue is None or (e.cue and e.cue.id == cue.id)]
        from_here = [e for e in shown_edges if variant.get(e.axis) == e.start]
        return next(iter([*from_here, *shown_edges]), None)

    # --- the movement ---------------------------------------------------------------------

    def _plan(self) -> None:
        """Plans the movement of the change that is looked at, in the variant at hand."""
        self.release()
        component, edge = self._workspace.component, self._edge()
        self._movement = None
        tracks: list[Moved] = []
        if component is not None and edge is not None:
            self._variant = self._workspace.selection.variant
            movement = planned_movement(self._workspace, component, edge, self.motion.motion)
            tracks = movement.moved()
            duration = max((m.begun.end for m in tracks), default=0.0)
            self._movement = movement, duration
        self.scrubber.setEnabled(bool(tracks))
        self._list_tracks(tracks, edge)

    def _scrub(self, step: int) -> None:
        if self._movement is None:
            return
        movement, duration = self._movement
        share = step / _STEPS
        self.time.setText(f"{duration * share:.0f} ms")
        self.motion.curve.show_share(share)
        self.framed.emit(self._variant, movement.at_time(duration * share))

    def release(self) -> None:
        """The variant at rest again."""
        self.scrubber.blockSignals(True)
        self.scrubber.setValue(0)
        self.scrubber.blockSignals(False)
        self.time.setText("0 ms")
        self.motion.curve.show_share(None)
        self.framed.emit(self._variant, None)

    def _list_tracks(self, tracks: list[Moved], edge: Edge | None) -> None:
        body = QWidget()
        dress(body, "panel")
        column = builders.column(body, (4, 8, 8, 8), 2)
        column.addWidget(muted(movement_text(self._workspace.component, edge, tracks)))
        for inner in inner_parts(self._workspace):
            command = partial(cue_commands.lead, self._workspace, inner.path, not inner.led)
            other = "as the part says" if inner.led else "with this"
            column.addWidget(line(muted(inner.text), (other, command)))
        for moved in tracks[:_MOST_TRACKS]:
            name = moved.name or "whole"
            ends = f"{short_value_text(moved.start)} → {short_value_text(moved.end)}"
            text = f"{name}: {moved.property} {ends}"
            own = ("own motion", partial(self._own_motion, moved))
            column.addWidget(line(muted(text), *([] if moved.property in _CARRY else [own])))
        if len(tracks) > _MOST_TRACKS:
            column.addWidget(muted(f"and {len(tracks) - _MOST_TRACKS} more"))
        column.addStretch()
        body.setMinimumWidth(1)
        self.tracks.setWidget(body)

    def _own_motion(self, moved: Moved) -> None:
        """Gives a track a motion of its own: a third later and shorter than the whole, to be
        seen at once and then set."""
        own = cue_commands.later_part(self.motion.motion)
        step = f"motion of {moved.name}"
        cue_commands.set_part_motion(self._workspace, moved.path, moved.property, own, step)

    # --- what is done in the graph ----------------------------------------------------------

    def _draw(self, axis_id: str, start: str, end: str) -> None:
        """A cue drawn from one state to another."""
        component = self._workspace.component
        axis = component.axis(axis_id) if component is not None else None
        made = cue_commands.draw(self._workspace, axis, start, end) if axis is not None else ""
        if made:
            self.choose(made)

    def _move(self, state: str, place: QPointF, finished: bool) -> None:
        cue_commands.place_state(self._workspace, state, place.x(), place.y(), finished)
        self.graph.refresh()

    def carry(self, end: str, path: Path | None) -> None:
        """Takes an end of the cue that is looked at to another part."""
        if self.cue is not None and path is not None:
            cue_commands.take_end_to(self._workspace, self.cue, end, path)

    def arrange(self) -> None:
        """Lets the board be arranged by itself again."""
        cue_commands.arrange(self._workspace)
