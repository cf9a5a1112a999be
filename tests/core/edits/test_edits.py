import math
import random

import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.records import Axis, AxisValue, Component, Node, Screen, find
from outgrowth.core.document.values import GROW, fixed
from outgrowth.core.document.variants import condition_text, default_variant, is_switch, variants
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.style.styles import put_back, set_properties
from outgrowth.core.edits.tree.components import (
    add_axis,
    add_axis_value,
    add_component,
    add_screen,
    rename_owner,
)
from outgrowth.core.edits.tree.nodes import add_node, move_node, new_node, remove_node, rename_node
from outgrowth.core.edits.variants.reach import Census, landing
from outgrowth.core.resolve.cascade import DEFAULT
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import scene_at

RED = parse("#FF0000")


def resolved(document, component="button"):
    resolver = Resolver()
    owner = document.components[component]
    return {
        tuple(sorted(v.items())): (s := resolver.variant(document, component, v)).paint
        and (s.paint, s.layout.style)
        for v in variants(owner)
    }


def test_an_edit_at_a_reach_is_one_rule_and_is_replaced_in_place(ferry):
    hover = Map(state="hover")
    once = set_properties(ferry, Place("button"), {"gap": 4.0}, hover)
    twice = set_properties(once, Place("button"), {"gap": 6.0}, hover)
    count = len(ferry.components["button"].rules)
    assert len(once.components["button"].rules) == len(twice.components["button"].rules)
    assert len(twice.components["button"].rules) == count + 1


def test_the_landing_is_where_the_value_would_show(ferry):
    button = ferry.components["button"]
    for reach in (Map(), Map(kind="quiet"), Map(state="hover"), Map(kind="quiet", state="press")):
        expected = landing(button, (), ("fill",), reach)
        edited = set_properties(ferry, Place("button"), {"fill": RED}, reach)
        before, after = resolved(ferry), resolved(edited)
        changed = {v for v in before if before[v] != after[v]}
        assert changed == {tuple(sorted(v.items())) for v in expected}


def test_without_a_property_every_variant_that_agrees_is_reached(ferry):
    button = ferry.components["button"]
    assert len(landing(button, (), (), Map())) == 8
    assert len(landing(button, (), (), Map(kind="quiet"))) == 4


def test_the_census_counts_instances_and_screens(ferry):
    census = Census(Resolver())
    button = ferry.components["button"]
    everything = census.reached(ferry, button, landing(button, (), (), Map()))
    assert (len(everything.variants), everything.of) == (8, 8)
    assert (everything.instances, everything.screens) == (39, 8)
    quiet = census.reached(ferry, button, landing(button, (), (), Map(kind="quiet")))
    assert 0 < quiet.instances < 39
    hover = census.reached(ferry, button, landing(button, (), (), Map(state="hover")))
    assert hover.instances == 39, "any instance may come to be hovered"
    assert census.instances(ferry)["icon-anchor"] == 6


@pytest.mark.parametrize("seed", range(6))
def test_counting_in_slices_with_edits_between_comes_to_the_same(ferry, seed):
    """More screens than are counted at once; each slice may end after any of them."""
    chance = random.Random(seed)
    root = ferry.screens["boarding"].root
    for n in range(40):
        ferry = add_screen(ferry, Screen(f"s{n}", f"S{n}", root))
    document, sliced = ferry, Census(Resolver())
    for _ in range(60):
        if chance.random() < 0.2:
            kind = chance.choice(("primary", "quiet"))
            place = Place(f"s{chance.randrange(40)}", ("board",))
            document = set_properties(document, place, {"choice:kind": kind})
        whole = sliced.count(document, 0.0 if chance.random() < 0.9 else math.inf)
        if whole or chance.random() < 0.1:
            button = document.components["button"]
            reach = landing(button, (), (), Map(kind="quiet"))
            fresh = Census(Resolver())
            assert sliced.reached(document, button, reach) == fresh.reached(document, button, reach)
    while not sliced.count(document, 0.0):
        pass
    assert sliced.instances(document) == Census(Resolver()).instances(document)


def test_adding_an_axis_or_a_value_changes_no_variant(ferry):
    before = list(resolved(ferry).values())
    size = Axis("size", "Size", (AxisValue("m", "Medium"), AxisValue("l", "Large")), "m")
    wider = add_axis(ferry, "button", size)
    kept = [v for k, v in resolved(wider).items() if ("size", "m") in k]
    assert kept == before
    more = add_axis_value(ferry, "button", "kind", AxisValue("loud", "Loud"))
    assert [v for k, v in resolved(more).items() if ("kind", "loud") not in k] == before


