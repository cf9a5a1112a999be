"""Content sets of the designer's own: rows of a CSV or JSON file, a column a property, and lists
that are filled with them."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Iterable, Sequence
from itertools import islice

import msgspec

from outgrowth.core.document.records import Document, Node, find, walk
from outgrowth.core.document.values import LARGEST_NUMBER, Literals
from outgrowth.core.edits.tree.nodes import add_node, remove_node
from outgrowth.core.edits.tree.trees import node_of, owner_of, rebuilt_tree, with_node, with_owner
from outgrowth.core.refusal import Refusal, quoted
from outgrowth.core.trials.contents import TrialContent, filled_node, own

MOST_ROWS = 1_000
MOST_COLUMNS = 100
_LONGEST = 10_000
MOST_BYTES = 20_000_000
_TITLE = 40
# “-12” and “+47 22 33” are numbers that people write.
_FORMULA = re.compile(r"\s*([=@]|[+-]\s*[A-Za-z(@=])")


class RowsRefusal(Refusal):
    """A file of rows that can't be read; the message is a sentence."""


def rows_from(data: bytes, name: str) -> tuple[TrialContent, ...]:
    """Rows in CSV (RFC 4180, the first line names the columns; comma, semicolon or tab) or JSON
    (a list of objects). Raises RowsRefusal."""
    called = quoted(name)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as problem:
        raise RowsRefusal(f"“{called}” is not text in UTF-8.") from problem
    is_json = name.lower().endswith(".json") or text.lstrip()[:1] in ("[", "{")
    rows = _json_rows(text, called) if is_json else _csv_rows(text, called)
    if not rows:
        raise RowsRefusal(f"“{called}” has no rows.")
    if len(rows) > MOST_ROWS:
        raise RowsRefusal(f"“{called}” has more rows than {MOST_ROWS:,}, which is the most.")
    titles: set[str] = set()
    results = []
    for number, row in enumerate(rows, 1):
        if len(row) > MOST_COLUMNS:
            raise RowsRefusal(f"“{called}” has more than {MOST_COLUMNS} columns.")
        title = _title(row, number, titles)
        titles.add(title)
        results.append(own(title, row))
    return tuple(results)


def _csv_rows(text: str, called: str) -> list[dict[str, Literals]]:
    first = text.partition("\n")[0]
    delimiter = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text, ""), delimiter=delimiter)
    try:
        # One more than there can be: the rest of a longer file need not be read to refuse it.
        lines = list(islice((line for line in reader if any(line)), MOST_ROWS + 2))
    except csv.Error as problem:
        raise RowsRefusal(f"“{called}” is no CSV: {problem}.") from problem
    if not lines:
        return []
    names = [name.strip() for name in lines[0]]
    if not all(names) or len({name.casefold() for name in names}) != len(names):
        raise RowsRefusal(
            f"The first line of “{called}” has to name each column, and each differently."
        )
    rows: list[dict[str, Literals]] = []
    for number, line in enumerate(lines[1:], 2):
        if len(line) > len(names):
            raise RowsRefusal(
                f"Line {number} of “{called}” has {len(line)} values, and there are "
                f"{len(names)} columns."
            )
        rows.append({name: _short(value, called) for name, value in zip(names, line, strict=False)})
    return rows


def _json_rows(text: str, called: str) -> list[dict[str, Literals]]:
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as problem:
        raise RowsRefusal(f"“{called}” is no JSON: {str(problem)[:200]}.") from problem
    if not isinstance(data, list) or not all(isinstance(row, dict) for row in data):
        raise RowsRefusal(f"“{called}” has to be a list of objects, each with the same keys.")
    return [
        {str(name): _literal(value, called) for name, value in row.items() if value is not None}
        for row in data
    ]


def _literal(value: object, called: str) -> Literals:
    if isinstance(value, bool):
        return value
    if isinstance(value, int | float):
        if not abs(value) <= LARGEST_NUMBER:
            return f"{value}"[:_LONGEST]
        return f"{value:g}" if isinstance(value, float) else str(value)
    if isinstance(value, str):
        return _short(value, called)
    raise RowsRefusal(f"A value in “{called}” is a list or an object; text and numbers can be.")


