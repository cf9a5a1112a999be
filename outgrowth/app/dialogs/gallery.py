"""A gallery of components, to choose what an instance follows or a slot holds: pictures, search,
the shortlist first. Stepping shows each on the bench before one is taken."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRectF, Qt
from PyQt6.QtGui import QHideEvent, QIcon, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QCheckBox, QWidget

from outgrowth.app.dialogs.chooser import Chooser, ChooserOption
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.thumbnail import draw_thumbnail
from outgrowth.app.theme import Theme
from outgrowth.workspace import Workspace
from outgrowth.workspace.text_search import has_words
from outgrowth.workspace.views.fillings import Fillings, GalleryEntry, with_listed

_SIDE = 72


class Gallery(Chooser):
    """Opens over the window; nothing is changed until something is taken."""

    def __init__(
        self, parent: QWidget, workspace: Workspace, rasters: Rasters, theme: Theme
    ) -> None:
        super().__init__(parent, "Components", "Search by name or folder", _SIDE, 4, 2)
        self.theme = theme
        self._workspace = workspace
        self._rasters = rasters
        self._fillings: Fillings | None = None
        self.listed = QCheckBox("on the shortlist: offered first")
        self.listed.setAccessibleName("On the shortlist")
        layout = self.layout()
        assert layout is not None
        layout.addWidget(self.listed)
        self.listed.clicked.connect(self._list)
        self.list.currentRowChanged.connect(self._stepped)
        self.chosen.connect(self._take)
        self.setFixedHeight(440)

    def begin(self, fillings: Fillings, point: QPoint) -> None:
        """Opens with what can stand somewhere, its top middle at a point of the screen."""
        self._fillings = None
        self.listed.setVisible(fillings.slot is not None)
        self.ask(self._options, point, f"{fillings.subject} …  Arrows try each, Enter takes it.")
        self._fillings = fillings
        self._fill("")

    # --- what is offered -----------------------------------------------------------------------

    def _options(self, text: str) -> list[ChooserOption]:
        fillings = self._fillings
        rows = fillings.rows if fillings is not None else ()
        found = (row for row in rows if has_words(f"{row.name} {row.folder}", text))
        return [ChooserOption(_name(row), self._picture(row), row.component) for row in found]

    def _fill(self, text: str) -> None:
        blocked = self.list.blockSignals(True)
        super()._fill(text)
        fillings = self._fillings
        if fillings is not None and not text:
            rows = [row.component for row in fillings.rows]
            if fillings.chosen in rows:
                self.list.setCurrentRow(rows.index(fillings.chosen))
        self.list.blockSignals(blocked)
        self._mark()

    def _picture(self, row: GalleryEntry) -> QIcon:
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(round(_SIDE * ratio), round(_SIDE * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rect = QRectF(0.5, 0.5, _SIDE - 1, _SIDE - 1)
        painter.setPen(QPen(self.theme.color("hairline"), 1))
        painter.setBrush(self.theme.color("paper"))
        painter.drawRoundedRect(rect, 3, 3)
        workspace = self._workspace
        if row.component in workspace.document.components:
            view = workspace.engine.view(workspace.document, row.component)
            draw_thumbnail(painter, view, rect, self._rasters, ratio, 6)
        painter.end()
        made = QIcon(pixmap)
        made.addPixmap(pixmap, QIcon.Mode.Selected)  # what is looked at keeps its colours
        return made

    # --- trying and taking ---------------------------------------------------------------------

    @property
    def current(self) -> str | None:
        """The component that is looked at; None for none."""
        item = self.list.currentItem()
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else None

    def _stepped(self, row: int) -> None:
        """Shows on the bench what it would be."""
        component = self.current
        if self._fillings is not None and component is not None and self.isVisible():
            self._workspace.drag(self._fillings.edit(component))
        self._mark()

    def _mark(self) -> None:
        rows = self._fillings.rows if self._fillings is not None else ()
        current = next((row for row in rows if row.component == self.current), None)
        self.listed.setEnabled(current is not None and bool(current.component))
        self.listed.setChecked(current is not None and current.listed)

    def _list(self, on: bool) -> None:
        fillings, component = self._fillings, self.current
        if fillings is None or not component:
            return
        self._workspace.cancel_drag()
        self._fillings = with_listed(self._workspace, fillings, component, on)._replace(
            chosen=component
        )
        self._fill(self.field.text())
        self.field.setFocus()

    def _take(self, component: object) -> None:
        fillings = self._fillings
        self._workspace.cancel_drag()
        if fillings is not None:
            fillings.take(str(component))

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Whatever was tried and not taken was nothing."""
        super().hideEvent(event)
        self._workspace.cancel_drag()


def _name(row: GalleryEntry) -> str:
    name = f"✓ {row.name}" if row.listed and row.component else row.name
    return f"{name}\n{row.folder}" if row.folder else name
