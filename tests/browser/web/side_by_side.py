"""Live and an exported page, given the same events and the same time, and compared.

Animations are held and set to a time, timers go by the same time: nothing sleeps. Source:
Debian's Chromium; what has to agree is in references.md (≤ 0.5 px, ≤ 2 levels of 255).
"""

from __future__ import annotations

from typing import NamedTuple

from coloraide import Color as AnyColor
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from outgrowth.core.color import Color
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.affine import Affine
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.view import GHOST
from outgrowth.core.paint.draw import own_transform
from tests.browser.web.elements import READ, Hand

EDGE, LEVEL = 0.5, 2.0
"""How far apart edges may stand (px), and colours and opacities be (levels of 255)."""

# Timers that ring when the test says so; in place before any script of the page.
TIMERS = r"""
{
  const waiting = new Map();
  let last = 0, now = 0;
  window.setTimeout = (run, ms = 0) => { waiting.set(++last, { due: now + ms, run }); return last; };
  window.clearTimeout = (timer) => waiting.delete(timer);
  // Animations go on to each timer that rings on the way.
  window.advance = async (ms) => {
    const until = now + ms;
    for (;;) {
      const due = [...waiting].filter(([, one]) => one.due <= until).sort(([, a], [, b]) => a.due - b.due)[0];
      const next = due ? Math.max(due[1].due, now) : until;
      pass(next - now);
      now = next;
      if (!due) return;
      waiting.delete(due[0]);
      due[1].run();
      await null; // each timer's run is a task of its own
    }
  };
}
"""
KEYS = {
    "Tab": Keys.TAB,
    "Enter": Keys.ENTER,
    " ": Keys.SPACE,
    "ArrowRight": Keys.ARROW_RIGHT,
    "ArrowLeft": Keys.ARROW_LEFT,
    "ArrowDown": Keys.ARROW_DOWN,
    "ArrowUp": Keys.ARROW_UP,
    "Home": Keys.HOME,
    "End": Keys.END,
    "Escape": Keys.ESCAPE,
    "x": "x",
}


class Compared(NamedTuple):
    """What was compared so far: px, and levels of colours and of opacity."""

    edges: list[float]
    levels: list[float]


def held(driver):
    """Lets no page of a driver go on by itself; takes that back with the script that it gives."""
    script = {"source": TIMERS + READ + "hold();"}
    return driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", script)


def opened(driver, address):
    """Opens a page with the pointer beside it, as soon as its letters are there."""
    driver.get("about:blank")
    Hand(driver).move(1200, 700)
    driver.get(address)
    driver.execute_async_script("document.fonts.ready.then(arguments[0])")


class Both:
    """Live and the page, given the same events and the same time."""

    def __init__(self, driver, runtime, names, document, edge=EDGE, level=LEVEL):
        self.edge, self.level = edge, level
        self.driver, self.runtime, self.names, self.document = driver, runtime, names, document
        self.hand = Hand(driver)
        self.compared = Compared([], [])
        self.told = []

    def do(self, kind, where):
        if kind == "key":
            ActionChains(self.driver, duration=0).send_keys(KEYS[where]).perform()
            self.runtime.key(where)
            return
        path = tuple(where.split("/"))
        rect = next(a.rect for a in locate(*self.runtime.view(), "") if a.path == path)
        x, y = (int(n) for n in rect.center)
        steps = {"tap": ("move", "press", "release")}.get(kind, (kind,))
        for step in steps:
            if step == "move":
                self.hand.move(x, y)
                self.runtime.pointer_move(x, y)
            elif step == "press":
                self.hand.press()
                self.runtime.press(x, y)
            else:
                self.hand.release()
                self.runtime.release(x, y)

    def advance(self, ms):
        self.runtime.advance(ms)
        self.driver.execute_script("return advance(arguments[0])", ms)

    def look(self, when):
        theirs = self.driver.execute_script("return treeOf(document.querySelector('main'))")
        view = self.runtime.view()
        owner = self.runtime.shown_owner
        self._node(view.scene, view.placed, theirs, Affine(), owner, (when,))

    def _node(self, scene, placed, theirs, outside, owner, path):
        transform = own_transform(scene.paint, placed.width, placed.height)
        here = transform.then(outside) if transform is not None else outside
        ours = here.bounds(Rect(0.0, 0.0, placed.width, placed.height))
        for edge, a, b in zip("xywh", ours, theirs["rect"], strict=True):
            # While words move, a text is as large as it will be, and only its place is seen.
            if scene.kind != "text":
                self._note(self.compared.edges, abs(a - b), self.edge, (*path, edge, a, b))
        self._colors(scene, theirs, path)
        nodes = self.names.owners[scene.component or owner].nodes
        by_name = {child["name"]: child for child in theirs["children"]}
        bare = [i.lstrip(GHOST) for i in scene.ids]
        for n, child in enumerate(scene.children):
            # Words that fade stand beside those that come; the page has them in a copy.
            if scene.ids[n] != bare[n] and bare.count(bare[n]) > 1:
                continue
            name = nodes[bare[n]]
            assert name in by_name, (path, name, list(by_name))
            place = Affine(e=placed.xs[n], f=placed.ys[n]).then(here)
            inside = scene.component or owner
            self._node(child, placed.children[n], by_name[name], place, inside, (*path, name))

    def _colors(self, scene, theirs, path):
        opacity = abs(float(theirs["opacity"]) - scene.paint.opacity) * 255
        self._note(
            self.compared.levels, opacity, self.level, (*path, "opacity", scene.paint.opacity)
        )
        if scene.kind == "box" and isinstance(scene.paint.fill, Color):
            self._color(scene.paint.fill, theirs["fill"], (*path, "fill"))
        elif scene.kind == "text":
            self._color(scene.paint.color, theirs["color"], (*path, "color"))
        elif scene.kind == "shape" and theirs["form"] and scene.paint.line_width:
            self._color(scene.paint.stroke, theirs["form"][1], (*path, "stroke"))

    def _color(self, ours, theirs, path):
        other = AnyColor(theirs).convert("srgb")
        alpha = other.alpha(nans=False)
        # As they are seen: a colour counts as much as it is solid.
        pairs = [(ours.alpha, alpha)]
        for a, b in zip((ours.red, ours.green, ours.blue), other.coords(nans=False), strict=True):
            pairs.append((a * ours.alpha, min(max(b, 0.0), 1.0) * alpha))
        level = max(abs(a - b) for a, b in pairs) * 255
        self._note(self.compared.levels, level, self.level, (*path, ours, theirs))

    def _note(self, found, size, most, told):
        found.append(size)
        if size > most:
            self.told.append((round(size, 3), told))
