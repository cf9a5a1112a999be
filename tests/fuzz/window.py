"""Random hands at real windows, while other programs work at their file.

Held throughout: no exception reaches the event loop; the document can always be saved and opened
again; what was told saved is in the file, unless another program wrote there since; a bench looks
as if it had been painted from nothing; what is undone to the start is what there was; and nothing
is left of a window that was closed.
"""

from __future__ import annotations

import os
import random
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QEvent, QPoint, QPointF, QTimer
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import (
    QApplication,
    QDialog,
    QFileDialog,
    QInputDialog,
    QMenu,
    QMessageBox,
    QScrollBar,
    QWidget,
)

from demo import ferry_line
from outgrowth.app.benches.canvas import Canvas
from outgrowth.app.benches.grid_bench import GridBench
from outgrowth.app.benches.inplace import InPlace
from outgrowth.app.benches.pen import Pen
from outgrowth.app.fields.name_line import NameLine
from outgrowth.app.main import WindowManager, application
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.document.records import Document
from outgrowth.core.exchange.native import FileRefusal, dumps, load, loads, save
from outgrowth.core.refusal import Refusal
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import shipped_engine
from tests.fuzz.edits import World, difference
from tests.fuzz.report import Failure, told
from tests.fuzz.window_deeds import DEEDS, Clock, lay_out_files

A_WINDOW = 150
"""Deeds before all windows are closed, and a new one is opened."""
_PICTURES = 0.04
"""Of the deeds, after how many the bench is painted once more from nothing."""
_SETTLED_S = 5.0
_ROUNDED = 40
"""Of 255: soft edges that are painted in parts are rounded otherwise, and Qt draws letters with
those that it keeps for nearly the same size (36 was the most that was seen)."""


