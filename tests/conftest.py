"""What all tests share: the demo, the stages over the shipped fonts, and small trees."""

from __future__ import annotations

import logging
import os

import msgspec
import pytest
from hypothesis import settings

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.layout import Layout
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import FontBook, Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS

settings.register_profile("here", deadline=None, derandomize=True)
settings.register_profile("nightly", deadline=None, max_examples=400)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "here"))

_SLOW = ("tests/browser", "tests/fuzz", "tests/core/team/test_servers")
"""Where tests begin other programs, or try a thousand things."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Each test is `quick` or `slow`, by its room."""
    for item in items:
        slow = item.nodeid.startswith(_SLOW)
        item.add_marker(pytest.mark.slow if slow else pytest.mark.quick)


@pytest.fixture(scope="session")
def fonts() -> FontBook:
    return shipped(FONTS)


@pytest.fixture(scope="session")
def ferry() -> Document:
    return ferry_line()


@pytest.fixture
def layout(fonts: FontBook) -> Layout:
    return Layout(Typesetter(fonts))


@pytest.fixture
def resolver() -> Resolver:
    return Resolver()


@pytest.fixture(scope="session", autouse=True)
def own_data(tmp_path_factory: pytest.TempPathFactory):
    """What the program keeps for its user is kept for the tests alone."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("XDG_DATA_HOME", str(tmp_path_factory.mktemp("data")))
        yield


@pytest.fixture(autouse=True)
def quiet_log(caplog: pytest.LogCaptureFixture):
    """A log line of WARNING or above fails the test that caused it."""
    yield
    loud = [r for r in caplog.get_records("call") if r.levelno >= logging.WARNING]
    assert not loud, [r.getMessage() for r in loud]


class _Close:
    """Equal to records whose numbers are all within a small distance."""

    def __init__(self, value, within=1e-6):
        self.value = value
        self.within = within

    def __eq__(self, other):
        return _close(self.value, other, self.within)

    def __repr__(self):
        return f"close to {self.value!r}"


def _close(a, b, within):
    if isinstance(a, float) and isinstance(b, float | int):
        return abs(a - b) <= within
    if isinstance(a, msgspec.Struct) and type(a) is type(b):
        return all(_close(getattr(a, f), getattr(b, f), within) for f in a.__struct_fields__)
    if isinstance(a, list | tuple) and type(a) is type(b):
        return len(a) == len(b) and all(_close(x, y, within) for x, y in zip(a, b, strict=True))
    return a == b


@pytest.fixture(scope="session")
def close():
    """`value == close(expected)`: records whose numbers may differ by 1e-6."""
    return _Close
