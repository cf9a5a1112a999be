"""How a row of the Library is drawn: its live picture, its name, and how often it is used."""

from __future__ import annotations

import base64
import html

from PyQt6.QtCore import QModelIndex, QRectF, QSize, QSizeF, Qt
from PyQt6.QtGui import QHelpEvent, QImage, QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QToolTip,
    QWidget,
)

from outgrowth.app.paint import Rasters
from outgrowth.app.paint.library_pictures import LibraryPictures
from outgrowth.app.paint.thumbnail import draw_thumbnail
from outgrowth.app.paint.words import bold, elided
from outgrowth.app.shot import encoded
from outgrowth.app.theme import Theme
from outgrowth.workspace import Workspace
from outgrowth.workspace.team import Team
from outgrowth.workspace.views.library_rows import LibraryRow

# Px of rows: a picture of 34 px with room above and below; screens are seen larger.
_ROW = 44
_HEAD = 30
_SCREEN_ROW = 112
_PICTURE = QRectF(12, 5, 62, 34)
# A part so many times as wide as high, and wider than its picture, stands across the row, its name
# below: beside its name it would be a line.
_WIDE, _WIDE_ROW, _WIDE_PICTURE = 4.0, 62, 34.0
_LARGE = QSizeF(320.0, 240.0)
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
        if entry.folder:
            return QSize(100, _HEAD)
        if entry.screen:
            return QSize(100, _SCREEN_ROW)
        return QSize(100, _WIDE_ROW if self._is_wide(entry) else _ROW)

    def helpEvent(
        self,
        event: QHelpEvent | None,
        view: QAbstractItemView | None,
        option: QStyleOptionViewItem,
        index: QModelIndex,
    ) -> bool:
        """Beside the pointer the part is seen larger, with what is said of it."""
        entry = index.data(ENTRY)
        if event is None or view is None or entry is None or entry.folder:
            return super().helpEvent(event, view, option, index)
        said = str(index.data(Qt.ItemDataRole.ToolTipRole) or "")
        QToolTip.showText(event.globalPos(), self.large(entry, said), view)
        return True

    def large(self, entry: LibraryRow, said: str) -> str:
        """A part at life size, or as large as fits, with words below it, as rich text; the words
        alone where it is seen so large already."""
        view = self.pictures.view_of(entry)
        lines = "<br>".join(html.escape(line) for line in said.split("\n"))
        if view is None or (view.placed.width <= _PICTURE.width() and not entry.screen):
            return lines
        zoom = min(_LARGE.width() / view.placed.width, _LARGE.height() / view.placed.height, 1.0)
        size = view.placed.width * zoom + 16, view.placed.height * zoom + 16
        image = QImage(round(size[0]), round(size[1]), QImage.Format.Format_RGB32)
        image.fill(self.theme.color("paper"))
        painter = QPainter(image)
        rect = QRectF(0, 0, *size)
        draw_thumbnail(painter, view, rect, self.pictures.rasters_of(entry), 1.0, 8)
        painter.end()
        data = base64.b64encode(encoded(image)).decode()
        return f'<img src="data:image/png;base64,{data}"><br>{lines}'

    def _is_wide(self, entry: LibraryRow) -> bool:
        view = self.pictures.view_of(entry)
        if view is None or entry.screen:
            return False
        placed = view.placed
        return placed.width > _PICTURE.width() and placed.width > _WIDE * placed.height

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
        elif self._is_wide(entry):
            picture = QRectF(rect.x() + 12, rect.y() + 5, rect.width() - 24, _WIDE_PICTURE)
            words = QRectF(rect.x() + 12, picture.bottom(), rect.width() - 24, 22)
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
