"""Live: the component or screen on the bench, running, beside the editing.

It always starts at rest, whatever variant is being edited, and goes on through edits.
"""

from __future__ import annotations

from pathlib import Path as FilePath

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QSizePolicy,
    QToolButton,
    QWidget,
)

from outgrowth.app.fields.choice import DropDown, Segments
from outgrowth.app.paint import Rasters
from outgrowth.app.panels.stage import Stage
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.icons import icon
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.uses import uses
from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.exchange.native.disk import read_chosen, save_file
from outgrowth.core.refusal import Refusal
from outgrowth.core.runtime.script import read_script, write_script
from outgrowth.workspace import Workspace

__all__ = ["ElidedLabel", "LivePanel", "Stage"]

# The size of its own window to begin with, in px.
_APART = (480, 760)
_SPEEDS = (("1", "1×"), ("0.5", "½"), ("0.25", "¼"))
_POINTERS = (("mouse", "mouse"), ("touch", "touch"))
_SCRIPTS = "Scripts (*.json)"


class ElidedLabel(QLabel):
    """A label that ends in … where it has no room."""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        room = self.contentsRect()
        mode = Qt.TextElideMode.ElideRight
        text = self.fontMetrics().elidedText(self.text(), mode, room.width())
        painter.setPen(self.palette().windowText().color())
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, text)
        painter.end()


