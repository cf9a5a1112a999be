"""What can be done with the selection: each deed takes the session and does one step.

They choose ids and names, say what the step is called, and select what came of it; the
work itself is the core's.
"""

from __future__ import annotations

from collections.abc import Callable
from uuid import uuid4

from immutables import Map

from outgrowth.app.session.session import Edit, Session
from outgrowth.core.document.properties import CHOICE, row_of
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Node,
    Owner,
    Path,
    find,
    lineage,
    walk,
)
from outgrowth.core.document.refusal import Refusal
from outgrowth.core.document.uses import Use
from outgrowth.core.document.values import Content, FromProperty, plain
from outgrowth.core.document.variants import Variant, said
from outgrowth.core.edits import (
    arrange,
    axes,
    components,
    extract,
    instances,
    nodes,
    properties,
)
from outgrowth.core.edits.components import add_axis_value
from outgrowth.core.edits.styles import set_properties
from outgrowth.core.geometry import Rect
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Inspection, Place, inspect

UNNAMED = "text"
"""What a text is called as long as nobody named it."""


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
    """The same, if it is not the outermost part, which stands by its owner."""
    node, owner = own_node(session), session.owner
    return None if owner is None or node is owner.root else node


def own_parts(session: Session) -> list[Node]:
    """The same for all that is selected, in the order of the tree; what lies in another
    selected part goes with it."""
    owner = session.owner
    if owner is None:
        return []
    chosen = {path[0] for path in session.selection.paths if len(path) == 1}
    found: list[Node] = []
    for node in walk(owner.root):
        inside = {n.id for outer in found for n in walk(outer)}
        if node.id in chosen and node.id not in inside and node is not owner.root:
            found.append(node)
    return found


def own_instance(session: Session) -> Node | None:
    node = own_part(session)
    return node if node is not None and node.kind == "instance" else None


def own_instances(session: Session) -> list[Node]:
    return [node for node in own_parts(session) if node.kind == "instance"]


def named(parts: list[Node]) -> str:
    """One part by its name, several by their number."""
    return parts[0].name if len(parts) == 1 else f"{len(parts)} parts"


def each(edit: Callable[[Document, Node], Document], parts: list[Node]) -> Edit:
    """An edit done to one part after the other."""

    def change(document: Document) -> Document:
        for part in parts:
            document = edit(document, part)
        return document

    return change


def component_here(session: Session) -> Component | None:
    """The component that the selected instance follows."""
    at = session.located()
    return session.document.components.get(at.scene.component) if at is not None else None


def remove(session: Session) -> None:
    parts, owner = own_parts(session), session.owner
    if not parts or owner is None:
        return
    line = lineage(owner.root, parts[0].id)
    change = each(lambda d, node: nodes.remove_node(d, owner.id, node.id), parts)
    if session.edit(f"remove {named(parts)}", change):
        session.select((line[-2].id,) if len(line) > 2 else ())


def neighbours(session: Session) -> None:
    """Selects everything beside the selected part, or in the selected outermost box."""
    owner, path = session.owner, session.selection.path
    if owner is None:
        return
    line = lineage(owner.root, path[0] if path else owner.root.id)
    holder = line[-2] if len(line) > 1 else owner.root
    session.select_all(tuple((child.id,) for child in holder.children))


def place(session: Session, component_id: str) -> None:
    """An instance in the selected box, or beside the selected part."""
    into = spot(session)
    if into is not None:
        place_into(session, component_id, *into)


def spot(session: Session) -> tuple[str, int | None] | None:
    """Where something new goes: last in the selected box, or behind the selected part; None,
    and it is told why, where nothing can be put."""
    owner = session.owner
    if owner is None:
        session.failed.emit("Begin a component or a screen first: nothing is on the bench.")
        return None
    node = own_node(session) or owner.root
    if node.kind == "box":
        return node.id, None
    line = lineage(owner.root, node.id)
    if len(line) < 2:
        session.failed.emit(
            f"“{short(owner)}” is one {node.kind} as a whole, and only a box holds other parts. "
            "Place an instance of it in a box, and draw there."
        )
        return None
    return line[-2].id, line[-2].children.index(node) + 1


def can_hold(session: Session) -> bool:
    """Whether something new can be put where the selection is."""
    owner = session.owner
    if owner is None:
        return False
    node = own_node(session) or owner.root
    return node.kind == "box" or node.id != owner.root.id


