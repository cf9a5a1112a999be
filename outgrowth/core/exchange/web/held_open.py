"""Free boxes and shapes inside of instances whose size an owner has to say again.

A box in which everything lies free is as large as what is in it, which CSS cannot work out: its
own component says how large that is, as it is by itself. Who says something of the inside of such
a box, or gives its component other words, says its size too. So does who gives a shape another
size: what holds it open is an element of its own.
"""

from __future__ import annotations

from collections.abc import Iterator

from outgrowth.core.document.properties import CHOICE, rows_of
from outgrowth.core.document.records import Component, Path, Rule, walk
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.steps import Steps

_SIZES = rows_of("size")
_DEEPEST = 12


def restated_nodes(evaluator: Evaluator) -> frozenset[Path]:
    """Their paths: of an instance that is one, and of others inside of it."""
    owner = evaluator.steps.owner
    said: set[tuple[Path, str]] = set()
    for node in walk(owner.root):
        if node.kind == "instance":
            said |= {((node.id,), name) for name in node.style}
            said |= {((node.id, *rule.node), rule.property) for rule in node.overrides}
    if isinstance(owner, Component):
        said |= {(rule.node, rule.property) for rule in owner.rules if _inside(owner, rule)}
    results: set[Path] = set()
    about = [(path, name) for path, name in sorted(said) if _counts(evaluator, path, name)]
    for instance in sorted({path[:1] for path, _ in about}):
        for box in _free_boxes(evaluator, instance):
            if any(_touches(evaluator, box, path, name) for path, name in about):
                results.add(box)
    results |= {
        path for path, name in about if name in _SIZES and evaluator.kind_at(path) == "shape"
    }
    return frozenset(results)


def _inside(owner: Component, rule: Rule) -> bool:
    instances = {node.id for node in walk(owner.root) if node.kind == "instance"}
    return rule.node[0] in instances


def _counts(evaluator: Evaluator, path: Path, name: str) -> bool:
    """Whether what is said can change how large something is. Axes and switches are among the
    conditions of the component's own rules."""
    if evaluator.steps.node_at(path) is None:
        return False
    if not name.startswith(CHOICE):
        return len(path) > 1 or name in _SIZES
    component = evaluator.steps.component_at(path)
    prop = component.property(name.removeprefix(CHOICE)) if component is not None else None
    return prop is not None and prop.kind in ("text", "slot", "number")


def _touches(evaluator: Evaluator, box: Path, path: Path, name: str) -> bool:
    if name.startswith(CHOICE):
        return box[: len(path)] == path
    return box in evaluator.line_to(path) or (box == path and name in _SIZES)


def _free_boxes(evaluator: Evaluator, instance: Path) -> Iterator[Path]:
    component = evaluator.steps.component_at(instance)
    if component is None or len(instance) > _DEEPEST:
        return
    for node in walk(component.root):
        path = instance if node is component.root else (*instance, node.id)
        if node.kind == "box" and any(
            s.property == "flow" and s.value == "free" for s in evaluator.steps.of(path)
        ):
            yield path
        elif node.kind == "instance" and path != instance:
            yield from _free_boxes(evaluator, path)


def own_place(steps: Steps, path: Path) -> tuple[str, Path]:
    """The component in whose tree the node at a path stands, and its path there."""
    if not path:
        return steps.owner.id, ()
    node = steps.node_at(path)
    whole = node is not None and node.kind == "instance"
    component = steps.component_at(path if whole else path[:-1])
    return component.id if component is not None else "", () if whole else path[-1:]
