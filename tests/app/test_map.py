"""The map of screens by mouse and keys: ways pulled, led elsewhere, removed, and seen moving."""

import pytest
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.core.document.ways import ways
from outgrowth.workspace.commands.library_commands import remove_owner

LEFT, NO = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton


@pytest.fixture
def bench(window, workspace):
    window.resize(1280, 800)
    workspace.open("fares")
    window.activateWindow()
    window.run_action("map")
    for _ in range(3):
        QApplication.processEvents()
    window.map.view.fit()
    return window.map


def send(view, kind, at, button, held):
    sight = view.viewport()
    none = Qt.KeyboardModifier.NoModifier
    spot = QPointF(at)
    QApplication.sendEvent(
        sight, QMouseEvent(kind, spot, sight.mapToGlobal(spot), button, held, none)
    )


def drag(view, start, end):
    send(view, QEvent.Type.MouseButtonPress, start, LEFT, LEFT)
    send(view, QEvent.Type.MouseMove, start + QPointF(14, 3), NO, LEFT)
    send(view, QEvent.Type.MouseMove, end, NO, LEFT)
    send(view, QEvent.Type.MouseButtonRelease, end, LEFT, NO)


def in_picture(view, screen, path=()):
    """The middle of a part in a screen's picture, in the view."""
    node, whole = view.map.node(screen), view.part_rect(screen, ())
    rect = view.part_rect(screen, path)
    zoom = node.picture.width / whole.width
    x, y = rect.center
    return view.in_view(node.picture.x + x * zoom, node.picture.y + y * zoom)


def line(bench, start, end):
    return next(li for li in bench.view.map.lines if (li.start, li.end) == (start, end))


def test_all_screens_stand_on_the_map_and_the_bar_stands_once(bench, workspace):
    nodes = {node.id: node for node in bench.view.map.nodes}
    assert set(workspace.document.screens) <= set(nodes)
    assert nodes["navigation"].holders and not nodes["navigation"].is_screen
    assert nodes["boarding"].is_start
    assert not nodes["before-gathering"].is_reached and "no way leads to 1" in bench.summary.text()
    rects = [node.rect for node in nodes.values()]
    for n, a in enumerate(rects):
        for b in rects[n + 1 :]:
            assert a.right <= b.x or b.right <= a.x or a.bottom <= b.y or b.bottom <= a.y


def test_a_part_pulled_onto_a_screen_leads_there(bench, workspace):
    view = bench.view
    part = next(node.id for node in workspace.document.screens["settings"].root.children)
    start = in_picture(view, "settings", (part,))
    found = view.part_at(start)
    target = view.in_view(*view.map.node("calendar").picture.center)
    before = workspace.document
    drag(view, start, target)
    made = next(
        w for w in ways(workspace.document) if (w.screen, w.end) == ("settings", "calendar")
    )
    assert made.cue.node == found[1] and made.cue.trigger.kind == "tap"
    assert bench.view.line.way.cue.id == made.cue.id, "it is looked at"
    workspace.undo()
    assert workspace.document == before


def test_the_end_of_a_way_is_taken_to_another_screen(bench, workspace):
    view = bench.view
    way = line(bench, "fares", "booking")
    tip = view.in_view(*way.points[-1]) - QPointF(4, 0)
    drag(view, tip, view.in_view(*view.map.node("kiosk").picture.center))
    ends = {w.end for w in ways(workspace.document) if w.cue.id == way.way.cue.id}
    assert ends == {"kiosk"}


def test_the_beginning_of_a_way_is_taken_to_another_part(bench, workspace):
    view = bench.view
    way = line(bench, "fares", "booking")
    view.look_at("fares", way)
    view.set_zoom(1.6)
    view.show_current()
    target = in_picture(view, "fares", ("fare-1",))
    part = view.part_at(target)
    drag(view, view.in_view(*way.points[0]) + QPointF(2, 0), target)
    now = next(w for w in ways(workspace.document) if w.cue.id == way.way.cue.id)
    assert now.cue.node == part[1]


def test_del_removes_the_way_that_is_looked_at(bench, workspace):
    way = line(bench, "fares", "booking")
    rows = [bench.list.item(n).text() for n in range(bench.list.count())]
    bench.list.setCurrentRow(next(n for n, text in enumerate(rows) if "Booking" in text))
    chosen = bench.view.line
    assert "show Booking" in bench.sentence.text()
    bench.view.setFocus()
    QTest.keyClick(bench.view, Qt.Key.Key_Delete)
    left = {w.cue.id for w in ways(workspace.document)}
    assert chosen.way.cue.id not in left and way.end == "booking"
    assert bench.view.line is None and not bench.remove.isVisible()


def test_everything_can_be_done_by_keys(bench, window, workspace):
    assert bench.view.current == "fares"
    QTest.keyClick(bench.view, Qt.Key.Key_Left)
    assert bench.view.current == "boarding"
    bench.other.edited.emit("help")
    made = next(w for w in ways(workspace.document) if (w.screen, w.end) == ("boarding", "help"))
    assert made.cue.node == ()
    bench.end.edited.emit("kiosk")
    now = next(w for w in ways(workspace.document) if w.cue.id == made.cue.id)
    assert now.end == "kiosk"
    QTest.keyClick(bench.view, Qt.Key.Key_Return)
    assert workspace.selection.owner == "boarding"
    assert window.bench_stack.currentWidget() is window.canvas


def test_a_way_moves_while_it_is_pointed_at(bench, window, qtbot):
    view = bench.view
    way = line(bench, "fares", "booking")
    middle = view._curves[view.map.lines.index(way)].pointAtPercent(0.5)
    spot = view.in_view(middle.x(), middle.y())
    send(view, QEvent.Type.MouseMove, spot, NO, NO)
    assert view.hovered is not None and view._frames.isActive()
    first = view.grab().toImage()
    qtbot.waitUntil(lambda: view.grab().toImage() != first)
    send(view, QEvent.Type.MouseMove, QPointF(2, 2), NO, NO)
    assert view.hovered is None and not view._frames.isActive()


def test_the_file_begins_at_another_screen(bench, workspace):
    bench.view.look_at("help")
    QTest.mouseClick(bench.start, LEFT)
    workspace.refresh_panels()
    assert workspace.document.screen_order[0] == "help"
    assert bench.view.map.node("help").is_start and not bench.start.isEnabled()


def test_a_file_without_screens_says_so(bench, window, workspace):
    for screen in workspace.document.screen_order:
        remove_owner(workspace, screen)
    window.run_action("map")
    assert bench.view.map.nodes == () and bench.title.text() == "There are no screens yet"
    bench.view.grab()
