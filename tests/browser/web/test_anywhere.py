"""Exported elements where somebody else put them: hostile documents, foreign pages, families of
variants, many of one kind; and how large and how quick they are beside code written by hand."""

from __future__ import annotations

import base64
import gzip
import io
import time
from itertools import combinations

import numpy as np
import pytest
from immutables import Map
from PIL import Image

from outgrowth.app.shot import fragment_picture
from outgrowth.core.document.cues import Behaviour, Change, Cue, Trigger
from outgrowth.core.document.records import (
    Asset,
    Axis,
    AxisValue,
    Component,
    ComponentProperty,
    DesignToken,
    Document,
    Node,
    Screen,
)
from outgrowth.core.document.values import FromProperty, Picture, fixed, words
from outgrowth.core.edits.gather import gather
from outgrowth.core.exchange.output import write
from outgrowth.core.exchange.variant_pictures import whole_picture
from outgrowth.core.exchange.web.bundle import WebCode
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.exchange.web.names import Names
from tests.browser.test_hostile import ATTACKS
from tests.browser.web.conftest import serve
from tests.browser.web.elements import READ, page_of_elements
from tests.core.edits.test_gather import drawings, gathered

pytestmark = pytest.mark.browser


# Common practice, no source: 84 variants from four axes.
def test_84_gathered_buttons_need_few_rules(ferry_once, layout_once):
    parts = drawings(ferry_once)
    report = gather(ferry_once, parts, "old-button", ("Kind", "Size", "State", "Icon"))
    document = gathered(ferry_once, report)
    code = WebCode(document, layout_once, Names(document)).component(
        document.components["old-button"]
    )
    assert len(parts) == 84
    assert not code.problems
    assert len(code.rules) <= 40, len(code.rules)


HAND_WRITTEN = """
const sheet = new CSSStyleSheet();
sheet.replaceSync(`
:host { display: inline-flex; align-items: center; justify-content: center; gap: 8px; padding: 10px 18px; border-radius: 8px;
  box-sizing: border-box; cursor: pointer; font: 600 15px/1.3 Figtree; color: var(--hs-color-paper); --fill: var(--hs-color-sea);
  background: var(--fill); transition: background 160ms ease-out, scale 160ms ease-out, box-shadow 160ms ease-out; }
:host([kind="quiet"]) { --fill: var(--hs-color-foam); color: var(--hs-color-sea); box-shadow: inset 0 0 0 1.5px var(--hs-color-sea); }
:host(:hover) { background: oklch(from var(--fill) calc(l * 0.93) c h); }
:host(:not([kind="quiet"]):hover) { box-shadow: 0 3px 10px #17495A4D; }
:host(:active) { background: oklch(from var(--fill) calc(l * 0.86) c h); scale: 0.97; }
:host([disabled]) { opacity: 0.4; pointer-events: none; }
#icon { display: none; width: 18px; height: 18px; stroke: currentColor; }
:host([with-icon]) #icon { display: block; }
`);
const template = document.createElement("template");
template.innerHTML = `<slot name="icon" id="icon"></slot><span id="label"></span>`;
export class HsButton extends HTMLElement {
  static observedAttributes = ["label", "disabled"];
  constructor() {
    super();
    const tree = this.attachShadow({ mode: "open" });
    tree.adoptedStyleSheets = [sheet];
    tree.append(template.content.cloneNode(true));
    this.addEventListener("keydown", (event) => { if (event.key === "Enter" || event.key === " ") { event.preventDefault(); this.click(); } });
  }
  connectedCallback() {
    if (!this.hasAttribute("role")) this.setAttribute("role", "button");
    if (!this.hasAttribute("tabindex") && !this.disabled) this.tabIndex = 0;
    this.show();
  }
  attributeChangedCallback() { this.show(); }
  show() {
    this.shadowRoot.getElementById("label").textContent = this.label;
    this.setAttribute("aria-disabled", this.disabled);
    if (this.disabled) this.removeAttribute("tabindex");
  }
  get label() { return this.getAttribute("label") ?? "Board now"; }
  set label(value) { this.setAttribute("label", value); }
  get kind() { return this.getAttribute("kind") ?? "primary"; }
  set kind(value) { this.setAttribute("kind", value); }
  get disabled() { return this.hasAttribute("disabled"); }
  set disabled(value) { this.toggleAttribute("disabled", !!value); }
  get withIcon() { return this.hasAttribute("with-icon"); }
  set withIcon(value) { this.toggleAttribute("with-icon", !!value); }
}
customElements.define("hand-button", HsButton);
"""
"""The button by hand, as a developer would who has no runtime to share."""


