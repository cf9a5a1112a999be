"""Sides and corners that are alike are one fact, with one mend for all of them."""

import pytest

from demo.drawing import box
from outgrowth.core.document.properties import FAMILY_MEMBERS
from outgrowth.core.document.records import Component, DesignToken, Document, find
from outgrowth.core.document.values import Token
from outgrowth.core.edits.tokens import set_token
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.review.scale import length_findings, spacing_findings

RADII, PADDINGS = FAMILY_MEMBERS["radius"], FAMILY_MEMBERS["padding"]


def card(**style):
    document = set_token(Document("Cards"), "radius.card", DesignToken("dimension", 8.0))
    root = box("card", **{name.replace("_", "-"): value for name, value in style.items()})
    return add_component(document, Component("card", "Card", root))


def found(document):
    return list(length_findings(document, document.components["card"]))


@pytest.mark.parametrize(
    ("corners", "label"),
    [
        (RADII, "Radius of"),
        (RADII[:2], "Radius top-left and top-right of"),
        (RADII[:3], "Radius top-left, top-right and bottom-right of"),
        (RADII[1:2], "Radius top-right of"),
    ],
)
def test_corners_that_are_alike_are_told_once_and_mended_together(corners, label):
    document = card(**dict.fromkeys(corners, 8.0))
    (finding,) = found(document)
    assert finding.text.startswith(label)
    mended = finding.mend.change(document)
    root = find(mended.components["card"].root, "card")
    assert {name: root.style.get(name) for name in corners} == dict.fromkeys(
        corners, Token("radius.card")
    )
    assert not found(mended)


def test_corners_that_differ_are_told_apart():
    document = card(**dict(zip(RADII, (8.0, 8.0, 7.5, 30.0), strict=True)))
    kinds = sorted((finding.kind, finding.about) for finding in found(document))
    assert [kind for kind, _ in kinds] == ["length-equals-token", "length-near-token"]


def test_sides_that_are_off_the_scale_are_told_once():
    document = card(**dict.fromkeys(PADDINGS, 7.0), gap=9.0)
    findings = list(spacing_findings(document, document.components["card"], 8.0))
    assert [f.text.split(" of ")[0] for f in findings] == ["Gap", "Padding"]
    mended = findings[1].mend.change(document)
    root = mended.components["card"].root
    assert {root.style[name] for name in PADDINGS} == {8.0} and root.style["gap"] == 9.0
