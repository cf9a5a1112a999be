"""The grid of a component's variants: what stands along rows and columns, and where each cell
lies, in px of the bench.

Only cells in sight are measured before the next frame; those out of sight keep their size until
there is time for them.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import product
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Axis, AxisValue, Component, Document
from outgrowth.core.document.variants import Variant, is_switch, laid, offered
from outgrowth.core.geometry import Rect
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw
from outgrowth.workspace.workspace import Workspace

PAD = 18.0
"""Around each variant in its cell."""
GAP = 6.0
MARGIN = 16.0
HEAD = 26.0
"""The height of the headings of columns."""
# Px: a small part still has room for its handles, and its neighbours are told apart.
_LEAST_CELL = (96.0, 64.0)
# At half its size words of 13 px can just be told from others; what has room is shown large.
_LEAST_FIT = 0.5
_LARGE_FITS = (4.0, 3.5, 3.0, 2.5, 2.0, 1.75, 1.5, 1.25, 1.0)
# By how much larger they must be seen for values to stand below one another.
_WORTH_STACKING = 1.2
# Beside the headings of rows.
_LABEL_ROOM = 28.0
# Variants that are measured before the next frame even if they are out of sight.
_AT_ONCE = 48


class VariantCell(NamedTuple):
    """One variant, where its cell lies, and whether it is offered."""

    variant: Variant
    rect: Rect
    offered: bool


class Heading(NamedTuple):
    """The values that a column or row stands for, where it begins and how long it is; `values`
    are those by the ids of their axis and themselves."""

    names: tuple[str, ...]
    start: float
    length: float
    values: tuple[tuple[str, str], ...]


class VariantCells:
    """The cells of the component on the bench.

    view        gives a variant as it is drawn
    text_width  gives the width of a heading in px
    size        of all cells, with the margin around them, in px
    origin      where they begin, in px: what is small stands in the middle of the bench
    """

    def __init__(
        self,
        workspace: Workspace,
        view: Callable[[Variant], View],
        text_width: Callable[[str], float],
    ) -> None:
        self._workspace = workspace
        self._view = view
        self._text_width = text_width
        self.zoom = 1.0
        self.cells: list[VariantCell] = []
        self.columns: list[Heading] = []
        self.rows: list[Heading] = []
        self.label_width = 0.0
        self.size = (200.0, 120.0)
        self.origin = (0.0, 0.0)
        self._variants: list[Variant] = []
        self._sizes: dict[Variant, tuple[float, float]] = {}
        # Invariant: the variants whose size was measured in another document than the present.
        self._stale: dict[Variant, None] = {}
        self._resized = False
        self._measured: tuple[str, Document | None] = "", None
        self._lines: tuple[object, GridLines] | None = None
        self._arranged: object = None
        self._stacked = False

    @property
    def pending(self) -> bool:
        """Whether cells out of sight are still to be measured."""
        return bool(self._stale)

    def refresh(self, sight: Rect) -> None:
        """Lays the cells out for the document as it is; those in `sight` are measured."""
        component = self._workspace.component
        if component is None:
            return
        lines = self._laid_out(component)
        document = self._workspace.document
        if component.id != self._measured[0]:
            self._sizes = {}
        if component.id != self._measured[0] or document is not self._measured[1]:
            self._stale = dict.fromkeys(self._variants)
            self._measured = component.id, document
        changed = self._measure(self._first(sight))
        arranged = lines, component.not_offered, self.zoom, self.origin
        if changed or arranged != self._arranged:
            self._arrange(component, lines)
            self._arranged = arranged

    def measure_more(self, enough: Callable[[], bool]) -> bool:
        """Measures cells out of sight until it is enough; whether the cells were laid anew."""
        component = self._workspace.component
        while component is not None and self._stale and not enough():
            self._resized |= self._measure([next(iter(self._stale))])
        if component is None or self._stale or not self._resized:
            return False
        self._resized = False
        self._arrange(component, self._laid_out(component))
        return True

    def fitting_zoom(self, width: float, height: float) -> float:
        """The zoom for a room of so many px: larger than life where all fits, else as large as
        the columns fit, half the size at least."""
        if not self.cells:
            return 1.0
        for zoom in _LARGE_FITS:
            across, down = self._extent(zoom)
            if across <= width and (down <= height or zoom == 1.0):
                return zoom
        widths, _ = self._largest()
        fixed = self._extent(1.0)[0] - sum(widths)
        return min(max((width - fixed) / max(sum(widths), 1.0), _LEAST_FIT), 1.0)

    def fit(self, width: float, height: float, sight: Rect) -> float:
        """The zoom for a room of so many px. The values of one axis, unless somebody said how they
        lie, are stacked where that shows them larger."""
        component = self._workspace.component
        may_stack = component is not None and _may_stack(component)
        zooms: list[float] = []
        for stacked in (False, True) if may_stack else (False,):
            self._stacked = stacked
            self.refresh(sight)
            zooms.append(self.fitting_zoom(width, height))
        self._stacked = zooms[-1] > zooms[0] * _WORTH_STACKING
        self.refresh(sight)
        return zooms[-1] if self._stacked else zooms[0]

    def fits(self, width: float, height: float) -> bool:
        """Whether all cells have room in so many px."""
        return self.size[0] <= width and self.size[1] <= height

    def is_in_sight(self, width: float, height: float) -> bool:
        """Whether all cells are in sight where they begin, in a room of so many px."""
        return self.origin[0] + self.size[0] <= width and self.origin[1] + self.size[1] <= height

    def center(self, width: float, height: float) -> None:
        """Puts what is smaller than a room of so many px into its middle."""
        across, down = self.size
        self.origin = max(width - across, 0.0) // 2, max(height - down, 0.0) // 2

    def _largest(self) -> tuple[list[float], list[float]]:
        """The width of the widest in each column, and the height of the highest in each row."""
        count = max(len(self.columns), 1)
        sizes = [self._sizes.get(cell.variant, (0.0, 0.0)) for cell in self.cells]
        widths = [max(width for width, _ in sizes[n::count]) for n in range(count)]
        rows = range(0, len(sizes), count)
        return widths, [max(height for _, height in sizes[n : n + count]) for n in rows]

    def _extent(self, zoom: float) -> tuple[float, float]:
        """How large all cells are at a zoom, with the margin around them."""
        widths, heights = self._largest()
        across = sum(max(_LEAST_CELL[0], width * zoom + 2 * PAD) + GAP for width in widths)
        down = sum(max(_LEAST_CELL[1], height * zoom + 2 * PAD) + GAP for height in heights)
        head = HEAD * any(column.names for column in self.columns)
        return (across - GAP + 2 * MARGIN + self.label_width, down - GAP + 2 * MARGIN + head)

    def cell_of(self, variant: Variant) -> VariantCell | None:
        """The cell of a variant, None where the grid does not show it."""
        return next((cell for cell in self.cells if cell.variant == variant), None)

    def cell_at(self, x: float, y: float) -> VariantCell | None:
        """The cell at a point, None between them."""
        return next((cell for cell in self.cells if cell.rect.contains(x, y)), None)

    def cell_beside(self, variant: Variant, across: int, down: int) -> VariantCell | None:
        """The cell so many columns and rows further; None where there is none."""
        index = next((n for n, cell in enumerate(self.cells) if cell.variant == variant), None)
        if index is None:
            return None
        columns = max(len(self.columns), 1)
        row, column = index // columns + down, index % columns + across
        inside = 0 <= row < len(self.rows) and 0 <= column < columns
        return self.cells[row * columns + column] if inside else None

    def corner_of(self, cell: VariantCell) -> tuple[float, float]:
        """Where the variant's own corner lies: it stands in the middle of its cell."""
        placed = self._view(cell.variant).placed
        x, y = cell.rect.center
        return (
            float(round(x - placed.width * self.zoom / 2)),
            float(round(y - placed.height * self.zoom / 2)),
        )

    def mapped(self, cell: VariantCell, rect: Rect) -> Rect:
        """A rectangle of a variant, where it lies on the bench."""
        x, y = self.corner_of(cell)
        zoom = self.zoom
        return Rect(x + rect.x * zoom, y + rect.y * zoom, rect.width * zoom, rect.height * zoom)

    # --- laying out -------------------------------------------------------------------------

    def _laid_out(self, component: Component) -> GridLines:
        """The grid's lines, worked out anew only where the axes are others."""
        variant = self._workspace.selection.variant
        chips = tuple((axis, variant.get(axis)) for axis in component.chips)
        made_for = component.id, component.axes, component.columns, chips, self._stacked
        if self._lines is None or made_for != self._lines[0]:
            lines = grid_lines(component, variant, self._stacked)
            self._lines = made_for, lines
            self._variants = [variant for line in lines.lines for variant in line]
            self._stale.update(dict.fromkeys(v for v in self._variants if v not in self._sizes))
        return self._lines[1]

    def _first(self, sight: Rect) -> list[Variant]:
        """The variants to be measured at once: all if they are few, else those in sight."""
        if len(self._variants) <= _AT_ONCE:
            return self._variants
        variants = set(self._variants)
        in_sight = [c.variant for c in self.cells if c.variant in variants and c.rect.meets(sight)]
        return [self._workspace.selection.variant, *(in_sight or self._variants[:_AT_ONCE])]

    def _measure(self, variants: list[Variant]) -> bool:
        """Whether any of these variants has another size than before."""
        changed = False
        for variant in variants:
            if variant in self._stale:
                bounds = draw(*self._view(variant)).bounds
                size = bounds.width, bounds.height
                changed = changed or self._sizes.get(variant) != size
                self._sizes[variant] = size
                del self._stale[variant]
        return changed

    def _arrange(self, component: Component, lines: GridLines) -> None:
        usual = next(iter(self._sizes.values()), (0.0, 0.0))
        sizes = [[self._sizes.get(variant, usual) for variant in line] for line in lines.lines]
        widths = [
            max([_LEAST_CELL[0], *(line[n][0] * self.zoom + 2 * PAD for line in sizes)])
            for n in range(len(lines.columns))
        ]
        heights = [
            max([_LEAST_CELL[1], *(height * self.zoom + 2 * PAD for _, height in line)])
            for line in sizes
        ]
        self._place(component, lines, widths, heights)

    def _place(
        self, component: Component, lines: GridLines, widths: list[float], heights: list[float]
    ) -> None:
        words = {name for names in lines.rows for name in names}
        self.label_width = max((self._text_width(w) + _LABEL_ROOM for w in words), default=0.0)
        start_x, start_y = self.origin
        left = start_x + MARGIN + self.label_width
        y = start_y + MARGIN + HEAD * any(lines.columns)
        self.cells, self.columns, self.rows = [], [], []
        for names, values, line, height in zip(
            lines.rows, lines.row_values, lines.lines, heights, strict=True
        ):
            x = left
            self.rows.append(Heading(names, y, height, values))
            for variant, width in zip(line, widths, strict=True):
                rect = Rect(x, y, width, height)
                self.cells.append(VariantCell(variant, rect, offered(component, variant)))
                x += width + GAP
            y += height + GAP
        x = left
        for names, values, width in zip(lines.columns, lines.column_values, widths, strict=True):
            self.columns.append(Heading(names, x, width, values))
            x += width + GAP
        self.size = x - GAP + MARGIN - start_x, y - GAP + MARGIN - start_y


