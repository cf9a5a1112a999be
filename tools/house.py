"""The state of the house: names, reasons, sizes and circles, counted by one script.

    python -m tools.house [ROOT] [--names] [--say WORD]

ROOT is a folder with an `outgrowth/` in it (another checkout, to compare); `--names` lists
the vague and the short names with their places. It is a report: nobody is held to a count.
"""

from __future__ import annotations

import argparse
import ast
import io
import statistics
import tokenize
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

VAGUE = frozenset(
    """
    at held said made found broken settle settled steps_of
    it this that these those one ones thing things stuff what who which whose where when_ here
    there now then so such much many some any_ all_ both each_ other others rest whole
    kept given taken told shown seen gone come came done known wanted asked got had has was were
    listed put say says tell tells keep keeps take takes give gives get gets do does act acts
    way ways like likes spot spots stand stands behind besides aside apart papers keeper
    deeds making alike outside tokened driven hand looks desk pile around shade shelf
    info obj tmp temp misc util utils helper helpers manager handler stuff_ res ret val vals
    """.split()
)
"""Words that could mean anything, as whole names. Plain terms of a field that happen to be
plain words (rest, the axis value; left, the side) are not in the list."""

GEOMETRY = frozenset("x y z w h dx dy dw dh x0 y0 x1 y1 x2 y2 x3 y3 cx cy rx ry _ id".split())
"""Short names that are the field's own: coordinates, sides, identity."""

MATHEMATICS = ("geometry", "color", "motion")
"""Rooms where formulas keep the letters of their source."""


class Name(NamedTuple):
    """A name where it is first given, in its scope."""

    word: str
    file: Path
    line: int
    brief: bool
    """Whether letters will do here: a loop's variable, a formula's."""


class Function(NamedTuple):
    name: str
    lines: int
    public: bool
    told: bool


