"""Whether a window can be shown at all, asked before the window system is: Qt ends the program
where it cannot be reached."""

from __future__ import annotations

import os
import resource
import socket
from pathlib import Path as FilePath

from outgrowth.core.refusal import Refusal, quoted

_LEAST_HANDLES = 64
"""Files that a window may have open at once: 16 were counted, and reading, saving and libraries
take some more."""
_WAIT_S = 5.0
_FIRST_PORT = 6000


def refuse_without_display() -> None:
    """Raises Refusal where there is no display, or no room to have one open.

    Source: X(7), DISPLAY; the Wayland protocol, WAYLAND_DISPLAY in XDG_RUNTIME_DIR.
    """
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    if 0 <= soft < _LEAST_HANDLES:
        if 0 <= hard < _LEAST_HANDLES:
            raise Refusal(
                f"This machine lets the program open {soft} files at once; a window needs "
                f"{_LEAST_HANDLES} (ulimit -n)."
            )
        resource.setrlimit(resource.RLIMIT_NOFILE, (_LEAST_HANDLES, hard))
    platform = os.environ.get("QT_QPA_PLATFORM", "").partition(":")[0]
    if platform not in ("", "xcb", "wayland"):
        return
    wayland, x11 = os.environ.get("WAYLAND_DISPLAY"), os.environ.get("DISPLAY")
    if platform != "xcb" and wayland and _answers_wayland(wayland):
        return
    if platform != "wayland" and x11 and _answers_x11(x11):
        return
    if not wayland and not x11:
        raise Refusal("There is no display here to open a window on. Other commands need none.")
    raise Refusal(
        f"The display “{quoted(x11 or wayland or '', 60)}” cannot be reached, so no window was "
        "opened. Other commands need none."
    )


def _answers_wayland(name: str) -> bool:
    return _answers(FilePath(os.environ.get("XDG_RUNTIME_DIR", "/nowhere")) / name)


def _answers_x11(name: str) -> bool:
    """Whether somebody listens at a display, `host:number.screen`."""
    host, _, rest = name.rpartition(":")
    number = rest.partition(".")[0]
    if not number.isdecimal():
        return False
    if host in ("", "unix"):
        path = f"/tmp/.X11-unix/X{number}"
        return _answers(FilePath(path)) or _answers(FilePath(f"\0{path}"))
    try:
        with socket.create_connection((host.strip("[]"), _FIRST_PORT + int(number)), _WAIT_S):
            return True
    except (OSError, ValueError, OverflowError):
        return False


def _answers(path: FilePath) -> bool:
    """Whether somebody listens at a socket of this machine."""
    with socket.socket(socket.AF_UNIX) as asked:
        asked.settimeout(_WAIT_S)
        try:
            asked.connect(str(path))
        except (OSError, ValueError):
            return False
    return True
