"""A typeface's name as it is written in that typeface."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.records import Component, Document, Node
from outgrowth.core.document.values import Value, words
from outgrowth.core.paint import Fragment, draw
from outgrowth.workspace.engine import Engine

SIZE = 16.0
"""Of the letters, in px."""


def face_sample(engine: Engine, family: str, color: Color) -> Fragment:
    """The name of a family in its own letters."""
    style: dict[str, Value] = {
        "content": words(family),
        "font-family": family,
        "font-size": SIZE,
        "color": color,
    }
    style["max-lines"] = 1.0
    root = Node("name", "name", "text", Map(style))
    document = Document(
        "face", components=Map({"f": Component("f", "Face", root)}), component_order=("f",)
    )
    return draw(*engine.view(document, "f"))
