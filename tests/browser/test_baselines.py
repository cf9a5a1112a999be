"""Where a line's letters stand, against Chromium: sizes, line heights and typefaces at random."""

import random

import pytest

from outgrowth.core.document.values import words
from outgrowth.core.exchange.web.page import _font_face
from outgrowth.core.text import Typesetter
from outgrowth.core.text.paragraph import TextStyle

pytestmark = pytest.mark.browser

_READ = """
const done = arguments[arguments.length - 1];
document.fonts.ready.then(() => done([...document.querySelectorAll("p")].map(p => {
  const top = p.getBoundingClientRect().top;
  return [...p.querySelectorAll("i")].map(mark => mark.getBoundingClientRect().bottom - top);
})));
"""


# Source: Debian's Chromium. An inline block without content stands with its lower edge on the
# baseline (CSS 2.2, section 10.8.1).
def test_baselines_are_chromiums(chromium, fonts, tmp_path):
    rng, setter, styles = random.Random(5), Typesetter(fonts), []
    for family in ("Figtree", "Atkinson Hyperlegible Next"):
        for _ in range(120):
            size = rng.choice([11.0, 12.0, 13.0, 14.0, 15.0, 16.0, 17.5, 20.0, 24.0, 33.3, 48.0])
            line = rng.choice([1.0, 1.15, 1.2, 1.25, 1.3, 1.4, 1.5, 1.6, 1.75, 2.0, 0.8])
            weight = rng.choice([400.0, 700.0])
            styles.append(TextStyle(family, size, weight, line, 0.0, "start"))
    faces = {setter.fonts.primary(s.family, s.weight, s.italic).key for s in styles}
    used = [setter.fonts.primary(s.family, s.weight, s.italic) for s in styles]
    rules = "".join(_font_face(face) for face in {face.key: face for face in used}.values())
    assert len(faces) == 4
    mark = "<i style='display:inline-block;width:0;height:0'></i>"
    lines = [
        f"<p style='margin:0;font:{s.weight:g} {s.size:g}px/{s.line_height:g} \"{s.family}\"'>"
        f"{mark}Gate<br>{mark}Berth</p>"
        for s in styles
    ]
    file = tmp_path / "lines.html"
    file.write_text(f"<!doctype html><meta charset=utf-8><style>{rules}</style>{''.join(lines)}")
    chromium.get(file.as_uri())
    theirs = chromium.execute_async_script(_READ)
    off = []
    for style, measured in zip(styles, theirs, strict=True):
        ours = [line.baseline for line in setter.set(words("Gate\nBerth"), style, 1e9).lines]
        off += [abs(a - b) for a, b in zip(ours, measured, strict=True)]
    # Their line tops stand on 64ths of a px.
    assert max(off) <= 1 / 32
