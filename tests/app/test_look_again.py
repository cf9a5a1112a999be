"""Looking again and trials at the window, by mouse and by key; nothing lands before it is seen."""

import random

import msgspec
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from outgrowth.core.document.keeping import NOTHING
from outgrowth.core.document.records import walk
from outgrowth.core.document.values import fixed
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.reviewer import Reviewer
from outgrowth.core.trials.sheet import Trials
from outgrowth.workspace.commands.review_commands import list_here


@pytest.fixture(autouse=True)
def nothing_kept(window):
    """The demo as if nobody had looked at it: what was waived stands again."""
    window.workspace.edit("begin anew", lambda d: msgspec.structs.replace(d, keeping=NOTHING))


def looked(window):
    """Waits until the file was looked at as it is now."""
    for _ in range(400):
        if window.looking.share >= 1.0 and not window.looking.due:
            return
        QTest.qWait(20)
    raise AssertionError("it never ended")


@pytest.fixture
def bench(window):
    window.run_action("look-again")
    looked(window)
    return window.look_bench


@pytest.fixture
def trials(window):
    window.workspace.open("fare-card")
    window.run_action("trials")
    for _ in range(400):
        if window.trying.done:
            break
        QTest.qWait(20)
    return window.trials_bench


def choose(bench, kind, number=0):
    """Looks at a finding of a kind; which it is."""
    bench.choose("all")
    bench.subjects.show_value("")
    rows = [
        n
        for n in range(bench.list.count())
        if len(bench.list.item(n).data(Qt.ItemDataRole.UserRole)) == 1
        and not bench.list.item(n).data(Qt.ItemDataRole.UserRole + 1)
        and bench.list.item(n).data(Qt.ItemDataRole.UserRole)[0].finding.kind == kind
    ]
    bench.list.setCurrentRow(rows[number])
    return bench.chosen[0]


def press(button):
    assert button.isVisible() and button.isEnabled()
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


# --- looking again ------------------------------------------------------------------------------


def test_the_file_is_looked_at_by_itself_and_the_count_stands_in_the_status_line(window):
    window.workspace.edit("colour", lambda d: set_properties(d, Place("button"), {"gap": 9.0}))
    looked(window)
    assert window.status.findings.text().endswith(("to see to", "nothing to see to"))
    press(window.status.findings)
    assert window.bench_stack.currentWidget() is window.look_bench
    assert window.look_bench.list.count() > 0


def test_a_mend_is_seen_before_it_lands_and_is_one_undo(window, bench):
    before = window.workspace.document
    finding = choose(bench, "color-near-token")
    assert bench.then.isVisible() or bench.changes.text()
    assert "color.foam" in bench.then_title.text() + bench.changes.text()
    assert window.workspace.document is before, "it is only shown"
    press(bench.mend_button)
    after = window.workspace.document
    assert after == finding.mend.change(before)
    looked(window)
    assert finding.key not in {f.key for f in window.looking.findings}
    window.workspace.undo()
    assert window.workspace.document is before


def test_all_of_a_kind_are_mended_in_one_step(window, bench):
    bench.choose("all")
    headings = [
        n
        for n in range(bench.list.count())
        if bench.list.item(n).data(Qt.ItemDataRole.UserRole + 1)
    ]
    row = next(n for n in headings if "Overrides" in bench.list.item(n).text())
    bench.list.setCurrentRow(row)
    count = len(bench.chosen)
    assert count > 1 and bench.mend_button.text() == f"Mend {count}"
    before = window.workspace.document
    press(bench.mend_button)
    looked(window)
    left = [f for f in window.looking.findings if f.kind == "override-equal"]
    assert not left
    window.workspace.undo()
    assert window.workspace.document is before


def test_a_finding_is_waived_with_a_reason_and_stands_again(window, bench):
    finding = choose(bench, "name-missing")
    press(bench.waiver)
    assert "reason" in window.status.message.text(), "without a reason nothing is waived"
    assert not window.workspace.document.keeping.waivers
    QTest.keyClicks(bench.reason, "Each instance says its own.")
    QTest.keyClick(bench.reason, Qt.Key.Key_Return)
    (waiver,) = window.workspace.document.keeping.waivers
    assert waiver.reason == "Each instance says its own." and waiver.key == finding.key
    looked(window)
    assert finding.key not in {f.key for f in window.looking.standing}
    bench.choose("waived")
    assert bench.chosen == [finding] or bench.list.count() == 2
    bench.list.setCurrentRow(1)
    assert "Each instance" in bench.source.text()
    press(bench.waiver)
    assert not window.workspace.document.keeping.waivers


