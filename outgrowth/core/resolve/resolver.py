"""From document to scene, remembering what did not change.

Results are kept with what they were made from: the components and tokens that were looked
up on the way. A kept result is good as long as each of those is still the very same
object. Instances whose inputs are equal share one result, whoever gave the input.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple, TypeVar
from weakref import ref

from immutables import Map

from outgrowth.core.document.extent import DEEPEST_SHOWN, MOST_SHOWN
from outgrowth.core.document.records import (
    Component,
    DesignToken,
    Document,
    Node,
    Owner,
    Path,
    walk,
)
from outgrowth.core.document.rooms import (
    ANY_WIDTH,
    KnownRoom,
    asks_room,
    has_fluid_letters,
    known_rooms,
    known_values,
    measure_of,
    room_axes,
    rooms_of,
)
from outgrowth.core.document.values import FromProperty, Literals, Picture, Value, fixed
from outgrowth.core.memo import ByIdentity, Generations, differing
from outgrowth.core.resolve.cascade import (
    Declaration,
    InstanceInput,
    LiveValues,
    Scope,
    cascaded_values,
    component_scope,
    computed_value,
    input_of,
    scope_inside,
    screen_scope,
    with_live,
)
from outgrowth.core.resolve.scene import (
    LONG,
    PLAIN,
    ChildDelta,
    Interner,
    PaintStyle,
    SceneNode,
    SceneParts,
)
from outgrowth.core.resolve.sides import read_from_right
from outgrowth.core.resolve.styles import Interaction, LayoutStyle

Result = TypeVar("Result")

_Made = dict[tuple[str, str], object]
_PLACEHOLDER = 24.0
_LISTS_KEPT = 32


class Unshowable(Exception):
    """What should be shown has no end, or is more than can be shown: nothing of it is kept,
    and what was asked for as a whole becomes a box that says so. So what stands somewhere
    never depends on where it was met first."""

    def __init__(self, problem: str) -> None:
        super().__init__(problem)
        self.problem = problem


class _RememberedScene(NamedTuple):
    made_from: _Made
    scene: SceneNode | None


class _Own(NamedTuple):
    """What a node is by itself, whatever it holds."""

    made_from: _Made
    style: LayoutStyle
    paint: PaintStyle
    shown: bool
    click_through: bool
    order: float
    interaction: Interaction
    mode: str | None
    rtl: bool


class _Subtree(NamedTuple):
    """What a subtree of a component is made of: its ids, the component properties that it
    refers to, and whether it holds no instance."""

    ids: frozenset[str]
    references: tuple[str, ...]
    plain: bool


class _List(NamedTuple):
    """A node of many children as it was last resolved on a screen, and for what."""

    node: Node
    scene: SceneNode
    made_from: _Made
    components: Map[str, Component]
    tokens: Map[str, DesignToken]
    mode: str
    touched: frozenset[str]
    live: dict[str, LiveValues]


class _Shared:
    """An instance's input, once for all instances that give the same, with its result.
    `turn` says for which document the result was last found to be good."""

    __slots__ = ("given", "result", "turn")

    def __init__(self, instance_input: InstanceInput) -> None:
        self.given = instance_input
        self.result: _RememberedScene | None = None
        self.turn = 0


class _Recorder:
    """Looks things up in one document and notes what was asked, innermost call on top."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self.made_from: _Made = {}
        self._added: dict[int, _RememberedScene | _Own] = {}
        self.lookups = 0
        # Whoever looks tokens up says in which mode.
        self.mode: str | None = None

    def component(self, component_id: str) -> Component | None:
        component = self.document.components.get(component_id)
        self.lookups += 1
        self.made_from["component", component_id] = component
        return component

    def token(self, path: str) -> DesignToken | None:
        token = self.document.token(path, self.mode)
        self.lookups += 1
        self.made_from["token" if self.mode is None else f"token in {self.mode}", path] = token
        return token

    def mode_inside(self, said: object, around: str | None) -> str | None:
        self.lookups += 1
        self.made_from["modes", ""] = self.document.modes
        return self.document.mode_inside(said, around)

    def still(self, made_from: _Made) -> bool:
        """Whether everything that was looked up is still the same object."""
        document, components = self.document, self.document.components
        for (kind, name), before in made_from.items():
            current: object
            if kind == "component":
                current = components.get(name)
            elif kind == "modes":
                current = document.modes
            else:
                current = document.token(name, None if kind == "token" else kind[9:])
            if current is not before:
                return False
        return True

    def add(self, kept: _RememberedScene | _Own) -> None:
        """Notes what a kept result was made from; once is enough. It is held meanwhile: an id
        of something gone could be another's."""
        if id(kept) not in self._added:
            self._added[id(kept)] = kept
            self.made_from |= kept.made_from

    def recorded(self, make: Callable[[], SceneNode | None]) -> _RememberedScene:
        """The result of `make` with what it looked up."""
        return _RememberedScene(*self.noted(make))

    def noted(self, make: Callable[[], Result]) -> tuple[_Made, Result]:
        """What `make` looked up, and its result."""
        outer = self.made_from, self._added
        self.made_from, self._added = {}, {}
        try:
            result = make()
            return self.made_from, result
        finally:
            self.made_from, self._added = outer


