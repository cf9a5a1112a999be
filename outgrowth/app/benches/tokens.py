"""The bench of tokens: every named value with its modes, where it is used, and what can be
done about it. Names can be changed safely: whatever refers to a token follows."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path as FilePath

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QGridLayout,
    QInputDialog,
    QLabel,
    QMenu,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.taking_tokens import TakeTokensDialog
from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.shadow import ShadowField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.color import Color
from outgrowth.core.document.properties import TOKEN_TYPES
from outgrowth.core.document.records import DesignToken, Document, TokenKind
from outgrowth.core.document.referring import color_tokens
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import Token, Value
from outgrowth.core.edits import tokens
from outgrowth.core.exchange.native.disk import called, read_chosen
from outgrowth.core.exchange.tokens.read import TokenFile, read_tokens
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import token_commands
from outgrowth.workspace.commands.token_commands import KIND_NAMES
from outgrowth.workspace.reading import size_of
from outgrowth.workspace.views.token_table import same_kind, token_groups, token_uses

_ABOUT = "Named values: whatever refers to one follows when it changes, in each mode."
_AS_USUAL = "as usual"
_COMPOSED = {
    "type": "Type: typeface, size, weight, line height, spacing",
    "border": "Border: colour and width",
    "motion": "Motion: duration, delay, easing",
}


class TokensBench(AsideBench):
    """Esc, or the button at the top, leads back to what was on the bench.

    left             the bench is left
    visited(str, tuple)  a use to go to: an owner's id and a node's path
    """

    visited = pyqtSignal(str, tuple)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__("Tokens", _ABOUT)
        self._workspace = workspace
        self._theme = theme
        self._made_for: object = None
        self._fill_strip()
        self.area = builders.scroll_area()
        self.page.addWidget(self.area, 1)
        self.names: dict[str, WordsField] = {}
        self.values: dict[tuple[str, str], QWidget] = {}
        workspace.panels_due.connect(self.refresh)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self._made_for = None
        self.refresh()

    # --- building ---------------------------------------------------------------------------

    def _fill_strip(self) -> None:
        row = self.add_strip()
        self.add = builders.tool_button(self._ask_kind, text="Add a token ▾", look="firm")
        row.addWidget(self.add)
        take = builders.push_button("Take in from a file …", self.ask_file, look="firm")
        row.addWidget(take)
        modes = QWidget()
        self._modes = builders.row(modes, spacing=6)
        row.addWidget(modes)

    def begin(self) -> None:
        """Takes the keys, with the tokens as they are."""
        self.refresh()
        self.setFocus()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        document = self._workspace.document
        about = document.tokens, document.modes, document.mode, document.components
        about = (*about, document.screens)  # type: ignore[assignment]  # compared only
        if not self.isVisible() or about == self._made_for:
            return
        self._made_for = about
        self._show_modes(document)
        body = QWidget()
        dress(body, "panel")
        grid = QGridLayout(body)
        grid.setContentsMargins(16, 8, 16, 24)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(4)
        self.names, self.values = {}, {}
        line = 0
        for title, paths in token_groups(document):
            line = self._group(grid, line, title, paths)
        if not line:
            grid.addWidget(_nothing(), 0, 0)
        grid.setColumnStretch(2 + len(document.modes), 1)
        grid.setRowStretch(line + 1, 1)
        scroll_bar = self.area.verticalScrollBar()
        scrolled_to = scroll_bar.value() if scroll_bar is not None else 0
        old = self.area.takeWidget()
        if old is not None:
            old.deleteLater()  # not now: one of its fields may be saying what was typed
        self.area.setWidget(body)
        if scroll_bar is not None:
            scroll_bar.setValue(scrolled_to)

    def _show_modes(self, document: Document) -> None:
        while (item := self._modes.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        if document.modes:
            segments = Segments([("", "usual"), *((m, m) for m in document.modes)], "Shown mode")
            segments.show_value(document.mode)
            segments.edited.connect(partial(token_commands.show_mode, self._workspace))
            self._modes.addWidget(segments)
        more = builders.tool_button(
            text="Add a mode" if not document.modes else "Modes ▾",
            look="firm",
            tip="A mode gives tokens other values, as for a dark look",
        )
        more.clicked.connect(partial(self._modes_menu, more))
        self._modes.addWidget(more)

    def _group(self, grid: QGridLayout, line: int, title: str, paths: Sequence[str]) -> int:
        modes = self._workspace.document.modes
        head = builders.label(title, weight="bold")
        grid.addWidget(head, line, 0)
        for n, text in enumerate(("usual", *modes)):
            grid.addWidget(_muted(text), line, 1 + n)
        grid.addWidget(_muted("used by"), line, 2 + len(modes))
        for row, path in enumerate(paths, line + 1):
            self._line(grid, row, path)
        return line + 1 + len(paths)

    def _line(self, grid: QGridLayout, row: int, path: str) -> None:
        document = self._workspace.document
        name = WordsField(f"Name of the token {path}")
        name.show_value(path)
        name.setMinimumWidth(150)
        name.renames(partial(token_commands.rename, self._workspace, path))
        self.names[path] = name
        grid.addWidget(name, row, 0)
        for n, mode in enumerate(("", *document.modes)):
            field = self._field(path, mode)
            self.values[path, mode] = field
            grid.addWidget(field, row, 1 + n)
        grid.addWidget(self._uses(path), row, 2 + len(document.modes))
        about = f"What can be done with {path}"
        more = builders.tool_button(text="▾", look="icon", name=about, tip=about)
        more.clicked.connect(partial(self._menu, path, more))
        grid.addWidget(more, row, 3 + len(document.modes))

    def _uses(self, path: str) -> QWidget:
        uses = token_uses(self._workspace.document, path)
        label = QLabel()
        label.setTextFormat(Qt.TextFormat.RichText)
        color = self._theme.slate
        parts = [f'<a href="{u.owner}" style="color: {color}">{u.name}</a>' for u in uses.owners]
        parts += [f"{uses.more} more"] if uses.more else []
        parts += [f"token {alias}" for alias in uses.aliases]
        parts += ["the whole file"] if uses.everywhere else []
        label.setText(", ".join(parts) if parts else "nothing yet")
        label.setToolTip(f"{uses.values} values refer to it")
        if not parts:
            label.setProperty("tone", "muted")
        nodes = {use.owner: use.node for use in uses.owners}
        label.linkActivated.connect(lambda owner: self.visited.emit(owner, nodes[owner]))
        focus = Qt.FocusPolicy.StrongFocus if uses.owners else Qt.FocusPolicy.NoFocus
        label.setFocusPolicy(focus)
        label.setTextInteractionFlags(
            Qt.TextInteractionFlag.LinksAccessibleByMouse
            | Qt.TextInteractionFlag.LinksAccessibleByKeyboard
        )
        label.setAccessibleName(f"Where {path} is used")
        return label

    # --- fields -----------------------------------------------------------------------------

    def _field(self, path: str, mode: str) -> QWidget:
        """The value of a token in a mode. One that is an alias shows what it refers to."""
        token = self._workspace.document.tokens[path]
        value = token.modes.get(mode) if mode else token.value
        name = f"{path}{f' in {mode}' if mode else ''}"
        if isinstance(value, Token):
            return self._alias(path, mode, token, value)
        if token.kind == "color":
            return self._color(path, mode, name, value)
        kind = TOKEN_TYPES[token.kind]
        if isinstance(kind, NumberType):
            number = NumberField(kind, name)
            number.setFixedWidth(90)
            number.show_value(value if isinstance(value, float) else None)
            if value is None:
                number.setPlaceholderText(_AS_USUAL)
            number.edited.connect(partial(self._set, path, mode))
            number.failed.connect(self._workspace.failed.emit)
            return number
        if token.kind == "shadow":
            shadow = ShadowField(lambda: color_tokens(self._workspace.document))
            shadow.show_value(value if isinstance(value, tuple) else None)  # type: ignore[arg-type]  # shadows
            shadow.edited.connect(partial(self._set, path, mode))
            return shadow
        words = WordsField(name)
        words.show_value(str(value) if value is not None else "")
        words.setPlaceholderText(_AS_USUAL if value is None else "")
        words.edited.connect(partial(self._set, path, mode))
        return words

    def _color(self, path: str, mode: str, name: str, value: Value | None) -> QWidget:
        field = ColorField(name, lambda: self._colors(path))
        field.show_value(value if isinstance(value, Color) else None, None)
        field.text.setPlaceholderText(_AS_USUAL if value is None else "")
        field.edited.connect(partial(self._set, path, mode))
        field.tried.connect(partial(self._try, path, mode))
        field.left.connect(self._workspace.cancel_drag)
        field.failed.connect(self._workspace.failed.emit)
        return field

    def _alias(self, path: str, mode: str, token: DesignToken, value: Token) -> QWidget:
        field = QComboBox()
        field.setAccessibleName(f"What {path} refers to")
        others = same_kind(self._workspace.document, path)
        field.addItems([f"= {other}" for other in others])
        if value.path in others:
            field.setCurrentIndex(others.index(value.path))
        field.activated.connect(lambda n: self._set(path, mode, Token(others[n])))
        return field

    def _colors(self, but: str) -> dict[str, Color]:
        pairs = self._workspace.document.tokens.items()
        return {p: t.value for p, t in pairs if isinstance(t.value, Color) and p != but}

    # --- edits ------------------------------------------------------------------------------

    def _set(self, path: str, mode: str, value: Value) -> None:
        token_commands.set_value(self._workspace, path, mode, value)

    def _try(self, path: str, mode: str, value: Value) -> None:
        token_commands.try_value(self._workspace, path, mode, value)

    def attend_to(self, path: str) -> None:
        """Brings a token into sight, its name ready to be typed."""
        field = self.names.get(path)
        if field is not None:
            self.area.ensureWidgetVisible(field)
            field.setFocus()
            field.selectAll()

    def add_token(self, kind: TokenKind) -> None:
        """A new token of a kind, its name ready to be typed."""
        path = token_commands.add(self._workspace, kind)
        if path:
            self._workspace.refresh_panels()
            self.attend_to(path)

    def add_composed(self, kind: str) -> None:
        """A new type, border or motion: several tokens that belong together."""
        path = token_commands.add_composed(self._workspace, kind)
        if path:
            self._workspace.refresh_panels()
            self.attend_to(path)

    def ask_file(self) -> None:
        """Asks for a file of tokens, and shows what it would change."""
        path, _ = QFileDialog.getOpenFileName(self, "Take in tokens", "", "Design tokens (*.json)")
        if path:
            self.read_file(FilePath(path))

    def read_file(self, path: FilePath) -> None:
        """Shows what a file of tokens would change; nothing is changed before it is asked for."""

        def show(read: TokenFile) -> None:
            TakeTokensDialog(self, self._workspace, read, path.name).open()

        def read() -> TokenFile:
            return read_tokens(read_chosen(path), path.name)

        self._workspace.reading.read(called(path), size_of(path), read, show)

    # --- menus ------------------------------------------------------------------------------

    def _ask_kind(self) -> None:
        menu = QMenu(self)
        for kind, name in KIND_NAMES.items():
            action = menu.addAction(name.capitalize())
            if action is not None:
                action.triggered.connect(partial(self.add_token, kind))
        menu.addSeparator()
        for composed, text in _COMPOSED.items():
            action = menu.addAction(text)
            if action is not None:
                action.triggered.connect(partial(self.add_composed, composed))
        builders.show_menu(menu, self.add)

    def _menu(self, path: str, beside: QWidget, _: bool = False) -> None:
        menu = self.menu(path)
        builders.show_menu(menu, beside)

    def menu(self, path: str) -> QMenu:
        """What can be done with a token, and how much each of it touches."""
        workspace, document = self._workspace, self._workspace.document
        token = document.tokens[path]
        equal = tokens.equal_values(document, path)
        used = len(tokens.token_uses(document, path))
        menu = QMenu(self)
        for title, command, enabled in (
            (f"Give {equal} equal values this name", token_commands.name_equal, equal > 0),
            (
                f"Remove; {used} values keep what it was" if used else "Remove",
                token_commands.remove,
                True,
            ),
        ):
            action = menu.addAction(title)
            if action is not None:
                action.setEnabled(enabled)
                action.triggered.connect(lambda _=False, child=command: child(workspace, path))
        inner = menu.addMenu("Refer to another token")
        others = same_kind(document, path)
        for other in others if inner is not None else ():
            action = inner.addAction(other) if inner is not None else None
            if action is not None:
                action.triggered.connect(partial(self._set, path, "", Token(other)))
        if inner is not None:
            inner.setEnabled(bool(others))
        if isinstance(token.value, Token):
            own = menu.addAction("Have a value of its own again")
            if own is not None:
                own.triggered.connect(lambda: token_commands.own_value(workspace, path))
        return menu

    def _modes_menu(self, beside: QWidget) -> None:
        document = self._workspace.document
        menu = QMenu(self)
        dark = menu.addAction("Add “dark”")
        other = menu.addAction("Add another …")
        if dark is not None and other is not None:
            dark.setEnabled("dark" not in document.modes)
            dark.triggered.connect(lambda: self.add_mode("dark"))
            other.triggered.connect(self._ask_mode)
        for mode in document.modes:
            removal = menu.addAction(f"Remove “{mode}”")
            if removal is not None:
                removal.triggered.connect(
                    lambda _=False, m=mode: token_commands.remove_mode(self._workspace, m)
                )
        builders.show_menu(menu, beside)

    def add_mode(self, name: str) -> None:
        """One more mode, by its name."""
        token_commands.add_mode(self._workspace, name)

    def _ask_mode(self) -> None:
        name, accepted = QInputDialog.getText(self, "A mode", "What the mode is called")
        if accepted:
            self.add_mode(name)


def _muted(text: str) -> QLabel:
    return builders.label(text, tone="muted")


def _nothing() -> QLabel:
    return _muted(
        "A token is a named value: a colour, a size, a typeface, a shadow. Parts that refer to it\n"
        "follow when it changes. Add one here, or make one of a value in the ledger: press the\n"
        "value's source, then “make a token”."
    )
