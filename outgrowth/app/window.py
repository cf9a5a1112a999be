"""The main window: puts the panels around the bench and lets the actions be done."""

from __future__ import annotations

from functools import partial
from pathlib import Path as FilePath
from typing import Protocol

from PyQt6.QtCore import QByteArray, QMimeData, QPoint, Qt, QUrl
from PyQt6.QtGui import QAction, QCloseEvent, QDesktopServices, QKeySequence, QShowEvent
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QMainWindow,
    QMenu,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.benches.bench import Bench
from outgrowth.app.benches.canvas import Canvas
from outgrowth.app.benches.gather import GatherBench
from outgrowth.app.benches.grid import GridBench, VariantGrid
from outgrowth.app.benches.pen import Pen
from outgrowth.app.benches.start import StartBench
from outgrowth.app.benches.tokens import TokensBench
from outgrowth.app.commands import commands
from outgrowth.app.dialogs.chooser import IconChooser, ScreenChooser
from outgrowth.app.dialogs.find import Candidate, Finder
from outgrowth.app.dialogs.shortcuts import Shortcuts
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
from outgrowth.app.panels.tour import Tour
from outgrowth.app.panels.uses import Uses
from outgrowth.app.papers import FILTER, Papers
from outgrowth.app.session import Session, clipboard, deeds, making, outside
from outgrowth.app.session.making import Icon
from outgrowth.app.session.shelf import Shelf
from outgrowth.app.theme import DARK, LIGHT, Theme
from outgrowth.app.theme.sheet import dress, install
from outgrowth.core.document.records import Component, Path, walk
from outgrowth.core.document.variants import Variant, offered, variants
from outgrowth.core.edits import EditError
from outgrowth.core.edits.drawing import Thing
from outgrowth.core.exchange import folder
from outgrowth.core.exchange.native import FileProblem, load
from outgrowth.resources import GUIDE

_IN_CONTEXT = ("Edit", "Parts", "Places", "Variants")
_NOT_HERE = ("undo", "redo", "deepest", "rename")
"""Actions of these groups that have nothing to do with a place on the bench."""


_MOST_FACES = 40
"""Faces that are not offered and can be found by name."""


def face_said(component: Component, variant: Variant) -> str:
    """A face by the names of its values: “Primary · hover”."""
    values = (axis.value(variant[axis.id]) for axis in component.axes)
    return " · ".join(value.name for value in values if value is not None)


class DeskOf(Protocol):
    """What a window asks of the program that holds it."""

    def new(self) -> object: ...
    def tour(self) -> object: ...
    def reopen(self, path: FilePath, by: MainWindow) -> object: ...


