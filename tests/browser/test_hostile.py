"""Everything a document says is data: no words, names, typefaces or pictures of it do anything
in a page or a drawing that was written from it. Chromium is the judge."""

import pytest
from immutables import Map

from outgrowth.core.document.records import Asset, Document, Node, Screen
from outgrowth.core.document.values import Picture, fixed, words
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.paint.draw import draw
from outgrowth.core.refusal import ValueRefusal
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.text import Typesetter

pytestmark = pytest.mark.browser

ATTACKS = (
    "<script>window.harmed = 1</script>",
    "</style><script>window.harmed = 1</script>",
    "';} @import url('http://127.0.0.1:9/a.css'); *{x:'",
    "x'; background: url(http://127.0.0.1:9/b.png); y: '",
    '"><img src=x onerror="window.harmed = 1">',
    "\\';alert(1)//",
    "]]><script>window.harmed = 1</script>",
    "a\nb\0c\u2028d",
)


def hostile():
    said = []
    for n, attack in enumerate(ATTACKS):
        style = {"content": words(attack), "font-family": attack, "label": attack}
        said.append(Node(f"t{n}", attack, "text", Map(style)))
        said.append(Node(f"s{n}", attack, "shape", Map({"path": "M0 0L9 9Z" + attack})))
        shown = {"picture": Picture(attack, 9.0, 9.0), "width": fixed(9.0)}
        said.append(Node(f"i{n}", attack, "image", Map(shown)))
    return add_screen(
        Document("Hostile"), Screen("s", ATTACKS[0], Node("r", "r", "box", Map(), tuple(said)))
    )


@pytest.fixture
def stages(fonts):
    document = hostile()
    scene = Resolver().screen(document, document.screens["s"])
    return document, scene, Layout(Typesetter(fonts)).place(scene.layout)


WATCH = """
return {
  harmed: window.harmed === undefined ? 0 : window.harmed,
  scripts: document.querySelectorAll('script').length,
  handlers: [...document.querySelectorAll('*')].filter(
    e => [...e.attributes].some(a => a.name.startsWith('on'))).length,
  imports: [...document.styleSheets].flatMap(s => [...s.cssRules]).filter(
    r => r.constructor.name === 'CSSImportRule').length,
  outside: performance.getEntriesByType('resource').map(e => e.name).filter(
    n => !n.startsWith('data:') && !n.startsWith('file:')).length,
};
"""
NOTHING = {"harmed": 0, "scripts": 0, "handlers": 0, "imports": 0, "outside": 0}


def test_no_word_of_a_document_does_anything_in_its_page(chromium, stages, tmp_path):
    document, scene, placed = stages
    file = tmp_path / "page.html"
    file.write_text(page(scene, placed, ATTACKS[1], document.assets))
    chromium.get(file.as_uri())
    assert chromium.execute_script(WATCH) == NOTHING
    shown = chromium.execute_script("return document.body.innerText")
    assert "<script>window.harmed = 1</script>" in shown


def test_nor_in_its_drawing(chromium, stages, tmp_path):
    document, scene, placed = stages
    fragment = draw(scene, placed)
    file = tmp_path / "drawing.svg"
    file.write_text(svg_of(fragment, fragment.bounds, document.assets))
    chromium.get(file.as_uri())
    assert chromium.execute_script(WATCH) == NOTHING
    assert chromium.execute_script("return document.documentElement.tagName") == "svg"


@pytest.mark.parametrize(
    "media", ['image/png"><script>', "text/html;x", "", "image", "IMAGE/PNG\n"]
)
def test_a_kind_of_data_that_is_none_cannot_be_held(media):
    with pytest.raises(ValueRefusal, match="no kind of data"):
        Asset("a.png", media, b"x")
