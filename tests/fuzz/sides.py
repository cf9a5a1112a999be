"""Random screens whose sides are the start and end of lines, parts of which read in a direction of
their own, beside Chromium: from left to right, and from right to left by the page's `dir`.

What they say comes from the generator of whole screens.
"""

from __future__ import annotations

import os
import random

import msgspec
from immutables import Map

from outgrowth.core.document.properties import DIRECTIONS
from outgrowth.core.document.records import Document, Node
from tests.fuzz.report import Failure
from tests.fuzz.report import told as told_of
from tests.fuzz.web import judging
from tests.fuzz.whole import WholeJudge, WholeMaker

_BY_LINES, _TURNS, _DIRECTED = map(float, os.environ.get("SD", "0.6,0.1,0.06").split(","))


def with_sides(document: Document, rng: random.Random) -> Document:
    """The document, many of its parts by lines, a few that turn or read in a direction."""

    def node(one: Node, is_root: bool) -> Node:
        style = one.style
        if rng.random() < _BY_LINES and one.kind != "instance":
            style = style.set("sides", "start-end")
        if rng.random() < _TURNS and one.kind != "text":
            style = style.set("turns", True)
        if rng.random() < _DIRECTED and not is_root:
            style = style.set("direction", rng.choice(DIRECTIONS[1:]))
        children = tuple(node(child, False) for child in one.children)
        return msgspec.structs.replace(one, style=style, children=children)

    components = {
        c.id: msgspec.structs.replace(c, root=node(c.root, True)) for c in document.in_order()
    }
    screens = {
        s.id: msgspec.structs.replace(s, root=node(s.root, True))
        for s in document.screens_in_order()
    }
    return msgspec.structs.replace(document, components=Map(components), screens=Map(screens))


def made(seed: int) -> Document:
    """The document of a seed."""
    return with_sides(WholeMaker(random.Random(seed)).document(), random.Random(f"sides {seed}"))


def run(seed, count):
    """Documents from a seed on, each with what differs."""
    with judging() as judge:
        whole = WholeJudge(judge)
        for n in range(count):
            document = made(seed + n)
            try:
                told = whole.differences(document) or [
                    f"right to left: {one}"
                    for one in whole.differences(document, right_to_left=True)
                ]
            except Exception as problem:  # whatever it is, it is a finding
                told = [told_of(problem)]
            if told:
                place, _, _ = told[0].partition(":")
                yield n + 1, Failure("sides", seed + n, told[0][:300], place)
            else:
                yield n + 1, None
