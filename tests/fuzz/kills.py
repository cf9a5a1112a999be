"""A run of edits and saves that is killed (signal 9) at a random moment, over and over: in one file
and as a folder, small and of 20 MB, on a disk that is full and in a folder that nobody may write,
while the journal folds itself together all the time, and while it hands over.

Held throughout: what is on the disk is a whole document; what the journal leads to has every
step that the run had told of; the next hand-over is whole, nobody else's file in its folder was
touched, and nothing of its own counts as edited by hand.
"""

from __future__ import annotations

import os
import random
import resource
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.edits.style.pictures import Asset, with_asset
from outgrowth.core.edits.tree.owners import new_component
from outgrowth.core.exchange.native import FileRefusal, load, save
from outgrowth.core.exchange.output import HAND_OVER, write
from outgrowth.workspace.autosave import left_behind
from tests.fuzz.report import Failure, told

WAYS = (
    "file", "folder", "large file", "large folder", "full disk", "read-only", "folding", "handing over",
)  # fmt: skip
_LARGE = 15 * 1024 * 1024
"""Bytes of pictures and fonts: 20 MB once they are text."""
_NOBODY = 65534


def kills(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    rng = random.Random(seed)
    with tempfile.TemporaryDirectory() as room:
        Path(room).chmod(0o755)
        for n in range(count):
            way = WAYS[n % len(WAYS)]
            home = Path(room) / f"run{n}"
            wrong = killed(home, way, rng)
            yield n + 1, Failure("kill", seed + n, f"{way}: {wrong}", way) if wrong else None
            shutil.rmtree(home, ignore_errors=True)


def killed(home: Path, way: str, rng: random.Random) -> str | None:
    """Begins a run, kills it, and says what is wrong with what it left."""
    home.mkdir()
    if way == "handing over":
        return handed_over(home, rng)
    path = home / ("work.outgrowth" if "folder" in way else "work.outgrowth.json")
    document = ferry_line()
    if "large" in way:
        data = random.Random(1).randbytes(_LARGE)
        document = with_asset(document, Asset("large.ttf", "font/ttf", data))
    save(document, path)
    state = home / "state"
    state.mkdir()
    if way == "read-only":
        _given_away(home)
    run = subprocess.Popen(
        [sys.executable, "-m", "tests.fuzz.kills", str(path), str(state), way],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONDONTWRITEBYTECODE": "1"},
    )
    assert run.stdout is not None and run.stderr is not None
    first = run.stdout.readline()
    if not first:
        return f"it did not begin: {run.stderr.read()[-300:]!r}"
    time.sleep(rng.uniform(0.0, 1.2))
    os.kill(run.pid, signal.SIGKILL)
    rest, _ = run.communicate()
    return left_whole(path, state, (first + rest).decode(), way)


def handed_over(home: Path, rng: random.Random) -> str | None:
    """The same of a hand-over into a folder that holds somebody else's files."""
    out = home / "out"
    (out / "components").mkdir(parents=True)
    others = {out / "notes.txt": b"mine", out / "components" / "Own notes.js": b"// mine"}
    for path, data in others.items():
        path.write_bytes(data)
    run = subprocess.Popen(
        [sys.executable, "-m", "tests.fuzz.kills", str(out), "", "handing over"],
        stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONDONTWRITEBYTECODE": "1"},
    )
    assert run.stdout is not None
    run.stdout.readline()
    time.sleep(rng.uniform(0.0, 0.5))
    os.kill(run.pid, signal.SIGKILL)
    run.communicate()
    files = _two_hand_overs()[rng.randrange(2)]
    done = write(out, files)
    if done.edited:
        return f"its own files count as edited by hand: {done.edited[:3]}"
    if any(path.read_bytes() != data for path, data in others.items()):
        return "somebody else's file was touched"
    found = {
        str(path.relative_to(out)): path.read_bytes()
        for path in out.rglob("*")
        if path.is_file() and path not in others
    }
    wrong = [name for name, data in files.items() if found.get(name) != data]
    more = set(found) - set(files) - {HAND_OVER.ledger}
    return f"not whole: {wrong[:3]}, too many: {sorted(more)[:3]}" if wrong or more else None


def _two_hand_overs() -> tuple[dict[str, bytes], dict[str, bytes]]:
    """Files of two states of a hand-over, which have most names in common."""
    numbers = random.Random(3)
    first = {f"components/part-{n}.js": numbers.randbytes(3_000) for n in range(150)}
    second = dict(list(first.items())[20:])
    second |= {f"components/part-{n}.js": numbers.randbytes(3_000) for n in range(100, 170)}
    return first, second


def left_whole(path: Path, state: Path, said: str, way: str) -> str | None:
    """What is wrong with the file and the journal, by what the run said it had done."""
    done = [
        int(line.split()[1])
        for line in said.splitlines()
        if line.startswith("done ") and len(line.split()) == 2
    ]
    saved = [
        int(line.split()[1])
        for line in said.splitlines()
        if line.startswith("saved ") and len(line.split()) == 2
    ]
    try:
        on_disk = load(path)
        found = [held.document for _, held in left_behind(state)]
    except (FileRefusal, OSError) as problem:
        return told(problem)
    steps = max([_steps(on_disk), *map(_steps, found)])
    if saved and _steps(on_disk) < saved[-1]:
        return f"step {saved[-1]} was saved, and {_steps(on_disk)} are there"
    if way not in ("full disk", "read-only") and done and steps < done[-1]:
        return f"step {done[-1]} was told, and {steps} came back"
    return None


def _steps(document: Document) -> int:
    return sum(1 for i in document.components if i.startswith("step-"))


def _given_away(home: Path) -> None:
    """Folder and file are somebody else's, and closed for writing."""
    for path in (*home.rglob("*"), home):
        path.chmod(0o555 if path.is_dir() and path.name != "state" else 0o444)
    (home / "state").chmod(0o777)


def _run(path: Path, state: Path, way: str) -> None:
    """What the killed process does."""
    if way == "handing over":
        print("begun", flush=True)
        while True:
            for files in _two_hand_overs():
                write(path, files)
    if way == "full disk":
        signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
        size = max(path.stat().st_size, 200_000)
        resource.setrlimit(resource.RLIMIT_FSIZE, (size, size))
    if way == "read-only" and os.getuid() == 0:
        os.setgid(_NOBODY)
        os.setuid(_NOBODY)
    from outgrowth.core.exchange.native import load_with_state
    from outgrowth.workspace import Workspace
    from outgrowth.workspace import autosave as folding
    from outgrowth.workspace.autosave import Autosave
    from outgrowth.workspace.engine import shipped_engine

    if way == "folding":
        folding.FOLD_AT = 20_000
    document, seen = load_with_state(path)
    workspace = Workspace(shipped_engine(), document, path, disk_state=seen)
    autosave = Autosave(workspace, state)
    workspace.failed.connect(lambda text: print("failed", text, flush=True))
    for n in range(1, 100_000):
        workspace.edit(
            f"step {n}", lambda d, n=n: new_component(d, f"step-{n}", f"Step {n}", f"r{n}")
        )
        autosave.write()
        print("done", n, flush=True)
        if n % 5 == 0 and workspace.save():
            print("saved", n, flush=True)
            autosave.write()


if __name__ == "__main__":
    _run(Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3])
