"""The team in one window: libraries are looked at beside it, and the bench shows what changes."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Literal

from PyQt6.QtCore import QObject, pyqtSignal

from outgrowth.app.benches.team import Asking
from outgrowth.app.job import JobRunner
from outgrowth.app.part_history import PartHistory
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.document.records import Document, short_name
from outgrowth.core.document.sharing import Library, Origin
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.facts import FactKey
from outgrowth.core.team.merge import MergedDocument, Side, merge
from outgrowth.core.team.publishing import PublishingPlan, Request
from outgrowth.core.team.store import Progress
from outgrowth.core.team.taking import TakenIn
from outgrowth.core.team.versions import Level
from outgrowth.workspace.libraries import signature
from outgrowth.workspace.team import Published
from outgrowth.workspace.views.difference_text import plan_wording
from outgrowth.workspace.views.team_sheet import (
    SheetRow,
    TeamSheet,
    merge_sheet,
    publish_sheet,
    take_sheet,
)

_TAKE = Asking(
    "Newer versions",
    "What is ticked is taken into this file. Overrides stay; undo brings everything back.",
    "Take in",
)
_PUBLISH = Asking(
    "Publish",
    "What is ticked goes to the library, with the parts it needs. What others published meanwhile "
    "is brought together with it.",
    "Publish",
    message="What is it for?",
)
_TOGETHER = Asking(
    "Two at once",
    "Others changed this file while there was work here. What both did becomes one document.",
    "Bring together",
    False,
)


class TeamController(QObject):
    """Asks, shows and does; the workspace's `Team` knows.

    shown   the bench of the team is to be in the middle; `left` no longer
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
        self.jobs.progressed.connect(self._progressed)
        self._history = PartHistory(frame, jobs)
        self._mode: Literal["", "take", "publish", "history", "together"] = ""
        self._library: Library | None = None
        self._picks: dict[FactKey, Side] = {}
        self._levels: dict[str, Level] = {}
        self._candidates: tuple[SheetRow, ...] = ()
        self._began: Document = self._workspace.document
        self._taken_in: TakenIn | None = None
        self._request: Request | None = None
        self._three: Callable[[], tuple[Document, Document, Document] | None] = lambda: None
        self._merged: MergedDocument | None = None
        self._took_together: Callable[[Document], object] = lambda _: None
        bench = self._bench
        bench.ticked.connect(self._work_out)
        bench.picked.connect(self._pick)
        bench.raised.connect(self._raise)
        bench.confirmed.connect(self._confirm)
        bench.stopped.connect(self._stop)
        bench.left.connect(self.leave)
        bench.looked_at.connect(self._look_back)
        self._history.brought_back.connect(self._brought_back)

    @property
    def _library_id(self) -> str:
        return self._library.id if self._library is not None else ""

    # --- what the bench is about ----------------------------------------------------------

    def _begin(
        self,
        mode: Literal["take", "publish", "together"],
        asking: Asking,
        candidates: tuple[SheetRow, ...],
        chosen: tuple[str, ...],
    ) -> None:
        self.jobs.stop()
        self._mode, self._candidates = mode, candidates
        self._picks, self._levels = {}, {}
        self._taken_in = self._request = self._merged = None
        self.shown.emit()
        self._bench.begin(asking, candidates, chosen)

    def show_news(self) -> None:
        """The newer versions of parts, and what they would change here."""
        fresh = self.team.fresh()
        if not fresh:
            self._workspace.failed.emit(
                "Nothing newer is known of."
                if self.team.libraries
                else "This file knows no library yet: connect to one first."
            )
            return
        self._library = self._workspace.document.sharing.library(fresh[0].library)
        library_news = tuple(view.news for view in fresh if view.library == fresh[0].library)
        rows = tuple(SheetRow(n.component, n.name, f"{n.old} → {n.new}") for n in library_news)
        self._begin("take", _TAKE, rows, tuple(row.part for row in rows))
        self._work_out()

    def show_part(self, library_id: str, component_id: str) -> None:
        """A part of a library that is to be taken in for the first time."""
        state = self.team.state(library_id)
        if state is None or component_id not in state.document.components:
            return
        self._library = state.library
        name = state.document.components[component_id].name
        row = SheetRow(component_id, name, f"new → {state.version(component_id)}")
        asking = _TAKE._replace(
            title=short_name(name),
            about="A part of the team's. It is taken in with all it needs, and is read-only here.",
        )
        self._begin("take", asking, (row,), (component_id,))
        self._work_out()

    def show_publish(self) -> None:
        """What of this file the library has otherwise, or not at all."""
        views = [view for view in self.team.libraries if view.state is not None]
        if not views:
            self._workspace.failed.emit(
                "There is no library that could be reached. Connect to one, or make one, first."
            )
            return
        library = self._library = views[0].library
        asking = _PUBLISH._replace(title=f"Publish to {library.name}")
        self._begin("publish", asking, (), ())
        self.jobs.start(
            self.team.changed_parts(library.id), self._candidates_came, self._bench.show_problem
        )

    def _candidates_came(self, ids: tuple[str, ...]) -> None:
        document, library = self._workspace.document, self._library
        if library is None:
            return
        if not ids:
            self._bench.show_problem(f"“{library.name}” has all of this file's own parts.")
            return
        rows = tuple(
            SheetRow(i, document.components[i].name, self._changed_since(document, i)) for i in ids
        )
        on_bench = self._workspace.selection.owner
        published = tuple(i for i in ids if i in document.sharing.origins)
        chosen = (on_bench,) if on_bench in ids else published or ids[:1]
        asking = _PUBLISH._replace(title=f"Publish to {library.name}")
        self._begin("publish", asking, rows, chosen)
        self._work_out()

    @staticmethod
    def _changed_since(document: Document, component_id: str) -> str:
        origin: Origin | None = document.sharing.origins.get(component_id)
        return f"changed since {origin.version}" if origin is not None else "not in the library"

    def show_history(self, component_id: str = "") -> None:
        """The versions of a part: that of the Library's row, or the one on the bench."""
        self.jobs.stop()
        if self._history.show(component_id or self._workspace.selection.owner):
            self._mode = "history"
            self.shown.emit()

    def _look_back(self, commit: str) -> None:
        if self._mode == "history":
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
        self._three, self._took_together = three, use
        self._begin("together", _TOGETHER, (), ())
        self._work_out()

    def leave(self) -> None:
        """Leaves the bench as if nothing had been asked."""
        self.jobs.stop()
        self._mode = ""
        self.left.emit()

    # --- working it out -------------------------------------------------------------------

    def _progressed(self, text: str) -> None:
        self._bench.show_progress(text)

    def _stop(self) -> None:
        self.jobs.stop()
        self._bench.show_problem("Stopped; nothing was changed.")

    def _pick(self, key: FactKey, side: Side) -> None:
        self._picks[key] = side
        self._work_out()

    def _raise(self, part: str, level: Level) -> None:
        self._levels[part] = level
        self._work_out()

    def _work_out(self) -> None:
        """Begins to work out what would change; nothing is changed."""
        self.jobs.stop()
        chosen = self._bench.chosen()
        self._began = self._workspace.document
        try:
            if self._mode == "together":
                self.jobs.start(self._bringing(), self._brought, self._bench.show_problem)
            elif not chosen:
                self._bench.show_problem("Tick at least one part.")
            elif self._mode == "take":
                self.jobs.start(self._taking(chosen), self._would_take, self._bench.show_problem)
            elif self._mode == "publish":
                self.jobs.start(
                    self._planning(chosen), self._would_publish, self._bench.show_problem
                )
        except Refusal as problem:
            self._bench.show_problem(str(problem))

    def _taking(self, chosen: tuple[str, ...]) -> Callable[[Progress], object]:
        document, picks = self._began, dict(self._picks)
        job = self.team.taking(self._library_id, chosen, picks)
        redone = self.team.retaking(self._library_id, chosen)
        fonts = self._workspace.engine.fonts

        def work(progress: Progress) -> tuple[TakenIn, TeamSheet]:
            taken_in = job(progress)
            again = redone(progress)
            return taken_in, take_sheet(document, taken_in, again, picks, fonts, progress)

        return work

    def _would_take(self, result: tuple[TakenIn, TeamSheet]) -> None:
        self._taken_in, sheet = result
        along = len(self._taken_in.parts) - len(
            {part.component for part in self._taken_in.parts} & set(self._bench.chosen())
        )
        parts = [_count(len(self._taken_in.parts), "part")]
        if along:
            parts.append(f"{along} of them needed by the others")
        screens = _count(len(sheet.screens), "screen") if sheet.screens else "no screen"
        parts.append(f"{screens} would look different")
        if sheet.picks:
            parts.append(f"{_count(len(sheet.picks), 'thing')} to pick")
        self._bench.show_sheet(sheet, _rows(self._candidates, sheet.rows), " · ".join(parts))

    def _planning(self, chosen: tuple[str, ...]) -> Callable[[Progress], object]:
        picks, levels = dict(self._picks), dict(self._levels)
        requested = self.team.request(self._library_id, chosen, levels, picks)
        job = self.team.planning(self._library_id, requested)
        replanned = self.team.replanning(self._library_id)
        fonts = self._workspace.engine.fonts

        def work(progress: Progress) -> tuple[Request, PublishingPlan, TeamSheet]:
            request, plan = job(progress)
            again = replanned(request)
            return request, plan, publish_sheet(plan, again, picks, fonts, progress)

        return work

    def _would_publish(self, result: tuple[Request, PublishingPlan, TeamSheet]) -> None:
        request, plan, sheet = result
        # What is shown as counting counts, unless another side is picked.
        shown: dict[FactKey, Side] = {changes.key: "ours" for changes in plan.disagreements}
        self._request = request._replace(picks={**shown, **request.picks})
        rows = _rows(self._candidates, sheet.rows)
        goes_out = bool(plan.parts or plan.tokens)
        self._bench.show_sheet(sheet, rows, _going_text(plan, len(sheet.picks)), goes_out)

    def _bringing(self) -> Callable[[Progress], object]:
        three = self._three()
        if three is None:
            raise Refusal("There is nothing to bring together any more.")
        base, ours, theirs = three
        picks, fonts = dict(self._picks), self._workspace.engine.fonts

        def again(picks_tried: object) -> Document:
            return merge(base, ours, theirs, picks_tried).document  # type: ignore[arg-type]  # picks

        def work(progress: Progress) -> tuple[MergedDocument, TeamSheet]:
            progress("Bringing both together …")
            merged = merge(base, ours, theirs, picks)
            changes = merged.disagreements
            return merged, merge_sheet(
                ours, merged.document, changes, again, picks, fonts, progress
            )

        return work

    def _brought(self, result: tuple[MergedDocument, TeamSheet]) -> None:
        self._merged, sheet = result
        summary = f"{_count(len(sheet.rows), 'part')} would be another here"
        if sheet.picks:
            summary += f" · {_count(len(sheet.picks), 'thing')} to pick"
        self._bench.show_sheet(sheet, sheet.rows, summary)

    # --- doing it -------------------------------------------------------------------------

    def _confirm(self, message: str) -> None:
        is_stale = self._workspace.document is not self._began
        if self._mode in ("take", "together") and is_stale:
            self._work_out()  # the work went on meanwhile: once more, with what is now here
        elif self._mode == "take" and self._taken_in is not None:
            if self.team.take(self._taken_in, self._began):
                first = next(iter(self._bench.chosen()), "")
                self.leave()
                if self._workspace.owner is None:  # a file that had nothing yet
                    self._workspace.open(first)
        elif self._mode == "publish" and self._request is not None:
            job = self.team.publishing(
                self._library_id, self._request, message, signature(), plan_wording
            )
            self.jobs.start(job, self._published, self._not_published)
        elif self._mode == "history":
            self._history.bring_back()
        elif self._mode == "together" and self._merged is not None:
            self._took_together(self._merged.document)
            self.leave()

    def _published(self, publication: Published) -> None:
        self.team.took_published(publication)
        parts = ", ".join(
            f"{p.name.rpartition('/')[2]} {p.version}" for p in publication.plan.parts[:4]
        )
        self._frame.notice.show_message(f"Published: {parts or 'tokens'}.", ("Good", lambda: None))
        self.leave()

    def _not_published(self, sentence: str) -> None:
        """Somebody was first, or the library cannot be reached: looks again, and shows."""
        self._bench.show_problem(sentence)
        self.jobs.start(self.team.look(), self._seen_again)

    def _seen_again(self, views: object) -> None:
        self.team.took(views)  # type: ignore[arg-type]  # what the job gives
        if self._mode == "publish":
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


def _going_text(plan: PublishingPlan, picks: int) -> str:
    """What would go out, in a line."""
    if not plan.parts and not plan.tokens:
        return "Nothing would go out: the library has all of this."
    parts = ", ".join(f"{p.name.rpartition('/')[2]} {p.version}" for p in plan.parts[:4])
    more = f" and {len(plan.parts) - 4} more" if len(plan.parts) > 4 else ""
    to_pick = f" · {_count(picks, 'thing')} to pick" if picks else ""
    return f"Goes out: {parts or 'only tokens'}{more}{to_pick}"


def _rows(candidates: tuple[SheetRow, ...], worked: tuple[SheetRow, ...]) -> list[SheetRow]:
    """The candidates with what was worked out of them; what goes along stands behind."""
    by_part = {row.part: row for row in worked}
    ids = {row.part for row in candidates}
    rows = [by_part.get(row.part, row) for row in candidates]
    return [*rows, *(row for row in worked if row.part not in ids)]


def _count(number: int, noun: str) -> str:
    return f"1 {noun}" if number == 1 else f"{number} {noun}s"
