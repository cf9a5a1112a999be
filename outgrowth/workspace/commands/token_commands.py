"""Values and tokens from the ledger: a value gets a name, or takes one that fits."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import msgspec

from outgrowth.core.color import Color
from outgrowth.core.document.composed import COMPOSITIONS, composed
from outgrowth.core.document.properties import TOKEN_TYPES, row_of
from outgrowth.core.document.records import DesignToken, Document, TokenKind
from outgrowth.core.document.values import Token, Value
from outgrowth.core.edits import at_reach, token_sets, tokens
from outgrowth.core.exchange.tokens.read import TokenFile
from outgrowth.core.exchange.tokens.take_in import take_in
from outgrowth.core.refusal import Refusal, ValueRefusal
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.reaching import here, reach_of
from outgrowth.workspace.workspace import Edit, Workspace

Command = Callable[[], None]
# Tokens that are offered beside a value; all of them are on their bench.
_MOST = 4
_STEMS: dict[TokenKind, str] = {"dimension": "space", "family": "type"}


def choices(workspace: Workspace, name: str) -> list[tuple[str, Command]]:
    """What can be done about tokens for a property of the selection: what it says, and what
    does it."""
    kind, place = tokens.kind_for(name), workspace.place
    inspection = inspect(workspace.document, place) if place is not None else None
    if kind is None or inspection is None or len(workspace.selection.paths) != 1:
        return []
    values = [rung.value for rung in inspection.ladder(name) if rung.wins][-1:]
    if values and isinstance(values[0], Token):
        return []
    commands: list[tuple[str, Command]] = [("make a token of it", partial(make, workspace, name))]
    value = inspection.value(name)
    fitting = sorted(
        path for path, t in workspace.document.tokens.items() if t.kind == kind and t.value == value
    )
    others = sorted(p for p, t in workspace.document.tokens.items() if t.kind == kind)
    paths = fitting or (others if kind != "color" else [])
    commands += [
        (f"refer to {path}", partial(refer_to, workspace, name, path)) for path in paths[:_MOST]
    ]
    groups = composed_for(workspace.document, name)[:_MOST]
    commands += [
        (f"use all of {group}", partial(use_composed, workspace, group)) for group in groups
    ]
    return commands


def fitting(document: Document, name: str) -> set[str]:
    """The tokens that a property may refer to."""
    kind = tokens.kind_for(name)
    return {path for path, token in document.tokens.items() if token.kind == kind}


def make(workspace: Workspace, name: str) -> None:
    """The property's value becomes a token that it refers to, named after what it is."""
    kind, place = tokens.kind_for(name), workspace.place
    inspection = inspect(workspace.document, place) if place is not None else None
    reach = reach_of(workspace)
    value = None
    if place is not None and inspection is not None:
        value = at_reach.plain_said(workspace.document, reach, place.path, name)
    if kind is None or place is None or inspection is None or value is None:
        return
    part = inspection.instance.name if inspection.instance is not None else inspection.node.name
    path = free_path(
        workspace.document, f"{_STEMS.get(kind, kind)}.{path_word(part)}-{path_word(name)}"
    )

    def change(document: Document) -> Document:
        token = tokens.checked_token(kind, value, name)
        document = tokens.set_token(document, path, token)
        return at_reach.set_values(document, reach, place.path, {name: Token(path)})

    workspace.edit(f"make the token {path}{here(workspace)}", change)


def refer_to(workspace: Workspace, name: str, path: str) -> None:
    """The property refers to a token."""
    style_commands.set_style(workspace, {name: Token(path)})


def path_word(text: str) -> str:
    """A text as one part of a token's path."""
    letters = "".join(c if c.isalnum() else "-" for c in text.lower()).strip("-")
    return letters or "value"


def free_path(document: Document, path: str) -> str:
    """The path, or with a number behind it where a token or a group of them is called so."""
    used = {*document.tokens, *(each.rpartition(".")[0] for each in document.tokens)}
    if path not in used:
        return path
    return next(p for n in range(2, 9999) if (p := f"{path}-{n}") not in used)


# --- the table of tokens --------------------------------------------------------------------

KIND_NAMES: dict[TokenKind, str] = {
    "color": "colour",
    "dimension": "size",
    "number": "number",
    "duration": "duration",
    "easing": "easing",
    "family": "typeface",
    "shadow": "shadow",
}
# What a token of each kind is until somebody says otherwise.
_FIRST: dict[TokenKind, Value] = {
    "color": Color(0.5, 0.5, 0.5),
    "dimension": 8.0,
    "number": 1.0,
    "duration": 160.0,
    "easing": "ease-out",
    "family": "Figtree",
    "shadow": (),
}


def set_value(workspace: Workspace, path: str, mode: str, value: Value) -> None:
    """Sets a token in a mode ("" for the usual value); says where that is more than what refers
    to it may be. A value that was being tried becomes the step."""
    edit = _value_edit(path, mode, value)
    step = f"{path} in {mode}" if mode else path
    if workspace.dragging:
        workspace.drag(edit)
        workspace.drop(step)
    else:
        workspace.edit(step, edit)
    _tell_beyond(workspace, path)


def try_value(workspace: Workspace, path: str, mode: str, value: Value) -> None:
    """Shows what setting a token would do."""
    workspace.drag(_value_edit(path, mode, value))


def _value_edit(path: str, mode: str, value: Value) -> Edit:
    def change(document: Document) -> Document:
        token = document.tokens.get(path)
        if token is None:
            raise Refusal("That token is no longer there.")
        if not isinstance(value, Token):
            try:
                TOKEN_TYPES[token.kind].check(value)
            except ValueRefusal as problem:
                raise Refusal(f"{path}: {problem}") from problem
        if mode:
            after = msgspec.structs.replace(token, modes=token.modes.set(mode, value))
        else:
            after = msgspec.structs.replace(token, value=value)
        return tokens.set_token(document, path, after)

    return change


