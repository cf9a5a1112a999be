"""A pytest plugin: each process that runs tests gets a display of its own.

Two windows on one display take the focus from each other. bin/test loads this
(`-p tests.displays`); without it tests run on the display that is there.
"""

from __future__ import annotations

import os
import subprocess

import pytest

_SCREEN = "1440x900x24"
_DISPLAYS = pytest.StashKey[subprocess.Popen]()


def pytest_configure(config: pytest.Config) -> None:
    """Starts a virtual display, unless this process only hands tests out to others."""
    if _hands_out(config):
        return
    reading, writing = os.pipe()
    server = subprocess.Popen(
        [
            "Xvfb",
            "-displayfd",
            str(writing),
            "-screen",
            "0",
            _SCREEN,
            "-nolisten",
            "tcp",
            "-noreset",
        ],  # else it is away for a moment whenever its last window goes
        pass_fds=(writing,),
        stderr=subprocess.DEVNULL,
    )
    os.close(writing)
    with os.fdopen(reading) as answer:
        number = answer.readline().strip()
    if not number:
        raise pytest.UsageError("Xvfb did not start, so there is no display to test on.")
    os.environ.pop("WAYLAND_DISPLAY", None)
    os.environ.update(DISPLAY=f":{number}", QT_QPA_PLATFORM="xcb")
    config.stash[_DISPLAYS] = server


def pytest_unconfigure(config: pytest.Config) -> None:
    server = config.stash.get(_DISPLAYS, None)
    if server is not None:
        server.terminate()
        server.wait()


def _hands_out(config: pytest.Config) -> bool:
    processes = getattr(config.option, "numprocesses", None)
    return bool(processes) and not hasattr(config, "workerinput")
