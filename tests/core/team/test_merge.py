"""Merging three ways, under generators: any two sides of any base."""

from __future__ import annotations

import random

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from immutables import Map

from demo import ferry_line
from outgrowth.core.document.axis_parts import pointer_parts
from outgrowth.core.document.records import Axis, AxisValue, Document, walk
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.clipping import bring_component
from outgrowth.core.edits.cues import set_led
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree import components, nodes
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.edits.variants.axes import move_value, remove_axis, rename_value
from outgrowth.core.edits.variants.driving import set_driver, set_part, set_start
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.assembly import owner_from
from outgrowth.core.team.facts import facts_of, owner_key
from outgrowth.core.team.merge import OneSide, merge
from outgrowth.core.team.sequences import woven
from tests.fuzz.edits import EDITS, World, difference
from tests.fuzz.team import small, two_sides

SEEDS = st.integers(0, 2**31)
DEMO = ferry_line()
AXIS = Axis("look", "Look", tuple(AxisValue(i, i.upper()) for i in "abc"), "a")


# --- facts ----------------------------------------------------------------------------------


@settings(max_examples=40)
@given(SEEDS)
def test_a_document_is_put_together_again_from_its_facts(seed):
    world = World(seed, small(seed))
    for step in range(40):
        list(world.step(step))
    for owner in world.document.owners():
        assert owner_from(facts_of(owner), owner_key(owner)) == owner


# --- any two sides --------------------------------------------------------------------------


@settings(max_examples=60)
@given(SEEDS)
def test_disagreements_are_the_same_with_the_sides_changed(seed):
    base, ours, theirs = two_sides(seed)
    found = merge(base, ours, theirs).disagreements
    mirrored = merge(base, theirs, ours, OneSide("theirs")).disagreements
    turned = [d._replace(ours=d.theirs, theirs=d.ours) for d in mirrored]
    assert sorted(found, key=repr) == sorted(turned, key=repr)


@settings(max_examples=60)
@given(SEEDS)
def test_either_side_can_be_picked_throughout(seed):
    base, ours, theirs = two_sides(seed)
    picked = merge(base, ours, theirs, OneSide("theirs")).document
    assert picked == merge(base, theirs, ours).document
    assert loads(dumps(picked).encode(), "again") == picked


def edit_of(seed, side, base):
    """An edit that can be done on any document: chosen by the base, done to what is given."""
    name, change = random.Random(seed * 2 + side).choice(EDITS)

    def done(document):
        world = World(seed * 10 + side, base)
        world.count = 1000 * side
        try:
            return change(world, document)
        except Refusal:
            return None

    return name, done


@settings(max_examples=250)
@given(SEEDS)
def test_edits_that_have_nothing_to_do_with_each_other_merge_to_both_in_a_row(seed):
    base = small(seed) if seed % 3 else DEMO
    (name, first), (other_name, second) = edit_of(seed, 1, base), edit_of(seed, 2, base)
    ours, theirs = first(base), second(base)
    if ours in (None, base) or theirs in (None, base):
        return
    in_a_row, other_way = second(ours), first(theirs)
    # In either order the same: that is what having nothing to do with each other means. Which
    # of two that were put last comes first, nobody can tell of the results alone.
    last = {"new component", "add component", "duplicate", "new screen", "add screen", "bring"}
    if in_a_row is None or in_a_row != other_way or {name, other_name} <= last:
        return
    if name == other_name == "remove token":
        return  # the second chose another token where the first was gone
    merged = merge(base, ours, theirs)
    assert not merged.disagreements, (name, other_name, merged.disagreements[0].key)
    assert merged.document == in_a_row, difference(merged.document, in_a_row)


# --- told cases -----------------------------------------------------------------------------


@pytest.fixture
def base():
    return bring_component(Document("one"), DEMO, "button", "button")


def fill(document, value, node=()):
    return set_properties(document, Place("button", node), {"gap": value})


def test_two_values_of_one_thing_disagree_and_either_can_be_picked(base):
    ours, theirs = fill(base, 20.0), fill(base, 30.0)
    merged = merge(base, ours, theirs)
    (found,) = merged.disagreements
    assert (found.kind, found.ours, found.theirs) == ("changed", 20.0, 30.0)
    assert merged.document == ours
    assert merge(base, ours, theirs, {found.key: "theirs"}).document == theirs


def test_what_one_took_away_and_the_other_worked_on_can_come_back_or_go(base):
    ours = nodes.remove_node(base, "button", "label")
    theirs = set_properties(base, Place("button", ("label",)), {"font-size": 40.0})
    merged = merge(base, ours, theirs)
    (found,) = merged.disagreements
    assert found.kind == "removed"
    assert merged.document == ours
    assert merge(base, ours, theirs, {found.key: "theirs"}).document == theirs


def test_an_axis_that_is_gone_takes_back_a_rule_or_comes_back_with_it(base):
    ours = remove_axis(base, "button", "kind")
    theirs = set_properties(
        base, Place("button", ()), {"opacity": 0.5}, Map({"kind": "quiet", "state": "hover"})
    )
    merged = merge(base, ours, theirs)
    (found,) = merged.disagreements
    assert found.key[-2:] == ("axis", "kind")
    assert merged.document == ours
    assert merge(base, ours, theirs, {found.key: "theirs"}).document == theirs


