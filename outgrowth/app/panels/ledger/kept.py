"""What the selected instance differs in: a line that counts it, and unfolded, each value with put
back."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton, QWidget

from outgrowth.app.theme.builders import column, label, push_button, row
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.views.kept_rows import KeptRow, kept_rows

# More is not read; the rest is counted.
_MOST = 24


class KeptList(QWidget):
    """Hidden while the instance is as its component says."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._workspace = workspace
        self._shown: list[KeptRow] | None = None
        self._is_open = False
        layout = column(self, (14, 0, 8, 4), 2)
        head = row(spacing=2)
        self.head = push_button(act=self._toggle, look="tag")
        self.head.setProperty("changed", True)
        self.looks = self._way("put the looks back", "look", "Its words stay.")
        self.words = self._way("put the words back", "words", "Its looks stay.")
        head.addWidget(self.head)
        head.addStretch(1)
        layout.addLayout(head)
        ways = row(spacing=2)
        ways.addWidget(self.looks)
        ways.addWidget(self.words)
        ways.addStretch(1)
        layout.addLayout(ways)
        self.body = QWidget()
        layout.addWidget(self.body)

    def _way(self, text: str, kind: str, tip: str) -> QPushButton:
        command = partial(style_commands.put_kind_back, self._workspace, kind)  # type: ignore[arg-type]  # a kind
        return push_button(text, lambda: command(), look="tag", tip=tip)

    def refresh(self) -> None:
        """Shows what the selected instance keeps now."""
        rows = kept_rows(self._workspace)
        if rows == self._shown:
            return
        self._shown = rows
        self.setVisible(bool(rows))
        kinds = {entry.kept.kind for entry in rows}
        self.looks.setVisible("look" in kinds)
        self.words.setVisible("words" in kinds)
        self._fill()

    def _toggle(self) -> None:
        self._is_open = not self._is_open
        self._fill()

    def _fill(self) -> None:
        rows = self._shown or []
        arrow = "▾" if self._is_open else "▸"
        self.head.setText(f"{arrow} differs in {len(rows)}")
        self.head.setAccessibleName(f"It differs in {len(rows)} values")
        body = QWidget()
        lines = column(body, spacing=0)
        for entry in rows[:_MOST] if self._is_open else ():
            lines.addWidget(self._line(entry))
        if self._is_open and len(rows) > _MOST:
            lines.addWidget(label(f"and {len(rows) - _MOST} more", tone="muted"))
        layout = self.layout()
        assert layout is not None
        layout.replaceWidget(self.body, body)
        self.body.hide()
        self.body.deleteLater()
        self.body = body
        body.setVisible(self._is_open)

    def _line(self, entry: KeptRow) -> QWidget:
        container = QWidget()
        across = row(container, spacing=2)
        text = label(f"{entry.subject}: {entry.value}", wrap=True, plain=True)
        across.addWidget(text, 1)
        what = entry.subject.lower() if entry.subject.isupper() else entry.subject
        command = partial(style_commands.put_kept, self._workspace, [entry.kept], what)
        back = push_button("put back", lambda: command(), look="tag")
        back.setAccessibleName(f"Put {entry.subject} back")
        across.addWidget(back, 0, Qt.AlignmentFlag.AlignTop)
        return container
