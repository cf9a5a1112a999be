"""`bin/pictures`: takes the pictures of docs/screenshots and of the guide, each in a window of
its own over the demo. Names may be given to take only some."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from functools import partial
from pathlib import Path
from unittest.mock import patch

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtTest import QTest

from demo.team import FerryTeam, demo_file
from outgrowth.app.main import WindowManager, application
from outgrowth.app.panels.tour import STEPS
from outgrowth.app.theme import DARK, LIGHT
from outgrowth.app.theme.sheet import install
from outgrowth.app.window import MainWindow
from outgrowth.core.color import parse
from outgrowth.core.document.records import Document, walk
from outgrowth.core.edits import tokens
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.owners import DEVICES
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Place
from outgrowth.resources import DEMO, GUIDE
from outgrowth.workspace.commands import (
    create_commands,
    library_commands,
    style_commands,
    token_commands,
)
from outgrowth.workspace.libraries import data_folder

ROOT = Path(__file__).parents[1]
SHOTS = ROOT / "docs" / "screenshots"
_GUIDE_WIDTH = 1000
_FONTS_MS = 1300
"""Until the machine's fonts are there, which make the ledger anew."""

Scene = Callable[[MainWindow], object]
"""Shows something; what it gives back, if it can be called, is done last."""


def _bench(w: MainWindow) -> None:
    s = w.workspace
    s.open("button")
    s.select((), s.selection.variant.set("state", "hover"))
    QTest.qWait(_FONTS_MS)
    w.ledger.rows["fill"]._unfold()


def _screen(w: MainWindow) -> None:
    workspace = w.workspace
    workspace.open("fares")
    root = workspace.document.screens["fares"].root
    card = next(n.id for n in walk(root) if n.style.get("component") == "fare-card")
    workspace.select((card, "name"))
    style_commands.set_style(workspace, {"color": parse("#9C3D1B")})
    workspace.select((card,))
    QTest.qWait(_FONTS_MS)
    if w.ledger.kept is not None:
        w.ledger.kept.head.click()


def _grid(w: MainWindow) -> None:
    w.workspace.open("calendar")
    w.workspace.select(("month",))
    QTest.qWait(_FONTS_MS)
    w.live.stage.playback.runtime.scroll(100.0, 600.0, 0.0, 150.0)


def _words(w: MainWindow) -> None:
    w.run_action("replace-words")
    w.words.search.setText("board")
    w.words.replacement.setText("embark")
    w.words._into_list()
    w.words._groups()[2][1][0].setCheckState(Qt.CheckState.Unchecked)


def _gather(w: MainWindow) -> None:
    w.workspace.open("before-gathering")
    w.run_action("gather")
    QTest.qWait(9000)


def _find(w: MainWindow) -> None:
    w.workspace.open("boarding")
    w.workspace.select(("wait",))
    QTest.qWait(_FONTS_MS)
    w.run_action("find")
    QTest.keyClicks(w.finder.field, "button")


def _hands(w: MainWindow) -> None:
    w.workspace.open("boarding")
    w.workspace.select(("crossing",))


def _cues(owner: str, cue: str, at: int) -> Scene:
    def show(w: MainWindow) -> Callable[[], object]:
        w.workspace.open(owner)
        w.cue_board.toggle()
        QTest.qWait(200)
        w.cue_board.choose(cue)
        QTest.qWait(200)
        return partial(w.cue_board.scrubber.setValue, at)

    return show


def _expand(w: MainWindow) -> None:
    w.workspace.open("help")
    QTest.qWait(_FONTS_MS)
    stage = w.live.stage
    stage.stop()
    stage._scrolled = 120.0
    runtime = stage.playback.runtime
    assert runtime is not None
    head = next(a for a in locate(*runtime.view(), "") if a.path == ("notice-1", "head"))
    runtime.press(*head.rect.center)
    runtime.release(*head.rect.center)
    runtime.advance(140)
    stage.playback.tick = lambda: None  # type: ignore[method-assign]  # the moment is to stay
    w.workspace.select(("notice-1",))
    stage.stop()
    stage.update()


def _map(w: MainWindow) -> None:
    w.workspace.open("fares")
    w.run_action("map")
    QTest.qWait(100)
    line = next(one for one in w.map.view.map.lines if one.end == "booking")
    w.map.view.look_at("fares", line)


def _overview(w: MainWindow) -> None:
    w.workspace.open("button")
    w.run_action("overview")
    _until(lambda: w.overview.view.measured_count >= len(w.workspace.document.components))


