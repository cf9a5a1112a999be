"""The command line, as a shell calls it."""

import json
import os
import subprocess
import sys

import jsonschema
import pytest
from PIL import Image

from demo import ferry_line
from demo.drawing import box, instance, text
from outgrowth.cli import main
from outgrowth.cli.exit_codes import ExitCode
from outgrowth.core.document.keeping import KeptTrial, Waiver
from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.edits.keeping import keep_check, waive
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.exchange.native import save
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.review.report import review_schema, trials_schema
from outgrowth.resources import DEMO


def measured(capsys, *arguments):
    assert main(["measure", str(DEMO), "--json", *arguments]) == 0
    return {node["path"]: node for node in json.loads(capsys.readouterr().out)}


def test_measure_prints_every_rectangle_by_its_path_of_names(capsys):
    nodes = measured(capsys, "--screen", "Boarding")
    assert nodes["Boarding"] == {
        "path": "Boarding",
        "x": 0.0,
        "y": 0.0,
        "width": 390.0,
        "height": 844.0,
    }
    assert nodes["Boarding/header/Back button"]["width"] == 44.0
    assert nodes["Boarding/header/Back button/icon"]["x"] == 28.0


def test_settings_reach_a_variant_and_an_instance(capsys):
    plain = measured(capsys, "--component", "Button")
    iconed = measured(
        capsys, "--component", "Button", "--set", "With icon=yes", "--set", "Kind=Quiet"
    )
    assert "Controls/Button/icon" not in plain
    assert "Controls/Button/icon" in iconed
    longer = "crossing/actions/Later button:Label=Not today, thank you"
    nodes = measured(capsys, "--screen", "boarding", "--set", longer)
    before = measured(capsys, "--screen", "boarding")
    path = "Boarding/crossing/actions/Later button"
    assert nodes[path]["width"] > before[path]["width"]


def test_a_table_is_printed_for_people(capsys):
    assert main(["measure", str(DEMO), "--component", "Icon button"]) == 0
    assert "44        44  Controls/Icon button" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["--screen", "Nowhere"], "no screen “Nowhere” in this file"),
        (["--component", "Button", "--set", "Kind=Loud"], "it can be: Primary, Quiet"),
        (["--component", "Button", "--set", "Tide=high"], "has no “Tide”"),
        (["--screen", "Boarding", "--set", "gone:Kind=Quiet"], "no instance at “gone”"),
    ],
)
def test_what_is_not_there_is_a_sentence(capsys, arguments, said):
    assert main(["measure", str(DEMO), *arguments]) == ExitCode.WRONG_USE
    assert said in capsys.readouterr().err


def test_a_damaged_file_is_a_sentence_without_a_traceback(tmp_path):
    bad = tmp_path / "cut.outgrowth.json"
    bad.write_bytes(DEMO.read_bytes()[:999])
    command = [sys.executable, "-m", "outgrowth", "measure", str(bad), "--screen", "Boarding"]
    ended = subprocess.run(command, capture_output=True, text=True, check=False)
    assert ended.returncode == ExitCode.REFUSED
    assert ended.stderr.count("\n") == 1
    assert "damaged or cut off" in ended.stderr


# Source: ISO/IEC 15948, read back by Pillow.
def test_shot_draws_a_png_without_a_window(tmp_path):
    out = tmp_path / "boarding.png"
    command = [
        sys.executable,
        "-m",
        "outgrowth",
        "shot",
        str(DEMO),
        "--screen",
        "Boarding",
        "--scale",
        "2",
        "-o",
        str(out),
    ]
    subprocess.run(command, check=True, capture_output=True)
    with Image.open(out) as image:
        assert image.size == (780, 1688)
        assert image.getpixel((40, 300))[:3] == (255, 255, 255)


def test_the_core_and_the_command_line_measure_without_qt():
    script = (
        "import sys, pkgutil, importlib\n"
        "sys.modules['PyQt6'] = None\n"
        "import outgrowth.core\n"
        "for found in pkgutil.walk_packages(outgrowth.core.__path__, 'outgrowth.core.'):\n"
        "    importlib.import_module(found.name)\n"
        "from outgrowth.cli import main\n"
        f"sys.exit(main(['measure', {str(DEMO)!r}, '--screen', 'Boarding']))"
    )
    command = [sys.executable, "-c", script]
    ended = subprocess.run(command, capture_output=True, text=True, check=False)
    assert ended.returncode == 0, ended.stderr


