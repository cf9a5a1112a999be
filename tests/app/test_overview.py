"""The overview by mouse and keys: looked at, filed, ordered, named, compared, printed."""

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QImage, QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.core.document.variants import offered_count
from outgrowth.workspace.commands import library_commands


@pytest.fixture
def bench(window, workspace):
    window.resize(1280, 800)
    workspace.open("chip")
    window.activateWindow()
    window.run_action("overview")
    QApplication.processEvents()
    return window.overview


def card(bench, owner):
    return next(c for c in bench.view.cards if c.row.owner == owner)


def middle(bench, owner):
    view = bench.view
    view._current = ("", owner)
    view.show_current()
    return view.rect_of(card(bench, owner)).center().toPoint()


def drag(view, start, end):
    """A whole drag by the events that a hand sends."""
    sight, none = view.viewport(), Qt.KeyboardModifier.NoModifier
    left, no = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    steps = [
        (QEvent.Type.MouseButtonPress, start, left, left),
        (QEvent.Type.MouseMove, start + QPoint(20, 4), no, left),
        (QEvent.Type.MouseMove, end, no, left),
        (QEvent.Type.MouseButtonRelease, end, left, no),
    ]
    for kind, at, button, held in steps:
        spot = QPointF(at)
        QApplication.sendEvent(
            sight, QMouseEvent(kind, spot, QPointF(sight.mapToGlobal(at)), button, held, none)
        )


def test_every_component_is_there_with_every_variant(bench, window, workspace):
    document = workspace.document
    shown = {c.row.owner: c for c in bench.view.cards if c.row.owner}
    assert set(shown) == set(document.components)
    while bench.view.measured_count < len(shown):
        QTest.qWait(10)
    shown = {c.row.owner: c for c in bench.view.cards if c.row.owner}
    for owner, one in shown.items():
        component = document.components[owner]
        assert len(one.measured.variants) == offered_count(component)
    assert bench.view.current.row.owner == "chip", "what was on the bench is where one begins"
    for panel in (window.library, window.layers, window.live, window.ledger):
        assert not panel.isVisible(), "the room is the overview's"
    QTest.keyClick(bench.view, Qt.Key.Key_Escape)
    assert window.library.isVisible() and window.ledger.isVisible()


def test_arrows_go_from_card_to_card_and_enter_opens(bench, window, workspace):
    QTest.keyClick(bench.view, Qt.Key.Key_Right)
    assert bench.view.current.row.owner == "text-field"
    QTest.keyClick(bench.view, Qt.Key.Key_Left)
    QTest.keyClick(bench.view, Qt.Key.Key_Up)
    above = bench.view.current.row.owner
    assert card(bench, above).rect.y < card(bench, "chip").rect.y
    QTest.keyClick(bench.view, Qt.Key.Key_Return)
    assert workspace.selection.owner == above
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_a_double_click_opens(bench, workspace):
    spot = middle(bench, "toggle")
    QTest.mouseDClick(bench.view.viewport(), Qt.MouseButton.LeftButton, pos=spot)
    assert workspace.selection.owner == "toggle"


def test_cards_dragged_together_are_filed_and_stand_where_they_were_dropped(bench, workspace):
    before = workspace.document
    sight, left = bench.view.viewport(), Qt.MouseButton.LeftButton
    QTest.mouseClick(sight, left, pos=middle(bench, "toggle"))
    control = Qt.KeyboardModifier.ControlModifier
    QTest.mouseClick(sight, left, control, middle(bench, "radio"))
    start = middle(bench, "radio")
    anchor = bench.view.rect_of(card(bench, "icon-anchor"))
    end = QPoint(round(anchor.right() - 4), round(anchor.center().y()))
    drag(bench.view, start, end)
    document = workspace.document
    assert document.components["toggle"].name == "Icon/Toggle"
    assert document.components["radio"].name == "Icon/Radio"
    order = document.component_order
    assert order.index("toggle") == order.index("icon-anchor") + 1
    assert order.index("radio") == order.index("icon-anchor") + 2
    workspace.undo()
    assert workspace.document == before, "one step"


