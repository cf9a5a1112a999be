"""Parts moved among their neighbours, where that may differ from variant to variant."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Document, Node, Owner, Rule, find, lineage
from outgrowth.core.edits.at_reach.reach import Reach, is_narrowed, with_deciding
from outgrowth.core.edits.tree import nodes
from outgrowth.core.edits.tree.components import component_of
from outgrowth.core.edits.tree.trees import node_of, owner_of, restyled, with_node, with_owner
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import value_at


class _Turn(NamedTuple):
    """A child's turn among its neighbours: its order, and its place in the tree."""

    order: float
    place: int


def sequence(document: Document, reach: Reach, box_id: str) -> tuple[str, ...]:
    """The children of a box in the order in which the variant looked at shows them."""
    box = node_of(owner_of(document, reach.owner), box_id)
    turns = _turns(document, reach, box)
    return tuple(sorted(turns, key=lambda child: turns[child]))


def _turns(document: Document, reach: Reach, box: Node) -> dict[str, _Turn]:
    turns: dict[str, _Turn] = {}
    for n, child in enumerate(box.children):
        order = value_at(document, reach.place((child.id,)), "order")
        turns[child.id] = _Turn(order if isinstance(order, float) else 0.0, n)
    return turns


def can_differ(owner: Owner, node_ids: Sequence[str], box_id: str) -> bool:
    """Whether such a move can differ from variant to variant: whether all stay in their box."""
    box = node_of(owner, box_id)
    children = {child.id for child in box.children}
    return all(node_id in children for node_id in node_ids)


def move_parts(
    document: Document, reach: Reach, node_ids: Sequence[str], box_id: str, before: str | None
) -> Document:
    """The document with parts moved before a child of a box (None: last), in this order.

    Among their neighbours they take another turn within the reach only. Into another box they
    go in all variants: see `can_differ`; what that asks of their turns holds within the reach.
    Raises Refusal where a part cannot go.
    """
    owner = owner_of(document, reach.owner)
    if find(owner.root, box_id) is None:
        raise Refusal(f"The box is no longer in “{owner.name}”.")
    if is_narrowed(document, reach) and can_differ(owner, node_ids, box_id):
        return _in_turn(document, reach, node_ids, box_id, before)
    shown = [i for i in sequence(document, reach, box_id) if i not in node_ids]
    at = shown.index(before) if before in shown else len(shown)
    for node_id in node_ids:
        document = _moved(document, reach, node_id, box_id, before)
    wanted = (*shown[:at], *node_ids, *shown[at:])
    if sequence(document, reach, box_id) == wanted:
        return document
    # Some of them say their own turn, which counts for more than the place in the tree.
    return _with_orders(document, reach, box_id, wanted)


def _moved(
    document: Document, reach: Reach, node_id: str, box_id: str, before: str | None
) -> Document:
    owner = owner_of(document, reach.owner)
    box = node_of(owner, box_id)
    ids = [child.id for child in box.children if child.id != node_id]
    index = ids.index(before) if before in ids else len(ids)
    line = lineage(owner.root, node_id)
    if len(line) > 1 and line[-2] is box and box.children.index(line[-1]) == index:
        return document
    return nodes.move_node(document, reach.owner, node_id, box_id, index)


def _in_turn(
    document: Document, reach: Reach, node_ids: Sequence[str], box_id: str, before: str | None
) -> Document:
    others = [i for i in sequence(document, reach, box_id) if i not in node_ids]
    index = others.index(before) if before in others else len(others)
    wanted = (*others[:index], *node_ids, *others[index:])
    return _with_orders(document, reach, box_id, wanted)


def _with_orders(
    document: Document, reach: Reach, box_id: str, wanted: tuple[str, ...]
) -> Document:
    turns = _turns(document, reach, node_of(owner_of(document, reach.owner), box_id))
    given = [turns[child] for child in wanted]
    # Whichever way leaves more of them as they are.
    for child, order in min(_from_the_first(wanted, given), _from_the_last(wanted, given), key=len):
        document = _with_order(document, reach, child, order)
    return document


def _with_order(document: Document, reach: Reach, child: str, order: float) -> Document:
    owner = owner_of(document, reach.owner)
    if reach.when:
        rule = Rule(reach.when, (child,), "order", order)
        return with_owner(document, with_deciding(component_of(document, owner.id), rule))
    changed = with_node(owner, child, lambda node: restyled(node, Map({"order": order})))
    document = with_owner(document, changed)
    if value_at(document, reach.place((child,)), "order") == order:
        return document
    rule = Rule(Map(), (child,), "order", order)
    return with_owner(document, with_deciding(component_of(document, owner.id), rule))


_Orders = list[tuple[str, float]]


def _from_the_first(wanted: Sequence[str], given: Sequence[_Turn]) -> _Orders:
    """The orders that change when each takes the least that puts it behind the one before."""
    changed: _Orders = []
    last = _Turn(float("-inf"), 0)
    for child, turn in zip(wanted, given, strict=True):
        if turn <= last:
            turn = turn._replace(order=last.order + (turn.place < last.place))
            changed.append((child, turn.order))
        last = turn
    return changed


def _from_the_last(wanted: Sequence[str], given: Sequence[_Turn]) -> _Orders:
    """The same, each before the one behind it."""
    changed: _Orders = []
    after = _Turn(float("inf"), 0)
    for child, turn in zip(reversed(wanted), reversed(given), strict=True):
        if turn >= after:
            turn = turn._replace(order=after.order - (turn.place > after.place))
            changed.append((child, turn.order))
        after = turn
    return changed
