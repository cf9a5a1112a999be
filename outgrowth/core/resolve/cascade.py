"""The cascade: in which order a property gets its value, and from whom.

`declarations` is the one ordered walk over what an owner says of a node: each step with its
conditions, later ones winning. Who draws one variant follows it in a *scope*, in which only
what holds is left (`cascaded_values`); the ladder shows the same steps whole; the web code
(`exchange/web/steps`) follows it with all conditions. So the three cannot disagree.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from operator import itemgetter
from typing import Literal, NamedTuple, Protocol, TypeVar

import msgspec
from immutables import Map

from outgrowth.core.color import Color, Gradient, darkened, faded
from outgrowth.core.document.axis_parts import is_driven, resting_value
from outgrowth.core.document.properties import CHOICE, PROPERTY_TYPES, fitting, row_of
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    DesignToken,
    Node,
    Owner,
    Path,
)
from outgrowth.core.document.referring import DEEPEST_ALIAS, colored
from outgrowth.core.document.rooms import GIVEN_BY_HOLDER
from outgrowth.core.document.values import Default, FromProperty, Literals, Shift, Token, Value
from outgrowth.core.document.variants import Variant, holds, in_cascade_order
from outgrowth.core.memo import ByIdentity
from outgrowth.core.refusal import ValueRefusal

Always: Map[str, str] = Map()
LiveValues = tuple[tuple[Path, str, Literals], ...]
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


class CascadeStep(NamedTuple):
    """One step of a ladder."""

    value: Value
    source: Source


class Declaration(NamedTuple):
    """One step of the cascade: a value for a property of a node, and when it holds.

    path     where the node is: from the owner that says it, or from the instance that is resolved
             (there () is the root of its component)
    when     axis → value, all of which must hold
    subject  the path of the instance whose axes `when` names; () for the owner's own
    """

    path: Path
    property: str
    value: Value
    when: Map[str, str]
    source: Source
    subject: Path = ()


class HasValue(Protocol):
    """A step of any walk: what it says is its value."""

    @property
    def value(self) -> Value: ...


Stated = TypeVar("Stated", bound=HasValue)


class TokenLookup(Protocol):
    """Where tokens are found: a document, or a memo that records what was asked."""

    def token(self, path: str) -> DesignToken | None: ...


class Lookup(TokenLookup, Protocol):
    """Where components and tokens are found; a memo records what was asked."""

    def component(self, component_id: str) -> Component | None: ...
    def token(self, path: str) -> DesignToken | None: ...
    def mode_inside(self, said: object, around: str | None) -> str | None: ...


class InstanceInput(NamedTuple):
    """All that decides what an instance looks like, besides the components themselves."""

    component: str
    choices: tuple[tuple[str, Literals], ...] = ()
    declarations: tuple[Declaration, ...] = ()
    live: LiveValues = ()
    running: bool = False
    mode: str | None = None
    rtl: bool = False

    @property
    def key(self) -> tuple[object, ...]:
        """Equal for two inputs that resolve alike, whoever says it."""
        declared = tuple([(d.path, d.property, d.value, d.when) for d in self.declarations])
        # True equals 1.0 and False 0.0, but a switch takes the one and a number the other.
        flags = (
            *[isinstance(value, bool) for _, value in self.choices],
            *[isinstance(declaration.value, bool) for declaration in self.declarations],
            *[isinstance(value, bool) for _, _, value in self.live],
        )
        context = self.running, self.mode, self.rtl
        return self.component, self.choices, declared, self.live, context, flags


class Scope(NamedTuple):
    """A component (or screen) being resolved for one variant.

    values   what the instance gives for each component property, else its default
    rules    the owner's rules that hold, by the node they begin at; references are replaced
    outer    what the holders say, by the node they begin at, the outermost holder last
    live     what is set while running inside, by the first id of the path, which is left out
    running  whether the pointer and the focus have the word on the axes that they drive
    mode     the mode in which tokens are shown, None for the document's
    rtl      whether one reads from right to left
    """

    owner: Owner
    variant: Variant
    values: Map[str, Default]
    rules: dict[str, list[Declaration]]
    outer: dict[str, list[Declaration]]
    live: dict[str, LiveValues]
    running: bool
    mode: str | None = None
    rtl: bool = False


def screen_scope(owner: Owner, live: LiveValues, running: bool, rtl: bool = False) -> Scope:
    """The scope of a screen, which has no variants."""
    return Scope(owner, Map(), Map(), {}, {}, _by_first(live), running, None, rtl)


# --- the one order -------------------------------------------------------------------------


def declarations(owner: Owner, node: Node, rules: Sequence[Declaration]) -> Iterator[Declaration]:
    """All that an owner says of one of its nodes, and of what is inside of it if it is an
    instance, in cascade order: the tree, the rules about the node, its overrides (more
    conditions after fewer), and last the rules about its inside. A holder's own
    declarations come after all of these.

    rules  the owner's rules that begin at the node, in cascade order (`declared_rules`)
    """
    path = (node.id,)
    source = Source("tree", owner.id, path)
    # Sorted, so that equal instances have equal inputs and share one result.
    instance = node.kind == "instance"
    for name, value in sorted(node.style.items(), key=_name) if instance else node.style.items():
        yield Declaration(path, name, value, Always, source)
    for rule in rules:
        if len(rule.path) == 1:
            yield rule
    if not instance:
        return
    for override in sorted(node.overrides, key=lambda rule: len(rule.when)):
        inside = (node.id, *override.node)
        source = Source("instance", owner.id, inside, override.when)
        when = override.when
        yield Declaration(inside, override.property, override.value, when, source, path)
    for rule in rules:
        if len(rule.path) > 1:
            yield rule


def declared_rules(owner: Owner) -> dict[str, list[Declaration]]:
    """An owner's rules by the node they begin at, in cascade order."""
    return _declared(owner) if isinstance(owner, Component) else {}


