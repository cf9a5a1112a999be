"""Large files are written beside the window: what is done meanwhile is not lost, nor said to be
saved before it is."""

import random

import pytest
from PyQt6.QtWidgets import QMessageBox

from outgrowth.app import file_controller
from outgrowth.core.color import Color
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.native import FileRefusal, load, save
from outgrowth.core.resolve.ladder import Place


@pytest.fixture
def large(window, tmp_path, monkeypatch):
    """The window's file, which counts as a large one."""
    monkeypatch.setattr(file_controller, "_LARGE_BYTES", 0)
    path = tmp_path / "large.outgrowth.json"
    assert window.workspace.save(path)
    yield path
    window.files.finish_saving()
    window.workspace._saved = window.workspace.document


def painted(window, red):
    fill = Color(red / 255, 0.0, 0.0)
    window.workspace.edit(
        "paint", lambda document: set_properties(document, Place("button"), {"fill": fill})
    )
    return window.workspace.document


def test_it_is_not_saved_before_it_is_there(window, large):
    first = painted(window, 10)
    assert window.files.save()
    assert window.workspace.unsaved, "the window goes on at once"
    second = painted(window, 20)
    window.files.finish_saving()
    assert load(large) == first and window.workspace.saved is first
    assert window.workspace.unsaved and window.workspace.document is second
    window.files.save()
    window.files.finish_saving()
    assert load(large) == second and not window.workspace.unsaved


@pytest.mark.parametrize("seed", range(5))
def test_random_saves_between_edits_end_with_the_last_one(window, large, seed, qtbot, stays):
    chance = random.Random(seed)
    last = window.workspace.document
    for step in range(25):
        hand = chance.random()
        if hand < 0.5:
            painted(window, chance.randrange(256))
        elif hand < 0.8:
            last = window.workspace.document
            window.files.save()
        elif hand < 0.9:
            window.workspace.undo()
        else:
            qtbot.wait(chance.choice((1, 20, 200)))
        assert window.notice.isHidden(), step  # nobody else changed it
    window.files.finish_saving()
    assert load(large) == last
    stays(window.notice.isHidden, 200)


def test_what_others_wrote_meanwhile_is_not_written_over(window, large, qtbot):
    others = painted(window, 99)
    save(others, large)
    painted(window, 7)
    window.files.save()
    window.files.finish_saving()
    assert load(large) == others and window.workspace.unsaved
    qtbot.waitUntil(lambda: not window.notice.isHidden(), timeout=3000)


def test_a_window_that_closes_waits_for_it(window, large, monkeypatch):
    last = painted(window, 33)
    window.files.save()
    monkeypatch.setattr(window.files, "question", lambda: QMessageBox.StandardButton.Cancel)
    assert window.files.ask_unsaved(), "it is saved, so nothing is asked"
    assert load(large) == last


def test_what_cannot_be_written_says_so_and_stays_unsaved(window, large, monkeypatch):
    sentences = []
    window.workspace.failed.connect(sentences.append)

    def refused(*_):
        raise FileRefusal("“large” cannot be written: the disk is full.")

    monkeypatch.setattr(file_controller, "save", refused)
    painted(window, 5)
    window.files.save()
    window.files.finish_saving()
    assert sentences == ["“large” cannot be written: the disk is full."]
    assert window.workspace.unsaved