def place_into(
    session: Session,
    component_id: str,
    parent_id: str,
    index: int | None,
    at: tuple[float, float] | None = None,
) -> None:
    """An instance in a box, before the child at `index` (None: last); `at` is its place in px
    of that box, which counts where the box is free."""
    new_id = fresh_id("instance")
    owner = session.selection.owner
    name = short(session.document.components[component_id])

    def change(document: Document) -> Document:
        placed = instances.place_instance(document, owner, parent_id, component_id, new_id, index)
        held = placed.owner(owner)
        parent = find(held.root, parent_id) if held is not None else None
        if at is None or parent is None or parent.style.get("flow") != "free":
            return placed
        spot = {"x": round(at[0]) + 0.0, "y": round(at[1]) + 0.0}
        return set_properties(placed, place_of(session, (new_id,)), spot)

    if session.edit(f"place {name}", change):
        session.select((new_id,))
        session.end_step_here()


def exchange(session: Session, component_id: str, everywhere: bool = False) -> None:
    """The selected instances follow another component, or (`everywhere`) all that follow
    what the selected one does; what was dropped is in the step's name and is said."""
    chosen = own_instances(session)
    followed = component_here(session)
    if not chosen or followed is None:
        return
    name = short(session.document.components[component_id])
    those = [Use(session.selection.owner, node.id) for node in chosen]
    try:
        if everywhere:
            found = instances.exchange_everywhere(session.document, followed.id, component_id)
        else:
            found = instances.exchange_many(session.document, those, component_id)
    except Refusal as problem:
        session.failed.emit(str(problem))
        return
    what = f"every {short(followed)}" if everywhere else named(chosen)
    lost = f" (dropped: {', '.join(found.dropped)})" if found.dropped else ""
    session.edit(f"exchange {what} for {name}{lost}", lambda _: found.document)
    if found.dropped:
        session.failed.emit(
            f"“{name}” has no place for: {', '.join(found.dropped)}. "
            "It comes back when the old component does."
        )


def place_of(session: Session, path: Path) -> Place:
    """The node at a path, in what is on the bench."""
    return Place(session.selection.owner, path, session.selection.variant)


def exchange_edit(session: Session, path: Path, component_id: str) -> Edit:
    """The edit by which an instance at any depth follows another component; place, size and
    all that still means something stay."""
    owner = session.selection.owner
    if len(path) == 1:
        those = [Use(owner, path[0])]
        return lambda d: instances.exchange_many(d, those, component_id).document
    at, reach = place_of(session, path), session.reach if session.component is not None else Map()
    return lambda d: set_properties(d, at, {"component": component_id}, reach)


def exchange_step(session: Session, path: Path, component_id: str) -> str:
    """What such an exchange is called."""
    found = inspect(session.document, place_of(session, path))
    component = session.document.components.get(component_id)
    name = found.instance.name if found is not None and found.instance is not None else "this"
    return f"exchange {name} for {short(component) if component is not None else 'that'}"


def detach(session: Session) -> None:
    parts, owner = own_instances(session), session.selection.owner
    if parts:
        change = each(lambda d, node: instances.detach(d, owner, node.id), parts)
        session.edit(f"detach {named(parts)}", change)


def make_component(session: Session) -> None:
    """Each selected part becomes a component of its own name."""
    parts = [node for node in own_parts(session) if node.kind != "instance"]
    owner = session.selection.owner

    def made(document: Document, node: Node) -> Document:
        name = node.name[:1].upper() + node.name[1:]
        return extract.make_component(document, owner, node.id, fresh_id("component"), name)

    if parts:
        what = "a component" if len(parts) == 1 else "components"
        session.edit(f"make {what} of {named(parts)}", each(made, parts))


def short(component: Owner) -> str:
    """A component's name without its folders."""
    return component.name.rpartition("/")[2]


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
            lambda d: axes.set_offered(d, component.id, variant, offered),
        )


def offer_none(session: Session) -> None:
    """Offers none of the faces within the present reach."""
    component, reach = session.component, session.reach
    if component is not None:
        what = said(component, reach)
        session.edit(f"offer none of {what}", lambda d: axes.offer_none(d, component.id, reach))


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


