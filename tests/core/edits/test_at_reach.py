"""What every act means at a reach, on small parts; `bin/fuzz reach` does the same at random."""

import pytest
from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Node,
    Rule,
    Screen,
    find,
)
from outgrowth.core.document.values import FromProperty, Shift, Token, fixed, words
from outgrowth.core.document.variants import variants
from outgrowth.core.edits import at_reach
from outgrowth.core.edits.at_reach import Reach, Standing
from outgrowth.core.edits.at_reach.standing import holder_of
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tokens import remove_token, rename_token
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.edits.tree.nodes import add_node
from outgrowth.core.edits.tree.outermost import wrap_around
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.recorder import record
from outgrowth.core.refusal import Refusal, ValueRefusal
from outgrowth.core.resolve.ladder import Place, inspect, value_at
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.team.merge import merge

SEA, CLAY = Color(0.1, 0.3, 0.4), Color(0.7, 0.3, 0.2)


def axis(name, *values, driver="none"):
    return Axis(name, name.title(), tuple(AxisValue(v, v) for v in values), values[0], driver)


KIND = axis("kind", "main", "quiet")
STATE = axis("state", "rest", "hover", "press", driver="pointer")
HOVER = Map(state="hover")


def dot(name, fill=SEA):
    style = Map({"form": "ellipse", "fill": fill, "width": fixed(10.0), "height": fixed(10.0)})
    return Component(name, name.title(), Node("dot", "dot", "shape", style))


@pytest.fixture
def document():
    """Two dots, a key that holds one in a slot, a bar of two keys, and a screen of two bars."""
    document = Document("Small", tokens=Map({"color.sea": DesignToken("color", SEA)}))
    for part in (dot("bell"), dot("clock", CLAY)):
        document = add_component(document, part)
    label = Node("label", "label", "text", Map({"content": FromProperty("words")}))
    icon = Node("icon", "icon", "instance", Map({"component": FromProperty("slot")}))
    root = Node(
        "key", "key", "box", Map({"flow": "row", "fill": Token("color.sea")}), (icon, label)
    )
    rule = Rule(HOVER, ("key",), "fill", Shift("darken", 0.1))
    given = (
        ComponentProperty("words", "Words", "text", words("Holm")),
        ComponentProperty("slot", "Icon", "slot", "bell"),
    )
    key = Component("key", "Key", root, (KIND, STATE), (rule,), given)
    document = add_component(document, key)
    inner = [Node(f"k{n}", f"k{n}", "instance", Map({"component": "key"})) for n in range(2)]
    alone = Node("alone", "alone", "instance", Map({"component": "bell"}))
    bar = Component("bar", "Bar", Node("bar", "bar", "box", Map(), (*inner, alone)), (KIND,))
    document = add_component(document, bar)
    held = tuple(Node(f"b{n}", f"b{n}", "instance", Map({"component": "bar"})) for n in range(2))
    return add_screen(document, Screen("hall", "Hall", Node("hall", "hall", "box", Map(), held)))


@pytest.fixture
def drawn(layout):
    def every(document, owner):
        resolver, component = Resolver(), document.components[owner]
        scenes = {v: resolver.variant(document, owner, v) for v in variants(component)}
        return {
            v: [str(mark) for mark in record(draw(scene, layout.place(scene.layout)))]
            for v, scene in scenes.items()
        }

    return every


def reach(owner, **when):
    return Reach(owner, Map(when), Map(when))


def at(document, owner, *path, **variant):
    component = document.components[owner]
    full = Map({a.id: variant.get(a.id, a.default) for a in component.axes})
    return Place(owner, path, full)


def changed(before, after):
    return {variant for variant in before if before[variant] != after[variant]}


# --- there in some variants -------------------------------------------------------------------


def test_a_part_removed_at_a_reach_is_gone_there_whatever_rules_said(document, drawn):
    for when in ({"kind": "quiet", "state": "hover"}, {"kind": "quiet"}):
        document = set_properties(document, Place("key", ("label",)), {"shown": True}, Map(when))
    before = drawn(document, "key")
    after = at_reach.remove_parts(document, reach("key", state="hover"), [("label",)])
    assert {v["state"] for v in changed(before, drawn(after, "key"))} == {"hover"}
    for kind in ("main", "quiet"):
        place = at(after, "key", "label", kind=kind, state="hover")
        assert value_at(after, place, "shown") is False


def test_a_part_that_nothing_shows_any_more_goes_from_the_tree(document):
    for state in ("rest", "hover"):
        document = at_reach.remove_parts(document, reach("key", state=state), [("label",)])
    assert find(document.components["key"].root, "label") is not None
    document = set_properties(document, Place("key", ("label",)), {"shown": False})
    document = at_reach.remove_parts(document, reach("key", state="press"), [("label",)])
    assert find(document.components["key"].root, "label") is None
    assert not [r for r in document.components["key"].rules if r.node == ("label",)]


