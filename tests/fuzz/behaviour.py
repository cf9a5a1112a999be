"""Random components that move, under random pointers, keys and times.

Stacks in stacks and rows that wrap, with several axes each, random motions, cues, groups and
timers. Whatever happens in whatever rhythm: nothing jumps, what stands side by side stays so, in
the end all is where a fresh layout puts it, time in any pieces and a second run give the same, and
without motion the same states are reached.
"""

from __future__ import annotations

import json
import random
from collections.abc import Iterator

from immutables import Map

from demo.drawing import box, instance, text
from outgrowth.core.color import parse
from outgrowth.core.document.cues import HOLDER, TRIGGERS, Change, Condition, Cue, Motion, Trigger
from outgrowth.core.document.everyday_words import plainly
from outgrowth.core.document.properties import CHOICE, ROLES
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    DesignToken,
    Document,
    Node,
    Screen,
)
from outgrowth.core.document.values import Once, Token, fixed, words
from outgrowth.core.edits.cues import add_cue, set_led, set_motion, set_part_motion
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_screen
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import snapshot
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from tests.fuzz.report import Failure, told

EASINGS = (
    "linear",
    "ease",
    "ease-in-out",
    "cubic-bezier(0.2, -0.6, 0.4, 1.7)",
    "spring(170, 26)",
    "spring(220, 9)",
    "bounce(0.4)",
)
COLORS = ("#d9480f", "#1971c2", "#2b8a3e", "#00000000", "#862e9c80")
MOTIONS = Map(
    {
        "motion.quick.duration": DesignToken("duration", 90.0),
        "motion.quick.easing": DesignToken("easing", "ease-in-out"),
        "motion.quick.delay": DesignToken("duration", 0.0),
        "motion.slow.duration": DesignToken("duration", 400.0),
        "motion.slow.easing": DesignToken("easing", "bounce(0.4)"),
        "motion.slow.delay": DesignToken("duration", Token("motion.quick.delay")),
    }
)
_CLOSE = 1e-6
_FADES = -1.0
_APART = 0.01
"""How far neighbours may part, in px, as the design says."""


