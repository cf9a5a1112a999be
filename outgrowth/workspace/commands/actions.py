"""Every action of the window, as data: what it is called, when it can be done, and its key."""

from __future__ import annotations

from functools import partial

from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits.named_looks import LOOKS
from outgrowth.core.edits.style.places import AlignmentLine
from outgrowth.core.edits.tree.drawing import DrawnKind
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import (
    arrange_commands,
    clipboard,
    gather_commands,
    instance_commands,
    library_commands,
    look_commands,
    select_similar,
    selection_commands,
    side_commands,
    style_commands,
    text_commands,
    variant_commands,
)
from outgrowth.workspace.commands.action import Action
from outgrowth.workspace.commands.hands import Hands, HelpHands
from outgrowth.workspace.commands.review_actions import review_actions


def commands(workspace: Workspace, hands: Hands) -> list[Action]:
    """The actions, in the order in which lists show them."""
    return [
        *_files(hands),
        *_edits(workspace, hands),
        *_new(workspace, hands),
        *_parts(workspace, hands),
        *_places(workspace),
        *_variants(workspace, hands),
        *review_actions(workspace, hands.review),
        *_hand_over(workspace, hands),
        *_team(workspace, hands),
        *_live(hands),
        *_views(workspace, hands),
        *_help(workspace, hands.help),
    ]


def _files(hands: Hands) -> list[Action]:
    files = hands.files
    return [
        Action("new", "New file", "File", files.new, shortcut="Ctrl+N"),
        Action("open", "Open a file", "File", files.ask_open, shortcut="Ctrl+O"),
        Action("save", "Save", "File", files.save, shortcut="Ctrl+S"),
        Action(
            "save-as", "Save under another name", "File", files.save_as, shortcut="Ctrl+Shift+S"
        ),
        Action("name-file", "Name the file", "File", hands.help.name_file),
        Action("save-folder", "Save as a folder, a file for each part", "File", files.save_folder),
        Action("same-again", "This file in another window", "File", files.open_again),
        Action("carry-font", "Carry a font in the file", "File", hands.drawing.ask_font),
        Action("close", "Close the window", "File", hands.help.close, shortcut="Ctrl+W"),
    ]


def _edits(workspace: Workspace, hands: Hands) -> list[Action]:
    def part() -> bool:
        return selection_commands.own_part(workspace) is not None

    def anything() -> bool:
        return selection_commands.own_node(workspace) is not None

    def gone() -> bool:
        return bool(selection_commands.removable(workspace))

    return [
        Action("undo", "Undo", "Edit", workspace.undo, lambda: bool(workspace.undo_name), "Ctrl+Z"),
        Action(
            "redo",
            "Redo",
            "Edit",
            workspace.redo,
            lambda: bool(workspace.redo_name),
            "Ctrl+Shift+Z",
        ),
        Action(
            "cut", "Cut", "Edit", lambda: clipboard.cut(workspace, hands.clipboard), gone, "Ctrl+X"
        ),
        Action(
            "copy",
            "Copy",
            "Edit",
            lambda: clipboard.copy(workspace, hands.clipboard),
            anything,
            "Ctrl+C",
        ),
        Action(
            "paste",
            "Paste",
            "Edit",
            lambda: clipboard.paste(workspace, hands.clipboard.read()),
            hands.clipboard.can_paste,
            "Ctrl+V",
        ),
        Action(
            "paste-look",
            "Paste only the look",
            "Edit",
            lambda: clipboard.paste_look(workspace, hands.clipboard.read()),
            hands.clipboard.can_paste,
            "Ctrl+Shift+V",
        ),
        Action(
            "duplicate", "Duplicate", "Edit", lambda: clipboard.duplicate(workspace), part, "Ctrl+D"
        ),
        Action(
            "remove", "Remove", "Edit", lambda: selection_commands.remove(workspace), gone, "Del"
        ),
        Action("rename", "Rename", "Edit", hands.help.rename, shortcut="F2"),
        Action(
            "rename-several",
            "Rename or file several by a pattern",
            "Edit",
            hands.help.rename_several,
        ),
        Action(
            "neighbours",
            "Select everything beside the part",
            "Edit",
            lambda: selection_commands.neighbours(workspace),
            shortcut="Ctrl+A",
        ),
        Action(
            "same-kind",
            "Select all of the same kind",
            "Edit",
            lambda: select_similar.same_kind(workspace),
            part,
        ),
        Action(
            "same-component",
            "Select all instances of the same component",
            "Edit",
            lambda: select_similar.same_component(workspace),
            lambda: selection_commands.own_instance(workspace) is not None,
        ),
        Action(
            "same-fill",
            "Select all with the same fill",
            "Edit",
            lambda: select_similar.same_fill(workspace),
            part,
        ),
        Action(
            "deepest",
            "Select the innermost part under the pointer",
            "Edit",
            hands.view.pick_deepest,
            shortcut="Alt+D",
        ),
    ]