class Resolver:
    """Resolves owners of any document; one instance serves a whole session.

    everything  what is not shown is resolved too, as if it were: to ask what it would be

    Not for two threads at once.
    """

    def __init__(self, everything: bool = False) -> None:
        self._everything = everything
        self._intern = Interner()
        # Invariant of all that follows: keyed by values, or by the id of what is kept beside the
        # result, so a hit is always the same input.
        self._shared: Generations[object, _Shared] = Generations(8192)
        # An instance whose input is decided by its node alone.
        self._inputs: Generations[object, tuple[Node, _Shared]] = Generations(65536)
        # A node outside of components that no live value touches.
        self._nodes: Generations[object, tuple[Node, _RememberedScene]] = Generations(65536)
        # A node without children, by the values that it refers to.
        self._leaves: Generations[object, tuple[Node, _RememberedScene]] = Generations(65536)
        # What a node is by itself, its children apart.
        self._owns: Generations[object, tuple[Node, _Own]] = Generations(65536)
        self._lists: dict[tuple[object, ...], _List] = {}
        self._references = ByIdentity(_references, 16384)
        self._parts = ByIdentity(_part_of, 16384)
        self._parents = ByIdentity(parent_ids, 64)
        self._record = _Recorder(Document(""))
        self._turn = 0
        # Instances that are being resolved: one of them again means that it would hold itself.
        self._inside: dict[int, _Shared] = {}

    def screen(
        self,
        document: Document,
        owner: Owner,
        live: LiveValues = (),
        running: bool = False,
        rtl: bool = False,
    ) -> SceneNode:
        """The scene of a screen, or of a component's own tree taken as a drawing.

        live      axis values set while running
        running   driven axes (pointer, focus) start at their default, whatever is chosen
        rtl       whether one reads from right to left around it
        """
        self._begin(document)
        scope = screen_scope(owner, live, running, rtl)
        touched = self._touched(owner, live)
        scene = self._shown_scene(lambda: self._node(scope, owner.root, touched))
        return scene if scene is not None else self._missing("This screen is hidden as a whole.")

    def instance(self, document: Document, instance_input: InstanceInput) -> SceneNode:
        """The scene of one instance of a component."""
        self._begin(document)
        scene = self._shown_scene(lambda: self._result(self._common(instance_input)).scene)
        return scene if scene is not None else self._missing("This component is hidden as a whole.")

    def variant(
        self,
        document: Document,
        component_id: str,
        variant: Map[str, str],
        live: LiveValues = (),
        rtl: bool = False,
    ) -> SceneNode:
        """The scene of one variant of a component with its properties at their defaults; `live`
        are values of what is in it, `rtl` whether one reads from right to left around it."""
        choices = tuple(sorted(variant.items()))
        given = InstanceInput(component_id, choices, (), live, rtl=rtl)
        component = document.components.get(component_id)
        if component is not None and room_axes(component):
            # Of a variant the room is known: it is one that shows it.
            given = with_live(given, known_values(component, variant))
        return self.instance(document, given)

    def _shown_scene(self, make: Callable[[], SceneNode | None]) -> SceneNode | None:
        """What `make` gives, or a box that says why it cannot be shown."""
        try:
            return make()
        except Unshowable as problem:
            return self._missing(problem.problem)
        except RecursionError:
            return self._missing(_TOO_DEEP)
        finally:
            self._inside.clear()

    def _begin(self, document: Document) -> None:
        # A new document: results are looked at once more, by what they were made from.
        if document is not self._record.document:
            self._turn += 1
        self._record = _Recorder(document)

    def _touched(self, owner: Owner, live: LiveValues) -> frozenset[str]:
        """The nodes that hold (or are) an instance with live values."""
        if not live:
            return frozenset()
        parents = self._parents(owner.root)
        results = set()
        for path, _, _ in live:
            node_id = path[0] if path else ""
            while node_id:
                results.add(node_id)
                node_id = parents.get(node_id, "")
        return frozenset(results)

    # --- instances ----------------------------------------------------------------------

    def _common(self, instance_input: InstanceInput) -> _Shared:
        """The one object for all inputs that are equal."""
        key = instance_input.key
        cached = self._shared.get(key)
        if cached is None:
            cached = _Shared(instance_input)
            self._shared.put(key, cached)
        return cached

    def _result(self, shared: _Shared) -> _RememberedScene:
        """The result for an input, looked at once for each document."""
        result = shared.result
        # Once a turn is enough: nothing changes within a document.
        if result is None or shared.turn != self._turn:
            if result is None or not self._record.still(result.made_from):
                result = self._record.recorded(lambda: self._component(shared))
                shared.result = result
            shared.turn = self._turn
        return result

    def _instance(self, scope: Scope, node: Node, plain: bool) -> SceneNode | None:
        """The scene of a nested instance. `plain` says that its input is decided by the
        node alone, so that it need not be worked out again."""
        key = id(node), scope.running, scope.mode, scope.rtl
        cached = self._inputs.get(key) if plain else None
        if cached is not None:
            shared = cached[1]
        else:
            lookups = self._record.lookups
            self._record.mode = scope.mode
            steps = cascaded_values(scope, node)
            scope = scope_inside(scope, steps, self._record)
            self._record.mode = scope.mode
            inputs = input_of(scope, node, steps, self._record)
            shared = self._common(inputs)
            # Only where nothing was looked up: a token or component may be another in the next
            # document.
            if plain and lookups == self._record.lookups:
                self._inputs.put(key, (node, shared))
        if not shared.given.component:
            return None
        result = self._result(shared)
        self._record.add(result)
        return result.scene

    def _component(self, shared: _Shared) -> SceneNode | None:
        component = self._record.component(shared.given.component)
        if component is None:
            return self._missing("The component of this instance is not in the file.")
        if id(shared) in self._inside:
            raise Unshowable(f"“{component.name}” would contain itself here.")
        if len(self._inside) >= DEEPEST_SHOWN:
            raise Unshowable(_TOO_DEEP)
        self._inside[id(shared)] = shared
        try:
            return self._in_rooms(component, shared.given)
        finally:
            self._inside.pop(id(shared), None)

    def _in_rooms(self, component: Component, given: InstanceInput) -> SceneNode | None:
        """The scene of an instance: where its room decides what it is, of every room."""
        if not asks_room(component):
            return self._node(component_scope(component, given), component.root, None)
        known = {axis for path, axis, _ in given.live if not path}
        axes = tuple(axis for axis in room_axes(component) if axis.id not in known)
        if not axes and not has_fluid_letters(component):
            return self._node(component_scope(component, given), component.root, None)
        scenes = []
        for values in rooms_of(axes):
            scope = component_scope(component, with_live(given, values))
            scene = self._node(scope, component.root, None)
            if scene is None:
                return None  # no room shows or hides a part as a whole
            scenes.append(scene)
        measures = tuple(measure_of(axis) for axis in axes)
        first = scenes[0]
        parts = SceneParts(
            "box",
            self._intern.by_room(measures, tuple([scene.layout for scene in scenes])),
            first.paint,
            first.children,
            first.ids,
            first.names,
            first.click_through,
            first.component,
            first.variant,
            order=first.order,
            interaction=first.interaction,
            rooms=tuple(scenes),
            # A part in a variant tells its rooms; what is left for the holder are its letters.
            known_rooms=() if axes else known_rooms(component, first.variant or {}),
        )
        return _showable(self._intern.scene(parts))

    # --- nodes --------------------------------------------------------------------------

    def _node(self, scope: Scope, node: Node, touched: frozenset[str] | None) -> SceneNode | None:
        """The node's scene, None if it is not shown. `touched` is None inside a component,
        where what a node becomes depends on more than the node."""
        plain = touched is not None and node.id not in touched
        if node.kind == "instance":
            return self._instance(scope, node, plain)
        if touched is None and node.id != scope.owner.root.id:
            part = self._parts(node)
            if part.plain:
                return self._part(scope, node, part)
        if not plain:
            return self._resolved(scope, node, touched)
        # A root node can be that of two owners (a copy, a drawing being gathered), and says
        # in its scene whose it is.
        owner = scope.owner.id if node.id == scope.owner.root.id else ""
        key = id(node), scope.running, scope.mode, scope.rtl, owner
        cached = self._nodes.get(key)
        if cached is None or not self._record.still(cached[1].made_from):
            cached = node, self._record.recorded(lambda: self._resolved(scope, node, touched))
            self._nodes.put(key, cached)
        self._record.add(cached[1])
        return cached[1].scene

    def _part(self, scope: Scope, node: Node, part: _Subtree) -> SceneNode | None:
        """A part of a component that holds no instance: it is decided by itself, by what is
        said about it in this variant, and by the properties it refers to. So most parts of
        a large component are one object in most of its variants, and stay it when another
        part is edited."""
        declared = tuple(
            [
                (node_id, _declared_values(by_node[node_id]))
                for by_node in (scope.rules, scope.outer)
                for node_id in by_node
                if node_id in part.ids
            ]
        )
        inputs = tuple([scope.values.get(p) for p in part.references])
        key = id(node), scope.mode, scope.rtl, declared, inputs
        cached = self._leaves.get(key)
        if cached is None or not self._record.still(cached[1].made_from):
            cached = node, self._record.recorded(lambda: self._resolved(scope, node, None))
            self._leaves.put(key, cached)
        self._record.add(cached[1])
        return cached[1].scene

    def _own(self, scope: Scope, node: Node) -> _Own:
        """What the node is by itself: decided by what is said about it here, and by the
        properties it refers to. So of a thousand instances with words of their own, all
        boxes are settled once."""
        rules, outer = scope.rules.get(node.id, ()), scope.outer.get(node.id, ())
        inputs = tuple([scope.values.get(p) for p in self._references(node)])
        declared = _declared_values(rules), _declared_values(outer)
        key = id(node), scope.mode, scope.rtl, *declared, inputs
        cached = self._owns.get(key)
        if cached is None or not self._record.still(cached[1].made_from):
            made_from, (values, inside) = self._record.noted(lambda: self._computed(scope, node))
            cached = node, self._owned(made_from, values, inside)
            self._owns.put(key, cached)
        self._record.add(cached[1])
        return cached[1]

    def _computed(self, scope: Scope, node: Node) -> tuple[dict[str, Literals], Scope]:
        """What is settled of a node, and the scope (its mode and direction) in which it and all in
        it are shown."""
        steps = cascaded_values(scope, node)
        self._record.mode = scope.mode
        inside = scope_inside(scope, steps, self._record)
        self._record.mode = inside.mode
        values = {name: computed_value(name, steps[name], self._record) for name in steps}
        if node.kind == "image":
            keep_proportion(values)
        if inside.rtl:
            read_from_right(node.kind, values)
        else:
            values.pop("turns", None)
        return values, inside

    def _owned(self, made_from: _Made, values: dict[str, Literals], inside: Scope) -> _Own:
        order = values.get("order")
        return _Own(
            made_from,
            self._intern.style(values),
            self._intern.paint(values),
            self._everything or values.get("shown") is not False,
            values.get("click-through") is True,
            order if isinstance(order, float) else 0.0,
            _interaction(values),
            inside.mode,
            inside.rtl,
        )

    def _resolved(
        self, scope: Scope, node: Node, touched: frozenset[str] | None
    ) -> SceneNode | None:
        own = self._own(scope, node)
        if not own.shown:
            return None
        if own.mode != scope.mode or own.rtl != scope.rtl:
            scope = scope._replace(mode=own.mode, rtl=own.rtl)
        if touched is not None and len(node.children) >= LONG:
            return self._list(scope, node, touched, own)
        return self._whole_list(scope, node, touched, own)

    def _list(self, scope: Scope, node: Node, touched: frozenset[str], own: _Own) -> SceneNode:
        """A node of many children: made after the one before it, if few of them changed."""
        key = scope.owner.id, node.id, scope.running, scope.mode, scope.rtl
        before = self._lists.get(key)
        after = None
        if before is not None and self._comparable(before, node):
            made_from, after = self._record.noted(
                lambda: self._after(scope, node, touched, own, before)
            )
            made_from |= before.made_from
        if after is None:
            made_from, result = self._record.noted(
                lambda: self._whole_list(scope, node, touched, own)
            )
        else:
            result = after
        self._record.made_from |= made_from
        document = self._record.document
        if len(self._lists) > _LISTS_KEPT:
            self._lists.clear()
        self._lists[key] = _List(
            node,
            result,
            made_from,
            document.components,
            document.tokens,
            document.mode,
            touched,
            scope.live,
        )
        return result

    def _comparable(self, before: _List, node: Node) -> bool:
        """Whether children that are the same nodes as before look the same: all are shown,
        in their order, and nothing that they were made from changed."""
        document, previous = self._record.document, before.scene
        return (
            before.components is document.components
            and before.tokens is document.tokens
            and before.mode == document.mode
            and len(previous.children) == len(before.node.children) == len(node.children)
            and not any(previous.children[n].order for n in (0, -1))
        )

    def _after(
        self, scope: Scope, node: Node, touched: frozenset[str], own: _Own, before: _List
    ) -> SceneNode | None:
        """The scene of before with the children that changed; None if it is not that."""
        changed = _changed(before, node, touched, scope.live)
        if len(changed) > len(node.children) // 4:
            return None
        previous = before.scene
        scenes, layouts = list(previous.children), list(previous.layout.children)
        for n in changed:
            scene = self._node(scope, node.children[n], touched)
            old, new = before.node.children[n], node.children[n]
            if scene is None or scene.order or (old.id, old.name) != (new.id, new.name):
                return None
            scenes[n], layouts[n] = scene, scene.layout
        places = tuple(changed)
        layout = self._intern.layout(
            node.kind, own.style, tuple(layouts), ChildDelta(ref(previous.layout), places)
        )
        parts = SceneParts(
            node.kind,
            layout,
            own.paint,
            tuple(scenes),
            previous.ids,
            previous.names,
            own.click_through,
            previous.component,
            previous.variant,
            order=own.order,
            interaction=own.interaction,
        )
        return _showable(self._intern.scene(parts, ChildDelta(ref(previous), places)))

    def _whole_list(
        self, scope: Scope, node: Node, touched: frozenset[str] | None, own: _Own
    ) -> SceneNode:
        scenes = []
        for child in node.children:
            scene = self._node(scope, child, touched)
            if scene is not None:
                scenes.append((child, scene))
        if any(scene.order for _, scene in scenes):
            scenes.sort(key=lambda pair: pair[1].order)
        children = tuple([scene for _, scene in scenes])
        layouts = tuple([scene.layout for scene in children])
        is_instance = isinstance(scope.owner, Component) and node.id == scope.owner.root.id
        parts = SceneParts(
            node.kind,
            self._intern.layout(node.kind, own.style, layouts),
            own.paint,
            children,
            tuple([child.id for child, _ in scenes]),
            tuple([child.name for child, _ in scenes]),
            own.click_through,
            scope.owner.id if is_instance else "",
            scope.variant if is_instance else None,
            order=own.order,
            interaction=own.interaction,
            known_rooms=_rooms_told(scope) if is_instance else (),
        )
        return _showable(self._intern.scene(parts))

    def _missing(self, problem: str) -> SceneNode:
        """A small box that stands where something could not be resolved."""
        size = fixed(_PLACEHOLDER)
        style = self._intern.style({"width": size, "height": size})
        layout = self._intern.layout("box", style, ())
        return self._intern.scene(
            SceneParts("box", layout, self._intern.paint({}), problem=problem)
        )


