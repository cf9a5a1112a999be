/* What all exported elements share: states, cues, timers, focus groups and tweens.
 *
 * An *owner* is an element with a definition (a component), or the root of a screen. Its *nodes*
 * have ids in its own tree. Everything that happens goes through `happen`: cues act in rounds,
 * pointer and focus drive their axes, and each change is tweened between two real layouts.
 */

// --- Shared with the program: python -m tools.generated writes this -----------------------------
const HOLDER = "..";
const POINTED = ["rest", "hover", "press"];
const MOST_ROUNDS = 64;
const MOST_LOOKS = 8;
const LONG_PRESS = 500;
const TAPPED_BY = {
  none: ["Enter", " "],
  button: ["Enter", " "],
  switch: ["Enter", " "],
  tab: ["Enter", " "],
  link: ["Enter"],
  checkbox: [" "],
  radio: [" "],
  textbox: [],
};
const AROUND = { tab: "tablist", listitem: "list" };
const GROUPS = { radiogroup: "radio", tablist: "tab" };
const STILL = ["translate", "rotate", "scale"];
const LOOKS = [
  "translate",
  "rotate",
  "scale",
  "opacity",
  "objectPosition",
  "color",
  "backgroundColor",
  "backgroundImage",
  "fill",
  "boxShadow",
  "fontSize",
  "letterSpacing",
  "borderTopColor",
  "stroke",
  "strokeWidth",
  "rx",
  "ry",
  "strokeDasharray",
  "borderTopLeftRadius",
  "borderTopRightRadius",
  "borderBottomRightRadius",
  "borderBottomLeftRadius",
  "borderTopWidth",
  "borderRightWidth",
  "borderBottomWidth",
  "borderLeftWidth",
];
// --- To here ------------------------------------------------------------------------------------
// A server may read this too: there nothing is defined, and nothing is asked of a page.
const onPage = typeof document !== "undefined";
const script = onPage && document.currentScript?.src; // where all of this is one script, not modules
const still = onPage && matchMedia("(prefers-reduced-motion: reduce)");

// --- Trees ----------------------------------------------------------------------------------

/* ["tag#id", {attributes}?, ...children] as an element; a string is text, never markup. */
function build(node, drawn) {
  if (typeof node === "string") return document.createTextNode(node);
  const [name, ...rest] = node, [tag, id] = name.split("#");
  const svg = drawn === true || tag === "svg";
  const element = svg ? document.createElementNS("http://www.w3.org/2000/svg", tag) : document.createElement(tag);
  if (id) {
    element.id = id;
    if (tag !== "slot") element.setAttribute("part", id);
  }
  for (const item of rest) {
    if (typeof item === "string" || Array.isArray(item)) element.append(build(item, svg));
    else for (const key in item) key === "src" ? pictured(element, item[key]) : element.setAttribute(key, item[key]);
  }
  return element;
}

/* Shows a picture, wherever the page lies. One that is laid side by side is a background, which asks
 * for it by this name. */
function pictured(element, source) {
  element.setAttribute("src", script && source.startsWith("assets/") ? new URL(source, script).href : source);
  if (element.localName === "img") {
    const holder = element.id === "root-picture" ? element.getRootNode().host : element;
    holder?.style.setProperty("--picture", `url(${JSON.stringify(element.src)})`);
  }
}

/* A style sheet without <style> or style="": a strict policy allows it. */
function sheet(text) {
  if (!onPage) return null;
  const result = new CSSStyleSheet();
  result.replaceSync(text);
  return result;
}

const usual = `
:host { box-sizing: border-box !important; display: block; position: relative; direction: ltr;
  justify-content: flex-start; align-items: flex-start; }
:host(:where(:not([part]))) { max-width: 100%; }
:host([hidden]), [hidden] { display: none !important; }
:host(:focus-visible), :focus-visible { outline: 2px solid Highlight; outline-offset: 2px; }
div, img, i, u { box-sizing: border-box; margin: 0; padding: 0; position: relative; direction: ltr; justify-content: flex-start; align-items: flex-start; }
p { all: initial; box-sizing: border-box; display: block; position: relative; cursor: inherit; font-size: 1rem;
  line-height: 1.4; white-space: pre-wrap; unicode-bidi: plaintext;
  pointer-events: inherit; visibility: inherit; -webkit-user-select: inherit; user-select: inherit; }
p:empty::before { content: "\\200b"; }
p b { font-weight: 700; }
p b.own { font-weight: inherit; }
:host(:dir(rtl)), :is(div, img, i, u):dir(rtl) { direction: rtl; }
i[part$="-edge"] { position: absolute; border: 0 solid; pointer-events: none; }
u { display: block; text-decoration: none; }
#root-picture { display: block; width: 100%; height: 100%; object-fit: inherit; object-position: inherit; }
svg { position: absolute; left: 0; top: 0; width: 100%; height: 100%; overflow: visible; }
ellipse { cx: 50%; cy: 50%; transform-box: fill-box; transform-origin: center; }
@media (forced-colors: active) {
  p { color: var(--forced-text, CanvasText) !important; }
  svg { opacity: var(--forced-dim, 1); background-color: var(--forced-plate, transparent) !important; }
  svg.line > * { filter: brightness(0); }
  svg:not(.line) > * { stroke: CanvasText; }
  svg.area > * { stroke-width: 1px; }
  :host(:is([tabindex], [aria-disabled])), [tabindex] { outline: 1px solid ButtonText; outline-offset: 0px; }
  :host([aria-invalid="true"]), [aria-invalid="true"] { outline: 2px dashed ButtonText; }
  :host(:is([aria-checked="true"], [aria-selected="true"], [aria-pressed="true"], [aria-current]:not([aria-current="false"]))),
  :is([aria-checked="true"], [aria-selected="true"], [aria-pressed="true"], [aria-current]:not([aria-current="false"])) {
    background-color: Highlight !important; outline: 3px solid Highlight; outline-offset: -1px; --forced-plate: Canvas; }
  :host(:is([aria-checked="mixed"], [aria-pressed="mixed"])), :is([aria-checked="mixed"], [aria-pressed="mixed"]) { outline: 3px dotted Highlight; }
  :host([aria-disabled="true"]) { outline: 1px solid GrayText !important; opacity: 1; --forced-text: GrayText; --forced-dim: 0.5; }
  :host(:focus-visible), :focus-visible { outline: 3px double CanvasText !important; outline-offset: 2px !important; }
}
@media (forced-colors: active) and (prefers-color-scheme: dark) { svg.line > * { filter: brightness(0) invert(1); } }`;
const base = sheet(usual);

const owners = new Map();

/* An element as an owner, also while it is away from the page: its holder goes on telling it. */
const asOwner = (element) => owners.get(element) ?? element.owner_;

/* An element's owner: what it is itself, or whose tree it stands in. */
const ownerOf = (element) => owners.get(element) ?? treeOwner(element);
function treeOwner(element) {
  const root = element.getRootNode();
  if (root instanceof ShadowRoot) return owners.get(root.host);
  for (let at = element; at; at = at.parentElement)
    if (owners.get(at)?.screen) return owners.get(at);
}

/* The element around one, through shadow trees and slots. */
const parentOf = (element) =>
  element.assignedSlot ?? element.parentElement ?? element.getRootNode().host ?? null;

/* All elements around one, the innermost first, it itself included. */
function* around(element) {
  for (; element; element = parentOf(element)) yield element;
}

/* The outermost element of ours around one. */
const rootOf = (element) => [...around(element)].findLast((one) => owners.has(one));

/* What stands in an element as it is shown. */
function inside(element) {
  const given = element.localName === "slot" ? element.assignedElements() : [];
  return given.length ? given : owners.get(element)?.tree.children ?? element.children;
}

/* All elements of ours in a tree, what is around before what is in it. */
function* within(element, enters = () => true) {
  if (!enters(element)) return;
  yield element;
  if (element.localName !== "svg") for (const child of inside(element)) yield* within(child, enters);
}

/* What fades away is not there any more. */
const isGone = (element) => [...around(element)].some((one) => one.gone_);
const isShown = (element) => element.isConnected && element.checkVisibility() && !isGone(element);

// --- Owners ---------------------------------------------------------------------------------

const NOTHING = {};

class Owner {
  constructor(element, definition, tree, screen = false) {
    this.element = element;
    this.definition = definition;
    this.tree = tree;
    this.screen = screen;
    this.live = {};     // what cues, the pointer and the focus set
    this.given = NOTHING; // what the holder says, by node: "" is this owner itself
    this.values = {};   // what holds now
    this.timers = new Map();
    this.told = new Map();
    owners.set(element, this);
  }

  get holder() { const around = parentOf(this.element); return around && ownerOf(around); }

  /* The node at a path of names, through instances. */
  node(path) {
    let owner = this, element = this.element;
    for (const name of path ? path.split("/") : []) {
      element = owner.screen ? owner.tree.querySelector("#" + CSS.escape(name))
        : owner.tree.getElementById(name);
      if (!element) return null;
      owner = asOwner(element) ?? owner;
    }
    return element;
  }

  owner(path) {
    if (path === HOLDER) return this.holder;
    const element = this.node(path);
    return element && asOwner(element);
  }

