"""Our own review finds nothing to see to in our own window: words can be read, targets be hit,
and whatever is pressed has a name."""

import pytest
from PyQt6.QtTest import QTest

from outgrowth.app.theme import DARK, LIGHT
from tools.own_window import VIEWS, reviewed


@pytest.mark.parametrize("theme", [LIGHT, DARK], ids=lambda theme: theme.name)
@pytest.mark.parametrize("view", VIEWS)
def test_our_own_review_is_content_with_our_own_window(window, workspace, view, theme):
    window.resize(1280, 800)
    workspace.open("button")
    window.set_theme(theme)
    window.view.show(view)
    QTest.qWait(150)
    workspace.refresh_panels()
    QTest.qWait(150)
    try:
        told = [f"{f.kind}: {f.text}" for f in reviewed(window, view) if f.sure != "maybe"]
    finally:
        window.set_theme(LIGHT)
    assert told == []


def test_it_would_find_what_is_hard_to_read(window, workspace):
    window.resize(1280, 800)
    workspace.open("button")
    window.status.used.setStyleSheet("color: #C9BDAB")
    window.status.used.setText("32 instances")
    QTest.qWait(200)
    assert any(f.kind == "words-contrast" for f in reviewed(window, "grid"))