def nested(tmp_path, change=lambda document: document):
    """The demo with a button in a holder in a holder on a screen, saved."""
    document = ferry_line()
    for outer, inner in (("holder", "button"), ("outer", "holder")):
        root = box(outer, instance("inside", inner), flow="row", padding=(4, 4))
        document = add_component(document, Component(outer, outer.capitalize(), root))
    one, two = instance("one", "outer"), instance("two", "outer")
    root = box("deep", one, two, flow="column", width=400, height=300)
    document = add_screen(document, Screen("deep", "Deep", root))
    path = tmp_path / "deep.outgrowth.json"
    save(change(document), path)
    return path


def test_an_inner_change_is_measured_three_deep_and_an_outer_override_survives(capsys, tmp_path):
    """The command line is the witness, with the file between."""

    def measured_at(change):
        path = nested(tmp_path, change)
        assert main(["measure", str(path), "--json", "--screen", "Deep"]) == 0
        nodes = {n["path"]: n for n in json.loads(capsys.readouterr().out)}
        return [nodes[f"Deep/{name}/inside/inside"]["height"] for name in ("one", "two")]

    inside = Place("deep", ("two", "inside", "inside"))
    before = measured_at(lambda d: set_properties(d, inside, {"padding-top": 30.0}))
    after = measured_at(
        lambda d: set_properties(
            set_properties(d, inside, {"padding-top": 30.0}),
            Place("button"),
            {"padding-top": 20.0, "padding-bottom": 11.0},
        )
    )
    assert after[0] == before[0] + 11.0, "10 more above, 1 more below"
    assert after[1] == before[1] + 1.0, "its own padding above stays"


def test_a_script_is_played_headless(tmp_path, capsys):
    script = tmp_path / "open.json"
    events = [
        {"at": 0, "do": "press", "x": 100, "y": 300},
        {"at": 40, "do": "release", "x": 100, "y": 300},
    ]
    script.write_text(json.dumps({"events": events, "times": [0, 190, 400]}))
    command = ["play", str(DEMO), "--screen", "Help", "--script", str(script)]
    assert main([*command, "--json"]) == 0
    first = capsys.readouterr().out
    assert main([*command, "--json"]) == 0
    assert capsys.readouterr().out == first, "the same, byte for byte"
    frames = json.loads(first)
    assert [frame["at"] for frame in frames] == [0, 190, 400]
    assert frames[2]["values"] == {"notice-0:open": "no", "notice-1:open": "yes"}
    heights = [
        next(n["rect"][3] for n in frame["nodes"] if n["path"] == "notice-1") for frame in frames
    ]
    assert heights[0] < heights[1] < heights[2]
    assert main([*command, "--times", "0,50"]) == 0
    assert "What if the sea is rough?: Open = yes" in capsys.readouterr().out


def test_a_script_without_times_and_events_after_the_last_look_are_told(tmp_path, capsys):
    script = tmp_path / "open.json"
    events = [
        {"at": 0, "tap": "Help › What if the sea is rough? › head"},
        {"at": 900, "leave": True},
    ]
    script.write_text(json.dumps({"events": events}))
    command = ["play", str(DEMO), "--screen", "Help", "--script", str(script)]
    assert main(command) == 0
    said = capsys.readouterr()
    assert "says no times to look" in said.err and "900" in said.out
    assert main([*command, "--times", "0,500"]) == 0
    assert "One event comes after the last look at 500 ms" in capsys.readouterr().err


def test_a_part_is_touched_by_the_name_that_measure_gives_it(tmp_path, capsys):
    names = [path for path in measured(capsys, "--screen", "Help") if path.endswith("/head")]
    script = tmp_path / "open.json"
    script.write_text(json.dumps({"events": [{"at": 0, "tap": names[1]}], "times": [0]}))
    command = ["play", str(DEMO), "--screen", "Help", "--script", str(script), "--reduced-motion"]
    assert main([*command, "--json"]) == 0
    (frame,) = json.loads(capsys.readouterr().out)
    assert frame["values"]["notice-1:open"] == "yes"
    assert frame["problems"] == []
    for times in ("nan", "inf", "1e18", "-5"):
        assert main([*command, "--times=" + times]) == ExitCode.WRONG_USE
        assert "within an hour" in capsys.readouterr().err
    script.write_text(json.dumps({"events": [{"at": 0, "tap": "Help/nothing"}], "times": [0]}))
    assert main(command) == ExitCode.REFUSED
    assert "No part called “Help/nothing”" in capsys.readouterr().err


