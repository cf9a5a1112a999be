"""What the keyboard reaches: the order of focus, and what keys do to parts of each role.

Source: WAI-ARIA Authoring Practices, the patterns for button, link, checkbox, switch, radio
group, tabs and disclosure, and its chapter on a keyboard interface (one stop for a group).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from outgrowth.core.document.axis_parts import focus_axes, pointer_part, reads_yes
from outgrowth.core.document.cues import TRIGGER_ROWS, Path
from outgrowth.core.document.records import Component, Owner, walk
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import line_to
from outgrowth.core.runtime.situation import Situation

TAPPED_BY: dict[str, tuple[str, ...]] = {
    "none": ("Enter", " "),
    "button": ("Enter", " "),
    "switch": ("Enter", " "),
    "tab": ("Enter", " "),
    "link": ("Enter",),
    "checkbox": (" ",),
    "radio": (" ",),
    "textbox": (),
}
"""The keys that tap a part of a role; any other is tapped as one without a role."""

GROUPS = {"radiogroup": "radio", "tablist": "tab"}
"""Roles whose members are one stop of the focus, and that role of theirs."""

_STOPS = tuple(kind for kind, row in TRIGGER_ROWS.items() if row.stop)
_ACROSS = {"ArrowRight": 1, "ArrowLeft": -1}
_DOWN = {"ArrowDown": 1, "ArrowUp": -1}


def takes_keys(node: SceneNode) -> bool:
    """Whether a node's role says that keys go to it."""
    return is_stop(node.interaction.role)


def is_stop(role: str) -> bool:
    """Whether keys go to what has this role."""
    return role != "none" and role in TAPPED_BY


def tapped_by(role: str) -> tuple[str, ...]:
    """The keys that tap a part of a role."""
    return TAPPED_BY.get(role, TAPPED_BY["none"])


class FocusGroup(NamedTuple):
    """A box whose members the arrow keys go through, and how it flows."""

    role: str
    members: list[Path]
    down: bool = False
    mirrored: bool = False


def is_enabled(component: Component | None, node: SceneNode) -> bool:
    """Whether an instance takes the pointer and the focus: its enabled axis reads as yes, and
    no axis of the pointer is at a value that stands for disabled."""
    variant = node.variant
    if component is None or variant is None:
        return True
    for axis in component.axes:
        value = variant.get(axis.id, "")
        if axis.meaning == "enabled" and not reads_yes(axis, value):
            return False
        if pointer_part(axis, value) == "disabled":
            return False
    return True


def is_chosen(component: Component | None, node: SceneNode) -> bool:
    """Whether a member of a group is the chosen one: checked or selected."""
    for axis in component.axes if component is not None else ():
        if axis.meaning in ("checked", "selected"):
            return node.variant is not None and reads_yes(axis, node.variant.get(axis.id, ""))
    return False


class _Stop(NamedTuple):
    """A node that can have the focus, and the group that it is a member of."""

    path: Path
    node: SceneNode
    group: Path | None


