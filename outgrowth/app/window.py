"""The main window: puts the panels around the bench and lets the actions be done."""

from __future__ import annotations

from functools import partial
from pathlib import Path as FilePath
from typing import Protocol

from PyQt6.QtCore import QMimeData, QPoint, Qt
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QMenu,
    QWidget,
)

from outgrowth.app.commands import commands
from outgrowth.app.dialogs.chooser import IconChooser, ScreenChooser
from outgrowth.app.dialogs.find import Finder
from outgrowth.app.dialogs.guide import Guide
from outgrowth.app.dialogs.shortcuts import Shortcuts
from outgrowth.app.finding import candidates
from outgrowth.app.frame import Frame
from outgrowth.app.panels.live import Live
from outgrowth.app.panels.tour import Tour
from outgrowth.app.papers import FILTER, Papers
from outgrowth.app.session import Session, clipboard, deeds, making, outside
from outgrowth.app.session.making import Icon
from outgrowth.app.session.shelf import Shelf
from outgrowth.app.theme import DARK, LIGHT, Theme
from outgrowth.core.document.records import Path
from outgrowth.core.document.refusal import Refusal
from outgrowth.core.edits.drawing import Thing
from outgrowth.core.exchange.native import FileProblem, folder, load
from outgrowth.core.exchange.native.disk import called

_IN_CONTEXT = ("Edit", "Parts", "Places", "Variants")
_NOT_HERE = ("undo", "redo", "deepest", "rename")
"""Actions of these groups that have nothing to do with a place on the bench."""


class DeskOf(Protocol):
    """What a window asks of the program that holds it."""

    def new(self) -> object: ...
    def tour(self) -> object: ...
    def set_theme(self, theme: Theme) -> None: ...
    def reopen(self, path: FilePath, by: MainWindow) -> object: ...


class MainWindow(Frame):
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
        super().__init__(session, theme, shelf or Shelf(None))
        self._desk = desk
        self.papers = Papers(session, self, self.notice, self.shelf)
        self.icons = IconChooser(self, theme)
        self.screens = ScreenChooser(self, theme)
        self.tour = Tour(session, self)
        self.middle.insertWidget(1, self.tour)
        self.finder = Finder(self)
        self.actions_list = commands(session, self)
        self._connect()
        self._install_actions()
        self.show_bench()
        self._retitle()

    def _connect(self) -> None:
        session = self.session
        self.library.opened.connect(session.open)
        self.live.apart.connect(self.live_apart)
        self.ledger.visited.connect(session.open)
        self.ledger.picture_asked.connect(self.ask_picture)
        self.cue_board.framed.connect(self.grid.show_frame)
        for bench in (self.grid, self.canvas):
            bench.cue_dropped.connect(self.cue_board.carry)
        self.status.cues_asked.connect(self.toggle_cues)
        self.gathering.left.connect(self.show_bench)
        self.tokens.left.connect(self.show_bench)
        self.tokens.visited.connect(self._visit)
        self.start.asked.connect(self.do)
        self.start.opened.connect(lambda path: self.open_file(FilePath(path)))
        self.icons.chosen.connect(self._icon_chosen)
        self.screens.chosen.connect(lambda device: making.new_screen(session, device))
        self.library.made.connect(self.do)
        self.draw_strip.asked.connect(self.do)
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
        session.selection_changed.connect(self.show_bench)
        session.selection_changed.connect(self._retitle)
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

    def _visit(self, owner: str, path: Path) -> None:
        self.session.open(owner)
        self.session.select(path or None)

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
        if not action.enabled():
            return
        try:
            action.act()
        except Refusal as problem:
            self.session.cancel_drag()
            self.session.failed.emit(str(problem))

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

    def hold_time(self) -> None:
        """Lets time in Live stand still, or go on."""
        self.live.stage.hold(not self.live.stage.held)

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

    def switch_theme(self) -> None:
        """The other look for all windows, kept from now on."""
        theme = DARK if self.theme is LIGHT else LIGHT
        self.shelf.put("theme", theme.name)
        if self._desk is not None:
            self._desk.set_theme(theme)
        else:
            self.set_theme(theme)

    def show_tour(self) -> None:
        """The ten steps, on a copy of the demo."""
        if self._desk is not None:
            self._desk.tour()

    def show_guide(self) -> None:
        """Opens the guide that ships with the program."""
        guide = Guide(self)
        guide.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        guide.show()

    def find_or_do(self) -> None:
        """Opens find or do under its field."""
        self.finder.ask(candidates(self), self._below(self.strip.find_field))

    def _below(self, field: QWidget) -> QPoint:
        return field.mapToGlobal(QPoint(field.width() // 2, field.height() + 4))

    def show_token(self, path: str) -> None:
        """The bench of tokens, at one of them."""
        self.show_tokens()
        self.tokens.attend_to(path)

    def visit_component(self) -> None:
        """Goes to the component of the selected instance; Shift+F9 leads back."""
        component = deeds.component_here(self.session)
        if component is not None:
            self.session.open(component.id)

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
            shown = menu.addAction(called(path))
            if shown is not None:
                shown.setToolTip(str(path))
                shown.triggered.connect(partial(self.open_file, path))
        button = self.strip.file
        menu.exec(button.mapToGlobal(button.rect().bottomLeft()))

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
        except Refusal as problem:
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
            if self._desk is not None:
                self._desk.reopen(path, self)
            else:
                load(path)
        except FileProblem as problem:
            self.session.failed.emit(str(problem))

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.gathering.close_down()
        self.keep_layout()
        if event is not None and not self.papers.ask_unsaved():
            event.ignore()


def _held() -> QMimeData | None:
    board = QApplication.clipboard()
    return board.mimeData() if board is not None else None
