"""The tokens bench, the colour editor, tokens from the ledger, layers, and the tour."""

import contextlib

import pytest
from coloraide import Color as Judge
from PyQt6.QtCore import QMimeData, QModelIndex, QPointF, QRectF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.palette import Palette, Pipette, color_at
from outgrowth.app.main import WindowManager
from outgrowth.app.panels.layers import PART_MIME, switch_rect
from outgrowth.app.panels.tour import STEPS
from outgrowth.app.theme import LIGHT
from outgrowth.core.color import contrast, parse
from outgrowth.core.color.polar import color_of, most_chroma, polar
from outgrowth.core.document.records import DesignToken, find, lineage
from outgrowth.core.document.values import Token
from outgrowth.core.edits import tokens
from outgrowth.core.edits.tree.components import rename_owner
from outgrowth.workspace.commands import token_commands
from outgrowth.workspace.views.backdrop_color import behind_selection

from .user import LEFT, NONE, User

K = Qt.Key


@pytest.fixture
def user(window):
    return User(window)


@pytest.fixture
def bench(window, user):
    window.run_action("tokens")
    window.tokens.show_as("listed")
    user.wait()
    return window.tokens


def test_a_token_is_renamed_where_it_stands_and_all_follow(window, workspace, hand, bench):
    count = len(tokens.token_uses(workspace.document, "color.sea"))
    hand.type(bench.names["color.sea"], "color.deep.sea")
    assert len(tokens.token_uses(workspace.document, "color.deep.sea")) == count > 3
    assert "color.deep.sea" in bench.names and workspace.undo_name == "rename color.sea"


def test_a_name_that_is_taken_is_said_and_put_back(window, workspace, hand, bench):
    said = []
    workspace.failed.connect(said.append)
    hand.type(bench.names["color.sea"], "color.ink")
    assert "already" in said[0] and bench.names["color.sea"].text() == "color.sea"


def test_a_mode_has_values_of_its_own_and_is_shown(window, workspace, hand, bench):
    bench.add_mode("dark")
    workspace.refresh_panels()
    hand.type(bench.values["color.paper", "dark"].text, "#102028")
    paper = workspace.document.tokens["color.paper"]
    assert paper.modes["dark"] == parse("#102028") and paper.value == parse("#FFFFFF")
    before = workspace.engine.view(workspace.document, "button").scene
    workspace.edit("show", lambda d: tokens.show_mode(d, "dark"))
    assert workspace.document.token("color.paper").value == parse("#102028")
    assert workspace.engine.view(workspace.document, "button").scene is not before


@pytest.mark.parametrize("kind", ["color", "dimension", "duration", "easing", "family", "shadow"])
def test_a_token_of_each_kind_is_added_and_its_name_can_be_typed(workspace, bench, kind):
    bench.add_token(kind)
    path = workspace.undo_name.removeprefix("add ")
    assert workspace.document.tokens[path].kind == kind
    assert bench.names[path].hasFocus() and (path, "") in bench.values


def test_a_tokens_menu_says_how_much_it_touches(window, workspace, bench):
    sea = workspace.document.tokens["color.sea"].value
    workspace.edit("plain", lambda d: tokens.remove_token(d, "color.sea"))
    workspace.edit("named", lambda d: tokens.set_token(d, "color.new", _color(sea)))
    workspace.refresh_panels()
    first = bench.menu("color.new").actions()[0]
    assert first.text().startswith("Give ") and first.isEnabled()
    first.trigger()
    assert len(tokens.token_uses(workspace.document, "color.new")) > 3


def _color(value):
    return DesignToken("color", value)


def test_an_alias_shows_what_it_refers_to(window, workspace, user, bench):
    token_commands.set_value(workspace, "color.coral", "", Token("color.sea"))
    workspace.refresh_panels()
    field = bench.values["color.coral", ""]
    assert field.currentText() == "= color.sea"
    token_commands.own_value(workspace, "color.coral")
    held = workspace.document.tokens
    assert held["color.coral"].value == held["color.sea"].value