class MainWindow(QMainWindow):
    """One document in one window.

    desk   opens other windows; None where there is only this one
    shelf  what is kept between runs
    """

    def __init__(
        self,
        session: Session,
        theme: Theme,
        desk: DeskOf | None = None,
        shelf: Shelf | None = None,
    ) -> None:
        super().__init__()
        self.session = session
        self.theme = theme
        self._desk = desk
        self.shelf = shelf or Shelf(None)
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
        self.draw_strip = DrawStrip(self.pen, theme, self.ask_icon, self.ask_picture)
        self.notice = NoticeStrip()
        self.papers = Papers(session, self, self.notice, self.shelf)
        self.icons = IconChooser(self, theme)
        self.screens = ScreenChooser(self, theme)
        self.tour = Tour(session, self)
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
        for bench in (self.gathering, self.start, self.tokens):
            self.bench.addWidget(bench)
        work = QSplitter(Qt.Orientation.Horizontal)
        work.addWidget(self._side())
        work.addWidget(self.bench)
        middle = QWidget()
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.notice)
        column.addWidget(self.tour)
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
        self.tokens.left.connect(self._bench_changed)
        self.tokens.visited.connect(self._visit)
        self.start.asked.connect(self.do)
        self.start.opened.connect(lambda path: self.open_file(FilePath(path)))
        self.icons.chosen.connect(self._icon_chosen)
        self.screens.chosen.connect(lambda device: making.new_screen(session, device))
        self.library.made.connect(self.do)
        self.rules.edited.connect(self.edit_value)
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

    def edit_value(self, name: str) -> None:
        """Turns to the ledger's row of a property, ready to be typed in."""
        self.sheet_tabs.choose("Ledger")
        self.ledger.refresh()
        self.ledger.attend_to(name)

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
        at = next(
            (
                n
                for n, p in enumerate(seen)
                if now is not None and (p is now or p.isAncestorOf(now))
            ),
            len(seen) - 1 if now is not None and self.ledger.isAncestorOf(now) else -1,
        )
        seen[(at + by) % len(seen)].setFocus(Qt.FocusReason.TabFocusReason)

    def _visit(self, owner: str, path: Path) -> None:
        self.session.open(owner)
        self.session.select(path or None)

    def _bench_changed(self) -> None:
        on_screen, nothing = self.session.screen is not None, self.session.owner is None
        self.gathering.halt()
        self._set_aside(nothing)
        if nothing:
            self.start.build()
        bench = self.start if nothing else self.canvas if on_screen else self.grid_bench
        self.bench.setCurrentWidget(bench)
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

    @property
    def surface(self) -> Bench:
        """The bench that is worked at: a screen's or a component's."""
        return self.canvas if self.session.screen is not None else self.grid

    def edit_words(self) -> None:
        """Edits the selected text where it stands."""
        self.surface.edit_words()

    def pick_deepest(self) -> None:
        """Selects the innermost part under the pointer."""
        bench = self.canvas if self.session.screen is not None else self.grid
        bench.pick_deepest()

    def draw(self, thing: Thing) -> None:
        """Draws something where the selection is; words are typed at once."""
        if making.draw(self.session, thing):
            self.surface.setFocus()
            if thing == "text":
                self.surface.edit_words()

    def ask_icon(self) -> None:
        """Asks for an icon of the shipped set."""
        self.icons.theme = self.theme
        self.icons.begin(self._below(self.strip.find_field))

    def _icon_chosen(self, icon: Icon) -> None:
        making.place_icon(self.session, icon)
        self.surface.setFocus()

    def ask_screen(self) -> None:
        """Asks for the size of a new screen."""
        self.screens.theme = self.theme
        self.screens.begin(self._below(self.strip.find_field))

    def rename(self) -> None:
        """Renames what has the focus: in the Library, or the selected part."""
        if self.library.list.hasFocus():
            self.library.list.edit(self.library.list.currentIndex())
        else:
            self.layers.rename()

    def find_layer(self) -> None:
        """Types into the field above the layers."""
        self.layers.search.setFocus()

    def show_tokens(self) -> None:
        """Puts the bench of tokens in the middle."""
        self._set_aside(True)
        self.bench.setCurrentWidget(self.tokens)
        self.tokens.refresh()
        self.tokens.setFocus()

    def show_tour(self) -> None:
        """The ten steps, on a copy of the demo."""
        if self._desk is not None:
            self._desk.tour()

    def show_guide(self) -> None:
        """Opens the guide that ships with the program."""
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(GUIDE)))

    def find_or_do(self) -> None:
        """Opens find or do under its field."""
        self.finder.ask(self.candidates(), self._below(self.strip.find_field))

    def _below(self, field: QWidget) -> QPoint:
        return field.mapToGlobal(QPoint(field.width() // 2, field.height() + 4))

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
        if component is not None:
            hidden = [v for v in variants(component) if not offered(component, v)]
            for variant in hidden[:_MOST_FACES]:
                act = partial(deeds.offer, session, variant, True)
                found.append(
                    Candidate(f"Offer the face {face_said(component, variant)}", "face", act)
                )
        if session.owner is not None:
            for node in walk(session.owner.root):
                path = () if node is session.owner.root else (node.id,)
                found.append(Candidate(node.name, "part here", partial(session.select, path)))
        for name, row in self.ledger.rows.items():
            act = partial(self.edit_value, name)
            found.append(Candidate(row.editor.title, "value of the selection", act))
        for token in sorted(document.tokens):
            found.append(Candidate(token, "token", partial(self.show_token, token)))
        return found

    def show_token(self, path: str) -> None:
        """The bench of tokens, at one of them."""
        self.show_tokens()
        self.tokens.attend_to(path)

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
        self.side.setVisible(not aside)
        self.reach_bar.setVisible(not aside)

    def context_menu(self, spot: QPoint) -> None:
        """What can be done with the selection, at a point of the screen."""
        menu = QMenu(self)
        group = ""
        for action in self.actions_list:
            if action.group in _IN_CONTEXT and action.id not in _NOT_HERE and action.enabled():
                if action.group != group and not menu.isEmpty():
                    menu.addSeparator()
                group = action.group
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
        recent = [path for path in self.shelf.recent if path != self.session.path]
        if recent:
            menu.addSeparator()
        for path in recent:
            shown = menu.addAction(path.name)
            if shown is not None:
                shown.setToolTip(str(path))
                shown.triggered.connect(partial(self.open_file, path))
        button = self.strip.file
        menu.exec(button.mapToGlobal(button.rect().bottomLeft()))

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
        else:
            self.grid_bench.look_at_selection()

    def _grid_zoom(self, zoom: float) -> None:
        self.grid.set_zoom(zoom)
        self.status.show_zoom(zoom)

    def switch_theme(self) -> None:
        """The other look, kept from now on."""
        self.shelf.put("theme", "dark" if self.theme is LIGHT else "light")
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

    # --- from outside -------------------------------------------------------------------

    def ask_picture(self) -> None:
        """Asks for a picture or a drawing, for the selected image or as a new part."""
        suffixes = (*outside.PICTURE_SUFFIXES, outside.DRAWING_SUFFIX)
        kinds = " ".join(f"*{suffix}" for suffix in suffixes)
        self._ask_outside("Place a picture or a drawing", f"Pictures and drawings ({kinds})")

    def ask_font(self) -> None:
        self._ask_outside("Carry a font in the file", "Fonts (*.ttf *.otf)")

    def _ask_outside(self, title: str, kinds: str) -> None:
        name, _ = QFileDialog.getOpenFileName(self, title, "", kinds)
        if name:
            outside.bring(self.session, FilePath(name))

    def can_paste(self) -> bool:
        return clipboard.takes(_held())

    def copy(self) -> None:
        """Puts the selected parts on the clipboard: as parts, as SVG and as a picture."""
        try:
            data = clipboard.mime(self.session)
        except EditError as problem:
            self.session.failed.emit(str(problem))
            return
        board = QApplication.clipboard()
        if data is not None and board is not None:
            board.setMimeData(data)

    def cut(self) -> None:
        self.copy()
        deeds.remove(self.session)

    def paste(self) -> None:
        """Puts down what is on the clipboard."""
        data = _held()
        if data is not None:
            clipboard.paste(self.session, data)

    def paste_look(self) -> None:
        """Gives the selected parts the look of the copied one."""
        data = _held()
        if data is not None and data.hasFormat(clipboard.PARTS):
            clipboard.paste_look(self.session, data)
        else:
            self.session.failed.emit("Copy a part first: its look can then be pasted.")

    # --- files --------------------------------------------------------------------------

    def save(self) -> bool:
        return self.papers.save()

    def save_as(self) -> bool:
        return self.papers.save_as()

    def save_folder(self) -> bool:
        return self.papers.save_folder()

    def new_file(self) -> None:
        """An empty file in a window of its own; in this one, if it is empty too."""
        if self._desk is not None:
            self._desk.new()

    def same_again(self) -> None:
        """The saved file once more, in another window."""
        if self.session.path is not None:
            self.open_file(self.session.path)
        else:
            self.session.failed.emit("Save the file first; then it can be opened once more.")

    def ask_open(self) -> None:
        """Asks for a file and shows it in a window of its own."""
        name, _ = QFileDialog.getOpenFileName(self, "Open", "", FILTER)
        if name:
            path = FilePath(name)
            self.open_file(path.parent if path.name == folder.HEAD else path)

    def open_file(self, path: FilePath) -> None:
        """Shows a file in a window of its own; says why if it cannot be read, and leaves
        the work in hand as it is."""
        try:
            load(path)
        except FileProblem as problem:
            self.session.failed.emit(str(problem))
            return
        if self._desk is not None:
            self._desk.reopen(path, self)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.gathering.close_down()
        self.keep_layout()
        if event is not None and not self.papers.ask_unsaved():
            event.ignore()

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
        if isinstance(held, str):
            self.restoreGeometry(QByteArray.fromBase64(held.encode()))
        for name, split in self._splits.items():
            sizes = self.shelf.get(f"split {name}")
            if isinstance(sizes, list) and len(sizes) == split.count():
                split.setSizes([size for size in sizes if isinstance(size, int)])


def _held() -> QMimeData | None:
    board = QApplication.clipboard()
    return board.mimeData() if board is not None else None


def _holds(panel: QWidget, widget: QWidget) -> bool:
    return panel is widget or panel.isAncestorOf(widget)
