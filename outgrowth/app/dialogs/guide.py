"""The guide that ships with the program, in a window of its own."""

from __future__ import annotations

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtWidgets import QDialog, QTextBrowser, QVBoxLayout, QWidget

from outgrowth.resources import GUIDE

_WIDE = 860


class GuideDialog(QDialog):
    """The ten steps, each with a picture, fitted to the window's width."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Guide")
        self.resize(_WIDE, 700)
        self.text = QTextBrowser()
        self.text.setAccessibleName("Guide")
        self.text.setSource(QUrl.fromLocalFile(str(GUIDE)))
        document = self.text.document()
        if document is not None:
            document.setDocumentMargin(24)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.text)
