"""The job of product.md from an empty file, in the real window: by mouse and key, and once
more by keyboard alone. What it comes to is looked at in the document, and in Live.

Each of the ten steps is a test: it begins with the document that the steps before it made, which
one walk through all of them leaves behind.
"""

import pytest
from immutables import Map
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QApplication

from outgrowth.core.color import parse
from outgrowth.core.document.records import walk
from outgrowth.core.document.values import GROW, Size, plain
from outgrowth.core.exchange.native import load
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place, value_at

from .user import ALT, CTRL, User

K = Qt.Key
CORAL = parse("#B8452B")
SEA = parse("#17495A")


@pytest.fixture
def user_of(desk, qtbot):
    """A user before a window with a document."""

    def user_of(document):
        window = desk.new() if document is None else desk.show(document, None)
        qtbot.addWidget(window, before_close_func=_forget)
        window.activateWindow()
        qtbot.waitUntil(window.isActiveWindow)
        return User(window)

    return user_of


@pytest.fixture
def user(user_of):
    return user_of(None)


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
    return Map(
        {
            a.id: (a.named(chosen[a.name]).id if a.name in chosen else a.default)
            for a in names.values()
        }
    )


def part_in(workspace):
    """The first component: what is drawn in the first step."""
    return named(workspace, "Part")


def card_in(workspace):
    """The component that holds the first one."""
    part = part_in(workspace)
    return next(c for c in workspace.document.in_order() if _holds(c, part))


def _holds(owner, component):
    return any(n.style.get("component") == component.id for n in owner.root.children)


def placed_in(workspace, name="Kiosk"):
    """The instance that stands on a screen."""
    return named(workspace, name).root.children[0]


def listed(user, name):
    """Opens a component by its line in the Library."""
    window = user.window
    user.press(window.library.tabs.tabs["Parts"])
    user.press(window.library.list.viewport(), _entry(window, name))


def opened(user, owner):
    user.workspace.open(owner.id)
    user.wait()


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


def focused(user, widget):
    """Goes on by F6 until a widget has the focus."""
    while QApplication.focusWidget() is not widget:
        user.key(K.Key_F6)


def until(user, condition):
    """What a condition gives as soon as it is something; panels follow a moment later."""
    for _ in range(100):
        given = condition()
        if given:
            return given
        user.wait(20)
    raise AssertionError("it never came")


def _put_back(row):
    buttons = row.findChildren(type(row.tag))
    return [button for button in buttons if button.text() == "put back" and button.isVisible()]


def picked_by_keys(user, bench, child):
    """The first child of the whole is selected, wherever the step before left off."""
    user.workspace.select(())
    focused(user, bench)
    for _ in range(3):
        if user.workspace.selection.path != (child.id,):
            user.key(K.Key_Return)
    assert user.workspace.selection.path == (child.id,)


