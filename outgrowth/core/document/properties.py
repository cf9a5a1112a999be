"""The one place that says what a style property is.

The cascade, layout, tween, ledger, JSON Schema and code export all read this table. To
add a property is to add a row here, and its meaning where layout or painting happens.
"""

from __future__ import annotations

from typing import Literal

import msgspec
from immutables import Map

from outgrowth.core.color import TRANSPARENT, Color
from outgrowth.core.document.grid_areas import AreasType, AreaType
from outgrowth.core.document.grid_tracks import TracksType
from outgrowth.core.document.types import (
    ChoiceType,
    ChosenType,
    ColorType,
    ContentType,
    FillType,
    FlagType,
    LimitType,
    ModeType,
    NameType,
    NumberType,
    OnceType,
    PictureType,
    ShadowsType,
    SizeType,
    ValueType,
    check_value,
)
from outgrowth.core.document.values import (
    FIT,
    GROW,
    NO_PICTURE,
    FromProperty,
    Literals,
    Shift,
    Token,
    Value,
)
from outgrowth.core.refusal import ValueRefusal, shown_value

NodeKind = Literal["box", "text", "shape", "image", "instance"]
Affects = Literal["layout", "paint", "presence", "pointer", "structure"]
Consumer = Literal["drawn", "page", "elements", "tween", "contrast"]
ColorPart = Literal["fill", "stroke", "text", "shadow"]
Mix = Literal["linear", "color", "shadows", "fade", "cut"]
Role = Literal[
    "structure",
    "content",
    "placement",
    "size",
    "arrangement",
    "look",
    "text",
    "transform",
    "behaviour",
]

ANY: frozenset[NodeKind] = frozenset(("box", "text", "shape", "image", "instance"))
BOX: frozenset[NodeKind] = frozenset(("box",))
TEXT: frozenset[NodeKind] = frozenset(("text",))
SHAPE: frozenset[NodeKind] = frozenset(("shape",))
IMAGE: frozenset[NodeKind] = frozenset(("image",))
INSTANCE: frozenset[NodeKind] = frozenset(("instance",))

CHOICE = "choice:"
"""What the name of a property begins with that gives an instance's value for an axis or a
component property; the id follows."""


GROUPS = (
    "Words",
    "Picture",
    "Size",
    "Arrangement",
    "Paint",
    "Corners",
    "Type",
    "Shadow",
    "Position",
    "Transform",
    "Shape",
    "Pointer",
    "Presence",
)
"""The ledger's sections, in its order; what stands in no section has editors of its own."""


class StyleProperty(msgspec.Struct, frozen=True):
    """One row of the table.

    name    key in files and rules; the CSS name where CSS has one
    label   what the ledger calls it
    group   the ledger's section
    role    what the value is about: what an instance keeps when it is put back (structure,
            placement, size), what pasting a look sets (look, text) … ask this
    kinds   the node kinds it means something for
    type    what values are allowed and how they are written
    default the cascade's first step
    affects what a change makes necessary: a new layout, a repaint, or (presence,
            structure) a new tree; `pointer` needs neither
    mix     how two values are mixed in a tween: linear, color (OKLab, premultiplied),
            shadows (pairwise), fade (the old fades out, the new in), cut (at the start)
    help    one sentence for the tool tip
    quiet   the ledger shows the row only where somebody sets it, or when asked for more
    colors  the colours of a part that it decides or changes
    in_page whether the static page says it, though nothing of it is drawn
    in_scene whether what is drawn follows it, though no style holds it: it decides what others mean

    Who has to know the row follows from these: see `consumers`.
    """

    name: str
    label: str
    group: str
    role: Role
    kinds: frozenset[NodeKind]
    type: ValueType
    default: Literals
    affects: Affects
    mix: Mix
    help: str = ""
    quiet: bool = False
    colors: frozenset[ColorPart] = frozenset()
    in_page: bool = False
    in_scene: bool = False

    @property
    def consumers(self) -> frozenset[Consumer]:
        """Who has to do something with it; tests/core/document/test_rows.py asks each of them.

        drawn     the display list, and so Qt, SVG and pictures (core/paint)
        page      the static page (exchange/web/css)
        elements  the exported elements (the same mapping, template.py and rule_values.py)
        tween     what moves between two of its values (core/motion; runtime_tables.TWEENED_AS)
        contrast  the review of colours (core/review/contrast)
        """
        consumers: set[Consumer] = {"elements"}
        if self.affects in ("layout", "paint", "presence") or self.colors or self.in_scene:
            consumers |= {"drawn", "page"}
        if self.in_page:
            consumers.add("page")
        if self.mix in ("linear", "color", "shadows"):
            consumers.add("tween")
        if self.colors - {"shadow"}:
            consumers.add("contrast")
        return frozenset(consumers)

    @property
    def field(self) -> str:
        """The name as an attribute of a resolved style."""
        return self.name.replace("-", "_")


