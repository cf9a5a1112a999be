"""Typefaces are listed each in itself, by the engine's own letters."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication

from outgrowth.app.fields.choice import DropDown
from outgrowth.core.color import parse
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.views.face_sample import face_sample

INK = parse("#2A241E")


def test_each_name_is_written_in_its_own_letters(fonts):
    engine = Engine(fonts)
    widths = {name: face_sample(engine, name, INK).bounds.width for name in fonts.families}
    assert len(widths) >= 2 and all(width > 0 for width in widths.values())
    one, other = list(fonts.families)[:2]
    assert face_sample(engine, one, INK) != face_sample(engine, other, INK)


def test_the_list_of_the_ledger_is_drawn(window, workspace, qtbot):
    workspace.open("fare-card")
    workspace.select(("about",))
    workspace.refresh_panels()
    QApplication.processEvents()
    field = window.ledger.rows["font-family"].findChildren(DropDown)[0]
    field.showPopup()
    QApplication.processEvents()
    shown = field.view().grab().toImage()
    colors = {shown.pixel(x, y) for x in range(0, shown.width(), 2) for y in range(shown.height())}
    field.hidePopup()
    assert len(colors) > 8, "letters with soft edges"
    assert field.view().model().index(0, 0).data(Qt.ItemDataRole.DisplayRole)
