import contextlib

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Document,
    Node,
    Rule,
    Screen,
    find,
    walk,
)
from outgrowth.core.document.uses import uses
from outgrowth.core.document.values import FIT, fixed, words
from outgrowth.core.document.variants import default_variant, laid, offered, variants
from outgrowth.core.edits import Refusal, instances
from outgrowth.core.edits.at_reach import Reach, open_at
from outgrowth.core.edits.instances import extract, properties
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_axis_value, add_screen, lay_axis
from outgrowth.core.edits.variants import axes, rules
from outgrowth.core.layout import Layout
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter

RED = parse("#FF0000")


@pytest.fixture
def pictured(fonts):
    """A screen's or a variant's display list, flattened."""
    layout = Layout(Typesetter(fonts))

    def picture(document, owner_id, variant=None):
        resolver = Resolver()
        if variant is None:
            scene = resolver.screen(document, document.screens[owner_id])
        else:
            scene = resolver.variant(document, owner_id, variant)
        return record(draw(scene, layout.place(scene.layout)))

    return picture


def looks(document, component="button", drop=()):
    """How each variant resolves, by its values on the axes that are not dropped."""
    resolver = Resolver()
    found = {}
    for variant in variants(document.components[component]):
        key = frozenset((a, v) for a, v in variant.items() if a not in drop)
        found[key] = resolver.variant(document, component, variant)
    return {k: (s.paint, s.layout.style, s.names) for k, s in found.items()}


def test_renaming_and_reordering_change_no_variant(ferry):
    before = looks(ferry)
    for changed in (
        axes.rename_axis(ferry, "button", "kind", "Weight"),
        axes.rename_value(ferry, "button", "state", "hover", "over"),
        axes.move_axis(ferry, "button", "state", 0),
        axes.move_value(ferry, "button", "kind", "quiet", 0),
    ):
        assert looks(changed) == before
        assert changed != ferry
    with pytest.raises(Refusal, match="already another"):
        axes.rename_value(ferry, "button", "state", "hover", "press")


reaches = st.fixed_dictionaries(
    {},
    optional={
        "kind": st.sampled_from(["primary", "quiet"]),
        "state": st.sampled_from(["rest", "hover", "press"]),
        "size": st.sampled_from(["s", "l"]),
    },
)
SIZE = Axis("size", "Size", (AxisValue("s", "S"), AxisValue("l", "L")), "s")


@settings(max_examples=40)
@given(st.lists(st.tuples(reaches, st.integers(1, 4)), max_size=6), st.permutations(range(3)))
def test_any_order_of_axes_and_a_fixed_one_keep_every_variant(ferry, said, order):
    document = add_axis(ferry, "button", SIZE)
    for reach, gap in said:
        document = set_properties(document, Place("button"), {"gap": float(gap)}, Map(reach))
    before = looks(document)
    moved = document
    for n, axis in enumerate(order):
        moved = axes.move_axis(moved, "button", document.components["button"].axes[axis].id, n)
    assert looks(moved) == before
    smaller = axes.remove_axis(document, "button", "size")
    kept = {k - {("size", "s")}: v for k, v in before.items() if ("size", "s") in k}
    assert looks(smaller) == kept


def test_removing_a_value_lists_who_falls_back_and_to_what(ferry):
    found = axes.fallbacks(ferry, "button", "kind", "quiet")
    assert len(found) == 23
    assert {f.becomes for f in found} == {"Primary"}
    smaller = axes.remove_value(ferry, "button", "kind", "quiet")
    assert value_at(smaller, Place("boarding", ("wait",)), "choice:kind") == "primary"
    assert all(
        "kind" not in r.when
        for r in smaller.components["button"].rules
        if r.when.get("kind") == "quiet"
    )
    with pytest.raises(Refusal, match="needs a value"):
        axes.remove_value(smaller, "button", "kind", "primary")


def test_variants_are_offered_and_not(ferry):
    variant = Map(kind="quiet", state="press")
    less = axes.set_offered(ferry, "button", variant, False)
    button = less.components["button"]
    assert [v for v in variants(button) if not offered(button, v)] == [variant]
    assert axes.set_offered(less, "button", variant, True) == ferry
    with pytest.raises(Refusal, match="default variant"):
        axes.set_offered(ferry, "button", default_variant(button), False)


