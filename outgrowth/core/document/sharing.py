"""What a file shares with libraries: which ones it knows, and where its parts come from.

A part that was taken in stands in the file whole, so that the file opens with no library at
hand; its origin says which version of it that is.
"""

from __future__ import annotations

import re

import msgspec
from immutables import Map

from outgrowth.core.document.design_token import DesignToken
from outgrowth.core.document.types import checked_name
from outgrowth.core.refusal import ValueRefusal, shown_value

# Source: Semantic Versioning 2.0.0, item 2; a person can read numbers of six digits.
_VERSION = re.compile(r"(0|[1-9]\d{0,5})\.(0|[1-9]\d{0,5})\.(0|[1-9]\d{0,5})")
# Source: git's object names, SHA-1 or SHA-256, in hexadecimal; "" for none.
_COMMIT = re.compile(r"(|[0-9a-f]{40}|[0-9a-f]{64})")


class Library(msgspec.Struct, frozen=True):
    """A library by its id (made once, kept for good), its name and where it was last."""

    id: str
    name: str
    address: str
    more: str = ""

    def __post_init__(self) -> None:
        for name, value in (
            ("id", checked_name(self.id, "id")),
            ("name", checked_name(self.name)),
            ("address", checked_name(self.address)),
        ):
            if getattr(self, name) is not value:
                msgspec.structs.force_setattr(self, name, value)


class Origin(msgspec.Struct, frozen=True):
    """Where a component comes from: the library's id, the version, and the commit that holds
    it. `own` says that it is worked on in this file and published from here; else it is
    read-only here."""

    library: str
    version: str
    commit: str = ""
    own: bool = False
    more: str = ""

    def __post_init__(self) -> None:
        if not isinstance(self.version, str) or not _VERSION.fullmatch(self.version):
            raise ValueRefusal(f"{shown_value(self.version)} is no version like 1.2.0.")
        if not isinstance(self.commit, str) or not _COMMIT.fullmatch(self.commit):
            raise ValueRefusal(f"{shown_value(self.commit)} is no commit of a library.")
        library = checked_name(self.library, "id")
        if library is not self.library:
            msgspec.structs.force_setattr(self, "library", library)


class TokenOrigin(msgspec.Struct, frozen=True):
    """The library that a token comes from, and what it was there when it was taken in: so
    what the file changed since is told from what the library changed."""

    library: str
    token: DesignToken
    more: str = ""


class Sharing(msgspec.Struct, frozen=True):
    """All that a file shares. `origins` are by component, `tokens` by path."""

    libraries: tuple[Library, ...] = ()
    origins: Map[str, Origin] = Map()
    tokens: Map[str, TokenOrigin] = Map()
    more: str = ""

    def library(self, library_id: str) -> Library | None:
        """The library with an id, None if the file knows none."""
        return next((known for known in self.libraries if known.id == library_id), None)

    def read_only(self, component_id: str) -> bool:
        """Whether a component was taken in, and is worked on elsewhere."""
        origin = self.origins.get(component_id)
        return origin is not None and not origin.own


ALONE = Sharing()
