"""What is said of a colour before the one behind it."""

from __future__ import annotations

from outgrowth.core.color import Color, contrast, over
from outgrowth.core.document.color_pairs import ENOUGH
from outgrowth.core.review.contrast import ENOUGH_FOR_LARGE


def contrast_text(color: Color, backdrop: Color) -> str:
    """The contrast ratio of a colour with what is behind it, and what that is enough for."""
    ratio = contrast(over(color, backdrop), backdrop)
    if ratio >= ENOUGH:
        verdict = "✓ enough for words"
    elif ratio >= ENOUGH_FOR_LARGE:
        verdict = "! enough for large words and shapes only"
    else:
        verdict = "! too little for words"
    return f"{ratio:.1f} : 1 with what is behind ({backdrop.hex}) · {verdict}"
