"""Rows of a designer's own, read from a file."""

from __future__ import annotations

from pathlib import Path as FilePath

from outgrowth.core.exchange.native.disk import read_chosen
from outgrowth.core.trials.contents import TrialContent
from outgrowth.core.trials.rows import MOST_BYTES, formula_cells, rows_from


def read_rows(path: FilePath) -> tuple[TrialContent, ...]:
    """The rows of a file, by its ending. Raises RowsRefusal, and FileRefusal for a file that
    can't be read."""
    return rows_from(read_chosen(path, MOST_BYTES), path.name)


def formulas_text(contents: tuple[TrialContent, ...]) -> str:
    """That values begin as formulas do, a sentence; "" where none does."""
    count = formula_cells(contents)
    if not count:
        return ""
    subject = "1 value begins" if count == 1 else f"{count:,} values begin"
    return f"{subject} like a formula of a spreadsheet (=, @, +, -): here it is only words."
