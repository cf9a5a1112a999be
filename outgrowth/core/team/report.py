"""The differences of two documents as a page with pictures, to be read in any browser."""

from __future__ import annotations

from collections.abc import Iterable
from html import escape
from typing import NamedTuple
from urllib.parse import quote

from outgrowth.core.document.records import Document
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.geometry import Rect
from outgrowth.core.team.pictures import Pair, SizedFragment

_STYLE = """
body { font: 15px/1.45 system-ui, sans-serif; color: #2A241E; background: #FAF6EE;
  margin: 2rem auto; max-width: 70rem; padding: 0 1rem }
h2 { border-bottom: 1px solid #C9BDAB; padding-bottom: .3rem; margin-top: 2.4rem }
figure { display: inline-grid; gap: .4rem; margin: 0 1.2rem 1.2rem 0; vertical-align: top }
figcaption { color: #665B4E }
.pair { display: flex; gap: .8rem; align-items: flex-start; flex-wrap: wrap }
.side { background: #DDD4C4; padding: .6rem; display: grid; gap: .3rem; justify-items: center }
.side img { max-width: 32rem; height: auto }
.side span { font-size: 12px; color: #52483D }
"""


class Chapter(NamedTuple):
    """A component or screen, or (with no owner) the tokens: its name, its version's part that is
    raised, what differs in words, and in pictures."""

    owner: str
    name: str
    level: str
    lines: tuple[str, ...]
    pairs: tuple[Pair, ...] = ()


def page(title: str, chapters: Iterable[Chapter], before: Document, after: Document) -> str:
    """The whole page, which needs nothing besides itself: pictures stand in it as SVG data."""
    body = "".join(_chapter(chapter, before, after) for chapter in chapters)
    name = escape(title)
    return (
        f'<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>{name}</title>'
        f"<style>{_STYLE}</style></head>\n<body><h1>{name}</h1>{body or '<p>Nothing differs.</p>'}"
        "</body></html>\n"
    )


def _chapter(chapter: Chapter, before: Document, after: Document) -> str:
    lines = "".join(f"<li>{escape(line)}</li>" for line in chapter.lines)
    level = f" <small>({escape(chapter.level)})</small>" if chapter.level else ""
    figures = "".join(_figure(pair, before, after) for pair in chapter.pairs)
    return f"<h2>{escape(chapter.name)}{level}</h2><ul>{lines}</ul>{figures}\n"


def _figure(pair: Pair, before: Document, after: Document) -> str:
    sides = _side("before", pair.before, before) + _side("after", pair.after, after)
    name = escape(pair.name or "the only variant")
    return f'<figure><div class="pair">{sides}</div><figcaption>{name}</figcaption></figure>'


def _side(name: str, picture: SizedFragment | None, document: Document) -> str:
    if picture is None:
        return f'<div class="side"><span>{name}: not there</span></div>'
    svg = svg_of(picture.fragment, bounds_of(picture), document.assets)
    # As a picture of its own no script in it could run, whatever a file says.
    data = f"data:image/svg+xml,{quote(svg)}"  # RFC 2397
    return f'<div class="side"><img alt="{name}" src="{data}"><span>{name}</span></div>'


def bounds_of(picture: SizedFragment) -> Rect:
    """Everything of a picture that is drawn, shadows too, and the part's own box."""
    bounds = picture.fragment.bounds
    left, top = min(bounds.x, 0.0), min(bounds.y, 0.0)
    right = max(bounds.x + bounds.width, picture.width)
    bottom = max(bounds.y + bounds.height, picture.height)
    return Rect(left, top, right - left, bottom - top)
