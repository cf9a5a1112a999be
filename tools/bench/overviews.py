"""How long the overview of 300 components takes to be seen, to be whole, and to scroll."""

from __future__ import annotations

import time

import msgspec
from PyQt6.QtCore import QCoreApplication
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from demo import ferry_line
from outgrowth.app.benches.overview_view import OverviewView
from outgrowth.core.document.records import Document
from outgrowth.core.edits.tree.components import add_component
from tools.bench.hands import Told, opened

COUNT = 300
FRAME_S = 1 / 60


def many_components(count: int = COUNT) -> Document:
    """The demo's components again and again, each copy with a colour of its own."""
    document = ferry_line()
    sources = list(document.in_order())
    for n in range(count - len(sources)):
        source = sources[n % len(sources)]
        copy = msgspec.structs.replace(source, id=f"copy-{n}", name=f"Copies {n // 40}/Part {n}")
        document = add_component(document, copy)
    return document


def bench_overview(told: Told) -> None:
    """The first picture, the last card measured, and frames while it is scrolled."""
    window = opened(many_components(), "button")
    app = QApplication.instance()
    assert app is not None
    begun = time.perf_counter()
    window.run_action("overview")
    view = window.overview.view
    view.viewport().repaint()  # type: ignore[union-attr]  # it has one
    first = time.perf_counter() - begun
    while view.measured_count < COUNT:
        app.processEvents()
    whole = time.perf_counter() - begun
    told("overview of 300 components: first seen", [first * 1000])
    told("overview of 300 components: all measured", [whole * 1000])
    told("overview of 300 components: a frame while it is scrolled", _scrolled(view, app))
    QTest.qWait(10)
    window.workspace._saved = window.workspace.document
    window.close()


def _scrolled(view: OverviewView, app: QCoreApplication) -> list[float]:
    """Milliseconds of each frame at 60 a second, 24 px further each time, from end to end."""
    frames = []
    bar = view.verticalScrollBar()
    assert bar is not None
    for top in range(0, bar.maximum(), 24):
        start = time.perf_counter()
        bar.setValue(top)
        view.viewport().repaint()  # type: ignore[union-attr]  # it has one
        frames.append((time.perf_counter() - start) * 1000)
        while time.perf_counter() - start < FRAME_S:
            app.processEvents()
    return frames
