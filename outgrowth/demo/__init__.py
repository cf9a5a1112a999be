"""The demo document: an island ferry line, made by the core's own edits."""

from outgrowth.demo.ferry import ferry_line

__all__ = ["ferry_line"]
