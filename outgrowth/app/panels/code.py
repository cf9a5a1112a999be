"""The Code sheet: the selected part in CSS, each rule with the conditions under which it holds."""

from __future__ import annotations

from PyQt6.QtWidgets import QApplication, QVBoxLayout

from outgrowth.app.fields.code import CodeField
from outgrowth.app.panels.sheet import SheetPanel, line, muted
from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import label
from outgrowth.core.document.records import Component
from outgrowth.workspace import Workspace
from outgrowth.workspace.views.code_rows import CodeBlock, NodeCode, node_code

_LINE = 17
_FRAME = 18


class CodeSheet(SheetPanel):
    """Made anew when the part or the document is another, while it is in sight."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__(workspace, "Code")
        self._theme = theme
        self.fields: list[CodeField] = []
        self.code: NodeCode | None = None

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.rebuild()

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        document = self._workspace.document
        selection = self._workspace.selection
        return selection.owner, selection.paths, id(document.components), id(document.screens)

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the rules of the part that is selected: of the whole, if none is."""
        self.fields, self.code = [], None
        owner, paths = self._workspace.owner, self._workspace.selection.paths
        if owner is None or len(paths) > 1:
            layout.addWidget(muted("Open a component or a screen, and select one part of it."))
            return
        path = paths[0] if paths else ()
        workspace = self._workspace
        self.code = node_code(workspace.document, workspace.engine, owner, path)
        title = label(f"In {self.code.title}", weight="bold")
        layout.addWidget(line(title, ("copy all", lambda: self.copy())))
        if not self.code.blocks:
            layout.addWidget(muted("Nothing is said of this part: it is as usual."))
        for block in self.code.blocks:
            self._block(layout, block)

    def _block(self, layout: QVBoxLayout, block: CodeBlock) -> None:
        when = label(block.when, tone="muted", wrap=True)
        layout.addWidget(line(when, ("copy", lambda: self.copy(block.css))))
        field = CodeField(self._theme, f"CSS, {block.when}")
        field.setPlainText(block.css)
        lines = block.css.count("\n") + 1
        field.setFixedHeight(lines * _LINE + _FRAME)
        layout.addWidget(field)
        self.fields.append(field)

    def copy(self, text: str | None = None) -> None:
        """Puts a rule, or all of them, on the clipboard."""
        clipboard = QApplication.clipboard()
        if clipboard is not None and self.code is not None:
            clipboard.setText(self.code.text if text is None else text)