  /* "axis" is one of ours, "axis@path" one of an instance in it, or of what holds it. */
  at(name) {
    const [axis, path] = name.split("@");
    return (path ? this.owner(path) : this)?.values[axis];
  }

  holds({ when = {} }) {
    return Object.entries(when).every(([name, value]) => [value].flat().includes(this.at(name)));
  }

  /* The value of an axis or property: what runs, what the holder says, the attribute, the usual. */
  value(name, { initial, values }) {
    const value = this.live[name] ?? this.given[""]?.[name] ?? this.element.part_?.(name) ?? initial;
    return values?.includes(value) === false ? initial : value;
  }

  get enabled() {
    return this.definition.entries.every(([name, { enabled, part }]) => enabled
      ? enabled.includes(this.values[name]) : part?.(this.values[name]) !== "disabled");
  }

  /* Takes over what holds now, here and in what it holds; which values came to be others. `only`
   * some names, where the others have their time. */
  settle(came, only) {
    const states = this.element.internals_?.states;
    for (const [name, axis] of this.definition.entries) {
      const value = this.value(name, axis), before = this.values[name];
      if (value === before || only?.has(name) === false || isHeld(this, name, value)) continue;
      this.values[name] = value;
      turning?.touched.add(this);
      if (before !== undefined) came.push([this, name, value]);
      if (axis.state && before !== undefined) states.delete(axis.state(before));
      if (axis.state) states.add(axis.state(value));
      if (axis.variable && value !== axis.initial) this.element.style.setProperty(axis.variable, value);
    }
    if (this.definition.data || this.given !== NOTHING || this.told.size) this.tell(came);
    if (this.element.ready_) this.access();
  }

  /* Hands on what the definition and the holder say of the nodes. */
  tell(came) {
    const said = {};
    for (const { at = "", when, ...values } of this.definition.data ?? [])
      if (this.holds({ when })) for (const name in values)
        (said[at] ??= {})[name] = values[name]?.from ? this.values[values[name].from] : values[name];
    for (const [at, values] of Object.entries(this.given))
      if (at) Object.assign((said[at] ??= {}), values);
    const inner = new Map([...this.told.keys()].map((owner) => [owner, {}]));
    for (const [at, values] of Object.entries(said)) {
      const cut = at.indexOf("/"), first = cut < 0 ? at : at.slice(0, cut);
      let element = this.node(first);
      if (values.is !== undefined && cut < 0) element = this.exchanged(first, element, values.is);
      if (cut < 0) delete values.is;
      const owner = element !== this.element && element ? asOwner(element) : null;
      if (owner && (inner.has(owner) || Object.keys(values).length)) {
        if (!inner.has(owner)) inner.set(owner, {});
        inner.get(owner)[cut < 0 ? "" : at.slice(cut + 1)] = values;
      } else if (element && !owner) applied(element, values);
    }
    for (const [owner, given] of inner) {
      const text = JSON.stringify(given);
      if (this.told.get(owner) === text) continue;
      this.told.set(owner, text);
      owner.given = given;
      owner.settle(came);
    }
  }

  /* A slot shows another component; "" none. */
  exchanged(id, element, tag) {
    const is = element?.localName;
    if (!element || is === tag || (is === "span" && !tag)) return element;
    const next = document.createElement(tag || "span");
    if (!tag) next.hidden = true;
    for (const name of ["id", "part", "exportparts", "dir"])
      if (element.hasAttribute(name)) next.setAttribute(name, element.getAttribute(name));
    element.replaceWith(next);
    return next;
  }

  /* Roles, names and states for assistive technology, and what Tab reaches. */
  access() {
    for (const { at = "", role, stop, states = {}, level } of this.definition.access ?? []) {
      const element = this.node(at);
      if (!element) continue;
      // A tab is one only in a list of tabs, an item only in a list.
      if (!AROUND[role] || roleAround(element, AROUND[role])) {
        if (role && !element.hasAttribute("role")) element.setAttribute("role", role);
        if (level) element.setAttribute("aria-level", level);
        for (const [name, [axis, values]] of Object.entries(states)) {
          const value = values[this.values[axis]];
          value === undefined ? element.removeAttribute(name) : element.setAttribute(name, value);
        }
      }
      if (stop) reachable(element, isEnabled(element) && !isGone(element));
    }
    if (!this.enabled) this.element.setAttribute("aria-disabled", "true");
    else if (this.element.ariaDisabled) this.element.removeAttribute("aria-disabled");
    if (this.definition.value) this.element.value_?.();
  }
}

const roleAround = (element, role) => [...around(parentOf(element))].some((one) => one.getAttribute("role") === role);

function applied(element, { text, d, box, src, label }) {
  if (text !== undefined) {
    const parts = Array.isArray(text) ? text : [text];
    const same = parts.length === 1 && typeof parts[0] === "string" && element.textContent === parts[0];
    if (!same) element.replaceChildren(...parts.map((part) => build(part)));
  }
  const tree = element.shadowRoot ?? element; // of a component that is a drawing as a whole
  if (d !== undefined) tree.querySelector("path")?.setAttribute("d", d);
  if (box !== undefined) tree.querySelector("svg")?.setAttribute("viewBox", box);
  if (src !== undefined) pictured(element.shadowRoot?.getElementById("root-picture") ?? element, src);
  // A name that the page gives stays; one of ours is a word, or that of the part in a slot.
  if (label && (element.named_ ?? !element.hasAttribute("aria-label"))) {
    element.named_ = true;
    element.setAttribute("aria-label", label.replace(/^[a-z0-9]+-(?=[a-z0-9-]+$)/, ""));
  }
}

/* Whether an element is enabled, with all that it stands in. */
const isEnabled = (element) => chainOf(element).every((node) => owners.get(node)?.enabled !== false);

/* What is hidden isn't reached either, but that is the browser's to know: it would have to style
 * everything now. */
function reachable(element, yes) {
  if (!yes) element.removeAttribute("tabindex");
  else if (!element.hasAttribute("tabindex")) element.tabIndex = 0;
}

// --- Pointer, keys and focus ------------------------------------------------------------------

let chain = [], place = null, pressed = null, over = [], touch = false, longPress = 0, wasLong = false, focused = null;
let driven = [], lifted = []; // where the pointer was last lifted, and all around that

/* Our nodes from the root in to an element. */
const chainOf = (element) => [...around(element)].filter((one) =>
  owners.has(one) || (one.part?.length && treeOwner(one)) || (one.id && treeOwner(one)?.screen)).reverse();

/* As far in as the nodes of a chain are shown and enabled. */
function alive(nodes) {
  const end = nodes.findIndex((node) => !isShown(node) || owners.get(node)?.enabled === false);
  return end < 0 ? nodes : nodes.slice(0, end);
}

const axisDriven = (owner, driver) =>
  owner?.definition.entries.find(([, axis]) => axis.driver === driver);

/* What pointer and focus make of their axes: everything around the pointer hovers; the innermost
 * of what is pressed is pressed, what holds it still hovers, and nothing else does. */
function drive() {
  chain = alive(chain);
  if (pressed) {
    const left = alive(pressed);
    if (left.length !== pressed.length) clearTimeout(longPress);
    pressed = left;
  }
  const next = [], innermost = pressed?.findLast((node) => axisDriven(owners.get(node), "pointer"));
  for (const node of chain) {
    const owner = owners.get(node), [name, axis] = axisDriven(owner, "pointer") ?? [];
    if (!axis || (pressed && !pressed.includes(node)) || setApart(owner, name)) continue;
    const value = (node === innermost && axis.at("press")) || (!touch && axis.at("hover"));
    if (value) next.push([owner, name, value]);
  }
  const owner = owners.get(focused), isIn = (list, who, which) => list.some((one) => one[0] === who && one[1] === which);
  for (const driver of focused && alive(chainOf(focused)).includes(focused) ? ["pointer", "focus"] : []) {
    const [name, axis] = axisDriven(owner, driver) ?? [], value = axis?.at("focus");
    if (value && !setApart(owner, name) && !isIn(next, owner, name)) next.push([owner, name, value]);
  }
  const ended = driven.filter(([who, which]) => !isIn(next, who, which) && !setApart(who, which));
  driven = next;
  set([...ended.map(([who, which]) => [who, which]), ...next]);
  const before = over;
  over = touch ? [] : chain;
  for (const node of [...before].reverse()) if (!over.includes(node)) announce("leave", node);
  for (const node of over) if (!before.includes(node)) announce("enter", node);
}

/* Whether what the pointer drives was set to a value of its own, like disabled. */
const setApart = ({ live, values, definition }, name) => ["disabled", "cued"].includes(definition.all[name].part?.(live[name] ?? values[name]));

function look(event) {
  touch = event.pointerType === "touch";
  place = [event.clientX, event.clientY];
  chain = alive(chainOf(event.composedPath()[0]));
}

/* What a pointer that stands still will be over when all is at rest. */
function lookAgain() {
  unseen = false;
  if (!place) return;
  const times = inEach(() => { const time = now(); takeOff(true); return time; });
  let element = document, inner;
  while ((inner = (element.shadowRoot ?? element).elementFromPoint?.(...place)) && inner !== element) element = inner;
  inEach((root) => resume(times.get(root)));
  chain = alive(chainOf(element));
}

