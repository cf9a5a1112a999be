"""The layout against a real browser: Chromium lays out our exported page by itself."""

import statistics

import pytest
from immutables import Map

from outgrowth.core.document.values import FIT, GROW, Run, fixed, words
from outgrowth.core.document.variants import variants
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.web import page
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import Interner, SceneParts
from outgrowth.core.text import Typesetter

pytestmark = pytest.mark.browser

_READ = """
await_fonts = arguments[arguments.length - 1];
document.fonts.ready.then(() => {
  const found = {};
  for (const node of document.querySelectorAll("[data-at]")) {
    // Untransformed boxes: a scale or a turn has no effect on layout.
    node.style.translate = node.style.rotate = node.style.scale = "none";
  }
  for (const node of document.querySelectorAll("[data-at]")) {
    const r = node.getBoundingClientRect();
    found[node.dataset.at] = [r.x, r.y, r.width, r.height];
  }
  await_fonts(found);
});
"""


def rectangles(placed, at="", x=0.0, y=0.0):
    """Our rectangles by path of child indices."""
    yield at, Rect(x, y, placed.width, placed.height)
    for n, child in enumerate(placed.children):
        path = f"{at}/{n}" if at else str(n)
        yield from rectangles(child, path, x + placed.xs[n], y + placed.ys[n])


@pytest.fixture
def differences(chromium, fonts, tmp_path):
    """By how many px each edge of each node differs from Chromium's."""
    resolver, layout = Resolver(), Layout(Typesetter(fonts))

    def compare(document, owner_id, variant=None):
        if variant is None:
            scene = resolver.screen(document, document.screens[owner_id])
        else:
            scene = resolver.variant(document, owner_id, variant)
        scene, placed = layout.view(scene)
        file = tmp_path / "page.html"
        file.write_text(page(scene, placed, owner_id, document.assets))
        chromium.get(file.as_uri())
        theirs = chromium.execute_async_script(_READ)
        ours = dict(rectangles(placed))
        assert set(ours) == set(theirs)
        return [
            abs(a - b) for at, rect in ours.items() for a, b in zip(rect, theirs[at], strict=True)
        ]

    return compare


# Source: Debian's Chromium (references.md): ≤ 0.5 px each, median ≤ 0.05.
@pytest.mark.parametrize(
    "screen", ["boarding", "desk", "fares", "help", "islands", "before-gathering"]
)
def test_a_screen_is_laid_out_as_in_chromium(differences, ferry, screen):
    found = differences(ferry, screen)
    assert len(found) > 80
    assert max(found) <= 0.5
    assert statistics.median(found) <= 0.05


SHARES = (0.75, 1.3)
"""Two more widths, as shares of the one that a screen or a variant has by itself."""


@pytest.mark.parametrize("screen", ["boarding", "desk", "fares", "help", "before-gathering"])
@pytest.mark.parametrize("share", SHARES)
def test_a_screen_of_another_width_too(differences, ferry, screen, share):
    width = ferry.screens[screen].root.style["width"].amount
    wider = {"width": fixed(round(width * share))}
    found = differences(set_properties(ferry, Place(screen), wider), screen)
    assert max(found) <= 0.5
    assert statistics.median(found) <= 0.05


def test_every_variant_of_every_component_at_three_widths(differences, ferry, fonts):
    found = []
    layout, resolver = Layout(Typesetter(fonts)), Resolver()
    for component in ferry.in_order():
        natural = layout.view(resolver.variant(ferry, component.id, Map()))[1].width
        for share in (1.0, *SHARES):
            size = {} if share == 1.0 else {"width": fixed(round(natural * share))}
            document = set_properties(ferry, Place(component.id), size)
            for variant in variants(component):
                here = differences(document, component.id, variant)
                assert max(here) <= 0.5, (component.name, variant, share)
                found += here
    assert statistics.median(found) <= 0.05


def test_growing_down_a_column_of_known_and_of_fitting_height(differences, ferry):
    tall = {"height": GROW}
    for place in (("crossing",), ("later",), ("actions",)):
        document = set_properties(ferry, Place("boarding", place), tall)
        assert max(differences(document, "boarding")) <= 0.5
        loose = set_properties(document, Place("boarding"), {"min-height": 900.0})
        assert max(differences(loose, "boarding")) <= 0.5


def test_free_boxes_and_odd_values(differences, ferry):
    free = {"flow": "free", "width": fixed(300.0)}
    document = set_properties(ferry, Place("boarding", ("facts",)), free)
    moved = set_properties(document, Place("boarding", ("deck",)), {"x": 80.5, "y": 12.25})
    squeezed = set_properties(moved, Place("boarding", ("actions",)), {"padding-left": 200.0})
    assert max(differences(squeezed, "boarding")) <= 0.5


