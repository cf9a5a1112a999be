"""The files of a hand-over, as bytes by their paths: nothing is written here.

The same document gives the same bytes: everything is in a settled order, and no file holds a
time, a place or a version of this program.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

from outgrowth.core.document.extent import shown_within
from outgrowth.core.document.records import Component, Document, Owner, Screen
from outgrowth.core.document.variants import Variant, default_variant, variants
from outgrowth.core.exchange.output import Files
from outgrowth.core.exchange.slugs import slug
from outgrowth.core.exchange.tokens.write import token_files
from outgrowth.core.exchange.web.bundle import Code, WebCode
from outgrowth.core.exchange.web.font_files import font_files, font_name, font_problems
from outgrowth.core.exchange.web.forced_colors import FORCED_ON_SCREENS
from outgrowth.core.exchange.web.manifest import manifest
from outgrowth.core.exchange.web.modules import PictureAddress
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.exchange.web.overview import overview
from outgrowth.core.exchange.web.runtime_tables import refuse_what_a_page_cannot
from outgrowth.core.exchange.web.screens import SCREEN_BASE, Page
from outgrowth.core.exchange.web.standing import standing_css
from outgrowth.core.exchange.web.template import PicturePaths
from outgrowth.core.exchange.web.tokens_css import tokens_css
from outgrowth.core.layout import Layout, Placed
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.text import FontFace
from outgrowth.resources import WEB

_SUFFIX = {"image/png": "png", "image/jpeg": "jpg", "image/gif": "gif", "image/webp": "webp"}


class Wanted(NamedTuple):
    """What is to be handed over: components and screens by id, None for all; and what element
    names begin with, "" for what comes from the document's name."""

    components: tuple[str, ...] | None = None
    screens: tuple[str, ...] | None = None
    prefix: str = ""


class HandOver(NamedTuple):
    """The files, and what the designer should know: names that are others in the code, and what
    could not be said."""

    files: Files
    names: Names
    codes: dict[str, Code]
    problems: list[str]


def hand_over(
    document: Document,
    layout: Layout,
    wanted: Wanted | None = None,
    progress: Callable[[float], None] = lambda share: None,
) -> HandOver:
    """Makes all files. `progress` is told the share that is done (0 to 1); what it raises ends
    the work. Raises PrefixRefusal, and PageRefusal for what a page can't do."""
    wanted = wanted or Wanted()
    components = _with_needed(document, wanted)
    screens = [s for s in document.screens_in_order() if _is_asked(s, wanted)]
    refuse_what_a_page_cannot((*components, *screens))
    names = Names(document, wanted.prefix)
    code = WebCode(document, layout, names)
    letters_of = _letters(document, layout)
    by_key = {key: face for own in letters_of.values() for key, face in own.faces.items()}
    faces = sorted(by_key.values(), key=lambda f: (layout.typesetter.fonts.rank(f), f.key))
    code.fonts = {
        owner: [font_name(face) for _, face in sorted(own.faces.items())]
        for owner, own in letters_of.items()
    }
    code.families = tuple(dict.fromkeys(face.described.family for face in faces))
    pictures = dict(_pictures(document))
    files_of = {digest: PictureAddress(f"assets/{name}") for digest, name in pictures.items()}
    code.pictures = PicturePaths(files_of)
    pairs: list[tuple[Component, Code]] = []
    for n, component in enumerate(components):
        pairs.append((component, code.component(component)))
        progress((n + 1) / (len(components) + 1))
    made_pages = {names.owners[screen.id].element: code.screen(screen) for screen in screens}
    files = _component_files(names, pairs) | _screen_files(made_pages)
    files |= _shared_files(code, pairs, faces)
    files |= {f"assets/{name}": document.assets[digest].data for digest, name in pictures.items()}
    pages = sorted(p[8:-5] for p in files if p.startswith("screens/") and p.endswith(".html"))
    files["index.html"] = overview(document, names, pairs, pages).encode()
    problems = [problem for _, own in pairs for problem in own.problems]
    problems += [problem for made in made_pages.values() for problem in made.problems]
    problems += font_problems(faces)
    lacked = {letter: None for own in letters_of.values() for letter in own.lacked}
    if lacked:
        problems.append(
            f"No font here has these letters: {' '.join(lacked)}. A browser draws them with "
            "whatever its machine has. Carry a font in the file that has them."
        )
    return HandOver(files, names, {c.id: own for c, own in pairs}, problems)


def _component_files(names: Names, pairs: Sequence[tuple[Component, Code]]) -> Files:
    files: Files = {}
    for component, code in pairs:
        element = names.owners[component.id].element
        files[f"components/{element}.js"] = code.javascript.encode()
        files[f"components/{element}.d.ts"] = code.types.encode()
    files["custom-elements.json"] = manifest((c, names.owners[c.id], own) for c, own in pairs)
    return files


def _screen_files(made_pages: dict[str, Page]) -> Files:
    files: Files = {"screens/screen.css": (SCREEN_BASE + FORCED_ON_SCREENS).encode()}
    for name, page in made_pages.items():
        files[f"screens/{name}.html"] = page.html.encode()
        files[f"screens/{name}.css"] = page.css.encode()
        files[f"screens/{name}.js"] = page.javascript.encode()
    return files


