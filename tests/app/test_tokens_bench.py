"""The tokens bench, the colour editor, tokens from the ledger, layers, and the tour."""

import contextlib

import pytest
from coloraide import Color as Judge
from PyQt6.QtCore import QMimeData, QModelIndex, QPointF, QRectF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.palette import Palette, Pipette, color_at
from outgrowth.app.main import Desk
from outgrowth.app.panels.layers import PART_MIME, switch_rect
from outgrowth.app.panels.tour import STEPS
from outgrowth.app.session import tokened
from outgrowth.app.session.behind import behind_selection
from outgrowth.app.theme import LIGHT
from outgrowth.core.color import contrast, parse
from outgrowth.core.color.polar import color_of, most_chroma, polar
from outgrowth.core.document.records import DesignToken, find, lineage
from outgrowth.core.document.values import Token
from outgrowth.core.edits import tokens
from outgrowth.core.edits.components import rename_owner

from .user import LEFT, NONE, User

K = Qt.Key


@pytest.fixture
def user(window):
    return User(window)


@pytest.fixture
def bench(window, user):
    window.do("tokens")
    user.wait()
    return window.tokens


def test_a_token_is_renamed_where_it_stands_and_all_follow(window, session, hand, bench):
    count = len(tokens.token_uses(session.document, "color.sea"))
    hand.type(bench.names["color.sea"], "color.deep.sea")
    assert len(tokens.token_uses(session.document, "color.deep.sea")) == count > 3
    assert "color.deep.sea" in bench.names and session.undo_name == "rename color.sea"


def test_a_name_that_is_taken_is_said_and_put_back(window, session, hand, bench):
    said = []
    session.failed.connect(said.append)
    hand.type(bench.names["color.sea"], "color.ink")
    assert "already" in said[0] and bench.names["color.sea"].text() == "color.sea"


def test_a_mode_has_values_of_its_own_and_is_shown(window, session, hand, bench):
    bench.add_mode("dark")
    session.settle()
    hand.type(bench.values["color.paper", "dark"].text, "#102028")
    paper = session.document.tokens["color.paper"]
    assert paper.modes["dark"] == parse("#102028") and paper.value == parse("#FFFFFF")
    before = session.engine.view(session.document, "button").scene
    session.edit("show", lambda d: tokens.show_mode(d, "dark"))
    assert session.document.token("color.paper").value == parse("#102028")
    assert session.engine.view(session.document, "button").scene is not before


@pytest.mark.parametrize("kind", ["color", "dimension", "duration", "easing", "family", "shadow"])
def test_a_token_of_each_kind_is_added_and_its_name_can_be_typed(session, bench, kind):
    bench.add_token(kind)
    path = session.undo_name.removeprefix("add ")
    assert session.document.tokens[path].kind == kind
    assert bench.names[path].hasFocus() and (path, "") in bench.values


def test_a_tokens_menu_says_how_much_it_touches(window, session, bench):
    sea = session.document.tokens["color.sea"].value
    session.edit("plain", lambda d: tokens.remove_token(d, "color.sea"))
    session.edit("named", lambda d: tokens.set_token(d, "color.new", _color(sea)))
    session.settle()
    first = bench.menu("color.new").actions()[0]
    assert first.text().startswith("Give ") and first.isEnabled()
    first.trigger()
    assert len(tokens.token_uses(session.document, "color.new")) > 3


def _color(value):
    return DesignToken("color", value)


def test_an_alias_shows_what_it_refers_to(window, session, user, bench):
    bench._set("color.coral", "", Token("color.sea"))
    session.settle()
    field = bench.values["color.coral", ""]
    assert field.currentText() == "= color.sea"
    bench._own("color.coral")
    held = session.document.tokens
    assert held["color.coral"].value == held["color.sea"].value


def test_escape_leads_back(window, session, bench):
    bench.setFocus()
    QTest.keyClick(bench, K.Key_Escape)
    assert window.bench.currentWidget() is window.grid_bench


def test_find_or_do_leads_to_tokens_and_values(window, session, user):
    user.find("color.coral token")
    assert window.bench.currentWidget() is window.tokens
    assert window.tokens.names["color.coral"].hasFocus()
    window.tokens.left.emit()
    user.find("opacity value")
    row = window.ledger.row("opacity")
    assert row.isVisible() and row.isAncestorOf(QApplication.focusWidget())


