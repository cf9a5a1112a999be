"""Axes reordered, restarted, renamed, given to something else, and given a meaning, at random.

Whatever is done: every variant is drawn as before, and so is every instance (of one that chose
nothing, after another start: as one that chose that); the file comes back the same; what runs does
the same where only names and the order of axes are others; and what is handed over of components
that have nothing to do with it is the same, letter by letter.
"""

from __future__ import annotations

import json
import random
from collections.abc import Callable, Iterator

import msgspec

from outgrowth.core.document.axis_parts import (
    focus_value,
    is_driven,
    pointer_parts,
    reads_yes,
    resting_value,
)
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import MEANINGS, Axis, Component, Document, Node, walk
from outgrowth.core.document.uses import holds_directly
from outgrowth.core.document.variants import variants
from outgrowth.core.edits.tree.trees import rebuilt_tree, with_owner, with_root
from outgrowth.core.edits.variants import axes, driving
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.layout import Layout
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import snapshot
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from tests.fuzz.behaviour import Behaviour, _do
from tests.fuzz.report import Failure, told

Act = Callable[[Document], Document]
_STEPS = 6
_WORDS = ("Default", "Over", "Down", "calm", "ja", "off", "Focused", "x", "yes", "closed")
_HANDED_EVERY = 10


_KEEPING_PARTS = ("move the axis", "move a value", "rename the axis", "rename a value", "start")


def _standing(axis: Axis) -> dict[str, tuple[str, bool, bool]]:
    """What each value of an axis stands for, whether it says yes, and whether it shows the focus."""
    parts = pointer_parts(axis)
    return {
        value.id: (
            parts.get(value.id, ""),
            axis.meaning != "none" and reads_yes(axis, value.id),
            axis.driver == "focus" and focus_value(axis) == value.id,
        )
        for value in axis.values
    }


