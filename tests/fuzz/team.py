"""The team's library under everything at once: two sides merged, many processes publishing, a
process killed (signal 9) while it publishes or takes in, and libraries that somebody broke.

Held throughout: what is merged is a document, the same whoever is called ours; no publication
that was told of is lost; whatever is left, git finds it whole and it can be published to; nothing
is written outside, and what cannot be read is a sentence.
"""

from __future__ import annotations

import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path

from dulwich.objects import Blob, Commit
from dulwich.repo import Repo

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.edits.clipping import bring_component
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.native import dumps, load, loads, save
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.connection import Connection, connect, make_library
from outgrowth.core.team.merge import OneSide, merge
from outgrowth.core.team.origins import work_here
from outgrowth.core.team.publishing import Request, publish, published
from outgrowth.core.team.store import LibraryRefusal, Signature, untold
from outgrowth.core.team.taking import news, take_in
from tests.fuzz.edits import World, difference
from tests.fuzz.report import Failure, bad_sentence, told

SIGNED = Signature("Maren Skerry <maren@ferries.example>", 1_790_000_000)
_DEMO = [ferry_line()]


def run(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """Mostly pairs; now and then a broken library."""
    with tempfile.TemporaryDirectory() as room:
        for number in range(count):
            wrong = pair(seed + number)
            if wrong is None and number % 10 == 9:
                wrong = broken(seed + number, Path(room) / f"{number}")
            failure = Failure("team", seed + number, wrong, wrong) if wrong else None
            yield number + 1, failure


# --- two sides ------------------------------------------------------------------------------


def small(seed: int) -> Document:
    """One or two components of the demo, or nothing yet: where edits meet often."""
    rng = random.Random(seed)
    document = Document("small")
    if seed % 5:
        for component in rng.sample(_DEMO[0].component_order, rng.choice((1, 1, 2))):
            document = bring_component(document, _DEMO[0], component, f"{component}-x")
    return document


def two_sides(seed: int) -> tuple[Document, Document, Document]:
    """A document, and two that began as it."""
    base = small(seed)
    sides = []
    for side in (1, 2):
        world = World(seed * 10 + side, base)
        for step in range(random.Random(seed + side).choice((1, 2, 5, 20))):
            list(world.step(step))
        sides.append(world.document)
    return base, sides[0], sides[1]


def pair(seed: int) -> str | None:
    """What is wrong with a merge of two random sides, and with its mirror."""
    base, ours, theirs = two_sides(seed)
    try:
        merged, mirrored = merge(base, ours, theirs), merge(base, theirs, ours, OneSide("theirs"))
        if loads(dumps(merged.document).encode(), "again") != merged.document:
            return "what was merged is not read as it was written"
    except Exception as problem:
        return told(problem)
    if merge(base, ours, ours).document != ours:
        return "the same edits do not merge to themselves"
    if merged.document != mirrored.document:
        return f"the mirror differs: {difference(merged.document, mirrored.document)}"
    keys = [{found.key for found in side.disagreements} for side in (merged, mirrored)]
    return None if keys[0] == keys[1] else f"disagreements differ: {keys[0] ^ keys[1]}"


# --- a library that somebody broke ----------------------------------------------------------


def broken(seed: int, folder: Path) -> str | None:
    """What is wrong with how a library is read that was damaged at random, as bytes or as git
    objects: it is read, or refused in a sentence, and nothing outside is touched."""
    rng = random.Random(seed)
    made = make_library(str(folder / "parts"), "Holm parts", SIGNED, folder / "copies")
    with closing(made):
        put_out(made, _DEMO[0], ["button", "notice"])
    fence = {path: path.read_bytes() for path in folder.rglob("*") if path.is_file()}
    path = folder / "parts"
    (_bytes if rng.random() < 0.4 else _objects)(path, rng)
    try:
        with closing(connect(str(path), folder / "copies")) as held:
            state = held.newest()
            for component in state.document.component_order:
                take_in(Document("x"), state, [component], {})
            mine = set_properties(_DEMO[0], Place("button", ()), {"gap": 3.0})
            put_out(held, mine, ["button"])
    except Refusal as problem:
        bad = bad_sentence(problem)
        if bad:
            return bad
    except Exception as problem:
        return told(problem)
    outside = [p for p in fence if path not in p.parents and p.read_bytes() != fence[p]]
    new = [p for p in folder.rglob("*") if p.is_file() and path not in p.parents and p not in fence]
    return f"written outside: {outside or new}" if outside or new else None


def _bytes(path: Path, rng: random.Random) -> None:
    """Some bytes of some file of the repository are others."""
    files = [p for p in sorted(path.rglob("*")) if p.is_file() and p.stat().st_size]
    victim = rng.choice(files)
    data = bytearray(victim.read_bytes())
    for _ in range(rng.choice((1, 3, 40))):
        data[rng.randrange(len(data))] = rng.randrange(256)
    victim.chmod(0o644)
    victim.write_bytes(bytes(data[: rng.choice((len(data), len(data) // 2, 0))]))


_PATHS = (
    b"../../evil.json",
    b"..",
    b".git",
    b"button.json",
    b"a" * 5000,
    b"\xff\xfe.json",
    b"x\ny.json",
    "part‮.json".encode(),
)


def _objects(path: Path, rng: random.Random) -> None:
    """A commit of somebody's own: odd names, links, libraries within, lists that lie, files of
    any content."""
    with closing(Repo(str(path))) as repo:
        head = repo.refs[b"refs/heads/main"]
        root = repo[repo[head].tree].copy()
        parts = repo[root[b"components"][1]].copy()
        about = json.loads(repo[root[b"document.json"][1]].data)
        for _ in range(rng.choice((1, 2, 4))):
            what = rng.randrange(7)
            name = rng.choice(_PATHS)
            blob = Blob.from_string(rng.choice((b"", b"{}", b"[" * 4000, b"null", b"\x00" * 99)))
            repo.object_store.add_object(blob)
            if what == 0:
                about["components"].append(name.decode("utf-8", "replace"))
            elif what == 1:
                parts[b"button.json"] = (rng.choice((0o120000, 0o160000, 0o040000)), blob.id)
            elif what == 2:
                parts[b"button.json"] = (0o100644, blob.id)
            elif what == 3:
                about = rng.choice(({}, {"components": 3}, {"version": 99}, [], None))
                about = about if isinstance(about, dict) else {"components": [about]}
                about.setdefault("components", [])
                if not isinstance(about["components"], list):
                    break
            elif what == 4:
                root[rng.choice((b"library.json", b"versions.json"))] = (0o100644, blob.id)
            elif what == 5:
                parts[name.replace(b"/", b"-")] = (0o100644, blob.id)
            else:
                record = json.loads(repo[parts[b"notice.json"][1]].data)
                record["id"] = rng.choice(("button", "../x", "", 7))
                odd = Blob.from_string(json.dumps(record).encode())
                repo.object_store.add_object(odd)
                parts[b"notice.json"] = (0o100644, odd.id)
        listing = Blob.from_string(json.dumps(about).encode())
        root[b"document.json"] = (0o100644, listing.id)
        root[b"components"] = (0o040000, parts.id)
        commit = Commit()
        commit.tree, commit.parents = root.id, [head]
        commit.author = commit.committer = b"Somebody <>"
        commit.author_time = commit.commit_time = 1
        commit.author_timezone = commit.commit_timezone = 0
        commit.message = b"odd"
        for made in (listing, parts, root, commit):
            repo.object_store.add_object(made)
        repo.refs[b"refs/heads/main"] = commit.id


# --- publishing, many at once or killed -----------------------------------------------------


def put_out(held: Connection, document: Document, ids: list[str], message: str = "") -> Document:
    """Publishes parts; the document after."""
    state = held.refreshed(untold)
    request = Request(document, tuple(ids), held.bases(document, state))
    done = publish(request, held.reader, message, SIGNED, lambda plan, found: "", untold)
    return published(document, done, request)


def colleague_publishes(held: Connection, edit: Callable[[Document], Document], *ids: str) -> None:
    """Somebody else takes parts in, works on them, and publishes them."""
    document = take_in(Document("A colleague's"), held.refreshed(untold), ids, {}).document
    for component in ids:
        document = work_here(document, component)
    put_out(held, edit(document), list(ids), "from a colleague")


def together(folder: Path, processes: int, rounds: int) -> list[str]:
    """Many processes publish, each a part of its own and all of them one more; what was lost."""
    made = make_library(str(folder / "parts"), "Holm parts", SIGNED, folder / "copies")
    with closing(made):
        document = put_out(made, _DEMO[0], [*_DEMO[0].component_order])
    save(document, folder / "start.outgrowth.json")
    runs = [begun(folder, "publish", str(number), str(rounds)) for number in range(processes)]
    lines = [line for one in runs for line in one.communicate()[0].decode().splitlines()]
    wanted = {line.split(" ", 1)[1] for line in lines if line.startswith("published ")}
    with closing(connect(str(folder / "parts"), folder / "copies")) as held:
        texts = "\n".join(held.store.version(c).message for c in held._commits(untold))
        held.newest()
    lost = [name for name in wanted if f"\n{name}\n" not in texts]
    if len(wanted) != processes * rounds:
        failed = [line for line in lines if not line.startswith("published ")]
        lost.append(f"{len(wanted)} of {processes * rounds} were published: {failed[:3]}")
    return lost + git_says(folder / "parts")


def git_says(path: Path) -> list[str]:
    done = subprocess.run(
        ["git", "-C", str(path), "fsck", "--strict", "--no-dangling"],
        capture_output=True,
        text=True,
        check=False,
    )
    lines = (done.stdout + done.stderr).splitlines()
    return [line for line in lines if line and "dangling" not in line]


def kills(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """Publishing and taking in, killed at a random moment."""
    rng = random.Random(seed)
    with tempfile.TemporaryDirectory() as room:
        for number in range(count):
            folder = Path(room) / f"{number}"
            folder.mkdir()
            wrong = killed(folder, rng)
            yield number + 1, Failure("team kill", seed + number, wrong, wrong) if wrong else None
            shutil.rmtree(folder, ignore_errors=True)


def killed(folder: Path, rng: random.Random) -> str | None:
    """Begins publishing and taking in, kills it, and says what is wrong with what it left."""
    made = make_library(str(folder / "parts"), "Holm parts", SIGNED, folder / "copies")
    with closing(made):
        document = put_out(made, _DEMO[0], ["button", "chip"])
    save(document, folder / "start.outgrowth.json")
    kiosk = take_in(Document("Kiosk"), made.newest(), ["chip"], {}).document
    save(kiosk, folder / "kiosk.outgrowth.json")
    one = begun(folder, "both", "0", "100000")
    assert one.stdout is not None
    first = one.stdout.readline()
    time.sleep(rng.uniform(0.0, 0.6))
    os.kill(one.pid, signal.SIGKILL)
    rest, _ = one.communicate()
    done = [
        line.split(" ", 1)[1]
        for line in (first + rest).decode().splitlines()
        if line.startswith("published ") and len(line.split()) == 2
    ]
    try:
        with closing(connect(str(folder / "parts"), folder / "copies")) as held:
            texts = "\n".join(held.store.version(c).message for c in held._commits(untold))
            lost = [name for name in done if f"\n{name}\n" not in texts]
            if lost:
                return f"told of, and lost: {lost}"
            file = load(folder / "kiosk.outgrowth.json")
            began = time.monotonic()
            put_out(held, _wide(load(folder / "start.outgrowth.json"), 77.0), ["button"])
            state = held.newest()
            take_in(file, state, [n.component for n in news(file, state)] or ["chip"], {})
            if time.monotonic() - began > 10:
                return "a lock was left, and held up the next"
    except Exception as problem:
        return told(problem)
    return next(iter(git_says(folder / "parts")), None)


def begun(folder: Path, *arguments: str) -> subprocess.Popen:
    return subprocess.Popen(
        [sys.executable, "-m", "tests.fuzz.team", str(folder), *arguments],
        stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONDONTWRITEBYTECODE": "1"},
    )


def _wide(document: Document, value: float, component: str = "button") -> Document:
    return set_properties(document, Place(component, ()), {"padding-left": value})


def _process(folder: Path, what: str, number: int, rounds: int) -> None:
    """What one of many processes does."""
    document = load(folder / "start.outgrowth.json")
    rng = random.Random(number)
    with closing(connect(str(folder / "parts"), folder / "copies")) as held:
        for step in range(rounds):
            name = f"p{number}-{step}"
            state = held.newest()
            order = state.document.component_order
            own = order[number % len(order)]
            document = take_in(document, state, order, held.bases(document, state)).document
            document = set_properties(document, Place(own, ()), {"opacity": rng.random()})
            for _ in range(20):
                try:
                    document = put_out(held, document, [own], name)
                    print("published", name, flush=True)
                    break
                except LibraryRefusal as problem:
                    if "was first" not in str(problem):
                        print("problem", problem, flush=True)
                        break
            if what == "both":
                path = folder / "kiosk.outgrowth.json"
                kiosk = load(path)
                state = held.newest()
                ids = [part.component for part in news(kiosk, state)]
                if ids:
                    save(take_in(kiosk, state, ids, {}).document, path)


if __name__ == "__main__":
    _process(Path(sys.argv[1]), sys.argv[2], int(sys.argv[3]), int(sys.argv[4]))
