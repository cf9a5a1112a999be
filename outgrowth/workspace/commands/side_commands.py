"""Left and right as the start and end of lines: of what is on the bench, or of the whole file."""

from __future__ import annotations

from outgrowth.core.document.records import Document
from outgrowth.core.edits.sides import goes_by_lines, turned_to_lines, turned_to_sides
from outgrowth.workspace.workspace import Workspace


def turn_sides(workspace: Workspace) -> None:
    """Lets left and right of what is on the bench be the start and end of lines; where they are
    already, themselves again. From left to right nothing looks otherwise."""
    owner = workspace.owner
    if owner is None:
        return
    if goes_by_lines(owner):
        back = lambda document: turned_to_sides(document, (owner.id,))  # noqa: E731  # an edit
        workspace.edit(f"let the sides of {owner.short_name} be left and right", back)
    else:
        change = lambda document: turned_to_lines(document, (owner.id,))  # noqa: E731  # an edit
        workspace.edit(f"let the sides of {owner.short_name} go by the lines", change)


def turn_all_sides(workspace: Workspace) -> None:
    """The same for the whole file."""

    def change(document: Document) -> Document:
        return turned_to_lines(document, [owner.id for owner in document.owners()])

    workspace.edit("let all sides go by the lines", change)