def _rules(w: MainWindow) -> None:
    w.workspace.open("button")
    QTest.qWait(_FONTS_MS)
    w.run_action("rules")


def _tokens(w: MainWindow) -> None:
    s = w.workspace
    s.edit("add", lambda d: tokens.add_mode(d, "dark"))
    for path, color in (("color.paper", "#12242C"), ("color.ink", "#EDF4F5")):
        token_commands.set_value(s, path, "dark", parse(color))
    w.run_action("tokens")


def _begin(w: MainWindow) -> None:
    w.workspace.edit("empty", lambda d: Document("Untitled"))
    w.workspace.open("")


def _drawing(w: MainWindow) -> None:
    """A part among others on a free screen, caught on two of them."""
    s = w.workspace
    library_commands.new_screen(s, DEVICES[3]._replace(width=420.0, height=320.0, name="Sketch"))
    style_commands.set_style(s, {"flow": "free"})
    for n, (x, y) in enumerate(((40.0, 40.0), (160.0, 40.0), (40.0, 150.0))):
        s.select(())
        create_commands.draw(s, "box", None, (90.0, 60.0), (x, y))
        style_commands.set_style(s, {"fill": parse(("#17495A", "#EDF4F5", "#B8452B")[n])})
    s.select(())
    create_commands.draw(s, "ellipse", None, (70.0, 60.0), (230.0, 190.0))
    QTest.qWait(_FONTS_MS)
    node = s.selection.path
    assert node is not None
    w.canvas.set_zoom(1.2)
    at = w.canvas.rect_of(node)
    assert at is not None
    none = Qt.KeyboardModifier.NoModifier
    QTest.mousePress(w.canvas, Qt.MouseButton.LeftButton, none, at.center().toPoint())
    for by in (QPointF(20, -20), QPointF(62, -46)):
        w.canvas.gestures.pointer = at.center() + by
        w.canvas.gestures.go_on(at.center() + by)


def _rested(w: MainWindow) -> None:
    """Waits until nothing is done beside the window."""
    QTest.qWait(50)
    while w.connector.jobs.busy:
        QTest.qWait(20)
    QTest.qWait(100)


def _colleagues(w: MainWindow) -> None:
    """The file has work of its own, and the colleagues published."""
    w.connector.first_look.stop()
    w.connector.look()
    _rested(w)
    w.library.tabs.choose("Team")
    w.workspace.open("chip")
    w.workspace.edit(
        "green", lambda d: set_properties(d, Place("chip", ()), {"fill": parse("#DDEBD9")})
    )
    w.run_action("colleagues")
    _rested(w)
    w.notice.hide()


def _news(w: MainWindow) -> None:
    _colleagues(w)
    w.run_action("take-in")
    _rested(w)
    w.team_bench.parts.setCurrentRow(2)
    w.team_bench.parts.item(1).setCheckState(Qt.CheckState.Unchecked)
    _rested(w)


def _clash(w: MainWindow) -> None:
    _colleagues(w)
    w.run_action("publish")
    _rested(w)
    QTest.keyClicks(w.team_bench.message, "Roomier chips")


def _history(w: MainWindow) -> None:
    _colleagues(w)
    w.workspace.open("notice")
    w.run_action("history")
    _rested(w)
    w.team_bench.parts.setCurrentRow(1)
    _rested(w)


def _hand_over(w: MainWindow) -> None:
    w.handing_over._jobs.stop()
    w.run_action("hand-over")
    while w.handing_over._jobs.busy:
        QTest.qWait(50)
    folder = Path(tempfile.gettempdir()) / "ferry-line"
    w.hand_over.list.setCurrentRow(7)
    w.hand_over.show_plan(str(folder), "90 files new.", False, False)


def _look_again(w: MainWindow) -> None:
    """The demo has been looked at; a few things go wrong again before somebody does."""
    w.workspace.open("button")
    QTest.qWait(_FONTS_MS)
    for place, values in (
        (Place("fare-card", ("about",)), {"color": parse("#9FB0B6")}),
        (Place("chip"), {"fill": parse("#17485B")}),
        (Place("boarding", ("wait",)), {"fill": parse("#F6F1E8")}),
    ):
        w.workspace.edit("x", lambda d, p=place, v=values: set_properties(d, p, v))
    w.run_action("look-again")
    _until(lambda: w.looking.share >= 1 and not w.looking.due)
    w.look_bench.choose("all")
    w.look_bench.list.setCurrentRow(1)


