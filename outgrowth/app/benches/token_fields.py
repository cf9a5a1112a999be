"""The fields of a token: its value in a mode, and where it is used."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLabel, QWidget

from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.shadow import ShadowField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.theme import Theme
from outgrowth.core.color import Color
from outgrowth.core.document.properties import TOKEN_TYPES
from outgrowth.core.document.records import DesignToken
from outgrowth.core.document.referring import color_tokens
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import Token, Value
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import token_commands
from outgrowth.workspace.views.token_table import same_kind, token_uses

_AS_USUAL = "as usual"


class TokenFields(QObject):
    """Makes them, for whoever shows tokens.

    visited(str, tuple)  a use to go to: an owner's id and a node's path
    """

    visited = pyqtSignal(str, tuple)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self.theme = theme

    def name(self, path: str) -> WordsField:
        """A token's name; what refers to it follows."""
        field = WordsField(f"Name of the token {path}")
        field.show_value(path)
        field.setMinimumWidth(150)
        field.renames(partial(token_commands.rename, self._workspace, path))
        return field

    def uses(self, path: str, most: int = 3) -> QLabel:
        """Where a token is used, `most` places a press away each."""
        uses = token_uses(self._workspace.document, path, most)
        label = QLabel()
        label.setTextFormat(Qt.TextFormat.RichText)
        color = self.theme.slate
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

    def value(self, path: str, mode: str) -> QWidget:
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

    def _set(self, path: str, mode: str, value: Value) -> None:
        token_commands.set_value(self._workspace, path, mode, value)

    def _try(self, path: str, mode: str, value: Value) -> None:
        token_commands.try_value(self._workspace, path, mode, value)
