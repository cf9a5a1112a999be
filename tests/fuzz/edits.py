"""Random edits, one after the other, on documents of the demo and on small odd ones.

Held throughout: an edit gives a document or one Refusal that is a sentence; the document
before is untouched; what it became can be written, and read again it is the same, to the bit;
and what is drawn with all that is remembered is what is drawn from nothing.
"""

from __future__ import annotations

import json
import math
import random
from collections.abc import Callable, Iterator

import jsonschema
import msgspec
from immutables import Map

from demo import ferry_line
from outgrowth.core.document.axis_parts import POINTER_PARTS, SAYING_PARTS
from outgrowth.core.document.cues import ACTS, TRIGGERS, Change, Cue, Motion, Trigger
from outgrowth.core.document.keeping import KeptTrial, Waiver
from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES, TOKEN_TYPES
from outgrowth.core.document.records import (
    MEANINGS,
    Asset,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Node,
    Screen,
    walk,
)
from outgrowth.core.document.values import Picture, Shift, Token
from outgrowth.core.document.variants import default_variant, variants
from outgrowth.core.edits import (
    Refusal,
    at_reach,
    clipping,
    cues,
    instances,
    keeping,
    sides,
    tokens,
)
from outgrowth.core.edits.gather import GatheredDrawing, gather, gathered
from outgrowth.core.edits.instances import extract, properties
from outgrowth.core.edits.style import pictures, places, styles
from outgrowth.core.edits.tree import arrange, components, drawing, nodes, owners
from outgrowth.core.edits.variants import axes, driving, rules
from outgrowth.core.exchange.native import dumps, loads, schema
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.recorder import record
from outgrowth.core.resolve.ladder import Place, inspect, ladder
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from tests.fuzz import values
from tests.fuzz.report import Failure, bad_sentence, told


def sequence(seed: int, steps: int, start: Document | None = None) -> Iterator[Failure]:
    """One run of edits. Yields what broke, and goes on from the document before."""
    world = World(seed, start or begin(seed))
    for n in range(steps):
        yield from world.step(n)


def begin(seed: int) -> Document:
    """The demo, or (every other time) an empty file."""
    return _DEMO[0] if seed % 2 else Document("Untitled")


_DEMO = [ferry_line()]
VALIDATOR = jsonschema.Draft202012Validator(schema())


