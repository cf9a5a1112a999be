"""A running part with a hand: taps by path, keys, and a look at rectangles."""

from __future__ import annotations

import pytest

from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject, scene_at
from outgrowth.core.text import Typesetter


class Running:
    """A runtime with words for what tests do to it."""

    def __init__(self, runtime):
        self.runtime = runtime

    def __getattr__(self, name):
        return getattr(self.runtime, name)

    def rect(self, *path):
        return next(a.rect for a in locate(*self.runtime.view(), "") if a.path == path)

    def point(self, *path):
        self.runtime.pointer_move(*self.rect(*path).center)

    def tap(self, *path):
        at = self.rect(*path).center
        self.runtime.press(*at)
        self.runtime.release(*at)

    def value(self, axis, *path):
        return scene_at(self.runtime.target.scene, path).variant[axis]

    def node(self, *path):
        return scene_at(self.runtime.view().scene, path)


@pytest.fixture(scope="session")
def run(fonts):
    stages = Resolver(), Layout(Typesetter(fonts))

    def made(document, owner, component=False, **more):
        return Running(Runtime(*stages, document, Subject(owner, component, **more)))

    return made
