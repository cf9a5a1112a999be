"""Inputs that are nearly right and grow: each reader takes time and memory in proportion to what it
reads, counted in steps and bytes, not in seconds.

An example of a format is grown at a place taken at random: something in it is repeated, put inside
itself, made longer, or refers to the next of its kind, so many times and four times as many. Held:
four times the input takes no more than a little over four times the steps and the memory; what is
refused is refused by a sentence. A format joins by a row in READERS.
"""

from __future__ import annotations

import copy
import io
import json
import random
import re
import sys
import tracemalloc
from collections.abc import Callable, Iterator
from typing import Any, NamedTuple

from PIL import Image

from demo import ferry_line
from outgrowth.core.color import Color
from outgrowth.core.document.records import Document
from outgrowth.core.edits.tree.owners import new_screen
from outgrowth.core.exchange.fonts import read_font
from outgrowth.core.exchange.native import dumps, loads
from outgrowth.core.exchange.native.journal import About, Journal, recovered
from outgrowth.core.exchange.pictures import read_picture
from outgrowth.core.exchange.svg import drawn
from outgrowth.core.exchange.tokens.read import read_tokens
from outgrowth.core.exchange.tokens.write import written
from outgrowth.core.refusal import Refusal
from outgrowth.core.runtime.script import read_script
from outgrowth.core.team.merge_files import merge_files
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import describe, shipped
from outgrowth.core.trials.rows import rows_from
from outgrowth.resources import FONTS, ICONS
from tests.fuzz.report import Failure, bad_sentence, told

SMALL, LARGE = 60, 240
"""How often something is grown: the second is four times the first."""
MOST = 4 * 1.5
"""Of how many times the steps and bytes four times the input may take."""
_STEPS, _BYTES = 40_000, 3_000_000
"""What counts as nothing: caches that are filled, rows of a table."""
_LONGEST_SENTENCE = 400

Grow = Callable[[bytes, random.Random], Callable[[int], bytes]]
"""Makes of an example, at a place taken at random, inputs that are grown n times."""


class Reader(NamedTuple):
    """A row of the table.

    example  gives what is read without a fault
    grow     how it grows, by its grammar
    read     reads it, and all that its user does next
    covers   the functions that are tried so
    """

    example: Callable[[], bytes]
    grow: Grow
    read: Callable[[bytes], object]
    covers: tuple[Callable[..., Any], ...]


# --- how a grammar grows --------------------------------------------------------------------


def grown_json(example: bytes, rng: random.Random) -> Callable[[int], bytes]:
    """A list that is longer, an object with more members, a value inside itself, a longer text or
    number, members of which each names the next."""
    record = json.loads(example)
    places = list(_places(record))
    path = rng.choice(places)
    how = rng.choice(("repeat", "repeat", "nest", "lengthen", "chain", "keys"))

    def at(times: int) -> bytes:
        copied = copy.deepcopy(record)
        holder, key = _holder(copied, path)
        value = holder[key]
        if how == "nest":
            inner = copy.deepcopy(value)
            for _ in range(times):
                inner = {"k": inner} if isinstance(value, dict) else [inner]
            holder[key] = inner
        elif how == "lengthen":
            holder[key] = _longer(value, times)
        elif how == "keys" and isinstance(holder, dict):
            for n in range(times):
                holder[f"{key}-{n}"] = copy.deepcopy(value)
        elif isinstance(holder, list):
            more = [_renamed(value, n) if how == "chain" else value for n in range(times)]
            holder[key:key] = more
        elif isinstance(value, list) and value:
            value *= times
        else:
            for n in range(times):
                holder[f"{key}{n}"] = f"{{{key}{n + 1}}}" if how == "chain" else value
        return json.dumps(copied, ensure_ascii=False).encode()

    return at


def _places(value: Any, path: tuple = ()) -> Iterator[tuple]:
    inner = (
        value.items()
        if isinstance(value, dict)
        else enumerate(value)
        if isinstance(value, list)
        else ()
    )
    for key, child in inner:
        yield (*path, key)
        yield from _places(child, (*path, key))


