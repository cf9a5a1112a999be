"""Changes logic of the core at random places, one at a time, and runs the tests that should see it.

    python -m tools.mutants [--count 30] [--seed N] [--only core/paint] [--at FILE:LINE] [--near]

Works in a copy of the checkout: nothing here is touched. Prints each mutant, and whether it was
caught; ends with 1 where one survived. The tests asked are those of the changed room, then those of
the rooms that stand on it; the first failure ends a try.
"""

from __future__ import annotations

import argparse
import ast
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

ROOT = Path(__file__).resolve().parent.parent
_SECONDS = 240
# Whose tests ask more of a room than its own do.
_ASKED_BY = {
    "paint": ("layout", "exchange", "document", "team"),
    "resolve": ("edits", "runtime", "exchange", "document"),
    "document": ("edits", "exchange", "resolve", "runtime"),
    "layout": ("document", "trials", "exchange"),
    "motion": ("runtime", "exchange"),
    "text": ("layout", "document"),
    "geometry": ("paint", "edits", "exchange"),
    "color": ("motion", "exchange", "review", "document"),
}
_COMPARED: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
    ast.In: ast.NotIn, ast.NotIn: ast.In,
}  # fmt: skip
_COUNTED: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Add, ast.Div: ast.Mult,
}  # fmt: skip


class Mutant(NamedTuple):
    """A place, what stands there, and what stands there instead."""

    file: Path
    line: int
    before: str
    after: str
    text: str


def mutants(file: Path) -> Iterator[Mutant]:
    """All changes of logic of a file: comparisons, operators, `and`/`or`, `not`, numbers."""
    source = file.read_text("utf-8")
    lines = source.splitlines(keepends=True)
    for node in ast.walk(ast.parse(source)):
        changed = _changed(node)
        if changed is None or node.lineno != node.end_lineno:
            continue
        before = ast.get_source_segment(source, node) or ""
        after = ast.unparse(changed)
        line = lines[node.lineno - 1].encode()
        start, end = node.col_offset, node.end_col_offset or 0
        mutated = line[:start] + f"({after})".encode() + line[end:]
        text = "".join([*lines[: node.lineno - 1], mutated.decode(), *lines[node.lineno :]])
        try:
            ast.parse(text)
        except SyntaxError:  # in an f-string, in a pattern
            continue
        yield Mutant(file.relative_to(ROOT), node.lineno, before, after, text)


def _changed(node: ast.AST) -> ast.expr | None:
    if isinstance(node, ast.Compare) and type(node.ops[0]) in _COMPARED:
        return ast.Compare(
            node.left, [_COMPARED[type(node.ops[0])](), *node.ops[1:]], node.comparators
        )
    if isinstance(node, ast.BinOp) and type(node.op) in _COUNTED and not _is_text(node):
        return ast.BinOp(node.left, _COUNTED[type(node.op)](), node.right)
    if isinstance(node, ast.BoolOp):
        other = ast.Or() if isinstance(node.op, ast.And) else ast.And()
        return ast.BoolOp(other, node.values)
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        return node.operand
    return None


def _is_text(node: ast.BinOp) -> bool:
    return any(
        isinstance(side, ast.JoinedStr | ast.Constant)
        and not isinstance(getattr(side, "value", 0), int | float)
        for side in (node.left, node.right)
    )


def caught(mutant: Mutant, copy: Path, near: bool) -> str:
    """Which tests see it; "" for none. `near` asks those of its own room only."""
    target = copy / mutant.file
    kept = target.read_text("utf-8")
    target.write_text(mutant.text, "utf-8")
    try:
        room = mutant.file.parts[2]
        for asked in (room, *(() if near else _ASKED_BY.get(room, ()))):
            folder = copy / "tests" / "core" / asked
            if folder.is_dir() and _fails(copy, folder):
                return asked
        return ""
    finally:
        target.write_text(kept, "utf-8")


def _fails(copy: Path, folder: Path) -> bool:
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "tests.without_qt", "-p",
               "no:pytest-qt", "-p", "no:randomly", "-W", "ignore::pytest.PytestConfigWarning",
               str(folder)]  # fmt: skip
    try:
        done = subprocess.run(command, cwd=copy, capture_output=True, timeout=_SECONDS, check=False)
    except subprocess.TimeoutExpired:
        return True  # it never ends: that is seen
    return done.returncode not in (0, 5)


def main() -> int:
    parser = argparse.ArgumentParser(description=(__doc__ or "").splitlines()[0])
    parser.add_argument("--count", type=int, default=30)
    parser.add_argument("--seed", type=int, default=random.randrange(10**6))
    parser.add_argument("--only", default="core", help="a folder or file under outgrowth/")
    parser.add_argument("--at", help="FILE:LINE under outgrowth/: all mutants of one line")
    parser.add_argument("--near", action="store_true", help="ask the room's own tests only")
    asked = parser.parse_args()
    place, _, line = (asked.at or asked.only).partition(":")
    start = ROOT / "outgrowth" / place
    files = [start] if start.is_file() else sorted(start.rglob("*.py"))
    choice = [m for file in files for m in mutants(file) if not line or m.line == int(line)]
    print(f"seed {asked.seed}, of {len(choice):,}", flush=True)
    rng = random.Random(asked.seed)
    chosen = choice if line else rng.sample(choice, min(asked.count, len(choice)))
    survivors = 0
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "checkout"
        shutil.copytree(
            ROOT,
            copy,
            ignore=shutil.ignore_patterns(
                ".git", ".venv", "node_modules", "__pycache__", ".hypothesis"
            ),
        )
        for mutant in chosen:
            by = caught(mutant, copy, asked.near)
            survivors += not by
            state = f"caught by {by}" if by else "SURVIVED"
            print(
                f"{state:20} {mutant.file}:{mutant.line}  {mutant.before}  →  {mutant.after}",
                flush=True,
            )
    print(f"{len(chosen)} tried, {len(chosen) - survivors} caught, {survivors} left")
    return 1 if survivors else 0


if __name__ == "__main__":
    sys.exit(main())
