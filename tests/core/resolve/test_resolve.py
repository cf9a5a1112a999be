import msgspec
import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Node,
    Screen,
)
from outgrowth.core.document.values import FromProperty, Shift, Token, fixed
from outgrowth.core.edits.style.styles import put_back, put_back_instance, set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.resolve.ladder import Place, inspect, ladder, value_at
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import scene_at

BLUE, RED, GREEN, BLACK = (parse(c) for c in ("#0000FF", "#FF0000", "#00FF00", "#000000"))
SIZE = Axis("size", "Size", (AxisValue("s", "Small"), AxisValue("l", "Large")), "s")
STATE = Axis(
    "state",
    "State",
    tuple(AxisValue(v, v) for v in ("rest", "hover", "press")),
    "rest",
    "pointer",
)


def holding(node_id, component, **style):
    return Node(node_id, node_id, "instance", Map({"component": component, **style}))


@pytest.fixture
def document():
    """chip ⊂ card ⊂ list, and a screen with two lists: three deep."""
    chip = Component("chip", "Chip", Node("c", "c", "box", Map(fill=BLUE)), (SIZE, STATE))
    inside = Node("k", "k", "box", Map(), (holding("in-card", "chip"),))
    card = Component("card", "Card", inside, (SIZE,))
    outer = Component("list", "List", Node("l", "l", "box", Map(), (holding("in-list", "card"),)))
    root = Node("r", "r", "box", Map(), (holding("one", "list"), holding("two", "list")))
    made = Document("d")
    for component in (chip, card, outer):
        made = add_component(made, component)
    return add_screen(made, Screen("s", "Screen", root))


DEEP = ("one", "in-list", "in-card")


def fill(document, path, live=(), resolver=None):
    scene = (resolver or Resolver()).screen(document, document.screens["s"], live, bool(live))
    return scene_at(scene, path).paint.fill


def test_an_inner_change_reaches_every_outer_instance(document):
    changed = set_properties(document, Place("chip"), {"fill": RED})
    assert fill(changed, DEEP) == fill(changed, ("two", "in-list", "in-card")) == RED


def test_each_later_step_of_the_cascade_wins_over_the_earlier(document):
    resolver = Resolver()
    steps = [
        (Place("chip"), {}, RED),
        (Place("chip"), {"size": "s"}, GREEN),
        (Place("card", ("in-card",)), {}, BLACK),
        (Place("card", ("in-card",)), {"size": "s"}, BLUE),
        (Place("list", ("in-list", "in-card")), {}, RED),
        (Place("s", DEEP), {}, GREEN),
    ]
    for place, reach, color in steps:
        document = set_properties(document, place, {"fill": color}, Map(reach))
        assert fill(document, DEEP, resolver=resolver) == color
    rungs = ladder(document, Place("s", DEEP), "fill")
    assert [rung.value for rung in rungs[1:]] == [color for _, _, color in steps]
    assert [rung.wins for rung in rungs] == [False] * 6 + [True]
    kinds = ["default", "tree", "rule", "tree", "rule", "instance", "instance"]
    assert [rung.source.kind for rung in rungs] == kinds
    for rung, below in zip(reversed(rungs[1:]), [RED, BLUE, BLACK, GREEN, RED, None], strict=True):
        document = put_back(document, "fill", rung.source)
        if below is not None:
            assert fill(document, DEEP) == value_at(document, Place("s", DEEP), "fill") == below


def test_an_override_survives_a_component_edit_while_the_rest_follows(document):
    document = set_properties(document, Place("s", DEEP), {"fill": GREEN})
    document = set_properties(document, Place("chip"), {"fill": RED, "gap": 7.0})
    scene = scene_at(Resolver().screen(document, document.screens["s"]), DEEP)
    assert (scene.paint.fill, scene.layout.style.gap) == (GREEN, 7.0)
    assert fill(document, ("two", "in-list", "in-card")) == RED


def test_more_conditions_win_and_equal_ones_go_by_the_order_of_the_axes(document):
    place = Place("chip")
    for reach, color in (
        ({"size": "l", "state": "hover"}, GREEN),
        ({"state": "hover"}, RED),
        ({"size": "l"}, BLACK),
    ):
        document = set_properties(document, place, {"fill": color}, Map(reach))
    for variant, color in (
        ({"size": "s", "state": "rest"}, BLUE),
        ({"size": "l", "state": "rest"}, BLACK),
        ({"size": "l", "state": "press"}, BLACK),
        ({"size": "s", "state": "hover"}, RED),
        ({"size": "l", "state": "hover"}, GREEN),
    ):
        assert Resolver().variant(document, "chip", Map(variant)).paint.fill == color


