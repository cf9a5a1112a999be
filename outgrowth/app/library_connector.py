"""The libraries of one window: connected to, made, and looked at beside it, quietly."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from outgrowth.app.dialogs.connect import LibraryDialog
from outgrowth.app.job import JobRunner
from outgrowth.app.window_frame import WindowFrame
from outgrowth.workspace.libraries import signature
from outgrowth.workspace.team import LibraryView
from outgrowth.workspace.views.team_sheet import news_text

_CONNECTING = "Connecting …"
_FIRST_LOOK_MS = 1_500
_LOOK_MS = 5 * 60_000


class LibraryConnector(QObject):
    """Asks where a library is, and what is new in it.

    news_wanted  what was published is to be shown
    """

    news_wanted = pyqtSignal()

    def __init__(self, frame: WindowFrame, jobs: JobRunner) -> None:
        super().__init__(frame)
        self._frame = frame
        self._workspace = frame.workspace
        self.team = frame.team
        self.jobs = jobs
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_MS)
        self._timer.timeout.connect(self.look)
        self._timer.start()
        self.first_look = QTimer(self)
        self.first_look.setSingleShot(True)
        self.first_look.setInterval(_FIRST_LOOK_MS)
        self.first_look.timeout.connect(self.look)
        self.first_look.start()

    def close_down(self) -> None:
        """The window is about to go: nothing may run on."""
        for timer in (self._timer, self.first_look):
            timer.stop()
        self.jobs.close_down()
        self.team.close()

    def look(self) -> None:
        """Asks the file's libraries what is newest, quietly."""
        # One job at a time: a library's files are not for two to read at once.
        if self._workspace.document.sharing.libraries and not self.jobs.busy:
            self.jobs.start(self.team.look(), self.team.took)

    def ask_connect(self) -> None:
        """Asks where a library is, and connects to it."""
        dialog = LibraryDialog(self._frame, is_new=False)
        dialog.accepted.connect(lambda: self.connect_to(dialog.address))
        dialog.open()

    def ask_make(self) -> None:
        """Asks where a new library is to be made, and makes it."""
        name = f"{self._workspace.document.name} parts"
        dialog = LibraryDialog(self._frame, is_new=True, name=name)
        dialog.accepted.connect(lambda: self.make(dialog.address, dialog.name))
        dialog.open()

    def connect_to(self, address: str) -> None:
        """Connects to a library."""
        self._frame.notice.show_message(_CONNECTING, ("Stop", self.jobs.stop))
        self.jobs.start(self.team.connecting(address), self._connected, self._failed)

    def connect_as_named(self, library_id: str) -> None:
        """Connects the file to a library where it says that one is."""
        self.team.connect_as_named(library_id)
        self.look()

    def make(self, address: str, name: str) -> None:
        """Makes a library and connects to it."""
        self.jobs.start(self.team.making(address, name, signature()), self._connected, self._failed)

    def _connected(self, views: object) -> None:
        self._frame.notice.withdraw(_CONNECTING)
        self.team.connect(views)  # type: ignore[arg-type]  # what the job gives
        self._frame.library.tabs.choose("Team")

    def _failed(self, sentence: str) -> None:
        self._frame.notice.withdraw(_CONNECTING)
        self._workspace.failed.emit(sentence)

    def have_colleagues(self) -> bool:
        """Whether there are colleagues who publish when they are asked to."""
        return bool(self.team.with_colleagues)

    def let_colleagues_publish(self) -> None:
        """The colleagues publish; then their news are shown."""

        def take_up(views: tuple[LibraryView, ...]) -> None:
            self.team.took(views)
            news = news_text(len(self.team.fresh())) or "nothing new for this file"
            self._frame.notice.show_message(
                f"The colleagues have published: {news}.",
                ("Look at it …", self.news_wanted.emit),
                ("Later", lambda: None),
            )

        self.jobs.start(self.team.let_colleagues_publish(signature().when), take_up, self._failed)
