"""Static web export: a laid-out scene as one HTML file that a browser lays out by itself.

Nothing measured is written, with one exception (a free box that fits, which CSS cannot
express): the browser gets the rules and has to come to the same rectangles. The mapping is
that of docs/architecture.md.
"""

from __future__ import annotations

import base64
from collections.abc import Iterator
from html import escape
from typing import NamedTuple

from immutables import Map

from outgrowth.core.color import Color, Gradient
from outgrowth.core.document.records import Asset
from outgrowth.core.document.values import Content, Shadow, Size
from outgrowth.core.exchange.svg.write import data_address, path_data, svg_fill
from outgrowth.core.geometry.rect import edge_bends
from outgrowth.core.layout import Placed
from outgrowth.core.layout.pins import Tie, scaling, tie_x, tie_y
from outgrowth.core.paint.draw import OUT, formed
from outgrowth.core.resolve.scene import LayoutNode, PaintStyle, SceneNode
from outgrowth.core.resolve.styles import LayoutStyle
from outgrowth.core.text import Face

Css = dict[str, str]

_JUSTIFY = {"start": "flex-start", "end": "flex-end"}
_PAGE = """<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>{title}</title>
<style>
{fonts}
* {{ box-sizing: border-box; margin: 0; position: relative; direction: ltr; }}
svg {{ display: block; width: 100%; height: 100%; overflow: visible; }}
</style>
</head>
<body>
{body}
</body>
</html>
"""


class _Around(NamedTuple):
    """What a node's CSS depends on besides the node: how its parent arranges it."""

    flow: str
    align: str
    mirrored: bool = False


_ALONE = _Around("alone", "start")
NO_ASSETS: Map[str, Asset] = Map()


def page(scene: SceneNode, placed: Placed, title: str, assets: Map[str, Asset] = NO_ASSETS) -> str:
    """The scene as a page of HTML, with the pictures among `assets`. Each element carries
    its path of child indices in `data-at` ("0/2/1"; the root's is empty)."""
    faces = sorted({face.key: face for face in _faces(placed)}.items())
    sources = {digest: _source(asset) for digest, asset in assets.items()}
    return _PAGE.format(
        title=escape(title),
        fonts="\n".join(_font_face(face) for _, face in faces),
        body="\n".join(_element(scene, placed, _ALONE, "", sources)),
    )


def _source(asset: Asset) -> str:
    return data_address(asset)


def _element(
    scene: SceneNode, placed: Placed, around: _Around, at: str, sources: dict[str, str]
) -> Iterator[str]:
    css = _css(scene, placed, around)
    style = "; ".join(f"{name}: {value}" for name, value in css.items())
    inside = ""
    if scene.kind == "image":
        yield _image(scene, css, at, sources)
        return
    if scene.kind == "text":
        inside = _words(scene.layout.style.content)
    elif scene.kind == "shape":
        inside = _svg(scene.paint, placed)
    yield f'<div data-at="{at}" style="{escape(style)}">{inside}'
    s = scene.layout.style
    here = _Around(s.flow, s.align, s.mirrored and s.flow != "free")
    for n, (child, spot) in enumerate(zip(scene.children, placed.children, strict=True)):
        yield from _element(child, spot, here, f"{at}/{n}" if at else str(n), sources)
    edge = scene.kind == "box" and scene.paint.stroked and not _even(scene.paint)
    yield f"{_edge(scene.paint)}</div>" if edge else "</div>"


_FITS = {"cover": "cover", "contain": "contain", "stretch": "fill", "tile": "none"}


def _image(scene: SceneNode, css: Css, at: str, sources: dict[str, str]) -> str:
    """A picture as an `img`. One that is laid side by side shows its own once, out of sight,
    for its size, and is its own background."""
    held = scene.layout.style.picture
    source = sources.get(held.asset, _EMPTY)
    css = css | {"object-fit": _FITS[scene.paint.fit]}
    if scene.paint.fit == "tile":
        css |= {"object-position": "-99999px 0", "background-image": f"url({source})"}
    style = "; ".join(f"{name}: {value}" for name, value in css.items())
    return f'<img alt="" data-at="{at}" src="{source}" style="{escape(style)}">'


_EMPTY = "data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='24' height='24'/%3E"
"""What stands where a picture is missing: nothing, as large as a shape."""


