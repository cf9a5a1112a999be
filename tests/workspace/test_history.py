"""Undo after do is identity, over random sequences of edits, in the workspace itself."""

import msgspec
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from immutables import Map

from demo import ferry_line
from outgrowth.core.color import Color
from outgrowth.core.document.records import Asset, walk
from outgrowth.core.document.weight import STEP_BYTES, kept_bytes
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace import Workspace, history
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


def heavy(number, size):
    """A document that carries one picture of so many bytes."""
    asset = Asset(f"{number}.png", "image/png", number.to_bytes(4, "big") * (size // 4))
    return msgspec.structs.replace(ferry_line(), assets=Map({asset.digest: asset}))


def test_undo_holds_no_more_than_there_is_room_for_and_says_so(fonts, monkeypatch):
    monkeypatch.setattr(history, "MOST_BYTES", 10_000_000)
    workspace, told = Workspace(Engine(fonts), ferry_line()), []
    workspace.failed.connect(told.append)
    for n in range(1, 21):
        workspace.edit(f"show {n}", lambda _, n=n: heavy(n, 1_000_000))
    assert len(told) == 1 and "oldest steps" in told[0]
    count = 0
    while workspace.undo_name:
        workspace.undo()
        count += 1
    assert 3 <= count <= 10  # each holds its own picture, and the one before it
    for _ in range(count):
        workspace.redo()
    assert workspace.document.assets == heavy(20, 1_000_000).assets


def test_small_steps_are_all_kept(fonts):
    workspace = Workspace(Engine(fonts), ferry_line())
    for n in range(history.MOST_STEPS):
        workspace.edit(f"gap {n}", lambda d, n=n: gap(d, float(n + 1)))
    assert workspace._history._size < 20_000_000 and not workspace._history.forgotten
    for _ in range(history.MOST_STEPS):
        workspace.undo()
    assert not workspace.undo_name and workspace.document == ferry_line()


def gap(document, value):
    return set_properties(document, Place("button", ()), {"gap": value})


def test_what_a_step_keeps_is_counted_along_the_way_it_changed():
    document = ferry_line()
    changed = gap(document, 31.0)
    assert kept_bytes(document, document) == STEP_BYTES
    assert STEP_BYTES < kept_bytes(document, changed) < STEP_BYTES + 10_000
    assert kept_bytes(document, heavy(1, 5_000_000)) >= 5_000_000