def test_detaching_changes_no_pixel(ferry, pictured):
    for screen, node in (("boarding", "board"), ("boarding", "back"), ("desk", "call-10-15")):
        detached = instances.detach(ferry, screen, node)
        assert find(detached.screens[screen].root, node).kind == "box"
        assert pictured(detached, screen) == pictured(ferry, screen)
    with pytest.raises(Refusal, match="not an instance"):
        instances.detach(ferry, "boarding", "title")


def test_exchanging_there_and_back_keeps_what_both_mean(ferry):
    twin = extract.take_out(ferry, "button", Map(kind="quiet", state="rest"), "twin", "Twin")
    start = set_properties(twin, Place("boarding", ("board", "label")), {"color": RED})
    there = instances.exchange(start, "boarding", "board", "twin")
    assert there.dropped == ()
    back = instances.exchange(there.document, "boarding", "board", "button")
    assert back.document == start
    assert back.dropped == ()


LOOKS = st.dictionaries(
    st.sampled_from(("fill", "opacity", "width", "radius-top-left")),
    st.sampled_from((RED, 0.5, fixed(240.0), 9.0)),
)
OTHERS = ("icon-button", "toggle", "chip", "app-header")


@given(
    own=LOOKS,
    inside=st.sets(st.sampled_from(("label", "icon", "box"))),
    kind=st.sampled_from(("primary", "quiet")),
    there=st.lists(st.sampled_from(OTHERS), min_size=1, max_size=3),
)
def test_exchanging_there_and_back_keeps_everything(ferry, own, inside, kind, there):
    """By whatever components the way leads, and whatever they have no place for."""
    document = ferry
    for name, value in own.items():
        with contextlib.suppress(Refusal):  # a colour is no width
            document = set_properties(document, Place("boarding", ("board",)), {name: value})
    for node in inside:
        place = Place("boarding", ("board", node))
        with contextlib.suppress(Refusal):
            document = set_properties(document, place, {"opacity": 0.25}, Map(kind=kind))
    document = set_properties(document, Place("boarding", ("board",)), {"choice:kind": kind})
    start = document
    for component in (*there, "button"):
        document = instances.exchange(document, "boarding", "board", component).document
    was, now = (find(d.screens["boarding"].root, "board") for d in (start, document))
    assert now.style == was.style
    assert set(now.overrides) == set(was.overrides)


def test_a_holders_rules_follow_an_exchange_and_come_back(ferry):
    """A rule about the inside of a nested instance goes by names like an override does."""
    row = ferry.components["timetable-row"]
    (check,) = [n for n in walk(row.root) if n.style.get("component") == "checkbox"]
    held = [r for r in row.rules if r.node[0] == check.id and r.property.startswith("choice:")]
    assert held
    there = instances.exchange(ferry, "timetable-row", check.id, "toggle")
    back = instances.exchange(there.document, "timetable-row", check.id, "checkbox").document
    assert set(back.components["timetable-row"].rules) == set(row.rules)


def test_every_instance_of_the_file_is_exchanged_as_one_step(ferry):
    count = len(uses(ferry, "icon-button"))
    done = instances.exchange_everywhere(ferry, "icon-button", "button")
    assert not uses(done.document, "icon-button")
    assert len(uses(done.document, "button")) == len(uses(ferry, "button")) + count
    with pytest.raises(Refusal, match="no instance"):
        instances.exchange_everywhere(done.document, "icon-button", "button")


def test_a_value_started_from_another_looks_like_it_until_it_is_changed(ferry, pictured):
    new = AxisValue("loud", "Loud")
    document = add_axis_value(ferry, "button", "kind", new, template="quiet")
    for state in ("rest", "hover", "press"):
        quiet = Map(kind="quiet", state=state)
        loud = pictured(document, "button", quiet.set("kind", "loud"))
        assert loud == pictured(ferry, "button", quiet)
    changed = set_properties(document, Place("button"), {"gap": 31.0}, Map(kind="loud"))
    rest = Map(kind="quiet", state="rest")
    assert pictured(changed, "button", rest) == pictured(ferry, "button", rest)


def test_properties_are_named_ordered_described_and_removed(ferry, pictured):
    first, *_ = ferry.components["button"].properties
    document = properties.rename_property(ferry, "button", first.id, " Caption ")
    document = properties.describe_property(document, "button", first.id, "What it does.")
    document = properties.move_property(document, "button", first.id, 1)
    moved = document.components["button"].properties[1]
    assert (moved.name, moved.description) == ("Caption", "What it does.")
    assert pictured(document, "boarding") == pictured(ferry, "boarding")
    assert properties.setters(document, "button", first.id)
    gone = properties.remove_property(document, "button", first.id)
    assert gone.components["button"].property(first.id) is None
    assert not properties.setters(gone, "button", first.id)
    rest = Map(kind="primary", state="rest")
    assert pictured(gone, "button", rest) == pictured(ferry, "button", rest)
    other = ferry.components["button"].properties[1].name
    with pytest.raises(Refusal, match="already has"):
        properties.rename_property(ferry, "button", first.id, other)


