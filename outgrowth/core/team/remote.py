"""Libraries behind an address: a copy on this machine, brought up to date and published from.

Everything is read from the copy, so that a library can be looked at with no network. Secrets
are git's business: ssh runs the system's client with its agent, https asks git's own credential
helpers. Nothing of it is kept or written down here.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import subprocess
import tempfile
from collections.abc import Iterator, Mapping
from functools import partial
from pathlib import Path as FilePath
from typing import Any
from urllib.parse import urlsplit

import urllib3
from dulwich.client import (
    GitClient,
    HTTPUnauthorized,
    SSHGitClient,
    SubprocessSSHVendor,
    SubprocessWrapper,
    default_urllib3_manager,
    get_transport_and_path,
)
from dulwich.config import StackedConfig
from dulwich.errors import GitProtocolError, NotGitRepository
from dulwich.objects import ObjectID
from dulwich.refs import Ref
from dulwich.repo import Repo

from outgrowth.core.refusal import Refusal, quoted
from outgrowth.core.team.address import checked_address, is_private, shown_address
from outgrowth.core.team.git_store import GitStore, OwnRepo
from outgrowth.core.team.pack_limits import LARGEST_PACK, check_pack
from outgrowth.core.team.store import (
    Entry,
    LibraryRefusal,
    Progress,
    Signature,
    Unreachable,
    Version,
)

_HEAD = Ref(b"HEAD")
_WAIT_S = 30
"""How long a server may be silent."""

_REPOSITORY = frozenset(
    ("GIT_DIR", "GIT_WORK_TREE", "GIT_COMMON_DIR", "GIT_CONFIG", "GIT_NAMESPACE")
)
"""What says which repository git is in. Whoever calls us from within one sets some."""


class _Pool(urllib3.PoolManager):
    """Asks once: being offline is a state, which the next look in some minutes may end. What is
    left of its answers ends with it, also where nobody read them to their end."""

    def __init__(self, **settings: Any) -> None:
        super().__init__(**{**settings, "retries": urllib3.Retry(0, redirect=3)})
        self._answers: list[urllib3.BaseHTTPResponse] = []

    def urlopen(self, *asked: Any, **settings: Any) -> urllib3.BaseHTTPResponse:
        answer = super().urlopen(*asked, **settings)
        self._answers.append(answer)
        return answer

    def clear(self) -> None:
        for answer in self._answers:
            answer.close()
        self._answers.clear()
        super().clear()


class _Ssh(SubprocessSSHVendor):
    """The system's client, which ends when we are done, also where it could not connect."""

    def __init__(self) -> None:
        super().__init__()
        self._begun: list[SubprocessWrapper] = []

    def run_command(self, *asked: Any, **settings: Any) -> SubprocessWrapper:
        running = super().run_command(*asked, **settings)
        self._begun.append(running)
        return running

    def end(self) -> None:
        """Ends what was begun. Raises GitProtocolError where a client had to be killed."""
        for running in self._begun:
            running.close(_WAIT_S)


