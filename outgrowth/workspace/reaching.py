"""What edits of a workspace reach, as the core takes it and in words: what a step is called that
holds in some variants, or that cannot differ from one to another."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.variants import condition_text, offered_count
from outgrowth.core.edits.at_reach import Reach, is_narrowed
from outgrowth.workspace.workspace import Workspace


def reach_of(workspace: Workspace) -> Reach:
    """Where an edit of the workspace holds."""
    when = workspace.reach if workspace.component is not None else Map()
    return Reach(workspace.selection.owner, when, workspace.selection.variant, workspace.rooms)


def narrowed(workspace: Workspace) -> bool:
    """Whether some variant lies outside of the reach."""
    return is_narrowed(workspace.document, reach_of(workspace))


def conditions(workspace: Workspace) -> str:
    """The reach by its values: “State: hover”; empty where all variants are reached."""
    component = workspace.component
    if component is None or not narrowed(workspace):
        return ""
    return condition_text(component, workspace.reach)


def here(workspace: Workspace) -> str:
    """What the name of a step ends in that holds within the reach only: “, State: hover”."""
    text = conditions(workspace)
    return f", {text}" if text else ""


def in_all(workspace: Workspace) -> str:
    """What the name of a step ends in that holds in all variants though the reach is
    narrower: “, in all 3 variants”."""
    if not narrowed(workspace):
        return ""
    return f", {all_variants(workspace)}"


def all_variants(workspace: Workspace) -> str:
    """“in all 3 variants”, of the component on the bench."""
    component = workspace.component
    count = offered_count(component) if component is not None else 1
    return "in both variants" if count == 2 else f"in all {count} variants"
