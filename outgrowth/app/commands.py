"""Every action of the window, as data: what it is called, when it can be done, and its key."""

from __future__ import annotations

from functools import partial
from typing import Protocol

from outgrowth.app.actions import Action
from outgrowth.app.benches.pen import Pen
from outgrowth.app.panels.cues import CueBoard
from outgrowth.app.panels.live import Live
from outgrowth.app.session import Session, alike, clipboard, deeds, making, spacing
from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits.drawing import Thing
from outgrowth.core.edits.places import Edge


class Hands(Protocol):
    """What actions need of the window."""

    live: Live
    cue_board: CueBoard
    pen: Pen

    def new_file(self) -> None: ...
    def ask_open(self) -> None: ...
    def save(self) -> bool: ...
    def save_as(self) -> bool: ...
    def save_folder(self) -> bool: ...
    def close(self) -> bool: ...
    def same_again(self) -> None: ...
    def ask_screen(self) -> None: ...
    def draw(self, thing: Thing) -> None: ...
    def ask_icon(self) -> None: ...
    def ask_picture(self) -> None: ...
    def ask_font(self) -> None: ...
    def copy(self) -> None: ...
    def cut(self) -> None: ...
    def paste(self) -> None: ...
    def paste_look(self) -> None: ...
    def can_paste(self) -> bool: ...
    def edit_words(self) -> None: ...
    def pick_deepest(self) -> None: ...
    def visit_component(self) -> None: ...
    def show_gathering(self) -> None: ...
    def show_tokens(self) -> None: ...
    def rename(self) -> None: ...
    def toggle_cues(self) -> None: ...
    def add_cue(self) -> None: ...
    def live_apart(self) -> None: ...
    def hold_time(self) -> None: ...
    def fit(self) -> None: ...
    def zoom(self, factor: float) -> None: ...
    def life_size(self) -> None: ...
    def look_at_selection(self) -> None: ...
    def switch_theme(self) -> None: ...
    def next_panel(self, by: int) -> None: ...
    def find_or_do(self) -> None: ...
    def find_layer(self) -> None: ...
    def show_keys(self) -> None: ...
    def show_tour(self) -> None: ...
    def show_guide(self) -> None: ...


def commands(session: Session, hands: Hands) -> list[Action]:
    """The actions, in the order in which lists show them."""
    return [
        *_files(session, hands),
        *_edits(session, hands),
        *_new(session, hands),
        *_parts(session, hands),
        *_places(session),
        *_variants(session),
        *_live(hands),
        *_looking(session, hands),
    ]


def _files(s: Session, hands: Hands) -> list[Action]:
    return [
        Action("new", "New file", "File", hands.new_file, shortcut="Ctrl+N"),
        Action("open", "Open a file", "File", hands.ask_open, shortcut="Ctrl+O"),
        Action("save", "Save", "File", hands.save, shortcut="Ctrl+S"),
        Action(
            "save-as", "Save under another name", "File", hands.save_as, shortcut="Ctrl+Shift+S"
        ),
        Action("save-folder", "Save as a folder, a file for each part", "File", hands.save_folder),
        Action("same-again", "This file in another window", "File", hands.same_again),
        Action("carry-font", "Carry a font in the file", "File", hands.ask_font),
        Action("close", "Close the window", "File", hands.close, shortcut="Ctrl+W"),
    ]


