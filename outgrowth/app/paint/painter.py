"""The painter that draws display lists with Qt.

Edges of boxes and baselines of text are snapped to device pixels here and nowhere else.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QImage,
    QLinearGradient,
    QPainter,
    QPainterPath,
    QPen,
    QRadialGradient,
    QTransform,
)

from outgrowth.app.paint.paths import qrect, rounded_path
from outgrowth.app.paint.rasters import Rasters, raster_of
from outgrowth.core.color import Color, Fill
from outgrowth.core.geometry import Rect
from outgrowth.core.paint import Fragment, Mark, replay
from outgrowth.core.paint.fragment import Group
from outgrowth.core.paint.marks import Bar, Box, BoxShadow, Glyphs, Image, Outline, Ring
from outgrowth.core.paint.shapes import (
    Rounded,
    even,
    image_rect,
    ring_shapes,
    shadow_shapes,
)
from outgrowth.core.text.shaping import NOTHING_FEIGNED

_HINTS = QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform

_HALF_AND_A_BIT = 0.5 + 1e-6


class QtPainter:
    """Draws fragments on a QPainter whose transform is only a shift.

    scale    device pixels a px
    sight    what can be seen, in the painter's px; nothing outside is drawn
    """

    def __init__(
        self, painter: QPainter, rasters: Rasters, scale: float, sight: Rect | None = None
    ) -> None:
        self._p = painter
        self._rasters = rasters
        self._scale = scale
        self._sight = sight
        self._origins: list[tuple[float, float]] = [(0.0, 0.0)]
        self._twisted = 0
        self._unscaled = painter.transform()
        self._scaled = self._unscaled
        self._laying = False
        painter.setRenderHints(_HINTS)

    def draw(self, fragment: Fragment, x: float, y: float) -> None:
        """The fragment with its corner at x, y px."""
        self._p.save()
        self._p.scale(self._scale, self._scale)
        self._scaled = self._p.transform()
        self._laying = False
        replay(fragment, self, x, y)
        self._p.restore()

    def _lay(self, laying: bool) -> None:
        """Laying down rasters happens in device pixels, drawing in px: switches between
        the two, seldom, since rasters come in rows."""
        if laying is not self._laying:
            self._laying = laying
            self._p.setTransform(self._unscaled if laying else self._scaled)

    # --- the protocol -------------------------------------------------------------------

    def among(self, fragment: Fragment) -> Sequence[int] | None:
        """Those whose ink is in sight, by one comparison of arrays."""
        sight, extents = self._sight, fragment.extents
        if sight is None or extents is None or self._twisted:
            return None
        x, y = self._origins[-1]
        left, top, right, bottom = extents.T
        in_sight = (left < sight.right - x) & (right > sight.x - x)
        in_sight &= (top < sight.bottom - y) & (bottom > sight.y - y)
        return np.flatnonzero(in_sight).tolist()

    def enter(self, x: float, y: float, fragment: Fragment) -> bool:
        """Goes to a fragment; False where it is out of sight or was laid down whole."""
        ox, oy = self._origins[-1]
        x, y = ox + x, oy + y
        if not self._twisted:
            if self._sight is not None and not self._in_sight(x, y, fragment.bounds, self._sight):
                return False
            if fragment.is_instance_root:
                if self._laid_down(x, y, fragment):
                    return False
                # On whole device px, as its raster will lie: so nothing moves with the second
                # frame, and parts of a picture that are painted apart fit together.
                x, y = (
                    _nearest(x * self._scale) / self._scale,
                    _nearest(y * self._scale) / self._scale,
                )
            self._lay(False)
        self._p.save()
        self._origins.append((x, y))
        if fragment.group is not None and self._opened(fragment, fragment.group, x, y):
            self.leave(fragment)
            return False
        return True

    @staticmethod
    def _in_sight(x: float, y: float, bounds: Rect, sight: Rect) -> bool:
        left, top, width, height = bounds
        left, top = left + x, top + y
        sx, sy, sw, sh = sight
        return left < sx + sw and sx < left + width and top < sy + sh and sy < top + height

    def inside(self, fragment: Fragment) -> None:
        """Clips to the fragment, if it clips its children."""
        if fragment.group is None or fragment.group.clip is None:
            return
        width, height, radii = fragment.group.clip
        x, y = self._origins[-1]
        shape = Rounded(self._snapped(x, y, width, height), even(radii))
        path = rounded_path(shape)
        self._p.setClipPath(path, Qt.ClipOperation.IntersectClip)

    def leave(self, fragment: Fragment) -> None:
        """Goes back to what holds the fragment."""
        if not self._twisted:
            self._lay(False)
        self._origins.pop()
        if fragment.group is not None and fragment.group.transform is not None:
            self._twisted -= 1
        self._p.restore()

    def mark(self, mark: Mark) -> None:
        """Draws one mark with its corner where the fragment is."""
        x, y = self._origins[-1]
        if isinstance(mark, Box):
            self._box(mark, x, y)
        elif isinstance(mark, Glyphs):
            self._glyphs(mark, x, y)
        elif isinstance(mark, Bar):
            bar = self._snapped(x + mark.x, y + mark.y, mark.width, mark.line)
            bar = bar._replace(height=max(bar.height, 1 / self._scale))
            self._p.fillRect(qrect(bar), qcolor(mark.color))
        elif isinstance(mark, Ring):
            self._ring(mark, x, y)
        elif isinstance(mark, BoxShadow):
            self._shadow(mark, x, y)
        elif isinstance(mark, Image):
            self._image(mark, x, y)
        else:
            self._outline(mark, x, y)

    # --- groups -------------------------------------------------------------------------

    def _opened(self, fragment: Fragment, group: Group, x: float, y: float) -> bool:
        """Applies transform and opacity; True if the fragment was drawn apart already."""
        if group.transform is not None:
            m = group.transform
            self._p.translate(x, y)
            self._p.setTransform(QTransform(m.a, m.b, m.c, m.d, m.e, m.f), True)
            self._p.translate(-x, -y)
            self._twisted += 1
        if group.opacity >= 1.0:
            return False
        self._p.setOpacity(self._p.opacity() * group.opacity)
        if len(fragment.marks) + len(fragment.children) <= 1:
            return False
        self._drawn_apart(fragment, group, x, y)
        return True

    def _drawn_apart(self, fragment: Fragment, group: Group, x: float, y: float) -> None:
        """Draws the group solid on its own and lays it down faded, so that what overlaps
        inside does not shine through. Source: CSS Color 4, section 3.2 (opacity)."""
        image, left, top = self._rastered(_copy(fragment, Group(None, 1.0, group.clip)))
        s = self._scale
        rect = QRectF(x + left / s, y + top / s, image.width() / s, image.height() / s)
        self._p.drawImage(rect, image)

    def _laid_down(self, x: float, y: float, fragment: Fragment) -> bool:
        """Copies the kept raster of a fragment, if it came before and is worth one."""
        result = raster_of(fragment, self._scale)
        if result is None or not result[1]:
            return False
        raster = result[0]
        if raster.image is None:
            bare = _copy(fragment, fragment.group)
            raster.image, raster.left, raster.top = self._rastered(bare)
        self._lay(True)
        s = self._scale
        self._p.drawImage(_nearest(x * s) + raster.left, _nearest(y * s) + raster.top, raster.image)
        return True

    def _rastered(self, fragment: Fragment) -> tuple[QImage, int, int]:
        """The fragment's image, and where its first pixel lies from its corner."""
        bounds, scale = fragment.bounds, self._scale
        left, top = _first_pixel(bounds, scale)
        width = math.ceil(bounds.right * scale) + 1 - left
        height = math.ceil(bounds.bottom * scale) + 1 - top
        form = QImage.Format.Format_ARGB32_Premultiplied
        image = QImage(max(width, 1), max(height, 1), form)
        image.fill(0)
        painter = QPainter(image)
        painter.translate(-left, -top)
        QtPainter(painter, self._rasters, scale).draw(fragment, 0.0, 0.0)
        painter.end()
        return image, left, top

    # --- marks --------------------------------------------------------------------------

    def _on_pixel(self, place: float) -> float:
        """A place in px, on a device pixel."""
        return _nearest(place * self._scale) / self._scale

    def _snapped(self, x: float, y: float, width: float, height: float) -> Rect:
        """A rectangle with its edges on device pixels."""
        scale = self._scale
        if self._twisted:
            return Rect(x, y, width, height)
        left, top = _nearest(x * scale), _nearest(y * scale)
        right, bottom = _nearest((x + width) * scale), _nearest((y + height) * scale)
        return Rect(left / scale, top / scale, (right - left) / scale, (bottom - top) / scale)

    def _box(self, mark: Box, x: float, y: float) -> None:
        rect = self._snapped(x, y, mark.width, mark.height)
        fill = brush(mark.color, rect)
        if not any(mark.radii):
            self._p.fillRect(qrect(rect), fill)
            return
        self._p.fillPath(rounded_path(Rounded(rect, even(mark.radii))), fill)

    def _ring(self, mark: Ring, x: float, y: float) -> None:
        outer, inner = ring_shapes(mark, self._snapped(x, y, mark.width, mark.height))
        path = rounded_path(outer)
        if inner is not None:
            # Filled by odd and even, the inner edge leaves a hole: far cheaper than to cut it out.
            path.addPath(rounded_path(inner))
        self._p.fillPath(path, qcolor(mark.color))

    def _glyphs(self, mark: Glyphs, x: float, y: float) -> None:
        baseline = y + mark.y
        if not self._twisted:
            baseline = self._on_pixel(baseline)
        point = QPointF(x + mark.x, baseline)
        colored = mark.run.face.has_colors and self._rasters.colored(mark.run, self._scale)
        if colored:
            for image, place in colored:
                self._p.drawImage(place.translated(point), image)
            return
        large = mark.run.size * self._scale >= _LARGE_LETTERS
        if large or mark.run.feigned != NOTHING_FEIGNED:
            self._p.fillPath(self._rasters.letters(mark.run).translated(point), qcolor(mark.color))
            return
        self._p.setPen(qcolor(mark.color))
        self._p.drawGlyphRun(point, self._rasters.glyphs(mark.run))

    def _shadow(self, mark: BoxShadow, x: float, y: float) -> None:
        shapes = shadow_shapes(mark)
        box, caster = rounded_path(shapes.box), rounded_path(shapes.caster)
        if mark.shadow.inner:
            outside_path = QPainterPath()
            outside_path.addRect(qrect(shapes.reach_rect))
            caster = outside_path.subtracted(caster)
        image, bounds = self._rasters.shadow_image(mark, caster, self._scale)
        clip = QPainterPath(box)
        if not mark.shadow.inner:
            outside_path = QPainterPath()
            outside_path.addRect(bounds)
            clip = outside_path.subtracted(box)
        self._p.save()
        self._p.translate(x, y)
        self._p.setClipPath(clip, Qt.ClipOperation.IntersectClip)
        # Wide blurs come as coarse images.
        self._p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        self._p.drawImage(bounds, image)
        self._p.restore()

    def _image(self, mark: Image, x: float, y: float) -> None:
        room = self._snapped(x, y, mark.width, mark.height)
        image = self._rasters.picture(mark.picture.asset)
        self._p.save()
        clip = rounded_path(Rounded(room, even(mark.radii)))
        self._p.setClipPath(clip, Qt.ClipOperation.IntersectClip)
        if image is None:
            self._nothing(qrect(room))
        elif mark.fit == "tile":
            self._p.translate(room.x, room.y)
            tiles = QBrush(image)
            by = mark.picture.width / image.width(), mark.picture.height / image.height()
            tiles.setTransform(QTransform.fromScale(*by))
            self._p.fillRect(QRectF(0.0, 0.0, room.width, room.height), tiles)
        else:
            whole = image_rect(mark, room)
            place = self._snapped(whole.x, whole.y, whole.width, whole.height)
            size = _nearest(place.width * self._scale), _nearest(place.height * self._scale)
            sized = self._rasters.scaled(mark.picture.asset, *size) if max(size) < 4096 else None
            self._p.drawImage(qrect(place), sized or image)
        self._p.restore()

    def _nothing(self, room: QRectF) -> None:
        """What stands where no picture is: a crossed frame."""
        self._p.setPen(QPen(_NOTHING, 1.0))
        self._p.drawRect(room.adjusted(0.5, 0.5, -0.5, -0.5))
        self._p.drawLine(room.topLeft(), room.bottomRight())
        self._p.drawLine(room.bottomLeft(), room.topRight())

    def _outline(self, mark: Outline, x: float, y: float) -> None:
        path = self._rasters.path(mark)
        self._p.save()
        self._p.translate(x + mark.dx, y + mark.dy)
        self._p.scale(mark.scale, mark.scale)
        if mark.fill.alpha > 0:
            self._p.fillPath(path, brush(mark.fill, Rect(0.0, 0.0, *mark.size)))
        if mark.line > 0 and mark.stroke.alpha > 0:
            pen = QPen(qcolor(mark.stroke), mark.line)
            pen.setCapStyle(_ENDS[mark.ends])
            pen.setJoinStyle(_JOINS[mark.joins])
            pen.setMiterLimit(4.0)  # SVG's, section 13.5.5
            self._p.strokePath(path, pen)
        self._p.restore()


