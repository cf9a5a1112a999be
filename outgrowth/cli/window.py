"""The window on the command line.

outgrowth [open] [FILE] [--dark] [--on NAME] [--shot FILE.png]
outgrowth keys [WORDS]              what can be done in it, by which keys
"""

from __future__ import annotations

import argparse
from pathlib import Path

from outgrowth.cli.exit_codes import ExitCode, Subcommands, WrongUse


def add_commands(commands: Subcommands) -> None:
    """Adds the commands of this file to those of the program."""
    window = commands.add_parser("open", help="open a file in a window")
    window.add_argument("file", type=Path, nargs="?", help="a file, or a folder of one")
    window.add_argument("--dark", action="store_const", const=True, help="begin with the dark look")
    window.add_argument("--on", default="", metavar="NAME", help="the component or screen to show")
    window.add_argument("--shot", type=Path, help="save a picture of the window and end")
    window.set_defaults(act=_open)
    keys = commands.add_parser("keys", help="list what can be done in the window, with its keys")
    keys.add_argument("search", nargs="*", help="words that are in it")
    keys.set_defaults(act=_keys)


def _open(arguments: argparse.Namespace) -> int:
    # Here and not above: measuring needs no Qt, and Qt takes long to import.
    from outgrowth.app.main import run

    try:
        return run(arguments.file, arguments.dark, arguments.shot, arguments.on)
    except KeyError as problem:
        raise WrongUse(f"There is no component or screen called {problem}.") from problem


def _keys(arguments: argparse.Namespace) -> ExitCode:
    # Here and not above: only this command asks what the window can do.
    from outgrowth.workspace.views.key_rows import all_titles, key_rows, keys_text

    rows = key_rows(all_titles(), " ".join(arguments.search))
    print(keys_text(rows) or "Nothing is called so. Try one word of it.")
    return ExitCode.DONE
