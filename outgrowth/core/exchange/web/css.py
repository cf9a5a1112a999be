"""What a node is in CSS: the one mapping, for the static page and for the exported code.

Nothing measured is written: a browser gets the rules and has to come to the same rectangles.
The mapping is that of docs/layout.md. Longhands are written, so that a rule of the exported
code can change one side alone; `folded` makes the usual shorthands of them.
"""

from __future__ import annotations

import re
from math import ceil, inf
from typing import NamedTuple

from outgrowth.core.color import Gradient
from outgrowth.core.document.formulas import css_of, is_share
from outgrowth.core.document.values import GridTrack, Shadow, Size
from outgrowth.core.exchange.web.symbols import (
    CssColor,
    CssNumber,
    CssShadows,
    CssText,
    color_text,
    number_text,
    px,
    rem,
    zeros,
)
from outgrowth.core.geometry.rect import edge_bends
from outgrowth.core.layout.fluid import LEAST_SPAN
from outgrowth.core.layout.pins import Tie, scaling, tie_x, tie_y
from outgrowth.core.layout.subgrid import SIDES_OF_GRID, follows, is_bound, with_tracks
from outgrowth.core.paint.draw import OUT
from outgrowth.core.resolve.scene import LayoutNode, PaintStyle
from outgrowth.core.resolve.styles import LayoutStyle

Css = dict[str, str]

SIDES = ("top", "right", "bottom", "left")
CORNERS = ("top-left", "top-right", "bottom-right", "bottom-left")
_FITS = {"cover": "cover", "contain": "contain", "stretch": "fill", "tile": "none"}
_JUSTIFY = {"start": "flex-start", "end": "flex-end"}


class Around(NamedTuple):
    """What a node's CSS depends on besides the node: how its parent arranges it."""

    flow: str
    align: str
    mirrored: bool = False
    across: str = "start"
    scrolled: bool = False


ALONE = Around("alone", "start")
WINDOW = Around("window", "start")
"""A screen has its window around it, which is as large as it is."""
OUTERMOST = (ALONE, WINDOW)


def inside_of(kind: str, style: LayoutStyle, holder: Around) -> Around:
    """How a node arranges what is in it."""
    # What sticks does so in the nearest box that scrolls, however far out.
    scrolled = holder.scrolled or (kind == "box" and style.scrolls != "none")
    mirrored = style.mirrored and style.flow != "free"
    return Around(style.flow, style.align, mirrored, style.justify_items, scrolled)


def node_css(
    node: LayoutNode,
    paint: PaintStyle,
    holder: Around,
    families: tuple[str, ...] = (),
    click_through: bool = False,
) -> Css:
    """A node's CSS in longhands.

    holder    how the box around it arranges it
    families  of a text: the families that it was drawn with besides its own
    """
    style = node.style
    if holder.flow == "grid" and style.subgrid != "none" and not _placed_apart(style, holder):
        # What is said of its own size on such an axis means nothing.
        columns, rows = [() if follows(node, side) else None for side in SIDES_OF_GRID]
        node = node if columns is rows is None else with_tracks(node, columns, rows)
        style = node.style
    css: Css = {}
    if node.kind == "box":
        css |= _box(style)
    elif node.kind == "text":
        css |= _text(style, paint, families)
    css |= box_css(node, holder) | _place(style, holder)
    css |= _paint(node.kind in ("box", "image"), paint, style.scrolls)
    if click_through:
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
        "row-gap": px(between_rows),
        "column-gap": px(between_columns),
        "padding-top": px(style.padding_top),
        "padding-right": px(style.padding_right),
        "padding-bottom": px(style.padding_bottom),
        "padding-left": px(style.padding_left),
        "justify-content": _JUSTIFY.get(style.justify, style.justify),
        "align-items": _JUSTIFY.get(style.align, style.align),
    }
    # Mirrors the main axis of rows and the columns of grids; texts find theirs by their words.
    if style.mirrored:
        css["direction"] = "rtl"
    lines = {"align-content": _JUSTIFY.get(style.align_content, style.align_content)}
    if style.flow == "grid":
        for side in SIDES_OF_GRID:
            tracks = style.columns if side == "columns" else style.rows
            if is_bound(style, side):
                css[f"grid-template-{side}"] = "subgrid"
                # A gap that is not said would be that of the grid around it.
                gap = f"{side.removesuffix('s')}-gap"
                css[gap] = "0" if css[gap] == "0px" else css[gap]
            elif style.subgrid in (side, "both"):
                continue  # outside of a grid browsers make something else of it than no tracks
            elif tracks:
                css[f"grid-template-{side}"] = " ".join(map(_track, tracks))
        if style.areas:
            rows = [f'"{row.strip()}"' for row in style.areas.split("/")]
            css["grid-template-areas"] = " ".join(rows)
        return css | lines | {"display": "grid", "justify-items": style.justify_items}
    turned, lines_turned = [
        "-reverse" if on else "" for on in (style.reversed, style.lines_reversed)
    ]
    css |= {"display": "flex", "flex-direction": f"{style.flow}{turned}"}
    return css | {"flex-wrap": f"wrap{lines_turned}"} | lines if style.wrap else css


