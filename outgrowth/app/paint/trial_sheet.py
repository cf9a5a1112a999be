"""A sheet of trials drawn: each cell the engine's own drawing, with what breaks edged and named."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QImage, QPainter, QPen

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.theme import LIGHT, Theme
from outgrowth.core.document.records import Document, Owner
from outgrowth.core.paint import draw
from outgrowth.core.trials.sheet import TrialCell
from outgrowth.workspace.views.trial_rows import VariantBlock, blocks, caption

_TITLES, _HEAD, _ROOMS = 148.0, 34.0, 24.0
_PAD, _CAPTION = 10.0, 18.0
_WIDEST = 260.0
_LEAST_WIDE, _LEAST_HIGH = 96.0, 34.0
_EDGE = 2.0
_MOST_PIXELS = 16_000


class Tile(NamedTuple):
    """Where a cell stands on the sheet, all of it and its drawing, and how large that is drawn."""

    rect: QRectF
    picture: QRectF
    cell: TrialCell
    zoom: float


class SheetText(NamedTuple):
    """Words on a sheet: where, what, in which role's colour; `sticks` to the left edge where it
    is scrolled."""

    rect: QRectF
    text: str
    role: str
    bold: bool = False
    sticks: bool = False


class LaidSheet(NamedTuple):
    """A sheet that was laid out."""

    width: float
    height: float
    tiles: tuple[Tile, ...]
    words: tuple[SheetText, ...]

    def tile_at(self, x: float, y: float) -> Tile | None:
        """The cell under a point."""
        return next((tile for tile in self.tiles if tile.rect.contains(QPointF(x, y))), None)


def plan_of(sheet: Sequence[VariantBlock], largest: float = _WIDEST) -> LaidSheet:
    """Lays the blocks of a sheet out, one below the other; no drawing is wider or higher than
    `largest` px."""
    tiles: list[Tile] = []
    words: list[SheetText] = []
    y, right = 4.0, 0.0
    for block in sheet:
        if not block.contents:
            continue
        widths = [_column(block, n, largest) for n in range(len(block.rooms))]
        words.append(SheetText(QRectF(_PAD, y, 4000, _HEAD), block.title, "ink", True, True))
        y += _HEAD
        x = _TITLES
        for room, width in zip(block.rooms, widths, strict=True):
            words.append(SheetText(QRectF(x, y, width, _ROOMS), room.title, "muted"))
            x += width + _PAD
        right = max(right, x)
        y += _ROOMS
        for content, row in zip(block.contents, block.cells, strict=True):
            drawn = [_drawn(cell, largest)[1] for cell in row if cell is not None]
            high = max([_LEAST_HIGH, *drawn])
            title = QRectF(_PAD, y, _TITLES - 2 * _PAD, min(high, 40.0))
            words.append(SheetText(title, content.title, "ink", False, True))
            x = _TITLES
            for cell, width in zip(row, widths, strict=True):
                if cell is not None:
                    tiles.append(_tile(cell, QRectF(x, y, width, high), largest))
                x += width + _PAD
            y += high + _CAPTION + _PAD
        y += _PAD
    return LaidSheet(right, y, tuple(tiles), tuple(words))


def _zoom(cell: TrialCell, largest: float) -> float:
    return min(1.0, largest / max(cell.placed.width, cell.placed.height, 1.0))


def _drawn(cell: TrialCell, largest: float) -> tuple[float, float]:
    zoom = _zoom(cell, largest)
    return cell.placed.width * zoom, cell.placed.height * zoom


def _column(block: VariantBlock, number: int, largest: float) -> float:
    column = (row[number] for row in block.cells)
    return max([_LEAST_WIDE, *[_drawn(cell, largest)[0] for cell in column if cell is not None]])


def _tile(cell: TrialCell, room: QRectF, largest: float) -> Tile:
    wide, tall = _drawn(cell, largest)
    rect = room.adjusted(-4, -4, 4, _CAPTION + 4)
    return Tile(rect, QRectF(room.x(), room.y(), wide, tall), cell, _zoom(cell, largest))


class SheetPainter:
    """Draws sheets in a look. `rasters` has the pictures of the file."""

    def __init__(self, theme: Theme, rasters: Rasters) -> None:
        self.theme = theme
        self._rasters = rasters

    def paint(
        self, painter: QPainter, plan: LaidSheet, sight: QRectF, ratio: float, chosen: Tile | None
    ) -> None:
        """What of a sheet is in sight; `ratio` device pixels to a px."""
        for tile in plan.tiles:
            if tile.rect.intersects(sight):
                self._tile(painter, tile, ratio, chosen is not None and tile.cell is chosen.cell)
        for words in plan.words:
            if words.rect.y() < sight.bottom() and words.rect.bottom() > sight.top():
                self._words(painter, words, sight.x())

    def _words(self, painter: QPainter, words: SheetText, left: float) -> None:
        """What stands at the left edge stays in sight there, on a ground of its own."""
        rect = words.rect
        if words.sticks and left > 0:
            rect = rect.translated(left, 0)
            if not words.bold:
                wide = QFontMetricsF(painter.font()).horizontalAdvance(words.text)
                rect = QRectF(rect.x(), rect.y(), min(wide, rect.width()) + 1, 20.0)
                painter.setOpacity(0.9)
                painter.fillRect(rect.adjusted(-5, 0, 5, 0), self.theme.color("bed"))
                painter.setOpacity(1.0)
        words = words._replace(rect=rect)
        painter.setPen(self.theme.color(words.role))
        _set_bold(painter, words.bold)
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        if words.bold or words.rect.width() > 500:
            painter.drawText(words.rect, flags, words.text)
        else:
            painter.drawText(words.rect, flags | Qt.TextFlag.TextWordWrap, words.text)
        _set_bold(painter, False)

    def _tile(self, painter: QPainter, tile: Tile, ratio: float, is_chosen: bool) -> None:
        picture, cell = tile.picture, tile.cell
        painter.fillRect(picture, self.theme.color("paper"))
        if is_chosen:
            painter.setPen(QPen(self.theme.color("slate"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(tile.rect.adjusted(1, 1, -1, -1), 4, 4)
        painter.save()
        painter.setClipRect(tile.rect)
        painter.translate(picture.x(), picture.y())
        painter.scale(1 / ratio, 1 / ratio)
        fragment = draw(cell.scene, cell.placed)
        QtPainter(painter, self._rasters, tile.zoom * ratio).draw(fragment, 0.0, 0.0)
        painter.restore()
        self._edges(painter, tile)
        self._caption(painter, tile)

    def _edges(self, painter: QPainter, tile: Tile) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for item in tile.cell.breaks:
            role = "muted" if item.before else "problem"
            style = Qt.PenStyle.DotLine if item.before else Qt.PenStyle.SolidLine
            painter.setPen(QPen(QColor(getattr(LIGHT, role)), _EDGE * 0.75, style))
            rect = item.rect
            edge = QRectF(
                tile.picture.x() + rect.x * tile.zoom - 1,
                tile.picture.y() + rect.y * tile.zoom - 1,
                rect.width * tile.zoom + 2,
                rect.height * tile.zoom + 2,
            )
            painter.drawRect(edge.intersected(tile.rect.adjusted(1, 1, -1, -1)))

    def _caption(self, painter: QPainter, tile: Tile) -> None:
        text = caption(tile.cell)
        if not text:
            return
        room = QRectF(
            tile.rect.x() + 4, tile.rect.bottom() - _CAPTION, tile.rect.width() - 6, _CAPTION - 2
        )
        painter.setPen(self.theme.color("problem"))
        metrics = QFontMetricsF(painter.font())
        short = metrics.elidedText(text, Qt.TextElideMode.ElideRight, room.width())
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, short)


def _set_bold(painter: QPainter, bold: bool) -> None:
    font = QFont(painter.font())
    font.setBold(bold)
    painter.setFont(font)


def sheet_picture(document: Document, owner: Owner, cells: Sequence[TrialCell]) -> QImage:
    """A whole sheet as a picture. What is beyond 16,000 px is left out."""
    plan = plan_of(blocks(owner, [cell.trial for cell in cells], cells))
    width = int(min(plan.width + _PAD, _MOST_PIXELS))
    height = int(min(plan.height + _PAD, _MOST_PIXELS))
    image = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(LIGHT.color("panel"))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    font = painter.font()
    font.setPixelSize(12)
    painter.setFont(font)
    sight = QRectF(0, 0, width, height)
    rasters = Rasters(lambda: document.assets)
    SheetPainter(LIGHT, rasters).paint(painter, plan, sight, 1.0, None)
    painter.end()
    return image
