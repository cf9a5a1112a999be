"""The frame of a window: its panels and benches, how they are laid out, and the looks."""

from __future__ import annotations

from PyQt6.QtCore import QByteArray, Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import (
    QApplication,
    QMainWindow,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.benches.bench import Bench
from outgrowth.app.benches.canvas import Canvas
from outgrowth.app.benches.gather import GatherBench
from outgrowth.app.benches.grid import VariantGrid
from outgrowth.app.benches.grid_bench import GridBench
from outgrowth.app.benches.pen import Pen
from outgrowth.app.benches.start import StartBench
from outgrowth.app.benches.tokens import TokensBench
from outgrowth.app.paint import Rasters
from outgrowth.app.panels.axes import Axes
from outgrowth.app.panels.cues import CueBoard
from outgrowth.app.panels.drawing import DrawStrip
from outgrowth.app.panels.layers import Layers
from outgrowth.app.panels.ledger import Ledger
from outgrowth.app.panels.library import Library
from outgrowth.app.panels.live import Live
from outgrowth.app.panels.notice import NoticeStrip
from outgrowth.app.panels.properties import Properties
from outgrowth.app.panels.reach_bar import ReachBar
from outgrowth.app.panels.rules import Rules
from outgrowth.app.panels.strips import StatusLine, TopStrip
from outgrowth.app.panels.tabs import Tabs
from outgrowth.app.panels.uses import Uses
from outgrowth.app.session import Session
from outgrowth.app.session.shelf import Shelf
from outgrowth.app.theme import Theme
from outgrowth.app.theme.sheet import dress, install

_SHEETS = {
    "Ledger": "The values of what is selected, and where each of them comes from.",
    "Rules": "“When these axis values hold, this property of this node is that”: all of them.",
    "Axes": "The ways in which the component varies, and the choices of each.",
    "Opened": "What an instance of the component may set.",
    "Uses": "Where the component stands; each place leads there.",
}


class Frame(QMainWindow):
    """Everything that is seen of one document; what can be done is the window's."""

    def __init__(
        self,
        session: Session,
        theme: Theme,
        shelf: Shelf,
    ) -> None:
        super().__init__()
        self.session = session
        self.theme = theme
        self.shelf = shelf
        self.pen = Pen()
        self.rasters = Rasters(lambda: session.document.assets)
        self.strip = TopStrip(session, theme)
        self.library = Library(session, self.rasters, theme)
        self.reach_bar = ReachBar(session)
        self.layers = Layers(session, theme)
        self.grid_bench = GridBench(session, self.rasters, theme, self.pen)
        self.canvas = Canvas(session, self.rasters, theme, self.pen)
        self.start = StartBench(session, session.engine, theme, lambda: self.shelf.recent)
        self.tokens = TokensBench(session, theme)
        self.draw_strip = DrawStrip(self.pen, theme)
        self.notice = NoticeStrip()
        self.gathering = GatherBench(session, self.rasters, theme)
        self.live = Live(session, self.rasters, theme)
        self.apart: Live | None = None
        self.ledger = Ledger(session, theme)
        self.rules = Rules(session)
        self.axes = Axes(session)
        self.opened = Properties(session, theme)
        self.uses = Uses(session)
        self.cue_board = CueBoard(session, theme)
        self.status = StatusLine(session)
        self._build()
        self.resize(1280, 800)

    @property
    def grid(self) -> VariantGrid:
        return self.grid_bench.grid

    # --- building -----------------------------------------------------------------------

    def _build(self) -> None:
        self.bench = QStackedWidget()
        self.bench.addWidget(self.grid_bench)
        self.bench.addWidget(self.canvas)
        for bench in (self.gathering, self.start, self.tokens):
            self.bench.addWidget(bench)
        work = QSplitter(Qt.Orientation.Horizontal)
        work.addWidget(self._side())
        work.addWidget(self.bench)
        middle = QWidget()
        column = self.middle = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.notice)
        column.addWidget(self.reach_bar)
        column.addWidget(work, 1)
        right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(self.live)
        right.addWidget(self._sheets())
        upper = QSplitter(Qt.Orientation.Horizontal)
        for widget in (self.library, middle):
            upper.addWidget(widget)
        self.cue_board.hide()
        down = QSplitter(Qt.Orientation.Vertical)
        for widget in (upper, self.cue_board):
            down.addWidget(widget)
        across = QSplitter(Qt.Orientation.Horizontal)
        for widget in (down, right):
            across.addWidget(widget)
        for split in (work, right, across, down, upper):
            split.setHandleWidth(1)
            split.setChildrenCollapsible(False)
        self._splits = {"work": work, "right": right, "across": across, "down": down}
        self._splits["upper"] = upper
        work.setStretchFactor(1, 1)
        upper.setStretchFactor(1, 1)
        across.setStretchFactor(0, 1)
        down.setStretchFactor(0, 1)
        down.setSizes([430, 300])
        upper.setSizes([204, 736])
        work.setSizes([168, 568])
        across.setSizes([940, 340])
        right.setSizes([310, 420])
        whole = QWidget()
        stack = QVBoxLayout(whole)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        for widget, stretch in ((self.strip, 0), (across, 1), (self.status, 0)):
            stack.addWidget(widget, stretch)
        self.setCentralWidget(whole)

    def _side(self) -> QWidget:
        """What can be drawn, above the layers."""
        self.side = QWidget()
        column = QVBoxLayout(self.side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.draw_strip)
        column.addWidget(self.layers, 1)
        return self.side

    def _sheets(self) -> QWidget:
        """Ledger, rules, axes, opened values and uses, one of them in sight."""
        sheets = QWidget()
        dress(sheets, "panel")
        column = QVBoxLayout(sheets)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.sheet_stack = QStackedWidget()
        self.sheet_tabs = Tabs(tuple(_SHEETS), tuple(_SHEETS.values()))
        for sheet in (self.ledger, self.rules, self.axes, self.opened, self.uses):
            self.sheet_stack.addWidget(sheet)
        self.sheet_tabs.chosen.connect(self.sheet_stack.setCurrentIndex)
        column.addWidget(self.sheet_tabs)
        column.addWidget(self.sheet_stack, 1)
        return sheets

    # --- benches ------------------------------------------------------------------------

    @property
    def surface(self) -> Bench:
        """The bench that is worked at: a screen's or a component's."""
        return self.canvas if self.session.screen is not None else self.grid

    def show_bench(self) -> None:
        """Puts the bench of what is worked at in the middle."""
        on_screen, nothing = self.session.screen is not None, self.session.owner is None
        self.gathering.halt()
        self._set_aside(nothing)
        if nothing:
            self.start.build()
        bench = self.start if nothing else self.canvas if on_screen else self.grid_bench
        self.bench.setCurrentWidget(bench)
        self.status.show_zoom(self.canvas.zoom if on_screen else self.grid.zoom)

    def show_gathering(self) -> None:
        """Puts the bench of gathering in the middle."""
        self._set_aside(True)
        self.bench.setCurrentWidget(self.gathering)
        self.gathering.begin()

    def show_tokens(self) -> None:
        """Puts the bench of tokens in the middle."""
        self._set_aside(True)
        self.bench.setCurrentWidget(self.tokens)
        self.tokens.refresh()
        self.tokens.setFocus()

    def _set_aside(self, aside: bool) -> None:
        """Puts what is for editing out of sight while another bench is worked at."""
        self.side.setVisible(not aside)
        self.reach_bar.setVisible(not aside)

    def next_panel(self, by: int) -> None:
        """Takes the focus to the next panel, or the one before."""
        panels = (
            self.library.list,
            self.layers.list,
            self.surface,
            self.live.stage,
            self.ledger.first_field() or self.sheet_tabs.tabs["Ledger"],
        )
        seen = [panel for panel in panels if panel.isVisible()]
        now = QApplication.focusWidget()
        inside = [n for n, panel in enumerate(seen) if now is not None and _holds(panel, now)]
        last = len(seen) - 1 if now is not None and self.ledger.isAncestorOf(now) else -1
        at = inside[0] if inside else last
        seen[(at + by) % len(seen)].setFocus(Qt.FocusReason.TabFocusReason)

    # --- view ---------------------------------------------------------------------------

    def fit(self) -> None:
        if self.session.screen is not None:
            self.canvas.fit()
        else:
            self.grid_bench.fit()

    def zoom(self, factor: float) -> None:
        self._set_zoom(self.surface.zoom * factor)

    def life_size(self) -> None:
        """One px of the part is one px of the display."""
        self._set_zoom(1.0)

    def _set_zoom(self, zoom: float) -> None:
        if self.session.screen is not None:
            self.canvas.set_zoom(zoom)
        else:
            self._grid_zoom(min(max(zoom, 0.25), 8.0))

    def look_at_selection(self) -> None:
        """The selection as large as it fits."""
        if self.session.screen is not None:
            self.canvas.look_at_selection()
        elif self.session.component is not None:
            self.grid_bench.look_at_selection()

    def _grid_zoom(self, zoom: float) -> None:
        self.grid.set_zoom(zoom)
        self.status.show_zoom(zoom)

    def set_theme(self, theme: Theme) -> None:
        self.theme = theme
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        install(app, theme)
        for part in (
            self.strip,
            self.library,
            self.layers,
            self.grid,
            self.canvas,
            self.live,
            self.ledger,
            self.opened,
            self.gathering,
            self.cue_board,
            self.draw_strip,
            self.start,
            self.tokens,
        ):
            part.set_theme(theme)
        if self.apart is not None:
            self.apart.set_theme(theme)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.fit()

    # --- layout of the window -----------------------------------------------------------

    def keep_layout(self) -> None:
        """Keeps how the window is laid out, for the next one."""
        self.shelf.put("geometry", bytes(self.saveGeometry().toBase64().data()).decode())
        for name, split in self._splits.items():
            if all(split.sizes()):  # what is out of sight for now keeps its old size
                self.shelf.put(f"split {name}", list(split.sizes()))

    def restore_layout(self) -> None:
        """Lays the window out as the last one was."""
        held = self.shelf.get("geometry")
        if isinstance(held, str) and held.isascii():
            self.restoreGeometry(QByteArray.fromBase64(held.encode()))
        for name, split in self._splits.items():
            sizes = self.shelf.get(f"split {name}")
            if isinstance(sizes, list) and len(sizes) == split.count() and all(map(_is_px, sizes)):
                split.setSizes(sizes)  # type: ignore[arg-type]  # whole px


def _is_px(size: object) -> bool:
    """Whether a kept size is one that a panel can have."""
    return type(size) is int and 0 <= size <= 16_384


def _holds(panel: QWidget, widget: QWidget) -> bool:
    return panel is widget or panel.isAncestorOf(widget)
