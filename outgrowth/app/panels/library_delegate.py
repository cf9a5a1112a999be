"""How a row of the Library is drawn: its live picture, its name, and how often it is used."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPen
from PyQt6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from outgrowth.app.paint import Rasters
from outgrowth.app.paint.library_pictures import LibraryPictures
from outgrowth.app.paint.thumbnail import draw_thumbnail
from outgrowth.app.paint.words import bold, elided
from outgrowth.app.theme import Theme
from outgrowth.workspace import Workspace
from outgrowth.workspace.team import Team
from outgrowth.workspace.views.library_rows import LibraryRow

# Px of rows: a picture of 34 px with room above and below; screens are seen larger.
_ROW = 44
_HEAD = 30
_SCREEN_ROW = 112
_PICTURE = QRectF(12, 5, 62, 34)
ENTRY = Qt.ItemDataRole.UserRole
"""Where the model keeps a row."""


class LibraryDelegate(QStyledItemDelegate):
    """Draws an entry: its live picture, its name, and how often it is used."""

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme, team: Team) -> None:
        super().__init__()
        self._workspace = workspace
        self.pictures = LibraryPictures(workspace, rasters, team)
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
        painter.setPen(self.theme.color("ink" if entry.library else "muted"))
        plain = painter.font()
        painter.setFont(bold(plain))
        where = rect.adjusted(12, 4, -8, 0)
        name = elided(painter, entry.name, where.width())
        painter.drawText(where, Qt.AlignmentFlag.AlignVCenter, name)
        if entry.offline:
            painter.setPen(self.theme.color("problem"))
            painter.setFont(plain)
            left = painter.fontMetrics().horizontalAdvance(name) + 24
            away = where.adjusted(left, 0, 0, 0)
            said = elided(painter, "!  offline", away.width())
            painter.drawText(away, Qt.AlignmentFlag.AlignVCenter, said)

    def _ground(
        self, painter: QPainter, rect: QRectF, option: QStyleOptionViewItem, entry: LibraryRow
    ) -> None:
        on_bench = entry.owner == self._workspace.selection.owner and not entry.library
        if on_bench or option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(rect, self.theme.color("chrome" if on_bench else "lit"))
        if on_bench:
            painter.fillRect(QRectF(rect.x(), rect.y(), 3, rect.height()), self.theme.color("clay"))
        if option.state & QStyle.StateFlag.State_HasFocus:
            painter.setPen(QPen(self.theme.color("slate"), 2))
            painter.drawRect(rect.adjusted(4, 1, -2, -1))

    def _owner(self, painter: QPainter, rect: QRectF, entry: LibraryRow) -> None:
        view = self.pictures.view_of(entry)
        if view is None:
            return  # it went a moment ago; the list follows
        picture = _PICTURE.translated(rect.topLeft())
        words = rect.adjusted(84, 0, -12, 0)
        if entry.screen:
            picture = QRectF(rect.x() + 12, rect.y() + 6, rect.width() - 24, 78)
            words = QRectF(rect.x() + 12, rect.y() + 84, rect.width() - 24, 24)
        painter.setPen(QPen(self.theme.color("hairline"), 1))
        painter.setBrush(self.theme.color("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawRoundedRect(picture.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3)
        device = painter.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        rasters = self.pictures.rasters_of(entry)
        inset = 0 if entry.screen else 4
        inner = picture.adjusted(1, 1, -1, -1)
        draw_thumbnail(painter, view, inner, rasters, ratio, inset, fills=entry.screen)
        self._words(painter, words, entry)
        if entry.newer:
            notch = QRectF(rect.x(), rect.y() + 6, 4, rect.height() - 12)
            painter.fillRect(notch, self.theme.color("saffron"))

    def _words(self, painter: QPainter, rect: QRectF, entry: LibraryRow) -> None:
        count = self.counts.get(entry.owner, 0)
        plain = painter.font()
        is_counted = not entry.screen and not entry.library
        if entry.owner == self._workspace.selection.owner and not entry.library:
            painter.setFont(bold(plain))
        painter.setPen(self.theme.color("ink"))
        room = int(rect.width()) - (12 + 7 * len(str(count)) if is_counted else 0)
        upper = rect.adjusted(0, 5, 0, -rect.height() / 2 + 2) if entry.note else rect
        _name(painter, upper, room, entry.name)
        painter.setFont(plain)
        painter.setPen(self.theme.color("muted"))
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        if is_counted:
            painter.drawText(rect, right, f"{count}")
        if entry.note:
            lower = rect.adjusted(0, rect.height() / 2 - 2, 0, -5)
            painter.setPen(self.theme.color("saffron" if entry.newer else "muted"))
            note = elided(painter, entry.note, room)
            painter.drawText(lower, Qt.AlignmentFlag.AlignVCenter, note)


def _name(painter: QPainter, rect: QRectF, room: int, name: str) -> None:
    """A name in two lines where it needs them and has their height, else cut at its end."""
    middle = Qt.AlignmentFlag.AlignVCenter
    lines = middle | Qt.TextFlag.TextWordWrap
    where = QRectF(rect.x(), rect.y(), room, rect.height())
    needed = painter.boundingRect(where, lines, name)
    if needed.height() <= rect.height() and needed.width() <= room:
        painter.drawText(where, lines, name)
    else:
        painter.drawText(rect, middle, elided(painter, name, room))
