"""Commands by subject, on the demo, without a window."""

import pytest
from immutables import Map

from outgrowth.core.document.cues import Change
from outgrowth.core.document.records import walk
from outgrowth.core.document.values import Token, words
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.nodes import remove_node
from outgrowth.core.resolve.ladder import Place
from outgrowth.workspace import gathering
from outgrowth.workspace.commands import (
    axis_commands,
    cue_commands,
    instance_commands,
    library_commands,
    navigate_commands,
    property_commands,
    rule_commands,
    token_commands,
)
from outgrowth.workspace.cue_options import condition_axes, possible_changes
from outgrowth.workspace.views.code_rows import node_code
from outgrowth.workspace.views.motion_levels import motion_at, motion_levels


@pytest.fixture(autouse=True)
def undone(workspace, ferry):
    """Whatever a test did can be taken back."""
    yield
    while workspace.undo_name:
        workspace.undo()
    assert workspace.document == ferry


def cues(workspace):
    return workspace.owner.behaviour.cues


def test_a_cue_is_added_aimed_asked_and_removed(workspace):
    workspace.open("boarding")
    workspace.select(("board",))
    added = cue_commands.add(workspace)
    cue = next(c for c in cues(workspace) if c.id == added)
    assert cue.node == ("board",) and cue.trigger.kind == "tap"
    asked = next(a for a in condition_axes(workspace.document, workspace.owner) if a.at)
    value = asked.axis.values[0].id
    aimed = cue_commands.with_condition(cue, asked, (value,))
    assert aimed.conditions[-1].values == (value,) and not aimed.when
    assert cue_commands.with_condition(aimed, asked, ()) == cue
    back = cue_commands.with_change(aimed, 0, Change("back"))
    cue_commands.set_cue(workspace, back, cue_commands.CHANGES)
    assert back in cues(workspace)
    cue_commands.take_end_to(workspace, back, "node", ())
    assert next(c for c in cues(workspace) if c.id == added).node == ()
    assert cue_commands.remove(workspace, back)
    assert all(c.id != added for c in cues(workspace))


def test_a_single_value_of_the_owners_own_axis_stands_in_when(workspace):
    workspace.open("notice")
    cue = cues(workspace)[0]
    own = next(a for a in condition_axes(workspace.document, workspace.owner) if not a.at)
    one, two = (value.id for value in own.axis.values[:2])
    assert cue_commands.with_condition(cue, own, (one,)).when[own.axis.id] == one
    several = cue_commands.with_condition(cue, own, (one, two))
    assert own.axis.id not in several.when and several.conditions[-1].values == (one, two)


def test_each_possible_change_is_one_that_a_cue_may_do(workspace):
    for owner in workspace.document.owners():
        workspace.open(owner.id)
        workspace.select(())
        changes = possible_changes(workspace.document, owner)
        assert len({change for change, _ in changes}) == len(changes)
        added = cue_commands.add(workspace)
        cue = next(c for c in cues(workspace) if c.id == added)
        for change, _ in changes:
            cue_commands.set_cue(workspace, cue_commands.with_change(cue, 0, change), "x")
            assert workspace.undo_name == "x"
        while workspace.undo_name:  # more steps than are kept, in all
            workspace.undo()


def test_what_the_pointer_drives_needs_no_cue(desk, workspace):
    workspace.open("button")
    state = next(a for a in workspace.component.axes if a.driver == "pointer")
    assert cue_commands.draw(workspace, state, "rest", "hover") == ""
    assert "needs no cue" in desk.sentences[0]


def test_motion_is_taken_from_the_nearest_level_that_has_one(workspace):
    workspace.open("notice")
    axis = workspace.component.axes[0]
    levels = motion_levels(workspace, None, axis, axis.values[0].id)
    assert [level.key for level in levels][-1] == "file"
    stated = [level for level in levels if level.motion is not None]
    assert motion_at(levels, levels[0].key) == stated[0].motion
    motion = cue_commands.later_part(stated[0].motion)
    workspace.edit("motion", levels[0].put(motion))
    again = motion_levels(workspace, None, workspace.component.axes[0], axis.values[0].id)
    assert motion_at(again, again[0].key) == motion


def test_axes_are_named_laid_ordered_and_removed(workspace):
    workspace.open("button")
    kind = workspace.component.axes[0]
    axis_commands.rename(workspace, workspace.component, kind, "Sort")
    assert workspace.component.axes[0].name == "Sort"
    for where in axis_commands.LAYINGS:
        axis_commands.lay(workspace, workspace.component, workspace.component.axes[0], where)
        laid = axis_commands.laying_of(workspace.component, workspace.component.axes[0])
        assert laid == where
    last = workspace.component.axes[-1]
    axis_commands.move(workspace, workspace.component, last, 0)
    assert workspace.component.axes[0].id == last.id
    value = kind.values[-1]
    said = axis_commands.fallback_text(workspace, workspace.component, kind, value.id)
    assert said.endswith(".")
    axis_commands.remove(workspace, workspace.component, kind)
    assert all(axis.id != kind.id for axis in workspace.component.axes)


