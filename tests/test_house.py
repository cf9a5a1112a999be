"""The state of the house is held: names, reasons and sizes may get better, not worse.

`python -m tools.house --names` lists what a count is made of.
"""

from pathlib import Path

from tools.house import house

AT_MOST = {
    "vague names, %": 1.5,
    "short names per 1,000 lines": 6.0,
    "body, median": 5.0,
    "body, 90th percentile": 16.0,
    "bodies above 50, %": 0.4,
    "longest file": 750.0,
    "files above 500": 9.0,
    "most methods": 47.0,
    "modules in circles": 0.0,
}
AT_LEAST = {
    "comment lines, % of code": 1.3,
    "public functions that say what they do, %": 98.0,
}


def test_it_gets_no_worse_and_goes_on_saying_why():
    """All counts in one test: counting takes seconds, and each process would count for itself."""
    figures = house(Path(__file__).parents[1]).figures()
    worse = {count: figures[count] for count, most in AT_MOST.items() if figures[count] > most}
    silent = {count: figures[count] for count, least in AT_LEAST.items() if figures[count] < least}
    assert worse | silent == {}


def test_the_script_finds_what_it_counts(tmp_path):
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
