"""Rules as a table of differences: each rule in one cell, what does nothing with its reason, and
what is typed in a cell is what it then says."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as some
from immutables import Map

from demo import ferry_line
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import Rule
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import rule_commands
from outgrowth.workspace.engine import shipped_engine
from outgrowth.workspace.views.rule_table import AT_FIRST, rule_table
from outgrowth.workspace.views.typed_values import read_values

DEMO = ferry_line()
RULED = [c.id for c in DEMO.in_order() if c.rules]


def rows_of(table):
    return [row for part in table.parts for row in part.rows]


@pytest.mark.parametrize("component_id", RULED)
def test_each_rule_stands_in_one_cell_of_its_reach(component_id):
    component = DEMO.components[component_id]
    table = rule_table(DEMO, component)
    found = []
    for row in rows_of(table):
        for reach, cell in row.cells.items():
            assert bool(cell.rules) is (reach != AT_FIRST)
            assert all(rule.when == reach and rule.node == row.node for rule in cell.rules)
            assert all(rule.property in row.names for rule in cell.rules)
            assert cell.text or not cell.rules
            found += cell.rules
    assert sorted(map(id, found)) == sorted(map(id, component.rules))
    reaches = [column.reach for column in table.columns]
    assert len(set(reaches)) == len(reaches)
    assert [len(r) for r in reaches] == sorted(len(r) for r in reaches), "stronger ones later"


def test_four_sides_are_one_row_and_what_does_nothing_says_why():
    component = DEMO.components["button"]
    root, rest = component.root.id, Map({"state": "rest"})
    sides = {"top": 6.0, "right": 12.0, "bottom": 6.0, "left": 12.0}
    more = [Rule(rest, (root,), f"padding-{side}", value) for side, value in sides.items()]
    more += [Rule(rest, (root,), f"stroke-{side}", 1.5) for side in sides]
    more += [Rule(rest, (root,), "radius-top-left", 3.0)]
    axis = next(a for a in component.axes if a.id != "state")
    kinds = [Rule(Map({axis.id: v.id}), (root,), "rotate", 1.0) for v in axis.values]
    louder = [
        Rule(Map({axis.id: v.id, "state": "rest"}), (root,), "rotate", 2.0) for v in axis.values
    ]
    quiet = Rule(rest, (root,), "rotate", 9.0)
    rules = (*component.rules, *more, *kinds, quiet, *louder)
    made = msgspec.structs.replace(component, rules=rules)
    table = rule_table(with_owner(DEMO, made), made)
    said = {row.label: row.cells[rest] for row in rows_of(table) if rest in row.cells}
    assert said["Padding"].text == "6 12" and len(said["Padding"].rules) == 4
    assert said["Stroke width"].text == "1.5"
    assert said["Radius"].text == "top left 3"
    assert said["Rotate"].idle.startswith("No variant that is offered shows it")
    assert not said["Padding"].idle
    first = next(row for row in rows_of(table) if row.label == "Padding").cells[AT_FIRST]
    assert first.text == "10 18" and not first.rules


def test_what_is_chosen_of_an_instance_goes_by_its_names():
    table = rule_table(DEMO, DEMO.components["fare-card"])
    row = next(row for row in rows_of(table) if row.label == "With icon")
    (reach,) = (r for r in row.cells if r)
    assert row.cells[reach].text == "yes" and row.cells[AT_FIRST].text == "no"


@given(some.sampled_from(RULED), some.data())
def test_what_is_typed_in_a_cell_is_what_it_says(component_id, data):
    workspace = Workspace(ENGINE, DEMO)
    workspace.open(component_id)
    component = DEMO.components[component_id]
    table = rule_table(DEMO, component)
    row = data.draw(some.sampled_from(rows_of(table)))
    column = data.draw(some.sampled_from(table.columns))
    path = () if row.node == (component.root.id,) else row.node
    inspection = inspect(DEMO, Place(component_id, path))
    four = len(row.names) == 4
    texts = ["3 7", "12", "4 5 6", "1 2 3 4"] if four else ["12", "#336699", "color.sea", "yes"]
    values = read_values(workspace, inspection, row.names, data.draw(some.sampled_from(texts)))
    if not values:
        return
    try:
        rule_commands.set_at(workspace, component, row.node, values, column.reach)
    except Refusal:
        return
    after = workspace.document.components[component_id]
    key = (row.node, row.names)
    now = next(
        r for r in rows_of(rule_table(workspace.document, after)) if (r.node, r.names) == key
    )
    said = {rule.property: rule.value for rule in now.cells[column.reach].rules}
    assert said == values
    others = [r for r in after.rules if r.property not in row.names or r.node != row.node]
    before = [r for r in component.rules if r.property not in row.names or r.node != row.node]
    assert others == before
    assert row.names in FAMILY_MEMBERS.values() or len(row.names) == 1


ENGINE = shipped_engine()