class ByMouse:
    """The ten steps by mouse and key."""

    @staticmethod
    def draw_a_part(user, tmp_path):
        """Words in a box, an icon beside them; flow, padding, corners, a fill."""
        window, workspace, grid = user.window, user.workspace, user.window.grid
        buttons = window.start.widget().findChildren(type(window.status.zoom))
        user.press(next(b for b in buttons if b.text() == "New component"))
        assert workspace.component.name == "Part"
        user.press(window.draw_strip.buttons["text"])
        user.press(grid, grid.rect_of(workspace.selection.variant, ()).center())
        user.type("Board now")
        user.press(window.draw_strip.buttons["icon"])
        user.type("ticket", enter=False)
        icons = window.drawing.icons.list
        user.press(icons.viewport(), icons.visualItemRect(icons.item(0)).center())
        workspace.select(())  # the whole, by its line in Layers below
        layers = window.layers
        user.press(layers.list.viewport(), layers.list.visualRect(layers.model.index(0)).center())
        _type_fill(user, "#17495A")
        grid.repaint()
        handle = next(h for h in grid.gestures.handles if h.names == ("padding-left",))
        user.pull(grid, handle.zone.center(), handle.zone.center() + QPointF(8 * grid.zoom, 0))
        part = workspace.component
        assert [n.kind for n in part.root.children] == ["text", "shape"]
        assert plain(part.root.children[0].style["content"]) == "Board now"
        assert part.root.style["fill"] == SEA
        assert part.root.style["padding-left"] == 24.0

    @staticmethod
    def place_instances(user, tmp_path):
        """Instances on two screens follow the component."""
        window, workspace, canvas = user.window, user.workspace, user.window.canvas
        for size in ("Phone", "Kiosk"):
            user.key(K.Key_S, ALT)
            user.type(size, enter=False)
            screens = window.drawing.screens.list
            user.press(screens.viewport(), screens.visualItemRect(screens.item(0)).center())
            assert workspace.screen.name == size
            user.drop("Part", canvas, canvas.rect_of(()).center())
        placed = placed_in(workspace)
        assert placed.style["component"] == part_in(workspace).id
        user.press(window.library.list.viewport(), _entry(window, "Part"))
        _type_fill(user, "#B8452B")
        kiosk = named(workspace, "Kiosk")
        assert fill_of(workspace, kiosk.id, (placed.id,), Map()) == CORAL

    @staticmethod
    def let_one_differ(user, tmp_path):
        """It stays, all else follows; then it is put back."""
        window, workspace, canvas = user.window, user.workspace, user.window.canvas
        opened(user, named(workspace, "Kiosk"))
        user.press(canvas, canvas.rect_of((placed_in(workspace).id,)).center())
        _type_fill(user, "#F2B705")
        until(user, lambda: window.ledger.row("fill").tag.property("changed") is True)
        user.press(window.ledger.row("fill").tag)
        user.press(until(user, lambda: _put_back(window.ledger.row("fill")))[-1])
        assert "fill" not in placed_in(workspace).style

    @staticmethod
    def give_axes(user, tmp_path):
        """A kind, hover and press; all variants in one grid, a reach picked by a variant."""
        workspace, grid = user.workspace, user.window.grid
        listed(user, "Part")
        user.key(K.Key_A, ALT)
        user.key(K.Key_Return)
        _type_fill(user, "#FFFFFF")
        user.key(K.Key_G, ALT)
        assert len(grid.cells) == 6
        part = workspace.component
        quiet = fill_of(workspace, part.id, (), variant(part, Kind="Quiet"))
        assert quiet == parse("#FFFFFF")
        hover = fill_of(workspace, part.id, (), variant(part, State="hover"))
        assert hover not in (CORAL, SEA)

    @staticmethod
    def open_what_differs(user, tmp_path):
        """The words, and whether the icon shows."""
        workspace, grid = user.workspace, user.window.grid
        listed(user, "Part")
        words, icon = part_in(workspace).root.children
        user.press(grid, grid.rect_of(workspace.selection.variant, (words.id,)).center())
        user.key(K.Key_W, ALT)
        user.press(grid, grid.rect_of(workspace.selection.variant, (icon.id,)).center())
        user.key(K.Key_H, ALT)
        assert [p.kind for p in workspace.component.properties] == ["text", "switch"]

    @staticmethod
    def nest(user, tmp_path):
        """A card that holds the part; the nested part is exchanged in one gesture."""
        workspace, grid = user.workspace, user.window.grid
        part = part_in(workspace)
        user.key(K.Key_C, ALT)
        user.drop("Part", grid, grid.rect_of(workspace.selection.variant, ()).center())
        card = workspace.component
        held = card.root.children[0]
        assert held.style["component"] == part.id
        user.key(K.Key_C, ALT)
        user.key(K.Key_I, ALT)
        user.type("anchor")
        mark = workspace.component
        opened(user, card)
        user.drop(mark.name, grid, grid.rect_of(workspace.selection.variant, (held.id,)).center())
        assert workspace.component.root.children[0].style["component"] == mark.id
        user.key(K.Key_Z, CTRL)
        assert workspace.component.root.children[0].style["component"] == part.id

    @staticmethod
    def make_it_elastic(user, tmp_path):
        """The part grows with its card."""
        window, workspace, grid = user.window, user.workspace, user.window.grid
        opened(user, card_in(workspace))
        held = workspace.component.root.children[0]
        user.press(grid, grid.rect_of(workspace.selection.variant, (held.id,)).center())
        user.press(window.ledger.row("width").editor.widget.modes.button("grow"))
        assert workspace.component.root.children[0].style["width"] == GROW

    @staticmethod
    def give_a_state(user, tmp_path):
        """A state of its own, and what leads there."""
        workspace = user.workspace
        opened(user, part_in(workspace))
        user.key(K.Key_A, ALT)
        user.key(K.Key_Return)
        chosen = workspace.component.axes[-1]
        workspace.select(())
        user.key(K.Key_F4)
        user.wait(60)
        graph = user.window.cue_board.graph
        boxes = [graph.box_of(chosen.id, value.id) for value in chosen.values]
        knob = QPointF(boxes[0].right() - 2, boxes[0].center().y())
        user.pull(graph, knob, boxes[1].center())
        cue = workspace.component.behaviour.cues[-1]
        assert (cue.changes[0].name, cue.changes[0].value) == (chosen.id, chosen.values[1].id)
        user.key(K.Key_F4)

    @staticmethod
    def try_it(user, tmp_path):
        """Every instance hovers, and a tap sets the state."""
        workspace, stage = user.workspace, user.window.live.stage
        opened(user, named(workspace, "Phone"))
        user.wait(60)
        part, instance = part_in(workspace), (placed_in(workspace, "Phone").id,)
        at = live_spot(user.window, *instance)
        states = next(axis for axis in part.axes if axis.driver == "pointer")
        runtime = stage.playback.runtime

        def hovers():
            # A window system that is late may say that the pointer went, so it moves again.
            for point in (at, at + QPointF(1, 0)):
                user.hover(stage, point)
            return runtime.states.get((instance, states.id)) == "hover"

        until(user, hovers)
        user.press(stage, at)
        chosen = part.axes[-1]
        until(user, lambda: runtime.states.get((instance, chosen.id)) == chosen.values[1].id)

    @staticmethod
    def hand_it_over(user, tmp_path):
        """Saved, and on the clipboard as itself, as SVG and as a picture."""
        workspace, canvas = user.workspace, user.window.canvas
        opened(user, named(workspace, "Phone"))
        user.press(canvas, canvas.rect_of((placed_in(workspace, "Phone").id,)).center())
        user.key(K.Key_C, CTRL)
        board = QApplication.clipboard().mimeData()
        assert board.hasFormat("image/svg+xml") and board.hasFormat("image/png")
        path = tmp_path / "first.outgrowth.json"
        user.in_dialog(path, lambda: user.key(K.Key_S, CTRL))
        assert load(path) == workspace.document and not workspace.unsaved


