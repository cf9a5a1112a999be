"""Parts shown in a mode of their own, against a walk that knows nothing of the resolver."""

import random

import msgspec
import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Node,
    Rule,
    Screen,
    find,
)
from outgrowth.core.document.values import FromProperty, Shadow, Token
from outgrowth.core.edits.instances import detach
from outgrowth.core.edits.tokens import remove_mode, set_token, show_mode
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.core.resolve.resolver import Resolver

MODES = ("dark", "calm")
SAID = ("", "", "usual", "gone", *MODES)


def tint(rng):
    return parse(f"#{rng.randrange(1 << 24):06X}")


def token(rng):
    modes = {mode: tint(rng) for mode in MODES if rng.random() < 0.6}
    return DesignToken("color", tint(rng), modes=Map(modes))


class Maker:
    """Components in components in a screen, in which anything may say a mode."""

    def __init__(self, seed):
        self.rng = random.Random(seed)
        self.count = 0
        self.inside = True

    def document(self):
        rng = self.rng
        tokens = {f"color.t{n}": token(rng) for n in range(3)}
        calm = Map({"calm": Token("color.t0")})
        tokens["color.alias"] = DesignToken("color", Token("color.t1"), modes=calm)
        document = Document("sea", tokens=Map(tokens), modes=MODES, mode=rng.choice(("", *MODES)))
        names = []
        for n in range(rng.randint(1, 3)):
            document = add_component(document, self.component(f"c{n}", names))
            names.append(f"c{n}")
        self.inside = False
        root = self.node("box", names, 0)
        return add_screen(document, Screen("s", "S", root))

    def component(self, name, names):
        rng = self.rng
        root = self.node("box", names, 1)
        axis = Axis("on", "On", (AxisValue("no", "no"), AxisValue("yes", "yes")), "no")
        rule = Rule(Map({"on": "yes"}), (root.id,), "mode", rng.choice(SAID))
        properties = (ComponentProperty("tint", "Tint", "color", tint(rng)),)
        return Component(name, name, root, (axis,), (rule,), properties)

    def node(self, kind, names, level):
        rng = self.rng
        self.count += 1
        name = f"n{self.count}"
        style = {"mode": rng.choice(SAID)} if rng.random() < 0.5 else {}
        paths = ("color.t0", "color.t1", "color.t2", "color.alias")
        if kind == "instance":
            style |= {"component": rng.choice(names), CHOICE + "on": rng.choice(("no", "yes"))}
            style[CHOICE + "tint"] = Token(rng.choice(paths))
            return Node(name, "n", "instance", Map(style))
        shadow = (Shadow(tint(rng), token=rng.choice(paths)),)
        tinted = FromProperty("tint") if self.inside else Token(rng.choice(paths))
        style |= {"fill": Token(rng.choice(paths)), "stroke": tinted, "shadow": shadow}
        kinds = ["box"] * (level < 3) + (["instance"] if names else [])
        chosen = [rng.choice(kinds) for _ in range(rng.randint(0, 3))] if kinds else []
        children = tuple(self.node(k, names, level + 1) for k in chosen)
        return Node(name, "n", "box", Map(style), children)


def walked(document):
    """The colours of all boxes in order, worked out by following the words."""
    results = []

    def color(path, mode):
        for _ in range(9):
            held = document.tokens[path]
            value = held.modes.get(mode, held.value)
            if not isinstance(value, Token):
                return value
            path = value.path
        raise AssertionError

    def mode_of(said, around):
        return said if said in MODES else "" if said == "usual" else around

    def visit(node, mode, tinted, more):
        said = more if more is not None else node.style.get("mode", "")
        mode = mode_of(said, mode)
        if node.kind == "instance":
            part = document.components[node.style["component"]]
            rule = part.rules[0]
            choice = color(node.style[CHOICE + "tint"].path, mode)
            own = part.root.style.get("mode")
            if node.style[CHOICE + "on"] == "yes":
                own = rule.value
            # What the instance says of its root counts more than what its component says.
            own = node.style.get("mode", own if own is not None else "")
            visit(part.root, mode, choice, own)
            return
        stroke = node.style["stroke"]
        stroke = tinted if isinstance(stroke, FromProperty) else color(stroke.path, mode)
        fill = color(node.style["fill"].path, mode)
        results.append((fill, stroke, color(node.style["shadow"][0].token, mode)))
        for child in node.children:
            visit(child, mode, tinted, None)

    visit(document.screens["s"].root, document.mode, None, None)
    return results


def seen(scene):
    paint = scene.paint
    yield paint.fill, paint.stroke, paint.shadow[0].color
    for child in scene.children:
        yield from seen(child)


@pytest.mark.parametrize("seed", range(150))
def test_modes_inside_of_modes_through_edits(seed):
    maker = Maker(seed)
    document, rng, resolver = maker.document(), maker.rng, Resolver()
    for _ in range(6):
        assert list(seen(resolver.screen(document, document.screens["s"]))) == walked(document)
        dice = rng.random()
        if dice < 0.4:
            document = set_token(document, f"color.t{rng.randrange(3)}", token(rng))
        elif dice < 0.6:
            document = show_mode(document, rng.choice(("", *document.modes)))
        else:
            nodes = list(flat(document.screens["s"].root))
            node = rng.choice(nodes)
            said = node.style.set("mode", rng.choice(SAID))
            document = with_style(document, node.id, said)


def flat(node):
    yield node
    for child in node.children:
        yield from flat(child)


def with_style(document, node_id, style):
    def changed(node):
        if node.id == node_id:
            return msgspec.structs.replace(node, style=style)
        return msgspec.structs.replace(node, children=tuple(map(changed, node.children)))

    screen = document.screens["s"]
    screen = msgspec.structs.replace(screen, root=changed(screen.root))
    return msgspec.structs.replace(document, screens=document.screens.set("s", screen))


@pytest.mark.parametrize("seed", range(150, 250))
def test_what_the_ledger_says_and_what_is_left_of_an_instance_are_what_is_seen(seed):
    document = Maker(seed).document()
    before = walked(document)
    root = document.screens["s"].root
    drawn = iter(list(seen(Resolver().screen(document, document.screens["s"]))))

    def check(node, path):
        if node.kind == "instance":
            part = document.components[node.style["component"]]
            said = [value_at(document, Place("s", (*path, node.id)), n) for n in ("fill", "stroke")]
            assert next(drawn)[:2] == tuple(said)
            for child in part.root.children:
                check(child, (*path, node.id))
            return
        said = [value_at(document, Place("s", (*path, node.id)), n) for n in ("fill", "stroke")]
        assert next(drawn)[:2] == tuple(said)
        for child in node.children:
            check(child, path)

    check(root, ())
    for node in flat(root):
        if node.kind == "instance" and find(document.screens["s"].root, node.id) is not None:
            document = detach(document, "s", node.id)
    scene = Resolver().screen(document, document.screens["s"])
    assert list(seen(scene)) == before


def test_a_mode_that_is_removed_says_nothing():
    document = show_mode(Maker(3).document(), "")
    dark = document.screens["s"].root.style.set("mode", "dark")
    document = with_style(document, document.screens["s"].root.id, dark)
    after = remove_mode(document, "dark")
    assert after.screens["s"].root.style["mode"] == ""
    assert "dark" not in {r.value for c in after.components.values() for r in c.rules}
