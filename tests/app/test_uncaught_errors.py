"""What nobody foresaw is told, with a report, and ends neither the program nor the work."""

import subprocess
import sys
import textwrap

import pytest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.uncaught_errors import report
from outgrowth.core.edits.tree.owners import new_component
from outgrowth.core.exchange.native import load, save
from outgrowth.core.refusal import Refusal


@pytest.fixture
def window(desk, ferry, tmp_path):
    path = tmp_path / "ferry.outgrowth.json"
    save(ferry, path)
    return desk.open(path)


def happen(desk, problem):
    try:
        raise problem
    except Exception as caught:
        desk.uncaught_errors.happened(type(caught), caught, caught.__traceback__)


@pytest.mark.filterwarnings("ignore")
def test_an_uncaught_error_is_told_and_the_document_is_the_one_before(desk, window, caplog):
    workspace = window.workspace
    workspace.edit("begin one", lambda d: new_component(d, "c-one", "One", "r-one"))
    before = workspace.document
    workspace.drag(lambda d: new_component(d, "c-two", "Two", "r-two"))
    assert workspace.document is not before
    happen(desk, ZeroDivisionError("a secret of ours"))
    assert workspace.document is before and not workspace.dragging
    assert window.files.autosave.is_current, "the journal has all that was done"
    assert window.notice.isVisible() and "nothing is lost" in window.notice.message.text()
    window.notice.choices[1].click()
    held = QApplication.clipboard().text()
    assert "ZeroDivisionError: a secret of ours" in held and "test_uncaught_errors" in held
    caplog.clear()


def test_a_refusal_that_nobody_caught_is_a_sentence_like_any_other(desk, window):
    said = []
    window.workspace.failed.connect(said.append)
    happen(desk, Refusal("A part needs a name."))
    assert said == ["A part needs a name."] and not window.notice.isVisible()


def test_a_report_names_versions_and_the_place():
    try:
        raise KeyError("x")
    except KeyError as problem:
        text = report(problem)
    assert text.startswith("Outgrowth ") and "Qt " in text and "KeyError" in text


PROGRAM = """
    import sys
    from pathlib import Path
    from PyQt6.QtCore import QTimer
    import outgrowth.app.main as main

    app = main.application(main.LIGHT)

    def harm():
        QTimer.singleShot(0, lambda: 1 / 0)           # in a slot of the event loop
        QTimer.singleShot(300, lambda: print("still here", flush=True))
        QTimer.singleShot(600, main.QApplication.quit)

    QTimer.singleShot(500, harm)
    sys.exit(main.run(Path(sys.argv[1])))
"""


def test_an_exception_in_the_event_loop_does_not_end_the_program(ferry, tmp_path):
    """Without the hook the program aborts (exit 134)."""
    path, script = tmp_path / "ferry.outgrowth.json", tmp_path / "run.py"
    save(ferry, path)
    script.write_text(textwrap.dedent(PROGRAM))
    ran = subprocess.run(
        [sys.executable, str(script), str(path)],
        capture_output=True,
        text=True,
        timeout=60,
        env={"QT_QPA_PLATFORM": "offscreen", "HOME": str(tmp_path), "PATH": "/usr/bin:/bin"},
    )
    assert ran.returncode == 0, ran.stderr
    assert "still here" in ran.stdout
    assert "ZeroDivisionError" in ran.stderr
    assert load(path) == ferry
