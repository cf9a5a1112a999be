"""Which letters are made large in words, against Chromium, whose innerText has them."""

import random

import pytest

from outgrowth.core.document.values import Run
from outgrowth.core.text.paragraph import capitalized, cased

pytestmark = pytest.mark.browser

_READ = """
const p = document.createElement("p");
p.style.cssText = "text-transform:capitalize;white-space:pre-wrap";
document.body.append(p);
return arguments[0].map(text => { p.textContent = text; return p.innerText; });
"""
PIECES = ["don't", "o’clock", "l'été", "'tis", "well", "known", "3rd", "x2y", "e.g.", "c_d", "ß"]
PIECES += ["über", "ǆ", "ﬁne", "a\u0301b", "éa", "ferry·line", "פה", "паром", "5pm", "$x", "__init"]


# Source: Debian's Chromium.
def test_words_are_capitalized_as_in_chromium(chromium):
    rng = random.Random(2)
    joints = [" ", "-", "/", ".", ",", ":", "–", "…", " (", ") ", "“", "\u00a0", "@", "#", "+"]
    texts = [
        "".join(rng.choice(PIECES) + rng.choice(joints) for _ in range(rng.randint(1, 5))) + "end"
        for _ in range(500)
    ]
    chromium.get("data:text/html;charset=utf-8,<body></body>")
    theirs = chromium.execute_script(_READ, texts)
    differing = [
        (text, capitalized(text), found)
        for text, found in zip(texts, theirs, strict=True)
        if capitalized(text) != found
    ]
    assert not differing, (len(differing), differing[:8])


def test_a_run_that_begins_inside_a_word_goes_on_with_it():
    runs = Run("the fer"), Run("ry o", bold=True), Run("'clock")
    assert [run.text for run in cased(runs, "capitalize")] == ["The Fer", "ry O", "'clock"]
