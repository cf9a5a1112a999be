"""Something new on the bench: drawn at once, or asked for first."""

from __future__ import annotations

from pathlib import Path as FilePath

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QFileDialog, QWidget

from outgrowth.app.bench_view import BenchView
from outgrowth.app.dialogs.chooser import IconChooser, ScreenChooser
from outgrowth.app.window_frame import WindowFrame
from outgrowth.core.edits.tree.drawing import DrawnKind
from outgrowth.workspace.commands import create_commands, imports, library_commands
from outgrowth.workspace.icon_set import Icon


class DrawingController:
    """Opens the choosers of one window, and does what was chosen."""

    def __init__(self, frame: WindowFrame, view: BenchView) -> None:
        self._frame = frame
        self._view = view
        self._workspace = frame.workspace
        self.icons = IconChooser(frame, frame.theme)
        self.screens = ScreenChooser(frame, frame.theme)
        self.icons.chosen.connect(self._icon_chosen)
        self.screens.chosen.connect(
            lambda device: library_commands.new_screen(self._workspace, device)
        )

    def draw(self, drawn_kind: DrawnKind) -> None:
        """Draws something where the selection is; words are typed at once."""
        if create_commands.draw(self._workspace, drawn_kind):
            self._view.surface.setFocus()
            if drawn_kind == "text":
                self._view.edit_words()

    def ask_icon(self) -> None:
        """Asks for an icon of the shipped set."""
        self.icons.theme = self._frame.theme
        self.icons.begin(below(self._frame.strip.find_field))

    def _icon_chosen(self, icon: Icon) -> None:
        create_commands.place_icon(self._workspace, icon)
        self._view.surface.setFocus()

    def ask_screen(self) -> None:
        """Asks for the size of a new screen."""
        self.screens.theme = self._frame.theme
        self.screens.begin(below(self._frame.strip.find_field))

    def ask_picture(self) -> None:
        """Asks for a picture or a drawing, for the selected image or as a new part."""
        suffixes = (*imports.PICTURE_SUFFIXES, imports.DRAWING_SUFFIX)
        kinds = " ".join(f"*{suffix}" for suffix in suffixes)
        self._ask_file("Place a picture or a drawing", f"Pictures and drawings ({kinds})")

    def ask_font(self) -> None:
        """Asks for a font that the file is to carry."""
        self._ask_file("Carry a font in the file", "Fonts (*.ttf *.otf)")

    def _ask_file(self, title: str, kinds: str) -> None:
        name, _ = QFileDialog.getOpenFileName(self._frame, title, "", kinds)
        if name:
            imports.bring(self._workspace, [FilePath(name)])


def below(field: QWidget) -> QPoint:
    """A point of the screen just below the middle of a field."""
    return field.mapToGlobal(QPoint(field.width() // 2, field.height() + 4))
