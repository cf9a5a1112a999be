"""HarfBuzz shaping: characters to glyphs and their places, cached by whole stretches.

No hinting; kerning on, ligatures on where letters are not spaced. Results are kept in font units,
so one shaping serves every size.
"""

from __future__ import annotations

from collections.abc import Set
from typing import NamedTuple

import uharfbuzz as hb

from outgrowth.core.memo import Generations
from outgrowth.core.text.characters import is_ignorable
from outgrowth.core.text.fonts import FontFace
from outgrowth.core.text.scripts import JOINED

_SPACES = " \u00a0"
_SEPARATORS = ("\u2028", "\u2029")
_FEATURES = {"kern": True, "liga": True}
_APART = {"kern": True, "liga": False, "clig": False}


class TextPiece(NamedTuple):
    """Letters of one writing and direction.

    script         its ISO 15924 code; Zyyy where its letters tell
    before, after  what stands around them, which joined letters are joined to
    has_ligatures  whether letters may be drawn as one; not where they are spaced (CSS Text 3,
                   section 8.2)
    """

    text: str
    is_leftward: bool = False
    script: str = "Zyyy"
    before: str = ""
    after: str = ""
    has_ligatures: bool = True


class Shaped(NamedTuple):
    """A stretch of text in one face, in font units; one item a glyph.

    `clusters` are the indices of the characters that the glyphs come from.
    """

    glyphs: tuple[int, ...]
    advances: tuple[int, ...]
    offsets: tuple[tuple[int, int], ...]
    clusters: tuple[int, ...]


class Feigned(NamedTuple):
    """What letters are made of where a family has no bold or no slanted file, as browsers do it:
    they are as wide as before. Source: CSS Fonts 4, section 2.8 (font-synthesis); a 24th of the
    size thicker, and by a quarter of the height to the side: Skia, from memory."""

    is_bold: bool = False
    is_slanted: bool = False

    def thickening(self, size: float) -> float:
        """Px by which the strokes of letters of a size are thicker."""
        return size / 24 if self.is_bold else 0.0

    @property
    def slant(self) -> float:
        """Px to the right for each px upwards."""
        return 0.25 if self.is_slanted else 0.0


NOTHING_FEIGNED = Feigned()


class GlyphRun(NamedTuple):
    """Glyphs ready to draw: ids, and the pen positions in CSS px from the run's start on
    its baseline, y down. `advance` is the run's width; `feigned` what the face has no file for."""

    face: FontFace
    size: float
    glyphs: tuple[int, ...]
    positions: tuple[tuple[float, float], ...]
    advance: float
    feigned: Feigned = NOTHING_FEIGNED


class Shaper:
    """Shapes text, remembering what it did."""

    def __init__(self) -> None:
        # These are all that shaping goes by; size comes after it.
        self._shaped_texts: Generations[tuple[TextPiece, int], Shaped] = Generations(16384)

    def shape(self, piece: TextPiece, face: FontFace) -> Shaped:
        """The glyphs from left to right."""
        key = piece, id(face)
        cached = self._shaped_texts.get(key)
        if cached is None:
            cached = _shaped(piece, face)
            self._shaped_texts.put(key, cached)
        return cached


def _shaped(piece: TextPiece, face: FontFace) -> Shaped:
    buffer = hb.Buffer()
    before, text = piece.before, piece.text
    for separator in _SEPARATORS:  # in a browser they are as wide as a space, and end no line
        if separator in text and not face.has(separator):
            text = text.replace(separator, " ")
    buffer.add_str(before + text + piece.after, len(before), len(text))
    buffer.guess_segment_properties()
    if piece.script != "Zyyy":
        buffer.script = piece.script
    buffer.direction = "rtl" if piece.is_leftward else "ltr"
    hb.shape(face.font, buffer, _FEATURES if piece.has_ligatures else _APART)
    clusters_from = len(before)
    infos, places = buffer.glyph_infos, buffer.glyph_positions
    return Shaped(
        tuple(glyph_info.codepoint for glyph_info in infos),
        tuple(place.x_advance for place in places),
        tuple((place.x_offset, place.y_offset) for place in places),
        tuple(glyph_info.cluster - clusters_from for glyph_info in infos),
    )


def first_clusters(shaped: Shaped, count: int) -> Shaped:
    """What is drawn of the first so many characters."""
    kept = [n for n, cluster in enumerate(shaped.clusters) if cluster < count]
    return Shaped(
        tuple(shaped.glyphs[n] for n in kept),
        tuple(shaped.advances[n] for n in kept),
        tuple(shaped.offsets[n] for n in kept),
        tuple(shaped.clusters[n] for n in kept),
    )


def spaced_clusters(piece: TextPiece, shaped: Shaped) -> set[int]:
    """The clusters (by their first characters) of a piece behind which letter spacing goes: all
    that show something, of joined letters the spaces alone. Source: CSS Text 3, section 8.2, and
    Text 4, section 8.3; a browser counts what is drawn without a width of its own too."""
    text = piece.text
    if piece.script in JOINED:
        return {cluster for cluster in shaped.clusters if text[cluster] in _SPACES}
    return {cluster for cluster in shaped.clusters if not is_ignorable(text[cluster])}


def glyph_run(
    shaped: Shaped,
    face: FontFace,
    size: float,
    spacing: float,
    spaced: Set[int],
    feigned: Feigned = NOTHING_FEIGNED,
) -> GlyphRun:
    """The run at a size, `spacing` px added after each of these clusters."""
    unit = size / face.upem
    pen = 0.0
    positions = []
    last = len(shaped.glyphs) - 1
    for n, (advance, (dx, dy)) in enumerate(zip(shaped.advances, shaped.offsets, strict=True)):
        positions.append((pen + dx * unit, -dy * unit))
        pen += advance * unit
        if spaced:
            cluster = shaped.clusters[n]
            if cluster in spaced and (n == last or shaped.clusters[n + 1] != cluster):
                pen += spacing
    return GlyphRun(face, size, shaped.glyphs, tuple(positions), pen, feigned)
