"""What you see is what you change: jobs at a reach, as a person does them at the window, by mouse
and keys, with the presses that each takes."""

import pytest
from immutables import Map
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QApplication, QPushButton

from outgrowth.core.document.records import find, walk
from outgrowth.core.document.values import FromProperty, Shift
from outgrowth.core.document.variants import offered, variants
from outgrowth.core.paint import draw
from outgrowth.core.paint.recorder import record
from outgrowth.core.resolve.ladder import Place, inspect, value_at
from outgrowth.workspace.commands import style_commands
from tests.app.user import ALT, SHIFT, User

KEY = Qt.Key


@pytest.fixture
def user(window):
    QApplication.processEvents()
    return User(window)


@pytest.fixture
def drawn(workspace):
    """What is drawn of each offered variant of a component, as texts."""

    def view(owner, variant):
        return workspace.engine.view(workspace.document, owner, variant)

    def every(owner):
        component = workspace.document.components[owner]
        return {
            variant: [str(mark) for mark in record(draw(*view(owner, variant)))]
            for variant in variants(component)
            if offered(component, variant)
        }

    return every


def at(window, variant, path):
    """Where a part of a variant lies on the grid."""
    return window.grid.rect_of(Map(variant), path).center()


def changed(before, after):
    """The variants that are drawn otherwise."""
    return {variant for variant, was in before.items() if after[variant] != was}


