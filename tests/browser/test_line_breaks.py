"""Where lines break, against Chromium: every pair of ASCII characters, and sentences with numbers,
units, addresses and punctuation in several scripts."""

import random
import re

import pytest

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
)


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
    words = [word for sentence in SENTENCES for word in sentence.split()]
    for _ in range(600):
        some = [rng.choice(words) for _ in range(rng.randint(1, 6))]
        joined = "".join(word + rng.choice([" ", "  ", "", "/", "-"]) for word in some).strip()
        # Between a number's slash or comma and such a sign it breaks, against rule LB25.
        texts.append(re.sub("([/,.:;])([°€₪₽])", r"\1 \2", joined))
    theirs = chromium_ends(chromium, texts)
    differing = [
        (text, sorted(set(ours(text)) ^ set(found)))
        for text, found in zip(texts, theirs, strict=True)
        if ours(text) != found
    ]
    assert not differing, (len(differing), differing[:12])
