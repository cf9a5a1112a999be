"""What is made new: drawn parts and icons, shown within the reach."""

from __future__ import annotations

from outgrowth.core.color import Color, over
from outgrowth.core.document.records import (
    Document,
    Node,
    find,
    lineage,
)
from outgrowth.core.document.values import Value
from outgrowth.core.edits.at_reach import keep_to_reach, show_everywhere
from outgrowth.core.edits.sides import like_its_box
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree import nodes
from outgrowth.core.edits.tree.drawing import LEAST, DrawnKind, drawn_node, icon_node, told_apart
from outgrowth.core.edits.tree.owners import PAPER
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace.commands import selection_commands, style_commands
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.icon_set import Icon
from outgrowth.workspace.reaching import all_variants, conditions, here, reach_of
from outgrowth.workspace.workspace import Workspace

Into = tuple[str, int | None]
"""A box's id, and before which of its children (None: last)."""


def draw(
    workspace: Workspace,
    drawn_kind: DrawnKind,
    into: Into | None = None,
    size: tuple[float, float] | None = None,
    point: tuple[float, float] | None = None,
) -> bool:
    """Draws something in a box (`into`, else where the selection is); `point` is its place in
    px of that box, which counts where the box is free."""
    into = into or selection_commands.insertion_point(workspace)
    node = drawn_node(drawn_kind, fresh_id(drawn_kind), size)
    if into is not None:
        node = told_apart(node, ground_of(workspace, into[0]))
    article = "an" if drawn_kind[0] in "aeiou" else "a"
    return put(workspace, node, f"draw {article} {drawn_kind}", into, point)


def ground_of(workspace: Workspace, box_id: str) -> Color:
    """The plain colour that a box stands for as a ground: its own, or of what it lies in; paper
    where none has one."""
    owner = workspace.owner
    line = lineage(owner.root, box_id) if owner is not None else ()
    for box in reversed(line):
        path = () if owner is None or box is owner.root else (box.id,)
        place = Place(workspace.selection.owner, path, workspace.selection.variant)
        fill = value_at(workspace.document, place, "fill")
        if isinstance(fill, Color) and fill.alpha > 0:
            return over(fill, PAPER)
    return PAPER


def place_icon(workspace: Workspace, icon: Icon, solid: bool = False) -> bool:
    """An icon in the selected box, or beside the selected part; where an icon is selected,
    it becomes this one."""
    chosen = selection_commands.own_part(workspace)
    path = icon.solid if solid else icon.outline
    if chosen is not None and chosen.kind == "shape" and chosen.style.get("path"):
        values: dict[str, Value] = {"path": path, "path-size": 256.0, "path-height": 0.0}
        return workspace.edit(f"show {icon.name}", style_commands.style_edit(workspace, values))
    into = selection_commands.insertion_point(workspace)
    node = icon_node(fresh_id("icon"), icon.name, path)
    if into is not None:
        node = told_apart(node, ground_of(workspace, into[0]))
    return put(workspace, node, f"place {icon.name}", into)


def put(
    workspace: Workspace,
    node: Node,
    step: str,
    into: Into | None = None,
    point: tuple[float, float] | None = None,
) -> bool:
    """A new node in a box, selected."""
    owner, place = workspace.owner, into or selection_commands.insertion_point(workspace)
    if owner is None or place is None:
        return False
    parent_id, index = place
    parent = find(owner.root, parent_id)
    free = parent is not None and parent.style.get("flow") == "free"
    reach = reach_of(workspace)

    def change(document: Document) -> Document:
        made = like_its_box(document, owner.id, parent_id, node)
        document = nodes.add_node(document, owner.id, parent_id, made, index)
        document = keep_to_reach(document, reach, (node.id,))
        if free and point is not None:
            place = Place(owner.id, (node.id,), workspace.selection.variant)
            corner: dict[str, Value] = {
                "x": round(point[0]) + 0.0,
                "y": round(point[1]) + 0.0,
            }
            document = set_properties(document, place, corner)
        return document

    if not workspace.edit(step + here(workspace), change):
        return False
    workspace.select((node.id,))
    workspace.end_step_here()
    offer_everywhere(workspace, node.name, (node.id,))
    return True


def offer_everywhere(workspace: Workspace, name: str, ids: tuple[str, ...]) -> None:
    """Where a part is new within the reach only, offers to show it in all variants."""
    conditions_here, owner = conditions(workspace), workspace.selection.owner
    if not conditions_here:
        return

    def change(document: Document) -> Document:
        for node_id in ids:
            document = show_everywhere(document, owner, node_id)
        return document

    workspace.make_offer(
        f"“{name}” is shown in {conditions_here} only.",
        "Show it everywhere",
        lambda: workspace.edit(f"show {name} {all_variants(workspace)}", change),
    )


def is_size(size: tuple[float, float]) -> bool:
    """Whether a drag was meant as a size, or was only a click."""
    return max(size) >= LEAST