def _may_stack(component: Component) -> bool:
    """Whether the values of one axis may lie below one another as well as side by side."""
    rows, columns, _ = laid(component)
    return component.columns is None and not rows and len(columns) == 1


class GridLines(NamedTuple):
    """The variants of a component as its grid lays them: the values along columns and rows, by
    their names and by the ids of axis and value, and the variants row by row."""

    columns: list[tuple[str, ...]]
    rows: list[tuple[str, ...]]
    lines: list[list[Variant]]
    column_values: list[tuple[tuple[str, str], ...]]
    row_values: list[tuple[tuple[str, str], ...]]


def grid_lines(component: Component, chosen: Variant, stacked: bool = False) -> GridLines:
    """The grid's lines; axes shown one value at a time stand at their value in `chosen`. What lies
    along the columns is below one another if it is `stacked`."""
    row_axes, column_axes, chips = laid(component)
    if stacked:
        row_axes, column_axes = [*row_axes, *column_axes], []
    columns, rows = _along(column_axes), _along(row_axes)
    fixed = Map({axis.id: chosen.get(axis.id, axis.default) for axis in chips})
    return GridLines(
        [_named(column_axes, values) for values in columns],
        [_named(row_axes, values) for values in rows],
        [[fixed.update(row).update(column) for column in columns] for row in rows],
        [_keyed(column_axes, values) for values in columns],
        [_keyed(row_axes, values) for values in rows],
    )


def _keyed(axes: list[Axis], values: Variant) -> tuple[tuple[str, str], ...]:
    return tuple((axis.id, values[axis.id]) for axis in axes)


def _along(axes: list[Axis]) -> list[Variant]:
    every = product(*(axis.values for axis in axes))
    return [Map({a.id: v.id for a, v in zip(axes, values, strict=True)}) for values in every]


def _named(axes: list[Axis], values: Variant) -> tuple[str, ...]:
    chosen = [(axis, axis.value(values[axis.id])) for axis in axes]
    return tuple(heading_text(axis, value) for axis, value in chosen if value is not None)


def heading_text(axis: Axis, value: AxisValue) -> str:
    """What a row or column is called: yes and no need their axis, other values do not."""
    return f"{axis.name}: {value.name}" if is_switch(axis) else value.name
