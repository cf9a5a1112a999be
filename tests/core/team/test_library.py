"""Libraries as git sees them, and files that take in and publish.

Judge: Debian's git reads, checks, clones and merges what is written here.
"""

from __future__ import annotations

import json
import subprocess
from contextlib import closing
from pathlib import Path

import msgspec
import pytest
from immutables import Map

from outgrowth.core.color import Color
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import Axis, AxisValue, Document, find
from outgrowth.core.document.values import Token
from outgrowth.core.edits import Refusal
from outgrowth.core.edits.instances import place_instance
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tokens import set_token
from outgrowth.core.edits.tree import components, nodes, owners
from outgrowth.core.edits.tree.nodes import new_node
from outgrowth.core.edits.variants import axes
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.connection import Connection, connect, make_library
from outgrowth.core.team.git_store import GitStore
from outgrowth.core.team.origins import make_own, refuse_read_only, work_here
from outgrowth.core.team.publishing import Request, changed_here, plan, publish, published
from outgrowth.core.team.store import LibraryRefusal, untold
from outgrowth.core.team.taking import news, take_in
from tests.core.team.conftest import MAREN, put_out
from tests.fuzz.edits import World
from tests.fuzz.team import small


def git(*arguments, folder, check=True):
    done = subprocess.run(
        ["git", "-C", str(folder), *arguments], capture_output=True, text=True, check=False
    )
    assert not check or done.returncode == 0, done.stderr
    return done.stdout + (done.stderr if not check else "")


def gap(document, value, component="chip"):
    return set_properties(document, Place(component, ()), {"gap": value})


# --- what git sees --------------------------------------------------------------------------


def test_git_finds_nothing_wrong_and_reads_every_file(connection, shared, tmp_path):
    put_out(connection, gap(shared, 20.0), ["chip"])
    said = git("fsck", "--strict", "--full", folder=connection.address, check=False)
    assert "error" not in said and "warning" not in said
    git("clone", "-q", connection.address, "clone", folder=tmp_path)
    clone = tmp_path / "clone"
    assert json.loads((clone / "versions.json").read_text())["chip"] == "1.0.1"
    assert "## 2026-" in (clone / "CHANGELOG.md").read_text()
    assert "Outgrowth" in (clone / "README.md").read_text()
    names = {path.stem for path in (clone / "components").iterdir()}
    assert names == set(shared.component_order)


def test_a_librarys_content_opens_as_a_file_in_its_folder_form(connection, shared, tmp_path):
    from outgrowth.core.exchange.native import load

    git("clone", "-q", connection.address, "parts.outgrowth", folder=tmp_path)
    opened = load(tmp_path / "parts.outgrowth")
    assert opened.components == connection.newest().document.components


def test_what_git_wrote_is_read_packed_or_merged(connection, shared, tmp_path):
    git("clone", "-q", connection.address, "clone", folder=tmp_path)
    clone = tmp_path / "clone"
    who = ("-c", "user.name=Tove Holm", "-c", "user.email=tove@ferries.example")
    file = clone / "components" / "chip.json"
    record = json.loads(file.read_text())
    record["name"] = "Controls/Pill"
    file.write_text(json.dumps(record, indent=1, sort_keys=True))
    git(*who, "commit", "-qam", "by hand", folder=clone)
    git("push", "-q", folder=clone)
    git("gc", "-q", folder=connection.address)
    with closing(connect(connection.address, tmp_path)) as again:
        state = again.newest()
    assert state.document.components["chip"].name == "Controls/Pill"
    # It has no version of its own, but whoever holds it read-only hears of it.
    kiosk = take_in(Document("Kiosk"), connection.reader.state_at(parent(connection)), ["chip"], {})
    assert [n.component for n in news(kiosk.document, state)] == ["chip"]


def parent(connection):
    head = connection.store.head()
    return connection.store.version(head).parents[0]