class House(NamedTuple):
    """What was counted in one checkout."""

    files: dict[Path, int]
    code: int
    comments: int
    names: list[Name]
    functions: list[Function]
    classes: Counter[str]
    circles: list[list[str]]

    @property
    def lines(self) -> int:
        return sum(self.files.values())

    @property
    def vague(self) -> list[Name]:
        return [name for name in self.names if name.word.strip("_") in VAGUE]

    @property
    def short(self) -> list[Name]:
        return [
            name
            for name in self.names
            if len(name.word.strip("_")) < 3
            and not name.brief
            and name.word.strip("_") not in GEOMETRY | {""}
        ]

    def figures(self) -> dict[str, float]:
        """The counts."""
        public = [f for f in self.functions if f.public]
        bodies = sorted(f.lines for f in self.functions)
        sizes = sorted(self.files.values())
        return {
            "lines": self.lines,
            "lines of app": sum(n for f, n in self.files.items() if f.parts[1:2] == ("app",)),
            "vague names, %": 100 * len(self.vague) / len(self.names),
            "short names per 1,000 lines": 1000 * len(self.short) / self.lines,
            "comment lines, % of code": 100 * self.comments / self.code,
            "public functions that say what they do, %": 100
            * sum(f.told for f in public)
            / len(public),
            "body, median": statistics.median(bodies),
            "body, 90th percentile": bodies[len(bodies) * 9 // 10],
            "bodies above 50, %": 100 * sum(n > 50 for n in bodies) / len(bodies),
            "longest file": sizes[-1],
            "files above 500": sum(n > 500 for n in sizes),
            "most methods": self.classes.most_common(1)[0][1],
            "modules in circles": sum(len(circle) for circle in self.circles),
        }


def house(root: Path) -> House:
    """Counts in all modules under `root`/outgrowth."""
    files: dict[Path, int] = {}
    names: list[Name] = []
    functions: list[Function] = []
    classes: Counter[str] = Counter()
    imports: dict[str, list[tuple[str, str]]] = {}
    code = comments = 0
    for path in sorted((root / "outgrowth").rglob("*.py")):
        text, relative = path.read_text(), path.relative_to(root)
        if "@generated" in text[:400]:
            continue
        tree = ast.parse(text)
        files[relative] = text.count("\n")
        with_code, with_comment = _lines(text)
        code, comments = code + len(with_code), comments + len(with_comment)
        names += _names(tree, relative)
        functions += _functions(tree, with_comment - with_code)
        for node in ast.walk(tree):
            if isinstance(node, ast.ClassDef):
                methods = sum(isinstance(m, ast.FunctionDef) for m in node.body)
                classes[f"{relative}:{node.name}"] = methods
        imports[_module(relative)] = _imports(tree)
    return House(files, code, comments, names, functions, classes, _circles(_resolved(imports)))


def _lines(text: str) -> tuple[set[int], set[int]]:
    """Lines with code on them, and lines that are a comment or end in one that gives a reason."""
    with_code: set[int] = set()
    with_comment: set[int] = set()
    skipped = {tokenize.NL, tokenize.NEWLINE, tokenize.INDENT, tokenize.DEDENT}
    for token in tokenize.generate_tokens(io.StringIO(text).readline):
        if token.type == tokenize.COMMENT:
            if not token.string.startswith(("# type:", "# noqa", "# ---", "#!")):
                with_comment.add(token.start[0])
        elif token.type not in skipped | {tokenize.ENDMARKER}:
            with_code.update(range(token.start[0], token.end[0] + 1))
    return with_code, with_comment


def _names(tree: ast.Module, file: Path) -> Iterator[Name]:
    yield from _given(tree, file)


def _given(scope: ast.AST, file: Path) -> Iterator[Name]:
    """The names that are given in a scope, each once, and those of the scopes in it."""
    seen: set[str] = set()
    inner: list[ast.AST] = []
    formula = any(part in MATHEMATICS for part in file.parts)

    def note(word: str, line: int, brief: bool = False) -> Iterator[Name]:
        if word not in seen:
            seen.add(word)
            yield Name(word, file, line, brief or formula)

    def visit(node: ast.AST, brief: bool) -> Iterator[Name]:
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef | ast.ClassDef):
            yield from note(node.name, node.lineno)
            inner.append(node)
            return
        if isinstance(node, ast.Lambda):
            inner.append(node)
            return
        if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store):
            yield from note(node.id, node.lineno, brief)
        elif isinstance(node, ast.Attribute) and isinstance(node.ctx, ast.Store):
            if isinstance(node.value, ast.Name) and node.value.id == "self":
                yield from note(f"self.{node.attr}".removeprefix("self."), node.lineno)
        elif isinstance(node, ast.ExceptHandler) and node.name:
            yield from note(node.name, node.lineno)
        for field, child in ast.iter_fields(node):
            loop = isinstance(node, ast.For | ast.comprehension) and field == "target"
            for part in child if isinstance(child, list) else [child]:
                if isinstance(part, ast.AST):
                    yield from visit(part, brief or loop)

    if isinstance(scope, ast.FunctionDef | ast.AsyncFunctionDef | ast.Lambda):
        arguments = scope.args
        every = [*arguments.posonlyargs, *arguments.args, *arguments.kwonlyargs]
        for argument in (*every, arguments.vararg, arguments.kwarg):
            if argument is not None and argument.arg not in ("self", "cls"):
                line = argument.lineno
                yield from note(argument.arg, line)
    body = scope.body if isinstance(scope.body, list) else [scope.body]  # type: ignore[attr-defined]
    for statement in body:
        yield from visit(statement, False)
    for node in inner:
        yield from _given(node, file)


