"""Static web export: a laid-out scene as one HTML file that a browser lays out by itself.

Nothing measured is written, with one exception (a free box that fits, which CSS cannot
express): the browser gets the rules and has to come to the same rectangles. The mapping is
that of docs/layout.md.
"""

from __future__ import annotations

import base64
from collections.abc import Iterator
from html import escape
from math import ceil, inf
from typing import NamedTuple

from immutables import Map

from outgrowth.core.color import Color, Gradient
from outgrowth.core.document.records import Asset
from outgrowth.core.document.values import Shadow, Size
from outgrowth.core.exchange.svg.write import data_address, path_data, svg_fill
from outgrowth.core.geometry.rect import edge_bends
from outgrowth.core.layout import Placed
from outgrowth.core.layout.engine import content_size
from outgrowth.core.layout.pins import Tie, scaling, tie_x, tie_y
from outgrowth.core.layout.sizes import GLYPH_BOX
from outgrowth.core.paint.draw import OUT, formed
from outgrowth.core.resolve.scene import LayoutNode, PaintStyle, SceneNode
from outgrowth.core.resolve.styles import LayoutStyle
from outgrowth.core.text import Face
from outgrowth.core.text.paragraph import BOLD

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
svg {{ position: absolute; left: 0; top: 0; width: 100%; height: 100%; overflow: visible; }}
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
    across: str = "start"
    scrolled: bool = False


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
    scene: SceneNode, placed: Placed, holder: _Around, index_path: str, sources: dict[str, str]
) -> Iterator[str]:
    css = _css(scene, placed, holder)
    style = "; ".join(f"{name}: {value}" for name, value in css.items())
    layout_style, inside = scene.layout.style, ""
    if _is_replaced(scene.layout):
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
    yield f'<div data-at="{index_path}" style="{escape(style)}">{inside}'
    # What sticks does so in the nearest box that scrolls, however far out.
    scrolled = holder.scrolled or (scene.kind == "box" and layout_style.scrolls != "none")
    mirrored = layout_style.mirrored and layout_style.flow != "free"
    around = _Around(
        layout_style.flow, layout_style.align, mirrored, layout_style.justify_items, scrolled
    )
    for n, (child, child_placed) in enumerate(zip(scene.children, placed.children, strict=True)):
        yield from _element(
            child, child_placed, around, f"{index_path}/{n}" if index_path else str(n), sources
        )
    # Last, so that it lies over the children as our own stroke does.
    edge = scene.kind == "box" and scene.paint.stroked and not _even(scene.paint)
    yield f"{_edge(scene.paint)}</div>" if edge else "</div>"


_FITS = {"cover": "cover", "contain": "contain", "stretch": "fill", "tile": "none"}


def _image(scene: SceneNode, css: Css, index_path: str, sources: dict[str, str]) -> str:
    """A picture as an `img`. One that is laid side by side shows its own once, out of sight,
    for its size, and is its own background."""
    picture = scene.layout.style.picture
    source = sources.get(picture.asset, _EMPTY)
    css = css | {"object-fit": _FITS[scene.paint.fit]}
    if scene.paint.fit == "tile":
        css |= {"object-position": "-99999px 0", "background-image": f"url({source})"}
    style = "; ".join(f"{name}: {value}" for name, value in css.items())
    return f'<img alt="" data-at="{index_path}" src="{source}" style="{escape(style)}">'


# What stands where a picture is missing: nothing, as large as a shape.
_EMPTY = "data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='24' height='24'/%3E"


def _strut(style: LayoutStyle, width: float, height: float) -> str:
    """What holds an element open, where it fits, that has no content of its own in the flow. It
    takes no side that is given otherwise: there it could only reach out, and be scrolled to."""
    across = 0.0 if style.width.mode == "fixed" and not style.gives_way else width
    follows = style.aspect and style.height.mode == "fit" and style.width.mode != "percent"
    down = 0.0 if (style.height.mode == "fixed" and not style.gives_way) or follows else height
    sides = [_px(ceil(n * 64) / 64) for n in (across, down)]  # a browser would round down
    return f'<u style="display: block; width: {sides[0]}; height: {sides[1]}"></u>'


