"""A picture as SVG: a backend of the display list. Letters are outlines, so that the
drawing looks alike where the typeface is missing; pictures stand in it as their own data.
"""

from __future__ import annotations

import base64
import io
import re
import zlib
from html import escape

from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from immutables import Map
from PIL import Image as PilImage

from outgrowth.core.color import Color, Fill
from outgrowth.core.document.records import Asset
from outgrowth.core.geometry import Rect
from outgrowth.core.paint.fragment import Fragment, replay
from outgrowth.core.paint.marks import (
    Bar,
    Box,
    BoxShadow,
    Glyphs,
    Image,
    Mark,
    Outline,
    Ring,
)
from outgrowth.core.paint.shapes import (
    Rounded,
    box_shape,
    image_rect,
    ring_shapes,
    shadow_shapes,
)
from outgrowth.core.text.color_glyphs import color_glyph

NOTHING: Map[str, Asset] = Map()
_COLORED_SCALE = 4.0
"""Pixels a px of the pictures that stand for letters with colours of their own."""


def svg_of(fragment: Fragment, bounds: Rect, assets: Map[str, Asset] = NOTHING) -> str:
    """The display list as a whole SVG file that shows `bounds` of it, in px."""
    writer = _SvgWriter(assets)
    replay(fragment, writer, -bounds.x, -bounds.y)
    defs = f"<defs>{''.join(writer.defs.values())}</defs>" if writer.defs else ""
    size = f"{bounds.width:.6g}", f"{bounds.height:.6g}"
    head = f'width="{size[0]}" height="{size[1]}" viewBox="0 0 {size[0]} {size[1]}"'
    body = "".join(writer.out)
    return f'<svg xmlns="http://www.w3.org/2000/svg" {head}>{defs}{body}</svg>\n'


def data_address(asset: Asset) -> str:
    """A picture's data as an address, fit for an attribute. Source: RFC 2397."""
    return escape(f"data:{asset.media};base64,{base64.b64encode(asset.data).decode()}")


_NO_PATH = re.compile(r"[^A-Za-z0-9 .,+-]")


def path_data(data: str) -> str:
    """Path data fit for an attribute: what its grammar does not know becomes a space, line
    ends and control characters (which XML forbids) among it. Source: SVG 2, section 9.3.9."""
    return _NO_PATH.sub(" ", data)


def css_color(color: Color) -> str:
    """A colour in a notation that SVG renderers of any age read, alpha apart."""
    return color.with_alpha(1.0).hex


def svg_fill(fill: Fill, width: float, height: float) -> tuple[str, str, str]:
    """What a shape of this size is filled with, the definition that it needs, and its id."""
    if isinstance(fill, Color):
        return f"rgba({_bytes(fill)}, {fill.alpha:.4g})", "", ""
    name = f"g{zlib.crc32(f'{fill.css} {width} {height}'.encode()):x}"
    stops = "".join(f'<stop offset="{s.at:g}" stop-color="{s.color.hex}"/>' for s in fill.stops)
    if fill.kind == "radial":
        x, y, across, down = fill.ellipse(width, height)
        matrix = f"matrix({across:.9g} 0 0 {down:.9g} {x:.9g} {y:.9g})"
        place = f'cx="0" cy="0" r="1" gradientTransform="{matrix}"'
    else:
        x1, y1, x2, y2 = fill.line(width, height)
        place = f'x1="{x1:g}" y1="{y1:g}" x2="{x2:g}" y2="{y2:g}"'
    kind = f"{fill.kind}Gradient"
    units = 'gradientUnits="userSpaceOnUse"'
    return f"url(#{name})", f'<{kind} id="{name}" {units} {place}>{stops}</{kind}>', name


def _bytes(color: Color) -> str:
    return ", ".join(f"{round(part * 255)}" for part in (color.red, color.green, color.blue))


