"""What is dropped, pasted or chosen from outside, by the window's own hands."""

import shutil

from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent, QImage
from PyQt6.QtWidgets import QApplication, QFileDialog

from outgrowth.app.system_fonts import SystemFonts
from outgrowth.core.document.records import find, walk
from outgrowth.core.document.values import words
from outgrowth.core.edits.tree.nodes import add_node, new_node, remove_node
from outgrowth.core.text.fonts import FontBook, shipped
from outgrowth.resources import FONTS, PICTURES
from outgrowth.workspace import measures
from outgrowth.workspace.commands import imports

PLACE = QPointF(3, 3)


def drop(canvas, path, point, *more):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(p)) for p in (path, *more)])
    copy, left = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    event = QDropEvent(point, copy, data, left, Qt.KeyboardModifier.NoModifier)
    canvas.dropEvent(event)


def test_a_dropped_picture_is_placed_where_it_fell_and_undone(window, workspace, hand):
    workspace.open("fares")
    canvas = window.canvas
    drop(canvas, PICTURES / "skerry.png", canvas.rect_of(()).center())
    node = find(workspace.screen.root, workspace.selection.path[0])
    assert (node.kind, node.name) == ("image", "skerry")
    at = measures.located(workspace)
    assert at.rect.width / at.rect.height == 520 / 320
    hand.row("fit").edited.emit("contain")
    assert node.style.get("fit") is None
    assert find(workspace.screen.root, node.id).style["fit"] == "contain"
    workspace.undo()
    workspace.undo()
    assert find(workspace.screen.root, node.id) is None


def test_a_picture_is_exchanged_where_it_is_shown(window, workspace, hand, monkeypatch):
    hand.entry("Island panel")
    hand.part("view")
    chosen = str(PICTURES / "north-light.png"), ""
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: chosen)
    before = workspace.document
    hand.click(hand.row("picture").button)
    assert workspace.undo_name.startswith("show north-light.png")
    assert workspace.document is not before
    panel = workspace.component
    assert find(panel.root, "view").style["picture"] != find(
        before.components[panel.id].root, "view"
    ).style.get("picture")


def test_a_picture_on_the_clipboard_is_pasted(window, workspace, hand):
    workspace.open("fares")
    image = QImage(12, 8, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.darkCyan)
    QApplication.clipboard().setImage(image)
    window.run_action("paste")
    assert measures.located(workspace).rect.width == 12
    QApplication.clipboard().clear()


def test_what_cannot_be_placed_is_said(window, workspace, hand, tmp_path):
    said = []
    workspace.failed.connect(said.append)
    workspace.open("fares")
    before = workspace.document
    for name, data in (("notes.txt", b"hello"), ("cut.png", b"\x89PNG\r\n"), ("no.ttf", b"no")):
        (tmp_path / name).write_bytes(data)
        drop(window.canvas, tmp_path / name, window.canvas.rect_of(()).center())
    assert len(said) == 3
    assert all(sentence.endswith(".") for sentence in said)
    assert workspace.document is before


def large_drawing(folder, name, squares=1_500):
    """A drawing that is read beside the window."""
    squares = "".join(
        f'<rect x="{n % 50}" y="{n // 50}" width="1" height="1" fill="#123456"/>'
        for n in range(squares)
    )
    path = folder / name
    path.write_text(f'<svg viewBox="0 0 50 50">{squares}</svg>')
    assert path.stat().st_size > 50_000
    return path


def children(workspace, owner="fares"):
    return [node.name for node in workspace.document.owner(owner).root.children]


def test_what_is_large_is_read_beside_the_window(window, workspace, hand, qtbot, tmp_path):
    """It lands where it was dropped, whatever is opened meanwhile; several keep their order."""
    workspace.open("fares")
    canvas = window.canvas
    before = children(workspace)
    said = []
    workspace.failed.connect(said.append)
    drawing = large_drawing(tmp_path, "skyline.svg")
    (tmp_path / "cut.png").write_bytes(b"\x89PNG\r\n")
    point = canvas.rect_of(()).center()
    drop(canvas, drawing, point, tmp_path / "cut.png", PICTURES / "skerry.png")
    assert children(workspace) == before
    qtbot.waitUntil(lambda: "skyline.svg and 2 more" in window.notice.message.text())
    workspace.open("help")
    qtbot.waitUntil(lambda: len(children(workspace)) == len(before) + 2, timeout=120_000)
    new = [name for name in children(workspace) if name not in before]
    assert new == ["skyline", "skerry"]
    assert workspace.owner.id == "help" and workspace.selection.path is None
    assert any("cut.png" in sentence for sentence in said)
    qtbot.waitUntil(window.notice.isHidden)
    workspace.undo()
    assert "skyline" in children(workspace) and "skerry" not in children(workspace)


