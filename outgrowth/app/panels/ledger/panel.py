"""The ledger panel: groups of rows for what is selected."""

from __future__ import annotations

from functools import partial
from itertools import pairwise

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QWidget,
)

from outgrowth.app.panels.ledger.arrangement_pad import ArrangementPad
from outgrowth.app.panels.ledger.editors import Editor, Editors, WindowAsking
from outgrowth.app.panels.ledger.kept import KeptList
from outgrowth.app.panels.ledger.row import LedgerRow
from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import column, label, push_button
from outgrowth.app.theme.sheet import dress
from outgrowth.core.document.properties import FAMILY_OF, NodeKind
from outgrowth.core.document.records import Component, Node
from outgrowth.core.resolve.ladder import Inspection, Together, inspect
from outgrowth.workspace import Workspace, measures
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.views.ledger_rows import sorted_rows

# Until a ladder that was unfolded has its place.
_LAID_OUT_MS = 40
# As many sets of rows stay as kinds of things are looked at in turn: making one takes a tenth
# of a second, showing it again a few ms.
_MOST_SETS = 6


class _RowSet:
    """The rows that were made for one kind of selection."""

    def __init__(self, parent: QWidget) -> None:
        self.body = QWidget(parent)
        self.rows: dict[str, LedgerRow] = {}
        self.kept: KeptList | None = None
        self.groups: dict[str, tuple[QPushButton, list[tuple[LedgerRow, bool]]]] = {}