def test_a_hover_shift_still_shows_on_an_overridden_fill(document):
    darker = {"fill": Shift("darken", 0.5)}
    document = set_properties(document, Place("chip"), darker, Map(state="hover"))
    document = set_properties(document, Place("s", DEEP), {"fill": RED})
    live = ((DEEP, "state", "hover"),)
    assert fill(document, DEEP) == RED
    hovered = fill(document, DEEP, live)
    assert hovered != RED
    assert hovered.red < RED.red


def test_a_property_whose_default_is_a_relative_change_has_a_ladder(document):
    """There is no plain value below it: a look of an instance is pasted for one, or a file says
    so."""
    relative = Shift("darken", 0.1)
    prop = ComponentProperty("deep", "Deep", "number", relative)
    chip = msgspec.structs.replace(document.components["chip"], properties=(prop,))
    document = msgspec.structs.replace(document, components=document.components.set("chip", chip))
    (rung,) = ladder(document, Place("card", ("in-card",)), "choice:deep")
    assert rung.value == relative and rung.wins


def test_a_running_part_starts_at_rest_whatever_face_was_chosen(document):
    document = set_properties(document, Place("chip"), {"fill": RED}, Map(state="hover"))
    hovering = {"choice:state": "hover"}
    document = set_properties(document, Place("card", ("in-card",)), hovering)
    resolver = Resolver()
    still = resolver.screen(document, document.screens["s"])
    running = resolver.screen(document, document.screens["s"], running=True)
    assert scene_at(still, DEEP).paint.fill == RED
    assert scene_at(running, DEEP).paint.fill == BLUE


def test_what_did_not_change_is_the_same_object(document):
    resolver = Resolver()
    before = resolver.screen(document, document.screens["s"])
    assert resolver.screen(document, document.screens["s"]) is before
    one, two = before.children
    assert one is two
    changed = set_properties(document, Place("s", ("one",)), {"fill": RED})
    after = resolver.screen(changed, changed.screens["s"])
    assert after.children[0] is not one
    assert after.children[1] is two
    assert after.layout is before.layout, "a new fill asks for no new layout"


def test_a_component_edit_is_seen_through_every_memory(document):
    resolver = Resolver()
    before = resolver.screen(document, document.screens["s"])
    changed = set_properties(document, Place("chip"), {"fill": RED})
    assert fill(changed, DEEP, resolver=resolver) == RED
    assert resolver.screen(document, document.screens["s"]) is before, "undo is as before"


def test_tokens_and_properties_become_literals_and_bad_ones_defaults(ferry):
    resolver = Resolver()
    rest = resolver.variant(ferry, "button", Map())
    assert rest.paint.fill == parse("#17495A")
    assert rest.names == ("label",), "the icon is switched off by the property's default"
    collect_lines = set_properties(ferry, Place("button"), {"fill": Token("color.gone")})
    assert resolver.variant(collect_lines, "button", Map()).paint.fill.alpha == 0
    lost = set_properties(ferry, Place("button"), {"gap": FromProperty("label")})
    assert resolver.variant(lost, "button", Map()).layout.style.gap == 0.0


def test_a_missing_component_is_a_box_with_a_reason(document):
    document = set_properties(document, Place("card", ("in-card",)), {"component": "gone"})
    scene = scene_at(Resolver().screen(document, document.screens["s"]), DEEP)
    assert "not in the file" in scene.problem
    assert scene.layout.style.width == fixed(24.0)


def test_a_circle_that_a_file_holds_ends_in_a_box_with_a_reason(document):
    root = Node("c", "c", "box", Map(), (holding("again", "list"),))
    knot = document.components.set("chip", Component("chip", "Chip", root))
    document = Document("d", knot, document.screens, document.component_order, ("s",))
    scene = Resolver().screen(document, document.screens["s"])
    assert "contain itself" in scene.problem


def test_an_instance_is_put_back_as_a_whole(document):
    before = document
    document = set_properties(document, Place("s", ("one",)), {"fill": RED, "gap": 3.0})
    document = set_properties(document, Place("s", DEEP), {"fill": GREEN})
    assert put_back_instance(document, "s", "one") == before


def test_an_inspection_tells_the_instance_from_the_drawn_node(document):
    found = inspect(document, Place("s", DEEP))
    assert (found.node.id, found.instance.id, found.scope.owner.id) == ("c", "in-card", "chip")
    assert found.value("choice:size") == "s"
    assert inspect(document, Place("s", ("one", "nowhere"))) is None
