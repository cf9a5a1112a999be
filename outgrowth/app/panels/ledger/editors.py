"""From a row of the property table to the control that shows and edits it.

Every editor speaks to the workspace in the same three ways: set, try while dragging, end the
drag. Showing a value never counts as editing it, because the fields say `edited` only for
what a hand did.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any, NamedTuple

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QLabel, QWidget

from outgrowth.app.fields.arrangement import DRAWN, HIGH, WIDE, arrangement_icon
from outgrowth.app.fields.choice import DropDown, Segments, Switch
from outgrowth.app.fields.color import ColorField
from outgrowth.app.fields.faces import FaceDelegate
from outgrowth.app.fields.fluid import FluidField
from outgrowth.app.fields.focal import FocalField, Thumbnails
from outgrowth.app.fields.four import FourField
from outgrowth.app.fields.length import TracksField
from outgrowth.app.fields.number import DragLabel, NumberField
from outgrowth.app.fields.picture import PictureField
from outgrowth.app.fields.pins import PinsField
from outgrowth.app.fields.rich import RichWordsField
from outgrowth.app.fields.shadow import ShadowField
from outgrowth.app.fields.sides import SidesField
from outgrowth.app.fields.size import BoundField, SizeField
from outgrowth.app.fields.words import WordsField
from outgrowth.app.paint import Rasters
from outgrowth.app.theme import Theme
from outgrowth.app.theme.builders import push_button
from outgrowth.core.color import Color, Gradient, parse
from outgrowth.core.document.grid_areas import AreasType, AreaType
from outgrowth.core.document.grid_tracks import TracksType
from outgrowth.core.document.properties import (
    CHOICE,
    FAMILY_MEMBERS,
    TABLE,
    StyleProperty,
    family_label,
)
from outgrowth.core.document.records import Axis, Component, ComponentProperty
from outgrowth.core.document.referring import color_tokens
from outgrowth.core.document.rooms import room_text
from outgrowth.core.document.types import (
    ChoiceType,
    ColorType,
    ContentType,
    FillType,
    FlagType,
    LimitType,
    ModeType,
    NumberType,
    OnceType,
    PictureType,
    ShadowsType,
    SizeType,
)
from outgrowth.core.document.uses import once_choices, once_words
from outgrowth.core.document.values import (
    NO_PICTURE,
    Literals,
    Onces,
    Picture,
    Size,
    Token,
    Value,
    is_onces,
    is_tracks,
    words,
)
from outgrowth.core.document.variants import is_switch
from outgrowth.core.edits.at_reach import is_shown
from outgrowth.core.paint.shapes import seen_shares
from outgrowth.core.resolve.ladder import Inspection
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import style_commands
from outgrowth.workspace.commands.selection_commands import component_here
from outgrowth.workspace.commands.token_commands import fitting
from outgrowth.workspace.measures import area_names, grid_lines
from outgrowth.workspace.views.backdrop_color import behind_selection
from outgrowth.workspace.views.face_sample import face_sample
from outgrowth.workspace.views.fillings import Fillings, slot_fillings
from outgrowth.workspace.views.formula_note import formula_note
from outgrowth.workspace.views.held_size import held_text
from outgrowth.workspace.views.ledger_rows import inset_text, pin_of
from outgrowth.workspace.views.mode_options import mode_options
from outgrowth.workspace.views.used_colors import used_colors

Show = Callable[[Inspection], None]

# Letters, all options together, that fit side by side in the ledger's width.
_SEGMENTS_FIT = 24


_NOT_HERE = (
    "The component says something else for this variant: what is set here does not show in it."
)


class Editor:
    """A control bound to properties: `show` puts an inspection's values into it."""

    def __init__(
        self,
        names: tuple[str, ...],
        title: str,
        parts: tuple[QLabel, QWidget],
        show: Show,
        about: str = "",
        of_instance: bool = False,
    ) -> None:
        self.names = names
        self.title = title
        self.label, self.widget = parts
        self.show = show
        self.help = about
        self.of_instance = of_instance


class WindowAsking(NamedTuple):
    """What an editor can't ask for by itself: another picture for the selection, and something to
    fill a slot with."""

    picture: Callable[[], object]
    filling: Callable[[Fillings], object]


