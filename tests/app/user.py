"""A user at the window: real mouse and key events, each one counted."""

from __future__ import annotations

from PyQt6 import sip
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QTimer
from PyQt6.QtGui import QDragEnterEvent, QDragMoveEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMenu, QWidget

LEFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
ALT, CTRL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier


class User:
    """`done` lists what was done: a press, a drag, a key or a chord each count one."""

    def __init__(self, window):
        self.window = window
        self.done: list[str] = []

    @property
    def workspace(self):
        return self.window.workspace

    def wait(self, ms=30):
        self.workspace.refresh_panels()
        QTest.qWait(ms)
        self.workspace.refresh_panels()

    # --- keys -------------------------------------------------------------------------------

    def key(self, key, held=NONE):
        """One key or chord, wherever the focus is."""
        self.done.append(f"key {key} {held}")
        QTest.keyClick(_focus(self.window), key, held)
        self.wait()

    def type(self, text, enter=True):
        """Letters, one by one, and Enter."""
        self.done += [f"letter {letter}" for letter in text]
        QTest.keyClicks(_focus(self.window), text)
        if enter:
            self.key(Qt.Key.Key_Return)
        self.wait()

    def find(self, text):
        """Finds or does something by name. What was found has the keys once the list is gone
        and the window system has said so, which takes its time on a busy machine."""
        self.key(Qt.Key.Key_Space, CTRL)
        self.type(text)
        for _ in range(100):
            if self._has_the_keys():
                break
            QTest.qWait(30)
        self.wait()

    def _has_the_keys(self):
        if QApplication.activePopupWidget() is not None:
            return False
        modal = QApplication.activeModalWidget() is not None
        return modal or (self.window.isActiveWindow() and QApplication.focusWidget() is not None)

    # --- mouse ------------------------------------------------------------------------------

    def press(self, widget: QWidget, at=None, double=False, held=NONE):
        """A click on a widget that can be seen and pressed."""
        assert widget.isVisible() and widget.isEnabled(), widget
        self.done.append(f"press {widget.accessibleName() or type(widget).__name__}")
        spot = QPoint() if at is None else QPointF(at).toPoint()
        click = QTest.mouseDClick if double else QTest.mouseClick
        click(widget, LEFT, held, spot)
        self.wait()

    def pull(self, widget: QWidget, start, end):
        """Presses, moves in steps, lets go."""
        self.done.append(f"pull {widget.accessibleName()}")
        start, end = QPointF(start), QPointF(end)
        QTest.mousePress(widget, LEFT, NONE, start.toPoint())
        for share in (0.3, 0.7, 1.0):
            QTest.mouseMove(widget, (start + (end - start) * share).toPoint())
            QApplication.processEvents()
        QTest.mouseRelease(widget, LEFT, NONE, end.toPoint())
        self.wait()

    def hover(self, widget: QWidget, at):
        QTest.mouseMove(widget, QPointF(at).toPoint())
        self.wait()

    def drop(self, name, bench, point, held=NONE):
        """Drags an entry of the Library to a point of a bench. The drag itself is the window
        system's, so its events are given to the bench as that would."""
        self.done.append(f"drag {name}")
        model = self.window.library.model
        row = next(n for n, e in enumerate(model.entries) if e.name == name)
        data: QMimeData = model.mimeData([model.index(row)])
        point = QPointF(point)
        copy, none = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
        bench.dragEnterEvent(QDragEnterEvent(point.toPoint(), copy, data, none, held))
        bench.dragMoveEvent(QDragMoveEvent(point.toPoint(), copy, data, none, held))
        QApplication.processEvents()
        bench.dropEvent(QDropEvent(point, copy, data, none, held))
        self.wait()

    # --- what opens -------------------------------------------------------------------------

    def in_menu(self, title, opens):
        """Opens a menu and presses an entry of it."""
        QTimer.singleShot(60, lambda: self._pick(title))
        opens()
        self.wait()

    def _pick(self, title, tries=50):
        menu = QApplication.activePopupWidget()
        if not isinstance(menu, QMenu):
            assert tries, "no menu came"
            QTimer.singleShot(100, lambda: self._pick(title, tries - 1))
            return
        action = next(a for a in menu.actions() if a.text().startswith(title))
        self.done.append(f"choose {title}")
        QTest.mouseClick(menu, LEFT, NONE, menu.actionGeometry(action).center())

    def in_dialog(self, path, opens):
        """Opens a file dialog and types a path into it."""
        QTimer.singleShot(200, lambda: self._name(path))
        opens()
        self.wait()

    def _name(self, path, tries=50):
        dialog = QApplication.activeModalWidget()
        if not isinstance(dialog, QFileDialog):
            assert tries, "no dialog came"
            QTimer.singleShot(100, lambda: self._name(path, tries - 1))
            return
        field = dialog.findChild(QLineEdit, "fileNameEdit")
        field.selectAll()
        QTest.keyClicks(field, str(path))
        self._confirm(dialog, field)

    def _confirm(self, dialog, field, tries=20):
        """Enter, once more where the first one only closed a list of suggestions."""
        if sip.isdeleted(dialog):
            return
        if not tries:
            dialog.reject()
        elif dialog.isVisible():
            QTimer.singleShot(150, lambda: self._confirm(dialog, field, tries - 1))
            QTest.keyClick(field, Qt.Key.Key_Return)


def _focus(window):
    popup = QApplication.activePopupWidget()
    if popup is not None:
        return popup.focusWidget() or popup
    return QApplication.focusWidget() or window