def _edits(s: Session, hands: Hands) -> list[Action]:
    def part() -> bool:
        return deeds.own_part(s) is not None

    def anything() -> bool:
        return deeds.own_node(s) is not None

    return [
        Action("undo", "Undo", "Edit", s.undo, lambda: bool(s.undo_name), "Ctrl+Z"),
        Action("redo", "Redo", "Edit", s.redo, lambda: bool(s.redo_name), "Ctrl+Shift+Z"),
        Action("cut", "Cut", "Edit", hands.cut, part, "Ctrl+X"),
        Action("copy", "Copy", "Edit", hands.copy, anything, "Ctrl+C"),
        Action("paste", "Paste", "Edit", hands.paste, hands.can_paste, "Ctrl+V"),
        Action(
            "paste-look",
            "Paste only the look",
            "Edit",
            hands.paste_look,
            hands.can_paste,
            "Ctrl+Shift+V",
        ),
        Action("duplicate", "Duplicate", "Edit", lambda: clipboard.duplicate(s), part, "Ctrl+D"),
        Action("remove", "Remove", "Edit", lambda: deeds.remove(s), part, "Del"),
        Action("rename", "Rename", "Edit", hands.rename, shortcut="F2"),
        Action(
            "neighbours",
            "Select everything beside the part",
            "Edit",
            lambda: deeds.neighbours(s),
            shortcut="Ctrl+A",
        ),
        Action(
            "same-kind", "Select all of the same kind", "Edit", lambda: alike.same_kind(s), part
        ),
        Action(
            "same-component",
            "Select all instances of the same component",
            "Edit",
            lambda: alike.same_component(s),
            lambda: deeds.own_instance(s) is not None,
        ),
        Action(
            "same-fill", "Select all with the same fill", "Edit", lambda: alike.same_fill(s), part
        ),
        Action(
            "deepest",
            "Select the innermost part under the pointer",
            "Edit",
            hands.pick_deepest,
            shortcut="Alt+D",
        ),
    ]


def _new(s: Session, hands: Hands) -> list[Action]:
    def on_bench() -> bool:
        return s.owner is not None

    def room() -> bool:
        return deeds.can_hold(s)

    drawn = [
        Action(
            f"draw-{thing}",
            f"Draw {'some words' if thing == 'text' else f'a {thing}'}".replace("a el", "an el"),
            "New",
            partial(hands.draw, thing),
            room,
            key,
        )
        for thing, key in _DRAWN.items()
    ]
    return [
        Action(
            "new-component",
            "New component",
            "New",
            lambda: making.new_component(s),
            shortcut="Alt+C",
        ),
        Action("new-screen", "New screen", "New", hands.ask_screen, shortcut="Alt+S"),
        *drawn,
        Action("draw-icon", "Place an icon", "New", hands.ask_icon, room, "Alt+I"),
        Action(
            "place-picture",
            "Place a picture or a drawing",
            "New",
            hands.ask_picture,
            room,
            "Alt+P",
        ),
        Action(
            "copy-owner",
            "Copy the whole component or screen",
            "New",
            lambda: making.duplicate_owner(s, s.selection.owner),
            on_bench,
        ),
        Action(
            "remove-owner",
            "Remove the whole component or screen",
            "New",
            lambda: making.remove_owner(s, s.selection.owner),
            on_bench,
        ),
        Action("tokens", "Tokens", "New", hands.show_tokens, shortcut="F10"),
    ]


_DRAWN: dict[Thing, str] = {
    "box": "Alt+B",
    "text": "Alt+T",
    "ellipse": "Alt+E",
    "ring": "Alt+R",
    "line": "Alt+L",
}


def _parts(s: Session, hands: Hands) -> list[Action]:
    def part() -> bool:
        return deeds.own_part(s) is not None

    def instance() -> bool:
        return deeds.own_instance(s) is not None

    return [
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
            lambda: (node := deeds.own_part(s)) is not None and node.kind == "box",
            "Shift+F8",
        ),
        Action("words", "Edit the words in their place", "Parts", hands.edit_words, shortcut="F3"),
        Action(
            "open-words",
            "Let instances set the words",
            "Parts",
            lambda: deeds.open_property(s, "content"),
            lambda: deeds.can_open(s, "content"),
            "Alt+W",
        ),
        Action(
            "open-shown",
            "Let instances show or hide the part",
            "Parts",
            lambda: deeds.open_property(s, "shown"),
            lambda: part() and deeds.can_open(s, "shown"),
            "Alt+H",
        ),
        Action(
            "open-slot",
            "Make a slot of the instance",
            "Parts",
            lambda: deeds.open_property(s, "component"),
            lambda: deeds.can_open(s, "component"),
        ),
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
        Action("gather", "Gather drawn parts by their names", "Parts", hands.show_gathering),
    ]


