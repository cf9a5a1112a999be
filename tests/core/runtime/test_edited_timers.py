"""What waits for a time while the document is edited: it goes on, and ends with its cue."""

import random

import msgspec
import pytest

from outgrowth.core.edits.tree.trees import with_owner


def without_delays(document, component):
    owner = document.components[component]
    cues = tuple(cue for cue in owner.behaviour.cues if cue.trigger.kind != "delay")
    assert len(cues) < len(owner.behaviour.cues)
    behaviour = msgspec.structs.replace(owner.behaviour, cues=cues)
    return with_owner(document, msgspec.structs.replace(owner, behaviour=behaviour))


@pytest.mark.parametrize("seed", range(6))
def test_a_cue_that_is_taken_away_while_it_waits_does_nothing(run, ferry, seed):
    """The tabs would go on to the next day; the ring inside each still has its own times."""
    chance = random.Random(seed)
    runtime = run(ferry, "booking")
    runtime.advance(chance.randint(0, 5_900))
    first = runtime.value("day", "days")
    edited = without_delays(ferry, "day-tabs")
    runtime.update(edited)
    for _ in range(10):
        runtime.advance(chance.randint(100, 3_000))
        assert runtime.value("day", "days") == first
    runtime.update(ferry)  # it is back: it waits anew
    runtime.advance(5_000)
    assert runtime.value("day", "days") == first
    runtime.advance(2_000)
    assert runtime.value("day", "days") != first


def test_an_edit_of_something_else_lets_the_time_go_on(run, ferry):
    runtime = run(ferry, "booking")
    first = runtime.value("day", "days")
    for n in range(5):
        runtime.advance(1_000)
        runtime.update(msgspec.structs.replace(ferry, name=f"Ferry {n}"))
    assert runtime.value("day", "days") == first
    runtime.advance(1_500)
    assert runtime.value("day", "days") != first
