"""Faults that a generator plants in random places of the demo are found, each mend takes its
finding away and touches nothing else, and what is in order is left in peace.

`python -m tests.core.review.judge` prints how many of each kind were found, and how many of what
was found was planted.
"""

import random

import msgspec
import pytest
from immutables import Map

from demo.drawing import box, instance, styled, text
from outgrowth.core.color import parse, parse_fill
from outgrowth.core.color.difference import ciede2000
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    DesignToken,
    Document,
    Rule,
    Screen,
)
from outgrowth.core.document.values import Token
from outgrowth.core.document.variants import offered, variants
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen, add_token
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.review.reviewer import Reviewer, review
from outgrowth.core.review.rules import rule_findings
from outgrowth.core.review.views import ReviewContext, ViewRenderer
from tests.core.review.judge import PLACES, Judge
from tests.core.review.planting import PLANTS


@pytest.fixture(scope="module")
def judge():
    return Judge()


@pytest.mark.parametrize("kind", PLANTS)
def test_planted_faults_are_found_and_their_mends_touch_nothing_else(kind, judge):
    counts = judge.planted(kind, random.Random(kind), PLACES)
    assert counts.missed == 0, f"{counts.missed} of {counts.planted} were not found"
    assert not counts.broken, counts.broken[0]
    assert not counts.alarms, counts.alarms


# --- what is in order --------------------------------------------------------------------------


def tidy():
    document = Document("Tidy")
    document = add_token(document, "color.ink", DesignToken("color", parse("#14252B")))
    document = add_token(document, "color.paper", DesignToken("color", parse("#FFFFFF")))
    root = box(
        "tag",
        text("said", "Sailing", color="{color.ink}", font_size=15),
        fill="{color.paper}",
        padding=(12, 16),
    )
    document = add_component(document, Component("tag", "Tag", root))
    board = box("board", instance("one", "tag"), instance("two", "tag"), flow="column", gap=8)
    return add_screen(document, Screen("board", "Board", board))


def test_a_document_in_order_has_no_findings(layout):
    assert review(tidy(), layout) == ()


# Source: WCAG 2.2's own formula, worked out to two places; which greys just fail and just pass on
# white is from memory: #777777 (4.48 : 1) and #767676 (4.54 : 1).
@pytest.mark.parametrize(("ink", "poor"), [("#777777", True), ("#767676", False)])
def test_the_grey_that_just_fails_is_told_and_the_next_is_not(ink, poor, layout):
    root = box("page", text("words", "Sailing", color=ink, font_size=15), fill="#FFFFFF")
    document = add_screen(Document("d"), Screen("page", "Page", root))
    assert bool(review(document, layout, ("contrast",))) is poor
    large = box("page", text("words", "Sailing", color=ink, font_size=24), fill="#FFFFFF")
    document = add_screen(Document("d"), Screen("page", "Page", large))
    assert not review(document, layout, ("contrast",))


def test_words_on_a_gradient_count_by_the_worst_colour_under_them(layout):
    across = parse_fill("linear-gradient(90deg, #14252B 0%, #14252B 50%, #FFFFFF 60%)")
    for left, poor in ((10, False), (200, True)):
        words = text("words", "Sailing", color="#FFFFFF", font_size=15, x=left, y=10)
        root = box("page", words, fill=across, flow="free", width=400, height=60)
        document = add_screen(Document("d"), Screen("page", "Page", root))
        findings = review(document, layout, ("contrast",))
        assert bool(findings) is poor
        assert all("1.00\u00a0:\u00a01" in finding.text for finding in findings)


# Source: Sharma, Wu, Dalal 2005, the supplementary test data's idea (colours a just noticeable
# difference apart), here by coloraide itself: equal colours are 0, black and white 100.
def test_the_difference_of_colours_has_its_ends():
    black, white = parse("#000000"), parse("#FFFFFF")
    assert ciede2000(black, black) == 0 and ciede2000(black, white) == pytest.approx(100, abs=0.01)


def test_a_rule_that_wins_in_one_variant_is_none(judge, layout):
    """Every rule that the review leaves alone decides something in some offered variant."""
    clean = judge.clean
    context = ReviewContext(clean, ViewRenderer(layout))
    for component in clean.in_order():
        assert not [f for f in rule_findings(context, component) if f.kind == "rule-never-wins"]
        for rule in component.rules:
            node = rule.node or (component.root.id,)
            won = False
            for view in variants(component):
                if offered(component, view):
                    inspection = inspect(clean, Place(component.id, node, view))
                    if inspection is None:
                        continue
                    rungs = inspection.ladder(rule.property)
                    won |= any(r.wins and r.source.when == rule.when for r in rungs)
            assert won, (component.name, rule)