def test_gits_own_merge_uses_the_driver(connection, shared, tmp_path):
    """Two branches that change one component: by lines a conflict, by facts none."""
    import sys

    git("clone", "-q", connection.address, "clone", folder=tmp_path)
    clone = tmp_path / "clone"
    driver = f"{sys.executable} -m outgrowth merge %O %A %B --path %P"
    for key, value in (
        ("user.name", "Tove Holm"),
        ("user.email", "tove@ferries.example"),
        ("merge.outgrowth.name", "parts"),
        ("merge.outgrowth.driver", driver),
    ):
        git("config", key, value, folder=clone)
    base = connection.newest().document
    mine = gap(base, 11.0)
    theirs = set_properties(base, Place("chip", ()), {"padding-left": 31.0})
    write(clone, mine)
    git("commit", "-qam", "mine", folder=clone)
    git("checkout", "-q", "-b", "theirs", "HEAD~1", folder=clone)
    write(clone, theirs)
    git("commit", "-qam", "theirs", folder=clone)
    git("merge", "-q", "--no-edit", "main", folder=clone)
    chip = json.loads((clone / "components" / "chip.json").read_text())
    assert chip["root"]["style"]["gap"] == 11
    assert chip["root"]["style"]["padding-left"] == 31


def write(clone, document):
    from outgrowth.core.exchange.native.records import COMPONENT
    from outgrowth.core.exchange.native.text import to_text

    for component in document.in_order():
        path = clone / "components" / f"{component.id}.json"
        path.write_bytes(to_text(COMPONENT.write(component)))


# --- publishing -----------------------------------------------------------------------------


def test_a_version_is_raised_by_what_changed(connection, shared):
    looks = gap(shared, 20.0)
    tone = Axis("tone", "Tone", (AxisValue("calm", "calm"), AxisValue("loud", "loud")), "calm")
    more = components.add_axis(shared, "chip", tone)
    called = axes.rename_axis(shared, "chip", shared.components["chip"].axes[0].id, "Picked up")
    for document, version in ((looks, "1.0.1"), (more, "1.1.0"), (called, "2.0.0")):
        going = plan(request(connection, document, "chip"), connection.newest())
        assert [(p.name, p.version) for p in going.parts] == [("Controls/Chip", version)]
        assert going.parts[0].changes


def request(connection, document, *ids, picks=()):
    state = connection.newest()
    return Request(document, ids, connection.bases(document, state), {}, dict(picks))


def test_another_level_than_proposed_counts(connection, shared):
    done, _ = put_out(connection, gap(shared, 20.0), ["chip"], levels={"chip": "major"}.items())
    assert [p.version for p in done.parts] == ["2.0.0"]


def test_a_token_goes_along_and_raises_every_part_that_shows_it(connection, shared):
    from outgrowth.core.document.records import DesignToken

    sea = DesignToken("color", Color(0.1, 0.2, 0.3))
    document = set_token(shared, "color.sea", sea)
    done, after = put_out(connection, document, ["button"])
    versions = {part.component: part.version for part in done.parts}
    assert versions["button"] == "1.0.1" and versions["chip"] == "1.0.1"
    assert "icon-anchor" not in versions
    assert connection.newest().document.tokens["color.sea"] == sea
    assert after.sharing.origins["chip"].version == "1.0.1"
    assert (
        changed_here(after, connection.newest(), connection.bases(after, connection.newest())) == ()
    )


def test_needed_parts_come_along_or_are_refused_by_name(connection, demo, other):
    done, _ = put_out(connection, demo, ["fare-card"])
    assert {"button", "icon-anchor"} <= {part.component for part in done.parts}
    elsewhere = msgspec.structs.replace(
        demo,
        sharing=take_in(Document("x"), connection.newest(), ["button"], {}).document.sharing,
    )
    with pytest.raises(Refusal, match="“Controls/Button” cannot go along"):
        plan(Request(elsewhere, ("fare-card",), {}), other.newest())


@pytest.fixture
def other(tmp_path):
    """Another library."""
    with closing(
        make_library(str(tmp_path / "other"), "Other parts", MAREN, tmp_path / "copies")
    ) as made:
        yield made


def test_two_who_change_different_things_are_brought_together(connection, shared):
    wide = set_properties(shared, Place("chip", ()), {"padding-left": 30.0})
    put_out(connection, gap(shared, 20.0), ["chip"])
    done, after = put_out(connection, wide, ["chip"])
    chip = connection.newest().document.components["chip"]
    assert (chip.root.style["gap"], chip.root.style["padding-left"]) == (20.0, 30.0)
    assert done.parts[0].version == "1.0.2"
    assert after.components["chip"] == chip


