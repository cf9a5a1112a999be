"""`bin/bench team`: a library of 300 parts and 1,000 versions, and a file that took it all in."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import msgspec
from immutables import Map

from demo import ferry_line
from outgrowth.core.document.records import Component, Document, walk
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.owners import new_component
from outgrowth.core.edits.tree.trees import rebuilt_tree
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.connection import Connection, connect, make_library
from outgrowth.core.team.publishing import Request, plan, publish
from outgrowth.core.team.store import untold
from outgrowth.core.team.taking import news, take_in
from outgrowth.workspace import Workspace
from outgrowth.workspace.engine import shipped_engine
from outgrowth.workspace.team import LibraryView
from outgrowth.workspace.views.library_rows import team_rows
from tests.fuzz.team import SIGNED

PARTS, VERSIONS = 300, 1_000

Told = Callable[[str, list[float]], None]


def many_parts() -> Document:
    """300 components: each of the demo's many times, its inner parts its own copies."""
    demo = ferry_line()
    components: dict[str, Component] = {}
    copy = 0
    while len(components) < PARTS:
        for component in demo.in_order():
            if len(components) < PARTS:
                made = _copied(component, f"-{copy}")
                components[made.id] = made
        copy += 1
    return Document(
        "Many parts",
        Map(components),
        component_order=tuple(components),
        tokens=demo.tokens,
        assets=demo.assets,
        modes=demo.modes,
    )


def _copied(component: Component, suffix: str) -> Component:
    def change(node):
        held = node.style.get("component")
        if not isinstance(held, str) or not held:
            return node
        return msgspec.structs.replace(node, style=node.style.set("component", held + suffix))

    return msgspec.structs.replace(
        component,
        id=component.id + suffix,
        name=component.name + suffix,
        root=rebuilt_tree(component.root, change),
    )


def library(folder: Path) -> Connection:
    """The library, with its 1,000 publications."""
    held = make_library(str(folder / "parts"), "Many parts", SIGNED, folder / "copies")
    document = many_parts()
    state = held.newest()
    request = Request(document, document.component_order, {})
    publish(request, held.reader, "all", SIGNED, lambda *_: "", untold)
    for n in range(VERSIONS - 1):
        state = held.newest()
        component = state.document.component_order[n % PARTS]
        changed = gapped(state.document, component, n)
        bases = {component: state.document.components[component]}
        request = Request(changed, (component,), bases)
        publish(request, held.reader, f"{n}", SIGNED, lambda *_: "", untold)
    return held


def gapped(document: Document, component: str, n: int) -> Document:
    return set_properties(document, Place(component, ()), {"opacity": 0.5 + n % 450 / 1000})


def bench_team(told: Told) -> None:
    """All the figures, each of a fresh process's kind: nothing read before where it says so."""
    with tempfile.TemporaryDirectory() as room:
        folder = Path(room)
        began = time.perf_counter()
        held = library(folder)
        print(f"made in {time.perf_counter() - began:.0f} s: {PARTS} parts, {VERSIONS} versions")
        with closing(held):
            _measured(folder, held, told)


def _measured(folder: Path, held: Connection, told: Told) -> None:
    address = str(folder / "parts")
    file = take_in(Document("File"), held.newest(), held.newest().document.component_order, None)
    document = file.document
    component = document.component_order[40]

    def connected(_: int) -> None:
        with closing(connect(address, folder / "copies")) as fresh:
            fresh.newest()

    told("connect and read all 300 parts, nothing known", timed(connected, 5))
    view = LibraryView(held.newest().library, held, held.newest())
    told("search among 300 parts", timed(lambda n: team_rows(document, [view], "day tab"), 30))
    told("look for news, nothing new", timed(lambda n: news(document, held.refreshed(untold)), 30))

    def published(n: int) -> None:
        state = held.newest()
        changed = gapped(state.document, component, 500 + n)
        bases = {component: state.document.components[component]}
        request = Request(changed, (component,), bases)
        publish(request, held.reader, f"{n}", SIGNED, lambda *_: "", untold)

    told("publish one part", timed(published, 20))
    told(
        "look for news, one part newer", timed(lambda n: news(document, held.refreshed(untold)), 30)
    )
    told(
        "take in one newer part",
        timed(lambda n: take_in(document, held.newest(), [component], {}), 20),
    )
    told(
        "history of one part, 1,000 publications back",
        timed(lambda n: list(held.history(component, untold)), 3),
    )
    changed = gapped(held.newest().document, component, 3)
    bases = {component: held.newest().document.components[component]}
    told(
        "what publishing one part would do",
        timed(lambda n: plan(Request(changed, (component,), bases), held.newest()), 20),
    )
    _edits(document, told)


def _edits(document: Document, told: Told) -> None:
    """The same edit in a file with 300 parts that were taken in, and with them as its own."""
    from outgrowth.core.document.sharing import ALONE

    files = {
        "an edit in a file with 300 taken-in parts": document,
        "the same, all parts its own": msgspec.structs.replace(document, sharing=ALONE),
    }
    spaces = {}
    for name, file in files.items():
        file = new_component(file, "own", "Own", "own-box")
        spaces[name] = Workspace(shipped_engine(), file)
        assert sum(1 for c in file.in_order() for _ in walk(c.root)) > PARTS
    found: dict[str, list[float]] = {name: [] for name in spaces}
    for n in range(200):
        for name, workspace in spaces.items():
            found[name] += timed(
                lambda _, w=workspace, n=n: w.edit(
                    f"gap {n}",
                    lambda d: set_properties(d, Place("own", ()), {"gap": float(n % 90)}),
                ),
                1,
            )
    for name, times in found.items():
        told(name, times)


def timed(act: Callable[[int], object], times: int) -> list[float]:
    """Milliseconds of each call."""
    found = []
    for n in range(times):
        start = time.perf_counter()
        act(n)
        found.append((time.perf_counter() - start) * 1000)
    return found
