"""The selection as pictures: what of it, of which form, and what the files are called."""

from __future__ import annotations

from typing import Literal, NamedTuple

from outgrowth.core.document.records import Component
from outgrowth.core.exchange.slugs import slug
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.exchange.variant_pictures import (
    VariantPicture,
    sheet_of,
    variant_pictures,
    whole_picture,
)
from outgrowth.core.geometry import Rect
from outgrowth.core.paint import draw
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.scene_paths import positions_of
from outgrowth.workspace.handing_over import Rasterize
from outgrowth.workspace.workspace import Workspace

What = Literal["selection", "whole", "sheet", "each"]


class PictureFile(NamedTuple):
    """Which pictures: what of, as "svg" or "png", at how many pixels to a px."""

    what: What
    form: Literal["svg", "png"]
    scale: float = 1.0

    @property
    def many(self) -> bool:
        """Whether several files come of it."""
        return self.what == "each"


class NothingToDraw(Refusal):
    """There is nothing that could be a picture; the message is a sentence."""


def choices(workspace: Workspace) -> list[tuple[What, str]]:
    """What of the bench can become a picture, in words."""
    results: list[tuple[What, str]] = []
    if len(workspace.selection.paths) == 1:
        results.append(("selection", "the selected part"))
    owner = workspace.owner
    if owner is not None:
        results.append(("whole", f"“{owner.name}” as it is"))
    if isinstance(owner, Component) and owner.axes:
        results += [("sheet", "all variants on one sheet"), ("each", "every variant, a file each")]
    return results


def picture_name(workspace: Workspace, picture_file: PictureFile) -> str:
    """What one file would be called."""
    owner = workspace.owner
    name = slug(owner.short_name, "picture") if owner is not None else "picture"
    place = (
        f"@{picture_file.scale:g}x"
        if picture_file.form == "png" and picture_file.scale != 1
        else ""
    )
    return f"{name}{place}.{picture_file.form}"


def picture_files(
    workspace: Workspace, picture_file: PictureFile, rasterize: Rasterize
) -> dict[str, bytes]:
    """The files by their names. Raises NothingToDraw."""
    files: dict[str, bytes] = {}
    for drawn in _drawn(workspace, picture_file.what):
        if not (drawn.bounds.width > 0 and drawn.bounds.height > 0):
            continue
        place = (
            f"@{picture_file.scale:g}x"
            if picture_file.form == "png" and picture_file.scale != 1
            else ""
        )
        name = f"{drawn.name}{place}.{picture_file.form}"
        if picture_file.form == "svg":
            files[name] = svg_of(drawn.fragment, drawn.bounds, workspace.document.assets).encode()
        else:
            files[name] = rasterize(drawn, picture_file.scale)
    if not files:
        raise NothingToDraw("Nothing of this can be seen, so there is no picture of it.")
    return files


def _drawn(workspace: Workspace, what: What) -> list[VariantPicture]:
    document, layout, owner = workspace.document, workspace.engine.layout, workspace.owner
    if owner is None:
        raise NothingToDraw("Open a component or a screen first.")
    if what in ("sheet", "each") and isinstance(owner, Component):
        each = list(variant_pictures(document, layout, owner))
        name = slug(owner.short_name, "all")
        return [sheet_of(each, name)] if what == "sheet" else each
    if what == "selection" and workspace.selection.paths:
        return [_part(workspace)]
    return [whole_picture(document, layout, owner)]


def _part(workspace: Workspace) -> VariantPicture:
    """The selected part by itself, as it stands."""
    selection, engine = workspace.selection, workspace.engine
    variant = selection.variant if workspace.component is not None else None
    view = engine.view(workspace.document, selection.owner, variant)
    scene, placed = view.scene, view.placed
    path = selection.paths[0]
    root = workspace.owner.root.id if workspace.owner is not None else ""
    route = positions_of(scene, () if path == (root,) else path)
    if route is None:
        raise NothingToDraw("The selected part is not shown here, so there is no picture of it.")
    for n in route:
        scene, placed = scene.children[n], placed.children[n]
    fragment = draw(scene, placed)
    bounds = fragment.bounds
    return VariantPicture("part", fragment, Rect(bounds.x, bounds.y, bounds.width, bounds.height))
