"""The cascade against a slow reference that is obviously right, on random documents; and the
ladder against both."""

from hypothesis import given, settings
from hypothesis import strategies as st
from immutables import Map

from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Node,
    Rule,
    Screen,
)
from outgrowth.core.document.values import Shift
from outgrowth.core.edits.style.styles import put_back, set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.exchange.web.steps import AxisKey, Steps, holding
from outgrowth.core.resolve.cascade import DEFAULT
from outgrowth.core.resolve.ladder import Place, ladder, value_at
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import scene_at

AXES = (
    Axis("a", "A", (AxisValue("0", "0"), AxisValue("1", "1")), "0"),
    Axis("b", "B", (AxisValue("0", "0"), AxisValue("1", "1"), AxisValue("2", "2")), "0"),
)
PLACE = ("card", "chip", "dot")
"""dot in chip, chip in card, card on the screen."""

values = st.one_of(
    st.integers(1, 9).map(float),
    st.integers(1, 3).map(lambda n: Shift("add", float(n))),
)
whens = st.fixed_dictionaries(
    {}, optional={"a": st.sampled_from("01"), "b": st.sampled_from("012")}
).map(Map)
rules = st.lists(st.tuples(whens, values), max_size=4)
choices = st.fixed_dictionaries(
    {}, optional={"a": st.sampled_from("01"), "b": st.sampled_from("012")}
)


def rule(when, path, value):
    return Rule(when, path, "gap", value)


@st.composite
def documents(draw):
    """Three levels, each with values in its tree and rules about the innermost node."""
    dot = Node("dot", "dot", "box", Map({"gap": draw(st.integers(1, 9).map(float))}))
    chip_root = Node("chip-root", "r", "box", Map(), (dot,))
    chip_rules = tuple(rule(w, ("dot",), v) for w, v in draw(rules))
    chip = Component("chip", "Chip", chip_root, AXES, chip_rules)
    chosen = {f"choice:{k}": v for k, v in draw(choices).items()}
    inner = Node(
        "chip",
        "chip",
        "instance",
        Map({"component": "chip"} | chosen),
        overrides=tuple(rule(w, path, v) for path in (("dot",), ()) for w, v in draw(rules)),
    )
    card_rules = tuple(rule(w, ("chip", *p), v) for p in (("dot",), ()) for w, v in draw(rules))
    card_root = Node("card-root", "r", "box", Map(), (inner,))
    card = Component("card", "Card", card_root, AXES, card_rules)
    chosen = {f"choice:{k}": v for k, v in draw(choices).items()}
    outer = Node(
        "card",
        "card",
        "instance",
        Map({"component": "card"} | chosen),
        overrides=tuple(rule(w, ("chip", *p), v) for p in (("dot",), ()) for w, v in draw(rules)),
    )
    screen = Screen("s", "S", Node("root", "root", "box", Map(), (outer,)))
    document = Document("d")
    for component in (chip, card):
        document = add_component(document, component)
    return add_screen(document, screen)


def spoken(document, inside=("dot",)):
    """Every word about a gap (of the dot, or of the chip itself), the strongest last, written out
    from the model's text."""
    screen = document.screens["s"]
    outer = screen.root.children[0]
    card, chip = document.components["card"], document.components["chip"]
    inner = card.root.children[0]
    card_at = {axis.id: outer.style.get(f"choice:{axis.id}", "0") for axis in AXES}
    chip_at = {axis.id: inner.style.get(f"choice:{axis.id}", "0") for axis in AXES}
    said = [chip.root.children[0].style["gap"]] if inside else []
    overridden = sorted(inner.overrides, key=lambda r: len(r.when)), chip_at
    ruled = by_strength(card.rules), card_at
    for listed, variant in (
        (by_strength(chip.rules) if inside else (), chip_at),
        # Of the instance itself one component says both: as a node of its own, then inside.
        *((overridden, ruled) if inside else (ruled, overridden)),
        (sorted(outer.overrides, key=lambda r: len(r.when)), card_at),
    ):
        about = [r for r in listed if r.node in (inside, ("chip", *inside))]
        said += [r.value for r in about if all(variant[k] == v for k, v in r.when.items())]
    return said


def by_strength(listed):
    """More conditions later; equal counts by the order of the axes; then by the list's."""
    order = {frozenset(): 0, frozenset("a"): 1, frozenset("b"): 2, frozenset("ab"): 3}
    return sorted(listed, key=lambda r: order[frozenset(r.when)])


def settled(said):
    plain = [0.0, *[v for v in said if not isinstance(v, Shift)]][-1]
    return plain + sum(v.amount for v in said if isinstance(v, Shift))


@settings(max_examples=150)
@given(documents())
def test_scene_ladder_and_reference_agree(document):
    said = spoken(document)
    scene = scene_at(Resolver().screen(document, document.screens["s"]), PLACE)
    assert scene.layout.style.gap == settled(said)
    place = Place("s", PLACE)
    assert value_at(document, place, "gap") == settled(said)
    rungs = ladder(document, place, "gap")
    assert [rung.value for rung in rungs[1:]] == said
    assert rungs[0].source == DEFAULT
    shown = [rung.value for rung in rungs if rung.wins]
    assert settled(shown) == settled(said)


@settings(max_examples=100)
@given(documents())
def test_what_is_said_of_an_instance_itself_is_outermost_last_too(document):
    """Conditions that an inner instance carries do not outlive what its holder says of it."""
    said = spoken(document, ())
    place = Place("s", PLACE[:2])
    assert value_at(document, place, "gap") == settled(said)
    assert [rung.value for rung in ladder(document, place, "gap")[1:]] == said


@settings(max_examples=100)
@given(documents(), choices)
def test_the_web_code_walks_the_same_steps_with_their_conditions(document, chosen):
    """In every case that the exported part can be in, the steps are those that are drawn."""
    steps = Steps(document, document.components["card"])
    for path in (("chip", "dot"), ("chip",)):
        cell = {AxisKey((), axis): value for axis, value in chosen.items()}
        cell = {AxisKey((), axis.id): "0" for axis in AXES} | cell
        inner = document.components["card"].root.children[0].style
        cell |= {AxisKey(("chip",), axis.id): inner.get(f"choice:{axis.id}", "0") for axis in AXES}
        held = [s.value for s in holding(steps.of(path), cell) if s.property == "gap"]
        variant = Map({axis.id: "0" for axis in AXES} | chosen)
        rungs = ladder(document, Place("card", path, variant), "gap")
        assert [rung.value for rung in rungs[1:]] == held


@settings(max_examples=60)
@given(documents(), st.data())
def test_putting_any_step_back_takes_exactly_it_away(document, data):
    rungs = ladder(document, Place("s", PLACE), "gap")
    written = [r for r in rungs if r.source.kind in ("rule", "instance")]
    if not written:
        return
    rung = data.draw(st.sampled_from(written))
    left = [r for r in rungs if r.source != rung.source]
    after = ladder(put_back(document, "gap", rung.source), Place("s", PLACE), "gap")
    assert [r.value for r in after] == [r.value for r in left]


@settings(max_examples=60)
@given(documents(), st.lists(st.tuples(whens, st.integers(1, 9).map(float)), max_size=5))
def test_what_is_remembered_is_what_is_resolved_anew(document, edits):
    resolver = Resolver()
    for when, gap in edits:
        document = set_properties(document, Place("chip", ("dot",)), {"gap": gap}, when)
        kept = resolver.screen(document, document.screens["s"])
        anew = Resolver().screen(document, document.screens["s"])
        assert scene_at(kept, PLACE).layout.style == scene_at(anew, PLACE).layout.style
