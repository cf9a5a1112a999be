"""A library as it is at one commit: its components, tokens and assets, and their versions.

    README.md  .gitattributes     for people and for git
    library.json                  what tells this library from all others, for good
    document.json components/ assets/    a file in its folder form
    versions.json                 the version of each component
    CHANGELOG.md                  what was published, the newest first

Files are read once for what is in them: a library of 300 parts of which one changed is one
part to read.
"""

from __future__ import annotations

import base64
from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import NamedTuple, cast
from uuid import uuid4

import msgspec
from immutables import Map

from outgrowth.core.document.extent import refuse_endless
from outgrowth.core.document.records import Asset, Component, Document
from outgrowth.core.document.sharing import Library
from outgrowth.core.document.types import Json, JsonObject
from outgrowth.core.document.uses import assets_in_use
from outgrowth.core.exchange.native.codec import Misfit
from outgrowth.core.exchange.native.folder import HEAD, is_own_name, listed_files
from outgrowth.core.exchange.native.records import COMPONENT, document_from, document_to
from outgrowth.core.exchange.native.text import from_text, to_text
from outgrowth.core.refusal import Refusal, quoted
from outgrowth.core.team.store import Entry, LibraryRefusal, Progress, Store
from outgrowth.core.team.versions import FIRST, version_numbers

CARD = "library.json"
VERSIONS = "versions.json"
CHANGELOG = "CHANGELOG.md"
FORMAT = "outgrowth-library"
NEWEST = 1
"""The version of the library's own files."""

_ATTRIBUTES = b"""# Parts are merged by what they are made of (outgrowth merge), the rest by lines.
*.json merge=outgrowth
CHANGELOG.md merge=union
"""


class LibraryState(NamedTuple):
    """What a library holds at a commit ("" before anything was published).

    versions    of the components, by id
    files       the path of each component's file
    unreadable  what cannot be read of other people's files: a sentence by the file's path
    """

    commit: str
    library: Library
    document: Document
    versions: Mapping[str, str]
    files: Mapping[str, str]
    unreadable: Mapping[str, str] = MappingProxyType({})

    def version(self, component_id: str) -> str:
        """The version of a component."""
        return self.versions.get(component_id, FIRST)


