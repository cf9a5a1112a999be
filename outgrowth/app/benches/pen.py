"""The pen: what the next press on a bench draws, if anything."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from outgrowth.core.edits.tree.drawing import Thing


class Pen(QObject):
    """Holds one thing to be drawn; `changed` when it is taken up or laid down."""

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.thing: Thing | None = None

    def take(self, thing: Thing | None) -> None:
        """Takes up something to draw; the same thing again lays it down."""
        self.thing = None if thing == self.thing else thing
        self.changed.emit()

    def lay_down(self) -> bool:
        """Whether there was something to lay down."""
        if self.thing is None:
            return False
        self.take(None)
        return True
