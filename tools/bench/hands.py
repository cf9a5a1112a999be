"""Frames while the hand moves: pan, zoom and drag on a screen of 5,000 nodes, the grid of 500
variants scrolling, and Layers of 2,000 nodes."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from demo.drawing import box, text
from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.color import parse
from outgrowth.core.document.records import Document, Node, Screen
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.engine import shipped_engine

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
FRAMES = 60
Told = Callable[[str, list[float]], None]
FILLS = [parse(c) for c in ("#17495A", "#EDF4F5", "#F6F1E7", "#B8452B", "#D3DDDF")]


def sheet(count: int, across: int = 50) -> Document:
    """A free screen of this many own nodes: boxes, every fourth with words in it."""
    nodes: list[Node] = []
    n = made = 0
    while made < count:
        x, y = n % across * 50, n // across * 34
        inside = [text(f"t{n}", f"Berth {n}", **{"font-size": 10})] if n % 4 == 0 else []
        fill = FILLS[n % len(FILLS)]
        nodes.append(
            box(f"n{n}", *inside, x=x, y=y, width=44, height=28, fill=fill, flow="row", gap=2)
        )
        made += 1 + len(inside)
        n += 1
    root = box("sheet", *nodes, flow="free", width=across * 50, height=n // across * 34 + 34)
    return add_screen(Document("sheet"), Screen("sheet", "Sheet", root))


def opened(document: Document, owner: str) -> MainWindow:
    window = MainWindow(Workspace(shipped_engine(), document, notices=WorkspaceSignals()), LIGHT)
    window.show()
    window.workspace.open(owner)
    QApplication.processEvents()
    return window


def frames(act: Callable[[int], object], widget: object, times: int = FRAMES) -> list[float]:
    """Milliseconds of each move with the frame that shows it."""
    found = []
    for n in range(times):
        start = time.perf_counter()
        act(n)
        widget.repaint()  # type: ignore[attr-defined]  # a widget
        found.append((time.perf_counter() - start) * 1000)
    return found


def bench_hands(variants: Document, told: Told) -> None:
    """Prints the figures; `variants` is a document whose component “many” has 500 variants."""
    window = opened(sheet(5000), "sheet")
    canvas = window.canvas
    for name, zoom in (("whole", canvas.zoom), ("life size", 1.0)):
        canvas.set_zoom(zoom)
        canvas.repaint()
        told(
            f"pan over 5,000 nodes, {name}",
            frames(lambda n: canvas.pan_by(QPointF(3 if n % 20 < 10 else -3, 2)), canvas),
        )
    canvas.fit()
    told(
        "zoom over 5,000 nodes",
        frames(lambda n: canvas.set_zoom(canvas.zoom * (1.04 if n % 40 < 20 else 0.96)), canvas),
    )
    for name, zoom in (("whole", None), ("life size", 1.0)):
        canvas.fit() if zoom is None else canvas.set_zoom(zoom)
        node = window.workspace.owner.root.children[2040]
        window.workspace.select((node.id,))
        canvas.reveal((node.id,))
        canvas.repaint()
        at = canvas.rect_of((node.id,)).center()
        QTest.mousePress(canvas, LEFT, NONE, at.toPoint())
        canvas.gestures.go_on(at + QPointF(10, 0))
        told(
            f"drag of a box among 5,000 nodes, {name}",
            frames(lambda n, a=at: canvas.gestures.go_on(a + QPointF(10 + n % 30, n % 20)), canvas),
        )
        QTest.mouseRelease(canvas, LEFT, NONE, at.toPoint())
        window.workspace.undo()
    window.workspace._saved = window.workspace.document
    window.close()
    _layers(told)
    _variants(variants, told)


def _variants(variants: Document, told: Told) -> None:
    """A component of 500 variants and 40 nodes, its grid scrolling down and back."""
    window = opened(variants, "many")
    grid = window.grid_bench
    QTest.qWait(2500)  # all variants are measured
    bar = grid.frame.verticalScrollBar()
    most = max(bar.maximum(), 1)
    told(
        "grid of 500 variants, 40 nodes: scroll",
        frames(lambda n: bar.setValue((n * 90) % most), grid.frame.viewport()),
    )
    told(
        "the same again, all variants once seen",
        frames(lambda n: bar.setValue((n * 90) % most), grid.frame.viewport()),
    )
    window.close()


def _layers(told: Told) -> None:
    window = opened(sheet(2000), "sheet")
    layers, workspace = window.layers, window.workspace
    ids = [child.id for child in workspace.owner.root.children]

    def pick(n: int) -> None:
        workspace.select((ids[(n * 37) % len(ids)],))
        QApplication.processEvents()

    told("Layers of 2,000: select and show", frames(pick, layers.list))

    def edit(n: int) -> None:
        style_commands.set_style(workspace, {"opacity": 0.5 + n / 200})
        layers.refresh()

    told("Layers of 2,000: after an edit", frames(edit, layers.list, 30))
    bar = layers.list.verticalScrollBar()
    told("Layers of 2,000: scroll", frames(lambda n: bar.setValue(n * 120 % 40_000), layers.list))
    workspace._saved = workspace.document
    window.close()