def presses(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """Runs of random deeds; new windows for each run."""
    app = application(LIGHT)
    app.setCursorFlashTime(0)
    done = 0
    while done < count:
        with tempfile.TemporaryDirectory() as room, Answers(Path(room), seed):
            run = Run(seed, min(A_WINDOW, count - done), Path(room))
            for failure in run.failures():
                yield done, failure
        done += run.length
        seed += 1
        yield done, None


class Answers:
    """Whatever would wait for an answer gets one."""

    def __init__(self, room: Path, seed: int) -> None:
        self._rng = random.Random(seed)
        self._room = room
        self._real = [
            (owner, name, getattr(owner, name))
            for owner, names in (
                (QFileDialog, ("getOpenFileName", "getSaveFileName", "getExistingDirectory")),
                (QMessageBox, ("question",)),
                (QInputDialog, ("getText",)),
            )
            for name in names
        ]

    def __enter__(self) -> None:
        rng, room = self._rng, self._room
        discard = QMessageBox.StandardButton.Discard

        def to_open(*_: object, **__: object) -> tuple[str, str]:
            return str(rng.choice(["", *sorted(room.glob("files/*"))])), ""

        def to_save(*_: object, **__: object) -> tuple[str, str]:
            names = ("", "saved.outgrowth.json", "other.outgrowth", "script.json", "x.png")
            return (str(room / name) if (name := rng.choice(names)) else ""), ""

        def folder(*_: object, **__: object) -> str:
            return rng.choice(("", str(room / "out")))

        answers = {
            "getOpenFileName": to_open,
            "getSaveFileName": to_save,
            "getExistingDirectory": folder,
            "question": lambda *_, **__: discard,
            "getText": lambda *_, **__: (rng.choice(("dark", "", "{", "fog")), rng.random() < 0.7),
        }
        for owner, name, _ in self._real:
            setattr(owner, name, staticmethod(answers[name]))

    def __exit__(self, *_: object) -> None:
        for owner, name, real in self._real:
            setattr(owner, name, real)


class Run:
    """One seed: a file, a window on it, and at times another.

    window      the one in hand
    first       the one that the run began with
    saved       whether the last save told that it was one
    """

    def __init__(self, seed: int, length: int, room: Path) -> None:
        self.seed = seed
        self.length = length
        self.rng = random.Random(seed)
        self.problems: list[BaseException] = []
        self.trail: list[str] = []
        self.clock = Clock()
        (room / "files").mkdir()
        self.files = lay_out_files(room / "files")
        self.path = room / ("ferry.outgrowth" if seed % 2 else "ferry.outgrowth.json")
        self.start = _document(seed)
        self._widgets = _census()
        save(self.start, self.path)
        self._checked: Document | None = None
        self.saved = False
        self.manager = WindowManager(LIGHT, room / "state")
        self.window = self.first = self.manager.open(self.path)
        self.window.resize(1280, 800)
        QApplication.processEvents()

    def failures(self) -> Iterator[Failure]:
        before = sys.excepthook
        sys.excepthook = lambda kind, problem, trace: self.problems.append(problem)
        closer = QTimer()
        closer.timeout.connect(_close_menus)
        closer.start(40)
        try:
            with self.clock:
                for _ in range(self.length):
                    yield from self.deed()
                yield from self.undone()
        finally:
            closer.stop()
            sys.excepthook = before
            for window in list(self.manager.windows):
                self.close(window)
            self.manager.system_fonts.stop()
            if self.manager.theme is not LIGHT:
                application(LIGHT)  # the next begins with it
        yield from self.nothing_left()

    def deed(self) -> Iterator[Failure]:
        name, deed = self.rng.choice(DEEDS)
        note = name
        try:
            note = f"{name} {deed(self) or ''}"
            if not self.manager.windows:  # “Close” was found and pressed
                self.manager.new()
            if self.first not in self.manager.windows:  # an empty one gives way to what it opens
                self.first = self.window = self.manager.windows[0]
            if self.window not in self.manager.windows:
                self.window = self.first
            self.window.workspace.refresh_panels()
            QApplication.processEvents()
            QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)  # as its loop would
        except Refusal as problem:
            self.problems.append(problem)
        except Exception as problem:
            self.problems.append(problem)
        self.trail.append(note)
        for problem in self.problems:
            yield self.failure("window", told(problem))
        self.problems.clear()
        yield from self.savable()
        yield from self.told_saved(name)
        if self.rng.random() < _PICTURES:
            yield from self.painted()

    def failure(self, kind: str, what: str) -> Failure:
        return Failure(kind, self.seed, what, "\n".join(self.trail[-40:]))

    # --- what must hold ---------------------------------------------------------------------

    def savable(self) -> Iterator[Failure]:
        document = self.window.workspace.document
        if document is self._checked:
            return
        self._checked = document
        try:
            again = loads(dumps(document).encode(), "again")
            if again != document:
                yield self.failure("window save", difference(document, again))
        except Exception as problem:
            yield self.failure("window save", told(problem))

    def told_saved(self, name: str) -> Iterator[Failure]:
        """Asked when a save has told that all is saved: nobody else had the time to write."""
        workspace = self.window.workspace
        if name != "save" or not self.saved or workspace.path is None:
            return
        try:
            on_disk = load(workspace.path)
        except FileRefusal as problem:
            yield self.failure("window told saved", str(problem))
            return
        if on_disk != workspace.document:
            yield self.failure("window told saved", difference(workspace.document, on_disk))

    def painted(self) -> Iterator[Failure]:
        """The bench in hand against one that is painted from nothing."""
        window = self.window
        workspace = window.workspace
        bench = window.bench_stack.currentWidget()
        if workspace.owner is None or bench not in (window.canvas, window.grid_bench):
            return
        for field in bench.findChildren(InPlace):
            field.confirmed.emit()
        for line in bench.findChildren(NameLine):
            line.finish()
        workspace.cancel_drag()
        for widget in (window.canvas, window.grid):
            QApplication.sendEvent(widget, QEvent(QEvent.Type.Leave))
        _settle(window.canvas, window.grid_bench)
        shown = _grabbed(bench)
        anew = _anew(window)
        if anew is None:
            return
        wrong = _differing(shown, anew)
        if wrong:
            shown.save(f".fuzz/shown-{self.seed}.png")
            anew.save(f".fuzz/anew-{self.seed}.png")
            yield self.failure("window picture", f"{type(bench).__name__}: {wrong}")

    def undone(self) -> Iterator[Failure]:
        workspace = self.window.workspace
        workspace.cancel_drag()
        start = self.start if self.window is self.first and not self.gave_way else None
        for _ in range(2_000):
            if not workspace.undo_name:
                break
            workspace.undo()
        if start is not None and workspace.document != start:
            what = f"undone to the start is another: {difference(workspace.document, start)}"
            yield self.failure("window undo", what)

    @property
    def gave_way(self) -> bool:
        """Whether the window that the run began with is not the first any more."""
        return self.first.workspace.path != self.path

    def nothing_left(self) -> Iterator[Failure]:
        """After all windows were closed there are as many widgets as before."""
        for _ in range(3):
            QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
            QApplication.processEvents()
        left = _census() - self._widgets
        if left:
            what = ", ".join(f"{count} {name}" for name, count in sorted(left.items()))
            yield self.failure("window left behind", what[:300])
        threads = [t.name for t in threading.enumerate() if t is not threading.main_thread()]
        if len(threads) > 2:
            yield self.failure("window left behind", f"threads: {', '.join(threads)}")

    # --- help for the deeds -----------------------------------------------------------------

    def close(self, window: MainWindow) -> None:
        """Closes a window; what is not saved there goes."""
        window.live.stage.stop()
        window.close()

    def spoil(self, path: Path, data: bytes) -> None:
        """Something else than a file of ours lies there."""
        (path / "document.json" if path.is_dir() else path).write_bytes(data)

    def widget(self) -> QWidget:
        """Any widget in sight, a bench more often."""
        top = self.rng.choice([self.window, self.window, self.window, *_others(self.window)])
        seen = [
            w
            for w in top.findChildren(QWidget)
            if w.isVisible() and w.isEnabled() and w.width() > 2 and not isinstance(w, QMenu)
        ]
        window = self.window
        benches = [
            w
            for w in (window.canvas, window.grid, window.layers.list.viewport())
            if w is not None and w.isVisible()
        ]
        often = benches if benches and self.rng.random() < 0.3 else seen
        return self.rng.choice(often or [self.window])

    def point(self, widget: QWidget) -> QPoint:
        """A point of it."""
        return QPoint(
            self.rng.randrange(max(widget.width(), 1)), self.rng.randrange(max(widget.height(), 1))
        )


