"""What instances may set, seen from the component: named, described, ordered, given a default."""

from __future__ import annotations

from outgrowth.core.document.records import Component, ComponentProperty, Document
from outgrowth.core.document.uses import way_into
from outgrowth.core.document.values import Literals, Token
from outgrowth.core.edits.instances import properties
from outgrowth.workspace.workspace import Workspace


def fitting_components(document: Document, component: Component) -> list[Component]:
    """The components that can be put into this one."""
    return [c for c in document.in_order() if not way_into(document, c.id, component.id)]


def rename(workspace: Workspace, owner: str, opened: ComponentProperty, name: str) -> bool:
    """Names a property; whether it is called so now."""
    return workspace.edit(
        f"rename {opened.name}",
        lambda document: properties.rename_property(document, owner, opened.id, name),
    )


def describe(workspace: Workspace, owner: str, opened: ComponentProperty, text: str) -> None:
    """Says what a property is for."""
    workspace.edit(
        f"describe {opened.name}",
        lambda document: properties.describe_property(document, owner, opened.id, text),
    )


def set_default(
    workspace: Workspace, owner: str, opened: ComponentProperty, value: Literals | Token
) -> None:
    """What a property is at first: a value, or a token."""
    workspace.edit(
        f"set what {opened.name} is at first",
        lambda document: properties.set_default(document, owner, opened.id, value),
    )


def set_listed(
    workspace: Workspace, owner: str, opened: ComponentProperty, component: str, on_list: bool
) -> None:
    """Puts a component on a slot's shortlist, or takes it off."""
    others = tuple(i for i in opened.shortlist if i != component)
    shortlist = (*others, component) if on_list else others
    workspace.edit(
        f"set the shortlist of {opened.name}",
        lambda document: properties.set_shortlist(document, owner, opened.id, shortlist),
    )


def move(workspace: Workspace, owner: str, opened: ComponentProperty, index: int) -> None:
    """Puts a property before another, in the order in which instances show them."""
    workspace.edit(
        f"move {opened.name} earlier",
        lambda document: properties.move_property(document, owner, opened.id, index),
    )


def remove(workspace: Workspace, owner: str, opened: ComponentProperty) -> None:
    """Takes a property away; what instances set by it goes too."""
    workspace.edit(
        f"remove {opened.name}",
        lambda document: properties.remove_property(document, owner, opened.id),
    )
