"""Where lines break, against Chromium: every pair of ASCII characters, and sentences with numbers,
units, addresses and punctuation in several scripts."""

import base64
import random
import re

import pytest

from outgrowth.core.document.values import words
from outgrowth.core.text import TextStyle, Typesetter
from outgrowth.core.text.breaking import ends

pytestmark = pytest.mark.browser

# In a paragraph without width, every letter that begins a line stands lower than the one before.
_BROKEN = """
const p = document.createElement("p"), range = document.createRange();
p.style.cssText = "width:0;margin:0;font:20px monospace;white-space:pre-wrap";
document.body.append(p);
return arguments[0].map(text => {
  p.textContent = text;
  const node = p.firstChild, found = [];
  let before = null;
  for (let n = 0; n < text.length; n++) {
    if (text[n] === " ") continue;
    range.setStart(node, n); range.setEnd(node, n + 1);
    const top = range.getBoundingClientRect().top;
    if (before !== null && top > before + 1) found.push(n);
    before = top;
  }
  return found;
});
"""

SENTENCES = (
    "and/or A/B C++ a|b 10:15-11:45, 1-2 -5 +3 50% $4.20 (9 kg) [see p. 3] e.g. 3.5x",
    "See boats/holm?day=2&seat=4#top or write to quay@skerry: 10 ½ km – 5 °C!",
    "“Gate 3” – or ‘4’; really? Yes… no: wait/stay. {a} <b> ~c `d` ^e",
    "Überfahrt nach Skerry: 12,50 €, ab 6 Jahren (ermäßigt 8 €) – täglich.",
    "Traversée à 7 h 30 ; arrivée « vers midi » !",
    "Паром отходит в 10:15—11:45, место №4, цена 350 ₽ (со скидкой 20 %).",
    "Το πλοίο φεύγει στις 10:15· θέση 4, τιμή 12,50 €;",
    "הסירה יוצאת ב-10:15, מחיר 45 ₪ (הנחה 20%).",
    "船は10:15に出航、料金は1,200円（子供500円）。「静かな海」でした！3番乗り場へどうぞ…",
    "배는 10:15에 출발, 요금 12,000원(어린이 5,000원). “조용한 바다”라고 했다!",
    "नाव 10:15 बजे चलती है, किराया ₹120 (बच्चे 50%)। घाट-3 से चढ़ें!",
    "تغادر السفينة 10:15، السعر 45 درهم (خصم 20%) — رصيف 3؛ هل البحر هادئ؟",
    "გემი გადის 10:15-ზე, ფასი 12,50 ₾ (ბავშვი 5 ₾) – ნავმისადგომი №3.",
    "Նավը մեկնում է 10:15-ին, գինը 450 ֏ (երեխա՝ 200)։ «Հանգիստ ծով»։",
    "Prom odpływa o 10:15, cena 12,50 zł (ulgowy 8 zł) – nabrzeże nr 3; „spokojne morze”!",
    "Tàu rời bến lúc 10:15, giá 120.000₫ (trẻ em 50%) – cầu cảng số 3.",
)
"""Fourteen languages in eleven scripts. Thai and its like are left out: there a browser asks a
dictionary."""


def chromium_ends(chromium, texts):
    chromium.get("data:text/html;charset=utf-8,<body></body>")
    return chromium.execute_script(_BROKEN, texts)


def ours(text):
    return [end for end in ends(text) if end < len(text)]


# Source: Debian's Chromium.
def test_every_pair_of_ascii_breaks_as_in_chromium(chromium):
    letters = [chr(n) for n in range(33, 127)]
    for before, after in (("nn", "nn"), ("1", "1"), ("(", ")"), ("a ", " b")):
        texts = [f"{before}{a}{b}{after}" for a in letters for b in letters]
        theirs = chromium_ends(chromium, texts)
        differing = [t for t, found in zip(texts, theirs, strict=True) if ours(t) != found]
        assert not differing


# Source: Debian's Chromium.
def test_sentences_break_as_in_chromium(chromium):
    rng, texts = random.Random(3), list(SENTENCES)
    pieces = [word for sentence in SENTENCES for word in sentence.split()]
    for _ in range(600):
        some = [rng.choice(pieces) for _ in range(rng.randint(1, 6))]
        joined = "".join(word + rng.choice([" ", "  ", "", "/", "-"]) for word in some).strip()
        # Between a number's slash or comma and such a sign it breaks, against rule LB25.
        texts.append(re.sub("([/,.:;])([°€₪₽₾₫])", r"\1 \2", joined))
    theirs = chromium_ends(chromium, texts)
    differing = [
        (text, sorted(set(ours(text)) ^ set(found)))
        for text, found in zip(texts, theirs, strict=True)
        if ours(text) != found
    ]
    assert not differing, (len(differing), differing[:12])


_LINES = """
const [texts, done] = arguments;
document.fonts.ready.then(() => {
  const p = document.createElement("div"), range = document.createRange();
  document.body.replaceChildren(p);
  done(texts.map(([text, size, width, anywhere]) => {
    p.style.cssText = `font: ${size}px/1.4 Figtree; white-space: pre-wrap; width: ${width}px;` +
      (anywhere ? "overflow-wrap: anywhere" : "");
    p.textContent = text;
    const lines = [];
    let before = null;
    for (let n = 0; n < text.length; n++) {
      range.setStart(p.firstChild, n); range.setEnd(p.firstChild, n + 1);
      const rects = range.getClientRects();
      const top = rects.length ? rects[rects.length - 1].top : before;
      if (before === null || top > before + 3) lines.push("");
      lines[lines.length - 1] += text[n];
      before = top;
    }
    return lines.map(line => line.trim());
  }));
});
"""
LATIN = (
    "inter\u00adisland ser\u00advice", "Departure 10:15-11:45", "Mail, freight & cars",
    "The sea is calm today", "north-west inter\u00adisland", "Longestwordofall and more",
    "a\u00adb\u00adc dd\u00adee", "Überfahrt nach Skerry: 12,50 € – täglich",
    "Traversée à 7 h 30 !",
)  # fmt: skip


# Source: Debian's Chromium.
def test_lines_of_twelve_widths_end_as_in_chromium(chromium, fonts, tmp_path):
    setter, rng = Typesetter(fonts), random.Random(9)
    face = fonts.primary("Figtree", 400.0, False)
    file = tmp_path / "lines.html"
    data = base64.b64encode(face.data).decode()
    style = f"@font-face {{ font-family: Figtree; src: url(data:font/ttf;base64,{data}) }}"
    file.write_text(f"<!doctype html><style>{style} * {{ margin: 0 }}</style><p>x")
    asked = []
    for _ in range(60):
        text = " ".join(rng.choice(LATIN) for _ in range(rng.randint(1, 3)))
        size, anywhere = rng.choice((11, 14, 16, 40)), rng.random() < 0.5
        for _ in range(12):
            asked.append((text, size, round(rng.uniform(0, 16 * size) * 64) / 64, anywhere))
    chromium.get(file.as_uri())
    chromium.execute_async_script(_LINES, asked[:1])
    theirs = chromium.execute_async_script(_LINES, asked)
    differing = []
    for (text, size, width, anywhere), found in zip(asked, theirs, strict=True):
        look = TextStyle("Figtree", float(size), 400.0, 1.4, 0.0, "start", break_words=anywhere)
        lines = [line.text.strip() for line in setter.set(words(text), look, width).lines]
        if lines != found:
            differing.append((text, size, width, anywhere, lines, found))
    assert not differing, (len(differing), differing[:3])
