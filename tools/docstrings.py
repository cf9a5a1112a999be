"""Docstrings that explain what is not there: attributes, parameters, members, modules.

    python -m tools.docstrings [FOLDER …]

A table in a docstring (a name, two spaces or more, what it is) and a word between backticks have to
be names that the class, the function or its module knows; tests/test_house.py holds it at none.

"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple, TypeGuard

ROOT = Path(__file__).resolve().parent.parent
# A line of a table: names with commas, two spaces or more, words.
_EXPLAINED = re.compile(r"^\s*([a-z_][a-z0-9_, ]*?)(?:\([^)]*\))?  +\S", re.M)
_QUOTED = re.compile(r"`([a-z_][a-z0-9_]{2,})`")
_LONGEST_WORD = 60
_PYTHON = frozenset(("and", "not", "True", "False", "None"))


class Stale(NamedTuple):
    """A name that is explained where nothing is called so."""

    file: Path
    line: int
    owner: str
    name: str


class Report(NamedTuple):
    """How many names are explained, and those that are not there."""

    explained: int
    stale: list[Stale]


def stale_docstrings(root: Path) -> Report:
    """Compares all docstrings of the modules below a folder."""
    explained, stale = 0, []
    modules = {file: ast.parse(file.read_text("utf-8")) for file in sorted(root.rglob("*.py"))}
    elsewhere = {node.name for module in modules.values() for node in module.body if _named(node)}
    elsewhere |= {path.stem for path in (ROOT / "outgrowth").rglob("*")}
    for file, module in modules.items():
        known = _names(module) | elsewhere
        for owner in ast.walk(module):
            if not isinstance(owner, ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
                continue
            doc = ast.get_docstring(owner) or ""
            own = _names(owner)
            for name in _explained(doc):
                explained += 1
                if name not in own:
                    stale.append(Stale(file, owner.lineno, owner.name, name))
            for name in _QUOTED.findall(doc):
                explained += 1
                if name not in own and name not in known | _PYTHON:
                    stale.append(Stale(file, owner.lineno, owner.name, name))
    return Report(explained, stale)


def _named(node: ast.stmt) -> TypeGuard[ast.ClassDef | ast.FunctionDef]:
    return isinstance(node, ast.ClassDef | ast.FunctionDef)


def _explained(doc: str) -> Iterator[str]:
    for match in _EXPLAINED.finditer(doc):
        yield from (name for name in re.split(r",\s*", match.group(1)) if name.isidentifier())


def _names(tree: ast.AST) -> set[str]:
    """All that is called by a name in a tree, and the words of its texts."""
    names: set[str] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Name):
            names.add(node.id)
        elif isinstance(node, ast.Attribute):
            names.add(node.attr)
        elif isinstance(node, ast.arg) or (isinstance(node, ast.keyword) and node.arg):
            names.add(node.arg)
        elif isinstance(node, ast.FunctionDef | ast.ClassDef):
            names.add(node.name)
        elif isinstance(node, ast.alias):
            names |= {node.name, node.asname or ""}
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            # A word of a text counts; the docstring itself is none.
            names.add(node.value if len(node.value) < _LONGEST_WORD else "")
    return names


def main(folders: list[str]) -> int:
    """Prints each, and how many of how many."""
    reports = [stale_docstrings(Path(folder)) for folder in folders or ["outgrowth"]]
    for report in reports:
        for stale in report.stale:
            print(f"{stale.file}:{stale.line} {stale.owner}: “{stale.name}”")
    count = sum(len(report.stale) for report in reports)
    print(f"{count} of {sum(report.explained for report in reports)}")
    return 1 if count else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