def _css(scene: SceneNode, placed: Placed, holder: _Around) -> Css:
    style, paint = scene.layout.style, scene.paint
    css: Css = {}
    if scene.kind == "box":
        css |= _box(style)
    elif scene.kind == "text":
        css |= _text(style, paint, placed)
    css |= _size(scene.layout, holder) | _place(style, holder) | _limits(scene.layout, holder)
    css |= _paint(scene.kind in ("box", "image"), paint, style.scrolls)
    if scene.click_through:
        css["pointer-events"] = "none"
    return css


def _box(style: LayoutStyle) -> Css:
    scrolls = _scrolls(style)
    if style.flow == "free":
        return scrolls
    across = style.flow in ("row", "grid")
    # CSS names gaps by rows and columns, we by the main axis (Box Alignment 3, section 8).
    between_rows, between_columns = style.gap, style.cross_gap
    if across:
        between_rows, between_columns = style.cross_gap, style.gap
    css = scrolls | {
        "gap": f"{_px(between_rows)} {_px(between_columns)}",
        "padding": " ".join(
            _px(side)
            for side in (
                style.padding_top,
                style.padding_right,
                style.padding_bottom,
                style.padding_left,
            )
        ),
        "justify-content": _JUSTIFY.get(style.justify, style.justify),
        "align-items": _JUSTIFY.get(style.align, style.align),
    }
    # Mirrors the main axis of rows and the columns of grids; texts find theirs by their words.
    if style.mirrored:
        css["direction"] = "rtl"
    lines = {"align-content": _JUSTIFY.get(style.align_content, style.align_content)}
    if style.flow == "grid":
        for name, tracks in (("columns", style.columns), ("rows", style.rows)):
            if tracks:
                css[f"grid-template-{name}"] = " ".join(map(_track, tracks))
        return css | lines | {"display": "grid", "justify-items": style.justify_items}
    turned = "-reverse" if style.reversed else ""
    css |= {"display": "flex", "flex-direction": f"{style.flow}{turned}"}
    return css | {"flex-wrap": "wrap"} | lines if style.wrap else css


def _track(size: Size) -> str:
    """A column or row of a grid. Source: CSS Grid 1, section 7.2."""
    if size.mode == "grow":
        return f"{size.amount:.10g}fr"
    return "auto" if size.mode == "fit" else _length(size, "")


def _scrolls(style: LayoutStyle) -> Css:
    """Scroll bars take no room; keys, wheels and fingers scroll without them."""
    if style.scrolls == "none":
        return {}
    overflow = {
        side: "auto" if style.scrolls in (side, "both") else "hidden" for side in ("x", "y")
    }
    return {"overflow": f"{overflow['x']} {overflow['y']}", "scrollbar-width": "none"}


def _length(size: Size | float, kind: str) -> str:
    """A length, of a node of this kind: characters are those of its own letters."""
    if not isinstance(size, Size):
        return _px(size)
    if size.mode == "percent":
        return f"{size.amount:.10g}%"
    if size.mode == "chars":
        return f"{size.amount:.10g}ch"
    return _px(size.amount)


def _text(style: LayoutStyle, paint: PaintStyle, placed: Placed) -> Css:
    slant = "italic " if style.font_style == "italic" else ""
    # The families that our own fallback drew with come after the one that was asked for, so
    # that a browser does not look for others.
    drawn = [face.described.family for face in _faces(placed)]
    family = ", ".join(css_string(name) for name in dict.fromkeys([style.font_family, *drawn]))
    size = f"{style.font_size:g}px/{style.line_height:g}"
    css = {
        "font": f"{slant}{style.font_weight:g} {size} {family}",
        "letter-spacing": _px(style.letter_spacing),
        "text-align": style.text_align,
        "white-space": "pre-wrap",
        "unicode-bidi": "plaintext",
        "color": _color(paint.color),
    }
    if style.break_words:
        css["overflow-wrap"] = "anywhere"
    if style.trim == "letters":
        css["text-box"] = "trim-both cap alphabetic"
    if style.letter_case != "none":
        css["text-transform"] = style.letter_case
    if paint.decoration != "none":
        css |= {"text-decoration-line": paint.decoration, "text-decoration-skip-ink": "none"}
    # The only way that browsers have (CSS Overflow 4 keeps it for old pages).
    if style.max_lines:
        css |= {
            "display": "-webkit-box",
            "-webkit-box-orient": "vertical",
            "-webkit-line-clamp": f"{style.max_lines:g}",
            "overflow": "hidden",
            "text-overflow": "ellipsis",
        }
    return css


