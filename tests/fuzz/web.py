"""Random components with axes, rules, shifts, tokens, switches, slots, instances in instances and
overrides, handed over as code and compared with our own layout in Chromium: every variant, its
places, sizes and colours.

What a component may say comes from the property table alone, by the layout room's values.
"""

from __future__ import annotations

import contextlib
import random
import tempfile
from pathlib import Path

import msgspec
from coloraide import Color as AnyColor
from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.properties import CHOICE, TABLE
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Node,
    Rule,
)
from outgrowth.core.document.values import FromProperty, Shadow, Shift, Token, fixed, words
from outgrowth.core.document.variants import variants
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter
from outgrowth.resources import FONTS
from tests.fuzz.layout import ROWS, TOLERANCE, WORDS, _without_known, said, value
from tests.fuzz.report import Failure
from tests.fuzz.report import told as told_of

LEVELS = 2.0
MODES = ("", "usual", "dark", "calm", "gone")
_COLORS = ("fill", "stroke", "color")
_PAINTS = (
    "opacity",
    "radius-top-left",
    "radius-bottom-right",
    "stroke-top",
    "scale",
    "rotate",
    "translate-x",
)
_LEFT_OUT = {"content", "columns", "rows"}


def color(rng):
    return Color(*(rng.randrange(256) / 255 for _ in range(3)), 1.0 if rng.random() < 0.7 else 0.4)


def painted(rng, kind):
    """What is drawn of a node, some of it by tokens."""
    style = {}
    for name in _COLORS:
        if kind in TABLE[name].kinds and rng.random() < 0.4:
            style[name] = (
                Token(rng.choice(("color.a", "color.b", "color.c")))
                if rng.random() < 0.4
                else color(rng)
            )
    if rng.random() < 0.1:
        style["mode"] = rng.choice(MODES)
    if kind == "box" and rng.random() < 0.3:
        style |= {f"stroke-{side}": 2.0 for side in ("top", "right", "bottom", "left")}
    if kind == "box" and rng.random() < 0.2:
        token = rng.choice(("", "color.a", "color.b", "gone"))
        style["shadow"] = (Shadow(color(rng), 0.0, 2.0, 4.0, token=token),)
    return style


