"""What random hands do at a window, and what other programs do to its file meanwhile."""

from __future__ import annotations

import contextlib
import os
import shutil
import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDragMoveEvent, QDropEvent, QKeyEvent, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from demo import ferry_line
from outgrowth.core.document.records import Document, walk
from outgrowth.core.exchange.native import FileRefusal, load, save
from outgrowth.core.refusal import Refusal
from tests.fuzz import values
from tests.fuzz.edits import World

if TYPE_CHECKING:
    from tests.fuzz.window import Run

NOT_PRESSED = {"close", "tour", "new", "open", "same-again"}
"""Actions that leave the window, or open another: those are deeds of their own here."""
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
_THEMES = 0.2

_FILES = {
    "wave.svg": b'<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20">'
    b'<path d="M0 10 Q10 0 20 10 T40 10" fill="none" stroke="#135"/></svg>',
    "broken.svg": b"<svg><g>",
    "tokens.json": b'{"color": {"fog": {"$type": "color", "$value": "#dde4e6"}}}',
    "rows.csv": b"label,price\nPier,=1+1\nHarbour,12\n",
    "junk.png": b"\x89PNG\r\n\x1a\njunk",
    "junk.ttf": b"\0\1\0\0junk",
    "script.json": b'{"steps": []}',
}


def lay_out_files(folder: Path) -> list[Path]:
    """The files that random hands open and drop."""
    for name, data in _FILES.items():
        (folder / name).write_bytes(data)
    return sorted(folder / name for name in _FILES)


def focused(run: Run) -> QWidget:
    """What has the keys."""
    popup = QApplication.activePopupWidget()
    found = (popup.focusWidget() or popup) if popup is not None else QApplication.focusWidget()
    return found or run.window


# --- by hand --------------------------------------------------------------------------------


def _action(run: Run) -> str:
    action = run.rng.choice([a for a in run.window.actions_list if a.id not in NOT_PRESSED])
    run.window.run_action(action.id)
    return action.id


def _bench(run: Run) -> str:
    """Any bench of the table, also where no button leads to it now."""
    name = run.rng.choice(list(run.window.benches))
    if run.window.benches[name].edits:
        run.window.view.show_bench()
    else:
        run.window.view.show(name)
    return name


def _drawer(run: Run) -> str:
    window, rng = run.window, run.rng
    tabs = rng.choice((window.sheet_tabs, window.library.tabs))
    tab = rng.choice(list(tabs.tabs))
    tabs.choose(tab)
    return tab


def _select(run: Run) -> str:
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


def _press(run: Run) -> str:
    widget = run.widget()
    point, held = run.point(widget), run.rng.choice(_HELD)
    click = QTest.mouseDClick if run.rng.random() < 0.15 else QTest.mouseClick
    button = Qt.MouseButton.RightButton if run.rng.random() < 0.08 else Qt.MouseButton.LeftButton
    name = f"{type(widget).__name__} “{widget.accessibleName()[:30]}”"
    click(widget, button, held, point)
    return f"{name} {point.x()},{point.y()}"


def _pull(run: Run) -> str:
    widget = run.widget()
    start, end = run.point(widget), run.point(widget)
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, run.rng.choice(_HELD), start)
    for share in (0.2, 0.6, 1.0):
        if sip.isdeleted(widget):
            return "gone"
        QTest.mouseMove(widget, start + (end - start) * share)
        QApplication.processEvents()
        if run.rng.random() < 0.06:
            QTest.keyClick(focused(run), Qt.Key.Key_Escape)
    if not sip.isdeleted(widget):
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, end)
    return f"{type(widget).__name__} {start.x()},{start.y()} to {end.x()},{end.y()}"


def _key(run: Run) -> str:
    key, held = run.rng.choice(_KEYS), run.rng.choice(_HELD)
    QTest.keyClick(focused(run), key, held)
    return f"{key} {held}"


def _type(run: Run) -> str:
    text = run.rng.choice(
        (*(w[:30] for w in values.WORDS), "24*2", "+4", "{color.sea}", "-1", "1e9", "nan")
    )
    for letter in text:
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            with contextlib.suppress(UnicodeEncodeError):
                event = QKeyEvent(kind, 0, Qt.KeyboardModifier.NoModifier, letter)
                QApplication.sendEvent(focused(run), event)
    if run.rng.random() < 0.7:
        QTest.keyClick(focused(run), Qt.Key.Key_Return)
    return repr(text)


def _undo(run: Run) -> None:
    workspace = run.window.workspace
    (workspace.undo if run.rng.random() < 0.6 else workspace.redo)()


def _hover(run: Run) -> None:
    widget = run.widget()
    QTest.mouseMove(widget, run.point(widget))


