"""Parts among their neighbours: aligned, spread, moved, pushed, put into boxes."""

from __future__ import annotations

from collections.abc import Sequence

from immutables import Map

from outgrowth.core.document.records import Document, Node, find, lineage, walk
from outgrowth.core.document.values import FIT, GROW, Value
from outgrowth.core.edits.style import places
from outgrowth.core.edits.tree import arrange, nodes
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.edits.tree.trees import owner_of
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace import measures
from outgrowth.workspace.commands import create_commands, selection_commands, style_commands
from outgrowth.workspace.commands.selection_commands import fresh_id, named, own_part, own_parts
from outgrowth.workspace.workspace import Workspace


def parts_in_one_box(workspace: Workspace) -> tuple[tuple[Place, ...], Node | None]:
    """The selected parts of the owner's own tree, and the box that they all stand in (None
    where there is none)."""
    owner, parts = workspace.owner, selection_commands.own_parts(workspace)
    if owner is None or not parts:
        return (), None
    holders = {line[-2].id: line[-2] for p in parts if len(line := lineage(owner.root, p.id)) > 1}
    variant = workspace.selection.variant
    chosen = tuple(Place(owner.id, (part.id,), variant) for part in parts)
    return chosen, next(iter(holders.values())) if len(holders) == 1 else None


def align(workspace: Workspace, edge: places.AlignmentLine) -> None:
    """Lines the selected parts up with each other, or one with its box."""
    chosen, box = parts_in_one_box(workspace)
    if box is None:
        workspace.failed.emit("Pick parts that stand in one box to line them up.")
        return
    rects, reach = layout_of(workspace)(workspace.document), _reach(workspace)
    flow = str(box.style.get("flow", "row"))
    room = rects.get(box.id)
    if room is None:
        workspace.failed.emit(f"“{box.name}” is hidden here, so nothing in it can be lined up.")
        return
    workspace.edit(
        f"align {edge}",
        lambda document: places.align(document, chosen, edge, rects, (flow, room), reach),
    )


def distribute(workspace: Workspace, across: bool) -> None:
    """Spreads the selected parts evenly between the outer two."""
    chosen, box = parts_in_one_box(workspace)
    rects, reach = layout_of(workspace)(workspace.document), _reach(workspace)
    flow = str(box.style.get("flow", "row")) if box is not None else ""
    workspace.edit(
        "spread evenly",
        lambda document: places.distribute(document, chosen, across, rects, flow, reach),
    )


def _reach(workspace: Workspace) -> Map[str, str]:
    return workspace.reach if workspace.component is not None else Map()


def nudge(workspace: Workspace, dx: float, dy: float) -> bool:
    """Moves the selected parts that stand free by px; whether there was one."""
    chosen, box = parts_in_one_box(workspace)
    flow = box.style.get("flow") if box is not None else None
    free = [place for place in chosen if places.stands_free(workspace.document, place, flow)]
    if not free:
        return False
    reach = _reach(workspace)

    def change(document: Document) -> Document:
        for place in free:
            document = places.move_by(document, place, (dx, dy), reach)
        return document

    name = selection_commands.named(selection_commands.own_parts(workspace))
    return workspace.edit(f"nudge {name}", change, together=True)


def reorder(workspace: Workspace, by: int) -> None:
    """Moves the selected part earlier or later among its neighbours."""
    part, owner = selection_commands.own_part(workspace), workspace.owner
    if part is None or owner is None:
        return
    parent = lineage(owner.root, part.id)[-2]
    index = parent.children.index(part) + by
    if 0 <= index < len(parent.children):
        workspace.edit(
            f"move {part.name} {'later' if by > 0 else 'earlier'}",
            lambda document: nodes.move_node(document, owner.id, part.id, parent.id, index),
        )


