"""The cards of the overview: drawn, picked, opened, and dragged into order and into folders."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable, Sequence
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRect, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QContextMenuEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QApplication

from outgrowth.app.paint import QtPainter
from outgrowth.app.paint.library_pictures import LibraryPictures
from outgrowth.app.paint.painted_view import ARROWS, PaintedView
from outgrowth.app.paint.words import bold, draw_line
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Component
from outgrowth.core.document.variants import Variant
from outgrowth.core.paint import draw
from outgrowth.workspace.views.library_rows import NO_FOLDER, LibraryRow
from outgrowth.workspace.views.overview_cards import (
    FOOT,
    GAP,
    HEAD,
    NAME,
    PAD,
    UNMEASURED,
    MeasuredCard,
    OverviewCard,
    beside,
    laid_cards,
    measured_card,
)

Key = tuple[str, str]
"""A library ("" for the file) and a component in it."""
# What is in sight is measured before it is seen, as far as a frame allows; the rest afterwards.
_SIGHT_S, _SLICE_S = 0.06, 0.008
_EDGE = 28
_SCROLL = 24


class Drop(NamedTuple):
    """Where dragged cards would go: a folder ("" for none), behind another component there ("" for
    the first), and the mark that shows it."""

    folder: str
    after: str
    mark: QRectF


def key_of(row: LibraryRow) -> Key:
    """What tells the component of a row from all others."""
    return row.library, row.owner


class OverviewView(PaintedView):
    """opened(LibraryRow)   a card was opened
    chosen_changed()     other cards are chosen, or another is the current one
    dropped(Drop)        the chosen ones were dragged to a place
    menu_asked(QPoint)   what can be done with the chosen ones is asked, at a point of the screen
    """

    opened = pyqtSignal(object)
    chosen_changed = pyqtSignal()
    dropped = pyqtSignal(object)
    menu_asked = pyqtSignal(object)

    def __init__(self, pictures: LibraryPictures, theme: Theme) -> None:
        super().__init__(theme, "Components")
        self._pictures = pictures
        self.note: Callable[[LibraryRow], str] = lambda _: ""
        self.rows: list[LibraryRow] = []
        self.cards: list[OverviewCard] = []
        self.chosen: dict[Key, LibraryRow] = {}
        self._current: Key | None = None
        self._measured: dict[Key, MeasuredCard] = {}
        self._stale: set[Key] = set()
        # Drawn before they come into sight, so that they are copied when they do.
        self._warm: set[Key] = set()
        self._pressed: QPointF | None = None
        self._drop: Drop | None = None
        self._dragging = False
        self._scratch = QImage(1, 1, QImage.Format.Format_ARGB32_Premultiplied)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.timeout.connect(self._measure_on)
        self.down.valueChanged.connect(self._scrolled)

    # --- what is shown --------------------------------------------------------------------------

    def show_rows(self, rows: Sequence[LibraryRow], changed: bool) -> None:
        """Shows these; `changed` says that their components may look otherwise than they did."""
        self.rows = list(rows)
        keys = {key_of(row): row for row in rows if row.owner}
        self._stale = set(keys) if changed else {k for k in keys if k not in self._measured}
        self._measured = {k: card for k, card in self._measured.items() if k in keys}
        self._warm -= self._stale
        self.chosen = {k: keys[k] for k in self.chosen if k in keys}
        if self._current not in keys:
            self._current = next(iter(self.chosen or keys), None)
        self._lay()
        self.measure_sight(_SIGHT_S)
        self.sight.update()
        self.chosen_changed.emit()

    def _lay(self) -> None:
        width = float(self.sight.width())
        self.cards, height = laid_cards(
            self.rows, lambda row: self._measured.get(key_of(row), UNMEASURED), width
        )
        self.show_range(0.0, height)

    def _in_sight(self, around: float = 0.0) -> list[OverviewCard]:
        top = self.scrolled.y() - around
        bottom = self.scrolled.y() + self.sight.height() + around
        return [c for c in self.cards if c.rect.bottom >= top and c.rect.y <= bottom]

    @property
    def measured_count(self) -> int:
        """How many cards are as large as they stay."""
        return len(self._measured.keys() - self._stale)

    def measure_sight(self, within: float) -> None:
        """Measures the cards in sight, for no longer than so many seconds."""
        until = time.perf_counter() + within
        while due := [c for c in self._in_sight() if key_of(c.row) in self._stale]:
            for card in due:
                self._measure(card.row)
                if time.perf_counter() > until:
                    break
            self._lay()
            if time.perf_counter() > until:
                break
        if self._stale:
            self._later.start(0)

    def _measure_on(self) -> None:
        """Measures cards out of sight, from the top, in a slice of a frame."""
        if not self.isVisible():
            return
        if not self._stale:
            self._warm_up()
            return
        before = self._in_sight()
        self.measure_sight(_SLICE_S)
        until = time.perf_counter() + _SLICE_S
        for row in self.rows:
            if key_of(row) in self._stale:
                self._measure(row)
                if time.perf_counter() > until:
                    break
        self._lay()
        if self._in_sight() != before:
            self.sight.update()
        self._later.start(0)

    def _warm_up(self) -> None:
        """Draws what is about to come into sight, a card at a time."""
        near = self._in_sight(around=1.5 * self.sight.height())
        cold = (c for c in near if c.row.owner and key_of(c.row) not in self._warm)
        card = next(cold, None)
        if card is None or self._stale:
            return
        self._warm.add(key_of(card.row))
        painter = QPainter(self._scratch)
        # Twice: what is drawn for the second time is kept.
        for _ in range(2):
            self._variants(painter, QRectF(0, 0, card.rect.width, card.rect.height), card)
        painter.end()
        self._later.start(1)

    def _measure(self, row: LibraryRow) -> None:
        key = key_of(row)
        self._stale.discard(key)
        component = self._component(row)
        if component is None:
            return

        def size(variant: Variant) -> tuple[float, float]:
            view = self._pictures.view_of(row, variant)
            return (view.placed.width, view.placed.height) if view is not None else (1.0, 1.0)

        self._measured[key] = measured_card(component, size)

    def _component(self, row: LibraryRow) -> Component | None:
        document = self._pictures.document_of(row)
        return document.components.get(row.owner) if document is not None else None

    def _scrolled(self) -> None:
        self.measure_sight(_SLICE_S)
        self.sight.update()
        self._later.start(1)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._lay()
        self.measure_sight(_SLICE_S)

    # --- the current one, and those that are chosen ---------------------------------------------

    @property
    def current(self) -> OverviewCard | None:
        """The card that the keys are at."""
        at = self._at(self._current)
        return self.cards[at] if at is not None else None

    def _at(self, key: Key | None) -> int | None:
        return next(
            (n for n, c in enumerate(self.cards) if c.row.owner and key_of(c.row) == key), None
        )

    def choose(self, rows: Iterable[LibraryRow], current: LibraryRow | None = None) -> None:
        """Chooses these, and no others; the keys go to `current`, else to the last of them."""
        self.chosen = {key_of(row): row for row in rows}
        last = current if current is not None else next(reversed(self.chosen.values()), None)
        self._current = key_of(last) if last is not None else self._current
        self.sight.update()
        self.setAccessibleDescription(last.name if last is not None else "")
        self.chosen_changed.emit()

    def show_current(self) -> None:
        """Scrolls to the current card."""
        card, bar = self.current, self.down
        if card is None:
            return
        top, bottom = card.rect.y - HEAD, card.rect.bottom + GAP
        if top < bar.value():
            bar.setValue(round(top))
        elif bottom > bar.value() + self.sight.height():
            bar.setValue(round(bottom - self.sight.height()))

    def card_at(self, point: QPointF) -> OverviewCard | None:
        """The card, or the heading, under a point of the view."""
        x, y = point.x(), point.y() + self.scrolled.y()
        return next((c for c in self.cards if c.rect.contains(x, y)), None)

    def rect_of(self, card: OverviewCard) -> QRectF:
        """Where a card lies in the view now."""
        rect = card.rect
        return QRectF(rect.x, rect.y - self.scrolled.y(), rect.width, rect.height)

    def name_rect(self, card: OverviewCard) -> QRect:
        """Where its name stands."""
        rect = self.rect_of(card)
        return QRectF(rect.x() + 1, rect.y() - 1, rect.width() - 2, 26).toRect()

    def variant_text(self, point: QPointF) -> str:
        """The variant under a point in words; "" for none."""
        card = self.card_at(point)
        component = self._component(card.row) if card is not None and card.row.owner else None
        if card is None or component is None:
            return ""
        x, y = point.x() - card.rect.x, point.y() + self.scrolled.y() - card.rect.y - card.lowered
        shown = next((v for v in card.measured.variants if v.rect.contains(x, y)), None)
        if shown is None:
            return ""
        values = ((axis, axis.value(shown.variant.get(axis.id, ""))) for axis in component.axes)
        return " · ".join(f"{axis.name}: {value.name}" for axis, value in values if value)

    # --- gestures -------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        card = self.card_at(event.position())
        if card is None or not card.row.owner:
            self.choose(self._of_folder(card) if card is not None else ())
            return
        self._pressed = event.position()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._choose_to(card)
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self._toggle(card)
        elif key_of(card.row) not in self.chosen:
            self.choose([card.row])
        else:
            self.choose(self.chosen.values(), card.row)

    def _of_folder(self, heading: OverviewCard) -> list[LibraryRow]:
        """The components under a heading."""
        at = self.cards.index(heading) + 1
        rows = []
        for card in self.cards[at:]:
            if not card.row.owner:
                break
            rows.append(card.row)
        return rows

    def _toggle(self, card: OverviewCard) -> None:
        chosen = dict(self.chosen)
        if chosen.pop(key_of(card.row), None) is None:
            chosen[key_of(card.row)] = card.row
        self.choose(chosen.values(), card.row)

    def _choose_to(self, card: OverviewCard) -> None:
        start, end = self._at(self._current), self.cards.index(card)
        first, last = sorted((end if start is None else start, end))
        rows = [c.row for c in self.cards[first : last + 1] if c.row.owner]
        self.choose(rows, card.row)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        point = event.position()
        self.setToolTip(self.variant_text(point))
        pressed = self._pressed
        if pressed is None or not event.buttons() & Qt.MouseButton.LeftButton:
            return
        far = (point - pressed).manhattanLength() >= QApplication.startDragDistance()
        if (far or self._dragging) and all(not row.library for row in self.chosen.values()):
            self._dragging = True
            self._drop = self._drop_at(point)
            self._follow_edge(point.y())
            self.sight.update()

    def _follow_edge(self, y: float) -> None:
        up, down = y < _EDGE, y > self.sight.height() - _EDGE
        self.down.setValue(self.down.value() + (_SCROLL if down else -_SCROLL if up else 0))

    def _drop_at(self, point: QPointF) -> Drop | None:
        """Where cards let go at a point would go."""
        card = self.card_at(point)
        if card is None:
            return None
        rect = self.rect_of(card)
        at = self.cards.index(card)
        heads = [c.row.name for c in self.cards[: at + 1] if not c.row.owner]
        folder = heads[-1] if heads and heads[-1] != NO_FOLDER else ""
        if not card.row.owner:
            return Drop(folder, "", QRectF(rect.x(), rect.bottom() - 3, rect.width(), 3))
        behind = point.x() > rect.center().x()
        x = rect.right() + GAP / 2 if behind else rect.x() - GAP / 2
        mark = QRectF(x - 1.5, rect.y(), 3, rect.height())
        before = self.cards[at - 1].row.owner if at else ""
        return Drop(folder, card.row.owner if behind else before, mark)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._pressed is None:
            return
        dragging, drop = self._dragging, self._drop
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        card = self.card_at(event.position())
        self._end_drag()
        if dragging and drop is not None:
            self.dropped.emit(drop)
        elif not dragging and plain and card is not None and card.row.owner:
            self.choose([card.row])

    def _end_drag(self) -> None:
        self._pressed, self._drop, self._dragging = None, None, False
        self.sight.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        card = self.card_at(event.position()) if event is not None else None
        if card is not None and card.row.owner:
            self.opened.emit(card.row)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is None:
            return
        card = self.card_at(QPointF(event.pos()))
        if card is not None and card.row.owner and key_of(card.row) not in self.chosen:
            self.choose([card.row])
        self.menu_asked.emit(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Escape and self._dragging:
            self._end_drag()
        elif key in ARROWS and self.cards:
            self._step(*ARROWS[key], bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.current is not None:
            self.opened.emit(self.current.row)
        elif key == Qt.Key.Key_Space and self.current is not None:
            self._toggle(self.current)
        elif event.text() and key == Qt.Key.Key_A and event.modifiers() & _CONTROL:
            self.choose([c.row for c in self.cards if c.row.owner])
        else:
            event.ignore()

    def _step(self, across: int, down: int, also: bool) -> None:
        at = self._at(self._current)
        first = next((n for n, c in enumerate(self.cards) if c.row.owner), None)
        if first is None:
            return
        to = self.cards[first if at is None else beside(self.cards, at, across, down)]
        self.choose([*(self.chosen.values() if also else ()), to.row], to.row)
        self.show_current()

    # --- painting -------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.sight)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.sight.rect(), self.theme.color("bed"))
        for card in self._in_sight():
            if card.row.owner:
                self._card(painter, card)
            else:
                self._heading(painter, self.rect_of(card), card.row)
        if not self.rows:
            painter.setPen(self.theme.color("muted"))
            middle = Qt.AlignmentFlag.AlignCenter
            painter.drawText(self.sight.rect(), middle, "Nothing here is called that.")
        if self._drop is not None:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self.theme.color("clay"))
            painter.drawRoundedRect(self._drop.mark, 1.5, 1.5)
        painter.end()

    def _heading(self, painter: QPainter, rect: QRectF, row: LibraryRow) -> None:
        plain = painter.font()
        painter.setFont(bold(plain))
        painter.setPen(self.theme.color("ink"))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(rect.adjusted(0, 4, 0, 0), middle, row.name)
        painter.setFont(plain)

    def _card(self, painter: QPainter, card: OverviewCard) -> None:
        rect, row, theme = self.rect_of(card), card.row, self.theme
        chosen, current = key_of(row) in self.chosen, key_of(row) == self._current
        focused = current and self.hasFocus()
        edge = "slate" if focused else "ink" if chosen else "hairline"
        painter.setPen(QPen(theme.color(edge), 2 if focused or chosen else 1))
        painter.setBrush(theme.color("panel"))
        painter.setOpacity(0.5 if chosen and self._dragging else 1.0)
        painter.drawRoundedRect(rect.adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        self._variants(painter, rect, card)
        self._words(painter, rect, card)
        painter.setOpacity(1.0)

    def _variants(self, painter: QPainter, rect: QRectF, card: OverviewCard) -> None:
        ratio = self.devicePixelRatioF()
        rasters = self._pictures.rasters_of(card.row)
        painter.save()
        paper = rect.adjusted(1.5, NAME, -1.5, -FOOT)
        painter.fillRect(paper, self.theme.color("paper"))
        painter.setClipRect(paper)
        for shown in card.measured.variants:
            view = self._pictures.view_of(card.row, shown.variant)
            if view is None:
                continue
            painter.save()
            x, y = round(rect.x() + shown.rect.x), round(rect.y() + card.lowered + shown.rect.y)
            painter.translate(x, y)
            painter.scale(1 / ratio, 1 / ratio)
            QtPainter(painter, rasters, card.measured.zoom * ratio).draw(draw(*view), 0.0, 0.0)
            painter.restore()
        painter.restore()

    def _words(self, painter: QPainter, rect: QRectF, card: OverviewCard) -> None:
        plain = painter.font()
        painter.setFont(bold(plain))
        painter.setPen(self.theme.color("ink"))
        upper = QRectF(rect.x() + PAD, rect.y() + 2, rect.width() - 2 * PAD, NAME - 2)
        draw_line(painter, upper, card.row.name)
        painter.setFont(plain)
        painter.setPen(self.theme.color("muted"))
        lower = QRectF(upper.x(), rect.bottom() - FOOT, upper.width(), FOOT - 2)
        hidden = f"and {card.measured.hidden:,} more variants" if card.measured.hidden else ""
        draw_line(painter, lower, hidden or self.note(card.row))


_CONTROL = Qt.KeyboardModifier.ControlModifier
