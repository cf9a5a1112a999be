"""What is laid out, and what an edit would reach, asked of a workspace."""

from __future__ import annotations

import time
from collections import Counter

from outgrowth.core.document.grid_areas import areas
from outgrowth.core.document.records import Document, Path
from outgrowth.core.document.uses import uses
from outgrowth.core.document.values import Literals
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits.at_reach import Standing, holder_of
from outgrowth.core.edits.variants.reach import Reached, landing
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.placed import Lines
from outgrowth.core.layout.rectangles import Located, locate_some, room_around
from outgrowth.core.layout.sizes import text_style
from outgrowth.core.resolve.ladder import inspect, value_at
from outgrowth.core.resolve.scene_paths import positions_of
from outgrowth.workspace.workspace import Workspace


def reached_variants(workspace: Workspace, names: tuple[str, ...] = ()) -> tuple[Variant, ...]:
    """The variants that an edit of these properties at the present reach would change."""
    component = workspace.component
    if component is None:
        return ()
    return landing(component, workspace.selection.path or (), names, workspace.reach)


def reached(workspace: Workspace, names: tuple[str, ...] = ()) -> Reached:
    """What an edit of these properties at the present reach would touch."""
    component = workspace.component
    if component is None:
        return Reached((), 0, 0, 0)
    reached = reached_variants(workspace, names)
    return workspace.engine.census.reached(workspace.document, component, reached)


_SLICE_S = 0.008
"""Counting takes no more of a frame than that."""


def is_counted(workspace: Workspace) -> bool:
    """Counts the instances of the file for a moment; whether all are counted now."""
    until = time.perf_counter() + _SLICE_S
    return workspace.engine.census.count(workspace.document, until)


def instances_of(workspace: Workspace) -> Counter[str]:
    """How many instances of each component are seen on the screens of the file, nested ones
    counted wherever they show: what the Library, the bar and the status line say."""
    return workspace.engine.census.instances(workspace.document)


def places_of(workspace: Workspace, component_id: str) -> int:
    """In how many places of the file's trees an instance of a component was put: of one in a card
    that stands three times on screens, one."""
    return len(uses(workspace.document, component_id))


def located(workspace: Workspace) -> Located | None:
    """The selected node in the layout of its owner; None if it is not shown."""
    owner = workspace.owner
    if owner is None or workspace.selection.path is None:
        return None
    view = workspace.engine.view(workspace.document, owner.id, workspace.selection.variant)
    path = workspace.selection.path
    return next(locate_some(*view, owner.name, (path,)), None)


def measured(workspace: Workspace) -> tuple[float, float, float, float] | None:
    """The laid-out width and height of the selected node in px, and those of the room inside
    of what holds it (0 for one that nothing holds)."""
    selected, owner = located(workspace), workspace.owner
    if selected is None or owner is None:
        return None
    view = workspace.engine.view(workspace.document, owner.id, workspace.selection.variant)
    room = room_around(*view, workspace.selection.path or ())
    return selected.rect.width, selected.rect.height, *room


def zero_width(workspace: Workspace) -> float:
    """How wide a "0" is in the letters of the selected node (px), which is what a ch is; 0 where
    it is not shown."""
    selected = located(workspace)
    if selected is None:
        return 0.0
    return workspace.engine.layout.typesetter.zero(text_style(selected.scene.layout))


def standing_of(workspace: Workspace, document: Document, path: Path) -> Standing | None:
    """Where a part of what is on the bench stands in the box that holds it, in a document and
    in the variant at hand; None for the outermost part and for a hidden one."""
    owner, variant = workspace.selection.owner, workspace.selection.variant
    scene, placed = workspace.engine.view(document, owner, variant)
    route = positions_of(scene, path)
    if not route:
        return None
    for n in route[:-1]:
        scene, placed = scene.children[n], placed.children[n]
    last = route[-1]
    child = placed.children[last]
    rect = Rect(placed.xs[last], placed.ys[last], child.width, child.height)
    return Standing(rect, (placed.width, placed.height))


def stands_free(workspace: Workspace) -> bool:
    """Whether the selected part is placed by its insets: in a free box, or floating."""
    place = workspace.place
    inspection = inspect(workspace.document, place) if place is not None else None
    if place is None or inspection is None:
        return False
    if inspection.value("floating") is True:
        return True
    holder = holder_of(workspace.document, place)
    if holder is None:
        return False
    return value_at(workspace.document, place._replace(path=holder), "flow") == "free"


def grid_lines(workspace: Workspace) -> tuple[Lines, Lines] | None:
    """Where the columns and the rows of the selected grid begin and end, in px of it."""
    selected = located(workspace)
    return selected.placed.tracks if selected is not None else None


def area_names(workspace: Workspace) -> tuple[str, ...]:
    """The areas of the grid around the selected part, by their names."""
    place = workspace.place
    holder = holder_of(workspace.document, place) if place is not None else None
    if place is None or holder is None:
        return ()
    said = value_at(workspace.document, place._replace(path=holder), "areas")
    return tuple(areas(said).named) if isinstance(said, str) else ()


def value_of(workspace: Workspace, name: str) -> Literals | None:
    """What a property of the selected node is now; None where parts differ."""
    place = workspace.place
    inspection = inspect(workspace.document, place) if place is not None else None
    return inspection.value(name) if inspection is not None else None
