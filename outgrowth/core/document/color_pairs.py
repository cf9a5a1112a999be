"""Which tokens of colours stand on which: words on the ground behind them, as the
trees and rules of a file say it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from immutables import Map

from outgrowth.core.color import Color, contrast
from outgrowth.core.document.records import Component, Document, Node, Owner, Path
from outgrowth.core.document.referring import meaning
from outgrowth.core.document.values import Token

ENOUGH = 4.5
"""The contrast that words need. Source: WCAG 2.2, success criterion 1.4.3."""


class ColorPair(NamedTuple):
    """Words in one token's colour on the ground of another's.

    places  an owner and a node of it for each place, the first of an owner
    """

    ink: str
    ground: str
    places: tuple[tuple[str, Path], ...]


def color_pairs(document: Document) -> list[ColorPair]:
    """The pairs that are used, in the order of their names. The ground of a text is the nearest
    box around it that has a fill of its own; of what a rule says at a reach, both are taken as
    they are there."""
    found: dict[tuple[str, str], dict[str, Path]] = {}
    for owner in document.owners():
        for ink, ground, node in _pairs_in(owner):
            found.setdefault((ink, ground), {}).setdefault(owner.id, node)
    return [
        ColorPair(ink, ground, tuple(places.items()))
        for (ink, ground), places in sorted(found.items())
        if ink in document.tokens and ground in document.tokens
    ]


def _pairs_in(owner: Owner) -> Iterator[tuple[str, str, Path]]:
    reaches: list[Map[str, str]] = [Map()]
    ruled: dict[tuple[Map[str, str], str, str], object] = {}
    if isinstance(owner, Component):
        for rule in owner.rules:
            if len(rule.node) == 1:
                ruled[rule.when, rule.node[0], rule.property] = rule.value
        reaches += list(dict.fromkeys(rule.when for rule in owner.rules))
    for reach in reaches:
        yield from _below(owner.root, "", _Said(ruled, reach), owner)


class _Said(NamedTuple):
    """What nodes are said to be at a reach."""

    ruled: dict[tuple[Map[str, str], str, str], object]
    reach: Map[str, str]

    def of(self, node: Node, name: str) -> object:
        stated = self.ruled.get((self.reach, node.id, name))
        return stated if stated is not None else node.style.get(name)


def _below(node: Node, ground: str, said: _Said, owner: Owner) -> Iterator[tuple[str, str, Path]]:
    fill = said.of(node, "fill")
    if isinstance(fill, Token):
        ground = fill.path
    elif fill is not None and node.kind == "box" and not _is_clear(fill):
        ground = ""
    if node.kind == "text" and ground:
        color = said.of(node, "color")
        if isinstance(color, Token):
            yield color.path, ground, () if node is owner.root else (node.id,)
    for child in node.children:
        yield from _below(child, ground, said, owner)


def _is_clear(fill: object) -> bool:
    return isinstance(fill, Color) and fill.alpha == 0


def pair_contrast(document: Document, pair: ColorPair, mode: str) -> float | None:
    """The contrast of a pair in a mode ("" for the usual values), 1 to 21; None where one of
    them is no opaque colour there. Source: WCAG 2.2, "contrast ratio"."""
    ink, ground = (
        meaning(path, lambda each: document.token(each, mode)) for path in (pair.ink, pair.ground)
    )
    if not isinstance(ink, Color) or not isinstance(ground, Color) or ground.alpha < 1:
        return None
    return contrast(ink, ground)
