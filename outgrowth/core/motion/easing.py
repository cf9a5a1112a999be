"""Easing functions, read from their CSS notation.

Source: CSS Easing Functions Level 2, sections 2.1 (linear) to 2.4 (steps). Springs are not
CSS; they are read here because a motion names them in the same place.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from functools import lru_cache

from outgrowth.core.motion.spring import Spring, bouncing
from outgrowth.core.refusal import Refusal

Easing = Callable[[float], float]

KEYWORDS: dict[str, tuple[float, float, float, float]] = {
    "ease": (0.25, 0.1, 0.25, 1.0),
    "ease-in": (0.42, 0.0, 1.0, 1.0),
    "ease-out": (0.0, 0.0, 0.58, 1.0),
    "ease-in-out": (0.42, 0.0, 0.58, 1.0),
}
"""Control points x1, y1, x2, y2. Source: section 2.2.1."""

_BEZIER = re.compile(r"cubic-bezier\(([^)]*)\)")
_SPRING = re.compile(r"spring\(([^)]*)\)")
_BOUNCE = re.compile(r"bounce\(([^)]*)\)")
_NEWTON_STEPS = 8
_BISECTIONS = 60
_CLOSE = 1e-9


class EasingRefusal(Refusal):
    """The text is not an easing; the message is a sentence for the user."""


@lru_cache(maxsize=256)
def easing(text: str) -> Easing:
    """The function from progress 0…1 to eased progress, for CSS text.

    Raises EasingRefusal.
    """
    text = text.strip().lower()
    if text == "linear":
        return lambda progress: progress
    # 2.4: keywords are steps(1, jump-start) and steps(1, jump-end).
    if text in ("step-start", "step-end"):
        return _steps(f"1, jump-{text.removeprefix('step-')}")
    if text in KEYWORDS:
        return cubic_bezier(*KEYWORDS[text])
    for pattern, make_curve in _FORMS:
        match = pattern.fullmatch(text)
        if match is not None:
            return make_curve(match.group(1))
    raise EasingRefusal(
        f"“{text}” is not an easing. Write linear, ease-out, cubic-bezier(0.2, 0, 0, 1), "
        "steps(4), linear(0, 0.5 20%, 1) or spring(170, 26)."
    )


def spring_of(text: str, duration: float) -> Spring | None:
    """The spring that a motion's easing names, None if it is no spring; `duration` (ms) is
    what `bounce()` goes by. Raises EasingRefusal."""
    text = text.strip().lower()
    bounce = _BOUNCE.fullmatch(text)
    if bounce is not None:
        share = _numbers(bounce.group(1), "bounce takes one number from 0 to 1.")
        if len(share) != 1 or not 0 <= share[0] <= 1:
            raise EasingRefusal("bounce takes one number from 0 to 1.")
        return bouncing(duration, share[0])
    match = _SPRING.fullmatch(text)
    if match is None:
        return None
    sentence = "spring takes stiffness, damping and, if it is not 1, mass; all above zero."
    parts = _numbers(match.group(1), sentence)
    if len(parts) not in (2, 3) or not all(0 < n < 1e6 for n in parts):
        raise EasingRefusal(sentence)
    return Spring(*parts)


def check_easing(text: str) -> str:
    """The text, if it is an easing or a spring. Raises EasingRefusal."""
    if spring_of(text, 300.0) is None:
        easing(text)
    return text.strip()


def _numbers(inside: str, complaint: str) -> list[float]:
    try:
        numbers = [float(part) for part in inside.split(",")]
    except ValueError as problem:
        raise EasingRefusal(complaint) from problem
    if not all(math.isfinite(n) for n in numbers):
        raise EasingRefusal(complaint)
    return numbers


def _steps(inside: str) -> Easing:
    """Source: CSS Easing Functions 2, section 2.4."""
    text = "steps takes a count and jump-start, jump-end, jump-both or jump-none."
    parts = [part.strip() for part in inside.split(",")]
    # The older names of the same (2.4).
    kind = {"start": "jump-start", "end": "jump-end"}.get(parts[-1], parts[-1])
    if len(parts) == 1:
        kind = "jump-end"
    # jump-none needs two steps: it shows both ends.
    least = 2 if kind == "jump-none" else 1
    is_jump = kind in ("jump-start", "jump-end", "jump-both", "jump-none")
    if len(parts) > 2 or not is_jump or not parts[0].isdigit() or int(parts[0]) < least:
        raise EasingRefusal(text)
    count = int(parts[0])
    # 2.4: jump-both jumps once more than it has steps, jump-none once less.
    jumps = count + {"jump-both": 1, "jump-none": -1}.get(kind, 0)
    first = 1 if kind in ("jump-start", "jump-both") else 0

    def stepped(progress: float) -> float:
        if progress < 0:
            return 0.0
        # A progress that rounding left just below a step belongs to it.
        step = min(math.floor(progress * count + 1e-9) + first, jumps)
        return step / jumps

    return stepped


def _pieces(inside: str) -> Easing:
    """Source: CSS Easing Functions 2, section 2.2 (linear())."""
    text = "linear() takes at least two numbers, each with none, one or two percentages."
    stops: list[tuple[float, float | None]] = []
    for part in inside.split(","):
        words = part.split()
        places = [w for w in words if w.endswith("%")]
        values = [w for w in words if not w.endswith("%")]
        if len(values) != 1 or len(places) > 2:
            raise EasingRefusal(text)
        value = _numbers(values[0], text)[0]
        shares = [_numbers(place[:-1], text)[0] / 100 for place in places]
        stops += [(value, share) for share in shares] or [(value, None)]
    if len(stops) < 2:
        raise EasingRefusal(text)
    outputs, inputs = [value for value, _ in stops], _spread([share for _, share in stops])

    def along(progress: float) -> float:
        # 2.2.1 step 4: the last point at or before the input; beyond the ends the outer piece
        # goes on.
        piece = max(n for n in range(len(inputs)) if n == 0 or inputs[n] <= progress)
        piece = min(piece, len(inputs) - 2)
        width = inputs[piece + 1] - inputs[piece]
        # Two points at one input: the later one counts.
        if width <= 0:
            return outputs[piece + 1]
        share = (progress - inputs[piece]) / width
        return outputs[piece] + (outputs[piece + 1] - outputs[piece]) * share

    return along


def _spread(stated: list[float | None]) -> list[float]:
    """The inputs that were not given, evenly between those that were; never going back."""
    shares = list(stated)
    # 2.2.2: the first input is 0 and the last 1 where none is given.
    if shares[0] is None:
        shares[0] = 0.0
    if shares[-1] is None:
        shares[-1] = 1.0
    largest = -math.inf
    for n, share in enumerate(shares):
        if share is not None:
            # An input below one before it is raised to it.
            largest = max(largest, share)
            shares[n] = largest
    numbers: list[float] = []
    for n, share in enumerate(shares):
        if share is not None:
            numbers.append(share)
            continue
        # Missing inputs lie evenly between the neighbours that have one.
        after = next(m for m in range(n, len(shares)) if shares[m] is not None)
        end = shares[after]
        assert end is not None
        numbers.append(numbers[-1] + (end - numbers[-1]) / (after - n + 1))
    return numbers


def _points(inside: str) -> tuple[float, float, float, float]:
    try:
        x1, y1, x2, y2 = (float(part) for part in inside.split(","))
    except ValueError as problem:
        raise EasingRefusal("cubic-bezier takes four numbers: x1, y1, x2, y2.") from problem
    if not (0 <= x1 <= 1 and 0 <= x2 <= 1 and math.isfinite(y1) and math.isfinite(y2)):
        raise EasingRefusal("In cubic-bezier, x1 and x2 must lie from 0 to 1.")
    return x1, y1, x2, y2


def cubic_bezier(x1: float, y1: float, x2: float, y2: float) -> Easing:
    """The curve from (0, 0) to (1, 1) with these control points, as y over x."""

    def eased(progress: float) -> float:
        # 2.3.1: the slope beyond the ends is not asked for: time stays between them.
        if progress <= 0.0:
            return 0.0
        if progress >= 1.0:
            return 1.0
        # The curve gives x and y by one parameter; y is wanted at the parameter where x is the
        # progress.
        return _bezier(_parameter(progress, x1, x2), y1, y2)

    return eased


def _bezier(t: float, first: float, second: float) -> float:
    u = 1.0 - t
    return 3 * u * u * t * first + 3 * u * t * t * second + t * t * t


def _slope(t: float, first: float, second: float) -> float:
    u = 1.0 - t
    return 3 * u * u * first + 6 * u * t * (second - first) + 3 * t * t * (1 - second)


def _parameter(x: float, x1: float, x2: float) -> float:
    """The curve parameter at which the curve has come to x: Newton, else bisection."""
    t = x
    for _ in range(_NEWTON_STEPS):
        miss = _bezier(t, x1, x2) - x
        if abs(miss) < _CLOSE:
            return t
        slope = _slope(t, x1, x2)
        # Where the curve stands still in x, Newton would leap; halving never fails.
        if abs(slope) < 1e-6:
            break
        t = min(max(t - miss / slope, 0.0), 1.0)
    low, high = 0.0, 1.0
    for _ in range(_BISECTIONS):
        t = (low + high) / 2
        low, high = (t, high) if _bezier(t, x1, x2) < x else (low, t)
    return (low + high) / 2


_FORMS: tuple[tuple[re.Pattern[str], Callable[[str], Easing]], ...] = (
    (_BEZIER, lambda inside: cubic_bezier(*_points(inside))),
    (re.compile(r"steps\(([^)]*)\)"), _steps),
    (re.compile(r"linear\(([^)]*)\)"), _pieces),
)
