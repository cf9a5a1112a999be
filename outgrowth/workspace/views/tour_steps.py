"""The ten steps of the tour: what each is about, and what does it."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.records import Node, walk
from outgrowth.core.document.values import GROW
from outgrowth.workspace.commands import (
    clipboard,
    instance_commands,
    library_commands,
    selection_commands,
    style_commands,
    text_commands,
)
from outgrowth.workspace.workspace import Workspace

RunAction = Callable[[str], object]
"""Does an action of the window by its id."""


class TourStep(NamedTuple):
    """One stop: its title, what to do, and what does it."""

    title: str
    about: str
    run: Callable[[Workspace, RunAction], object]


def _draw(workspace: Workspace, run_action: RunAction) -> None:
    library_commands.new_component(workspace, "Sail ticket")
    clipboard.paste_words(workspace, "Board now")


def _make(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("boarding")
    workspace.select(())
    instance_commands.place(workspace, "button")


def _differ(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("boarding")
    button = _instance(workspace, "button")
    if button is not None:
        workspace.select((button.id,))
        style_commands.set_style(workspace, {"fill": parse("#B8452B")})


def _axes(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("button")
    component = workspace.component
    if component is not None:
        kind = component.axes[0]
        other = next((v.id for v in kind.values if v.id != kind.default), kind.default)
        workspace.select((), workspace.selection.variant.set(kind.id, other))


def _open_part(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("fare-card")
    component = workspace.component
    text = next((n for n in walk(component.root) if n.kind == "text"), None) if component else None
    if text is not None:
        workspace.select((text.id,))
        if text_commands.can_open(workspace, "content"):
            text_commands.open_property(workspace, "content")


def _nest(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("fare-card")
    workspace.select(())
    instance_commands.place(workspace, "button")


def _elastic(workspace: Workspace, run_action: RunAction) -> None:
    node = selection_commands.own_part(workspace)
    if node is None:
        workspace.open("fare-card")
        component = workspace.component
        children = component.root.children if component is not None else ()
        if not children:
            return
        workspace.select((children[-1].id,))
    style_commands.set_style(workspace, {"width": GROW})


def _states(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("button")
    run_action("cues")


def _live(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("help")
    run_action("restart")


def _hand_over(workspace: Workspace, run_action: RunAction) -> None:
    workspace.open("button")
    workspace.select((), Map(workspace.selection.variant))
    run_action("copy")


STEPS = (
    TourStep(
        "Draw a part",
        "Alt+C begins a component, Alt+T puts words into it, Alt+B a box, Alt+I an icon. "
        "Padding, gap and corners have handles; the ledger has everything.",
        _draw,
    ),
    TourStep(
        "Place it on a screen",
        "Drag a component from the Library onto a screen: a line shows where it will stand. "
        "Change the component, and every instance follows.",
        _make,
    ),
    TourStep(
        "Let one differ",
        "Select an instance and change it: its colour stays when the component changes, all "
        "else still follows. A notch marks what differs; its source puts it back.",
        _differ,
    ),
    TourStep(
        "Look at all the variants",
        "Alt+A adds an axis, Alt+G hover and press. Pick a variant: the bar above says which "
        "variants an edit will reach, before it lands. Alt+Up widens, Alt+Down narrows.",
        _axes,
    ),
    TourStep(
        "Open what differs from place to place",
        "Select the words and press Alt+W, or a part and Alt+H: instances may then set the "
        "words, or show and hide the part.",
        _open_part,
    ),
    TourStep(
        "Nest parts",
        "Put a button into a card. Drop another component well inside an instance to exchange "
        "it: the result shows before you let go.",
        _nest,
    ),
    TourStep(
        "Make it elastic",
        "Width and height are fixed, fit the content, or grow. Pull the edge of Live's stage "
        "to see the part give way.",
        _elastic,
    ),
    TourStep(
        "Wire its states",
        "The cue board (F4) draws the states of the part: pull from one to another to say what "
        "leads there, and how it moves.",
        _states,
    ),
    TourStep(
        "Try it",
        "Live runs what the bench shows, always. Open a question on this screen: the rest is "
        "pushed down. F5 starts again at rest.",
        _live,
    ),
    TourStep(
        "Hand it over",
        "Ctrl+C puts the part on the clipboard as itself, as SVG and as a picture. Ctrl+S "
        "saves a file that reads well in version control.",
        _hand_over,
    ),
)


def _instance(workspace: Workspace, component_id: str) -> Node | None:
    owner = workspace.owner
    nodes = walk(owner.root) if owner is not None else iter(())
    return next((n for n in nodes if n.style.get("component") == component_id), None)
