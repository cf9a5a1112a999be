"""The cues of what is on the bench as sentences, and those that a selected instance inherits."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QLabel, QVBoxLayout

from outgrowth.app.panels.cues.editor import CueEditor
from outgrowth.app.panels.sheet import SheetPanel, button, line, muted
from outgrowth.core.document.cues import Cue, Path, Silence
from outgrowth.core.document.records import Component, Owner
from outgrowth.core.document.sentences import component_of, cue_sentence, motion_text, node_named
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import cue_commands
from outgrowth.workspace.cue_options import possible_changes


class CueList(SheetPanel):
    """picked(cue id)  a cue is to be looked at; "" for none"""

    picked = pyqtSignal(str)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace, "Cues")
        self.chosen = ""
        self.editor: CueEditor | None = None
        self.setMinimumWidth(250)

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        owner, path = self._workspace.owner, self._workspace.selection.path
        if owner is None:
            return None
        inherited = component_of(self._workspace.document, owner, path or ())
        axes = owner.axes if isinstance(owner, Component) else ()
        return owner.id, owner.behaviour, axes, owner.root, path, inherited, self.chosen

    def choose(self, cue_id: str) -> None:
        """Opens the sheet of a cue; "" for none."""
        self.chosen = cue_id
        self.rebuild()

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines for the component on the bench."""
        owner = self._workspace.owner
        self.editor = None
        if owner is None:
            return
        add = button(f"Add a cue to {self._location_text(owner)}", self.add, "firm")
        add.setEnabled(bool(possible_changes(self._workspace.document, owner)))
        layout.addWidget(add)
        if not owner.behaviour.cues:
            hint = "No cues yet. Draw one from a state to another, or add one here."
            layout.addWidget(
                muted(hint if component is not None else "No cues on this screen yet.")
            )
        for n, cue in enumerate(owner.behaviour.cues):
            self._cue(layout, owner, n, cue)
        for part in owner.behaviour.motions:
            name = node_named(self._workspace.document, owner, part.node)
            text = f"{part.property or 'All'} of {name}: {motion_text(part.motion)}"
            take_away = partial(self._forget_part, part.node, part.property)
            layout.addWidget(line(muted(text), ("take away", take_away)))
        self._inherited(layout, owner)

    def _location_text(self, owner: Owner) -> str:
        path = self._workspace.selection.path
        name = node_named(self._workspace.document, owner, path or ())
        return f"all of {owner.name.rsplit('/', 1)[-1]}" if name == "it" else name

    def _cue(self, layout: QVBoxLayout, owner: Owner, n: int, cue: Cue) -> None:
        sentence = Sentence(
            cue_sentence(self._workspace.document, owner, cue), cue.id == self.chosen
        )
        # Later, since the lines are made anew and the pressed one goes.
        later = Qt.ConnectionType.QueuedConnection
        sentence.clicked.connect(partial(self._pick, cue.id), later)  # type: ignore[call-arg]  # the stubs lack it
        layout.addWidget(sentence)
        if cue.id != self.chosen:
            return
        commands = [
            ("remove", partial(self._remove, cue)),
            ("copy here", partial(cue_commands.copy_to_selection, self._workspace, cue)),
        ]
        if n:
            commands.insert(0, ("earlier", partial(cue_commands.move, self._workspace, cue, n - 1)))
        layout.addWidget(line(muted(""), *commands))
        self.editor = CueEditor(self._workspace, cue, owner)
        self.editor.edited.connect(self._edited)
        layout.addWidget(self.editor)

    def _inherited(self, layout: QVBoxLayout, owner: Owner) -> None:
        """The cues of the component that the selected instance follows, each silenced here
        or not."""
        path = self._workspace.selection.path
        document = self._workspace.document
        followed = component_of(document, owner, path) if path else None
        if path is None or followed is None or not followed.behaviour.cues:
            return
        layout.addWidget(muted(f"{node_named(document, owner, path)} has from its component:"))
        for cue in followed.behaviour.cues:
            silent = Silence(path, cue.id) in owner.behaviour.silenced
            sentence = cue_sentence(document, followed, cue)
            text = muted(f"<s>{sentence}</s>" if silent else sentence)
            name = "let it act" if silent else "silence"
            layout.addWidget(
                line(
                    text,
                    (name, partial(cue_commands.silence, self._workspace, path, cue, not silent)),
                )
            )

    # --- what is done -----------------------------------------------------------------------

    def _pick(self, cue_id: str) -> None:
        self.picked.emit("" if cue_id == self.chosen else cue_id)

    def add(self) -> None:
        """A cue at the selected part."""
        cue_id = cue_commands.add(self._workspace)
        if cue_id:
            self.picked.emit(cue_id)

    def _edited(self, cue: Cue, step: str) -> None:
        cue_commands.set_cue(self._workspace, cue, step)

    def _remove(self, cue: Cue) -> None:
        if cue_commands.remove(self._workspace, cue):
            self.picked.emit("")

    def _forget_part(self, node: Path, name: str) -> None:
        cue_commands.set_part_motion(self._workspace, node, name, None, "motion of a part")


class Sentence(QLabel):
    """A cue in words, pressed to look at it; it takes as many lines as it needs."""

    clicked = pyqtSignal()

    def __init__(self, text: str, chosen: bool) -> None:
        super().__init__(text)
        self.setWordWrap(True)
        self.setContentsMargins(6, 4, 6, 4)
        self.setAccessibleName(text)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setProperty("look", "sentence")
        self.setProperty("chosen", "true" if chosen else "false")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        keys = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)
        if event is not None and event.key() in keys:
            self.clicked.emit()
        else:
            super().keyPressEvent(event)
