"""Faults of every kind that the review knows, planted in random places of the demo.

Each plant gives the document with the fault, the kinds that it is found as, and whose it is; or
None where this place cannot have it. `sides` are kinds that such a fault brings with it by right.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import NamedTuple

import msgspec
from immutables import Map

from demo.behaviours import put, turned, with_cue
from demo.drawing import box, image, instance, shape, text
from outgrowth.core.color import Color, parse, parse_fill
from outgrowth.core.document.cues import Change, Condition, Cue, Motion, Trigger
from outgrowth.core.document.keeping import KeptTrial
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Rule,
    Screen,
    walk,
)
from outgrowth.core.document.values import FIT, FromProperty, Picture, Size, words
from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits.keeping import keep_check
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import (
    add_component,
    add_property,
    add_screen,
    add_token,
    rename_owner,
)
from outgrowth.core.edits.tree.nodes import add_node, rename_node
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.edits.variants.axes import set_offered
from outgrowth.core.resolve.ladder import Place

PLAIN = ("before-gathering", "jumbled")
"""Screens that are messy on purpose."""


class Planted(NamedTuple):
    """A document with one fault more."""

    document: Document
    subject: str
    kinds: frozenset[str]
    owner: str


Plant = Callable[[Document, random.Random], Planted | None]
PLANTS: dict[str, Plant] = {}


def plant(subject: str, *kinds: str):
    """Registers a plant under the first kind that it is found as."""

    def registered(make: Callable[[Document, random.Random], tuple[Document, str] | None]):
        def planted(document: Document, chance: random.Random) -> Planted | None:
            made = make(document, chance)
            return None if made is None else Planted(made[0], subject, frozenset(kinds), made[1])

        planted.__name__ = make.__name__
        PLANTS[kinds[0]] = planted
        return planted

    return registered


# --- places -------------------------------------------------------------------------------------


def a_screen(document: Document, chance: random.Random) -> Screen:
    return chance.choice([s for s in document.screens_in_order() if s.id not in PLAIN])


def a_component(document: Document, chance: random.Random, axes: int = 0) -> Component:
    fitting = [c for c in document.in_order() if len(c.axes) >= axes]
    return chance.choice(fitting)


def a_node(document: Document, chance: random.Random, kind: str):
    nodes = [
        (owner, node)
        for owner in document.owners()
        if owner.id not in PLAIN
        for node in walk(owner.root)
        if node.kind == kind
    ]
    return chance.choice(nodes)


def on_screen(document: Document, screen: Screen, *nodes, index: int = 0) -> Document:
    """At the beginning of a screen's column, or wherever in it."""
    for node in nodes:
        document = add_node(document, screen.id, screen.root.id, node, index)
    return document


def a_part(chance: random.Random, role: str = "none", **style) -> Component:
    """A small component that nothing is wrong with."""
    number = chance.randrange(10**6)
    root = box(
        f"planted-{number}",
        text(f"planted-words-{number}", "Sailing", color="{color.ink}", font_size=15),
        name="planted part",
        **({"padding": (12, 16), "fill": "{color.paper}"} | style),
    )
    if role != "none":
        root = msgspec.structs.replace(root, style=root.style.set("role", role))
    return Component(f"planted-{number}", f"Planted {number}", root)


def used(document: Document, component: Component, chance: random.Random) -> Document:
    """A component that stands on a screen, so that it is not unused as well."""
    document = add_component(document, component)
    node = instance(f"use-of-{component.id}", component.id)
    return on_screen(document, a_screen(document, chance), node)


# --- contrast -----------------------------------------------------------------------------------


@plant("contrast", "words-contrast")
def words_hard_to_read(document, chance):
    if chance.random() < 0.3:
        return words_on_a_gradient(document, chance)
    screen = a_screen(document, chance)
    grey = chance.choice(("#9AA5A8", "#C0C0C0", "#8FA3AA"))
    faint = box("faint-box", text("faint", "Sailing", color=grey, font_size=15), fill="#FFFFFF")
    return on_screen(document, screen, faint), screen.id


def words_on_a_gradient(document, chance):
    component = a_part(chance, fill="#FFFFFF")
    angle = chance.choice((0, 90, 135))
    fill = parse_fill(f"linear-gradient({angle}deg, #FFFFFF, #14252B)")
    root = msgspec.structs.replace(component.root, style=component.root.style.set("fill", fill))
    component = msgspec.structs.replace(component, root=root)
    return used(document, component, chance), component.id


@plant("contrast", "words-over-picture")
def words_on_a_picture(document, chance):
    picture = next(
        node.style["picture"]
        for owner in document.owners()
        for node in walk(owner.root)
        if node.kind == "image"
    )
    screen = a_screen(document, chance)
    both = box(
        "pictured",
        image("pictured-view", picture, label="A view", width=200, height=60, x=0, y=0),
        text("pictured-words", "Sailing", color="#14252B", font_size=15, x=10, y=10),
        flow="free",
        width=200,
        height=60,
    )
    return on_screen(document, screen, both), screen.id


