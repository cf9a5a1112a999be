"""Cues in words, and what they are about by name."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.cues import (
    HOLDER,
    TRIGGER_ROWS,
    Change,
    Condition,
    Cue,
    Motion,
    Path,
    Trigger,
)
from outgrowth.core.document.records import Component, Document, Node, Owner, find
from outgrowth.core.document.referring import waiting_time
from outgrowth.core.document.values import Run


def cue_sentence(document: Document, owner: Owner, cue: Cue) -> str:
    """“When head is tapped, if Open is no, set Open to yes (300 ms ease-out)”."""
    parts = [_when(document, owner, cue)]
    if isinstance(owner, Component):
        for axis in owner.axes:
            value = axis.value(cue.when.get(axis.id, ""))
            if value is not None:
                parts.append(f"if {axis.name} is {value.name}")
    parts += [f"if {condition_sentence(document, owner, c)}" for c in cue.conditions]
    effects = " and ".join(change_text(document, owner, change) for change in cue.changes)
    moves = f" ({motion_text(cue.motion)})" if cue.motion is not None else ""
    return f"{', '.join(parts)}, {effects}{moves}"


def condition_sentence(document: Document, owner: Owner, condition: Condition) -> str:
    """“Open of help is yes or half”."""
    if condition.at == (HOLDER,):
        return f"{condition.axis} of what is around is {' or '.join(condition.values)}"
    component = component_of(document, owner, condition.at)
    axis = component.axis(condition.axis) if component is not None else None
    suffix = f" of {node_named(document, owner, condition.at)}" if condition.at else ""
    if axis is None:
        return f"a value that is gone{suffix} holds"
    values = [axis.value(value) for value in condition.values]
    names = [value.name for value in values if value is not None]
    return f"{axis.name}{suffix} is {' or '.join(names) or 'a value that is gone'}"


def _when(document: Document, owner: Owner, cue: Cue) -> str:
    trigger = cue.trigger
    name = node_named(document, owner, cue.node)
    if trigger.kind == "delay":
        wait = seconds(waiting_time(trigger, document.token))
        return f"After {wait}{f', by {trigger.token}' if trigger.token else ''}"
    if trigger.kind == "key":
        key = "Space" if trigger.key == " " else trigger.key
        return f"When {key} is pressed on {name}"
    if trigger.kind == "became":
        return f"When {_became(document, owner, cue.node, trigger)}"
    return f"When {name} {TRIGGER_ROWS[trigger.kind].said}"


def _became(document: Document, owner: Owner, node: Path, trigger: Trigger) -> str:
    component = component_of(document, owner, node)
    axis = component.axis(trigger.axis) if component is not None else None
    value = axis.value(trigger.value) if axis is not None else None
    suffix = f" of {node_named(document, owner, node)}" if node else ""
    if axis is None:
        return f"a value that is gone{suffix} comes"
    return f"{axis.name}{suffix} becomes {value.name if value is not None else 'another'}"


def change_text(document: Document, owner: Owner, change: Change) -> str:
    """“set Open to yes”, “toggle Open”, “go back” …"""
    if change.act == "back":
        return "go back"
    if change.act == "restart":
        subject = "what is around" if change.at == (HOLDER,) else "it"
        if change.at and change.at != (HOLDER,):
            subject = node_named(document, owner, change.at)
        return f"start the timers of {subject} again"
    if change.act == "go":
        screen = document.screens.get(change.name)
        return f"show {screen.name if screen is not None else 'a screen that is gone'}"
    if change.at == (HOLDER,):
        return f"set {change.name} of what is around to {change.value}"
    component = component_of(document, owner, change.at)
    suffix = f" of {node_named(document, owner, change.at)}" if change.at else ""
    if change.act == "give":
        prop = component.property(change.name) if component is not None else None
        said = _plain(change.value)
        return f"set {prop.name if prop is not None else change.name}{suffix} to “{said}”"
    axis = component.axis(change.name) if component is not None else None
    if axis is None:
        return f"change an axis{suffix} that is gone"
    if change.act == "next":
        name = f"{axis.name}{suffix}"
        return f"toggle {name}" if len(axis.values) == 2 else f"move {name} to its next value"
    value = axis.value(str(change.value))
    return f"set {axis.name}{suffix} to {value.name if value is not None else change.value}"


def _plain(value: object) -> str:
    if isinstance(value, tuple):
        return "".join(run.text for run in value if isinstance(run, Run))
    return str(value)


def motion_text(motion: Motion) -> str:
    """“300 ms ease-out after 80 ms”, and the tokens that give some of it."""
    if motion.tokens:
        own = msgspec.structs.replace(motion, tokens=Map())
        return f"{motion_text(own)}, by {', '.join(sorted(set(motion.tokens.values())))}"
    spring = motion.easing.startswith("spring")
    easing = motion.easing if spring else f"{motion.duration:g} ms {motion.easing}"
    if motion.duration <= 0 and not spring:
        easing = "at once"
    return f"{easing} after {motion.delay:g} ms" if motion.delay else easing


def seconds(ms: float) -> str:
    """A time in ms as people write it: “0.3 s”."""
    return f"{ms / 1000:g} s" if ms >= 1000 else f"{ms:g} ms"


def guidance(component: Component) -> list[str]:
    """What a component is for, and how to use it and how not to: a sentence each."""
    lines = [component.description] if component.description else []
    lines += [f"Do: {line}" for line in component.dos]
    return lines + [f"Don't: {line}" for line in component.donts]


def node_named(document: Document, owner: Owner, path: Path) -> str:
    """What the node at a path from an owner is called, and in what it lies; “it” for the
    owner's root."""
    if not path or path == (owner.root.id,):
        return "it"
    names = [node_in(document, owner, path[: n + 1]) for n in range(len(path))]
    if names[-1] is None:
        return "a part that is gone"
    return " of ".join(node.name for node in reversed(names) if node is not None)


def node_in(document: Document, owner: Owner, path: Path) -> Node | None:
    """The node at a path from an owner, through instances by their own components."""
    holder: Owner | None = owner
    node: Node | None = owner.root
    for node_id in path:
        node = find(holder.root, node_id) if holder is not None else None
        component_id = node.style.get("component") if node is not None else None
        holder = document.components.get(component_id) if isinstance(component_id, str) else None
    return node


def component_of(document: Document, owner: Owner, path: Path) -> Component | None:
    """The component of the instance at a path from an owner; the owner's own for ()."""
    if not path or path == (owner.root.id,):
        return owner if isinstance(owner, Component) else None
    node = node_in(document, owner, path)
    component_id = node.style.get("component") if node is not None else None
    return document.components.get(component_id) if isinstance(component_id, str) else None
