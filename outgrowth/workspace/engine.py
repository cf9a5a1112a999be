"""The stages from document to display list, held together for one window."""

from __future__ import annotations

from collections.abc import Iterable

from immutables import Map

from outgrowth.core.document.records import Asset, Component, Document
from outgrowth.core.edits.variants.reach import Census
from outgrowth.core.exchange.fonts import carried
from outgrowth.core.layout import Layout
from outgrowth.core.layout.by_room import asks_for_room, rooms_shown
from outgrowth.core.motion.view import View
from outgrowth.core.resolve.cascade import LiveValues
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FontBook, FontSource, shipped
from outgrowth.resources import FONTS


class Engine:
    """Resolves and lays out; remembers across edits and windows' panels.

    fonts   those that came with the program; to them come those that the document carries
            (`carry`) and those of the machine (`install`), in this order
    """

    def __init__(self, fonts: FontBook) -> None:
        self._shipped = fonts
        self._installed: tuple[FontSource, ...] = ()
        self._carried: dict[str, FontSource] = {}
        self._assets: Map[str, Asset] = Map()
        self._rooms: tuple[Document, SceneNode, LiveValues] | None = None
        self._set_fonts(fonts)

    def _set_fonts(self, fonts: FontBook) -> None:
        """Other fonts set every text anew, so nothing that is remembered stays good."""
        self.fonts = fonts
        self.resolver = Resolver()
        self.layout = Layout(Typesetter(fonts))
        self.census = Census(self.resolver)

    def carry(self, assets: Map[str, Asset]) -> bool:
        """Takes the fonts among a document's assets; whether that changed anything."""
        if assets is self._assets:
            return False
        self._assets = assets
        sources = {source.key: source for source in carried(assets)}
        if sources.keys() == self._carried.keys():
            return False
        self._carried = sources
        return self._refresh()

    def install(self, sources: Iterable[FontSource]) -> bool:
        """Takes the machine's fonts; whether that changed anything."""
        self._installed = tuple(sources)
        return self._refresh()

    def _refresh(self) -> bool:
        # The shipped ones first: a machine that has another font of that name changes nothing.
        book = self._shipped.also(self._carried.values(), first=True).also(self._installed)
        if book.is_like(self.fonts):
            return False
        if self.fonts.draws_as(book):
            # Nothing that is set would be set otherwise: it is only more to choose from.
            book.goes_on_from(self.fonts)
            self.fonts = self.layout.typesetter.fonts = book
            return True
        self._set_fonts(book)
        return True

    def view(
        self,
        document: Document,
        owner_id: str,
        variant: Map[str, str] | None = None,
        live: LiveValues = (),
    ) -> View:
        """A screen, or one variant of a component (its default for None), laid out at its
        own size; `live` are values of what is in it."""
        owner = document.owner(owner_id)
        if owner is None:
            raise KeyError(owner_id)
        if isinstance(owner, Component):
            scene = self.resolver.variant(document, owner_id, variant or Map(), live)
        else:
            scene = self.resolver.screen(document, owner, live)
        return View(*self.layout.view(scene))

    def rooms(self, document: Document, owner_id: str, variant: Map[str, str]) -> LiveValues:
        """What their rooms make of the parts in a screen, or in a variant of a component."""
        if not asks_for_room(document) or document.owner(owner_id) is None:
            return ()
        scene = self.view(document, owner_id, variant).scene
        known = self._rooms
        if known is None or known[0] is not document or known[1] is not scene:
            known = self._rooms = document, scene, rooms_shown(document, scene)
        return known[2]

    def runtime(self, document: Document, subject: Subject) -> Runtime:
        """A runtime of its own state over the shared stages."""
        return Runtime(self.resolver, self.layout, document, subject)


def shipped_engine() -> Engine:
    """An engine over the fonts that come with the program."""
    return Engine(shipped(FONTS))
