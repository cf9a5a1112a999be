"""Exported elements in Chromium beside our own pictures: shown, pointed at, measured."""

from __future__ import annotations

from typing import NamedTuple

from selenium.webdriver.common.actions.action_builder import ActionBuilder

READ = r"""
const HELPERS = /-(strut|edge|form|words|picture)$/;
window.childrenOf = (element) => {
  const found = [];
  const add = (list) => { for (const child of list) {
    if (child.localName === "slot") { add(child.assignedElements().length ? child.assignedElements() : child.children); continue; }
    if (["svg", "b", "i", "span"].includes(child.localName) || HELPERS.test(child.id) || child.ghost_) continue;
    if (getComputedStyle(child).display !== "none") found.push(child);
  } };
  if (element.localName !== "p") add((element.shadowRoot?.getElementById("root") ?? element.shadowRoot ?? element).children);
  return found;
};
// What its room decides has its root within it.
window.treeOf = (outer) => {
  const element = outer.shadowRoot?.getElementById("root") ?? outer;
  const { x, y, width, height } = element.getBoundingClientRect(), style = getComputedStyle(element);
  const form = (element.shadowRoot ?? element).querySelector(":scope > svg > :not(defs)");
  const drawn = form ? getComputedStyle(form) : null;
  return { name: outer.id || outer.localName, rect: [x, y, width, height], opacity: style.opacity,
    fill: style.backgroundColor, color: style.color, form: drawn && [drawn.fill, drawn.stroke],
    children: childrenOf(element).map(treeOf) };
};
window.untransformed = (element) => {
  const roots = [element, element.shadowRoot?.getElementById("root")].filter(Boolean);
  for (const name of ["translate", "rotate", "scale", "transform"]) for (const root of roots) root.style.setProperty(name, "none", "important");
  for (const child of childrenOf(element)) untransformed(child);
};
const animate = Element.prototype.animate;
window.hold = () => {
  window.held = new Set();
  Element.prototype.animate = function (...given) {
    const animation = animate.apply(this, given);
    animation.pause();
    held.add(animation);
    return animation;
  };
};
// Each animation ends at its own time.
window.pass = (ms) => {
  for (let left = ms; ; ) {
    const open = [...held].filter((one) => one.playState !== "idle" && one.playState !== "finished");
    window.held = new Set(open);
    const rest = (one) => one.effect.getComputedTiming().endTime - one.currentTime;
    const step = Math.min(left, ...open.map(rest));
    const ending = open.filter((one) => rest(one) <= step);
    for (const one of open) if (!ending.includes(one)) one.currentTime += step;
    left -= step;
    for (const one of ending) one.finish();
    for (const one of ending) { const told = one.onfinish; one.onfinish = null; if (one.playState === "finished") told?.(); }
    if (left <= 0 && !ending.length) return;
  }
};
"""

SHOW = """
const [tag, attributes, live, done] = arguments;
document.body.replaceChildren();
const holder = document.body.appendChild(document.createElement("div"));
holder.style.cssText = "position: absolute; left: 0; top: 0; width: 4000px";
customElements.whenDefined(tag).then(() => {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, value);
  holder.append(element);
  Object.assign(element.owner_.live, live);
  element.owner_.settle([]);
  element.getBoundingClientRect();
  document.fonts.ready.then(() => requestAnimationFrame(() => { element.getBoundingClientRect(); document.fonts.ready.then(() => done(null)); }));
});
"""


class Difference(NamedTuple):
    """An edge of a node that stands elsewhere than ours: where, ours and theirs."""

    path: str
    edge: str
    ours: float
    theirs: float

    @property
    def size(self):
        return abs(self.ours - self.theirs)


def page_of_elements(folder, name, elements):
    """Writes a page that loads the modules of some elements, and no more."""
    script = "".join(f'import "./components/{element}.js";\n' for element in elements)
    (folder / f"{name}.js").write_text(script)
    (folder / f"{name}.html").write_text(
        '<!doctype html><html lang="en"><meta charset="utf-8"><title>Elements</title>'
        f'<link rel="stylesheet" href="tokens.css"><body><script type="module" src="{name}.js">'
        "</script></body></html>"
    )


def asked(driver, script, *given, pause=0):
    """What the body of an async function gives; in it `given` is what it is given, and
    `await later()` waits for a frame, and for a pause (ms) after it."""
    return driver.execute_async_script(
        "const done = arguments[arguments.length - 1], given = [...arguments].slice(0, -1);"
        f"const later = () => new Promise((r) => requestAnimationFrame(() => setTimeout(r, {pause})));"
        f"(async () => {{ {script} }})().then(done, (problem) => done(String(problem)));",
        *given,
    )


def attributes_of(names, component, variant):
    """A variant as attributes, and what the pointer and the focus would set."""
    attributes, live = {}, {}
    for axis in component.axes:
        if axis.driver == "room":
            continue  # its width says it
        named, value = names.axes[axis.id], variant[axis.id]
        if axis.driver != "none":
            live[named.attribute] = named.values[value]
        elif not named.boolean:
            attributes[named.attribute] = named.values[value]
        elif value == named.yes_id:
            attributes[named.attribute] = ""
    return attributes, live


def compared(scene, placed, theirs, x=0.0, y=0.0, path="", texts=True):
    """All edges of all nodes. Raises AssertionError where other nodes are shown."""
    found = []
    for edge, ours, other in zip(
        "xywh", (x, y, placed.width, placed.height), theirs["rect"], strict=True
    ):
        # While words move, a text is as large as it will be, and only its place is seen.
        if texts or scene.kind != "text" or edge in "xy":
            found.append(Difference(path, edge, ours, other))
    names = [child["name"] for child in theirs["children"]]
    assert len(names) == len(scene.children), (path, scene.names, names)
    for n, child in enumerate(scene.children):
        found += compared(
            child,
            placed.children[n],
            theirs["children"][n],
            x + placed.xs[n],
            y + placed.ys[n],
            f"{path}/{scene.names[n]}",
            texts,
        )
    return found


def worst(differences):
    """The largest difference, with where it is."""
    return max(differences, key=lambda d: d.size)


class Hand:
    """The real pointer."""

    def __init__(self, driver):
        self._driver = driver

    def move(self, x, y):
        action = ActionBuilder(self._driver, duration=0)
        action.pointer_action.move_to_location(int(x), int(y))
        action.perform()

    def press(self):
        action = ActionBuilder(self._driver, duration=0)
        action.pointer_action.pointer_down()
        action.perform()

    def release(self):
        action = ActionBuilder(self._driver, duration=0)
        action.pointer_action.pointer_up()
        action.perform()
