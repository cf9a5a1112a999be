"""The bench of tokens: every named value with its modes, where it is used, and what can be
done about it. Names can be changed safely: whatever refers to a token follows."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path as FilePath

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QCursor
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QGridLayout,
    QInputDialog,
    QLabel,
    QMenu,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.benches.aside import AsideBench
from outgrowth.app.benches.taking_tokens import TakeTokensDialog
from outgrowth.app.benches.token_board import TokenBoardView
from outgrowth.app.benches.token_fields import TokenFields
from outgrowth.app.fields.choice import Segments
from outgrowth.app.fields.words import WordsField
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.records import Document, TokenKind
from outgrowth.core.document.values import Token
from outgrowth.core.edits import tokens
from outgrowth.core.edits.token_sets import off_scheme
from outgrowth.core.exchange.native.disk import called, read_chosen
from outgrowth.core.exchange.tokens.read import TokenFile, read_tokens
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import token_commands
from outgrowth.workspace.commands.token_commands import KIND_NAMES
from outgrowth.workspace.reading import size_of
from outgrowth.workspace.views.status_text import count_text
from outgrowth.workspace.views.token_board import PairLine
from outgrowth.workspace.views.token_table import same_kind, token_groups

_ABOUT = "Named values: whatever refers to one follows when it changes, in each mode."
_SIDE = 248
FieldKey = tuple[str, str | None]
"""A token's path, and the mode of a value of it; None for its name."""
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

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__("Tokens", _ABOUT)
        self._workspace = workspace
        self._made_for: object = None
        self.fields = TokenFields(workspace, theme)
        self.fields.visited.connect(self.visited)
        self._fill_strip()
        self.area = builders.scroll_area()
        self.board = TokenBoardView(workspace, rasters, theme)
        self.side = builders.scroll_area()
        self.side.setFixedWidth(_SIDE)
        looked_at = QWidget()
        across = builders.row(looked_at)
        across.addWidget(self.board, 1)
        across.addWidget(self.side)
        self.middle = QStackedWidget()
        self.middle.addWidget(looked_at)
        self.middle.addWidget(self.area)
        self.page.addWidget(self.middle, 1)
        self._connect_board()
        self.names: dict[str, WordsField] = {}
        self.values: dict[tuple[str, str], QWidget] = {}
        workspace.panels_due.connect(self.refresh)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self.fields.theme = self.board.theme = theme
        self._made_for = None
        self.refresh()

    def _connect_board(self) -> None:
        board = self.board
        board.current_changed.connect(self._show_current)
        board.ordered.connect(partial(token_commands.order, self._workspace))
        board.filed.connect(partial(token_commands.move_to_group, self._workspace))
        board.pair_asked.connect(self._visit_pair)
        board.menu_asked.connect(self._board_menu)

    # --- building ---------------------------------------------------------------------------

    def _fill_strip(self) -> None:
        row = self.add_strip()
        self.view = Segments((("seen", "Looked at"), ("listed", "Listed")), "How tokens are shown")
        self.view.show_value("seen")
        self.view.edited.connect(self.show_as)
        row.addWidget(self.view)
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
        (self.board if self.is_board else self).setFocus()

    @property
    def is_board(self) -> bool:
        """Whether the tokens are looked at, not listed."""
        return self.middle.currentIndex() == 0

    def show_as(self, view: str) -> None:
        """Shows the tokens as cards (“seen”), or as a list of fields (“listed”)."""
        self.view.show_value(view)
        self.middle.setCurrentIndex(0 if view == "seen" else 1)
        self._made_for = None
        self.refresh()

    def refresh(self) -> None:
        """Shows the workspace as it is now."""
        document = self._workspace.document
        about = document.tokens, document.modes, document.mode, document.components
        about = (*about, document.screens)  # type: ignore[assignment]  # compared only
        if not self.isVisible() or about == self._made_for:
            return
        self._made_for = about
        self._show_modes(document)
        count = count_text(len(document.tokens), "token")
        off = len(off_scheme(document))
        self.summary.setText(f"{count}, {off} named otherwise than the rest" if off else count)
        if self.is_board:
            self.board.refresh()
        else:
            self._fill_list(document)

    def _had_keys(self) -> FieldKey | None:
        """The field of a token that has the keys: it is made anew, and has them again."""
        focused = QApplication.focusWidget()
        fields: list[tuple[FieldKey, QWidget]] = [((p, None), f) for p, f in self.names.items()]
        fields += list(self.values.items())
        if focused is None:
            return None
        return next((k for k, f in fields if f is focused or f.isAncestorOf(focused)), None)

    def _give_keys(self, key: FieldKey | None) -> None:
        if key is None:
            return
        path, mode = key
        field = self.names.get(path) if mode is None else self.values.get((path, mode))
        (field or self.board).setFocus()

    def _fill_list(self, document: Document) -> None:
        had = self._had_keys()
        self.names, self.values = {}, {}
        body = QWidget()
        dress(body, "panel")
        grid = QGridLayout(body)
        grid.setContentsMargins(16, 8, 16, 24)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(4)
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
        self._give_keys(had)

    # --- the token that is looked at ------------------------------------------------------------

    def _show_current(self) -> None:
        """The fields of the token, or of the members of a composed one, beside the board."""
        document, card = self._workspace.document, self.board.card(self.board.current)
        had = self._had_keys()
        self.names, self.values = {}, {}
        body = QWidget()
        dress(body, "panel", "left")
        column = builders.column(body, (14, 12, 12, 16), 6)
        if card is None:
            column.addWidget(_nothing())
        else:
            members = [p for p in document.tokens if p.rpartition(".")[0] == card.path]
            for path in [card.path] if card.path in document.tokens else members:
                self._about(column, path)
        column.addStretch(1)
        body.setMinimumWidth(1)
        old = self.side.takeWidget()
        if old is not None:
            old.hide()
            old.deleteLater()
        self.side.setWidget(body)
        self._give_keys(had)

    def _about(self, column: QVBoxLayout, path: str) -> None:
        document = self._workspace.document
        name = self.names[path] = self.fields.name(path)
        column.addWidget(name)
        off = next((each for each in off_scheme(document) if each.path == path), None)
        if off is not None:
            column.addWidget(builders.label(f"This name {off.reason}.", tone="muted", wrap=True))
        if off is not None and off.better:
            rename = partial(token_commands.rename, self._workspace, path, off.better)
            column.addWidget(builders.push_button(f"Call it {off.better}", rename, look="firm"))
        for mode in ("", *document.modes):
            if document.modes:
                column.addWidget(_muted(mode or "usual"))
            field = self.values[path, mode] = self.fields.value(path, mode)
            column.addWidget(field)
        column.addWidget(_muted("used by"))
        uses = self.fields.uses(path, most=24)
        uses.setWordWrap(True)
        column.addWidget(uses)
        about = f"What can be done with {path}"
        more = builders.tool_button(text="More ▾", look="firm", name=about)
        more.clicked.connect(partial(self._menu, path, more))
        column.addWidget(more, 0, Qt.AlignmentFlag.AlignLeft)
        column.addSpacing(10)

    def _visit_pair(self, line: PairLine) -> None:
        """Goes to the first place where two colours stand on each other, or to one of several."""
        places = line.pair.places
        if len(places) == 1:
            self.visited.emit(*places[0])
            return
        menu = QMenu(self)
        for owner_id, node in places:
            owner = self._workspace.document.owner(owner_id)
            if owner is not None:
                visit = partial(self.visited.emit, owner_id, node)
                builders.menu_entry(menu, f"Go to {owner.short_name}", visit)
        builders.show_menu(menu, QCursor.pos())

    def _board_menu(self, at: QPoint) -> None:
        if self.board.current in self._workspace.document.tokens:
            builders.show_menu(self.menu(self.board.current), at)

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
        name = self.names[path] = self.fields.name(path)
        grid.addWidget(name, row, 0)
        for n, mode in enumerate(("", *document.modes)):
            field = self.fields.value(path, mode)
            self.values[path, mode] = field
            grid.addWidget(field, row, 1 + n)
        grid.addWidget(self.fields.uses(path), row, 2 + len(document.modes))
        about = f"What can be done with {path}"
        more = builders.tool_button(text="▾", look="icon", name=about, tip=about)
        more.clicked.connect(partial(self._menu, path, more))
        grid.addWidget(more, row, 3 + len(document.modes))

    # --- edits ------------------------------------------------------------------------------

    def attend_to(self, path: str) -> None:
        """Brings a token into sight, its name ready to be typed."""
        if self.is_board:
            self.board.look_at(path)
        field = self.names.get(path)
        if field is not None:
            (self.side if self.is_board else self.area).ensureWidgetVisible(field)
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
        if token.kind == "color":
            make_ramp = partial(token_commands.add_ramp, workspace, path)
            builders.menu_entry(menu, "Make a ramp of it, light to dark", make_ramp)
        inner = menu.addMenu("Refer to another token")
        others = same_kind(document, path)
        for other in others if inner is not None else ():
            action = inner.addAction(other) if inner is not None else None
            if action is not None:
                action.triggered.connect(
                    partial(token_commands.set_value, self._workspace, path, "", Token(other))
                )
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
