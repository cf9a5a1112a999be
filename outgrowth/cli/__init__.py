"""The command line: `outgrowth COMMAND …`; without a command it opens a window.

One file a family of commands: `window` (open, keys), `drawing` (measure, shot, play), `export`,
`review` (review, trials), `team` (publish, outdated, take-in, diff, merge, new-library). What all
of them end with stands in `exit_codes`, how they name components and screens in `owners`, what
they write in folders goes through `writing`, what they say through `streams`.
"""

from __future__ import annotations

import contextlib
import mmap
import os
import sys

_LEAST_BYTES = 260 * 1024 * 1024
"""Of address space, to begin with: 213 MB were counted until all is imported, 469 until the demo
was measured."""
_REFUSED = 2
"""As `exit_codes` has it, which cannot be read yet."""


def main(argv: list[str] | None = None) -> int:
    """Runs one command. Returns its exit code; wrong options raise SystemExit with theirs."""
    # Nothing here multiplies large matrices, and a second thread for it takes 42 MB.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    try:
        if "numpy" not in sys.modules:
            mmap.mmap(-1, _LEAST_BYTES).close()
        # Here and not above: a machine that is too small for it is told so.
        from outgrowth.cli.main import main as run
    except (ImportError, MemoryError, OSError) as problem:
        reason = str(problem).partition("\n")[0][:160] or "there is not enough memory"
        with contextlib.suppress(OSError, AttributeError):
            print(f"Outgrowth cannot begin: {reason}.", file=sys.stderr, flush=True)
        return _REFUSED
    return run(argv)


__all__ = ["main"]
