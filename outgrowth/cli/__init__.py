"""The command line: `outgrowth COMMAND …`; without a command it opens a window.

One file a family of commands: `window` (open, keys), `drawing` (measure, shot, play), `export`,
`review` (review, trials), `team` (publish, outdated, take-in, diff, merge, new-library). What all
of them end with stands in `exit_codes`, how they name components and screens in `owners`.
"""

from outgrowth.cli.main import main

__all__ = ["main"]
