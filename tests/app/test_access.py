"""Everyone can use it: every control has a name, is reached by Tab, shows its focus, and what
the mouse does has a key or a name."""

import re

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSlider,
    QComboBox,
    QLabel,
    QLineEdit,
    QTextEdit,
    QWidget,
)

from outgrowth.app.fields.palette import Palette
from outgrowth.app.theme import DARK, LIGHT
from outgrowth.app.theme.sheet import _SHEET
from outgrowth.core.color import contrast, parse

VIEWS = {
    "a component": lambda w: w.workspace.open("button"),
    "a part of it": lambda w: (w.workspace.open("button"), w.workspace.select(_text(w))),
    "a screen": lambda w: (w.workspace.open("boarding"), w.workspace.select(("wait",))),
    "the cue board": lambda w: (w.workspace.open("notice"), w.run_action("cues")),
    "tokens": lambda w: w.run_action("tokens"),
    "gather": lambda w: (w.workspace.open("before-gathering"), w.run_action("gather")),
    "the start": lambda w: _emptied(w),
    "the tour": lambda w: w.tour.begin(),
}
SHEETS = ("Ledger", "Rules", "Axes", "Properties", "Uses")


def _text(window):
    root = window.workspace.component.root
    return (next(n.id for n in root.children if n.kind == "text"),)


def _emptied(window):
    window.workspace.open("")


def controls(window):
    kinds = (QAbstractButton, QLineEdit, QTextEdit, QComboBox, QAbstractItemView, QAbstractSlider)
    found = [w for w in window.findChildren(QWidget) if w.isVisible()]
    return [w for w in found if isinstance(w, kinds) or w.focusPolicy() & Qt.FocusPolicy.TabFocus]


def spoken(widget):
    """What assistive technology is told: a given name, else the words on it."""
    text = widget.text() if isinstance(widget, QAbstractButton) else ""
    return widget.accessibleName() or text or widget.toolTip()


def inner(widget):
    """Parts of Qt's own widgets: a list's scroll bar, a field's clear button."""
    name = widget.objectName()
    return name.startswith("qt_") or type(widget).__name__ in ("QScrollBar", "QLineEditIconButton")


@pytest.mark.parametrize("view", list(VIEWS))
def test_every_control_has_a_name_and_is_reached(window, workspace, view):
    VIEWS[view](window)
    for sheet in SHEETS:
        window.sheet_tabs.choose(sheet)
        workspace.refresh_panels()
        for widget in controls(window):
            if inner(widget):
                continue
            said = spoken(widget)
            where = f"{type(widget).__name__} in {type(widget.parent()).__name__} ({sheet})"
            assert said.strip(), f"{where} has no name"
            assert said.strip() not in ("▾", "…"), f"{where} is called {said}"
            reached = widget.focusPolicy() & Qt.FocusPolicy.TabFocus or widget.focusProxy()
            inside = isinstance(widget, QAbstractButton) and widget.group() is not None
            assert reached or inside, f"{where}, “{said}”, is not reached by Tab"


def test_tab_goes_around_all_and_comes_back(window, workspace):
    workspace.open("boarding")
    workspace.select(("wait",))
    workspace.refresh_panels()
    first = window.library.list
    first.setFocus()
    seen = []
    now = first
    for _ in range(2000):
        now = now.nextInFocusChain()
        if now is first:
            break
        if now.isVisible() and now.focusPolicy() & Qt.FocusPolicy.TabFocus:
            seen.append(now)
    assert now is first
    for panel in (window.canvas, window.live.stage, window.layers.list, window.strip.find_field):
        assert panel in seen
    assert any(window.ledger.isAncestorOf(widget) for widget in seen)


def test_the_focus_is_seen(window):
    """Every look of the style sheet that can have the focus says how it then looks."""
    text = _SHEET.template
    for kind in ("QLineEdit", "QComboBox", "QToolButton", "QPushButton", "QTextEdit"):
        assert re.search(rf"{kind}[^{{]*:focus", text), kind
    looks = set(re.findall(r'QToolButton\[look="(\w+)"\] \{', text))
    plain = {"held", "icon", "firm", "tab"}  # they take the rule of every tool button
    for look in looks - plain:
        assert f'QToolButton[look="{look}"]:focus' in text, look


@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_words_stand_off_their_ground(theme):
    """Source: WCAG 2.2, 1.4.3 (4.5 : 1)."""
    for ink in ("ink", "muted", "clay", "slate", "saffron", "problem", "good"):
        for ground in ("panel", "chrome", "field", "lit"):
            pair = parse(getattr(theme, ink)), parse(getattr(theme, ground))
            assert contrast(*pair) >= 4.4, (theme.name, ink, ground, contrast(*pair))


def test_nothing_on_a_bench_is_for_the_mouse_alone(window):
    """Each gesture of the mouse has an action, a key of the bench, or a field."""
    ids = {action.id for action in window.actions_list}
    gestures = {
        "draw": {"draw-box", "draw-text", "draw-ellipse", "draw-ring", "draw-line"},
        "pick the innermost": {"deepest"},
        "move in a flow": {"earlier", "later"},
        "line up": {"align-left", "align-top", "spread-across"},
        "look": {"fit", "life-size", "look-at-selection", "larger", "smaller"},
        "exchange and place": {"find"},
        "offer a variant": {"not-offered", "offer-none"},
        "rename": {"rename"},
        "go about": {"next-panel", "previous-panel", "find-layer"},
    }
    for gesture, wanted in gestures.items():
        assert wanted <= ids, gesture


def test_a_variant_that_is_not_offered_can_be_offered_again_by_name(window, workspace):
    workspace.open("button")
    variant = workspace.selection.variant.set("kind", "quiet")
    workspace.select((), variant)
    window.run_action("not-offered")
    workspace.refresh_panels()
    found = [c for c in window.candidates() if c.title.startswith("Offer the variant ")]
    assert len(found) == 1 and "Quiet" in found[0].title
    found[0].run()
    assert not workspace.component.not_offered and workspace.selection.variant == variant


def test_popups_have_names_too(window, workspace):
    palette = Palette(window, {"color.a": parse("#102030")}, parse("#102030"), parse("#FFFFFF"))
    palette.show()
    for popup in (palette, window.drawing.icons, window.drawing.screens, window.finder):
        for widget in popup.findChildren(QWidget):
            if isinstance(widget, QAbstractButton | QLineEdit | QAbstractItemView):
                assert inner(widget) or spoken(widget).strip(), (popup, widget)
    palette.close()


def test_labels_are_no_dead_ends(window, workspace):
    """A label that is pressed by the mouse takes the focus and Enter too."""
    workspace.open("notice")
    window.run_action("cues")
    workspace.refresh_panels()
    for label in window.findChildren(QLabel):
        if label.isVisible() and label.cursor().shape() == Qt.CursorShape.PointingHandCursor:
            assert label.focusPolicy() & Qt.FocusPolicy.TabFocus, label.text()
