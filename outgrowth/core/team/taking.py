"""Taking components of a library into a file: for the first time, or their newer versions.

Read-only parts become what the library holds. Parts that are worked on here are merged, three
ways. Tokens that the file changed stay as they are here; overrides stay; what means nothing any
more is set aside.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.records import Asset, Component, Document
from outgrowth.core.document.sharing import Library, Origin, TokenOrigin
from outgrowth.core.document.uses import assets_in_use, families
from outgrowth.core.edits.clipping import needs, tokens_needed
from outgrowth.core.exchange.fonts import carried
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.library import LibraryState
from outgrowth.core.team.merge import Disagreement, Picks, merge
from outgrowth.core.team.settling import SetAside, settled
from outgrowth.core.team.versions import version_numbers


class News(NamedTuple):
    """A part of a file that the library has otherwise: `old` and `new` are versions."""

    component: str
    name: str
    old: str
    new: str


class TakenIn(NamedTuple):
    """A file with a library's parts in it.

    parts          what came or became another version, inner parts among them
    set_aside      what instances said that means nothing any more
    disagreements  where the file's own work and the library's say different things
    """

    document: Document
    parts: tuple[News, ...]
    set_aside: tuple[SetAside, ...] = ()
    disagreements: tuple[Disagreement, ...] = ()


def news(document: Document, state: LibraryState) -> tuple[News, ...]:
    """The parts of a file that have newer versions in a library, in the library's order."""
    return tuple(
        News(component.id, component.name, origin.version, state.version(component.id))
        for component in state.document.in_order()
        if (origin := document.sharing.origins.get(component.id)) is not None
        and origin.library == state.library.id
        and component.id in document.components
        and _is_newer(document, state, component, origin)
    )


def _is_newer(
    document: Document, state: LibraryState, component: Component, origin: Origin
) -> bool:
    version = state.version(component.id)
    if version != origin.version:
        return version_numbers(version) > version_numbers(origin.version)
    # Changed by hand, without a version: what a file holds read-only must be what is there.
    return not origin.own and document.components[component.id] != component


def needed(state: LibraryState, component_ids: Iterable[str]) -> tuple[Component, ...]:
    """Components of a library and all that they hold, inner ones first. Raises Refusal for
    one that is not there."""
    parts: dict[str, Component] = {}
    for component_id in component_ids:
        component = state.document.components.get(component_id)
        if component is None:
            raise Refusal("The library does not have that part any more.")
        for inner in (*needs(state.document, component), component):
            parts.setdefault(inner.id, inner)
    return tuple(parts.values())


def take_in(
    document: Document,
    state: LibraryState,
    component_ids: Iterable[str],
    bases: Mapping[str, Component] | None,
    picks: Picks | None = None,
) -> TakenIn:
    """The file with these components as the library has them, and all that they need.

    `bases` are, of parts that are worked on in this file, what the library had when the work
    began (see `Connection.bases`); None leaves such parts as they are. Raises Refusal.
    """
    parts = needed(state, component_ids)
    if bases is None:
        parts = tuple(part for part in parts if not _is_own(document, part.id))
        bases = {}
    theirs = _with_parts(document, state, parts)
    base = _base(document, state, parts, bases)
    merged = merge(base, document, theirs, picks)
    ids = {part.id for part in parts}
    changed = {i for i in ids if merged.document.components.get(i) != document.components.get(i)}
    settlement = settled(document, merged.document, changed)
    news_of_parts = tuple(
        News(part.id, part.name, _version_of(document, part.id), state.version(part.id))
        for part in parts
        if part.id in changed or _version_of(document, part.id) != state.version(part.id)
    )
    return TakenIn(settlement.document, news_of_parts, settlement.set_aside, merged.disagreements)


def _is_own(document: Document, component_id: str) -> bool:
    """Whether a file has a component that it did not take in read-only."""
    read_only = document.sharing.read_only(component_id)
    return component_id in document.components and not read_only


def _version_of(document: Document, component_id: str) -> str:
    origin = document.sharing.origins.get(component_id)
    return origin.version if origin is not None else ""


def _with_parts(document: Document, state: LibraryState, parts: tuple[Component, ...]) -> Document:
    """The file as it would be if it had nothing of its own in these parts."""
    library, source = state.library, state.document
    components, order = document.components, list(document.component_order)
    sharing = document.sharing
    origins, token_origins = sharing.origins, sharing.tokens
    for part in parts:
        if part.id in document.screens:
            raise Refusal(f"“{part.name}” cannot be taken in: a screen has its id.")
        old = origins.get(part.id)
        if old is not None and old.library != library.id:
            elsewhere = sharing.library(old.library)
            library_name = elsewhere.name if elsewhere is not None else "another library"
            raise Refusal(
                f"“{part.name}” comes from “{library_name}” in this file. Make it your own first."
            )
        if part.id not in components:
            order.append(part.id)
        # What is here and came from nowhere is this file's own work.
        own = old.own if old is not None else part.id in components
        origins = origins.set(
            part.id, Origin(library.id, state.version(part.id), state.commit, own)
        )
        components = components.set(part.id, part)
    tokens = document.tokens
    for path, token in tokens_needed(source, parts).items():
        tokens = tokens.set(path, token)
        token_origins = token_origins.set(path, TokenOrigin(library.id, token))
    modes = tuple(dict.fromkeys((*document.modes, *source.modes)))
    assets = _needed_assets(source, parts)
    return msgspec.structs.replace(
        document,
        components=components,
        component_order=tuple(order),
        tokens=tokens,
        modes=modes,
        assets=document.assets.update(assets),
        sharing=msgspec.structs.replace(
            sharing,
            origins=origins,
            tokens=token_origins,
            libraries=with_library(sharing.libraries, library),
        ),
    )


def with_library(libraries: tuple[Library, ...], library: Library) -> tuple[Library, ...]:
    """The libraries with one more, or with what one is called and where it is now."""
    updated = [library if old.id == library.id else old for old in libraries]
    return tuple(updated) if library in updated else (*updated, library)


def _needed_assets(source: Document, parts: tuple[Component, ...]) -> dict[str, Asset]:
    """The pictures that parts show, and the fonts that they are set in."""
    only = msgspec.structs.replace(
        source,
        components=Map({part.id: part for part in parts}),
        component_order=tuple(part.id for part in parts),
    )
    families_used = families(only) | {
        token.value for token in tokens_needed(source, parts).values() if token.kind == "family"
    }
    fonts = {font.key: font for font in carried(source.assets)}
    return {
        digest: asset
        for digest, asset in assets_in_use(only).items()
        if digest not in fonts or fonts[digest].described.family in families_used
    }


def _base(
    document: Document,
    state: LibraryState,
    parts: tuple[Component, ...],
    bases: Mapping[str, Component],
) -> Document:
    """The file as it was when what is worked on here began."""
    components = document.components
    order = document.component_order
    for part in parts:
        if _is_own(document, part.id):
            began = bases.get(part.id)
            if began is not None:
                components = components.set(part.id, began)
            else:
                components = components.delete(part.id)
                order = tuple(i for i in order if i != part.id)
    tokens = document.tokens
    for path, token in tokens_needed(state.document, parts).items():
        taken_from = document.sharing.tokens.get(path)
        if path not in tokens:
            continue
        # Where nobody knows what it was, what the file says of it counts.
        is_ours = taken_from is not None and taken_from.library == state.library.id
        before = taken_from.token if taken_from is not None and is_ours else token
        tokens = tokens.set(path, before)
    return msgspec.structs.replace(
        document, components=components, component_order=order, tokens=tokens
    )
