"""Nothing is lost: the journal beside the work, a window that was killed, a file that others
change, and what is kept between runs."""

import json
import os
import random
import signal
import subprocess
import sys
import textwrap
import time
from pathlib import Path

import pytest

from outgrowth.app.main import WindowManager
from outgrowth.app.theme import DARK, LIGHT
from outgrowth.core.edits.tree.owners import new_component, remove_owner
from outgrowth.core.exchange.native import dumps, load, save
from outgrowth.workspace.autosave import left_behind
from outgrowth.workspace.user_state import UserState

KILLS = int(os.environ.get("OUTGROWTH_KILLS", "4"))
"""How often a run is killed; 50 is the long form."""


@pytest.fixture
def file(ferry, tmp_path):
    path = tmp_path / "ferry.outgrowth.json"
    save(ferry, path)
    return path


def begin(workspace, name):
    workspace.edit(f"begin {name}", lambda d: new_component(d, f"c-{name}", name, f"r-{name}"))


def test_a_journal_is_there_exactly_while_work_is_not_saved(desk, file, qtbot, tmp_path):
    window = desk.open(file)
    journals = tmp_path / "state" / "journals"
    begin(window.workspace, "one")
    qtbot.waitUntil(lambda: any(journals.iterdir()))
    assert left_behind(journals) == [], "it is in use"
    window.run_action("save")
    qtbot.waitUntil(lambda: not any(journals.iterdir()))
    begin(window.workspace, "two")
    qtbot.waitUntil(lambda: any(journals.iterdir()))
    window.run_action("undo")
    qtbot.waitUntil(lambda: not any(journals.iterdir()))


def test_what_a_crash_left_comes_back_and_can_be_given_up(desk, file, qtbot, tmp_path):
    window = desk.open(file)
    for name in ("one", "two"):
        begin(window.workspace, name)
        qtbot.wait(20)
    window.files.autosave._file.close()  # as the system does when a program ends
    again = WindowManager(LIGHT, tmp_path / "state")
    (found,) = again.recover()
    try:
        assert dumps(found.workspace.document) == dumps(window.workspace.document)
        assert found.workspace.unsaved and found.workspace.path == file
        assert found.notice.isVisible() and "2 steps" in found.notice.message.text()
        found.notice.choices[1].click()
        assert dumps(found.workspace.document) == dumps(load(file))
        assert not found.notice.isVisible() and not found.workspace.unsaved
        found.run_action("undo")
        assert "c-two" in found.workspace.document.components
    finally:
        again.system_fonts.stop()
        found.workspace._saved = found.workspace.document
        found.live.stage.stop()
        found.close()


def test_a_file_that_others_change_is_taken_in(desk, file, qtbot):
    window = desk.open(file)
    others = remove_owner(load(file), "desk")
    save(others, file)
    qtbot.waitUntil(lambda: window.notice.isVisible())
    assert "desk" not in window.workspace.document.screens and not window.workspace.unsaved
    window.run_action("undo")
    assert "desk" in window.workspace.document.screens


def test_with_work_at_stake_it_is_asked_about(desk, file, qtbot):
    window = desk.open(file)
    begin(window.workspace, "mine")
    save(remove_owner(load(file), "desk"), file)
    qtbot.waitUntil(lambda: window.notice.isVisible())
    assert "c-mine" in window.workspace.document.components
    assert "desk" in window.workspace.document.screens
    take_in = next(c for c in window.notice.choices if c.text().startswith("Take in the other"))
    take_in.click()
    assert "desk" not in window.workspace.document.screens
    window.run_action("undo")
    assert "c-mine" in window.workspace.document.components


def test_our_own_saving_is_no_change_by_others(desk, file, stays):
    window = desk.open(file)
    begin(window.workspace, "mine")
    window.run_action("save")
    stays(lambda: not window.notice.isVisible(), 400)


def test_recent_files_and_the_layout_are_kept(desk, file, tmp_path):
    window = desk.open(file)
    window.resize(1300, 820)
    window._splits["left"].setSizes([220, 480])
    sizes = window._splits["left"].sizes()
    window.close()
    user_state = UserState(tmp_path / "state")
    assert user_state.recent == [file.resolve()]
    again = WindowManager(LIGHT, tmp_path / "state")
    other = again.open(file)
    assert other.size().width() == 1300
    assert other._splits["left"].sizes() == sizes
    other.close()
    again.system_fonts.stop()
    file.unlink()
    assert UserState(tmp_path / "state").recent == []


def test_a_file_whose_name_is_no_text_is_found_again(desk, file, tmp_path):
    odd = file.with_name(os.fsdecode(b"f\xe9rry \xff.outgrowth.json"))
    odd.write_bytes(file.read_bytes())
    window = desk.open(odd)
    window.close()
    assert UserState(tmp_path / "state").recent == [odd.resolve()]
    again = WindowManager(LIGHT, tmp_path / "state")
    start = again.new()
    start.start.opened.emit(str(odd))
    assert [w.workspace.path for w in again.windows] == [odd]
    for window in again.windows:
        window.close()
    again.system_fonts.stop()