class World:
    """A document under random edits, with the stages that remember it."""

    def __init__(self, seed: int, document: Document) -> None:
        self.seed = seed
        self.rng = random.Random(seed)
        self.document = document
        self.fonts = shipped(FONTS)
        self.resolver = Resolver()
        self.layout = Layout(Typesetter(self.fonts))
        self.trail: list[str] = []
        self.count = 0
        self.clip: Document | None = None
        self.done = 0

    # --- picking ----------------------------------------------------------------------------

    def new_id(self, kind: str = "n") -> str:
        self.count += 1
        if self.rng.random() < 0.02:
            return values.word(self.rng) or "odd"
        return f"{kind}-{self.seed}-{self.count}"

    def owner(self, component: bool | None = None):
        pool = list(self.document.owners())
        if component is not None:
            pool = [o for o in pool if isinstance(o, Component) is component]
        return self.rng.choice(pool) if pool else None

    def owner_id(self, component: bool | None = None) -> str:
        owner = self.owner(component)
        return owner.id if owner is not None and self.rng.random() < 0.98 else "nowhere"

    def node(self, owner_id: str, kind: str | None = None) -> Node | None:
        owner = self.document.owner(owner_id)
        pool = [n for n in walk(owner.root) if kind in (None, n.kind)] if owner else []
        return self.rng.choice(pool) if pool else None

    def node_id(self, owner_id: str, kind: str | None = None) -> str:
        node = self.node(owner_id, kind)
        return node.id if node is not None and self.rng.random() < 0.98 else "gone"

    def path(self, owner_id: str) -> tuple[str, ...]:
        """A path of ids, into instances now and then."""
        if self.rng.random() < 0.1:
            return ()
        node = self.node(owner_id)
        if node is None:
            return ("gone",)
        path = [node.id]
        while node is not None and node.kind == "instance" and self.rng.random() < 0.6:
            held = node.style.get("component")
            node = self.node(held) if isinstance(held, str) else None
            if node is not None:
                path.append(node.id)
        return tuple(path)

    def variant(self, component: Component | None):
        if component is None:
            return Map()
        some = [v for v, _ in zip(variants(component), range(40), strict=False)]
        return self.rng.choice(some) if some else default_variant(component)

    def reach(self, owner_id: str):
        owner = self.document.owner(owner_id)
        if not isinstance(owner, Component) or not owner.axes or self.rng.random() < 0.4:
            return Map({"no axis": "no value"}) if self.rng.random() < 0.03 else Map()
        chosen = self.rng.sample(owner.axes, self.rng.randint(1, min(2, len(owner.axes))))
        return Map({a.id: self.rng.choice(a.values).id for a in chosen})

    def properties_of(self, owner_id: str) -> tuple[str, ...]:
        owner = self.document.owner(owner_id)
        return tuple(p.id for p in owner.properties) if isinstance(owner, Component) else ()

    def axis(self, owner_id: str) -> tuple[str, str]:
        owner = self.document.owner(owner_id)
        if not isinstance(owner, Component) or not owner.axes:
            return "none", "none"
        axis = self.rng.choice(owner.axes)
        return axis.id, self.rng.choice(axis.values).id

    def place(self) -> Place:
        owner = self.owner_id()
        held = self.document.owner(owner)
        variant = self.variant(held) if isinstance(held, Component) else Map()
        return Place(owner, self.path(owner), variant)

    def made(self, depth: int = 0) -> Node:
        """A new part, with children now and then, instances among them."""
        rng = self.rng
        kind = rng.choice(("box", "box", "text", "shape", "image", "instance"))
        style = values.style(rng, kind, self.document)
        if kind == "instance":
            held = self.owner_id(True)
            return Node(
                self.new_id(kind), values.word(rng) or "i", kind, style.set("component", held)
            )
        below = rng.randint(0, 3) if kind == "box" and depth < 4 else 0
        children = tuple(self.made(depth + 1) for _ in range(below))
        return Node(self.new_id(kind), values.word(rng) or "n", kind, style, children)

    def where(self, owner_id: str) -> Callable[[Document], dict]:
        """Where the parts of an owner's own tree stand."""

        def spots(document: Document):
            owner = document.owner(owner_id)
            if isinstance(owner, Component):
                scene = self.resolver.variant(document, owner_id, default_variant(owner))
            else:
                scene = self.resolver.screen(document, owner)
            found = locate(*self.layout.view(scene), owner.name)
            return {
                (at.path[-1] if at.path else owner.root.id): at.rect
                for at in found
                if len(at.path) < 2
            }

        return spots

    # --- one step ---------------------------------------------------------------------------

    def step(self, number: int) -> Iterator[Failure]:
        name, edit = self.rng.choice(EDITS)
        before = self.document
        written = dumps(before) if number % 50 == 0 else ""
        try:
            after = edit(self, before)
        except Refusal as problem:
            bad = bad_sentence(problem)
            if bad is not None:
                yield self.failure("sentence", f"{name}: {bad}", str(problem))
            return
        except Exception as problem:
            yield self.failure("edit", f"{name}: {told(problem)}", repr(problem))
            return
        if written and dumps(before) != written:
            yield self.failure(
                "undo", f"{name}: the document before is another now", written[:4000]
            )
        if after is None or after is before:
            return
        self.done += 1
        self.trail.append(name)
        collect_lines = False
        for failure in (
            *self.changed_is_writable(before, after, name),
            *self.checked(after, number),
        ):
            collect_lines = True
            yield failure
        if not collect_lines:
            self.document = after

    def failure(self, kind: str, what: str, example: str) -> Failure:
        return Failure(kind, self.seed, what, f"after {self.trail[-12:]}\n{example}")

    def changed_is_writable(
        self, before: Document, after: Document, name: str
    ) -> Iterator[Failure]:
        """What changed can be written, and is read as it was."""
        part = _only_changed(before, after)
        yield from self.same_again(part, f"after {name}")

    def checked(self, after: Document, number: int) -> Iterator[Failure]:
        if number % 50 == 49:
            yield from self.same_again(after, "whole")
        if number % 25 == 24:
            yield from self.drawn_alike(after)

    def same_again(self, document: Document, when: str) -> Iterator[Failure]:
        try:
            written = dumps(document)
            again = loads(written.encode(), "again")
        except Exception as problem:
            yield self.failure("save and open", f"{when}: {told(problem)}", repr(problem))
            return
        if when == "whole":
            wrong = next(VALIDATOR.iter_errors(json.loads(written)), None)
            if wrong is not None:
                yield self.failure(
                    "schema", f"{wrong.json_path}: {wrong.message[:150]}", written[:4000]
                )
        if again != document:
            yield self.failure(
                "save and open", f"{when}: {difference(document, again)}", written[:4000]
            )

    def drawn_alike(self, document: Document) -> Iterator[Failure]:
        """With memory is from nothing, in all stages; and what is drawn can be exported."""
        pool = list(document.owners())
        for owner in self.rng.sample(pool, min(3, len(pool))):
            try:
                variant = self.variant(owner) if isinstance(owner, Component) else Map()
                mine = self.stages(document, owner, variant, self.resolver, self.layout)
                fresh = self.stages(
                    document, owner, variant, Resolver(), Layout(Typesetter(self.fonts))
                )
            except Exception as problem:
                yield self.failure("draw", f"{told(problem)}", owner.name)
                continue
            for stage, a, b in zip(("resolve", "layout", "paint", "web"), mine, fresh, strict=True):
                if a != b:
                    yield self.failure(
                        "memory", f"{stage} of {owner.name!r} differs", f"{a}\n---\n{b}"
                    )
                    break

    def stages(self, document, owner, variant, resolver, layout):
        if isinstance(owner, Component):
            scene = resolver.variant(document, owner.id, variant)
        else:
            scene = resolver.screen(document, owner)
        scene, placed = layout.view(scene)
        located = list(locate(scene, placed, owner.name))
        flat = [
            (at.path, at.names, at.scene.kind, at.scene.layout.style, at.scene.paint,
             at.scene.component, at.scene.variant, at.scene.problem, at.scene.interaction,
             at.scene.click_through, at.scene.order)
            for at in located
        ]  # fmt: skip
        rects = [(at.path, at.rect) for at in located]
        assert all(math.isfinite(n) for _, rect in rects for n in rect), "a place that is no number"
        marks = record(draw(scene, placed))
        shown = [str(mark) for mark in marks]
        return flat, rects, shown, page(scene, placed, owner.name, document.assets)


