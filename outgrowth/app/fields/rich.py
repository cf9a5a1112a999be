"""A field for words of which some are bold or italic.

Enter and Esc keep what was typed, Shift+Enter breaks the line. Ctrl+B and Ctrl+I, or the two
buttons that appear while it is worked in, change what is selected.
"""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFocusEvent,
    QFont,
    QInputMethodEvent,
    QKeyEvent,
    QResizeEvent,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PyQt6.QtWidgets import QTextEdit, QToolButton, QWidget

from outgrowth.app.fields.line import asks_history
from outgrowth.app.theme import builders
from outgrowth.core.document.values import Content, Run

_LINES = 4
_SEPARATORS = str.maketrans({"\u2028": "\n", "\u2029": "\n"})


def runs_of(document: QTextDocument) -> Content:
    """The words of a text document as runs; blocks are lines."""
    runs: list[Run] = []
    block = document.begin()
    while block.isValid():
        if block != document.begin():
            runs.append(styled_as("\n", runs[-1] if runs else Run("")))
        parts = block.begin()
        while not parts.atEnd():
            fragment = parts.fragment()
            look = fragment.charFormat()
            bold = look.fontWeight() > QFont.Weight.Medium
            runs.append(Run(fragment.text().translate(_SEPARATORS), bold, look.fontItalic()))
            parts += 1
        block = block.next()
    return joined(runs)


def styled_as(text: str, of: Run) -> Run:
    """A run that looks like another."""
    return Run(text, of.bold, of.italic)


def joined(runs: list[Run]) -> Content:
    """Neighbouring runs of one look made one; empty ones left out."""
    results: list[Run] = []
    for run in runs:
        if results and (results[-1].bold, results[-1].italic) == (run.bold, run.italic):
            results[-1] = styled_as(results[-1].text + run.text, run)
        elif run.text:
            results.append(run)
    return tuple(results)


def format_of(run: Run) -> QTextCharFormat:
    """How Qt writes a run."""
    look = QTextCharFormat()
    if run.bold:
        look.setFontWeight(QFont.Weight.Bold)
    if run.italic:
        look.setFontItalic(True)
    return look


class RichText(QTextEdit):
    """The words themselves."""

    confirmed = pyqtSignal()
    left = pyqtSignal()
    entered = pyqtSignal()

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setToolTip(f"{name}. Ctrl+B bold, Ctrl+I italic, Shift+Enter a new line")
        self.setTabChangesFocus(True)
        self.setAcceptRichText(False)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        document = self.document()
        assert document is not None
        document.setDocumentMargin(3)
        document.contentsChanged.connect(self._resize)
        self._resize()

    @property
    def content(self) -> Content:
        """What was written, as runs."""
        document = self.document()
        assert document is not None
        return runs_of(document)

    def event(self, event: QEvent | None) -> bool:
        if event is not None and asks_history(event):
            document = self.document()
            assert document is not None
            if not document.isModified():
                event.ignore()
                return True
        return super().event(event)

    def set_content(self, content: Content) -> None:
        """Shows words; what had been typed is forgotten."""
        blocked = self.blockSignals(True)
        self.clear()
        cursor = self.textCursor()
        for run in content:
            cursor.insertText(run.text.replace("\n", "\u2028"), format_of(run))
        document = self.document()
        if document is not None:
            document.setModified(False)
        self.blockSignals(blocked)
        self._resize()

    def toggle(self, look: str) -> None:
        """Makes the selected words (all, if none are) bold or italic, or no longer."""
        cursor = self.textCursor()
        if not cursor.hasSelection():
            cursor.select(QTextCursor.SelectionType.Document)
        before = cursor.charFormat()
        char_format = QTextCharFormat()
        if look == "bold":
            heavy = before.fontWeight() > QFont.Weight.Medium
            char_format.setFontWeight(QFont.Weight.Normal if heavy else QFont.Weight.Bold)
        else:
            char_format.setFontItalic(not before.fontItalic())
        cursor.mergeCharFormat(char_format)
        document = self.document()
        if document is not None:
            document.setModified(True)

    def _resize(self) -> None:
        """As high as its lines, up to a few."""
        document = self.document()
        assert document is not None
        document.setTextWidth(max(self.viewport_width(), 40))
        line = self.fontMetrics().lineSpacing()
        height = min(document.size().height(), _LINES * line + 6)
        self.setFixedHeight(max(round(height) + 2, 26))

    def viewport_width(self) -> int:
        """The room for words, in px."""
        viewport = self.viewport()
        return viewport.width() if viewport is not None else 100

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._resize()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        modifiers = event.modifiers()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape):
            if modifiers & Qt.KeyboardModifier.ShiftModifier:
                self.textCursor().insertText("\u2028")
            else:
                self.confirmed.emit()
        elif modifiers & Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_B:
            self.toggle("bold")
        elif modifiers & Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_I:
            self.toggle("italic")
        else:
            super().keyPressEvent(event)

    def inputMethodEvent(self, event: QInputMethodEvent | None) -> None:
        super().inputMethodEvent(event)
        self._resize()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self.entered.emit()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        if event is not None and event.reason() != Qt.FocusReason.PopupFocusReason:
            self.left.emit()


class RichWordsField(QWidget):
    """edited(tuple) carries the runs to set; typed(tuple) those to try with each key."""

    edited = pyqtSignal(tuple)
    typed = pyqtSignal(tuple)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._shown_content: Content = ()
        self.words = RichText(name)
        self.words.textChanged.connect(self._typed)
        self.words.confirmed.connect(self._commit)
        self.words.left.connect(self._left)
        self.words.entered.connect(lambda: self._format_bar.show())
        self.setFocusProxy(self.words)
        self._format_bar = QWidget()
        row = builders.row(self._format_bar, spacing=4)
        for look in ("bold", "italic"):
            button = QToolButton()
            button.setText(look)
            button.setProperty("look", "segment")
            button.setAccessibleName(f"{name}: {look}")
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _=False, kind=look: self.words.toggle(kind))
            row.addWidget(button)
        row.addStretch()
        self._format_bar.hide()
        column = builders.column(self)
        column.addWidget(self.words)
        column.addWidget(self._format_bar)

    def show_value(self, content: Content | None) -> None:
        """Shows a value; none where several differ."""
        self._shown_content = content or ()
        self.words.setPlaceholderText("mixed" if content is None else "")
        if (
            not (self.words.hasFocus() and self._modified)
            and self.words.content != self._shown_content
        ):
            self.words.set_content(self._shown_content)

    @property
    def _modified(self) -> bool:
        document = self.words.document()
        return document is not None and document.isModified()

    def selectAll(self) -> None:
        self.words.selectAll()

    def text(self) -> str:
        """The words without their looks."""
        return self.words.toPlainText()

    def _typed(self) -> None:
        if self._modified:
            self.typed.emit(self.words.content)

    def _left(self) -> None:
        self._format_bar.hide()
        self._commit()

    def _commit(self) -> None:
        document = self.words.document()
        if document is not None and document.isModified():
            document.setModified(False)
            self.edited.emit(self.words.content)
