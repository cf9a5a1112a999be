"""What the component on the bench is for, how it is used, and where: screens and components,
with how often, each a way there."""

from __future__ import annotations

from functools import partial
from itertools import groupby

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from outgrowth.app.benches.place_picture import PlacePicture
from outgrowth.app.fields.words import WordsField
from outgrowth.app.paint import Rasters
from outgrowth.app.panels.sheet import SheetPanel, line, muted
from outgrowth.app.theme import Theme, builders
from outgrowth.core.document.extent import filling
from outgrowth.core.document.records import Component, Node, Owner, find
from outgrowth.core.document.uses import Use, uses
from outgrowth.workspace import Workspace, measures
from outgrowth.workspace.commands import library_commands
from outgrowth.workspace.commands.library_commands import Advice
from outgrowth.workspace.views.chosen_text import chosen_text
from outgrowth.workspace.views.status_text import count_text

# Places of one owner before the rest is counted.
_MOST = 12
_PICTURE = QSize(92, 56)
_FIRST: dict[Advice, str] = {"dos": "how to use it", "donts": "what to keep from"}


class Uses(SheetPanel):
    """visited(str, tuple)  an owner, and the path of an instance in it"""

    visited = pyqtSignal(str, tuple)

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__(workspace, "Uses")
        self._rasters = rasters
        self._theme = theme
        # The component whose advice is being written: fields stand where its sentences would.
        self._advised = ""

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.rebuild()

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        document = self._workspace.document
        # What is said of it is part of it, so that its own words are followed too.
        return component and (component.id, id(document.components), id(document.screens))

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines for the component on the bench."""
        if component is None:
            layout.addWidget(muted("A screen is not used by anything; open a component."))
            return
        self._guidance(layout, component)
        places = uses(self._workspace.document, component.id)
        seen = count_text(measures.instances_of(self._workspace)[component.id], "instance")
        put = count_text(len(places), "place")
        filled = self._filling(component) if not places else []
        is_used = bool(places or filled)
        title = f"Where it is used: {put}, seen as {seen}" if is_used else "Where it is used"
        layout.addWidget(_title(title))
        for owner in filled:
            head = QLabel(f"<b>{owner.name}</b> · in a slot")
            layout.addWidget(line(head, ("go there", partial(self.visited.emit, owner.id, ()))))
        if not is_used:
            layout.addWidget(
                muted("Not used yet. Drag it from the Library onto a screen, or into a part.")
            )
        for owner_id, group in groupby(places, lambda use: use.owner):
            self._owner(layout, owner_id, list(group))

    def _filling(self, component: Component) -> list[Owner]:
        """The owners that put a component into slots of theirs."""
        document = self._workspace.document
        return [owner for owner in document.owners() if component.id in filling(document, owner)]

    def _guidance(self, layout: QVBoxLayout, component: Component) -> None:
        layout.addWidget(_title("What it is for"))
        about = WordsField("What it is for")
        about.show_value(component.description)
        about.setPlaceholderText("a sentence for those who will use it")
        about.edited.connect(partial(library_commands.describe, self._workspace, component.id))
        layout.addWidget(about)
        if self._advised == component.id:
            self._advice(layout, component, "dos", "Do")
            self._advice(layout, component, "donts", "Don't")
            return
        advice = [f"Do: {said}" for said in component.dos]
        advice += [f"Don’t: {said}" for said in component.donts]
        text = "\n".join(advice) or "How to use it is not said yet."
        words = builders.label(text, tone="" if advice else "muted", wrap=True, plain=True)
        write = partial(self.write_advice, component)
        layout.addWidget(line(words, ("write it" if not advice else "edit", write)))

    def write_advice(self, component: Component) -> None:
        """Fields for how a component is used, and what to keep from."""
        self._advised = component.id
        self.rebuild()

    def _advice(self, layout: QVBoxLayout, component: Component, kind: Advice, title: str) -> None:
        """A field for each sentence, and an empty one for another."""
        layout.addWidget(_title(title))
        sentences = component.dos if kind == "dos" else component.donts
        for at, sentence in enumerate((*sentences, "")):
            field = WordsField(f"{title}, {at + 1}")
            field.show_value(sentence)
            field.setPlaceholderText("one more" if sentences else _FIRST[kind])
            field.edited.connect(
                partial(library_commands.advise, self._workspace, component.id, kind, at)
            )
            layout.addWidget(field)

    def _owner(self, layout: QVBoxLayout, owner_id: str, group: list[Use]) -> None:
        document = self._workspace.document
        owner = document.owner(owner_id)
        if owner is None:
            return
        kind = "component" if isinstance(owner, Component) else "screen"
        head = QLabel(f"<b>{owner.name}</b> · {kind} · {len(group)}")
        layout.addWidget(line(head, ("go there", partial(self.visited.emit, owner_id, ()))))
        for use in group[:_MOST]:
            node = find(owner.root, use.node)
            if node is not None:
                layout.addWidget(self._place(owner, node))
        if len(group) > _MOST:
            layout.addWidget(muted(f"and {len(group) - _MOST} more"))

    def _place(self, owner: Owner, node: Node) -> QWidget:
        """A place: its picture, what it is called there, and the values that it uses."""
        workspace = self._workspace
        visit = partial(self.visited.emit, owner.id, (node.id,))
        picture = PlacePicture(self._rasters, self._theme, f"{node.name} in {owner.name}", "slate")
        picture.setMinimumHeight(0)
        picture.setFixedSize(_PICTURE)
        picture.show_place(workspace.engine.view(workspace.document, owner.id), (node.id,))
        container = QWidget()
        row = builders.row(container, (18, 2, 0, 2), 8)
        row.addWidget(picture)
        said = chosen_text(workspace.document, node)
        text = f"{node.name}\n{said}" if said else node.name
        row.addWidget(builders.label(text, wrap=True, plain=True), 1)
        go = builders.push_button("go there", visit, look="tag", name=f"Go to {node.name}")
        row.addWidget(go, 0, Qt.AlignmentFlag.AlignTop)
        return container


def _title(text: str) -> QLabel:
    label = builders.label(text, tone="muted")
    label.setContentsMargins(0, 8, 0, 2)
    return label