def test_a_part_inside_an_instance_is_hidden_there_alone(document, drawn):
    before = drawn(document, "bar")
    after = at_reach.remove_parts(document, Reach("bar"), [("k0", "label")])
    assert len(changed(before, drawn(after, "bar"))) == 2
    assert value_at(after, Place("bar", ("k1", "label")), "shown") is True
    assert value_at(after, Place("key", ("label",)), "shown") is True
    with pytest.raises(Refusal, match="outermost"):
        at_reach.remove_parts(document, Reach("bar"), [()])


def test_what_is_new_is_shown_within_the_reach_only(document, drawn):
    before = drawn(document, "key")
    node = Node("new", "new", "shape", dot("any").root.style)
    document = add_node(document, "key", "key", node)
    document = at_reach.keep_to_reach(document, reach("key", state="press"), ["new"])
    assert {v["state"] for v in changed(before, drawn(document, "key"))} == {"press"}
    everywhere = at_reach.show_everywhere(document, "key", "new")
    assert len(changed(before, drawn(everywhere, "key"))) == 6
    assert not [r for r in everywhere.components["key"].rules if r.node == ("new",)]


def test_a_twin_takes_the_place_of_a_part_within_the_reach(document, drawn):
    before = drawn(document, "key")
    count = iter(range(9))
    here = reach("key", state="hover")
    document, ids = at_reach.twins(document, here, ["label"], lambda kind: f"{kind}-{next(count)}")
    document = at_reach.keep_to_reach(document, here, ids)
    assert drawn(document, "key") == before
    document = set_properties(document, Place("key", ids), {"content": words("Skerry")})
    assert {v["state"] for v in changed(before, drawn(document, "key"))} == {"hover"}


@pytest.mark.parametrize("index", range(3))
def test_a_part_takes_another_turn_within_the_reach(document, drawn, index):
    before = drawn(document, "bar")
    here = reach("bar", kind="quiet")
    others = ["k1", "alone"]
    target = others[index] if index < 2 else None
    after = at_reach.move_parts(document, here, ["k0"], "bar", target)
    wanted = (*others[:index], "k0", *others[index:])
    assert at_reach.sequence(after, here, "bar") == wanted
    assert at_reach.sequence(after, reach("bar", kind="main"), "bar") == ("k0", "k1", "alone")
    assert after.components["bar"].root == document.components["bar"].root
    assert {v["kind"] for v in changed(before, drawn(after, "bar"))} <= {"quiet"}


def test_in_all_variants_a_turn_that_was_said_before_gives_way(document):
    document = set_properties(document, Place("bar", ("alone",)), {"order": -1.0})
    whole = Reach("bar", variant=Map(kind="main"))
    moved = at_reach.move_parts(document, whole, ["alone"], "bar", None)
    assert at_reach.sequence(moved, Reach("bar"), "bar") == ("k0", "k1", "alone")


# --- where a value is decided -----------------------------------------------------------------


def test_a_slot_deep_inside_is_filled_where_it_is_a_slot(document):
    after = at_reach.exchange_at(document, Reach("hall"), ("b0", "k0", "icon"), "clock").document
    row = inspect(after, Place("hall", ("b0", "k0")))
    assert row.value(CHOICE + "slot") == "clock"
    assert value_at(after, Place("hall", ("b0", "k0", "icon")), "component") == "clock"
    bar = find(after.screens["hall"].root, "b0")
    assert [(r.node, r.property) for r in bar.overrides] == [(("k0",), CHOICE + "slot")]


def test_an_override_that_hid_the_slot_goes_when_it_is_filled(document):
    lie = Place("hall", ("b0", "k0", "icon"))
    document = set_properties(document, lie, {"component": "clock"})
    assert inspect(document, Place("hall", ("b0", "k0"))).value(CHOICE + "slot") == "bell"
    after = at_reach.exchange_at(document, Reach("hall"), lie.path, "bell").document
    assert value_at(after, lie, "component") == "bell"
    again = at_reach.exchange_at(after, Reach("hall"), lie.path, "clock").document
    assert inspect(again, Place("hall", ("b0", "k0"))).value(CHOICE + "slot") == "clock"


def test_words_inside_an_instance_are_given_to_its_property(document):
    path = "k0", "label"
    after = at_reach.set_values(document, reach("bar", kind="quiet"), path, {"content": words("A")})
    rules = after.components["bar"].rules
    assert [(r.node, r.property) for r in rules] == [(("k0",), CHOICE + "words")]
    with pytest.raises(Refusal, match="The property “Words” decides this here"):
        at_reach.set_values(document, Reach("bar"), path, {"content": Color(0, 0, 0)})


