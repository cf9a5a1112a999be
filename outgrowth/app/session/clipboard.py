"""Copy and paste: parts as our JSON, as SVG and as a picture; what comes back may be any of
these, a file, or words."""

from __future__ import annotations

import msgspec
from immutables import Map
from PyQt6.QtCore import QBuffer, QMimeData

from outgrowth.app.session import deeds, making, outside
from outgrowth.app.session.deeds import fresh_id
from outgrowth.app.session.session import Session
from outgrowth.app.shot import PictureProblem, picture
from outgrowth.core.document.records import Document, Node, find, lineage
from outgrowth.core.document.refusal import Refusal
from outgrowth.core.document.values import words
from outgrowth.core.edits import places
from outgrowth.core.edits.clipping import clipping, look_of, put_down, source_of
from outgrowth.core.edits.drawing import drawn_node
from outgrowth.core.exchange import native
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw
from outgrowth.core.resolve.ladder import Place

PARTS = "application/vnd.outgrowth+json"
SVG = "image/svg+xml"
_OFFSET = 16.0
_SCALE = 2.0
"""Device px a px of the copied picture."""


def clip(session: Session) -> Document | None:
    """The selected parts of the owner's own tree as a document; None without one."""
    parts = deeds.own_parts(session)
    owner, variant = session.selection.owner, session.selection.variant
    if not parts or session.selection.path == ():
        node = deeds.own_node(session)
        parts = [node] if node is not None else []
    if not parts:
        return None
    return clipping(session.document, owner, tuple(p.id for p in parts), variant)


def mime(session: Session) -> QMimeData | None:
    """What copying puts on the clipboard; None where nothing is selected."""
    held = clip(session)
    if held is None:
        return None
    data = QMimeData()
    data.setData(PARTS, native.dumps(held).encode())
    owner, variant = session.selection.owner, session.selection.variant
    view = session.engine.view(session.document, owner, variant)
    lead = session.selection.path
    at = next((at for at in locate(*view, "") if at.path == lead), None)
    if at is not None:
        fragment = draw(at.scene, at.placed)
        svg = svg_of(fragment, fragment.bounds, session.document.assets)
        data.setData(SVG, svg.encode())
        data.setText(svg)
        try:
            image = picture(at.scene, at.placed, _SCALE, assets=session.document.assets)
            png = QBuffer()
            png.open(QBuffer.OpenModeFlag.WriteOnly)
            image.save(png, "PNG")
            data.setData("image/png", png.data())
        except PictureProblem:
            pass  # the parts themselves are copied all the same
    return data


def takes(data: QMimeData | None) -> bool:
    """Whether something of this could be pasted."""
    if data is None:
        return False
    return bool(
        data.hasFormat(PARTS)
        or data.hasFormat(SVG)
        or data.hasImage()
        or outside.files_of(data)
        or data.text().strip()
    )


def paste(session: Session, data: QMimeData) -> None:
    """Puts down what the clipboard holds: the richest form of it that we know."""
    if session.owner is None and not data.hasFormat(PARTS):
        session.failed.emit("Begin a component or a screen first: nothing is on the bench.")
        return
    files = outside.files_of(data)
    if data.hasFormat(PARTS):
        paste_parts(session, bytes(data.data(PARTS).data()))
    elif files:
        for path in files:
            outside.bring(session, path)
    elif data.hasFormat(SVG):
        outside.place_drawing(session, bytes(data.data(SVG).data()), "Pasted drawing.svg")
    elif data.hasImage():
        outside.place(session, _png_of(data), "Pasted picture.png")
    elif data.text().lstrip().startswith(("<svg", "<?xml")):
        outside.place_drawing(session, data.text().encode(), "Pasted drawing.svg")
    elif data.text().strip():
        paste_words(session, data.text())


def _png_of(data: QMimeData) -> bytes:
    image = data.imageData()
    held = QBuffer()
    held.open(QBuffer.OpenModeFlag.WriteOnly)
    image.save(held, "PNG")
    return held.data().data()


def paste_words(session: Session, text: str) -> bool:
    """Words become a text node."""
    node = drawn_node("text", fresh_id("text"))
    said = words(text.strip()[:10_000])
    named = " ".join(text.split())[:40]
    node = msgspec.structs.replace(node, name=named, style=node.style.set("content", said))
    return making.put(session, node, "paste words")


def paste_parts(session: Session, data: bytes) -> None:
    """Copied parts, right behind the originals where these are selected."""
    held = read(session, data)
    owner = session.owner
    if held is None or owner is None:
        return
    parts = source_of(held).root.children
    spot = _behind(session, parts) or deeds.spot(session)
    if spot is None:
        return
    parent_id, index = spot
    made: list[str] = []

    def change(document: Document) -> Document:
        document, ids = put_down(document, held, (owner.id, parent_id, index), fresh_id)
        made[:] = ids
        return _set_off(document, owner.id, parent_id, ids)

    name = parts[0].name if len(parts) == 1 else f"{len(parts)} parts"
    if session.edit(f"paste {name}", change):
        session.select_all(tuple((node_id,) for node_id in made))


def duplicate(session: Session) -> None:
    """Copies of the selected parts, right behind each of them."""
    parts, owner = deeds.own_parts(session), session.owner
    if not parts or owner is None:
        return
    made: list[str] = []

    def change(document: Document) -> Document:
        for part in parts:
            variant = session.selection.variant
            held = clipping(document, owner.id, (part.id,), variant)
            root = document.owner(owner.id)
            line = lineage(root.root, part.id) if root is not None else ()
            parent = line[-2]
            into = owner.id, parent.id, parent.children.index(line[-1]) + 1
            document, ids = put_down(document, held, into, fresh_id)
            document = _set_off(document, owner.id, parent.id, ids)
            made.extend(ids)
        return document

    if session.edit(f"duplicate {deeds.named(parts)}", change):
        session.select_all(tuple((node_id,) for node_id in made))


def read(session: Session, data: bytes) -> Document | None:
    """A clipping from the clipboard's bytes; says what is wrong with one that is damaged."""
    try:
        return native.loads(data, "The clipboard")
    except native.FileProblem as problem:
        session.failed.emit(str(problem))
        return None


def paste_look(session: Session, data: QMimeData) -> None:
    """The copied part's look for the selected ones: paint, corners, letters, arrangement."""
    held = read(session, bytes(data.data(PARTS).data()))
    if held is not None:
        try:
            look = look_of(held)
        except Refusal as problem:
            session.failed.emit(str(problem))
            return
        try:
            change = session.style_edit(look, fitting=True)
        except Refusal as problem:
            session.failed.emit(str(problem))
            return
        session.edit("paste the look", change)


def _behind(session: Session, parts: tuple[Node, ...]) -> tuple[str, int] | None:
    """Behind the last of the originals, where they are what is selected."""
    owner = session.owner
    ids = {path[0] for path in session.selection.paths if len(path) == 1}
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
        spot = (node.style.get("x"), node.style.get("y")) if node is not None else None
        beside = [c for c in parent.children if c.id not in ids]
        if any((c.style.get("x"), c.style.get("y")) == spot for c in beside):
            place = Place(owner_id, (node_id,), Map())
            document = places.move_by(document, place, (_OFFSET, _OFFSET))
    return document
