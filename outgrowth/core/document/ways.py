"""The ways from screen to screen: which part leads where, by whose cue."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from outgrowth.core.document.cues import Cue, Path, Silence
from outgrowth.core.document.records import Document, Owner, Screen
from outgrowth.core.document.uses import holds_directly


class Way(NamedTuple):
    """A cue that shows another screen.

    screen  where it begins, by id
    end     the screen that it shows, by id
    owner   whose cue it is, by id: the screen's own, or a component's that stands on it
    part    the part of the screen that leads: a path of ids, () for the screen itself
    """

    screen: str
    end: str
    owner: str
    cue: Cue
    part: Path

    @property
    def is_own(self) -> bool:
        """Whether the screen itself says it."""
        return self.owner == self.screen


def ways(document: Document) -> list[Way]:
    """Every way of a file, in the order of its screens and cues. What leads somewhere by the
    same cue from several places of a screen does so from the first."""
    found: dict[tuple[str, str, str, str], Way] = {}
    for screen in document.screens_in_order():
        for owner, path, silenced in _owners_on(document, screen):
            for cue in owner.behaviour.cues:
                if (path, cue.id) in silenced:
                    continue
                for change in cue.changes:
                    if change.act == "go" and change.name in document.screens:
                        way = Way(screen.id, change.name, owner.id, cue, (*path, *cue.node))
                        key = screen.id, change.name, owner.id, cue.id
                        if screen.id != change.name:
                            found.setdefault(key, way)
    return list(found.values())


_Silenced = frozenset[tuple[Path, str]]


def _owners_on(document: Document, screen: Screen) -> Iterator[tuple[Owner, Path, _Silenced]]:
    """A screen and the components that it shows, each at the path where it stands first, with
    the cues that are silent there. One that was met is not gone into again: what is in it leads
    as it did."""
    waiting: list[tuple[Owner, Path, _Silenced]] = [(screen, (), frozenset())]
    met: set[str] = set()
    while waiting:
        owner, path, silenced = waiting.pop(0)
        silent = silenced | _silent_in(path, owner.behaviour.silenced)
        yield owner, path, silent
        for node, component_id in holds_directly(owner):
            inner = document.components.get(component_id)
            here = (*path, node.id)
            known = component_id in met and not any(at[: len(here)] == here for at, _ in silent)
            if inner is not None and not known:
                met.add(component_id)
                waiting.append((inner, here, silent))


def _silent_in(path: Path, silenced: Sequence[Silence]) -> _Silenced:
    return frozenset(((*path, *silence.path), silence.cue) for silence in silenced)


def shared_leaders(found: Sequence[Way]) -> dict[str, list[str]]:
    """The components that lead to the same screens from several: their ids, each with the
    screens that they stand on, in order."""
    standing: dict[str, list[str]] = {}
    for way in found:
        if not way.is_own and way.screen not in standing.setdefault(way.owner, []):
            standing[way.owner].append(way.screen)
    return {owner: screens for owner, screens in standing.items() if len(screens) > 1}


def reached_from(start: str, found: Sequence[Way]) -> set[str]:
    """The screens that can be come to from one, itself included."""
    ends: dict[str, list[str]] = {}
    for way in found:
        ends.setdefault(way.screen, []).append(way.end)
    reached, waiting = {start}, [start]
    while waiting:
        for end in ends.get(waiting.pop(), ()):
            if end not in reached:
                reached.add(end)
                waiting.append(end)
    return reached
