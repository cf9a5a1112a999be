"""The journal and the folder form: nothing is lost, and what is there is always whole."""

import json
import random
from itertools import count

import pytest

from outgrowth.core.document.records import Document
from outgrowth.core.edits.tree.components import rename_owner
from outgrowth.core.edits.tree.nodes import remove_node
from outgrowth.core.edits.tree.owners import new_component, new_screen, remove_owner
from outgrowth.core.exchange.native import FileRefusal, dumps, folder, load, loads, save
from outgrowth.core.exchange.native.journal import About, Journal, recovered


def work(document, steps=12):
    """A run of edits, one document after each."""
    numbers = count()
    for n in range(steps):
        kind = n % 4
        if kind == 0:
            i = next(numbers)
            document = new_component(document, f"c{i}", "Part", f"r{i}")
        elif kind == 1:
            i = next(numbers)
            document = new_screen(document, f"s{i}", "Screen", (390, 844), f"sr{i}")
        elif kind == 2:
            document = rename_owner(document, document.component_order[0], f"Renamed {n}")
        else:
            root = document.screens["help"].root
            document = remove_node(document, "help", root.children[0].id)
            document = remove_owner(document, f"c{next(numbers) - 2}")
        yield document


def same(a, b):
    return dumps(a) == dumps(b)


@pytest.fixture
def saved(ferry, tmp_path):
    path = tmp_path / "ferry.outgrowth.json"
    save(ferry, path)
    return path


def unread(about):
    return None


def test_a_journal_leads_to_the_last_step(ferry, saved):
    journal = Journal(About(str(saved), "Ferry", 1, 0.0, "base"), load(saved))
    held = b""
    for n, document in enumerate(work(load(saved)), 1):
        held += journal.line(document)
        journal.wrote()
        found = recovered(held, "a", lambda about: load(saved))
        assert same(found.document, document) and found.steps == n


def test_a_line_that_was_cut_off_takes_only_its_own_step(ferry, saved):
    journal = Journal(About(str(saved), "Ferry", 1, 0.0, "base"), load(saved))
    steps = list(work(load(saved), 6))
    lines = []
    for document in steps:
        lines.append(journal.line(document))
        journal.wrote()
    whole = b"".join(lines)
    rng = random.Random(5)
    for cut in [*rng.sample(range(len(lines[0]), len(whole)), 12), len(whole)]:
        found = recovered(whole[:cut], "a", lambda about: load(saved))
        assert same(found.document, steps[found.steps - 1])
        assert (
            len(b"".join(lines[: found.steps]))
            <= cut
            < len(b"".join(lines[: found.steps + 1])) + (cut == len(whole))
        )


def test_a_journal_of_a_file_that_was_never_saved_stands_alone(ferry):
    journal = Journal(About("", "Untitled", 1, 0.0), None)
    held = journal.line(ferry)
    journal.wrote()
    after = remove_owner(ferry, "desk")
    held += journal.line(after)
    assert same(recovered(held, "a", unread).document, after)


def test_a_journal_that_holds_nothing_says_so(saved):
    for data in (b"", b"{", b"[]\n", b'{"a": 1}\n', b"\xff\n"):
        with pytest.raises(FileRefusal, match="nothing that could"):
            recovered(data, "a", lambda about: load(saved))


def test_a_journal_without_what_it_is_laid_over_says_so_rather_than_give_a_part(ferry, saved):
    journal = Journal(About(str(saved), "Ferry", 1, 0.0, "base"), load(saved))
    held = journal.line(new_component(load(saved), "mine", "Mine", "r"))
    with pytest.raises(FileRefusal, match="nothing that could"):
        recovered(held, "a", unread)


def test_a_line_that_did_not_reach_the_disk_was_never_said(saved):
    journal = Journal(About(str(saved), "Ferry", 1, 0.0, "base"), load(saved))
    held = b""
    for n, document in enumerate(work(load(saved))):
        line = journal.line(document)
        if n % 3 != 1:  # every third one is lost, whole
            held += line
            journal.wrote()
            assert same(recovered(held, "a", lambda about: load(saved)).document, document)


