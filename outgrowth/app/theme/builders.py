"""Rows, columns, labels, fields and buttons in one line each, as the style sheet dresses them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from PyQt6 import sip
from PyQt6.QtCore import QPoint, Qt, pyqtBoundSignal
from PyQt6.QtWidgets import (
    QAbstractButton,
    QBoxLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

Margins = tuple[int, int, int, int]
"""Left, top, right and bottom, in px."""
NONE: Margins = (0, 0, 0, 0)
Act = Callable[..., Any] | pyqtBoundSignal
"""A slot, or a signal that goes on."""
_Layout = TypeVar("_Layout", bound=QBoxLayout)
_Button = TypeVar("_Button", bound=QAbstractButton)


def row(parent: QWidget | None = None, margins: Margins = NONE, spacing: int = 0) -> QHBoxLayout:
    """A layout from left to right; with a parent, that widget's."""
    return _spaced(QHBoxLayout() if parent is None else QHBoxLayout(parent), margins, spacing)


def column(parent: QWidget | None = None, margins: Margins = NONE, spacing: int = 0) -> QVBoxLayout:
    """A layout from top to bottom; with a parent, that widget's."""
    return _spaced(QVBoxLayout() if parent is None else QVBoxLayout(parent), margins, spacing)


def _spaced(layout: _Layout, margins: Margins, spacing: int) -> _Layout:
    layout.setContentsMargins(*margins)
    layout.setSpacing(spacing)
    return layout


def label(
    text: str = "",
    *,
    tone: str = "",
    weight: str = "",
    wrap: bool = False,
    plain: bool = False,
    name: str = "",
) -> QLabel:
    """Words, `plain` where nothing in them is markup. `name` is what assistive technology calls
    them."""
    made = QLabel(text)
    for key, value in (("tone", tone), ("weight", weight)):
        if value:
            made.setProperty(key, value)
    if wrap:
        made.setWordWrap(True)
    if plain:
        made.setTextFormat(Qt.TextFormat.PlainText)
    if name:
        made.setAccessibleName(name)
    return made


def line_edit(hint: str, name: str = "", clears: bool = False) -> QLineEdit:
    """A field of one line. `hint` stands in it while it is empty, `name` is the spoken one if that
    is another; `clears` adds a mark that empties it."""
    made = QLineEdit()
    made.setPlaceholderText(hint)
    made.setAccessibleName(name or hint)
    made.setClearButtonEnabled(clears)
    return made


def scroll_area(content: QWidget | None = None) -> QScrollArea:
    """What is larger than its room, as wide as that; the keys go to what is in it."""
    made = QScrollArea()
    made.setWidgetResizable(True)
    made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    if content is not None:
        made.setWidget(content)
    return made


def push_button(
    text: str = "",
    act: Act | None = None,
    *,
    look: str = "",
    name: str = "",
    tip: str = "",
) -> QPushButton:
    """A button with words. `act` is a slot or a signal; `name` is the spoken one."""
    return _dressed(QPushButton(text), act, look, name, tip)


def tool_button(
    act: Act | None = None, *, text: str = "", look: str = "", name: str = "", tip: str = ""
) -> QToolButton:
    """A button with a mark, or with a word and a mark."""
    made = _dressed(QToolButton(), act, look, name, tip)
    made.setText(text)
    return made


def menu_entry(menu: QMenu | None, text: str, act: Callable[[], object]) -> None:
    """One more line of a menu, and what it does."""
    entry = menu.addAction(text) if menu is not None else None
    if entry is not None:
        entry.triggered.connect(lambda _=False: act())


def show_menu(menu: QMenu, at: QPoint | QWidget) -> None:
    """Shows a menu at a point of the screen or under a widget until something is picked or it is
    left. It ends with its use: what a window makes for one question would stay with it for good."""
    point = at.mapToGlobal(at.rect().bottomLeft()) if isinstance(at, QWidget) else at
    try:
        menu.exec(point)
    finally:
        if not sip.isdeleted(menu):
            menu.deleteLater()


def _dressed(button: _Button, act: Act | None, look: str, name: str, tip: str) -> _Button:
    if look:
        button.setProperty("look", look)
    if name:
        button.setAccessibleName(name)
    if tip:
        button.setToolTip(tip)
    if act is not None:
        button.clicked.connect(act)
    return button
