"""The team in one window: libraries are looked at beside it, and the bench shows what changes."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal

from outgrowth.app.job import JobRunner
from outgrowth.app.part_history import PartHistory
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.document.records import Document
from outgrowth.core.document.sharing import Library
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.facts import FactKey
from outgrowth.core.team.merge import Side
from outgrowth.core.team.versions import Level
from outgrowth.workspace.team_modes import PublishMode, TakeMode, TeamMode, TogetherMode


class TeamController(QObject):
    """Asks, shows and does; the workspace's `team` knows, a mode says what it is about.

    shown   the bench of the team is to be in the middle
    left    it is no longer
    """

    shown = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, frame: WindowFrame, jobs: JobRunner) -> None:
        super().__init__(frame)
        self._frame = frame
        self._workspace = frame.workspace
        self._bench = frame.team_bench
        self.team = frame.team
        self.jobs = jobs
        self._history = PartHistory(frame, jobs)
        self._mode: TeamMode | PartHistory | None = None
        self._began: Document = self._workspace.document
        self.jobs.progressed.connect(self._bench.show_progress)
        bench = self._bench
        bench.ticked.connect(self._work_out)
        bench.picked.connect(self._pick)
        bench.raised.connect(self._raise)
        bench.confirmed.connect(self._confirm)
        bench.stopped.connect(self._stop)
        bench.left.connect(self.leave)
        bench.looked_at.connect(self._look_back)
        self._history.brought_back.connect(self._brought_back)

    # --- what the bench is about ----------------------------------------------------------

    def _begin(self, mode: TeamMode) -> None:
        self.jobs.stop()
        self._mode = mode
        self.shown.emit()
        self._bench.begin(mode.asking, mode.candidates, mode.ticked)

    def show_news(self) -> None:
        """The newer versions of parts, and what they would change here."""
        try:
            self._begin(TakeMode.news(self._workspace, self.team))
        except Refusal as nothing_newer:
            self._workspace.failed.emit(str(nothing_newer))
        else:
            self._work_out()

    def show_part(self, library_id: str, component_id: str) -> None:
        """A part of a library that is to be taken in for the first time."""
        mode = TakeMode.part(self._workspace, self.team, library_id, component_id)
        if mode is not None:
            self._begin(mode)
            self._work_out()

    def show_publish(self) -> None:
        """What of this file the library has otherwise, or not at all."""
        views = [view for view in self.team.libraries if view.state is not None]
        if not views:
            problems = [view.problem for view in self.team.libraries if not view.connected]
            nowhere = "No library could be reached. Connect to one, or make one, first."
            self._workspace.failed.emit(problems[0] if problems else nowhere)
            return
        library = views[0].library
        self._begin(PublishMode(self._workspace, self.team, library))
        changed = self.team.changed_parts(library.id)
        self.jobs.start(changed, partial(self._publishable, library), self._bench.show_problem)

    def _publishable(self, library: Library, ids: tuple[str, ...]) -> None:
        if ids:
            self._begin(PublishMode(self._workspace, self.team, library, ids))
            self._work_out()
        else:
            self._bench.show_problem(f"“{library.name}” has all of this file's own parts.")

    def show_history(self, component_id: str = "") -> None:
        """The versions of a part: that of the Library's row, or the one on the bench."""
        self.jobs.stop()
        if self._history.show(component_id or self._workspace.selection.owner):
            self._mode = self._history
            self.shown.emit()

    def _look_back(self, commit: str) -> None:
        if self._mode is self._history:
            self._history.look_back(commit)

    def _brought_back(self, name: str, version: str) -> None:
        self.leave()
        self._frame.notice.show_message(
            f"{name} is as it was in {version}, in this file. Publish it to bring it back for "
            "everybody.",
            ("Publish …", self.show_publish),
            ("Not now", lambda: None),
        )

    def show_together(
        self,
        three: Callable[[], tuple[Document, Document, Document] | None],
        use: Callable[[Document], object],
    ) -> None:
        """Two documents that began as one: `three` gives base, ours and theirs as they are now,
        `use` gets what comes of them."""
        self._begin(TogetherMode(self._workspace, three, use))
        self._work_out()

    def leave(self) -> None:
        """Leaves the bench as if nothing had been asked."""
        self.jobs.stop()
        self._mode = None
        self.left.emit()

    # --- working it out -------------------------------------------------------------------

    def _stop(self) -> None:
        self.jobs.stop()
        self._bench.show_problem("Stopped; nothing was changed.")

    def _pick(self, key: FactKey, side: Side) -> None:
        if isinstance(self._mode, TakeMode | PublishMode | TogetherMode):
            self._mode.picks[key] = side
            self._work_out()

    def _raise(self, part: str, level: Level) -> None:
        if isinstance(self._mode, PublishMode):
            self._mode.levels[part] = level
            self._work_out()

    def _work_out(self) -> None:
        """Begins to work out what would change; nothing is changed."""
        self.jobs.stop()
        mode = self._mode
        if mode is None or isinstance(mode, PartHistory):
            return
        chosen = self._bench.chosen()
        self._began = self._workspace.document
        if not chosen and mode.asking.ticks:
            self._bench.show_problem("Tick at least one part.")
            return
        try:
            job = mode.work(chosen)
        except Refusal as problem:
            self._bench.show_problem(str(problem))
            return
        bench = self._bench

        def show(result: object) -> None:
            bench.show_sheet(*mode.outcome(result))

        self.jobs.start(job, show, bench.show_problem)

    # --- doing it -------------------------------------------------------------------------

    def _confirm(self, message: str) -> None:
        mode = self._mode
        if isinstance(mode, PartHistory):
            mode.bring_back()
        elif mode is None:
            return
        elif mode.stale_redone and self._workspace.document is not self._began:
            self._work_out()  # the work went on meanwhile: once more, with what is now here
        else:
            self._carry_out(mode, message)

    def _carry_out(self, mode: TeamMode, message: str) -> None:
        try:
            job = mode.carry_out(message)
        except Refusal as problem:
            self._bench.show_problem(str(problem))
            return
        if job is None:
            self.leave()
        else:
            self.jobs.start(job, partial(self._carried_out, mode), self._not_published)

    def _carried_out(self, mode: TeamMode, result: object) -> None:
        text = mode.finished(result)
        if text:
            self._frame.notice.show_message(text, ("Good", lambda: None))
        self.leave()

    def _not_published(self, sentence: str) -> None:
        """Somebody was first, or the library cannot be reached: looks again, and shows."""
        self._bench.show_problem(sentence)
        self.jobs.start(self.team.look(), self._seen_again)

    def _seen_again(self, views: object) -> None:
        self.team.took(views)  # type: ignore[arg-type]  # what the job gives
        if isinstance(self._mode, PublishMode):
            self._work_out()

    # --- parts of the file ----------------------------------------------------------------

    def make_own(self, component_id: str = "") -> None:
        """A part that was taken in becomes this file's own."""
        self.team.make_own(component_id or self._workspace.selection.owner)

    def work_here(self, component_id: str = "") -> None:
        """A part that was taken in is worked on here from now on."""
        self.team.work_here(component_id or self._workspace.selection.owner)

    def origin_actions(self, component_id: str) -> list[tuple[str, Callable[[], object]]]:
        """What can be done with a part that comes from a library."""
        if component_id not in self._workspace.document.sharing.origins:
            return []
        actions: list[tuple[str, Callable[[], object]]] = [
            ("Go to its origin", partial(self.show_history, component_id))
        ]
        if self._workspace.document.sharing.read_only(component_id):
            actions.append(("Work on it here", partial(self.team.work_here, component_id)))
        actions.append(("Make it our own", partial(self.team.make_own, component_id)))
        return actions
