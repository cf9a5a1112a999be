"""Trees that are deep, wide by multiplication, or without end: shown, or refused by a sentence."""

import json
import threading

import pytest
from immutables import Map

from outgrowth.core.document.extent import DEEPEST, MOST_SHOWN
from outgrowth.core.document.records import Component, ComponentProperty, Document, Node, Screen
from outgrowth.core.document.values import FromProperty, words
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.instances.properties import set_default
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.edits.tree.nodes import add_node, move_node
from outgrowth.core.exchange.native import FileRefusal, dumps, loads
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.recorder import record
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime.hit import hit
from outgrowth.core.text import Typesetter


def text(node_id="t"):
    return Node(node_id, "text", "text", Map({"content": words("Ferry")}))


def instance(of, node_id="i", **style):
    said = {name.replace("__", ":"): value for name, value in style.items()}
    return Node(node_id, "instance", "instance", Map({"component": of, **said}))


def nested(levels, inmost, prefix="b", flow="column"):
    node = inmost
    for n in range(levels - 1):
        node = Node(f"{prefix}{n}", "box", "box", Map({"flow": flow, "padding-left": 1.0}), (node,))
    return node


def chain(components, boxes, flow="column"):
    """A screen that holds a component, that holds one …; the inmost is 200 boxes deep."""
    made = [Component("c0", "C", nested(DEEPEST, text(), flow=flow))]
    for n in range(1, components):
        root = nested(boxes, instance(f"c{n - 1}"), flow=flow)
        made.append(Component(f"c{n}", "C", root))
    root = Node("r", "r", "box", Map({"flow": flow}), (instance(made[-1].id),))
    return Document(
        "deep",
        Map({c.id: c for c in made}),
        Map({"s": Screen("s", "Deep", root)}),
        tuple(c.id for c in made),
        ("s",),
    )


@pytest.mark.parametrize("flow", ["row", "column", "free"])
@pytest.mark.parametrize(("components", "boxes"), [(200, 2), (390, 3)])
def test_200_levels_of_boxes_in_200_of_components_work_in_every_stage(
    fonts, flow, components, boxes
):
    """In a thread of half a megabyte of stack: nothing recurses in the machine's own."""
    document = chain(components, boxes, flow)
    found = []

    def stages():
        assert loads(dumps(document).encode(), "deep") == document
        scene = Resolver().screen(document, document.screens["s"])
        placed = Layout(Typesetter(fonts)).place(scene.layout)
        marks = record(draw(scene, placed))
        hit(scene, placed, 1.0, 1.0)
        svg_of(draw(scene, placed), draw(scene, placed).bounds, document.assets)
        page(scene, placed, "deep")
        found.append(
            (scene.problem, scene.levels, len(list(locate(scene, placed, "s"))), len(marks))
        )

    before = threading.stack_size(512 * 1024)
    try:
        thread = threading.Thread(target=stages)
        thread.start()
        thread.join()
    finally:
        threading.stack_size(before)
    levels = DEEPEST + (components - 1) * (boxes - 1) + 1
    assert found == [("", levels, levels, 1)]


def file_of(root, *components):
    held = [{"id": f"c{n}", "name": f"C{n}", "root": r} for n, r in enumerate(components)]
    screen = {"id": "s", "name": "S", "root": root}
    whole = {"format": "outgrowth", "version": 1, "name": "f", "components": held}
    return json.dumps(whole | {"screens": [screen]}).encode()


def json_instance(of, node_id):
    return {"id": node_id, "name": "i", "kind": "instance", "style": {"component": of}}


def json_box(*children, node_id="b"):
    return {"id": node_id, "name": "b", "kind": "box", "children": list(children)}


def test_a_small_file_that_stands_for_a_hundred_million_parts_is_refused():
    layers = [json_box(*[json_instance(f"c{n + 1}", f"i{k}") for k in range(10)]) for n in range(8)]
    data = file_of(json_instance("c0", "r"), *layers, json_box())
    assert len(data) < 10_000
    with pytest.raises(FileRefusal, match=f"more than {MOST_SHOWN:,} parts"):
        loads(data, "bomb")


