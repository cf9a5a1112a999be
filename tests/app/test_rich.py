"""The field for words with bold and italic runs, and the small helpers of the hands."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from outgrowth.app.fields.relative import RelativeField, shift_kinds
from outgrowth.app.fields.rich import RichWordsField, joined
from outgrowth.core.document.types import ColorType, FillType, FlagType, NumberType
from outgrowth.core.document.values import Run, Shift, words
from outgrowth.core.edits.style.places import inset

RUNS = (Run("bold", bold=True), Run(" and "), Run("leaning\ntwice", italic=True))


@pytest.fixture
def field(qtbot, look):
    made = RichWordsField("Words")
    qtbot.addWidget(made)
    made.show()
    return made


def test_runs_are_shown_and_read_back(field):
    field.show_value(RUNS)
    assert field.words.content == RUNS
    field.show_value(())
    assert field.words.content == ()
    field.show_value(None)
    assert field.words.placeholderText() == "mixed"


def test_typing_says_what_would_be_and_enter_confirms(field, qtbot):
    tried, set_to = [], []
    field.typed.connect(tried.append)
    field.edited.connect(set_to.append)
    field.show_value(words("Skerry"))
    field.selectAll()
    QTest.keyClicks(field.words, "Holm")
    assert tried[-1] == words("Holm")
    assert not set_to
    shift = Qt.KeyboardModifier.ShiftModifier
    QTest.keyClick(field.words, Qt.Key.Key_Return, shift)
    QTest.keyClicks(field.words, "pier")
    QTest.keyClick(field.words, Qt.Key.Key_Return)
    assert set_to == [words("Holm\npier")]


def test_esc_keeps_what_was_typed(field):
    set_to = []
    field.edited.connect(set_to.append)
    field.show_value(words("Skerry"))
    QTest.keyClicks(field.words, "!")
    QTest.keyClick(field.words, Qt.Key.Key_Escape)
    assert set_to == [field.words.content]
    assert "!" in field.words.toPlainText()


def test_neighbouring_runs_of_one_look_are_one():
    parts = [Run("a"), Run("b"), Run(""), Run("c", bold=True), Run("d", bold=True)]
    assert joined(parts) == (Run("ab"), Run("cd", bold=True))


def test_ways_to_be_relative_depend_on_the_type(qtbot, look):
    assert shift_kinds(ColorType()) == shift_kinds(FillType()) == ("darker", "lighter", "fainter")
    assert shift_kinds(NumberType()) == ("more by", "times")
    assert shift_kinds(FlagType()) == ()
    made = RelativeField(shift_kinds(ColorType()), "Fill")
    qtbot.addWidget(made)
    said = []
    made.edited.connect(said.append)
    made.set.click()
    made.direction.edited.emit("lighter")
    made.amount.show_value(0.2)
    made.amount._value = 0.2
    made.set.click()
    assert said == [Shift("darken", 0.08), Shift("darken", -0.2)]


@pytest.mark.parametrize(
    ("pins", "moved"),
    [
        (("start", "start"), {"x": 15.0, "y": 25.0}),
        (("end", "start"), {"right": -5.0, "y": 25.0}),
        (("both", "center"), {"x": 15.0, "right": -5.0, "y": 25.0}),
        (("scale", "end"), {"x": 15.0, "right": -5.0, "bottom": -5.0}),
    ],
)
def test_moving_a_pinned_part_changes_the_insets_it_hangs_on(pins, moved):
    values = {"pin-x": pins[0], "pin-y": pins[1], "x": 10.0, "y": 20.0, "right": 0.0, "bottom": 0.0}
    assert inset(values.get, 5.0, 5.0) == moved
