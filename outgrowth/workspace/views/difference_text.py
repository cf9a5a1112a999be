"""What differs between two states of a part, in sentences that a designer reads."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple, cast

from immutables import Map

from outgrowth.core.document.cues import Cue, Motion
from outgrowth.core.document.properties import CHOICE, row_of
from outgrowth.core.document.records import (
    Component,
    DesignToken,
    Document,
    Node,
    Owner,
    find,
)
from outgrowth.core.document.sentences import cue_sentence, motion_text
from outgrowth.core.document.variants import condition_text
from outgrowth.core.team.difference import Difference, differences
from outgrowth.core.team.facts import (
    FactKey,
    Kinded,
    Member,
    RuleAbout,
    place_in_owner,
    rule_value,
)
from outgrowth.core.team.merge import Disagreement
from outgrowth.core.team.publishing import PublishingPlan
from outgrowth.workspace.views.value_format import value_text

_KINDS = {"text": "words", "switch": "a switch", "slot": "a slot", "color": "a colour"}
_ORDERED = {"axis": "axes", "property": "properties", "rule": "rules", "cue": "cues"}


class _InOwner(NamedTuple):
    """A difference, and the owner that it is in on either side."""

    difference: Difference
    before: Owner | None
    after: Owner | None

    @property
    def owner(self) -> Owner | None:
        """The side that has what differs."""
        return self.before if self.difference.kind == "removed" else self.after

    @property
    def came(self) -> bool:
        return self.difference.kind == "added"


class DifferenceWords:
    """Says differences between two documents."""

    def __init__(self, before: Document, after: Document) -> None:
        self._before = before
        self._after = after

    def owner_lines(self, owner_id: str) -> list[str]:
        """What differs in a component or screen, a line each, nothing twice."""
        before, after = self._before.owner(owner_id), self._after.owner(owner_id)
        lines = [self.sentence(difference) for difference in differences(before, after)]
        return list(dict.fromkeys(lines))

    def token_lines(self) -> list[str]:
        """What differs in tokens, a line each."""
        before, after = self._before.tokens, self._after.tokens
        lines = []
        for path in sorted({*before, *after}):
            old, new = before.get(path), after.get(path)
            if old != new:
                lines.append(self._token(path, old, new))
        return lines

    def _token(self, path: str, old: DesignToken | None, new: DesignToken | None) -> str:
        if old is None or new is None:
            token = new or old
            assert token is not None  # they differ
            state = "new token" if old is None else "token gone:"
            return f"{state} {path}, {value_text(self._after, token.value)}"
        if old.value != new.value:
            return f"token {path}: {self._changed(old.value, new.value)}"
        if old.modes != new.modes:
            return f"token {path}: other values in its modes"
        if old.place != new.place and old.description == new.description:
            return f"token {path}: another place among its kind"
        return f"token {path}: another description"

    def _changed(self, before: object, after: object) -> str:
        return f"{value_text(self._before, before)} → {value_text(self._after, after)}"

    # --- one difference ---------------------------------------------------------------------

    def sentence(self, difference: Difference) -> str:
        """One difference, in words."""
        _, owner_id, *_ = difference.key
        before, after = (document.owner(str(owner_id)) for document in (self._before, self._after))
        place = place_in_owner(difference.key)
        if not place:
            owner = after or before
            assert owner is not None  # it is one of them
            return f"new: {owner.name}" if difference.kind == "added" else f"{owner.name} is gone"
        if difference.kind == "moved":
            return self._order(place, after)
        there = _InOwner(difference, before, after)
        match place:
            case ("axis", axis, *rest):
                return self._axis(there, axis, tuple(rest))
            case ("property", name, *rest):
                return self._property(there, name, tuple(rest))
            case ("node", node, *rest):
                return self._node(there, node, tuple(rest))
            case ("rule", Member(RuleAbout() as about, _)):
                return self._rule(there, about)
            case ("cue", Member() as cue, *_):
                return self._cue(there, cue)
            case _:
                return self._other_fact(there, place)

    def _order(self, place: FactKey, owner: Owner | None) -> str:
        match place:
            case ("node", node_id, "child"):
                node = find(owner.root, str(node_id)) if owner is not None else None
                return f"another order in {node.name if node is not None else 'a box'}"
            case ("axis", axis, "value"):
                return f"the values of {_axis_name(owner, axis)} stand in another order"
            case (*_, last):
                return f"the {_ORDERED.get(str(last), 'parts')} stand in another order"
            case _:
                return "the parts stand in another order"

    def _axis(self, there: _InOwner, axis: object, field: FactKey) -> str:
        old, new = there.difference.before, there.difference.after
        name = _axis_name(there.owner, axis)
        match field:
            case ():
                values = ", ".join(_value_names(there.owner, axis))
                return f"new axis {name}: {values}" if there.came else f"no axis {name}"
            case ("value", value):
                can = "can be" if there.came else "can no longer be"
                return f"{name} {can} {_value_name(there.owner, axis, value)}"
            case ("value", _, "name"):
                return f"{name}: {old} is called {new}"
            case ("value", value, "part"):
                meant = new or "what its name says"
                return f"{name}: {_value_name(there.owner, axis, value)} stands for {meant}"
            case ("value", value, "least"):
                unit = _unit_of(there.after, axis)
                begun = _value_name(there.owner, axis, value)
                return f"{name}: {begun} begins at {new:g} {unit}"
            case ("value", value, *_):
                return f"{name} becomes {_value_name(there.owner, axis, value)} with {_motion(new)}"
            case ("name",):
                return f"the axis {old} is called {new}"
            case ("default",):
                first = _value_name(there.before, axis, old)
                return f"{name} begins at {_value_name(there.after, axis, new)} instead of {first}"
            case ("driver",):
                return f"{name} is set by {new if new != 'none' else 'instances'}"
            case ("side",):
                return f"{name} goes by the {new} of the room"
            case ("unit",):
                return f"{name} counts its room in {new}"
            case ("meaning",):
                return f"{name} says {new if new != 'none' else 'nothing'}"
            case ("motion",):
                return f"{name} moves with {_motion(new)}"
            case (field_name, *_):
                return f"{name}: another {field_name}"
            case _:
                return f"{name}: changed"

    def _property(self, there: _InOwner, property_id: object, field: FactKey) -> str:
        difference, owner = there.difference, there.owner
        prop = owner.property(str(property_id)) if isinstance(owner, Component) else None
        name = prop.name if prop is not None else str(property_id)
        match field:
            case () if there.came:
                kind = _KINDS.get(prop.kind, f"a {prop.kind}") if prop is not None else "something"
                return f"instances can set {name}, {kind}"
            case ():
                return f"instances can no longer set {name}"
            case ("name",):
                return f"the property {difference.before} is called {difference.after}"
            case ("default",):
                old, new = cast(Kinded, difference.before), cast(Kinded, difference.after)
                return f"{name} is {self._changed(old.value, new.value)} where nobody sets it"
            case (field_name, *_):
                return f"{name}: another {field_name}"
            case _:
                return f"{name}: changed"

    def _node(self, there: _InOwner, node_id: object, field: FactKey) -> str:
        difference, before, after = there
        gone = difference.kind == "removed" and not field
        owner = before if gone else after or before
        node = find(owner.root, str(node_id)) if owner is not None else None
        name = node.name if node is not None else "a part"
        match field:
            case () if difference.kind == "changed":
                return f"{name} is a {difference.after} instead of a {difference.before}"
            case ():
                kind = node.kind if node is not None else "part"
                return f"new {kind} {name}" if there.came else f"no {kind} {name}"
            case ("name",):
                return f"{difference.before} is called {difference.after}"
            case ("parent",):
                box = find(owner.root, str(difference.after)) if owner is not None else None
                return f"{name} stands in {box.name if box is not None else 'another box'}"
            case ("style", prop):
                return self._values(difference, f"{_label(str(prop), node, self._after)} of {name}")
            case ("override", Member(RuleAbout(_, path, prop), _)):
                inside = "inside" if path else "of"
                subject = f"{_label(prop, node, self._after)} {inside} {name}"
                return self._values(difference, subject, in_rule=True)
            case ("aside", *_):
                return f"{name} set something aside"
            case (field_name, *_):
                return f"{name}: another {field_name}"
            case _:
                return f"{name}: changed"

    def _values(self, difference: Difference, subject: str, in_rule: bool = False) -> str:
        before, after = difference.before, difference.after
        if in_rule:  # with what a later version of the program says of it
            before, after = (said and rule_value(said) for said in (before, after))
        if difference.kind == "added":
            return f"{subject}: {value_text(self._after, after)}"
        if difference.kind == "removed":
            return f"{subject}: no longer {value_text(self._before, before)}"
        old, new = value_text(self._before, before), value_text(self._after, after)
        return f"{subject}: {old} → {new}" if old != new else f"{subject}: changed"

    def _rule(self, there: _InOwner, about: RuleAbout) -> str:
        owner = there.owner
        if not isinstance(owner, Component):
            return "another rule"
        reach = condition_text(owner, Map(about.when))
        outermost, *deeper = about.node
        node = find(owner.root, outermost)
        name = node.name if node is not None else "a part"
        inside = f"inside {name}" if deeper else f"of {name}"
        subject = f"{reach}: {_label(about.property, node, self._after)} {inside}"
        return self._values(there.difference, subject, in_rule=True)

    def _cue(self, there: _InOwner, cue: Member) -> str:
        _, before, after = there
        old, new = _cue(before, cue), _cue(after, cue)
        if new is not None and after is not None:
            text = cue_sentence(self._after, after, new)
            return f"new cue: {text}" if old is None else f"now: {text}"
        if old is not None and before is not None:
            return f"no longer: {cue_sentence(self._before, before, old)}"
        return "another cue"

    def _other_fact(self, there: _InOwner, place: FactKey) -> str:
        difference, owner = there.difference, there.owner
        match place:
            case ("name",):
                return f"{difference.before} is called {difference.after}"
            case ("not-offered", Member(pattern, _)):
                when = Map(cast(Iterable[tuple[str, str]], pattern))
                variants = condition_text(owner, when) if isinstance(owner, Component) else ""
                return f"{variants}: {'no longer offered' if there.came else 'offered again'}"
            case ("motion",):
                return f"moves with {_motion(difference.after)}"
            case ("motion-of", *_):
                return "a part moves otherwise"
            case ("led", *_):
                return "an inner part moves with it, or by itself"
            case ("silence", *_):
                return "a cue of an instance inside is silent, or no longer"
            case (word, *_):
                return f"another {word}"
            case _:
                return "something else"

    # --- disagreements ----------------------------------------------------------------------

    def disagreement(self, difference: Disagreement) -> str:
        """What two sides disagree about: of `before` as ours and `after` as theirs."""
        key = difference.key
        match key:
            case ("token", path, *_):
                return f"token {path}"
            case ("waiver" | "check" as word, (owner_id, *_)):
                subject = self._before.owner(str(owner_id))
                about = "a waived finding" if word == "waiver" else "a kept trial"
                return f"{subject.name if subject is not None else 'the file'}: {about}"
            case ("component" | "screen", owner_id, *_):
                owner = self._before.owner(str(owner_id)) or self._after.owner(str(owner_id))
                name = owner.name if owner is not None else str(owner_id)
            case (word, *about):
                return " ".join(map(str, (word, *about[:1])))
        if difference.kind == "whole" or not place_in_owner(key):
            return f"{name} as a whole"
        if difference.kind == "moved":
            return f"{name}: the order"
        ours, theirs = difference.ours, difference.theirs
        if difference.kind == "removed":
            kind = "removed" if ours is None else "added"
            thing = self.sentence(Difference("added" if kind == "added" else "removed", key))
            return f"{name}: one took away what the other worked on ({thing})"
        values = self.sentence(Difference("changed", key, ours, theirs))
        return f"{name}: {values.replace(' → ', ' or ')}"


def _label(name: str, node: Node | None, document: Document) -> str:
    """What a property is called; of a choice what it chooses."""
    if not name.startswith(CHOICE):
        return row_of(name).label
    component = document.components.get(str(node.style.get("component"))) if node else None
    key = name.removeprefix(CHOICE)
    subject = (component.axis(key) or component.property(key)) if component is not None else None
    return subject.name if subject is not None else "A choice"


def _axis_name(owner: Owner | None, axis_id: object) -> str:
    axis = owner.axis(str(axis_id)) if isinstance(owner, Component) else None
    return axis.name if axis is not None else str(axis_id)


def _value_names(owner: Owner | None, axis_id: object) -> list[str]:
    axis = owner.axis(str(axis_id)) if isinstance(owner, Component) else None
    return [value.name for value in axis.values] if axis is not None else []


def _value_name(owner: Owner | None, axis_id: object, value_id: object) -> str:
    axis = owner.axis(str(axis_id)) if isinstance(owner, Component) else None
    value = axis.value(str(value_id)) if axis is not None else None
    return value.name if value is not None else str(value_id)


def _unit_of(owner: Owner | None, axis_id: object) -> str:
    axis = owner.axis(str(axis_id)) if isinstance(owner, Component) else None
    return axis.unit if axis is not None else "px"


def _motion(value: object) -> str:
    return motion_text(value) if isinstance(value, Motion) else "the usual motion"


def _cue(owner: Owner | None, member: Member) -> Cue | None:
    cues = owner.behaviour.cues if owner is not None else ()
    same = [cue for cue in cues if cue.id == member.about]
    return same[member.number - 1] if len(same) >= member.number else None


def plan_wording(plan: PublishingPlan, difference: Difference) -> str:
    """A difference between the library and what is published, for its changelog."""
    return DifferenceWords(plan.state.document, plan.document).sentence(difference)


__all__ = ["DifferenceWords", "plan_wording"]