def _track(size: Size) -> str:
    """A column or row of a grid. Source: CSS Grid 1, section 7.2."""
    if isinstance(size, GridTrack):
        track = _track(size.most)
        if size.least is not None:
            track = f"minmax({_track(size.least)}, {track})"
        return f"repeat(auto-{size.repeat}, {track})" if size.repeat else track
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
    """A length, of a node of this kind: characters are those of its own letters, where it has
    any."""
    if not isinstance(size, Size):
        return px(size)
    if size.mode == "percent":
        return f"{size.amount:.10g}%"
    if size.mode == "chars":
        return f"{size.amount:.10g}ch" if kind == "text" else zeros(size.amount)
    if size.mode == "formula":
        text = css_of(size.formula)
        return text if kind == "text" else _CHARS.sub(lambda n: zeros(float(n[1])), text)
    return px(size.amount)


def _font_size(style: LayoutStyle) -> str:
    """How large letters are: where they grow with the room, by the width of the container."""
    low, high = style.font_size, style.fluid_size
    if not high:
        return rem(low)
    start, end = style.fluid_from, style.fluid_until
    numbers = (low, high, start, end)
    if any(isinstance(number, CssNumber) for number in numbers):
        # Lengths that nobody knows here can't divide each other; their angle can be taken.
        span = f"max({px(end)} - {px(start)}, {px(LEAST_SPAN)})"
        share = f"clamp(0, tan(atan2(100cqi - {px(start)}, {span})), 1)"
        return f"calc({rem(low)} + ({rem(high)} - {rem(low)}) * {share})"
    slope = (high - low) / max(end - start, LEAST_SPAN)
    grown = f"{rem(low)} + {slope:.10g} * (100cqi - {px(start)})"
    least, most = sorted((low, high))
    return f"clamp({rem(least)}, {grown}, {rem(most)})"


def fit_css(paint: PaintStyle, source: str) -> Css:
    """How a picture fills its room, and what of it stays in sight. One that is laid side by side
    shows itself out of sight, for its size: it is a background, from this source (CSS)."""
    css = {"object-fit": _FITS[paint.fit]}
    if paint.fit == "tile":
        return css | {"object-position": "-99999px 0", "background-image": source}
    if (paint.focal_x, paint.focal_y) == (0.5, 0.5):
        return css
    return css | {"object-position": f"{paint.focal_x * 100:.10g}% {paint.focal_y * 100:.10g}%"}


_SHARE = re.compile(r"[\d.]+%")
_CHARS = re.compile(r"([\d.]+)ch\b")