function listen() {
  const on = (type, run) => document.addEventListener(type, run, { capture: true });
  on("pointermove", (event) => {
    if (event.pointerType === "touch" && !pressed) return;
    const before = chain.at(-1);
    look(event);
    if (chain.at(-1) !== before) happen(() => {});
  });
  on("pointerdown", (event) => {
    if (event.button) return;
    look(event);
    pressed = chain;
    wasLong = false;
    clearTimeout(longPress);
    longPress = setTimeout(() => happen(() => { wasLong = fire("long-press", shared(pressed ?? [])); }), heldFor(pressed));
    happen(() => fire("press", pressed));
  });
  on("pointerup", (event) => {
    lifted = event.composedPath();
    if (event.button || !pressed) return;
    const was = pressed;
    pressed = null;
    clearTimeout(longPress);
    look(event);
    const pair = shared(was);
    if (touch) chain = [], place = null;
    happen(() => fire("release", alive(was)));
    if (!wasLong) happen(() => fire("tap", alive(pair)));
  });
  const gone = () => { pressed = place = null; chain = []; clearTimeout(longPress); happen(() => {}); };
  on("pointercancel", gone);
  document.documentElement.addEventListener("pointerleave", () => { if (chain.length) gone(); });
  // A click without a pointer on it: by a key, a label, assistive technology, a script.
  on("click", (event) => {
    const [from] = event.composedPath(), nodes = chainOf(from);
    if (nodes.length && (!event.detail || !lifted.includes(from))) happen(() => fire("tap", alive(nodes)));
    // What is disabled is clicked for nobody.
    if (nodes.some((node) => owners.get(node)?.enabled === false)) { event.stopImmediatePropagation(); event.preventDefault(); }
  });
  // What is said to be of type submit or reset does so for the form around, unless somebody prevents it.
  document.addEventListener("click", (event) => {
    const button = event.composedPath().find((one) => owners.has(one)), type = button?.getAttribute("type"), form = button?.closest("form");
    if (!form || event.defaultPrevented) return;
    if (type === "submit") form.requestSubmit();
    if (type === "reset") form.reset();
  });
  follows(document);
  on("keydown", keyed);
  still.addEventListener("change", () => { if (still.matches) inEach(cut); });
}

/* How long a press is held until it is a long one: what the innermost says that listens for it. */
function heldFor(nodes) {
  for (const node of nodes.toReversed()) for (const [owner, cue] of heardAt("long-press", node)) return waits(owner, cue) || LONG_PRESS;
  return LONG_PRESS;
}

/* How long a cue waits (ms); what a design token gives is the name of its custom property. */
const waits = ({ element }, { ms }) => ms?.[1] === "-" ? milliseconds(getComputedStyle(element).getPropertyValue(ms)) : ms;
const milliseconds = (text) => parseFloat(text) * (/\dms$/.test(text) ? 1 : 1000) || 0;

/* Hears of the focus in a tree: the page does not hear of what stays inside of one element, and
 * nobody hears of what goes from an element to what is in it, or back (DOM, section 2.9). Each tree
 * listens from the first time that the focus comes to its element, which the tree around hears. */
function follows(tree) {
  if (tree.followed_) return;
  tree.followed_ = true;
  tree.addEventListener("focusin", (event) => {
    const path = event.composedPath();
    for (const one of path) if (one.shadowRoot) follows(one.shadowRoot);
    focusOn(chainOf(path[0]).at(-1) ?? null);
  });
  tree.addEventListener("focusout", ({ relatedTarget: to }) => focusOn([...around(focused)].includes(to) ? to : null));
}

function focusOn(node) {
  if (node === focused) return;
  happen(() => {
    if (focused) announce("blur", focused);
    focused = node;
    if (node) { announce("focus", node); regroup(node); }
  });
}

const shared = (was) => was.filter((node, n) => chain[n] === node);

function keyed(event) {
  if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
  const from = event.composedPath()[0], nodes = alive(chainOf(from));
  const screens = [...owners.values()].filter((owner) => owner.screen).map((owner) => owner.element);
  const line = nodes.length ? nodes : screens;
  happen(() => {
    if (line.toReversed().some((node) => announce("key", node, event.key))) return event.preventDefault();
    const node = nodes.at(-1);
    if (!node || node !== from || from.isContentEditable) return;
    const role = node.getAttribute("role") ?? "none";
    if ((TAPPED_BY[role] ?? TAPPED_BY.none).includes(event.key) && node.hasAttribute("tabindex")) {
      event.preventDefault();
      if (!event.repeat) node.click();
      return;
    }
    const group = groupOf(node), to = group && stepped(group, node, event.key);
    if (to) { event.preventDefault(); to.tabIndex = 0; to.focus(); to.click(); }
  });
}

/* The members of the innermost group around a node, which are one stop of Tab. */
function groupOf(node) {
  for (const box of around(parentOf(node))) {
    const role = GROUPS[box.getAttribute("role")];
    if (!role) continue;
    const members = [...within(box)].filter((one) => one.getAttribute("role") === role && isShown(one)
      && !one.ariaDisabled);
    const { flexDirection, direction } = getComputedStyle(parentOf(members[0] ?? node));
    return members.includes(node) && { members, list: role === "tab", down: /^column/.test(flexDirection), turned: direction === "rtl" };
  }
}

function stepped({ members, list, down, turned }, node, key) {
  const at = members.indexOf(node), across = { ArrowRight: turned ? -1 : 1, ArrowLeft: turned ? 1 : -1 }, along = { ArrowDown: 1, ArrowUp: -1 };
  if (list && /^(Home|End)$/.test(key)) return members.at(key === "Home" ? 0 : -1);
  const step = (list ? down ? along : across : { ...across, ...along })[key];
  return step && members[(at + step + members.length) % members.length];
}

/* One member of a group is its stop: the one that has the focus, else the chosen, else the first. */
function regroup(node) {
  const group = node && groupOf(node);
  if (!group) return;
  const chosen = (one) => one.getAttribute("aria-checked") === "true" || one.getAttribute("aria-selected") === "true";
  const stop = group.members.find((one) => one === focused) ?? group.members.find(chosen) ?? group.members[0];
  for (const one of group.members) one.tabIndex = one === stop ? 0 : -1;
}

// --- Cues ---------------------------------------------------------------------------------------

let queue = [], counts = null, travel = null, unseen = false; // unseen: a change since the pointer was last asked

/* One event, and all that follows from it. */
function happen(run) {
  if (counts) return run();
  if (pending.size) apply();
  counts = new Map();
  try {
    run();
    drive();
    for (let looks = 0; ; ) {
      if (queue.length) perform(queue.shift());
      else if (looks++ > MOST_LOOKS) break;
      else if (travel) { const going = travel; travel = null; go(...going); }
      else if (unseen && !scenes.size) { lookAgain(); drive(); }
      else break;
    }
  } finally { counts = travel = null; queue = []; }
}

/* The cues of a kind that listen at a node: of its own owner, and of all its holders. */
function* heardAt(kind, node) {
  yield* owners.get(node)?.cues(kind, "") ?? [];
  for (const [owner, path] of speakers(node)) yield* owner.cues(kind, path);
}

/* The owners in whose trees a node stands, innermost first, with its path in each. */
function* speakers(node) {
  let path = "";
  for (let owner = treeOwner(node); owner && owner.element !== node; owner = treeOwner(node)) {
    path = path ? `${node.id}/${path}` : node.id;
    yield [owner, path];
    node = owner.element;
  }
}

Owner.prototype.cues = function* (kind, at) {
  for (const cue of this.definition.cues ?? [])
    if (cue.on === kind && (cue.at ?? "") === at && !silenced(this, cue)) yield [this, cue];
};

const silenced = (owner, cue) => [...speakers(owner.element)].some(([holder, path]) =>
  holder.definition.silenced?.some(([where, id]) => where === path && id === cue.id));

function announce(kind, node, key) {
  const heard = [...heardAt(kind, node)].filter(([owner, cue]) => (kind !== "key" || cue.key === key) && owner.holds(cue));
  if (heard.length) queue.push(heard);
  return heard.length > 0;
}

/* Brings an event to the innermost node that listens for it and may act. */
const fire = (kind, nodes) => nodes.toReversed().some((node) => announce(kind, node));

/* Lets cues act together; of two that disagree, the first counts. */
function perform(heard) {
  const list = [], restarted = [];
  const set_ = (owner, name) => list.find((step) => step[0] === owner && step[1] === name);
  for (const [owner, cue] of heard) {
    if (!owner.holds(cue) || !counted(owner, cue)) continue;
    for (const [act, path, name, value] of cue.do) {
      if (act === "go" || act === "back") { travel ??= [act, name, owner]; continue; }
      const target = owner.owner(path);
      if (act === "restart" && target) restarted.push(target);
      if (!(name in (target?.definition.all ?? {})) || target.definition.all[name].room) continue;
      const to = act === "next" ? nextOf(target, name, set_(target, name)?.[2] ?? target.values[name]) : value;
      const all = [[target, name, to], ...setBack(target, name, to, set_)];
      if (!all.some((step) => set_(...step))) list.push(...all.map((step) => [...step, cue.motion, true]));
    }
  }
  restarted.forEach(stop);
  set(list);
  restarted.forEach(wait);
  drive();
}

