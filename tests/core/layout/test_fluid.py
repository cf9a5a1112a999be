"""Letters that grow with the room: of the screen, of the nearest part that asks for its room."""

import msgspec
import pytest
from immutables import Map

from outgrowth.core.document.records import Component, Document, Node, Screen
from outgrowth.core.document.rooms import refuse_circle
from outgrowth.core.document.values import FIT, GROW, fixed, words
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver

GROWING = {"content": words("Skerry"), "font-size": 10.0, "fluid-size": 30.0}
GROWING |= {"fluid-from": 200.0, "fluid-until": 400.0}


def board(width=GROW):
    text = Node("title", "title", "text", Map(GROWING))
    return Component("board", "Board", Node("root", "root", "box", Map({"width": width}), (text,)))


def screen(room, **said):
    holder = Node("board", "board", "instance", Map({"component": "board"} | said))
    loose = Node("loose", "loose", "text", Map(GROWING))
    style = Map({"width": fixed(room), "flow": "column", "padding-left": 50.0})
    return Screen("s", "S", Node("s-root", "s", "box", style, (holder, loose)))


def sizes(layout, document):
    """The letters of the board and those that lie on the screen beside it (px)."""
    scene, _ = layout.view(Resolver().screen(document, document.screens["s"]))
    board_scene, loose = scene.children
    return board_scene.children[0].layout.style.font_size, loose.layout.style.font_size


@pytest.mark.parametrize(
    ("width", "letters"),
    [(100.0, 10.0), (250.0, 10.0), (350.0, 20.0), (450.0, 30.0), (900.0, 30.0)],
)
def test_letters_on_a_screen_grow_with_its_inside(layout, width, letters):
    document = add_screen(add_component(Document("d"), board()), screen(width))
    assert sizes(layout, document) == (letters, letters)


def test_letters_of_a_part_grow_with_what_its_holder_gives_it(layout):
    document = add_component(Document("d"), board())
    document = add_screen(document, screen(450.0, width=fixed(250.0)))
    assert sizes(layout, document) == (15.0, 30.0)


def test_what_was_laid_out_and_what_is_shown_have_one_size(layout):
    document = add_screen(add_component(Document("d"), board()), screen(350.0))
    scene, placed = layout.view(Resolver().screen(document, document.screens["s"]))
    set_text = placed.children[1].text
    assert set_text is not None
    shown = scene.children[1].layout.style
    assert set_text.height == pytest.approx(shown.font_size * shown.line_height)


def test_where_both_rooms_are_one_the_letters_leap_over_a_px(layout):
    root = screen(350.0).root
    loose = msgspec.structs.replace(root.children[1], style=Map(GROWING | {"fluid-until": 200.0}))
    tree = msgspec.structs.replace(root, children=(root.children[0], loose))
    document = add_screen(add_component(Document("d"), board()), Screen("s", "S", tree))
    assert sizes(layout, document)[1] == 30.0


def test_a_part_that_fits_its_letters_has_no_room_that_they_could_grow_with():
    with pytest.raises(Refusal, match="as wide as what is in it"):
        refuse_circle(board(width=FIT))
    document = add_screen(add_component(Document("d"), board()), screen(350.0))
    with pytest.raises(Refusal, match="letters that grow"):
        set_properties(document, Place("s", ("s-root",)), {"width": FIT})
    with pytest.raises(Refusal, match="letters that grow"):
        set_properties(document, Place("board", ("root",)), {"width": FIT})
