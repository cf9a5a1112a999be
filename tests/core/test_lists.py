"""A long list after an edit is what it would be if it were made from nothing."""

from hypothesis import given, settings
from hypothesis import strategies as st

from demo.drawing import box, instance, text
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Component, ComponentProperty, Document, Screen
from outgrowth.core.document.values import GROW, FromProperty, fixed, words
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_property, add_screen
from outgrowth.core.edits.tree.nodes import remove_node
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import LONG
from outgrowth.core.text import Typesetter

ROWS = LONG + 6


def listed():
    """A list of rows, each an instance with words of its own."""
    row = box("row", text("words", FromProperty("words"), width=GROW), padding=(4, 8), width=GROW)
    document = add_component(Document("List"), Component("row", "Row", row))
    said = ComponentProperty("words", "Words", "text", words("Skerry"))
    document = add_property(document, "row", said)
    rows = [instance(f"r{n}", "row", choices={"words": f"Sailing {n}"}) for n in range(ROWS)]
    root = box("list", *rows, flow="column", gap=3, width=160, padding=5)
    return add_screen(document, Screen("list", "List", root))


rows = st.integers(0, ROWS - 1).map(lambda n: Place("list", (f"r{n}",)))
edits = st.one_of(
    st.tuples(rows, st.just(CHOICE + "words"), st.sampled_from([words("a"), words("word " * 30)])),
    st.tuples(rows, st.just("shown"), st.booleans()),
    st.tuples(rows, st.just("order"), st.sampled_from([0.0, 1.0, -1.0])),
    st.tuples(rows, st.just("height"), st.sampled_from([fixed(40.0), GROW])),
    st.tuples(rows, st.just("floating"), st.booleans()),
    st.tuples(rows, st.just("align-self"), st.sampled_from(["end", "baseline"])),
    st.tuples(st.just(Place("list")), st.just("gap"), st.sampled_from([0.0, 7.0])),
    st.tuples(st.just(Place("list")), st.just("mirrored"), st.booleans()),
    st.tuples(st.just(Place("row")), st.just("padding-left"), st.sampled_from([2.0, 30.0])),
    st.tuples(rows, st.just("remove"), st.none()),
)


def edited(document, edit):
    place, name, value = edit
    if name != "remove":
        return set_properties(document, place, {name: value})
    here = any(child.id == place.path[0] for child in document.screens["list"].root.children)
    return remove_node(document, "list", place.path[0]) if here else document


def seen(document, resolver, layout):
    scene = resolver.screen(document, document.screens["list"])
    placed = layout.place(scene.layout)
    fragment = draw(scene, placed)
    found = [(at.path, at.rect) for at in locate(scene, placed, "")]
    marks = [(drawn.mark[:2], drawn.to_root) for drawn in record(fragment)]
    return found, marks, fragment.bounds


@settings(max_examples=60)
@given(st.lists(edits, min_size=1, max_size=7))
def test_edits_one_after_the_other_give_what_the_last_document_gives(fonts, steps):
    resolver, layout = Resolver(), Layout(Typesetter(fonts))
    document = listed()
    seen(document, resolver, layout)
    for step in steps:
        gone = step[0].path and not any(
            child.id == step[0].path[0] for child in document.screens["list"].root.children
        )
        if gone:
            continue
        document = edited(document, step)
        fresh = seen(document, Resolver(), Layout(Typesetter(fonts)))
        assert seen(document, resolver, layout) == fresh


def test_one_row_of_many_is_all_that_is_made_anew(fonts):
    resolver, layout = Resolver(), Layout(Typesetter(fonts))
    document = listed()
    before = resolver.screen(document, document.screens["list"])
    placed = layout.place(before.layout)
    document = edited(document, (Place("list", ("r3",)), CHOICE + "words", words("Sailing 33")))
    after = resolver.screen(document, document.screens["list"])
    changed = [a is not b for a, b in zip(before.children, after.children, strict=True)]
    assert [n for n, other in enumerate(changed) if other] == [3]
    assert layout.place(after.layout).ys is placed.ys
