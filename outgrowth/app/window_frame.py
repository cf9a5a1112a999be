"""The frame of a window: its panels and benches, how they are laid out, and the looks."""

from __future__ import annotations

from typing import Protocol, TypeVar

from PyQt6.QtCore import QByteArray, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QScreen
from PyQt6.QtWidgets import (
    QApplication,
    QMainWindow,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.bench_rows import BenchRow
from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.canvas import Canvas
from outgrowth.app.benches.gather import GatherBench
from outgrowth.app.benches.grid import VariantGrid
from outgrowth.app.benches.grid_bench import GridBench
from outgrowth.app.benches.hand_over import HandOverBench
from outgrowth.app.benches.look_again import LookBench
from outgrowth.app.benches.map import MapBench
from outgrowth.app.benches.overview import OverviewBench
from outgrowth.app.benches.pen import Pen
from outgrowth.app.benches.start import StartBench
from outgrowth.app.benches.team import TeamBench
from outgrowth.app.benches.tokens import TokensBench
from outgrowth.app.benches.trials import TrialsBench
from outgrowth.app.benches.words import WordsBench
from outgrowth.app.file_reading import FileReading
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.pixels import pixels_of
from outgrowth.app.panel_folding import Panel, PanelFolding
from outgrowth.app.panels.axes import Axes
from outgrowth.app.panels.code import CodeSheet
from outgrowth.app.panels.cues import CueBoard
from outgrowth.app.panels.drawing import DrawStrip
from outgrowth.app.panels.layers import Layers
from outgrowth.app.panels.ledger import Ledger
from outgrowth.app.panels.library import LibraryPanel
from outgrowth.app.panels.live import LivePanel
from outgrowth.app.panels.notice import NoticeStrip
from outgrowth.app.panels.properties import Properties
from outgrowth.app.panels.reach_bar import ReachBar
from outgrowth.app.panels.rules import Rules
from outgrowth.app.panels.strips import StatusLine, TopStrip
from outgrowth.app.panels.tabs import Tabs
from outgrowth.app.panels.uses import Uses
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress, install
from outgrowth.workspace import Workspace
from outgrowth.workspace.libraries import connected_libraries, copies_folder
from outgrowth.workspace.looking import Looking
from outgrowth.workspace.team import Colleagues, Team
from outgrowth.workspace.trying import Trying
from outgrowth.workspace.user_state import UserState

_SHEETS = {
    "Ledger": "The values of what is selected, and where each of them comes from.",
    "Rules": "“When these axis values hold, this property of this node is that”: all of them.",
    "Axes": "The ways in which the component varies, and the choices of each.",
    "Properties": "What an instance of the component may set.",
    "Code": "The CSS of what is selected, with the conditions under which it holds.",
    "Uses": "Where the component stands; each place leads there.",
}

_OF_RULES = "What differs where: type in a cell, or drag what holds at one reach to another."

# Px of the bench, however much stands beside it.
_LEAST_BENCH = 320
# How large a window begins where there is room, and px that its frame and title take around it.
_USUAL = QSize(1280, 800)
_FRAME, _TITLE = 4, 32


class _FollowsTheme(Protocol):
    def set_theme(self, theme: Theme) -> None: ...


_Themed = TypeVar("_Themed", bound=_FollowsTheme)


class BenchStack(QStackedWidget):
    """The benches, of which one is seen: how small that may be is all that counts."""

    def __init__(self) -> None:
        super().__init__()
        self.currentChanged.connect(lambda _: self.updateGeometry())

    def minimumSizeHint(self) -> QSize:
        current = self.currentWidget()
        return current.minimumSizeHint() if current is not None else QSize()


class WindowFrame(QMainWindow):
    """Everything that is seen of one document; what can be done is the window's.

    benches               what can stand in the middle, by name
    theme_changed(Theme)  all that paints itself paints in another look
    """

    theme_changed = pyqtSignal(object)

    def __init__(
        self,
        workspace: Workspace,
        theme: Theme,
        user_state: UserState,
        colleagues: Colleagues | None = None,
    ) -> None:
        super().__init__()
        self.workspace = workspace
        self.theme = theme
        self.user_state = user_state
        self.pen = Pen()
        self.rasters = Rasters(lambda: workspace.document.assets)
        self.team = Team(workspace, copies_folder(), connected_libraries(), colleagues)
        self.looking = Looking(workspace, lambda document: pixels_of(document.assets))
        self.trying = Trying(workspace)
        self._make_panels(workspace, theme)
        self._make_benches(workspace, theme)
        self.benches = {row.name: row for row in self._bench_rows()}
        self._build()
        self.resize(*_first_size(self.screen()))

    def _make_panels(self, workspace: Workspace, theme: Theme) -> None:
        """What stands around the benches."""
        themed = self._themed
        self.strip = themed(TopStrip(workspace, theme))
        self.library = themed(LibraryPanel(workspace, self.rasters, theme, self.team))
        self.reach_bar = ReachBar(workspace)
        self.layers = themed(Layers(workspace, theme))
        self.draw_strip = themed(DrawStrip(self.pen, theme))
        self.notice = NoticeStrip()
        self.reading = workspace.reading = FileReading(self, workspace, self.notice)
        self.live = themed(LivePanel(workspace, self.rasters, theme))
        self.ledger = themed(Ledger(workspace, theme))
        self.rules = themed(Rules(workspace, theme))
        self.axes = themed(Axes(workspace, self.rasters, theme))
        self.opened = themed(Properties(workspace, self.rasters, theme))
        self.code = themed(CodeSheet(workspace, theme))
        self.uses = themed(Uses(workspace, self.rasters, theme))
        self.cue_board = themed(CueBoard(workspace, theme))
        self.status = StatusLine(workspace, self.team)

    def _make_benches(self, workspace: Workspace, theme: Theme) -> None:
        themed, rasters = self._themed, self.rasters
        self.grid_bench = GridBench(workspace, rasters, theme, self.pen)
        themed(self.grid_bench.grid)
        themed(self.grid_bench.rulers)
        self.canvas = themed(Canvas(workspace, rasters, theme, self.pen))
        recent = lambda: self.user_state.recent  # noqa: E731  # asked each time
        self.start = themed(StartBench(workspace, workspace.engine, theme, recent))
        self.gathering = themed(GatherBench(workspace, rasters, theme))
        self.differences = AsideBench("Rules", _OF_RULES)
        self.large_rules = themed(Rules(workspace, theme))
        self.differences.page.addWidget(self.large_rules, 1)
        self.tokens = themed(TokensBench(workspace, rasters, theme))
        self.words = themed(WordsBench(workspace, theme))
        self.map = themed(MapBench(workspace, rasters, theme))
        self.overview = themed(OverviewBench(workspace, self.team, rasters, theme))
        self.team_bench = themed(TeamBench(theme))
        self.hand_over = themed(HandOverBench(theme))
        self.look_bench = themed(LookBench(workspace, self.looking, rasters, theme))
        self.trials_bench = themed(TrialsBench(workspace, self.trying, rasters, theme))

    def _bench_rows(self) -> tuple[BenchRow, ...]:
        """All that can stand in the middle; Live stays in sight beside them, to play what is
        tried."""
        return (
            BenchRow("grid", self.grid_bench, edits=True),
            BenchRow("canvas", self.canvas, edits=True),
            BenchRow("start", self.start, self.start.build),
            BenchRow("gathering", self.gathering, self.gathering.begin),
            BenchRow("tokens", self.tokens, self.tokens.begin),
            BenchRow("rules", self.differences, self.large_rules.begin),
            BenchRow("words", self.words, self.words.begin),
            BenchRow("map", self.map, self.map.begin, alone=True),
            BenchRow("overview", self.overview, self.overview.begin, alone=True),
            BenchRow("team", self.team_bench),
            BenchRow("hand-over", self.hand_over),
            BenchRow("look", self.look_bench),
            BenchRow("trials", self.trials_bench),
        )

    def _themed(self, part: _Themed) -> _Themed:
        """A part that follows the theme from now on."""
        self.theme_changed.connect(part.set_theme)
        return part

    @property
    def grid(self) -> VariantGrid:
        """The grid of the component on the bench."""
        return self.grid_bench.grid

    # --- building -----------------------------------------------------------------------

    def _build(self) -> None:
        self.bench_stack = BenchStack()
        for row in self.benches.values():
            self.bench_stack.addWidget(row.widget)
        left = QSplitter(Qt.Orientation.Vertical)
        left.addWidget(self.library)
        left.addWidget(self._side())
        middle = QWidget()
        middle.setMinimumWidth(_LEAST_BENCH)
        column = self.middle = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.notice)
        column.addWidget(self.reach_bar)
        column.addWidget(self.bench_stack, 1)
        right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(self.live)
        sheets = self._sheets()
        right.addWidget(sheets)
        upper = QSplitter(Qt.Orientation.Horizontal)
        beside = QSplitter(Qt.Orientation.Vertical)
        for widget in (left, middle, beside):
            upper.addWidget(widget)
        beside.hide()
        self.cue_board.hide()
        down = QSplitter(Qt.Orientation.Vertical)
        for widget in (upper, self.cue_board):
            down.addWidget(widget)
        across = QSplitter(Qt.Orientation.Horizontal)
        for widget in (down, right):
            across.addWidget(widget)
        self._splits = {"left": left, "right": right, "across": across, "down": down}
        self._splits |= {"upper": upper, "beside": beside}
        for split in self._splits.values():
            split.setHandleWidth(1)
        # Panels fold where their edge is pushed over them; the bench never does.
        for split, at in ((upper, 1), (across, 0), (down, 0), (down, 1)):
            split.setCollapsible(at, False)
        panels = (
            Panel("Library", self.library, left),
            Panel("Layers", self.side, left),
            Panel("Live", self.live, right),
            Panel("Sheets", sheets, right),
        )
        self.folding = PanelFolding(panels, self.cue_board, (upper, across))
        # Both give way where the cue board takes some of their height.
        left.setStretchFactor(0, 1)
        left.setStretchFactor(1, 1)
        upper.setStretchFactor(1, 1)
        across.setStretchFactor(0, 1)
        down.setStretchFactor(0, 1)
        down.setSizes([430, 300])
        upper.setSizes([204, 736, 0])
        left.setSizes([330, 400])
        across.setSizes([940, 340])
        self._right_heights = [310, 420]
        right.setSizes(self._right_heights)
        container = QWidget()
        stack = builders.column(container)
        for widget, stretch in ((self.strip, 0), (across, 1), (self.status, 0)):
            stack.addWidget(widget, stretch)
        self.setCentralWidget(container)

    @property
    def live_is_beside(self) -> bool:
        """Whether Live stands beside the bench, not above the sheets."""
        return self.folding.column_of("Live") is self._splits["beside"]

    def place_live(self, beside: bool) -> None:
        """Puts Live beside the bench, as high as that, or back above the sheets."""
        right, upper = self._splits["right"], self._splits["upper"]
        if right.count() > 1:
            self._right_heights = right.sizes()
        self.folding.move("Live", self._splits["beside"] if beside else right)
        if beside:
            library, bench, live = upper.sizes()
            upper.setSizes([library, (bench + live) // 2, (bench + live) // 2])
        else:
            right.setSizes(self._right_heights)

    def _side(self) -> QWidget:
        """What can be drawn, above the layers."""
        self.side = QWidget()
        column = builders.column(self.side)
        column.addWidget(self.draw_strip)
        column.addWidget(self.layers, 1)
        return self.side

    def _sheets(self) -> QWidget:
        """Ledger, rules, axes, opened values and uses, one of them in sight."""
        sheets = QWidget()
        dress(sheets, "panel")
        column = builders.column(sheets)
        self.sheet_stack = QStackedWidget()
        self.sheet_tabs = Tabs(tuple(_SHEETS), tuple(_SHEETS.values()))
        for sheet in (self.ledger, self.rules, self.axes, self.opened, self.code, self.uses):
            self.sheet_stack.addWidget(sheet)
        self.sheet_tabs.chosen.connect(self.sheet_stack.setCurrentIndex)
        column.addWidget(self.sheet_tabs)
        column.addWidget(self.sheet_stack, 1)
        return sheets

    # --- looks -------------------------------------------------------------------------

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.theme = theme
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        install(app, theme)
        self.theme_changed.emit(theme)

    # --- layout of the window -----------------------------------------------------------

    def keep_layout(self) -> None:
        """Keeps how the window is laid out, for the next one."""
        self.user_state.put("geometry", bytes(self.saveGeometry().toBase64().data()).decode())
        for name, split in self._splits.items():
            if all(split.sizes()):  # what is out of sight for now keeps its old size
                self.user_state.put(f"split {name}", list(split.sizes()))
        self.user_state.put("panels away", list(self.folding.away))
        self.user_state.put("live beside", self.live_is_beside)

    def restore_layout(self) -> None:
        """Lays the window out as the last one was."""
        geometry = self.user_state.get("geometry")
        if isinstance(geometry, str) and geometry.isascii():
            self.restoreGeometry(QByteArray.fromBase64(geometry.encode()))
        if self.user_state.get("live beside") is True:
            self.place_live(True)
        for name, split in self._splits.items():
            sizes = self.user_state.get(f"split {name}")
            if isinstance(sizes, list) and len(sizes) == split.count() and all(map(_is_px, sizes)):
                split.setSizes(sizes)  # type: ignore[arg-type]  # whole px
        away = self.user_state.get("panels away")
        if isinstance(away, list):
            self.folding.set_away([name for name in away if isinstance(name, str)])


def _is_px(size: object) -> bool:
    """Whether a kept size is one that a panel can have."""
    return type(size) is int and 0 <= size <= 16_384


def _first_size(screen: QScreen | None) -> tuple[int, int]:
    """How large a window begins, in px: within the screen that it is on, with its frame."""
    room = screen.availableGeometry().size() if screen is not None else _USUAL
    return (
        min(_USUAL.width(), room.width() - 2 * _FRAME),
        min(_USUAL.height(), room.height() - _TITLE - _FRAME),
    )
