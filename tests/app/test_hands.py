"""The hand on the bench of a screen: pulling, moving, reordering, words in place, boxes."""

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.fields.pins import turned
from outgrowth.core.document.records import find
from outgrowth.core.document.values import fixed, plain
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace import measures
from outgrowth.workspace.commands import style_commands

LEFT = Qt.MouseButton.LeftButton
NONE = Qt.KeyboardModifier.NoModifier


@pytest.fixture
def pull(window):
    """Presses at a point, moves in steps, and lets go (or presses Esc)."""
    canvas = window.canvas

    def drag(start, by, escape=False):
        begin = QPointF(start).toPoint()
        QTest.mousePress(canvas, LEFT, NONE, begin)
        for share in (0.3, 0.7, 1.0):
            QTest.mouseMove(canvas, (QPointF(start) + QPointF(by) * share).toPoint())
            QApplication.processEvents()
        if escape:
            QTest.keyClick(canvas, Qt.Key.Key_Escape)
        QTest.mouseRelease(canvas, LEFT, NONE, (QPointF(start) + QPointF(by)).toPoint())
        window.workspace.refresh_panels()

    return drag


def selected_handles(window):
    window.canvas.repaint()
    return {h.names: h for h in window.canvas.gestures.handles}


def test_a_side_is_pulled_and_the_tree_answers(window, workspace, hand, pull):
    workspace.open("boarding")
    hand.part("wait")
    handle = selected_handles(window)[("width",)]
    wide = measures.measured(workspace)[0]
    zoom = window.canvas.zoom
    pull(handle.zone.center(), QPointF(40 * zoom, 0))
    place = Place("boarding", ("wait",))
    assert value_at(workspace.document, place, "width") == fixed(round(wide + 40))
    assert workspace.undo_name == "width of button"
    window.run_action("undo")
    pull(handle.zone.center(), QPointF(40 * zoom, 0), escape=True)
    assert value_at(workspace.document, place, "width").mode == "fit", "Esc lets go"


def test_padding_gap_and_radius_have_handles(window, workspace, hand, pull):
    workspace.open("boarding")
    workspace.select(("crossing",))
    window.canvas.set_zoom(1.0)
    window.canvas.reveal(("crossing",))
    zoom = window.canvas.zoom
    place = Place("boarding", ("crossing",))
    for name, by in (("padding-left", (9, 0)), ("gap", (0, 7)), ("radius-top-left", (6, 6))):
        before = value_at(workspace.document, place, name)
        made = {h.names[0]: h for h in selected_handles(window).values()}
        pull(made[name].mark.center(), QPointF(*by) * zoom)
        assert value_at(workspace.document, place, name) == before + max(by), name


def test_a_part_of_a_flow_is_moved_to_where_the_line_is(window, workspace, pull):
    workspace.open("boarding")
    actions = find(workspace.screen.root, "actions")
    assert [c.id for c in actions.children] == ["board", "wait"]
    board, wait = window.canvas.rect_of(("board",)), window.canvas.rect_of(("wait",))
    start = QPointF(wait.center().x(), wait.center().y())
    pull(start, QPointF(board.left() + 4, board.center().y()) - start)
    assert [c.id for c in find(workspace.screen.root, "actions").children] == ["wait", "board"]
    assert workspace.undo_name.startswith("move ")


def test_a_part_of_a_free_box_is_moved_and_pinned(window, workspace, hand, pull):
    workspace.open("boarding")
    workspace.select(("facts",))
    style_commands.set_style(
        workspace, {"flow": "free", "width": fixed(300.0), "height": fixed(90.0)}
    )
    zoom = window.canvas.zoom
    place = Place("boarding", ("deck",))
    workspace.select(("deck",))
    start = window.canvas.rect_of(("deck",)).center()
    pull(start, QPointF(30 * zoom, 20 * zoom))
    assert value_at(workspace.document, place, "x") == pytest.approx(30.0, abs=2)
    workspace.select(("deck",))
    workspace.refresh_panels()
    pins = window.ledger.row("pin-x").editor.widget
    hand.click(pins, pins.zone("right").center())
    deck = Place("boarding", ("deck",))
    assert value_at(workspace.document, deck, "pin-x") == "both"
    hand.key(pins, Qt.Key.Key_Left)
    assert value_at(workspace.document, deck, "pin-x") == "end"
    hand.key(pins, Qt.Key.Key_Space)
    assert value_at(workspace.document, deck, "pin-x") == "center"
    hand.key(pins, Qt.Key.Key_Space, Qt.KeyboardModifier.ShiftModifier)
    assert value_at(workspace.document, deck, "pin-y") == "center"


