"""What a node says about its own size: given, or by its proportion, its limits, its letters.

Source: CSS Sizing 3 and 4; CSS Flexbox 1, section 9.8 (definite sizes).
"""

from __future__ import annotations

from outgrowth.core.document.formulas import is_share
from outgrowth.core.document.values import Size
from outgrowth.core.layout.cross_axis import LONGEST, follows_height
from outgrowth.core.layout.memory import memory_of
from outgrowth.core.resolve.scene import FOLLOWS, RELATIVE, WRAPS_DOWN, LayoutNode
from outgrowth.core.text import TextStyle

GLYPH_BOX = 24.0
"""Width and height of a shape that fits: the square that icons are drawn in."""


def within(value: float, least: float, most: float) -> float:
    """The value within its limits; the lower one is stronger, as in CSS."""
    return max(min(value, most), least)


def inset_x(node: LayoutNode) -> float:
    """Its paddings across, where it has any (px)."""
    if node.kind != "box" or node.style.flow == "free":
        return 0.0
    return node.style.padding_left + node.style.padding_right


def fixed_room(node: LayoutNode) -> float | None:
    """The height inside of a box that is fixed; None for another."""
    style = node.style
    if style.height.mode != "fixed":
        return None
    return max(
        within(style.height.amount, *node.down) - style.padding_top - style.padding_bottom, 0.0
    )


def own_size(node: LayoutNode) -> tuple[float, float]:
    """Width and height of what has a size by itself: a picture, or a shape."""
    picture = node.style.picture
    return (picture.width, picture.height) if picture.asset else (GLYPH_BOX, GLYPH_BOX)


def own_height(node: LayoutNode, width: float) -> float:
    """How high it is at a width by itself: a picture keeps its proportion."""
    if node.kind == "image" and node.style.picture.asset and node.style.aspect:
        return min(width / node.style.aspect, LONGEST)
    return own_size(node)[1]


def said_width(node: LayoutNode) -> float | None:
    """A width that is fixed, or that follows a fixed height."""
    style = node.style
    if style.width.mode == "fixed":
        return style.width.amount
    return within(style.height.amount, *node.down) * style.aspect if follows_height(style) else None


def pictured_width(node: LayoutNode) -> float | None:
    """The width of a picture whose height is fixed, where it does not grow after all."""
    style = node.style
    if node.kind != "image" or not style.aspect or style.height.mode != "fixed":
        return None
    return min(within(style.height.amount, *node.down) * style.aspect, LONGEST)


def grows_by_proportion(node: LayoutNode) -> bool:
    """Whether a picture's width follows a height that its holder gives."""
    style = node.style
    return (
        node.kind == "image"
        and bool(style.aspect)
        and (
            style.width.mode == "fit"
            or (style.width.mode == "grow" and style.grow_from != "nothing")
        )
        and style.height.mode == "grow"
    )


def width_at(node: LayoutNode, how: str, width: float, height: float) -> float:
    """The width of a column's child at the height that it comes to; its own, unless it is a
    picture that grows and is not stretched."""
    style = node.style
    if (how == "stretch" or not grows_by_proportion(node)) and not (
        follows_height(style) and style.gives_way
    ):
        return width
    return within(min(height * node.style.aspect, LONGEST), *node.across)


def carried_limits(node: LayoutNode, adding: bool) -> tuple[float, float] | None:
    """The limits that the height's bring for the content's width, by the proportion; None for a
    node that has none. `adding`: for what a picture adds to its holder, also where it grows.
    Source: CSS Sizing 4, section 4.1.1 (transferred size constraints)."""
    style = node.style
    if not style.aspect:
        return None
    pushed_x = style.push_left or style.push_right
    fits_x = style.width.mode == "fit" or (
        style.width.mode == "grow" and (style.grow_from != "nothing" or pushed_x)
    )
    pictured = node.kind == "image" and style.height.mode == "grow"
    both_fit = fits_x and (style.height.mode == "fit" or pictured)
    picture = node.kind == "image" and "fixed" not in (style.width.mode, style.height.mode)
    adds = adding and (picture or (style.width.mode == "grow" and style.height.mode == "fit"))
    if not (both_fit or adds or grows_by_proportion(node)):
        return None
    shortest, tallest = node.down
    least = min(shortest * style.aspect, LONGEST)
    return least, max(tallest * style.aspect, least)


def has_basis(node: LayoutNode) -> bool:
    """Whether a column's child begins with a length, or nothing: then its height is known for what
    is in it, whatever it comes to, as browsers have it."""
    style = node.style
    if style.height.mode != "grow" or style.grow_from == "content":
        return False
    base = style.grow_base
    return style.grow_from == "nothing" or not (isinstance(base, Size) and is_share(base))


def asks_height(node: LayoutNode) -> bool:
    """Whether it makes a difference inside of a node that its height is known beforehand."""
    return bool(node.deep & _BY_HEIGHT) or node.style.flow == "grid"


def width_asks_height(node: LayoutNode) -> bool:
    """Whether it makes a difference for how wide a node is by what is in it."""
    return bool((node.deep | (node.asks & WRAPS_DOWN)) & _BY_HEIGHT)


_BY_HEIGHT = RELATIVE | FOLLOWS | WRAPS_DOWN


def text_style(node: LayoutNode) -> TextStyle:
    """How its letters are set."""
    memory = memory_of(node)
    if memory.text_style is None:
        style = node.style
        memory.text_style = TextStyle(
            style.font_family,
            style.font_size,
            style.font_weight,
            style.line_height,
            style.letter_spacing,
            style.text_align,
            style.font_style == "italic",
            style.letter_case,
            int(style.max_lines),
            style.break_words,
            style.trim == "letters",
        )
    return memory.text_style
