"""The fields of what a part does: cues, motions, and where states stand on the cue board."""

from __future__ import annotations

from typing import Any

from immutables import Map

from outgrowth.core.document.cues import (
    ACTS,
    CHOSEN,
    PLACE,
    STILL,
    TIME,
    TRIGGERS,
    Behaviour,
    Change,
    Condition,
    Cue,
    Motion,
    PartMotion,
    Silence,
    Trigger,
    unsaid,
)
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.exchange.native.codec import (
    ByKey,
    Later,
    Many,
    Maybe,
    Misfit,
    OneOf,
    Record,
    Text,
    Typed,
    field,
)
from outgrowth.core.motion.easing import EasingRefusal, check_easing

TEXT = Text()
TEXTS = Many(TEXT)
CONDITIONS = ByKey(TEXT)
_TIME = Typed(TIME)


class _Easing(Text):
    """An easing in its notation: one that cannot be followed is refused now."""

    def read(self, data: Json) -> str:
        try:
            return check_easing(super().read(data))
        except EasingRefusal as problem:
            raise Misfit(str(problem)) from problem


_MOTION = Record(
    Motion,
    field("duration", _TIME),
    field("easing", _Easing()),
    field("delay", _TIME),
    field("tokens", ByKey(TEXT)),
    more=True,
)
MOTION: Later[Motion] = Later("motion", lambda: _MOTION)

_TRIGGER = Record(
    Trigger,
    field("kind", OneOf(TRIGGERS)),
    field("key", TEXT),
    field("ms", _TIME),
    field("axis", TEXT),
    field("value", TEXT),
    field("token", TEXT),
    field("hold", _TIME),
    more=True,
)
_CHANGE = Record(
    Change,
    field("act", OneOf(ACTS)),
    field("name", TEXT),
    field("value", Typed(CHOSEN)),
    field("at", TEXTS),
    more=True,
)
_CONDITION = Record(
    Condition,
    field("axis", TEXT),
    field("values", TEXTS),
    field("at", TEXTS),
)


class _WholeCue(Record[Cue]):
    """A cue that leaves nothing open."""

    def read(self, data: Json) -> Cue:
        cue = super().read(data)
        if unsaid(cue):
            raise Misfit(unsaid(cue))
        return cue


_CUE = _WholeCue(
    Cue,
    field("id", TEXT),
    field("node", TEXTS),
    field("trigger", _TRIGGER),
    field("changes", Many(_CHANGE)),
    field("when", CONDITIONS),
    field("motion", Maybe(MOTION)),
    field("conditions", Many(_CONDITION)),
    more=True,
)
_SILENCE = Record(Silence, field("path", TEXTS), field("cue", TEXT))
_PART = Record(
    PartMotion, field("node", TEXTS), field("property", TEXT, ""), field("motion", MOTION)
)
_BEHAVIOUR = Record(
    Behaviour,
    field("cues", Many(_CUE)),
    field("silenced", Many(_SILENCE)),
    field("motions", Many(_PART)),
    field("places", ByKey(Many(Typed(PLACE), 2)), Map()),
    field("leads", Many(TEXTS)),
)
BEHAVIOUR_KEYS = ("cues", "silenced", "motions", "places", "leads")
"""The keys of an owner that hold what it does: they stand among its own."""


def behaviour_from(data: JsonObject) -> Behaviour:
    """What the keys of an owner say that it does. Raises Misfit."""
    if not any(key in data for key in BEHAVIOUR_KEYS):
        return STILL
    return _BEHAVIOUR.read({key: data[key] for key in BEHAVIOUR_KEYS if key in data})


def behaviour_to(behaviour: Behaviour) -> JsonObject:
    """The keys to add to an owner; none for one that does nothing."""
    written = _BEHAVIOUR.write(behaviour)
    assert isinstance(written, dict)
    return written


def behaviour_schema() -> JsonObject:
    """Those keys as properties of an owner's schema."""
    properties = _BEHAVIOUR.schema()["properties"]
    assert isinstance(properties, dict)
    return properties


def motion_schema() -> JsonObject:
    """JSON Schema of a motion."""
    return _MOTION.schema()


RECORDS: tuple[Record[Any], ...] = (
    _MOTION,
    _TRIGGER,
    _CHANGE,
    _CONDITION,
    _CUE,
    _SILENCE,
    _PART,
    _BEHAVIOUR,
)
"""The records of this file, each with its one list of fields."""
