"""The team on the command line, as a script or git calls it."""

from __future__ import annotations

import json

import pytest

from demo import ferry_line
from outgrowth.cli import main
from outgrowth.cli.exit_codes import ExitCode
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.exchange.native import load, save
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.team.origins import work_here


@pytest.fixture
def shared(tmp_path, monkeypatch, capsys):
    """A file whose button and notice are in a library, and one that took the button in."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    app, kiosk = tmp_path / "app.outgrowth.json", tmp_path / "kiosk.outgrowth.json"
    save(ferry_line(), app)
    parts = str(tmp_path / "parts")
    assert main(["new-library", parts, "--name", "Holm parts"]) == 0
    command = ["publish", str(app), "--library", parts, "--message", "first"]
    assert main([*command, "--component", "Button", "--component", "Notice"]) == 0
    save(ferry_line().__class__("Kiosk"), kiosk)
    assert main(["take-in", str(kiosk), "--library", parts, "--component", "Button"]) == 0
    capsys.readouterr()
    return app, kiosk, parts


def changed(path, value, component="button"):
    document = set_properties(load(path), Place(component, ()), {"gap": value})
    save(document, path)


def test_a_change_goes_round_from_file_to_file(shared, capsys):
    app, kiosk, parts = shared
    assert main(["outdated", str(kiosk)]) == 0
    changed(app, 21.0)
    main(["publish", str(app), "--library", parts, "--component", "Button", "--message", "roomy"])
    assert "Controls/Button 1.0.1 (was 1.0.0)" in capsys.readouterr().out
    assert main(["outdated", str(kiosk), "--json"]) == 1
    assert json.loads(capsys.readouterr().out) == [
        {"component": "Controls/Button", "here": "1.0.0", "there": "1.0.1", "in": "Holm parts"}
    ]
    assert main(["take-in", str(kiosk)]) == 0
    assert "Controls/Button 1.0.0 → 1.0.1" in capsys.readouterr().out
    assert load(kiosk).components["button"].root.style["gap"] == 21.0
    assert main(["outdated", str(kiosk)]) == 0


def test_what_differs_is_said_in_words_json_and_pictures(shared, capsys, tmp_path):
    app, _, _ = shared
    other = tmp_path / "other.outgrowth.json"
    save(load(app), other)
    changed(other, 21.0)
    assert main(["diff", str(app), str(other)]) == ExitCode.FOUND
    text = capsys.readouterr().out
    assert "Controls/Button (patch)\n  Gap of button: 8 → 21\n" in text
    assert main(["diff", str(app), str(other), "--json"]) == ExitCode.FOUND
    chapters = {chapter["name"]: chapter for chapter in json.loads(capsys.readouterr().out)}
    assert chapters["Controls/Button"]["differs"] == ["Gap of button: 8 → 21"]
    assert main(["diff", str(app), str(other), "--html", str(tmp_path / "page")]) == ExitCode.FOUND
    page = (tmp_path / "page" / "index.html").read_text()
    assert page.count("<figure>") >= 1 and "Gap of button: 8 → 21" in page
    assert "<script" not in page
    assert main(["diff", str(app), str(app)]) == 0
    assert "Button" not in capsys.readouterr().out.replace(str(tmp_path), "")


@pytest.mark.parametrize("form", ["file", "folder"])
def test_merging_writes_over_ours_and_tells_where_both_disagree(shared, tmp_path, capsys, form):
    suffix = "outgrowth.json" if form == "file" else "outgrowth"
    paths = [tmp_path / f"{name}.{suffix}" for name in ("base", "ours", "theirs")]
    for path in paths:
        save(ferry_line(), path)
    changed(paths[1], 20.0)
    changed(paths[2], 30.0, "chip")
    assert main(["merge", *map(str, paths)]) == 0
    merged = load(paths[1])
    assert merged.components["button"].root.style["gap"] == 20.0
    assert merged.components["chip"].root.style["gap"] == 30.0
    changed(paths[2], 25.0)
    assert main(["merge", *map(str, paths)]) == 1
    assert "to pick" in capsys.readouterr().out
    assert load(paths[1]).components["button"].root.style["gap"] == 20.0
    assert load(paths[1]).extras["unmerged"]


def three(tmp_path, form):
    """Base, ours and theirs, which disagree about two gaps and agree on a third."""
    suffix = "outgrowth.json" if form == "file" else "outgrowth"
    paths = [tmp_path / f"{name}.{suffix}" for name in ("base", "ours", "theirs")]
    for path in paths:
        save(ferry_line(), path)
    for component in ("button", "notice"):
        changed(paths[1], 20.0, component)
        changed(paths[2], 25.0, component)
    changed(paths[2], 30.0, "chip")
    return paths


def gaps(path):
    components = load(path).components
    return [components[name].root.style["gap"] for name in ("button", "notice", "chip")]


@pytest.mark.parametrize("form", ["file", "folder"])
def test_a_merge_is_settled_by_a_side_or_by_a_file_of_picks(tmp_path, capsys, form):
    for side, value in (("--ours", 20.0), ("--theirs", 25.0)):
        room = tmp_path / side
        room.mkdir()
        paths = three(room, form)
        assert main(["merge", *map(str, paths), side]) == ExitCode.DONE
        assert gaps(paths[1]) == [value, value, 30.0]
        assert "unmerged" not in load(paths[1]).extras
    paths, picks = three(tmp_path, form), tmp_path / "picks.json"
    out = tmp_path / f"out{''.join(paths[0].suffixes)}"
    command = ["merge", *map(str, paths), "-o", str(out), "--pick", str(picks)]
    assert main(command) == ExitCode.FOUND
    listed = json.loads(picks.read_text())
    assert list(listed.values()) == ["", ""]
    assert "lists what is to be picked" in capsys.readouterr().err
    button = next(name for name in listed if "Button" in name)
    picks.write_text(json.dumps(listed | {button: "theirs"}))
    assert main(command) == ExitCode.FOUND, "one is left"
    assert "Notice" in capsys.readouterr().err
    picks.write_text(json.dumps(dict.fromkeys(listed, "ours") | {button: "theirs"}))
    assert main(command) == ExitCode.DONE
    assert gaps(out) == [25.0, 20.0, 30.0]
    for wrong, said in (('{"sail": "ours"}', "nobody disagrees"), ("[]", "no list"), ("{", "JSON")):
        picks.write_text(wrong)
        assert main(command) == ExitCode.WRONG_USE
        assert said in capsys.readouterr().err


def test_publishing_is_tried_first_and_settled_by_a_side(shared, tmp_path, capsys):
    app, _, parts = shared
    second = tmp_path / "second.outgrowth.json"
    save(load(app), second)
    changed(app, 21.0)
    command = ["publish", "--library", parts, "--component", "Button", "--message", "x"]
    assert main([*command, str(app), "--dry-run"]) == ExitCode.FOUND
    said = capsys.readouterr().out
    assert "would publish Controls/Button 1.0.1 (was 1.0.0)\n  Gap of button: 8 → 21\n" in said
    assert main(["outdated", str(app)]) == 0, "nothing was published"
    assert main([*command, str(app)]) == 0
    assert main([*command, str(app), "--dry-run"]) == 0
    changed(second, 33.0)
    capsys.readouterr()
    assert main([*command, str(second)]) == ExitCode.FOUND
    assert "to pick: Controls/Button: Gap of button: 33 or 21" in capsys.readouterr().err
    assert main([*command, str(second), "--theirs", "--dry-run"]) == ExitCode.DONE
    assert main([*command, str(second), "--ours"]) == 0
    assert "Controls/Button 1.0.2 (was 1.0.1)" in capsys.readouterr().out


def test_taking_in_is_settled_by_a_side(shared, capsys):
    app, kiosk, parts = shared
    changed(app, 21.0)
    command = ["publish", str(app), "--library", parts, "--component", "Button", "--message", "x"]
    assert main(command) == 0
    save(work_here(load(kiosk), "button"), kiosk)
    changed(kiosk, 33.0)
    capsys.readouterr()
    assert main(["take-in", str(kiosk)]) == ExitCode.FOUND
    assert "33 or 21" in capsys.readouterr().err and gap_of(kiosk) == 33.0
    assert main(["take-in", str(kiosk), "--theirs"]) == 0
    assert gap_of(kiosk) == 21.0


def gap_of(path):
    return load(path).components["button"].root.style["gap"]


@pytest.mark.parametrize(
    ("arguments", "said", "code"),
    [
        (["publish", "{app}", "--library", "{none}", "--component", "Button", "--message", "x"],
         "There is no folder", ExitCode.REFUSED),
        (["publish", "{app}", "--library", "{parts}", "--component", "Sail", "--message", "x"],
         "no component “Sail”", ExitCode.WRONG_USE),
        (["publish", "{kiosk}", "--library", "{parts}", "--component", "Button", "--message", "x"],
         "read-only here", ExitCode.REFUSED),
        (["publish", "{app}", "--library", "{parts}", "--component", "Button", "--message", "x"],
         "nothing to publish", ExitCode.DONE),
        (["take-in", "{kiosk}", "--component", "Sail"], "No library of this file has “Sail”",
         ExitCode.WRONG_USE),
        (["new-library", "{parts}", "--name", "x"], "is not empty", ExitCode.REFUSED),
        (["merge", "{app}", "{none}", "{app}"], "cannot be read", ExitCode.REFUSED),
        (["diff", "{app}", "{none}"], "cannot be read", ExitCode.REFUSED),
        (["outdated", "{none}"], "cannot be read", ExitCode.REFUSED),
    ],
)  # fmt: skip
def test_what_cannot_be_done_is_one_sentence_and_changes_nothing(
    shared, capsys, arguments, said, code
):
    app, kiosk, parts = shared
    known = {"app": app, "kiosk": kiosk, "parts": parts, "none": app.with_name("none")}
    before = [path.read_bytes() for path in (app, kiosk)]
    assert main([argument.format(**known) for argument in arguments]) == code
    told = capsys.readouterr().err
    assert said in told and len(told.strip().splitlines()) == 1
    assert [path.read_bytes() for path in (app, kiosk)] == before