def test_axes_and_values_are_unique_and_few(ferry):
    kind = ferry.components["button"].axes[0]
    with pytest.raises(Refusal, match="already has an axis"):
        add_axis(ferry, "button", kind)
    with pytest.raises(Refusal, match="already has a value"):
        add_axis_value(ferry, "button", "kind", AxisValue("x", "Quiet"))
    many = tuple(AxisValue(f"v{n}", f"v{n}") for n in range(900))
    with pytest.raises(Refusal, match="7,200 variants"):
        add_axis(ferry, "button", Axis("n", "Number", many, "v0"))


def test_a_component_cannot_come_to_contain_itself(ferry):
    inside = Node("b", "b", "instance", Map(component="button"))
    toolbar = Component("toolbar", "Toolbar", Node("t", "t", "box", Map(), (inside,)))
    document = add_component(ferry, toolbar)
    again = new_node("x", "x", "instance", {"component": "toolbar"})
    with pytest.raises(Refusal, match="Controls/Button › Toolbar › Controls/Button"):
        add_node(document, "button", "button", again)


def test_nodes_are_added_moved_renamed_and_removed(ferry):
    dot = new_node("dot", "dot", "box", {"width": fixed(8.0), "height": fixed(8.0)})
    document = add_node(ferry, "button", "button", dot, index=0)
    document = rename_node(document, "button", "dot", "busy dot")
    document = set_properties(document, Place("button", ("dot",)), {"fill": RED}, Map(kind="quiet"))
    moved = move_node(document, "button", "dot", "button", 2)
    button = moved.components["button"]
    assert [n.name for n in button.root.children] == ["icon", "label", "busy dot"]
    assert button.rules == document.components["button"].rules, "its rules follow"
    assert remove_node(moved, "button", "dot") == ferry, "and go with it"


def test_edits_that_make_no_sense_are_refused(ferry):
    label = ("label",)
    for refused in (
        lambda: set_properties(ferry, Place("button", ("gone",)), {"gap": 1.0}),
        lambda: set_properties(ferry, Place("button"), {"glow": 1.0}),
        lambda: set_properties(ferry, Place("button"), {"gap": -1.0}),
        lambda: set_properties(ferry, Place("nowhere"), {"gap": 1.0}),
        lambda: add_node(ferry, "button", "label", new_node("x", "x", "box")),
        lambda: add_node(ferry, "button", "button", new_node("label", "x", "box")),
        lambda: remove_node(ferry, "button", "button"),
        lambda: rename_node(ferry, "button", "label", "  "),
        lambda: rename_owner(ferry, "button", ""),
        lambda: put_back(ferry, "gap", DEFAULT),
        lambda: add_component(ferry, ferry.components["button"]),
        lambda: move_node(ferry, "boarding", "crossing", "actions", 0),
    ):
        with pytest.raises(Refusal, match=r"\.$"):
            refused()
    assert find(ferry.components["button"].root, label[0]) is not None


def test_an_override_may_carry_a_condition(ferry):
    place = Place("boarding", ("board",))
    document = set_properties(ferry, place, {"fill": RED}, Map(state="hover"))
    screen = document.screens["boarding"]
    still = Resolver().screen(document, screen)
    live = ((("board",), "state", "hover"),)
    running = Resolver().screen(document, screen, live, running=True)
    plain = Resolver().screen(ferry, ferry.screens["boarding"])
    assert scene_at(still, ("board",)).paint == scene_at(plain, ("board",)).paint
    assert scene_at(running, ("board",)).paint.fill.red > 0.8
    assert scene_at(running, ("wait",)).paint == scene_at(plain, ("wait",)).paint


def test_an_instance_takes_a_size_of_its_own(ferry):
    document = set_properties(ferry, Place("boarding", ("wait",)), {"width": GROW})
    node = find(document.screens["boarding"].root, "wait")
    assert node.style["width"] == GROW


def test_variants_are_said_in_words(ferry):
    button = ferry.components["button"]
    assert (
        condition_text(button, {"kind": "quiet", "state": "hover"}) == "Kind: Quiet, State: hover"
    )
    assert condition_text(button, {}) == "all variants"
    assert default_variant(button) == Map(kind="primary", state="rest")
    yes_no = Axis("o", "Open", (AxisValue("n", "no"), AxisValue("y", "yes")), "n")
    assert is_switch(yes_no)
    assert not is_switch(button.axes[0])
