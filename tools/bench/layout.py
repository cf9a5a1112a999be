"""The layout part of `bin/bench`: lists of cards, laid out by us, by Chromium and by an
independent library, in one run on the same trees.

What is compared is interleaved, each sample bracketed by a loop of plain Python; samples from
moments in which that loop was slow are left out, since this machine's speed swings by two.
"""

from __future__ import annotations

import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from selenium import webdriver
from stretchable import Node
from stretchable.style import AUTO, FlexDirection

from demo.drawing import box, grow, instance, text
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Component, ComponentProperty, Document, Screen
from outgrowth.core.document.values import FromProperty, words
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_property, add_screen
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout, Placed
from outgrowth.core.paint import draw
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import LayoutNode
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FontBook

CONTENTS = 8
SAMPLES = 7


def cards(count: int, different: bool) -> Document:
    """A list of cards of eight boxes and texts each: with eight different words, or with
    every word another."""
    root = box(
        "card",
        box("mark", width=24, height=24, radius=12),
        box(
            "middle",
            text("title", FromProperty("title"), font_weight=600),
            box(
                "facts",
                text("left", "40 min", font_size=13),
                text("right", "24 seats", font_size=13),
                flow="row",
                gap=8,
            ),
            flow="column",
            gap=4,
            width=grow,
        ),
        text("price", "12.50"),
        flow="row",
        gap=12,
        padding=(10, 16),
        align="center",
        width=grow,
    )
    document = Document("Cards")
    document = add_component(document, Component("card", "Card", root))
    prop = ComponentProperty("title", "Title", "text", words("Skerry"))
    document = add_property(document, "card", prop)
    listed = [
        instance(f"c{n}", "card", choices={"title": f"Sailing {n if different else n % CONTENTS}"})
        for n in range(count)
    ]
    column = box("list", *listed, flow="column", gap=8, width=390)
    return add_screen(document, Screen("list", "List", column))


class Ours:
    """Everything from a document to its display list, remembering as the program does."""

    def __init__(self, fonts: FontBook) -> None:
        self._resolver = Resolver()
        self._layout = Layout(Typesetter(fonts))

    def drawn(self, document: Document) -> Placed:
        scene = self._resolver.screen(document, document.screens["list"])
        placed = self._layout.place(scene.layout)
        draw(scene, placed)
        return placed


class Sampled(NamedTuple):
    """Median ms of the quiet samples, and how many there were."""

    ms: float
    of: int


def calibrated() -> float:
    start = time.perf_counter()
    total = 0
    for n in range(20_000):
        total += n * n % 7
    return time.perf_counter() - start


def interleaved(acts: dict[str, Callable[[int], float]], samples: int) -> dict[str, Sampled]:
    """Each act in turn, again and again; an act gives its own ms. Samples beside a slow
    calibration are dropped."""
    found: dict[str, list[tuple[float, float]]] = {name: [] for name in acts}
    for n in range(samples):
        for name, act in acts.items():
            before = calibrated()
            ms = act(n)
            found[name].append((max(before, calibrated()), ms))
    quiet = min(loop for listed in found.values() for loop, _ in listed) * 1.35
    kept = {}
    for name, listed in found.items():
        calm = [ms for loop, ms in listed if loop <= quiet] or [ms for _, ms in listed]
        kept[name] = Sampled(statistics.median(calm), len(calm))
    return kept


def timed(act: Callable[[], object]) -> float:
    start = time.perf_counter()
    act()
    return (time.perf_counter() - start) * 1000


_FULL = """
const list = document.querySelector('[data-at=""]'); list.style.display = "none";
list.getBoundingClientRect(); const start = performance.now();
list.style.display = "flex"; list.getBoundingClientRect(); return performance.now() - start;
"""
_SHARED = """
document.getElementById("shared").textContent =
  '[data-at]:not([data-at=""]):not([data-at*="/"]) { padding: ' + (10 + arguments[0] % 9) +
  'px 16px !important }';
const start = performance.now();
document.querySelector('[data-at=""]').getBoundingClientRect();
return performance.now() - start;
"""
_ONE = """
const text = document.querySelector('[data-at="5/1/0"]');
text.textContent = "Sailing by night " + arguments[0];
const start = performance.now();
document.querySelector('[data-at=""]').getBoundingClientRect();
return performance.now() - start;
"""


