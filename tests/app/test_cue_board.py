"""The cue board and Live, by the window's own hands."""

import json

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt
from PyQt6.QtGui import QDragEnterEvent, QDragMoveEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QPushButton

from demo.behaviours import turned, with_cue
from outgrowth.app.benches.drops import CUE_MIME
from outgrowth.app.panels.cues.list import Sentence
from outgrowth.core.document.cues import Change, Motion
from outgrowth.core.document.records import DesignToken
from outgrowth.core.edits.tokens import remove_token, rename_token, set_token
from outgrowth.core.layout.rectangles import locate
from outgrowth.workspace.commands import cue_commands
from tests.core.runtime.test_inner_motion import tabs

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def board(window, workspace):
    workspace.open("notice")
    window.run_action("cues")
    QApplication.processEvents()
    return window.cue_board


def knob(board, axis, value):
    box = board.graph.box_of(axis, value)
    return QPointF(box.right() - 2, box.center().y()).toPoint()


def cues_of(workspace, owner="notice"):
    return workspace.document.owner(owner).behaviour.cues


def test_a_cue_is_drawn_from_one_state_to_another(window, workspace, board):
    graph = board.graph
    QTest.mousePress(graph, LEFT, NONE, knob(board, "open", "no"))
    target = board.graph.box_of("open", "yes").center().toPoint()
    QTest.mouseMove(graph, target)
    QTest.mouseRelease(graph, LEFT, NONE, target)
    workspace.refresh_panels()
    made = cues_of(workspace)[-1]
    assert dict(made.when) == {"open": "no"}
    assert (made.changes[0].act, made.changes[0].value) == ("set", "yes")
    assert board.cue == made, "and is looked at"
    window.run_action("undo")
    assert len(cues_of(workspace)) == 1


def test_a_state_that_the_pointer_sets_needs_no_cue(window, workspace, board):
    said = []
    workspace.failed.connect(said.append)
    workspace.open("button")
    workspace.refresh_panels()
    board.graph.drawn.emit("state", "rest", "hover")
    assert "needs no cue" in said[0]


def test_a_state_is_moved_and_a_click_shows_its_variant(window, workspace, board):
    graph, start = board.graph, board.graph.box_of("open", "yes").center().toPoint()
    QTest.mouseClick(graph, LEFT, NONE, start)
    assert workspace.selection.variant["open"] == "yes"
    QTest.mousePress(graph, LEFT, NONE, start)
    end = start + QPointF(60, 30).toPoint()
    QTest.mouseMove(graph, end)
    QTest.mouseRelease(graph, LEFT, NONE, end)
    assert "open/yes" in workspace.document.components["notice"].behaviour.places
    assert workspace.undo_name == "place a state"
    window.run_action("arrange-cues")
    assert not workspace.document.components["notice"].behaviour.places


def test_a_cue_is_read_and_edited_by_its_fields(window, workspace, hand, board):
    sentence = board.list.findChild(Sentence)
    assert sentence.text().startswith("When head is tapped")
    hand.click(sentence, sentence.rect().center())
    QApplication.processEvents()
    editor = board.list.editor
    editor.fields["trigger"].edited.emit("delay")
    workspace.refresh_panels()
    editor = board.list.editor
    assert cues_of(workspace)[0].trigger.ms == 1000.0
    editor.fields["if Open"].edited.emit(("no",))
    workspace.refresh_panels()
    assert dict(cues_of(workspace)[0].when) == {"open": "no"}
    assert workspace.undo_name == "when a cue holds"


def test_a_cue_is_added_at_the_selected_part_by_name(window, workspace, board):
    workspace.select(("answer",))
    window.run_action("add-cue")
    workspace.refresh_panels()
    assert cues_of(workspace)[-1].node == ("answer",)