def _wheel(run: Run) -> str:
    widget = run.widget()
    point = QPointF(run.point(widget))
    turn = QPoint(0, run.rng.choice((-240, -120, 120, 240)))
    event = QWheelEvent(
        point, QPointF(widget.mapToGlobal(point.toPoint())), QPoint(), turn,
        Qt.MouseButton.NoButton, run.rng.choice(_HELD), Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(widget, event)
    return type(widget).__name__


def _drop(run: Run) -> str:
    """A part of the Library, an end of a cue, or files, over a bench and let go or taken away."""
    rng, window = run.rng, run.window
    bench = window.view.surface
    model = window.library.model
    rows = range(model.rowCount())
    if rng.random() < 0.4 or not rows:
        data = QMimeData()
        chosen = rng.sample(run.files, rng.choice((1, 1, 2)))
        data.setUrls([QUrl.fromLocalFile(str(path)) for path in chosen])
        what = ", ".join(path.name for path in chosen)
    else:
        row = rng.choice(rows)
        data, what = model.mimeData([model.index(row)]), f"row {row}"
    if data is None or not bench.isVisible():
        return "nothing"
    held, left = rng.choice(_HELD), Qt.MouseButton.LeftButton
    points = [QPointF(run.point(bench)) for _ in range(3)]
    copy = Qt.DropAction.CopyAction
    bench.dragEnterEvent(QDragEnterEvent(points[0].toPoint(), copy, data, left, held))
    for point in points:
        bench.dragMoveEvent(QDragMoveEvent(point.toPoint(), copy, data, left, held))
        QApplication.processEvents()
    if rng.random() < 0.3:
        bench.dragLeaveEvent(None)
        return f"{what}, taken away"
    bench.dropEvent(QDropEvent(points[-1], copy, data, left, held))
    return what


# --- the window and its file ----------------------------------------------------------------


def _resize(run: Run) -> str:
    width, height = run.rng.randrange(700, 1700), run.rng.randrange(480, 1000)
    run.window.resize(width, height)
    return f"{width} x {height}"


def _theme(run: Run) -> str:
    """Seldom: it takes as long as a hundred other deeds."""
    if run.rng.random() < _THEMES:
        run.window.switch_theme()
        return "switched"
    return "left"


def _save(run: Run) -> str:
    """Saves, and waits till it is told; what another program wrote may be in the way."""
    run.saved = run.window.files.save_now()
    return f"told saved: {run.saved}"


def _press_notice(run: Run) -> str:
    notice = run.window.notice
    choices = [button for button in notice.choices if button.isVisible()]
    if not choices:
        return "none"
    button = run.rng.choice(choices)
    text = button.text()
    button.click()
    return text


def _wait(run: Run) -> None:
    QTest.qWait(run.rng.choice((5, 30, 120)))


def _other_program(run: Run) -> str:
    """Another program changes, replaces, damages or removes the file, or makes a folder of it."""
    path, rng = run.path, run.rng
    what = rng.choice(("changes", "changes", "replaces", "damages", "removes", "touches"))
    try:
        if what == "changes":
            world = World(rng.randrange(10**6), load(path))
            for n in range(6):
                for _ in world.step(n):
                    pass
            save(world.document, path)
        elif what == "replaces":
            save(rng.choice((ferry_line, lambda: Document("Other")))(), path)
        elif what == "damages":
            run.spoil(path, path.read_bytes()[: rng.randrange(200)])
        elif what == "removes":
            shutil.rmtree(path) if path.is_dir() else path.unlink(missing_ok=True)
        elif path.exists():
            os.utime(path)
    except (FileRefusal, Refusal, OSError) as problem:
        what += f": {str(problem)[:40]}"
    run.window.files.look()
    return what


def _clock(run: Run) -> str:
    """The clock of the machine is put forward or back."""
    run.clock.ahead += run.rng.choice((-86_400.0, -3.0, 2.0, 86_400.0 * 400))
    return f"{run.clock.ahead:g} s"


def _second_window(run: Run) -> str:
    """Another window on the same file is opened, taken in hand, or closed."""
    windows = run.manager.windows
    if len(windows) > 2 or (len(windows) == 2 and run.rng.random() < 0.4):
        run.close(run.rng.choice([w for w in windows if w is not run.first]))
        run.window = run.first
        return "closed"
    if len(windows) == 1:
        with contextlib.suppress(FileRefusal):
            run.manager.open(run.path)
    run.window = run.rng.choice(run.manager.windows)
    return "in hand" if run.window is not run.first else "the first"


DEEDS: list[tuple[str, Callable[[Any], Any]]] = [
    *[("do", _action)] * 12,
    *[("bench", _bench)] * 2,
    *[("drawer", _drawer)] * 2,
    *[("select", _select)] * 8,
    *[("press", _press)] * 10,
    *[("pull", _pull)] * 6,
    *[("key", _key)] * 6,
    *[("type", _type)] * 4,
    *[("undo", _undo)] * 2,
    *[("hover", _hover)] * 2,
    *[("notice", _press_notice)] * 2,
    ("wheel", _wheel),
    ("drop", _drop),
    ("drop", _drop),
    ("resize", _resize),
    ("theme", _theme),
    ("save", _save),
    ("save", _save),
    ("wait", _wait),
    ("other program", _other_program),
    ("clock", _clock),
    ("second window", _second_window),
]
"""What is done, and how often: each has as many chances as lines here."""


class Clock:
    """Stands in for the machine's clock, which can be put forward and back."""

    def __init__(self) -> None:
        self.ahead = 0.0
        self._time = time.time

    def __enter__(self) -> Clock:
        time.time = lambda: self._time() + self.ahead  # type: ignore[assignment]
        return self

    def __exit__(self, *_: object) -> None:
        time.time = self._time