@plant("contrast", "mark-contrast")
def mark_hard_to_see(document, chance):
    number = chance.randrange(10**6)
    grey = chance.choice(("#C8D2D5", "#D9DEE0", "#BBC6CA"))
    mark = shape(f"mark-{number}", "M0 0H24V24H0Z", fill=grey, width=24, height=24)
    root = box(
        f"marked-{number}", mark, fill="#FFFFFF", padding=(12, 12), role="button", label="Go"
    )
    component = Component(f"marked-{number}", f"Marked {number}", root)
    return used(document, component, chance), component.id


@plant("contrast", "focus-contrast")
def focus_hard_to_see(document, chance):
    component = a_part(chance, "button", stroke="#FFFFFF", line_width=2)
    axis = Axis("focus", "Focus", (AxisValue("no", "No"), AxisValue("yes", "Yes")), "no", "focus")
    grey = chance.choice(("#E2E8EA", "#EDEDED", "#D5DADC"))
    rule = Rule(
        Map({"focus": "yes"}),
        (component.root.id,),
        "stroke",
        Color(*(int(grey[n : n + 2], 16) / 255 for n in (1, 3, 5))),
    )
    component = msgspec.structs.replace(component, axes=(axis,), rules=(rule,))
    return used(document, component, chance), component.id


# --- targets ------------------------------------------------------------------------------------


@plant("targets", "target-small")
def targets_close_together(document, chance):
    screen = a_screen(document, chance)
    side = chance.choice((12, 16, 20))
    pair = [instance(f"tiny-{n}", "icon-button", width=side, height=side) for n in range(2)]
    return on_screen(document, screen, box("tiny-row", *pair, gap=1)), screen.id


@plant("targets", "target-below-44")
def target_not_comfortable(document, chance):
    component = a_part(chance, "button", padding=(chance.choice((2, 4, 6)), 16))
    return used(document, component, chance), component.id


@plant("targets", "target-covered")
def target_under_something(document, chance):
    screen = a_screen(document, chance)
    stack = box(
        "stack",
        instance("under", "button", x=0, y=0),
        box("over", fill="#F6F1E7", width=400, height=80, x=0, y=0),
        flow="free",
        width=380,
        height=80,
    )
    return on_screen(document, screen, stack), screen.id


@plant("targets", "target-click-through")
def target_lets_through(document, chance):
    pressed = [c for c in document.in_order() if c.root.style.get("role", "none") == "button"]
    component = chance.choice(pressed)
    changed = set_properties(document, Place(component.id), {"click-through": True})
    return changed, component.id


@plant("targets", "hover-only")
def words_only_under_the_pointer(document, chance):
    if chance.random() < 0.3:
        component = opened(chance)
        document = used(document, component, chance)
        there = with_cue(document, component.id, "enter", put("shut", "yes"))
        return with_cue(there, component.id, "leave", put("shut", "no")), component.id
    pointed = [c for c in document.in_order() if any(a.driver == "pointer" for a in c.axes)]
    component = chance.choice([c for c in pointed if c.root.kind == "box"])
    axis = next(a for a in component.axes if a.driver == "pointer")
    hint = text("hint", "Opens a page", color="#14252B", font_size=13)
    document = add_node(document, component.id, component.root.id, hint)
    document = set_properties(document, Place(component.id, ("hint",)), {"shown": False})
    reach = Map({axis.id: "hover"})
    shown = set_properties(document, Place(component.id, ("hint",)), {"shown": True}, reach)
    return shown, component.id


# --- states -------------------------------------------------------------------------------------


@plant("states", "no-hover", "no-focus", "no-disabled")
def nothing_shows_a_press(document, chance):
    component = a_part(chance, chance.choice(("button", "link", "checkbox")))
    return used(document, component, chance), component.id


def by_room(chance, *values: AxisValue, **rules: float) -> Component:
    """A small part that its room decides: the gap of each value, by its id."""
    part = a_part(chance, flow="row", gap=4)
    more = text(f"{part.id}-more", "and back", color="{color.ink}", font_size=15)
    root = msgspec.structs.replace(part.root, children=(*part.root.children, more))
    root = msgspec.structs.replace(root, style=root.style.set("width", Size("grow", 1.0)))
    room = Axis("room", "Room", values, values[0].id, "room")
    said = tuple(Rule(Map({"room": v}), (root.id,), "gap", gap) for v, gap in rules.items())
    return msgspec.structs.replace(part, root=root, axes=(room,), rules=said)


@plant("states", "room-nothing-new")
def room_that_shows_nothing(document, chance):
    starts = sorted(chance.sample(range(200, 900, 20), 2))
    values = [AxisValue("narrow", "Narrow"), AxisValue("usual", "Usual", least=float(starts[0]))]
    if chance.random() < 0.3:  # one that begins where another does is never shown
        values.append(AxisValue("wide", "Wide", least=float(starts[0])))
        part = by_room(chance, *values, wide=24.0)
    else:
        values.append(AxisValue("wide", "Wide", least=float(starts[1])))
        part = by_room(chance, *values, **{chance.choice(("usual", "narrow")): 24.0})
        if part.rules[0].when["room"] == "usual":
            part = msgspec.structs.replace(
                part,
                rules=(*part.rules, Rule(Map({"room": "wide"}), (part.root.id,), "gap", 24.0)),
            )
    return used(document, part, chance), part.id


