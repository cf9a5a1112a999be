"""A least or most size can be opened as a number and made relative, unless it is a share."""

from immutables import Map

from outgrowth.core.document.records import DesignToken
from outgrowth.core.document.values import FromProperty, Shift, Size, Token
from outgrowth.core.document.variants import default_variant
from outgrowth.core.edits.at_reach import Reach, open_at
from outgrowth.core.edits.instances.properties import kind_of
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.edits.tokens import kind_for
from outgrowth.core.edits.tree.components import add_token
from outgrowth.core.resolve.ladder import Place, value_at

LABEL = Place("button", ("label",))


def test_a_limit_in_px_is_opened_as_a_number_and_a_share_is_not(ferry):
    document = set_properties(ferry, LABEL, {"min-width": 40.0})
    assert kind_of(document, LABEL, "min-width") == "number"
    opened = open_at(
        document,
        Reach(LABEL.owner, variant=LABEL.variant),
        LABEL.path,
        "min-width",
        "least",
        "Least",
    )
    component = opened.components["button"]
    assert component.property("least").default == 40.0
    label = next(child for child in component.root.children if child.id == "label")
    assert label.style["min-width"] == FromProperty("least")
    shared = set_properties(ferry, LABEL, {"min-width": Size("percent", 50.0)})
    assert kind_of(shared, LABEL, "min-width") is None


def test_a_limit_in_px_can_be_relative_and_a_token(ferry):
    document = set_properties(ferry, LABEL, {"max-width": 40.0})
    hover = Map({"state": "hover"})
    document = set_properties(document, LABEL, {"max-width": Shift("add", 8.0)}, hover)
    variant = default_variant(document.components["button"]).set("state", "hover")
    assert value_at(document, Place("button", ("label",), variant), "max-width") == 48.0
    assert kind_for("max-width") == "dimension"
    document = add_token(document, "space.wide", DesignToken("dimension", 64.0))
    document = set_properties(document, LABEL, {"max-width": Token("space.wide")})
    assert value_at(document, LABEL, "max-width") == 64.0
