"""The demo's code, handed over once, and served to Chromium from this machine alone."""

from __future__ import annotations

import functools
import http.server
import threading
from pathlib import Path
from typing import NamedTuple

import pytest

from outgrowth.core.exchange.output import write
from outgrowth.core.exchange.web.files import HandOver, hand_over

# As strict as a policy can be for pages with scripts of their own.
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; "
    "connect-src 'self'; base-uri 'none'; form-action 'self'; require-trusted-types-for 'script'"
)


class Served(NamedTuple):
    """A folder, its address, and the hand-over in it."""

    folder: Path
    address: str
    made: HandOver


class _Quiet(http.server.SimpleHTTPRequestHandler):
    def log_message(self, *arguments):
        pass

    def end_headers(self):
        self.send_header("Content-Security-Policy", POLICY)
        self.send_header("Cache-Control", "no-store")
        super().end_headers()


def serve(folder):
    """A server on this machine's own address; end it with `shutdown`."""
    handler = functools.partial(_Quiet, directory=str(folder))
    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), handler)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return server


@pytest.fixture(scope="session")
def handed(tmp_path_factory, ferry_once, layout_once):
    """The demo's hand-over, under the strict policy."""
    folder = tmp_path_factory.mktemp("handed")
    made = hand_over(ferry_once, layout_once)
    write(folder, made.files)
    (folder / "favicon.ico").write_bytes(b"")
    server = serve(folder)
    yield Served(folder, f"http://127.0.0.1:{server.server_port}/", made)
    server.shutdown()
    server.server_close()


@pytest.fixture(scope="session")
def ferry_once():
    from demo.ferry import ferry_line

    return ferry_line()


@pytest.fixture(scope="session")
def layout_once():
    from outgrowth.core.layout import Layout
    from outgrowth.core.text import Typesetter
    from outgrowth.core.text.fonts import shipped
    from outgrowth.resources import FONTS

    return Layout(Typesetter(shipped(FONTS)))
