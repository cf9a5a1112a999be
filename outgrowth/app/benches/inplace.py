"""Words edited in their own place on the bench: caret, selection, input methods, bold and
italic, in the text's own letters."""

from __future__ import annotations

from functools import cache

from PyQt6.QtCore import QRectF, pyqtSignal
from PyQt6.QtGui import QColor, QFontDatabase
from PyQt6.QtWidgets import QWidget

from outgrowth.app.fields.rich import RichText
from outgrowth.app.paint.painter import qcolor
from outgrowth.app.theme import LIGHT, Theme
from outgrowth.core.color import Color
from outgrowth.core.document.values import words
from outgrowth.core.resolve.ladder import Inspection
from outgrowth.resources import FONTS
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import text_commands
from outgrowth.workspace.reaching import here

# Px around the words, so that the caret at either end is seen.
_ROOM = 3
# Px of the narrowest field.
_LEAST = 80.0


class InPlace(RichText):
    """Lies over a text while it is edited. typed() with each change, finished() when it goes."""

    typed = pyqtSignal()
    finished = pyqtSignal()

    def __init__(
        self, parent: QWidget, workspace: Workspace, theme: Theme, inspection: Inspection
    ) -> None:
        super().__init__("The words, in their place")
        self.setParent(parent)
        self._workspace = workspace
        self._step = f"words of {inspection.node.name}{here(workspace)}"
        self._finished = False
        content = inspection.value("content")
        self.set_content(words(content) if isinstance(content, str) else content)  # type: ignore[arg-type]  # runs
        self.textChanged.connect(self._typed)
        self.confirmed.connect(self._commit)
        self.left.connect(self._commit)
        self._edited = workspace.selection
        workspace.selection_changed.connect(self._reselected)
        # The bench may have moved the text since.
        workspace.panels_due.connect(self._moved)
        self._look(inspection, theme)

    def _look(self, inspection: Inspection, theme: Theme) -> None:
        load_fonts()
        self._family = str(inspection.value("font-family"))
        self._size = inspection.value("font-size")
        self._weight = inspection.value("font-weight")
        line_height = inspection.value("line-height")
        self._line_height = line_height if isinstance(line_height, float) else 1.4
        color = inspection.value("color")
        ink = qcolor(color) if isinstance(color, Color) else QColor("black")
        paper = LIGHT.paper if ink.lightnessF() < 0.7 else LIGHT.ink  # a product's own ground
        edge = theme.slate
        self._colors = f"color: {ink.name()}; background: {paper}; border: 2px solid {edge}"

    def show_at(self, rect: QRectF, zoom: float) -> None:
        """Lies over a text at `rect` of the parent, ready for words."""
        size = self._size if isinstance(self._size, float) else 16.0
        weight = self._weight if isinstance(self._weight, float) else 400.0
        self.setStyleSheet(
            f"QTextEdit {{ {self._colors}; font-family: '{self._family}'; "
            f"font-size: {max(round(size * zoom), 6)}px; font-weight: {round(weight)}; }}"
        )
        self._line_px = size * zoom * self._line_height
        self.lie_at(rect)
        self.show()
        self.setFocus()
        self.selectAll()

    def lie_at(self, rect: QRectF) -> None:
        """Lies over the text where it is now, with room for all of its words."""
        document = self.document()
        if document is None:
            return
        around = 2 * (_ROOM + 2)
        wide = max(rect.width() + around + 8, _LEAST)
        if rect.height() < 1.5 * self._line_px:
            # One line as it is drawn, and one here, though our letters are a little wider.
            wide = max(wide, document.idealWidth() + around + 8)
        document.setTextWidth(wide - around)
        high = max(document.size().height(), rect.height(), 20.0) + around
        self.setGeometry(
            round(rect.x()) - _ROOM - 2, round(rect.y()) - _ROOM - 2, round(wide), round(high)
        )

    def _resize(self) -> None:
        """Its height is that of the text on the bench: see `lie_at`."""

    def _typed(self) -> None:
        document = self.document()
        if not self._finished and document is not None and document.isModified():
            self._workspace.drag(text_commands.words_edit(self._workspace, self.content))
            self.typed.emit()

    def _moved(self) -> None:
        self.typed.emit()

    def _reselected(self) -> None:
        """Something else is worked at, whoever saw to that: the words are said."""
        if self._workspace.selection != self._edited:
            self._commit()

    def _commit(self) -> None:
        if not self._finished:
            self._finished = True
            text_commands.end_words(self._workspace, self._step)
            self._end()

    def _end(self) -> None:
        self.hide()
        self.finished.emit()
        self.deleteLater()


@cache
def load_fonts() -> None:
    """Makes the shipped letters known to Qt's own text editing, once."""
    for path in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))
