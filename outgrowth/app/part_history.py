"""The history of a part: its versions one by one, each beside what the library has now."""

from __future__ import annotations

from datetime import UTC, datetime

import msgspec
from PyQt6.QtCore import QObject, pyqtSignal

from outgrowth.app.job import JobRunner
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.document.records import Document, short_name
from outgrowth.core.document.sharing import Library, Origin
from outgrowth.core.edits.clipping import needs
from outgrowth.core.team.connection import PartVersion
from outgrowth.core.team.library import LibraryState
from outgrowth.core.team.store import Progress
from outgrowth.core.team.taking import take_in
from outgrowth.workspace.team_modes import Asking
from outgrowth.workspace.views.comparison import compared
from outgrowth.workspace.views.team_sheet import SheetRow, TeamSheet

_HISTORY = Asking("History", "Each version as it was, beside what the library has now.", "", False)


class PartHistory(QObject):
    """Shows versions on the team's bench, and brings one back.

    brought_back(str)  a part is as it was, in this file: its name and version
    """

    brought_back = pyqtSignal(str, str)

    def __init__(self, frame: WindowFrame, jobs: JobRunner) -> None:
        super().__init__(frame)
        self._workspace = frame.workspace
        self._bench = frame.team_bench
        self._team = frame.team
        self._jobs = jobs
        self._library: Library | None = None
        self._part = ""
        self._versions: tuple[PartVersion, ...] = ()

    def show(self, component_id: str) -> bool:
        """Begins to show the versions of a part; False (and said) where no library has it."""
        state = self._team.holding(component_id)
        if state is None or component_id not in state.document.components:
            self._workspace.failed.emit("No library of this file has that part.")
            return False
        self._library, self._part = state.library, component_id
        name = state.document.components[component_id].short_name
        self._versions = ()
        self._bench.begin(_HISTORY._replace(title=f"{name}: history"), (), ())
        self._jobs.start(
            self._team.history(state.library.id, component_id),
            self._history_came,
            self._bench.show_problem,
        )
        return True

    def _history_came(self, versions: tuple[PartVersion, ...]) -> None:
        self._versions = versions
        asking = _HISTORY._replace(title=self._bench.heading.text(), verb="Bring it back")
        self._bench.begin(asking, self._version_rows(), ())
        self.look_back(self._bench.current)

    def _version_rows(self) -> list[SheetRow]:
        return [
            SheetRow(v.about.commit, v.version, f"{_day(v)}, {_author(v)}\n{_title(v)}")
            for v in self._versions
        ]

    def look_back(self, commit: str) -> None:
        """Compares a version with what the library has now."""
        if not commit or self._library is None:
            return
        self._jobs.stop()
        job = self._team.looking_back(self._library.id, commit, self._part)
        part, fonts = self._part, self._workspace.engine.fonts

        def work(progress: Progress) -> TeamSheet:
            old_state, new_state = job(progress)
            chapters = compared(_only(old_state, part), _only(new_state, part), fonts, progress)
            return TeamSheet(
                (),
                {commit if c.owner == part else c.owner: c for c in chapters},
                (),
                (),
                (),
                old_state.document,
                new_state.document,
            )

        self._jobs.start(work, self._compared, self._bench.show_problem)

    def _compared(self, sheet: TeamSheet) -> None:
        rows = self._version_rows()
        sheet = sheet._replace(rows=tuple(rows))
        newest = bool(self._versions) and self._bench.current == self._versions[0].about.commit
        summary = "This is what the library has now."
        if not newest:
            summary = "At the left as it was, at the right as it is now."
        self._bench.show_sheet(sheet, rows, summary, can_confirm=not newest)

    def bring_back(self) -> None:
        """The version that is looked at becomes the file's own work, to be published anew."""
        version = next((v for v in self._versions if v.about.commit == self._bench.current), None)
        if version is None or self._library is None:
            return
        part, library = version.component, self._library.id
        state = self._team.state(library)
        if state is None:
            return
        name, library_state = short_name(part.name), state

        def change(document: Document) -> Document:
            if part.id not in document.components:
                document = take_in(document, library_state, [part.id], {}).document
            origins = document.sharing.origins
            own = Origin(library, library_state.version(part.id), library_state.commit, True)
            sharing = msgspec.structs.replace(document.sharing, origins=origins.set(part.id, own))
            return msgspec.structs.replace(
                document, components=document.components.set(part.id, part), sharing=sharing
            )

        step = f"bring back {name} {version.version}"
        if self._workspace.edit(step, change, from_library=True):
            self._workspace.open(part.id)
            self.brought_back.emit(name, version.version)


def _only(state: LibraryState, component_id: str) -> Document:
    """A library with one component and all that it may show, for a comparison of that alone."""
    component = state.document.components.get(component_id)
    if component is None:
        return state.document
    components = [*needs(state.document, component), component]
    return msgspec.structs.replace(
        state.document,
        components=type(state.document.components)({c.id: c for c in components}),
        component_order=tuple(c.id for c in components),
    )


def _day(version: PartVersion) -> str:
    return datetime.fromtimestamp(version.about.when, UTC).strftime("%d %b %Y")


def _author(version: PartVersion) -> str:
    return version.about.author.partition(" <")[0]


def _title(version: PartVersion) -> str:
    """What a publication was for: the words behind its title."""
    parts = version.about.message.strip().split("\n\n")
    return (parts[1] if len(parts) > 1 else parts[0]).splitlines()[0][:80]
