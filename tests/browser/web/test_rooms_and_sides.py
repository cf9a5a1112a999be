"""Parts whose room decides what they are, and pages from right to left, beside our own layout: a
moment of `bin/fuzz rooms` and `bin/fuzz sides`, and all screens of the demo. Source: Debian's
Chromium (references.md)."""

import pytest

from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.resolver import Resolver
from tests.browser.web.elements import READ, compared, page_of_elements, worst
from tests.fuzz import rooms, sides
from tests.fuzz.rooms import AT, SHOW, RoomJudge
from tests.fuzz.web import judging
from tests.fuzz.whole import WholeJudge

pytestmark = pytest.mark.browser

# Padding in no room, a root that mirrors, variables of a mode, one in another, characters.
ROOMS = (103, 107, 117, 123, 1000, 1001, 1002, 1003)
# Sides of what is mirrored, of what a slot holds, of what floats between two edges.
SIDES = (12, 18, 24, 101, 121, 301, 325)


def test_random_parts_in_random_rooms_stand_as_ours_do():
    with judging(judge=RoomJudge) as judge:
        told = {seed: judge.differences(rooms.made(seed)) for seed in ROOMS}
    assert {seed: wrong for seed, wrong in told.items() if wrong} == {}


def test_random_screens_by_lines_stand_as_ours_do_in_both_directions():
    told = {}
    with judging() as judge:
        whole = WholeJudge(judge)
        for seed in SIDES:
            document = sides.made(seed)
            told[seed] = whole.differences(document) + whole.differences(document, True)
    assert {seed: wrong for seed, wrong in told.items() if wrong} == {}


def test_every_screen_of_the_demo_from_right_to_left(ferry_once):
    with judging() as judge:
        assert WholeJudge(judge).differences(ferry_once, right_to_left=True) == []


@pytest.mark.parametrize("owner", ["crossing", "crossing-list"])
def test_the_demos_parts_change_where_lives_edge_does(
    owner, chromium, handed, ferry_once, layout_once
):
    names = handed.made.names.owners[owner]
    page_of_elements(handed.folder, "rooms-page", [names.element])
    chromium.get(f"{handed.address}rooms-page.html")
    chromium.execute_script(READ)
    chromium.execute_async_script(SHOW, names.element)
    scene = Resolver().instance(ferry_once, InstanceInput(owner))
    shown = set()
    for width in (260.0, 419.0, 420.0, 679.0, 680.0, 1000.0, 300.0):
        theirs = chromium.execute_async_script(AT, width, 0)
        ours, placed = layout_once.in_room(scene, width)
        found = compared(ours, placed, theirs, path=owner)
        assert worst(found).size <= 0.5, (width, worst(found))
        shown.add(ours.variant["room"])
    assert len(shown) == 2


def test_a_page_says_which_room_it_is_in_only_where_something_asks(ferry_once, layout_once):
    made = hand_over(ferry_once, layout_once)
    script = made.files["components/hs-crossing.js"].decode()
    assert "@container hs-crossing (width >= 420px)" in script
    assert 'room: "--' not in script, "its looks are the style sheet's alone"