def _others(window: MainWindow) -> list[QWidget]:
    """Live in a window of its own, and the like."""
    tops = QApplication.topLevelWidgets()
    return [w for w in tops if w.isVisible() and w.parentWidget() is window]


def _document(seed: int) -> Document:
    if seed % 4 == 1:
        return Document("Untitled")
    if seed % 4 == 2:
        world = World(seed, Document("Untitled"))
        for n in range(60):
            for _ in world.step(n):
                pass
        return world.document
    return ferry_line()


def _close_menus() -> None:
    popup = QApplication.activePopupWidget()
    if popup is not None and isinstance(popup, QMenu):
        popup.close()
    dialog = QApplication.activeModalWidget()
    if isinstance(dialog, QDialog):
        dialog.reject()


def _census() -> Counter[str]:
    """How many widgets there are, by their class."""
    return Counter(type(widget).__name__ for widget in QApplication.allWidgets())


def _anew(window: MainWindow) -> QImage | None:
    """The bench in the middle, painted by a widget and an engine that remember nothing."""
    old = window.workspace
    workspace = Workspace(shipped_engine(), old.document, notices=WorkspaceSignals())
    rasters = Rasters(lambda: workspace.document.assets)
    shown = window.bench_stack.currentWidget()
    bench: Canvas | GridBench
    if shown is window.canvas:
        bench = canvas = Canvas(workspace, rasters, window.theme, Pen())
    else:
        bench = GridBench(workspace, rasters, window.theme, Pen())
    try:
        bench.resize(shown.size())
        bench.show()
        workspace.open(old.selection.owner)
        workspace.select(old.selection.path, old.selection.variant)
        workspace.select_all(old.selection.paths) if old.selection.path is not None else None
        workspace.set_reach(old.reach)
        if isinstance(bench, GridBench):
            bench.grid.attend(window.grid._names)
        workspace.refresh_panels()
        QApplication.processEvents()
        if isinstance(bench, Canvas):
            canvas._look(window.canvas.zoom, QPointF(window.canvas._exact))
        else:
            bench.grid.set_zoom(window.grid.zoom)
        _settle(bench)
        if isinstance(bench, GridBench):
            for mine, theirs in (
                (bench.frame.horizontalScrollBar(), window.grid_bench.frame.horizontalScrollBar()),
                (bench.frame.verticalScrollBar(), window.grid_bench.frame.verticalScrollBar()),
            ):
                if mine is not None and theirs is not None:
                    mine.setValue(theirs.value())
            # What grows while it is edited stays where it was, and how it lay when it was fitted:
            # the corner and the stacking are states, no picture.
            bench.grid.laid.origin = window.grid.laid.origin
            bench.grid.laid._stacked = window.grid.laid._stacked
            bench.grid.refresh()
        return _grabbed(bench)
    finally:
        bench.close()
        bench.deleteLater()


def _settle(*benches: Canvas | GridBench) -> None:
    """Until what is drawn little by little is there."""
    end = time.monotonic() + _SETTLED_S
    while time.monotonic() < end:
        QApplication.processEvents()
        waiting = (
            not bench._backing.complete if isinstance(bench, Canvas) else bench.grid.laid.pending
            for bench in benches
        )
        if not any(waiting):
            break
    QApplication.processEvents()


def _grabbed(bench: Canvas | GridBench) -> QImage:
    """A picture of a bench: the first may begin what is then drawn exactly."""
    bench.grab()
    _settle(bench)
    # What the pointer is over looks otherwise: it is over nothing.
    for bar in bench.findChildren(QScrollBar):
        QApplication.sendEvent(bar, QEvent(QEvent.Type.Leave))
    return bench.grab().toImage()


def _differing(one: QImage, other: QImage) -> str:
    """Where two pictures are not the same, but for how a soft edge is rounded; "" where they
    are."""
    if one.size() != other.size():
        return f"{one.width()} x {one.height()} and {other.width()} x {other.height()}"
    ys, xs, _ = np.nonzero(np.abs(_pixels(one) - _pixels(other)) > _ROUNDED)
    if not len(xs):
        return ""
    return f"{len(xs)} values differ, from {xs.min()},{ys.min()} to {xs.max()},{ys.max()}"


def _pixels(image: QImage) -> np.ndarray:
    """Its px by row and column, three values each."""
    rgb = image.convertToFormat(QImage.Format.Format_RGB32)
    bits = rgb.constBits()
    assert bits is not None
    shape = rgb.height(), rgb.width(), 4
    return (
        np.frombuffer(bits.asstring(rgb.sizeInBytes()), np.uint8)
        .reshape(shape)[:, :, :3]
        .astype(int)
    )


os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
