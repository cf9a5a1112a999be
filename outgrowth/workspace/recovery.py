"""What a crash left: work that is not in its file, put together again from its journal."""

from __future__ import annotations

from pathlib import Path as FilePath
from typing import NamedTuple

from outgrowth.core.document.records import Document
from outgrowth.core.exchange.native import DiskState, FileRefusal, load_with_state
from outgrowth.core.exchange.native.journal import Recovered
from outgrowth.workspace.autosave import base_of, left_behind
from outgrowth.workspace.workspace import Workspace


class LeftWork(NamedTuple):
    """Work of a crash: its journal, what that leads to, the file that it belongs to (None
    where that is gone), and what the file held when the work began."""

    journal: FilePath
    recovered: Recovered
    file: FilePath | None
    saved: Document
    disk_state: DiskState | None


def left_work(journals: FilePath | None) -> list[LeftWork]:
    """All work that crashes left in a folder of journals."""
    return [_left(journal, recovered) for journal, recovered in left_behind(journals)]


def _left(journal: FilePath, recovered: Recovered) -> LeftWork:
    about = recovered.about
    nothing = Document(recovered.document.name)
    if about.path:
        # As the file was when the work began, not as it is now: what others wrote meanwhile is
        # asked about before it is written over.
        base = base_of(journal)
        file = FilePath(about.path)
        try:
            saved, disk_state = load_with_state(base if about.base and base.exists() else file)
            return LeftWork(journal, recovered, file, saved, disk_state)
        except FileRefusal:
            pass  # gone, or damaged: the work stands for itself
    return LeftWork(journal, recovered, None, nothing, None)


def give_up(workspace: Workspace, saved: Document) -> None:
    """Goes back to what the file held, as a step that can be undone."""
    workspace.take_in(saved, "go back to what was saved")


def recovered_text(name: str, steps: int) -> str:
    """What is said of work that came back."""
    plural = steps != 1
    count = f"{steps} steps" if plural else "One step"
    return (
        f"Outgrowth ended without saving “{name}”. {count} that {'were' if plural else 'was'} not "
        f"saved {'are' if plural else 'is'} here again."
    )