class Ledger(QScrollArea):
    """Shows other rows when another kind of thing is selected, refreshed when values change.

    attended(tuple)  the property names that the pointer is at
    visited(str)     an owner to go to
    picture_asked    another picture is wanted for the selection
    exchange_asked   another component is wanted for the selected instances
    filling_asked(Fillings)  something is wanted for a slot of theirs
    """

    attended = pyqtSignal(tuple)
    visited = pyqtSignal(str)
    picture_asked = pyqtSignal()
    exchange_asked = pyqtSignal()
    filling_asked = pyqtSignal(object)

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self._workspace = workspace
        self._theme = theme
        self._asking = WindowAsking(self.picture_asked.emit, self.filling_asked.emit)
        self._editors = self._new_editors()
        self._sets: dict[object, _RowSet] = {}
        holder = QWidget()
        dress(holder, "panel")
        holder.setMinimumWidth(1)
        self._holder = column(holder)
        self.setWidget(holder)
        self._set = _RowSet(holder)
        self._more: set[str] = set()
        self._kinds: set[NodeKind] = set()
        self._same_kind = True
        self._free = False
        self._revealed: LedgerRow | None = None
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_LAID_OUT_MS)
        self._later.timeout.connect(self._scroll)
        self.setWidgetResizable(True)
        self.setProperty("room", "panel")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Ledger")
        workspace.panels_due.connect(self.refresh)
        workspace.selection_changed.connect(self.refresh)

    def showEvent(self, event: QShowEvent | None) -> None:
        """The first time, the bench is drawn before the rows are made."""
        super().showEvent(event)
        if not self._sets:
            QTimer.singleShot(0, self.refresh)

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self._editors = self._new_editors()
        for row_set in self._sets.values():
            row_set.body.deleteLater()
        self._sets.clear()
        self.refresh()

    def _new_editors(self) -> Editors:
        return Editors(self._workspace, self._theme, self._measured, self._asking)

    @property
    def rows(self) -> dict[str, LedgerRow]:
        """The rows that are shown, by the name of their property or family."""
        return self._set.rows

    @property
    def kept(self) -> KeptList | None:
        """What the selected instance keeps for itself; None for what is none."""
        return self._set.kept

    def row(self, name: str) -> LedgerRow:
        """The row that edits a property. Raises KeyError if it is not shown."""
        return self.rows[FAMILY_OF.get(name, name)]

    def attend_to(self, name: str) -> None:
        """Brings a property's row into sight and gives it the focus."""
        row = self.rows.get(FAMILY_OF.get(name, name))
        if row is None:
            return
        if row.isHidden():
            self._more |= {
                g for g, (_, rows) in self._set.groups.items() if row in [r for r, _ in rows]
            }
            self._hide_quiet()
        self.ensureWidgetVisible(row)
        _focusable(row.editor.widget).setFocus(Qt.FocusReason.TabFocusReason)

    def first_field(self) -> QWidget | None:
        """The first editor in sight, for a key that leads here."""
        visible = (row.editor.widget for row in self.rows.values() if not row.isHidden())
        first = next(visible, None)
        return _focusable(first) if first is not None else None

    def refresh(self) -> None:
        """Shows the selection as it is now."""
        document = self._workspace.document
        several = [f for p in self._workspace.places if (f := inspect(document, p)) is not None]
        inspection = several[0] if several else None
        self._kinds = {f.node.kind for f in several}
        self._free = bool(several) and measures.stands_free(self._workspace)
        self._same_kind = len({(f.instance is not None, f.scope.owner.id) for f in several}) == 1
        if len(several) > 1:
            inspection = Together(several)
        signature = self._signature(inspection)
        self._show_set(signature, inspection)
        if inspection is not None:
            for row in self.rows.values():
                row.refresh(inspection)
            if self.kept is not None:
                self.kept.refresh()
            self._hide_quiet()

    def _signature(self, inspection: Inspection | None) -> object:
        """What decides which rows there are."""
        if inspection is None:
            return self._workspace.selection.owner
        component = inspection.scope.owner if inspection.instance is not None else None
        about = (component.axes, component.properties) if isinstance(component, Component) else ()
        kinds = frozenset(self._kinds), self._same_kind, self._free
        return kinds, inspection.instance is not None, about, component and component.id

    def _measured(self) -> tuple[float, float, float, float] | None:
        return measures.measured(self._workspace)

    # --- building -----------------------------------------------------------------------

    def _show_set(self, signature: object, inspection: Inspection | None) -> None:
        """The rows for what is selected: those made before, or new ones."""
        made = self._sets.pop(signature, None)
        if made is not None and made is self._set:
            self._sets[signature] = made
            return
        # All lie in one holder and are hidden but one: to dress a body for another parent would
        # take Qt as long as to make it.
        typed = QApplication.focusWidget()
        if isinstance(typed, QLineEdit) and self._set.body.isAncestorOf(typed):
            typed.setModified(False)  # it was meant for what was selected before
        self._set.body.hide()
        if made is None:
            self._build(inspection)
        else:
            self._set = made
        self._set.body.show()
        self._sets[signature] = self._set
        while len(self._sets) > _MOST_SETS:
            self._sets.pop(next(iter(self._sets))).body.deleteLater()

    def _build(self, inspection: Inspection | None) -> None:
        self._set = _RowSet(self.widget() or self)
        body = self._set.body
        dress(body, "panel")
        self._layout = column(body, (0, 6, 0, 16))
        if inspection is None:
            self._nothing()
        else:
            if self._same_kind:
                self._instance_rows(inspection)
            self._style_rows()
        self._layout.addStretch()
        body.setMinimumWidth(1)  # rows shrink with the panel; none may push its tag out
        self._holder.addWidget(body, 1)
        _values_first(body)

    def _nothing(self) -> None:
        screen = self._workspace.screen
        click = "Click a part on the bench, or in Layers, to see and change it here."
        text = label(
            click if screen is not None else "Nothing is selected.", tone="muted", wrap=True
        )
        text.setContentsMargins(14, 10, 14, 0)
        self._layout.addWidget(text)

    def _instance_rows(self, inspection: Inspection) -> None:
        component = inspection.scope.owner
        if inspection.instance is None or not isinstance(component, Component):
            return
        self._layout.addWidget(self._followed(component, inspection.instance))
        kept = self._set.kept = KeptList(self._workspace)
        self._layout.addWidget(kept)
        for prop in component.properties:
            self._add("", self._editors.for_property(component, prop), quiet=False)
        # What the pointer and the focus set can be held, for documentation.
        for axis in sorted(component.axes, key=lambda each: each.driver != "none"):
            self._add("", self._editors.for_axis(axis), quiet=False)

    def _followed(self, component: Component, instance: Node) -> QWidget:
        """Which component the instance follows, and the way there."""
        strip = QWidget()
        row = QHBoxLayout(strip)
        row.setContentsMargins(14, 2, 8, 2)
        row.addWidget(label("follows", tone="muted"))
        name = push_button(f"{component.short_name} ▾", self.exchange_asked.emit, look="offer")
        name.setToolTip("Let it follow another component, within the reach")
        name.setMinimumWidth(60)  # a long name gives way before what stands beside it
        row.addWidget(name)
        row.addStretch(1)
        go = push_button("go there", lambda: self.visited.emit(component.id), look="tag")
        go.setToolTip("Go to the component that it follows")
        row.addWidget(go)
        put_all_back = partial(style_commands.put_back_all, self._workspace)
        row.addWidget(push_button("put all back", put_all_back, look="tag"))
        return strip

    def _style_rows(self) -> None:
        families: set[str] = set()
        for row in sorted_rows(self._kinds, self._free):
            family = FAMILY_OF.get(row.name)
            if family in families:
                continue
            if family is not None:
                families.add(family)
                self._add(row.group, self._editors.for_family(family), row.quiet)
            else:
                self._add(row.group, self._editors.for_row(row), row.quiet)

    def _add(self, group: str, editor: Editor, quiet: bool) -> None:
        row = LedgerRow(self._workspace, self._theme, editor)
        row.attended.connect(self.attended)
        row.visited.connect(self.visited)
        row.unfolded.connect(lambda: self._reveal(row))
        groups = self._set.groups
        if group and group not in groups:
            self._layout.addWidget(self._head(group))
        if group:
            groups[group][1].append((row, quiet))
        name = editor.names[0]
        self.rows[FAMILY_OF.get(name, name)] = row
        self._layout.addWidget(row)

    def _reveal(self, row: LedgerRow) -> None:
        """Scrolls so that a row is in sight with its ladder, once that has its place."""
        self._revealed = row
        self._later.start()

    def _scroll(self) -> None:
        row, self._revealed = self._revealed, None
        bar, viewport = self.verticalScrollBar(), self.viewport()
        if row is None or row not in self.rows.values() or bar is None or viewport is None:
            return
        foot, top = row.geometry().bottom() + 12, row.geometry().top() - 12
        bar.setValue(min(max(bar.value(), foot - viewport.height()), top))

    def _head(self, group: str) -> QWidget:
        strip = QWidget()
        row = QHBoxLayout(strip)
        row.setContentsMargins(14, 8, 8, 0)
        title = label(group, tone="muted", weight="bold")
        row.addWidget(title, 1)
        if group == "Arrangement" and "box" in self._kinds:
            about = "Set the arrangement on a drawing"
            self.drawn = push_button("on a drawing", self.open_pad, look="tag", name=about)
            row.addWidget(self.drawn)
        more = push_button(act=lambda: self._toggle(group), look="tag")
        row.addWidget(more)
        self._set.groups[group] = more, []
        return strip

    def open_pad(self) -> None:
        """Opens the drawing on which the arrangement of the selected box is set."""
        self.pad = ArrangementPad(self, self._workspace, self._theme, self.setFocus)
        corner = self.drawn.rect().bottomRight()
        self.pad.open_below(self.drawn.mapToGlobal(corner))

    def _toggle(self, group: str) -> None:
        self._more ^= {group}
        self._hide_quiet()

    def _hide_quiet(self) -> None:
        """Quiet rows show where somebody set them, or when their group was asked for more."""
        for group, (more, rows) in self._set.groups.items():
            opened = group in self._more
            waiting = 0
            for row, quiet in rows:
                resting = quiet and not row.set_by_someone
                waiting += resting
                row.setVisible(opened or not resting)
            more.setVisible(waiting > 0)
            more.setText("less" if opened else "more")
            more.setAccessibleName(f"{group}: {more.text()}")


def _values_first(body: QWidget) -> None:
    """Tab goes from value to value; what they come from, and what is more, is reached after."""
    stops = _stops(body)
    stops.sort(key=lambda widget: widget.property("look") == "tag")
    for before, after in pairwise(stops):
        QWidget.setTabOrder(before, after)


def _stops(within: QWidget) -> list[QWidget]:
    """The widgets in another that Tab stops at, in its order.

    They are found along the chain of the focus and not among all children: some of those are
    Qt's own objects, which come and go, and asking one as a widget that is none ends the program.
    """
    found, widget = [], within.nextInFocusChain()
    while widget is not None and widget is not within:
        if within.isAncestorOf(widget) and widget.focusPolicy() & Qt.FocusPolicy.TabFocus:
            found.append(widget)
        widget = widget.nextInFocusChain()
    return found


def _focusable(widget: QWidget) -> QWidget:
    """The part of an editor that takes keys: of several, the one that is chosen."""
    if widget.focusPolicy() != Qt.FocusPolicy.NoFocus or widget.focusProxy() is not None:
        return widget
    inside = _stops(widget)
    checked = [w for w in inside if isinstance(w, QAbstractButton) and w.isChecked()]
    return next(iter(checked or inside), widget)