def test_two_who_say_different_things_publish_nothing_until_one_is_picked(connection, shared):
    put_out(connection, gap(shared, 20.0), ["chip"])
    mine = gap(shared, 30.0)
    head = connection.store.head()
    with pytest.raises(LibraryRefusal, match="Pick what counts"):
        put_out(connection, mine, ["chip"])
    assert connection.store.head() == head
    (found,) = plan(request(connection, mine, "chip"), connection.newest()).disagreements
    _, after = put_out(connection, mine, ["chip"], picks={found.key: "ours"}.items())
    assert connection.newest().document.components["chip"].root.style["gap"] == 30.0
    theirs = gap(shared, 40.0)
    (found,) = plan(request(connection, theirs, "chip"), connection.newest()).disagreements
    done = plan(
        request(connection, theirs, "chip", picks={found.key: "theirs"}.items()),
        connection.newest(),
    )
    assert done.document.components["chip"].root.style["gap"] == 30.0
    assert after.components["chip"].root.style["gap"] == 30.0


def test_what_somebody_puts_in_between_is_merged_not_lost(connection, shared, opened):
    """The lease: the library goes on between reading and putting."""
    other = opened(connection.address)

    class Interrupted(GitStore):
        times = 0

        def append(self, parent, files, message, signature):
            if Interrupted.times < 2:
                Interrupted.times += 1
                put_out(other, gap(_theirs(other), 50.0 + Interrupted.times), ["chip"])
            return super().append(parent, files, message, signature)

    def _theirs(held):
        state = held.refreshed(untold)
        return take_in(shared, state, ["chip"], held.bases(shared, state)).document

    store = Interrupted(connection.store.repo, Path(connection.address))
    mine = Connection(store, connection.address)
    wide = set_properties(shared, Place("chip", ()), {"padding-left": 30.0})
    put_out(mine, wide, ["chip"])
    style = connection.refreshed(untold).document.components["chip"].root.style
    assert (style["gap"], style["padding-left"]) == (52.0, 30.0)


# --- taking in ------------------------------------------------------------------------------


@pytest.fixture
def kiosk(connection, shared):
    """A file that uses the button, with an override and a choice of its own."""
    document = take_in(Document("Kiosk"), connection.newest(), ["button"], {}).document
    document = owners.new_component(document, "panel", "Panel", "panel-box")
    document = place_instance(document, "panel", "panel-box", "button", "use")
    document = set_properties(document, Place("panel", ("use",)), {"fill": Color(1, 0, 0)})
    document = set_properties(document, Place("panel", ("use", "label")), {"font-size": 30.0})
    return set_properties(document, Place("panel", ("use",)), {CHOICE + "kind": "quiet"})


def test_a_part_brings_all_that_it_needs_and_is_read_only(connection, shared, empty):
    taken = take_in(empty, connection.newest(), ["fare-card"], {})
    document = taken.document
    assert {"button", "icon-anchor", "fare-card"} <= set(document.components)
    assert all(isinstance(document.tokens[p.path], object) for p in _tokens(document))
    assert loads(dumps(document).encode(), "again") == document
    with pytest.raises(Refusal, match="read-only here"):
        refuse_read_only(document, gap(document, 9.0, "button"))
    for free in (make_own(document, "button"), work_here(document, "button")):
        refuse_read_only(free, gap(free, 9.0, "button"))


def _tokens(document):
    return [
        value
        for component in document.in_order()
        for value in component.root.style.values()
        if isinstance(value, Token)
    ]


def test_overrides_stay_when_a_newer_version_comes(connection, shared, kiosk):
    put_out(connection, gap(shared, 22.0, "button"), ["button"])
    state = connection.newest()
    assert [(n.name, n.old, n.new) for n in news(kiosk, state)] == [
        ("Controls/Button", "1.0.0", "1.0.1")
    ]
    taken = take_in(kiosk, state, ["button"], {})
    assert taken.set_aside == () and taken.disagreements == ()
    assert taken.document.components["panel"] == kiosk.components["panel"]
    assert taken.document.components["button"].root.style["gap"] == 22.0
    assert news(taken.document, state) == ()


