"""Files as disks really have them: odd names, links, protection, and other programs at work."""

import pytest

from outgrowth.app.main import WindowManager
from outgrowth.app.theme import LIGHT
from outgrowth.core.edits.tree.components import rename_owner
from outgrowth.core.edits.tree.owners import new_component
from outgrowth.core.exchange.native import FileRefusal, load, save
from outgrowth.workspace.autosave import left_behind
from outgrowth.workspace.user_state import UserState


def begin(workspace, name):
    workspace.edit(f"begin {name}", lambda d: new_component(d, f"c-{name}", name, f"r-{name}"))


ODD = [
    "b\udcff\udcfe.outgrowth.json",
    "n" * 235 + ".outgrowth.json",
    "line\nend\x1b[31m.outgrowth.json",
]


@pytest.mark.parametrize("name", ODD, ids=["not UTF-8", "as long as can be", "control characters"])
def test_files_of_odd_names_are_opened_worked_on_and_saved(desk, ferry, tmp_path, name, qtbot):
    path = tmp_path / name
    save(ferry, path)
    window = desk.open(path)
    said = []
    window.workspace.failed.connect(said.append)
    begin(window.workspace, "one")
    window.files.autosave.write()
    assert window.files.autosave.is_current
    window.run_action("save")
    assert not said and not window.workspace.unsaved
    assert "c-one" in load(path).components
    with pytest.raises(FileRefusal) as problem:
        load(path.with_name(name + "gone"))
    assert str(problem.value).isprintable()
    assert not list(tmp_path.glob(".outgrowth-*"))


def test_a_link_stays_a_link(desk, ferry, tmp_path):
    real, link = tmp_path / "real.outgrowth.json", tmp_path / "link.outgrowth.json"
    save(ferry, real)
    link.symlink_to(real)
    window = desk.open(link)
    begin(window.workspace, "one")
    window.run_action("save")
    assert link.is_symlink() and "c-one" in load(real).components


def test_a_protected_file_is_left_alone_and_told(desk, ferry, tmp_path):
    path = tmp_path / "mine.outgrowth.json"
    save(ferry, path)
    path.chmod(0o444)
    window = desk.open(path)
    said = []
    window.workspace.failed.connect(said.append)
    begin(window.workspace, "one")
    window.run_action("save")
    assert "write-protected" in said[0] and window.workspace.unsaved
    assert load(path) == ferry


@pytest.mark.parametrize("form", ["file.outgrowth.json", "folder.outgrowth"])
def test_what_others_wrote_a_moment_before_is_never_written_over(desk, ferry, tmp_path, form):
    path = tmp_path / form
    save(ferry, path)
    window = desk.open(path)
    begin(window.workspace, "mine")
    theirs = rename_owner(ferry, "button", "Controls/Theirs")
    save(theirs, path)
    window.run_action("save")  # at once, before any notice of the change could come
    assert load(path) == theirs
    assert window.workspace.unsaved and window.notice.isVisible()
    assert window.notice.choices[1].text() == "Write mine over it"
    window.notice.choices[1].click()
    assert "c-mine" in load(path).components and not window.workspace.unsaved


def test_the_other_can_be_taken_in_instead(desk, ferry, tmp_path):
    path = tmp_path / "file.outgrowth.json"
    save(ferry, path)
    window = desk.open(path)
    begin(window.workspace, "mine")
    theirs = rename_owner(ferry, "button", "Controls/Theirs")
    save(theirs, path)
    window.run_action("save")
    window.notice.choices[2].click()
    assert window.workspace.document == theirs and not window.workspace.unsaved
    window.run_action("undo")
    assert "c-mine" in window.workspace.document.components
    window.run_action("save")
    assert "c-mine" in load(path).components


def test_a_file_removed_and_made_anew_is_noticed(desk, ferry, tmp_path, qtbot, stays):
    path = tmp_path / "file.outgrowth.json"
    save(ferry, path)
    window = desk.open(path)
    theirs = rename_owner(ferry, "button", "Controls/Theirs")
    path.unlink()
    stays(lambda: window.workspace.document == ferry, 250)
    save(theirs, path)
    qtbot.waitUntil(lambda: window.workspace.document == theirs, timeout=5000)


