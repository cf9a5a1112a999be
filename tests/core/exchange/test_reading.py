"""What a file may hold, piece by piece: read as meant, or refused with the place and reason."""

import json

import jsonschema
import pytest

from outgrowth.core.document.records import Motion
from outgrowth.core.document.values import FromProperty, Run, Shift, Token
from outgrowth.core.exchange.native import FileRefusal, dumps, loads, schema


def file(**parts):
    return {"format": "outgrowth", "version": 1, "name": "Small"} | parts


def component(**parts):
    root = {"id": "r", "name": "root", "kind": "box"} | parts.pop("root", {})
    return file(components=[{"id": "c", "name": "Chip", "root": root} | parts])


def read(data):
    return loads(json.dumps(data).encode(), "small")


def axis(**parts):
    values = [{"id": "a", "name": "A"}, {"id": "b", "name": "B"}]
    return {"id": "x", "name": "X", "default": "a", "values": values} | parts


def test_an_empty_document_is_read_with_its_defaults():
    document = read(file())
    assert document.name == "Small"
    assert document.motion == Motion(160.0)
    assert json.loads(dumps(document))["components"] == []


def test_every_form_of_value_is_read():
    style = {
        "fill": "{color.sea}",
        "gap": {"property": "p"},
        "opacity": {"multiply": 0.5},
        "width": {"grow": 2},
        "shadow": [{"color": "#00000080", "y": 2}],
    }
    root = read(component(root={"style": style})).components["c"].root
    assert root.style["fill"] == Token("color.sea")
    assert root.style["gap"] == FromProperty("p")
    assert root.style["opacity"] == Shift("multiply", 0.5)
    assert root.style["width"].amount == 2.0
    assert root.style["shadow"][0].y == 2.0


def test_words_that_look_like_a_reference_stay_words():
    runs = [{"text": "{not.a.token}"}, {"text": " bold", "bold": True}]
    child = {"id": "t", "name": "t", "kind": "text", "style": {"content": runs}}
    document = read(component(root={"children": [child]}))
    content = document.components["c"].root.children[0].style["content"]
    assert content == (Run("{not.a.token}"), Run(" bold", bold=True))
    assert read(json.loads(dumps(document))) == document
    alone = component(root={"children": [child | {"style": {"content": [runs[0]]}}]})
    assert read(json.loads(dumps(read(alone)))) == read(alone)


def test_motion_is_found_on_all_levels():
    slow = {"duration": 300, "easing": "linear", "delay": 20}
    values = [{"id": "a", "name": "A", "motion": slow}]
    document = read(component(axes=[axis(values=values, motion=slow)], motion=slow))
    found = document.components["c"]
    expected = Motion(300.0, "linear", 20.0)
    assert found.motion == found.axes[0].motion == found.axes[0].values[0].motion == expected


