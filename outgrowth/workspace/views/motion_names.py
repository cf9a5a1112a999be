"""The named motions of a file, and which of them a motion follows."""

from __future__ import annotations

from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.composed import composed
from outgrowth.core.document.cues import MOTION_PARTS, Motion
from outgrowth.core.document.records import Document
from outgrowth.core.document.referring import settled


class MotionNames(NamedTuple):
    """What a motion can follow: each choice with its words, and the one that counts."""

    options: list[tuple[str, str]]
    followed: str


def motion_names(document: Document, motion: Motion) -> MotionNames:
    """The motion tokens that a motion can follow. One that follows only a part of what a token
    gives is among the choices, as what it is."""
    groups = [
        g for g, composition in composed(document.tokens).items() if composition.name == "motion"
    ]
    options = [("", "times of its own"), *((g, f"as {g}") for g in groups)]
    for group in groups:
        if motion.tokens and motion.tokens == _parts(document, group):
            return MotionNames(options, group)
    if not motion.tokens:
        return MotionNames(options, "")
    some = ", ".join(sorted(set(motion.tokens.values())))
    return MotionNames([*options, (_SOME, f"partly as {some}")], _SOME)


_SOME = "*"


def following(document: Document, motion: Motion, group: str) -> Motion:
    """The motion that takes its times and its curve from a token; "" for what it is now, as its
    own."""
    if group == _SOME:
        return motion
    if not group:
        return settled(motion, document.token)
    named = Motion(motion.duration, motion.easing, 0.0, _parts(document, group), motion.more)
    # What it was then stays, should the token go.
    now = settled(named, document.tokens.get)
    return msgspec.structs.replace(now, tokens=named.tokens)


def on_its_own(motion: Motion, **changes: object) -> Motion:
    """The motion with parts set by hand: what a token gave for these it gives no more."""
    tokens = Map({part: path for part, path in motion.tokens.items() if part not in changes})
    return msgspec.structs.replace(motion, tokens=tokens, **changes)


def _parts(document: Document, group: str) -> Map[str, str]:
    parts = {part: f"{group}.{part}" for part in MOTION_PARTS}
    return Map({part: path for part, path in parts.items() if path in document.tokens})
