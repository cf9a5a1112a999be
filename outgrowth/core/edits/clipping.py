"""Parts cut out of a document, as a small document of their own, and put down again.

A clipping holds the parts in an owner of their own (the last one of it), with the components
that they follow, the tokens and pictures that they name. Put down in the component they came
from, they keep its rules; anywhere else they look as they did in the variant they were taken
from. What they do comes along as far as it can be done there. So copying works between files
as it does within one.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Iterable, Mapping

import msgspec
from immutables import Map

from outgrowth.core.document.extent import filling
from outgrowth.core.document.properties import fitting, row_of, rows_of
from outgrowth.core.document.records import (
    Component,
    DesignToken,
    Document,
    Node,
    Owner,
    Rule,
    Screen,
    walk,
)
from outgrowth.core.document.referring import token_paths
from outgrowth.core.document.sharing import ALONE, Sharing
from outgrowth.core.document.uses import assets_in_use, holds_directly, may_hold
from outgrowth.core.document.values import FromProperty, Shift, Token, Value
from outgrowth.core.document.variants import Variant, default_variant
from outgrowth.core.edits.carried_cues import behaviour_of, with_behaviour
from outgrowth.core.edits.style.pictures import with_asset
from outgrowth.core.edits.tokens import tokens_named
from outgrowth.core.edits.tree.components import add_component, component_of
from outgrowth.core.edits.tree.nodes import add_node
from outgrowth.core.edits.tree.owners import free_name
from outgrowth.core.edits.tree.trees import owner_of, rebuilt_tree, with_owner, without_unseen
from outgrowth.core.edits.variants.axes import fixed_at
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Inspection, Place, inspect

NewId = Callable[[str], str]
"""Gives an id for a node of some kind."""


def clipping(
    document: Document, owner_id: str, node_ids: tuple[str, ...], variant: Variant
) -> Document:
    """The parts with these ids, in their order in the tree, as they are in one variant.

    Raises Refusal where none of them is there.
    """
    owner = owner_of(document, owner_id)
    parts = tuple(node for node in walk(owner.root) if node.id in node_ids)
    if not parts:
        raise Refusal("Nothing is selected that could be copied.")
    root = Node("clipping", "clipping", "box", children=parts)
    inside = {node.id for part in parts for node in walk(part)}
    holder: Owner
    if isinstance(owner, Component):
        holder = msgspec.structs.replace(
            owner,
            root=root,
            rules=tuple(rule for rule in owner.rules if rule.node[0] in inside),
            axes=tuple(
                msgspec.structs.replace(a, default=variant.get(a.id, a.default)) for a in owner.axes
            ),
            behaviour=behaviour_of(owner, inside),
        )
    else:
        holder = Screen(owner.id, owner.name, root, behaviour=behaviour_of(owner, inside))
    return _with_needs(document, holder)


def _with_needs(document: Document, owner: Owner) -> Document:
    """A document of this owner and all that it needs of another one."""
    needed = needs(document, owner)
    tokens = tokens_needed(document, [owner, *needed])
    result = Document(
        "clipping",
        components=Map({c.id: c for c in needed}),
        component_order=tuple(c.id for c in needed),
        tokens=tokens,
        assets=document.assets,
        sharing=_sharing_of(document.sharing, {c.id for c in needed}, tokens),
    )
    if isinstance(owner, Screen):
        result = msgspec.structs.replace(
            result, screens=Map({owner.id: owner}), screen_order=(owner.id,)
        )
    else:
        result = msgspec.structs.replace(
            result,
            components=result.components.set(owner.id, owner),
            component_order=(*result.component_order, owner.id),
        )
    return msgspec.structs.replace(result, assets=Map(assets_in_use(result)))


def _sharing_of(sharing: Sharing, components: set[str], tokens: Container[str]) -> Sharing:
    """Where these parts and tokens come from."""
    origins = {
        component: origin
        for component, origin in sharing.origins.items()
        if component in components
    }
    libraries = {origin.library for origin in origins.values()}
    return Sharing(
        tuple(library for library in sharing.libraries if library.id in libraries),
        Map(origins),
        Map({path: origin for path, origin in sharing.tokens.items() if path in tokens}),
    )


def needs(document: Document, owner: Owner) -> list[Component]:
    """The components that an owner holds, over any depth, inner ones first."""
    first = frozenset(component_id for _, component_id in holds_directly(owner)) | _filling(owner)
    if isinstance(owner, Component):
        first |= may_hold(owner)
    components: dict[str, Component] = {}
    visited = {owner.id}
    waiting = [(component_id, False) for component_id in sorted(first, reverse=True)]
    while waiting:
        component_id, after = waiting.pop()
        component = document.components.get(component_id)
        if component is None:
            continue
        if after:
            components[component_id] = component
        elif component_id not in visited:  # a shortlist may lead around in a circle
            visited.add(component_id)
            below = may_hold(component) | filling(document, component)
            waiting.append((component_id, True))
            waiting += [(inner, False) for inner in sorted(below, reverse=True)]
    return list(components.values())


def _filling(owner: Owner) -> frozenset[str]:
    """Whatever an owner's instances give that may be a component: slots are among it."""
    values: list[object] = []
    for node in walk(owner.root):
        if node.kind == "instance":
            values += node.style.values()
            values += [rule.value for rule in node.overrides]
    return frozenset(value for value in values if isinstance(value, str) and value)