class RemoteStore:
    """A library behind an address, by its copy in a folder of this machine's own."""

    def __init__(self, address: str, copies: FilePath) -> None:
        self._address = checked_address(address)
        name = hashlib.sha256(self._address.encode()).hexdigest()[:24]
        folder = copies / f"{name}.git"
        with _in_words(self._address):
            if folder.is_dir():
                repo: Repo = OwnRepo(str(folder))
            else:
                folder.mkdir(parents=True)
                repo = Repo.init_bare(str(folder), default_branch=b"main")
        self._copy = GitStore(repo, folder)
        self._repo = repo
        self._branch = self._copy.branch

    def close(self) -> None:
        """Lets go of the copy's files."""
        self._copy.close()

    # --- reading, from the copy -------------------------------------------------------------

    def head(self) -> str:
        return self._copy.head()

    def files(self, commit: str) -> Mapping[str, Entry]:
        return self._copy.files(commit)

    def blob(self, commit: str, path: str) -> str:
        return self._copy.blob(commit, path)

    def read(self, blob: str) -> bytes:
        return self._copy.read(blob)

    def version(self, commit: str) -> Version:
        return self._copy.version(commit)

    def alone(self) -> contextlib.AbstractContextManager[None]:
        return self._copy.alone()

    # --- over the network -------------------------------------------------------------------

    def refresh(self, progress: Progress) -> str:
        progress("Asking the library …")
        with _in_words(self._address), self._client() as (client, path):

            def determine_wants(
                refs: Mapping[Ref, ObjectID], depth: int | None = None
            ) -> list[ObjectID]:
                heads = [sha for name, sha in refs.items() if name.startswith(b"refs/heads/")]
                existing = self._repo.object_store
                return [sha for sha in dict.fromkeys(heads) if sha not in existing]

            def report(text: bytes) -> None:
                progress(quoted(text.decode("utf-8", "replace").strip(), 60))

            with tempfile.TemporaryFile(dir=self._repo.controldir()) as pack:

                def take(data: bytes) -> int:
                    if pack.tell() + len(data) > LARGEST_PACK:
                        raise LibraryRefusal(
                            f"The library sent more than {LARGEST_PACK:,} bytes. Nothing was read."
                        )
                    return pack.write(data)

                walker = self._repo.get_graph_walker()
                result = client.fetch_pack(path, determine_wants, walker, take, report)
                if pack.tell():
                    pack.seek(0)
                    check_pack(pack)
                    pack.seek(0)
                    self._repo.object_store.add_thin_pack(pack.read, None)
            branch = result.symrefs.get(_HEAD, Ref(self._branch))
            newest = result.refs.get(branch)
            if newest is None:  # a library that nobody published to yet
                return ""
            self._branch = bytes(branch)
            self._repo.refs.set_symbolic_ref(_HEAD, branch)
            self._repo.refs[branch] = newest
            self._copy = GitStore(self._repo, FilePath(self._repo.controldir()), self._branch)
            return newest.decode()

    def append(
        self, parent: str, files: Mapping[str, bytes | None], message: str, signature: Signature
    ) -> str | None:
        with _in_words(self._address):
            objects = self._copy.commit_objects(parent, files, message, signature)
            with self._copy.alone():
                self._copy.add(objects)
            new = ObjectID(objects[-1].id)
            branch = Ref(self._branch)
            refused = False

            def moved(refs: dict[Ref, ObjectID]) -> dict[Ref, ObjectID]:
                # The server compares once more with what it said here: that is the lease.
                nonlocal refused
                refused = refs.get(branch, ObjectID(b"")).decode() != parent
                return {} if refused else {branch: new}

            with self._client() as (client, path):
                result = client.send_pack(
                    path.encode(),
                    moved,
                    self._repo.generate_pack_data,  # type: ignore[arg-type]  # as the client's own
                    progress=lambda _: None,
                )
            problem = (result.ref_status or {}).get(branch)
            if refused or (problem and _is_overtaken(problem)):
                return None
            if problem:
                raise LibraryRefusal(
                    f"The library did not take it: {quoted(str(problem), 120)}. Nothing was "
                    "published."
                )
            self._repo.refs[branch] = new
            return new.decode()

    @contextlib.contextmanager
    def _client(self) -> Iterator[tuple[GitClient, str]]:
        """What talks to the server, and the path there; it lets go of it however that ends."""
        config = StackedConfig.default()
        pool = None
        if self._address.startswith(("https://", "http://")):
            pool = default_urllib3_manager(
                config,
                pool_manager_cls=_Pool,
                timeout=_WAIT_S,
                auth_callback=partial(_credentials, self._address),
            )
        client, path = get_transport_and_path(
            self._address,
            config=config,
            pool_manager=pool,  # type: ignore[arg-type]  # the callback's manager is one
            ssh_command=_ssh_command(config),
            quiet=True,
        )
        ssh = _Ssh()
        if isinstance(client, SSHGitClient):
            client.ssh_vendor = ssh
        try:
            yield client, path
        finally:
            ssh.end()
            if pool is not None:
                pool.clear()


