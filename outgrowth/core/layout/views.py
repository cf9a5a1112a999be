"""Scenes with their layout: what nothing holds, in its own room, in one that it is given, or in the
nearest that shows the variant which it tells."""

from __future__ import annotations

import math

from outgrowth.core.document.formulas import is_share
from outgrowth.core.document.rooms import JUST_BELOW
from outgrowth.core.layout import fluid
from outgrowth.core.layout.by_room import settled
from outgrowth.core.layout.engine import LayoutEngine
from outgrowth.core.layout.placed import Placed
from outgrowth.core.layout.relative import resolved_relative
from outgrowth.core.layout.sizes import within
from outgrowth.core.resolve.scene import FLUID, SceneNode

_HAIR = 1e-6


class Layout(LayoutEngine):
    """Lays out scenes."""

    def view(
        self,
        scene: SceneNode,
        room_x: float = math.inf,
        room_y: float = math.inf,
        takes_all: bool = False,
    ) -> tuple[SceneNode, Placed]:
        """A scene with its layout: what room is there decides what those parts are that ask for it.
        A variant that tells its room has one of that size, the nearest to its own.

        room_x, room_y  see `place`
        takes_all       the root is as large as its room, unless it says which share of it: a
                        screen in its window
        """
        placed = self._outermost(scene, room_x, room_y, takes_all)
        if scene.layout.deep & FLUID:
            # A screen's own width depends on no letters.
            room = fluid.inside_width(scene.layout, placed.width)
            scene = fluid.scene_in_room(scene, room)
            placed = self._outermost(scene, room_x, room_y, takes_all)
        return settled(scene, placed), placed

    def _outermost(self, scene: SceneNode, room_x: float, room_y: float, takes_all: bool) -> Placed:
        """A scene that nothing holds, in as much room as there is."""
        rooms = scene.layout.rooms
        # What has one look in every room has a size of its own where it is shown by itself.
        inside = rooms.nodes[0] if rooms is not None and not rooms.measures else None
        placed = self.place(inside or scene.layout, room_x, room_y)
        if scene.known_rooms:
            placed = self._in_known_rooms(scene, placed)
        elif (takes_all or scene.rooms) and (room_x < math.inf or room_y < math.inf):
            style = scene.layout.style
            # A share of its window a screen has already.
            across, down = (takes_all and is_share(size) for size in (style.width, style.height))
            wide = room_x if room_x < math.inf and not across else placed.width
            high = room_y if room_y < math.inf else None
            placed = self._given(scene, wide, placed.height if down and high else high)
        elif inside is not None:
            placed = self._row_child(scene.layout, placed.width)
        return placed

    def in_room(self, scene: SceneNode, width: float) -> tuple[SceneNode, Placed]:
        """A scene as wide as its holder says (px), within its limits, whatever it says itself."""
        placed = self._given(scene, width, None)
        return settled(scene, placed), placed

    def _given(self, scene: SceneNode, width: float, height: float | None) -> Placed:
        """The scene at a size that its holder gives; without a height, at its own."""
        node = resolved_relative(scene.layout, None, None, self._zero)
        wide = within(width, *node.across)
        if height is None:
            return self._row_child(node, wide)
        return self._sized(node, wide, within(height, *node.down))

    def _in_known_rooms(self, scene: SceneNode, placed: Placed) -> Placed:
        """The scene at the size nearest to its own in which its rooms are those that it tells."""
        size = {"width": placed.width, "height": placed.height}
        said = {"width": scene.layout.style.width, "height": scene.layout.style.height}
        for side, unit, room in scene.known_rooms:
            # Whole px, where nobody says how many: words that would only just fit have room.
            own = size[side] if said[side].mode == "fixed" else math.ceil(size[side] - _HAIR)
            zero = self.unit_of_room(unit)
            size[side] = room.nearest(own / zero, JUST_BELOW[unit]) * zero
        width, height = size["width"], size["height"]
        if height != placed.height:
            return self._sized(scene.layout, width, height)
        if width == placed.width and not scene.rooms:
            return placed
        return self._row_child(scene.layout, width)
