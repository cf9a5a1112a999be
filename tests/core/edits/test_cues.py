"""Editing cues and motions: what is refused, what is kept, and how it reads."""

import msgspec
import pytest
from immutables import Map

from outgrowth.core.document.cues import Change, Condition, Cue, Motion, Silence, Trigger
from outgrowth.core.document.graph import Edge, edges
from outgrowth.core.document.sentences import cue_sentence, motion_text
from outgrowth.core.edits import Refusal, cues
from outgrowth.core.edits.tree.nodes import move_node, remove_node
from outgrowth.core.exchange.native import FileRefusal, dumps, loads

TAP = Trigger("tap")


OPEN = Change("next", "open")


def cue(cue_id="new", *, trigger=TAP, change=OPEN, node=(), **more):
    return Cue(cue_id, node, trigger, (change,), **more)


def test_cues_are_added_changed_ordered_copied_and_removed(ferry):
    document = cues.add_cue(ferry, "notice", cue())
    document = cues.move_cue(document, "notice", "new", 0)
    assert [c.id for c in document.components["notice"].behaviour.cues] == ["new", "notice-cue-1"]
    ids = iter("ab")
    document = cues.copy_cue(document, "notice", "new", (("head",), ("answer",)), lambda: next(ids))
    assert [c.node for c in document.components["notice"].behaviour.cues][2:] == [
        ("head",),
        ("answer",),
    ]
    document = cues.set_cue(document, "notice", cue("a", trigger=Trigger("enter")))
    document = cues.remove_cue(document, "notice", "new")
    assert [c.trigger.kind for c in document.components["notice"].behaviour.cues] == [
        "tap",
        "enter",
        "tap",
    ]
    assert loads(dumps(document).encode(), "notice") == document


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        (cue(change=Change("next", "gone")), "no longer has the axis"),
        (cue(change=Change("set", "open", "maybe")), "no longer has the value"),
        (cue(change=Change("go", "nowhere")), "not in the file"),
        (cue(change=Change("give", "colour", 3.0)), "offers no such property"),
        (cue(node=("gone",)), "should listen"),
        (cue(trigger=Trigger("key")), "which key"),
        (cue(motion=Motion(100.0, "wobble")), "is not an easing"),
        (cue(trigger=Trigger("key", key="Entr")), "no key called “Entr”"),
        (cue(node=("head", "gone")), "holds no “gone”"),
        (cue(trigger=Trigger("became", axis="gone")), "no longer has the axis “gone”"),
        (cue(trigger=Trigger("became", axis="open", value="ajar")), "no longer has the value"),
        (cue(when=Map(gone="yes")), "no longer has the axis “gone”"),
        (cue(when=Map(open="ajar")), "no longer has the value “ajar”"),
        (cue(conditions=(Condition("open", ("yes", "ajar")),)), "no longer has the value “ajar”"),
        (cue(conditions=(Condition("open", ("yes",), ("head",)),)), "parts without values"),
        (cue(change=Change("set", "open", "yes", ("gone",))), "there is no “gone”"),
        (Cue("new", (), TAP, ()), "needs something to change"),
        (cue("notice-cue-1"), "there already"),
    ],
)
def test_what_cannot_be_is_refused_with_a_sentence(ferry, wrong, said):
    with pytest.raises(Refusal, match=said):
        cues.add_cue(ferry, "notice", wrong)


@pytest.mark.parametrize(
    ("make", "said"),
    [
        (lambda: Trigger("delay", ms=-1.0), "delay must lie from 0 to 600 s"),
        (lambda: Motion(1e9), "duration must lie from 0 to 600 s"),
        (lambda: Motion(1.0, delay=float("nan")), "delay must lie from 0 to 600 s"),
        (lambda: Trigger("wink"), "is no trigger"),
        (lambda: Change("burn"), "is nothing that a cue does"),
    ],
)
def test_no_cue_can_be_made_that_a_file_could_not_hold(make, said):
    with pytest.raises(Refusal, match=said):
        make()


def test_a_screen_has_no_axes_but_can_go(ferry):
    with pytest.raises(Refusal, match="is a screen"):
        cues.add_cue(ferry, "help", cue())
    document = cues.add_cue(ferry, "help", cue(change=Change("go", "fares")))
    inner = cue("inner", change=Change("set", "open", "yes", ("notice-0",)))
    assert len(cues.add_cue(document, "help", inner).screens["help"].behaviour.cues) == 2


def test_motions_are_set_at_every_level_and_taken_back(ferry):
    slow = Motion(500.0, "spring(170, 26)")
    document = cues.set_motion(ferry, "notice", "open", "yes", slow)
    axis = document.components["notice"].axis("open")
    assert axis.value("yes").motion == slow
    document = cues.set_motion(document, "notice", "open", "", None)
    assert document.components["notice"].axis("open").motion is None
    document = cues.set_motion(document, "notice", "", "", slow)
    assert document.components["notice"].motion == slow
    document = cues.set_part_motion(document, "notice", ("answer",), "opacity", None)
    assert document.components["notice"].behaviour.motions == ()
    assert cues.set_document_motion(document, slow).motion == slow
    with pytest.raises(Refusal):
        cues.set_document_motion(document, Motion(1.0, "wobble"))


