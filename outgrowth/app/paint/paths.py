"""Shapes of the display list as Qt's own: rectangles, rounded ones, outlines."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainterPath, QPolygonF

from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.path import outline
from outgrowth.core.paint.shapes import Rounded


def qrect(rect: Rect) -> QRectF:
    """A rectangle as Qt has it."""
    return QRectF(rect.x, rect.y, rect.width, rect.height)


def rounded_path(shape: Rounded) -> QPainterPath:
    """A rectangle with elliptic corners."""
    path = QPainterPath()
    x, y, width, height = shape.rect
    first = shape.bends[0]
    if all(bend == first for bend in shape.bends):
        path.addRoundedRect(QRectF(x, y, width, height), *first)  # Qt knows this one by heart
        return path
    right, bottom = x + width, y + height
    (tl_x, tl_y), (tr_x, tr_y), (br_x, br_y), (bl_x, bl_y) = shape.bends
    path.moveTo(x + tl_x, y)
    path.lineTo(right - tr_x, y)
    _corner(path, right - 2 * tr_x, y, tr_x, tr_y, 90)
    path.lineTo(right, bottom - br_y)
    _corner(path, right - 2 * br_x, bottom - 2 * br_y, br_x, br_y, 0)
    path.lineTo(x + bl_x, bottom)
    _corner(path, x, bottom - 2 * bl_y, bl_x, bl_y, -90)
    path.lineTo(x, y + tl_y)
    _corner(path, x, y, tl_x, tl_y, 180)
    path.closeSubpath()
    return path


def _corner(
    path: QPainterPath, x: float, y: float, across: float, down: float, start: float
) -> None:
    if across > 0 and down > 0:
        path.arcTo(QRectF(x, y, 2 * across, 2 * down), start, -90)


def outline_path(data: str) -> QPainterPath:
    """A Qt path that follows an outline's segments (fontTools' pen calls)."""
    path = QPainterPath()
    for call, points in outline(data):
        if call == "moveTo":
            path.moveTo(*points[0])
        elif call == "lineTo":
            path.lineTo(*points[0])
        elif call == "curveTo":
            path.cubicTo(*(n for point in points for n in point))
        elif call == "qCurveTo":
            path.quadTo(*(n for point in points for n in point))
        elif call == "closePath":
            path.closeSubpath()
    return path


def arrow_head(path: QPainterPath, length: float) -> QPolygonF:
    """An arrow's head at the end of a path, so many px long and as wide."""
    tip = path.pointAtPercent(1.0)
    angle = math.radians(path.angleAtPercent(0.97))
    back = QPointF(-math.cos(angle), math.sin(angle))
    side = QPointF(back.y(), -back.x())
    half = length / 2
    return QPolygonF([tip, tip + back * length + side * half, tip + back * length - side * half])
