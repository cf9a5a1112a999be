"""Everyday names of states, and one component made of drawn looks in one step."""

import random

import msgspec
import pytest

from demo.drawing import box, instance, text
from outgrowth.core.color import parse
from outgrowth.core.document.axis_parts import pointer_parts, reads_yes
from outgrowth.core.document.everyday_words import axis_line, guessed
from outgrowth.core.document.records import Component, Document, Screen, find
from outgrowth.core.edits.gather import gather
from outgrowth.core.edits.gather.report import GatheredDrawing
from outgrowth.core.edits.gather.states import (
    looks_of_components,
    looks_of_group,
    looks_of_parts,
    states_of,
)
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.layout import Layout
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS

REST = ("normal", "default", "idle", "up", "rest", "Base", "Enabled")
HOVER = ("hover", "over", "hovered", "Mouse over", ":hover", "is-hovered")
PRESS = ("press", "pressed", "down", "active", "Clicked")
FOCUS = ("focus", "focused", "Focus-visible")
OFF = ("disabled", "off", "inactive", "Unavailable")
FILLS = ("#1971c2", "#2b8a3e", "#d9480f", "#862e9c", "#868e96")


def look(node_id, name, fill, **style):
    node = box(node_id, text("words", "Book"), fill=fill, padding=8, **style)
    words = msgspec.structs.replace(node.children[0], id=f"{node_id}-words")
    return msgspec.structs.replace(node, name=name, children=(words,))


def hall(*nodes, **style):
    return add_screen(Document("Fares"), Screen("hall", "Hall", box("hall", *nodes, **style)))


def fills_live(document, component):
    """The fills that a component shows at rest, under the pointer, and pressed, as it runs."""
    layout = Layout(Typesetter(shipped(FONTS)))
    variant = {axis.id: axis.default for axis in component.axes}
    runtime = Runtime(Resolver(), layout, document, Subject(component.id, True, variant))
    seen = [runtime.target.scene.paint.fill]
    runtime.pointer_move(3, 3)
    seen.append(runtime.target.scene.paint.fill)
    runtime.press(3, 3)
    return [*seen, runtime.target.scene.paint.fill]


@pytest.mark.parametrize("seed", range(40))
def test_any_everyday_names_in_any_order_and_capitals_are_live_at_once(seed):
    chance = random.Random(seed)
    sets = [REST, HOVER, PRESS, *chance.sample([FOCUS, OFF], chance.randint(0, 2))]
    names = [chance.choice(words) for words in sets]
    names = [chance.choice([name, name.upper(), name.title()]) for name in names]
    pairs = list(zip(names, FILLS, strict=False))
    chance.shuffle(pairs)
    nodes = [look(f"n{n}", f"Button/{name}", fill) for n, (name, fill) in enumerate(pairs)]
    document, report = states_of(hall(*nodes), looks_of_parts("hall", nodes, "Part"), "new")
    assert fills_live(document, report.component) == [parse(fill) for fill in FILLS[:3]], names
    parts = pointer_parts(report.component.axes[0])
    named = {report.component.axes[0].value(i).name: part for i, part in parts.items()}
    expected = [
        "rest",
        "hover",
        "press",
        *((sets[n] is FOCUS and "focus") or "disabled" for n in range(3, len(sets))),
    ]
    assert [named[name] for name in names] == expected


def test_gathering_gives_the_same_names_to_the_pointer():
    drawings = [
        GatheredDrawing(f"Button/{kind}/{state}", look(f"{kind}{state}", "x", fill), "hall")
        for kind, fill in (("Main", "#1971c2"), ("Quiet", "#868e96"))
        for state in ("Down", "Default", "Over")
    ]
    nodes = [d.root for d in drawings]
    component = gather(hall(*nodes), drawings, "new").component
    kind, state = component.axes
    assert (kind.name, kind.driver, state.name, state.driver) == (
        "Kind",
        "none",
        "State",
        "pointer",
    )
    assert state.default == state.named("Default").id, "it starts at rest, whatever came first"
    assert list(pointer_parts(state).values()) == ["press", "rest", "hover"]


def test_looks_by_no_name_are_states_in_their_order():
    nodes = [look(f"n{n}", "Rectangle", fill) for n, fill in enumerate(FILLS[:3])]
    document, report = states_of(hall(*nodes), looks_of_parts("hall", nodes, "Part"), "new")
    assert [v.name for v in report.component.axes[0].values] == ["rest", "hover", "press"]
    assert fills_live(document, report.component) == [parse(fill) for fill in FILLS[:3]]
    other = [
        look(f"n{n}", name, fill) for n, (name, fill) in enumerate(zip("ABC", FILLS, strict=False))
    ]
    document, report = states_of(hall(*other), looks_of_parts("hall", other, "Part"), "new")
    assert [v.name for v in report.component.axes[0].values] == ["A", "B", "C"]
    assert fills_live(document, report.component) == [parse(fill) for fill in FILLS[:3]]


def test_where_a_look_stood_is_no_part_of_its_state():
    nodes = [
        look(f"n{n}", name, FILLS[n], x=100.0 * n, y=5.0)
        for n, name in enumerate(("normal", "hover", "down"))
    ]
    document, report = states_of(
        hall(*nodes, flow="free"), looks_of_parts("hall", nodes, "Part"), "new"
    )
    assert {rule.property for rule in report.component.rules} == {"fill"}
    assert [n.style["x"] for n in document.screens["hall"].root.children] == [0.0, 100.0, 200.0]