def _text(style: LayoutStyle, paint: PaintStyle, families: tuple[str, ...]) -> Css:
    # The families that our own fallback drew with come after the one that was asked for, so
    # that a browser does not look for others.
    css = {
        "font-family": ", ".join(map(_family, dict.fromkeys([style.font_family, *families]))),
        "font-size": _font_size(style),
        "line-height": number_text(style.line_height),
        "font-weight": number_text(style.font_weight),
        "font-style": style.font_style,
        "letter-spacing": rem(style.letter_spacing),
        "text-align": style.text_align,
        "white-space": "pre-wrap",
        "text-spacing-trim": "space-all",
        "unicode-bidi": "plaintext",
        "color": color_text(paint.color),
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
            "-webkit-line-clamp": number_text(style.max_lines),
            "overflow": "hidden",
            "text-overflow": "ellipsis",
        }
    return css


def box_css(node: LayoutNode, holder: Around) -> Css:
    """How large a node is, and may be."""
    return _size(node, holder) | _limits(node, holder)


def _size(node: LayoutNode, holder: Around) -> Css:
    style, kind = node.style, node.kind
    if _placed_apart(style, holder):
        across = _tied(tie_x(style), ("left", "right", "width"), kind)
        # Over-constrained insets give up the one at the end of the direction (CSS 2.2, 10.3.7),
        # which may be the page's: what can't fill them is said by one.
        limited = (style.max_width or style.min_width) and not style.aspect
        kept_off = holder.mirrored or limited
        if kept_off and "right" in across and across["width"] == "auto":
            across = _from_left(tie_x(style), across) | _carried(node)
        css = across | _tied(tie_y(style), ("top", "bottom", "height"), kind)
        if is_replaced(node):
            css |= _replaced(style, css)
    else:
        css = _side(node, "width", holder) | _side(node, "height", holder)
    return css | _proportion(node, holder, css)


_CONTENT = ("auto", "max-content")
_SAID = ("fixed", "percent", "chars", "formula")


def _proportion(node: LayoutNode, holder: Around, so_far: Css) -> Css:
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
    if not style.aspect or not (any(follows.values()) or is_replaced(node)):
        return {}
    css = {"aspect-ratio": f"{style.aspect:.10g}"}
    for side, size in (("width", style.width), ("height", style.height)):
        if follows[side] and so_far.get(side) in _CONTENT:
            css[side] = "auto"
        share = is_share(size) and (side == "height" or style.height.mode in _SAID)
        # Else the automatic minimum, the content, would win (CSS Sizing 4, aspect-ratio).
        free = follows[side] or _placed_apart(style, holder) or share
        if free and not is_replaced(node) and f"min-{side}" not in so_far:
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


def _side(node: LayoutNode, side: str, holder: Around) -> Css:
    """One side of the size: on the main axis it is the flex shorthand that says it."""
    style = node.style
    size = style.width if side == "width" else style.height
    main = holder.flow == ("row" if side == "width" else "column")
    if size.mode in _SAID and not (holder is ALONE and is_share(size)):
        css = {side: _length(size, node.kind)}
        shrink = number_text(style.shrink) if style.gives_way else "0"
        return css | {"flex": f"0 {shrink} auto"} if main else css
    if holder is WINDOW and size.mode == "grow":
        return {side: "100%"}
    if holder in OUTERMOST:
        return {side: "max-content" if side == "width" else "auto"}
    if size.mode != "grow":
        return {side: "auto"} | ({"flex": f"0 {number_text(style.shrink)} auto"} if main else {})
    if not main:
        about = "justify-self" if holder.flow == "grid" and side == "width" else "align-self"
        return {side: "auto", about: "stretch"}
    # The bases of growing: the content (flex-basis auto), a size, or nothing (0px).
    base = {"content": "auto", "size": _length(style.grow_base, node.kind)}
    grows = f"{size.amount:g} {number_text(style.shrink)}"
    css = {side: "auto", "flex": f"{grows} {base.get(style.grow_from, '0px')}"}
    if style.grow_from != "nothing":
        return css
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
        return {near: px(tie.start), far: px(tie.end), side: "auto"}
    if tie.pin == "end":
        return css | {far: px(tie.end)}
    if tie.pin == "center":
        # Equal and opposite insets shift the middle; `unsafe` lets it reach out on both sides
        # (CSS Box Alignment 3, section 4.4).
        about = "justify-self" if side == "width" else "align-self"
        return css | {near: px(tie.start), far: px(-tie.start), about: "unsafe center"}
    return css | {near: px(tie.start)}


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
            results[side] = f"calc(max(0px, 100% - {css[near]} - {css[far]}) - {px(margins)})"
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
        return {"left": css["left"], "width": f"calc({share:.10g}% - {px(rest)})"}
    margins, insets = tie.near - tie.start + tie.far - tie.end, tie.start + tie.end
    return {
        "left": css["left"],
        "width": f"calc(max(0px, 100% - {px(insets)}) - {px(margins)})",
    }


