"""What assistive technology is told: roles, spoken names, and the order of the focus.

Source: WCAG 2.2, success criteria 4.1.2 (name, role, value), 1.1.1 (non-text content) and 2.4.3
(focus order).
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from itertools import pairwise

from outgrowth.core.document.records import Component, Document, Node, Owner, Path, walk
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.nodes import move_node
from outgrowth.core.layout.rectangles import Located
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.finding import Finding, Mend
from outgrowth.core.review.kinds import finding
from outgrowth.core.review.meanings import meaning_findings, role_mends
from outgrowth.core.review.targets import has_role, heard, is_pressed
from outgrowth.core.review.views import DrawnView, ReviewContext, part_called
from outgrowth.core.runtime.focus import takes_keys


def name_findings(context: ReviewContext, owner: Owner) -> Iterator[Finding]:
    """What is not said to be what it is; and what the keys reach in another order than the
    eye."""
    yield from spoken_findings(owner)
    for view in context.views(owner):
        yield from _order(context.document, owner, view)
        break  # the tree is that of all variants


def spoken_findings(owner: Owner) -> Iterator[Finding]:
    """What hears a press without a role, or has nothing to be read aloud."""
    if isinstance(owner, Component):
        yield from _roles(owner)
        yield from meaning_findings(owner)
        yield from _unnamed(owner)
    for node in walk(owner.root):
        if node.kind == "image" and not node.style.get("label"):
            text = f"The picture “{node.name}” has no words: it counts as decoration."
            mend = Mend(
                f"say “{node.name}”",
                partial(_spoken, Place(owner.id, (node.id,)), node.name),
            )
            yield finding("picture-without-words", owner.id, (node.id,), text, mend)


def _roles(component: Component) -> Iterator[Finding]:
    for node in heard(component):
        if node.kind == "instance" or has_role(component, node):
            continue
        path: Path = () if node is component.root else (node.id,)
        text = f"{_called(component, node)} can be tapped, but says not what it is: it has no role."
        if node is component.root:
            mend, *others = role_mends(component)
        else:
            place, others = Place(component.id, path), []
            mend = Mend("make it a button", partial(_as_role, place, "button"))
        told = finding("role-missing", component.id, path, text, mend)
        yield told._replace(others=tuple(others))


def _called(component: Component, node: Node) -> str:
    name = f"“{component.name}”"
    return name if node is component.root else f"{node.name} of {name}"


def _as_role(place: Place, role: str, document: Document) -> Document:
    return set_properties(document, place, {"role": role})


def _spoken(place: Place, words: str, document: Document) -> Document:
    return set_properties(document, place, {"label": words})


def _unnamed(component: Component) -> Iterator[Finding]:
    if is_pressed(component) and not _is_named(component):
        last = component.short_name
        text = (
            f"“{component.name}” has no words and no spoken name of its own; each of its instances "
            "needs one."
        )
        mend = Mend(f"say “{last}”", partial(_spoken, Place(component.id), last))
        yield finding("name-missing", component.id, (), text, mend)


def _is_named(component: Component) -> bool:
    if component.root.style.get("label"):
        return True
    texts = (node for node in walk(component.root) if node.kind == "text")
    return any(node.style.get("content") for node in texts)


# --- the order of the focus ----------------------------------------------------------------------


def _order(document: Document, owner: Owner, view: DrawnView) -> Iterator[Finding]:
    """Neighbours in one box, each with something for the keys, of which the later one is read
    first: it lies above, or beside towards the beginning of the line."""
    parts = {part.path: part for part in view.parts if len(part.path) < 2}
    stops = {part.path[0] for part in view.parts if part.path and takes_keys(part.scene)}
    holding = _with_holders(owner, stops)
    for box in walk(owner.root):
        members = [(child.id,) for child in box.children if child.id in holding]
        visible = [parts[path] for path in members if path in parts]
        box_part = parts.get(() if box is owner.root else (box.id,))
        mirrored = box_part is not None and box_part.scene.layout.style.mirrored
        for first_part, second_part in pairwise(visible):
            if not _reads_before(second_part, first_part, mirrored):
                continue
            first = part_called(document, owner, second_part.path)
            second = part_called(document, owner, first_part.path)
            text = f"{first} is read before {second}, and the keys reach it after."
            mend = _moved(owner, box, first_part, second_part)
            yield finding("focus-order", owner.id, second_part.path, text, mend)


def _with_holders(owner: Owner, ids: set[str]) -> set[str]:
    """These parts of an owner, and all boxes that they lie in."""
    holders = {child.id: node.id for node in walk(owner.root) for child in node.children}
    results: set[str] = set()
    for node_id in ids:
        step: str | None = node_id
        while step is not None and step not in results:
            results.add(step)
            step = holders.get(step)
    return results


def _reads_before(first_part: Located, second_part: Located, mirrored: bool) -> bool:
    a, b = first_part.rect, second_part.rect
    if a.bottom <= b.y + 1:
        return True
    on_one_line = a.y < b.bottom - 1 and b.y < a.bottom - 1
    if mirrored:
        return on_one_line and a.x >= b.right - 1
    return on_one_line and a.right <= b.x + 1


def _moved(owner: Owner, box: Node, first_part: Located, second_part: Located) -> Mend | None:
    """In a free box, order is only that of painting; elsewhere it places the parts, so the mend
    is the designer's."""
    if box.style.get("flow") != "free":
        return None
    index = next(n for n, child in enumerate(box.children) if child.id == first_part.path[-1])
    return Mend(
        "let the keys follow the eye", partial(_put, owner.id, second_part.path[-1], box.id, index)
    )


def _put(owner: str, node: str, box: str, index: int, document: Document) -> Document:
    return move_node(document, owner, node, box, index)
