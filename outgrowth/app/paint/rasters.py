"""What drawing remembers between frames: fonts, glyph runs, outlines, shadows, and the
raster of fragments that come again.

A fragment is kept as an image from the second time on that it is drawn, so a thousand
equal instances are one drawing and a thousand copies, while a tween, whose fragments are
new in every frame, pays nothing.
"""

from __future__ import annotations

import math
from collections.abc import Callable

from immutables import Map
from PyQt6.QtCore import QBuffer, QByteArray, QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QFont,
    QGlyphRun,
    QImage,
    QImageReader,
    QPainterPath,
    QPainterPathStroker,
    QRawFont,
    QTransform,
)

from outgrowth.app.paint.paths import outline_path
from outgrowth.app.paint.shadows import soft
from outgrowth.core.document.records import Asset
from outgrowth.core.document.types import MOST_PIXELS
from outgrowth.core.memo import Generations
from outgrowth.core.paint import Fragment
from outgrowth.core.paint.marks import BoxShadow, Outline
from outgrowth.core.text import FontFace, GlyphRun
from outgrowth.core.text.color_glyphs import color_glyph

# Device px: larger fragments are drawn faster than their images are copied.
LARGEST_KEPT = 512 * 512
"""Pixels of a fragment's raster; larger ones are drawn anew."""

# At how many scales a fragment keeps its raster (bench, Live, Library, zooming).
_SCALES_KEPT = 6


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
    cached = fragment.memory.get(scale)
    if isinstance(cached, Raster):
        return cached, True
    if fragment.bounds.width * fragment.bounds.height * scale * scale > LARGEST_KEPT:
        return None
    if len(fragment.memory) >= _SCALES_KEPT:
        fragment.memory.clear()
    raster = Raster()
    fragment.memory[scale] = raster
    return raster, False


