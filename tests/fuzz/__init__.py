"""Generators that try to break what the examples of the other tests leave alone.

`bin/fuzz` runs them for a number and a seed; `tests/fuzz/test_short.py` runs each for a moment.
"""
