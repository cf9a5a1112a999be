"""The way from one end to the other, in the real window: see a component, change it, see its
instances follow, hover and press it in Live, save, open again."""

import pytest
from immutables import Map
from PyQt6.QtCore import QEvent, QPointF, Qt

from outgrowth.core.color import parse
from outgrowth.core.exchange.native import load
from outgrowth.core.motion.easing import easing
from outgrowth.core.motion.mixing import mix
from outgrowth.core.paint import record
from outgrowth.core.paint.marks import Box, Glyphs
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.core.runtime import scene_at
from outgrowth.workspace.commands import style_commands

SEA = parse("#17495A")
PLUM = parse("#6A2C70")


def colors(window):
    """How often each colour fills a box on the canvas, by its own display list."""
    found = {}
    for drawn in record(window.canvas.display_list()):
        if isinstance(drawn.mark, Box):
            found[drawn.mark.color] = found.get(drawn.mark.color, 0) + 1
    return found


def test_a_fill_changed_in_the_ledger_changes_every_instance(window, workspace, hand):
    workspace.open("desk")
    before = colors(window)
    workspace.open("button")
    hand.part(kind="primary", state="rest")
    hand.type(hand.row("fill").text, "#6A2C70")
    assert workspace.undo_name == "fill of button"
    workspace.open("desk")
    after = colors(window)
    follow = before[SEA] - 2  # the side strip and a tick have the same colour and are no buttons
    assert follow == 1
    assert after[PLUM] == follow
    assert after[SEA] == 2
    assert after[parse("#B8452B")] == before[parse("#B8452B")], "an overridden one keeps its own"


def test_padding_moves_what_stands_beside(window, workspace, hand):
    workspace.open("boarding")
    wide = window.canvas.rect_of(("wait",)).width() / window.canvas.zoom
    workspace.open("button")
    hand.part()
    field = hand.row("padding-left").fields["padding-left"]
    hand.type(field, "+10")
    assert value_at(workspace.document, Place("button"), "padding-left") == 28.0
    workspace.open("boarding")
    wider = window.canvas.rect_of(("wait",)).width() / window.canvas.zoom
    assert wider == pytest.approx(wide + 10)


@pytest.fixture
def clock(window):
    """Live's clock, in our hand."""
    stage = window.live.stage
    stage.stop()
    time = [0.0]
    stage.playback.clock = lambda: time[0]
    stage.playback._ticked = 0.0

    def pass_time(ms):
        time[0] += ms
        stage.playback.tick()
        stage.stop()

    return pass_time


def live_fill(window, path=()):
    return scene_at(window.live.stage.playback.runtime.view().scene, path).paint.fill


def live_spot(stage):
    zoom, corner = stage.frame_of()
    return corner + QPointF(12, 12) * zoom


def test_hover_and_press_in_live(window, workspace, hand, clock, qtbot, close):
    workspace.open("button")
    stage = window.live.stage
    rest = live_fill(window)
    hover = workspace.engine.view(workspace.document, "button", Map(state="hover")).scene.paint.fill
    press = workspace.engine.view(workspace.document, "button", Map(state="press")).scene.paint.fill
    hand.hover(stage, live_spot(stage))
    stage.stop()
    clock(80)
    assert live_fill(window) == close(mix(rest, hover, easing("ease-out")(0.5)))
    clock(80)
    assert live_fill(window) == hover
    qtbot.mousePress(stage, Qt.MouseButton.LeftButton, pos=live_spot(stage).toPoint())
    clock(160)
    assert live_fill(window) == press
    qtbot.mouseRelease(stage, Qt.MouseButton.LeftButton, pos=live_spot(stage).toPoint())
    stage.leaveEvent(QEvent(QEvent.Type.Leave))
    clock(160)
    assert live_fill(window) == rest


def test_live_starts_at_rest_whatever_variant_is_edited(window, workspace, hand):
    workspace.open("button")
    hand.part(state="press")
    assert workspace.selection.variant["state"] == "press"
    assert live_fill(window) == SEA