@plant("states", "room-unfit")
def room_too_small(document, chance):
    least = float(chance.choice(range(40, 100, 5)))
    values = (AxisValue("narrow", "Narrow"), AxisValue("wide", "Wide", least=least))
    part = by_room(chance, *values, wide=float(chance.choice((80, 100, 140))))
    column = Rule(Map({"room": "narrow"}), (part.root.id,), "flow", "column")
    return used(
        document, msgspec.structs.replace(part, rules=(*part.rules, column)), chance
    ), part.id


@plant("states", "room-circle")
def room_of_its_own_making(document, chance):
    values = (AxisValue("narrow", "Narrow"), AxisValue("wide", "Wide", least=300.0))
    part = by_room(chance, *values, wide=30.0)
    document = used(document, part, chance)
    if chance.random() < 0.5:
        style = part.root.style.set("width", FIT)
        fitting = msgspec.structs.replace(
            part, root=msgspec.structs.replace(part.root, style=style)
        )
        held = document.components.set(part.id, fitting)
        return msgspec.structs.replace(document, components=held), part.id
    node = f"use-of-{part.id}"
    screen = next(s for s in document.screens_in_order() if any(n.id == node for n in walk(s.root)))

    def fitted(n):
        if n.id == node:
            return msgspec.structs.replace(n, style=n.style.set("width", FIT))
        return msgspec.structs.replace(n, children=tuple(fitted(c) for c in n.children))

    root = fitted(screen.root)
    screens = document.screens.set(screen.id, msgspec.structs.replace(screen, root=root))
    return msgspec.structs.replace(document, screens=screens), screen.id


@plant("states", "same-look", "same-meaning")
def two_values_alike(document, chance):
    component = a_component(document, chance, 1)
    axis = chance.choice(component.axes)
    spare = AxisValue("spare", "Spare")
    template = chance.choice(axis.values)
    rules = []
    for rule in component.rules:
        rules.append(rule)
        if rule.when.get(axis.id) == template.id:
            rules.append(msgspec.structs.replace(rule, when=rule.when.set(axis.id, "spare")))
    if not any(axis.id in rule.when for rule in component.rules):
        return None
    refused = [
        pattern.set(axis.id, "spare")
        for pattern in component.not_offered
        if pattern.get(axis.id) == template.id
    ]
    axes = tuple(
        msgspec.structs.replace(a, values=(*a.values, spare)) if a.id == axis.id else a
        for a in component.axes
    )
    changed = msgspec.structs.replace(
        component,
        axes=axes,
        rules=tuple(rules),
        not_offered=(*component.not_offered, *refused),
    )
    return with_owner(document, changed), component.id


@plant("states", "cue-into-not-offered")
def cue_into_what_is_not_offered(document, chance):
    component = a_component(document, chance, 1)
    axis = chance.choice(component.axes)
    if axis.driver == "room" or len(axis.values) > 2:
        return None  # no cue sets it, or the others would have no way in
    value = chance.choice([v for v in axis.values if v.id != axis.default])
    goal = default_variant(component).set(axis.id, value.id)
    document = set_offered(document, component.id, goal, False)
    # And back again, so that offering it is all there is to mend.
    document = with_cue(document, component.id, "long-press", put(axis.id, axis.default))
    return with_cue(document, component.id, "tap", put(axis.id, value.id)), component.id


@plant("states", "cue-names-gone")
def cue_that_names_what_is_gone(document, chance):
    component = a_component(document, chance, 1)
    axis = component.axes[0]
    gone = chance.choice(
        (
            {"node": ("long-gone",)},
            {"changes": (Change("set", "long-gone", "x"),)},
            {"changes": (Change("set", axis.id, "long-gone"),)},
            {"changes": (Change("go", "long-gone"),)},
            {"changes": (Change("next", axis.id, at=("long-gone",)),)},
            {"trigger": Trigger("became", axis="long-gone")},
            {"when": Map({axis.id: "long-gone"})},
            {"conditions": (Condition("long-gone", ("x",)),)},
        )
    )
    cue = Cue("planted", (), Trigger("appear"), (Change("restart"),))
    return _behaving(document, component, msgspec.structs.replace(cue, **gone)), component.id


@plant("states", "cues-one-id")
def two_cues_of_one_id(document, chance):
    component = a_component(document, chance, 1)
    cue = Cue("planted", (), Trigger("appear"), (Change("restart"),))
    return _behaving(document, component, cue, cue), component.id


def _behaving(document: Document, component: Component, *cues: Cue) -> Document:
    """As a file from elsewhere may have it: no edit makes such cues."""
    behaviour = component.behaviour
    changed = msgspec.structs.replace(behaviour, cues=(*behaviour.cues, *cues))
    return with_owner(document, msgspec.structs.replace(component, behaviour=changed))