LENGTH = NumberType(0.0)
SIGNED = NumberType()
SHARE = NumberType(0.0, 1.0, "")
SIZE = SizeType()
LIMIT = LimitType()
COUNT = NumberType(1.0, 200.0, "")
LINE = NumberType(0.0, 200.0, "")
INK = Color(0x17 / 255, 0x25 / 255, 0x2B / 255)

_SIDES = ("top", "right", "bottom", "left")
_CORNERS = ("top-left", "top-right", "bottom-right", "bottom-left")
JUSTIFY = ("start", "center", "end", "space-between", "space-around", "space-evenly")
ALIGN = ("start", "center", "end", "stretch", "baseline")
LINES = ("start", "center", "end", "stretch", "space-between", "space-around", "space-evenly")
DIRECTIONS = ("as-around", "left-to-right", "right-to-left")
SIDES = ("left-right", "start-end")
PINS = ("start", "end", "both", "center", "scale")


ROLES = (
    "none",
    "button",
    "link",
    "checkbox",
    "switch",
    "radio",
    "radiogroup",
    "tab",
    "tablist",
    "tabpanel",
    "textbox",
    "img",
    "list",
    "listitem",
    "heading",
)
"""Source: WAI-ARIA 1.2, the roles that our parts have."""
CURSORS = ("auto", "default", "pointer", "text", "move", "not-allowed")


_ALL_COLORS: frozenset[ColorPart] = frozenset(("fill", "stroke", "text", "shadow"))


