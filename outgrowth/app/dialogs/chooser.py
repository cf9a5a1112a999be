"""A small window over the window to choose one of many by picture: icons, screen sizes. Typing
narrows, arrows choose, Enter takes, Esc leaves."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject, QPoint, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QKeyEvent, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import (
    QFrame,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.paint.paths import outline_path
from outgrowth.app.theme import Theme, builders
from outgrowth.core.edits.tree.owners import DEVICES, Device
from outgrowth.workspace.icon_set import Icon, icons_for

# Px of a cell, and of the icon in it.
_CELL = 64
_SIDE = 28


class ChooserOption(NamedTuple):
    """One thing to choose: its name, its picture, and what is handed over for it."""

    name: str
    picture: QIcon
    value: object


class Chooser(QFrame):
    """A frame with a field and a grid of pictures.

    chosen(object)  an option was taken: its value
    """

    chosen = pyqtSignal(object)

    def __init__(
        self, parent: QWidget, name: str, hint: str, side: int, columns: int, lines: int = 1
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("finder")
        self._columns = columns
        self._find: Callable[[str], list[ChooserOption]] = lambda text: []
        self.field = builders.line_edit(hint, name)
        self.field.textChanged.connect(self._fill)
        self.field.installEventFilter(self)
        self.list = QListWidget()
        self.list.setAccessibleName(f"{name}: found")
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setIconSize(QSize(side, side))
        self._cell = QSize(_grid(side) - 4, side + lines * 18 + 14)
        self.list.setGridSize(QSize(_grid(side), side + lines * 18 + 18))
        self.list.setWordWrap(lines > 1)
        self.list.setProperty("look", "pictures")
        self.list.setUniformItemSizes(True)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemClicked.connect(lambda item: self._choose(self.list.row(item)))
        self.note = builders.label(tone="muted")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(8, 8, 8, 8)
        for widget in (self.field, self.list, self.note):
            layout.addWidget(widget)
        self.setFixedSize(columns * _grid(side) + 40, 360)

    def ask(self, find: Callable[[str], list[ChooserOption]], point: QPoint, note: str) -> None:
        """Opens with its top middle at a point of the screen; `find` gives the options for what
        is typed."""
        self._find = find
        self.note.setText(note)
        self.field.clear()
        self._fill("")
        self.move(point.x() - self.width() // 2, point.y())
        self.show()
        self.field.setFocus()

    def _fill(self, text: str) -> None:
        self.list.clear()
        for choice in self._find(text):
            item = QListWidgetItem(choice.picture, choice.name)
            item.setToolTip(choice.name)
            item.setSizeHint(self._cell)
            item.setData(Qt.ItemDataRole.UserRole, choice.value)
            self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _choose(self, row: int) -> None:
        item = self.list.item(row)
        if item is not None:
            self.hide()
            self.chosen.emit(item.data(Qt.ItemDataRole.UserRole))

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            step = {
                Qt.Key.Key_Down: self._columns,
                Qt.Key.Key_Up: -self._columns,
                Qt.Key.Key_Right: 1,
                Qt.Key.Key_Left: -1,
            }.get(Qt.Key(event.key()))
            if step is not None and self.list.count():
                row = self.list.currentRow() + step
                self.list.setCurrentRow(min(max(row, 0), self.list.count() - 1))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._choose(self.list.currentRow())
                return True
        return super().eventFilter(watched, event)


def _grid(side: int) -> int:
    return max(side + 36, _CELL + 12)


class IconChooser(Chooser):
    """Icons of the shipped set by search."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent, "Icons", "Search icons: anchor, ticket, ferry …", _SIDE, 6)
        self.theme = theme

    def begin(self, point: QPoint) -> None:
        """Opens with all icons, its top middle at a point of the screen."""
        self.ask(self._icons, point, "An open set, shipped with its licence. Enter places one.")

    def _icons(self, text: str) -> list[ChooserOption]:
        icons_found = icons_for(text) if text.strip() else _first()
        return [
            ChooserOption(i.name, drawn_icon(i, self.theme, self.devicePixelRatioF()), i)
            for i in icons_found
        ]


def _first() -> list[Icon]:
    """What stands there before anything is typed."""
    words = ("boat", "ticket", "arrow-", "user", "check", "bell", "map", "magnifying")
    begun = (icon for word in words for icon in icons_for(word, 6))
    return list(dict.fromkeys(begun))


def drawn_icon(icon: Icon, theme: Theme, ratio: float) -> QIcon:
    """An icon's outline in ink."""
    side = round(_SIDE * ratio)
    pixmap = QPixmap(side, side)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.scale(side / 256, side / 256)
    painter.fillPath(outline_path(icon.outline), theme.color("ink"))
    painter.end()
    pixmap.setDevicePixelRatio(ratio)
    return QIcon(pixmap)


class ScreenChooser(Chooser):
    """Sizes of screens; a size that is typed ("640 x 480") is one of them."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent, "Size of the screen", "Phone, kiosk, or 640 x 480", 64, 4, 2)
        self.theme = theme

    def begin(self, point: QPoint) -> None:
        """Opens with all sizes, its top middle at a point of the screen."""
        self.ask(self._devices, point, "A screen is where instances live as in the product.")

    def _devices(self, text: str) -> list[ChooserOption]:
        typed = [part for part in text.lower().replace("×", "x").split("x") if part.strip()]
        devices = [d for d in DEVICES if text.lower() in d.name.lower()]
        if len(typed) == 2 and all(part.strip().isdigit() for part in typed):
            devices = [Device("Screen", float(typed[0]), float(typed[1]))]
        ratio = self.devicePixelRatioF()
        return [
            ChooserOption(
                f"{d.name}\n{d.width:g} × {d.height:g}", sheet_icon(d, self.theme, ratio), d
            )
            for d in devices
        ]


def sheet_icon(device: Device, theme: Theme, ratio: float) -> QIcon:
    """The proportion of a screen."""
    side = 64.0
    pixmap = QPixmap(round(side * ratio), round(side * ratio))
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    scale = (side - 8) / max(device.width, device.height)
    wide, high = device.width * scale, device.height * scale
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(theme.color("muted"), 1.5))
    painter.setBrush(theme.color("paper"))
    painter.drawRoundedRect(QRectF((side - wide) / 2, (side - high) / 2, wide, high), 4, 4)
    painter.end()
    return QIcon(pixmap)
