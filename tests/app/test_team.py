"""The team in real windows: files that share a library, by mouse and key."""

from __future__ import annotations

import random
from contextlib import closing

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QPushButton

from demo.team import FerryTeam, demo_file
from outgrowth.app.benches.drops import COMPONENT_MIME
from outgrowth.app.benches.team import PictureChoice
from outgrowth.app.dialogs.connect import LibraryDialog
from outgrowth.app.theme import DARK, LIGHT
from outgrowth.core.color import Color
from outgrowth.core.document.records import Document, find
from outgrowth.core.edits.instances import place_instance
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree import owners
from outgrowth.core.exchange.native import load, save
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.connection import connect
from outgrowth.core.team.store import untold
from outgrowth.core.team.taking import take_in
from outgrowth.workspace.libraries import data_folder
from tests.fuzz.team import colleague_publishes

WHEN = 1_790_000_000


@pytest.fixture
def colleagues():
    return FerryTeam()


@pytest.fixture
def demo_path(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    return demo_file(data_folder(), WHEN)


@pytest.fixture
def library(demo_path, tmp_path):
    """The demo's library, as a colleague has it."""
    with closing(connect(str(demo_path.parent / "parts"), tmp_path / "copies")) as held:
        yield held


def rested(window, qtbot):
    """Waits until nothing is being done beside the window."""
    qtbot.waitUntil(lambda: not window.connector.jobs.busy, timeout=120_000)
    QApplication.processEvents()


def looked(window, qtbot):
    """The window has asked its libraries."""
    window.connector.first_look.stop()
    window.connector.look()
    rested(window, qtbot)
    return window


def connect_button(window):
    """The button of the Team tab that connects the file to the library it names."""
    return window.library.unconnected.findChild(QPushButton)


@pytest.fixture
def window_on(desk, qtbot):
    def opened(path):
        return looked(desk.open(path), qtbot)

    return opened


def recolour(document, color, component="button"):
    return set_properties(document, Place(component, ()), {"fill": color})


# --- ten files that use one button ----------------------------------------------------------


def test_a_new_look_reaches_ten_files_which_keep_their_overrides(
    library, desk, qtbot, tmp_path, window_on
):
    paths = []
    state = library.newest()
    for number in range(10):
        document = take_in(Document(f"File {number}"), state, ["button"], {}).document
        document = owners.new_component(document, "panel", "Panel", "box")
        document = place_instance(document, "panel", "box", "button", "use")
        size = {"font-size": 20.0 + number}
        document = set_properties(document, Place("panel", ("use", "label")), size)
        paths.append(tmp_path / f"file-{number}.outgrowth.json")
        save(document, paths[-1])
    windows = [window_on(path) for path in paths]
    for window in windows:  # whoever opens a file says once that its library may be asked
        window.library.tabs.choose("Team")
        QTest.mouseClick(connect_button(window), Qt.MouseButton.LeftButton)
        rested(window, qtbot)
    assert all(not window.status.news.isVisible() for window in windows)
    color = Color(0.2, 0.4, 0.2)
    colleague_publishes(library, lambda d: recolour(d, color), "button")
    for number, window in enumerate(windows):
        looked(window, qtbot)
        assert window.status.news.text() == "1 part has a newer version"
        before = window.workspace.document
        QTest.mouseClick(window.status.news, Qt.MouseButton.LeftButton)
        rested(window, qtbot)
        bench = window.team_bench
        assert window.bench_stack.currentWidget() is bench
        pairs = bench.sheet.chapters["button"].pairs
        assert len(pairs) == 4  # of the primary kind
        assert window.workspace.document is before  # nothing is changed by looking
        QTest.mouseClick(bench.confirm, Qt.MouseButton.LeftButton)
        after = window.workspace.document
        assert after.components["button"].root.style["fill"] == color
        use = find(after.components["panel"].root, "use")
        assert use == find(before.components["panel"].root, "use")
        assert use.overrides[0].value == 20.0 + number
        window.workspace.refresh_panels()
        assert not window.status.news.isVisible()
        window.run_action("undo")
        window.workspace.refresh_panels()
        assert window.workspace.document == before
        assert window.status.news.isVisible()


# --- a file from a stranger -----------------------------------------------------------------


def test_an_address_in_a_file_is_visited_when_somebody_connects_it(
    library, window_on, qtbot, tmp_path, demo_path
):
    document = take_in(Document("Kiosk"), library.newest(), ["button"], {}).document
    path = tmp_path / "kiosk.outgrowth.json"
    save(document, path)
    window = window_on(path)
    window.library.tabs.choose("Team")
    strip = window.library.unconnected
    assert strip.isVisible()
    words = " ".join(label.text() for label in strip.findChildren(QLabel))
    assert library.address in words and "not connected on this machine" in words
    (heading,) = window.library.model.entries
    assert "not connected" in heading.note and not heading.offline
    window.workspace.open("button")
    window.run_action("publish")
    assert "not connected" in window.status.message.text()
    titles = [action.text() for action in window.library.menu_for(heading).actions()]
    assert titles[0] == "Connect to it" and len(titles) == 2
    QTest.mouseClick(connect_button(window), Qt.MouseButton.LeftButton)
    rested(window, qtbot)
    assert strip.isHidden()
    assert any(entry.owner == "button" for entry in window.library.model.entries)
    # It is kept for this file, and for this file only.
    again = window_on(path)
    assert not again.team.not_connected and again.team.libraries[0].state is not None
    other = tmp_path / "copied.outgrowth.json"
    save(document, other)
    assert window_on(other).team.not_connected
    # What is connected goes with a file that is saved under another name.
    assert again.workspace.save(tmp_path / "saved as.outgrowth.json")
    assert not window_on(tmp_path / "saved as.outgrowth.json").team.not_connected


# --- parts of the team ----------------------------------------------------------------------


def test_a_part_is_dragged_in_from_the_team_and_is_read_only(library, window_on, qtbot, tmp_path):
    document = owners.new_component(Document("Kiosk"), "panel", "Panel", "box")
    path = tmp_path / "kiosk.outgrowth.json"
    save(document, path)
    window = window_on(path)
    workspace = window.workspace
    window.connector.connect_to(library.address)
    rested(window, qtbot)
    assert [one.name for one in workspace.document.sharing.libraries] == ["Holm & Skerry parts"]
    assert window.library.model.tab == "Team"
    row = next(e for e in window.library.model.entries if e.name == "Fare card")
    assert "Travel/Fare card" in [c.title for c in window.candidates()]
    menu = window.library.menu_for(row)
    assert [a.text() for a in menu.actions()] == ["Take in …", "Place here"]
    data = QMimeData()
    data.setData(COMPONENT_MIME, row.owner.encode())
    point = QPointF(window.grid.rect_of(workspace.selection.variant, ()).center())
    action, left, none = (
        Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    entering = QDragEnterEvent(point.toPoint(), action, data, left, none)
    window.grid.dragEnterEvent(entering)
    window.grid.dropEvent(QDropEvent(point, action, data, left, none))
    assert {"fare-card", "button"} <= set(workspace.document.components)
    assert workspace.document.sharing.read_only("fare-card")
    assert workspace.undo_name == "place Fare card"
    said = []
    workspace.failed.connect(said.append)
    workspace.open("button")
    assert not workspace.edit("recolour", lambda d: recolour(d, Color(1, 0, 0)))
    assert "read-only here" in said[-1]
    workspace.drag(lambda d: recolour(d, Color(1, 0, 0)))
    assert workspace.document.components["button"].root.style.get("fill") != Color(1, 0, 0)
    workspace.cancel_drag()
    window.run_action("work-here")
    assert workspace.edit("recolour", lambda d: recolour(d, Color(1, 0, 0)))
    workspace.undo()
    workspace.undo()
    workspace.undo()
    assert "fare-card" not in workspace.document.components


def test_the_team_tab_searches_and_shows_versions(library, demo_path, window_on):
    window = window_on(demo_path)
    window.library.tabs.choose("Team")
    entries = window.library.model.entries
    assert entries[0].name == "Holm & Skerry parts" and entries[0].folder
    assert {e.note for e in entries if e.owner} == {"1.0.0 · ours"}
    library_menu = window.library.menu_for(next(e for e in entries if e.name == "Chip"))
    assert [a.text() for a in library_menu.actions()] == [
        "Open", "Place here", "Go to its origin", "Make it our own",
    ]  # fmt: skip
    heading = window.library.menu_for(entries[0])
    heading.actions()[-1].trigger()
    assert not window.workspace.document.sharing.origins and not window.library.model.entries
    assert "chip" in window.workspace.document.components
    window.run_action("undo")
    window.workspace.refresh_panels()
    window.library.search.setText("day tab")
    assert [e.name for e in window.library.model.entries] == ["Day tab", "Day tabs"]
    window.library.search.setText("")


def test_a_library_is_made_in_one_step(desk, qtbot, tmp_path, window_on, demo_path):
    window = window_on(demo_path)
    window.run_action("make-library")
    dialog = window.findChild(LibraryDialog)
    assert dialog.name == "Holm & Skerry parts"
    dialog.suggest(str(tmp_path / "new parts"))
    dialog.accept()
    rested(window, qtbot)
    libraries = window.workspace.document.sharing.libraries
    assert [one.address for one in libraries][-1] == str(tmp_path / "new parts")
    with closing(connect(str(tmp_path / "new parts"), tmp_path)) as made:
        assert made.newest().document.component_order == ()


def test_what_is_no_library_is_said(window_on, demo_path, qtbot, tmp_path):
    window = window_on(demo_path)
    said = []
    window.workspace.failed.connect(said.append)
    window.connector.connect_to(str(tmp_path))
    rested(window, qtbot)
    assert "holds no library" in said[-1]
    window.connector.connect_to("")
    rested(window, qtbot)
    assert len(said) == 2


# --- publishing and clashes -----------------------------------------------------------------


def test_publishing_shows_versions_and_reasons_first(window_on, demo_path, qtbot, library):
    window = window_on(demo_path)
    workspace = window.workspace
    workspace.open("chip")
    workspace.edit("wider", lambda d: set_properties(d, Place("chip", ()), {"gap": 9.0}))
    window.run_action("publish")
    rested(window, qtbot)
    bench = window.team_bench
    assert bench.chosen() == ("chip",)
    assert bench.outcome.text() == "Goes out: Chip 1.0.1"
    assert bench.sheet.chapters["chip"].lines == ("Gap of chip: 9",)
    assert (bench.sheet.rows[0].level, bench.sheet.rows[0].reason) == ("patch", "Gap of chip: 9")
    bench.raised.emit("chip", "minor")
    rested(window, qtbot)
    assert bench.outcome.text() == "Goes out: Chip 1.1.0"
    QTest.keyClicks(bench.message, "Roomier")
    QTest.keyClick(bench.message, Qt.Key.Key_Return)
    rested(window, qtbot)
    assert library.refreshed(untold).version("chip") == "1.1.0"
    assert "Published: Chip 1.1.0" in window.notice.message.text()
    assert workspace.document.sharing.origins["chip"].version == "1.1.0"
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_two_who_disagree_see_both_and_pick(window_on, demo_path, qtbot, library):
    window = window_on(demo_path)
    workspace = window.workspace
    workspace.open("chip")
    mine, theirs = Color(0.2, 0.6, 0.2), Color(0.6, 0.2, 0.2)
    workspace.edit("green", lambda d: recolour(d, mine, "chip"))
    colleague_publishes(library, lambda d: recolour(d, theirs, "chip"), "chip")
    window.run_action("publish")
    rested(window, qtbot)
    QTest.keyClick(window.team_bench.message, Qt.Key.Key_Return)  # somebody was first
    rested(window, qtbot)
    bench = window.team_bench
    assert library.refreshed(untold).version("chip") == "1.0.1"
    choices = [c for c in bench.findChildren(PictureChoice) if c.isVisible()]
    assert [(c.text(), c.isChecked()) for c in choices] == [("Ours", True), ("Theirs", False)]
    assert choices[0].accessibleName() == "Ours: Controls/Chip: Fill of chip: #339933 or #993333"
    QTest.mouseClick(choices[1], Qt.MouseButton.LeftButton)
    rested(window, qtbot)
    assert bench.sheet.picks[0].side == "theirs"
    assert "Nothing would go out" in bench.outcome.text() and not bench.confirm.isEnabled()
    focused = window.focusWidget()
    assert isinstance(focused, PictureChoice) and focused.text() == "Theirs" and focused.isChecked()
    bench.picked.emit(bench.sheet.picks[0].key, "ours")
    rested(window, qtbot)
    QTest.mouseClick(bench.confirm, Qt.MouseButton.LeftButton)
    rested(window, qtbot)
    state = library.refreshed(untold)
    assert state.version("chip") == "1.0.2"
    assert state.document.components["chip"].root.style["fill"] == mine


def test_the_colleagues_publish_and_one_clashes(window_on, demo_path, qtbot):
    window = window_on(demo_path)
    workspace = window.workspace
    workspace.edit("roomy", lambda d: set_properties(d, Place("chip", ()), {"padding-left": 20.0}))
    window.run_action("colleagues")
    rested(window, qtbot)
    assert window.status.news.text() == "3 parts have newer versions"
    window.run_action("take-in")
    rested(window, qtbot)
    sheet = window.team_bench.sheet
    assert [row.name for row in sheet.rows] == [
        "Controls/Button", "Controls/Chip", "Travel/Notice",
    ]  # fmt: skip
    assert len(sheet.picks) == 1 and sheet.picks[0].text.startswith("Controls/Chip")
    assert sheet.chapters["notice"].lines[0] == "new axis Tone: calm, urgent"
    assert {pair.owner for pair in sheet.screens}
    parts = window.team_bench.parts
    parts.item(1).setCheckState(Qt.CheckState.Unchecked)  # all but the chip
    rested(window, qtbot)
    assert not window.team_bench.sheet.picks
    # The file goes on meanwhile: what would be taken in is worked out once more, nothing is lost.
    workspace.edit("mine", lambda d: set_properties(d, Place("toggle", ()), {"gap": 3.0}))
    window.team_bench.confirm.click()
    assert workspace.undo_name == "mine"
    rested(window, qtbot)
    window.team_bench.confirm.click()
    workspace.refresh_panels()
    assert workspace.document.components["toggle"].root.style["gap"] == 3.0
    assert workspace.document.components["notice"].axis("tone") is not None
    assert window.status.news.text() == "1 part has a newer version"


def test_the_work_beside_the_window_can_be_stopped(window_on, demo_path, qtbot):
    window = window_on(demo_path)
    window.run_action("colleagues")
    rested(window, qtbot)
    window.team_controller.show_news()
    window.team_bench.stop.click()
    assert "Stopped" in window.team_bench.outcome.text()
    rested(window, qtbot)
    assert window.team_bench.sheet is None
    window.team_bench.leave.click()
    assert window.bench_stack.currentWidget() is not window.team_bench


@pytest.mark.parametrize("seed", range(4))
def test_esc_stop_and_other_modes_while_something_is_worked_out_change_nothing(
    window_on, demo_path, qtbot, seed
):
    """In any order, and after any while: only what is confirmed is done."""
    chance = random.Random(seed)
    window = window_on(demo_path)
    window.run_action("colleagues")
    rested(window, qtbot)
    controller, bench, before = window.team_controller, window.team_bench, window.workspace.document
    acts = {
        "news": controller.show_news,
        "publish": controller.show_publish,
        "history": lambda: controller.show_history("button"),
        "stop": bench.stop.click,
        "esc": lambda: QTest.keyClick(bench, Qt.Key.Key_Escape),
        "leave": bench.leave.click,
        "untick": lambda: (
            bench.parts.count() and bench.parts.item(0).setCheckState(Qt.CheckState.Unchecked)
        ),
        "theme": lambda: window.set_theme(chance.choice((LIGHT, DARK))),
    }
    done = []
    for _ in range(25):
        done.append(chance.choice(list(acts)))
        acts[done[-1]]()
        qtbot.wait(chance.choice((0, 0, 5, 60)))
        if done[-1] in ("esc", "leave"):
            assert window.bench_stack.currentWidget() is not bench, done
    controller.show_news()
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    rested(window, qtbot)
    qtbot.waitUntil(lambda: not controller.jobs.busy, timeout=120_000)
    assert window.bench_stack.currentWidget() is not bench, "what ends late brings nothing back"
    assert window.workspace.document == before, done


# --- history --------------------------------------------------------------------------------


def test_an_old_version_is_looked_at_and_brought_back(window_on, demo_path, qtbot, library):
    colleague_publishes(library, lambda d: recolour(d, Color(1, 0, 0)), "button")
    window = window_on(demo_path)
    workspace = window.workspace
    workspace.open("button")
    before = workspace.document.components["button"]
    window.run_action("history")
    rested(window, qtbot)
    bench = window.team_bench
    titles = [bench.parts.item(n).text().split("\n")[0] for n in range(bench.parts.count())]
    assert titles == ["1.0.1", "1.0.0"]
    assert not bench.confirm.isEnabled()  # it is what there is
    bench.parts.setCurrentRow(1)
    rested(window, qtbot)
    assert len(bench.sheet.chapters[bench.current].pairs) == 4
    bench.confirm.click()
    assert workspace.undo_name == "bring back Button 1.0.0"
    assert workspace.document.components["button"] == before
    window.notice.choices[0].click()  # publish it, for everybody
    rested(window, qtbot)
    bench.confirm.click()
    rested(window, qtbot)
    state = library.refreshed(untold)
    assert state.version("button") == "1.0.2"
    assert state.document.components["button"] == before


# --- a file that two changed ----------------------------------------------------------------


def test_a_file_that_another_program_changed_is_brought_together(window_on, demo_path, qtbot, desk):
    window = window_on(demo_path)
    workspace = window.workspace
    theirs = set_properties(load(demo_path), Place("chip", ()), {"gap": 13.0})
    workspace.edit("mine", lambda d: set_properties(d, Place("button", ()), {"gap": 14.0}))
    save(theirs, demo_path)
    window.files.look()
    choice = next(c for c in window.notice.choices if "together" in c.text())
    choice.click()
    rested(window, qtbot)
    window.team_bench.confirm.click()
    components = workspace.document.components
    assert components["chip"].root.style["gap"] == 13.0
    assert components["button"].root.style["gap"] == 14.0
    assert workspace.undo_name == "bring both together" and workspace.unsaved
    assert window.files.save()
    assert load(demo_path) == workspace.document
    workspace.undo()
    assert workspace.document.components["chip"].root.style.get("gap") is None


def test_a_file_that_git_left_with_two_answers_is_picked(desk, demo_path, qtbot, tmp_path):
    from outgrowth.core.exchange.native import dumps
    from outgrowth.core.team.merge_files import merge_files

    base = load(demo_path)
    sides = [
        dumps(set_properties(base, Place("chip", ()), {"gap": value})).encode()
        for value in (20.0, 30.0)
    ]
    merged = merge_files(dumps(base).encode(), *sides, "x.outgrowth.json")
    assert len(merged.disagreements) == 1
    path = tmp_path / "merged.outgrowth.json"
    path.write_bytes(merged.data)
    window = looked(desk.open(path), qtbot)
    assert "both sides say different things" in window.notice.message.text()
    window.notice.choices[0].click()
    rested(window, qtbot)
    bench = window.team_bench
    bench.picked.emit(bench.sheet.picks[0].key, "theirs")
    rested(window, qtbot)
    bench.confirm.click()
    document = window.workspace.document
    assert document.components["chip"].root.style["gap"] == 30.0
    assert "unmerged" not in document.extras
