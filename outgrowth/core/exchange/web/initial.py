"""What a property of CSS is that nobody gives a value, in the elements that we make: what the
runtime's own sheet says of them, else CSS's initial value."""

from __future__ import annotations

_INITIAL = {
    "display": "block",
    "flex": "0 1 auto",
    "opacity": "1",
    "box-shadow": "none",
    "background-color": "transparent",
    "background-image": "none",
    "object-position": "50% 50%",
    "translate": "none",
    "rotate": "none",
    "scale": "none",
    "transform-origin": "50% 50%",
    "position": "relative",
    "overflow": "visible",
    "pointer-events": "auto",
    "align-self": "auto",
    "justify-self": "auto",
    "direction": "ltr",
    "flex-wrap": "nowrap",
    "text-transform": "none",
    "text-decoration-line": "none",
    "white-space": "pre-wrap",
    "order": "0",
    "cursor": "inherit",
    "min-width": "auto",
    "min-height": "auto",
    "max-width": "none",
    "max-height": "none",
    "aspect-ratio": "auto",
    "text-box": "normal",
    "overflow-wrap": "normal",
    "-webkit-line-clamp": "none",
    "-webkit-box-orient": "horizontal",
    "text-overflow": "clip",
    "justify-content": "flex-start",
    "align-items": "flex-start",
    "unicode-bidi": "plaintext",
    "letter-spacing": "0px",
    "font-style": "normal",
    "font-weight": "400",
    "font-size": "1rem",
    "line-height": "1.4",
    "text-align": "start",
    "align-content": "normal",
    "justify-items": "normal",
    "scrollbar-width": "auto",
    "grid-template-columns": "none",
    "grid-template-rows": "none",
    "grid-column": "auto",
    "grid-row": "auto",
    "flex-direction": "row",
    "text-decoration-skip-ink": "auto",
    "width": "auto",
    "height": "auto",
}
_ZERO = ("margin-", "padding-", "border-", "row-gap", "column-gap", "inset")
_AUTO = ("left", "top", "right", "bottom", "inset-inline-start", "inset-inline-end")


def initial(name: str) -> str:
    """What a property is that nobody gives a value."""
    if name in _INITIAL:
        return _INITIAL[name]
    if name in _AUTO:
        return "auto"
    return "0px" if name.startswith(_ZERO) else "initial"
