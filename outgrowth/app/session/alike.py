"""Selecting what is like the selected part: all in what is on the bench."""

from __future__ import annotations

from collections.abc import Callable

from outgrowth.app.session import deeds
from outgrowth.app.session.session import Session
from outgrowth.core.document.records import Node, walk
from outgrowth.core.resolve.ladder import inspect


def _select(session: Session, like: Callable[[Node], bool]) -> None:
    owner, lead = session.owner, deeds.own_part(session)
    if owner is None or lead is None:
        return
    rest = [n.id for n in walk(owner.root) if n is not owner.root and n is not lead and like(n)]
    session.select_all(tuple((node_id,) for node_id in (lead.id, *rest)))


def same_kind(session: Session) -> None:
    """Every box, text, shape, image or instance, as the selected one is."""
    lead = deeds.own_part(session)
    if lead is not None:
        _select(session, lambda node: node.kind == lead.kind)


def same_component(session: Session) -> None:
    """Every instance that follows the same component as the selected one."""
    lead = deeds.own_instance(session)
    if lead is not None:
        followed = lead.style.get("component")
        _select(session, lambda node: node.style.get("component") == followed)


def same_fill(session: Session) -> None:
    """Every part that is filled, or written, in the same colour in this face."""
    lead = deeds.own_part(session)
    if lead is None:
        return
    wanted = _ink(session, lead)
    _select(session, lambda node: _ink(session, node) == wanted)


def _ink(session: Session, node: Node) -> object:
    found = inspect(session.document, deeds.place_of(session, (node.id,)))
    if found is None:
        return None
    return found.value("color" if found.node.kind == "text" else "fill")
