"""How far two colours are apart for the eye."""

from __future__ import annotations

from functools import lru_cache

from outgrowth.core.color.srgb import Color


def prepare() -> None:
    """Reads what measuring needs, which takes a tenth of a second: for a thread, before the first
    colours are measured."""
    import coloraide  # noqa: F401


@lru_cache(maxsize=4096)
def ciede2000(one: Color, other: Color) -> float:
    """ΔE2000, alpha ignored; about 1 is just told apart. Source: CIE 142:2001, by coloraide."""
    # Here and not above: coloraide takes long to import, and most work goes without.
    from coloraide import Color as Measured

    a, b = (Measured("srgb", [c.red, c.green, c.blue]) for c in (one, other))
    return float(a.delta_e(b, method="2000"))