def _rooms_told(scope: Scope) -> tuple[KnownRoom, ...]:
    """What the variant of a component tells of its room, if it asks for one at all."""
    if not asks_room(scope.owner):
        return ()
    told = known_rooms(scope.owner, scope.variant)
    return told or (ANY_WIDTH,) if has_fluid_letters(scope.owner) else told


_TOO_DEEP = f"This is more than {DEEPEST_SHOWN:,} levels deep."


def _showable(scene: SceneNode) -> SceneNode:
    """The scene, if it can be laid out and drawn. Raises Unshowable."""
    if scene.parts > MOST_SHOWN:
        raise Unshowable(f"This stands for more than {MOST_SHOWN:,} parts.")
    if scene.levels > DEEPEST_SHOWN:
        raise Unshowable(_TOO_DEEP)
    return scene


def _changed(
    before: _List, node: Node, touched: frozenset[str], live: dict[str, LiveValues]
) -> list[int]:
    """At which places the children are others than before, or hold what is live otherwise."""
    differing_children = differing(before.node.children, node.children)
    either = touched | before.touched
    if not either:
        return differing_children
    others = set(differing_children)
    for n, child in enumerate(node.children):
        child_id = child.id
        if child_id in either and n not in others:
            same = child.kind == "instance" and live.get(child_id) == before.live.get(child_id)
            if not same:
                differing_children.append(n)
    return differing_children


