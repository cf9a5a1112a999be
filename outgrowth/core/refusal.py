"""What is raised where something cannot be: one family, so that whoever asked for it can tell
the user, whichever room refused."""

from __future__ import annotations

# Letters of what does not fit that a sentence quotes.
_LONGEST_QUOTE = 40

LONGEST_SENTENCE = 200
"""Letters that a message about a file may have."""


class Refusal(ValueError):
    """Something cannot be done, or cannot be so; the message is a sentence for the user: one
    line that can be shown, whatever the names in it hold."""

    longest = 300

    def __init__(self, text: str) -> None:
        super().__init__(sentence(text, self.longest))


class ValueRefusal(Refusal):
    """A value does not fit what it is for."""


def shown_value(value: object) -> str:
    """What does not fit, as a sentence quotes it: one line, no control characters, short."""
    try:
        text = str(value)
    except ValueError:  # a whole number of more digits than Python writes out
        text = "a very long number"
    return f"“{quoted(text)}”"


def quoted(text: str, longest: int = _LONGEST_QUOTE) -> str:
    """Text made fit to stand in a sentence: printable, and no longer than this."""
    clear = "".join(c if c.isprintable() else " " for c in text[: longest + 1]).strip()
    return clear if len(text) <= longest else f"{clear[:longest]}…"


def sentence(text: str, longest: int = LONGEST_SENTENCE) -> str:
    """A message of at most this many letters in one line; a longer one loses its middle, for
    what happened stands at the start and what to do at the end."""
    line = " ".join("".join(c if c.isprintable() else " " for c in text).split())
    if len(line) <= longest:
        return line
    half = (longest - 3) // 2
    return f"{line[:half].rstrip()} … {line[-half:].lstrip()}"


def clean(text: str) -> str:
    """Text that can be written: half a surrogate pair, which is no letter, becomes U+FFFD."""
    if text.isascii():
        return text
    try:
        text.encode()
    except UnicodeEncodeError:
        return text.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    return text
