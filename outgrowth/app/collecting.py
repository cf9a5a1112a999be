"""Where Python looks for circles that nobody needs any more: on the window's thread, and nowhere
else. What it throws away may be Qt's, and Qt's things end on the thread that made them; left to
itself it runs on whichever thread makes the next object, also on one that reads or saves.
"""

from __future__ import annotations

import gc

from PyQt6.QtCore import QObject, Qt, QTimer
from PyQt6.QtGui import QGuiApplication

_INTERVAL_MS = 1_000


class Collecting(QObject):
    """Looks once a second whether it is due, from when it is made until `end`. All of it (0.2 s
    with the demo open) is looked through when somebody turns to another program, so that it is
    seldom due while they work."""

    def __init__(self, app: QGuiApplication) -> None:
        super().__init__(app)
        self._app = app
        gc.disable()
        self._timer = QTimer(self)
        self._timer.setInterval(_INTERVAL_MS)
        self._timer.timeout.connect(self.look)
        self._timer.start()
        app.applicationStateChanged.connect(self.turned)

    def look(self) -> None:
        """Collects the oldest generation that is due."""
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

    def turned(self, state: Qt.ApplicationState) -> None:
        """The program has the user's eye, or lost it."""
        if state is not Qt.ApplicationState.ApplicationActive:
            gc.collect()

    def end(self) -> None:
        """Leaves it to Python again."""
        self._timer.stop()
        self._app.applicationStateChanged.disconnect(self.turned)
        gc.enable()
