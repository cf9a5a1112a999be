"""Tokens as they look: a card a token with what it is drawn by the engine itself, in each mode, and
the pairs of colours that are used with their contrast."""

from __future__ import annotations

from collections import Counter
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.color_pairs import ENOUGH, ColorPair, color_pairs, pair_contrast
from outgrowth.core.document.composed import COMPOSITIONS, composed
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import Component, Document, Node
from outgrowth.core.document.referring import meaning
from outgrowth.core.document.values import Token, Value, fixed, words
from outgrowth.core.edits.token_sets import in_order
from outgrowth.core.edits.tokens import referring_properties
from outgrowth.core.geometry import Rect
from outgrowth.workspace.views.value_format import value_text

MARGIN, GAP, HEAD = 16.0, 12.0, 34.0
LEAST_CARD, CARD, PICTURE, WORDS = 124.0, 164.0, 68.0, 40.0
"""The least and the most width of a card, the height of its picture, and of the words below."""
PAIR = 34.0
_LONGEST = 120.0
_SAMPLE = "Aa"
_INK, _PLAIN = parse("#2A241E"), parse("#FFFFFF")
_RADII = FAMILY_MEMBERS["radius"]
_STROKES = (*FAMILY_MEMBERS["stroke-width"], "line-width")
_TITLES = {
    "color": "Colours",
    "type": "Type",
    "family": "Typefaces",
    "size": "Sizes of type",
    "space": "Spacing",
    "radius": "Corners",
    "stroke": "Line widths",
    "border": "Borders",
    "shadow": "Shadows",
    "motion": "Motions",
    "duration": "Durations",
    "easing": "Easings",
    "number": "Numbers",
}
"""What each part of the board is called, in its order."""


class TokenCard(NamedTuple):
    """A token, or several that are composed, and where its card lies.

    path     the token's path, or that of the composed group
    name     what it is called on its card
    texts    its value in words, in each mode that says another
    section  a key of the board's titles
    specimen  the id of the component that shows it; "" for one that is drawn as a movement
    """

    path: str
    name: str
    texts: tuple[str, ...]
    section: str
    specimen: str
    rect: Rect = Rect(0.0, 0.0, 0.0, 0.0)


class PairLine(NamedTuple):
    """A pair of colours that is used, with its contrast in each mode (None where it has none)."""

    pair: ColorPair
    ratios: tuple[float | None, ...]
    rect: Rect = Rect(0.0, 0.0, 0.0, 0.0)

    @property
    def is_enough(self) -> bool:
        """Whether words can be read so in every mode."""
        return all(ratio is None or ratio >= ENOUGH for ratio in self.ratios)


class BoardHead(NamedTuple):
    """A heading and where it lies; `group` is what the paths below it begin with."""

    title: str
    section: str
    group: str
    rect: Rect


class TokenBoard(NamedTuple):
    """All of it laid out, `document` with a component a specimen."""

    document: Document
    heads: tuple[BoardHead, ...]
    cards: tuple[TokenCard, ...]
    pairs: tuple[PairLine, ...]
    height: float


def token_board(document: Document, width: float) -> TokenBoard:
    """The board of a document's tokens, so wide."""
    cards, specimens = _cards(document)
    shown = document.components.update({each.id: each for each in specimens})
    order = (*document.component_order, *(each.id for each in specimens))
    drawn = msgspec.structs.replace(document, components=shown, component_order=order)
    heads: list[BoardHead] = []
    placed: list[TokenCard] = []
    lines: list[PairLine] = []
    y = MARGIN / 2
    for section, title in _TITLES.items():
        of_section = [card for card in cards if card.section == section]
        groups = dict.fromkeys(_group(card.path) for card in of_section)
        for group in groups:
            of_group = [card for card in of_section if _group(card.path) == group]
            named = f"{title} · {group}" if group and len(groups) > 1 else title
            heads.append(
                BoardHead(named, section, group, Rect(MARGIN, y, width - 2 * MARGIN, HEAD))
            )
            y, placed_here = _flow(of_group, y + HEAD, width)
            placed += placed_here
        if section == "color":
            pairs = color_pairs(document)
            if pairs:
                rect = Rect(MARGIN, y, width - 2 * MARGIN, HEAD)
                heads.append(BoardHead("Colours that stand on each other", "pairs", "", rect))
                y, lines = _pair_lines(document, pairs, y + HEAD, width)
    return TokenBoard(drawn, tuple(heads), tuple(placed), tuple(lines), y + MARGIN)


def _group(path: str) -> str:
    return path.rpartition(".")[0]