def _size(node: LayoutNode, holder: _Around) -> Css:
    style, kind = node.style, node.kind
    if _placed_apart(style, holder):
        across = _tied(tie_x(style), ("left", "right", "width"), kind)
        # Over-constrained insets give up the one at the end of the direction (CSS 2.2, 10.3.7).
        if holder.mirrored and "right" in across and across["width"] == "auto":
            across = _from_left(tie_x(style), across) | _carried(node)
        css = across | _tied(tie_y(style), ("top", "bottom", "height"), kind)
        if _is_replaced(node):
            css |= _replaced(style, css)
    else:
        css = _side(node, "width", holder) | _side(node, "height", holder)
    return css | _proportion(node, holder, css)


_CONTENT = ("auto", "max-content")
_SAID = ("fixed", "percent", "chars")


def _is_replaced(node: LayoutNode) -> bool:
    """Whether it is an element with a size of its own, which CSS treats apart."""
    return node.kind == "image" and bool(node.style.picture.asset)


def _proportion(node: LayoutNode, holder: _Around, so_far: Css) -> Css:
    """A fitting side that follows the other: it neither gives way nor is stretched, and no
    content makes it longer."""
    style = node.style
    main, cross = ("height", "width") if holder.flow == "column" else ("width", "height")
    tied = _placed_apart(style, holder) and _between_insets(so_far)
    follows = {"width": style.height.mode in _SAID or tied, "height": style.height.mode == "fit"}
    stretched = _placed_apart(style, holder) and {"left", "right"} <= set(so_far)
    stretched = stretched and "justify-self" not in so_far
    follows["width"] &= style.width.mode == "fit" and not stretched
    follows["height"] &= not tied
    if not style.aspect or not (any(follows.values()) or _is_replaced(node)):
        return {}
    css = {"aspect-ratio": f"{style.aspect:.10g}"}
    for side, size in (("width", style.width), ("height", style.height)):
        if follows[side] and so_far.get(side) in _CONTENT:
            css[side] = "auto"
        share = size.mode == "percent" and (side == "height" or style.height.mode in _SAID)
        # Else the automatic minimum, the content, would win (CSS Sizing 4, aspect-ratio).
        free = follows[side] or _placed_apart(style, holder) or share
        if free and not _is_replaced(node):
            css[f"min-{side}"] = "0"
    if holder.flow in ("row", "column", "grid") and not style.floating:
        if holder.flow != "grid":
            css |= {"flex": "0 0 auto"} if follows[main] else {}
        elif follows["width"] and holder.across == "stretch":
            css["justify-self"] = "start"
        how = holder.align if style.align_self == "auto" else style.align_self
        css |= {"align-self": "flex-start"} if follows[cross] and how == "stretch" else {}
    return css


def _between_insets(css: Css) -> bool:
    """Whether what is said of a part that is placed absolutely gives its height."""
    insets = {"top", "bottom"} <= set(css) and "align-self" not in css
    return insets and css["height"] == "auto"


def _side(node: LayoutNode, side: str, holder: _Around) -> Css:
    """One side of the size: on the main axis it is the flex shorthand that says it."""
    style = node.style
    size = style.width if side == "width" else style.height
    main = holder.flow == ("row" if side == "width" else "column")
    if size.mode in _SAID and not (holder is _ALONE and size.mode == "percent"):
        css = {side: _length(size, node.kind)}
        return css | {"flex": f"0 {int(style.gives_way)} auto"} if main else css
    if holder is _ALONE:
        return {side: "max-content" if side == "width" else "auto"}
    if size.mode != "grow":
        return {side: "auto"} | ({"flex": "0 1 auto"} if main else {})
    if not main:
        about = "justify-self" if holder.flow == "grid" and side == "width" else "align-self"
        return {side: "auto", about: "stretch"}
    # The two bases of growing: the content (flex-basis auto), or nothing (0px).
    if style.grow_from == "content":
        return {side: "auto", "flex": f"{size.amount:g} 1 auto"}
    css = {side: "auto", "flex": f"{size.amount:g} 1 0px"}
    # A growing part of a row may be narrower than its words; of a column it is never lower.
    return css | {"min-width": "0"} if side == "width" else css