def _ssh_command(config: StackedConfig) -> str | None:
    """What runs ssh, where somebody said so. Source: git(1) GIT_SSH_COMMAND, git-config(1)
    core.sshCommand."""
    command = os.environ.get("GIT_SSH_COMMAND")
    if command:
        return command
    try:
        return config.get((b"core",), b"sshCommand").decode("utf-8", "replace")
    except KeyError:
        return None


def _is_overtaken(problem: str) -> bool:
    """Whether a server refused since somebody else was first. Source: git's receive-pack says so
    in these words (builtin/receive-pack.c); from memory."""
    words = ("failed to update ref", "non-fast-forward", "fetch first", "cannot lock ref", "stale")
    return any(word in problem for word in words)


def _credentials(address: str, url: str, challenge: str, attempt: int) -> dict[str, str] | None:
    """What git's credential helpers know for the address that a person connected; None where
    they know nothing, or what they knew was refused. Whoever was led elsewhere (`url`) is told
    nothing, and nothing goes where somebody could listen. Source: git-credential(1), “fill”."""
    parts = urlsplit(address)
    if attempt > 1 or not is_private(address) or _origin(url) != _origin(address):
        return None
    question = f"protocol={parts.scheme}\nhost={parts.netloc.rpartition('@')[2]}\n\n"
    try:
        with tempfile.TemporaryDirectory(prefix="outgrowth-") as nowhere:
            answer = subprocess.run(
                ["git", "credential", "fill"],
                input=question.encode(),
                capture_output=True,
                timeout=_WAIT_S,
                cwd=nowhere,
                env=_environment(nowhere),
                check=False,
            )
    except (OSError, subprocess.TimeoutExpired):
        return None
    pairs = [line.partition("=") for line in answer.stdout.decode("utf-8", "replace").splitlines()]
    existing = {key: value for key, _, value in pairs if key in ("username", "password")}
    return existing if "username" in existing else None


def _origin(url: str) -> tuple[str, str]:
    """Scheme, and host with port."""
    parts = urlsplit(url)
    return parts.scheme, parts.netloc.rpartition("@")[2].lower()


def _environment(nowhere: str) -> dict[str, str]:
    """What git is told: to ask nobody, and to read the user's own settings only. A repository
    that happens to lie around here may say in its own that any program is a helper. Source:
    git(1), “GIT_CEILING_DIRECTORIES” and the variables of “the Git repository”."""
    told = {name: value for name, value in os.environ.items() if name not in _REPOSITORY}
    around = str(FilePath(nowhere).resolve().parent)
    return told | {"GIT_TERMINAL_PROMPT": "0", "GIT_CEILING_DIRECTORIES": around}


@contextlib.contextmanager
def _in_words(address: str) -> Iterator[None]:
    """Says what networks do, in a sentence that names the address and no secret."""
    place_name = shown_address(address, 80)
    try:
        yield
    except Refusal:
        raise
    except HTTPUnauthorized as problem:
        raise Unreachable(
            f"“{place_name}” asks who you are, and git knows no answer. Sign in once with git "
            "itself (“git ls-remote” of the address); then try again."
        ) from problem
    except NotGitRepository as problem:
        raise LibraryRefusal(f"There is no library at “{place_name}”.") from problem
    except (OSError, GitProtocolError, urllib3.exceptions.HTTPError, EOFError) as problem:
        raise Unreachable(
            f"“{place_name}” cannot be reached now. What was read from it before is shown; try "
            "again later."
        ) from problem
    # Whatever a broken server sends must not end the program.
    except Exception as problem:
        raise LibraryRefusal(
            f"“{place_name}” answers what is no library ({quoted(type(problem).__name__, 40)})."
        ) from problem
