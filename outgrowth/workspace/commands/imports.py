"""What is brought in from outside: pictures and fonts become part of the document."""

from __future__ import annotations

from pathlib import Path as FilePath

from outgrowth.core.document.records import Asset, Document
from outgrowth.core.document.values import Picture
from outgrowth.core.edits.at_reach import keep_to_reach
from outgrowth.core.edits.style.pictures import place_picture, show_picture, with_asset
from outgrowth.core.edits.tree.nodes import add_node
from outgrowth.core.exchange.fonts import read_font
from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.exchange.native.disk import called, read_chosen
from outgrowth.core.refusal import clean, sentence
from outgrowth.core.text.fonts import FONT_SUFFIXES, FontRefusal
from outgrowth.workspace.commands import create_commands, selection_commands
from outgrowth.workspace.reaching import here, reach_of
from outgrowth.workspace.workspace import Workspace

PICTURE_SUFFIXES = (".png", ".jpg", ".jpeg", ".gif", ".webp")
DRAWING_SUFFIX = ".svg"
# Letters of a message in the status line.
_LONGEST_TOLD = 600


def bring(workspace: Workspace, path: FilePath, into: tuple[str, int | None] | None = None) -> None:
    """A file that was dropped or chosen: a picture is placed in a box (`into`, else where
    the selection is), a font goes into the file. Anything else is refused with a sentence."""
    suffix = path.suffix.lower()
    if suffix not in (DRAWING_SUFFIX, *PICTURE_SUFFIXES, *FONT_SUFFIXES):
        workspace.failed.emit(
            f"“{called(path)}” can not be placed; pictures (PNG, JPEG, GIF, WebP), drawings (SVG) "
            "and fonts can."
        )
        return
    try:
        data = read_chosen(path)
    except FileRefusal as problem:
        workspace.failed.emit(str(problem))
        return
    if suffix in FONT_SUFFIXES:
        carry_font(workspace, data, clean(path.name))
    elif suffix == DRAWING_SUFFIX:
        place_drawing(workspace, data, clean(path.name), into)
    else:
        place(workspace, data, clean(path.name), into)


def carry_font(workspace: Workspace, data: bytes, name: str) -> None:
    """A font goes into the file, so that every machine that opens it has it."""
    try:
        described, asset = read_font(data, name)
    except FontRefusal as problem:
        workspace.failed.emit(str(problem))
        return
    workspace.edit(
        f"carry the font {described.family}", lambda document: with_asset(document, asset)
    )


def place(
    workspace: Workspace, data: bytes, name: str, into: tuple[str, int | None] | None = None
) -> None:
    """A picture becomes an image node, and is selected; where an image is selected and no
    place was given, that one shows it instead."""
    picture = _read(workspace, data, name)
    owner = workspace.owner
    if picture is None or owner is None:
        return
    node = selection_commands.own_node(workspace)
    place_selected = workspace.place
    if into is None and node is not None and node.kind == "image" and place_selected is not None:
        when = reach_of(workspace).when
        workspace.edit(
            f"show {name}{here(workspace)}",
            lambda document: show_picture(document, place_selected, picture, when),
        )
        return
    insertion_point = into or selection_commands.insertion_point(workspace)
    if insertion_point is None:
        return
    parent, index = insertion_point
    new_id = selection_commands.fresh_id("image")

    reach = reach_of(workspace)

    def change(document: Document) -> Document:
        document = place_picture(document, (owner.id, parent, index), picture, new_id)
        return keep_to_reach(document, reach, (new_id,))

    if workspace.edit(f"place {name}{here(workspace)}", change):
        workspace.select((new_id,))
        create_commands.offer_everywhere(workspace, name, (new_id,))


def place_drawing(
    workspace: Workspace, data: bytes, name: str, into: tuple[str, int | None] | None = None
) -> None:
    """An SVG drawing becomes nodes in a box (`into`, else where the selection is); what was
    left out of it is told."""
    # Here and not above: reading XML safely takes a moment to import.
    from outgrowth.core.exchange.svg import SvgRefusal, drawn

    owner = workspace.owner
    if owner is None:
        workspace.failed.emit("Begin a component or a screen first: nothing is on the bench.")
        return
    try:
        drawing = drawn(data, name, selection_commands.fresh_id, workspace.engine.layout.typesetter)
    except SvgRefusal as problem:
        workspace.failed.emit(str(problem))
        return
    insertion_point = into or selection_commands.insertion_point(workspace)
    if insertion_point is None:
        return
    parent, index = insertion_point
    reach = reach_of(workspace)

    def change(document: Document) -> Document:
        for asset in drawing.assets:
            document = with_asset(document, asset)
        document = add_node(document, owner.id, parent, drawing.node, index)
        return keep_to_reach(document, reach, (drawing.node.id,))

    name_placed = drawing.node.name
    if workspace.edit(f"place {name_placed}{here(workspace)}", change):
        workspace.select((drawing.node.id,))
        create_commands.offer_everywhere(workspace, name_placed, (drawing.node.id,))
        if drawing.left_out:
            message = f"“{name}” was placed. Left out: {', '.join(drawing.left_out)}."
            workspace.failed.emit(sentence(message, _LONGEST_TOLD))


def _read(workspace: Workspace, data: bytes, name: str) -> tuple[Picture, Asset] | None:
    # Here and not above: Pillow takes long to import, and the window opens without it.
    from outgrowth.core.exchange.pictures import PictureRefusal, read_picture

    try:
        return read_picture(data, name)
    except PictureRefusal as problem:
        workspace.failed.emit(str(problem))
        return None
