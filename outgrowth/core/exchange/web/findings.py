"""What a component lacks for code that a developer would keep, in sentences with a way out.

Source: WAI-ARIA 1.2 (roles and names), WCAG 2.2 (1.1.1 non-text content, 2.4.7 focus visible).
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from outgrowth.core.document.records import Component, Node, Path, walk
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.review.targets import heard, is_pressed, said_role


class Finding(NamedTuple):
    """One thing that is missing: at which node (its path; () is the whole), and what to do."""

    node: Path
    text: str


def findings(component: Component, names: Names) -> tuple[Finding, ...]:
    """What a component lacks, the weightiest first."""
    results = [
        *_roles(component),
        *_focus(component),
        *_pictures(component),
        *_names(component, names),
    ]
    return tuple(results)


def _roles(component: Component) -> Iterator[Finding]:
    """What hears a tap without saying what it is."""
    for node in heard(component):
        if node.kind != "instance" and said_role(node) == "none":
            yield Finding(
                _path(component, node),
                f"“{node.name}” can be tapped, but has no role: give it one under Pointer in the "
                "ledger, such as button.",
            )


def _focus(component: Component) -> Iterator[Finding]:
    takes_keys = is_pressed(component)
    if takes_keys and not any(axis.driver == "focus" for axis in component.axes):
        yield Finding(
            (),
            "It takes the focus, but no variant shows it; the browser's own ring is used. An axis "
            "driven by the focus would show yours.",
        )
    if takes_keys and not _has_words(component) and not component.root.style.get("label"):
        yield Finding(
            (),
            "It has no words to be read aloud; it is called by its icon's or its own name. A "
            "spoken name under Pointer says it better.",
        )


def _has_words(component: Component) -> bool:
    return any(node.kind == "text" for node in walk(component.root))


def _pictures(component: Component) -> Iterator[Finding]:
    for node in walk(component.root):
        if node.kind == "image" and not node.style.get("label"):
            yield Finding(
                _path(component, node),
                f"The picture “{node.name}” has no words: it counts as decoration. A spoken name "
                "says what is to be seen.",
            )


def _names(component: Component, names: Names) -> Iterator[Finding]:
    visited: dict[str, Node] = {}
    for node in walk(component.root):
        if node.name in visited and node.name.strip():
            called = names.owners[component.id].nodes[node.id]
            text = f"Two parts are called “{node.name}”; this one is {called} in the code."
            yield Finding(_path(component, node), text)
        visited[node.name] = node
    for renamed in names.renamed:
        if renamed.what in (f"property of {component.name}", "component") and (
            renamed.what != "component" or renamed.before == component.name
        ):
            text = f"“{renamed.before}” is called {renamed.after}: its own name is taken."
            yield Finding((), text)


def _path(component: Component, node: Node) -> Path:
    return () if node is component.root else (node.id,)
