"""Tokens renamed, removed, given to equal values, and in other modes."""

import random

import pytest
from immutables import Map

from outgrowth.core.color import parse
from outgrowth.core.document.cues import Behaviour, Change, Cue, Motion, PartMotion, Trigger
from outgrowth.core.document.records import (
    Axis,
    AxisValue,
    Component,
    DesignToken,
    Document,
    Node,
    Rule,
    Screen,
)
from outgrowth.core.document.referring import settled
from outgrowth.core.document.values import Shadow, Token
from outgrowth.core.document.variants import variants
from outgrowth.core.edits import Refusal, tokens
from outgrowth.core.edits.motions import motions_of
from outgrowth.core.edits.tokens import beyond, remove_token, set_token
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.refusal import ValueRefusal
from outgrowth.core.resolve.resolver import Resolver
from tests.fuzz import values

RED = parse("#C02020")


def looks(document):
    resolver = Resolver()
    found = [resolver.screen(document, screen) for screen in document.screens_in_order()]
    for component in document.in_order():
        found += [resolver.variant(document, component.id, v) for v in variants(component)]
    return [_told(scene) for scene in found]


def _told(scene):
    return scene.paint, scene.layout.style, tuple(_told(child) for child in scene.children)


def used(document):
    return max(document.tokens, key=lambda path: len(tokens.token_uses(document, path)))


def test_renaming_and_removing_change_no_look(ferry):
    path, before = used(ferry), looks(ferry)
    count = len(tokens.token_uses(ferry, path))
    assert count > 3
    renamed = tokens.rename_token(ferry, path, "color.deep.water")
    assert len(tokens.token_uses(renamed, "color.deep.water")) == count
    assert not tokens.token_uses(renamed, path) and path not in renamed.tokens
    assert looks(renamed) == before
    gone = tokens.remove_token(ferry, path)
    assert not tokens.token_uses(gone, path) and looks(gone) == before


def test_equal_values_get_the_name(ferry):
    path, before = used(ferry), looks(ferry)
    count = len(tokens.token_uses(ferry, path))
    plain = tokens.remove_token(ferry, path)
    plain = tokens.set_token(plain, "color.named", ferry.tokens[path])
    assert tokens.equal_values(plain, "color.named") >= count
    named = tokens.replace_equal(plain, "color.named")
    assert tokens.equal_values(named, "color.named") == 0
    assert len(tokens.token_uses(named, "color.named")) >= count
    assert looks(named) == before


def test_what_is_not_touched_stays_the_same_object(ferry):
    path = used(ferry)
    owners = {use.owner for use in tokens.token_uses(ferry, path)}
    after = tokens.rename_token(ferry, path, "color.other")
    for owner in ferry.owners():
        assert (after.owner(owner.id) is owner) == (owner.id not in owners)


def test_a_mode_shows_other_values_and_back(ferry):
    path, before = used(ferry), looks(ferry)
    document = tokens.add_mode(ferry, "dark")
    token = document.tokens[path]
    dark = DesignToken(token.kind, token.value, token.description, token.modes.set("dark", RED))
    document = tokens.set_token(document, path, dark)
    assert looks(document) == before
    shown = tokens.show_mode(document, "dark")
    assert looks(shown) != before
    assert shown.token(path).value == RED and shown.token(path) is shown.token(path)
    assert looks(tokens.show_mode(shown, "")) == before
    read = loads(dumps(shown).encode(), "a")
    assert read == shown
    assert looks(tokens.remove_mode(shown, "dark")) == before
    with pytest.raises(Refusal, match="no mode"):
        tokens.show_mode(ferry, "dark")
    with pytest.raises(Refusal, match="name of its own"):
        tokens.add_mode(document, "dark")


def test_a_running_resolver_follows_the_mode(ferry):
    """The lists of a screen are kept from before: another mode makes them anew."""
    path = used(ferry)
    document = tokens.add_mode(ferry, "dark")
    token = document.tokens[path]
    dark = DesignToken(token.kind, token.value, "", token.modes.set("dark", RED))
    document = tokens.set_token(document, path, dark)
    resolver = Resolver()
    for mode in ("", "dark", "", "dark"):
        shown = tokens.show_mode(document, mode)
        for screen in shown.screens_in_order():
            kept = _told(resolver.screen(shown, screen))
            assert kept == _told(Resolver().screen(shown, screen))