def test_the_buttons_module_is_not_much_larger_than_one_written_by_hand(handed):
    ours = handed.made.files["components/hs-button.js"]
    small = len(gzip.compress(ours, 9)) / len(gzip.compress(HAND_WRITTEN.encode(), 9))
    assert len(ours) / len(HAND_WRITTEN.encode()) <= 1.5
    assert small <= 1.5, small


def hostile():
    """A document that attacks by every name and text that reaches the code."""
    nodes, axes, properties, tokens, components = [], [], [], {}, {}
    for n, attack in enumerate(ATTACKS):
        name = attack.replace("\0", "")
        style = {"content": FromProperty(f"p{n}"), "font-family": name, "label": name}
        nodes.append(Node(f"t{n}", name, "text", Map(style)))
        nodes.append(Node(f"s{n}", name, "shape", Map({"path": "M0 0L9 9Z" + attack})))
        shown = {"picture": Picture(attack, 9.0, 9.0), "width": fixed(9.0)}
        nodes.append(Node(f"i{n}", name, "image", Map(shown)))
        properties.append(ComponentProperty(f"p{n}", name, "text", words(attack), attack))
        if n < 3:
            values = (AxisValue("a", name), AxisValue("b", f"{name}2"))
            axes.append(Axis(f"x{n}", name, values, "a"))
        tokens[name.replace(".", "").replace("{", "").replace("}", "").strip()] = DesignToken(
            "family", name, attack
        )
    root = Node("r", ATTACKS[0], "box", Map(), tuple(nodes))
    cue = Cue("c", (), Trigger("key", key="'"), (Change("set", "x0", "b"),))
    components["h"] = Component(
        "h", ATTACKS[1], root, tuple(axes), (), tuple(properties), description=ATTACKS[1] + "*/",
        behaviour=Behaviour((cue,)),
    )  # fmt: skip
    held = Node("i", ATTACKS[4], "instance", Map({"component": "h", "choice:p1": ATTACKS[4]}))
    screen = Screen("s", ATTACKS[0], Node("r", "r", "box", Map(), (held,)))
    view = Asset(ATTACKS[4].replace("\0", ""), "image/png", b"\x89PNG")
    return Document(
        "Hostile",
        Map(components),
        Map({"s": screen}),
        ("h",),
        ("s",),
        Map(tokens),
        assets=Map({view.digest: view}),
    )


def test_nothing_in_a_hostile_document_executes(chromium, layout_once, tmp_path):
    made = hand_over(hostile(), layout_once)
    write(tmp_path, made.files)
    assert all(".." not in path and path.isascii() for path in made.files)
    server = serve(tmp_path)
    try:
        address = f"http://127.0.0.1:{server.server_port}/"
        element = made.names.owners["h"].element
        page_of_elements(tmp_path, "hostile-page", [element])
        screen = made.names.owners["s"].element
        for page in ("hostile-page.html", f"screens/{screen}.html", "index.html"):
            chromium.get(address + page)
            chromium.execute_async_script("setTimeout(arguments[0], 150)")
            assert chromium.execute_script("return window.harmed") is None
        chromium.get(f"{address}hostile-page.html")
        said = chromium.execute_async_script(
            "const [tag, done] = arguments; customElements.whenDefined(tag).then(() => {"
            "const one = document.body.appendChild(document.createElement(tag));"
            "requestAnimationFrame(() => done([...one.shadowRoot.querySelectorAll('p')].map((p) => p.textContent))); })",
            element,
        )
        assert said[:2] == list(ATTACKS[:2]), "words stay words"
    finally:
        server.shutdown()
        server.server_close()


