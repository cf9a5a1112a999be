"""What Trials says of words that leave their box, in the browser: the exported elements with the
same content, in the same rooms. Source: Debian's Chromium (references.md)."""

import random

import pytest

from outgrowth.core.document.rooms import room_axes
from outgrowth.core.document.values import plain
from outgrowth.core.document.variants import offered, variants
from outgrowth.core.layout.rectangles import locate
from outgrowth.core.trials.breaks import ink
from outgrowth.core.trials.contents import AS_IS, SHIPPED, text_properties
from outgrowth.core.trials.rooms import OWN_ROOM, wide
from outgrowth.core.trials.sheet import Trial, Trials
from tests.browser.web.elements import READ, SHOW, attributes_of, page_of_elements

pytestmark = pytest.mark.browser

MEASURE = """
const [room, done] = arguments;
const holder = document.body.firstElementChild, element = holder.firstElementChild;
holder.style.width = room ? `${room}px` : "4000px";
if (room) element.style.width = window.fills ? `${room}px` : "fit-content";
untransformed(element);
const found = [];
// Spaces hang at the end of a line, where nobody sees them.
const wordsOf = (one) => {
  const texts = document.createTreeWalker(one, NodeFilter.SHOW_TEXT), ranges = [];
  while (texts.nextNode()) for (const word of texts.currentNode.data.matchAll(/\\S+/g)) {
    const range = document.createRange();
    range.setStart(texts.currentNode, word.index);
    range.setEnd(texts.currentNode, word.index + word[0].length);
    ranges.push(range);
  }
  return ranges;
};
const go = (one, parent) => {
  if (one.localName === "p") {
    const rects = wordsOf(one).flatMap((range) => [...range.getClientRects()]).filter((r) => r.width > 0);
    if (!rects.length) { found.push(null); return; }
    const box = parent.getBoundingClientRect(), own = one.getBoundingClientRect();
    const hides = getComputedStyle(one).overflow !== "visible";
    const left = hides ? own.left : Math.min(...rects.map((r) => r.left));
    const right = hides ? own.right : Math.max(...rects.map((r) => r.right));
    const bottom = own.top + (hides ? own.height : Math.max(own.height, one.scrollHeight));
    found.push([Math.max(box.left - left, right - box.right), Math.max(box.top - own.top, bottom - box.bottom)]);
    return;
  }
  for (const child of childrenOf(one)) go(child, one);
};
go(element, element);
done([element.getBoundingClientRect().width, found]);
"""
_DATA = [c for c in SHIPPED if c.reword is not None and not c.everywhere]
_UNSURE = 1.0


def ours(cell):
    """By how much each text leaves what holds it, across and down; None where it says nothing."""
    parts = list(locate(cell.scene, cell.placed, ""))
    line, results = [], []
    for part in parts:
        depth = len(part.names) - 1
        line[depth:] = [part]
        if part.scene.kind != "text":
            continue
        if not plain(part.scene.layout.style.content).strip():
            results.append(None)
            continue
        where, holder = ink(part), line[depth - 1].rect if depth else part.rect
        across = max(holder.x - where.x, where.right - holder.right)
        bottom = part.rect.y + max(part.rect.height, where.height)
        results.append((across, max(holder.y - part.rect.y, bottom - holder.bottom)))
    return results


def test_words_leave_their_box_in_the_browser_where_trials_says_so_and_nowhere_else(
    chromium, handed, ferry_once, layout_once
):
    names = [handed.made.names.owners[c.id].element for c in ferry_once.in_order()]
    page_of_elements(handed.folder, "trials-page", names)
    chromium.get(f"{handed.address}trials-page.html")
    chromium.execute_script(READ)
    trials, chance = Trials(layout_once), random.Random(7)
    texts = outside = 0
    wrong = []
    for component in ferry_once.in_order():
        named = handed.made.names.owners[component.id]
        # What its room decides is asked in rooms (test_rooms_and_sides.py).
        if not text_properties(component) or room_axes(component):
            continue
        faces = [v for v in variants(component) if offered(component, v)]
        for face in dict.fromkeys([faces[0], *chance.sample(faces, min(len(faces), 3))]):
            own = trials.cell(ferry_once, component, Trial(face, AS_IS, OWN_ROOM))
            narrow = round(own.placed.width * chance.choice((0.5, 0.7, 0.85)))
            for content in (AS_IS, *_DATA):
                for room in (OWN_ROOM, wide(narrow)):
                    cell = trials.cell(ferry_once, component, Trial(face, content, room))
                    attributes, live = attributes_of(named, component, face)
                    for prop in text_properties(component):
                        words = plain(prop.default)
                        words = content.reword(words) if content.reword else words
                        attributes[named.properties[prop.id].attribute] = words
                    said = component.root.style.get("width")
                    fills = getattr(said, "mode", "fit") in ("fixed", "grow")
                    chromium.execute_async_script(SHOW, named.element, attributes, live)
                    chromium.execute_script("window.fills = arguments[0]", fills)
                    width, theirs = chromium.execute_async_script(MEASURE, room.width)
                    mine = ours(cell)
                    place = (component.name, dict(face), content.id, room.title)
                    assert len(mine) == len(theirs), place
                    assert width == pytest.approx(cell.placed.width, abs=1), place
                    for one, other in zip(mine, theirs, strict=True):
                        if one is None or other is None:
                            continue
                        for a, b in zip(one, other, strict=True):
                            texts += 1
                            outside += a > 1
                            if abs(a - b) > _UNSURE and (a > 1) != (b > 1):
                                wrong.append((place, a, b))
    print(f"{texts} measured, {outside} outside, {len(wrong)} told otherwise")  # noqa: T201
    assert texts > 1500 and outside > 100
    assert not wrong, "\n".join(map(str, wrong))