class Maker:
    """Makes one document."""

    def __init__(self, rng):
        self.rng = rng
        self.components: list[Component] = []
        self._ids = 0
        # Beside the other numbers, so that seeds from before mean what they meant.
        self.more = random.Random(str(rng.getstate()))  # a hash of None is another in each run
        self.opens = self.more.random() < 0.4

    def document(self):
        rng = self.rng
        dark, calm = Map({"dark": color(rng)}), Map({"calm": color(rng), "dark": Token("color.a")})
        tokens = {"color.a": DesignToken("color", color(rng), modes=dark), "color.b": DesignToken("color", Token("color.a")),
                  "color.c": DesignToken("color", color(rng), modes=calm),
                  "space.a": DesignToken("dimension", float(rng.randint(0, 20)))}  # fmt: skip
        for n in range(rng.randint(2, 4)):
            self.components.append(self.component(n))
        order = tuple(c.id for c in self.components)
        components = Map({c.id: c for c in self.components})
        return Document(
            "sea", components, component_order=order, tokens=Map(tokens), modes=("dark", "calm")
        )

    def component(self, n):
        rng = self.rng
        axes = tuple(self.axis(k) for k in range(rng.randint(0, 3)))
        properties = []
        if rng.random() < 0.5:
            properties.append(ComponentProperty("p-show", "Shows", "switch", rng.random() < 0.5))
        if rng.random() < 0.4:
            properties.append(ComponentProperty("p-color", "Tint", "color", color(rng)))
        if self.opens:
            properties = [p for p in properties if p.kind != "color"]
            default = self.more.choice((Token("color.b"), Shift("darken", 0.2), Shift("fade", 0.3)))
            properties.append(ComponentProperty("p-color", "Tint", "color", default))
            properties.append(ComponentProperty("p-gap", "Air", "number", Token("space.a")))
        if rng.random() < 0.5:
            properties.append(
                ComponentProperty(
                    "p-text", "Words", "text", words(rng.choice(WORDS).strip() or "sea")
                )
            )
        if self.components and rng.random() < 0.4:
            properties.append(
                ComponentProperty("p-slot", "Inside", "slot", rng.choice(self.components).id)
            )
        root = self.tree([p for p in properties if not isinstance(p.default, Shift)])
        nodes = list(walked(root))
        rules = tuple(
            r for _ in range(rng.randint(0, 10)) if axes for r in self.rule(axes, nodes, root)
        )
        if self.opens and axes:
            rules = tuple(
                msgspec.structs.replace(rule, value=FromProperty("p-color"))
                if rule.property in ("fill", "color") and len(rule.node) == 1
                and self.more.random() < 0.5
                else rule
                for rule in rules
            )  # fmt: skip
            box = self.more.choice([node for node in nodes if node.kind == "box"])
            when = Map({axes[0].id: axes[0].values[-1].id})
            rules += (Rule(when, (box.id,), "gap", FromProperty("p-gap")),)
        return Component(f"c{n}", f"Part {n}", root, axes, rules, tuple(properties))

    def axis(self, k):
        rng = self.rng
        names = rng.choice((("no", "yes"), ("small", "large", "huge"), ("rest", "hover", "press")))
        driver = "pointer" if names[0] == "rest" and k == 0 else "none"
        if names[0] == "rest" and driver == "none":
            names = ("one", "two", "three")
        values = tuple(AxisValue(name, name) for name in names)
        made = Axis(f"a{k}", f"Axis {k}", values, names[0], driver)
        if self.more.random() < 0.3:
            return self.more_of(made)
        return made

    def more_of(self, axis):
        """The axis by other names, or with another start."""
        if axis.driver == "pointer":
            words = ("Default", "Over", "rest")
            parts = ("rest", "hover", "press")
            values = tuple(
                msgspec.structs.replace(value, name=word, part=part)
                for value, word, part in zip(axis.values, words, parts, strict=True)
            )
            return msgspec.structs.replace(axis, values=values)
        return msgspec.structs.replace(axis, default=axis.values[-1].id)

    def id(self):
        self._ids += 1
        return f"n{self._ids}"

    def tree(self, properties):
        _, style, children = _without_known(self.plain_tree())
        alone = {"width": fixed(float(self.rng.randint(120, 500)))}
        return self.made("box", style | alone, children, properties)

    def plain_tree(self):
        rng = self.rng
        left = [rng.randint(3, 10)]

        def node(level, kind):
            left[0] -= 1
            children = []
            if kind == "box":
                for _ in range(rng.randint(1, 4)):
                    if left[0] > 0:
                        children.append(
                            node(
                                level + 1,
                                rng.choice(("box", "text", "text", "shape"))
                                if level < 3
                                else "text",
                            )
                        )
            return kind, said(rng, kind, 0.12), tuple(children)

        return node(1, "box")

    def made(self, kind, style, children, properties):
        rng = self.rng
        style = {k: v for k, v in style.items() if k not in _LEFT_OUT or k == "content"} | painted(
            rng, kind
        )
        kinds = {p.kind: p.id for p in properties}
        if kind == "text" and "text" in kinds and rng.random() < 0.4:
            style["content"] = FromProperty(kinds["text"])
        if kind == "text" and not style.get("content"):
            style["content"] = words("sea")
        if "color" in kinds and rng.random() < 0.3:
            name = "color" if kind == "text" else "fill"
            style[name] = FromProperty(kinds["color"])
        if "switch" in kinds and rng.random() < 0.2:
            style["shown"] = FromProperty(kinds["switch"])
        if kind == "box" and rng.random() < 0.2:
            style["gap"] = Token("space.a")
        if kind == "shape":
            style |= {"form": "ellipse"} if rng.random() < 0.5 else {"path": "M0 0L24 24"}
        inner = [self.made(*child, properties) for child in children]
        if kind == "box" and self.components and rng.random() < 0.5:
            inner.append(self.instance(kinds))
        node_id = self.id()
        return Node(node_id, f"{kind} {rng.choice('abc')}", kind, Map(style), tuple(inner))

    def instance(self, kinds):
        rng = self.rng
        component = rng.choice(self.components)
        slot = "slot" in kinds and rng.random() < 0.4
        style = {"component": FromProperty(kinds["slot"]) if slot else component.id}
        if slot:
            return Node(self.id(), "slot", "instance", Map(style))
        style |= self.choices(component)
        for row in ROWS:
            if row.role in ("placement", "size") and rng.random() < 0.06 and row.name != "sticks":
                style[row.name] = value(rng, row)
        if component.root.kind == "box" and rng.random() < 0.3:
            style["fill"] = color(rng)
        overrides = []
        nodes = [node for node in walked(component.root) if node is not component.root]
        for _ in range(rng.randint(0, 2) if nodes else 0):
            node = rng.choice(nodes)
            name, held = self.said_of(node)
            when = {}
            if component.axes and rng.random() < 0.4:
                axis = rng.choice(component.axes)
                when = {axis.id: rng.choice(axis.values).id}
            overrides.append(Rule(Map(when), (node.id,), name, held))
        return Node(self.id(), "part", "instance", Map(style), overrides=tuple(overrides))

    def choices(self, component):
        rng, found = self.rng, {}
        for axis in component.axes:
            if axis.driver == "none" and rng.random() < 0.5:
                found[CHOICE + axis.id] = rng.choice(axis.values).id
        for prop in component.properties:
            if rng.random() < 0.5:
                given = {"switch": rng.random() < 0.5, "number": 7.0, "color": color(rng), "text": rng.choice(("Berth", "A longer text")),
                         "slot": rng.choice(["", *[c.id for c in self.components if c.id < component.id]])}  # fmt: skip
                found[CHOICE + prop.id] = given[prop.kind]
        return found

    def said_of(self, node):
        """A property of a node and a value for it."""
        rng = self.rng
        if rng.random() < 0.06:
            return "mode", rng.choice(MODES)
        if node.kind == "instance":
            return rng.choice(
                (
                    ("opacity", 0.5),
                    ("mode", rng.choice(MODES)),
                    ("margin-left", 6.0),
                    ("shown", False),
                )
            )
        rows = [
            r
            for r in TABLE.values()
            if node.kind in r.kinds and (r in ROWS or r.name in (*_COLORS, *_PAINTS, "shown"))
        ]
        row = rng.choice(
            [r for r in rows if r.name not in (*_LEFT_OUT, "sticks", "wrap", "aspect", "max-lines")]
        )
        if row.name in _COLORS:
            return row.name, color(rng)
        if row.name == "shown":
            return "shown", rng.random() < 0.5
        if row.name in _PAINTS:
            return row.name, rng.choice((0.5, 1.0, 0.8))
        return row.name, value(rng, row)

    def rule(self, axes, nodes, root):
        """A rule about a node of the tree, or one inside an instance of it."""
        rng = self.rng
        picked = rng.sample(axes, rng.randint(1, len(axes)))
        when = Map({axis.id: rng.choice(axis.values).id for axis in picked})
        node = rng.choice(nodes)
        path = (node.id,)
        if node.kind == "instance":
            component = next(
                (c for c in self.components if c.id == node.style.get("component")), None
            )
            if component is None:
                return
            if component.axes and rng.random() < 0.4:
                axis = rng.choice(component.axes)
                if axis.driver == "none":
                    yield Rule(when, path, CHOICE + axis.id, rng.choice(axis.values).id)
                return
            inner = rng.choice(list(walked(component.root)))
            if inner is not component.root:
                yield Rule(when, (*path, inner.id), *self.said_of(inner))
            else:
                yield Rule(when, path, *self.said_of(inner))
            return
        name, held = self.said_of(node)
        if name in ("fill", "color", "opacity", "gap") and rng.random() < 0.4:
            held = Shift("darken", 0.1) if name in ("fill", "color") else Shift("multiply", 0.8)
        if node is root and name == "shown":
            return
        yield Rule(when, path, name, held)