FOREIGN = """
* { margin: 0; padding: 0; box-sizing: content-box; letter-spacing: 3px; line-height: 3; text-transform: uppercase; }
html { color: red; direction: rtl; text-align: right; word-spacing: 9px; text-indent: 20px; }
body { font: italic 30px serif; }
p, div, span, i { border: 3px solid green; position: static; display: inline; }
main { display: flex; flex-direction: column; }
"""


def test_a_foreign_pages_sheet_and_direction_change_nothing_inside(
    chromium, handed, ferry_once, layout_once
):
    (handed.folder / "foreign.css").write_text(FOREIGN)
    names = ["hs-button", "hs-notice", "hs-text-field", "hs-fare-card"]
    page_of_elements(handed.folder, "plain", names)
    page_of_elements(handed.folder, "foreign", names)
    file = handed.folder / "foreign.html"
    file.write_text(
        file.read_text().replace(
            '<link rel="stylesheet" href="tokens.css">',
            '<link rel="stylesheet" href="tokens.css"><link rel="stylesheet" href="foreign.css">',
        )
    )
    found = []
    for page in ("plain", "foreign"):
        chromium.get(f"{handed.address}{page}.html")
        chromium.execute_script(READ)
        found.append(
            chromium.execute_async_script(
                "const [names, done] = arguments; Promise.all(names.map((n) => customElements.whenDefined(n))).then(() => {"
                "const trees = []; for (const name of names) { const box = document.body.appendChild(document.createElement('section'));"
                "box.style.cssText = 'position: absolute; left: 0; top: 0; width: 900px'; const one = box.appendChild(document.createElement(name)); trees.push(one); }"
                "trees[0].getBoundingClientRect(); document.fonts.ready.then(() => done(trees.map((one) => { const { x, y } = one.getBoundingClientRect();"
                "const sizes = (tree) => [tree.name, tree.rect[0] - x, tree.rect[1] - y, tree.rect[2], tree.rect[3], tree.color, ...tree.children.map(sizes)]; return sizes(treeOf(one)); }))); })",
                names,
            )
        )
    for plain, foreign in zip(*found, strict=True):
        # The host's own letters are the page's to choose; it has none.
        assert strip_host(plain) == pytest.approx(strip_host(foreign))


def strip_host(tree):
    numbers = []

    def walk(node, level):
        numbers.extend(round(n, 3) for n in node[1:5])
        for child in node[6:]:
            walk(child, level + 1)

    walk(tree, 0)
    return numbers


def test_in_a_form_a_checkbox_counts_and_a_text_field_is_named(chromium, handed):
    page_of_elements(handed.folder, "form", ["hs-checkbox", "hs-toggle"])
    chromium.get(f"{handed.address}form.html")
    said = chromium.execute_async_script(
        "const done = arguments[0]; customElements.whenDefined('hs-checkbox').then(() => {"
        "const form = document.body.appendChild(document.createElement('form'));"
        "const box = form.appendChild(document.createElement('hs-checkbox')); box.setAttribute('name', 'bicycle');"
        "const before = [...new FormData(form)]; box.addEventListener('change', (event) => {"
        "done([before, [...new FormData(form)], event.detail, box.getAttribute('aria-checked'), box.checked]); }); box.click(); })"
    )
    assert said == [
        [],
        [["bicycle", "on"]],
        {"name": "checked", "value": "on", "previous": "off"},
        "true",
        "on",
    ]


