"""What can be pulled on a bench: the sides, the padding, the gap and the corners of the part
that is selected. Each handle writes one property, or two, and says its number meanwhile."""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen
from PyQt6.QtWidgets import QWidget

from outgrowth.app.theme import Theme
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.values import (
    GridTrack,
    Size,
    Tracks,
    Value,
    fixed,
    is_repeated,
    is_tracks,
)
from outgrowth.core.layout.grid import Lines
from outgrowth.core.resolve.ladder import Inspection
from outgrowth.workspace.views.length_format import length_text

# Px on the screen within which a side is taken hold of.
_REACH = 5.0
# Px on the screen that a part must have for its inner handles to be shown.
_LEAST = 40.0


class Handle(NamedTuple):
    """One thing to pull.

    zone      where it is taken, in the widget
    mark      what is drawn of it
    names     the properties it sets
    start     the number it starts from, in the document's px
    turn      what a pull of one px across and one px down adds to the number
    size      whether it sets sizes rather than plain numbers
    label     what stands beside the pointer before the number
    shares    which of the sizes are in per cent
    track     which column or row of its grid it sets
    """

    zone: QRectF
    mark: QRectF
    names: tuple[str, ...]
    start: tuple[float, ...]
    turn: tuple[tuple[float, float], ...]
    size: bool
    label: str
    cursor: Qt.CursorShape
    shares: tuple[bool, ...] = ()
    track: tuple[Tracks, int] | None = None

    def values(self, dx: float, dy: float) -> dict[str, Value]:
        """What a pull by this many px of the document sets."""
        found: dict[str, Value] = {}
        shares = self.shares or (False,) * len(self.names)
        parts = zip(self.names, self.start, self.turn, shares, strict=True)
        for name, start, (across, down), share in parts:
            number = float(max(round(start + across * dx + down * dy), 0.0))
            if self.track is not None:
                tracks, n = self.track
                found[name] = (*tracks[:n], _pulled(tracks[n], number), *tracks[n + 1 :])
            elif self.size:
                found[name] = Size("percent", number) if share else fixed(number)
            else:
                found[name] = number
        return found

    def label_for(self, values: dict[str, Value]) -> str:
        """What stands beside the pointer for these values."""
        if self.track is not None:
            tracks, n = next(iter(values.values())), self.track[1]
            return f"{self.label} {length_text(tracks[n])}" if is_tracks(tracks) else self.label
        sizes = [v if isinstance(v, Size) else fixed(v) for v in values.values()]  # type: ignore[arg-type]  # numbers
        distinct = list(dict.fromkeys(map(length_text, sizes)))
        return f"{self.label} {' × '.join(distinct)}"


def _pulled(track: Size, px: float) -> Size:
    """A column or row that was pulled to so many px: of one that is repeated that is its least."""
    if not is_repeated(track):
        return fixed(px)
    least = fixed(max(px, 1.0))
    if track.mode in ("fixed", "percent"):
        return GridTrack("fixed", least.amount, "", None, track.repeat)
    return GridTrack(track.mode, track.amount, "", least, track.repeat)


def handles(
    inspection: Inspection, rect: QRectF, children: list[QRectF], zoom: float
) -> list[Handle]:
    """The handles of a part that lies at `rect` in the widget; `children` likewise."""
    all_handles = _sides(inspection, rect, zoom)
    roomy = min(rect.width(), rect.height()) >= _LEAST
    if inspection.node.kind == "box" and roomy:
        all_handles += _paddings(inspection, rect, zoom)
        all_handles += _radius(inspection, rect, zoom)
        all_handles += _gap(inspection, children, zoom)
    return all_handles


