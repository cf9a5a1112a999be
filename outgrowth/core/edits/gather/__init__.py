"""Gather: separately drawn parts, named by path, become one component with axes and the
fewest rules found that reproduce every drawing exactly."""

from outgrowth.core.edits.gather.apply import gathered
from outgrowth.core.edits.gather.report import GatheredDrawing, Report, gather

__all__ = ["GatheredDrawing", "Report", "gather", "gathered"]
