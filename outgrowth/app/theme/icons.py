"""Icons of the chrome, from one open line family through qtawesome, and our own leaf."""

from __future__ import annotations

from functools import lru_cache

import qtawesome
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPen

from outgrowth.core.document.properties import Kind

NODE_ICONS: dict[Kind, str] = {"box": "ph.square", "text": "ph.text-t", "shape": "ph.triangle"}


@lru_cache(maxsize=256)
def icon(name: str, color: str) -> QIcon:
    """The Phosphor icon `ph.<name>` in a colour."""
    made: QIcon = qtawesome.icon(name, color=color)
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
