"""Words of the whole file: replaced where they were chosen, as one step."""

from __future__ import annotations

from collections.abc import Collection

from outgrowth.core.edits.words import Search, Stated, replace_words
from outgrowth.workspace.workspace import Workspace


def replace(
    workspace: Workspace, search: Search, replacement: str, chosen: Collection[Stated]
) -> bool:
    """Replaces what was looked for at the chosen places; False if nothing could be done."""
    if not chosen:
        return False
    return workspace.edit(
        f"replace “{search.text}” by “{replacement}”",
        lambda document: replace_words(document, search, replacement, chosen),
    )
