"""Room in a flow by a key: a spacer, and margins that take all that is left."""

from __future__ import annotations

from outgrowth.app.session import deeds, making
from outgrowth.app.session.session import Session
from outgrowth.core.document.records import Node
from outgrowth.core.document.values import FIT, GROW, Value
from outgrowth.core.edits.nodes import new_node

_PUSH = {"row": "push-left", "column": "push-top"}


def in_flow(session: Session) -> bool:
    """Whether the selected parts stand in one row or column."""
    return _flow(session) in _PUSH


def put_spacer(session: Session) -> None:
    """An empty part behind the selected one that grows: all after it goes to the end."""
    flow = _flow(session)
    if flow not in _PUSH:
        session.failed.emit("A spacer goes behind a part of a row or a column: pick one.")
        return
    along, across = ("width", "height") if flow == "row" else ("height", "width")
    style: dict[str, Value] = {along: GROW, across: FIT}
    making.put(session, new_node(deeds.fresh_id("box"), "Spacer", "box", style), "put a spacer")


def toggle_push(session: Session) -> None:
    """Pushes the selected parts, and what follows them, to the end of their row or column; or
    lets them come back."""
    flow = _flow(session)
    if flow not in _PUSH:
        session.failed.emit("Only a part of a row or a column can be pushed to its end: pick one.")
        return
    name = _PUSH[flow]
    pushed = session.value_of(name) is True
    session.set_style({name: not pushed})


def _flow(session: Session) -> str:
    box: Node | None = making.parts_in_one_box(session)[1]
    return str(box.style.get("flow", "row")) if box is not None else ""
