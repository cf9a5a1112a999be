"""Cards of the overview: every variant once, none over another, whatever the components are."""

from hypothesis import given
from hypothesis import strategies as some
from immutables import Map

from demo import ferry_line
from demo.drawing import box
from outgrowth.core.document.records import Axis, AxisValue, Component
from outgrowth.core.document.variants import offered, variants
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.library_commands import in_folder, move_all_to
from outgrowth.workspace.engine import Engine, shipped_engine
from outgrowth.workspace.views.component_description import compared_facts, described
from outgrowth.workspace.views.library_rows import LibraryRow
from outgrowth.workspace.views.overview_cards import (
    CARD,
    FOOT,
    NAME,
    PAGE_CARD,
    beside,
    laid_cards,
    measured_card,
)

DEMO = ferry_line()


@some.composite
def components(draw):
    axes = []
    for n in range(draw(some.integers(0, 3))):
        values = tuple(AxisValue(f"v{m}", f"V{m}") for m in range(draw(some.integers(1, 4))))
        driver = draw(some.sampled_from(("none", "none", "pointer", "focus")))
        drivers = {axis.driver for axis in axes} - {"none"}
        axes.append(Axis(f"a{n}", f"A{n}", values, "v0", "none" if driver in drivers else driver))
    refused = draw(
        some.lists(
            some.dictionaries(some.sampled_from([a.id for a in axes] or ["x"]), some.just("v0")),
            max_size=2,
        )
    )
    wanted = tuple(Map(r) for r in refused if r and all(k in {a.id for a in axes} for k in r))
    return Component("part", "Part", box("root"), tuple(axes), not_offered=wanted)


def apart(a, b):
    slack = 1e-6
    return (
        a.right <= b.x + slack
        or b.right <= a.x + slack
        or a.bottom <= b.y + slack
        or b.bottom <= a.y + slack
    )


@given(components(), some.randoms(use_true_random=False), some.sampled_from((CARD, PAGE_CARD)))
def test_every_variant_is_on_the_card_once_and_none_over_another(component, chance, room):
    sizes = {}

    def size(variant):
        return sizes.setdefault(variant, (chance.uniform(1, 900), chance.uniform(1, 700)))

    card = measured_card(component, size, room)
    wanted = [v for v in variants(component) if offered(component, v)]
    assert sorted(map(str, (v.variant for v in card.variants))) == sorted(map(str, wanted))
    for n, shown in enumerate(card.variants):
        assert shown.rect.x >= -1e-6 and shown.rect.right <= card.width + 1e-6
        assert shown.rect.y >= room.top and shown.rect.bottom <= card.height - room.bottom
        width, height = sizes[shown.variant]
        assert abs(shown.rect.width - width * card.zoom) < 1e-6
        assert abs(shown.rect.height - height * card.zoom) < 1e-6
        assert all(apart(shown.rect, other.rect) for other in card.variants[n + 1 :])
    assert 0 < card.zoom <= 1
    assert bool(card.headings) is (room is PAGE_CARD and len(wanted) > 1)


@given(some.lists(some.integers(0, 6), min_size=1, max_size=40), some.integers(280, 1900))
def test_cards_stand_in_lines_under_their_folders(kinds, width):
    rows, measures = [LibraryRow("", "Folder", folder=True)], {}
    for n, kind in enumerate(kinds):
        if kind == 0:
            rows.append(LibraryRow("", f"Folder {n}", folder=True))
        else:
            row = LibraryRow(f"c{n}", f"Part {n}")
            rows.append(row)
            size = 30.0 * kind, 20.0 * (1 + n % 4)
            measures[row] = measured_card(Component("p", "P", box("r")), lambda _, s=size: s)
    cards, height = laid_cards(rows, measures.__getitem__, float(width))
    assert [card.row for card in cards] == rows
    for n, card in enumerate(cards):
        assert card.rect.bottom <= height
        assert all(apart(card.rect, other.rect) for other in cards[n + 1 :])
        if card.row.owner:
            assert card.rect.height >= NAME + FOOT
            assert card.lowered >= 0
    owners = [n for n, card in enumerate(cards) if card.row.owner]
    for at in owners:
        for across, down in ((1, 0), (-1, 0), (0, 1), (0, -1)):
            to = beside(cards, at, across, down)
            assert to in owners
            if down and to != at:
                assert (cards[to].rect.y - cards[at].rect.y) * down > 0
    reached, at = set(), owners[0] if owners else 0
    while owners and at not in reached:
        reached.add(at)
        at = beside(cards, at, 1, 0)
    assert reached == set(owners)


@given(some.data())
def test_several_moved_together_keep_their_order_behind_the_one_they_were_dropped_at(data):
    workspace = Workspace(shipped_engine(), DEMO)
    order = list(DEMO.component_order)
    chosen = data.draw(some.lists(some.sampled_from(order), min_size=1, max_size=6, unique=True))
    chosen.sort(key=order.index)
    after = data.draw(some.sampled_from(["", *order]))
    folder = data.draw(some.sampled_from(["", "Travel", "New/Inner"]))
    before = DEMO
    move_all_to(workspace, chosen, folder, after)
    document = workspace.document
    anchor = after
    while anchor in chosen:
        anchor = order[order.index(anchor) - 1] if order.index(anchor) else ""
    rest = [i for i in order if i not in chosen]
    at = rest.index(anchor) + 1 if anchor else 0
    assert list(document.component_order) == [*rest[:at], *chosen, *rest[at:]]
    for each in order:
        old, new = before.components[each], document.components[each]
        assert new.name == (in_folder(old.name, folder) if each in chosen else old.name)
        assert new.root is old.root
    if document is not before:
        workspace.undo()
        assert workspace.document == before


def test_a_component_is_described_in_words_and_compared(fonts):
    button, chip = DEMO.components["button"], DEMO.components["chip"]
    sections = {section.title: section.lines for section in described(DEMO, button)}
    assert "Kind, chosen: Primary (at first), Quiet" in sections["It varies by"]
    assert any(
        line.startswith("Label: words, at first “") for line in sections["An instance may set"]
    )
    assert "color.sea" in sections["Tokens"]
    assert all(lines for lines in sections.values())
    facts = {f.label: f for f in compared_facts(DEMO, Engine(fonts), [button, chip])}
    assert facts["Size"].differs and "(color.sea)" in facts["Fill"].texts[0]
    same = compared_facts(DEMO, Engine(fonts), [button, button])
    assert same and not any(fact.differs for fact in same)
