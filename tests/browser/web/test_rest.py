"""Exported elements at rest, beside our own layout. Source: Debian's Chromium (references.md)."""

import statistics

import pytest

from outgrowth.core.document.variants import variants
from outgrowth.core.resolve.resolver import Resolver
from tests.browser.web.elements import (
    READ,
    SHOW,
    attributes_of,
    compared,
    page_of_elements,
    worst,
)

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
            theirs = elements.execute_script(
                "const element = document.body.firstElementChild.firstElementChild;"
                "untransformed(element); return treeOf(element);"
            )
            scene = Resolver().variant(ferry_once, component.id, variant)
            found += compared(scene, layout_once.place(scene.layout), theirs, path=component.name)
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
