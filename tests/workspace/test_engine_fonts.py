"""Fonts that come and go while texts are set: what is drawn is what an engine would draw that had
these fonts from the first."""

import random

import pytest
from immutables import Map

from outgrowth.core.document.records import Asset
from outgrowth.core.document.values import Run
from outgrowth.core.text import TextStyle
from outgrowth.core.text.fonts import FontBook, FontSource, describe_with_coverage
from outgrowth.resources import FONTS
from outgrowth.workspace.engine import Engine

FILES = {
    name: (FONTS / f"{name}.ttf").read_bytes()
    for name in (
        "AtkinsonHyperlegibleNext_400Regular", "AtkinsonHyperlegibleNext_700Bold",
        "NotoSansHebrew_400Regular", "NotoSansThai_400Regular", "NotoSansArabic_400Regular",
        "NotoSansDevanagari_400Regular", "TrialJapanese_400Regular",
    )
}  # fmt: skip
SPOKEN = (
    "Gate",
    "שער",
    "ท่าเรือ",
    "رصيف 3",
    "नाव",
    "港",
    "Gate שער",
    "נמל 港",
    "é–…",
    "👍",
    "ä\u0301",
)
FAMILIES = ("Figtree", "Atkinson Hyperlegible Next", "Noto Sans Hebrew", "Not here")
PLAIN = TextStyle("Figtree", 16.0, 400.0, 1.4, 0.0, "start")


def source(key, data, is_local=False):
    about, covers = describe_with_coverage(data, "font.ttf")
    return FontSource(key, about, lambda: data, covers, is_local)


LOCAL = {name: source(f"machine {name}", data, is_local=True) for name, data in FILES.items()}
ASSETS = {name: Asset(f"{name}.ttf", "font/ttf", data) for name, data in FILES.items()}


def small_engine(last=()) -> Engine:
    data = (FONTS / "Figtree_400Regular.ttf").read_bytes()
    japanese = source("shipped", FILES["TrialJapanese_400Regular"])
    sources = (source("figtree", data), *([japanese] if last else []))
    return Engine(FontBook(sources, ("Figtree",), last=last))


def drawn(engine, look, content):
    """What a text is drawn with: the files, and whether they are this machine's."""
    paragraph = engine.layout.typesetter.set(content, look, 200.0)
    files = [(face.key, face.is_local) for face in paragraph.faces]
    runs = [run.face.key for line in paragraph.lines for _, run in line.runs]
    return files, runs, paragraph.lacked, paragraph.width


@pytest.mark.parametrize("seed", range(60))
def test_fonts_that_come_and_go_leave_nothing_behind(seed):
    rng = random.Random(seed)
    last = rng.choice(((), ("Trial Japanese",)))
    engine, carried, installed = small_engine(last), [], []
    for _ in range(12):
        deed = rng.random()
        if deed < 0.2:
            carried = rng.sample(sorted(FILES), rng.randint(0, 3))
            engine.carry(Map({ASSETS[name].digest: ASSETS[name] for name in carried}))
        elif deed < 0.4:
            installed = rng.sample(sorted(FILES), rng.randint(0, 6))
            engine.install([LOCAL[name] for name in installed])
        text = rng.choice(SPOKEN)
        content = (Run(text, rng.random() < 0.3),)
        look = PLAIN._replace(
            family=rng.choice(FAMILIES),
            weight=rng.choice((400.0, 700.0)),
            italic=rng.random() < 0.2,
        )
        fresh = small_engine(last)
        fresh.carry(Map({ASSETS[name].digest: ASSETS[name] for name in carried}))
        fresh.install([LOCAL[name] for name in installed])
        assert drawn(engine, look, content) == drawn(fresh, look, content), (text, look)


def test_what_comes_behind_all_that_was_asked_sets_nothing_anew():
    engine = small_engine()
    engine.install([LOCAL["NotoSansHebrew_400Regular"]])
    paragraph = engine.layout.typesetter.set((Run("Gate שער"),), PLAIN, 200.0)
    layout = engine.layout
    names = ("NotoSansHebrew_400Regular", "NotoSansThai_400Regular")
    assert engine.install([LOCAL[name] for name in names])
    assert engine.layout is layout
    assert engine.layout.typesetter.set((Run("Gate שער"),), PLAIN, 200.0) is paragraph
    assert engine.install([LOCAL["NotoSansThai_400Regular"]])
    assert engine.layout is not layout