def test_it_leads_to_the_place_in_the_variant_in_which_it_is_seen(window, bench):
    finding = choose(bench, "override-equal")
    bench.list.setFocus()
    QTest.keyClick(bench.list, Qt.Key.Key_Return)
    assert window.workspace.selection.owner == finding.owner
    assert window.workspace.selection.path == finding.node
    assert window.bench_stack.currentWidget() is not bench


def test_subjects_narrow_what_is_listed(window, bench):
    bench.choose("all")
    bench.subjects.show_value("names")
    bench.subjects.edited.emit("names")
    subjects = {
        row.finding.subject
        for n in range(bench.list.count())
        for row in bench.list.item(n).data(Qt.ItemDataRole.UserRole)
    }
    assert subjects == {"names"}


def test_stopped_it_shows_what_was_known_and_says_that_it_is_old(window, bench):
    count = len(window.looking.findings)
    window.workspace.edit("gap", lambda d: set_properties(d, Place("button"), {"gap": 11.0}))
    window.review.look()
    assert bench.stop.isVisible()
    press(bench.stop)
    assert window.looking.share == 1.0 and len(window.looking.findings) == count
    assert bench.again.isVisible()
    press(bench.again)
    looked(window)
    assert not bench.again.isVisible()


@pytest.mark.parametrize("seed", range(2))
def test_in_slices_between_edits_it_finds_what_a_review_from_nothing_finds(window, seed):
    """Edits at any time, in the middle of a review too."""
    chance = random.Random(seed)
    for _ in range(12):
        owner = chance.choice(list(window.workspace.document.owners()))
        node = chance.choice([n for n in walk(owner.root) if n.kind != "instance"])
        values = {"opacity": chance.choice((0.4, 1.0))}
        place = Place(owner.id, (node.id,))
        window.workspace.edit("o", lambda d, p=place, v=values: set_properties(d, p, v))
        window.looking.begin()
        for _ in range(chance.randrange(6)):
            window.looking.advance(0.002)
    window.looking.begin()
    while window.looking.advance(0.01):
        pass
    fresh = Reviewer(window.workspace.engine.layout, window.looking._reviewer._renderer.pixels)

    def plain(findings):
        return [f._replace(mend=None, others=()) for f in findings]

    assert plain(window.looking.findings) == plain(fresh.findings(window.workspace.document))


# --- trials -------------------------------------------------------------------------------------


def test_a_sheet_shows_what_breaks_and_what_can_be_done(window, trials, qtbot):
    assert "break" in trials.summary.text()
    tile = next(t for t in trials.sheet.plan.tiles if t.cell.new)
    QTest.mouseClick(trials.sheet, Qt.MouseButton.LeftButton, pos=tile.rect.center().toPoint())
    assert trials.cell is tile.cell
    assert trials.breaks.text() == "\n".join(b.text for b in tile.cell.new)
    qtbot.waitUntil(lambda: trials.narrow.text().endswith(("px on.", "width.")))


def test_keys_go_from_cell_to_cell(window, trials):
    trials.sheet.setFocus()
    QTest.keyClick(trials.sheet, Qt.Key.Key_Right)
    first = trials.sheet.chosen
    QTest.keyClick(trials.sheet, Qt.Key.Key_Down)
    second = trials.sheet.chosen
    assert second.rect.y() > first.rect.y() and second.rect.x() == first.rect.x()
    QTest.keyClick(trials.sheet, Qt.Key.Key_Up)
    assert trials.sheet.chosen is first


def test_only_what_breaks_leaves_out_rows_and_columns_that_hold(window, trials):
    count = len(trials.sheet.plan.tiles)
    trials.only_broken.setChecked(True)
    tiles = trials.sheet.plan.tiles
    assert 0 < len(tiles) < count
    rows = {t.cell.trial.content.id for t in tiles if t.cell.new}
    assert rows == {t.cell.trial.content.id for t in tiles}


def content_tile(trials, content):
    return next(t for t in trials.sheet.plan.tiles if t.cell.trial.content.id == content)


