"""Versions of parts: what number a change asks for, and why.

Source: Semantic Versioning 2.0.0, items 6 to 8, read for components: what an instance may set
is the public interface.
"""

from __future__ import annotations

from typing import Literal

Level = Literal["patch", "minor", "major"]
LEVELS: tuple[Level, ...] = ("patch", "minor", "major")
FIRST = "1.0.0"
_MOST_DIGITS = 9
"""Of a version's number: nobody publishes more often."""


def version_numbers(version: str) -> tuple[int, int, int]:
    """A version's three numbers, which compare as versions do; zeros for what is none."""
    parts = version.split(".")
    if len(parts) != 3 or not all(part.isdecimal() and len(part) <= _MOST_DIGITS for part in parts):
        return (0, 0, 0)
    return int(parts[0]), int(parts[1]), int(parts[2])


def next_version(version: str, level: Level) -> str:
    """The version behind another one."""
    major, minor, patch = version_numbers(version)
    if level == "major":
        return f"{major + 1}.0.0"
    return f"{major}.{minor + 1}.0" if level == "minor" else f"{major}.{minor}.{patch + 1}"
