"""Words of the whole file, by mouse and by key."""

import random

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from outgrowth.core.document.values import plain
from outgrowth.core.edits.words import stated_words
from outgrowth.workspace.views import word_rows


@pytest.fixture
def bench(window):
    window.run_action("replace-words")
    return window.words


def said(window):
    return [plain(s.content) for s in stated_words(window.workspace.document)]


def press_box(bench, number):
    rect = bench.list.visualItemRect(bench.list.item(number))
    viewport = bench.list.viewport()
    QTest.mouseClick(viewport, Qt.MouseButton.LeftButton, pos=QPoint(20, rect.center().y()))


def test_typed_replaced_and_taken_back_with_keys_alone(window, bench):
    before = window.workspace.document
    QTest.keyClicks(bench.search, "board")
    count = bench.button.text()
    assert count.startswith("Take away in ") and not bench.button.text().endswith(" 0 places")
    QTest.keyClick(bench.search, Qt.Key.Key_Tab)
    QTest.keyClicks(bench.replacement, "embark")
    QTest.keyClick(bench.replacement, Qt.Key.Key_Return)
    assert not any("board" in text.lower() for text in said(window))
    assert "No words" in bench.summary.text()
    window.workspace.undo()
    assert window.workspace.document is before
    window.workspace.refresh_panels()
    assert bench.list.count() > 0, "the list follows what is undone"


def test_what_is_unticked_stays_and_a_heading_ticks_all_below_it(window, bench):
    bench.search.setText("board")
    bench.replacement.setText("embark")
    heading, places = bench._groups()[0]
    press_box(bench, bench.list.row(places[0]))
    assert heading.checkState() == Qt.CheckState.Unchecked
    kept = places[0].data(Qt.ItemDataRole.UserRole).stated
    press_box(bench, bench.list.row(heading))
    assert places[0].checkState() == Qt.CheckState.Checked
    press_box(bench, bench.list.row(heading))
    bench.replace()
    (left,) = [
        s for s in stated_words(window.workspace.document) if "board" in plain(s.content).lower()
    ]
    assert left == kept
    item = bench._groups()[0][1][0]
    assert item.checkState() == Qt.CheckState.Unchecked, "it stays unticked"


def test_more_places_than_are_listed_come_after_those(window, bench, monkeypatch):
    monkeypatch.setattr(word_rows, "_MOST_ROWS", 5)
    bench.search.setText("board")
    bench.replacement.setText("embark")
    total = sum("board" in text.lower() for text in said(window))
    for left in range(total - 5, -5, -5):
        assert len(bench.chosen) <= 5 and ("more are listed" in bench.summary.text()) == (left > 0)
        bench.replace()
        assert sum("board" in text.lower() for text in said(window)) == max(left, 0)


def test_a_place_leads_to_its_part(window, bench):
    bench.search.setText("calm")
    bench._into_list()
    item = bench.list.currentItem().data(Qt.ItemDataRole.UserRole)
    QTest.keyClick(bench.list, Qt.Key.Key_Return)
    selection = window.workspace.selection
    assert selection.owner == item.stated.owner and selection.paths == (item.stated.node,)
    assert window.bench_stack.currentWidget() is not bench


@pytest.mark.parametrize("seed", range(6))
def test_random_hands_replace_what_the_button_says(window, bench, seed):
    chance, start = random.Random(seed), window.workspace.document
    for _ in range(12):
        bench.search.setText(chance.choice(["a", "e ", "o", "Board", "(", "1", ""]))
        bench.replacement.setText(chance.choice(["", "x", "ok", "ßß"]))
        chance.choice([bench.cased, bench.whole]).toggle()
        for _ in range(min(3, bench.list.count())):
            press_box(bench, chance.randrange(min(bench.list.count(), 12)))
        chosen = {row.stated for row in bench.chosen}
        number = "".join(c for c in bench.button.text() if c.isdigit()) or "0"
        assert int(number) == sum(row.matches for row in bench.chosen)
        before = set(stated_words(window.workspace.document))
        bench.replace()
        after = set(stated_words(window.workspace.document))
        assert before - after <= chosen
    while window.workspace.undo_name:
        window.workspace.undo()
    assert window.workspace.document is start
