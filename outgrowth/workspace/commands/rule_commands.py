"""Rules from their sheet: gone to, aimed at another reach, made one, deleted."""

from __future__ import annotations

from collections.abc import Sequence

from outgrowth.core.document.properties import FAMILY_OF, family_label, row_of
from outgrowth.core.document.records import Component, Document, Rule
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


def aim(workspace: Workspace, component: Component, those: Sequence[Rule]) -> None:
    """Lets rules hold at the present reach instead of their own."""
    reach = workspace.reach

    def change(document: Document) -> Document:
        for rule in those:
            document = rules.aim_rule(document, component.id, rule, reach)
        return document

    workspace.edit(f"aim {_called(those)}", change)


def delete(workspace: Workspace, component: Component, those: Sequence[Rule]) -> None:
    """Takes rules out."""

    def change(document: Document) -> Document:
        for rule in those:
            document = rules.remove_rule(document, component.id, rule)
        return document

    workspace.edit(f"delete the rule for {_called(those)}", change)


def _called(those: Sequence[Rule]) -> str:
    """What rules of one line are about."""
    name = those[0].property
    called = family_label(FAMILY_OF[name]) if len(those) > 1 else row_of(name).label
    return called.lower()