function counted(owner, cue) {
  const seen = counts.get(owner) ?? new Map();
  counts.set(owner, seen);
  const count = (seen.get(cue) ?? 0) + 1;
  seen.set(cue, count);
  if (count === MOST_ROUNDS + 1) console.warn("These cues go round in a circle and were stopped.", owner.element, cue);
  return count <= MOST_ROUNDS;
}

/* The value after this one that is offered. */
function nextOf(owner, name, current) {
  const { all, refused = [] } = owner.definition, { values } = all[name];
  for (let step = 1; step <= values.length; step++) {
    const value = values[(values.indexOf(current) + step) % values.length];
    const variant = { ...owner.values, [name]: value };
    if (!refused.some((pattern) => Object.entries(pattern).every(([axis, one]) => variant[axis] === one))) return value;
  }
  return current;
}

/* What the innermost box around an owner that allows a value only once sets back. */
function* setBack({ element }, name, value, set_) {
  for (const box of around(parentOf(element))) {
    const onces = onceOf(box);
    if (!onces?.includes([element.localName, name, value].join())) continue;
    for (const other of members(box, onces)) {
      const member = owners.get(other);
      if (!member || [...around(other)].includes(element) || [...around(element)].includes(other)) continue;
      for (const once of onces) {
        const [tag, axis, one] = once.split(","), now = set_(member, axis)?.[2] ?? member.values[axis];
        if (tag !== other.localName || now !== one) continue;
        const { initial, values } = member.definition.all[axis];
        yield [member, axis, initial !== one ? initial : values.find((rest) => rest !== one)];
      }
    }
    return;
  }
}

const onceOf = (element) => owners.get(element)?.definition.once?.[""] ?? treeOwner(element)?.definition.once?.[element.id];

function* members(box, onces) {
  for (const child of inside(box)) {
    yield child;
    if (!onceOf(child)?.some((one) => onces.includes(one))) yield* members(child, onces);
  }
}

/* Another screen, or the one before. A listener may take it over. */
function go(act, name, owner) {
  const detail = { screen: act === "back" ? null : name };
  const event = new CustomEvent("navigate", { bubbles: true, composed: true, cancelable: true, detail });
  if (!owner.element.dispatchEvent(event)) return;
  const screen = [...owners.values()].find((one) => one.screen);
  if (!screen) return;
  if (act === "back") history.back();
  else if (screen.definition.links?.[name]) location.assign(screen.definition.links[name]);
}

// --- Timers and what follows from a change --------------------------------------------------------

/* Timers that are set at one instant for one time ring together. */
let together = new Map();
function ringAfter(ms, heard) {
  if (!together.size) setTimeout(() => { together = new Map(); });
  if (!together.has(ms)) {
    const group = [];
    together.set(ms, group);
    setTimeout(() => ring(group), ms);
  }
  together.get(ms).push(heard);
  return heard;
}

/* Up to the first that waits for what another sets; those after it where they still wait. */
function ring(group) {
  const waiting = group.filter(({ off }) => !off), done = [];
  const all = innermost(waiting.map(({ heard }) => heard));
  const later = all.findIndex(([owner, { when = {}, do: steps }]) => {
    const own = steps.filter(([act]) => act === "set" || act === "next").map(([, path, name]) => [owner.owner(path), name]);
    const waits = [...own, ...Object.keys(when).map((said) => said.split("@")).map(([name, path]) => [path ? owner.owner(path) : owner, name])];
    return waits.some(([who, name]) => done.some((one) => one[0] === who && one[1] === name)) || !done.push(...own);
  });
  const now = later < 0 ? all : all.slice(0, later);
  happen(() => queue.push(now));
  if (later > 0) ring(waiting.filter(({ heard }) => !now.includes(heard)));
}

const innermost = (heard) => heard.sort(([a], [b]) => depth(b) - depth(a));

function stop(owner) {
  for (const timer of owner.timers.values()) timer.off = true;
  owner.timers.clear();
}

/* Timers whose state holds go on, the others start; what is not ready any more is gone. */
function wait(owner) {
  const before = owner.timers;
  owner.timers = new Map();
  for (const cue of owner.definition.cues ?? []) {
    const node = cue.on === "delay" && owner.node(cue.at ?? "");
    if (!node || !isShown(node) || !owner.holds(cue) || silenced(owner, cue)) continue;
    const state = JSON.stringify([...Object.keys(cue.when ?? {}).map((name) => owner.at(name)),
      ...cue.do.map(([act, path, name]) => name && owner.owner(path)?.values[name])]);
    let timer = before.get(cue);
    if (timer?.state === state) before.delete(cue);
    else timer = ringAfter(waits(owner, cue), { state, heard: [owner, cue] });
    owner.timers.set(cue, timer);
  }
  for (const timer of before.values()) timer.off = true;
}

function follow(came, appearing) {
  const heard = [];
  for (const [owner, axis, value] of came)
    for (const [who, cue] of heardAt("became", owner.element))
      if (cue.axis === axis && (cue.value === undefined || cue.value === value)) heard.push([who, cue]);
  for (const [owner, cue, was] of appearing) {
    const node = owner.node(cue.at ?? "");
    if (!was && node && isShown(node)) heard.push([owner, cue]);
  }
  if (heard.length) queue.push(innermost(heard));
}

const depth = (owner) => chainOf(owner.element).length;

Owner.prototype.waiting = function (kind) {
  return (this.definition.cues ?? []).filter((cue) => cue.on === kind).map((cue) => [this, cue]);
};
const watching = (kind) => [...owners.values()].flatMap((owner) => owner.waiting(kind));

/* Sets values one after the other; each difference that this makes belongs to what was set. */
function set(steps) {
  const all = steps.filter(([owner, name, value]) => owner.live[name] !== value);
  if (!all.length) return;
  const came = [];
  const appearing = [...watching("appear")].map(([owner, cue]) => {
    const node = owner.node(cue.at ?? "");
    return [owner, cue, !!node && isShown(node)];
  });
  for (const [owner, name, value, motion, chosen] of all) {
    const before = owner.values[name];
    const to = value ?? owner.definition.all[name].initial;
    turned(owner, name, motion ?? ownMotion(owner, name, to) ?? owner.definition.motion, came, () => {
      if (value === undefined) delete owner.live[name];
      else owner.live[name] = value;
    });
    if (chosen && owner.values[name] !== before) changed(owner, name, before);
  }
  unseen = true;
  follow(came, appearing);
  for (const [owner] of watching("delay")) wait(owner);
  for (const [owner] of came) regroup(owner.element);
}

/* What their rooms make of elements of which more depends on it than a style sheet can say: words, what
 * is in them, cues. Which value a room sets the style sheet decides; it comes at once, as sizes do. */
const rooms = onPage && new ResizeObserver((entries) => happen(() => {
  for (const { target } of entries) {
    const owner = owners.get(target), root = owner?.tree.getElementById("root");
    if (root) for (const [name, { room }] of owner.definition.entries)
      if (room) owner.live[name] = getComputedStyle(root).getPropertyValue(room).trim() || undefined;
    owner?.settle([]);
  }
  unseen = true;
  for (const [owner] of watching("delay")) wait(owner);
}));

/* How an owner says itself that a value comes; undefined where it says nothing of its own. */
const ownMotion = ({ definition }, name, value) => {
  const { motions, motion } = definition.all[name];
  return motions?.[value] ?? motion ?? (definition.own ? definition.motion : undefined);
};

/* A change, and what it leads to further in: an inner part whose axis a holder's rule sets moves as
 * it says itself. The holder's change is shown first, with those values held where they were; then
 * they are let go, those of outer parts first. */
let turning = null; // the turn in hand: its steps, what stood there before, what it holds and has touched

function turned(owner, name, motion, came, change) {
  turnAll([{ steps: [[owner, name]], motion, change: () => { change(); owner.settle(came); } }], came);
}

/* Turns of several roots at once, one of each: all are measured, all are changed, and all are
 * measured again, so that the page is laid out twice and not for each of them. */
function turnAll(turns, came) {
  const outside = turning;
  for (const turn of turns) turn.held = [];
  try {
    while (turns.length) {
      tweens(turns);
      turns = turns.filter(({ held }) => held.length).map(({ held }) => {
        const [inner, axis] = held.shift();
        return { held, steps: [[inner, axis]], motion: ownMotion(inner, axis, inner.value(axis, inner.definition.all[axis])), change: () => inner.settle(came) };
      });
    }
  } finally { turning = outside; }
}

const isStep = ({ steps }, owner, name) => steps.some(([who, which]) => who === owner && which === name);

function isHeld(owner, name, value) {
  const { stood, held } = turning ?? {};
  if (!stood || owner.values[name] === undefined || isStep(turning, owner, name)) return false;
  if (!ownMotion(owner, name, value) || !stood.has(owner.element) || !owner.element.checkVisibility() || isLed(owner)) return false;
  if (!held.some(([who, which]) => who === owner && which === name)) held.push([owner, name]);
  return true;
}

/* --- What a script sets: all of a task is one change of each root, before anything is drawn. */
const pending = new Map(); // owner → the attributes that were set

function sets(owner, name) {
  if (!pending.size) queueMicrotask(apply);
  pending.set(owner, (pending.get(owner) ?? new Set()).add(name));
}

