"""Motions and shadows that follow tokens, and parts that show another mode."""

import pytest
from immutables import Map
from PyQt6.QtWidgets import QApplication

from outgrowth.app.fields.color import ColorField
from outgrowth.core.color import parse
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.records import DesignToken
from outgrowth.core.document.values import USUAL, Shadow
from outgrowth.core.edits import tokens
from outgrowth.core.edits.tree.components import add_token
from outgrowth.core.resolve.ladder import value_at


@pytest.fixture
def named(window, workspace):
    """The demo with a motion that has a name, and a dark mode for quiet words."""
    document = workspace.document
    for path, kind, value in (
        ("motion.quick.duration", "duration", 180.0),
        ("motion.quick.easing", "easing", "ease-in-out"),
    ):
        document = add_token(document, path, DesignToken(kind, value))
    document = tokens.add_mode(document, "dark")
    muted = DesignToken("color", parse("#F4F9FA"), modes=Map({"dark": parse("#10242B")}))
    document = tokens.set_token(document, "color.muted", muted)
    workspace.edit("names", lambda _: document)
    return workspace


def motion(workspace):
    return workspace.document.components["notice"].axis("open").motion


def test_a_motion_follows_a_token_until_it_is_changed_by_hand(window, named, hand):
    named.open("notice")
    window.run_action("cues")
    QApplication.processEvents()
    editor = window.cue_board.motion
    editor.levels.edited.emit("open/")
    assert [editor.named.itemText(n) for n in range(editor.named.count())] == [
        "times of its own",
        "as motion.quick",
    ]
    editor.named.edited.emit("motion.quick")
    named.refresh_panels()
    assert dict(motion(named).tokens) == {
        "duration": "motion.quick.duration",
        "easing": "motion.quick.easing",
    }
    assert editor.duration.value == 180
    named.edit(
        "slower",
        lambda d: tokens.set_token(d, "motion.quick.duration", DesignToken("duration", 240.0)),
    )
    named.refresh_panels()
    assert editor.duration.value == 240
    hand.type(editor.duration, "300")
    assert dict(motion(named).tokens) == {"easing": "motion.quick.easing"}
    assert editor.named.value == "*"
    window.run_action("undo")
    named.refresh_panels()
    editor.named.edited.emit("")
    assert motion(named) == Motion(240.0, "ease-in-out"), "what it was stays"


def test_a_shadow_takes_a_colour_by_its_name_and_lets_it_go(window, named, hand):
    named.open("button")
    hand.part()
    field = hand.row("shadow")
    field.kinds.edited.emit("outer")
    named.refresh_panels()
    color = field.findChild(ColorField)
    hand.type(color.text, "{color.ink}")
    (shadow,) = named.document.components["button"].root.style["shadow"]
    assert (shadow.token, shadow.color) == ("color.ink", named.document.token("color.ink").value)
    hand.type(color.text, "#123456")
    (shadow,) = named.document.components["button"].root.style["shadow"]
    assert isinstance(shadow, Shadow)
    assert (shadow.token, shadow.color) == ("", parse("#123456"))


def test_a_part_shows_another_mode(window, named, hand):
    named.open("boarding")
    hand.part()
    field = hand.row("mode")
    assert field._options == ["", USUAL, "dark"]
    before = window.canvas.grab().toImage()
    field.edited.emit("dark")
    QApplication.processEvents()
    assert value_at(named.document, named.place, "mode") == "dark"
    assert window.canvas.grab().toImage() != before
    window.run_action("undo")
    assert value_at(named.document, named.place, "mode") == ""
