"""Static web export: a laid-out scene as one HTML file that a browser lays out by itself.

Nothing measured is written, with one exception (a free box that fits, which CSS cannot
express): the browser gets the rules and has to come to the same rectangles. The mapping is
that of docs/layout.md.
"""

from __future__ import annotations

import base64
from collections.abc import Iterator
from html import escape
from math import ceil

from immutables import Map

from outgrowth.core.document.records import Asset
from outgrowth.core.exchange.svg.write import data_address, path_data, svg_fill
from outgrowth.core.exchange.web.css import (
    ALONE,
    Around,
    Css,
    css_string,
    edge_css,
    even,
    fit_css,
    inside_of,
    is_replaced,
    node_css,
    strut_css,
)
from outgrowth.core.exchange.web.shorthands import folded
from outgrowth.core.exchange.web.symbols import color_text, px
from outgrowth.core.layout import Placed
from outgrowth.core.layout.engine import content_size
from outgrowth.core.layout.sizes import GLYPH_BOX
from outgrowth.core.paint.draw import formed
from outgrowth.core.resolve.scene import PaintStyle, SceneNode
from outgrowth.core.resolve.styles import LayoutStyle
from outgrowth.core.text import FontFace
from outgrowth.core.text.paragraph import BOLD

_PAGE = """<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>{title}</title>
<style>
{fonts}
* {{ box-sizing: border-box; margin: 0; position: relative; direction: ltr; }}
svg {{ position: absolute; left: 0; top: 0; width: 100%; height: 100%; overflow: visible; }}
</style>
</head>
<body>
{body}
</body>
</html>
"""


NO_ASSETS: Map[str, Asset] = Map()


def page(scene: SceneNode, placed: Placed, title: str, assets: Map[str, Asset] = NO_ASSETS) -> str:
    """The scene as a page of HTML, with the pictures among `assets`. Each element carries
    its path of child indices in `data-at` ("0/2/1"; the root's is empty)."""
    faces = sorted({face.key: face for face in _faces(placed)}.items())
    sources = {digest: data_address(asset) for digest, asset in assets.items()}
    return _PAGE.format(
        title=escape(title),
        fonts="\n".join(_font_face(face) for _, face in faces),
        body="\n".join(_element(scene, placed, ALONE, "", sources)),
    )


def _source(asset: Asset) -> str:
    return data_address(asset)


def _element(
    scene: SceneNode, placed: Placed, holder: Around, index_path: str, sources: dict[str, str]
) -> Iterator[str]:
    families = tuple(face.described.family for face in _faces(placed))
    css = node_css(scene.layout, scene.paint, holder, families, scene.click_through)
    if scene.known_rooms:
        css |= _in_its_room(scene, placed, holder)
    layout_style, inside = scene.layout.style, ""
    if is_replaced(scene.layout):
        yield _image(scene, css, index_path, sources)
        return
    if scene.kind == "text":
        inside = _words(scene.layout.style)
    elif scene.kind == "shape":
        inside = _strut(layout_style, GLYPH_BOX, GLYPH_BOX) + _svg(scene.paint, placed)
    elif scene.kind == "image":
        inside = _strut(layout_style, GLYPH_BOX, GLYPH_BOX)
    elif layout_style.flow == "free":
        wide, high = content_size(scene.layout, placed)
        # Words are rounded up, each run by itself, and a browser counts in 64ths of a px.
        inside = _strut(layout_style, wide + 1 / 32, high)
    yield f'<div data-at="{index_path}" style="{_attribute(css)}">{inside}'
    around = inside_of(scene.kind, layout_style, holder)
    for n, (child, child_placed) in enumerate(zip(scene.children, placed.children, strict=True)):
        yield from _element(
            child, child_placed, around, f"{index_path}/{n}" if index_path else str(n), sources
        )
    # Last, so that it lies over the children as our own stroke does.
    edge = scene.kind == "box" and scene.paint.stroked and not even(scene.paint)
    yield f"{_edge(scene.paint)}</div>" if edge else "</div>"


def _in_its_room(scene: SceneNode, placed: Placed, holder: Around) -> Css:
    """What its room decided has no size by what is in it; alone it has the room that shows it."""
    sides = {room.side for room in scene.known_rooms}
    if holder is not ALONE:
        return {"contain": "size" if "height" in sides else "inline-size"}
    # A browser counts in 64ths of a px, downwards.
    said = {"width": px(ceil(placed.width * 64) / 64)}
    return said | {"height": px(ceil(placed.height * 64) / 64)} if "height" in sides else said


def _attribute(css: Css) -> str:
    return escape("; ".join(f"{name}: {value}" for name, value in folded(css).items()))


def _image(scene: SceneNode, css: Css, index_path: str, sources: dict[str, str]) -> str:
    """A picture as an img element. One that is laid side by side shows its own once, out of sight,
    for its size, and is its own background."""
    picture = scene.layout.style.picture
    source = sources.get(picture.asset, _EMPTY)
    css = css | fit_css(scene.paint, f"url({source})")
    return f'<img alt="" data-at="{index_path}" src="{source}" style="{_attribute(css)}">'


# What stands where a picture is missing: nothing, as large as a shape.
_EMPTY = "data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='24' height='24'/%3E"


def _strut(style: LayoutStyle, width: float, height: float) -> str:
    css = strut_css(style, width, height)
    return f'<u style="display: block; width: {css["width"]}; height: {css["height"]}"></u>'


def _edge(paint: PaintStyle) -> str:
    css = edge_css(paint)
    style = (
        f"position: absolute; inset: {css['inset']}; border: solid {css['border-color']}; "
        f"border-width: {css['border-width']}; "
        f"border-radius: {css['border-radius']}; pointer-events: none"
    )
    return f'<i style="{style}"></i>'


def _svg(p: PaintStyle, placed: Placed) -> str:
    data, (width, height) = p.path, p.path_room
    if p.form != "path":
        width, height = placed.width, placed.height
        data = formed(p, width, height)
    if not data:
        return ""
    paint, defined, _ = svg_fill(p.fill, width, height)
    defined = f"<defs>{defined}</defs>" if defined else ""
    return (
        f'<svg viewBox="0 0 {width:.10g} {height:.10g}">{defined}'
        f'<path d="{path_data(data)}" fill="{paint}" '
        f'stroke="{color_text(p.stroke)}" stroke-width="{p.line_width:g}" '
        f'stroke-linecap="{p.line_ends}" stroke-linejoin="{p.line_joins}" '
        f'fill-rule="{p.fill_rule}"/></svg>'
    )


def _words(style: LayoutStyle) -> str:
    parts = []
    for run in style.content:
        text = escape(run.text.replace("\t", " "))
        text = (
            f'<b style="font-weight: {max(style.font_weight, BOLD):g}">{text}</b>'
            if run.bold
            else text
        )
        parts.append(f"<i>{text}</i>" if run.italic else text)
    return "".join(parts)


def _faces(placed: Placed) -> Iterator[FontFace]:
    """The font files that the set texts were drawn from, or would be where they are cut off."""
    if placed.text is not None:
        yield from placed.text.faces
    for child in placed.children:
        yield from _faces(child)


def _font_face(face: FontFace) -> str:
    data = base64.b64encode(face.data).decode()
    about = face.described
    return (
        f"@font-face {{ font-family: {css_string(about.family)}; font-weight: {about.weight:g}; "
        f"font-style: {'italic' if about.italic else 'normal'}; "
        f"src: url(data:font/ttf;base64,{data}); }}"
    )