def test_a_script_that_cannot_be_played_is_said(tmp_path, capsys):
    script = tmp_path / "broken.json"
    script.write_text("{")
    command = ["play", str(DEMO), "--screen", "Help", "--script"]
    assert main([*command, str(script)]) == ExitCode.REFUSED
    assert "“broken.json” is no script" in capsys.readouterr().err
    assert main([*command, str(tmp_path / "none.json")]) == ExitCode.REFUSED
    assert "cannot be read" in capsys.readouterr().err


# --- files that nobody would write ----------------------------------------------------------


@pytest.mark.parametrize(
    ("make", "said"),
    [
        (lambda path: path.write_bytes(b""), "not complete JSON"),
        (lambda path: path.write_bytes(b"[" * 100_000), "brackets deep"),
        (
            lambda path: path.write_text('{"format":"outgrowth","version":%s}' % ("9" * 500)),
            "newer",
        ),
        (lambda path: os.mkfifo(path), "no ordinary file"),
        (lambda path: path.mkdir(), "holds no document.json"),
        (lambda path: path.symlink_to("/dev/zero"), "no ordinary file"),
        (lambda path: None, "no such file"),
    ],
)
def test_a_file_that_cannot_be_is_one_line(tmp_path, capsys, make, said):
    path = tmp_path / "odd\x1b[31m\nname.outgrowth.json"
    make(path)
    assert main(["measure", str(path), "--screen", "Help"]) == ExitCode.REFUSED
    out, err = capsys.readouterr()
    assert said in err and out == ""
    assert err.endswith("\n") and err[:-1].isprintable() and len(err) <= 201


def test_a_script_that_is_a_pipe_does_not_hang(tmp_path, capsys):
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    assert main(["play", str(DEMO), "--screen", "Help", "--script", str(pipe)]) == ExitCode.REFUSED
    assert "no ordinary file" in capsys.readouterr().err


