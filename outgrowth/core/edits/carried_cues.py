"""What parts do, taken along when they are copied: the cues that listen at them, the motions
of their own, and the cues that they go without."""

from __future__ import annotations

from collections.abc import Callable, Container, Mapping

import msgspec

from outgrowth.core.document.cues import HOLDER, Behaviour, Change, Cue, Path
from outgrowth.core.document.records import Document, Owner
from outgrowth.core.edits.cues import add_cue
from outgrowth.core.edits.tree.trees import owner_of, with_owner
from outgrowth.core.refusal import Refusal


def behaviour_of(owner: Owner, nodes: Container[str]) -> Behaviour:
    """What of an owner's behaviour belongs to some nodes of its tree, by their ids."""

    def belongs(path: Path) -> bool:
        return bool(path) and path[0] in nodes

    behaviour = owner.behaviour
    return Behaviour(
        tuple(cue for cue in behaviour.cues if belongs(cue.node)),
        tuple(silence for silence in behaviour.silenced if belongs(silence.path)),
        tuple(part for part in behaviour.motions if belongs(part.node)),
        leads=tuple(path for path in behaviour.leads if belongs(path)),
    )


def with_behaviour(
    document: Document,
    owner_id: str,
    behaviour: Behaviour,
    ids: Mapping[str, str],
    at_home: bool,
    new_id: Callable[[], str],
) -> Document:
    """The document in which copies of nodes (`ids`: the copy's by the original's) do what these
    did. `at_home`: in the owner that they come from, so that what else a cue names is there too;
    elsewhere it does what it still can, and a cue that can do nothing stays behind."""
    for cue in behaviour.cues:
        copied = _copied(cue, ids, at_home) if cue.node[0] in ids else None
        if copied is not None:
            named = msgspec.structs.replace(copied, id=new_id())
            document = _with_possible(document, owner_id, named)
    return _with_own(document, owner_of(document, owner_id), behaviour, ids)


def _with_own(
    document: Document, owner: Owner, behaviour: Behaviour, ids: Mapping[str, str]
) -> Document:
    """The document in which the copies have the motions of their own, go without cues, and move
    with their holder, as the originals."""
    changed = msgspec.structs.replace
    here = [silence for silence in behaviour.silenced if silence.path[0] in ids]
    silenced = [changed(silence, path=_moved(silence.path, ids)) for silence in here]
    parts = [part for part in behaviour.motions if part.node[0] in ids]
    motions = [changed(part, node=_moved(part.node, ids)) for part in parts]
    leads = [_moved(path, ids) for path in behaviour.leads if path[0] in ids]
    if not (silenced or motions or leads):
        return document
    before = owner.behaviour
    now = changed(
        before,
        silenced=(*before.silenced, *silenced),
        motions=(*before.motions, *motions),
        leads=(*before.leads, *leads),
    )
    return with_owner(document, changed(owner, behaviour=now))


def _moved(path: Path, ids: Mapping[str, str]) -> Path:
    return (ids.get(path[0], path[0]), *path[1:]) if path else path


def _copied(cue: Cue, ids: Mapping[str, str], at_home: bool) -> Cue | None:
    """The cue of the copies; None where it asks for what stays behind."""

    def stays(path: Path) -> bool:
        return at_home or not path or path == (HOLDER,) or path[0] in ids

    if not all(stays(condition.at) for condition in cue.conditions):
        return None
    changes = [c for c in cue.changes if stays(c.at)]
    return msgspec.structs.replace(
        cue,
        node=_moved(cue.node, ids),
        changes=tuple(msgspec.structs.replace(c, at=_moved(c.at, ids)) for c in changes),
        conditions=tuple(msgspec.structs.replace(c, at=_moved(c.at, ids)) for c in cue.conditions),
    )


def _with_possible(document: Document, owner_id: str, cue: Cue) -> Document:
    """The document with a cue, as much of it as can be done there."""

    def attempt(changes: tuple[Change, ...]) -> Document | None:
        try:
            return add_cue(document, owner_id, msgspec.structs.replace(cue, changes=changes))
        except Refusal:
            return None

    possible = tuple(change for change in cue.changes if attempt((change,)) is not None)
    return (possible and attempt(possible)) or document
