"""A library that a file is connected to: opened, read, looked through, brought back."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path as FilePath
from typing import NamedTuple

from outgrowth.core.document.records import Component, Document
from outgrowth.core.team.address import folder_at, is_address, without_secret
from outgrowth.core.team.library import LibraryReader, LibraryState, empty_state, written
from outgrowth.core.team.store import (
    LibraryRefusal,
    Progress,
    Signature,
    Store,
    Version,
    untold,
)


class PartVersion(NamedTuple):
    """A version of a component: what it was then, and about the commit that put it there."""

    version: str
    about: Version
    component: Component


class Connection:
    """A library by its address. Reads what is known on this machine; `refreshed` asks."""

    def __init__(self, store: Store, address: str) -> None:
        self.store = store
        self.address = address
        self.reader = LibraryReader(store, address)

    def newest(self) -> LibraryState:
        """The newest state that is known on this machine. Raises LibraryRefusal."""
        return self.reader.newest()

    def refreshed(self, progress: Progress) -> LibraryState:
        """The newest state there is. Raises LibraryRefusal."""
        return self.reader.refreshed(progress)

    def bases(self, document: Document, state: LibraryState) -> dict[str, Component]:
        """Of all parts that are worked on in a file, what the library had when that began."""
        bases: dict[str, Component] = {}
        for component_id, origin in document.sharing.origins.items():
            if origin.own and origin.library == state.library.id and origin.commit:
                began = self._at_origin(component_id, origin.commit)
                if began is not None:
                    bases[component_id] = began
        return bases

    def _at_origin(self, component_id: str, commit: str) -> Component | None:
        """A component at the commit that a file has of it; None where the library's history was
        written anew and has no such commit any more."""
        try:
            return self.reader.state_at(commit).document.components.get(component_id)
        except LibraryRefusal:
            return None

    def history(self, component_id: str, progress: Progress) -> Iterator[PartVersion]:
        """The versions of a component, the newest first, also those that were put there by git
        alone. Raises LibraryRefusal."""
        path = self.newest().files.get(component_id, f"components/{component_id}.json")
        commit, blob = "", ""
        for older in self._commits(progress):
            present = self.store.blob(older, path)
            # The oldest commit that holds it so is the one that brought it.
            if commit and present != blob:
                yield self._part(commit, path)
            if not present:
                return
            commit, blob = older, present
        if commit:
            yield self._part(commit, path)

    def _part(self, commit: str, path: str) -> PartVersion:
        component, version = self.reader.part(commit, path)
        return PartVersion(version, self.store.version(commit), component)

    def _commits(self, progress: Progress) -> Iterator[str]:
        """All commits from the newest back, along the way that was published."""
        commit = self.store.head()
        count = 0
        while commit:
            yield commit
            count += 1
            if count % 50 == 0:
                progress(f"Looked through {count} publications …")
            parents = self.store.version(commit).parents
            commit = parents[0] if parents else ""

    def close(self) -> None:
        """Lets go of files."""
        close = getattr(self.store, "close", None)
        if close is not None:
            close()


def connect(address: str, copies: FilePath) -> Connection:
    """A library in a folder or behind an address; `copies` is where this machine keeps what it
    read of those behind addresses. Raises LibraryRefusal."""
    if is_address(address):
        return Connection(_remote_store(address, copies), without_secret(address))
    folder = folder_at(address)
    if not folder.is_dir():
        raise LibraryRefusal(f"There is no folder “{folder.name or address}”.")
    # Here and not above: version control takes long to import, and most work goes without.
    from outgrowth.core.team.git_store import open_folder

    return Connection(open_folder(folder), str(folder.resolve()))


def make_library(address: str, name: str, signature: Signature, copies: FilePath) -> Connection:
    """A new library, empty but for what it says of itself: in a new folder, or in an empty
    repository behind an address. Raises LibraryRefusal."""
    if is_address(address):
        store, address = _remote_store(address, copies), without_secret(address)
    else:
        # Here and not above, for the same reason.
        from outgrowth.core.team.git_store import make_folder

        folder = folder_at(address)
        store = make_folder(folder)
        address = str(folder.resolve())
    if store.refresh(untold):
        raise LibraryRefusal("There is something in that repository. Connect to it instead.")
    state = empty_state(name, address)
    files = written(state, state.document, {}, "# What was published\n")
    if store.append("", files, f"Make the library {name}\n", signature) is None:
        raise LibraryRefusal("Somebody else made a library there meanwhile. Connect to it instead.")
    return Connection(store, address)


def _remote_store(address: str, copies: FilePath) -> Store:
    # Here and not above, for the same reason.
    from outgrowth.core.team.remote import RemoteStore

    return RemoteStore(address, copies)