class ByKeys:
    """The ten steps by keyboard alone."""

    @staticmethod
    def draw_a_part(user, tmp_path):
        """The same part, from memory."""
        workspace = user.workspace
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

    @staticmethod
    def place_instances(user, tmp_path):
        """Two screens with instances."""
        workspace = user.workspace
        user.find("part component")
        for size in ("phone", "kiosk"):
            user.key(K.Key_S, ALT)
            user.type(size)
            user.find("place part")
        placed = workspace.screen.root.children[0]
        assert placed.style["component"] == part_in(workspace).id

    @staticmethod
    def let_one_differ(user, tmp_path):
        """One differs, and is put back."""
        workspace, canvas = user.workspace, user.window.canvas
        user.find("kiosk screen")
        picked_by_keys(user, canvas, placed_in(workspace))
        user.find("fill value")
        user.type("#F2B705")
        assert workspace.screen.root.children[0].style["fill"] == parse("#F2B705")
        user.find("put the whole")
        assert "fill" not in workspace.screen.root.children[0].style

    @staticmethod
    def give_axes(user, tmp_path):
        """A kind, hover and press; another variant by arrow key, with its reach."""
        window, workspace = user.window, user.workspace
        user.find("part component")
        assert workspace.component is part_in(workspace)
        user.key(K.Key_A, ALT)
        user.type("Kind: Main, Quiet")
        user.find("fill value")
        user.type("#FFFFFF")
        user.key(K.Key_G, ALT)
        part = workspace.component
        assert fill_of(workspace, part.id, (), variant(part, Kind="Quiet")) == parse("#FFFFFF")
        assert fill_of(workspace, part.id, (), variant(part, State="press")) != SEA
        focused(user, window.grid)
        before = workspace.selection.variant
        user.key(K.Key_Right)
        assert workspace.selection.variant != before and workspace.reach
        user.key(K.Key_Up, ALT)
        assert len(workspace.reach) == 1

    @staticmethod
    def open_what_differs(user, tmp_path):
        """Words and icon are opened."""
        workspace = user.workspace
        user.find("part component")
        words, icon = part_in(workspace).root.children
        picked_by_keys(user, user.window.grid, words)
        user.key(K.Key_W, ALT)
        user.key(K.Key_PageDown)
        assert workspace.selection.path == (icon.id,)
        user.key(K.Key_H, ALT)
        assert [p.kind for p in workspace.component.properties] == ["text", "switch"]

    @staticmethod
    def nest(user, tmp_path):
        """Nest it, exchange it, and back."""
        workspace, grid = user.workspace, user.window.grid
        part = part_in(workspace)
        user.key(K.Key_C, ALT)
        card = workspace.component
        user.find("place part here")
        assert workspace.component.root.children[0].style["component"] == part.id
        user.key(K.Key_C, ALT)
        user.key(K.Key_I, ALT)
        user.type("anchor")
        mark = workspace.component
        user.find(f"{card.name} component")
        picked_by_keys(user, grid, workspace.component.root.children[0])
        user.find(f"exchange for {mark.name}")
        assert workspace.component.root.children[0].style["component"] == mark.id
        user.key(K.Key_Z, CTRL)

    @staticmethod
    def make_it_elastic(user, tmp_path):
        """It grows with its card."""
        window, workspace = user.window, user.workspace
        user.find(f"{card_in(workspace).name} component")
        picked_by_keys(user, window.grid, card_in(workspace).root.children[0])
        user.find("width value")
        grow = window.ledger.row("width").editor.widget.modes.button("grow")
        for _ in range(4):
            if QApplication.focusWidget() is grow:
                break
            user.key(K.Key_Right)
        user.key(K.Key_Space)
        assert workspace.component.root.children[0].style["width"] == Size("grow", 1.0)

    @staticmethod
    def give_a_state(user, tmp_path):
        """An axis, and a cue that sets it."""
        workspace = user.workspace
        user.find("part component")
        user.key(K.Key_A, ALT)
        user.find("add a cue")
        assert workspace.component.behaviour.cues[-1].changes
        user.key(K.Key_F4)

    @staticmethod
    def try_it(user, tmp_path):
        """The focus goes to Live, which runs the screen."""
        window, workspace = user.window, user.workspace
        user.find("phone screen")
        focused(user, window.live.stage)
        assert window.live.stage.playback.runtime.shown_owner == workspace.screen.id

    @staticmethod
    def hand_it_over(user, tmp_path):
        """Copied and saved."""
        window, workspace = user.window, user.workspace
        user.find("phone screen")
        picked_by_keys(user, window.canvas, placed_in(workspace, "Phone"))
        user.key(K.Key_C, CTRL)
        assert QApplication.clipboard().mimeData().hasFormat("image/svg+xml")
        path = tmp_path / "second.outgrowth.json"
        user.in_dialog(path, lambda: user.key(K.Key_S, CTRL))
        assert load(path) == workspace.document


