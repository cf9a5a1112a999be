"""Names that would make poor code: two alike, or ones that say nothing.

Source: common practice; what names become in the code: core/exchange/web/names.py.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from functools import partial

from outgrowth.core.document.records import Component, Document, Owner, Path, walk
from outgrowth.core.edits.tree.components import rename_owner
from outgrowth.core.edits.tree.nodes import rename_node
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding

_EMPTY = re.compile(r"(?i)\s*(box|group|frame|rectangle|shape|text|layer|part|copy)?[\s\d._-]*")
"""A kind of part and a number, or no letter at all."""


def code_findings(owner: Owner) -> Iterator[Finding]:
    """Two parts of a component that are called the same, and parts whose name says nothing."""
    if not isinstance(owner, Component):
        return
    counts: Counter[str] = Counter()
    names = [node.name for node in walk(owner.root)]
    for node in walk(owner.root):
        path: Path = () if node is owner.root else (node.id,)
        counts[node.name] += 1
        if node.name.strip() and counts[node.name] > 1:
            number = counts[node.name]
            while f"{node.name} {number}" in names:
                number += 1
            new = f"{node.name} {number}"
            text = (
                f"Two parts of “{owner.name}” are called “{node.name}”; in the code they would be "
                "told apart by a number."
            )
            mend = Mend(f"call this one “{new}”", partial(_renamed, owner.id, node.id, new))
            yield finding("names-alike", owner.id, path, text, mend)
        elif path and _EMPTY.fullmatch(node.name) and _is_spoken_of(owner, node.id):
            text = (
                f"“{node.name}” of “{owner.name}” changes with its variants, and its name says "
                "nothing of what it is."
            )
            yield finding("name-says-nothing", owner.id, path, text)


def _renamed(owner: str, node: str, name: str, document: Document) -> Document:
    return rename_node(document, owner, node, name)


def _is_spoken_of(component: Component, node: str) -> bool:
    return any(rule.node[:1] == (node,) for rule in component.rules) or any(
        cue.node[:1] == (node,) for cue in component.behaviour.cues
    )


def same_name_findings(document: Document) -> Iterator[Finding]:
    """Components whose names are one in the code, or another than they say."""
    last = Counter(component.short_name.casefold() for component in document.in_order())
    taken = {owner.name for owner in document.owners()}
    first: set[str] = set()
    for component in document.in_order():
        name = component.short_name.casefold()
        if last[name] > 1 and name in first:
            number = 2
            while f"{component.name} {number}" in taken:
                number += 1
            new = f"{component.name} {number}"
            text = (
                f"Another component is called “{component.short_name}” too: in the "
                "code one of them gets a number."
            )
            mend = Mend(f"call this one “{new}”", partial(_called, component.id, new))
            yield finding("components-alike", component.id, (), text, mend)
        first.add(name)


def _called(owner: str, name: str, document: Document) -> Document:
    return rename_owner(document, owner, name)


def renamed_findings(component: Component, names: Names) -> Iterator[Finding]:
    """Names of a component's properties that are others in the code, because theirs are
    taken."""
    for renamed in names.renamed:
        if renamed.what == f"property of {component.name}":
            text = (
                f"“{renamed.before}” is called {renamed.after} in the code: its own name is taken."
            )
            yield finding(
                "name-taken", component.id, (), text, about=f"{renamed.what}/{renamed.before}"
            )
