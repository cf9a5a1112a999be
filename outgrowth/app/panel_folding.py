"""Which panels are in sight: each can be put away, by its edge or by name, and all at once."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple, Protocol

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QSplitter, QWidget


class Panel(NamedTuple):
    """A panel by its name, and the column that holds it."""

    name: str
    widget: QWidget
    column: QSplitter


class Drawer(Protocol):
    """What opens and closes by itself, and lets go of what it shows when it closes."""

    def isVisible(self) -> bool: ...
    def toggle(self) -> object: ...


class PanelFolding(QObject):
    """Puts panels away and back.

    panels    all that can be put away
    drawer    what opens at the bottom; it goes with the others where all go
    across    what holds the panels' columns beside the bench
    changed   emitted when another panel is away than before
    """

    changed = pyqtSignal()

    def __init__(
        self, panels: Sequence[Panel], drawer: Drawer, across: Sequence[QSplitter]
    ) -> None:
        super().__init__()
        self._panels = {panel.name: panel for panel in panels}
        self._drawer = drawer
        self._across = across
        self._away: frozenset[str] = frozenset()
        self._before: frozenset[str] = frozenset()
        self._drawer_before = False
        # Put out of sight by the bench that is shown, not by somebody.
        self._idle: frozenset[str] = frozenset()
        self._columns: list[QSplitter] = []
        for split in across:
            split.splitterMoved.connect(self._dragged)
        for panel in panels:
            self._know(panel.column)

    @property
    def away(self) -> tuple[str, ...]:
        """The names of the panels that are put away, in their order."""
        return tuple(name for name in self._panels if name in self._away)

    def _know(self, column: QSplitter) -> None:
        if column not in self._columns:
            self._columns.append(column)
            column.splitterMoved.connect(self._dragged)

    def column_of(self, name: str) -> QSplitter:
        """The column that holds a panel."""
        return self._panels[name].column

    def move(self, name: str, column: QSplitter) -> None:
        """Puts a panel into another column, above what is there; a column without panels goes
        out of sight."""
        panel = self._panels[name]._replace(column=column)
        self._panels[name] = panel
        self._know(column)
        column.insertWidget(0, panel.widget)
        self._show()

    def set_away(self, names: Sequence[str]) -> None:
        """Puts these panels away, and all others back."""
        self._away = frozenset(names) & self._panels.keys()
        self._show()

    def toggle(self, name: str) -> None:
        """Puts a panel away, or back."""
        self.set_away(tuple(self._away ^ {name}))

    def toggle_all(self) -> None:
        """Puts all panels away, or back as they were; so does the drawer."""
        if self._away >= self._panels.keys():
            if self._drawer_before and not self._drawer.isVisible():
                self._drawer.toggle()
            self._drawer_before = False
            self.set_away(tuple(self._before))
            return
        self._before, self._drawer_before = self._away, self._drawer.isVisible()
        if self._drawer_before:
            self._drawer.toggle()
        self.set_away(tuple(self._panels))

    def set_idle(self, names: Sequence[str]) -> None:
        """Hides what the present bench has no use for, for as long as it is there."""
        self._idle = frozenset(names)
        self._show()

    def _show(self) -> None:
        hidden = self._away | self._idle
        for panel in self._panels.values():
            panel.widget.setHidden(panel.name in hidden)
        for column in self._columns:
            own = [p.name for p in self._panels.values() if p.column is column]
            column.setHidden(hidden.issuperset(own))
        self.changed.emit()

    def _dragged(self) -> None:
        """What an edge was pushed over is away."""
        folded = set()
        for panel in self._panels.values():
            column = panel.column
            narrow = any(_size_in(split, column) == 0 for split in self._across)
            if panel.widget.isVisible() and (narrow or _size_in(column, panel.widget) == 0):
                folded.add(panel.name)
        if folded:
            self._restore_sizes()
            self.set_away(tuple(self._away | folded))

    def _restore_sizes(self) -> None:
        """What comes back has room again."""
        for split in (*self._across, *self._columns):
            sizes = split.sizes()
            room = sum(sizes)
            if 0 in sizes and room:
                split.setSizes([size or room // 3 for size in sizes])


def _size_in(split: QSplitter, widget: QWidget) -> int | None:
    at = split.indexOf(widget)
    return split.sizes()[at] if at >= 0 and not widget.isHidden() else None