def _holder(record: Any, path: tuple) -> tuple[Any, Any]:
    for key in path[:-1]:
        record = record[key]
    return record, path[-1]


def _longer(value: Any, times: int) -> Any:
    if isinstance(value, str):
        return (value or "x") * times
    if isinstance(value, int | float) and not isinstance(value, bool):
        return 10**times
    return [value] * times


def _renamed(value: Any, number: int) -> Any:
    """The same with an id of its own, which refers to the next."""
    if not isinstance(value, dict):
        return value
    record = dict(value)
    for key in ("id", "name"):
        if key in record:
            record[key] = f"{record[key]}-{number}"
    for key in ("component", "parent", "to", "part"):
        if key in record:
            record[key] = f"{record[key]}-{number + 1}"
    return record


_TAG = re.compile(rb"<[a-zA-Z][^<>]*?/?>")
_ATTRIBUTE = re.compile(rb'\s([\w:-]+)="([^"]*)"')


def grown_xml(example: bytes, rng: random.Random) -> Callable[[int], bytes]:
    """More of an element, elements inside one another, longer attributes, more of them, more rules
    of style, more users of one definition, entities, comments, text."""
    tags = [m for m in _TAG.finditer(example) if not m.group().startswith(b"<svg")]
    tag = rng.choice(tags)
    how = rng.choice(
        ("repeat", "nest", "value", "attributes", "rules", "uses", "comment", "text", "classes")
    )
    attributes = list(_ATTRIBUTE.finditer(tag.group()))

    def at(times: int) -> bytes:
        before, one, after = example[: tag.start()], tag.group(), example[tag.end() :]
        closed = one if one.endswith(b"/>") else one[:-1] + b"/>"
        if how == "repeat":
            return before + closed * times + one + after
        if how == "nest":
            around = b"<g transform='scale(1)'>", b"</g>"
            return before + around[0] * times + closed + around[1] * times + one + after
        if how == "value" and attributes:
            found = attributes[len(attributes) // 2]
            value = found.group(2) + b" "
            longer = one[: found.start(2)] + value * times + one[found.end(2) :]
            return before + longer + after
        if how == "attributes":
            more = b"".join(b' data-%d="%d"' % (n, n) for n in range(times))
            return (
                before + one[:-2] + more + one[-2:] + after
                if one.endswith(b"/>")
                else before + one[:-1] + more + b">" + after
            )
        if how == "rules":
            rules = b"".join(
                b".c%d g > path, .c%d { fill: #12%04x }" % (n, n, n) for n in range(times)
            )
            return before + b"<style>" + rules + b"</style>" + one + after
        if how == "classes":
            names = b" ".join(b"c%d" % n for n in range(times))
            rules = b"".join(b".c%d { stroke: red }" % n for n in range(times))
            return (
                before
                + b"<style>"
                + rules
                + b"</style><rect width='1' height='1' class='"
                + names
                + b"'/>"
                + one
                + after
            )
        if how == "uses":
            stops = b"".join(
                b"<stop offset='%d%%' stop-color='red'/>" % (n % 100) for n in range(times)
            )
            uses = b"<rect width='9' height='9' fill='url(#gr)'/><use href='#gr2'/>" * times
            return (
                before
                + b"<linearGradient id='gr'>"
                + stops
                + b"</linearGradient><g id='gr2'><path d='M0 0h1'/></g>"
                + uses
                + one
                + after
            )
        if how == "comment":
            return before + b"<!-- x -->" * times + one + after
        return before + b"<text>" + b"<tspan x='1'>word </tspan>" * times + b"</text>" + one + after

    return at


def grown_rows(example: bytes, rng: random.Random) -> Callable[[int], bytes]:
    """More rows, more columns, a longer cell, more quotes, one line without end."""
    lines = example.splitlines(keepends=True)
    line = rng.randrange(len(lines))
    how = rng.choice(("rows", "columns", "cell", "quotes", "open", "commas"))

    def at(times: int) -> bytes:
        one = lines[line].rstrip(b"\n")
        new = {
            "rows": lines[line] * times,
            "columns": one + b"".join(b",c%d" % n for n in range(times)) + b"\n",
            "cell": one + b"x" * times + b"\n",
            "quotes": one + b',"' + b'""' * times + b'"\n',
            "open": one + b',"' + lines[line] * times,
            "commas": b"," * times + b";\t" * times + b"\n",
        }[how]
        return b"".join([*lines[:line], new, *lines[line + 1 :]])

    return at


def grown_lines(example: bytes, rng: random.Random) -> Callable[[int], bytes]:
    """Of a file of lines of JSON: more lines, or one of them grown."""
    lines = example.splitlines()
    line = rng.randrange(len(lines))
    if rng.random() < 0.4:
        return lambda times: (
            b"\n".join([*lines[:line], *[lines[line]] * times, *lines[line:]]) + b"\n"
        )
    grow = grown_json(lines[line], rng)
    return lambda times: b"\n".join([*lines[:line], grow(times), *lines[line + 1 :]]) + b"\n"


def grown_bytes(example: bytes, rng: random.Random) -> Callable[[int], bytes]:
    """Of a file of bytes: a piece of it repeated, a number in its head grown, or cut."""
    start = rng.randrange(len(example))
    piece = example[start : start + rng.choice((1, 4, 16, 64))]
    how = rng.choice(("repeat", "number", "cut"))
    at_head = rng.randrange(min(len(example) - 4, 200))

    def at(times: int) -> bytes:
        if how == "repeat":
            return example[:start] + piece * times + example[start:]
        if how == "number":
            return example[:at_head] + (times * 100).to_bytes(4, "big") + example[at_head + 4 :]
        return example[: len(example) * times // LARGE]

    return at


# --- the formats ----------------------------------------------------------------------------


def _small() -> Document:
    """A component with variants, rules and cues, one that holds it, tokens and a screen."""
    whole = ferry_line()
    keep = ("button", "icon-anchor", "notice")
    components = whole.components
    for component in whole.component_order:
        if component not in keep:
            components = components.delete(component)
    order = tuple(i for i in whole.component_order if i in keep)
    return Document(
        "small",
        components=components,
        component_order=order,
        tokens=whole.tokens,
        modes=whole.modes,
    )


def _journal() -> bytes:
    """A journal that begins with nothing: all of it is in its lines."""
    journal = Journal(About("", "small", 7, 1.0, ""), None)
    document, lines = _small(), []
    for n in range(3):
        document = new_screen(document, f"j{n}", "Journal", (100, 100), f"r{n}")
        lines.append(journal.line(document))
        journal.wrote()
    return b"".join(lines)


def _png() -> bytes:
    data = io.BytesIO()
    Image.new("RGB", (8, 8), "teal").save(data, "PNG")
    return data.getvalue()


def _font() -> bytes:
    return min((p.read_bytes() for p in FONTS.glob("*.ttf")), key=len)


_SVG = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 64 64"><style>.a{fill:#123}</style>'
    b'<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"/></linearGradient></defs>'
    b'<g class="a" transform="translate(2 3) rotate(5)"><rect width="9" height="7" rx="2"/>'
    b'<path d="M1 2 L3 4 Q5 6 7 8 A1 1 0 0 1 9 9 Z" stroke="url(#g)" stroke-dasharray="1 2"/></g>'
    b'<circle cx="5" cy="5" r="4" style="fill:red;opacity:.5"/><text x="3" y="9">Pier</text></svg>'
)
_SCRIPT = json.dumps(
    {
        "events": [{"at": 0, "press": "Help › head"}, {"at": 90, "do": "key", "key": "Tab"}],
        "times": [1, 2],
    }
).encode()
_ROWS = b"label,price\nPier,12\nHarbour,=1+1\n"
_TYPESETTER: list[Typesetter] = []


def _svg(data: bytes) -> object:
    if not _TYPESETTER:
        _TYPESETTER.append(Typesetter(shipped(FONTS)))
    numbers = iter(range(10**9))
    return drawn(
        data, "x.svg", lambda kind: f"{kind}{next(numbers)}", _TYPESETTER[0], Color(0, 0, 0, 1)
    )


def _native(data: bytes) -> object:
    return dumps(loads(data, "x"))


def _merged(data: bytes) -> object:
    base = dumps(_small()).encode()
    return merge_files(base, base, data, "x.outgrowth.json")


READERS: dict[str, Reader] = {
    "native": Reader(lambda: dumps(_small()).encode(), grown_json, _native, (loads,)),
    "merge": Reader(lambda: dumps(_small()).encode(), grown_json, _merged, (merge_files,)),
    "tokens": Reader(
        lambda: written(_small(), ""),
        grown_json,
        lambda data: read_tokens(data, "x.json"),
        (read_tokens,),
    ),
    "journal": Reader(
        _journal, grown_lines, lambda data: recovered(data, "x", lambda _: None), (recovered,)
    ),
    "rows": Reader(lambda: _ROWS, grown_rows, lambda data: rows_from(data, "x.csv"), (rows_from,)),
    "rows of JSON": Reader(
        lambda: b'[{"label": "Pier", "price": 12}, {"label": "Holm", "price": true}]',
        grown_json,
        lambda data: rows_from(data, "x.json"),
        (rows_from,),
    ),
    "script": Reader(
        lambda: _SCRIPT, grown_json, lambda data: read_script(data, "x"), (read_script,)
    ),
    "SVG": Reader(lambda: _SVG, grown_xml, _svg, (drawn,)),
    "icon": Reader(lambda: sorted(ICONS.glob("*.svg"))[7].read_bytes(), grown_xml, _svg, (drawn,)),
    "picture": Reader(_png, grown_bytes, lambda data: read_picture(data, "x.png"), (read_picture,)),
    "font": Reader(
        _font, grown_bytes, lambda data: read_font(data, "x.ttf"), (read_font, describe)
    ),
}


# --- counting -------------------------------------------------------------------------------


class Counted(NamedTuple):
    """What reading took: steps of the interpreter, bytes at most, and how it ended."""

    steps: int
    memory: int
    wrong: str | None
    refused: bool


def counted(read: Callable[[bytes], object], data: bytes) -> Counted:
    """Reads, and counts lines of Python and calls into C."""
    steps = 0

    def trace(frame: Any, event: str, argument: Any) -> Any:
        nonlocal steps
        steps += 1
        return trace

    def profile(frame: Any, event: str, argument: Any) -> None:
        nonlocal steps
        steps += event == "c_call"

    wrong, refused = None, False
    tracemalloc.start()
    sys.settrace(trace)
    sys.setprofile(profile)
    try:
        read(data)
    except Refusal as problem:
        refused, wrong = True, bad_sentence(problem, _LONGEST_SENTENCE)
    except Exception as problem:
        wrong = told(problem)
    finally:
        sys.setprofile(None)
        sys.settrace(None)
        memory = tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
    return Counted(steps, memory, wrong, refused)


def case(kind: str, seed: int) -> str | None:
    """What is wrong with how one input grows; None where nothing is."""
    reader, rng = READERS[kind], random.Random(f"{kind}{seed}")
    grow = reader.grow(reader.example(), rng)
    small, large = grow(SMALL), grow(LARGE)
    counted(reader.read, grow(SMALL - 7))  # what is made once is made; nothing of `small` is kept
    one, four = counted(reader.read, small), counted(reader.read, large)
    for found in (one, four):
        if found.wrong:
            return found.wrong
    # What is refused when it is small may go on to the end when it is large, never the other way.
    if one.refused and not four.refused:
        return None
    times = max(MOST, MOST / 4 * len(large) / max(len(small), 1))
    if four.steps > times * one.steps + _STEPS:
        return f"{len(small):,} bytes take {one.steps:,} steps, {len(large):,} take {four.steps:,}"
    if four.memory > times * one.memory + _BYTES:
        return f"{len(small):,} bytes take {one.memory:,} of memory, {len(large):,} {four.memory:,}"
    return None


def readers(seed: int, count: int) -> Iterator[tuple[int, Failure | None]]:
    """All formats in turn."""
    kinds = list(READERS)
    for n in range(count):
        kind = kinds[n % len(kinds)]
        wrong = case(kind, seed + n)
        yield n + 1, Failure(f"reader {kind}", seed + n, wrong, wrong) if wrong else None