class Axes:
    """One random document, and acts on its axes, each checked."""

    def __init__(self, seed: int) -> None:
        self.seed = seed
        self.chance = random.Random(seed)
        self.case = Behaviour(seed)
        self.document = self._chosen(self.case.document)
        self.resolver = Resolver()
        self.layout = Layout(Typesetter(shipped(FONTS)))

    def _chosen(self, document: Document) -> Document:
        """The document in which some instances choose values, others none."""

        def choose(node: Node) -> Node:
            component = document.components.get(str(node.style.get("component")))
            if component is None or self.chance.random() < 0.5:
                return node
            axis = self.chance.choice(component.axes)
            value = self.chance.choice(axis.values)
            return msgspec.structs.replace(node, style=node.style.set(CHOICE + axis.id, value.id))

        for owner in list(document.owners()):
            root = rebuilt_tree(owner.root, choose)
            document = with_owner(document, with_root(owner, root))
        return document

    # --- acts ---------------------------------------------------------------------------------

    def _act(self) -> tuple[str, Act, Component, str]:
        chance = self.chance
        component = chance.choice([c for c in self.document.in_order() if c.axes])
        axis = chance.choice(component.axes)
        value = chance.choice(axis.values)
        name = f"{chance.choice(_WORDS)} {chance.randint(1, 99)}"
        name = chance.choice([name, chance.choice(_WORDS)])
        of = component.id, axis.id
        driver = chance.choice(["none", "pointer", "focus"])
        meaning = chance.choice(MEANINGS)
        part = chance.choice(["rest", "hover", "press", "focus", "disabled", "cued", "yes", "no"])
        place, among = chance.randint(0, len(axis.values)), chance.randint(0, 3)
        acts: dict[str, Act] = {
            "move the axis": lambda d: axes.move_axis(d, *of, among),
            "move a value": lambda d: axes.move_value(d, *of, value.id, place),
            "rename the axis": lambda d: axes.rename_axis(d, *of, name),
            "rename a value": lambda d: axes.rename_value(d, *of, value.id, name),
            "start": lambda d: driving.set_start(d, *of, value.id),
            "drive": lambda d: driving.set_driver(d, *of, driver),
            "mean": lambda d: driving.set_meaning(d, *of, meaning),
            "stand for": lambda d: driving.set_part(d, *of, value.id, part),
        }
        kind = chance.choice(list(acts))
        return kind, acts[kind], component, axis.id

    def run(self) -> Iterator[Failure]:
        for step in range(_STEPS):
            kind, act, component, axis_id = self._act()
            before = self.document
            try:
                after = act(before)
            except Refusal as refusal:
                if not str(refusal).strip():
                    yield self._failed(f"{kind}: refused without a word")
                continue
            except Exception as problem:
                yield self._failed(f"{kind}: {told(problem)}")
                continue
            for fault in self._faults(kind, before, after, component.id, axis_id, step):
                yield self._failed(f"{kind}: {fault}")
            self.document = after

    def _failed(self, what: str) -> Failure:
        return Failure("axes", self.seed, what, repr(self.document))

    # --- what has to hold -----------------------------------------------------------------------

    def _faults(
        self, kind: str, before: Document, after: Document, changed: str, axis_id: str, step: int
    ) -> Iterator[str]:
        if loads(dumps(after).encode(), "axes") != after:
            yield "the file does not come back the same"
        old, axis = (d.components[changed].axis(axis_id) for d in (before, after))
        assert axis is not None and old is not None
        restarted = old.default != axis.default
        if not restarted:
            for owner in before.screens:
                if self._screen(before, owner) != self._screen(after, owner):
                    yield "a screen is drawn otherwise"
        else:
            yield from self._restarted(before, after, changed, axis_id)
        for component in before.in_order():
            if restarted and self._holds(before, component, changed):
                continue
            if any(
                self.resolver.variant(before, component.id, variant)
                != self.resolver.variant(after, component.id, variant)
                for variant in variants(component)
            ):
                yield "a variant is drawn otherwise"
        if restarted and kind not in ("start", "drive", "stand for"):
            yield "it starts elsewhere"
        driven = is_driven(axis, axis.default) and axis.default != resting_value(axis)
        if driven and kind in ("start", "drive", "stand for"):
            yield "it starts with what comes and goes with the pointer"
        if kind in _KEEPING_PARTS:
            was, now = _standing(old), _standing(axis)
            # A name that tells more than was known is believed.
            told = {i for i in was if was[i][0] == "cued"} if kind == "rename a value" else set()
            if any(was[i] != now[i] for i in was if i not in told):
                yield "its values stand for something else"
        if axis.driver == "pointer" and "rest" not in pointer_parts(axis).values():
            yield "nothing of the pointer's axis is at rest"
        if axis.driver == "pointer" and pointer_parts(axis)[resting_value(axis)] != "rest":
            yield "it rests where nothing is at rest"
        if kind in ("move the axis", "rename the axis", "rename a value"):
            yield from self._runs_alike(before, after, kind)
        if (self.seed + step) % _HANDED_EVERY == 0:
            yield from self._handed(before, after, changed)

    def _screen(self, document: Document, screen_id: str) -> object:
        return self.resolver.screen(document, document.screens[screen_id])

    @staticmethod
    def _holds(document: Document, component: Component, inner: str) -> bool:
        """Whether a component holds another, through any."""
        waiting, visited = [component.id], set()
        while waiting:
            owner = document.components[waiting.pop()]
            for _, held in holds_directly(owner):
                if held == inner:
                    return True
                if held not in visited:
                    visited.add(held)
                    waiting.append(held)
        return False

    def _restarted(
        self, before: Document, after: Document, changed: str, axis_id: str
    ) -> Iterator[str]:
        """After another start, what chose nothing is as what chose that; all else as before."""
        old = before.components[changed].axis(axis_id)
        new = after.components[changed].axis(axis_id)
        assert old is not None and new is not None
        # Said everywhere, a choice makes the start mean nothing: then nothing may differ.
        said = self._all_choosing(before, changed, axis_id, old.default)
        moved = self._all_choosing(after, changed, axis_id, old.default)
        for screen in before.screens:
            if self._screen(said, screen) != self._screen(moved, screen):
                yield "what chose a value is drawn otherwise"
            told_new = self._all_choosing(before, changed, axis_id, new.default)
            if self._screen(told_new, screen) != self._screen(after, screen):
                yield "what chose nothing is not as what chose the new start"

    @staticmethod
    def _all_choosing(document: Document, changed: str, axis_id: str, value: str) -> Document:
        def choose(node: Node) -> Node:
            name = CHOICE + axis_id
            if node.style.get("component") != changed or name in node.style:
                return node
            return msgspec.structs.replace(node, style=node.style.set(name, value))

        for owner in list(document.owners()):
            root = rebuilt_tree(owner.root, choose)
            document = with_owner(document, with_root(owner, root))
        return document

    def _runs_alike(self, before: Document, after: Document, kind: str) -> Iterator[str]:
        if kind == "move the axis":
            return  # which of two axes that change at one instant comes first may be another
        if self._played(before) != self._played(after):
            yield "what runs does something else"

    def _played(self, document: Document) -> list[str]:
        runtime = Runtime(Resolver(), self.layout, document, Subject("hall"))
        shots = []
        for deed, x, y, wait in self.case.deeds:
            runtime.advance(wait)
            _do(runtime, deed, x, y)
            shot = snapshot(runtime)
            # Names are others where something was renamed; ids and places are not.
            for name in ("named", "problems"):
                shot.pop(name)
            for node in shot["nodes"]:
                node.pop("name")
            shots.append(json.dumps(shot))
        return shots

    def _handed(self, before: Document, after: Document, changed: str) -> Iterator[str]:
        """What is handed over of parts that neither are the changed one nor hold it."""
        old, new = hand_over(before, self.layout), hand_over(after, self.layout)
        for component in before.in_order():
            if component.id == changed or self._holds(before, component, changed):
                continue
            if self._speaks(component, changed):
                continue
            name = f"components/{old.names.owners[component.id].element}.js"
            if old.files.get(name) != new.files.get(name):
                yield "an element that has nothing to do with it is another"

    @staticmethod
    def _speaks(component: Component, changed: str) -> bool:
        """Whether a component names axes of others: one at a time, or of what holds it."""
        once = any("one-at-a-time" in node.style for node in walk(component.root))
        outward = any(c.at for cue in component.behaviour.cues for c in cue.changes)
        return once or outward


def run(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """How many acts were done, and one that failed."""
    done = 0
    while done < count:
        for failure in Axes(seed).run():
            yield done, failure
        done += _STEPS
        yield done, None
        seed += 1