def test_a_value_becomes_a_token_and_others_take_it(window, session, user):
    session.open("fare-card")
    session.select(())
    user.wait()
    titles = [title for title, _ in tokened.choices(session, "gap")]
    assert titles[0] == "make a token of it"
    tokened.make(session, "gap")
    path = session.undo_name.removeprefix("make the token ")
    assert session.component.root.style["gap"] == Token(path)
    assert tokened.choices(session, "gap") == []
    session.open("button")
    tokened.take(session, "gap", path)
    assert session.component.root.style["gap"] == Token(path)
    assert tokened.choices(session, "flow") == []


# --- the colour editor ----------------------------------------------------------------------


@pytest.fixture
def palette(window, session, user):
    session.open("button")
    session.select(())
    user.wait()
    field = window.ledger.row("fill").editor.widget
    assert isinstance(field, ColorField)
    made = field.open_palette()
    yield made
    with contextlib.suppress(RuntimeError):  # it went by itself
        made.close()


def fill(session):
    return session.component.root.style["fill"]


def test_turning_is_seen_at_once_and_is_one_step(session, palette):
    before = fill(session)
    track = palette.tracks["light"]
    spots = [QPointF(track.width() * share, 10).toPoint() for share in (0.2, 0.4, 0.8)]
    QTest.mousePress(track, LEFT, NONE, spots[0])
    first = fill(session)
    assert first != before
    for spot in spots[1:]:
        QTest.mouseMove(track, spot)
        QApplication.processEvents()
    QTest.mouseRelease(track, LEFT, NONE, spots[-1])
    assert fill(session) not in (before, first)
    assert session.undo_name.startswith("fill of")
    session.undo()
    assert fill(session) == before


