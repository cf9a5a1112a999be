"""Rules from their sheet: gone to, aimed at another reach, made one, deleted."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from immutables import Map

from outgrowth.core.document.properties import FAMILY_OF, family_label, row_of
from outgrowth.core.document.records import Component, Document, Path, Rule
from outgrowth.core.document.values import Value
from outgrowth.core.document.variants import condition_text
from outgrowth.core.edits.style import styles
from outgrowth.core.edits.variants import rules
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace.workspace import Workspace


def go_to(workspace: Workspace, component: Component, node: Path, reach: Map[str, str]) -> None:
    """Selects a part that a rule speaks about, in a variant in which it holds, at its reach."""
    variant = workspace.selection.variant.update(reach)
    path = () if node == (component.root.id,) else node
    workspace.select(path, variant)
    workspace.set_reach(reach)


def join(workspace: Workspace, group: rules.EqualRules) -> None:
    """Makes one rule of several that say the same."""
    component = workspace.component
    if component is not None:
        workspace.edit(
            "make one rule of several",
            lambda document: rules.make_one(document, component.id, group),
        )


def set_at(
    workspace: Workspace,
    component: Component,
    node: Path,
    values: Mapping[str, Value],
    reach: Map[str, str],
) -> bool:
    """Sets properties of a part at a reach: with no conditions what the component says at
    first; whether anything changed."""
    path = () if node == (component.root.id,) else node
    place = Place(component.id, path)
    at = condition_text(component, reach) if reach else "at first"
    return workspace.edit(
        f"set {_called(tuple(values))} {at}",
        lambda document: styles.set_properties(document, place, values, reach),
    )


def aim(
    workspace: Workspace, component: Component, those: Sequence[Rule], reach: Map[str, str]
) -> bool:
    """Lets rules hold at another reach instead of their own; whether they do now."""

    def change(document: Document) -> Document:
        for rule in those:
            document = rules.aim_rule(document, component.id, rule, reach)
        return document

    return workspace.edit(f"aim {_called([rule.property for rule in those])}", change)


def delete(workspace: Workspace, component: Component, those: Sequence[Rule]) -> None:
    """Takes rules out."""

    def change(document: Document) -> Document:
        for rule in those:
            document = rules.remove_rule(document, component.id, rule)
        return document

    workspace.edit(f"delete the rule for {_called([rule.property for rule in those])}", change)


def _called(names: Sequence[str]) -> str:
    """What properties are called, those that belong together as one."""
    family = FAMILY_OF.get(names[0], "") if len(names) > 1 else ""
    return (family_label(family) if family else row_of(names[0]).label).lower()