def test_esc_lets_go_of_a_drag(bench, workspace):
    before, sight = workspace.document, bench.view.viewport()
    start = middle(bench, "toggle")
    QTest.mousePress(sight, Qt.MouseButton.LeftButton, pos=start)
    spot = QPointF(start + QPoint(60, 0))
    moved = QMouseEvent(
        QEvent.Type.MouseMove,
        spot,
        spot,
        Qt.MouseButton.NoButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(sight, moved)
    assert bench.view._drop is not None
    QTest.keyClick(bench.view, Qt.Key.Key_Escape)
    QTest.mouseRelease(sight, Qt.MouseButton.LeftButton, pos=start + QPoint(60, 0))
    assert workspace.document is before and bench.isVisible()


def test_f2_names_a_component_where_it_stands(bench, window, workspace):
    window.run_action("rename")
    QTest.keyClicks(bench.name_line, "Controls/Pebble")
    QTest.keyClick(bench.name_line, Qt.Key.Key_Return)
    workspace.refresh_panels()
    assert workspace.document.components["chip"].name == "Controls/Pebble"
    assert card(bench, "chip").row.name == "Pebble"


def test_several_are_renamed_by_a_pattern(bench, window, workspace, qtbot):
    asked = []
    bench.pattern_asked.disconnect()
    bench.pattern_asked.connect(asked.append)
    bench.view.choose([r for r in bench.view.rows if r.owner in ("chip", "radio")])
    window.run_action("rename")
    assert {named.id for named in asked[0].those} == {"chip", "radio"}


def test_what_it_is_for_is_said_below(bench, workspace, hand):
    hand.type(bench.description, "A choice among a few")
    QTest.keyClick(bench.description, Qt.Key.Key_Return)
    assert workspace.document.components["chip"].description == "A choice among a few"


def test_two_stand_beside_each_other_with_what_they_differ_in(bench, window, workspace):
    assert not bench.beside.isEnabled() and "Ctrl" in bench.beside.toolTip()
    rows = {row.owner: row for row in bench.view.rows}
    bench.view.choose([rows["button"], rows["chip"]])
    QTest.mouseClick(bench.beside, Qt.MouseButton.LeftButton)
    assert bench.compared.isVisible() and not bench.view.isVisible()
    QTest.keyClick(bench.compared, Qt.Key.Key_Escape)
    assert bench.view.isVisible(), "Esc leads to all of them before it leads to the bench"
    QTest.keyClick(bench.view, Qt.Key.Key_Escape)
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_a_folder_alone_and_a_search(bench, workspace):
    bench.scope.show_value("Icon")
    bench.refresh()
    shown = {c.row.owner for c in bench.view.cards if c.row.owner}
    names = workspace.document.components
    assert shown == {i for i, c in names.items() if c.name.startswith("Icon/")}
    bench.scope.show_value("")
    QTest.keyClicks(bench.search, "butt")
    shown = {c.row.owner for c in bench.view.cards if c.row.owner}
    assert shown == {"button", "icon-button"}


def test_pages_are_written_as_pdf_and_as_pictures(bench, window, workspace, tmp_path):
    target = tmp_path / "pages.pdf"
    window.pages.begin(("button", "chip", "fare-card"), target, pictures=False)
    assert bench.progress.isVisible()
    while window.pages.is_busy:
        QTest.qWait(5)
    data = target.read_bytes()
    assert data.startswith(b"%PDF-") and data.count(b"/Type /Page\n") == 3
    assert "3 pages" in window.status.message.text() and not bench.progress.isVisible()
    window.pages.begin(("button", "chip"), tmp_path, pictures=True)
    while window.pages.is_busy:
        QTest.qWait(5)
    pictures = sorted(p.name for p in tmp_path.glob("*.png"))
    assert pictures == ["001-button.png", "002-chip.png"]
    image = QImage(str(tmp_path / pictures[0]))
    assert (image.width(), image.height()) == (1588, 2246)


def test_printing_that_is_stopped_writes_nothing(bench, window, workspace, tmp_path, qtbot):
    target = tmp_path / "pages.pdf"
    window.pages.begin(tuple(workspace.document.components), target, pictures=False)
    QTest.mouseClick(bench.stop, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not window.pages.is_busy)
    assert not target.exists()


def test_where_pages_can_not_be_written_it_says_so(bench, window, tmp_path):
    window.pages.begin(("button",), tmp_path / "none" / "pages.pdf", pictures=False)
    while window.pages.is_busy:
        QTest.qWait(5)
    assert "cannot be written" in window.status.message.text()


def test_del_removes_what_nothing_uses_and_says_where_the_rest_is_used(bench, window, workspace):
    before = workspace.document
    QTest.keyClick(bench.view, Qt.Key.Key_Delete)
    assert workspace.document is before and "is used" in window.status.message.text()
    library_commands.duplicate_owner(workspace, "chip")
    copy = workspace.selection.owner
    window.run_action("overview")
    bench.view.choose([r for r in bench.view.rows if r.owner == copy])
    QTest.keyClick(bench.view, Qt.Key.Key_Delete)
    assert copy not in workspace.document.components
    assert set(workspace.document.components) == set(before.components)
    assert bench.isVisible(), "though what was on the bench is gone"