def test_a_token_of_the_same_colour_is_found_once(layout):
    document = add_token(Document("d"), "color.a", DesignToken("color", parse("#112233")))
    document = add_token(document, "color.b", DesignToken("color", Token("color.a")))
    root = box("page", fill="#112233")
    document = add_screen(document, Screen("page", "Page", root))
    equal = [f for f in review(document, layout, ("system",)) if f.kind == "color-equals-token"]
    assert len(equal) == 1 and equal[0].mend.title == "refer to color.a"


# --- what is remembered -------------------------------------------------------------------------


@pytest.mark.parametrize("seed", range(6))
def test_what_is_remembered_is_what_is_found_from_nothing(seed, judge, layout):
    """After random edits, one after the other, of owners, tokens, and what they hold."""
    from tests.fuzz.edits import World

    world = World(seed, judge.clean)
    kept = Reviewer(layout)
    for step in range(12):
        list(world.step(step))
        remembered = kept.findings(world.document)
        fresh = Reviewer(layout).findings(world.document)
        bare = {"mend": None, "others": ()}
        assert [f._replace(**bare) for f in remembered] == [f._replace(**bare) for f in fresh]
        assert all(f.text.endswith((".", "…")) and f.source for f in fresh)


# --- what shows the focus: WCAG 2.2, 2.4.13, the change against what was there ------------------


def focused(**rules):
    axis = Axis("focus", "Focus", (AxisValue("no", "No"), AxisValue("yes", "Yes")), "no", "focus")
    label = text("w", "Sail", color="#14252B", font_size=15)
    style = {"padding": (14, 16), "fill": "#FFFFFF", "role": "button"}
    root = box("r", label, **style)
    when = Map({"focus": "yes"})
    said = [Rule(when, ("r",), name, value) for name, value in styled(rules).items()]
    return add_component(Document("f"), Component("c", "C", root, (axis,), tuple(said)))


@pytest.mark.parametrize(
    ("rules", "poor"),
    [
        ({"stroke": "#14252B", "line_width": 2}, False),
        ({"stroke": "#DDDDDD", "line_width": 2}, True),
        ({"stroke": "#DDDDDD", "line_width": 2, "stroke_place": "outside"}, True),
        ({"fill": "#14252B"}, False),
        ({"fill": "#EEEEEE"}, True),
    ],
)
def test_what_the_focus_changes_counts_against_what_was_there(rules, poor, layout):
    findings = review(focused(**rules), layout, ("contrast",))
    assert bool([f for f in findings if f.kind == "focus-contrast"]) is poor


def test_words_that_no_one_colour_suits_get_one_in_each_variant(layout):
    """On a ground that turns from white to black, mended in one press."""
    axis = Axis("turn", "Turn", (AxisValue("no", "No"), AxisValue("yes", "Yes")), "no")
    label = text("w", "Sail", color="#808080", font_size=15)
    root = box("r", label, fill="#FFFFFF", padding=(14, 16))
    rule = Rule(Map({"turn": "yes"}), ("r",), "fill", parse("#000000"))
    document = add_component(Document("t"), Component("c", "C", root, (axis,), (rule,)))
    document = set_properties(document, Place("c", ("w",)), {"color": parse("#777777")})
    grey = set_properties(document, Place("c"), {"fill": parse("#8A8A8A")}, Map({"turn": "yes"}))
    for start in (document, grey):
        poor = [f for f in review(start, layout, ("contrast",)) if f.kind == "words-contrast"]
        assert poor
        after = poor[0].mend.change(start)
        assert not review(after, layout, ("contrast",))


def test_a_target_under_a_button_is_for_the_designer_to_move(layout):
    stack = box("s", instance("a", "tag", x=0, y=0), instance("b", "tag", x=0, y=0), flow="free",
                width=200, height=60)  # fmt: skip
    document = tidy()
    pressed = set_properties(document, Place("tag"), {"role": "button"})
    document = add_screen(pressed, Screen("stack", "Stack", stack))
    covered = [f for f in review(document, layout, ("targets",)) if f.kind == "target-covered"]
    assert [f.node for f in covered] == [("a",)] and covered[0].mend is None


def test_words_are_looked_at_in_every_mode(layout):
    """Dark words on a ground that turns dark in a mode: told in that mode, whichever is shown."""
    dark = {"dark": parse("#14252B")}
    document = Document("m", modes=("dark",))
    paper = DesignToken("color", parse("#FFFFFF"), modes=Map(dark))
    document = add_token(document, "color.paper", paper)
    label = text("w", "Sail", color="#14252B", font_size=15)
    root = box("r", label, fill="{color.paper}", padding=(14, 16))
    document = add_component(document, Component("c", "C", root))
    (finding,) = review(document, layout, ("contrast",))
    assert "in the mode dark" in finding.text and finding.about == "dark" and not finding.mend
    shown = msgspec.structs.replace(document, mode="dark")
    (finding,) = review(shown, layout, ("contrast",))
    assert finding.about == "dark" and finding.mend is not None
    (finding,) = review(finding.mend.change(shown), layout, ("contrast",))
    assert "in the mode usual" in finding.text and finding.about == ""