def layout_of(workspace: Workspace) -> arrange.Where:
    """Where the own nodes of what is on the bench stand, in the variant at hand."""
    owner_id, variant = workspace.selection.owner, workspace.selection.variant

    def where(document: Document) -> dict[str, Rect]:
        owner = document.owner(owner_id)
        view = workspace.engine.view(document, owner_id, variant)
        rects = {a.path[-1]: a.rect for a in locate(*view, "") if len(a.path) == 1}
        placed = view.placed
        if owner is not None:
            rects[owner.root.id] = Rect(0.0, 0.0, placed.width, placed.height)
        return rects

    return where


def wrap(workspace: Workspace) -> None:
    """Puts the selected parts into a box of their own; nothing moves."""
    parts, owner, new_id = own_parts(workspace), workspace.selection.owner, fresh_id("box")
    ids = tuple(part.id for part in parts)
    layout = layout_of(workspace)
    if parts and workspace.edit(
        f"put {named(parts)} into a box",
        lambda document: arrange.wrap(document, owner, ids, new_id, layout),
    ):
        workspace.select((new_id,))


def unwrap(workspace: Workspace) -> None:
    """Takes the selected box away from around its children, and selects these."""
    part, owner, layout = own_part(workspace), workspace.selection.owner, layout_of(workspace)
    if part is not None and workspace.edit(
        f"take {part.name} apart", lambda document: arrange.unwrap(document, owner, part.id, layout)
    ):
        workspace.select_all(tuple((child.id,) for child in part.children))


_PUSH = {"row": "push-left", "column": "push-top"}


def in_flow(workspace: Workspace) -> bool:
    """Whether the selected parts stand in one row or column."""
    return _flow(workspace) in _PUSH


def put_spacer(workspace: Workspace) -> None:
    """An empty part behind the selected one that grows: all after it goes to the end."""
    flow = _flow(workspace)
    if flow not in _PUSH:
        workspace.failed.emit("A spacer goes behind a part of a row or a column: pick one.")
        return
    along, across = ("width", "height") if flow == "row" else ("height", "width")
    style: dict[str, Value] = {along: GROW, across: FIT}
    create_commands.put(
        workspace,
        new_node(selection_commands.fresh_id("box"), "Spacer", "box", style),
        "put a spacer",
    )


def toggle_push(workspace: Workspace) -> None:
    """Pushes the selected parts, and what follows them, to the end of their row or column; or
    lets them come back."""
    flow = _flow(workspace)
    if flow not in _PUSH:
        workspace.failed.emit(
            "Only a part of a row or a column can be pushed to its end: pick one."
        )
        return
    name = _PUSH[flow]
    pushed = measures.value_of(workspace, name) is True
    style_commands.set_style(workspace, {name: not pushed})


def _flow(workspace: Workspace) -> str:
    box: Node | None = parts_in_one_box(workspace)[1]
    return str(box.style.get("flow", "row")) if box is not None else ""


def move_parts(workspace: Workspace, node_ids: Sequence[str], box: str, before: int) -> None:
    """Moves parts of the owner's own tree, in their order there, before a child of a box, as
    that box now is. One step; what lies in another of them goes with it."""
    owner = workspace.owner
    holder = find(owner.root, box) if owner is not None else None
    if owner is None or holder is None:
        return
    moved = _outermost(owner.root, node_ids)
    following = [c.id for c in holder.children[before:] if c.id not in node_ids]

    def change(document: Document) -> Document:
        for node in moved:
            now = find(owner_of(document, owner.id).root, box)
            ids = [c.id for c in now.children if c.id != node.id] if now is not None else []
            index = ids.index(following[0]) if following else len(ids)
            document = nodes.move_node(document, owner.id, node.id, box, index)
        return document

    if moved:
        workspace.edit(f"move {selection_commands.named(moved)}", change)


def _outermost(root: Node, node_ids: Sequence[str]) -> list[Node]:
    """The nodes with these ids that lie in no other of them, nor are the root, in their order."""
    nodes_meant = [node for node in walk(root) if node.id in node_ids and node is not root]
    inner = {n.id for node in nodes_meant for n in walk(node) if n is not node}
    return [node for node in nodes_meant if node.id not in inner]
