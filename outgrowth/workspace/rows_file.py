"""Rows of a designer's own, read from a file."""

from __future__ import annotations

from pathlib import Path as FilePath

from outgrowth.core.exchange.native.disk import called, read_file
from outgrowth.core.trials.contents import TrialContent
from outgrowth.core.trials.rows import MOST_BYTES, RowsRefusal, formula_cells, rows_from


def read_rows(path: FilePath) -> tuple[TrialContent, ...]:
    """The rows of a file, by its ending. Raises RowsRefusal, and FileRefusal for what is no
    ordinary file."""
    try:
        return rows_from(read_file(path, MOST_BYTES), path.name)
    except (OSError, ValueError) as problem:
        reason = getattr(problem, "strerror", None) or "it can't be read"
        raise RowsRefusal(f"“{called(path)}” can't be read: {reason}.") from problem


def formulas_text(contents: tuple[TrialContent, ...]) -> str:
    """That values begin as formulas do, a sentence; "" where none does."""
    count = formula_cells(contents)
    if not count:
        return ""
    subject = "1 value begins" if count == 1 else f"{count:,} values begin"
    return f"{subject} like a formula of a spreadsheet (=, @, +, -): here it is only words."
