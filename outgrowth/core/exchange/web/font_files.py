"""The files of the fonts that texts need, what loads them, and the licences that go with them."""

from __future__ import annotations

import io
from collections.abc import Iterable, Iterator
from pathlib import Path

from fontTools.ttLib import TTFont

from outgrowth.core.exchange.output import Files
from outgrowth.core.exchange.slugs import slug
from outgrowth.core.exchange.web.css import css_string
from outgrowth.core.memo import Generations
from outgrowth.core.text import FontFace
from outgrowth.resources import FONTS


def font_stem(face: FontFace) -> str:
    """What a font's files are called among the assets, without what says their format."""
    about = face.described
    slant = "-italic" if about.italic else ""
    return f"{slug(about.family, 'font')}-{about.weight:g}{slant}"


def font_name(face: FontFace) -> str:
    """A font as a script asks for it. Source: CSS Font Loading 3, section 3.3."""
    about = face.described
    slant = "italic " if about.italic else ""
    return f"{slant}{about.weight:g} 1em {css_string(about.family)}"


def font_rule(face: FontFace, folder: str) -> str:
    """The rule that loads a font from a folder: the small file where the browser reads it. Words
    are shown before it has come. Source: CSS Fonts 4, sections 4.3 and 4.9."""
    about = face.described
    sources = [f'url("{folder}/{font_stem(face)}.ttf")']
    if compressed(face):
        sources.insert(0, f'url("{folder}/{font_stem(face)}.woff2") format("woff2")')
    lines = [
        f"font-family: {css_string(about.family)}",
        f"font-weight: {about.weight:g}",
        f"font-style: {'italic' if about.italic else 'normal'}",
        "font-display: swap",
        f"src: {', '.join(sources)}",
    ]
    return "\n".join(["@font-face {", *(f"  {line};" for line in lines), "}"])


def font_files(faces: Iterable[FontFace]) -> Files:
    """The files of fonts by their names, in both formats, with a licence for each family."""
    files: Files = {}
    for face in faces:
        files[f"{font_stem(face)}.ttf"] = face.data
        small = compressed(face)
        if small:
            files[f"{font_stem(face)}.woff2"] = small
        name = f"{slug(face.described.family, 'font')}-licence.txt"
        text = licence(face)
        if text and name not in files:
            files[name] = text.encode()
    return files


_LARGEST_PACKED = 1_000_000  # bytes; it takes some seconds
_compressed: Generations[str, bytes] = Generations(40)


def compressed(face: FontFace) -> bytes:
    """A font as WOFF 2, the same for the same font; empty where it can't be said so, or is too
    large. What was made once is kept. Source: WOFF File Format 2.0."""
    known = _compressed.get(face.key)
    if known is None:
        known = _woff2(face.data) if len(face.data) <= _LARGEST_PACKED else b""
        _compressed.put(face.key, known)
    return known


def _woff2(data: bytes) -> bytes:
    made = io.BytesIO()
    try:
        font = TTFont(io.BytesIO(data), recalcBBoxes=False, recalcTimestamp=False)
        font.flavor = "woff2"
        font.save(made)
    except Exception:  # whatever a damaged font leads to: the browser may read more of it
        return b""
    return made.getvalue()


def licence(face: FontFace) -> str:
    """Under what a font may be handed on: the licence that ships beside it, or what it says of
    itself; empty where it says nothing."""
    shipped = FONTS / Path(face.described.file).name
    if shipped.is_file() and shipped.read_bytes() == face.data:
        return (FONTS / f"LICENSE-{face.described.family.replace(' ', '')}.txt").read_text("utf-8")
    return "\n\n".join([face.described.family, *face.terms, ""]) if face.terms else ""


def font_problems(faces: Iterable[FontFace]) -> Iterator[str]:
    """What whoever hands fonts on should ask about first, as sentences, each family once."""
    told: set[str] = set()
    for face in faces:
        family = face.described.family
        if family in told:
            continue
        if not face.may_be_embedded:
            told.add(family)
            yield f"The font “{family}” says that it must not be put on a page. Ask its maker."
        elif not licence(face):
            told.add(family)
            yield f"The font “{family}” doesn't say under what licence it may be handed on."
