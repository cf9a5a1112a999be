"""Drawing, catching, nudging, lining up, snapping, copying: the hand on both benches."""

import pytest
from immutables import Map
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.clipboard import PARTS
from outgrowth.app.theme import LIGHT
from outgrowth.app.window import MainWindow
from outgrowth.app.workspace_signals import WorkspaceSignals
from outgrowth.core.document.records import DesignToken, Document, find, walk
from outgrowth.core.document.values import Token, fixed, plain
from outgrowth.core.edits.tokens import set_token
from outgrowth.core.edits.tree.owners import Device
from outgrowth.core.exchange.native import loads
from outgrowth.workspace import Workspace, icon_set
from outgrowth.workspace.commands import create_commands, library_commands, style_commands
from outgrowth.workspace.commands.action import doubled_shortcuts
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.starters import STARTERS, starters

from .user import ALT, NONE, SHIFT, User

K = Qt.Key


@pytest.fixture
def user(window):
    return User(window)


@pytest.fixture
def sheet(window, workspace, user):
    """A free screen with three boxes, at life size."""
    library_commands.new_screen(workspace, Device("Sheet", 400, 300))
    style_commands.set_style(workspace, {"flow": "free"})
    boxes = []
    for n, (x, y) in enumerate(((20.0, 20.0), (120.0, 60.0), (250.0, 150.0))):
        workspace.select(())
        assert create_commands.draw(workspace, "box", None, (60.0 + n * 10, 40.0), (x, y))
        boxes.append(workspace.selection.path[0])
    window.canvas.set_zoom(1.0)
    user.wait()
    return boxes


def at(workspace, node_id):
    style = find(workspace.owner.root, node_id).style
    return style.get("x", 0.0), style.get("y", 0.0)


def middle(window, node_id):
    return window.canvas.rect_of((node_id,)).center()


def test_a_drag_draws_at_its_own_size_and_place(window, workspace, user, sheet):
    canvas = window.canvas
    corner = canvas.rect_of(()).topLeft()
    window.pen.take_up("box")
    assert window.draw_strip.buttons["box"].isChecked()
    user.pull(canvas, corner + QPointF(30, 200), corner + QPointF(110, 250))
    new = find(workspace.owner.root, workspace.selection.path[0])
    assert (new.style["x"], new.style["y"]) == (30.0, 200.0)
    assert (new.style["width"], new.style["height"]) == (fixed(80.0), fixed(50.0))
    assert window.pen.drawn_kind is None and workspace.undo_name == "draw a box"


@pytest.mark.parametrize("drawn_kind", ["box", "ellipse", "ring", "line", "text"])
def test_a_key_draws_where_the_selection_is(window, workspace, user, drawn_kind):
    workspace.open("boarding")
    workspace.select(("actions",))
    before = len(find(workspace.owner.root, "actions").children)
    window.run_action(f"draw-{drawn_kind}")
    new = find(workspace.owner.root, "actions").children[-1]
    assert len(find(workspace.owner.root, "actions").children) == before + 1
    assert workspace.selection.path == (new.id,)
    if drawn_kind == "text":
        QTest.keyClicks(QApplication.focusWidget(), "Tide table")
        QTest.keyClick(QApplication.focusWidget(), K.Key_Return)
        new = find(workspace.owner.root, new.id)
        assert plain(new.style["content"]) == "Tide table" == new.name


def test_escape_lays_the_pen_down(window, user, sheet):
    window.pen.take_up("ring")
    QTest.keyClick(window.canvas, K.Key_Escape)
    assert window.pen.drawn_kind is None


def test_a_frame_catches_what_it_touches(window, workspace, user, sheet):
    canvas = window.canvas
    corner = canvas.rect_of(()).topLeft()
    workspace.select(())
    user.pull(canvas, corner + QPointF(5, 5), corner + QPointF(150, 110))
    assert [path[0] for path in workspace.selection.paths] == sheet[:2]
    assert not workspace.undo_name.startswith("move")


def test_arrows_nudge_all_that_is_selected_as_one_step(window, workspace, user, sheet):
    workspace.select_all(((sheet[0],), (sheet[1],)))
    canvas = window.canvas
    for key, held in ((K.Key_Right, NONE), (K.Key_Right, NONE), (K.Key_Down, SHIFT)):
        QTest.keyClick(canvas, key, held)
    assert at(workspace, sheet[0]) == (22.0, 28.0) and at(workspace, sheet[1]) == (122.0, 68.0)
    window.run_action("undo")
    assert at(workspace, sheet[0]) == (20.0, 20.0)


