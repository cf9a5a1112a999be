"""What may be typed into a number field: numbers, sums, and changes of the old value."""

from __future__ import annotations

import ast
import operator
from collections.abc import Callable

from outgrowth.core.refusal import Refusal

_TWO: dict[type[ast.operator], Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
}
# Letters: nobody types a longer sum, and parsing one nests as deep as it is long.
_LONGEST = 80


class ArithmeticRefusal(Refusal):
    """The text is not a number; the message is a sentence for the user."""


def evaluate(text: str, before: float) -> float:
    """The number that text means: `24`, `24*2`, `+4` or `*1.5` (changes of `before`); a
    unit such as px or % may stand behind it. To subtract, write `- 4` with a space or
    `0-4`; `-4` is the negative number.

    Raises ArithmeticRefusal.
    """
    expression = text.strip().replace(",", ".").replace("×", "*").replace("−", "-")
    for unit in ("px", "%", "°", "ms"):
        expression = expression.removesuffix(unit).strip()
    if expression[:1] in ("+", "*", "/") or expression.startswith("- "):
        expression = f"{before!r} {expression}"
    try:
        if len(expression) > _LONGEST:
            raise ValueError
        return _value(ast.parse(expression, mode="eval").body)
    except (ValueError, SyntaxError, ZeroDivisionError, RecursionError, OverflowError) as problem:
        raise ArithmeticRefusal(f"“{text}” is not a number; try 24, 24*2 or +4.") from problem


def _value(node: ast.expr) -> float:
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        return float(node.value)
    if isinstance(node, ast.BinOp) and type(node.op) in _TWO:
        return _TWO[type(node.op)](_value(node.left), _value(node.right))
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        return -_value(node.operand)
    raise ValueError
