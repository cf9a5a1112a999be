"""Damaged and hostile files of every kind that is read: the native file, its folder, journals,
clippings, scripts, drawings, pictures and fonts.

Held throughout: a file is read whole, or refused by one sentence of at most 200 letters; what
was read can be drawn, exported and saved, and read again it is the same; it takes no more time
than a file of its size may; and nothing outside of where it stands is touched.
"""

from __future__ import annotations

import base64
import contextlib
import copy
import io
import json
import os
import random
import signal
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from PIL import Image

from demo import ferry_line
from outgrowth.core.document.records import Component, Document, Screen
from outgrowth.core.document.variants import default_variant, variants
from outgrowth.core.edits.clipping import clipping, put_down
from outgrowth.core.edits.style.pictures import place_picture
from outgrowth.core.edits.tree.components import add_screen
from outgrowth.core.edits.tree.owners import new_screen
from outgrowth.core.exchange.fonts import carried, read_font
from outgrowth.core.exchange.native import FileRefusal, dumps, load, loads, save
from outgrowth.core.exchange.native.journal import About, Journal, recovered
from outgrowth.core.exchange.pictures import PictureRefusal, read_picture
from outgrowth.core.exchange.svg import SvgRefusal, drawn
from outgrowth.core.exchange.svg.write import svg_of
from outgrowth.core.exchange.web import page
from outgrowth.core.layout import Layout
from outgrowth.core.paint.draw import draw
from outgrowth.core.refusal import Refusal
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.runtime import Runtime, Subject
from outgrowth.core.runtime.script import ScriptRefusal, play, read_script
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import FontRefusal, shipped
from outgrowth.resources import FONTS, ICONS
from tests.fuzz.edits import World, difference
from tests.fuzz.report import Failure, bad_sentence, told

SECONDS = 8.0
"""What one case may take on a slow machine: a hang, not a figure."""
_LONGEST_SENTENCE = 200


class TooSlow(BaseException):
    """A case took longer than it may; no handler of ours catches it."""


