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
    all_located = list(locate(*view, ""))
    selected = next((position for position in all_located if position.path == path), None)
    if selected is None:
        return None
    x, y = selected.rect.center
    color = _PAPER
    for position in all_located:
        if position is selected:
            break
        fill = position.scene.paint.fill
        flat = fill if isinstance(fill, Color) else fill.stops[0].color
        if (
            position.scene.kind in ("box", "image")
            and position.rect.contains(x, y)
            and flat.alpha > 0
        ):
            color = over(flat.with_alpha(flat.alpha * position.scene.paint.opacity), color)
    return color
