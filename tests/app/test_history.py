"""Undo after do is identity, over random sequences of edits, in the session itself."""

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from outgrowth.app.session import Session, clipboard, deeds
from outgrowth.app.session.engine import Engine
from outgrowth.core.color import Color
from outgrowth.core.document.records import walk

STEPS = {
    "gap": lambda s, n: s.set_style({"gap": float(n)}),
    "fill": lambda s, n: s.set_style({"fill": Color(n / 9, 0.5, 0.5)}),
    "narrow": lambda s, n: s.narrow(),
    "widen": lambda s, n: s.widen(),
    "duplicate": lambda s, n: clipboard.duplicate(s),
    "remove": lambda s, n: deeds.remove(s),
    "detach": lambda s, n: deeds.detach(s),
    "component": lambda s, n: deeds.make_component(s),
    "push up": lambda s, n: deeds.push_up(s, whole=n % 2 == 0),
    "exchange": lambda s, n: deeds.exchange(s, "icon-button"),
    "place": lambda s, n: deeds.place(s, "toggle"),
    "open": lambda s, n: s.open(("button", "boarding", "desk", "fares")[n % 4]),
    "select": lambda s, n: _pick(s, n),
    "offer": lambda s, n: deeds.offer(s, s.selection.variant, n % 2 == 0),
    "take out": lambda s, n: deeds.take_out(s),
    "undo": lambda s, n: s.undo(),
    "redo": lambda s, n: s.redo(),
}


def _pick(session, number):
    """Selects one of the owner's nodes."""
    nodes = list(walk(session.owner.root))[1:]
    if nodes:
        session.select((nodes[number * 7 % len(nodes)].id,))


@settings(max_examples=40, suppress_health_check=list(HealthCheck))
@given(st.lists(st.tuples(st.sampled_from(sorted(STEPS)), st.integers(0, 9)), max_size=14))
def test_undo_of_everything_is_the_document_as_it_was(qapp, ferry, fonts, steps):
    session = Session(Engine(fonts), ferry)
    for name, number in steps:
        STEPS[name](session, number)
    while session.redo_name:
        session.redo()
    last = session.document
    count = 0
    while session.undo_name and count < 50:
        session.undo()
        count += 1
    assert session.document == ferry
    while session.redo_name and count < 100:
        session.redo()
        count += 1
    assert session.document == last
