"""The short tour: the ten steps of the work, done on a copy of the demo. Each says what to do
and does it when asked; whatever is done in between is the user's own."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple, Protocol

from immutables import Map
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from outgrowth.app.session import Session, clipboard, deeds, making
from outgrowth.app.theme.sheet import dress
from outgrowth.core.color import parse
from outgrowth.core.document.records import Node, walk
from outgrowth.core.document.values import GROW


class Guided(Protocol):
    """What the tour needs of its window."""

    def do(self, action_id: str) -> None: ...
    def toggle_cues(self) -> None: ...


class Step(NamedTuple):
    """One stop: its title, what to do, and what does it."""

    title: str
    about: str
    act: Callable[[Session, Guided], object]


def _draw(s: Session, w: Guided) -> None:
    making.new_component(s, "Sail ticket")
    clipboard.paste_words(s, "Board now")


def _make(s: Session, w: Guided) -> None:
    s.open("boarding")
    s.select(())
    deeds.place(s, "button")


def _differ(s: Session, w: Guided) -> None:
    s.open("boarding")
    button = _instance(s, "button")
    if button is not None:
        s.select((button.id,))
        s.set_style({"fill": parse("#B8452B")})


def _axes(s: Session, w: Guided) -> None:
    s.open("button")
    component = s.component
    if component is not None:
        kind = component.axes[0]
        other = next((v.id for v in kind.values if v.id != kind.default), kind.default)
        s.select((), s.selection.variant.set(kind.id, other))


def _open_part(s: Session, w: Guided) -> None:
    s.open("fare-card")
    component = s.component
    text = next((n for n in walk(component.root) if n.kind == "text"), None) if component else None
    if text is not None:
        s.select((text.id,))
        if deeds.can_open(s, "content"):
            deeds.open_property(s, "content")


def _nest(s: Session, w: Guided) -> None:
    s.open("fare-card")
    s.select(())
    deeds.place(s, "button")


def _elastic(s: Session, w: Guided) -> None:
    node = deeds.own_part(s)
    if node is None:
        s.open("fare-card")
        component = s.component
        held = component.root.children if component is not None else ()
        if not held:
            return
        s.select((held[-1].id,))
    s.set_style({"width": GROW})


def _states(s: Session, w: Guided) -> None:
    s.open("button")
    w.toggle_cues()


def _live(s: Session, w: Guided) -> None:
    s.open("help")
    w.do("restart")


def _hand_over(s: Session, w: Guided) -> None:
    s.open("button")
    s.select((), Map(s.selection.variant))
    w.do("copy")


STEPS = (
    Step(
        "Draw a part",
        "Alt+C begins a component, Alt+T puts words into it, Alt+B a box, Alt+I an icon. "
        "Padding, gap and corners have handles; the ledger has everything.",
        _draw,
    ),
    Step(
        "Place it on a screen",
        "Drag a component from the Library onto a screen: a line shows where it will stand. "
        "Change the component, and every instance follows.",
        _make,
    ),
    Step(
        "Let one differ",
        "Select an instance and change it: its colour stays when the component changes, all "
        "else still follows. A notch marks what differs; its source puts it back.",
        _differ,
    ),
    Step(
        "Look at all the faces",
        "Alt+A adds an axis, Alt+G hover and press. Pick a face: the bar above says which "
        "faces an edit will reach, before it lands. Alt+Up widens, Alt+Down narrows.",
        _axes,
    ),
    Step(
        "Open what differs from place to place",
        "Select the words and press Alt+W, or a part and Alt+H: instances may then set the "
        "words, or show and hide the part.",
        _open_part,
    ),
    Step(
        "Nest parts",
        "Put a button into a card. Drop another component well inside an instance to exchange "
        "it: the result shows before you let go.",
        _nest,
    ),
    Step(
        "Make it elastic",
        "Width and height are fixed, fit the content, or grow. Pull the edge of Live's stage "
        "to see the part give way.",
        _elastic,
    ),
    Step(
        "Wire its states",
        "The cue board (F4) draws the states of the part: pull from one to another to say what "
        "leads there, and how it moves.",
        _states,
    ),
    Step(
        "Try it",
        "Live runs what the bench shows, always. Open a question on this screen: the rest is "
        "pushed down. F5 starts again at rest.",
        _live,
    ),
    Step(
        "Hand it over",
        "Ctrl+C puts the part on the clipboard as itself, as SVG and as a picture. Ctrl+S "
        "saves a file that reads well in version control.",
        _hand_over,
    ),
)


def _instance(session: Session, component_id: str) -> Node | None:
    owner = session.owner
    held = walk(owner.root) if owner is not None else iter(())
    return next((n for n in held if n.style.get("component") == component_id), None)


class Tour(QWidget):
    """A strip above the bench; out of sight until the tour is taken."""

    def __init__(self, session: Session, window: Guided) -> None:
        super().__init__()
        self._session = session
        self._window = window
        self.at = 0
        dress(self, "field", "bottom")
        self.setAccessibleName("Tour")
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 8, 12, 8)
        row.setSpacing(6)
        said = QVBoxLayout()
        said.setSpacing(2)
        self.title, self.about = QLabel(), QLabel()
        self.title.setProperty("weight", "bold")
        self.about.setWordWrap(True)
        for label in (self.title, self.about):
            said.addWidget(label)
        row.addLayout(said, 1)
        self.buttons: dict[str, QPushButton] = {}
        for name, act in (
            ("Do it", self.do),
            ("Back", lambda: self.go(self.at - 1)),
            ("Next", lambda: self.go(self.at + 1)),
            ("End", self.hide),
        ):
            button = QPushButton(name)
            button.setProperty("look", "firm")
            button.clicked.connect(lambda _=False, a=act: a())
            self.buttons[name] = button
            row.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
        self.hide()

    def begin(self) -> None:
        """Shows the first step."""
        self.go(0)
        self.show()
        self.buttons["Do it"].setFocus()

    def go(self, step: int) -> None:
        """Shows a step; after the last one the tour is over."""
        if step >= len(STEPS):
            self.hide()
            return
        self.at = max(step, 0)
        shown = STEPS[self.at]
        self.title.setText(f"{self.at + 1} of {len(STEPS)} · {shown.title}")
        self.about.setText(shown.about)
        self.buttons["Back"].setEnabled(self.at > 0)
        self.buttons["Next"].setText("Next" if self.at + 1 < len(STEPS) else "Done")

    def do(self) -> None:
        """Does what the step is about."""
        STEPS[self.at].act(self._session, self._window)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.hide()
        else:
            super().keyPressEvent(event)
