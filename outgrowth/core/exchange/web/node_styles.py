"""What a node is in CSS in a case, with the elements that help to draw it: the edge of a stroke,
the strut that holds it open, the form of a shape."""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from outgrowth.core.document.properties import rows_of
from outgrowth.core.document.records import Path, Screen
from outgrowth.core.document.rooms import grows_within, has_fluid_letters, room_axes, rooms_of
from outgrowth.core.exchange.web.css import (
    SIDES,
    Around,
    Css,
    edge_css,
    even,
    fit_css,
    is_replaced,
    node_css,
    strut_css,
)
from outgrowth.core.exchange.web.evaluate import Evaluated, Evaluator
from outgrowth.core.exchange.web.selectors import FRAME, SelectorWriter
from outgrowth.core.exchange.web.shapes import shape_css
from outgrowth.core.exchange.web.sheet_paths import SheetPaths
from outgrowth.core.exchange.web.sides import EDGE_INSET, by_lines, edge_by_lines
from outgrowth.core.exchange.web.steps import AxisKey, AxisValues, ScopedStep
from outgrowth.core.exchange.web.symbols import px
from outgrowth.core.layout.sizes import GLYPH_BOX
from outgrowth.core.resolve.scene import PaintStyle

MOST_CELLS = 20_000
"""Cases of one node that are told apart."""
PICTURE = "var(--picture)"
"""The picture of an element as a background: the runtime tells it."""
STRUTTED = rows_of("size") | {"flow", "picture"}
"""Properties that decide whether a node has to be held open."""


