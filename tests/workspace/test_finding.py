"""Finding by the words that people have, and setting values by typing them."""

import pytest

from outgrowth.core.document.properties import FAMILY_MEMBERS, TABLE
from outgrowth.core.document.records import walk
from outgrowth.core.document.values import Size, Token
from outgrowth.core.resolve.ladder import node_at
from outgrowth.workspace.commands.action import Action
from outgrowth.workspace.commands.reasons import needed, why_off
from outgrowth.workspace.other_words import ours
from outgrowth.workspace.text_search import means_words
from outgrowth.workspace.views.key_rows import all_titles, key_rows
from outgrowth.workspace.views.length_format import four
from outgrowth.workspace.views.search_results import (
    Candidate,
    candidates,
    ranked,
    typed_candidates,
)
from outgrowth.workspace.views.typed_values import typed_values

# Common practice, no source: what people who design and build interfaces typed first.
EVERYDAY = (
    "swap", "replace", "reset", "revert", "override", "group", "ungroup", "wrap", "state",
    "variant", "animate", "transition", "resize", "distribute", "center", "align", "description",
    "style", "export", "code", "png", "hide", "show", "visible", "clone", "delete",
    "zoom", "preview", "play", "master", "component", "unlink", "slot", "font", "image", "icon",
    "page", "variable", "shortcut", "tutorial", "accessibility", "responsive", "data", "order",
    "commit", "update", "theme", "circle", "rectangle",
)  # fmt: skip


SIDES = ("top", "right", "bottom", "left")


@pytest.mark.parametrize("word", EVERYDAY)
def test_everyday_words_find_something_to_do(word):
    assert key_rows(all_titles(), word), word


@pytest.mark.parametrize(
    ("typed", "title"),
    [
        ("swap", "Exchange the instance for another component"),
        ("group", "Put into a box"),
        ("ungroup", "Take the box apart"),
        ("distribute", "Spread evenly across"),
        ("reset", "Put the whole instance back"),
        ("export", "Hand over as code"),
        ("dark mode theme", None),
        ("anim", "Cue board"),
    ],
)
def test_other_words_lead_to_ours(typed, title):
    titles = [row.title for row in key_rows(all_titles(), typed)]
    assert title in titles if title is not None else not titles


def test_what_is_said_comes_before_what_is_meant():
    rows = [row.title for row in key_rows(all_titles(), "copy")]
    assert "Copy" in rows and "Duplicate" not in rows, "the word itself is there"
    found = ranked(
        [Candidate(title, "action", lambda: None) for title in ("Exchange it", "Swap the sides")],
        "swap",
    )
    assert [one.title for one in found] == ["Swap the sides", "Exchange it"]


def test_the_beginning_of_a_word_is_enough_and_a_letter_is_not():
    assert ours("distrib") == ours("distribute") != ()
    assert ours("d") == () == ours("tide")
    assert means_words("Spread evenly down", "distr down")


def test_a_family_is_one_entry_until_one_of_it_is_named(workspace):
    workspace.open("fares")
    workspace.select(next(path for path in paths(workspace) if component_of(workspace, path)))
    gallery = Action("exchange", "Exchange the instance for another component", "Parts", list)
    every = candidates(workspace, [gallery], [], lambda path: None)
    named = [one for one in every if one.title.startswith("Exchange for ")]
    assert len(named) > 5
    listed = ranked(every, "exchange")
    assert not any(one in listed for one in named)
    assert [one.title.endswith(" for …") for one in listed] == [True, True]
    assert next(iter(ranked(every, "exchange chip"))).title == "Exchange for Chip"
    assert "Exchange for Chip" in [one.title for one in ranked(every, "swap chip")]


def paths(workspace):
    return [(node.id,) for node in workspace.owner.root.children]


def component_of(workspace, path):
    node = next(n for n in workspace.owner.root.children if n.id == path[0])
    return node.kind == "instance"


