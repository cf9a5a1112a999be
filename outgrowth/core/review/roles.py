"""Whether what parts are and what they are called fit what stands around them: a tab in its list,
a panel, a group with a name, a label in a spoken name, and no two buttons that are called alike.

Source: WCAG 2.2, success criteria 2.5.3 (label in name), 4.1.2 (name, role, value) and 2.4.6
(headings and labels); WAI-ARIA 1.2, roles tab (its required context), tabpanel and radiogroup
(whose name is required).
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from functools import partial
from typing import NamedTuple

from outgrowth.core.document.cues import HOLDER
from outgrowth.core.document.records import (
    Component,
    Document,
    Node,
    Owner,
    Path,
    Screen,
    find,
    lineage,
    walk,
)
from outgrowth.core.document.values import FromProperty, Value, is_content, plain
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.layout.rectangles import Located
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.targets import end_of, has_role, heard, is_pressed, said_role
from outgrowth.core.review.views import DrawnView, ReviewContext, part_called
from outgrowth.core.runtime.focus import takes_keys

_WORD = re.compile(r"[^\W_]+")
_GROUPS = ("radiogroup", "tablist")
_SWITCHED = ("shown", "content", "component", "picture")
"""What of a panel another tab changes."""


def role_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """What of an owner does not fit: by its tree, and as it is first drawn."""
    yield from _groups(owner)
    yield from _tapped_items(context.document, owner)
    if isinstance(owner, Component):
        yield from _own_label(owner)
        yield from _panels(context.document, owner)
    view = next(context.views(owner), None)
    if view is not None:
        yield from _tabs(context.document, owner, view)
        pressed = list(_pressed(view))
        # The component itself is told of by what it says first.
        inside = [item for item in pressed if item.part.path or isinstance(owner, Screen)]
        yield from _labels(context.document, owner, inside)
        if isinstance(owner, Screen):
            yield from _alike(context.document, owner, view, pressed)


# --- what stands around -------------------------------------------------------------------------


def _groups(owner: Owner) -> Iterator[Finding]:
    groups = [node for node in walk(owner.root) if said_role(node) in _GROUPS]
    for node in groups:
        if node.style.get("label"):
            continue
        role, path = said_role(node), () if node is owner.root else (node.id,)
        # What is called “row” in the drawing says nothing aloud.
        name = owner.short_name if len(groups) == 1 else node.name
        text = f"“{name}” is a {role} without a spoken name: what it is about is not read aloud."
        mend = Mend(f"say “{name}”", partial(_with_label, Place(owner.id, path), name))
        yield finding("group-without-name", owner.id, path, text, mend)


def _tabs(document: Document, owner: Owner, view: DrawnView) -> Iterator[Finding]:
    """Tabs among the owner's own parts that no list of tabs holds."""
    told: set[Path] = set()
    holders: list[Located] = []
    for part in view.parts:
        del holders[len(part.names) - 1 :]
        around = {held.scene.interaction.role for held in holders}
        holders.append(part)
        if part.scene.interaction.role != "tab" or len(part.path) != 1 or "tablist" in around:
            continue
        box = lineage(owner.root, part.path[0])[-2]
        path: Path = () if box is owner.root else (box.id,)
        if path in told:
            continue
        told.add(path)
        text = (
            f"{part_called(document, owner, part.path)} is a tab and lies in no list of tabs: how "
            "many there are, and which it is, is not read aloud."
        )
        where = part_called(document, owner, path)
        change = partial(_as_list, Place(owner.id, path), box.name)
        mend = Mend(f"make {where} a list of tabs", change) if said_role(box) == "none" else None
        yield finding("tab-without-list", owner.id, part.path, text, mend)


def _tapped_items(document: Document, owner: Owner) -> Iterator[Finding]:
    for node in heard(owner):
        if _role_of(document, node) == "listitem":
            path: Path = () if node is owner.root else (node.id,)
            name = owner.short_name if node is owner.root else node.name
            text = f"“{name}” is a list item and is tapped: no one is told that it can be."
            mend = Mend("make it a button", partial(_with_role, Place(owner.id, path), "button"))
            yield finding("list-item-tapped", owner.id, path, text, mend)


