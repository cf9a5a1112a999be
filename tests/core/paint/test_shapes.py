"""Marks lowered to plain shapes, once for all backends: rings, shadows and pictures, as numbers."""

import pytest

from outgrowth.core.color import parse
from outgrowth.core.document.values import Picture, Shadow
from outgrowth.core.geometry import Rect
from outgrowth.core.paint.marks import BoxShadow, Image, Ring
from outgrowth.core.paint.shapes import image_rect, ring_shapes, shadow_shapes

INK = parse("#204060")
SQUARE = (0.0, 0.0, 0.0, 0.0)
ROOM = Rect(0.0, 0.0, 40.0, 30.0)


def ring(lines, out):
    return ring_shapes(Ring(40.0, 30.0, SQUARE, lines, out, INK), ROOM)


@pytest.mark.parametrize(
    ("lines", "out", "outer", "inner"),
    [
        ((2, 3, 4, 5), 0.0, (0, 0, 40, 30), (5, 2, 32, 24)),
        ((2, 3, 4, 5), 1.0, (-5, -2, 48, 36), (0, 0, 40, 30)),
        ((2, 2, 2, 2), 0.5, (-1, -1, 42, 32), (1, 1, 38, 28)),
        ((15, 0, 15, 0), 0.0, (0, 0, 40, 30), None),
        ((0, 20, 0, 20), 0.0, (0, 0, 40, 30), None),
        ((14, 0, 15, 0), 0.0, (0, 0, 40, 30), (0, 14, 40, 1)),
        ((0, 20, 0, 19), 0.0, (0, 0, 40, 30), (19, 0, 1, 30)),
        ((20, 1, 20, 1), 0.0, (0, 0, 40, 30), None),
        ((1, 30, 1, 30), 0.0, (0, 0, 40, 30), None),
    ],
)
def test_a_ring_lies_between_two_edges_until_its_lines_meet(lines, out, outer, inner):
    edge, hole = ring(tuple(map(float, lines)), out)
    assert edge.rect == Rect(*outer)
    assert (hole and hole.rect) == (inner and Rect(*inner))


@pytest.mark.parametrize(
    ("shadow", "caster", "reach"),
    [
        (Shadow(INK, 3.0, -4.0, 5.0, 2.0), (1, -6, 44, 34), 5 * 2 + 3 + 4 + 2 + 2),
        (Shadow(INK, 3.0, -4.0, 5.0, 2.0, True), (5, -2, 36, 26), 5 * 2 + 3 + 4 + 2 + 2),
        (Shadow(INK, 0.0, 0.0, 0.0, -50.0), (50, 50, 0, 0), 50 + 2),
    ],
)
def test_a_shadow_is_cast_by_the_spread_box_and_seen_so_far(shadow, caster, reach):
    shapes = shadow_shapes(BoxShadow(40.0, 30.0, SQUARE, shadow))
    assert shapes[0].rect == Rect(*caster)
    assert shapes[2] == Rect(-reach, -reach, 40 + 2 * reach, 30 + 2 * reach)


def test_a_spread_rounds_what_is_round_and_leaves_what_is_square():
    spread = Shadow(INK, 0.0, 0.0, 0.0, 4.0)
    caster = shadow_shapes(BoxShadow(40.0, 30.0, (6.0, 0.0, 1.0, 6.0), spread))[0]
    assert caster.bends == ((10, 10), (0, 0), (5, 5), (10, 10))
    inside = with_spread(spread, -3.0)
    caster = shadow_shapes(BoxShadow(40.0, 30.0, (6.0, 0.0, 1.0, 6.0), inside))[0]
    assert caster.bends == ((3, 3), (0, 0), (0, 0), (3, 3))


def with_spread(shadow, spread):
    return Shadow(shadow.color, shadow.x, shadow.y, shadow.blur, spread)


@pytest.mark.parametrize(
    ("fit", "size", "rect"),
    [
        ("cover", (20, 10), (-10, 0, 60, 30)),
        ("contain", (20, 10), (0, 5, 40, 20)),
        ("cover", (10, 20), (0, -25, 40, 80)),
        ("contain", (10, 20), (12.5, 0, 15, 30)),
        ("stretch", (20, 10), (0, 0, 40, 30)),
        ("cover", (0, 10), (0, 0, 40, 30)),
        ("contain", (10, 0), (0, 0, 40, 30)),
    ],
)
def test_a_picture_lies_over_its_room_in_it_or_as_it(fit, size, rect):
    picture = Picture("a" * 64, *map(float, size))
    mark = Image(ROOM.width, ROOM.height, SQUARE, picture, fit)
    assert image_rect(mark, ROOM) == Rect(*rect)
