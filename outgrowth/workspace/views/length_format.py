"""Lengths with their unit, written and read as people say them: 80, 50 %, 40 ch, fit, grow 2."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import groupby
from typing import TypeVar

from outgrowth.core.document.formulas import canonical, is_formula
from outgrowth.core.document.grid_tracks import MOST_TRACKS
from outgrowth.core.document.values import FIT, GROW, GridTrack, Size, Tracks
from outgrowth.workspace.views.arithmetic import ArithmeticRefusal, evaluate

_Said = TypeVar("_Said")
UNITS = {"fixed": "px", "percent": "%", "chars": "ch"}
"""What stands behind a number, by the way in which the size is got."""


_MANY = re.compile(r"^\s*(\d{1,6})\s*[×x]\s*(.+)$")


_AT_LEAST = re.compile(r"^(?:at least|≥|>=)\s*(\S+(?:\s*(?:%|px))?)(?:\s+(grow.*))?$")
_FROM_TO = re.compile(r"^(.+?)\s+to\s+(.+)$")
_REPEATS = {"fit": "auto", "fill": "fill"}
"""How a column that comes as often as there is room is written, by what its empty ones do."""
_OFTEN = re.compile(r"^\s*(auto|fill)\s*[×x]\s*(.+)$", re.IGNORECASE)
_GROWS = re.compile(r"^grow(?:\s+(.+))?$")


def four(said: Sequence[_Said]) -> list[_Said]:
    """One to four values as four sides or corners: what is missing is as what is opposite.
    Source: CSS Box 4, section 4.2."""
    sides = list(said)
    for n in range(len(sides), 4):
        sides.append(sides[max(n - 2, 0)])
    return sides


def in_short(sides: Sequence[_Said]) -> list[_Said]:
    """Four sides or corners in as few values as say them: what `four` gives back."""
    count = next(n for n in range(1, 5) if four(sides[:n]) == [*sides])
    return [*sides[:count]]


def length_text(size: Size) -> str:
    """A size as people say it."""
    if isinstance(size, GridTrack):
        return _track_text(size)
    if size.mode == "formula":
        return size.formula
    if size.mode in ("fit", "grow"):
        return size.mode if size.amount in (0.0, 1.0) else f"{size.mode} {size.amount:g}"
    unit = UNITS[size.mode]
    return f"{round(size.amount, 2):g}" + (f" {unit}" if unit != "px" else "")


def _track_text(track: GridTrack) -> str:
    """A column or row with bounds, or one that is repeated: auto × at least 240, 80 to 200."""
    text = length_text(track.most)
    if track.least is not None and track.mode == "grow":
        text = f"at least {length_text(track.least)}" + (f" {text}" if track.amount != 1 else "")
    elif track.least is not None:
        text = f"{length_text(track.least)} to {text}"
    return f"{_REPEATS[track.repeat]} × {text}" if track.repeat else text


def tracks_text(tracks: Tracks) -> str:
    """Columns or rows as people say them: 7 × grow, 80."""
    runs = [(size, len(list(group))) for size, group in groupby(tracks)]
    values = [f"{count} × {length_text(size)}" if count > 2 else None for size, count in runs]
    parts = zip(runs, values, strict=True)
    return ", ".join(
        repeated or ", ".join([length_text(size)] * n) for (size, n), repeated in parts
    )


def read_tracks(text: str) -> Tracks:
    """Columns or rows from words. Raises ArithmeticRefusal."""
    sizes: list[Size] = []
    for part in text.split(","):
        often, repeated = _OFTEN.match(part), _MANY.match(part)
        if often is not None:
            sizes.append(_read_often(often[1].lower(), often[2]))
            continue
        if part.strip():
            count = min(int(repeated[1]), MOST_TRACKS + 1) if repeated is not None else 1
            sizes += [read_track(repeated[2] if repeated is not None else part)] * count
    if len(sizes) > MOST_TRACKS:
        raise ArithmeticRefusal(f"A grid has at most {MOST_TRACKS} columns and as many rows.")
    return tuple(sizes)


def _read_often(word: str, text: str) -> GridTrack:
    track = read_track(text)
    least = track.least if isinstance(track, GridTrack) else None
    repeat = next(how for how, said in _REPEATS.items() if said == word)
    return GridTrack(track.mode, track.amount, "", least, repeat)  # type: ignore[arg-type]  # a key


def _bounded(least: Size, most: Size) -> Size:
    return GridTrack(most.mode, most.amount, "", least)


def read_size(text: str) -> Size:
    """A width, a height or a bound of one from words, or from a formula. Raises Refusal."""
    if is_formula(text):
        return Size("formula", 0.0, canonical(text))
    if text.strip().lower().endswith("ch"):
        return Size("chars", max(evaluate(text.strip()[:-2].strip(), 0.0), 0.0))
    return read_track(text)


def read_track(text: str) -> Size:
    """A column or row from words. Raises ArithmeticRefusal."""
    text_read = text.strip().lower()
    at_least, from_to = _AT_LEAST.match(text_read), _FROM_TO.match(text_read)
    if at_least is not None:
        most = read_track(at_least[2]) if at_least[2] else GROW
        return _bounded(read_track(at_least[1]), most)
    if from_to is not None:
        return _bounded(read_track(from_to[1]), read_track(from_to[2]))
    if text_read == "fit":
        return FIT
    grows = _GROWS.match(text_read)
    if grows is not None:
        return Size("grow", max(evaluate(grows[1], 1.0), 0.0)) if grows[1] else GROW
    share = text_read.endswith("%")
    amount = evaluate(text_read.removesuffix("%").removesuffix("px").strip(), 0.0)
    return Size("percent" if share else "fixed", max(amount, 0.0))