def test_reduced_motion_cuts_and_forced_colours_keep_an_outline(chromium, handed):
    page_of_elements(handed.folder, "still", ["hs-notice"])
    features = [
        {"name": "prefers-reduced-motion", "value": "reduce"},
        {"name": "forced-colors", "value": "active"},
    ]
    chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": features})
    try:
        chromium.get(f"{handed.address}still.html")
        said = chromium.execute_async_script(
            "const done = arguments[0]; customElements.whenDefined('hs-notice').then(() => {"
            "const one = document.body.appendChild(document.createElement('hs-notice')); one.open = true;"
            "queueMicrotask(() => { const head = one.shadowRoot.getElementById('head');"
            "done([document.getAnimations().length, getComputedStyle(one.shadowRoot.getElementById('answer')).display, getComputedStyle(head).outlineStyle]); }); })"
        )
    finally:
        chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})
    assert said == [0, "block", "solid"]


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_with_forced_colours_states_are_told_apart(chromium, handed, scheme):
    """Pictures of what is chosen, off and focused beside what is not; and the strokes are there."""
    looks = {
        "hs-button": ({}, {"state": "disabled"}),
        "hs-checkbox": ({}, {"checked": "on"}, {"checked": "mixed"}, {"disabled": ""}),
        "hs-radio": ({}, {"chosen": ""}),
        "hs-toggle": ({}, {"on": ""}),
        "hs-chip": ({}, {"selected": ""}),
    }
    page_of_elements(handed.folder, "forced", [*looks, "hs-text-field"])
    features = [
        {"name": "forced-colors", "value": "active"},
        {"name": "prefers-color-scheme", "value": scheme},
    ]
    chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": features})

    def picture(element, attributes, focus):
        chromium.execute_async_script(
            "const [name, attributes, focus, done] = arguments; document.body.replaceChildren();"
            "const holder = document.body.appendChild(document.createElement('div'));"
            "holder.style.cssText = 'padding: 12px; width: max-content';"
            "const one = holder.appendChild(document.createElement(name));"
            "for (const key in attributes) one.setAttribute(key, attributes[key]);"
            "document.fonts.ready.then(() => { if (focus) one.focus({ focusVisible: true }); setTimeout(done, 50); })",
            element, attributes, focus,
        )  # fmt: skip
        shot = chromium.find_element("css selector", "div").screenshot_as_png
        return np.asarray(Image.open(io.BytesIO(shot)).convert("RGB")).astype(int)

    try:
        chromium.get(f"{handed.address}forced.html")
        for element, all_attributes in looks.items():
            shots = [picture(element, given, False) for given in all_attributes]
            shots += [
                picture(element, given, True)
                for given in all_attributes
                if "disabled" not in (*given, *given.values())
            ]
            for one, other in combinations(shots, 2):
                differs = (np.abs(one - other).max(axis=2) > 60).sum()
                assert differs > 12, (element, differs)  # the mark of a mixed one is that small
        chromium.execute_script(
            "document.body.replaceChildren(document.createElement('hs-text-field'))"
        )
        assert chromium.execute_script(
            "return getComputedStyle(document.querySelector('hs-text-field').shadowRoot"
            ".getElementById('entry')).outlineStyle"
        ) == "solid"  # fmt: skip
    finally:
        chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})


@pytest.mark.parametrize(("how", "high"), [("zoom = 2", 79), ("fontSize = '200%'", 59)])
def test_text_of_twice_the_size_makes_the_parts_larger(chromium, handed, how, high):
    """WCAG 2.2, 1.4.4: the whole page is enlarged, or its text alone, and nothing is cut."""
    page_of_elements(handed.folder, "large", ["hs-button"])
    chromium.get(f"{handed.address}large.html")
    chromium.execute_script(f"document.documentElement.style.{how}")
    said = chromium.execute_async_script(
        "const done = arguments[0]; customElements.whenDefined('hs-button').then(() => {"
        "const one = document.body.appendChild(document.createElement('hs-button')); const label = one.shadowRoot.getElementById('label');"
        "requestAnimationFrame(() => done([one.getBoundingClientRect().height, label.scrollWidth <= one.clientWidth])); })"
    )
    assert said[0] == pytest.approx(high, abs=1)
    assert said[1]


