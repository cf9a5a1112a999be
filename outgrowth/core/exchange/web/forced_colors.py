"""What a reader sees who has chosen the colours of all pages (forced colours): shadows are gone
there, our strokes with them, and what is told by a colour alone. Source: CSS Color Adjustment 1,
section 3.1."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import groupby

from outgrowth.core.color import Color
from outgrowth.core.exchange.web.shapes import is_round
from outgrowth.core.exchange.web.sheet import CssRule
from outgrowth.core.resolve.scene import PaintStyle

_RING = "inset 0 0 0 "


def drawn_as(paint: PaintStyle) -> str:
    """What a shape's drawing is to somebody who does not see its colours: "line" where only a
    line is drawn, "area" where none is; empty for both."""
    fill, stroke = (isinstance(c, Color) and c.alpha <= 0 for c in (paint.fill, paint.stroke))
    if fill or is_round(paint):
        return "line"
    return "area" if stroke or not paint.line_width else ""


def forced_strokes(rules: Iterable[CssRule]) -> str:
    """Outlines instead of the strokes of a style sheet's boxes; empty where it has none."""
    shadowed = [(rule.selector, rule.css.get("box-shadow", "")) for rule in rules]
    said = [(selector, _RING in shadow) for selector, shadow in shadowed if shadow]
    if not any(stroked for _, stroked in said):
        return ""
    # What is reached by keys keeps the outline that it has for that.
    kept = [(selector, on) for selector, on in said if on or not selector.startswith(":host")]
    lines = []
    for stroked, group in groupby(kept, key=lambda pair: pair[1]):
        selectors = ",\n  ".join(selector for selector, _ in group)
        outline = "outline: 1px solid CanvasText" if stroked else "outline: none"
        lines += [f"  {selectors} {{", f"    {outline};", "    outline-offset: -1px;", "  }"]
    return "\n".join(["@media (forced-colors: active) {", *lines, "}"])


FORCED_ON_SCREENS = """\
@media (forced-colors: active) {
  main.screen p {
    color: var(--forced-text, CanvasText) !important;
  }
  main.screen svg.line > * {
    filter: brightness(0);
  }
  main.screen svg:not(.line) > * {
    stroke: CanvasText;
  }
  main.screen svg.area > * {
    stroke-width: 1px;
  }
  main.screen [tabindex] {
    outline: 1px solid ButtonText;
  }
  main.screen :focus-visible {
    outline: 3px double CanvasText !important;
    outline-offset: 2px !important;
  }
}
@media (forced-colors: active) and (prefers-color-scheme: dark) {
  main.screen svg.line > * {
    filter: brightness(0) invert(1);
  }
}
"""
"""The same for what stands on a screen itself; in elements the runtime's own sheet says it."""
