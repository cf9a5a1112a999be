"""The hand on several parts at once: framed in any box, moved together, measured, spread."""

import random

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from outgrowth.core.document.records import find, lineage
from outgrowth.core.document.values import fixed
from outgrowth.core.geometry import Rect
from outgrowth.core.geometry.snapping import distances
from outgrowth.core.resolve.ladder import Place, value_at
from outgrowth.workspace.commands import style_commands

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def month(window):
    """The calendar at life size, its month in sight."""
    window.workspace.open("calendar")
    window.workspace.select(("month",))
    window.canvas.set_zoom(1.0)
    window.canvas.reveal(("month",))
    return window.canvas


def drag(canvas, start, end, held=NONE, escape=False):
    QTest.mousePress(canvas, LEFT, held, start.toPoint())
    for share in (0.3, 0.7, 1.0):
        QTest.mouseMove(canvas, (start + (end - start) * share).toPoint())
        QApplication.processEvents()
    if escape:
        QTest.keyClick(canvas, Qt.Key.Key_Escape)
    QTest.mouseRelease(canvas, LEFT, held, end.toPoint())


def children(window, box):
    return [c.id for c in find(window.workspace.owner.root, box).children]


def test_a_frame_catches_parts_of_the_box_under_the_pointer(window):
    workspace, canvas = window.workspace, window.canvas
    workspace.open("boarding")
    canvas.set_zoom(1.0)
    canvas.reveal(("facts",))
    box = canvas.rect_of(("facts",))
    gate, deck = canvas.rect_of(("gate",)), canvas.rect_of(("deck",))
    start = QPointF((gate.right() + deck.left()) / 2, gate.center().y())
    assert canvas.path_under(start) == ("facts",)
    drag(canvas, start, QPointF(deck.left() + 3, gate.center().y() + 3), SHIFT)
    assert workspace.selection.paths == (("deck",),)
    drag(canvas, start, QPointF(gate.right() - 3, gate.center().y() + 3), SHIFT)
    assert set(workspace.selection.paths) == {("gate",), ("deck",)}, "the second is added"
    before = workspace.selection.paths
    drag(canvas, start, QPointF(box.right() - 1, gate.center().y() + 3), SHIFT, escape=True)
    assert workspace.selection.paths == before, "Esc lets go"
    QTest.mouseClick(canvas, LEFT, SHIFT, gate.center().toPoint())
    assert ("gate",) not in workspace.selection.paths, "a click takes it out"


@pytest.mark.parametrize("seed", range(12))
def test_random_parts_of_a_flow_are_moved_together(window, seed):
    chance = random.Random(seed)
    workspace, canvas = window.workspace, window.canvas
    workspace.open("desk")
    canvas.set_zoom(0.8)
    box = chance.choice(["departures", "departure-10-15"])
    ids = children(window, box)
    picked = chance.sample(ids, chance.randint(2, len(ids) - 1))
    lead, target = chance.choice(picked), chance.choice(ids)
    canvas.reveal((box,))
    workspace.select_all(tuple((part,) for part in picked))
    start, end = canvas.rect_of((lead,)).center(), canvas.rect_of((target,)).center()
    row = find(workspace.owner.root, box).style.get("flow", "row") == "row"
    after_it = chance.random() < 0.5
    step = canvas.rect_of((target,)).width() if row else canvas.rect_of((target,)).height()
    shift = (0.35 if after_it else -0.35) * step
    end += QPointF(shift, 0) if row else QPointF(0, shift)
    if (end - start).manhattanLength() < 8 or not canvas.rect().contains(end.toPoint()):
        return
    before = workspace.document
    drag(canvas, start, end)
    if workspace.document is before:
        return
    into = lineage(workspace.owner.root, lead)[-2].id
    now = children(window, into)
    order = [part for part in ids if part in picked]
    at = now.index(order[0])
    assert now[at : at + len(order)] == order, "they stand together, in their order"
    rest = [part for part in ids if part not in picked]
    assert [c for c in children(window, box) if c not in picked] == rest, "others keep theirs"
    if target not in picked and into == box:
        beside = now.index(target)
        assert beside in (at - 1, at + len(order)), "beside the one that was pointed at"
    workspace.undo()
    assert workspace.document is before, "it is one step"


def test_the_distances_between_selected_parts_are_shown_and_follow_what_spreads_them(window):
    workspace, canvas = window.workspace, window.canvas
    workspace.open("boarding")
    workspace.select(("facts",))
    style_commands.set_style(
        workspace, {"flow": "free", "width": fixed(340.0), "height": fixed(80.0)}
    )
    for part, x in (("gate", 0.0), ("deck", 90.0), ("seat", 250.0)):
        workspace.select((part,))
        style_commands.set_style(workspace, {"x": x, "width": fixed(40.0), "y": 5.0})
    workspace.select_all((("gate",), ("deck",), ("seat",)))
    window.run_action("align-top")
    assert [g.distance for g in shown_distances(canvas)] == [50.0, 120.0]
    window.run_action("spread-across")
    assert [g.distance for g in shown_distances(canvas)] == [85.0, 85.0]


def shown_distances(canvas):
    paths = canvas._workspace.selection.paths
    rects = [canvas.rect_of(path) for path in paths]
    guides = distances([Rect(r.x(), r.y(), r.width(), r.height()) for r in rects])
    canvas.repaint()
    return [g._replace(distance=round(g.distance / canvas.zoom, 1)) for g in guides]


def test_the_look_of_an_instance_is_that_of_its_component(window):
    workspace = window.workspace
    workspace.open("boarding")
    workspace.select(("board",))
    window.run_action("copy")
    workspace.select(("crossing",))
    window.run_action("paste-look")
    for name in ("fill", "radius-top-left", "padding-left", "shadow"):
        seen = value_at(workspace.document, Place("boarding", ("board",)), name)
        assert value_at(workspace.document, Place("boarding", ("crossing",)), name) == seen
    once = workspace.document
    window.run_action("paste-look")
    assert workspace.document is once, "what is so already is not set again"