def _tell_beyond(workspace: Workspace, path: str) -> None:
    document = workspace.document
    beyond = tokens.beyond(document, path)
    if beyond:
        owner = document.owner(beyond[0].owner)
        label = row_of(beyond[0].property).label.lower()
        more = f" and {len(beyond) - 1} more" if len(beyond) > 1 else ""
        workspace.failed.emit(
            f"“{path}” is out of range for the {label} on {owner.name if owner else 'a part'}"
            f"{more}: there the nearest that can be is shown."
        )


def own_value(workspace: Workspace, path: str) -> None:
    """A token that is another name has the value of that one for its own again."""
    document = workspace.document
    token = document.tokens.get(path)
    passed: set[str] = set()  # names in a circle lead nowhere
    while token is not None and isinstance(token.value, Token) and token.value.path not in passed:
        passed.add(token.value.path)
        token = document.tokens.get(token.value.path)
    if token is not None:
        set_value(workspace, path, "", token.value)


def add(workspace: Workspace, kind: TokenKind) -> str:
    """A new token of a kind; its path, "" if that failed."""
    stem = {"color": "color", "dimension": "space", "family": "type"}.get(kind, kind)
    existing = workspace.document.tokens
    path = next(p for n in range(1, 999) if (p := f"{stem}.new-{n}") not in existing)
    token = DesignToken(kind, _FIRST[kind])
    added = workspace.edit(f"add {path}", lambda document: tokens.set_token(document, path, token))
    return path if added else ""


def add_composed(workspace: Workspace, kind: str) -> str:
    """A new composed token: its members, each a token of its own. The path of the first, "" if
    that failed."""
    existing = workspace.document.tokens
    taken = {path.rpartition(".")[0] for path in existing}
    group = next(g for n in range(1, 999) if (g := f"{kind}.new-{n}") not in taken)
    members = COMPOSITIONS[kind].members

    def change(document: Document) -> Document:
        for member, member_kind in members.items():
            token = DesignToken(member_kind, _MEMBERS.get(member, _FIRST[member_kind]))
            document = tokens.set_token(document, f"{group}.{member}", token)
        return document

    added = workspace.edit(f"add {group}", change)
    return f"{group}.{next(iter(members))}" if added else ""


# What a member is until somebody says otherwise, where its kind's own would be odd.
_MEMBERS: dict[str, Value] = {
    "size": 16.0,
    "weight": 400.0,
    "line-height": 1.4,
    "spacing": 0.0,
    "width": 1.0,
    "delay": 0.0,
}


def composed_for(document: Document, name: str) -> list[str]:
    """The composed tokens that a property can take, with others beside it."""
    groups = composed(document.tokens)
    return [g for g, c in groups.items() if any(name in rows for rows in c.rows.values())]


def use_composed(workspace: Workspace, group: str) -> None:
    """All that a composed token says becomes the selection's, member by member."""
    composition = composed(workspace.document.tokens).get(group)
    values: dict[str, Value] = {}
    for member, rows in composition.rows.items() if composition is not None else ():
        if f"{group}.{member}" in workspace.document.tokens:
            values |= {row: Token(f"{group}.{member}") for row in rows}
    style_commands.set_style(workspace, values)


def take_in_file(workspace: Workspace, read: TokenFile, mode: str, remove_gone: bool) -> bool:
    """The tokens of a file become the file's own, in a mode ("" for the usual values); whether
    they did."""
    name = f"take in {len(read.tokens)} tokens"
    return workspace.edit(name, lambda document: take_in(document, read, mode, remove_gone))


def rename(workspace: Workspace, path: str, name: str) -> bool:
    """Names a token; whatever refers to it follows. Whether it is called so now."""
    return workspace.edit(
        f"rename {path}", lambda document: tokens.rename_token(document, path, name.strip())
    )


def name_equal(workspace: Workspace, path: str) -> None:
    """Every value that equals a token refers to it."""
    workspace.edit(
        f"name equal values {path}", lambda document: tokens.replace_equal(document, path)
    )


def remove(workspace: Workspace, path: str) -> None:
    """Takes a token away; what referred to it keeps the value that it had."""
    workspace.edit(f"remove {path}", lambda document: tokens.remove_token(document, path))


def order(workspace: Workspace, path: str, after: str) -> bool:
    """Puts a token right behind another of its kind, first for ""; whether it moved."""
    return workspace.edit(
        f"move {path}", lambda document: token_sets.move_token(document, path, after)
    )


def move_to_group(workspace: Workspace, path: str, group: str) -> bool:
    """Puts a token into another group, what refers to it following; whether it did."""
    return workspace.edit(
        f"move {path}", lambda document: token_sets.move_to_group(document, path, group)
    )


def add_ramp(workspace: Workspace, path: str) -> bool:
    """Ten tokens from light to dark of a colour's; whether they were made."""
    return workspace.edit(f"a ramp of {path}", lambda d: token_sets.add_ramp(d, path))


def add_mode(workspace: Workspace, name: str) -> None:
    """One more mode, in which tokens can have other values."""
    workspace.edit(f"add the mode {name}", lambda document: tokens.add_mode(document, name))


def remove_mode(workspace: Workspace, name: str) -> None:
    """Takes a mode away, and the values that tokens have in it."""
    workspace.edit(f"remove the mode {name}", lambda document: tokens.remove_mode(document, name))


def show_mode(workspace: Workspace, mode: str) -> None:
    """Shows the document in a mode; "" for the usual values."""
    workspace.edit(
        f"show {mode or 'the usual values'}", lambda document: tokens.show_mode(document, mode)
    )
