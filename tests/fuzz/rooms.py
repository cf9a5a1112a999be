"""Random components whose rooms decide what they are, one in another, as elements in Chromium beside
our own layout: each in a dozen rooms, one after the other in the same element, as when an edge is
dragged.

What they say comes from the web generator; here one axis of most is given to the room.
"""

from __future__ import annotations

import random

import msgspec
from immutables import Map

from outgrowth.core.document.records import Component, Document, Node
from outgrowth.core.document.rooms import says_before_room
from outgrowth.core.document.values import Size
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.resolver import Resolver
from tests.fuzz.web import Maker, WebJudge, judged, judging

WIDTHS = 12
NARROWEST, WIDEST = 24, 900
_GROWS = Size("grow", 1.0)
_OF_ROOT = {"width", "min-width", "max-width", "aspect"}
"""What the rooms that are tried here say of a root."""

SHOW = """
const [tag, done] = arguments;
document.body.replaceChildren();
const holder = document.body.appendChild(document.createElement("div"));
holder.style.cssText = "position: absolute; left: 0; top: 0; width: 4000px";
customElements.whenDefined(tag).then(() => { holder.append(document.createElement(tag)); document.fonts.ready.then(() => done(null)); });
"""
AT = """
const [width, height, done] = arguments, element = document.body.firstElementChild.firstElementChild;
element.style.cssText = `width: ${width}px; min-width: 0; max-width: none` + (height ? `; height: ${height}px` : "");
const read = () => { untransformed(element); done(getComputedStyle(element).display === "none" ? null : treeOf(element)); };
requestAnimationFrame(() => requestAnimationFrame(() => document.fonts.ready.then(() => requestAnimationFrame(read))));
"""


def with_rooms(document: Document, rng: random.Random) -> Document:
    """The document, one axis of most components set by the room."""
    components = {c.id: _by_room(c, rng) for c in document.in_order()}
    return msgspec.structs.replace(document, components=Map(components))


def _by_room(component: Component, rng: random.Random) -> Component:
    axes = list(component.axes)
    free = [n for n, axis in enumerate(axes) if axis.driver == "none"]
    if not free or rng.random() < 0.15:
        return component
    n = rng.choice(free)
    leasts = [0, *sorted(rng.sample(range(40, 700, 20), len(axes[n].values) - 1))]
    if rng.random() < 0.1:
        leasts[-1] = leasts[0]
    rng.shuffle(leasts)
    unit = rng.choice(("px", "px", "px", "ch"))
    values = tuple(
        msgspec.structs.replace(value, least=float(least) / (10 if unit == "ch" else 1))
        for value, least in zip(axes[n].values, leasts, strict=True)
    )
    axes[n] = msgspec.structs.replace(axes[n], values=values, driver="room", unit=unit)
    style = component.root.style.set("width", _GROWS)
    for name in _OF_ROOT - {"width"}:
        style = style.delete(name) if name in style else style
    root = msgspec.structs.replace(component.root, style=style)
    held = msgspec.structs.replace(component, axes=tuple(axes), root=root)
    rules = tuple(
        rule
        for rule in component.rules
        if not says_before_room(held, rule)
        and not (rule.node == (root.id,) and rule.property in _OF_ROOT)
    )
    return msgspec.structs.replace(held, rules=rules)


def with_growing_letters(document: Document, rng: random.Random) -> Document:
    """The document, some of its letters growing with the room."""
    components = {}
    for component in document.in_order():
        grows = getattr(component.root.style.get("width"), "mode", "") == "grow"
        root = _growing(component.root, rng) if grows else component.root
        components[component.id] = msgspec.structs.replace(component, root=root)
    return msgspec.structs.replace(document, components=Map(components))


def _growing(node: Node, rng: random.Random) -> Node:
    if node.kind == "text" and rng.random() < 0.4:
        said = {"fluid-size": float(rng.randint(8, 48)), "fluid-from": float(rng.randint(0, 400))}
        said |= {"fluid-until": float(rng.randint(300, 900))} if rng.random() < 0.7 else {}
        return msgspec.structs.replace(node, style=node.style.update(said))
    inside = tuple(_growing(child, rng) for child in node.children)
    return msgspec.structs.replace(node, children=inside)


class RoomJudge(WebJudge):
    """Compares elements in rooms with our own pictures."""

    def differences(self, document):
        """What differs, as texts; what the export itself said it could not do is left out."""
        from tests.browser.web.elements import page_of_elements

        made = hand_over(document, self.layout)
        self.served({p: d for p, d in made.files.items() if p.endswith((".js", ".css", ".ttf"))})
        if made.problems:
            return []
        elements = {c.id: made.names.owners[c.id].element for c in document.in_order()}
        page_of_elements(self._folder, "page", list(elements.values()))
        self.chromium.get(f"{self.address}page.html")
        self.chromium.execute_script(self.read)
        resolver, rng = Resolver(), random.Random(document.name)
        for component in document.in_order():
            scene = resolver.instance(document, InstanceInput(component.id))
            if scene.problem or scene.layout.style.width.mode != "grow":
                continue
            self.chromium.execute_async_script(SHOW, elements[component.id])
            for _ in range(WIDTHS):
                width = float(rng.randint(NARROWEST, WIDEST))
                theirs = self.chromium.execute_async_script(AT, width, 0)
                if theirs is None:
                    continue
                shown, placed = self.layout.view(scene, width)
                told = self.compared(shown, placed, theirs, f"{component.id} in {width:g}")
                if told:
                    return told
        return []


def made(seed: int) -> Document:
    """The document of a seed."""
    rng = random.Random(seed)
    rooms = random.Random(f"rooms {seed}")
    return with_growing_letters(with_rooms(Maker(rng).document(), rooms), rooms)


def run(seed, count):
    """Documents from a seed on, each with what differs."""
    with judging(judge=RoomJudge) as judge:
        yield from judged("rooms", judge, made, range(seed, seed + count))
