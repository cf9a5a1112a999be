"""The job of product.md from an empty file, in the real window: by mouse and key, and once
more by keyboard alone. What it comes to is looked at in the document, and in Live."""

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QApplication

from outgrowth.core.color import parse
from outgrowth.core.document.records import walk
from outgrowth.core.document.values import GROW, Size, plain
from outgrowth.core.exchange.native import load
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place, value_at

from .user import ALT, CTRL, SHIFT, User

K = Qt.Key
CORAL = parse("#B8452B")
SEA = parse("#17495A")


@pytest.fixture
def user(desk, qtbot):
    window = desk.new()
    qtbot.addWidget(window, before_close_func=_forget)
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    return User(window)


def _forget(window):
    """Closing asks about unsaved work; a test has none that matters."""
    window.workspace._saved = window.workspace.document


def live_spot(window, *path):
    stage = window.live.stage
    zoom, corner = stage.frame_of()
    rect = next(a.rect for a in locate(*stage.playback.runtime.view(), "") if a.path == path)
    return QPointF(corner.x() + rect.center[0] * zoom, corner.y() + rect.center[1] * zoom)


def named(workspace, name):
    return next(o for o in workspace.document.owners() if o.name == name)


def fill_of(workspace, owner, path, variant):
    return value_at(workspace.document, Place(owner, path, variant), "fill")


def variant(component, **chosen):
    names = {a.name: a for a in component.axes}
    from immutables import Map

    return Map(
        {
            a.id: (a.named(chosen[a.name]).id if a.name in chosen else a.default)
            for a in names.values()
        }
    )


def test_by_mouse_and_key(user, tmp_path):
    window, workspace = user.window, user.workspace
    grid, canvas = window.grid, window.canvas

    # 1. Draw a part: words in a box, an icon beside them; flow, padding, corners, a fill.
    start = window.start
    begin = next(
        b
        for b in start.widget().findChildren(type(window.status.zoom))
        if b.text() == "New component"
    )
    user.press(begin)
    assert workspace.component.name == "Part"
    user.press(window.draw_strip.buttons["text"])
    user.press(grid, grid.rect_of(workspace.selection.variant, ()).center())
    user.type("Board now")
    user.press(window.draw_strip.buttons["icon"])
    user.type("ticket", enter=False)
    user.press(
        window.drawing.icons.list.viewport(),
        window.drawing.icons.list.visualItemRect(window.drawing.icons.list.item(0)).center(),
    )
    workspace.select(())  # the whole, by its line in Layers below
    user.press(
        window.layers.list.viewport(),
        window.layers.list.visualRect(window.layers.model.index(0)).center(),
    )
    fill = window.ledger.row("fill").editor.widget
    user.press(fill.text)
    fill.text.selectAll()
    user.type("#17495A")
    grid.repaint()
    handle = next(h for h in grid.gestures.handles if h.names == ("padding-left",))
    user.pull(grid, handle.zone.center(), handle.zone.center() + QPointF(8 * grid.zoom, 0))
    part = workspace.component
    assert [n.kind for n in part.root.children] == ["text", "shape"]
    assert plain(part.root.children[0].style["content"]) == "Board now"
    assert part.root.style["fill"] == SEA
    assert part.root.style["padding-left"] == 24.0

    # 2. It is a component: instances on two screens follow it.
    for size in ("Phone", "Kiosk"):
        user.key(K.Key_S, ALT)
        user.type(size, enter=False)
        user.press(
            window.drawing.screens.list.viewport(),
            window.drawing.screens.list.visualItemRect(
                window.drawing.screens.list.item(0)
            ).center(),
        )
        assert workspace.screen.name == size
        user.drop("Part", canvas, canvas.rect_of(()).center())
    placed = workspace.screen.root.children[0]
    assert placed.style["component"] == part.id
    user.press(window.library.list.viewport(), _entry(window, "Part"))
    _type_fill(user, "#B8452B")
    kiosk = named(workspace, "Kiosk")
    assert (
        fill_of(workspace, kiosk.id, (placed.id,), workspace.selection.variant.__class__()) == CORAL
    )

    # 3. One differs; that stays, all else follows; then it is put back.
    workspace.open(kiosk.id)
    user.wait()
    user.press(canvas, canvas.rect_of((placed.id,)).center())
    _type_fill(user, "#F2B705")
    row = window.ledger.row("fill")
    assert row.tag.property("changed") is True
    user.press(row.tag)
    back = [b for b in row.findChildren(type(row.tag)) if b.text() == "put back" and b.isVisible()]
    user.press(back[-1])
    assert "fill" not in named(workspace, "Kiosk").root.children[0].style

    # 4. Axes: a kind, hover and press; all the variants in one grid, a reach picked by a variant.
    user.press(window.library.tabs.tabs["Parts"])
    user.press(window.library.list.viewport(), _entry(window, "Part"))
    user.key(K.Key_A, ALT)
    _type_fill(user, "#FFFFFF")
    user.key(K.Key_G, ALT)
    assert len(grid.cells) == 6
    part = workspace.component
    quiet = fill_of(workspace, part.id, (), variant(part, Kind="Quiet"))
    assert quiet == parse("#FFFFFF")
    hover = fill_of(workspace, part.id, (), variant(part, State="hover"))
    assert hover not in (CORAL, SEA)

    # 5. What differs from place to place: the words, and whether the icon shows.
    words, icon = part.root.children
    user.press(grid, grid.rect_of(workspace.selection.variant, (words.id,)).center())
    user.key(K.Key_W, ALT)
    user.press(grid, grid.rect_of(workspace.selection.variant, (icon.id,)).center())
    user.key(K.Key_H, ALT)
    assert [p.kind for p in workspace.component.properties] == ["text", "switch"]

    # 6. Nest: a card that holds the button; the nested part is exchanged in one gesture.
    user.key(K.Key_C, ALT)
    user.drop("Part", grid, grid.rect_of(workspace.selection.variant, ()).center())
    card = workspace.component
    held = card.root.children[0]
    assert held.style["component"] == part.id
    user.key(K.Key_C, ALT)
    user.key(K.Key_I, ALT)
    user.type("anchor")
    mark = workspace.component
    workspace.open(card.id)
    user.wait()
    user.drop(mark.name, grid, grid.rect_of(workspace.selection.variant, (held.id,)).center())
    assert workspace.component.root.children[0].style["component"] == mark.id
    user.key(K.Key_Z, CTRL)
    assert workspace.component.root.children[0].style["component"] == part.id

    # 7. Elastic: the button grows with its card.
    user.press(grid, grid.rect_of(workspace.selection.variant, (held.id,)).center())
    user.press(window.ledger.row("width").editor.widget.modes.button("grow"))
    assert workspace.component.root.children[0].style["width"] == GROW

    # 8. A state of its own, and what leads there.
    workspace.open(part.id)
    user.wait()
    user.key(K.Key_A, ALT)
    chosen = workspace.component.axes[-1]
    workspace.select(())
    user.key(K.Key_F4)
    user.wait(60)
    graph = window.cue_board.graph
    boxes = [graph.box_of(chosen.id, value.id) for value in chosen.values]
    knob = QPointF(boxes[0].right() - 2, boxes[0].center().y())
    user.pull(graph, knob, boxes[1].center())
    cue = workspace.component.behaviour.cues[-1]
    assert (cue.changes[0].name, cue.changes[0].value) == (chosen.id, chosen.values[1].id)
    user.key(K.Key_F4)

    # 9. Try it where it lives: every instance hovers, and a tap sets the state.
    phone = named(workspace, "Phone")
    workspace.open(phone.id)
    user.wait(60)
    stage = window.live.stage
    at = live_spot(window, phone.root.children[0].id)
    user.hover(stage, at)
    runtime = stage.playback.runtime
    instance = (phone.root.children[0].id,)
    states = next(a for a in workspace.document.components[part.id].axes if a.driver == "pointer")
    assert runtime.states[instance, states.id] == "hover"
    user.press(stage, at)
    assert runtime.states[instance, chosen.id] == chosen.values[1].id

    # 10. Hand it over: saved, and on the clipboard as itself, as SVG and as a picture.
    user.press(canvas, canvas.rect_of(instance).center())
    user.key(K.Key_C, CTRL)
    board = QApplication.clipboard().mimeData()
    assert board.hasFormat("image/svg+xml") and board.hasFormat("image/png")
    path = tmp_path / "first.outgrowth.json"
    user.in_dialog(path, lambda: user.key(K.Key_S, CTRL))
    assert load(path) == workspace.document and not workspace.unsaved


