"""Two publishers and a taker at one library, round after round, while git itself makes branches
and merges of it that cross, and a process is killed (signal 9) while it publishes.

Held throughout: what was told published is in the library, and nothing that somebody else
published before is another; what is taken in is what the library has; a clash is told, and settled
by the side that is picked; git finds all of it whole.
"""

from __future__ import annotations

import contextlib
import os
import random
import shutil
import signal
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

from dulwich.file import FileLocked
from dulwich.objects import Blob, Commit
from dulwich.repo import Repo

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.native import save
from outgrowth.core.exchange.native.records import COMPONENT
from outgrowth.core.exchange.native.text import to_text
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.connection import Connection, connect, make_library
from outgrowth.core.team.merge import OneSide
from outgrowth.core.team.publishing import Request, plan, publish, published
from outgrowth.core.team.store import NothingNew, untold
from outgrowth.core.team.taking import take_in
from tests.fuzz.report import Failure, bad_sentence, told
from tests.fuzz.team import SIGNED, begun, git_says

PARTS = ("button", "chip", "notice")
VALUES = ("gap", "opacity", "padding-left")
A_LIBRARY = 50
"""Rounds before a new library is made."""
Said = dict[tuple[str, str], object]
"""What the parts say, by part and property."""


def rounds(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """So many rounds."""
    done = 0
    with tempfile.TemporaryDirectory() as room:
        while done < count:
            folder = Path(room) / f"{seed}"
            folder.mkdir()
            many = min(A_LIBRARY, count - done)
            for wrong in Rounds(seed, folder).run(many):
                yield done, Failure("team rounds", seed, wrong, wrong)
            shutil.rmtree(folder, ignore_errors=True)
            done, seed = done + many, seed + 1
            yield done, None


def said(document: Document) -> Said:
    """What a document's parts say."""
    return {
        (part, name): document.components[part].root.style.get(name)
        for part in PARTS
        if part in document.components
        for name in VALUES
    }


class Publisher:
    """Somebody with a file of their own, and what they changed there since the library had it."""

    def __init__(self, document: Document, held: Connection) -> None:
        self.document = document
        self.held = held
        self.changed: Said = {}


class Rounds:
    """One library, one seed; `done` counts what came about."""

    def __init__(self, seed: int, folder: Path) -> None:
        self.rng = random.Random(seed)
        self.folder = folder
        self.library = folder / "parts"
        self.done: Counter[str] = Counter()

    def run(self, count: int) -> Iterator[str]:
        made = make_library(str(self.library), "Holm parts", SIGNED, self.folder / "copies")
        with closing(made), closing(self._connected()) as one, closing(self._connected()) as two:
            first = Publisher(ferry_line(), made)
            request = Request(first.document, PARTS, {})
            going = publish(request, made.reader, "first", SIGNED, lambda *_: "", untold)
            first.document = published(first.document, going, request)
            save(first.document, self.folder / "start.outgrowth.json")
            save(Document("Kiosk"), self.folder / "kiosk.outgrowth.json")
            self.publishers = [first, Publisher(first.document, one)]
            self.kiosk, self.taker = Document("Kiosk"), two
            acts = [self.work] * 6 + [self.put_out] * 5 + [self.catch_up] * 2 + [self.take] * 3
            acts += [self.cross, self.cross]
            for n in range(count):
                act = self.kill if n % 25 == 13 else self.rng.choice(acts)
                try:
                    self.done[act.__name__] += 1
                    wrong = act()
                except Refusal as problem:
                    wrong = bad_sentence(problem) or f"{act.__name__} was refused: {problem}"
                except Exception as problem:
                    wrong = told(problem)
                if wrong:
                    yield f"round {n}, {act.__name__}: {wrong}"
                    return
        yield from git_says(self.library)

    def _connected(self) -> Connection:
        return connect(str(self.library), self.folder / "copies")

    # --- what they do -----------------------------------------------------------------------

    def work(self) -> str | None:
        who = self.rng.choice(self.publishers)
        part, name = self.rng.choice(PARTS), self.rng.choice(VALUES)
        value = round(self.rng.random(), 3)
        who.document = set_properties(who.document, Place(part, ()), {name: value})
        who.changed[part, name] = value
        return None

    def put_out(self) -> str | None:
        who, rng = self.rng.choice(self.publishers), self.rng
        state = who.held.refreshed(untold)
        chosen = tuple(rng.sample(PARTS, rng.choice((1, 1, 2, 3))))
        before = said(state.document)
        request = Request(who.document, chosen, who.held.bases(who.document, state))
        clash = {one.key for one in plan(request, state).disagreements}
        side = rng.choice(("ours", "theirs"))
        if clash:
            self.done["clash"] += 1
            request = request._replace(picks=OneSide(side))
        try:
            going = publish(request, who.held.reader, "more", SIGNED, lambda *_: "", untold)
        except NothingNew:
            going = None
        after = said(self.taker.refreshed(untold).document)
        mine = {key: value for key, value in who.changed.items() if key[0] in chosen}
        for key, value in after.items():
            wanted = {mine[key]} if key in mine else {before[key]}
            if key in mine and clash:
                wanted = {mine[key], before[key]}
            if key in mine and clash and side == "ours":
                wanted = {mine[key]}
            if value not in wanted:
                return f"{key} is {value}, and {wanted} was wanted; {len(clash)} clashes, {side}"
        if going is not None:
            self.done["published"] += 1
            who.document = published(who.document, going, request)
            who.changed = {k: v for k, v in who.changed.items() if k[0] not in chosen}
            differing = {
                k: (v, after[k]) for k, v in said(who.document).items()
                if k[0] in chosen and v != after[k]
            }  # fmt: skip
            if differing:
                return f"the file after publishing has {differing}"
        return None

    def catch_up(self) -> str | None:
        """A publisher takes in what the others published."""
        who = self.rng.choice(self.publishers)
        state = who.held.refreshed(untold)
        bases = who.held.bases(who.document, state)
        side = self.rng.choice(("ours", "theirs"))
        taken = take_in(who.document, state, PARTS, bases, OneSide(side))
        now, mine = said(state.document), who.changed
        for key, value in said(taken.document).items():
            wanted = {now[key], mine[key]} if key in mine else {now[key]}
            if value not in wanted:
                return f"{key} is {value}, and {wanted} was wanted; {side}"
        who.document = taken.document
        after = said(taken.document)
        who.changed = {k: v for k, v in mine.items() if after[k] == v and now[k] != v}
        return None

    def take(self) -> str | None:
        state = self.taker.refreshed(untold)
        ids = self.rng.sample(PARTS, self.rng.choice((1, 3)))
        bases = self.taker.bases(self.kiosk, state)
        taken = take_in(self.kiosk, state, ids, bases)
        if taken.disagreements:
            return "a file that changed nothing disagrees"
        self.kiosk = taken.document
        wrong = [i for i in ids if self.kiosk.components[i] != state.document.components[i]]
        return f"taken in, {wrong} are not what the library has" if wrong else None

    def cross(self) -> str | None:
        """Somebody works with git alone: two branches, each merged into the other, and both
        merges merged."""
        with closing(Repo(str(self.library))) as repo:
            head = repo.refs[b"refs/heads/main"]
            older = head
            for _ in range(self.rng.randrange(4)):
                older = (repo[older].parents or [older])[0]
            state = self.taker.reader.state_at(head.decode())
            part, name = self.rng.choice(PARTS), self.rng.choice(VALUES)
            document = set_properties(
                state.document, Place(part, ()), {name: round(self.rng.random(), 3)}
            )
            blob = Blob.from_string(to_text(COMPONENT.write(document.components[part])))
            parts = repo[repo[repo[head].tree][b"components"][1]].copy()
            parts[f"{part}.json".encode()] = (0o100644, blob.id)
            tree = repo[repo[head].tree].copy()
            tree[b"components"] = (0o040000, parts.id)
            for item in (blob, parts, tree):
                repo.object_store.add_object(item)
            side = _commit(repo, tree.id, [older])
            left, right = _commit(repo, tree.id, [head, side]), _commit(repo, tree.id, [side, head])
            merged = _commit(repo, tree.id, [left, right])
            # What git tidies up beside may have the branch for a moment.
            for _ in range(100):
                with contextlib.suppress(FileLocked):
                    repo.refs[b"refs/heads/main"] = merged
                    break
                time.sleep(0.02)
        return None

    def kill(self) -> str | None:
        """A process that publishes and takes in is killed; what it told of is there."""
        before = said(self.taker.refreshed(untold).document)
        one = begun(self.folder, "both", str(self.rng.randrange(3)), "100000")
        assert one.stdout is not None
        first = one.stdout.readline()
        time.sleep(self.rng.uniform(0.0, 0.4))
        os.kill(one.pid, signal.SIGKILL)
        rest, _ = one.communicate()
        names = [
            line.split(" ", 1)[1]
            for line in (first + rest).decode().splitlines()
            if line.startswith("published ")
        ]
        held = self.taker
        after = said(held.refreshed(untold).document)
        texts = "\n".join(held.store.version(c).message for c in held._commits(untold))
        lost = [name for name in names if f"\n{name}\n" not in texts]
        if lost:
            return f"told of, and lost: {lost}"
        changed = [key for key in after if key[1] != "opacity" and after[key] != before[key]]
        return f"another's work is another: {changed}" if changed else None


def _commit(repo: Repo, tree: bytes, parents: list[bytes]) -> bytes:
    commit = Commit()
    commit.tree, commit.parents = tree, parents
    commit.author = commit.committer = b"Tove Holm <tove@ferries.example>"
    commit.author_time = commit.commit_time = 1_790_000_000
    commit.author_timezone = commit.commit_timezone = 0
    commit.message = b"by git alone"
    repo.object_store.add_object(commit)
    return commit.id
