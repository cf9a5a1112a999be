"""Rows of CSV and JSON files, good and bad, and lists that are filled with them."""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from demo import ferry_line
from outgrowth.core.document.records import find, walk
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.refusal import Refusal
from outgrowth.core.trials.rows import (
    MOST_ROWS,
    RowsRefusal,
    fill_list,
    formula_cells,
    list_at,
    rows_from,
)

DEMO = ferry_line()
CSV = 'time,port,berth\n06:10,Skerry,2\n07:45,North Light,"1, aft"\n'


@pytest.mark.parametrize(
    ("data", "name"),
    [
        (CSV, "rows.csv"),
        (CSV.replace(",", ";").replace("1; aft", "1, aft"), "rows.csv"),
        (CSV.replace(",", "\t").replace("1\t aft", "1, aft"), "rows.tsv"),
        ("\ufeff" + CSV.replace("\n", "\r\n"), "rows.csv"),
        (json.dumps([{"time": "06:10", "port": "Skerry", "berth": 2},
                     {"time": "07:45", "port": "North Light", "berth": "1, aft"}]), "rows.json"),
    ],
)  # fmt: skip
def test_rows_are_read_whatever_parts_their_columns(data, name):
    rows = rows_from(data.encode(), name)
    assert [dict(row.words) for row in rows] == [
        {"time": "06:10", "port": "Skerry", "berth": "2"},
        {"time": "07:45", "port": "North Light", "berth": "1, aft"},
    ]
    assert [row.title for row in rows] == ["06:10", "07:45"]


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "no rows"),
        (b"time,port\n", "no rows"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"time,,port\n1,2,3", "name each column"),
        (b"time,Time\n1,2", "name each column"),
        (b"time,port\n1,2,3\n", "3 values"),
        (b"[1, 2]", "list of objects"),
        (b'{"time": 1}', "list of objects"),
        (b'[{"time": [1]}]', "a list or an object"),
        (b"[" * 100_000, "no JSON"),
        (("a\n" + "x\n" * (MOST_ROWS + 1)).encode(), "is the most"),
        (("a\n" + "x" * 20_000).encode(), "longer than"),
    ],
)
def test_a_bad_file_is_a_sentence(data, said):
    with pytest.raises(RowsRefusal, match=said):
        rows_from(data, "rows.csv")


@settings(max_examples=200)
@given(st.one_of(st.binary(max_size=200), st.text(max_size=200).map(str.encode)))
def test_any_bytes_are_rows_or_a_sentence(data):
    for name in ("a.csv", "a.json"):
        try:
            rows = rows_from(data, name)
        except RowsRefusal as problem:
            assert "\n" not in str(problem) and str(problem).endswith(".")
        else:
            assert rows and len({row.title for row in rows}) == len(rows)


def filled(count):
    lines = "".join(f"{n:02}:10,Port {n}\n" for n in range(count))
    rows = rows_from(f"time,port\n{lines}".encode(), "r.csv")
    box = list_at(DEMO, "desk", first_row("desk"))
    return box, fill_list(DEMO, "desk", box, rows)


def first_row(screen):
    return next(
        n.id for n in walk(DEMO.screens[screen].root) if n.style.get("component") == "timetable-row"
    )


@pytest.mark.parametrize("count", [1, 2, 3, 7, 40])
def test_a_list_has_a_row_for_each(count):
    box, after = filled(count)
    rows = [
        child
        for child in walk(find(after.screens["desk"].root, box))
        if child.style.get("component") == "timetable-row"
    ]
    assert [row.style["choice:port"] for row in rows] == [f"Port {n}" for n in range(count)]
    assert loads(dumps(after).encode(), "again") == after
    assert all(after.owner(o.id) is o for o in DEMO.owners() if o.id != "desk")


def test_columns_that_nothing_is_called_like_are_told():
    rows = rows_from(b"colour,depth\nred,3\n", "r.csv")
    with pytest.raises(Refusal, match="None of the columns"):
        fill_list(DEMO, "desk", list_at(DEMO, "desk", first_row("desk")), rows)


def test_the_list_of_a_part_is_the_nearest_that_has_several_alike():
    screen = DEMO.screens["fares"]
    cards = [n for n in walk(screen.root) if n.style.get("component") == "fare-card"]
    box = find(screen.root, list_at(DEMO, "fares", cards[1].id))
    assert cards[0] in box.children and cards[1] in box.children
    assert list_at(DEMO, "fares", "gone") is None
    assert list_at(DEMO, "gone", "gone") is None


@pytest.mark.parametrize("value", ["=1+2", "@sum", "+A1", "-(2)", " =x"])
def test_what_begins_like_a_formula_is_told(value):
    rows = rows_from(f"Name,Other\n{value},5\n-12,+47 22 33\n".encode(), "rows.csv")
    assert formula_cells(rows) == 1


def test_a_first_line_without_end_is_read_once():
    """A line of 30 kB, quotes and all, is not searched for what divides it."""
    quotes = '"' + 'a","' * 5_000
    with pytest.raises(RowsRefusal):
        rows_from((quotes + "\n" + quotes).encode(), "rows.csv")
    semicolons = ";".join(f"c{n}" for n in range(90))
    assert len(rows_from(f"{semicolons}\n{semicolons}".encode(), "rows.csv")[0].words) == 90