def _css(scene: SceneNode, placed: Placed, around: _Around) -> Css:
    s, p = scene.layout.style, scene.paint
    css: Css = {}
    if scene.kind == "box":
        css |= _box(s)
    elif scene.kind == "text":
        css |= _text(s, p, placed)
    css |= _size(scene.layout, placed, around) | _place(s, around) | _limits(s)
    css |= _paint(scene.kind in ("box", "image"), p)
    if scene.click_through:
        css["pointer-events"] = "none"
    return css


def _box(s: LayoutStyle) -> Css:
    if s.flow == "free":
        return {}
    row = s.flow == "row"
    css = {
        "display": "flex",
        "flex-direction": s.flow,
        "gap": f"{_px(s.cross_gap if row else s.gap)} {_px(s.gap if row else s.cross_gap)}",
        "padding": " ".join(
            _px(side) for side in (s.padding_top, s.padding_right, s.padding_bottom, s.padding_left)
        ),
        "justify-content": _JUSTIFY.get(s.justify, s.justify),
        "align-items": _JUSTIFY.get(s.align, s.align),
    }
    if s.mirrored:
        css["direction"] = "rtl"
    return css | {"flex-wrap": "wrap", "align-content": "flex-start"} if s.wrap else css


def _text(s: LayoutStyle, p: PaintStyle, placed: Placed) -> Css:
    slant = "italic " if s.font_style == "italic" else ""
    drawn = [face.described.family for face in _faces(placed)]
    family = ", ".join(css_string(name) for name in dict.fromkeys([s.font_family, *drawn]))
    css = {
        "font": f"{slant}{s.font_weight:g} {s.font_size:g}px/{s.line_height:g} {family}",
        "letter-spacing": _px(s.letter_spacing),
        "text-align": s.text_align,
        "white-space": "pre-wrap",
        "unicode-bidi": "plaintext",
        "color": _color(p.color),
    }
    if s.letter_case != "none":
        css["text-transform"] = s.letter_case
    if p.decoration != "none":
        css |= {"text-decoration-line": p.decoration, "text-decoration-skip-ink": "none"}
    if s.max_lines:
        css |= {
            "display": "-webkit-box",
            "-webkit-box-orient": "vertical",
            "-webkit-line-clamp": f"{s.max_lines:g}",
            "overflow": "hidden",
            "text-overflow": "ellipsis",
        }
    return css


def _size(node: LayoutNode, placed: Placed, around: _Around) -> Css:
    s = node.style
    if _placed_apart(s, around):
        across = _tied(tie_x(s), ("left", "right", "width"))
        if around.mirrored and "right" in across and across["width"] == "auto":
            across = _from_left(tie_x(s), across)
        css = across | _tied(tie_y(s), ("top", "bottom", "height"))
        if node.kind == "image":
            css |= _replaced(s, css)
    else:
        css = _side(s.width, "width", around, main="row")
        css |= _side(s.height, "height", around, main="column")
    css |= _proportion(s, around, css)
    if node.kind == "shape":
        css |= {side: "24px" for side in ("width", "height") if css.get(side) == "auto"}
    if node.kind == "box" and s.flow == "free":
        measured = {"width": placed.width, "height": placed.height}
        css |= {side: _px(n) for side, n in measured.items() if css.get(side) in _CONTENT}
    return css


_CONTENT = ("auto", "max-content")


def _proportion(s: LayoutStyle, around: _Around, said: Css) -> Css:
    """A fitting side that follows the other: it neither gives way nor is stretched, and no
    content makes it longer."""
    main, cross = ("width", "height") if around.flow == "row" else ("height", "width")
    follows = {"width": s.height.mode == "fixed" and s.width.mode == "fit"}
    follows["height"] = s.height.mode == "fit"
    if not s.aspect or not any(follows.values()):
        return {}
    css = {"aspect-ratio": f"{s.aspect:g}"}
    for side in ("width", "height"):
        if follows[side] and said.get(side) in _CONTENT:
            css |= {side: "auto", f"min-{side}": "0"}
    if around.flow in ("row", "column") and not s.floating:
        css |= {"flex": "0 0 auto"} if follows[main] else {}
        how = around.align if s.align_self == "auto" else s.align_self
        css |= {"align-self": "flex-start"} if follows[cross] and how == "stretch" else {}
    return css