def test_the_curve_is_pulled_and_the_whole_is_one_step(window, workspace, board):
    board.motion.levels.edited.emit("open/")
    curve = board.motion.curve
    start = curve.handle(0).toPoint()
    QTest.mousePress(curve, LEFT, NONE, start)
    for n in (10, 20, 30):
        QTest.mouseMove(curve, start + QPointF(n, -n).toPoint())
    QTest.mouseRelease(curve, LEFT, NONE, start + QPointF(30, -30).toPoint())
    workspace.refresh_panels()
    motion = workspace.document.components["notice"].axis("open").motion
    assert motion.easing.startswith("cubic-bezier(")
    window.run_action("undo")
    assert workspace.document.components["notice"].axis("open").motion.easing == "ease-out"


def test_a_motion_is_typed_and_becomes_a_spring(window, workspace, hand, board):
    board.motion.levels.edited.emit("open/")
    hand.type(board.motion.duration, "450")
    assert workspace.document.components["notice"].axis("open").motion == Motion(450.0)
    board.motion.kinds.edited.emit("spring")
    workspace.refresh_panels()
    assert workspace.document.components["notice"].axis("open").motion.easing == "spring(170, 26)"
    assert board.motion.length_label.text().endswith(" ms")
    said = []
    workspace.failed.connect(said.append)
    hand.type(board.motion.easing, "wobble")
    assert "is not an easing" in said[0]


def test_a_value_gets_a_motion_of_its_own_and_gives_it_back(window, workspace, board):
    board.motion.levels.edited.emit("open/yes")
    board.motion.own.edited.emit(True)
    workspace.refresh_panels()
    entered = workspace.document.components["notice"].axis("open").value("yes")
    assert entered.motion == Motion(300.0)
    board.motion.own.edited.emit(False)
    assert workspace.document.components["notice"].axis("open").value("yes").motion is None


def test_the_scrubber_drives_the_real_movement_in_the_variant(window, workspace, board):
    variant = workspace.selection.variant
    rest = window.grid.view(variant)
    board.scrubber.setValue(500)
    half = window.grid.view(variant)
    assert rest.placed.height < half.placed.height < 124
    assert board.time.text() == "150 ms"
    board.rest.click()
    assert window.grid.view(variant) == rest


def test_an_instance_silences_what_it_inherits(window, workspace, board):
    workspace.open("help")
    workspace.select(("notice-1",))
    workspace.refresh_panels()
    cue_commands.silence(workspace, ("notice-1",), cues_of(workspace)[0], True)
    assert workspace.document.screens["help"].behaviour.silenced
    assert workspace.undo_name == "silence a cue"


def spot(stage, *path):
    zoom, corner = stage.frame_of()
    rect = next(a.rect for a in locate(*stage.playback.runtime.view(), "") if a.path == path)
    return (corner + QPointF(*rect.center) * zoom).toPoint()


def test_live_is_tapped_typed_at_and_left_by_tab(window, workspace, hand):
    workspace.open("help")
    stage = window.live.stage
    stage.playback.restart()
    QTest.mouseClick(stage, LEFT, NONE, spot(stage, "notice-1", "head"))
    assert stage.playback.runtime.states[("notice-1",), "open"] == "yes"
    stage.setFocus()
    QTest.keyClick(stage, Qt.Key.Key_Space)
    assert stage.playback.runtime.states[("notice-1",), "open"] == "no"
    QTest.keyClick(stage, Qt.Key.Key_Tab)
    assert stage.playback.runtime.focus == ("notice-2", "head")
    QTest.keyClick(stage, Qt.Key.Key_Tab)
    assert stage.playback.runtime.focus is None, "after the last part Tab goes on to the next panel"


def test_live_shows_a_part_on_a_screen_that_uses_it_and_in_other_rooms(window, workspace, hand):
    workspace.open("notice")
    live = window.live
    live.places.edited.emit("help")
    assert live.stage.playback.runtime.shown_owner == "help"
    live.places.edited.emit("")
    workspace.open("search-form")
    live.stage.playback.set_room(240.0, None)
    assert live.stage.playback.runtime.target_placed.width == 240.0
    live.stage.playback.set_touch(True)
    assert live.stage.playback.runtime.touch
    live.outline.click()
    assert live.stage.outlined


