"""Names that are changed by one pattern."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from outgrowth.core.edits.tree.patterns import Named, apart, renamings

FERRY = ["Controls/Button", "Controls/Icon button", "Travel/Fare card", "Toggle"]


def renamed(names, find, becomes):
    those = [Named(str(n), name) for n, name in enumerate(names)]
    return {r.before: r.after for r in renamings(those, find, becomes)}


@pytest.mark.parametrize(
    ("find", "becomes", "after"),
    [
        (
            "",
            "Parts/…",
            {
                "Controls/Button": "Parts/Button",
                "Controls/Icon button": "Parts/Icon button",
                "Travel/Fare card": "Parts/Fare card",
                "Toggle": "Parts/Toggle",
            },
        ),
        (
            "button",
            "Key",
            {"Controls/Button": "Controls/Key", "Controls/Icon button": "Controls/Icon Key"},
        ),
        ("button", "Old …", {
            "Controls/Button": "Controls/Old Button",
            "Controls/Icon button": "Controls/Old Icon button",
        }),
        ("icon *", "* (icon)", {"Controls/Icon button": "Controls/button (icon)"}),
        ("Controls/*", "Keys/*", {
            "Controls/Button": "Keys/Button",
            "Controls/Icon button": "Keys/Icon button",
        }),
        ("*", "Part ##", {
            "Controls/Button": "Controls/Part 01",
            "Controls/Icon button": "Controls/Part 02",
            "Travel/Fare card": "Travel/Part 03",
            "Toggle": "Part 04",
        }),
        ("toggle", "…", {}),
        ("gone", "Something", {}),
        ("", "   ", {}),
        ("", "//", {}),
        ("fare", "(a\\1|b)", {"Travel/Fare card": "Travel/(a\\1|b) card"}),
    ],
)  # fmt: skip
def test_what_a_pattern_makes_of_names(find, becomes, after):
    assert renamed(FERRY, find, becomes) == after


def test_no_two_are_called_alike_and_only_those_get_a_number():
    made = renamings([Named("a", "Fares"), Named("b", "Trips"), Named("c", "Map")], "", "Screen")
    assert [r.after for r in apart(made, ["Screen 2"])] == ["Screen", "Screen 3", "Screen 4"]


_TEXTS = st.text("aB …*#/.\\()", max_size=8)


@given(st.lists(_TEXTS, max_size=5), _TEXTS, _TEXTS)
def test_any_pattern_is_taken_and_gives_names(names, find, becomes):
    those = [Named(str(n), name) for n, name in enumerate(names)]
    made = apart(renamings(those, find, becomes), [])
    assert len({r.after for r in made}) == len(made)
    assert all(r.after.strip("/ ") for r in made)