def test_a_slots_default_and_shortlist_may_not_close_a_circle(ferry):
    slot = next(p for p in ferry.components["fare-card"].properties if p.kind == "slot")
    for edit, value in (
        (properties.set_default, "fare-card"),
        (properties.set_shortlist, ("fare-card",)),
    ):
        with pytest.raises(Refusal, match="cannot contain itself"):
            edit(ferry, "fare-card", slot.id, value)
    listed = properties.set_shortlist(ferry, "fare-card", slot.id, ("chip",))
    assert listed.components["fare-card"].property(slot.id).shortlist == ("chip",)


def test_the_grid_lays_axes_where_it_is_told(ferry):
    button = ferry.components["button"]
    assert [[a.id for a in part] for part in laid(button)] == [["kind"], ["state"], []]
    document = lay_axis(ferry, "button", "state", "rows")
    document = lay_axis(document, "button", "kind", "chips")
    parts = laid(document.components["button"])
    assert [[a.id for a in part] for part in parts] == [["state"], [], ["kind"]]


def test_order_is_a_property_like_any_other(ferry):
    """So a rule can turn box and label around; identity stays, and with it every tween."""
    rest = default_variant(ferry.components["checkbox"])
    before = Resolver().variant(ferry, "checkbox", rest)
    first, *others = before.ids
    assert others
    (axis, *_) = ferry.components["checkbox"].axes
    other = axis.values[1].id
    reach = Map({axis.id: other})
    turned = set_properties(ferry, Place("checkbox", (first,)), {"order": 5.0}, reach)
    assert Resolver().variant(turned, "checkbox", rest.set(axis.id, other)).ids == (*others, first)
    assert Resolver().variant(turned, "checkbox", rest).ids == before.ids


def test_exchanging_lists_what_means_nothing_there(ferry):
    marked = set_properties(ferry, Place("boarding", ("wait", "label")), {"color": RED})
    there = instances.exchange(marked, "boarding", "wait", "icon-button")
    assert set(there.dropped) == {"Label", "Kind", "Colour of a part inside"}


def test_a_difference_is_pushed_up_to_the_component(ferry, pictured):
    place = Place("desk", ("call-10-15",))
    document = instances.push_up(ferry, "desk", "call-10-15", Map(kind="primary"))
    assert pictured(document, "button", Map(kind="quiet")) == pictured(
        ferry, "button", Map(kind="quiet")
    )
    assert value_at(document, Place("button"), "fill") == parse("#B8452B")
    node = find(document.screens["desk"].root, "call-10-15")
    assert "fill" not in node.style
    assert node.style["width"] == find(ferry.screens["desk"].root, "call-10-15").style["width"]
    assert value_at(document, place, "fill") == parse("#B8452B")
    with pytest.raises(Refusal, match="differs in nothing"):
        instances.push_up(document, "desk", "call-10-15", Map())


def test_a_part_becomes_a_component_and_nothing_moves(ferry, pictured):
    document = extract.make_component(ferry, "boarding", "crossing", "sailing", "Sailing card")
    assert pictured(document, "boarding") == pictured(ferry, "boarding")
    assert find(document.screens["boarding"].root, "crossing").kind == "instance"
    deeper = extract.make_component(document, "sailing", "facts", "facts", "Facts")
    assert pictured(deeper, "boarding") == pictured(ferry, "boarding")


def test_a_part_of_a_component_keeps_its_rules_and_references(ferry, pictured):
    document = extract.make_component(ferry, "button", "label", "words", "Words")
    for variant in variants(ferry.components["button"]):
        assert pictured(document, "button", variant) == pictured(ferry, "button", variant)
    named = {"choice:label": words("Wave goodbye")}
    for one in (ferry, document):
        changed = set_properties(one, Place("boarding", ("board",)), named)
        assert value_at(changed, Place("boarding", ("board",)), "choice:label") == words(
            "Wave goodbye"
        )
    both = [set_properties(d, Place("boarding", ("board",)), named) for d in (ferry, document)]
    assert pictured(both[0], "boarding") == pictured(both[1], "boarding")


