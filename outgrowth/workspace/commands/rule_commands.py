"""Rules from their sheet: gone to, aimed at another reach, made one, deleted."""

from __future__ import annotations

from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import Component, Rule
from outgrowth.core.edits.variants import rules
from outgrowth.workspace.workspace import Workspace


def go_to(workspace: Workspace, component: Component, rule: Rule) -> None:
    """Selects the part that a rule speaks about, in a variant in which it holds, at its reach."""
    variant = workspace.selection.variant.update(rule.when)
    path = () if rule.node == (component.root.id,) else rule.node
    workspace.select(path, variant)
    workspace.set_reach(rule.when)


def join(workspace: Workspace, group: rules.EqualRules) -> None:
    """Makes one rule of several that say the same."""
    component = workspace.component
    if component is not None:
        workspace.edit(
            "make one rule of several",
            lambda document: rules.make_one(document, component.id, group),
        )


def aim(workspace: Workspace, component: Component, rule: Rule) -> None:
    """Lets a rule hold at the present reach instead of its own."""
    reach = workspace.reach
    workspace.edit(
        f"aim {row_of(rule.property).label.lower()}",
        lambda document: rules.aim_rule(document, component.id, rule, reach),
    )


def delete(workspace: Workspace, component: Component, rule: Rule) -> None:
    """Takes a rule out."""
    workspace.edit(
        f"delete the rule for {row_of(rule.property).label.lower()}",
        lambda document: rules.remove_rule(document, component.id, rule),
    )