class LibraryReader:
    """Reads states of one library, and keeps what it read by the digest of the file."""

    def __init__(self, store: Store, address: str) -> None:
        self.store = store
        self._address = address
        self._components: dict[str, Component] = {}
        self._assets: dict[str, bytes] = {}
        self._states: dict[str, LibraryState] = {}

    def newest(self) -> LibraryState:
        """The newest state that is known on this machine. Raises LibraryRefusal."""
        return self.state_at(self.store.head())

    def refreshed(self, progress: Progress) -> LibraryState:
        """The newest state there is. Raises LibraryRefusal, Unreachable among them."""
        return self.state_at(self.store.refresh(progress))

    def state_at(self, commit: str) -> LibraryState:
        """The state at a commit. Raises LibraryRefusal."""
        cached = self._states.get(commit)
        if cached is None:
            if len(self._states) > 64:
                self._states.clear()  # a long history was looked through
            cached = self._states[commit] = self._read(commit)
        return cached

    def part(self, commit: str, path: str) -> tuple[Component, str]:
        """A component's file at a commit, and its version there, without all the rest. Raises
        LibraryRefusal."""
        files = self.store.files(commit)
        component = self._component(files, path)
        return component, self._versions(files).get(component.id, FIRST)

    def _read(self, commit: str) -> LibraryState:
        files = self.store.files(commit)
        try:
            return self._state(commit, files)
        except LibraryRefusal:
            raise
        except Refusal as problem:
            raise LibraryRefusal(f"The library cannot be read: {problem}") from problem

    def _state(self, commit: str, files: Mapping[str, Entry]) -> LibraryState:
        library = self._card(files)
        head = self._object(files, HEAD)
        listing = listed_files(head)
        bare = {key: value for key, value in head.items() if key not in ("screens", "assets")}
        document = document_from(bare | {"components": []}, HEAD)
        unreadable: dict[str, str] = {}
        components: dict[str, Component] = {}
        paths: dict[str, str] = {}
        for path in listing["components"]:
            try:
                component = self._component(files, path)
                if component.id in components:
                    raise LibraryRefusal("it is there twice.")
            except Refusal as problem:
                unreadable[path] = str(problem)
                continue
            components[component.id] = component
            paths[component.id] = path
        document = msgspec.structs.replace(
            document,
            components=Map(components),
            component_order=tuple(components),
            assets=self._assets_of(files, head, listing["assets"], unreadable),
        )
        refuse_endless(document, document.owners())
        return LibraryState(commit, library, document, self._versions(files), paths, unreadable)

    # --- one file each ----------------------------------------------------------------------

    def _bytes(self, files: Mapping[str, Entry], path: str) -> bytes:
        entry = files.get(path)
        if entry is None:
            raise LibraryRefusal(f"“{quoted(path, 60)}” is missing in the library.")
        if not entry.ordinary:
            raise LibraryRefusal(
                f"“{quoted(path, 60)}” in the library is a link, or another library, and no file."
            )
        return self.store.read(entry.blob)

    def _object(self, files: Mapping[str, Entry], path: str) -> JsonObject:
        record = from_text(self._bytes(files, path), path)
        if not isinstance(record, dict):
            raise LibraryRefusal(f"“{quoted(path, 60)}” in the library holds nothing of ours.")
        return record

    def _card(self, files: Mapping[str, Entry]) -> Library:
        if CARD not in files:
            raise LibraryRefusal(
                f"This repository is no library: it holds no {CARD}. Choose another, or make a new "
                "library in an empty one."
            )
        card = self._object(files, CARD)
        if card.get("format") != FORMAT:
            raise LibraryRefusal(f"{CARD} is not that of a library.")
        version = card.get("version")
        if isinstance(version, int) and version > NEWEST:
            raise LibraryRefusal(
                "The library was made by a newer Outgrowth; take the newer program to use it."
            )
        library_id, name = card.get("id"), card.get("name")
        if not isinstance(library_id, str) or not library_id or not isinstance(name, str):
            raise LibraryRefusal(f"{CARD} does not say which library this is.")
        return Library(library_id, name, self._address)

    def _component(self, files: Mapping[str, Entry], path: str) -> Component:
        if not is_own_name(path):
            raise LibraryRefusal(f"“{quoted(path, 60)}” is no name of a part.")
        entry = files.get(path)
        cached = self._components.get(entry.blob) if entry is not None else None
        if cached is not None:
            return cached
        component = _read_component(self._bytes(files, path), path)
        if entry is not None:
            self._components[entry.blob] = component
        return component

    def _assets_of(
        self,
        files: Mapping[str, Entry],
        head: JsonObject,
        paths: Iterable[str],
        unreadable: dict[str, str],
    ) -> Map[str, Asset]:
        assets: dict[str, Asset] = {}
        listing = cast(dict[str, JsonObject], head.get("assets", {}))
        for path, (digest, about) in zip(paths, listing.items(), strict=True):
            try:
                if not is_own_name(path):
                    raise LibraryRefusal(f"“{quoted(path, 60)}” is no name of a part.")
                entry = files.get(path)
                data = self._assets.get(entry.blob) if entry is not None else None
                if data is None:
                    data = self._bytes(files, path)
                    if entry is not None:
                        self._assets[entry.blob] = data
                asset = Asset(str(about.get("name", "")), str(about.get("media", "")), data)
                if asset.digest != digest:
                    raise LibraryRefusal("it is not what its name says.")
                assets[digest] = asset
            except Refusal as problem:
                unreadable[path] = str(problem)
        return Map(assets)

    def _versions(self, files: Mapping[str, Entry]) -> Mapping[str, str]:
        if VERSIONS not in files:
            return {}
        record = self._object(files, VERSIONS)
        return {
            component: version
            for component, version in record.items()
            if isinstance(version, str) and version_numbers(version) != (0, 0, 0)
        }


