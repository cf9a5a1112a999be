"""The page's runtime and the program's tables: what one has, the other has, or refuses."""

import re

import msgspec
import pytest
from immutables import Map

from outgrowth.core.document.cues import ACT_ROWS, TRIGGER_ROWS, Change, Cue, Trigger
from outgrowth.core.document.properties import ROLES, TABLE
from outgrowth.core.document.records import MEANINGS, Axis, AxisValue, Document
from outgrowth.core.edits.tree import owners
from outgrowth.core.exchange.web import runtime_tables
from outgrowth.core.exchange.web.cue_data import _moving_names
from outgrowth.core.exchange.web.files import Wanted, hand_over
from outgrowth.core.exchange.web.runtime_tables import (
    ACTS_DONE,
    MEANINGS_TOLD,
    ROLES_TOLD,
    TRIGGERS_HEARD,
    TWEENED_AS,
    PageRefusal,
    constants,
)
from outgrowth.core.layout import Layout
from outgrowth.core.text import Typesetter
from outgrowth.resources import WEB

SCRIPT = (WEB / "runtime.js").read_text("utf-8")
WRITTEN_BY_HAND = SCRIPT.replace(constants(), "")
"""What the script does with the tables: a name that only a table has does nothing."""


def test_each_trigger_is_heard_by_the_page():
    assert set(TRIGGER_ROWS) == TRIGGERS_HEARD, (
        "runtime.js has to hear it, and runtime_tables say so"
    )


@pytest.mark.parametrize("kind", sorted(TRIGGERS_HEARD))
def test_what_is_said_to_be_heard_stands_in_the_script(kind):
    called = rf'(?:fire|announce|heardAt|watching|waiting)\("{kind}"|cue\.on === "{kind}"'
    assert re.search(called, WRITTEN_BY_HAND)


def test_each_change_is_made_by_the_page():
    assert set(ACT_ROWS) == ACTS_DONE, "let runtime.js do it, and runtime_tables say so"


@pytest.mark.parametrize("act", sorted(ACTS_DONE - {"give"}))
def test_what_is_said_to_be_done_stands_in_the_script(act):
    assert f'act === "{act}"' in WRITTEN_BY_HAND or act == "set", "“set” is what is left"


def test_each_role_and_meaning_is_told_by_the_page():
    assert set(ROLES) == ROLES_TOLD
    assert set(MEANINGS) == MEANINGS_TOLD
    for name in ("TAPPED_BY", "AROUND", "GROUPS", "STILL", "LOOKS"):
        assert len(re.findall(rf"\b{name}\b", WRITTEN_BY_HAND)) >= 1, "a table that nobody reads"
    assert "enabled" in WRITTEN_BY_HAND and '"expanded"' in WRITTEN_BY_HAND


def test_each_row_that_is_tweened_and_only_painted_is_tweened_in_the_page():
    """What layout decides is tweened as places and sizes; what cannot be seen to run is a cut."""
    painted = {r.name for r in TABLE.values() if r.affects == "paint" and r.mix != "cut"}
    # An origin moves nothing by itself: it is where the transforms begin.
    assert painted - TWEENED_AS.keys() == {"origin-x", "origin-y"}
    for name, styles in TWEENED_AS.items():
        assert TABLE[name].mix != "cut" and styles
        assert all(f'"{style}"' in constants() for style in styles)
        assert _moving_names(name) == styles, "a part's own motion means the same styles"


def part(trigger=None, act="next", meaning="none", role="none"):
    """A file with one component that says all this."""
    document = owners.new_component(Document("d"), "lamp", "Lamp", "box")
    lamp = document.components["lamp"]
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    axis = Axis("on", "On", values, "no", meaning=meaning)
    cue = Cue("c", (), Trigger(trigger or "tap"), (Change(act, "on", "yes"),))
    root = msgspec.structs.replace(lamp.root, style=lamp.root.style.set("role", role))
    behaviour = msgspec.structs.replace(lamp.behaviour, cues=(cue,))
    lamp = msgspec.structs.replace(lamp, axes=(axis,), behaviour=behaviour, root=root)
    return msgspec.structs.replace(document, components=Map({"lamp": lamp}))


def test_what_every_row_says_is_handed_over(fonts):
    for trigger in TRIGGER_ROWS:
        hand_over(part(trigger=trigger), Layout(Typesetter(fonts)))
    for act in ACT_ROWS:
        hand_over(part(act=act), Layout(Typesetter(fonts)))


@pytest.mark.parametrize(
    ("known", "said", "sentence"),
    [
        ("TRIGGERS_HEARD", {"trigger": "tap"}, "a page doesn't hear “tapped”"),
        ("ACTS_DONE", {"act": "next"}, "a page can't “next” axis"),
        ("MEANINGS_TOLD", {"meaning": "expanded"}, "means “expanded”"),
        ("ROLES_TOLD", {"role": "switch"}, "can't be “switch”"),
    ],
)
def test_what_a_page_cannot_do_is_refused_with_the_part_and_the_reason(
    fonts, monkeypatch, known, said, sentence
):
    """As if the row were new: the document and the engine know it, the page doesn't."""
    everything = getattr(runtime_tables, known)
    monkeypatch.setattr(runtime_tables, known, everything - set(said.values()))
    with pytest.raises(PageRefusal, match="“Lamp” can't be handed over") as refused:
        hand_over(part(**said), Layout(Typesetter(fonts)))
    assert sentence in str(refused.value)
    nothing = Wanted(components=(), screens=())
    hand_over(
        part(**said), Layout(Typesetter(fonts)), nothing
    )  # what is not asked for is no matter
