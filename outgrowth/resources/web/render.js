/* Elements as text, for a server: what a browser shows before any script has come, and without one.
 *
 *   import "./components/hs-button.js";
 *   import { render } from "./render.js";
 *   render("hs-button", { label: "Save" })   → <hs-button label="Save"><template shadowrootmode="open">…
 *
 * Values and conditions are those of runtime.js at the start, before anybody has done anything.
 */
import { definitions } from "./runtime.js";

const { css: usual, around } = definitions.get("");
const VOID = new Set(["img"]);
const SVG_AS_THEY_ARE = /^(?:defs|path|ellipse|svg)$|Gradient$|^stop$/;

const escaped = (text) => String(text).replace(/[&<>"]/g, (letter) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[letter]);
const attributes = (values) => Object.entries(values).map(([name, value]) => value === "" ? ` ${name}` : ` ${name}="${escaped(value)}"`).join("");

/* A style sheet as it stands in a page: states that a script would set are words of an attribute. */
const pageStyle = (css) => css.replace(/:state\(([^)]*)\)/g, '[data-states~="$1"]').replaceAll("<", "\\3c ");

const hyphened = (name) => name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);

/* One element, with all that is in it. */
class Written {
  constructor(tag, given, options) {
    this.definition = definitions.get(tag);
    if (!this.definition) throw new Error(`No element “${tag}” is known here. Import its module first.`);
    Object.assign(this, { tag, attributes: given, options, inner: new Map(), told: {}, values: {} });
    this.template = this.definition.template.map((node) => this.prepared(node));
    this.settle();
  }

  /* The elements of ours in the template, made before anything is told of them. */
  prepared(node) {
    if (typeof node === "string") return node;
    const [name, ...rest] = node, [tag, id = ""] = name.split("#");
    if (!definitions.has(tag)) return [name, ...rest.map((item) => Array.isArray(item) ? this.prepared(item) : item)];
    const said = Object.assign({}, ...rest.filter((item) => !Array.isArray(item) && typeof item === "object"));
    this.inner.set(id, new Written(tag, said, this.options));
    return [name, said];
  }

  value(name, { initial, values, on }) {
    const said = this.attributes[name];
    const value = this.told[""]?.[name] ?? (said === undefined ? undefined : on ?? said) ?? initial;
    return values?.includes(value) === false ? initial : value;
  }

  /* "axis" is one of ours, "axis@path" one of an element in it. */
  at(name) {
    const [axis, path] = name.split("@");
    const owner = (path?.split("/") ?? []).reduce((outer, step) => outer?.inner.get(step), this);
    return owner?.values[axis];
  }

  settle() {
    const { entries, data = [] } = this.definition;
    for (const [name, axis] of entries) this.values[name] = this.value(name, axis);
    this.said = {};
    for (const { at = "", when = {}, ...values } of data) {
      if (!Object.entries(when).every(([name, value]) => [value].flat().includes(this.at(name)))) continue;
      for (const name in values) (this.said[at] ??= {})[name] = values[name]?.from ? this.values[values[name].from] : values[name];
    }
    for (const [at, values] of Object.entries(this.told)) if (at) Object.assign((this.said[at] ??= {}), values);
    const told = {};
    for (const [at, values] of Object.entries(this.said)) {
      const [first, ...others] = at.split("/");
      if (values.is !== undefined && !others.length) this.exchange(first, values.is);
      if (this.inner.has(first)) (told[first] ??= {})[others.join("/")] = values;
    }
    for (const [first, values] of Object.entries(told)) {
      const inner = this.inner.get(first);
      inner.told = values;
      inner.settle();
    }
  }

  /* A slot shows another element, or none. */
  exchange(id, tag) {
    const inner = this.inner.get(id);
    if (!tag) this.inner.delete(id);
    else if (inner?.tag !== tag) this.inner.set(id, new Written(tag, {}, this.options));
    (this.shown ??= new Map()).set(id, tag);
  }

  get enabled() {
    return this.definition.entries.every(([name, { enabled, part }]) => enabled
      ? enabled.includes(this.values[name]) : part?.(this.values[name]) !== "disabled");
  }

  /* Role, states and spoken name of a node, where it stands in what it needs. */
  access(at) {
    const result = {};
    for (const { at: where = "", role, level, states = {} } of this.definition.access ?? []) {
      if (where !== at || (around[role] && !this.options.roles.includes(around[role]))) continue;
      if (role) result.role = role;
      if (level) result["aria-level"] = level;
      for (const [name, [axis, values]] of Object.entries(states))
        if (values[this.values[axis]] !== undefined) result[name] = values[this.values[axis]];
    }
    if (!at && !this.enabled) result["aria-disabled"] = "true";
    const label = !this.inner.has(at) && this.said[at]?.label;
    if (label) result["aria-label"] = label.replace(/^[a-z0-9]+-(?=[a-z0-9-]+$)/, "");
    return result;
  }

