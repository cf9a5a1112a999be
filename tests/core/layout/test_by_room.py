"""Parts whose room decides what they are. Source: CSS Conditional Rules 5, section 5 (which value
holds); CSS Containment 3, section 3.2 (a part that is contained has no size by what is in it)."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from immutables import Map

from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Node,
    Rule,
    Screen,
)
from outgrowth.core.document.rooms import (
    never_shown,
    range_of,
    refuse_circle,
    room_axes,
    value_at,
)
from outgrowth.core.document.values import FIT, Run, Size, fixed
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.variants.driving import set_driver, set_least
from outgrowth.core.layout.by_room import rooms_shown
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.resolve.resolver import Resolver

GROW = Size("grow", 1.0)


def words(node_id, text):
    return Node(node_id, node_id, "text", Map({"content": (Run(text),)}))


def axis(*leasts, side="width", unit="px"):
    values = tuple(AxisValue(f"v{n}", f"v{n}", least=float(at)) for n, at in enumerate(leasts))
    return Axis("room", "Room", values, values[0].id, "room", side=side, unit=unit)


def card(*leasts, **said):
    """A column that is a row from its second value on."""
    style = {"flow": "column", "width": GROW, "padding-left": 8.0, "padding-right": 8.0, "gap": 4.0}
    root = Node("root", "Card", "box", Map(style), (words("a", "Skerry"), words("b", "Berth 2")))
    made = axis(*leasts, **said)
    rules = tuple(Rule(Map({"room": v.id}), ("root",), "flow", "row") for v in made.values[1:])
    return Component("card", "Card", root, (made,), rules)


def on_a_screen(component, *nodes, **style):
    root = Node(
        "page", "Page", "box", Map({"flow": "column", "width": fixed(600.0)} | style), nodes
    )
    screens = Map({"page": Screen("page", "Page", root)})
    components = Map({component.id: component})
    return Document("d", components, screens, (component.id,), ("page",))


def instance(node_id, **style):
    said = {name.replace("_", "-"): value for name, value in style.items()}
    return Node(node_id, node_id, "instance", Map({"component": "card"} | said))


def shown(document, layout):
    scene, placed = layout.view(Resolver().screen(document, document.screens["page"]))
    return {located.path: located for located in locate(scene, placed, "")}


leasts = st.lists(st.integers(0, 40).map(lambda n: n * 20.0), min_size=1, max_size=5)


@given(leasts, st.floats(0, 1000))
def test_exactly_one_value_holds_in_any_room(starts, room):
    made = axis(*starts)
    holding = [
        value.id
        for value in made.values
        if value not in never_shown(made)
        and range_of(made, value.id).least <= room
        and (range_of(made, value.id).below is None or room < range_of(made, value.id).below)
    ]
    assert holding == [value_at(made, room)]


@pytest.mark.parametrize(("width", "value"), [(100, "v0"), (299.9, "v0"), (300, "v1"), (599, "v1")])
def test_the_room_decides(width, value, layout):
    document = on_a_screen(card(0, 300), instance("one", width=fixed(float(width))))
    one = shown(document, layout)["one",]
    assert one.scene.variant["room"] == value
    assert one.rect.width == width
    flows = {"v0": "column", "v1": "row"}
    assert one.scene.layout.style.flow == flows[value]


def test_a_part_in_characters_asks_for_a_zero(layout):
    document = on_a_screen(card(0, 20, unit="ch"), instance("one", width=fixed(200.0)))
    zero = layout.unit_of_room("ch")
    assert zero == pytest.approx(9.5, abs=1.0)  # from memory: about 0.6 of 16 px
    narrow = shown(document, layout)["one",].scene.variant["room"]
    assert narrow == ("v1" if 20 * zero <= 200 else "v0")


def test_a_thousand_alike_share_what_each_room_makes_of_them(layout):
    nodes = [instance(f"n{n}", width=fixed(200.0 if n % 2 else 400.0)) for n in range(1000)]
    scene, _ = layout.view(
        Resolver().screen(d := on_a_screen(card(0, 300), *nodes), d.screens["page"])
    )
    assert len({id(child) for child in scene.children}) == 2


def test_in_one_another_each_has_its_own_room(layout):
    inner = card(0, 300)
    outer_root = Node(
        "outer-root", "Outer", "box", Map({"flow": "column", "width": GROW}), (instance("in"),)
    )
    wide = Rule(Map({"room": "v1"}), ("in",), "width", fixed(120.0))
    outer = Component("outer", "Outer", outer_root, (axis(0, 500),), (wide,))
    page = Node(
        "page", "Page", "box", Map({"flow": "column", "width": fixed(600.0)}),
        (
            Node("a", "a", "instance", Map({"component": "outer"})),
            Node("b", "b", "instance", Map({"component": "outer", "width": fixed(320.0)})),
        ),
    )  # fmt: skip
    document = Document(
        "d", Map({"card": inner, "outer": outer}), Map({"page": Screen("page", "Page", page)}),
        ("card", "outer"), ("page",),
    )  # fmt: skip
    found = shown(document, layout)
    said = {path: node.scene.variant["room"] for path, node in found.items() if node.scene.variant}
    assert said == {("a",): "v1", ("a", "in"): "v0", ("b",): "v0", ("b", "in"): "v1"}
    assert found["a", "in"].rect.width == 120
    live = rooms_shown(
        document, layout.view(Resolver().screen(document, document.screens["page"]))[0]
    )
    assert {(path, value) for path, _, value in live} == set(said.items())


def test_where_it_fits_it_asks_for_nothing(layout):
    """A fitting instance (only a file can say so) is as wide as its padding."""
    document = on_a_screen(card(0, 300), instance("one", width=FIT), align="start")
    assert shown(document, layout)["one",].rect.width == 16


def test_a_row_gives_what_is_left(layout):
    nodes = instance("one", width=GROW), Node("x", "x", "box", Map({"width": fixed(350.0)}))
    found = shown(on_a_screen(card(0, 300), *nodes, flow="row"), layout)
    assert found["one",].rect.width == 250
    assert found["one",].scene.variant["room"] == "v0"


def test_its_height_can_decide(layout):
    made = card(0, 100, side="height")
    root = msgspec.structs.replace(made.root, style=made.root.style.set("height", GROW))
    made = msgspec.structs.replace(made, root=root)
    low = on_a_screen(made, instance("one", height=fixed(80.0)))
    high = on_a_screen(made, instance("one", height=fixed(120.0)))
    rooms = [shown(d, layout)["one",].scene.variant["room"] for d in (low, high)]
    assert rooms == ["v0", "v1"]


def test_the_baseline_is_that_of_what_is_shown(layout):
    label = words("label", "Skerry")
    document = on_a_screen(
        card(0, 300), label, instance("one", width=GROW), flow="row", align="baseline"
    )
    found = shown(document, layout)
    assert found["one", "a"].rect.y == pytest.approx(found["label",].rect.y)


# --- a variant has a room that shows it --------------------------------------------------------


@pytest.mark.parametrize(("value", "width"), [("v0", 299.0), ("v1", 360.0), ("v2", 500.0)])
def test_a_variant_is_shown_in_the_nearest_room_that_shows_it(value, width, layout):
    made = card(0, 300, 500)
    root = msgspec.structs.replace(made.root, style=made.root.style.set("width", fixed(360.0)))
    document = on_a_screen(msgspec.structs.replace(made, root=root))
    scene, placed = layout.view(Resolver().variant(document, "card", Map({"room": value})))
    assert (placed.width, scene.variant["room"]) == (width, value)


def test_what_is_looked_at_is_what_is_drawn(layout):
    document = on_a_screen(card(0, 300), instance("one", width=fixed(400.0)))
    scene, _ = layout.view(Resolver().screen(document, document.screens["page"]))
    place = Place("page", ("one",), Map(), rooms_shown(document, scene))
    assert inspect(document, place).value("flow") == "row"
    assert inspect(document, place).value("choice:room") == "v1"


def test_nobody_chooses_what_the_room_sets(layout):
    chosen = {"component": "card", "choice:room": "v1", "width": fixed(90.0)}
    document = on_a_screen(card(0, 300), Node("one", "one", "instance", Map(chosen)))
    assert shown(document, layout)["one",].scene.variant["room"] == "v0"


# --- what can't be ----------------------------------------------------------------------------


def test_a_part_that_fits_is_refused():
    made = card(0, 300)
    fitting = made.root.style.set("width", FIT)
    made = msgspec.structs.replace(made, root=msgspec.structs.replace(made.root, style=fitting))
    with pytest.raises(Refusal, match="as wide as what is in it"):
        refuse_circle(made)
    chosen = msgspec.structs.replace(
        made, axes=(msgspec.structs.replace(made.axes[0], driver="none"),)
    )
    document = on_a_screen(chosen)
    with pytest.raises(Refusal, match="Let it grow"):
        set_driver(document, "card", "room", "room")


@pytest.mark.parametrize("name", ["width", "margin-left", "align-self", "floating", "shown"])
def test_how_it_stands_in_its_holder_cannot_depend_on_its_room(name):
    document = on_a_screen(card(0, 300))
    values = {
        "width": fixed(9.0),
        "margin-left": 9.0,
        "align-self": "end",
        "floating": True,
        "shown": False,
    }
    with pytest.raises(Refusal, match=r"can't depend on Room|decide"):
        set_properties(document, Place("card"), {name: values[name]}, Map({"room": "v1"}))


def test_an_instance_cannot_fit():
    document = on_a_screen(card(0, 300), instance("one"))
    with pytest.raises(Refusal, match="can't fit that"):
        set_properties(document, Place("page", ("one",)), {"width": FIT})


def test_only_a_box_is_set_by_its_room():
    text = Component(
        "label",
        "Label",
        words("w", "Sailing"),
        (msgspec.structs.replace(axis(0, 9), driver="none"),),
    )
    document = Document("d", Map({"label": text}), component_order=("label",))
    with pytest.raises(Refusal, match="only a box"):
        set_driver(document, "label", "room", "room")


def test_values_begin_at_rooms_of_their_own():
    document = on_a_screen(card(0, 300, 500))
    after = set_least(document, "card", "room", "v2", 420.0)
    assert [v.least for v in room_axes(after.components["card"])[0].values] == [0, 300, 420]
    with pytest.raises(Refusal, match="begins at 300"):
        set_least(document, "card", "room", "v2", 300.0)
    with pytest.raises(Refusal, match="A room has"):
        set_least(document, "card", "room", "v2", -1.0)


def test_who_uses_nothing_of_it_pays_nothing(layout):
    plain = msgspec.structs.replace(card(0, 300), axes=(), rules=())
    document = on_a_screen(plain, instance("one"))
    scene = Resolver().screen(document, document.screens["page"])
    assert layout.view(scene)[0] is scene


def test_instances_are_resolved_by_their_input(layout):
    document = on_a_screen(card(0, 300))
    scene = Resolver().instance(document, InstanceInput("card"))
    assert [layout.in_room(scene, w)[0].variant["room"] for w in (200.0, 320.0)] == ["v0", "v1"]
