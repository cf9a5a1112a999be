import json

import jsonschema
import pytest

from demo import ferry_line
from outgrowth.core.exchange.native import FileRefusal, dumps, load, loads, save, schema
from outgrowth.resources import DEMO


def test_load_after_save_is_identity(ferry, tmp_path):
    path = tmp_path / "a.outgrowth.json"
    save(ferry, path)
    assert load(path) == ferry
    assert [p.name for p in tmp_path.iterdir()] == [path.name], "no part file is left"


def test_the_shipped_demo_is_what_its_script_makes():
    assert load(DEMO) == ferry_line()
    assert DEMO.read_text() == dumps(ferry_line())


def test_a_file_has_one_value_a_line_and_sorted_keys(ferry):
    text = dumps(ferry)
    assert max(len(line) for line in text.splitlines()) < 300
    assert json.dumps(json.loads(text), indent=1, sort_keys=True, ensure_ascii=False) + "\n" == text


# Source: the jsonschema package, draft 2020-12.
def test_the_demo_is_valid_against_the_published_schema(ferry):
    jsonschema.Draft202012Validator.check_schema(schema())
    jsonschema.validate(json.loads(dumps(ferry)), schema())


def test_keys_of_a_later_version_survive(ferry):
    data = json.loads(dumps(ferry))
    data["weather"] = {"sea": "calm"}
    data["components"][0]["root"]["tide"] = 3
    data["components"][0]["root"]["style"]["glow"] = 0.5
    acting = next(c for c in data["components"] if "cues" in c)
    cue = acting["cues"][0]
    for part in (cue, cue["trigger"], cue["changes"][0], data["motion"]):
        part["later"] = {"list": [1, {"deep": None}]}
    ruled = next(c for c in data["components"] if "rules" in c)
    ruled["rules"][0]["later"] = True
    data["tokens"][sorted(data["tokens"])[0]]["later"] = "words"
    varied = next(c for c in data["components"] if "axes" in c)
    varied["axes"][0]["colour"] = "red"
    text = json.dumps(data, indent=1, sort_keys=True, ensure_ascii=False) + "\n"
    assert dumps(loads(text.encode(), "a")) == text


def collect_lines(change):
    data = json.loads(dumps(ferry_line()))
    change(data)
    return json.dumps(data).encode()


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (dumps(ferry_line()).encode()[:5000], "damaged or cut off"),
        (b"", "damaged or cut off"),
        (b"\xff\xfe\x00", "damaged or cut off"),
        (b'{"name": "not ours"}', "not an Outgrowth file"),
        (b"[1, 2]", "not an Outgrowth file"),
        (collect_lines(lambda d: d.update(version=7)), "newer Outgrowth"),
        (collect_lines(lambda d: d.update(components=3)), "not a list"),
        (
            collect_lines(lambda d: d["components"][0]["root"]["style"].update(width=-4)),
            "“Icon/Anchor” › root › style › width: ",
        ),
        (
            collect_lines(lambda d: d["screens"][0]["root"].update(kind="sphere")),
            "“Boarding” › root › kind: “sphere” is none of",
        ),
        (collect_lines(lambda d: d["components"].append(d["components"][0])), "share the id"),
        (collect_lines(lambda d: d["components"][0].pop("root")), "“root” is missing"),
    ],
)
def test_a_bad_file_is_refused_with_one_sentence(data, said):
    with pytest.raises(FileRefusal) as caught:
        loads(data, "harbour.outgrowth.json")
    assert said in str(caught.value)
    assert "harbour.outgrowth.json" in str(caught.value)
    assert "\n" not in str(caught.value)


def nested(depth):
    node = {"id": f"n{depth}", "name": "n", "kind": "box"}
    for n in reversed(range(depth)):
        node = {"id": f"n{n}", "name": "n", "kind": "box", "children": [node]}
    screen = {"id": "s", "name": "s", "root": node}
    return json.dumps({"format": "outgrowth", "version": 1, "name": "d", "screens": [screen]})


def test_nesting_has_a_stated_limit():
    assert loads(nested(150).encode(), "a").screens["s"].id == "s"
    with pytest.raises(FileRefusal, match="200 levels"):
        loads(nested(250).encode(), "a")
    with pytest.raises(FileRefusal, match="600 brackets"):
        loads(nested(5000).encode(), "a")
    with pytest.raises(FileRefusal):
        loads(b'{"a":' * 200_000, "a")


def test_a_failed_save_leaves_the_old_file_whole(ferry, tmp_path, monkeypatch):
    path = tmp_path / "a.outgrowth.json"
    path.write_text("old")

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(FileRefusal, match="No space left"):
        save(ferry, path)
    assert path.read_text() == "old"
    assert len(list(tmp_path.iterdir())) == 1


def test_a_file_that_is_not_there_is_a_sentence(tmp_path):
    with pytest.raises(FileRefusal, match="cannot be read"):
        load(tmp_path / "none.outgrowth.json")
