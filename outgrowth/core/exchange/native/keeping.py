"""The fields of what a file keeps of Review and Trials."""

from __future__ import annotations

from typing import Any

from outgrowth.core.document.cues import CHOSEN
from outgrowth.core.document.keeping import WIDTH, Keeping, KeptTrial, Waiver
from outgrowth.core.exchange.native.behaviour import CONDITIONS, TEXT, TEXTS
from outgrowth.core.exchange.native.codec import ByKey, Many, Record, Typed, field

_WAIVER = Record(
    Waiver,
    field("owner", TEXT, ""),
    field("kind", TEXT),
    field("node", TEXTS, ()),
    field("about", TEXT, ""),
    field("reason", TEXT),
    more=True,
)
_CHECK = Record(
    KeptTrial,
    field("owner", TEXT),
    field("content", TEXT),
    field("room", TEXT),
    field("variant", CONDITIONS),
    field("width", Typed(WIDTH)),
    field("words", ByKey(Typed(CHOSEN))),
    more=True,
)
KEEPING = Record(
    Keeping,
    field("waivers", Many(_WAIVER)),
    field("checks", Many(_CHECK)),
    more=True,
)

RECORDS: tuple[Record[Any], ...] = (_WAIVER, _CHECK, KEEPING)
"""The records of this file, each with its one list of fields."""
