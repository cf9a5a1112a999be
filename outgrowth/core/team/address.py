"""Where a library is: a folder, or an address as git takes them."""

from __future__ import annotations

from ipaddress import ip_address
from pathlib import Path as FilePath
from urllib.parse import SplitResult, urlsplit, urlunsplit

from outgrowth.core.refusal import quoted
from outgrowth.core.team.store import LibraryRefusal

_SCHEMES = ("https", "http", "ssh", "git", "git+ssh")


def is_address(text: str) -> bool:
    """Whether a library is behind an address, not in a folder: a URL, or host:path as ssh
    writes it."""
    if "://" in text:
        return text.partition("://")[0].lower() in _SCHEMES
    host, colon, path = text.partition(":")
    # Two colons name one of git's own programs, which nothing here runs.
    beyond = bool(path) and not path.startswith(":")
    return bool(colon) and beyond and "/" not in host and len(host) > 1


def without_secret(address: str) -> str:
    """An address without the password that somebody typed into it: it belongs to git's
    credential helpers, not into files."""
    if "://" not in address:
        return address
    parts = _split(address)
    if parts.password is None:
        return address
    host = parts.netloc.rpartition("@")[2]
    user = f"{parts.username}@" if parts.username else ""
    return urlunsplit((parts.scheme, f"{user}{host}", parts.path, parts.query, parts.fragment))


def shown_address(address: str, longest: int = 120) -> str:
    """An address as messages write it, whatever a file says: without its secret, and what stands
    in front of the machine that it leads to where it is no address at all."""
    try:
        bare = without_secret(address)
    except LibraryRefusal:
        bare = address.rpartition("@")[2]
    return quoted(bare, longest)


def checked_address(address: str) -> str:
    """An address that leads to a machine, without its secret. Raises LibraryRefusal for one that
    is none, such as `http://[::1`, and for a host that a program could take for an option."""
    if "://" in address:
        host = _split(address).hostname or ""
    else:
        host = address.partition(":")[0].rpartition("@")[2]
    if not host or host.startswith("-") or any(sign.isspace() for sign in host):
        raise _no_address(address)
    return without_secret(address)


def _split(address: str) -> SplitResult:
    try:
        parts = urlsplit(address)
        _ = parts.port  # read from the text only when it is asked for
    except ValueError as problem:
        raise _no_address(address) from problem
    return parts


def _no_address(address: str) -> LibraryRefusal:
    # What stands before the last “@” may be somebody's secret.
    shown = quoted(address.rpartition("@")[2], 80)
    return LibraryRefusal(f"“{shown}” is no address: it reads like https://host/parts.git.")


def is_private(address: str) -> bool:
    """Whether nobody between here and there can listen: what goes by TLS, or stays on this
    machine. Source: RFC 6761, 6.3 (localhost); RFC 1122, 3.2.1.3 (127/8); RFC 4291, 2.5.3."""
    parts = _split(address)
    if parts.scheme == "https":
        return True
    host = parts.hostname or ""
    if host == "localhost":
        return True
    try:
        return ip_address(host).is_loopback
    except ValueError:
        return False


def folder_at(address: str) -> FilePath:
    """The folder that an address names; a home that nobody has stays as it was written."""
    try:
        return FilePath(address).expanduser()
    except RuntimeError:
        return FilePath(address)