def _tied(tie: Tie, names: tuple[str, str, str], kind: str) -> Css:
    """One axis of what is placed absolutely: two insets and the size. Margins are said
    apart, so the insets are without them."""
    near, far, side = names
    css = {side: _length(tie.size, kind) if tie.size.mode in _SAID else "max-content"}
    # For heights `auto` is the content already.
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
        # Equal and opposite insets shift the middle; `unsafe` lets it reach out on both sides
        # (CSS Box Alignment 3, section 4.4).
        about = "justify-self" if side == "width" else "align-self"
        return css | {near: _px(tie.start), far: _px(-tie.start), about: "unsafe center"}
    return css | {near: _px(tie.start)}


def _replaced(style: LayoutStyle, css: Css) -> Css:
    """A picture's sides between two insets, which for a replaced element must be said: its
    `auto` is its own size. Source: CSS 2.2, sections 10.3.8 and 10.6.5."""
    results: Css = {}
    for near, far, side, margins, centred in (
        ("left", "right", "width", style.margin_left + style.margin_right, "justify-self"),
        ("top", "bottom", "height", style.margin_top + style.margin_bottom, "align-self"),
    ):
        if centred in css:
            results[side] = "auto" if css[side] in _CONTENT else css[side]
        elif css[side] == "auto" and near in css and far in css:
            results[side] = f"calc(max(0px, 100% - {css[near]} - {css[far]}) - {_px(margins)})"
        elif css[side] == "max-content":
            results[side] = "auto"
    return results


def _from_left(tie: Tie, css: Css) -> Css:
    """Two insets as one and a width: where limits leave less room than both ask for, a
    browser gives up the left one in a mirrored box, and we never do."""
    shares = scaling(tie) or (0.0, 0.0)
    rest = tie.near + tie.far if shares == (0.0, 0.0) else tie.near - tie.start + tie.far - tie.end
    share = (1 - sum(shares)) * 100
    if shares != (0.0, 0.0):
        return {"left": css["left"], "width": f"calc({share:.10g}% - {_px(rest)})"}
    margins, insets = tie.near - tie.start + tie.far - tie.end, tie.start + tie.end
    return {
        "left": css["left"],
        "width": f"calc(max(0px, 100% - {_px(insets)}) - {_px(margins)})",
    }


def _carried(node: LayoutNode) -> Css:
    """The limits that the height's bring for a width that is said: a browser carries them over to
    one that is not."""
    style, (least, most) = node.style, node.down
    if not style.aspect or style.height.mode != "fit" or _is_replaced(node):
        return {}
    limits = {"min-width": (least, style.min_width), "max-width": (most, style.max_width)}
    carried = {
        name: n * style.aspect for name, (n, own) in limits.items() if 0 < n < inf and not own
    }
    return {name: _px(n) for name, n in carried.items()}


def _placed_apart(style: LayoutStyle, holder: _Around) -> bool:
    """Whether a node stands by its insets. What stands alone has nothing around it: it lies at
    the page's corner, whatever it would do in a holder."""
    return holder is not _ALONE and (style.floating or holder.flow == "free")


