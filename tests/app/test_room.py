"""How much room the bench has: panels that fold, one key for all, and where the keys go first."""

import random

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

K = Qt.Key


def settled():
    QApplication.processEvents()
    QTest.qWait(20)


def test_the_bench_has_most_of_the_window(window):
    window.workspace.open("button")
    for size, least in (((1280, 800), 0.48), ((1920, 1080), 0.63), ((2560, 1440), 0.72)):
        window.resize(*size)
        settled()
        bench = window.bench_stack
        assert bench.width() >= 700
        assert bench.width() * bench.height() >= least * size[0] * size[1], size


def test_one_key_puts_all_panels_away_and_back(window):
    window.workspace.open("boarding")
    window.run_action("cues")
    window.run_action("panel-live")
    settled()
    assert not window.live.isVisible()
    before = window.bench_stack.width()
    QTest.keyClick(window, K.Key_F12)
    settled()
    for panel in (window.library, window.side, window.live, window.sheet_stack, window.cue_board):
        assert not panel.isVisible()
    assert window.bench_stack.width() > before + 400
    assert window.status.away.text() == "4 panels are away"
    QTest.keyClick(window, K.Key_F12)
    settled()
    assert window.library.isVisible()
    assert window.cue_board.isVisible()
    assert not window.live.isVisible(), "as it was before"
    QTest.mouseClick(window.status.away, Qt.MouseButton.LeftButton)
    settled()
    assert window.live.isVisible()
    assert not window.status.away.isVisible()


def test_a_panel_is_away_when_its_edge_is_pushed_over_it(window):
    window.workspace.open("boarding")
    split = window._splits["left"]
    split.moveSplitter(0, 1)
    settled()
    assert window.folding.away == ("Library",)
    assert not window.library.isVisible()
    window.run_action("panel-library")
    settled()
    assert window.library.height() > 60
    window._splits["across"].moveSplitter(window.width(), 1)
    settled()
    assert window.folding.away == ("Live", "Sheets")
    window.run_action("panel-sheets")
    settled()
    assert window.sheet_stack.width() > 100


def test_what_a_bench_does_not_need_comes_back_with_the_next(window):
    window.workspace.open("boarding")
    window.run_action("tokens")
    assert not window.side.isVisible()
    assert window.folding.away == ()
    window.view.show_bench()
    assert window.side.isVisible()


def test_what_is_away_stays_away_in_the_next_window(window):
    window.folding.set_away(("Live",))
    window.keep_layout()
    window.folding.set_away(())
    window.restore_layout()
    assert window.folding.away == ("Live",)


def test_live_takes_a_place_beside_the_bench_and_goes_back(window):
    window.workspace.open("notice")
    settled()
    high, width = window.live.height(), window.width()
    QTest.keyClick(window, K.Key_F5, Qt.KeyboardModifier.ShiftModifier)
    settled()
    assert window.live.height() > high + 200 and window.width() == width
    assert window.live.x() + window.live.width() < window.sheet_stack.mapTo(window, QPoint()).x()
    window.run_action("tokens")
    settled()
    assert not window.live.isVisible(), "the tokens need the room"
    window.view.show_bench()
    window.keep_layout()
    QTest.keyClick(window, K.Key_F5, Qt.KeyboardModifier.ShiftModifier)
    settled()
    assert abs(window.live.height() - high) < 3
    window.restore_layout()
    settled()
    assert window.live_is_beside, "as the last window was"


def test_the_keys_go_to_the_bench_at_first(window):
    assert window.focusWidget() is window.view.surface


def test_the_reach_shows_what_it_leaves_out(window, hand):
    window.workspace.open("button")
    workspace = window.workspace
    workspace.select((), workspace.selection.variant.set("state", "hover"))
    workspace.refresh_panels()
    cells = {cell.variant["state"]: cell for cell in window.grid.cells if cell.offered}

    def ground(state):
        image = window.grid.grab().toImage()
        rect = cells[state].rect
        return image.pixelColor(int(rect.x) + 3, int(rect.y) + 3)

    paper = window.theme.color("paper")
    assert ground("hover") == paper
    assert ground("rest") == window.theme.between("bed", "paper")
    while workspace.reach:
        workspace.widen()
    workspace.refresh_panels()
    assert [ground(state) for state in ("hover", "rest")] == [paper, paper]


@pytest.mark.parametrize("seed", range(4))
def test_whatever_is_put_away_and_back_in_any_order(window, seed):
    """Random hands: names, the key, pushed edges, the cue board and other benches between them.
    The bench is always there, and twice the key is none, but what a bench has no use for."""
    rng, workspace, folding = random.Random(seed), window.workspace, window.folding
    panels = {
        "Library": window.library,
        "Layers": window.side,
        "Live": window.live,
        "Sheets": window.sheet_stack,
    }

    def push(split, to):
        if window._splits[split].count() > 1:  # Live may stand elsewhere
            window._splits[split].moveSplitter(to, 1)

    hands = {
        **{name: lambda name=name: window.run_action(f"panel-{name.lower()}") for name in panels},
        "key": lambda: window.run_action("panels"),
        "cues": lambda: window.run_action("cues"),
        "left edge": lambda: window._splits["left"].moveSplitter(rng.choice((0, 200, 700)), 1),
        "right edge": lambda: push("right", rng.choice((0, 300, 700))),
        "across": lambda: window._splits["across"].moveSplitter(rng.choice((600, 900, 1280)), 1),
        "tokens": lambda: window.run_action("tokens"),
        "live beside": lambda: window.run_action("live-beside"),
        "upper": lambda: window._splits["upper"].moveSplitter(rng.choice((500, 800, 1200)), 2),
        "screen": lambda: workspace.open("boarding"),
        "component": lambda: workspace.open("notice"),
        "back": lambda: window.view.show_bench(),
        "resize": lambda: window.resize(rng.choice((1280, 1600)), rng.choice((800, 1000))),
    }
    workspace.open("boarding")
    for n in range(30):
        name = rng.choice(list(hands))
        hands[name]()
        settled()
        assert window.bench_stack.width() > 200, (n, name)
        aside = window.bench_stack.currentWidget() is window.tokens
        idle = {"Layers"} if aside else set()
        idle |= {"Live"} if aside and window.live_is_beside else set()
        for panel, widget in panels.items():
            assert widget.isVisible() == (panel not in folding.away and panel not in idle), (
                n,
                name,
            )
            if widget.isVisible():
                assert min(widget.width(), widget.height()) > 20, (n, name, panel)
        state = set(folding.away), window.cue_board.isVisible()
        if len(folding.away) < 4:
            hands["key"]()
            assert len(folding.away) == 4
            assert not window.cue_board.isVisible()
            hands["key"]()
            assert (set(folding.away), window.cue_board.isVisible()) == state, (n, name)


def test_a_cue_board_that_is_opened_meanwhile_stays(window):
    window.workspace.open("notice")
    window.run_action("panels")
    window.run_action("cues")
    window.run_action("panels")
    assert window.cue_board.isVisible()


def test_a_board_that_goes_lets_go_of_the_movement_it_shows(window):
    window.workspace.open("notice")
    window.run_action("cues")
    window.grid.show_frame(window.workspace.selection.variant, window.grid.current_view())
    assert window.grid._frame is not None
    window.run_action("panels")
    assert window.grid._frame is None