def _places(s: Session) -> list[Action]:
    def part() -> bool:
        return deeds.own_part(s) is not None

    def in_one_box() -> bool:
        return making.parts_in_one_box(s)[1] is not None

    def three() -> bool:
        return len(deeds.own_parts(s)) > 2 and in_one_box()

    titles: dict[Edge, str] = {
        "left": "Align left",
        "center": "Align in the middle across",
        "right": "Align right",
        "top": "Align at the top",
        "middle": "Align in the middle down",
        "bottom": "Align at the bottom",
    }
    lined = [
        Action(f"align-{edge}", title, "Places", partial(making.align, s, edge), in_one_box)
        for edge, title in titles.items()
    ]
    return [
        Action(
            "earlier",
            "Move earlier in its box",
            "Places",
            lambda: making.reorder(s, -1),
            part,
            "Ctrl+Up",
        ),
        Action(
            "later",
            "Move later in its box",
            "Places",
            lambda: making.reorder(s, 1),
            part,
            "Ctrl+Down",
        ),
        *lined,
        Action(
            "push",
            "Push to the end of its row or column",
            "Places",
            lambda: spacing.toggle_push(s),
            lambda: spacing.in_flow(s),
            "Alt+X",
        ),
        Action(
            "spacer",
            "Put a spacer behind",
            "Places",
            lambda: spacing.put_spacer(s),
            lambda: spacing.in_flow(s),
            "Alt+K",
        ),
        Action(
            "spread-across",
            "Spread evenly across",
            "Places",
            lambda: making.distribute(s, True),
            three,
        ),
        Action(
            "spread-down",
            "Spread evenly down",
            "Places",
            lambda: making.distribute(s, False),
            three,
        ),
    ]


def _variants(s: Session) -> list[Action]:
    def on_component() -> bool:
        return s.component is not None

    def varied() -> bool:
        component = s.component
        return component is not None and s.selection.variant != default_variant(component)

    def stateless() -> bool:
        return on_component() and not any(
            axis.driver == "pointer" for axis in (s.component.axes if s.component else ())
        )

    return [
        Action(
            "add-axis",
            "Add an axis",
            "Variants",
            lambda: making.give_axis(s),
            on_component,
            "Alt+A",
        ),
        Action(
            "add-states",
            "Give it hover and press",
            "Variants",
            lambda: making.give_states(s),
            stateless,
            "Alt+G",
        ),
        Action(
            "not-offered",
            "Do not offer this face",
            "Variants",
            lambda: deeds.offer(s, s.selection.variant, False),
            varied,
        ),
        Action(
            "offer-none",
            "Offer no face within the reach",
            "Variants",
            lambda: deeds.offer_none(s),
            lambda: on_component() and bool(s.reach),
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
    ]


def _live(hands: Hands) -> list[Action]:
    return [
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
        Action("hold-time", "Hold the time in Live, or let it go on", "Live", hands.hold_time),
        Action("step-time", "One frame further in Live", "Live", hands.live.stage.step),
        Action("record", "Record what is done in Live, or stop", "Live", hands.live.record),
        Action("play", "Play a recorded script in Live", "Live", hands.live.ask_play),
    ]


def _looking(s: Session, hands: Hands) -> list[Action]:
    return [
        Action("fit", "Fit the bench", "View", hands.fit, shortcut="Ctrl+0"),
        Action("life-size", "Life size", "View", hands.life_size, shortcut="Ctrl+1"),
        Action(
            "look-at-selection",
            "Look at the selection",
            "View",
            hands.look_at_selection,
            lambda: s.owner is not None,
            "Ctrl+2",
        ),
        Action("larger", "Look closer", "View", lambda: hands.zoom(1.25), shortcut="Ctrl++"),
        Action("smaller", "Step back", "View", lambda: hands.zoom(0.8), shortcut="Ctrl+-"),
        Action(
            "next-panel",
            "Go to the next panel",
            "View",
            lambda: hands.next_panel(1),
            shortcut="F6",
        ),
        Action(
            "previous-panel",
            "Go to the panel before",
            "View",
            lambda: hands.next_panel(-1),
            shortcut="Shift+F6",
        ),
        Action("theme", "Light or dark", "View", hands.switch_theme),
        Action("find", "Find or do", "Help", hands.find_or_do, shortcut="Ctrl+Space"),
        Action("find-layer", "Find in Layers", "Help", hands.find_layer, shortcut="Ctrl+F"),
        Action("keys", "Show all keys", "Help", hands.show_keys, shortcut="F1"),
        Action("guide", "Open the guide", "Help", hands.show_guide),
        Action("tour", "Take the tour", "Help", hands.show_tour),
    ]
