"""Jobs beside the window: told, stopped, in a row, and left to themselves where nobody answers."""

from __future__ import annotations

import threading
import time

import pytest
from PyQt6.QtCore import QObject

from outgrowth.app import job as jobs
from outgrowth.app.job import JobRunner
from outgrowth.core.team.store import LibraryRefusal


@pytest.fixture
def runner(qapp):
    holder = QObject()
    made = JobRunner(holder)
    yield made
    made.close_down()


def test_jobs_are_done_one_after_the_other_and_tell(runner, qtbot):
    gave, told = [], []
    runner.progressed.connect(told.append)

    def job(number):
        def do(progress):
            progress(f"job {number}")
            return number

        return do

    for number in range(3):
        runner.start(job(number), gave.append)
    qtbot.waitUntil(lambda: not runner.busy)
    assert gave == [0, 1, 2]
    assert told == ["job 0", "job 1", "job 2", ""]


def test_what_cannot_be_done_is_said(runner, qtbot):
    said = []

    def fail(_):
        raise LibraryRefusal("No.")

    runner.start(fail, pytest.fail, said.append)
    qtbot.waitUntil(lambda: not runner.busy)
    assert said == ["No."]


def test_what_was_stopped_gives_nothing(runner, qtbot):
    gave, going = [], threading.Event()

    def slow(progress):
        while True:
            going.set()
            progress("going on")
            time.sleep(0.001)

    runner.start(slow, gave.append, gave.append)
    assert going.wait(5)
    runner.stop()
    runner.start(lambda _: "next", gave.append)
    qtbot.waitUntil(lambda: not runner.busy)
    assert gave == ["next"]


def test_a_server_that_never_answers_holds_up_neither_the_next_job_nor_the_window(
    runner, qtbot, stays, monkeypatch
):
    monkeypatch.setattr(jobs, "_LAST_S", 0.05)
    runner._giving_up.setInterval(20)
    silent, gave = threading.Event(), []
    runner.start(lambda _: silent.wait(30) and "late", gave.append)
    runner.stop()
    runner.start(lambda _: "next", gave.append)
    qtbot.waitUntil(lambda: gave == ["next"], timeout=3_000)
    runner.start(lambda _: silent.wait(30), gave.append)
    began = time.monotonic()
    runner.close_down()
    assert time.monotonic() - began < 2
    silent.set()
    stays(lambda: gave == ["next"], 50)


def test_an_error_of_a_job_is_one_of_the_window(runner, qtbot):
    def broken(_):
        raise ZeroDivisionError("inside")

    with qtbot.captureExceptions() as caught:
        runner.start(broken, pytest.fail)
        qtbot.waitUntil(lambda: not runner.busy)
    assert [type(problem[1]) for problem in caught] == [ZeroDivisionError]


def test_what_is_asked_for_after_the_end_is_not_begun(qtbot):
    """A field that loses the focus as its window goes asks for what it always asks for."""
    holder = QObject()
    runner = JobRunner(holder)
    runner.close_down()
    begun = []
    runner.start(begun.append, begun.append)
    qtbot.wait(50)
    assert not begun and not runner.busy
