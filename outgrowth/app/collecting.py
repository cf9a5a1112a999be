"""Where Python looks for circles that nobody needs any more: on the window's thread, and nowhere
else. What it throws away may be Qt's, and Qt's things end on the thread that made them; left to
itself it runs on whichever thread makes the next object, also on one that reads or saves.
"""

from __future__ import annotations

import gc

from PyQt6.QtCore import QObject, QTimer

_INTERVAL_MS = 1_000


class Collecting(QObject):
    """Looks whether it is due, once a second, from when it is made until `end`."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._timer = QTimer(self)
        self._timer.setInterval(_INTERVAL_MS)
        self._timer.timeout.connect(self.look)
        self._timer.start()

    def look(self) -> None:
        """Collects the oldest generation that is due, as Python would."""
        due = (
            generation
            for generation, (count, most) in enumerate(
                zip(gc.get_count(), gc.get_threshold(), strict=True)
            )
            if count > most
        )
        oldest = max(due, default=None)
        if oldest is not None:
            gc.collect(oldest)

    def end(self) -> None:
        """Leaves it to Python again."""
        self._timer.stop()
        gc.enable()