def tokens_needed(document: Document, owners: Iterable[Owner]) -> Map[str, DesignToken]:
    """The tokens that owners refer to, and those that these refer to."""
    target = [path for owner in owners for path in sorted(tokens_named(owner))]
    needed: dict[str, DesignToken] = {}
    while target:
        path = target.pop()
        token = document.tokens.get(path)
        if token is not None and path not in needed:
            needed[path] = token
            values = (token.value, *token.modes.values())
            target += [path for value in values for path in token_paths(value)]
    return Map(needed)


def source_of(clip: Document) -> Owner:
    """The owner that a clipping's parts stand in. Raises Refusal for an empty one."""
    if clip.screen_order:
        return clip.screens[clip.screen_order[-1]]
    if clip.component_order:
        return clip.components[clip.component_order[-1]]
    raise Refusal("There is nothing to put down.")


def put_down(
    document: Document, clip: Document, into: tuple[str, str, int | None], new_id: NewId
) -> tuple[Document, tuple[str, ...]]:
    """The document with a clipping's parts in a box, and their ids: `into` are the owner's
    id, the box's, and the place among its children (None: last).

    Components, tokens and pictures that the document has not yet come along. Raises
    Refusal, as for a component that would contain itself.
    """
    owner_id, parent_id, index = into
    source, target = source_of(clip), owner_of(document, owner_id)
    at_home = isinstance(source, Component) and _same_axes(source, target)
    behaviour, same_owner = source.behaviour, at_home or source.id == target.id
    if isinstance(source, Component) and not at_home:
        source = _plain(source)
    document = with_needs(document, clip, source.id)
    new_ids: list[str] = []
    all_ids: dict[str, str] = {}
    for part in source.root.children:
        ids = {node.id: new_id(node.kind) for node in walk(part)}
        all_ids |= ids
        copy = rebuilt_tree(part, lambda n: msgspec.structs.replace(n, id=ids[n.id]))  # noqa: B023  # used at once
        document = add_node(document, owner_id, parent_id, copy, index)
        if at_home and isinstance(source, Component):
            document = _with_rules(document, owner_id, source.rules, ids)
        new_ids.append(copy.id)
        index = None if index is None else index + 1
    document = with_behaviour(
        document, owner_id, behaviour, all_ids, same_owner, lambda: new_id("cue")
    )
    return without_unseen(document), tuple(new_ids)


def with_needs(document: Document, clip: Document, but: str = "") -> Document:
    """The document with the components, tokens and pictures of a clipping that it has not.
    What it has under the same id or path stays as it is."""
    new = [c for c in clip.in_order() if c.id != but and document.owner(c.id) is None]
    for component in new:
        document = add_component(document, component)
    new_tokens = {p: token for p, token in clip.tokens.items() if p not in document.tokens}
    tokens = document.tokens.update(new_tokens)
    sharing = _sharing_of(clip.sharing, {component.id for component in new}, new_tokens)
    document = _with_sharing(document, sharing)
    modes = dict.fromkeys((*document.modes, *clip.modes))
    document = msgspec.structs.replace(document, tokens=tokens, modes=tuple(modes))
    for asset in clip.assets.values():
        document = with_asset(document, asset)
    return document


