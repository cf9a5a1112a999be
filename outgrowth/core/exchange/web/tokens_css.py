"""Design tokens as custom properties, and the fonts that texts need."""

from __future__ import annotations

from collections.abc import Iterable

from outgrowth.core.color import Color
from outgrowth.core.document.records import Component, DesignToken, Document, walk
from outgrowth.core.document.referring import token_paths
from outgrowth.core.document.values import Shadow, Token, Value
from outgrowth.core.exchange.slugs import slug
from outgrowth.core.exchange.web.css import Css, css_string
from outgrowth.core.exchange.web.font_files import font_rule
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.exchange.web.symbols import color_text, number_text, px, rem
from outgrowth.core.memo import ByIdentity
from outgrowth.core.text import FontFace

# Modes that a system has settings for. Source: Media Queries 5, section 12.5.
_PREFERRED = {"dark": "prefers-color-scheme: dark", "light": "prefers-color-scheme: light"}


def value_text(kind: str, value: Value, names: Names, follows: bool = False) -> str:
    """A token's value in CSS; `follows` is whether it goes with the text size of the reader."""
    if isinstance(value, Token):
        name = names.tokens.get(value.path)
        return f"var({name})" if name is not None else "initial"
    if isinstance(value, Color):
        return color_text(value)
    if isinstance(value, float):
        if kind == "duration":
            return f"{number_text(value)}ms"
        if kind != "dimension":
            return number_text(value, 10)
        return rem(value) if follows else px(value)
    if kind == "shadow" and isinstance(value, tuple):
        return ", ".join(_shadow(s, names) for s in value if isinstance(s, Shadow)) or "none"
    return css_string(str(value)) if kind == "family" else str(value)


def _shadow(shadow: Shadow, names: Names) -> str:
    lengths = " ".join(px(n) for n in (shadow.x, shadow.y, shadow.blur, shadow.spread))
    name = names.tokens.get(shadow.token)
    color = f"var({name})" if name is not None else color_text(shadow.color)
    return f"{'inset ' if shadow.inner else ''}{lengths} {color}"


def tokens_css(document: Document, names: Names, faces: Iterable[FontFace], folder: str) -> str:
    """Fonts, the usual values, then those of each mode: chosen by `data-mode` on any element, a
    dark or light one by the system's setting too."""
    blocks = [font_rule(face, folder) for face in faces]
    follows = _of_text_sizes(document)
    usual = [
        f"  {names.tokens[path]}: {value_text(token.kind, token.value, names, path in follows)};"
        for path, token in sorted(document.tokens.items())
    ]
    # What the browser draws by itself goes with a mode: scroll bars, fields, what lies behind.
    schemed = any(slug(mode, "mode") in _PREFERRED for mode in document.modes)
    if usual:
        usual = [_scheme(""), *usual] if schemed else usual
        blocks.append("\n".join([':root, [data-mode=""] {', *usual, "}"]))
    for mode in document.modes:
        own = [f"  {name}: {value};" for name, value in mode_values(document, names, mode).items()]
        if own:
            name = slug(mode, "mode")
            blocks += _mode_blocks(name, [_scheme(name), *own] if schemed else own)
    return "\n\n".join(blocks) + "\n"


def _scheme(mode: str) -> str:
    """A mode inside of another one replaces it, in this too."""
    return f"  color-scheme: {mode if mode in _PREFERRED else 'normal'};"


def _mode_blocks(name: str, own: list[str]) -> list[str]:
    blocks = ["\n".join([f'[data-mode="{name}"] {{', *own, "}"])]
    preferred = _PREFERRED.get(name)
    if preferred:
        inside = [f"  {line}" for line in [":root:not([data-mode]) {", *own, "}"]]
        blocks.append("\n".join([f"@media ({preferred}) {{", *inside, "}"]))
    return blocks


def mode_values(document: Document, names: Names, mode: str) -> Css:
    """What the custom properties are in a mode ("" for none) that differ in any: a mode inside
    of another one replaces it. They say all that their values reach too, since a name that means
    another is worked out where it is said (CSS Variables 1, section 3)."""
    follows = _of_text_sizes(document)
    touched = {path for path, token in document.tokens.items() if token.modes}
    while True:
        more = {p for p, t in document.tokens.items() if p not in touched and _means(t, touched)}
        if not more:
            break
        touched |= more
    return {
        names.tokens[path]: value_text(
            token.kind, token.modes.get(mode, token.value), names, path in follows
        )
        for path, token in sorted(document.tokens.items())
        if path in touched
    }


def _sizes_of_text(document: Document) -> set[str]:
    """The design tokens that text sizes and letter spacings are said by, in any case, with what
    these mean."""
    values: list[Value] = []
    for owner in document.owners():
        rules = list(owner.rules) if isinstance(owner, Component) else []
        for node in walk(owner.root):
            values += [node.style[name] for name in _TEXT_SIZES if name in node.style]
            rules += node.overrides
        values += [rule.value for rule in rules if rule.property in _TEXT_SIZES]
    found: set[str] = set()
    while values:
        new = {path for value in values for path in token_paths(value)} - found
        tokens = [document.tokens[path] for path in new if path in document.tokens]
        values = [value for token in tokens for value in (token.value, *token.modes.values())]
        found |= new
    return found


_TEXT_SIZES = ("font-size", "letter-spacing")
# All components of a hand-over ask.
_of_text_sizes = ByIdentity(_sizes_of_text, 4)


def _means(token: DesignToken, paths: set[str]) -> bool:
    return not paths.isdisjoint(token_paths(token.value))
