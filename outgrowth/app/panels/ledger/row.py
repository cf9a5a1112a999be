"""One row of the ledger: name, editor, source tag, and the ladder that the tag unfolds."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from itertools import pairwise

from PyQt6.QtCore import QEvent, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QEnterEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QGridLayout,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.fields.relative import RelativeField, shift_kinds
from outgrowth.app.panels.ledger.editors import Editor
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import restyle
from outgrowth.core.document.properties import row_of
from outgrowth.core.resolve.cascade import Source
from outgrowth.core.resolve.ladder import Inspection, Rung
from outgrowth.workspace import Workspace, measures
from outgrowth.workspace.commands import style_commands, text_commands, token_commands
from outgrowth.workspace.views.value_format import source_text, tag_text, value_text

# Px: a label (longer ones take two lines) and the longest tag; what lies between is the editor's.
LABEL_WIDTH = 72
TAG_WIDTH = 68
_NOTCH = 4


class LedgerRow(QWidget):
    """Shows and edits one property, or a family of four.

    attended(tuple)  the names of the row, when pointer or focus comes to it
    visited(str)     an owner's id: go to where a value is said
    unfolded         the ladder was opened
    """

    attended = pyqtSignal(tuple)
    visited = pyqtSignal(str)
    unfolded = pyqtSignal()

    def __init__(self, workspace: Workspace, theme: Theme, editor: Editor) -> None:
        super().__init__()
        self._workspace = workspace
        self._theme = theme
        self.editor = editor
        self._changed = False
        self._unfolded = False
        self._rungs: tuple[Rung, ...] = ()
        self.tag = builders.push_button(look="tag")
        self.tag.setFixedWidth(TAG_WIDTH)
        self.tag.clicked.connect(self._unfold)
        editor.label.setFixedWidth(LABEL_WIDTH)
        editor.label.setWordWrap(True)
        editor.label.setToolTip(editor.help)
        grid = QGridLayout(self)
        grid.setContentsMargins(14, 2, 4, 2)
        grid.setHorizontalSpacing(4)
        grid.setVerticalSpacing(2)
        top = Qt.AlignmentFlag.AlignTop
        editor.label.setMinimumHeight(26)
        grid.addWidget(editor.label, 0, 0, top)
        grid.addWidget(editor.widget, 0, 1)
        grid.addWidget(self.tag, 0, 2, top)
        self._ladder = QWidget()
        self._ladder.hide()
        QVBoxLayout(self._ladder).setContentsMargins(0, 2, 0, 6)
        grid.addWidget(self._ladder, 1, 0, 1, 3)
        grid.setColumnStretch(1, 1)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.update()

    def refresh(self, inspection: Inspection) -> None:
        """Shows the values and where they come from."""
        self.editor.show(inspection)
        ladders = [inspection.ladder(name) for name in self.editor.names]
        self._rungs = max(ladders, key=lambda rungs: _rank(rungs))
        top = _top(self._rungs)
        owner = self._workspace.selection.owner
        self._changed = self._is_changed_here(top, inspection.instance is not None)
        self.tag.setText(tag_text(self._workspace.document, top, owner, self._changed))
        self.tag.setAccessibleName(f"{self.editor.title} comes from: {self.tag.text()}")
        self.tag.setToolTip(
            f"{source_text(self._workspace.document, top.source)}. Click for every step."
        )
        restyle(self.tag, "changed", self._changed)
        if self._unfolded:
            self._fill_ladder()
        self.update()

    @property
    def set_by_someone(self) -> bool:
        """Whether anybody said more than the table does."""
        return len(self._rungs) > 1

    def _is_changed_here(self, rung: Rung, instance: bool) -> bool:
        """Whether the value is a difference: said by a rule of the component on the bench,
        or by the selected instance itself."""
        source = rung.source
        if source.owner != self._workspace.selection.owner:
            return False
        return source.kind in ("rule", "instance") or (source.kind == "tree" and instance)

    # --- the ladder ---------------------------------------------------------------------

    def _unfold(self) -> None:
        self._unfolded = not self._unfolded
        self._ladder.setVisible(self._unfolded)
        if self._unfolded:
            self._fill_ladder()
            for before, after in pairwise([self.tag, *self._ladder.findChildren(QPushButton)]):
                QWidget.setTabOrder(before, after)
            self.unfolded.emit()

    def _fill_ladder(self) -> None:
        layout = self._ladder.layout()
        assert layout is not None
        while (item := layout.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        count = len(self._workspace.selection.paths)
        if count > 1:
            command = partial(style_commands.put_back_here, self._workspace, self.editor.names)
            layout.addWidget(_small(f"put back what these {count} parts say", command))
            return
        for rung in self._rungs:
            layout.addWidget(self._rung(rung))
        if len(self.editor.names) > 1:
            return
        name = self.editor.names[0]
        kinds_of_shift = shift_kinds(row_of(name).type)
        if kinds_of_shift:
            layout.addWidget(self._relative(kinds_of_shift))
        if not text_commands.is_open(self._workspace, name) and text_commands.can_open(
            self._workspace, name
        ):
            command = partial(text_commands.open_property, self._workspace, name)
            layout.addWidget(_small("let instances set it", command))
        for prop in text_commands.tie_choices(self._workspace, name):
            command = partial(text_commands.tie, self._workspace, name, prop)
            layout.addWidget(_small(f"tie to {prop.name}", command))
        for title, choose in token_commands.choices(self._workspace, name):
            layout.addWidget(_small(title, choose))

    def _rung(self, rung: Rung) -> QWidget:
        document = self._workspace.document
        line = QWidget()
        row = builders.row(line, (12, 0, 0, 0), 6)
        source = source_text(document, rung.source)
        text = builders.label(f"{source} · {value_text(document, rung.value)}", wrap=True)
        text.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Minimum)
        font = text.font()
        font.setBold(rung.wins)
        font.setStrikeOut(not rung.wins)
        text.setFont(font)
        text.setProperty("tone", "" if rung.wins else "muted")
        row.addWidget(text, 1)
        if rung.source.kind != "default":
            row.addWidget(_small("go there", lambda: self.visited.emit(rung.source.owner)))
            row.addWidget(_small(self._touching(rung.source), lambda: self._put_back(rung)))
        return line

    def _relative(self, directions: tuple[str, ...]) -> QWidget:
        """What makes the value a relative one, at the present reach."""
        line = QWidget()
        row = builders.row(line, (12, 2, 6, 2), 6)
        lead = builders.label("than below:", tone="muted")
        lead.setToolTip("A relative change still shows where the value below it is overridden.")
        field = RelativeField(directions, self.editor.title)
        name = self.editor.names[0]
        field.edited.connect(lambda shift: style_commands.set_style(self._workspace, {name: shift}))
        row.addWidget(lead)
        row.addWidget(field, 1)
        return line

    def _touching(self, source: Source) -> str:
        """ "put back", with the number of instances that taking a component's step out would
        touch when it is not this one's doing."""
        document = self._workspace.document
        if (
            source.owner == self._workspace.selection.owner
            or source.owner not in document.components
        ):
            return "put back"
        count = measures.instances_of(self._workspace)[source.owner]
        return f"put back in {count}" if count > 1 else "put back"

    def _put_back(self, rung: Rung) -> None:
        for name in self.editor.names:
            style_commands.put_back_if_said(self._workspace, name, rung.source)

    # --- looks and attention --------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if self._changed:
            notch = QRectF(0, 4, _NOTCH, self.editor.label.height() - 4)
            painter.fillRect(notch, self._theme.color("saffron"))
        if self._unfolded:
            line = QRectF(18, self.editor.label.height() + 6, 1.5, self._ladder.height() - 8)
            painter.fillRect(line, self._theme.color("hairline"))
        painter.end()

    def enterEvent(self, event: QEnterEvent | None) -> None:
        self.attended.emit(self.editor.names)

    def leaveEvent(self, event: QEvent | None) -> None:
        self.attended.emit(())


def _rank(rungs: tuple[Rung, ...]) -> tuple[int, int]:
    return len(_top(rungs).source.when), len(rungs)


def _top(rungs: tuple[Rung, ...]) -> Rung:
    """The last step that shows in the value."""
    return [rung for rung in rungs if rung.wins][-1]


def _small(text: str, command: Callable[[], None]) -> QPushButton:
    return builders.push_button(text, lambda: command(), look="tag")
