"""The rows of Layers: the tree of what is on the bench as a flat list, folds and search applied.

A node that the variant at hand does not show is in the list too, and says so.
"""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.properties import NodeKind
from outgrowth.core.document.records import Node, Path, find, lineage
from outgrowth.core.document.values import FromProperty
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.workspace.commands import naming_commands, style_commands
from outgrowth.workspace.text_search import has_words
from outgrowth.workspace.workspace import Workspace


class LayerRow(NamedTuple):
    """One row.

    path      of the node; () for the owner's root
    depth     how many nodes it lies in
    shown     whether the variant at hand shows it
    slot      whether it is an instance whose component is open to choice
    parent    whether it holds others
    folded    whether these are out of sight
    through   whether clicks go through it
    """

    path: Path
    name: str
    kind: NodeKind
    depth: int
    shown: bool
    slot: bool
    parent: bool
    folded: bool
    through: bool = False


class _MadeFrom(NamedTuple):
    """What decides the rows. Trees are compared by identity: equal ones are the same."""

    root: Node
    scene: SceneNode
    called: str
    folded: frozenset[tuple[str, str]]
    search: str

    def same(self, other: _MadeFrom) -> bool:
        return self.root is other.root and self.scene is other.scene and self[2:] == other[2:]


class LayerRows:
    """The rows of one workspace: `rows` are those that are shown, `current()` those that should
    be, which is the same list as long as nothing in it changed."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._folded: set[tuple[str, str]] = set()
        self._search = ""
        self._made_from: _MadeFrom | None = None
        # Invariant: numbers the rows of the very list that is beside it.
        self._numbers: tuple[list[LayerRow], dict[Path, int]] | None = None
        self.rows: list[LayerRow] = []

    def search(self, text: str) -> None:
        """Keeps to the rows whose names have this in them, and to what they lie in."""
        self._search = text.strip().lower()

    def fold(self, row: LayerRow) -> None:
        """Folds or unfolds what a row holds."""
        owner = self._workspace.owner
        if owner is not None and row.parent:
            self._folded ^= {(owner.id, row.path[-1] if row.path else owner.root.id)}

    def number_of(self, path: Path) -> int | None:
        """Which row a node has; a node inside an instance has that of the instance."""
        if self._numbers is None or self._numbers[0] is not self.rows:
            self._numbers = self.rows, {row.path: n for n, row in enumerate(self.rows)}
        return self._numbers[1].get(path[:1])

    def first_match(self) -> Path | None:
        """The first node whose name has what is searched for."""
        matches = (row.path for row in self.rows if has_words(row.name, self._search))
        return next(matches, None) if self._search else None

    def drop_target(self, before: int, onto: int | None) -> tuple[str, int] | None:
        """The box that a drop goes into, and before which of its children: `onto` a row, last
        into it; else before the row `before`."""
        owner = self._workspace.owner
        if owner is None:
            return None
        if onto is not None:
            row = self.rows[onto]
            box = find(owner.root, row.path[-1]) if row.path else owner.root
            return (box.id, len(box.children)) if box is not None else None
        if not 0 < before < len(self.rows):
            return owner.root.id, len(owner.root.children) if before else 0
        line = lineage(owner.root, self.rows[before].path[-1])
        return line[-2].id, line[-2].children.index(line[-1])

    def rename(self, row: LayerRow, name: str) -> bool:
        """Names the node of a row, the outermost as the component or screen that it is; whether it
        is called so now."""
        if name == row.name:
            return False
        owner, part = self._workspace.selection.owner, row.path[-1] if row.path else ""
        return naming_commands.rename_at(self._workspace, owner, part, name)

    def switch(self, path: Path, mark: str) -> None:
        """Shows or hides a node at the reach (“shown”), or lets clicks through (“through”)."""
        number = self.number_of(path)
        if number is None or self.rows[number].path != path:
            return
        row = self.rows[number]
        self._workspace.select(path)
        if mark == "shown":
            style_commands.set_style(self._workspace, {"shown": not row.shown})
        else:
            style_commands.set_style(self._workspace, {"click-through": not row.through})

    def current(self) -> list[LayerRow]:
        """The rows for the document, the folds and the search as they are now."""
        workspace = self._workspace
        owner = workspace.owner
        if owner is None:
            self._made_from = None  # what is shown then is not what was made from it
            return []
        view = workspace.engine.view(workspace.document, owner.id, workspace.selection.variant)
        made_from = _MadeFrom(
            owner.root, view.scene, owner.short_name, frozenset(self._folded), self._search
        )
        if self._made_from is not None and self._made_from.same(made_from):
            return self.rows
        self._made_from = made_from
        shown_ids = _own_ids(view.scene) | {owner.root.id}
        rows: list[LayerRow] = []
        self._add(rows, owner.root, 0, shown_ids)
        # The outermost part is the component or screen, and is called so.
        rows[0] = rows[0]._replace(name=owner.short_name)
        return _matching(rows, self._search) if self._search else rows

    def _add(self, rows: list[LayerRow], node: Node, depth: int, shown_ids: set[str]) -> None:
        folded = (self._workspace.selection.owner, node.id) in self._folded
        rows.append(
            LayerRow(
                path=(node.id,) if depth else (),
                name=node.name,
                kind=node.kind,
                depth=depth,
                shown=node.id in shown_ids,
                slot=isinstance(node.style.get("component"), FromProperty),
                parent=bool(node.children),
                folded=folded,
                through=node.style.get("click-through") is True,
            )
        )
        if not folded or self._search:
            for child in node.children:
                self._add(rows, child, depth + 1, shown_ids)


def _matching(rows: list[LayerRow], search: str) -> list[LayerRow]:
    """The rows that have the words, and those that they lie in."""
    matching: dict[int, LayerRow] = {}
    above: list[LayerRow] = []
    for row in rows:
        del above[row.depth :]
        above.append(row)
        if has_words(row.name, search):
            matching |= {id(upper): upper for upper in above}
    return list(matching.values())


def _own_ids(scene: SceneNode) -> set[str]:
    """Ids of the nodes that are shown, not looking into instances."""
    shown_ids: set[str] = set()
    stack = [scene]
    while stack:
        node = stack.pop()
        for child_id, child in zip(node.ids, node.children, strict=True):
            shown_ids.add(child_id)
            if not child.component:
                stack.append(child)
    return shown_ids
