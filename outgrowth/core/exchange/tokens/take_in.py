"""Taking tokens of a file into a document, as one edit."""

from __future__ import annotations

import msgspec

from outgrowth.core.document.records import Document
from outgrowth.core.edits.tokens import add_mode, remove_token, set_token
from outgrowth.core.exchange.tokens.read import TokenFile, differences
from outgrowth.core.refusal import Refusal


def take_in(
    document: Document, read: TokenFile, mode: str = "", remove_gone: bool = False
) -> Document:
    """The document with a file's tokens as the values of a mode ("" for the usual ones; one that
    is not there is made). What refers to a token stays; `remove_gone`: tokens that the file does
    not have are removed, and what referred to them keeps the value.

    Raises Refusal for names that cannot stand beside those that are there.
    """
    if mode and mode not in document.modes:
        document = add_mode(document, mode)
    if remove_gone and not mode:
        for path in differences(document, read).gone:
            document = remove_token(document, path)
    waiting = dict(sorted(read.tokens.items()))
    for path, token in waiting.items():
        before = document.tokens.get(path)
        if before is None:
            after = token
        elif before.kind != token.kind:
            raise Refusal(f"“{path}” is a {before.kind} here and a {token.kind} in the file.")
        elif mode:
            modes = before.modes.set(mode, token.value)
            if token.value == before.value:
                modes = before.modes.delete(mode) if mode in before.modes else before.modes
            after = msgspec.structs.replace(before, modes=modes)
        else:
            after = msgspec.structs.replace(
                token, modes=before.modes, description=token.description or before.description
            )
        document = set_token(document, path, after)
    return document