def add_value(
    session: Session, component: Component, axis: Axis, name: str, like: AxisValue | None
) -> None:
    """A new value of an axis, its faces starting as those of another value."""
    taken = {value.name for value in axis.values}
    stem = name.removesuffix(" 1")
    free = next(n for n in (name, *(f"{stem} {i}" for i in range(2, 999))) if n not in taken)
    new = AxisValue(fresh_id("value"), free)
    like_id = like.id if like is not None else ""
    if session.edit(
        f"add {free} to {axis.name}",
        lambda d: add_axis_value(d, component.id, axis.id, new, like_id),
    ):
        variant = session.selection.variant
        session.select(session.selection.path, variant.set(axis.id, new.id))


def face_like_this(session: Session, axis_id: str) -> None:
    """A new face that starts as the selected one: a new value of one of its axes."""
    component = session.component
    axis = component.axis(axis_id) if component is not None else None
    if component is None or axis is None:
        return
    like = axis.value(session.selection.variant[axis_id])
    name = f"{like.name} copy" if like is not None else "Value 1"
    add_value(session, component, axis, name, like)


def in_folder(name: str, folder: str) -> str:
    """A component's name in another folder ("" for none)."""
    last = name.rpartition("/")[2]
    return f"{folder}/{last}" if folder else last


def rename_folder(session: Session, old: str, new: str) -> None:
    """Moves everything in a folder of the Library to one of another name."""

    def change(document: Document) -> Document:
        for component in document.in_order():
            folder, _, last = component.name.rpartition("/")
            if folder == old or folder.startswith(f"{old}/"):
                moved = new.strip().strip("/") + folder.removeprefix(old)
                name = f"{moved}/{last}".lstrip("/")
                document = components.rename_owner(document, component.id, name)
        return document

    session.edit(f"rename the folder {old}", change)


def line_to(session: Session, node: Node) -> tuple[Node, ...]:
    """The nodes from the root of the owner on the bench down to one of its own."""
    owner = session.owner
    return lineage(owner.root, node.id) if owner is not None else ()


def words_edit(session: Session, found: Inspection) -> Callable[[Content], Edit]:
    """What editing the selected text's words in their place does: where a property of its
    component decides them, it is set for the instance, or its default on the component's
    own bench. A text that has no name yet is called as what it says."""
    place, said_by = session.place, found.node.style.get("content")
    if place is None or not isinstance(said_by, FromProperty):
        own = len(place.path) == 1 if place is not None else False
        if own and found.node.name == UNNAMED:
            return lambda content: _named_as(session, found.node.id, content)
        return lambda content: session.style_edit({"content": content})
    if len(place.path) > 1:
        holder = place._replace(path=place.path[:-1])
        name = CHOICE + said_by.property
        reach = session.reach if session.component is not None else Map()
        return lambda content: lambda d: set_properties(d, holder, {name: content}, reach)
    owner = place.owner
    return lambda content: lambda d: properties.set_default(d, owner, said_by.property, content)


def _named_as(session: Session, node_id: str, content: Content) -> Edit:
    styled, owner = session.style_edit({"content": content}), session.selection.owner
    name = " ".join(plain(content).split())[:40]

    def change(document: Document) -> Document:
        after = styled(document)
        return nodes.rename_node(after, owner, node_id, name) if name else after

    return change


def stands(session: Session) -> arrange.Where:
    """Where the own nodes of what is on the bench stand, in the face at hand."""
    owner_id, variant = session.selection.owner, session.selection.variant

    def where(document: Document) -> dict[str, Rect]:
        owner = document.owner(owner_id)
        view = session.engine.view(document, owner_id, variant)
        spots = {a.path[-1]: a.rect for a in locate(*view, "") if len(a.path) == 1}
        placed = view.placed
        if owner is not None:
            spots[owner.root.id] = Rect(0.0, 0.0, placed.width, placed.height)
        return spots

    return where


def wrap(session: Session) -> None:
    """Puts the selected parts into a box of their own; nothing moves."""
    parts, owner, new_id = own_parts(session), session.selection.owner, fresh_id("box")
    ids = tuple(part.id for part in parts)
    where = stands(session)
    if parts and session.edit(
        f"put {named(parts)} into a box", lambda d: arrange.wrap(d, owner, ids, new_id, where)
    ):
        session.select((new_id,))


def unwrap(session: Session) -> None:
    """Takes the selected box away from around its children, and selects these."""
    part, owner, where = own_part(session), session.selection.owner, stands(session)
    if part is not None and session.edit(
        f"take {part.name} apart", lambda d: arrange.unwrap(d, owner, part.id, where)
    ):
        session.select_all(tuple((child.id,) for child in part.children))
