"""A component on a page of its own, as documentation: every variant, and what is known of it in
words. The same page is printed, one after the other as PDF, or saved as a picture."""

from __future__ import annotations

import math
from collections.abc import Iterable

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QRectF, QSizeF, Qt
from PyQt6.QtGui import (
    QFont,
    QImage,
    QPageLayout,
    QPageSize,
    QPainter,
    QPdfWriter,
    QPen,
    QTextDocument,
)

from outgrowth.app.paint.painter import QtPainter
from outgrowth.app.paint.rasters import Rasters
from outgrowth.app.theme import LIGHT
from outgrowth.app.theme.sheet import FAMILY
from outgrowth.core.document.records import Component, Document
from outgrowth.core.document.variants import Variant
from outgrowth.core.paint import Fragment, draw
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.views.component_description import Section, described
from outgrowth.workspace.views.overview_cards import PAGE_CARD, MeasuredCard, measured_card

PAGE = QSizeF(794.0, 1123.0)
"""A4 upright in CSS px. Source: ISO 216; CSS Values 4, section 6.2 (96 px an inch)."""
_EDGE, _FOOT = 52.0, 40.0
_BETWEEN = 24.0
# Px of the page that the variants may take: what is left is for the words.
_VARIANTS_HIGH = 560.0
_DOTS = 4
"""Dots of the printed page to a px: nothing that has to be drawn as dots looks coarse."""


class PrintPainter(QtPainter):
    """Draws every part anew: what is printed has edges, not the pixels of a screen."""

    def _laid_down(self, x: float, y: float, fragment: Fragment) -> bool:
        return False


class PdfPages:
    """A PDF with a page a component and all fonts in it, begun; `finished` gives its bytes."""

    def __init__(self, document: Document, engine: Engine, count: int) -> None:
        """`count` is how many pages there will be."""
        self._document, self._engine, self._count = document, engine, count
        self._made = 0
        self._data = QByteArray()
        self._buffer = QBuffer(self._data)
        self._buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        self._writer = QPdfWriter(self._buffer)
        self._writer.setResolution(96 * _DOTS)
        self._writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
        self._writer.setPageMargins(QMarginsF(0, 0, 0, 0), QPageLayout.Unit.Point)
        self._writer.setTitle(f"{document.name}: components")
        self._writer.setCreator("Outgrowth")
        self._painter = QPainter(self._writer)

    def add(self, component: Component) -> None:
        """One more page."""
        if self._made:
            self._writer.newPage()
        self._made += 1
        number = f"{self._made} of {self._count}"
        _page(self._painter, float(_DOTS), self._document, self._engine, component, number)

    def finished(self) -> bytes:
        """The bytes of the file; nothing can be added afterwards."""
        self._painter.end()
        self._buffer.close()
        return self._data.data()


def page_picture(
    document: Document, engine: Engine, component: Component, scale: float = 2.0
) -> QImage:
    """The same page as a picture, so many pixels to a px."""
    image = QImage(
        math.ceil(PAGE.width() * scale),
        math.ceil(PAGE.height() * scale),
        QImage.Format.Format_ARGB32_Premultiplied,
    )
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    _page(painter, scale, document, engine, component, "")
    painter.end()
    return image


def _page(
    painter: QPainter,
    scale: float,
    document: Document,
    engine: Engine,
    component: Component,
    number: str,
) -> None:
    """Draws a page of `PAGE` px at the painter's corner, so many dots to a px."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.save()
    painter.scale(scale, scale)
    room = QRectF(_EDGE, _EDGE, PAGE.width() - 2 * _EDGE, PAGE.height() - 2 * _EDGE - _FOOT)
    y = _head(painter, room, component)
    card = _card(document, engine, component)
    zoom = _zoom(card, room.width() - 2 * _BETWEEN)
    high = card.height * zoom + 2 * _BETWEEN
    ground = QRectF(room.x(), y, room.width(), high)
    painter.setPen(QPen(LIGHT.color("hairline"), 1))
    painter.setBrush(LIGHT.color("panel"))
    painter.drawRoundedRect(ground, 4, 4)
    painter.restore()
    _variants(painter, scale, document, engine, component, card, zoom, ground)
    painter.save()
    painter.scale(scale, scale)
    below = QRectF(room.x(), ground.bottom() + _BETWEEN, room.width(), 0)
    below.setBottom(room.bottom())
    _sections(painter, below, described(document, component))
    _foot(painter, document, component, number)
    painter.restore()


def _head(painter: QPainter, room: QRectF, component: Component) -> float:
    """The name under its folder, and what it is for; gives where the rest begins."""
    folder = component.name.removesuffix(component.short_name).strip("/")
    y = room.y()
    if folder:
        _line(painter, QRectF(room.x(), y, room.width(), 16), folder, 11, "muted")
        y += 18
    _line(painter, QRectF(room.x(), y, room.width(), 34), component.short_name, 26, "ink", True)
    y += 38
    if component.description:
        text = _text(_plain(component.description), 13, "ink", room.width())
        painter.save()
        painter.translate(room.x(), y)
        text.drawContents(painter, QRectF(0, 0, room.width(), 80))
        painter.restore()
        y += min(text.size().height(), 80) + 4
    return y + 8


def _card(document: Document, engine: Engine, component: Component) -> MeasuredCard:
    def size(variant: Variant) -> tuple[float, float]:
        placed = engine.view(document, component.id, variant).placed
        return placed.width, placed.height

    return measured_card(component, size, PAGE_CARD)


def _zoom(card: MeasuredCard, wide: float) -> float:
    """How large the card's variants are on the page, beside how large they are on the card."""
    life = 1.0 / card.zoom
    return min(life, wide / max(card.width, 1.0), _VARIANTS_HIGH / max(card.height, 1.0))


