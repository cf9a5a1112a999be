"""The style elements and style attributes of a drawing: what they say of each element.

Source: SVG 2, section 6 (styling); CSS Syntax 3 by tinycss2, Selectors 4 by cssselect2; CSS
Cascade 4, section 6 (importance, specificity, order); Media Queries 4, section 3. What can't be
taken over is left out and told: it is never guessed.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import NamedTuple
from xml.etree.ElementTree import Element

import tinycss2
from cssselect2 import ElementWrapper, Matcher
from cssselect2.compiler import CompiledSelector
from cssselect2.parser import CombinedSelector, SelectorError, parse
from tinycss2.ast import AtRule, Declaration, Node, ParseError, QualifiedRule

INHERITED = (
    "color",
    "fill",
    "fill-opacity",
    "fill-rule",
    "stroke",
    "stroke-width",
    "stroke-opacity",
    "stroke-linecap",
    "stroke-linejoin",
    "stroke-dasharray",
    "stroke-dashoffset",
    "stroke-miterlimit",
    "clip-rule",
    "font-family",
    "font-size",
    "font-weight",
    "font-style",
    "letter-spacing",
    "text-anchor",
    "visibility",
    "marker-start",
    "marker-mid",
    "marker-end",
)
_OWN = ("opacity", "display", "clip-path", "mask", "filter", "stop-color", "stop-opacity")
KNOWN = frozenset((*INHERITED, *_OWN))
"""The properties that are taken over; what a style says of others is not kept."""
LONGEST_VALUE = 4_000
"""Letters of a value. It is read anew for each element that inherits it."""
_MOST_SELECTORS = 10_000
_MOST_TRIES = 400_000
"""Of selectors that can't be looked up by an id or a class, on elements: a second at the worst."""
_MOST_MATCHES = 400_000
"""Of rules that hold for elements."""
_LONGEST_SHEET = 4_000_000
_MOST_DECLARATIONS = 20_000
_DEEPEST_MEDIA = 8
_MOST_COMBINATORS = 3
"""Of a selector: each may look at all elements around or before one."""
_LONGEST_SELECTOR = 1_000
_MOST_BRACKETS = 8
# Letters of an element's own style that are read.
_LONGEST_STYLE = 2_000_000


class Declared(NamedTuple):
    """What a style says, the words of each property, those that are important apart."""

    usual: dict[str, str]
    important: dict[str, str]


class DrawingStyleSheet:
    """The rules of a drawing's own style elements.

    left_out  what was not taken over, as it stands in the sheet
    """

    def __init__(self, root: Element) -> None:
        self._matcher = Matcher()
        self._count = self._plain_count = self._matched_count = 0
        self._told: list[str] = []
        self._elements: dict[Element, ElementWrapper] = {}
        self._kept: dict[Element, Declared] = {}
        self._own: dict[Element, Declared] = {}
        for text in _sheets(root):
            if text.count(";") + text.count("{") > _MOST_DECLARATIONS:
                self._told.append("a style sheet that is too long")
                continue
            rules = tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)
            self._add(rules, 0)
        if self._count:
            wrapped = ElementWrapper.from_xml_root(root)
            self._elements = {one.etree_element: one for one in wrapped.iter_subtree()}
        if self._plain_count * len(self._elements) > _MOST_TRIES:
            self._elements = {}
            self._told.append("style rules, too many for so many elements")

    @property
    def left_out(self) -> tuple[str, ...]:
        """What was not taken over until now."""
        return tuple(dict.fromkeys(self._told))

    def own(self, element: Element) -> Declared:
        """What an element's style attribute says."""
        kept = self._own.get(element)
        if kept is None:
            kept = self._own[element] = _own_style(element)
        return kept

    def declared(self, element: Element) -> Declared:
        """What the rules say of an element, what wins later."""
        kept = self._kept.get(element)
        if kept is None:
            kept = self._kept[element] = self._matching(element)
        return kept

    def _matching(self, element: Element) -> Declared:
        usual: dict[str, str] = {}
        important: dict[str, str] = {}
        wrapped = self._elements.get(element)
        if self._matched_count > _MOST_MATCHES:
            wrapped = None
        for _, _, pseudo, declared in self._matcher.match(wrapped) if wrapped is not None else ():
            self._matched_count += 1
            if self._matched_count > _MOST_MATCHES:
                self._told.append("style rules, too many for so many elements")
                break
            if pseudo is None:
                usual |= declared.usual
                important |= declared.important
        return Declared(usual, important)

    def _add(self, rules: Iterable[Node], depth: int) -> None:
        for rule in rules:
            if isinstance(rule, QualifiedRule):
                self._add_rule(rule)
            elif isinstance(rule, AtRule):
                self._add_at_rule(rule, depth)
            elif isinstance(rule, ParseError):
                self._told.append("what can't be read")

    def _add_at_rule(self, rule: AtRule, depth: int) -> None:
        name = rule.lower_at_keyword
        if name == "charset":
            return
        if name == "media" and rule.content is not None and depth < _DEEPEST_MEDIA:
            screen = _is_screen(rule.prelude)
            if screen is not None:
                inside = tinycss2.parse_blocks_contents(rule.content) if screen else ()
                self._add(inside, depth + 1)
                return
        self._told.append(f"@{name} {tinycss2.serialize(rule.prelude).strip()}".strip())

    def _add_rule(self, rule: QualifiedRule) -> None:
        declared = _declared(tinycss2.parse_blocks_contents(rule.content))
        for selector in _compiled(rule.prelude):
            self._count += 1
            if self._count > _MOST_SELECTORS:
                self._told.append(f"style rules after the first {_MOST_SELECTORS:,}")
                return
            if selector is None or selector.never_matches:
                self._told.append(tinycss2.serialize(rule.prelude).strip())
            else:
                self._matcher.add_selector(selector, declared)
                self._plain_count += selector.id is None and selector.class_name is None


