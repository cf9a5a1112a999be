"""Which bench is in the middle of a window, how large things are on it, and which panel has the
keys."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication

from outgrowth.app.bench_rows import BenchRow
from outgrowth.app.benches.bench import Bench
from outgrowth.app.benches.canvas import Canvas
from outgrowth.app.benches.grid_bench import GridBench
from outgrowth.app.window_frame import WindowFrame

# Of the grid of variants: below, nothing can be told apart; above, no cell fits a window.
_LEAST_ZOOM, _MOST_ZOOM = 0.25, 8.0


class BenchView:
    """Turns the eye of one window; the frame holds what is seen."""

    def __init__(self, frame: WindowFrame) -> None:
        self._frame = frame
        self._workspace = frame.workspace
        self._row: BenchRow | None = None
        self._followed: object = None

    @property
    def surface(self) -> Bench:
        """The bench that is worked at: a screen's or a component's."""
        return self._frame.canvas if self._workspace.screen is not None else self._frame.grid

    @property
    def _bench(self) -> Canvas | GridBench:
        """The same with what frames it: what stands in the middle."""
        return self._frame.canvas if self._workspace.screen is not None else self._frame.grid_bench

    def show_bench(self) -> None:
        """Puts the bench of what is worked at in the middle: with nothing, ways to begin."""
        self._frame.gathering.halt()
        if self._workspace.owner is None:
            self.show("start")
        else:
            self.show("canvas" if self._workspace.screen is not None else "grid")
            self._frame.status.show_zoom(self.surface.zoom)

    @property
    def is_behind(self) -> bool:
        """Whether what is worked at is out of sight, behind a bench that has all the room."""
        return self._row is not None and self._row.alone

    def follow_selection(self) -> None:
        """Turns to the bench of what is worked at; another reach or variant of the same part
        leaves the bench beside the work where it is."""
        selection = self._workspace.selection
        before, self._followed = self._followed, (selection.owner, selection.path)
        is_beside = self._row is not None and not self._row.edits
        if not is_beside or before != self._followed:
            self.show_bench()

    def show(self, name: str) -> None:
        """Puts a bench of the table in the middle, and lets it begin."""
        row = self._frame.benches[name]
        selection = self._workspace.selection
        self._followed = selection.owner, selection.path
        self._make_room(row)
        self._frame.bench_stack.setCurrentWidget(row.widget)
        row.begin()

    def _make_room(self, row: BenchRow) -> None:
        """Puts out of sight what a bench has no use for, for as long as it is there."""
        self._row = row
        if row.edits:
            idle: tuple[str, ...] = ()
        elif row.alone:
            idle = ("Library", "Layers", "Live", "Sheets")
        else:
            idle = ("Layers", "Live") if self._frame.live_is_beside else ("Layers",)
        self._frame.folding.set_idle(idle)
        self._frame.reach_bar.setVisible(row.edits)

    def next_panel(self, by: int) -> None:
        """Takes the focus to the next panel, or the one before."""
        shown = self._frame.bench_stack.currentWidget()
        panels = (
            self._frame.library.list,
            self._frame.layers.list,
            self.surface if shown is self._bench or shown is None else shown,
            self._frame.live.stage,
            self._frame.ledger.first_field() or self._frame.sheet_tabs.tabs["Ledger"],
        )
        visible = [panel for panel in panels if panel.isVisible()]
        focused = QApplication.focusWidget()
        inside = [
            n
            for n, panel in enumerate(visible)
            if focused is not None and (panel is focused or panel.isAncestorOf(focused))
        ]
        last = (
            len(visible) - 1
            if focused is not None and self._frame.ledger.isAncestorOf(focused)
            else -1
        )
        index = inside[0] if inside else last
        visible[(index + by) % len(visible)].setFocus(Qt.FocusReason.TabFocusReason)

    def take_focus(self) -> None:
        """The keys go to what is in the middle."""
        shown = self._frame.bench_stack.currentWidget()
        (self.surface if shown is self._bench else shown or self.surface).setFocus()

    def put_panels_away(self) -> None:
        """All panels out of sight, or back."""
        self._frame.folding.toggle_all()

    def fold_panel(self, name: str) -> None:
        """One panel out of sight, or back."""
        self._frame.folding.toggle(name)

    def move_live(self) -> None:
        """Live beside the bench, or back above the sheets; it comes into sight."""
        self._frame.folding.set_away([n for n in self._frame.folding.away if n != "Live"])
        self._frame.place_live(not self._frame.live_is_beside)
        if self._row is not None:
            self._make_room(self._row)

    def ask_axis(self) -> None:
        """Asks for an axis in one line, in the sheet of the axes; once it is made, the sheet that
        was in sight is there again."""
        tabs = self._frame.sheet_tabs
        before = tabs.current
        tabs.choose("Axes")
        self._frame.axes.ask(lambda: tabs.choose(before))

    def name_part(self, made: str = "") -> None:
        """Asks for the name of the selected part where it stands, or of the component that was
        `made` of it."""
        if self._frame.bench_stack.currentWidget() is self._bench:
            self.surface.name_part(made)

    def edit_words(self) -> None:
        """Edits the selected text where it stands."""
        self.surface.edit_words()

    def pick_deepest(self) -> None:
        """Selects the innermost part under the pointer."""
        self.surface.pick_deepest()

    # --- the eye ------------------------------------------------------------------------

    def fit(self) -> None:
        """The whole of what is on the bench, as large as it fits."""
        if self._map_is_shown:
            self._frame.map.view.fit()
        else:
            self._bench.fit()

    @property
    def _map_is_shown(self) -> bool:
        return self._frame.bench_stack.currentWidget() is self._frame.map

    def zoom(self, factor: float) -> None:
        """Closer by a factor above 1, farther by one below."""
        if self._map_is_shown:
            self._frame.map.view.set_zoom(self._frame.map.view.zoom * factor)
        else:
            self._set_zoom(self.surface.zoom * factor)

    def life_size(self) -> None:
        """One px of the part is one px of the display."""
        self._set_zoom(1.0)

    def _set_zoom(self, zoom: float) -> None:
        if self._workspace.screen is not None:
            self._frame.canvas.set_zoom(zoom)
        else:
            zoom = min(max(zoom, _LEAST_ZOOM), _MOST_ZOOM)
            self._frame.grid.set_zoom(zoom)
            self._frame.status.show_zoom(zoom)

    def look_at_selection(self) -> None:
        """The selection as large as it fits."""
        if self._workspace.owner is not None:
            self._bench.look_at_selection()
