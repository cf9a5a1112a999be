"""The cascade: in which order a property gets its value, and from whom.

An instance is resolved in a *scope*: its component, its variant, and the entries that
speak about it. Entries come in cascade order (later wins): the component's own rules,
then what each holder says, the outermost last. `steps_of` gives, for one node, every step
of every property; the scene takes the end of it and the ladder shows the whole, so that
the two cannot disagree.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal, NamedTuple, Protocol

import msgspec
from immutables import Map

from outgrowth.core.color import Color, Gradient, darkened, faded
from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES, fitting, row_of
from outgrowth.core.document.records import (
    POINTER_VALUES,
    Component,
    DesignToken,
    Node,
    Owner,
    Path,
    Rule,
)
from outgrowth.core.document.referring import DEEPEST_ALIAS, colored
from outgrowth.core.document.types import as_type
from outgrowth.core.document.values import FromProperty, Literals, Shift, Token, Value
from outgrowth.core.document.variants import Variant, holds, in_cascade_order

Always: Map[str, str] = Map()
Live = tuple[tuple[Path, str, Literals], ...]
"""What is set while running, sorted: (path of instances, axis id, value id), or the id of a
component property and its value."""


class Source(msgspec.Struct, frozen=True):
    """Who says a value: the property table, a component's tree, a rule, or an instance.

    `owner` is the component or screen it is written in, `node` the path there, `when` the
    conditions it carries.
    """

    kind: Literal["default", "tree", "rule", "instance", "live"]
    owner: str = ""
    node: Path = ()
    when: Map[str, str] = Always


DEFAULT = Source("default")


class Step(NamedTuple):
    """One step of a ladder."""

    value: Value
    source: Source


class Entry(NamedTuple):
    """Something said about a node inside a scope, before it is known whether it holds."""

    path: Path
    property: str
    value: Value
    when: Map[str, str]
    source: Source


class Lookup(Protocol):
    """Where components and tokens are found; a memo records what was asked."""

    def component(self, component_id: str) -> Component | None: ...
    def token(self, path: str) -> DesignToken | None: ...
    def mode_inside(self, said: object, around: str | None) -> str | None: ...


class InstanceInput(NamedTuple):
    """All that decides what an instance looks like, besides the components themselves."""

    component: str
    choices: tuple[tuple[str, Literals], ...] = ()
    entries: tuple[Entry, ...] = ()
    live: Live = ()
    running: bool = False
    mode: str | None = None

    @property
    def key(self) -> tuple[object, ...]:
        """Equal for two inputs that resolve alike, whoever says it."""
        values = tuple(entry[:4] for entry in self.entries)
        chosen = (*self.choices, *(e[1:3] for e in self.entries), *(s[1:] for s in self.live))
        # True equals 1.0 and False 0.0, but a switch takes the one and a number the other.
        flags = tuple([isinstance(value, bool) for _, value in chosen])
        return self.component, self.choices, values, self.live, self.running, self.mode, flags


class Scope(NamedTuple):
    """A component (or screen) being resolved for one variant. `live` is what is set while
    running inside of it, by the first id of the path, which is left out. `mode` is the one in
    which tokens are shown, None for the document's."""

    owner: Owner
    variant: Variant
    values: Map[str, Literals]
    groups: dict[str, list[Entry]]
    live: dict[str, Live]
    running: bool
    mode: str | None = None


def screen_scope(owner: Owner, live: Live, running: bool) -> Scope:
    """The scope of a screen, which has no variants."""
    return Scope(owner, Map(), Map(), {}, _by_first(live), running)


def _by_first(live: Live) -> dict[str, Live]:
    """What is said inside, by the instance in which it is: looked at once for all of them."""
    by_first: dict[str, list[tuple[Path, str, Literals]]] = {}
    for path, name, value in live:
        if path:
            by_first.setdefault(path[0], []).append((path[1:], name, value))
    return {node_id: tuple(entries) for node_id, entries in by_first.items()}


def component_scope(component: Component, instance_input: InstanceInput) -> Scope:
    """The scope of an instance: variant and property values settled, entries grouped by
    the first id of their path ("" for the component's root)."""
    # model: choices first, then what runs; both are known before any rule is asked.
    variant = _variant(component, instance_input)
    choices = dict(instance_input.choices) | {
        name: value for path, name, value in instance_input.live if not path
    }
    values: Map[str, Literals] = Map()
    for prop in component.properties:
        given_value = choices.get(prop.id, prop.default)
        values = values.set(prop.id, as_type(PROPERTY_TYPES[prop.kind], given_value, prop.default))
    groups: dict[str, list[Entry]] = {}
    # Weak rules first: the later step of a property wins.
    for rule in in_cascade_order(component):
        if holds(rule.when, variant):
            _group(groups, _rule_entry(component, rule, values))
    # What an instance says stands above all that its component says.
    for entry in instance_input.entries:
        if holds(entry.when, variant):
            # Its conditions were about this instance; further in they mean nothing.
            _group(groups, entry._replace(when=Always))
    live = _by_first(instance_input.live)
    running, mode = instance_input.running, instance_input.mode
    return Scope(component, variant, values, groups, live, running, mode)


def scope_inside(scope: Scope, steps: dict[str, list[Step]], lookup: Lookup) -> Scope:
    """The scope of a node's own values and of what is in it: in the mode that it says."""
    if "mode" not in steps:
        return scope
    mode = lookup.mode_inside(computed_value("mode", steps["mode"], lookup), scope.mode)
    return scope if mode == scope.mode else scope._replace(mode=mode)


