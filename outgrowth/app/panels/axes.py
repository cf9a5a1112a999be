"""The axes of the component on the bench: order, names, values with a picture of each, what sets
them, what they mean, where they start, and what removal does."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QVBoxLayout, QWidget

from outgrowth.app.fields.choice import DropDown, Segments
from outgrowth.app.fields.number import NumberField
from outgrowth.app.fields.ordered import Grip, OrderedRows
from outgrowth.app.fields.words import WordsField
from outgrowth.app.paint import Rasters
from outgrowth.app.paint.thumbnail import draw_thumbnail
from outgrowth.app.panels.sheet import SheetPanel, button, indented, muted
from outgrowth.app.theme import Theme, builders
from outgrowth.app.theme.icons import draw_flag
from outgrowth.core.document.axis_parts import pointer_part, says
from outgrowth.core.document.records import MEANINGS, MOST_ROOM, Axis, AxisValue, Component
from outgrowth.core.document.rooms import room_steps
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits.variants.driving import can_start, parts_of_axis
from outgrowth.workspace import Workspace
from outgrowth.workspace.commands import axis_commands, variant_commands
from outgrowth.workspace.commands.axis_commands import DRIVER_WORDS, LAYINGS, PART_WORDS
from outgrowth.workspace.views.unsaid import unsaid_row

_LAID = {"rows": "in rows", "columns": "in columns", "chips": "one at a time"}
_EXAMPLE = "On: no, yes"
_PICTURE = QSize(44, 30)


class Axes(SheetPanel):
    """The axes in their order, each with its values."""

    def __init__(self, workspace: Workspace, rasters: Rasters, theme: Theme) -> None:
        super().__init__(workspace, "Axes")
        self._rasters = rasters
        self._theme = theme
        self.line: _NewAxis | None = None

    def set_theme(self, theme: Theme) -> None:
        """Paints itself in another look from now on."""
        self._theme = theme
        self.rebuild()

    def ask(self, then: Callable[[], object] = lambda: None) -> None:
        """Waits for a new axis in one line, with a usual one to take or to type over; goes on with
        `then` when it is made."""
        self.refresh()
        if self.line is not None:
            self.ensureWidgetVisible(self.line)
            self.line.ask(then)

    def about(self, component: Component | None) -> object:
        """What decides the lines: they are made anew when this is another."""
        role = component.root.style.get("role") if component is not None else None
        return component and (
            component.id,
            component.axes,
            component.columns,
            component.chips,
            role,
        )

    def fill(self, layout: QVBoxLayout, component: Component | None) -> None:
        """Adds the lines for the component on the bench."""
        if component is None:
            self.line = None
            layout.addWidget(muted("A screen has no axes; open a component."))
            return
        told = unsaid_row(component)
        if told is not None:
            layout.addWidget(builders.label(told.text, tone="problem", wrap=True))
            run = partial(self._workspace.edit, told.title, told.change)
            layout.addWidget(button(told.title, run, "firm"), 0, Qt.AlignmentFlag.AlignLeft)
        rows = OrderedRows(self._theme, 10)
        for axis in component.axes:
            grip = Grip(f"Order of {axis.name}", self._theme)
            rows.add(self._axis(component, axis, grip), grip)
        rows.moved.connect(
            lambda start, end: axis_commands.move(
                self._workspace, component, component.axes[start], end
            )
        )
        layout.addWidget(rows)
        line = self.line = _NewAxis(self._workspace)
        line.grown.connect(lambda: self.ensureWidgetVisible(line, 0, 4))
        layout.addWidget(line)
        if not any(axis.driver == "pointer" for axis in component.axes):
            give = button(
                "give it hover and press",
                lambda: variant_commands.give_states(self._workspace),
                "firm",
            )
            layout.addWidget(give, 0, Qt.AlignmentFlag.AlignLeft)

    # --- an axis ------------------------------------------------------------------------------

    def _axis(self, component: Component, axis: Axis, grip: Grip) -> QWidget:
        workspace = self._workspace
        container = QWidget()
        column = builders.column(container, spacing=2)
        head = builders.row(spacing=4)
        name = WordsField(f"Name of the axis {axis.name}")
        name.show_value(axis.name)
        name.renames(partial(axis_commands.rename, workspace, component, axis))
        font = name.font()
        font.setBold(True)
        name.setFont(font)
        more = _menu_button(f"More for {axis.name}", partial(self._axis_menu, component, axis))
        for widget, stretch in ((grip, 0), (name, 1), (more, 0)):
            head.addWidget(widget, stretch)
        column.addLayout(head)
        column.addLayout(self._said(component, axis))
        if len(component.axes) > 1:
            lay = Segments([(w, _LAID[w]) for w in LAYINGS], f"Where {axis.name} lies")
            lay.show_value(axis_commands.laying_of(component, axis))
            lay.edited.connect(partial(axis_commands.lay, workspace, component, axis))
            column.addWidget(indented(lay))
        values = OrderedRows(self._theme)
        for value in axis.values:
            value_grip = Grip(f"Order of {value.name} of {axis.name}", self._theme)
            values.add(self._value(component, axis, value, value_grip), value_grip)
        values.moved.connect(
            lambda start, end: axis_commands.move_value(
                workspace, component, axis, axis.values[start], end
            )
        )
        column.addWidget(indented(values))
        column.addWidget(indented(self._one_more(component, axis)))
        return container

    def _said(self, component: Component, axis: Axis) -> QHBoxLayout:
        """What sets the axis, and what it means."""
        workspace = self._workspace
        row = builders.row(spacing=4)
        row.setContentsMargins(18, 0, 0, 0)
        driver = DropDown(list(DRIVER_WORDS.items()), f"What sets {axis.name}")
        driver.show_value(axis.driver)
        driver.edited.connect(partial(axis_commands.drive, workspace, component, axis))
        row.addWidget(builders.label("set by", tone="muted"))
        row.addWidget(driver, 1)
        if axis.driver == "room":
            self._by_room(row, component, axis)
        if axis.driver == "none":
            options = [(m, "nothing" if m == "none" else m) for m in MEANINGS]
            meaning = DropDown(options, f"What {axis.name} says")
            meaning.show_value(axis.meaning)
            meaning.setToolTip("What it tells screen readers, forms and scripts.")
            meaning.edited.connect(partial(axis_commands.mean, workspace, component, axis))
            row.addWidget(builders.label("says", tone="muted"))
            row.addWidget(meaning, 1)
        return row

    def _by_room(self, row: QHBoxLayout, component: Component, axis: Axis) -> None:
        """By which side of the room, and in which unit its values begin."""
        ask = partial(axis_commands.ask_room, self._workspace, component, axis)
        side = Segments([("width", "width"), ("height", "height")], f"By what {axis.name} goes")
        side.show_value(axis.side)
        side.edited.connect(lambda chosen: ask(chosen, axis.unit))
        unit = DropDown([("px", "px"), ("ch", "ch")], f"In what {axis.name} counts")
        unit.show_value(axis.unit)
        unit.setToolTip("ch is the width of a “0”: larger letters need more room.")
        unit.setFixedWidth(58)
        unit.edited.connect(lambda chosen: ask(axis.side, chosen))
        row.addWidget(side)
        row.addWidget(unit)

    def _axis_menu(self, component: Component, axis: Axis) -> QMenu:
        menu = QMenu(self)
        text = axis_commands.removal_text(self._workspace, component, axis)
        remove = partial(axis_commands.remove, self._workspace, component, axis)
        builders.menu_entry(menu, text[:1].upper() + text[1:], remove)
        return menu

    # --- a value ------------------------------------------------------------------------------

    def _value(self, component: Component, axis: Axis, value: AxisValue, grip: Grip) -> QWidget:
        workspace = self._workspace
        container = QWidget()
        row = builders.row(container, spacing=4)
        name = WordsField(f"Name of the value {value.name} of {axis.name}")
        name.show_value(value.name)
        name.renames(partial(axis_commands.rename_value, workspace, component, axis, value))
        tip = axis_commands.start_text(workspace, component, axis, value)
        start = StartFlag(value.id == axis.default, tip, self._theme)
        start.setAccessibleName(f"Start {axis.name} with {value.name}")
        start.setEnabled(can_start(axis, value.id))
        start.clicked.connect(lambda: axis_commands.start_with(workspace, component, axis, value))
        picture = _ValuePicture(workspace, self._rasters, self._theme, axis.id, value.id)
        make_menu = partial(self._value_menu, component, axis, value)
        more = _menu_button(f"More for {value.name} of {axis.name}", make_menu)
        for widget, stretch in ((grip, 0), (start, 0), (picture, 0), (name, 1)):
            row.addWidget(widget, stretch)
        if axis.driver == "room":
            row.addWidget(self._begins(component, axis, value))
        parts = parts_of_axis(axis)
        if parts:
            part = DropDown([(p, PART_WORDS[p]) for p in parts], f"What {value.name} stands for")
            pointed = axis.driver == "pointer"
            part.show_value(pointer_part(axis, value.id) if pointed else says(axis, value.id))
            part.setFixedWidth(86)
            part.edited.connect(partial(axis_commands.stand_for, workspace, component, axis, value))
            row.addWidget(part)
        row.addWidget(more)
        return container

    def _begins(self, component: Component, axis: Axis, value: AxisValue) -> QWidget:
        """From which room on a value holds; the smallest holds below the next."""
        first = room_steps(axis)[0]
        name = f"Room from which {value.name} of {axis.name} holds"
        if value.id == first.value:
            label = builders.label("any smaller", tone="muted")
            label.setToolTip(f"{value.name} holds in any room smaller than where another begins.")
            return label
        container = QWidget()
        line = builders.row(container, spacing=3)
        field = NumberField(NumberType(0.0, MOST_ROOM, axis.unit), name)
        field.show_value(value.least)
        field.setFixedWidth(52)
        begin = partial(axis_commands.begin_at, self._workspace, component, axis, value)
        field.edited.connect(begin)
        field.failed.connect(self._workspace.failed.emit)
        for widget in (
            builders.label("from", tone="muted"),
            field,
            builders.label(axis.unit, tone="muted"),
        ):
            line.addWidget(widget)
        return container

    def _value_menu(self, component: Component, axis: Axis, value: AxisValue) -> QMenu:
        menu = QMenu(self)
        for text, act in variant_commands.value_acts(self._workspace, component, axis, value):
            builders.menu_entry(menu, text, act)
        menu.setToolTip(axis_commands.fallback_text(self._workspace, component, axis, value.id))
        return menu

    def _one_more(self, component: Component, axis: Axis) -> QWidget:
        """A field that makes one more value of the name that is typed."""
        field = builders.line_edit("one more value …", f"One more value of {axis.name}")

        def add() -> None:
            name = field.text().strip()
            field.clear()
            if name:
                variant_commands.add_value(self._workspace, component, axis, name, None)

        field.returnPressed.connect(add)
        return field


class _NewAxis(QWidget):
    """A field that makes an axis of one line, and says what it would make while it is typed.
    grown() when it has become higher."""

    grown = pyqtSignal()

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._workspace = workspace
        self._then: Callable[[], object] = lambda: None
        self.field = builders.line_edit(
            f"a new axis, as {_EXAMPLE}", "A new axis: its name and its values"
        )
        self.told = builders.label(tone="muted", wrap=True)
        self.told.hide()
        column = builders.column(self, (0, 10, 0, 4), 2)
        column.addWidget(self.field)
        column.addWidget(self.told)
        self.field.textEdited.connect(self._tell)
        self.field.returnPressed.connect(self._add)

    def ask(self, then: Callable[[], object]) -> None:
        """Waits for a line, a usual one in it."""
        self._then = then
        usual = axis_commands.usual_line(self._workspace)
        self.field.setText(usual)
        self._tell(usual)
        self.field.setFocus()
        self.field.selectAll()

    def _tell(self, text: str) -> None:
        told = axis_commands.line_text(self._workspace, text)
        self.told.setText(told)
        self.told.setVisible(bool(told))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self.told.isVisible():
            self.grown.emit()

    def _add(self) -> None:
        then, text = self._then, self.field.text()
        if axis_commands.add(self._workspace, text):
            then()


class StartFlag(QToolButton):
    """A small flag at the value with which an axis starts; where it is not, a press puts it."""

    def __init__(self, is_start: bool, tip: str, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._is_start = is_start
        self.setToolTip(tip)
        self.setCheckable(True)
        self.setChecked(is_start)
        self.setProperty("look", "flag")

    def sizeHint(self) -> QSize:
        return QSize(18, 26)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self.isEnabled():
            return  # nothing starts there
        painter = QPainter(self)
        place = QRectF(self.rect()).center() - QPointF(4, 6)
        strong = self._is_start or self.underMouse()
        color = self._theme.color("ink" if strong else "hairline")
        draw_flag(painter, place, color, self._is_start)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self._theme.color("slate"), 2))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 3, -1, -3), 3, 3)
        painter.end()


class _ValuePicture(QWidget):
    """The component as it starts, at one value of an axis. A press looks at that variant."""

    def __init__(
        self, workspace: Workspace, rasters: Rasters, theme: Theme, axis_id: str, value_id: str
    ) -> None:
        super().__init__()
        self._workspace, self._rasters, self._theme = workspace, rasters, theme
        self._axis_id, self._value_id = axis_id, value_id
        self.setFixedSize(_PICTURE)
        workspace.panels_due.connect(self.update)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        selection = self._workspace.selection
        if self._axis_id in selection.variant:
            variant = selection.variant.set(self._axis_id, self._value_id)
            self._workspace.select(selection.path, variant)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        component = self._workspace.component
        if component is None or component.axis(self._axis_id) is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rect = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(self._theme.color("hairline"), 1))
        painter.setBrush(self._theme.color("paper"))
        painter.drawRoundedRect(rect, 3, 3)
        variant = default_variant(component).set(self._axis_id, self._value_id)
        workspace = self._workspace
        view = workspace.engine.view(workspace.document, component.id, variant)
        ratio = self.devicePixelRatioF()
        draw_thumbnail(painter, view, rect, self._rasters, ratio, 3)
        painter.end()


def _menu_button(name: str, make: partial[QMenu]) -> QWidget:
    made = builders.push_button("⋯", look="tag", name=name)

    def open_menu() -> None:
        builders.show_menu(make(), made)

    made.clicked.connect(open_menu)
    return made