def _functions(tree: ast.Module, reasons: set[int]) -> Iterator[Function]:
    """All functions, without their docstrings and the lines of `reasons` (comments). A method is
    public in a public class; one that a base, or a protocol that says what it is for, promises
    in the same module needs no sentence of its own."""
    promised = {
        method.name
        for node in ast.walk(tree)
        if isinstance(node, ast.ClassDef) and ast.get_docstring(node)
        if "Protocol" in map(_base_name, node.bases)
        for method in _methods(node)
    }
    told_in = {
        node.name: {m.name for m in _methods(node) if ast.get_docstring(m)}
        for node in ast.walk(tree)
        if isinstance(node, ast.ClassDef)
    }

    def visit(node: ast.AST, public: bool, told_above: set[str]) -> Iterator[Function]:
        for child in ast.iter_child_nodes(node):
            if isinstance(child, ast.ClassDef):
                bases = [_base_name(base) for base in child.bases]
                above = promised.union(*[told_in.get(base, set()) for base in bases])
                yield from visit(child, public and not child.name.startswith("_"), above)
            elif isinstance(child, ast.FunctionDef):
                seen = public and not child.name.startswith("_") and not _overrides(child)
                told = ast.get_docstring(child)
                first = child.body[1] if told and len(child.body) > 1 else child.body[0]
                body = set(range(first.lineno, child.end_lineno + 1))
                lines = len(body - reasons)
                yield Function(child.name, lines, seen, bool(told) or child.name in told_above)
                yield from visit(child, False, set())
            else:
                yield from visit(child, public, told_above)

    yield from visit(tree, True, set())


def _methods(node: ast.ClassDef) -> list[ast.FunctionDef]:
    return [part for part in node.body if isinstance(part, ast.FunctionDef)]


def _base_name(base: ast.expr) -> str:
    """The name of a base class, what it is generic in apart."""
    if isinstance(base, ast.Subscript):
        base = base.value
    return base.id if isinstance(base, ast.Name) else ""


def _overrides(function: ast.FunctionDef) -> bool:
    """Qt's own methods (camelCase), and stubs of a protocol."""
    only = function.body[-1]
    stub = isinstance(only, ast.Expr) and getattr(only.value, "value", None) is ...
    return stub or any(letter.isupper() for letter in function.name)


def _module(path: Path) -> str:
    return ".".join(path.with_suffix("").parts).removesuffix(".__init__")


def _imports(tree: ast.Module) -> list[tuple[str, str]]:
    """What a module imports, wherever in it: modules, and names of them ("" for none)."""
    asked: list[tuple[str, str]] = []
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and node.module:
            asked += [(node.module, alias.name) for alias in node.names]
        elif isinstance(node, ast.Import):
            asked += [(alias.name, "") for alias in node.names]
    return asked


def _resolved(imports: dict[str, list[tuple[str, str]]]) -> dict[str, set[str]]:
    """The modules that are asked: a package only for what is not a module in it."""
    return {
        module: {whole if (whole := f"{a}.{b}") in imports else a for a, b in asked}
        for module, asked in imports.items()
    }


def _circles(imports: dict[str, set[str]]) -> list[list[str]]:
    """Groups of modules that import each other (Tarjan, 1972)."""
    order: dict[str, int] = {}
    low: dict[str, int] = {}
    stack: list[str] = []
    circles: list[list[str]] = []

    def visit(module: str) -> None:
        order[module] = low[module] = len(order)
        stack.append(module)
        for target in imports[module] & imports.keys():
            if target not in order:
                visit(target)
                low[module] = min(low[module], low[target])
            elif target in stack:
                low[module] = min(low[module], order[target])
        if low[module] == order[module]:
            at = stack.index(module)
            group = stack[at:]
            del stack[at:]
            if len(group) > 1:
                circles.append(group)

    for module in imports:
        if module not in order:
            visit(module)
    return circles


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("root", nargs="?", default=".", type=Path)
    parser.add_argument("--names", action="store_true", help="list vague and short names")
    wanted = parser.parse_args()
    counted = house(wanted.root)
    for label, figure in counted.figures().items():
        print(f"{label:45} {figure:10,.1f}")
    if wanted.names:
        for what in ("vague", "short"):
            listed = getattr(counted, what)
            print(f"\n{what}:", Counter(name.word for name in listed).most_common(80))
            for name in listed:
                print(f"{name.file}:{name.line} {name.word}")
    else:
        print("classes with most methods:", counted.classes.most_common(8))


if __name__ == "__main__":
    main()
