"""An SVG file's elements, read without trusting it.

Entities, scripts and whatever points outside the file are refused with a sentence; so is
what is too deep or too much, while it is being read and before it takes memory. Nothing is
ever fetched.
"""

from __future__ import annotations

import io
import re
from collections.abc import Iterator
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import iterparse

from outgrowth.core.refusal import LONGEST_SENTENCE, Refusal, quoted

DEEPEST = 150
"""Levels of groups; a document's trees may be 200 deep."""
MOST_ELEMENTS = 20_000
_LARGEST = 16 * 1024 * 1024
# Quantifiers that give nothing back (`*+`): else spaces without end take time without end.
_OUTSIDE = re.compile(r"url\(\s*+['\"]?+\s*+(?!#|data:image/)|@import", re.IGNORECASE)
_PICTURES = ("image", "feImage")


class SvgRefusal(Refusal):
    """A drawing cannot be used; the message is a sentence for the user."""

    longest = LONGEST_SENTENCE


def read(data: bytes, name: str) -> Element:
    """The root element, tags and attributes without their namespaces.

    Raises SvgRefusal for what is no SVG, damaged, too large, or not to be trusted.
    """
    name = quoted(name, 60)
    if b"<!ATTLIST" in data.replace(b"\0", b""):  # in UTF-16 every other byte is 0
        raise SvgRefusal(f"“{name}” gives attributes to all elements at once; it was not placed.")
    if len(data) > _LARGEST:
        raise SvgRefusal(f"“{name}” is larger than 16 MB; a drawing of that size is not taken.")
    try:
        root = _parsed(data, name)
    except DefusedXmlException as problem:
        raise SvgRefusal(
            f"“{name}” defines entities or points outside itself, so it was not placed."
        ) from problem
    except (ParseError, ValueError, LookupError) as problem:
        if isinstance(problem, SvgRefusal):
            raise
        raise SvgRefusal(f"“{name}” is damaged or cut off: it is not complete XML.") from problem
    if root is None or root.tag != "svg":
        raise SvgRefusal(f"“{name}” is no SVG drawing.")
    for element in root.iter():
        _refuse_unsafe(element, name)
    return root


class _LargePieces(io.BytesIO):
    """Hands out a megabyte at a time, whatever is asked for: the parser begins a tag anew with
    each piece, so that a long one in small pieces takes time without end."""

    def read(self, size: int | None = -1) -> bytes:
        return super().read(1 << 20)


def _parsed(data: bytes, name: str) -> Element | None:
    depth = count = 0
    root: Element | None = None
    for event, element in iterparse(_LargePieces(data), events=("start", "end")):
        if event == "end":
            depth -= 1
            continue
        depth, count = depth + 1, count + 1
        root = element if root is None else root
        _local(element)
        if depth > DEEPEST:
            raise SvgRefusal(
                f"“{name}” nests its groups more than {DEEPEST} deep, so it was not placed."
            )
        if count > MOST_ELEMENTS:
            raise SvgRefusal(
                f"“{name}” has more than {MOST_ELEMENTS:,} elements, so it was not placed."
            )
    return root


def _local(element: Element) -> None:
    """Leaves the local names only: a namespace decides nothing here."""
    element.tag = element.tag.rpartition("}")[2] if isinstance(element.tag, str) else ""
    for key in [k for k in element.attrib if "}" in k]:
        element.attrib.setdefault(key.rpartition("}")[2], element.attrib.pop(key))


def _refuse_unsafe(element: Element, name: str) -> None:
    scripted = element.tag.lower() == "script" or any(
        key.lower().startswith("on") or value.strip().lower().startswith("javascript:")
        for key, value in element.attrib.items()
    )
    if scripted:
        raise SvgRefusal(f"“{name}” carries a script, so it was not placed.")
    if any(_leads_outside(element, *pair) for pair in _texts(element)):
        raise SvgRefusal(
            f"“{name}” refers to something outside itself, so it was not placed. "
            "Nothing was read from there."
        )


def _texts(element: Element) -> Iterator[tuple[str, str]]:
    yield from element.attrib.items()
    if element.tag == "style":
        yield "style", element.text or ""


def _leads_outside(element: Element, key: str, value: str) -> bool:
    address = value.strip()
    if key in ("href", "src") and element.tag != "a":
        own = ("#", "data:image/") if element.tag in _PICTURES else ("#",)
        return bool(address) and not address.lower().startswith(own)
    return bool(_OUTSIDE.search(address))