class LivePanel(QWidget):
    """The stage with its name, speeds and restart above, and below it what it runs in, how it
    is touched, outlines, and the recorder.

    other_window   the other one, in a window of its own, while it is open
    """

    def __init__(
        self, workspace: Workspace, rasters: Rasters, theme: Theme, own_window: bool = False
    ) -> None:
        super().__init__()
        self._workspace = workspace
        self._rasters = rasters
        self._theme = theme
        self.other_window: LivePanel | None = None
        self.stage = Stage(workspace, rasters, theme)
        self.playback = self.stage.playback
        dress(self, "panel")
        layout = builders.column(self)
        layout.addWidget(self._head())
        layout.addWidget(self.stage, 1)
        layout.addWidget(self._foot(own_window))
        self.playback.beside_changed.connect(self._show_told)
        workspace.selection_changed.connect(self._rename)
        workspace.panels_due.connect(self._rename)
        self._paint_icons()
        self._rename()
        self._show_told()

    def _head(self) -> QWidget:
        strip = QWidget()
        dress(strip, edge="bottom")
        strip.setFixedHeight(40)
        row = builders.row(strip, (14, 0, 8, 0), 6)
        title = builders.label("Live", weight="bold")
        self._subject = ElidedLabel()
        self._subject.setProperty("tone", "muted")
        self._subject.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        row.addWidget(title)
        row.addWidget(self._subject, 1)
        self.still = _toggle("no motion", "Reduced motion: every change is a cut.")
        self.still.toggled.connect(self.playback.set_reduced_motion)
        row.addWidget(self.still)
        self.speeds = Segments(_SPEEDS, "Speed")
        self.speeds.show_value("1")
        self.speeds.edited.connect(lambda speed: self.playback.set_speed(float(speed)))
        row.addWidget(self.speeds)
        self.holder = _button("Hold the time")
        self.holder.setCheckable(True)
        self.holder.toggled.connect(self.playback.hold)
        row.addWidget(self.holder)
        self.stepper = _button("One frame further")
        self.stepper.clicked.connect(self.playback.step)
        row.addWidget(self.stepper)
        self.again = _button("Start again at rest")
        self.again.clicked.connect(self.playback.restart)
        row.addWidget(self.again)
        return strip

    def _foot(self, own_window: bool) -> QWidget:
        strip = QWidget()
        dress(strip, edge="top")
        column = builders.column(strip, (10, 4, 8, 4), 2)
        self.problem = builders.label(tone="problem", wrap=True)
        column.addWidget(self.problem)
        self.tried = builders.push_button(
            act=lambda: self.playback.show_content("", None),
            look="tag",
            tip="It is played with a content that is tried: back to its own.",
        )
        self.tried.hide()
        column.addWidget(self.tried, 0, Qt.AlignmentFlag.AlignLeft)
        row = QHBoxLayout()
        row.setSpacing(3)
        column.addLayout(row)
        self.places = DropDown((("", "alone"),), "Where it is shown")
        self.places.setMinimumContentsLength(3)
        self.places.setToolTip("Where it is shown: alone, or on a screen that uses it.")
        self.places.edited.connect(self.playback.show_in)
        row.addWidget(self.places, 1)
        self.pointers = Segments(_POINTERS, "Pointer")
        self.pointers.show_value("mouse")
        self.pointers.edited.connect(lambda choice: self.playback.set_touch(choice == "touch"))
        row.addWidget(self.pointers)
        self.direction = _small_button("Read from right to left")
        self.direction.setCheckable(True)
        self.direction.toggled.connect(self.playback.set_rtl)
        row.addWidget(self.direction)
        self.outline = _small_button("Show the edge of every part")
        self.outline.setCheckable(True)
        self.outline.toggled.connect(self._outline)
        row.addWidget(self.outline)
        self.recorder = _small_button("Record what is done from here")
        self.recorder.clicked.connect(self.record)
        self.player = _small_button("Play a recorded script")
        self.player.clicked.connect(self.ask_play)
        row.addWidget(self.recorder)
        row.addWidget(self.player)
        self.window_button = _small_button("Live in a window of its own")
        self.window_button.clicked.connect(self.open_apart)
        self.window_button.setVisible(not own_window)
        row.addWidget(self.window_button)
        return strip

    def _paint_icons(self) -> None:
        ink, clay = self._theme.ink, self._theme.color("clay").name()
        self.again.setIcon(icon("arrow-counter-clockwise", ink))
        recording = self.playback.recording
        self.recorder.setIcon(icon("stop" if recording else "record", clay if recording else ink))
        self.holder.setIcon(icon("play" if self.playback.paused else "pause", ink))
        self.stepper.setIcon(icon("skip-forward", ink))
        self.outline.setIcon(icon("frame-corners", ink))
        self.direction.setIcon(icon("text-align-right", ink))
        self.player.setIcon(icon("play", ink))
        self.window_button.setIcon(icon("app-window", ink))

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self._paint_icons()
        self.stage.set_theme(theme)
        if self.other_window is not None:
            self.other_window.set_theme(theme)

    # --- what is said beside the stage ----------------------------------------------------

    def _rename(self) -> None:
        workspace = self._workspace
        owner = workspace.owner
        self._subject.setText(owner.short_name if owner is not None else "nothing")
        component = workspace.component
        document = workspace.document
        places = uses(document, component.id) if component is not None else ()
        screens = dict.fromkeys(use.owner for use in places if use.owner in document.screens)
        options = [("", "alone"), *((i, f"on {document.screens[i].name}") for i in screens)]
        if self.playback.place not in dict(options):
            self.playback.show_in("")
        self.places.set_options(options)
        self.places.show_value(self.playback.place)
        self.places.setEnabled(len(options) > 1)

    def _show_told(self) -> None:
        problems = self.playback.runtime.problems if self.playback.runtime is not None else []
        self.problem.setText("\n".join(f"!  {problem}" for problem in problems[-2:]))
        self.problem.setVisible(bool(problems))
        self.holder.setChecked(self.playback.paused)
        self.holder.setToolTip("Let time go on" if self.playback.paused else "Hold the time")
        self.holder.setAccessibleName(self.holder.toolTip())
        runtime = self.playback.runtime
        if runtime is not None:
            self.still.setChecked(runtime.reduced_motion)
            self.pointers.show_value("touch" if runtime.touch else "mouse")
        content = self.playback.content_title
        self.tried.setVisible(bool(content))
        self.tried.setText(f"×  played with: {content[:32]}")
        recording = self.playback.recording
        self.recorder.setToolTip("Stop and save" if recording else "Record what is done from here")
        self.recorder.setAccessibleName(self.recorder.toolTip())
        self._paint_icons()

    def _outline(self, on: bool) -> None:
        self.stage.outlined = on
        self.stage.update()

    # --- what can be asked of it by name ----------------------------------------------------

    def restart(self) -> None:
        """Starts again at rest."""
        self.playback.restart()

    def hold_or_go_on(self) -> None:
        """Lets time stand still, or go on."""
        self.playback.hold(not self.playback.paused)

    def step(self) -> None:
        """Holds the time, and lets one frame of it pass."""
        self.playback.step()

    def open_apart(self) -> None:
        """Live in a window of its own beside this one: opened, or the one that is there raised."""
        if self.other_window is not None:
            self.other_window.showNormal()
            self.other_window.raise_()
            self.other_window.activateWindow()
            return
        separate = LivePanel(self._workspace, self._rasters, self._theme, own_window=True)
        separate.setParent(self.window(), Qt.WindowType.Window)
        separate.setWindowTitle(f"Live · {self._workspace.document.name}")
        separate.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        separate.destroyed.connect(lambda: self._forget_apart())
        separate.resize(*_APART)
        self.other_window = separate
        separate.show()

    def _forget_apart(self) -> None:
        self.other_window = None

    # --- the recorder ---------------------------------------------------------------------

    def record(self) -> None:
        """Begins to record, or ends it and asks where to save the script."""
        if not self.playback.recording:
            self.playback.record()
            return
        script = self.playback.end_recording()
        name, _ = QFileDialog.getSaveFileName(self, "Save the script", "script.json", _SCRIPTS)
        if not name:
            return
        try:
            save_file(FilePath(name), write_script(script))
        except FileRefusal as problem:
            self._workspace.failed.emit(str(problem))

    def ask_play(self) -> None:
        """Asks for a script and plays it."""
        name, _ = QFileDialog.getOpenFileName(self, "Play a script", "", _SCRIPTS)
        if not name:
            return
        path = FilePath(name)
        try:
            self.playback.play(read_script(read_chosen(path), path.name))
        except Refusal as problem:
            self._workspace.failed.emit(str(problem))


def _toggle(text: str, about: str) -> QToolButton:
    button = QToolButton()
    button.setText(text)
    button.setCheckable(True)
    button.setProperty("look", "segment")
    button.setToolTip(about)
    return button


def _button(about: str) -> QToolButton:
    return builders.tool_button(look="icon", name=about, tip=about)


def _small_button(about: str) -> QToolButton:
    """One of a row in which there are many."""
    return builders.tool_button(look="draw", name=about, tip=about)