@plant("states", "timer-without-pause")
def carousel(document, chance):
    component = a_part(chance)
    names = ("one", "two", "three")[: chance.choice((2, 3))]
    axis = Axis("page", "Page", tuple(AxisValue(n, n.title()) for n in names), names[0])
    component = msgspec.structs.replace(component, axes=(axis,))
    document = used(document, component, chance)
    delay = Trigger("delay", ms=3000.0)
    return with_cue(document, component.id, delay, turned("page")), component.id


@plant("states", "motion-long")
def motion_that_takes_long(document, chance):
    component = a_component(document, chance)
    slow = Motion(chance.choice((700.0, 1200.0)))
    return with_owner(document, msgspec.structs.replace(component, motion=slow)), component.id


def opened(chance) -> Component:
    component = a_part(chance)
    axis = Axis("shut", "Shut", (AxisValue("no", "No"), AxisValue("yes", "Yes")), "no")
    return msgspec.structs.replace(component, axes=(axis,))


@plant("states", "state-no-way-out")
def state_without_end(document, chance):
    component = opened(chance)
    document = used(document, component, chance)
    return with_cue(document, component.id, "tap", put("shut", "yes")), component.id


@plant("states", "state-no-way-in")
def state_without_beginning(document, chance):
    component = opened(chance)
    spare = AxisValue("half", "Half")
    axis = component.axes[0]
    axis = msgspec.structs.replace(axis, values=(*axis.values, spare))
    component = msgspec.structs.replace(component, axes=(axis,))
    document = used(document, component, chance)
    there = with_cue(document, component.id, "tap", put("shut", "yes"), when={"shut": "no"})
    back = with_cue(there, component.id, "tap", put("shut", "no"), when={"shut": "yes"})
    return back, component.id


@plant("states", "one-way-jump")
def way_without_return(document, chance):
    end = box("end", text("end-words", "Done", color="#14252B"), fill="#FFFFFF", width=390)
    document = add_screen(document, Screen("end", "End", end))
    screen = a_screen(document, chance)
    screen = screen if screen.id != "end" else document.screens["boarding"]
    return with_cue(document, screen.id, "appear", Change("go", "end")), "end"


# --- names --------------------------------------------------------------------------------------


@plant("names", "role-missing")
def tap_without_a_role(document, chance):
    inner = [
        (component, node)
        for component in document.in_order()
        for node in walk(component.root)
        if component.axes and node.kind == "box" and node is not component.root
    ]
    component, node = chance.choice(inner)
    axis = component.axes[0]
    bare = set_properties(document, Place(component.id, (node.id,)), {"role": "none", "label": ""})
    cue = with_cue(bare, component.id, "tap", put(axis.id, axis.values[0].id), node=(node.id,))
    return cue, component.id


@plant("names", "name-missing")
def nothing_to_read_aloud(document, chance):
    number = chance.randrange(10**6)
    mark = shape(f"mute-mark-{number}", "M0 0H24V24H0Z", fill="#14252B", width=24, height=24)
    root = box(f"mute-{number}", mark, fill="#FFFFFF", padding=(12, 12), role="button")
    component = Component(f"mute-{number}", f"Mute {number}", root)
    return used(document, component, chance), component.id


@plant("names", "picture-without-words")
def picture_without_words(document, chance):
    screen = a_screen(document, chance)
    return on_screen(document, screen, image("bare-view", Picture("", 40.0, 40.0))), screen.id


@plant("names", "focus-order")
def keys_against_the_eye(document, chance):
    screen = a_screen(document, chance)
    first, second = (instance(f"turned-{n}", "button") for n in range(2))
    if chance.random() < 0.5:
        row = box("turned-stops", first, second, flow="column", reversed=True, gap=8)
    else:
        left = instance("turned-0", "button", x=0, y=0)
        right = instance("turned-1", "button", x=160, y=0)
        row = box("turned-stops", right, left, flow="free", width=380, height=50)
    return on_screen(document, screen, row), screen.id


# --- system -------------------------------------------------------------------------------------


@plant("system", "color-equals-token")
def color_like_a_token(document, chance):
    owner, node = a_node(document, chance, chance.choice(("box", "text")))
    name = "fill" if node.kind == "box" else "color"
    sea = document.tokens[chance.choice(("color.sea", "color.coral", "color.sand"))].value
    return set_properties(document, Place(owner.id, (node.id,)), {name: sea}), owner.id


@plant("system", "color-near-token")
def color_beside_a_token(document, chance):
    owner, node = a_node(document, chance, "box")
    sea = document.tokens["color.sea"].value
    near = Color(sea.red, sea.green + 2 / 255, sea.blue)
    return set_properties(document, Place(owner.id, (node.id,)), {"fill": near}), owner.id


def spaced(document: Document, chance: random.Random) -> Document:
    """With a token of 38 px that something refers to."""
    document = add_token(document, "space.planted", DesignToken("dimension", 38.0))
    rail = box("rail", gap="{space.planted}")
    return on_screen(document, a_screen(document, chance), rail)


@plant("system", "length-equals-token")
def length_like_a_token(document, chance):
    owner, node = a_node(document, chance, "box")
    document = spaced(document, chance)
    document = set_properties(document, Place(owner.id, (node.id,)), {"gap": 38.0})
    return document, owner.id


