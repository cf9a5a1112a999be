"""What can be found or done by name: every action, component, screen, token, part and value."""

from __future__ import annotations

from functools import partial
from typing import Protocol

from PyQt6.QtGui import QKeySequence

from outgrowth.app.actions import Action
from outgrowth.app.dialogs.find import Candidate
from outgrowth.app.panels.ledger import Ledger
from outgrowth.app.session import Session, deeds
from outgrowth.core.document.records import Component, walk
from outgrowth.core.document.variants import Variant, offered, variants

_MOST_FACES = 40
"""Faces that are not offered and can be found by name."""


class Findable(Protocol):
    """What finding needs of the window."""

    session: Session
    ledger: Ledger
    actions_list: list[Action]

    def edit_value(self, name: str) -> None: ...
    def show_token(self, path: str) -> None: ...


def face_said(component: Component, variant: Variant) -> str:
    """A face by the names of its values: “Primary · hover”."""
    values = (axis.value(variant[axis.id]) for axis in component.axes)
    return " · ".join(value.name for value in values if value is not None)


def candidates(window: Findable) -> list[Candidate]:
    """Everything that can be found by name."""
    session = window.session
    document = session.document
    found = []
    for action in window.actions_list:
        keys = QKeySequence(action.shortcut).toString(QKeySequence.SequenceFormat.NativeText)
        found.append(Candidate(action.title, keys or "action", action.act, action.enabled()))
    for owner in document.owners():
        what = "component" if owner.id in document.components else "screen"
        found.append(Candidate(owner.name, what, partial(session.open, owner.id)))
    found += _components(session)
    component = session.component
    for axis in component.axes if component is not None else ():
        if axis.driver == "none":
            act = partial(deeds.face_like_this, session, axis.id)
            found.append(Candidate(f"New {axis.name} that starts as this face", "face", act))
    if component is not None:
        hidden = [v for v in variants(component) if not offered(component, v)]
        for variant in hidden[:_MOST_FACES]:
            act = partial(deeds.offer, session, variant, True)
            found.append(Candidate(f"Offer the face {face_said(component, variant)}", "face", act))
    if session.owner is not None:
        for node in walk(session.owner.root):
            path = () if node is session.owner.root else (node.id,)
            found.append(Candidate(node.name, "part here", partial(session.select, path)))
    for name, row in window.ledger.rows.items():
        act = partial(window.edit_value, name)
        found.append(Candidate(row.editor.title, "value of the selection", act))
    for token in sorted(document.tokens):
        found.append(Candidate(token, "token", partial(window.show_token, token)))
    return found


def _components(session: Session) -> list[Candidate]:
    """Placing each component here, or letting the selected instance follow it."""
    exchanging = bool(deeds.own_instances(session))
    followed = deeds.component_here(session) if exchanging else None
    found, everywhere = [], []
    for component in session.document.in_order():
        if component.id == session.selection.owner:
            continue
        name = deeds.short(component)
        act = partial(deeds.place, session, component.id)
        found.append(Candidate(f"Place {name} here", "place", act))
        if followed is None or component is followed:
            continue
        swap = partial(deeds.exchange, session, component.id)
        found.append(Candidate(f"Exchange for {name}", "exchange", swap))
        count = session.uses_of(followed.id)
        title = f"Exchange every {deeds.short(followed)} for {name}"
        act = partial(deeds.exchange, session, component.id, everywhere=True)
        everywhere.append(Candidate(title, f"exchange, {count}", act))
    return found + everywhere
