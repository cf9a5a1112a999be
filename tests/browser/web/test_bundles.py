"""Exported modules in what front-end teams build with: bundlers, frameworks, two versions of one
set. Sources: vite, webpack, rollup, React, Vue, Svelte and Lit, from npm."""

import shutil
import subprocess
from functools import partial
from pathlib import Path

import pytest

from outgrowth.core.exchange.output import write
from outgrowth.core.exchange.web.files import Wanted, hand_over
from tests.browser.web.conftest import serve
from tests.browser.web.elements import asked

TOOLS = Path(__file__).parents[3] / "tools" / "web"
NODE = shutil.which("node")

pytestmark = [
    pytest.mark.browser,
    pytest.mark.skipif(
        NODE is None or not (TOOLS / "node_modules" / "vite").is_dir(),
        reason="the judges from npm are not here",
    ),
]


@pytest.fixture
def bundled(chromium, handed, tmp_path):
    """Opens a page with a main.js that was bundled, with the hand-over beside it as `parts`."""
    servers = []

    def opened(bundler, main, **files):
        source, built = tmp_path / "source", tmp_path / f"built-{bundler}"
        if not source.is_dir():
            shutil.copytree(handed.folder, source / "parts")
            (source / "node_modules").symlink_to(TOOLS / "node_modules")
        (source / "main.js").write_text(main)
        for name, text in files.items():
            (source / name.replace("__", ".")).write_text(text)
        ended = subprocess.run(
            [NODE, TOOLS / "bundle.mjs", bundler, source, built],
            capture_output=True, text=True, timeout=180, cwd=source,
        )  # fmt: skip
        assert ended.returncode == 0, ended.stderr[-2000:]
        shutil.copy(handed.folder / "tokens.css", built)
        (built / "page.html").write_text(
            '<!doctype html><html lang="en"><meta charset="utf-8"><title>Built</title>'
            '<link rel="stylesheet" href="tokens.css"><body><script type="module" src="main.js">'
            "</script></body></html>"
        )
        server = serve(built)
        servers.append(server)
        chromium.get(f"http://127.0.0.1:{server.server_port}/page.html")
        return built

    yield opened
    for server in servers:
        server.shutdown()
        server.server_close()


# A framework brings its page up to what was changed in a task of its own.
after = partial(asked, pause=60)


PICTURED = """
import "./parts/components/hs-island-panel.js";
import "./parts/components/hs-checkbox.js";
document.body.append(document.createElement("hs-island-panel"), document.createElement("hs-checkbox"));
"""


@pytest.mark.parametrize("bundler", ["vite", "webpack", "rollup"])
def test_a_bundle_has_the_elements_and_their_pictures(bundled, chromium, bundler):
    built = bundled(bundler, PICTURED)
    said = after(
        chromium,
        "await later(); const [panel, box] = document.body.querySelectorAll(':not(script)');"
        "const shown = async () => { const view = panel.shadowRoot.getElementById('view'); await view.decode(); return [view.src, view.naturalWidth]; };"
        "const first = await shown(); panel.island = 'little-holm'; await later(); await later(); const second = await shown();"
        "box.click(); return [first, second, box.matches(':state(checked-on)')];",
    )
    first, second, checked = said
    assert first[1] == 520 and second[1] > 0 and first[0] != second[0]
    assert checked is True
    pictures = [path for path in built.rglob("*") if path.suffix == ".png"]
    assert len(pictures) == 2, "each is asked for by a name of its own"


APPS = {
    "react": """
import { createElement as h, useState } from "react";
import { createRoot } from "react-dom/client";
function App() {
  const [checked, setChecked] = useState("off"), [names, setNames] = useState(["Skerry", "Holm", "Strand"]);
  globalThis.app = { turn: () => setNames([...names].reverse()), more: () => setNames([...names, "Ness"]) };
  return h("main", null,
    h("hs-checkbox", { id: "box", checked, onchange: ({ detail }) => setChecked(detail.value) }),
    h("output", null, checked), ...names.map((name) => h("hs-button", { key: name, label: name, kind: "quiet" })));
}
createRoot(document.body.appendChild(document.createElement("div"))).render(h(App));
""",
    "vue": """
import { createApp, h, ref } from "vue";
createApp({ setup() {
  const checked = ref("off"), names = ref(["Skerry", "Holm", "Strand"]);
  globalThis.app = { turn: () => { names.value = [...names.value].reverse(); }, more: () => { names.value = [...names.value, "Ness"]; } };
  return () => h("main", [
    h("hs-checkbox", { id: "box", checked: checked.value, onChange: ({ detail }) => { checked.value = detail.value; } }),
    h("output", checked.value), ...names.value.map((name) => h("hs-button", { key: name, label: name, kind: "quiet" }))]);
} }).mount(document.body.appendChild(document.createElement("div")));
""",
    "lit": """
import { html, render } from "lit";
import { repeat } from "lit/directives/repeat.js";
const holder = document.body.appendChild(document.createElement("div"));
let checked = "off", names = ["Skerry", "Holm", "Strand"];
const show = () => render(html`<main>
  <hs-checkbox id="box" .checked=${checked} @change=${({ detail }) => { checked = detail.value; show(); }}></hs-checkbox>
  <output>${checked}</output>${repeat(names, (name) => name, (name) => html`<hs-button .label=${name} kind="quiet"></hs-button>`)}</main>`, holder);
globalThis.app = { turn: () => { names = [...names].reverse(); show(); }, more: () => { names = [...names, "Ness"]; show(); } };
show();
""",
    "svelte": """
import { mount } from "svelte";
import App from "./app.js";
mount(App, { target: document.body.appendChild(document.createElement("div")) });
""",
}

