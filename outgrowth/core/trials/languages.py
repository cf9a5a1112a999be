"""Words of other languages, about as many as there were, and a made-up language of one's own.

The passages are the ferry line's own. How long each language is beside English is common
practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from outgrowth.core.text.characters import line_ends

Reword = Callable[[str], str]

ARABIC = (
    "تغادر العبارة الأخيرة من الميناء عند العاشرة مساء والبحر هادئ الليلة "
    "نرجو الانتظار عند الرصيف الثالث"
)
HEBREW = "המעבורת האחרונה יוצאת מן הנמל בשעה עשר בערב והים שקט הלילה נא להמתין ברציף השלישי"
HINDI = "अंतिम नौका रात दस बजे बंदरगाह से चलती है और समुद्र शांत है कृपया तीसरे घाट पर प्रतीक्षा करें"
THAI = "เรือเที่ยวสุดท้ายออกจากท่าเวลาสี่ทุ่มทะเลสงบกรุณารอที่ท่าเรือหมายเลขสามขอบคุณครับ"
JAPANESE = (
    "最終便は夜十時に港を出ます。今夜の海は静かです。三番乗り場でお待ちください。"
    "取り消しもできます。"
)
CHINESE = "今晚最后一班渡轮十点从港口出发海面平静请提前到达码头候船谢谢"
GERMAN = (
    "Die letzte Überfahrt beginnt um zweiundzwanzig Uhr am Fährhafen die See ist ruhig bitte "
    "halten Sie Ihre Fahrgastberechtigung bereit Platzreservierungsbestätigung ermäßigt"
)
POLISH = (
    "Ostatni prom odpływa o dziesiątej wieczorem z przystani morze jest spokojne prosimy czekać "
    "przy trzecim nabrzeżu dziękujemy za wcześniejsze przyjście źródło błękitnej żeglugi"
)
_NO_SPACES = frozenset((THAI, JAPANESE, CHINESE))


def in_words_of(passage: str, share: float) -> Reword:
    """Words of a passage, together about `share` times as long as what they stand for; which ones
    is always the same for the same words. What has no letters (10:15) is not translated."""
    if passage in _NO_SPACES:
        units = [passage[start:end] for start, end in pairwise([0, *line_ends(passage)])]
    else:
        units = [f"{word} " for word in passage.split(" ")]

    def reword(text: str) -> str:
        if not any(c.isalpha() for c in text):
            return text
        wanted, spoken = len(text) * share, ""
        at = sum(map(ord, text)) % len(units)
        while not spoken or len(spoken) + len(units[at]) / 2 < wanted:
            spoken += units[at]
            at = (at + 1) % len(units)
        return spoken.strip()

    return reword


_ACCENTED = str.maketrans("aceilnorsuyzACEILNORSUYZ", "áçéíłñórśúýžÁÇÉÍŁÑÓŔŚÚÝŽ")
_VOWELS = frozenset("aeiouyAEIOUY")
_LONGER = 1.4


def made_up(text: str) -> str:
    """The words themselves with accents, and 40 % longer: one sees at once what is not in the
    file's words, what has no accents in its font, and what has no room to grow."""
    letters = [n for n, c in enumerate(text) if c.isalpha()]
    left = round(len(letters) * (_LONGER - 1.0))
    if not left:
        return text.translate(_ACCENTED)
    # Vowels all along the words are doubled; where there are too few, so are other letters.
    vowels = [n for n in letters if text[n] in _VOWELS]
    places = vowels if len(vowels) >= left else letters
    doubled = {places[n * len(places) // left] for n in range(left)}
    longer = "".join(c + c.lower() if n in doubled else c for n, c in enumerate(text))
    return longer.translate(_ACCENTED)
