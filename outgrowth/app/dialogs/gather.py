"""Gather: what the drawn parts of a screen would become, shown before it is done."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from outgrowth.app.fields.choice import DropDown
from outgrowth.app.fields.words import WordsField
from outgrowth.app.session import Session
from outgrowth.app.session.deeds import fresh_id
from outgrowth.app.theme import Theme
from outgrowth.core.document.records import Document, walk
from outgrowth.core.edits.gather import Drawing, Report, gather, gathered

_SHOWN_PROBLEMS = 6


def families(document: Document, owner_id: str) -> dict[str, list[Drawing]]:
    """The drawn parts of a screen, and the components of the file, whose names are paths,
    by the first part of the path; those alone in theirs are left out."""
    found: dict[str, list[Drawing]] = {}
    owner = document.screens.get(owner_id)
    for node in walk(owner.root) if owner is not None else ():
        if "/" in node.name and node.kind != "instance":
            family = node.name.split("/")[0].strip()
            found.setdefault(family, []).append(Drawing(node.name, node, owner_id))
    for component in document.in_order():
        if "/" in component.name and not component.axes:
            family = component.name.split("/")[0].strip()
            drawing = Drawing(component.name, component.root, component.id)
            found.setdefault(f"components: {family}", []).append(drawing)
    return {family: drawings for family, drawings in found.items() if len(drawings) > 1}


class Gathering(QDialog):
    """Pick a family; name its axes; read the proof; gather."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self._theme = theme
        self._families = families(session.document, session.selection.owner)
        self.report: Report | None = None
        self.setWindowTitle("Gather drawn parts")
        self.resize(560, 460)
        names = list(self._families)
        self.family = DropDown([(n, n) for n in names], "Which parts")
        self.family.edited.connect(self.look)
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.axes = QWidget()
        self._axis_rows = QGridLayout(self.axes)
        self._axis_rows.setContentsMargins(0, 8, 0, 8)
        self.apply = QPushButton("Gather them")
        self.apply.setProperty("look", "firm")
        self.apply.clicked.connect(self._apply)
        cancel = QPushButton("Not now")
        cancel.clicked.connect(self.reject)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 16, 20, 16)
        layout.setSpacing(8)
        about = QLabel(
            "Parts that were drawn separately and named by path, like Button/Primary/Large, "
            "become one component: axes from the names, and the fewest rules found that "
            "reproduce every drawing exactly."
        )
        about.setWordWrap(True)
        about.setProperty("tone", "muted")
        for widget in (about, self.family, self.axes, self.said):
            layout.addWidget(widget)
        layout.addStretch()
        buttons = QHBoxLayout()
        buttons.addStretch()
        buttons.addWidget(cancel)
        buttons.addWidget(self.apply)
        layout.addLayout(buttons)
        self.look(names[0] if names else "")

    def look(self, family: str, axis_names: tuple[str, ...] = ()) -> None:
        """Works out what a family would become; nothing is changed by it."""
        drawings = self._families.get(family)
        self.family.show_value(family)
        if drawings is None:
            self.report = None
            self.said.setText(
                "Nothing here is named by path. Rename drawn parts like Button/Primary/Large "
                "first (F2 in Layers)."
            )
            self.apply.setEnabled(False)
            return
        new_id = fresh_id("component")
        self.report = gather(self._session.document, drawings, new_id, axis_names)
        self._show(self.report, family)

    def _show(self, report: Report, family: str) -> None:
        self._clear_axes()
        component = report.component
        if component is None:
            listed = "<br>".join(f"! {c}" for c in report.conflicts[:_SHOWN_PROBLEMS])
            self.said.setText(f"Nothing can be gathered before this is mended:<br>{listed}")
            self.apply.setEnabled(False)
            return
        for n, axis in enumerate(component.axes):
            field = WordsField(f"Name of axis {n + 1}")
            field.show_value(axis.name)
            field.edited.connect(lambda _: self.look(family, self._names()))
            values = QLabel(", ".join(value.name for value in axis.values))
            values.setProperty("tone", "muted")
            values.setWordWrap(True)
            self._axis_rows.addWidget(field, n, 0)
            self._axis_rows.addWidget(values, n, 1)
        self._axis_rows.setColumnStretch(1, 1)
        self.said.setText(self._proof(report))
        self.apply.setEnabled(not report.differences)

    def _proof(self, report: Report) -> str:
        assert report.component is not None
        mark, color = ("!", "problem") if report.differences else ("✓", "good")
        lines = [
            f"<b>{len(report.drawings)}</b> drawings become <b>1</b> component with "
            f"<b>{len(report.component.rules)}</b> rules.",
            f"{len(report.missing)} combinations were never drawn and will not be offered.",
            f"<span style='color:{getattr(self._theme, color)}'>{mark} "
            f"{len(report.differences)} differences</span>, every property of every drawing "
            "compared.",
        ]
        lines += report.differences[:_SHOWN_PROBLEMS]
        return "<br>".join(lines)

    def _names(self) -> tuple[str, ...]:
        found = []
        for n in range(self._axis_rows.rowCount()):
            item = self._axis_rows.itemAtPosition(n, 0)
            field = item.widget() if item is not None else None
            if isinstance(field, WordsField):
                found.append(field.text())
        return tuple(found)

    def _clear_axes(self) -> None:
        while (item := self._axis_rows.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()

    def _apply(self) -> None:
        report = self.report
        if report is None or report.component is None:
            return
        name = f"gather {len(report.drawings)} parts"
        if self._session.edit(name, lambda d: gathered(d, report)):
            self._session.open(report.component.id)
            self.accept()