def _panels(document: Document, component: Component) -> Iterator[Finding]:
    """What the tabs of a component change beside themselves, where nothing of it is a panel."""
    tabs = {node.id for node in walk(component.root) if _role_of(document, node) == "tab"}
    for axis in component.axes:
        if axis.id not in _changed_by(document, component, tabs):
            continue
        changed = {
            rule.node[0]
            for rule in component.rules
            if axis.id in rule.when and rule.property in _SWITCHED and rule.node[0] not in tabs
        }
        lines = [lineage(component.root, node_id) for node_id in sorted(changed)]
        if not lines or any(has_role(component, n) for line in lines for n in line[1:]):
            continue
        panel = _held_together(lines, tabs)
        path: Path = (panel.id,)
        called = part_called(document, component, path)
        text = f"The tabs of “{component.name}” change {called}, and it is no panel of theirs."
        change = partial(_with_role, Place(component.id, path), "tabpanel")
        yield finding(
            "panel-without-role", component.id, path, text, Mend("make it a panel", change), axis.id
        )


def _held_together(lines: Sequence[Sequence[Node]], tabs: set[str]) -> Node:
    """The innermost box around several parts that holds no tab; else the first of them."""
    first, *others = lines
    for box in reversed(first[1:-1]):
        inside = {node.id for node in walk(box)}
        if not inside & tabs and all(line[-1].id in inside for line in others):
            return box
    return first[-1]


def _role_of(document: Document, node: Node) -> str:
    followed = document.components.get(str(node.style.get("component")))
    said = said_role(node)
    return said if said != "none" or followed is None else said_role(followed.root)


def _changed_by(document: Document, component: Component, tabs: set[str]) -> set[str]:
    """The component's own axes that its tabs change, by its cues or by theirs."""
    changed = {
        change.name
        for cue in component.behaviour.cues
        if cue.node and cue.node[0] in tabs
        for change in cue.changes
        if not change.at
    }
    for tab in tabs:
        node = find(component.root, tab)
        followed = document.components.get(str(node.style.get("component"))) if node else None
        for cue in followed.behaviour.cues if followed is not None else ():
            changed |= {change.name for change in cue.changes if change.at == (HOLDER,)}
    return changed


def _with_role(place: Place, role: str, document: Document) -> Document:
    return set_properties(document, place, {"role": role})


def _as_list(place: Place, name: str, document: Document) -> Document:
    return set_properties(document, place, {"role": "tablist", "label": name})


def _with_label(place: Place, label: str, document: Document) -> Document:
    return set_properties(document, place, {"label": label})


# --- what they are called -----------------------------------------------------------------------


class _Pressed(NamedTuple):
    """What keys and fingers go to: the part and its place among those of its view, its spoken
    name, and the words in it."""

    part: Located
    number: int
    label: str
    texts: tuple[str, ...]

    @property
    def name(self) -> str:
        """What it is called aloud."""
        return self.label or " ".join(self.texts)


def _pressed(view: DrawnView) -> Iterator[_Pressed]:
    for number, part in enumerate(view.parts):
        if takes_keys(part.scene):
            inside = view.parts[number : end_of(view, number)]
            texts = tuple(_words_of(inner) for inner in inside if inner.scene.kind == "text")
            label = part.scene.interaction.label
            yield _Pressed(part, number, label, tuple(filter(None, texts)))


def _words_of(part: Located) -> str:
    return " ".join(plain(part.scene.layout.style.content).split())


def _spoken(text: str) -> str:
    """A text as it is compared: its words alone, in small letters."""
    return f" {' '.join(_WORD.findall(text.casefold()))} "


def _says(label: str, texts: Sequence[str]) -> bool:
    """Whether a spoken name has some of the words that are seen in it, if any are."""
    seen = [text for text in map(_spoken, texts) if text.strip()]
    return not seen or any(text in _spoken(label) for text in seen)