def _sides(inspection: Inspection, rect: QRectF, zoom: float) -> list[Handle]:
    """The right and the lower side, and their corner; a share of the holder stays one."""
    starts, turns, shares = [], [], []
    for name, px in (("width", rect.width() / zoom), ("height", rect.height() / zoom)):
        size = inspection.value(name)
        share = isinstance(size, Size) and size.mode == "percent" and size.amount > 0 and px > 0
        starts.append(size.amount if share and isinstance(size, Size) else px)
        turns.append(starts[-1] / px if share else 1.0)
        shares.append(share)
    wide, high = (starts[0],), (starts[1],)
    across, down = (turns[0], 0.0), (0.0, turns[1])
    by_width, by_height = (shares[0],), (shares[1],)
    right = QRectF(rect.right() - 1, rect.top(), 2 * _REACH, rect.height())
    below = QRectF(rect.left(), rect.bottom() - 1, rect.width(), 2 * _REACH)
    corner = QRectF(rect.right() - 1, rect.bottom() - 1, 2.5 * _REACH, 2.5 * _REACH)
    shape = Qt.CursorShape
    none = QRectF()
    return [
        Handle(
            corner,
            none,
            ("width", "height"),
            wide + high,
            (across, down),
            True,
            "size",
            shape.SizeFDiagCursor,
            by_width + by_height,
        ),
        Handle(
            right, none, ("width",), wide, (across,), True, "width", shape.SizeHorCursor, by_width
        ),
        Handle(
            below, none, ("height",), high, (down,), True, "height", shape.SizeVerCursor, by_height
        ),
    ]


def _number(inspection: Inspection, name: str) -> float:
    value = inspection.value(name)
    return value if isinstance(value, float) else 0.0


def _paddings(inspection: Inspection, rect: QRectF, zoom: float) -> list[Handle]:
    """A short bar in the middle of each side's padding, clear of the edge and the content."""
    results = []
    middle = rect.center()
    for side, (x, y), turn in (
        ("left", (0, 0.5), (1, 0)),
        ("right", (1, 0.5), (-1, 0)),
        ("top", (0.5, 0), (0, 1)),
        ("bottom", (0.5, 1), (0, -1)),
    ):
        name = f"padding-{side}"
        amount = _number(inspection, name)
        inset = max(amount * zoom / 2, 4.0)
        flat = turn[0] == 0
        if flat:
            point = QPointF(middle.x(), rect.top() + inset if y == 0 else rect.bottom() - inset)
            mark = QRectF(point.x() - 7, point.y() - 1.5, 14, 3)
            cursor = Qt.CursorShape.SizeVerCursor
        else:
            point = QPointF(rect.left() + inset if x == 0 else rect.right() - inset, middle.y())
            mark = QRectF(point.x() - 1.5, point.y() - 7, 3, 14)
            cursor = Qt.CursorShape.SizeHorCursor
        zone = mark.adjusted(-3, -3, 3, 3)
        results.append(Handle(zone, mark, (name,), (amount,), (turn,), False, "padding", cursor))
    return results


def _radius(inspection: Inspection, rect: QRectF, zoom: float) -> list[Handle]:
    """A dot on the diagonal of the first corner: it rounds all four."""
    names = FAMILY_MEMBERS["radius"]
    amount = _number(inspection, names[0])
    away = max(amount * zoom, 9.0)
    point = QPointF(rect.left() + away, rect.top() + away)
    mark = QRectF(point.x() - 3, point.y() - 3, 6, 6)
    turn = ((0.5, 0.5),) * 4
    cursor = Qt.CursorShape.SizeFDiagCursor
    zone = mark.adjusted(-2, -2, 2, 2)
    return [Handle(zone, mark, names, (amount,) * 4, turn, False, "radius", cursor)]


def _gap(inspection: Inspection, children: list[QRectF], zoom: float) -> list[Handle]:
    """A bar between the first two children of a flowing box."""
    flow = inspection.value("flow")
    if flow not in ("row", "column") or len(children) < 2:
        return []
    first, second = children[0], children[1]
    amount = _number(inspection, "gap")
    if flow == "row":
        x = (first.right() + second.left()) / 2
        mark = QRectF(x - 1.5, first.center().y() - 7, 3, 14)
        turn, cursor = (1.0, 0.0), Qt.CursorShape.SizeHorCursor
    else:
        y = (first.bottom() + second.top()) / 2
        mark = QRectF(first.center().x() - 7, y - 1.5, 14, 3)
        turn, cursor = (0.0, 1.0), Qt.CursorShape.SizeVerCursor
    zone = mark.adjusted(-3, -3, 3, 3)
    return [Handle(zone, mark, ("gap",), (amount,), (turn,), False, "gap", cursor)]