def _shared_files(
    code: WebCode, pairs: Sequence[tuple[Component, Code]], faces: Sequence[FontFace]
) -> Files:
    """What all components share: the runtime, tokens, fonts, and all of them as one script."""
    codes = {component.id: own for component, own in pairs}
    files: Files = {name: (WEB / name).read_bytes() for name in ("hand-over.js", "hand-over.css")}
    files["runtime.js"] = (WEB / "runtime.min.js").read_bytes()
    files["render.js"] = (WEB / "render.js").read_bytes()
    files["render.d.ts"] = (WEB / "render.d.ts").read_bytes()
    files["runtime.source.js"] = (WEB / "runtime.js").read_bytes()
    files["elements.js"] = classic(code, [c for c, _ in pairs], codes).encode()
    elements = [code.names.owners[component.id].element for component, _ in pairs]
    stands = standing_css(elements, (one for _, own in pairs for one in own.standing))
    files["elements.css"] = f"{stands}\n".encode()
    files["tokens.css"] = tokens_css(code.document, code.names, faces, "assets").encode()
    files |= token_files(code.document)
    return files | {f"assets/{name}": data for name, data in font_files(faces).items()}


_NO_MODULE = (
    "if (!globalThis.document?.currentScript) throw new Error("
    '"elements.js is a script for pages without modules, by <script defer src>. '
    'A module imports the components one by one, from the folder “components”.");'
)


def classic(code: WebCode, components: Sequence[Component], codes: dict[str, Code]) -> str:
    """Everything as one script for pages without modules, which open from a disk too."""
    runtime = (WEB / "runtime.min.js").read_text("utf-8")
    runtime = runtime.replace("export{", "const exported={").replace("export ", "")
    said = f"globalThis.{code.names.prefix}Screen"
    parts = ["(() => {", _NO_MODULE, runtime]
    parts.append(f'const told = {said} && screen(document.querySelector("main"), {said});')
    parts += [f"{codes[c.id].classic};" for c in _inner_first(code, components, codes)]
    parts += ["told?.();", "})();", ""]
    return "\n".join(parts)


def _inner_first(
    code: WebCode, components: Sequence[Component], codes: dict[str, Code]
) -> Iterator[Component]:
    """The components, each after those that it holds."""
    by_element = {code.names.owners[c.id].element: c for c in components}
    visited: set[str] = set()

    def visit(component: Component) -> Iterator[Component]:
        if component.id in visited:
            return
        visited.add(component.id)
        for element in codes[component.id].imports:
            if element in by_element:
                yield from visit(by_element[element])
        yield component

    for component in components:
        yield from visit(component)


def _is_asked(screen: Screen, wanted: Wanted) -> bool:
    return wanted.screens is None or screen.id in wanted.screens


def _with_needed(document: Document, wanted: Wanted) -> list[Component]:
    """The components that are asked for, and those that they and the screens may show."""
    if wanted.components is None:
        return list(document.in_order())
    asked = [document.owner(owner_id) for owner_id in (*wanted.components, *(wanted.screens or ()))]
    needed = {
        shown.id for owner in asked if owner is not None for shown in shown_within(document, owner)
    }
    return [c for c in document.in_order() if c.id in needed]


def _pictures(document: Document) -> Iterator[tuple[str, str]]:
    for digest, asset in sorted(document.assets.items()):
        suffix = _SUFFIX.get(asset.media)
        if suffix is not None:
            name = slug(asset.name.rpartition(".")[0] or asset.name, "picture")
            yield digest, f"{name}-{digest[:8]}.{suffix}"


class _Letters(NamedTuple):
    """What the words of a placed tree are drawn with: fonts by their keys, and the letters that
    none has."""

    faces: dict[str, FontFace]
    lacked: str

    def and_those_of(self, other: _Letters) -> _Letters:
        """These and others."""
        more = self.faces if self.faces.keys() >= other.faces.keys() else self.faces | other.faces
        both = "".join(dict.fromkeys(self.lacked + other.lacked)) if other.lacked else self.lacked
        return _Letters(more, both)


_NO_LETTERS = _Letters({}, "")


def _letters(document: Document, layout: Layout) -> dict[str, _Letters]:
    """What each component and screen is drawn with, in any case, by its id."""
    resolver, letters_in = Resolver(everything=True), _LettersIn()
    results: dict[str, _Letters] = {}
    for owner in document.owners():
        own = _NO_LETTERS
        for scene in _telling_scenes(document, resolver, owner):
            own = own.and_those_of(letters_in(layout.view(scene)[1]))
        results[owner.id] = own
    return results


def _telling_scenes(document: Document, resolver: Resolver, owner: Owner) -> Iterator[SceneNode]:
    if isinstance(owner, Screen):
        yield resolver.screen(document, owner)
        return
    for variant in _telling_variants(owner):
        yield resolver.variant(document, owner.id, variant)


class _LettersIn:
    """The letters of a placed tree. What was walked is not walked again: what stands inside others
    comes once for each of them, and in each of their variants."""

    def __init__(self) -> None:
        self._known: dict[int, tuple[Placed, _Letters]] = {}

    def __call__(self, placed: Placed) -> _Letters:
        known = self._known.get(id(placed))
        if known is not None:
            return known[1]
        letters = _NO_LETTERS
        if placed.text is not None:
            faces = {face.key: face for face in placed.text.faces}
            letters = _Letters(faces, placed.text.lacked)
        for child in placed.children:
            letters = letters.and_those_of(self(child))
        self._known[id(placed)] = placed, letters
        return letters


_MOST_TELLING = 200


def _telling_variants(component: Component) -> Iterator[Variant]:
    """All variants of a component; of a large family those that its rules name."""
    if math.prod(len(axis.values) for axis in component.axes) <= _MOST_TELLING:
        yield from variants(component)
        return
    usual = default_variant(component)
    yield usual
    for when in {rule.when for rule in component.rules}:
        yield usual.update(when)
