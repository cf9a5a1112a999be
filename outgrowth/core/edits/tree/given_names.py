"""What parts are called as long as nobody named them: a text by its words, an instance by the
component that it follows. Such a name goes with what it says."""

from __future__ import annotations

from outgrowth.core.document.records import Component, Node
from outgrowth.core.document.values import Content, is_content, plain

UNNAMED = "text"
"""What a text is called that says nothing yet."""
_LONGEST = 40


def name_of_words(content: Content) -> str:
    """What a text is called by what it says; empty for one that says nothing."""
    return " ".join(plain(content).split())[:_LONGEST]


def name_of_instance(component: Component) -> str:
    """What an instance is called by what it follows."""
    return component.short_name.lower()


def is_called_by_words(node: Node) -> bool:
    """Whether nobody named a text: it is called as what it says, or as any text."""
    content = node.style.get("content")
    if node.kind != "text":
        return False
    return node.name == UNNAMED or (is_content(content) and node.name == name_of_words(content))
