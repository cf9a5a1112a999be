"""The demo document: an island ferry line, made by the core's own edits."""

from demo.ferry import ferry_line

__all__ = ["ferry_line"]
