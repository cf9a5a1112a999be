"""What is worked at is in sight: the bench refits after an axis is added and while words grow, and
values are stacked where that shows them larger."""

import pytest
from PyQt6.QtCore import QRect, QRectF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from demo.drawing import box, text
from outgrowth.app.window_frame import _first_size
from outgrowth.core.color import contrast, parse
from outgrowth.core.document.records import Axis, AxisValue, Component
from outgrowth.core.document.values import words
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.edits.tree.drawing import DRAWN_KINDS
from outgrowth.workspace.commands.axis_commands import lay
from outgrowth.workspace.commands.create_commands import draw
from outgrowth.workspace.commands.library_commands import new_component
from outgrowth.workspace.commands.style_commands import set_style
from outgrowth.workspace.commands.variant_commands import give_states


def is_in_sight(window):
    """Whether every cell is within the frame of the grid."""
    grid, frame = window.grid, window.grid_bench.frame.viewport()
    room = QRectF(frame.rect())
    corner = grid.mapTo(frame, grid.rect().topLeft())
    rects = [QRectF(c.rect.x, c.rect.y, c.rect.width, c.rect.height) for c in grid.cells]
    return all(room.contains(rect.translated(corner.x(), corner.y())) for rect in rects)


def settled(workspace):
    for _ in range(3):
        workspace.refresh_panels()
        QApplication.processEvents()


def test_a_part_that_grows_while_it_is_written_stays_in_sight(window, workspace):
    window.activateWindow()
    new_component(workspace)
    draw(workspace, "text")
    settled(workspace)
    text_path = workspace.selection.path
    window.run_action("words")
    for letters in ("Board", " the night", " ferry to Skerry", " and Little Holm, by bicycle"):
        QTest.keyClicks(QApplication.focusWidget(), letters)
        settled(workspace)
        assert is_in_sight(window)
        rect, field = window.grid.rect_of_path(text_path), QApplication.focusWidget()
        assert abs(field.x() - rect.x()) < 8 and field.width() >= rect.width() - 1
    zoom = window.grid.zoom
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    assert window.grid.zoom == zoom


def test_the_bench_refits_when_an_axis_comes_and_goes(window, workspace):
    new_component(workspace)
    draw(workspace, "text")
    set_style(workspace, {"content": words("Board now")})
    settled(workspace)
    before = window.grid.zoom
    give_states(workspace)
    settled(workspace)
    assert is_in_sight(window) and window.grid.zoom < before
    workspace.undo()
    settled(workspace)
    assert is_in_sight(window) and window.grid.zoom == before


def test_who_looks_closer_is_left_alone(window, workspace):
    new_component(workspace)
    settled(workspace)
    window.view.zoom(1.3)
    zoom = window.grid.zoom
    give_states(workspace)
    settled(workspace)
    assert window.grid.zoom == zoom


def part(width, count):
    values = tuple(AxisValue(f"v{n}", f"Value {n}") for n in range(count))
    root = box("wide", text("t", "Sail", color="#14252B"), width=width, padding=(8, 8))
    return Component("wide", "Wide", root, (Axis("a", "A", values, "v0"),))


@pytest.mark.parametrize(
    ("width", "count", "stacked"), [(340, 3, True), (340, 2, True), (60, 3, False), (60, 2, False)]
)
def test_values_are_stacked_where_that_shows_them_larger(window, workspace, width, count, stacked):
    workspace.edit("add", lambda document: add_component(document, part(width, count)))
    workspace.open("wide")
    settled(workspace)
    xs = {cell.rect.x for cell in window.grid.cells}
    assert (len(xs) == 1) is stacked
    assert is_in_sight(window)


def test_how_somebody_laid_them_is_how_they_lie(window, workspace):
    workspace.edit("add", lambda document: add_component(document, part(340, 3)))
    workspace.open("wide")
    lay(workspace, workspace.component, workspace.component.axes[0], "columns")
    settled(workspace)
    assert len({cell.rect.y for cell in window.grid.cells}) == 1


# --- a window that fits -------------------------------------------------------------------------

SIZES = [(1280, 688), (1366, 736), (1000, 688)]
"""Of screens of 1280 x 720 and 1366 x 768 with a frame of 32 px, and a narrow one."""


