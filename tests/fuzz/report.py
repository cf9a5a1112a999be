"""How a generator tells what it found: a line a failure, its example kept beside."""

from __future__ import annotations

import hashlib
import traceback
from pathlib import Path
from typing import NamedTuple


class Failure(NamedTuple):
    """What broke, in which class, for which seed, and the smallest example that was found."""

    kind: str
    seed: int
    what: str
    example: str

    @property
    def line(self) -> str:
        return f"{self.kind}  seed {self.seed}  {self.what}"

    def keep(self, folder: Path) -> Path:
        """Writes the example; failures of one kind and place share a file."""
        folder.mkdir(parents=True, exist_ok=True)
        name = hashlib.sha256(self.what.encode()).hexdigest()[:10]
        path = folder / f"{self.kind.replace(' ', '-')}-{name}.txt"
        path.write_text(f"{self.line}\n\n{self.example}\n", errors="replace")
        return path


def told(problem: BaseException) -> str:
    """An exception in a line: what, and where it came from."""
    frames = traceback.extract_tb(problem.__traceback__)
    ours = [f for f in frames if "outgrowth" in f.filename] or list(frames)
    where = f"{Path(ours[-1].filename).name}:{ours[-1].lineno} {ours[-1].name}" if ours else "?"
    return f"{type(problem).__name__} at {where}: {str(problem)[:160]!r}"


def bad_sentence(problem: BaseException, longest: int = 400) -> str | None:
    """Why a message is no sentence for a user; None if it is one."""
    text = str(problem)
    if not text or len(text) > longest:
        return f"a message of {len(text)} letters"
    if any(not c.isprintable() for c in text):
        return "a message with line ends or control characters"
    return None