def test_words_of_a_component_itself_are_its_default_in_all_variants_and_a_rule_in_some(document):
    whole = at_reach.set_values(document, Reach("key"), ("label",), {"content": words("A")})
    assert whole.components["key"].property("words").default == words("A")
    some = at_reach.set_values(
        document, reach("key", state="hover"), ("label",), {"content": words("A")}
    )
    assert some.components["key"].property("words").default == words("Holm")
    assert value_at(some, at(some, "key", "label", state="hover"), "content") == words("A")


# --- exchanged ---------------------------------------------------------------------------------


def test_an_exchange_at_a_reach_is_a_rule_and_brings_along_what_means_something(document, drawn):
    other = dot("lamp")
    size = axis("lamp-size", "small", "large")
    big = Rule(Map({"lamp-size": "large"}), ("dot",), "width", fixed(30.0))
    document = add_component(document, Component("lamp", "Lamp", other.root, (size,), (big,)))
    bulb = axis("bulb-size", "small", "large")
    bulb_rule = Rule(Map({"bulb-size": "large"}), ("dot",), "width", fixed(40.0))
    named = Axis(bulb.id, size.name, bulb.values, bulb.default)
    document = add_component(
        document, Component("bulb", "Bulb", dot("bulb").root, (named,), (bulb_rule,))
    )
    place = Place("bar", ("alone",))
    document = set_properties(document, place, {"component": "lamp"})
    document = set_properties(document, place, {CHOICE + "lamp-size": "large"})
    before = drawn(document, "bar")
    after = at_reach.exchange_at(document, reach("bar", kind="quiet"), ("alone",), "bulb").document
    assert {v["kind"] for v in changed(before, drawn(after, "bar"))} == {"quiet"}
    quiet = inspect(after, at(after, "bar", "alone", kind="quiet"))
    assert quiet.value("component") == "bulb" and quiet.value(CHOICE + "bulb-size") == "large"
    assert inspect(after, at(after, "bar", "alone", kind="main")).value("component") == "lamp"


def test_an_exchange_is_seen_where_a_narrower_rule_says_another(document):
    quiet = reach("bar", kind="quiet")
    document = at_reach.exchange_at(document, quiet, ("alone",), "clock").document
    looking = Reach("bar", variant=Map(kind="quiet"))
    after = at_reach.exchange_at(document, looking, ("alone",), "key").document
    assert value_at(after, at(after, "bar", "alone", kind="quiet"), "component") == "key"
    with pytest.raises(Refusal, match="cannot contain itself"):
        at_reach.exchange_at(document, Reach("bar"), ("alone",), "bar")
    with pytest.raises(Refusal, match="Only an instance"):
        at_reach.exchange_at(document, Reach("bar"), (), "key")


# --- opened and tied -----------------------------------------------------------------------------


def test_a_token_stays_a_token_where_it_is_opened(document, drawn):
    before = drawn(document, "key")
    after = at_reach.open_at(document, Reach("key"), (), "fill", "tone", "Tone")
    prop = after.components["key"].property("tone")
    assert prop.default == Token("color.sea")
    assert drawn(after, "key") == before
    given = set_properties(after, Place("bar", ("k0",)), {CHOICE + "tone": CLAY})
    assert value_at(given, Place("bar", ("k0",)), "fill") == CLAY.rounded
    assert inspect(given, Place("bar", ("k1",))).value(CHOICE + "tone") == SEA.rounded


def test_a_relative_change_opened_at_hover_darkens_once_and_leaves_rest_alone(document, drawn):
    before = drawn(document, "key")
    after = at_reach.open_at(document, reach("key", state="hover"), (), "fill", "tone", "Tone")
    assert after.components["key"].property("tone").default == Shift("darken", 0.1)
    assert drawn(after, "key") == before
    given = set_properties(after, Place("bar", ("k0",)), {CHOICE + "tone": CLAY})
    assert value_at(given, Place("bar", ("k0",)), "fill") == SEA.rounded, "at rest"
    over = Place("bar", ("k0",))._replace(variant=Map(kind="main"))
    hovered = set_properties(given, over, {CHOICE + "state": "hover"})
    assert value_at(hovered, over, "fill") == CLAY.rounded
    assert inspect(after, over).value(CHOICE + "tone") is None, "it has no value of its own"