def _new(workspace: Workspace, hands: Hands) -> list[Action]:
    def on_bench() -> bool:
        return workspace.owner is not None

    def room() -> bool:
        return selection_commands.can_hold(workspace)

    drawn = [
        Action(
            f"draw-{drawn_kind}",
            f"Draw {'some words' if drawn_kind == 'text' else f'a {drawn_kind}'}".replace(
                "a el", "an el"
            ),
            "New",
            partial(hands.drawing.draw, drawn_kind),
            room,
            key,
        )
        for drawn_kind, key in _DRAWN.items()
    ]
    return [
        Action(
            "new-component",
            "New component",
            "New",
            lambda: library_commands.new_component(workspace),
            shortcut="Alt+C",
        ),
        Action("new-screen", "New screen", "New", hands.drawing.ask_screen, shortcut="Alt+S"),
        *drawn,
        Action("draw-icon", "Place an icon", "New", hands.drawing.ask_icon, room, "Alt+I"),
        Action(
            "place-picture",
            "Place a picture or a drawing",
            "New",
            hands.drawing.ask_picture,
            room,
            "Alt+P",
        ),
        Action(
            "copy-owner",
            "Copy the whole component or screen",
            "New",
            lambda: library_commands.duplicate_owner(workspace, workspace.selection.owner),
            on_bench,
        ),
        Action(
            "remove-owner",
            "Remove the whole component or screen",
            "New",
            lambda: library_commands.remove_owner(workspace, workspace.selection.owner),
            on_bench,
        ),
        Action(
            "overview",
            "Overview of all components",
            "View",
            partial(hands.view.show, "overview"),
            shortcut="Alt+V",
        ),
        Action(
            "map",
            "Map of the screens, and the ways between them",
            "View",
            partial(hands.view.show, "map"),
            shortcut="Alt+M",
        ),
        Action(
            "rules",
            "Rules as a large table",
            "View",
            partial(hands.view.show, "rules"),
            lambda: workspace.component is not None,
            "Alt+Q",
        ),
        *(
            Action(
                f"name-{look}",
                f"Name this {look}, and offer what looks the same",
                "Parts",
                partial(look_commands.name_this, workspace, look),
                lambda look=look: bool(look_commands.look_here(workspace, look)),  # type: ignore[misc]
            )
            for look in LOOKS
        ),
        Action("tokens", "Tokens", "New", partial(hands.view.show, "tokens"), shortcut="F10"),
        Action(
            "replace-words",
            "Find and replace words",
            "Edit",
            partial(hands.view.show, "words"),
            shortcut="Ctrl+H",
        ),
    ]


_DRAWN: dict[DrawnKind, str] = {
    "box": "Alt+B",
    "text": "Alt+T",
    "ellipse": "Alt+E",
    "ring": "Alt+R",
    "line": "Alt+L",
}


