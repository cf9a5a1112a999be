"""The colours that a file uses without a name: what the next part is most likely to have too."""

from __future__ import annotations

from collections import Counter

from outgrowth.core.color import Color
from outgrowth.core.document.properties import INK
from outgrowth.core.document.records import Document, Owner
from outgrowth.core.edits.all_values import stated_values
from outgrowth.core.memo import ByIdentity

_MOST = 9
_PAPER = Color(1.0, 1.0, 1.0)


def _colors_in(owner: Owner) -> Counter[Color]:
    values = (value for _, _, value in stated_values(owner))
    return Counter(value for value in values if isinstance(value, Color) and value.alpha > 0)


_counted = ByIdentity(_colors_in, 4096)


def used_colors(document: Document) -> tuple[Color, ...]:
    """Paper and ink, then the colours that are said most often and are no token's, at most nine
    in all."""
    counts: Counter[Color] = Counter()
    for owner in document.owners():
        counts.update(_counted(owner))
    named = {token.value for token in document.tokens.values() if isinstance(token.value, Color)}
    ordered = dict.fromkeys((_PAPER, INK, *[color for color, _ in counts.most_common()]))
    return tuple(color for color in ordered if color not in named)[:_MOST]
