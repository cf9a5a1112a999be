"""Random components, handed over and judged: a moment of `bin/fuzz web`, with seeds that broke it
while it was built."""

import random

import pytest
from immutables import Map

from demo.behaviours import turned, with_cue
from demo.drawing import box, instance, text
from demo.ferry import ferry_line
from outgrowth.core.color import parse
from outgrowth.core.document.cues import Cue, Trigger
from outgrowth.core.document.properties import ROLES
from outgrowth.core.document.records import Axis, AxisValue, Component, DesignToken, Document
from outgrowth.core.document.values import fixed
from outgrowth.core.edits.cues import add_cue, set_led
from outgrowth.core.edits.tokens import set_token
from outgrowth.core.edits.tree.components import add_axis, add_component
from tests.core.runtime.parts import part, screen, styled
from tests.core.runtime.test_inner_motion import named, tabs
from tests.core.runtime.test_interaction import submit
from tests.fuzz.behaviour import Behaviour, key_at
from tests.fuzz.pages import playing
from tests.fuzz.web import Maker, judging
from tests.fuzz.whole import WholeJudge, WholeMaker

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


# Screens with an arrangement of their own, slots filled from inside and outside, spaces between
# words, what a screen brings when it goes out alone, shapes that a holder lets fit.
WHOLE = (2, 4, 5, 7, 11, 21, 102, 132, 136, 144, 188, 1007, 5041, 5145)


def test_random_screens_made_of_the_elements_stand_and_look_as_ours_do():
    told = {}
    with judging() as judge:
        for seed in WHOLE:
            found = WholeJudge(judge).differences(WholeMaker(random.Random(seed)).document())
            if found:
                told[seed] = found[0]
    assert not told


def test_a_page_from_right_to_left_mirrors_what_is_not_said_left_or_right():
    """The demo's screens, and random ones, beside our own layout of what is turned."""
    told = {}
    with judging() as judge:
        documents = {"demo": ferry_line()}
        documents |= {n: WholeMaker(random.Random(n)).document() for n in range(1, 9)}
        for name, document in documents.items():
            found = WholeJudge(judge).differences(document, right_to_left=True)
            if found:
                told[name] = found[0]
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
    # Inner parts' own motion; what goes away in a page: its look, its place, the pointer behind it.
    9012,
    9019,
    9047,
    9056,
    9121,
    9150,
    9236,
    9326,
    # The focus from an element to what is in it; fading words under the pointer.
    71018,
    71011,
    71013,
    # Words that turn around while they fade, in a group too; the same words in more lines; what is
    # hidden in what goes; the focus in what was hidden at first.
    9335,
    9341,
    30010,
    30113,
    30178,
    50124,
)


def test_random_behaviour_is_played_as_live_plays_it():
    with playing() as judge:
        told = {seed: judge.differences(seed) for seed in PLAYED}
    assert not {seed: what for seed, what in told.items() if what}


def test_a_page_from_right_to_left_is_played_as_live_plays_what_is_turned():
    """A moment of it: what moves there, and is changed while it moves, is mirrored too."""
    told = {}
    with playing() as judge:
        for seed in range(74_000, 74_012):
            case = Behaviour(seed)
            told[seed] = judge.played(case.document, case.deeds, str(seed), right_to_left=True)
    assert not {seed: what for seed, what in told.items() if what}


def test_what_disables_itself_is_off_at_that_instant_in_the_page_too():
    document = submit(screen_name="hall")
    deeds = [("move", 20, 10, 0), ("tap", 20, 10, 200), ("tap", 20, 10, 40), ("move", 100, 150, 400),
             ("move", 20, 10, 400), ("tap", 20, 10, 200)]  # fmt: skip
    with playing() as judge:
        assert judge.played(document, deeds, "submit") is None


def test_inner_parts_move_as_they_say_and_what_was_hidden_appears_as_it_should_be():
    """The tab in 160 ms, its ring in 1,000; back and forth on the way, led, and hidden at first."""
    deeds = [
        ("move", 10.0, 10.0, 0.0),
        *[("tap", 10.0, 10.0, wait) for wait in (50.0, 100.0, 500.0)],
    ]
    deeds += [("leave", 0.0, 0.0, 40.0), ("move", 200.0, 200.0, 900.0), ("leave", 0.0, 0.0, 400.0)]
    plain = with_cue(tabs(), "tab", "tap", turned("open"), node=("head",))
    hidden = styled(plain, "tab", ("r",), {"open": "no"}, shown=False)
    with playing() as judge:
        for name, document in (
            ("plain", plain),
            ("led", set_led(plain, "tab", ("r",), True)),
            ("silent", with_cue(tabs(own=None), "tab", "tap", turned("open"), node=("head",))),
            ("hidden", hidden),
        ):
            assert judge.played(document, deeds, name) is None, name