@pytest.mark.parametrize("path", ["", "a..b", ".a", "a.", "{a}", " a"])
def test_a_name_that_is_none_is_refused(ferry, path):
    with pytest.raises(Refusal, match="no name for a token"):
        tokens.set_token(ferry, path, DesignToken("color", RED))


def test_groups_and_circles_are_refused(ferry):
    document = tokens.set_token(ferry, "sea.deep", DesignToken("color", RED))
    with pytest.raises(Refusal, match="one holds the other"):
        tokens.set_token(document, "sea", DesignToken("color", RED))
    document = tokens.set_token(document, "tide", DesignToken("color", Token("sea.deep")))
    with pytest.raises(Refusal, match=r"itself: sea.deep › tide › sea.deep"):
        tokens.set_token(document, "sea.deep", DesignToken("color", Token("tide")))
    with pytest.raises(Refusal, match="already"):
        tokens.rename_token(document, "tide", "sea.deep")


def test_a_token_stands_for_values_of_its_kind_only(ferry):
    assert tokens.kind_for("fill") == "color"
    assert tokens.kind_for("gap") == "dimension"
    assert tokens.kind_for("opacity") == "number"
    assert tokens.kind_for("font-family") == "family"
    assert tokens.kind_for("shadow") == "shadow"
    assert tokens.kind_for("flow") is None
    made = tokens.checked_token("dimension", 8.0, "gap")
    document = tokens.set_token(ferry, "space.small", made)
    replaced = tokens.replace_equal(document, "space.small")
    names = {use.property for use in tokens.token_uses(replaced, "space.small")}
    assert names and not names & {"opacity", "font-weight", "line-height"}


# --- a value that is more than its property may be ------------------------------------------


def far(value):
    """A part whose opacity and padding refer to one number."""
    root = Node("r", "r", "box", Map({"opacity": Token("far.away"), "origin-x": Token("far.away")}))
    document = add_screen(Document("d"), Screen("s", "S", root))
    return set_token(document, "far.away", DesignToken("number", value))


@pytest.mark.parametrize(("value", "shown"), [(400.0, 1.0), (-3.0, 0.0), (0.4, 0.4)])
def test_what_a_token_cannot_be_somewhere_shows_the_nearest_and_stays_it(value, shown, resolver):
    document = far(value)
    before = resolver.screen(document, document.screens["s"])
    assert (before.paint.opacity, before.paint.origin_x) == (shown, shown)
    assert len(beyond(document, "far.away")) == (0 if shown == value else 2)
    after = remove_token(document, "far.away")
    assert after.screens["s"].root.style == Map({"opacity": shown, "origin-x": shown})
    assert resolver.screen(after, after.screens["s"]).paint == before.paint
    assert loads(dumps(after).encode(), "after") == after


def test_a_token_of_another_kind_that_refers_to_it_has_to_be_mended_first():
    document = far(1.0)
    strange = DesignToken("color", Token("far.away"))
    document = set_token(document, "color.strange", strange)
    with pytest.raises(Refusal, match=r"color\.strange.*value of its own first"):
        remove_token(document, "far.away")


def test_no_token_can_hold_what_its_kind_is_not():
    for kind, value in (("color", 3.0), ("number", "a"), ("shadow", 1.0), ("smell", 1.0)):
        with pytest.raises(Refusal):
            DesignToken(kind, value)


# --- inside of shadows and motions ----------------------------------------------------------


def tint(rng):
    return parse(f"#{rng.randrange(1 << 24):06X}")


