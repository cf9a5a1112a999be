"""What others say of the exported files: tools from npm, pinned in tools/web.

Sources: axe-core, the Custom Elements Manifest's JSON Schema, TypeScript's compiler, Style
Dictionary (a translator of design tokens), terser (whose output is the small runtime).
"""

from __future__ import annotations

import gzip
import json
import shutil
import subprocess
from pathlib import Path

import jsonschema
import pytest

from outgrowth.core.document.values import Token
from outgrowth.resources import WEB
from tests.browser.web.elements import page_of_elements

TOOLS = Path(__file__).parents[3] / "tools" / "web"
MODULES = TOOLS / "node_modules"

pytestmark = [
    pytest.mark.browser,
    pytest.mark.skipif(not MODULES.is_dir() or not shutil.which("node"), reason="no npm here"),
]


def run(*command, folder):
    """A tool's output. What it says is in the failure."""
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout[-3000:] + done.stderr[-3000:]
    return done.stdout


AXE = """
const done = arguments[0];
axe.run(document, { resultTypes: ["violations"] }).then((found) =>
  done(found.violations.map((one) => [one.id, one.help, one.nodes.map((node) => [node.target.flat().join(" "), node.failureSummary.slice(0, 160)])])));
"""


def test_axe_finds_nothing_in_any_component_or_screen(chromium, handed, ferry_once):
    """Colours are the designer's: what they lack is told by Review, not by the code."""
    source = (MODULES / "axe-core" / "axe.min.js").read_text()
    found = {}
    owners = [handed.made.names.owners[c.id].element for c in ferry_once.in_order()]
    for element in owners:
        page_of_elements(handed.folder, "axe-page", [element])
        page = handed.folder / "axe-page.html"
        page.write_text(
            page.read_text().replace(
                "<body>", f"<body><main><h1>Elements</h1><{element}></{element}></main>"
            )
        )
        chromium.get(f"{handed.address}axe-page.html")
        chromium.execute_async_script(
            "customElements.whenDefined(arguments[0]).then(() => requestAnimationFrame(arguments[1]))",
            element,
        )
        found[element] = judged(chromium, source)
    for screen in ferry_once.screens_in_order():
        name = handed.made.names.owners[screen.id].element
        chromium.get(f"{handed.address}screens/{name}.html")
        found[name] = judged(chromium, source)
    chromium.get(f"{handed.address}index.html")
    found["index"] = judged(chromium, source)
    told = {name: said for name, said in found.items() if said}
    assert not told, json.dumps(told, indent=1)[:6000]


def judged(chromium, source):
    chromium.execute_script(source)
    said = chromium.execute_async_script(AXE)
    return [one for one in said if one[0] not in DESIGN]


# What a designer decides on a screen, not the code: contrast of colours, headings' ranks.
DESIGN = {"color-contrast"}


def test_the_manifest_is_valid(handed):
    schema = json.loads((MODULES / "custom-elements-manifest" / "schema.json").read_text())
    manifest = json.loads(handed.made.files["custom-elements.json"])
    jsonschema.validate(manifest, schema)
    names = {d["tagName"] for m in manifest["modules"] for d in m["declarations"]}
    assert "hs-button" in names
    assert len(names) == len(handed.made.codes)


def test_the_declarations_compile_in_strict_typescript(handed, tmp_path):
    for path, data in handed.made.files.items():
        if path.endswith(".d.ts"):
            file = tmp_path / path
            file.parent.mkdir(exist_ok=True)
            file.write_bytes(data)
    (tmp_path / "use.ts").write_text(
        'import "./components/hs-notice.js";\nimport "./components/hs-button.js";\n'
        'const notice = document.createElement("hs-notice");\nnotice.open = true;\n'
        'notice.addEventListener("toggle", (event) => { const value: string = event.detail.value; notice.title = value; });\n'
        'const button = document.createElement("hs-button");\nbutton.kind = "quiet";\nbutton.label = "Board";\n'
        '// @ts-expect-error there is no such kind\nbutton.kind = "loud";\n'
    )
    settings = {"compilerOptions": {"strict": True, "noEmit": True, "target": "es2022", "module": "es2022",
                "moduleResolution": "bundler", "lib": ["es2022", "dom"], "types": []}, "include": ["**/*.ts"]}  # fmt: skip
    (tmp_path / "tsconfig.json").write_text(json.dumps(settings))
    run(str(MODULES / ".bin" / "tsc"), "-p", ".", folder=tmp_path)


TRANSLATE = """
import StyleDictionary from "style-dictionary";
const sd = new StyleDictionary({ source: [process.argv[2]], usesDtcg: true, log: { verbosity: "silent" },
  platforms: { plain: { transforms: ["name/kebab"] } } });
const { allTokens } = await sd.getPlatformTokens("plain");
console.log(JSON.stringify(Object.fromEntries(allTokens.map((t) => [t.path.join("."), [t.$type ?? t.type, t.$value ?? t.value]]))));
"""


def test_a_translator_reads_our_tokens_and_gives_the_same_values(handed, ferry_once, tmp_path):
    (tmp_path / "tokens.json").write_bytes(handed.made.files["tokens.json"])
    script = TOOLS / ".translate.mjs"
    script.write_text(TRANSLATE)
    try:
        read = json.loads(run("node", str(script), str(tmp_path / "tokens.json"), folder=TOOLS))
    finally:
        script.unlink()
    for path, token in ferry_once.tokens.items():
        value = token.value
        while isinstance(value, Token):
            value = ferry_once.tokens[value.path].value
        kind, theirs = read[path]
        if kind == "color":
            given = theirs["components"] if isinstance(theirs, dict) else theirs
            ours = (value.red, value.green, value.blue)
            assert all(abs(a - b) < 1e-5 for a, b in zip(given, ours, strict=True))
    assert set(read) == set(ferry_once.tokens)


def test_the_small_runtime_is_the_source_made_small():
    small = run("node", str(TOOLS / "smaller.mjs"), str(WEB / "runtime.js"), folder=TOOLS)
    assert small.strip() == (WEB / "runtime.min.js").read_text().strip(), "run bin/runtime"
    # 8 kB was aimed at (docs/measured.md says what there is).
    assert len(gzip.compress((WEB / "runtime.min.js").read_bytes(), 9)) <= 14_300