STEPS = (
    "draw_a_part", "place_instances", "let_one_differ", "give_axes", "open_what_differs", "nest",
    "make_it_elastic", "give_a_state", "try_it", "hand_it_over",
)  # fmt: skip
_LEFT: dict[type, list[object]] = {}
"""By way: the documents that its steps left behind, as far as one walk came."""


def left_behind(way, number, user_of, tmp_path):
    """The document that the steps before one made; they are walked once in a process."""
    documents = _LEFT.setdefault(way, [None])
    if len(documents) <= number:
        walker = user_of(documents[-1])
        for step in STEPS[len(documents) - 1 : number]:
            getattr(way, step)(walker, tmp_path)
            documents.append(walker.workspace.document)
        walker.window.hide()
    return documents[number]


@pytest.mark.parametrize("way", [ByMouse, ByKeys], ids=["by mouse", "by keys"])
@pytest.mark.parametrize("step", STEPS)
def test_step(way, step, user_of, tmp_path):
    user = user_of(left_behind(way, STEPS.index(step), user_of, tmp_path))
    getattr(way, step)(user, tmp_path)
    if way is ByKeys:
        assert not [deed for deed in user.done if deed.startswith(("press", "pull", "drag"))]


def test_the_first_button_takes_fewer_than_twenty(user):
    """A button with words, an icon that can be switched, hover and press in two kinds, on a
    screen, running in Live: every press, key, chord and drag counted, letters too."""
    window, workspace = user.window, user.workspace
    user.key(K.Key_C, ALT)
    user.key(K.Key_T, ALT)
    user.type("Book", enter=False)  # what comes next keeps the words
    user.key(K.Key_I, ALT)
    user.type("an")
    user.key(K.Key_H, ALT)
    user.key(K.Key_G, ALT)
    user.key(K.Key_A, ALT)
    user.key(K.Key_Return)
    fill = window.ledger.row("fill").editor.widget
    user.press(fill.swatch)
    user.press(QApplication.activePopupWidget().used["#FFFFFF"])
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
    assert count < 20, (count, user.done)