def _variants(
    painter: QPainter,
    scale: float,
    document: Document,
    engine: Engine,
    component: Component,
    card: MeasuredCard,
    zoom: float,
    ground: QRectF,
) -> None:
    rasters = Rasters(lambda: document.assets)
    left = ground.center().x() - card.width * zoom / 2
    top = ground.y() + _BETWEEN
    for shown in card.variants:
        painter.save()
        x, y = left + shown.rect.x * zoom, top + shown.rect.y * zoom
        painter.translate(x * scale, y * scale)
        fragment = draw(*engine.view(document, component.id, shown.variant))
        PrintPainter(painter, rasters, card.zoom * zoom * scale).draw(fragment, 0.0, 0.0)
        painter.restore()
    painter.save()
    painter.scale(scale, scale)
    for words in card.headings:
        rect = QRectF(left + words.rect.x * zoom, top + words.rect.y * zoom, 0, 0)
        rect.setSize(QSizeF(max(words.rect.width * zoom, 40.0), words.rect.height * zoom))
        _line(painter, rect, words.text, min(10.0, 11.0 * zoom * card.zoom + 4), "muted")
    painter.restore()


def _sections(painter: QPainter, room: QRectF, sections: Iterable[Section]) -> None:
    """Two columns of sections, cut at the foot of the page with a word that there is more."""
    wide = (room.width() - _BETWEEN) / 2
    bottoms = [room.y(), room.y()]
    for section in sections:
        text = _text(_section_markup(section), 11, "ink", wide)
        column = 0 if bottoms[0] <= bottoms[1] else 1
        left = room.bottom() - bottoms[column]
        if left < 40:
            continue
        painter.save()
        painter.translate(room.x() + column * (wide + _BETWEEN), bottoms[column])
        whole = text.size().height()
        text.drawContents(painter, QRectF(0, 0, wide, min(whole, left - 16)))
        if whole > left - 16:
            _line(painter, QRectF(0, left - 14, wide, 14), "… and more in the file", 10, "muted")
        painter.restore()
        bottoms[column] += min(whole, left) + 10


def _section_markup(section: Section) -> str:
    lines = "".join(f"<p style='margin: 2px 0'>{_plain(line)}</p>" for line in section.lines)
    color = LIGHT.muted
    return f"<p style='margin: 0 0 3px 0; color: {color}'><b>{_plain(section.title)}</b></p>{lines}"


def _plain(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;")


def _foot(painter: QPainter, document: Document, component: Component, number: str) -> None:
    y = PAGE.height() - _EDGE
    painter.setPen(QPen(LIGHT.color("hairline"), 1))
    painter.drawLine(round(_EDGE), round(y - 8), round(PAGE.width() - _EDGE), round(y - 8))
    rect = QRectF(_EDGE, y, PAGE.width() - 2 * _EDGE, 16)
    _line(painter, rect, document.name, 10, "muted")
    _line(painter, rect, number, 10, "muted", flags=Qt.AlignmentFlag.AlignRight)


def _line(
    painter: QPainter,
    rect: QRectF,
    text: str,
    size: float,
    role: str,
    bold: bool = False,
    flags: Qt.AlignmentFlag = Qt.AlignmentFlag.AlignLeft,
) -> None:
    painter.setFont(_font(size, bold))
    painter.setPen(LIGHT.color(role))
    painter.drawText(rect, flags | Qt.AlignmentFlag.AlignVCenter, text)


def _font(size: float, bold: bool = False) -> QFont:
    font = QFont(FAMILY)
    font.setPixelSize(max(round(size), 1))
    font.setBold(bold)
    return font


def _text(markup: str, size: float, role: str, wide: float) -> QTextDocument:
    text = QTextDocument()
    text.setDocumentMargin(0)
    text.setDefaultFont(_font(size))
    text.setHtml(f"<div style='color: {getattr(LIGHT, role)}'>{markup}</div>")
    text.setTextWidth(wide)
    return text
