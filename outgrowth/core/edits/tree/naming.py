"""What a path or a condition means: whether the parts, axes and values that are named are there."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from outgrowth.core.document.records import Component, Document, Owner, Path, find
from outgrowth.core.refusal import Refusal


class Stand(NamedTuple):
    """What stands at a path from an owner: an instance's component, None for a plain node.
    What fills a slot is known only where it runs."""

    component: Component | None
    known: bool = True


def own_component(owner: Owner) -> Component | None:
    """The owner, if it is a component."""
    return owner if isinstance(owner, Component) else None


def stands_at(document: Document, owner: Owner, path: Path, role: str) -> Stand:
    """What stands at a path; `role` is what a complaint calls it. Raises Refusal for a path that
    leads nowhere."""
    holder, component = owner, own_component(owner)
    for n, node_id in enumerate(path if path != (owner.root.id,) else ()):
        node = find(holder.root, node_id)
        if node is None:
            if _is_exchanged(owner, path[:n]):
                return Stand(None, known=False)
            raise Refusal(
                f"The part {role} is no longer in “{holder.name}”: there is no “{node_id}”."
            )
        component_id = node.style.get("component")
        component = document.components.get(component_id) if isinstance(component_id, str) else None
        if component is None:
            if node.kind == "instance":
                return Stand(None, known=False)
            if n < len(path) - 1:
                raise Refusal(f"“{node.name}” in “{holder.name}” holds no “{path[n + 1]}”.")
            return Stand(None)
        if n < len(path) - 1 and _is_exchanged(holder, (node_id,)):
            return Stand(None, known=False)
        holder = component
    return Stand(component)


def _is_exchanged(owner: Owner, path: Path) -> bool:
    """Whether an owner lets an instance on a path follow another component somewhere."""
    said = list(owner.rules) if isinstance(owner, Component) else []
    node = find(owner.root, path[0]) if path else None
    for rule in node.overrides if node is not None else ():
        if rule.property == "component" and path[1 : 1 + len(rule.node)] == rule.node:
            return True
    return any(
        rule.property == "component" and path[: len(rule.node)] == rule.node for rule in said
    )


def with_axes(owner: Owner, standing: Stand) -> Component:
    """The component whose axes are meant. Raises Refusal where there is none."""
    if standing.component is None:
        reason = "is a screen" if own_component(owner) is None else "has parts without values"
        raise Refusal(f"“{owner.name}” {reason}; say which part of it is meant.")
    return standing.component


def check_value(component: Component, axis_id: str, values: Iterable[str]) -> None:
    """Raises Refusal where a component has no such axis, or that no such values."""
    axis = component.axis(axis_id)
    if axis is None:
        raise Refusal(f"“{component.name}” no longer has the axis “{axis_id}”.")
    for value in values:
        if value and axis.value(value) is None:
            raise Refusal(f"“{axis.name}” no longer has the value “{value}”.")
