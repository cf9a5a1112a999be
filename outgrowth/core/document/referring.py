"""What refers to design tokens inside of a value or a motion, and what that comes to."""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from outgrowth.core.color import Color
from outgrowth.core.document.cues import LONG_PRESS_MS, Motion, Trigger
from outgrowth.core.document.design_token import DesignToken
from outgrowth.core.document.records import Document
from outgrowth.core.document.values import Shadow, Shadows, Token, Value

FindToken = Callable[[str], DesignToken | None]
"""A token by its path, None where there is none."""
Rename = Callable[[str], str]
"""What becomes of a token's path; "" for a reference that is let go."""

DEEPEST_ALIAS = 32
"""Names that name names: a circle ends here."""


def token_paths(value: object) -> tuple[str, ...]:
    """The tokens that a value refers to: as a whole, by the colours of its shadows, or by the
    parts of a motion, or for how long a trigger waits."""
    if isinstance(value, Token):
        return (value.path,)
    if isinstance(value, Trigger):
        return (value.token,) if value.token else ()
    if isinstance(value, Motion):
        return tuple(value.tokens.values())
    if isinstance(value, tuple):
        return tuple([s.token for s in value if isinstance(s, Shadow) and s.token])
    return ()


def meaning(path: str, find: FindToken) -> Value | None:
    """The literal at the end of the names that a token leads to; None where they lead nowhere."""
    for _ in range(DEEPEST_ALIAS):
        token = find(path)
        if token is None:
            return None
        if not isinstance(token.value, Token):
            return token.value
        path = token.value.path
    return None


def colored(shadows: Shadows, find: FindToken) -> Shadows:
    """The shadows in the colours that their tokens give; they name none any more."""
    if not any(shadow.token for shadow in shadows):
        return shadows
    return tuple(_colored(shadow, find) for shadow in shadows)


def _colored(shadow: Shadow, find: FindToken) -> Shadow:
    color = meaning(shadow.token, find) if shadow.token else None
    color = color if isinstance(color, Color) else shadow.color
    return msgspec.structs.replace(shadow, color=color, token="")


def settled(motion: Motion, find: FindToken) -> Motion:
    """The motion by what the tokens of its parts say; it names none any more. Its own times
    and easing count where a token is gone, or is of another kind."""
    if not motion.tokens:
        return motion
    said: dict[str, object] = {}
    for part, path in motion.tokens.items():
        value = meaning(path, find)
        fits = isinstance(value, str) if part == "easing" else isinstance(value, float)
        if fits:
            said[part] = value
    return msgspec.structs.replace(motion, tokens=Motion(0.0).tokens, **said)


def waiting_time(trigger: Trigger, find: FindToken) -> float:
    """How long a trigger waits (ms): what its token says, else its own time; of a press that is
    held, the usual time where it says none."""
    said = meaning(trigger.token, find) if trigger.token else None
    own = trigger.hold or LONG_PRESS_MS if trigger.kind == "long-press" else trigger.ms
    return max(said, 0.0) if isinstance(said, float) else own


def color_tokens(document: Document) -> dict[str, Color]:
    """The colour tokens that come to a colour, by their paths, in the mode that is shown."""
    colors = {
        path: meaning(path, document.token)
        for path, t in document.tokens.items()
        if t.kind == "color"
    }
    return {path: color for path, color in colors.items() if isinstance(color, Color)}


def renamed_inside(value: Value, rename: Rename) -> Value:
    """A value whose shadows name their tokens by other paths."""
    if not isinstance(value, tuple) or not token_paths(value):
        return value
    return tuple(  # type: ignore[return-value]  # shadows, as before
        [
            msgspec.structs.replace(s, token=rename(s.token))
            if isinstance(s, Shadow) and s.token
            else s
            for s in value
        ]
    )


def motion_renamed(motion: Motion, rename: Rename) -> Motion:
    """A motion that names its tokens by other paths."""
    tokens = motion.tokens
    for part, path in motion.tokens.items():
        after = rename(path)
        tokens = tokens.set(part, after) if after else tokens.delete(part)
    return motion if tokens == motion.tokens else msgspec.structs.replace(motion, tokens=tokens)
