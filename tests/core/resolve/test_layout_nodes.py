"""What layout reads of a node: what it asks for, what its children ask for, and its limits; of a
long list after an edit the same as from nothing."""

import pytest

from demo.drawing import box, grow, image, text
from outgrowth.core.document.records import Document, Screen
from outgrowth.core.document.values import Picture, Size
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import FOLLOWS, LONG, MOVED, PUSHES, RELATIVE


class Laid:
    """One screen, resolved again after each edit by the same resolver."""

    def __init__(self, root):
        self.document = add_screen(Document("d"), Screen("s", "S", root))
        self.resolver = Resolver()

    def layout(self):
        return self.resolver.screen(self.document, self.document.screens["s"]).layout

    def set(self, node, **values):
        said = {name.replace("_", "-"): value for name, value in values.items()}
        self.document = set_properties(self.document, Place("s", (node,)), said)


@pytest.fixture
def laid():
    return Laid


def long_list(count=LONG + 5, **style):
    rows = [box(f"r{n}", width=20 + n % 7, height=4) for n in range(count)]
    return box("list", *rows, flow="column", gap=2, **style)


def test_what_a_long_list_asks_of_layout_is_what_it_would_from_nothing(laid):
    made = laid(long_list())
    assert (made.layout().holds, made.layout().floats) == (0, False)
    for node, style, bit in (
        ("r1", {"push-left": True}, PUSHES),
        ("r2", {"offset-x": 4.0}, MOVED),
        ("r3", {"min-width": Size("percent", 20.0)}, RELATIVE),
    ):
        made.set(node, **style)
        layout = made.layout()
        anew = laid(made.document.screens["s"].root).layout()
        assert layout.holds & bit and layout.deep & bit
        assert (layout.holds, layout.deep, layout.floats) == (anew.holds, anew.deep, anew.floats)
    made.set("r4", floating=True)
    assert made.layout().floats
    made.set("r4", floating=False)
    assert not made.layout().floats, "a list forgets what floated in it"


def test_the_least_and_most_of_a_side_count_the_padding_of_what_arranges(laid):
    def limits(**style):
        layout = laid(box("r", box("part", **style))).layout().children[0]
        return layout.across, layout.down

    infinite = float("inf")
    assert limits() == ((0, infinite), (0, infinite))
    assert limits(padding=(3, 8)) == ((16, infinite), (6, infinite))
    assert limits(padding=(3, 8), min_width=10, max_width=90)[0] == (16, 90)
    assert limits(padding=(3, 8), min_width=30)[0] == (30, infinite)
    assert limits(padding=(3, 8), flow="free") == ((0, infinite), (0, infinite))
    inside = laid(box("r", text("part", "Skerry", min_width=10))).layout().children[0]
    assert inside.across == (10, infinite), "words have no padding"


def test_a_picture_asks_its_holder_for_the_width_that_its_height_brings(laid):
    picture = Picture("a" * 64, 40.0, 20.0)
    made = laid(box("r", image("part", picture, height=grow), flow="row", height=60))
    assert made.layout().children[0].asks & FOLLOWS