def test_one_property_decides_two_parts_and_some_variants(document):
    document = at_reach.open_at(document, Reach("key"), (), "fill", "tone", "Tone")
    here = reach("key", state="hover")
    choices = at_reach.fitting_properties(document, here, ("label",), "color")
    assert [prop.id for prop in choices] == ["tone"]
    tied = at_reach.tie(document, here, ("label",), "color", "tone")
    assert value_at(tied, at(tied, "key", "label", state="hover"), "color") == SEA.rounded
    assert at_reach.decided_by(tied, here, ("label",), "color") == "tone"
    assert not at_reach.fitting_properties(tied, here, ("label",), "color")
    with pytest.raises(Refusal, match="another kind"):
        at_reach.tie(document, here, ("label",), "content", "tone")


def test_defaults_that_refer_are_kept_renamed_merged_and_let_go(document):
    opened = at_reach.open_at(document, Reach("key"), (), "fill", "tone", "Tone")
    opened = at_reach.open_at(opened, reach("key", state="hover"), (), "fill", "over", "Over")
    assert loads(dumps(opened).encode(), "again") == opened
    renamed = rename_token(opened, "color.sea", "color.deep")
    assert renamed.components["key"].property("tone").default == Token("color.deep")
    gone = remove_token(opened, "color.sea")
    assert gone.components["key"].property("tone").default == SEA.rounded
    merged = merge(document, opened, renamed_screen(document))
    assert merged.document.components["key"] == opened.components["key"]
    with pytest.raises(ValueRefusal, match="has to be said by itself"):
        ComponentProperty("p", "P", "text", Token("color.sea"))


def renamed_screen(document):
    screen = document.screens["hall"]
    return add_screen(document, Screen("other", "Other", screen.root))


# --- standing where it stood ---------------------------------------------------------------------


@pytest.mark.parametrize("pin", ["start", "end", "both", "center", "scale"])
@pytest.mark.parametrize("margin", [0.0, 7.0])
@pytest.mark.parametrize("fit", [False, True])
def test_whatever_a_part_is_tied_to_it_stands_where_it_stood(layout, pin, margin, fit):
    style = Map({"x": 30.0, "y": 12.0, "margin-left": margin, "right": 99.0, "bottom": -4.0})
    part = Node("part", "part", "shape", dot("any").root.style.update(style))
    free = {"flow": "free"} | ({} if fit else {"width": fixed(200.0), "height": fixed(90.0)})
    box = Node("box", "box", "box", Map(free), (part,))
    document = add_component(Document("Free"), Component("box", "Box", box))

    def standing(document, path):
        scene = Resolver().variant(document, "box", Map())
        placed = layout.place(scene.layout)
        found = {a.path: a.rect for a in locate(scene, placed, "")}
        return Standing(found[path], (placed.width, placed.height))

    before = standing(document, ("part",))
    for first in (pin, "start", pin):
        for name in ("pin-x", "pin-y"):
            document = at_reach.set_standing(
                document, Reach("box"), ("part",), {name: first}, standing
            )
        now = standing(document, ("part",))
        assert all(abs(a - b) < 0.01 for a, b in zip(before.rect, now.rect, strict=True))
        assert now.room == before.room
    assert holder_of(document, Place("box", ("part",))) == ()


# --- put into a box, as a whole ------------------------------------------------------------------


def test_a_component_in_a_box_keeps_its_looks_in_all_who_hold_it(document, layout):
    key = document.components["key"]
    document = set_properties(document, Place("bar", ("k0",)), {"fill": CLAY, "width": fixed(90.0)})

    def where(document):
        scene = Resolver().screen(document, document.screens["hall"])
        return {str(a.path): a.rect for a in locate(scene, layout.place(scene.layout), "")
                if len(a.path) < 3}  # fmt: skip

    def marks(document):
        scene = Resolver().screen(document, document.screens["hall"])
        return [str(m) for m in record(draw(scene, layout.place(scene.layout)))]

    wrapped = wrap_around(document, "key", "around", (where,))
    assert wrapped.components["key"].root.id == "around"
    assert wrapped.components["key"].root.children[0].id == key.root.id
    assert marks(wrapped) == marks(document)
    held = find(wrapped.components["bar"].root, "k0")
    assert held.style["width"] == fixed(90.0) and "fill" not in held.style
    assert [(r.node, r.property) for r in held.overrides] == [(("key",), "fill")]


def test_what_an_instance_differs_in_is_put_back_within_the_reach(document, drawn):
    place = Place("bar", ("k0", "label"))
    for kind in ("main", "quiet"):
        document = set_properties(document, place, {"opacity": 0.5}, Map(kind=kind))
    before = drawn(document, "bar")
    after = at_reach.put_instances_back(document, reach("bar", kind="quiet"), ["k0"])
    assert {v["kind"] for v in changed(before, drawn(after, "bar"))} == {"quiet"}
