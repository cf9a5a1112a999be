"""Every action of the window, as data: what it is called, when it can be done, and its key."""

from __future__ import annotations

from typing import Protocol

from outgrowth.app.actions import Action
from outgrowth.app.panels.cues import CueBoard
from outgrowth.app.panels.live import Live
from outgrowth.app.session import Session, deeds


class Hands(Protocol):
    """What actions need of the window."""

    live: Live
    cue_board: CueBoard

    def ask_open(self) -> None: ...
    def save(self) -> bool: ...
    def save_as(self) -> bool: ...
    def ask_picture(self) -> None: ...
    def ask_font(self) -> None: ...
    def paste(self) -> None: ...
    def can_paste(self) -> bool: ...
    def edit_words(self) -> None: ...
    def visit_component(self) -> None: ...
    def show_gathering(self) -> None: ...
    def toggle_cues(self) -> None: ...
    def add_cue(self) -> None: ...
    def live_apart(self) -> None: ...
    def fit(self) -> None: ...
    def zoom(self, factor: float) -> None: ...
    def switch_theme(self) -> None: ...
    def find_or_do(self) -> None: ...
    def show_keys(self) -> None: ...


def commands(session: Session, hands: Hands) -> list[Action]:
    """The actions, in the order in which lists show them."""
    s = session

    def on_component() -> bool:
        return s.component is not None

    def part() -> bool:
        return deeds.own_part(s) is not None

    def instance() -> bool:
        return deeds.own_instance(s) is not None

    return [
        Action("open", "Open a file", "File", hands.ask_open, shortcut="Ctrl+O"),
        Action("save", "Save", "File", hands.save, shortcut="Ctrl+S"),
        Action(
            "save-as", "Save under another name", "File", hands.save_as, shortcut="Ctrl+Shift+S"
        ),
        Action("undo", "Undo", "Edit", s.undo, lambda: bool(s.undo_name), "Ctrl+Z"),
        Action("redo", "Redo", "Edit", s.redo, lambda: bool(s.redo_name), "Ctrl+Shift+Z"),
        Action("remove", "Remove the part", "Parts", lambda: deeds.remove(s), part, "Del"),
        Action(
            "duplicate",
            "Duplicate the part",
            "Parts",
            lambda: deeds.duplicate(s),
            part,
            "Ctrl+D",
        ),
        Action(
            "make-component",
            "Make a component of the part",
            "Parts",
            lambda: deeds.make_component(s),
            lambda: any(node.kind != "instance" for node in deeds.own_parts(s)),
            "F7",
        ),
        Action("wrap", "Put into a box", "Parts", lambda: deeds.wrap(s), part, "F8"),
        Action(
            "unwrap",
            "Take the box apart",
            "Parts",
            lambda: deeds.unwrap(s),
            part,
            "Shift+F8",
        ),
        Action("words", "Edit the words in their place", "Parts", hands.edit_words, shortcut="F3"),
        Action(
            "detach",
            "Detach the instance",
            "Parts",
            lambda: deeds.detach(s),
            instance,
            "Shift+F7",
        ),
        Action(
            "push-up",
            "Make the component like this instance, in all its faces",
            "Parts",
            lambda: deeds.push_up(s, whole=True),
            instance,
        ),
        Action(
            "push-up-face",
            "Make the component like this instance, in this face",
            "Parts",
            lambda: deeds.push_up(s, whole=False),
            instance,
        ),
        Action(
            "neighbours",
            "Select everything beside the part",
            "Parts",
            lambda: deeds.neighbours(s),
            shortcut="Ctrl+A",
        ),
        Action("put-back", "Put the whole instance back", "Parts", s.put_back_all, instance),
        Action(
            "visit",
            "Go to the component",
            "Parts",
            hands.visit_component,
            lambda: deeds.component_here(s) is not None,
            "F9",
        ),
        Action(
            "return",
            "Return to where you were",
            "Parts",
            s.go_back,
            lambda: s.can_go_back,
            "Shift+F9",
        ),
        Action("place-picture", "Place a picture", "Parts", hands.ask_picture, shortcut="Ctrl+I"),
        Action(
            "paste",
            "Paste a picture",
            "Parts",
            hands.paste,
            hands.can_paste,
            "Ctrl+V",
        ),
        Action("carry-font", "Carry a font in the file", "File", hands.ask_font),
        Action("gather", "Gather drawn parts by their names", "Parts", hands.show_gathering),
        Action(
            "not-offered",
            "Do not offer this face",
            "Variants",
            lambda: deeds.offer(s, s.selection.variant, False),
            on_component,
        ),
        Action(
            "offer-none",
            "Offer no face within the reach",
            "Variants",
            lambda: deeds.offer_none(s),
            lambda: bool(s.reach),
        ),
        Action(
            "take-out",
            "Take this face out as a component",
            "Variants",
            lambda: deeds.take_out(s),
            on_component,
        ),
        Action("widen", "Widen the reach", "Reach", s.widen, on_component, "Alt+Up"),
        Action(
            "narrow",
            "Narrow the reach to this face",
            "Reach",
            s.narrow,
            on_component,
            "Alt+Down",
        ),
        Action(
            "restart",
            "Start Live again at rest",
            "Live",
            hands.live.stage.restart,
            shortcut="F5",
        ),
        Action("cues", "Cue board", "Live", hands.toggle_cues, shortcut="F4"),
        Action("add-cue", "Add a cue at the selected part", "Live", hands.add_cue),
        Action("arrange-cues", "Arrange the cue board", "Live", hands.cue_board.arrange),
        Action("live-window", "Live in a window of its own", "Live", hands.live_apart),
        Action("record", "Record what is done in Live, or stop", "Live", hands.live.record),
        Action("play", "Play a recorded script in Live", "Live", hands.live.ask_play),
        Action("fit", "Fit the bench", "View", hands.fit, shortcut="Ctrl+0"),
        Action("larger", "Look closer", "View", lambda: hands.zoom(1.25), shortcut="Ctrl++"),
        Action("smaller", "Step back", "View", lambda: hands.zoom(0.8), shortcut="Ctrl+-"),
        Action("theme", "Light or dark", "View", hands.switch_theme, shortcut="F6"),
        Action("find", "Find or do", "Help", hands.find_or_do, shortcut="Ctrl+Space"),
        Action("keys", "Show all keys", "Help", hands.show_keys, shortcut="F1"),
    ]