def _side(size: Size, side: str, around: _Around, main: str) -> Css:
    """One side of the size: on the main axis it is the flex shorthand that says it."""
    if size.mode == "fixed":
        fixed = {side: _px(size.amount)}
        return fixed | {"flex": "0 0 auto"} if around.flow == main else fixed
    if around.flow == "alone":
        return {side: "max-content" if side == "width" else "auto"}
    if around.flow == main:
        grows = size.mode == "grow"
        css = {side: "auto", "flex": f"{size.amount:g} 1 0px" if grows else "0 1 auto"}
        return css | {"min-width": "0"} if grows and side == "width" else css
    return {side: "auto"} | ({"align-self": "stretch"} if size.mode == "grow" else {})


def _tied(tie: Tie, names: tuple[str, str, str]) -> Css:
    """One axis of what is placed absolutely: two insets and the size. Margins are said
    apart, so the insets are without them."""
    near, far, side = names
    css = {side: _px(tie.size.amount) if tie.size.mode == "fixed" else "max-content"}
    if side == "height" and tie.size.mode == "fit":
        css[side] = "auto"
    shares = scaling(tie)
    if shares is not None:
        return {near: f"{shares[0] * 100:.10g}%", far: f"{shares[1] * 100:.10g}%", side: "auto"}
    if tie.size.mode == "grow" or (tie.pin == "both" and tie.size.mode == "fit"):
        return {near: _px(tie.start), far: _px(tie.end), side: "auto"}
    if tie.pin == "end":
        return css | {far: _px(tie.end)}
    if tie.pin == "center":
        about = "justify-self" if side == "width" else "align-self"
        return css | {near: _px(tie.start), far: _px(-tie.start), about: "unsafe center"}
    return css | {near: _px(tie.start)}


def _replaced(s: LayoutStyle, said: Css) -> Css:
    """A picture's sides between two insets, which for a replaced element must be said: its
    `auto` is its own size. Source: CSS 2.2, sections 10.3.8 and 10.6.5."""
    found: Css = {}
    for near, far, side, margins, centred in (
        ("left", "right", "width", s.margin_left + s.margin_right, "justify-self"),
        ("top", "bottom", "height", s.margin_top + s.margin_bottom, "align-self"),
    ):
        if centred in said:
            found[side] = "auto" if said[side] in _CONTENT else said[side]
        elif said[side] == "auto" and near in said and far in said:
            found[side] = f"calc(100% - ({said[near]}) - ({said[far]}) - {_px(margins)})"
        elif said[side] == "max-content":
            found[side] = "auto"
    return found


def _from_left(tie: Tie, said: Css) -> Css:
    """Two insets as one and a width: where limits leave less room than both ask for, a
    browser gives up the left one in a mirrored box, and we never do."""
    shares = scaling(tie) or (0.0, 0.0)
    rest = tie.near + tie.far if shares == (0.0, 0.0) else tie.near - tie.start + tie.far - tie.end
    share = (1 - sum(shares)) * 100
    return {"left": said["left"], "width": f"calc({share:.10g}% - {_px(rest)})"}


def _placed_apart(s: LayoutStyle, around: _Around) -> bool:
    """Whether a node stands by its insets. What stands alone has nothing around it: it lies at
    the page's corner, whatever it would do in a holder."""
    return around is not _ALONE and (s.floating or around.flow == "free")


def _place(s: LayoutStyle, around: _Around) -> Css:
    if around is _ALONE:
        return {}
    css = {
        f"margin-{side}": _px(n)
        for side, n in (
            ("top", s.margin_top),
            ("right", s.margin_right),
            ("bottom", s.margin_bottom),
            ("left", s.margin_left),
        )
        if n
    }
    if _placed_apart(s, around):
        return css | {"position": "absolute"}
    follows = s.aspect and (
        s.height.mode == "fit"
        if around.flow == "row"
        else s.width.mode == "fit" and s.height.mode == "fixed"
    )
    cross = s.height if around.flow == "row" else s.width
    said = s.align_self != "auto" and cross.mode != "grow"
    if said and not (follows and s.align_self == "stretch"):
        css["align-self"] = _JUSTIFY.get(s.align_self, s.align_self)
    return css