def difference(a: Document, b: Document) -> str:
    """The first field in which two documents differ."""
    for name in a.__struct_fields__:
        x, y = getattr(a, name), getattr(b, name)
        if x == y:
            continue
        if name in ("components", "screens", "tokens", "assets"):
            key = next((k for k in (*x, *y) if x.get(k) != y.get(k)), None)
            return f"{name} {key!r}: {_first(x.get(key), y.get(key))}"
        return f"{name}: {x!r} is {y!r}"[:300]
    return "nothing that can be named"


def _first(a, b) -> str:
    if hasattr(a, "__struct_fields__") and type(a) is type(b):
        for field in a.__struct_fields__:
            if getattr(a, field) != getattr(b, field):
                return f"{field} › {_first(getattr(a, field), getattr(b, field))}"
    if isinstance(a, tuple) and isinstance(b, tuple) and len(a) == len(b):
        return next((_first(x, y) for x, y in zip(a, b, strict=True) if x != y), "")
    if isinstance(a, Map) and isinstance(b, Map):
        key = next((k for k in (*a, *b) if a.get(k) != b.get(k)), None)
        return f"{key} › {_first(a.get(key), b.get(key))}"
    return f"{a!r} is {b!r}"[:300]


def _only_changed(before: Document, after: Document) -> Document:
    """The document with only the owners that changed, and all else."""
    changed = {o.id for o in after.owners() if before.owner(o.id) is not o}
    return Document(
        after.name,
        Map({i: c for i, c in after.components.items() if i in changed}),
        Map({i: s for i, s in after.screens.items() if i in changed}),
        tuple(i for i in after.component_order if i in changed),
        tuple(i for i in after.screen_order if i in changed),
        after.tokens if after.tokens is not before.tokens else Map(),
        after.motion,
        Map(),
        after.modes,
        after.mode,
    )


# --- the edits ------------------------------------------------------------------------------


def _set_style(w: World, d: Document):
    place = w.place()
    found = inspect(d, place)
    kind = found.node.kind if found is not None and w.rng.random() < 0.9 else None
    names = sorted({values.property_name(w.rng, kind) for _ in range(w.rng.randint(1, 3))})
    given = {n: values.value(w.rng, n, d, w.properties_of(place.owner)) for n in names}
    return styles.set_properties(d, place, given, w.reach(place.owner))


