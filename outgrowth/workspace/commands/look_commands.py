"""A look of the selected part gets a name, and what looks the same is offered to follow it."""

from __future__ import annotations

from functools import partial

from outgrowth.core.document.values import Value
from outgrowth.core.edits.named_looks import Look, alike, follow_look, look_of, name_look
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace.commands.token_commands import free_path, path_word
from outgrowth.workspace.workspace import Workspace


def look_here(workspace: Workspace, look: Look) -> dict[str, Value]:
    """The look of the selected part; nothing where it has none that could be named."""
    place = workspace.place
    if place is None or len(workspace.selection.paths) != 1 or len(place.path) > 1:
        return {}
    inspection = inspect(workspace.document, place)
    return look_of(inspection, look) if inspection is not None else {}


def name_this(workspace: Workspace, look: Look) -> str:
    """Makes tokens of the selected part's look, which it refers to in all variants; offers the
    parts that look the same. What the look is called, "" where nothing was made."""
    values, place = look_here(workspace, look), workspace.place
    if not values or place is None:
        return ""
    inspection = inspect(workspace.document, place)
    part = inspection.node.name if inspection is not None else look
    group = free_path(workspace.document, f"{look}.{path_word(part)}")
    others = alike(workspace.document, look, values, place)
    if not workspace.edit(
        f"name the {look} {group}",
        lambda document: name_look(document, look, group, values, place),
    ):
        return ""
    if others:
        count = "one other part looks" if len(others) == 1 else f"{len(others)} other parts look"
        sentence = f"It is {group} now; {count} the same."
        title = "Let it follow" if len(others) == 1 else "Let them follow"
        workspace.make_offer(sentence, title, partial(_follow, workspace, look, group, others))
    return group


def _follow(workspace: Workspace, look: Look, group: str, places: list[Place]) -> None:
    tokens = workspace.document.tokens
    members = [path.removeprefix(f"{group}.") for path in tokens if path.startswith(f"{group}.")]
    workspace.edit(
        f"let {len(places)} follow {group}",
        lambda document: follow_look(document, look, group, members, places),
    )
