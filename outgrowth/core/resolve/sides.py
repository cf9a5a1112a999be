"""What a part is where one reads from right to left: its flow begins at the right, and where its
sides are the start and end of lines, its left is what its right was.

Later stages know left and right only, so nothing after this asks for a direction.

Source: CSS Logical Properties 1, section 4 (flow-relative box model); CSS Writing Modes 4, section
2.1 (direction).
"""

from __future__ import annotations

from outgrowth.core.document.values import Literals

_PAIRS = (
    ("padding-left", "padding-right"),
    ("margin-left", "margin-right"),
    ("push-left", "push-right"),
    ("stroke-left", "stroke-right"),
    ("radius-top-left", "radius-top-right"),
    ("radius-bottom-left", "radius-bottom-right"),
)
TURNED = " turned"
"""What the pin of a part ends with whose lines begin at the right."""
_TURNED = {"start": "end", "end": "start", "left": "right", "right": "left"}


def read_from_right(kind: str, values: dict[str, Literals]) -> None:
    """Turns what is settled of a node of this kind, in place."""
    if kind == "box":
        values["mirrored"] = values.get("mirrored") is not True
    if values.get("sides") != "start-end":
        return
    for left, right in _PAIRS:
        _exchange(values, left, right)
    if values.get("pin-x") == "center":
        _negate(values, "x")
    else:
        _exchange(values, "x", "right")
        pin = str(values.get("pin-x", "start"))
        values["pin-x"] = f"{_TURNED.get(pin, pin)}{TURNED}"
    _negate(values, "offset-x")
    sticks = values.get("sticks")
    if isinstance(sticks, str):
        values["sticks"] = _TURNED.get(sticks, sticks)


def _exchange(values: dict[str, Literals], one: str, other: str) -> None:
    first, second = values.pop(one, None), values.pop(other, None)
    if second is not None:
        values[one] = second
    if first is not None:
        values[other] = first


def _negate(values: dict[str, Literals], name: str) -> None:
    value = values.get(name)
    if isinstance(value, float):
        values[name] = -value
