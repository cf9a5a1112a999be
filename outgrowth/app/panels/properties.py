"""What instances of the component on the bench may set: names, order, defaults, descriptions,
and which components a slot offers first."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QEvent, QSize, pyqtSignal
from PyQt6.QtGui import QEnterEvent
from PyQt6.QtWidgets import QMenu, QVBoxLayout, QWidget

from outgrowth.app.benches.place_picture import PlacePicture
from outgrowth.app.fields.choice import DropDown, Switch
from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.ordered import Grip, OrderedRows
from outgrowth.app.fields.rich import RichWordsField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.paint import Rasters
from outgrowth.app.panels.sheet import SheetPanel, indented, muted
from outgrowth.app.theme import Theme, builders
from outgrowth.core.color import Color
from outgrowth.core.document.records import Component, ComponentProperty, Path
from outgrowth.core.document.referring import meaning
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import Default, Shift, Token, Value, words
from outgrowth.core.edits.instances import properties
from outgrowth.core.edits.instances.properties import parts_set_by
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import property_commands, selection_commands
from outgrowth.workspace.commands.property_commands import fitting_components
from outgrowth.workspace.views.component_description import KIND_WORDS
from outgrowth.workspace.views.value_format import value_text

_PICTURE = QSize(44, 30)


class _Pointed(QWidget):
    """Says when the pointer is over it, and when it has gone."""

    def __init__(self, tell: Callable[[bool], object]) -> None:
        super().__init__()
        self._tell = tell

    def enterEvent(self, event: QEnterEvent | None) -> None:
        super().enterEvent(event)
        self._tell(True)

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        self._tell(False)


class Properties(SheetPanel):
    """The properties in their order, as instances show them.

    pointed(tuple)  the parts that the property under the pointer changes, none when it is left
    """

    pointed = pyqtSignal(tuple)

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__(workspace, "Properties")
        self._rasters = rasters
        self._theme = theme
        self._described = ""

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.rebuild()

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        names = tuple((c.id, c.name) for c in self._workspace.document.in_order())
        return component and (component.id, component.properties, component.root, names)

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines for the component on the bench."""
        if component is None:
            layout.addWidget(muted("A screen has no instances to open values to."))
            return
        if not component.properties:
            layout.addWidget(
                muted(
                    "Instances can set nothing but the axes yet. Select a part, press the tag "
                    "beside one of its values in the ledger, and choose “let instances set it”."
                )
            )
        rows = OrderedRows(self._theme, 10)
        for prop in component.properties:
            grip = Grip(f"Order of {prop.name}", self._theme)
            rows.add(self._property(component, prop, grip), grip)
        rows.moved.connect(
            lambda start, end: property_commands.move(
                self._workspace, component.id, component.properties[start], end
            )
        )
        layout.addWidget(rows)

    def _property(self, component: Component, prop: ComponentProperty, grip: Grip) -> QWidget:
        parts = parts_set_by(component, prop.id)
        container = _Pointed(lambda over: self.pointed.emit(parts if over else ()))
        column = builders.column(container, spacing=2)
        name = WordsField(f"Name of {prop.name}")
        name.show_value(prop.name)
        name.renames(partial(property_commands.rename, self._workspace, component.id, prop))
        head = builders.row(spacing=4)
        about = f"More for {prop.name}"
        more = builders.push_button("⋯", look="tag", name=about)
        more.clicked.connect(lambda: builders.show_menu(self.property_menu(component, prop), more))
        for widget, stretch in ((grip, 0), (self._picture(component, parts), 0), (name, 1)):
            head.addWidget(widget, stretch)
        head.addWidget(more)
        column.addLayout(head)
        first = QWidget()
        row = builders.row(first)
        row.addWidget(builders.label(f"{KIND_WORDS[prop.kind]}, at first ", tone="muted"))
        row.addWidget(self._default(component, prop), 1)
        column.addWidget(indented(first))
        if prop.description or self._described == prop.id:
            column.addWidget(indented(self._description(component, prop)))
        return container

    def _picture(self, component: Component, parts: Sequence[Path]) -> QWidget:
        """The component with what a property changes of it edged."""
        picture = PlacePicture(self._rasters, self._theme, "What it changes", "clay")
        picture.setMinimumHeight(0)
        picture.setFixedSize(_PICTURE)
        workspace = self._workspace
        view = workspace.engine.view(workspace.document, component.id)
        picture.show_place(view, parts[0] if parts else ())
        return picture

    def _description(self, component: Component, prop: ComponentProperty) -> WordsField:
        about = WordsField(f"What {prop.name} is for")
        about.show_value(prop.description)
        about.setPlaceholderText("what it is for")
        describe = partial(property_commands.describe, self._workspace, component.id, prop)
        about.edited.connect(describe)
        return about

    def describe(self, prop: ComponentProperty) -> None:
        """Asks for what a property is for, in a field of its own."""
        self._described = prop.id
        self.rebuild()
        name = f"What {prop.name} is for"
        for field in self.findChildren(WordsField):
            if field.accessibleName() == name and field.isVisible():
                field.setFocus()

    def property_menu(self, component: Component, prop: ComponentProperty) -> QMenu:
        """What can be done with a property."""
        menu = QMenu(self)
        if not prop.description:
            builders.menu_entry(menu, "Say what it is for", partial(self.describe, prop))
        setting = len(properties.setters(self._workspace.document, component.id, prop.id))
        removal = f"Remove; {setting} set it" if setting else "Remove"
        remove = partial(property_commands.remove, self._workspace, component.id, prop)
        builders.menu_entry(menu, removal, remove)
        return menu

    # --- defaults -------------------------------------------------------------------------

    def _default(self, component: Component, prop: ComponentProperty) -> QWidget:
        name = f"{prop.name} at first"
        set_it = partial(property_commands.set_default, self._workspace, component.id, prop)
        value = prop.default
        if prop.kind == "switch":
            switch = Switch(name, self._theme)
            switch.show_value(value is True)
            switch.edited.connect(set_it)
            return switch
        if prop.kind == "color":
            tokens = self._workspace.document.tokens
            colors: dict[str, Color] = {
                p: t.value for p, t in tokens.items() if isinstance(t.value, Color)
            }
            color = ColorField(name, lambda: colors)
            shown = self._settled(value)
            color.show_value(shown if isinstance(shown, Color) else None, value)
            color.edited.connect(set_it)
            color.failed.connect(self._workspace.failed.emit)
            return color
        if prop.kind == "number":
            number = NumberField(NumberType(), name)
            shown = self._settled(value)
            number.show_value(shown if isinstance(shown, float) else None)
            if not isinstance(value, float):
                number.setToolTip(value_text(self._workspace.document, value))
            number.edited.connect(set_it)
            number.failed.connect(self._workspace.failed.emit)
            return number
        if prop.kind == "slot":
            return self._slot(component, prop, name)
        text = RichWordsField(name)
        text.show_value(words(value) if isinstance(value, str) else value)  # type: ignore[arg-type]  # runs
        text.edited.connect(set_it)
        return text

    def _settled(self, value: Default) -> Value | None:
        """What a default comes to; None where it is relative to what lies below."""
        if isinstance(value, Token):
            return meaning(value.path, self._workspace.document.token)
        return None if isinstance(value, Shift) else value

    def _slot(self, component: Component, prop: ComponentProperty, name: str) -> QWidget:
        container = QWidget()
        row = builders.row(container, spacing=4)
        fitting = fitting_components(self._workspace.document, component)
        options = (("", "empty"), *((c.id, selection_commands.short(c)) for c in fitting))
        field = DropDown(options, name)
        field.show_value(str(prop.default))
        field.edited.connect(
            partial(property_commands.set_default, self._workspace, component.id, prop)
        )
        row.addWidget(field, 1)
        shortlist: QWidget = builders.push_button(
            f"shortlist, {len(prop.shortlist)}",
            lambda: self._offer(shortlist, component, prop),
            look="tag",
            tip="The components that instances are offered first",
        )
        row.addWidget(shortlist)
        return container

    def _offer(self, button: QWidget, component: Component, prop: ComponentProperty) -> None:
        builders.show_menu(self.shortlist_menu(component, prop), button)

    def shortlist_menu(self, component: Component, prop: ComponentProperty) -> QMenu:
        """Every component that the slot can hold, those of the shortlist ticked."""
        menu = QMenu(self)
        for offered in fitting_components(self._workspace.document, component):
            action = menu.addAction(offered.name)
            if action is not None:
                action.setCheckable(True)
                action.setChecked(offered.id in prop.shortlist)
                action.triggered.connect(
                    partial(
                        property_commands.set_listed,
                        self._workspace,
                        component.id,
                        prop,
                        offered.id,
                    )
                )
        return menu
