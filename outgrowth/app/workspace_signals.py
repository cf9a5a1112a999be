"""A workspace's notices as Qt signals: panels connect to them and are forgotten when they go."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

# Longer than Qt waits before it repaints: the bench's frame comes first.
_SETTLE_MS = 12


class WorkspaceSignals(QObject):
    """The notices of `workspace.notices.Notices`, with `panels_due` on a timer."""

    document_changed = pyqtSignal()
    panels_due = pyqtSignal()
    selection_changed = pyqtSignal()
    history_changed = pyqtSignal()
    failed = pyqtSignal(str)
    offered = pyqtSignal(object)
    naming_due = pyqtSignal(str)
    overtaken = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._settling = QTimer(self)
        self._settling.setSingleShot(True)
        self._settling.setInterval(_SETTLE_MS)
        self._settling.timeout.connect(self.panels_due)

    def refresh_panels_soon(self) -> None:
        """Emits `panels_due` in a moment, once for all that asked until then."""
        self._settling.start()

    def refresh_panels(self) -> None:
        """Lets the panels follow now rather than in a moment."""
        if self._settling.isActive():
            self._settling.stop()
            self.panels_due.emit()
