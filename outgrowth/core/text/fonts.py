"""The fonts at hand: which file serves a family, a weight and a slant.

A family that is not at hand is replaced and noted as missing, so that the interface can
mark it; the document keeps the name that was asked for.
"""

from __future__ import annotations

from pathlib import Path

import msgspec
import uharfbuzz as hb


class FontFile(msgspec.Struct, frozen=True):
    """One font file: what it is called, and how bold and slanted it is."""

    file: str
    family: str
    weight: float
    italic: bool = False


class FontError(ValueError):
    """A font file cannot be used; the message is a sentence for the user."""


class Face:
    """An opened font file. Metrics are in em: multiply by the font size for CSS px.

    Source of the metrics: OpenType `hhea` (or `OS/2` typo metrics where the font says so).
    """

    def __init__(self, path: Path, described: FontFile) -> None:
        self.path = path
        self.described = described
        self.data = path.read_bytes()
        try:
            self._face = hb.Face(self.data)
        except (ValueError, RuntimeError, hb.HarfBuzzError) as problem:
            raise FontError(f"The font file “{path.name}” cannot be read.") from problem
        if not self._face.glyph_count:
            raise FontError(f"The font file “{path.name}” holds no letters.")
        self.font = hb.Font(self._face)
        self.upem = float(self._face.upem)
        extents = self.font.get_font_extents("ltr")
        self.ascent = extents.ascender / self.upem
        self.descent = -extents.descender / self.upem
        self.underline = self._bar("UNDERLINE", (-0.1, 0.05))
        self.strike = self._bar("STRIKEOUT", (0.25, 0.05))

    def _bar(self, which: str, otherwise: tuple[float, float]) -> tuple[float, float]:
        """Where a line along the words stands above the baseline, and how thick it is."""
        tags = hb.OTMetricsTag
        offset = self.font.get_metric_position(getattr(tags, f"{which}_OFFSET"))
        size = self.font.get_metric_position(getattr(tags, f"{which}_SIZE"))
        if offset is None or not size:
            return otherwise
        return offset / self.upem, size / self.upem

    def has(self, character: str) -> bool:
        """Whether the font has a glyph for the character."""
        return self.font.get_nominal_glyph(ord(character)) is not None


class FontBook:
    """The families that can be drawn, and the faces opened so far.

    files     what each file is, in the order in which equal matches are preferred
    fallback  families that are tried, in order, for letters the asked family lacks
    """

    def __init__(
        self, folder: Path, files: tuple[FontFile, ...], fallback: tuple[str, ...]
    ) -> None:
        self._folder = folder
        self._families: dict[str, list[FontFile]] = {}
        for described in files:
            self._families.setdefault(described.family, []).append(described)
        self._fallback = fallback
        self._open: dict[str, Face] = {}
        self._matches: dict[tuple[str, float, bool], tuple[Face, ...]] = {}

    @property
    def families(self) -> tuple[str, ...]:
        return tuple(self._families)

    def missing(self, family: str) -> bool:
        return family not in self._families

    def faces(self, family: str, weight: float, italic: bool) -> tuple[Face, ...]:
        """The face for this request and, after it, those for letters it lacks."""
        key = family, weight, italic
        found = self._matches.get(key)
        if found is None:
            names = [family] if family in self._families else []
            names += [name for name in self._fallback if name != family]
            found = tuple(self._face(_nearest(self._families[n], weight, italic)) for n in names)
            self._matches[key] = found
        return found

    def _face(self, described: FontFile) -> Face:
        if described.file not in self._open:
            self._open[described.file] = Face(self._folder / described.file, described)
        return self._open[described.file]


def shipped(folder: Path) -> FontBook:
    """The fonts that come with the application, listed in the folder's `fonts.json`."""
    listed = msgspec.json.decode((folder / "fonts.json").read_bytes(), type=_Listing)
    return FontBook(folder, listed.files, listed.fallback)


class _Listing(msgspec.Struct, frozen=True):
    files: tuple[FontFile, ...]
    fallback: tuple[str, ...]


def _nearest(files: list[FontFile], weight: float, italic: bool) -> FontFile:
    """The best file of a family. Source: CSS Fonts 4, section 5.2 (slant before weight)."""

    def distance(described: FontFile) -> tuple[bool, bool, float]:
        off = described.weight - weight
        if 400 <= weight <= 500:
            wrong_way = not 0 <= off <= 500 - weight and off > 0
        else:
            wrong_way = off > 0 if weight < 400 else off < 0
        return described.italic != italic, wrong_way, abs(off)

    return min(files, key=distance)
