"""What clears the edges of a device: on a phone it has more padding, elsewhere it is as it was."""

import msgspec
import pytest
from immutables import Map

from outgrowth.core.document.records import Document, Node, Rule, Screen
from outgrowth.core.document.values import GROW, fixed
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.layout import Layout
from outgrowth.core.text import Typesetter
from outgrowth.core.trials.contents import AS_IS
from outgrowth.core.trials.rooms import (
    ALL_ROOMS,
    DEVICE,
    OWN_ROOM,
    SHIPPED_ROOMS,
    room_named,
    rooms_for,
)
from outgrowth.core.trials.sheet import Trial, Trials


def document(clears=True):
    bar = Node("bar", "bar", "box", Map({"width": GROW, "height": fixed(20.0)}))
    style = {"width": fixed(390.0), "flow": "column", "padding-top": 8.0, "padding-left": 16.0}
    root = Node("r", "r", "box", Map(style | ({"clears-edges": True} if clears else {})), (bar,))
    return add_screen(Document("sea"), Screen("s", "Screen", root))


@pytest.mark.parametrize(("room", "top", "height"), [(OWN_ROOM, 8.0, 28.0), (DEVICE, 67.0, 121.0)])
def test_its_padding_grows_by_what_the_device_keeps(fonts, room, top, height):
    found = document()
    owner = found.screens["s"]
    (cell,) = Trials(Layout(Typesetter(fonts))).cells(found, owner, [Trial(Map(), AS_IS, room)])
    assert (cell.placed.ys[0], cell.placed.xs[0], cell.placed.height) == (top, 16.0, height)


def test_the_room_is_offered_where_anything_clears_the_edges():
    assert rooms_for(document()) == ALL_ROOMS
    assert rooms_for(document(False)) == SHIPPED_ROOMS
    held = Node("i", "i", "instance", Map({"component": "bar"}))
    held = msgspec.structs.replace(held, overrides=(Rule(Map(), ("r",), "clears-edges", True),))
    root = msgspec.structs.replace(document(False).screens["s"].root, children=(held,))
    assert rooms_for(add_screen(Document("sea"), Screen("s", "S", root))) == ALL_ROOMS
    assert room_named(DEVICE.id, 0.0) is DEVICE
