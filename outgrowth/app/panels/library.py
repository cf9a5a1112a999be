"""The Library: components by folder and screens, each with a live picture and its uses."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial

from PyQt6.QtCore import (
    QAbstractListModel,
    QMimeData,
    QModelIndex,
    QPoint,
    QRectF,
    Qt,
    QTimer,
    pyqtSignal,
)
from PyQt6.QtGui import QDrag, QPainter, QPaintEvent, QPixmap
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QListView,
    QMenu,
    QWidget,
)

from outgrowth.app.benches.drops import COMPONENT_MIME, dragged
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.thumbnail import draw_thumbnail
from outgrowth.app.panels.library_delegate import ENTRY, LibraryDelegate
from outgrowth.app.panels.tabs import Tabs
from outgrowth.app.panels.unconnected import Unconnected
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.sentences import guidance
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import (
    instance_commands,
    library_commands,
)
from outgrowth.workspace.commands.naming_commands import owners_of
from outgrowth.workspace.measures import instances_of, is_counted
from outgrowth.workspace.starters import STARTERS, Starter, starters
from outgrowth.workspace.team import Team
from outgrowth.workspace.views.library_rows import (
    NO_FOLDER,
    LibraryRow,
    folder_at,
    library_rows,
    team_rows,
)

_TABS = ("Parts", "Screens", "Team")
_HELPS = (
    "Components: reusable parts. Drag one to a bench, or well inside an instance to exchange it.",
    "Screens: where instances live as in the product.",
    "The parts of the libraries that this file is connected to. Drag one in to use it.",
)
_DRAGGED = (320.0, 240.0)
_SCREEN_MIME = "application/x-outgrowth-screen"
_NEW_MENU = (("New component", "new-component"), ("New screen …", "new-screen"))
_TEAM_MENU = (
    ("Connect to a library …", "connect"),
    ("Make a library …", "make-library"),
    ("Publish …", "publish"),
    ("Take in newer versions …", "take-in"),
    ("Look for newer versions", "look-for-news"),
)
Command = tuple[str, Callable[[], object]]


class LibraryModel(QAbstractListModel):
    """The entries of one tab; asks for a repaint when the document changed."""

    def __init__(self, workspace: Workspace, team: Team) -> None:
        super().__init__()
        self._workspace = workspace
        self._team = team
        self.tab = "Parts"
        self._search = ""
        self.entries: list[LibraryRow] = []
        self.refresh()

    def show_tab(self, tab: str) -> None:
        """Shows the file's components, its screens, or the team's parts."""
        self.tab = tab
        self.refresh()

    def look_for(self, text: str) -> None:
        """Keeps to entries whose names have this in them."""
        self._search = text
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        document = self._workspace.document
        if self.tab == "Team":
            entries = team_rows(document, self._team.libraries, self._search)
        else:
            entries = library_rows(document, self.tab == "Screens", self._search)
        if entries != self.entries:
            self.beginResetModel()
            self.entries = entries
            self.endResetModel()
        elif entries:
            self.dataChanged.emit(self.index(0), self.index(len(entries) - 1))

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self.entries)

    def data(self, index: QModelIndex, role: int = 0) -> object:
        """A row, its name, or its whole path where it is edited."""
        entry = self.entries[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return entry.name
        if role == Qt.ItemDataRole.ToolTipRole:
            return entry.note or self._guidance(entry) or None
        if role == Qt.ItemDataRole.EditRole:
            owner = self._workspace.document.owner(entry.owner)
            return owner.name if owner is not None else entry.name
        return entry if role == ENTRY else None

    def _guidance(self, entry: LibraryRow) -> str:
        """What a component is for, and how to use it; of this file or a library's."""
        state = self._team.state(entry.library) if entry.library else None
        document = state.document if state is not None else self._workspace.document
        component = document.components.get(entry.owner)
        return "\n".join(guidance(component)) if component is not None else ""

    def setData(self, index: QModelIndex, value: object, role: int = 0) -> bool:
        """Renames; a name with `/` in it says the folder."""
        entry, name = self.entries[index.row()], str(value)
        if not name.strip() or name == self.data(index, Qt.ItemDataRole.EditRole):
            return False
        if entry.folder:
            library_commands.rename_folder(self._workspace, entry.name, name)
            return True
        return library_commands.rename(self._workspace, entry.owner, name)

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        """Components can be dragged; the heading of no folder cannot be renamed."""
        usual = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        usual |= Qt.ItemFlag.ItemIsDropEnabled
        if not index.isValid():
            return usual
        entry = self.entries[index.row()]
        if not (entry.folder and entry.name == NO_FOLDER) and self.tab != "Team":
            usual |= Qt.ItemFlag.ItemIsEditable
        return usual if entry.folder else usual | Qt.ItemFlag.ItemIsDragEnabled

    def supportedDropActions(self) -> Qt.DropAction:
        return Qt.DropAction.CopyAction | Qt.DropAction.MoveAction

    def dropMimeData(
        self,
        data: QMimeData | None,
        action: Qt.DropAction,
        row: int,
        column: int,
        parent: QModelIndex,
    ) -> bool:
        """What is dropped on a line goes to the folder there, between two lines right there."""
        owner = dragged(data) or _dragged_screen(data)
        if self.tab == "Team" or not owner:
            return False
        target = max(parent.row() if parent.isValid() else row - 1, 0)
        folder = folder_at(self.entries, target)
        if parent.isValid() or row < 0:
            return library_commands.move_to_folder(self._workspace, owner, folder)
        before = self.entries[target].owner if row > 0 else ""
        return library_commands.move_to(self._workspace, owner, folder, before)

    def mimeTypes(self) -> list[str]:
        return [COMPONENT_MIME, _SCREEN_MIME]

    def mimeData(self, indexes: Iterable[QModelIndex]) -> QMimeData:
        """The dragged component's id."""
        data = QMimeData()
        for index in indexes:
            entry = self.entries[index.row()]
            kind = _SCREEN_MIME if entry.screen else COMPONENT_MIME
            data.setData(kind, entry.owner.encode())
        return data


