"""A library in a git repository: on a disk, on a file server, or in memory."""

from __future__ import annotations

import contextlib
import fcntl
import os
import stat
import tempfile
import time
from collections.abc import Iterator, Mapping
from pathlib import Path as FilePath

from dulwich.config import ConfigFile
from dulwich.errors import NotGitRepository
from dulwich.file import FileLocked, SharedPerm, adjust_shared_perm
from dulwich.objects import Blob, Commit, ObjectID, ShaFile, Tree, TreeEntry
from dulwich.refs import Ref
from dulwich.repo import BaseRepo, Repo

from outgrowth.core.refusal import Refusal, quoted
from outgrowth.core.team.pack_limits import LARGEST_PART, refuse_large, refuse_large_object
from outgrowth.core.team.store import (
    Entry,
    LibraryRefusal,
    Progress,
    Signature,
    Unreachable,
    Version,
)

FOLDERS = ("components", "assets", "screens")
"""The folders of a library whose files are read; others are the team's own and stay."""
MOST_FILES = 20_000
BRANCH = b"refs/heads/main"
"""Where a library that is made here lives; an existing one says itself."""
_STALE_S = 2.0
"""How old a lock of a branch is before it is taken to be left by a process that died: git holds
them for milliseconds."""


class OwnRepo(Repo):
    """A repository whose settings are its own: what they include lies elsewhere, and is no
    business of whoever reads a library."""

    def get_config(self) -> ConfigFile:
        """The settings in its folder."""
        path = os.path.join(self.commondir(), "config")  # noqa: PTH118  # as the base has it
        try:
            return ConfigFile.from_path(path, expand_includes=False)
        except FileNotFoundError:
            config = ConfigFile()
            config.path = path
            return config


