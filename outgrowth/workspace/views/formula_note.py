"""What a formula comes to for the selected part, in words, while it is typed."""

from __future__ import annotations

from outgrowth.core.document.formulas import explained
from outgrowth.core.refusal import Refusal
from outgrowth.workspace import measures
from outgrowth.workspace.workspace import Workspace


def formula_note(workspace: Workspace, name: str, text: str) -> str:
    """What a formula for a size of the selected part (`name`: width, min-height …) comes to where
    it stands, or what is wrong with it so far."""
    measured = measures.measured(workspace)
    room = 0.0
    if measured is not None:
        room = measured[2] if name.endswith("width") else measured[3]
    try:
        return explained(text, room or None, measures.zero_width(workspace))
    except Refusal as problem:
        return str(problem)
