"""What Review says of contrast, target size and names, beside axe-core on the exported page of the
same parts. Source: axe-core (npm, pinned in tools/web), rules color-contrast, target-size,
button-name and link-name."""

from __future__ import annotations

import random
import shutil

import pytest

from demo.drawing import box, instance, text
from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.edits.tree.components import add_component, add_screen
from outgrowth.core.exchange.output import write
from outgrowth.core.exchange.web.files import hand_over
from outgrowth.core.review.reviewer import review
from tests.browser.web.conftest import serve
from tests.browser.web.test_judges import MODULES

pytestmark = [
    pytest.mark.browser,
    pytest.mark.skipif(not MODULES.is_dir() or not shutil.which("node"), reason="no npm here"),
]

AXE = """
const [rules, done] = arguments;
axe.run(document, { runOnly: { type: "rule", values: rules } }).then((found) => {
  const said = {};
  for (const kind of ["passes", "violations", "incomplete"]) for (const one of found[kind])
    for (const node of one.nodes) said[`${one.id} ${node.target.flat().at(-1)}`] = kind;
  done(said);
});
"""


@pytest.fixture
def judged(chromium, layout_once, tmp_path):
    """Hands a document over, opens its one screen, and asks axe."""
    servers = []

    def judge(document, rules):
        made = hand_over(document, layout_once)
        write(tmp_path / document.name, made.files)
        server = serve(tmp_path / document.name)
        servers.append(server)
        screen = made.names.owners[document.screen_order[0]].element
        chromium.get(f"http://127.0.0.1:{server.server_port}/screens/{screen}.html")
        chromium.execute_async_script(
            "document.fonts.ready.then(() => setTimeout(arguments[0], 300))"
        )
        chromium.execute_script((MODULES / "axe-core" / "axe.min.js").read_text())
        return chromium.execute_async_script(AXE, rules)

    yield judge
    for server in servers:
        server.shutdown()
        server.server_close()


def hex_of(chance, alpha=False):
    color = f"#{chance.randrange(1 << 24):06X}"
    return f"{color}{chance.randrange(90, 256):02X}" if alpha else color


def worded(seed):
    """A screen of texts in colours of all kinds, on grounds that lie over one another."""
    chance = random.Random(seed)
    rows = []
    for n in range(90):
        size = chance.choice((12, 16, 18, 19, 24, 30))
        weight = chance.choice((400, 700))
        words = text(
            f"t{n}", "Sailing at ten", color=hex_of(chance, chance.random() < 0.3), font_size=size,
            font_weight=weight,
        )  # fmt: skip
        inner = box(f"in{n}", words, fill=hex_of(chance, chance.random() < 0.4), padding=(4, 6))
        rows.append(box(f"out{n}", inner, fill=hex_of(chance), padding=(3, 5)))
    root = box("page", *rows, flow="column", fill="#FFFFFF", width=600)
    return add_screen(Document(f"words-{seed}"), Screen("page", "Page", root))


@pytest.mark.parametrize("seed", range(3))
def test_axe_agrees_about_contrast(judged, layout_once, seed):
    document = worded(seed)
    said = judged(document, ["color-contrast"])
    poor = {f.node[-1] for f in review(document, layout_once, ("contrast",))}
    verdicts = {key.rpartition("#")[2]: kind for key, kind in said.items()}
    asked = {f"t{n}" for n in range(90)}
    unsure = {n for n, kind in verdicts.items() if kind == "incomplete"}
    theirs = {n for n, kind in verdicts.items() if kind == "violations"}
    compared = asked - unsure
    assert len(compared & verdicts.keys()) > 80
    assert poor & compared == theirs & compared, (poor ^ theirs) & compared
    assert 20 < len(theirs) < 85


def targeted(seed):
    """Rows of small buttons, near and far from one another."""
    chance = random.Random(seed)
    document = Document(f"targets-{seed}")
    sides = (14, 18, 22, 24, 30)
    for side in sides:
        root = box(f"b{side}", fill="#14252B", width=side, height=side, role="button", label="Go")
        document = add_component(document, Component(f"b{side}", f"Target {side}", root))
    rows = []
    for n in range(14):
        gap = chance.choice((0, 2, 6, 12, 30))
        parts = [
            instance(f"r{n}p{m}", f"b{chance.choice(sides)}", label=f"Go {n} {m}") for m in range(3)
        ]
        rows.append(box(f"r{n}", *parts, gap=gap, padding=(20, 20)))
    root = box("page", *rows, flow="column", fill="#FFFFFF", width=600)
    return add_screen(document, Screen("page", "Page", root))


@pytest.mark.parametrize("seed", range(4))
def test_axe_agrees_about_target_size(judged, layout_once, seed):
    document = targeted(seed)
    said = judged(document, ["target-size"])
    small = {
        f.node[-1] for f in review(document, layout_once, ("targets",)) if f.kind == "target-small"
    }
    theirs = {key.rpartition("#")[2] for key, kind in said.items() if kind == "violations"}
    assert len(said) == 42
    assert small == theirs, small ^ theirs


def test_axe_agrees_about_names(judged, layout_once):
    document = Document("names")
    for n, (role, label) in enumerate(
        [("button", ""), ("button", "Go"), ("link", ""), ("link", "Timetable")]
    ):
        spoken = {"label": label} if label else {}
        root = box(f"n{n}", fill="#14252B", width=44, height=44, role=role, **spoken)
        document = add_component(document, Component(f"n{n}", f"Name {n}", root))
    parts = [instance(f"i{n}", f"n{n}") for n in range(4)]
    root = box("page", *parts, gap=8, fill="#FFFFFF", width=600)
    document = add_screen(document, Screen("page", "Page", root))
    found = {f.owner for f in review(document, layout_once, ("names",)) if f.kind == "name-missing"}
    assert found == {"n0", "n2"}
    # Explained: an element that says nothing is called by its component's own name in the code.
    said = judged(document, ["button-name", "link-name", "aria-command-name"])
    assert not [key for key, kind in said.items() if kind == "violations"]