def _trials(w: MainWindow) -> None:
    w.workspace.open("fare-card")
    QTest.qWait(_FONTS_MS)
    w.run_action("trials")
    _until(lambda: w.trying.done)
    tiles = w.trials_bench.sheet.plan.tiles
    w.trials_bench.sheet.choose(next(tile for tile in tiles if tile.cell.new))
    QTest.qWait(100)


def _until(holds: Callable[[], bool]) -> None:
    for _ in range(600):
        if holds():
            return
        QTest.qWait(20)


TEAM = ("team-news", "team-clash-dark", "team-history")
"""Those that need a library: they are taken over the demo of `bin/demo`."""
PICTURES: dict[str, tuple[Scene, bool]] = {
    "component-bench": (_bench, False),
    "team-news": (_news, False),
    "team-clash-dark": (_clash, True),
    "screen-bench": (_screen, False),
    "grid-dark": (_grid, True),
    "rules": (_rules, False),
    "words": (_words, False),
    "hand-over": (_hand_over, False),
    "overview": (_overview, False),
    "look-again": (_look_again, False),
    "trials": (_trials, False),
    "gather": (_gather, False),
    "find-or-do": (_find, False),
    "hands": (_drawing, False),
    "cue-board": (_cues("notice", "notice-cue-1", 600), False),
    "live-expand": (_expand, False),
    "map": (_map, False),
    "tokens": (_tokens, False),
    "start": (_begin, False),
}


def _step(number: int) -> Scene:
    def show(w: MainWindow) -> None:
        QTest.qWait(_FONTS_MS)
        STEPS[number].run(w.workspace, w.run_action)
        w.workspace.refresh_panels()
        if number == 2:
            w.ledger.row("fill")._unfold()
        if number == 4:
            w.sheet_tabs.choose("Properties")
        if number == 7:
            w.cue_board.choose("toggle-cue-1")
        if number == 9:
            w.run_action("tokens")

    return show


def take(name: str, scene: Scene, dark: bool, target: Path, width: int = 0) -> None:
    """One picture, in a window of its own."""
    theme = DARK if dark else LIGHT
    install(application(theme), theme)
    desk = WindowManager(theme, colleagues=FerryTeam())
    # What is connected is a user's own: of nobody who takes pictures.
    with tempfile.TemporaryDirectory() as home, patch.dict(os.environ, XDG_DATA_HOME=home):
        path = demo_file(data_folder(), 1_790_000_000) if name in TEAM else DEMO
        _taken(name, scene, desk, path, target, width)


def _taken(
    name: str, scene: Scene, desk: WindowManager, path: Path, target: Path, width: int
) -> None:
    window = desk.open(path)
    window.resize(1280, 800)
    QTest.qWait(150)
    finish = scene(window)
    window.workspace.refresh_panels()
    QTest.qWait(400)
    window.workspace.refresh_panels()
    QTest.qWait(200)
    if callable(finish):
        finish()
        QTest.qWait(50)
    shown = window.grab()
    popup = getattr(window, "overlay", None)
    if window.finder.isVisible():
        popup = window.finder.grab(), window.mapFromGlobal(window.finder.pos())
        window.finder.hide()
    if popup is not None:
        painter = QPainter(shown)
        painter.drawPixmap(popup[1], popup[0])
        painter.end()
    if width:
        shown = shown.scaledToWidth(width, Qt.TransformationMode.SmoothTransformation)
    shown.save(str(target))
    sys.stdout.write(f"{name}\n")
    window.workspace._saved = window.workspace.document
    window.live.stage.stop()
    window.close()
    desk.system_fonts.stop()


def main(wanted: list[str]) -> None:
    held = application(LIGHT)  # until the last picture is taken
    for name, (scene, dark) in PICTURES.items():
        if not wanted or name in wanted:
            take(name, scene, dark, SHOTS / f"{name}.png")
    for number in range(len(STEPS)):
        name = f"{number + 1:02}"
        if not wanted or name in wanted or "guide" in wanted:
            take(name, _step(number), False, GUIDE.parent / f"{name}.png", _GUIDE_WIDTH)
    for name, scene in (
        ("team-news", _news),
        ("team-history", _history),
        ("hand-over", _hand_over),
        ("look-again", _look_again),
        ("trials", _trials),
    ):
        if not wanted or name in wanted or "guide" in wanted:
            take(name, scene, False, GUIDE.parent / f"{name}.png", _GUIDE_WIDTH)
    held.quit()


if __name__ == "__main__":
    main(sys.argv[1:])
