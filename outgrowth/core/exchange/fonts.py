"""Fonts that a file carries with it, so that it looks the same on every machine."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.records import Asset
from outgrowth.core.text.fonts import (
    FontFile,
    FontRefusal,
    FontSource,
    asked_in_turn,
    describe,
    describe_with_coverage,
)

_LARGEST = 32 * 1024 * 1024
_MEDIA = {".ttf": "font/ttf", ".otf": "font/otf"}


def read_font(data: bytes, name: str) -> tuple[FontFile, Asset]:
    """What a font file says of itself, and what the document is to hold. Raises FontRefusal."""
    suffix = name[-4:].lower()
    if suffix not in _MEDIA:
        raise FontRefusal(f"“{name}” is no font that can be read; TrueType and OpenType can.")
    if len(data) > _LARGEST:
        raise FontRefusal(f"“{name}” is larger than 32 MB; a font for one writing is smaller.")
    return describe(data, name), Asset(name, _MEDIA[suffix], data)


def carried(assets: Map[str, Asset]) -> list[FontSource]:
    """The fonts among a document's assets, in the order in which they are asked for letters that
    others lack; damaged ones are left out."""
    results = []
    for digest, asset in assets.items():
        if asset.media.startswith("font/"):
            try:
                described, covers = describe_with_coverage(asset.data, asset.name)
            except FontRefusal:
                continue
            results.append(FontSource(digest, described, lambda data=asset.data: data, covers))  # type: ignore[misc]  # bound now
    return asked_in_turn(results)