def track_handles(
    inspection: Inspection, rect: QRectF, lines: tuple[Lines, Lines], zoom: float
) -> list[Handle]:
    """A bar at the end of each column and row that is listed, on the grid's own edge: pulled, it
    gives that one so many px."""
    results = []
    for name, ends, across in (("columns", lines[0], True), ("rows", lines[1], False)):
        tracks = inspection.value(name)
        if not is_tracks(tracks) or inspection.value("mirrored") is True:
            continue
        # Behind one that is repeated nobody knows which is which.
        known = next((n + 1 for n, t in enumerate(tracks) if is_repeated(t)), len(tracks))
        for n, (start, end) in enumerate(ends[:known]):
            if across:
                mark = QRectF(rect.left() + end * zoom - 1.5, rect.top() - 4, 3, 10)
                turn, cursor = (1.0, 0.0), Qt.CursorShape.SizeHorCursor
            else:
                mark = QRectF(rect.left() - 4, rect.top() + end * zoom - 1.5, 10, 3)
                turn, cursor = (0.0, 1.0), Qt.CursorShape.SizeVerCursor
            zone, label = mark.adjusted(-3, -3, 3, 3), f"{name.removesuffix('s')} {n + 1}:"
            size = (end - start,)
            results.append(
                Handle(zone, mark, (name,), size, (turn,), True, label, cursor, (), (tracks, n))
            )
    return results


def draw_tracks(
    painter: QPainter, rect: QRectF, lines: tuple[Lines, Lines], zoom: float, theme: Theme
) -> None:
    """Where a grid's columns and rows part: thin dashes in the middle of its gaps."""
    painter.save()
    ink = theme.color("slate")
    ink.setAlpha(150)
    pen = QPen(ink, 1, Qt.PenStyle.DashLine)
    pen.setDashPattern([2.0, 4.0])
    painter.setPen(pen)
    columns, rows = lines
    for (_, end), (start, _) in pairwise(columns):
        x = rect.left() + (end + start) / 2 * zoom
        painter.drawLine(QPointF(x, rect.top()), QPointF(x, rect.bottom()))
    for (_, end), (start, _) in pairwise(rows):
        y = rect.top() + (end + start) / 2 * zoom
        painter.drawLine(QPointF(rect.left(), y), QPointF(rect.right(), y))
    painter.restore()


def draw_handles(painter: QPainter, shown_handles: list[Handle], theme: Theme) -> None:
    """Their marks: ink on paper, so that they stand off any fill."""
    painter.save()
    for handle in shown_handles:
        if handle.mark.isEmpty():
            continue
        painter.setPen(QPen(theme.color("panel"), 1))
        painter.setBrush(theme.color("ink"))
        if handle.label == "radius":
            painter.drawEllipse(handle.mark)
        else:
            painter.drawRoundedRect(handle.mark, 1.5, 1.5)
    painter.restore()


def draw_number(painter: QPainter, point: QPointF, text: str, theme: Theme) -> None:
    """A number or a few words beside the pointer, in sight as a whole where there is room."""
    room = painter.fontMetrics().horizontalAdvance(text) + 12
    box = QRectF(point.x() + 14, point.y() + 12, room, 20)
    device = painter.device()
    if isinstance(device, QWidget):
        sight = QRectF(device.visibleRegion().boundingRect()).adjusted(4, 4, -4, -4)
        box.moveRight(min(box.right(), sight.right()))
        box.moveLeft(max(box.left(), sight.left()))
        if box.bottom() > sight.bottom():
            box.moveBottom(point.y() - 8)
    painter.save()
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("ink"))
    painter.drawRoundedRect(box, 3, 3)
    painter.setPen(theme.color("panel"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
    painter.restore()
