"""Cards that line up with the grid around them, as elements and on the page."""

from tests.fuzz import cards
from tests.fuzz.web import judging
from tests.fuzz.whole import WholeJudge

# Gaps of nothing in a grid with gaps, a variant that lines up otherwise, one in another.
SEEDS = (3, 5, 8, 9, 33, 55)


def test_random_cards_in_grids_stand_as_ours_do_in_both_directions():
    told = {}
    with judging() as judge:
        whole = WholeJudge(judge)
        for seed in SEEDS:
            document = cards.made(seed)
            told[seed] = whole.differences(document) + whole.differences(document, True)
    assert {seed: wrong for seed, wrong in told.items() if wrong} == {}
