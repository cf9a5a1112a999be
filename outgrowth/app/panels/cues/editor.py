"""A cue's parts as fields: where it listens, for what, under which conditions, and what
it changes."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

import msgspec
from PyQt6.QtCore import QMimeData, QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QDrag, QMouseEvent
from PyQt6.QtWidgets import QApplication, QGridLayout, QHBoxLayout, QLabel, QWidget

from outgrowth.app.benches.bench import CUE_MIME
from outgrowth.app.fields.choice import DropDown, Several
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.panels.sheet import button, muted
from outgrowth.core.document.cues import (
    TIME,
    TRIGGER_ROWS,
    Change,
    Condition,
    Cue,
    Path,
    Trigger,
)
from outgrowth.core.document.records import Axis, Component, Document, Node, Owner, walk
from outgrowth.core.document.sentences import component_of, node_named
from outgrowth.workspace import Workspace


class Carried(QLabel):
    """The name of a line that is dragged to another part on the bench."""

    def __init__(self, text: str, carries: str) -> None:
        super().__init__(text)
        self._carries = carries
        self._from: QPoint | None = None
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setToolTip("Drag this to another part on the bench.")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._from = event.pos() if event is not None else None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        far = QApplication.startDragDistance()
        if event is None or self._from is None:
            return
        if (event.pos() - self._from).manhattanLength() >= far:
            self._from = None
            drag, data = QDrag(self), QMimeData()
            data.setData(CUE_MIME, self._carries.encode())
            drag.setMimeData(data)
            drag.setPixmap(self.grab())
            drag.exec(Qt.DropAction.LinkAction)


class CueEditor(QWidget):
    """`edited(Cue, str)` carries the cue as it should be, and what the step is called."""

    edited = pyqtSignal(object, str)

    def __init__(self, workspace: Workspace, cue: Cue, owner: Owner) -> None:
        super().__init__()
        self._workspace = workspace
        self._cue = cue
        self._owner = owner
        self.fields: dict[str, QWidget] = {}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(14, 2, 0, 8)
        self._grid.setHorizontalSpacing(6)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(1, 1)
        self._add("When", self._trigger())
        self._add("at", self._node(), carries="node")
        for place in self._asked():
            if place.at:
                above = muted(f"if {place.said}")
                self._grid.addWidget(above, self._grid.rowCount(), 0, 1, 2)
            name = "is" if place.at else f"if {place.said}"
            self.fields[f"if {place.said}"] = self._add(name, self._condition_field(place))
        left = self._left()
        if left:
            self._add("only if", self._further(left))
        for n, change in enumerate(cue.changes):
            self._add("then" if n == 0 else "and", self._change(n, change), f"change {n}")
        more = button("and another change", self._more, "tag")
        self._grid.addWidget(more, self._grid.rowCount(), 1)

    def _add(self, name: str, field: QWidget, carries: str = "") -> QWidget:
        """A line of the sheet; one that `carries` something can be dragged to another part."""
        row = self._grid.rowCount()
        label = Carried(name, carries) if carries else QLabel(name)
        label.setProperty("tone", "muted")
        self._grid.addWidget(label, row, 0)
        self._grid.addWidget(field, row, 1)
        self.fields[name] = field
        return field

    # --- when -----------------------------------------------------------------------------

    def _trigger(self) -> QWidget:
        whole = QWidget()
        row = QHBoxLayout(whole)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        trigger = self._cue.trigger
        kinds = DropDown([(kind, row.name) for kind, row in TRIGGER_ROWS.items()], "Trigger")
        kinds.show_value(trigger.kind)
        kinds.edited.connect(self._kind)
        row.addWidget(kinds, 1)
        self.fields["trigger"] = kinds
        if trigger.kind == "key":
            key = WordsField("Key")
            key.show_value("Space" if trigger.key == " " else trigger.key)
            key.edited.connect(self._key)
            row.addWidget(key, 1)
        elif trigger.kind == "delay":
            ms = NumberField(TIME, "How long, in ms")
            ms.show_value(trigger.ms)
            ms.edited.connect(lambda n: self._put_trigger(msgspec.structs.replace(trigger, ms=n)))
            row.addWidget(ms, 1)
        elif trigger.kind == "became":
            row.addWidget(self._becomes(trigger), 2)
        return whole

    def _kind(self, kind: str) -> None:
        changes: dict[str, object] = {"kind": kind}
        if kind == "key":
            changes["key"] = self._cue.trigger.key or "Enter"
        if kind == "delay":
            changes["ms"] = self._cue.trigger.ms or 1000.0
        if kind == "became":
            component = component_of(self._workspace.document, self._owner, self._cue.node)
            if component is None or not component.axes:
                self._workspace.failed.emit("Nothing with values stands there, so none can come.")
                return
            changes["axis"], changes["value"] = component.axes[0].id, ""
        self._put_trigger(msgspec.structs.replace(self._cue.trigger, **changes))

    def _key(self, text: str) -> None:
        key = " " if text.strip().lower() == "space" else text.strip()
        self._put_trigger(msgspec.structs.replace(self._cue.trigger, key=key))

    def _becomes(self, trigger: Trigger) -> QWidget:
        component = component_of(self._workspace.document, self._owner, self._cue.node)
        options = [
            (f"{axis.id}={value.id}", f"{axis.name} is {value.name}")
            for axis in (component.axes if component is not None else ())
            for value in axis.values
        ]
        field = DropDown(options, "Which value")
        field.show_value(f"{trigger.axis}={trigger.value}")
        field.edited.connect(self._came)
        return field

    def _came(self, said: str) -> None:
        axis, _, value = said.partition("=")
        changed = msgspec.structs.replace(self._cue.trigger, axis=axis, value=value)
        self._put_trigger(changed)

    def _put_trigger(self, trigger: Trigger) -> None:
        self._emit("what a cue listens for", trigger=trigger)

    def _node(self) -> QWidget:
        options = [("", "the whole"), *((n.id, n.name) for n in _parts(self._owner))]
        held = "/".join(self._cue.node)
        if held and held not in dict(options):
            name = node_named(self._workspace.document, self._owner, self._cue.node)
            options.append((held, name))
        field = DropDown(options, "Where it listens")
        field.show_value(held)
        field.edited.connect(
            lambda node: self._emit(
                "where a cue listens", node=tuple(node.split("/")) if node else ()
            )
        )
        return field

    # --- if -------------------------------------------------------------------------------

    def _asked(self) -> list[Place]:
        """The axes whose values a cue can ask for and that stand in the sheet: the owner's own,
        and those of parts that it asks for already."""
        asked = {(c.at, c.axis) for c in self._cue.conditions}
        places = places_with_axes(self._workspace.document, self._owner)
        return [p for p in places if not p.at or (p.at, p.axis.id) in asked]

    def _condition_field(self, place: Place) -> QWidget:
        field = Several([(v.id, v.name) for v in place.axis.values], f"If {place.said} is")
        own = self._cue.when.get(place.axis.id) if not place.at else None
        held = next((c for c in self._cue.conditions if _asks(c, place)), None)
        field.show_values((own,) if own else held.values if held is not None else ())
        field.edited.connect(partial(self._ask, place))
        return field

    def _ask(self, place: Place, values: tuple[str, ...]) -> None:
        """Makes the cue depend on a value: one of the owner's own axes stands in `when`, all
        else is a condition."""
        when = self._cue.when
        others = tuple(c for c in self._cue.conditions if not _asks(c, place))
        if not place.at and place.axis.id in when:
            when = when.delete(place.axis.id)
        if not place.at and len(values) == 1:
            when = when.set(place.axis.id, values[0])
        elif values:
            others = (*others, Condition(place.axis.id, values, place.at))
        self._emit("when a cue holds", when=when, conditions=others)

    def _left(self) -> list[Place]:
        """What a cue can ask for and does not yet."""
        asked = self._asked()
        places = places_with_axes(self._workspace.document, self._owner)
        return [place for place in places if place not in asked]

    def _further(self, left: list[Place]) -> QWidget:
        """Another part whose value the cue is to ask for."""
        options = [(str(n), place.said) for n, place in enumerate(left)]
        field = DropDown([("", "another part …"), *options], "Ask for another part")
        field.show_value("")
        field.edited.connect(
            lambda n: self._ask(left[int(n)], (left[int(n)].axis.default,)) if n else None
        )
        return field

    # --- then -----------------------------------------------------------------------------

    def _change(self, n: int, change: Change) -> QWidget:
        whole = QWidget()
        row = QHBoxLayout(whole)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        options = changes_of(self._workspace.document, self._owner)
        if change not in [c for c, _ in options]:
            options = [(change, "as it is"), *options]
        field = DropDown([(str(m), text) for m, (_, text) in enumerate(options)], "What changes")
        field.show_value(str([c for c, _ in options].index(change)))
        field.edited.connect(lambda at: self._put_change(n, options[int(at)][0]))
        row.addWidget(field, 1)
        if len(self._cue.changes) > 1:
            row.addWidget(button("drop", partial(self._drop, n), "tag"))
        self.fields[f"change {n}"] = field
        return whole

    def _put_change(self, n: int, change: Change) -> None:
        changes = (*self._cue.changes[:n], change, *self._cue.changes[n + 1 :])
        self._emit("what a cue changes", changes=changes)

    def _drop(self, n: int) -> None:
        changes = self._cue.changes
        self._emit("what a cue changes", changes=(*changes[:n], *changes[n + 1 :]))

    def _more(self) -> None:
        options = changes_of(self._workspace.document, self._owner)
        new = next((c for c, _ in options if c not in self._cue.changes), None)
        if new is not None:
            self._emit("what a cue changes", changes=(*self._cue.changes, new))

    def _emit(self, step: str, **changes: object) -> None:
        self.edited.emit(msgspec.structs.replace(self._cue, **changes), step)


class Place(NamedTuple):
    """An axis of the owner of a cue, or of an instance at a path in it, and what it is called."""

    at: Path
    axis: Axis
    said: str


def places_with_axes(document: Document, owner: Owner) -> list[Place]:
    """All axes that a cue's conditions can ask for, the owner's own first."""
    own = owner.axes if isinstance(owner, Component) else ()
    found = [Place((), axis, axis.name) for axis in own]
    for node, component in _instances(document, owner):
        found += [Place((node.id,), a, f"{a.name} of {node.name}") for a in component.axes]
    return found


def _asks(condition: Condition, place: Place) -> bool:
    return (condition.at, condition.axis) == (place.at, place.axis.id)


def _instances(document: Document, owner: Owner) -> Iterator[tuple[Node, Component]]:
    for node in _parts(owner):
        held = node.style.get("component")
        component = document.components.get(held) if isinstance(held, str) else None
        if component is not None:
            yield node, component


def _parts(owner: Owner) -> list[Node]:
    return [node for node in walk(owner.root) if node is not owner.root]


def changes_of(document: Document, owner: Owner) -> list[tuple[Change, str]]:
    """All that a cue of an owner can do, with its name: its own axes, those of the instances
    in its tree, timers, screens, and going back."""
    found = _axes_of(owner, (), "") if isinstance(owner, Component) else []
    waits = [Change("restart")] if _waits(owner) else []
    said = [(change, "start its waiting again") for change in waits]
    for node, inner in _instances(document, owner):
        found += _axes_of(inner, (node.id,), f" of {node.name}")
        if _waits(inner):
            change = Change("restart", at=(node.id,))
            said.append((change, f"start the waiting of {node.name} again"))
    screens = document.screens_in_order()
    found += [*said, *((Change("go", s.id), f"show {s.name}") for s in screens)]
    return [*found, (Change("back"), "go back")]


def _waits(owner: Owner) -> bool:
    return any(cue.trigger.kind == "delay" for cue in owner.behaviour.cues)


def _axes_of(component: Component, at: Path, where: str) -> list[tuple[Change, str]]:
    found = []
    for axis in component.axes:
        if axis.driver != "none":
            continue
        found.append((Change("next", axis.id, at=at), f"{axis.name}{where}: next value"))
        for value in axis.values:
            change = Change("set", axis.id, value.id, at)
            found.append((change, f"{axis.name}{where}: {value.name}"))
    return found