def test_what_is_done_in_live_is_recorded_and_played(window, workspace, tmp_path, monkeypatch):
    workspace.open("help")
    stage, file = window.live.stage, tmp_path / "open.json"
    window.run_action("record")
    QTest.mouseClick(stage, LEFT, NONE, spot(stage, "notice-2", "head"))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(file), ""))
    window.run_action("record")
    held = json.loads(file.read_text())
    assert [event["do"] for event in held["events"]][-2:] == ["press", "release"]
    assert not stage.playback.recording
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(file), ""))
    window.run_action("play")
    assert not stage.playback.runtime.states.get((("notice-2",), "open"))
    stage.playback.pass_time(60_000.0)
    assert stage.playback.runtime.states[("notice-2",), "open"] == "yes"


def test_live_opens_in_a_window_of_its_own(window, workspace, qtbot):
    window.run_action("live-window")
    assert window.live.other_window is not None
    assert window.live.other_window.isWindow()
    window.live.other_window.stage.stop()
    window.live.other_window.close()
    qtbot.waitUntil(lambda: window.live.other_window is None)


def test_conditions_take_several_values_and_other_parts(window, workspace, board):
    workspace.open("help")
    workspace.edit(
        "add a cue",
        lambda d: with_cue(d, "help", "tap", Change("go", "fares"), node=("notice-0",)),
    )
    board.choose("help-cue-1")
    QApplication.processEvents()
    editor = board.list.editor
    further = editor.fields["only if"]
    texts = [further.itemText(n) for n in range(further.count())]
    at = texts.index("Open of May I bring my bicycle?")
    further.setCurrentIndex(at)
    further.activated.emit(at)
    workspace.refresh_panels()
    QApplication.processEvents()
    (asked,) = cues_of(workspace, "help")[0].conditions
    assert (asked.at, asked.axis, asked.values) == (("notice-0",), "open", ("no",))
    field = board.list.editor.fields["if Open of May I bring my bicycle?"]
    (yes,) = [tick for tick in field.menu().actions() if tick.text() == "yes"]
    yes.trigger()
    QApplication.processEvents()
    workspace.refresh_panels()
    assert cues_of(workspace, "help")[0].conditions[0].values == ("no", "yes")
    QApplication.processEvents()
    field = board.list.editor.fields["if Open of May I bring my bicycle?"]
    assert field.text() == "no or yes"
    field = board.list.editor.fields["if Open of May I bring my bicycle?"]
    field.edited.emit(())
    workspace.refresh_panels()
    assert cues_of(workspace, "help")[0].conditions == ()


def test_an_end_of_a_cue_is_carried_to_another_part(window, workspace, board):
    board.choose("notice-cue-1")
    QApplication.processEvents()
    data = QMimeData()
    data.setData(CUE_MIME, b"node")
    bench = window.grid
    view = bench.current_view()
    rect = next(a.rect for a in locate(*view, "") if a.path == ("answer",) or a.path == ("head",))
    point = bench.mapped(rect).center()
    left, link = Qt.MouseButton.LeftButton, Qt.DropAction.LinkAction
    enter = QDragEnterEvent(point.toPoint(), link, data, left, NONE)
    bench.dragEnterEvent(enter)
    assert enter.isAccepted()
    bench.dragMoveEvent(QDragMoveEvent(point.toPoint(), link, data, left, NONE))
    under = bench.path_under(point)
    bench.dropEvent(QDropEvent(point, link, data, left, NONE))
    workspace.refresh_panels()
    assert cues_of(workspace)[0].node == under
    said = []
    workspace.failed.connect(said.append)
    board.carry("change 0", ("head",))
    assert "parts without values" in said[0], "what cannot be changed there is said"
    assert cues_of(workspace)[0].changes[0].at == ()


def test_live_is_held_and_goes_on_by_single_frames(window, workspace):
    workspace.open("help")
    stage = window.live.stage
    stage.playback.runtime.press(*_center(stage, "notice-0", "head"))
    stage.playback.runtime.release(*_center(stage, "notice-0", "head"))
    window.run_action("hold-time")
    assert window.live.holder.isChecked()
    now = stage.playback.runtime.now
    stage.playback.tick()
    assert stage.playback.runtime.now == now
    window.run_action("step-time")
    assert stage.playback.runtime.now == pytest.approx(now + 1000 / 60, abs=1e-5)
    window.live.holder.setChecked(False)
    assert not stage.playback.paused


