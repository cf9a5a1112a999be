"""What can be found or done by name: every action, component, screen, token, part and value."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from typing import NamedTuple

from outgrowth.core.document.records import Component, walk
from outgrowth.core.document.variants import Variant, offered, variants
from outgrowth.core.edits.at_reach import decider
from outgrowth.core.resolve.ladder import inspect
from outgrowth.workspace import measures
from outgrowth.workspace.commands import (
    instance_commands,
    selection_commands,
    style_commands,
    text_commands,
    variant_commands,
)
from outgrowth.workspace.commands.action import Action
from outgrowth.workspace.commands.reasons import needed, why_off
from outgrowth.workspace.reaching import in_all
from outgrowth.workspace.team import LibraryView
from outgrowth.workspace.text_search import has_words, means_words
from outgrowth.workspace.views.status_text import count_text
from outgrowth.workspace.views.typed_values import typed_values
from outgrowth.workspace.workspace import Workspace

# What is tied to a property most often, as a person would say it.
_TIED = {
    "content": "the words",
    "component": "the component",
    "shown": "showing it",
    "fill": "the fill",
    "color": "the colour",
}
# Variants that are not offered and can be found by name.
_MOST_VARIANTS = 40


def variant_text(component: Component, variant: Variant) -> str:
    """A variant by the names of its values: “Primary · hover”."""
    values = (axis.value(variant[axis.id]) for axis in component.axes)
    return " · ".join(value.name for value in values if value is not None)


def candidates(
    workspace: Workspace,
    actions: Iterable[Action],
    values: Iterable[tuple[str, Callable[[], object]]],
    show_token: Callable[[str], object],
) -> list[Candidate]:
    """Everything that can be found by name. `values` are the rows of the ledger, each with what
    leads to it; `show_token` leads to a token."""
    document = workspace.document
    suffix = in_all(workspace)
    exchange = exchange_title(workspace)
    results = []
    for a in actions:
        title = a.title + (suffix if a.of_all else "")
        title, can = exchange if exchange and a.id == "exchange" else title, a.enabled()
        kind = a.shortcut or "action" if can else needed(a.id)
        results.append(Candidate(title, kind, a.run, can, why="" if can else why_off(a)))
    if workspace.offer is not None:
        results.append(Candidate(workspace.offer.title, "offered", workspace.take_offer))
    for owner in document.owners():
        kind = "component" if owner.id in document.components else "screen"
        results.append(Candidate(owner.name, kind, partial(workspace.open, owner.id)))
    results += _components(workspace)
    for name, words in _TIED.items():
        for prop in text_commands.tie_choices(workspace, name):
            command = partial(text_commands.tie, workspace, name, prop)
            results.append(Candidate(f"Tie {words} to {prop.name}", "property", command))
    component = workspace.component
    for axis in component.axes if component is not None else ():
        if axis.driver == "none":
            command = partial(variant_commands.variant_like_this, workspace, axis.id)
            results.append(
                Candidate(f"New {axis.name} that starts as this variant", "variant", command)
            )
    if component is not None:
        hidden = [v for v in variants(component) if not offered(component, v)]
        for variant in hidden[:_MOST_VARIANTS]:
            command = partial(variant_commands.offer, workspace, variant, True)
            results.append(
                Candidate(
                    f"Offer the variant {variant_text(component, variant)}", "variant", command
                )
            )
    if workspace.owner is not None:
        for node in walk(workspace.owner.root):
            path = () if node is workspace.owner.root else (node.id,)
            results.append(Candidate(node.name, "part here", partial(workspace.select, path)))
    results += [Candidate(title, "value of the selection", command) for title, command in values]
    for token in sorted(document.tokens):
        results.append(Candidate(token, "token", partial(show_token, token)))
    return results


def typed_candidates(workspace: Workspace, text: str) -> list[Candidate]:
    """What a typed text would set of the selection: “gap 12”."""
    return [
        Candidate(title, "the selection", partial(style_commands.set_style, workspace, values))
        for title, values in typed_values(workspace, text)
    ]


def team_candidates(
    workspace: Workspace,
    libraries: Iterable[LibraryView],
    show_part: Callable[[str, str], object],
) -> list[Candidate]:
    """The parts of libraries that the file has not yet; `show_part` leads to one."""
    return [
        Candidate(
            component.name, view.library.name, partial(show_part, view.library.id, component.id)
        )
        for view in libraries
        if view.state is not None
        for component in view.state.document.in_order()
        if component.id not in workspace.document.components
    ]


def _components(workspace: Workspace) -> list[Candidate]:
    """Placing each component here, or letting the selected instance follow it."""
    exchanging = bool(instance_commands.exchanged_paths(workspace))
    followed = selection_commands.component_here(workspace) if exchanging else None
    every = f"Exchange every {selection_commands.short(followed)}" if followed is not None else ""
    results, everywhere = [], []
    for component in workspace.document.in_order():
        if component.id == workspace.selection.owner:
            continue
        name = selection_commands.short(component)
        put = partial(instance_commands.place, workspace, component.id)
        results.append(Candidate(f"Place {name} here", "place", put))
        if followed is None or component is followed:
            continue
        count = measures.places_of(workspace, followed.id)
        command = partial(instance_commands.exchange, workspace, component.id, everywhere=True)
        title, kind = f"{every} for {name}", f"exchange, {count_text(count, 'place')}"
        everywhere.append(Candidate(title, kind, command, family=f"{every} for …"))
    if everywhere:
        why = f"“{every} for …” needs the name of what comes instead: type it too."
        results.append(Candidate(f"{every} for …", "type what for", _nothing, False, why=why))
    return results + exchange_candidates(workspace) + everywhere


def _nothing() -> None:
    """What is only told of does nothing."""


def exchange_title(workspace: Workspace) -> str:
    """What exchanging the selected instances is called, of which all can be chosen by picture;
    empty where none is selected."""
    followed = selection_commands.component_here(workspace)
    if followed is None or not instance_commands.exchanged_paths(workspace):
        return ""
    return f"Exchange {selection_commands.short(followed)} for …"


def exchange_candidates(workspace: Workspace) -> list[Candidate]:
    """What the selected instances can follow instead: where a slot decides it, what is on its
    shortlist first."""
    paths = instance_commands.exchanged_paths(workspace)
    if not paths:
        return []
    document, place = workspace.document, selection_commands.place_of(workspace, paths[0])
    inspection = inspect(document, place)
    followed = inspection.value("component") if inspection is not None else None
    opened = decider(document, place, "component").opened
    listed = opened.shortlist if opened is not None else ()
    family = exchange_title(workspace)
    results = []
    for component in sorted(document.in_order(), key=lambda c: c.id not in listed):
        if component.id not in (workspace.selection.owner, followed):
            swap = partial(instance_commands.exchange, workspace, component.id)
            name = selection_commands.short(component)
            results.append(Candidate(f"Exchange for {name}", "exchange", swap, family=family))
    return results


class Candidate(NamedTuple):
    """Something that can be found: what it is called, what it is, and what picking it does."""

    title: str
    kind: str
    run: Callable[[], object]
    enabled: bool = True
    family: str = ""
    """The title of what offers all of its kind by picture; empty where nothing does."""
    why: str = ""
    """Why it can't be done now, as a sentence."""

    @property
    def described(self) -> str:
        """What it is found by; what it waits for is no word for it."""
        return f"{self.title} {self.kind}" if self.enabled else self.title


def ranked(candidates: list[Candidate], text: str) -> list[Candidate]:
    """Those whose title or kind has all the typed words, titles that begin with it first; after
    them those that are called otherwise here. One of a family is listed where the words are its
    own, and not those of all its family."""
    shown = [c for c in candidates if not c.family or not means_words(c.family, text)]
    first = next(iter(text.lower().split()), "")

    def rank(match: Candidate) -> tuple[bool, bool, bool]:
        title = match.title.lower()
        said = has_words(match.described, text)
        return not said, not title.startswith(first), not match.enabled

    return sorted(
        (c for c in shown if means_words(c.described, text)),
        key=rank,
    )
