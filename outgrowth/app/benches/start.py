"""What stands on the bench while nothing does: ways to begin. A starter is an ordinary
component, copied into the file, and can be taken apart freely."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path as FilePath

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QToolButton,
    QWidget,
)

from outgrowth.app.paint import Rasters
from outgrowth.app.paint.thumbnail import draw_thumbnail
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.exchange.native.disk import called
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import library_commands
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.starters import STARTERS, Starter, starters

# Px of a starter's picture; three of them fill the bench at 1280 px.
_PICTURE = QSize(148, 84)
_COLUMNS = 3


class StartBench(QScrollArea):
    """Rebuilt each time it comes into sight: the files that were open may be others.

    action_asked(str)  an action of the window, by its id
    opened(str)        a file to be opened
    """

    action_asked = pyqtSignal(str)
    opened = pyqtSignal(str)

    def __init__(
        self,
        workspace: Workspace,
        engine: Engine,
        theme: Theme,
        recent: Callable[[], list[FilePath]],
    ) -> None:
        super().__init__()
        self._workspace = workspace
        self._engine = engine
        self._theme = theme
        self._recent = recent
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Ways to begin")
        self.starters: dict[str, QToolButton] = {}

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        if self.isVisible():
            self.build()

    def build(self) -> None:
        """Makes the page anew."""
        body = QWidget()
        dress(body, "panel")
        page = builders.column(body, (36, 28, 36, 28), 8)
        page.addWidget(_heading("Draw something of your own"))
        row = QHBoxLayout()
        for name, action in (
            ("New component", "new-component"),
            ("New screen …", "new-screen"),
            ("Take the tour", "tour"),
        ):
            row.addWidget(self._button(name, partial(self.action_asked.emit, action)))
        row.addStretch()
        page.addLayout(row)
        page.addSpacing(16)
        page.addWidget(_heading("Or begin with a part that works"))
        page.addWidget(_muted("Each becomes an ordinary component of this file."))
        page.addLayout(self._cards())
        files = self._recent()
        if files:
            page.addSpacing(16)
            page.addWidget(_heading("Or go on with a file"))
            for path in files[:5]:
                button = self._button(called(path), partial(self.opened.emit, str(path)))
                button.setToolTip(str(path))
                line = QHBoxLayout()
                line.addWidget(button)
                line.addStretch()
                page.addLayout(line)
        page.addStretch()
        self.setWidget(body)

    def _button(self, name: str, command: Callable[[], object]) -> QPushButton:
        return builders.push_button(name, lambda: command(), look="firm")

    def _cards(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(12)
        rasters = Rasters(lambda: starters().assets)
        self.starters = {}
        for n, starter in enumerate(STARTERS):
            button = builders.tool_button(look="card")
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
            button.setText(f"{starter.name}\n{starter.about}")
            button.setAccessibleName(f"Begin with {starter.name}: {starter.about}")
            button.setIconSize(_PICTURE)
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
            button.setIcon(QIcon(self._picture(starter, rasters)))
            button.clicked.connect(
                lambda _=False, s=starter: library_commands.bring_starter(
                    self._workspace, starters(), s.component
                )
            )
            self.starters[starter.name] = button
            grid.addWidget(button, n // _COLUMNS, n % _COLUMNS)
        for column in range(_COLUMNS):
            grid.setColumnStretch(column, 1)
        return grid

    def _picture(self, starter: Starter, rasters: Rasters) -> QPixmap:
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(round(_PICTURE.width() * ratio), round(_PICTURE.height() * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("paper"))
        bounds = QRectF(0, 0, _PICTURE.width(), _PICTURE.height())
        painter.drawRoundedRect(bounds, 3, 3)
        view = self._engine.view(starters(), starter.component)
        draw_thumbnail(painter, view, bounds, rasters, ratio, 8)
        painter.end()
        return pixmap


def _heading(text: str) -> QLabel:
    return builders.label(text, weight="bold")


def _muted(text: str) -> QLabel:
    return builders.label(text, tone="muted")
