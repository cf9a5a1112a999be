"""The motion part of `bin/bench`: frames among many instances, hit tests, and opening one of
a thousand rows beside Chromium's own reflow of such a page."""

from __future__ import annotations

import statistics
import tempfile
from collections.abc import Callable
from pathlib import Path

from immutables import Map
from PyQt6.QtGui import QImage, QPainter
from selenium import webdriver

from demo.behaviours import turned, with_cue
from demo.drawing import box, grow, instance
from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.core.color import parse
from outgrowth.core.document.cues import Change, Cue, Trigger
from outgrowth.core.document.records import Document, Screen
from outgrowth.core.edits.cues import add_cue
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.exchange.web import page
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject, hit
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FontBook
from tests.core.runtime.parts import door, part, styled
from tools.bench.layout import timed

SIGHT = Rect(0.0, 0.0, 1280.0, 800.0)
FRAME = 8.0

Say = Callable[[str, list[float]], None]


class Picture:
    """A 1280 × 800 picture that frames are painted on."""

    def __init__(self) -> None:
        self._image = QImage(1280, 800, QImage.Format.Format_ARGB32_Premultiplied)
        self._rasters = Rasters()

    def paint(self, runtime: Runtime, down: float = 0.0) -> None:
        painter = QPainter(self._image)
        sight = SIGHT.moved(0.0, down)
        painter.translate(0.0, -down)
        fragment = draw(*runtime.view())
        QtPainter(painter, self._rasters, 1.0, sight).draw(fragment, 0.0, 0.0)
        painter.end()


def bench_motion(
    crowd: Document, demo: Document, fonts: FontBook, chromium: webdriver.Chrome, say: Say
) -> None:
    _fifty(crowd, fonts, say)
    _at_once(fonts, chromium, say)
    _hits(demo, fonts, say)
    _expanding(demo, fonts, chromium, say)


def _runtime(document: Document, owner: str, fonts: FontBook) -> Runtime:
    return Runtime(Resolver(), Layout(Typesetter(fonts)), document, Subject(owner))


def _fifty(document: Document, fonts: FontBook, say: Say) -> None:
    """50 of 1,000 buttons change their kind at once."""
    changes = tuple(Change("next", "kind", at=(f"b-{n // 25}-{n % 25}",)) for n in range(50))
    cue = Cue("fifty", ("b-0-0",), Trigger("tap"), changes, Map())
    runtime = _runtime(add_cue(document, "crowd", cue), "crowd", fonts)
    picture, (x, y) = Picture(), (10.0, 10.0)
    lists: list[float] = []
    paints: list[float] = []
    for _ in range(6):
        runtime.press(x, y)
        runtime.release(x, y)
        while runtime.moving:
            lists.append(timed(lambda: (runtime.advance(FRAME), draw(*runtime.view()))))
            paints.append(timed(lambda: picture.paint(runtime)))
    say("50 tweens among 1,000: runtime, tween, display list", lists)
    say("the same: painting 1280 × 800", paints)
    both = [a + b for a, b in zip(lists, paints, strict=True)]
    say("the same: both together (aim 16 at the 95th percentile)", both)


def _at_once(fonts: FontBook, chromium: webdriver.Chrome, say: Say) -> None:
    """Many that begin by themselves or together: frames from the runtime to the display list,
    beside Chromium's own frames while as many elements are animated."""
    wait, appear = Trigger("delay", ms=500), Trigger("appear")
    chromium.get("data:text/html,<body></body>")
    for count, trigger, what in ((10_000, wait, "10,000 timers"), (1_000, appear, "1,000 appear")):
        document = _dots(count, trigger)
        begun: list[Runtime] = []
        event = [timed(lambda d=document, b=begun: b.append(_runtime(d, "sky", fonts)))]
        runtime = begun[0]
        if trigger is wait:
            runtime.advance(496.0)
            event = [timed(lambda runtime=runtime: runtime.advance(FRAME))]
        frames = []
        while runtime.moving:
            frames.append(timed(lambda runtime=runtime: _list(runtime)))
        say(f"{what}: the instant at which they all act", event)
        say(f"the same: frames of {count:,} that move", frames)
        theirs = chromium.execute_async_script(_MANY, count)
        say(f"Chromium: between frames of {count:,} animations", theirs)
        ratio = statistics.median(frames) / max(statistics.median(theirs), 0.01)
        print(f"{'a frame of ours by Chromium’s':<64}{ratio:>9.2f}")
    document = door(opens=400.0, closes=400.0)
    held = [instance(f"d{n}", "door") for n in range(1000)]
    document = add_screen(document, Screen("hall", "Hall", box("hall", *held, flow="column")))
    opened = tuple(Change("set", "open", "yes", (f"d{20 * n}",)) for n in range(50))
    cue = Cue("all", (), Trigger("key", key="o"), opened)
    runtime = _runtime(add_cue(document, "hall", cue), "hall", fonts)
    say("50 of 1,000 open at once: the key", [timed(lambda: runtime.key("o"))])
    frames = [timed(lambda: _list(runtime)) for _ in range(48)]
    say("the same: frames (aim 16 at the 95th percentile)", frames)
    runtime = _runtime(document, "hall", fonts)
    events: list[float] = []
    frames = []
    for n in range(50):
        y = 10.0 + 40 * n
        events.append(timed(lambda y=y: (runtime.press(10.0, y), runtime.release(10.0, y))))
        frames.append(timed(lambda: _list(runtime)))
    say("50 of 1,000 open one after the other: a tap", events)
    say("the same: frames (aim 16 at the 95th percentile)", frames)