def formula_cells(contents: Iterable[TrialContent]) -> int:
    """How many values begin as a spreadsheet's formulas do. Here they are words like any others;
    whoever opens the file in a spreadsheet should know. From memory: OWASP, “CSV Injection”."""
    values = (value for content in contents for value in content.words.values())
    return sum(1 for value in values if isinstance(value, str) and _FORMULA.match(value))


def _short(value: str, called: str) -> str:
    if len(value) > _LONGEST:
        raise RowsRefusal(f"A value in “{called}” is longer than {_LONGEST:,} letters.")
    return value


def _title(row: dict[str, Literals], number: int, used_titles: set[str]) -> str:
    """What a row is called: by its first words; with its number where another is called so."""
    first = next((v for v in row.values() if isinstance(v, str) and v.strip()), "")
    title = " ".join(first.split())[:_TITLE] or f"Row {number}"
    return f"{title} ({number})" if title in used_titles else title


# --- lists --------------------------------------------------------------------------------------


def fill_list(
    document: Document, owner_id: str, box_id: str, rows: Sequence[TrialContent]
) -> Document:
    """The document in which a box has a row for each of these, drawn like those that it has:
    the first is the pattern for what is new, and what is left over goes. What stands among the
    rows and is none (a header) stays. Raises Refusal."""
    owner = owner_of(document, owner_id)
    box = node_of(owner, box_id)
    existing = rows_in(box)
    if not existing:
        raise Refusal(f"“{box.name}” has nothing in it that a row could look like.")
    pattern = existing[0]
    if all(_row_of(document, pattern, row) is pattern for row in rows):
        raise Refusal(
            f"None of the columns is called like a property, or a text, of “{pattern.name}”."
        )
    for left_over in existing[len(rows) :]:
        document = remove_node(document, owner_id, left_over.id)
    used = {node.id for node in walk(owner_of(document, owner_id).root)}
    end = box.children.index(existing[min(len(existing), len(rows)) - 1]) + 1
    for number, row in enumerate(rows):
        if number < len(existing):
            changed = _row_of(document, existing[number], row)
            if changed is not existing[number]:
                document = _with_part(document, owner_id, changed)
        else:
            new = _row_of(document, _fresh(pattern, number, used), row)
            place = end + number - len(existing)
            document = add_node(document, owner_id, box_id, new, place)
    return document


def _with_part(document: Document, owner_id: str, node: Node) -> Document:
    return with_owner(document, with_node(owner_of(document, owner_id), node.id, lambda _: node))


def _row_of(document: Document, node: Node, row: TrialContent) -> Node:
    return rebuilt_tree(node, lambda inner: filled_node(document, inner, row.words))


def _fresh(node: Node, number: int, used: set[str]) -> Node:
    """A copy of a part under ids that nobody has."""

    def change(inner: Node) -> Node:
        new, tries = f"{inner.id}-row-{number + 1}", 1
        while new in used:
            tries += 1
            new = f"{inner.id}-row-{number + 1}-{tries}"
        used.add(new)
        return msgspec.structs.replace(inner, id=new)

    return rebuilt_tree(node, change)


def list_at(document: Document, owner_id: str, node_id: str) -> str | None:
    """The box that a list of rows is in, seen from one of its parts or from itself: the nearest
    that has several alike."""
    owner = document.owner(owner_id)
    if owner is None:
        return None
    holders = {child.id: node.id for node in walk(owner.root) for child in node.children}
    step: str | None = node_id
    while step is not None:
        node = find(owner.root, step)
        if node is not None and rows_in(node):
            return node.id
        step = holders.get(step)
    return None


def rows_in(box: Node) -> tuple[Node, ...]:
    """The rows of a box: those of its children that are most alike, instances of one component
    or boxes of one kind inside; none where no two are, unless an instance is all it has."""
    groups: dict[object, list[Node]] = {}
    for child in box.children:
        existing = child.style.get("component") if child.kind == "instance" else None
        key = existing or (child.kind, tuple(inner.kind for inner in child.children))
        if existing or child.children:
            groups.setdefault(key, []).append(child)
    most = max(groups.values(), key=len, default=[])
    alone = len(box.children) == 1 and box.children[0].kind == "instance"
    return tuple(most) if len(most) > 1 or alone else ()
