"""Parts among their neighbours: aligned, spread, moved, pushed, put into boxes."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import islice

from immutables import Map

from outgrowth.core.document.records import Document, Node, find, lineage, walk
from outgrowth.core.document.values import FIT, GROW, Value
from outgrowth.core.document.variants import Variant, offered, variants
from outgrowth.core.edits import at_reach
from outgrowth.core.edits.style import places
from outgrowth.core.edits.tree import arrange, outermost
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.edits.tree.trees import owner_of
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace import measures
from outgrowth.workspace.commands import create_commands, selection_commands, style_commands
from outgrowth.workspace.commands.selection_commands import (
    fresh_id,
    named,
    own_node,
    own_part,
    own_parts,
)
from outgrowth.workspace.commands.whole_tree import of_all
from outgrowth.workspace.reaching import here, in_all, reach_of
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
        f"align {edge}{here(workspace)}",
        lambda document: places.align(document, chosen, edge, rects, (flow, room), reach),
    )


def distribute(workspace: Workspace, across: bool) -> None:
    """Spreads the selected parts evenly between the outer two."""
    chosen, box = parts_in_one_box(workspace)
    rects, reach = layout_of(workspace)(workspace.document), _reach(workspace)
    flow = str(box.style.get("flow", "row")) if box is not None else ""
    workspace.edit(
        f"spread evenly{here(workspace)}",
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
    return workspace.edit(f"nudge {name}{here(workspace)}", change, together=True)


def offer_in_flow(workspace: Workspace, dx: float, dy: float) -> bool:
    """Where a part can't be nudged, since it stands in a row or column: says so, and offers its
    neighbour's turn for a step along that, an offset for one across. Whether it did."""
    flow, part = _flow(workspace), selection_commands.own_part(workspace)
    if flow not in _PUSH or part is None:
        return False
    sentence = f"“{part.name}” stands in a {flow}: its place there is its turn."
    by = dx if flow == "row" else dy
    if by:
        later = by > 0
        turn = "Move it later (Ctrl+Down)" if later else "Move it earlier (Ctrl+Up)"
        workspace.make_offer(sentence, turn, lambda: reorder(workspace, 1 if later else -1))
        return True
    name, amount = ("offset-x", dx) if dx else ("offset-y", dy)
    before = measures.value_of(workspace, name)
    offset: dict[str, Value] = {name: (before if isinstance(before, float) else 0.0) + amount}
    title = f"Set it off by {abs(amount):g} px"
    workspace.make_offer(sentence, title, lambda: style_commands.set_style(workspace, offset))
    return True


def reorder(workspace: Workspace, by: int) -> None:
    """Moves the selected part earlier or later among its neighbours."""
    part, owner = selection_commands.own_part(workspace), workspace.owner
    if part is None or owner is None:
        return
    parent = lineage(owner.root, part.id)[-2]
    reach = reach_of(workspace)
    shown = at_reach.sequence(workspace.document, reach, parent.id)
    index = shown.index(part.id) + by
    if 0 <= index < len(shown):
        others = [child for child in shown if child != part.id]
        before = others[index] if index < len(others) else None
        workspace.edit(
            f"move {part.name} {'later' if by > 0 else 'earlier'}{here(workspace)}",
            lambda document: at_reach.move_parts(document, reach, (part.id,), parent.id, before),
        )


def layout_of(workspace: Workspace, variant: Variant | None = None) -> arrange.Where:
    """Where the own nodes of what is on the bench stand, in the variant at hand or another."""
    owner_id = workspace.selection.owner
    shown = workspace.selection.variant if variant is None else variant

    def where(document: Document) -> dict[str, Rect]:
        owner = document.owner(owner_id)
        view = workspace.engine.view(document, owner_id, shown)
        rects = {a.path[-1]: a.rect for a in locate(*view, "") if len(a.path) == 1}
        placed = view.placed
        if owner is not None:
            rects[owner.root.id] = Rect(0.0, 0.0, placed.width, placed.height)
        return rects

    return where


# Variants besides the one at hand in which nothing is to move: each asks for a layout.
_LOOKED_AT = 12


def layouts_elsewhere(workspace: Workspace) -> list[arrange.Where]:
    """The same in the first few of the other variants."""
    component = workspace.component
    if component is None:
        return []
    others = (
        variant
        for variant in variants(component)
        if offered(component, variant) and variant != workspace.selection.variant
    )
    return [layout_of(workspace, variant) for variant in islice(others, _LOOKED_AT)]