@pytest.mark.parametrize(
    ("pin", "far", "after"),
    [
        ("start", True, "both"),
        ("start", False, "center"),
        ("both", False, "end"),
        ("both", True, "start"),
        ("end", True, "center"),
        ("center", False, "start"),
        ("scale", True, "end"),
    ],
)
def test_an_edge_is_tied_and_let_go(pin, far, after):
    assert turned(pin, far) == after


def test_words_are_edited_in_their_place(window, workspace, hand):
    workspace.open("boarding")
    workspace.select(("title",))
    hand.key(window.canvas, Qt.Key.Key_F3)
    editor = window.canvas.words
    QTest.keyClicks(editor, "Tonight")
    assert plain(value_at(workspace.document, workspace.place, "content")) == "Tonight", "at once"
    QTest.keyClick(editor, Qt.Key.Key_Return)
    workspace.refresh_panels()
    assert workspace.undo_name == "words of title"
    window.run_action("undo")
    window.run_action("words")
    QTest.keyClicks(window.canvas.words, "Nothing lost")
    QTest.keyClick(window.canvas.words, Qt.Key.Key_Escape)
    assert plain(value_at(workspace.document, workspace.place, "content")) == "Nothing lost"
    window.run_action("undo")
    assert plain(value_at(workspace.document, workspace.place, "content")) == "Holm to Skerry"


def test_words_that_an_instance_sets_are_set_there(window, workspace, hand):
    workspace.open("boarding")
    workspace.select(("board", "label"))
    window.run_action("words")
    QTest.keyClicks(window.canvas.words, "All aboard")
    QTest.keyClick(window.canvas.words, Qt.Key.Key_Return)
    workspace.refresh_panels()
    board = Place("boarding", ("board",))
    assert plain(value_at(workspace.document, board, "choice:label")) == "All aboard"
    workspace.open("button")
    workspace.select(("label",))
    window.run_action("words")
    QTest.keyClicks(window.grid.words, "Go")
    QTest.keyClick(window.grid.words, Qt.Key.Key_Return)
    workspace.refresh_panels()
    assert plain(workspace.component.property("label").default) == "Go", "the words at first"


def test_parts_are_put_into_a_box_and_nothing_moves(window, workspace, hand):
    workspace.open("boarding")
    spots = {a.path: a.rect for a in locate(*window.canvas.view(), "")}
    hand.part("board")
    hand.key(window.canvas, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    hand.key(window.canvas, Qt.Key.Key_F8)
    new = workspace.selection.path
    box = find(workspace.screen.root, new[0])
    assert [c.id for c in box.children] == ["board", "wait"]
    after = {a.path: a.rect for a in locate(*window.canvas.view(), "")}
    assert all(after[path] == pytest.approx(rect, abs=0.01) for path, rect in spots.items())
    hand.key(window.canvas, Qt.Key.Key_F8, Qt.KeyboardModifier.ShiftModifier)
    assert find(workspace.screen.root, new[0]) is None
    assert set(workspace.selection.paths) == {("board",), ("wait",)}


@pytest.fixture
def pull_in_grid(window):
    """The same in a variant of the grid."""

    def drag(start, by):
        grid, begin = window.grid, QPointF(start).toPoint()
        QTest.mousePress(grid, LEFT, NONE, begin)
        for share in (0.3, 0.7, 1.0):
            QTest.mouseMove(grid, (QPointF(start) + QPointF(by) * share).toPoint())
            QApplication.processEvents()
        QTest.mouseRelease(grid, LEFT, NONE, (QPointF(start) + QPointF(by)).toPoint())
        window.workspace.refresh_panels()

    return drag


def test_a_handle_in_a_variant_edits_all_variants_within_the_reach(
    window, workspace, hand, pull_in_grid
):
    hand.entry("Button")
    hand.part(state="hover")
    assert dict(workspace.reach) == {"state": "hover"}
    window.grid.set_zoom(2.0)
    window.grid.repaint()
    handle = {h.names[0]: h for h in window.grid.gestures.handles}["padding-left"]
    hovered = workspace.selection.variant
    resting = hovered.set("state", "rest")

    def padding(variant):
        return value_at(workspace.document, Place("button", (), variant), "padding-left")

    before = padding(hovered)
    pull_in_grid(handle.mark.center(), QPointF(16, 0))
    assert (padding(hovered), padding(resting)) == (before + 8, before)
    assert workspace.undo_name == "padding of button, State: hover"


def test_a_part_is_dragged_to_another_place_in_its_variant(window, workspace, hand, pull_in_grid):
    hand.entry("Island panel")
    variant = workspace.selection.variant
    title, view = (window.grid.rect_of(variant, (name,)) for name in ("title", "view"))
    pull_in_grid(title.center(), view.center() - QPointF(0, view.height() / 2 - 4) - title.center())
    assert [child.id for child in workspace.component.root.children][:2] == ["title", "view"]
    assert workspace.undo_name == "move title"
