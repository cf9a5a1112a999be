"""Values and tokens from the ledger: a value gets a name, or takes one that fits."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from immutables import Map

from outgrowth.core.document.records import Document, TokenKind
from outgrowth.core.document.values import Token
from outgrowth.core.edits import tokens
from outgrowth.core.edits.styles import set_properties
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace.workspace import Workspace

Act = Callable[[], None]
_MOST = 4
_STEMS: dict[TokenKind, str] = {"dimension": "space", "family": "type"}


def choices(workspace: Workspace, name: str) -> list[tuple[str, Act]]:
    """What can be done about tokens for a property of the selection: what it says, and what
    does it."""
    kind, place = tokens.kind_for(name), workspace.place
    found = inspect(workspace.document, place) if place is not None else None
    if kind is None or found is None or len(workspace.selection.paths) != 1:
        return []
    said = [rung.value for rung in found.ladder(name) if rung.wins][-1:]
    if said and isinstance(said[0], Token):
        return []
    acts: list[tuple[str, Act]] = [("make a token of it", partial(make, workspace, name))]
    value = found.value(name)
    fitting = sorted(
        path for path, t in workspace.document.tokens.items() if t.kind == kind and t.value == value
    )
    others = sorted(p for p, t in workspace.document.tokens.items() if t.kind == kind)
    listed = fitting or (others if kind != "color" else [])
    acts += [(f"take {path}", partial(take, workspace, name, path)) for path in listed[:_MOST]]
    return acts


def fitting(document: Document, name: str) -> set[str]:
    """The tokens that a property may refer to."""
    kind = tokens.kind_for(name)
    return {path for path, token in document.tokens.items() if token.kind == kind}


def make(workspace: Workspace, name: str) -> None:
    """The property's value becomes a token that it refers to, named after what it is."""
    kind, place = tokens.kind_for(name), workspace.place
    found = inspect(workspace.document, place) if place is not None else None
    value = found.value(name) if found is not None else None
    if kind is None or place is None or found is None or value is None:
        return
    part = found.instance.name if found.instance is not None else found.node.name
    path = _free(workspace.document, f"{_STEMS.get(kind, kind)}.{_word(part)}-{_word(name)}")
    reach = workspace.reach if workspace.component is not None else Map()

    def change(document: Document) -> Document:
        token = tokens.checked_token(kind, value, name)
        document = tokens.set_token(document, path, token)
        return set_properties(document, place, {name: Token(path)}, reach)

    workspace.edit(f"make the token {path}", change)


def take(workspace: Workspace, name: str, path: str) -> None:
    """The property refers to a token."""
    workspace.set_style({name: Token(path)})


def _word(text: str) -> str:
    """A text as one part of a token's path."""
    kept = "".join(c if c.isalnum() else "-" for c in text.lower()).strip("-")
    return kept or "value"


def _free(document: Document, path: str) -> str:
    taken = document.tokens
    if path not in taken:
        return path
    return next(p for n in range(2, 9999) if (p := f"{path}-{n}") not in taken)
