"""Makes `core/resolve/styles.py` from the property table: python -m tools.generated

Resolved styles have a field for each row. They stand as code, so that types are checked where
they are read, and are made from the table, so that they cannot differ from it: a test compares.
"""

from __future__ import annotations

from pathlib import Path

from outgrowth.core.document.properties import TABLE, Affects, StyleProperty
from outgrowth.core.resolve import styles

_TYPES = {
    "NumberType": "float",
    "FlagType": "bool",
    "ChoiceType": "str",
    "NameType": "str",
    "AreasType": "str",
    "AreaType": "str",
    "ColorType": "Color",
    "FillType": "Fill",
    "SizeType": "Size",
    "ContentType": "Content",
    "ShadowsType": "Shadows",
    "PictureType": "Picture",
    "OnceType": "Onces",
    "LimitType": "Limit",
    "TracksType": "Tracks",
}
HOME = Path(styles.__file__)
_HEAD = '''"""Resolved styles: a field for each row of the property table, in its order.

Made by `python -m tools.generated`; change the table, not this.
"""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from outgrowth.core.color import Color, Fill
from outgrowth.core.document.values import (
    Content,
    Limit,
    Onces,
    Picture,
    Shadows,
    Size,
    Tracks,
)


class LayoutStyle(msgspec.Struct, frozen=True, weakref=True):
    """What decides sizes and places."""

{layout}


class PaintRows(msgspec.Struct, frozen=True, weakref=True):
    """What decides only how it is drawn."""

{paint}


class Interaction(NamedTuple):
    """How a node takes the pointer and the keys; click-through is a scene node's own."""

{pointer}
'''


def text() -> str:
    """The module's text."""
    return _HEAD.format(
        layout=_fields("layout"),
        paint=_fields("paint"),
        pointer="\n".join(
            f"    {row.field}: {_type(row)} = {row.default!r}".replace("'", '"')
            for row in TABLE.values()
            if row.affects == "pointer" and row.name != "click-through"
        ),
    )


def _fields(affects: Affects) -> str:
    rows = [row for row in TABLE.values() if row.affects == affects]
    return "\n".join(f"    {row.field}: {_type(row)}" for row in rows)


def _type(row: StyleProperty) -> str:
    return _TYPES[type(row.type).__name__]