def test_a_broken_shelf_is_done_without(tmp_path):
    (tmp_path / "state.json").write_text("{")
    user_state = UserState(tmp_path)
    assert user_state.recent == []
    user_state.put("theme", "dark")
    assert json.loads((tmp_path / "state.json").read_text()) == {"theme": "dark"}
    assert UserState(None).journals is None


def test_an_empty_window_gives_way_to_the_file_that_is_opened(desk, file):
    empty = desk.new()
    empty.files.open(file)
    assert [w.workspace.path for w in desk.windows] == [file]


def test_the_folder_form_is_saved_to_and_opened(desk, file, tmp_path, monkeypatch):
    from PyQt6.QtWidgets import QFileDialog

    window = desk.open(file)
    target = tmp_path / "team.outgrowth"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(target), ""))
    window.run_action("save-folder")
    assert window.workspace.path == target and not window.workspace.unsaved
    begin(window.workspace, "mine")
    window.run_action("save")
    assert (target / "components" / "c-mine.json").is_file()
    assert dumps(load(target)) == dumps(window.workspace.document)


RUN = """
    import sys
    from pathlib import Path
    from outgrowth.app.main import WindowManager, application
    from outgrowth.app.theme import LIGHT
    from outgrowth.core.edits.tree.owners import new_component
    app = application(LIGHT)
    desk = WindowManager(LIGHT, Path(sys.argv[2]))
    window = desk.open(Path(sys.argv[1]))
    out = sys.stdout
    for n in range(100_000):
        window.workspace.edit(
            f"step {n}", lambda d: new_component(d, f"c{n}", f"Part {n}", f"r{n}")
        )
        if n % 7 == 6:
            window.workspace.undo()
            window.workspace.redo()
        if n % 11 == 10:
            window.run_action("save")
        for _ in range(3):
            app.processEvents()
        out.write(f"{n}\\n")
        out.flush()
"""


def test_killed_at_any_moment_it_loses_at_most_the_step_under_way(ferry, tmp_path):
    """The file on disk is whole at every kill, and what comes back has every step that the
    run said it had done."""
    script = tmp_path / "run.py"
    script.write_text(textwrap.dedent(RUN))
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    environment["PYTHONPATH"] = str(Path(__file__).parents[2])
    rng = random.Random(12)
    for kill in range(KILLS):
        file, state = tmp_path / f"k{kill}.outgrowth.json", tmp_path / f"state{kill}"
        save(ferry, file)
        ran = subprocess.Popen(
            [sys.executable, str(script), str(file), str(state)],
            stdout=subprocess.PIPE,
            env=environment,
        )
        first = ran.stdout.readline()
        assert first
        time.sleep(rng.uniform(0.0, 1.5))
        os.kill(ran.pid, signal.SIGKILL)
        rest = ran.stdout.read().split(b"\n")
        ran.wait()
        ran.stdout.close()
        said = [int(line) for line in (first.strip(), *rest) if line.strip().isdigit()]
        on_disk = load(file)
        found = left_behind(state / "journals")
        assert len(found) <= 1
        document = found[0][1].document if found else on_disk
        steps = [int(i[1:]) for i in document.components if i[0] == "c" and i[1:].isdigit()]
        assert max(steps, default=-1) >= said[-1], (kill, said[-1], len(found))
        assert sorted(steps) == list(range(len(steps))), "no step is missing between others"


def test_all_windows_have_one_look_and_it_is_kept(desk, file, tmp_path):
    first, second = desk.open(file), desk.new()
    first.run_action("theme")
    assert first.theme is second.theme is desk.theme is DARK
    assert desk.new().theme is DARK
    assert UserState(tmp_path / "state").get("theme") == "dark"
    desk.follow(LIGHT)
    assert first.theme is DARK, "what was chosen goes before the desktop's"
    first.run_action("theme")
    assert second.theme is LIGHT


def test_the_tour_offers_itself_until_it_is_taken_or_declined(desk, file):
    window = desk.open(file)
    desk.offer_tour(window)
    assert "Ten steps" in window.notice.message.text()
    assert window.focusWidget() is window.view.surface, "typing goes to the work"
    window.notice.choices[1].click()
    assert not window.notice.isVisible()
    desk.offer_tour(window)
    assert window.notice.isVisible(), "another time"
    window.notice.choices[2].click()
    desk.offer_tour(window)
    assert not window.notice.isVisible()


def test_the_tour_is_not_offered_to_somebody_who_took_it(desk, file):
    window = desk.open(file)
    desk.offer_tour(window)
    window.notice.choices[0].click()
    assert len(desk.windows) == 2
    desk.offer_tour(window)
    assert not window.notice.isVisible()


def test_the_tour_waits_for_what_has_to_be_said_first(desk, file):
    window = desk.open(file)
    window.notice.show_message("Something else.")
    desk.offer_tour(window)
    assert window.notice.message.text() == "Something else."