function apply() {
  const all = [...pending];
  pending.clear();
  if (all.length) happen(() => {
    const came = [], said = new Map(), turns = new Map();
    for (const [owner, names] of all) {
      if (!owner.element.isConnected) { owner.settle(came); continue; }
      const root = rootOf(owner.element), words = new Set([...names].filter((name) => isWords(owner, name)));
      // Words are there at once. What is under way around them goes on from there.
      if (words.size && !scenes.has(root)) owner.settle(came, words);
      else if (words.size) join(said, root, owner, words, came);
      if (names.size > words.size) join(turns, root, owner, new Set([...names].filter((name) => !words.has(name))), came);
    }
    if (said.size) turnAll([...said.values()], came);
    for (const turn of turns.values()) for (const [owner, name] of turn.steps) {
      const motion = ownMotion(owner, name, owner.element.part_(name)) ?? owner.definition.motion;
      if (motion && lasts(motion, owner) > lasts(turn.motion, owner)) turn.motion = motion;
    }
    turnAll([...turns.values()], came);
    follow(came, []);
    for (const [owner] of all) wait(owner);
  });
}

const isWords = ({ definition }, name) => definition.all[name].kind === "text";

/* What an owner takes over is part of the turn of its root. */
function join(turns, root, owner, names, came) {
  const turn = turns.get(root) ?? { steps: [], motion: [0], takes: [], change: () => turn.takes.forEach((take) => take()) };
  turns.set(root, turn);
  turn.steps.push(...[...names].map((name) => [owner, name]));
  turn.takes.push(() => owner.settle(came, names));
}

const lasts = (motion, { element }) => { const { duration, delay } = timing(motion, element); return duration + delay; };

const isLed = (owner) => [...speakers(owner.element)].some(([holder, path]) => holder.definition.leads?.includes(path));

/* The world outside learns of what a cue changed: the attribute follows, and an event is sent. */
function changed(owner, name, previous) {
  owner.element.reflect_?.(name);
  const type = owner.definition.all[name].meaning === "expanded" ? "toggle" : "change";
  const detail = { name, value: owner.values[name], previous };
  owner.element.dispatchEvent(new CustomEvent(type, { bubbles: true, detail }));
}

// --- Tweens ---------------------------------------------------------------------------------------

/* What is on screen is the newest layout plus what is left of each change: for each number of each
 * element a *share* (its change, from → to) that runs out by that change's motion. An element whose
 * place or size is under way stands by numbers of its own (Web Animations), so that nothing around
 * it is laid out twice; the outermost element keeps its place in the page and pushes it. */
const scenes = new Map(); // root → its movements: element → property → { form, latest, shares: [{ change, by, speed }], animation }
let moving = new Map(), home = null; // those of the root in hand, and that root
const PART = /(?:rgba?|oklab|oklch|color)\([^)]*\)|-?(?:\d*\.)?\d+(?:e-?\d+)?/g;
const WORDS = ["fontFamily", "fontWeight", "fontStyle", "textTransform"];
const SAMPLES = 20, FINEST = 4; // of a change, and ms

/* A computed colour as OKLab times alpha, and alpha (CSS Color 4, sections 10 and 12). */
function lab(text) {
  let [a, b, c, alpha = 1] = text.slice(text.indexOf("(")).match(/-?[\d.]+(?:e-?\d+)?|none/g).map((part) => +part || 0);
  if (/^oklch/.test(text)) [b, c] = [b * Math.cos(c *= Math.PI / 180), b * Math.sin(c)];
  else if (!/^oklab/.test(text)) {
    const linear = [a, b, c].map((n) => (/^rgb/.test(text) ? n /= 255 : n) > 0.04045 ? ((n + 0.055) / 1.055) ** 2.4 : n / 12.92);
    const by = (rows, three) => rows.map((row) => row.reduce((sum, n, k) => sum + n * three[k], 0));
    [a, b, c] = by([[0.2104543, 0.793618, -0.004072], [1.9779985, -2.4285922, 0.4505937], [0.025904, 0.7827718, -0.8086758]],
      by([[0.4122215, 0.5363325, 0.051446], [0.2119035, 0.6806995, 0.107397], [0.0883025, 0.2817188, 0.6299787]], linear).map(Math.cbrt));
  }
  return [a * alpha, b * alpha, c * alpha, alpha];
}

/* A computed value as its form and its numbers; values of one form can be added up. */
function numbers(text) {
  const list = [];
  const form = text.replace(PART, (part) => {
    list.push(...(part.endsWith(")") ? lab(part) : [+part]));
    return part.endsWith(")") ? "§" : "#";
  });
  return { form, list };
}

function written(form, list) {
  let n = 0;
  return form.replace(/[#§]/g, (mark) => {
    if (mark === "#") return list[n++].toFixed(5);
    const [a, b, c, alpha] = list.slice(n, n += 4);
    return `oklab(${[a, b, c].map((part) => (part / Math.min(Math.max(alpha, 1e-9), 1)).toFixed(6)).join(" ")} / ${alpha.toFixed(5)})`;
  });
}

