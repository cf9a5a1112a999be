"""What layout remembers of a node: results live and die with the node that they belong to.

Invariant: a node never changes, and neither does what it was laid out to under the same
constraints; so nothing here is ever out of date, only forgotten to keep it small.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from outgrowth.core.document.values import Tracks
from outgrowth.core.layout.placed import Placed
from outgrowth.core.resolve.scene import LayoutNode, Memory
from outgrowth.core.text.paragraph import TextStyle

MOST_SIZES = 64
"""Under how many constraints a node keeps its layout; a long drag of a width asks for more."""

SizeKey = tuple[float, float | None, bool]
"""Border-box width, height (None where the content decides) and whether that height is definite."""


class StackedChild(NamedTuple):
    """A child of a column that fits its children: where it stands across, how far below the
    end of what comes before it, and how much room it takes, margins included (px)."""

    placed: Placed
    x: float
    drop: float
    reach: float


class ColumnStack(NamedTuple):
    """The children of such a column; of a long one, also how much room each takes (px)."""

    parts: list[StackedChild]
    reaches: np.ndarray[tuple[int], np.dtype[np.float64]]


class LayoutMemory(Memory):
    """The results of one layout node.

    sizes         the node placed in a border box of a size
    intrinsic     min-content and max-content width, by the height that is known (None: none)
    relative      the node with px in the place of per cent, by the holder's inner size
    text_style    its letters
    stacks        its children as a column stands them, by the width inside
    stacked       itself in such a column, by the width there, the alignment and the direction
    pinned        a long free box, by its size
    subgrids      a grid that follows the one around it, by the columns and rows that it gets
    fluid         the node with the letters that grow, by the width of the room
    """

    __slots__ = (
        "fluid", "intrinsic", "pinned", "relative", "sizes", "stacked", "stacks", "subgrids",
        "text_style",
    )  # fmt: skip

    def __init__(self) -> None:
        self.text_style: TextStyle | None = None
        self.forget()

    def forget(self) -> None:
        """Forgets all but the letters: the node was laid out in too many ways."""
        self.sizes: dict[SizeKey, Placed] = {}
        self.intrinsic: dict[float | None, tuple[float, float]] = {}
        self.relative: dict[tuple[float | None, float | None], LayoutNode] = {}
        self.stacks: dict[float, ColumnStack] = {}
        self.stacked: dict[tuple[float, str, bool], StackedChild] = {}
        self.pinned: dict[tuple[float, float], Placed] = {}
        self.subgrids: dict[tuple[Tracks, Tracks], LayoutNode] = {}
        self.fluid: dict[float, LayoutNode] = {}


def memory_of(node: LayoutNode) -> LayoutMemory:
    """What is remembered of a node; only this module ever sets it."""
    memory = node.memory
    if memory is None:
        memory = node.memory = LayoutMemory()
    return memory  # type: ignore[return-value]  # set here alone; a look at it would cost each call
