"""A folder that is written into: what of it is ours, and nothing of what is not."""

from __future__ import annotations

import json
import os
import random
import socket
from contextlib import closing
from pathlib import Path

import pytest

from outgrowth.core.exchange import output
from outgrowth.core.exchange.output import (
    DIFFERENCES,
    HAND_OVER,
    EditedRefusal,
    OutputRefusal,
    plan,
    write,
)
from outgrowth.core.exchange.web.files import Wanted, hand_over
from outgrowth.workspace.handing_over import PictureFormats, made

FILES = {
    "index.html": b"<p>all",
    "components/hs-button.js": b"one",
    "components/hs-card.js": b"two",
    "assets/figtree-400.ttf": b"font",
    "screens/screen.css": b"css",
}


def tree(folder):
    """Everything under a folder by its path: contents, where a link leads, or what it is."""
    found = {}
    for root, folders, names in os.walk(folder):
        for path in (Path(root) / name for name in (*folders, *names)):
            name = str(path.relative_to(folder))
            if path.is_symlink():
                found[name] = f"-> {path.readlink()}"
            elif path.is_file():
                found[name] = path.read_bytes()
    return found


def test_what_is_written_is_known_again_and_what_is_no_longer_needed_goes(tmp_path):
    out = tmp_path / "web"
    assert plan(out, FILES).new == tuple(sorted(FILES)) and not out.exists()
    write(out, FILES)
    assert plan(out, FILES).does_nothing
    fewer = {path: data for path, data in FILES.items() if "card" not in path}
    fewer["index.html"] = b"<p>fewer"
    done = write(out, fewer)
    assert done.changed == ("index.html",) and done.gone == ("components/hs-card.js",)
    assert not (out / "components" / "hs-card.js").exists() and plan(out, fewer).does_nothing


def test_what_was_edited_by_hand_is_kept_until_told_otherwise(tmp_path):
    write(tmp_path, FILES)
    (tmp_path / "index.html").write_bytes(b"by hand")
    assert write(tmp_path, FILES).edited == ("index.html",)
    assert (tmp_path / "index.html").read_bytes() == b"by hand"
    write(tmp_path, FILES, overwrite=True)
    assert plan(tmp_path, FILES).does_nothing


def test_a_set_is_not_torn_by_a_file_that_was_edited(tmp_path):
    """What would have to change with the others and can't holds all of them up."""
    write(tmp_path, FILES)
    (tmp_path / "components" / "hs-card.js").write_bytes(b"by hand")
    others = FILES | {"runtime.js": b"another", "index.html": b"<p>other"}
    assert plan(tmp_path, others).torn == ()
    write(tmp_path, others)
    assert tree(tmp_path)["runtime.js"] == b"another", "the edited one goes with it as before"
    changed = others | {"components/hs-card.js": b"new card", "index.html": b"<p>third"}
    intended = plan(tmp_path, changed)
    assert intended.torn == ("components/hs-card.js",) and intended.changed == ("index.html",)
    before = tree(tmp_path)
    with pytest.raises(EditedRefusal, match=r"hs-card\.js.*nothing was written"):
        write(tmp_path, changed)
    assert tree(tmp_path) == before
    write(tmp_path, changed, overwrite=True)
    assert plan(tmp_path, changed).does_nothing


def test_what_stood_there_before_holds_a_set_up_too(tmp_path):
    (tmp_path / "index.html").write_bytes(b"somebody's own")
    with pytest.raises(EditedRefusal, match="written by another hand"):
        write(tmp_path, FILES)
    assert tree(tmp_path) == {"index.html": b"somebody's own"}


def test_every_file_of_a_hand_over_is_called_as_ours(ferry, layout):
    pictures = PictureFormats(svg=True, scales=(1.0, 2.0))
    handed = made(ferry, layout, Wanted(), pictures, lambda *_: b"png")
    assert handed.files.keys() >= hand_over(ferry, layout).files.keys()
    assert [path for path in handed.files if not HAND_OVER.own.fullmatch(path)] == []


@pytest.mark.parametrize("moment", range(12))
def test_a_run_that_ended_in_the_middle_leaves_nothing_that_counts_as_edited(
    tmp_path, monkeypatch, moment
):
    write(tmp_path, FILES)
    before = tree(tmp_path)
    second = {path: data + b" again" for path, data in FILES.items()}
    real, calls = os.replace, iter(range(100))

    def until(*args, **kwargs):
        if next(calls) == moment:
            raise KeyboardInterrupt
        return real(*args, **kwargs)

    monkeypatch.setattr(output.os, "replace", until)
    try:
        write(tmp_path, second)
    except KeyboardInterrupt:
        assert all(
            data in (before[path], second.get(path)) or path == HAND_OVER.ledger
            for path, data in tree(tmp_path).items()
        )
    monkeypatch.undo()
    third = {path: data + b" and again" for path, data in FILES.items()}
    assert write(tmp_path, third).edited == ()
    assert {p: d for p, d in tree(tmp_path).items() if p != HAND_OVER.ledger} == third


