"""Every action of the window, done without one, on every kind of selection and in any order."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.refusal import Refusal
from tests.workspace.conftest import Desk
from tests.workspace.everything import SELECTIONS, everything


def test_every_action_is_known_by_one_id_and_one_key(desk):
    ids = [action.id for action in desk.actions]
    keys = [action.shortcut for action in desk.actions if action.shortcut]
    assert len(set(ids)) == len(ids) and len(set(keys)) == len(keys)


@pytest.mark.parametrize("chosen", SELECTIONS)
def test_every_action_does_its_work_or_says_a_sentence(fonts, chosen):
    document = everything()
    desk = Desk(fonts, document)
    workspace = desk.workspace
    owner, paths = SELECTIONS[chosen]
    for action in desk.actions:
        if workspace.document is not document:
            workspace.edit("begin again", lambda _: document)
        if workspace.selection.owner != owner:
            workspace.open(owner)
        workspace.select_all(paths)
        desk.sentences.clear()
        try:
            desk.do(action.id)
        except Refusal as problem:
            desk.sentences.append(str(problem))
        for sentence in desk.sentences:
            assert sentence.endswith((".", "!")) and sentence.isprintable(), (action.id, sentence)
        if workspace.document is not document:
            assert loads(dumps(workspace.document).encode(), "a") == workspace.document, action.id


STEP = st.tuples(st.integers(0, 999), st.sampled_from(sorted(SELECTIONS)), st.booleans())


@settings(max_examples=80, suppress_health_check=list(HealthCheck))
@given(st.lists(STEP, max_size=16))
def test_any_actions_one_after_the_other_can_be_undone(fonts, steps):
    document = everything()
    desk = Desk(fonts, document)
    workspace = desk.workspace
    for number, chosen, pick in steps:
        owner, paths = SELECTIONS[chosen]
        if pick:
            workspace.open(owner)
            workspace.select_all(paths)
        try:
            desk.do(desk.actions[number % len(desk.actions)].id)
        except Refusal:
            workspace.cancel_drag()
        assert loads(dumps(workspace.document).encode(), "a") == workspace.document
    while workspace.redo_name:
        workspace.redo()
    last = workspace.document
    while workspace.undo_name:
        workspace.undo()
    assert workspace.document == document
    while workspace.redo_name:
        workspace.redo()
    assert workspace.document == last
