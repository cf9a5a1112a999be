"""What parts do comes along when they are copied."""

from itertools import count

import pytest
from immutables import Map

from outgrowth.core.document.cues import (
    Change,
    Condition,
    Cue,
    Motion,
    PartMotion,
    Silence,
    Trigger,
)
from outgrowth.core.document.records import Document, Node, walk
from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits import cues
from outgrowth.core.edits.clipping import clipping, put_down
from outgrowth.core.edits.tree.nodes import add_node
from outgrowth.core.edits.tree.owners import new_component, new_screen
from outgrowth.core.exchange.native import dumps, loads

TAP = Trigger("tap")


@pytest.fixture
def new_id():
    numbers = count()
    return lambda kind: f"{kind}-new-{next(numbers)}"


def copied(document, owner_id, node_ids, into, new_id):
    """Through the clipboard's own form."""
    owner = document.owner(owner_id)
    variant = default_variant(owner) if hasattr(owner, "axes") else Map()
    clip = clipping(document, owner_id, node_ids, variant)
    clip = loads(dumps(clip).encode(), "clipping")
    return put_down(document, clip, (into, document.owner(into).root.id, None), new_id)


def new_cues(before, after, owner_id):
    known = before.owner(owner_id).behaviour.cues
    return [cue for cue in after.owner(owner_id).behaviour.cues if cue not in known]


def test_in_its_own_component_the_copy_does_the_same(ferry, new_id):
    notice = ferry.components["notice"]
    (cue,) = notice.behaviour.cues
    head = cue.node[0]
    part_motion = PartMotion((head,), "", Motion(90.0))
    document = cues.set_part_motion(ferry, "notice", (head,), "", part_motion.motion)
    after, (copy,) = copied(document, "notice", (head,), "notice", new_id)
    (made,) = new_cues(document, after, "notice")
    assert made.id != cue.id
    assert (made.node, made.changes, made.trigger) == ((copy,), cue.changes, cue.trigger)
    motions = after.components["notice"].behaviour.motions
    assert (copy,) in {part.node for part in motions}
    assert loads(dumps(after).encode(), "after") == after


def test_elsewhere_what_it_cannot_do_stays_behind(ferry, new_id):
    (cue,) = ferry.components["notice"].behaviour.cues
    after, _ = copied(ferry, "notice", (cue.node[0],), "help", new_id)
    assert new_cues(ferry, after, "help") == []


def page():
    """A screen with two notices, one of which opens the other, and goes to another screen."""
    document = new_component(Document("d"), "leaf", "Leaf", "leaf-root")
    document = new_screen(document, "s", "S", (300, 300), "s-root")
    document = new_screen(document, "t", "T", (300, 300), "t-root")
    for name in ("a", "b"):
        node = Node(name, name, "instance", Map({"component": "leaf"}))
        document = add_node(document, "s", "s-root", node, None)
    changes = (
        Change("restart", at=("b",)),
        Change("go", "t"),
    )
    return cues.add_cue(document, "s", Cue("c", ("a",), TAP, changes))


def test_on_its_own_screen_it_means_the_same_others(new_id):
    document = page()
    after, (copy,) = copied(document, "s", ("a",), "s", new_id)
    (made,) = new_cues(document, after, "s")
    assert made.node == (copy,)
    assert [change.at for change in made.changes] == [("b",), ()]


def test_what_is_copied_together_means_each_other(new_id):
    document = page()
    after, (first, second) = copied(document, "s", ("a", "b"), "s", new_id)
    (made,) = new_cues(document, after, "s")
    assert made.node == (first,)
    assert made.changes[0].at == (second,)


def test_on_another_screen_only_what_is_there_is_done(new_id):
    document = page()
    after, (copy,) = copied(document, "s", ("a",), "t", new_id)
    (made,) = new_cues(document, after, "t")
    assert made.node == (copy,)
    assert [change.act for change in made.changes] == ["go"]
    both, _ = copied(document, "s", ("a", "b"), "t", new_id)
    assert [change.act for change in new_cues(document, both, "t")[0].changes] == ["restart", "go"]


def test_a_condition_on_what_stays_behind_keeps_the_cue_there(ferry, new_id):
    screen = ferry.screens["help"]
    notices = [n for n in walk(screen.root) if n.style.get("component") == "notice"][:2]
    first, second = (n.id for n in notices)
    cue = Cue(
        "c",
        (first,),
        TAP,
        (Change("set", "open", "yes", at=(first,)),),
        conditions=(Condition("open", ("no",), (second,)),),
    )
    document = cues.add_cue(ferry, "help", cue)
    inherited = ferry.components["notice"].behaviour.cues[0].id
    document = cues.silence(document, "help", (first,), inherited, True)
    alone, _ = copied(document, "help", (first,), "boarding", new_id)
    assert new_cues(document, alone, "boarding") == []
    assert len(alone.screens["boarding"].behaviour.silenced) == 1
    both, copies = copied(document, "help", (first, second), "boarding", new_id)
    (made,) = new_cues(document, both, "boarding")
    assert made.conditions[0].at == (copies[1],)
    assert made.changes[0].at == (copies[0],)
    assert both.screens["boarding"].behaviour.silenced == (Silence((copies[0],), inherited),)