class _SvgWriter:
    """Collects elements; `defs` are by what they hold, each written once."""

    def __init__(self, assets: Map[str, Asset]) -> None:
        self.out: list[str] = []
        self.defs: dict[str, str] = {}
        self._assets = assets
        self._open: list[int] = []

    def among(self, fragment: Fragment) -> None:
        return None

    def enter(self, x: float, y: float, fragment: Fragment) -> bool:
        group = fragment.group
        place = f"translate({x:.6g} {y:.6g})" if x or y else ""
        more = ""
        if group is not None and group.transform is not None:
            place += f" matrix({' '.join(f'{n:.8g}' for n in group.transform)})"
        if group is not None and group.opacity < 1:
            more = f' opacity="{group.opacity:.4g}"'
        attribute = f' transform="{place.strip()}"' if place else ""
        self.out.append(f"<g{attribute}{more}>")
        self._open.append(1)
        return True

    def inside(self, fragment: Fragment) -> None:
        if fragment.group is not None and fragment.group.clip is not None:
            width, height, radii = fragment.group.clip
            path = _rounded(box_shape(width, height, radii))
            clip = self._defined("c", f'<clipPath id="%s"><path d="{path}"/></clipPath>')
            self.out.append(f'<g clip-path="url(#{clip})">')
            self._open[-1] += 1

    def leave(self, fragment: Fragment) -> None:
        self.out.append("</g>" * self._open.pop())

    def _defined(self, letter: str, text: str) -> str:
        """The id of a definition, whose own id is to stand at its `%s`."""
        name = f"{letter}{zlib.crc32(text.encode()):x}"
        self.defs[name] = text % name
        return name

    def _fill(self, fill: Fill, width: float, height: float) -> str:
        paint, defined, name = svg_fill(fill, width, height)
        if defined:
            self.defs[name] = defined
            return f'fill="{paint}"'
        assert isinstance(fill, Color)
        return _paint("fill", fill)

    def mark(self, mark: Mark) -> None:
        if isinstance(mark, Box):
            path = _rounded(box_shape(mark.width, mark.height, mark.radii))
            self.out.append(f'<path d="{path}" {self._fill(mark.color, mark.width, mark.height)}/>')
        elif isinstance(mark, Glyphs):
            self._glyphs(mark)
        elif isinstance(mark, Bar):
            attributes = f'x="{mark.x:.6g}" y="{mark.y:.6g}" width="{mark.width:.6g}"'
            self.out.append(
                f'<rect {attributes} height="{mark.line:.6g}" {_paint("fill", mark.color)}/>'
            )
        elif isinstance(mark, Ring):
            self._ring(mark)
        elif isinstance(mark, BoxShadow):
            self._shadow(mark)
        elif isinstance(mark, Image):
            self._image(mark)
        else:
            self._outline(mark)

    def _glyphs(self, mark: Glyphs) -> None:
        run = mark.run
        if run.face.has_colors and self._colored(mark):
            return
        scale = run.size / run.face.upem
        pen = SVGPathPen(None, ntos=lambda n: f"{round(n, 3) + 0.0:.7g}")
        for glyph, (x, y) in zip(run.glyphs, run.positions, strict=True):
            slant = run.feigned.slant * scale
            place = (scale, 0.0, slant, -scale, mark.x + x, mark.y + y)
            run.face.font.draw_glyph_with_pen(glyph, TransformPen(pen, place))
        path = pen.getCommands()
        if path:
            bolder = ""
            if run.feigned.is_bold:
                thick = f'stroke-width="{run.feigned.thickening(run.size):.6g}"'
                bolder = f" {_paint('stroke', mark.color)} {thick}"
            self.out.append(f'<path d="{path}" {_paint("fill", mark.color)}{bolder}/>')

    def _colored(self, mark: Glyphs) -> bool:
        """Writes glyphs that have colours of their own, as pictures; whether there were some."""
        before = len(self.out)
        for glyph, (x, y) in zip(mark.run.glyphs, mark.run.positions, strict=True):
            made = color_glyph(mark.run.face, glyph, mark.run.size * _COLORED_SCALE)
            if made is None:
                continue
            data = io.BytesIO()
            size = made.columns, made.rows
            PilImage.frombytes("RGBA", size, made.pixels).save(data, "PNG")
            source = base64.b64encode(data.getvalue()).decode()
            left = mark.x + x + made.left / _COLORED_SCALE
            top = mark.y + y + made.top / _COLORED_SCALE
            self.out.append(
                f'<image x="{left:.6g}" y="{top:.6g}" width="{made.width / _COLORED_SCALE:.6g}" '
                f'height="{made.height / _COLORED_SCALE:.6g}" preserveAspectRatio="none" '
                f'href="data:image/png;base64,{source}"/>'
            )
        return len(self.out) > before

    def _ring(self, mark: Ring) -> None:
        outer, inner = ring_shapes(mark, Rect(0.0, 0.0, mark.width, mark.height))
        path = _rounded(outer) + (_rounded(inner) if inner is not None else "")
        self.out.append(f'<path d="{path}" fill-rule="evenodd" {_paint("fill", mark.color)}/>')

    def _shadow(self, mark: BoxShadow) -> None:
        """A blurred shape, kept outside of the box, or inside of it for an inner shadow.
        Source: CSS Backgrounds 3, section 7 (the deviation is half the blur)."""
        shadow = mark.shadow
        shapes = shadow_shapes(mark)
        shape, box = _rounded(shapes.caster), _rounded(shapes.box)
        reach_rect = shapes.reach_rect
        outside_path = _rounded(Rounded(reach_rect))
        cast, clip_path = (
            (outside_path + shape, box) if shadow.inner else (shape, outside_path + box)
        )
        clip = self._defined(
            "c", f'<clipPath id="%s"><path d="{clip_path}" clip-rule="evenodd"/></clipPath>'
        )
        blur = ""
        if shadow.blur > 0:
            area = f'x="{reach_rect.x:.6g}" y="{reach_rect.y:.6g}" width="{reach_rect.width:.6g}" '
            area += f'height="{reach_rect.height:.6g}" filterUnits="userSpaceOnUse"'
            inside = f'<feGaussianBlur stdDeviation="{shadow.blur / 2:.6g}"/>'
            name = self._defined("b", f'<filter id="%s" {area}>{inside}</filter>')
            blur = f' filter="url(#{name})"'
        paint = _paint("fill", shadow.color)
        self.out.append(
            f'<g clip-path="url(#{clip})"><path d="{cast}" fill-rule="evenodd"{blur} {paint}/></g>'
        )

    def _image(self, mark: Image) -> None:
        asset = self._assets.get(mark.picture.asset)
        if asset is None:
            return
        href = data_address(asset)
        path = _rounded(box_shape(mark.width, mark.height, mark.radii))
        clip = self._defined("c", f'<clipPath id="%s"><path d="{path}"/></clipPath>')
        size = f'width="{mark.width:.6g}" height="{mark.height:.6g}"'
        if mark.fit == "tile":
            size = f'width="{mark.picture.width:.6g}" height="{mark.picture.height:.6g}"'
            image = f'<image {size} href="{href}"/>'
            tile = f'<pattern id="%s" {size} patternUnits="userSpaceOnUse">{image}</pattern>'
            self.out.append(f'<path d="{path}" fill="url(#{self._defined("p", tile)})"/>')
            return
        retain = {"contain": "xMidYMid meet", "cover": "xMidYMid slice"}.get(mark.fit, "none")
        if mark.focal != (0.5, 0.5):
            place, retain = image_rect(mark, Rect(0.0, 0.0, mark.width, mark.height)), "none"
            size = (
                f'x="{place.x:.6g}" y="{place.y:.6g}" '
                f'width="{place.width:.6g}" height="{place.height:.6g}"'
            )
        image = f'<image {size} preserveAspectRatio="{retain}" href="{href}"/>'
        self.out.append(f'<g clip-path="url(#{clip})">{image}</g>')

    def _outline(self, mark: Outline) -> None:
        place = f"translate({mark.dx:.6g} {mark.dy:.6g}) scale({mark.scale:.8g})"
        line = ""
        if mark.line > 0 and mark.stroke.alpha > 0:
            line = (
                f' {_paint("stroke", mark.stroke)} stroke-width="{mark.line:.6g}" '
                f'stroke-linecap="{mark.ends}" stroke-linejoin="{mark.joins}"'
            )
        fill = self._fill(mark.fill, *mark.size) if mark.fill.alpha > 0 else 'fill="none"'
        rule = ' fill-rule="evenodd"' if mark.rule == "evenodd" else ""
        data = path_data(mark.data)
        self.out.append(f'<path transform="{place}" d="{data}" {fill}{rule}{line}/>')


def _paint(name: str, color: Color) -> str:
    fade = f' {name}-opacity="{color.alpha:.4g}"' if color.alpha < 1 else ""
    return f'{name}="{css_color(color)}"{fade}'


def _rounded(shape: Rounded) -> str:
    """Path data of a rectangle with elliptic corners, clockwise from the top left."""
    (tlx, tly), (trx, try_), (brx, bry), (blx, bly) = shape.bends
    x, y, right, bottom = shape.rect.x, shape.rect.y, shape.rect.right, shape.rect.bottom

    def corner(rx: float, ry: float, to_x: float, to_y: float) -> str:
        if rx <= 0 or ry <= 0:
            return ""
        return f"A{rx:.6g} {ry:.6g} 0 0 1 {to_x:.6g} {to_y:.6g}"

    return (
        f"M{x + tlx:.6g} {y:.6g}H{right - trx:.6g}{corner(trx, try_, right, y + try_)}"
        f"V{bottom - bry:.6g}{corner(brx, bry, right - brx, bottom)}"
        f"H{x + blx:.6g}{corner(blx, bly, x, bottom - bly)}"
        f"V{y + tly:.6g}{corner(tlx, tly, x + tlx, y)}Z"
    )
