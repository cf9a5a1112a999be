"""Trying the part on the bench with contents and rooms, a little at a time."""

from __future__ import annotations

import time
from collections.abc import Sequence

from immutables import Map

from outgrowth.core.document.records import Component, Document, Owner
from outgrowth.core.document.variants import Variant, default_variant
from outgrowth.core.layout import Layout
from outgrowth.core.trials.contents import AS_IS, TrialContent, usual_contents
from outgrowth.core.trials.rooms import OWN_ROOM, Room, rooms_for, wide
from outgrowth.core.trials.sheet import (
    Trial,
    TrialCell,
    Trials,
    all_trials,
    trial_of,
    used_widths,
    widths_of_rooms,
)
from outgrowth.workspace.workspace import Workspace


class Trying:
    """One sheet at a time, of the owner that was on the bench when it was begun. It shares the
    memory of the stages with the window, so it is done on its thread, in slices.

    rows       the designer's own contents, tried after those that ship
    trials     all that is tried, in order; `cells` are those that are done
    narrowest  the narrowest width (px) at which the usual variant works; None until it is known
    kept_only  only the trials that the file keeps of the owner
    """

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._layout: Layout | None = None
        self._stages: Trials | None = None
        self.rows: tuple[TrialContent, ...] = ()
        self.variant_only = True
        self.kept_only = False
        self.owner: Owner | None = None
        self.about: Document | None = None
        self.trials: list[Trial] = []
        self.cells: list[TrialCell | None] = []
        self.narrowest: float | None = None

    @property
    def done(self) -> bool:
        """Whether all is tried, or nothing was asked for."""
        return len(self.cells) >= len(self.trials) and (
            self.narrowest is not None or self.owner is None
        )

    @property
    def broken(self) -> int:
        """In how many of the cells something breaks."""
        return sum(1 for cell in self.cells if cell is not None and cell.new)

    def begin(self) -> None:
        """Begins a sheet of what is on the bench, as it is now."""
        workspace = self._workspace
        layout = workspace.engine.layout
        if self._stages is None or self._layout is not layout:
            self._layout, self._stages = layout, Trials(layout)
        self.about, self.owner = workspace.document, workspace.owner
        self.cells, self.narrowest = [], None
        self.trials = self._wanted(layout) if self.owner is not None else []

    def _wanted(self, layout: Layout) -> list[Trial]:
        document, owner = self._workspace.document, self.owner
        assert owner is not None
        if self.kept_only:
            checks = (check for check in document.keeping.checks if check.owner == owner.id)
            pairs = (trial_of(document, check) for check in checks)
            return [pair[1] for pair in pairs if pair is not None]
        contents = (*usual_contents(document, owner), *self.rows)
        trials = all_trials(document, owner, contents, self._rooms(layout, owner))
        if self.variant_only and isinstance(owner, Component):
            face = self._workspace.selection.variant or default_variant(owner)
            chosen = [trial for trial in trials if trial.variant == face]
            if not chosen:
                usual = [trial for trial in trials if trial.variant == trials[0].variant]
                chosen = [trial._replace(variant=face) for trial in usual]
            return chosen
        return trials

    def _rooms(self, layout: Layout, owner: Owner) -> Sequence[Room]:
        rooms = rooms_for(self._workspace.document)
        if not isinstance(owner, Component):
            return rooms
        engine = self._workspace.engine
        widths = used_widths(self._workspace.document, owner, layout, engine.resolver)
        widths = sorted({*widths, *widths_of_rooms(owner, layout)})
        return (*rooms, *(wide(width) for width in widths[:_MOST_WIDTHS]))

    def advance(self, seconds: float) -> bool:
        """Goes on for about so long; whether there is more to do."""
        end = time.perf_counter() + seconds
        owner, document, stages = self.owner, self.about, self._stages
        if owner is None or document is None or stages is None:
            return False
        while len(self.cells) < len(self.trials):
            self.cells.append(stages.cell(document, owner, self.trials[len(self.cells)]))
            if time.perf_counter() >= end:
                return True
        if self.narrowest is None:
            face = self._usual(owner)
            self.narrowest = stages.narrowest(document, owner, Trial(face, AS_IS, OWN_ROOM))
        return False

    def _usual(self, owner: Owner) -> Variant:
        if self.trials:
            return self.trials[0].variant
        return default_variant(owner) if isinstance(owner, Component) else Map()

    def narrowest_of(self, trial: Trial) -> float:
        """The narrowest width at which one trial works, whatever its room."""
        if self.owner is None or self.about is None or self._stages is None:
            return 0.0
        return self._stages.narrowest(self.about, self.owner, trial)

    def halt(self) -> None:
        """Tries no further; what was tried stays."""
        self.trials = self.trials[: len(self.cells)]
        self.narrowest = self.narrowest or 0.0


_MOST_WIDTHS = 4
