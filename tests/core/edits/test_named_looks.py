"""A look that gets a name looks as it did, and so does all that follows it; sheets of states hold
every value."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as some

from demo import ferry_line
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import walk
from outgrowth.core.document.values import Token
from outgrowth.core.document.variants import default_variant, offered, offered_count, variants
from outgrowth.core.edits.instances.sheet_of_states import MOST_HELD, add_sheet_of_states
from outgrowth.core.edits.named_looks import LOOKS, alike, follow_look, look_of, name_look
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.paint import draw
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.ladder import Place, inspect
from outgrowth.workspace.engine import shipped_engine

DEMO = ferry_line()
ENGINE = shipped_engine()


def places():
    found = []
    for owner in DEMO.owners():
        for node in walk(owner.root):
            path = () if node is owner.root else (node.id,)
            faces = [None]
            if owner.id in DEMO.components:
                faces = [v for v in variants(owner) if offered(owner, v)][:12]
            for face in faces:
                place = Place(owner.id, path) if face is None else Place(owner.id, path, face)
                inspection = inspect(DEMO, place)
                for look in LOOKS:
                    if inspection is not None and inspection.instance is None:
                        values = look_of(inspection, look)
                        if values:
                            found.append((place, look, values))
    return found


PLACES = places()


def pictures(document):
    shown = {}
    for owner in document.owners():
        if owner.id in document.components:
            for face in list(variants(owner))[:12]:
                scene, placed = ENGINE.view(document, owner.id, face)
                shown[owner.id, face] = draw(scene, placed)
        else:
            shown[owner.id, None] = draw(*ENGINE.view(document, owner.id))
    return shown


BEFORE = pictures(DEMO)


@given(some.sampled_from(PLACES))
def test_what_is_named_looks_as_it_did_and_so_does_what_follows(case):
    place, look, values = case
    named = name_look(DEMO, look, "look.here", values, place)
    assert any(path.startswith("look.here") for path in named.tokens)
    others = alike(DEMO, look, values, place)
    after = follow_look(named, look, "look.here", values, others)
    for document in (named, after):
        shown = pictures(document)
        assert {k for k in shown if shown[k] != BEFORE[k]} == set()
    for other in (place, *others):
        rungs = inspect(after, other).ladder(
            "shadow" if look == "shadow" else "stroke" if look == "border" else "font-size"
        )
        said = next(rung.value for rung in rungs if rung.wins)
        assert isinstance(said, Token) and said.path.startswith("look.here")


def test_there_is_something_to_name_in_the_demo():
    assert {look for _, look, _ in PLACES} == set(LOOKS)
    assert any(place.variant for place, look, _ in PLACES if look == "border")


def test_a_name_that_is_taken_is_refused():
    place, look, values = next(p for p in PLACES if p[1] == "type")
    named = name_look(DEMO, look, "type.here", values, place)
    with pytest.raises(Refusal):
        name_look(named, look, "type.here", values, place)


@pytest.mark.parametrize("component_id", list(DEMO.component_order))
def test_a_sheet_holds_every_variant_as_it_is(component_id):
    component = DEMO.components[component_id]
    document = add_sheet_of_states(DEMO, component_id, "sheet")
    held = [node for node in walk(document.screens["sheet"].root) if node.kind == "instance"]
    assert len(held) == offered_count(component)
    shown = {at.path: at for at in locate(*ENGINE.view(document, "sheet"), "sheet")}
    for node in held:
        variant = default_variant(component)
        for axis in component.axes:
            variant = variant.set(axis.id, node.style[CHOICE + axis.id])
        alone = ENGINE.view(document, component_id, variant)
        here = shown[(node.id,)]
        assert here.scene.paint == alone.scene.paint, "hover and press are held too"
    captions = {
        n.style["content"][0].text for n in walk(document.screens["sheet"].root) if n.kind == "text"
    }
    assert len(captions) == len(held)


def test_more_than_can_be_looked_at_is_refused():
    button = DEMO.components["button"]
    axis = button.axes[0]
    values = tuple(
        msgspec.structs.replace(axis.values[0], id=f"v{n}", name=f"V{n}") for n in range(MOST_HELD)
    )
    many = msgspec.structs.replace(
        button,
        rules=(),
        axes=(msgspec.structs.replace(axis, values=values, default="v0"), button.axes[1]),
    )
    document = msgspec.structs.replace(DEMO, components=DEMO.components.set("button", many))
    with pytest.raises(Refusal, match="overview"):
        add_sheet_of_states(document, "button", "sheet")