def test_escape_leads_back(window, workspace, bench):
    bench.setFocus()
    QTest.keyClick(bench, K.Key_Escape)
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_find_or_do_leads_to_tokens_and_values(window, workspace, user):
    user.find("color.coral token")
    assert window.bench_stack.currentWidget() is window.tokens
    assert window.tokens.names["color.coral"].hasFocus()
    window.tokens.left.emit()
    user.find("opacity value")
    row = window.ledger.row("opacity")
    assert row.isVisible() and row.isAncestorOf(QApplication.focusWidget())


def test_a_value_becomes_a_token_and_others_take_it(window, workspace, user):
    workspace.open("fare-card")
    workspace.select(())
    user.wait()
    titles = [title for title, _ in token_commands.choices(workspace, "gap")]
    assert titles[0] == "make a token of it"
    token_commands.make(workspace, "gap")
    path = workspace.undo_name.removeprefix("make the token ")
    assert workspace.component.root.style["gap"] == Token(path)
    assert token_commands.choices(workspace, "gap") == []
    workspace.open("button")
    token_commands.refer_to(workspace, "gap", path)
    assert workspace.component.root.style["gap"] == Token(path)
    assert token_commands.choices(workspace, "flow") == []


# --- the colour editor ----------------------------------------------------------------------


@pytest.fixture
def palette(window, workspace, user):
    workspace.open("button")
    workspace.select(())
    user.wait()
    field = window.ledger.row("fill").editor.widget
    assert isinstance(field, ColorField)
    made = field.open_palette()
    yield made
    with contextlib.suppress(RuntimeError):  # it went by itself
        made.close()


def fill(workspace):
    return workspace.component.root.style["fill"]


def test_turning_is_seen_at_once_and_is_one_step(workspace, palette):
    before = fill(workspace)
    track = palette.tracks["light"]
    spots = [QPointF(track.width() * share, 10).toPoint() for share in (0.2, 0.4, 0.8)]
    QTest.mousePress(track, LEFT, NONE, spots[0])
    first = fill(workspace)
    assert first != before
    for spot in spots[1:]:
        QTest.mouseMove(track, spot)
        QApplication.processEvents()
    QTest.mouseRelease(track, LEFT, NONE, spots[-1])
    assert fill(workspace) not in (before, first)
    assert workspace.undo_name.startswith("fill of")
    workspace.undo()
    assert fill(workspace) == before


