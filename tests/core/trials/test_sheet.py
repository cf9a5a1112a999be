"""Sheets of trials: what is remembered, the narrowest width, and what a file keeps of them."""

import random

import msgspec
import pytest

from demo import ferry_line
from outgrowth.core.document.keeping import NOTHING
from outgrowth.core.edits.keeping import keep_check
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.layout import Layout
from outgrowth.core.text import Typesetter
from outgrowth.core.trials.contents import AS_IS, SHIPPED, own
from outgrowth.core.trials.rooms import (
    LARGE_TEXT,
    NARROW,
    OWN_ROOM,
    SHIPPED_ROOMS,
    SPACED_TEXT,
    wide,
)
from outgrowth.core.trials.sheet import (
    Trial,
    Trials,
    all_trials,
    kept,
    trial_of,
    used_widths,
)
from tests.fuzz.edits import World

DEMO = ferry_line()


def told(cell):
    return cell.placed.width, cell.placed.height, cell.breaks


@pytest.mark.parametrize("seed", range(4))
def test_what_is_remembered_is_what_is_drawn_from_nothing(fonts, layout, seed):
    """After random edits, in random order of the trials."""
    chance = random.Random(seed)
    world, together = World(seed, DEMO), Trials(layout)
    for step in range(6):
        list(world.step(step))
        document = world.document
        owner = chance.choice(list(document.owners()))
        trials = all_trials(document, owner, SHIPPED, SHIPPED_ROOMS)
        for trial in chance.sample(trials, min(len(trials), 12)):
            alone = Trials(Layout(Typesetter(fonts))).cell(document, owner, trial)
            cell = together.cell(document, owner, trial)
            assert (cell is None) == (alone is None)
            assert cell is None or told(cell) == told(alone)


@pytest.mark.parametrize("owner", ["fare-card", "app-header", "notice", "timetable-row", "help"])
def test_at_the_narrowest_width_it_holds_and_a_px_below_it_does_not(layout, owner):
    trials, owner = Trials(layout), DEMO.owner(owner)
    face = all_trials(DEMO, owner, [AS_IS], [OWN_ROOM])[0].variant
    for content in (AS_IS, SHIPPED[3], SHIPPED[7]):
        width = trials.narrowest(DEMO, owner, Trial(face, content, OWN_ROOM))
        if not width:
            continue
        at_it = trials.cell(DEMO, owner, Trial(face, content, wide(width)))
        below = trials.cell(DEMO, owner, Trial(face, content, wide(width - 1)))
        assert not at_it.new and below.new


# Source: WCAG 2.2, success criteria 1.4.4 (200 %), 1.4.12 (1.5 lines, 0.12 and 0.16 of the size).
def test_text_is_enlarged_and_spaced_as_the_criteria_say(layout):
    trials, button = Trials(layout), DEMO.components["button"]
    face = all_trials(DEMO, button, [AS_IS], [OWN_ROOM])[0].variant

    def label(room):
        scene = trials.cell(DEMO, button, Trial(face, AS_IS, room)).scene
        return next(c.layout.style for c in scene.children if c.kind == "text")

    usual, large, spaced = label(OWN_ROOM), label(LARGE_TEXT), label(SPACED_TEXT)
    assert large.font_size == 2 * usual.font_size
    assert spaced.line_height >= 1.5
    words = "Board now"
    least = (0.12 * len(words) + 0.16) * usual.font_size
    assert (spaced.letter_spacing - usual.letter_spacing) * len(words) >= least - 1e-6
    assert NARROW.width == 320


def test_a_part_is_tried_at_the_widths_at_which_it_stands(layout):
    assert used_widths(DEMO, DEMO.components["notice"], layout) == [358.0]
    assert used_widths(DEMO, DEMO.components["icon-anchor"], layout)


def test_a_kept_trial_is_the_same_trial_from_the_file(layout):
    card = DEMO.components["fare-card"]
    row = own("Night", {"name": "Night ferry", "price": "31"})
    trials = all_trials(DEMO, card, [SHIPPED[3], row], [OWN_ROOM, LARGE_TEXT, wide(188.5)])
    document = msgspec.structs.replace(DEMO, keeping=NOTHING)
    for trial in trials:
        document = keep_check(document, kept(card, trial))
    again = loads(dumps(document).encode(), "again")
    assert again == document
    found = [trial_of(again, check) for check in again.keeping.checks]
    assert {told(Trials(layout).cell(again, *one)) for one in found} == {
        told(Trials(layout).cell(DEMO, card, trial)) for trial in trials
    }


def test_a_kept_trial_of_what_is_gone_tries_nothing():
    card = DEMO.components["fare-card"]
    check = kept(
        card, Trial(all_trials(DEMO, card, [AS_IS], [OWN_ROOM])[0].variant, AS_IS, OWN_ROOM)
    )
    for field, value in (("owner", "gone"), ("content", "gone"), ("room", "gone")):
        assert trial_of(DEMO, msgspec.structs.replace(check, **{field: value})) is None
