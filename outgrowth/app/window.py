"""The main window: puts the panels around the bench and lets the actions be done."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path as FilePath

from PyQt6.QtCore import QBuffer, QPoint, Qt
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QShowEvent
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QMainWindow,
    QMenu,
    QMessageBox,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.benches.canvas import Canvas, brought
from outgrowth.app.benches.gather import GatherBench
from outgrowth.app.benches.grid import GridBench, VariantGrid
from outgrowth.app.commands import commands
from outgrowth.app.dialogs.find import Candidate, Finder
from outgrowth.app.dialogs.shortcuts import Shortcuts
from outgrowth.app.paint import Rasters
from outgrowth.app.panels.axes import Axes
from outgrowth.app.panels.cues import CueBoard
from outgrowth.app.panels.layers import Layers
from outgrowth.app.panels.ledger import Ledger
from outgrowth.app.panels.library import Library
from outgrowth.app.panels.live import Live
from outgrowth.app.panels.properties import Properties
from outgrowth.app.panels.reach_bar import ReachBar
from outgrowth.app.panels.rules import Rules
from outgrowth.app.panels.strips import StatusLine, TopStrip
from outgrowth.app.panels.tabs import Tabs
from outgrowth.app.panels.uses import Uses
from outgrowth.app.session import Session, deeds, outside
from outgrowth.app.theme import DARK, LIGHT, Theme
from outgrowth.app.theme.sheet import dress, install
from outgrowth.core.document.properties import FAMILIES
from outgrowth.core.document.records import Path, walk
from outgrowth.core.exchange.native import SUFFIX, FileProblem, load

_FILTER = f"Outgrowth files (*{SUFFIX})"


class MainWindow(QMainWindow):
    """One document in one window.

    `reopen` shows another file in a new window.
    """

    def __init__(
        self, session: Session, theme: Theme, reopen: Callable[[FilePath], None] | None = None
    ) -> None:
        super().__init__()
        self.session = session
        self.theme = theme
        self._reopen = reopen
        self.rasters = Rasters(lambda: session.document.assets)
        self.strip = TopStrip(session, theme)
        self.library = Library(session, self.rasters, theme)
        self.reach_bar = ReachBar(session)
        self.layers = Layers(session, theme)
        self.grid_bench = GridBench(session, self.rasters, theme)
        self.canvas = Canvas(session, self.rasters, theme)
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
        self.finder = Finder(self)
        self.actions_list = commands(session, self)
        self._build()
        self._connect()
        self._install_actions()
        self.resize(1280, 800)
        self._bench_changed()

    @property
    def grid(self) -> VariantGrid:
        return self.grid_bench.grid

    # --- building -----------------------------------------------------------------------

    def _build(self) -> None:
        self.bench = QStackedWidget()
        self.bench.addWidget(self.grid_bench)
        self.bench.addWidget(self.canvas)
        self.bench.addWidget(self.gathering)
        work = QSplitter(Qt.Orientation.Horizontal)
        work.addWidget(self.layers)
        work.addWidget(self.bench)
        middle = QWidget()
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.reach_bar)
        column.addWidget(work, 1)
        right = QSplitter(Qt.Orientation.Vertical)
        right.addWidget(self.live)
        right.addWidget(self._sheets())
        self._splits = {"work": work, "right": right}
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

    def _sheets(self) -> QWidget:
        """Ledger, rules, axes, opened values and uses, one of them in sight."""
        sheets = QWidget()
        dress(sheets, "panel")
        column = QVBoxLayout(sheets)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.sheet_stack = QStackedWidget()
        self.sheet_tabs = Tabs(("Ledger", "Rules", "Axes", "Opened", "Uses"))
        for sheet in (self.ledger, self.rules, self.axes, self.opened, self.uses):
            self.sheet_stack.addWidget(sheet)
        self.sheet_tabs.chosen.connect(self.sheet_stack.setCurrentIndex)
        column.addWidget(self.sheet_tabs)
        column.addWidget(self.sheet_stack, 1)
        return sheets

    def _connect(self) -> None:
        session = self.session
        self.library.opened.connect(session.open)
        self.live.apart.connect(self.live_apart)
        self.ledger.visited.connect(session.open)
        self.ledger.picture_asked.connect(self.ask_picture)
        self.cue_board.framed.connect(self.grid.show_frame)
        self.status.cues_asked.connect(self.toggle_cues)
        self.gathering.left.connect(self._bench_changed)
        self.rules.edited.connect(self._edit_rule)
        self.uses.visited.connect(self._visit)
        self.ledger.attended.connect(self.reach_bar.attend)
        self.ledger.attended.connect(self.grid.attend)
        self.strip.find_asked.connect(self.find_or_do)
        self.strip.menu_asked.connect(self._file_menu)
        self.strip.theme_asked.connect(self.switch_theme)
        self.strip.undo_asked.connect(session.undo)
        self.strip.redo_asked.connect(session.redo)
        self.status.fit_asked.connect(self.fit)
        self.grid_bench.zoomed.connect(lambda: self.status.show_zoom(self.grid.zoom))
        self.canvas.zoomed.connect(lambda: self.status.show_zoom(self.canvas.zoom))
        session.selection_changed.connect(self._bench_changed)
        session.history_changed.connect(self._retitle)
        for part in (self.canvas, self.grid, self.layers.list):
            part.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
            part.customContextMenuRequested.connect(
                lambda spot, widget=part: self.context_menu(widget.mapToGlobal(spot))
            )

    def _edit_rule(self, name: str) -> None:
        """Turns to the ledger's row of a property."""
        self.sheet_tabs.choose("Ledger")
        self.ledger.refresh()
        row = self.ledger.rows.get(FAMILIES.get(name, name))
        if row is not None:
            self.ledger.ensureWidgetVisible(row)
            row.editor.widget.setFocus(Qt.FocusReason.TabFocusReason)

    def _visit(self, owner: str, path: Path) -> None:
        self.session.open(owner)
        self.session.select(path or None)

    def _bench_changed(self) -> None:
        on_screen = self.session.screen is not None
        self.gathering.halt()
        self._set_aside(False)
        self.bench.setCurrentWidget(self.canvas if on_screen else self.grid_bench)
        self.status.show_zoom(self.canvas.zoom if on_screen else self.grid.zoom)
        self._retitle()

    def _retitle(self) -> None:
        mark = "• " if self.session.unsaved else ""
        self.setWindowTitle(f"{mark}{self.session.document.name} · Outgrowth")

    # --- actions ------------------------------------------------------------------------

    def _install_actions(self) -> None:
        for action in self.actions_list:
            made = QAction(action.title, self)
            if action.shortcut:
                made.setShortcut(QKeySequence(action.shortcut))
            made.triggered.connect(lambda _=False, a=action: self.do(a.id))
            self.addAction(made)

    def do(self, action_id: str) -> None:
        """Does an action by its id, if it can be done now."""
        action = next(a for a in self.actions_list if a.id == action_id)
        if action.enabled():
            action.act()

    def toggle_cues(self) -> None:
        """Opens or closes the drawer with the cue board."""
        shown = not self.cue_board.isVisible()
        self.cue_board.setVisible(shown)
        if shown:
            self.cue_board.refresh()
        else:
            self.cue_board.release()

    def add_cue(self) -> None:
        """A cue at the selected part, on the cue board."""
        if not self.cue_board.isVisible():
            self.toggle_cues()
        self.cue_board.list.add()

    def live_apart(self) -> None:
        """Opens Live in a window of its own beside this one."""
        apart = Live(self.session, self.rasters, self.theme, own_window=True)
        apart.setParent(self, Qt.WindowType.Window)
        apart.setWindowTitle(f"Live · {self.session.document.name}")
        apart.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        apart.destroyed.connect(lambda: self._forget_apart())
        apart.resize(480, 760)
        self.apart = apart
        apart.show()

    def _forget_apart(self) -> None:
        self.apart = None

    def edit_words(self) -> None:
        """Edits the selected text where it stands."""
        bench = self.canvas if self.session.screen is not None else self.grid
        bench.edit_words()

    def find_or_do(self) -> None:
        """Opens find or do under its field."""
        field = self.strip.find_field
        below = field.mapToGlobal(QPoint(field.width() // 2, field.height() + 4))
        self.finder.ask(self.candidates(), below)

    def candidates(self) -> list[Candidate]:
        """Everything that can be found by name."""
        session = self.session
        document = session.document
        found = []
        for action in self.actions_list:
            keys = QKeySequence(action.shortcut).toString(QKeySequence.SequenceFormat.NativeText)
            found.append(Candidate(action.title, keys or "action", action.act, action.enabled()))
        for owner in document.owners():
            what = "component" if owner.id in document.components else "screen"
            found.append(Candidate(owner.name, what, partial(session.open, owner.id)))
        found += self._component_candidates()
        component = session.component
        for axis in component.axes if component is not None else ():
            if axis.driver == "none":
                act = partial(deeds.face_like_this, session, axis.id)
                found.append(Candidate(f"New {axis.name} that starts as this face", "face", act))
        if session.owner is not None:
            for node in walk(session.owner.root):
                path = () if node is session.owner.root else (node.id,)
                found.append(Candidate(node.name, "part here", partial(session.select, path)))
        return found

    def _component_candidates(self) -> list[Candidate]:
        """Placing each component here, or letting the selected instance follow it."""
        session = self.session
        exchanging = bool(deeds.own_instances(session))
        followed = deeds.component_here(session) if exchanging else None
        found, everywhere = [], []
        for component in session.document.in_order():
            if component.id == session.selection.owner:
                continue
            name = deeds.short(component)
            act = partial(deeds.place, session, component.id)
            found.append(Candidate(f"Place {name} here", "place", act))
            if followed is None or component is followed:
                continue
            swap = partial(deeds.exchange, session, component.id)
            found.append(Candidate(f"Exchange for {name}", "exchange", swap))
            count = session.uses_of(followed.id)
            title = f"Exchange every {deeds.short(followed)} for {name}"
            act = partial(deeds.exchange, session, component.id, everywhere=True)
            everywhere.append(Candidate(title, f"exchange, {count}", act))
        return found + everywhere

    def visit_component(self) -> None:
        """Goes to the component of the selected instance; Shift+F9 leads back."""
        component = deeds.component_here(self.session)
        if component is not None:
            self.session.open(component.id)

    def show_gathering(self) -> None:
        """Puts the bench of gathering in the middle."""
        self._set_aside(True)
        self.bench.setCurrentWidget(self.gathering)
        self.gathering.begin()

    def _set_aside(self, aside: bool) -> None:
        """Puts what is for editing out of sight while another bench is worked at."""
        self.layers.setVisible(not aside)
        self.reach_bar.setVisible(not aside)

    def context_menu(self, spot: QPoint) -> None:
        """What can be done with the selection, at a point of the screen."""
        menu = QMenu(self)
        for action in self.actions_list:
            if action.group in ("Parts", "Variants") and action.enabled():
                shown = menu.addAction(action.title)
                if shown is not None:
                    shown.setShortcut(QKeySequence(action.shortcut))
                    shown.triggered.connect(partial(self.do, action.id))
        if not menu.isEmpty():
            menu.exec(spot)

    def show_keys(self) -> None:
        """Lists all actions with their keys."""
        dialog = Shortcuts(self.actions_list, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _file_menu(self) -> None:
        menu = QMenu(self)
        for action in self.actions_list:
            if action.group == "File":
                shown = menu.addAction(action.title)
                if shown is not None:
                    shown.setShortcut(QKeySequence(action.shortcut))
                    shown.triggered.connect(lambda _=False, a=action: self.do(a.id))
        button = self.strip.file
        menu.exec(button.mapToGlobal(button.rect().bottomLeft()))

    # --- view ---------------------------------------------------------------------------

    def fit(self) -> None:
        if self.session.screen is not None:
            self.canvas.fit()
        else:
            self.grid_bench.fit()

    def zoom(self, factor: float) -> None:
        if self.session.screen is not None:
            self.canvas.set_zoom(self.canvas.zoom * factor)
        else:
            self._grid_zoom(min(max(self.grid.zoom * factor, 0.25), 8.0))

    def _grid_zoom(self, zoom: float) -> None:
        self.grid.set_zoom(zoom)
        self.status.show_zoom(zoom)

    def switch_theme(self) -> None:
        """The other look."""
        self.set_theme(DARK if self.theme is LIGHT else LIGHT)

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
        ):
            part.set_theme(theme)
        if self.apart is not None:
            self.apart.set_theme(theme)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.fit()

    # --- from outside -------------------------------------------------------------------

    def ask_picture(self) -> None:
        """Asks for a picture, for the selected image or as a new one."""
        kinds = " ".join(f"*{suffix}" for suffix in outside.PICTURE_SUFFIXES)
        self._ask_outside("Place a picture", f"Pictures ({kinds})")

    def ask_font(self) -> None:
        self._ask_outside("Carry a font in the file", "Fonts (*.ttf *.otf)")

    def _ask_outside(self, title: str, kinds: str) -> None:
        name, _ = QFileDialog.getOpenFileName(self, title, "", kinds)
        if name:
            outside.bring(self.session, FilePath(name))

    def can_paste(self) -> bool:
        clipboard = QApplication.clipboard()
        data = clipboard.mimeData() if clipboard is not None else None
        return data is not None and (data.hasImage() or bool(brought(data)))

    def paste(self) -> None:
        """Places the picture that is on the clipboard."""
        clipboard = QApplication.clipboard()
        if clipboard is None:
            return
        files = brought(clipboard.mimeData())
        for path in files:
            outside.bring(self.session, path)
        image = clipboard.image()
        if not files and not image.isNull():
            held = QBuffer()
            held.open(QBuffer.OpenModeFlag.WriteOnly)
            image.save(held, "PNG")
            outside.place(self.session, held.data().data(), "Pasted picture.png")

    # --- files --------------------------------------------------------------------------

    def save(self) -> bool:
        return self.session.save() if self.session.path is not None else self.save_as()

    def save_as(self) -> bool:
        """Asks for a name; False if none was given or saving failed."""
        start = str(self.session.path or f"{self.session.document.name}{SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(self, "Save", start, _FILTER)
        if not name:
            return False
        path = FilePath(name if name.endswith(SUFFIX) else name + SUFFIX)
        return self.session.save(path)

    def ask_open(self) -> None:
        """Asks for a file and shows it in a window of its own."""
        name, _ = QFileDialog.getOpenFileName(self, "Open", "", _FILTER)
        if name:
            self.open_file(FilePath(name))

    def open_file(self, path: FilePath) -> None:
        """Shows a file in a window of its own; says why if it cannot be read, and leaves
        the work in hand as it is."""
        try:
            load(path)
        except FileProblem as problem:
            self.session.failed.emit(str(problem))
            return
        if self._reopen is not None:
            self._reopen(path)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.gathering.close_down()
        if event is None or not self.session.unsaved:
            return
        buttons = QMessageBox.StandardButton
        answer = self._ask_unsaved()
        if answer == buttons.Cancel or (answer == buttons.Save and not self.save()):
            event.ignore()

    def _ask_unsaved(self) -> QMessageBox.StandardButton:
        buttons = QMessageBox.StandardButton
        return QMessageBox.question(
            self,
            "Not saved",
            f"“{self.session.document.name}” has changes that are not saved.",
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )
