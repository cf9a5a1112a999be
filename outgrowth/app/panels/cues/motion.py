"""The motion editor: whose motion it is, its times and curve, and what moves by it."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QWidget

from outgrowth.app.fields.choice import DropDown, Segments, Switch
from outgrowth.app.fields.number import DragLabel, NumberField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.panels.cues.curve import Curve, Points, bezier_text, points_of
from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import column, label
from outgrowth.core.document.cues import TIME, Cue, Motion
from outgrowth.core.document.records import Axis
from outgrowth.core.document.referring import settled
from outgrowth.core.document.types import NumberType
from outgrowth.core.edits import Refusal
from outgrowth.core.motion.easing import EasingRefusal, check_easing, spring_of
from outgrowth.core.motion.timing import length
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.motion_levels import MotionLevel, motion_at, motion_levels
from outgrowth.workspace.views.motion_names import following, motion_names, on_its_own

_KINDS = (("curve", "curve"), ("spring", "spring"), ("steps", "steps"))
_STARTS = {"curve": "ease-out", "spring": "spring(170, 26)", "steps": "steps(4)"}
_STIFF, _DAMP = NumberType(1.0, 5000.0, ""), NumberType(0.1, 500.0, "")


class MotionEditor(QWidget):
    """Edits the motion of what is chosen: a cue's, a value's, an axis's, the component's or
    the file's. `changed` when another level is looked at."""

    changed = pyqtSignal()

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._theme = theme
        self._cue: Cue | None = None
        self._axis: Axis | None = None
        self._value = ""
        self._level = ""
        layout = column(self, (10, 6, 10, 6), 4)
        self.curve = Curve(theme)
        self.curve.pulled.connect(self._pulled)
        layout.addWidget(self._fields())
        layout.addWidget(self.curve, 1)
        self.setMinimumWidth(258)

    def _fields(self) -> QWidget:
        container = QWidget()
        grid = QGridLayout(container)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.levels = DropDown((), "Whose motion")
        self.levels.edited.connect(self._look)
        self.own = Switch("Has a motion of its own", self._theme)
        self.own.setToolTip("A motion of its own; otherwise it moves as what is above it says.")
        self.own.edited.connect(self._own)
        grid.addWidget(self.levels, 0, 0, 1, 3)
        grid.addWidget(self.own, 0, 3)
        self.kinds = Segments(_KINDS, "Kind of motion")
        self.kinds.edited.connect(self._kind)
        self.length_label = label(tone="muted")
        self.length_label.setToolTip("When the spring has come to rest.")
        grid.addWidget(self.kinds, 1, 0, 1, 3)
        grid.addWidget(self.length_label, 1, 3)
        self.duration, self.delay = NumberField(TIME, "Duration"), NumberField(TIME, "Delay")
        self.stiffness = NumberField(_STIFF, "Stiffness")
        self.damping = NumberField(_DAMP, "Damping")
        self._pair(grid, 2, ("Lasts", self.duration), ("Waits", self.delay))
        self._pair(grid, 3, ("Stiff", self.stiffness), ("Damped", self.damping))
        self.easing = WordsField("Easing, as CSS writes it")
        self.easing.edited.connect(self._typed)
        grid.addWidget(self.easing, 4, 0, 1, 4)
        self.named = DropDown((), "The motion token that it follows")
        self.named.setToolTip("A named motion gives its times and its curve, wherever it is used.")
        self.named.edited.connect(self._follow)
        grid.addWidget(self.named, 5, 0, 1, 4)
        self.duration.edited.connect(lambda ms: self._set(duration=ms))
        self.delay.edited.connect(lambda ms: self._set(delay=ms))
        self.stiffness.edited.connect(lambda n: self._spring(n, self.damping.value))
        self.damping.edited.connect(lambda n: self._spring(self.stiffness.value, n))
        for field in (self.duration, self.delay, self.stiffness, self.damping):
            field.failed.connect(self._workspace.failed.emit)
        return container

    def _pair(
        self,
        grid: QGridLayout,
        row: int,
        first: tuple[str, NumberField],
        second: tuple[str, NumberField],
    ) -> None:
        for n, (text, field) in enumerate((first, second)):
            grid.addWidget(DragLabel(text, field), row, 2 * n)
            grid.addWidget(field, row, 2 * n + 1)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = self.own.theme = theme
        self.curve.set_theme(theme)

    # --- what is shown --------------------------------------------------------------------

    def show_for(self, cue: Cue | None, axis: Axis | None, value: str) -> None:
        """Offers the motions that bear on a cue, or on entering a value of an axis. What is said
        anew lands on that, until another level is chosen."""
        before = self._subject
        self._cue, self._axis, self._value = cue, axis, value
        if self._subject != before:
            self._level = ""
        self.refresh()

    def chain(self) -> list[MotionLevel]:
        """The levels at which the motion can stand, the one that counts first."""
        return motion_levels(self._workspace, self._cue, self._axis, self._value)

    @property
    def level(self) -> MotionLevel:
        """The level that is looked at: the chosen one, else the nearest."""
        chain = self.chain()
        return next((level for level in chain if level.key == self._level), chain[0])

    @property
    def _subject(self) -> tuple[str, str, str, str]:
        cue, axis = self._cue, self._axis
        ids = (cue.id if cue is not None else "", axis.id if axis is not None else "")
        return self._workspace.selection.owner, *ids, self._value

    @property
    def stated(self) -> Motion:
        """The motion at that level as it is said, or the one that it takes from above."""
        return motion_at(self.chain(), self.level.key)

    @property
    def motion(self) -> Motion:
        """That motion with what its tokens say, in the mode that is shown."""
        return settled(self.stated, self._workspace.document.token)

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        chain, level, motion = self.chain(), self.level, self.motion
        self.levels.set_options([(c.key, c.title) for c in chain])
        self.levels.show_value(level.key)
        self.own.show_value(level.motion is not None)
        self.own.setEnabled(level.key != "file")
        named = motion_names(self._workspace.document, self.stated)
        self.named.setVisible(len(named.options) > 1)
        self.named.set_options(named.options)
        self.named.show_value(named.followed)
        kind = _kind_of(motion.easing)
        self.kinds.show_value(kind)
        self.duration.show_value(motion.duration)
        self.delay.show_value(motion.delay)
        self.easing.show_value(motion.easing)
        spring = spring_of(motion.easing, motion.duration) if kind == "spring" else None
        for field in (self.stiffness, self.damping):
            field.setEnabled(spring is not None)
        self.stiffness.show_value(spring.stiffness if spring is not None else 170.0)
        self.damping.show_value(spring.damping if spring is not None else 26.0)
        self.duration.setEnabled(kind != "spring" or motion.easing.startswith("bounce"))
        rests = spring.settling_time() * 1000 if spring is not None else length(motion)
        self.length_label.setText(f"{rests:.0f} ms" if spring is not None else "")
        self.curve.show_motion(motion)

    # --- editing --------------------------------------------------------------------------

    def _look(self, key: str) -> None:
        self._level = key
        self.refresh()
        self.changed.emit()

    def _own(self, on: bool) -> None:
        level, motion = self.level, self.stated
        name = "give a motion to" if on else "take the motion of"
        self._level = level.key
        self._workspace.edit(f"{name} {level.name}", level.put(motion if on else None))
        self.refresh()

    def _set(self, together: bool = False, **changes: object) -> None:
        level = self.level
        self._level = level.key
        motion = on_its_own(self.stated, **changes)
        self._workspace.edit(f"motion of {level.name}", level.put(motion), together)

    def _follow(self, group: str) -> None:
        level, document = self.level, self._workspace.document
        self._level = level.key
        motion = following(document, self.stated, group)
        name = f"use {group} for {level.name}" if group else f"a motion of its own for {level.name}"
        self._workspace.edit(name, level.put(motion))

    def _kind(self, kind: str) -> None:
        if kind != _kind_of(self.motion.easing):
            self._set(easing=_STARTS[kind])

    def _spring(self, stiffness: float, damping: float) -> None:
        self._set(easing=f"spring({stiffness:g}, {damping:g})")

    def _typed(self, text: str) -> None:
        try:
            self._set(easing=check_easing(text))
        except EasingRefusal as problem:
            self._workspace.failed.emit(str(problem))
            self.refresh()

    def _pulled(self, points: Points, finished: bool) -> None:
        level = self.level
        self._level = level.key
        easing = bezier_text(points)
        motion = on_its_own(self.stated, easing=easing)
        try:
            self._workspace.drag(level.put(motion))
        except Refusal:
            return
        if finished:
            self._workspace.drop(f"motion of {level.name}")


def _kind_of(easing: str) -> str:
    if easing.startswith(("spring", "bounce")):
        return "spring"
    return "curve" if points_of(easing) is not None or easing.startswith("linear") else "steps"