def _carried(node: LayoutNode) -> Css:
    """The limits that the height's bring for a width that is said: a browser carries them over to
    one that is not."""
    style, (least, most) = node.style, node.down
    if not style.aspect or style.height.mode != "fit" or is_replaced(node):
        return {}
    limits = {
        "min-width": (least, style.min_height, style.min_width),
        "max-width": (most, style.max_height, style.max_width),
    }
    carried: Css = {}
    for name, (n, limit, own) in limits.items():
        if own:
            continue
        if isinstance(limit, Size) and not is_share(limit):
            carried[name] = f"calc({_length(limit, node.kind)} * {style.aspect:.10g})"
        elif 0 < n < inf:
            carried[name] = px(n * style.aspect)
    return carried


def _placed_apart(style: LayoutStyle, holder: Around) -> bool:
    """Whether a node stands by its insets. What stands alone has nothing around it: it lies at
    the page's corner, whatever it would do in a holder."""
    return holder not in OUTERMOST and (style.floating or holder.flow == "free")


def _place(style: LayoutStyle, holder: Around) -> Css:
    if holder in OUTERMOST:
        return {}
    css: Css = {}
    separate = _placed_apart(style, holder)
    for side in SIDES:
        length = getattr(style, f"margin_{side}")
        # Automatic margins take what room is left before justify-content does (Flexbox 1, 8.1).
        if getattr(style, f"push_{side}") and not separate:
            css[f"margin-{side}"] = "auto"
        elif length:
            css[f"margin-{side}"] = px(length)
    if separate:
        return css | {"position": "absolute"}
    css |= _beside(style, holder)
    if holder.flow == "grid" and style.area:
        css |= {"grid-column": style.area, "grid-row": style.area}
    elif holder.flow == "grid":
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


def _beside(style: LayoutStyle, holder: Around) -> Css:
    """What does not stand at its place in the flow: moved, or in sight while its box scrolls."""
    if style.sticks != "none":
        inset = getattr(style, _INSETS[style.sticks])
        return {"position": "sticky", style.sticks: px(inset)} if holder.scrolled else {}
    moved = {"left": style.offset_x, "top": style.offset_y}
    return {side: px(n) for side, n in moved.items() if n}


def _limits(node: LayoutNode, holder: Around) -> Css:
    style = node.style
    limits = {
        "min-width": style.min_width,
        "max-width": style.max_width,
        "min-height": style.min_height,
        "max-height": style.max_height,
    }
    css = {}
    for name, limit in limits.items():
        if limit and holder is ALONE and isinstance(limit, Size) and is_share(limit):
            # Alone on a page there is no holder that a share could be of.
            if limit.mode == "formula" and name.startswith("min"):
                css[name] = _SHARE.sub("0px", _length(limit, node.kind))
        elif limit:
            css[name] = _length(limit, node.kind)
    return css


