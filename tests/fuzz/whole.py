"""Whole documents handed over: screens with an arrangement of their own, made of instances whose
slots are filled, whose insides are overridden at any depth and whose words are rich. Each screen,
made of the elements, is compared with our own layout in Chromium: places, sizes, colours.
"""

from __future__ import annotations

import random

import msgspec
from immutables import Map

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Rule,
    Screen,
)
from outgrowth.core.document.values import GROW, FromProperty, Run, Size, fixed
from outgrowth.core.exchange.web.files import Wanted, hand_over
from outgrowth.core.resolve.resolver import Resolver
from tests.fuzz.layout import SEEN, VIEW, WORDS, _without_known, said
from tests.fuzz.report import Failure
from tests.fuzz.report import told as told_of
from tests.fuzz.web import Maker, WebJudge, judging, walked

_PLACED = {
    "width": (GROW, GROW, Size("percent", 60.0), fixed(120.0)),
    "height": (GROW, fixed(40.0)),
    "align-self": ("start", "center", "end", "stretch"),
    "margin-left": (8.0, 24.0),
    "margin-top": (6.0,),
    "margin-right": (12.0,),
    "push-left": (True,),
    "offset-x": (5.0,),
}
"""What the root of a component says of its place among others."""


class WholeMaker(Maker):
    """Makes one document with screens."""

    def document(self):
        document = super().document()
        placed = [self._placed(component) for component in document.in_order()]
        # One that has a slot, and one that puts something into a slot of that.
        bare = [self._bare(kind) for kind in ("image", "text", "shape")]
        self.components = [*placed, *bare]
        self.components.append(self._with_slot("c-slot"))
        self.components.append(self._filling("c-filling"))
        screens = [self.screen(n) for n in range(2)]
        components = Map({c.id: c for c in self.components})
        return msgspec.structs.replace(
            document,
            components=components,
            component_order=tuple(c.id for c in self.components),
            screens=Map({s.id: s for s in screens}),
            screen_order=tuple(s.id for s in screens),
            assets=Map({VIEW.digest: VIEW}),
        )

    def _placed(self, component):
        """The component, whose root says where it stands."""
        rng = self.rng
        style = component.root.style
        for name, values in _PLACED.items():
            if rng.random() < 0.3:
                style = style.set(name, rng.choice(values))
        root = msgspec.structs.replace(component.root, style=style)
        return msgspec.structs.replace(component, root=root)

    def _bare(self, kind):
        """A component that is one picture, text or shape as a whole."""
        rng = self.rng
        style = {"image": self._image, "text": self._text, "shape": self._arc}[kind]()
        if kind == "image":  # without a size of its own it is told
            style |= {"width": fixed(90.0), "height": fixed(50.0)}
        for name, values in _PLACED.items():
            if rng.random() < 0.15:
                style[name] = rng.choice(values)
        root = Node(self.id(), kind, kind, Map(style))
        made = self.components[0]
        return msgspec.structs.replace(
            made, id=f"c-{kind}", name=f"A {kind}", root=root, axes=(), rules=(), properties=()
        )

    def _image(self):
        rng = self.rng
        size = {"width": fixed(90.0), "height": fixed(50.0)}
        fit = rng.choice(("cover", "contain", "stretch", "tile"))
        aspect = {"aspect": 520.0 / 320.0} if rng.random() < 0.3 else {}
        said = {k: v for k, v in size.items() if rng.random() < 0.7}
        return {"picture": SEEN, "fit": fit} | said | aspect

    def _text(self):
        return {"content": self._rich()}

    def _with_slot(self, component_id):
        rng = self.rng
        shown = rng.choice(["", *[c.id for c in self.components]])
        prop = ComponentProperty("p-body", "Body", "slot", shown)
        slot = Node(self.id(), "body", "instance", Map({"component": FromProperty("p-body")}))
        style = self._arranged({"width": rng.choice((fixed(300.0), GROW))})
        text = Node(self.id(), "head", "text", Map({"content": self._rich()}))
        root = Node(self.id(), "root", "box", style, tuple(rng.sample((text, slot), 2)))
        made = self.components[0]
        return msgspec.structs.replace(
            made, id=component_id, name="Slotted", root=root, axes=(), rules=(), properties=(prop,)
        )

    def _filling(self, component_id):
        """A component in which an instance puts something into a slot."""
        holder = self._filled()
        style = self._arranged({"width": fixed(320.0)})
        root = Node(self.id(), "root", "box", style, (holder,))
        made = self.components[0]
        return msgspec.structs.replace(
            made, id=component_id, name="Filling", root=root, axes=(), rules=(), properties=()
        )

    def _filled(self):
        """An instance of what has a slot, with something in it, and something said inside."""
        rng = self.rng
        usual = [c.id for c in self.components if c.id not in ("c-slot", "c-filling")]
        style = {"component": "c-slot", CHOICE + "p-body": rng.choice(usual)}
        if rng.random() < 0.4:
            style["width"] = rng.choice((GROW, fixed(260.0)))
        slotted = next(c for c in self.components if c.id == "c-slot")
        head = next(n for n in walked(slotted.root) if n.kind == "text")
        said = (
            (Map(), (head.id,), "font-size", 19.0),
            (Map(), (head.id,), "content", self._rich()),
        )
        overrides = tuple(Rule(*one) for one in said if rng.random() < 0.4)
        return Node(self.id(), "filled", "instance", Map(style), overrides=overrides)

    def _arranged(self, style):
        rng = self.rng
        flow = rng.choice(("row", "column", "column"))
        arranged = {
            "flow": flow,
            "gap": rng.choice((0.0, 8.0)),
            "justify": rng.choice(("start", "center", "end", "space-between")),
            "align": rng.choice(("start", "center", "end", "stretch")),
            "mirrored": rng.random() < 0.25,
            "wrap": flow == "row" and rng.random() < 0.3,
            "padding-left": rng.choice((0.0, 16.0)),
            "padding-top": rng.choice((0.0, 9.0)),
        }
        return Map({k: v for k, v in arranged.items() if rng.random() < 0.7} | style)

    def _rich(self):
        rng = self.rng
        runs = [
            Run(rng.choice(WORDS) + rng.choice(("", " ")), rng.random() < 0.5, rng.random() < 0.5)
            for _ in range(rng.randint(1, 4))
        ]
        return tuple(run for run in runs if run.text) or (Run("sea"),)

    def screen(self, n):
        rng = self.rng
        children = []
        for _ in range(rng.randint(2, 6)):
            kind = rng.choice(("filled", "filling", "instance", "text", "image", "shape", "box"))
            if kind == "filled":
                children.append(self._filled())
            elif kind == "filling":
                children.append(
                    Node(self.id(), "filling", "instance", Map({"component": "c-filling"}))
                )
            elif kind == "instance":
                children.append(self.instance({}))
            elif kind == "text":
                children.append(Node(self.id(), "words", "text", Map(self._text())))
            elif kind == "image":
                children.append(Node(self.id(), "view", "image", Map(self._image())))
            elif kind == "shape":
                children.append(Node(self.id(), "arc", "shape", Map(self._arc())))
            else:
                _, style, _ = _without_known(("box", said(rng, "box", 0.12), ()))
                text = Node(self.id(), "words", "text", Map({"content": self._rich()}))
                children.append(Node(self.id(), "box", "box", Map(style), (text,)))
        size = {"width": fixed(float(rng.choice((390, 800)))), "height": fixed(844.0)}
        root = Node(self.id(), "screen", "box", self._arranged(size), tuple(children))
        return Screen(f"s{n}", f"Screen {n}", root)

    def _arc(self):
        rng = self.rng
        ring = rng.random() < 0.4  # a part of one that is not square is told
        return {
            "form": "ellipse",
            "arc-start": float(rng.choice((0, 30, 200))),
            "arc-sweep": float(rng.choice((360, 90, -120))),
            "thickness": 6.0 if ring else 0.0,
            "width": fixed(40.0) if ring else fixed(90.0),
            "height": fixed(40.0) if ring else rng.choice((fixed(40.0), GROW)),
        }