class GitStore:
    """A repository on this machine or on a file server.

    Raises LibraryRefusal where there is none.
    """

    def __init__(
        self, repo: BaseRepo, folder: FilePath | None, branch: bytes | None = None
    ) -> None:
        self._repo = repo
        self._folder = folder
        self._branch = branch or _branch_of(repo)
        if isinstance(repo, Repo):
            repo.object_store.loose_object_size_limit = LARGEST_PART
        self._is_locked = False

    @property
    def repo(self) -> BaseRepo:
        """The repository itself, for what transports need."""
        return self._repo

    @property
    def branch(self) -> bytes:
        """The branch that is read and published to."""
        return self._branch

    def close(self) -> None:
        """Lets go of the repository's files."""
        if isinstance(self._repo, Repo):
            self._repo.close()

    # --- reading ------------------------------------------------------------------------

    def head(self) -> str:
        with _in_words():
            return self._repo.refs.as_dict().get(Ref(self._branch), ObjectID(b"")).decode()

    def refresh(self, progress: Progress) -> str:
        if self._folder is not None and not self._folder.is_dir():
            name = quoted(self._folder.name, 60)
            raise Unreachable(f"The library's folder “{name}” is not there now; look again later.")
        return self.head()

    def files(self, commit: str) -> Mapping[str, Entry]:
        if not commit:
            return {}
        with _in_words():
            entries: dict[str, Entry] = {}
            for item in self._tree(self._commit(commit).tree).iteritems():
                name = item.path.decode("utf-8", "replace")
                if not stat.S_ISDIR(item.mode):
                    entries[name] = _entry(item)
                elif name in FOLDERS:
                    for inner in self._tree(item.sha).iteritems():
                        entries[f"{name}/{inner.path.decode('utf-8', 'replace')}"] = _entry(inner)
            if len(entries) > MOST_FILES:
                raise LibraryRefusal(
                    f"The library holds more than {MOST_FILES:,} files, so it was not read."
                )
            return entries

    def blob(self, commit: str, path: str) -> str:
        with _in_words():
            sha = self._commit(commit).tree
            for name in path.encode().split(b"/"):
                tree = self._tree(sha)
                if name not in tree:
                    return ""
                sha = tree[name][1]
            return str(sha.decode())

    def read(self, blob: str) -> bytes:
        with _in_words():
            stored = self._object(ObjectID(blob.encode()))
            if not isinstance(stored, Blob):
                raise LibraryRefusal("The library holds a folder where a file should be.")
            data = stored.data
        refuse_large(len(data))
        return data

    def version(self, commit: str) -> Version:
        with _in_words():
            stored = self._commit(commit)
            return Version(
                commit,
                tuple(parent.decode() for parent in stored.parents),
                stored.author.decode("utf-8", "replace"),
                stored.author_time,
                stored.message.decode("utf-8", "replace"),
            )

    def _commit(self, commit: str) -> Commit:
        stored = self._object(ObjectID(commit.encode()))
        if not isinstance(stored, Commit):
            raise LibraryRefusal("The library's newest version is no version at all.")
        return stored

    def _tree(self, tree: ObjectID) -> Tree:
        stored = self._object(tree)
        if not isinstance(stored, Tree):
            raise LibraryRefusal("The library holds a file where a folder should be.")
        return stored

    def _object(self, digest: ObjectID) -> ShaFile:
        """One object. Raises LibraryRefusal before it unpacks what is larger than ours are."""
        if isinstance(self._repo, Repo):
            for pack in self._repo.object_store.packs:
                if digest in pack:
                    refuse_large_object(pack, digest)
                    break
            else:
                name = digest.decode()
                path = FilePath(self._repo.commondir(), "objects", name[:2], name[2:])
                _refuse_odd(path, path.parent)
        return self._repo.object_store[digest]

    # --- publishing ---------------------------------------------------------------------

    def append(
        self, parent: str, files: Mapping[str, bytes | None], message: str, signature: Signature
    ) -> str | None:
        with _in_words():
            objects = self.commit_objects(parent, files, message, signature)
            with self.alone():
                if self.head() != parent:
                    return None
                self.add(objects)
                new = ObjectID(objects[-1].id)
                return new.decode() if self._advance(parent, new) else None

    def commit_objects(
        self, parent: str, files: Mapping[str, bytes | None], message: str, signature: Signature
    ) -> list[ShaFile]:
        """The objects of a commit on top of `parent`, itself last; nothing is written yet."""
        objects: list[ShaFile] = []
        root = self._tree(self._commit(parent).tree).copy() if parent else Tree()
        assert isinstance(root, Tree)
        folders: dict[str, Tree] = {}
        for path, data in files.items():
            folder, _, name = path.rpartition("/")
            if folder and folder not in folders:
                stored = root[folder.encode()][1] if folder.encode() in root else None
                copied = self._tree(stored).copy() if stored is not None else Tree()
                assert isinstance(copied, Tree)
                folders[folder] = copied
            tree = folders[folder] if folder else root
            if data is None:
                if name.encode() in tree:
                    del tree[name.encode()]
                continue
            blob = Blob.from_string(data)
            objects.append(blob)
            tree.add(name.encode(), 0o100644, blob.id)
        for folder, tree in folders.items():
            objects.append(tree)
            if len(tree):
                root.add(folder.encode(), 0o040000, tree.id)
            elif folder.encode() in root:
                del root[folder.encode()]
        objects.append(root)
        commit = Commit()
        commit.tree = root.id
        commit.parents = [ObjectID(parent.encode())] if parent else []
        commit.author = commit.committer = signature.author.encode()
        commit.author_time = commit.commit_time = signature.when
        commit.author_timezone = commit.commit_timezone = 0
        commit.encoding = b"UTF-8"
        commit.message = message.encode()
        return [*objects, commit]

    def add(self, objects: list[ShaFile]) -> None:
        """Writes objects, each whole or not at all."""
        for item in objects:
            if self._folder is not None and isinstance(self._repo, Repo):
                _write_loose(item, self._folder / "objects", self._repo.object_store.shared_perm)
            else:
                self._repo.object_store.add_object(item)

    def _advance(self, old: str, new: ObjectID) -> bool:
        expected = ObjectID(old.encode() or b"0" * 40)
        end = time.monotonic() + 2 * _STALE_S
        while True:
            try:
                return self._repo.refs.set_if_equals(Ref(self._branch), expected, new)
            except FileLocked as problem:
                lock = FilePath(os.fsdecode(problem.lockfilename))
                with contextlib.suppress(FileNotFoundError):
                    if time.time() - lock.stat().st_mtime > _STALE_S:
                        lock.unlink(missing_ok=True)
                if time.monotonic() > end:
                    raise
                time.sleep(0.02)

    @contextlib.contextmanager
    def alone(self) -> Iterator[None]:
        if self._folder is None or self._is_locked:
            yield
            return
        handle = os.open(self._folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            with contextlib.suppress(OSError):  # some disks know no locks
                fcntl.flock(handle, fcntl.LOCK_EX)
            self._is_locked = True
            yield
        finally:
            self._is_locked = False
            os.close(handle)


def open_folder(folder: FilePath) -> GitStore:
    """The repository in a folder. Raises LibraryRefusal for anything else."""
    with _in_words(folder):
        for place in (folder, folder / ".git"):
            _refuse_odd_files(place)
        try:
            repo = OwnRepo(str(folder))
        except NotGitRepository:
            raise LibraryRefusal(
                f"“{quoted(folder.name or str(folder), 60)}” holds no library. Choose its folder, "
                "or make a new library there."
            ) from None
        store = GitStore(repo, FilePath(repo.controldir()))
        if not repo.bare and store.head():
            repo.close()
            raise LibraryRefusal(
                f"“{quoted(folder.name, 60)}” is somebody's working copy. Connect to the library "
                "it was cloned from, or to a bare copy of it."
            )
        return store


_READ_FIRST = (
    ".git", "HEAD", "config", "packed-refs", "commondir", "shallow", "gitdir",
    "objects/info/alternates", "info/exclude", "info/attributes", "info/grafts",
)  # fmt: skip


def _refuse_odd_files(folder: FilePath) -> None:
    """Raises LibraryRefusal where git would read a pipe or a device: such may never end."""
    for name in _READ_FIRST:
        _refuse_odd(folder / name, folder)
    waiting, count = [folder / "refs", folder / "objects" / "pack"], 0
    while waiting:
        place = waiting.pop()
        for path in place.iterdir() if place.is_dir() and not place.is_symlink() else ():
            count += 1
            if count > MOST_FILES:
                raise LibraryRefusal(
                    f"The library has more than {MOST_FILES:,} branches and packs, so it was not "
                    "read."
                )
            if path.is_dir():
                waiting.append(path)
            else:
                _refuse_odd(path, folder)


def _refuse_odd(path: FilePath, folder: FilePath) -> None:
    try:
        mode = path.stat().st_mode
    except OSError:
        return  # not there, which git says better
    if not stat.S_ISREG(mode) and not stat.S_ISDIR(mode):
        raise LibraryRefusal(
            f"“{quoted(str(path.relative_to(folder)), 60)}” in the library is no ordinary file, so "
            "it was not read."
        )


def make_folder(folder: FilePath) -> GitStore:
    """A new repository in a folder that is empty or not there yet. Raises LibraryRefusal."""
    with _in_words(folder):
        folder.mkdir(parents=True, exist_ok=True)
        if any(folder.iterdir()):
            raise LibraryRefusal(
                f"“{quoted(folder.name, 60)}” is not empty. Choose a new folder for the library."
            )
        return GitStore(Repo.init_bare(str(folder), default_branch=b"main"), folder)


def _branch_of(repo: BaseRepo) -> bytes:
    """The branch that the repository's HEAD means, whether it is there yet or not."""
    with _in_words():
        branch = repo.refs.get_symrefs().get(Ref(b"HEAD"), Ref(BRANCH))
        return bytes(branch) if branch.startswith(b"refs/heads/") else BRANCH


def _entry(item: TreeEntry) -> Entry:
    """A file of a tree. What is a link, or a repository within, is no ordinary one."""
    return Entry(item.sha.decode(), stat.S_ISREG(item.mode))


def _write_loose(item: ShaFile, objects: FilePath, permission: SharedPerm | None) -> None:
    """One object as a file of its own. A process that died leaves what git itself leaves and
    passes over: a file called tmp_obj_."""
    name = item.id.decode()
    path = objects / name[:2] / name[2:]
    if not path.parent.is_dir():
        path.parent.mkdir(exist_ok=True)
        adjust_shared_perm(path.parent, permission)
    handle, part = tempfile.mkstemp(prefix="tmp_obj_", dir=path.parent)
    try:
        with os.fdopen(handle, "wb") as out:
            out.write(item.as_legacy_object())
            out.flush()
            os.fsync(out.fileno())
        FilePath(part).chmod(0o444)
        adjust_shared_perm(part, permission)
        FilePath(part).replace(path)
    except OSError:
        with contextlib.suppress(OSError):
            FilePath(part).unlink()
        raise


@contextlib.contextmanager
def _in_words(folder: FilePath | None = None) -> Iterator[None]:
    """Says what other people's broken repositories and disks do, in a sentence."""
    try:
        yield
    except Refusal:
        raise
    except OSError as problem:
        place_name = f"“{quoted(folder.name, 60)}”" if folder is not None else "The library"
        raise LibraryRefusal(
            f"{place_name} cannot be used: {problem.strerror or type(problem).__name__}."
        ) from problem
    except FileLocked as problem:
        raise LibraryRefusal(
            "The library is being written by another program. Try again in a moment."
        ) from problem
    # What a damaged repository makes of a reader is not for us to list.
    except Exception as problem:
        raise LibraryRefusal(
            f"The library is damaged ({quoted(type(problem).__name__, 40)}). Nothing was changed; "
            "“git fsck” in it says more."
        ) from problem