def _parts(workspace: Workspace, hands: Hands) -> list[Action]:
    def part() -> bool:
        return selection_commands.own_part(workspace) is not None

    def instance() -> bool:
        return selection_commands.own_instance(workspace) is not None

    return [
        Action(
            "make-component",
            "Make a component of the part",
            "Parts",
            lambda: instance_commands.make_component(workspace),
            lambda: any(
                node.kind != "instance" for node in selection_commands.own_parts(workspace)
            ),
            "F7",
            of_all=True,
        ),
        Action(
            "wrap",
            "Put into a box",
            "Parts",
            lambda: arrange_commands.wrap(workspace),
            lambda: part() or (workspace.component is not None and workspace.selection.path == ()),
            "F8",
            of_all=True,
        ),
        Action(
            "wrap-inside",
            "Put all that the box holds into a box in it",
            "Parts",
            lambda: arrange_commands.wrap_inside(workspace),
            lambda: (
                (node := selection_commands.own_node(workspace)) is not None and bool(node.children)
            ),
            of_all=True,
        ),
        Action(
            "unwrap",
            "Take the box apart",
            "Parts",
            lambda: arrange_commands.unwrap(workspace),
            lambda: (
                (node := selection_commands.own_part(workspace)) is not None and node.kind == "box"
            ),
            "Shift+F8",
            of_all=True,
        ),
        Action(
            "words",
            "Edit the words in their place",
            "Parts",
            hands.view.edit_words,
            lambda: bool(text_commands.texts_in(workspace)),
            "F3",
        ),
        Action(
            "open-words",
            "Let instances set the words",
            "Parts",
            lambda: text_commands.open_property(workspace, "content"),
            lambda: text_commands.can_open(workspace, "content"),
            "Alt+W",
        ),
        Action(
            "open-shown",
            "Let instances show or hide the part",
            "Parts",
            lambda: text_commands.open_property(workspace, "shown"),
            lambda: part() and text_commands.can_open(workspace, "shown"),
            "Alt+H",
        ),
        Action(
            "open-slot",
            "Make a slot of the instance",
            "Parts",
            lambda: text_commands.open_property(workspace, "component"),
            lambda: text_commands.can_open(workspace, "component"),
        ),
        Action(
            "exchange",
            "Exchange the instance for another component",
            "Parts",
            hands.help.exchange,
            lambda: bool(instance_commands.exchanged_paths(workspace)),
        ),
        Action(
            "detach",
            "Detach the instance",
            "Parts",
            lambda: instance_commands.detach(workspace),
            instance,
            "Shift+F7",
            of_all=True,
        ),
        Action(
            "push-up",
            "Make the component like this instance, in all its variants",
            "Parts",
            lambda: instance_commands.push_up(workspace, everywhere=True),
            instance,
        ),
        Action(
            "push-up-variant",
            "Make the component like this instance, in this variant",
            "Parts",
            lambda: instance_commands.push_up(workspace, everywhere=False),
            instance,
        ),
        Action(
            "hide",
            "Hide the part, or show it again",
            "Parts",
            lambda: style_commands.hide_or_show(workspace),
            lambda: bool(workspace.selection.path),
        ),
        Action(
            "sides-here",
            "Let left and right be the start and end of lines, or themselves again",
            "Parts",
            lambda: side_commands.turn_sides(workspace),
        ),
        Action(
            "sides-everywhere",
            "Let left and right be the start and end of lines, in the whole file",
            "Parts",
            lambda: side_commands.turn_all_sides(workspace),
        ),
        Action(
            "rotate",
            "Rotate by a quarter",
            "Parts",
            lambda: style_commands.rotate(workspace, 90.0),
            lambda: bool(workspace.selection.path),
        ),
        Action(
            "put-back",
            "Put the whole instance back",
            "Parts",
            partial(style_commands.put_back_all, workspace),
            instance,
        ),
        Action(
            "put-looks-back",
            "Put its looks back, keep its words",
            "Parts",
            partial(style_commands.put_kind_back, workspace, "look"),
            instance,
        ),
        Action(
            "put-words-back",
            "Put its words back, keep its looks",
            "Parts",
            partial(style_commands.put_kind_back, workspace, "words"),
            instance,
        ),
        Action(
            "visit",
            "Go to the component",
            "Parts",
            lambda: instance_commands.visit_component(workspace),
            lambda: selection_commands.component_here(workspace) is not None,
            "F9",
        ),
        Action(
            "return",
            "Return to where you were",
            "Parts",
            workspace.go_back,
            lambda: workspace.can_go_back,
            "Shift+F9",
        ),
        Action(
            "make-states",
            "Make states of these looks",
            "Parts",
            partial(gather_commands.make_states, workspace),
            lambda: gather_commands.looks_here(workspace) is not None,
            of_all=True,
        ),
        Action(
            "gather",
            "Gather drawn parts by their names",
            "Parts",
            partial(hands.view.show, "gathering"),
        ),
    ]


