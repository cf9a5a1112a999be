"""The libraries of the file in hand: what they hold, what is newer, what goes in and out.

What takes long is a *job*: a function of a progress notice that reads values and gives one, so
that a window can do it beside itself. What a job gives is taken up here afterwards.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from pathlib import Path as FilePath
from typing import NamedTuple, Protocol, TypeVar

import msgspec

from outgrowth.core.document.records import Document, short_name
from outgrowth.core.document.sharing import Library
from outgrowth.core.refusal import quoted
from outgrowth.core.team.address import folder_at, is_address
from outgrowth.core.team.connection import Connection, PartVersion, connect, make_library
from outgrowth.core.team.library import LibraryState
from outgrowth.core.team.merge import Picks
from outgrowth.core.team.origins import leave, make_own, work_here
from outgrowth.core.team.publishing import (
    PublishingPlan,
    Request,
    changed_here,
    plan,
    publish,
    published,
)
from outgrowth.core.team.store import (
    Cancelled,
    LibraryRefusal,
    Progress,
    Signature,
    Unreachable,
)
from outgrowth.core.team.taking import (
    News,
    TakenIn,
    news,
    take_in,
    with_library,
)
from outgrowth.core.team.versions import Level
from outgrowth.workspace.connected_libraries import ConnectedLibraries, not_connected_text
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.notices import PlainNotice
from outgrowth.workspace.workspace import Workspace

Result = TypeVar("Result")
Job = Callable[[Progress], Result]


class LibraryView(NamedTuple):
    """A library as it was seen last.

    connection, state  None while nobody could open it
    problem            why it is not seen as it is now, a sentence; "" where it is
    connected          whether somebody on this machine connected the file to it
    """

    library: Library
    connection: Connection | None = None
    state: LibraryState | None = None
    problem: str = ""
    connected: bool = True


class Fresh(NamedTuple):
    """A newer version of a part of the file, and the library that has it."""

    library: str
    news: News


class Published(NamedTuple):
    """What was published, and of which request."""

    plan: PublishingPlan
    request: Request
    library: str


class _KnownNews(NamedTuple):
    """News, and what they were worked out from."""

    inputs: tuple[object, ...]
    news: tuple[Fresh, ...]

    def still(self, inputs: tuple[object, ...]) -> bool:
        """Whether they would come out the same: everything is the very same object."""
        same = len(self.inputs) == len(inputs)
        return same and all(a is b for a, b in zip(self.inputs, inputs, strict=True))


class Colleagues(Protocol):
    """Others who publish when they are asked to; a demonstration hands them in."""

    def work_in(self, address: str) -> bool:
        """Whether they publish in the library at an address."""
        ...

    def publish(
        self, address: str, document: Document, when: int, copies: FilePath, progress: Progress
    ) -> list[PublishingPlan]:
        """Publishes in the library, signed at a time (s since 1970). Raises Refusal."""
        ...


class Team:
    """What a workspace shares.

    changed  emitted when a library was seen anew
    """

    def __init__(
        self,
        workspace: Workspace,
        copies: FilePath,
        connected: ConnectedLibraries,
        colleagues: Colleagues | None = None,
    ) -> None:
        """`copies` is the folder for what is read of libraries behind addresses, `connected`
        knows which addresses a person connected the file to."""
        self._workspace = workspace
        self._copies = copies
        self._connected = connected
        self._connected_here: set[str] = set()
        self._colleagues = colleagues
        self.views: dict[str, LibraryView] = {}
        self.changed = PlainNotice()
        self._engines: dict[str, Engine] = {}
        self._fresh = _KnownNews((), ())
        workspace.supply = self.supplied
        workspace.history_changed.connect(self._keep_connections)
        self._kept: tuple[FilePath | None, tuple[Library, ...]] = (None, ())

    # --- reading ----------------------------------------------------------------------------

    @property
    def libraries(self) -> tuple[LibraryView, ...]:
        """The libraries that the file knows, each as it was seen last."""
        libraries = self._workspace.document.sharing.libraries
        return tuple(self._view(library) for library in libraries)

    def _view(self, library: Library) -> LibraryView:
        if not self.is_connected(library):
            return LibraryView(library, problem=not_connected_text(library), connected=False)
        return self.views.get(library.id, LibraryView(library))

    @property
    def not_connected(self) -> tuple[Library, ...]:
        """The libraries that the file names and nobody on this machine connected it to."""
        return tuple(view.library for view in self.libraries if not view.connected)

    def is_connected(self, library: Library) -> bool:
        """Whether a person on this machine connected the file to where it says a library is:
        only then is anything there asked or read."""
        if library.address in self._connected_here:
            return True
        path = self._workspace.path
        known = path is not None and self._connected.has(path, library.address)
        if known:
            self._connected_here.add(library.address)
        return known

    def state(self, library_id: str) -> LibraryState | None:
        """What a library holds, as far as it was seen."""
        library = self._workspace.document.sharing.library(library_id)
        return self._view(library).state if library is not None else None

    def holding(self, component_id: str) -> LibraryState | None:
        """The library that a part of the file comes from, or that has one with this id."""
        origin = self._workspace.document.sharing.origins.get(component_id)
        if origin is not None:
            return self.state(origin.library)
        states = (view.state for view in self.libraries)
        return next((s for s in states if s and component_id in s.document.components), None)

    def engine(self, library_id: str) -> Engine:
        """What draws a library's own parts."""
        fonts = self._workspace.engine.fonts
        engine = self._engines.get(library_id)
        if engine is None or engine.fonts is not fonts:
            engine = self._engines[library_id] = Engine(fonts)
        return engine

    def fresh(self) -> tuple[Fresh, ...]:
        """The parts of the file that have newer versions, as far as was seen."""
        document = self._workspace.document
        states = tuple(view.state for view in self.libraries if view.state is not None)
        inputs = (document.sharing, document.components, *states)
        if not self._fresh.still(inputs):
            parts = ((state.library.id, part) for state in states for part in news(document, state))
            self._fresh = _KnownNews(inputs, tuple(Fresh(*pair) for pair in parts))
        return self._fresh.news

    def supplied(self, document: Document, component_id: str) -> Document:
        """The document with a component that one of its libraries has, if it has none such."""
        if component_id in document.components:
            return document
        for view in self.libraries:
            if view.state is not None and component_id in view.state.document.components:
                return take_in(document, view.state, [component_id], None).document
        return document

    # --- jobs: they only read what they were given -------------------------------------------

    def look(self) -> Job[tuple[LibraryView, ...]]:
        """Asks all libraries that the file is connected to what is newest."""
        self._keep_connections()
        views = tuple(view for view in self.libraries if view.connected)
        copies = self._copies
        return lambda progress: tuple(_looked(view, copies, progress) for view in views)

    def connecting(self, address: str) -> Job[LibraryView]:
        """Connects to a library that is there."""
        copies = self._copies

        def job(progress: Progress) -> LibraryView:
            connection = connect(_from_the_top(address), copies)
            state = connection.refreshed(progress)
            return LibraryView(state.library, connection, state)

        return job

    def making(self, address: str, name: str, signature: Signature) -> Job[LibraryView]:
        """Makes a new library."""
        copies = self._copies

        def job(progress: Progress) -> LibraryView:
            progress("Making the library …")
            connection = make_library(_from_the_top(address), name, signature, copies)
            state = connection.newest()
            return LibraryView(state.library, connection, state)

        return job

    def taking(self, library_id: str, ids: Iterable[str], picks: Picks) -> Job[TakenIn]:
        """Works out what the file would be with newer versions of parts; nothing is changed."""
        document, chosen = self._workspace.document, tuple(ids)
        connection, state = self._open(library_id)

        def job(progress: Progress) -> TakenIn:
            progress("Looking at what would change …")
            return take_in(document, state, chosen, connection.bases(document, state), picks)

        return job

    def retaking(self, library_id: str, ids: Iterable[str]) -> Job[Callable[[Picks], Document]]:
        """What taking in gives with other picks."""
        document, chosen = self._workspace.document, tuple(ids)
        connection, state = self._open(library_id)

        def job(progress: Progress) -> Callable[[Picks], Document]:
            bases = connection.bases(document, state)
            return lambda picks: take_in(document, state, chosen, bases, picks).document

        return job

    def replanning(self, library_id: str) -> Callable[[Request], Callable[[Picks], Document]]:
        """What publishing gives with other picks."""
        _, state = self._open(library_id)
        return lambda request: lambda picks: plan(request._replace(picks=picks), state).document

    def changed_parts(self, library_id: str) -> Job[tuple[str, ...]]:
        """Ids of the file's own parts that were changed since a library had them, or that it has
        not at all."""
        document = self._workspace.document
        connection, state = self._open(library_id)
        return lambda progress: changed_here(document, state, connection.bases(document, state))

    def request(
        self, library_id: str, ids: Iterable[str], levels: Mapping[str, Level], picks: Picks
    ) -> Job[Request]:
        """What is to be published, of the file as it is now."""
        document, chosen = self._workspace.document, tuple(ids)
        connection, state = self._open(library_id)
        return lambda progress: Request(
            document, chosen, connection.bases(document, state), levels, picks
        )

    def planning(
        self, library_id: str, requested: Job[Request]
    ) -> Job[tuple[Request, PublishingPlan]]:
        """Works out what publishing would do; nothing is changed."""
        _, state = self._open(library_id)

        def job(progress: Progress) -> tuple[Request, PublishingPlan]:
            progress("Looking at what would change …")
            request = requested(progress)
            return request, plan(request, state)

        return job

    def publishing(
        self,
        library_id: str,
        request: Request,
        message: str,
        signature: Signature,
        wording: Callable[..., str],
    ) -> Job[Published]:
        """Publishes."""
        connection, _ = self._open(library_id)

        def job(progress: Progress) -> Published:
            publication = publish(request, connection.reader, message, signature, wording, progress)
            return Published(publication, request, library_id)

        return job

    @property
    def with_colleagues(self) -> tuple[str, ...]:
        """The addresses of the libraries in which colleagues publish when they are asked to."""
        addresses = (view.library.address for view in self.libraries if view.connected)
        colleagues = self._colleagues
        return tuple(a for a in addresses if colleagues is not None and colleagues.work_in(a))

    def let_colleagues_publish(self, when: int) -> Job[tuple[LibraryView, ...]]:
        """Lets the colleagues publish, and looks again."""
        document, copies, colleagues = self._workspace.document, self._copies, self._colleagues
        addresses = self.with_colleagues
        look_again = self.look()

        def job(progress: Progress) -> tuple[LibraryView, ...]:
            for address in addresses:
                if colleagues is not None:
                    progress("The colleagues publish …")
                    colleagues.publish(address, document, when, copies, progress)
            return look_again(progress)

        return job

    def history(self, library_id: str, component_id: str) -> Job[tuple[PartVersion, ...]]:
        """The versions of a part, the newest first."""
        connection, _ = self._open(library_id)
        return lambda progress: tuple(connection.history(component_id, progress))

    def looking_back(
        self, library_id: str, commit: str, component_id: str
    ) -> Job[tuple[LibraryState, LibraryState]]:
        """The library as it was at a commit, and as it is now."""
        connection, state = self._open(library_id)
        return lambda progress: (connection.reader.state_at(commit), state)

    def _open(self, library_id: str) -> tuple[Connection, LibraryState]:
        library = self._workspace.document.sharing.library(library_id)
        view = self._view(library) if library is not None else None
        if view is not None and not view.connected:
            raise LibraryRefusal(view.problem)
        if view is None or view.connection is None or view.state is None:
            name = view.library.name if view is not None else "The library"
            raise LibraryRefusal(f"“{quoted(name)}” cannot be reached now; look again later.")
        return view.connection, view.state

    # --- who may be asked ---------------------------------------------------------------------

    def connect_as_named(self, library_id: str) -> None:
        """A person connects the file to a library where it says that one is. It is not asked
        yet."""
        library = self._workspace.document.sharing.library(library_id)
        if library is not None:
            self._connected_here.add(library.address)
            self._kept = (None, ())
            self._keep_connections()
            self.changed.emit()

    def _keep_connections(self) -> None:
        """Keeps what was connected in this window for the file, once it has a place."""
        path, libraries = self._workspace.path, self._workspace.document.sharing.libraries
        if path is None or self._kept == (path, libraries):
            return
        for address in (library.address for library in libraries):
            if address in self._connected_here and not self._connected.has(path, address):
                self._connected.add(path, address)
        self._kept = path, libraries

    # --- what jobs gave ---------------------------------------------------------------------

    def took(self, views: Iterable[LibraryView]) -> None:
        """Libraries were looked at."""
        for view in views:
            self.views[view.library.id] = view
        self.changed.emit()

    def connect(self, view: LibraryView) -> None:
        """The file knows a library from now on, as a step that can be undone."""
        self.views[view.library.id] = view
        self._connected_here.add(view.library.address)
        self._kept = (None, ())

        def change(document: Document) -> Document:
            sharing = document.sharing
            libraries = with_library(sharing.libraries, view.library)
            if libraries == sharing.libraries:
                return document
            return msgspec.structs.replace(
                document, sharing=msgspec.structs.replace(sharing, libraries=libraries)
            )

        self._workspace.edit(f"connect to {view.library.name}", change)
        self._keep_connections()
        self.changed.emit()

    def close(self) -> None:
        """Lets go of the libraries' files; nothing can be asked any more."""
        for view in self.views.values():
            if view.connection is not None:
                view.connection.close()
        self.views = {}

    def forget(self, library_id: str) -> None:
        """The file no longer knows a library; what came from it stays, and is this file's own."""
        library = self._workspace.document.sharing.library(library_id)
        name = library.name if library is not None else "a library"
        self._workspace.edit(f"leave {name}", lambda document: leave(document, library_id))
        self.changed.emit()

    def take(self, taken_in: TakenIn, began: Document) -> bool:
        """The file becomes what was worked out, as one step; False (and said) if it was changed
        meanwhile."""
        if self._workspace.document is not began:
            self._workspace.failed.emit("The file was changed meanwhile; look at it again.")
            return False
        names = [short_name(part.name) for part in taken_in.parts]
        publication = self._workspace.edit(
            f"take in {_few(names)}", lambda _: taken_in.document, from_library=True
        )
        self.changed.emit()
        return publication

    def took_published(self, publication: Published) -> None:
        """The parts that were published are tied to their new versions, as a step."""
        view = self.views[publication.library]
        self.views[publication.library] = view._replace(state=publication.plan.state, problem="")
        names = ", ".join(
            f"{part.name.rpartition('/')[2]} {part.version}" for part in publication.plan.parts
        )
        self._workspace.edit(
            f"publish {names}",
            lambda document: published(document, publication.plan, publication.request),
            from_library=True,
        )
        self.changed.emit()

    def make_own(self, component_id: str) -> None:
        """A part that was taken in is this file's own from now on."""
        self._edit(component_id, "make {} our own", make_own)

    def work_here(self, component_id: str) -> None:
        """A part that was taken in is worked on here from now on, and published from here."""
        self._edit(component_id, "work on {} here", work_here)

    def _edit(
        self, component_id: str, step: str, edit: Callable[[Document, str], Document]
    ) -> None:
        component = self._workspace.document.components.get(component_id)
        if component is not None:
            name = component.short_name
            self._workspace.edit(step.format(name), lambda document: edit(document, component_id))
            self.changed.emit()


