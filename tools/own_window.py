"""Our own review, run on our own window: each view of the window as a screen of our own file, its
words in the colours that were painted, its fields and buttons with the names they are spoken by.

    python -m tools.own_window [light|dark]
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Iterator

from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLabel, QLineEdit, QWidget

from outgrowth.app.main import WindowManager, application
from outgrowth.app.theme import DARK, LIGHT
from outgrowth.app.theme.sheet import FAMILY, install
from outgrowth.app.window import MainWindow
from outgrowth.core.color import Color, parse
from outgrowth.core.document.records import Document, Node, Screen
from outgrowth.core.document.values import Value, fixed, words
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.layout import Layout
from outgrowth.core.review.finding import Finding, ReviewSubject
from outgrowth.core.review.reviewer import Reviewer
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import DEMO, FONTS

# Px: what is narrower says nothing; its words were cut away.
_LEAST = 12
VIEWS = ("grid", "overview", "map", "rules", "tokens", "words", "look", "trials", "hand-over")
SUBJECTS: tuple[ReviewSubject, ...] = ("contrast", "targets", "names")
# Of a picture of a window the order of the keys is not known, and a field says its value.
_UNKNOWN = frozenset({"focus-order", "label-in-name", "buttons-alike", "group-without-name"})
_ROLES = ((QAbstractButton, "button"), (QLineEdit, ""), (QComboBox, "button"), (QLabel, ""))


def reviewed(window: MainWindow, view: str) -> list[Finding]:
    """What our review says of one view of a window."""
    document = add_screen(Document("window"), as_screen(window, view))
    reviewer = Reviewer(Layout(Typesetter(shipped(FONTS))))
    return [f for f in reviewer.findings(document, SUBJECTS) if f.kind not in _UNKNOWN]


def as_screen(window: MainWindow, name: str) -> Screen:
    """A window as it is seen now, as a free screen of boxes and words."""
    image = window.grab().toImage()
    root_style: dict[str, Value] = {"flow": "free", "width": fixed(float(window.width()))}
    root_style |= {"height": fixed(float(window.height())), "fill": parse("#FFFFFF")}
    nodes = [
        _node(f"w{n}", widget, window, image) for n, widget in enumerate(_seen(window, window))
    ]
    return Screen(name, name, new_node("root", name, "box", root_style, nodes))


def _seen(widget: QWidget, window: QWidget) -> Iterator[QWidget]:
    """The fields, buttons and labels in sight that have words, or are pressed."""
    for child in widget.findChildren(QWidget):
        known = isinstance(child, tuple(kind for kind, _ in _ROLES))
        if not known or not child.isVisible() or isinstance(child.parent(), QComboBox):
            continue
        whole = child.visibleRegion().boundingRect() == child.rect()
        if whole and child.width() > _LEAST and (_text(child) or not isinstance(child, QLabel)):
            yield child


def _text(widget: QWidget) -> str:
    if isinstance(widget, QComboBox):
        return widget.currentText()
    if isinstance(widget, QLineEdit):
        return widget.text() or widget.placeholderText()
    text = widget.text() if isinstance(widget, QAbstractButton | QLabel) else ""
    return "" if "<" in text else text.replace("&", "")


def _node(key: str, widget: QWidget, window: QWidget, image: QImage) -> Node:
    rect = QRect(widget.mapTo(window, QPoint(0, 0)), widget.size())
    ground, ink = _colors(image, rect)
    role = next(role for kind, role in _ROLES if isinstance(widget, kind))
    style: dict[str, Value] = {"x": float(rect.x()), "y": float(rect.y()), "fill": ground}
    style |= {"width": fixed(float(rect.width())), "height": fixed(float(rect.height()))}
    if role and widget.isEnabled():
        style |= {"role": role, "label": widget.accessibleName() or _text(widget)}
    text = _text(widget)
    size = float(widget.fontInfo().pixelSize())
    said: dict[str, Value] = {"content": words(text), "color": ink, "font-size": size}
    said |= {"font-family": FAMILY}
    is_said = bool(text) and widget.isEnabled()
    inner = [new_node(f"{key}-t", text[:40], "text", said)] if is_said else []
    return new_node(key, widget.accessibleName() or text or key, "box", style, inner)


def _colors(image: QImage, rect: QRect) -> tuple[Color, Color]:
    """The ground of a place, its most common colour, and its ink: what is farthest from that."""
    ratio = image.devicePixelRatio()
    seen: Counter[int] = Counter()
    for y in range(int(rect.top() * ratio), int((rect.bottom() + 1) * ratio)):
        for x in range(int(rect.left() * ratio), int((rect.right() + 1) * ratio)):
            if image.valid(x, y):
                seen[image.pixel(x, y) & 0xFFFFFF] += 1
    if not seen:
        return parse("#FFFFFF"), parse("#000000")
    ground = seen.most_common(1)[0][0]
    ink = max((c for c, n in seen.items() if n >= 2), key=lambda c: _far(c, ground), default=ground)
    return parse(f"#{ground:06X}"), parse(f"#{ink:06X}")


def _far(a: int, b: int) -> int:
    return sum(abs((a >> shift & 255) - (b >> shift & 255)) for shift in (0, 8, 16))


def main(looks: list[str]) -> None:
    """Prints what is found in each view, in each look."""
    for theme in (LIGHT, DARK):
        if looks and theme.name not in looks:
            continue
        app = application(theme)
        install(app, theme)
        desk = WindowManager(theme)
        window = desk.open(DEMO)
        window.resize(1280, 800)
        window.workspace.open("button")
        for view in VIEWS:
            window.view.show(view)
            QTest.qWait(400)
            for finding in reviewed(window, view):
                if finding.sure != "maybe":
                    sys.stdout.write(f"{theme.name} {view}: {finding.kind}: {finding.text}\n")
        window.live.stage.stop()
        window.close()
        desk.system_fonts.stop()


if __name__ == "__main__":
    main(sys.argv[1:])
