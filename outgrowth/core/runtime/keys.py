"""What the keyboard reaches: the order of focus, and what keys do to parts of each role.

Source: WAI-ARIA Authoring Practices, the patterns for button, link, checkbox, switch, radio
group, tabs and disclosure, and its chapter on a keyboard interface (one stop for a group).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from outgrowth.core.document.cues import Path
from outgrowth.core.document.records import POINTER_VALUES, Component, Document
from outgrowth.core.document.variants import reads_yes
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import instances_in, line_to

TAPPED_BY: dict[str, tuple[str, ...]] = {
    "none": ("Enter", " "),
    "button": ("Enter", " "),
    "switch": ("Enter", " "),
    "tab": ("Enter", " "),
    "link": ("Enter",),
    "checkbox": (" ",),
    "radio": (" ",),
}
"""The keys that tap a part of a role."""

GROUPS = {"radiogroup": "radio", "tablist": "tab"}
"""Roles whose members are one stop of the focus, and that role of theirs."""

_STEPS = {"ArrowRight": 1, "ArrowDown": 1, "ArrowLeft": -1, "ArrowUp": -1}


def takes_keys(node: SceneNode) -> bool:
    """Whether a node's role says that keys tap it."""
    return node.interaction.role != "none" and node.interaction.role in TAPPED_BY


class Group(NamedTuple):
    """A box whose members the arrow keys go through."""

    role: str
    members: list[Path]


def enabled(component: Component | None, node: SceneNode) -> bool:
    """Whether an instance takes the pointer and the focus: its enabled axis reads as yes, and
    no driven axis is at a value that nothing drives."""
    variant = node.variant
    if component is None or variant is None:
        return True
    for axis in component.axes:
        value = variant.get(axis.id, "")
        if axis.meaning == "enabled" and not reads_yes(axis, value):
            return False
        if axis.driver == "pointer" and value not in POINTER_VALUES:
            return False
    return True


def chosen(component: Component | None, node: SceneNode) -> bool:
    """Whether a member of a group is the chosen one: checked or selected."""
    for axis in component.axes if component is not None else ():
        if axis.meaning in ("checked", "selected"):
            return node.variant is not None and reads_yes(axis, node.variant.get(axis.id, ""))
    return False


class Focus:
    """The order of focus in a scene. `takes` says whether an instance can have it."""

    def __init__(
        self,
        document: Document,
        scene: SceneNode,
        takes: Callable[[Path, SceneNode, Component], bool],
    ) -> None:
        self._document = document
        self._scene = scene
        self._takes = takes

    def stops(self) -> list[Path]:
        """Where Tab stops, in tree order; of a group, one of its members."""
        return list(self._below(self._scene, ()))

    def _below(self, node: SceneNode, path: Path) -> list[Path]:
        """The stops at and beneath a node; `path` is of the instance that it is in."""
        if node.component:
            component = self._document.components.get(node.component)
            if component is None or not enabled(component, node):
                return []
            if self._takes(path, node, component):
                return [path, *self._inner(node, path)]
        return self._inner(node, path)

    def _part(self, node: SceneNode, path: Path, instance: Path) -> list[Path]:
        """The same for a box: it is a stop if its role says that it takes keys."""
        own = [path] if takes_keys(node) else []
        return [*own, *self._inner(node, instance)]

    def _inner(self, node: SceneNode, instance: Path) -> list[Path]:
        if node.interaction.role in GROUPS:
            return self._one_of(node, instance)
        found: list[Path] = []
        for child_id, child in zip(node.ids, node.children, strict=True):
            path = (*instance, child_id)
            if child.component:
                found += self._below(child, path)
            else:
                found += self._part(child, path, instance)
        return found

    def _one_of(self, node: SceneNode, instance: Path) -> list[Path]:
        members = self._members(node, instance)
        for path, inner in members:
            if chosen(self._document.components.get(inner.component), inner):
                return [path]
        return [members[0][0]] if members else []

    def _members(self, node: SceneNode, instance: Path) -> list[tuple[Path, SceneNode]]:
        role = GROUPS[node.interaction.role]
        return [
            (path, inner)
            for path, inner in instances_in(node, instance)
            if inner.interaction.role == role
            and enabled(self._document.components.get(inner.component), inner)
        ]

    def group_of(self, path: Path) -> Group | None:
        """The group that a member stands in."""
        for at, node in reversed(line_to(self._scene, path)[:-1]):
            if node.interaction.role in GROUPS:
                inside = at if node.component else at[:-1]
                members = [member for member, _ in self._members(node, inside)]
                return Group(node.interaction.role, members) if path in members else None
        return None


def stepped(group: Group, path: Path, key: str) -> Path | None:
    """The member that an arrow key, Home or End goes to; the ends lead to each other. In a
    tab list, only the arrows along it count."""
    at = group.members.index(path)
    if key in _STEPS and not (group.role == "tablist" and key in ("ArrowUp", "ArrowDown")):
        return group.members[(at + _STEPS[key]) % len(group.members)]
    if group.role == "tablist" and key in ("Home", "End"):
        return group.members[0 if key == "Home" else -1]
    return None