def wrap(workspace: Workspace, twin: bool = False) -> None:
    """Puts the selected parts into a box of their own, the outermost part into one around it;
    nothing moves. In all variants, or (`twin`) twins of them that are shown within the reach
    only."""
    parts = own_parts(workspace)
    if parts:
        _wrap(workspace, f"put {named(parts)} into a box", tuple(p.id for p in parts), twin)
    elif workspace.selection.path == () and workspace.component is not None:
        wrap_around(workspace)


def wrap_inside(workspace: Workspace) -> None:
    """Puts all that the selected box holds into a box in it; nothing moves."""
    box = own_node(workspace)
    if box is not None and box.children:
        ids = tuple(child.id for child in box.children)
        _wrap(workspace, f"put all of {box.name} into a box", ids, twin=False)


def wrap_around(workspace: Workspace) -> None:
    """Puts the component on the bench, as a whole, into a box: its new outermost part."""
    component, new_id = workspace.component, fresh_id("box")
    if component is None:
        return
    where, elsewhere = layout_of(workspace), layouts_elsewhere(workspace)
    if workspace.edit(
        f"put {component.short_name} into a box{in_all(workspace)}",
        lambda document: outermost.wrap_around(document, component.id, new_id, (where, *elsewhere)),
    ):
        workspace.select(())


def _wrap(workspace: Workspace, step: str, ids: tuple[str, ...], twin: bool) -> None:
    owner, new_id = workspace.selection.owner, fresh_id("box")
    layout, elsewhere = layout_of(workspace), layouts_elsewhere(workspace)

    def change(document: Document, those: tuple[str, ...]) -> tuple[Document, tuple[str, ...]]:
        wrapped = arrange.wrap(document, owner, those, new_id, layout, elsewhere)
        return wrapped, (new_id,)

    of_all(workspace, step, (ids, change), twin)


def unwrap(workspace: Workspace, twin: bool = False) -> None:
    """Takes the selected box away from around its children, and selects these. In all variants,
    or (`twin`) a twin of it that is shown within the reach only."""
    part, owner, layout = own_part(workspace), workspace.selection.owner, layout_of(workspace)
    if part is None:
        return

    def change(document: Document, those: tuple[str, ...]) -> tuple[Document, tuple[str, ...]]:
        box = find(owner_of(document, owner).root, those[0])
        children = tuple(child.id for child in box.children) if box is not None else ()
        return arrange.unwrap(document, owner, those[0], layout), children

    of_all(workspace, f"take {part.name} apart", ((part.id,), change), twin)


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


def move_parts(
    workspace: Workspace, node_ids: Sequence[str], box: str, before: int, twin: bool = False
) -> None:
    """Moves parts of the owner's own tree, in their order there, before a child of a box, as
    that box now is. One step; what lies in another of them goes with it.

    In their own box they take another turn within the reach; into another box they go in all
    variants, or (`twin`) twins of them do that are shown within the reach only.
    """
    owner = workspace.owner
    holder = find(owner.root, box) if owner is not None else None
    if owner is None or holder is None:
        return
    moved = _outermost(owner.root, node_ids)
    following = [c.id for c in holder.children[before:] if c.id not in node_ids]
    target, reach = (following[0] if following else None), reach_of(workspace)
    ids = tuple(node.id for node in moved)
    name = selection_commands.named(moved) if moved else ""
    if ids and at_reach.can_differ(owner, ids, box):
        workspace.edit(
            f"move {name}{here(workspace)}",
            lambda document: at_reach.move_parts(document, reach, ids, box, target),
        )
        return
    # A twin is shown within the reach only, and so are the turns that make room for it.
    turns = reach if twin else reach._replace(when=Map())

    def change(document: Document, those: tuple[str, ...]) -> tuple[Document, tuple[str, ...]]:
        return at_reach.move_parts(document, turns, those, box, target), those

    if ids:
        of_all(workspace, f"move {name}", (ids, change), twin)


def _outermost(root: Node, node_ids: Sequence[str]) -> list[Node]:
    """The nodes with these ids that lie in no other of them, nor are the root, in their order."""
    nodes_meant = [node for node in walk(root) if node.id in node_ids and node is not root]
    inner = {n.id for node in nodes_meant for n in walk(node) if n is not node}
    return [node for node in nodes_meant if node.id not in inner]
