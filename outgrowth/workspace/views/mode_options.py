"""The modes that a part can be shown in."""

from __future__ import annotations

from outgrowth.core.document.records import Document
from outgrowth.core.document.values import USUAL


def mode_options(document: Document, said: str) -> list[tuple[str, str]]:
    """Each choice with its words: as what is around, the usual values, the file's modes; one that
    is said and is not in the file stays to be seen."""
    options = [("", "as around it"), (USUAL, "usual values")]
    options += [(mode, mode) for mode in document.modes if mode != USUAL]
    if said and said not in dict(options):
        options.append((said, f"{said} (not in the file)"))
    return options
