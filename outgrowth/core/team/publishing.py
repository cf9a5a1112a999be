"""Publishing components of a file: what goes out, as which version, and what it would change.

What somebody else published meanwhile is merged with it. Nothing is published while both say
different things of one thing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from datetime import UTC, datetime
from types import MappingProxyType
from typing import Literal, NamedTuple

import msgspec

from outgrowth.core.document.records import Component, DesignToken, Document
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.edits.clipping import needs, tokens_needed
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.difference import Difference, differences, level
from outgrowth.core.team.library import CHANGELOG, LibraryReader, LibraryState, written
from outgrowth.core.team.merge import Disagreement, Picks, merge
from outgrowth.core.team.store import LibraryRefusal, NothingNew, PickNeeded, Progress, Signature
from outgrowth.core.team.taking import take_in, with_library
from outgrowth.core.team.versions import FIRST, Level, next_version

TRIES = 5
"""How often somebody else may be first before publishing gives up."""


class PartToPublish(NamedTuple):
    """A component that a publication changes.

    old       the version in the library, "" for a new one
    proposed  the level that its differences ask for
    version   the version it gets
    changes   what differs from the library
    along     that it was not chosen, but is needed, or shows a token that changes
    """

    component: str
    name: str
    old: str
    proposed: Level
    version: str
    changes: tuple[Difference, ...]
    along: bool = False


class PublishingPlan(NamedTuple):
    """What publishing would do to a library.

    state          the library that it is put on top of
    document       what the library would hold
    parts          the components that get a new version
    tokens         the paths of tokens that are new or become another value
    sent           the components of the file that go out, chosen or needed
    disagreements  where the library went on otherwise
    """

    state: LibraryState
    document: Document
    parts: tuple[PartToPublish, ...]
    tokens: tuple[str, ...]
    sent: tuple[str, ...]
    disagreements: tuple[Disagreement, ...] = ()


class Request(NamedTuple):
    """What is to be published: components by their ids, what the library had when their work
    began, which levels are wanted other than proposed, and what was picked in disagreements."""

    document: Document
    components: tuple[str, ...]
    bases: Mapping[str, Component]
    levels: Mapping[str, Level] = MappingProxyType({})
    picks: Picks = MappingProxyType({})


Wording = Callable[[PublishingPlan, Difference], str]
"""Says a difference in words, for the changelog."""


def changed_here(
    document: Document, state: LibraryState, bases: Mapping[str, Component]
) -> tuple[str, ...]:
    """Ids of the file's own components that were changed here since the library had them, or that
    it has not at all."""
    return tuple(
        component.id
        for component in document.in_order()
        if _is_changed_here(document, state, bases, component)
    )


def _is_changed_here(
    document: Document,
    state: LibraryState,
    bases: Mapping[str, Component],
    component: Component,
) -> bool:
    origin = document.sharing.origins.get(component.id)
    if origin is None:
        return state.document.components.get(component.id) != component
    if not origin.own or origin.library != state.library.id:
        return False
    if bases.get(component.id, state.document.components.get(component.id)) != component:
        return True
    token_origins, library_tokens = document.sharing.tokens, state.document.tokens
    for path, token in tokens_needed(document, [component]).items():
        before = token_origins[path].token if path in token_origins else library_tokens.get(path)
        if token != before:
            return True
    return False


def plan(request: Request, state: LibraryState) -> PublishingPlan:
    """What publishing would do to a library as it is now.

    Raises Refusal where something needed cannot go along, LibraryRefusal.
    """
    chosen = _with_needs(request, state)
    ours = _ours(request, state, chosen)
    merged = merge(_base(request, state, chosen), ours, state.document, request.picks)
    tokens = _changed_tokens(state.document, merged.document)
    going = (
        _going(request, state, component, merged.document, tokens)
        for component in merged.document.in_order()
    )
    sent = tuple(component.id for component in chosen)
    parts = tuple(part for part in going if part is not None)
    return PublishingPlan(state, merged.document, parts, tokens, sent, merged.disagreements)


def _going(
    request: Request,
    state: LibraryState,
    component: Component,
    merged: Document,
    tokens: tuple[str, ...],
) -> PartToPublish | None:
    """What becomes of one component of the library; None where nothing does."""
    old = state.document.components.get(component.id)
    changes = differences(old, component)
    if not changes and not set(tokens_needed(merged, [component])) & set(tokens):
        return None
    proposed, before, version = level(changes), "", FIRST
    if old is not None:
        before = state.version(component.id)
        version = next_version(before, request.levels.get(component.id, proposed))
    along = component.id not in request.components
    return PartToPublish(component.id, component.name, before, proposed, version, changes, along)


def publish(
    request: Request,
    reader: LibraryReader,
    message: str,
    signature: Signature,
    wording: Wording,
    progress: Progress,
) -> PublishingPlan:
    """Puts a new version of components into a library; the plan as it was carried out, with the
    state that came of it.

    Raises LibraryRefusal where nothing was published: PickNeeded where somebody else changed the
    same (`plan` says what there is to pick), NothingNew where the library has all of it.
    """
    store = reader.store
    state = reader.refreshed(progress)
    for attempt in range(1, TRIES + 1):
        if attempt < TRIES:
            carried_out = _try(request, reader, state, message, signature, wording)
        else:
            with store.alone():
                carried_out = _try(
                    request, reader, reader.refreshed(progress), message, signature, wording
                )
        if carried_out is not None:
            return carried_out
        progress("Somebody else published meanwhile; both are being brought together …")
        state = reader.refreshed(progress)
    raise LibraryRefusal(
        f"Somebody else was first {TRIES} times. Nothing was published; try again."
    )


def _try(
    request: Request,
    reader: LibraryReader,
    state: LibraryState,
    message: str,
    signature: Signature,
    wording: Wording,
) -> PublishingPlan | None:
    going = plan(request, state)
    if any(changes.key not in request.picks for changes in going.disagreements):
        raise PickNeeded(
            "Somebody else published other changes of the same part. Pick what counts; nothing was "
            "published."
        )
    if not going.parts and not going.tokens:
        raise NothingNew("The library has all of this already; there is nothing to publish.")
    versions = {**state.versions, **{part.component: part.version for part in going.parts}}
    changelog = _changelog(reader, going, message, signature, wording)
    files = written(state, going.document, versions, changelog)
    commit = reader.store.append(
        state.commit, files, _commit_message(going, message, wording), signature
    )
    return None if commit is None else going._replace(state=reader.state_at(commit))


def _commit_message(going: PublishingPlan, message: str, wording: Wording) -> str:
    title = "Publish " + _enumerated([f"{part.name} {part.version}" for part in going.parts])
    reasons = "\n".join(
        f"{part.name} {part.version}: {line}"
        for part in going.parts
        for line in _lines(going, part, wording)
    )
    return "\n\n".join(text for text in (title, message.strip(), reasons) if text) + "\n"


def _enumerated(names: list[str]) -> str:
    few = names if len(names) <= 4 else [*names[:3], f"{len(names) - 3} more"]
    return ", ".join(few) or "tokens"


def _lines(going: PublishingPlan, part: PartToPublish, wording: Wording) -> list[str]:
    if not part.old:
        return ["new"]
    sentences = [wording(going, difference) for difference in part.changes[:12]]
    more = len(part.changes) - len(sentences)
    lines = [*sentences, *([f"and {more} more"] if more > 0 else [])]
    component = going.document.components[part.component]
    tokens = sorted(set(tokens_needed(going.document, [component])) & set(going.tokens))
    return lines + [f"the token {path} is another" for path in tokens]


def _changelog(
    reader: LibraryReader,
    going: PublishingPlan,
    message: str,
    signature: Signature,
    wording: Wording,
) -> str:
    """The changelog with this publication first."""
    heading = "# What was published\n"
    old = ""
    files = reader.store.files(going.state.commit)
    if CHANGELOG in files:
        old = reader.store.read(files[CHANGELOG].blob).decode("utf-8", "replace")
        old = old.removeprefix(heading)
    day = datetime.fromtimestamp(signature.when, UTC).strftime("%Y-%m-%d")
    name = signature.author.partition(" <")[0]
    lines = [f"\n## {day}, {name}\n"]
    if message.strip():
        lines.append(f"{message.strip()}\n")
    for part in going.parts:
        lines.append(f"- **{part.name} {part.version}**")
        lines += [f"  - {line}" for line in _lines(going, part, wording)]
    return heading + "\n".join(lines) + "\n" + old


def _with_needs(request: Request, state: LibraryState) -> tuple[Component, ...]:
    """The chosen components and those that have to go along: what they hold and the library has
    not, or has not as it was changed here. Raises Refusal for what cannot."""
    document = request.document
    chosen: dict[str, Component] = {}
    refused: dict[str, None] = {}
    for component_id in request.components:
        component = _publishable(document, component_id)
        for inner in needs(document, component):
            fate = _fate(request, state, inner)
            if fate == "refused":
                refused[inner.name] = None
            elif fate == "along":
                chosen[inner.id] = inner
        chosen[component_id] = component
    if refused:
        names = ", ".join(f"“{name}”" for name in refused)
        raise Refusal(
            f"{names} cannot go along: it comes from another library, or was taken out of this "
            "one. Make it your own first."
        )
    return tuple(chosen.values())


def _publishable(document: Document, component_id: str) -> Component:
    component = document.components.get(component_id)
    if component is None:
        raise Refusal("A part that was chosen is not in this file any more.")
    if document.sharing.read_only(component_id):
        raise Refusal(
            f"“{component.name}” was taken in and is read-only here: there is nothing of yours "
            "to publish."
        )
    return component


def _fate(
    request: Request, state: LibraryState, inner: Component
) -> Literal["along", "refused", "there"]:
    """Whether a needed part goes along, cannot, or is in the library as it is needed."""
    origin = request.document.sharing.origins.get(inner.id)
    library_part = state.document.components.get(inner.id)
    is_ours = origin is None or origin.own
    if origin is not None and origin.library != state.library.id:
        return "refused"
    if library_part is None:
        return "along" if is_ours else "refused"
    changed = inner != request.bases.get(inner.id, library_part)
    return "along" if is_ours and changed else "there"


def _base(request: Request, state: LibraryState, chosen: Iterable[Component]) -> Document:
    """The library as it was, in the chosen parts, when their work began."""
    document = state.document
    components, tokens = document.components, document.tokens
    for component in chosen:
        began = request.bases.get(component.id)
        if began is not None:
            components = components.set(component.id, began)
        elif component.id in components:
            components = components.delete(component.id)
    for path in tokens_needed(request.document, chosen):
        token_origins = request.document.sharing.tokens.get(path)
        if token_origins is not None and token_origins.library == state.library.id:
            tokens = tokens.set(path, token_origins.token)
        elif path in tokens:
            tokens = tokens.delete(path)
    return _with(document, components, tokens)


def _ours(request: Request, state: LibraryState, chosen: tuple[Component, ...]) -> Document:
    document = request.document
    components, order = state.document.components, [*state.document.component_order]
    for component in chosen:
        if component.id not in components:
            order.append(component.id)
        components = components.set(component.id, component)
    tokens = state.document.tokens.update(tokens_needed(document, chosen))
    ours = _with(state.document, components, tokens, tuple(order))
    modes = tuple(dict.fromkeys((*state.document.modes, *document.modes)))
    used = {mode for token in tokens.values() for mode in token.modes}
    modes = tuple(mode for mode in modes if mode in used or mode in state.document.modes)
    assets = state.document.assets.update(document.assets)
    ours = msgspec.structs.replace(ours, modes=modes, assets=assets)
    return msgspec.structs.replace(ours, assets=type(assets)(assets_in_use(ours)))


def _with(
    document: Document,
    components: Mapping[str, Component],
    tokens: Mapping[str, DesignToken],
    order: tuple[str, ...] | None = None,
) -> Document:
    listing = document.component_order if order is None else order
    return msgspec.structs.replace(
        document,
        components=components,
        component_order=tuple(i for i in listing if i in components),
        tokens=tokens,
    )


def _changed_tokens(before: Document, after: Document) -> tuple[str, ...]:
    return tuple(
        sorted(path for path, token in after.tokens.items() if before.tokens.get(path) != token)
    )


def published(document: Document, carried_out: PublishingPlan, request: Request) -> Document:
    """The file after its parts were published: they are tied to the library at their new
    versions, and worked on here from there."""
    changed = (part.component for part in carried_out.parts)
    ids = [i for i in dict.fromkeys((*carried_out.sent, *changed)) if i in document.components]
    ids = [i for i in ids if not document.sharing.read_only(i)]
    # Of what went out, the library has what was made of it: that is where the work goes on from.
    bases = dict(request.bases)
    bases |= {i: request.document.components[i] for i in carried_out.sent}
    document = msgspec.structs.replace(
        document,
        sharing=msgspec.structs.replace(
            document.sharing,
            libraries=with_library(document.sharing.libraries, carried_out.state.library),
        ),
    )
    return take_in(document, carried_out.state, ids, bases).document
