"""A sheet of trials: an owner's variants × contents × rooms, each drawn and looked at."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from itertools import islice
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.keeping import KeptTrial
from outgrowth.core.document.records import Component, Document, Owner
from outgrowth.core.document.rooms import room_axes, room_steps
from outgrowth.core.document.variants import Variant, default_variant, holds, offered, variants
from outgrowth.core.layout import Layout
from outgrowth.core.layout.placed import Placed
from outgrowth.core.layout.rectangles import locate, locate_some
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import instances_of
from outgrowth.core.trials.breaks import Break, Drawing, Usual, breaks
from outgrowth.core.trials.contents import AS_IS, TrialContent, own, shipped, with_content
from outgrowth.core.trials.rooms import OWN_ROOM, Room, Tailor, room_named

MOST_VARIANTS = 60
"""Of a component with more, the first so many are tried."""
_NARROWEST, _NEAR, _WIDEST = 1.0, 1.0, 4000.0
_SAME = 0.5


class Trial(NamedTuple):
    """What is tried: a variant of the owner (of a screen: none), a content, a room."""

    variant: Variant
    content: TrialContent
    room: Room


class TrialCell(NamedTuple):
    """A trial that was drawn: what is seen, and what breaks in it."""

    trial: Trial
    scene: SceneNode
    placed: Placed
    breaks: tuple[Break, ...]

    @property
    def new(self) -> tuple[Break, ...]:
        """What breaks by what is tried, and not without it."""
        return tuple(b for b in self.breaks if not b.before)


class Trials:
    """Draws trials; remembers of each what it made of it as long as nothing it holds changes."""

    def __init__(self, layout: Layout) -> None:
        self._resolver = Resolver()
        self._layout = layout
        self._tailor = Tailor()
        self._last: tuple[tuple[Document, Owner, Variant], tuple[Usual, float]] | None = None
        self._contents: dict[tuple[int, str, TrialContent], tuple[Document, Document]] = {}

    def cell(self, document: Document, owner: Owner, trial: Trial) -> TrialCell | None:
        """One trial; None where a screen has nothing to show."""
        designed = self._designed(document, owner, trial.variant)
        if designed is None:
            return None
        base, width = designed
        width = width * 2 if trial.room.double else trial.room.width
        drawn = self._drawn(document, owner, trial, width)
        if drawn is None:
            return None
        parts = tuple(locate(*drawn, owner.name))
        return TrialCell(trial, *drawn, breaks(Drawing(parts, width), base))

    def cells(
        self, document: Document, owner: Owner, trials: Iterable[Trial]
    ) -> Iterator[TrialCell | None]:
        """All trials, one after the other; None where there is nothing to show."""
        return (self.cell(document, owner, trial) for trial in trials)

    def narrowest(self, document: Document, owner: Owner, trial: Trial) -> float:
        """The narrowest width (px) at which nothing breaks that is whole in the usual drawing: by
        halving, to a px, with the trial's content and text. It may be wider than the part is by
        itself; 0 where it breaks at any width."""
        designed = self._designed(document, owner, trial.variant)
        drawn = self._drawn(document, owner, trial._replace(room=OWN_ROOM), 0.0)
        if designed is None or drawn is None:
            return 0.0
        base = designed[0]
        low, high = _NARROWEST, max(drawn[1].width, _NARROWEST + 1)
        while not self._holds(document, owner, trial, high, base):
            low, high = high, high * 2
            if high > _WIDEST:
                return 0.0
        while high - low > _NEAR:
            middle = round((low + high) / 2)
            if middle in (low, high):
                break
            if self._holds(document, owner, trial, middle, base):
                high = middle
            else:
                low = middle
        return float(high)

    def _holds(
        self, document: Document, owner: Owner, trial: Trial, width: float, base: Usual
    ) -> bool:
        room = trial.room._replace(width=width, double=False)
        drawn = self._drawn(document, owner, trial._replace(room=room), width)
        if drawn is None:
            return True
        drawing = Drawing(tuple(locate(*drawn, owner.name)), width)
        return all(b.before for b in breaks(drawing, base))

    def _designed(
        self, document: Document, owner: Owner, variant: Variant
    ) -> tuple[Usual, float] | None:
        """An owner as it was designed, and how wide it is; kept for the cells beside."""
        key = document, owner, variant
        if self._last is not None and all(a is b for a, b in zip(self._last[0], key, strict=True)):
            return self._last[1]
        drawn = self._drawn(document, owner, Trial(variant, AS_IS, OWN_ROOM), 0.0)
        if drawn is None:
            return None
        usual = Usual(Drawing(tuple(locate(*drawn, owner.name)))), drawn[1].width
        self._last = key, usual
        return usual

    def _drawn(
        self, document: Document, owner: Owner, trial: Trial, width: float
    ) -> tuple[SceneNode, Placed] | None:
        changed = self._with_content(document, owner.id, trial.content)
        scene: SceneNode | None
        if isinstance(owner, Component):
            # Where a room is given, it decides what is set by it.
            rtl, choices = trial.room.rtl, tuple(sorted(trial.variant.items()))
            scene = (
                self._resolver.instance(changed, InstanceInput(owner.id, choices, rtl=rtl))
                if width
                else self._resolver.variant(changed, owner.id, trial.variant, rtl=rtl)
            )
        else:
            screen = changed.screens[owner.id]
            scene = self._resolver.screen(changed, screen, rtl=trial.room.rtl)
        if scene is None:
            return None
        scene = self._tailor.as_in(trial.room, scene)
        if not width:
            return self._layout.view(scene)
        scene = self._tailor.as_wide(scene, width)
        return self._layout.view(scene, width)

    def _with_content(self, document: Document, owner: str, content: TrialContent) -> Document:
        """Kept for the last document only: a sheet asks for each content many times."""
        if content is AS_IS:
            return document
        key = id(document), owner, content
        cached = self._contents.get(key)
        if cached is None:
            if self._contents and next(iter(self._contents.values()))[0] is not document:
                self._contents.clear()
            cached = self._contents[key] = document, with_content(document, owner, content)
        return cached[1]


def all_trials(
    document: Document,
    owner: Owner,
    contents: Sequence[TrialContent],
    rooms: Sequence[Room],
) -> list[Trial]:
    """The trials of a sheet: of each variant that is offered (a screen has the one), each
    content in each room, the rooms running fastest. What its room sets of a part is tried by
    the rooms, and is no variant of its own."""
    faces: list[Variant] = [Map()]
    if isinstance(owner, Component):
        usual = {axis.id: axis.default for axis in room_axes(owner)}
        faces_offered = (v for v in variants(owner) if offered(owner, v) and holds(usual, v))
        faces = list(islice(faces_offered, MOST_VARIANTS))
    return [Trial(v, c, r) for v in faces for c in contents for r in rooms]


def widths_of_rooms(owner: Owner, layout: Layout) -> list[float]:
    """The widths (px) at which what its room sets of a component is tried: where each value begins,
    and just before."""
    results: set[float] = set()
    for axis in room_axes(owner):
        unit = layout.unit_of_room(axis.unit)
        for step in room_steps(axis)[1:] if axis.side == "width" else ():
            begins = math.ceil(step.least * unit)
            results |= {float(begins - 1), float(begins)}
    return sorted(results)


def used_widths(
    document: Document, owner: Owner, layout: Layout, resolver: Resolver | None = None
) -> list[float]:
    """The widths (px) at which a component stands on the screens of a file, each once."""
    resolver, widths = resolver or Resolver(), set[float]()
    for screen in document.screens_in_order():
        scene, placed = layout.view(resolver.screen(document, screen))
        paths = instances_of(scene, (owner.id,))
        for part in locate_some(scene, placed, "", paths):
            widths.add(round(part.rect.width, 1))
    results: list[float] = []
    for width in sorted(widths):
        if not results or width - results[-1] > _SAME:
            results.append(width)
    return results


# --- what a file keeps --------------------------------------------------------------------------


def kept(owner: Owner, trial: Trial) -> KeptTrial:
    """A trial as a file keeps it."""
    return KeptTrial(
        owner.id,
        trial.content.id,
        trial.room.id,
        trial.variant,
        trial.room.width if trial.room.id == "width" else 0.0,
        trial.content.words,
    )


def trial_of(document: Document, check: KeptTrial) -> tuple[Owner, Trial] | None:
    """What a kept trial tries now; None where its owner, content or room is not there (any
    more). A variant that is gone is the nearest that is left."""
    owner = document.owner(check.owner)
    room = room_named(check.room, check.width)
    content = own(check.content, check.words) if check.words else shipped(check.content)
    if owner is None or room is None or content is None:
        return None
    variant: Variant = Map()
    if isinstance(owner, Component):
        variant = default_variant(owner)
        values = {a.id: v for a in owner.axes if a.value(v := check.variant.get(a.id, ""))}
        variant = variant.update(values)
        if not offered(owner, variant):
            fitting = (v for v in variants(owner) if offered(owner, v) and holds(values, v))
            variant = next(fitting, variant)
    return owner, Trial(variant, content, room)
