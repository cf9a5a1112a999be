"""The fonts at hand: which file serves a family, a weight and a slant, and which one draws the
letters that it lacks.

A family that is not at hand is replaced and noted as missing, so that the interface can
mark it; the document keeps the name that was asked for.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import NamedTuple
from unicodedata import normalize

import msgspec
import uharfbuzz as hb

from outgrowth.core.refusal import Refusal
from outgrowth.core.text.characters import is_ignorable, is_pictured


class FontFile(msgspec.Struct, frozen=True):
    """One font file: what it is called, and how bold and slanted it is."""

    file: str
    family: str
    weight: float
    italic: bool = False


class FontSource(NamedTuple):
    """A font file and how to come by its bytes; `key` tells it from all others.

    covers  the code points that it has letters for; None where only the open file tells
    is_local  whether it is this machine's alone, and neither the file's nor the program's
    """

    key: str
    described: FontFile
    read: Callable[[], bytes]
    covers: hb.Set | None = None
    is_local: bool = False


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
        self.is_local = source.is_local
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
        self._has: dict[str, bool] = {}
        tables = set(self._face.table_tags)
        self.has_colors = bool(tables & {"COLR", "CBDT", "sbix"})

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
        known = self._has.get(character)
        if known is None:
            known = self.font.get_nominal_glyph(ord(character)) is not None
            self._has[character] = known
        return known

    def draws(self, cluster: str) -> bool:
        """Whether the font has all that a cluster of letters and marks needs, be it as a whole (é
        for e and its accent) or in parts. What shows nothing by itself needs nothing."""
        if all(self.has(c) or is_ignorable(c) for c in cluster):
            return True
        if len(cluster) == 1 and normalize("NFD", cluster) == cluster:
            return False
        buffer = hb.Buffer()
        buffer.add_str(cluster)
        buffer.guess_segment_properties()
        hb.shape(self.font, buffer)
        return all(info.codepoint for info in buffer.glyph_infos)


class FontBook:
    """The families that can be drawn, and the faces opened so far. It does not change: other
    fonts make another book (`also`), which shares the faces that are open.

    sources   in the order in which equal matches are preferred
    fallback  families that are tried, in order, for letters the asked family lacks
    stand_in  the family that stands in for one that is not here; the first of `fallback` if empty
    last      families that have only some letters of a writing: they are asked behind all others
    """

    def __init__(
        self,
        sources: Iterable[FontSource],
        fallback: tuple[str, ...],
        stand_in: str = "",
        last: tuple[str, ...] = (),
    ) -> None:
        self._sources = tuple(sources)
        self._stand_in = stand_in or fallback[0]
        self._families: dict[str, list[FontSource]] = {}
        for source in self._sources:
            self._families.setdefault(source.described.family, []).append(source)
        self._last = last
        self._fallback = (*(name for name in fallback if name not in last), *last)
        self._ranks = {name: n for n, name in enumerate(self._fallback)}
        self._open: dict[str, FontFace] = {}
        self._matches: dict[tuple[str, float, bool], FontFace | None] = {}
        self._chosen: dict[tuple[str, float, bool], dict[str, FontFace]] = {}
        self.replaced: set[str] = set()
        """Families that were asked for and are not here."""
        self.lacked: set[str] = set()
        """Clusters that no font here draws, and pictures that none draws in colours."""
        self._stepped_in: set[str] = set()  # families that drew letters which others lack
        self._used: set[str] = set()  # families of which a file was opened

    @property
    def families(self) -> tuple[str, ...]:
        """All families by name."""
        return tuple(self._families)

    def rank(self, face: FontFace) -> int:
        """The place of a face's family among those that are asked for letters that others lack."""
        return self._ranks.get(face.described.family, len(self._ranks))

    def missing(self, family: str) -> bool:
        """Whether a family is not at hand; it is then noted as replaced."""
        return family not in self._families

    def also(self, more: Iterable[FontSource], first: bool = False) -> FontBook:
        """A book with these fonts too, asked for letters that others lack after those that are
        here, or before them. A family that is here already stays as it is."""
        added = [source for source in more if source.described.family not in self._families]
        if not added:
            return self
        names = tuple(dict.fromkeys(source.described.family for source in added))
        order = (*names, *self._fallback) if first else (*self._fallback, *names)
        book = FontBook((*self._sources, *added), order, self._stand_in, self._last)
        book._open = self._open
        book.replaced = {family for family in self.replaced if book.missing(family)}
        return book

    def is_like(self, other: FontBook) -> bool:
        """Whether another book has the same files, asked in the same order."""
        files = [[source.key for source in book._sources] for book in (self, other)]
        return files[0] == files[1] and self._fallback == other._fallback

    def draws_as(self, other: FontBook) -> bool:
        """Whether another book, which has all these families, draws all that was asked of this one
        from the same files."""
        if self.lacked or any(not other.missing(family) for family in self.replaced):
            return False
        if any(other.missing(family) for family in self._families):
            return False
        if any(self._files(family) != other._files(family) for family in self._used):
            return False
        # What was asked before the last that stepped in had nothing, and is still all that is.
        asked = max((self._ranks[family] + 1 for family in self._stepped_in), default=0)
        return self._fallback[:asked] == other._fallback[:asked]

    def goes_on_from(self, other: FontBook) -> None:
        """Takes over what was asked of another book, in whose place this one comes."""
        self.replaced |= other.replaced
        self.lacked |= other.lacked
        self._stepped_in |= other._stepped_in
        self._used |= other._used

    def _files(self, family: str) -> list[str]:
        return [source.key for source in self._families.get(family, ())]

    def used_faces(self, family: str) -> list[FontFace]:
        """The faces of a family that something was drawn with so far, in the order of its files."""
        return [self._open[key] for key in self._files(family) if key in self._open]

    def primary(self, family: str, weight: float, italic: bool) -> FontFace:
        """The face for a request: of the family, else of the one that stands in for it, else of
        any that can be used. Raises FontRefusal where no file can."""
        if family not in self._families:
            self.replaced.add(family)
        face = self._match(family, weight, italic)
        if face is not None:
            return face
        for name in (self._stand_in, *self._fallback):
            face = self._match(name, weight, italic)
            if face is not None:
                return face
        return FontFace(_nearest(self._families[self._stand_in], weight, italic))

    def face_for(self, cluster: str, family: str, weight: float, italic: bool) -> FontFace:
        """The face that draws a cluster of letters: that of the family where it does, else the
        first of the others, one of colours for what is a picture; that of the family where none
        does (CSS Fonts 4, section 5.3)."""
        chosen = self._chosen.setdefault((family, weight, italic), {})
        face = chosen.get(cluster)
        if face is None:
            face = chosen[cluster] = self._chosen_face(cluster, family, weight, italic)
        return face

    def _chosen_face(self, cluster: str, family: str, weight: float, italic: bool) -> FontFace:
        primary = self.primary(family, weight, italic)
        is_drawn, pictured = primary.draws(cluster), is_pictured(cluster)
        if cluster.isspace() or (is_drawn and (primary.has_colors or not pictured)):
            return primary
        faces = self._fallen_back(cluster, weight, italic)
        found = next(faces, None)
        if pictured and found is not None and not found.has_colors:
            found = next((face for face in faces if face.has_colors), found)
        if found is not None:
            self._stepped_in.add(found.described.family)
        if found is None or (pictured and not found.has_colors):
            self.lacked.add(cluster)
        return found or primary

    def _fallen_back(self, cluster: str, weight: float, italic: bool) -> Iterator[FontFace]:
        """The faces that draw a cluster, one a family, in the order in which they are asked."""
        # Marks may be drawn with the letter that they stand on; that must be there, whole or in
        # parts.
        shown = "".join(c for c in cluster if not is_ignorable(c))
        first = {shown[:1], normalize("NFD", shown)[:1]} - {""}
        for name in self._fallback:
            if first and not any(_may_have(source, first) for source in self._families[name]):
                continue
            face = self._match(name, weight, italic)
            if face is not None and face.draws(cluster):
                yield face

    def _match(self, family: str, weight: float, italic: bool) -> FontFace | None:
        """The nearest face of a family; None where it is not here or its file can't be used."""
        key = family, weight, italic
        if key not in self._matches:
            sources = self._families.get(family)
            face = self._opened(_nearest(sources, weight, italic)) if sources else None
            self._matches[key] = face
            if face is not None:
                self._used.add(family)
        return self._matches[key]

    def _opened(self, source: FontSource) -> FontFace | None:
        if source.key not in self._open:
            try:
                self._open[source.key] = FontFace(source)
            except FontRefusal:
                return None
        return self._open[source.key]


