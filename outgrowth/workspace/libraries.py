"""The libraries that this machine knows: where copies of them are kept, and who publishes."""

from __future__ import annotations

import os
import time
from pathlib import Path as FilePath

import platformdirs

from outgrowth.core.team.store import Signature
from outgrowth.workspace.connected_libraries import ConnectedLibraries


def data_folder() -> FilePath:
    """Where this machine keeps what belongs to the user and to no file."""
    return FilePath(platformdirs.user_data_dir("outgrowth"))


def copies_folder() -> FilePath:
    """Where this machine keeps what it read of libraries behind addresses."""
    return data_folder() / "libraries"


def connected_libraries() -> ConnectedLibraries:
    """The libraries that somebody connected files to, on this machine."""
    return ConnectedLibraries(data_folder() / "connected")


def signature() -> Signature:
    """Who publishes now: as git knows them on this machine, else by the name of the account."""
    # Here and not above: version control takes long to import, and most windows open without.
    from dulwich.config import StackedConfig

    try:
        config = StackedConfig.default()
    except (OSError, ValueError):  # a home that is none, a damaged file of git's
        config = StackedConfig([])

    def setting(key: str) -> str:
        try:
            return config.get((b"user",), key.encode()).decode("utf-8", "replace")
        except KeyError:
            return ""

    name = setting("name") or os.environ.get("USER", "") or "somebody"
    clean = name.replace("<", "").replace(">", "").replace("\n", " ").strip()
    return Signature(f"{clean or 'somebody'} <{setting('email')}>", int(time.time()))
