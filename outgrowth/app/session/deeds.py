"""What can be done with the selection: each deed takes the session and does one step.

They choose ids and names, say what the step is called, and select what came of it; the
work itself is the core's.
"""

from __future__ import annotations

from uuid import uuid4

import msgspec
from immutables import Map

from outgrowth.app.session.session import Session
from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Component, Document, Node, find, lineage
from outgrowth.core.document.variants import Variant
from outgrowth.core.edits import EditError, extract, instances, nodes, properties
from outgrowth.core.edits.axes import set_offered
from outgrowth.core.edits.trees import rebuilt_tree
from outgrowth.core.resolve.ladder import inspect


def fresh_id(kind: str) -> str:
    """An id that no node or component has."""
    return f"{kind}-{uuid4().hex[:8]}"


def own_node(session: Session) -> Node | None:
    """The selected node of the owner's own tree: what can be moved, copied, removed."""
    owner, path = session.owner, session.selection.path
    if owner is None or path is None or len(path) > 1:
        return None
    return find(owner.root, path[0]) if path else owner.root


def own_part(session: Session) -> Node | None:
    """The same, if it is not the outermost box."""
    node = own_node(session)
    return None if node is None or session.selection.path == () else node


def own_instance(session: Session) -> Node | None:
    node = own_part(session)
    return node if node is not None and node.kind == "instance" else None


def component_here(session: Session) -> Component | None:
    """The component that the selected instance follows."""
    at = session.located()
    return session.document.components.get(at.scene.component) if at is not None else None


def remove(session: Session) -> None:
    node = own_part(session)
    if node is not None:
        owner = session.selection.owner
        line = lineage(session.owner.root, node.id) if session.owner else ()
        if session.edit(f"remove {node.name}", lambda d: nodes.remove_node(d, owner, node.id)):
            session.select((line[-2].id,) if len(line) > 2 else ())


def duplicate(session: Session) -> None:
    """A copy right behind the original."""
    node, owner = own_part(session), session.owner
    if node is None or owner is None:
        return
    parent = lineage(owner.root, node.id)[-2]
    copy = rebuilt_tree(node, lambda n: msgspec.structs.replace(n, id=fresh_id(n.kind)))
    at = parent.children.index(node) + 1
    name = f"duplicate {node.name}"
    if session.edit(name, lambda d: nodes.add_node(d, owner.id, parent.id, copy, at)):
        session.select((copy.id,))


def place(session: Session, component_id: str) -> None:
    """An instance in the selected box, or beside the selected part."""
    owner = session.owner
    if owner is None:
        return
    node = own_node(session) or owner.root
    index = None
    if node.kind != "box":
        parent = lineage(owner.root, node.id)[-2]
        index, node = parent.children.index(node) + 1, parent
    place_into(session, component_id, node.id, index)


def place_into(session: Session, component_id: str, parent_id: str, index: int | None) -> None:
    """An instance in a box, before the child at `index` (None: last)."""
    new_id = fresh_id("instance")
    owner = session.selection.owner
    name = session.document.components[component_id].name.rpartition("/")[2]

    def change(document: Document) -> Document:
        return instances.place_instance(document, owner, parent_id, component_id, new_id, index)

    if session.edit(f"place {name}", change):
        session.select((new_id,))


def exchange(session: Session, component_id: str) -> None:
    """The selected instance follows another component; what was dropped is in the step's
    name and is said."""
    node = own_instance(session)
    if node is None:
        return
    name = session.document.components[component_id].name.rpartition("/")[2]
    try:
        found = instances.exchange(session.document, session.selection.owner, node.id, component_id)
    except EditError as problem:
        session.failed.emit(str(problem))
        return
    lost = f" (dropped: {', '.join(found.dropped)})" if found.dropped else ""
    session.edit(f"exchange {node.name} for {name}{lost}", lambda _: found.document)
    if found.dropped:
        session.failed.emit(f"“{name}” has no place for: {', '.join(found.dropped)}.")


def detach(session: Session) -> None:
    node = own_instance(session)
    if node is not None:
        owner = session.selection.owner
        session.edit(f"detach {node.name}", lambda d: instances.detach(d, owner, node.id))


def make_component(session: Session) -> None:
    """The selected part becomes a component of its own name."""
    node = own_part(session)
    if node is None:
        return
    owner, new_id = session.selection.owner, fresh_id("component")
    name = node.name[:1].upper() + node.name[1:]

    def change(document: Document) -> Document:
        return extract.make_component(document, owner, node.id, new_id, name)

    session.edit(f"make a component of {node.name}", change)


def push_up(session: Session, whole: bool) -> None:
    """The component becomes like the selected instance: in all its faces, or only in those
    that share what this instance chose."""
    node, component, at = own_instance(session), component_here(session), session.located()
    if node is None or component is None or at is None:
        return
    variant = at.scene.variant or Map()
    chosen = {a.id: variant[a.id] for a in component.axes if a.driver == "none"}
    reach = Map() if whole else Map(chosen)
    owner = session.selection.owner
    session.edit(
        f"make {component.name.rpartition('/')[2]} like {node.name}",
        lambda d: instances.push_up(d, owner, node.id, reach),
    )


def offer(session: Session, variant: Variant, offered: bool) -> None:
    """Offers a variant of the component on the bench, or takes it back."""
    component = session.component
    if component is not None:
        session.edit(
            "offer a variant" if offered else "no longer offer a variant",
            lambda d: set_offered(d, component.id, variant, offered),
        )


def open_property(session: Session, name: str) -> None:
    """Opens a value of the selected part to the instances of the component on the bench."""
    place = session.place
    found = inspect(session.document, place) if place is not None else None
    if place is None or found is None or session.component is None:
        return
    part = found.instance.name if found.instance is not None else found.node.name
    label = part if name in ("content", "component", "shown") else f"{part} {row_of(name).label}"
    title = label[:1].upper() + label[1:].lower()
    session.edit(
        f"open {title} to instances",
        lambda d: properties.open_property(d, place, name, fresh_id("property"), title),
    )


def can_open(session: Session, name: str) -> bool:
    """Whether a value of the selected part can be opened to instances."""
    place = session.place
    if place is None or session.component is None:
        return False
    return properties.kind_of(session.document, place, name) is not None


def take_out(session: Session) -> None:
    """The selected face becomes a component of its own."""
    component = session.component
    if component is None:
        return
    variant, new_id = session.selection.variant, fresh_id("component")
    chosen = [
        value.name
        for axis in component.axes
        if axis.driver == "none" and (value := axis.value(variant[axis.id])) is not None
    ]
    name = " ".join([component.name, *chosen])
    if session.edit(
        f"take {name.rpartition('/')[2]} out",
        lambda d: extract.take_out(d, component.id, variant, new_id, name),
    ):
        session.open(new_id)