def test_what_means_nothing_any_more_is_set_aside_and_comes_back(connection, shared, kiosk):
    bare = nodes.remove_node(shared, "button", "label")
    bare = axes.remove_axis(bare, "button", "kind")
    _, after = put_out(connection, bare, ["button"])
    taken = take_in(kiosk, connection.newest(), ["button"], {})
    assert {lost.description for lost in taken.set_aside} == {"Size of label", "Kind"} or {
        lost.description for lost in taken.set_aside
    } >= {"Kind"}
    use = find(taken.document.components["panel"].root, "use")
    assert use.style["fill"] == Color(1, 0, 0)
    assert CHOICE + "kind" not in use.style and not use.overrides
    restored = msgspec.structs.replace(
        after, components=after.components.set("button", shared.components["button"])
    )
    put_out(connection, restored, ["button"])
    again = take_in(taken.document, connection.newest(), ["button"], {})
    assert find(again.document.components["panel"].root, "use") == find(
        kiosk.components["panel"].root, "use"
    )


def test_tokens_that_the_file_changed_stay_and_others_follow(connection, shared, kiosk):
    from outgrowth.core.document.records import DesignToken

    own = DesignToken("color", Color(0.9, 0.1, 0.1))
    document = set_token(kiosk, "color.sea", own)
    new = set_token(shared, "color.sea", DesignToken("color", Color(0, 0, 0.4)))
    new = set_token(new, "color.paper", DesignToken("color", Color(0.8, 0.8, 0.8)))
    put_out(connection, new, ["button"])
    taken = take_in(document, connection.newest(), ["button"], {})
    assert taken.document.tokens["color.paper"].value == Color(0.8, 0.8, 0.8)
    (found,) = taken.disagreements
    assert found.key[:2] == ("token", "color.sea")
    assert taken.document.tokens["color.sea"] == own


def test_a_part_that_is_worked_on_here_is_merged(connection, shared):
    other = set_properties(shared, Place("chip", ()), {"padding-left": 31.0})
    put_out(connection, other, ["chip"])
    mine = gap(shared, 44.0)
    state = connection.newest()
    taken = take_in(mine, state, ["chip"], connection.bases(mine, state))
    style = taken.document.components["chip"].root.style
    assert (style["gap"], style["padding-left"]) == (44.0, 31.0)
    assert taken.document.sharing.origins["chip"].version == "1.0.1"
    assert taken.document.sharing.origins["chip"].own


# --- history --------------------------------------------------------------------------------


def test_the_history_of_a_part_tells_each_version_and_what_it_was(connection, shared):
    document = shared
    for value in (21.0, 22.0):
        _, document = put_out(connection, gap(document, value), ["chip"], f"gap of {value:g}")
        _, document = put_out(connection, gap(document, value, "button"), ["button"])
    versions = list(connection.history("chip", untold))
    assert [v.version for v in versions] == ["1.0.2", "1.0.1", "1.0.0"]
    assert [v.component.root.style.get("gap") for v in versions][:2] == [22.0, 21.0]
    assert "gap of 21" in versions[1].about.message
    assert versions[0].component == document.components["chip"]


def test_nothing_to_publish_is_said(connection, shared):
    with pytest.raises(LibraryRefusal, match="nothing to publish"):
        put_out(connection, shared, ["chip"])


def test_a_library_in_memory_does_for_tests(demo):
    """The protocol has room for other stores: here one that no disk knows."""
    from dulwich.repo import MemoryRepo

    from outgrowth.core.team.library import empty_state, written

    store = GitStore(MemoryRepo(), None, b"refs/heads/main")
    state = empty_state("In memory", "memory")
    files = written(state, state.document, {}, "# What was published\n")
    assert store.append("", files, "make", MAREN)
    held = Connection(store, "memory")
    put_out(held, demo, ["button"])
    assert held.newest().version("button") == "1.0.0"
    done = publish(
        Request(gap(demo, 7.0, "button"), ("button",), {"button": demo.components["button"]}),
        held.reader, "", MAREN, lambda plan, found: "", untold,
    )  # fmt: skip
    assert published(demo, done, Request(demo, ("button",), {})).sharing.origins["button"].own