def _with_sharing(document: Document, added: Sharing) -> Document:
    """The document that also knows where parts come from that were added to it."""
    if added == ALONE:
        return document
    sharing = document.sharing
    known = {library.id: library for library in (*added.libraries, *sharing.libraries)}
    sharing = msgspec.structs.replace(
        sharing,
        libraries=tuple(known.values()),
        origins=sharing.origins.update(added.origins),
        tokens=sharing.tokens.update(added.tokens),
    )
    return msgspec.structs.replace(document, sharing=sharing)


def _same_axes(source: Component, target: Owner) -> bool:
    """Whether the parts come from this very component, so that its rules mean the same."""
    if not isinstance(target, Component) or target.id != source.id:
        return False
    return {a.id for a in source.axes} <= {a.id for a in target.axes}


def _plain(source: Component) -> Component:
    """The component in its default variant only, its own properties at their defaults."""
    fixed = fixed_at(source, default_variant(source))
    defaults = {p.id: p.default for p in source.properties}

    def literal(name: str, value: Value) -> Value | None:
        if not isinstance(value, FromProperty):
            return value
        default = defaults.get(value.property)
        if default is None or isinstance(default, Token | Shift):
            return default
        return fitting(name, default)

    def change(node: Node) -> Node:
        literals = {name: literal(name, value) for name, value in node.style.items()}
        style = Map({name: value for name, value in literals.items() if value is not None})
        overrides = tuple(
            msgspec.structs.replace(rule, value=value)
            for rule in node.overrides
            if (value := literal(rule.property, rule.value)) is not None
        )
        return msgspec.structs.replace(node, style=style, overrides=overrides)

    return msgspec.structs.replace(fixed, root=rebuilt_tree(fixed.root, change))


def _with_rules(
    document: Document, owner_id: str, rules: tuple[Rule, ...], ids: dict[str, str]
) -> Document:
    owner = owner_of(document, owner_id)
    assert isinstance(owner, Component)
    copied = tuple(
        msgspec.structs.replace(rule, node=(ids[rule.node[0]], *rule.node[1:]))
        for rule in rules
        if rule.node[0] in ids
    )
    return with_owner(document, msgspec.structs.replace(owner, rules=(*owner.rules, *copied)))


_LOOK = rows_of("look", "text")


def look_of(clip: Document, tokens: Container[str]) -> dict[str, Value]:
    """How the first part of a clipping looks: what pasting its look elsewhere sets. It takes
    all that is seen, whether the part says it itself, its component does, or nobody; what
    comes from one of these tokens goes on to come from it."""
    source = source_of(clip)
    if not source.root.children:
        raise Refusal("There is nothing whose look could be pasted.")
    variant = default_variant(source) if isinstance(source, Component) else Map()
    inspection = inspect(clip, Place(source.id, (source.root.children[0].id,), variant))
    if inspection is None:
        raise Refusal("There is nothing whose look could be pasted.")
    return {name: _said(inspection, name, tokens) for name in sorted(_LOOK) if inspection.has(name)}


def differing(inspection: Inspection, look: Mapping[str, Value]) -> dict[str, Value]:
    """Of a look, what means something for a part and is not so there already."""
    named = {v.path for v in look.values() if isinstance(v, Token)}
    return {n: v for n, v in look.items() if inspection.has(n) and _said(inspection, n, named) != v}


def _said(inspection: Inspection, name: str, tokens: Container[str]) -> Value:
    """What decides a property: one of these tokens, or the value that all that is said comes to."""
    last = [rung.value for rung in inspection.ladder(name) if rung.wins][-1]
    if isinstance(last, Token) and last.path in tokens:
        return last
    value = inspection.value(name)
    return row_of(name).default if value is None else value


def bring_component(
    document: Document, source: Document, component_id: str, new_id: str
) -> Document:
    """The document with a component of another one, and all that it needs, under an id of
    its own: an ordinary component from then on. Raises Refusal."""
    component = component_of(source, component_id)
    inner = needs(source, component)
    clip = msgspec.structs.replace(
        source,
        components=Map({c.id: c for c in inner}),
        component_order=tuple(c.id for c in inner),
    )
    document = with_needs(document, clip)
    name = free_name(document, component.short_name)
    brought = msgspec.structs.replace(component, id=new_id, name=name)
    return without_unseen(add_component(document, brought))
