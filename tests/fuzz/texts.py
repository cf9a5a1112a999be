"""Random texts of the world set by us and, from our own web page of them, by Chromium: which
letters stand in which line, and from where to where each line goes.

Fonts for all writings come from npm (`tools/web`); what has none there is set in what is shipped.
"""

from __future__ import annotations

import random
import re
import tempfile
from functools import cache
from pathlib import Path

from outgrowth.core.document.values import FIT, Run, Size
from outgrowth.core.text.fonts import FontBook, FontSource, asked_in_turn, describe_with_coverage
from tests.fuzz.layout import TOLERANCE, Judge
from tests.fuzz.sentences import SENTENCES

FOLDER = Path(__file__).parents[2] / "tools" / "web" / "node_modules" / "@expo-google-fonts"
_WEIGHTS = ("400Regular", "700Bold")
WITHOUT_FONT = frozenset(("ja", "zh"))
"""Languages whose fonts are too large to be fetched for tests."""
LANGUAGES = sorted(SENTENCES.keys() - WITHOUT_FONT)


@cache
def language_fonts() -> tuple[FontSource, ...]:
    """Fonts for the writings of `LANGUAGES`; none where they were not fetched."""
    sources = []
    paths = (path for weight in _WEIGHTS for path in sorted(FOLDER.glob(f"*/{weight}/*.ttf")))
    for path in paths:
        data = path.read_bytes()
        about, covers = describe_with_coverage(data, path.name)
        sources.append(FontSource(path.name, about, lambda d=data: d, covers))
    return tuple(sources)


def phrase(rng: random.Random, language: str) -> str:
    """A sentence, a part of one, or several."""
    found = [rng.choice(SENTENCES[language]) for _ in range(rng.choice((1, 1, 1, 2, 3)))]
    text = " ".join(found)
    if rng.random() < 0.3:
        words = text.split(" ")
        text = " ".join(words[: rng.randint(1, len(words))])
    return text


def content(rng: random.Random, languages: list[str]) -> tuple[Run, ...]:
    """Words of one language or of several, with runs that begin anywhere."""
    language = rng.choice(languages)
    parts = [phrase(rng, language)]
    while rng.random() < 0.25:
        parts.append(phrase(rng, rng.choice(("en", *languages))))
    text = rng.choice((" ", " ", ", ", " – ", "")).join(parts)
    if rng.random() < 0.15:
        text += rng.choice((" 20 °C", " −5", " 10–12", " (3)", " 50%", "…", " :-)", "!", "\u200f"))
    if rng.random() < 0.05:
        at = rng.randint(0, len(text))
        text = text[:at] + rng.choice("\n\u00ad\u200b\u00a0\u2060\u200d") + text[at:]
        # Spaces at the edges of a line have a place of which the judge knows nothing.
        text = re.sub("[ \u00a0]*\n[ \u00a0]*", "\n", text).strip(" \u00a0\n")
    if rng.random() < 0.25 and len(text) > 2:
        cut = rng.randint(1, len(text) - 1)
        look = rng.choice(({"bold": True}, {"italic": True}, {"bold": True, "italic": True}))
        return Run(text[:cut]), Run(text[cut:], **look)
    return (Run(text),)


def text_style(rng: random.Random, languages: list[str]) -> dict:
    """A text's words and look."""
    style = {
        "content": content(rng, languages),
        "font-size": rng.choice((12.0, 14.0, 16.0, 20.0, 28.0)),
        "width": rng.choice(
            (FIT, FIT, Size("grow", 1.0), Size("fixed", float(rng.randint(20, 240))))
        ),
    }
    if rng.random() < 0.3:
        style["font-family"] = rng.choice(("Atkinson Hyperlegible Next", "Noto Sans"))
    if rng.random() < 0.2:
        style["font-weight"] = rng.choice((500.0, 600.0, 700.0))
    if rng.random() < 0.1:
        style["font-style"] = "italic"
    if rng.random() < 0.2:
        style["letter-spacing"] = rng.choice((-0.5, 0.4, 1.2, 3.0))
    if rng.random() < 0.15:
        style["letter-case"] = rng.choice(("uppercase", "lowercase", "capitalize"))
    if rng.random() < 0.2:
        style["text-align"] = rng.choice(("center", "end"))
    if rng.random() < 0.15:
        style["break-words"] = True
    if rng.random() < 0.12:
        style["max-lines"] = float(rng.randint(1, 3))
    elif rng.random() < 0.1:
        style["trim"] = "letters"
    return style