@pytest.mark.parametrize("size", SIZES)
@pytest.mark.parametrize("drawer", [False, True], ids=["alone", "with the cue board"])
def test_every_bench_and_drawer_fits_a_small_screen(window, workspace, size, drawer):
    workspace.open("notice")
    settled(workspace)
    if drawer:
        window.cue_board.toggle()
    for name in window.benches:
        window.view.show(name)
        window.resize(*size)
        QTest.qWait(5)
        assert (window.width(), window.height()) == size, name
        least = window.minimumSizeHint()
        assert least.width() <= size[0] and least.height() <= size[1], name
    assert window.status.geometry().bottom() <= window.height()
    if drawer:
        window.view.show("grid")
        QTest.qWait(5)
        assert window.cue_board.height() >= 200 and window.bench_stack.height() >= 200


@pytest.mark.parametrize("width", [1000, 1100, 1280, 1600])
@pytest.mark.parametrize("owner", ["button", "timetable-row", "notice", "fares"])
def test_the_reach_is_never_cut(window, workspace, width, owner, qtbot):
    workspace.open(owner)
    workspace.select(())
    window.resize(width, 700)
    bar = window.reach_bar
    settled(workspace)
    qtbot.waitUntil(lambda: bar.reach_label.text() not in ("", "counting …"))
    QTest.qWait(5)
    words_width = bar.reach_label.sizeHint().width()
    assert bar.reach_label.width() >= words_width, bar.reach_label.text()
    assert bar.reach_label.geometry().right() <= bar.width()
    lasts = [chip for chip in bar.chips.values() if chip.isVisible()]
    assert all(chip.width() >= chip.sizeHint().width() for chip in lasts)


def test_a_window_begins_within_its_screen(qapp):
    class Screen:
        def __init__(self, width, height):
            self._room = QRect(0, 0, width, height)

        def availableGeometry(self):
            return self._room

    assert _first_size(Screen(1920, 1080)) == (1280, 800)
    assert _first_size(Screen(1280, 720)) == (1272, 684)
    assert _first_size(None) == (1272, 764)


@pytest.mark.parametrize(
    "ground", ["#FFFFFF", "#E3E7E4", "#8FA3AB", "#17252B", "#000000", "#B8452B"]
)
@pytest.mark.parametrize("kind", DRAWN_KINDS)
def test_what_is_drawn_differs_from_what_it_lies_in(window, workspace, ground, kind):
    new_component(workspace)
    set_style(workspace, {"fill": parse(ground)})
    draw(workspace, kind)
    node = workspace.owner.root.children[0]
    name = "color" if kind == "text" else "stroke" if kind == "line" else "fill"
    least = 3.0 if kind in ("text", "line") else 1.12
    assert contrast(node.style[name], parse(ground)) >= least
    if kind == "box":
        inner = workspace.selection.path[0]
        draw(workspace, "box", (inner, None))
        deeper = workspace.owner.root.children[0].children[0]
        assert contrast(deeper.style["fill"], node.style["fill"]) >= 1.12


def test_the_bar_counts_what_is_selected_on_a_screen(window, workspace):
    workspace.open("fares")
    paths = tuple((node.id,) for node in workspace.owner.root.children[:3])
    workspace.select_all(paths)
    settled(workspace)
    assert window.reach_bar.reach_label.text() == "<b>3</b> parts, only here"


def test_live_shows_a_tall_screen_whole_and_at_its_working_size_at_a_press(window, workspace, hand):
    workspace.open("fares")
    settled(workspace)
    stage = window.live.stage
    height = stage.playback.runtime.target_placed.height
    zoom, corner = stage.frame_of()
    assert corner.y() >= 0 and corner.y() + height * zoom <= stage.height()
    assert stage.size_button.isVisible() and stage.size_button.accessibleName()
    hand.click(stage.size_button)
    large, _ = stage.frame_of()
    assert large > 0.7 and stage.size_button.text() == "whole"
    workspace.open("boarding")
    settled(workspace)
    assert stage.frame_of()[0] < 0.5, "each screen for itself"
    workspace.open("fares")
    settled(workspace)
    assert stage.frame_of()[0] == large
    workspace.open("button")
    settled(workspace)
    assert not stage.size_button.isVisible() and stage.frame_of()[0] == 1.0
    stage.playback.show_in("boarding")
    assert stage.size_button.isVisible(), "a part played in a tall screen has the choice too"