class Behaviour:
    """One random document and what is done to it. `timed`: with timers and long presses, which
    may come while something moves; without, reduced motion must reach the same states."""

    def __init__(self, seed: int) -> None:
        self.seed = seed
        self.chance = random.Random(seed)
        # What came later is drawn apart, so that a seed goes on meaning what it meant.
        self.more = random.Random(seed + 1_000_000_007)
        self.roles = random.Random(seed + 2_000_000_011)
        self.timed = self.chance.random() < 0.5
        self._cues = 0
        self.document = self._document()
        self.deeds = self._deeds()

    # --- the document -------------------------------------------------------------------

    def _motion(self) -> Motion:
        chance = self.chance
        if chance.random() < 0.15:
            # What a token gives counts; its own times are for when it is gone.
            return Motion(600_000.0, "steps(1)", tokens=self._followed())
        duration = chance.choice([40.0, 90.0, 150.0, 300.0, 400.0, 700.0])
        return Motion(duration, chance.choice(EASINGS), chance.choice([0.0, 0.0, 0.0, 120.0]))

    def _followed(self) -> Map[str, str]:
        group = self.chance.choice(("quick", "slow"))
        return Map({part: f"motion.{group}.{part}" for part in ("duration", "easing", "delay")})

    def _document(self) -> Document:
        document = Document("Fuzz", tokens=MOTIONS)
        names = []
        for n in range(self.chance.randint(2, 3)):
            name = f"leaf{n}"
            document = self._leaf(document, name)
            names.append(name)
        for n in range(self.chance.randint(1, 3)):
            name = f"stack{n}"
            document = self._stack(document, name, names)
            names.append(name)
        held = [
            instance(f"i{n}", self.chance.choice(names[-3:]))
            for n in range(self.chance.randint(2, 4))
        ]
        style = self._group() | {"flow": "column", "width": 300, "gap": self.chance.choice([0, 6])}
        document = add_screen(document, Screen("hall", "Hall", box("hall", *held, **style)))
        for _ in range(self.chance.randint(0, 2)):
            document = self._cue(document, "hall", [node.id for node in held])
        return document

    def _group(self) -> dict[str, object]:
        if self.chance.random() < 0.5:
            return {}
        return {"one_at_a_time": (Once("open", "yes"), Once("checked", "yes"))}

    def _axis(self, document: Document, name: str, axis: str, values: tuple[str, ...]) -> Document:
        driver = {"state": "pointer", "focus": "focus"}.get(axis, "none")
        meaning = axis if axis in ("enabled", "checked") else "none"
        said = tuple(AxisValue(v, v) for v in values)
        made = Axis(axis, axis.title(), said, values[0], driver, meaning)
        if axis == "state" and values[0] != "rest":
            made = self._everyday(made)
        document = add_axis(document, name, made)
        motion = self._motion()
        if self.more.random() < 0.2:
            return document
        if self.more.random() < 0.2:
            return set_motion(document, name, "", "", motion)
        return set_motion(document, name, axis, "", motion)

    def _everyday(self, axis: Axis) -> Axis:
        """An axis of the pointer whose values are called as people call them; some start with
        another than that at rest, and some show the focus too."""
        words = self.more.choice([("Default", "Over", "Down"), ("normal", "hover", "pressed")])
        names = [*words, "Focused", "Disabled"][: len(axis.values)]
        pairs = zip(axis.values, names, strict=True)
        values = tuple(AxisValue(value.id, word) for value, word in pairs)
        plain = Axis(axis.id, axis.name, values, axis.default)
        told = plainly(plain)
        assert told.driver == "pointer", told
        return told

    def _inner(self, document: Document, name: str, inner: list[Node]) -> Document:
        """Rules of a holder that set axes of what it holds: those are changes of their own."""
        for node in inner:
            component = document.components[str(node.style["component"])]
            axes = [axis for axis in component.axes if axis.driver == "none"]
            if not axes or self.more.random() < 0.4:
                continue
            axis = self.more.choice(axes)
            value = next(v.id for v in axis.values if v.id != axis.default)
            said = {CHOICE + axis.id: value}
            place = Place(name, (node.id,))
            document = set_properties(document, place, said, Map(open="yes"))
            if self.more.random() < 0.2:
                document = set_led(document, name, (node.id,), True)
        return document

    def _style(self, document: Document, name: str, node: str, when: dict[str, str]) -> Document:
        chance = self.chance
        said = chance.choice(
            [
                {"height": fixed(chance.choice([0.0, 12.0, 33.0, 80.0]))},
                {"width": fixed(chance.choice([10.0, 47.0, 120.0]))},
                {"fill": parse(chance.choice(COLORS))},
                {"opacity": chance.choice([0.0, 0.4, 1.0])},
                {"rotate": 90.0, "fill": parse(chance.choice(COLORS))},
                {"padding-top": chance.choice([0.0, 9.0]), "height": fixed(50.0)},
            ]
        )
        place = Place(name, (node,) if node else ())
        return set_properties(document, place, dict(said), Map(when))

    def _leaf(self, document: Document, name: str) -> Document:
        chance = self.chance
        parts = [
            box("a", width=chance.choice([20, 44]), height=chance.choice([10, 24]), fill="#ccc")
        ]
        parts.append(box("b", width=30, height=8))
        if chance.random() < 0.4:
            parts.insert(chance.randint(0, 2), text("t", chance.choice(["Gate 3", "Bicycles"])))
        style = {"flow": chance.choice(["row", "column"]), "wrap": chance.random() < 0.2}
        role = chance.choice(["none", "button", "radio", "checkbox"])
        if self.roles.random() < 0.3:
            role = self.roles.choice(ROLES)
        document = add_component(
            document, Component(name, name.title(), box(name, *parts, role=role, **style))
        )
        axes: dict[str, tuple[str, ...]] = {"checked": ("no", "yes")}
        if chance.random() < 0.7:
            axes["state"] = ("rest", "hover", "press")
            if self.more.random() < 0.4:
                axes["state"] = ("one", "two", "three", "four", "five")[: self.more.randint(2, 5)]
        if chance.random() < 0.5:
            axes["focus"] = ("no", "focus")
        if chance.random() < 0.4:
            axes["enabled"] = ("yes", "no")
        for axis, values in axes.items():
            document = self._axis(document, name, axis, values)
            for value in values[1:]:
                for _ in range(chance.randint(1, 2)):
                    document = self._style(document, name, chance.choice("ab"), {axis: value})
        if any(part.id == "t" for part in parts) and chance.random() < 0.5:
            said = {"content": words(chance.choice(["Gate 14", "Two bicycles, please"]))}
            document = set_properties(document, Place(name, ("t",)), said, Map(checked="yes"))
        if chance.random() < 0.3:
            document = set_part_motion(document, name, ("a",), "", self._motion())
        for _ in range(chance.randint(1, 2)):
            document = self._cue(document, name, ["a", "b"])
        return document

    def _stack(self, document: Document, name: str, names: list[str]) -> Document:
        chance = self.chance
        inner = [instance(f"n{n}", chance.choice(names[-3:])) for n in range(chance.randint(1, 3))]
        flow = chance.choice(["row", "column", "column"])
        body = box("body", *inner, flow=flow, gap=chance.choice([0, 5]), **self._group())
        head = box("head", width=90, height=18, fill="#eee")
        style = {"flow": "column", "padding": chance.choice([0, 4]), "gap": chance.choice([0, 3])}
        document = add_component(
            document, Component(name, name.title(), box(name, head, body, **style))
        )
        document = self._axis(document, name, "open", ("no", "yes"))
        document = set_motion(document, name, "open", "no", self._motion())
        if chance.random() < 0.4:
            place = Place(name, ("body",))
            document = set_properties(document, place, {"shown": False}, Map(open="no"))
        else:
            document = self._style(document, name, chance.choice(["head", "body"]), {"open": "yes"})
        document = self._inner(document, name, inner)
        self._cues += 1
        change = Change("next", "open")
        cue = Cue(f"c{self._cues}", ("head",), Trigger("tap"), (change,))
        document = add_cue(document, name, cue)
        for _ in range(chance.randint(0, 2)):
            document = self._cue(document, name, ["head", *[node.id for node in inner]])
        return document

    def _cue(self, document: Document, owner: str, nodes: list[str]) -> Document:
        """One more cue, if it can be."""
        chance = self.chance
        held = document.owner(owner)
        assert held is not None
        inner = {}
        for node_id in nodes:
            found = next((n for n in _all(held.root) if n.id == node_id), None)
            component = found.style.get("component") if found is not None else None
            if isinstance(component, str):
                inner[node_id] = document.components[component]
        # Whatever the table has, taps and delays most often.
        kinds = [kind for kind in TRIGGERS if self.timed or kind not in ("delay", "long-press")]
        kinds += ["tap", "delay"] if self.timed else ["tap"]
        kind = chance.choice(kinds)
        node = (chance.choice([*nodes, ""]),)
        node = () if node == ("",) else node
        listens = inner.get(node[0]) if node else held if isinstance(held, Component) else None
        if kind == "became" and (listens is None or not listens.axes):
            kind = "tap"
        trigger = Trigger(kind)
        if kind == "key":
            trigger = Trigger("key", key=chance.choice(["Escape", "x", "Enter"]))
        elif kind == "delay":
            trigger = Trigger("delay", ms=chance.choice([0.0, 250.0, 700.0]))
        elif kind == "became" and listens is not None:
            axis = chance.choice(listens.axes)
            trigger = Trigger("became", axis=axis.id, value=chance.choice(["", axis.values[1].id]))
        changes = tuple(
            change
            for _ in range(chance.randint(1, 2))
            if (change := self._change(held, inner)) is not None
        )
        if not changes:
            return document
        conditions: tuple[Condition, ...] = ()
        if inner and chance.random() < 0.2:
            at = chance.choice(sorted(inner))
            axis = chance.choice(inner[at].axes)
            values = tuple(v.id for v in axis.values if chance.random() < 0.7)
            conditions = (Condition(axis.id, values, (at,)),) if values else ()
        motion = self._motion() if chance.random() < 0.3 else None
        self._cues += 1
        cue = Cue(f"c{self._cues}", node, trigger, changes, Map(), motion, conditions)
        return add_cue(document, owner, cue)

    def _change(self, held: Component | Screen, inner: dict[str, Component]) -> Change | None:
        chance = self.chance
        meant = [((), held)] if isinstance(held, Component) else []
        meant += [((node,), component) for node, component in inner.items()]
        if not meant:
            return None
        at, component = chance.choice(meant)
        axes = [axis for axis in component.axes if axis.driver == "none"]
        if not axes:
            return None
        if chance.random() < 0.1 and isinstance(held, Component):
            return Change("set", "Open", "yes", (HOLDER,))
        if chance.random() < 0.1:
            return Change("restart", at=at)
        axis = chance.choice(axes)
        if chance.random() < 0.6:
            return Change("next", axis.id, at=at)
        return Change("set", axis.id, chance.choice(axis.values).id, at)

    def _deeds(self) -> list[tuple[str, float, float, float]]:
        """What is done: kind, place (or which key), and how long to wait before."""
        chance, found = self.chance, []
        for _ in range(chance.randint(3, 10)):
            kind = chance.choice(["tap", "tap", "move", "move", "press", "release", "key", "leave"])
            x, y = chance.choice([15.0, 40.0, 90.0]), chance.uniform(0.0, 200.0)
            found.append((kind, x, y, chance.choice([0.0, 7.0, 60.0, 150.0, 333.3, 900.0])))
        return found

    # --- running ------------------------------------------------------------------------

    def run(self) -> Iterator[Failure]:
        try:
            yield from self._checked()
        except Exception as problem:
            yield self._failed(told(problem))

    def _failed(self, what: str) -> Failure:
        example = json.dumps({"deeds": self.deeds}, indent=1) + f"\n{self.document!r}"
        return Failure("behaviour", self.seed, what, example)

    def _begin(self) -> Runtime:
        layout = Layout(Typesetter(shipped(FONTS)))
        return Runtime(Resolver(), layout, self.document, Subject("hall"))

    def _checked(self) -> Iterator[Failure]:
        first, faults = self._played(None, True)
        yield from (self._failed(fault) for fault in dict.fromkeys(faults))
        if self._played(None, False)[0] != first:
            yield self._failed("a second run differs")
        if self._played(random.Random(self.seed), False)[0] != first:
            yield self._failed("time in pieces gives another picture")
        if not self.timed:
            yield from self._reduced()

    def _played(self, pieces: random.Random | None, checked: bool) -> tuple[list[str], list[str]]:
        """What was seen after each deed, and what was wrong."""
        runtime, shots, faults = self._begin(), [], []
        for kind, x, y, wait in self.deeds:
            if checked:
                for share in (0.1, 0.35, 0.55):
                    runtime.advance(wait * share)
                    faults += parted(runtime)
            elif pieces is None:
                runtime.advance(wait)
            else:
                for _ in range(7):
                    runtime.advance(wait / 7)
            before = numbers(runtime)
            _do(runtime, kind, x, y)
            if checked and not runtime.problems:
                faults += jumps(before, numbers(runtime))
                faults += parted(runtime)
            shots.append(json.dumps(snapshot(runtime)))
        if checked and not self.timed:
            # A pointer over what moves away when it is hovered would never let it rest.
            runtime.pointer_leave()
            runtime.advance(60_000)
            if runtime.moving or runtime.view() is not runtime.target:
                faults.append("it does not come to rest")
            fresh = runtime._situation.lay_out(runtime._situation.states)
            if fresh.scene is not runtime.target.scene or fresh.placed is not runtime.target.placed:
                faults.append("in the end it is not where a fresh layout puts it")
        return shots, faults

    def _reduced(self) -> Iterator[Failure]:
        ends = []
        for reduced in (False, True):
            runtime = self._begin()
            runtime.reduced_motion = reduced
            runtime.advance(10_000)
            for kind, x, y, _ in self.deeds:
                # All is at rest before the next deed, or it would meet what only passes by.
                for half in ("press", "release") if kind == "tap" else (kind,):
                    _do(runtime, half, x, y)
                    runtime.advance(10_000)
                    rests = dict(runtime.states)
                    runtime._look_again()
                    if runtime.moving or runtime.problems or runtime.states != rests:
                        return  # it flees from a still pointer for ever, or a circle was cut
            ends.append(
                (dict(runtime.states), runtime.focus, runtime.shown_owner, runtime.problems)
            )
        if ends[0] != ends[1]:
            yield self._failed("without motion other states are reached")


