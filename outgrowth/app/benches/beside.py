"""Components side by side: their pictures at one size, and what they differ in."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QGridLayout, QScrollArea, QWidget

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Component
from outgrowth.core.document.variants import Variant
from outgrowth.core.paint import draw
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.component_description import compared_facts
from outgrowth.workspace.views.overview_cards import (
    CardRoom,
    MeasuredCard,
    measured_card,
)

# Px: of the words beside the lines, and the least and most of a column.
_ASIDE, _LEAST, _MOST = 160, 180, 480
_HIGHEST = 360.0
_GAP, _PAD = 16, 8


class ComponentPicture(QWidget):
    """Every variant of a component, at a zoom that it shares with others."""

    def __init__(
        self,
        workspace: Workspace,
        component: Component,
        rasters: Rasters,
        theme: Theme,
        room: CardRoom,
    ) -> None:
        super().__init__()
        self._workspace = workspace
        self._component = component
        self._rasters = rasters
        self.theme = theme
        self.card: MeasuredCard = measured_card(component, self._size, room)
        self.shrunk = 1.0
        self.setAccessibleName(f"{component.name}, every variant")

    def _size(self, variant: Variant) -> tuple[float, float]:
        document = self._workspace.document
        placed = self._workspace.engine.view(document, self._component.id, variant).placed
        return placed.width, placed.height

    def show_shrunk(self, by: float) -> None:
        """Draws it so much smaller than its card, so that all stand at one zoom."""
        self.shrunk = by
        size = self.card.width * by + 2 * _PAD, self.card.height * by + 2 * _PAD
        self.setFixedSize(QSize(round(size[0]), round(size[1])))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.theme.color("hairline"), 1))
        painter.setBrush(self.theme.color("paper"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)
        ratio = self.devicePixelRatioF()
        zoom = self.card.zoom * self.shrunk * ratio
        for shown in self.card.variants:
            document = self._workspace.document
            if self._component.id not in document.components:
                break
            view = self._workspace.engine.view(document, self._component.id, shown.variant)
            painter.save()
            painter.translate(
                round(_PAD + shown.rect.x * self.shrunk), round(_PAD + shown.rect.y * self.shrunk)
            )
            painter.scale(1 / ratio, 1 / ratio)
            QtPainter(painter, self._rasters, zoom).draw(draw(*view), 0.0, 0.0)
            painter.restore()
        painter.end()


class BesideView(QScrollArea):
    """A column a component: its name, its variants, and a line for each fact; where they differ
    the line says so with a mark."""

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._rasters = rasters
        self._theme = theme
        self._ids: tuple[str, ...] = ()
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Components beside each other")

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.refresh()

    def show_components(self, ids: Sequence[str]) -> None:
        """Compares these."""
        self._ids = tuple(ids)
        self.refresh()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if event is not None and event.size().width() != event.oldSize().width():
            self.refresh()

    def refresh(self) -> None:
        """Compares them as they are now; what is gone is left out."""
        found = (self._workspace.document.components.get(i) for i in self._ids)
        components = [component for component in found if component is not None]
        body = QWidget()
        dress(body, "panel")
        grid = QGridLayout(body)
        grid.setContentsMargins(16, 12, 16, 24)
        grid.setHorizontalSpacing(_GAP)
        grid.setVerticalSpacing(6)
        wide = (self.width() - _ASIDE) // max(len(components), 1) - _GAP
        column = min(max(wide, _LEAST), _MOST)
        room = CardRoom(float(column - 2 * _PAD), _HIGHEST, 0.0, 0.0)
        pictures = [
            ComponentPicture(self._workspace, each, self._rasters, self._theme, room)
            for each in components
        ]
        zoom = min((picture.card.zoom for picture in pictures), default=1.0)
        for n, (component, picture) in enumerate(zip(components, pictures, strict=True), 1):
            grid.addWidget(builders.label(component.name, weight="bold", plain=True), 0, n)
            grid.setColumnMinimumWidth(n, column)
            picture.show_shrunk(zoom / picture.card.zoom)
            grid.addWidget(picture, 1, n, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
        facts = compared_facts(self._workspace.document, self._workspace.engine, components)
        facts.sort(key=lambda fact: not fact.differs)
        for line, fact in enumerate(facts, 2):
            mark = "≠  " if fact.differs else "=  "
            grid.addWidget(builders.label(f"{mark}{fact.label}", tone="muted", plain=True), line, 0)
            for n, text in enumerate(fact.texts, 1):
                tone = "" if fact.differs else "muted"
                words = builders.label(text, tone=tone, wrap=True, plain=True)
                words.setAlignment(Qt.AlignmentFlag.AlignTop)
                grid.addWidget(words, line, n)
        grid.setColumnStretch(len(components) + 1, 1)
        grid.setRowStretch(len(facts) + 3, 1)
        old = self.takeWidget()
        if old is not None:
            old.deleteLater()
        self.setWidget(body)
