"""Commands and conditions, and what has to come of each pair: an exit code of the table, no more
than a few lines on standard error, no traceback, no signal, and nothing half written."""

from __future__ import annotations

import ctypes
import os
import re
import resource
import shutil
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.exchange.native import load, save
from outgrowth.core.refusal import Refusal

ROOT = Path(__file__).resolve().parents[2]
_DROP_FROM_BOUND, _MAY_WRITE_ANYWHERE = 24, 1
_MOST_LINES = 2
_QT = ("This plugin", "Detected locale", "Qt depends on", "to work properly", "If this causes")
"""What Qt itself says of an offscreen window, and of a locale that is not UTF-8."""
_MB = 1024 * 1024


class Room(NamedTuple):
    """A folder with what the commands work at."""

    folder: Path

    @property
    def file(self) -> Path:
        return self.folder / "ferry.outgrowth.json"

    @property
    def parts(self) -> Path:
        return self.folder / "parts"

    def made(self) -> Room:
        """Files, a script, rows, and a library that the second file takes from."""
        self.folder.mkdir()
        save(ferry_line(), self.file)
        save(Document("Kiosk"), self.folder / "kiosk.outgrowth.json")
        (self.folder / "script.json").write_text(
            '{"events": [{"at": 0, "press": "Booking › header › back"}], "times": [200]}'
        )
        (self.folder / "out").mkdir()
        run(("new-library", str(self.parts), "--name", "Holm parts"), self)
        publish = ("publish", str(self.file), "--library", str(self.parts))
        run((*publish, "--component", "Button", "--message", "first"), self)
        return self

    def copied(self, folder: Path, command: str) -> Room:
        """The same elsewhere, for a command."""
        room = Room(Path(shutil.copytree(self.folder, folder)))
        if command == "outdated":  # connected anew: that is kept by where a file is
            run(("connect", str(room.file)), room)
        return room


def commands(room: Room) -> dict[str, tuple[str, ...]]:
    """Each command of the program, as somebody would call it."""
    file, kiosk = str(room.file), str(room.folder / "kiosk.outgrowth.json")
    out, parts = str(room.folder / "out"), str(room.parts)
    return {
        "open": ("open", file, "--shot", f"{out}/window.png"),
        "keys": ("keys",),
        "measure": ("measure", file, "--screen", "Booking"),
        "shot": ("shot", file, "--component", "Button", "-o", f"{out}/button.png"),
        "play": ("play", file, "--script", str(room.folder / "script.json"), "--screen", "Booking"),
        "export": ("export", file, "-o", f"{out}/web"),
        "review": ("review", file, "--json"),
        "trials": ("trials", file, "--component", "Button"),
        "new-library": ("new-library", f"{out}/more", "--name", "More"),
        "publish": ("publish", file, "--library", parts, "--component", "Chip", "--message", "x"),
        "connect": ("connect", file),
        "outdated": ("outdated", file),
        "take-in": ("take-in", kiosk, "--library", parts, "--component", "Button"),
        "diff": ("diff", file, kiosk),
        "merge": ("merge", file, file, kiosk, "-o", f"{out}/merged.outgrowth.json"),
    }


class Condition(NamedTuple):
    """What is scarce.

    limit    called in the process before the command begins
    closed   whether nobody may write in the folder
    shell    how the command is put into a shell line, {} being the command
    without  names of the environment that are not there
    given    names of the environment, and what they are
    """

    limit: Callable[[], None] = lambda: None
    closed: bool = False
    shell: str = "{}"
    without: tuple[str, ...] = ()
    given: dict[str, str] = {}  # noqa: RUF012  # never changed


def _limited(what: int, value: int) -> Callable[[], None]:
    return lambda: resource.setrlimit(what, (value, value))


def _without_privilege() -> None:
    """Not even root may write where nobody may. Source: capabilities(7), CAP_DAC_OVERRIDE."""
    if os.getuid() == 0:
        ctypes.CDLL(None).prctl(_DROP_FROM_BOUND, _MAY_WRITE_ANYWHERE, 0, 0, 0)