# A table is read as rows, so the formatter leaves this one alone.
# fmt: off
def _rows() -> list[StyleProperty]:
    row = StyleProperty
    rows = [
        row("content", "Words", "Words", "content", TEXT, ContentType(), (), "layout", "fade",
            help="The words that this text shows."),
        row("picture", "Picture", "Picture", "content", IMAGE, PictureType(), NO_PICTURE, "layout",
            "fade", help="The picture that this image shows."),
        row("fit", "Fit", "Picture", "look", IMAGE,
            ChoiceType(("cover", "contain", "stretch", "tile")), "cover", "paint", "cut",
            "How the picture fills the room: cut, whole, out of shape, or side by side."),
        row("focal-x", "Focal point across", "Picture", "look", IMAGE, SHARE, 0.5, "paint",
            "linear", help="What stays in sight of a picture that is cut: 0 is its left edge, 1 "
            "its right one."),
        row("focal-y", "Focal point down", "Picture", "look", IMAGE, SHARE, 0.5, "paint", "linear",
            help="What stays in sight of a picture that is cut: 0 is its top, 1 its bottom."),
        row("shown", "Shown", "Presence", "placement", ANY, FlagType(), True, "presence", "cut",
            "A node that is not shown takes no room and no gap."),
        row("component", "Component", "Component", "structure", INSTANCE, NameType(), "",
            "structure", "cut", help="The component that this instance follows."),
        row("flow", "Flow", "Arrangement", "arrangement", BOX,
            ChoiceType(("row", "column", "grid", "free")), "row", "layout", "cut",
            "How the box arranges its children."),
        row("wrap", "Wrap", "Arrangement", "arrangement", BOX, FlagType(), False, "layout", "cut",
            "Starts a new line where the next child does not fit."),
        row("columns", "Columns", "Arrangement", "arrangement", BOX, TracksType(), (GROW, GROW),
            "layout", "cut", "How wide each column of a grid is."),
        row("rows", "Rows", "Arrangement", "arrangement", BOX, TracksType(), (), "layout", "cut",
            "How high each row of a grid is; those that are not listed fit what is in them."),
        row("areas", "Areas", "Arrangement", "arrangement", BOX, AreasType(), "", "layout", "cut",
            "Cells by name, row by row: head head / side main; a dot is a cell of nobody."),
        row("subgrid", "Lines up", "Arrangement", "arrangement", BOX,
            ChoiceType(("none", "columns", "rows", "both")), "none", "layout", "cut",
            "A grid in a grid: its columns or rows are those of the one around it (subgrid)."),
        row("gap", "Gap", "Arrangement", "look", BOX, LENGTH, 0.0, "layout", "linear",
            "The room between neighbouring children."),
        row("cross-gap", "Line gap", "Arrangement", "look", BOX, LENGTH, 0.0, "layout", "linear",
            help="The room between the lines of a box that wraps, or the rows of a grid."),
    ]
    for side in _SIDES:
        rows.append(
            row(f"padding-{side}", f"Padding {side}", "Arrangement", "look", BOX, LENGTH, 0.0,
                "layout", "linear", "The room between the box's edge and its children.")
        )
    rows += [
        row("direction", "Reads", "Arrangement", "arrangement", ANY, ChoiceType(DIRECTIONS),
            "as-around", "structure", "cut",
            help="In which direction this part and all in it read: start is where lines begin.",
            in_scene=True),
        row("sides", "Sides", "Arrangement", "arrangement", BOX | TEXT | SHAPE | IMAGE,
            ChoiceType(SIDES), "left-right", "structure", "cut",
            help="Whether its left and right are the start and end of lines, or stay as said.",
            in_scene=True),
        row("mirrored", "Mirrored", "Arrangement", "arrangement", BOX, FlagType(), False, "layout",
            "cut", "Runs from right to left, as for right-to-left writing."),
        row("justify", "Justify", "Arrangement", "look", BOX, ChoiceType(JUSTIFY), "start",
            "layout", "cut", "Where children stand along the flow."),
        row("align", "Align", "Arrangement", "look", BOX, ChoiceType(ALIGN), "start", "layout",
            "cut", "Where children stand across the flow."),
        row("align-content", "Align lines", "Arrangement", "look", BOX, ChoiceType(LINES), "start",
            "layout", "cut", "Where the lines of a box that wraps, or the rows of a grid, stand."),
        row("justify-items", "Across cells", "Arrangement", "look", BOX,
            ChoiceType(("start", "center", "end", "stretch")), "start", "layout", "cut",
            "Where children stand across the columns of a grid."),
        row("reversed", "Last first", "Arrangement", "arrangement", BOX, FlagType(), False,
            "layout", "cut", "The flow begins at its other end."),
        row("lines-reversed", "Last line first", "Arrangement", "arrangement", BOX, FlagType(),
            False, "layout", "cut", "The lines of a box that wraps begin at its other end."),
        row("scrolls", "Scrolls", "Arrangement", "arrangement", BOX,
            ChoiceType(("none", "x", "y", "both")), "none", "layout", "cut",
            "What has no room inside is reached by scrolling."),
        row("clears-edges", "Clears edges", "Arrangement", "arrangement", BOX, FlagType(),
            False, "pointer", "cut",
            "Its padding grows by what a device keeps for itself at the edges (safe area)."),
        row("clip", "Clip", "Arrangement", "look", BOX, FlagType(), False, "paint", "cut",
            "Hides what reaches over the box's edge."),
        row("width", "Width", "Size", "size", ANY, SIZE, FIT, "layout", "cut",
            "Fixed, as wide as its content, or growing with its container."),
        row("height", "Height", "Size", "size", ANY, SIZE, FIT, "layout", "cut",
            "Fixed, as high as its content, or growing with its container."),
        row("min-width", "Least width", "Size", "size", ANY, LIMIT, 0.0, "layout", "linear",
            "Never narrower than this; 0 is no limit."),
        row("max-width", "Most width", "Size", "size", ANY, LIMIT, 0.0, "layout", "linear",
            "Never wider than this; 0 is no limit."),
        row("min-height", "Least height", "Size", "size", ANY, LIMIT, 0.0, "layout", "linear",
            "Never lower than this; 0 is no limit."),
        row("max-height", "Most height", "Size", "size", ANY, LIMIT, 0.0, "layout", "linear",
            "Never higher than this; 0 is no limit."),
        row("aspect", "Proportion", "Size", "size", BOX | SHAPE | IMAGE,
            NumberType(0.0, 1000.0, ""), 0.0, "layout", "linear",
            "Width by height: a fitting side follows the other. 0 is none, or the picture's own."),
        row("grow-from", "Grows from", "Size", "size", ANY,
            ChoiceType(("nothing", "content", "size")), "nothing", "layout", "cut",
            "What a growing side begins with: shares of all the room, or of what is left over."),
        row("grow-base", "Grows from size", "Size", "size", ANY, LIMIT, 0.0, "layout", "linear",
            "The size that a side begins with which grows from a size."),
        row("gives-way", "Gives way", "Size", "size", ANY, FlagType(), False, "layout", "cut",
            "A fixed side gets smaller along the flow where there is no room."),
        row("shrink", "Gives up", "Size", "size", ANY, NumberType(0.0, 1000.0, ""), 1.0, "layout",
            "cut", "Its share of what is missing along the flow; 0 is nothing, 2 twice as much."),
        row("align-self", "Align self", "Size", "placement", ANY, ChoiceType(("auto", *ALIGN)),
            "auto", "layout", "cut", "Where this node stands across its box's flow."),
    ]
    for side in _SIDES:
        rows.append(
            row(f"margin-{side}", f"Margin {side}", "Size", "placement", ANY, SIGNED, 0.0, "layout",
                "linear", "The room kept free outside this node.")
        )
    for side in _SIDES:
        rows.append(
            row(f"push-{side}", f"Push {side}", "Size", "placement", ANY, FlagType(), False,
                "layout", "cut", "The margin on this side takes all the room that is left.")
        )
    rows += [
        row("area", "In area", "Position", "placement", ANY, AreaType(), "", "layout", "cut",
            "The area of a grid, by its name, that it fills; empty is its column and row."),
        row("column-start", "In column", "Position", "placement", ANY, LINE, 0.0, "layout", "cut",
            "The column of a grid that it begins in; 0 is the next that is free."),
        row("column-span", "Columns wide", "Position", "placement", ANY, COUNT, 1.0, "layout",
            "cut", "How many columns of a grid it takes."),
        row("row-start", "In row", "Position", "placement", ANY, LINE, 0.0, "layout", "cut",
            "The row of a grid that it begins in; 0 is the next that is free."),
        row("row-span", "Rows high", "Position", "placement", ANY, COUNT, 1.0, "layout", "cut",
            "How many rows of a grid it takes."),
        row("offset-x", "Moved right", "Position", "placement", ANY, SIGNED, 0.0, "layout",
            "linear", "Stands beside its place in the flow; its neighbours stay where they are."),
        row("offset-y", "Moved down", "Position", "placement", ANY, SIGNED, 0.0, "layout",
            "linear", "Stands below its place in the flow; its neighbours stay where they are."),
        row("sticks", "Sticks to", "Position", "placement", ANY,
            ChoiceType(("none", "top", "right", "bottom", "left")), "none", "layout", "cut",
            "Stays in sight at this edge of the box that scrolls it."),
        row("x", "X", "Position", "placement", ANY, SIGNED, 0.0, "layout", "linear",
            "From the left edge of a free box."),
        row("y", "Y", "Position", "placement", ANY, SIGNED, 0.0, "layout", "linear",
            "From the top edge of a free box."),
        row("floating", "Floating", "Position", "placement", ANY, FlagType(), False, "layout",
            "cut", "Takes no room among its neighbours; its pins say where it stands."),
        row("pin-x", "Pinned across", "Position", "placement", ANY, ChoiceType(PINS), "start",
            "layout", "cut",
            help="Which edges a floating child, or one of a free box, is tied to."),
        row("pin-y", "Pinned down", "Position", "placement", ANY, ChoiceType(PINS), "start",
            "layout", "cut",
            help="Which edges a floating child, or one of a free box, is tied to."),
        row("right", "From the right", "Position", "placement", ANY, SIGNED, 0.0, "layout",
            "linear", "From the right edge, for what is pinned there."),
        row("bottom", "From below", "Position", "placement", ANY, SIGNED, 0.0, "layout", "linear",
            "From the bottom edge, for what is pinned there."),
        row("order", "Order", "Position", "placement", ANY, NumberType(-1000.0, 1000.0, ""), 0.0,
            "presence", "cut", "Lower numbers come first; equal ones keep the order of the tree."),
        row("fill", "Fill", "Paint", "look", BOX | SHAPE | IMAGE, FillType(), TRANSPARENT, "paint",
            "color", "The colour of the inside.", colors=frozenset(("fill",))),
        row("stroke", "Stroke", "Paint", "look", BOX | SHAPE, ColorType(), TRANSPARENT, "paint",
            "color", help="The colour of the line around it.", colors=frozenset(("stroke",))),
        row("line-width", "Line width", "Paint", "look", SHAPE, NumberType(0.0, 1000.0), 0.0,
            "paint", "linear", "How thick the line is, in the path's own units."),
        row("stroke-place", "Stroke lies", "Paint", "look", BOX,
            ChoiceType(("inside", "center", "outside")), "inside", "paint", "cut",
            help="Where the line lies on the box's edge; it never takes room."),
        row("color", "Colour", "Paint", "look", TEXT, ColorType(), INK, "paint", "color",
            "The colour of the letters.", colors=frozenset(("text",))),
        row("opacity", "Opacity", "Paint", "look", ANY, SHARE, 1.0, "paint", "linear",
            "0 is invisible, 1 is solid.", colors=_ALL_COLORS),
        row("mode", "Mode", "Paint", "look", ANY, ModeType(), "", "structure", "cut",
            "The mode in which this part and all in it show their tokens.", colors=_ALL_COLORS),
    ]
    for side in _SIDES:
        rows.append(
            row(f"stroke-{side}", f"Stroke {side}", "Paint", "look", BOX, NumberType(0.0, 1000.0),
                0.0, "paint", "linear", help="How thick the line is on this side.")
        )
    for corner in _CORNERS:
        rows.append(
            row(f"radius-{corner}", f"Radius {corner}", "Corners", "look", BOX | IMAGE, LENGTH, 0.0,
                "paint", "linear", "How round this corner is.")
        )
    rows += [
        row("shadow", "Shadow", "Shadow", "look", BOX | IMAGE, ShadowsType(), (), "paint",
            "shadows", "Shadows, outer or inner.", colors=frozenset(("shadow",))),
        row("translate-x", "Shift right", "Transform", "transform", ANY, SIGNED, 0.0, "paint",
            "linear", help="Moves the picture, not the layout."),
        row("translate-y", "Shift down", "Transform", "transform", ANY, SIGNED, 0.0, "paint",
            "linear", help="Moves the picture, not the layout."),
        row("scale", "Scale", "Transform", "transform", ANY, NumberType(0.0, 100.0, "×"), 1.0,
            "paint", "linear", "Grows the picture about its origin, not the layout."),
        row("rotate", "Rotate", "Transform", "transform", ANY, NumberType(-36000.0, 36000.0, "°"),
            0.0, "paint", "linear", "Turns the picture about its origin, clockwise."),
        row("origin-x", "Origin across", "Transform", "transform", ANY, SHARE, 0.5, "paint",
            "linear", help="0 is the left edge, 0.5 the middle, 1 the right edge."),
        row("origin-y", "Origin down", "Transform", "transform", ANY, SHARE, 0.5, "paint", "linear",
            help="0 is the top edge, 0.5 the middle, 1 the bottom edge."),
        row("turns", "Turns with the direction", "Transform", "transform", ANY, FlagType(), False,
            "paint", "cut", "Shown the other way round where one reads from right to left."),
        row("font-family", "Typeface", "Type", "text", TEXT, NameType(), "Figtree", "layout", "cut",
            "The family of the letters."),
        row("font-size", "Size", "Type", "text", TEXT, NumberType(1.0, 2000.0), 16.0, "layout",
            "linear", "The size of the letters."),
        row("fluid-size", "Grows to", "Type", "text", TEXT, NumberType(0.0, 2000.0), 0.0, "layout",
            "linear", "The size that letters come to where there is much room; 0 is none."),
        row("fluid-from", "From a room of", "Type", "text", TEXT, NumberType(0.0, 10000.0), 320.0,
            "layout", "linear", "Up to which width of the room the letters have their first size."),
        row("fluid-until", "To a room of", "Type", "text", TEXT, NumberType(0.0, 10000.0), 960.0,
            "layout", "linear", "From which width of the room on they have grown."),
        row("font-weight", "Weight", "Type", "text", TEXT, NumberType(1.0, 1000.0, ""), 400.0,
            "layout", "cut", "400 is regular, 700 bold."),
        row("line-height", "Line height", "Type", "text", TEXT, NumberType(0.1, 20.0, "×"), 1.4,
            "layout", "linear", "The height of a line, in font sizes."),
        row("letter-spacing", "Letter spacing", "Type", "text", TEXT, NumberType(-100.0, 100.0),
            0.0, "layout", "linear", "The room added after each letter."),
        row("text-align", "Text align", "Type", "text", TEXT,
            ChoiceType(("start", "center", "end")), "start", "layout", "cut",
            "Where the lines stand in the text's box."),
        row("font-style", "Slant", "Type", "text", TEXT, ChoiceType(("normal", "italic")), "normal",
            "layout", "cut", "Whether the letters lean."),
        row("letter-case", "Letters", "Type", "text", TEXT,
            ChoiceType(("none", "uppercase", "lowercase", "capitalize")), "none", "layout", "cut",
            "Shows the words in other letters than they are written in."),
        row("max-lines", "Most lines", "Type", "text", TEXT, NumberType(0.0, 1000.0, ""), 0.0,
            "layout", "cut", "What is longer ends in an ellipsis; 0 is no limit."),
        row("break-words", "Break inside words", "Type", "text", TEXT, FlagType(), False, "layout",
            "cut", "A word that is longer than a line goes on in the next."),
        row("trim", "Trim", "Type", "text", TEXT, ChoiceType(("none", "letters")), "none",
            "layout", "cut", "Whether the text's box ends at its capitals and its last baseline."),
        row("decoration", "Line", "Type", "text", TEXT,
            ChoiceType(("none", "underline", "line-through")), "none", "paint", "cut",
            "A line along the words."),
        row("form", "Form", "Shape", "content", SHAPE, ChoiceType(("path", "ellipse", "line")),
            "path", "paint", "cut", help="What the shape is; an ellipse can be an arc or a ring."),
        row("arc-start", "From", "Shape", "content", SHAPE, NumberType(-36000.0, 36000.0, "°"), 0.0,
            "paint", "linear", help="Where an arc begins: 0 is the top, clockwise."),
        row("arc-sweep", "Sweep", "Shape", "content", SHAPE, NumberType(-360.0, 360.0, "°"), 360.0,
            "paint", "linear", help="How far an arc reaches around."),
        row("thickness", "Thickness", "Shape", "content", SHAPE, LENGTH, 0.0, "paint", "linear",
            help="How thick a ring is; 0 is a full disc."),
        row("path", "Path", "Shape", "content", SHAPE, NameType(), "", "paint", "cut",
            help="The outline, in the path grammar of SVG 2."),
        row("path-size", "Path size", "Shape", "content", SHAPE, NumberType(1.0, 10000.0), 24.0,
            "paint", "cut", help="How wide the room is that the path was drawn in."),
        row("path-height", "Path height", "Shape", "content", SHAPE, NumberType(0.0, 10000.0), 0.0,
            "paint", "cut",
            help="How high the room is that the path was drawn in; 0 is as high as wide."),
        row("fill-rule", "Inside", "Shape", "content", SHAPE, ChoiceType(("nonzero", "evenodd")),
            "nonzero", "paint", "cut", "What counts as inside where the outline crosses itself."),
        row("line-ends", "Line ends", "Shape", "content", SHAPE,
            ChoiceType(("round", "butt", "square")), "round", "paint", "cut",
            "How an open line ends."),
        row("line-joins", "Line corners", "Shape", "content", SHAPE,
            ChoiceType(("round", "miter", "bevel")), "round", "paint", "cut",
            "How the line goes around a corner."),
        row("one-at-a-time", "Only one", "Pointer", "behaviour", BOX, OnceType(), (),
            "pointer", "cut", help="Values that only one instance in this box has at a time."),
        row("role", "Role", "Pointer", "behaviour", ANY, ChoiceType(ROLES), "none", "pointer",
            "cut", "What the part is for assistive technology, and which keys it takes."),
        row("label", "Spoken name", "Pointer", "behaviour", ANY, NameType(), "", "pointer", "cut",
            "What assistive technology calls the part; empty for its words."),
        row("cursor", "Cursor", "Pointer", "behaviour", ANY, ChoiceType(CURSORS), "auto", "pointer",
            "cut", "What the pointer looks like here."),
        row("click-through", "Click-through", "Pointer", "behaviour", ANY, FlagType(), False,
            "pointer", "cut", "The pointer reaches what is beneath.", in_page=True),
    ]
    return rows
