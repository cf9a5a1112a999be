"""Where the work is: what is on the bench, which variant of it, and which nodes are selected."""

from __future__ import annotations

from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Axis, Component, Document, Owner, Path, find
from outgrowth.core.document.variants import Variant, default_variant


class Selection(NamedTuple):
    """Where the work is: an owner on the bench, a variant of it, and a node there.

    `path` None means that nothing is selected; `()` is the owner's root. `others` are
    selected besides; edits reach them too.
    """

    owner: str = ""
    variant: Variant = Map()
    path: Path | None = None
    others: tuple[Path, ...] = ()

    @property
    def paths(self) -> tuple[Path, ...]:
        """All that is selected, the one that the ledger speaks of first."""
        return () if self.path is None else (self.path, *self.others)


def opened(owner: Owner) -> Selection:
    """What is selected when an owner comes on the bench: a component's root, nothing of a
    screen."""
    if isinstance(owner, Component):
        return Selection(owner.id, default_variant(owner), ())
    return Selection(owner.id)


def picked_path(selection: Selection, under: Path) -> Path:
    """What a click on the node `under` the pointer selects: the part at the depth of what is
    selected now if it stands beside that, else the part of the owner's own tree."""
    selected = selection.path or ()
    beside = len(selected) > 1 and under[: len(selected) - 1] == selected[:-1]
    return under[: len(selected)] if beside else under[:1]


def differing(component: Component, variant: Variant) -> Map[str, str]:
    """The values in which a variant differs from the default one: the reach it suggests."""
    return Map(
        {axis.id: variant[axis.id] for axis in component.axes if variant[axis.id] != axis.default}
    )


def fitting_selection(
    document: Document, selection: Selection, reach: Map[str, str]
) -> tuple[Selection, Map[str, str]]:
    """A selection and a reach as they can be in a document: of an owner that is there, in a
    variant that names all of its axes and no others, and of parts that it has."""
    owner = document.owner(selection.owner)
    if owner is None:
        return Selection(), Map()
    paths = selection.paths
    there = tuple(path for path in paths if not path or find(owner.root, path[0]) is not None)
    if len(there) < len(paths):
        selection = selection._replace(path=there[0] if there else None, others=there[1:])
    if not isinstance(owner, Component):
        return selection._replace(variant=Map()), Map()
    variant = selection.variant
    fitted = Map({a.id: variant[a.id] if _has(a, variant) else a.default for a in owner.axes})
    fitting_reach = Map({a.id: reach[a.id] for a in owner.axes if _has(a, reach)})
    same = fitted == variant
    return (selection if same else selection._replace(variant=fitted)), fitting_reach


def _has(axis: Axis, chosen: Map[str, str]) -> bool:
    return axis.value(chosen.get(axis.id, "")) is not None
