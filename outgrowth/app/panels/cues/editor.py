"""A cue's parts as fields: where it listens, for what, under which conditions, and what
it changes."""

from __future__ import annotations

from functools import partial

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QWidget

from outgrowth.app.fields.choice import DropDown
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.panels.sheet import button
from outgrowth.app.session import Session
from outgrowth.core.document.cues import TIME, TRIGGERS, Change, Cue, Path, Trigger
from outgrowth.core.document.records import Component, Document, Node, Owner, walk
from outgrowth.core.document.sentences import component_of, node_named

ANY = "*"


class CueEditor(QWidget):
    """`edited(Cue, str)` carries the cue as it should be, and what the step is called."""

    edited = pyqtSignal(object, str)

    def __init__(self, session: Session, cue: Cue, owner: Owner) -> None:
        super().__init__()
        self._session = session
        self._cue = cue
        self._owner = owner
        self.fields: dict[str, QWidget] = {}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(14, 2, 0, 8)
        self._grid.setHorizontalSpacing(6)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(1, 1)
        self._add("When", self._trigger())
        self._add("at", self._node())
        if isinstance(owner, Component):
            for axis in owner.axes:
                options = [(ANY, "any"), *((v.id, v.name) for v in axis.values)]
                field = DropDown(options, f"If {axis.name} is")
                field.show_value(cue.when.get(axis.id, ANY))
                field.edited.connect(partial(self._condition, axis.id))
                self._add(f"if {axis.name}", field)
        for n, change in enumerate(cue.changes):
            self._add("then" if n == 0 else "and", self._change(n, change))
        more = button("and another change", self._more, "tag")
        self._grid.addWidget(more, self._grid.rowCount(), 1)

    def _add(self, name: str, field: QWidget) -> None:
        row = self._grid.rowCount()
        label = QLabel(name)
        label.setProperty("tone", "muted")
        self._grid.addWidget(label, row, 0)
        self._grid.addWidget(field, row, 1)
        self.fields[name] = field

    # --- when -----------------------------------------------------------------------------

    def _trigger(self) -> QWidget:
        whole = QWidget()
        row = QHBoxLayout(whole)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        trigger = self._cue.trigger
        kinds = DropDown([(kind, row.name) for kind, row in TRIGGERS.items()], "Trigger")
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
            component = component_of(self._session.document, self._owner, self._cue.node)
            if component is None or not component.axes:
                self._session.failed.emit("Nothing with values stands there, so none can come.")
                return
            changes["axis"], changes["value"] = component.axes[0].id, ""
        self._put_trigger(msgspec.structs.replace(self._cue.trigger, **changes))

    def _key(self, text: str) -> None:
        key = " " if text.strip().lower() == "space" else text.strip()
        self._put_trigger(msgspec.structs.replace(self._cue.trigger, key=key))

    def _becomes(self, trigger: Trigger) -> QWidget:
        component = component_of(self._session.document, self._owner, self._cue.node)
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
            name = node_named(self._session.document, self._owner, self._cue.node)
            options.append((held, name))
        field = DropDown(options, "Where it listens")
        field.show_value(held)
        field.edited.connect(
            lambda node: self._emit(
                "where a cue listens", node=tuple(node.split("/")) if node else ()
            )
        )
        return field

    def _listen(self, node: str) -> None:
        self._emit("where a cue listens", node=tuple(node.split("/")) if node else ())

    def _condition(self, axis: str, value: str) -> None:
        when = self._cue.when
        left = when.delete(axis) if axis in when else when
        self._emit("when a cue holds", when=left if value == ANY else left.set(axis, value))

    # --- then -----------------------------------------------------------------------------

    def _change(self, n: int, change: Change) -> QWidget:
        whole = QWidget()
        row = QHBoxLayout(whole)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        options = changes_of(self._session.document, self._owner)
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
        options = changes_of(self._session.document, self._owner)
        new = next((c for c, _ in options if c not in self._cue.changes), None)
        if new is not None:
            self._emit("what a cue changes", changes=(*self._cue.changes, new))

    def _emit(self, step: str, **changes: object) -> None:
        self.edited.emit(msgspec.structs.replace(self._cue, **changes), step)


def _parts(owner: Owner) -> list[Node]:
    return [node for node in walk(owner.root) if node is not owner.root]


def changes_of(document: Document, owner: Owner) -> list[tuple[Change, str]]:
    """All that a cue of an owner can do, with its name: its own axes, those of the instances
    in its tree, screens, and going back."""
    found = _axes_of(owner, (), "") if isinstance(owner, Component) else []
    for node in walk(owner.root):
        held = node.style.get("component")
        inner = document.components.get(held) if isinstance(held, str) else None
        if node is not owner.root and inner is not None:
            found += _axes_of(inner, (node.id,), f" of {node.name}")
    found += [(Change("go", s.id), f"show {s.name}") for s in document.screens_in_order()]
    return [*found, (Change("back"), "go back")]


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