def _from_the_top(typed: str) -> str:
    """An address as somebody typed it into the window, which stands in no folder that could be
    seen. Raises LibraryRefusal."""
    address = typed.strip()
    if is_address(address) or folder_at(address).is_absolute():
        return address
    raise LibraryRefusal("Give the folder's whole path: it begins with / or with ~.")


def _few(names: list[str]) -> str:
    """The first of some names, and how many more there are."""
    more = f" and {len(names) - 3} more" if len(names) > 3 else ""
    return ", ".join(names[:3]) + more or "nothing new"


def _looked(view: LibraryView, copies: FilePath, progress: Progress) -> LibraryView:
    """A library as it is now; as it was, with the reason, where that cannot be said."""
    connection, state = view.connection, view.state
    try:
        if connection is None:
            connection = connect(view.library.address, copies)
        try:
            state = connection.refreshed(progress)
        except Unreachable as problem:
            return LibraryView(
                view.library, connection, state or _read_before(connection), str(problem)
            )
        if state.library.id != view.library.id:
            return LibraryView(view.library, None, None, "Another library is at its address now.")
        return LibraryView(state.library, connection, state)
    except Cancelled:
        raise
    except LibraryRefusal as problem:
        return LibraryView(view.library, connection, state, str(problem))


def _read_before(connection: Connection) -> LibraryState | None:
    """What was read of a library before, with no network."""
    try:
        return connection.newest()
    except LibraryRefusal:
        return None