def test_keys_are_printed_and_searched(capsys):
    assert main(["keys"]) == 0
    printed = capsys.readouterr().out
    assert "Undo" in printed
    assert "Ctrl+Z" in printed
    assert "On the bench" in printed
    assert main(["keys", "put", "box"]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert lines[0] == "Parts"
    assert all("box" in line.lower() for line in lines[1:])
    assert main(["keys", "no such thing"]) == 0
    assert "Nothing is called so" in capsys.readouterr().out


def test_review_of_a_clean_file_says_so(tmp_path, capsys):
    path = tmp_path / "clean.outgrowth.json"
    save(Document("Clean"), path)
    assert main(["review", str(path)]) == 0
    assert capsys.readouterr().out == "Nothing that a colleague would point at.\n"


def test_review_prints_findings_and_says_when_something_is_wrong(tmp_path, capsys):
    page = box("page", text("words", "Sailing", color="#999999"), fill="#FFFFFF")
    document = add_screen(Document("Poor"), Screen("page", "Page", page))
    file = tmp_path / "poor.outgrowth.json"
    save(document, file)
    assert main(["review", str(file)]) == 1
    said = capsys.readouterr().out
    assert "2.85 : 1" in said and "WCAG 2.2, 1.4.3" in said
    assert main(["review", str(file), "--json", "--only", "contrast"]) == 1
    said = json.loads(capsys.readouterr().out)
    jsonschema.validate(said, review_schema())
    (finding,) = said["findings"]
    assert said["counts"] == {"error": 1, "likely": 0, "maybe": 0, "waived": 0}
    assert (finding["subject"], finding["owner"], finding["node"]) == (
        "contrast",
        "page",
        ["words"],
    )
    assert main(["review", str(file), "--only", "rules"]) == 0
    waiver = Waiver("page", "words-contrast", ("words",), "", "It is only a mark.")
    save(waive(document, [waiver]), file)
    assert main(["review", str(file), "--only", "contrast"]) == 0, "a waived one stops no build"
    assert "1 more is waived" in capsys.readouterr().out
    assert main(["review", str(file), "--json"]) == 0
    waived = json.loads(capsys.readouterr().out)["findings"]
    assert [f["waived"] for f in waived if f["kind"] == "words-contrast"] == ["It is only a mark."]
    assert main(["review", str(file), "--only", "colours"]) == ExitCode.WRONG_USE
    assert "no subject" in capsys.readouterr().err


def test_trials_draws_a_sheet_and_stops_a_build_where_a_kept_one_breaks(tmp_path, capsys):
    file, sheet = tmp_path / "ferry.outgrowth.json", tmp_path / "sheet.png"
    document = ferry_line()
    save(document, file)
    card = ["trials", str(file), "--component", "Fare card"]
    assert main([*card, "--contents", "as-is,three-times", "-o", str(sheet)]) == 0
    said = capsys.readouterr().out
    assert "Narrowest that works: 188 px." in said and "break" in said
    assert sheet.read_bytes().startswith(b"\x89PNG")
    assert main([*card, "--contents", "long-word", "--rooms", "own", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    jsonschema.validate(told, trials_schema())
    assert {cell["room"] for cell in told["cells"]} == {"own"}
    rows = tmp_path / "rows.csv"
    rows.write_text("name,price\nNight ferry with a cabin for four,31.00\n")
    assert main([*card, "--rows", str(rows), "--rooms", "own", "--json"]) == 0
    titles = {cell["content"] for cell in json.loads(capsys.readouterr().out)["cells"]}
    assert titles == {"as-is", "Night ferry with a cabin for four"}
    save(keep_check(document, KeptTrial("fare-card", "three-times", "width", width=120.0)), file)
    assert main(card) == 1, "a kept trial breaks"
    capsys.readouterr()
    wrong, refused = ExitCode.WRONG_USE, ExitCode.REFUSED
    for options, code in (
        (["--contents", "nothing-such"], wrong),
        (["--rooms", "cellar"], wrong),
        (["--rows", "gone.csv"], refused),
    ):
        assert main([*card, *options]) == code
        assert capsys.readouterr().err.count("\n") == 1
    assert main(["trials", str(file), "--component", "Nobody"]) == ExitCode.WRONG_USE
    assert "There is no component" in capsys.readouterr().err


@pytest.mark.parametrize(
    "typed",
    [
        ["measure"],
        ["measure", str(DEMO)],
        ["shot", str(DEMO), "--screen", "Help"],
        ["play", str(DEMO), "--screen", "Help"],
        ["shot", str(DEMO), "--screen", "Help", "-o", "x.png", "--scale", "minus"],
        ["export", str(DEMO)],
        ["review", str(DEMO), "--colour"],
        ["trials", str(DEMO)],
        ["publish", str(DEMO)],
        ["diff", str(DEMO)],
        ["--nothing"],
    ],
)
def test_what_cannot_be_understood_is_wrong_use_in_every_command(typed, capsys):
    with pytest.raises(SystemExit) as ended:
        main(typed)
    assert ended.value.code == ExitCode.WRONG_USE
    assert "usage: outgrowth" in capsys.readouterr().err


@pytest.mark.parametrize(
    "command",
    [
        ["open"], ["measure", "--screen", "Help"], ["shot", "--screen", "Help", "-o", "x.png"],
        ["play", "--screen", "Help", "--script", "x.json"], ["export", "-o", "out"], ["review"],
        ["trials", "--screen", "Help"], ["outdated"], ["take-in"], ["diff", str(DEMO)],
        ["publish", "--library", "lib", "--component", "Button", "--message", "m"],
        ["merge", str(DEMO), str(DEMO)],
    ],
)  # fmt: skip
def test_a_file_that_cannot_be_read_is_refused_by_every_command(
    command, tmp_path, monkeypatch, capsys
):
    """The file comes last: `--component NAME` takes one word, and so do all other options."""
    monkeypatch.chdir(tmp_path)
    name, *rest = command
    assert main([name, *rest, str(tmp_path / "none.json")]) == ExitCode.REFUSED
    assert capsys.readouterr().err.count("\n") == 1
    assert list(tmp_path.iterdir()) == []
