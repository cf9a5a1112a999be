"""Random values that a script sets on elements, one or many in a task, while what was set before is
still under way, hidden, away from the page or clicked at: at rest each stands and looks as one that
begins with its values. Source: Debian's Chromium."""

from __future__ import annotations

import random

import pytest

from tests.browser.web.elements import READ, page_of_elements
from tests.browser.web.side_by_side import TIMERS

pytestmark = pytest.mark.browser

SEEDS = range(60)

DEEDS = """
const [deeds, done] = arguments;
document.body.replaceChildren();
const all = [], later = async () => { for (let n = 0; n < 6; n++) await null; };
const holder = document.body.appendChild(document.createElement("div"));
holder.style.width = "700px";
(async () => {
  await document.fonts.ready;
  for (const [act, n, ...rest] of deeds) {
    if (act === "make") all.push(holder.appendChild(document.createElement(rest[0])));
    if (act === "set") for (const [one, name, value] of rest[0]) all[one][name] = value;
    if (act === "away") all[n].remove();
    if (act === "back") holder.append(all[n]);
    if (act === "hide") all[n].hidden = !all[n].hidden;
    if (act !== "make" && act !== "set") await later();
    if (act === "pass") { await later(); await advance(rest[0]); await later(); }
  }
  await later(); await advance(60000); await later();
  const told = [];
  for (const one of all) {
    one.hidden = false;
    if (!one.isConnected) holder.append(one);
    const fresh = document.createElement(one.localName);
    for (const { name, value } of one.attributes)
      if (one.constructor.observedAttributes.includes(name)) fresh.setAttribute(name, value);
    one.after(fresh);
    await later(); await advance(60000); await later();
    const [a, b] = [treeOf(one), treeOf(fresh)];
    const flat = (tree, x, y) => [[tree.name, tree.rect[0] - x, tree.rect[1] - y, tree.rect[2], tree.rect[3]].map((part) => part.toFixed?.(1) ?? part).join(" "),
      tree.opacity, tree.fill, tree.color, String(tree.form), ...tree.children.flatMap((child) => flat(child, x, y))];
    const [mine, other] = [flat(a, ...a.rect), flat(b, ...b.rect)], at = mine.findIndex((line, n) => line !== other[n]);
    if (at >= 0 || mine.length !== other.length) told.push([one.outerHTML, mine[at], other[at]].join(" | "));
    fresh.remove();
  }
  return [told, document.getAnimations().length];
})().then(done, (problem) => done([[String(problem.stack)], 0]));
"""


def possible(handed):
    """By element: what a script can set of it, with values. What goes on by itself is never at
    rest."""
    found = {}
    for code in handed.made.codes.values():
        definition = code.definition
        if any(cue["on"] == "delay" for cue in definition.get("cues", [])):
            continue
        values = {
            name: [True, False] if "on" in axis else axis["values"]
            for name, axis in definition.get("axes", {}).items()
            if "driver" not in axis
        }
        for name, prop in definition.get("properties", {}).items():
            if prop["kind"] == "text":
                values[name] = ["Berth", "A longer text than before"]
            elif prop["kind"] == "switch":
                values[name] = [True, False]
        if values:
            found[code.javascript.split('define("')[1].split('"')[0]] = values
    return found


def deeds_of(seed, possible):
    rng = random.Random(seed)
    camel = lambda name: "".join([name.split("-")[0], *map(str.title, name.split("-")[1:])])  # noqa: E731
    made = [rng.choice(sorted(possible)) for _ in range(rng.randint(2, 6))]
    deeds, away = [["make", 0, element] for element in made], set()
    for _ in range(rng.randint(6, 14)):
        n = rng.randrange(len(made))
        act = rng.choice(("set", "set", "set", "pass", "away", "hide"))
        if act == "set":
            sets = []
            for one in rng.sample(range(len(made)), rng.randint(1, len(made))):
                for name in rng.sample(sorted(possible[made[one]]), 1):
                    sets.append([one, camel(name), rng.choice(possible[made[one]][name])])
            deeds.append(["set", n, sets])
            if rng.random() < 0.7:
                deeds.append(["pass", n, rng.choice((1, 40, 90, 500))])
        elif act == "pass":
            deeds.append(["pass", n, rng.choice((1, 40, 90, 500))])
        elif act == "away":
            deeds.append(["back" if n in away else "away", n])
            away ^= {n}
        else:
            deeds.append(["hide", n])
    return deeds


def test_what_is_set_at_any_time_is_what_stands_there_at_rest(chromium, handed):
    elements = possible(handed)
    page_of_elements(handed.folder, "sets-page", elements)
    script = {"source": TIMERS + READ + "hold();"}
    identifier = chromium.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", script)
    told = {}
    try:
        for seed in SEEDS:
            chromium.get(f"{handed.address}sets-page.html")
            differing, moving = chromium.execute_async_script(DEEDS, deeds_of(seed, elements))
            if differing or moving:
                told[seed] = differing or f"{moving} animations go on"
    finally:
        chromium.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", identifier)
    assert not told, "\n".join(f"{seed}: {what}" for seed, what in told.items())