def test_what_an_instance_chose_is_kept_in_the_form_of_files():
    style = {"component": "c", "choice:label": "Hello", "choice:on": True, "choice:n": 4}
    node = {"id": "i", "name": "i", "kind": "instance", "style": style}
    document = read(file(screens=[{"id": "s", "name": "s", "root": node}]))
    held = document.screens["s"].root.style
    assert (held["choice:label"], held["choice:on"], held["choice:n"]) == ("Hello", True, 4.0)
    assert read(json.loads(dumps(document))) == document


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (component(axes=[axis(default="z")]), "no value that is its default"),
        (component(axes=[axis(), axis()]), "Two axes share the id"),
        (component(axes=[axis(driver="wind")]), "driver: “wind” is none of"),
        (component(axes=[axis(values=3)]), "values: “3” is not a list"),
        (component(rules=[{"node": ["r"], "property": "glow", "value": 1}]), "does not know"),
        (component(rules=[{"node": "r", "property": "gap", "value": 1}]), "not a list"),
        (component(rules=[{"node": [1], "property": "gap", "value": 1}]), "not text"),
        (component(rules=[{"node": ["r"], "property": "gap", "value": "x"}]), "not a number"),
        (component(root={"style": {"gap": 1e12}}), "out of range"),
        (component(root={"style": {"flow": "diagonal"}}), "is none of: row, column, grid, free"),
        (component(root={"style": {"fill": 5}}), "is not a colour"),
        (component(root={"style": {"shadow": [{"blur": 3}]}}), "is not a colour"),
        (component(root={"style": {"content": [{"bold": True}]}}), "does not fit"),
        (component(motion={"duration": -5}), "motion"),
        (
            component(properties=[{"id": "p", "name": "p", "kind": "number", "default": "x"}]),
            "not a number",
        ),
        (component(**{"not-offered": [{"x": 3}]}), "not-offered › 1 › x: “3” is not text"),
        (file(tokens={"color.sea": {"kind": "color", "value": 3}}), "color.sea"),
        (file(tokens=[]), "tokens: “[]” is not an object"),
        (file(name=None), "name: “None” is not text"),
        (component(root={"children": [{"id": "r", "name": "n", "kind": "box"}]}), "share the id"),
    ],
)
def test_what_does_not_fit_is_named_with_its_place(data, said):
    with pytest.raises(FileRefusal) as caught:
        read(data)
    assert said in str(caught.value)
    assert str(caught.value).endswith(".")


def test_too_many_variants_are_refused():
    values = [{"id": f"v{n}", "name": f"v{n}"} for n in range(80)]
    axes = [axis(id=f"x{n}", name=f"X{n}", values=values, default="v0") for n in range(2)]
    with pytest.raises(FileRefusal, match="6,400 variants"):
        read(component(axes=axes))


# Source: the jsonschema package, draft 2020-12: what the schema refuses, reading refuses.
@pytest.mark.parametrize(
    "data",
    [
        component(root={"kind": "sphere"}),
        component(root={"style": {"gap": "wide"}}),
        component(axes=[{"id": "x"}]),
        file(version=9),
    ],
)
def test_schema_and_reader_refuse_alike(data):
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(data, schema())
    with pytest.raises(FileRefusal):
        read(data)


SHARING = {
    "libraries": [{"id": "l", "name": "L", "address": "/parts"}],
    "origins": {"chip": {"library": "l", "version": "1.2.0", "commit": "a" * 40, "own": True}},
    "tokens": {"color.a": {"library": "l", "token": {"kind": "color", "value": "#ffffff"}}},
}
KEEPING = {
    "waivers": [{"owner": "chip", "kind": "k", "node": ["a"], "about": "x", "reason": "R"}],
    "checks": [
        {
            "owner": "chip",
            "content": "own",
            "room": "width",
            "variant": {"a": "b"},
            "width": 320,
            "words": {"p": "Night ferry"},
        }
    ],
}
TOKENS = {"color.a": {"kind": "color", "value": "#ffffff", "modes": {"dark": "#000000"}}}


def with_each_part_as(value, data):
    """The data with one part after the other replaced, at any depth."""
    yield value
    for key in data if isinstance(data, dict) else range(len(data) if type(data) is list else 0):
        for other in with_each_part_as(value, data[key]):
            copy = dict(data) if isinstance(data, dict) else list(data)
            copy[key] = other
            yield copy


@pytest.mark.parametrize("value", [None, 3, "x", "", [1], {}, {"a": 1}, True, 1e9, "9" * 300])
def test_any_part_of_what_is_shared_and_of_tokens_is_read_or_refused(value):
    for key, data in (("sharing", SHARING), ("tokens", TOKENS), ("keeping", KEEPING)):
        for odd in with_each_part_as(value, data):
            try:
                document = read(file(**{key: odd}))
            except FileRefusal as problem:
                assert "\n" not in str(problem)
            else:
                assert loads(dumps(document).encode(), "again") == document