@pytest.mark.parametrize("levels", [201, 250, 10_000, 100_000])
def test_10_000_levels_are_refused_by_a_sentence(levels):
    # Written by hand: the json package would recurse too.
    head, tail = '{"id":"%d","name":"n","kind":"box","children":[', "]}"
    text = "".join(head % n for n in range(levels)) + tail * levels
    data = file_of({"id": "r"}).replace(b'{"id": "r"}', text.encode())
    with pytest.raises(FileRefusal, match="deep") as caught:
        loads(data, "deep")
    assert len(str(caught.value)) <= 200


def test_components_in_a_circle_are_refused_with_the_way():
    data = file_of(
        json_instance("c0", "r"),
        json_box(json_instance("c1", "i")),
        json_box(json_instance("c0", "i")),
    )
    with pytest.raises(FileRefusal, match="C0 › C1 › C0"):
        loads(data, "circle")


def panel_document():
    """A panel with a slot, and a part that holds such a panel."""
    slot = ComponentProperty("inside", "Inside", "slot", "")
    inner = Node("slot", "slot", "instance", Map({"component": FromProperty("inside")}))
    panel = Component(
        "panel", "Panel", Node("p", "p", "box", children=(inner,)), properties=(slot,)
    )
    part = Component("part", "Part", Node("q", "q", "box", children=(instance("panel"), text())))
    document = add_component(add_component(Document("d"), panel), part)
    for name in ("one", "two"):
        root = Node("r", "r", "box", children=(instance("panel", choice__inside="part"),))
        document = add_screen(document, Screen(name, name, root))
    return document


def test_a_panel_inside_a_part_that_fills_a_panel_is_drawn_on_every_screen(resolver):
    document = panel_document()
    for name in ("one", "two", "one"):
        scene = resolver.screen(document, document.screens[name])
        kinds = [scene.children[0].component, scene.children[0].children[0].component]
        assert (scene.problem, scene.parts, kinds) == ("", 5, ["panel", "part"])


def test_a_slot_that_would_be_filled_without_end_is_a_box_that_says_so(resolver):
    slot = ComponentProperty("inside", "Inside", "slot", "")
    given = Map({"component": FromProperty("inside"), "choice:inside": FromProperty("inside")})
    inner = Node("slot", "slot", "instance", given)
    panel = Component(
        "panel", "Panel", Node("p", "p", "box", children=(inner,)), properties=(slot,)
    )
    document = add_component(Document("d"), panel)
    for name in ("good", "endless"):
        said = {} if name == "good" else {"choice__inside": "panel"}
        root = Node("r", "r", "box", children=(instance("panel", **said),))
        document = add_screen(document, Screen(name, name, root))
    for fresh in (Resolver(), resolver):
        for name in ("endless", "good", "endless"):
            scene = fresh.screen(document, document.screens[name])
            assert ("contain itself" in scene.problem) == (name == "endless")


def test_no_edit_makes_a_tree_too_deep(ferry):
    document = add_screen(
        Document("d"), Screen("s", "S", nested(DEEPEST - 1, Node("x", "x", "box")))
    )
    document = add_node(document, "s", "x", text())
    with pytest.raises(Refusal, match="200 levels"):
        add_node(document, "s", "x", Node("y", "y", "box", children=(text("z"),)))
    beside = add_node(
        document, "s", f"b{DEEPEST - 3}", Node("y", "y", "box", children=(text("z"),))
    )
    with pytest.raises(Refusal, match="200 levels"):
        move_node(beside, "s", "y", "x", 0)
    with pytest.raises(Refusal, match="200 levels"):
        add_screen(Document("d"), Screen("s", "S", nested(10_000, text())))


def test_no_edit_lets_a_component_contain_itself():
    document = panel_document()
    with pytest.raises(Refusal, match="Panel › Part › Panel"):
        set_default(document, "panel", "inside", "part")
    with pytest.raises(Refusal, match="Part"):
        set_properties(document, Place("part", ("i",)), {"choice:inside": "part"})


@pytest.mark.parametrize("kind", ["text", "shape", "image", "instance"])
def test_only_a_box_holds_parts(kind):
    with pytest.raises(Refusal, match="only a box does"):
        Node("n", "n", kind, children=(text(),))
    root = json_box(json_box(json_box(node_id="c"), node_id="b") | {"kind": kind}, node_id="r")
    with pytest.raises(FileRefusal, match="only a box does"):
        loads(file_of(root), "odd")
