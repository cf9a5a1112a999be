"""How good the review is: of what was planted, how much is found (recall); of what is found anew,
how much was planted (precision); and whether mends do what they say and nothing else.

    python -m tests.core.review.judge
"""

from __future__ import annotations

import random
from dataclasses import dataclass, field

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.layout import Layout
from outgrowth.core.review.finding import Finding
from outgrowth.core.review.reviewer import Reviewer
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from tests.core.review.planting import PLANTS, SIDES, Planted

PLACES = 20


@dataclass
class Counts:
    """Of one kind: planted and missed, findings that were not planted, mends that failed."""

    planted: int = 0
    missed: int = 0
    mended: int = 0
    alarms: list[tuple[str, str, str]] = field(default_factory=list)
    broken: list[str] = field(default_factory=list)


class Judge:
    """Plants, reviews, mends. `clean` is the demo; what is found there is no fault of a plant."""

    def __init__(self) -> None:
        self.clean = ferry_line()
        self._layout = Layout(Typesetter(shipped(FONTS)))
        self._reviewer = Reviewer(self._layout)
        findings = self._reviewer.findings(self.clean)
        self._known = {f.key for f in findings}
        self._told = {(f.key, f.text) for f in findings}

    def planted(self, kind: str, chance: random.Random, places: int) -> Counts:
        """Plants one kind in so many places."""
        counts = Counts()
        while counts.planted < places:
            planted = PLANTS[kind](self.clean, chance)
            if planted is None:
                continue
            counts.planted += 1
            self._one(planted, counts)
        return counts

    def _one(self, planted: Planted, counts: Counts) -> None:
        findings = self._reviewer.findings(planted.document, (planted.subject,))
        new = [f for f in findings if f.key not in self._known]
        others = [f for f in findings if (f.key, f.text) not in self._told]
        mine = [f for f in others if f.kind in planted.kinds and f.owner == planted.owner]
        counts.missed += not mine
        allowed = planted.kinds | SIDES.get(min(planted.kinds), frozenset())
        counts.alarms += [(f.kind, f.owner, f.text) for f in new if f.kind not in allowed]
        for finding in mine[:1]:
            if finding.mend is not None:
                counts.mended += 1
                self._mended(planted, finding, counts)

    def _mended(self, planted: Planted, finding: Finding, counts: Counts) -> None:
        """After its mend the finding is gone, no other came, no other owner is another one, and
        pressed again it changes nothing."""
        document = planted.document
        assert finding.mend is not None
        after = finding.mend.change(document)
        before = {f.key for f in self._reviewer.findings(document, (planted.subject,))}
        left = {f.key for f in self._reviewer.findings(after, (planted.subject,))}
        if finding.key in left:
            counts.broken.append(f"still there: {finding.text}")
        if left - before:
            counts.broken.append(f"{finding.text} came: {sorted(left - before)}")
        if finding.kind not in _WIDE and _others(document, after, finding.owner):
            counts.broken.append(f"others changed: {finding.text}")


_WIDE = {"property-unused", "axis-unused", "value-unused"}
"""Kinds whose mend takes what instances chose with it, as it says."""


def _others(before: Document, after: Document, owner: str) -> bool:
    return any(after.owner(o.id) is not o for o in before.owners() if o.id != owner)


def main() -> None:
    """Prints the table."""
    judge = Judge()
    everywhere: dict[str, int] = {}
    rows: list[tuple[str, Counts]] = []
    for kind in PLANTS:
        counts = judge.planted(kind, random.Random(kind), PLACES)
        rows.append((kind, counts))
        for alarm, _, _ in counts.alarms:
            everywhere[alarm] = everywhere.get(alarm, 0) + 1
    print(f"{'kind':32} planted found recall precision mends failed")  # noqa: T201
    for kind, counts in rows:
        found = counts.planted - counts.missed
        false = everywhere.get(kind, 0)
        print(  # noqa: T201
            f"{kind:32} {counts.planted:7} {found:5} {found / counts.planted:6.2f} "
            f"{found / max(found + false, 1):9.2f} {counts.mended:5} {len(counts.broken):6}"
        )
        for line in (*counts.broken[:2], *[f"alarm {a}" for a in counts.alarms[:2]]):
            print("     ", line)  # noqa: T201


if __name__ == "__main__":
    main()