@pytest.mark.parametrize(
    ("typed", "values"),
    [
        ("gap 12", {"gap": 12.0}),
        ("spacing 12", {"gap": 12.0}),
        ("rotate 180", {"rotate": 180.0}),
        ("rota -90", {"rotate": -90.0}),
        ("opacity 50%", {"opacity": 0.5}),
        ("transparency 0.5", {"opacity": 0.5}),
        ("padding 8 16", {f"padding-{s}": 8.0 if s in ("top", "bottom") else 16.0 for s in SIDES}),
        ("padding left 3", {"padding-left": 3.0}),
        ("width 50 %", {"width": Size("percent", 50.0)}),
        ("width fit", {"width": Size("fit")}),
        ("align centre", {"align": "center"}),
        ("wrap on", {"wrap": True}),
        ("hide", {"shown": False}),
        ("fill color.sea", {"fill": Token("color.sea")}),
    ],
)  # fmt: skip
def test_typed_values_are_set(workspace, typed, values):
    workspace.open("button")
    workspace.select(())
    found = dict(typed_values(workspace, typed))
    assert values in found.values(), found
    title = next(title for title, said in found.items() if said == values)
    next(c for c in typed_candidates(workspace, typed) if c.title == title).run()
    node = node_at(workspace.document, workspace.place)
    assert all(node.style.get(name) == value for name, value in values.items())


@pytest.mark.parametrize(
    "typed", ["gap", "gap much", "12", "tide 4", "padding 1 2 3 4 5", "fill rainbow"]
)
def test_what_says_no_value_sets_none(workspace, typed):
    workspace.open("button")
    workspace.select(())
    assert not list(typed_values(workspace, typed))


def test_a_value_out_of_bounds_is_the_nearest_and_nothing_is_set_of_nothing(workspace):
    workspace.open("button")
    workspace.select(())
    assert next(iter(typed_values(workspace, "opacity 300%")))[1] == {"opacity": 1.0}
    workspace.select(None)
    assert not list(typed_values(workspace, "gap 12"))


def test_four_numbers_as_css_has_them():
    assert four([8.0]) == [8.0] * 4
    assert four([1.0, 2.0]) == [1.0, 2.0, 1.0, 2.0]
    assert four([1.0, 2.0, 3.0]) == [1.0, 2.0, 3.0, 2.0]
    assert four([1.0, 2.0, 3.0, 4.0]) == [1.0, 2.0, 3.0, 4.0]


def test_whatever_can_be_off_says_what_it_waits_for():
    usual = Action._field_defaults["enabled"]
    for action in all_titles():
        assert bool(needed(action.id)) == (action.enabled is not usual), action.id
        if needed(action.id):
            assert why_off(action).endswith(f"{needed(action.id)} first.")


# Values at the edge of what is one, and beyond.
SAID = (
    "0", "-5", "1e999", "1e999-1e999", "0/0", "99999999", "+4", "*2", "100%", "0.5", "1 2",
    "1 2 3 4", "1 2 3 4 5", "+1 *2", "fit", "grow 2", "50 %", "on", "off", "center", "c",
    "#17495A", "none", "color.sea", "{color.sea}", "COLOR.SEA", "gone.token", "", "×", "\u200b",
)  # fmt: skip


def test_whatever_is_typed_for_whatever_part_is_set_or_nothing(workspace):
    """Each row and family of the table, by the words it has, for a part of each kind: what is
    offered is set in one step, or refused with a sentence; and undone it is as before."""
    workspace.open("boarding")
    parts = {node.kind: (node.id,) for node in walk(workspace.owner.root)} | {"root": ()}
    refused: list[str] = []
    workspace.failed.connect(refused.append)
    offered = 0
    for path in parts.values():
        workspace.select(path)
        for name in sorted({*(row.label for row in TABLE.values()), *FAMILY_MEMBERS}):
            for said in SAID:
                for candidate in typed_candidates(workspace, f"{name} {said}"):
                    before, told = workspace.document, len(refused)
                    candidate.run()
                    offered += 1
                    if workspace.document is not before:
                        workspace.undo()
                        assert workspace.document is before
                    for sentence in refused[told:]:
                        assert sentence.endswith("."), (name, said, sentence)
    assert {"text", "box", "instance"} <= parts.keys() and offered > 1000


def test_a_change_is_one_of_what_there_is(workspace):
    workspace.open("button")
    workspace.select(())
    found = dict(typed_values(workspace, "padding +4"))
    assert [found["Set Padding to +4"][f"padding-{side}"] for side in SIDES] == [14, 22, 14, 22]
    assert dict(typed_values(workspace, "opacity 50"))["Set Opacity to 50"] == {"opacity": 0.5}


def test_what_is_off_is_not_found_by_what_it_waits_for():
    off = Candidate("Detach the instance", "select an instance", list, False)
    assert ranked([off], "select") == [] and ranked([off], "detach") == [off]