def _center(stage, *path):
    return next(a.rect for a in locate(*stage.playback.runtime.view(), "") if a.path == path).center


def test_a_new_motion_lands_on_this_cue_and_each_level_says_what_it_touches(
    window, workspace, hand, board
):
    levels = [board.motion.levels.itemText(n) for n in range(board.motion.levels.count())]
    assert levels[0] == "this cue (2 changes)"
    # The axis says a motion, so what is said of the component or the file bears not on it.
    assert levels[-3:] == [
        "Open (2 changes) ·",
        "all of Notice (0 changes)",
        "the whole file (0 changes) ·",
    ]
    before = workspace.document
    hand.type(board.motion.duration, "700")
    cue = next(c for c in cues_of(workspace) if c.trigger.kind == "tap")
    assert cue.motion is not None and cue.motion.duration == 700.0
    component = workspace.document.components["notice"]
    assert component.axes == before.components["notice"].axes
    assert workspace.document.motion == before.motion


def test_an_inner_part_moves_as_it_says_until_its_holder_leads_it(window, workspace):
    document = with_cue(tabs(), "tab", "tap", turned("open"), node=("head",))
    workspace.edit("tabs", lambda _: document)
    workspace.open("tab")
    window.run_action("cues")
    workspace.refresh_panels()
    board = window.cue_board

    def ends():
        return {(m.path, m.property): round(m.begun.end) for m in board._movement[0].moved()}

    assert ends()[("head",), "height"] == 160
    assert ends()[("r", "bar"), "width"] == 1000
    board.scrubber.setValue(1000)
    assert board.time.text() == "1000 ms"
    lead = next(b for b in board.tracks.findChildren(QPushButton) if b.text() == "with this")
    lead.click()
    workspace.refresh_panels()
    assert workspace.component.behaviour.leads == (("r",),)
    assert ends()[("r", "bar"), "width"] == 160
    again = next(b for b in board.tracks.findChildren(QPushButton) if "part says" in b.text())
    again.click()
    assert workspace.component.behaviour.leads == ()


def test_a_wait_follows_a_token_of_a_duration(window, workspace, board):
    token = DesignToken("duration", 240.0)
    workspace.edit("token", lambda document: set_token(document, "wait.short", token))
    cue = cues_of(workspace)[0]
    board.choose(cue.id)
    board.list.editor.fields["trigger"].edited.emit("delay")
    workspace.refresh_panels()
    board.list.editor.fields["token"].edited.emit("wait.short")
    workspace.refresh_panels()
    trigger = cues_of(workspace)[0].trigger
    assert (trigger.token, trigger.ms) == ("wait.short", 240.0)
    workspace.edit("rename", lambda document: rename_token(document, "wait.short", "wait.brief"))
    assert cues_of(workspace)[0].trigger.token == "wait.brief"
    workspace.edit("remove", lambda document: remove_token(document, "wait.brief"))
    trigger = cues_of(workspace)[0].trigger
    assert (trigger.token, trigger.ms) == ("", 240.0), "what it gave stays"


def test_a_cue_leads_into_what_the_pointer_never_sets_and_back(window, workspace):
    workspace.open("button")
    said = []
    workspace.failed.connect(said.append)
    axis = next(a for a in workspace.component.axes if a.driver == "pointer")
    assert not cue_commands.draw(workspace, axis, "rest", "hover")
    assert "by itself" in said[0]
    off = cue_commands.draw(workspace, axis, "rest", "disabled")
    cue = next(c for c in cues_of(workspace, "button") if c.id == off)
    assert (cue.changes[0].value, dict(cue.when)) == ("disabled", {}), "tapped, it is never at rest"
    back = cue_commands.draw(workspace, axis, "disabled", "rest")
    cue = next(c for c in cues_of(workspace, "button") if c.id == back)
    assert (cue.changes[0].value, dict(cue.when)) == ("rest", {axis.id: "disabled"})
