"""The pen: what the next press on a bench draws, if anything."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from outgrowth.core.edits.tree.drawing import DrawnKind


class Pen(QObject):
    """Holds one thing to be drawn; `changed` when it is taken up or laid down."""

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.drawn_kind: DrawnKind | None = None

    def take_up(self, drawn_kind: DrawnKind | None) -> None:
        """Takes up something to draw; the same thing again lays it down."""
        self.drawn_kind = None if drawn_kind == self.drawn_kind else drawn_kind
        self.changed.emit()

    def lay_down(self) -> bool:
        """Whether there was something to lay down."""
        if self.drawn_kind is None:
            return False
        self.take_up(None)
        return True
