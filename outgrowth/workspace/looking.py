"""Looking again at the document in hand, a little at a time: what was found, what stands, what
was waived."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator

from outgrowth.core.document.extent import shown_parts
from outgrowth.core.document.records import Document
from outgrowth.core.layout import Layout
from outgrowth.core.review.finding import Finding
from outgrowth.core.review.report import standing
from outgrowth.core.review.reviewer import Reviewed, Reviewer
from outgrowth.core.review.views import Pixels
from outgrowth.workspace.workspace import Workspace

MOST_PARTS = 4_000
"""Parts that a file may show in all to be looked at again by itself; a larger one is when it is
asked."""
PixelsOf = Callable[[Document], Pixels]


class Looking:
    """One review at a time, of the workspace's document. It is done on the window's own thread in
    slices, since it shares the memory of the stages with it.

    share     how much is done, from 0 to 1; 1 where nothing is being done
    findings  those of the last review that was ended
    about     the document that these are of
    """

    def __init__(self, workspace: Workspace, pixels_of: PixelsOf) -> None:
        self._workspace = workspace
        self._pixels_of = pixels_of
        self._layout: Layout | None = None
        self._reviewer: Reviewer | None = None
        self._steps: Iterator[Reviewed] | None = None
        self._document: Document | None = None
        self.findings: tuple[Finding, ...] = ()
        self.about: Document | None = None
        self.share = 1.0

    @property
    def is_large(self) -> bool:
        """Whether the document is too large to be looked at without being asked to."""
        document = self._workspace.document
        total = 0
        for owner in document.owners():
            total += shown_parts(document, owner)
            if total > MOST_PARTS:
                return True
        return False

    @property
    def due(self) -> bool:
        """Whether the document is another one than what was looked at."""
        return self._workspace.document is not self.about

    def begin(self) -> None:
        """Looks at the document as it is now, from the beginning; what an edit left alone is
        known."""
        workspace = self._workspace
        layout = workspace.engine.layout
        if self._reviewer is None or self._layout is not layout:
            self._layout = layout
            self._reviewer = Reviewer(
                layout, lambda picture: self._pixels_of(workspace.document)(picture)
            )
        self._document = workspace.document
        self._steps = self._reviewer.steps(workspace.document)
        self.share = 0.0

    def halt(self) -> None:
        """Looks no further; what was found before stays."""
        self._steps, self.share = None, 1.0

    def advance(self, seconds: float) -> bool:
        """Goes on for about so long; whether there is more to do."""
        if self._steps is None:
            return False
        end = time.perf_counter() + seconds
        for reviewed in self._steps:
            self.share = reviewed.share
            if reviewed.share >= 1.0:
                self.findings, self.about = reviewed.findings, self._document
            if time.perf_counter() >= end:
                return True
        self.halt()
        return False

    # --- what stands ------------------------------------------------------------------------

    @property
    def standing(self) -> list[Finding]:
        """The findings that are not waived."""
        return standing(self._workspace.document, self.findings)
