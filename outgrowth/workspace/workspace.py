"""One document being worked on. Panels read it and listen; edits go through it alone."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path as FilePath
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Component, Document, Owner, Path, Screen
from outgrowth.core.document.variants import Variant
from outgrowth.core.document.weight import kept_bytes
from outgrowth.core.exchange import native
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.cascade import LiveValues
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.origins import refuse_read_only
from outgrowth.core.text.fonts import FontSource
from outgrowth.workspace.engine import Engine
from outgrowth.workspace.history import MOST_BYTES, History
from outgrowth.workspace.notices import Notices, Offer, PlainNotices
from outgrowth.workspace.reading import AtOnce, Reading
from outgrowth.workspace.selection import Selection, differing, fitting_selection, opened

Edit = Callable[[Document], Document]


class _State(NamedTuple):
    document: Document
    selection: Selection
    reach: Map[str, str]


class Workspace:
    """A document, what is selected in it, and its history. `notices` tells what changed; each
    of them can be listened to as an attribute of the workspace too. `reading` reads what comes
    from outside."""

    def __init__(
        self,
        engine: Engine,
        document: Document,
        path: FilePath | None = None,
        saved: Document | None = None,
        disk_state: native.DiskState | None = None,
        notices: Notices | None = None,
    ) -> None:
        """`saved` is what the file holds, if that is not the document; `disk_state` what was on the
        disk when it was read."""
        self.notices = notices if notices is not None else PlainNotices()
        self.document_changed = self.notices.document_changed
        self.panels_due = self.notices.panels_due
        self.selection_changed = self.notices.selection_changed
        self.history_changed = self.notices.history_changed
        self.failed = self.notices.failed
        self.offered = self.notices.offered
        self.overtaken = self.notices.overtaken
        self.naming_due = self.notices.naming_due
        self.disk_state = disk_state if disk_state is not None or path is None else _seen_now(path)
        self.engine = engine
        self.engine.carry(document.assets)
        self.path = path
        self._document = document
        self._saved = document if saved is None else saved
        self._history: History[_State] = History()
        self._before_drag: _State | None = None
        self._selection = Selection()
        self._reach: Map[str, str] = Map()
        self._visited: list[tuple[Selection, Map[str, str]]] = []
        self._offer: Offer | None = None
        self.reading: Reading = AtOnce(self.failed.emit)
        # Brings a component that is not in the file; whoever knows libraries says how.
        self.supply: Callable[[Document, str], Document] = lambda document, _: document
        owners = list(document.owners())
        varied = [o for o in owners if isinstance(o, Component) and o.axes]
        if owners:
            self._selection = opened((varied or owners)[0])

    # --- reading ------------------------------------------------------------------------

    @property
    def document(self) -> Document:
        """The document as it is shown, in the middle of a drag too."""
        return self._document

    @property
    def selection(self) -> Selection:
        """What is on the bench and selected there."""
        return self._selection

    @property
    def reach(self) -> Map[str, str]:
        """The conditions under which an edit in a component will hold."""
        return self._reach

    @property
    def owner(self) -> Owner | None:
        """The component or screen on the bench."""
        return self._document.owner(self._selection.owner)

    @property
    def component(self) -> Component | None:
        """The component on the bench, None while a screen is."""
        return self._document.components.get(self._selection.owner)

    @property
    def screen(self) -> Screen | None:
        """The screen on the bench, None while a component is."""
        return self._document.screens.get(self._selection.owner)

    @property
    def place(self) -> Place | None:
        """The selected node."""
        places = self.places
        return places[0] if places else None

    @property
    def places(self) -> tuple[Place, ...]:
        """All selected nodes."""
        rooms = self.rooms
        owner, variant, _, _ = self._selection
        return tuple(Place(owner, path, variant, rooms) for path in self._selection.paths)

    @property
    def rooms(self) -> LiveValues:
        """What their rooms make of the parts in what is looked at."""
        return self.engine.rooms(self._document, self._selection.owner, self._selection.variant)

    @property
    def unsaved(self) -> bool:
        """Whether the file does not hold the document as it is."""
        return self._document is not self._saved

    @property
    def saved(self) -> Document:
        """What the file holds, as far as is known."""
        return self._saved

    @property
    def undo_name(self) -> str:
        """What undo would take back; "" for nothing."""
        return self._history.undo_name

    @property
    def redo_name(self) -> str:
        """What redo would do again; "" for nothing."""
        return self._history.redo_name

    # --- selecting ----------------------------------------------------------------------

    def open(self, owner_id: str) -> None:
        """Puts a component or screen on the bench ("" for none); `go_back` returns to the
        very place."""
        owner = self._document.owner(owner_id)
        if not owner_id:
            self._select(Selection(), Map())
        if owner is not None and owner_id != self._selection.owner:
            self._visited.append((self._selection, self._reach))
            self._select(opened(owner), Map())

    @property
    def can_go_back(self) -> bool:
        """Whether something else was on the bench before."""
        return bool(self._visited)

    def go_back(self) -> None:
        """Back to what was on the bench before, and to what was selected there."""
        while self._visited:
            selection, reach = self._visited.pop()
            if self._document.owner(selection.owner) is not None:
                self._select(selection, reach)
                return

    def select(self, path: Path | None, variant: Variant | None = None) -> None:
        """Selects a node of the owner on the bench; another variant suggests its reach."""
        owner, old, _, _ = self._selection
        variant = old if variant is None else variant
        reach = self._reach if variant == old else self._suggested(variant)
        self._select(Selection(owner, variant, path), reach)

    def toggle(self, path: Path) -> None:
        """Selects a node besides what is selected, or no longer."""
        owner, variant, _, _ = self._selection
        paths = self._selection.paths
        left = tuple(p for p in paths if p != path) if path in paths else (path, *paths)
        self._select(Selection(owner, variant, left[0] if left else None, left[1:]), self._reach)

    def select_all(self, paths: tuple[Path, ...]) -> None:
        """Selects several nodes, the first of them leading."""
        owner, variant, _, _ = self._selection
        paths = tuple(dict.fromkeys(paths))
        lead = paths[0] if paths else None
        self._select(Selection(owner, variant, lead, paths[1:]), self._reach)

    def set_reach(self, reach: Map[str, str]) -> None:
        """Lets edits hold under these conditions only."""
        self._select(self._selection, reach)

    def _suggested(self, variant: Variant) -> Map[str, str]:
        component = self.component
        return differing(component, variant) if component is not None else Map()

    def widen(self) -> None:
        """Drops the last condition."""
        component = self.component
        axis_ids = [a.id for a in component.axes if a.id in self._reach] if component else []
        if axis_ids:
            self.set_reach(self._reach.delete(axis_ids[-1]))

    def narrow(self) -> None:
        """Adds the variant's value on the first axis that is still free."""
        component = self.component
        free = [a.id for a in component.axes if a.id not in self._reach] if component else []
        if free:
            self.set_reach(self._reach.set(free[0], self._selection.variant[free[0]]))

    def _select(self, selection: Selection, reach: Map[str, str]) -> None:
        selection, reach = fitting_selection(self._document, selection, reach)
        if (selection, reach) != (self._selection, self._reach):
            self._selection, self._reach = selection, reach
            self._offer = None
            self.selection_changed.emit()

    # --- editing ------------------------------------------------------------------------

    def edit(
        self, name: str, change: Edit, together: bool = False, from_library: bool = False
    ) -> bool:
        """Does an edit that undo will call `name`; False if it failed (and was reported).

        `together` joins it with the step before if that has the same name; `from_library` lets
        it change parts that were taken in, which are read-only else.
        """
        try:
            after = change(self._document)
            if not from_library:
                refuse_read_only(self._document, after)
        except Refusal as problem:
            self.failed.emit(str(problem))
            return False
        # An edit that changes nothing gives the same document back: it is no step.
        if after is not self._document:
            before = self._now()
            self._show(after)
            self._note(name, before, together)
        return True

    def _note(self, name: str, before: _State, together: bool = False) -> None:
        """Notes a step that led from a state to the one that is shown."""
        history, size = self._history, kept_bytes(before.document, self._document)
        if not (together and history.merge(name, self._now(), size)):
            forgotten = history.forgotten
            history.add(name, before, self._now(), size)
            if history.forgotten and not forgotten:
                self.failed.emit(
                    f"Undo holds {MOST_BYTES // 1024 // 1024} MB now: the oldest steps can no "
                    "longer be taken back."
                )
        self.history_changed.emit()

    @property
    def offer(self) -> Offer | None:
        """What may be done about the last step; None once something else is done."""
        return self._offer

    def make_offer(self, sentence: str, title: str, run: Callable[[], object]) -> None:
        """Tells of something that the last step could have been, or could go on to."""
        self._offer = Offer(sentence, title, run)
        self.offered.emit(self._offer)

    def take_offer(self) -> None:
        """Does what was offered, once."""
        offer, self._offer = self._offer, None
        if offer is not None:
            offer.run()

    def end_step_here(self) -> None:
        """What is now on the bench and selected belongs to the last step: doing it again
        comes back to it."""
        self._history.merge(self._history.undo_name, self._now())

    def drag(self, change: Edit) -> None:
        """Shows what an edit would do, starting from the document before the drag."""
        if self._before_drag is None:
            self._before_drag = self._now()
        try:
            after = change(self._before_drag.document)
            refuse_read_only(self._before_drag.document, after)
            self._show(after)
        except Refusal:
            self._show(self._before_drag.document)

    @property
    def dragging(self) -> bool:
        """Whether something is shown that is no step yet."""
        return self._before_drag is not None

    def drop(self, name: str) -> None:
        """Ends a drag: what is shown becomes one step."""
        before, self._before_drag = self._before_drag, None
        if before is not None and before.document is not self._document:
            self._note(name, before)

    def cancel_drag(self) -> None:
        """Ends a drag as if it had not been."""
        before, self._before_drag = self._before_drag, None
        if before is not None:
            self._show(before.document)

    def undo(self) -> None:
        """Takes the last step back, with what was selected then."""
        self.cancel_drag()
        self._restore(self._history.undo())

    def redo(self) -> None:
        """Does the step that was undone last again."""
        self.cancel_drag()
        self._restore(self._history.redo())

    def _restore(self, state: _State | None) -> None:
        if state is None:
            return
        self._show(state.document)
        self._select(state.selection, state.reach)
        self.history_changed.emit()

    def _now(self) -> _State:
        return _State(self._document, self._selection, self._reach)

    def _show(self, document: Document) -> None:
        if document is not self._document:
            self._document = document
            self._offer = None
            selection, reach = fitting_selection(document, self._selection, self._reach)
            moved = (selection, reach) != (self._selection, self._reach)
            self._selection, self._reach = selection, reach
            # Before anyone draws: a document that carries a font is set in it from the first
            # frame.
            self.engine.carry(document.assets)
            self.notices.refresh_panels_soon()
            self.document_changed.emit()
            if moved:
                self.selection_changed.emit()

    def install_fonts(self, sources: Iterable[FontSource]) -> None:
        """Takes the machine's fonts; a typeface that was missing is itself again."""
        if self.engine.install(sources):
            self.document_changed.emit()
            self.notices.refresh_panels_soon()

    def refresh_panels(self) -> None:
        """Lets the panels follow now rather than in a moment."""
        self.notices.refresh_panels()

    # --- files --------------------------------------------------------------------------

    def save(self, path: FilePath | None = None, over: bool = False) -> bool:
        """Writes the file; False if that failed (and was reported). What another program wrote
        there meanwhile is not written over, unless `over`."""
        target = path or self.path
        if target is None:
            return False
        expected = self.disk_state if target == self.path else None
        try:
            state = native.save(self._document, target, expected, over)
            self.wrote(self._document, target, state)
        except native.ChangedMeanwhile:
            self.overtaken.emit()
            return False
        except native.FileRefusal as problem:
            self.failed.emit(str(problem))
            return False
        return True

    def wrote(self, document: Document, path: FilePath, state: native.DiskState) -> None:
        """A document was written to a path, where `state` is now."""
        self.path, self.disk_state, self._saved = path, state, document
        self.history_changed.emit()

    def take_in(
        self,
        document: Document,
        name: str,
        disk_state: native.DiskState | None = None,
        saved: Document | None = None,
    ) -> None:
        """A document becomes the one in hand, as a step that can be undone; `saved` (usually the
        same) is what the file now holds, and `disk_state` what was on the disk then."""
        self.edit(name, lambda _: document, from_library=True)
        self._saved = self._document if saved is None else saved
        self.disk_state = disk_state or self.disk_state
        self.history_changed.emit()
        if self.owner is None:
            owners = list(document.owners())
            self._select(opened(owners[0]) if owners else Selection(), Map())


def _seen_now(path: FilePath) -> native.DiskState | None:
    try:
        return native.disk_state(path)
    except native.FileRefusal:
        return None
