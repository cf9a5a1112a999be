"""Which cues listen at a node: those of its own component, and those of all its holders."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from outgrowth.core.document.cues import Behaviour, Cue, Motion, Path
from outgrowth.core.document.records import Component, Document, Owner
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import all_instances, scene_at

_TIMED = ("appear", "delay")


class Heard(NamedTuple):
    """A cue, the instance (or running owner) that has it, and its place in the order there."""

    owner: Path
    cue: Cue
    order: int


class Listening:
    """The cues of a running scene. `top` is what runs: a component or a screen."""

    def __init__(self, document: Document, top: Owner) -> None:
        self._document = document
        self._top = top
        self._watched_in = ByIdentity(self._find_watched, 4096)
        self._timed_in = ByIdentity(self._find_timed, 4096)
        self._silences = any(c.behaviour.silenced for c in document.components.values())
        self._silences = self._silences or bool(top.behaviour.silenced)
        self._spoken_of = _parts_spoken_of([top, *document.components.values()])

    def at(self, scene: SceneNode, node: Path, kind: str) -> list[Heard]:
        """The cues of a kind that listen at a node, the innermost owner's first."""
        found = []
        for owner_path, owner in self._owners(scene, node):
            relative = _spoken(owner, node[len(owner_path) :])
            for order, cue in enumerate(owner.behaviour.cues):
                if cue.trigger.kind == kind and _spoken(owner, cue.node) == relative:
                    heard = Heard(owner_path, cue, order)
                    if not self._silenced(scene, heard):
                        found.append(heard)
        return found

    def timed(self, scene: SceneNode) -> list[Heard]:
        """The cues that act by themselves and whose node is shown, in tree order."""
        found = [Heard((), cue, n) for n, cue in enumerate(self._top.behaviour.cues)]
        found = [h for h in found if h.cue.trigger.kind in _TIMED]
        # A component that runs by itself is its scene's root instance too, and is in already.
        alone = isinstance(self._top, Component)
        found += [h for h in self._timed_in(scene) if h.owner or not alone]
        shown = []
        for heard in found:
            owner = self._owner(scene, heard.owner)
            spoken = _spoken(owner, heard.cue.node) if owner is not None else ()
            if scene_at(scene, (*heard.owner, *spoken)) is not None:
                shown.append(heard)
        return [heard for heard in shown if not self._silenced(scene, heard)]

    def watched(self, scene: SceneNode) -> list[tuple[Path, str]]:
        """The axes that somebody waits for to become something: (instance path, axis id)."""
        found = [(cue.node, cue.trigger.axis) for cue in _becoming(self._top)]
        spoken = [(_spoken(self._top, node), axis) for node, axis in found]
        return [*spoken, *self._watched_in(scene)]

    def _find_watched(self, scene: SceneNode) -> list[tuple[Path, str]]:
        found = []
        for path, node in all_instances(scene):
            component = self._document.components.get(node.component)
            for cue in _becoming(component) if component is not None else ():
                spoken = _spoken(component, cue.node) if component is not None else ()
                found.append(((*path, *spoken), cue.trigger.axis))
        return found

    def motion_of_part(self, scene: SceneNode, node: Path, name: str) -> Motion | None:
        """A motion that an owner gives to one node or property; the outermost one's wins."""
        found = None
        if not self._spoken_of & {"", *node[-1:]}:
            return None
        for owner_path, owner in self._owners(scene, node):
            relative = _spoken(owner, node[len(owner_path) :])
            for part in owner.behaviour.motions:
                if _spoken(owner, part.node) == relative and part.property in ("", name):
                    found = part.motion
        return found

    def _owners(self, scene: SceneNode, node: Path) -> Iterator[tuple[Path, Owner]]:
        """What may speak about a node: the instances on the way to it, innermost first."""
        for k in range(len(node), 0, -1):
            owner = self._owner(scene, node[:k])
            if owner is not None:
                yield node[:k], owner
        yield (), self._top

    def _owner(self, scene: SceneNode, path: Path) -> Owner | None:
        if not path:
            return self._top
        found = scene_at(scene, path)
        return self._document.components.get(found.component) if found is not None else None

    def _silenced(self, scene: SceneNode, heard: Heard) -> bool:
        if not self._silences or not heard.owner:
            return False
        for k in range(len(heard.owner)):
            owner = self._owner(scene, heard.owner[:k])
            silenced = owner.behaviour.silenced if owner is not None else ()
            if any(s.path == heard.owner[k:] and s.cue == heard.cue.id for s in silenced):
                return True
        return False

    def _find_timed(self, scene: SceneNode) -> list[Heard]:
        found = []
        for path, node in all_instances(scene):
            behaviour = self._behaviour(node)
            for n, cue in enumerate(behaviour.cues):
                if cue.trigger.kind in _TIMED:
                    found.append(Heard(path, cue, n))
        return found

    def _behaviour(self, node: SceneNode) -> Behaviour:
        component = self._document.components.get(node.component)
        return component.behaviour if component is not None else Behaviour()


def _parts_spoken_of(owners: list[Owner]) -> set[str]:
    """The ids of all nodes that any owner gives a motion of their own; "" for its root."""
    return {
        part.node[-1] if _spoken(owner, part.node) else ""
        for owner in owners
        for part in owner.behaviour.motions
    }


def _becoming(owner: Owner) -> list[Cue]:
    return [cue for cue in owner.behaviour.cues if cue.trigger.kind == "became"]


def _spoken(owner: Owner, node: Path) -> Path:
    """A node's path as it is compared: the owner's root by nothing, not by its id."""
    return () if node == (owner.root.id,) else node
