"""What a component is for and how it is used: typed where its uses stand, shown everywhere."""

import json

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from outgrowth.app.fields.words import WordsField
from outgrowth.core.exchange.web.files import hand_over


def fields(window):
    return {f.accessibleName(): f for f in window.uses.findChildren(WordsField)}


def type_into(window, name, text):
    field = fields(window)[name]
    field.setFocus()
    field.selectAll()
    if text:
        QTest.keyClicks(field, text)
    else:
        QTest.keyClick(field, Qt.Key.Key_Delete)
    QTest.keyClick(field, Qt.Key.Key_Return)
    window.workspace.refresh_panels()


def test_said_taken_away_and_undone(window):
    workspace = window.workspace
    workspace.open("search-form")
    window.sheet_tabs.choose("Uses")
    window.uses.write_advice(workspace.component)
    before = workspace.document
    type_into(window, "What it is for", "Days and filters")
    type_into(window, "Do, 1", "One line of them")
    type_into(window, "Do, 2", "Short words")
    type_into(window, "Don't, 1", "No more than seven")
    form = workspace.document.components["search-form"]
    assert form.description == "Days and filters"
    assert (form.dos, form.donts) == (("One line of them", "Short words"), ("No more than seven",))
    type_into(window, "Do, 1", "")
    assert workspace.document.components["search-form"].dos == ("Short words",)
    for _ in range(5):
        workspace.undo()
    assert workspace.document is before


def test_the_library_and_the_hand_over_show_it(window):
    workspace = window.workspace
    workspace.open("search-form")
    window.sheet_tabs.choose("Uses")
    window.uses.write_advice(workspace.component)
    type_into(window, "What it is for", "Days & filters */ <b>")
    type_into(window, "Don't, 1", "No more than seven")
    model = window.library.list.model()
    rows = {model.index(n).data(): model.index(n) for n in range(model.rowCount())}
    tip = rows["Search form"].data(Qt.ItemDataRole.ToolTipRole)
    assert tip == "Days & filters */ <b>\nDon't: No more than seven"
    made = hand_over(workspace.document, workspace.engine.layout)
    page = made.files["index.html"].decode()
    assert (
        "<p>Days &amp; filters */ &lt;b&gt;</p>" in page and "<li>No more than seven</li>" in page
    )
    manifest = json.loads(made.files["custom-elements.json"])
    described = [
        d.get("description") for m in manifest["modules"] for d in m.get("declarations", [])
    ]
    assert tip in described
    (module,) = [
        text.decode() for name, text in made.files.items() if name.endswith("search-form.js")
    ]
    assert module.startswith("/* Days & filters * / <b> */\n/* Don't: No more than seven */\n")
