"""Taking tokens of a file into a document, as one edit."""

from __future__ import annotations

import msgspec

from outgrowth.core.document.records import DesignToken, Document
from outgrowth.core.edits.tokens import add_mode, remove_tokens, set_tokens
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
        document = remove_tokens(document, differences(document, read).gone)
    taken: dict[str, DesignToken] = {}
    for path, token in sorted(read.tokens.items()):
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
        taken[path] = after
    return set_tokens(document, taken)
