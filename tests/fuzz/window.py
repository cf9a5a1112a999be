"""Random hands at a real window: every action, keys, letters, presses, drags and drops.

Held throughout: no exception reaches the event loop; the document can always be saved and
opened again; what is undone to the start is what there was.
"""

from __future__ import annotations

import contextlib
import os
import random
import sys
from collections.abc import Iterator

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QPoint, Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QMenu, QMessageBox, QWidget

from demo import ferry_line
from outgrowth.app.main import application
from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.document.records import Document, walk
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.refusal import Refusal
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import shipped_engine
from tests.fuzz import values
from tests.fuzz.edits import World, difference
from tests.fuzz.report import Failure, told

A_WINDOW = 150
"""Deeds before a new window is opened."""
NOT_PRESSED = {"close", "tour", "guide", "same-again", "new", "open", "live-window"}
"""Actions that leave the window, or open another that is not watched here."""
_KEYS = [
    getattr(Qt.Key, f"Key_{name}")
    for name in [
        "Return",
        "Escape",
        "Tab",
        "Backtab",
        "Delete",
        "Backspace",
        "Left",
        "Right",
        "Up",
        "Down",
        "Home",
        "End",
        "PageUp",
        "PageDown",
        "Space",
        "F2",
        "F3",
        "F6",
        "A",
        "Z",
        "Plus",
        "Minus",
        "0",
        "7",
    ]
]
_HELD = [
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.AltModifier,
]


