"""Three orders of one list made into one.

What neither side moved keeps its order and is what all else is placed by: a member that a
side added or moved goes into the same gap of the unmoved ones as it has there. The result is
the same whichever side is called the first.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence, Set
from typing import Literal, NamedTuple

Side = Literal["ours", "theirs"]
Members = Sequence[object]


class Woven(NamedTuple):
    """One order of all members, and those that the sides put to different places."""

    order: tuple[object, ...]
    disagreed: tuple[object, ...] = ()


def woven(base: Members, ours: Members, theirs: Members, members: Set[object], side: Side) -> Woven:
    """The order of the members in `kept`, each of which stands in at least one of the three.
    Where both moved the same one, the place that `side` gives it counts."""
    old = [member for member in base if member in members]
    sides = [[m for m in order if m in members] for order in (ours, theirs)]
    if sides[0] == sides[1]:
        return Woven(tuple(_with_rest(sides[0], old)))
    for mine, theirs_list in (sides, sides[::-1]):
        # Only one of them changed anything: then its order is the answer, whatever moved.
        if mine == old and set(theirs_list) >= set(old):
            return Woven(tuple(theirs_list))
    resting = [_unmoved(old, order) for order in sides]
    still = resting[0] & resting[1]
    gaps = [_gaps(order, still) for order in sides]
    gaps_before = _gaps(old, still)
    placed: dict[int, tuple[list[object], list[object]]] = {}
    disagreed = []
    for member in dict.fromkeys((*sides[0], *sides[1], *old)):
        if member in still:
            continue
        places = [gap.get(member) for gap in gaps]
        # A side that left it where it was lets the other one place it.
        moved = [
            place is not None and member not in unmoved
            for place, unmoved in zip(places, resting, strict=True)
        ]
        if moved[0] and moved[1] and places[0] != places[1]:
            disagreed.append(member)
            moved = [side == "ours", side == "theirs"]
        for number in (0, 1):
            place = places[number]
            if moved[number] and place is not None:
                placed.setdefault(place, ([], []))[number].append(member)
        if not any(moved):  # one side left it, the other took it out and was not followed
            stayer = 0 if places[0] is not None else 1
            placed.setdefault(gaps_before[member], ([], []))[stayer].append(member)
    spans = [_spans(base, order) for order in (ours, theirs)]
    numbers = [_numbered(order) for order in sides]
    unmoved = [member for member in old if member in still]
    order: list[object] = []
    for gap in range(len(unmoved) + 1):
        mine, theirs_list = placed.get(gap, ([], []))
        lists = _sorted_by(mine, numbers[0]), _sorted_by(theirs_list, numbers[1])
        disagreed += _crossed(*lists)
        order += _beside(lists, spans, side)
        order += unmoved[gap : gap + 1]
    return Woven(tuple(order), tuple(disagreed))


def _with_rest(order: list[object], old: list[object]) -> list[object]:
    """What only the old order has follows behind."""
    present = set(order)
    return [*order, *(member for member in old if member not in present)]


def _numbered(order: Members) -> dict[object, int]:
    """The place of each member in an order."""
    return {member: n for n, member in enumerate(order)}


def _sorted_by(members: list[object], numbers: dict[object, int]) -> list[object]:
    return sorted(members, key=lambda member: numbers.get(member, len(numbers)))


def _gaps(order: Members, still: Set[object]) -> dict[object, int]:
    """How many unmoved members stand before each."""
    gaps: dict[object, int] = {}
    count = 0
    for member in order:
        gaps[member] = count
        count += member in still
    return gaps


def _unmoved(old: Members, new: Members) -> frozenset[object]:
    """The most members that stand in the same order in both: the others were moved.

    The longest increasing subsequence by patience sorting (Fredman 1975; from memory)."""
    places = _numbered(old)
    common = [member for member in new if member in places]
    if [places[member] for member in common] == sorted(places[member] for member in common):
        return frozenset(common)
    ends: list[int] = []
    last: list[object] = []
    before: dict[object, object | None] = {}
    for member in common:
        place = bisect_left(ends, places[member])
        before[member] = last[place - 1] if place else None
        ends[place : place + 1] = [places[member]]
        last[place : place + 1] = [member]
    run: set[object] = set()
    member = last[-1] if last else None
    while member is not None:
        run.add(member)
        member = before[member]
    return frozenset(run)


_Spans = dict[object, tuple[int, int]]


def _spans(base: Members, order: Members) -> _Spans:
    """Between which members of the base each stands in a side's order, by their numbers there:
    what the other side took out may still tell which of two comes first."""
    numbers = _numbered(base)
    resting = _unmoved(base, order)
    spans: _Spans = {}
    low = 0
    waiting: list[object] = []
    for member in (*order, None):
        if member is None or member in resting:
            high = numbers.get(member, len(base))
            spans |= dict.fromkeys(waiting, (low, high))
            low, waiting = high + 1, []
        else:
            waiting.append(member)
    return spans


def _shared(mine: list[object], theirs: list[object]) -> tuple[list[object], list[object]]:
    """What both lists have, in the order of each."""
    in_mine, in_theirs = set(mine), set(theirs)
    return [m for m in mine if m in in_theirs], [m for m in theirs if m in in_mine]


def _crossed(mine: list[object], theirs: list[object]) -> list[object]:
    """What both sides put into one gap, in another order each."""
    both = zip(*_shared(mine, theirs), strict=True)
    return [member for member, other in both if member != other]


def _beside(
    lists: tuple[list[object], list[object]], spans: list[_Spans], side: Side
) -> list[object]:
    """Two lists in one gap: what both have stands once, and neither list is torn apart."""
    mine, theirs_list = lists
    shared_members, as_theirs = _shared(mine, theirs_list)
    if shared_members != as_theirs:
        first, second = (mine, theirs_list) if side == "ours" else (theirs_list, mine)
        in_first = set(first)
        return [*first, *(member for member in second if member not in in_first)]
    result: list[object] = []
    for shared in [*shared_members, None]:
        pieces = [
            _piece_before(shared, items, known) for items, known in zip(lists, spans, strict=True)
        ]
        # Which comes first is decided by where they stand, then by what they are called, not by
        # who asks.
        for _, _, piece in sorted(pieces, key=lambda p: p[:2]):
            result += piece
        result += [shared] if shared is not None else []
    return result


def _piece_before(
    shared: object, items: list[object], known_spans: _Spans
) -> tuple[tuple[int, int], str, list[object]]:
    """What stands before a shared member (None: to the end), taken out of a list with it, and
    what it is sorted by."""
    end = items.index(shared) if shared is not None else len(items)
    piece = items[:end]
    del items[: end + 1]
    first_span = known_spans.get(piece[0], (0, 0)) if piece else (0, 0)
    return first_span, repr(piece), piece
