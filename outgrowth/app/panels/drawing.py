"""The strip above the layers: what can be drawn. A press takes up the pen for it, and the
next press on the bench draws; by key it is drawn at once where the selection is."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QSize, pyqtSignal
from PyQt6.QtWidgets import QToolButton, QWidget

from outgrowth.app.benches.pen import Pen
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.icons import icon
from outgrowth.app.theme.sheet import dress
from outgrowth.core.edits.tree.drawing import DrawnKind

_MARKS: dict[DrawnKind, tuple[str, str]] = {
    "box": ("square", "Draw a box (Alt+B)"),
    "text": ("text-t", "Draw some words (Alt+T)"),
    "ellipse": ("circle", "Draw an ellipse (Alt+E)"),
    "ring": ("circle-notch", "Draw a ring (Alt+R)"),
    "line": ("line-segment", "Draw a line (Alt+L)"),
}


class DrawStrip(QWidget):
    """One small button a thing, the one that the pen holds pressed in.

    action_asked(str)  an action of the window that places something, by its id
    """

    action_asked = pyqtSignal(str)

    def __init__(self, pen: Pen, theme: Theme) -> None:
        super().__init__()
        self._pen = pen
        dress(self, "panel", "bottom")
        self.setFixedHeight(33)
        row = builders.row(self, (8, 3, 4, 3))
        self.buttons: dict[str, QToolButton] = {}
        for drawn_kind, (_, said) in _MARKS.items():
            button = self._button(drawn_kind, said)
            button.setCheckable(True)
            button.clicked.connect(partial(pen.take_up, drawn_kind))
            row.addWidget(button)
        for name, said, action in (
            ("icon", "Place an icon (Alt+I)", "draw-icon"),
            ("picture", "Place a picture or a drawing (Alt+P)", "place-picture"),
        ):
            button = self._button(name, said)
            button.clicked.connect(partial(self.action_asked.emit, action))
            row.addWidget(button)
        row.addStretch()
        pen.changed.connect(self._show)
        self.set_theme(theme)

    def _button(self, name: str, text: str) -> QToolButton:
        button = builders.tool_button(look="draw", name=text, tip=text)
        button.setIconSize(QSize(16, 16))
        self.buttons[name] = button
        return button

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        for drawn_kind, (mark, _) in _MARKS.items():
            self.buttons[drawn_kind].setIcon(icon(mark, theme.ink))
        self.buttons["icon"].setIcon(icon("boat", theme.ink))
        self.buttons["picture"].setIcon(icon("image", theme.ink))

    def _show(self) -> None:
        for drawn_kind in _MARKS:
            self.buttons[drawn_kind].setChecked(self._pen.drawn_kind == drawn_kind)