def bench_layout(fonts: FontBook, chromium: webdriver.Chrome, counts: tuple[int, ...]) -> None:
    print(f"\n{'cards':<8}{'':<34}{'ours':>9}{'Chromium':>10}{'ratio':>7}{'library':>9}")
    for different in (False, True):
        print("every title another" if different else "eight different titles")
        for count in counts:
            _compared(fonts, chromium, count, different)


def _compared(fonts: FontBook, chromium: webdriver.Chrome, count: int, different: bool) -> None:
    document = cards(count, different)
    ours = Ours(fonts)
    ours.drawn(document)
    scene = Resolver().screen(document, document.screens["list"])
    placed = Layout(Typesetter(fonts)).place(scene.layout)
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "list.html"
        html = page(scene, placed, "list").replace("</head>", '<style id="shared"></style></head>')
        file.write_text(html)
        chromium.get(file.as_uri())
        chromium.execute_script("return document.fonts.ready.then(() => 1)")
        run = chromium.execute_script
        shared = [
            set_properties(document, Place("card"), {"padding-left": 16.0 + n % 9})
            for n in range(SAMPLES)
        ]
        one = [
            set_properties(
                document, Place("list", ("c5",)), {CHOICE + "title": f"Sailing by night {n}"}
            )
            for n in range(SAMPLES)
        ]
        nothing, again, other = (
            lambda n: timed(lambda: Ours(fonts).drawn(document)),
            lambda n: timed(lambda: ours.drawn(shared[n])),
            lambda n: timed(lambda: ours.drawn(one[n])),
        )
        rows = (
            ("from nothing to display list", nothing, _FULL),
            ("one edit to the shared part", again, _SHARED),
            ("one title changed", other, _ONE),
        )
        library = _library(scene.layout, fonts) if count <= 1000 else None
        for name, act, script in rows:
            ours.drawn(document)
            acts = {"ours": act, "theirs": lambda n, s=script: float(run(s, n))}
            if library is not None and script is _FULL:
                acts["library"] = lambda n: timed(library)
            found = interleaved(acts, SAMPLES if count < 10_000 else 3)
            a, b = found["ours"].ms, found["theirs"].ms
            third = f"{found['library'].ms:>9.1f}" if "library" in found else f"{'':>9}"
            print(f"{count:<8}{name:<34}{a:>9.2f}{b:>10.2f}{a / max(b, 0.01):>7.2f}{third}")


def _library(node: LayoutNode, fonts: FontBook) -> Callable[[], object]:
    """The same boxes in Taffy, by the package stretchable; texts as boxes of their size."""
    sizer = Layout(Typesetter(fonts))

    def made(part: LayoutNode, flow: str) -> Node:
        style: dict[str, object] = {}
        s = part.style
        if part.kind == "text":
            style["size"] = (sizer.intrinsic(part)[1], s.font_size * s.line_height)
        else:
            style["flex_direction"] = FlexDirection[s.flow.upper()]
            style["gap"] = (s.gap, s.gap)
            style["padding"] = (s.padding_top, s.padding_right, s.padding_bottom, s.padding_left)
            if s.width.mode == "fixed":
                style["size"] = (s.width.amount, s.height.amount or AUTO)
            if s.width.mode == "grow" and flow == "row":
                style |= {"flex_grow": 1.0, "flex_basis": 0}
        return Node(*[made(child, s.flow) for child in part.children], **style)

    tree = made(node, "column")

    def laid() -> None:
        tree.mark_dirty()
        tree.compute_layout()

    return laid
