"""The bench of the map: the screens of the file, and what leads from one to another."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QWidget

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.map_view import MapView
from outgrowth.app.fields.choice import DropDown
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.cues import Path
from outgrowth.core.document.sentences import cue_sentence, motion_text, node_named
from outgrowth.core.document.ways import Way
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import way_commands
from outgrowth.workspace.views.screen_map import MapLine
from outgrowth.workspace.views.status_text import count_text

_ABOUT = "The screens and the ways between them: pull a part onto a screen, and it leads there."
_LINE = Qt.ItemDataRole.UserRole
_SIDE = 264


class MapBench(AsideBench):
    """opened(str)          a screen, or a component that leads, is to go on the bench
    visited(str, tuple)  a part to go to: its screen's id, and its path
    """

    opened = pyqtSignal(str)
    visited = pyqtSignal(str, tuple)

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__("Map of screens", _ABOUT)
        self._workspace = workspace
        self._shown_for: object = None
        row = self.add_strip()
        self.view = MapView(workspace, rasters, theme)
        self.fit = builders.push_button("Whole map", self.view.fit, look="firm")
        self.start = builders.push_button("Begin here", self._begin_here, look="firm")
        self.start.setToolTip("This screen comes first: the map begins with it.")
        row.addWidget(self.fit)
        row.addWidget(self.start)
        across = builders.row()
        across.addWidget(self.view, 1)
        across.addWidget(self._side())
        self.page.addLayout(across, 1)
        self.setFocusProxy(self.view)
        self.view.opened.connect(self._open)
        self.view.current_changed.connect(self._show_current)
        self.view.drawn.connect(self._draw)
        self.view.led.connect(self._lead)
        self.view.led_from.connect(self._lead_from)
        workspace.panels_due.connect(self.refresh)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.view.set_theme(theme)

    # --- building -------------------------------------------------------------------------------

    def _side(self) -> QWidget:
        side = QWidget()
        dress(side, "panel", "left")
        side.setFixedWidth(_SIDE)
        column = builders.column(side, (14, 12, 14, 12), 6)
        self.title = builders.label(weight="bold", wrap=True, plain=True)
        self.come = builders.label(tone="muted", wrap=True, plain=True)
        self.list = QListWidget()
        self.list.setAccessibleName("Ways from this screen")
        self.list.setWordWrap(True)
        self.list.currentRowChanged.connect(self._choose)
        self.list.itemActivated.connect(lambda _: self._visit())
        self.sentence = builders.label(wrap=True, plain=True)
        self.end = DropDown((), "Where the way leads")
        self.end.edited.connect(self._lead_current)
        self.there = builders.push_button("Go to the part", self._visit, look="firm")
        self.remove = builders.push_button("Remove", self.remove_way, look="firm")
        self.other = DropDown((), "A way from this screen to")
        self.other.edited.connect(self._add)
        for widget in (self.title, self.come):
            column.addWidget(widget)
        column.addWidget(self.list, 1)
        column.addWidget(self.sentence)
        column.addWidget(self.end)
        buttons = QHBoxLayout()
        buttons.setSpacing(8)
        for button in (self.there, self.remove):
            buttons.addWidget(button)
        buttons.addStretch(1)
        column.addLayout(buttons)
        column.addSpacing(8)
        column.addWidget(builders.label("One more way, from the whole screen", tone="muted"))
        column.addWidget(self.other)
        return side

    # --- what is shown --------------------------------------------------------------------------

    def begin(self) -> None:
        """Takes the keys, at the screen that is on the bench."""
        self._shown_for = None
        self.refresh()
        owner = self._workspace.selection.owner
        if self.view.map.node(owner) is not None:
            self.view.look_at(owner)
        self.view.setFocus()
        self.view.show_readable()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        document = self._workspace.document
        about = document.components, document.screens, document.screen_order, document.tokens
        about_now = (*about, document.mode, document.motion)
        if not self.isVisible() or about_now == self._shown_for:
            return
        self._shown_for = about_now
        self.view.refresh()
        found = self.view.map
        screens = [node for node in found.nodes if node.is_screen]
        apart = sum(not node.is_reached for node in screens)
        told = f"{count_text(len(screens), 'screen')}, {count_text(len(found.lines), 'way')}"
        self.summary.setText(f"{told}; no way leads to {apart}" if apart else told)

    def _lines(self) -> list[MapLine]:
        """The ways from what is looked at, those of components that stand on it too."""
        node = self.view.map.node(self.view.current)
        if node is None:
            return []
        those = (node.id, *node.shared)
        return [line for line in self.view.map.lines if line.start in those]

    def _show_current(self) -> None:
        node, chosen = self.view.map.node(self.view.current), self.view.line
        document = self._workspace.document
        self.title.setText(node.title if node is not None else "There are no screens yet")
        self.list.blockSignals(True)
        self.list.clear()
        for line in self._lines():
            item = QListWidgetItem(self._line_text(line))
            item.setData(_LINE, line)
            self.list.addItem(item)
            if line == chosen:
                self.list.setCurrentItem(item)
        self.list.blockSignals(False)
        here = self.view.current
        come = dict.fromkeys(line.start for line in self.view.map.lines if line.end == here)
        owners = (document.owner(start) for start in come)
        names = [owner.short_name for owner in owners if owner is not None]
        told = f"Come to from {', '.join(names)}." if names else "No way leads here."
        is_start = node is not None and node.is_start
        self.come.setText(f"The file begins here. {told}" if is_start else told)
        is_screen = node is not None and node.is_screen
        self.start.setEnabled(is_screen and not is_start)
        screens = [(s.id, s.short_name) for s in document.screens_in_order()]
        others = [pair for pair in screens if pair[0] != here]
        self.other.set_options([("", "…"), *others])
        self.other.show_value("")
        self.other.setEnabled(is_screen and bool(others))
        self._show_line(chosen, screens)

    def _line_text(self, line: MapLine) -> str:
        document = self._workspace.document
        way = line.way
        owner = document.owner(way.owner)
        part = node_named(document, owner, way.cue.node) if owner is not None else ""
        end = document.screens[way.end].short_name
        by = f" · {owner.short_name}" if owner is not None and not way.is_own else ""
        return f"{part or 'whole'} → {end}{by}"

    def _show_line(self, line: MapLine | None, screens: list[tuple[str, str]]) -> None:
        for widget in (self.sentence, self.end, self.there, self.remove):
            widget.setVisible(line is not None)
        if line is None:
            return
        document, way = self._workspace.document, line.way
        owner = document.owner(way.owner)
        if owner is None:
            return
        said = cue_sentence(document, owner, way.cue)
        if way.cue.motion is None and document.motion is not None:
            said = f"{said} ({motion_text(document.motion)}, as the file says)"
        shared = "" if way.is_own else f" It is {owner.short_name}’s, wherever that stands."
        self.sentence.setText(f"{said}.{shared}")
        self.end.set_options([(s, f"leads to {name}") for s, name in screens if s != way.screen])
        self.end.show_value(way.end)

    # --- what is done ---------------------------------------------------------------------------

    def _choose(self, _: int) -> None:
        item = self.list.currentItem()
        line = item.data(_LINE) if item is not None else None
        if line is not None:
            self.view.look_at(self.view.current, line)

    def _open(self, owner: str) -> None:
        self.leave_bench()
        self.opened.emit(owner)

    def _visit(self) -> None:
        line = self.view.line
        if line is not None:
            self.leave_bench()
            self.visited.emit(line.way.owner, line.way.cue.node)

    def _draw(self, screen: str, part: Path, end: str) -> None:
        cue = way_commands.add_way(self._workspace, screen, part, end)
        self._look_at_cue(cue)

    def _add(self, end: str) -> None:
        if end:
            self._draw(self.view.current, (), end)

    def _look_at_cue(self, cue: str) -> None:
        self._workspace.refresh_panels()
        line = next((one for one in self.view.map.lines if one.way.cue.id == cue), None)
        if line is not None:
            self.view.look_at(line.start, line)

    def _lead(self, way: Way, end: str) -> None:
        if way_commands.lead_elsewhere(self._workspace, way, end):
            self._look_at_cue(way.cue.id)

    def _lead_current(self, end: str) -> None:
        if self.view.line is not None:
            self._lead(self.view.line.way, end)

    def _lead_from(self, way: Way, part: Path) -> None:
        if way_commands.lead_from(self._workspace, way, part):
            self._look_at_cue(way.cue.id)

    def remove_way(self) -> None:
        """Removes the way that is looked at."""
        if self.view.line is not None:
            way_commands.remove_way(self._workspace, self.view.line.way)
            self._workspace.refresh_panels()

    def _begin_here(self) -> None:
        way_commands.begin_at(self._workspace, self.view.current)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Delete and self.view.line is not None:
            self.remove_way()
        else:
            super().keyPressEvent(event)