def _all(node):
    yield node
    for child in node.children:
        yield from _all(child)


def key_at(y: float) -> str:
    """Which key a deed presses, by its place (px)."""
    return ("Tab", "Enter", " ", "ArrowDown", "Escape", "x")[int(y) % 6]


def _do(runtime: Runtime, kind: str, x: float, y: float) -> None:
    if kind == "move":
        runtime.pointer_move(x, y)
    elif kind == "leave":
        runtime.pointer_leave()
    elif kind == "key":
        runtime.key(key_at(y))
    if kind in ("press", "tap"):
        runtime.press(x, y)
    if kind in ("release", "tap"):
        runtime.release(x, y)


def numbers(runtime: Runtime) -> dict[str, tuple[float, ...]]:
    """What is drawn of every node that can be told by its path: its corner in what holds it,
    its size, its opacity."""
    found: dict[str, tuple[float, ...]] = {}

    def below(at, scene, placed, x, y, opacity=None):
        opacity = scene.paint.opacity if opacity is None else opacity
        found[at] = (x, y, placed.width, placed.height, opacity)
        if opacity == 0.0:
            return  # nothing of it is seen
        rows = zip(scene.ids, scene.children, placed.children, placed.xs, placed.ys, strict=True)
        fading = {node_id.lstrip("~") for node_id in scene.ids if node_id.startswith("~")}
        for node_id, child, spot, left, top in rows:
            if not node_id.startswith("~"):
                # Words that fade into others change places with them when they come back.
                fades = _FADES if node_id in fading else None
                below(f"{at}/{node_id}", child, spot, left, top, fades)

    below("", *runtime.view(), 0.0, 0.0)
    return found


