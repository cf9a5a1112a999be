"""Copy and paste: parts as our JSON, as SVG and as a picture; what comes back may be any of
these, a file, or words."""

from __future__ import annotations

from pathlib import Path as FilePath
from typing import NamedTuple, Protocol

import msgspec
from immutables import Map

from outgrowth.core.document.records import Document, Node, find, lineage
from outgrowth.core.document.values import words
from outgrowth.core.edits.at_reach import keep_to_reach, set_values
from outgrowth.core.edits.clipping import clipping, differing, look_of, put_down, source_of
from outgrowth.core.edits.style import places
from outgrowth.core.edits.tree.drawing import drawn_node
from outgrowth.core.exchange import native
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.view import View
from outgrowth.core.paint import draw
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace.commands import (
    create_commands,
    imports,
    selection_commands,
    style_commands,
)
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.reaching import here, reach_of
from outgrowth.workspace.workspace import Workspace

# Px by which a copy in a free box is set off from its original: both are seen.
_OFFSET = 16.0


class Clip(NamedTuple):
    """What a clipboard holds, in every form that is known of it; empty where there is none.

    parts    parts of a document, as our JSON
    drawing  SVG
    picture  PNG
    text     plain words
    files    files on this machine
    """

    parts: bytes = b""
    drawing: bytes = b""
    picture: bytes = b""
    text: str = ""
    files: tuple[FilePath, ...] = ()


class Clipboard(Protocol):
    """Where copies are kept: the desktop's clipboard, or a stand-in for it."""

    def can_paste(self) -> bool:
        """Whether something of what it holds could be pasted; told at a glance."""

    def read(self) -> Clip: ...
    def write(self, clip: Clip, view: View | None) -> None:
        """Keeps a clip; `view` is what its picture can be made of."""


def clip(workspace: Workspace) -> Document | None:
    """The selected parts of the owner's own tree as a document; None without one."""
    parts = selection_commands.own_parts(workspace)
    owner, variant = workspace.selection.owner, workspace.selection.variant
    if not parts or workspace.selection.path == ():
        node = selection_commands.own_node(workspace)
        parts = [node] if node is not None else []
    if not parts:
        return None
    return clipping(workspace.document, owner, tuple(p.id for p in parts), variant)


def copy(workspace: Workspace, clipboard: Clipboard) -> None:
    """Puts the selected parts on the clipboard: as parts, as SVG and as a picture."""
    try:
        copied = clip(workspace)
    except Refusal as problem:
        workspace.failed.emit(str(problem))
        return
    if copied is None:
        return
    parts = native.dumps(copied).encode()
    owner, variant = workspace.selection.owner, workspace.selection.variant
    view = workspace.engine.view(workspace.document, owner, variant)
    lead = workspace.selection.path
    located = next((node for node in locate(*view, "") if node.path == lead), None)
    if located is None:
        clipboard.write(Clip(parts), None)
        return
    fragment = draw(located.scene, located.placed)
    svg = svg_of(fragment, fragment.bounds, workspace.document.assets)
    clipboard.write(Clip(parts, svg.encode(), text=svg), View(located.scene, located.placed))


def cut(workspace: Workspace, clipboard: Clipboard) -> None:
    """Copies the selected parts, and removes them."""
    copy(workspace, clipboard)
    selection_commands.remove(workspace)


def paste(workspace: Workspace, clip: Clip) -> None:
    """Puts down what the clipboard holds: the richest form of it that we know."""
    if workspace.owner is None and not clip.parts:
        workspace.failed.emit("Begin a component or a screen first: nothing is on the bench.")
        return
    text = clip.text.lstrip()
    if clip.parts:
        paste_parts(workspace, clip.parts)
    elif clip.files:
        imports.bring(workspace, clip.files)
    elif clip.drawing:
        imports.bring_data(workspace, clip.drawing, "Pasted drawing.svg")
    elif clip.picture:
        imports.bring_data(workspace, clip.picture, "Pasted picture.png")
    elif text.startswith(("<svg", "<?xml")):
        imports.bring_data(workspace, clip.text.encode(), "Pasted drawing.svg")
    elif text:
        paste_words(workspace, clip.text)


def paste_words(workspace: Workspace, text: str) -> bool:
    """Words become a text node."""
    node = drawn_node("text", fresh_id("text"))
    content = words(text.strip()[:10_000])
    named = " ".join(text.split())[:40]
    node = msgspec.structs.replace(node, name=named, style=node.style.set("content", content))
    return create_commands.put(workspace, node, "paste words")