@plant("system", "length-near-token")
def length_beside_a_token(document, chance):
    owner, node = a_node(document, chance, "box")
    document = spaced(document, chance)
    near = chance.choice((37.5, 38.5, 39.0))
    document = set_properties(document, Place(owner.id, (node.id,)), {"padding-left": near})
    return document, owner.id


@plant("system", "components-near-equal")
def components_nearly_the_same(document, chance):
    varied = [c for c in document.in_order() if c.root.kind == "box" and len(c.root.children) > 1]
    model = chance.choice(varied)
    style = {"gap": 32.0, "padding-top": 28.0}
    root = msgspec.structs.replace(model.root, style=model.root.style.update(style))
    twin = msgspec.structs.replace(model, id="twin", name="Twin", root=root)
    document = add_component(document, twin)
    node = instance("use-of-twin", "twin")
    return on_screen(document, a_screen(document, chance), node), "twin"


@plant("system", "drawn-like-instance")
def drawn_like_an_instance(document, chance):
    screen = a_screen(document, chance)
    component = a_part(chance, fill="#E4D5F0", radius=9, gap=8, stroke="#503070", line_width=2)
    root = component.root
    document = used(document, component, chance)
    changes = {"gap": 6.0} if chance.random() < 0.5 else {}
    inner = msgspec.structs.replace(root.children[0], id="drawn-words", name="words")
    style = root.style.update(changes)
    drawn = msgspec.structs.replace(root, id="drawn", name="drawn", style=style, children=(inner,))
    return on_screen(document, screen, drawn), screen.id


@plant("system", "axis-unused")
def axis_that_changes_nothing(document, chance):
    component = a_component(document, chance)
    axis = Axis("spare", "Spare", (AxisValue("a", "A"), AxisValue("b", "B")), "a")
    changed = msgspec.structs.replace(component, axes=(*component.axes, axis))
    return with_owner(document, changed), component.id


@plant("system", "value-unused")
def value_that_nobody_chooses(document, chance):
    component = a_part(chance)
    values = tuple(AxisValue(n, n.title()) for n in ("calm", "rough", "wild"))
    axis = Axis("sea", "Sea", values, "calm")
    rules = tuple(
        Rule(Map({"sea": v}), (component.root.id,), "gap", n)
        for v, n in (("rough", 4.0), ("wild", 12.0))
    )
    component = msgspec.structs.replace(component, axes=(axis,), rules=rules)
    document = add_component(document, component)
    node = instance("rough-one", component.id, choices={"sea": "rough"})
    return on_screen(document, a_screen(document, chance), node), component.id


@plant("system", "token-unused")
def token_that_nobody_names(document, chance):
    path = f"color.spare-{chance.randrange(999)}"
    token = DesignToken("color", Color(chance.random(), chance.random(), 0.123))
    return add_token(document, path, token), ""


@plant("system", "property-unused")
def property_that_nothing_follows(document, chance):
    component = a_component(document, chance)
    prop = ComponentProperty("spare", "Spare", "text", words("x"))
    return add_property(document, component.id, prop), component.id


@plant("system", "component-unused")
def component_that_stands_nowhere(document, chance):
    spare = Component(f"spare-{chance.randrange(999)}", "Spare", box("spare-root"))
    return add_component(document, spare), spare.id


@plant("system", "spacing-off-scale")
def spacing_beside_the_scale(document, chance):
    number = chance.randrange(10**6)
    rows = [box(f"row-{number}-{n}", gap=8 * (n % 4 + 1), padding=(8, 16)) for n in range(40)]
    odd = box(f"odd-{number}", gap=chance.choice((7, 13, 19)))
    screen = Screen("spaced", "Spaced", box("spaced-root", *rows, odd, flow="column"))
    return add_screen(document, screen), "spaced"


# --- rules --------------------------------------------------------------------------------------


@plant("rules", "rule-names-gone")
def rule_that_names_what_is_gone(document, chance):
    component = a_component(document, chance, 1)
    axis = component.axes[0]
    here = Map({axis.id: axis.values[0].id})
    gone = chance.choice(
        (
            Rule(here, ("long-gone",), "opacity", 0.5),
            Rule(Map({"long-gone": "x"}), (component.root.id,), "opacity", 0.5),
            Rule(Map({axis.id: "long-gone"}), (component.root.id,), "opacity", 0.5),
        )
    )
    changed = msgspec.structs.replace(component, rules=(*component.rules, gone))
    return with_owner(document, changed), component.id


@plant("rules", "rule-never-wins")
def rule_that_never_wins(document, chance):
    component = a_component(document, chance, 2)
    first, last = component.axes[0], component.axes[-1]
    idle = Rule(Map({first.id: first.values[0].id}), (component.root.id,), "gap", 3.0)
    louder = [
        Rule(Map({last.id: value.id}), (component.root.id,), "gap", 4.0 + n)
        for n, value in enumerate(last.values)
    ]
    rules = tuple(r for r in component.rules if r.property != "gap")
    changed = msgspec.structs.replace(component, rules=(*rules, idle, *louder))
    return with_owner(document, changed), component.id