def jumps(before: dict[str, tuple[float, ...]], after: dict[str, tuple[float, ...]]) -> list[str]:
    """What is drawn otherwise at one instant; what came is not there before, and other words
    begin with no opacity, so only places and sizes count of those that faded."""
    for at, numbers_after in after.items():
        numbers_before = before.get(at)
        if numbers_before is None or numbers_before[4] == numbers_after[4] == 0.0:
            continue
        pairs = list(zip(numbers_before, numbers_after, strict=True))
        # A node that went and came in one instant, or whose words are others, starts to fade.
        fades = numbers_after[4] == 0.0 or _FADES in (numbers_before[4], numbers_after[4])
        checked = pairs[:4] if fades else pairs
        if any(abs(a - b) > _CLOSE * max(1.0, abs(a)) for a, b in checked):
            return ["something jumps"]
    return []


def parted(runtime: Runtime) -> list[str]:
    """Whether neighbours in a stack part or overlap while the same ones are there all along."""
    view, target = runtime.view(), runtime.target

    def apart(shown, placed, scene, goal) -> bool:
        if shown.ids != scene.ids or "~" in "".join(shown.ids):
            return False
        style = scene.layout.style
        if scene.kind == "box" and style.flow in ("row", "column") and not style.wrap:
            down = style.flow == "column"
            for n in range(1, len(shown.ids)):
                edges = []
                for at in (placed, goal):
                    starts = at.ys if down else at.xs
                    size = at.children[n - 1].height if down else at.children[n - 1].width
                    edges.append(starts[n] - starts[n - 1] - size)
                drawn = placed.children[n - 1]
                clamped = (drawn.height if down else drawn.width) == 0.0
                if abs(edges[0] - edges[1]) > _APART and not clamped:
                    return True
        pairs = zip(shown.children, placed.children, scene.children, goal.children, strict=True)
        return any(apart(*pair) for pair in pairs)

    if apart(view.scene, view.placed, target.scene, target.placed):
        return ["neighbours part or overlap"]
    return []
