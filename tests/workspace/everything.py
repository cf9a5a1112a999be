"""A document with a part of every kind, and every kind of selection in it."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.records import Component, Document, Node, Screen
from outgrowth.core.document.values import fixed, words
from outgrowth.core.edits.tree.components import add_component, add_screen


def part(kind, node_id, **style):
    said = {name.replace("_", "-"): value for name, value in style.items()}
    if kind == "text":
        said["content"] = words("Holm")
    if kind == "instance":
        said["component"] = "inner"
    return Node(node_id, node_id, kind, Map(said))


def everything():
    """A component for each kind of root, and a screen that holds a part of each kind."""
    document = add_component(Document("All"), Component("inner", "Inner", part("shape", "dot")))
    for kind in ("box", "shape", "text", "image", "instance"):
        document = add_component(document, Component(kind, kind, part(kind, f"{kind}-root")))
    kinds = [part(k, f"one-{k}") for k in ("box", "shape", "text", "image", "instance")]
    hidden = part("shape", "hidden", shown=False)
    free = Node(
        "free", "free", "box", Map({"flow": "free", "width": fixed(99.0)}), (part("text", "in"),)
    )
    root = Node("root", "root", "box", Map({"flow": "column"}), (*kinds, hidden, free))
    return add_screen(document, Screen("screen", "Screen", root))


SELECTIONS = {
    **{f"a root that is a {kind}": (kind, ((),)) for kind in ("box", "shape", "text", "image")},
    "a root that is an instance": ("instance", ((),)),
    **{f"a {kind}": ("screen", ((f"one-{kind}",),)) for kind in ("box", "shape", "text", "image")},
    "an instance": ("screen", (("one-instance",),)),
    "inside an instance": ("screen", (("one-instance", "dot"),)),
    "nothing": ("screen", ()),
    "a hidden part": ("screen", (("hidden",),)),
    "several, one hidden": ("screen", (("hidden",), ("one-text",), ("one-shape",))),
    "one twice": ("screen", (("one-text",), ("one-text",))),
    "a part that is gone": ("screen", (("long-gone",),)),
    "in a free box": ("screen", (("in",),)),
    "no owner": ("", ()),
}