@plant("rules", "rules-for-every-value")
def rules_that_say_the_same(document, chance):
    component = a_component(document, chance, 2)
    first, second = component.axes[:2]
    more = [
        Rule(
            Map({first.id: value.id, second.id: second.values[0].id}),
            (component.root.id,),
            "rotate",
            7.0,
        )
        for value in first.values
    ]
    changed = msgspec.structs.replace(component, rules=(*component.rules, *more))
    return with_owner(document, changed), component.id


@plant("rules", "override-equal")
def override_that_says_nothing(document, chance):
    """The very value that its component's tree says, said once more by an instance."""
    spots = []
    for screen in document.screens_in_order():
        for node in walk(screen.root):
            component = document.components.get(node.style.get("component", ""))
            if component is None:
                continue
            ruled = {r.property for r in component.rules if r.node == (component.root.id,)}
            said = {r.property for r in node.overrides} | set(node.style) | ruled
            spots += [
                (screen, node, name, value)
                for name, value in component.root.style.items()
                if name in ("padding-left", "gap", "radius-top-left") and name not in said
            ]
    screen, node, name, value = chance.choice(spots)
    return set_properties(document, Place(screen.id, (node.id,)), {name: value}), screen.id


# --- layout, code, trials -----------------------------------------------------------------------


@plant("layout", "spills-words-outside", "spills-words-cut", "spills-part-outside")
def words_that_spill(document, chance):
    screen = a_screen(document, chance)
    clip = chance.random() < 0.5
    words_ = text("long", "Harbourmastersannouncement", color="#14252B", font_size=18)
    narrow = box("narrow", words_, width=60, height=30, clip=clip, fill="#FFFFFF")
    return on_screen(document, screen, narrow), screen.id


@plant("layout", "fixed-around-words")
def height_that_is_fixed(document, chance):
    number = chance.randrange(10**6)
    label = text(f"fixed-words-{number}", "Boarding now", color="#14252B", font_size=16)
    held = box(f"fixed-{number}", label, width=110, height=30, fill="#FFFFFF")
    component = Component(f"fixed-{number}", f"Fixed {number}", box(f"hold-{number}", held))
    return used(document, component, chance), component.id


@plant("hand-over", "names-alike")
def parts_called_the_same(document, chance):
    fitting = [c for c in document.in_order() if len(list(walk(c.root))) > 2]
    component = chance.choice(fitting)
    one, other = chance.sample(list(walk(component.root))[1:], 2)
    return rename_node(document, component.id, other.id, one.name), component.id


@plant("hand-over", "components-alike")
def components_called_the_same(document, chance):
    component = a_part(chance)
    document = used(document, component, chance)
    last = chance.choice([c for c in document.in_order() if c.id != component.id])
    name = f"Planted/{last.name.rpartition('/')[2]}"
    return rename_owner(document, component.id, name), component.id


@plant("hand-over", "name-says-nothing")
def part_called_nothing(document, chance):
    ruled = [
        (component, rule.node[0])
        for component in document.in_order()
        for rule in component.rules
        if rule.node[0] != component.root.id
    ]
    component, node = chance.choice(ruled)
    name = chance.choice(("box 12", "7", "group", "layer 3"))
    return rename_node(document, component.id, node, name), component.id


@plant("hand-over", "name-taken")
def property_whose_name_is_taken(document, chance):
    component = a_component(document, chance)
    prop = ComponentProperty("taken", "Title", "text", words("x"))
    document = add_property(document, component.id, prop)
    label = text("taken-words", "x", color="#14252B")
    label = msgspec.structs.replace(label, style=label.style.set("content", FromProperty("taken")))
    if component.root.kind != "box":
        return None
    return add_node(document, component.id, component.root.id, label), component.id


@plant("trials", "trial-words-outside", "trial-words-cut", "trial-room-exceeded")
def kept_trial_that_breaks(document, chance):
    component = a_part(chance, width=120)
    document = used(document, component, chance)
    content = chance.choice(("long-word", "long-word", "growth"))
    check = KeptTrial(component.id, content, "own" if content == "long-word" else "text-200")
    return keep_check(document, check), component.id


# --- what the states do -------------------------------------------------------------------------


def pointed(component: Component, *values: str) -> Component:
    """With an axis that the pointer drives."""
    said = tuple(AxisValue(value, value) for value in ("rest", *values))
    return msgspec.structs.replace(
        component, axes=(Axis("state", "State", said, "rest", "pointer"),)
    )


@plant("states", "hover-pushes")
def hover_that_pushes(document, chance):
    component = pointed(a_part(chance, "button"), "hover", "press")
    words_id = component.root.children[0].id
    grown = chance.choice(
        (
            Rule(Map({"state": "hover"}), (component.root.id,), "padding-left", 28.0),
            Rule(Map({"state": "hover"}), (component.root.id,), "padding-top", 20.0),
            Rule(Map({"state": "hover"}), (words_id,), "font-size", 18.0),
            Rule(Map({"state": "hover"}), (words_id,), "letter-spacing", 2.0),
        )
    )
    fill = Rule(Map({"state": "press"}), (component.root.id,), "fill", parse("#EEEEEE"))
    component = msgspec.structs.replace(component, rules=(grown, fill))
    return used(document, component, chance), component.id


