"""The keyboard patterns of WAI-ARIA's Authoring Practices, one table for each pattern that the
demo's parts have. Source: WAI-ARIA Authoring Practices Guide 1.2, "Keyboard Interaction"."""

import pytest

SPACE = " "


def focused(run, ferry, screen, *path):
    """A running screen whose focus stands on a part."""
    runtime = run(ferry, screen)
    for _ in range(40):
        runtime.key("Tab")
        if runtime.focus == path:
            return runtime
    raise AssertionError(f"Tab never comes to {path}")


# Pattern: Button. Enter and Space activate.
@pytest.mark.parametrize(("key", "shown"), [("Enter", "fares"), (SPACE, "fares"), ("a", "booking")])
def test_button(run, ferry, key, shown):
    runtime = run(ferry, "fares")
    runtime.tap("fare-0", "buy")
    runtime.advance(500)
    for _ in range(40):
        runtime.key("Tab")
        if runtime.focus == ("done",):
            break
    runtime.key(key)
    assert runtime.shown_owner == shown


# Pattern: Checkbox. Space changes the state; Enter does not. Mixed becomes on.
@pytest.mark.parametrize(
    ("keys", "checked"),
    [([SPACE], "on"), ([SPACE, SPACE], "off"), (["Enter"], "off"), (["ArrowDown"], "off")],
)
def test_checkbox(run, ferry, keys, checked):
    runtime = focused(run, ferry, "booking", "bicycle")
    for key in keys:
        runtime.key(key)
    assert runtime.value("checked", "bicycle") == checked


# Pattern: Switch. Space, and optionally Enter, changes the state.
@pytest.mark.parametrize(("key", "on"), [(SPACE, "yes"), ("Enter", "yes"), ("ArrowRight", "no")])
def test_switch(run, ferry, key, on):
    runtime = focused(run, ferry, "booking", "quiet")
    runtime.key(key)
    assert runtime.value("on", "quiet") == on


# Pattern: Radio Group. Tab comes to the checked one; arrows move focus and check, and wrap;
# Tab leaves the group.
@pytest.mark.parametrize(
    ("keys", "chosen"),
    [
        ([], 0),
        (["ArrowDown"], 1),
        (["ArrowRight", "ArrowRight"], 2),
        (["ArrowUp"], 2),
        (["ArrowLeft", "ArrowDown"], 0),
    ],
)
def test_radio_group(run, ferry, keys, chosen):
    runtime = focused(run, ferry, "booking", "seat-0")
    for key in keys:
        runtime.key(key)
    values = [runtime.value("chosen", f"seat-{n}") for n in range(3)]
    assert values == ["yes" if n == chosen else "no" for n in range(3)]
    assert runtime.focus == (f"seat-{chosen}",)
    runtime.key("Tab")
    assert runtime.focus == ("name",)
    runtime.key("Tab", shift=True)
    assert runtime.focus == (f"seat-{chosen}",), "back to the one that is chosen"


# Pattern: Tabs. Tab comes to the active tab; Left and Right move and activate, and wrap; Home
# and End go to the ends; Up and Down do nothing in a horizontal list.
@pytest.mark.parametrize(
    ("keys", "day"),
    [
        ([], "today"),
        (["ArrowRight"], "tomorrow"),
        (["ArrowLeft"], "weekend"),
        (["End"], "weekend"),
        (["End", "Home"], "today"),
        (["ArrowDown"], "today"),
    ],
)
def test_tabs(run, ferry, keys, day):
    runtime = focused(run, ferry, "booking", "days", "tab-today")
    for key in keys:
        runtime.key(key)
    assert runtime.value("day", "days") == day
    assert runtime.focus == ("days", f"tab-{day}")
    assert runtime.value("selected", "days", f"tab-{day}") == "yes"


# Pattern: Disclosure. Enter and Space show and hide.
@pytest.mark.parametrize("key", ["Enter", SPACE])
def test_disclosure(run, ferry, key):
    runtime = focused(run, ferry, "help", "notice-1", "head")
    runtime.key(key)
    assert runtime.value("open", "notice-1") == "yes"
    runtime.key(key)
    assert runtime.value("open", "notice-1") == "no"


def test_focus_follows_the_tree_and_comes_around(run, ferry):
    runtime = run(ferry, "help")
    seen = []
    for _ in range(6):
        runtime.key("Tab")
        seen.append(runtime.focus)
    heads = [(f"notice-{n}", "head") for n in range(3)]
    assert seen == [("header", "back"), ("find", "go"), *heads, ("header", "back")]
    runtime.key("Tab", shift=True)
    assert runtime.focus == heads[-1]


def test_a_text_field_wears_its_focus(run, ferry):
    runtime = focused(run, ferry, "booking", "name")
    assert runtime.value("focus", "name") == "focus"
    runtime.key("Tab")
    assert runtime.value("focus", "name") == "rest"


def test_a_press_takes_the_focus(run, ferry):
    runtime = run(ferry, "booking")
    runtime.tap("name", "frame")
    assert runtime.focus == ("name",)
