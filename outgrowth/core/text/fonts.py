"""The fonts at hand: which file serves a family, a weight and a slant.

A family that is not at hand is replaced and noted as missing, so that the interface can
mark it; the document keeps the name that was asked for.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path
from typing import NamedTuple

import msgspec
import uharfbuzz as hb

from outgrowth.core.refusal import Refusal


class FontFile(msgspec.Struct, frozen=True):
    """One font file: what it is called, and how bold and slanted it is."""

    file: str
    family: str
    weight: float
    italic: bool = False


class FontSource(NamedTuple):
    """A font file and how to come by its bytes; `key` tells it from all others."""

    key: str
    described: FontFile
    read: Callable[[], bytes]


class FontRefusal(Refusal):
    """A font file cannot be used; the message is a sentence for the user."""


_RESTRICTED = 2


class FontFace:
    """An opened font file. Metrics are in em: multiply by the font size for CSS px.

    Source of the metrics: OpenType hhea (or OS/2 typo metrics where the font says so).
    """

    def __init__(self, source: FontSource) -> None:
        self.key = source.key
        self.described = source.described
        name = Path(source.described.file).name
        try:
            self.data = source.read()
        except OSError as problem:
            raise FontRefusal(f"The font file “{name}” cannot be read.") from problem
        self._face = _sfnt(self.data, name)
        self.font = hb.Font(self._face)
        self.upem = float(self._face.upem)
        extents = self.font.get_font_extents("ltr")
        self.ascent = extents.ascender / self.upem
        self.descent = -extents.descender / self.upem
        self.underline = self._bar("UNDERLINE", (-0.1, 0.05))
        self.strike = self._bar("STRIKEOUT", (0.25, 0.05))
        capital = self.font.get_metric_position(hb.OTMetricsTag.CAP_HEIGHT)
        self.capital = (capital or extents.ascender) / self.upem

    @property
    def terms(self) -> list[str]:
        """What the font says of whose it is and of how it may be used. Source: OpenType `name`."""
        ids = hb.OTNameIdPredefined
        said = (self._face.get_name(name) for name in (ids.COPYRIGHT, ids.LICENSE, ids.LICENSE_URL))
        return [text for text in said if text]

    @property
    def may_be_embedded(self) -> bool:
        """Whether it may go with what is made with it. Source: OpenType `OS/2`, fsType."""
        table = self._face.reference_table("OS/2").data
        return len(table) < 10 or int.from_bytes(table[8:10], "big") & 0xF != _RESTRICTED

    def _bar(self, choice: str, otherwise: tuple[float, float]) -> tuple[float, float]:
        """Where a line along the words stands above the baseline, and how thick it is."""
        tags = hb.OTMetricsTag
        offset = self.font.get_metric_position(getattr(tags, f"{choice}_OFFSET"))
        size = self.font.get_metric_position(getattr(tags, f"{choice}_SIZE"))
        if offset is None or not size:
            return otherwise
        return offset / self.upem, size / self.upem

    def has(self, character: str) -> bool:
        """Whether the font has a glyph for the character."""
        return self.font.get_nominal_glyph(ord(character)) is not None


class FontBook:
    """The families that can be drawn, and the faces opened so far. It does not change: other
    fonts make another book (`also`), which shares the faces that are open.

    sources   in the order in which equal matches are preferred
    fallback  families that are tried, in order, for letters the asked family lacks
    """

    def __init__(self, sources: Iterable[FontSource], fallback: tuple[str, ...]) -> None:
        self._sources = tuple(sources)
        self._families: dict[str, list[FontSource]] = {}
        for source in self._sources:
            self._families.setdefault(source.described.family, []).append(source)
        self._fallback = fallback
        self._open: dict[str, FontFace] = {}
        self._matches: dict[tuple[str, float, bool], tuple[FontFace, ...]] = {}
        self.replaced: set[str] = set()
        """Families that were asked for and are not here."""

    @property
    def families(self) -> tuple[str, ...]:
        """All families by name."""
        return tuple(self._families)

    def missing(self, family: str) -> bool:
        """Whether a family is not at hand; it is then noted as replaced."""
        return family not in self._families

    def also(self, more: Iterable[FontSource]) -> FontBook:
        """A book with these fonts too. A family that is here already stays as it is."""
        added = [source for source in more if source.described.family not in self._families]
        if not added:
            return self
        book = FontBook((*self._sources, *added), self._fallback)
        book._open = self._open
        book.replaced = {family for family in self.replaced if book.missing(family)}
        return book

    def faces(self, family: str, weight: float, italic: bool) -> tuple[FontFace, ...]:
        """The face for this request and, after it, those for letters it lacks. A file that
        turns out to be unusable is passed over, unless it is the last."""
        key = family, weight, italic
        cached = self._matches.get(key)
        if cached is None:
            if family not in self._families:
                self.replaced.add(family)
            names = [family] if family in self._families else []
            names += [name for name in self._fallback if name != family]
            target = [_nearest(self._families[name], weight, italic) for name in names]
            faces = [self._face(source, last=source is target[-1]) for source in target]
            cached = tuple([face for face in faces if face is not None])
            self._matches[key] = cached
        return cached

    def _face(self, source: FontSource, last: bool) -> FontFace | None:
        if source.key not in self._open:
            try:
                self._open[source.key] = FontFace(source)
            except FontRefusal:
                if last:
                    raise
                return None
        return self._open[source.key]


def shipped(folder: Path) -> FontBook:
    """The fonts that come with the application, listed in the folder's `fonts.json`."""
    listing = msgspec.json.decode((folder / "fonts.json").read_bytes(), type=_Listing)
    sources = [FontSource(f.file, f, (folder / f.file).read_bytes) for f in listing.files]
    return FontBook(sources, listing.fallback)


