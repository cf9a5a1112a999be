"""From placements to a display list: what is drawn, with no word about the backend."""

from outgrowth.core.paint.draw import draw
from outgrowth.core.paint.fragment import Fragment, Painter, replay
from outgrowth.core.paint.marks import Mark
from outgrowth.core.paint.recorder import Recorder, record

__all__ = ["Fragment", "Mark", "Painter", "Recorder", "draw", "record", "replay"]