def test_a_box_more_is_no_other_picture(demo, fonts):
    """What is compared is what is drawn: judged by the recorder's own lists."""
    from outgrowth.core.document.variants import variants
    from outgrowth.core.paint.recorder import record
    from outgrowth.core.team.pictures import DocumentDrawer, changed_variants

    hover = Map({"state": "hover"})
    edits = [
        nodes.add_node(
            demo, "button", "button", new_node("empty", "empty", "box", {"shown": False})
        ),
        set_properties(demo, Place("button", ()), {"radius-top-left": 1.0}, hover),
        set_properties(demo, Place("button", ("label",)), {"translate-x": 2.0}, hover),
        set_properties(demo, Place("button", ()), {"opacity": 0.7}, Map({"kind": "quiet"})),
        set_properties(demo, Place("button", ()), {"cursor": "move"}),
    ]
    for edited in edits:
        before, after = DocumentDrawer(demo, fonts), DocumentDrawer(edited, fonts)
        named = {pair.name for pair in changed_variants(before, after, "button")}
        differing = set()
        component = demo.components["button"]
        for variant in variants(component):
            old, new = (d.variant("button", variant).fragment for d in (before, after))
            if record(old) != record(new):
                values = [f"{a.name}: {a.value(variant[a.id]).name}" for a in component.axes]
                differing.add(", ".join(values))
        assert named == differing


@pytest.mark.parametrize("seed", range(30))
def test_exactly_the_variants_are_named_that_are_drawn_otherwise(seed, fonts):
    """Random edits, judged by the recorder's lists."""
    from outgrowth.core.document.variants import offered, variants
    from outgrowth.core.paint.recorder import record
    from outgrowth.core.team.pictures import DocumentDrawer, changed_variants

    base = small(seed)
    world = World(seed, base)
    for step in range(4):
        list(world.step(step))
    before, after = DocumentDrawer(base, fonts), DocumentDrawer(world.document, fonts)
    for component in set(base.components) & set(world.document.components):
        old, new = base.components[component], world.document.components[component]
        if old.axes != new.axes or old.not_offered != new.not_offered:
            continue
        named = [pair.name for pair in changed_variants(before, after, component)]
        differing = [
            ", ".join(f"{axis.name}: {axis.value(variant[axis.id]).name}" for axis in new.axes)
            for variant in variants(new)
            if offered(new, variant)
            and record(before.variant(component, variant).fragment)
            != record(after.variant(component, variant).fragment)
        ]
        assert named == differing


def test_fonts_and_pictures_come_with_the_parts_that_need_them(connection, demo, empty):
    from outgrowth.core.exchange.fonts import read_font
    from outgrowth.resources import FONTS

    file = sorted(FONTS.rglob("*.ttf"))[0]
    described, asset = read_font(file.read_bytes(), file.name)
    document = msgspec.structs.replace(demo, assets=demo.assets.set(asset.digest, asset))
    document = set_properties(
        document, Place("button", ("label",)), {"font-family": described.family}
    )
    put_out(connection, document, ["button", "chip", "island-panel"])
    state = connection.newest()
    assert asset.digest in state.document.assets
    assert asset.digest in take_in(empty, state, ["button"], {}).document.assets
    assert asset.digest not in take_in(empty, state, ["icon-anchor"], {}).document.assets
    pictures = take_in(empty, state, ["island-panel"], {}).document.assets
    assert any(asset.media.startswith("image/") for asset in pictures.values())


def test_a_history_that_was_written_anew_does_not_hold_anybody_up(connection, shared):
    """Somebody forced the branch: the commit that a file has of its parts is gone."""
    lost = {
        component: msgspec.structs.replace(origin, commit="1" * 40)
        for component, origin in shared.sharing.origins.items()
    }
    document = msgspec.structs.replace(
        gap(shared, 33.0),
        sharing=msgspec.structs.replace(shared.sharing, origins=Map(lost)),
    )
    state = connection.newest()
    assert connection.bases(document, state) == {}
    taken = take_in(document, state, ["chip"], {})
    assert taken.document.components["chip"].root.style["gap"] == 33.0


def test_a_pasted_part_still_comes_from_its_library(connection, shared, kiosk):
    from outgrowth.core.document.variants import default_variant
    from outgrowth.core.edits import clipping

    panel = kiosk.components["panel"]
    clip = clipping.clipping(kiosk, "panel", ("use",), default_variant(panel))
    other = owners.new_component(Document("Other"), "page", "Page", "page-box")
    document, _ = clipping.put_down(other, clip, ("page", "page-box", None), lambda kind: "copy")
    assert document.sharing.read_only("button")
    assert document.sharing.libraries == kiosk.sharing.libraries
    assert news(document, connection.newest()) == ()
