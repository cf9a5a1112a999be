"""Tokens as cards: looked at, picked, dragged into order and into groups, motions moving."""

from __future__ import annotations

import time
from typing import NamedTuple

import msgspec
from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QApplication

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.paint.painted_view import ARROWS, PaintedView
from outgrowth.app.paint.words import bold, draw_line
from outgrowth.app.theme import LIGHT, Theme
from outgrowth.core.color import Color
from outgrowth.core.document.color_pairs import ENOUGH
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.records import Document
from outgrowth.core.document.referring import meaning
from outgrowth.core.geometry import Rect
from outgrowth.core.motion.timing import Begun, length
from outgrowth.core.paint import draw
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.token_board import (
    GAP,
    HEAD,
    PICTURE,
    BoardHead,
    PairLine,
    TokenBoard,
    TokenCard,
    token_board,
)

_FRAME_MS, _REST_S = 16, 0.4
_USUAL_MS = 600.0


class TokenDrop(NamedTuple):
    """Where a dragged token would go: behind another ("" for first), or into a group (None for
    staying in its own), and the mark that shows it."""

    after: str
    group: str | None
    mark: QRectF


class TokenBoardView(PaintedView):
    """current_changed()  another token is looked at
    ordered(str, str)   a token was dragged right behind another
    filed(str, str)     a token was dragged into a group
    pair_asked(PairLine)  a pair of colours was pressed
    menu_asked(QPoint)  what can be done with the current one is asked, at a point of the screen
    """

    current_changed = pyqtSignal()
    ordered = pyqtSignal(str, str)
    filed = pyqtSignal(str, str)
    pair_asked = pyqtSignal(object)
    menu_asked = pyqtSignal(object)

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__(theme, "Tokens as they look")
        self._workspace = workspace
        self._rasters = rasters
        self.board = TokenBoard(Document(""), (), (), (), 0.0)
        self.current = ""
        self._pressed: QPointF | None = None
        self._carried: TokenCard | None = None
        self._drop: TokenDrop | None = None
        self._moving = ""
        self._began = 0.0
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._frames = QTimer(self)
        self._frames.setInterval(_FRAME_MS)
        self._frames.timeout.connect(self.sight.update)

    # --- what is shown --------------------------------------------------------------------------

    def refresh(self) -> None:
        """Shows the tokens as they are now."""
        self.board = token_board(self._workspace.document, float(self.sight.width()))
        if self.card(self.current) is None:
            self.current = self.board.cards[0].path if self.board.cards else ""
        self.show_range(0.0, self.board.height)
        self.sight.update()
        self.current_changed.emit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self.isVisible():
            self.refresh()

    def card(self, path: str) -> TokenCard | None:
        """The card of a token, or of the composed one that it is a member of."""
        exact = next((card for card in self.board.cards if card.path == path), None)
        holder = path.rpartition(".")[0]
        return exact or next((c for c in self.board.cards if c.path == holder and holder), None)

    def look_at(self, path: str) -> None:
        """Looks at a token, and brings it into sight."""
        card, bar = self.card(path), self.down
        if card is None:
            return
        self.current = card.path
        if card.rect.y - HEAD < bar.value():
            bar.setValue(round(card.rect.y - HEAD))
        elif card.rect.bottom + GAP > bar.value() + self.sight.height():
            bar.setValue(round(card.rect.bottom + GAP - self.sight.height()))
        self.setAccessibleDescription(f"{card.path}: {', '.join(card.texts)}")
        self._move(card)
        self.sight.update()
        self.current_changed.emit()

    def _in_view(self, rect: Rect) -> QRectF:
        return QRectF(rect.x, rect.y - self.scrolled.y(), *rect[2:])

    def rect_of(self, path: str) -> QRectF:
        """Where a token's card lies in the view."""
        card = self.card(path)
        return self._in_view(card.rect) if card is not None else QRectF()

    def _card_at(self, point: QPointF) -> TokenCard | None:
        return next((c for c in self.board.cards if self._in_view(c.rect).contains(point)), None)

    def _head_at(self, point: QPointF) -> BoardHead | None:
        return next((h for h in self.board.heads if self._in_view(h.rect).contains(point)), None)

    # --- gestures -------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        point = event.position()
        card = self._card_at(point)
        pair = next((p for p in self.board.pairs if self._in_view(p.rect).contains(point)), None)
        if card is not None:
            self.look_at(card.path)
            self._pressed, self._carried = point, card
        elif pair is not None:
            self.pair_asked.emit(pair)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        point, carried, pressed = event.position(), self._carried, self._pressed
        if carried is None or pressed is None:
            self._move(self._card_at(point))
            return
        far = (point - pressed).manhattanLength() >= QApplication.startDragDistance()
        if (far or self._drop is not None) and carried.path in self._workspace.document.tokens:
            self._drop = self._drop_at(point, carried)
            self.sight.update()

    def _drop_at(self, point: QPointF, carried: TokenCard) -> TokenDrop | None:
        head = self._head_at(point)
        if head is not None and head.section == carried.section:
            rect = self._in_view(head.rect)
            mark = QRectF(rect.x(), rect.bottom() - 3, rect.width(), 3)
            return TokenDrop("", head.group, mark)
        card = self._card_at(point)
        if card is None or card.section != carried.section or card.path == carried.path:
            return None
        rect = self._in_view(card.rect)
        behind = point.x() > rect.center().x()
        x = rect.right() + GAP / 2 if behind else rect.x() - GAP / 2
        mark = QRectF(x - 1.5, rect.y(), 3, rect.height())
        at = self.board.cards.index(card)
        before = self.board.cards[at - 1] if at else None
        first = before is None or before.section != card.section
        after = card.path if behind else "" if first or before is None else before.path
        group = card.path.rpartition(".")[0]
        own = carried.path.rpartition(".")[0]
        return TokenDrop(after, group if group != own else None, mark)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        carried, drop = self._carried, self._drop
        self._pressed = self._carried = self._drop = None
        self.sight.update()
        if carried is None or drop is None:
            return
        if drop.group is not None:
            self.filed.emit(carried.path, drop.group)
        elif drop.after != carried.path:
            self.ordered.emit(carried.path, drop.after)

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        self._move(None)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        if event is None:
            return
        card = self._card_at(QPointF(event.pos()))
        if card is not None:
            self.look_at(card.path)
            self.menu_asked.emit(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key = Qt.Key(event.key())
        alt = event.modifiers() & Qt.KeyboardModifier.AltModifier
        if key == Qt.Key.Key_Escape and self._carried is not None:
            self._pressed = self._carried = self._drop = None
            self.sight.update()
        elif alt and key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self._carry(1 if key == Qt.Key.Key_Right else -1)
        elif key in ARROWS and self.board.cards:
            self._step(*ARROWS[key])
        else:
            event.ignore()

    def _carry(self, by: int) -> None:
        """The current token among its kind, by one place."""
        cards = [c.path for c in self.board.cards if c.path in self._workspace.document.tokens]
        if self.current not in cards:
            return
        at = cards.index(self.current)
        if by > 0 and at + 1 < len(cards):
            self.ordered.emit(self.current, cards[at + 1])
        elif by < 0 and at:
            self.ordered.emit(self.current, cards[at - 2] if at > 1 else "")

    def _step(self, across: int, down: int) -> None:
        here = self.card(self.current)
        if here is None:
            return
        cards = self.board.cards
        if across:
            at = min(max(cards.index(here) + across, 0), len(cards) - 1)
            self.look_at(cards[at].path)
            return
        ahead = [c for c in cards if (c.rect.y - here.rect.y) * down > 1]
        if ahead:
            line = min((c.rect.y for c in ahead), key=lambda y: abs(y - here.rect.y))
            in_line = [c for c in ahead if c.rect.y == line]
            self.look_at(min(in_line, key=lambda c: abs(c.rect.x - here.rect.x)).path)

    # --- what moves -----------------------------------------------------------------------------

    def _move(self, card: TokenCard | None) -> None:
        """Lets a motion run while it is pointed at or looked at."""
        path = card.path if card is not None and self._motion(card) is not None else ""
        if path != self._moving:
            self._moving, self._began = path, time.perf_counter()
            if path:
                self._frames.start()
            else:
                self._frames.stop()
            self.sight.update()

    @property
    def moving(self) -> str:
        """The token whose motion runs now; "" for none."""
        return self._moving

    def _motion(self, card: TokenCard) -> Motion | None:
        """The motion that a card shows: a composed one, a duration, or an easing."""
        find = self._workspace.document.token
        duration: object
        easing: object
        if card.section == "motion":
            duration = meaning(f"{card.path}.duration", find)
            easing = meaning(f"{card.path}.easing", find)
        elif card.section in ("duration", "easing"):
            said = meaning(card.path, find)
            duration = said if card.section == "duration" else _USUAL_MS
            easing = said if card.section == "easing" else "ease-out"
        else:
            return None
        known = isinstance(duration, float) and isinstance(easing, str)
        return Motion(duration, easing) if known else None  # type: ignore[arg-type]  # just asked

    # --- painting -------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.sight)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        sight = QRectF(self.sight.rect())
        painter.fillRect(sight, self.theme.color("bed"))
        plain = painter.font()
        for head in self.board.heads:
            rect = self._in_view(head.rect)
            if rect.intersects(sight):
                painter.setFont(bold(plain))
                painter.setPen(self.theme.color("ink"))
                draw_line(painter, rect.adjusted(0, 6, 0, 0), head.title)
                painter.setFont(plain)
        for card in self.board.cards:
            rect = self._in_view(card.rect)
            if rect.intersects(sight):
                self._card(painter, rect, card)
        for line in self.board.pairs:
            rect = self._in_view(line.rect)
            if rect.intersects(sight):
                self._pair(painter, rect, line)
        if self._drop is not None:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self.theme.color("clay"))
            painter.drawRoundedRect(self._drop.mark, 1.5, 1.5)
        painter.end()

    def _card(self, painter: QPainter, rect: QRectF, card: TokenCard) -> None:
        theme = self.theme
        current = card.path == self.current
        edge = ("slate" if self.hasFocus() else "ink") if current else "hairline"
        painter.setPen(QPen(theme.color(edge), 2 if current else 1))
        painter.setBrush(theme.color("panel"))
        painter.drawRoundedRect(rect.adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        picture = QRectF(rect.x() + 1.5, rect.y() + 1.5, rect.width() - 3, PICTURE)
        painter.fillRect(picture, theme.color("paper"))
        if card.specimen:
            self._specimens(painter, picture, card)
        elif self._motion(card) is not None:
            self._curve(painter, picture, card)
        self._words(painter, rect, card)

    def _words(self, painter: QPainter, rect: QRectF, card: TokenCard) -> None:
        plain = painter.font()
        painter.setFont(bold(plain))
        painter.setPen(self.theme.color("ink"))
        upper = QRectF(rect.x() + 8, rect.y() + PICTURE + 2, rect.width() - 16, 18)
        draw_line(painter, upper, card.name)
        painter.setFont(plain)
        painter.setPen(self.theme.color("muted"))
        draw_line(painter, upper.translated(0, 17), " · ".join(card.texts))

    def _specimens(self, painter: QPainter, picture: QRectF, card: TokenCard) -> None:
        """What the token is, in each mode that says another beside the usual."""
        token = self._workspace.document.tokens.get(card.path)
        modes = [""]
        if token is not None:
            modes += [m for m in self._workspace.document.modes if m in token.modes]
        wide = picture.width() / len(modes)
        for n, mode in enumerate(modes):
            part = QRectF(picture.x() + n * wide, picture.y(), wide, picture.height())
            self._specimen(painter, part, card, mode)

    def _specimen(self, painter: QPainter, part: QRectF, card: TokenCard, mode: str) -> None:
        document = self.board.document
        if document.mode != mode:
            document = msgspec.structs.replace(document, mode=mode)
        if card.section == "color":
            value = meaning(card.path, lambda each: document.token(each, mode))
            if isinstance(value, Color):
                color = QColor.fromRgbF(value.red, value.green, value.blue, value.alpha)
                painter.fillRect(part, color)
            return
        scene, placed = self._workspace.engine.view(document, card.specimen)
        ratio = self.devicePixelRatioF()
        room = part.adjusted(8, 6, -8, -6)
        zoom = min(
            1.0, room.height() / max(placed.height, 1.0), room.width() / max(placed.width, 1.0)
        )
        painter.save()
        painter.setClipRect(part)
        x = max(room.center().x() - placed.width * zoom / 2, room.x())
        painter.translate(round(x), round(room.center().y() - placed.height * zoom / 2))
        painter.scale(1 / ratio, 1 / ratio)
        QtPainter(painter, self._rasters, zoom * ratio).draw(draw(scene, placed), 0.0, 0.0)
        painter.restore()

    def _curve(self, painter: QPainter, picture: QRectF, card: TokenCard) -> None:
        """How far it is over its time, and where it is now while it runs; on paper, so in the
        light look's colours."""
        motion = self._motion(card)
        if motion is None:
            return
        whole = max(length(motion), 1.0)
        room = picture.adjusted(16, 14, -40, -14)
        path = QPainterPath()
        for n in range(41):
            share = 1.0 - Begun(motion, 0.0).at_time(whole * n / 40).rest
            point = QPointF(room.x() + room.width() * n / 40, room.bottom() - room.height() * share)
            if n:
                path.lineTo(point)
            else:
                path.moveTo(point)
        painter.setPen(QPen(LIGHT.color("muted"), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
        passed = 0.0
        if card.path == self._moving:
            round_s = whole / 1000 + 2 * _REST_S
            passed = min((time.perf_counter() - self._began) % round_s * 1000, whole)
        share = 1.0 - Begun(motion, 0.0).at_time(passed).rest if passed else 0.0
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(LIGHT.color("clay"))
        y = room.bottom() - room.height() * share
        painter.drawEllipse(QPointF(picture.right() - 20, y), 6, 6)
        painter.drawEllipse(QPointF(room.x() + room.width() * passed / whole, y), 3, 3)

    def _pair(self, painter: QPainter, rect: QRectF, line: PairLine) -> None:
        """The ink on its ground in each mode, with the contrast, and the places that have it."""
        document, theme = self._workspace.document, self.theme
        painter.setPen(QPen(theme.color("hairline"), 1))
        painter.setBrush(theme.color("panel"))
        painter.drawRoundedRect(rect.adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        x = rect.x() + 1.5
        for mode, ratio in zip(("", *document.modes), line.ratios, strict=True):
            if ratio is None:
                continue
            ink, ground = (
                meaning(path, lambda each, m=mode: document.token(each, m))  # type: ignore[misc]
                for path in (line.pair.ink, line.pair.ground)
            )
            part = QRectF(x, rect.y() + 1.5, 64, rect.height() - 3)
            painter.fillRect(part, QColor(ground.hex))  # type: ignore[union-attr]  # colours
            painter.setPen(QColor(ink.hex))  # type: ignore[union-attr]  # colours
            painter.drawText(part, Qt.AlignmentFlag.AlignCenter, "Aa")
            x += part.width()
        words = QRectF(x + 10, rect.y(), rect.right() - x - 14, rect.height())
        painter.setPen(theme.color("ink" if line.is_enough else "problem"))
        ink_name, ground_name = (p.rpartition(".")[2] for p in (line.pair.ink, line.pair.ground))
        said = [f"{ratio:.1f} {'✓' if ratio >= ENOUGH else '!'}" for ratio in line.ratios if ratio]
        draw_line(painter, words, f"{ink_name} on {ground_name}   {'  ·  '.join(said)}")
