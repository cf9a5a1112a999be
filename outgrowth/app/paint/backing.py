"""The picture of a bench as it was last shown: moved when the view moves, painted anew only
where something is another, and shown enlarged for a moment while a zoom is drawn exactly."""

from __future__ import annotations

import math
import time
from collections.abc import Callable
from typing import NamedTuple

from PyQt6.QtCore import QPoint, QRect, QRectF, QSize
from PyQt6.QtGui import QColor, QImage, QPainter

from outgrowth.app.paint.painter import QtPainter
from outgrowth.app.paint.rasters import Rasters
from outgrowth.core.geometry import Rect
from outgrowth.core.paint.damage import damage
from outgrowth.core.paint.fragment import Fragment

# Seconds that the last whole picture may have taken for the next to be painted at once.
_QUICK = 0.008
# Seconds of painting between two events, and bands of the whole.
_SLICE = 0.006
_BANDS = 12


class Shot(NamedTuple):
    """What is to be seen: device px a px, where the root's corner lies and how large the
    picture is, both in device px."""

    scale: float
    corner: QPoint
    size: QSize


class Backing:
    """`later` is called when more is to be painted soon: it should come back to `go_on` and
    repaint. Without it every picture is exact at once."""

    def __init__(self, rasters: Rasters, later: Callable[[], object] | None = None) -> None:
        self._rasters = rasters
        self._later = later
        self._image: QImage | None = None
        self._shot: Shot | None = None
        self._fragment: Fragment | None = None
        self._ground = QColor()
        self._old: tuple[QImage, Shot] | None = None
        self._waiting: list[QRect] = []
        self._took = 0.0

    @property
    def complete(self) -> bool:
        """Whether the exact picture is there."""
        return not self._waiting

    def paint(self, painter: QPainter, fragment: Fragment, shot: Shot, ground: QColor) -> None:
        """Lays the picture down on a painter in device px, bringing it up to date first."""
        self._refresh(fragment, shot, ground)
        if self._image is None:
            return
        if self._old is not None:
            self._lay_old(painter, shot)
        painter.drawImage(0, 0, self._image)

    def _refresh(self, fragment: Fragment, shot: Shot, ground: QColor) -> None:
        before, image = self._shot, self._image
        fresh = (
            image is None or before is None or before.size != shot.size or ground != self._ground
        )
        if fresh or before is None or image is None or self._fragment is None:
            self._begin(fragment, shot, ground, None)
            return
        if before.scale != shot.scale:
            old = self._old if self._waiting and self._old is not None else (image, before)
            slow = self._later is not None and self._took > _QUICK
            self._begin(fragment, shot, ground, old if slow else None)
            return
        if self._waiting:
            # Something else changed before a zoom was drawn: that goes on from the start.
            moved = shot != before or fragment is not self._fragment
            if moved:
                self._begin(fragment, shot, ground, self._old)
            return
        dirty = self._scrolled(before, shot)
        if dirty is None:
            self._begin(fragment, shot, ground, None)
            return
        if fragment is not self._fragment:
            for rect in damage(self._fragment, fragment):
                dirty.append(_device(rect, shot))
        self._fragment, self._shot = fragment, shot
        for part in dirty:
            self._paint(part)

    def _begin(
        self, fragment: Fragment, shot: Shot, ground: QColor, old: tuple[QImage, Shot] | None
    ) -> None:
        """Starts a picture from nothing: all at once, or over an old one in bands."""
        self._fragment, self._shot, self._ground, self._old = fragment, shot, ground, old
        self._image = QImage(shot.size, QImage.Format.Format_ARGB32_Premultiplied)
        self._image.fill(0)
        bounds = QRect(QPoint(), shot.size)
        if old is None:
            self._waiting = []
            start = time.perf_counter()
            self._paint(bounds)
            self._took = time.perf_counter() - start
            return
        step = math.ceil(bounds.height() / _BANDS)
        tops = range(0, bounds.height(), step)
        self._waiting = [QRect(0, top, bounds.width(), step) & bounds for top in tops]
        if self._later is not None:
            self._later()

    def go_on(self) -> None:
        """Paints some of what is waiting, for a moment."""
        until = time.perf_counter() + _SLICE
        while self._waiting and time.perf_counter() < until:
            self._paint(self._waiting.pop(0))
        if self._waiting and self._later is not None:
            self._later()
        else:
            self._old = None

    def _scrolled(self, before: Shot, shot: Shot) -> list[QRect] | None:
        """Moves the picture with the view; what came into sight is given back, None where
        nothing of it stays."""
        by = shot.corner - before.corner
        width, height = shot.size.width(), shot.size.height()
        if by.isNull() or self._image is None:
            return []
        if abs(by.x()) >= width or abs(by.y()) >= height:
            return None
        moved = QImage(shot.size, QImage.Format.Format_ARGB32_Premultiplied)
        painter = QPainter(moved)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Source)
        painter.drawImage(by, self._image)
        painter.end()
        self._image = moved
        strips = []
        if by.x():
            left = 0 if by.x() > 0 else width + by.x()
            strips.append(QRect(left, 0, abs(by.x()), height))
        if by.y():
            top = 0 if by.y() > 0 else height + by.y()
            strips.append(QRect(0, top, width, abs(by.y())))
        return strips

    def _paint(self, part: QRect) -> None:
        """Paints one part of the picture exactly."""
        image, shot, fragment = self._image, self._shot, self._fragment
        if image is None or shot is None or fragment is None:
            return
        part = part & QRect(QPoint(), shot.size)
        if part.isEmpty():
            return
        scale, corner = shot.scale, shot.corner
        in_sight = Rect(
            (part.x() - corner.x()) / scale,
            (part.y() - corner.y()) / scale,
            part.width() / scale,
            part.height() / scale,
        )
        painter = QPainter(image)
        painter.setClipRect(part)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Source)
        painter.fillRect(part, self._ground)
        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceOver)
        painter.translate(corner)
        QtPainter(painter, self._rasters, scale, in_sight).draw(fragment, 0.0, 0.0)
        painter.end()

    def _lay_old(self, painter: QPainter, shot: Shot) -> None:
        """The picture from before the zoom, enlarged to where it now is."""
        assert self._old is not None
        image, before = self._old
        painter.fillRect(QRect(QPoint(), shot.size), self._ground)
        by = shot.scale / before.scale
        x = shot.corner.x() - before.corner.x() * by
        y = shot.corner.y() - before.corner.y() * by
        painter.drawImage(QRectF(x, y, image.width() * by, image.height() * by), image)


def _device(rect: Rect, shot: Shot) -> QRect:
    """The device px that a rectangle of the root may ink, its soft edge included."""
    s, corner = shot.scale, shot.corner
    left = math.floor(rect.x * s) + corner.x() - 2
    top = math.floor(rect.y * s) + corner.y() - 2
    right = math.ceil(rect.right * s) + corner.x() + 2
    bottom = math.ceil(rect.bottom * s) + corner.y() + 2
    return QRect(left, top, right - left, bottom - top)