class Focus:
    """Which part the keys go to, and where they go next. `left` is where it was when its part
    went away, or where somebody pressed on nothing that takes keys: Tab goes on from there."""

    def __init__(self, situation: Situation) -> None:
        self._situation = situation
        self.path: Path | None = None
        self.left: Path | None = None

    # --- the order ----------------------------------------------------------------------

    def stops(self) -> list[Path]:
        """Where Tab stops, in tree order; of a group, one of its members: the one that has the
        focus, else the chosen one, else the first."""
        # WAI-ARIA practices: one tab stop for a composite; arrow keys go inside it.
        stops = list(self._below(self._situation.target, (), (), self._situation.owner, None))
        groups: dict[Path, list[_Stop]] = {}
        for stop in stops:
            if stop.group is not None:
                groups.setdefault(stop.group, []).append(stop)
        entries = {path: self._entry(members) for path, members in groups.items()}
        return [s.path for s in stops if s.group is None or entries[s.group] == s.path]

    def _entry(self, members: list[_Stop]) -> Path:
        components = self._situation.document.components
        chosen = [s for s in members if is_chosen(components.get(s.node.component), s.node)]
        focused = [s for s in members if s.path == self.path]
        # The checked radio, or selected tab, is the stop of its group.
        return (focused or chosen or members)[0].path

    def _below(
        self,
        node: SceneNode,
        path: Path,
        instance: Path,
        owner: Owner | None,
        group: tuple[Path, str] | None,
    ) -> Iterator[_Stop]:
        """The stops at and beneath a node in the tree of `instance`, which follows `owner`;
        `group` is the innermost box around it that is one stop, and the role of its members."""
        component = self._situation.document.components.get(node.component)
        # What is disabled is out of the order, with all that is in it.
        if not is_enabled(component, node):
            return
        inner = self._inside(
            node, path, instance, component if path and node.component else owner, group
        )
        if self._is_stop(path, node, component, lambda: bool(inner)):
            member = group is not None and node.interaction.role == group[1]
            yield _Stop(path, node, group[0] if group is not None and member else None)
        yield from inner

    def _inside(
        self,
        node: SceneNode,
        path: Path,
        instance: Path,
        owner: Owner | None,
        group: tuple[Path, str] | None,
    ) -> list[_Stop]:
        """The stops beneath a node."""
        role = node.interaction.role
        inside = path if node.component else instance
        inner_group = (path, GROUPS[role]) if role in GROUPS else group
        stops: list[_Stop] = []
        for child_id, child in in_tree_order(node, owner):
            stops += self._below(child, (*inside, child_id), inside, owner, inner_group)
        return stops

    def _is_stop(
        self,
        path: Path,
        node: SceneNode,
        component: Component | None,
        holds_stops: Callable[[], bool],
    ) -> bool:
        """Whether a node can have the focus: by its role, or since it listens, if it is an instance
        or says what it is. One that only hears keys can, unless it has them from what it holds, or
        it hears but Escape, which is for what is around."""
        if takes_keys(node):
            return True
        if component is None and node.interaction.role == "none":
            return False
        if component is not None and focus_axes(component):
            return True
        listening = self._situation.listening
        if any(listening.cues_at(path, kind) for kind in _STOPS):
            return True
        keys = {heard.cue.trigger.key for heard in listening.cues_at(path, "key")}
        # Escape is for what is around: a dialog that hears it is no stop.
        return bool(keys - {"Escape"}) and not holds_stops()

    def can_have(self, path: Path) -> bool:
        """Whether a part is shown, enabled as all around it, and takes the focus."""
        if not self._is_alive(path):
            return False
        node = line_to(self._situation.target, path)[-1][1]
        component = self._situation.document.components.get(node.component)
        instance = path[:-1]

        def holds_stops() -> bool:
            owner = self._situation.owner_at(path if node.component else instance)
            return bool(self._inside(node, path, instance, owner, None))

        return self._is_stop(path, node, component, holds_stops)

    def innermost_of(self, chain: tuple[Path, ...]) -> Path | None:
        """The innermost node of a chain that can have the focus."""
        return next((path for path in reversed(chain) if self.can_have(path)), None)

    # --- going on -----------------------------------------------------------------------

    def next(self, step: int) -> Path | None:
        """Where Tab (1) or Shift+Tab (-1) goes; the ends lead to each other."""
        stops = self.stops()
        if not stops:
            return None
        if self.path in stops:
            # The ends meet: there is no browser around it to go on to.
            return stops[(stops.index(self.path) + step) % len(stops)]
        return stops[self._from_left(stops, step)]

    def leaves(self, step: int) -> bool:
        """Whether Tab would come around to the other end."""
        stops = self.stops()
        if not stops:
            return True
        if self.path in stops:
            return self.path == stops[0 if step < 0 else -1]
        return self.left is not None and self._from_left(stops, step) == (0 if step > 0 else -1)

    def _from_left(self, stops: list[Path], step: int) -> int:
        """Which stop comes next to where the focus was; the first or last of all if none."""
        edge = 0 if step > 0 else -1
        if self.left is None:
            return edge
        # HTML, 6.6.3 (sequential focus navigation starting point): from where the focus was lost.
        order = {path: n for n, path in enumerate(self._all_paths())}
        index = order.get(self.left)
        if index is None:
            return edge
        places = [order.get(path, -1) for path in stops]
        after = [n for n, place in enumerate(places) if (place - index) * step > 0]
        return (after[0] if step > 0 else after[-1]) if after else edge

    def _all_paths(self) -> Iterator[Path]:
        """The paths of all nodes in tree order, what is not shown too."""

        def below(node: SceneNode, path: Path, instance: Path) -> Iterator[Path]:
            yield path
            inside = path if node.component else instance
            for child_id, child in in_tree_order(node, self._situation.owner_at(inside)):
                yield from below(child, (*inside, child_id), inside)

        return below(self._situation.everything, (), ())

    def keep_alive(self) -> Path | None:
        """Gives up a focus whose part is gone or disabled; the path of that part."""
        if self.path is None or self._is_alive(self.path):
            return None
        self.left, self.path = self.path, None
        return self.left

    def _is_alive(self, path: Path) -> bool:
        components = self._situation.document.components
        line = line_to(self._situation.target, path)
        return bool(line) and all(is_enabled(components.get(n.component), n) for _, n in line)

    # --- groups -------------------------------------------------------------------------

    def group_of(self, path: Path) -> FocusGroup | None:
        """The group that a member stands in, and how its members follow each other."""
        target = self._situation.target
        holder = next(
            (
                (holder_path, node)
                for holder_path, node in reversed(line_to(target, path)[:-1])
                if node.interaction.role in GROUPS
            ),
            None,
        )
        if holder is None:
            return None
        holder_path, node = holder
        instance = holder_path if node.component else holder_path[:-1]
        owner = self._situation.owner_at(instance)
        below = self._below(node, holder_path, instance, owner, None)
        members = [stop.path for stop in below if stop.group == holder_path]
        if path not in members:
            return None
        flow = _box_of_all(target, members).layout.style
        return FocusGroup(node.interaction.role, members, flow.flow == "column", flow.mirrored)