def _entry(window, name):
    library = window.library
    row = next(n for n, e in enumerate(library.model.entries) if e.name == name)
    index = library.model.index(row)
    library.list.scrollTo(index)
    return library.list.visualRect(index).center()


def _type_fill(user, color):
    fill = user.window.ledger.row("fill").editor.widget
    user.window.ledger.ensureWidgetVisible(fill)
    user.press(fill.text)
    fill.text.selectAll()
    user.type(color)


def test_by_keyboard_alone(user, tmp_path):
    workspace, window = user.workspace, user.window

    # 1. Draw a part.
    user.key(K.Key_C, ALT)
    user.key(K.Key_T, ALT)
    user.type("Board now")
    user.key(K.Key_I, ALT)
    user.type("ticket")
    user.key(K.Key_Escape)
    user.find("fill value")
    user.type("#17495A")
    user.find("gap value")
    user.type("12")
    part = workspace.component
    assert [n.kind for n in part.root.children] == ["text", "shape"]
    assert part.root.style["fill"] == SEA and part.root.style["gap"] == 12.0
    words, icon = part.root.children

    # 2. Two screens with instances; the component changes, both follow.
    for size in ("phone", "kiosk"):
        user.key(K.Key_S, ALT)
        user.type(size)
        user.find("place part")
    kiosk = workspace.screen
    placed = kiosk.root.children[0]
    assert placed.style["component"] == part.id

    # 3. One differs, and is put back.
    user.find("fill value")
    user.type("#F2B705")
    assert workspace.screen.root.children[0].style["fill"] == parse("#F2B705")
    user.find("put the whole")
    assert "fill" not in workspace.screen.root.children[0].style

    # 4. A kind, hover and press; another variant by arrow key, with its reach.
    user.find("part component")
    assert workspace.component is workspace.document.components[part.id]
    user.key(K.Key_A, ALT)
    user.find("fill value")
    user.type("#FFFFFF")
    user.key(K.Key_G, ALT)
    part = workspace.component
    assert fill_of(workspace, part.id, (), variant(part, Kind="Quiet")) == parse("#FFFFFF")
    assert fill_of(workspace, part.id, (), variant(part, State="press")) != SEA
    while QApplication.focusWidget() is not window.grid:
        user.key(K.Key_F6)
    before = workspace.selection.variant
    user.key(K.Key_Right)
    assert workspace.selection.variant != before and workspace.reach
    user.key(K.Key_Up, ALT)
    assert len(workspace.reach) == 1

    # 5. Words and icon are opened.
    user.key(K.Key_Return)
    assert workspace.selection.path == (words.id,)
    user.key(K.Key_W, ALT)
    user.key(K.Key_PageDown)
    assert workspace.selection.path == (icon.id,)
    user.key(K.Key_H, ALT)
    assert [p.kind for p in workspace.component.properties] == ["text", "switch"]

    # 6. Nest it, exchange it, and back.
    user.key(K.Key_C, ALT)
    card = workspace.component
    user.find("place part here")
    assert workspace.component.root.children[0].style["component"] == part.id
    user.key(K.Key_C, ALT)
    user.key(K.Key_I, ALT)
    user.type("anchor")
    mark = workspace.component
    user.find(f"{card.name} component")
    user.key(K.Key_F6) if QApplication.focusWidget() is not window.grid else None
    while QApplication.focusWidget() is not window.grid:
        user.key(K.Key_F6)
    user.key(K.Key_Return)
    user.find(f"exchange for {mark.name}")
    assert workspace.component.root.children[0].style["component"] == mark.id
    user.key(K.Key_Z, CTRL)

    # 7. Elastic.
    user.find("width value")
    grow = window.ledger.row("width").editor.widget.modes.button("grow")
    for _ in range(4):
        if QApplication.focusWidget() is grow:
            break
        user.key(K.Key_Right)
    user.key(K.Key_Space)
    assert workspace.component.root.children[0].style["width"] == Size("grow", 1.0)

    # 8. An axis, and a cue that sets it.
    user.find("part component")
    user.key(K.Key_A, ALT)
    user.find("add a cue")
    cue = workspace.component.behaviour.cues[-1]
    assert cue.changes
    user.key(K.Key_F4)

    # 9. Live, by keys: the focus goes to the part, Space presses it.
    user.find("phone screen")
    while QApplication.focusWidget() is not window.live.stage:
        user.key(K.Key_F6)
    assert window.live.stage.playback.runtime.shown_owner == workspace.screen.id

    # 10. Save and copy.
    while QApplication.focusWidget() is not window.canvas:
        user.key(K.Key_F6, SHIFT)
    user.key(K.Key_Return)
    user.key(K.Key_Return)
    user.key(K.Key_C, CTRL)
    assert QApplication.clipboard().mimeData().hasFormat("image/svg+xml")
    path = tmp_path / "second.outgrowth.json"
    user.in_dialog(path, lambda: user.key(K.Key_S, CTRL))
    assert load(path) == workspace.document
    assert not [deed for deed in user.done if deed.startswith(("press", "pull", "drag"))]


