"""Cues and motions in the native file: both directions, and their schema."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.cues import (
    ACTS,
    STILL,
    TRIGGERS,
    Behaviour,
    Change,
    Cue,
    Motion,
    PartMotion,
    Silence,
    Trigger,
)
from outgrowth.core.document.types import ChosenType, Json, JsonObject, NumberType, ValueProblem
from outgrowth.core.exchange.native_grammar import (
    Misfit,
    all_of,
    choice_in,
    conditions_from,
    distinct,
    object_in,
    text_in,
    texts_in,
)

BEHAVIOUR = "cues silenced motions places"
"""The keys of an owner that hold what it does."""

_TIME = NumberType(0.0, 600_000.0, "ms")
_PLACE = NumberType()
_CHOSEN = ChosenType()


def motion_to(motion: Motion) -> JsonObject:
    out: JsonObject = {"duration": motion.duration, "easing": motion.easing}
    return out | {"delay": motion.delay} if motion.delay else out


def motion_from(held: Json) -> Motion | None:
    if held is None:
        return None
    parts = object_in(held, "motion")
    try:
        duration = _TIME.read(parts.get("duration"))
        delay = _TIME.read(parts.get("delay", 0))
    except ValueProblem as problem:
        raise Misfit(f"motion: {problem}") from problem
    return Motion(duration, text_in(parts, "easing", "ease-out"), delay)


def behaviour_to(behaviour: Behaviour) -> JsonObject:
    """The keys to add to an owner; none for one that does nothing."""
    out: JsonObject = {}
    if behaviour.cues:
        out["cues"] = [_cue(cue) for cue in behaviour.cues]
    if behaviour.silenced:
        out["silenced"] = [{"path": list(s.path), "cue": s.cue} for s in behaviour.silenced]
    if behaviour.motions:
        out["motions"] = [
            {"node": list(m.node), "property": m.property, "motion": motion_to(m.motion)}
            for m in behaviour.motions
        ]
    if behaviour.places:
        out["places"] = {state: list(at) for state, at in behaviour.places.items()}
    return out


def behaviour_from(held: JsonObject) -> Behaviour:
    cues = all_of(held, "cues", _read_cue)
    distinct((cue.id for cue in cues), "Two cues share the id")
    silenced = all_of(held, "silenced", lambda s: Silence(texts_in(s, "path"), text_in(s, "cue")))
    motions = all_of(held, "motions", _read_motion)
    places = object_in(held.get("places", {}), "places")
    read = Map({state: _place(at) for state, at in places.items()})
    found = Behaviour(cues, silenced, motions, read)
    return STILL if found == STILL else found


def _place(held: Json) -> tuple[float, float]:
    if not isinstance(held, list) or len(held) != 2:
        raise Misfit("a place is not two numbers.")
    try:
        return _PLACE.read(held[0]), _PLACE.read(held[1])
    except ValueProblem as problem:
        raise Misfit(f"places: {problem}") from problem


def _cue(cue: Cue) -> JsonObject:
    out: JsonObject = {
        "id": cue.id,
        "node": list(cue.node),
        "trigger": _trigger(cue.trigger),
        "changes": [_change(change) for change in cue.changes],
    }
    if cue.when:
        out["when"] = dict(cue.when)
    if cue.motion is not None:
        out["motion"] = motion_to(cue.motion)
    return out


def _trigger(trigger: Trigger) -> JsonObject:
    out: JsonObject = {"kind": trigger.kind}
    if trigger.ms:
        out["ms"] = trigger.ms
    said = {"key": trigger.key, "axis": trigger.axis, "value": trigger.value}
    return out | {name: text for name, text in said.items() if text}


def _change(change: Change) -> JsonObject:
    out: JsonObject = {"act": change.act}
    if change.name:
        out["name"] = change.name
    if change.value != "":
        out["value"] = _CHOSEN.write(change.value)
    if change.at:
        out["at"] = list(change.at)
    return out


def _read_cue(held: JsonObject) -> Cue:
    return Cue(
        text_in(held, "id"),
        texts_in(held, "node"),
        _read_trigger(object_in(held.get("trigger"), "trigger")),
        all_of(held, "changes", _read_change),
        conditions_from(held.get("when", {})),
        motion_from(held.get("motion")),
    )


def _read_trigger(held: JsonObject) -> Trigger:
    try:
        ms = _TIME.read(held.get("ms", 0))
    except ValueProblem as problem:
        raise Misfit(f"trigger: {problem}") from problem
    return Trigger(
        choice_in(held, "kind", TRIGGERS),  # type: ignore[arg-type]  # checked against TRIGGERS
        text_in(held, "key", ""),
        ms,
        text_in(held, "axis", ""),
        text_in(held, "value", ""),
    )


def _read_change(held: JsonObject) -> Change:
    try:
        value = _CHOSEN.read(held.get("value", ""))
    except ValueProblem as problem:
        raise Misfit(f"change: {problem}") from problem
    act = choice_in(held, "act", ACTS)
    return Change(act, text_in(held, "name", ""), value, texts_in(held, "at"))  # type: ignore[arg-type]  # checked against ACTS


def _read_motion(held: JsonObject) -> PartMotion:
    motion = motion_from(object_in(held.get("motion"), "motion"))
    assert motion is not None
    return PartMotion(texts_in(held, "node"), text_in(held, "property", ""), motion)


def behaviour_schema() -> JsonObject:
    """What `behaviour_to` adds to an owner, as properties of its schema."""
    text: JsonObject = {"type": "string"}
    texts: JsonObject = {"type": "array", "items": text}
    motion: JsonObject = {"$ref": "#/$defs/motion"}
    change = _object(
        {"act": {"enum": list(ACTS)}, "name": text, "value": _CHOSEN.schema(), "at": texts}, "act"
    )
    trigger = _object(
        {
            "kind": {"enum": list(TRIGGERS)},
            "ms": _TIME.schema(),
            "key": text,
            "axis": text,
            "value": text,
        },
        "kind",
    )
    cue = _object(
        {
            "id": text,
            "node": texts,
            "trigger": trigger,
            "changes": {"type": "array", "items": change},
            "when": {"type": "object", "additionalProperties": text},
            "motion": motion,
        },
        "id node trigger changes",
    )
    own = _object({"node": texts, "property": text, "motion": motion}, "node property motion")
    pair: JsonObject = {
        "type": "array",
        "items": {"type": "number"},
        "minItems": 2,
        "maxItems": 2,
    }
    return {
        "cues": {"type": "array", "items": cue},
        "silenced": {
            "type": "array",
            "items": _object({"path": texts, "cue": text}, "path cue"),
        },
        "motions": {"type": "array", "items": own},
        "places": {"type": "object", "additionalProperties": pair},
    }


def _object(parts: JsonObject, required: str) -> JsonObject:
    names: list[Json] = [*required.split()]
    return {"type": "object", "properties": parts, "required": names}
