"""Random trees over every row of the property table that decides sizes and places, laid out by
us and, from our own web page of them, by Chromium.

What a tree may say comes from the table alone: kinds, types and bounds; nothing here knows how the
engine works.
"""

from __future__ import annotations

import random
import re
import tempfile
import time
from pathlib import Path

from immutables import Map

from outgrowth.core.document.formulas import canonical, is_share
from outgrowth.core.document.grid_areas import AreasType, AreaType
from outgrowth.core.document.grid_tracks import TracksType
from outgrowth.core.document.properties import TABLE
from outgrowth.core.document.records import Asset
from outgrowth.core.document.types import (
    ChoiceType,
    FlagType,
    LimitType,
    NumberType,
    SizeType,
)
from outgrowth.core.document.values import FIT, GridTrack, Picture, Run, Size
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.scene import Interner, SceneParts
from outgrowth.core.text import Typesetter
from outgrowth.resources import FONTS, PICTURES

_SETTLED_S = 0.4
TOLERANCE = 0.5
"""Px that an edge may differ by; a browser rounds lengths to 1/64."""

ROWS = [row for row in TABLE.values() if row.affects == "layout" and row.name != "picture"]
VIEW = Asset("skerry.png", "image/png", (PICTURES / "skerry.png").read_bytes())
SEEN = Picture(VIEW.digest, 520.0, 320.0)
WORDS = (
    "Skerry", "The sea is calm today", "Berth 2, gate B", "ferry", "Departure 10:15-11:45",
    "and/or", "inter\u00adisland ser\u00advice", "A\nB", "Mail, freight & cars", "1/2 price", "",
    "north-west", "(only on Sundays)", "Tickets: 12.50",
)  # fmt: skip

AREAS = ("", "head head / side main", "head . side", "main / main / head", ". head / side head")

Tree = tuple[str, dict, tuple]
"""Kind, what it says, children."""


def value(rng, row):
    """A value of the row's type, of a size that a screen has."""
    kind = row.type
    if isinstance(kind, FlagType):
        return rng.random() < 0.4
    if isinstance(kind, ChoiceType):
        return rng.choice(kind.options)
    if isinstance(kind, SizeType):
        return size(rng)
    if isinstance(kind, LimitType):
        if rng.random() < 0.1:
            return formula(rng)
        relative = rng.random() < 0.3
        return (
            Size("percent", float(rng.randint(5, 120))) if relative else float(rng.randint(0, 90))
        )
    if isinstance(kind, TracksType):
        return tracks(rng)
    if isinstance(kind, NumberType):
        return number(rng, row, kind)
    if isinstance(kind, AreasType | AreaType):
        return rng.choice(AREAS if isinstance(kind, AreasType) else ("", "head", "side", "gone"))
    if row.name == "content":
        bold = rng.random() < 0.3
        return tuple(Run(rng.choice(WORDS), bold and n % 2 == 1) for n in range(rng.randint(1, 3)))
    return rng.choice(("Figtree", "Atkinson Hyperlegible Next"))


def number(rng, row, kind):
    if row.name == "aspect":
        return round(rng.uniform(0.3, 3.0), 2)
    if row.name in ("font-weight", "font-size", "line-height", "letter-spacing", "max-lines"):
        choices = {
            "font-weight": (300.0, 400.0, 500.0, 700.0, 800.0),
            "font-size": (11.0, 14.0, 16.0, 21.0, 40.0),
            "line-height": (1.0, 1.2, 1.4, 2.0),
            "letter-spacing": (-0.5, 0.0, 1.0),
            "max-lines": (0.0, 1.0, 2.0),
        }
        return rng.choice(choices[row.name])
    if row.name.startswith(("column-", "row-")):
        return float(rng.randint(int(kind.minimum), 4))
    low = -9 if kind.minimum < 0 else 0
    return float(rng.randint(low, 24))


def size(rng):
    mode = rng.choice(
        ("fit", "fit", "fixed", "fixed", "grow", "grow", "percent", "formula", "chars")
    )
    if mode == "fit":
        return FIT
    if mode == "formula":
        return formula(rng)
    amounts = {"fixed": (0, 90), "grow": (0, 3), "percent": (0, 130), "chars": (0, 12)}
    return Size(mode, float(rng.randint(*amounts[mode])))


def formula(rng, most=3):
    """A sum or a bound of lengths, as deep as people write them."""
    return Size("formula", 0.0, canonical(_sum(rng, most)))


