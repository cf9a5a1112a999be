"""What differs is told once: a thing that came or went with all that is in it, and no order that
nobody sees."""

import msgspec
import pytest
from immutables import Map

from demo.drawing import box
from outgrowth.core.document.cues import Behaviour, PartMotion, Silence
from outgrowth.core.document.records import Axis, AxisValue, Component, Motion
from outgrowth.core.document.records import ComponentProperty as Property
from outgrowth.core.team.difference import differences, level

AXIS = Axis("size", "Size", (AxisValue("s", "S"), AxisValue("l", "L")), "s")
ROOT = box("r", box("a", box("inner")), box("b"))
PART = Component("part", "Part", ROOT)


def told(before, after):
    return [(d.kind, d.key[2:]) for d in differences(before, after)]


def but(**fields):
    return msgspec.structs.replace(PART, **fields)


def test_an_axis_comes_and_goes_with_its_values():
    with_axis = but(axes=(AXIS,))
    assert told(PART, with_axis) == [("added", ("axis", "size"))]
    assert told(with_axis, PART) == [("removed", ("axis", "size"))]


def test_a_value_of_an_axis_is_told_by_itself():
    longer = msgspec.structs.replace(AXIS, values=(*AXIS.values, AxisValue("x", "X")))
    before, after = but(axes=(AXIS,)), but(axes=(longer,))
    assert told(before, after) == [("added", ("axis", "size", "value", "x"))]
    assert level(differences(before, after)) == "minor"
    assert level(differences(after, before)) == "major"


def test_a_box_goes_with_what_is_in_it():
    assert told(PART, but(root=box("r", box("b")))) == [("removed", ("node", "a"))]


def test_another_order_is_told_once_of_what_both_have():
    turned = box("r", ROOT.children[1], ROOT.children[0])
    assert told(PART, but(root=turned)) == [("moved", ("node", "r", "child"))]
    longer = box("r", ROOT.children[0], ROOT.children[1], box("c"))
    assert told(PART, but(root=longer)) == [("added", ("node", "c"))]


def test_orders_that_nobody_sees_are_not_told():
    silenced = (Silence(("a",), "1"), Silence(("b",), "2"))
    moving = (PartMotion(("a",), "x", Motion(1.0)), PartMotion(("b",), "x", Motion(2.0)))
    one = but(behaviour=Behaviour(silenced=silenced, motions=moving))
    other = but(behaviour=Behaviour(silenced=silenced[::-1], motions=moving[::-1]))
    assert one != other and told(one, other) == []


@pytest.mark.parametrize(
    ("before", "after", "raised"),
    [
        ({}, {"name": "Other"}, "minor"),
        ({"axes": (AXIS,)}, {"axes": (msgspec.structs.replace(AXIS, name="How large"),)}, "major"),
        ({"axes": (AXIS,)}, {"axes": (msgspec.structs.replace(AXIS, driver="focus"),)}, "major"),
        ({"axes": (AXIS,)}, {"axes": (msgspec.structs.replace(AXIS, default="l"),)}, "patch"),
        ({}, {"properties": (Property("p", "P", "text", ()),)}, "minor"),
        ({"properties": (Property("p", "P", "text", ()),)}, {}, "major"),
        ({"properties": (Property("p", "P", "number", 1.0),)},
         {"properties": (Property("p", "P", "number", 2.0),)}, "patch"),
        ({"properties": (Property("p", "P", "number", 1.0),)},
         {"properties": (Property("p", "P", "switch", True),)}, "major"),
        ({"axes": (AXIS,)}, {"axes": (AXIS,), "not_offered": (Map({"size": "l"}),)}, "major"),
        ({"axes": (AXIS,), "not_offered": (Map({"size": "l"}),)}, {"axes": (AXIS,)}, "minor"),
        ({}, {"root": box("r", ROOT.children[0])}, "patch"),
        ({}, {"columns": ("size",)}, "patch"),
    ],
)  # fmt: skip
def test_a_version_is_raised_by_what_instances_notice(before, after, raised):
    assert level(differences(but(**before), but(**after))) == raised
