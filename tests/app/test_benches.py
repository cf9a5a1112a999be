"""Looking around on the benches: zoom, panning, variants by key, layers, the library."""

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest

from outgrowth.app.benches.aside import AsideBench
from outgrowth.workspace.commands.reasons import is_of_selection
from outgrowth.workspace.views.library_rows import component_rows, screen_rows


@pytest.fixture
def canvas(window, workspace):
    workspace.open("desk")
    return window.canvas


def wheel(canvas, point, turn, held=Qt.KeyboardModifier.NoModifier):
    canvas.wheelEvent(
        QWheelEvent(
            point,
            canvas.mapToGlobal(point),
            QPoint(),
            QPoint(0, turn),
            Qt.MouseButton.NoButton,
            held,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
    )


def test_zooming_keeps_the_place_under_the_pointer(canvas):
    point = QPointF(200, 150)
    before = canvas.to_owner(point)
    wheel(canvas, point, 240, Qt.KeyboardModifier.ControlModifier)
    after = canvas.to_owner(point)
    assert canvas.zoom > 0.4
    # The picture lies on whole px of the display, the view itself does not drift.
    assert (after.x(), after.y()) == pytest.approx((before.x(), before.y()), abs=1 / canvas.zoom)
    exact = (point - canvas._exact) / canvas.zoom
    for turn in (120, -240, 360, -240):
        wheel(canvas, point, turn, Qt.KeyboardModifier.ControlModifier)
    still = (point - canvas._exact) / canvas.zoom
    assert (still.x(), still.y()) == pytest.approx((exact.x(), exact.y()))
    for _ in range(40):
        wheel(canvas, point, 1200, Qt.KeyboardModifier.ControlModifier)
    assert canvas.zoom == 16.0, "and ends somewhere"


def test_the_wheel_scrolls_and_fit_returns(window, canvas):
    where = canvas._offset
    wheel(canvas, QPointF(50, 50), -120)
    assert canvas._offset.y() < where.y()
    window.run_action("fit")
    assert canvas._offset == where
    window.run_action("larger")
    assert window.status.zoom.text() == f"{canvas.zoom * 100:.0f} %"


def test_the_middle_button_drags_the_view(canvas):
    where = QPointF(canvas._offset)
    QTest.mousePress(canvas, Qt.MouseButton.MiddleButton, pos=QPoint(100, 100))
    canvas._pan = QPointF(100, 100)
    canvas._look(canvas.zoom, canvas._offset + QPointF(30, 10))
    QTest.mouseRelease(canvas, Qt.MouseButton.MiddleButton, pos=QPoint(130, 110))
    assert canvas._offset == where + QPointF(30, 10)
    assert canvas._pan is None


def test_a_click_on_the_bed_selects_nothing(workspace, hand, canvas):
    hand.part("add")
    hand.click(canvas, QPoint(3, 3))
    assert workspace.selection.path is None


def test_esc_goes_out_to_what_holds_it(workspace, hand, canvas):
    hand.part("add")
    for expected in (("desk-header",), ("main",), (), None):
        hand.key(canvas, Qt.Key.Key_Escape)
        assert workspace.selection.path == expected


def test_arrows_go_from_variant_to_variant(window, workspace, hand):
    hand.part(kind="primary", state="rest")
    hand.key(window.grid, Qt.Key.Key_Right)
    hand.key(window.grid, Qt.Key.Key_Down)
    hand.key(window.grid, Qt.Key.Key_Up)
    hand.key(window.grid, Qt.Key.Key_Down)
    assert dict(workspace.selection.variant) == {"kind": "quiet", "state": "hover"}
    hand.key(window.grid, Qt.Key.Key_Down)
    assert workspace.selection.variant["kind"] == "quiet", "and stop at the edge"


def test_what_a_click_would_pick_is_shown_before(window, hand):
    hand.hover(window.grid, window.grid.rect_of(window.grid.cells[1].variant, ("label",)).center())
    assert window.grid._pointed == (window.grid.cells[1].variant, ("label",))
    window.grid.leaveEvent(None)
    assert window.grid._pointed is None


def test_the_library_has_folders_and_counts(window, workspace, ferry):
    names = [(entry.name, entry.folder) for entry in component_rows(ferry)]
    assert names[0] == ("Controls", True)
    assert ("Icon", True) in names
    assert ("Anchor", False) in names
    assert [entry.name for entry in screen_rows(ferry)][:2] == ["Boarding", "Harbour desk"]
    window.library._count()
    assert window.library._delegate.counts["button"] == 39


def test_an_entry_opens_on_the_bench(window, workspace, hand):
    hand.entry("Toggle")
    assert workspace.component.id == "toggle"
    window.library.tabs.choose("Screens")
    hand.entry("Fares")
    assert workspace.screen.id == "fares"
    assert window.bench_stack.currentWidget() is window.canvas


def test_layers_fold_rename_and_dim_what_is_not_shown(window, workspace, hand):
    layers = window.layers
    icon = next(line for line in layers.model.lines if line.name == "icon")
    assert not icon.shown, "switched off by default, dimmed and not gone"
    assert icon.slot
    workspace.open("desk")
    rows = len(layers.model.lines)
    side = next(line for line in layers.model.lines if line.name == "side")
    layers.model.fold(side)
    assert len(layers.model.lines) == rows - 6
    index = layers.model.index_of(("today",))
    assert layers.model.setData(index, "headline", 0)
    workspace.refresh_panels()
    assert "headline" in [line.name for line in layers.model.lines]
    layers.model.setData(layers.model.index_of(("today",)), "  ", 0)
    assert "needs a name" in window.status.message.text()


def test_live_runs_slower_and_without_motion_on_demand(window, workspace):
    window.live.speeds.button("0.25").click()
    assert window.live.stage.playback.speed == 0.25
    window.live.still.click()
    assert window.live.stage.playback.runtime.reduced_motion
    window.live.again.click()
    assert not window.live.stage.playback.runtime.states


@pytest.mark.parametrize(
    "name",
    ["gathering", "tokens", "words", "overview", "map", "team", "hand-over", "look", "trials"],
)
def test_esc_leaves_every_bench_beside_the_work(canvas, window, hand, name):
    window.view.show(name)
    bench = window.benches[name].widget
    assert isinstance(bench, AsideBench)
    assert window.bench_stack.currentWidget() is bench
    hand.key(bench, Qt.Key.Key_Escape)
    assert window.bench_stack.currentWidget() is canvas


def test_no_bench_beside_the_work_is_without_its_way_back(window):
    beside = {name for name, row in window.benches.items() if not row.edits and name != "start"}
    assert all(isinstance(window.benches[name].widget, AsideBench) for name in beside)


@pytest.mark.parametrize(
    "name", ["gathering", "tokens", "words", "overview", "map", "hand-over", "look", "trials"]
)
def test_every_bench_beside_the_work_says_in_a_sentence_what_it_is_for(canvas, window, name):
    window.view.show(name)
    bench = window.benches[name].widget
    assert bench.heading.text() == bench.accessibleName()
    assert bench.about.isVisible() and bench.about.text().endswith(".")
    assert len(bench.about.text().split()) >= 8
    assert bench.leave.isVisible()


@pytest.mark.parametrize("name", ["overview", "map"])
def test_nothing_behind_a_bench_with_all_the_room_is_changed_by_keys(window, workspace, name):
    workspace.open("button")
    workspace.select(("label",))
    window.view.show(name)
    bench = window.benches[name].widget
    before, selection, reach = workspace.document, workspace.selection, workspace.reach
    for action in window.actions_list:
        if is_of_selection(action) and action.enabled():
            window.run_action(action.id)
            assert (workspace.document, workspace.selection) == (before, selection), action.id
            assert workspace.reach == reach, action.id
            assert "Esc" in window.status.message.text()
            assert window.bench_stack.currentWidget() is bench
    window.view.show_bench()
    window.run_action("duplicate")
    assert workspace.document is not before


def test_the_map_is_looked_at_closer_by_the_usual_keys(window, workspace):
    window.view.show("map")
    zoom, behind = window.map.view.zoom, window.grid.zoom
    window.run_action("larger")
    assert window.map.view.zoom > zoom and window.grid.zoom == behind
    window.run_action("fit")
    assert window.map.view.zoom <= 1.0