def walked(node):
    yield node
    for child in node.children:
        yield from walked(child)


class WebJudge:
    """Compares documents' code with our own pictures."""

    def __init__(self, chromium, fonts, folder, address):
        from tests.browser.web.elements import READ

        self.chromium, self._folder, self.address, self.read = chromium, folder, address, READ
        self.layout = Layout(Typesetter(fonts))

    def differences(self, document):
        """What differs, as texts; what the export itself said it could not do is left out."""
        from tests.browser.web.elements import SHOW, attributes_of, page_of_elements

        made = hand_over(document, self.layout)
        self.served({p: d for p, d in made.files.items() if p.endswith((".js", ".css", ".ttf"))})
        if made.problems:
            return []
        page_of_elements(
            self._folder, "page", [made.names.owners[c.id].element for c in document.in_order()]
        )
        self.chromium.get(f"{self.address}page.html")
        self.chromium.execute_script(self.read)
        told = []
        resolver = Resolver()
        for component in document.in_order():
            names = made.names.owners[component.id]
            cases = list(variants(component))
            random.Random(1).shuffle(cases)
            for variant in cases[:12]:
                attributes, live = attributes_of(names, component, variant)
                self.chromium.execute_async_script(SHOW, names.element, attributes, live)
                theirs = self.chromium.execute_script(
                    "const element = document.body.firstElementChild.firstElementChild;"
                    "untransformed(element); return getComputedStyle(element).display === 'none' ? null : treeOf(element);"
                )
                scene = resolver.variant(document, component.id, variant)
                if scene.problem or theirs is None:
                    continue
                where = f"{component.id} {dict(variant)}"
                told += self.compared(scene, self.layout.place(scene.layout), theirs, where)
                if told:
                    return told
        return told

    def served(self, files):
        """Puts files where Chromium gets them."""
        for path, data in files.items():
            file = self._folder / path
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_bytes(data)

    def compared(self, scene, placed, theirs, path, x=0.0, y=0.0):
        """The first edge, colour or child that differs, as a text."""
        for edge, a, b in zip(
            "xywh", (x, y, placed.width, placed.height), theirs["rect"], strict=True
        ):
            if not abs(a - b) <= TOLERANCE:
                return [f"{path} {edge}: {a:.2f} here, {b:.2f} in Chromium"]
        told = self._colored(scene, theirs, path)
        if told:
            return told
        if len(theirs["children"]) != len(scene.children):
            return [f"{path} shows {[c['name'] for c in theirs['children']]}, not {scene.names}"]
        for n, child in enumerate(scene.children):
            told = self.compared(
                child,
                placed.children[n],
                theirs["children"][n],
                f"{path}/{scene.ids[n]}",
                x + placed.xs[n],
                y + placed.ys[n],
            )
            if told:
                return told
        return []

    def _colored(self, scene, theirs, path):
        if abs(float(theirs["opacity"]) - scene.paint.opacity) > 0.005:
            return [f"{path} opacity: {scene.paint.opacity} here, {theirs['opacity']} in Chromium"]
        ours = {"box": scene.paint.fill, "text": scene.paint.color}.get(scene.kind)
        said = theirs["fill"] if scene.kind == "box" else theirs["color"]
        if not isinstance(ours, Color):
            return []
        other = AnyColor(said).convert("srgb")
        alpha = other.alpha(nans=False)
        pairs = [(ours.alpha, alpha)]
        for a, b in zip((ours.red, ours.green, ours.blue), other.coords(nans=False), strict=True):
            pairs.append((a * ours.alpha, min(max(b, 0.0), 1.0) * alpha))
        if max(abs(a - b) for a, b in pairs) * 255 > LEVELS:
            return [f"{path} colour: {ours.hex} here, {said} in Chromium"]
        return []


