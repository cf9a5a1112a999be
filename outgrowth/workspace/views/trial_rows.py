"""A sheet of trials, as its bench lays it out: a block for each variant, in it a row for each
content and a column for each room."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from outgrowth.core.document.keeping import KeptTrial
from outgrowth.core.document.records import Component, Owner
from outgrowth.core.document.variants import Variant, condition_text
from outgrowth.core.trials.breaks import KINDS
from outgrowth.core.trials.contents import TrialContent
from outgrowth.core.trials.rooms import Room
from outgrowth.core.trials.sheet import Trial, TrialCell, kept


class VariantBlock(NamedTuple):
    """One variant's part of a sheet. `cells` are by content and room, None where a cell is still
    to come."""

    title: str
    contents: tuple[TrialContent, ...]
    rooms: tuple[Room, ...]
    cells: tuple[tuple[TrialCell | None, ...], ...]


def blocks(
    owner: Owner, trials: Sequence[Trial], cells: Iterable[TrialCell | None]
) -> list[VariantBlock]:
    """A sheet's blocks; `cells` are those that are done, in the order of the trials."""
    finished = dict(zip(trials, cells, strict=False))
    faces = list(dict.fromkeys(trial.variant for trial in trials))
    contents = tuple(dict.fromkeys(trial.content for trial in trials))
    rooms = tuple(dict.fromkeys(trial.room for trial in trials))
    return [
        VariantBlock(
            face_title(owner, face),
            contents,
            rooms,
            tuple(
                tuple(finished.get(Trial(face, content, room)) for room in rooms)
                for content in contents
            ),
        )
        for face in faces
    ]


def only_broken(block: VariantBlock) -> VariantBlock:
    """A block without the rows and columns in which nothing breaks."""
    rows = [n for n, row in enumerate(block.cells) if any(c and c.new for c in row)]
    columns = [
        n
        for n in range(len(block.rooms))
        if any((cell := block.cells[row][n]) is not None and cell.new for row in rows)
    ]
    return VariantBlock(
        block.title,
        tuple(block.contents[n] for n in rows),
        tuple(block.rooms[n] for n in columns),
        tuple(tuple(block.cells[row][n] for n in columns) for row in rows),
    )


def face_title(owner: Owner, variant: Variant) -> str:
    """A variant in words; a screen's name."""
    name = owner.short_name
    if not isinstance(owner, Component) or not owner.axes:
        return name
    return f"{name} at {condition_text(owner, variant)}"


def caption(cell: TrialCell) -> str:
    """What breaks in a cell, in a few words; nothing where it holds."""
    return ", ".join(dict.fromkeys(KINDS[item.kind] for item in cell.new))


def cell_title(owner: Owner, cell: TrialCell) -> str:
    """What a cell tries, in words."""
    content, room = cell.trial.content.title, cell.trial.room.title
    return f"{content} · {room[0].lower()}{room[1:]}"


def progress_text(finished: int, total: int, failing: int) -> str:
    """How far a sheet is."""
    count = f"{total:,} were tried" if finished >= total else f"{finished:,} of {total:,} tried"
    return f"{count}, {failing:,} break" if failing else f"{count}, all hold" if finished else count


def is_kept(owner: Owner, checks: Sequence[KeptTrial], trial: Trial) -> bool:
    """Whether the file keeps a trial."""
    return any(check.key == kept(owner, trial).key for check in checks)
