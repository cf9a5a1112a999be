"""Random behaviour (tests/fuzz/behaviour.py) handed over and played in Chromium by a real pointer,
beside Live: the same states, everywhere the same places and colours, whatever is under way.
"""

from __future__ import annotations

import contextlib
import tempfile
from pathlib import Path

from outgrowth.core.exchange.output import write
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene_paths import all_instances
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from tests.fuzz.behaviour import Behaviour, key_at
from tests.fuzz.report import Failure
from tests.fuzz.report import told as told_of
from tests.fuzz.whole import turned

EDGE, LEVEL = 1.0, 4.0
"""Sums of several springs are sampled: a little more than what each of them may be off."""

_SHORTEST_MS = 5.0
"""Timers that ring before a page's letters are there begin at another time than ours."""

_VALUES = """
const found = {};
const walk = (tree, path) => {
  for (const one of (tree.shadowRoot ?? tree).querySelectorAll("*"))
    if (one.owner_) { found[`${path}/${one.id}`] = { ...one.owner_.values }; walk(one, `${path}/${one.id}`); }
};
walk(document.querySelector("main"), "");
return found;
"""


def off_edges(runtime, x, y):
    """The nearest place further right and down that is no part of a px from any edge: a browser
    looks for what is hit among boxes on whole px. Source: Chromium, common practice."""
    rects = [located.rect for located in locate(*runtime.view(), "")]
    across = [edge for rect in rects for edge in (rect.x, rect.x + rect.width)]
    down = [edge for rect in rects for edge in (rect.y, rect.y + rect.height)]

    def clear(place, edges):
        for further in range(20):
            if not any(0 < abs(place + further - edge) < 1 for edge in edges):
                return place + further
        return place

    return clear(x, across), clear(y, down)


def _turned_files(files):
    """The hall from right to left, where it stands at the left all the same."""
    page, sheet = "screens/hall.html", "screens/screen.css"
    return {
        page: files[page].replace(b'<html lang="en">', b'<html lang="en" dir="rtl">'),
        sheet: files[sheet] + b"html, body { direction: ltr; }\n",
    }


class PageJudge:
    """Plays documents here and in a Chromium of its own."""

    def __init__(self, driver, room):
        self._driver, self._room, self._pressing = driver, room, False
        self._layout = Layout(Typesetter(shipped(FONTS)))
        self.looked = lambda: None  # after each deed

    def differences(self, seed):
        """The first that differs in a random document, as a sentence; None for nothing."""
        case = Behaviour(seed)
        return self.played(case.document, case.deeds, str(seed))

    def played(self, document, deeds, name, right_to_left=False):
        """The same for a document whose screen is the hall, and what is done there: a kind, a
        place in px, and how long is waited before (ms). A page from right to left does what Live
        does with the document that is turned."""
        from tests.browser.web.conftest import serve
        from tests.browser.web.side_by_side import Both, opened

        cues = [cue for owner in document.owners() for cue in owner.behaviour.cues]
        if any(c.trigger.kind == "delay" and c.trigger.ms < _SHORTEST_MS for c in cues):
            return None
        made = hand_over(document, self._layout)
        folder = self._room / name
        write(folder, made.files | (_turned_files(made.files) if right_to_left else {}))
        document = turned(document) if right_to_left else document
        server = serve(folder)
        runtime = Runtime(Resolver(), self._layout, document, Subject("hall"))
        both = Both(self._driver, runtime, made.names, document, EDGE, LEVEL)
        try:
            opened(self._driver, f"http://127.0.0.1:{server.server_port}/screens/hall.html")
            for n, (kind, x, y, wait) in enumerate(deeds):
                both.advance(wait)
                self._done(both, kind, *off_edges(runtime, int(x), int(y)), key_at(y))
                # A circle of cues is cut where each of us has had enough of it.
                if runtime.problems:
                    return None
                told = self._states(runtime, made.names) or (both.look(kind), both.told)[1]
                self.looked()
                if told:
                    return f"deed {n} ({kind} at {int(x)}, {int(y)}): {str(told[0])[:240]}"
        finally:
            if self._pressing:
                both.hand.release()
                self._pressing = False
            server.shutdown()
            server.server_close()
        return None

    def _done(self, both, kind, x, y, key):
        """Does something here and there; what a hand cannot do just then is left out."""
        runtime, hand = both.runtime, both.hand
        if kind in ("move", "press", "tap", "release"):
            if kind in ("press", "tap") and self._pressing:
                return
            if kind == "release" and not self._pressing:
                return
            hand.move(x, y)
            runtime.pointer_move(x, y)
        if kind in ("press", "tap"):
            hand.press()
            runtime.press(x, y)
            self._pressing = True
        if kind in ("release", "tap"):
            hand.release()
            runtime.release(x, y)
            self._pressing = False
        if kind == "tab":
            both.do("key", "Tab")
        # Out of the page's end a browser goes to what is its own.
        if kind == "key" and not (key == "Tab" and runtime.tab_leaves(False)):
            both.do("key", key)
        if kind == "leave" and not self._pressing:
            hand.move(1200, 700)
            runtime.pointer_leave()

    def _states(self, runtime, names):
        theirs, situation = self._driver.execute_script(_VALUES), runtime._situation
        for path, node in all_instances(situation.everything):
            route, owner = [], names.owners["hall"]
            for n, step in enumerate(path):
                route.append(owner.nodes[step])
                component = situation.component_at(path[: n + 1])
                owner = names.owners[component.id] if component is not None else owner
            here = "/" + "/".join(route)
            for axis, value in (node.variant or {}).items() if path else ():
                said = owner.axes[axis]
                there = theirs.get(here, {}).get(said.attribute)
                if there != said.values[value]:
                    return [f"{here} {said.attribute}: {said.values[value]} here, {there} there"]
        return []


@contextlib.contextmanager
def playing():
    """A judge over a Chromium of its own, in which time stands still."""
    from tests.browser.conftest import started
    from tests.browser.web.side_by_side import held

    with tempfile.TemporaryDirectory() as room:
        driver = started(Path(room) / "profile")
        try:
            held(driver)
            yield PageJudge(driver, Path(room))
        finally:
            driver.quit()


def run(seed, count):
    """Behaviours from a seed on, each with what differs."""
    with playing() as judge:
        for n in range(count):
            try:
                told = judge.differences(seed + n)
            except Exception as problem:  # whatever it is, it is a finding
                told = told_of(problem)
            yield n + 1, Failure("pages", seed + n, told[:300], told[:60]) if told else None