def _limits(s: LayoutStyle) -> Css:
    limits = {
        "min-width": s.min_width,
        "max-width": s.max_width,
        "min-height": s.min_height,
        "max-height": s.max_height,
    }
    return {name: _px(n) for name, n in limits.items() if n}


def _paint(is_box: bool, p: PaintStyle) -> Css:
    css: Css = {}
    if p.opacity < 1:
        css["opacity"] = f"{p.opacity:g}"
    if p.transformed:
        css["transform"] = (
            f"translate({_px(p.translate_x)}, {_px(p.translate_y)}) "
            f"rotate({p.rotate:g}deg) scale({p.scale:g})"
        )
        css["transform-origin"] = f"{p.origin_x * 100:g}% {p.origin_y * 100:g}%"
    if p.clip:
        css["overflow"] = "clip"
    if not is_box:
        return css
    if p.fill.alpha > 0:
        if isinstance(p.fill, Gradient):
            css["background-image"] = p.fill.css
        else:
            css["background-color"] = _color(p.fill)
    if any(p.radii):
        css["border-radius"] = " ".join(_px(radius) for radius in p.radii)
    shadows = [_shadow(shadow) for shadow in p.shadow]
    if p.stroked and _even(p):
        shadows.insert(0, f"inset 0 0 0 {_px(p.stroke_top)} {_color(p.stroke)}")
    if shadows:
        css["box-shadow"] = ", ".join(shadows)
    return css


def _shadow(shadow: Shadow) -> str:
    lengths = " ".join(_px(n) for n in (shadow.x, shadow.y, shadow.blur, shadow.spread))
    return f"{'inset ' if shadow.inner else ''}{lengths} {_color(shadow.color)}"


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
        f'stroke="{_color(p.stroke)}" stroke-width="{p.line_width:g}" '
        f'stroke-linecap="{p.line_ends}" stroke-linejoin="{p.line_joins}" '
        f'fill-rule="{p.fill_rule}"/></svg>'
    )


def _even(p: PaintStyle) -> bool:
    """Whether a stroke is the same all around and inside: a shadow draws it."""
    return p.stroke_place == "inside" and len(set(p.strokes)) == 1


def _edge(p: PaintStyle) -> str:
    """Any other stroke is drawn by an element of its own, laid over the box."""
    out = OUT[p.stroke_place]
    inset = " ".join(_px(-out * width) for width in p.strokes)
    bends = edge_bends(p.radii, p.strokes, out)
    radius = " ".join(_px(a) for a, _ in bends) + " / " + " ".join(_px(d) for _, d in bends)
    style = (
        f"position: absolute; inset: {inset}; border: solid {_color(p.stroke)}; "
        f"border-width: {' '.join(_px(width) for width in p.strokes)}; "
        f"border-radius: {radius}; pointer-events: none"
    )
    return f'<i style="{style}"></i>'


def _words(content: Content) -> str:
    parts = []
    for run in content:
        text = escape(run.text)
        text = f"<b>{text}</b>" if run.bold else text
        parts.append(f"<i>{text}</i>" if run.italic else text)
    return "".join(parts)


def css_string(text: str) -> str:
    """Text as a string of CSS, whatever stands in it: what could end the string, the style
    sheet or the element around it is written by its number. Source: CSS Syntax 3, section 4.3.7
    (escapes), CSSOM, section 2.1 (serialize a string)."""
    plain = (c if c.isalnum() or c in " -_." else f"\\{ord(c):x} " for c in text)
    return f"'{''.join(plain)}'"


def _px(number: float) -> str:
    return f"{number:.10g}px" if number else "0px"


def _color(color: Color) -> str:
    return "transparent" if color.alpha == 0 else color.hex


def _faces(placed: Placed) -> Iterator[Face]:
    """The font files that the set texts were drawn from."""
    for line in placed.text.lines if placed.text is not None else ():
        yield from (run.face for _, run in line.runs)
    for child in placed.children:
        yield from _faces(child)


def _font_face(face: Face) -> str:
    data = base64.b64encode(face.data).decode()
    about = face.described
    return (
        f"@font-face {{ font-family: {css_string(about.family)}; font-weight: {about.weight:g}; "
        f"font-style: {'italic' if about.italic else 'normal'}; "
        f"src: url(data:font/ttf;base64,{data}); }}"
    )
