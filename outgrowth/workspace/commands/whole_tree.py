"""Acts on the tree, which is one for all variants: what they are called where the reach is
narrower, and twins that do them within the reach alone."""

from __future__ import annotations

from collections.abc import Callable

from outgrowth.core.document.records import Document
from outgrowth.core.edits import at_reach
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.reaching import conditions, here, in_all, narrowed, reach_of
from outgrowth.workspace.workspace import Workspace

TreeAct = Callable[[Document, tuple[str, ...]], tuple[Document, tuple[str, ...]]]
"""Does something with parts of the owner's own tree; gives the document, and what is selected
then."""


def of_all(
    workspace: Workspace, step: str, done_to: tuple[tuple[str, ...], TreeAct], twin: bool = False
) -> bool:
    """Does an act on parts in all variants, says so where the reach is narrower, and offers the
    twin; or (`twin`) does it to twins that are shown within the reach only, the parts elsewhere.
    What came of it is selected. Whether it was done.
    """
    ids, act = done_to
    reach, chosen = reach_of(workspace), workspace.selection
    apart = twin and narrowed(workspace)
    made: list[str] = []

    def change(document: Document) -> Document:
        those = ids
        if apart:
            document, those = at_reach.twins(document, reach, ids, fresh_id)
        document, those = act(document, those)
        made[:] = those
        return at_reach.keep_to_reach(document, reach, those) if apart else document

    conditions_here, suffix = conditions(workspace), in_all(workspace)
    before = workspace.document
    done = workspace.edit(step + (here(workspace) if apart else suffix), change)
    if not done or workspace.document is before:
        return False
    workspace.select_all(tuple((node_id,) for node_id in made))
    workspace.end_step_here()
    if conditions_here and not apart:

        def instead() -> None:
            workspace.undo()
            workspace.select_all(chosen.paths)
            workspace.set_reach(reach.when)
            of_all(workspace, step, done_to, twin=True)

        workspace.make_offer(
            f"This was done{suffix.removeprefix(',')}: a part has one place in the tree.",
            f"Only in {conditions_here}",
            instead,
        )
    return True
