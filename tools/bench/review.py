"""`bin/bench review`: looking again after an edit, and sheets of trials, beside a window."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtTest import QTest

from demo import ferry_line
from demo.drawing import box, instance
from outgrowth.app.window import MainWindow
from outgrowth.core.color import Color
from outgrowth.core.document.records import (
    Component,
    DesignToken,
    Document,
    Node,
    Screen,
)
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tokens import set_token
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.reviewer import Reviewer
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.core.trials.contents import SHIPPED, usual_contents
from outgrowth.core.trials.rooms import SHIPPED_ROOMS
from outgrowth.core.trials.sheet import Trials, all_trials
from outgrowth.resources import FONTS

Told = Callable[[str, list[float]], None]
_CELLS = 500


def _layout() -> Layout:
    return Layout(Typesetter(shipped(FONTS)))


def _shade(n: int) -> Color:
    return Color(0.1, 0.3 + (n % 40) / 100, 0.4)


def bench_review(window: MainWindow, said: Told) -> None:
    """All of it. The window shows the demo."""
    _after_edits(said)
    _beside_the_window(window, said)
    _sheet_in_the_window(window, said)
    _large(said)
    _sheets(said)


def _timed(reviewer: Reviewer, document: Document) -> tuple[float, float]:
    """How long a review takes, and its longest step (ms)."""
    begin = last = time.perf_counter()
    longest = 0.0
    for _ in reviewer.steps(document):
        now = time.perf_counter()
        longest, last = max(longest, now - last), now
    return (last - begin) * 1000, longest * 1000


def _told(what: str, times: tuple[float, float], said: Told) -> None:
    said(what, [times[0]])
    said("  its longest step", [times[1]])


def _after_edits(said: Told) -> None:
    document, reviewer = ferry_line(), Reviewer(_layout())
    _told("review of the demo from nothing", _timed(reviewer, document), said)
    edits: dict[str, Callable[[Document, int], Document]] = {
        "words of a screen": lambda d, n: set_properties(
            d, Place("boarding", ("wait",)), {"opacity": 0.9 + (n % 9) / 100}
        ),
        "a row of the timetable": lambda d, n: set_properties(
            d, Place("timetable-row"), {"gap": 10.0 + n % 7}
        ),
        "the button": lambda d, n: set_properties(d, Place("button"), {"fill": _shade(n)}),
        "a token": lambda d, n: set_token(d, "color.ink", DesignToken("color", _shade(n))),
    }
    for name, edit in edits.items():
        times = []
        for n in range(12):
            document = edit(document, n)
            times.append(_timed(reviewer, document))
        said(f"review of the demo after an edit of {name}", [t for t, _ in times])
        said("  its longest step", [step for _, step in times])


def _beside_the_window(window: MainWindow, said: Told) -> None:
    """From the edit to the count in the status line; the pause before it begins is not counted."""
    looking, results = window.looking, []
    for n in range(8):
        window.workspace.edit(
            "x", lambda d, n=n: set_properties(d, Place("button"), {"fill": _shade(n)})
        )
        window.review.look()
        begin = time.perf_counter()
        while looking.share < 1.0:
            QTest.qWait(1)
        results.append((time.perf_counter() - begin) * 1000)
    said("the same beside the window, in slices, to the count in the status line", results)


def _sheet_in_the_window(window: MainWindow, said: Told) -> None:
    """From the key to the first cell, and to all that all variants of the button have."""
    window.workspace.open("button")
    window.trying.variant_only = False
    firsts, wholes = [], []
    for _ in range(6):
        begin, first = time.perf_counter(), 0.0
        window.run_action("trials")
        while not window.trying.done:
            QTest.qWait(1)
            if not first and window.trying.cells:
                first = (time.perf_counter() - begin) * 1000
        wholes.append((time.perf_counter() - begin) * 1000)
        firsts.append(first)
        count = len(window.trying.cells)
        window.view.show_bench()
    said(f"a sheet of {count} cells in the window, from the key", wholes)
    said("  to its first cell", firsts)


def _large(said: Told) -> None:
    """A screen of 1,000 buttons, which is looked at by itself, and of 10,000, which is not."""
    for count in (1_000, 10_000):
        rows: list[Node] = [
            box(f"row-{r}", *[instance(f"b-{r}-{c}", "button") for c in range(25)], gap=8)
            for r in range(count // 25)
        ]
        root = box("crowd-root", *rows, flow="column", gap=8, width=2000)
        document = add_screen(ferry_line(), Screen("crowd", "Crowd", root))
        reviewer = Reviewer(_layout())
        _told(f"review of {count:,} buttons from nothing", _timed(reviewer, document), said)
        document = set_properties(document, Place("button"), {"fill": _shade(3)})
        _told("the same after an edit of the button", _timed(reviewer, document), said)


def _sheets(said: Told) -> None:
    document = ferry_line()
    for owner_id in ("button", "fare-card", "timetable-row", "calendar"):
        owner = document.owner(owner_id)
        assert owner is not None
        contents = SHIPPED if isinstance(owner, Component) else usual_contents(document, owner)
        wanted = all_trials(document, owner, contents, SHIPPED_ROOMS)
        wanted = (wanted * (_CELLS // len(wanted) + 1))[:_CELLS]
        wholes, firsts = [], []
        for _ in range(3):
            stages = Trials(_layout())
            begin = time.perf_counter()
            cells = stages.cells(document, owner, wanted)
            next(cells)
            firsts.append((time.perf_counter() - begin) * 1000)
            count = 1 + sum(1 for _ in cells)
            wholes.append((time.perf_counter() - begin) * 1000)
            assert count == _CELLS
        said(f"a sheet of {_CELLS} cells of {owner.name}", wholes)
        said("  its first cell", firsts)
