"""What drawing remembers between frames: fonts, glyph runs, outlines, shadows, and the
raster of fragments that come again.

A fragment is kept as an image from the second time on that it is drawn, so a thousand
equal instances are one drawing and a thousand copies, while a tween, whose fragments are
new in every frame, pays nothing.
"""

from __future__ import annotations

import math

from PyQt6.QtCore import QByteArray, QPointF, QRectF
from PyQt6.QtGui import QFont, QGlyphRun, QImage, QPainterPath, QRawFont

from outgrowth.app.paint.shadows import soft
from outgrowth.core.geometry.path import outline
from outgrowth.core.memo import Generations
from outgrowth.core.paint import Fragment
from outgrowth.core.paint.marks import Outline, Shade
from outgrowth.core.text import Face, GlyphRun

LARGEST_KEPT = 512 * 512
"""Pixels of a fragment's raster; larger ones are drawn anew."""

_SCALES_KEPT = 6
"""At how many scales a fragment keeps its raster (bench, Live, Library, zooming)."""


class Raster:
    """A fragment's picture at one scale: `image` is None until it is drawn again, and
    `left`, `top` are where its first pixel lies from the fragment's corner."""

    __slots__ = ("image", "left", "top")

    def __init__(self) -> None:
        self.image: QImage | None = None
        self.left = 0
        self.top = 0


def raster_of(fragment: Fragment, scale: float) -> tuple[Raster, bool] | None:
    """The raster kept with a fragment, and whether the fragment was seen before; None for
    one that is too large to be kept."""
    kept = fragment.kept.get(scale)
    if isinstance(kept, Raster):
        return kept, True
    if fragment.bounds.width * fragment.bounds.height * scale * scale > LARGEST_KEPT:
        return None
    if len(fragment.kept) >= _SCALES_KEPT:
        fragment.kept.clear()
    made = Raster()
    fragment.kept[scale] = made
    return made, False


class Rasters:
    """One memory for all painters of a window."""

    def __init__(self) -> None:
        self._fonts: Generations[tuple[int, float], tuple[Face, QRawFont]] = Generations(256)
        self._runs: Generations[int, tuple[GlyphRun, QGlyphRun]] = Generations(8192)
        self._paths: Generations[str, QPainterPath] = Generations(512)
        self._shades: Generations[tuple[Shade, float], tuple[QImage, QRectF]] = Generations(256)

    def glyphs(self, run: GlyphRun) -> QGlyphRun:
        """The very glyph ids and places that were measured, as Qt draws them."""
        kept = self._runs.get(id(run))
        if kept is None:
            made = QGlyphRun()
            made.setRawFont(self._font(run.face, run.size))
            made.setGlyphIndexes(run.glyphs)
            made.setPositions([QPointF(x, y) for x, y in run.positions])
            kept = run, made
            self._runs.put(id(run), kept)
        return kept[1]

    def _font(self, face: Face, size: float) -> QRawFont:
        key = id(face), size
        kept = self._fonts.get(key)
        if kept is None:
            data = QByteArray(face.data)
            kept = face, QRawFont(data, size, QFont.HintingPreference.PreferNoHinting)
            self._fonts.put(key, kept)
        return kept[1]

    def path(self, mark: Outline) -> QPainterPath:
        found = self._paths.get(mark.data)
        if found is None:
            found = _followed(mark.data)
            self._paths.put(mark.data, found)
        return found

    def shade(self, shade: Shade, path: QPainterPath, scale: float) -> tuple[QImage, QRectF]:
        """A shadow's image and where it lies, from the box's corner."""
        key = shade, scale
        found = self._shades.get(key)
        if found is None:
            reach = math.ceil(shade.shadow.blur * 1.5) + 1
            bounds = path.boundingRect().adjusted(-reach, -reach, reach, reach)
            found = soft(path, bounds, shade.shadow.blur, shade.shadow.color, scale), bounds
            self._shades.put(key, found)
        return found


def _followed(data: str) -> QPainterPath:
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
