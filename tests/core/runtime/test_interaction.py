"""Pointer, focus and cues where two things meet: what is disabled by its own tap, what is hidden,
groups of wrapped members, circles, conditions, and reduced motion. Worked out by hand."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from demo.behaviours import put, turned, with_cue
from demo.drawing import box, instance
from outgrowth.core.document.cues import HOLDER, Change, Condition, Cue, Motion, Trigger
from outgrowth.core.document.properties import ROLES
from outgrowth.core.document.records import Document
from outgrowth.core.document.values import GROW, Once, fixed
from outgrowth.core.edits.cues import add_cue, set_motion
from outgrowth.core.edits.variants.driving import set_driver, set_least
from outgrowth.core.refusal import Refusal
from outgrowth.core.runtime.script import snapshot
from tests.core.runtime.parts import POINTER, door, part, screen, styled

NO_YES = "no", "yes"


def key(document, name="key", **style):
    """A key of 40 × 20 px that can be hovered, pressed, focused and disabled."""
    root = box(name, width=40, height=20, **({"role": "button"} | style))
    return part(document, name, root, state=POINTER, focus=("no", "focus"), enabled=("yes", "no"))


def keys(count=3, **more):
    document = key(Document("Keys"), **more)
    held = [instance(f"k{n}", "key") for n in range(count)]
    return screen(document, "desk", *held, flow="column", width=200, height=200)


# --- disabled -----------------------------------------------------------------------------


def test_a_part_that_its_own_tap_disables_is_out_of_everything_at_once(run):
    document = keys()
    document = with_cue(document, "key", "tap", put("enabled", "no"))
    runtime = run(document, "desk")
    runtime.point("k0")
    assert runtime.value("state", "k0") == "hover"
    runtime.tap("k0")
    assert runtime.value("enabled", "k0") == "no"
    assert runtime.value("state", "k0") == "rest", "under a still pointer too"
    assert (runtime.value("focus", "k0"), runtime.focus) == ("no", None)
    runtime.advance(1000)
    assert runtime.value("state", "k0") == "rest"
    runtime.key("Tab")
    assert runtime.focus == ("k1",), "Tab goes on from where the focus was"


def submit(screen_name="desk"):
    """A key whose pointer axis has a value of its own: off, which its tap sets."""
    root = box("send", width=40, height=20, role="button")
    states = (*POINTER, "disabled")
    document = part(Document("Submit"), "send", root, state=states)
    document = styled(document, "send", (), {"state": "disabled"}, opacity=0.4)
    document = with_cue(document, "send", "tap", put("state", "disabled"))
    counted = part(document, "count", box("count", width=5, height=5), at=("0", "1", "2"))
    held = [instance("s", "send"), instance("c", "count")]
    document = screen(counted, screen_name, *held, flow="column", width=200, height=200)
    return with_cue(document, screen_name, "tap", turned("at", ("c",)), node=("s",))


def test_a_value_of_its_own_on_the_pointers_axis_wins_over_hover_at_that_instant(run):
    runtime = run(submit(), "desk")
    runtime.point("s")
    assert runtime.value("state", "s") == "hover"
    runtime.tap("s")
    assert runtime.value("state", "s") == "disabled", "under a still pointer too"
    runtime.tap("s")
    assert runtime.value("at", "c") == "1", "it is sent once"
    runtime.advance(1000)
    runtime.point("c")
    runtime.point("s")
    assert runtime.value("state", "s") == "disabled"


def test_the_pointer_has_its_say_again_once_it_is_enabled(run):
    document = with_cue(submit(), "desk", Trigger("key", key="r"), put("state", "rest", ("s",)))
    runtime = run(document, "desk")
    runtime.point("s")
    runtime.tap("s")
    runtime.key("r")
    runtime.advance(1000)
    assert runtime.value("state", "s") == "hover", "as soon as nothing moves"


def test_a_second_tap_on_what_is_disabled_does_not_count(run):
    document = with_cue(keys(), "desk", "tap", put("enabled", "no", ("k0",)), node=("k0",))
    root = box("count", width=5, height=5)
    document = part(document, "count", root, at=("0", "1", "2"))
    document = screen(document, "hall", instance("k0", "key"), instance("c", "count"))
    document = with_cue(document, "hall", "tap", turned("at", ("c",)), node=("k0",))
    document = with_cue(document, "hall", "tap", put("enabled", "no", ("k0",)), node=("k0",))
    runtime = run(document, "hall")
    runtime.tap("k0")
    runtime.tap("k0")
    assert runtime.value("at", "c") == "1"


def test_what_is_disabled_while_it_is_held_down_is_not_tapped(run):
    document = with_cue(keys(), "key", "press", put("enabled", "no"))
    document = with_cue(document, "desk", "tap", put("enabled", "no", ("k2",)), node=("k0",))
    runtime = run(document, "desk")
    runtime.press(*runtime.rect("k0").center)
    assert runtime.value("state", "k0") == "rest"
    runtime.release(*runtime.rect("k0").center)
    assert runtime.value("enabled", "k2") == "yes"


def test_a_focused_part_that_goes_away_gives_the_keys_to_the_screen(run):
    document = with_cue(keys(), "desk", Trigger("key", key="Escape"), put("enabled", "no", ("k2",)))
    document = styled(document, "key", (), {"enabled": "no"}, shown=False)
    document = with_cue(document, "key", "tap", put("enabled", "no"))
    runtime = run(document, "desk")
    runtime.key("Tab")
    runtime.key("Enter")
    assert runtime.focus is None
    runtime.key("Enter")
    runtime.key("Escape")
    assert runtime.value("enabled", "k1") == "yes"
    assert runtime.runtime.value(("k2",), "enabled") == "no"
    runtime.key("Tab")
    assert runtime.focus == ("k1",)


# --- not shown ----------------------------------------------------------------------------


def test_a_hidden_toast_is_raised_and_what_it_hears_then_acts(run):
    root = box("toast", width=100, height=20)
    document = part(Document("Toast"), "toast", root, up=NO_YES, seen=NO_YES)
    document = styled(document, "toast", (), shown=False)
    document = styled(document, "toast", (), {"up": "yes"}, shown=True)
    rising = Trigger("became", axis="up", value="yes")
    document = with_cue(document, "toast", rising, put("seen", "yes"))
    down = Trigger("delay", ms=1000)
    document = with_cue(document, "toast", down, put("up", "no"), when={"up": "yes"})
    document = key(document)
    held = instance("k", "key"), instance("t", "toast")
    document = screen(document, "hall", *held, flow="column", width=100, height=60)
    document = with_cue(document, "hall", "tap", put("up", "yes", ("t",)), node=("k",))
    runtime = run(document, "hall")
    assert runtime.node("t") is None
    runtime.tap("k")
    assert runtime.node("t") is not None
    assert runtime.value("seen", "t") == "yes"
    runtime.advance(1000)
    assert runtime.node("t") is None or runtime.runtime.value(("t",), "up") == "no"


def test_a_tick_on_a_hidden_page_stays(run):
    document = part(Document("Tick"), "tick", box("tick", width=10, height=10), checked=NO_YES)
    page = box("page", instance("tick", "tick"))
    root = box("tabs", box("bar", width=50, height=10), page, flow="column")
    document = part(document, "tabs", root, page=("first", "second"))
    document = styled(document, "tabs", ("page",), {"page": "second"}, shown=False)
    document = with_cue(document, "tick", "tap", turned("checked"))
    document = with_cue(document, "tabs", "tap", turned("page"), node=("bar",))
    runtime = run(document, "tabs", True)
    runtime.tap("tick")
    runtime.tap("bar")
    assert runtime.target.scene.ids == ("bar",)
    runtime.advance(1000)
    runtime.tap("bar")
    assert runtime.value("checked", "tick") == "yes"


# --- circles ------------------------------------------------------------------------------


@pytest.mark.parametrize("trigger", [Trigger("appear"), Trigger("delay", ms=500)])
def test_many_parts_that_each_act_once_at_one_instant_are_no_circle(run, trigger):
    document = part(Document("Many"), "dot", box("dot", width=4, height=4), lit=NO_YES)
    document = with_cue(document, "dot", trigger, put("lit", "yes"))
    dots = [instance(f"d{n}", "dot") for n in range(150)]
    document = screen(document, "sky", *dots, flow="column")
    runtime = run(document, "sky")
    runtime.advance(500)
    assert runtime.problems == []
    assert all(runtime.value("lit", f"d{n}") == "yes" for n in range(150))


def test_many_taps_at_one_instant_are_no_circle(run):
    document = with_cue(keys(), "key", "tap", turned("enabled"))
    document = part(document, "count", box("count", width=9, height=9), at=("0", "1"))
    document = with_cue(document, "count", "tap", turned("at"))
    runtime = run(document, "count", True)
    for _ in range(121):
        runtime.press(4, 4)
        runtime.release(4, 4)
    assert (runtime.problems, runtime.value("at")) == ([], "1")


def test_a_circle_is_told_by_names_and_all_else_goes_on(run):
    document = part(
        Document("Loop"), "lamp", box("lamp", width=9, height=9), lit=NO_YES, told=NO_YES
    )
    for value, other in (("yes", "no"), ("no", "yes")):
        trigger = Trigger("became", axis="lit", value=value)
        document = with_cue(document, "lamp", trigger, put("lit", other))
    document = with_cue(document, "lamp", "tap", turned("lit"), put("told", "yes"))
    document = screen(document, "room", instance("left", "lamp"), instance("right", "lamp"))
    runtime = run(document, "room")
    runtime.tap("right")
    (said,) = runtime.problems
    assert "Room › right: “When Lit becomes" in said
    assert "becomes no, set Lit to yes" in said
    assert "becomes yes, set Lit to no" in said
    assert runtime.value("told", "right") == "yes"
    runtime.advance(10)
    for _ in range(3):
        runtime.tap("left")
        runtime.tap("right")  # it begins with the other of the two cues
    assert len(runtime.problems) == 2, "one circle is told once"


# --- groups -------------------------------------------------------------------------------


def seats(flow="column", mirrored=False, role="radiogroup", member="radio"):
    """Rows with a radio and another key in each, in one group."""
    document = part(
        Document("Seats"), "dot", box("dot", width=10, height=10, role=member), checked=NO_YES
    )
    document = with_cue(document, "dot", "tap", put("checked", "yes"))
    document = key(document)
    row = box("row", instance("dot", "dot"), instance("more", "key"), flow="row")
    document = part(document, "row", row)
    held = [instance(f"r{n}", "row") for n in range(3)]
    only = (Once("checked", "yes"),)
    list_ = box("list", *held, flow=flow, mirrored=mirrored)
    group = box("group", list_, role=role, one_at_a_time=only)
    end = instance("end", "key")
    return screen(document, "hall", group, end, flow="column", width=300, height=200)


def test_wrapped_members_are_one_group_for_pointer_and_keys(run):
    runtime = run(seats(), "hall")
    for n in (0, 2, 1):
        runtime.tap(f"r{n}", "dot")
        chosen = [runtime.value("checked", f"r{m}", "dot") for m in range(3)]
        assert chosen == ["yes" if m == n else "no" for m in range(3)]
    runtime.key("ArrowDown")
    assert runtime.focus == ("r2", "dot")
    runtime.key("ArrowRight")
    assert runtime.focus == ("r0", "dot")
    chosen = [runtime.value("checked", f"r{m}", "dot") for m in range(3)]
    assert chosen == ["yes", "no", "no"]


def test_a_group_is_one_stop_and_other_controls_in_it_are_stops_too(run):
    runtime = run(seats(), "hall")
    found = []
    for _ in range(6):
        runtime.key("Tab")
        found.append(runtime.focus)
    more = [(f"r{n}", "more") for n in range(3)]
    assert found == [("r0", "dot"), *more, ("end",), ("r0", "dot")]
    runtime.tap("r1", "dot")
    runtime.key("Tab")
    assert runtime.focus == ("r1", "more")
    runtime.key("Tab", shift=True)
    assert runtime.focus == ("r1", "dot")


@pytest.mark.parametrize(
    ("flow", "mirrored", "pressed", "focus"),
    [
        ("column", False, "ArrowDown", "r1"),
        ("column", False, "ArrowRight", "r0"),
        ("row", False, "ArrowRight", "r1"),
        ("row", False, "ArrowDown", "r0"),
        ("row", True, "ArrowLeft", "r1"),
        ("column", False, "End", "r2"),
    ],
)
def test_arrows_go_as_a_tab_list_flows(run, flow, mirrored, pressed, focus):
    runtime = run(seats(flow, mirrored, "tablist", "tab"), "hall")
    runtime.key("Tab")
    runtime.key(pressed)
    assert runtime.focus == (focus, "dot")


def test_a_cue_that_chooses_one_sets_the_others_back(run):
    document = with_cue(
        seats(), "hall", Trigger("key", key="x"), put("checked", "yes", ("r2", "dot"))
    )
    runtime = run(document, "hall")
    runtime.tap("r0", "dot")
    runtime.key("x")
    chosen = [runtime.value("checked", f"r{m}", "dot") for m in range(3)]
    assert chosen == ["no", "no", "yes"]


def test_a_box_in_a_box_keeps_its_own_and_opening_it_does_not_close_what_it_is_in(run):
    document = part(Document("Nest"), "leaf", box("leaf", width=9, height=9), open=NO_YES)
    document = with_cue(document, "leaf", "tap", put("open", "yes"))
    only = (Once("open", "yes"),)
    inner = box("inner", instance("a", "leaf"), instance("b", "leaf"), one_at_a_time=only)
    document = part(
        document, "branch", box("branch", box("h", width=9, height=9), inner), open=NO_YES
    )
    document = with_cue(document, "branch", "tap", put("open", "yes"), node=("h",))
    document = screen(
        document, "tree", instance("x", "branch"), instance("y", "branch"), one_at_a_time=only
    )
    runtime = run(document, "tree")
    runtime.tap("x", "h")
    runtime.tap("x", "a")
    runtime.tap("y", "b")
    assert [runtime.value("open", *p) for p in (("x",), ("x", "a"), ("y", "b"))] == ["yes"] * 3
    runtime.tap("y", "h")
    assert [runtime.value("open", p) for p in ("x", "y")] == ["no", "yes"]
    assert runtime.value("open", "x", "a") == "yes"


def test_focus_follows_the_tree_and_not_the_order_of_sight(run):
    document = key(Document("Order"))
    held = [instance("a", "key", order=2), instance("b", "key", order=1)]
    document = screen(document, "hall", *held)
    runtime = run(document, "hall")
    assert runtime.target.scene.ids == ("b", "a")
    runtime.key("Tab")
    assert runtime.focus == ("a",)


def test_what_only_hears_escape_is_no_stop_but_hears_it_from_inside(run):
    document = key(Document("Dialog"))
    root = box("dialog", instance("k", "key"), width=90, height=40)
    document = part(document, "dialog", root, open=("yes", "no"))
    document = with_cue(document, "dialog", Trigger("key", key="Escape"), put("open", "no"))
    document = screen(document, "hall", instance("d", "dialog"))
    runtime = run(document, "hall")
    runtime.key("Tab")
    assert runtime.focus == ("d", "k")
    runtime.key("Escape")
    assert runtime.value("open", "d") == "no"


def test_what_hears_keys_takes_the_focus_by_tab_and_by_press_unless_it_holds_stops(run):
    root = box("dial", box("hand", width=40, height=20), box("face", width=40, height=20))
    document = part(key(Document("Dials")), "dial", root, at=("one", "two"))
    document = with_cue(document, "dial", Trigger("key", key="ArrowUp"), turned("at"))
    holder = box("case", instance("k", "key"), box("rim", width=40, height=20))
    document = part(document, "case", holder, at=("one", "two"))
    document = with_cue(document, "case", Trigger("key", key="ArrowUp"), turned("at"))
    document = screen(document, "hall", instance("d", "dial"), instance("c", "case"), flow="column")
    runtime = run(document, "hall")
    runtime.tap("d", "hand")
    assert runtime.focus == ("d",)
    runtime.key("ArrowUp")
    assert runtime.value("at", "d") == "two"
    runtime.key("Tab")
    assert runtime.focus == ("c", "k"), "the case has its keys from what it holds"
    runtime.tap("c", "rim")
    assert runtime.focus is None


@pytest.mark.parametrize("role", ROLES)
@pytest.mark.parametrize("whole", [True, False], ids=["component", "plain part"])
def test_what_is_tapped_is_tapped_by_keys_whatever_it_is(run, role, whole):
    """A plain part has the keys where it says what it is; a field takes its keys itself."""
    said = {"role": role} if not whole else {}
    root = box("thing", box("face", width=40, height=20, **said), role=role if whole else "none")
    document = part(Document("Things"), "thing", root, at=("one", "two"))
    document = with_cue(
        document, "thing", "tap", turned("at"), **({} if whole else {"node": ("face",)})
    )
    runtime = run(screen(document, "hall", instance("t", "thing")), "hall")
    runtime.key("Tab")
    reached = whole or role != "none"
    assert runtime.focus == ((("t",) if whole else ("t", "face")) if reached else None)
    tapped = []
    for pressed in ("Enter", " "):
        before = runtime.value("at", "t")
        runtime.key(pressed)
        tapped.append(runtime.value("at", "t") != before)
    expected = {"link": [True, False], "textbox": [False, False]}
    expected |= {"checkbox": [False, True], "radio": [False, True]}
    assert tapped == (expected.get(role, [True, True]) if reached else [False, False])


# --- pressing and letting through -----------------------------------------------------------


def test_a_nested_press_leaves_its_holder_hovered(run):
    document = key(Document("Nested"))
    card = box("card", instance("k", "key"), width=100, height=60)
    document = part(document, "card", card, state=POINTER)
    document = screen(document, "hall", instance("c", "card"))
    runtime = run(document, "hall")
    runtime.press(*runtime.rect("c", "k").center)
    assert (runtime.value("state", "c", "k"), runtime.value("state", "c")) == ("press", "hover")
    runtime.pointer_move(90, 50)
    assert (runtime.value("state", "c", "k"), runtime.value("state", "c")) == ("rest", "hover")


def test_a_cue_whose_condition_fails_lets_the_tap_through(run):
    document = with_cue(
        key(Document("Through")), "key", "tap", turned("enabled"), when={"enabled": "no"}
    )
    document = part(document, "count", box("count", instance("k", "key")), at=("0", "1"))
    document = with_cue(document, "count", "tap", turned("at"))
    runtime = run(document, "count", True)
    runtime.tap("k")
    assert runtime.value("at") == "1"


def test_what_is_invisible_is_hit_as_in_a_browser(run):
    document = with_cue(keys(), "key", "tap", put("enabled", "no"))
    document = styled(document, "desk", ("k0",), opacity=0.0)
    runtime = run(document, "desk")
    runtime.tap("k0")
    assert runtime.value("enabled", "k0") == "no"


# --- conditions and starting again ----------------------------------------------------------


def dial_and_lamp():
    """A screen with a dial of three values that a tap turns, and a lamp that nothing lights."""
    document = part(Document("If"), "dial", box("dial", width=9, height=9), at=("a", "b", "c"))
    document = with_cue(document, "dial", "tap", turned("at"))
    document = part(document, "lamp", box("lamp", width=9, height=9), lit=NO_YES)
    return screen(document, "hall", instance("dial", "dial"), instance("lamp", "lamp"))


def test_conditions_name_several_values_and_other_parts(run):
    document = dial_and_lamp()
    some = Condition("at", ("b", "c"), ("dial",))
    cue = Cue("c", ("lamp",), Trigger("tap"), (turned("lit", ("lamp",)),), conditions=(some,))
    document = add_cue(document, "hall", cue)
    runtime = run(document, "hall")
    runtime.tap("lamp")
    assert runtime.value("lit", "lamp") == "no"
    for expected in ("yes", "no"):
        runtime.tap("dial")
        runtime.tap("lamp")
        assert runtime.value("lit", "lamp") == expected
    runtime.tap("dial")
    runtime.tap("lamp")
    assert runtime.value("lit", "lamp") == "no"


def test_a_condition_means_what_holds_the_part(run):
    document = part(Document("Held"), "lamp", box("lamp", width=9, height=9), lit=NO_YES)
    ready = Condition("ready", ("yes",), (HOLDER,))
    for trigger in (Trigger("tap"), Trigger("delay", ms=300)):
        cue = Cue(trigger.kind, (), trigger, (put("lit", "yes"),), conditions=(ready,))
        document = add_cue(document, "lamp", cue)
    root = box("desk", instance("lamp", "lamp"), box("key", width=9, height=9), flow="column")
    document = part(document, "desk", root, ready=NO_YES)
    document = with_cue(document, "desk", "tap", turned("ready"), node=("key",))
    runtime = run(document, "desk", True)
    runtime.tap("lamp")
    runtime.advance(400)
    assert runtime.value("lit", "lamp") == "no"
    runtime.tap("key")
    runtime.advance(299)
    assert runtime.value("lit", "lamp") == "no"
    runtime.advance(1)
    assert runtime.value("lit", "lamp") == "yes"


def test_a_timer_waits_for_the_values_of_other_parts(run):
    document = dial_and_lamp()
    on_b = Condition("at", ("b",), ("dial",))
    wait = Trigger("delay", ms=300)
    cue = Cue("c", (), wait, (put("lit", "yes", ("lamp",)),), conditions=(on_b,))
    document = add_cue(document, "hall", cue)
    runtime = run(document, "hall")
    runtime.advance(400)
    runtime.tap("dial")
    runtime.advance(299)
    assert runtime.value("lit", "lamp") == "no"
    runtime.advance(1)
    assert runtime.value("lit", "lamp") == "yes"


def test_start_again_restarts_the_waiting(run):
    document = part(Document("Again"), "tabs", box("tabs", width=9, height=9), day=("a", "b"))
    document = with_cue(document, "tabs", Trigger("delay", ms=1000), turned("day"))
    document = with_cue(document, "tabs", "tap", put("day", "a"), Change("restart"))
    runtime = run(document, "tabs", True)
    runtime.advance(800)
    runtime.press(4, 4)
    runtime.release(4, 4)
    runtime.advance(999)
    assert runtime.value("day") == "a"
    runtime.advance(1)
    assert runtime.value("day") == "b"


def test_a_timer_of_three_seconds_acts_however_time_is_cut(run):
    document = part(Document("Cut"), "t", box("t", width=9, height=9), on=NO_YES)
    document = with_cue(document, "t", Trigger("delay", ms=3000), put("on", "yes"))
    for pieces in (1, 3, 7, 11, 13, 999):
        runtime = run(document, "t", True)
        for _ in range(pieces):
            runtime.advance(3000 / pieces)
        assert (runtime.value("on"), runtime.now) == ("yes", 3000.0)


@pytest.mark.parametrize("ms", [float("nan"), float("inf")])
def test_time_is_finite(run, ms):
    runtime = run(keys(), "desk")
    with pytest.raises(ValueError, match="finite"):
        runtime.advance(ms)


# --- reduced motion -----------------------------------------------------------------------


def test_reduced_motion_that_comes_in_the_middle_ends_all_movement(run):
    document = screen(door(), "hall", instance("d0", "door"), flow="column")
    runtime = run(document, "hall")
    runtime.tap("d0", "head")
    runtime.advance(100)
    runtime.runtime.reduced_motion = True
    assert (runtime.moving, runtime.rect("d0").height) == (False, 120)


def sliding():
    """Doors with keys in their bodies and below them: what opens moves others under a still
    pointer."""
    document = key(door(high=40.0))
    body = box("body", instance("k", "key"), width=60, height=0, clip=True)
    root = box("drawer", box("head", width=60, height=20), body, flow="column")
    document = part(document, "drawer", root, open=NO_YES)
    document = styled(document, "drawer", ("body",), {"open": "yes"}, height=fixed(40.0))
    document = with_cue(document, "drawer", "tap", turned("open"), node=("head",))
    document = set_motion(document, "drawer", "open", "", Motion(200.0))
    document = styled(document, "key", (), {"state": "hover"}, width=fixed(70.0))
    held = [instance("d0", "drawer"), instance("k0", "key"), instance("d1", "drawer")]
    held.append(instance("k1", "key"))
    only = (Once("open", "yes"),)
    return screen(document, "hall", *held, flow="column", width=120, height=260, one_at_a_time=only)


deeds = st.one_of(
    st.tuples(st.just("tap"), st.integers(0, 100), st.integers(0, 200)),
    st.tuples(st.just("move"), st.integers(0, 100), st.integers(0, 200)),
    st.tuples(st.just("key"), st.sampled_from(["Tab", "Enter", " "]), st.just(0)),
)


@settings(max_examples=60, deadline=None)
@given(st.lists(deeds, min_size=1, max_size=8))
def test_reduced_motion_ends_in_the_same_states(run, deeds):
    ends = []
    for reduced in (False, True):
        runtime = run(sliding(), "hall")
        runtime.runtime.reduced_motion = reduced
        for kind, x, y in deeds:
            if kind == "tap":
                runtime.press(x, y)
                runtime.advance(3000)  # all is at rest before the next deed, or it meets a frame
                runtime.release(x, y)
            elif kind == "move":
                runtime.pointer_move(x, y)
            else:
                runtime.key(x)
            runtime.advance(3000)
        ends.append((dict(runtime.states), runtime.focus, runtime.moving))
    assert ends[0] == ends[1]


@settings(max_examples=40, deadline=None)
@given(
    st.lists(deeds, min_size=1, max_size=6), st.lists(st.floats(0.1, 400), min_size=1, max_size=5)
)
def test_time_in_any_pieces_gives_the_same_picture(run, deeds, pieces):
    pictures = []
    for cut in (False, True):
        runtime, shots = run(sliding(), "hall"), []
        for kind, x, y in deeds:
            if kind == "tap":
                runtime.press(x, y)
                runtime.release(x, y)
            elif kind == "move":
                runtime.pointer_move(x, y)
            else:
                runtime.key(x)
            for ms in pieces if cut else [sum(pieces)]:
                runtime.advance(ms)
            shots.append(snapshot(runtime.runtime))
        pictures.append(shots)
    assert pictures[0] == pictures[1]


def test_a_still_pointer_over_what_moves_away_and_comes_back_ends(run):
    """Hovered, it moves out from under the pointer; not hovered, it comes back."""
    root = box("shy", width=40, height=40)
    document = part(Document("Shy"), "shy", root, state=POINTER)
    document = styled(document, "shy", (), {"state": "hover"}, margin_left=100)
    document = set_motion(document, "shy", "state", "", Motion(0.0))
    document = screen(document, "hall", instance("s", "shy"), width=300, height=60)
    runtime = run(document, "hall")
    runtime.pointer_move(20, 20)
    runtime.advance(1000)
    assert (runtime.moving, runtime.problems) == (False, [])
    runtime.pointer_leave()
    assert runtime.value("state", "s") == "rest"
    assert runtime.rect("s").x == 0


def test_a_tap_on_the_chosen_tab_of_the_demo_starts_its_time_again(run, ferry):
    runtime = run(ferry, "booking")
    runtime.advance(4000)
    assert runtime.value("quarter", "days", "tab-today") == "third"
    runtime.tap("days", "tab-today")
    assert runtime.value("quarter", "days", "tab-today") == "first"
    runtime.advance(5999)
    assert runtime.value("day", "days") == "today"
    runtime.advance(1)
    assert runtime.value("day", "days") == "tomorrow"
    assert runtime.problems == []


# --- rooms ----------------------------------------------------------------------------------


def test_what_a_room_sets_no_cue_hears(run):
    root = box("plate", box("mark", width=10, height=10), width=GROW, height=20)
    document = part(Document("Plates"), "plate", root, size=("small", "large"), seen=NO_YES)
    holds = box("holder", instance("p", "plate", width=GROW), flow="column", width=300, height=40)
    document = part(document, "holder", holds, open=NO_YES)
    document = styled(document, "holder", (), {"open": "yes"}, width=fixed(600))
    document = with_cue(document, "holder", "tap", put("open", "yes"))
    document = set_driver(document, "plate", "size", "room")
    document = set_least(document, "plate", "size", "large", 400.0)
    came = Cue("came", (), Trigger("became", axis="size"), (put("seen", "yes"),))
    with pytest.raises(Refusal, match="is set by the room that a part gets"):
        add_cue(document, "plate", came)
    plate = document.components["plate"]
    heard = msgspec.structs.replace(plate.behaviour, cues=(came,))
    plate = msgspec.structs.replace(plate, behaviour=heard)
    components = document.components.set("plate", plate)
    document = msgspec.structs.replace(document, components=components)
    document = screen(document, "desk", instance("h", "holder"), width=700, height=100)
    runtime = run(document, "desk")
    runtime.tap("h")
    assert runtime.node("h", "p").variant["size"] == "large"
    assert runtime.value("seen", "h", "p") == "no"
