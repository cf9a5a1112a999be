"""A workspace and its libraries, without a window: jobs, what they give, what is read-only."""

from __future__ import annotations

from contextlib import closing

import msgspec
import pytest
from immutables import Map

from demo.team import FerryTeam, demo_file
from outgrowth.core.color import Color
from outgrowth.core.document.records import Document, Rule
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree import owners
from outgrowth.core.edits.tree.trees import with_node, with_owner
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.connection import connect
from outgrowth.core.team.store import LibraryRefusal, untold
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import instance_commands
from outgrowth.workspace.connected_libraries import ConnectedLibraries
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.libraries import signature
from outgrowth.workspace.team import LibraryView, Team
from outgrowth.workspace.views.difference_text import DifferenceWords, plan_wording
from outgrowth.workspace.views.library_rows import component_rows, team_rows
from outgrowth.workspace.views.team_sheet import news_text
from tests.fuzz.edits import World
from tests.fuzz.team import colleague_publishes, small

WHEN = 1_790_000_000


@pytest.fixture
def library(tmp_path):
    file = demo_file(tmp_path / "data", WHEN)
    with closing(connect(str(file.parent / "parts"), tmp_path / "copies")) as held:
        yield held


@pytest.fixture
def kiosk(fonts, library, tmp_path):
    """A file of its own that is connected to the demo's library."""
    document = owners.new_component(Document("Kiosk"), "panel", "Panel", "box")
    workspace = Workspace(Engine(fonts), document)
    team = Team(workspace, tmp_path / "copies", ConnectedLibraries(tmp_path / "connected"))
    team.connect(team.connecting(library.address)(untold))
    yield workspace, team
    team.close()


def recolour(document, color):
    return set_properties(document, Place("button", ()), {"fill": color})


def test_a_part_of_a_library_is_placed_and_undone_in_one_step(kiosk):
    workspace, team = kiosk
    workspace.open("panel")
    workspace.select(("box",))
    before = workspace.document
    instance_commands.place_into(workspace, "button", "box", None)
    assert workspace.document.sharing.read_only("button")
    assert {"button", "icon-anchor"} <= set(workspace.document.components)
    workspace.undo()
    assert workspace.document is before
    assert team.fresh() == ()


def test_what_is_newer_is_heard_of_taken_in_and_undone(kiosk, library):
    workspace, team = kiosk
    instance_commands.place_into(workspace, "button", "box", None)
    workspace.open("panel")
    instance_commands.place_into(workspace, "button", "box", None)
    colleague_publishes(library, lambda d: recolour(d, Color(1, 0, 0)), "button")
    assert team.fresh() == ()
    heard = []
    team.changed.connect(lambda: heard.append(len(team.fresh())))
    team.took(team.look()(untold))
    assert heard == [1] and team.fresh()[0].news.new == "1.0.1"
    began = workspace.document
    taken = team.taking(library_id(team), ["button"], {})(untold)
    assert team.take(taken, began)
    assert team.fresh() == () and workspace.undo_name == "take in Button"
    workspace.undo()
    assert workspace.document is began and len(team.fresh()) == 1
    workspace.edit("something else", lambda d: owners.new_component(d, "x", "X", "y"))
    assert not team.take(taken, began)  # it would have been lost


def library_id(team):
    return team.libraries[0].library.id


def test_a_library_that_cannot_be_reached_is_a_state(kiosk, library, tmp_path):
    workspace, team = kiosk
    elsewhere = LibraryView(workspace.document.sharing.libraries[0])
    team.views = {}
    moved = tmp_path / "moved"
    (tmp_path / "data").rename(moved)
    team.took(team.look()(untold))
    (view,) = team.libraries
    assert view.state is None and "There is no folder" in view.problem
    with pytest.raises(LibraryRefusal, match="cannot be reached now"):
        team.taking(elsewhere.library.id, ["button"], {})
    rows = team_rows(workspace.document, team.libraries)
    assert [row.note for row in rows] == [view.problem]


@pytest.mark.parametrize("typed", ["parts", "../parts", "", "~nobody-has-this-name/parts"])
def test_a_folder_that_stands_nowhere_is_refused_before_one_is_made(
    kiosk, typed, tmp_path, monkeypatch
):
    monkeypatch.chdir(tmp_path)
    before = sorted(tmp_path.iterdir())
    for job in (kiosk[1].connecting(typed), kiosk[1].making(typed, "Parts", signature())):
        with pytest.raises(LibraryRefusal, match="whole path"):
            job(untold)
    assert sorted(tmp_path.iterdir()) == before


