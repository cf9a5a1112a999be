"""The colour editor: tokens first, then lightness, chroma and hue, then a pipette and the
contrast with what lies behind. Everything is tried at once and set when it is let go."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QEvent, QObject, QPoint, QPointF, QRect, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QHideEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import (
    QApplication,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QToolButton,
    QWidget,
)

from outgrowth.app.fields.swatch import swatch_icon
from outgrowth.app.paint.painter import qcolor
from outgrowth.app.theme import builders
from outgrowth.core.color import TRANSPARENT, Color, ColorRefusal, over, parse
from outgrowth.core.color.polar import MOST_CHROMA, Oklch, color_of, polar
from outgrowth.core.document.values import Token
from outgrowth.workspace.views.contrast_text import contrast_text

# Px of a track: one for each hue and a little more.
_WIDE = 248


class Track(QWidget):
    """One number of the colour, on a strip that shows what each place would give. Arrow keys
    step, with Shift farther."""

    tried = pyqtSignal(float)
    released = pyqtSignal()

    def __init__(self, name: str, most: float) -> None:
        super().__init__()
        self._most = most
        self._value = 0.0
        self._colors: Callable[[float], Color] = lambda share: Color(share, share, share)
        self.setFixedHeight(20)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)

    def show_value(self, value: float, colors: Callable[[float], Color]) -> None:
        """The value, and the colour that a share of the whole would give."""
        self._value, self._colors = value, colors
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        strip = QRectF(5, 5, self.width() - 10, 10)
        steps = 32
        image = QImage(steps, 1, QImage.Format.Format_ARGB32)
        for n in range(steps):
            color = over(self._colors(n / (steps - 1)), Color(1.0, 1.0, 1.0))
            image.setPixelColor(n, 0, qcolor(color))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(strip, image)
        x = strip.x() + strip.width() * min(max(self._value / self._most, 0.0), 1.0)
        knob = QRectF(x - 4, 2, 8, 16)
        ink = self.palette().windowText().color()
        painter.setPen(QPen(ink, 2 if self.hasFocus() else 1))
        painter.setBrush(self.palette().base())
        painter.drawRoundedRect(knob, 2, 2)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._to(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        self._to(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self.released.emit()

    def _to(self, event: QMouseEvent | None) -> None:
        if event is not None:
            share = (event.position().x() - 5) / max(self.width() - 10, 1)
            self.tried.emit(min(max(share, 0.0), 1.0) * self._most)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        step = {
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Down: -1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: 1,
        }.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        value = self._value + step * far * self._most / 100
        self.tried.emit(min(max(value, 0.0), self._most))
        self.released.emit()


class Palette(QFrame):
    """Opens beside a field; goes when something else is pressed.

    tried(object)   a colour while it is being turned
    edited(object)  a Color or a Token to set
    screen_asked    a colour is to be taken from the screen
    closed          it went, with nothing more to come
    """

    tried = pyqtSignal(object)
    edited = pyqtSignal(object)
    screen_asked = pyqtSignal()
    closed = pyqtSignal()

    def __init__(
        self,
        parent: QWidget,
        tokens: dict[str, Color],
        now: Color,
        color: Color | None,
        used: Sequence[Color] = (),
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("finder")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setFixedWidth(_WIDE + 24)
        self._tokens = tokens
        self._color, self._turn = now, polar(now)
        self._backdrop = color
        page = builders.column(self, (12, 10, 12, 10), 6)
        if tokens:
            page.addWidget(self._named())
        self.used: dict[str, QToolButton] = {}
        if used:
            page.addLayout(self._plain(used))
        self.tracks: dict[str, Track] = {}
        for name, label, most in (
            ("light", "Lightness", 1.0),
            ("chroma", "Chroma", MOST_CHROMA),
            ("hue", "Hue", 360.0),
            ("alpha", "Opacity", 1.0),
        ):
            page.addLayout(self._track(name, label, most))
        self.text = QLineEdit()
        self.text.setAccessibleName("Colour in CSS notation")
        self.text.returnPressed.connect(self._typed)
        row = QHBoxLayout()
        row.addWidget(self.text, 1)
        self.pipette = builders.push_button(
            "Take from the screen",
            self._ask_screen,
            look="firm",
            tip="Then press anywhere to take the colour there",
        )
        row.addWidget(self.pipette)
        page.addLayout(row)
        self.contrast = builders.label(wrap=True)
        page.addWidget(self.contrast)
        self._row = QHBoxLayout()
        page.addLayout(self._row)
        self.offer("No colour", TRANSPARENT)
        self._row.addStretch()
        self._show()

    def offer(self, name: str, value: object) -> None:
        """One more thing to choose, in the last row."""
        button = builders.push_button(name, lambda: self._set(value), look="firm")
        self._row.insertWidget(max(self._row.count() - 1, 0), button)

    def _named(self) -> QWidget:
        """The file's colour tokens, to be picked by name."""
        body = QWidget()
        grid = QGridLayout(body)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(0)
        self.named: dict[str, QToolButton] = {}
        for n, (path, color) in enumerate(sorted(self._tokens.items())):
            button = QToolButton()
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
            button.setIcon(swatch_icon(color, self.devicePixelRatioF()))
            button.setText(path.removeprefix("color."))
            button.setToolTip(f"{path} · {color.hex}")
            button.setAccessibleName(f"Token {path}")
            button.clicked.connect(partial(self._set, Token(path)))
            self.named[path] = button
            grid.addWidget(button, n // 2, n % 2)
        grid.setColumnStretch(0, 1)
        grid.setColumnStretch(1, 1)
        area = builders.scroll_area(body)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setFixedHeight(min(26 * ((len(self._tokens) + 1) // 2) + 2, 132))
        return area

    def _plain(self, used: Sequence[Color]) -> QHBoxLayout:
        """Colours without a name that the file uses, to be picked again."""
        row = builders.row(spacing=1)
        for color in used:
            about = f"{color.hex}, used in this file"
            button = builders.tool_button(
                partial(self._set, color), look="icon", name=about, tip=about
            )
            button.setIcon(swatch_icon(color, self.devicePixelRatioF()))
            self.used[color.hex] = button
            row.addWidget(button)
        row.addStretch()
        return row

    def _track(self, name: str, label: str, most: float) -> QHBoxLayout:
        row = QHBoxLayout()
        name_label = builders.label(label, tone="muted")
        name_label.setFixedWidth(66)
        track = Track(label, most)
        track.tried.connect(partial(self._turned, name))
        track.released.connect(self._commit)
        self.tracks[name] = track
        row.addWidget(name_label)
        row.addWidget(track, 1)
        return row

    # --- what is shown ----------------------------------------------------------------------

    def _show(self) -> None:
        turn, alpha = self._turn, self._color.alpha
        self.tracks["light"].show_value(turn.light, lambda s: color_of(turn._replace(light=s)))
        self.tracks["chroma"].show_value(
            turn.chroma, lambda s: color_of(turn._replace(chroma=s * MOST_CHROMA))
        )
        mid_tone = Oklch(max(min(turn.light, 0.75), 0.5), 0.13, 0.0)
        self.tracks["hue"].show_value(turn.hue, lambda s: color_of(mid_tone._replace(hue=s * 360)))
        self.tracks["alpha"].show_value(alpha, lambda s: self._color.with_alpha(s))
        if not self.text.hasFocus():
            self.text.setText(self._color.hex)
        backdrop = self._backdrop
        self.contrast.setText(contrast_text(self._color, backdrop) if backdrop is not None else "")

    # --- turning and setting ----------------------------------------------------------------

    def _turned(self, name: str, value: float) -> None:
        if name == "alpha":
            self._color = self._color.with_alpha(value)
        else:
            self._turn = self._turn._replace(**{name: value})
            alpha = self._color.alpha or 1.0
            self._color = color_of(self._turn, alpha)
        self._color = parse(self._color.hex)  # as it will be kept
        self._show()
        self.tried.emit(self._color)

    def _commit(self) -> None:
        self.edited.emit(self._color)

    def _typed(self) -> None:
        try:
            self._color = parse(self.text.text())
        except ColorRefusal as problem:
            self.contrast.setText(f"! {problem}")
            return
        self._turn = polar(self._color)
        self.edited.emit(self._color)
        self.close()

    def _set(self, value: object, _: bool = False) -> None:
        self.edited.emit(value)
        self.close()

    def _ask_screen(self) -> None:
        self.close()
        self.screen_asked.emit()

    def hideEvent(self, event: QHideEvent | None) -> None:
        self.closed.emit()
        super().hideEvent(event)


class Pipette(QObject):
    """Takes the colour at the next press anywhere in the window; Esc leaves it."""

    picked = pyqtSignal(object)

    def __init__(self, owner: QWidget | None) -> None:
        super().__init__(owner)
        self._owner = owner
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.installEventFilter(self)
            QApplication.setOverrideCursor(Qt.CursorShape.CrossCursor)

    def _end(self) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.removeEventFilter(self)
            QApplication.restoreOverrideCursor()
        self.deleteLater()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Escape:
            self._end()
            return True
        if not isinstance(event, QMouseEvent) or not isinstance(watched, QWidget):
            return False
        if event.type() == QEvent.Type.MouseButtonPress:
            self._end()
            self.picked.emit(color_at(watched, event.position()))
            return True
        return False


def color_at(widget: QWidget, point: QPointF) -> Color:
    """The colour that a widget shows at a point."""
    window = widget.window()
    corner: QPoint = (
        widget.mapTo(window, point.toPoint()) if window is not None else point.toPoint()
    )
    pixel = (window or widget).grab(QRect(corner.x(), corner.y(), 1, 1)).toImage().pixelColor(0, 0)
    return Color(pixel.redF(), pixel.greenF(), pixel.blueF())