def tree(rng: random.Random, languages: list[str] | None = None, most: int = 8):
    """A column of texts."""
    languages = languages or rng.sample(LANGUAGES, 3)
    texts = tuple(("text", text_style(rng, languages), ()) for _ in range(rng.randint(2, most)))
    width = float(rng.choice((120, 200, 320, 480)))
    return "box", {"flow": "column", "width": Size("fixed", width), "gap": 4.0}, texts


_LINES = """
const range = document.createRange();
return [...document.querySelectorAll("[data-at]")].filter(e => e.dataset.at !== "").map(element => {
  const walker = document.createTreeWalker(element, NodeFilter.SHOW_TEXT), lines = [];
  const left = element.getBoundingClientRect().x;
  for (let node; node = walker.nextNode();) {
    for (let n = 0; n < node.length; n++) {
      if (/[\\s\\u00ad\\u200b-\\u200f\\u2028\\u2060]/.test(node.data[n])) continue;
      let end = n + 1;
      if (/[\\ud800-\\udbff]/.test(node.data[n])) end++;
      range.setStart(node, n); range.setEnd(node, end);
      for (const r of range.getClientRects()) {
        if (!r.width && r.height === 0) continue;
        const middle = r.y + r.height / 2, last = lines[lines.length - 1];
        if (last && Math.abs(last.y - middle) < r.height / 3) {
          last.text += node.data.slice(n, end);
          last.from = Math.min(last.from, r.x - left);
          last.to = Math.max(last.to, r.right - left);
        } else {
          lines.push({y: middle, text: node.data.slice(n, end), from: r.x - left, to: r.right - left});
        }
        break;
      }
      n = end - 1;
    }
  }
  return [element.dataset.at, lines.map(l => [l.text, l.from, l.to])];
});
"""
_UNSEEN = re.compile(r"[\s\u00ad\u200b-\u200f\u2028\u2060]")


class TextJudge(Judge):
    """Compares texts with a running Chromium, line by line."""

    def lines_of(self) -> dict[str, list]:
        """Chromium's lines of the texts of the page that it shows."""
        return dict(self._chromium.execute_script(_LINES))

    def text_differences(self, tree) -> list[str]:
        """What differs: rectangles, and lines where those are the same."""
        found = [f"{at}: {ours} here, {theirs}" for at, ours, theirs in self.differences(tree)]
        _, placed = self.laid(tree)
        theirs = self.lines_of()
        for n, child in enumerate(placed.children):
            style = tree[2][n][1]
            spoken = "".join(run.text for run in style["content"])
            if style.get("max-lines") or child.text is None or "\u00ad" in spoken:
                continue  # what is cut off is still there in a page, and hyphens have no place
            ours = [line for line in child.text.lines if _UNSEEN.sub("", line.text)]
            said = theirs.get(str(n), [])
            if len(ours) != len(said):
                found.append(f"{n}: {len(ours)} lines here, {[one[0] for one in said]} there")
                continue
            for line, (text, start, end) in zip(ours, said, strict=True):
                shown = _UNSEEN.sub("", line.text)
                if style.get("letter-case", "none") == "none" and shown != text:
                    found.append(f"{n}: “{shown}” here, “{text}” there")
                    break
                left, right = ink_of(line)
                if abs(left - start) > TOLERANCE or abs(right - end) > TOLERANCE:
                    found.append(
                        f"{n}: “{shown}” {left:.2f} to {right:.2f} here, {start:.2f} to {end:.2f}"
                    )
                    break
        return found


def ink_of(line) -> tuple[float, float]:
    """From where to where the letters of a line go."""
    starts = [x for x, run in line.runs] or [0.0]
    ends = [x + run.advance for x, run in line.runs] or [0.0]
    return min(starts), max(ends)


def book(fonts: FontBook) -> FontBook:
    """The fonts with those of all languages."""
    return fonts.also(asked_in_turn(language_fonts()), first=True)


def run(seed: int, count: int):
    """How many columns of texts were compared, and each that differs."""
    from outgrowth.core.text.fonts import shipped
    from outgrowth.resources import FONTS
    from tests.browser.conftest import started
    from tests.fuzz.report import Failure

    with tempfile.TemporaryDirectory() as folder:
        chromium = started(folder)
        try:
            judge = TextJudge(chromium, book(shipped(FONTS)), Path(folder))
            for n in range(count):
                texts = tree(random.Random(seed + n))
                differing = judge.text_differences(texts)
                failure = None
                if differing:
                    failure = Failure("texts", seed + n, differing[0], f"{texts!r}\n\n{differing}")
                yield n + 1, failure
        finally:
            chromium.quit()
