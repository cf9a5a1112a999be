"""What differs between two states of a part, in sentences that a designer reads."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple, cast

from immutables import Map

from outgrowth.core.document.cues import Cue, Motion, Path
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
from outgrowth.core.team.merge import Disagreement
from outgrowth.core.team.publishing import Plan
from outgrowth.workspace.views.value_format import value_text

_KINDS = {"text": "words", "switch": "a switch", "slot": "a slot", "color": "a colour"}
_ORDERED = {"axis": "axes", "property": "properties", "rule": "rules", "cue": "cues"}


class _Told(NamedTuple):
    """A difference, where in its owner it is, and the owner on either side."""

    difference: Difference
    place: tuple[object, ...]
    before: Owner | None
    after: Owner | None

    @property
    def owner(self) -> Owner | None:
        """The side that has what differs."""
        return self.before if self.difference.kind == "removed" else self.after


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
        return f"token {path}: another description"

    def _changed(self, before: object, after: object) -> str:
        return f"{value_text(self._before, before)} → {value_text(self._after, after)}"

    # --- one difference ---------------------------------------------------------------------

    def sentence(self, difference: Difference) -> str:
        """One difference, in words."""
        before, after = (
            document.owner(str(difference.key[1])) for document in (self._before, self._after)
        )
        place = difference.key[2:]
        if not place:
            owner = after or before
            assert owner is not None  # it is one of them
            return f"new: {owner.name}" if difference.kind == "added" else f"{owner.name} is gone"
        if difference.kind == "moved":
            return self._order(place, after)
        word = place[0]
        told = _Told(difference, place, before, after)
        if word == "axis":
            return self._axis(told)
        if word == "property":
            return self._property(told)
        if word == "node":
            return self._node(told)
        if word == "rule":
            return self._rule(told)
        if word == "cue":
            return self._cue(told)
        return self._other_fact(told)

    def _order(self, place: tuple[object, ...], owner: Owner | None) -> str:
        last = str(place[-1])
        if last == "child":
            node = find(owner.root, str(place[1])) if owner is not None else None
            return f"another order in {node.name if node is not None else 'a box'}"
        if last == "value":
            return f"the values of {_axis_name(owner, place[1])} stand in another order"
        return f"the {_ORDERED.get(last, 'parts')} stand in another order"

    def _axis(self, told: _Told) -> str:
        difference, place, before, after = told
        owner = told.owner
        name = _axis_name(owner, place[1])
        if len(place) == 2:
            values = ", ".join(_value_names(owner, place[1]))
            return f"new axis {name}: {values}" if difference.kind == "added" else f"no axis {name}"
        if place[2] == "value":
            value = _value_name(owner, place[1], place[3])
            if len(place) == 4:
                return (
                    f"{name} can {'be' if difference.kind == 'added' else 'no longer be'} {value}"
                )
            if place[4] == "name":
                return f"{name}: {difference.before} is called {difference.after}"
            return f"{name} becomes {value} with {_motion(difference.after)}"
        if place[2] == "name":
            return f"the axis {difference.before} is called {difference.after}"
        if place[2] == "default":
            old = _value_name(before, place[1], difference.before)
            new = _value_name(after, place[1], difference.after)
            return f"{name} begins at {new} instead of {old}"
        if place[2] == "driver":
            setter = difference.after if difference.after != "none" else "instances"
            return f"{name} is set by {setter}"
        if place[2] == "motion":
            return f"{name} moves with {_motion(difference.after)}"
        return f"{name}: another {place[2]}"

    def _property(self, told: _Told) -> str:
        difference, place, _, _ = told
        owner = told.owner
        prop = owner.property(str(place[1])) if isinstance(owner, Component) else None
        name = prop.name if prop is not None else str(place[1])
        if len(place) == 2:
            kind = _KINDS.get(prop.kind, f"a {prop.kind}") if prop is not None else "something"
            if difference.kind == "added":
                return f"instances can set {name}, {kind}"
            return f"instances can no longer set {name}"
        if place[2] == "name":
            return f"the property {difference.before} is called {difference.after}"
        if place[2] == "default":
            old, new = (
                cast(tuple[str, object], v)[1] for v in (difference.before, difference.after)
            )
            return f"{name} is {self._changed(old, new)} where nobody sets it"
        return f"{name}: another {place[2]}"

    def _node(self, told: _Told) -> str:
        difference, place, before, after = told
        owner = before if difference.kind == "removed" and len(place) == 2 else after or before
        node = find(owner.root, str(place[1])) if owner is not None else None
        name = node.name if node is not None else "a part"
        if len(place) == 2:
            kind = node.kind if node is not None else "part"
            if difference.kind == "changed":
                return f"{name} is a {difference.after} instead of a {difference.before}"
            return f"new {kind} {name}" if difference.kind == "added" else f"no {kind} {name}"
        field = place[2]
        if field == "name":
            return f"{difference.before} is called {difference.after}"
        if field == "parent":
            box = find(owner.root, str(difference.after)) if owner is not None else None
            return f"{name} stands in {box.name if box is not None else 'another box'}"
        if field == "style":
            return self._values(difference, f"{_label(str(place[3]), node, self._after)} of {name}")
        if field == "override":
            (_, path, prop), _ = cast(tuple[tuple[object, Path, str], int], place[3])
            inner = f"{_label(prop, node, self._after)} {'inside' if path else 'of'} {name}"
            return self._values(difference, inner, in_rule=True)
        if field == "aside":
            return f"{name} set something aside"
        return f"{name}: another {field}"

    def _values(self, difference: Difference, subject: str, in_rule: bool = False) -> str:
        before, after = difference.before, difference.after
        if in_rule:  # with what a later version of the program says of it
            before, after = (cast(tuple[object, ...], v or (None,))[0] for v in (before, after))
        if difference.kind == "added":
            return f"{subject}: {value_text(self._after, after)}"
        if difference.kind == "removed":
            return f"{subject}: no longer {value_text(self._before, before)}"
        old, new = value_text(self._before, before), value_text(self._after, after)
        return f"{subject}: {old} → {new}" if old != new else f"{subject}: changed"

    def _rule(self, told: _Told) -> str:
        difference, place, _, _ = told
        owner = told.owner
        (pairs, path, prop), _ = cast(
            tuple[tuple[Iterable[tuple[str, str]], Path, str], int], place[1]
        )
        if not isinstance(owner, Component):
            return "another rule"
        reach = condition_text(owner, Map(pairs))
        node = find(owner.root, path[0])
        name = node.name if node is not None else "a part"
        inside = f"inside {name}" if len(path) > 1 else f"of {name}"
        return self._values(
            difference, f"{reach}: {_label(prop, node, self._after)} {inside}", in_rule=True
        )

    def _cue(self, told: _Told) -> str:
        _, place, before, after = told
        old, new = _cue(before, place[1]), _cue(after, place[1])
        if new is not None and after is not None:
            sentence_text = cue_sentence(self._after, after, new)
            return f"new cue: {sentence_text}" if old is None else f"now: {sentence_text}"
        if old is not None and before is not None:
            return f"no longer: {cue_sentence(self._before, before, old)}"
        return "another cue"

    def _other_fact(self, told: _Told) -> str:
        difference, place, _, _ = told
        word = place[0]
        if word == "name":
            return f"{difference.before} is called {difference.after}"
        if word == "not-offered":
            owner = told.owner
            pattern = cast(tuple[Iterable[tuple[str, str]], int], place[1])[0]
            sentence_text = (
                condition_text(owner, Map(pattern)) if isinstance(owner, Component) else ""
            )
            change = "no longer offered" if difference.kind == "added" else "offered again"
            return f"{sentence_text}: {change}"
        if word == "motion":
            return f"moves with {_motion(difference.after)}"
        if word == "motion-of":
            return "a part moves otherwise"
        if word == "silence":
            return "a cue of an instance inside is silent, or no longer"
        return f"another {word}"

    # --- disagreements ----------------------------------------------------------------------

    def disagreement(self, difference: Disagreement) -> str:
        """What two sides disagree about: of `before` as ours and `after` as theirs."""
        key = difference.key
        if key[0] == "token":
            return f"token {key[1]}"
        if key[0] in ("waiver", "check"):
            subject = self._before.owner(str(cast(tuple[str, ...], key[1])[0]))
            about = "a waived finding" if key[0] == "waiver" else "a kept trial"
            return f"{subject.name if subject is not None else 'the file'}: {about}"
        owner = self._before.owner(str(key[1])) or self._after.owner(str(key[1]))
        name = owner.name if owner is not None else str(key[1])
        if key[0] not in ("component", "screen"):
            return f"{key[0]} {'' if len(key) < 2 else key[1]}".strip()
        if difference.kind == "whole" or len(key) == 2:
            return f"{name} as a whole"
        if difference.kind == "moved":
            return f"{name}: the order"
        ours, theirs = difference.ours, difference.theirs
        if difference.kind == "removed":
            kind = "removed" if ours is None else "added"
            sentence_text = self.sentence(
                Difference("added" if kind == "added" else "removed", key)
            )
            return f"{name}: one took away what the other worked on ({sentence_text})"
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


def _motion(value: object) -> str:
    return motion_text(value) if isinstance(value, Motion) else "the usual motion"


def _cue(owner: Owner | None, key: object) -> Cue | None:
    cue_id, number = cast(tuple[str, int], key)
    same = [cue for cue in owner.behaviour.cues if cue.id == cue_id] if owner is not None else []
    return same[number - 1] if len(same) >= number else None


def plan_wording(plan: Plan, difference: Difference) -> str:
    """A difference between the library and what is published, for its changelog."""
    return DifferenceWords(plan.state.document, plan.document).sentence(difference)


__all__ = ["DifferenceWords", "plan_wording"]