def test_a_variant_taken_out_looks_as_it_did(ferry, pictured):
    quiet = Map(kind="quiet", state="rest")
    document = extract.take_out(ferry, "button", quiet, "quiet", "Quiet button")
    for state in ("rest", "hover", "press"):
        assert pictured(document, "quiet", Map(state=state)) == pictured(
            ferry, "button", quiet.set("state", state)
        )


def test_rules_are_removed_aimed_and_made_one(ferry):
    first = ferry.components["button"].rules[0]
    less = rules.remove_rule(ferry, "button", first)
    assert first not in less.components["button"].rules
    with pytest.raises(Refusal, match="no longer there"):
        rules.remove_rule(less, "button", first)
    aimed = rules.aim_rule(ferry, "button", first, Map(state="press"))
    assert any(
        r.when == Map(state="press") and r.value == first.value
        for r in aimed.components["button"].rules
    )
    with pytest.raises(Refusal, match="needs a condition"):
        rules.aim_rule(ferry, "button", first, Map())
    document = ferry
    for state in ("rest", "hover", "press", "disabled"):
        reach = Map(kind="quiet", state=state)
        document = set_properties(document, Place("button"), {"gap": 3.0}, reach)
    (group,) = rules.equal_rules(document.components["button"])
    assert group.one == Rule(Map(kind="quiet"), ("button",), "gap", 3.0)
    assert looks(rules.make_one(document, "button", group)) == looks(document)


def test_placing_into_itself_is_refused_by_any_path(ferry):
    holding = instances.place_instance(ferry, "icon-button", "round", "button", "inner")
    with pytest.raises(Refusal, match="cannot contain itself"):
        instances.place_instance(holding, "button", "button", "icon-button", "x")
    with pytest.raises(Refusal, match="cannot contain itself"):
        instances.exchange(holding, "icon-button", "inner", "icon-button")


def test_filling_a_slot_with_its_holder_is_refused_by_any_path(ferry):
    """By a value, by a rule, and by way of a component between."""
    row = ferry.components["timetable-row"]
    cell = next(n for n in walk(row.root) if n.style.get("component") == "cell")
    for reach in (Map(), Map({row.axes[0].id: row.axes[0].values[1].id})):
        with pytest.raises(Refusal, match="cannot contain itself"):
            place = Place(row.id, (cell.id,))
            set_properties(ferry, place, {"choice:slot": row.id}, reach)
    with pytest.raises(Refusal, match="Fare card › Travel/Timetable row"):
        filled = set_properties(ferry, Place("chip"), {"opacity": 1.0})
        filled = set_properties(filled, Place(row.id, (cell.id,)), {"choice:slot": "fare-card"})
        set_properties(filled, Place("fare-card", ("icon",)), {"component": row.id})


def test_an_inner_property_is_opened_outward(ferry):
    place = Place("fare-card", ("buy",))
    document = open_at(
        ferry,
        Reach(place.owner, variant=place.variant),
        place.path,
        "choice:with-icon",
        "p",
        "Button icon",
    )
    assert document.components["fare-card"].property("p").kind == "switch"
    shown = set_properties(document, Place("fares", ("fare-1",)), {"choice:p": True})
    assert value_at(shown, Place("fares", ("fare-1", "buy")), "choice:with-icon") is True
    with pytest.raises(Refusal, match="cannot be opened"):
        open_at(ferry, Reach("button"), (), "flow", "p", "Flow")


def test_opening_a_value_changes_no_variant(ferry, pictured):
    for name, path in (("font-size", ("label",)), ("gap", ()), ("opacity", ())):
        document = open_at(ferry, Reach("button"), path, name, "p", "New")
        for variant in variants(ferry.components["button"]):
            assert pictured(document, "button", variant) == pictured(ferry, "button", variant)


@pytest.mark.parametrize("width", [None, FIT])
def test_letters_that_grow_make_no_part_of_what_fits_them(width):
    said = {"content": words("Skerry"), "fluid-size": 40.0}
    inside = Node("t", "title", "text", Map(said))
    part = Node("b", "part", "box", Map() if width is None else Map({"width": width}), (inside,))
    root = Node("r", "root", "box", Map({"width": fixed(800.0)}), (part,))
    found = add_screen(Document("sea"), Screen("page", "Page", root))
    with pytest.raises(Refusal, match="is as wide as what is in it"):
        extract.make_component(found, "page", "b", "part", "Part")
