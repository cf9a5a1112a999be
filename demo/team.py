"""The ferry line's team: a library of its parts, and two colleagues who publish when asked.

Maren Skerry and Tove Holm are made up, like everything here.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path as FilePath

import msgspec
from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Axis, AxisValue, Component, Document, Rule
from outgrowth.core.document.types import ColorType, NumberType
from outgrowth.core.document.values import Value
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis
from outgrowth.core.exchange.native import load, save
from outgrowth.core.exchange.native.disk import read_file
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.connection import Connection, connect, make_library
from outgrowth.core.team.difference import Difference, differences
from outgrowth.core.team.facts import place_in_owner
from outgrowth.core.team.publishing import PublishingPlan, Request, publish, published
from outgrowth.core.team.store import Progress, Signature, untold
from outgrowth.core.team.taking import take_in
from outgrowth.resources import DEMO
from outgrowth.workspace.connected_libraries import ConnectedLibraries

NAME = "Holm & Skerry parts"
_FILE = "ferry-line.outgrowth.json"
_LIBRARY = "parts"
_MAREN = "Maren Skerry <maren@ferries.example>"
_TOVE = "Tove Holm <tove@ferries.example>"
_DEEP = Color(0.05, 0.27, 0.36)
_URGENT = Color(0.98, 0.88, 0.82)


def demo_file(data: FilePath, when: int) -> FilePath:
    """The demo in a folder of the user's own, connected to a library beside it; both are made on
    the first run of a program that ships another demo. Raises OSError or Refusal."""
    digest = hashlib.sha256(read_file(DEMO)).hexdigest()[:12]
    folder = data / "demo" / digest
    file, library = folder / _FILE, folder / _LIBRARY
    if not file.exists():
        folder.mkdir(parents=True, exist_ok=True)
        copies = data / "libraries"
        if library.exists() and any(library.iterdir()):
            connection = connect(str(library), copies)
        else:
            connection = make_library(str(library), NAME, Signature(_MAREN, when), copies)
        with closing(connection):
            save(shared(load(DEMO), connection, when), file)
    # Its own maker connects it: the demo is to show a team, not how one is met.
    ConnectedLibraries(data / "connected").add(file, str(library.resolve()))
    return file


class FerryTeam:
    """The two colleagues, as a window is handed them."""

    def work_in(self, address: str) -> bool:
        """Whether a library is one that `demo_file` made: only there do they publish."""
        folder = FilePath(address)
        return folder.name == _LIBRARY and (folder.parent / _FILE).is_file()

    def publish(
        self, address: str, document: Document, when: int, copies: FilePath, progress: Progress
    ) -> list[PublishingPlan]:
        """Another colour for the button, a tone for the notice, and something that clashes with
        work of the file that isn't published yet. What was published before is gone over once
        more with another value."""
        with closing(connect(address, copies)) as connection:
            return list(_published(connection, document, when, progress))


def shared(document: Document, connection: Connection, when: int) -> Document:
    """A document with all its parts in a library, worked on from here."""
    state = connection.newest()
    request = Request(document, document.component_order, connection.bases(document, state))
    if state.document.component_order:
        return take_in(document, state, state.document.component_order, {}).document
    signature = Signature(_TOVE, when)
    plans = publish(
        request, connection.reader, "The parts of the ferry line", signature, _plainly, untold
    )
    return published(document, plans, request)


def _published(
    connection: Connection, document: Document, when: int, progress: Progress
) -> Iterator[PublishingPlan]:
    for signature, message, edit in (
        (_MAREN, "The button in the colour of deep water", _recoloured),
        (_TOVE, "Notices can be urgent", _toned),
        (_MAREN, "What we agreed on yesterday", _clashing(document)),
    ):
        state = connection.refreshed(progress)
        changed = edit(state.document)
        ids = tuple(
            i
            for i in changed.component_order
            if changed.components[i] is not state.document.components.get(i)
        )
        if not ids:
            continue
        bases = {i: state.document.components[i] for i in ids}
        request = Request(changed, ids, bases)
        signed = Signature(signature, when)
        yield publish(request, connection.reader, message, signed, _plainly, progress)


def _recoloured(document: Document) -> Document:
    button = document.components.get("button")
    if button is None or not button.axes:
        return document
    kind = button.axes[0]
    place = Place(button.id, (), Map({kind.id: kind.values[0].id}))
    fill = next((r.value for r in button.rules if r.property == "fill" and kind.id in r.when), None)
    color = _DEEP if fill != _DEEP else Color(0.02, 0.2, 0.28)
    return set_properties(document, place, {"fill": color}, Map({kind.id: kind.values[0].id}))


def _toned(document: Document) -> Document:
    notice = document.components.get("notice")
    if notice is None or notice.axis("tone") is not None:
        return document
    values = (AxisValue("calm", "calm"), AxisValue("urgent", "urgent"))
    document = add_axis(document, notice.id, Axis("tone", "Tone", values, "calm"))
    component = document.components[notice.id]
    rule = Rule(Map({"tone": "urgent"}), (component.root.id,), "fill", _URGENT)
    toned = msgspec.structs.replace(component, rules=(*component.rules, rule))
    return msgspec.structs.replace(document, components=document.components.set(notice.id, toned))


def _clashing(mine: Document) -> Callable[[Document], Document]:
    """An edit that changes what a file's own unpublished work changes, to something else."""

    def edit(document: Document) -> Document:
        for component in mine.in_order():
            theirs = document.components.get(component.id)
            if theirs is None or mine.sharing.read_only(component.id):
                continue
            for difference in differences(theirs, component):
                changed = _said_otherwise(theirs, difference)
                if changed is not None:
                    return msgspec.structs.replace(
                        document, components=document.components.set(changed.id, changed)
                    )
        return document

    return edit


def _said_otherwise(component: Component, difference: Difference) -> Component | None:
    """A component that says a third thing where the file said another; None where it cannot."""
    match place_in_owner(difference.key):
        case ("node", node, "style", prop) if difference.kind != "removed":
            name = str(prop)
        case _:
            return None
    value = _third(name, difference.after)
    if value is None:
        return None
    document = Document("", Map({component.id: component}), component_order=(component.id,))
    path = () if node == component.root.id else (str(node),)
    changed = set_properties(document, Place(component.id, path), {name: value})
    return changed.components[component.id]


def _third(name: str, value: object) -> Value | None:
    kind = row_of(name).type
    if isinstance(kind, NumberType) and isinstance(value, float):
        return kind.fit(value + 6.0)
    if isinstance(kind, ColorType) or isinstance(value, Color):
        return _DEEP if value != _DEEP else _URGENT
    return None


def _plainly(_: PublishingPlan, difference: Difference) -> str:
    """A difference in the fewest words: the demo's own changelog is read by nobody else."""
    words = [part for part in place_in_owner(difference.key) if isinstance(part, str)]
    return f"{difference.kind} {' '.join(words)}"
