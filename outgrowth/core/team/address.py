"""Where a library is: a folder, or an address as git takes them."""

from __future__ import annotations

from pathlib import Path as FilePath
from urllib.parse import urlsplit, urlunsplit

_SCHEMES = ("https", "http", "ssh", "git", "git+ssh")


def is_address(text: str) -> bool:
    """Whether a library is behind an address, not in a folder: a URL, or host:path as ssh
    writes it."""
    if "://" in text:
        return urlsplit(text).scheme in _SCHEMES
    host, colon, path = text.partition(":")
    return bool(colon and path and "/" not in host and len(host) > 1)


def without_secret(address: str) -> str:
    """An address without the password that somebody typed into it: it belongs to git's
    credential helpers, not into files."""
    if "://" not in address:
        return address
    parts = urlsplit(address)
    if parts.password is None:
        return address
    host = parts.netloc.rpartition("@")[2]
    user = f"{parts.username}@" if parts.username else ""
    return urlunsplit((parts.scheme, f"{user}{host}", parts.path, parts.query, parts.fragment))


def folder_at(address: str) -> FilePath:
    """The folder that an address names; a home that nobody has stays as it was written."""
    try:
        return FilePath(address).expanduser()
    except RuntimeError:
        return FilePath(address)
