"""The table of rules by mouse and keys: typed in, taken to another reach, removed, gone to."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.panels.rule_grid import _CELL, CellPlace, _given_widths
from outgrowth.workspace.views.rule_table import AT_FIRST

LEFT, NO = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton


@pytest.fixture(params=["sheet", "bench"])
def grid(window, workspace, request):
    window.activateWindow()
    workspace.open("button")
    if request.param == "sheet":
        window.sheet_tabs.choose("Rules")
        made = window.rules.grid
    else:
        window.run_action("rules")
        made = window.large_rules.grid
    workspace.refresh_panels()
    QApplication.processEvents()
    made.setFocus()
    return made


def place(grid, label, *said):
    row = next(n for n, (_, r) in enumerate(grid._lines) if r is not None and r.label == label)
    column = next(
        (n for n, c in enumerate(grid.table.columns, 1) if c.lines == said), 0 if not said else None
    )
    return CellPlace(row, column)


def rules_of(workspace, names, reach):
    """What the rules of the outermost part say of these at a reach."""
    return {
        r.property: r.value
        for r in workspace.component.rules
        if r.property in names and dict(r.when) == reach and r.node == ("button",)
    }


def test_what_is_typed_over_a_cell_becomes_its_rule(grid, workspace):
    grid.look_at(place(grid, "Stroke width", "Quiet"))
    QTest.keyClicks(grid, "2")
    QTest.keyClicks(grid.field, " 4")
    QTest.keyClick(grid.field, Qt.Key.Key_Return)
    workspace.refresh_panels()
    said = rules_of(
        workspace, {f"stroke-{s}" for s in ("top", "right", "bottom", "left")}, {"kind": "quiet"}
    )
    assert sorted(said.values()) == [2.0, 2.0, 4.0, 4.0]
    assert grid.cell_at(grid.current).text == "2 4" and grid.hasFocus()
    workspace.undo()
    workspace.refresh_panels()
    assert grid.cell_at(grid.current).text == "1.5"


def test_an_empty_cell_gets_a_rule_and_the_first_column_the_components_own(grid, workspace):
    grid.look_at(place(grid, "Stroke", "hover"))
    assert not grid.cell_at(grid.current).rules
    QTest.keyClick(grid, Qt.Key.Key_F2)
    QTest.keyClicks(grid.field, "color.foam")
    QTest.keyClick(grid.field, Qt.Key.Key_Return)
    assert rules_of(workspace, {"stroke"}, {"state": "hover"})
    workspace.refresh_panels()
    grid.look_at(place(grid, "Scale"))
    QTest.keyClick(grid, Qt.Key.Key_Return)
    grid.field.selectAll()
    QTest.keyClicks(grid.field, "0.9")
    QTest.keyClick(grid.field, Qt.Key.Key_Return)
    assert workspace.component.root.style["scale"] == 0.9


def test_what_can_not_be_is_refused_with_a_sentence(grid, window, workspace):
    before = workspace.document
    grid.look_at(place(grid, "Stroke", "Quiet"))
    QTest.keyClicks(grid, "quite")
    QTest.keyClick(grid.field, Qt.Key.Key_Return)
    assert workspace.document is before
    assert "nothing that stroke can be" in window.status.message.text()


def test_a_rule_is_dragged_to_another_reach(grid, workspace):
    start = place(grid, "Stroke", "Quiet")
    end = place(grid, "Stroke", "hover")
    grid.look_at(end)
    grid.look_at(start)
    a, b = grid.rect_of(start).center(), grid.rect_of(end).center()
    sight, none = grid.viewport(), Qt.KeyboardModifier.NoModifier
    for kind, at, button, held in (
        (QEvent.Type.MouseButtonPress, a, LEFT, LEFT),
        (QEvent.Type.MouseMove, a + QPointF(12, 0), NO, LEFT),
        (QEvent.Type.MouseMove, b, NO, LEFT),
        (QEvent.Type.MouseButtonRelease, b, LEFT, NO),
    ):
        event = QMouseEvent(kind, at, sight.mapToGlobal(at), button, held, none)
        QApplication.sendEvent(sight, event)
    assert not rules_of(workspace, {"stroke"}, {"kind": "quiet"})
    assert rules_of(workspace, {"stroke"}, {"state": "hover"})


def test_keys_carry_remove_and_go_there(grid, window, workspace):
    at = place(grid, "Stroke", "Quiet")
    grid.look_at(at)
    QTest.keyClick(grid, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    workspace.refresh_panels()
    next_reach = dict(grid.reaches[at.column + 1])
    assert rules_of(workspace, {"stroke"}, next_reach)
    assert grid.current.column == at.column + 1
    count = len(workspace.component.rules)
    QTest.keyClick(grid, Qt.Key.Key_Delete)
    workspace.refresh_panels()
    assert len(workspace.component.rules) == count - 1
    assert workspace.component is not None, "and nothing of the drawing goes"
    grid.look_at(place(grid, "Fill", "Quiet"))
    titles = [a.text() for a in grid.menu().actions()]
    assert titles == ["Edit", "Go to the part", "Move to", "Delete"]
    next(a for a in grid.menu().actions() if a.text() == "Go to the part").trigger()
    assert dict(workspace.reach) == {"kind": "quiet"}
    assert window.sheet_stack.currentWidget() is window.ledger
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_a_heading_makes_its_reach_the_present_one(grid, window, workspace):
    bench = window.bench_stack.currentWidget()
    at = place(grid, "Fill", "Quiet")
    grid.look_at(at)
    rect = grid.rect_of(at)
    spot = QPointF(rect.center().x(), 10).toPoint()
    QTest.mouseClick(grid.viewport(), LEFT, pos=spot)
    assert dict(workspace.reach) == {"kind": "quiet"}
    assert workspace.selection.variant["kind"] == "quiet"
    assert window.bench_stack.currentWidget() is bench, "it stays where one was"


def test_arrows_pass_the_names_of_parts(grid):
    grid.look_at(CellPlace(1, 0))
    seen = set()
    for _ in range(len(grid._lines)):
        seen.add(grid.current.row)
        assert grid.row_at(grid.current) is not None
        QTest.keyClick(grid, Qt.Key.Key_Down)
    assert len(seen) == sum(row is not None for _, row in grid._lines)
    QTest.keyClick(grid, Qt.Key.Key_Right)
    assert grid.reaches[grid.current.column] != AT_FIRST


@given(st.lists(st.integers(0, 400), min_size=1, max_size=30), st.integers(0, 2_000))
def test_columns_are_as_wide_as_what_is_in_them_where_that_fits(wanted, room):
    least, narrow, most = _CELL
    widths = _given_widths(wanted, room)
    held = [min(max(n, least), most) for n in wanted]
    assert all(least <= n <= most for n in widths)
    if sum(held) <= room:
        assert all(n >= other for n, other in zip(widths, held, strict=True))
        assert sum(widths) <= room
    else:
        assert all(min(other, narrow) <= n <= other for n, other in zip(widths, held, strict=True))
        assert sum(widths) <= max(room, sum(min(other, narrow) for other in held))
