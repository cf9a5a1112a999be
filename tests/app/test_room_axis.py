"""A part that its room decides, by hand: typed, pulled on its ruler, seen at Live's edge."""

import pytest
from immutables import Map
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.fields.number import NumberField
from outgrowth.core.document.rooms import room_axes
from outgrowth.core.document.values import FIT
from outgrowth.workspace.commands import axis_commands, style_commands
from tests.app.user import ALT, User

LEFT, KEY = Qt.MouseButton.LeftButton, Qt.Key


@pytest.fixture
def card(window, workspace):
    """The fare card, with an axis of its room made by keys."""
    window.resize(1280, 800)
    workspace.open("fare-card")
    workspace.select(())
    QApplication.processEvents()
    user = User(window)
    user.key(KEY.Key_A, ALT)
    user.type("Room: narrow < 240, usual, wide >= 420")
    workspace.refresh_panels()
    user.wait()
    return user


def begins(workspace):
    return [value.least for value in room_axes(workspace.component)[0].values]


def ruler(window):
    return window.grid_bench.rulers.rulers[0]


def test_the_line_makes_an_axis_that_starts_where_the_part_is(card, window, workspace):
    axis = room_axes(workspace.component)[0]
    assert (axis.driver, begins(workspace)) == ("room", [0, 240, 420])
    assert axis.value(axis.default).name == "usual", "it is 260 px wide as it is"
    assert workspace.selection.variant[axis.id] == axis.default
    assert window.grid_bench.rulers.isVisible()
    assert ruler(window).accessibleDescription() == (
        "narrow below that, usual from 240 px, wide from 420 px"
    )


def test_what_begins_is_pulled_on_the_ruler_in_one_step(card, window, workspace):
    line, undo = ruler(window), workspace.undo_name
    y = line.height() // 2 + 6
    start = QPoint(round(line.x_of(420)), y)
    QTest.mousePress(line, LEFT, pos=start)
    for room in (430, 470, 500):
        QTest.mouseMove(line, QPoint(round(line.x_of(room)), y))
    pulled = begins(workspace)[2]
    assert workspace.dragging and pulled == pytest.approx(500, abs=2)
    QTest.mouseRelease(line, LEFT, pos=start)
    assert workspace.undo_name == f"wide from {pulled:g} px"
    workspace.undo()
    assert begins(workspace) == [0, 240, 420] and workspace.undo_name == undo


def test_it_stops_at_its_neighbours_and_escape_leaves_nothing(card, window, workspace):
    line = ruler(window)
    y = line.height() // 2 + 6
    QTest.mousePress(line, LEFT, pos=QPoint(round(line.x_of(420)), y))
    QTest.mouseMove(line, QPoint(round(line.x_of(100)), y))
    assert begins(workspace) == [0, 240, 241]
    QTest.keyClick(line, KEY.Key_Escape)
    assert begins(workspace) == [0, 240, 420] and not workspace.dragging


def test_it_is_moved_by_keys(card, window, workspace):
    line = ruler(window)
    line.setFocus()
    QTest.keyClick(line, KEY.Key_Right)
    assert begins(workspace) == [0, 241, 420]
    QTest.keyClick(line, KEY.Key_Down)
    QTest.keyClick(line, KEY.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    assert begins(workspace) == [0, 241, 410]


def test_a_press_on_a_band_looks_at_its_value(card, window, workspace):
    line = ruler(window)
    band = line.row.bands[2]
    QTest.mouseClick(line, LEFT, pos=line.rect_of(band).center().toPoint())
    assert workspace.selection.variant[line.row.axis.id] == band.value
    assert window.grid.view(workspace.selection.variant).placed.width == 420


def test_where_it_begins_is_typed_in_its_sheet(card, window, workspace):
    window.sheet_tabs.choose("Axes")
    workspace.refresh_panels()
    name = "Room from which wide of Room holds"
    field = next(f for f in window.axes.findChildren(NumberField) if f.accessibleName() == name)
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "460")
    QTest.keyClick(field, KEY.Key_Return)
    assert begins(workspace) == [0, 240, 460]


def test_an_edit_in_one_room_stays_there_and_lives_edge_shows_it(card, window, workspace):
    axis = room_axes(workspace.component)[0]
    wide = axis.values[2].id
    workspace.select((), workspace.selection.variant.set(axis.id, wide))
    style_commands.set_style(workspace, {"flow": "row"})
    stage = window.live.stage
    said = {}
    for width in (200.0, 300.0, 500.0):
        stage.playback.set_room(width, None)
        view = stage.playback.runtime.target
        said[width] = (view.scene.layout.style.flow, view.placed.width)
    assert said == {200.0: ("column", 200.0), 300.0: ("column", 300.0), 500.0: ("row", 500.0)}


def test_what_depends_on_itself_is_refused_with_a_sentence(card, window, workspace):
    told = []
    workspace.failed.connect(told.append)
    workspace.select((), workspace.selection.variant)
    workspace.set_reach(Map())
    style_commands.set_style(workspace, {"width": FIT})
    assert told and "can't decide what is in it" in told[-1]


def test_an_axis_of_the_hand_is_given_to_the_room(window, workspace):
    workspace.open("fare-card")
    axis = workspace.component.axes[0]
    axis_commands.drive(workspace, workspace.component, axis, "room")
    given = workspace.component.axis(axis.id)
    assert given.driver == "room" and [v.least for v in given.values] == [0, 320]
    assert given.default == given.values[0].id, "260 px are less than 320"


def test_live_plays_the_room_that_is_selected_on_the_bench(card, window, workspace):
    axis = room_axes(workspace.component)[0]
    stage = window.live.stage
    for value, at_least, below in (("narrow", 200, 240), ("wide", 420, 421)):
        named = axis.named(value)
        workspace.select((), workspace.selection.variant.set(axis.id, named.id))
        workspace.refresh_panels()
        view = stage.playback.runtime.target
        assert view.scene.variant[axis.id] == named.id
        assert at_least <= view.placed.width < below
