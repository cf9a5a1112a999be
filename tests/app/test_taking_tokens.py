"""Tokens from a file, and composed tokens, in the window."""

import json

import pytest

from outgrowth.app.benches.taking_tokens import TakeTokensDialog
from outgrowth.core.color import parse
from outgrowth.core.document.values import Token
from outgrowth.core.exchange.tokens.write import written
from outgrowth.workspace.commands import token_commands

from .user import User


@pytest.fixture
def bench(window):
    user = User(window)
    window.run_action("tokens")
    user.wait()
    return window.tokens


def taking(bench):
    """The dialog that shows what a file would change."""
    return bench.findChild(TakeTokensDialog)


def test_a_file_of_tokens_shows_what_it_changes_and_then_does(workspace, bench, tmp_path):
    tokens = json.loads(written(workspace.document, ""))
    tokens["color"]["sea"]["$value"] = "#113355"
    tokens["color"]["fog"] = {"$type": "color", "$value": "#DDE4E6"}
    del tokens["color"]["coral"]
    file = tmp_path / "sea.json"
    file.write_text(json.dumps(tokens))
    bench.read_file(file)
    shown = taking(bench).list.toPlainText()
    assert "New (1)\n  color.fog" in shown and "Changed (1)\n  color.sea" in shown
    assert "Remove the 1" in taking(bench).remove.text()
    assert "color.fog" not in workspace.document.tokens
    taking(bench).take.click()
    assert workspace.document.tokens["color.sea"].value == parse("#113355")
    assert "color.coral" in workspace.document.tokens
    workspace.undo()
    assert "color.fog" not in workspace.document.tokens


def test_a_file_can_be_the_dark_values(workspace, bench, tmp_path):
    file = tmp_path / "dark.json"
    file.write_text(json.dumps({"color": {"paper": {"$type": "color", "$value": "#101820"}}}))
    bench.read_file(file)
    taking(bench).mode.setCurrentText("dark")
    taking(bench).take.click()
    assert workspace.document.tokens["color.paper"].modes["dark"] == parse("#101820")


def test_a_file_without_tokens_is_told(workspace, bench, tmp_path):
    said = []
    workspace.failed.connect(said.append)
    file = tmp_path / "sea.json"
    file.write_text("[1]")
    bench.read_file(file)
    bench.read_file(tmp_path / "missing.json")
    assert "no groups of tokens" in said[0] and "cannot be read" in said[1]


def test_a_type_is_used_as_a_whole(window, workspace, bench):
    bench.add_composed("type")
    workspace.refresh_panels()
    assert ("type.new-1.size", "") in bench.values
    workspace.open("button")
    workspace.select(("label",))
    titles = [title for title, _ in token_commands.choices(workspace, "font-size")]
    assert "use all of type.new-1" in titles
    token_commands.use_composed(workspace, "type.new-1")
    label = next(n for n in workspace.component.root.children if n.id == "label")
    assert label.style["font-size"] == Token("type.new-1.size")
    assert label.style["font-family"] == Token("type.new-1.family")
    bench.add_composed("border")
    bench.add_composed("motion")
    assert {"border.new-1.width", "motion.new-1.easing"} <= set(workspace.document.tokens)
