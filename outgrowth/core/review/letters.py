"""Letters as they are set: large enough to read, and of a typeface that is there.

Source: common practice, none else; below 10 px letters are hardly told apart on a display.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from functools import partial
from pathlib import PurePath

from immutables import Map

from outgrowth.core.document.records import Document, Owner, Path
from outgrowth.core.document.values import Token, Value
from outgrowth.core.edits.all_values import revalued_owner
from outgrowth.core.edits.style.pictures import with_asset
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.exchange.fonts import read_font
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.views import ReviewContext, part_called
from outgrowth.core.text import FontBook

LEAST_TYPE = 10.0
"""Px that letters had better have at least."""


def letter_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """Texts of an owner that are too small, typefaces that neither the file nor the machine has,
    letters that no font has, and fonts that do not go with the file."""
    fonts = context.renderer.layout.typesetter.fonts
    small: dict[Path, tuple[float, Place]] = {}
    missing: dict[str, Path] = {}
    there: Counter[str] = Counter()
    lacking: dict[Path, str] = {}
    local: dict[str, Path] = {}
    for view in context.views(owner):
        for part in view.parts:
            if part.scene.kind != "text":
                continue
            style = part.scene.layout.style
            if fonts.missing(style.font_family):
                if len(part.path) <= 1:
                    missing.setdefault(style.font_family, part.path)
            else:
                there[style.font_family] += 1
            if len(part.path) <= 1:
                set_text = part.placed.text
                if set_text is not None and set_text.lacked:
                    lacking.setdefault(part.path, set_text.lacked)
                for face in set_text.faces if set_text is not None else ():
                    if face.is_local:
                        local.setdefault(face.described.family, part.path)
            if style.font_size < LEAST_TYPE and part.path not in small:
                small[part.path] = (
                    style.font_size,
                    Place(owner.id, part.path, view.variant or Map()),
                )
    for path, (size, place) in small.items():
        yield from _small(context.document, owner, path, size, place)
    for family, path in missing.items():
        called = part_called(context.document, owner, path)
        text = (
            f"{called} is set in “{family}”, which neither the file nor this machine has: another "
            "typeface stands in for it. Carry the font in the file, or take another."
        )
        instead = there.most_common(1)[0][0] if there else fonts.families[0]
        change = partial(_in_family, owner.id, family, instead)
        mend = Mend(f"set it in {instead}", change)
        yield finding("family-missing", owner.id, path, text, mend, family)
    for path, letters in lacking.items():
        called = part_called(context.document, owner, path)
        text = (
            f"{called} has letters that no font here has: {_some(letters)}. They are shown as "
            "empty boxes. Carry a font in the file that has them."
        )
        yield finding("letters-missing", owner.id, path, text)
    for family, path in local.items():
        called = part_called(context.document, owner, path)
        text = (
            f"{called} is drawn with “{family}”, which only this machine has: on another one it "
            "looks otherwise."
        )
        mend = Mend(f"carry {family} in the file", partial(_carrying, fonts, family))
        yield finding("font-not-carried", owner.id, path, text, mend, family)


_MOST_LETTERS = 8


def _some(letters: str) -> str:
    """Letters in quotes, not more than can be looked through."""
    more = "…" if len(letters) > _MOST_LETTERS else ""
    return f"“{letters[:_MOST_LETTERS]}{more}”"


def _carrying(fonts: FontBook, family: str, document: Document) -> Document:
    """The document that holds all files of a family that something was drawn with. Raises
    FontRefusal where it can't."""
    for face in fonts.used_faces(family):
        _, asset = read_font(face.data, PurePath(face.described.file).name)
        document = with_asset(document, asset)
    return document


def _small(
    document: Document, owner: Owner, path: Path, size: float, place: Place
) -> Iterator[Finding]:
    inspection = inspect(document, place)
    said = [rung for rung in inspection.ladder("font-size") if rung.wins] if inspection else []
    if len(path) > 1 and not any(rung.source.owner == owner.id for rung in said):
        return  # it is its component's, and told there
    when = next((r.source.when for r in reversed(said) if r.source.owner == owner.id), Map())
    called = part_called(document, owner, path)
    text = f"{called} is {size:.3g} px high; below {LEAST_TYPE:g} px letters are hardly told apart."
    change = partial(_large_enough, place._replace(variant=Map()), when)
    mend = Mend(f"let it be {LEAST_TYPE:g} px", change)
    yield finding("type-small", owner.id, path, text, mend)


def _large_enough(place: Place, when: Map[str, str], document: Document) -> Document:
    return set_properties(document, place, {"font-size": LEAST_TYPE}, when)


def _in_family(owner_id: str, family: str, instead: str, document: Document) -> Document:
    """The document with an owner that says another family wherever it said this one, by itself or
    by a token."""

    def change(_: Path, name: str, value: Value) -> Value:
        said = document.tokens[value.path].value if isinstance(value, Token) else value
        return instead if name == "font-family" and said == family else value

    owner = document.owner(owner_id)
    return document if owner is None else with_owner(document, revalued_owner(owner, change))