def test_states_of_any_name_are_heard_in_a_page_as_in_live():
    deeds = [
        (kind, 8.0, 8.0, 30.0)
        for kind in ("move", "press", "release", "leave", "move", "tap", "leave", "move")
    ]
    shades = {"v1": "#1971c2", "v2": "#d9480f", "v3": "#2b8a3e"}
    with playing() as judge:
        for n, parts in enumerate(
            (
                (("Default", "rest"), ("Over", "hover"), ("Down", "press"), ("Da", "focus")),
                (("Hover", "rest"), ("Rest", "hover"), ("x", "press"), ("press", "cued")),
                (("A", "disabled"), ("B", "rest"), ("C", "hover"), ("D", "press")),
            )
        ):
            document, _ = named(*parts, start=n // 2)
            for value, fill in shades.items():
                document = styled(document, "b", (), {"look": value}, fill=parse(fill))
            assert judge.played(document, deeds, f"named{n}") is None, parts


def test_what_is_tapped_is_tapped_by_keys_in_a_page_as_in_live():
    """Of every role, as a component and as a plain part; Tab to each, then its keys."""
    document, held = Document("Things"), []
    for role in ROLES:
        for whole in (True, False):
            name = f"{role}-{'whole' if whole else 'part'}"
            face = box("face", width=40, height=10, role="none" if whole else role)
            root = box(name, face, role=role if whole else "none", fill="#cccccc")
            document = part(document, name, root, at=("one", "two"))
            document = styled(document, name, ("face",), {"at": "two"}, width=fixed(60.0))
            more = {} if whole else {"node": ("face",)}
            document = with_cue(document, name, "tap", turned("at"), **more)
            held.append(instance(f"i-{name}", name))
    document = screen(document, "hall", *held, flow="column", width=200, height=400)
    keys = [("key", 0.0, float(n), 30.0) for n in (0, 1, 2)]
    assert [key_at(y) for _, _, y, _ in keys] == ["Tab", "Enter", " "]
    with playing() as judge:
        assert judge.played(document, keys * len(held), "tapped") is None


MEANT = {
    "checked": ("switch", "aria-checked"),
    "pressed": ("button", "aria-pressed"),
    "selected": ("tab", "aria-selected"),
    "expanded": ("button", "aria-expanded"),
    "invalid": ("checkbox", "aria-invalid"),
    "required": ("checkbox", "aria-required"),
    "read-only": ("checkbox", "aria-readonly"),
    "busy": ("none", "aria-busy"),
    "current": ("link", "aria-current"),
}


@pytest.mark.parametrize("meaning", MEANT)
def test_what_an_axis_means_is_told_whatever_its_values_are_called(meaning):
    """Source: Chromium's own reading of WAI-ARIA 1.2: the attribute as the page has it."""
    role, attribute = MEANT[meaning]
    values = (AxisValue("a", "nein", part="no"), AxisValue("b", "ja", part="yes"))
    axis = Axis("so", "So", values, "a", "none", meaning)
    root = box("b", text("words", "Book"), role=role, width=40, height=20)
    document = add_component(Document("Meant"), Component("b", "B", root))
    document = add_axis(document, "b", axis)
    document = with_cue(document, "b", "tap", turned("so"))
    style = {"flow": "column"} | ({"role": "tablist"} if role == "tab" else {})
    document = screen(document, "hall", instance("one", "b"), **style)
    said = []
    with playing() as judge:
        judge.looked = lambda: said.append(
            judge._driver.execute_script(
                "return document.querySelector('#one').getAttribute(arguments[0])", attribute
            )
        )
        deeds = [("move", 5.0, 5.0, 10.0), ("tap", 5.0, 5.0, 10.0)]
        assert judge.played(document, deeds, meaning) is None
    yes = "page" if attribute == "aria-current" else "true"
    assert said == ([None, yes] if attribute == "aria-current" else ["false", yes])


def test_a_wait_and_a_long_press_take_as_long_as_their_tokens_say():
    document = tabs(own=None)
    document = set_token(document, "wait.short", DesignToken("duration", 240.0))
    document = set_token(document, "hold.long", DesignToken("duration", 900.0))
    wait = Cue(
        "w", (), Trigger("delay", ms=5.0, token="wait.short"), (turned("open"),), Map(open="no")
    )
    hold = Cue("h", ("head",), Trigger("long-press", token="hold.long"), (turned("open"),))
    deeds = [("leave", 0.0, 0.0, wait) for wait in (200.0, 100.0, 300.0)]
    held = [("move", 8.0, 8.0, 0.0), ("press", 8.0, 8.0, 10.0), *[("move", 8.0, 9.0, 400.0)] * 3]
    with playing() as judge:
        assert judge.played(add_cue(document, "tab", wait), deeds, "wait") is None
        assert judge.played(add_cue(document, "tab", hold), held, "hold") is None


def test_tab_reaches_what_was_hidden_at_first_and_no_more_what_went():
    document = part(Document("Keys"), "key", box("key", width=40, height=20), focus=("no", "focus"))
    document = styled(document, "key", (), {"focus": "focus"}, fill=parse("#d9480f"))
    body = box("body", instance("a", "key"), instance("b", "key"), flow="column")
    root = box("door", box("head", width=40, height=20, role="button"), body, flow="column")
    document = part(document, "door", root, open=("no", "yes"))
    document = styled(document, "door", ("body",), {"open": "no"}, shown=False)
    document = with_cue(document, "door", "tap", turned("open"), node=("head",))
    document = screen(document, "hall", instance("d", "door"), instance("z", "key"), flow="column")
    tap, tab = ("tap", 8.0, 8.0, 300.0), ("tab", 0.0, 0.0, 50.0)
    with playing() as judge:
        deeds = [tab, tab, tap, tab, tab, tab, tap, tab, tab]
        assert judge.played(document, deeds, "hidden keys") is None
