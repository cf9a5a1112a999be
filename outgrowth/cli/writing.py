"""Files that a command puts into a folder."""

from __future__ import annotations

from pathlib import Path

from outgrowth.core.exchange.output import (
    EditedRefusal,
    Files,
    OutputKind,
    OutputPlan,
    OutputRefusal,
    write,
)


def written(folder: Path, files: Files, overwrite: bool, kind: OutputKind) -> OutputPlan:
    """Writes files, and tells how to write over what was edited by hand. Raises OutputRefusal."""
    try:
        return write(folder, files, overwrite, kind)
    except EditedRefusal as problem:
        raise OutputRefusal(f"{problem} --overwrite does.") from problem
