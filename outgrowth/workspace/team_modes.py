"""What sharing can be about: taking in, publishing, bringing two files together. Each works out
beside the window what would change, says what is to be shown, and does it when it is confirmed."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple, Protocol

from outgrowth.core.document.records import Document, short_name
from outgrowth.core.document.sharing import Library
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.facts import FactKey
from outgrowth.core.team.merge import MergedDocument, Side, merge
from outgrowth.core.team.publishing import PublishingPlan, Request
from outgrowth.core.team.store import Progress
from outgrowth.core.team.taking import TakenIn
from outgrowth.core.team.versions import Level
from outgrowth.workspace.libraries import signature
from outgrowth.workspace.team import Job, Published, Team
from outgrowth.workspace.views.difference_text import plan_wording
from outgrowth.workspace.views.status_text import count_text
from outgrowth.workspace.views.team_sheet import (
    SheetRow,
    TeamSheet,
    merge_sheet,
    publish_sheet,
    take_sheet,
)
from outgrowth.workspace.workspace import Workspace


class Asking(NamedTuple):
    """What a bench is about: its title, a sentence, what the button does, whether parts are
    ticked, and whether there is something to say with it."""

    title: str
    about: str
    verb: str
    ticks: bool = True
    message: str = ""


class Outcome(NamedTuple):
    """What would change, ready to be shown: with the parts in a row each, a line that sums it up,
    and whether there is anything to be done."""

    sheet: TeamSheet
    rows: tuple[SheetRow, ...]
    summary: str
    goes_out: bool = True


TAKE = Asking(
    "Newer versions",
    "What is ticked is taken into this file. Overrides stay; undo brings everything back.",
    "Take in",
)
PUBLISH = Asking(
    "Publish",
    "What is ticked goes to the library, with the parts it needs. What others published meanwhile "
    "is brought together with it.",
    "Publish",
    message="What is it for?",
)
TOGETHER = Asking(
    "Two at once",
    "Others changed this file while there was work here. What both did becomes one document.",
    "Bring together",
    False,
)


class _ToTake(NamedTuple):
    taken_in: TakenIn
    sheet: TeamSheet


class _ToPublish(NamedTuple):
    request: Request
    plan: PublishingPlan
    sheet: TeamSheet


class _ToMerge(NamedTuple):
    merged: MergedDocument
    sheet: TeamSheet


class TeamMode(Protocol):
    """One thing that the bench is about.

    asking      what stands at the head of the bench, and on its button
    candidates  the parts that can be ticked
    ticked      those that are at first
    picks       which side counts where two disagree
    levels      how far a version is raised, other than proposed
    stale_redone  whether what was worked out for another document is worked out once more
    """

    asking: Asking
    candidates: tuple[SheetRow, ...]
    ticked: tuple[str, ...]
    picks: dict[FactKey, Side]
    levels: dict[str, Level]
    stale_redone: bool

    def work(self, chosen: tuple[str, ...]) -> Job[object]:
        """A job that works out what would change. Raises Refusal."""
        ...

    def outcome(self, result: object) -> Outcome:
        """What the job gave, as it is shown; it is what is carried out."""
        ...

    def carry_out(self, message: str) -> Job[object] | None:
        """Does what is shown; None where it is done at once, or there is nothing to do."""
        ...

    def finished(self, result: object) -> str:
        """Takes up what carrying out gave; what to tell, "" for nothing."""
        ...


class _Mode:
    """What all modes have."""

    stale_redone = True

    def __init__(
        self, workspace: Workspace, asking: Asking, candidates: tuple[SheetRow, ...] = ()
    ) -> None:
        self._workspace = workspace
        self.asking = asking
        self.candidates = candidates
        self.ticked = tuple(row.part for row in candidates)
        self.picks: dict[FactKey, Side] = {}
        self.levels: dict[str, Level] = {}

    def finished(self, result: object) -> str:
        """Nothing more."""
        return ""


class TakeMode(_Mode):
    """Versions of parts are taken into the file."""

    def __init__(
        self,
        workspace: Workspace,
        team: Team,
        library: Library,
        asking: Asking,
        candidates: tuple[SheetRow, ...],
    ) -> None:
        super().__init__(workspace, asking, candidates)
        self._team, self._library = team, library
        self._began = workspace.document
        self._taken_in: TakenIn | None = None
        self._chosen: tuple[str, ...] = ()

    @classmethod
    def news(cls, workspace: Workspace, team: Team) -> TakeMode:
        """The newer versions of one library. Raises Refusal where none are known."""
        fresh = team.fresh()
        library = workspace.document.sharing.library(fresh[0].library) if fresh else None
        if library is None:
            unknown = "This file knows no library yet: connect to one first."
            raise Refusal("Nothing newer is known of." if team.libraries else unknown)
        news = (one.news for one in fresh if one.library == library.id)
        rows = tuple(SheetRow(n.component, n.name, f"{n.old} → {n.new}") for n in news)
        return cls(workspace, team, library, TAKE, rows)

    @classmethod
    def part(
        cls, workspace: Workspace, team: Team, library_id: str, component_id: str
    ) -> TakeMode | None:
        """A part that is taken in for the first time; None where it is not there."""
        state = team.state(library_id)
        if state is None or component_id not in state.document.components:
            return None
        name = state.document.components[component_id].name
        row = SheetRow(component_id, name, f"new → {state.version(component_id)}")
        asking = TAKE._replace(
            title=short_name(name),
            about="A part of the team's. It is taken in with all it needs, and is read-only here.",
        )
        return cls(workspace, team, state.library, asking, (row,))

    def work(self, chosen: tuple[str, ...]) -> Job[object]:
        """What taking in would change."""
        document = self._began = self._workspace.document
        picks, self._chosen = dict(self.picks), chosen
        job = self._team.taking(self._library.id, chosen, picks)
        redone = self._team.retaking(self._library.id, chosen)
        fonts = self._workspace.engine.fonts

        def work(progress: Progress) -> _ToTake:
            taken_in = job(progress)
            again = redone(progress)
            sheet = take_sheet(document, taken_in, again, picks, fonts, progress)
            return _ToTake(taken_in, sheet)

        return work

    def outcome(self, result: object) -> Outcome:
        """How many parts, which need others, and what would look different."""
        assert isinstance(result, _ToTake)
        self._taken_in, sheet = result
        parts = result.taken_in.parts
        along = len(parts) - len({part.component for part in parts} & set(self._chosen))
        summary = [count_text(len(parts), "part")]
        if along:
            summary.append(f"{along} of them needed by the others")
        screens = count_text(len(sheet.screens), "screen") if sheet.screens else "no screen"
        summary.append(f"{screens} would look different")
        return Outcome(sheet, _rows(self.candidates, sheet.rows), _with_picks(summary, sheet))

    def carry_out(self, message: str) -> None:
        """Takes in what is shown, as one step of history."""
        if self._taken_in is None or not self._team.take(self._taken_in, self._began):
            raise Refusal("Nothing was taken in; tick at least one part.")
        if self._workspace.owner is None:  # a file that had nothing yet
            self._workspace.open(next(iter(self._chosen), ""))


class PublishMode(_Mode):
    """Parts of the file go to a library."""

    stale_redone = False

    def __init__(
        self, workspace: Workspace, team: Team, library: Library, ids: tuple[str, ...] = ()
    ) -> None:
        document = workspace.document
        rows = tuple(SheetRow(i, document.components[i].name, _since(document, i)) for i in ids)
        super().__init__(workspace, PUBLISH._replace(title=f"Publish to {library.name}"), rows)
        self._team, self.library = team, library
        self._request: Request | None = None
        on_bench = workspace.selection.owner
        published = tuple(i for i in ids if i in document.sharing.origins)
        self.ticked = (on_bench,) if on_bench in ids else published or ids[:1]

    def work(self, chosen: tuple[str, ...]) -> Job[object]:
        """What publishing would change in the library."""
        picks, team, library_id = dict(self.picks), self._team, self.library.id
        requested = team.request(library_id, chosen, dict(self.levels), picks)
        job = team.planning(library_id, requested)
        replanned = team.replanning(library_id)
        fonts = self._workspace.engine.fonts

        def work(progress: Progress) -> _ToPublish:
            request, plan = job(progress)
            again = replanned(request)
            return _ToPublish(request, plan, publish_sheet(plan, again, picks, fonts, progress))

        return work

    def outcome(self, result: object) -> Outcome:
        """What would go out, with which versions."""
        assert isinstance(result, _ToPublish)
        request, plan, sheet = result
        # What is shown as counting counts, unless another side is picked.
        shown: dict[FactKey, Side] = {changes.key: "ours" for changes in plan.disagreements}
        self._request = request._replace(picks={**shown, **request.picks})
        goes_out = bool(plan.parts or plan.tokens)
        text = _with_picks([_going_text(plan)], sheet) if goes_out else _NOTHING_GOES
        return Outcome(sheet, _rows(self.candidates, sheet.rows), text, goes_out)

    def carry_out(self, message: str) -> Job[object] | None:
        """Publishes, beside the window."""
        if self._request is None:
            return None
        return self._team.publishing(
            self.library.id, self._request, message, signature(), plan_wording
        )

    def finished(self, result: object) -> str:
        """The file's parts are tied to their new versions."""
        assert isinstance(result, Published)
        self._team.took_published(result)
        return f"Published: {_versions(result.plan) or 'tokens'}."