def _read_component(data: bytes, path: str) -> Component:
    try:
        return COMPONENT.read(from_text(data, path))
    except Misfit as problem:
        place = f"{problem.place}: " if problem.where else ""
        raise LibraryRefusal(f"{place}{problem.what}") from problem
    except RecursionError as problem:
        raise LibraryRefusal("it is nested too deeply to be read.") from problem


def empty_state(name: str, address: str) -> LibraryState:
    """A library that is about to be made."""
    library = Library(f"library-{uuid4().hex[:12]}", name, address)
    return LibraryState("", library, Document(name), {}, {})


def written(
    state: LibraryState, document: Document, versions: Mapping[str, str], entry: str
) -> dict[str, bytes | None]:
    """The files that make a library's state hold another document: only those that differ, None
    for those that go. `entry` stands first in the changelog.

    Raises LibraryRefusal where the library holds what cannot be read: it is not written over.
    """
    if state.unreadable:
        path, problem = next(iter(state.unreadable.items()))
        raise LibraryRefusal(
            f"“{path}” in the library is damaged: {problem} Mend it first, or take it back to an "
            "older version with git; nothing was published."
        )
    files: dict[str, bytes | None] = {}
    paths = dict(state.files)
    for component in document.in_order():
        if state.document.components.get(component.id) != component:
            path = paths.get(component.id) or _free_path(component.id, set(paths.values()))
            paths[component.id] = path
            files[path] = to_text(COMPONENT.write(component))
    for removed_id in set(state.document.components) - set(document.components):
        files[paths.pop(removed_id)] = None
    assets_shown = assets_in_use(document)
    before = state.document.assets
    files |= {f"assets/{d}": asset.data for d, asset in assets_shown.items() if d not in before}
    files |= {f"assets/{d}": None for d in before if d not in assets_shown}
    files[HEAD] = to_text(_head(document, paths, assets_shown))
    files[VERSIONS] = to_text(cast(Json, {k: v for k, v in versions.items() if k in paths}))
    files[CHANGELOG] = entry.encode()
    if not state.commit:
        files[CARD] = to_text(
            {
                "format": FORMAT,
                "version": NEWEST,
                "id": state.library.id,
                "name": state.library.name,
            }
        )
        files[".gitattributes"] = _ATTRIBUTES
        files["README.md"] = readme(state.library.name).encode()
    return files


def _head(document: Document, paths: Mapping[str, str], assets: Mapping[str, Asset]) -> JsonObject:
    bare = msgspec.structs.replace(
        document, components=Map(), component_order=(), assets=Map(), mode=""
    )
    head = document_to(bare)
    head["components"] = [
        paths[component].removeprefix("components/") for component in document.component_order
    ]
    if assets:
        head["assets"] = {
            digest: {"name": asset.name, "media": asset.media} for digest, asset in assets.items()
        }
    return head


def _free_path(component_id: str, used: set[str]) -> str:
    usual = f"components/{component_id}.json"
    if is_own_name(usual) and usual not in used:
        return usual
    # Ids of files that others wrote may be anything; the name of a file may not.
    safe = base64.b32encode(component_id.encode())[:60].decode().rstrip("=").lower()
    names = (f"components/part-{safe}{n or ''}.json" for n in range(len(used) + 2))
    return next(name for name in names if name not in used)


def readme(name: str) -> str:
    """What a made library says of itself."""
    return f"""# {name}

The team's parts: components, tokens and pictures that several Outgrowth files share.

- `components/` holds one file for each component, `assets/` the pictures and fonts,
  `document.json` the tokens and the order of the parts, `versions.json` the version of each.
- `CHANGELOG.md` says what was published, the newest first.
- A version is *major.minor.patch*: major where something that instances set went or has another
  name, minor where something new can be set or happens, patch where it only looks different.

Designers connect to it from the Library panel of Outgrowth (“Team”). For scripts:

    outgrowth publish FILE --library THIS --component NAME --message TEXT
    outgrowth outdated FILE
    outgrowth take-in FILE
    outgrowth diff A B

It is an ordinary git repository: history, review, backup and access are whatever your team has.
Two lines let git itself merge parts by what they are made of instead of by lines:

    git config merge.outgrowth.name "parts by what they are made of"
    git config merge.outgrowth.driver "outgrowth merge %O %A %B --path %P"
"""
