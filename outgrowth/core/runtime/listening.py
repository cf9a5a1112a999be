"""Which cues listen at a node: those of its own component, and those of all its holders."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

from outgrowth.core.document.cues import HOLDER, LONG_PRESS_MS, Cue, Motion, Path
from outgrowth.core.document.records import Component, Document, Node, Owner, walk
from outgrowth.core.document.referring import settled, waiting_time
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import scene_at

OwnerAt = Callable[[Path], Owner | None]
"""The component of the instance at a path, shown or not; the running owner itself for ()."""


def owners_in(document: Document, top: Owner, scene: SceneNode) -> OwnerAt:
    """The owners by the paths at which they stand in a scene."""

    def owner_at(path: Path) -> Owner | None:
        if not path:
            return top
        node = scene_at(scene, path)
        return document.components.get(node.component) if node is not None else None

    return owner_at


def meant(owner: Path, path: Path) -> Path:
    """The instance that an owner's cue means by a path: from the owner in, or what holds it."""
    return owner[:-1] if path == (HOLDER,) else (*owner, *path)


class Heard(NamedTuple):
    """A cue, the instance (or running owner) that has it, and its place in the order there."""

    owner: Path
    cue: Cue
    order: int

    @property
    def key(self) -> tuple[Path, str]:
        """What tells it from any other cue of any part."""
        return self.owner, self.cue.id


class Listening:
    """The cues of a running document. `top` is what runs: a component or a screen."""

    def __init__(self, document: Document, top: Owner, owner_at: OwnerAt) -> None:
        self._owner_at = owner_at
        self._document = document
        owners = [top, *document.components.values()]
        kinds = {cue.trigger.kind for owner in owners for cue in owner.behaviour.cues}
        self.becoming = "became" in kinds
        self.timed_owners = frozenset(owner.id for owner in owners if _is_timed(owner))
        self.timed = bool(self.timed_owners)
        self.tells_holder = any(
            cue.trigger.kind == "delay"
            and any(c.at == (HOLDER,) for c in (*cue.changes, *cue.conditions))
            for owner in owners
            for cue in owner.behaviour.cues
        )
        self.hides = any(_hides_parts(owner) for owner in owners)
        self._kinds = kinds
        self._silences = any(owner.behaviour.silenced for owner in owners)
        self._spoken_of = _parts_spoken_of(owners)

    def cues_at(self, node: Path, kind: str) -> list[Heard]:
        """The cues of a kind that listen at a node, the innermost owner's first."""
        if kind not in self._kinds:
            return []
        results = []
        for owner_path, owner in self._owners(node):
            relative = spoken(owner, node[len(owner_path) :])
            for order, cue in enumerate(owner.behaviour.cues):
                if cue.trigger.kind == kind and spoken(owner, cue.node) == relative:
                    heard = Heard(owner_path, cue, order)
                    if not self._silenced(heard):
                        results.append(heard)
        return results

    def long_press_time(self, chain: Sequence[Path]) -> float:
        """How long something has to be held down (ms): what the innermost node says that listens
        for it."""
        for node in reversed(chain):
            for heard in self.cues_at(node, "long-press"):
                return waiting_time(heard.cue.trigger, self._document.token)
        return LONG_PRESS_MS

    def own(self, path: Path, kind: str) -> list[Heard]:
        """The cues of a kind that the instance at a path has, wherever in it they listen."""
        owner = self._owner_at(path)
        cues = enumerate(owner.behaviour.cues) if owner is not None else ()
        heard_here = [Heard(path, cue, n) for n, cue in cues if cue.trigger.kind == kind]
        return [heard for heard in heard_here if not self._silenced(heard)]

    def node_of(self, heard: Heard) -> Path:
        """The path of the node at which a cue listens."""
        owner = self._owner_at(heard.owner)
        return (*heard.owner, *(spoken(owner, heard.cue.node) if owner is not None else ()))

    def motion_of_part(self, node: Path, name: str) -> Motion | None:
        """A motion that an owner gives to one node or property; the outermost one's wins."""
        motion = None
        if not self._spoken_of & {"", *node[-1:]}:
            return None
        for owner_path, owner in self._owners(node):
            relative = spoken(owner, node[len(owner_path) :])
            for part in owner.behaviour.motions:
                if spoken(owner, part.node) == relative and part.property in ("", name):
                    motion = part.motion
        return settled(motion, self._document.token) if motion is not None else None

    def _owners(self, node: Path) -> Iterator[tuple[Path, Owner]]:
        """What may speak about a node: the instances on the way to it, innermost first."""
        for k in range(len(node), -1, -1):
            owner = self._owner_at(node[:k])
            if owner is not None:
                yield node[:k], owner

    def _silenced(self, heard: Heard) -> bool:
        if not self._silences or not heard.owner:
            return False
        for k in range(len(heard.owner)):
            owner = self._owner_at(heard.owner[:k])
            silenced = owner.behaviour.silenced if owner is not None else ()
            if any(s.path == heard.owner[k:] and s.cue == heard.cue.id for s in silenced):
                return True
        return False


def _is_timed(owner: Owner) -> bool:
    """Whether an owner does something by itself, after a time or as soon as it is seen."""
    return any(cue.trigger.kind in ("appear", "delay") for cue in owner.behaviour.cues)


def _parts_spoken_of(owners: list[Owner]) -> set[str]:
    """The ids of all nodes that any owner gives a motion of their own; "" for its root."""
    return {
        part.node[-1] if spoken(owner, part.node) else ""
        for owner in owners
        for part in owner.behaviour.motions
    }


def spoken(owner: Owner, node: Path) -> Path:
    """A node's path as it is compared: the owner's root by nothing, not by its id."""
    return () if node == (owner.root.id,) else node


def _tree_hides(root: Node) -> bool:
    return any(
        "shown" in node.style or any(rule.property == "shown" for rule in node.overrides)
        for node in walk(root)
    )


def _hides(owner: Owner) -> bool:
    """Whether an owner may have parts that are not shown."""
    rules = owner.rules if isinstance(owner, Component) else ()
    return _tree_hides(owner.root) or any(rule.property == "shown" for rule in rules)


_hides_parts = ByIdentity(_hides, 4096)