def test_save_and_open_again(window, workspace, hand, tmp_path):
    hand.part()
    hand.type(hand.row("gap"), "12")
    assert workspace.unsaved
    assert window.windowTitle().startswith("•")
    hand.key(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert not workspace.unsaved
    assert load(workspace.path) == workspace.document


def test_undo_to_the_start_is_the_document_as_it_was(window, workspace, hand, ferry):
    hand.part()
    hand.type(hand.row("gap"), "3*4")
    hand.type(hand.row("fill").text, "color.coral")
    hand.click(hand.row("width").modes.button("fixed"))
    hand.part(state="hover")
    hand.type(hand.row("radius-top-left").fields["radius-top-left"], "0")
    window.layers.model.setData(window.layers.model.index(2), "words", 0)
    assert workspace.document != ferry
    steps = 0
    while workspace.undo_name and steps < 20:
        hand.key(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        steps += 1
    assert steps == 5
    assert workspace.document == ferry
    while workspace.redo_name:
        window.run_action("redo")
    assert value_at(workspace.document, Place("button"), "gap") == 12.0


def test_the_reach_is_suggested_said_widened_and_narrowed(window, workspace, hand):
    hand.part(kind="quiet", state="hover")
    assert workspace.reach == Map(kind="quiet", state="hover")
    assert "<b>1 of 8</b>" in window.reach_bar.reach_label.text()
    assert window.reach_bar.chips["state"].text() == "State: hover"
    hand.key(window.grid, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert workspace.reach == Map(kind="quiet")
    assert "<b>4 of 8</b>" in window.reach_bar.reach_label.text()
    assert len(window.grid._within) == 4
    window.reach_bar.set_axis("kind", None)
    assert workspace.reach == Map()
    assert "39 instances · 8 screens" in window.reach_bar.reach_label.text()
    window.run_action("narrow")
    assert workspace.reach == Map(kind="quiet")


def test_an_edit_lands_on_the_reach_and_nowhere_else(window, workspace, hand):
    hand.part(kind="quiet", state="hover")
    window.run_action("widen")
    hand.type(hand.row("gap"), "20")
    gaps = {
        cell.variant: window.grid.view(cell.variant).scene.layout.style.gap
        for cell in window.grid.cells
    }
    assert [gap for variant, gap in gaps.items() if variant["kind"] == "quiet"] == [20.0] * 4
    assert [gap for variant, gap in gaps.items() if variant["kind"] == "primary"] == [8.0] * 4
    assert workspace.undo_name == "gap of button, Kind: Quiet"


def test_an_instance_is_overridden_told_apart_and_put_back(window, workspace, hand, qtbot):
    workspace.open("boarding")
    hand.part("board")
    assert window.status.selected.text().startswith("Board now button")
    hand.type(hand.row("choice:label"), "All aboard")
    hand.type(hand.row("fill").text, "#6A2C70")
    row = window.ledger.row("fill")
    assert row.tag.text() == "only here"
    workspace.edit("padding", lambda d: d)
    hand.click(row.tag)
    put_back = [b for b in row.findChildren(type(row.tag)) if b.text().startswith("put back")]
    assert len(put_back) == 2
    hand.click(put_back[-1])
    assert value_at(workspace.document, workspace.place, "fill") == SEA
    words = [d for d in record(window.canvas.display_list()) if isinstance(d.mark, Glyphs)]
    assert words
    assert value_at(workspace.document, workspace.place, "choice:label")[0].text == "All aboard"


def test_a_drag_of_a_label_is_one_step_and_esc_takes_it_back(window, workspace, hand, ferry):
    hand.part()
    row = window.ledger.row("gap")
    label = row.editor.label
    from PyQt6.QtTest import QTest

    QTest.mousePress(label, Qt.MouseButton.LeftButton)
    for x in (4, 10, 20):
        QTest.mouseMove(label, label.rect().topLeft() + QPointF(x, 2).toPoint())
    drag = workspace.document
    QTest.keyClick(label, Qt.Key.Key_Escape)
    QTest.mouseRelease(label, Qt.MouseButton.LeftButton)
    assert workspace.document == ferry
    assert drag != ferry
    assert workspace.undo_name == ""


def test_selecting_in_layers_and_on_the_bench_is_the_same(window, workspace, hand):
    index = window.layers.model.index(2)
    hand.click(window.layers.list.viewport(), window.layers.list.visualRect(index).center())
    assert workspace.selection.path == ("label",)
    hand.part("label", kind="quiet", state="rest")
    assert workspace.selection.variant["kind"] == "quiet"
    assert window.layers.list.currentIndex().row() == 2
    workspace.open("desk")
    hand.part("add")
    assert workspace.selection.path == ("add",)
    hand.click(window.canvas, window.canvas.rect_of(("add",)).center(), double=True)
    assert workspace.selection.path[:1] == ("add",)
    assert len(workspace.selection.path) == 2
    hand.key(window.canvas, Qt.Key.Key_Escape)
    assert workspace.selection.path == ("add",)


def test_find_or_do_goes_and_does(window, workspace, hand):
    window.run_action("find")
    finder = window.finder
    hand.type(finder.field, "harbour")
    assert workspace.screen is not None
    window.run_action("find")
    hand.type(finder.field, "light or")
    assert window.theme.name == "dark"
    window.run_action("theme")


def test_a_bad_file_is_a_sentence_and_the_work_stays(window, workspace, hand, tmp_path):
    document = workspace.document
    bad = tmp_path / "bad.outgrowth.json"
    bad.write_text('{"format": "outgrowth", "version": 99}')
    window.files.open(bad)
    assert "newer Outgrowth" in window.status.message.text()
    assert workspace.document is document
    hand.part()
    hand.type(hand.row("gap"), "wide")
    assert "is not a number" in window.status.message.text()
    assert workspace.document is document


def test_no_two_actions_share_a_shortcut(window):
    from outgrowth.workspace.commands.action import doubled_shortcuts

    assert doubled_shortcuts(window.actions_list) == []
    assert len({a.id for a in window.actions_list}) == len(window.actions_list)


def test_every_control_has_a_name(window, workspace):
    from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLineEdit

    for owner, path in (("button", ()), ("boarding", ("board",)), ("boarding", ("title",))):
        workspace.open(owner)
        workspace.select(path)
        for kind in (QAbstractButton, QLineEdit, QComboBox):
            for widget in window.findChildren(kind):
                if widget.isVisible():
                    named = widget.accessibleName() or getattr(widget, "text", str)()
                    assert named, widget.parent()


def test_a_missing_typeface_is_marked(window, workspace, hand):
    workspace.open("boarding")
    hand.part("title")
    hand.row("font-family")
    style_commands.set_style(workspace, {"font-family": "Harbour Grotesk"})
    workspace.refresh_panels()
    assert "Harbour Grotesk" in window.status.warning.text()
    assert "not on this machine" in hand.row("font-family").toolTip()