def test_nothing_is_wider_than_the_page_that_could_wrap(chromium, handed):
    """WCAG 2.2, 1.4.10: 320 px are enough for what is made of words."""
    names = ["hs-button", "hs-checkbox", "hs-notice", "hs-fare-card", "hs-chip"]
    page_of_elements(handed.folder, "narrow", names)
    chromium.get(f"{handed.address}narrow.html")
    wide = chromium.execute_async_script(
        "const [names, done] = arguments; Promise.all(names.map((n) => customElements.whenDefined(n))).then(() => {"
        "const holder = document.body.appendChild(document.createElement('div')); holder.style.width = '320px';"
        "for (const name of names) { const one = holder.appendChild(document.createElement(name));"
        "for (const key of one.constructor.observedAttributes) if (typeof one[key] === 'string' && / /.test(one[key])) one[key] += ' and some more words'.repeat(9); }"
        "document.fonts.ready.then(() => requestAnimationFrame(() => done([...holder.children].map((one) => [one.localName, one.getBoundingClientRect().width, one.getBoundingClientRect().height])))); })",
        names,
    )
    assert all(width <= 320.5 for _, width, _ in wide), wide
    assert {name: high for name, _, high in wide}["hs-button"] > 60


_FINE = 4


def _coarse(pixels):
    """A picture drawn finely, as it is seen: letters' edges are smoothed otherwise by each."""
    high, wide = (n // _FINE for n in pixels.shape[:2])
    cut = pixels[: high * _FINE, : wide * _FINE].astype(float)
    return cut.reshape(high, _FINE, wide, _FINE, 3).mean(axis=(1, 3))


@pytest.mark.parametrize("screen", ["boarding", "fares", "help", "booking", "desk"])
def test_a_screen_of_the_elements_looks_like_our_picture(
    qapp, chromium, handed, ferry_once, layout_once, screen
):
    """Source: Chromium's own raster."""
    drawn = whole_picture(ferry_once, layout_once, ferry_once.screens[screen])
    name = handed.made.names.owners[screen].element
    chromium.get(f"{handed.address}screens/{name}.html")
    chromium.execute_async_script(
        "document.fonts.ready.then(() => requestAnimationFrame(() => requestAnimationFrame(arguments[0])))"
    )
    bounds = drawn.bounds
    clip = {"x": 0, "y": 0, "width": bounds.width, "height": bounds.height, "scale": _FINE}
    shot = chromium.execute_cdp_cmd(
        "Page.captureScreenshot", {"clip": clip, "captureBeyondViewport": True}
    )["data"]
    theirs = _coarse(np.asarray(Image.open(io.BytesIO(base64.b64decode(shot))).convert("RGB")))
    image = fragment_picture(drawn.fragment, bounds, float(_FINE), ferry_once.assets)
    pixels = image.constBits().asarray(image.sizeInBytes())
    ours = np.frombuffer(pixels, np.uint8).reshape(image.height(), -1, 4)[:, : image.width()]
    shown = _coarse(ours[..., 2::-1].astype(int) + (255 - ours[..., 3:].astype(int)))
    high, wide = min(shown.shape[0], theirs.shape[0]), min(shown.shape[1], theirs.shape[1])
    differs = np.abs(shown[:high, :wide] - theirs[:high, :wide]).max(axis=2) > 8
    # Letters are smoothed otherwise by each rasterizer: at most so much of a screen.
    assert differs.mean() <= 0.035, float(differs.mean())


def test_500_of_one_kind_come_up_and_answer(chromium, handed):
    """Figures are measured by bin/bench; here only that nothing grows without end."""
    page_of_elements(handed.folder, "many", ["hs-button"])
    chromium.get(f"{handed.address}many.html")
    began = time.monotonic()
    count = chromium.execute_async_script(
        "const done = arguments[0]; customElements.whenDefined('hs-button').then(() => { for (let n = 0; n < 500; n++) document.body.append(document.createElement('hs-button'));"
        "requestAnimationFrame(() => done(document.querySelectorAll('hs-button').length)); })"
    )
    assert count == 500
    assert time.monotonic() - began < 20
