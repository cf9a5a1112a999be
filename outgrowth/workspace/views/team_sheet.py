"""What the team bench shows: parts with what changes in them, screens, what is to be picked."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import NamedTuple

from outgrowth.core.document.records import Component, Document
from outgrowth.core.document.variants import default_variant
from outgrowth.core.exchange.fonts import carried
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.difference import level_of
from outgrowth.core.team.facts import FactKey
from outgrowth.core.team.merge import Disagreement, Picks, Side
from outgrowth.core.team.pictures import DocumentDrawer, Pair, SizedFragment, changed_variants
from outgrowth.core.team.publishing import PartToPublish, PublishingPlan
from outgrowth.core.team.report import Chapter
from outgrowth.core.team.store import Progress
from outgrowth.core.team.taking import TakenIn
from outgrowth.core.text.fonts import FontBook
from outgrowth.workspace.views.comparison import compared
from outgrowth.workspace.views.difference_text import DifferenceWords, plan_wording

MOST_PICKS = 200
"""Disagreements that are shown one by one; whoever has more picks a side for all."""


class SheetRow(NamedTuple):
    """A part in the list: its id, what it is called, its versions; of one that is published the
    level that is proposed, and the difference that asks for it."""

    part: str
    name: str
    detail: str
    level: str = ""
    reason: str = ""


class PickRow(NamedTuple):
    """Something that both sides say otherwise, with a picture of what each would give."""

    key: FactKey
    text: str
    side: Side
    ours: SizedFragment | None = None
    theirs: SizedFragment | None = None


class TeamSheet(NamedTuple):
    """One comparison, ready to be shown.

    rows           the parts
    chapters       what differs in each, by its id; other parts of the file that look different
                   have one too
    screens        the screens that look different, with the places
    picks          what is to be picked
    set_aside      what instances lose for now, a line each
    before, after  the documents, for the pictures in them
    """

    rows: tuple[SheetRow, ...]
    chapters: dict[str, Chapter]
    screens: tuple[Pair, ...]
    picks: tuple[PickRow, ...]
    set_aside: tuple[str, ...]
    before: Document
    after: Document


def take_sheet(
    document: Document,
    taken_in: TakenIn,
    again: Callable[[Picks], Document],
    picks: Picks,
    fonts: FontBook,
    progress: Progress,
) -> TeamSheet:
    """What taking in would change in a file; `again` works it out with other picks."""
    rows = [
        SheetRow(part.component, part.name, f"{part.old or 'new'} → {part.new}")
        for part in taken_in.parts
    ]
    set_aside = [
        f"{owner.name if (owner := taken_in.document.owner(lost.owner)) else lost.owner}: "
        f"{lost.description}"
        for lost in taken_in.set_aside
    ]
    sides = document, taken_in.document
    return _sheet(rows, sides, (taken_in.disagreements, again, picks), set_aside, fonts, progress)


def publish_sheet(
    plan: PublishingPlan,
    again: Callable[[Picks], Document],
    picks: Picks,
    fonts: FontBook,
    progress: Progress,
) -> TeamSheet:
    """What publishing would change in a library."""
    rows = [
        SheetRow(
            part.component,
            part.name,
            f"{part.old or 'new'} → {part.version}" + (" (goes along)" if part.along else ""),
            part.proposed if part.old else "",
            _reason(plan, part),
        )
        for part in plan.parts
    ]
    sides = plan.state.document, plan.document
    return _sheet(rows, sides, (plan.disagreements, again, picks), [], fonts, progress)


def _reason(plan: PublishingPlan, part: PartToPublish) -> str:
    """The first of the differences that raise the version so far."""
    raising = (change for change in part.changes if level_of(change) == part.proposed)
    first = next(raising, None)
    return plan_wording(plan, first) if first is not None and part.old else ""


def merge_sheet(
    ours: Document,
    merged: Document,
    disagreements: tuple[Disagreement, ...],
    again: Callable[[Picks], Document],
    picks: Picks,
    fonts: FontBook,
    progress: Progress,
) -> TeamSheet:
    """What bringing another program's changes together with ours would change."""
    sheet = _sheet([], (ours, merged), (disagreements, again, picks), [], fonts, progress)
    rows = [SheetRow(owner, chapter.name, "") for owner, chapter in sheet.chapters.items()]
    return sheet._replace(rows=tuple(rows))


def _sheet(
    rows: Iterable[SheetRow],
    sides: tuple[Document, Document],
    disputed: tuple[tuple[Disagreement, ...], Callable[[Picks], Document], Picks],
    set_aside: list[str],
    fonts: FontBook,
    progress: Progress,
) -> TeamSheet:
    before, after = sides
    chapters = compared(before, after, fonts, progress)
    on_screens = {*before.screens, *after.screens}
    screens = [pair for c in chapters if c.owner in on_screens for pair in c.pairs]
    return TeamSheet(
        tuple(rows),
        {c.owner: c for c in chapters},
        tuple(screens),
        tuple(_picks(after, disputed, fonts, progress)),
        tuple(dict.fromkeys(set_aside)),
        before,
        after,
    )


def _picks(
    merged: Document,
    disputed: tuple[tuple[Disagreement, ...], Callable[[Picks], Document], Picks],
    fonts: FontBook,
    progress: Progress,
) -> Iterable[PickRow]:
    """Each disagreement with both of its outcomes, drawn where they differ."""
    disagreements, again, picks = disputed
    book = fonts.also(carried(merged.assets))
    for changes in disagreements[:MOST_PICKS]:
        progress("Drawing both sides …")
        side = picks.get(changes.key, "ours")
        try:
            ours = again({**picks, changes.key: "ours"})
            theirs = again({**picks, changes.key: "theirs"})
        except Refusal:
            continue
        words = DifferenceWords(ours, theirs).disagreement(changes)
        _, subject, *_ = changes.key
        yield PickRow(changes.key, words, side, *_pictures(ours, theirs, str(subject), book))


def _pictures(
    ours: Document, theirs: Document, owner_id: str, fonts: FontBook
) -> tuple[SizedFragment | None, SizedFragment | None]:
    """An owner in the first variant that the two sides draw otherwise."""
    drawings = DocumentDrawer(ours, fonts), DocumentDrawer(theirs, fonts)
    if owner_id in ours.components or owner_id in theirs.components:
        pair = next(iter(changed_variants(*drawings, owner_id)), None)
        if pair is not None:
            return pair.before, pair.after
    return tuple(_drawn(drawing, owner_id) for drawing in drawings)  # type: ignore[return-value]  # two


def _drawn(drawing: DocumentDrawer, owner_id: str) -> SizedFragment | None:
    owner = drawing.document.owner(owner_id)
    if owner is None:
        return None
    if isinstance(owner, Component):
        return drawing.variant(owner_id, default_variant(owner))
    return drawing.screen(owner)


def variants_text(pairs: Sequence[Pair]) -> str:
    """How many variants look different, are new or are gone."""
    words = []
    for number, state in (
        (sum(1 for pair in pairs if pair.before and pair.after), "different"),
        (sum(1 for pair in pairs if not pair.before), "new"),
        (sum(1 for pair in pairs if not pair.after), "gone"),
    ):
        if number:
            words.append(f"{number} {state}")
    return f"Variants: {', '.join(words)}"


def news_text(count: int) -> str:
    """How many parts have newer versions; "" for none."""
    if not count:
        return ""
    return "1 part has a newer version" if count == 1 else f"{count} parts have newer versions"