def test_a_growing_part_of_a_fitting_row(differences, ferry):
    fitting = set_properties(ferry, Place("boarding", ("actions",)), {"width": FIT})
    assert max(differences(fitting, "boarding")) <= 0.5
    least = set_properties(fitting, Place("boarding", ("board",)), {"min-width": 40.0})
    assert max(differences(least, "boarding")) <= 0.5


HEBREW = "שלום מעבורת"  # invented words for the demo, not from a source


def words_in(**style):
    said = {"content": words("The ferry to Skerry leaves at ten"), "font-size": 20.0} | {
        name.replace("_", "-"): value for name, value in style.items()
    }
    return INTERN.scene(
        SceneParts("text", INTERN.layout("text", said, ()), INTERN.paint({"clip": False}))
    )


INTERN = Interner()
TEXTS = (
    words_in(),
    words_in(letter_case="uppercase"),
    words_in(letter_case="capitalize"),
    words_in(font_style="italic"),
    words_in(letter_spacing=1.5),
    words_in(width=fixed(120.0)),
    words_in(width=fixed(120.0), max_lines=2.0),
    words_in(width=fixed(120.0), max_lines=1.0),
    words_in(content=(Run("bold ", bold=True), Run("and "), Run("leaning", italic=True))),
    words_in(content=words("one\ntwo\n\nfour")),
    words_in(content=words(f"{HEBREW} 10:15 Skerry")),
    words_in(content=words(f"To {HEBREW} at 10:15"), width=fixed(90.0)),
)


# Source: Debian's Chromium, the same font files (references.md: ≤ 0.02 px a line, plus its
# rounding of each run's width up to 1/64 px).
def test_texts_are_as_wide_and_high_as_in_chromium(chromium, fonts, tmp_path):
    column = INTERN.layout(
        "box", {"flow": "column", "width": fixed(600.0)}, tuple(t.layout for t in TEXTS)
    )
    ids = tuple(str(n) for n in range(len(TEXTS)))
    root = INTERN.scene(SceneParts("box", column, INTERN.paint({}), TEXTS, ids, ids))
    placed = Layout(Typesetter(fonts)).place(column)
    file = tmp_path / "texts.html"
    file.write_text(page(root, placed, "texts"))
    chromium.get(file.as_uri())
    theirs = chromium.execute_async_script(_READ)
    for n, child in enumerate(placed.children):
        _, _, width, height = theirs[str(n)]
        runs = max(len(line.runs) for line in child.text.lines)
        assert child.width == pytest.approx(width, abs=0.02 + runs / 64), n
        assert child.height == pytest.approx(height, abs=0.02), n


_ASPECTS = (
    {"aspect": 2.0, "width": fixed(80.0)},
    {"aspect": 0.5, "height": fixed(30.0)},
    {"aspect": 1.5, "width": GROW},
    {"aspect": 1.5, "width": fixed(60.0), "align-self": "stretch"},
    {"aspect": 3.0, "width": fixed(60.0), "height": fixed(60.0)},
)


@pytest.mark.parametrize("flow", ["row", "column"])
def test_proportions_are_kept_as_in_chromium(chromium, fonts, tmp_path, flow):
    inner = [INTERN.layout("box", style, ()) for style in _ASPECTS]
    scenes = tuple(INTERN.scene(SceneParts("box", node, INTERN.paint({}))) for node in inner)
    style = {"flow": flow, "width": fixed(400.0), "height": fixed(300.0), "align": "stretch"}
    layout = INTERN.layout("box", style, tuple(inner))
    ids = tuple(str(n) for n in range(len(inner)))
    root = INTERN.scene(SceneParts("box", layout, INTERN.paint({}), scenes, ids, ids))
    placed = Layout(Typesetter(fonts)).place(layout)
    file = tmp_path / "aspects.html"
    file.write_text(page(root, placed, "proportions"))
    chromium.get(file.as_uri())
    theirs = chromium.execute_async_script(_READ)
    for at, rect in rectangles(placed):
        assert tuple(rect) == pytest.approx(theirs[at], abs=0.1), at


@pytest.mark.parametrize("style", ["margin", "floating", "both"])
def test_what_stands_alone_lies_at_the_corner_whatever_it_would_do_in_a_holder(
    differences, ferry, style
):
    said = {"floating": True, "pin-x": "end", "x": 30.0, "right": 20.0, "y": 15.0}
    if style != "floating":
        said = ({} if style == "margin" else said) | {"margin-left": 24.0, "margin-top": -8.0}
    document = set_properties(ferry, Place("notice", ()), said)
    for variant in variants(document.components["notice"]):
        assert max(differences(document, "notice", variant)) <= 0.5
