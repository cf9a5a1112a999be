"""Choices of an arrangement are drawn as the engine would stand three children."""

import pytest
from PyQt6.QtCore import QRectF

from outgrowth.app.fields.arrangement import DRAWN, HIGH, WIDE, bars
from outgrowth.app.fields.choice import DropDown
from outgrowth.core.document.properties import TABLE

CHOICES = [(name, option) for name in sorted(DRAWN) for option in TABLE[name].type.options]


@pytest.mark.parametrize(("name", "option"), CHOICES)
@pytest.mark.parametrize("column", [False, True])
def test_what_is_drawn_lies_in_its_box_and_on_nothing_else(name, option, column):
    drawn = bars(name, option, column)
    room = QRectF(0, 0, WIDE, HIGH)
    assert 3 <= len(drawn) <= 4
    assert all(room.contains(bar) for bar in drawn)
    for n, bar in enumerate(drawn):
        assert all(not bar.intersects(other) for other in drawn[n + 1 :])


@pytest.mark.parametrize("name", ["flow", "justify", "align", "align-content"])
@pytest.mark.parametrize("column", [False, True])
def test_no_two_choices_look_the_same(name, column):
    options = TABLE[name].type.options
    looks = {tuple(map(repr, bars(name, option, column))) for option in options}
    assert len(looks) == len(options)


def test_the_ledger_draws_them(window, workspace):
    workspace.open("button")
    workspace.select(())
    workspace.refresh_panels()
    row = window.ledger.rows["justify"]
    field = row.findChildren(DropDown)[0]
    icons = [field.itemIcon(n) for n in range(field.count())]
    assert all(not icon.isNull() for icon in icons)
