"""Icons of the chrome, from one open line family, and our own leaf.

The few that are used ship as SVG files: the package that carries the whole family as a font
takes a third of a second to import, a third of what the window may take to open.
"""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QByteArray, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPen, QPixmap, QPolygonF
from PyQt6.QtSvg import QSvgRenderer

from outgrowth.core.document.properties import NodeKind
from outgrowth.resources import ICONS

_SIDES = (10, 14, 16, 20, 24, 28, 32, 40)

NODE_ICONS: dict[NodeKind, str] = {
    "box": "square",
    "text": "text-t",
    "shape": "triangle",
    "image": "image",
}


@lru_cache(maxsize=256)
def icon(name: str, color: str) -> QIcon:
    """The shipped line icon of this name in a colour."""
    drawing = (ICONS / f"{name}.svg").read_text("utf-8").replace("currentColor", color)
    renderer = QSvgRenderer(QByteArray(drawing.encode()))
    made = QIcon()
    for side in _SIDES:
        pixmap = QPixmap(side, side)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        renderer.render(painter)
        painter.end()
        made.addPixmap(pixmap)
    return made


def leaf_path(rect: QRectF) -> QPainterPath:
    """A leaf: two opposite corners round, two pointed."""
    radius = min(rect.width(), rect.height()) * 0.62
    path = QPainterPath()
    path.moveTo(rect.topLeft())
    path.lineTo(rect.right() - radius, rect.top())
    path.quadTo(rect.topRight(), QPointF(rect.right(), rect.top() + radius))
    path.lineTo(rect.bottomRight())
    path.lineTo(rect.left() + radius, rect.bottom())
    path.quadTo(rect.bottomLeft(), QPointF(rect.left(), rect.bottom() - radius))
    path.closeSubpath()
    return path


def draw_leaf(painter: QPainter, rect: QRectF, color: QColor, mark: str) -> None:
    """The mark of a component ("solid"), an instance ("outline") or a slot ("broken")."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    path = leaf_path(rect)
    if mark == "solid":
        painter.fillPath(path, color)
    else:
        pen = QPen(color, 1.5)
        if mark == "broken":
            pen.setStyle(Qt.PenStyle.DotLine)
        painter.strokePath(path, pen)
    painter.restore()


def draw_flag(
    painter: QPainter, place: QPointF, color: QColor, filled: bool, scale: float = 1.0
) -> None:
    """A pennant on its pole, 8 px wide and 12 high: where an axis starts."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(color, 1.5))
    painter.drawLine(place, place + QPointF(0, 12 * scale))
    painter.setBrush(color if filled else Qt.BrushStyle.NoBrush)
    corners = (QPointF(0, 0.5), QPointF(8, 3.5), QPointF(0, 6.5))
    painter.drawPolygon(QPolygonF([place + corner * scale for corner in corners]))
    painter.restore()
