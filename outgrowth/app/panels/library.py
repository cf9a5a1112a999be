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
    QSize,
    Qt,
    QTimer,
    pyqtSignal,
)
from PyQt6.QtGui import QDrag, QFont, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListView,
    QMenu,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.benches.bench import COMPONENT_MIME, dragged
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.thumbnail import draw_thumbnail
from outgrowth.app.panels.tabs import Tabs
from outgrowth.app.theme import Theme
from outgrowth.app.theme.sheet import dress
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import (
    instance_commands,
    library_commands,
)
from outgrowth.workspace.starters import STARTERS, Starter, starters
from outgrowth.workspace.views.library_rows import NO_FOLDER, LibraryRow, folder_at, library_rows

# Px of rows: a picture of 34 px with room above and below; screens are seen larger.
_ROW = 44
_HEAD = 30
_SCREEN_ROW = 112
_PICTURE = QRectF(12, 5, 62, 34)
_HELPS = (
    "Components: reusable parts. Drag one to a bench, or well inside an instance to exchange it.",
    "Screens: where instances live as in the product.",
)
_DRAGGED = (320.0, 240.0)
ENTRY = Qt.ItemDataRole.UserRole


class LibraryModel(QAbstractListModel):
    """The entries of one tab; asks for a repaint when the document changed."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._workspace = workspace
        self._screens = False
        self._search = ""
        self.entries: list[LibraryRow] = []
        self.refresh()

    def show_screens(self, screens: bool) -> None:
        """Shows screens, or components."""
        self._screens = screens
        self.refresh()

    def look_for(self, text: str) -> None:
        """Keeps to entries whose names have this in them."""
        self._search = text
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        entries = library_rows(self._workspace.document, self._screens, self._search)
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
        if role == Qt.ItemDataRole.EditRole:
            owner = self._workspace.document.owner(entry.owner)
            return owner.name if owner is not None else entry.name
        return entry if role == ENTRY else None

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
        if not (entry.folder and entry.name == NO_FOLDER):
            usual |= Qt.ItemFlag.ItemIsEditable
        return usual if entry.folder or entry.screen else usual | Qt.ItemFlag.ItemIsDragEnabled

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
        """A component dropped in the list goes to the folder there."""
        if self._screens:
            return False
        target = parent.row() if parent.isValid() else row - 1
        folder = folder_at(self.entries, max(target, 0))
        return library_commands.move_to_folder(self._workspace, dragged(data), folder)

    def mimeTypes(self) -> list[str]:
        return [COMPONENT_MIME]

    def mimeData(self, indexes: Iterable[QModelIndex]) -> QMimeData:
        """The dragged component's id."""
        data = QMimeData()
        for index in indexes:
            data.setData(COMPONENT_MIME, self.entries[index.row()].owner.encode())
        return data


