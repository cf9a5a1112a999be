"""Values of axes of one name that are the same word, spelled in two ways.

Source: common practice, none else."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from outgrowth.core.document.records import AxisValue, Document
from outgrowth.core.edits.variants.axes import rename_value
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding


class _Spelled(NamedTuple):
    component: str
    axis: str
    value: AxisValue


def spelling_findings(document: Document) -> Iterator[Finding]:
    """Values that are spelled otherwise than most of their name are."""
    groups: dict[tuple[str, str], list[_Spelled]] = {}
    for component in document.in_order():
        if document.sharing.read_only(component.id):
            continue
        for axis in component.axes:
            for value in axis.values:
                key = _folded(axis.name), _folded(value.name)
                groups.setdefault(key, []).append(_Spelled(component.id, axis.id, value))
    for group in groups.values():
        counts = Counter(item.value.name for item in group)
        usual = counts.most_common(1)[0][0]
        for item in group if len(counts) > 1 else ():
            if item.value.name != usual:
                yield _apart(document, item, usual)


def _apart(document: Document, item: _Spelled, usual: str) -> Finding:
    component = document.components[item.component]
    axis = component.axis(item.axis)
    assert axis is not None, "it was found there"
    text = (
        f"{axis.name}: {item.value.name} of “{component.name}” is spelled “{usual}” elsewhere: in "
        "the code these are two values."
    )
    taken = any(value.name == usual for value in axis.values)
    rename = partial(_renamed, item.component, item.axis, item.value.id, usual)
    mend = None if taken else Mend(f"call it {usual}", rename)
    about = f"{axis.id}/{item.value.id}"
    return finding("values-spelled-apart", item.component, (), text, mend, about)


def _folded(name: str) -> str:
    return re.sub(r"[\s_-]+", "", name.casefold())


def _renamed(component: str, axis: str, value: str, name: str, document: Document) -> Document:
    return rename_value(document, component, axis, value, name)
