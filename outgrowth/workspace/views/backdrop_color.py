"""The colour behind a part: what its own colour is compared with."""

from __future__ import annotations

from outgrowth.core.color import Color, over
from outgrowth.core.layout.rectangles import locate
from outgrowth.workspace.workspace import Workspace

_PAPER = Color(1.0, 1.0, 1.0)


def behind_selection(workspace: Workspace) -> Color | None:
    """What lies beneath the middle of the selected part, over white; None without one.
    Gradients count by their first colour, pictures and shadows not at all."""
    owner, path = workspace.owner, workspace.selection.path
    if owner is None or path is None:
        return None
    view = workspace.engine.view(workspace.document, owner.id, workspace.selection.variant)
    listed = list(locate(*view, ""))
    here = next((at for at in listed if at.path == path), None)
    if here is None:
        return None
    x, y = here.rect.center
    color = _PAPER
    for at in listed:
        if at is here:
            break
        fill = at.scene.paint.fill
        flat = fill if isinstance(fill, Color) else fill.stops[0].color
        if at.scene.kind in ("box", "image") and at.rect.contains(x, y) and flat.alpha > 0:
            color = over(flat.with_alpha(flat.alpha * at.scene.paint.opacity), color)
    return color
