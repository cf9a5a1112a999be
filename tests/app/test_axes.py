"""The sheet of axes and the headings of the grid, by mouse and keys: start, order, what sets an
axis, what it means, what its values stand for."""

import pytest
from immutables import Map
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QApplication, QPushButton

from outgrowth.app.fields.choice import DropDown
from outgrowth.app.fields.name_line import NameLine
from outgrowth.app.fields.ordered import Grip
from outgrowth.app.panels.axes import StartFlag
from outgrowth.core.document.axis_parts import pointer_parts, reads_yes
from outgrowth.core.runtime.subject import Subject
from outgrowth.workspace.commands import library_commands, style_commands
from tests.app.user import ALT, User

KEY = Qt.Key


@pytest.fixture
def user(window, workspace):
    library_commands.new_component(workspace)
    workspace.select(())
    QApplication.processEvents()
    return User(window)


def widget(window, kind, name):
    """A widget of the sheet by its spoken name."""
    return next(w for w in window.axes.findChildren(kind) if w.accessibleName() == name)


def made(user, line):
    """Makes an axis of a line, by keys, and shows the sheet."""
    user.key(KEY.Key_A, ALT)
    user.type(line)
    user.window.sheet_tabs.choose("Axes")
    user.wait()
    return user.workspace.component.axes[-1]


def test_three_looks_by_any_name_are_live_at_once(user, window, workspace):
    axis = made(user, "Look: Default, Over, Down")
    assert axis.driver == "pointer"
    assert list(pointer_parts(axis).values()) == ["rest", "hover", "press"]
    subject = Subject(
        workspace.component.id, True, workspace.selection.variant.set(axis.id, axis.default)
    )
    runtime = workspace.engine.runtime(workspace.document, subject)
    runtime.pointer_move(4, 4)
    assert list(runtime.states.values()) == [axis.named("Over").id]
    runtime.press(4, 4)
    assert list(runtime.states.values()) == [axis.named("Down").id]


def test_a_flag_says_where_an_axis_starts_and_how_many_follow(user, window, workspace):
    axis = made(user, "Size: small, large")
    flag = widget(window, StartFlag, "Start Size with large")
    assert flag.toolTip() == "Start with large. No instance changes."
    user.press(flag)
    assert workspace.component.axis(axis.id).default == axis.values[1].id
    assert workspace.undo_name == "start Size with large"
    window.run_action("undo")
    assert workspace.component.axis(axis.id).default == axis.default


def test_values_and_axes_are_put_in_order_by_drag_and_by_arrow_keys(user, window, workspace):
    made(user, "Size: small, medium, large")
    made(user, "Kind: main, quiet")
    grip = widget(window, Grip, "Order of large of Size")
    grip.setFocus()
    user.key(KEY.Key_Up)
    names = [value.name for value in workspace.component.axes[0].values]
    assert names == ["small", "large", "medium"]
    lower, upper = (widget(window, Grip, f"Order of {name}") for name in ("Kind", "Size"))
    target = lower.mapFromGlobal(upper.mapToGlobal(upper.rect().topLeft()))
    user.pull(lower, lower.rect().center(), target)
    assert [axis.name for axis in workspace.component.axes] == ["Kind", "Size"]
    window.run_action("undo")
    assert [axis.name for axis in workspace.component.axes] == ["Size", "Kind"]


def test_an_axis_called_state_is_given_to_the_pointer_later(user, window, workspace):
    axis = made(user, "State: calm, lively, held")
    assert axis.driver == "none"
    widget(window, DropDown, "What sets State").edited.emit("pointer")
    user.wait()
    given = workspace.component.axis(axis.id)
    assert list(pointer_parts(given).values()) == ["rest", "hover", "press"]
    widget(window, DropDown, "What held stands for").edited.emit("disabled")
    user.wait()
    assert list(pointer_parts(workspace.component.axis(axis.id)).values())[-1] == "disabled"
    user.window.run_action("undo")
    user.window.run_action("undo")
    window.run_action("add-states")
    assert [a.driver for a in workspace.component.axes] == ["none", "pointer"]
    assert [a.name for a in workspace.component.axes] == ["State", "State 2"]


