"""How a workspace says that something changed, without knowing who listens or on what toolkit.

A window hands in notices of its own that go through its event loop
(`app/workspace_signals.py`); everything else takes these, which call at once.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple, Protocol


class Offer(NamedTuple):
    """What may be done about what was just done: a sentence, what the choice is called, and what
    it does."""

    sentence: str
    title: str
    run: Callable[[], object]


class Notice(Protocol):
    """One thing that can be listened for. Qt's bound signals are such notices."""

    # What listeners take differs from notice to notice, as it does for Qt's signals.
    def connect(self, slot: Callable[..., object], /) -> object: ...
    def emit(self, *args: Any) -> object: ...


class Notices(Protocol):
    """What a workspace tells. Notices but `failed` and `offered` carry nothing; listeners read
    what they show from the workspace.

    document_changed   the document is another one (preview frames of a drag included);
                       for the benches, whose next frame must not wait
    panels_due         the same a moment later, once for many changes: for the panels
    selection_changed  owner, variant, node or reach
    history_changed    what can be undone, redone or saved
    failed             an edit or a file could not be done: a sentence
    offered            what was done could be done otherwise: an `Offer`
    naming_due         what was just made waits for its name: the selected part, or the component
                       that it follows since then, by its id
    overtaken          saving would have written over what another program wrote meanwhile
    """

    @property
    def document_changed(self) -> Notice: ...
    @property
    def panels_due(self) -> Notice: ...
    @property
    def selection_changed(self) -> Notice: ...
    @property
    def history_changed(self) -> Notice: ...
    @property
    def failed(self) -> Notice: ...
    @property
    def offered(self) -> Notice: ...
    @property
    def naming_due(self) -> Notice: ...
    @property
    def overtaken(self) -> Notice: ...

    def refresh_panels_soon(self) -> None:
        """Emits `panels_due` in a moment, once for all that asked until then."""

    def refresh_panels(self) -> None:
        """Emits `panels_due` now, if it is still to come."""


class PlainNotice:
    """Calls its listeners in the order in which they came."""

    def __init__(self) -> None:
        self._listeners: list[Callable[..., object]] = []

    def connect(self, slot: Callable[..., object], /) -> None:
        """Calls `slot` from now on, with what the notice carries."""
        self._listeners.append(slot)

    def emit(self, *args: Any) -> None:
        """Calls all listeners with `args`."""
        for listener in tuple(self._listeners):
            listener(*args)


class PlainNotices:
    """Notices without an event loop: `panels_due` comes at once, with every change."""

    def __init__(self) -> None:
        self.document_changed = PlainNotice()
        self.panels_due = PlainNotice()
        self.selection_changed = PlainNotice()
        self.history_changed = PlainNotice()
        self.failed = PlainNotice()
        self.offered = PlainNotice()
        self.naming_due = PlainNotice()
        self.overtaken = PlainNotice()

    def refresh_panels_soon(self) -> None:
        """Emits `panels_due`."""
        self.panels_due.emit()

    def refresh_panels(self) -> None:
        """Nothing is ever still to come."""
