"""Files merged as git hands them over: whole ones, those of a folder one by one, and any others."""

from __future__ import annotations

import random

import pytest

from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.exchange.native.folder import joined, split
from outgrowth.core.refusal import Refusal
from outgrowth.core.team.merge import merge
from outgrowth.core.team.merge_files import merge_files, unmerged
from tests.fuzz.report import bad_sentence
from tests.fuzz.team import two_sides

JUNK = (
    b"", b"[]", b"null", b"{}", b"3", b'"x"', b'{"root":3}', b'{"root":{}}', b"\xff",
    b'{"root":null,"id":"x","name":"y"}', b'{"format":"outgrowth"}', b'{"a":"1.2.0"}',
    b'{"format":"outgrowth","version":2,"name":"n","components":["a"]}',
    b'{"format":"outgrowth","version":2,"name":"n","components":3}',
    b'{"format":"outgrowth","version":2,"name":"n","screens":["a",{}]}',
    b'{"format":"outgrowth","version":2,"name":"n","assets":[1]}',
)  # fmt: skip
PATHS = ("components/x.json", "screens/y.json", "document.json", "versions.json", "x")


@pytest.mark.parametrize("seed", range(40))
def test_a_whole_file_is_merged_as_its_document_and_keeps_what_is_to_be_picked(seed):
    base, ours, theirs = two_sides(seed)
    result = merge_files(*(dumps(d).encode() for d in (base, ours, theirs)), "x.outgrowth.json")
    document = loads(result.data, "x")
    expected = merge(base, ours, theirs)
    if not result.disagreements:
        assert document == expected.document
        return
    left = unmerged(document)
    assert left.merged({}).document == expected.document
    for found in expected.disagreements:
        picks = {found.key: "theirs"}
        assert left.merged(picks).document == merge(base, ours, theirs, picks).document


@pytest.mark.parametrize("seed", range(60))
def test_a_folder_that_git_merged_file_by_file_opens(seed):
    """Git takes out what one side took out, and asks the driver for what both changed."""
    sides = [split(document) for document in two_sides(seed)]
    merged = {}
    for name in {*sides[1], *sides[2]}:
        old, mine, other = (side.get(name) for side in sides)
        if old is not None and (mine is None or other is None):
            continue
        if mine is None or other is None or name.startswith("assets/"):
            merged[name] = mine or other
        else:
            merged[name] = merge_files(old or b"", mine, other, name).data
    try:
        document = joined(merged, "folder")
    except Refusal as problem:
        assert not bad_sentence(problem)  # as where one side put a part into another's loop
        return
    left = unmerged(document)
    assert left is None or left.merged({}).document


@pytest.mark.parametrize("seed", range(150))
def test_any_bytes_are_merged_or_refused_in_a_sentence(seed):
    rng = random.Random(seed)
    three = [rng.choice(JUNK) for _ in range(3)]
    if seed % 3 == 0:
        three = [bytearray(dumps(document).encode()) for document in two_sides(seed)]
        for data in three:
            for _ in range(rng.choice((0, 1, 5))):
                data[rng.randrange(len(data))] = rng.randrange(256)
    try:
        merge_files(*map(bytes, three), rng.choice(PATHS))
    except Refusal as problem:
        assert not bad_sentence(problem)


def test_of_two_versions_the_higher_one_counts():
    merged = merge_files(
        b'{"button":"1.0.0","chip":"1.0.0"}',
        b'{"button":"1.9.0","chip":"1.0.0"}',
        b'{"button":"1.10.0","chip":"1.0.0","notice":"1.0.0"}',
        "versions.json",
    )
    assert b'"button": "1.10.0"' in merged.data and b'"notice"' in merged.data
    assert merged.disagreements == ()
