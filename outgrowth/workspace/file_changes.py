"""What other programs do to the file in hand: noticed, and taken in where nothing is at stake."""

from __future__ import annotations

import contextlib
from enum import Enum
from pathlib import Path as FilePath

from outgrowth.core.document.records import Document
from outgrowth.core.exchange import native
from outgrowth.core.exchange.native import FileRefusal, folder
from outgrowth.core.refusal import quoted
from outgrowth.workspace.workspace import Workspace

STEP = "take in what another program saved"
"""What undo calls it."""
TOGETHER = "bring both together"
"""What undo calls the step that merges."""


class FileChange(Enum):
    """What was found when the file was looked at."""

    NONE = "nothing that matters"
    TAKEN_IN = "another document, which is now in hand"
    CLASH = "another document, while there is work here that is not saved"
    DAMAGED = "what cannot be read"


class FileChanges:
    """Looks at the file of one workspace when its owner's watch says that something happened."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._stamps: list[tuple[int, int, int]] = []
        self._theirs: tuple[Document, native.DiskState] | None = None

    def paths(self) -> list[FilePath]:
        """What is to be watched. The folder around the file too: a file that is removed and made
        anew has no watch of its own."""
        path = self._workspace.path
        if path is None:
            return []
        return [p for p in {path, path.parent, *_parts(path)} if p.exists()]

    def look(self, asked_by_save: bool = False) -> FileChange:
        """What another program wrote, if it did. `asked_by_save` says that saving found it so: then
        nothing is taken in unasked."""
        workspace = self._workspace
        path = workspace.path
        if path is None or not path.exists():
            return FileChange.NONE  # what is gone is written anew by saving
        stamps = _stamps(path)
        # A stat is cheap; reading and comparing follow only where it says that something
        # happened.
        if stamps == self._stamps and not asked_by_save:
            return FileChange.NONE  # something else in the folder around it
        self._stamps = stamps
        try:
            if native.disk_state(path) == workspace.disk_state:
                return FileChange.NONE
            document, disk_state = native.load_with_state(path)
        except FileRefusal as problem:
            workspace.failed.emit(
                _removed_text(workspace, path)
                or f"The file was changed by another program. {problem}"
            )
            return FileChange.DAMAGED if asked_by_save else FileChange.NONE
        # Written again as it was: nothing to take in, only the state of the disk is another.
        if document == workspace.saved and not asked_by_save:
            workspace.disk_state = disk_state
            return FileChange.NONE
        self._theirs = document, disk_state
        if workspace.unsaved:
            return FileChange.CLASH
        self.take_in()
        return FileChange.TAKEN_IN

    @property
    def three(self) -> tuple[Document, Document, Document] | None:
        """What was saved, what is here, and what the other program wrote, to be brought
        together; None where nothing was found."""
        if self._theirs is None:
            return None
        return self._workspace.saved, self._workspace.document, self._theirs[0]

    def bring_together(self, merged: Document) -> None:
        """A document of both sides' changes becomes the one in hand, as a step; the file holds
        the other program's, which saving writes over from now on."""
        if self._theirs is not None:
            theirs, disk_state = self._theirs
            self._workspace.take_in(merged, TOGETHER, disk_state, saved=theirs)

    def take_in(self) -> None:
        """What the other program wrote becomes the document, as a step that can be undone."""
        if self._theirs is not None:
            document, disk_state = self._theirs
            self._workspace.take_in(document, STEP, disk_state)


def _removed_text(workspace: Workspace, path: FilePath) -> str:
    """That parts of a folder were removed, and nothing else; "" where that is not so."""
    if workspace.disk_state is None or not path.is_dir():
        return ""
    try:
        removed = native.removed_parts(path, workspace.disk_state)
    except FileRefusal:
        return ""
    if not removed:
        return ""
    what = f"“{quoted(removed[0])}”" if len(removed) == 1 else f"{len(removed):,} parts"
    return (
        f"Another program removed {what} from the folder. All of it is still open here; saving "
        "writes it again."
    )


def _stamps(path: FilePath) -> list[tuple[int, int, int]]:
    """What tells at a glance that nothing was written: reading takes longer."""
    stamps = []
    for part in (path, *_parts(path)):
        with contextlib.suppress(OSError):
            stat = part.stat()
            stamps.append((stat.st_ino, stat.st_size, stat.st_mtime_ns))
    return stamps


def _parts(path: FilePath) -> list[FilePath]:
    """The files of the folder form, and the folders that they stand in."""
    if not path.is_dir():
        return []
    with contextlib.suppress(FileRefusal, OSError):
        files = [path / name for name in folder.own_files(path)]
        return [*files, *{file.parent for file in files}]
    return []
