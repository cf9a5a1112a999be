"""The main window: puts the panels around the bench and lets the actions be done."""

from __future__ import annotations

from functools import partial
from pathlib import Path as FilePath
from typing import Protocol

from PyQt6.QtCore import QPoint, QPointF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QKeyEvent, QKeySequence, QShowEvent
from PyQt6.QtWidgets import QMenu, QWidget

from outgrowth.app.bench_view import BenchView
from outgrowth.app.clipboard import SystemClipboard
from outgrowth.app.dialogs.find import Finder
from outgrowth.app.dialogs.gallery import Gallery
from outgrowth.app.dialogs.guide import GuideDialog
from outgrowth.app.dialogs.rename import RenameDialog
from outgrowth.app.dialogs.shortcuts import Shortcuts
from outgrowth.app.drawing_controller import DrawingController, below
from outgrowth.app.file_controller import FileController, OtherWindows
from outgrowth.app.hand_over_controller import HandOverController
from outgrowth.app.job import JobRunner
from outgrowth.app.library_connector import LibraryConnector
from outgrowth.app.page_controller import PageController
from outgrowth.app.panels.tour import Tour
from outgrowth.app.review_controller import ReviewController
from outgrowth.app.team_controller import TeamController
from outgrowth.app.theme import DARK, LIGHT, Theme, builders
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.document.records import Path
from outgrowth.core.document.variants import Variant, default_variant
from outgrowth.core.exchange.native.disk import called
from outgrowth.core.refusal import Refusal
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import naming_commands
from outgrowth.workspace.commands.action import Action
from outgrowth.workspace.commands.actions import commands
from outgrowth.workspace.commands.hands import Hands
from outgrowth.workspace.commands.naming_commands import Renamable
from outgrowth.workspace.commands.part_menu import part_menu
from outgrowth.workspace.commands.reasons import is_of_selection, why_off
from outgrowth.workspace.reaching import in_all
from outgrowth.workspace.team import Colleagues
from outgrowth.workspace.user_state import UserState
from outgrowth.workspace.views.fillings import Fillings, exchange_fillings
from outgrowth.workspace.views.search_results import (
    Candidate,
    candidates,
    team_candidates,
    typed_candidates,
)

# Until the first picture of a window is there, and its panels are full.
_SETTLED_MS = 400


class ManyWindows(OtherWindows, Protocol):
    """What a window asks of the program that holds it."""

    def tour(self) -> object: ...
    def set_theme(self, theme: Theme) -> None: ...