def _own_label(component: Component) -> Iterator[Finding]:
    label = component.root.style.get("label")
    if not is_pressed(component) or not isinstance(label, str) or not label:
        return
    if _says(label, _first_words(component)):
        return
    words = " ".join(_first_words(component))
    text = f"“{component.name}” is read aloud as “{label}”, and what is seen on it is “{words}”."
    mend = Mend("let its words be its name", partial(_with_label, Place(component.id), ""))
    yield finding("label-in-name", component.id, (), text, mend)


def _first_words(component: Component) -> list[str]:
    """The words of a component as long as no instance says others."""
    return [words for node in walk(component.root) if (words := _stated_words(component, node))]


def _stated_words(component: Component, node: Node) -> str:
    content: Value | None = node.style.get("content")
    if isinstance(content, FromProperty):
        prop = component.property(content.property)
        content = prop.default if prop is not None else None
    return " ".join(plain(content).split()) if is_content(content) else ""


def _labels(document: Document, owner: Owner, pressed: Sequence[_Pressed]) -> Iterator[Finding]:
    for part, _, label, texts in pressed:
        if not label or _says(label, texts):
            continue
        component = document.components.get(part.scene.component)
        own = component.root.style.get("label") if component is not None else ""
        if component is not None and own == label and not _says(label, _first_words(component)):
            continue  # told of the component itself
        called = part_called(document, owner, part.path)
        text = (
            f"{called} is read aloud as “{label}”, and what is seen on it is “{' '.join(texts)}”."
        )
        place = Place(owner.id, part.path)
        mend = Mend("let its words be its name", partial(_with_label, place, ""))
        yield finding("label-in-name", owner.id, part.path, text, mend)


def _alike(
    document: Document, screen: Screen, view: DrawnView, pressed: Sequence[_Pressed]
) -> Iterator[Finding]:
    """Buttons of one name: who hears them one by one can't tell them apart."""
    buttons = [item for item in pressed if item.part.scene.interaction.role == "button"]
    counts = Counter(_spoken(button.name) for button in buttons)
    for name, count in counts.items():
        same = [button for button in buttons if _spoken(button.name) == name]
        if count < 2 or not name.strip():
            continue
        path = min(button.part.path for button in same)
        text = f"{count} buttons of “{screen.name}” are called “{same[0].name}”."
        labels = _told_apart(view, same)
        mend = None
        if labels is not None:
            title = f"say “{labels[0][1]}”, and so on"
            mend = Mend(title, partial(_with_labels, screen.id, labels))
        yield finding("buttons-alike", screen.id, path, text, mend, name.strip())


def _told_apart(view: DrawnView, same: Sequence[_Pressed]) -> tuple[tuple[Path, str], ...] | None:
    """A name for each: its own, and words beside it, the first that are others at each; None
    where all are alike, or there are none."""
    beside = [_words_beside(view, button, same) for button in same]
    for words in zip(*beside, strict=False):
        if len({_spoken(word) for word in words}) == len(same):
            pairs = zip(same, words, strict=True)
            return tuple((b.part.path, f"{b.name}, {word}") for b, word in pairs)
    return None


def _words_beside(view: DrawnView, button: _Pressed, same: Sequence[_Pressed]) -> list[str]:
    """The words of the outermost part around a button that holds none of the others."""
    others = [other.number for other in same if other is not button]
    own = range(button.number, end_of(view, button.number))
    for holder in _around(view, button.number):
        inside = range(holder, end_of(view, holder))
        if not any(other in inside for other in others):
            texts = [view.parts[n] for n in inside if n not in own]
            said = (_words_of(part) for part in texts if part.scene.kind == "text")
            return [words for words in said if words]
    return []


def _around(view: DrawnView, number: int) -> list[int]:
    """The places of the parts that one lies in, the outermost first."""
    line: list[int] = []
    depth = len(view.parts[number].names)
    for n in range(number - 1, -1, -1):
        if len(view.parts[n].names) < depth:
            depth = len(view.parts[n].names)
            line.append(n)
    return line[::-1]


def _with_labels(owner: str, labels: Sequence[tuple[Path, str]], document: Document) -> Document:
    for path, label in labels:
        document = set_properties(document, Place(owner, path), {"label": label})
    return document