def turned(document: Document) -> Document:
    """The document as it stands on a page from right to left: what says a direction says the
    other one."""

    def node(one: Node) -> Node:
        style = one.style
        if one.kind == "box" or "mirrored" in style:
            style = style.set("mirrored", not style.get("mirrored", False))
        return msgspec.structs.replace(
            one,
            style=style,
            children=tuple(map(node, one.children)),
            overrides=tuple(map(rule, one.overrides)),
        )

    def rule(one: Rule) -> Rule:
        flips = one.property == "mirrored"
        return msgspec.structs.replace(one, value=not one.value) if flips else one

    def component(one: Component) -> Component:
        return msgspec.structs.replace(one, root=node(one.root), rules=tuple(map(rule, one.rules)))

    return msgspec.structs.replace(
        document,
        components=Map({key: component(one) for key, one in document.components.items()}),
        screens=Map(
            {
                key: msgspec.structs.replace(one, root=node(one.root))
                for key, one in document.screens.items()
            }
        ),
    )


class WholeJudge:
    """Compares the screens of documents with our own pictures."""

    def __init__(self, judge: WebJudge) -> None:
        self._judge = judge

    def differences(self, document: Document, right_to_left: bool = False) -> list[str]:
        """What differs, as texts; what the export itself said it could not do is left out. A page
        from right to left shows the document that is turned."""
        judge, chromium = self._judge, self._judge.chromium
        for screen in document.screens_in_order():
            # Alone it brings all that it may show.
            made = hand_over(document, judge.layout, Wanted((), (screen.id,)))
            head = b'<html lang="en" dir="rtl">' if right_to_left else b'<html lang="en">'
            pages = {p: d for p, d in made.files.items() if p.endswith(".html")}
            judge.served(
                made.files | {p: d.replace(b'<html lang="en">', head) for p, d in pages.items()}
            )
            if made.problems:
                continue
            name = made.names.owners[screen.id].element
            chromium.get(f"{judge.address}screens/{name}.html")
            chromium.execute_script(judge.read)
            theirs = chromium.execute_async_script(
                "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame("
                "() => { const screen = document.querySelector('main'); untransformed(screen);"
                "done(treeOf(screen)); }));"
            )
            scene = Resolver().screen(document, screen, rtl=right_to_left)
            if scene.problem:
                continue
            # It stands at the right of such a page.
            left = theirs["rect"][0] if right_to_left else 0.0
            scene, placed = judge.layout.view(scene)
            told = judge.compared(scene, placed, theirs, screen.id, left)
            if told:
                return told
        return []


def run(seed, count):
    """Documents from a seed on, each with what differs."""
    with judging() as judge:
        for n in range(count):
            document = WholeMaker(random.Random(seed + n)).document()
            try:
                whole = WholeJudge(judge)
                told = whole.differences(document) or [
                    f"right to left: {one}"
                    for one in whole.differences(document, right_to_left=True)
                ]
            except Exception as problem:  # whatever it is, it is a finding
                told = [told_of(problem)]
            failure = None
            if told:
                place, _, _ = told[0].partition(":")
                failure = Failure("whole", seed + n, told[0][:300], place)
            yield n + 1, failure