def _may_have(source: FontSource, letters: set[str]) -> bool:
    """Whether a font has one of these letters, as far as is known before it is opened."""
    return source.covers is None or any(ord(letter) in source.covers for letter in letters)


def shipped(folder: Path) -> FontBook:
    """The fonts that come with the application, listed in the folder's `fonts.json`."""
    listing = msgspec.json.decode((folder / "fonts.json").read_bytes(), type=_Listing)
    sources = [FontSource(f.file, f, (folder / f.file).read_bytes) for f in listing.files]
    return FontBook(sources, listing.fallback, last=listing.last)


def installed(folders: Iterable[Path]) -> list[FontSource]:
    """The fonts in these folders and all beneath them, in the order in which they are asked for
    letters that others lack; what cannot be read is left out."""
    results = []
    for folder in folders:
        for path in sorted(folder.rglob("*")):
            if path.suffix.lower() in FONT_SUFFIXES and path.is_file():
                try:
                    described, covers = describe_with_coverage(path.read_bytes(), path.name)
                except (FontRefusal, OSError):
                    continue
                results.append(FontSource(str(path), described, path.read_bytes, covers, True))
    return asked_in_turn(results)


def asked_in_turn(sources: Iterable[FontSource]) -> list[FontSource]:
    """Fonts in the order in which they are asked for letters that others lack: what was made for
    one writing before what has many, and what has no letters but signs last."""

    def breadth(source: FontSource) -> tuple[bool, int, str, str]:
        covers = source.covers
        few = len(covers) if covers is not None else 0
        signs = covers is not None and ord("a") not in covers
        return signs, few, source.described.family, source.key

    return sorted(sources, key=breadth)


FONT_SUFFIXES = (".ttf", ".otf")


def describe(data: bytes, file: str) -> FontFile:
    """What a font file says of itself. Raises FontRefusal. Source: OpenType `name`, `OS/2`."""
    return describe_with_coverage(data, file)[0]


def describe_with_coverage(data: bytes, file: str) -> tuple[FontFile, hb.Set]:
    """What a font file says of itself, and the code points that it has letters for. Raises
    FontRefusal. Source: OpenType, what it calls name, OS/2 and cmap."""
    face = _sfnt(data, file)
    ids = hb.OTNameIdPredefined
    family = face.get_name(ids.TYPOGRAPHIC_FAMILY) or face.get_name(ids.FONT_FAMILY)
    if not family:
        raise FontRefusal(f"The font file “{file}” does not say what it is called.")
    font = hb.Font(face)
    weight = font.get_style_value(hb.StyleTag.WEIGHT)
    italic = font.get_style_value(hb.StyleTag.ITALIC) > 0
    leans = font.get_style_value(hb.StyleTag.SLANT_ANGLE) != 0
    return FontFile(file, family, weight, italic or leans), face.unicodes


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
    last: tuple[str, ...]


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
