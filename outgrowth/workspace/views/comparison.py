"""Two documents side by side: what differs in each part, in words and in pictures."""

from __future__ import annotations

from outgrowth.core.document.records import Document
from outgrowth.core.edits.clipping import needs
from outgrowth.core.exchange.fonts import carried
from outgrowth.core.team.difference import differences, level
from outgrowth.core.team.pictures import DocumentDrawer, changed_screens, changed_variants
from outgrowth.core.team.report import Chapter
from outgrowth.core.team.store import Progress, untold
from outgrowth.core.text.fonts import FontBook
from outgrowth.workspace.views.difference_text import DifferenceWords


def compared(
    before: Document, after: Document, fonts: FontBook, progress: Progress = untold
) -> list[Chapter]:
    """Two documents, component by component and screen by screen; those alike are left out."""
    # One book of fonts for both: a letter is the same where its font is the same object.
    fonts = fonts.also(carried(before.assets.update(after.assets)))
    drawings = DocumentDrawer(before, fonts), DocumentDrawer(after, fonts)
    words = DifferenceWords(before, after)
    chapters = []
    tokens = words.token_lines()
    if tokens:
        chapters.append(Chapter("", "Tokens", "", tuple(tokens)))
    for component_id in dict.fromkeys((*before.component_order, *after.component_order)):
        old, new = before.components.get(component_id), after.components.get(component_id)
        progress(f"Drawing {(new or old or before).name} …")
        lines = tuple(words.owner_lines(component_id))
        pairs = tuple(changed_variants(*drawings, component_id)) if old or new else ()
        if not lines and not pairs:
            continue
        if not lines:
            lines = (_reason(before, after, component_id),)
        owner = new or old
        assert owner is not None  # one of them has it
        raised = level(differences(old, new)) if old is not None and new is not None else ""
        chapters.append(Chapter(component_id, owner.name, raised, lines, pairs))
    progress("Drawing the screens …")
    pictures = {pair.owner: pair for pair in changed_screens(*drawings)}
    for screen_id in dict.fromkeys((*before.screen_order, *after.screen_order)):
        screen = after.screens.get(screen_id) or before.screens[screen_id]
        lines = tuple(words.owner_lines(screen_id))
        pair = pictures.get(screen_id)
        if lines or pair is not None:
            sentences = lines or ("looks different by what stands on it",)
            chapters.append(
                Chapter(screen_id, screen.name, "", sentences, (pair,) if pair is not None else ())
            )
    return chapters


def _reason(before: Document, after: Document, component_id: str) -> str:
    """Why a component looks different that is the same itself: what it holds is another."""
    component = after.components[component_id]
    names = [
        inner.name for inner in needs(after, component) if before.components.get(inner.id) != inner
    ]
    return f"looks different by {', '.join(names) or 'a token'}"