def test_a_removed_part_takes_its_cues_along_and_a_moved_one_keeps_them(ferry):
    gone = remove_node(ferry, "notice", "head")
    assert gone.components["notice"].behaviour.cues == ()
    assert gone.components["notice"].behaviour.motions != ()
    moved = move_node(ferry, "notice", "head", "notice", 1)
    assert moved.components["notice"].behaviour == ferry.components["notice"].behaviour


def test_a_cue_is_silenced_and_acts_again(ferry):
    document = cues.silence(ferry, "help", ("notice-0",), "notice-cue-1", True)
    assert document.screens["help"].behaviour.silenced == (Silence(("notice-0",), "notice-cue-1"),)
    assert cues.silence(document, "help", ("notice-0",), "notice-cue-1", False) == ferry


def test_states_are_placed_by_hand_and_forgotten(ferry):
    document = cues.place_state(ferry, "notice", "open/yes", (40.0, 90.0))
    assert loads(dumps(document).encode(), "n").components["notice"].behaviour.places == Map(
        {"open/yes": (40.0, 90.0)}
    )
    assert cues.forget_places(document, "notice") == ferry


@pytest.mark.parametrize(
    ("owner", "made", "said"),
    [
        (
            "notice",
            cue(
                node=("head",),
                when=Map(open="no"),
                change=Change("set", "open", "yes"),
                motion=Motion(300.0),
            ),
            "When head is tapped, if Open is no, set Open to yes (300 ms ease-out)",
        ),
        ("notice", cue(), "When it is tapped, toggle Open"),
        (
            "notice",
            cue(trigger=Trigger("delay", ms=6000.0)),
            "After 6 s, toggle Open",
        ),
        (
            "notice",
            cue(trigger=Trigger("key", key=" ")),
            "When Space is pressed on it, toggle Open",
        ),
        (
            "notice",
            cue(trigger=Trigger("became", axis="open", value="yes"), change=Change("back")),
            "When Open becomes yes, go back",
        ),
        (
            "help",
            cue(node=("find", "go"), change=Change("go", "fares")),
            "When go of find is tapped, show Fares",
        ),
        (
            "help",
            cue(change=Change("set", "open", "yes", ("notice-2",))),
            "When it is tapped, set Open of Where is berth 2? to yes",
        ),
    ],
)
def test_a_cue_reads_as_a_sentence(ferry, owner, made, said):
    assert cue_sentence(ferry, ferry.owner(owner), made) == said


def test_motions_in_words():
    assert motion_text(Motion(300.0, "ease-out", 80.0)) == "300 ms ease-out after 80 ms"
    assert motion_text(Motion(0.0)) == "at once"
    assert motion_text(Motion(160.0, "spring(170, 26)")) == "spring(170, 26)"


def test_the_graph_comes_from_the_real_cues(ferry):
    found = edges(ferry.components["notice"])
    assert {(e.start, e.end) for e in found} == {("no", "yes"), ("yes", "no")}
    button = edges(ferry.components["button"])
    assert Edge("state", "rest", "hover") in button
    assert all(e.cue is None for e in button)
    checkbox = [(e.start, e.end) for e in edges(ferry.components["checkbox"])]
    assert ("mixed", "on") in checkbox


def test_a_cue_of_a_file_that_names_what_is_gone_leads_nowhere(ferry):
    notice = ferry.components["notice"]
    gone = cue(change=Change("set", "open", "ajar"))
    behaviour = msgspec.structs.replace(notice.behaviour, cues=(*notice.behaviour.cues, gone))
    assert edges(msgspec.structs.replace(notice, behaviour=behaviour)) == edges(notice)


def test_only_a_cue_that_is_there_is_silenced(ferry):
    with pytest.raises(Refusal, match="no cue “notice-cue-9”"):
        cues.silence(ferry, "help", ("notice-0",), "notice-cue-9", True)
    with pytest.raises(Refusal, match="there is no “gone”"):
        cues.silence(ferry, "help", ("gone",), "notice-cue-1", True)


def test_conditions_and_starting_again_are_kept_and_read_well(ferry):
    some = Condition("open", ("yes", "no"), ("notice-0",))
    change = Change("restart", at=("notice-0",))
    document = cues.add_cue(ferry, "help", cue(change=change, conditions=(some,)))
    made = document.screens["help"].behaviour.cues[0]
    said = cue_sentence(document, document.screens["help"], made)
    assert "if Open of May I bring my bicycle? is yes or no" in said
    assert "start the timers of May I bring my bicycle? again" in said
    assert loads(dumps(document).encode(), "help") == document
    gone = remove_node(document, "help", "notice-0")
    assert gone.screens["help"].behaviour.cues == ()


@pytest.mark.parametrize("hurt", ['"trigger": {}', '"trigger": {"kind": "key"}', '"changes": []'])
def test_a_file_with_half_a_cue_is_refused(ferry, hurt):
    text = dumps(cues.add_cue(ferry, "notice", cue()))
    key = hurt.split(":")[0]
    whole = {
        '"trigger"': '"trigger": {"kind": "tap"}',
        '"changes"': '"changes": [{"act": "next", "name": "open"}]',
    }[key]
    compact = msgspec.json.encode(msgspec.json.decode(text)).decode()
    whole, hurt = whole.replace(": ", ":").replace(", ", ","), hurt.replace(": ", ":")
    assert whole in compact
    with pytest.raises(FileRefusal):
        loads(compact.replace(whole, hurt, 1).encode(), "notice")