_ENDS = {
    "round": Qt.PenCapStyle.RoundCap,
    "butt": Qt.PenCapStyle.FlatCap,
    "square": Qt.PenCapStyle.SquareCap,
}
_JOINS = {
    "round": Qt.PenJoinStyle.RoundJoin,
    "miter": Qt.PenJoinStyle.SvgMiterJoin,
    "bevel": Qt.PenJoinStyle.BevelJoin,
}
# Device px from which letters are filled as outlines: Qt keeps no pictures of letters of 64 px
# and more, and with fonts from memory it then draws nothing at all.
_LARGE_LETTERS = 60.0
_NOTHING = QColor(120, 120, 120)


def _copy(fragment: Fragment, group: Group | None) -> Fragment:
    """The fragment as one that is drawn and not looked up."""
    return Fragment(
        fragment.marks, fragment.children, group, fragment.bounds, is_instance_root=False
    )


def _nearest(edge: float) -> int:
    """The device pixel that an edge is drawn at. One half way between two goes on down the
    screen, also where it misses the half by the last bits of a sum: so a raster, which begins
    at 0, and what is painted in place are the same (Python's `round` goes to the even one)."""
    return math.floor(edge + _HALF_AND_A_BIT)


def _first_pixel(bounds: Rect, scale: float) -> tuple[int, int]:
    """The whole device pixel, with one to spare, at which a raster begins."""
    return math.floor(bounds.x * scale) - 1, math.floor(bounds.y * scale) - 1


def brush(fill: Fill, rect: Rect) -> QBrush:
    """A colour, or a gradient over a rectangle, as Qt paints with it."""
    if isinstance(fill, Color):
        return QBrush(qcolor(fill))
    gradient: QLinearGradient | QRadialGradient
    if fill.kind == "linear":
        gradient = QLinearGradient(*fill.line(rect.width, rect.height))
    else:
        gradient = QRadialGradient(0.0, 0.0, 1.0)
    for stop in fill.stops:
        gradient.setColorAt(stop.at, qcolor(stop.color))
    brush = QBrush(gradient)
    place = QTransform.fromTranslate(rect.x, rect.y)
    if fill.kind == "radial":
        x, y, across, down = fill.ellipse(rect.width, rect.height)
        place.translate(x, y)
        place.scale(across, down)
    brush.setTransform(place)
    return brush


def qcolor(color: Color) -> QColor:
    """A colour as Qt has it."""
    return QColor.fromRgbF(color.red, color.green, color.blue, color.alpha)
