"""Lengths with units, columns and rows, pushes and spacers by key, and scrolling in Live: by the
real fields, keys and wheel."""

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest

from outgrowth.app.fields.length import LengthField, TracksField
from outgrowth.app.fields.sides import SidesField
from outgrowth.app.fields.size import SizeField
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import find
from outgrowth.core.document.values import FIT, GROW, GridTrack, Size, fixed
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace import measures
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.views.length_format import read_tracks, tracks_text


def typed(field, text):
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)


def test_a_unit_that_is_typed_is_kept_until_another_is(qtbot):
    field, heard = LengthField("Least width"), []
    qtbot.addWidget(field)
    field.size_edited.connect(heard.append)
    field.show_length(fixed(20.0))
    for text in ("50 %", "60", "+5", "40ch", "12*2 px"):
        typed(field, text)
    percent = [Size("percent", n) for n in (50.0, 60.0, 65.0)]
    assert heard == [*percent, Size("chars", 40.0), fixed(24.0)]
    field.show_length(Size("percent", 33.0))
    assert field.text() == "33 %"
    field.dragged.emit(34.0)
    assert heard[-1] == fixed(24.0), "pulling tries, it does not set"


def test_a_size_becomes_the_share_that_it_has(qtbot):
    field, heard = SizeField("Width"), []
    qtbot.addWidget(field)
    field.edited.connect(heard.append)
    field.show_value(FIT, 90.0, 360.0)
    field.modes.button("percent").click()
    assert heard == [Size("percent", 25.0)]
    field.show_value(heard[0], 90.0, 360.0)
    assert field.number.text() == "25 %"


@pytest.mark.parametrize(
    ("text", "tracks"),
    [
        ("", ()),
        ("80, fit, grow", (fixed(80.0), FIT, GROW)),
        ("3 × grow, 25 %", (GROW, GROW, GROW, Size("percent", 25.0))),
        ("auto × at least 240", (GridTrack("grow", 1.0, "", fixed(240.0), "fit"),)),
        ("80, fill x 60", (fixed(80.0), GridTrack("fixed", 60.0, "", None, "fill"))),
        (
            "80 to 200, at least 30 % grow 2",
            (
                GridTrack("fixed", 200.0, "", fixed(80.0)),
                GridTrack("grow", 2.0, "", Size("percent", 30.0)),
            ),
        ),
        (
            "fit to 200, 80 to fit",
            (GridTrack("fixed", 200.0, "", FIT), GridTrack("fit", 0.0, "", fixed(80.0))),
        ),
        ("2x grow 2, 40*2", (Size("grow", 2.0), Size("grow", 2.0), fixed(80.0))),
    ],
)
def test_columns_are_said_in_words(text, tracks):
    assert read_tracks(text) == tracks
    assert read_tracks(tracks_text(tracks)) == tracks


def test_columns_come_and_go_at_a_press_and_what_is_no_size_is_told(qtbot, look):
    field, heard, problems = TracksField("Columns", look), [], []
    qtbot.addWidget(field)
    field.edited.connect(heard.append)
    field.failed.connect(problems.append)
    field.show_value((GROW, fixed(80.0)))
    assert field.text.text() == "grow, 80"
    field.more.click()
    field.fewer.click()
    assert heard == [(GROW, fixed(80.0), fixed(80.0)), (GROW,)]
    typed(field.text, "wide, grow")
    typed(field.text, "999 × grow")
    assert len(problems) >= 2
    assert all(problem.endswith(".") for problem in problems)
    assert len(heard) == 2


def test_each_side_pushes_by_itself(qtbot):
    field, heard = SidesField(FAMILY_MEMBERS["push"], "Push"), []
    qtbot.addWidget(field)
    field.edited.connect(heard.append)
    field.show_values({"push-left": True})
    assert [name for name, b in field.buttons.items() if b.isChecked()] == ["push-left"]
    field.buttons["push-left"].click()
    field.buttons["push-top"].click()
    assert heard == [{"push-left": False}, {"push-top": True}]


def test_a_part_is_pushed_to_the_end_by_a_key_and_comes_back(window, workspace):
    workspace.open("boarding")
    workspace.select(("wait",))
    place = Place("boarding", ("wait",))
    QTest.keyClick(window.canvas, Qt.Key.Key_X, Qt.KeyboardModifier.AltModifier)
    assert value_at(workspace.document, place, "push-left") is True
    QTest.keyClick(window.canvas, Qt.Key.Key_X, Qt.KeyboardModifier.AltModifier)
    assert value_at(workspace.document, place, "push-left") is False
    workspace.select(("sea",))
    window.run_action("push")
    assert value_at(workspace.document, Place("boarding", ("sea",)), "push-top") is True


def test_a_spacer_goes_behind_by_a_key_and_is_one_step(window, workspace):
    workspace.open("boarding")
    workspace.select(("date",))
    QTest.keyClick(window.canvas, Qt.Key.Key_K, Qt.KeyboardModifier.AltModifier)
    crossing = find(workspace.document.screens["boarding"].root, "crossing")
    names = [child.name for child in crossing.children]
    assert names[:2] == ["date", "Spacer"]
    assert crossing.children[1].style["height"] == GROW
    assert workspace.undo_name == "put a spacer"
    window.run_action("undo")
    assert find(workspace.document.screens["boarding"].root, "crossing").children[1].id == "sea"


