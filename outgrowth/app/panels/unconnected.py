"""Says which libraries the file names and nobody connected it to, and leads there when asked."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from outgrowth.app.theme import builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.sharing import Library
from outgrowth.core.refusal import quoted
from outgrowth.core.team.address import shown_address
from outgrowth.workspace.team import Team

_SHOWN = 3


class Unconnected(QWidget):
    """A row for each such library: where the file says that it is, and a button that connects.

    connect_asked(str)  somebody connects the file to a library, by its id
    """

    connect_asked = pyqtSignal(str)

    def __init__(self, team: Team) -> None:
        super().__init__()
        self._team = team
        self._shown: tuple[Library, ...] = ()
        self._body: QWidget | None = None
        dress(self, "field", "bottom")
        self._column = builders.column(self)
        self.refresh()

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to say."""
        return not self._shown

    def refresh(self) -> None:
        """Shows the file's libraries as they are now."""
        libraries = self._team.not_connected
        if libraries == self._shown and self._body is not None:
            return
        self._shown = libraries
        if self._body is not None:
            self._body.deleteLater()
        self._body = QWidget()
        column = builders.column(self._body, (12, 8, 12, 8), 6)
        for library in libraries[:_SHOWN]:
            name = quoted(library.name, 40)
            about = f"“{name}” is not connected on this machine. The file says it is at"
            column.addWidget(builders.label(about, wrap=True))
            address = builders.label(shown_address(library.address, 200), tone="muted", wrap=True)
            column.addWidget(address)
            act = partial(self.connect_asked.emit, library.id)
            tip = "Asks there for parts and news, now and from then on. Do it if you know the place"
            column.addWidget(builders.push_button("Connect to it", act, look="firm", tip=tip))
        if len(libraries) > _SHOWN:
            more = f"and {len(libraries) - _SHOWN} more"
            column.addWidget(builders.label(more, tone="muted"))
        self._column.addWidget(self._body)