def _list(runtime: Runtime) -> None:
    runtime.advance(FRAME)
    draw(*runtime.view())


def _dots(count: int, trigger: Trigger) -> Document:
    """Parts that turn their colour by themselves."""
    document = part(Document("Dots"), "dot", box("dot", width=12, height=8), lit=("no", "yes"))
    document = styled(document, "dot", (), {"lit": "yes"}, fill=parse("#d9480f"))
    document = with_cue(document, "dot", trigger, turned("lit"))
    dots = [instance(f"d{n}", "dot") for n in range(count)]
    return add_screen(document, Screen("sky", "Sky", box("sky", *dots, flow="column")))


_MANY = """
const done = arguments[arguments.length - 1], count = arguments[0];
document.body.innerHTML = "<div style='width:12px;height:8px'></div>".repeat(count);
for (const node of document.body.children)
  node.animate([{background: "#0000"}, {background: "#d9480f"}], {duration: 2000});
const found = [];
let before = performance.now();
function frame() {
  const now = performance.now(); found.push(now - before); before = now;
  if (found.length < 42) requestAnimationFrame(frame); else done(found.slice(2));
}
requestAnimationFrame(frame);
"""


def _hits(document: Document, fonts: FontBook, say: Say) -> None:
    """The node under a point among 10,000."""
    marks = [box(f"m-{n}", width=12, height=10) for n in range(10_000)]
    root = box("marks", *marks, flow="column", gap=1, width=200)
    document = add_screen(document, Screen("marks", "Marks", root))
    resolver, layout = Resolver(), Layout(Typesetter(fonts))
    scene = resolver.screen(document, document.screens["marks"])
    placed = layout.place(scene.layout)
    hit(scene, placed, 5.0, 5.0)
    found = [timed(lambda n=n: hit(scene, placed, 6.0, 1100.0 * n + 5.0)) for n in range(100)]
    say("hit test among 10,000 nodes (aim 1)", found)


_REFLOW = """
const row = document.querySelector('[data-at="499"]');
const last = document.querySelector('[data-at="999"]');
const found = [], start = row.getBoundingClientRect().height;
for (let n = 1; n <= 38; n++) {
  const t = performance.now();
  row.style.height = (start + n * 1.5) + "px";
  last.getBoundingClientRect();
  found.push(performance.now() - t);
}
row.style.height = "";
return found;
"""
_FRAMES = """
const done = arguments[arguments.length - 1];
const row = document.querySelector('[data-at="499"]');
const start = row.getBoundingClientRect().height, found = [];
let before = performance.now(), n = 0;
row.scrollIntoView();
function frame() {
  const now = performance.now(); found.push(now - before); before = now;
  row.style.height = (start + ++n * 1.5) + "px";
  if (n < 60) requestAnimationFrame(frame); else { row.style.height = ""; done(found.slice(2)); }
}
requestAnimationFrame(frame);
"""


def _expanding(document: Document, fonts: FontBook, chromium: webdriver.Chrome, say: Say) -> None:
    """One of 1,000 notices opens; Chromium grows the same row of our page, in turn."""
    rows = [instance(f"n-{n}", "notice", width=grow) for n in range(1000)]
    root = box("rows", *rows, flow="column", width=390)
    document = add_screen(document, Screen("rows", "Rows", root))
    runtime, picture = _runtime(document, "rows", fonts), Picture()
    view = runtime.target
    head = next(a.rect for a in locate(*view, "") if a.path == ("n-499", "head"))
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "rows.html"
        file.write_text(page(view.scene, view.placed, "rows"))
        chromium.get(file.as_uri())
        chromium.execute_script("return document.fonts.ready.then(() => 1)")
        ours: list[float] = []
        reflow: list[float] = []
        frames: list[float] = []
        first: list[float] = []
        for _ in range(4):
            x, y = head.center
            runtime.press(x, y)
            first.append(timed(lambda x=x, y=y: runtime.release(x, y)))
            while runtime.moving:
                ours.append(timed(lambda: _frame(runtime, picture, head.y - 300)))
            reflow += chromium.execute_script(_REFLOW)
            frames += chromium.execute_async_script(_FRAMES)
    say("open one of 1,000 rows: from the tap to its movement", first)
    say("a frame of it: runtime, tween, display list, painting", ours)
    say("Chromium: reflow of the same page alone", reflow)
    say("Chromium: between frames of the same growth", frames)
    ratio = statistics.median(ours) / max(statistics.median(reflow), 0.01)
    print(f"{'a frame of ours by Chromium’s reflow alone':<64}{ratio:>9.2f}")


def _frame(runtime: Runtime, picture: Picture, down: float) -> None:
    runtime.advance(FRAME)
    picture.paint(runtime, down)