@plant("states", "error-by-color")
def error_that_a_color_tells(document, chance):
    component = a_part(chance, stroke="#8FA3AA", line_width=1)
    values = (AxisValue("no", "no"), AxisValue("yes", "yes"))
    axis = Axis("wrong", "Wrong", values, "no", meaning="invalid")
    if chance.random() < 0.5:
        named = (AxisValue("no", "plain"), AxisValue("yes", chance.choice(("error", "Invalid"))))
        axis = Axis("wrong", "State of it", named, "no")
    words_id = component.root.children[0].id
    rules = [
        Rule(Map({"wrong": "yes"}), (component.root.id,), "stroke", parse("#A11D1D")),
        Rule(Map({"wrong": "yes"}), (words_id,), "color", parse("#A11D1D")),
    ]
    chosen = tuple(chance.sample(rules, chance.choice((1, 2))))
    component = msgspec.structs.replace(component, axes=(axis,), rules=chosen)
    document = add_component(document, component)
    node = instance(f"use-of-{component.id}", component.id, choices={"wrong": "yes"})
    return on_screen(document, a_screen(document, chance), node), component.id


@plant("states", "focus-unseen")
def focus_on_what_is_not_seen(document, chance):
    if chance.random() < 0.5:
        screen = a_screen(document, chance)
        node = instance("faint-button", "button", opacity=0)
        held = box("faint-holder", instance("in-faint", "button"), opacity=0)
        return on_screen(document, screen, chance.choice((node, held))), screen.id
    component = opened(chance)
    component = msgspec.structs.replace(
        component,
        root=msgspec.structs.replace(
            component.root, style=component.root.style.set("role", "button")
        ),
        rules=(Rule(Map({"shut": "yes"}), (component.root.id,), "opacity", 0.0),),
    )
    return used(document, component, chance), component.id


@plant("states", "time-leaves")
def what_leaves_by_itself(document, chance):
    if chance.random() < 0.5:
        screens = [s for s in document.screens_in_order() if s.id not in PLAIN]
        screen, goal = chance.sample(screens, 2)
        wait = Trigger("delay", ms=chance.choice((2000.0, 5000.0)))
        return with_cue(document, screen.id, wait, Change("go", goal.id)), screen.id
    component = opened(chance)
    gone = Rule(Map({"shut": "yes"}), (component.root.id,), "opacity", 0.0)
    if chance.random() < 0.5:
        gone = Rule(Map({"shut": "yes"}), (component.root.children[0].id,), "shown", False)
    component = msgspec.structs.replace(component, rules=(gone,))
    document = used(document, component, chance)
    shut = put("shut", "yes")
    return with_cue(document, component.id, Trigger("delay", ms=4000.0), shut), component.id


# --- names --------------------------------------------------------------------------------------


@plant("names", "label-in-name")
def read_aloud_otherwise(document, chance):
    label = chance.choice(("Press to go on", "Buy it now", "Sail"))
    if chance.random() < 0.3:
        component = a_part(chance)
        words_ = text(f"on-{component.id}", "Book a berth", color="#14252B", font_size=15)
        inner = box(f"press-{component.id}", words_, role="button", label=label, padding=(14, 14))
        root = msgspec.structs.replace(component.root, children=(inner,))
        return used(document, msgspec.structs.replace(component, root=root), chance), component.id
    if chance.random() < 0.5:
        component = a_part(chance, "button", label=label)
        return used(document, component, chance), component.id
    screen = a_screen(document, chance)
    said = instance("otherwise", "button", choices={"label": "Show the timetable"}, label=label)
    return on_screen(document, screen, said), screen.id


@plant("names", "buttons-alike")
def buttons_of_one_name(document, chance):
    screen = a_screen(document, chance)
    word = f"Weigh {chance.randrange(100)}"
    pair = [instance(f"alike-{n}", "button", choices={"label": word}) for n in range(2)]
    nodes = [
        box(f"lot-{n}", text(f"lot-words-{n}", f"Lot {n}"), node) for n, node in enumerate(pair)
    ]
    return on_screen(document, screen, *(nodes if chance.random() < 0.5 else pair)), screen.id


@plant("names", "group-without-name")
def group_that_is_not_named(document, chance):
    screen = a_screen(document, chance)
    role = chance.choice(("radiogroup", "tablist"))
    group = box("mute-group", instance("in-group", "radio"), name="group of boats", role=role)
    return on_screen(document, screen, group), screen.id


@plant("names", "tab-without-list")
def tab_in_no_list(document, chance):
    screen = a_screen(document, chance)
    tabs = [instance(f"loose-{n}", "day-tab") for n in range(chance.choice((1, 2, 3)))]
    held = box("loose-tabs", *tabs) if chance.random() < 0.5 else box("out", box("in", *tabs))
    return on_screen(document, screen, held), screen.id