def test_the_first_button_takes_fewer_than_forty(user):
    """A button with words, an icon that can be switched, hover and press in two kinds, on a
    screen, running in Live: every press, key, chord and drag counted, letters too."""
    window, workspace = user.window, user.workspace
    user.key(K.Key_C, ALT)
    user.key(K.Key_T, ALT)
    user.type("Book", enter=False)  # what comes next keeps the words
    user.key(K.Key_I, ALT)
    user.type("anc")
    user.key(K.Key_H, ALT)
    user.key(K.Key_Escape)
    user.key(K.Key_G, ALT)
    user.key(K.Key_A, ALT)
    fill = window.ledger.row("fill").editor.widget
    user.press(fill.text, double=True)
    fill.text.selectAll()
    user.type("#FFF")
    user.key(K.Key_S, ALT)
    user.key(K.Key_Return)
    user.drop("Part", window.canvas, window.canvas.rect_of(()).center())

    part = named(workspace, "Part")
    assert [p.kind for p in part.properties] == ["switch"]
    assert len(part.axes) == 2
    looks = {
        (kind, state): fill_of(workspace, part.id, (), variant(part, Kind=kind, State=state))
        for kind in ("Main", "Quiet")
        for state in ("rest", "hover", "press")
    }
    assert len(set(looks.values())) == 6
    instance = workspace.screen.root.children[0]
    assert instance.style["component"] == part.id
    user.wait(60)
    count = len(user.done)
    user.hover(window.live.stage, live_spot(window, instance.id))
    assert "hover" in window.live.stage.playback.runtime.states.values()
    assert len(list(walk(part.root))) == 3
    assert count <= 24, (count, user.done)
