"""Where the demo's behaviours come to rest, against Chromium laying out the same state."""

import statistics

import pytest

from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import perform
from outgrowth.core.text import Typesetter
from tests.browser.test_rectangles import _READ, rectangles
from tests.core.runtime.test_scripts import SCRIPTS, recorded

pytestmark = pytest.mark.browser


# Source: Debian's Chromium (references.md): ≤ 0.5 px each, median ≤ 0.05, in every state.
@pytest.mark.parametrize("name", SCRIPTS)
def test_a_state_that_was_reached_is_laid_out_as_in_chromium(
    chromium, ferry, fonts, tmp_path, name
):
    screen, deeds, _ = SCRIPTS[name]
    stages = Resolver(), Layout(Typesetter(fonts))
    script = recorded(stages, ferry, screen, deeds)
    runtime = Runtime(*stages, ferry, Subject(screen))
    for event in script.events:
        runtime.advance(event.at - runtime.now)
        perform(runtime, event)
    runtime.advance(400)
    file = tmp_path / "state.html"
    file.write_text(page(*runtime.target, name, ferry.assets))
    chromium.get(file.as_uri())
    theirs = chromium.execute_async_script(_READ)
    ours = dict(rectangles(runtime.target.placed))
    assert set(ours) == set(theirs)
    off = [abs(a - b) for at, rect in ours.items() for a, b in zip(rect, theirs[at], strict=True)]
    assert max(off) <= 0.5
    assert statistics.median(off) <= 0.05
