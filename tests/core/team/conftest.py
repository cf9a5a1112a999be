"""A library of the ferry line's parts, and random documents that began as one."""

from __future__ import annotations

import pytest

from demo import ferry_line
from outgrowth.core.document.records import Document
from outgrowth.core.team.connection import connect, make_library
from outgrowth.core.team.publishing import Request, publish, published
from outgrowth.core.team.store import Signature, untold
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS

MAREN = Signature("Maren Skerry <maren@ferries.example>", 1_790_000_000)


@pytest.fixture(scope="session")
def demo():
    return ferry_line()


@pytest.fixture(scope="session")
def fonts():
    return shipped(FONTS)


@pytest.fixture
def connection(tmp_path):
    """A library that was just made."""
    made = make_library(str(tmp_path / "parts"), "Holm parts", MAREN, tmp_path / "copies")
    yield made
    made.close()


@pytest.fixture
def opened(tmp_path):
    """Opens libraries, and lets go of them at the end."""
    connections = []

    def open_one(address):
        connections.append(connect(str(address), tmp_path / "copies"))
        return connections[-1]

    yield open_one
    for one in connections:
        one.close()


def put_out(connection, document, ids, message="for everybody", levels=(), picks=()):
    """Publishes parts of a document; the plan that was carried out, and the document after."""
    state = connection.refreshed(untold)
    bases = connection.bases(document, state)
    request = Request(document, tuple(ids), bases, dict(levels), dict(picks))
    done = publish(request, connection.reader, message, MAREN, _words, untold)
    return done, published(document, done, request)


def _words(plan, difference):
    return f"{difference.kind} {difference.key[2:]}"


@pytest.fixture
def shared(connection, demo):
    """The demo, all its parts published."""
    return put_out(connection, demo, demo.component_order)[1]


@pytest.fixture
def empty():
    return Document("Kiosk")