def _choose(w: World, d: Document):
    owner = w.owner_id()
    node = w.node(owner, "instance")
    held = d.components.get(str(node.style.get("component"))) if node is not None else None
    if held is None:
        return None
    if held.axes and w.rng.random() < 0.5:
        axis, value = w.axis(held.id)
        given = {CHOICE + axis: value}
    elif held.properties:
        prop = w.rng.choice(held.properties)
        said = (
            w.owner_id(True)
            if prop.kind == "slot"
            else values.literal(w.rng, PROPERTY_TYPES[prop.kind])
        )
        given = {CHOICE + prop.id: said if w.rng.random() < 0.9 else values.word(w.rng)}
    else:
        return None
    return styles.set_properties(d, Place(owner, (node.id,)), given, w.reach(owner))


def _put_back(w: World, d: Document):
    place = w.place()
    name = values.property_name(w.rng)
    rungs = ladder(d, place, name)
    return styles.put_back(d, name, w.rng.choice(rungs).source) if rungs else None


def _put_back_instance(w: World, d: Document):
    owner = w.owner_id()
    return styles.put_back_instance(d, owner, w.node_id(owner, "instance"))


def _add(w: World, d: Document):
    owner = w.owner_id()
    at = w.rng.choice((None, 0, 1, 99, -1))
    return nodes.add_node(d, owner, w.node_id(owner, w.rng.choice(("box", None))), w.made(), at)


def _draw(w: World, d: Document):
    owner = w.owner_id()
    size = w.rng.choice((None, (w.rng.uniform(-9, 2e6), w.rng.uniform(-9, 900))))
    node = drawing.drawn_node(w.rng.choice(drawing.DRAWN_KINDS), w.new_id("drawn"), size)
    return nodes.add_node(d, owner, w.node_id(owner, "box"), node)


def _remove(w: World, d: Document):
    owner = w.owner_id()
    return nodes.remove_node(d, owner, w.node_id(owner))


def _rename(w: World, d: Document):
    owner = w.owner_id()
    return nodes.rename_node(d, owner, w.node_id(owner), values.word(w.rng))


def _move(w: World, d: Document):
    owner = w.owner_id()
    to = w.node_id(owner, w.rng.choice(("box", None)))
    return nodes.move_node(d, owner, w.node_id(owner), to, w.rng.randint(-1, 4))


def _wrap(w: World, d: Document):
    owner = w.owner_id()
    box = w.node(owner, "box")
    children = [c.id for c in box.children] if box is not None else []
    if not children:
        return None
    some = tuple(w.rng.sample(children, w.rng.randint(1, len(children))))
    return arrange.wrap(d, owner, some, w.new_id("box"), w.where(owner))


def _unwrap(w: World, d: Document):
    owner = w.owner_id()
    return arrange.unwrap(d, owner, w.node_id(owner, "box"), w.where(owner))


def _new_component(w: World, d: Document):
    return owners.new_component(d, w.new_id("c"), values.word(w.rng), w.new_id("r"))


def _add_component(w: World, d: Document):
    return components.add_component(d, Component(w.new_id("c"), values.word(w.rng), w.made()))


def _new_screen(w: World, d: Document):
    size = values.number(w.rng), values.number(w.rng)
    return owners.new_screen(d, w.new_id("s"), values.word(w.rng), size, w.new_id("r"))


def _add_screen(w: World, d: Document):
    return components.add_screen(d, Screen(w.new_id("s"), values.word(w.rng), w.made()))


def _duplicate(w: World, d: Document):
    return owners.duplicate_owner(d, w.owner_id(), w.new_id("copy"))


def _remove_owner(w: World, d: Document):
    return owners.remove_owner(d, w.owner_id()) if len(list(d.owners())) > 4 else None


def _rename_owner(w: World, d: Document):
    return components.rename_owner(d, w.owner_id(), values.word(w.rng))


def _bring(w: World, d: Document):
    source = _DEMO[0]
    return clipping.bring_component(d, source, w.rng.choice(source.component_order), w.new_id("b"))


def _place_instance(w: World, d: Document):
    owner = w.owner_id()
    held = w.owner_id(True)
    return instances.place_instance(d, owner, w.node_id(owner, "box"), held, w.new_id("i"))


def _exchange(w: World, d: Document):
    owner = w.owner_id()
    return instances.exchange(d, owner, w.node_id(owner, "instance"), w.owner_id(True)).document