def _own_style(element: Element) -> Declared:
    text = (element.get("style") or "")[:_LONGEST_STYLE]
    if not text:
        return Declared({}, {})
    return _declared(tinycss2.parse_blocks_contents(text, skip_comments=True))


def _sheets(root: Element) -> Iterator[str]:
    """The style elements that are CSS and for a screen, within what is read at all."""
    left = _LONGEST_SHEET
    for style in root.iter("style"):
        kind = (style.get("type") or "text/css").partition(";")[0].strip().lower()
        if kind in ("text/css", "") and _is_screen(style.get("media") or "") is not False:
            text = (style.text or "")[:left]
            left -= len(text)
            yield text


def _declared(declarations: Iterable[Node]) -> Declared:
    declared = Declared({}, {})
    for declaration in declarations:
        if not isinstance(declaration, Declaration):
            continue
        if declaration.lower_name not in KNOWN:
            continue
        value = tinycss2.serialize(declaration.value).strip()
        if value:
            into = declared.important if declaration.important else declared.usual
            into[declaration.lower_name] = value
    return declared


def _compiled(prelude: list[Node]) -> list[CompiledSelector | None]:
    """The selectors of a rule; None for one that is too long to be tried on all elements. CSS drops
    a rule of which one selector is none (Selectors 4, section 4.1): so do we, and tell."""
    text = tinycss2.serialize(prelude)
    if len(text) > _LONGEST_SELECTOR or text.count("(") > _MOST_BRACKETS:
        return [None]
    try:
        parsed = list(parse(prelude))
        return [
            CompiledSelector(one) if _combinators(one.parsed_tree) <= _MOST_COMBINATORS else None
            for one in parsed
        ]
    except SelectorError:
        return [None]


def _combinators(tree: object) -> int:
    """How many parts a selector goes through."""
    count = 0
    while isinstance(tree, CombinedSelector):
        tree, count = tree.left, count + 1
    return count


def _is_screen(query: str | list[Node]) -> bool | None:
    """Whether a list of media queries holds for a screen; None where it depends on what is not
    known when a drawing is placed: a width, a preference."""
    text = query if isinstance(query, str) else tinycss2.serialize(query)
    answers = [_is_one_screen(one) for one in text.lower().split(",")]
    if True in answers:
        return True
    return None if None in answers else False


def _is_one_screen(query: str) -> bool | None:
    words = query.split()
    negated = words[:1] == ["not"]
    if words[:1] in (["not"], ["only"]):
        words = words[1:]
    if not words:
        return True if not negated else None
    if words[0] in ("all", "screen"):
        holds = True if len(words) == 1 else None
    elif words[0].isidentifier():
        holds = False  # print, speech, and what browsers don't know
    else:
        holds = None
    return holds if holds is None or not negated else not holds


# --- values -------------------------------------------------------------------------------------


def reference_of(text: str) -> tuple[str, str] | None:
    """The id that `url(#id)` refers to in the drawing itself, and what stands behind it; None for
    what refers to nothing, or to something outside."""
    parts = tinycss2.parse_component_value_list(text, skip_comments=True)
    parts = [part for n, part in enumerate(parts) if n or part.type != "whitespace"]
    if not parts or parts[0].type != "url" or not parts[0].value.startswith("#"):
        return None
    return parts[0].value[1:], tinycss2.serialize(parts[1:]).strip()


def first_family(text: str) -> str:
    """The first of a list of font families, as its font is called."""
    words = []
    for part in tinycss2.parse_component_value_list(text, skip_comments=True):
        if part.type == "literal" and part.value == ",":
            break
        if part.type in ("ident", "string"):
            words.append(part.value)
    return " ".join(words)