class MainWindow(WindowFrame):
    """One document in one window.

    windows      opens other windows; None where there is only this one
    user_state   what is kept between runs
    colleagues   who publish when they are asked to: those of a demonstration

    closed   emitted when nothing can keep the window open any more
    """

    closed = pyqtSignal()

    def __init__(
        self,
        workspace: Workspace,
        theme: Theme,
        windows: ManyWindows | None = None,
        user_state: UserState | None = None,
        colleagues: Colleagues | None = None,
    ) -> None:
        super().__init__(workspace, theme, user_state or UserState(None), colleagues)
        self._windows = windows
        self.files = FileController(workspace, self, self.notice, self.user_state, windows)
        self.view = BenchView(self)
        self.drawing = DrawingController(self, self.view)
        jobs = JobRunner(self)
        self.connector = LibraryConnector(self, jobs)
        self.team_controller = TeamController(self, jobs)
        self.handing_over = HandOverController(self, JobRunner(self))
        self.review = ReviewController(self)
        self.pages = PageController(self)
        self._first_shown = True
        self._told_gone = QTimer(self)
        self._told_gone.setSingleShot(True)
        self._told_gone.timeout.connect(self.files.tell_gone)
        self.tour = Tour(workspace, self.run_action)
        self.middle.insertWidget(1, self.tour)
        self.finder = Finder(self)
        self.finder.refused.connect(workspace.failed.emit)
        self.gallery = Gallery(self, workspace, self.rasters, self.theme)
        clipboard = SystemClipboard(workspace)
        self.actions_list = commands(
            workspace,
            Hands(
                self.files,
                self.drawing,
                self.view,
                self.live,
                self.cue_board,
                self.connector,
                self.team_controller,
                self.handing_over,
                self.review,
                self,
                clipboard,
            ),
        )
        self._connect()
        self._install_actions()
        self.view.show_bench()
        self._retitle()

    def _connect(self) -> None:
        workspace = self.workspace
        self.library.opened.connect(workspace.open)
        self.overview.opened.connect(workspace.open)
        self.overview.stayed.connect(partial(self.view.show, "overview"))
        self.map.opened.connect(workspace.open)
        self.overview.part_asked.connect(self.team_controller.show_part)
        self.overview.pattern_asked.connect(self.ask_pattern)
        self.ledger.visited.connect(workspace.open)
        self.ledger.exchange_asked.connect(self.exchange)
        self.ledger.filling_asked.connect(self.fill)
        self.ledger.picture_asked.connect(self.drawing.ask_picture)
        self.cue_board.framed.connect(self.grid.show_frame)
        for bench in (self.grid, self.canvas):
            bench.cue_dropped.connect(self.cue_board.carry)
        self.status.cues_asked.connect(self.cue_board.toggle)
        self.connector.news_wanted.connect(self.team_controller.show_news)
        self.team_controller.shown.connect(partial(self.view.show, "team"))
        self.team_controller.left.connect(self.view.show_bench)
        self.handing_over.shown.connect(partial(self.view.show, "hand-over"))
        self.handing_over.left.connect(self.view.show_bench)
        self.library.part_asked.connect(self.team_controller.show_part)
        self.library.unconnected.connect_asked.connect(self.connector.connect_as_named)
        self.library.origin_actions = self.team_controller.origin_actions
        self.files.together_asked.connect(self.team_controller.show_together)
        self.status.news_asked.connect(self.team_controller.show_news)
        self.review.shown.connect(self.view.show)
        self.review.left.connect(self.view.show_bench)
        self.look_bench.visited.connect(self._visit_face)
        self.status.look_asked.connect(self.review.show_look)
        for aside in (
            self.gathering,
            self.tokens,
            self.words,
            self.overview,
            self.map,
            self.differences,
        ):
            aside.left.connect(self.view.show_bench)
        for visited in (self.tokens.visited, self.words.visited, self.map.visited):
            visited.connect(self._visit)
        self.start.action_asked.connect(self.run_action)
        self.start.opened.connect(lambda path: self.files.open(FilePath(path)))
        self.library.new_requested.connect(self.run_action)
        self.library.pattern_asked.connect(self.ask_pattern)
        self.draw_strip.action_asked.connect(self.run_action)
        self.rules.edited.connect(self.edit_value)
        self.large_rules.edited.connect(self._edit_from_rules)
        self.uses.visited.connect(self._visit)
        self.opened.pointed.connect(self.grid.light)
        self.ledger.attended.connect(self.reach_bar.attend)
        self.ledger.attended.connect(self.grid.attend)
        self.strip.left.connect(self.view.take_focus)
        self.strip.find_asked.connect(self.find_or_do)
        self.strip.menu_asked.connect(self._file_menu)
        self.strip.theme_asked.connect(self.switch_theme)
        self.strip.undo_asked.connect(workspace.undo)
        self.strip.redo_asked.connect(workspace.redo)
        self.status.fit_asked.connect(self.view.fit)
        workspace.naming_due.connect(self._name_soon)
        self.status.panels_asked.connect(lambda: self.folding.set_away(()))
        self.folding.changed.connect(lambda: self.status.show_away(self.folding.away))
        self.grid_bench.zoomed.connect(lambda: self.status.show_zoom(self.grid.zoom))
        self.canvas.zoomed.connect(lambda: self.status.show_zoom(self.canvas.zoom))
        workspace.selection_changed.connect(self.view.follow_selection)
        workspace.selection_changed.connect(self._retitle)
        workspace.history_changed.connect(self._retitle)
        for part in (self.canvas, self.grid, self.layers.list):
            part.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
            part.customContextMenuRequested.connect(
                lambda point, widget=part: self._show_menu(widget, point)
            )

    def edit_value(self, name: str) -> None:
        """Turns to the ledger's row of a property, ready to be typed in."""
        self.sheet_tabs.choose("Ledger")
        self.ledger.refresh()
        self.ledger.attend_to(name)

    def _edit_from_rules(self, name: str) -> None:
        self.view.show_bench()
        self.edit_value(name)

    def _visit(self, owner: str, path: Path) -> None:
        self.workspace.open(owner)
        self.workspace.select(path or None)

    def _visit_face(self, owner: str, path: Path, face: Variant) -> None:
        """Goes to a part, in the variant in which something is to be seen."""
        self.workspace.open(owner)
        component = self.workspace.component
        variant = default_variant(component).update(face) if component is not None else None
        self.workspace.select(path or None, variant)

    def _retitle(self) -> None:
        mark = "• " if self.workspace.unsaved else ""
        self.setWindowTitle(f"{mark}{self.workspace.document.name} · Outgrowth")

    # --- actions ------------------------------------------------------------------------

    def _install_actions(self) -> None:
        for action in self.actions_list:
            qt_action = QAction(action.title, self)
            if action.shortcut:
                qt_action.setShortcut(QKeySequence(action.shortcut))
            qt_action.triggered.connect(lambda _=False, a=action: self.run_action(a.id))
            self.addAction(qt_action)

    def run_action(self, action_id: str) -> None:
        """Does an action by its id, if it can be done now."""
        action = next(a for a in self.actions_list if a.id == action_id)
        if not action.enabled():
            self.workspace.failed.emit(why_off(action))
            return
        if self.view.is_behind and is_of_selection(action):
            self.workspace.failed.emit(f"{action.title}: go back to the bench first, with Esc.")
            return
        before, told = self.workspace.document, self.status.message.text()
        try:
            action.run()
        except Refusal as problem:
            self.workspace.cancel_drag()
            self.workspace.failed.emit(str(problem))
            return
        silent = self.status.message.text() == told
        if action.group == "Places" and self.workspace.document is before and silent:
            self.workspace.failed.emit(f"{action.title}: nothing was changed, it is so already.")

    def _name_soon(self, made: str) -> None:
        """Asks for a name once what was just made has its place, if nothing else is done first."""
        selection = self.workspace.selection

        def ask() -> None:
            if self.workspace.selection == selection:
                self.view.name_part(made)

        QTimer.singleShot(0, ask)

    def rename(self) -> None:
        """Renames what has the focus: in the Library, or the selected part."""
        if naming_commands.selected_parts(self.workspace) is not None:
            self.rename_several()
        elif self.overview.isVisible():
            self.overview.rename()
        elif self.library.list.hasFocus():
            self.library.list.edit(self.library.list.currentIndex())
        elif self.layers.list.hasFocus():
            self.layers.rename()
        else:
            self.view.name_part()

    def rename_several(self) -> None:
        """Asks for a pattern: for the selected parts, else for the components of the file, or its
        screens where the Library shows those."""
        screens = self.library.model.tab == "Screens"
        parts = naming_commands.selected_parts(self.workspace)
        self.ask_pattern(parts or naming_commands.owners_of(self.workspace, screens))

    def ask_pattern(self, meant: Renamable) -> None:
        """Asks for a pattern by which these are renamed."""
        RenameDialog(self, self.workspace, meant).open()

    def name_file(self) -> None:
        """Asks for the file's name where it stands."""
        self.strip.name_file()

    def find_layer(self) -> None:
        """Types into the field above the layers."""
        self.layers.search.setFocus()

    def switch_theme(self) -> None:
        """The other look for all windows, kept from now on."""
        theme = DARK if self.theme is LIGHT else LIGHT
        self.user_state.put("theme", theme.name)
        if self._windows is not None:
            self._windows.set_theme(theme)
        else:
            self.set_theme(theme)

    def show_tour(self) -> None:
        """The ten steps, on a copy of the demo."""
        if self._windows is not None:
            self._windows.tour()

    def show_guide(self) -> None:
        """Opens the guide that ships with the program."""
        GuideDialog(self).show()

    def find_or_do(self) -> None:
        """Opens find or do under its field."""
        typed = partial(typed_candidates, self.workspace)
        self.finder.ask(self.candidates(), below(self.strip.find_field), typed)

    def exchange(self) -> None:
        """Offers what the selected instances can follow instead, by picture."""
        fillings = exchange_fillings(self.workspace)
        if fillings is not None:
            self.fill(fillings)

    def fill(self, fillings: Fillings) -> None:
        """Offers what can stand somewhere, by picture."""
        self.gallery.theme = self.theme
        self.gallery.begin(fillings, below(self.strip.find_field))

    def candidates(self) -> list[Candidate]:
        """Everything that can be found or done here by name."""
        values = (
            (row.editor.title, partial(self.edit_value, name))
            for name, row in self.ledger.rows.items()
        )
        found = candidates(self.workspace, self.actions_list, values, self.show_token)
        return found + team_candidates(
            self.workspace, self.team.libraries, self.team_controller.show_part
        )

    def show_token(self, path: str) -> None:
        """The bench of tokens, at one of them."""
        self.view.show("tokens")
        self.tokens.attend_to(path)

    def _show_menu(self, widget: QWidget, point: QPoint) -> None:
        """What can be done at a point of a bench or a list: with a heading, or the selection."""
        heading = self.grid.headings.menu(QPointF(point)) if widget is self.grid else None
        if heading is not None:
            builders.show_menu(heading, widget.mapToGlobal(point))
        else:
            self.context_menu(widget.mapToGlobal(point))

    def context_menu(self, point: QPoint) -> None:
        """What can be done with the selection, at a point of the screen."""
        menu = self.part_menu()
        if not menu.isEmpty():
            builders.show_menu(menu, point)

    def part_menu(self) -> QMenu:
        """The menu of what is selected, in one column."""
        menu = QMenu(self)
        for part in part_menu(self.actions_list):
            if not menu.isEmpty():
                menu.addSeparator()
            for line in part:
                if isinstance(line, Action):
                    self._add_entry(menu, line)
                elif (inner := menu.addMenu(line.title)) is not None:
                    for action in line.actions:
                        self._add_entry(inner, action)
        return menu

    def _add_entry(self, menu: QMenu, action: Action) -> None:
        entry = menu.addAction(action.title + (in_all(self.workspace) if action.of_all else ""))
        if entry is not None:
            entry.setShortcut(QKeySequence(action.shortcut))
            entry.triggered.connect(partial(self.run_action, action.id))

    def show_keys(self) -> None:
        """Lists all actions with their keys."""
        Shortcuts(self.actions_list, self).open()

    def _file_menu(self) -> None:
        menu = QMenu(self)
        for action in self.actions_list:
            if action.group == "File":
                self._add_entry(menu, action)
        recent = [path for path in self.user_state.recent if path != self.workspace.path]
        if recent:
            menu.addSeparator()
        for path in recent:
            entry = menu.addAction(called(path))
            if entry is not None:
                entry.setToolTip(str(path))
                entry.triggered.connect(partial(self.files.open, path))
        button = self.strip.file
        builders.show_menu(menu, button)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        # What no field and no list has a use for lets go of them.
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.view.take_focus()
        else:
            super().keyPressEvent(event)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        if self._first_shown:
            self._first_shown = False
            self._told_gone.start(_SETTLED_MS)
        self.view.fit()
        if self.focusWidget() is None:
            self.view.take_focus()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is not None and not self.files.ask_unsaved():
            event.ignore()
            return
        self.close_down()
        self.keep_layout()
        self.closed.emit()

    def close_down(self) -> None:
        """Ends what is still done beside the window."""
        self.gathering.close_down()
        self.connector.close_down()
        self.handing_over.close_down()
        self.review.close_down()
        self.pages.close_down()
        self.reading.close_down()