class NodeStyles:
    """The CSS of one owner's nodes.

    families               of texts: what they were drawn with besides their own
    measured(path, cell)   the size of what is in a free box (px), which CSS cannot work out
    held_open              the paths of boxes that holders make other sizes of
    paths                  which nodes the owner has something to say of
    """

    def __init__(
        self,
        evaluator: Evaluator,
        families: tuple[str, ...],
        measured: Callable[[Path, AxisValues], tuple[float, float]],
        held_open: frozenset[Path],
        paths: SheetPaths,
        selectors: SelectorWriter,
    ) -> None:
        self._evaluator = evaluator
        self._steps = evaluator.steps
        self._families = families
        self._measured = measured
        self._held_open = held_open
        self._paths = paths
        self._selectors = selectors
        self._edges: dict[Path, bool] = {}
        self._struts: dict[Path, bool] = {}

    def parts(
        self, path: Path, cell: AxisValues, steps: tuple[ScopedStep, ...], arrangement: Around
    ) -> dict[str, Css]:
        """A node ("") and what helps to draw it, by its kind."""
        styled = self._evaluator.evaluated(path, cell, steps)
        node, paint = styled.node, styled.paint
        own = node_css(node, paint, arrangement, self._families, styled.click_through)
        if styled.cursor != "auto":
            own["cursor"] = styled.cursor
        if styled.order:
            own["order"] = f"{styled.order:g}"
        if is_replaced(node):
            own |= fit_css(paint, PICTURE)
        if not styled.shown:
            own["display"] = "none"
        owner = self._steps.owner
        if not path and isinstance(owner, Screen) and has_fluid_letters(owner):
            own["container-type"] = "inline-size"
        if styled.clears_edges and node.kind == "box" and node.style.flow != "free":
            own |= cleared(own)
        own |= styled.variables
        if styled.by_lines:
            own = by_lines(own)
        parts = {"": own}
        if self._selectors.framed(path):
            parts = self._framed(path, own, self._least(path, cell, steps))
            own = parts[""]
        if node.kind == "box" and self.edged(path):
            own.pop("box-shadow", None)
            shadows = node_css(node, _unstroked(styled), arrangement).get("box-shadow")
            own |= {"box-shadow": shadows} if shadows else {}
            parts["edge"] = edge_by_lines(edge_css(paint)) if styled.by_lines else edge_css(paint)
        if node.kind == "shape":
            parts["svg"] = shape_css(paint)
        strut = self._strut(path, cell, styled)
        if path in self._paths.restated:
            parts["strut"] = {"display": "block"} | strut if strut else {"display": "none"}
        elif strut:
            parts["strut"] = strut
        elif self.strutted(path):
            # Where nothing has to be held open it takes no part, nor a gap.
            parts["strut"] = {"display": "none"}
        return parts

    def _least(
        self, path: Path, cell: AxisValues, steps: tuple[ScopedStep, ...]
    ) -> tuple[float, float]:
        """The paddings across and down of such a root, the most of any room: it is never less."""
        component = self._steps.component_at(path)
        assert component is not None
        wide = high = 0.0
        for values in rooms_of(room_axes(component)):
            room = {AxisKey(path, axis): value for axis, value in values.items()}
            style = self._evaluator.evaluated(path, {**cell, **room}, steps).node.style
            if style.flow != "free":
                wide = max(wide, style.padding_left + style.padding_right)
                high = max(high, style.padding_top + style.padding_bottom)
        return wide, high

    def _framed(self, path: Path, css: Css, least: tuple[float, float]) -> dict[str, Css]:
        """The CSS of a root whose room decides what it is: of the element that stands in the holder
        and has the room, and of the root within it, which takes it all."""
        component = self._steps.component_at(path)
        assert component is not None
        names = self._evaluator.names.owners[component.id]
        asks_height = any(room.axis.side == "height" for room in names.rooms.values())
        # What an instance is given its holder says of the element, and nobody nearer may say it.
        given = {prop.variable for prop in names.properties.values()}
        frame = {name: value for name, value in css.items() if _is_of_frame(name) or name in given}
        # The root's holder is the element, which is no grid.
        root = {n: value for n, value in css.items() if n not in frame and value != "subgrid"}
        if "direction" in root:
            frame["direction"] = root["direction"]  # which side its lines begin at is its own
        frame |= {"display": root["display"] if root.get("display") == "none" else "flex"}
        frame |= {"flex-direction": "column", "align-items": "stretch"}
        for name, padding in zip(("min-width", "min-height"), least, strict=True):
            said = frame.get(name, "0")
            if padding and said in ("0", "auto"):
                frame[name] = px(padding)
            elif padding:
                frame[name] = f"max({said}, {px(padding)})"
        frame["container"] = f"{names.element} / {'size' if asks_height else 'inline-size'}"
        if root.get("display") == "none":
            root["display"] = "block"
        return {"": root | {"flex": "1 1 auto", "min-height": "0"}, FRAME: frame}

    def edged(self, path: Path) -> bool:
        """The same, for the template too: asked of the component whose node it is."""
        cached = self._edges.get(path)
        if cached is None:
            cached = self._edges[path] = self._any_edge(path)
        return cached

    def _any_edge(self, path: Path) -> bool:
        named = tuple(s for s in self._steps.of(path) if s.property.startswith("stroke-"))
        for cell in self.cells(path, self._steps.keys_of(named)) if named else ():
            paint = self._evaluator.evaluated(path, cell, named).paint
            if any(paint.strokes) and not even(paint):
                return True
        return False

    def strutted(self, path: Path) -> bool:
        """Whether an element holds a node open in any case."""
        cached = self._struts.get(path)
        if cached is None:
            cached = self._struts[path] = self._any_strut(path)
        return cached

    def _any_strut(self, path: Path) -> bool:
        if path and self._steps.component_at(path) is not None:
            return False
        if path in self._held_open:
            return True
        if self._evaluator.kind_at(path) not in ("shape", "image", "box"):
            return False
        steps = tuple(s for s in self._steps.of(path) if s.property in STRUTTED)
        for cell in self.cells(path, self._steps.keys_of(steps)):
            styled = self._evaluator.evaluated(path, cell, self._steps.of(path))
            if self._strut(path, cell, styled):
                return True
        return False

    def _strut(self, path: Path, cell: AxisValues, styled: Evaluated) -> Css:
        style, kind = styled.node.style, styled.node.kind
        if kind in ("shape", "image") and not is_replaced(styled.node):
            css = strut_css(style, GLYPH_BOX, GLYPH_BOX)
        elif kind == "box" and style.flow == "free":
            wide, high = self._measured(path, cell)
            self._tell_growing(path)
            # Words are rounded up, each run by itself, and a browser counts in 64ths of a px.
            css = strut_css(style, wide + 1 / 32, high)
        else:
            return {}
        return css if set(css.values()) != {"0px"} else {}

    def _tell_growing(self, path: Path) -> None:
        """Tells that a free box which fits is as large as what is in it only in one room."""
        node = self._steps.node_at(path)
        if node is None or not grows_within(node):
            return
        problem = (
            f"{self._selectors.called(path)} is a free box as large as what is in it, and letters "
            "in it grow with the room: it stays as large as in its own room. Give it a size."
        )
        if problem not in self._selectors.problems:
            self._selectors.problems.append(problem)

    def cells(self, path: Path, keys: list[AxisKey]) -> list[dict[AxisKey, str]]:
        """The cases that a node depends on; one, and a problem, where they are too many."""
        count = 1
        for key in keys:
            count *= len(self._steps.values_of(key))
        if count > MOST_CELLS:
            self._selectors.problems.append(
                f"{self._selectors.called(path)} depends on {count:,} cases; it is as usual."
            )
            return [{}]
        return list(self._steps.cells(keys))


def cleared(css: Css) -> Css:
    """The paddings of a box with what a device keeps for itself at its edges."""
    found: Css = {}
    for side in SIDES:
        inset = f"env({EDGE_INSET}{side}, 0px)"
        padding = css.get(f"padding-{side}", "0px")
        found[f"padding-{side}"] = inset if padding == "0px" else f"calc({padding} + {inset})"
    return found


_OF_FRAME = frozenset(
    [
        "width",
        "height",
        "min-width",
        "max-width",
        "min-height",
        "max-height",
        "flex",
        "align-self",
        "justify-self",
        "position",
        "inset-inline-start",
        "inset-inline-end",
        "left",
        "top",
        "right",
        "bottom",
        "grid-column",
        "grid-row",
        "order",
        "aspect-ratio",
    ]
)


def _is_of_frame(name: str) -> bool:
    """Whether something is said of how an element stands in its holder."""
    return name in _OF_FRAME or name.startswith("margin-")


def _unstroked(styled: Evaluated) -> PaintStyle:
    none = {f"stroke_{side}": 0.0 for side in SIDES}
    return msgspec.structs.replace(styled.paint, **none)