def test_boxes_that_two_moves_put_into_each_other_stay_apart(base):
    document = base
    for name in ("left", "right"):
        document = nodes.add_node(document, "button", "button", new_node(name, name, "box"))
    ours = nodes.move_node(document, "button", "left", "right", 0)
    theirs = nodes.move_node(document, "button", "right", "left", 0)
    merged = merge(document, ours, theirs)
    assert [d.kind for d in merged.disagreements] == ["changed"]
    assert merged.document == ours
    picks = {merged.disagreements[0].key: "theirs"}
    assert merge(document, ours, theirs, picks).document == theirs


def test_components_that_come_to_hold_each_other_are_taken_whole_from_one_side():
    document = DEMO
    ours = components.add_component(
        document, msgspec.structs.replace(DEMO.components["chip"], id="other", name="Other")
    )
    from outgrowth.core.edits.instances import place_instance

    ours = place_instance(document, "chip", "chip", "checkbox", "i-1")
    theirs = place_instance(document, "checkbox", "checkbox", "chip", "i-2")
    merged = merge(document, ours, theirs)
    assert {d.kind for d in merged.disagreements} == {"whole"}
    assert loads(dumps(merged.document).encode(), "again") == merged.document


def test_more_variants_than_a_component_may_have_are_not_made(base):
    from outgrowth.core.document.records import Axis, AxisValue

    def wide(document, axis_id, count):
        values = tuple(AxisValue(f"{axis_id}-{n}", f"{n}") for n in range(count))
        return components.add_axis(document, "button", Axis(axis_id, axis_id, values, values[0].id))

    ours, theirs = wide(base, "one", 60), wide(base, "two", 60)
    merged = merge(base, ours, theirs)
    assert [d.kind for d in merged.disagreements] == ["whole"]
    assert merged.document == ours


def test_a_token_that_was_renamed_keeps_what_the_other_side_set_by_it(base):
    from outgrowth.core.document.values import Token
    from outgrowth.core.edits.tokens import rename_token

    ours = rename_token(base, "color.sea", "color.deep")
    theirs = set_properties(base, Place("button", ("label",)), {"color": Token("color.sea")})
    merged = merge(base, ours, theirs)
    assert not merged.disagreements
    label = next(n for n in walk(merged.document.components["button"].root) if n.id == "label")
    assert label.style["color"] == Token("color.deep")


# --- orders ---------------------------------------------------------------------------------

LETTERS = st.lists(st.sampled_from("abcdefgh"), unique=True)


@settings(max_examples=300)
@given(LETTERS, LETTERS, LETTERS)
def test_an_order_has_every_member_once_and_no_side_comes_first(base, ours, theirs):
    members = frozenset((*ours, *theirs)) | (frozenset(base) & frozenset(ours) & frozenset(theirs))
    result = woven(base, ours, theirs, members, "ours")
    mirrored = woven(base, theirs, ours, members, "theirs")
    assert sorted(result.order) == sorted(members)
    assert result.order == mirrored.order
    assert set(result.disagreed) == set(mirrored.disagreed)


@settings(max_examples=200)
@given(st.permutations("abcdef"))
def test_the_order_of_the_only_side_that_changed_it_counts(order):
    assert woven("abcdef", order, "abcdef", frozenset("abcdef"), "ours").order == tuple(order)
    assert woven("abcdef", "abcdef", order, frozenset("abcdef"), "ours").order == tuple(order)


def test_what_each_side_moved_or_added_stands_where_it_put_it():
    ours, theirs = "xabcdef", "abfcdey"
    members = frozenset("abcdefxy")
    assert "".join(map(str, woven("abcdef", ours, theirs, members, "ours").order)) == "xabfcdey"


def test_long_lists_that_both_added_to_are_woven_in_a_moment():
    """Twice 2,500 in one place: once this took as many steps as both have members, squared."""
    base = list(range(2000))
    ours = [*base[:9], *(f"o{n}" for n in range(2500)), *base[9:]]
    theirs = [*base[:9], *(f"t{n}" for n in range(2500)), *base[9:]]
    order = woven(base, ours, theirs, frozenset((*ours, *theirs)), "ours").order
    assert len(order) == 7000 and order[9] == "o0" and order[2509] == "t0"


def test_what_an_axis_says_of_itself_merges_with_what_the_other_side_did():
    """One names and orders, the other gives the axis to something else and another start."""
    base = components.add_axis(DEMO, "app-header", AXIS)
    ours = rename_value(base, "app-header", "look", "a", "Ruhe")
    ours = move_value(ours, "app-header", "look", "b", 0)
    theirs = set_driver(base, "app-header", "look", "pointer")
    theirs = set_part(theirs, "app-header", "look", "b", "disabled")
    theirs = set_led(set_start(theirs, "app-header", "look", "b"), "fare-card", ("buy",), True)
    result = merge(base, ours, theirs)
    assert not result.disagreements
    axis = result.document.components["app-header"].axis("look")
    assert [v.id for v in axis.values] == ["b", "a", "c"]
    assert (axis.value("a").name, axis.driver, axis.default) == ("Ruhe", "pointer", "b")
    assert pointer_parts(axis)["b"] == "disabled"
    assert result.document.components["fare-card"].behaviour.leads == (("buy",),)
