"""Everything that computes: values in, values out, no interface."""

import sys

RECURSION = 12_000
"""Calls inside each other that Python may have here. Resolving, layout and painting recurse, a
thousand levels at most (`document.extent`), with room for twelve calls a level. Python's calls of
Python take no stack of the machine's, so that this asks for no larger one
(tests/core/test_depth.py measures it in a thread of a small one)."""

sys.setrecursionlimit(max(sys.getrecursionlimit(), RECURSION))