def paste_parts(workspace: Workspace, data: bytes) -> None:
    """Copied parts, right behind the originals where these are selected."""
    copied = read(workspace, data)
    owner = workspace.owner
    if copied is None or owner is None:
        return
    parts = source_of(copied).root.children
    insertion_point = _after_originals(workspace, parts) or selection_commands.insertion_point(
        workspace
    )
    if insertion_point is None:
        return
    parent_id, index = insertion_point
    new_ids: list[str] = []
    reach = reach_of(workspace)

    def change(document: Document) -> Document:
        document, ids = put_down(document, copied, (owner.id, parent_id, index), fresh_id)
        new_ids[:] = ids
        document = keep_to_reach(document, reach, ids)
        return _set_off(document, owner.id, parent_id, ids)

    name = parts[0].name if len(parts) == 1 else f"{len(parts)} parts"
    if workspace.edit(f"paste {name}{here(workspace)}", change):
        workspace.select_all(tuple((node_id,) for node_id in new_ids))
        create_commands.offer_everywhere(workspace, name, tuple(new_ids))


def duplicate(workspace: Workspace) -> None:
    """Copies of the selected parts, right behind each of them."""
    parts, owner = selection_commands.own_parts(workspace), workspace.owner
    if not parts or owner is None:
        return
    new_ids: list[str] = []
    reach = reach_of(workspace)

    def change(document: Document) -> Document:
        for part in parts:
            variant = workspace.selection.variant
            copied = clipping(document, owner.id, (part.id,), variant)
            root = document.owner(owner.id)
            line = lineage(root.root, part.id) if root is not None else ()
            parent = line[-2]
            into = owner.id, parent.id, parent.children.index(line[-1]) + 1
            document, ids = put_down(document, copied, into, fresh_id)
            document = keep_to_reach(document, reach, ids)
            document = _set_off(document, owner.id, parent.id, ids)
            new_ids.extend(ids)
        return document

    name = selection_commands.named(parts)
    if workspace.edit(f"duplicate {name}{here(workspace)}", change):
        workspace.select_all(tuple((node_id,) for node_id in new_ids))
        create_commands.offer_everywhere(workspace, name, tuple(new_ids))


def read(workspace: Workspace, data: bytes) -> Document | None:
    """A clipping from the clipboard's bytes; says what is wrong with one that is damaged."""
    try:
        return native.loads(data, "The clipboard")
    except native.FileRefusal as problem:
        workspace.failed.emit(str(problem))
        return None


def paste_look(workspace: Workspace, clip: Clip) -> None:
    """The copied part's look for the selected ones: paint, corners, letters, arrangement."""
    if not clip.parts:
        workspace.failed.emit("Copy a part first: its look can then be pasted.")
        return
    copied = read(workspace, clip.parts)
    if copied is None:
        return
    try:
        look = look_of(copied, workspace.document.tokens)
        targets = style_commands.selected_places(workspace)
    except Refusal as problem:
        workspace.failed.emit(str(problem))
        return
    reach = reach_of(workspace)

    def change(document: Document) -> Document:
        for place in targets:
            inspection = inspect(document, place)
            values = differing(inspection, look) if inspection is not None else {}
            document = set_values(document, reach, place.path, values) if values else document
        return document

    workspace.edit(f"paste the look{here(workspace)}", change)


def _after_originals(workspace: Workspace, parts: tuple[Node, ...]) -> tuple[str, int] | None:
    """Behind the last of the originals, where they are what is selected."""
    owner = workspace.owner
    ids = {path[0] for path in workspace.selection.paths if len(path) == 1}
    if owner is None or not ids or ids != {part.id for part in parts}:
        return None
    line = lineage(owner.root, parts[-1].id)
    if len(line) < 2:
        return None
    return line[-2].id, line[-2].children.index(line[-1]) + 1


def _set_off(document: Document, owner_id: str, parent_id: str, ids: tuple[str, ...]) -> Document:
    """In a free box a copy would lie on its original: it is set off a little."""
    owner = document.owner(owner_id)
    parent = find(owner.root, parent_id) if owner is not None else None
    if parent is None or parent.style.get("flow") != "free":
        return document
    for node_id in ids:
        node = find(parent, node_id)
        corner = (node.style.get("x"), node.style.get("y")) if node is not None else None
        beside = [c for c in parent.children if c.id not in ids]
        if any((c.style.get("x"), c.style.get("y")) == corner for c in beside):
            place = Place(owner_id, (node_id,), Map())
            document = places.move_by(document, place, (_OFFSET, _OFFSET))
    return document
