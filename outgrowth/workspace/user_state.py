"""What the program keeps between its runs, apart from files: which files were open, how the
window was laid out, and the journals of work that is not saved."""

from __future__ import annotations

import contextlib
import json
from pathlib import Path as FilePath

from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.exchange.native.codec import FileRefusal
from outgrowth.core.exchange.native.disk import read_file, write_file

# Files of a menu that is read at a glance.
_MOST_RECENT = 8
# Bytes of the small file; ours have some kB.
_LARGEST = 16_000_000


class UserState:
    """A folder with one small file in it. What cannot be read or written is done without:
    nothing here is the user's work but the journals, and these say so themselves."""

    def __init__(self, folder: FilePath | None) -> None:
        """`folder` None keeps nothing."""
        self._folder = folder
        self._values: JsonObject = {}
        if folder is not None:
            with contextlib.suppress(OSError, ValueError, RecursionError, FileRefusal):
                record = json.loads(read_file(folder / "state.json", _LARGEST))
                self._values = record if isinstance(record, dict) else {}

    @property
    def journals(self) -> FilePath | None:
        """The folder of the journals; None where nothing is kept."""
        if self._folder is None:
            return None
        folder = self._folder / "journals"
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError:
            return None
        return folder

    def get(self, key: str) -> Json:
        """What was kept under a key, None if nothing was."""
        return self._values.get(key)

    def put(self, key: str, value: Json) -> None:
        """Keeps a value from now on."""
        if self._values.get(key) == value:
            return
        self._values[key] = value
        if self._folder is not None:
            with contextlib.suppress(OSError):
                self._folder.mkdir(parents=True, exist_ok=True)
                text = json.dumps(self._values, indent=1, sort_keys=True)
                # JSON of ASCII: a file's name that is no UTF-8 stays the name it is.
                write_file(self._folder / "state.json", text.encode("ascii"))

    @property
    def recent(self) -> list[FilePath]:
        """Files that were open, the last one first; those that are gone are left out."""
        stored = self._values.get("recent")
        names = stored if isinstance(stored, list) else []
        paths = [FilePath(name) for name in names if isinstance(name, str)]
        return [path for path in paths if _exists(path)]

    def opened(self, path: FilePath) -> None:
        """Notes that a file was opened or saved."""
        full_path = str(path.resolve())
        stored = self._values.get("recent")
        others = [p for p in stored if p != full_path] if isinstance(stored, list) else []
        self.put("recent", [full_path, *others][:_MOST_RECENT])


def _exists(path: FilePath) -> bool:
    """Whether a file is there, as far as can be seen from here."""
    try:
        return path.exists()
    except (OSError, ValueError):  # behind a closed folder; a name with a NUL in it
        return False