@contextlib.contextmanager
def judging(fonts=None, judge=WebJudge):
    """A judge over a Chromium of its own and a server on this machine."""
    from outgrowth.core.text.fonts import shipped
    from tests.browser.conftest import started
    from tests.browser.web.conftest import serve

    with tempfile.TemporaryDirectory() as room:
        folder = Path(room) / "served"
        folder.mkdir()
        server, chromium = serve(folder), started(Path(room) / "profile")
        try:
            yield judge(
                chromium, fonts or shipped(FONTS), folder, f"http://127.0.0.1:{server.server_port}/"
            )
        finally:
            chromium.quit()
            server.shutdown()
            server.server_close()


def run(seed, count):
    """Documents from a seed on, each with what differs."""
    with judging() as judge:
        yield from judged(
            "web", judge, lambda n: Maker(random.Random(n)).document(), range(seed, seed + count)
        )


def judged(what, judge, made, seeds):
    """The documents of some seeds, each with what differs: how many there were, and a failure."""
    for count, seed in enumerate(seeds, 1):
        try:
            told = judge.differences(made(seed))
        except Exception as problem:  # whatever it is, it is a finding
            told = [told_of(problem)]
        if told:
            place, _, _ = told[0].partition(":")
            yield count, Failure(what, seed, told[0][:300], place)
        else:
            yield count, None
