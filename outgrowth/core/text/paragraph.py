"""A text node's words set into lines: measured, broken, placed, ready to draw."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Sequence
from itertools import pairwise, repeat
from math import floor
from operator import sub
from typing import NamedTuple
from unicodedata import category

from outgrowth.core.document.values import Content, Run
from outgrowth.core.memo import Generations
from outgrowth.core.text.bidi import in_sight_order, levels
from outgrowth.core.text.breaking import Chunk, Filling, chunks, lines
from outgrowth.core.text.characters import cluster_ends, is_ignorable
from outgrowth.core.text.fonts import FontBook, FontFace
from outgrowth.core.text.scripts import JOINED, script_runs
from outgrowth.core.text.shaping import (
    Feigned,
    GlyphRun,
    Shaped,
    Shaper,
    TextPiece,
    first_clusters,
    glyph_run,
    spaced_clusters,
)

BOLD = 700.0
_BOLDER = 600.0
ELLIPSIS = "…"
_MINUS = re.compile("-(?=[0-9])")
SOFT_HYPHEN, HYPHEN, _NO_WIDTH_SPACE = "\u00ad", "\u2010", "\u200b"
_AROUND = 5
"""Characters around a stretch that shaping looks at. Source: HarfBuzz, its longest context."""
_FIRST_PICTURE = "\u231a"
"""The first character that is a picture (emoji) by itself. Source: UTS 51."""


class TextStyle(NamedTuple):
    """What a paragraph's letters look like: lengths in CSS px, `line_height` in font sizes;
    `case` as in CSS text-transform; `max_lines` 0 for no limit; `break_words` as CSS
    overflow-wrap: anywhere; `trimmed` as CSS text-box: trim-both cap alphabetic."""

    family: str
    size: float
    weight: float
    line_height: float
    spacing: float
    align: str
    italic: bool = False
    case: str = "none"
    max_lines: int = 0
    break_words: bool = False
    trimmed: bool = False


class Line(NamedTuple):
    """One line: its runs with their left edge, and the baseline, from the text's corner."""

    baseline: float
    width: float
    text: str
    runs: tuple[tuple[float, GlyphRun], ...]


class Paragraph(NamedTuple):
    """Set text: the widest line, the height of all, the lines; of all letters, those of lines that
    are cut off too, the faces (first the one that was asked for) and those that no font has."""

    width: float
    height: float
    lines: tuple[Line, ...]
    faces: tuple[FontFace, ...]
    lacked: str


class _Stretch(NamedTuple):
    """Characters start to end of a paragraph that one face draws in one direction and writing."""

    start: int
    text: str
    face: FontFace
    level: int
    script: str
    feigned: Feigned


class _Block(NamedTuple):
    """A paragraph between two line ends, cut into stretches, with the widths before each
    character (one more than there are characters), its direction, how wide the hyphen is
    that a word shows where it is divided, and the letters that no font has."""

    text: str
    stretches: tuple[_Stretch, ...]
    edges: tuple[float, ...]
    base: int
    hyphen: float
    lacked: str

    @property
    def parts(self) -> tuple[Chunk, ...]:
        return chunks(self.text)

    @property
    def cuts(self) -> tuple[int, ...]:
        """Before which characters a word that is too long may be broken: those that begin a
        cluster (UAX 29), be it drawn as one with others or not."""
        return (0, *cluster_ends(self.text)[:-1]) if self.text else ()

    @property
    def hyphens(self) -> Sequence[float]:
        """What each part takes more than its letters where a line ends behind it."""
        if SOFT_HYPHEN not in self.text:
            return ()
        return [self.hyphen * (self.text[p.end - 1] == SOFT_HYPHEN) for p in self.parts]


def _spills(block: _Block, span: tuple[int, int, int], width: float) -> bool:
    """Whether a line's letters are wider than there is room, by more than a 64th of a px."""
    start, ink, _ = span
    return block.edges[ink] - block.edges[start] > width + 1 / 64