def test_the_library_says_where_its_parts_come_from(kiosk):
    workspace, team = kiosk
    workspace.open("panel")
    instance_commands.place_into(workspace, "button", "box", None)
    notes = {row.name: row.note for row in component_rows(workspace.document)}
    assert notes["Button"] == "1.0.0 · team" and notes["Panel"] == ""
    there = {row.name: row.note for row in team_rows(workspace.document, team.libraries)}
    assert there["Button"] == "1.0.0 · in use" and there["Chip"] == "1.0.0"
    team.work_here("button")
    there = {row.name: row.note for row in team_rows(workspace.document, team.libraries)}
    assert there["Button"] == "1.0.0 · ours"
    team.forget(library_id(team))
    assert not workspace.document.sharing.origins and "button" in workspace.document.components


def test_publishing_ties_the_files_parts_to_their_versions(kiosk, library):
    workspace, team = kiosk
    changed = team.changed_parts(library_id(team))(untold)
    assert changed == ("panel",)
    requested = team.request(library_id(team), ["panel"], {}, {})
    request, going = team.planning(library_id(team), requested)(untold)
    assert [(part.name, part.version) for part in going.parts] == [("Panel", "1.0.0")]
    job = team.publishing(library_id(team), request, "a panel", signature(), plan_wording)
    team.took_published(job(untold))
    origin = workspace.document.sharing.origins["panel"]
    assert (origin.version, origin.own) == ("1.0.0", True)
    assert workspace.undo_name == "publish Panel 1.0.0"
    assert team.changed_parts(library_id(team))(untold) == ()
    assert library.refreshed(untold).version("panel") == "1.0.0"
    history = team.history(library_id(team), "panel")(untold)
    assert [version.version for version in history] == ["1.0.0"]


def test_the_demo_makes_its_library_once_and_only_colleagues_there_publish(tmp_path):
    file = demo_file(tmp_path, WHEN)
    stamp = file.stat().st_mtime_ns
    assert demo_file(tmp_path, WHEN + 9) == file and file.stat().st_mtime_ns == stamp
    assert FerryTeam().work_in(str(file.parent / "parts"))
    assert not FerryTeam().work_in(str(tmp_path)) and not FerryTeam().work_in("ssh://host/parts")


def test_news_are_counted_in_words():
    assert [news_text(n) for n in (0, 1, 3)] == [
        "", "1 part has a newer version", "3 parts have newer versions",
    ]  # fmt: skip


@pytest.mark.parametrize("seed", range(12))
def test_any_difference_is_a_line_to_be_read(seed):
    base = small(seed)
    world = World(seed, base)
    for step in range(25):
        list(world.step(step))
    words = DifferenceWords(base, world.document)
    lines = words.token_lines()
    for owner in {*_ids(base), *_ids(world.document)}:
        before, after = base.owner(owner), world.document.owner(owner)
        said = words.owner_lines(owner)
        # Where a state stands on a board is told to nobody.
        assert said or before == after or _only_arranged(before, after)
        lines += said
    assert all(line.strip() for line in lines)


def _only_arranged(before, after):
    bare = [
        msgspec.structs.replace(
            owner,
            behaviour=msgspec.structs.replace(owner.behaviour, places={}),
            **({"columns": None, "chips": ()} if hasattr(owner, "columns") else {}),
        )
        for owner in (before, after)
    ]
    return bare[0] == bare[1]


def _ids(document):
    return [owner.id for owner in document.owners()]


def test_an_override_is_told_with_what_it_is_of(kiosk):
    workspace, _ = kiosk
    workspace.open("panel")
    instance_commands.place_into(workspace, "button", "box", None)
    (use,) = workspace.selection.path
    before = workspace.document
    after = set_properties(before, Place("panel", (use, "label")), {"font-size": 30.0})
    assert DifferenceWords(before, after).owner_lines("panel") == ["Size inside button: 30"]
    # What holds on hover, for this instance as a whole.
    rule = Rule(Map({"state": "hover"}), (), "opacity", 0.5)
    panel = with_node(
        before.components["panel"], use, lambda n: msgspec.structs.replace(n, overrides=(rule,))
    )
    after = with_owner(before, panel)
    assert DifferenceWords(before, after).owner_lines("panel") == ["Opacity of button: 0.5"]
