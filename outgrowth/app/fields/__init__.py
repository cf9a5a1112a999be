"""Editors of single values: numbers, colours, sizes, choices, words.

Each emits `edited` with a value to set, and `dragged`/`dropped`/`cancelled` around values
that are only tried. None of them knows the document.
"""