CONDITIONS: dict[str, Condition] = {
    "plenty": Condition(),
    "memory 60 MB": Condition(_limited(resource.RLIMIT_AS, 60 * _MB)),
    "memory 150 MB": Condition(_limited(resource.RLIMIT_AS, 150 * _MB)),
    "memory 300 MB": Condition(_limited(resource.RLIMIT_AS, 300 * _MB)),
    "memory 900 MB": Condition(_limited(resource.RLIMIT_AS, 900 * _MB)),
    "full disk": Condition(_limited(resource.RLIMIT_FSIZE, 0)),
    "nearly full disk": Condition(_limited(resource.RLIMIT_FSIZE, 4_096)),
    "a disk that is closed": Condition(_without_privilege, closed=True),
    "no home": Condition(without=("HOME", "XDG_DATA_HOME", "XDG_STATE_HOME", "USER", "LOGNAME")),
    "home is a file": Condition(given={"HOME": "/dev/null", "XDG_DATA_HOME": "/dev/null/x"}),
    "no room for temporary files": Condition(given={"TMPDIR": "/nowhere/at/all"}),
    "ASCII": Condition(
        given={"LC_ALL": "C", "PYTHONCOERCECLOCALE": "0", "PYTHONUTF8": "0"}, without=("LANG",)
    ),
    "ASCII output": Condition(given={"PYTHONIOENCODING": "ascii:strict"}),
    "output closed": Condition(shell="{} >&-"),
    "output full": Condition(shell="{} >/dev/full"),
    "output read a line": Condition(shell="{} | head -n 1; exit ${{PIPESTATUS[0]}}"),
    "output read not at all": Condition(shell="{} | true; exit ${{PIPESTATUS[0]}}"),
    "errors closed": Condition(shell="{} 2>&-"),
    "errors full": Condition(shell="{} 2>/dev/full"),
    "all closed": Condition(shell="{} <&- >&- 2>&-"),
    "6 handles": Condition(_limited(resource.RLIMIT_NOFILE, 6)),
    "12 handles": Condition(_limited(resource.RLIMIT_NOFILE, 12)),
    "no display": Condition(without=("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")),
    "a display that is gone": Condition(
        without=("WAYLAND_DISPLAY", "QT_QPA_PLATFORM"), given={"DISPLAY": ":4711"}
    ),
}


class Outcome(NamedTuple):
    """What came of a command."""

    code: int
    out: str
    error: str


def run(arguments: tuple[str, ...], room: Room, condition: Condition | None = None) -> Outcome:
    """Runs a command of the program under a condition."""
    condition = condition or Condition()
    kept = {k: v for k, v in os.environ.items() if not k.startswith(("LC_", "PYTHON"))}
    kept |= {"PYTHONPATH": str(ROOT), "PYTHONDONTWRITEBYTECODE": "1"}
    kept["PYTHONFAULTHANDLER"] = "1"  # a crash says where
    kept |= {"XDG_DATA_HOME": str(room.folder / "data"), "XDG_STATE_HOME": str(room.folder / "s")}
    # Not the display of the tests: one that its last window leaves is away for a moment.
    kept["QT_QPA_PLATFORM"] = "offscreen"
    kept = {k: v for k, v in kept.items() if k not in condition.without} | condition.given
    line = condition.shell.format('"$@"')
    if condition.closed:
        _close(room.folder, 0o555, 0o444)
    done = subprocess.run(
        ["bash", "-c", line, "bash", sys.executable, "-m", "outgrowth", *arguments],
        env=kept,
        cwd=room.folder,
        preexec_fn=condition.limit,  # before anything else runs in it
        capture_output=True,
        timeout=120,
        check=False,
    )
    if condition.closed:
        _close(room.folder, 0o755, 0o644)
    out, error = (data.decode("utf-8", "replace") for data in (done.stdout, done.stderr))
    return Outcome(done.returncode, out, error)


def _close(folder: Path, inner: int, file: int) -> None:
    for path in (*folder.rglob("*"), folder):
        path.chmod(inner if path.is_dir() else file)


def wrong(command: str, name: str, outcome: Outcome, plenty: Outcome, room: Room) -> str | None:
    """What is wrong with what came of a command under a condition; None where nothing is."""
    usual = plenty.error.splitlines()
    lines = [line for line in outcome.error.splitlines() if line.strip() and line not in usual]
    lines = [line for line in lines if not line.startswith(_QT)]
    if "Traceback" in outcome.error or re.search(r"Error: |Exception", outcome.error):
        return f"a traceback: {lines[-1][:160] if lines else ''}"
    if outcome.code not in (0, 1, 2, 3):
        return f"exit code {outcome.code}: {' '.join(lines)[:2_000]}"
    if len(lines) > _MOST_LINES:
        return f"{len(lines)} lines of error: {lines[0][:80]}"
    if (
        outcome.code == 2
        and not outcome.error.strip()
        and not name.startswith(("errors", "all closed"))
    ):
        return "refused without a word"
    if outcome.code == 3:
        return f"wrong use, where nothing else was typed: {' '.join(lines)[:160]}"
    succeeded = outcome.code in (0, 1)
    if succeeded and outcome.code != plenty.code:
        return f"exit code {outcome.code}, with plenty it is {plenty.code}"
    if (
        succeeded
        and "output" not in name
        and "all closed" not in name
        and outcome.out != plenty.out
    ):
        return "it says it is done, and says something else"
    if succeeded and plenty.out.strip() and name in ("output closed", "output full", "all closed"):
        return "it says it is done, and nobody got what it said"
    return _half_written(room)


def _half_written(room: Room) -> str | None:
    for path in room.folder.glob("*.outgrowth.json"):
        try:
            load(path)
        except Refusal as problem:
            return f"{path.name} was left damaged: {problem}"
    left = [p.name for p in room.folder.rglob("*") if p.name.startswith((".outgrowth-", "tmp"))]
    return f"left behind: {left}" if left else None
