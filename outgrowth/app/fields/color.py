"""A colour field: a swatch, the colour's text, and the file's colour tokens to pick from."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QIcon, QKeyEvent, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QColorDialog, QHBoxLayout, QLineEdit, QMenu, QToolButton, QWidget

from outgrowth.app.paint.painter import brush, qcolor
from outgrowth.core.color import (
    Color,
    ColorError,
    Fill,
    Gradient,
    Stop,
    darkened,
    parse,
    parse_fill,
)
from outgrowth.core.document.types import is_reference
from outgrowth.core.document.values import Token, Value

_SWATCH = 16


class ColorField(QWidget):
    """Shows a colour: as a token's name where it comes from one.

    edited(object)  a Color or a Token to set
    failed(str)     what was typed is no colour
    """

    edited = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(
        self, name: str, tokens: Callable[[], dict[str, Color]], gradients: bool = False
    ) -> None:
        super().__init__()
        self._tokens = tokens
        self._gradients = gradients
        self._color: Fill = Color(0, 0, 0, 0)
        self._shown = ""
        self.swatch = QToolButton()
        self.swatch.setProperty("look", "icon")
        self.swatch.setAccessibleName(f"{name}: pick a token or a colour")
        self.swatch.setToolTip(f"{name}: pick a token or a colour")
        self.swatch.clicked.connect(self._menu)
        self.text = _ColorText(name)
        self.text.confirmed.connect(self._typed)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        layout.addWidget(self.swatch)
        layout.addWidget(self.text)
        self.setFocusProxy(self.text)

    def show_value(self, color: Fill | None, source: Value | None) -> None:
        """Shows the settled colour (or gradient), and the token it comes from if it does."""
        self._color = color or Color(0, 0, 0, 0)
        self.swatch.setIcon(swatch_icon(self._color, self.devicePixelRatioF()))
        self._shown = _written(color, source)
        if not (self.text.hasFocus() and self.text.isModified()):
            self.text.setText(self._shown)
            self.text.setCursorPosition(0)

    def _typed(self) -> None:
        said = self.text.text().strip()
        self.text.setModified(False)
        if said == self._shown:
            return
        name = said[1:-1] if is_reference(said) else said
        if name in self._tokens():
            self.edited.emit(Token(name))
            return
        try:
            read = parse_fill if self._gradients else parse
            self.edited.emit(Color(0, 0, 0, 0) if said.lower() == "none" else read(said))
        except ColorError as problem:
            self.text.setText(self._shown)
            self.failed.emit(str(problem))

    def _menu(self) -> None:
        menu = QMenu(self)
        for name, color in sorted(self._tokens().items()):
            action = menu.addAction(swatch_icon(color, self.devicePixelRatioF()), name)
            if action is not None:
                action.triggered.connect(lambda _=False, n=name: self.edited.emit(Token(n)))
        menu.addSeparator()
        other = menu.addAction("Another colour …")
        none = menu.addAction("No colour")
        if other is not None and none is not None:
            other.triggered.connect(self._dialog)
            none.triggered.connect(lambda: self.edited.emit(Color(0, 0, 0, 0)))
        for kind in ("linear", "radial") if self._gradients else ():
            action = menu.addAction(f"A {kind} gradient")
            if action is not None:
                action.triggered.connect(lambda _=False, k=kind: self.edited.emit(self._begun(k)))
        menu.exec(self.swatch.mapToGlobal(self.swatch.rect().bottomLeft()))

    def _begun(self, kind: Literal["linear", "radial"]) -> Gradient:
        """A gradient to start from: the colour that is there, and the same much lighter."""
        now = self._color
        if isinstance(now, Gradient):
            return Gradient(kind, now.stops, now.angle)
        first = now if now.alpha else Color(0.5, 0.5, 0.5)
        return Gradient(kind, (Stop(first, 0.0), Stop(darkened(first, -0.5), 1.0)))

    def _dialog(self) -> None:
        now = self._color
        first = now.stops[0].color if isinstance(now, Gradient) else now
        alpha = QColorDialog.ColorDialogOption.ShowAlphaChannel
        picked = QColorDialog.getColor(qcolor(first), self, "Colour", alpha)
        if picked.isValid():
            self.edited.emit(
                parse(picked.name(picked.NameFormat.HexRgb)).with_alpha(picked.alphaF())
            )


class _ColorText(QLineEdit):
    """Confirms on Enter and when it loses the focus."""

    confirmed = pyqtSignal()

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setMinimumWidth(60)
        self.returnPressed.connect(self.confirmed)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        if self.isModified():
            self.confirmed.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape and self.isModified():
            self.undo()
            self.setModified(False)
            return
        super().keyPressEvent(event)


def _written(color: Fill | None, source: Value | None) -> str:
    if color is None:
        return ""
    if isinstance(color, Gradient):
        return color.css
    if isinstance(source, Token):
        return source.path
    return "none" if color.alpha == 0 else color.hex


def swatch_icon(color: Fill, ratio: float) -> QIcon:
    """A square of the colour; its lower right half shows what its transparency lets through."""
    side = round(_SWATCH * ratio)
    pixmap = QPixmap(side, side)
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.white)
    painter = QPainter(pixmap)
    if color.alpha < 1:
        for n in range(4):
            for m in range(n % 2, 4, 2):
                painter.fillRect(n * 4, m * 4, 4, 4, Qt.GlobalColor.lightGray)
    whole = QRectF(0, 0, _SWATCH, _SWATCH)
    painter.fillRect(whole, brush(color, whole))
    painter.setPen(QPen(Qt.GlobalColor.gray, 1))
    painter.drawRect(QRectF(0.5, 0.5, _SWATCH - 1, _SWATCH - 1))
    painter.end()
    return QIcon(pixmap)
