"""What you see is what you change: every action at random reaches, on random components.

Held throughout: what lies outside of the reach is drawn as before, bit for bit, or the action is
one that says that it reaches all, before it lands and in its name after; undo gives the very
document back; and what the row of an instance's property says is what is drawn.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from uuid import UUID

import msgspec
from immutables import Map

from demo import ferry_line
from outgrowth.core.color import Color
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    Document,
    Node,
    Rule,
    Screen,
    walk,
)
from outgrowth.core.document.rooms import says_before_room
from outgrowth.core.document.values import (
    FIT,
    GROW,
    FromProperty,
    Shift,
    Size,
    Token,
    fixed,
    plain,
    words,
)
from outgrowth.core.document.variants import holds, offered, variants
from outgrowth.core.edits.at_reach.deciding import raw_value
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.recorder import record
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place, inspect, ladder
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from outgrowth.workspace.commands import (
    arrange_commands,
    create_commands,
    instance_commands,
    selection_commands,
    style_commands,
    text_commands,
    token_commands,
)
from outgrowth.workspace.measures import standing_of, stands_free
from tests.fuzz.report import Failure, bad_sentence, told
from tests.workspace.conftest import Desk

_FONTS = shipped(FONTS)
_DEMO = [ferry_line()]
_WORDS = ("Holm", "To the islands", "Skerry", "Car deck", "2", "Late by ten minutes")
# What is about the document in hand; of the others, hands here do nothing.
_GROUPS = ("Edit", "New", "Parts", "Places", "Variants", "Review")
# Actions that are about the file, the window or other owners.
_OTHERS = frozenset(
    (
        "close", "remove-owner", "copy-owner", "new-component", "new-screen", "undo", "redo",
        "same-again", "take-offer", "return", "visit", "take-out",
    )
)  # fmt: skip
# Their titles say what they do to all variants of a component.
_OF_THE_COMPONENT = frozenset(
    ("add-axis", "add-states", "not-offered", "offer-none", "push-up", "push-up-variant")
)


def run(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """Acts at random reaches, thirty on each document; how many were done."""
    done = 0
    while done < count:
        reached = Reached(seed)
        for failure in reached.acts(30):
            yield done + reached.done, failure
        done += max(reached.done, 1)
        yield done, None
        seed += 1


class Reached:
    """One document, and what is done in it."""

    def __init__(self, seed: int) -> None:
        self.seed = seed
        self.rng = random.Random(seed)
        # Ids of new parts come of the seed too.
        selection_commands.uuid4 = lambda: UUID(int=self.rng.getrandbits(128), version=4)
        self.document = _DEMO[0] if seed % 4 == 0 else made(self.rng)
        self.desk = Desk(_FONTS, self.document)
        self.workspace = self.desk.workspace
        self.done = 0
        self.trail: list[str] = []
        self.said_at = Map()
        self.stood: tuple[tuple[str, ...], object] | None = None

    # --- what is chosen -------------------------------------------------------------------

    def choose(self) -> None:
        """Another owner now and then, another part, variant and reach."""
        rng, workspace = self.rng, self.workspace
        if workspace.owner is None or rng.random() < 0.25:
            pool = [*workspace.document.in_order()] * 3 + [*workspace.document.screens_in_order()]
            workspace.open(rng.choice(pool).id)
        component = workspace.component
        if component is not None and component.axes:
            some = [v for v, _ in zip(variants(component), range(200), strict=False)]
            offers = [v for v in some if offered(component, v)]
            if offers:
                workspace.select((), rng.choice(offers))
        paths = self.paths()
        if rng.random() < 0.2 and len(paths) > 2:
            workspace.select_all(tuple(rng.sample(paths, rng.randint(2, 3))))
        else:
            workspace.select(rng.choice(paths))
        if component is not None and component.axes:
            axes = rng.sample(component.axes, rng.randint(0, min(2, len(component.axes))))
            workspace.set_reach(Map({a.id: workspace.selection.variant[a.id] for a in axes}))

    def paths(self) -> list[tuple[str, ...]]:
        owner = self.workspace.owner
        assert owner is not None
        found: list[tuple[str, ...]] = [()]
        for node in walk(owner.root):
            if node is owner.root:
                continue
            found.append((node.id,))
            found += self.inside((node.id,), 2)
        return found

    def inside(self, path: tuple[str, ...], deep: int) -> list[tuple[str, ...]]:
        workspace = self.workspace
        place = Place(workspace.selection.owner, path, workspace.selection.variant)
        inspection = inspect(workspace.document, place)
        if inspection is None or inspection.instance is None or not deep:
            return []
        root = inspection.scope.owner.root
        found = []
        for node in walk(root):
            if node is not root:
                found.append((*path, node.id))
                found += self.inside((*path, node.id), deep - 1)
        return found

    # --- one act --------------------------------------------------------------------------

    def acts(self, count: int) -> Iterator[Failure]:
        for _ in range(count):
            self.choose()
            try:
                yield from self.act()
            except Exception as problem:
                yield self.failure("act", told(problem), repr(problem))
                return

    def act(self) -> Iterator[Failure]:
        workspace, rng = self.workspace, self.rng
        before, lies = workspace.document, self.lies()
        outside = self.outside()
        name, told_before, do = self.pick()
        undo_before, self.stood = workspace.undo_name, None
        try:
            do()
        except Refusal as problem:
            bad = bad_sentence(problem)
            if bad is not None:
                yield self.failure("sentence", f"{name}: {bad}", str(problem))
            workspace.cancel_drag()
        after = workspace.document
        if after is before:
            return
        self.done += 1
        step = workspace.undo_name
        self.trail.append(f"{name} ({step})")
        yield from self.unchanged(name, step, told_before, outside)
        if self.stood is not None:
            yield from self.still(name)
        for lie in self.lies() - lies:
            yield self.failure("row", f"{name}: a row does not say what is drawn", f"{lie}, {step}")
        workspace.undo()
        if workspace.document != before or workspace.undo_name != undo_before:
            yield self.failure("undo", f"{name}: undo is not exact", step)
        workspace.redo()
        if workspace.document != after:
            yield self.failure("undo", f"{name}: redo is not exact", step)
        if rng.random() < 0.5:
            workspace.undo()
            self.trail.append("undo")

    def failure(self, kind: str, what: str, example: str) -> Failure:
        workspace = self.workspace
        where = f"{workspace.selection} at {workspace.reach}"
        return Failure(kind, self.seed, what, f"{example}\n{where}\nafter {self.trail[-6:]}")

    # --- what is held ---------------------------------------------------------------------

    def outside(self) -> dict[object, object]:
        """What is drawn of all that an act must leave alone."""
        workspace, document = self.workspace, self.workspace.document
        component = workspace.component
        kept: dict[object, object] = {}
        if component is not None:
            for n, variant in enumerate(variants(component)):
                if n < 400 and offered(component, variant) and not holds(workspace.reach, variant):
                    kept[component.id, variant] = self.drawn(document, component.id, variant)
            return kept
        for screen in document.screens_in_order():
            if screen.id != workspace.selection.owner:
                kept[screen.id, None] = self.drawn(document, screen.id, None)
        for other in document.in_order():
            first = next(iter(variants(other)))
            kept[other.id, first] = self.drawn(document, other.id, first)
        return kept

    def drawn(self, document: Document, owner: str, variant) -> list[str]:
        view = self.workspace.engine.view(document, owner, variant)
        return [str(mark) for mark in record(draw(*view))]

    def unchanged(self, name, step, told_before, outside) -> Iterator[Failure]:
        document = self.workspace.document
        for (owner, variant), was in outside.items():
            component = document.components.get(owner)
            if document.owner(owner) is None:
                yield self.failure("outside", f"{name}: an owner is gone", step)
                return
            if component is not None:
                variant = Map({a.id: variant.get(a.id, a.default) for a in component.axes})
            if self.drawn(document, owner, variant) == was:
                continue
            tells = any(words in step for words in ("in all ", "in both variants"))
            if tells and told_before:
                return
            if name in _OF_THE_COMPONENT:
                return
            # A step is put back where it holds: its row says where.
            if name == "put back" and holds(self.said_at, variant):
                continue
            why = "told after only" if tells else "nothing tells"
            yield self.failure("outside", f"{name}: changes what lies outside, {why}", step)
            return

    def still(self, name: str) -> Iterator[Failure]:
        """What was tied otherwise stands and measures as it did."""
        assert self.stood is not None
        path, before = self.stood
        now = standing_of(self.workspace, self.workspace.document, path)
        if now is None or any(
            abs(a - b) > 0.02 for a, b in zip(before.rect, now.rect, strict=True)
        ):
            yield self.failure(
                "standing",
                f"{name}: the part moved",
                f"{before}\n{now}\n{self.workspace.undo_name}",
            )

    def lies(self) -> set[tuple[object, ...]]:
        """Rows of instances on the bench that say something else than is drawn."""
        workspace = self.workspace
        owner, document = workspace.owner, workspace.document
        found: set[tuple[object, ...]] = set()
        if owner is None:
            return found
        for node in walk(owner.root):
            if node.kind == "instance":
                found |= self.lies_of(document, (node.id,))
        return found

    def lies_of(self, document: Document, path: tuple[str, ...]) -> set[tuple[object, ...]]:
        workspace = self.workspace
        place = Place(workspace.selection.owner, path, workspace.selection.variant)
        inspection = inspect(document, place)
        if inspection is None or not isinstance(inspection.scope.owner, Component):
            return set()
        component = inspection.scope.owner
        found = set()
        for node in walk(component.root):
            inner = (*path, node.id) if node is not component.root else path
            at = inspect(document, place._replace(path=inner))
            if at is None:
                continue
            for name, value in node.style.items():
                steps = at.ladder(name)
                # A relative change on top is no other value.
                if not isinstance(value, FromProperty) or any(
                    isinstance(r.value, Shift) for r in steps
                ):
                    continue
                key = name.removeprefix(CHOICE)
                if key != name and not _has(at.scope.owner, key):
                    continue
                rungs = [r for r in steps if r.source.owner == component.id]
                if not rungs or raw_value(document, rungs[-1].source, name) != value:
                    continue
                row = inspection.value(CHOICE + value.property)
                if at.value(name) != row:
                    found.add((path, node.id, name, str(at.value(name)), str(row)))
        return found

    # --- acts -----------------------------------------------------------------------------

    def pick(self):
        """An act: what it is called, whether it says before that it reaches all, and itself."""
        rng = self.rng
        if rng.random() < 0.5:
            pool = [
                a
                for a in self.desk.actions
                if a.group in _GROUPS and a.id not in _OTHERS and a.enabled()
            ]
            action = rng.choice(pool)
            return action.id, action.of_all, action.run
        name = rng.choice(sorted(_ACTS))
        return name, name in _TOLD, lambda: _ACTS[name](self)

    def component_id(self) -> str:
        return self.rng.choice(list(self.workspace.document.components))

    def box_id(self) -> str:
        owner = self.workspace.owner
        assert owner is not None
        boxes = [n.id for n in walk(owner.root) if n.kind == "box"]
        return self.rng.choice(boxes) if boxes else owner.root.id


def _has(owner: object, key: str) -> bool:
    """Whether a component that is followed now has such an axis or property at all."""
    return isinstance(owner, Component) and bool(owner.axis(key) or owner.property(key))


def _place(r: Reached) -> None:
    instance_commands.place(r.workspace, r.component_id())


def _drop(r: Reached) -> None:
    point = (float(r.rng.randint(0, 60)), float(r.rng.randint(0, 60)))
    index = r.rng.choice((0, 1, None))
    instance_commands.place_into(r.workspace, r.component_id(), r.box_id(), index, point)


def _draw(r: Reached) -> None:
    kind = r.rng.choice(("box", "text", "ellipse", "ring", "line"))
    create_commands.draw(r.workspace, kind, (r.box_id(), r.rng.choice((0, 1, None))), (40.0, 30.0))


def _exchange(r: Reached) -> None:
    instance_commands.exchange(r.workspace, r.component_id())


def _exchange_and_others(r: Reached) -> None:
    if instance_commands.exchange(r.workspace, r.component_id()) and r.workspace.offer is not None:
        offered_act = r.workspace.offer.run
        r.workspace.undo()
        offered_act()


def _move(r: Reached, twin: bool = False) -> None:
    owner = r.workspace.owner
    assert owner is not None
    ids = [n.id for n in walk(owner.root) if n is not owner.root]
    if ids:
        chosen = r.rng.sample(ids, min(len(ids), r.rng.randint(1, 2)))
        arrange_commands.move_parts(r.workspace, chosen, r.box_id(), r.rng.randint(0, 3), twin)


def _turn(r: Reached) -> None:
    owner = r.workspace.owner
    assert owner is not None
    boxes = [n for n in walk(owner.root) if len(n.children) > 1]
    if boxes:
        box = r.rng.choice(boxes)
        chosen = r.rng.choice(box.children).id
        arrange_commands.move_parts(
            r.workspace, [chosen], box.id, r.rng.randint(0, len(box.children))
        )


def _style(r: Reached) -> None:
    name, value = r.rng.choice(list(_values(r.rng).items()))
    style_commands.set_style(r.workspace, {name: value})


def _hide(r: Reached) -> None:
    style_commands.set_style(r.workspace, {"shown": r.rng.random() < 0.4})


def _type(r: Reached) -> None:
    place = r.workspace.place
    inspection = inspect(r.workspace.document, place) if place is not None else None
    if inspection is None or inspection.node.kind != "text":
        return
    r.workspace.drag(text_commands.words_edit(r.workspace, words(r.rng.choice(_WORDS))))
    r.workspace.drop("words")


def _choose(r: Reached) -> None:
    place = r.workspace.place
    inspection = inspect(r.workspace.document, place) if place is not None else None
    followed = inspection.scope.owner if inspection is not None and inspection.instance else None
    if not isinstance(followed, Component) or not followed.axes + followed.properties:
        return
    chosen = r.rng.choice([*followed.axes, *followed.properties])
    if isinstance(chosen, Axis):
        value = r.rng.choice(chosen.values).id
    else:
        value = {
            "text": words(r.rng.choice(_WORDS)),
            "switch": r.rng.random() < 0.5,
            "slot": r.component_id(),
            "color": Color(r.rng.random(), 0.5, 0.5),
            "number": 5.0,
        }[chosen.kind]
    style_commands.set_style(r.workspace, {CHOICE + chosen.id: value})


def _open(r: Reached) -> None:
    name = r.rng.choice(("content", "shown", "component", "fill", "color", "gap", "opacity"))
    if text_commands.can_open(r.workspace, name):
        text_commands.open_property(r.workspace, name)


def _make_token(r: Reached) -> None:
    token_commands.make(r.workspace, r.rng.choice(("fill", "color", "gap", "opacity")))


def _put_back(r: Reached) -> None:
    """A step of a ladder, as its row says it."""
    place = r.workspace.place
    names = list(_values(r.rng))
    rungs = [
        (name, rung)
        for name in names
        for rung in (ladder(r.workspace.document, place, name) if place is not None else ())
        if rung.source.kind != "default" and rung.source.owner == place.owner
    ]
    if rungs:
        name, rung = r.rng.choice(rungs)
        r.said_at = rung.source.when
        style_commands.put_back(r.workspace, name, rung.source)


def _put_back_here(r: Reached) -> None:
    style_commands.put_back_here(r.workspace, (r.rng.choice(list(_values(r.rng))),))


def _tie(r: Reached) -> None:
    name = r.rng.choice(("content", "shown", "component", "fill", "color"))
    choices = text_commands.tie_choices(r.workspace, name)
    if choices:
        text_commands.tie(r.workspace, name, r.rng.choice(choices))


def _tie_to_edge(r: Reached) -> None:
    path = r.workspace.selection.path or ()
    r.workspace.select(path)
    stood = standing_of(r.workspace, r.workspace.document, path) if path else None
    if stood is None:
        return
    if stands_free(r.workspace):
        pin = r.rng.choice(("start", "end", "both", "center", "scale"))
        values = {r.rng.choice(("pin-x", "pin-y")): pin}
    else:
        values = {"floating": True}
    before = r.workspace.document
    if style_commands.set_style(r.workspace, values) and r.workspace.document is not before:
        r.stood = path, stood


def _wrap_here(r: Reached) -> None:
    if r.workspace.selection.path:
        arrange_commands.wrap(r.workspace, twin=True)


def _unwrap_here(r: Reached) -> None:
    arrange_commands.unwrap(r.workspace, twin=True)


def _detach_here(r: Reached) -> None:
    instance_commands.detach(r.workspace, twin=True)


_ACTS = {
    "place a component": _place,
    "drop a component": _drop,
    "draw": _draw,
    "exchange": _exchange,
    "exchange, and the others": _exchange_and_others,
    "move": _move,
    "move a twin": lambda r: _move(r, twin=True),
    "another turn": _turn,
    "set a value": _style,
    "show or hide": _hide,
    "type words": _type,
    "choose": _choose,
    "let instances set": _open,
    "tie to a property": _tie,
    "make a token": _make_token,
    "put back": _put_back,
    "put back here": _put_back_here,
    "tie to an edge": _tie_to_edge,
    "wrap here": _wrap_here,
    "unwrap here": _unwrap_here,
    "detach here": _detach_here,
}
# What the pointer says before they land.
_TOLD = frozenset(("move",))


# --- random documents -------------------------------------------------------------------------


def _values(rng: random.Random) -> dict[str, object]:
    return {
        "fill": rng.choice((Color(rng.random(), 0.4, 0.6), Token("color.sea"))),
        "opacity": rng.choice((0.5, 1.0)),
        "width": rng.choice((FIT, GROW, fixed(60.0))),
        "height": rng.choice((FIT, fixed(30.0))),
        "gap": float(rng.randint(0, 12)),
        "padding-left": float(rng.randint(0, 12)),
        "justify": rng.choice(("start", "center", "space-between")),
        "align": rng.choice(("start", "center", "stretch")),
        "flow": rng.choice(("row", "column", "free", "grid")),
        "x": float(rng.randint(0, 40)),
        "pin-x": rng.choice(("start", "end", "both", "center", "scale")),
        "pin-y": rng.choice(("start", "end", "both", "center", "scale")),
        "floating": rng.random() < 0.5,
        "rotate": rng.choice((0.0, 90.0)),
        "font-size": rng.choice((12.0, 20.0)),
        "color": Color(rng.random(), 0.2, 0.2),
        "order": float(rng.randint(-1, 2)),
    }


def made(rng: random.Random) -> Document:
    """A document of three layers: icons, chips that hold them, cards that hold those."""
    document = Document("Made")
    icons, chips, cards = [], [], []
    for n in range(3):
        icons.append(_component(rng, f"icon{n}", [], document))
        document = add_component(document, icons[-1])
    for n in range(2):
        chips.append(_component(rng, f"chip{n}", icons, document))
        document = add_component(document, chips[-1])
    for n in range(2):
        cards.append(_component(rng, f"card{n}", icons + chips, document))
        document = add_component(document, cards[-1])
    for n in range(2):
        root = _tree(rng, f"s{n}", icons + chips + cards, 2, None)
        if root.kind != "box":
            root = Node(f"s{n}-root", "screen", "box", Map({"flow": "column"}), (root,))
        document = add_screen(document, Screen(f"screen{n}", f"Screen {n}", root))
    return document


def _component(rng, name: str, held: list[Component], document: Document) -> Component:
    axes = []
    for n in range(rng.randint(0, 2)):
        pointer = n == 0 and rng.random() < 0.4
        names = ("rest", "hover", "press") if pointer else ("a", "b", "c")[: rng.randint(2, 3)]
        ids = names if pointer else tuple(f"{name}-{n}-{v}" for v in names)
        values = tuple(AxisValue(i, v) for i, v in zip(ids, names, strict=True))
        driver = "pointer" if pointer else "none"
        axis_name = "State" if pointer else ("Kind", "Size")[n % 2]
        axes.append(Axis(f"{name}-axis{n}", axis_name, values, ids[0], driver))
    properties = []
    if rng.random() < 0.8:
        properties.append(ComponentProperty(f"{name}-words", "Words", "text", words("Holm")))
    if held:
        properties.append(
            ComponentProperty(f"{name}-icon", "Icon", "slot", rng.choice(held[:3]).id)
        )
    if rng.random() < 0.5:
        properties.append(ComponentProperty(f"{name}-tone", "Tone", "color", Color(0.2, 0.3, 0.4)))
    if rng.random() < 0.5:
        properties.append(ComponentProperty(f"{name}-on", "On", "switch", True))
    root = _tree(rng, name, held, 2, properties)
    nodes = list(walk(root))
    rules = []
    for _ in range(rng.randint(0, 8) if axes else 0):
        node = rng.choice(nodes)
        when = Map(
            {a.id: rng.choice(a.values).id for a in rng.sample(axes, rng.randint(1, len(axes)))}
        )
        values = _values(rng) | {"shown": rng.random() < 0.5, "fill ": None}
        values.pop("fill ")
        if node.kind == "instance" and rng.random() < 0.5:
            values = {"component": rng.choice(held).id}
        property_name, value = rng.choice(list(values.items()))
        if rng.random() < 0.15:
            property_name, value = "fill", Shift("darken", 0.1)
        rules.append(Rule(when, (node.id,), property_name, value))
    made = Component(name, f"Parts/{name}", root, tuple(axes), tuple(rules), tuple(properties))
    return _by_room(made, random.Random(f"{name} {rng.getstate()[1][0]}"))


def _by_room(component: Component, more: random.Random) -> Component:
    """Some components with one axis set by their room; of what they say besides nothing changes."""
    free = [axis for axis in component.axes if axis.driver == "none"]
    if not free or component.root.kind != "box" or more.random() > 0.3:
        return component
    values = tuple(
        msgspec.structs.replace(value, least=float(n * more.choice((60, 120, 240))))
        for n, value in enumerate(free[-1].values)
    )
    by_room = msgspec.structs.replace(free[-1], values=values, driver="room")
    axes = tuple(by_room if axis is free[-1] else axis for axis in component.axes)
    style = component.root.style.set("width", Size("grow", 1.0))
    root = msgspec.structs.replace(component.root, style=style)
    held = msgspec.structs.replace(component, axes=axes, root=root)
    rules = tuple(
        rule
        for rule in component.rules
        if not says_before_room(held, rule)
        and not (rule.property == "width" and rule.node == (root.id,))
    )
    return msgspec.structs.replace(held, rules=rules)


def _tree(rng, prefix: str, held, deep: int, properties) -> Node:
    count = iter(range(1000))

    def node(level: int) -> Node:
        kinds = ["box", "text", "shape"] + (["instance"] * 2 if held else [])
        kind = "box" if level == 0 else rng.choice(kinds if level < deep else kinds[1:])
        node_id = f"{prefix}-{next(count)}"
        style = dict(rng.sample(sorted(_values(rng).items()), rng.randint(1, 4)))
        style = {k: v for k, v in style.items() if _fits(k, kind)}
        children: tuple[Node, ...] = ()
        if kind == "box":
            children = tuple(node(level + 1) for _ in range(rng.randint(1, 4)))
        if kind == "text":
            style["content"] = words(rng.choice(_WORDS))
        if kind == "shape":
            style |= {"form": "ellipse", "width": fixed(20.0), "height": fixed(20.0)}
        if kind == "instance":
            style["component"] = rng.choice(held).id
        for prop in properties or ():
            refer = FromProperty(prop.id)
            if rng.random() > 0.4:
                continue
            if prop.kind == "text" and kind == "text":
                style["content"] = refer
            if prop.kind == "slot" and kind == "instance":
                style["component"] = refer
            if prop.kind == "color" and kind in ("box", "shape"):
                style["fill"] = refer
            if prop.kind == "switch" and level:
                style["shown"] = refer
        overrides: tuple[Rule, ...] = ()
        if kind == "instance" and isinstance(style["component"], str):
            overrides = _overrides(rng, next(c for c in held if c.id == style["component"]))
        return Node(node_id, f"{kind} {node_id[-1]}", kind, Map(style), children, overrides)

    return node(0)


def _overrides(rng, component: Component) -> tuple[Rule, ...]:
    found = []
    for inner in walk(component.root):
        if rng.random() < 0.15 and inner is not component.root:
            name, value = rng.choice(list(_values(rng).items()))
            found.append(Rule(Map(), (inner.id,), name, value))
    return tuple(found)


def _fits(name: str, kind: str) -> bool:
    if kind == "box":
        return name not in ("font-size", "color")
    if kind == "text":
        return name not in ("fill", "gap", "padding-left", "justify", "align", "flow")
    return name in ("opacity", "width", "x", "pin-x", "pin-y", "floating", "rotate", "order")


__all__ = ["Reached", "made", "plain", "run"]