def test_a_change_in_place_inside_a_folder_is_noticed(desk, ferry, tmp_path, qtbot):
    path = tmp_path / "folder.outgrowth"
    save(ferry, path)
    window = desk.open(path)
    part = path / "components" / "button.json"
    text = part.read_text().replace('"name": "Controls/Button"', '"name": "Controls/Push"')
    assert text != part.read_text()
    with part.open("r+") as file:
        file.write(text)
        file.truncate()
    qtbot.waitUntil(
        lambda: window.workspace.document.components["button"].name == "Controls/Push", timeout=5000
    )


def test_a_save_of_ours_is_no_change_by_others(desk, ferry, tmp_path, stays):
    path = tmp_path / "file.outgrowth.json"
    save(ferry, path)
    window = desk.open(path)
    for name in ("one", "two"):
        begin(window.workspace, name)
        window.run_action("save")
        stays(lambda: not (window.notice.isVisible() or window.workspace.unsaved), 250)


def test_the_journal_goes_on_in_another_folder_when_its_own_went(desk, ferry, tmp_path):
    path = tmp_path / "file.outgrowth.json"
    save(ferry, path)
    window = desk.open(path)
    autosave, journals = window.files.autosave, tmp_path / "state" / "journals"
    begin(window.workspace, "one")
    autosave.write()
    for held in journals.iterdir():
        held.unlink()
    journals.rmdir()
    begin(window.workspace, "two")
    autosave.write()
    autosave._file.close()
    path.unlink()  # and the file itself is lost too
    ((_, found),) = left_behind(journals)
    assert {"c-one", "c-two"} <= set(found.document.components)
    assert set(ferry.components) <= set(found.document.components)


def test_two_programs_on_one_file_keep_their_work_apart(look, ferry, tmp_path):
    path = tmp_path / "file.outgrowth.json"
    save(ferry, path)
    desks = [WindowManager(LIGHT, tmp_path / "state") for _ in range(2)]
    windows = [desk.open(path) for desk in desks]
    try:
        for window, name in zip(windows, ("one", "two"), strict=True):
            begin(window.workspace, name)
            window.files.autosave.write()
        windows[0].workspace.save(over=True)  # the first saves: the base of the second is gone
        for window in windows:
            if window.files.autosave._file is not None:
                window.files.autosave._file.close()
        found = [held.document for _, held in left_behind(tmp_path / "state" / "journals")]
        assert any(set(d.components) == {*ferry.components, "c-two"} for d in found)
    finally:
        for desk, window in zip(desks, windows, strict=True):
            window.workspace._saved = window.workspace.document
            window.live.stage.stop()
            window.close()
            window.deleteLater()
            desk.system_fonts.stop()


@pytest.mark.parametrize("form", ["file.outgrowth.json", "folder.outgrowth"])
def test_recovered_work_does_not_write_over_what_others_wrote_since(desk, ferry, tmp_path, form):
    path = tmp_path / form
    save(ferry, path)
    window = desk.open(path)
    begin(window.workspace, "mine")
    window.files.autosave.write()
    window.files.autosave._file.close()  # as the system does when a program ends
    theirs = rename_owner(ferry, "button", "Controls/Theirs")
    save(theirs, path)
    again = WindowManager(LIGHT, tmp_path / "state")
    (found,) = again.recover()
    try:
        assert "c-mine" in found.workspace.document.components
        found.run_action("save")
        assert load(path) == theirs and found.workspace.unsaved and found.notice.isVisible()
        assert found.notice.choices[1].text() == "Write mine over it"
    finally:
        again.system_fonts.stop()
        found.workspace._saved = found.workspace.document
        found.live.stage.stop()
        found.close()


@pytest.mark.parametrize(
    "state",
    [
        "[" * 100_000,
        '{"recent": ["a\\u0000b", 3, "/closed/x"], "split outer": [-1, 1e400]}',
        '{"split outer": [99999999999999999999999, 1, 1], "geometry": "é", "theme": 7}',
        "null",
    ],
)
def test_odd_things_kept_from_before_do_not_stop_the_start(look, ferry, tmp_path, state):
    folder = tmp_path / "state"
    folder.mkdir()
    (folder / "state.json").write_text(state)
    assert UserState(folder).recent == []
    desk = WindowManager(LIGHT, folder)
    window = desk.show(ferry, None)
    window.live.stage.stop()
    window.close()
    desk.system_fonts.stop()