def test_keys_turn_too_and_closing_leaves_what_was_set(session, palette):
    before = fill(session)
    QTest.keyClick(palette.tracks["hue"], K.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    after = fill(session)
    assert after != before
    palette.close()
    assert fill(session) == after and not session.dragging


def test_a_token_is_one_press_away_and_hex_is_typed(session, palette, window):
    palette.named["color.coral"].click()
    assert fill(session) == Token("color.coral")
    again = window.ledger.row("fill").editor.widget.open_palette()
    again.text.setText("oklch(0.5 0.1 230)")
    again.text.returnPressed.emit()
    assert fill(session) == parse("oklch(0.5 0.1 230)")


def test_contrast_with_what_is_behind_is_told(window, session, user):
    session.open("boarding")
    session.select(None)
    session.open("button")
    label = next(n for n in session.component.root.children if n.kind == "text")
    session.select((label.id,))
    behind = behind_selection(session)
    assert behind == session.document.tokens["color.sea"].value
    palette = Palette(window, {}, parse("#FFFFFF"), behind)
    ratio = contrast(parse("#FFFFFF"), behind)
    assert f"{ratio:.1f} : 1" in palette.contrast.text() and "✓" in palette.contrast.text()
    faint = Palette(window, {}, behind, behind)
    assert "too little" in faint.contrast.text()
    for made in (palette, faint):
        made.close()


def test_the_pipette_takes_what_is_shown(window, session, user):
    session.open("button")
    user.wait(50)
    face = window.grid.rect_of(session.selection.variant, ())
    point = QPointF(face.left() + 4, face.center().y())
    taken = []
    pipette = Pipette(window)
    pipette.taken.connect(taken.append)
    QTest.mouseClick(window.grid, LEFT, NONE, point.toPoint())
    assert taken[0].hex == session.document.tokens["color.sea"].value.hex
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


def test_a_layer_is_dragged_into_a_box_and_between_others(window, session):
    session.open("boarding")
    session.settle()
    model = window.layers.model
    moved = find(session.owner.root, "wait")
    data = model.mimeData([model.index(line_at(window, moved.name))])
    assert data.hasFormat(PART_MIME)
    copy = Qt.DropAction.MoveAction
    target = next(n for n, line in enumerate(model.lines) if line.path == ("crossing",))
    model.dropMimeData(data, copy, -1, -1, model.index(target))
    assert lineage(session.owner.root, "wait")[-2].id == "crossing"
    session.settle()
    first = next(n for n, line in enumerate(model.lines) if line.path == ("actions",))
    model.dropMimeData(data, copy, first, -1, QModelIndex())
    root = session.owner.root
    ids = [child.id for child in lineage(root, "actions")[-2].children]
    assert ids.index("wait") == ids.index("actions") - 1
    assert not model.dropMimeData(QMimeData(), copy, 0, -1, QModelIndex())


def test_a_layer_is_hidden_and_let_through_by_its_marks(window, session, user):
    session.open("boarding")
    session.settle()
    row = next(n for n, line in enumerate(window.layers.model.lines) if line.path == ("wait",))
    view = window.layers.list

    def mark(which):
        view.scrollTo(window.layers.model.index(row))
        rect = view.visualRect(window.layers.model.index(row))
        return switch_rect(QRectF(rect), which).center()

    user.press(view.viewport(), mark("shown"))
    assert find(session.owner.root, "wait").style["shown"] is False
    assert not window.layers.model.lines[row].shown
    user.press(view.viewport(), mark("shown"))
    assert find(session.owner.root, "wait").style["shown"] is True
    user.press(view.viewport(), mark("through"))
    assert find(session.owner.root, "wait").style["click-through"] is True


def test_layers_are_found_by_name(window, session, user):
    session.open("boarding")
    session.settle()
    window.do("find-layer")
    assert window.layers.search.hasFocus()
    name = find(session.owner.root, "wait").name
    user.type(name)
    lines = window.layers.model.lines
    assert name in lines[-1].name and lines[0].depth == 0
    assert session.selection.path is not None
    window.layers.search.clear()
    assert len(window.layers.model.lines) > len(lines)


def test_f2_renames_the_selected_part(window, session, user):
    session.open("boarding")
    session.select(("wait",))
    user.wait()
    window.canvas.setFocus()
    user.key(K.Key_F2)
    user.type("Wait here")
    assert find(session.owner.root, "wait").name == "Wait here"


# --- the library ----------------------------------------------------------------------------


def test_the_library_is_searched_and_offers_what_is_new(window, session, user):
    window.library.search.setText("fare")
    assert [entry.name for entry in window.library.model.entries] == ["Fare card"]
    window.library.search.returnPressed.emit()
    assert session.component.name.endswith("Fare card")
    window.library.search.setText("nothing like that")
    assert window.library._hint() == "Nothing here is called that."
    window.library.search.clear()
    titles = [action.text() for action in window.library.new_menu().actions()]
    assert titles[0] == "New component" and any("Expander" in title for title in titles)
    menu = window.library.menu_for("button")
    assert [a.text() for a in menu.actions()] == [
        "Open",
        "Place here",
        "Rename",
        "Copy whole",
        "Remove",
    ]


def test_screens_lie_on_pages(window, session):
    session.edit("page", lambda d: _renamed(d, "help", "Questions/Help"))
    window.library.tabs.choose("Screens")
    session.settle()
    folders = [e.name for e in window.library.model.entries if e.folder]
    assert folders == ["Questions", "This file"]


def _renamed(document, owner, name):
    return rename_owner(document, owner, name)


# --- the tour -------------------------------------------------------------------------------


def test_the_tour_goes_through_the_ten_steps_and_each_can_be_done(look, qtbot, tmp_path):
    desk = Desk(LIGHT, tmp_path)
    window = desk.tour()
    said = []
    window.session.failed.connect(said.append)
    try:
        assert window.tour.isVisible() and len(STEPS) == 10
        for n, step in enumerate(STEPS):
            assert step.title in window.tour.title.text()
            before = window.session.document, window.session.selection
            window.tour.buttons["Do it"].click()
            window.session.settle()
            QApplication.processEvents()
            now = window.session.document, window.session.selection
            assert now != before or n in (7, 8, 9), step.title
            window.tour.buttons["Next"].click()
        assert not window.tour.isVisible() and said == []
        assert window.session.path is None
    finally:
        desk.typefaces.stop()
        window.session._saved = window.session.document
        window.live.stage.stop()
        window.close()
