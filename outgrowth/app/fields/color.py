"""A colour field: a swatch, the colour's text, and the file's colour tokens to pick from."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.line import ValueLine
from outgrowth.app.fields.palette import Palette, Pipette
from outgrowth.app.fields.swatch import swatch_icon
from outgrowth.app.job import JobRunner
from outgrowth.app.theme.builders import row, tool_button
from outgrowth.core.color import (
    Color,
    ColorRefusal,
    Fill,
    Gradient,
    Stop,
    darkened,
    parse,
    parse_fill,
)
from outgrowth.core.document.types import is_reference
from outgrowth.core.document.values import Token, Value


class ColorField(QWidget):
    """Shows a colour: as a token's name where it comes from one.

    edited(object)  a Color or a Token to set
    tried(object)   a colour while it is being turned
    left            nothing more is being tried
    failed(str)     what was typed is no colour
    """

    edited = pyqtSignal(object)
    tried = pyqtSignal(object)
    left = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(
        self,
        name: str,
        tokens: Callable[[], dict[str, Color]],
        gradients: bool = False,
        backdrop: Callable[[], Color | None] = lambda: None,
        used: Callable[[], Sequence[Color]] = tuple,
    ) -> None:
        super().__init__()
        self._used = used
        self._tokens = tokens
        self._gradients = gradients
        self._backdrop = backdrop
        self._color: Fill = Color(0, 0, 0, 0)
        self._shown_text = ""
        self.swatch = tool_button(
            self.open_palette,
            look="icon",
            name=f"{name}: pick a token or a colour",
            tip=f"{name}: pick a token or a colour",
        )
        self._jobs: JobRunner | None = None
        self.text = _ColorText(name)
        self.text.confirmed.connect(self._typed)
        layout = row(self, spacing=4)
        layout.addWidget(self.swatch)
        layout.addWidget(self.text)
        self.setFocusProxy(self.text)

    def show_value(self, color: Fill | None, source: Value | None) -> None:
        """Shows the settled colour (or gradient), and the token it comes from if it does."""
        self._color = color or Color(0, 0, 0, 0)
        self.swatch.setIcon(swatch_icon(self._color, self.devicePixelRatioF()))
        self._shown_text = _written(color, source)
        if not (self.text.hasFocus() and self.text.isModified()):
            self.text.setText(self._shown_text)
            self.text.setCursorPosition(0)

    def _typed(self) -> None:
        text = self.text.text().strip()
        self.text.setModified(False)
        if text == self._shown_text:
            return
        name = text[1:-1] if is_reference(text) else text
        if name in self._tokens():
            self.edited.emit(Token(name))
            return
        try:
            read = parse_fill if self._gradients else parse
            self.edited.emit(Color(0, 0, 0, 0) if text.lower() == "none" else read(text))
        except ColorRefusal as problem:
            self.text.setText(self._shown_text)
            self.failed.emit(str(problem))

    def open_palette(self) -> Palette:
        """The colour editor, below the swatch."""
        color = self._color
        first = color.stops[0].color if isinstance(color, Gradient) else color
        palette = Palette(self, self._tokens(), first, self._backdrop(), self._used())
        kinds: tuple[Literal["linear", "radial"], ...] = ("linear", "radial")
        for kind in kinds if self._gradients else ():
            palette.offer(kind.capitalize(), self._begun(kind))
        palette.tried.connect(self.tried)
        palette.edited.connect(self.edited)
        palette.closed.connect(self.left)
        palette.screen_asked.connect(self.take_from_screen)
        palette.adjustSize()
        corner = self.swatch.mapToGlobal(self.swatch.rect().bottomLeft())
        window = self.window()
        room = window.geometry() if window is not None else self.geometry()
        corner.setX(max(min(corner.x(), room.right() - palette.width()), room.left()))
        corner.setY(max(min(corner.y(), room.bottom() - palette.height()), room.top()))
        palette.move(corner)
        palette.show()
        return palette

    def take_from_screen(self) -> None:
        """The colour of what is pressed next: anywhere, if the desktop gives it; else in the
        window."""
        # Here and not above: speaking to the desktop takes long to import, for a rare press.
        from outgrowth.app.fields.desktop_color import desktop_color

        if self._jobs is None:
            self._jobs = JobRunner(self)
        self._jobs.stop()  # a press that never came is waited for no longer
        self._jobs.start(desktop_color, self.edited.emit, lambda _: self._take_from_window())

    def _take_from_window(self) -> None:
        Pipette(self).picked.connect(self.edited)

    def _begun(self, kind: Literal["linear", "radial"]) -> Gradient:
        """A gradient to start from: the colour that is there, and the same much lighter."""
        color = self._color
        if isinstance(color, Gradient):
            return Gradient(kind, color.stops, color.angle)
        first = color if color.alpha else Color(0.5, 0.5, 0.5)
        return Gradient(kind, (Stop(first, 0.0), Stop(darkened(first, -0.5), 1.0)))


class _ColorText(ValueLine):
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
