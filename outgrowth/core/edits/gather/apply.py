"""Putting a gathered component into the file: drawings become its instances, and instances
of gathered components move over."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Component, Document, Node, Owner
from outgrowth.core.document.rooms import room_axes
from outgrowth.core.document.values import Value
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits.gather.report import PLACE, GatheredDrawing, Report, is_whole
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.edits.tree.trees import with_node, with_owner, with_root, without_unseen
from outgrowth.core.refusal import Refusal


def gathered(document: Document, report: Report) -> Document:
    """The document with the component added and every drawing an instance of it.

    Raises Refusal as long as the report has conflicts or differences.
    """
    component = report.component
    if component is None or report.conflicts:
        raise Refusal(" ".join(report.conflicts) or "There is nothing to gather.")
    if report.differences:
        raise Refusal(
            f"{len(report.differences)} properties would not come out as drawn, so nothing was "
            f"changed. The first: {report.differences[0]}."
        )
    document = add_component(document, component)
    pairs = list(zip(report.drawings, report.places, strict=True))
    old = {
        d.owner: (variant, _kept_by_instance(d, component))
        for d, variant in pairs
        if is_whole(document, d)
    }
    for drawing, variant in pairs:
        owner = document.owner(drawing.owner)
        if owner is not None and drawing.owner not in old:
            document = with_owner(document, _replaced(owner, drawing, component, variant))
    return _moved_over(document, old, component)


def _replaced(
    owner: Owner, drawing: GatheredDrawing, component: Component, variant: Variant
) -> Owner:
    kept = _kept_by_instance(drawing, component)
    place = {k: v for k, v in drawing.root.style.items() if k in PLACE}

    def change(node: Node) -> Node:
        return _instance(node, component, variant, kept | place)

    return with_node(owner, drawing.root.id, change)


def _kept_by_instance(drawing: GatheredDrawing, component: Component) -> dict[str, Value]:
    """What a drawing says besides its place that its instance has to: how wide its room is."""
    width = drawing.root.style.get("width")
    return {"width": width} if room_axes(component) and width is not None else {}


def _instance(node: Node, component: Component, variant: Variant, style: dict[str, Value]) -> Node:
    by_room = {axis.id for axis in room_axes(component)}
    chosen: dict[str, Value] = {
        CHOICE + axis: value for axis, value in variant.items() if axis not in by_room
    }
    chosen["component"] = component.id
    return Node(node.id, node.name, "instance", Map(style | chosen), overrides=node.overrides)


_Becomes = dict[str, tuple[Variant, dict[str, Value]]]
"""By the id of a component that was gathered: the variant that it became, and what its instances
say besides, where they say nothing else."""


def _moved_over(document: Document, old: _Becomes, component: Component) -> Document:
    """Instances of the gathered components follow the new one; the old ones go."""
    if not old:
        return document
    for owner in list(document.owners()):
        if owner.id not in old:
            root = _moved(owner.root, old, component)
            if root is not owner.root:
                document = with_owner(document, with_root(owner, root))
    components = document.components
    for old_id in old:
        components = components.delete(old_id)
    order = tuple(i for i in document.component_order if i not in old)
    return without_unseen(
        msgspec.structs.replace(document, components=components, component_order=order)
    )


def _moved(node: Node, old: _Becomes, component: Component) -> Node:
    component_id = node.style.get("component")
    if node.kind == "instance" and isinstance(component_id, str) and component_id in old:
        variant, kept = old[component_id]
        return _instance(node, component, variant, kept | dict(node.style))
    children = tuple(_moved(child, old, component) for child in node.children)
    if all(a is b for a, b in zip(children, node.children, strict=True)):
        return node
    return msgspec.structs.replace(node, children=children)
