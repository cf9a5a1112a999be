"""Tokens looked at: cards by mouse and keys, motions that move, pairs that lead to their place."""

import pytest
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.core.color import parse
from outgrowth.core.document.records import DesignToken
from outgrowth.core.document.values import Shadow
from outgrowth.core.edits.token_sets import in_order
from outgrowth.core.edits.tokens import set_tokens

LEFT, NO = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
MORE = {
    "space.1": DesignToken("dimension", 4.0),
    "space.2": DesignToken("dimension", 8.0),
    "radius.card": DesignToken("dimension", 12.0),
    "time.quick": DesignToken("duration", 160.0),
    "ease.out": DesignToken("easing", "cubic-bezier(0.2, 0, 0, 1)"),
    "type.body": DesignToken("family", "Figtree"),
    "weight.bold": DesignToken("number", 700.0),
    "shadow.card": DesignToken("shadow", (Shadow(parse("#00000040"), 0.0, 4.0, 12.0),)),
    "SeaBlue": DesignToken("color", parse("#205080")),
}


@pytest.fixture
def bench(window, workspace):
    window.resize(1280, 800)
    workspace.edit("more", lambda d: set_tokens(d, MORE))
    window.activateWindow()
    window.run_action("tokens")
    workspace.refresh_panels()
    QApplication.processEvents()
    return window.tokens


def send(view, kind, at, button, held):
    spot, none = QPointF(at), Qt.KeyboardModifier.NoModifier
    sight = view.viewport()
    event = QMouseEvent(kind, spot, sight.mapToGlobal(spot), button, held, none)
    QApplication.sendEvent(sight, event)


def drag(view, start, end):
    send(view, QEvent.Type.MouseButtonPress, start, LEFT, LEFT)
    send(view, QEvent.Type.MouseMove, start + QPointF(14, 2), NO, LEFT)
    send(view, QEvent.Type.MouseMove, end, NO, LEFT)
    send(view, QEvent.Type.MouseButtonRelease, end, LEFT, NO)


def colors(workspace):
    tokens = workspace.document.tokens
    return in_order(tokens, [p for p in tokens if p.startswith("color.")])


def test_every_token_has_a_card_and_none_lies_on_another(bench, workspace):
    cards = bench.board.board.cards
    assert {card.path for card in cards} == set(workspace.document.tokens)
    sections = {card.path: card.section for card in cards}
    assert sections["space.1"] == "space" and sections["radius.card"] == "radius"
    rects = [card.rect for card in cards] + [p.rect for p in bench.board.board.pairs]
    for n, a in enumerate(rects):
        for b in rects[n + 1 :]:
            assert a.right <= b.x or b.right <= a.x or a.bottom <= b.y or b.bottom <= a.y
    bench.board.grab()


def test_a_token_is_edited_beside_the_board_and_keeps_the_keys(bench, workspace, hand):
    bench.board.look_at("color.sea")
    field = bench.values["color.sea", ""].text
    hand.type(field, "#205060")
    workspace.refresh_panels()
    assert workspace.document.tokens["color.sea"].value == parse("#205060")
    name = bench.names["color.sea"]
    hand.type(name, "color.deep")
    assert "color.deep" in workspace.document.tokens


def test_the_keys_stay_in_the_field_that_was_typed_in(bench, workspace, window):
    bench.board.look_at("space.1")
    field = bench.values["space.1", ""]
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "6")
    QTest.keyClick(field, Qt.Key.Key_Return)
    workspace.refresh_panels()
    assert workspace.document.tokens["space.1"].value == 6.0
    assert bench.values["space.1", ""].hasFocus() and bench.values["space.1", ""] is not field


def test_cards_are_dragged_into_order_and_carried_by_keys(bench, workspace):
    board = bench.board
    before = colors(workspace)
    start, end = board.rect_of("color.sea"), board.rect_of("color.coral")
    board.look_at("color.sea")
    start = board.rect_of("color.sea").center()
    first = board.rect_of("color.coral")
    drag(board, start, QPointF(first.x() + 4, first.center().y()))
    assert colors(workspace) == ["color.sea", *(p for p in before if p != "color.sea")]
    assert end.isValid()
    workspace.refresh_panels()
    board.setFocus()
    board.look_at("color.sea")
    QTest.keyClick(board, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    assert colors(workspace)[1] == "color.sea"


def test_a_card_dropped_on_a_heading_goes_to_its_group(bench, workspace):
    board = bench.board
    board.look_at("SeaBlue")
    head = next(h for h in board.board.heads if h.section == "color" and h.group == "color")
    spot = board._in_view(head.rect).center()
    drag(board, board.rect_of("SeaBlue").center(), spot)
    assert "color.SeaBlue" in workspace.document.tokens
    assert "SeaBlue" not in workspace.document.tokens


def test_a_name_off_the_scheme_is_told_and_mended_by_a_press(bench, workspace):
    assert "1 named otherwise" in bench.summary.text()
    bench.board.look_at("SeaBlue")
    texts = [
        b for b in bench.side.widget().findChildren(type(bench.leave)) if "Call it" in b.text()
    ]
    QTest.mouseClick(texts[0], LEFT)
    assert "color.sea-blue" in workspace.document.tokens
    workspace.refresh_panels()
    assert "otherwise" not in bench.summary.text()


def test_a_ramp_is_made_from_the_menu(bench, workspace):
    menu = bench.menu("color.sea")
    next(a for a in menu.actions() if "ramp" in a.text()).trigger()
    assert sum(p.startswith("color.sea-") for p in workspace.document.tokens) == 10
    assert workspace.undo_name == "a ramp of color.sea"


def test_a_motion_moves_while_it_is_pointed_at(bench, qtbot):
    board = bench.board
    board.look_at("time.quick")
    spot = board.rect_of("time.quick").center()
    send(board, QEvent.Type.MouseMove, spot, NO, NO)
    assert board.moving == "time.quick"
    first = board.grab().toImage()
    qtbot.waitUntil(lambda: board.grab().toImage() != first)
    send(board, QEvent.Type.MouseMove, QPointF(1, 1), NO, NO)
    assert board.moving == ""


def test_a_pair_leads_to_where_it_is_used(bench, window, workspace):
    visited = []
    bench.visited.connect(lambda owner, path: visited.append((owner, path)))
    line = next(p for p in bench.board.board.pairs if len(p.pair.places) == 1)
    bench.board.verticalScrollBar().setValue(round(line.rect.y) - 60)
    spot = bench.board._in_view(line.rect).center()
    QTest.mouseClick(bench.board.viewport(), LEFT, pos=spot.toPoint())
    assert visited == [line.pair.places[0]]
    assert workspace.selection.owner == visited[0][0]


def test_arrows_go_from_card_to_card(bench, workspace):
    board = bench.board
    board.setFocus()
    seen = set()
    for _ in range(len(board.board.cards) + 1):
        seen.add(board.current)
        QTest.keyClick(board, Qt.Key.Key_Right)
    assert seen == {card.path for card in board.board.cards}
    QTest.keyClick(board, Qt.Key.Key_Up)
    assert board.current != board.board.cards[-1].path