@contextlib.contextmanager
def watched(seconds: float = SECONDS) -> Iterator[None]:
    def late(*_):
        raise TooSlow(f"it took more than {seconds:g} s")

    before = signal.signal(signal.SIGALRM, late)
    signal.setitimer(signal.ITIMER_REAL, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(signal.SIGALRM, before)


class Files:
    """The cases of one seed."""

    def __init__(self, seed: int, folder: Path, paint: Callable | None = None) -> None:
        self.seed = seed
        self.rng = random.Random(seed)
        self.folder = folder
        self.paint = paint
        self.fonts = shipped(FONTS)

    def run(self, count: int) -> Iterator[Failure]:
        for n in range(count):
            kind, case = self.rng.choice(KINDS)
            yield from self.case(kind, case, self.seed * 1_000_000 + n)

    def case(self, kind: str, case: Callable, seed: int) -> Iterator[Failure]:
        self.rng = random.Random(seed)
        self.example = ""
        try:
            with watched():
                wrong = case(self)
        except Refusal as problem:
            wrong = bad_sentence(problem, _LONGEST_SENTENCE)
        except (FontRefusal, PictureRefusal, SvgRefusal, ScriptRefusal) as problem:
            wrong = bad_sentence(problem, _LONGEST_SENTENCE)
        except (Exception, TooSlow) as problem:
            wrong = told(problem)
        if wrong:
            yield Failure(kind, seed, wrong, self.example[:200_000])

    # --- what must hold of whatever was read --------------------------------------------------

    def usable(self, document: Document) -> str | None:
        """Why a document that was read cannot be used; None if it can."""
        again = loads(dumps(document).encode(), "again")
        if again != document:
            return f"saved and opened is another: {difference(document, again)}"
        fonts = self.fonts.also(carried(document.assets))
        resolver, layout = Resolver(), Layout(Typesetter(fonts))
        for owner in document.owners():
            for scene in self._scenes(resolver, document, owner):
                placed = layout.place(scene.layout)
                fragment = draw(scene, placed)
                page(scene, placed, owner.name, document.assets)
                svg_of(fragment, fragment.bounds, document.assets)
                if self.paint is not None:
                    self.paint(scene, placed, document.assets)
        return self._running(document, resolver, layout)

    def _scenes(self, resolver, document, owner):
        if isinstance(owner, Screen):
            yield resolver.screen(document, owner)
            return
        yield resolver.variant(document, owner.id, default_variant(owner))
        some = [v for v, _ in zip(variants(owner), range(30), strict=False)]
        if len(some) > 1:
            yield resolver.variant(document, owner.id, self.rng.choice(some))

    def _running(self, document: Document, resolver, layout) -> str | None:
        """It runs: points, presses and keys all over one owner."""
        owners = list(document.owners())
        if not owners:
            return None
        owner = self.rng.choice(owners)
        subject = Subject(owner.id, isinstance(owner, Component))
        runtime = Runtime(resolver, layout, document, subject)
        for _ in range(6):
            x, y = self.rng.uniform(-5, 400), self.rng.uniform(-5, 800)
            runtime.pointer_move(x, y)
            runtime.press(x, y)
            runtime.advance(self.rng.choice((0.0, 16.0, 300.0)))
            runtime.release(x, y)
            runtime.key(self.rng.choice(("Tab", "Enter", " ", "ArrowDown", "Escape", "é")))
            runtime.advance(100.0)
            runtime.view()
        return None


# --- damage ---------------------------------------------------------------------------------

_ODD = (
    None, True, False, 0, -1, 1, 10**400, -(10**30), 1e308, 1e-300, 0.1, "", "x", "{a.b}", "{}", [], {},
    [[]], [None], {"": None}, "fit", {"grow": -1}, {"add": 1e999 if False else 1e300}, {"multiply": 0},
    {"property": ""}, {"property": 3}, {"text": "{x}"}, "\u0000", "\u202e", "a" * 5000, "../../../etc/passwd",
    "linear-gradient(1.2.3deg, red, blue)", "linear-gradient(red nan%, blue)", "radial-gradient()",
    "M0 0", "M0 0A0 0 0 0 0 0 0Z", "M1e300 1e300L-1e300 0", "M0 0a1 1 0 11 5", "Z", "instance", "text",
    "box", "shape", "image", {"duration": 1e9}, "spring(0,0)", "steps(0)", "cubic-bezier(9,9,9,9)",
    {"fade": 1}, {"darken": -5}, "oklch(0.5 0.1 230)", "#12345", [{"axis": "a", "value": "b"}], "Open: yes",
)  # fmt: skip


def _places(data, path=()):
    """Every container of JSON with its keys."""
    waiting = [data]
    while waiting:
        held = waiting.pop()
        if isinstance(held, dict):
            yield from ((held, key) for key in held)
            waiting += held.values()
        elif isinstance(held, list):
            yield from ((held, n) for n in range(len(held)))
            waiting += held


def damage(rng, data):
    """JSON with one to four things in it changed."""
    for _ in range(rng.randint(1, 4)):
        spots = list(_places(data))
        if not spots:
            return copy.deepcopy(rng.choice(_ODD))
        held, key = rng.choice(spots)
        dice = rng.random()
        if dice < 0.4:
            held[key] = copy.deepcopy(rng.choice(_ODD))
        elif dice < 0.55:
            del held[key]
        elif dice < 0.75:
            other, from_key = rng.choice(spots)
            with contextlib.suppress(LookupError):
                held[key] = json.loads(json.dumps(other[from_key]))
        elif isinstance(held, list):
            held.insert(key, json.loads(json.dumps(held[key])))
        elif isinstance(held, dict):
            held[rng.choice(("style", "children", "x", "component", "default", ""))] = (
                copy.deepcopy(rng.choice(_ODD))
            )
    return data


def harm(rng, data: bytes) -> bytes:
    """Bytes with some of them changed, cut, doubled or filled in."""
    held = bytearray(data)
    for _ in range(rng.randint(1, 6)):
        if not held:
            break
        at = rng.randrange(len(held))
        dice = rng.random()
        if dice < 0.4:
            held[at] = rng.randrange(256)
        elif dice < 0.55:
            del held[at : at + rng.randint(1, 40)]
        elif dice < 0.7:
            held[at:at] = held[at : at + rng.randint(1, 60)]
        elif dice < 0.8:
            del held[at:]
        else:
            held[at:at] = rng.choice((b"\0", b"\xff\xfe", b"]}", b'"', b"<", b"&", b"1e999", b"-"))
    return bytes(held)


_BASES: list[dict] = []


def bases() -> list[dict]:
    """JSON of small and large documents to damage."""
    if not _BASES:
        whole = json.loads(dumps(ferry_line()))
        _BASES.append(whole)
        for n in (3, 5, 8, 12):
            some = whole["components"][n : n + 3]
            _BASES.append(
                {**whole, "components": some, "screens": whole["screens"][n % 3 : n % 3 + 1]}
            )
        for seed in (2, 4):
            world = World(seed, Document("Untitled"))
            for n in range(120):
                for _ in world.step(n):
                    pass
            _BASES.append(json.loads(dumps(world.document)))
    return _BASES


def _copy(rng):
    return json.loads(json.dumps(rng.choice(bases())))


# --- the kinds ------------------------------------------------------------------------------


def _native(case: Files) -> str | None:
    rng = case.rng
    if rng.random() < 0.7:
        data = json.dumps(damage(rng, _copy(rng))).encode()
    else:
        data = harm(rng, json.dumps(_copy(rng), indent=1).encode())
    case.example = data.decode(errors="replace")
    return case.usable(loads(data, "odd.outgrowth.json"))


def _folder(case: Files) -> str | None:
    """A folder with one file, or the plan, damaged; beside it and in it, somebody else's."""
    rng = case.rng
    with tempfile.TemporaryDirectory(dir=case.folder) as room:
        home = Path(room)
        mine, path = home / "mine.txt", home / "work.outgrowth"
        mine.write_text("mine")
        document = loads(json.dumps(rng.choice(bases())).encode(), "base")
        save(document, path)
        note = path / "components" / "note.md"
        note.parent.mkdir(exist_ok=True)
        note.write_text("mine too")
        case.example = _harm_folder(rng, path, mine)
        found: Document | None = None
        try:
            found = load(path)
            if rng.random() < 0.5:
                save(found, path)
        except FileRefusal as problem:
            wrong = bad_sentence(problem, _LONGEST_SENTENCE)
            if wrong:
                return f"folder: {wrong}"
        if mine.read_text() != "mine" or not note.exists() or note.read_text() != "mine too":
            return "a file of somebody else's was changed"
        if sorted(p.name for p in home.iterdir()) != ["mine.txt", "work.outgrowth"]:
            return "something was written outside"
        return case.usable(found) if found is not None and rng.random() < 0.2 else None


def _harm_folder(rng, path: Path, mine: Path) -> str:
    files = [p for p in path.rglob("*") if p.is_file() and p.name != "note.md"]
    target = rng.choice(files)
    dice = rng.random()
    if dice < 0.3:
        stage = path / ".saving"
        stage.mkdir()
        names = [
            "../mine.txt",
            str(mine),
            "components/note.md",
            "document.json",
            "components/../../mine.txt",
        ]
        names += ["assets/x", ".saving/plan.json", "", 3, None, "components/a\0b.json"]
        plan = {"put": rng.sample(names, 2), "remove": rng.sample(names, 2)}
        for name in ("mine.txt", "document.json"):
            (stage / name).write_text("{}")
        text = json.dumps(rng.choice((plan, {**plan, "put": 3}, [], {"remove": []}, plan)))
        (stage / "plan.json").write_bytes(
            text.encode() if rng.random() < 0.7 else harm(rng, text.encode())
        )
        return text
    if dice < 0.45:
        target.unlink()
        target.symlink_to(rng.choice((str(mine), "/dev/zero", "/etc/hostname", "../document.json")))
        return f"{target.name} is a link"
    if dice < 0.5:
        target.unlink()
        os.mkfifo(target)
        return f"{target.name} is a pipe"
    if dice < 0.55:
        target.unlink()
        target.mkdir()
        return f"{target.name} is a folder"
    head = path / "document.json"
    if dice < 0.8:
        data = json.loads(head.read_bytes())
        if dice < 0.65:
            data["components"] = [
                rng.choice(("../../mine.txt", "/etc/passwd", "note.md", "", "a/b.json", 3))
            ]
        text = json.dumps(damage(rng, data))
        head.write_text(text)
        return text
    if target.suffix == ".json" and rng.random() < 0.6:
        target.write_text(json.dumps(damage(rng, json.loads(target.read_bytes()))))
    else:
        target.write_bytes(harm(rng, target.read_bytes()))
    return f"{target.name} is damaged"


def _journal(case: Files) -> str | None:
    rng = case.rng
    base = loads(json.dumps(rng.choice(bases())).encode(), "base")
    journal = Journal(
        About("/somewhere/f.outgrowth.json", "F", 7, 1.0, rng.choice(("", "base"))), base
    )
    lines = []
    document = base
    for n in range(rng.randint(1, 4)):
        document = new_screen(document, f"j{n}", "Journal", (100, 100), f"r{n}")
        lines.append(journal.line(document))
        journal.wrote()
    at = rng.randrange(len(lines))
    if rng.random() < 0.6:
        lines[at] = json.dumps(damage(rng, json.loads(lines[at]))).encode() + b"\n"
    else:
        lines[at] = harm(rng, lines[at])
    data = b"".join(lines)
    case.example = data.decode(errors="replace")
    found = recovered(data, "f.journal", lambda about: base)
    return case.usable(found.document) if rng.random() < 0.2 else None


def _clipping(case: Files) -> str | None:
    rng = case.rng
    source = loads(json.dumps(rng.choice(bases())).encode(), "base")
    owner = rng.choice(list(source.owners()))
    ids = tuple(c.id for c in owner.root.children[:3]) or (owner.root.id,)
    variant = default_variant(owner) if isinstance(owner, Component) else {}
    data = json.dumps(
        damage(rng, json.loads(dumps(clipping(source, owner.id, ids, variant))))
    ).encode()
    case.example = data.decode()
    clip = loads(data, "the clipboard")
    target = loads(json.dumps(rng.choice(bases())).encode(), "base")
    target = new_screen(target, "here", "Here", (400, 400), "floor")
    numbers = iter(range(10**6))
    pasted, _ = put_down(target, clip, ("here", "floor", None), lambda kind: f"p{next(numbers)}")
    return case.usable(pasted) if rng.random() < 0.3 else None


_SCRIPT = {
    "events": [
        {"at": 0, "do": "move", "x": 30, "y": 40}, {"at": 50, "do": "press", "x": 30, "y": 40},
        {"at": 90, "do": "release", "x": 30, "y": 40}, {"at": 200, "do": "key", "key": "Tab"},
        {"at": 300, "do": "touch"}, {"at": 400, "do": "leave"},
        {"at": 410, "tap": "What if the sea is rough? › head"}, {"at": 420, "text": "sea"},
        {"at": 430, "do": "press", "part": "Help/notices"}, {"at": 440, "reduced-motion": True},
    ],
    "times": [0, 100, 500],
    "touch": False,
    "reduced_motion": False,
}  # fmt: skip


def _script(case: Files) -> str | None:
    rng = case.rng
    data = json.dumps(damage(rng, json.loads(json.dumps(_SCRIPT)))).encode()
    data = data if rng.random() < 0.7 else harm(rng, data)
    case.example = data.decode(errors="replace")
    script = read_script(data, "script.json")
    document = ferry_line()
    runtime = Runtime(Resolver(), Layout(Typesetter(case.fonts)), document, Subject("help"))
    json.dumps(play(runtime, script))
    return None


def _svg(case: Files) -> str | None:
    rng = case.rng
    if rng.random() < 0.5:
        data = rng.choice(sorted(ICONS.glob("*.svg"))).read_bytes()
    else:
        data = rng.choice(SVGS).encode()
    for _ in range(rng.randint(0, 2)):
        data = harm(rng, data)
    if rng.random() < 0.4:
        data = multiplied(rng, data)
    case.example = data[:5000].decode(errors="replace")
    numbers = iter(range(10**7))
    found = drawn(data, "odd.svg", lambda kind: f"{kind}{next(numbers)}", Typesetter(case.fonts))
    document = add_screen(Document("svg"), Screen("s", "S", found.node))
    if len(data) > 50_000:
        return None
    with contextlib.suppress(Refusal):
        return case.usable(document)
    return None


SVGS = (
    '<svg viewBox="0 0 24 24"><path d="M1 1h9v9z" fill="red"/></svg>',
    '<svg viewBox="0 0 24 24"><clipPath id="k"><circle cx="9" cy="9" r="7"/><use href="#k"/></clipPath>'
    '<mask id="m"><path fill="#fff" d="M2 2h14v9z"/></mask><g clip-path="url(#k)" mask="url(#m)">'
    '<path d="M1 1h9v9" stroke="red" stroke-dasharray="2 1 3" stroke-dashoffset="-4" stroke-width="2"/>'
    '<text x="3" y="9">Ferry</text></g><rect width="9" height="9" clip-path="url(#k)" stroke="#000" '
    'stroke-dasharray="0.001" stroke-miterlimit="9e9"/></svg>',
    '<svg viewBox="0 0 9 9"><style>.a{fill:#123} #b{fill:url(#g)}</style><defs><linearGradient id="g">'
    '<stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient></defs>'
    '<g class="a" transform="rotate(30) scale(2,.5)"><rect id="b" x="1" y="2" width="3" height="4" rx="1"/>'
    '<circle cx="4" cy="4" r="2"/><use href="#b" x="3"/></g><text x="1" y="5" font-size="3">Ferry</text></svg>',
    '<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="5em"><polygon points="0 0 5 5 0 5"/>'
    '<line x1="0" y1="0" x2="9" y2="9" stroke="#000"/><ellipse cx="5" cy="5" rx="3" ry="1"/></svg>',
)


def multiplied(rng, data: bytes) -> bytes:
    """Digits, spaces, comments, selectors … without end."""
    many = 10 ** rng.randint(2, 5)
    parts = (
        b"9" * many, b" " * many, b"<!--" + b"-" * many, b"<!--x-->" * (many // 10), b"M0 0 " * (many // 5),
        b"<style>" + b".a{fill:red}" * (many // 20) + b"</style>", b"a1e300 1e300 0 0 0 1e300 1e300",
        b"<g>" * (many // 10), b"<rect width='1' height='1'/>" * (many // 50), b"rotate(1)" * (many // 10),
        b"<text>" + b"w" * many + b"</text>", b"l1 1" * (many // 4), b"0," * many, b"(" * many, b"e" * many,
    )  # fmt: skip
    at = (
        rng.randrange(len(data) + 1)
        if rng.random() < 0.5
        else max(data.find(b"d="), data.find(b">") + 1)
    )
    return data[:at] + rng.choice(parts) + data[at:]


def _pictures() -> list[bytes]:
    found = []
    image = Image.new("RGBA", (9, 7), (30, 90, 120, 200))
    for kind in ("PNG", "GIF", "WEBP"):
        held = io.BytesIO()
        image.save(held, kind)
        found.append(held.getvalue())
    held = io.BytesIO()
    image.convert("RGB").save(held, "JPEG")
    return [*found, held.getvalue()]


PICTURES = _pictures()


def _picture(case: Files) -> str | None:
    data = case.rng.choice(PICTURES)
    data = harm(case.rng, data) if case.rng.random() < 0.95 else data
    case.example = base64.b64encode(data).decode()
    held = read_picture(data, "odd.png")
    document = new_screen(Document("p"), "s", "S", (100, 100), "r")
    return case.usable(place_picture(document, ("s", "r", None), held, "image"))


def _font(case: Files) -> str | None:
    data = case.rng.choice(sorted(FONTS.glob("*.ttf"))).read_bytes()
    if case.rng.random() < 0.95:
        head = harm(case.rng, data[:1200])
        data = head + data[1200:] if case.rng.random() < 0.6 else harm(case.rng, data)
    case.example = f"{len(data)} bytes"
    _, asset = read_font(data, "odd.ttf")
    document = json.loads(json.dumps(bases()[1]))
    read = loads(json.dumps(document).encode(), "base")
    from outgrowth.core.edits.style.pictures import with_asset

    return case.usable(with_asset(read, asset))


KINDS: list[tuple[str, Callable[[Files], str | None]]] = [
    *[("native file", _native)] * 8,
    *[("folder", _folder)] * 3,
    *[("journal", _journal)] * 2,
    *[("clipping", _clipping)] * 2,
    ("script", _script),
    *[("svg", _svg)] * 4,
    ("picture", _picture),
    ("font", _font),
]
