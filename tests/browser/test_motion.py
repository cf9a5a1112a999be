"""Movement against the browser's own animations that add up.

A page whose elements stand where our newest layout puts them is moved by Web Animations with
`composite: "add"`, one for each origin, from the differences between our layouts before and
after each change. Source: Web Animations Level 1, section 5.5.1 (effect composition: add).
Margins carry the numbers of width and height, since a negative width is no value in CSS.
"""

import json

import pytest

from demo.drawing import instance
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.values import Once
from outgrowth.core.edits.cues import set_motion
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.motion.movement import Movement
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import perform
from outgrowth.core.text import Typesetter
from tests.core.runtime.parts import door, screen
from tests.core.runtime.test_scripts import SCRIPTS, recorded

pytestmark = pytest.mark.browser

PAGE = """<!doctype html><style>div { position: absolute; }</style><body><script>
const nodes = {}, running = {}, names = ["left", "top", "marginLeft", "marginTop"];
function place(latest) {
  for (const [at, rect] of Object.entries(latest)) {
    const node = nodes[at] ??= document.body.appendChild(document.createElement("div"));
    names.forEach((name, n) => node.style[name] = rect[n] + "px");
  }
}
function seek(now) {
  for (const all of Object.values(running))
    for (const one of Object.values(all)) one.animation.currentTime = now - one.start;
}
function change(now, latest, origin, differences, timing) {
  seek(now);
  const mine = running[origin] ??= {};
  for (const at of new Set([...Object.keys(mine), ...Object.keys(differences)])) {
    const old = mine[at];
    const left = old ? 1 - (old.animation.effect.getComputedTiming().progress ?? 1) : 0;
    const added = differences[at] ?? [0, 0, 0, 0];
    const sum = added.map((n, k) => n + (old ? old.by[k] * left : 0));
    old?.animation.cancel();
    const from = Object.fromEntries(names.map((name, n) => [name, sum[n] + "px"]));
    const to = Object.fromEntries(names.map(name => [name, "0px"]));
    const animation = nodes[at].animate([from, to], {composite: "add", fill: "both", ...timing});
    animation.pause();
    mine[at] = {animation, by: sum, start: now};
  }
  place(latest);
}
function look(now) {
  seek(now);
  return Object.fromEntries(Object.entries(nodes).map(([at, node]) => {
    const style = getComputedStyle(node);
    return [at, names.map(name => parseFloat(style[name]))];
  }));
}
</script>"""


class Told(Movement):
    """A movement that writes down its changes, each by itself."""

    def __init__(self, target):
        super().__init__(target)
        self.told = []

    def change(self, target, now, origin, motion, part_motion=None):
        self.told.append((now, self.target, target, origin, motion))
        super().change(target, now, origin, motion, part_motion)

    def change_many(self, target, now, origins, motion, part_motion=None):
        for origin, views in origins:
            self.change(views()[1], now, origin, motion, part_motion)


def rects(view):
    """Every node's corner within what holds it, and its size, by its place in the tree."""
    found = {}

    def below(at, scene, placed, x, y):
        found[at] = [x, y, placed.width, placed.height]
        rows = zip(scene.ids, scene.children, placed.children, placed.xs, placed.ys, strict=True)
        for node_id, child, spot, left, top in rows:
            if not node_id.startswith("~"):
                below(f"{at}/{node_id}", child, spot, left, top)

    below("", *view, 0.0, 0.0)
    return found


def played(runtime, script, look):
    """Does what a script says and looks at its times."""
    waiting = list(script.events)
    for time in script.times:
        while waiting and waiting[0].at <= time:
            event = waiting.pop(0)
            runtime.advance(event.at - runtime.now)
            perform(runtime, event)
        runtime.advance(time - runtime.now)
        look(time)


