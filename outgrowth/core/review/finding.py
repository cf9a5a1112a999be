"""One thing to point at: what, where, why, how sure, and what would mend it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, NamedTuple

from immutables import Map

from outgrowth.core.document.records import Document, Path
from outgrowth.core.document.variants import Variant

ReviewSubject = Literal[
    "contrast", "targets", "states", "names", "system", "rules", "layout", "hand-over", "trials"
]
SUBJECTS: tuple[ReviewSubject, ...] = (
    "contrast", "targets", "states", "names", "system", "rules", "layout", "hand-over", "trials",
)  # fmt: skip
Sure = Literal["error", "likely", "maybe"]
"""Wrong by the source; wrong unless it was meant; worth a look."""
PRACTICE = "common practice, no source"


class Mend(NamedTuple):
    """What would take a finding away: in a few words, and the edit."""

    title: str
    change: Callable[[Document], Document]


class Finding(NamedTuple):
    """`kind` names the check; `owner` and `node` lead there (an empty path is the whole, no
    owner the file); `about` says which of several of the kind there it is (a property, a token,
    an axis); `others` are mends that would do as well; `variant` is the one in which it is seen,
    where it is not seen in all; `source` is the standard and its section, or common practice."""

    subject: ReviewSubject
    kind: str
    owner: str
    node: Path
    text: str
    source: str
    sure: Sure = "likely"
    mend: Mend | None = None
    about: str = ""
    variant: Variant = Map()
    others: tuple[Mend, ...] = ()

    @property
    def key(self) -> tuple[str, str, Path, str]:
        """What stays the same as long as it is the same finding, whatever its numbers: by this
        it is waived (`document.keeping.Waiver.key`)."""
        return self.owner, self.kind, self.node, self.about
