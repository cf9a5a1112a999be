"""Short ways to write nodes, for the demo's scripts only."""

from __future__ import annotations

from collections.abc import Mapping

from outgrowth.core.color import parse
from outgrowth.core.document.properties import CHOICE, FAMILY_MEMBERS, row_of
from outgrowth.core.document.records import Node
from outgrowth.core.document.types import ColorType, ContentType, FillType, SizeType
from outgrowth.core.document.values import (
    FIT,
    GROW,
    FromProperty,
    Picture,
    Shadow,
    Token,
    Value,
    fixed,
    words,
)
from outgrowth.core.edits.tree.nodes import new_node

Given = Value | int | tuple[int, int]

grow = GROW
fit = FIT


def box(node_id: str, *children: Node, name: str = "", **style: Given) -> Node:
    """A box of children."""
    return new_node(node_id, name or spoken(node_id), "box", styled(style), children)


def text(node_id: str, content: str | FromProperty, name: str = "", **style: Given) -> Node:
    """A text."""
    content_words = words(content) if isinstance(content, str) else content
    return new_node(
        node_id, name or spoken(node_id), "text", styled(style) | {"content": content_words}
    )


def shape(node_id: str, path: str, name: str = "", **style: Given) -> Node:
    """A shape of a path."""
    return new_node(node_id, name or spoken(node_id), "shape", styled(style) | {"path": path})


def image(node_id: str, picture: Picture, name: str = "", **style: Given) -> Node:
    """An image."""
    return new_node(node_id, name or spoken(node_id), "image", styled(style) | {"picture": picture})


def instance(
    node_id: str,
    component: str | FromProperty,
    name: str = "",
    choices: dict[str, Value] | None = None,
    **style: Given,
) -> Node:
    """An instance of a component."""
    chosen: dict[str, Value] = {CHOICE + key: v for key, v in (choices or {}).items()}
    value: Value = component
    values = styled(style) | chosen | {"component": value}
    return new_node(node_id, name or spoken(node_id), "instance", values)


def spoken(node_id: str) -> str:
    """A name from an id: `pay-button` is “pay button”."""
    return node_id.replace("-", " ")


def styled(given: Mapping[str, Given]) -> dict[str, Value]:
    """Keyword arguments as style values: padding=(v, h) or one number for a family of
    rows, numbers for fixed sizes, hex or {token} for colours, text for words."""
    values: dict[str, Value] = {}
    for key, value in given.items():
        name = key.replace("_", "-")
        members = FAMILY_MEMBERS.get(name, (name,))
        for n, member in enumerate(members):
            values[member] = _fitted(member, _of_pair(value, n))
    return values


def _of_pair(value: Given, side: int) -> Value | int:
    """(vertical, horizontal) by the side it is for: top, right, bottom, left."""
    if isinstance(value, tuple) and len(value) == 2:
        value_there = value[side % 2]
        if isinstance(value_there, int):
            return value_there
    return value  # type: ignore[return-value]  # pairs of numbers are taken apart above


def _fitted(name: str, value: Value | int) -> Value:
    kind = row_of(name).type
    if isinstance(value, str) and value.startswith("{"):
        return Token(value[1:-1])
    if isinstance(value, int) and not isinstance(value, bool):
        value = float(value)
    if isinstance(kind, SizeType) and isinstance(value, float):
        return fixed(value)
    if isinstance(kind, ColorType | FillType) and isinstance(value, str):
        return parse(value)
    if isinstance(kind, ContentType) and isinstance(value, str):
        return words(value)
    return value


def cast(y: float, blur: float, color: str) -> tuple[Shadow, ...]:
    """One soft shadow straight down."""
    return (Shadow(parse(color), 0.0, y, blur),)