# fmt: on


_QUIET = {
    "columns",
    "rows",
    "areas",
    "subgrid",
    "area",
    "align-content",
    "justify-items",
    "reversed",
    "lines-reversed",
    "clears-edges",
    "scrolls",
    "grow-from",
    "grow-base",
    "gives-way",
    "shrink",
    "focal-x",
    "focal-y",
    "push-top",
    "push-right",
    "push-bottom",
    "push-left",
    "column-start",
    "column-span",
    "row-start",
    "row-span",
    "offset-x",
    "offset-y",
    "sticks",
    "break-words",
    "trim",
    "clip",
    "direction",
    "sides",
    "turns",
    "mirrored",
    "wrap",
    "cross-gap",
    "aspect",
    "floating",
    "pin-x",
    "pin-y",
    "right",
    "bottom",
    "min-width",
    "max-width",
    "min-height",
    "max-height",
    "align-self",
    "x",
    "y",
    "margin-top",
    "margin-right",
    "margin-bottom",
    "margin-left",
    "translate-x",
    "translate-y",
    "scale",
    "rotate",
    "origin-x",
    "origin-y",
    "letter-spacing",
    "fluid-size",
    "fluid-from",
    "fluid-until",
    "font-style",
    "letter-case",
    "max-lines",
    "decoration",
    "path-size",
    "path-height",
    "fill-rule",
    "line-ends",
    "line-joins",
    "path",
    "form",
    "arc-start",
    "arc-sweep",
    "thickness",
    "stroke-place",
    "click-through",
    "one-at-a-time",
    "label",
    "cursor",
    "opacity",
    "mode",
    "shown",
    "order",
    "component",
}

