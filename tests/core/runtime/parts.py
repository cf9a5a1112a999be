"""Small made-up parts to run: a door that opens, a switch, a toast, and screens to put them on."""

from immutables import Map

from demo.behaviours import turned, with_cue
from demo.drawing import box
from outgrowth.core.document.cues import Motion
from outgrowth.core.document.records import Axis, AxisValue, Component, Document, Screen
from outgrowth.core.document.values import fixed
from outgrowth.core.edits.cues import set_motion
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tree.components import add_axis, add_component, add_screen
from outgrowth.core.resolve.ladder import Place

POINTER = ("rest", "hover", "press")
AT_ONCE = Motion(0.0)


def values(*names):
    return tuple(AxisValue(name, name) for name in names)


def part(document, name, root, **axes):
    """The document with a component; each axis is its values, or its driver and values. The
    first value is its rest."""
    document = add_component(document, Component(name, name.title(), root))
    for axis, said in axes.items():
        driver = {"state": "pointer", "focus": "focus"}.get(axis, "none")
        meaning = axis if axis in ("enabled", "checked", "selected") else "none"
        made = Axis(axis, axis.title(), values(*said), said[0], driver, meaning)
        document = add_axis(document, name, made)
    return document


def styled(document, owner, node, when=None, **style):
    """The document in which a node of an owner (() its root) looks so, under conditions."""
    place = Place(owner, node)
    said = {name.replace("_", "-"): value for name, value in style.items()}
    return set_properties(document, place, said, Map(when or {}))


def screen(document, name, *children, **style):
    return add_screen(document, Screen(name, name.title(), box(name, *children, **style)))


def door(document=None, name="door", opens=400.0, closes=150.0, easing="linear", high=100.0):
    """A head of 20 px that opens to a body below it, linearly unless told."""
    root = box(
        name,
        box("head", width=60, height=20),
        box("body", width=60, height=0, clip=True),
        flow="column",
    )
    document = part(document or Document("Doors"), name, root, open=("no", "yes"))
    document = styled(document, name, ("body",), {"open": "yes"}, height=fixed(high))
    document = with_cue(document, name, "tap", turned("open"), node=("head",))
    document = set_motion(document, name, "open", "yes", Motion(opens, easing))
    return set_motion(document, name, "open", "no", Motion(closes, easing))
