"""The style sheet of the standard widgets, made from a theme."""

from __future__ import annotations

from string import Template

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QFont, QFontDatabase, QPalette
from PyQt6.QtWidgets import QApplication, QWidget

from outgrowth.app.theme.palette import Theme
from outgrowth.resources import FONTS

FAMILY = "Atkinson Hyperlegible Next"
BASE_PX = 13

_SHEET = Template("""
* { outline: none; }
QWidget { color: $ink; font-family: "$family"; font-size: ${size}px; }
QMainWindow { background: $chrome; }
QDialog { background: $panel; border: 1px solid $muted; }
QWidget[room="panel"] { background: $panel; }
QWidget[room="chrome"] { background: $chrome; }
QWidget[room="field"] { background: $field; }
QWidget[room="bed"] { background: $bed; }
QWidget[edge="right"] { border-right: 1px solid $hairline; }
QWidget[edge="left"] { border-left: 1px solid $hairline; }
QWidget[edge="top"] { border-top: 1px solid $hairline; }
QWidget[edge="bottom"] { border-bottom: 1px solid $hairline; }
QLabel { background: transparent; border: none; }
QLabel[tone="muted"], QToolButton[tone="muted"] { color: $muted; }
QLabel[tone="problem"] { color: $problem; }
QLabel[pulled="true"]:hover { color: $clay; text-decoration: underline; }
QLabel[weight="bold"] { font-weight: 700; }

QLineEdit, QComboBox { background: $field; border: 1px solid $hairline; border-radius: 3px;
  padding: 0 6px; min-height: 24px; max-height: 24px; selection-background-color: $slate;
  selection-color: $field; placeholder-text-color: $muted; }
QLineEdit:focus, QComboBox:focus { border: 2px solid $slate; padding: 0 5px; min-height: 22px;
  max-height: 22px; }
QLineEdit:disabled { color: $muted; background: $panel; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox::down-arrow { image: none; }
QComboBox QAbstractItemView { background: $field; border: 1px solid $hairline;
  selection-background-color: $lit; selection-color: $ink; padding: 4px; }

QToolButton, QPushButton { background: transparent; border: 1px solid transparent;
  border-radius: 3px; padding: 0 8px; min-height: 24px; }
QToolButton:hover, QPushButton:hover { background: $lit; border-color: $hairline; }
QToolButton:pressed, QPushButton:pressed { background: $bed; }
QToolButton:focus, QPushButton:focus { border: 2px solid $slate; padding: 0 7px;
  min-height: 22px; }
QToolButton:disabled, QPushButton:disabled { color: $hairline; }
QPushButton[look="firm"], QToolButton[look="firm"] { background: $field;
  border: 1px solid $hairline; }
QPushButton[look="offer"] { background: $field; border: 1px solid $hairline; font-weight: 700;
  font-size: 12px; min-height: 18px; max-height: 18px; padding: 0 8px; }
QPushButton[look="offer"]:hover { background: $lit; border-color: $ink; }
QPushButton[look="offer"]:focus { border: 2px solid $slate; padding: 0 7px; min-height: 16px; }
QToolButton[look="held"] { background: $panel; border: 1px solid $clay; color: $clay;
  font-weight: 700; }
QToolButton[look="icon"] { padding: 0; min-width: 26px; max-width: 26px; min-height: 26px;
  max-height: 26px; }
QToolButton[look="card"] { background: $panel; border: 1px solid $hairline;
  padding: 8px 8px 6px 8px; min-width: 156px; min-height: 128px; }
QToolButton[look="card"]:hover { background: $lit; }
QToolButton[look="card"]:focus { border: 2px solid $slate; padding: 7px 7px 5px 7px; }
QToolButton[look="draw"] { padding: 0; min-width: 22px; max-width: 22px; min-height: 24px;
  max-height: 24px; border: 1px solid transparent; }
QToolButton[look="draw"]:hover { background: $lit; border-color: $hairline; }
QToolButton[look="draw"]:checked { background: $bed; border-color: $ink; }
QToolButton[look="draw"]:focus { border: 2px solid $slate; }
QToolButton[look="segment"] { padding: 0 5px; color: $muted; border: none; border-radius: 0;
  min-height: 24px; max-height: 24px; border-bottom: 2px solid transparent; }
QToolButton[look="segment"]:hover { background: $lit; color: $ink; }
QToolButton[look="segment"]:checked { color: $ink; font-weight: 700;
  border-bottom: 2px solid $ink; }
QToolButton[look="segment"]:focus { border: 2px solid $slate; padding: 0 3px; }
QToolButton[look="segment"][tight="true"] { padding: 0 2px; }
QToolButton[look="tab"] { padding: 0 2px; color: $muted; border: none; border-radius: 0;
  border-bottom: 2px solid transparent; min-height: 32px; font-size: ${size}px; }
QToolButton[look="tab"]:checked { color: $ink; font-weight: 700; border-bottom: 2px solid $ink; }
QToolButton[look="tab"]:hover { color: $ink; background: transparent; }
QPlainTextEdit[look="code"] { font-family: monospace; font-size: 12px; border: none;
  background: $panel; padding: 0; }
QLabel[look="sentence"] { border: 1px solid transparent; border-radius: 3px; padding: 3px 6px; }
QLabel[look="sentence"]:hover { background: $lit; border-color: $hairline; }
QLabel[look="sentence"]:focus { border: 2px solid $slate; padding: 2px 5px; }
QLabel[look="sentence"][chosen="true"] { font-weight: 700; background: $lit;
  border-left: 3px solid $clay; }
QPushButton[look="several"] { background: $field; border: 1px solid $hairline;
  border-radius: 3px; min-height: 24px; }
QPushButton[look="several"]:focus { border: 2px solid $slate; min-height: 22px; }
QPushButton[look="tag"] { padding: 0 3px; color: $muted; border: 1px solid transparent;
  text-align: right; font-size: 12px; }
QPushButton[look="tag"]:hover { color: $ink; border-color: $hairline; background: transparent; }
QPushButton[look="tag"]:focus { border: 1px solid $slate; padding: 0 3px; min-height: 24px; }
QPushButton[look="tag"][changed="true"] { color: $saffron; font-weight: 700; }
QToolButton::menu-indicator { image: none; }

QMenu { background: $field; border: 1px solid $hairline; padding: 4px; }
QMenu::item { padding: 5px 24px 5px 12px; border-radius: 3px; }
QMenu::item:selected { background: $lit; }
QMenu::item:disabled { color: $muted; }
QMenu::separator { height: 1px; background: $hairline; margin: 4px 8px; }

QScrollArea, QAbstractScrollArea { background: transparent; border: none; }
QTextEdit { background: $field; border: 1px solid $hairline; border-radius: 3px;
  selection-background-color: $slate; selection-color: $field; }
QTextEdit:focus { border: 2px solid $slate; }
QAbstractScrollArea::corner { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
QScrollBar::handle { background: $hairline; border-radius: 3px; margin: 2px; }
QScrollBar::handle:vertical { min-height: 28px; }
QScrollBar::handle:horizontal { min-width: 28px; }
QScrollBar::handle:hover { background: $muted; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {
  background: transparent; border: none; width: 0; height: 0; }
QProgressBar { background: $bed; border: none; border-radius: 3px; }
QProgressBar::chunk { background: $clay; border-radius: 3px; }
QSplitter::handle { background: $hairline; }
QToolTip { background: $ink; color: $panel; border: none; padding: 4px 8px; }
QTreeView, QListView { background: $panel; border: none; }
QListWidget::item:selected { background: $bed; color: $ink; border-left: 3px solid $clay; }
QListWidget[look="pictures"]::item { border-radius: 3px; padding: 4px 2px; }
QListWidget[look="pictures"]::item:selected { background: $bed; color: $ink;
  border: 1px solid $ink; }
QListWidget::item:hover { background: $lit; }
QWidget#pad { background: $panel; border: 1px solid $muted; border-radius: 3px; }
QFrame#finder { background: $panel; border: 1px solid $muted; border-radius: 3px; }
""")