TABLE: dict[str, StyleProperty] = {
    row.name: msgspec.structs.replace(row, quiet=row.name in _QUIET) for row in _rows()
}

_CHOICE_ROW = StyleProperty(
    CHOICE, "Choice", "Component", "structure", INSTANCE, ChosenType(), "", "structure", "cut"
)

PROPERTY_TYPES: dict[str, ValueType] = {
    "text": ContentType(),
    "switch": FlagType(),
    "slot": NameType(),
    "color": ColorType(),
    "number": SIGNED,
}
"""The type of each kind of property that a component offers to its instances."""

TOKEN_TYPES: dict[str, ValueType] = {
    "color": ColorType(),
    "dimension": SIGNED,
    "number": SIGNED,
    "duration": NumberType(0.0, 60_000.0, "ms"),
    "easing": NameType(),
    "family": NameType(),
    "shadow": ShadowsType(),
}
"""The type of each kind of design token."""


def row_of(name: str) -> StyleProperty:
    """The row of a property, that of an instance's choice included.

    Raises KeyError for a name that the table does not have.
    """
    if name.startswith(CHOICE):
        return _CHOICE_ROW
    return TABLE[name]


def checked(name: str, value: Value) -> Value:
    """A property's value as documents hold it: whoever makes a node or a rule comes by here.

    Raises ValueRefusal for a property that the table does not have, or a value that its row
    refuses.
    """
    try:
        row = row_of(name)
    except KeyError as problem:
        raise ValueRefusal(f"There is no property called {shown_value(name)}.") from problem
    try:
        return check_value(row.type, value)
    except ValueRefusal as problem:
        raise ValueRefusal(f"{row.label}: {problem}") from problem


