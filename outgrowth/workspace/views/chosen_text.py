"""What an instance chose of its component, in a few words."""

from __future__ import annotations

from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Document, Node
from outgrowth.core.document.variants import is_switch
from outgrowth.workspace.views.value_format import value_text


def chosen_text(document: Document, node: Node) -> str:
    """“Quiet, Label: Board now”: the values that an instance says itself, axes first; "" where it
    is as its component starts."""
    component = document.components.get(str(node.style.get("component")))
    if component is None:
        return ""
    said = []
    for axis in component.axes:
        value = axis.value(str(node.style.get(CHOICE + axis.id)))
        if value is not None:
            said.append(f"{axis.name}: {value.name}" if is_switch(axis) else value.name)
    for prop in component.properties:
        if CHOICE + prop.id in node.style:
            text = value_text(document, node.style[CHOICE + prop.id])
            said.append(f"{prop.name}: {text}")
    return ", ".join(said)