def test_keys_turn_too_and_closing_leaves_what_was_set(workspace, palette):
    before = fill(workspace)
    QTest.keyClick(palette.tracks["hue"], K.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    after = fill(workspace)
    assert after != before
    palette.close()
    assert fill(workspace) == after and not workspace.dragging


def test_a_token_is_one_press_away_and_hex_is_typed(workspace, palette, window):
    palette.named["color.coral"].click()
    assert fill(workspace) == Token("color.coral")
    again = window.ledger.row("fill").editor.widget.open_palette()
    again.text.setText("oklch(0.5 0.1 230)")
    again.text.returnPressed.emit()
    assert fill(workspace) == parse("oklch(0.5 0.1 230)")


def test_contrast_with_what_is_behind_is_told(window, workspace, user):
    workspace.open("boarding")
    workspace.select(None)
    workspace.open("button")
    label = next(n for n in workspace.component.root.children if n.kind == "text")
    workspace.select((label.id,))
    behind = behind_selection(workspace)
    assert behind == workspace.document.tokens["color.sea"].value
    palette = Palette(window, {}, parse("#FFFFFF"), behind)
    ratio = contrast(parse("#FFFFFF"), behind)
    assert f"{ratio:.1f} : 1" in palette.contrast.text() and "✓" in palette.contrast.text()
    faint = Palette(window, {}, behind, behind)
    assert "too little" in faint.contrast.text()
    for made in (palette, faint):
        made.close()


def test_the_pipette_takes_what_is_shown(window, workspace, user):
    workspace.open("button")
    user.wait(50)
    variant = window.grid.rect_of(workspace.selection.variant, ())
    point = QPointF(variant.left() + 4, variant.center().y())
    taken = []
    pipette = Pipette(window)
    pipette.picked.connect(taken.append)
    QTest.mouseClick(window.grid, LEFT, NONE, point.toPoint())
    assert taken[0].hex == workspace.document.tokens["color.sea"].value.hex
    assert color_at(window.grid, point).hex == taken[0].hex
    Pipette(window)
    QTest.keyClick(window, K.Key_Escape)
    assert QApplication.overrideCursor() is None


@pytest.mark.parametrize("text", ["#17495A", "#B8452B", "#FFFFFF", "#000000", "#808080", "#F2B705"])
def test_a_colour_turned_by_nothing_is_itself(text):
    """Source: CSS Color 4, section 9.4; coloraide is asked too."""
    color = parse(text)
    assert color_of(polar(color)).hex == color.hex
    light, chroma, hue = polar(color)
    judged = Judge(text).convert("oklch")
    assert (light, chroma) == pytest.approx((judged["lightness"], judged["chroma"]), abs=2e-3)
    if chroma > 0.01:
        assert hue == pytest.approx(judged["hue"], abs=0.5)
    assert chroma <= most_chroma(light, hue) + 0.002


# --- layers ---------------------------------------------------------------------------------


def line_at(window, name):
    model = window.layers.model
    return next(n for n, line in enumerate(model.lines) if line.name == name)


def test_a_layer_is_dragged_into_a_box_and_between_others(window, workspace):
    workspace.open("boarding")
    workspace.refresh_panels()
    model = window.layers.model
    moved = find(workspace.owner.root, "wait")
    data = model.mimeData([model.index(line_at(window, moved.name))])
    assert data.hasFormat(PART_MIME)
    copy = Qt.DropAction.MoveAction
    target = next(n for n, line in enumerate(model.lines) if line.path == ("crossing",))
    model.dropMimeData(data, copy, -1, -1, model.index(target))
    assert lineage(workspace.owner.root, "wait")[-2].id == "crossing"
    workspace.refresh_panels()
    first = next(n for n, line in enumerate(model.lines) if line.path == ("actions",))
    model.dropMimeData(data, copy, first, -1, QModelIndex())
    root = workspace.owner.root
    ids = [child.id for child in lineage(root, "actions")[-2].children]
    assert ids.index("wait") == ids.index("actions") - 1
    assert not model.dropMimeData(QMimeData(), copy, 0, -1, QModelIndex())


def test_several_layers_are_dragged_together_as_one_step(window, workspace):
    workspace.open("boarding")
    workspace.refresh_panels()
    model = window.layers.model
    before = [child.id for child in find(workspace.owner.root, "crossing").children]
    workspace.select_all((("sea",), ("date",), ("gate",), ("facts",)))
    sea = next(n for n, line in enumerate(model.lines) if line.path == ("sea",))
    data = model.mimeData([model.index(sea)])
    header = next(n for n, line in enumerate(model.lines) if line.path == ("header",))
    model.dropMimeData(data, Qt.DropAction.MoveAction, -1, -1, model.index(header))
    root = workspace.owner.root
    ids = [child.id for child in find(root, "header").children]
    assert ids[-3:] == ["date", "sea", "facts"], "in their order, with what lies in them"
    assert lineage(root, "gate")[-2].id == "facts"
    assert workspace.undo_name == "move 3 parts"
    window.run_action("undo")
    assert [child.id for child in find(workspace.owner.root, "crossing").children] == before
    workspace.select_all((("sea",), ("actions",)))
    data = model.mimeData([model.index(sea)])
    first = next(n for n, line in enumerate(model.lines) if line.path == ("date",))
    model.dropMimeData(data, Qt.DropAction.MoveAction, first, -1, QModelIndex())
    ids = [child.id for child in find(workspace.owner.root, "crossing").children]
    assert ids[:3] == ["sea", "actions", "date"]


def test_a_layer_is_hidden_and_let_through_by_its_marks(window, workspace, user):
    workspace.open("boarding")
    workspace.refresh_panels()
    row = next(n for n, line in enumerate(window.layers.model.lines) if line.path == ("wait",))
    view = window.layers.list

    def mark(which):
        view.scrollTo(window.layers.model.index(row))
        rect = view.visualRect(window.layers.model.index(row))
        return switch_rect(QRectF(rect), which).center()

    user.press(view.viewport(), mark("shown"))
    assert find(workspace.owner.root, "wait").style["shown"] is False
    assert not window.layers.model.lines[row].shown
    user.press(view.viewport(), mark("shown"))
    assert find(workspace.owner.root, "wait").style["shown"] is True
    user.press(view.viewport(), mark("through"))
    assert find(workspace.owner.root, "wait").style["click-through"] is True


def test_layers_are_found_by_name(window, workspace, user):
    workspace.open("boarding")
    workspace.refresh_panels()
    window.run_action("find-layer")
    assert window.layers.search.hasFocus()
    name = find(workspace.owner.root, "wait").name
    user.type(name)
    lines = window.layers.model.lines
    assert name in lines[-1].name and lines[0].depth == 0
    assert workspace.selection.path is not None
    window.layers.search.clear()
    assert len(window.layers.model.lines) > len(lines)


def test_f2_renames_the_selected_part(window, workspace, user):
    workspace.open("boarding")
    workspace.select(("wait",))
    user.wait()
    window.canvas.setFocus()
    user.key(K.Key_F2)
    user.type("Wait here")
    assert find(workspace.owner.root, "wait").name == "Wait here"


# --- the library ----------------------------------------------------------------------------


def test_the_library_is_searched_and_offers_what_is_new(window, workspace, user):
    window.library.search.setText("fare")
    assert [entry.name for entry in window.library.model.entries] == ["Fare card"]
    window.library.search.returnPressed.emit()
    assert workspace.component.name.endswith("Fare card")
    window.library.search.setText("nothing like that")
    assert window.library._hint() == "Nothing here is called that."
    window.library.search.clear()
    titles = [action.text() for action in window.library.new_menu().actions()]
    assert titles[0] == "New component" and any("Expander" in title for title in titles)
    entries = window.library.model.entries
    menu = window.library.menu_for(next(e for e in entries if e.owner == "button"))
    assert [a.text() for a in menu.actions()] == [
        "Open",
        "Place here",
        "Rename",
        "Earlier",
        "Later",
        "Copy whole",
        "Remove",
    ]


def test_screens_lie_on_pages(window, workspace):
    workspace.edit("page", lambda d: _renamed(d, "help", "Questions/Help"))
    window.library.tabs.choose("Screens")
    workspace.refresh_panels()
    folders = [e.name for e in window.library.model.entries if e.folder]
    assert folders == ["Questions", "This file"]


def _renamed(document, owner, name):
    return rename_owner(document, owner, name)


# --- the tour -------------------------------------------------------------------------------


def test_the_tour_goes_through_the_ten_steps_and_each_can_be_done(look, qtbot, tmp_path):
    desk = WindowManager(LIGHT, tmp_path)
    window = desk.tour()
    said = []
    window.workspace.failed.connect(said.append)
    try:
        assert window.tour.isVisible() and len(STEPS) == 10
        for n, step in enumerate(STEPS):
            assert step.title in window.tour.title.text()
            before = window.workspace.document, window.workspace.selection
            window.tour.buttons["Do it"].click()
            window.workspace.refresh_panels()
            QApplication.processEvents()
            now = window.workspace.document, window.workspace.selection
            assert now != before or n in (7, 8, 9), step.title
            window.tour.buttons["Next"].click()
        assert not window.tour.isVisible() and said == []
        assert window.workspace.path is None
    finally:
        desk.system_fonts.stop()
        window.workspace._saved = window.workspace.document
        window.live.stage.stop()
        window.close()
