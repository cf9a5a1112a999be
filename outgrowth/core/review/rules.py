"""Rules and overrides that do nothing, or say several times what one would.

Source: common practice, none else; what wins is the cascade's own order."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import partial

from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Component, Document, Owner, Path, Rule, find, walk
from outgrowth.core.document.values import FromProperty, Shift, Value
from outgrowth.core.document.variants import condition_text
from outgrowth.core.edits.all_values import stated_values
from outgrowth.core.edits.style.styles import put_back
from outgrowth.core.edits.variants.rules import (
    EqualRules,
    equal_rules,
    make_one,
    never_winning,
    remove_rule,
)
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.gone import gone_rules
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.views import ReviewContext, part_called


def rule_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """Rules that never win or change nothing, rules that one could replace, and overrides that
    are equal to what they override."""
    yield from gone_rules(context.document, owner)
    if isinstance(owner, Component):
        yield from _idle(context.document, owner)
        yield from _repeated(context.document, owner)
    yield from _equal_overrides(context.document, owner)


def _idle(document: Document, component: Component) -> Iterator[Finding]:
    for rule in never_winning(document, component):
        condition = condition_text(component, rule.when)
        part = part_called(document, component, rule.node)
        text = (
            f"The rule for {_label(rule.property)} of {part} at {condition} never wins: no variant "
            "that is offered shows it."
        )
        mend = Mend("remove the rule", partial(_without_rule, component.id, rule))
        yield finding(
            "rule-never-wins", component.id, rule.node, text, mend, _about(rule.property, rule.when)
        )


def _about(name: str, when: Mapping[str, str]) -> str:
    """What tells a rule from others of its part: the property and the conditions."""
    return " ".join([name, *[f"{axis}={value}" for axis, value in sorted(when.items())]])


def _label(name: str) -> str:
    return row_of(name).label.lower()


def _without_rule(component_id: str, rule: Rule, document: Document) -> Document:
    return remove_rule(document, component_id, rule)


def _repeated(document: Document, component: Component) -> Iterator[Finding]:
    for group in equal_rules(component):
        part = part_called(document, component, group.one.node)
        count = len(group.rules)
        text = f"{count} rules say the same of {_label(group.one.property)} of {part}: one would."
        mend = Mend("make them one rule", partial(_made_one, component.id, group))
        yield finding(
            "rules-for-every-value",
            component.id,
            group.one.node,
            text,
            mend,
            _about(group.one.property, group.one.when),
        )


def _made_one(component_id: str, group: EqualRules, document: Document) -> Document:
    return make_one(document, component_id, group)


def _equal_overrides(document: Document, owner: Owner) -> Iterator[Finding]:
    for node in walk(owner.root):
        if node.kind != "instance":
            continue
        inner = [((node.id, *r.node), r.property, r.value) for r in node.overrides if not r.when]
        own = [((node.id,), name, node.style[name]) for name in sorted(node.style)]
        for path, name, value in (*own, *inner):
            if _says_nothing(document, Place(owner.id, path), name, value):
                part = part_called(document, owner, path)
                text = f"{row_of(name).label} of {part} is set here to what it would be anyway."
                mend = Mend("put it back", partial(_put_back, Place(owner.id, path), name))
                yield finding("override-equal", owner.id, path, text, mend, name)


def _says_nothing(document: Document, place: Place, name: str, value: Value) -> bool:
    """Whether an override's value is the very one below it, told in the same way."""
    if isinstance(value, FromProperty | Shift) or name == "component":
        return False
    if not _may_be_said(document, place, name, value):
        return False
    inspection = inspect(document, place)
    if inspection is None or not inspection.has(name):
        return False
    rungs = [rung for rung in inspection.ladder(name) if not isinstance(rung.value, Shift)]
    if len(rungs) < 2 or rungs[-1].value != value or rungs[-1].source.owner != place.owner:
        return False
    below = rungs[-2]
    # What nobody said before may still be meant: the table's default is no one's word.
    return below.source.kind != "default" and below.value == value


def _may_be_said(document: Document, place: Place, name: str, value: Value) -> bool:
    """Whether any component on the way to a part says this of it too: asked first, since it is
    cheap and mostly not so."""
    owner = document.owner(place.owner)
    node = find(owner.root, place.path[0]) if owner is not None else None
    path = place.path[1:]
    while node is not None:
        component_id = node.style.get("component")
        component = document.components.get(component_id) if isinstance(component_id, str) else None
        if component is None:
            return isinstance(component_id, FromProperty)
        if (path or (component.root.id,), name, value) in _statements(component):
            return True
        node = find(component.root, path[0]) if path else None
        path = path[1:]
    return False


def _all_stated(owner: Owner) -> frozenset[tuple[Path, str, Value]]:
    return frozenset(stated_values(owner))


_statements = ByIdentity(_all_stated, 2048)


def _put_back(place: Place, name: str, document: Document) -> Document:
    inspection = inspect(document, place)
    if inspection is None:
        return document
    return put_back(document, name, inspection.ladder(name)[-1].source)