def _sum(rng, depth):
    act = rng.choice(("+", "-", "*", "min", "max", "clamp")) if depth else ""
    if act in ("min", "max", "clamp"):
        count = 3 if act == "clamp" else rng.randint(1, 3)
        return f"{act}({', '.join(_sum(rng, rng.randrange(depth)) for _ in range(count))})"
    if act == "*":
        return f"{_sum(rng, 0)} * {rng.choice((0.5, 1.5, 2, 0.25))}"
    if act:
        return f"({_sum(rng, rng.randrange(depth))} {act} {_sum(rng, rng.randrange(depth))})"
    unit = rng.choice(("px", "px", "%", "%", "ch"))
    most = {"px": 120, "%": 110, "ch": 12}[unit]
    return f"{rng.randint(0, most)}{unit}"


def tracks(rng):
    """A grid's columns or rows; now and then one of them comes as often as there is room."""
    found = [bounded(rng) if rng.random() < 0.25 else track(rng) for _ in range(rng.randint(0, 4))]
    if rng.random() < 0.25:
        found = [t if t.mode in ("fixed", "percent") else bounded(rng, True) for t in found[:2]]
        often, how = bounded(rng, True), rng.choice(("fit", "fit", "fill"))
        often = GridTrack(often.mode, often.amount, "", getattr(often, "least", None), how)
        found.insert(rng.randint(0, len(found)), often)
    return TracksType().check(tuple(found))


def _of_whole_size(track):
    """Whether it depends on how large the grid is as a whole: by per cent, or as often as fits."""
    modes = (track.mode, getattr(getattr(track, "least", None), "mode", ""))
    return "percent" in modes or bool(getattr(track, "repeat", ""))


def bounded(rng, known=False):
    """A column or row between two sizes; `known` by numbers alone."""
    fixed = Size("fixed", float(rng.randint(5, 60)))
    share = Size("percent", float(rng.randint(5, 40)))
    least = rng.choice((fixed, fixed, share) if known else (fixed, share, FIT))
    most = track(rng)
    return GridTrack(most.mode, most.amount, "", least)


def track(rng):
    mode = rng.choice(("fit", "fixed", "grow", "grow", "percent"))
    amounts = {"fit": (0, 0), "fixed": (5, 70), "grow": (0, 3), "percent": (5, 60)}
    return FIT if mode == "fit" else Size(mode, float(rng.randint(*amounts[mode])))


def said(rng, kind, often):
    # Each row by itself, so that trees stay what they are when the table has another one.
    seed, style = rng.getrandbits(32), {}
    for row in ROWS:
        of_row = random.Random(f"{seed} {row.name}")
        if kind in row.kinds and of_row.random() < often:
            style[row.name] = value(of_row, row)
    if kind == "image":
        style["picture"] = SEEN
        style.setdefault("aspect", 520.0 / 320.0)
        if not style["aspect"]:
            style["aspect"] = 520.0 / 320.0
    if kind == "text":
        style.setdefault("content", (Run(rng.choice(WORDS)),))
        if style.get("max-lines"):
            # Chromium leaves the last line untrimmed where just as many lines are allowed.
            style.pop("trim", None)
    return style