def test_a_content_goes_into_live_and_out_again(window, trials):
    own = window.live.playback.runtime.view().scene
    trials.sheet.choose(content_tile(trials, "long-word"))
    press(trials.play)
    tried = window.live.playback.runtime.view().scene
    assert tried is not own
    assert window.workspace.document.components["fare-card"] is trials.trying.owner
    window.workspace.edit("gap", lambda d: set_properties(d, Place("fare-card"), {"gap": 3.0}))
    window.workspace.refresh_panels()
    assert window.live.playback.runtime.view().scene is not tried, "it follows edits"
    assert window.live.tried.text() == "×  played with: One long word"
    press(window.live.tried)
    assert not window.live.tried.isVisible()
    assert window.live.playback.runtime.view().scene is not tried


def test_a_trial_is_kept_and_every_later_edit_is_tried_against_it(window, trials):
    narrow = {"width": fixed(200.0)}
    later = set_properties(window.workspace.document, Place("fare-card"), narrow)
    stages = Trials(window.workspace.engine.layout)
    card = later.components["fare-card"]
    whole = [t for t in trials.sheet.plan.tiles if not t.cell.new and t.cell.trial.content.reword]
    tile = next(t for t in whole if stages.cell(later, card, t.cell.trial).new)
    trials.sheet.choose(tile)
    press(trials.keep)
    assert len(window.workspace.document.keeping.checks) == 1
    assert trials.keep.text() == "No longer keep it"
    looked(window)
    assert not [f for f in window.looking.findings if f.subject == "trials"]
    window.workspace.edit("narrow", lambda d: set_properties(d, Place("fare-card"), narrow))
    looked(window)
    broken = [f for f in window.looking.findings if f.subject == "trials"]
    assert broken and all(f.sure == "error" and f.owner == "fare-card" for f in broken)
    window.workspace.undo()
    looked(window)
    assert not [f for f in window.looking.findings if f.subject == "trials"]


def test_rows_of_a_file_are_tried_and_fill_a_list(window, trials, tmp_path):
    rows = tmp_path / "rows.csv"
    rows.write_text("name,price\nNight ferry,31.00\nCargo,120.00\n")
    window.review.bring_rows(rows)
    for _ in range(300):
        if window.trying.done:
            break
        QTest.qWait(20)
    assert {"Night ferry", "Cargo"} <= {t.cell.trial.content.id for t in trials.sheet.plan.tiles}
    window.workspace.open("fares")
    card = next(
        n.id for n in walk(window.workspace.screen.root) if n.style.get("component") == "fare-card"
    )
    window.workspace.select((card,))
    assert list_here(window.workspace) is not None
    before = window.workspace.document
    window.review.fill(rows)
    cards = [
        n for n in walk(window.workspace.screen.root) if n.style.get("component") == "fare-card"
    ]
    assert [c.style["choice:name"] for c in cards] == ["Night ferry", "Cargo"]
    window.workspace.undo()
    assert window.workspace.document is before
    window.review.fill(tmp_path / "gone.csv")
    assert "cannot be read: No such file" in window.status.message.text()


def test_escape_leads_back_from_both(window, trials):
    QTest.keyClick(trials.sheet, Qt.Key.Key_Escape)
    assert window.bench_stack.currentWidget() is window.grid_bench
    window.run_action("look-again")
    QTest.keyClick(window.look_bench.list, Qt.Key.Key_Escape)
    assert window.bench_stack.currentWidget() is window.grid_bench


def test_all_of_a_kind_in_a_part_are_waived_together(window, bench):
    bench.choose("all")
    texts = [bench.list.item(n).text() for n in range(bench.list.count())]
    row = next(n for n, text in enumerate(texts) if text.startswith("Overrides that say nothing"))
    bench.list.setCurrentRow(row)
    kind, owners = bench.chosen[0].kind, {f.owner for f in bench.chosen}
    QTest.keyClicks(bench.reason, "It says so on purpose.")
    press(bench.waiver)
    waivers = window.workspace.document.keeping.waivers
    assert {w.owner for w in waivers} == owners and len(waivers) < len(texts)
    assert not [f for f in window.looking.standing if f.kind == kind]
    bench.choose("waived")
    bench.list.setCurrentRow(0)
    press(bench.waiver)
    assert not window.workspace.document.keeping.waivers