def compared(chromium, tmp_path, stages, document, owner, script):
    """The farthest that a number of ours is from the browser's at any of the times."""
    ours = {}
    runtime = Runtime(*stages, document, Subject(owner))
    played(runtime, script, lambda time: ours.update({time: rects(runtime.view())}))
    other = Runtime(*stages, document, Subject(owner))
    movement = other._situation.movement = Told(other.target)
    file = tmp_path / "motion.html"
    file.write_text(PAGE)
    chromium.get(file.as_uri())
    chromium.execute_script("place(arguments[0])", rects(movement.target))
    sent, worst, moved = 0, 0.0, 0

    def look(time):
        nonlocal sent, worst, moved
        for now, before, after, origin, motion in movement.told[sent:]:
            was, latest = rects(before), rects(after)
            differences = {
                at: [a - b for a, b in zip(was[at], latest[at], strict=True)]
                for at in latest
                if at in was and was[at] != latest[at]
            }
            timing = {"duration": motion.duration, "delay": motion.delay, "easing": motion.easing}
            key = json.dumps([list(origin[0]), origin[1]])
            chromium.execute_script("change(...arguments)", now, latest, key, differences, timing)
            moved += bool(differences)
        sent = len(movement.told)
        theirs = chromium.execute_script("return look(arguments[0])", time)
        for at, (*place, width, height) in theirs.items():
            theirs[at] = [*place, max(width, 0.0), max(height, 0.0)]  # as sizes are drawn
        for at, rect in ours[time].items():
            worst = max(worst, *[abs(a - b) for a, b in zip(rect, theirs[at], strict=True)])

    played(other, script, look)
    return worst, moved


DEMO = [name for name, (_, _, path) in SCRIPTS.items() if path]


@pytest.mark.parametrize("name", DEMO)
def test_the_demo_moves_as_the_browser_adds_up(chromium, tmp_path, ferry, fonts, name):
    owner, deeds, _ = SCRIPTS[name]
    stages = Resolver(), Layout(Typesetter(fonts))
    script = recorded(stages, ferry, owner, deeds)
    worst, _ = compared(chromium, tmp_path, stages, ferry, owner, script)
    assert worst <= 0.1


# What is tapped, 40 ms apart, and how long opening and closing take.
RHYTHMS = {
    "one": ([0], 400, 150),
    "and back": ([0, 0], 400, 150),
    "and back and on": ([1, 1, 1], 150, 400),
    "a neighbour": ([0, 1], 400, 400),
    "all": ([0, 1, 2], 300, 100),
    "all and back": ([0, 1, 2, 0, 1, 2], 500, 90),
    "in turns": ([0, 2, 0, 2, 1], 250, 250),
}


@pytest.mark.parametrize("easing", ["ease-out", "cubic-bezier(0.3, -0.4, 0.3, 1.5)"])
@pytest.mark.parametrize("once", [False, True])
@pytest.mark.parametrize("name", RHYTHMS)
def test_doors_move_as_the_browser_adds_up_in_every_rhythm(
    chromium, tmp_path, fonts, name, once, easing
):
    taps, opens, closes = RHYTHMS[name]
    document = door(opens=float(opens), closes=float(closes), easing=easing)
    document = set_motion(document, "door", "open", "", Motion(123.0))
    style = {"one_at_a_time": (Once("open", "yes"),)} if once else {}
    held = [instance(f"d{n}", "door") for n in range(3)]
    document = screen(document, "hall", *held, flow="column", width=60, **style)
    stages = Resolver(), Layout(Typesetter(fonts))
    deeds = [("tap", f"d{n}/head") for n in taps]
    script = recorded(stages, document, "hall", deeds)
    worst, moved = compared(chromium, tmp_path, stages, document, "hall", script)
    assert moved >= len(taps)
    assert worst <= 0.1


def test_what_is_compared_is_where_things_are_seen(ferry, fonts):
    """The numbers that the browser is asked for are those of the rectangles."""
    runtime = Runtime(Resolver(), Layout(Typesetter(fonts)), ferry, Subject("help"))
    found = rects(runtime.view())
    corners = {"": (0.0, 0.0)}
    for at, (x, y, _, _) in found.items():
        left, top = corners[at.rpartition("/")[0]] if at else (0.0, 0.0)
        corners[at] = left + x, top + y
    ours = sorted((*corners[at], *found[at][2:]) for at in found)
    assert ours == sorted(tuple(at.rect) for at in locate(*runtime.view(), "Help"))
