"""The headings of the variant grid, as something to hold: a value is renamed where it stands,
pulled into another order, and marked as the one that its axis starts with."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from PyQt6 import sip
from PyQt6.QtCore import QPointF, QRect, QRectF
from PyQt6.QtGui import QFontMetricsF, QPainter
from PyQt6.QtWidgets import QMenu, QWidget

from outgrowth.app.fields.name_line import NameLine
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.icons import draw_flag
from outgrowth.core.document.records import Axis, AxisValue, Component
from outgrowth.core.edits.variants.driving import parts_of_axis
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import axis_commands, variant_commands
from outgrowth.workspace.commands.axis_commands import PART_WORDS
from outgrowth.workspace.views.variant_cells import HEAD, MARGIN, Heading, VariantCells

_BETWEEN = " · "
# Px that a pointer may shake before it pulls.
_SHAKE = 5.0


class HeadingSegment(NamedTuple):
    """One value in a heading: its axis and itself by their ids, its words, and where these lie;
    whether nothing follows it in its line."""

    axis: str
    value: str
    text: str
    rect: QRectF
    along_columns: bool
    is_last: bool


class Headings:
    """The headings of one grid; `widget` is what they are drawn on."""

    def __init__(self, widget: QWidget, workspace: Workspace, laid: VariantCells) -> None:
        self._widget = widget
        self._workspace = workspace
        self._laid = laid
        self._pressed: tuple[HeadingSegment, QPointF] | None = None
        self._target: int | None = None
        self._line: NameLine | None = None
        # Invariant: the lists of headings that the segments were made for.
        self._made_for: tuple[list[Heading], list[Heading]] | None = None
        self._made: list[HeadingSegment] = []

    # --- where they are ---------------------------------------------------------------------

    def segments(self) -> list[HeadingSegment]:
        """All values in all headings, where they stand; worked out anew as they are laid anew."""
        laid = self._laid.columns, self._laid.rows
        if self._made_for is None or any(
            a is not b for a, b in zip(laid, self._made_for, strict=True)
        ):
            self._made_for, self._made = laid, list(self._segments())
        return self._made

    def _segments(self) -> Iterator[HeadingSegment]:
        font = self._widget.font()
        font.setBold(True)
        metrics = QFontMetricsF(font)
        top = self._laid.origin[1] + MARGIN - 6
        for heading in self._laid.columns:
            x = heading.start + 2
            for n, (axis, value, text) in enumerate(self._named(heading), 1):
                width = min(metrics.horizontalAdvance(text), heading.start + heading.length - x)
                rect = QRectF(x, top, max(width, 8.0), HEAD)
                yield HeadingSegment(axis, value, text, rect, True, n == len(heading.names))
                x += width + metrics.horizontalAdvance(_BETWEEN)
        left = self._laid.origin[0] + MARGIN
        for heading in self._laid.rows:
            named = list(self._named(heading))
            high = metrics.lineSpacing()
            y = heading.start + (heading.length - high * len(named)) / 2
            for axis, value, text in named:
                rect = QRectF(left, y, metrics.horizontalAdvance(text), high)
                yield HeadingSegment(axis, value, text, rect, False, True)
                y += high

    @staticmethod
    def _named(heading: Heading) -> Iterator[tuple[str, str, str]]:
        for (axis, value), text in zip(heading.values, heading.names, strict=True):
            yield axis, value, text

    def _starts(self, axis_id: str, value_id: str) -> bool:
        component = self._workspace.component
        axis = component.axis(axis_id) if component is not None else None
        return axis is not None and axis.default == value_id and len(axis.values) > 1

    def at(self, point: QPointF) -> HeadingSegment | None:
        """The value under a point; None for none."""
        around = (s for s in self.segments() if s.rect.adjusted(-4, -2, 14, 2).contains(point))
        return next(around, None)

    def _found(self, segment: HeadingSegment) -> tuple[Component, Axis, AxisValue] | None:
        component = self._workspace.component
        axis = component.axis(segment.axis) if component is not None else None
        value = axis.value(segment.value) if axis is not None else None
        if component is None or axis is None or value is None:
            return None
        return component, axis, value

    # --- drawing ------------------------------------------------------------------------------

    def draw_flags(self, painter: QPainter, theme: Theme) -> None:
        """A small flag behind each value that an axis starts with, and where a pulled one goes."""
        for segment in self.segments():
            # Between two names of one heading there is no room for a flag.
            if segment.is_last and self._starts(segment.axis, segment.value):
                place = QPointF(segment.rect.right() + 5, segment.rect.center().y() - 5)
                draw_flag(painter, place, theme.color("muted"), True, 0.75)
        mark = self._mark()
        if mark is not None:
            painter.fillRect(mark, theme.color("clay"))

    def _mark(self) -> QRectF | None:
        """Where a value that is pulled would be put."""
        if self._pressed is None or self._target is None:
            return None
        others = self._row_of(self._pressed[0])
        rects = [segment.rect for segment in others]
        along = self._pressed[0].along_columns
        if self._target < len(rects):
            edge = rects[self._target]
            at = edge.left() - 6 if along else edge.top() - 4
        else:
            edge = rects[-1]
            at = edge.right() + 8 if along else edge.bottom() + 2
        return QRectF(at, edge.top(), 3, edge.height()) if along else QRectF(edge.left(), at, 80, 3)

    def _row_of(self, pulled: HeadingSegment) -> list[HeadingSegment]:
        """The other values of an axis, each where it first stands."""
        first: dict[str, HeadingSegment] = {}
        for segment in self.segments():
            if segment.axis == pulled.axis and segment.value != pulled.value:
                first.setdefault(segment.value, segment)
        return list(first.values())

    # --- by hand ------------------------------------------------------------------------------

    def press(self, point: QPointF) -> bool:
        """Takes hold of a value; whether there is one."""
        segment = self.at(point)
        self._pressed = (segment, point) if segment is not None else None
        self._target = None
        return segment is not None

    @property
    def busy(self) -> bool:
        """Whether a value is held."""
        return self._pressed is not None

    def pull(self, point: QPointF) -> None:
        """Pulls what is held."""
        if self._pressed is None:
            return
        segment, start = self._pressed
        if self._target is None and (point - start).manhattanLength() < _SHAKE:
            return
        others = self._row_of(segment)
        if segment.along_columns:
            self._target = sum(point.x() > other.rect.center().x() for other in others)
        else:
            self._target = sum(point.y() > other.rect.center().y() for other in others)
        self._widget.update()

    def release(self) -> None:
        """Puts what was pulled where it is."""
        pressed, target = self._pressed, self._target
        self._pressed = self._target = None
        self._widget.update()
        found = self._found(pressed[0]) if pressed is not None else None
        if found is not None and target is not None:
            axis_commands.move_value(self._workspace, *found, target)

    def rename(self, point: QPointF) -> bool:
        """Opens a field over the value under a point; whether there is one."""
        segment = self.at(point)
        found = self._found(segment) if segment is not None else None
        self._pressed = self._target = None
        if segment is None or found is None:
            return False
        self.end_naming()
        about = f"Name of {found[2].name} of {found[1].name}"
        line = NameLine(self._widget, about, found[2].name, partial(self._named_as, segment))
        wide = max(round(segment.rect.width()) + 40, 90)
        left, top = round(segment.rect.x()) - 8, round(segment.rect.center().y()) - 13
        line.show_at(QRect(left, top, wide, 26))
        self._line = line
        return True

    def _named_as(self, segment: HeadingSegment, name: str) -> None:
        found = self._found(segment)
        if found is not None and name != found[2].name:
            axis_commands.rename_value(self._workspace, *found, name)

    def end_naming(self) -> None:
        """Takes the field away."""
        line, self._line = self._line, None
        if line is not None and not sip.isdeleted(line):
            line.finish()

    def menu(self, point: QPointF) -> QMenu | None:
        """What can be done with the value under a point; None for none."""
        segment = self.at(point)
        found = self._found(segment) if segment is not None else None
        if found is None:
            return None
        workspace, (component, axis, value) = self._workspace, found
        menu = QMenu(self._widget)
        builders.menu_entry(menu, "Rename", lambda: self.rename(point))
        parts = parts_of_axis(axis)
        inner = menu.addMenu("It stands for") if parts else None
        for part in parts:
            stand = partial(axis_commands.stand_for, workspace, *found, part)
            builders.menu_entry(inner, PART_WORDS[part], stand)
        for text, act in variant_commands.value_acts(workspace, component, axis, value):
            builders.menu_entry(menu, text, act)
        return menu
