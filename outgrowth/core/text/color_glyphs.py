"""Glyphs that have colours of their own (emoji), as pictures.

Source: OpenType, the tables COLR, which HarfBuzz paints, and CBDT and sbix, whose bitmaps are PNG.
"""

from __future__ import annotations

import io
from typing import NamedTuple

import numpy as np
import uharfbuzz as hb
from PIL import Image

from outgrowth.core.text.fonts import FontFace

_LARGEST = 2_048
"""Px of a side, at most: letters that are larger are scaled."""


class ColorGlyph(NamedTuple):
    """A glyph as a picture of so many pixels, its rows from the top, four bytes a pixel (red,
    green, blue, alpha; not multiplied); where its corner stands from the pen on the baseline, and
    how large it is, both in pixels, y down."""

    pixels: bytes
    columns: int
    rows: int
    left: float
    top: float
    width: float
    height: float


def color_glyph(face: FontFace, glyph: int, size: float) -> ColorGlyph | None:
    """What a face of colours draws for a glyph, `size` pixels high; None where that is nothing, or
    only letters in the colour of the text."""
    extents = face.font.get_glyph_extents(glyph)
    if extents is None or not extents.width or not extents.height:
        return None
    png = face.font.get_glyph_color_png(glyph)
    if png is not None and len(png.data):
        return _bitmap(bytes(png.data), extents, size / face.upem)
    font_face = face.font.face
    if not font_face.has_color_paint and not font_face.has_color_layers:
        return None
    painted, enlarged = min(size, _LARGEST), max(size / _LARGEST, 1.0)
    paint = hb.RasterPaint()
    paint.transform = (painted / face.upem, 0.0, 0.0, painted / face.upem, 0.0, 0.0)
    paint.set_glyph_extents(extents)
    paint.paint_glyph(face.font, glyph)
    image = paint.render()
    if image is None:
        return None
    e = image.extents
    upward = np.frombuffer(image.buffer, np.uint8).reshape(e.height, e.stride // 4, 4)
    pixels = _plain(upward[::-1, : e.width]).tobytes()
    left, top = e.x_origin, -(e.y_origin + e.height)
    sizes = (side * enlarged for side in (left, top, e.width, e.height))
    return ColorGlyph(pixels, e.width, e.height, *sizes)


def _bitmap(png: bytes, extents: hb.GlyphExtents, scale: float) -> ColorGlyph | None:
    try:
        image = Image.open(io.BytesIO(png)).convert("RGBA")
    except (OSError, ValueError, Image.DecompressionBombError):
        return None
    left, top = extents.x_bearing * scale, -extents.y_bearing * scale
    width, height = extents.width * scale, -extents.height * scale
    return ColorGlyph(image.tobytes(), image.width, image.height, left, top, width, height)


def _plain(rows: np.ndarray) -> np.ndarray:
    """Blue, green and red that were multiplied with their alpha, as red, green, blue and alpha."""
    alpha = rows[..., 3:].astype(np.uint16)
    colors = rows[..., 2::-1].astype(np.uint16) * 255 // np.maximum(alpha, 1)
    return np.concatenate([np.minimum(colors, 255), alpha], axis=-1).astype(np.uint8)
