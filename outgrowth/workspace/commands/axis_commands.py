"""Axes and their values: named, ordered, laid along the grid, removed."""

from __future__ import annotations

from collections.abc import Callable

from outgrowth.core.document.records import Axis, AxisValue, Component
from outgrowth.core.document.variants import laid
from outgrowth.core.edits.tree.components import lay_axis
from outgrowth.core.edits.variants import axes
from outgrowth.workspace.workspace import Edit, Workspace


def axis_edit(edit: Callable, component: Component, axis: Axis, *rest: object) -> Edit:  # type: ignore[type-arg]  # of the edits' many shapes
    """An edit of an axis with everything but the document given."""
    return lambda document: edit(document, component.id, axis.id, *rest)


LAYINGS = ("rows", "columns", "chips")
"""Where an axis can lie in the grid of variants: along it, or one value at a time."""


def laying_of(component: Component, axis: Axis) -> str:
    """Where an axis lies now, one of LAYINGS."""
    return next(
        laying for laying, axes in zip(LAYINGS, laid(component), strict=True) if axis in axes
    )


def rename(workspace: Workspace, component: Component, axis: Axis, name: str) -> None:
    """Names an axis."""
    workspace.edit("rename an axis", axis_edit(axes.rename_axis, component, axis, name))


def rename_value(
    workspace: Workspace, component: Component, axis: Axis, value: AxisValue, name: str
) -> None:
    """Names a value of an axis."""
    edit = axis_edit(axes.rename_value, component, axis, value.id, name)
    workspace.edit("rename a value", edit)


def move_earlier(workspace: Workspace, component: Component, axis: Axis) -> None:
    """Puts an axis before the one before it."""
    index = max(component.axes.index(axis) - 1, 0)
    edit = axis_edit(axes.move_axis, component, axis, index)
    workspace.edit(f"move {axis.name} earlier", edit)


def lay(workspace: Workspace, component: Component, axis: Axis, laying: str) -> None:
    """Lays an axis along the rows, the columns, or as chips of which one is chosen."""
    edit = axis_edit(lay_axis, component, axis, laying)
    workspace.edit(f"lay {axis.name} along the {laying}", edit)


def remove(workspace: Workspace, component: Component, axis: Axis, value_id: str = "") -> None:
    """Removes an axis, or one of its values."""
    if value_id:
        edit = axis_edit(axes.remove_value, component, axis, value_id)
        workspace.edit(f"remove from {axis.name}", edit)
    else:
        edit = axis_edit(axes.remove_axis, component, axis)
        workspace.edit(f"remove {axis.name}", edit)


def removal_text(workspace: Workspace, component: Component, axis: Axis, value_id: str = "") -> str:
    """ "remove, 9 change": how many instances removal changes, said before it is done."""
    fallen = axes.fallbacks(workspace.document, component.id, axis.id, value_id)
    return f"remove, {len(fallen)} change" if fallen else "remove"


def fallback_text(workspace: Workspace, component: Component, axis: Axis, value_id: str) -> str:
    """What becomes of the instances that use a value, if it is removed."""
    fallen = axes.fallbacks(workspace.document, component.id, axis.id, value_id)
    if not fallen:
        return "No instance uses it."
    return f"{len(fallen)} instances fall back to {fallen[0].becomes}."