def _flow(cards: list[TokenCard], y: float, width: float) -> tuple[float, list[TokenCard]]:
    across = max(int((width - 2 * MARGIN + GAP) // (LEAST_CARD + GAP)), 1)
    wide = min((width - 2 * MARGIN + GAP) / across - GAP, CARD)
    high = PICTURE + WORDS
    placed = []
    for n, card in enumerate(cards):
        x = MARGIN + n % across * (wide + GAP)
        placed.append(card._replace(rect=Rect(x, y + n // across * (high + GAP), wide, high)))
    lines = -(-len(cards) // across)
    return y + lines * (high + GAP), placed


def _pair_lines(
    document: Document, pairs: list[ColorPair], y: float, width: float
) -> tuple[float, list[PairLine]]:
    """Those that can't be read first."""
    modes = ("", *document.modes)
    lines = [
        PairLine(pair, tuple(pair_contrast(document, pair, mode) for mode in modes))
        for pair in pairs
    ]
    lines.sort(key=lambda line: min((r for r in line.ratios if r is not None), default=99.0))
    across = max(int((width - 2 * MARGIN + GAP) // (2 * CARD + 2 * GAP)), 1)
    wide = (width - 2 * MARGIN + GAP) / across - GAP
    placed = [
        line._replace(
            rect=Rect(MARGIN + n % across * (wide + GAP), y + n // across * (PAIR + 6), wide, PAIR)
        )
        for n, line in enumerate(lines)
    ]
    return y + -(-len(lines) // across) * (PAIR + 6) + GAP, placed


# --- specimens --------------------------------------------------------------------------------


def _cards(document: Document) -> tuple[list[TokenCard], list[Component]]:
    cards: list[TokenCard] = []
    specimens: list[Component] = []
    groups = composed(document.tokens)
    for group, composition in groups.items():
        members = [f"{group}.{m}" for m in composition.members]
        texts = [
            value_text(document, document.tokens[path].value)
            for path in members
            if path in document.tokens
        ]
        name = group.rpartition(".")[2] or group
        made = _composed_specimen(document, group, composition.name)
        cards.append(TokenCard(group, name, (", ".join(texts),), composition.name, _id_of(made)))
        specimens += [made] if made is not None else []
    used = referring_properties(document)
    inside = {path for path in document.tokens if _group(path) in groups}
    for path in in_order(document.tokens, (p for p in document.tokens if p not in inside)):
        token = document.tokens[path]
        section = _section(document, path, used.get(path, Counter()))
        made = _specimen(document, path, section)
        values = [
            token.value,
            *(v for m in document.modes if (v := token.modes.get(m)) is not None),
        ]
        texts = [value_text(document, value) for value in values]
        name = path.rpartition(".")[2]
        cards.append(TokenCard(path, name, tuple(texts), section, _id_of(made)))
        specimens += [made] if made is not None else []
    return cards, specimens


def _id_of(specimen: Component | None) -> str:
    return specimen.id if specimen is not None else ""


def _section(document: Document, path: str, used: Counter[str]) -> str:
    """Where a token stands: sizes by what they are used for most."""
    kind = document.tokens[path].kind
    if kind != "dimension":
        return kind
    purposes: Counter[str] = Counter()
    for name, count in used.items():
        purposes[_purpose(name)] += count
    return purposes.most_common(1)[0][0] if purposes else _named_purpose(path)


def _purpose(name: str) -> str:
    if name in _RADII:
        return "radius"
    if name in _STROKES:
        return "stroke"
    return "size" if name == "font-size" else "space"


def _named_purpose(path: str) -> str:
    """Of one that nothing uses: what its name says."""
    lower = path.lower()
    for word, purpose in (("radius", "radius"), ("corner", "radius"), ("stroke", "stroke")):
        if word in lower:
            return purpose
    return "size" if "type" in lower or "font" in lower else "space"


def _component(path: str, root: Node) -> Component:
    return Component(f"specimen {path}", f"Specimen {path}", root)


def _box(style: dict[str, Value], *children: Node) -> Node:
    return Node("specimen", "specimen", "box", Map(style), children)


def _text(content: str, style: dict[str, Value]) -> Node:
    usual: dict[str, Value] = {"content": words(content), "color": _INK, "font-size": 20.0}
    return Node("specimen", "specimen", "text", Map(usual | style))


def _specimen(document: Document, path: str, section: str) -> Component | None:
    """A component that shows what a token is."""
    said = Token(path)
    value = meaning(path, document.token)
    if section == "color":
        return _component(
            path, _box({"fill": said, "width": fixed(CARD), "height": fixed(PICTURE)})
        )
    if section == "family":
        return _component(path, _text("Board now 12:40", {"font-family": said, "max-lines": 1.0}))
    if section == "size":
        return _component(path, _text(_SAMPLE, {"font-size": said}))
    if section == "radius":
        style: dict[str, Value] = dict.fromkeys(_RADII, said)
        style |= {"fill": _PLAIN, "stroke": _INK, "width": fixed(72.0), "height": fixed(48.0)}
        return _component(path, _box(style | dict.fromkeys(FAMILY_MEMBERS["stroke-width"], 1.5)))
    if section == "stroke":
        style = {"width": fixed(96.0), "height": fixed(36.0), "stroke": _INK}
        return _component(path, _box(style | dict.fromkeys(FAMILY_MEMBERS["stroke-width"], said)))
    if section == "space" and isinstance(value, float):
        wide = fixed(min(max(value, 1.0), _LONGEST))
        return _component(path, _box({"fill": _INK, "width": wide, "height": fixed(16.0)}))
    if section == "shadow":
        return _component(path, _shadowed(said))
    if section == "number" and isinstance(value, float):
        weight = {"font-weight": said} if 100 <= value <= 1000 else {}
        sample = _SAMPLE if weight else f"{value:g}"
        return _component(path, _text(sample, dict(weight)))
    return None


def _shadowed(said: Value) -> Node:
    return _box(
        {"fill": _PLAIN, "width": fixed(84.0), "height": fixed(40.0), "shadow": said}
        | dict.fromkeys(_RADII, 6.0)
    )


def _composed_specimen(document: Document, group: str, kind: str) -> Component | None:
    rows = COMPOSITIONS[kind].rows
    style: dict[str, Value] = {
        name: Token(f"{group}.{member}")
        for member, names in rows.items()
        for name in names
        if f"{group}.{member}" in document.tokens
    }
    if kind == "type":
        return _component(group, _text("Board now", style))
    if kind == "border":
        size: dict[str, Value] = {"width": fixed(96.0), "height": fixed(40.0)}
        return _component(group, _box(style | size))
    return None
