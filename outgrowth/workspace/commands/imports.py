"""What is brought in from outside: pictures, drawings and fonts become part of the document."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path as FilePath
from typing import NamedTuple

from outgrowth.core.document.records import Asset, Document
from outgrowth.core.document.values import Picture
from outgrowth.core.edits.at_reach import keep_to_reach
from outgrowth.core.edits.at_reach.reach import Reach
from outgrowth.core.edits.style.pictures import place_picture, show_picture, with_asset
from outgrowth.core.edits.tree.nodes import add_node
from outgrowth.core.exchange.fonts import read_font
from outgrowth.core.exchange.native.disk import called, read_chosen
from outgrowth.core.exchange.pictures import read_picture
from outgrowth.core.exchange.svg import ImportedDrawing, drawn
from outgrowth.core.refusal import Refusal, clean, sentence
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FONT_SUFFIXES, FontBook, FontFile
from outgrowth.workspace.commands import create_commands, selection_commands
from outgrowth.workspace.reaching import here, reach_of
from outgrowth.workspace.reading import size_of
from outgrowth.workspace.workspace import Workspace

PICTURE_SUFFIXES = (".png", ".jpg", ".jpeg", ".gif", ".webp")
DRAWING_SUFFIX = ".svg"
# A letter of a drawing takes as long to read as so many bytes of anything else.
_DRAWING_COST = 32
# Letters of a message in the status line.
_LONGEST_TOLD = 600


class ImportSource(NamedTuple):
    """What is to be brought in.

    name  as it is told, with the suffix that says what it is
    size  bytes, as far as is known before it is read
    load  gives the bytes; raises Refusal
    """

    name: str
    size: int
    load: Callable[[], bytes]


class _Content(NamedTuple):
    """What reading gave: one of these, or why it gave nothing."""

    name: str
    font: tuple[FontFile, Asset] | None = None
    picture: tuple[Picture, Asset] | None = None
    drawing: ImportedDrawing | None = None
    refused: str = ""


class _Aim(NamedTuple):
    """Where what is read goes: as it was meant when it was dropped or chosen, whatever is done
    while it is read.

    reach       the component or screen, and the variants
    conditions  how the name of the step ends
    image       a selected image, which shows a picture instead of a new one
    into        a box, and the place among its children (None: last); None without a box
    """

    reach: Reach
    conditions: str
    image: Place | None
    into: tuple[str, int | None] | None


def bring(
    workspace: Workspace, paths: Sequence[FilePath], into: tuple[str, int | None] | None = None
) -> None:
    """Files that were dropped or chosen: pictures and drawings are placed in a box (`into`, else
    where the selection is), fonts go into the file. Anything else is refused with a sentence."""
    known = [path for path in paths if _is_known(path.name)]
    for path in paths:
        if path not in known:
            workspace.failed.emit(
                f"“{called(path)}” can not be placed; pictures (PNG, JPEG, GIF, WebP), drawings "
                "(SVG) and fonts can."
            )
    sources = [
        ImportSource(clean(path.name), size_of(path), lambda path=path: read_chosen(path))  # type: ignore[misc]  # bound now
        for path in known
    ]
    _bring(workspace, sources, into)


def bring_data(workspace: Workspace, data: bytes, name: str) -> None:
    """A picture or a drawing that was pasted."""
    _bring(workspace, [ImportSource(name, len(data), lambda: data)])


def _bring(
    workspace: Workspace,
    sources: Sequence[ImportSource],
    into: tuple[str, int | None] | None = None,
) -> None:
    """Reads, beside the window where that takes long, and puts down in the order that was given."""
    aim = _aim(workspace, [source.name for source in sources], into)
    if not sources or aim is None:
        return
    name, more = sources[0].name, len(sources) - 1
    fonts = workspace.engine.fonts

    def read() -> list[_Content]:
        return [_read(source, fonts) for source in sources]

    workspace.reading.read(
        f"{name} and {more} more" if more else name,
        sum(source.size * _cost(source.name) for source in sources),
        read,
        lambda contents: _put_all(workspace, contents, aim),
    )


def _is_known(name: str) -> bool:
    return name.lower().endswith((DRAWING_SUFFIX, *PICTURE_SUFFIXES, *FONT_SUFFIXES))


def _cost(name: str) -> int:
    return _DRAWING_COST if name.lower().endswith(DRAWING_SUFFIX) else 1


def _aim(
    workspace: Workspace, names: list[str], into: tuple[str, int | None] | None
) -> _Aim | None:
    """None, and it is told why, where nothing can be put."""
    placed = [name for name in names if not name.lower().endswith(FONT_SUFFIXES)]
    node = selection_commands.own_node(workspace) if into is None else None
    is_one_picture = len(placed) == 1 and not placed[0].lower().endswith(DRAWING_SUFFIX)
    image = None
    if is_one_picture and node is not None and node.kind == "image":
        image = workspace.place
    elif placed and into is None:
        into = selection_commands.insertion_point(workspace)
        if into is None:
            return None
    return _Aim(reach_of(workspace), here(workspace), image, into)


# --- reading, which may be beside the window -----------------------------------------------------


def _read(source: ImportSource, fonts: FontBook) -> _Content:
    name = source.name
    try:
        data = source.load()
        if name.lower().endswith(FONT_SUFFIXES):
            return _Content(name, font=read_font(data, name))
        if name.lower().endswith(DRAWING_SUFFIX):
            typesetter = Typesetter(fonts)
            return _Content(
                name, drawing=drawn(data, name, selection_commands.fresh_id, typesetter)
            )
        return _Content(name, picture=read_picture(data, name))
    except Refusal as problem:
        return _Content(name, refused=str(problem))


# --- putting down --------------------------------------------------------------------------------


def _put_all(workspace: Workspace, contents: list[_Content], aim: _Aim) -> None:
    """Each is a step of its own, so that undo takes back one after another."""
    told: list[str] = []
    placed: list[tuple[str, str]] = []
    for content in contents:
        if content.refused:
            told.append(content.refused)
        elif content.font is not None:
            described, asset = content.font
            workspace.edit(f"carry the font {described.family}", partial(with_asset, asset=asset))
        elif content.picture is not None and aim.image is not None:
            step = f"show {content.name}{aim.conditions}"
            workspace.edit(step, partial(_shown, content.name, content.picture, aim))
        else:
            new = _place(workspace, content, aim, len(placed))
            placed += [new] if new else []
            if new and content.drawing is not None and content.drawing.left_out:
                left_out = ", ".join(content.drawing.left_out)
                told.append(f"“{content.name}” was placed. Left out: {left_out}.")
    # Somebody may look at something else by now.
    if placed and reach_of(workspace) == aim.reach:
        ids = tuple(node_id for _, node_id in placed)
        workspace.select_all(tuple((node_id,) for node_id in ids))
        create_commands.offer_everywhere(workspace, placed[0][0], ids)
    if told:
        workspace.failed.emit(sentence(" ".join(told), _LONGEST_TOLD))


def _shown(name: str, picture: tuple[Picture, Asset], aim: _Aim, document: Document) -> Document:
    """The document in which the image that was selected shows a picture."""
    assert aim.image is not None
    _refuse_gone(document, aim, name)
    return show_picture(document, aim.image, picture, aim.reach.when)


def _place(
    workspace: Workspace, content: _Content, aim: _Aim, after: int
) -> tuple[str, str] | None:
    """Puts a picture or a drawing into the box that was meant, so many places further on: its
    name and its node's id, where that could be."""
    assert aim.into is not None
    box, index = aim.into
    into = aim.reach.owner, box, None if index is None else index + after
    if content.picture is not None:
        name, node_id = content.name, selection_commands.fresh_id("image")
        put = partial(place_picture, into=into, pictures=content.picture, node_id=node_id)
    else:
        assert content.drawing is not None
        name, node_id = content.drawing.node.name, content.drawing.node.id
        put = partial(_with_drawing, into=into, drawing=content.drawing)

    def change(document: Document) -> Document:
        _refuse_gone(document, aim, name)
        return keep_to_reach(put(document), aim.reach, (node_id,))

    return (name, node_id) if workspace.edit(f"place {name}{aim.conditions}", change) else None


def _with_drawing(
    document: Document, into: tuple[str, str, int | None], drawing: ImportedDrawing
) -> Document:
    owner_id, parent_id, index = into
    for asset in drawing.assets:
        document = with_asset(document, asset)
    return add_node(document, owner_id, parent_id, drawing.node, index)


def _refuse_gone(document: Document, aim: _Aim, name: str) -> None:
    """Raises Refusal where the variants that were meant are no more."""
    component = document.components.get(aim.reach.owner)
    if component is None:
        return  # what is put there is refused
    for axis_id, value in aim.reach.when.items():
        axis = component.axis(axis_id)
        if axis is None or axis.value(value) is None:
            raise Refusal(f"“{name}” was not placed: the variants that were meant are no more.")
