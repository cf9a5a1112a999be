"""What the code says of itself is true: docstrings explain names that are there, one type name
means one thing, and whatever is told to a user is of one family.

How long, how many and how vague is a report that nobody is held to: `python -m tools.house`.
"""

import ast
import textwrap
from collections import defaultdict
from pathlib import Path

import pytest

from tools.docstrings import stale_docstrings
from tools.house import house

ROOT = Path(__file__).parents[1]
MODULES = {
    file.relative_to(ROOT): ast.parse(file.read_text("utf-8"))
    for file in sorted((ROOT / "outgrowth").rglob("*.py"))
}
CAUGHT_AND_ANSWERED = {
    "Misfit", "SeveralKinds", "Stopped", "Unshowable", "_ByItself", "_Impossible", "Refusal",
}  # fmt: skip
"""Raised and caught by us: none of these reaches a user."""


@pytest.mark.parametrize("folder", ["outgrowth", "demo", "tools"])
def test_docstrings_explain_what_is_there(folder):
    assert [f"{s.file}:{s.line} {s.name}" for s in stale_docstrings(ROOT / folder).stale] == []


def test_a_stale_docstring_is_found(tmp_path):
    (tmp_path / "one.py").write_text(
        textwrap.dedent(
            '''
            class Buoy:
                """A buoy, `anchored` or not, as `ferry` has it.

                depth  how deep it lies
                tint   its colour
                """

                depth: float


            def ferry(speed):
                """Goes at `speed`, never at `haste`."""
            '''
        )
    )
    report = stale_docstrings(tmp_path)
    assert [stale.name for stale in report.stale] == ["tint", "anchored", "haste"]
    assert report.explained == 6


def test_a_type_name_means_one_thing():
    places = defaultdict(list)
    for file, module in MODULES.items():
        for node in module.body:
            if isinstance(node, ast.ClassDef):
                places[node.name].append(str(file))
    assert {name: where for name, where in places.items() if len(where) > 1} == {}


def test_what_is_told_to_a_user_is_a_refusal():
    """Whoever asked catches one family, whichever room refused."""
    bases = {
        node.name: {ast.unparse(base) for base in node.bases}
        for module in MODULES.values()
        for node in module.body
        if isinstance(node, ast.ClassDef)
    }
    errors = {name for name, of in bases.items() if of & {"Exception", "ValueError", "OSError"}}
    assert errors == CAUGHT_AND_ANSWERED


def test_the_report_counts_what_it_says(tmp_path):
    room = tmp_path / "outgrowth"
    room.mkdir()
    (room / "one.py").write_text(
        "from outgrowth.two import held\n\n\n"
        "def public(at, ab):\n    # a reason\n    for n in at:\n        found = ab\n"
        "    return found\n"
    )
    (room / "two.py").write_text("import outgrowth.one\n\nheld = outgrowth.one\n")
    counted = house(tmp_path)
    assert sorted(name.word for name in counted.vague) == ["at", "found", "held"]
    assert sorted(name.word for name in counted.short) == ["ab", "at"]
    assert [sorted(circle) for circle in counted.circles] == [["outgrowth.one", "outgrowth.two"]]
    assert counted.comments == 1 and not counted.functions[0].told