def test_of_a_journal_with_a_damaged_line_the_steps_before_it_come_back(saved):
    journal = Journal(About(str(saved), "Ferry", 1, 0.0, "base"), load(saved))
    steps = list(work(load(saved), 8))
    lines = []
    for document in steps:
        lines.append(journal.line(document))
        journal.wrote()
    harms = [
        b"", b"{}", b"[1]", b'{"order": 3}', b'{"order": [[], []], "components": {"a": 1}}',
        b'{"order": [["gone"], []]}', b'{"order": [[], [5]]}', b"\xff", b"null",
        ]  # fmt: skip
    for harm in harms:
        held = b"".join(lines[:3]) + harm + b"\n" + b"".join(lines[4:])
        assert same(recovered(held, "a", lambda about: load(saved)).document, steps[2])


# --- the folder form ------------------------------------------------------------------------


def test_a_folder_says_what_a_file_says(ferry, tmp_path):
    path = tmp_path / "ferry.outgrowth"
    save(ferry, path)
    names = {str(p.relative_to(path)) for p in path.rglob("*") if p.is_file()}
    assert {"document.json", "components/button.json", "screens/desk.json"} <= names
    assert any(name.startswith("assets/") for name in names)
    assert same(load(path), loads(dumps(ferry).encode(), "a"))


def test_an_edit_touches_only_its_own_files(ferry, tmp_path):
    path = tmp_path / "ferry.outgrowth"
    save(ferry, path)
    before = {p: p.stat().st_mtime_ns for p in path.rglob("*") if p.is_file()}
    save(remove_owner(rename_owner(ferry, "button", "Controls/Push"), "desk"), path)
    after = {p: p.stat().st_mtime_ns for p in path.rglob("*") if p.is_file()}
    changed = {p.name for p in after if before.get(p) != after[p]}
    assert changed == {"button.json", "document.json"}
    assert {p.name for p in before} - {p.name for p in after} == {"desk.json"}
    assert not (path / ".saving").exists()


@pytest.mark.parametrize("stop", range(1, 12))
def test_a_folder_is_old_or_new_wherever_saving_stops(ferry, tmp_path, monkeypatch, stop):
    path = tmp_path / "ferry.outgrowth"
    save(ferry, path)
    after = remove_owner(rename_owner(ferry, "button", "Controls/Push"), "desk")
    calls = count(1)

    def stopping(real):
        def call(*args, **named):
            if next(calls) == stop:
                raise KeyboardInterrupt
            return real(*args, **named)

        return call

    for name in ("_write",):
        monkeypatch.setattr(folder, name, stopping(getattr(folder, name)))
    monkeypatch.setattr(type(path), "replace", stopping(type(path).replace))
    monkeypatch.setattr(type(path), "unlink", stopping(type(path).unlink))
    stopped = False
    try:
        save(after, path)
    except KeyboardInterrupt:
        stopped = True
    monkeypatch.undo()
    found = load(path)
    assert same(found, after) or same(found, ferry)
    assert stopped or same(found, after)


@pytest.mark.parametrize(
    ("name", "text", "why"),
    [
        ("document.json", "{", "damaged"),
        ("document.json", "[]", "no part"),
        ("components/button.json", '{"id"', "damaged"),
        ("screens/desk.json", None, "cannot be read"),
        ("document.json", '{"components": ["../../secret.json"]}', "no name of a part"),
        ("document.json", '{"components": 3}', "damaged"),
    ],
)
def test_a_broken_folder_is_refused_with_a_sentence(ferry, tmp_path, name, text, why):
    path = tmp_path / "ferry.outgrowth"
    save(ferry, path)
    if text is None:
        (path / name).unlink()
    else:
        (path / name).write_text(text)
    with pytest.raises(FileRefusal, match=why):
        load(path)


def test_ids_that_are_no_names_stay_inside_the_folder(tmp_path):
    odd = new_component(Document("odd"), "../../../away", "Part", "r")
    odd = new_component(odd, "a/b\0c", "Part", "r")
    path = tmp_path / "odd.outgrowth"
    save(odd, path)
    assert same(load(path), odd)
    assert [p.name for p in tmp_path.iterdir()] == ["odd.outgrowth"]
    listed = json.loads((path / "document.json").read_text())["components"]
    assert listed == ["part-0.json", "part-1.json"]
