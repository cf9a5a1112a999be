"""A day's work in one process: files opened and closed, edits, every bench in and out, Live apart,
saves; what the process holds at the end of each file, as a table and a graph.

python -m tools.day [--files N] [--edits N] [--graph FILE.svg]
"""

from __future__ import annotations

import argparse
import gc
import os
import sys
import tempfile
import threading
from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QEvent
from PyQt6.QtWidgets import QApplication

from demo import ferry_line
from outgrowth.app.collecting import Collecting
from outgrowth.app.main import WindowManager, application
from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.core.document.records import walk
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.native import save
from outgrowth.core.resolve.ladder import Place


class Held(NamedTuple):
    """What the process holds after so many edits."""

    edits: int
    megabytes: float
    handles: int
    widgets: int
    threads: int


def held(edits: int) -> Held:
    """What it holds now, once what was to go has gone."""
    for _ in range(3):
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        QApplication.processEvents()
    gc.collect()
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return Held(
        edits,
        pages * os.sysconf("SC_PAGE_SIZE") / 1e6,
        len(list(Path("/proc/self/fd").iterdir())),
        len(QApplication.allWidgets()),
        threading.active_count(),
    )


def work(window: MainWindow, edits: int) -> None:
    """Edits of all components in turn, in the window, and a look at every bench."""
    workspace = window.workspace
    owners = list(workspace.document.components)
    benches = [name for name, row in window.benches.items() if not row.edits]
    for n in range(edits):
        if n % 25 == 0:
            workspace.open(owners[n // 25 % len(owners)])
            window.view.show_bench()
        owner = workspace.owner
        if owner is not None:
            nodes = [node for node in walk(owner.root) if node.kind != "instance"]
            place = Place(owner.id, () if n % 3 else (nodes[n % len(nodes)].id,))
            workspace.edit(
                f"step {n}",
                lambda d, p=place, v=n: set_properties(d, p, {"opacity": 1 - v % 7 / 50}),
            )
        if n % 10 == 0:
            workspace.refresh_panels()
            QApplication.processEvents()
        if n % 40 == 39:
            window.view.show(benches[n // 40 % len(benches)])
            QApplication.processEvents()
        if n % 50 == 49:
            window.run_action("live-window")
            QApplication.processEvents()
            apart = window.live.other_window
            if apart is not None:
                apart.close()
        if n % 60 == 59:
            for _ in range(20):
                workspace.undo()
            window.files.save_now()


def day(files: int, edits: int) -> list[Held]:
    """Opens files one after the other, and works in each."""
    app = application(LIGHT)
    collecting = Collecting(app)
    rows = []
    with tempfile.TemporaryDirectory() as room:
        path = Path(room) / "ferry.outgrowth.json"
        save(ferry_line(), path)
        manager = WindowManager(LIGHT, Path(room) / "state")
        for n in range(files):
            window = manager.open(path)
            QApplication.processEvents()
            work(window, edits)
            window.files.save_now()
            window.close()
            rows.append(held((n + 1) * edits))
            print(*rows[-1], sep="\t", flush=True)
        manager.system_fonts.stop()
    collecting.end()
    return rows


def graph(rows: Sequence[Held]) -> str:
    """The rows as lines over the number of edits, each from nothing to one and a half times its
    first value."""
    wide, high, left, step = 720, 84, 130, 100
    parts = []
    for number, name in enumerate(("megabytes", "handles", "widgets", "threads")):
        values = [getattr(row, name) for row in rows]
        most = max(*values, 1.5 * values[0], 1)
        top = 20 + number * step
        points = " ".join(
            f"{left + wide * row.edits / rows[-1].edits:.1f},{top + high * (1 - v / most):.1f}"
            for row, v in zip(rows, values, strict=True)
        )
        about = f"{values[0]:,.0f} to {values[-1]:,.0f}, {max(values):,.0f} at most"
        parts.append(
            f'<text x="8" y="{top + 30}">{name}</text><text x="8" y="{top + 48}" '
            f'class="small">{about}</text>'
            f'<path d="M{left} {top}V{top + high}H{left + wide}" class="axis"/>'
            f'<polyline points="{points}"/>'
        )
    last = rows[-1].edits
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {left + wide + 20} {step * 4 + 50}">'
        "<style>text{font:13px sans-serif;fill:#1b2a30}.small{font-size:9px}"
        "polyline{fill:none;stroke:#17495a;stroke-width:2}.axis{fill:none;stroke:#9aa}"
        "svg{background:#fff}</style>"
        + "".join(parts)
        + f'<text x="{left}" y="{step * 4 + 40}">0</text><text x="{left + wide - 90}" '
        f'y="{step * 4 + 40}">{last:,} edits</text></svg>\n'
    )


def main() -> int:
    parser = argparse.ArgumentParser(prog="tools.day", description=__doc__)
    parser.add_argument("--files", type=int, default=200)
    parser.add_argument("--edits", type=int, default=250, help="in each file")
    parser.add_argument("--graph", type=Path)
    given = parser.parse_args()
    rows = day(given.files, given.edits)
    if given.graph is not None:
        given.graph.write_text(graph(rows), "utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