def test_a_group_with_its_looks_gives_way_to_one_instance():
    looks = [
        look(f"n{n}", name, FILLS[n], shown=not n)
        for n, name in enumerate(("normal", "hover", "down"))
    ]
    group = msgspec.structs.replace(box("g", *looks, x=30.0, y=40.0, flow="free"), name="Bell")
    document, report = states_of(hall(group, flow="free"), looks_of_group("hall", group), "new")
    (one,) = document.screens["hall"].root.children
    assert one.style["component"] == "new" and (one.style["x"], one.style["y"]) == (30.0, 40.0)
    assert report.component.name == "Bell"
    assert fills_live(document, report.component) == [parse(fill) for fill in FILLS[:3]]


def test_components_named_by_path_become_one_and_their_instances_follow():
    document = hall(instance("one", "c1"))
    for n, name in enumerate(("Normal", "Hover", "Pressed")):
        root = look(f"n{n}", "root", FILLS[n])
        document = add_component(document, Component(f"c{n}", f"Bell/{name}", root))
    document, report = states_of(document, looks_of_components(document, ["c0", "c1", "c2"]), "new")
    assert list(document.components) == ["new"]
    assert find(document.screens["hall"].root, "one").style["component"] == "new"
    assert fills_live(document, report.component) == [parse(fill) for fill in FILLS[:3]]


def test_fewer_than_two_looks_are_refused():
    node = look("n", "normal", FILLS[0])
    with pytest.raises(Refusal, match="two looks or more"):
        states_of(hall(node), looks_of_parts("hall", [node], "Part"), "new")


@pytest.mark.parametrize(
    "names, meaning, yes",
    [
        (("closed", "open"), "expanded", [False, True]),
        (("Unchecked", "Checked", "Indeterminate"), "checked", [False, True, False]),
        (("default", "selected"), "selected", [False, True]),
        (("Normal", "Disabled"), "enabled", [True, False]),
        (("valid", "error"), "invalid", [False, True]),
    ],
)
def test_names_that_mean_something_say_so(names, meaning, yes):
    nodes = [look(f"n{n}", f"Field/{name}", FILLS[n]) for n, name in enumerate(names)]
    _, report = states_of(hall(*nodes), looks_of_parts("hall", nodes, "Part"), "new")
    (axis,) = report.component.axes
    assert (axis.driver, axis.meaning) == ("none", meaning)
    assert [reads_yes(axis, value.id) for value in axis.values] == yes


@pytest.mark.parametrize(
    "names, resting",
    [
        (("Off", "On", "Hover"), "Off"),
        (("Inactive", "Active", "Hover"), "Inactive"),
        (("Hover", "Loading"), "Loading"),
        (("hover", "pressed"), "hover"),
    ],
)
def test_something_always_rests(names, resting):
    guess = guessed(names)
    assert guess.driver == "pointer"
    assert [name for name, part in zip(names, guess.parts, strict=True) if part == "rest"] == [
        resting
    ]


@pytest.mark.parametrize(
    "names", [("up", "down"), ("off", "on"), ("active", "inactive"), ("A", "B")]
)
def test_words_that_may_mean_anything_are_not_guessed(names):
    assert guessed(names).driver == "none" and guessed(names).meaning == "none"


@pytest.mark.parametrize(
    "line, name, values",
    [
        ("On: no, yes", "On", ("no", "yes")),
        ("Type: regular | selectable", "Type", ("regular", "selectable")),
        ("small, medium, large", "", ("small", "medium", "large")),
        ("Chosen", "Chosen", ("no", "yes")),
    ],
)
def test_an_axis_is_one_line(line, name, values):
    assert axis_line(line)[:2] == (name, values)


def test_a_line_without_values_is_none():
    assert axis_line("") is None and axis_line("Type:") is None


@pytest.mark.parametrize(
    ("line", "names", "leasts", "side", "unit"),
    [
        (
            "Room: narrow < 320, usual, wide ≥ 640",
            "narrow usual wide",
            (0, 320, 640),
            "width",
            "px",
        ),
        ("Room: narrow below 320 px, wide from 320", "narrow wide", (0, 320), "width", "px"),
        ("Room: narrow, usual, wide", "narrow usual wide", (0, 320, 640), "width", "px"),
        ("Width: short < 40ch, long", "short long", (0, 40), "width", "ch"),
        ("Height: low < 90, high", "low high", (0, 90), "height", "px"),
        ("Room: narrow < 240, wide > 400", "narrow wide", (0, 400), "width", "px"),
    ],
)
def test_a_line_may_say_where_its_values_begin(line, names, leasts, side, unit):
    said = axis_line(line)
    assert said.values == tuple(names.split())
    assert said.leasts == leasts
    assert (said.side, said.unit) == (side, unit)


@pytest.mark.parametrize(
    "line", ["Type: plain, bold", "On: no, yes", "Size: 12, 14", "Room size: S, L"]
)
def test_other_lines_say_nothing_of_a_room(line):
    assert axis_line(line).leasts == ()