def _place(style: LayoutStyle, holder: _Around) -> Css:
    if holder is _ALONE:
        return {}
    css: Css = {}
    separate = _placed_apart(style, holder)
    for side in ("top", "right", "bottom", "left"):
        length = getattr(style, f"margin_{side}")
        # Automatic margins take what room is left before justify-content does (Flexbox 1, 8.1).
        if getattr(style, f"push_{side}") and not separate:
            css[f"margin-{side}"] = "auto"
        elif length:
            css[f"margin-{side}"] = _px(length)
    if separate:
        return css | {"position": "absolute"}
    css |= _beside(style, holder)
    if holder.flow == "grid":
        css["grid-column"] = f"{int(style.column_start) or 'auto'} / span {int(style.column_span)}"
        css["grid-row"] = f"{int(style.row_start) or 'auto'} / span {int(style.row_span)}"
    follows = style.aspect and (
        style.width.mode == "fit" and style.height.mode in _SAID
        if holder.flow == "column"
        else style.height.mode == "fit"
    )
    cross = style.width if holder.flow == "column" else style.height
    is_aligned = style.align_self != "auto" and cross.mode != "grow"
    if is_aligned and not (follows and style.align_self == "stretch"):
        css["align-self"] = _JUSTIFY.get(style.align_self, style.align_self)
    return css


_INSETS = {"top": "y", "right": "right", "bottom": "bottom", "left": "x"}


def _beside(style: LayoutStyle, holder: _Around) -> Css:
    """What does not stand at its place in the flow: moved, or in sight while its box scrolls."""
    if style.sticks != "none":
        inset = getattr(style, _INSETS[style.sticks])
        return {"position": "sticky", style.sticks: _px(inset)} if holder.scrolled else {}
    moved = {"left": style.offset_x, "top": style.offset_y}
    return {side: _px(n) for side, n in moved.items() if n}


def _limits(node: LayoutNode, holder: _Around) -> Css:
    style = node.style
    limits = {
        "min-width": style.min_width,
        "max-width": style.max_width,
        "min-height": style.min_height,
        "max-height": style.max_height,
    }
    # Alone on a page there is no holder that a share could be of.
    unknown = [name for name, n in limits.items() if holder is _ALONE and isinstance(n, Size)]
    known = {name: n for name, n in limits.items() if n and name not in unknown}
    return {name: _length(n, node.kind) for name, n in known.items()}


def _paint(is_box: bool, paint: PaintStyle, scrolls: str) -> Css:
    css: Css = {}
    if paint.opacity < 1:
        css["opacity"] = f"{paint.opacity:g}"
    if paint.transformed:
        css["transform"] = (
            f"translate({_px(paint.translate_x)}, {_px(paint.translate_y)}) "
            f"rotate({paint.rotate:g}deg) scale({paint.scale:g})"
        )
        css["transform-origin"] = f"{paint.origin_x * 100:g}% {paint.origin_y * 100:g}%"
    # `clip`, not `hidden`: what is cut off cannot be scrolled to by keys or script.
    if paint.clip and scrolls == "none":
        css["overflow"] = "clip"
    if not is_box:
        return css
    if paint.fill.alpha > 0:
        if isinstance(paint.fill, Gradient):
            css["background-image"] = paint.fill.css
        else:
            css["background-color"] = _color(paint.fill)
    if any(paint.radii):
        css["border-radius"] = " ".join(_px(radius) for radius in paint.radii)
    shadows = [_shadow(shadow) for shadow in paint.shadow]
    if paint.stroked and _even(paint):
        # Shadows take no room, as our strokes don't; the first one lies on top.
        shadows.insert(0, f"inset 0 0 0 {_px(paint.stroke_top)} {_color(paint.stroke)}")
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


def _even(paint: PaintStyle) -> bool:
    """Whether a stroke is the same all around and inside: a shadow draws it."""
    return paint.stroke_place == "inside" and len(set(paint.strokes)) == 1


def _edge(paint: PaintStyle) -> str:
    """Any other stroke is drawn by an element of its own, laid over the box."""
    out = OUT[paint.stroke_place]
    inset = " ".join(_px(-out * width) for width in paint.strokes)
    bends = edge_bends(paint.radii, paint.strokes, out)
    radius = " ".join(_px(a) for a, _ in bends) + " / " + " ".join(_px(d) for _, d in bends)
    style = (
        f"position: absolute; inset: {inset}; border: solid {_color(paint.stroke)}; "
        f"border-width: {' '.join(_px(width) for width in paint.strokes)}; "
        f"border-radius: {radius}; pointer-events: none"
    )
    return f'<i style="{style}"></i>'


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