def installed(folders: Iterable[Path]) -> list[FontSource]:
    """The fonts in these folders and all beneath them; what cannot be read is left out."""
    results = []
    for folder in folders:
        for path in sorted(folder.rglob("*")):
            if path.suffix.lower() in FONT_SUFFIXES and path.is_file():
                try:
                    described = describe(path.read_bytes(), path.name)
                except (FontRefusal, OSError):
                    continue
                results.append(FontSource(str(path), described, path.read_bytes))
    return results


FONT_SUFFIXES = (".ttf", ".otf")


def describe(data: bytes, file: str) -> FontFile:
    """What a font file says of itself. Raises FontRefusal. Source: OpenType `name`, `OS/2`."""
    face = _sfnt(data, file)
    ids = hb.OTNameIdPredefined
    family = face.get_name(ids.TYPOGRAPHIC_FAMILY) or face.get_name(ids.FONT_FAMILY)
    if not family:
        raise FontRefusal(f"The font file “{file}” does not say what it is called.")
    font = hb.Font(face)
    weight = font.get_style_value(hb.StyleTag.WEIGHT)
    italic = font.get_style_value(hb.StyleTag.ITALIC) > 0
    leans = font.get_style_value(hb.StyleTag.SLANT_ANGLE) != 0
    return FontFile(file, family, weight, italic or leans)


def _sfnt(data: bytes, name: str) -> hb.Face:
    try:
        face = hb.Face(data)
    except (ValueError, RuntimeError, hb.HarfBuzzError) as problem:
        raise FontRefusal(f"The font file “{name}” cannot be read.") from problem
    if not face.glyph_count:
        raise FontRefusal(f"The font file “{name}” holds no letters.")
    return face


class _Listing(msgspec.Struct, frozen=True):
    files: tuple[FontFile, ...]
    fallback: tuple[str, ...]


def _nearest(files: list[FontSource], weight: float, italic: bool) -> FontSource:
    """The best file of a family. Source: CSS Fonts 4, section 5.2 (slant before weight)."""

    def distance(source: FontSource) -> tuple[bool, bool, float]:
        described = source.described
        off = described.weight - weight
        if 400 <= weight <= 500:
            wrong_way = not 0 <= off <= 500 - weight and off > 0
        else:
            wrong_way = off > 0 if weight < 400 else off < 0
        return described.italic != italic, wrong_way, abs(off)

    return min(files, key=distance)
