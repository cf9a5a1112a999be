"""Screens as pages made of the elements: markup, a style sheet, and what the screen itself does."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape
from typing import NamedTuple

from outgrowth.core.document.records import Screen
from outgrowth.core.document.types import Json
from outgrowth.core.exchange.web.modules import javascript
from outgrowth.core.exchange.web.sides import EDGE_INSET

# Elements without an end tag. Source: HTML, 13.1.2 (void elements).
_VOID = frozenset({"img"})
# What stands on a page that may have a style sheet of its own: only the screen is meant. What the
# screen says of its own root, by `main` alone, wins over what is usual.
SCREEN_BASE = """html,
body {
  height: 100%;
  margin: 0;
}
:where(main.screen) {
  align-items: flex-start;
  box-sizing: border-box;
  justify-content: flex-start;
  position: relative;
  direction: ltr;
}
main.screen :is(div, img, i, u) {
  align-items: flex-start;
  box-sizing: border-box;
  direction: ltr;
  justify-content: flex-start;
  margin: 0;
  padding: 0;
  position: relative;
}
:where(main.screen:dir(rtl)) {
  direction: rtl;
}
main.screen :is(div, img, i, u):dir(rtl) {
  direction: rtl;
}
main.screen p {
  all: initial;
  box-sizing: border-box;
  cursor: inherit;
  display: block;
  font-size: 1rem;
  line-height: 1.4;
  pointer-events: inherit;
  position: relative;
  unicode-bidi: plaintext;
  visibility: inherit;
  white-space: pre-wrap;
}
main.screen p:empty::before {
  content: "\\200b";
}
main.screen p b {
  font-weight: 700;
}
main.screen p b.own {
  font-weight: inherit;
}
main.screen i[id$="-edge"] {
  border: 0 solid;
  pointer-events: none;
  position: absolute;
}
main.screen u {
  display: block;
  text-decoration: none;
}
main.screen svg {
  height: 100%;
  left: 0;
  overflow: visible;
  position: absolute;
  top: 0;
  width: 100%;
}
main.screen h1.spoken {
  clip-path: inset(50%);
  height: 1px;
  margin: 0;
  overflow: hidden;
  position: absolute;
  white-space: nowrap;
  width: 1px;
}
main.screen ellipse {
  cx: 50%;
  cy: 50%;
  transform-box: fill-box;
  transform-origin: center;
}
"""


class Page(NamedTuple):
    """A screen's page, style sheet and script, and what could not be said, as sentences."""

    html: str
    css: str
    javascript: str
    problems: tuple[str, ...] = ()


def markup(node: Json, indent: str) -> Iterator[str]:
    """A template element as lines of HTML."""
    if isinstance(node, str):
        yield indent + escape(node)
        return
    assert isinstance(node, list)
    head, *remainder = node
    tag, _, name = str(head).partition("#")
    attributes = f' id="{name}"' if name else ""
    if "-" in tag:
        # A part of a screen is as wide as that says; one that stands in any page, as there is room.
        attributes += f' part="{name}"'
    children: list[Json] = []
    for item in remainder:
        if isinstance(item, dict):
            attributes += "".join(_attribute(key, value) for key, value in item.items())
        else:
            children.append(item)
    if tag in _VOID:
        yield f"{indent}<{tag}{attributes}>"
    elif tag == "p" or all(isinstance(child, str) for child in children):
        inside = "".join(_in_a_line(child) for child in children)
        yield f"{indent}<{tag}{attributes}>{inside}</{tag}>"
    else:
        yield f"{indent}<{tag}{attributes}>"
        for child in children:
            yield from markup(child, indent + "  ")
        yield f"{indent}</{tag}>"


def _in_a_line(node: Json) -> str:
    """A run of words, where every space counts."""
    if not isinstance(node, list):
        return escape(str(node))
    tag, *remainder = node
    inside = "".join(_in_a_line(child) for child in remainder if not isinstance(child, dict))
    attributes = "".join(
        _attribute(*pair) for item in remainder if isinstance(item, dict) for pair in item.items()
    )
    return f"<{tag}{attributes}>{inside}</{tag}>"


def _attribute(key: str, value: Json) -> str:
    if key == "src" and str(value).startswith("assets/"):
        value = f"../{value}"
    return (
        f" {key}" if value == "" and key not in ("alt", "src") else f' {key}="{escape(str(value))}"'
    )


def page(
    screen: Screen,
    name: str,
    prefix: str,
    template: list[Json],
    css: str,
    definition: dict[str, Json],
    direction: str = "",
) -> Page:
    """The files of a screen. `name` is what they are called, `direction` (ltr, rtl) how it reads,
    where it says so."""
    body = "\n".join(line for node in template for line in markup(node, "      "))
    if "heading" not in {one.get("role") for one in definition.get("access", [])}:  # type: ignore[union-attr]  # entries
        heading = f'<h1 class="spoken" id="{name}-words">{escape(screen.name)}</h1>'
        body = f"      {heading}\n{body}"
    # Only what clears the edges of a device may lie under them.
    fit = ", viewport-fit=cover" if EDGE_INSET in css else ""
    html = f"""<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1{fit}">
    <title>{escape(screen.name)}</title>
    <link rel="stylesheet" href="../tokens.css">
    <link rel="stylesheet" href="../elements.css">
    <link rel="stylesheet" href="screen.css">
    <link rel="stylesheet" href="{name}.css">
    <script defer src="{name}.js"></script>
    <script defer src="../elements.js"></script>
  </head>
  <body>
    <main class="screen" id="{name}-screen"{f' dir="{direction}"' if direction else ""}>
{body}
    </main>
  </body>
</html>
"""
    screen_data = javascript(definition, "", 0)
    script = f"globalThis.{prefix}Screen = {screen_data};\n"
    return Page(html, css + "\n", script)
