"""Which nodes a style sheet has something to say of: the owner's own, and those inside its
instances that it changes, places or has to hold open anew."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property

from outgrowth.core.document.records import Component, Node, Path, walk
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.held_open import restated_nodes

ARRANGING = frozenset({"flow", "align", "mirrored", "justify-items", "scrolls"})
"""Properties of a box that decide how its children are said."""


class SheetPaths:
    """The paths of one owner's sheet."""

    def __init__(self, evaluator: Evaluator) -> None:
        self._evaluator = evaluator
        self._steps = evaluator.steps

    def all(self) -> Iterator[Path]:
        """The owner's own nodes, and those inside its instances that it says something of."""
        owner = self._steps.owner
        yield ()
        for node in walk(owner.root):
            if node is not owner.root:
                yield (node.id,)
        yield from sorted(self.inside_instances())

    def padded_components(self) -> set[str]:
        """The components whose padding the owner says otherwise at an instance."""
        components = set()
        for path in self.all():
            node = self._steps.node_at(path)
            component = self._steps.component_at(path) if path and node is not None else None
            if component is None or node is None or node.kind != "instance":
                continue
            own = (s.property for s in self._steps.of(path) if s.depth == 0)
            if any(name.startswith("padding-") for name in own):
                components.add(component.id)
        return components

    def inside_instances(self) -> set[Path]:
        """The nodes inside instances that the owner itself says something of."""
        owner = self._steps.owner
        paths = {(n.id, *rule.node) for n in walk(owner.root) for rule in n.overrides if rule.node}
        if isinstance(owner, Component):
            paths |= {rule.node for rule in owner.rules if len(rule.node) > 1}
        paths = {p for p in paths if self._steps.node_at(p) is not None}
        instances = {(n.id,) for n in walk(owner.root) if n.kind == "instance"}
        for path in sorted(paths | instances):
            if self.rearranges(path):
                paths |= {(*self._inside(path), child.id) for child in self._children(path)}
        return paths | self.sticking | {path for path in self.restated if len(path) > 1}

    @cached_property
    def sticking(self) -> frozenset[Path]:
        """The nodes inside of instances that can stick, and do so where the owner scrolls."""
        results: set[Path] = set()
        for node in walk(self._steps.owner.root):
            line = self._evaluator.line_to((node.id,)) if node.kind == "instance" else []
            if any(s.property == "scrolls" for p in line for s in self._steps.of(p)):
                results |= {
                    path
                    for path in self.nodes_of((node.id,))
                    if any(s.property == "sticks" for s in self._steps.of(path))
                }
        return frozenset(path for path in results if len(path) > 1)

    @cached_property
    def restated(self) -> frozenset[Path]:
        """The free boxes and shapes inside of instances whose size the owner says again."""
        return restated_nodes(self._evaluator)

    def rearranges(self, path: Path) -> bool:
        """Whether the owner says how a node inside an instance (or its root) arranges what is in
        it: then all that stands there has to be said again."""
        return any(s.depth == 0 and s.property in ARRANGING for s in self._steps.of(path))

    def _inside(self, path: Path) -> Path:
        """The path from which the children of a node go on."""
        node = self._steps.node_at(path)
        return path if node is not None and node.kind == "instance" else path[:-1]

    def _children(self, path: Path) -> tuple[Node, ...]:
        node = self._steps.node_at(path)
        component = self._steps.component_at(path) if node is not None else None
        if node is None or node.kind != "instance":
            return node.children if node is not None else ()
        return component.root.children if component is not None else ()

    def own_nodes(self) -> Iterator[Path]:
        """The nodes of the owner itself, its root first."""
        root = self._steps.owner.root
        return ((node.id,) if node is not root else () for node in walk(root))

    def nodes_of(self, instance: Path) -> Iterator[Path]:
        """The nodes of an instance, through those that it holds."""
        component = self._steps.component_at(instance)
        for node in walk(component.root) if component is not None else ():
            path = instance if component and node is component.root else (*instance, node.id)
            yield path
            if node.kind == "instance" and path != instance:
                yield from self.nodes_of(path)
