"""Exported behaviour against our own, by the real pointer and keys, at eleven instants.

Animations are held and set to a time, timers go by the same time: nothing sleeps. Source:
Debian's Chromium; what has to agree is in references.md (≤ 0.5 px, ≤ 2 levels of 255).
"""

from __future__ import annotations

import statistics

import pytest
from selenium.webdriver import ActionChains

from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from tests.browser.web.side_by_side import KEYS, Both, held, opened
from tests.core.runtime.test_scripts import SCRIPTS

pytestmark = pytest.mark.browser


@pytest.fixture
def stage(chromium, handed, ferry_once, layout_once):
    """Runs a screen here and in Chromium, side by side."""
    script = held(chromium)

    def begin(screen):
        name = handed.made.names.owners[screen].element
        opened(chromium, f"{handed.address}screens/{name}.html")
        runtime = Runtime(Resolver(), layout_once, ferry_once, Subject(screen))
        return Both(chromium, runtime, handed.made.names, ferry_once)

    yield begin
    chromium.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", script)


def agreed(both):
    assert not both.told, both.told[:5]
    assert statistics.median(both.compared.edges) <= 0.05


_STAYING = [name for name in SCRIPTS if name != "to another screen and back"]


@pytest.mark.parametrize("name", _STAYING)
def test_a_script_looks_the_same_at_eleven_instants(stage, name):
    screen, deeds, _ = SCRIPTS[name]
    both = stage(screen)
    both.look("start")
    for n, (kind, where) in enumerate(deeds):
        both.do(kind, where)
        both.advance(40)
        both.look(f"after {n}")
    for n in range(11):
        both.advance(32)
        both.look(f"{n}")
    both.advance(1200)
    both.look("rest")
    agreed(both)


def test_what_turns_around_on_its_way_goes_on_from_what_is_seen(stage):
    both = stage("help")
    for wait in (90, 60, 130, 40, 350):
        both.do("tap", "notice-1/head")
        both.do("tap", "notice-2/head")
        for n in range(4):
            both.advance(wait / 4)
            both.look(f"{wait} {n}")
    agreed(both)


def test_six_seconds_of_a_tab_that_goes_on_by_itself(stage):
    both = stage("booking")
    for n in range(26):
        both.advance(250)
        both.look(f"{n}")
    agreed(both)


FOCUSED = """
const path = [];
for (let at = document.activeElement; at && at !== document.body; at = at.shadowRoot?.activeElement) path.push(at.id);
return path;
"""


@pytest.mark.parametrize(
    "screen, keys",
    [
        ("booking", ["Tab"] * 9),
        ("booking", ["Tab", "ArrowRight", "ArrowRight", "End", "Home", "Tab", "Tab"]),
        ("booking", ["Tab", "Tab", " ", "Tab", "Tab", "ArrowDown", " ", "Tab", "Enter"]),
        ("help", ["Tab", "Enter", "Tab", " ", "Tab", "Tab"]),
        ("islands", ["Tab", "ArrowDown", "ArrowDown", "Tab"]),
        ("fares", ["Tab"] * 6),
        ("calendar", ["Tab", "ArrowRight", "Tab", "Enter"]),
    ],
)
def test_keys_lead_where_they_lead_in_live_and_do_the_same(stage, screen, keys):
    both = stage(screen)
    names = both.names.owners
    for n, key in enumerate(keys):
        ActionChains(both.driver, duration=0).send_keys(KEYS[key]).perform()
        both.runtime.key(key)
        ours, owner, path = [], screen, both.runtime.focus or ()
        for k, node_id in enumerate(path):
            ours.append(names[owner].nodes[node_id])
            component = both.runtime._situation.component_at(path[: k + 1])
            owner = component.id if component is not None else owner
        theirs = both.driver.execute_script(FOCUSED)
        if not theirs or both.runtime.shown_owner != screen:
            break  # out of the page, where Live begins again, or on another screen
        assert theirs == ours, (n, key)
        both.advance(400)
        both.look(f"{n} {key}")
    agreed(both)
