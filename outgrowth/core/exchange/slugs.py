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
    result = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:_LONGEST].strip("-")
    if not result:
        return otherwise
    return result if result[0].isalpha() else f"{otherwise}-{result}"


def free_name(wanted: str, taken: Iterable[str]) -> str:
    """The name, or the first with a number that is not taken."""
    result, n = wanted, 1
    while result in taken:
        n += 1
        result = f"{wanted}-{n}"
    return result
