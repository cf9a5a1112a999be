"""`bin/bench`: how long the things take that a designer waits for.

Times here are noisy, so each figure is the median (and the 95th percentile) of many, beside
a calibration loop of plain Python that ran in the same minute: compare ratios, not times.
"""

from __future__ import annotations

import compileall
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import msgspec
from immutables import Map
from PyQt6.QtWidgets import QApplication

import outgrowth
from demo import ferry_line
from demo.drawing import box, instance
from outgrowth.app.main import application
from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.color import Color
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    Document,
    Node,
    Screen,
)
from outgrowth.core.document.values import fixed
from outgrowth.core.document.variants import variants
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_screen
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import shipped_engine
from tests.browser.conftest import started
from tools.bench.hands import bench_hands
from tools.bench.layout import bench_layout
from tools.bench.motion import bench_motion
from tools.bench.overviews import bench_overview
from tools.bench.review import bench_review
from tools.bench.team import bench_team

ROWS, COLUMNS = 40, 25
EDITS = 60


def crowd(document: Document) -> Document:
    """The demo with a screen of 1,000 buttons, all of which are in sight."""
    rows = [
        box(f"row-{r}", *(_button(r, c) for c in range(COLUMNS)), flow="row", gap=4)
        for r in range(ROWS)
    ]
    root = box("crowd", *rows, flow="column", gap=4, width=3400, height=1800)
    return add_screen(document, Screen("crowd", "Crowd", root))


def _button(row: int, column: int) -> Node:
    kind = {"kind": "quiet"} if (row + column) % 2 else {}
    return instance(f"b-{row}-{column}", "button", choices=dict(kind))


def timed(act: Callable[[int], object], times: int = EDITS) -> list[float]:
    """Milliseconds of each call."""
    found = []
    for n in range(times):
        start = time.perf_counter()
        act(n)
        found.append((time.perf_counter() - start) * 1000)
    return found


def said(what: str, found: list[float]) -> None:
    high = statistics.quantiles(found, n=20)[-1] if len(found) > 1 else found[0]
    print(f"{what:<64}{statistics.median(found):>9.2f} ms{high:>9.2f} ms")


def calibration(_: int = 0) -> int:
    """A fixed amount of plain Python."""
    total = 0
    for n in range(100_000):
        total += n * n % 7
    return total


def fill(n: int) -> Color:
    return Color(0.1, 0.2 + n % 50 / 100, 0.4)


def start_up() -> tuple[list[float], list[float]]:
    """From starting a process to the first painted window, and to one whose panels are full
    and which waits for a hand, in fresh processes."""
    compileall.compile_dir(str(Path(outgrowth.__file__).parent), quiet=1)
    runs = [_started() for _ in range(7)]
    return [first for first, _ in runs], [full for _, full in runs]


def _started() -> tuple[float, float]:
    script = (
        "import time\n"
        "from outgrowth.app.main import WindowManager, application\n"
        "from outgrowth.app.theme import LIGHT\n"
        "from outgrowth.resources import DEMO\n"
        "app = application(LIGHT); window = WindowManager(LIGHT).open(DEMO)\n"
        "window.repaint(); print(time.time())\n"
        "app.processEvents(); window.repaint(); print(time.time())"
    )
    begin = time.time()
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, check=True)
    first, full = (float(line) - begin for line in done.stdout.split())
    return first * 1000, full * 1000


def main(only: str) -> None:
    """All figures, or those of one room (`bin/bench hands`, `overviews`, `review`, `team`)."""
    print(f"{'':<64}{'median':>12}{'95th pct':>12}")
    said("calibration: 100,000 rounds of plain Python", timed(calibration, 20))
    if only == "team":
        bench_team(said)
        return
    if only == "hands":
        app = application(LIGHT)
        bench_hands(many_variants(ferry_line()), said)
        app.quit()
        return
    if only == "overviews":
        app = application(LIGHT)
        bench_overview(said)
        app.quit()
        return
    if only == "review":
        app = application(LIGHT)
        bench_review(_window(ferry_line(), "boarding"), said)
        app.quit()
        return
    first, full = start_up()
    said("process start to the first painted window, demo open", first)
    said("the same, to a window whose panels are full", full)
    app = application(LIGHT)
    said("make the demo document", timed(lambda _: ferry_line(), 5))
    bench_crowd(app)
    bench_grid(app)
    bench_three_deep(app)
    bench_many_variants(app)
    bench_hands(many_variants(ferry_line()), said)
    bench_overview(said)
    bench_review(_window(ferry_line(), "boarding"), said)
    bench_team(said)
    with tempfile.TemporaryDirectory() as profile:
        chromium = started(profile)
        demo = ferry_line()
        bench_motion(crowd(demo), demo, shipped(FONTS), chromium, said)
        bench_layout(shipped(FONTS), chromium, (100, 1000, 10_000))
        chromium.quit()
    said("calibration: 100,000 rounds of plain Python", timed(calibration, 20))
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"{'peak memory':<64}{peak:>9.0f} MB")


