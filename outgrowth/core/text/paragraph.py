"""A text node's words set into lines: measured, broken, placed, ready to draw."""

from __future__ import annotations

from itertools import groupby
from typing import NamedTuple

from outgrowth.core.document.values import Content, Run
from outgrowth.core.memo import Generations
from outgrowth.core.text.breaking import chunks, lines
from outgrowth.core.text.fonts import Face, FontBook
from outgrowth.core.text.shaping import GlyphRun, Shaper, glyph_run

BOLD = 700.0


class TextStyle(NamedTuple):
    """What a paragraph's letters look like: lengths in CSS px, `line_height` in font sizes."""

    family: str
    size: float
    weight: float
    line_height: float
    spacing: float
    align: str


class Line(NamedTuple):
    """One line: its runs with their left edge, and the baseline, from the text's corner."""

    baseline: float
    width: float
    text: str
    runs: tuple[tuple[float, GlyphRun], ...]


class Paragraph(NamedTuple):
    """Set text: the widest line, the height of all, and the lines."""

    width: float
    height: float
    lines: tuple[Line, ...]


class _Stretch(NamedTuple):
    """Characters start to end of a paragraph that one face draws."""

    start: int
    text: str
    face: Face


class _Block(NamedTuple):
    """A paragraph between two line ends, cut into stretches, with the widths before each
    character (one more than there are characters)."""

    text: str
    stretches: tuple[_Stretch, ...]
    edges: tuple[float, ...]


class Typesetter:
    """Sets text from the fonts of a book. Everything is remembered by value."""

    def __init__(self, fonts: FontBook) -> None:
        self.fonts = fonts
        self._shaper = Shaper()
        self._blocks: Generations[tuple[Content, TextStyle], tuple[_Block, ...]] = Generations(8192)
        self._set: Generations[tuple[Content, TextStyle, float], Paragraph] = Generations(16384)

    def widest(self, content: Content, style: TextStyle) -> float:
        """Max-content width in px: no line is broken but where the text says so."""
        return max(block.edges[-1] for block in self._cut(content, style))

    def narrowest(self, content: Content, style: TextStyle) -> float:
        """Min-content width in px: broken wherever a line may break."""
        found = 0.0
        for block in self._cut(content, style):
            for chunk in chunks(block.text):
                found = max(found, block.edges[chunk.ink] - block.edges[chunk.start])
        return found

    def set(self, content: Content, style: TextStyle, width: float) -> Paragraph:
        """The text in lines no wider than `width` px (a word that is wider spills)."""
        key = content, style, width
        found = self._set.get(key)
        if found is None:
            found = self._lines(content, style, width)
            self._set.put(key, found)
        return found

    def _lines(self, content: Content, style: TextStyle, width: float) -> Paragraph:
        blocks = self._cut(content, style)
        height = style.line_height * style.size
        first = self.fonts.faces(style.family, style.weight, False)[0]
        inside = (height - (first.ascent + first.descent) * style.size) / 2
        baseline = inside + first.ascent * style.size
        made: list[Line] = []
        for block in blocks:
            for start, ink, end in lines(chunks(block.text), block.edges, width):
                top = len(made) * height
                made.append(self._line(block, (start, ink, end), style, width, top + baseline))
        return Paragraph(max(line.width for line in made), height * len(made), tuple(made))

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
        stop = end if last else ink
        pen = 0.0
        runs = []
        for stretch in block.stretches:
            text = _overlap(stretch, start, stop)
            if text:
                shaped = self._shaper.shape(text, stretch.face)
                run = glyph_run(shaped, stretch.face, style.size, style.spacing)
                runs.append((pen, run))
                pen += run.advance
        shift = {"start": 0.0, "center": 0.5, "end": 1.0}[style.align] * max(available - pen, 0.0)
        placed = tuple((x + shift, run) for x, run in runs)
        return Line(baseline, pen, block.text[start:stop], placed)

    def _cut(self, content: Content, style: TextStyle) -> tuple[_Block, ...]:
        key = content, style
        found = self._blocks.get(key)
        if found is None:
            found = tuple(self._block(runs, style) for runs in _paragraphs(content))
            self._blocks.put(key, found)
        return found

    def _block(self, runs: list[Run], style: TextStyle) -> _Block:
        text = "".join(run.text for run in runs)
        stretches: list[_Stretch] = []
        start = 0
        for run in runs:
            for face, part in self._faces(run, style):
                stretches.append(_Stretch(start, part, face))
                start += len(part)
        edges = [0.0]
        for stretch in stretches:
            edges += self._edges(stretch, style, edges[-1])
        return _Block(text, tuple(stretches), tuple(edges))

    def _faces(self, run: Run, style: TextStyle) -> list[tuple[Face, str]]:
        """The run cut where the face changes because a letter is missing."""
        weight = max(style.weight, BOLD) if run.bold else style.weight
        faces = self.fonts.faces(style.family, weight, run.italic)
        first = faces[0]
        found = []
        for face, letters in groupby(run.text, lambda c: _first_with(faces, c) or first):
            found.append((face, "".join(letters)))
        return found

    def _edges(self, stretch: _Stretch, style: TextStyle, left: float) -> list[float]:
        """The right edge of every character; those of one cluster share its width."""
        shaped = self._shaper.shape(stretch.text, stretch.face)
        unit = style.size / stretch.face.upem
        widths = [0.0] * len(stretch.text)
        for advance, cluster in zip(shaped.advances, shaped.clusters, strict=True):
            widths[cluster] += advance * unit
        edges = []
        for n, width in enumerate(widths):
            left += width + (style.spacing if n in shaped.clusters else 0.0)
            edges.append(left)
        return edges


def _first_with(faces: tuple[Face, ...], character: str) -> Face | None:
    if character.isspace():
        return faces[0]
    return next((face for face in faces if face.has(character)), None)


def _overlap(stretch: _Stretch, start: int, end: int) -> str:
    return stretch.text[max(start - stretch.start, 0) : max(end - stretch.start, 0)]


def _paragraphs(content: Content) -> list[list[Run]]:
    """The content cut at its line ends, never empty."""
    found: list[list[Run]] = [[]]
    for run in content:
        for n, part in enumerate(run.text.split("\n")):
            if n:
                found.append([])
            if part:
                found[-1].append(Run(part, run.bold, run.italic))
    return found
