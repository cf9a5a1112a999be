"""Random texts in twenty-two languages, with the fonts that they need, against Chromium: boxes,
which letters stand in which line, and from where to where each goes. bin/fuzz texts makes as many
as one likes."""

import random

import pytest

from tests.fuzz.texts import LANGUAGES, TextJudge, book, language_fonts, tree

pytestmark = [
    pytest.mark.browser,
    pytest.mark.skipif(
        not language_fonts(), reason="the fonts of other languages were not fetched"
    ),
]


@pytest.fixture
def judge(chromium, fonts, tmp_path):
    return TextJudge(chromium, book(fonts), tmp_path)


DIVIDED_OTHERWISE = {"km", "lo"}
"""Khmer and Lao: words are divided by ICU's dictionary, and Chromium has one of its own, which
divides some of these words elsewhere."""


# Source: Debian's Chromium.
@pytest.mark.parametrize("language", [one for one in LANGUAGES if one not in DIVIDED_OTHERWISE])
def test_texts_of_a_language_are_set_as_in_chromium(judge, language):
    """Five columns of a language alone; the sentences are the ferry line's."""
    seeds = range(100, 105)
    found = {n: judge.text_differences(tree(random.Random(n), [language])) for n in seeds}
    assert not {n: differing for n, differing in found.items() if differing}