def test_reading_is_stopped_and_nothing_comes(window, workspace, hand, qtbot, tmp_path):
    workspace.open("fares")
    before = workspace.document
    drop(window.canvas, large_drawing(tmp_path, "skyline.svg"), window.canvas.rect_of(()).center())
    qtbot.waitUntil(window.notice.isVisible)
    window.notice.choices[0].click()
    qtbot.waitUntil(lambda: not window.reading.busy, timeout=120_000)
    qtbot.wait(50)
    assert workspace.document is before and window.notice.isHidden()


def test_where_it_was_to_go_is_gone_when_it_was_read(window, workspace, hand, qtbot, tmp_path):
    workspace.open("fares")
    box = next(n for n in walk(workspace.owner.root) if n.kind == "box" and n.id != "fares")
    workspace.select((box.id,))
    said = []
    workspace.failed.connect(said.append)
    imports.bring(workspace, [large_drawing(tmp_path, "skyline.svg")])
    workspace.edit("remove", lambda document: remove_node(document, "fares", box.id))
    before = workspace.document
    qtbot.waitUntil(lambda: bool(said), timeout=120_000)
    assert said == ["That part is no longer in “Fares”."]
    assert workspace.document is before


def test_a_missing_typeface_is_reported_and_comes_back(window, workspace, hand, tmp_path, qtbot):
    engine = workspace.engine
    sources = [s for s in shipped(FONTS)._sources if "Hebrew" not in s.described.family]
    engine._shipped = FontBook(sources, ("Figtree",))
    engine._refresh()
    sign = new_node(
        "sign", "sign", "text", {"content": words("שלום"), "font-family": "Noto Sans Hebrew"}
    )
    workspace.edit("add", lambda d: add_node(d, "fares", "fares", sign))
    workspace.refresh_panels()
    assert "Noto Sans Hebrew" in window.status.warning.text()
    window.live.still.click()
    shutil.copy(FONTS / "NotoSansHebrew_400Regular.ttf", tmp_path)
    system_fonts = SystemFonts([tmp_path])
    system_fonts.fonts_found.connect(workspace.install_fonts)
    with qtbot.waitSignal(workspace.panels_due, timeout=8000):
        system_fonts.look_later()
    system_fonts.stop()
    assert window.status.warning.text() == ""
    assert not engine.fonts.missing("Noto Sans Hebrew")
    assert window.live.stage.playback.runtime.layout is engine.layout
    assert window.live.stage.playback.runtime.reduced_motion, "what was chosen in Live stays chosen"


def test_a_font_goes_into_the_file(window, workspace, hand, monkeypatch):
    chosen = str(FONTS / "NotoSansHebrew_400Regular.ttf"), ""
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: chosen)
    window.run_action("carry-font")
    assert workspace.undo_name == "carry the font Noto Sans Hebrew"
    assert [a.media for a in workspace.document.assets.values()].count("font/ttf") == 1


def test_a_font_that_leaves_the_file_sets_its_words_no_more(window, workspace, monkeypatch):
    engine = workspace.engine
    sources = [s for s in shipped(FONTS)._sources if "Hebrew" not in s.described.family]
    engine._shipped = FontBook(sources, ("Figtree",))
    engine._refresh()
    before = engine.layout
    chosen = str(FONTS / "NotoSansHebrew_400Regular.ttf"), ""
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: chosen)
    window.run_action("carry-font")
    assert not engine.fonts.missing("Noto Sans Hebrew")
    assert engine.layout is before, "nothing asked for it: only more to choose from"
    window.run_action("undo")
    assert engine.fonts.missing("Noto Sans Hebrew")
    assert engine.layout is not before, "what was set in it is set anew"


def test_fonts_that_are_found_let_somebody_who_types_finish_first(window, qtbot, tmp_path, stays):
    found = []
    system_fonts = SystemFonts([tmp_path])
    system_fonts.fonts_found.connect(found.append)
    search = window.layers.search
    search.setFocus()
    qtbot.waitUntil(lambda: QApplication.focusWidget() is search)
    system_fonts._look()
    stays(lambda: found == [], 400)
    window.canvas.setFocus()
    window.grid.setFocus()
    qtbot.waitUntil(lambda: found == [[]])
    system_fonts.stop()
