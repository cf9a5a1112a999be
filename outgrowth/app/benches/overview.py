"""The bench of the overview: all components with every variant, filed, ordered, renamed,
described, compared, and printed as documentation."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial

from PyQt6.QtCore import QPoint, QPointF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QInputDialog, QMenu, QStackedWidget, QWidget

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.beside import BesideView
from outgrowth.app.benches.overview_view import Drop, OverviewView
from outgrowth.app.fields.choice import DropDown
from outgrowth.app.fields.name_line import NameLine
from outgrowth.app.fields.words import WordsField
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.library_pictures import LibraryPictures
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Component
from outgrowth.core.document.variants import offered_count
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import library_commands, naming_commands
from outgrowth.workspace.commands.naming_commands import Renamable
from outgrowth.workspace.measures import instances_of, is_counted
from outgrowth.workspace.team import Team
from outgrowth.workspace.views.library_rows import (
    NO_FOLDER,
    LibraryRow,
    library_rows,
    team_rows,
)
from outgrowth.workspace.views.status_text import count_text

_ABOUT = "All components with every variant: to look at, file, order, name, describe and print."
_ALL, _TEAM = "", "//team"
_WAIT_MS = 250
_MOST_COMPARED = 6


class OverviewBench(AsideBench):
    """opened(str)              a component of the file is to go on the bench
    part_asked(str, str)     a library's part that is not in the file: the library and the part
    pattern_asked(Renamable)  several are to be renamed by a pattern
    stayed()                 what was on the bench behind may have gone; the overview stays
    pages_asked(tuple, bool) these components are to be printed, as pictures or else as PDF
    """

    opened = pyqtSignal(str)
    part_asked = pyqtSignal(str, str)
    pattern_asked = pyqtSignal(object)
    stayed = pyqtSignal()
    pages_asked = pyqtSignal(object, bool)

    def __init__(self, workspace: Workspace, team: Team, rasters: Rasters, theme: Theme) -> None:
        super().__init__("Overview", _ABOUT)
        self._workspace = workspace
        self._team = team
        self._shown_for: object = None
        self._counts: Mapping[str, int] | None = None
        self._pictures = LibraryPictures(workspace, rasters, team)
        self._fill_strip()
        self.view = OverviewView(self._pictures, theme)
        self.view.note = self._note
        self.compared = BesideView(workspace, rasters, theme)
        self.middle = QStackedWidget()
        self.middle.addWidget(self.view)
        self.middle.addWidget(self.compared)
        self.page.addWidget(self.middle, 1)
        self.foot = self._foot()
        self.page.addWidget(self.foot)
        self.setFocusProxy(self.view)
        self.view.opened.connect(self._open)
        self.view.chosen_changed.connect(self._show_chosen)
        self.view.dropped.connect(self._drop)
        self.view.menu_asked.connect(lambda at: builders.show_menu(self.menu(), at))
        self._counting = QTimer(self)
        self._counting.setSingleShot(True)
        self._counting.timeout.connect(self._count)
        workspace.panels_due.connect(self.refresh)
        team.changed.connect(self.refresh)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.view.set_theme(theme)
        self.compared.set_theme(theme)

    # --- building -------------------------------------------------------------------------------

    def _fill_strip(self) -> None:
        row = self.add_strip()
        self.scope = DropDown(((_ALL, "This file"),), "Which components")
        self.scope.setFixedWidth(168)
        self.scope.show_value(_ALL)
        self.scope.edited.connect(lambda _: self.refresh())
        self.search = builders.line_edit("Search", "Search the overview", clears=True)
        self.search.setFixedWidth(168)
        self.search.textChanged.connect(lambda _: self.refresh())
        self.beside = builders.push_button("Compare", self.compare, look="firm")
        self.pattern = builders.push_button("Rename by pattern …", self._ask_pattern, look="firm")
        self.pages = builders.push_button("Print ▾", self._ask_pages, look="firm")
        for widget in (self.scope, self.search, self.beside, self.pattern, self.pages):
            row.addWidget(widget)

    def _foot(self) -> QWidget:
        foot = QWidget()
        dress(foot, "panel", "top")
        column = builders.column(foot, (12, 8, 12, 8), 4)
        self.title = builders.label(weight="bold", plain=True)
        self.description = WordsField("What it is for")
        self.description.edited.connect(self._describe)
        column.addWidget(self.title)
        column.addWidget(self.description)
        return foot

    # --- what is shown --------------------------------------------------------------------------

    def begin(self) -> None:
        """Takes the keys, with the component that is on the bench chosen."""
        self.refresh()
        owner = self._workspace.selection.owner
        row = next((row for row in self.view.rows if row.owner and row.owner == owner), None)
        if row is not None:
            self.view.choose([row])
            self.view.show_current()
        self.view.setFocus()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        if not self.isVisible():
            return
        document = self._workspace.document
        about = document.components, document.tokens, document.mode, document.component_order
        states = tuple(view.state for view in self._team.libraries)
        asked = self.scope.value, self.search.text()
        before, self._shown_for = self._shown_for, (about, states, asked)
        if before == self._shown_for:
            return
        self._offer_scopes()
        rows = self._rows(*asked)
        same = isinstance(before, tuple) and before[:2] == (about, states)
        self.view.show_rows(rows, changed=not same)
        self._counting.start(0 if before is None else _WAIT_MS)
        count = sum(bool(row.owner) for row in rows)
        self.summary.setText(count_text(count, "component"))
        if self.compared.isVisible():
            self.compared.refresh()

    def _offer_scopes(self) -> None:
        folders = [r.name for r in library_rows(self._workspace.document, False) if not r.owner]
        options = [(_ALL, "This file")]
        options += [(folder, folder) for folder in folders if folder != NO_FOLDER]
        if self._team.libraries:
            options.append((_TEAM, "The team’s"))
        self.scope.set_options(options)

    def _rows(self, scope: str, search: str) -> list[LibraryRow]:
        document = self._workspace.document
        if scope == _TEAM:
            return team_rows(document, self._team.libraries, search)
        rows = library_rows(document, False, search)
        if scope == _ALL:
            return rows
        names = {c.id: c.name.rpartition("/")[0] for c in document.in_order()}
        return [r for r in rows if (names[r.owner] if r.owner else r.name) == scope]

    def _note(self, row: LibraryRow) -> str:
        component = self._component(row)
        if component is None:
            return row.note
        count = offered_count(component)
        variants = count_text(count, "variant") if count > 1 else ""
        used = self._counts.get(row.owner, 0) if self._counts is not None else None
        if row.library:
            other = row.note
        elif used is None:
            other = ""
        else:
            other = f"{used:,} used" if used else "not used"
        return " · ".join(text for text in (variants, other) if text)

    def _count(self) -> None:
        if self.isVisible() and not is_counted(self._workspace):
            self._counting.start(0)
            return
        self._counts = instances_of(self._workspace)
        self.view.sight.update()

    def _component(self, row: LibraryRow | None) -> Component | None:
        document = self._pictures.document_of(row) if row is not None else None
        return document.components.get(row.owner) if document is not None and row else None

    def _show_chosen(self) -> None:
        current = self.view.current
        row = current.row if current is not None else None
        component = self._component(row)
        several = len(self.view.chosen)
        self.title.setText(
            "" if component is None else f"{several} chosen" if several > 1 else component.name
        )
        is_own = row is not None and not row.library
        self.description.setEnabled(is_own and component is not None)
        self.description.show_value(component.description if component is not None else "")
        self.description.setPlaceholderText("What it is for: a sentence for those who will use it")
        self.beside.setEnabled(self.compared.isVisible() or 2 <= several <= _MOST_COMPARED)
        self.beside.setToolTip(
            ""
            if self.beside.isEnabled()
            else "Choose two to six with Ctrl, then they are compared."
        )

    def chosen_rows(self) -> list[LibraryRow]:
        """Those that something is done with: the chosen ones in the overview's order, else the one
        that the keys are at."""
        chosen = self.view.chosen
        rows = [c.row for c in self.view.cards if (c.row.library, c.row.owner) in chosen]
        current = self.view.current
        return rows or ([current.row] if current is not None else [])

    def _own(self) -> list[str]:
        """The chosen components that are the file's, by id."""
        return [row.owner for row in self.chosen_rows() if not row.library]

    # --- what is done ---------------------------------------------------------------------------

    def _open(self, row: LibraryRow) -> None:
        if row.library and row.owner not in self._workspace.document.components:
            self.part_asked.emit(row.library, row.owner)
        else:
            self.leave_bench()
            self.opened.emit(row.owner)

    def _describe(self, text: str) -> None:
        current = self.view.current
        if current is not None and not current.row.library:
            library_commands.describe(self._workspace, current.row.owner, text)

    def _drop(self, drop: Drop) -> None:
        library_commands.move_all_to(self._workspace, self._own(), drop.folder, drop.after)
        self.refresh()

    def compare(self) -> None:
        """Shows the chosen ones beside each other, or all of them again."""
        if self.middle.currentWidget() is self.compared:
            self.middle.setCurrentWidget(self.view)
            self.view.setFocus()
        else:
            self.compared.show_components(self._own()[:_MOST_COMPARED])
            self.middle.setCurrentWidget(self.compared)
            self.compared.setFocus()
        comparing = self.middle.currentWidget() is self.compared
        self.beside.setText("Show all again" if comparing else "Compare")
        self.foot.setVisible(not comparing)
        self._show_chosen()

    def leave_bench(self) -> None:
        """Back to all of them where some are compared, else back to the bench."""
        if self.middle.currentWidget() is self.compared:
            self.compare()
        else:
            super().leave_bench()

    def rename(self) -> None:
        """Asks for the name of the current component where it stands."""
        card = self.view.current
        component = self._component(card.row) if card is not None else None
        if card is None or component is None or card.row.library:
            return
        if len(self.view.chosen) > 1:
            self._ask_pattern()
            return
        self.view.show_current()
        rename = partial(library_commands.rename, self._workspace, component.id)
        viewport = self.view.viewport()
        assert viewport is not None
        self.name_line = NameLine(viewport, "Name of the component", component.name, rename)
        self.name_line.finished.connect(self.view.setFocus)
        self.name_line.show_at(self.view.name_rect(card))

    def _ask_pattern(self) -> None:
        chosen = self._own()
        every = naming_commands.owners_of(self._workspace)
        if len(chosen) > 1:
            those = tuple(named for named in every.those if named.id in chosen)
            others = tuple(named.name for named in every.those if named.id not in chosen)
            title = f"{len(those)} chosen components"
            every = Renamable(title, those, others=(*every.others, *others))
        self.pattern_asked.emit(every)

    def _ask_pages(self) -> None:
        builders.show_menu(self.pages_menu(), self.pages)

    def pages_menu(self) -> QMenu:
        """What can be printed: the chosen ones if there are several, else all that are shown."""
        own = self._own() if len(self.view.chosen) > 1 else []
        shown = [card.row.owner for card in self.view.cards if card.row.owner]
        if self.scope.value == _TEAM:
            shown = [owner for owner in shown if owner in self._workspace.document.components]
        ids = tuple(own or shown)
        count = count_text(len(ids), "page")
        menu = QMenu(self)
        for title, pictures in ((f"{count} as PDF …", False), (f"{count} as PNG …", True)):
            builders.menu_entry(menu, title, partial(self.pages_asked.emit, ids, pictures))
        return menu

    def menu(self) -> QMenu:
        """What can be done with the chosen ones."""
        menu = QMenu(self)
        own, current = self._own(), self.view.current
        if current is None:
            return menu
        builders.menu_entry(menu, "Open", partial(self._open, current.row))
        if not own:
            return menu
        rename = "Rename …" if len(own) == 1 else f"Rename {len(own)} by a pattern …"
        builders.menu_entry(menu, rename, self.rename)
        if len(own) == 1:
            builders.menu_entry(menu, "Earlier", partial(self._step, -1))
            builders.menu_entry(menu, "Later", partial(self._step, 1))
        if 2 <= len(own) <= _MOST_COMPARED:
            builders.menu_entry(menu, "Compare", self.compare)
        filing = menu.addMenu("File in")
        for folder, act in self._filing(own):
            builders.menu_entry(filing, folder, act)
        builders.menu_entry(menu, "Remove", self._remove)
        for inner in self.pages_menu().actions():
            menu.addAction(inner)
        return menu

    def _filing(self, own: list[str]) -> list[tuple[str, Callable[[], object]]]:
        move = partial(library_commands.move_all_to, self._workspace, own)
        rows = library_rows(self._workspace.document, False)
        folders = [row.name for row in rows if not row.owner and row.name != NO_FOLDER]
        acts: list[tuple[str, Callable[[], object]]] = [
            (folder, partial(move, folder)) for folder in folders
        ]
        acts.append(("No folder", partial(move, "")))
        acts.append(("A new folder …", partial(self._ask_folder, own)))
        return acts

    def _ask_folder(self, own: list[str]) -> None:
        name, accepted = QInputDialog.getText(self, "A folder", "What the folder is called")
        if accepted and name.strip():
            library_commands.move_all_to(self._workspace, own, name.strip().strip("/"))

    def _remove(self) -> None:
        """Removes the chosen components that nothing uses, as one step; of the others it says
        where they are used."""
        if library_commands.remove_all(self._workspace, self._own()):
            self.stayed.emit()

    def _step(self, by: int) -> None:
        for owner in self._own()[:1]:
            library_commands.step_in_folder(self._workspace, owner, by)
        self.refresh()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        alt = event.modifiers() & Qt.KeyboardModifier.AltModifier
        if alt and event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self._step(1 if event.key() == Qt.Key.Key_Right else -1)
        elif event.key() == Qt.Key.Key_Delete:
            self._remove()
        elif event.key() == Qt.Key.Key_Menu and self.view.current is not None:
            rect = self.view.rect_of(self.view.current)
            at: QPoint = self.view.mapToGlobal(QPointF(rect.center()).toPoint())
            builders.show_menu(self.menu(), at)
        else:
            super().keyPressEvent(event)