class LibraryDelegate(QStyledItemDelegate):
    """Draws an entry: its live picture, its name, and how often it is used."""

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._rasters = rasters
        self.theme = theme
        self.counts: dict[str, int] = {}

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        entry = index.data(ENTRY)
        return QSize(100, _HEAD if entry.folder else _SCREEN_ROW if entry.screen else _ROW)

    def updateEditorGeometry(
        self, editor: QWidget | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        if editor is not None:
            middle = option.rect.center().y()
            editor.setGeometry(option.rect.x() + 8, middle - 13, option.rect.width() - 16, 26)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        """Draws one row."""
        assert painter is not None
        entry: LibraryRow = index.data(ENTRY)
        rect = QRectF(option.rect)
        painter.save()
        if entry.folder:
            self._heading(painter, rect, entry)
        else:
            self._ground(painter, rect, option, entry)
            self._owner(painter, rect, entry)
        painter.restore()

    def _heading(self, painter: QPainter, rect: QRectF, entry: LibraryRow) -> None:
        painter.setPen(self.theme.color("muted"))
        painter.setFont(_bold(painter.font()))
        where = rect.adjusted(12, 4, -8, 0)
        painter.drawText(where, Qt.AlignmentFlag.AlignVCenter, entry.name)

    def _ground(
        self, painter: QPainter, rect: QRectF, option: QStyleOptionViewItem, entry: LibraryRow
    ) -> None:
        on_bench = entry.owner == self._workspace.selection.owner
        if on_bench or option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(rect, self.theme.color("chrome" if on_bench else "lit"))
        if on_bench:
            painter.fillRect(QRectF(rect.x(), rect.y(), 3, rect.height()), self.theme.color("clay"))
        if option.state & QStyle.StateFlag.State_HasFocus:
            painter.setPen(QPen(self.theme.color("slate"), 2))
            painter.drawRect(rect.adjusted(4, 1, -2, -1))

    def _owner(self, painter: QPainter, rect: QRectF, entry: LibraryRow) -> None:
        if self._workspace.document.owner(entry.owner) is None:
            return  # it went a moment ago; the list follows
        picture = _PICTURE.translated(rect.topLeft())
        words = rect.adjusted(84, 0, -12, 0)
        if entry.screen:
            picture = QRectF(rect.x() + 12, rect.y() + 6, rect.width() - 24, 78)
            words = QRectF(rect.x() + 12, rect.y() + 84, rect.width() - 24, 24)
        workspace = self._workspace
        view = workspace.engine.view(workspace.document, entry.owner)
        painter.setPen(QPen(self.theme.color("hairline"), 1))
        painter.setBrush(self.theme.color("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawRoundedRect(picture.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3)
        device = painter.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        draw_thumbnail(painter, view, picture.adjusted(1, 1, -1, -1), self._rasters, ratio, 4)
        self._words(painter, words, entry)

    def _words(self, painter: QPainter, rect: QRectF, entry: LibraryRow) -> None:
        count = self.counts.get(entry.owner, 0)
        plain = painter.font()
        if entry.owner == self._workspace.selection.owner:
            painter.setFont(_bold(plain))
        painter.setPen(self.theme.color("ink"))
        room = int(rect.width()) - (0 if entry.screen else 12 + 7 * len(str(count)))
        name = painter.fontMetrics().elidedText(entry.name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(rect, Qt.AlignmentFlag.AlignVCenter, name)
        painter.setFont(plain)
        painter.setPen(self.theme.color("muted"))
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        if not entry.screen:
            painter.drawText(rect, right, f"{count}")


def _bold(font: QFont) -> QFont:
    bold = QFont(font)
    bold.setBold(True)
    return bold


class LibraryList(QListView):
    """Says what it is for while it is empty; what is dragged out of it looks like itself."""

    def __init__(self, hint: Callable[[], str], picture: Callable[[str], QPixmap]) -> None:
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
        picture = self._picture(entry.owner)
        drag.setPixmap(picture)
        drag.setHotSpot(QPoint(8, 8))
        drag.exec(actions, Qt.DropAction.CopyAction)


class Library(QWidget):
    """The panel at the left.

    opened(str)  an owner to put on the bench
    new_requested(str)    an action that makes something new, by its id
    """

    opened = pyqtSignal(str)
    new_requested = pyqtSignal(str)

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._rasters = rasters
        self._shown_owner = ""
        dress(self, "panel")
        self.model = LibraryModel(workspace)
        self._delegate = LibraryDelegate(workspace, rasters, theme)
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
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self.tabs = Tabs(("Parts", "Screens"), _HELPS)
        self.tabs.chosen.connect(lambda number: self.model.show_screens(number == 1))
        layout.addWidget(self.tabs)
        layout.addLayout(self._head())
        layout.addWidget(self.list)
        self._counting = QTimer(self)
        self._counting.setSingleShot(True)
        self._counting.setInterval(250)
        self._counting.timeout.connect(self._count)
        workspace.panels_due.connect(self._changed)
        workspace.selection_changed.connect(self._follow)
        self._counting.start()  # the window opens first

    def _head(self) -> QHBoxLayout:
        """A field to search in, and what makes something new."""
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search")
        self.search.setAccessibleName("Search the Library")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self.model.look_for)
        self.search.returnPressed.connect(self._open_first)
        self.add = QToolButton()
        self.add.setText("New ▾")
        self.add.setProperty("look", "firm")
        self.add.setToolTip("New component (Alt+C), new screen (Alt+S), or a starter")
        self.add.clicked.connect(self._ask_new)
        row = QHBoxLayout()
        row.setContentsMargins(8, 6, 8, 2)
        row.setSpacing(4)
        row.addWidget(self.search, 1)
        row.addWidget(self.add)
        return row

    def new_menu(self) -> QMenu:
        """What can be begun: an empty component, a screen, or a starter."""
        menu = QMenu(self)
        for title, action in (("New component", "new-component"), ("New screen …", "new-screen")):
            entry = menu.addAction(title)
            if entry is not None:
                entry.triggered.connect(partial(self.new_requested.emit, action))
        menu.addSeparator()
        for starter in STARTERS:
            entry = menu.addAction(f"{starter.name}: {starter.about}")
            if entry is not None:
                entry.triggered.connect(partial(self._begin, starter))
        return menu

    def _ask_new(self) -> None:
        self.new_menu().exec(self.add.mapToGlobal(self.add.rect().bottomLeft()))

    def _begin(self, starter: Starter) -> None:
        library_commands.bring_starter(self._workspace, starters(), starter.component)

    def _open_first(self) -> None:
        first = next((entry.owner for entry in self.model.entries if entry.owner), "")
        if first:
            self.opened.emit(first)

    def _hint(self) -> str:
        """What an empty list says."""
        if self.search.text():
            return "Nothing here is called that."
        if self.tabs.tabs["Screens"].isChecked():
            return "Screens are where instances live as in the product. Alt+S begins one."
        return "Components will stand here. Alt+C begins one, New has starters."

    def _picture_of(self, owner_id: str) -> QPixmap:
        """A component as it is, for a drag: at life size, or as large as fits."""
        workspace = self._workspace
        view = workspace.engine.view(workspace.document, owner_id)
        ratio = self.devicePixelRatioF()
        wide = min(view.placed.width + 2, _DRAGGED[0])
        high = min(view.placed.height + 2, _DRAGGED[1])
        pixmap = QPixmap(max(round(wide * ratio), 1), max(round(high * ratio), 1))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setOpacity(0.8)
        draw_thumbnail(painter, view, QRectF(0, 0, wide, high), self._rasters, ratio, 0)
        painter.end()
        return pixmap

    def menu_for(self, owner_id: str) -> QMenu:
        """What can be done with an entry."""
        workspace = self._workspace
        menu = QMenu(self)
        commands: list[tuple[str, Callable[[], object]]] = [
            ("Open", partial(self.opened.emit, owner_id)),
            ("Rename", lambda: self.list.edit(self.list.currentIndex())),
            ("Copy whole", partial(library_commands.duplicate_owner, workspace, owner_id)),
            ("Remove", partial(library_commands.remove_owner, workspace, owner_id)),
        ]
        if owner_id in workspace.document.components and workspace.owner is not None:
            commands.insert(
                1, ("Place here", partial(instance_commands.place, workspace, owner_id))
            )
        for title, command in commands:
            entry = menu.addAction(title)
            if entry is not None:
                entry.triggered.connect(lambda _=False, action=command: action())
        return menu

    def _ask(self, point: QPoint) -> None:
        index = self.list.indexAt(point)
        entry: LibraryRow | None = index.data(ENTRY) if index.isValid() else None
        if entry is not None and entry.owner:
            self.menu_for(entry.owner).exec(self.list.mapToGlobal(point))

    def _follow(self) -> None:
        """Turns to the component that came on the bench. For a screen the parts stay in sight:
        what one does there next is to place some."""
        owner = self._workspace.selection.owner
        if owner != self._shown_owner:
            self._shown_owner = owner
            if self._workspace.component is not None:
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

    def _changed(self) -> None:
        self.model.refresh()
        self._counting.start()

    def _count(self) -> None:
        workspace = self._workspace
        self._delegate.counts = dict(workspace.engine.census.instances(workspace.document))
        self._viewport_update()

    def _open(self, index: QModelIndex) -> None:
        entry: LibraryRow = index.data(ENTRY)
        if entry.owner:
            self.opened.emit(entry.owner)