def _interaction(values: dict[str, Literals]) -> Interaction:
    values_said = {name: values[row] for name, row in _INTERACTION if row in values}
    return Interaction(**values_said) if values_said else PLAIN  # type: ignore[arg-type]  # the rows say texts


_INTERACTION = tuple((field, field.replace("_", "-")) for field in Interaction._fields)


def keep_proportion(values: dict[str, Literals]) -> None:
    """A picture keeps its own proportion where no other one is asked for."""
    picture = values.get("picture")
    if isinstance(picture, Picture) and picture.height and not values.get("aspect"):
        values["aspect"] = picture.width / picture.height


def _declared_values(declared: Iterable[Declaration]) -> tuple[tuple[Path, str, Value], ...]:
    """What decides a result: what is declared, whoever says it."""
    return tuple([(d.path, d.property, d.value) for d in declared])


def _references(node: Node) -> tuple[str, ...]:
    """Ids of the component properties that a node's own values refer to."""
    return tuple(v.property for v in node.style.values() if isinstance(v, FromProperty))


def _part_of(node: Node) -> _Subtree:
    nodes = list(walk(node))
    references = tuple(p for n in nodes for p in _references(n))
    plain = all(n.kind != "instance" for n in nodes)
    return _Subtree(frozenset(n.id for n in nodes), references, plain)


def parent_ids(root: Node) -> dict[str, str]:
    """For every node of a tree except its root: the id of its parent."""
    return {child.id: node.id for node in walk(root) for child in node.children}
