"""Gathering: which drawings belong together, what is asked of the engine, its answer in words.

The work itself takes seconds; whoever asks for it does it beside the window.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import msgspec

from outgrowth.core.document.everyday_words import driven_by
from outgrowth.core.document.records import Document, Driver, walk
from outgrowth.core.edits.gather import GatheredDrawing, Report, gathered
from outgrowth.workspace.workspace import Workspace

# More would not be read before the first are mended.
_SHOWN_PROBLEMS = 8


def drawing_families(document: Document, first: str = "") -> dict[str, list[GatheredDrawing]]:
    """The drawn parts of the screens, and the components of the file, whose names are paths,
    by the first part of the path; those alone in theirs are left out. Those of the owner
    `first` come first."""
    families: dict[str, list[GatheredDrawing]] = {}
    screens = sorted(document.screens_in_order(), key=lambda screen: screen.id != first)
    for screen in screens:
        for node in walk(screen.root):
            if "/" in node.name and node.kind != "instance":
                family = f"{node.name.split('/')[0].strip()}, on {screen.name}"
                families.setdefault(family, []).append(GatheredDrawing(node.name, node, screen.id))
    for component in document.in_order():
        if "/" in component.name and not component.axes:
            family = f"{component.name.split('/')[0].strip()}, components"
            drawing = GatheredDrawing(component.name, component.root, component.id)
            families.setdefault(family, []).append(drawing)
    return {family: drawings for family, drawings in families.items() if len(drawings) > 1}


class GatherRequest(NamedTuple):
    """What is to be gathered, and how its axes are called and driven."""

    document: Document
    drawings: Sequence[GatheredDrawing]
    names: tuple[str, ...] = ()
    drivers: tuple[Driver | None, ...] = ()


LETTERS_GROW_ANEW = (
    "Letters that grow take their size from the width of the part itself now, no longer from that "
    "of what it stands in: look whether they are as large as you want them."
)


class Stopped(Exception):
    """The work was stopped by hand."""


def renamed(report: Report, axes: Sequence[tuple[str, Driver]]) -> Report:
    """A report whose axes are called and driven as given, in their order (an empty name keeps
    the old one); the rules stay as they were found."""
    component = report.component
    if component is None:
        return report
    changed = tuple(
        driven_by(msgspec.structs.replace(axis, name=name or axis.name), driver)
        for axis, (name, driver) in zip(component.axes, axes, strict=True)
    )
    return report._replace(component=msgspec.structs.replace(component, axes=changed))


def proof_lines(report: Report, colors: tuple[str, str]) -> list[str]:
    """What would become of the drawings, as lines of rich text; `colors` are those of a proof
    that holds and of one that does not."""
    component = report.component
    if component is None:
        problems = [f"! {conflict}" for conflict in report.conflicts[:_SHOWN_PROBLEMS]]
        return ["Nothing can be gathered before this is mended:", *problems]
    remarks = [f"! {report.not_by_room}"] if report.not_by_room else []
    if report.letters_grow_anew:
        remarks.append(f"! {LETTERS_GROW_ANEW}")
    mark, color = ("!", colors[1]) if report.differences else ("✓", colors[0])
    gaps = len(report.missing)
    never = f"{gaps} combinations were never drawn and will not be offered."
    return [
        f"<b>{len(report.drawings)}</b> drawings become <b>1</b> component with "
        f"<b>{len(component.rules)}</b> rules. "
        + (never if gaps else "Every combination was drawn."),
        f"<span style='color:{color}'>{mark} {len(report.differences)} differences</span>, every "
        "property of every drawing compared.",
        *remarks,
        *report.differences[:_SHOWN_PROBLEMS],
    ]


def apply(workspace: Workspace, report: Report) -> bool:
    """Makes the component, lets its instances take the drawings' places, and opens it; whether
    that was done."""
    component = report.component
    name = f"gather {len(report.drawings)} parts"
    if component is None or not workspace.edit(name, lambda document: gathered(document, report)):
        return False
    workspace.open(component.id)
    return True
