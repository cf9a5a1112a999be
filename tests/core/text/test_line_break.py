"""Line breaking in one pass puts breaks where the rules do."""

from hypothesis import given, settings
from hypothesis import strategies as st
from uniseg.linebreak import line_break, line_break_boundaries

from outgrowth.core.text.line_break import breaks

_RANGES = (
    (0x20, 0x3000),
    (0xA9E0, 0xAC10),
    (0xFF00, 0xFF60),
    (0x1F1E6, 0x1F200),
    (0x1F3FB, 0x1F450),
)
_MORE = "\u4e00\u3041\u3001\u200d\u2014\U0001fffd\U00011005"


def _of_every_class():
    """Six characters of each line breaking class."""
    found = {}
    for character in [chr(c) for a, b in _RANGES for c in range(a, b)] + list(_MORE):
        found.setdefault(line_break(character).value, []).append(character)
    return "".join(c for those in found.values() for c in those[:: max(len(those) // 6, 1)][:6])


# Source: the uniseg package's own rules of UAX #14 (Unicode 16).
@settings(max_examples=1500)
@given(st.text(st.sampled_from(_of_every_class()), min_size=1, max_size=12))
def test_breaks_are_where_the_rules_of_uax_14_put_them(text):
    assert breaks(text) == list(line_break_boundaries(text))