def generated(seed):
    """A document in which shadows take their colours, and motions their parts, from tokens that
    are there, are other tokens' names, are of another kind, or are gone."""
    rng = random.Random(seed)
    tokens = {f"color.t{n}": DesignToken("color", tint(rng)) for n in range(2)}
    tokens["color.t2"] = DesignToken("color", Token("color.t1"))
    tokens |= {f"duration.t{n}": DesignToken("duration", 40.0 * n + 10) for n in range(3)}
    tokens["easing.t1"] = DesignToken("easing", rng.choice(("linear", "spring(170, 26)")))
    tokens["shadow.t1"] = DesignToken("shadow", (Shadow(tint(rng), token="color.t2"),))
    motion = Motion(300.0, "ease-in", 5.0, values.followed(rng))
    cue = Cue("c", (), Trigger("tap"), (Change("next", "on"),), motion=motion)
    axis = Axis("on", "On", (AxisValue("no", "no", motion), AxisValue("yes", "yes")), "no")
    shadows = tuple(
        Shadow(tint(rng), token=rng.choice(("", "color.t0", "color.t2", "easing.t1", "gone")))
        for _ in range(rng.randint(0, 3))
    )
    root = Node("r", "r", "box", Map({"shadow": rng.choice((shadows, Token("shadow.t1")))}))
    lit = Rule(Map({"on": "yes"}), ("r",), "shadow", shadows[::-1])
    behaviour = Behaviour((cue,), motions=(PartMotion(("r",), "", motion),))
    part = Component("p", "Part", root, (axis,), (lit,), motion=motion, behaviour=behaviour)
    document = add_component(Document("sea", tokens=Map(tokens), motion=motion), part)
    return document, rng


def shown(document):
    """What is seen and how it moves, by plain values alone."""
    part = document.components["p"]
    variants = [Map({"on": value}) for value in ("no", "yes")]
    looks = [Resolver().variant(document, "p", v).paint for v in variants]
    return looks, [settled(m, document.token) for m in (*motions_of(part), document.motion)]


@pytest.mark.parametrize("seed", range(60))
def test_shadows_and_motions_keep_what_tokens_gave(seed):
    document, rng = generated(seed)
    before = shown(document)
    for _ in range(8):
        path = rng.choice(sorted(document.tokens))
        if rng.random() < 0.5:
            document = tokens.rename_token(document, path, f"{path}x")
        else:
            try:
                document = tokens.remove_token(document, path)
            except Refusal:  # one of another kind refers to it
                continue
        assert shown(document) == before
        assert loads(dumps(document).encode(), "sea") == document


def test_a_token_of_a_shadow_and_of_a_motion_is_seen_as_used():
    document = Document("sea", tokens=Map({"color.a": DesignToken("color", parse("#123456"))}))
    motion = Motion(10.0, tokens=Map({"duration": "time.a"}))
    shadow = (Shadow(parse("#000"), token="color.a"),)
    part = Component("p", "Part", Node("r", "r", "box", Map({"shadow": shadow})), motion=motion)
    document = add_component(document, part)
    document = tokens.set_token(document, "time.a", DesignToken("duration", 200.0))
    assert [use.property for use in tokens.token_uses(document, "color.a")] == ["shadow"]
    assert [use.property for use in tokens.token_uses(document, "time.a")] == ["motion"]
    assert tokens.tokens_named(document.components["p"]) == {"color.a", "time.a"}
    assert not tokens.beyond(document, "color.a")
    # A mode that gives the colour gives the shadow; the resolver that ran before sees it.
    resolver = Resolver()
    assert resolver.variant(document, "p", Map()).paint.shadow[0].color == parse("#123456")
    document = tokens.add_mode(document, "dark")
    dark = DesignToken("color", parse("#123456"), modes=Map({"dark": parse("#ABCDEF")}))
    document = tokens.show_mode(tokens.set_token(document, "color.a", dark), "dark")
    assert resolver.variant(document, "p", Map()).paint.shadow[0].color == parse("#ABCDEF")


@pytest.mark.parametrize("said", [{"wait": "a.b"}, {"duration": ""}, {"easing": 4}])
def test_a_motion_that_follows_nothing_that_can_be_is_refused(said):
    with pytest.raises(ValueRefusal):
        Motion(10.0, tokens=Map(said))