class TogetherMode(_Mode):
    """Two documents that began as one become one.

    three  gives base, ours and theirs as they are now, None where there is nothing any more
    use    gets what comes of them
    """

    def __init__(
        self,
        workspace: Workspace,
        three: Callable[[], tuple[Document, Document, Document] | None],
        use: Callable[[Document], object],
    ) -> None:
        super().__init__(workspace, TOGETHER)
        self._three, self._use = three, use
        self._merged: MergedDocument | None = None

    def work(self, chosen: tuple[str, ...]) -> Job[object]:
        """What would be another here."""
        three = self._three()
        if three is None:
            raise Refusal("There is nothing to bring together any more.")
        base, ours, theirs = three
        picks, fonts = dict(self.picks), self._workspace.engine.fonts

        def again(picks_tried: object) -> Document:
            return merge(base, ours, theirs, picks_tried).document  # type: ignore[arg-type]  # picks

        def work(progress: Progress) -> _ToMerge:
            progress("Bringing both together …")
            merged = merge(base, ours, theirs, picks)
            changes = merged.disagreements
            sheet = merge_sheet(ours, merged.document, changes, again, picks, fonts, progress)
            return _ToMerge(merged, sheet)

        return work

    def outcome(self, result: object) -> Outcome:
        """How many parts become another."""
        assert isinstance(result, _ToMerge)
        self._merged, sheet = result
        summary = [f"{count_text(len(sheet.rows), 'part')} would be another here"]
        return Outcome(sheet, sheet.rows, _with_picks(summary, sheet))

    def carry_out(self, message: str) -> None:
        """The file becomes what is shown."""
        if self._merged is not None:
            self._use(self._merged.document)