def test_an_icon_is_another_one_in_one_state(user, window, workspace, drawn):
    workspace.open("icon-button")
    before = drawn("icon-button")
    hover = Map({workspace.component.axes[0].id: "hover"})
    window.library.tabs.choose("Parts")
    spot = at(window, hover, ("icon",))
    user.press(window.grid, spot)
    assert dict(workspace.reach) == dict(hover), "the variant that is pressed suggests its reach"
    user.drop("Clock", window.grid, at(window, hover, ("icon",)))
    assert workspace.undo_name == "exchange icon for Clock, State: hover"
    assert changed(before, drawn("icon-button")) == {hover}
    assert len(user.done) == 2
    place = Place("icon-button", ("icon",), hover)
    assert value_at(workspace.document, place, "component") == "icon-clock"
    user.key(KEY.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert drawn("icon-button") == before


def test_a_drop_means_the_inner_instance_and_with_shift_the_outer(user, window, workspace):
    workspace.open("fares")
    window.library.tabs.choose("Parts")
    user.wait(100)
    card = ("fare-0",) if find(workspace.screen.root, "fare-0") else ("fare-1",)
    inner = window.canvas.rect_of((*card, "icon")).center()
    user.drop("Clock", window.canvas, inner)
    assert workspace.undo_name == "exchange icon for Clock"
    icon = next(
        p for p in workspace.document.components["fare-card"].properties if p.kind == "slot"
    )
    row = inspect(workspace.document, Place("fares", card))
    assert row.value("choice:" + icon.id) == "icon-clock", "the slot's own choice"
    user.key(KEY.Key_Z, Qt.KeyboardModifier.ControlModifier)
    user.drop("Notice", window.canvas, inner, held=SHIFT)
    assert value_at(workspace.document, Place("fares", card), "component") == "notice"


def test_several_nested_parts_take_one_drop_and_the_others_are_offered(user, window, workspace):
    workspace.open("navigation")
    window.library.tabs.choose("Parts")
    entries = [("entry-0", "icon"), ("entry-1", "icon")]
    workspace.select_all(tuple(entries))
    variant = dict(workspace.selection.variant)
    user.drop("Clock", window.grid, at(window, variant, entries[1]))
    assert workspace.undo_name.startswith("exchange 2 parts for Clock")
    for entry, _ in entries:
        assert value_at(workspace.document, Place("navigation", (entry, "icon")), "component") == (
            "icon-clock"
        )
    workspace.open("fares")
    screen = workspace.screen
    chips = [n.id for n in walk(screen.root) if n.style.get("component") == "chip"]
    workspace.select((chips[0],))
    user.find("exchange for toggle")
    assert f"the {len(chips) - 1} others like it" in window.status.offered.text()
    user.key(KEY.Key_Return, ALT)
    left = [n for n in walk(workspace.screen.root) if n.style.get("component") == "chip"]
    assert not left


def test_a_part_is_taken_away_in_one_variant_of_eighteen(user, window, workspace, drawn):
    workspace.open("day")
    before = drawn("day")
    assert len(before) == 18
    component = workspace.component
    target = Map({a.id: a.values[1].id for a in component.axes})
    user.press(window.grid, at(window, target, ("boats",)))
    user.key(KEY.Key_Delete)
    assert changed(before, drawn("day")) == {target}
    assert workspace.undo_name == "remove boats, Boats: full, Chosen: yes, State: hover"
    assert window.status.offered.isVisible()
    assert window.status.offered.text() == "Remove it everywhere"
    assert len(user.done) == 2
    user.press(window.status.offered)
    assert find(workspace.component.root, "boats") is None
    assert workspace.undo_name == "remove boats, in all 18 variants"
    user.key(KEY.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert drawn("day") == before


def test_a_part_is_drawn_in_one_variant(user, window, workspace, drawn):
    workspace.open("chip")
    before = drawn("chip")
    target = Map({workspace.component.axes[0].id: "yes", workspace.component.axes[1].id: "rest"})
    user.press(window.grid, at(window, target, ("label",)))
    user.key(KEY.Key_E, ALT)
    user.press(window.grid, at(window, target, ()) + QPointF(0, 0))
    assert changed(before, drawn("chip")) == {
        v for v in before if v[workspace.component.axes[0].id] == "yes"
    }
    assert workspace.undo_name == "draw an ellipse, Selected: yes"
    assert "Show it everywhere" in window.status.offered.text()
    user.key(KEY.Key_Return, ALT)
    assert changed(before, drawn("chip")) == set(before)
    assert workspace.undo_name == "show ellipse in all 6 variants"


def test_a_hover_colour_is_opened_and_tied_to_two_parts(user, window, workspace, drawn):
    workspace.open("button")
    before = drawn("button")
    kind, state = (axis.id for axis in workspace.component.axes)
    hover = Map({kind: "primary", state: "hover"})
    workspace.select((), hover)
    workspace.set_reach(Map({state: "hover"}))
    said = value_of_rule(workspace, ("button",), "fill", Map({state: "hover"}))
    assert isinstance(said, Shift)
    row = window.ledger.row("fill")
    row.tag.click()
    user.wait()
    pressed(row, "let instances set it")
    user.wait()
    prop = workspace.component.properties[-1]
    assert (prop.name, prop.default) == ("Button fill", said)
    assert drawn("button") == before, "the resting look stays, and hover is darkened once"
    user.press(window.grid, at(window, hover, ("label",)))
    workspace.set_reach(Map({state: "hover"}))
    user.find("tie the colour to button fill")
    assert value_of_rule(workspace, ("label",), "color", Map({state: "hover"})) == FromProperty(
        prop.id
    )
    assert workspace.undo_name == "tie colour to Button fill, State: hover"
    assert {v[state] for v in changed(before, drawn("button"))} == {"hover"}


def value_of_rule(workspace, node, name, when):
    rules = workspace.component.rules
    return next(
        (r.value for r in rules if (r.node, r.property, r.when) == (node, name, when)), None
    )


def pressed(row, text):
    next(b for b in row.findChildren(QPushButton) if b.text() == text).click()


def test_a_row_of_four_is_put_into_a_box_and_goes_on_spreading(user, window, workspace, drawn):
    workspace.open("navigation")
    before = drawn("navigation")
    justify = workspace.component.root.style.get("justify")
    user.press(
        window.grid,
        QPointF(window.grid.selected_cell().rect.x + 3, window.grid.selected_cell().rect.y + 3),
    )
    workspace.select(())
    user.find("put all that the box holds")
    box = workspace.component.root.children[0]
    assert [child.id for child in box.children] == ["entry-0", "entry-1", "entry-2", "entry-3"]
    assert box.style.get("justify") == justify
    assert not isinstance(box.style.get("gap"), float) or box.style["gap"] == (
        workspace.component.root.style.get("gap", 0.0)
    ), "no measured gap"
    assert drawn("navigation") == before


def test_the_component_as_a_whole_is_put_into_a_box(user, window, workspace, drawn):
    workspace.open("notice")
    before = drawn("notice")
    user.key(KEY.Key_F8)
    assert workspace.component.root.id != "notice"
    assert workspace.component.root.children[0].id == "notice"
    assert workspace.undo_name == "put Notice into a box"
    after = drawn("notice")
    assert {v: len(marks) for v, marks in after.items()} == {v: len(m) for v, m in before.items()}
    assert after == before


@pytest.mark.parametrize("pin", ["start", "end", "both", "center", "scale"])
def test_whatever_it_is_pinned_to_an_ellipse_stands_where_it_stood(user, window, workspace, pin):
    workspace.open("boarding")
    root = workspace.screen.root
    workspace.select((root.id,) if root.kind != "box" else ())
    user.key(KEY.Key_E, ALT)
    user.pull(
        window.canvas,
        QPointF(window.canvas.width() / 2, 60),
        QPointF(window.canvas.width() / 2 + 60, 110),
    )
    path = workspace.selection.path
    workspace.select(path)

    style_commands.set_style(workspace, {"floating": True})
    user.wait()
    before = window.canvas.rect_of(path)
    style_commands.set_style(workspace, {"pin-x": pin})
    style_commands.set_style(workspace, {"pin-y": pin})
    user.wait()
    after = window.canvas.rect_of(path)
    for a, b in zip(before.getRect(), after.getRect(), strict=True):
        assert abs(a - b) < 0.1, (pin, before, after)
    title = window.ledger.row("x").editor.label.text()
    assert (
        title
        == {
            "start": "X · left",
            "both": "X · left",
            "scale": "X · left",
            "center": "X · middle",
            "end": "X · unused",
        }[pin]
    )
    inspection = inspect(workspace.document, workspace.place)
    assert inspection.value("pin-x") == pin


def test_a_layer_pulled_into_another_box_is_told_before_and_after(user, window, workspace, drawn):
    workspace.open("fare-card")
    before = drawn("fare-card")
    axis = workspace.component.axes[0].id
    best = Map({axis: "yes"})
    user.press(window.grid, at(window, best, ("about",)))
    model = window.layers.model
    rows = {line.path: n for n, line in enumerate(model.lines)}
    data = model.mimeData([model.index(rows[("about",)])])
    top = rows[("top",)]
    assert model.move_told(data, -1, top) == ("in both variants · with Alt only in Best value: yes")
    assert model.move_told(data, rows[("buy",)], None) == "Best value: yes", "its own box"
    model.copies_wanted = True
    assert model.move_told(data, -1, top) == "a twin, only in Best value: yes"
    move = Qt.DropAction.MoveAction
    model.dropMimeData(data, move, -1, -1, model.index(top))
    assert changed(before, drawn("fare-card")) == {best}
    assert workspace.undo_name == "move about, Best value: yes"
    workspace.undo()
    model.dropMimeData(data, move, -1, -1, model.index(top))
    assert workspace.undo_name == "move about, in both variants"
    assert changed(before, drawn("fare-card")) == set(before)
    user.press(window.status.offered)
    assert changed(before, drawn("fare-card")) == {best}, "the twin instead"


def test_inside_an_instance_a_part_is_hidden_and_nothing_can_be_drawn(user, window, workspace):
    workspace.open("fares")
    screen = workspace.document.screens["fares"]
    card = next(n.id for n in walk(screen.root) if n.style.get("component") == "fare-card")
    workspace.select((card, "about"))
    window.canvas.setFocus()
    user.key(KEY.Key_Delete)
    assert value_at(workspace.document, Place("fares", (card, "about")), "shown") is False
    assert value_at(workspace.document, Place("fare-card", ("about",)), "shown") is True
    assert window.status.offered.text() == "Go to Fare card"
    document = workspace.document
    workspace.select((card, "top"))
    user.find("place chip here")
    assert workspace.document is document
    assert "hold the same parts" in window.status.message.text()
    user.press(window.status.offered)
    assert workspace.component.id == "fare-card"


def test_words_typed_for_some_variants_say_that_instances_own_do_not_show(user, window, workspace):
    workspace.open("fare-card")
    best = Map({workspace.component.axes[0].id: "yes"})
    user.press(window.grid, at(window, best, ("price",)))
    user.key(KEY.Key_F3)
    user.type("11.00")
    assert workspace.undo_name == "words of price, Best value: yes"
    assert window.status.offered.text() == "Set what it is at first instead"
    user.press(window.status.offered)
    assert workspace.undo_name == "set what Price is at first, in both variants"
    price = next(p for p in workspace.component.properties if p.name == "Price")
    assert price.default[0].text == "11.00"


def test_the_ledger_leads_to_what_an_instance_can_follow_instead(user, window, workspace):
    workspace.open("fares")
    screen = workspace.document.screens["fares"]
    card = next(n.id for n in walk(screen.root) if n.style.get("component") == "fare-card")
    workspace.select((card, "icon"))
    user.wait()
    name = next(b for b in window.ledger.findChildren(QPushButton) if b.text().endswith(" ▾"))
    user.press(name)
    offered = [row.component for row in window.gallery._fillings.rows]
    slot = next(
        p for p in workspace.document.components["fare-card"].properties if p.kind == "slot"
    )
    followed = value_at(workspace.document, Place("fares", (card, "icon")), "component")
    listed = [
        component for component in slot.shortlist if component in workspace.document.components
    ]
    assert listed and offered[: len(listed)] == listed, "the shortlist first"
    assert window.gallery.current == followed
    user.type("clock")
    assert workspace.undo_name == "exchange icon for Clock"