# --- a folder from a stranger -----------------------------------------------------------------

LEDGERS = (
    "../own.txt", "/etc/hostname", "notes.txt", "components/../../own.txt", "src/main.js",
    ".git/config", "components/hs-card.js", "a\0b", "", ".", "index.html/x", "assets/x.exe",
)  # fmt: skip


def digest(data):
    return output._digest(data)


def hostile(chance, folder, outside):
    """Puts something into a folder that a stranger could have put there."""
    path = chance.choice([*FILES, HAND_OVER.ledger, "components", "assets", "screens"])
    place = folder / path
    if not place.parent.is_dir() or place.parent.is_symlink() or os.path.lexists(place):
        return
    match chance.randrange(7):
        case 0:
            place.symlink_to(outside / "own.txt")
        case 1:
            place.symlink_to(outside)
        case 2:
            place.symlink_to(outside / "not there yet")
        case 3:
            os.mkfifo(place)
        case 4:
            place.mkdir()
        case 5:
            place.write_bytes(b"somebody's")
        case 6:
            with closing(socket.socket(socket.AF_UNIX)) as listening:
                listening.bind(str(place)[-100:] if len(str(place)) < 100 else "\0x")


@pytest.mark.parametrize("seed", range(60))
def test_nothing_outside_and_nothing_of_others_is_touched(tmp_path, seed):
    chance = random.Random(seed)
    folder, outside = tmp_path / "web", tmp_path / "outside"
    outside.mkdir()
    (outside / "own.txt").write_bytes(b"own")
    (tmp_path / "own.txt").write_bytes(b"own")
    folder.mkdir()
    for name in ("notes.txt", "src/main.js", ".git/config"):
        (folder / name).parent.mkdir(exist_ok=True)
        (folder / name).write_bytes(b"own")
    for inner in chance.sample(["components", "assets", "screens"], chance.randrange(4)):
        (folder / inner).mkdir()
    for _ in range(chance.randrange(1, 5)):
        hostile(chance, folder, outside)
    if not os.path.lexists(folder / HAND_OVER.ledger):
        listed = dict.fromkeys(chance.sample(LEDGERS, 5), digest(b"own"))
        listed |= dict.fromkeys(chance.sample(sorted(FILES), 2), digest(b"other"))
        (folder / HAND_OVER.ledger).write_text(json.dumps(listed))
    before, beyond = tree(folder), tree(outside)
    for act in (plan, write):
        try:
            act(folder, FILES)
        except OutputRefusal as refused:
            assert len(str(refused)) < 600
    after = tree(folder)
    assert tree(outside) == beyond and (tmp_path / "own.txt").read_bytes() == b"own"
    for path, data in before.items():
        if path != HAND_OVER.ledger:
            assert after[path] == data, path


def test_the_folder_itself_is_no_link_and_none_on_the_way_to_it(tmp_path, monkeypatch):
    (tmp_path / "real").mkdir()
    (tmp_path / "web").symlink_to("real")
    monkeypatch.chdir(tmp_path)
    for place in (tmp_path / "web", *map(Path, ("web", "web/out"))):
        with pytest.raises(OutputRefusal, match="is a link"):
            write(place, FILES)
    assert tree(tmp_path / "real") == {}


def test_a_file_too_large_to_be_ours_is_not_read(tmp_path):
    write(tmp_path, FILES)
    with (tmp_path / "index.html").open("wb") as file:
        file.truncate(1 << 40)
    assert plan(tmp_path, FILES).edited == ("index.html",)


def test_pictures_of_one_part_leave_those_of_another(tmp_path):
    write(tmp_path, {"button.svg": b"1"}, kind=output.PICTURES)
    write(tmp_path, {"card.svg": b"2"}, kind=output.PICTURES)
    assert (tmp_path / "button.svg").exists()
    again = write(tmp_path, {"button.svg": b"3"}, kind=output.PICTURES)
    assert again.changed == ("button.svg",)
    assert plan(tmp_path, {"index.html": b"x"}, DIFFERENCES).new == ("index.html",)


def test_two_at_once_do_not_mix(tmp_path):
    with output._opened(tmp_path, make=True), pytest.raises(OutputRefusal, match="Another program"):
        write(tmp_path, FILES)
