"""The picture that a bench keeps is always the one that would be painted from nothing."""

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QSize
from PyQt6.QtGui import QColor, QImage, QPainter

from outgrowth.app.paint import Rasters
from outgrowth.app.paint.backing import Backing, Shot
from outgrowth.core.color import parse
from outgrowth.core.document.records import walk
from outgrowth.core.edits.instances.extract import make_component
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.nodes import remove_node
from outgrowth.core.paint import draw
from outgrowth.core.paint.damage import damage
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace.engine import shipped_engine

SIZE = QSize(420, 520)
GROUND = QColor("#DDD4C4")


def shown(backing, fragment, shot):
    image = QImage(shot.size, QImage.Format.Format_RGB32)
    image.fill(0)
    painter = QPainter(image)
    backing.paint(painter, fragment, shot, GROUND)
    painter.end()
    held = image.constBits().asarray(image.sizeInBytes())
    return np.frombuffer(held, np.uint8).reshape(image.height(), -1, 4)[:, :, :3].astype(int).copy()


@pytest.fixture
def engine(qapp):
    return shipped_engine()


@pytest.fixture
def fresh(ferry):
    """The picture from nothing. Instances are kept as pictures from the second time on, which
    puts them on whole px: so it is painted twice before it counts."""

    def fresh(fragment, shot):
        for _ in range(2):
            shown(Backing(Rasters(lambda: ferry.assets), lambda: None), fragment, shot)
        return shown(Backing(Rasters(lambda: ferry.assets), lambda: None), fragment, shot)

    return fresh


def picture(engine, document, screen="boarding"):
    return draw(*engine.view(document, screen))


def test_moving_the_view_gives_the_same_picture(ferry, engine, fresh):
    backing = Backing(Rasters(lambda: ferry.assets), lambda: None)
    fragment = picture(engine, ferry)
    x, y = 10, 10
    for dx, dy in ((0, 0), (7, 0), (0, -13), (-30, 25), (5, 5), (900, 0), (-890, 3)):
        x, y = x + dx, y + dy
        shot = Shot(0.6, QPoint(x, y), SIZE)
        assert (fresh(fragment, shot) == shown(backing, fragment, shot)).all(), (dx, dy)


def test_an_edit_paints_only_what_changed_and_all_of_it(ferry, engine, fresh):
    backing = Backing(Rasters(lambda: ferry.assets), lambda: None)
    shot = Shot(0.8, QPoint(4, 4), SIZE)
    before = picture(engine, ferry)
    fresh(before, shot)
    shown(backing, before, shot)
    document = ferry
    for node in list(walk(ferry.screens["boarding"].root))[1:]:
        place = Place("boarding", (node.id,))
        values = {"opacity": 0.5} if node.kind != "text" else {"color": parse("#B8452B")}
        document = set_properties(document, place, values)
        after = picture(engine, document)
        assert (fresh(after, shot) == shown(backing, after, shot)).all(), node.name
    first = document.screens["boarding"].root.children[0]
    gone = picture(engine, remove_node(document, "boarding", first.id))
    assert (fresh(gone, shot) == shown(backing, gone, shot)).all()


def test_a_part_that_becomes_a_component_goes_onto_whole_pixels_at_once(ferry, engine, fresh):
    backing = Backing(Rasters(lambda: ferry.assets), lambda: None)
    shot = Shot(0.6, QPoint(4, 4), SIZE)
    moved = [n for n in walk(ferry.screens["boarding"].root) if n.kind in ("text", "box")][1:]
    before = picture(engine, ferry)
    fresh(before, shot)
    shown(backing, before, shot)
    for n, node in enumerate(moved):
        document = make_component(ferry, "boarding", node.id, f"made-{n}", "Made")
        for state in (document, ferry):
            fragment = picture(engine, state)
            assert (fresh(fragment, shot) == shown(backing, fragment, shot)).all(), node.name


def test_damage_is_small_and_covers_the_change(ferry, engine):
    before = picture(engine, ferry)
    assert damage(before, before) == []
    after = picture(
        engine, set_properties(ferry, Place("boarding", ("wait",)), {"fill": parse("#B8452B")})
    )
    (found,) = damage(before, after)
    whole = before.bounds
    assert found.width * found.height < whole.width * whole.height / 5


def test_a_zoom_shows_the_old_picture_until_the_new_one_is_there(ferry, engine, fresh):
    asked = []
    backing = Backing(Rasters(lambda: ferry.assets), lambda: asked.append(1))
    fragment = picture(engine, ferry)
    shown(backing, fragment, Shot(0.5, QPoint(0, 0), SIZE))
    backing._took = 1.0  # as if it had taken long
    shot = Shot(0.75, QPoint(-20, 3), SIZE)
    fresh(fragment, shot)
    interim = shown(backing, fragment, shot)
    assert not backing.complete and asked
    assert (interim != np.array([0xC4, 0xD4, 0xDD])).any(), "something is there at once"
    for _ in range(100):
        backing.go_on()
    assert backing.complete
    assert (fresh(fragment, shot) == shown(backing, fragment, shot)).all()


def test_an_edit_during_a_zoom_is_not_lost(ferry, engine, fresh):
    backing = Backing(Rasters(lambda: ferry.assets), lambda: None)
    fragment = picture(engine, ferry)
    shown(backing, fragment, Shot(0.5, QPoint(0, 0), SIZE))
    backing._took = 1.0
    shot = Shot(0.75, QPoint(0, 0), SIZE)
    shown(backing, fragment, shot)
    after = picture(
        engine, set_properties(ferry, Place("boarding", ("wait",)), {"fill": parse("#B8452B")})
    )
    fresh(after, shot)
    shown(backing, after, shot)
    for _ in range(100):
        backing.go_on()
    assert (fresh(after, shot) == shown(backing, after, shot)).all()