  node(node) {
    if (typeof node === "string") return escaped(node);
    const [name, ...rest] = node, [tag, id] = name.split("#");
    if (id && (this.inner.has(id) || this.shown?.has(id))) return this.instance(tag, id, rest);
    const said = this.said[id === "root-picture" ? "" : id] ?? {}, own = Object.assign({}, ...rest.filter((item) => typeof item === "object" && !Array.isArray(item)));
    const from = {};
    if (id) from.id = id;
    if (id && tag !== "slot") from.part = id;
    if (own.src !== undefined || said.src !== undefined) own.src = this.picture(said.src ?? own.src, id);
    let inside = rest.filter((item) => typeof item === "string" || Array.isArray(item));
    if (said.text !== undefined) inside = [said.text].flat();
    if (said.d !== undefined || said.box !== undefined) inside = inside.map((item) => drawn(item, said));
    const all = { ...from, ...own, ...id ? this.access(id) : {} };
    const head = SVG_AS_THEY_ARE.test(tag) ? Object.entries(all).map(([key, value]) => ` ${key}="${escaped(value)}"`).join("") : attributes(all);
    return VOID.has(tag) ? `<${tag}${head}>` : `<${tag}${head}>${this.under(all.role, () => inside.map((item) => this.node(item)).join(""))}</${tag}>`;
  }

  /* Writes what stands in something of a role. */
  under(role, write) {
    const { roles } = this.options;
    roles.push(role);
    try { return write(); } finally { roles.pop(); }
  }

  instance(tag, id, [said = {}]) {
    const kept = { id, part: id };
    for (const name of ["exportparts", "dir"]) if (said[name]) kept[name] = said[name];
    const inner = this.inner.get(id);
    if (!inner) return `<span${attributes({ ...kept, hidden: "" })}></span>`;
    const same = inner.tag === tag ? said : {};
    return inner.text({ ...kept, ...same, ...this.access(id) });
  }

  picture(source, id) {
    const address = this.options.picture(source);
    if (id) this.pictures = { ...this.pictures, [id]: address };
    return address;
  }

  text(more, inside = "") {
    const { entries, css } = this.definition;
    const own = this.access("");
    const body = this.under(more.role ?? own.role, () => this.template.map((node) => this.node(drawn(node, this.said[""] ?? {}))).join(""));
    const variables = entries.filter(([name, axis]) => axis.variable && this.values[name] !== axis.initial).map(([name, axis]) => `${axis.variable}: ${this.values[name]};`);
    const shown = Object.entries(this.pictures ?? {}).map(([id, address]) =>
      `${id === "root-picture" ? ":host" : `#${id}`} { --picture: url(${JSON.stringify(address)}); }`);
    const style = pageStyle([usual, css, variables.length ? `:host { ${variables.join(" ")} }` : "", ...shown].join("\n"));
    const states = entries.map(([name, axis]) => axis.state?.(this.values[name])).filter((state) => state);
    if (this.attributes.role !== undefined) delete own.role;
    const named = own["aria-label"] !== undefined && more["aria-label"] === undefined && this.attributes["aria-label"] === undefined;
    const head = attributes({ ...own, ...this.attributes, ...more, "data-states": states.join(" ") || "-", ...named ? { "data-named": "" } : {} });
    const nonce = this.options.nonce ? ` nonce="${escaped(this.options.nonce)}"` : "";
    return `<${this.tag}${head}><template shadowrootmode="open"><style${nonce}>${style}</style>${body}</template>${inside}</${this.tag}>`;
  }
}

/* A drawing in another form, where it has one. */
function drawn(item, { d, box }) {
  if (!Array.isArray(item)) return item;
  const [name, ...rest] = item, [tag] = name.split("#");
  const changed = tag === "svg" && box !== undefined ? { viewBox: box } : tag === "path" && d !== undefined ? { d } : {};
  return [name, ...rest.map((part) => Array.isArray(part) ? drawn(part, { d, box }) : typeof part === "object" ? { ...part, ...changed } : part)];
}

/* The element of a name as HTML. `properties` are what its attributes or properties say: a yes/no
 * value is true or false. `inside` is HTML that stands in the element, for its slots. Of options,
 * `nonce` lets a strict policy take its styles, `picture` says where a picture is served, and `roles`
 * tells what the element stands in: "tablist", where it is a tab. */
export function render(name, properties = {}, inside = "", options = {}) {
  const given = {};
  for (const [key, value] of Object.entries(properties)) {
    if (value === true) given[hyphened(key)] = "";
    else if (value !== false && value != null) given[hyphened(key)] = String(value);
  }
  const settled = { picture: (address) => address, ...options, roles: [...options.roles ?? []] };
  return new Written(name, given, settled).text({}, inside);
}