def _box_of_all(target: SceneNode, members: list[Path]) -> SceneNode:
    """The innermost box that holds all members."""
    first, last = (line_to(target, path)[:-1] for path in (members[0], members[-1]))
    innermost = target
    for (path, node), (other, _) in zip(first, last, strict=False):
        if path == other:
            innermost = node
    return innermost


def stepped(group: FocusGroup, path: Path, key: str) -> Path | None:
    """The member that an arrow key, Home or End goes to; the ends lead to each other. In a
    tab list, only the arrows along it count, and Home and End."""
    index, count = group.members.index(path), len(group.members)
    across = {k: -n for k, n in _ACROSS.items()} if group.mirrored else _ACROSS
    # A radio group takes both pairs of arrows; a tab list only those along it.
    steps = across | _DOWN
    if group.role == "tablist":
        steps = _DOWN if group.down else across
        if key in ("Home", "End"):
            return group.members[0 if key == "Home" else -1]
    return group.members[(index + steps[key]) % count] if key in steps else None


def _order_of(owner: Owner) -> dict[str, int]:
    return {node.id: n for n, node in enumerate(walk(owner.root))}


_tree_order = ByIdentity(_order_of, 1024)


def in_tree_order(node: SceneNode, owner: Owner | None) -> list[tuple[str, SceneNode]]:
    """The children in the order of their owner's tree, wherever they are shown."""
    children = list(zip(node.ids, node.children, strict=True))
    if owner is not None and any(child.order for _, child in children):
        order = _tree_order(owner)
        children.sort(key=lambda pair: order.get(pair[0], len(order)))
    return children