def test_states_that_are_called_so_are_given_to_the_pointer_by_one_press(user, window, workspace):
    axis = made(user, "State: Default, Over, Down")
    widget(window, DropDown, "What sets State").edited.emit("none")
    user.wait()
    give = next(b for b in window.axes.findChildren(QPushButton) if "hover and press" in b.text())
    user.press(give)
    assert [a.id for a in workspace.component.axes] == [axis.id]
    assert workspace.component.axis(axis.id).driver == "pointer"


def test_a_role_asks_for_what_no_axis_says_and_one_press_says_it(user, window, workspace):
    made(user, "Lit: dark, bright")
    workspace.select(())
    workspace.set_reach(Map())
    style_commands.set_style(workspace, {"role": "switch"})
    window.sheet_tabs.choose("Axes")
    user.wait()
    mend = next(b for b in window.axes.findChildren(QPushButton) if b.text().startswith("Let Lit"))
    user.press(mend)
    axis = workspace.component.axes[0]
    assert axis.meaning == "checked"
    assert [reads_yes(axis, value.id) for value in axis.values] == [False, True]
    assert not [b for b in window.axes.findChildren(QPushButton) if b.text().startswith("Let")]


def test_a_line_says_what_it_would_make_while_it_is_typed(user, window, workspace):
    user.key(KEY.Key_A, ALT)
    assert window.axes.line.field.selectedText() == "Kind: Main, Quiet", "a usual one to take"
    user.type("Disabled: no, yes", enter=False)
    assert window.axes.line.told.text() == (
        "Disabled, says enabled: no, yes. 2 times as many variants."
    )
    user.key(KEY.Key_Return)
    axis = workspace.component.axes[-1]
    assert [reads_yes(axis, value.id) for value in axis.values] == [True, False]
    assert window.sheet_tabs.current == "Ledger"


def heading(window, text):
    return next(s for s in window.grid.headings.segments() if s.text == text)


def test_a_heading_is_renamed_where_it_stands(user, window, workspace):
    axis = made(user, "Size: small, large")
    window.view.fit()
    user.press(window.grid, heading(window, "small").rect.center(), double=True)
    user.type("tiny")
    assert [v.name for v in workspace.component.axes[0].values] == ["tiny", "large"]
    user.press(window.grid, heading(window, "tiny").rect.center(), double=True)
    user.key(KEY.Key_Escape)
    lines = window.grid.findChildren(NameLine)
    assert not any(line.isVisible() for line in lines), "Esc leaves the field"
    assert workspace.component.axes[0].value(axis.default).name == "tiny"


def test_a_heading_is_pulled_into_another_order(user, window, workspace):
    made(user, "Size: small, medium, large")
    window.view.fit()
    first, last = heading(window, "small"), heading(window, "large")
    user.pull(window.grid, first.rect.center(), last.rect.center() + QPointF(40, 0))
    names = [v.name for v in workspace.component.axes[0].values]
    assert names == ["medium", "large", "small"]
    assert workspace.undo_name == "move small of Size"


def test_a_heading_says_where_the_axis_starts_and_what_its_value_stands_for(
    user, window, workspace
):
    axis = made(user, "Look: Default, Over, Down")
    window.view.fit()
    menu = window.grid.headings.menu(heading(window, "Down").rect.center())
    texts = [action.text() for action in menu.actions()]
    assert texts[0] == "Rename" and not any(text.startswith("Start") for text in texts)
    parts = next(a.menu() for a in menu.actions() if a.menu() is not None)
    next(a for a in parts.actions() if a.text() == "disabled").trigger()
    assert list(pointer_parts(workspace.component.axis(axis.id)).values())[2] == "disabled"
    menu = window.grid.headings.menu(heading(window, "Down").rect.center())
    next(a for a in menu.actions() if a.text().startswith("Start with Down.")).trigger()
    down = workspace.component.axis(axis.id).named("Down")
    assert workspace.component.axis(axis.id).default == down.id, "it begins disabled"