def test_opened_values_are_described_listed_and_removed(workspace):
    owner = next(c for c in workspace.document.in_order() if c.properties)
    workspace.open(owner.id)
    opened = owner.properties[0]
    assert property_commands.rename(workspace, owner.id, opened, "Line")
    assert not property_commands.rename(workspace, owner.id, opened, "  ")
    property_commands.describe(workspace, owner.id, opened, "What it says.")
    property_commands.set_default(
        workspace, owner.id, opened, words("x") if opened.kind == "text" else opened.default
    )
    property_commands.remove(workspace, owner.id, workspace.component.properties[0])
    assert len(workspace.component.properties) == len(owner.properties) - 1


def test_a_rule_is_gone_to_aimed_and_deleted(workspace):
    workspace.open("button")
    rule = workspace.component.rules[0]
    rule_commands.go_to(workspace, workspace.component, rule.node, rule.when)
    assert workspace.reach == rule.when
    workspace.set_reach(Map())
    count = len(workspace.component.rules)
    rule_commands.delete(workspace, workspace.component, (rule,))
    assert len(workspace.component.rules) == count - 1


def test_tokens_get_values_modes_and_names(desk, workspace):
    path = token_commands.add(workspace, "color")
    token_commands.set_value(workspace, path, "", Token("color.sea"))
    token_commands.own_value(workspace, path)
    assert workspace.document.tokens[path].value == workspace.document.tokens["color.sea"].value
    assert token_commands.rename(workspace, path, "color.fog-bank")
    token_commands.add_mode(workspace, "storm")
    token_commands.show_mode(workspace, "storm")
    token_commands.remove_mode(workspace, "storm")
    assert workspace.document.mode == ""
    token_commands.set_value(workspace, "color.fog-bank", "", 4.0)
    assert len(desk.sentences) == 1
    token_commands.remove(workspace, "color.fog-bank")
    assert "color.fog-bank" not in workspace.document.tokens


def test_owners_are_renamed_and_put_into_folders(workspace):
    assert library_commands.rename(workspace, "button", "Deck/Push")
    assert workspace.document.components["button"].name == "Deck/Push"
    assert library_commands.move_to_folder(workspace, "button", "")
    assert workspace.document.components["button"].name == "Push"
    assert not library_commands.rename(workspace, "nobody", "x")
    library_commands.duplicate_owner(workspace, "button")
    assert workspace.component.name != "Push"


def test_keys_lead_through_the_whole_tree_and_out_again(workspace):
    workspace.open("boarding")
    workspace.select(None)
    passed = set()
    assert navigate_commands.step_in(workspace)
    while navigate_commands.step_in(workspace):
        passed.add(workspace.selection.path)
    assert passed and len(workspace.selection.path) > 1, "into an instance too"
    first = workspace.selection.path
    while navigate_commands.step_beside(workspace, 1) and workspace.selection.path != first:
        passed.add(workspace.selection.path)
    out = 0
    while navigate_commands.step_out(workspace):
        out += 1
    assert workspace.selection.path is None and out <= len(list(walk(workspace.screen.root))) + 9


def test_parts_go_over_the_clipboard_in_every_form(desk, workspace):
    workspace.open("boarding")
    workspace.select(("board",))
    desk.do("copy")
    clip = desk.clipboard.clip
    assert clip.parts.startswith(b"{") and clip.drawing.startswith(b"<svg")
    before = len(workspace.screen.root.children)
    desk.do("paste")
    desk.clipboard.clip = clip._replace(parts=b"")
    desk.do("paste")
    assert workspace.undo_name == "place Pasted drawing"
    desk.clipboard.clip = clip._replace(parts=b"", drawing=b"", text="Last call")
    desk.do("paste")
    assert workspace.undo_name == "paste words"
    assert len(workspace.screen.root.children) >= before
    desk.do("paste-look")
    assert "Copy a part first" in desk.sentences[-1]


def test_what_is_gone_is_selected_no_more(workspace):
    """Also where somebody returns to it, or comes back from a file that another wrote."""
    workspace.open("fares")
    first, second = (child.id for child in workspace.owner.root.children[:2])
    workspace.select_all(((first,), (second,)))
    workspace.open("help")
    workspace.edit("remove", lambda document: remove_node(document, "fares", first))
    workspace.go_back()
    assert workspace.selection.paths == ((second,),)
    workspace.edit("remove", lambda document: remove_node(document, "fares", second))
    assert workspace.selection.path is None
    gone = node_code(workspace.document, workspace.engine, workspace.owner, (first, "label"))
    assert gone.blocks == ()


@pytest.mark.parametrize("largest", [0.0, 44.0])
def test_a_part_made_of_letters_that_grow_says_that_its_width_counts_now(workspace, largest):
    told = []
    workspace.failed.connect(told.append)
    workspace.open("fare-card")
    letters = Place("fare-card", ("name",))
    workspace.edit("grow", lambda d: set_properties(d, letters, {"fluid-size": largest}))
    workspace.select(("top",))
    before = len(workspace.document.components)
    instance_commands.make_component(workspace)
    assert len(workspace.document.components) == before + 1
    assert told == ([gathering.LETTERS_GROW_ANEW] if largest else [])