/* Whether numbers lie where CSS would cut them: a frame cannot say them. */
function beyond(property, form, list) {
  if (property === "box") return Math.min(list[2], list[3]) < 0;
  let n = 0;
  const shares = property === "opacity" ? list : [...form.matchAll(/[#§]/g)].map(([mark]) => mark === "#" ? (n++, 0) : list[(n += 4) - 1]);
  return shares.some((share) => share < 0 || share > 1);
}

/* What is not there stands against what is there: without a colour, not moved, not larger. */
function against(text, other, property) {
  if (text === "none") text = other.replace(PART, (part) => part.endsWith(")") ? "rgba(0,0,0,0)"
    : property === "scale" ? 1 : property === "boxShadow" ? part : 0);
  return property === "translate" && !text.includes(" ") ? `${text} 0px` : text;
}

/* How far a motion is at a time, as the browser works it out. */
const clocks = new Map();
function progress({ duration, delay }, easing, time) {
  const key = [duration, delay, easing].join();
  const clock = clocks.get(key) ?? new Animation(new KeyframeEffect(null, null, { duration, delay, easing, fill: "both" }));
  clocks.set(key, clock);
  clock.currentTime = time;
  return clock.effect.getComputedTiming().progress;
}

/* A motion's times and curve; what a design token gives is the name of its custom property. */
function timing(motion = [0], element) {
  const styles = getComputedStyle(element);
  const said = (part) => {
    const text = styles.getPropertyValue(part);
    return text.endsWith("s") ? milliseconds(text) : text;
  };
  const [duration, easing, delay, [kick, span, stiff, damp] = []] = motion.map((part) => part?.[1] === "-" ? said(part) : part);
  return { duration: +duration || 0, easing: easing || "linear", delay: +delay || 0, kick, span, stiff, damp };
}
const end = ({ start, timing: { duration, delay } }) => start + duration + delay;
const isOver = (change, time) => time > end(change) - 0.001; // rounded, an end may be missed

const each = (run) => { for (const [element, properties] of moving) for (const [name, one] of properties) run(element, name, one, properties); };

/* Does something with the movements of a root; gives what it gives. */
function inScene(root, run) {
  const outside = [moving, home];
  moving = scenes.get(home = root) ?? new Map();
  try { return run(root); }
  finally {
    moving.size ? scenes.set(root, moving) : scenes.delete(root);
    [moving, home] = outside;
  }
}
const inEach = (run) => new Map([...scenes.keys()].map((root) => [root, inScene(root, run)]));

/* Where the changes that are under way have come to. One that has ended stands still there. */
function now() {
  let time = moving.size ? 0 : document.timeline.currentTime;
  each((element, name, { animation, at }) => { if (animation) time = Math.max(time, at + animation.currentTime); });
  return time;
}

/* What a share still adds at a time. */
function left({ change, by, speed }, time) {
  const { timing: move, start } = change, passed = time - start;
  if (isOver(change, time)) return by.map(() => 0);
  const rest = 1 - progress(move, move.easing, passed);
  const kick = speed ? progress(move, move.kick, passed) * move.span : 0;
  return by.map((n, k) => n * rest + (speed?.[k] ?? 0) * kick);
}

/* How fast a share runs out at a time, in a second. */
function rate({ change, by, speed }, time) {
  const { timing: move, start } = change, passed = time - start;
  if (!move.kick) {
    const rest = left({ change, by }, time);
    return left({ change, by }, time + 1).map((n, k) => (n - rest[k]) * 1000);
  }
  if (isOver(change, time)) return by.map(() => 0);
  const rest = 1 - progress(move, move.easing, passed), kick = progress(move, move.kick, passed) * move.span;
  return by.map((n, k) => (speed?.[k] ?? 0) * (rest - move.damp * kick) - move.stiff * n * kick);
}

/* Everything that moves in a root stands where it goes. */
function cut() {
  each((element, name, one) => one.animation?.cancel());
  for (const element of moving.keys()) leave(element);
  moving.clear();
}

function leave(element) {
  if (element.ghost_) element.remove();
  unkeep(element);
}

/* What goes away keeps how it looked until it is gone, whatever becomes of its parts meanwhile. What
 * lies behind it has the pointer. */
function keep(top, { before, places, touched, start: time }) {
  const parts = [...before.keys()].filter((one) => [...around(one)].includes(top));
  let differs = parts.some((one) => touched.has(owners.get(one)));
  const frames = parts.map((one) => {
    const style = getComputedStyle(one), old = before.get(one), looked = {};
    let box = places.get(one)?.box;
    LOOKS.forEach((name, n) => { if (old[n] !== style[name] && (one !== top || name !== "opacity")) looked[name] = old[n]; });
    for (const [name, share] of moving.get(one) ?? []) {
      if (!share.shares?.length || (one === top && name === "opacity")) continue;
      const list = reached(share, time);
      if (name === "box") box = list;
      else looked[name] = written(share.form, list);
      moving.get(one).delete(name);
      differs = true;
    }
    if (one === top) top.gone_ = { ...top.gone_, box };
    const hidden = one !== top && style.display === "none" && places.get(one)?.display;
    differs ||= hidden || Object.keys(looked).length > 0;
    return [one, looked, one !== top && box, hidden];
  });
  if (!differs) return;
  for (const [one, looked, box, hidden] of frames)
    Object.assign(one, { kept_: { ...looked, ...box && frame("box", { holds: true, floats: true }, box) }, hidden_: hidden });
  top.keeps_ = parts;
}

/* What a number that is under way has come to. */
const reached = ({ latest, shares }, time) => shares.reduce((all, share) => left(share, time).map((n, k) => all[k] + n), latest);

function unkeep(top) {
  letBe(top);
  if (top.gone_) for (const name of ["display", "pointer-events"]) top.style.removeProperty(name);
  delete top.keeps_;
  delete top.gone_;
}

/* The box that an element is laid out in: slots have none. */
function boxOf(element) {
  do element = parentOf(element); while (element?.localName === "slot");
  return element;
}

/* The places and sizes of all elements in trees as they are laid out, without any movement: of
 * each tree, by its root. */
function measured(roots) {
  const results = new Map(roots.map((root) => [root, styled(root)]));
  // Important, since what is said of a part from outside stands above a style of its own.
  const turned = [...results.values()].flatMap((result) => [...result]).filter(([, { still }]) => still).map(([element]) => element);
  for (const element of turned) for (const name of STILL) element.style.setProperty(name, "none", "important");
  for (const result of results.values()) for (const [element, rect] of result) {
    const { x, y, width, height } = element.getBoundingClientRect(), around = boxOf(element), outer = result.get(around);
    // The same words in more lines, or in fewer, are other words.
    if (rect.line) rect.same += `|${Math.round(height / rect.line)}`;
    Object.assign(rect, { x, y, box: [x - (outer ? outer.x - around.scrollLeft : 0), y - (outer ? outer.y - around.scrollTop : 0), width, height] });
  }
  for (const element of turned) for (const name of STILL) element.style.removeProperty(name);
  return results;
}

/* What is to be measured in a tree, with the words that stand there. */
function styled(root) {
  const result = new Map();
  for (const element of within(root)) {
    const style = getComputedStyle(element), { display } = style;
    if (element.localName === "svg" || element.ghost_ || !element.checkVisibility() || /contents|inline$/.test(display)) continue;
    const text = element.localName === "p", look = text ? WORDS.map((name) => style[name]) : [];
    const words = text ? element.textContent : element.getAttribute("src");
    result.set(element, { display, words, look, same: [words, ...look].join("|"), line: text ? parseFloat(style.lineHeight) : 0, still: STILL.some((name) => style[name] !== "none") });
  }
  return result;
}

/* How the elements look that changes of owners can touch: all in them that are shown. */
function looks(steps) {
  const result = new Map();
  for (const [owner] of steps) if (!result.has(owner.element) && isShown(owner.element)) for (const element of within(owner.element, isThere))
    for (const one of element.localName === "svg" ? element.children : [element])
      if (!one.ghost_) { const style = getComputedStyle(one); result.set(one, LOOKS.map((name) => style[name])); }
  return result;
}

/* What is hidden moves nothing: once it appears, it is as it should be. */
const isThere = (element) => getComputedStyle(element).display !== "none";

/* Takes movements off, so that what is laid out can be read. */
function takeOff(lays) {
  each((element, property, one) => { if (lays || property !== "box") { one.animation?.cancel(); one.animation = null; } });
  if (lays) for (const element of moving.keys()) {
    if (element.gone_) element.style.removeProperty("display");
    if (element.ghost_) element.style.setProperty("display", "none", "important");
    letBe(element);
  }
}

/* Takes off what keeps the look of what goes away. */
function letBe(top) {
  for (const one of top.keeps_ ?? []) {
    one.keeper_?.cancel();
    if (one.hidden_) one.style.removeProperty("display");
  }
}

/* Changes something in each of some roots, and moves from what was there to what is there now. */
function tweens(turns) {
  const open = [], laid = () => measured(open.filter(({ lays }) => lays).map(({ root }) => root));
  for (const turn of turns) {
    const [[owner, name]] = turn.steps, root = rootOf(owner.element);
    turn.touched = new Set();
    if (!root.isConnected || !root.ready_) { turning = null; turn.change(); continue; }
    open.push(Object.assign(turn, { root, lays: turn.steps.some(([who, which]) => who.definition.all[which].lays ?? true), start: inScene(root, now) }));
    const all = turn.steps.length > 1 ? turn.steps.map(([who, which]) => [who.element.localName, which]).join() : name;
    turn.entry = { owner, name: all, start: turn.start, timing: timing(turn.motion, owner.element) };
  }
  for (const { root, lays } of open) inScene(root, () => takeOff(lays));
  for (const turn of open) turn.before = looks(turn.steps);
  let all = laid();
  for (const turn of open) {
    turn.places = all.get(turn.root) ?? null;
    turning = Object.assign(turn, { stood: turn.before });
    turn.change();
    turn.stood = turning = null;
  }
  for (const turn of open) turn.after = looks(turn.steps);
  all = laid();
  for (const turn of open) { turn.ends = all.get(turn.root) ?? null; inScene(turn.root, () => goesOn(turn)); }
}

/* Everything in a root goes on from what was there to what is there now. */
function goesOn(turn) {
  const { root, entry, start, before, after, places, ends } = turn;
  if (still.matches || end(entry) <= start) {
    each((element, property, one) => { one.shares = one.shares?.filter(({ change }) => !isOrigin(change, entry)); });
    resume(start, ends, root);
    return reachAgain(places, ends);
  }
  for (const [element, styles] of after) {
    const old = before.get(element);
    if (ends?.has(element) && !places.has(element)) {
      // What comes fades in as a whole.
      if (places.has(boxOf(element))) add(element, "opacity", entry, "0", styles[3]);
    } else if (old) LOOKS.forEach((property, n) => { if (old[n] !== styles[n]) add(element, property, entry, old[n], styles[n]); });
  }
  for (const [element, place] of places ?? []) {
    const to = ends.get(element);
    if (to) moved(element, place, to, entry, root);
    // What is gone stays for a while, where it was, and fades.
    else if (element.isConnected && ends.has(boxOf(element))) { element.gone_ = place; keep(element, turn); add(element, "opacity", entry, "1", "0"); }
  }
  // What the same origin still had elsewhere goes on with this change.
  each((element, property, one) => {
    const mine = one.shares?.findIndex(({ change }) => isOrigin(change, entry) && change.entry !== entry) ?? -1;
    if (mine < 0) return;
    const { by } = one.shares[mine], moves = property === "box" ? carries(by) : 0;
    share(one, mine, entry, partMotion(element, property, moves) ?? entry.timing, by.map(() => 0));
  });
  resume(start, ends, root);
  reachAgain(places, ends);
}

/* What came into sight, or went, is reached by the keys now, or no more. */
function reachAgain(before, after) {
  const told = new Set();
  for (const [some, others] of before ? [[before, after], [after, before]] : [])
    for (const element of some.keys()) if (!others.has(element)) told.add(owners.get(element)).add(treeOwner(element));
  for (const owner of told) if (owner?.element.ready_) owner.access();
}

const isOrigin = (change, { owner, name }) => change.owner === owner && change.name === name;

/* What a change of a box carries along: its place (1), or its size too (2). */
const carries = (by) => by.some((n, k) => k > 1 && Math.abs(n) > 0.004) ? 2 : 1;

function moved(element, place, to, entry, root) {
  const style = getComputedStyle(element), text = element.localName === "p";
  if (place.same !== to.same) {
    const ghost = element.cloneNode(true);
    // Words that come back while they fade turn around instead of coming a second time.
    const back = [...element.parentNode.children].find((one) => one.of_ === element && one.ghost_.same === to.same);
    handOn(element, ghost);
    if (back) { handOn(back, element); back.remove(); }
    Object.assign(ghost, { ghost_: place, of_: element });
    for (const name of ["id", "tabindex"]) ghost.removeAttribute(name);
    ghost.setAttribute("aria-hidden", "true");
    ghost.style.pointerEvents = "none"; // what it was a picture of has the pointer
    for (const name of ["display", "color", "fontSize", "lineHeight", "letterSpacing", "textAlign", "objectFit", "borderRadius"]) ghost.style[name] = style[name];
    place.look.forEach((value, n) => { ghost.style[WORDS[n]] = value; });
    if (text) ghost.textContent = place.words;
    else ghost.setAttribute("src", place.words);
    element.after(ghost);
    add(ghost, "opacity", entry, style.opacity, "0");
    add(element, "opacity", entry, "0", style.opacity);
  }
  const from = [...place.box];
  if (text) {
    // Words keep their lines: a text is as large as it will be, and stands where its words are.
    from[0] += (from[2] - to.box[2]) * ({ center: 0.5, end: 1, right: 1 }[style.textAlign] ?? 0);
    [, , from[2], from[3]] = to.box;
  }
  if (element === root) [from[0], from[1]] = to.box;
  if (from.some((n, k) => Math.abs(n - to.box[k]) > 0.004)) add(element, "box", entry, from, to.box);
}

/* What is left of a fading goes with the words that fade. */
function handOn(from, to) {
  const one = moving.get(from)?.get("opacity");
  moving.get(from)?.delete("opacity");
  if (one) propertiesOf(to).set("opacity", one);
}

const propertiesOf = (element) => moving.get(element) ?? moving.set(element, new Map()).get(element);

/* A share of a number that differs; an origin that changes again takes over what is left. */
function add(element, property, change, before, after) {
  const properties = propertiesOf(element), box = property === "box";
  const from = box ? { list: before } : numbers(against(before, after, property));
  const to = box ? { list: after } : numbers(against(after, before, property));
  let one = properties.get(property);
  if (from.form !== to.form) return properties.delete(property);
  if (!one?.shares || one.form !== to.form) properties.set(property, one = { form: to.form, shares: [] });
  one.latest = to.list;
  const by = from.list.map((n, k) => n - to.list[k]), mine = one.shares.findIndex((one) => isOrigin(one.change, change));
  share(one, mine, change, partMotion(element, property, box ? carries(by) : 0) ?? change.timing, by);
}

/* A change's share of a number; what is left of an earlier one of its origin is taken over. */
function share(one, mine, entry, timing, by) {
  let speed;
  if (mine >= 0) {
    const [before] = one.shares.splice(mine, 1), rest = left(before, entry.start);
    by = by.map((n, k) => n + rest[k]);
    // A spring goes on with the speed that there was.
    if (timing.kick && !timing.delay) speed = rate(before, entry.start);
  }
  // What has come back to where it goes moves no more.
  if ([...by, ...speed ?? []].some((n) => Math.abs(n) > 1e-6)) one.shares.push({ change: { ...entry, entry, timing }, by, speed });
}

/* The motion that an owner gives to one node, or one property of it; the outermost one's wins. What
 * moves its neighbours goes with them (1: it has another place; 2: another size). */
function partMotion(element, property, carries) {
  let result;
  for (const [owner, path] of speakers(element))
    for (const [where, name, motion, alone = 0] of owner.definition.moves ?? [])
      if (where === path && (!name || name === property) && carries <= alone) result = timing(motion, element);
  return result;
}

/* Puts all movements on again, from the latest layout. */
function resume(time, ends, root) {
  each((element, property, one, properties) => {
    one.shares = one.shares?.filter(({ change }) => !isOver(change, time));
    if (property === "box" && !ends) return;
    if (!one.shares?.length) { one.animation?.cancel(); properties.delete(property); }
  });
  for (const [element, properties] of moving) {
    if (ends && ends.has(element)) unkeep(element);
    const faded = (element.gone_ || element.ghost_) && !properties.get("opacity")?.shares;
    if (!properties.size || !element.isConnected || faded) { moving.delete(element); leave(element); }
    else if (element.gone_) {
      element.style.setProperty("display", element.gone_.display, "important");
      element.style.setProperty("pointer-events", "none", "important");
      for (const one of element.keeps_ ?? []) {
        one.keeper_ = one.animate([one.kept_, one.kept_], { duration: 1, fill: "both" });
        if (one.hidden_) one.style.setProperty("display", one.hidden_, "important");
      }
    }
    else if (element.ghost_) element.style.removeProperty("display");
  }
  if (ends) pin(time, ends, root);
  each((element, property, one) => { if (!one.animation) animate(element, property, one, time); });
}

/* Elements whose neighbours move stand by numbers too; their box keeps its size meanwhile. */
function pin(time, ends, root) {
  const boxes = new Set();
  for (const [element, properties] of moving) {
    if (properties.has("box") && ends.has(element)) boxes.add(element);
    if (properties.has("box") || element.gone_ || element.ghost_) boxes.add(boxOf(element));
  }
  for (const element of [...ends.keys(), ...moving.keys()]) {
    const floats = element !== root && boxes.has(boxOf(element)), place = ends.get(element) ?? element.gone_ ?? element.ghost_;
    if (!place || !(floats || boxes.has(element))) continue;
    const properties = propertiesOf(element), one = properties.get("box") ?? {};
    properties.set("box", Object.assign(one, { latest: place.box, floats, holds: boxes.has(element), animation: null }));
  }
}

function frame(property, one, list) {
  if (property !== "box") return { [property]: written(one.form, list) };
  const [left, top, width, height] = list.map((n, k) => `${k > 1 ? Math.max(n, 0) : n}px`);
  return { width, height, margin: "0", minWidth: "0", minHeight: "0", maxWidth: "none", maxHeight: "none", flex: "none", aspectRatio: "auto",
    // Nothing in it is in the flow any more, and it may become smaller than its padding.
    ...one.holds && { padding: "0" },
    ...one.floats && { position: "absolute", left, top, right: "auto", bottom: "auto", alignSelf: "auto", justifySelf: "auto" } };
}

/* One animation of a property: of one change the motion's own easing, of several their sum, looked
 * at as often as it bends. */
function animate(element, property, one, time) {
  const { latest, shares = [] } = one, [first] = shares;
  const sum = (at) => ({ at, list: reached(one, at) });
  const last = Math.max(time + 1, ...shares.map(({ change }) => end(change)));
  let options = { duration: last - time }, points = [{ list: latest.map((number, k) => number + (first?.by[k] ?? 0)) }, { list: latest }];
  one.at = time;
  if (shares.length > 1 || first?.speed || (first && beyond(property, one.form, points[0].list))) {
    const times = [time, last];
    for (const { change } of shares) for (let n = 0; n <= SAMPLES; n++)
      times.push(Math.min(last, Math.max(time, change.start + (end(change) - change.start) * n / SAMPLES)));
    points = times.sort((a, b) => a - b).map(sum);
    for (let n = 1; n < points.length; n++) {
      const a = points[n - 1], b = points[n], middle = sum((a.at + b.at) / 2);
      const bends = middle.list.some((number, k) =>
        Math.abs(number - (a.list[k] + b.list[k]) / 2) > Math.min(0.1, 0.002 * Math.max(1, Math.abs(number))));
      if (bends && b.at - a.at > FINEST) points.splice(n--, 0, middle);
    }
  } else if (first) {
    const { duration, easing, delay } = first.change.timing;
    options = { duration, easing, delay };
    one.at = first.change.start;
  }
  const frames = points.map(({ at, list }) => ({ ...at !== undefined && { offset: (at - time) / (last - time) }, ...frame(property, one, list) }));
  one.animation = element.animate(frames, { fill: "both", ...options });
  one.animation.currentTime = time - one.at;
  const root = home;
  one.animation.onfinish = () => inScene(root, () => finished(element, property, one)) && lookSoon();
}

/* Where several roots move, many end at one instant: the pointer is asked once for all of them. */
let looking = 0;
function lookSoon() {
  if (scenes.size < 2) happen(lookAgain);
  else looking ||= setTimeout(() => { looking = 0; happen(lookAgain); });
}

/* When the last share has run out, everything stands by itself again. */
function finished(element, property, one) {
  if (moving.get(element)?.get(property) !== one) return;
  one.done = true;
  let open = false;
  each((other, name, { shares, done }) => { open ||= !!shares?.length && !done; });
  const ended = one.shares?.length;
  if (!open) cut();
  return ended;
}

// --- Elements ---------------------------------------------------------------------------------------

let changes = 0; // of the values of fields, so that the last one is known

/* What the browser itself says where something has to be chosen, in the reader's language. */
function missingText(isRadio) {
  const field = Object.assign(document.createElement("input"), { type: isRadio ? "radio" : "checkbox", name: "-", required: true });
  return field.validationMessage || "Please choose.";
}

const camel = (name) => name.replace(/-(.)/g, (_, letter) => letter.toUpperCase());

/* What elements are made from, by their names, and what they share: a server writes them out from
 * this (render.js). */
export const definitions = new Map([["", { css: usual, around: AROUND }]]);

/* A definition, with what follows from it. */
function prepared(definition) {
  const all = definition.all = { ...definition.axes, ...definition.properties };
  definition.entries = Object.entries(all);
  for (const [attribute, axis] of definition.entries) {
    const { on, driver, values, parts, prefixed } = axis;
    if (on !== undefined) axis.state = (value) => value === on ? attribute : `${attribute}-off`;
    else if (values) axis.state = (value) => driver && !prefixed ? value : `${attribute}-${value}`;
    definition.rooms ||= !!axis.room;
    // What a value stands for where the pointer sets it, and the value that stands for something.
    if (driver === "pointer") axis.part = (value) => value === undefined ? "" : parts?.[value] ?? (POINTED.includes(value) ? value : "disabled");
    axis.at = (part) => driver === "focus" ? axis.focus ?? values.find((value) => value !== axis.initial)
      : values.find((value) => axis.part?.(value) === part);
  }
  return definition;
}

/* The class of a component's elements. */
export function define(name, definition) {
  // Whoever came first stays: a page may have two copies of a module, or two versions.
  if (definitions.has(name)) return onPage ? customElements.get(name) : class {};
  definitions.set(name, prepared(definition));
  if (!onPage || customElements.get(name)) return onPage ? customElements.get(name) : class {};
  const { all, entries } = definition, styles = [base, sheet(definition.css)];
  // What is measured before its letters are there would be measured wrongly.
  for (const font of definition.fonts ?? []) document.fonts.load(font);
  const template = document.createElement("template");
  template.content.append(...definition.template.map((node) => build(node)));
  definition.pictured = !!template.content.getElementById("root-picture");

  const fields = entries.map(([name]) => camel(name)), stated = !!definition.value || entries.some(([, { state }]) => state);
  const idle = !entries.length && !definition.access && !definition.cues; // a picture, say
  const isRadio = definition.access?.some(({ at, role }) => !at && role === "radio");
  class Element extends HTMLElement {
    static formAssociated = !!definition.value;
    static observedAttributes = [...Object.keys(all).filter((name) => !all[name].room), ...definition.value ? ["name", "required", "value"].filter((name) => !(name in all)) : []];

    constructor() {
      super();
      if (stated) this.internals_ = this.attachInternals();
      const tree = this.attachShadow({ mode: "open" });
      tree.adoptedStyleSheets = styles;
      tree.append(document.importNode(template.content, true));
      this.owner_ = new Owner(this, definition, tree);
    }

    connectedCallback() {
      owners.set(this, this.owner_);
      listening ??= (listen(), true);
      customElements.upgrade(this.shadowRoot);
      if (this.hasAttribute("data-states")) this.taken_();
      const picture = definition.pictured && this.shadowRoot.getElementById("root-picture");
      if (picture) pictured(picture, picture.getAttribute("src"));
      // What was set before there was this class lies on the element itself, and hides what the class has.
      for (const name of fields) if (Object.hasOwn(this, name)) {
        const value = this[name];
        delete this[name];
        this[name] = value;
      }
      this.owner_.settle([]);
      if (!this.ready_ && definition.value) this.first_ = this.owner_.values[definition.value[0]];
      this.ready_ = true;
      if (definition.rooms) rooms.observe(this);
      if (idle) return;
      arrives(this);
      comes(this);
    }

    /* What a server has written out is the runtime's now. */
    taken_() {
      this.named_ = this.hasAttribute("data-named") || undefined;
      for (const name of ["data-states", "data-named"]) this.removeAttribute(name);
    }

    disconnectedCallback() { stop(this.owner_); owners.delete(this); if (definition.rooms) rooms.unobserve(this); }

    attributeChangedCallback(attribute, before, after) {
      if (this.reflecting_ || before === after || !this.ready_) return;
      if (!(attribute in all)) return this.value_();
      delete this.owner_.live[attribute];
      sets(this.owner_, attribute);
    }

    /* What the attribute says of an axis or a property. */
    part_(attribute) {
      const text = all[attribute].room ? null : this.getAttribute(attribute);
      return text === null ? undefined : all[attribute].on ?? text;
    }

    reflect_(attribute) {
      const { on, values, driver } = all[attribute];
      if (!values || driver || treeOwner(this)?.screen === false) return;
      this.reflecting_ = true;
      this[camel(attribute)] = on === undefined ? this.owner_.values[attribute] : this.owner_.values[attribute] === on;
      this.reflecting_ = false;
    }

    /* What a form is told, and what is kept of it when somebody comes back. */
    was_ = false;
    value_() {
      const [axis] = definition.value, value = this.owner_.values[axis], is = this.is_;
      this.internals_.setFormValue(is ? this.getAttribute("value") ?? "on" : null, value);
      const alike = isRadio ? this.alike_() : [], missing = this.hasAttribute("required") && !is && !alike.some((one) => one.is_);
      this.internals_.setValidity({ valueMissing: missing }, missing ? missingText(isRadio) : "");
      if (is === this.was_) return;
      this.was_ = is;
      const since = this.since_ = ++changes;
      // Of those with one name in one form one is chosen, the last that was.
      queueMicrotask(() => {
        const last = is && !alike.some((one) => one.is_ && one.since_ > since), others = all[axis].values.find((other) => other !== value);
        for (const one of alike) last && one.is_ ? one.put_(others) : one.value_();
      });
    }

    get is_() { return this.owner_.values[definition.value[0]] === definition.value[1]; }
    put_(value) {
      const [axis] = definition.value, { on } = all[axis];
      this[camel(axis)] = on === undefined ? value : value === on;
    }

    alike_() {
      const name = this.getAttribute("name");
      return name ? [...owners.keys()].filter((one) => one !== this && one.localName === this.localName && one.getAttribute("name") === name
        && one.internals_.form === this.internals_.form && one.getRootNode() === this.getRootNode()) : [];
    }

    formResetCallback() { this.put_(this.first_); }
    formStateRestoreCallback(state) { this.put_(state); }

    /* A form's fieldset, or the page, makes a part disabled. */
    formDisabledCallback(disabled) {
      const owner = this.owner_, offOf = ({ enabled, values, at, driver }) => enabled ? values.find((value) => !enabled.includes(value)) : driver === "pointer" ? at("disabled") : undefined;
      const [name, off] = entries.map(([key, axis]) => [key, offOf(axis)]).find(([, value]) => value !== undefined) ?? [];
      if (!name) return;
      if (this.ready_) happen(() => set([[owner, name, disabled ? off : undefined]]));
      else if (disabled) owner.live[name] = off;
      else delete owner.live[name];
    }
  }

  // As of a field of the browser's own.
  if (definition.value) for (const name of ["form", "labels", "validity", "validationMessage", "willValidate"])
    Object.defineProperty(Element.prototype, name, { get() { return this.internals_[name]; } });
  if (definition.value) for (const name of ["name", "required", "value"]) if (!(name in all)) Object.defineProperty(Element.prototype, name, {
    get() { return name === "required" ? this.hasAttribute(name) : this.getAttribute(name) ?? (name === "value" ? "on" : ""); },
    set(value) { if (name === "required") this.toggleAttribute(name, !!value); else this.setAttribute(name, value); },
  });
  if (definition.value) for (const name of ["checkValidity", "reportValidity"]) Element.prototype[name] = function () { return this.internals_[name](); };
  for (const [attribute, { on, initial, room }] of entries)
    Object.defineProperty(Element.prototype, camel(attribute), room ? { get() { return this.owner_.values[attribute] ?? initial; } } : {
      get() {
        const owner = this.owner_;
        const value = pending.has(owner) ? owner.value(attribute, all[attribute]) : owner.values[attribute] ?? initial;
        return on === undefined ? value : value === on;
      },
      set(value) {
        if (on !== undefined) this.toggleAttribute(attribute, !!value);
        else if (value == null) this.removeAttribute(attribute);
        else this.setAttribute(attribute, value);
      },
    });
  customElements.define(name, Element);
  return Element;
}

/* Once all are there that come together: what is around may learn its own role and values only
 * after what is in it. */
let coming = [];
function comes(element) {
  if (!coming.length) queueMicrotask(() => {
    const all = coming.splice(0).map((one) => one.owner_), access = ({ definition }) => definition.access ?? [];
    for (const owner of all) { owner.access(); wait(owner); }
    const grouped = all.filter((owner) => access(owner).some(({ role }) => AROUND[role] || role === "radio"));
    if (grouped.length) queueMicrotask(() => {
      for (const owner of grouped) owner.access();
      for (const owner of grouped)
        for (const { at, role } of access(owner)) if (Object.values(GROUPS).includes(role)) regroup(owner.node(at ?? ""));
    });
  });
  coming.push(element);
}

/* What came to be there at one instant appears together, holders' parts before the holders. */
let arrived = [];
function arrives(element) {
  // Not before its letters are there: what moves until then would be measured wrongly. Those of an
  // element are asked for by name; to ask for those of a screen lays out the page.
  const asks = owners.get(element).screen || document.fonts.status === "loading";
  if (!arrived.length) (asks ? document.fonts.ready : Promise.resolve()).then(arrive);
  arrived.push(element);
}

function arrive() {
  const here = new Set(arrived.splice(0).filter((one) => one.isConnected && owners.get(one).waiting("appear").length));
  const roots = new Set([...here].map(rootOf));
  const heard = [...roots].flatMap((root) => [...within(root)]).filter((one) => here.has(one)).flatMap((one) =>
    [...owners.get(one).waiting("appear")].filter(([owner, cue]) => owner.node(cue.at ?? "") && isShown(owner.node(cue.at ?? ""))));
  if (heard.length) happen(() => queue.push(innermost(heard)));
}

let listening;

/* A screen: a tree of the page itself, with cues of its own. It is there before its parts are, and
 * tells them what it says of them when what comes back is called. */
export function screen(element, definition) {
  if (!onPage) return () => {};
  const owner = new Owner(element, { ...definition, all: {}, entries: [] }, element, true);
  for (const picture of element.querySelectorAll("img")) pictured(picture, picture.getAttribute("src"));
  listening ??= (listen(), true);
  element.ready_ = true;
  arrives(element);
  return () => { owner.settle([]); wait(owner); };
}
