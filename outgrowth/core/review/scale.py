"""The scale that a file's spacing mostly keeps to, and what is off it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from outgrowth.core.document.properties import FAMILY_MEMBERS, FAMILY_OF, family_label, row_of
from outgrowth.core.document.records import Document, Owner, Path
from outgrowth.core.document.values import Token, Value
from outgrowth.core.edits.all_values import revalued_owner, stated_values
from outgrowth.core.edits.tree.trees import with_owner
from outgrowth.core.memo import ByIdentity
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.views import part_called

SPACING = ("gap", "cross-gap", *FAMILY_MEMBERS["padding"])
"""The properties that are spacing."""
_STEPS = (8.0, 5.0, 4.0, 2.0)
_LARGE = 4.0
_MOSTLY = 0.8
_ENOUGH = 20
_NEAR = 1.0
_HINTS: tuple[tuple[tuple[str, ...], tuple[str, ...]], ...] = (
    (("radius", "corner", "round"), FAMILY_MEMBERS["radius"]),
    (("font", "type", "text"), ("font-size",)),
    (("space", "spacing", "gap", "pad", "inset"), SPACING),
)
"""What a token's name says of where it belongs."""


def _spacing(owner: Owner) -> Counter[float]:
    return Counter(
        value
        for _, name, value in stated_values(owner)
        if name in SPACING and isinstance(value, float) and value > 0
    )


_spacing_of = ByIdentity(_spacing, 4096)


def step_of(document: Document) -> float | None:
    """The largest step (px) that most spacing of a file is a multiple of; None where there is
    none, or too little to tell."""
    counts: Counter[float] = Counter()
    for owner in document.owners():
        counts.update(_spacing_of(owner))
    total = sum(counts.values())
    if total < _ENOUGH:
        return None
    for step in _STEPS:
        if sum(n for value, n in counts.items() if value % step == 0) >= _MOSTLY * total:
            return step
    return None


class _Length(NamedTuple):
    """A length (px) that a node states: of which properties, sides or corners of one kind that
    are alike being one."""

    node: Path
    names: tuple[str, ...]
    value: float

    @property
    def label(self) -> str:
        """What it is called: “Padding top and bottom”, or “Radius” where all four are alike."""
        if len(self.names) == 1:
            return row_of(self.names[0]).label
        family = FAMILY_OF[self.names[0]]
        title = family_label(family)
        if len(self.names) == len(FAMILY_MEMBERS[family]):
            return title
        members = [row_of(name).label.removeprefix(title).strip() for name in self.names]
        return f"{title} {', '.join(members[:-1])} and {members[-1]}"

    @property
    def key(self) -> str:
        """Tells it from the other lengths of its node, by the first that is alike: a reason that
        was given for that one stands."""
        return f"{self.names[0]} {self.value:g}"


def _lengths(owner: Owner) -> list[_Length]:
    names: dict[tuple[Path, str, float], list[str]] = {}
    for node, name, value in stated_values(owner):
        if isinstance(value, float) and value > 0:
            alike = names.setdefault((node, FAMILY_OF.get(name, name), value), [])
            if name not in alike:
                alike.append(name)
    found = []
    for (node, family, value), alike in names.items():
        members = FAMILY_MEMBERS.get(family, (family,))
        found.append(_Length(node, tuple(sorted(alike, key=members.index)), value))
    return found


def spacing_findings(document: Document, owner: Owner, step: float) -> Iterator[Finding]:
    """Spacing that is no multiple of the file's step; half of a large step counts as one."""
    finest = step / 2 if step >= _LARGE else step
    for length in _lengths(owner):
        node, names, value = length
        if names[0] not in SPACING or value % finest == 0:
            continue
        nearest = max(round(value / step), 1) * step
        part = part_called(document, owner, node)
        text = (
            f"{length.label} of {part} is {value:g} px; the spacing of this file goes by {step:g}."
        )
        mend = Mend(f"make it {nearest:g} px", partial(_put_all, owner.id, length, nearest))
        yield finding("spacing-off-scale", owner.id, node, text, mend, length.key)


def length_findings(document: Document, owner: Owner) -> Iterator[Finding]:
    """Lengths that are a token's, or within a pixel of it, and not tied to it."""
    tokens = {
        path: token.value
        for path, token in document.tokens.items()
        if token.kind == "dimension" and isinstance(token.value, float)
    }
    if not tokens:
        return
    for length in _lengths(owner):
        node, names, value = length
        fitting = [(abs(of - value), path) for path, of in tokens.items() if _fits(path, names[0])]
        distance, path = min(fitting, default=(_NEAR + 1, ""))
        if distance > _NEAR:
            continue
        part = part_called(document, owner, node)
        phrase = "is the value of" if distance == 0 else f"is within a pixel of {tokens[path]:g},"
        text = f"{length.label} of {part}, {value:g} px, {phrase} {path}, and is not tied to it."
        mend = Mend(f"refer to {path}", partial(_put_all, owner.id, length, Token(path)))
        yield finding(
            "length-equals-token" if distance == 0 else "length-near-token",
            owner.id,
            node,
            text,
            mend,
            length.key,
        )


def _fits(path: str, name: str) -> bool:
    lowered = path.lower()
    for words, names in _HINTS:
        if any(word in lowered for word in words):
            return name in names
    return name in SPACING


def _put_all(owner: str, length: _Length, new: Value, document: Document) -> Document:
    """The document with a length made another, wherever it is one."""
    for name in length.names:
        document = put(owner, length.node, (name, length.value), new, document)
    return document


def put(
    owner: str, node: Path, stated: tuple[str, Value], new: Value, document: Document
) -> Document:
    """The document with one stated value of one node made another; others like it stay."""
    inside = document.owner(owner)
    if inside is None:
        return document

    def change(place: Path, name: str, value: Value) -> Value:
        return new if (place, (name, value)) == (node, stated) else value

    return with_owner(document, revalued_owner(inside, change))
