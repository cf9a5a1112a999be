"""What a file keeps of how it was looked at: findings that were waived, each with its reason,
and trials that every later edit is tried against.

Both are sets: what stands in a file twice stands in the document once, in one order.
"""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.cues import CHOSEN, Path, checked_conditions, checked_path
from outgrowth.core.document.types import NumberType, checked_name, checked_text
from outgrowth.core.document.values import Literals
from outgrowth.core.refusal import ValueRefusal

WIDTH = NumberType(0.0, 100_000.0)
"""Px that a room may be wide; 0 is a room of the part's own."""


ALL = "*"
"""As what a waiver is about, at no node: all findings of the kind in its owner."""


class Waiver(msgspec.Struct, frozen=True):
    """That a finding is left as it is, and why: of which kind, at which node of which owner
    ("" for the file), about what of it (a property, a token, an axis), or `ALL` of its kind."""

    owner: str
    kind: str
    node: Path
    about: str
    reason: str
    more: str = ""

    def __post_init__(self) -> None:
        for name in ("owner", "kind", "about"):
            _set(self, name, checked_name(getattr(self, name), "id"))
        _set(self, "node", checked_path(self.node))
        _set(self, "reason", checked_text(self.reason))
        if not self.reason.strip():
            raise ValueRefusal("A finding is waived with a reason.")

    @property
    def key(self) -> tuple[str, str, Path, str]:
        """What is waived: there is one reason for it."""
        return self.owner, self.kind, self.node, self.about


class KeptTrial(msgspec.Struct, frozen=True):
    """A trial that is kept: which owner, in which of its variants, with which content, in which
    room.

    content  a shipped content's name, or one of the designer's own: then `words` holds it, by
             the ids of component properties (of a screen: of its parts)
    room     a shipped room's name; for “width”, `width` says how wide (px)
    """

    owner: str
    content: str
    room: str
    variant: Map[str, str] = Map()
    width: float = 0.0
    words: Map[str, Literals] = Map()
    more: str = ""

    def __post_init__(self) -> None:
        for name in ("owner", "content", "room"):
            _set(self, name, checked_name(getattr(self, name), "id"))
        _set(self, "variant", checked_conditions(self.variant))
        _set(self, "width", WIDTH.check(self.width))
        for key, value in self.words.items():
            clean, said = checked_name(key, "id"), CHOSEN.check(value)
            if clean != key or said is not value:
                _set(self, "words", self.words.delete(key).set(clean, said))

    @property
    def key(self) -> tuple[str, tuple[tuple[str, str], ...], str, str, float]:
        """What is tried: there is one trial of it."""
        conditions = tuple(sorted(self.variant.items()))
        return self.owner, conditions, self.content, self.room, self.width


class Keeping(msgspec.Struct, frozen=True):
    """All that a file keeps of Review and Trials."""

    waivers: tuple[Waiver, ...] = ()
    checks: tuple[KeptTrial, ...] = ()
    more: str = ""

    def __post_init__(self) -> None:
        waivers = {waiver.key: waiver for waiver in self.waivers}
        checks = {check.key: check for check in self.checks}
        _set(self, "waivers", tuple(waivers[key] for key in sorted(waivers)))
        _set(self, "checks", tuple(checks[key] for key in sorted(checks)))


def _set(record: msgspec.Struct, name: str, value: object) -> None:
    if getattr(record, name) != value or type(getattr(record, name)) is not type(value):
        msgspec.structs.force_setattr(record, name, value)


NOTHING = Keeping()
"""Nothing was waived, nothing is kept."""