def _dragged_screen(data: QMimeData | None) -> str:
    """The screen that is dragged within the list; "" for none."""
    return bytes(data.data(_SCREEN_MIME).data()).decode() if data is not None else ""


class LibraryList(QListView):
    """Says what it is for while it is empty; what is dragged out of it looks like itself."""

    def __init__(self, hint: Callable[[], str], picture: Callable[[LibraryRow], QPixmap]) -> None:
        super().__init__()
        self._hint = hint
        self._picture = picture

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        model, viewport = self.model(), self.viewport()
        if model is None or viewport is None or model.rowCount():
            return
        painter = QPainter(viewport)
        painter.setPen(self.palette().placeholderText().color())
        rect = QRectF(viewport.rect()).adjusted(12, 12, -12, -12)
        painter.drawText(rect, Qt.TextFlag.TextWordWrap, self._hint())
        painter.end()

    def startDrag(self, actions: Qt.DropAction) -> None:
        """Drags the component's own picture under the pointer."""
        model, indexes = self.model(), self.selectedIndexes()
        if model is None or not indexes:
            return
        entry: LibraryRow = indexes[0].data(ENTRY)
        drag = QDrag(self)
        drag.setMimeData(model.mimeData(indexes))
        picture = self._picture(entry)
        drag.setPixmap(picture)
        drag.setHotSpot(QPoint(8, 8))
        drag.exec(actions, Qt.DropAction.CopyAction)


_WAIT_MS = 250


