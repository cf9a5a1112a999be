"""Exported elements at rest, beside our own layout. Source: Debian's Chromium (references.md)."""

import io
import math
import statistics

import numpy as np
import pytest
from immutables import Map
from PIL import Image
from PyQt6.QtCore import QBuffer

from outgrowth.app.shot import picture
from outgrowth.core.color import parse
from outgrowth.core.document.records import Component, Document, Node, Screen
from outgrowth.core.document.rooms import room_axes
from outgrowth.core.document.values import fixed
from outgrowth.core.document.variants import variants
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.resolve.resolver import Resolver
from tests.browser.web.elements import (
    READ,
    SHOW,
    attributes_of,
    compared,
    page_of_elements,
    worst,
)
from tests.fuzz.layout import SEEN, VIEW
from tests.fuzz.web import judging

pytestmark = pytest.mark.browser


@pytest.fixture
def elements(chromium, handed, ferry_once):
    names = [handed.made.names.owners[c.id].element for c in ferry_once.in_order()]
    page_of_elements(handed.folder, "elements-page", names)
    chromium.get(f"{handed.address}elements-page.html")
    chromium.execute_script(READ)
    return chromium


def test_every_variant_of_every_component_stands_as_ours_does(
    elements, handed, ferry_once, layout_once
):
    found = []
    for component in ferry_once.in_order():
        names = handed.made.names.owners[component.id]
        for variant in variants(component):
            attributes, live = attributes_of(names, component, variant)
            elements.execute_async_script(SHOW, names.element, attributes, live)
            scene, placed = layout_once.view(Resolver().variant(ferry_once, component.id, variant))
            theirs = elements.execute_async_script(
                "const [width, done] = arguments, element = document.body.firstElementChild.firstElementChild;"
                "const read = () => { untransformed(element); done(treeOf(element)); };"
                "if (!width) read(); else { element.style.width = `${width}px`;"
                "requestAnimationFrame(() => requestAnimationFrame(read)); }",
                math.ceil(placed.width * 64) / 64 if room_axes(component) else 0,
            )
            found += compared(scene, placed, theirs, path=component.name)
    assert len(found) > 2000
    assert worst(found).size <= 0.5, worst(found)
    assert statistics.median(d.size for d in found) <= 0.05


@pytest.mark.parametrize(
    "screen",
    ["boarding", "desk", "fares", "help", "islands", "booking", "calendar", "before-gathering"],
)
def test_a_screen_made_of_the_elements_stands_as_ours_does(
    chromium, handed, ferry_once, layout_once, screen
):
    name = handed.made.names.owners[screen].element
    chromium.get_log("browser")  # what other tests did there is over
    chromium.get(f"{handed.address}screens/{name}.html")
    chromium.execute_script(READ)
    theirs = chromium.execute_async_script(
        "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame(() => {"
        "const screen = document.querySelector('main'); untransformed(screen);"
        "done(treeOf(screen)); }));"
    )
    scene = Resolver().screen(ferry_once, ferry_once.screens[screen])
    found = compared(scene, layout_once.place(scene.layout), theirs, path=screen)
    assert worst(found).size <= 0.5, worst(found)
    assert statistics.median(d.size for d in found) <= 0.05
    said = [entry for entry in chromium.get_log("browser") if entry["level"] == "SEVERE"]
    assert not said, "nothing is refused by the strict policy"


def shapes_and_tiles():
    """A screen of slices in boxes that are not square, and of pictures side by side: of the screen
    itself, in a component, and as one."""
    made, tile = {"width": fixed(90.0), "height": fixed(40.0)}, {"picture": SEEN, "fit": "tile"}
    arcs = [(sweep, start) for sweep in (90.0, -120.0, 250.0) for start in (0.0, 30.0)]
    slices = [
        Node(f"arc-{n}", "arc", "shape", Map({"form": "ellipse", "arc-sweep": sweep, "arc-start": start, "fill": parse("#17495A")} | made))
        for n, (sweep, start) in enumerate(arcs)
    ]  # fmt: skip
    large = {"width": fixed(250.0), "height": fixed(340.0)}
    view = Node("view", "view", "image", Map(tile | large))
    held = Component("held", "Held", Node("box", "box", "box", Map(), (view,)))
    whole = Component("whole", "Whole", view)
    instances = [Node(n, n, "instance", Map({"component": n})) for n in ("held", "whole")]
    style = {"wrap": True, "width": fixed(800.0), "height": fixed(560.0), "gap": 9.0}
    root = Node("root", "root", "box", Map(style), (*slices, view, *instances))
    return Document(
        "Shapes",
        Map({"held": held, "whole": whole}),
        Map({"shapes": Screen("shapes", "Shapes", root)}),
        component_order=("held", "whole"),
        screen_order=("shapes",),
        assets=Map({VIEW.digest: VIEW}),
    )


def test_slices_and_pictures_side_by_side_are_drawn_as_ours(qapp):
    document = shapes_and_tiles()
    scene = Resolver().screen(document, document.screens["shapes"])
    with judging() as judge:
        judge.served(hand_over(document, judge.layout).files)
        judge.chromium.set_window_size(900, 800)
        judge.chromium.get(f"{judge.address}screens/shapes.html")
        judge.chromium.execute_async_script(
            "const done = arguments[0]; Promise.all([...document.querySelectorAll('img')].map((one) => one.decode()))"
            ".then(() => requestAnimationFrame(() => setTimeout(done, 100)));"
        )
        theirs = Image.open(io.BytesIO(judge.chromium.get_screenshot_as_png())).convert("RGB")
        drawn = picture(scene, judge.layout.place(scene.layout), cut=True, assets=document.assets)
    ground = Image.new("RGBA", (800, 560), "white")
    buffer = QBuffer()
    drawn.save(buffer, "PNG")
    ground.alpha_composite(Image.open(io.BytesIO(buffer.data().data())).convert("RGBA"))
    ours, others = (
        np.asarray(one.convert("RGB").crop((0, 0, 800, 560)), int) for one in (ground, theirs)
    )
    assert (np.abs(ours - others).max(axis=2) > 60).mean() < 0.001
