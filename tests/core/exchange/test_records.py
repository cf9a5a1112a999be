"""A record's fields are declared once: what the file lists is what the record has, and what is
taken apart for merging comes back whole. Random records come from the file's own schema."""

import random

import msgspec
import pytest

from outgrowth.core.document.cues import Cue
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
)
from outgrowth.core.document.sharing import Origin
from outgrowth.core.exchange.native import behaviour, keeping, records
from outgrowth.core.exchange.native.codec import Misfit
from outgrowth.core.team import facts
from outgrowth.core.team.assembly import owner_from, tokens_from
from outgrowth.core.team.facts import document_facts, facts_of, owner_key
from tests.fuzz.records import random_json

RECORDS = (*records.RECORDS, *behaviour.RECORDS, *keeping.RECORDS)
KEPT = {"extras", "more"}
"""What a file's unknown keys are kept in; it is no key of the file."""
TAKEN_APART = {
    Component: facts.COMPONENT_FIELDS, Screen: facts.SCREEN_FIELDS, Axis: facts.AXIS_FIELDS,
    AxisValue: facts.AXIS_VALUE_FIELDS, ComponentProperty: facts.PROPERTY_FIELDS,
    Node: facts.NODE_FIELDS, Cue: facts.CUE_FIELDS, Rule: facts.RULE_FIELDS,
    DesignToken: facts.TOKEN_FIELDS, Document: facts.DOCUMENT_FIELDS,
}  # fmt: skip


GRAMMAR = {
    Rule: {"property": "gap", "value": 4.0, "node": ["label"]},
    Origin: {"version": "1.2.3", "commit": ""},
}
"""Words with a grammar that the schema does not say."""


def made(record, rng, tries=60):
    """A random record that can be, as most can't: an axis needs its default among its values."""
    for _ in range(tries):
        data = random_json(rng, record.schema()) | GRAMMAR.get(record.makes, {})
        try:
            return record.read(data)
        except Misfit:
            continue
    return None


@pytest.mark.parametrize("record", RECORDS, ids=lambda record: record.makes.__name__)
def test_the_file_lists_each_field_that_the_record_has(record):
    declared = {field.name for field in msgspec.structs.fields(record.makes)}
    assert {field.name for field in record.fields} == declared - KEPT


@pytest.mark.parametrize("record", RECORDS, ids=lambda record: record.makes.__name__)
def test_random_records_come_back_from_the_file(record):
    rng = random.Random(record.makes.__name__)
    count = 0
    for _ in range(120):
        one = made(record, rng, 1)
        if one is None:
            continue
        count += 1
        written = record.write(one)
        assert record.read(written) == one
        assert record.write(record.read(written)) == written
    if record.makes not in (Component, Axis, Cue):  # these hang together: see below
        assert count > 5


def component_of(rng):
    """A component with all its lists, made of random members."""
    by_type = {record.makes: record for record in RECORDS}
    root = made(by_type[Node], rng)
    lists = {}
    for name, kind in (("rules", Rule), ("properties", ComponentProperty)):
        members = [made(by_type[kind], rng) for _ in range(rng.randint(0, 3))]
        lists[name] = tuple(m for m in members if m is not None)
    lists["properties"] = tuple({p.id: p for p in lists["properties"]}.values())
    values = [made(by_type[AxisValue], rng) for _ in range(3)]
    values = tuple({v.id: v for v in values if v is not None and v.id}.values())
    motion = made(by_type[records.Motion], rng)
    meaning = rng.choice(("none", "checked"))
    axis = Axis("axis", "Axis", values, values[0].id, "none", meaning, motion)
    made_of = made(by_type[behaviour.Behaviour], rng) or behaviour.STILL
    texts = {"description": "For one thing", "dos": ("Do",), "donts": ("Don't", "Nor this")}
    return Component(
        "part", "Part", root, (axis,), behaviour=made_of, motion=motion, **lists, **texts
    )


@pytest.mark.parametrize("seed", range(40))
def test_what_is_taken_apart_for_merging_comes_back_with_each_field(seed):
    rng = random.Random(seed)
    component = component_of(rng)
    assert owner_from(facts_of(component), owner_key(component)) == component
    screen = Screen("s", "Screen", component.root, component.behaviour, component.root.extras)
    assert owner_from(facts_of(screen), owner_key(screen)) == screen
    token = made(records._TOKEN, rng)
    document = Document("d", tokens=records.Map({"a": token}), modes=tuple(token.modes))
    assert tokens_from(document_facts(document)) == document.tokens


@pytest.mark.parametrize("record", TAKEN_APART, ids=lambda record: record.__name__)
def test_a_fact_is_there_for_each_field_that_is_not_taken_apart_further(record):
    """A field that is added to a record is merged by that: it is among its facts."""
    declared = {field.name for field in msgspec.structs.fields(record)}
    named = set(TAKEN_APART[record])
    assert named <= declared
    further = declared - named
    assert further <= {
        "id", "root", "behaviour", "extras", "axes", "rules", "properties", "not_offered", "values",
        "kind", "default", "style", "children", "overrides", "aside", "when", "node", "property",
        "value", "modes", "components", "screens", "component_order", "screen_order", "tokens",
        "assets", "sharing", "keeping",
    }  # fmt: skip