@plant("names", "panel-without-role")
def panel_that_is_none(document, chance):
    number = chance.randrange(10**6)
    values = (AxisValue("sea", "Sea"), AxisValue("land", "Land"))
    tabs = [instance(f"tab-{value.id}-{number}", "day-tab") for value in values]
    panels = [
        box(f"panel-{value.id}-{number}", text(f"p-{value.id}-{number}", value.name), shown=not n)
        for n, value in enumerate(values)
    ]
    row = box(f"tabs-{number}", *tabs, role="tablist", label="Ways")
    around = box(f"panels-{number}", *panels) if chance.random() < 0.5 else None
    inside = (around,) if around is not None else tuple(panels)
    component = Component(
        f"tabbed-{number}",
        f"Tabbed {number}",
        box(f"tabbed-root-{number}", row, *inside, flow="column"),
        (Axis("way", "Way", values, "sea"),),
        (
            Rule(Map({"way": "land"}), (panels[0].id,), "shown", False),
            Rule(Map({"way": "land"}), (panels[1].id,), "shown", True),
        ),
    )
    document = used(document, component, chance)
    for value, tab in zip(values, tabs, strict=True):
        document = with_cue(document, component.id, "tap", put("way", value.id), node=(tab.id,))
    return document, component.id


@plant("names", "list-item-tapped")
def list_item_that_is_tapped(document, chance):
    component = opened(chance)
    style = component.root.style.set("role", "listitem")
    root = msgspec.structs.replace(component.root, style=style)
    component = msgspec.structs.replace(component, root=root)
    document = used(document, component, chance)
    if chance.random() < 0.5:
        screen = a_screen(document, chance)
        node = instance("tapped-item", component.id)
        document = on_screen(document, screen, node)
        go = Change("go", screen.id)
        return with_cue(document, screen.id, "tap", go, node=("tapped-item",)), screen.id
    return with_cue(document, component.id, "tap", turned("shut")), component.id


# --- letters and spelling -----------------------------------------------------------------------


@plant("system", "values-spelled-apart")
def value_spelled_apart(document, chance):
    axes = [a for c in document.in_order() for a in c.axes if any(v.name for v in a.values)]
    model = chance.choice(axes)
    value = chance.choice(model.values)
    name = value.name.upper() if value.name != value.name.upper() else value.name.lower()
    if name == value.name:
        return None
    component = a_part(chance)
    axis = Axis(
        model.id, model.name, (AxisValue("odd", name), AxisValue("calm", "Calm sea")), "odd"
    )
    rule = Rule(Map({axis.id: "calm"}), (component.root.id,), "gap", 4.0)
    component = msgspec.structs.replace(component, axes=(axis,), rules=(rule,))
    return used(document, component, chance), component.id


@plant("layout", "type-small")
def letters_too_small(document, chance):
    size = chance.choice((6.0, 8.0, 9.5))
    if chance.random() < 0.5:
        component = a_part(chance)
        words_id = component.root.children[0].id
        document = used(document, component, chance)
        place = Place(component.id, (words_id,))
        return set_properties(document, place, {"font-size": size}), component.id
    screen = a_screen(document, chance)
    return on_screen(document, screen, text("tiny", "Small print", font_size=size)), screen.id


@plant("layout", "family-missing")
def typeface_that_is_not_there(document, chance):
    family = chance.choice(("Skerry Grotesk", "Holm Serif"))
    if chance.random() < 0.3:
        path = "type.planted"
        document = add_token(document, path, DesignToken("family", family))
        family = "{type.planted}"
    component = a_part(chance)
    words_ = text(f"in-{component.id}", "Sailing", font_family=family)
    root = msgspec.structs.replace(component.root, children=(words_,))
    return used(document, msgspec.structs.replace(component, root=root), chance), component.id


@plant("layout", "letters-missing")
def letters_that_no_font_has(document, chance):
    component = a_part(chance)
    spoken = chance.choice(("გემი", "Gate ⠿", "취소", "Sail 👍", "ሰርዝ"))
    words_ = text(f"in-{component.id}", spoken)
    root = msgspec.structs.replace(component.root, children=(words_,))
    return used(document, msgspec.structs.replace(component, root=root), chance), component.id


SIDES: dict[str, frozenset[str]] = {
    "target-small": frozenset({"target-below-44"}),
    "cue-into-not-offered": frozenset({"state-no-way-out"}),
    "same-look": frozenset({"state-no-way-in"}),
    "length-near-token": frozenset({"spacing-off-scale"}),
    "components-near-equal": frozenset({"value-unused", "color-near-token", "spacing-off-scale"}),
    "focus-contrast": frozenset({"no-hover", "no-disabled"}),
    "role-missing": frozenset({"no-hover", "no-focus", "no-disabled", "tab-without-list"}),
    "type-small": frozenset({"spills-part-outside"}),
    "family-missing": frozenset({"spills-part-outside"}),
    "letters-missing": frozenset({"spills-part-outside"}),
    "hover-pushes": frozenset({"no-focus", "no-disabled"}),
    "focus-unseen": frozenset({"no-hover", "no-focus", "no-disabled", "same-look"}),
    "time-leaves": frozenset({"state-no-way-out", "one-way-jump", "timer-without-pause"}),
    "list-item-tapped": frozenset({"role-missing"}),
    "focus-order": frozenset({"buttons-alike"}),
}
"""What a fault brings with it by right, and is no false alarm."""