def _exchange_everywhere(w: World, d: Document):
    return instances.exchange_everywhere(d, w.owner_id(True), w.owner_id(True)).document


def _detach(w: World, d: Document):
    owner = w.owner_id()
    return instances.detach(d, owner, w.node_id(owner, "instance"))


def _push_up(w: World, d: Document):
    owner = w.owner_id()
    node = w.node(owner, "instance")
    held = str(node.style.get("component")) if node is not None else "none"
    return instances.push_up(d, owner, node.id if node else "gone", w.reach(held))


def _make_component(w: World, d: Document):
    owner = w.owner_id()
    return extract.make_component(d, owner, w.node_id(owner), w.new_id("m"), values.word(w.rng))


def _take_out(w: World, d: Document):
    owner = w.owner(True)
    if owner is None:
        return None
    return extract.take_out(d, owner.id, w.variant(owner), w.new_id("t"), values.word(w.rng))


def _add_axis(w: World, d: Document):
    names = [values.word(w.rng)[:20] for _ in range(w.rng.randint(0, 4))]
    vals = tuple(AxisValue(w.new_id("v"), name) for name in names)
    default = vals[0].id if vals and w.rng.random() < 0.95 else "none"
    driver = w.rng.choice(("none", "none", "pointer", "focus"))
    meaning = w.rng.choice(MEANINGS)
    axis = Axis(w.new_id("a"), values.word(w.rng)[:20], vals, default, driver, meaning)
    return components.add_axis(d, w.owner_id(True), axis)


def _add_value(w: World, d: Document):
    owner = w.owner_id(True)
    axis, value = w.axis(owner)
    new = AxisValue(w.new_id("v"), values.word(w.rng)[:20])
    return components.add_axis_value(d, owner, axis, new, w.rng.choice(("", value)))


def _on_axis(edit):
    def change(w: World, d: Document):
        owner = w.owner_id(True)
        axis, value = w.axis(owner)
        return edit(w, d, owner, axis, value)

    return change


def _offered(w: World, d: Document):
    owner = w.owner(True)
    return axes.set_offered(d, owner.id, w.variant(owner), w.rng.random() < 0.5) if owner else None


def _offer_none(w: World, d: Document):
    owner = w.owner_id(True)
    return axes.offer_none(d, owner, w.reach(owner))


def _advise(w: World, d: Document):
    owner = w.owner_id(True)
    if w.rng.random() < 0.4:
        return components.describe(d, owner, values.word(w.rng))
    lists = [[values.word(w.rng) for _ in range(w.rng.randint(0, 3))] for _ in range(2)]
    return components.advise(d, owner, *lists)


def _waive(w: World, d: Document):
    owner = w.owner_id() if w.rng.random() < 0.8 else ""
    waiver = Waiver(owner, w.rng.choice("abc"), w.path(owner), "", f"Seen {values.word(w.rng)}")
    if d.keeping.waivers and w.rng.random() < 0.3:
        return keeping.stand_again(d, [w.rng.choice(d.keeping.waivers).key])
    return keeping.waive(d, [waiver])


def _keep_trial(w: World, d: Document):
    owner = w.owner_id()
    if d.keeping.checks and w.rng.random() < 0.3:
        return keeping.drop_check(d, w.rng.choice(d.keeping.checks).key)
    words = Map({"p": values.word(w.rng)})
    width = w.rng.choice((0, 320, 7.5))
    return keeping.keep_check(d, KeptTrial(owner, "own", "width", w.reach(owner), width, words))


def _lay(w: World, d: Document):
    owner = w.owner_id(True)
    return components.lay_axis(
        d, owner, w.axis(owner)[0], w.rng.choice(("rows", "columns", "chips"))
    )


def _add_property(w: World, d: Document):
    kind = w.rng.choice(sorted(PROPERTY_TYPES))
    default = values.literal(w.rng, PROPERTY_TYPES[kind])
    if kind == "slot":
        default = w.owner_id(True) if w.rng.random() < 0.4 else ""
    if kind in ("color", "number") and w.rng.random() < 0.4:
        default = w.rng.choice((Token("color.sea"), Shift("darken", 0.1), Shift("add", 2.0)))
    prop = ComponentProperty(w.new_id("p"), values.word(w.rng)[:20] or "p", kind, default)
    return components.add_property(d, w.owner_id(True), prop)


