"""Random screens of cards in grids: cards that line up with the grid around them and with what is in
them, in areas, in columns that come as often as there is room for; some of it by a value of theirs.
The page and the elements beside our own layout, from left to right and from right to left.
"""

from __future__ import annotations

import random

from immutables import Map

from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Node,
    Rule,
    Screen,
)
from outgrowth.core.document.values import FIT, GROW, GridTrack, Run, Size, fixed
from tests.fuzz.report import Failure
from tests.fuzz.report import told as told_of
from tests.fuzz.web import judging
from tests.fuzz.whole import WholeJudge

WORDS = ("Skerry", "Berth 2, every seat by the window", "12.50", "Holm to Little Holm")
FOLLOWS = ("none", "columns", "rows", "rows", "both")
COLUMNS = (
    (GROW,),
    (GROW, GROW),
    (FIT, GROW),
    (fixed(90.0), GridTrack("fixed", 200.0, "", fixed(60.0))),
    (GridTrack("grow", 1.0, "", fixed(120.0), "fit"),),
    (GridTrack("grow", 1.0, "", fixed(90.0), "fill"),),
)
SIZES = (GROW, FIT, Size("formula", 0.0, "min(100%, 300px)"), Size("formula", 0.0, "12ch + 10px"))


def grid(rng, follows):
    """What a grid says of itself; one that lines up lists no columns as often as they fit."""
    columns = COLUMNS[:4] if follows != "none" else COLUMNS
    gaps = {"gap": rng.choice((0.0, 6.0)), "cross-gap": rng.choice((0.0, 4.0))}
    return {"flow": "grid", "columns": rng.choice(columns), "subgrid": follows} | gaps


def words(rng, n):
    style = {"content": (Run(rng.choice(WORDS)),), "width": rng.choice((GROW, FIT))}
    return Node(f"t{n}", f"t{n}", "text", Map(style))


def card(rng, name, inner=""):
    """A card, in it words, and now and then another card; its looks differ by a value."""
    follows = rng.choice(FOLLOWS)
    children = [words(rng, n) for n in range(rng.randint(2, 3))]
    if inner and rng.random() < 0.5:
        children.append(instance(rng, "in", inner, {"row-span": float(rng.randint(1, 2))}))
    edges = {f"padding-{side}": rng.choice((0.0, 8.0)) for side in ("top", "left", "right")}
    root = Node(name, name, "box", Map(grid(rng, follows) | edges), tuple(children))
    values = AxisValue("plain", "plain"), AxisValue("other", "other")
    axes, rules = (Axis("look", "Look", values, "plain"),), []
    when = Map({"look": "other"})
    for prop, value in (
        ("subgrid", rng.choice(FOLLOWS)),
        ("columns", rng.choice(COLUMNS[:4])),
        ("flow", rng.choice(("column", "row"))),
    ):
        if rng.random() < 0.3:
            rules.append(Rule(when, (name,), prop, value))
    return Component(name, name, root, axes, tuple(rules))


def instance(rng, name, component, said):
    style = {"component": component, "width": rng.choice(SIZES)} | said
    if rng.random() < 0.4:
        style["choice:look"] = "other"
    return Node(name, name, "instance", Map(style))


def made(seed: int) -> Document:
    """The document of a seed."""
    rng = random.Random(f"cards {seed}")
    inner = card(rng, "inner")
    outer = card(rng, "outer", "inner")
    spans = {"row-span": float(rng.randint(1, 4)), "column-span": float(rng.choice((1, 1, 2)))}
    cards = tuple(instance(rng, f"c{n}", "outer", spans) for n in range(rng.randint(2, 4)))
    style = grid(rng, "none") | {"width": rng.choice((GROW, fixed(420.0), SIZES[2]))}
    listed = Node("list", "list", "box", Map(style | {"area": "main"}), cards)
    side = Node("side", "side", "box", Map({"width": GROW, "height": fixed(30.0), "area": "side"}))
    lone = instance(rng, "lone", "outer", {})
    areas = rng.choice(("side main", "main / side", "side . / main main"))
    page = {"flow": "grid", "areas": areas, "columns": (fixed(80.0), GROW)}
    size = {"width": fixed(640.0), "height": fixed(700.0)}
    root = Node("page", "page", "box", Map(page | size), (side, listed, lone))
    components = Map({"inner": inner, "outer": outer})
    screens = Map({"page": Screen("page", "Page", root)})
    return Document("piers", components, screens, ("inner", "outer"), ("page",))


def run(seed: int, count: int):
    """Documents from a seed on, each with what differs."""
    with judging() as judge:
        whole = WholeJudge(judge)
        for n in range(count):
            document = made(seed + n)
            try:
                told = whole.differences(document) or [
                    f"right to left: {one}" for one in whole.differences(document, True)
                ]
            except Exception as problem:  # whatever it is, it is a finding
                told = [told_of(problem)]
            failure = Failure("cards", seed + n, told[0][:300], told[0][:80]) if told else None
            yield n + 1, failure