def _rules_by_node(component: Component) -> dict[str, list[Declaration]]:
    by_node: dict[str, list[Declaration]] = {}
    for rule in in_cascade_order(component):
        source = Source("rule", component.id, rule.node, rule.when)
        declaration = Declaration(rule.node, rule.property, rule.value, rule.when, source)
        by_node.setdefault(rule.node[0], []).append(declaration)
    return by_node


# By component: asked for each of its variants and instances.
_declared = ByIdentity(_rules_by_node, 256)


_name = itemgetter(0)


def _by_first(live: LiveValues) -> dict[str, LiveValues]:
    """Live values inside, by the instance in which they are: looked at once for all of them."""
    by_first: dict[str, list[tuple[Path, str, Literals]]] = {}
    for path, name, value in live:
        if path:
            by_first.setdefault(path[0], []).append((path[1:], name, value))
    return {node_id: tuple(values) for node_id, values in by_first.items()}


# --- one variant ---------------------------------------------------------------------------


def component_scope(component: Component, instance_input: InstanceInput) -> Scope:
    """The scope of an instance: variant and property values settled, and of the rules and of
    what its holders say only what holds in that variant."""
    # model: choices first, then what runs; both are known before any rule is asked.
    variant = _variant(component, instance_input)
    choices = dict(instance_input.choices) | {
        name: value for path, name, value in instance_input.live if not path
    }
    values: Map[str, Default] = Map()
    for prop in component.properties:
        values = values.set(prop.id, value_given(prop, choices.get(prop.id)))
    rules = {}
    root = component.root.id
    by_room = frozenset([axis.id for axis in component.axes if axis.driver == "room"])
    for node_id, declared in declared_rules(component).items():
        holding = [d for d in declared if holds(d.when, variant)]
        if by_room and node_id == root:
            holding = [d for d in holding if not _comes_before(d, by_room)]
        if holding:
            rules[node_id] = [_with_references(d, values) for d in holding]
    outer: dict[str, list[Declaration]] = {}
    for declaration in instance_input.declarations:
        if declaration.property == "sides":
            continue  # what its left and right mean a component says itself
        if by_room and not declaration.path and _comes_before(declaration, by_room):
            continue
        # A holder speaks of the root by the instance; its own id there means nothing.
        if declaration.path != (root,) and holds(declaration.when, variant):
            # Its conditions were about this instance; further in they mean nothing.
            path = declaration.path or (root,)
            outer.setdefault(path[0], []).append(declaration._replace(path=path, when=Always))
    live = _by_first(instance_input.live)
    running, mode, rtl = instance_input.running, instance_input.mode, instance_input.rtl
    return Scope(component, variant, values, rules, outer, live, running, mode, rtl)


def _comes_before(declaration: Declaration, by_room: frozenset[str]) -> bool:
    """Whether what is said of a root is asked before there is a room, on which it would depend: it
    means nothing then (rooms.py)."""
    return declaration.property in GIVEN_BY_HOLDER and not by_room.isdisjoint(declaration.when)


def with_live(given: InstanceInput, values: Map[str, str]) -> InstanceInput:
    """The input with these values of its own axes set; what is set already stays."""
    known = {axis for path, axis, _ in given.live if not path}
    more = tuple(((), axis, value) for axis, value in values.items() if axis not in known)
    return given._replace(live=tuple(sorted((*given.live, *more), key=_place_and_name)))


def _place_and_name(live: tuple[Path, str, Literals]) -> tuple[Path, str]:
    return live[:2]


def scope_inside(scope: Scope, steps: dict[str, list[CascadeStep]], lookup: Lookup) -> Scope:
    """The scope of a node's own values and of what is in it: in the mode and the direction that it
    says."""
    if "direction" in steps:
        said = computed_value("direction", steps["direction"], lookup)
        rtl = scope.rtl if said == "as-around" else said == "right-to-left"
        scope = scope if rtl == scope.rtl else scope._replace(rtl=rtl)
    if "mode" not in steps:
        return scope
    mode = lookup.mode_inside(computed_value("mode", steps["mode"], lookup), scope.mode)
    return scope if mode == scope.mode else scope._replace(mode=mode)