def test_a_moved_part_catches_and_says_where_it_is(window, workspace, user, sheet):
    canvas = window.canvas
    start = middle(window, sheet[0])
    seen = []
    workspace.document_changed.connect(
        lambda: seen.append((canvas.gestures.beside, canvas.gestures.guides))
    )
    user.press(canvas, start)
    user.pull(canvas, start, start + QPointF(97, 130))
    assert at(workspace, sheet[0]) == (120.0, 150.0), "two edges were within reach"
    assert any(guides for _, guides in seen)
    assert any(beside.startswith("x ") for beside, _ in seen)
    assert canvas.gestures.guides == () and canvas.gestures.beside == ""


def test_parts_line_up_and_spread_by_name(window, workspace, user, sheet):
    workspace.select_all(tuple((i,) for i in sheet))
    window.run_action("align-top")
    assert [at(workspace, i)[1] for i in sheet] == [20.0] * 3
    window.run_action("spread-across")
    assert at(workspace, sheet[1])[0] == 130.0
    workspace.select((sheet[0],))
    window.run_action("align-right")
    assert at(workspace, sheet[0])[0] == 340.0


def test_what_a_flow_decides_is_said(window, workspace, user):
    said = []
    workspace.failed.connect(said.append)
    workspace.open("boarding")
    workspace.select(("wait",))
    window.run_action("align-left")
    assert "justify" in said[0]


def test_enter_goes_in_escape_out_and_page_keys_beside(window, workspace, user):
    workspace.open("boarding")
    workspace.select(())
    window.canvas.setFocus()
    first = workspace.owner.root.children[0]
    user.key(K.Key_Return)
    assert workspace.selection.path == (first.id,)
    user.key(K.Key_PageDown)
    assert workspace.selection.path == (workspace.owner.root.children[1].id,)
    user.key(K.Key_PageUp)
    user.key(K.Key_Escape)
    assert workspace.selection.path == ()
    workspace.select(("wait",))
    user.key(K.Key_Return)
    assert workspace.selection.path[0] == "wait" and len(workspace.selection.path) == 2


def test_alt_picks_the_deepest_and_so_does_a_key(window, workspace, user):
    workspace.open("boarding")
    user.wait()
    point = window.canvas.rect_of(("wait",)).center()
    user.press(window.canvas, point, held=ALT)
    deepest = workspace.selection.path
    assert deepest[0] == "wait" and len(deepest) > 1
    workspace.select(None)
    user.hover(window.canvas, point)
    window.run_action("deepest")
    assert workspace.selection.path == deepest


def test_select_what_is_alike(window, workspace, user):
    workspace.open("help")
    owner = workspace.owner
    lead = next(n for n in walk(owner.root) if n.style.get("component") == "notice")
    workspace.select((lead.id,))
    window.run_action("same-component")
    count = sum(n.style.get("component") == "notice" for n in walk(owner.root))
    assert len(workspace.selection.paths) == count > 2
    window.run_action("same-kind")
    assert len(workspace.selection.paths) >= count
    window.run_action("same-fill")
    assert lead.id == workspace.selection.path[0]


def test_earlier_and_later(window, workspace):
    workspace.open("boarding")
    workspace.select(("wait",))
    box = find(workspace.owner.root, "actions")
    at_first = [child.id for child in box.children]
    window.run_action("earlier" if at_first.index("wait") else "later")
    now = [child.id for child in find(workspace.owner.root, "actions").children]
    assert now != at_first and sorted(now) == sorted(at_first)


# --- copy and paste -------------------------------------------------------------------------


def board():
    return QApplication.clipboard()


def test_copies_go_right_behind_and_a_little_off(window, workspace, user, sheet):
    workspace.select((sheet[0],))
    window.run_action("duplicate")
    copy = workspace.selection.path[0]
    assert at(workspace, copy) == (36.0, 36.0)
    order = [child.id for child in workspace.owner.root.children]
    assert order.index(copy) == order.index(sheet[0]) + 1
    workspace.select((sheet[1],))
    window.run_action("copy")
    window.run_action("paste")
    pasted = workspace.selection.path[0]
    assert at(workspace, pasted) == (136.0, 76.0)
    window.run_action("cut")
    assert find(workspace.owner.root, pasted) is None


def test_a_duplicate_in_a_component_keeps_its_rules(window, workspace):
    workspace.open("button")
    label = workspace.component.root.children[0]
    workspace.select((label.id,))
    rules = [r for r in workspace.component.rules if r.node == (label.id,)]
    window.run_action("duplicate")
    copy = workspace.selection.path
    assert len([r for r in workspace.component.rules if r.node == copy]) == len(rules)