def _places(workspace: Workspace) -> list[Action]:
    def part() -> bool:
        return selection_commands.own_part(workspace) is not None

    def in_one_box() -> bool:
        return arrange_commands.parts_in_one_box(workspace)[1] is not None

    def three_or_more() -> bool:
        return len(selection_commands.own_parts(workspace)) > 2 and in_one_box()

    titles: dict[AlignmentLine, str] = {
        "left": "Align left",
        "center": "Align in the middle across",
        "right": "Align right",
        "top": "Align at the top",
        "middle": "Align in the middle down",
        "bottom": "Align at the bottom",
    }
    lined = [
        Action(
            f"align-{edge}",
            title,
            "Places",
            partial(arrange_commands.align, workspace, edge),
            in_one_box,
        )
        for edge, title in titles.items()
    ]
    return [
        Action(
            "earlier",
            "Move earlier in its box",
            "Places",
            lambda: arrange_commands.reorder(workspace, -1),
            part,
            "Ctrl+Up",
        ),
        Action(
            "later",
            "Move later in its box",
            "Places",
            lambda: arrange_commands.reorder(workspace, 1),
            part,
            "Ctrl+Down",
        ),
        *lined,
        Action(
            "push",
            "Push to the end of its row or column",
            "Places",
            lambda: arrange_commands.toggle_push(workspace),
            lambda: arrange_commands.in_flow(workspace),
            "Alt+X",
        ),
        Action(
            "spacer",
            "Put a spacer behind",
            "Places",
            lambda: arrange_commands.put_spacer(workspace),
            lambda: arrange_commands.in_flow(workspace),
            "Alt+K",
        ),
        Action(
            "spread-across",
            "Spread evenly across",
            "Places",
            lambda: arrange_commands.distribute(workspace, True),
            three_or_more,
        ),
        Action(
            "spread-down",
            "Spread evenly down",
            "Places",
            lambda: arrange_commands.distribute(workspace, False),
            three_or_more,
        ),
    ]


def _variants(workspace: Workspace, hands: Hands) -> list[Action]:
    def on_component() -> bool:
        return workspace.component is not None

    def varied() -> bool:
        component = workspace.component
        return component is not None and workspace.selection.variant != default_variant(component)

    def stateless() -> bool:
        return on_component() and not any(
            axis.driver == "pointer"
            for axis in (workspace.component.axes if workspace.component else ())
        )

    return [
        Action(
            "add-axis",
            "Add an axis",
            "Variants",
            hands.view.ask_axis,
            on_component,
            "Alt+A",
        ),
        Action(
            "add-states",
            "Give it hover and press",
            "Variants",
            lambda: variant_commands.give_states(workspace),
            stateless,
            "Alt+G",
        ),
        Action(
            "not-offered",
            "Do not offer this variant",
            "Variants",
            lambda: variant_commands.offer(workspace, workspace.selection.variant, False),
            varied,
        ),
        Action(
            "offer-none",
            "Offer no variant within the reach",
            "Variants",
            lambda: variant_commands.offer_none(workspace),
            lambda: on_component() and bool(workspace.reach),
        ),
        Action(
            "take-out",
            "Take this variant out as a component",
            "Variants",
            lambda: variant_commands.take_out(workspace),
            on_component,
        ),
        Action(
            "sheet-of-states",
            "A screen with all its states held",
            "Variants",
            lambda: instance_commands.sheet_of_states(workspace),
            on_component,
        ),
        Action("widen", "Widen the reach", "Reach", workspace.widen, on_component, "Alt+Up"),
        Action(
            "narrow",
            "Narrow the reach to this variant",
            "Reach",
            workspace.narrow,
            on_component,
            "Alt+Down",
        ),
    ]