class LibraryPanel(QWidget):
    """The panel at the left.

    opened(str)  an owner to put on the bench
    new_requested(str)    an action that makes something new, by its id
    part_asked(str, str)  a library's part that is not in the file: the library and the part
    pattern_asked(Renamable)  several are to be renamed by a pattern
    """

    opened = pyqtSignal(str)
    new_requested = pyqtSignal(str)
    part_asked = pyqtSignal(str, str)
    pattern_asked = pyqtSignal(object)

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme, team: Team) -> None:
        super().__init__()
        self._workspace = workspace
        self._team = team
        # What can be done with a part that comes from a library; the window says.
        self.origin_actions: Callable[[str], list[Command]] = lambda _: []
        self._rasters = rasters
        self._shown_owner = ""
        dress(self, "panel")
        self.model = LibraryModel(workspace, team)
        self._delegate = LibraryDelegate(workspace, rasters, theme, team)
        self.list = LibraryList(self._hint, self._picture_of)
        self.list.setAccessibleName("Library")
        self.list.setModel(self.model)
        self.list.setItemDelegate(self._delegate)
        self.list.setMouseTracking(True)
        self.list.setDragEnabled(True)
        self.list.setAcceptDrops(True)
        self.list.setDropIndicatorShown(True)
        self.list.setDragDropMode(QListView.DragDropMode.DragDrop)
        self.list.setEditTriggers(QListView.EditTrigger.EditKeyPressed)
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.list.customContextMenuRequested.connect(self._ask)
        self.list.clicked.connect(self._open)
        self.list.activated.connect(self._open)
        layout = builders.column(self)
        self.tabs = Tabs(_TABS, _HELPS)
        self.tabs.chosen.connect(self._show_tab)
        self.unconnected = Unconnected(team)
        self.unconnected.hide()
        team.changed.connect(self.refresh)
        layout.addWidget(self.tabs)
        layout.addLayout(self._head())
        layout.addWidget(self.unconnected)
        layout.addWidget(self.list)
        self._counting = QTimer(self)
        self._counting.setSingleShot(True)
        self._counting.timeout.connect(self._count)
        workspace.panels_due.connect(self._changed)
        workspace.selection_changed.connect(self._follow)
        self._counting.start(_WAIT_MS)  # the window opens first

    def _head(self) -> QHBoxLayout:
        """A field to search in, and what makes something new."""
        self.search = builders.line_edit("Search", "Search the Library", clears=True)
        self.search.textChanged.connect(self.model.look_for)
        self.search.returnPressed.connect(self._open_first)
        about = "New component (Alt+C), new screen (Alt+S), or a starter"
        self.add = builders.tool_button(self._ask_new, text="New ▾", look="firm", tip=about)
        row = builders.row(margins=(8, 6, 8, 2), spacing=4)
        row.addWidget(self.search, 1)
        row.addWidget(self.add)
        return row

    def new_menu(self) -> QMenu:
        """What can be begun: an empty component, a screen, or a starter."""
        menu = QMenu(self)
        is_team = self.model.tab == "Team"
        for title, action in _TEAM_MENU if is_team else _NEW_MENU:
            entry = menu.addAction(title)
            if entry is not None:
                entry.triggered.connect(partial(self.new_requested.emit, action))
        if is_team:
            return menu
        menu.addSeparator()
        for starter in STARTERS:
            entry = menu.addAction(f"{starter.name}: {starter.about}")
            if entry is not None:
                entry.triggered.connect(partial(self._begin, starter))
        return menu

    def _ask_new(self) -> None:
        builders.show_menu(self.new_menu(), self.add)

    def _begin(self, starter: Starter) -> None:
        library_commands.bring_starter(self._workspace, starters(), starter.component)

    def _open_first(self) -> None:
        rows = (n for n, entry in enumerate(self.model.entries) if entry.owner)
        first = next(rows, None)
        if first is not None:
            self._open(self.model.index(first))

    def _hint(self) -> str:
        """What an empty list says."""
        if self.search.text():
            return "Nothing here is called that."
        if self.model.tab == "Team":
            return (
                "A library holds the parts that a team shares. New connects this file to one, or "
                "makes one."
            )
        if self.model.tab == "Screens":
            return "Screens are where instances live as in the product. Alt+S begins one."
        return "Components will stand here. Alt+C begins one, New has starters."

    def _picture_of(self, entry: LibraryRow) -> QPixmap:
        """A component as it is, for a drag: at life size, or as large as fits."""
        view = self._delegate.pictures.view_of(entry)
        if view is None:
            return QPixmap()
        ratio = self.devicePixelRatioF()
        wide = min(view.placed.width + 2, _DRAGGED[0])
        high = min(view.placed.height + 2, _DRAGGED[1])
        pixmap = QPixmap(max(round(wide * ratio), 1), max(round(high * ratio), 1))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setOpacity(0.8)
        rasters = self._delegate.pictures.rasters_of(entry)
        draw_thumbnail(painter, view, QRectF(0, 0, wide, high), rasters, ratio, 0)
        painter.end()
        return pixmap

    def menu_for(self, row: LibraryRow) -> QMenu:
        """What can be done with an entry."""
        menu = QMenu(self)
        for title, command in self._commands(row):
            builders.menu_entry(menu, title, command)
        return menu

    def _commands(self, row: LibraryRow) -> list[Command]:
        if not row.owner:
            return self._library_commands(row) or self._folder_commands(row)
        workspace, owner_id = self._workspace, row.owner
        is_here = owner_id in workspace.document.components
        commands: list[Command] = []
        if row.library and not is_here:
            commands.append(("Take in …", partial(self.part_asked.emit, row.library, owner_id)))
        else:
            commands.append(("Open", partial(self.opened.emit, owner_id)))
        if (is_here or row.library) and workspace.owner is not None:
            commands.append(("Place here", partial(instance_commands.place, workspace, owner_id)))
        if not row.library:
            commands += [
                ("Rename", lambda: self.list.edit(self.list.currentIndex())),
                ("Earlier", partial(library_commands.step_in_folder, workspace, owner_id, -1)),
                ("Later", partial(library_commands.step_in_folder, workspace, owner_id, 1)),
                ("Copy whole", partial(library_commands.duplicate_owner, workspace, owner_id)),
                ("Remove", partial(library_commands.remove_owner, workspace, owner_id)),
            ]
        return commands + self.origin_actions(owner_id)

    def _library_commands(self, row: LibraryRow) -> list[Command]:
        """What can be done with a whole library, by its heading."""
        if not row.library:
            return []
        if any(library.id == row.library for library in self._team.not_connected):
            ask = partial(self.unconnected.connect_asked.emit, row.library)
            return [("Connect to it", ask), self._leave(row)]
        commands: list[Command] = [
            (title, partial(self.new_requested.emit, action))
            for title, action in (
                ("Look for newer versions", "look-for-news"),
                ("Publish …", "publish"),
                ("It is elsewhere now …", "connect"),
            )
        ]
        return [*commands, self._leave(row)]

    def _folder_commands(self, row: LibraryRow) -> list[Command]:
        """What can be done with all in a folder, by its heading."""
        if self.model.tab == "Team":
            return []
        folder = "" if row.name == NO_FOLDER else row.name
        meant = owners_of(self._workspace, self.model.tab == "Screens", folder)
        return [("Rename or file all by a pattern …", partial(self.pattern_asked.emit, meant))]

    def _leave(self, row: LibraryRow) -> Command:
        return "Leave it; its parts become our own", partial(self._team.forget, row.library)

    def _ask(self, point: QPoint) -> None:
        index = self.list.indexAt(point)
        entry: LibraryRow | None = index.data(ENTRY) if index.isValid() else None
        if entry is not None:
            menu = self.menu_for(entry)
            if not menu.isEmpty():
                builders.show_menu(menu, self.list.mapToGlobal(point))

    def _follow(self) -> None:
        """Turns to the component that came on the bench. For a screen the parts stay in sight:
        what one does there next is to place some."""
        owner = self._workspace.selection.owner
        if owner != self._shown_owner:
            self._shown_owner = owner
            if self._workspace.component is not None and self.model.tab == "Screens":
                self.tabs.choose("Parts")
            self._scroll_to(owner)
        self._viewport_update()

    def _scroll_to(self, owner: str) -> None:
        for n, entry in enumerate(self.model.entries):
            if entry.owner == owner:
                self.list.scrollTo(self.model.index(n))

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._delegate.theme = theme
        self._viewport_update()

    def _viewport_update(self) -> None:
        viewport = self.list.viewport()
        if viewport is not None:
            viewport.update()

    def _show_tab(self, number: int) -> None:
        self.model.show_tab(_TABS[number])
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace and its libraries as they are now."""
        self.model.refresh()
        self.unconnected.refresh()
        self.unconnected.setVisible(self.model.tab == "Team" and not self.unconnected.is_empty)

    def _changed(self) -> None:
        self.refresh()
        self._counting.start(_WAIT_MS)

    def _count(self) -> None:
        workspace = self._workspace
        if not is_counted(self._workspace):
            self._counting.start(0)
            return
        self._delegate.counts = dict(instances_of(workspace))
        self._viewport_update()

    def _open(self, index: QModelIndex) -> None:
        entry: LibraryRow = index.data(ENTRY)
        if entry.library and entry.owner not in self._workspace.document.components:
            if entry.owner:
                self.part_asked.emit(entry.library, entry.owner)
        elif entry.owner:
            self.opened.emit(entry.owner)
