"""What a drag of parts comes to when they are let go: moved, copied, or as twins that are shown
within the reach only."""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.document.records import Document, Node, lineage, walk
from outgrowth.core.edits.at_reach import can_differ, keep_to_reach
from outgrowth.core.edits.clipping import clipping, put_down
from outgrowth.core.edits.style import places
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace.commands import arrange_commands, create_commands, selection_commands
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.reaching import here, narrowed, reach_of
from outgrowth.workspace.workspace import Workspace


def makes_twins(workspace: Workspace, ids: Sequence[str], box: str) -> bool:
    """Whether parts that are dragged with Alt become twins: going into another box can't differ
    from variant to variant, and the reach is narrower than all."""
    owner = workspace.owner
    return owner is not None and narrowed(workspace) and not can_differ(owner, ids, box)


def land_parts(
    workspace: Workspace, ids: Sequence[str], box: str, before: int, copied: bool = False
) -> None:
    """Parts of the owner's own tree land before a child of a box, as that now is; `copied` (with
    Alt) copies of them do, or twins."""
    owner = workspace.owner
    if owner is None:
        return
    if not copied or makes_twins(workspace, ids, box):
        arrange_commands.move_parts(workspace, ids, box, before, copied)
        return
    parts = [node for node in walk(owner.root) if node.id in ids and node is not owner.root]
    copies = Copies(workspace, parts)

    def change(document: Document) -> Document:
        return copies.put(document, tuple(part.id for part in parts), box, before)

    if parts and workspace.edit(copies.step, change):
        copies.select()


class Copies:
    """Copies of parts of the owner's own tree that a drag makes; `made` are their ids in what is
    shown."""

    def __init__(self, workspace: Workspace, parts: list[Node]) -> None:
        self._workspace = workspace
        self._parts = parts
        self._called = selection_commands.named(parts)
        self.made: tuple[str, ...] = ()

    @property
    def step(self) -> str:
        """What undo calls it."""
        return f"copy {self._called}{here(self._workspace)}"

    def put(self, document: Document, ids: Sequence[str], box: str, before: int) -> Document:
        """The document with copies of parts before a child of a box, within the reach."""
        owner, variant = self._workspace.selection.owner, self._workspace.selection.variant
        clip = clipping(document, owner, tuple(ids), variant)
        document, self.made = put_down(document, clip, (owner, box, before), fresh_id)
        return keep_to_reach(document, reach_of(self._workspace), self.made)

    def moved(self, document: Document, by: tuple[float, float]) -> Document:
        """The document with a copy over each part that stands free, moved by px."""
        made: list[str] = []
        for part in self._parts:
            owner = document.owner(self._workspace.selection.owner)
            line = lineage(owner.root, part.id) if owner is not None else ()
            if len(line) < 2 or owner is None:
                continue
            behind = line[-2].children.index(line[-1]) + 1
            document = self.put(document, (part.id,), line[-2].id, behind)
            place = Place(owner.id, self.made, self._workspace.selection.variant)
            document = places.move_by(document, place, by)
            made += self.made
        self.made = tuple(made)
        return document

    def select(self) -> None:
        """Selects the copies, once they are there."""
        self._workspace.select_all(tuple((node_id,) for node_id in self.made))
        self._workspace.end_step_here()
        create_commands.offer_everywhere(self._workspace, self._called, self.made)
