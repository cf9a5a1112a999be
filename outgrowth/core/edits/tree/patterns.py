"""Several names changed by one pattern: filed, numbered, found and replaced."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from outgrowth.core.document.records import short_name

_KEPT = re.compile(r"…|\.\.\.|\*")
_NUMBER = re.compile(r"#+")


class Named(NamedTuple):
    """Something with a name: its id, and the name, with its folder where it has one."""

    id: str
    name: str


class Renaming(NamedTuple):
    """What something is called, and would be."""

    id: str
    before: str
    after: str


def renamings(those: Iterable[Named], find: str, becomes: str) -> list[Renaming]:
    """What a pattern makes of names, those that it changes only.

    `find` says which are meant: any for "", those that have these words in them, or those that
    look so where it has a star (`Btn *`). `becomes` is the new name; `…` (or `*`) in it stands
    for what the star stood for, else for the name without its folder, and `#` for a running
    number. With words to find and no `…`, only these words become others. A name without a `/`
    stays in its folder.
    """
    wanted = becomes.strip()
    found = [(item, kept) for item in those if (kept := _kept(item.name, find)) is not None]
    if not wanted.replace("/", ""):
        return []
    replaces = bool(find.strip()) and "*" not in find and not _KEPT.search(wanted)
    made: list[Renaming] = []
    for number, (item, kept) in enumerate(found, 1):
        new = _NUMBER.sub(lambda digits, n=number: f"{n:0{len(digits[0])}d}", wanted)  # type: ignore[misc]  # n is bound
        if replaces:
            new = re.sub(re.escape(find.strip()), lambda _, n=new: n, kept, flags=re.IGNORECASE)  # type: ignore[misc]
        else:
            new = _KEPT.sub(lambda _, k=kept: k, new)  # type: ignore[misc]
        made.append(Renaming(item.id, item.name, _filed(item.name, new)))
    return [renaming for renaming in made if renaming.after != renaming.before]


def _kept(name: str, find: str) -> str | None:
    """What of a name a pattern keeps: what its star stood for, else all of it; None for a name
    that is not meant."""
    sought, last = find.strip(), short_name(name)
    if "*" not in sought:
        return last if sought.casefold() in last.casefold() else None
    begin, _, end = sought.partition("*")
    where = name if "/" in sought else last
    match = re.fullmatch(f"{re.escape(begin)}(.*){re.escape(end)}", where, re.IGNORECASE)
    return None if match is None else match[1].strip()


def _filed(before: str, new: str) -> str:
    """A new name in the folder that it says, or where the old one lies."""
    parts = [part.strip() for part in new.split("/")]
    if len(parts) > 1:
        return "/".join(part for part in parts if part)
    return f"{before.removesuffix(short_name(before))}{parts[0]}"


def apart(made: Sequence[Renaming], others: Iterable[str]) -> list[Renaming]:
    """The same with a number behind each name that another has, so that no two are alike."""
    used = set(others)
    numbered: list[Renaming] = []
    for renaming in made:
        names = (renaming.after, *(f"{renaming.after} {n}" for n in range(2, len(used) + 3)))
        after = next(name for name in names if name not in used)
        used.add(after)
        numbered.append(renaming._replace(after=after))
    return numbered
