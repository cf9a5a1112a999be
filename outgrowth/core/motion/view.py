"""A laid-out scene: what is shown, at rest or in the middle of a movement."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.layout import Placed
from outgrowth.core.resolve.scene import SceneNode

GHOST = "~"
"""What the id of a disappearing node begins with while it fades."""


class View(NamedTuple):
    """A laid-out scene."""

    scene: SceneNode
    placed: Placed