def test_parts_go_from_window_to_window(window, workspace, fonts, look, qtbot):

    workspace.open("boarding")
    workspace.select(("wait",))
    window.run_action("copy")
    data = board().mimeData()
    held = loads(bytes(data.data(PARTS).data()), "copied")
    assert "button" in held.components and data.hasFormat("image/png")
    assert bytes(data.data("image/svg+xml").data()).startswith(b"<svg")
    other = MainWindow(
        Workspace(Engine(fonts), Document("other"), notices=WorkspaceSignals()), LIGHT
    )
    qtbot.addWidget(other, before_close_func=_forget)
    library_commands.new_screen(other.workspace, Device("Phone", 390, 844))
    other.run_action("paste")
    assert "button" in other.workspace.document.components
    assert other.workspace.screen.root.children[0].style["component"] == "button"
    other.live.stage.stop()


def _forget(window):
    window.workspace._saved = window.workspace.document


def test_only_the_look_is_pasted(window, workspace):
    workspace.open("boarding")
    workspace.select(())
    window.run_action("copy")
    workspace.select(("actions",))
    before = find(workspace.owner.root, "actions")
    window.run_action("paste-look")
    after = find(workspace.owner.root, "actions")
    assert after.style["fill"] == workspace.owner.root.style["fill"]
    assert after.style.get("width") == before.style.get("width")
    assert after.style.get("flow") == before.style.get("flow")


@pytest.mark.parametrize("how", ["svg", "text", "words", "image", "file"])
def test_anything_that_can_be_a_part_is_pasted(window, workspace, user, sheet, how, tmp_path):
    workspace.select(())
    data = QMimeData()
    drawing = '<svg viewBox="0 0 40 20"><rect width="40" height="20"/><circle r="5"/></svg>'
    if how == "svg":
        data.setData("image/svg+xml", drawing.encode())
    elif how == "text":
        data.setText(drawing)
    elif how == "words":
        data.setText("Mind the gap")
    elif how == "image":
        data.setImageData(QImage(8, 4, QImage.Format.Format_RGB32))
    else:
        path = tmp_path / "boat.svg"
        path.write_text(drawing)
        data.setUrls([QUrl.fromLocalFile(str(path))])
    board().setMimeData(data)
    window.run_action("paste")
    new = find(workspace.owner.root, workspace.selection.path[0])
    kinds = {"words": "text", "image": "image"}
    assert new.kind == kinds.get(how, "box")
    if how in ("svg", "text", "file"):
        assert [child.kind for child in new.children] == ["box", "shape"]
    if how == "words":
        assert plain(new.style["content"]) == "Mind the gap"


def test_what_a_drawing_lost_is_told_and_a_hostile_one_refused(window, workspace, user, sheet):
    said = []
    workspace.failed.connect(said.append)
    for text in (
        '<svg viewBox="0 0 9 9"><rect id="fog" width="9" height="9" filter="url(#f)"/></svg>',
        "<svg><script/></svg>",
    ):
        data = QMimeData()
        data.setText(text)
        board().setMimeData(data)
        window.run_action("paste")
    assert "Left out: the filter of “fog”." in said[0]
    assert "carries a script" in said[1]
    assert workspace.undo_name == "place Pasted drawing"


def test_a_damaged_clipboard_says_so(window, workspace, sheet):
    said = []
    workspace.failed.connect(said.append)
    data = QMimeData()
    data.setData(PARTS, b"{")
    board().setMimeData(data)
    window.run_action("paste")
    window.run_action("paste-look")
    assert len(said) == 2 and all("damaged" in sentence for sentence in said)


# --- icons, axes, whole owners ----------------------------------------------------------------


def test_icons_are_found_and_take_each_others_place(window, workspace, user):
    workspace.open("boarding")
    workspace.select(("actions",))
    anchor, ticket = icon_set.icons_for("anchor")[0], icon_set.icons_for("ticket")[0]
    assert (anchor.name, ticket.name) == ("anchor", "ticket")
    assert not [i for i in icon_set.icons() if i.name.endswith("-logo")]
    create_commands.place_icon(workspace, anchor)
    placed = workspace.selection.path[0]
    create_commands.place_icon(workspace, ticket, solid=True)
    node = find(workspace.owner.root, placed)
    assert node.style["path"] == ticket.solid