def _open_property(w: World, d: Document):
    owner = w.owner_id(True)
    place = Place(owner, w.path(owner))
    name = values.property_name(w.rng)
    reach = at_reach.Reach(owner, w.reach(owner), w.variant(d.components.get(owner)))
    title = values.word(w.rng)[:20] or "p"
    return at_reach.open_at(d, reach, place.path, name, w.new_id("p"), title)


def _of_property(edit):
    def change(w: World, d: Document):
        owner = w.owner_id(True)
        held = w.properties_of(owner)
        return edit(w, d, owner, w.rng.choice(held)) if held else None

    return change


def _default(w, d, owner, prop):
    kind = d.components[owner].property(prop).kind
    given = w.owner_id(True) if kind == "slot" else values.literal(w.rng, PROPERTY_TYPES[kind])
    return properties.set_default(d, owner, prop, given)


def _token(w: World, d: Document):
    kind = w.rng.choice(sorted(TOKEN_TYPES))
    path = w.rng.choice((*d.tokens, f"{kind}.t{w.rng.randint(0, 9)}", values.word(w.rng)))
    given = values.literal(w.rng, TOKEN_TYPES[kind])
    if d.tokens and w.rng.random() < 0.2:
        given = Token(w.rng.choice(sorted(d.tokens)))
    modes = {m: values.literal(w.rng, TOKEN_TYPES[kind]) for m in d.modes if w.rng.random() < 0.5}
    return tokens.set_token(d, path, DesignToken(kind, given, values.word(w.rng), Map(modes)))


def _of_token(edit):
    def change(w: World, d: Document):
        return edit(w, d, w.rng.choice(sorted(d.tokens))) if d.tokens else None

    return change


def _copy(w: World, d: Document):
    owner = w.owner()
    if owner is None:
        return
    ids = tuple(sorted({w.node_id(owner.id) for _ in range(w.rng.randint(1, 3))}))
    variant = w.variant(owner) if isinstance(owner, Component) else Map()
    clip = clipping.clipping(d, owner.id, ids, variant)
    w.clip = loads(dumps(clip).encode(), "clip")
    return


def _paste(w: World, d: Document):
    if w.clip is None:
        return None
    owner = w.owner_id()
    into = owner, w.node_id(owner, "box"), w.rng.choice((None, 0, 1))
    return clipping.put_down(d, w.clip, into, w.new_id)[0]


def _ruled(shown, name: str) -> bool:
    return any(
        rung.wins and (rung.source.when or isinstance(rung.value, Shift))
        for rung in shown.ladder(name)
    )


def _paste_look(w: World, d: Document):
    if w.clip is None:
        return None
    place = w.place()
    found = inspect(d, place)
    look = clipping.look_of(w.clip, d.tokens)
    if found is None:
        return None
    reach = w.reach(place.owner)
    after = styles.set_properties(d, place, clipping.differing(found, look), reach)
    shown = inspect(after, place)
    if shown is not None and not reach:
        # What a rule says of this variant alone goes on winning over what is said of all.
        left = [n for n in clipping.differing(shown, look) if not _ruled(shown, n)]
        assert not left, "it looks as what was copied"
    return after


def _cue(w: World, d: Document):
    owner = w.owner_id()
    inner = w.owner_id(True)
    axis, value = w.axis(inner if w.rng.random() < 0.3 else owner)
    trigger = Trigger(
        w.rng.choice(TRIGGERS), values.word(w.rng), abs(values.number(w.rng)), axis, value
    )
    trigger = msgspec.structs.replace(trigger, token=w.rng.choice(("", *list(d.tokens)[:3])))
    given = w.rng.choice((value, value, values.content(w.rng), values.number(w.rng)))
    change = Change(
        w.rng.choice(ACTS), w.rng.choice((axis, w.owner_id(False))), given, w.path(owner)
    )
    motion = Motion(
        abs(values.number(w.rng)),
        w.rng.choice(("ease-out", "spring(170, 26)", "linear")),
        tokens=values.followed(w.rng),
    )
    cue = Cue(w.new_id("cue"), w.path(owner), trigger, (change,), w.reach(owner), motion)
    return cues.add_cue(d, owner, cue)


