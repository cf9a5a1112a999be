"""Random components, handed over and judged: a moment of `bin/fuzz web`, with seeds that broke it
while it was built."""

import random

import pytest

from tests.core.runtime.test_interaction import submit
from tests.fuzz.pages import playing
from tests.fuzz.web import Maker, judging

pytestmark = pytest.mark.browser

# Variables without units, struts that took gaps, shifts, slots, deep overrides, pushed margins.
SEEDS = (
    1003,
    1005,
    1011,
    1024,
    1042,
    5008,
    5035,
    5044,
    20033,
    20056,
    20059,
    20069,
    20102,
    7032,
    7064,
    7122,
    7140,
    7215,
    8049,
    8153,
    8219,
)


def test_random_components_stand_and_look_as_ours_do():
    told = {}
    with judging() as judge:
        for seed in SEEDS:
            found = judge.differences(Maker(random.Random(seed)).document())
            if found:
                told[seed] = found[0]
    assert not told


# Parts that come from nothing, a screen's own cues and timers, the focus inside of one element,
# part motions, a padding that was lost, letters that came late, springs changed at once, a still
# pointer, ends that rounding moved, words that come back while they fade.
PLAYED = (
    101,
    105,
    108,
    114,
    120,
    123,
    124,
    126,
    128,
    129,
    138,
    145,
    156,
    161,
    180,
    186,
    200,
    207,
    1004,
    1026,
    1032,
)


def test_random_behaviour_is_played_as_live_plays_it():
    with playing() as judge:
        told = {seed: judge.differences(seed) for seed in PLAYED}
    assert not {seed: what for seed, what in told.items() if what}


def test_what_disables_itself_is_off_at_that_instant_in_the_page_too():
    document = submit(screen_name="hall")
    deeds = [("move", 20, 10, 0), ("tap", 20, 10, 200), ("tap", 20, 10, 40), ("move", 100, 150, 400),
             ("move", 20, 10, 400), ("tap", 20, 10, 200)]  # fmt: skip
    with playing() as judge:
        assert judge.played(document, deeds, "submit") is None
