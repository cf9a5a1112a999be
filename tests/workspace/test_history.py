"""Undo after do is identity, over random sequences of edits, in the workspace itself."""

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from outgrowth.core.color import Color
from outgrowth.core.document.records import walk
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import (
    clipboard,
    instance_commands,
    selection_commands,
    style_commands,
    variant_commands,
)
from outgrowth.workspace.engine import Engine

STEPS = {
    "gap": lambda s, n: style_commands.set_style(s, {"gap": float(n)}),
    "fill": lambda s, n: style_commands.set_style(s, {"fill": Color(n / 9, 0.5, 0.5)}),
    "narrow": lambda s, n: s.narrow(),
    "widen": lambda s, n: s.widen(),
    "duplicate": lambda s, n: clipboard.duplicate(s),
    "remove": lambda s, n: selection_commands.remove(s),
    "detach": lambda s, n: instance_commands.detach(s),
    "component": lambda s, n: instance_commands.make_component(s),
    "push up": lambda s, n: instance_commands.push_up(s, everywhere=n % 2 == 0),
    "exchange": lambda s, n: instance_commands.exchange(s, "icon-button"),
    "place": lambda s, n: instance_commands.place(s, "toggle"),
    "open": lambda s, n: s.open(("button", "boarding", "desk", "fares")[n % 4]),
    "select": lambda s, n: _pick(s, n),
    "offer": lambda s, n: variant_commands.offer(s, s.selection.variant, n % 2 == 0),
    "take out": lambda s, n: variant_commands.take_out(s),
    "undo": lambda s, n: s.undo(),
    "redo": lambda s, n: s.redo(),
}


def _pick(workspace, number):
    """Selects one of the owner's nodes."""
    nodes = list(walk(workspace.owner.root))[1:]
    if nodes:
        workspace.select((nodes[number * 7 % len(nodes)].id,))


@settings(max_examples=40, suppress_health_check=list(HealthCheck))
@given(st.lists(st.tuples(st.sampled_from(sorted(STEPS)), st.integers(0, 9)), max_size=14))
def test_undo_of_everything_is_the_document_as_it_was(ferry, fonts, steps):
    workspace = Workspace(Engine(fonts), ferry)
    for name, number in steps:
        STEPS[name](workspace, number)
    while workspace.redo_name:
        workspace.redo()
    last = workspace.document
    count = 0
    while workspace.undo_name and count < 50:
        workspace.undo()
        count += 1
    assert workspace.document == ferry
    while workspace.redo_name and count < 100:
        workspace.redo()
        count += 1
    assert workspace.document == last
