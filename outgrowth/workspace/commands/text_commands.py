"""Words and what instances may set: edited where they stand, opened as properties."""

from __future__ import annotations

from outgrowth.core.document.properties import row_of
from outgrowth.core.document.records import ComponentProperty, Document, Path, find
from outgrowth.core.document.values import Content, FromProperty, Shift, Token
from outgrowth.core.edits import at_reach
from outgrowth.core.edits.instances import properties
from outgrowth.core.edits.tree.given_names import is_called_by_words
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.ladder import Inspection, inspect
from outgrowth.workspace import measures
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.commands.selection_commands import fresh_id
from outgrowth.workspace.reaching import all_variants, conditions, here, reach_of
from outgrowth.workspace.workspace import Edit, Workspace


def open_property(workspace: Workspace, name: str) -> None:
    """Opens a value of the selected part to the instances of the component on the bench, within
    the reach."""
    place = workspace.place
    inspection = inspect(workspace.document, place) if place is not None else None
    if place is None or inspection is None or workspace.component is None:
        return
    title = _title(inspection, name)
    reach, new_id = reach_of(workspace), fresh_id("property")
    workspace.edit(
        f"open {title} to instances{here(workspace)}",
        lambda document: at_reach.open_at(document, reach, place.path, name, new_id, title),
    )


def _title(inspection: Inspection, name: str) -> str:
    """What a value is called that is opened: by its part, in the letters of its name. A text that
    is called by its words is a label: instances say others."""
    node = inspection.instance or inspection.node
    part = "label" if is_called_by_words(node) else node.name
    by_part = name in ("content", "component", "shown")
    title = part if by_part else f"{part} {row_of(name).label.lower()}"
    return title[:1].upper() + title[1:]


def tie(workspace: Workspace, name: str, prop: ComponentProperty) -> None:
    """Lets a property that is there decide a value of the selected parts within the reach."""
    reach, paths = reach_of(workspace), workspace.selection.paths

    def change(document: Document) -> Document:
        for path in paths:
            document = at_reach.tie(document, reach, path, name, prop.id)
        return document

    label = row_of(name).label.lower()
    workspace.edit(f"tie {label} to {prop.name}{here(workspace)}", change)


def tie_choices(workspace: Workspace, name: str) -> tuple[ComponentProperty, ...]:
    """The properties of the component on the bench that a value of the selected part can be
    tied to."""
    path = workspace.selection.path
    if path is None or workspace.component is None:
        return ()
    return at_reach.fitting_properties(workspace.document, reach_of(workspace), path, name)


def can_open(workspace: Workspace, name: str) -> bool:
    """Whether a value of the selected part can be opened to instances."""
    place = workspace.place
    if place is None or workspace.component is None:
        return False
    return properties.kind_of(workspace.document, place, name) is not None


def is_open(workspace: Workspace, name: str) -> bool:
    """Whether a property of the component on the bench decides a value of the selected part."""
    path = workspace.selection.path
    if path is None or workspace.component is None:
        return False
    return bool(at_reach.decided_by(workspace.document, reach_of(workspace), path, name))


def words_edit(workspace: Workspace, content: Content) -> Edit:
    """What editing the selected text's words in their place does within the reach: where a
    property of its component decides them, it is set for the instance, or its default on the
    component's own bench."""
    return style_commands.style_edit(workspace, {"content": content})


def texts_in(workspace: Workspace) -> tuple[Path, ...]:
    """The texts of what is selected that the variant at hand shows: itself, or those in it."""
    owner, path = workspace.owner, workspace.selection.path
    if owner is None or path is None:
        return ()
    selected = measures.located(workspace)
    if selected is None:
        return ()
    inside = path if selected.scene.component else path[:-1]
    return tuple(
        (*inside, *located.path) if located.path else path
        for located in locate(selected.scene, selected.placed, "")
        if located.scene.layout.kind == "text"
    )


def end_words(workspace: Workspace, step: str) -> None:
    """Makes one step of the words that were typed in their place."""
    before = workspace.dragging
    workspace.drop(step)
    if before:
        offer_default(workspace, "content")


def offer_default(workspace: Workspace, name: str) -> None:
    """Where a value was said for some variants of what a property of the component decides in
    the others, tells that instances' own does not show there, and offers the other way."""
    component, path, place = workspace.component, workspace.selection.path, workspace.place
    reach = reach_of(workspace)
    text = conditions(workspace)
    if component is None or path is None or len(path) > 1 or place is None or not text:
        return
    node = find(component.root, path[0]) if path else component.root
    opened = node.style.get(name) if node is not None else None
    prop = component.property(opened.property) if isinstance(opened, FromProperty) else None
    value = at_reach.stated_at(component, path or (component.root.id,), name, reach.when)
    if prop is None or value is None or isinstance(value, Token | FromProperty | Shift):
        return
    chosen = workspace.selection

    def instead() -> None:
        workspace.undo()
        workspace.select_all(chosen.paths)
        workspace.set_reach(reach.when)
        workspace.edit(
            f"set what {prop.name} is at first, {all_variants(workspace)}",
            lambda document: properties.set_default(document, component.id, prop.id, value),
        )

    workspace.make_offer(
        f"What instances give for {prop.name} does not show in {text}.",
        "Set what it is at first instead",
        instead,
    )