def presses(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """Runs of random deeds; a new window for each run."""
    app = application(LIGHT)
    _answer_all()
    done = 0
    while done < count:
        run = Run(seed, min(A_WINDOW, count - done))
        for failure in run.failures():
            yield done, failure
        done += run.length
        seed += 1
        app.processEvents()
        yield done, None


def _answer_all() -> None:
    """Whatever would wait for an answer gets one."""
    QFileDialog.getOpenFileName = staticmethod(lambda *_, **__: ("", ""))  # type: ignore[assignment]
    QFileDialog.getSaveFileName = staticmethod(lambda *_, **__: ("", ""))  # type: ignore[assignment]
    discard = QMessageBox.StandardButton.Discard
    QMessageBox.question = staticmethod(lambda *_, **__: discard)  # type: ignore[assignment]


class Run:
    """One window, one seed."""

    def __init__(self, seed: int, length: int) -> None:
        self.seed = seed
        self.length = length
        self.rng = random.Random(seed)
        self.problems: list[BaseException] = []
        self.trail: list[str] = []
        document = ferry_line()
        if seed % 3 == 1:
            document = Document("Untitled")
        elif seed % 3 == 2:
            world = World(seed, Document("Untitled"))
            for n in range(60):
                for _ in world.step(n):
                    pass
            document = world.document
        self.start = document
        self.window = MainWindow(
            Workspace(shipped_engine(), document, notices=WorkspaceSignals()), LIGHT
        )
        self.window.resize(1280, 800)
        self.window.show()
        QApplication.processEvents()

    def failures(self) -> Iterator[Failure]:
        before = sys.excepthook
        sys.excepthook = lambda kind, problem, trace: self.problems.append(problem)
        closer = QTimer()
        closer.timeout.connect(_close_menus)
        closer.start(40)
        try:
            for _ in range(self.length):
                yield from self.deed()
            yield from self.undone()
        finally:
            closer.stop()
            sys.excepthook = before
            self.window.live.stage.stop()
            self.window.workspace._saved = self.window.workspace.document
            self.window.close()
            self.window.deleteLater()

    def deed(self) -> Iterator[Failure]:
        name, deed = self.rng.choice(DEEDS)
        note = name
        try:
            note = f"{name} {deed(self) or ''}"
            self.window.workspace.refresh_panels()
            QApplication.processEvents()
        except Refusal as problem:
            self.problems.append(problem)
        except Exception as problem:
            self.problems.append(problem)
        self.trail.append(note)
        for problem in self.problems:
            yield Failure("window", self.seed, told(problem), "\n".join(self.trail[-25:]))
        self.problems.clear()
        yield from self.savable(note)

    def savable(self, note: str) -> Iterator[Failure]:
        document = self.window.workspace.document
        if document is getattr(self, "_checked", None):
            return
        self._checked = document
        try:
            again = loads(dumps(document).encode(), "again")
            if again != document:
                yield Failure(
                    "window save",
                    self.seed,
                    difference(document, again),
                    "\n".join(self.trail[-25:]),
                )
        except Exception as problem:
            yield Failure("window save", self.seed, told(problem), "\n".join(self.trail[-25:]))

    def undone(self) -> Iterator[Failure]:
        workspace = self.window.workspace
        workspace.cancel_drag()
        for _ in range(1_000):
            if not workspace.undo_name:
                break
            workspace.undo()
        if workspace.document != self.start:
            what = f"undone to the start is another: {difference(workspace.document, self.start)}"
            yield Failure("window undo", self.seed, what, "\n".join(self.trail[-60:]))

    # --- deeds ------------------------------------------------------------------------------

    def widget(self) -> QWidget:
        seen = [
            w
            for w in self.window.findChildren(QWidget)
            if w.isVisible() and w.isEnabled() and w.width() > 2 and not isinstance(w, QMenu)
        ]
        benches = [
            w
            for w in (self.window.canvas, self.window.grid, self.window.layers.list.viewport())
            if w.isVisible()
        ]
        return self.rng.choice(
            benches if benches and self.rng.random() < 0.4 else seen or [self.window]
        )

    def point(self, widget: QWidget) -> QPoint:
        return QPoint(
            self.rng.randrange(max(widget.width(), 1)), self.rng.randrange(max(widget.height(), 1))
        )


def _close_menus() -> None:
    popup = QApplication.activePopupWidget()
    if popup is not None and isinstance(popup, QMenu):
        popup.close()
    dialog = QApplication.activeModalWidget()
    if isinstance(dialog, QDialog):
        dialog.reject()


def _focus(run: Run) -> QWidget:
    popup = QApplication.activePopupWidget()
    found = (popup.focusWidget() or popup) if popup is not None else QApplication.focusWidget()
    return found or run.window


def _action(run: Run):
    action = run.rng.choice([a for a in run.window.actions_list if a.id not in NOT_PRESSED])
    run.window.run_action(action.id)
    return action.id


def _select(run: Run):
    workspace, rng = run.window.workspace, run.rng
    owner = workspace.owner
    if owner is None or rng.random() < 0.2:
        owners = list(workspace.document.owners())
        if owners:
            workspace.open(rng.choice(owners).id)
        return "open"
    ids = [node.id for node in walk(owner.root)]
    picked = [(rng.choice(ids),) for _ in range(rng.choice((1, 1, 1, 2, 3)))]
    if rng.random() < 0.15:
        workspace.select(() if rng.random() < 0.5 else None)
        return "the whole, or nothing"
    workspace.select_all(tuple(dict.fromkeys(picked)))
    return str(picked)


def _press(run: Run):
    widget = run.widget()
    point, held = run.point(widget), run.rng.choice(_HELD)
    click = QTest.mouseDClick if run.rng.random() < 0.15 else QTest.mouseClick
    button = Qt.MouseButton.RightButton if run.rng.random() < 0.08 else Qt.MouseButton.LeftButton
    click(widget, button, held, point)
    return f"{type(widget).__name__} {point.x()},{point.y()}"


def _pull(run: Run):
    widget = run.widget()
    start, end = run.point(widget), run.point(widget)
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, run.rng.choice(_HELD), start)
    for share in (0.2, 0.6, 1.0):
        if sip.isdeleted(widget):
            return "gone"
        QTest.mouseMove(widget, start + (end - start) * share)
        QApplication.processEvents()
        if run.rng.random() < 0.06:
            QTest.keyClick(_focus(run), Qt.Key.Key_Escape)
    if not sip.isdeleted(widget):
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, end)
    return f"{type(widget).__name__} {start.x()},{start.y()} to {end.x()},{end.y()}"


def _key(run: Run):
    key, held = run.rng.choice(_KEYS), run.rng.choice(_HELD)
    QTest.keyClick(_focus(run), key, held)
    return f"{key} {held}"


def _type(run: Run):
    text = run.rng.choice(
        (*(w[:30] for w in values.WORDS), "24*2", "+4", "{color.sea}", "-1", "1e9", "nan")
    )
    for letter in text:
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            with contextlib.suppress(UnicodeEncodeError):
                event = QKeyEvent(kind, 0, Qt.KeyboardModifier.NoModifier, letter)
                QApplication.sendEvent(_focus(run), event)
    if run.rng.random() < 0.7:
        QTest.keyClick(_focus(run), Qt.Key.Key_Return)
    return repr(text)


def _undo(run: Run):
    (run.window.workspace.undo if run.rng.random() < 0.6 else run.window.workspace.redo)()


def _hover(run: Run):
    widget = run.widget()
    QTest.mouseMove(widget, run.point(widget))


DEEDS = [
    *[("do", _action)] * 6,
    *[("select", _select)] * 4,
    *[("press", _press)] * 4,
    *[("pull", _pull)] * 3,
    *[("key", _key)] * 3,
    *[("type", _type)] * 2,
    ("undo", _undo),
    ("hover", _hover),
]

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
