from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from immutables import Map

from outgrowth.core.document.records import walk
from outgrowth.core.document.variants import holds
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.gather import GatheredDrawing, gather, gathered
from outgrowth.core.edits.gather.fewest import fewest_rules
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.nodes import rename_node
from outgrowth.core.layout import Layout
from outgrowth.core.paint import draw, record
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.text import Typesetter

PAGE = "before-gathering"


def drawings(document):
    root = document.screens[PAGE].root
    return [GatheredDrawing(n.name, n, PAGE) for n in walk(root) if n.name.startswith("Button/")]


@pytest.fixture(scope="module")
def report(ferry):
    return gather(ferry, drawings(ferry), "old-button", ("Kind", "Size", "State", "Icon"))


# Common practice, no source: 84 variants from four axes.
def test_84_drawn_buttons_become_one_component_exactly(report):
    assert len(report.drawings) == 84
    assert [len(axis.values) for axis in report.component.axes] == [4, 3, 4, 2]
    assert report.differences == ()
    assert report.conflicts == ()
    assert len(report.missing) == 4 * 3 * 4 * 2 - 84
    assert len(report.component.rules) < 40


def test_one_edit_at_full_reach_then_changes_all_84(ferry, report):
    document = gathered(ferry, report)
    assert len(drawings(document)) == 84
    assert all(d.root.kind == "instance" for d in drawings(document))
    radii = {f"radius-{c}": 3.0 for c in ("top-left", "top-right", "bottom-right", "bottom-left")}
    before = len(document.components["old-button"].rules)
    changed = set_properties(document, Place("old-button"), radii)
    assert len(changed.components["old-button"].rules) == before
    buttons = list(_instances(Resolver().screen(changed, changed.screens[PAGE]), "old-button"))
    assert len(buttons) == 84
    assert {b.paint.radii for b in buttons} == {(3.0,) * 4}


def _instances(scene: SceneNode, component):
    for child in scene.children:
        if child.component == component:
            yield child
        yield from _instances(child, component)


def test_gathering_changes_no_pixel(ferry, report, fonts):
    document = gathered(ferry, report)
    layout = Layout(Typesetter(fonts))

    def picture(of):
        scene = Resolver().screen(of, of.screens[PAGE])
        return record(draw(scene, layout.place(scene.layout)))

    assert picture(document) == picture(ferry)


def test_conflicts_are_named_and_nothing_is_changed(ferry):
    first, second = drawings(ferry)[:2]
    renamed = rename_node(ferry, PAGE, second.root.id, first.name)
    report = gather(renamed, drawings(renamed), "new")
    assert report.component is None
    assert f"2 drawings are called “{first.name}”" in report.conflicts[0]
    with pytest.raises(Refusal, match="rename all but one"):
        gathered(renamed, report)
    shorter = rename_node(ferry, PAGE, second.root.id, "Button/Odd")
    assert "has 2 parts" in gather(shorter, drawings(shorter), "new").conflicts[0]
    assert gather(ferry, [], "new").component is None


def test_gathered_components_move_their_instances_over(ferry):
    parts = [ferry.components[i] for i in ("icon-onward", "icon-back", "icon-bell")]
    report = gather(ferry, [GatheredDrawing(p.name, p.root, p.id) for p in parts], "icons")
    assert report.differences == ()
    document = gathered(ferry, report)
    assert "icon-back" not in document.components
    assert report.component.axes[0].values[1].name == "Back"


# --- the fewest rules -----------------------------------------------------------------------


def overlaid(base, rules, cell):
    """The value of a cell by the cascade's order, written out slowly."""
    value = base
    for when, said in sorted(rules, key=lambda r: (len(r[0]), tuple(a for a, _ in r[0]))):
        if all(cell[axis] == wanted for axis, wanted in when):
            value = said
    return value


@st.composite
def families(draw, most_axes=4, most_cells=40):
    """Sizes of axes and known rules over them."""
    sizes = draw(
        st.lists(st.integers(2, 4), min_size=1, max_size=most_axes).filter(
            lambda s: product_of(s) <= most_cells
        )
    )
    rules = {}
    for _ in range(draw(st.integers(0, 5))):
        count = draw(st.integers(1, min(2, len(sizes))))
        axes = sorted(draw(st.permutations(range(len(sizes))))[:count])
        when = tuple((axis, draw(st.integers(0, sizes[axis] - 1))) for axis in axes)
        rules[when] = draw(st.integers(1, 4))
    return sizes, tuple(rules.items())


def product_of(numbers):
    total = 1
    for number in numbers:
        total *= number
    return total


@settings(max_examples=60)
@given(families())
def test_rules_found_reproduce_the_family_and_are_few(family):
    sizes, known = family
    table = {cell: overlaid(0, known, cell) for cell in product(*map(range, sizes))}
    found = fewest_rules(sizes, table)
    assert all(overlaid(found.base, found.rules, cell) == v for cell, v in table.items())
    exact = len(sizes) <= 2
    assert len(found.rules) <= (len(known) if exact else max(1.2 * len(known), len(known)))


@settings(max_examples=25)
@given(st.lists(st.integers(0, 2), min_size=6, max_size=6))
def test_two_axes_are_exact_against_trying_everything(values):
    cells = list(product(range(2), range(3)))
    table = dict(zip(cells, values, strict=True))
    whens = [((0, r),) for r in range(2)] + [((1, c),) for c in range(3)]
    best = min(
        sum(v is not None for v in said)
        + sum(overlaid(base, _given(whens, said), cell) != table[cell] for cell in cells)
        for base in range(3)
        for said in product((None, 0, 1, 2), repeat=5)
    )
    assert len(fewest_rules((2, 3), table).rules) == best


def _given(whens, said):
    return [(when, value) for when, value in zip(whens, said, strict=True) if value is not None]


def test_variants_that_nobody_drew_are_not_offered(report):
    for variant in report.missing:
        assert any(holds(pattern, variant) for pattern in report.component.not_offered)
    assert Map() not in report.missing
