import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from outgrowth.app.fields.choice import DropDown, Segments, Switch
from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.four import FourField
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.shadow import ShadowField
from outgrowth.app.fields.size import SizeField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.theme import DARK, LIGHT
from outgrowth.core.color import Color, contrast, parse
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import FIT, GROW, Shadow, Token, fixed
from outgrowth.workspace.views.arithmetic import ArithmeticRefusal, evaluate


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("24", 24),
        ("24*2", 48),
        ("+4", 14),
        ("- 4", 6),
        ("-4", -4),
        ("*1.5", 15),
        ("/4", 2.5),
        ("12px", 12),
        ("1,5", 1.5),
        ("2×3", 6),
        ("0-4", -4),
        ("90°", 90),
        ("160 ms", 160),
        ("3+4*2", 11),
    ],
)
def test_numbers_take_arithmetic(text, value):
    assert evaluate(text, 10) == value


@pytest.mark.parametrize(
    "text", ["", "wide", "1/0", "2**9", "__import__('os')", "(" * 60, "9" * 99, "[1]", "1e999*0"]
)
def test_what_is_no_number_is_a_sentence(text):
    try:
        value = evaluate(text, 10)
    except ArithmeticRefusal as problem:
        assert str(problem).endswith(".")
    else:
        assert value != value or value == 0, "not a number is caught by the type's check"


@pytest.fixture
def said(qtbot):
    """Shows a field and collects what it says was edited."""

    def watch(field):
        qtbot.addWidget(field)
        field.show()
        heard = []
        field.edited.connect(heard.append)
        return heard

    return watch


def test_a_number_is_stepped_typed_and_left_alone(said):
    field = NumberField(NumberType(0, 100), "Gap")
    heard = said(field)
    field.show_value(10.0)
    assert heard == [], "showing is not editing"
    QTest.keyClick(field, Qt.Key.Key_Up)
    QTest.keyClick(field, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(field, Qt.Key.Key_Down)
    assert heard == [11, 19, 18]
    field.selectAll()
    QTest.keyClicks(field, "500")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert heard[-1] == 100, "held within its limits"
    QTest.keyClicks(field, "7")
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == "100"
    field.show_value(None)
    assert field.placeholderText() == "mixed"


def test_a_share_is_written_in_percent(said):
    field = NumberField(NumberType(0.0, 1.0, ""), "Opacity")
    heard = said(field)
    field.show_value(0.4)
    assert field.text() == "40 %"
    field.selectAll()
    QTest.keyClicks(field, "75")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert heard == [0.75]


def test_what_is_no_number_leaves_the_field_and_is_said(said):
    field = NumberField(NumberType(), "Gap")
    heard = said(field)
    problems = []
    field.failed.connect(problems.append)
    field.show_value(8.0)
    QTest.keyClicks(field, "x")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert (heard, len(problems), field.text()) == ([], 1, "8")
    assert field.selectedText() == "8", "what is typed next takes its place"


def test_a_colour_is_hex_css_a_token_or_none(said):
    field = ColorField("Fill", lambda: {"color.sea": parse("#17495A")})
    heard = said(field)
    problems = []
    field.failed.connect(problems.append)
    field.show_value(parse("#17495A"), Token("color.sea"))
    assert field.text.text() == "color.sea"
    for text in ("#F00", "rgb(0 0 255)", "{color.sea}", "none", "seaish"):
        field.text.selectAll()
        QTest.keyClicks(field.text, text)
        QTest.keyClick(field.text, Qt.Key.Key_Return)
    assert heard == [
        parse("#FF0000"),
        parse("#0000FF"),
        Token("color.sea"),
        Color(0, 0, 0, 0),
    ]
    assert "seaish" in problems[0]


def test_a_size_goes_from_mode_to_mode(said):
    field = SizeField("Width")
    heard = said(field)
    field.show_value(FIT, 108.8)
    for mode in ("fixed", "grow", "fit"):
        field.modes.button(mode).click()
    assert heard == [fixed(108.8), GROW, FIT]
    field.number.selectAll()
    QTest.keyClicks(field.number, "200")
    QTest.keyClick(field.number, Qt.Key.Key_Return)
    assert heard[-1] == fixed(200)


def test_choices_by_segments_by_list_and_by_switch(said):
    options = (("row", "row"), ("column", "column"))
    segments, drop, switch = (
        Segments(options, "Flow"),
        DropDown(options, "Flow"),
        Switch("On", LIGHT),
    )
    heard = [said(field) for field in (segments, drop, switch)]
    segments.show_value("row")
    segments.button("column").click()
    drop.show_value("row")
    QTest.keyClick(drop, Qt.Key.Key_Down)
    switch.show_value(False)
    QTest.keyClick(switch, Qt.Key.Key_Space)
    assert heard == [["column"], ["column"], [True]]
    drop.show_value("gone")
    assert drop.currentIndex() == -1


def test_four_together_and_each(said):
    field = FourField(FAMILY_MEMBERS["padding"], "Padding", LIGHT)
    heard = said(field)
    field.show_values(dict.fromkeys(FAMILY_MEMBERS["padding"], 4.0))
    tried = []
    field.dragged.connect(tried.append)
    field.fields["padding-left"].selectAll()
    QTest.keyClicks(field.fields["padding-left"], "9")
    QTest.keyClick(field.fields["padding-left"], Qt.Key.Key_Return)
    field.line.dragged.emit(12.0)
    assert heard == [{"padding-left": 9.0}]
    assert tried == [dict.fromkeys(FAMILY_MEMBERS["padding"], 12.0)]


def test_a_shadow_is_added_changed_turned_inward_and_dropped(said):
    field = ShadowField(dict)
    heard = said(field)
    field.show_value(())
    field.kinds.button("outer").click()
    (first,) = heard[-1]
    assert not first.inner
    field.show_value((first,))
    field.fields["blur"].selectAll()
    QTest.keyClicks(field.fields["blur"], "30")
    QTest.keyClick(field.fields["blur"], Qt.Key.Key_Return)
    assert heard[-1][0].blur == 30
    field.kinds.button("inner").click()
    assert heard[-1][0].inner
    second = Shadow(parse("#000"))
    field.show_value((first, second))
    field.kinds.button("none").click()
    assert heard[-1] == (second,)


def test_words_are_tried_and_kept_by_enter_and_esc(said):
    field = WordsField("Words")
    heard = said(field)
    tried = []
    field.typed.connect(tried.append)
    field.show_value("Board")
    QTest.keyClicks(field, "ing")
    assert tried[-1] == "Boarding"
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert heard == ["Boarding"]
    QTest.keyClicks(field, "!")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert heard == ["Boarding", "Boarding!"]


# Source: WCAG 2.2, SC 1.4.3 (4.5:1 for text).
@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_text_of_both_looks_can_be_read(theme):
    for role in ("ink", "muted", "clay", "slate", "saffron", "problem", "good"):
        for paper in ("panel", "chrome", "field"):
            ratio = contrast(parse(getattr(theme, role)), parse(getattr(theme, paper)))
            assert ratio >= 4.5, (role, paper, ratio)