def _variant(component: Component, instance_input: InstanceInput) -> Variant:
    chosen = dict(instance_input.choices)
    live = {axis: value for path, axis, value in instance_input.live if not path}
    found: dict[str, str] = {}
    for axis in component.axes:
        # What the room sets nobody chooses: it is among what is live, once the room is known.
        value: object = chosen.get(axis.id) if axis.driver != "room" else None
        value = axis.default if value is None else value
        # While it runs, the pointer and the focus have the word on the axes they drive.
        if instance_input.running and is_driven(axis, value):
            value = resting_value(axis)  # what the pointer sets is not chosen; a disabled one is
        value = live.get(axis.id, value)
        # A value that is gone falls back to the default: files and overrides may name it still.
        is_value = isinstance(value, str) and axis.value(value) is not None
        found[axis.id] = str(value) if is_value else axis.default
    return Map(found)


def value_given(prop: ComponentProperty, given: Literals | None) -> Default:
    """What a component property is where an instance gives this for it, None for nothing: the
    nearest that fits, else its default."""
    if given is None:
        return prop.default
    kind = PROPERTY_TYPES[prop.kind]
    try:
        return kind.read(given) if isinstance(given, str) else kind.fit(given)
    except ValueRefusal:
        return prop.default


def _with_references(declaration: Declaration, values: Map[str, Default]) -> Declaration:
    if isinstance(declaration.value, FromProperty):
        return declaration._replace(value=_substituted(declaration.value, values))
    return declaration


def _substituted(value: Value, values: Map[str, Default]) -> Value:
    """The value with a property reference replaced by what the instance gives for it."""
    if isinstance(value, FromProperty):
        return values.get(value.property, "")
    return value


def cascaded_values(scope: Scope, node: Node) -> dict[str, list[CascadeStep]]:
    """For each property that anyone sets on this node: every step, in cascade order. Of an
    instance: what is said of it as a node of its owner, its choices among it."""
    steps: dict[str, list[CascadeStep]] = {}
    values = scope.values
    for path, name, value, _, source, subject in declarations(
        scope.owner, node, scope.rules.get(node.id, ())
    ):
        # What an override says of the instance's own root is said inside of it.
        if len(path) == 1 and not subject:
            steps.setdefault(name, []).append(CascadeStep(_substituted(value, values), source))
    for declaration in scope.outer.get(node.id, ()):
        if len(declaration.path) == 1:
            step = CascadeStep(declaration.value, declaration.source)
            steps.setdefault(declaration.property, []).append(step)
    return steps


def about_instance(name: str) -> bool:
    """Whether a property is of the instance itself: which component it shows, and its choices.
    All others are said of the root of that component."""
    return name == "component" or name.startswith(CHOICE)


def input_of(
    scope: Scope, node: Node, steps: dict[str, list[CascadeStep]], lookup: Lookup
) -> InstanceInput:
    """What a nested instance is given: its choices, and everything said about its inside.

    steps  what `cascaded_values` gives for the instance
    """
    choices = []
    component = ""
    # Sorted, so that equal instances have equal inputs and share one result.
    for name in sorted(filter(about_instance, steps)):
        value = computed_value(name, steps[name], lookup)
        if name != "component":
            choices.append((name.removeprefix(CHOICE), value))
        elif isinstance(value, str):
            component = value
    inside = []
    for declaration in declarations(scope.owner, node, scope.rules.get(node.id, ())):
        if declaration.subject:
            declaration = _with_references(declaration, scope.values)
            inside.append(declaration._replace(path=declaration.path[1:]))
        elif len(declaration.path) > 1 or not about_instance(declaration.property):
            value_here = _substituted(declaration.value, scope.values)
            path = declaration.path[1:]
            inside.append(declaration._replace(path=path, value=value_here, when=Always))
    for declaration in scope.outer.get(node.id, ()):
        if len(declaration.path) > 1 or not about_instance(declaration.property):
            inside.append(declaration._replace(path=declaration.path[1:]))
    live = scope.live.get(node.id, ())
    running, mode, rtl = scope.running, scope.mode, scope.rtl
    return InstanceInput(component, tuple(choices), tuple(inside), live, running, mode, rtl)


def plain_and_shifts(steps: Iterable[Stated]) -> tuple[Stated | None, list[Shift]]:
    """The step whose plain value counts, the last one, and all shifts: those below it stay on
    top too, each on the one before."""
    plain = None
    shifts = []
    for step in steps:
        if isinstance(step.value, Shift):
            shifts.append(step.value)
        else:
            plain = step
    return plain, shifts


def computed_value(name: str, steps: Iterable[CascadeStep], lookup: Lookup) -> Literals:
    """The value at the end of the steps: the last plain one, with all shifts on top."""
    plain, shifts = plain_and_shifts(steps)
    resolved = literal(name, row_of(name).default if plain is None else plain.value, lookup)
    if not shifts:
        return resolved
    for shift in shifts:
        resolved = shifted(resolved, shift)
    return resolved if name.startswith(CHOICE) else fitting(name, resolved)


def literal(name: str, value: Value, lookup: TokenLookup) -> Literals:
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
