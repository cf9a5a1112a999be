"""JSON as the native format writes it: UTF-8, sorted keys, one value a line."""

from __future__ import annotations

import re
from typing import cast

import msgspec
import numpy as np

from outgrowth.core.document.types import Json
from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.refusal import quoted

DEEPEST_JSON = 600
"""Brackets within each other. A tree of 200 levels, each an object in a list, takes 404."""
_TEXT = re.compile(rb'"[^"\\]*(?:\\.[^"\\]*)*"', re.DOTALL)


def to_text(value: Json) -> bytes:
    """The bytes of a file of ours."""
    return msgspec.json.format(msgspec.json.encode(value, order="sorted"), indent=1) + b"\n"


def from_text(data: bytes, name: str) -> Json:
    """The JSON of a file's bytes. Raises FileRefusal: one sentence that names the file."""
    called = quoted(name, 60)
    if _depth(data) > DEEPEST_JSON:
        raise FileRefusal(f"“{called}” is nested more than {DEEPEST_JSON} brackets deep.")
    try:
        return cast(Json, msgspec.json.decode(data))
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as problem:
        reason = str(problem).rstrip(".").lower() or type(problem).__name__
        raise FileRefusal(
            f"“{called}” is damaged or cut off: it is not complete JSON ({reason}). "
            "Nothing was opened; an older copy may still be whole."
        ) from problem


def _depth(data: bytes) -> int:
    """How deep the brackets of JSON are nested, counted without following them."""
    if data.count(b"[") + data.count(b"{") <= DEEPEST_JSON:
        return 0
    bare = np.frombuffer(_TEXT.sub(b"", data), dtype=np.uint8)
    opened = (bare == ord("[")) | (bare == ord("{"))
    closed = (bare == ord("]")) | (bare == ord("}"))
    steps = opened.astype(np.int32) - closed.astype(np.int32)
    return int(np.cumsum(steps).max(initial=0))
