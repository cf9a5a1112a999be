"""The top strip (where am I, find or do, what is saved) and the status line below."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QRect, QRectF, QTimer, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QLabel, QToolButton, QWidget

from outgrowth.app.fields.name_line import NameLine
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.icons import draw_leaf, icon
from outgrowth.app.theme.sheet import dress, restyle
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.naming_commands import name_file
from outgrowth.workspace.measures import is_counted
from outgrowth.workspace.notices import Offer
from outgrowth.workspace.team import Team
from outgrowth.workspace.views.status_text import (
    location_text,
    missing_fonts_text,
    selection_text,
    use_text,
)
from outgrowth.workspace.views.team_sheet import news_text

# Until what was done last is drawn: counting comes after.
_WAIT_MS = 60


class LeafMark(QWidget):
    """The program's own mark: a solid leaf."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setFixedSize(18, 18)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        draw_leaf(painter, QRectF(2, 2, 14, 14), self.theme.color("clay"), "solid")
        painter.end()


class TopStrip(QWidget):
    """find_asked      the find-or-do field was pressed
    menu_asked      the file's name was pressed
    theme_asked     the other look was asked for
    left            the keys belong to the bench again
    """

    left = pyqtSignal()

    find_asked = pyqtSignal()
    menu_asked = pyqtSignal()
    theme_asked = pyqtSignal()
    undo_asked = pyqtSignal()
    redo_asked = pyqtSignal()

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._theme = theme
        dress(self, "chrome", "bottom")
        self.setFixedHeight(40)
        row = builders.row(self, (12, 0, 8, 0), 4)
        left, right = QWidget(), QWidget()
        self._left, self._right = builders.row(left, spacing=4), builders.row(right, spacing=4)
        self.mark = LeafMark(theme)
        self.file = _tool("", "The file: new, open, save")
        self.file.setProperty("weight", "bold")
        self.file.clicked.connect(self.menu_asked)
        self.location_label = builders.label(tone="muted")
        for widget in (self.mark, self.file, self.location_label):
            self._left.addWidget(widget)
        self._left.addStretch()
        self.find_field = _tool("Find or do …", "Find or do anything by name")
        self.find_field.setProperty("look", "firm")
        self.find_field.setProperty("tone", "muted")
        self.find_field.setFixedWidth(260)
        self.find_field.clicked.connect(self.find_asked)
        self.undo = _tool("", "Undo")
        self.redo = _tool("", "Redo")
        self.look = _tool("", "Light or dark")
        for button in (self.undo, self.redo, self.look):
            button.setProperty("look", "icon")
        self.undo.clicked.connect(self.undo_asked)
        self.redo.clicked.connect(self.redo_asked)
        self.look.clicked.connect(self.theme_asked)
        self.saved = QLabel()
        self._right.addStretch()
        for widget in (self.saved, self.undo, self.redo, self.look):
            self._right.addWidget(widget)
        row.addWidget(left, 1)
        row.addWidget(self.find_field)
        row.addWidget(right, 1)
        workspace.selection_changed.connect(self.refresh)
        workspace.panels_due.connect(self.refresh)
        workspace.history_changed.connect(self.refresh)
        self.set_theme(theme)

    def name_file(self) -> None:
        """Lays a field for the file's name over it."""
        name = self._workspace.document.name
        line = NameLine(self, "Name of the file", name, partial(name_file, self._workspace))
        place = self.file.parentWidget()
        corner = self.file.pos() if place is None else place.mapTo(self, self.file.pos())
        wide = max(self.file.width() + 60, 180)
        line.show_at(QRect(corner.x(), (self.height() - 26) // 2, wide, 26))
        line.finished.connect(self.left.emit)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.mark.theme = theme
        self.undo.setIcon(icon("arrow-u-up-left", theme.ink))
        self.redo.setIcon(icon("arrow-u-up-right", theme.ink))
        self.look.setIcon(icon("moon" if theme.name == "light" else "sun", theme.ink))
        self.mark.update()
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        workspace = self._workspace
        self.file.setText(f"{workspace.document.name.replace('&', '&&')}  ▾")
        self.location_label.setText(location_text(workspace))
        self.saved.setText("Not saved" if workspace.unsaved else "Saved")
        self.saved.setProperty("tone", "" if workspace.unsaved else "muted")
        self.undo.setEnabled(bool(workspace.undo_name))
        self.redo.setEnabled(bool(workspace.redo_name))
        self.undo.setToolTip(
            f"Undo {workspace.undo_name}" if workspace.undo_name else "Nothing to undo"
        )
        self.redo.setToolTip(
            f"Redo {workspace.redo_name}" if workspace.redo_name else "Nothing to redo"
        )


def _tool(text: str, name: str) -> QToolButton:
    button = QToolButton()
    button.setText(text)
    button.setToolTip(name)
    button.setAccessibleName(name)
    return button


class StatusLine(QWidget):
    """What is selected, how large it is, where it is used, and the zoom."""

    fit_asked = pyqtSignal()
    cues_asked = pyqtSignal()
    news_asked = pyqtSignal()
    panels_asked = pyqtSignal()
    look_asked = pyqtSignal()

    def __init__(self, workspace: Workspace, team: Team) -> None:
        super().__init__()
        self._workspace = workspace
        self._team = team
        dress(self, "chrome", "top")
        self.setFixedHeight(26)
        row = builders.row(self, (12, 0, 8, 0), 20)
        self.selected, self.used, self.message = QLabel(), QLabel(), QLabel()
        self.warning = builders.label(tone="problem")
        for label in (self.selected, self.used):
            label.setProperty("tone", "muted")
            row.addWidget(label)
        self.message.setProperty("tone", "problem")
        self.message.setAccessibleName("Message")
        row.addWidget(self.warning)
        row.addWidget(self.message)
        self.offered = builders.push_button(
            act=workspace.take_offer, look="offer", tip="Do that (Alt+Enter)"
        )
        self.offered.hide()
        row.addWidget(self.offered)
        row.addStretch(1)
        self.news = builders.push_button(
            act=self.news_asked, look="tag", tip="What the team published: look, and take it in"
        )
        row.addWidget(self.news)
        self.findings = builders.push_button(
            "look again",
            self.look_asked,
            look="tag",
            tip="What a careful colleague would point at (Alt+J)",
        )
        row.addWidget(self.findings)
        self.away = builders.push_button(
            act=self.panels_asked, look="tag", tip="Bring all panels back"
        )
        self.away.hide()
        row.addWidget(self.away)
        self.cues = builders.push_button(
            "cue board", self.cues_asked, look="tag", tip="States, cues and motion (F4)"
        )
        row.addWidget(self.cues)
        self.zoom = builders.push_button(
            act=self.fit_asked, look="tag", tip="Fit the bench to its content"
        )
        row.addWidget(self.zoom)
        workspace.selection_changed.connect(self.refresh)
        workspace.panels_due.connect(self.refresh)
        workspace.failed.connect(self.show_message)
        workspace.offered.connect(self.show_offer)
        workspace.document_changed.connect(self._clear_message)
        workspace.selection_changed.connect(self._clear_message)
        team.changed.connect(self.refresh)
        self._counting = QTimer(self)
        self._counting.setSingleShot(True)
        self._counting.timeout.connect(self._count)
        self.refresh()

    def show_message(self, sentence: str) -> None:
        """Shows a sentence until something else is done."""
        restyle(self.message, "tone", "problem")
        self.message.setText(f"!  {sentence}")
        self.offered.setVisible(self._workspace.offer is not None)

    def show_note(self, sentence: str) -> None:
        """Shows what was done, until something else is done."""
        restyle(self.message, "tone", "")
        self.message.setText(sentence)

    def show_offer(self, offer: Offer) -> None:
        """Shows what was done, and what could be done about it, until something else is done."""
        restyle(self.message, "tone", "")
        self.message.setText(offer.sentence)
        self.offered.setText(offer.title)
        self.offered.show()

    def show_findings(self, words: str, busy: bool) -> None:
        """Shows how much there is to see to, or that it is being looked for."""
        self.findings.setText(words)
        self.findings.setProperty("tone", "muted" if busy else "")

    def show_away(self, names: tuple[str, ...]) -> None:
        """Shows which panels are put away."""
        words = f"{names[0]} is away" if len(names) == 1 else f"{len(names)} panels are away"
        self.away.setText(words)
        self.away.setVisible(bool(names))

    def show_zoom(self, zoom: float) -> None:
        """Shows how large the bench is, as a percentage."""
        self.zoom.setText(f"{zoom * 100:.0f} %")

    def _clear_message(self) -> None:
        """Something else was done: what was said is past."""
        self.message.setText("")
        self.offered.hide()

    def _count(self) -> None:
        """Says how often the component is seen; in a large file once that is counted, a moment at
        a time, beside what is done meanwhile."""
        if self._workspace.component is None or is_counted(self._workspace):
            self.used.setText(use_text(self._workspace))
        else:
            self._counting.start(0)

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        self.selected.setText(selection_text(self._workspace))
        self.warning.setText(missing_fonts_text(self._workspace))
        self._counting.start(_WAIT_MS)
        news = news_text(len(self._team.fresh()))
        self.news.setText(news)
        self.news.setVisible(bool(news))