def test_hover_and_press_follow_whatever_the_fill_is(window, workspace):
    library_commands.new_component(workspace)
    window.run_action("add-states")
    assert [r.value.how for r in workspace.component.rules] == ["darken", "darken"]
    assert not next(a for a in window.actions_list if a.id == "add-states").enabled()
    for _ in range(2):
        window.run_action("add-axis")
        QTest.keyClick(window.axes.line.field, Qt.Key.Key_Return)
    assert [a.name for a in workspace.component.axes] == ["State", "Kind", "Size"]
    assert (
        workspace.selection.variant[workspace.component.axes[2].id]
        != workspace.component.axes[2].default
    )


def test_a_component_in_use_stays_and_says_why(window, workspace):
    said = []
    workspace.failed.connect(said.append)
    workspace.open("button")
    window.run_action("remove-owner")
    assert "is used" in said[0] and workspace.component.id == "button"
    window.run_action("copy-owner")
    assert workspace.component.name == "Controls/Button copy"
    window.run_action("remove-owner")
    assert workspace.owner is not None and workspace.owner.name != "Controls/Button copy"


def test_without_anything_the_start_is_there(window, workspace, user):
    for owner in list(workspace.document.screens_in_order()):
        library_commands.remove_owner(workspace, owner.id)
    while workspace.document.components:
        left = [c.id for c in workspace.document.in_order()]
        for component in left:
            library_commands.remove_owner(workspace, component)
    user.wait()
    assert window.bench_stack.currentWidget() is window.start and workspace.owner is None
    assert not window.side.isVisible()
    window.run_action("paste")
    user.press(window.start.starters["Button"])
    assert workspace.component.name == "Button"
    assert window.bench_stack.currentWidget() is window.grid_bench
    window.run_action("undo")


def test_every_starter_is_there_and_works(window, workspace):

    for starter in STARTERS:
        library_commands.bring_starter(workspace, starters(), starter.component)
        assert workspace.component.axes or workspace.component.root.children
        variant = workspace.selection.variant
        workspace.engine.view(workspace.document, workspace.component.id, variant or Map())


def test_zoom_to_the_selection_and_life_size(window, workspace, user):
    workspace.open("boarding")
    workspace.select(("wait",))
    window.run_action("look-at-selection")
    rect = window.canvas.rect_of(("wait",))
    assert QPointF(window.canvas.rect().center()).toPoint() == rect.center().toPoint()
    assert window.canvas.zoom > 1.0
    window.run_action("life-size")
    assert window.canvas.zoom == 1.0
    workspace.open("button")
    window.run_action("look-at-selection")
    assert window.grid.zoom > 1.0


def test_space_holds_the_view(window, workspace, user):
    workspace.open("boarding")
    canvas = window.canvas
    canvas.setFocus()
    before = canvas.rect_of(()).topLeft()
    QTest.keyPress(canvas, K.Key_Space)
    user.pull(canvas, QPointF(200, 200), QPointF(240, 230))
    QTest.keyRelease(canvas, K.Key_Space)
    assert canvas.rect_of(()).topLeft() - before == QPointF(40, 30)
    assert not workspace.undo_name


def test_keys_in_use_are_each_used_once(window):

    assert doubled_shortcuts(window.actions_list) == []
    ids = [action.id for action in window.actions_list]
    assert len(ids) == len(set(ids))


def test_doing_it_again_comes_back_to_what_was_made(window, workspace):
    before = workspace.selection
    library_commands.new_component(workspace)
    made = workspace.selection
    assert create_commands.draw(workspace, "ring")
    drawn = workspace.selection
    for _ in range(2):
        workspace.undo()
    assert workspace.selection == before
    workspace.redo()
    assert workspace.selection == made
    workspace.redo()
    assert workspace.selection == drawn


def test_a_tokens_name_is_typed_where_a_number_stands(window, workspace, hand, user):
    workspace.edit("token", lambda d: set_token(d, "space.wide", DesignToken("dimension", 22.0)))
    workspace.open("fare-card")
    workspace.select(())
    user.wait()
    hand.type(window.ledger.row("gap").editor.widget, "space.wide")
    assert workspace.component.root.style["gap"] == Token("space.wide")
    hand.type(window.ledger.row("gap").editor.widget, "+2")
    assert workspace.component.root.style["gap"] == 24.0


def test_a_component_is_dropped_where_the_pointer_is_on_a_free_sheet(
    window, workspace, user, sheet
):
    canvas = window.canvas
    point = canvas.rect_of(()).topLeft() + QPointF(30, 210)
    user.drop("Button", canvas, point)
    new = workspace.owner.root.children[-1]
    assert new.style["component"] == "button"
    assert (new.style["x"], new.style["y"]) == (30.0, 210.0)
    assert workspace.selection.path == (new.id,)
