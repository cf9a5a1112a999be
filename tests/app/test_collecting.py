"""Circles are looked for on the window's thread only."""

import gc
import threading

import pytest
from PyQt6.QtCore import Qt

from outgrowth.app.collecting import Collecting


class Circle:
    def __init__(self, on):
        self.me = self
        self.on = on

    def __del__(self):
        self.on.append(threading.current_thread())


@pytest.fixture
def collecting(qapp):
    made = Collecting(qapp)
    yield made
    made.end()
    made.deleteLater()


def many(rounds=30):
    """Makes so much that Python itself would look for circles."""
    for _ in range(rounds):
        [[n] for n in range(20_000)]


def test_circles_end_on_the_windows_thread(collecting):
    ended, before = [], gc.get_threshold()
    gc.set_threshold(1_000, 2, 2)
    try:
        Circle(ended)
        worker = threading.Thread(target=many)
        worker.start()
        worker.join()
        assert ended == [], "nothing is looked for on another thread"
        kept = [[n] for n in range(5_000)]
        for _ in range(10):
            collecting.look()
            kept += [[n] for n in range(5_000)]
        assert ended == [threading.main_thread()]
    finally:
        gc.set_threshold(*before)


def test_it_is_python_again_when_the_program_ends(qapp):
    made = Collecting(qapp)
    assert not gc.isenabled()
    made.end()
    assert gc.isenabled()
    made.deleteLater()


def test_all_is_looked_through_when_somebody_turns_to_another_program(collecting):
    ended = []
    held = Circle(ended)  # kept until it counts as old
    gc.collect(1)
    gc.collect(1)
    del held
    collecting.turned(Qt.ApplicationState.ApplicationActive)
    assert ended == []
    collecting.turned(Qt.ApplicationState.ApplicationInactive)
    assert ended == [threading.main_thread()]