def _paint(is_box: bool, paint: PaintStyle, scrolls: str) -> Css:
    css: Css = {}
    if paint.opacity < 1 or isinstance(paint.opacity, CssNumber):
        css["opacity"] = number_text(paint.opacity)
    css |= _transform(paint)
    # `clip`, not `hidden`: what is cut off cannot be scrolled to by keys or script.
    if paint.clip and scrolls == "none":
        css["overflow"] = "clip"
    if not is_box:
        return css
    if isinstance(paint.fill, Gradient):
        css["background-image"] = paint.fill.css
    elif paint.fill.alpha > 0 or isinstance(paint.fill, CssColor):
        css["background-color"] = color_text(paint.fill)
    for corner, radius in zip(CORNERS, paint.radii, strict=True):
        if radius or any(paint.radii):
            css[f"border-{corner}-radius"] = px(radius)
    if isinstance(paint.shadow, CssShadows):
        shadows = [paint.shadow.css]
    else:
        shadows = [_shadow(shadow) for shadow in paint.shadow]
    if paint.stroked and even(paint):
        # Shadows take no room, as our strokes don't; the first one lies on top.
        shadows.insert(0, f"inset 0 0 0 {px(paint.stroke_top)} {color_text(paint.stroke)}")
    if shadows:
        css["box-shadow"] = ", ".join(shadows)
    return css


def _transform(paint: PaintStyle) -> Css:
    """Each by itself: `translate`, `rotate` and `scale` act in this order, as ours do (CSS
    Transforms 2, section 5), and a rule can change one alone."""
    css: Css = {}
    if paint.translate_x or paint.translate_y:
        css["translate"] = f"{px(paint.translate_x)} {px(paint.translate_y)}"
    if paint.rotate:
        css["rotate"] = f"{number_text(paint.rotate)}deg"
    if paint.scale != 1.0 or isinstance(paint.scale, CssNumber):
        css["scale"] = number_text(paint.scale)
    if paint.turns:
        css["transform"] = "scaleX(-1)"
    if (paint.origin_x, paint.origin_y) != (0.5, 0.5):
        css["transform-origin"] = f"{paint.origin_x * 100:g}% {paint.origin_y * 100:g}%"
    return css


def _shadow(shadow: Shadow) -> str:
    lengths = " ".join(px(n) for n in (shadow.x, shadow.y, shadow.blur, shadow.spread))
    return f"{'inset ' if shadow.inner else ''}{lengths} {color_text(shadow.color)}"


def even(paint: PaintStyle) -> bool:
    """Whether a stroke is the same all around and inside: a shadow draws it."""
    return paint.stroke_place == "inside" and len(set(paint.strokes)) == 1


def edge_css(paint: PaintStyle) -> Css:
    """The CSS of an element that is laid over the box and draws any other stroke."""
    out = OUT[paint.stroke_place]
    bends = edge_bends(paint.radii, paint.strokes, out)
    radius = " ".join(px(a) for a, _ in bends) + " / " + " ".join(px(d) for _, d in bends)
    return {
        "inset": " ".join(px(-out * width) if out else "0px" for width in paint.strokes),
        "border-color": color_text(paint.stroke),
        "border-width": " ".join(px(width) for width in paint.strokes),
        "border-radius": radius,
    }


def is_replaced(node: LayoutNode) -> bool:
    """Whether it is an element with a size of its own, which CSS treats apart."""
    return node.kind == "image" and bool(node.style.picture.asset)


def strut_css(style: LayoutStyle, width: float, height: float) -> Css:
    """What holds an element open, where it fits, that has no content of its own in the flow. It
    takes no side that is given otherwise: there it could only reach out, and be scrolled to."""
    across = 0.0 if style.width.mode == "fixed" and not style.gives_way else width
    follows = style.aspect and style.height.mode == "fit" and not is_share(style.width)
    down = 0.0 if (style.height.mode == "fixed" and not style.gives_way) or follows else height
    sides = [px(ceil(n * 64) / 64) for n in (across, down)]  # a browser would round down
    return {"width": sides[0], "height": sides[1]}


def _family(name: str) -> str:
    return name.css if isinstance(name, CssText) else css_string(name)


def css_string(text: str) -> str:
    """Text as a string of CSS, whatever stands in it: what could end the string, the style
    sheet or the element around it is written by its number. Source: CSS Syntax 3, section 4.3.7
    (escapes), CSSOM, section 2.1 (serialize a string)."""
    plain = (c if c.isalnum() or c in " -_." else f"\\{ord(c):x} " for c in text)
    return f"'{''.join(plain)}'"
