"""A cue's parts as fields: where it listens, for what, under which conditions, and what
it changes."""

from __future__ import annotations

from functools import partial

import msgspec
from PyQt6.QtCore import QMimeData, QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QDrag, QMouseEvent
from PyQt6.QtWidgets import QApplication, QGridLayout, QHBoxLayout, QLabel, QWidget

from outgrowth.app.benches.drops import CUE_MIME
from outgrowth.app.fields.choice import DropDown, Several
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.panels.sheet import button, muted
from outgrowth.app.theme import builders
from outgrowth.core.document.cues import (
    TIME,
    TRIGGER_ROWS,
    Change,
    Cue,
    Trigger,
)
from outgrowth.core.document.records import Owner
from outgrowth.core.document.referring import waiting_time
from outgrowth.core.document.sentences import component_of, node_named
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import cue_commands
from outgrowth.workspace.commands.cue_commands import CHANGES, HOLDS, LISTENS
from outgrowth.workspace.cue_options import (
    ConditionAxis,
    asks_for,
    condition_axes,
    own_nodes,
    possible_changes,
)


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
        for place in self._condition_axes():
            if place.at:
                above = muted(f"if {place.label}")
                self._grid.addWidget(above, self._grid.rowCount(), 0, 1, 2)
            name = "is" if place.at else f"if {place.label}"
            self.fields[f"if {place.label}"] = self._add(name, self._condition_field(place))
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
        container = QWidget()
        row = builders.row(container, spacing=4)
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
        elif trigger.kind in ("delay", "long-press"):
            self._waiting(row, trigger)
        elif trigger.kind == "became":
            row.addWidget(self._becomes(trigger), 2)
        return container

    def _waiting(self, row: QHBoxLayout, trigger: Trigger) -> None:
        """How long it waits, or is held: a time of its own, or a token's."""
        document = self._workspace.document
        ms = NumberField(TIME, "How long, in ms")
        ms.show_value(waiting_time(trigger, document.token))
        ms.edited.connect(lambda n: self._put_trigger(cue_commands.with_time(document, trigger, n)))
        row.addWidget(ms, 1)
        paths = cue_commands.duration_tokens(document)
        if not paths:
            return
        named = DropDown([("", "its own time"), *((p, p) for p in paths)], "The token it follows")
        named.show_value(trigger.token)
        named.edited.connect(
            lambda path: self._put_trigger(cue_commands.with_time(document, trigger, None, path))
        )
        row.addWidget(named, 1)
        self.fields["token"] = named

    def _kind(self, kind: str) -> None:
        trigger = cue_commands.with_kind(self._workspace, self._owner, self._cue, kind)
        if trigger is not None:
            self._put_trigger(trigger)

    def _key(self, text: str) -> None:
        key = " " if text.strip().lower() == "space" else text.strip()
        self._put_trigger(msgspec.structs.replace(self._cue.trigger, key=key))

    def _becomes(self, trigger: Trigger) -> QWidget:
        component = component_of(self._workspace.document, self._owner, self._cue.node)
        options = [
            (f"{axis.id}={value.id}", f"{axis.name} is {value.name}")
            for axis in cue_commands.axes_heard(component)
            for value in axis.values
        ]
        field = DropDown(options, "Which value")
        field.show_value(f"{trigger.axis}={trigger.value}")
        field.edited.connect(self._value_chosen)
        return field

    def _value_chosen(self, text: str) -> None:
        axis, _, value = text.partition("=")
        changed = msgspec.structs.replace(self._cue.trigger, axis=axis, value=value)
        self._put_trigger(changed)

    def _put_trigger(self, trigger: Trigger) -> None:
        self._emit("what a cue listens for", trigger=trigger)

    def _node(self) -> QWidget:
        options = [("", "the whole"), *((n.id, n.name) for n in own_nodes(self._owner))]
        listening = "/".join(self._cue.node)
        if listening and listening not in dict(options):
            name = node_named(self._workspace.document, self._owner, self._cue.node)
            options.append((listening, name))
        field = DropDown(options, "Where it listens")
        field.show_value(listening)
        field.edited.connect(
            lambda node: self._emit(LISTENS, node=tuple(node.split("/")) if node else ())
        )
        return field

    # --- if -------------------------------------------------------------------------------

    def _condition_axes(self) -> list[ConditionAxis]:
        """The axes whose values a cue can ask for and that stand in the sheet: the owner's own,
        and those of parts that it asks for already."""
        asked_axes = {(c.at, c.axis) for c in self._cue.conditions}
        places = condition_axes(self._workspace.document, self._owner)
        return [p for p in places if not p.at or (p.at, p.axis.id) in asked_axes]

    def _condition_field(self, place: ConditionAxis) -> QWidget:
        field = Several([(v.id, v.name) for v in place.axis.values], f"If {place.label} is")
        own = self._cue.when.get(place.axis.id) if not place.at else None
        condition = next((c for c in self._cue.conditions if asks_for(c, place)), None)
        field.show_values((own,) if own else condition.values if condition is not None else ())
        field.edited.connect(partial(self._ask, place))
        return field

    def _ask(self, place: ConditionAxis, values: tuple[str, ...]) -> None:
        """Makes the cue depend on some values of an axis."""
        self.edited.emit(cue_commands.with_condition(self._cue, place, values), HOLDS)

    def _left(self) -> list[ConditionAxis]:
        """What a cue can ask for and does not yet."""
        in_sheet = self._condition_axes()
        places = condition_axes(self._workspace.document, self._owner)
        return [place for place in places if place not in in_sheet]

    def _further(self, left: list[ConditionAxis]) -> QWidget:
        """Another part whose value the cue is to ask for."""
        options = [(str(n), place.label) for n, place in enumerate(left)]
        field = DropDown([("", "another part …"), *options], "Ask for another part")
        field.show_value("")
        field.edited.connect(
            lambda n: self._ask(left[int(n)], (left[int(n)].axis.default,)) if n else None
        )
        return field

    # --- then -----------------------------------------------------------------------------

    def _change(self, n: int, change: Change) -> QWidget:
        container = QWidget()
        row = builders.row(container, spacing=2)
        options = possible_changes(self._workspace.document, self._owner)
        if change not in [c for c, _ in options]:
            options = [(change, "as it is"), *options]
        field = DropDown([(str(m), text) for m, (_, text) in enumerate(options)], "What changes")
        field.show_value(str([c for c, _ in options].index(change)))
        field.edited.connect(lambda position: self._put_change(n, options[int(position)][0]))
        row.addWidget(field, 1)
        if len(self._cue.changes) > 1:
            row.addWidget(button("drop", partial(self._drop, n), "tag"))
        self.fields[f"change {n}"] = field
        return container

    def _put_change(self, n: int, change: Change) -> None:
        self.edited.emit(cue_commands.with_change(self._cue, n, change), CHANGES)

    def _drop(self, n: int) -> None:
        changes = self._cue.changes
        self._emit(CHANGES, changes=(*changes[:n], *changes[n + 1 :]))

    def _more(self) -> None:
        options = possible_changes(self._workspace.document, self._owner)
        new = next((c for c, _ in options if c not in self._cue.changes), None)
        if new is not None:
            self._emit(CHANGES, changes=(*self._cue.changes, new))

    def _emit(self, step: str, **changes: object) -> None:
        self.edited.emit(msgspec.structs.replace(self._cue, **changes), step)
