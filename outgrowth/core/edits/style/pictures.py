"""Placing pictures and showing others in their place. The data itself goes into the file."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.records import Asset, Document
from outgrowth.core.document.values import Picture
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.nodes import add_node, new_node
from outgrowth.core.resolve.ladder import Place


def with_asset(document: Document, asset: Asset) -> Document:
    """The document that holds this data; what it holds already is kept once."""
    if asset.digest in document.assets:
        return document
    return msgspec.structs.replace(document, assets=document.assets.set(asset.digest, asset))


def place_picture(
    document: Document,
    into: tuple[str, str, int | None],
    pictures: tuple[Picture, Asset],
    node_id: str,
) -> Document:
    """The document with an image node, called as its file, in a box: `into` are the owner's
    id, the box's, and the place among its children (None: last). Raises Refusal."""
    owner_id, parent_id, index = into
    picture, asset = pictures
    name = asset.name.rpartition(".")[0] or asset.name
    node = new_node(node_id, name, "image", {"picture": picture})
    return add_node(with_asset(document, asset), owner_id, parent_id, node, index)


def show_picture(
    document: Document, place: Place, pictures: tuple[Picture, Asset], reach: Map[str, str]
) -> Document:
    """The document in which an image shows this picture, within a reach. Raises Refusal."""
    picture, asset = pictures
    return set_properties(with_asset(document, asset), place, {"picture": picture}, reach)
