from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.values import GROW, Shadow
from outgrowth.core.edits.style.styles import set_properties
from outgrowth.core.geometry import Affine
from outgrowth.core.paint import draw, record
from outgrowth.core.paint.marks import Box, BoxShadow, Glyphs, Outline, Ring
from outgrowth.core.resolve.ladder import Place
from outgrowth.core.resolve.resolver import Resolver


def drawn(document, layout, component="button", **variant):
    scene = Resolver().variant(document, component, Map(variant))
    return record(draw(scene, layout.place(scene.layout)))


def test_a_button_is_a_box_and_the_glyphs_that_were_measured(ferry, layout):
    box, glyphs = drawn(ferry, layout)
    assert isinstance(box.mark, Box)
    assert box.mark.color == parse("#17495A")
    assert isinstance(glyphs.mark, Glyphs)
    scene = Resolver().variant(ferry, "button", Map())
    placed = layout.place(scene.layout)
    run = placed.children[0].text.lines[0].runs[0][1]
    assert glyphs.mark.run is run
    assert glyphs.mark.run.advance == placed.children[0].width
    assert (glyphs.to_root.e, glyphs.to_root.f) == (18.0, 10.0)


def test_a_quiet_one_has_a_ring_and_a_lifted_one_a_shadow_below(ferry, layout):
    assert any(isinstance(d.mark, Ring) for d in drawn(ferry, layout, kind="quiet"))
    first = drawn(ferry, layout, kind="primary", state="hover")[0]
    assert isinstance(first.mark, BoxShadow)


def test_scale_is_about_the_middle_and_leaves_the_layout(ferry, layout):
    pressed = drawn(ferry, layout, state="press")[0]
    at_rest = drawn(ferry, layout, state="rest")[0]
    w, h = at_rest.mark.width, at_rest.mark.height
    assert (pressed.mark.width, pressed.mark.height) == (w, h)
    assert pressed.to_root.apply(w / 2, h / 2) == (w / 2, h / 2)
    assert pressed.to_root.a == 0.97


def test_opacity_holds_for_all_beneath(ferry, layout):
    faint = set_properties(ferry, Place("button"), {"opacity": 0.5})
    assert {d.opacity for d in drawn(faint, layout)} == {0.5}


def test_inner_shadows_lie_over_the_fill_and_the_first_on_top(ferry, layout):
    shadows = tuple(Shadow(parse(c), inner=True) for c in ("#111111", "#222222"))
    document = set_properties(ferry, Place("button"), {"shadow": shadows})
    kinds = [type(d.mark).__name__ for d in drawn(document, layout)]
    assert kinds == ["Box", "BoxShadow", "BoxShadow", "Glyphs"]
    assert drawn(document, layout)[2].mark.shadow == shadows[0]


def test_a_broken_path_draws_nothing(ferry, layout):
    assert isinstance(drawn(ferry, layout, "icon-anchor")[0].mark, Outline)
    collect_lines = set_properties(ferry, Place("icon-anchor"), {"path": "M 0 zero L"})
    assert drawn(collect_lines, layout, "icon-anchor") == []


def test_a_pills_radius_is_half_its_height(ferry, layout):
    # Common practice, no source: a pill's radius is at least half its height.
    round_ones = {
        f"radius-{c}": 999.0 for c in ("top-left", "top-right", "bottom-right", "bottom-left")
    }
    document = set_properties(ferry, Place("button"), round_ones)
    box = drawn(document, layout)[0].mark
    assert box.radii == (box.height / 2,) * 4


def test_equal_instances_share_one_fragment_and_a_repaint_keeps_the_rest(ferry, layout):
    resolver = Resolver()
    screen = ferry.screens["desk"]
    scene = resolver.screen(ferry, screen)
    before = draw(scene, layout.place(scene.layout))
    assert draw(scene, layout.place(scene.layout)) is before
    edited = set_properties(ferry, Place("desk", ("add",)), {"fill": parse("#FF0000")})
    scene = resolver.screen(edited, edited.screens["desk"])
    after = draw(scene, layout.place(scene.layout))
    side_before, side_after = before.children[0][2], after.children[0][2]
    assert side_after is side_before
    wide = set_properties(ferry, Place("desk", ("add",)), {"width": GROW})
    assert wide != ferry


def test_affine_maps_undo_themselves():
    there = Affine(2.0, 1.0, -1.0, 0.5, 7.0, 9.0)
    back = there.inverse()
    x, y = back.apply(*there.apply(3.0, 4.0))
    assert (round(x, 9), round(y, 9)) == (3.0, 4.0)
    assert Affine(a=0.0, d=0.0).inverse() is None
