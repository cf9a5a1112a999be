"""A colour from anywhere on the desktop, and what happens where there is no such thing."""

import shutil

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from outgrowth.app.fields.desktop_color import NoDesktopColor, desktop_color
from outgrowth.app.fields.palette import Pipette
from outgrowth.core.color import Color, parse
from outgrowth.core.team.store import Cancelled
from tests.app.desktop import Portal, message_bus_of_its_own

needs_bus = pytest.mark.skipif(shutil.which("dbus-daemon") is None, reason="no dbus-daemon here")
SEA = (0, {"color": ("(ddd)", (0.25, 0.5, 1.5))})


@pytest.fixture
def desktop(monkeypatch):
    portals = []
    with message_bus_of_its_own() as address:
        monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", address)

        def with_portal(*answers):
            portals.append(Portal(address, answers))

        yield with_portal
        for portal in portals:
            portal.close()


@needs_bus
def test_the_desktop_gives_a_colour_within_what_can_be_shown(desktop):
    desktop(SEA)
    assert desktop_color(lambda _: None) == Color(0.25, 0.5, 1.0)


@needs_bus
@pytest.mark.parametrize(
    ("answer", "problem"),
    [
        ((1, {}), Cancelled),
        ((2, {}), NoDesktopColor),
        ((0, {}), NoDesktopColor),
        ((0, {"color": ("s", "blue")}), NoDesktopColor),
    ],
)
def test_other_answers_give_none(desktop, answer, problem):
    desktop(answer)
    with pytest.raises(problem):
        desktop_color(lambda _: None)


@needs_bus
def test_a_desktop_without_a_portal_says_so(desktop):
    with pytest.raises(NoDesktopColor):
        desktop_color(lambda _: None)


@pytest.mark.parametrize("address", ["", "unix:path=/nowhere/at/all", "nonsense", "tcp:host=x"])
def test_no_message_bus_is_no_colour(monkeypatch, address):
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", address)
    with pytest.raises(NoDesktopColor):
        desktop_color(lambda _: None)


@pytest.fixture
def fill(window):
    window.workspace.open("button")
    window.workspace.refresh_panels()
    return window.ledger.row("fill").editor.widget


@needs_bus
def test_the_palette_of_the_ledger_takes_it(window, fill, qtbot, desktop):
    desktop(SEA)
    fill.open_palette().pipette.click()
    qtbot.waitUntil(lambda: window.workspace.unsaved, timeout=5000)
    root = window.workspace.owner.root
    assert root.style["fill"].hex == Color(0.25, 0.5, 1.0).hex
    assert not window.findChildren(Pipette)


def test_without_a_desktop_the_window_takes_its_own(window, fill, qtbot, monkeypatch):
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", "")
    fill.open_palette().pipette.click()
    qtbot.waitUntil(lambda: bool(window.findChildren(Pipette)), timeout=5000)
    QTest.mouseClick(window.library, Qt.MouseButton.LeftButton, pos=QPoint(3, 3))
    assert window.workspace.owner.root.style["fill"] == parse("#FAF6EE")