class Rasters:
    """One memory for all painters of a window.

    `assets` gives the data of the pictures that the document holds, by digest.
    """

    def __init__(self, assets: Callable[[], Map[str, Asset]] = Map) -> None:
        self._assets = assets
        # By digest: equal digests are equal pictures, for all windows of a document.
        self._pictures: Generations[str, QImage] = Generations(64)
        self._scaled: Generations[tuple[str, int, int], QImage] = Generations(128)
        self._fonts: Generations[tuple[int, float], tuple[FontFace, QRawFont]] = Generations(256)
        # By identity of runs that are kept beside the result, so no id is ever another's.
        self._runs: Generations[int, tuple[GlyphRun, QGlyphRun]] = Generations(8192)
        self._colored: Generations[
            tuple[int, float], tuple[GlyphRun, list[tuple[QImage, QRectF]]]
        ] = Generations(512)
        self._letters: Generations[int, tuple[GlyphRun, QPainterPath]] = Generations(512)
        # Path data and fill rule are all that a path is made of.
        self._paths: Generations[tuple[str, str], QPainterPath] = Generations(512)
        self._shades: Generations[tuple[BoxShadow, float], tuple[QImage, QRectF]] = Generations(256)

    def picture(self, digest: str) -> QImage | None:
        """A picture at its own size; None for one that the document does not hold, or that
        cannot be unpacked."""
        cached = self._pictures.get(digest)
        if cached is None:
            asset = self._assets().get(digest)
            cached = QImage() if asset is None else _unpacked(asset.data)
            if asset is not None:
                self._pictures.put(digest, cached)
        return None if cached.isNull() else cached

    def scaled(self, digest: str, width: int, height: int) -> QImage | None:
        """A picture at a size in device pixels."""
        key = digest, width, height
        cached = self._scaled.get(key)
        if cached is None:
            image = self.picture(digest)
            if image is None:
                return None
            smooth = Qt.TransformationMode.SmoothTransformation
            ratio = Qt.AspectRatioMode.IgnoreAspectRatio
            cached = image.scaled(max(width, 1), max(height, 1), ratio, smooth)
            self._scaled.put(key, cached)
        return cached

    def glyphs(self, run: GlyphRun) -> QGlyphRun:
        """The very glyph ids and places that were measured, as Qt draws them."""
        cached = self._runs.get(id(run))
        if cached is None:
            glyph_run = QGlyphRun()
            glyph_run.setRawFont(self._font(run.face, run.size))
            glyph_run.setGlyphIndexes(run.glyphs)
            glyph_run.setPositions([QPointF(x, y) for x, y in run.positions])
            cached = run, glyph_run
            self._runs.put(id(run), cached)
        return cached[1]

    def colored(self, run: GlyphRun, scale: float) -> list[tuple[QImage, QRectF]]:
        """The glyphs of a run that have colours of their own, as pictures for so many device
        pixels a px, and where they stand from the run's start on its baseline, in px."""
        key = id(run), scale
        cached = self._colored.get(key)
        if cached is None:
            drawn = []
            for glyph, (x, y) in zip(run.glyphs, run.positions, strict=True):
                made = color_glyph(run.face, glyph, run.size * scale)
                if made is not None:
                    form = QImage.Format.Format_RGBA8888
                    image = QImage(made.pixels, made.columns, made.rows, 4 * made.columns, form)
                    place = QRectF(made.left, made.top, made.width, made.height)
                    place = QRectF(place.topLeft() / scale, place.size() / scale)
                    drawn.append((image.copy(), place.translated(x, y)))
            cached = run, drawn
            self._colored.put(key, cached)
        return cached[1]

    def letters(self, run: GlyphRun) -> QPainterPath:
        """The outlines of a run's letters, from its start on the baseline."""
        cached = self._letters.get(id(run))
        if cached is None:
            font, path = self._font(run.face, run.size), QPainterPath()
            path.setFillRule(Qt.FillRule.WindingFill)
            slanted = QTransform(1.0, 0.0, -run.feigned.slant, 1.0, 0.0, 0.0)
            for glyph, (x, y) in zip(run.glyphs, run.positions, strict=True):
                outline = font.pathForGlyph(glyph)
                outline = slanted.map(outline) if run.feigned.is_slanted else outline
                path.addPath(outline.translated(x, y))
            if run.feigned.is_bold:
                around = QPainterPathStroker()
                around.setWidth(run.feigned.thickening(run.size))
                path.addPath(around.createStroke(path))
            cached = run, path
            self._letters.put(id(run), cached)
        return cached[1]

    def _font(self, face: FontFace, size: float) -> QRawFont:
        key = id(face), size
        cached = self._fonts.get(key)
        if cached is None:
            data = QByteArray(face.data)
            cached = face, QRawFont(data, size, QFont.HintingPreference.PreferNoHinting)
            self._fonts.put(key, cached)
        return cached[1]

    def path(self, mark: Outline) -> QPainterPath:
        """The Qt path of an outline, made once."""
        key = mark.data, mark.rule
        cached = self._paths.get(key)
        if cached is None:
            cached = outline_path(mark.data)
            winding = mark.rule == "nonzero"
            cached.setFillRule(Qt.FillRule.WindingFill if winding else Qt.FillRule.OddEvenFill)
            self._paths.put(key, cached)
        return cached

    def shadow_image(
        self, shadow: BoxShadow, path: QPainterPath, scale: float
    ) -> tuple[QImage, QRectF]:
        """A shadow's image and where it lies, from the box's corner."""
        key = shadow, scale
        cached = self._shades.get(key)
        if cached is None:
            reach = math.ceil(shadow.shadow.blur * 1.5) + 1
            bounds = path.boundingRect().adjusted(-reach, -reach, reach, reach)
            cached = soft(path, bounds, shadow.shadow.blur, shadow.shadow.color, scale), bounds
            self._shades.put(key, cached)
        return cached


def _unpacked(data: bytes) -> QImage:
    """The picture in a file's bytes, turned as a camera says; a null one if it is damaged."""
    buffer = QBuffer()
    buffer.setData(data)
    reader = QImageReader(buffer)
    reader.setAutoTransform(True)
    size = reader.size()
    if size.width() * size.height() > MOST_PIXELS:
        return QImage()
    return reader.read().convertToFormat(QImage.Format.Format_ARGB32_Premultiplied)
