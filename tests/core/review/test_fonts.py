"""Fonts that only the machine has are told, and one press carries them in the file."""

from demo.drawing import box, text
from outgrowth.core.document.records import Component, Document
from outgrowth.core.edits.tree.components import add_component
from outgrowth.core.exchange.fonts import carried
from outgrowth.core.layout import Layout
from outgrowth.core.review.reviewer import Reviewer
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FontBook, installed, shipped
from outgrowth.resources import FONTS


def told(document: Document, book: FontBook) -> dict[str, list]:
    findings = Reviewer(Layout(Typesetter(book))).findings(document)
    return {
        kind: [f for f in findings if f.kind == kind]
        for kind in ("letters-missing", "font-not-carried")
    }


def test_a_font_of_this_machine_is_told_and_carried_in(tmp_path):
    (tmp_path / "hebrew.ttf").write_bytes((FONTS / "NotoSansHebrew_400Regular.ttf").read_bytes())
    sources = [f for f in shipped(FONTS)._sources if f.described.family == "Figtree"]
    plain = FontBook(sources, ("Figtree",))
    sign = Component("sign", "Sign", box("root", text("words", "Gate שער")))
    document = add_component(Document("Quay"), sign)
    lacking = told(document, plain)["letters-missing"]
    assert len(lacking) == 1 and "“שער”" in lacking[0].text

    book = plain.also(installed([tmp_path]))
    found = told(document, book)
    assert not found["letters-missing"]
    (finding,) = found["font-not-carried"]
    assert "“Noto Sans Hebrew”" in finding.text
    mended = finding.mend.change(document)
    book = plain.also(carried(mended.assets), first=True).also(installed([tmp_path]))
    assert told(mended, book) == {"letters-missing": [], "font-not-carried": []}