def checked_style(style: Map[str, Value]) -> Map[str, Value]:
    """The same for all that a node says; the very same map where nothing had to change."""
    for name, value in style.items():
        if _plainly_fits(name, value):
            continue
        after = checked(name, value)
        if after is not value and (after != value or type(after) is not type(value)):
            style = style.set(name, after)
    return style


_SHORT = 1_000


def _plainly_fits(name: str, value: Value) -> bool:
    """Whether a value is at once seen to be as documents hold it: most are, and a file of
    20 MB has hundreds of thousands."""
    row = TABLE.get(name)
    of, kind = type(value), row.type if row is not None else None
    if of is str and (isinstance(kind, NameType) or (kind is None and name.startswith(CHOICE))):
        return len(value) <= _SHORT and value.isascii()  # type: ignore[arg-type,union-attr]  # a text
    if of is float and isinstance(kind, NumberType):
        return kind.minimum <= value <= kind.maximum  # type: ignore[operator]  # a float
    if of is str and isinstance(kind, ChoiceType):
        return value in kind.options
    if of is bool:
        return isinstance(kind, FlagType)
    return of in (Token, FromProperty, Shift)  # these check themselves


def checked_token(kind: str, value: Value) -> Value:
    """A design token's value as documents hold it: a literal of its kind, or a reference to
    another token. Raises ValueRefusal."""
    if kind not in TOKEN_TYPES:
        raise ValueRefusal(f"{shown_value(kind)} is no kind of token.")
    return value if isinstance(value, Token) else TOKEN_TYPES[kind].check(value)


