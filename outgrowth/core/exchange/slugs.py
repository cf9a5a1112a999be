"""Names of files, elements and groups, made of what a designer wrote."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable

_LONGEST = 60


def slug(text: str, otherwise: str) -> str:
    """A name in small letters, digits and hyphens, beginning with a letter; `otherwise` where
    nothing of it can be kept."""
    plain = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode()
    plain = re.sub(r"(?<=[a-z0-9])(?=[A-Z])", "-", plain).lower()
    slug_text = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:_LONGEST].strip("-")
    if not slug_text:
        return otherwise
    return slug_text if slug_text[0].isalpha() else f"{otherwise}-{slug_text}"


def free_name(wanted: str, taken: Iterable[str]) -> str:
    """The name, or the first with a number that is not taken."""
    numbered, n = wanted, 1
    while numbered in taken:
        n += 1
        numbered = f"{wanted}-{n}"
    return numbered
