"""HarfBuzz shaping: characters to glyphs and their places, cached by whole stretches.

No hinting; kerning and ligatures on. Results are kept in font units, so one shaping
serves every size.
"""

from __future__ import annotations

from typing import NamedTuple

import uharfbuzz as hb

from outgrowth.core.memo import Generations
from outgrowth.core.text.fonts import FontFace


class Shaped(NamedTuple):
    """A stretch of text in one face, in font units; one item a glyph.

    `clusters` are the indices of the characters that the glyphs come from.
    """

    glyphs: tuple[int, ...]
    advances: tuple[int, ...]
    offsets: tuple[tuple[int, int], ...]
    clusters: tuple[int, ...]


class GlyphRun(NamedTuple):
    """Glyphs ready to draw: ids, and the pen positions in CSS px from the run's start on
    its baseline, y down. `advance` is the run's width."""

    face: FontFace
    size: float
    glyphs: tuple[int, ...]
    positions: tuple[tuple[float, float], ...]
    advance: float


class Shaper:
    """Shapes text, remembering what it did."""

    def __init__(self) -> None:
        # Text, face and direction are all that shaping goes by; size comes after it.
        self._shaped_texts: Generations[tuple[str, int, bool], Shaped] = Generations(16384)

    def shape(self, text: str, face: FontFace, leftward: bool = False) -> Shaped:
        """The glyphs from left to right, of letters that are read leftward if asked."""
        key = text, id(face), leftward
        cached = self._shaped_texts.get(key)
        if cached is None:
            cached = _shaped(text, face, leftward)
            self._shaped_texts.put(key, cached)
        return cached


def _shaped(text: str, face: FontFace, leftward: bool) -> Shaped:
    buffer = hb.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    buffer.direction = "rtl" if leftward else "ltr"
    hb.shape(face.font, buffer, {"kern": True, "liga": True})
    infos, places = buffer.glyph_infos, buffer.glyph_positions
    return Shaped(
        tuple(glyph_info.codepoint for glyph_info in infos),
        tuple(place.x_advance for place in places),
        tuple((place.x_offset, place.y_offset) for place in places),
        tuple(glyph_info.cluster for glyph_info in infos),
    )


def glyph_run(shaped: Shaped, face: FontFace, size: float, spacing: float) -> GlyphRun:
    """The run at a size, `spacing` px added after each character cluster that has a width (CSS
    Text 3, section 8.2)."""
    unit = size / face.upem
    pen = 0.0
    positions = []
    last = len(shaped.glyphs) - 1
    inked = False
    for n, (advance, (dx, dy)) in enumerate(zip(shaped.advances, shaped.offsets, strict=True)):
        positions.append((pen + dx * unit, -dy * unit))
        pen += advance * unit
        inked = inked or bool(advance)
        if spacing and inked and (n == last or shaped.clusters[n + 1] != shaped.clusters[n]):
            pen += spacing
            inked = False
    return GlyphRun(face, size, shaped.glyphs, tuple(positions), pen)