def fitting(name: str, value: Value) -> Literals:
    """What a property shows for a value that was worked out (by a shift, by a token of
    another range): the nearest that its row allows, its default where none is near."""
    row = row_of(name)
    try:
        return row.type.fit(value)
    except ValueRefusal:
        return row.default


def rows_of(*roles: Role) -> frozenset[str]:
    """The names of the rows that are about this."""
    return frozenset(row.name for row in TABLE.values() if row.role in roles)


def consumed_by(consumer: Consumer) -> frozenset[str]:
    """The names of the rows that somebody has to know."""
    return frozenset(row.name for row in TABLE.values() if consumer in row.consumers)


def applies(name: str, kind: NodeKind) -> bool:
    """Whether a property means something for a node of this kind."""
    if name.startswith(CHOICE):
        return kind == "instance"
    row = TABLE.get(name)
    return row is not None and kind in row.kinds


FAMILY_MEMBERS: dict[str, tuple[str, ...]] = {
    "padding": tuple(f"padding-{side}" for side in _SIDES),
    "margin": tuple(f"margin-{side}" for side in _SIDES),
    "stroke-width": tuple(f"stroke-{side}" for side in _SIDES),
    "radius": tuple(f"radius-{corner}" for corner in _CORNERS),
    "pins": ("pin-x", "pin-y"),
    "focal-point": ("focal-x", "focal-y"),
    "grows-to": ("fluid-size", "fluid-from", "fluid-until"),
    "push": tuple(f"push-{side}" for side in _SIDES),
}
"""Rows that belong together and can be set at once, by their common name."""

FAMILY_OF: dict[str, str] = {
    member: name for name, members in FAMILY_MEMBERS.items() for member in members
}
"""The common name of each such row."""


def family_label(family: str) -> str:
    """What rows that belong together are called in lists: “Stroke width”."""
    return family.capitalize().replace("-", " ")