SVELTE = """
<script>
  let checked = $state("off"), names = $state(["Skerry", "Holm", "Strand"]);
  globalThis.app = { turn: () => { names = [...names].reverse(); }, more: () => { names = [...names, "Ness"]; } };
</script>
<main>
  <hs-checkbox id="box" {checked} onchange={({ detail }) => { checked = detail.value; }}></hs-checkbox>
  <output>{checked}</output>
  {#each names as name (name)}<hs-button label={name} kind="quiet"></hs-button>{/each}
</main>
"""

COMPILED = """
import { compile } from "svelte/compiler";
import fs from "node:fs";
process.stdout.write(compile(fs.readFileSync(0, "utf8"), { generate: "client" }).js.code);
"""


@pytest.mark.parametrize("framework", APPS)
def test_a_framework_binds_values_events_and_lists(bundled, chromium, framework):
    files = {}
    if framework == "svelte":
        ended = subprocess.run(
            [NODE, "--input-type=module", "-e", COMPILED],
            input=SVELTE, capture_output=True, text=True, timeout=60, cwd=TOOLS,
        )  # fmt: skip
        assert ended.returncode == 0, ended.stderr
        files = {"app__js": ended.stdout}
    parts = (
        'import "./parts/components/hs-checkbox.js"; import "./parts/components/hs-button.js";\n'
    )
    bundled("vite", parts + APPS[framework], **files)
    said = after(
        chromium,
        "await later(); const main = document.querySelector('main'), box = document.getElementById('box');"
        "const labels = () => [...main.querySelectorAll('hs-button')].map((one) => one.shadowRoot.getElementById('label').textContent);"
        "const found = [main.querySelector('output').textContent, labels()], [first] = main.querySelectorAll('hs-button');"
        "box.click(); await later(); found.push(main.querySelector('output').textContent, box.checked);"
        "app.turn(); await later(); const buttons = [...main.querySelectorAll('hs-button')];"
        "found.push(labels(), buttons.indexOf(first)); app.more(); await later(); found.push(labels());"
        "found.push(buttons.every((one) => one.matches(':state(kind-quiet)'))); return found;",
    )
    turned = ["Strand", "Holm", "Skerry"]
    assert said == [
        "off", turned[::-1], "on", "on", turned, 2, [*turned, "Ness"], True,
    ]  # fmt: skip


def test_two_versions_of_a_set_live_side_by_side(
    chromium, handed, ferry_once, layout_once, tmp_path
):
    """Under names of their own, with a runtime each."""
    for prefix in ("hs", "hsb"):
        made = hand_over(ferry_once, layout_once, Wanted(prefix=prefix))
        write(tmp_path / prefix, made.files)
    (tmp_path / "main.js").write_text(
        "".join(f'import "./{p}/components/{p}-checkbox.js";\n' for p in ("hs", "hsb"))
        + 'for (const name of ["hs-checkbox", "hsb-checkbox"]) document.body.append(document.createElement(name));'
    )
    (tmp_path / "page.html").write_text(
        '<!doctype html><meta charset="utf-8"><link rel="stylesheet" href="hs/tokens.css">'
        '<link rel="stylesheet" href="hsb/tokens.css"><body><script type="module" src="main.js"></script>'
    )
    server = serve(tmp_path)
    try:
        chromium.get(f"http://127.0.0.1:{server.server_port}/page.html")
        said = after(
            chromium,
            "await later(); const both = document.querySelectorAll('hs-checkbox, hsb-checkbox'), heard = [];"
            "for (const one of both) one.addEventListener('change', ({ target, detail }) => heard.push([target.localName, detail.value]));"
            "both[0].click(); await later(); const first = [...both].map((one) => one.checked);"
            "both[1].click(); await later();"
            "return [first, [...both].map((one) => one.checked), heard, both[0].getBoundingClientRect().width === both[1].getBoundingClientRect().width];",
        )
    finally:
        server.shutdown()
        server.server_close()
    heard = [["hs-checkbox", "on"], ["hsb-checkbox", "on"]]
    assert said == [["on", "off"], ["on", "on"], heard, True]
