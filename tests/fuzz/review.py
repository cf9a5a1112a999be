"""Random documents looked at again and tried: nothing fails on any of them, what is remembered is
what is found from nothing, and every mend gives a document that can be kept, without its finding
and without other parts being touched; a content that is tried gives one too.
"""

from __future__ import annotations

import random
from collections.abc import Iterator

from outgrowth.core.document.records import Component, Document
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.layout import Layout
from outgrowth.core.refusal import Refusal
from outgrowth.core.review.finding import Finding
from outgrowth.core.review.reviewer import Reviewer
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.core.trials.contents import SHIPPED
from outgrowth.core.trials.rooms import SHIPPED_ROOMS, wide
from outgrowth.core.trials.sheet import Trials, all_trials
from outgrowth.resources import FONTS
from tests.fuzz.edits import World, begin
from tests.fuzz.report import Failure, bad_sentence, told

STEPS, LOOKS, MENDS, TRIALS = 60, 4, 12, 12
WIDE = ("property-unused", "axis-unused", "value-unused", "token-unused", "components-alike")
"""Kinds whose mend says something of other parts by right."""


class Looked:
    """One random document after the other, under one memory."""

    def __init__(self, seed: int) -> None:
        self.seed = seed
        self._chance = random.Random(seed)
        self._layout = Layout(Typesetter(shipped(FONTS)))
        self._kept = Reviewer(self._layout)
        self._trials = Trials(self._layout)

    def run(self) -> Iterator[Failure]:
        """A document under edits, looked at now and then."""
        world = World(self.seed, begin(self.seed))
        for look in range(LOOKS):
            for step in range(STEPS // LOOKS):
                list(world.step(look * STEPS + step))
            try:
                for wrong in self._look(world.document):
                    yield Failure("review", self.seed, wrong, " | ".join(world.trail[-30:]))
            except Exception as problem:
                yield Failure("review", self.seed, told(problem), " | ".join(world.trail[-30:]))

    def _look(self, document: Document) -> Iterator[str]:
        findings = self._kept.findings(document)
        fresh = Reviewer(self._layout).findings(document)
        if [f._replace(mend=None, others=()) for f in findings] != [
            f._replace(mend=None, others=()) for f in fresh
        ]:
            yield "what is remembered is not what is found from nothing"
        mendable = [f for f in findings if f.mend is not None]
        for finding in self._chance.sample(mendable, min(len(mendable), MENDS)):
            yield from self._mend(document, finding)
        yield from self._try(document)

    def _mend(self, document: Document, finding: Finding) -> Iterator[str]:
        assert finding.mend is not None
        try:
            after = finding.mend.change(document)
        except Refusal as problem:
            said = bad_sentence(problem)
            if said:
                yield f"{finding.kind}: {said}"
            return
        if loads(dumps(after).encode(), "mended") != after:
            yield f"{finding.kind}: what is mended is read as another document"
        others = [o for o in document.owners() if o.id != finding.owner]
        if finding.kind not in WIDE and any(after.owner(o.id) is not o for o in others):
            yield f"{finding.kind}: its mend touches other parts"
        left = self._kept.findings(after, (finding.subject,))
        if finding.key in {f.key for f in left}:
            yield f"{finding.kind}: it is still there when it is mended"

    def _try(self, document: Document) -> Iterator[str]:
        owners = list(document.owners())
        if not owners:
            return
        owner = self._chance.choice(owners)
        rooms = (*SHIPPED_ROOMS, wide(self._chance.choice((1.0, 77.0, 5000.0))))
        trials = all_trials(document, owner, SHIPPED, rooms)
        for trial in self._chance.sample(trials, min(len(trials), TRIALS)):
            cell = self._trials.cell(document, owner, trial)
            if cell is None and isinstance(owner, Component):
                yield "a component that cannot be tried"
        self._trials.narrowest(document, owner, self._chance.choice(trials))
