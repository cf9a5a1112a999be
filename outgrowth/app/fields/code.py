"""Code to be read and copied, with its strings, names and comments told apart."""

from __future__ import annotations

import re

from PyQt6.QtGui import QSyntaxHighlighter, QTextCharFormat
from PyQt6.QtWidgets import QPlainTextEdit

from outgrowth.app.theme import Theme

# In this order: a later one wins over what it lies on.
_PARTS = (
    ("slate", re.compile(r"\b(?:import|export|const|class|extends|declare|true|false)\b")),
    ("slate", re.compile(r"(?<![\w-])--[\w-]+")),
    ("saffron", re.compile(r"^\s*[a-z-]+(?=:)", re.MULTILINE)),
    ("clay", re.compile(r"(?<![\w-])[:#.][\w-]+(?:\([^()]*\))*(?=[^;]*\{)")),
    ("good", re.compile(r'"(?:[^"\\]|\\.)*"|\'(?:[^\'\\]|\\.)*\'')),
    ("muted", re.compile(r"/\*.*?\*/")),
)  # fmt: skip


class _Highlighter(QSyntaxHighlighter):
    def __init__(self, view: QPlainTextEdit, theme: Theme) -> None:
        super().__init__(view.document())
        self.theme = theme

    def highlightBlock(self, text: str | None) -> None:
        for role, pattern in _PARTS:
            look = QTextCharFormat()
            look.setForeground(self.theme.color(role))
            for match in pattern.finditer(text or ""):
                self.setFormat(match.start(), match.end() - match.start(), look)


class CodeField(QPlainTextEdit):
    """Read only; selected and copied like any text."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self.setReadOnly(True)
        self.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        self.setAccessibleName(name)
        self.setProperty("look", "code")
        self._highlighter = _Highlighter(self, theme)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._highlighter.theme = theme
        self._highlighter.rehighlight()