def _team(workspace: Workspace, hands: Hands) -> list[Action]:
    libraries, team = hands.libraries, hands.team

    def connected() -> bool:
        return bool(workspace.document.sharing.libraries)

    def from_library() -> bool:
        return workspace.selection.owner in workspace.document.sharing.origins

    def taken_in() -> bool:
        return workspace.document.sharing.read_only(workspace.selection.owner)

    return [
        Action("connect", "Connect to a library", "Team", libraries.ask_connect),
        Action("make-library", "Make a library for the team", "Team", libraries.ask_make),
        Action("publish", "Publish to the library", "Team", team.show_publish, connected, "Alt+U"),
        Action("take-in", "Take in newer versions", "Team", team.show_news, connected, "Alt+N"),
        Action("look-for-news", "Look for newer versions", "Team", libraries.look, connected),
        Action("history", "History of the component", "Team", team.show_history, from_library),
        Action("work-here", "Work on the component here", "Team", team.work_here, taken_in),
        Action("make-own", "Make the component our own", "Team", team.make_own, from_library),
        Action(
            "colleagues",
            "Let the colleagues publish (demo)",
            "Team",
            libraries.let_colleagues_publish,
            libraries.have_colleagues,
        ),
    ]


def _hand_over(workspace: Workspace, hands: Hands) -> list[Action]:
    out = hands.hand_over
    return [
        Action("hand-over", "Hand over as code", "File", out.show_bench, shortcut="Alt+O"),
        Action(
            "save-picture",
            "Save as a picture",
            "File",
            out.ask_picture,
            lambda: workspace.owner is not None,
        ),
    ]


def _live(hands: Hands) -> list[Action]:
    return [
        Action(
            "restart",
            "Start Live again at rest",
            "Live",
            hands.live.restart,
            shortcut="F5",
        ),
        Action("cues", "Cue board", "Live", hands.cues.toggle, shortcut="F4"),
        Action("add-cue", "Add a cue to the selected part", "Live", hands.cues.add_cue),
        Action("arrange-cues", "Arrange the cue board", "Live", hands.cues.arrange),
        Action("live-window", "Live in a window of its own", "Live", hands.live.open_apart),
        Action(
            "live-beside",
            "Live beside the bench, or back",
            "Live",
            hands.view.move_live,
            shortcut="Shift+F5",
        ),
        Action(
            "hold-time", "Hold the time in Live, or let it go on", "Live", hands.live.hold_or_go_on
        ),
        Action("step-time", "One frame further in Live", "Live", hands.live.step),
        Action("record", "Record what is done in Live, or stop", "Live", hands.live.record),
        Action("play", "Play a recorded script in Live", "Live", hands.live.ask_play),
    ]


def _views(workspace: Workspace, hands: Hands) -> list[Action]:
    view = hands.view
    return [
        Action("fit", "Fit the bench", "View", view.fit, shortcut="Ctrl+0"),
        Action("life-size", "Life size", "View", view.life_size, shortcut="Ctrl+1"),
        Action(
            "look-at-selection",
            "Look at the selection",
            "View",
            view.look_at_selection,
            lambda: workspace.owner is not None,
            "Ctrl+2",
        ),
        Action("larger", "Look closer", "View", lambda: view.zoom(1.25), shortcut="Ctrl++"),
        Action("smaller", "Step back", "View", lambda: view.zoom(0.8), shortcut="Ctrl+-"),
        Action(
            "next-panel",
            "Go to the next panel",
            "View",
            lambda: view.next_panel(1),
            shortcut="F6",
        ),
        Action(
            "previous-panel",
            "Go to the panel before",
            "View",
            lambda: view.next_panel(-1),
            shortcut="Shift+F6",
        ),
        Action(
            "panels",
            "All panels away, or back",
            "View",
            view.put_panels_away,
            shortcut="F12",
        ),
        *(
            Action(
                f"panel-{name.lower()}",
                f"{name} away, or back",
                "View",
                partial(view.fold_panel, name),
            )
            for name in ("Library", "Layers", "Live", "Sheets")
        ),
    ]


def _help(workspace: Workspace, hands: HelpHands) -> list[Action]:
    return [
        Action("theme", "Light or dark", "View", hands.switch_theme),
        Action("find", "Find or do", "Help", hands.find_or_do, shortcut="Ctrl+Space"),
        Action("find-layer", "Find in Layers", "Help", hands.find_layer, shortcut="Ctrl+F"),
        Action("keys", "Show all keys", "Help", hands.show_keys, shortcut="F1"),
        Action(
            "take-offer",
            "Do what the status line offers",
            "Help",
            workspace.take_offer,
            lambda: workspace.offer is not None,
            "Alt+Return",
        ),
        Action("guide", "Open the guide", "Help", hands.show_guide),
        Action("tour", "Take the tour", "Help", hands.show_tour),
    ]