def _motion(w: World, d: Document):
    owner = w.owner_id(True)
    axis, value = w.axis(owner)
    easing = w.rng.choice(
        ("linear", "ease-out", "cubic-bezier(0.2, 0, 0, 1)", "wobble", "bounce(0.3)")
    )
    times = abs(values.number(w.rng)), abs(values.number(w.rng))
    motion = Motion(times[0], easing, times[1], values.followed(w.rng))
    return cues.set_motion(d, owner, axis, w.rng.choice(("", value)), motion)


def _lead(w: World, d: Document):
    owner = w.owner_id()
    return cues.set_led(d, owner, w.path(owner), w.rng.random() < 0.7)


def _part_motion(w: World, d: Document):
    owner = w.owner_id()
    name = w.rng.choice(("", values.property_name(w.rng)))
    return cues.set_part_motion(d, owner, w.path(owner), name, Motion(abs(values.number(w.rng))))


def _silence(w: World, d: Document):
    owner = w.owner_id()
    return cues.silence(d, owner, w.path(owner), "cue", w.rng.random() < 0.6)


def _place_state(w: World, d: Document):
    at = values.number(w.rng), values.number(w.rng)
    return cues.place_state(d, w.owner_id(), values.word(w.rng), at)


def _picture(w: World, d: Document):
    data = bytes([w.rng.randrange(4)]) * 8
    asset = Asset(values.word(w.rng), "image/png", data)
    held = Picture(asset.digest, abs(values.number(w.rng)), abs(values.number(w.rng))), asset
    if w.rng.random() < 0.5:
        place = w.place()
        return pictures.show_picture(d, place, held, w.reach(place.owner))
    owner = w.owner_id()
    return pictures.place_picture(
        d, (owner, w.node_id(owner, "box"), None), held, w.new_id("image")
    )


def _move_by(w: World, d: Document):
    place = w.place()
    by = w.rng.uniform(-2e6, 2e6), w.rng.uniform(-50, 50)
    return places.move_by(d, place, by, w.reach(place.owner))


def _align(w: World, d: Document):
    owner = w.owner_id()
    box = w.node(owner, "box")
    if box is None or not box.children:
        return None
    spots = w.where(owner)(d)
    some = [c.id for c in box.children if c.id in spots][:4]
    if not some or box.id not in spots:
        return None
    those = tuple(Place(owner, (i,)) for i in some)
    flow = str(box.style.get("flow", "row"))
    if w.rng.random() < 0.5:
        edge = w.rng.choice(("left", "center", "right", "top", "middle", "bottom"))
        return places.align(d, those, edge, spots, (flow, spots[box.id]))
    return places.distribute(d, those, w.rng.random() < 0.5, spots, flow)


def _rule(edit):
    def change(w: World, d: Document):
        owner = w.owner(True)
        if owner is None or not owner.rules:
            return None
        return edit(w, d, owner, w.rng.choice(owner.rules))

    return change


def _make_one(w: World, d: Document):
    owner = w.owner(True)
    groups = rules.equal_rules(owner) if owner is not None else ()
    return rules.make_one(d, owner.id, w.rng.choice(groups)) if groups else None


def _gather(w: World, d: Document):
    owner = w.owner()
    boxes = [n for n in walk(owner.root) if n.kind == "box"][1:6] if owner is not None else []
    names = ["Part/A/rest", "Part/A/hover", "Part/B/rest", "Part/B/hover", "Part/C/rest"]
    drawn = [GatheredDrawing(name, n, owner.id) for name, n in zip(names, boxes, strict=False)]
    if len(drawn) < 2 or any(len(list(walk(x.root))) > 12 for x in drawn):
        return None
    return gathered(d, gather(d, drawn, w.new_id("g")))