def _variant(component: Component, instance_input: InstanceInput) -> Variant:
    chosen = dict(instance_input.choices)
    live = {axis: value for path, axis, value in instance_input.live if not path}
    found: dict[str, str] = {}
    for axis in component.axes:
        value: object = chosen.get(axis.id, axis.default)
        # While it runs, the pointer and the focus have the word on the axes they drive.
        if instance_input.running and axis.driver != "none" and value in POINTER_VALUES:
            value = axis.default  # what the pointer sets is not chosen; a disabled one is
        value = live.get(axis.id, value)
        # A value that is gone falls back to the default: files and overrides may name it still.
        is_value = isinstance(value, str) and axis.value(value) is not None
        found[axis.id] = str(value) if is_value else axis.default
    return Map(found)


def _rule_entry(component: Component, rule: Rule, values: Map[str, Literals]) -> Entry:
    path = rule.node
    if path == (component.root.id,):
        path = ()
    source = Source("rule", component.id, rule.node, rule.when)
    return Entry(path, rule.property, _substituted(rule.value, values), Always, source)


def _group(groups: dict[str, list[Entry]], entry: Entry) -> None:
    groups.setdefault(entry.path[0] if entry.path else "", []).append(entry)


def _substituted(value: Value, values: Map[str, Literals]) -> Value:
    """The value with a property reference replaced by what the instance gives for it."""
    if isinstance(value, FromProperty):
        return values.get(value.property, "")
    return value


def cascaded_values(scope: Scope, node: Node) -> dict[str, list[Step]]:
    """For each property that anyone sets on this node: every step, in cascade order."""
    steps: dict[str, list[Step]] = {}
    kind: Literal["tree", "instance"] = "tree"
    source = Source(kind, scope.owner.id, (node.id,))
    # The tree says first: it is the base of every variant.
    for name, value in node.style.items():
        steps[name] = [Step(_substituted(value, scope.values), source)]
    is_root = node.id == scope.owner.root.id
    # Then rules and overrides, in the order in which the scope grouped them.
    for entry in scope.groups.get("" if is_root else node.id, ()):
        if len(entry.path) == (0 if is_root else 1):
            steps.setdefault(entry.property, []).append(Step(entry.value, entry.source))
    return steps


def input_of(
    scope: Scope, node: Node, steps: dict[str, list[Step]], lookup: Lookup
) -> InstanceInput:
    """What a nested instance is given: its choices, and everything said about its inside."""
    choices = []
    entries = []
    component = ""
    # Sorted, so that equal instances have equal inputs and share one result.
    for name in sorted(steps):
        if name == "component":
            held = computed_value(name, steps[name], lookup)
            component = held if isinstance(held, str) else ""
        elif name.startswith(CHOICE):
            choices.append((name.removeprefix(CHOICE), computed_value(name, steps[name], lookup)))
        else:
            entries += [Entry((), name, value, Always, source) for value, source in steps[name]]
    # Overrides with more conditions are stronger, as rules are.
    for rule in sorted(node.overrides, key=lambda rule: len(rule.when)):
        source = Source("instance", scope.owner.id, (node.id, *rule.node), rule.when)
        value = _substituted(rule.value, scope.values)
        entries.append(Entry(rule.node, rule.property, value, rule.when, source))
    for entry in scope.groups.get(node.id, ()):
        if len(entry.path) > 1:
            entries.append(entry._replace(path=entry.path[1:]))
    live = scope.live.get(node.id, ())
    running, mode = scope.running, scope.mode
    return InstanceInput(component, tuple(choices), tuple(entries), live, running, mode)


def computed_value(name: str, steps: Iterable[Step], lookup: Lookup) -> Literals:
    """The value at the end of the steps: the last plain one, with all shifts on top."""
    # The last plain value counts; shifts above and below it stay on top, each on the one before.
    plain: Value = row_of(name).default
    shifts = []
    for value, _ in steps:
        if isinstance(value, Shift):
            shifts.append(value)
        else:
            plain = value
    resolved = literal(name, plain, lookup)
    if not shifts:
        return resolved
    for shift in shifts:
        resolved = shifted(resolved, shift)
    return resolved if name.startswith(CHOICE) else fitting(name, resolved)


def literal(name: str, value: Value, lookup: Lookup) -> Literals:
    """The literal that a value stands for; the table's default where a reference leads
    nowhere, in a circle, or to something of another type, and the nearest that the row allows
    where it is out of range."""
    row = row_of(name)
    # Names may name names; a circle ends at this depth, with the default.
    for _ in range(DEEPEST_ALIAS):
        if not isinstance(value, Token):
            break
        token = lookup.token(value.path)
        value = row.default if token is None else token.value
    if isinstance(value, Token | FromProperty | Shift):
        return row.default
    if name.startswith(CHOICE):
        return value
    shown = fitting(name, value)
    # The only list in which a colour can be a token's.
    return colored(shown, lookup.token) if name == "shadow" else shown  # type: ignore[arg-type]  # the row says shadows


def shifted(value: Literals, shift: Shift) -> Literals:
    """The value changed by the shift; unchanged where the shift means nothing for it."""
    if isinstance(value, Gradient) and shift.how in ("darken", "fade"):
        return value.recolored(shift.how, shift.amount)
    if isinstance(value, Color):
        if shift.how == "darken":
            return darkened(value, shift.amount)
        return faded(value, shift.amount) if shift.how == "fade" else value
    if isinstance(value, float):
        if shift.how == "add":
            return value + shift.amount
        return value * shift.amount if shift.how == "multiply" else value
    return value
