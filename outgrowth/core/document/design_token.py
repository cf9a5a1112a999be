"""Named values: what a file calls its colours, sizes, durations."""

from __future__ import annotations

from typing import Literal

import msgspec
from immutables import Map

from outgrowth.core.document.properties import checked_token
from outgrowth.core.document.types import NumberType, checked_text
from outgrowth.core.document.values import Value
from outgrowth.core.refusal import ValueRefusal, shown_value

TokenKind = Literal["color", "dimension", "number", "duration", "easing", "family", "shadow"]

PLACE = NumberType(0.0, 1_000_000.0, "")
"""Where a token stands among those of its kind."""


class DesignToken(msgspec.Struct, frozen=True, weakref=True):
    """A named value; `value` may be a reference to another token. `modes` are what it is
    instead in some modes of the document (as “dark”). `place` is where it stands among those of
    its kind, by hand; 0 where nobody put it."""

    kind: TokenKind
    value: Value
    description: str = ""
    modes: Map[str, Value] = Map()
    place: float = 0.0
    more: str = ""

    def __post_init__(self) -> None:
        modes = self.modes
        if not isinstance(modes, Map):
            raise ValueRefusal(f"{shown_value(modes)} are no values by their modes.")
        for mode, value in modes.items():
            modes = modes.set(mode, checked_token(self.kind, value))
        fields: dict[str, object] = {
            "value": checked_token(self.kind, self.value),
            "place": PLACE.check(self.place),
            "description": checked_text(self.description),
            "modes": modes if modes != self.modes else self.modes,
        }
        for name, checked in fields.items():
            if getattr(self, name) is not checked:
                msgspec.structs.force_setattr(self, name, checked)
