"""Ten jobs in the order of the work on a fresh file, by mouse and key, each press counted: letters,
chords, presses and pulls count one. The figures stand in docs/measured.md beside those of before.
"""

import pytest
from immutables import Map
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QApplication

from outgrowth.app.dialogs.rename import RenameDialog

from .user import ALT, CTRL, User

K = Qt.Key
SIDES = ("top", "right", "bottom", "left")


class Designer(User):
    """A user with the few moves that the jobs are made of."""

    def named(self, name):
        return next(o for o in self.workspace.document.owners() if o.short_name == name)

    def four(self, name, text):
        line = self.window.ledger.row(name).editor.widget.line
        self.window.ledger.ensureWidgetVisible(line)
        self.press(line)
        line.selectAll()
        self.type(text)

    def fill(self, color):
        swatch = self.window.ledger.row("fill").editor.widget.swatch
        self.window.ledger.ensureWidgetVisible(swatch)
        self.press(swatch)
        self.press(QApplication.activePopupWidget().used[color])

    def listed(self, name):
        library = self.window.library
        if not library.tabs.tabs["Parts"].isChecked():
            self.press(library.tabs.tabs["Parts"])
        row = next(n for n, entry in enumerate(library.model.entries) if entry.name == name)
        index = library.model.index(row)
        library.list.scrollTo(index)
        self.press(library.list.viewport(), library.list.visualRect(index).center())

    def picked(self, *path):
        grid = self.window.grid
        self.press(grid, grid.rect_of(self.workspace.selection.variant, path).center())


def draw_a_part(user):
    """Words, padding, corners, a fill, a name."""
    user.key(K.Key_C, ALT)
    user.wait(60)
    user.type("Ticket", enter=False)  # it is named where it stands
    user.key(K.Key_T, ALT)
    user.type("Book", enter=False)
    user.key(K.Key_Escape)
    user.key(K.Key_Escape)
    user.four("padding-top", "10 16")
    user.four("radius-top-left", "8")
    user.fill("#17252B")
    style = user.named("Ticket").root.style
    assert [style[f"padding-{side}"] for side in SIDES] == [10, 16, 10, 16]
    assert style["radius-bottom-left"] == 8


def place_and_copy(user):
    """Two on a screen; the copy says something else."""
    canvas = user.window.canvas
    user.key(K.Key_S, ALT)
    user.key(K.Key_Return)
    user.wait(60)
    user.drop("Ticket", canvas, canvas.rect_of(()).center())
    user.wait(60)
    (first,) = user.workspace.screen.root.children
    at = canvas.rect_of((first.id,)).center()
    canvas.copy_wanted = lambda: True
    user.pull(canvas, at, at + QPointF(0, 60))
    del canvas.copy_wanted
    copy = user.workspace.screen.root.children[1]
    words = user.named("Ticket").root.children[0].id
    user.press(canvas, canvas.rect_of_path((copy.id, words)).center(), double=True)
    user.type("Pay")
    assert user.workspace.selection.path == (copy.id,)


def try_and_take_back(user):
    """Four paddings on one, and Ctrl+Z from the field."""
    user.four("padding-top", "4 8")
    assert "padding-left" in user.workspace.screen.root.children[1].style
    user.key(K.Key_Z, CTRL)
    assert "padding-left" not in user.workspace.screen.root.children[1].style


def give_an_axis(user):
    """A quiet kind: padding, a line, a fill."""
    user.listed("Ticket")
    user.key(K.Key_A, ALT)
    user.key(K.Key_Return)
    user.wait(60)
    user.four("padding-top", "6 12")
    user.four("stroke-top", "2")
    user.fill("#FFFFFF")
    assert len(user.named("Ticket").rules) == 9


def open_the_words(user):
    """They are called Label at once."""
    (words,) = user.named("Ticket").root.children
    user.picked(words.id)
    user.key(K.Key_W, ALT)
    assert [prop.name for prop in user.named("Ticket").properties] == ["Label"]


def nest_and_exchange(user):
    """A card that holds it, exchanged; all are called by what they are."""
    grid = user.window.grid
    user.key(K.Key_C, ALT)
    user.wait(60)
    user.type("Stub", enter=False)
    user.key(K.Key_T, ALT)
    user.type("Stub", enter=False)
    user.key(K.Key_Escape)
    user.key(K.Key_C, ALT)
    user.wait(60)
    user.type("Card")
    for name in ("Ticket", "Stub"):
        held = user.named("Card").root.children
        path = (held[0].id,) if held else ()
        user.drop(name, grid, grid.rect_of(user.workspace.selection.variant, path).center())
    (held,) = user.named("Card").root.children
    assert (held.style["component"], held.name) == (user.named("Stub").id, "stub")


def make_it_elastic(user):
    """It grows with its card, which keeps 12 around."""
    (held,) = user.named("Card").root.children
    user.picked(held.id)
    modes = user.window.ledger.row("width").editor.widget.modes
    user.window.ledger.ensureWidgetVisible(modes)
    user.press(modes.button("grow"))
    user.key(K.Key_Escape)
    user.window.grid.setFocus()
    user.key(K.Key_Escape)
    user.four("padding-top", "12")
    assert user.named("Card").root.style["padding-left"] == 12


def give_states(user):
    """Hover and press, rounder under the pointer."""
    user.listed("Ticket")
    user.key(K.Key_G, ALT)
    user.wait(60)
    axes = user.named("Ticket").axes
    hover = Map({a.id: "hover" if a.driver == "pointer" else a.default for a in axes})
    user.press(user.window.grid, user.window.grid.rect_of(hover, ()).center())
    user.key(K.Key_Escape)
    user.four("radius-top-left", "12")
    assert any(rule.value == 12 for rule in user.named("Ticket").rules)


def file_them(user):
    """All under Booking, by one pattern."""
    user.find("file several")
    asked = next(w for w in user.window.findChildren(RenameDialog) if w.isVisible())
    asked.becomes.setFocus()
    user.type("Booking/*")
    assert all(c.name.startswith("Booking/") for c in user.workspace.document.in_order())
    user.window.activateWindow()
    for _ in range(100):  # a window system that is late gives the keys back a moment later
        if user.window.isActiveWindow():
            break
        user.wait(20)


def hand_it_over(user):
    """The file has a name, and its elements its letters."""
    user.find("name the file")
    user.type("Skerry Nights")
    user.key(K.Key_O, ALT)
    prefix = user.window.hand_over.prefix
    for _ in range(100):
        if prefix.placeholderText():
            break
        user.wait(50)
    assert prefix.placeholderText() == "sn", (user.workspace.document.name, user.done[-20:])


JOBS = {
    draw_a_part: 26, place_and_copy: 9, try_and_take_back: 6, give_an_axis: 15, open_the_words: 2,
    nest_and_exchange: 19, make_it_elastic: 8, give_states: 9, file_them: 24, hand_it_over: 30,
}  # fmt: skip
"""Each job, and the most presses that it may take."""


def test_ten_jobs_take_no_more_presses_than_they_did(desk, qtbot):
    window = desk.new()
    qtbot.addWidget(window, before_close_func=_forget)
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    user = Designer(window)
    for job, most in JOBS.items():
        before = len(user.done)
        job(user)
        count = len(user.done) - before
        assert count <= most, (job.__name__, count, user.done[before:])


def _forget(window):
    """Closing asks about unsaved work; a test has none that matters."""
    window.workspace._saved = window.workspace.document


@pytest.fixture(autouse=True)
def _no_dialog_stays(desk):
    yield
    for window in desk.windows:
        for dialog in window.findChildren(RenameDialog):
            dialog.reject()