def install(app: QApplication, theme: Theme) -> None:
    """Gives the whole application a theme."""
    app.setStyle("Fusion")
    font = QFont(FAMILY)
    font.setPixelSize(BASE_PX)
    app.setFont(font)
    palette = QPalette()
    for role, name in (
        (QPalette.ColorRole.Window, "chrome"),
        (QPalette.ColorRole.Base, "field"),
        (QPalette.ColorRole.Text, "ink"),
        (QPalette.ColorRole.WindowText, "ink"),
        (QPalette.ColorRole.ButtonText, "ink"),
        (QPalette.ColorRole.PlaceholderText, "muted"),
        (QPalette.ColorRole.Highlight, "slate"),
        (QPalette.ColorRole.HighlightedText, "field"),
    ):
        palette.setColor(role, theme.color(name))
    app.setPalette(palette)
    app.setStyleSheet(_SHEET.substitute(theme._asdict(), family=FAMILY, size=BASE_PX))


def load_fonts() -> None:
    """Makes the shipped chrome type known to Qt."""
    for path in sorted(FONTS.glob("AtkinsonHyperlegibleNext*.ttf")):
        QFontDatabase.addApplicationFont(str(path))


def dress(widget: QWidget, room: str = "", edge: str = "") -> None:
    """Gives a plain widget the ground of a room (panel, chrome, bed), and a hairline at one
    edge, by the style sheet."""
    if room:
        widget.setProperty("room", room)
    if edge:
        widget.setProperty("edge", edge)
    widget.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)


def restyle(widget: QWidget, name: str, value: str | bool) -> None:
    """Sets a property that the style sheet asks for. Only a real change is passed on: Qt
    takes milliseconds to match the sheet anew. A property not set yet counts as off."""
    if (widget.property(name) or False) == value:
        return
    widget.setProperty(name, value)
    style = widget.style()
    if style is not None:
        style.unpolish(widget)
        style.polish(widget)