def test_a_share_that_is_pulled_stays_a_share(window, workspace):
    workspace.open("boarding")
    workspace.select(("wait",))
    style_commands.set_style(workspace, {"width": Size("percent", 40.0)})
    workspace.refresh_panels()
    wide = measures.measured(workspace)[0]
    window.canvas.repaint()
    handle = next(h for h in window.canvas.gestures.handles if h.names == ("width",))
    per_cent = wide / 40.0
    assert handle.values(10 * per_cent, 0.0) == {"width": Size("percent", 50.0)}
    assert handle.label_for(handle.values(0.0, 0.0)) == "width 40 %"


def test_the_ledger_sets_columns_and_limits(window, workspace):
    workspace.open("calendar")
    workspace.select(("month",))
    workspace.refresh_panels()
    columns = window.ledger.row("columns").editor.widget
    assert columns.text.text() == "7 × grow"
    columns.fewer.click()
    place = Place("calendar", ("month",))
    assert value_at(workspace.document, place, "columns") == (GROW,) * 6
    least = window.ledger.row("min-width").editor.widget.number
    typed(least, "30 %")
    assert value_at(workspace.document, place, "min-width") == Size("percent", 30.0)


def test_the_wheel_scrolls_a_list_in_live_and_the_title_stays(window, workspace):
    workspace.open("calendar")
    workspace.refresh_panels()
    stage = window.live.stage
    stage.resize(430, 900)
    runtime = stage.playback.runtime

    def top(name):
        return next(at.rect.y for at in locate(*runtime.view(), "c") if at.names[-1] == name)

    edge = top("sailings")
    if stage.size_button.isVisible():
        stage.switch_size()
    zoom, corner = stage.frame_of()
    where = QPointF(corner.x() + 100 * zoom, corner.y() + (edge + 60) * zoom)
    before = top("07:10 Berth 2")
    stage.playback.record()
    turn = QPoint(0, -120)
    stage.wheelEvent(
        QWheelEvent(where, where, QPoint(), turn, Qt.MouseButton.NoButton,
                    Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False)
    )  # fmt: skip
    assert top("07:10 Berth 2") == before - 60
    assert top("Morning title") == edge
    assert [event.do for event in stage.playback.end_recording().events] == ["scroll"]
    assert runtime.scroll_bars()


def test_a_column_is_pulled_on_the_bench(window, workspace):
    workspace.open("calendar")
    workspace.select(("month",))
    workspace.refresh_panels()
    window.canvas.repaint()
    made = {h.label: h for h in window.canvas.gestures.handles if h.names == ("columns",)}
    assert list(made) == [f"column {n}:" for n in range(1, 8)]
    handle = made["column 2:"]
    (wide,) = handle.start
    assert wide == pytest.approx((358 - 6 * 4) / 7)
    values = handle.values(10.0, 0.0)
    assert values == {"columns": (GROW, fixed(round(wide + 10)), *[GROW] * 5)}
    assert handle.label_for(values) == f"column 2: {round(wide + 10)}"
    zoom, canvas = window.canvas.zoom, window.canvas
    begin = handle.zone.center().toPoint()
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, begin)
    for share in (0.5, 1.0):
        QTest.mouseMove(canvas, begin + QPoint(round(20 * zoom * share), 0))
    end = begin + QPoint(round(20 * zoom), 0)
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, end)
    columns = value_at(workspace.document, Place("calendar", ("month",)), "columns")
    assert columns[1].mode == "fixed"
    assert columns[1].amount > wide + 10
    assert workspace.undo_name.startswith("columns of month")


def test_areas_are_typed_on_the_grid_and_chosen_on_its_children(window, workspace):
    workspace.open("fare-card")
    workspace.select(())
    style_commands.set_style(workspace, {"flow": "grid"})
    workspace.refresh_panels()
    line = window.ledger.row("areas").editor.widget
    typed(line, "head head/side main")
    assert value_at(workspace.document, Place("fare-card"), "areas") == "head head / side main"
    told = []
    workspace.failed.connect(told.append)
    typed(line, "head / head side")
    assert told == [
        "Areas: Every row of areas has as many cells as the first: head head / side main, for "
        "instance."
    ]
    child = workspace.component.root.children[0].id
    workspace.select((child,))
    workspace.refresh_panels()
    field = window.ledger.row("area").editor.widget
    assert [field.itemText(n) for n in range(field.count())] == [
        "its column and row", "head", "side", "main",
    ]  # fmt: skip
    field.edited.emit("main")
    assert value_at(workspace.document, Place("fare-card", (child,)), "area") == "main"


def test_tracks_are_drawn_to_scale_as_they_come_out(window, workspace):
    workspace.open("calendar")
    workspace.select(("month",))
    workspace.refresh_panels()
    field = window.ledger.row("columns").editor.widget
    bars = field.strip.bars()
    assert len(bars) == 7 and field.strip.isVisible()
    assert max(bar.width() for bar in bars) == pytest.approx(min(bar.width() for bar in bars))
    field.show_value((GridTrack("grow", 1.0, "", fixed(90.0), "fit"),))
    heard = []
    field.edited.connect(heard.append)
    field.more.click()
    assert heard[0][1:] == (fixed(80.0),), "beside one that is repeated a column has a size"