def tree(rng, most=60, depth=6, rich=""):
    """A tree of at most so many nodes, so deep; its root is a box of a width. Half of the boxes of
    one that is rich in "grids" are grids; in "lines", their children flow in lines, grow from a size
    and give way by shares."""
    left = [rng.randint(most // 2, most)]
    often = rng.choice((0.08, 0.15, 0.25))

    def node(level, kind):
        left[0] -= 1
        style = said(rng, kind, often)
        if rich == "lines":
            style |= in_lines(rng, kind)
        if rich == "grids" and kind == "box" and rng.random() < 0.5:
            style |= {"flow": "grid", "columns": tracks(rng)}
            style |= {"rows": tracks(rng)} if rng.random() < 0.4 else {}
            if rng.random() < 0.4:
                spans = {f"{side}-span": float(rng.randint(1, 3)) for side in ("column", "row")}
                style |= {"subgrid": rng.choice(("columns", "rows", "both"))} | spans
        children = []
        if kind == "box":
            for _ in range(rng.randint(2, 7) if level < 3 else rng.randint(1, 4)):
                if left[0] > 0:
                    deeper = level < depth and rng.random() < (0.8 if level < 3 else 0.5)
                    inner = (
                        "box" if deeper else rng.choice(("text", "text", "shape", "image", "box"))
                    )
                    children.append(node(level + 1, inner))
        return kind, style, tuple(children)

    kind, style, children = _without_known(node(1, "box"))
    alone = {"width": Size("fixed", float(rng.randint(120, 600)))}
    return kind, style | alone, children


def in_lines(rng, kind):
    """What a part says that flows in lines and has parts that do."""
    style = {"shrink": rng.choice((0.0, 0.4, 1.0, 2.0))} if rng.random() < 0.3 else {}
    if rng.random() < 0.3:
        base = rng.choice((float(rng.randint(0, 120)), formula(rng), Size("percent", 40.0)))
        base = Size("chars", 6.0) if rng.random() < 0.1 else base
        grows = Size("grow", float(rng.randint(0, 3)))
        style |= {"grow-from": "size", "grow-base": base}
        style |= {side: grows for side in ("width", "height") if rng.random() < 0.7}
    if kind == "box" and rng.random() < 0.5:
        style |= {"flow": rng.choice(("row", "row", "column")), "wrap": rng.random() < 0.8}
        style |= {"lines-reversed": rng.random() < 0.7}
        style |= {"align": "baseline"} if rng.random() < 0.4 else {}
    return style


def _without_known(tree: Tree) -> Tree:
    """The tree without what is known to come out otherwise (docs/layout.md): per cent of a
    height where it meets a proportion or a grid's row, and pictures that follow that, which
    browsers take for the columns too; per cent in the tracks of a subgrid and
    repeated ones, which they count by the size that it has at last; areas in one; words in a column that wraps, which they measure at one width and set
    in another; what sticks where a flow reaches out before its beginning."""
    kind, style, children = tree
    inner = []
    if style.get("subgrid", "none") != "none":
        own = {n: style[n] for n in ("columns", "rows") if n in style}
        style = style | {n: tuple(t for t in ts if not _of_whole_size(t)) for n, ts in own.items()}
    placed = {style.get(name, "start") for name in ("justify", "align", "align-content")}
    turned = style.get("reversed") or style.get("lines-reversed")
    backwards = style.get("mirrored") or turned or placed - {"start", "stretch"}
    if style.get("wrap") and style.get("flow") == "column" and _speaks(tree):
        style = {k: v for k, v in style.items() if k != "wrap"}
    known = style.get("flow") != "free" and getattr(style.get("height"), "mode", "") == "fixed"
    for child in map(_without_known, children):
        if child[1].get("aspect") and not known:
            said = {k: v for k, v in child[1].items() if k not in _SHARED or not _counts(k, v)}
            child = (child[0], said, child[2])
        if style.get("subgrid", "none") != "none":
            child = (child[0], {k: v for k, v in child[1].items() if k != "area"}, child[2])
        if backwards:
            child = _without(child, {"sticks"})
        if style.get("flow") == "grid":
            child = _by_itself(_without(child, _SHARED))
        inner.append(child)
    return kind, style, tuple(inner)


def _speaks(tree: Tree) -> bool:
    return tree[0] == "text" or any(map(_speaks, tree[2]))


_SHARED = {"height", "min-height", "max-height"}


def _by_itself(tree: Tree) -> Tree:
    """The tree with pictures that have a size of their own."""
    kind, style, children = tree
    if kind == "image":
        said = {k: v for k, v in style.items() if k not in ("width", "height") or v.mode == "fixed"}
        return kind, said, children
    return kind, style, tuple(map(_by_itself, children))


def _counts(name: str, value: object) -> bool:
    return name not in _SHARED or (isinstance(value, Size) and is_share(value))


def _without(tree: Tree, names: set[str]) -> Tree:
    """The tree without these; of sizes only where they are per cent."""
    kind, style, children = tree
    said = {k: v for k, v in style.items() if k not in names or not _counts(k, v)}
    return kind, said, tuple(_without(child, names) for child in children)


class Judge:
    """Compares our layout of trees with that of a running Chromium."""

    def __init__(self, chromium, fonts, folder: Path) -> None:
        self._chromium = chromium
        self._intern = Interner()
        self._layout = Layout(Typesetter(fonts))
        self._styles: set[str] = set()
        file = folder / "trees.html"
        file.write_text(page(*self.laid(("box", {}, ())), "trees"))
        chromium.get(file.as_uri())
        # Once through all words and letters, so that whatever a browser looks for late is there.
        for family in ("Figtree", "Atkinson Hyperlegible Next"):
            for weight in (300.0, 400.0, 500.0, 700.0, 800.0):
                look = {"font-family": family, "font-weight": weight, "max-lines": 1.0}
                slanted = look | {"font-style": "italic"}
                texts = [
                    ("text", said | {"content": (Run(word), Run(word, True))}, ())
                    for word in WORDS
                    for said in (look, slanted)
                ]
                self.differences(("box", {"flow": "column"}, tuple(texts)))
        time.sleep(_SETTLED_S)

    def scene(self, tree: Tree):
        kind, style, children = tree
        inner = tuple(self.scene(child) for child in children)
        node = self._intern.layout(kind, dict(style), tuple(c.layout for c in inner))
        ids = tuple(str(n) for n in range(len(inner)))
        return self._intern.scene(SceneParts(kind, node, self._intern.paint({}), inner, ids, ids))

    def laid(self, tree: Tree):
        return self._layout.view(self.scene(tree))

    def html(self, tree: Tree) -> str:
        return page(*self.laid(tree), "tree", Map({VIEW.digest: VIEW}))

    def differences(self, tree: Tree) -> list[tuple[str, tuple, list]]:
        """The nodes that stand elsewhere in Chromium: place, our rectangle, its own."""
        scene, placed = self.laid(tree)
        text = page(scene, placed, "tree", Map({VIEW.digest: VIEW}))
        faces = [f for f in re.findall(r"@font-face \{.*?\}", text) if f not in self._styles]
        self._styles.update(faces)
        body = text.partition("<body>")[2].partition("</body>")[0]
        theirs = self._chromium.execute_async_script(_PUT, "\n".join(faces), body)
        found = []
        for at, rect in rectangles(placed):
            if any(not abs(a - b) <= TOLERANCE for a, b in zip(rect, theirs[at], strict=True)):
                found.append((at, tuple(round(n, 2) for n in rect), theirs[at]))
        return found


def rectangles(placed, at="", x=0.0, y=0.0):
    """Our rectangles by path of child indices."""
    yield at, (x, y, placed.width, placed.height)
    for n, child in enumerate(placed.children):
        path = f"{at}/{n}" if at else str(n)
        yield from rectangles(child, path, x + placed.xs[n], y + placed.ys[n])


_PUT = """
const [faces, body, done] = [arguments[0], arguments[1], arguments[arguments.length - 1]];
if (faces) {
  const style = document.createElement("style");
  style.textContent = faces;
  document.head.append(style);
}
document.body.innerHTML = body;
const waiting = [...document.images].map(image => image.decode().catch(() => null));
document.body.getBoundingClientRect();
const read = [...document.fonts].map(face => face.load());
Promise.all([...read, ...waiting]).then(() => document.fonts.ready).then(() => {
  const found = {};
  for (const node of document.querySelectorAll("[data-at]")) {
    const r = node.getBoundingClientRect();
    found[node.dataset.at] = [r.x, r.y, r.width, r.height];
  }
  done(found);
});
"""


def shrunk(tree: Tree, fails) -> Tree:
    """A smaller tree that still fails: parts and words left out as long as it does."""
    again = True
    while again:
        again = False
        for smaller in _smaller(tree):
            if _without_known(smaller) == smaller and fails(smaller):
                tree, again = smaller, True
                break
    return tree


def _smaller(tree: Tree):
    kind, style, children = tree
    for n, child in enumerate(children):
        rest = children[:n] + children[n + 1 :]
        yield kind, style, rest
        if child[2]:
            yield kind, style, children[:n] + child[2] + children[n + 1 :]
    for name in style:
        if name not in ("picture", "content") and (kind, name) != ("image", "aspect"):
            yield kind, {k: v for k, v in style.items() if k != name}, children
    if kind == "image" and style["aspect"] != 520.0 / 320.0:
        yield kind, style | {"aspect": 520.0 / 320.0}, children
    if kind == "text" and style["content"] != (Run("ferry"),):
        yield kind, style | {"content": (Run("ferry"),)}, children
    for n, child in enumerate(children):
        for smaller in _smaller(child):
            yield kind, style, (*children[:n], smaller, *children[n + 1 :])


def run(seed: int, count: int, rich: str = ""):
    """How many trees were compared, and each that differs, made small; what they are rich in see
    `tree`."""
    from outgrowth.core.text.fonts import shipped
    from tests.browser.conftest import started
    from tests.fuzz.report import Failure

    with tempfile.TemporaryDirectory() as folder:
        chromium = started(folder)
        try:
            judge = Judge(chromium, shipped(FONTS), Path(folder))
            for n in range(count):
                grown = tree(random.Random(seed + n), rich=rich)
                failure = None
                if judge.differences(grown):
                    small = shrunk(grown, judge.differences)
                    at, ours, theirs = judge.differences(small)[0]
                    what = f"{_said(small)}: {at or 'root'} is {ours}, in Chromium {theirs}"
                    failure = Failure("layout", seed + n, what, f"{small!r}\n\n{judge.html(small)}")
                yield n + 1, failure
        finally:
            chromium.quit()


def _said(tree: Tree) -> str:
    kind, style, children = tree
    words = " ".join(f"{k}={_short(v)}" for k, v in style.items() if k != "picture")
    inside = f" [{'; '.join(map(_said, children))}]" if children else ""
    return f"{kind} {words}{inside}"


def _short(value: object) -> str:
    if isinstance(value, GridTrack):
        least = f"{_short(value.least)}.." if value.least is not None else ""
        return f"{value.repeat}*"[: 9 * bool(value.repeat)] + least + _short(value.most)
    if isinstance(value, Size) and value.mode == "formula":
        return value.formula
    if isinstance(value, Size):
        return f"{value.mode}:{value.amount:g}"
    if isinstance(value, tuple):
        return "(" + ",".join(_short(getattr(v, "text", v)) for v in value) + ")"
    return f"{value:g}" if isinstance(value, float) else str(value)