def bench_crowd(app: QApplication) -> None:
    """A component with 1,000 instances on the screen bench: from edit to frame ready."""
    window = _window(crowd(ferry_line()), "crowd")
    workspace, canvas = window.workspace, window.canvas

    def frame(document: Document, panels: bool = False) -> None:
        workspace.drag(lambda _: document)
        canvas.repaint()
        if panels:
            workspace.refresh_panels()
            app.processEvents()  # paints what changed, and no more

    base = workspace.document
    place = Place("button")

    said(
        "edit of the fill of 1,000 instances → frame, bench",
        timed(lambda n: frame(set_properties(base, place, {"fill": fill(n)}))),
    )
    said(
        "edit of their padding → frame, bench",
        timed(lambda n: frame(set_properties(base, place, {"padding-left": 10.0 + n % 20}))),
    )
    said(
        "the same, and all panels follow",
        timed(lambda n: frame(set_properties(base, place, {"padding-left": 9.0 + n % 20}), True)),
    )
    one = Place("crowd", ("b-20-12",))
    said(
        "edit of one of the 1,000 → frame, bench",
        timed(lambda n: frame(set_properties(base, one, {"fill": fill(n)}))),
    )
    hover = Map(state="hover")
    said(
        "edit of their hover rule → frame, bench",
        timed(lambda n: frame(set_properties(base, place, {"gap": float(n % 9)}, hover))),
    )
    workspace.cancel_drag()
    bench_hover(window)
    window.workspace.save = lambda *_: True  # type: ignore[method-assign]  # nothing to keep
    workspace._saved = workspace.document
    window.close()
    app.processEvents()


def bench_hover(window: MainWindow) -> None:
    """Frames of a hover tween among 1,000 instances, in Live."""
    stage = window.live.stage
    stage.stop()
    runtime = stage.playback.runtime
    assert runtime is not None

    def frame(n: int) -> None:
        if n % 20 == 0:
            runtime.pointer_move(60.0 + n, 20.0)
        runtime.advance(8)
        stage.repaint()

    said("a frame of a hover tween among 1,000 instances, in Live", timed(frame, 120))


def bench_grid(app: QApplication) -> None:
    """The grid of the demo's button."""
    window = _window(ferry_line(), "button")
    workspace = window.workspace
    base = workspace.document

    def frame(n: int) -> None:
        edited = set_properties(base, Place("button"), {"gap": float(n % 20)})
        workspace.drag(lambda _: edited)
        window.grid.repaint()

    said("edit of the button on its grid → frame, bench", timed(frame))
    workspace.cancel_drag()
    window.close()
    app.processEvents()


def bench_many_variants(app: QApplication) -> None:
    """A component of six axes, 500 offered variants and 40 nodes, on its grid."""
    document = many_variants(ferry_line())
    opened = []
    for _ in range(3):
        window = _window(document, "button")
        start = time.perf_counter()
        window.workspace.open("many")
        window.repaint()
        app.processEvents()
        opened.append((time.perf_counter() - start) * 1000)
    said("open the grid of 6 axes, 500 variants, 40 nodes", opened)
    workspace, base = window.workspace, window.workspace.document

    def frame(edited: Document) -> None:
        workspace.drag(lambda _: edited)
        window.grid.repaint()

    place = Place("many", ("node-7",))
    cell = Map({f"axis-{n}": "v1" for n in range(6)})
    said(
        "an edit at full reach, all 500 → frame",
        timed(lambda n: frame(set_properties(base, place, {"gap": float(n)})), 12),
    )
    said(
        "an edit at one cell → frame",
        timed(lambda n: frame(set_properties(base, place, {"gap": float(n)}, cell)), 12),
    )
    workspace.cancel_drag()
    window.close()
    app.processEvents()


def many_variants(document: Document) -> Document:
    """4 · 4 · 4 · 3 · 3 · 1 = 576 combinations, 76 of them not offered."""
    nodes = [box(f"node-{n}", width=6, height=6, fill="#17495A") for n in range(39)]
    root = box("many-root", *nodes, flow="row", gap=1, padding=4)
    document = add_component(document, Component("many", "Many", root))
    for n, count in enumerate((4, 4, 4, 3, 3, 1)):
        values = tuple(AxisValue(f"v{v}", f"v{v}") for v in range(count))
        document = add_axis(document, "many", Axis(f"axis-{n}", f"Axis {n}", values, "v0"))
    for n in range(39):
        when = Map({f"axis-{n % 5}": f"v{n % 3}"})
        style = {"fill": fill(n), "width": fixed(4.0 + n % 5)}
        document = set_properties(document, Place("many", (f"node-{n}",)), style, when)
    component = document.components["many"]
    extra = list(variants(component))[-76:]
    trimmed = msgspec.structs.replace(component, not_offered=tuple(extra))
    components = document.components.set("many", trimmed)
    return msgspec.structs.replace(document, components=components)


def bench_three_deep(app: QApplication) -> None:
    """1,000 instances three deep: an edit of the innermost component."""
    document = ferry_line()
    inner = box("holder", instance("inner", "button"), flow="row")
    document = add_component(document, Component("holder", "Holder", inner))
    outer = box("outer", instance("middle", "holder"), flow="row")
    document = add_component(document, Component("outer", "Outer", outer))
    rows = [
        box(f"row-{r}", *(instance(f"o-{r}-{c}", "outer") for c in range(COLUMNS)), flow="row")
        for r in range(ROWS)
    ]
    root = box("deep", *rows, flow="column", width=3400, height=1800)
    document = add_screen(document, Screen("deep", "Deep", root))
    window = _window(document, "deep")
    workspace, base = window.workspace, window.workspace.document

    def frame(edited: Document) -> None:
        workspace.drag(lambda _: edited)
        window.canvas.repaint()

    place = Place("button")
    said(
        "edit of the innermost of 1,000 instances three deep → frame",
        timed(lambda n: frame(set_properties(base, place, {"padding-left": 10.0 + n % 20}))),
    )
    workspace.cancel_drag()
    window.close()
    app.processEvents()


def _window(document: Document, owner: str) -> MainWindow:
    window = MainWindow(Workspace(shipped_engine(), document, notices=WorkspaceSignals()), LIGHT)
    window.show()
    window.workspace.open(owner)
    window.repaint()
    QApplication.processEvents()
    return window


if __name__ == "__main__":
    main(next(iter(sys.argv[1:]), ""))