EDITS: list[tuple[str, Callable[[World, Document], Document | None]]] = [
    *[("set style", _set_style)] * 8,
    *[("choose", _choose)] * 4,
    ("put back", _put_back),
    ("put back instance", _put_back_instance),
    *[("add", _add)] * 3,
    ("draw", _draw),
    ("remove", _remove),
    ("rename", _rename),
    *[("move", _move)] * 2,
    ("wrap", _wrap),
    ("unwrap", _unwrap),
    ("new component", _new_component),
    ("add component", _add_component),
    ("new screen", _new_screen),
    ("add screen", _add_screen),
    ("duplicate", _duplicate),
    ("remove owner", _remove_owner),
    ("rename owner", _rename_owner),
    ("bring", _bring),
    *[("place instance", _place_instance)] * 3,
    ("exchange", _exchange),
    ("exchange everywhere", _exchange_everywhere),
    *[("detach", _detach)] * 2,
    ("push up", _push_up),
    ("make component", _make_component),
    ("take out", _take_out),
    *[("add axis", _add_axis)] * 2,
    ("add value", _add_value),
    ("rename axis", _on_axis(lambda w, d, o, a, v: axes.rename_axis(d, o, a, values.word(w.rng)))),
    ("rename value", _on_axis(lambda w, d, o, a, v: axes.rename_value(d, o, a, v, values.word(w.rng)))),
    ("move axis", _on_axis(lambda w, d, o, a, v: axes.move_axis(d, o, a, w.rng.randint(-1, 3)))),
    ("move value", _on_axis(lambda w, d, o, a, v: axes.move_value(d, o, a, v, w.rng.randint(-1, 3)))),
    ("start", _on_axis(lambda w, d, o, a, v: driving.set_start(d, o, a, v))),
    ("drive", _on_axis(lambda w, d, o, a, v: driving.set_driver(d, o, a, w.rng.choice(("none", "pointer", "focus", "room"))))),
    ("least", _on_axis(lambda w, d, o, a, v: driving.set_least(d, o, a, v, float(w.rng.choice((0, 80, 240, 320, 640)))))),
    ("room", _on_axis(lambda w, d, o, a, v: driving.set_room(d, o, a, w.rng.choice(("width", "height")), w.rng.choice(("px", "ch"))))),
    ("sides", lambda w, d: w.rng.choice((sides.turned_to_lines, sides.turned_to_sides))(d, [w.owner_id()])),
    ("mean", _on_axis(lambda w, d, o, a, v: driving.set_meaning(d, o, a, w.rng.choice(MEANINGS)))),
    ("stand for", _on_axis(lambda w, d, o, a, v: driving.set_part(d, o, a, v, w.rng.choice((*POINTER_PARTS, *SAYING_PARTS))))),
    ("remove axis", _on_axis(lambda w, d, o, a, v: axes.remove_axis(d, o, a))),
    ("remove value", _on_axis(lambda w, d, o, a, v: axes.remove_value(d, o, a, v))),
    ("offered", _offered),
    ("offer none", _offer_none),
    ("lay", _lay),
    ("advise", _advise),
    ("waive", _waive),
    ("keep a trial", _keep_trial),
    *[("add property", _add_property)] * 2,
    *[("open property", _open_property)] * 2,
    ("rename property", _of_property(lambda w, d, o, p: properties.rename_property(d, o, p, values.word(w.rng)))),
    ("describe", _of_property(lambda w, d, o, p: properties.describe_property(d, o, p, values.word(w.rng)))),
    ("default", _of_property(_default)),
    ("shortlist", _of_property(lambda w, d, o, p: properties.set_shortlist(d, o, p, (w.owner_id(True),)))),
    ("move property", _of_property(lambda w, d, o, p: properties.move_property(d, o, p, w.rng.randint(-1, 3)))),
    ("remove property", _of_property(lambda w, d, o, p: properties.remove_property(d, o, p))),
    *[("token", _token)] * 4,
    ("rename token", _of_token(lambda w, d, t: tokens.rename_token(d, t, f"{t}x{w.count}"))),
    *[("remove token", _of_token(lambda w, d, t: tokens.remove_token(d, t)))] * 2,
    ("replace equal", _of_token(lambda w, d, t: tokens.replace_equal(d, t))),
    ("add mode", lambda w, d: tokens.add_mode(d, values.word(w.rng))),
    ("remove mode", lambda w, d: tokens.remove_mode(d, w.rng.choice(d.modes)) if d.modes else None),
    ("show mode", lambda w, d: tokens.show_mode(d, w.rng.choice(("", "gone", *d.modes)))),
    *[("copy", _copy)] * 2,
    *[("paste", _paste)] * 3,
    ("paste look", _paste_look),
    *[("cue", _cue)] * 2,
    ("motion", _motion),
    ("part motion", _part_motion),
    ("lead", _lead),
    ("silence", _silence),
    ("place state", _place_state),
    *[("picture", _picture)] * 2,
    ("move by", _move_by),
    ("align", _align),
    ("remove rule", _rule(lambda w, d, o, r: rules.remove_rule(d, o.id, r))),
    ("aim rule", _rule(lambda w, d, o, r: rules.aim_rule(d, o.id, r, w.reach(o.id)))),
    ("make one", _make_one),
    ("gather", _gather),
]  # fmt: skip