def _baseline(face: FontFace, size: float, line_height: float) -> float:
    """How far below a line's top its letters stand, in px: ascent and descent count as whole px,
    half up, and of an odd rest the smaller half lies above. CSS leaves the rounding open (CSS
    Inline 3, section 2.2); this is what Chromium does, which tests/browser measures: it counts
    lines in 64ths, and of less than two of them there is no half."""
    ascent, descent = floor(face.ascent * size + 0.5), floor(face.descent * size + 0.5)
    line = floor(floor(size * 64 + 0.5) * line_height + _FLOAT_NOISE)
    half = int((line - 64 * (ascent + descent)) / 2)
    return float(ascent + half // 64)


_FLOAT_NOISE = 1e-6
"""What a product of two decimals may be short of a whole number."""


class Typesetter:
    """Sets text from the fonts of a book. Everything is remembered by value."""

    def __init__(self, fonts: FontBook) -> None:
        self.fonts = fonts
        self._shaper = Shaper()
        # A block is cut and measured once for all widths.
        self._blocks: Generations[tuple[Content, TextStyle], tuple[_Block, ...]] = Generations(8192)
        self._glyph_runs: Generations[tuple[object, ...], GlyphRun] = Generations(8192)
        self._set: Generations[tuple[Content, TextStyle, float], Paragraph] = Generations(16384)

    def widest(self, content: Content, style: TextStyle) -> float:
        """Max-content width in px: no line is broken but where the text says so."""
        return max(block.edges[-1] for block in self._cut(content, style))

    def narrowest(self, content: Content, style: TextStyle) -> float:
        """Min-content width in px: broken wherever a line may break."""
        narrowest = 0.0
        for block in self._cut(content, style):
            # CSS Text 3, 5.5: with overflow-wrap anywhere, each cluster is an opportunity, and
            # counts for min-content.
            if style.break_words:
                narrowest = max([narrowest, *map(sub, block.edges[1:], block.edges)])
                continue
            hyphens = block.hyphens or repeat(0.0)
            for chunk, hyphen in zip(block.parts, hyphens, strict=False):
                ink = block.edges[chunk.ink] - block.edges[chunk.start]
                narrowest = max(narrowest, ink + hyphen)
        return narrowest

    def zero(self, style: TextStyle) -> float:
        """How wide a "0" is, in px: the unit ch of CSS Values 4, section 6.1.1."""
        face = self.fonts.primary(style.family, style.weight, style.italic)
        if not face.has("0"):
            return style.size / 2
        return sum(self._shaper.shape(TextPiece("0"), face).advances) * style.size / face.upem

    def set(self, content: Content, style: TextStyle, width: float) -> Paragraph:
        """The text in lines no wider than `width` px (a word that is wider spills)."""
        # Invariant: content, style and width are values, so a paragraph that was set stays right.
        key = content, style, width
        cached = self._set.get(key)
        if cached is None:
            cached = self._lines(content, style, width)
            self._set.put(key, cached)
        return cached

    def _lines(self, content: Content, style: TextStyle, width: float) -> Paragraph:
        blocks = self._cut(content, style)
        # CSS Inline 3, 3.2: the half-leading goes above and below; every line box is as high as
        # line-height.
        height = style.line_height * style.size
        # The first available font decides the strut, whatever letters the text has.
        first = self.fonts.primary(style.family, style.weight, style.italic)
        baseline = _baseline(first, style.size, style.line_height)
        spans = [
            (block, span) for block in blocks for span in lines(self._filling(block, style), width)
        ]
        # CSS Overflow 4, 5: what comes after the last line that is shown is cut, with an
        # ellipsis.
        if style.max_lines:
            cut = len(spans) > style.max_lines
            spans = spans[: style.max_lines]
            if cut:
                spans[-1] = self._shortened(*spans[-1], style, width)
            spans = [
                self._shortened(*pair, style, width) if _spills(*pair, width) else pair
                for pair in spans
            ]
        runs = [
            self._line(block, span, style, width, n * height + baseline)
            for n, (block, span) in enumerate(spans)
        ]
        wide = max(line.width for line in runs)
        drawn_by = {stretch.face for block in blocks for stretch in block.stretches} - {first}
        faces = (first, *sorted(drawn_by, key=lambda face: (self.fonts.rank(face), face.key)))
        lacked = "".join(dict.fromkeys("".join(block.lacked for block in blocks)))
        if not style.trimmed:
            return Paragraph(wide, height * len(runs), tuple(runs), faces, lacked)
        # CSS Inline 3, 5.3 (text-box-edge: cap alphabetic): from the capitals of the first line
        # to the baseline of the last.
        above = baseline - first.capital * style.size
        trimmed = tuple(line._replace(baseline=line.baseline - above) for line in runs)
        return Paragraph(wide, max(trimmed[-1].baseline, 0.0), trimmed, faces, lacked)

    def _filling(self, block: _Block, style: TextStyle) -> Filling:
        if not style.break_words:
            return Filling(block.parts, block.edges, block.hyphens)

        def measure(start: int, stop: int) -> float:
            line = self._line(block, (start, stop, stop), style, 0.0, 0.0)
            hyphen = block.text[stop - 1] == SOFT_HYPHEN and stop < len(block.text)
            return line.width - (block.hyphen if hyphen else 0.0)

        divided = frozenset(n for n, c in enumerate(block.text) if c == SOFT_HYPHEN)
        signs = frozenset(match.start() for match in _MINUS.finditer(block.text))
        return Filling(block.parts, block.edges, block.hyphens, block.cuts, measure, divided, signs)

    def _shortened(
        self, block: _Block, span: tuple[int, int, int], style: TextStyle, width: float
    ) -> tuple[_Block, tuple[int, int, int]]:
        """A line of which not all is shown, the last one or one that is too wide: as many of its
        letters as leave room for an ellipsis. Source: CSS Overflow 4, sections 3 (text-overflow)
        and 5 (line-clamp)."""
        start, ink, _ = span
        face = self.fonts.primary(style.family, style.weight, style.italic)
        dots = self._shaper.shape(TextPiece(ELLIPSIS), face)
        room = width - sum(dots.advances) * style.size / face.upem - style.spacing
        stop = ink
        while stop > start and block.edges[stop] - block.edges[start] > room:
            stop -= 1
        text = block.text[start:stop] + ELLIPSIS
        runs = [Run(text)] if len(block.stretches) == 1 else _cut_runs(block, start, stop)
        short = self._block(runs, style._replace(case="none"))
        return short, (0, len(short.text), len(short.text))

    def _line(
        self,
        block: _Block,
        span: tuple[int, int, int],
        style: TextStyle,
        available: float,
        baseline: float,
    ) -> Line:
        start, ink, end = span
        last = end == len(block.text)
        # Spaces at the end of a line hang (CSS Text 3, 4.1.2); those at the very end of the text
        # count.
        stop = end if last else ink
        pen = 0.0
        runs = []
        stretches = block.stretches[_holding(block, start) : _holding(block, stop - 1) + 1]
        # UAX 9, L2: reversed by levels, a run at a time; shaping has its letters in sight order
        # already.
        for stretch in in_sight_order([(stretch.level, stretch) for stretch in stretches]):
            text = _overlap(stretch, start, stop)
            if text:
                # A space that hangs keeps its kerning with the letter before it.
                hanging = _overlap(stretch, stop, end)[:1] if stop < end else ""
                begin = max(start, stretch.start)
                piece = _piece(block.text, stretch, style, begin, text + hanging)
                run = self._run(piece, stretch, style, len(text))
                runs.append((pen, run))
                pen += run.advance
        if not last and block.text[stop - 1 : stop] == SOFT_HYPHEN:
            face, hyphen = self._hyphen(stretches[-1].face)
            feigned = stretches[-1].feigned
            run = glyph_run(hyphen, face, style.size, 0.0, frozenset(), feigned)
            runs.append((pen, run))
            pen += run.advance
        # start and end are of the paragraph's direction (CSS Text 3, 6.1).
        share = {"start": 0.0, "center": 0.5, "end": 1.0}[style.align]
        # A line that is too wide begins at its start, wherever it is aligned to.
        share = share if pen < available else 0.0
        shift = (1.0 - share if block.base % 2 else share) * (available - pen)
        placed = tuple((x + shift, run) for x, run in runs)
        return Line(baseline, pen, block.text[start:stop], placed)

    def _run(self, piece: TextPiece, stretch: _Stretch, style: TextStyle, count: int) -> GlyphRun:
        """The first so many characters of a piece of a stretch, ready to draw."""
        # All that a run is made of; faces live as long as the book that this is set from.
        key = piece, count, id(stretch.face), style.size, style.spacing, stretch.feigned
        run = self._glyph_runs.get(key)
        if run is None:
            shaped = self._shaper.shape(piece, stretch.face)
            if count < len(piece.text):
                shaped = first_clusters(shaped, count)
            spaced = spaced_clusters(piece, shaped) if style.spacing else frozenset[int]()
            look = style.size, style.spacing, spaced, stretch.feigned
            run = glyph_run(shaped, stretch.face, *look)
            self._glyph_runs.put(key, run)
        return run

    def _cut(self, content: Content, style: TextStyle) -> tuple[_Block, ...]:
        key = content, style
        cached = self._blocks.get(key)
        if cached is None:
            cased_content = cased(content, style.case)
            plain = _plainer(cased_content, style)
            cached = tuple(self._block(runs, style) for runs in _paragraphs(plain))
            self._blocks.put(key, cached)
        return cached

    def _hyphen(self, face: FontFace) -> tuple[FontFace, Shaped]:
        """What a divided word ends in. Source: CSS Text 4, section 5.4 (hyphenate-character)."""
        return face, self._shaper.shape(TextPiece(HYPHEN if face.has(HYPHEN) else "-"), face)

    def _block(self, runs: list[Run], style: TextStyle) -> _Block:
        text = "".join(run.text for run in runs)
        embedding = levels(text)
        stretches = self._stretches(text, self._faces(runs, style), embedding.each)
        edges, lacked = [0.0], ""
        for stretch in stretches:
            piece = _piece(text, stretch, style, stretch.start, stretch.text)
            shaped = self._shaper.shape(piece, stretch.face)
            edges += _edges(piece, shaped, style.size / stretch.face.upem, style.spacing, edges[-1])
            if 0 in shaped.glyphs:
                pairs = sorted(zip(shaped.clusters, shaped.glyphs, strict=True))
                lacked += "".join(stretch.text[cluster] for cluster, glyph in pairs if not glyph)
        hyphen = 0.0
        if SOFT_HYPHEN in text:
            face, shaped = self._hyphen(stretches[0].face)
            hyphen = sum(shaped.advances) * style.size / face.upem
        return _Block(text, tuple(stretches), tuple(edges), embedding.base, hyphen, lacked)

    def _stretches(
        self, text: str, faces: list[tuple[int, FontFace, Feigned]], each: tuple[int, ...]
    ) -> list[_Stretch]:
        """A block cut wherever its font, its direction or its writing changes."""
        scripts = script_runs(text)
        if len(faces) == len(scripts) == 1 and not any(each):
            _, face, feigned = faces[0]
            return [_Stretch(0, text, face, 0, scripts[0].script, feigned)]
        starts = {0, *(start for start, *_ in faces), *(run.start for run in scripts)}
        if len(set(each)) > 1:
            changes = enumerate(pairwise(each), 1)
            starts.update(n for n, (before, after) in changes if before != after)
        stretches: list[_Stretch] = []
        of_face = of_script = 0
        for start, end in pairwise([*sorted(starts), len(text)]):
            while of_face + 1 < len(faces) and faces[of_face + 1][0] <= start:
                of_face += 1
            while of_script + 1 < len(scripts) and scripts[of_script + 1].start <= start:
                of_script += 1
            if end > start:
                _, face, feigned = faces[of_face]
                script = scripts[of_script].script
                stretches.append(
                    _Stretch(start, text[start:end], face, each[start], script, feigned)
                )
        return stretches

    def _faces(self, runs: list[Run], style: TextStyle) -> list[tuple[int, FontFace, Feigned]]:
        """The faces that draw a block, each with the character that it begins at, and what of the
        look it has no file for."""
        results: list[tuple[int, FontFace, Feigned]] = []
        start = 0
        for run in runs:
            weight = max(style.weight, BOLD) if run.bold else style.weight
            asked = style.family, weight, run.italic or style.italic
            primary = self.fonts.primary(*asked)
            if all(primary.has(c) and c < _FIRST_PICTURE for c in set(run.text)):
                results.append((start, primary, _feigned(primary, weight, asked[2])))
            else:
                ends = cluster_ends(run.text)
                for at, end in pairwise([0, *ends]):
                    face = self.fonts.face_for(run.text[at:end], *asked)
                    if not at or results[-1][1] is not face:
                        results.append((start + at, face, _feigned(face, weight, asked[2])))
            start += len(run.text)
        return results


def _edges(
    piece: TextPiece, shaped: Shaped, unit: float, spacing: float, left: float
) -> list[float]:
    """The right edge of every character, of a stretch that begins at `left`, in px (`unit` each of
    the font's own); those of one cluster share its width."""
    widths = [0.0] * len(piece.text)
    for advance, cluster in zip(shaped.advances, shaped.clusters, strict=True):
        widths[cluster] += advance * unit
    # CSS Text 3, 7.2: spacing goes after a whole cluster, not between its parts.
    if spacing:
        for cluster in spaced_clusters(piece, shaped):
            widths[cluster] += spacing
    edges = []
    for width in widths:
        left += width
        edges.append(left)
    return edges


def _piece(block: str, stretch: _Stretch, style: TextStyle, start: int, text: str) -> TextPiece:
    """A part of a stretch, which begins at a character of the block, as it is shaped."""
    joined = stretch.script in JOINED
    before = block[max(start - _AROUND, 0) : start] if joined else ""
    end = start + len(text)
    after = block[end : end + _AROUND] if joined else ""
    leftward, has_ligatures = stretch.level % 2 == 1, joined or not style.spacing
    return TextPiece(text, leftward, stretch.script, before, after, has_ligatures)


def _feigned(face: FontFace, weight: float, italic: bool) -> Feigned:
    """What of a look a face has no file for. Source: CSS Fonts 4, section 2.8; Chromium's bound
    of bold."""
    about = face.described
    return Feigned(weight >= _BOLDER > about.weight, italic and not about.italic)


def cased(content: Content, case: str) -> Content:
    """The content in the letters that `case` asks for. Source: CSS Text 3, section 2.1."""
    if case == "capitalize":
        before, runs = "", []
        for run in content:
            runs.append(Run(capitalized(run.text, before), run.bold, run.italic))
            before = (before + run.text)[-4:]
        return tuple(runs)
    recase = {"uppercase": _upper, "lowercase": str.lower}.get(case)
    if recase is None:
        return content
    return tuple(Run(recase(run.text), run.bold, run.italic) for run in content)


_GEORGIAN = dict(zip(range(0x1C90, 0x1CC0), range(0x10D0, 0x1100), strict=True))


def _upper(text: str) -> str:
    """Georgian has capitals for headings alone, which browsers leave to whoever types them."""
    return text.upper().translate(_GEORGIAN)


# Between letters, these are part of a word; in front of one, and after a digit, they are not.
_INSIDE = "'’·"


def capitalized(text: str, before: str = "") -> str:
    """Every word with its first letter large, the others as they are; `before` is what the text
    goes on from. Which letter begins a word CSS leaves to the program; this is what Chromium
    does (tests/browser/test_capitals.py)."""
    full_text, result = before + text, []
    for n in range(len(before), len(full_text)):
        letter = full_text[n]
        if letter.isalpha() and not _goes_on(full_text[max(n - 4, 0) : n]):
            large = letter.title()
            letter = large if len(large) == 1 else letter
        result.append(letter)
    return "".join(result)


def _goes_on(before: str) -> bool:
    """Whether a letter after these is inside of a word."""
    before = "".join(c for c in before if not is_ignorable(c) or c == _NO_WIDTH_SPACE)[-2:]
    last = before[-1:]
    if last in _INSIDE and last:
        return before[:-1].isalpha()
    return last.isalnum() or last == "_" or category(last or " ").startswith("M")


def _cut_runs(block: _Block, start: int, stop: int) -> list[Run]:
    """A part of a block of several looks as runs, with an ellipsis behind."""
    runs = []
    for stretch in block.stretches:
        text = _overlap(stretch, start, stop)
        if text:
            about, feigned = stretch.face.described, stretch.feigned
            is_bold = about.weight >= BOLD or feigned.is_bold
            runs.append(Run(text, is_bold, about.italic or feigned.is_slanted))
    last = runs[-1] if runs else Run("")
    return [*runs, Run(ELLIPSIS, last.bold, last.italic)]


def _holding(block: _Block, place: int) -> int:
    """Which stretch of a block a character is in: found by halves, since long texts of many
    looks have as many stretches as lines."""
    return max(bisect_right(block.stretches, place, key=lambda s: s.start) - 1, 0)


def _overlap(stretch: _Stretch, start: int, end: int) -> str:
    return stretch.text[max(start - stretch.start, 0) : max(end - stretch.start, 0)]


def _plainer(content: Content, style: TextStyle) -> Content:
    """The content without what its letters are anyway: bold in a bolder text, leaning in one that
    leans."""
    bold, italic = style.weight < BOLD, not style.italic
    return tuple([Run(run.text, run.bold and bold, run.italic and italic) for run in content])


def _paragraphs(content: Content) -> list[list[Run]]:
    """The content cut at its line ends, never empty; neighbours of one look are one run, so that
    their letters are set as if nothing stood between them. A tab is a space."""
    paragraphs: list[list[Run]] = [[]]
    for run in content:
        for n, part in enumerate(run.text.replace("\t", " ").split("\n")):
            if n:
                paragraphs.append([])
            line = paragraphs[-1]
            if line and (line[-1].bold, line[-1].italic) == (run.bold, run.italic):
                part = line.pop().text + part
            if part:
                line.append(Run(part, run.bold, run.italic))
    return paragraphs
