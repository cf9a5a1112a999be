"""No reference is by words: whatever can be named is called otherwise, and nothing changes."""

from immutables import Map

from demo.behaviours import with_cue
from outgrowth.core.document.cues import HOLDER, Change
from outgrowth.core.document.records import Axis, AxisValue, Component, walk
from outgrowth.core.document.values import Once
from outgrowth.core.document.variants import variants
from outgrowth.core.edits.instances.properties import rename_property
from outgrowth.core.edits.tokens import rename_token
from outgrowth.core.edits.tree.components import add_axis, rename_owner
from outgrowth.core.edits.tree.nodes import rename_node
from outgrowth.core.edits.variants.axes import rename_axis, rename_value
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.layout import Layout
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.text import Typesetter


def renamed(document):
    """The document with another name for everything that has one."""
    count = 0

    def other():
        nonlocal count
        count += 1
        return f"called {count}"

    for owner in list(document.owners()):
        document = rename_owner(document, owner.id, other())
        for node in walk(owner.root):
            document = rename_node(document, owner.id, node.id, other())
        for axis in owner.axes if isinstance(owner, Component) else ():
            document = rename_axis(document, owner.id, axis.id, other())
            for value in axis.values:
                document = rename_value(document, owner.id, axis.id, value.id, other())
        for prop in owner.properties if isinstance(owner, Component) else ():
            document = rename_property(document, owner.id, prop.id, other())
    for path in sorted(document.tokens):
        document = rename_token(document, path, f"renamed.{path}")
    return document


def shown(document, owner, variant, stages):
    """Everything that is drawn of an owner, without names."""
    resolver, layout = stages
    if isinstance(owner, Component):
        scene = resolver.variant(document, owner.id, variant)
    else:
        scene = resolver.screen(document, owner)
    placed = layout.place(scene.layout)
    return [
        (
            at.path,
            at.rect,
            at.scene.kind,
            at.scene.layout.style,
            at.scene.paint,
            at.scene.interaction,
        )
        for at in locate(scene, placed, "")
    ]


def test_renaming_everything_changes_no_picture(ferry, fonts):
    after = renamed(ferry)
    stages = Resolver(), Layout(Typesetter(fonts))
    for was, now in zip(ferry.owners(), after.owners(), strict=True):
        assert was.name != now.name
        some = list(variants(was))[:12] if isinstance(was, Component) else [Map()]
        for variant in some:
            assert shown(ferry, was, variant, stages) == shown(after, now, variant, stages)
    assert loads(dumps(after).encode(), "renamed") == after


def played(document, fonts, screen, seed_taps):
    runtime = Runtime(Resolver(), Layout(Typesetter(fonts)), document, Subject(screen))
    found = []
    for x, y in seed_taps:
        runtime.pointer_move(x, y)
        runtime.press(x, y)
        runtime.release(x, y)
        runtime.advance(500.0)
        found.append((runtime.shown_owner, dict(runtime.states)))
    return found


def test_renaming_everything_changes_nothing_that_happens(ferry, fonts):
    after = renamed(ferry)
    taps = [(x, y) for y in range(30, 840, 45) for x in (60, 200, 340)]
    for screen in ferry.screens:
        assert played(ferry, fonts, screen, taps) == played(after, fonts, screen, taps)


def test_one_at_a_time_survives_a_renamed_axis(ferry, fonts):
    box = next(n for n in walk(ferry.screens["help"].root) if "one-at-a-time" in n.style)
    assert box.style["one-at-a-time"] == (Once("open", "yes"),)
    document = rename_axis(ferry, "notice", "open", "Unfolded")
    document = rename_value(document, "notice", "open", "yes", "wide")
    runtime = Runtime(Resolver(), Layout(Typesetter(fonts)), document, Subject("help"))
    ids = [child.id for child in box.children]
    for chosen in (ids[1], ids[2], ids[0]):
        at = next(a for a in locate(*runtime.view(), "") if a.path == (chosen, "head"))
        runtime.pointer_move(*at.rect.center)
        runtime.press(*at.rect.center)
        runtime.release(*at.rect.center)
        runtime.advance(1_000.0)
        located = [a for a in locate(*runtime.view(), "") if len(a.path) == 1]
        shown = {a.path[0]: a.scene.variant for a in located}
        assert [i for i in ids if shown[i]["open"] == "yes"] == [chosen]


def test_what_an_inner_part_says_of_its_holder_follows_its_new_name(ferry, fonts):
    """The holder is not known where the cue stands, so its axis is named by words there."""
    tell = Change("set", "Open", "yes", (HOLDER,))
    document = with_cue(ferry, "icon-button", "tap", tell)
    header = document.components["app-header"].root
    inner = next(n for n in walk(header) if n.style.get("component") == "icon-button")
    axis = Axis("opened", "Open", (AxisValue("no", "no"), AxisValue("y", "yes")), "no")
    document = add_axis(document, "app-header", axis)
    after = rename_axis(document, "app-header", "opened", "Unfolded")
    after = rename_value(after, "app-header", "opened", "y", "wide")
    for each in (document, after):
        runtime = Runtime(
            Resolver(), Layout(Typesetter(fonts)), each, Subject("app-header", component=True)
        )
        at = next(a for a in locate(*runtime.view(), "") if a.path == (inner.id,))
        runtime.pointer_move(*at.rect.center)
        runtime.press(*at.rect.center)
        runtime.release(*at.rect.center)
        assert runtime.view().scene.variant["opened"] == "y"
