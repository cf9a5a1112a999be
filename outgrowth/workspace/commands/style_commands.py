"""Values of the selected nodes: set at the present reach, tried while dragging, put back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial

from outgrowth.core.document.properties import FAMILY_OF, applies, row_of
from outgrowth.core.document.records import Document
from outgrowth.core.document.values import Value
from outgrowth.core.document.variants import condition_text
from outgrowth.core.edits.at_reach import (
    KeptKind,
    KeptValue,
    is_within,
    keeps_standing,
    kept_values,
    put_instances_back,
    put_kept_back,
    set_standing,
    set_values,
)
from outgrowth.core.edits.style import styles
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.cascade import Source
from outgrowth.core.resolve.ladder import Place, inspect, ladder, node_at
from outgrowth.workspace import measures
from outgrowth.workspace.reaching import conditions, here, in_all, reach_of
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


def hide_or_show(workspace: Workspace) -> bool:
    """Hides the selected parts within the reach, or shows them again; whether it was done."""
    return set_style(workspace, {"shown": measures.value_of(workspace, "shown") is False})


def rotate(workspace: Workspace, by: float) -> bool:
    """Turns the selected parts by degrees, within the reach; whether it was done."""
    before = measures.value_of(workspace, "rotate")
    turned = ((before if isinstance(before, float) else 0.0) + by) % 360
    return set_style(workspace, {"rotate": turned})


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
    """Takes one step of a ladder out, wherever it holds."""
    workspace.edit(
        f"put back {_label(name)}{_where_said(workspace, source)}",
        lambda document: styles.put_back(document, name, source),
    )


def _where_said(workspace: Workspace, source: Source) -> str:
    """Where a step holds that was said on the bench, if the reach does not tell it."""
    component = workspace.component
    if component is None or source.owner != component.id:
        return ""
    if source.kind == "rule":
        return f", {condition_text(component, source.when)}"
    return in_all(workspace)


def put_back_if_said(workspace: Workspace, name: str, source: Source) -> None:
    """Takes a step out of the ladder of one of several properties, if it is there."""
    place = workspace.place
    if place is not None and any(
        rung.source == source for rung in ladder(workspace.document, place, name)
    ):
        put_back(workspace, name, source)


def put_back_all(workspace: Workspace) -> None:
    """Puts back everything that the selected instances override within the reach."""
    ids, reach = [p[0] for p in workspace.selection.paths if p], reach_of(workspace)
    if ids:
        workspace.edit(
            f"put {_many(len(ids), 'instance')} back{here(workspace)}",
            lambda document: put_instances_back(document, reach, ids),
        )


def put_kept(workspace: Workspace, kept: Sequence[KeptValue], what: str) -> None:
    """Puts back some of what the selected instance keeps; `what` says in the step's name what."""
    path, reach = workspace.selection.path, reach_of(workspace)
    if path and kept:
        workspace.edit(
            f"put {what} back{here(workspace)}",
            lambda document: put_kept_back(document, reach, path, kept),
        )


def put_kind_back(workspace: Workspace, kind: KeptKind) -> None:
    """Puts back all the words, or all the looks, that the selected instance keeps; the rest
    stays."""
    path = workspace.selection.path
    if not path:
        return
    every = kept_values(workspace.document, reach_of(workspace), path)
    kept = [value for value in every if value.kind == kind]
    many = kind if kind == "words" else f"{kind}s"
    if kept:
        put_kept(workspace, kept, f"the {many}")
    else:
        workspace.failed.emit(f"It keeps no {many} of its own here.")


def put_back_here(workspace: Workspace, names: tuple[str, ...]) -> None:
    """Puts back what the bench itself says about these properties of the selected nodes within
    the reach; what it says beyond that stays, and it is told."""
    owner, reach = workspace.selection.owner, reach_of(workspace)
    wider: list[str] = []

    def change(document: Document) -> Document:
        for place in workspace.places:
            for name in names:
                winning = [r.source for r in ladder(document, place, name) if r.wins]
                top = winning[-1] if winning else None
                if top is None or top.owner != owner:
                    continue
                if is_within(document, reach, top):
                    document = styles.put_back(document, name, top)
                else:
                    wider.append(_label(name))
        return document

    labels = dict.fromkeys(_label(name) for name in names)
    before = workspace.document
    workspace.edit(f"put back {' and '.join(labels)}{here(workspace)}", change)
    if wider and workspace.document is before:
        workspace.failed.emit(
            f"{wider[0].capitalize()} is said for more than {conditions(workspace)}: widen the "
            "reach (Alt+Up) to put it back there too."
        )


def _many(count: int, noun: str) -> str:
    return f"the {noun}" if count == 1 else f"{count} {noun}s"


def _label(name: str) -> str:
    """How a property is called in the name of a step: families by their common name."""
    return FAMILY_OF.get(name, row_of(name).label.lower()).replace("-", " ")
