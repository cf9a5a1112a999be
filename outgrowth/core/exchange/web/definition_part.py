"""What all parts of a component's definition are worked out from: paths, roles and axes in the
names of the code."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property

from outgrowth.core.color import Color
from outgrowth.core.document.cues import HOLDER
from outgrowth.core.document.records import (
    Document,
    Motion,
    Owner,
    Path,
    Screen,
    walk,
)
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import plain
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.motions import motion_of
from outgrowth.core.exchange.web.names import AxisNames, OwnerNames
from outgrowth.core.exchange.web.steps import Steps
from outgrowth.core.exchange.web.template import (
    PicturePaths,
)


class DefinitionPart:
    """Speaks of one owner in the names of the code."""

    def __init__(self, evaluator: Evaluator, pictures: PicturePaths, document: Document) -> None:
        self.evaluator = evaluator
        self.steps: Steps = evaluator.steps
        self.pictures = pictures
        self.document = document
        self.owner: Owner = evaluator.steps.owner
        self.names: OwnerNames = evaluator.names.owners[self.owner.id]

    def path_text(self, path: Path) -> str:
        names = []
        for n, node_id in enumerate(path):
            owner = self.steps.owner_at(path[:n])
            if owner is None:
                return "?"
            if node_id != owner.root.id:
                names.append(self.evaluator.names.owners[owner.id].nodes.get(node_id, "?"))
        return "/".join(names)

    def value_text(self, kind: str, value: object) -> str:
        """A value of a component's property as its attribute says it."""
        if kind == "switch":
            return "yes" if value is True else "no"
        if kind == "slot":
            target = self.evaluator.names.owners.get(str(value))
            return target.element if target is not None else ""
        return literal_text(value)

    def motion_data(self, motion: Motion) -> list[Json]:
        """A motion as the runtime takes it."""
        return motion_of(motion, self.document, self.evaluator.names)

    def own_conditions(self, pattern: Mapping[str, str]) -> dict[str, Json]:
        results: dict[str, Json] = {}
        for axis_id, value in sorted(pattern.items()):
            names = self.names.any_axis(axis_id)
            if names is not None and value in names.values:
                results[names.attribute] = names.values[value]
        return results

    def role_of(self, path: Path) -> str:
        said = [s for s in self.steps.of(path) if s.property == "role" and not s.when]
        value = said[-1].value if said else "none"
        if value == "none" and path == self.title_of_screen:
            return "heading"
        return value if isinstance(value, str) else "none"

    @cached_property
    def title_of_screen(self) -> Path | None:
        """The text that heads a screen where nobody says which: the largest, the first of them."""
        if not isinstance(self.owner, Screen):
            return None
        texts = [n for n in walk(self.owner.root) if n.kind == "text"]
        if not texts or any(n.style.get("role") == "heading" for n in walk(self.owner.root)):
            return None
        sizes = [n.style.get("font-size") for n in texts]
        numbers = [size if isinstance(size, float) else 16.0 for size in sizes]
        return (texts[numbers.index(max(numbers))].id,)

    def stops_and_roles(self) -> list[Path]:
        paths: list[Path] = [()]
        for node in walk(self.owner.root):
            if node is not self.owner.root:
                paths.append((node.id,))
        paths += [c.node for c in self.owner.behaviour.cues if len(c.node) > 1]
        return list(dict.fromkeys(paths))

    def axis_names(self, place: Path, axis: str) -> AxisNames | None:
        """An axis in the code: of the owner, of an instance in it, of what holds it."""
        if place == (HOLDER,):
            return next(iter(self._held_axes(axis)), None)
        path = () if place == (self.owner.root.id,) else place
        component = self.steps.component_at(path)
        return self.evaluator.names.owners[component.id].any_axis(axis) if component else None

    def _held_axes(self, axis: str) -> Iterator[AxisNames]:
        """The axes of this id (or, as inner parts say, of this name) of what holds the owner."""
        for second in self.document.in_order():
            names = self.evaluator.names.owners[second.id]
            if any(n.style.get("component") == self.owner.id for n in walk(second.root)):
                every = (*names.axes.values(), *names.rooms.values())
                yield from (item for item in every if axis in (item.axis.id, item.axis.name))


def literal_text(value: object) -> str:
    if isinstance(value, Color):
        return value.hex
    if isinstance(value, float):
        return f"{value:.10g}"
    return plain(value) if isinstance(value, tuple) else str(value)