class Editors:
    """Makes editors for one workspace.

    measured   gives the laid-out width and height of the selection in px, and the width and
               height inside of what holds it
    asking     asks for what is chosen over the window
    """

    def __init__(
        self,
        workspace: Workspace,
        theme: Theme,
        measured: Callable[[], tuple[float, float, float, float] | None],
        asking: WindowAsking,
    ) -> None:
        self._asking = asking
        self._workspace = workspace
        self._theme = theme
        self._measured = measured
        self._opened: frozenset[str] = frozenset()

    def for_row(self, row: StyleProperty) -> Editor:
        """The editor of one row of the table."""
        kind = row.type
        if isinstance(kind, NumberType):
            return self._number(row, kind)
        if isinstance(kind, ColorType | FillType):
            return self._color(row, isinstance(kind, FillType))
        if isinstance(kind, SizeType):
            return self._size(row)
        if isinstance(kind, LimitType):
            return self._limit(row)
        if isinstance(kind, TracksType):
            return self._tracks(row)
        if isinstance(kind, ChoiceType):
            return self._choice(row, kind)
        if isinstance(kind, FlagType):
            return self._flag(row)
        if isinstance(kind, PictureType):
            return self._picture(row)
        if isinstance(kind, ShadowsType):
            return self._shadow(row)
        if isinstance(kind, OnceType):
            return self._once(row)
        if isinstance(kind, ModeType):
            return self._mode(row)
        if isinstance(kind, AreaType):
            return self._area(row)
        return self._words(row, isinstance(kind, ContentType))

    def for_family(self, family: str) -> Editor:
        """The editor of rows that belong together."""
        names = FAMILY_MEMBERS[family]
        if family == "pins":
            return self._pins(names)
        if family == "push":
            return self._sides(names)
        if family == "focal-point":
            return self._focal(names)
        if family == "grows-to":
            return self._fluid(names)
        title = family_label(family)
        field = FourField(names, title, self._theme)
        field.line.names = lambda: fitting(self._workspace.document, names[0])
        field.open_sides(family in self._opened)
        field.opened.connect(lambda on: self._note_opened(family, on))
        field.edited.connect(self._set)
        self._draggable(field, lambda values: values)

        def show(inspection: Inspection) -> None:
            values = {name: inspection.value(name) for name in names}
            field.show_values({n: v if isinstance(v, float) else None for n, v in values.items()})

        about = f"Four at once as in CSS: {_order(names)}. “10 16” says top and bottom, then sides."
        if family == "radius":
            about = f"How round the corners are: {_order(names)}. One number is for all four."
        return Editor(names, title, (DragLabel(title, field.line), field), show, about)

    def _note_opened(self, family: str, on: bool) -> None:
        """Which of them show each side stays when the ledger is built anew."""
        self._opened = self._opened | {family} if on else self._opened - {family}

    def _pins(self, names: tuple[str, ...]) -> Editor:
        field = PinsField(self._theme)
        field.edited.connect(lambda name, pin: self._set({name: pin}))

        def show(inspection: Inspection) -> None:
            field.show_value(*(_text(inspection.value(name)) for name in names))

        about = "Which edges a floating part, or one of a free box, is tied to."
        return Editor(names, "Pins", (QLabel("Pins"), field), show, about)

    def _sides(self, names: tuple[str, ...]) -> Editor:
        field = SidesField(names, "Push")
        field.edited.connect(self._set)

        def show(inspection: Inspection) -> None:
            field.show_values({name: _yes(inspection.value(name)) for name in names})

        return Editor(names, "Push", (QLabel("Push"), field), show, TABLE[names[0]].help)

    def _focal(self, names: tuple[str, ...]) -> Editor:
        field, title = FocalField(self._theme), family_label("focal-point")
        field.edited.connect(self._set)
        self._draggable(field, lambda values: values)
        thumbnails = Thumbnails()

        def show(inspection: Inspection) -> None:
            said = inspection.value("picture")
            picture = said if isinstance(said, Picture) else NO_PICTURE
            asset = self._workspace.document.assets.get(picture.asset)
            x, y = (inspection.value(name) for name in names)
            point = x if isinstance(x, float) else None, y if isinstance(y, float) else None
            sizes = self._measured()
            room = sizes[:2] if sizes is not None else (0.0, 0.0)
            seen = seen_shares(picture, room, _text(inspection.value("fit")) or "cover")
            field.show_value(thumbnails.of(asset), point, seen)

        about = "What of a picture stays in sight where it is cut, or where it lies in more room."
        return Editor(names, title, (QLabel(title), field), show, about)

    def _fluid(self, names: tuple[str, ...]) -> Editor:
        field, title = FluidField(), family_label("grows-to")
        field.edited.connect(self._set)
        size, *rooms = field.numbers.values()
        for name, number in field.numbers.items():
            self._named(number, name)
        for number in rooms:
            number.failed.connect(self._workspace.failed.emit)
        self._draggable(size, lambda value: {names[0]: value})

        def show(inspection: Inspection) -> None:
            values = {name: inspection.value(name) for name in names}
            field.show_values({n: v if isinstance(v, float) else None for n, v in values.items()})

        about = (
            "The size that the letters grow to, from one width of their room to another: of the "
            "part around them, or of the screen. 0 keeps them as they are."
        )
        return Editor(names, title, (DragLabel(title, size), field), show, about)

    # --- style properties -----------------------------------------------------------------

    def _named(self, field: NumberField, name: str) -> None:
        """Lets the name of a token be typed for a value of this name."""
        field.names = lambda: fitting(self._workspace.document, name)
        field.named.connect(lambda path: self._set({name: Token(path)}))

    def _number(self, row: StyleProperty, kind: NumberType) -> Editor:
        field = NumberField(kind, row.label)
        self._named(field, row.name)
        field.edited.connect(lambda value: self._set({row.name: value}))
        self._draggable(field, lambda value: {row.name: value})

        title, pin = DragLabel(row.label, field), pin_of(row.name)

        def show(inspection: Inspection) -> None:
            value = inspection.value(row.name)
            field.show_value(value if isinstance(value, float) else None)
            if pin:
                title.setText(inset_text(row.name, inspection.value(pin)))

        return Editor((row.name,), row.label, (title, field), show, row.help)

    def _color(self, row: StyleProperty, gradients: bool) -> Editor:
        backdrop = partial(behind_selection, self._workspace)
        field = ColorField(row.label, self.color_tokens, gradients, backdrop, self._used_colors)
        field.tried.connect(lambda value: self._try({row.name: value}))
        field.edited.connect(lambda value: self._commit({row.name: value}))
        field.left.connect(self._workspace.cancel_drag)
        field.failed.connect(self._workspace.failed.emit)

        def show(inspection: Inspection) -> None:
            value = inspection.value(row.name)
            values = [rung.value for rung in inspection.ladder(row.name) if rung.wins]
            source = values[0] if len(values) == 1 else None
            visible = value if isinstance(value, Color | Gradient) else None
            field.show_value(visible, source)  # type: ignore[arg-type]  # a rung's value

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _size(self, row: StyleProperty) -> Editor:
        field = SizeField(row.label)
        field.edited.connect(lambda value: self._set({row.name: value}))
        self._draggable(field, lambda value: {row.name: value})
        side = 0 if row.name == "width" else 1

        def show(inspection: Inspection) -> None:
            value = inspection.value(row.name)
            measured = self._measured()
            px = measured[side] if measured is not None else None
            room = measured[side + 2] if measured is not None else 0.0
            size = value if isinstance(value, Size) else None
            held = ""
            if px is not None:
                held = held_text(self._workspace, inspection, row.name, px, room)
            field.show_value(size, px, room, held)

        field.explain = partial(formula_note, self._workspace, row.name)
        label = DragLabel(row.label, field.number)
        return Editor((row.name,), row.label, (label, field), show, row.help)

    def _limit(self, row: StyleProperty) -> Editor:
        field = BoundField(f"{row.label}: px, % of what holds it, ch, or a formula of these")
        field.explain = partial(formula_note, self._workspace, row.name)
        number = field.number
        self._named(number, row.name)
        number.size_edited.connect(lambda size: self._set({row.name: _limit_of(size)}))
        self._draggable(number, lambda value: {row.name: _limit_of(value)}, number.tried)

        def show(inspection: Inspection) -> None:
            value = inspection.value(row.name)
            plain = Size("fixed", value) if isinstance(value, float) else value
            number.show_length(plain if isinstance(plain, Size) else None)

        return Editor((row.name,), row.label, (DragLabel(row.label, number), field), show, row.help)

    def _tracks(self, row: StyleProperty) -> Editor:
        field = TracksField(row.label, self._theme)
        field.edited.connect(lambda tracks: self._set({row.name: tracks}))
        field.failed.connect(self._workspace.failed.emit)

        def show(inspection: Inspection) -> None:
            value = inspection.value(row.name)
            lines = grid_lines(self._workspace) or ((), ())
            ends = lines[0] if row.name == "columns" else lines[1]
            field.show_value(value if is_tracks(value) else None, ends)

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _choice(self, row: StyleProperty, kind: ChoiceType) -> Editor:
        drawn_as: list[bool] = []
        field = _options(tuple((option, option) for option in kind.options), row.label)
        field.edited.connect(lambda value: self._set({row.name: value}))

        def show(inspection: Inspection) -> None:
            column = inspection.value("flow") == "column"
            if row.name in DRAWN and isinstance(field, DropDown) and drawn_as != [column]:
                drawn_as[:] = [column]
                self._draw_options(field, row.name, kind, column)
            field.show_value(_text(inspection.value(row.name)))

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _draw_options(self, field: DropDown, name: str, kind: ChoiceType, column: bool) -> None:
        """Each choice of an arrangement as it looks, in a row or in a column."""
        field.setIconSize(QSize(WIDE, HIGH))
        for n, option in enumerate(kind.options):
            field.setItemIcon(n, arrangement_icon(name, option, column, self._theme))

    def _flag(self, row: StyleProperty) -> Editor:
        field = Switch(row.label, self._theme)
        field.edited.connect(lambda value: self._set({row.name: value}))

        def show(inspection: Inspection) -> None:
            field.show_value(_yes(inspection.value(row.name)))

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _shadow(self, row: StyleProperty) -> Editor:
        field = ShadowField(self.color_tokens)
        field.edited.connect(lambda value: self._set({row.name: value}))
        field.failed.connect(self._workspace.failed.emit)

        def show(inspection: Inspection) -> None:
            stated = [rung.value for rung in inspection.ladder(row.name) if rung.wins]
            shadows = inspection.value(row.name)
            # As they are said, with the names of their colours; a token's are its own.
            if len(stated) == 1 and isinstance(stated[0], tuple) and shadows:
                shadows = stated[0]
            field.show_value(shadows)  # type: ignore[arg-type]  # the row says shadows

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _mode(self, row: StyleProperty) -> Editor:
        field = DropDown((), row.label)
        field.edited.connect(lambda value: self._set({row.name: value}))

        def show(inspection: Inspection) -> None:
            said = _text(inspection.value(row.name))
            field.set_options(mode_options(self._workspace.document, said or ""))
            field.show_value(said)

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _once(self, row: StyleProperty) -> Editor:
        """Which value only one of the instances in the box has; offered by its words."""
        field = DropDown((), row.label)
        choices: dict[str, Onces] = {}
        field.edited.connect(lambda words: self._set({row.name: choices.get(words, ())}))

        def show(inspection: Inspection) -> None:
            document = self._workspace.document
            current = inspection.value(row.name)
            words_of = once_words(document, current if is_onces(current) else ())
            choices.clear()
            choices.update(once_choices(document, inspection.node))
            if words_of:
                choices.setdefault(words_of, current)  # type: ignore[arg-type]  # it has words
            field.set_options((("", "nothing"), *((choice, choice) for choice in choices)))
            field.show_value(None if current is None else words_of)

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _picture(self, row: StyleProperty) -> Editor:
        field = PictureField(self._theme)
        field.another_asked.connect(self._asking.picture)

        def show(inspection: Inspection) -> None:
            current = inspection.value(row.name)
            assets = self._workspace.document.assets
            visible = current if isinstance(current, Picture) else None
            field.show_value(visible, assets.get(visible.asset) if visible is not None else None)

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _words(self, row: StyleProperty, content: bool) -> Editor:
        if row.name == "font-family":
            return self._family(row)
        if content:
            field, show = self._rich(row.name, row.label)
            return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)
        plain_field = WordsField(row.label)
        if isinstance(row.type, AreasType):
            # Half of a list is none; it counts when it is whole.
            plain_field.setPlaceholderText("head head / side main")
            plain_field.edited.connect(lambda text: self._set({row.name: text}))
        else:
            plain_field.edited.connect(lambda text: self._typed({row.name: text}))
            plain_field.typed.connect(lambda text: self._try({row.name: text}))

        def show_plain(inspection: Inspection) -> None:
            plain_field.show_value(_text(inspection.value(row.name)))

        parts = QLabel(row.label), plain_field
        return Editor((row.name,), row.label, parts, show_plain, row.help)

    def _area(self, row: StyleProperty) -> Editor:
        """Which of the areas of the grid around it a part fills."""
        nowhere = ("", "its column and row")
        field = DropDown((nowhere,), row.label)
        field.edited.connect(lambda value: self._set({row.name: value}))

        def show(inspection: Inspection) -> None:
            value = _text(inspection.value(row.name))
            names = area_names(self._workspace)
            if value and value not in names:
                names = (*names, value)
            field.set_options((nowhere, *((name, name) for name in names)))
            field.show_value(value)

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    def _rich(self, name: str, label: str) -> tuple[QWidget, Show]:
        """The field of a text, with its bold and italic runs."""
        field = RichWordsField(label)
        field.edited.connect(lambda runs: self._typed({name: runs}))
        field.typed.connect(lambda runs: self._try({name: runs}))

        def show(inspection: Inspection) -> None:
            current = inspection.value(name)
            field.show_value(words(current) if isinstance(current, str) else current)  # type: ignore[arg-type]  # runs

        return field, show

    def _family(self, row: StyleProperty) -> Editor:
        families = self._workspace.engine.fonts.families
        field = DropDown(tuple((family, family) for family in families), row.label)
        ink, engine = parse(self._theme.ink), self._workspace.engine
        faces = FaceDelegate(lambda name: face_sample(engine, name, ink), Rasters(), self._theme)
        faces.setParent(field)
        field.setItemDelegate(faces)
        field.edited.connect(lambda value: self._set({row.name: value}))

        def show(inspection: Inspection) -> None:
            family = _text(inspection.value(row.name))
            field.show_value(family)
            missing = family is not None and self._workspace.engine.fonts.missing(family)
            field.setPlaceholderText(f"! {family}" if missing else "")
            field.setToolTip(
                f"“{family}” is not on this machine; another typeface stands in for it."
                if missing
                else row.help
            )

        return Editor((row.name,), row.label, (QLabel(row.label), field), show, row.help)

    # --- an instance's choices ------------------------------------------------------------

    def for_axis(self, axis: Axis) -> Editor:
        """The editor of an instance's value on one axis."""
        name = CHOICE + axis.id
        if axis.driver == "room":
            return self._by_room(axis)
        options = tuple((value.id, value.name) for value in axis.values)
        field = _options(options, axis.name)
        field.edited.connect(lambda value: self._set({name: value}))

        def show(inspection: Inspection) -> None:
            field.show_value(_text(inspection.value(name)))

        about = "An axis of the component: which of its variants this instance shows."
        if axis.driver != "none":
            about = f"The {axis.driver} sets it; another value is held while nothing does."
        if is_switch(axis):
            about = f"{about} It reads as yes or no."
        return Editor((name,), axis.name, (QLabel(axis.name), field), show, about, True)

    def _by_room(self, axis: Axis) -> Editor:
        """What the room of an instance makes of it, to be read only."""
        name = CHOICE + axis.id
        told = QLabel()
        told.setAccessibleName(axis.name)

        def show(inspection: Inspection) -> None:
            value = axis.value(_text(inspection.value(name)) or "")
            told.setText(f"{value.name if value is not None else ''} · by its {axis.side}")

        about = f"{room_text(axis)} Give the instance another {axis.side} to see another."
        told.setToolTip(about)
        return Editor((name,), axis.name, (QLabel(axis.name), told), show, about, True)

    def for_property(self, component: Component, prop: ComponentProperty) -> Editor:
        """The editor of an instance's value for one property of its component."""
        make = {
            "switch": self._switch_property,
            "slot": self._slot_property,
            "color": self._color_property,
            "number": self._number_property,
        }.get(prop.kind, self._text_property)
        widget, show = make(prop)
        about = prop.description or f"A property of {component.name}."
        label = QLabel(prop.name)

        def show_and_tell(inspection: Inspection) -> None:
            show(inspection)
            place = self._workspace.place
            shown = place is None or is_shown(self._workspace.document, place, prop.id)
            font = label.font()
            font.setStrikeOut(not shown)
            label.setFont(font)
            label.setToolTip(about if shown else _NOT_HERE)

        return Editor((CHOICE + prop.id,), prop.name, (label, widget), show_and_tell, about, True)

    def _text_property(self, prop: ComponentProperty) -> tuple[QWidget, Show]:
        return self._rich(CHOICE + prop.id, prop.name)

    def _switch_property(self, prop: ComponentProperty) -> tuple[QWidget, Show]:
        name = CHOICE + prop.id
        field = Switch(prop.name, self._theme)
        field.edited.connect(lambda on: self._set({name: on}))
        return field, lambda result: field.show_value(_yes(result.value(name)))

    def _slot_property(self, prop: ComponentProperty) -> tuple[QWidget, Show]:
        """What fills it, and a gallery of what may."""
        name, filled = CHOICE + prop.id, [""]
        field = push_button(look="offer", name=prop.name)

        def ask() -> None:
            component = component_here(self._workspace)
            if component is not None:
                fillings = slot_fillings(self._workspace, component, prop, filled[0])
                self._asking.filling(fillings)

        def show(inspection: Inspection) -> None:
            chosen = _text(inspection.value(name))
            filled[0] = chosen or ""
            component = self._workspace.document.components.get(filled[0])
            text = "mixed" if chosen is None else "empty"
            field.setText(f"{component.short_name if component is not None else text} ▾")

        field.clicked.connect(ask)
        return field, show

    def _color_property(self, prop: ComponentProperty) -> tuple[QWidget, Show]:
        name = CHOICE + prop.id
        field = ColorField(prop.name, self.color_tokens, used=self._used_colors)
        field.edited.connect(lambda value: self._set({name: value}))
        field.failed.connect(self._workspace.failed.emit)

        def show(inspection: Inspection) -> None:
            value = inspection.value(name)
            field.show_value(value if isinstance(value, Color) else None, None)

        return field, show

    def _number_property(self, prop: ComponentProperty) -> tuple[QWidget, Show]:
        name = CHOICE + prop.id
        field = NumberField(NumberType(), prop.name)
        field.edited.connect(lambda value: self._set({name: value}))
        self._draggable(field, lambda value: {name: value})

        def show(inspection: Inspection) -> None:
            value = inspection.value(name)
            field.show_value(value if isinstance(value, float) else None)

        return field, show

    # --- the workspace --------------------------------------------------------------------

    def color_tokens(self) -> dict[str, Color]:
        """The file's colour tokens, as they are shown."""
        return color_tokens(self._workspace.document)

    def _used_colors(self) -> tuple[Color, ...]:
        return used_colors(self._workspace.document)

    def _set(self, values: dict[str, Value]) -> None:
        style_commands.set_style(self._workspace, values)

    def _commit(self, values: dict[str, Value]) -> None:
        """What was tried before is one step with what is set at last."""
        if self._workspace.dragging:
            style_commands.drag_style(self._workspace, values)
            self._workspace.drop(style_commands.style_step(self._workspace, values))
        else:
            self._set(values)

    def _try(self, values: dict[str, Value]) -> None:
        self._last = values
        style_commands.drag_style(self._workspace, values)

    def _typed(self, values: dict[str, Value]) -> None:
        """Words that were tried with every key become one step."""
        self._try(values)
        self._workspace.drop(style_commands.style_step(self._workspace, values))

    def _draggable(
        self,
        field: NumberField | FourField | SizeField | FocalField,
        values: Callable[[Any], dict[str, Value]],
        pulled: Any = None,
    ) -> None:
        """Values shown while the field's handle is pulled; a field's signal carries what
        its own kind of value is, hence Any. `pulled` is another signal than `dragged`."""
        (pulled or field.dragged).connect(lambda value: self._try(values(value)))
        field.dropped.connect(
            lambda: self._workspace.drop(style_commands.style_step(self._workspace, self._last))
        )
        field.cancelled.connect(self._workspace.cancel_drag)
        field.failed.connect(self._workspace.failed.emit)


def _limit_of(size: Size) -> Literals:
    return size.amount if size.mode == "fixed" else size


def _text(value: Literals | None) -> str | None:
    return None if value is None else str(value)


def _yes(value: Literals | None) -> bool | None:
    return None if value is None else value is True


def _options(options: tuple[tuple[str, str], ...], name: str) -> Segments | DropDown:
    letters = sum(len(text) + 2 for _, text in options)
    return Segments(options, name) if letters <= _SEGMENTS_FIT else DropDown(options, name)


def _order(names: tuple[str, ...]) -> str:
    return ", ".join(name.partition("-")[2].replace("-", " ") for name in names)
