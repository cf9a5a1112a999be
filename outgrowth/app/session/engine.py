"""The stages from document to display list, held together for one window."""

from __future__ import annotations

from immutables import Map

from outgrowth.core.document.records import Component, Document
from outgrowth.core.edits.reach import Census
from outgrowth.core.layout import Layout
from outgrowth.core.motion.tween import View
from outgrowth.core.resolve.cascade import Live
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime.runtime import Runtime, Subject
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FontBook, shipped
from outgrowth.resources import FONTS


class Engine:
    """Resolves and lays out; remembers across edits and windows' panels."""

    def __init__(self, fonts: FontBook) -> None:
        self.fonts = fonts
        self.resolver = Resolver()
        self.layout = Layout(Typesetter(fonts))
        self.census = Census(self.resolver)

    def view(
        self,
        document: Document,
        owner_id: str,
        variant: Map[str, str] | None = None,
        live: Live = (),
    ) -> View:
        """A screen, or one variant of a component (its default for None), laid out at its
        own size."""
        owner = document.owner(owner_id)
        if owner is None:
            raise KeyError(owner_id)
        if isinstance(owner, Component):
            scene = self.resolver.variant(document, owner_id, variant or Map())
        else:
            scene = self.resolver.screen(document, owner, live)
        return View(scene, self.layout.place(scene.layout))

    def runtime(self, document: Document, subject: Subject) -> Runtime:
        """A runtime of its own state over the shared stages."""
        return Runtime(self.resolver, self.layout, document, subject)


def shipped_engine() -> Engine:
    """An engine over the fonts that come with the program."""
    return Engine(shipped(FONTS))