_NOTHING_GOES = "Nothing would go out: the library has all of this."


def _since(document: Document, component_id: str) -> str:
    origin = document.sharing.origins.get(component_id)
    return f"changed since {origin.version}" if origin is not None else "not in the library"


def _versions(plan: PublishingPlan) -> str:
    return ", ".join(f"{short_name(part.name)} {part.version}" for part in plan.parts[:4])


def _going_text(plan: PublishingPlan) -> str:
    """What would go out, in a line."""
    more = f" and {len(plan.parts) - 4} more" if len(plan.parts) > 4 else ""
    return f"Goes out: {_versions(plan) or 'only tokens'}{more}"


def _with_picks(summary: list[str], sheet: TeamSheet) -> str:
    if sheet.picks:
        summary = [*summary, f"{count_text(len(sheet.picks), 'thing')} to pick"]
    return " · ".join(summary)


def _rows(candidates: tuple[SheetRow, ...], worked: tuple[SheetRow, ...]) -> tuple[SheetRow, ...]:
    """The candidates with what was worked out of them; what goes along stands behind."""
    by_part = {row.part: row for row in worked}
    ids = {row.part for row in candidates}
    rows = [by_part.get(row.part, row) for row in candidates]
    return (*rows, *(row for row in worked if row.part not in ids))
