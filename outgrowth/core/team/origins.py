"""Parts of a file that come from a library: read-only here, worked on here, or our own."""

from __future__ import annotations

import msgspec
from immutables import Map

from outgrowth.core.document.records import Document
from outgrowth.core.document.sharing import Origin
from outgrowth.core.refusal import Refusal


def make_own(document: Document, component_id: str) -> Document:
    """The file with a part that comes from nowhere any more: its own, to be changed freely."""
    origins = document.sharing.origins
    if component_id not in origins:
        return document
    return _with_origins(document, origins.delete(component_id))


def leave(document: Document, library_id: str) -> Document:
    """The file without a library; what came from it stays, and is the file's own."""
    sharing = document.sharing
    return msgspec.structs.replace(
        document,
        sharing=msgspec.structs.replace(
            sharing,
            libraries=tuple(one for one in sharing.libraries if one.id != library_id),
            origins=Map({i: o for i, o in sharing.origins.items() if o.library != library_id}),
            tokens=Map({p: o for p, o in sharing.tokens.items() if o.library != library_id}),
        ),
    )


def work_here(document: Document, component_id: str) -> Document:
    """The file with a part that is worked on here and published from here. Raises Refusal for
    one that comes from no library."""
    origin = document.sharing.origins.get(component_id)
    if origin is None:
        raise Refusal("That part comes from no library; it is this file's own already.")
    own = msgspec.structs.replace(origin, own=True)
    return _with_origins(document, document.sharing.origins.set(component_id, own))


def _with_origins(document: Document, origins: Map[str, Origin]) -> Document:
    sharing = msgspec.structs.replace(document.sharing, origins=origins)
    return msgspec.structs.replace(document, sharing=sharing)


def refuse_read_only(before: Document, after: Document) -> None:
    """Raises Refusal where an edit changed a part that was taken in: it is worked on where it
    comes from."""
    if after.components is before.components:
        return
    for component_id in _changed(before, after):
        origin = after.sharing.origins.get(component_id)
        if origin is None or origin.own or before.sharing.origins.get(component_id) != origin:
            continue
        old, new = before.components.get(component_id), after.components.get(component_id)
        if old is not None and new is not None and new != old:
            library = after.sharing.library(origin.library)
            name = old.short_name
            raise Refusal(
                f"“{name}” comes from the library “{library.name if library else ''}” and is "
                "read-only here. Work on it here, or make it your own (Library, right click)."
            )


def _changed(before: Document, after: Document) -> list[str]:
    """Ids of the components that are other objects than before. Every edit asks: two maps of the
    same ids stand in the same order, so that one walk along both is enough."""
    old, new = before.components, after.components
    if len(old) == len(new):
        changed = [(i, j) for (i, a), (j, b) in zip(old.items(), new.items()) if a is not b]  # noqa: B905  # as long
        if all(i == j for i, j in changed):
            return [i for i, _ in changed]
    return [i for i, component in new.items() if old.get(i) is not component]
