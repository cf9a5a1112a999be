"""Values and their sources in words."""

from __future__ import annotations

from outgrowth.core.color import Color, Gradient
from outgrowth.core.document.records import Component, Document
from outgrowth.core.document.uses import once_words
from outgrowth.core.document.values import (
    FromProperty,
    Shadow,
    Shift,
    Size,
    Token,
    is_onces,
    is_tracks,
)
from outgrowth.core.document.variants import condition_text
from outgrowth.core.resolve.cascade import Source
from outgrowth.core.resolve.ladder import Rung
from outgrowth.workspace.views.length_format import length_text, tracks_text


def value_text(document: Document, value: object) -> str:
    """A value as the ladder writes it."""
    if isinstance(value, Color):
        return "none" if value.alpha == 0 else value.hex
    if isinstance(value, Gradient):
        return f"{value.kind}, {len(value.stops)} colours"
    if isinstance(value, Token):
        return value.path
    if isinstance(value, Shift):
        return shift_text(value)
    if isinstance(value, Size):
        return length_text(value)
    if isinstance(value, FromProperty):
        return "the instance's own"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{round(value, 3):g}"
    if value and is_tracks(value):
        return tracks_text(value)
    if value and is_onces(value):
        return once_words(document, value)
    if isinstance(value, tuple):
        return _tuple_text(value)
    named = document.components.get(value) if isinstance(value, str) else None
    return named.name if named is not None else str(value) or "empty"


def _tuple_text(value: tuple[object, ...]) -> str:
    if value and isinstance(value[0], Shadow):
        return "a shadow" if len(value) == 1 else f"{len(value)} shadows"
    text = "".join(getattr(run, "text", "") for run in value)
    return f"“{text[:24]}…”" if len(text) > 24 else f"“{text}”" if text else "none"


def shift_text(shift: Shift) -> str:
    """A relative change: "14 % darker", "+2", "×1.04"."""
    if shift.how == "darken":
        return f"{abs(shift.amount) * 100:g} % {'darker' if shift.amount >= 0 else 'lighter'}"
    if shift.how == "fade":
        return f"{shift.amount * 100:g} % more transparent"
    return f"{shift.amount:+g}" if shift.how == "add" else f"×{shift.amount:g}"


def source_text(document: Document, source: Source) -> str:
    """Who says it: "Kind: Quiet", "component", "only here", "start"."""
    owner = document.owner(source.owner)
    if source.kind == "default" or owner is None:
        return "start value"
    if source.kind == "rule" and isinstance(owner, Component):
        return condition_text(owner, source.when)
    if source.kind == "instance" or not isinstance(owner, Component):
        return f"on {owner.name}" if not isinstance(owner, Component) else f"in {_short(owner)}"
    return _short(owner)


def _short(component: Component) -> str:
    return component.short_name


def tag_text(document: Document, rung: Rung, owner_id: str, changed: bool) -> str:
    """The one word (or two) beside a row: what kind of source its value has. `changed` says
    that it is a difference made here."""
    source = rung.source
    if changed:
        return "rule" if source.kind == "rule" else "only here"
    if source.kind == "default":
        return "start"
    if isinstance(rung.value, Token):
        return "token"
    if isinstance(rung.value, FromProperty):
        return "property"
    if source.kind == "rule":
        return "rule"
    return "own" if source.owner == owner_id else "component"
