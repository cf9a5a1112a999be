"""The variant grid in its scrolling frame, with the chips above it."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QWidget

from outgrowth.app.benches.grid import VariantGrid
from outgrowth.app.benches.pen import Pen
from outgrowth.app.benches.room_ruler import RoomRulers
from outgrowth.app.fields.choice import Segments
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Axis, Component
from outgrowth.core.document.variants import laid
from outgrowth.workspace import Workspace


class GridBench(QWidget):
    """The variant grid in its scrolling frame; above it, for each axis of which it shows one
    value at a time, the values to choose from."""

    zoomed = pyqtSignal()

    def __init__(
        self,
        workspace: Workspace,
        rasters: Rasters,
        theme: Theme,
        pen: Pen,
        only_shown: bool = False,
    ) -> None:
        super().__init__()
        self.grid = VariantGrid(workspace, rasters, theme, pen, only_shown)
        if only_shown:
            self.grid.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            self.grid.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.frame = builders.scroll_area(self.grid)
        self.strip = QWidget()
        dress(self.strip, "panel", "bottom")
        self._chips = builders.row(self.strip, (12, 4, 12, 4), 6)
        self.chips: dict[str, Segments] = {}
        column = builders.column(self)
        self.rulers = RoomRulers(workspace, theme)
        if not only_shown:
            column.addWidget(self.rulers)
        column.addWidget(self.strip)
        column.addWidget(self.frame, 1)
        self._workspace = workspace
        self._shown_owner = ""
        self._fitted = 1.0
        self._axes: object = None
        self._chip_axes: list[Axis] = []
        self.strip.hide()
        workspace.selection_changed.connect(self._opened)
        workspace.selection_changed.connect(self._show_chips)
        workspace.panels_due.connect(self._show_chips)
        workspace.panels_due.connect(self._outgrown)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        # Another component may have been opened while the grid was out of sight, where nobody
        # asks how large it is.
        self.grid.updateGeometry()

    def _opened(self) -> None:
        """Another component begins at a zoom at which its variants are in sight."""
        owner = self._workspace.selection.owner
        if owner != self._shown_owner and self._workspace.component is not None:
            self._shown_owner = owner
            self._axes = _axes_of(self._workspace.component)
            self.fit()

    def _show_chips(self) -> None:
        component = self._workspace.component
        axes = laid(component)[2] if component is not None else []
        if axes != self._chip_axes:
            self._chip_axes = axes
            self._make_chips(axes)
        for axis in axes:
            self.chips[axis.id].show_value(self._workspace.selection.variant.get(axis.id))

    def _make_chips(self, axes: list[Axis]) -> None:
        while (item := self._chips.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.chips = {}
        for axis in axes:
            lead = builders.label(axis.name, tone="muted")
            chip = Segments([(v.id, v.name) for v in axis.values], f"Shown: {axis.name}")
            chip.edited.connect(partial(self._choose, axis.id))
            self.chips[axis.id] = chip
            self._chips.addWidget(lead)
            self._chips.addWidget(chip)
        self._chips.addStretch()
        self.strip.setVisible(bool(axes))

    def _choose(self, axis_id: str, value: str) -> None:
        selection = self._workspace.selection
        self._workspace.select(selection.path, selection.variant.set(axis_id, value))

    def fit(self) -> None:
        """All columns in sight, as large as that goes."""
        viewport = self.frame.viewport()
        if viewport is not None and viewport.width() > 200:
            self.grid.fit(viewport.width(), viewport.height())
            self._fitted = self.grid.zoom
            self.zoomed.emit()

    def _outgrown(self) -> None:
        """What has other axes now, or was shown large and has grown out of the bench, is shown
        whole again, unless somebody looks at it otherwise; what has room is never half out."""
        component = self._workspace.component
        if component is None or self.grid.gestures.busy:
            return
        before, self._axes = self._axes, _axes_of(component)
        if self.grid.zoom != self._fitted:
            return
        room = self.frame.width(), self.frame.height()
        if self._axes != before or (self._fitted > 1.0 and not self.grid.laid.fits(*room)):
            self.fit()
        elif self.grid.laid.fits(*room) and not self.grid.laid.is_in_sight(*room):
            self.grid.center()

    def look_at_selection(self) -> None:
        """The selected variant as large as it fits, in sight."""
        viewport, cell = self.frame.viewport(), self.grid.selected_cell()
        if viewport is None or cell is None:
            return
        placed = self.grid.view(cell.variant).placed
        room = viewport.width() - 80, viewport.height() - 120
        zoom = min(room[0] / max(placed.width, 1.0), room[1] / max(placed.height, 1.0), 8.0)
        self.grid.set_zoom(max(zoom, 0.25))
        result = self.grid.selected_cell()
        if result is not None:
            x, y = result.rect.center
            half = viewport.width() // 2, viewport.height() // 2
            self.frame.ensureVisible(round(x), round(y), *half)
        self.zoomed.emit()


def _axes_of(component: Component) -> object:
    """What decides how many cells there are, and how they lie."""
    return tuple((axis.id, len(axis.values)) for axis in component.axes), component.columns
