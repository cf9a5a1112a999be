"""Values of the selected nodes: set at the present reach, tried while dragging, put back."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial

from outgrowth.core.document.properties import FAMILY_OF, applies, row_of
from outgrowth.core.document.records import Document
from outgrowth.core.document.values import Value
from outgrowth.core.document.variants import condition_text
from outgrowth.core.edits.at_reach import keeps_standing, set_standing, set_values
from outgrowth.core.edits.style import styles
from outgrowth.core.edits.style.styles import put_back_instance
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.cascade import Source
from outgrowth.core.resolve.ladder import Place, inspect, ladder, node_at
from outgrowth.workspace import measures
from outgrowth.workspace.reaching import reach_of
from outgrowth.workspace.workspace import Edit, Workspace


def selected_places(workspace: Workspace) -> tuple[Place, ...]:
    """Where the selected parts stand. Raises Refusal where nothing is selected."""
    if not workspace.places:
        raise Refusal("Nothing is selected, so nothing was changed.")
    return workspace.places


def style_edit(workspace: Workspace, values: Mapping[str, Value], fitting: bool = False) -> Edit:
    """The edit that sets properties of the selected nodes at the present reach; where
    several are selected (or `fitting`), those that a property means nothing for are
    left alone."""
    places = selected_places(workspace)
    reach = reach_of(workspace)
    several = fitting or len(places) > 1

    def change(document: Document) -> Document:
        for place in places:
            fitting_values = _fitting(workspace, place, values) if several else values
            if keeps_standing(fitting_values):
                standing = partial(measures.standing_of, workspace)
                document = set_standing(document, reach, place.path, fitting_values, standing)
            else:
                document = set_values(document, reach, place.path, fitting_values)
        return document

    return change


def _fitting(
    workspace: Workspace, place: Place, values: Mapping[str, Value]
) -> Mapping[str, Value]:
    inspection = inspect(workspace.document, place)
    if inspection is None:
        return {}
    kinds = {
        inspection.node.kind,
        "instance" if inspection.instance is not None else inspection.node.kind,
    }
    return {n: v for n, v in values.items() if any(applies(n, kind) for kind in kinds)}


def drag_style(workspace: Workspace, values: Mapping[str, Value]) -> None:
    """Shows what setting properties of the selected node would do."""
    if workspace.place is not None:
        workspace.drag(style_edit(workspace, values))


def set_style(workspace: Workspace, values: Mapping[str, Value], together: bool = False) -> bool:
    """Sets properties of the selected node at the present reach, as one step."""
    try:
        edit = style_edit(workspace, values)
    except Refusal as problem:
        workspace.failed.emit(str(problem))
        return False
    return workspace.edit(style_step(workspace, values), edit, together)


def style_step(workspace: Workspace, values: Mapping[str, Value]) -> str:
    """What undo calls such an edit: “fill of button, State: hover”."""
    labels = dict.fromkeys(_label(name) for name in values)
    place = workspace.place
    node = node_at(workspace.document, place) if place else None
    subject = node.name if node else "nothing"
    if workspace.selection.others:
        subject = f"{len(workspace.selection.paths)} parts"
    suffix = (
        f", {condition_text(workspace.component, workspace.reach)}"
        if workspace.component and workspace.reach
        else ""
    )
    return f"{' and '.join(labels)} of {subject}{suffix}"


def put_back(workspace: Workspace, name: str, source: Source) -> None:
    """Takes one step of a ladder out."""
    workspace.edit(
        f"put back {_label(name)}", lambda document: styles.put_back(document, name, source)
    )


def put_back_if_said(workspace: Workspace, name: str, source: Source) -> None:
    """Takes a step out of the ladder of one of several properties, if it is there."""
    place = workspace.place
    if place is not None and any(
        rung.source == source for rung in ladder(workspace.document, place, name)
    ):
        put_back(workspace, name, source)


def put_back_all(workspace: Workspace) -> None:
    """Puts back everything that the selected instances override."""
    owner, ids = workspace.selection.owner, [p[0] for p in workspace.selection.paths if p]

    def change(document: Document) -> Document:
        for node_id in ids:
            document = put_back_instance(document, owner, node_id)
        return document

    if ids:
        workspace.edit(f"put {_many(len(ids), 'instance')} back", change)


def put_back_here(workspace: Workspace, names: tuple[str, ...]) -> None:
    """Puts back what the bench itself says about these properties of the selected nodes,
    in the variant and at the reach at hand."""
    owner = workspace.selection.owner

    def change(document: Document) -> Document:
        for place in workspace.places:
            for name in names:
                top = [r for r in ladder(document, place, name) if r.wins][-1].source
                if top.owner == owner:
                    document = styles.put_back(document, name, top)
        return document

    labels = dict.fromkeys(_label(name) for name in names)
    workspace.edit(f"put back {' and '.join(labels)}", change)


def _many(count: int, noun: str) -> str:
    return f"the {noun}" if count == 1 else f"{count} {noun}s"


def _label(name: str) -> str:
    """How a property is called in the name of a step: families by their common name."""
    return FAMILY_OF.get(name, row_of(name).label.lower()).replace("-", " ")
