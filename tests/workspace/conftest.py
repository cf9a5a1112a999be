"""A workspace without a window: plain notices, and hands that only note what they were asked."""

from __future__ import annotations

import pytest

from outgrowth.workspace import Workspace
from outgrowth.workspace.commands.actions import commands
from outgrowth.workspace.commands.clipboard import Clip
from outgrowth.workspace.commands.hands import Hands
from outgrowth.workspace.engine import Engine


class NotingHands:
    """Any hand of a window: notes which method was called."""

    def __init__(self):
        self.asked = []

    def __getattr__(self, name):
        return lambda *_: self.asked.append(name)


class OwnClipboard:
    """A clipboard that nothing else writes to."""

    def __init__(self):
        self.clip = Clip()

    def can_paste(self):
        return self.clip != Clip()

    def read(self):
        return self.clip

    def write(self, clip, view):
        self.clip = clip


class Desk:
    """A workspace with its actions, as a window has them."""

    def __init__(self, fonts, document):
        self.workspace = Workspace(Engine(fonts), document)
        self.clipboard = OwnClipboard()
        hand = self.hand = NotingHands()
        self.actions = commands(self.workspace, Hands(*[hand] * 10, self.clipboard))
        self.sentences = []
        self.workspace.failed.connect(self.sentences.append)

    def do(self, action_id):
        """Does an action if it can be done now; whether it could."""
        action = next(a for a in self.actions if a.id == action_id)
        if action.enabled():
            action.run()
            return True
        return False


@pytest.fixture
def desk(fonts, ferry):
    return Desk(fonts, ferry)


@pytest.fixture
def workspace(desk):
    return desk.workspace
