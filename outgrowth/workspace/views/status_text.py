"""What the window says about the work: where one is, what is selected, what is missing."""

from __future__ import annotations

from outgrowth.core.document.uses import families
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace import Workspace, measures


def location_text(workspace: Workspace) -> str:
    """ "Controls / Button › label": the owner on the bench, and the way to the selection."""
    owner = workspace.owner
    if owner is None:
        return ""
    parts = [" / ".join(owner.name.split("/"))]
    path = workspace.selection.path or ()
    for depth in range(1, len(path) + 1):
        place = Place(owner.id, path[:depth], workspace.selection.variant, workspace.rooms)
        parts.append(_called(workspace, place))
    bold = f"<b>{parts[-1]}</b>"
    return " › ".join([*parts[:-1], bold])


def _called(workspace: Workspace, place: Place) -> str:
    """An instance by its own name, not by that of its component's root."""
    inspection = inspect(workspace.document, place)
    if inspection is None:
        return ""
    return inspection.instance.name if inspection.instance is not None else inspection.node.name


def missing_fonts_text(workspace: Workspace) -> str:
    """Which typefaces of the file are not at hand; empty if all are."""
    missing = sorted(f for f in families(workspace.document) if workspace.engine.fonts.missing(f))
    if not missing:
        return ""
    named = ", ".join(f"“{family}”" for family in missing)
    return f"!  {named} {'is' if len(missing) == 1 else 'are'} not on this machine"


def count_text(count: int, noun: str) -> str:
    """A number of things: “1 screen”, “2 screens”."""
    return f"{count:,} {noun}{'' if count == 1 else 's'}"


def selection_text(workspace: Workspace) -> str:
    """What is selected, how large it is and where it stands, in px."""
    several = len(workspace.selection.paths)
    if several > 1:
        return f"{several} parts selected"
    located = measures.located(workspace)
    if located is None:
        return "Nothing selected"
    rect = located.rect
    name = located.names[-1] if located.path else "whole"
    return f"{name} · {rect.width:.4g} × {rect.height:.4g} at {rect.x:.4g}, {rect.y:.4g}"


def use_text(workspace: Workspace) -> str:
    """How often the component on the bench is seen on screens, as the Library and the bar count
    it; of one that no screen shows, in how many places it was put. "" for a screen."""
    if workspace.component is None:
        return ""
    component_id = workspace.component.id
    count = measures.instances_of(workspace)[component_id]
    if count:
        return count_text(count, "instance")
    places = measures.places_of(workspace, component_id)
    return f"in {count_text(places, 'place')}, on no screen" if places else "not used yet"
