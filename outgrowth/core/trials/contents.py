"""Contents that parts are tried with: those that come with the program, and rows of the
designer's own. A content is put into the document itself, so what a trial shows is what Live
plays and the exported code does."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

import msgspec
from immutables import Map

from outgrowth.core.document.extent import shown_within
from outgrowth.core.document.properties import CHOICE
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Node,
    Owner,
    Rule,
    find,
    walk,
)
from outgrowth.core.document.values import (
    NO_PICTURE,
    Content,
    Default,
    Literals,
    Picture,
    Run,
    Value,
    is_content,
    plain,
)
from outgrowth.core.edits.tree.trees import rebuilt_tree, with_owner
from outgrowth.core.resolve.cascade import value_given
from outgrowth.core.trials.growth import grown
from outgrowth.core.trials.languages import (
    ARABIC,
    CHINESE,
    GERMAN,
    HEBREW,
    HINDI,
    JAPANESE,
    POLISH,
    THAI,
    Reword,
    in_words_of,
    made_up,
)

Repicture = Callable[[Picture], Picture]

LONG_WORD = "Harbourmastersannouncementboard"
DIGITS = "1,284,390.55 · 2026-12-31"
_MARKS = "⛴️ Å̧ngström é̂ 👩‍✈️ n̈ 🏝️"
_WIDE, _TALL = 6.0, 1 / 6
_SIDE = 1200.0


class TrialContent(NamedTuple):
    """A content to try: what it does to words and to pictures, and whether it comes to all of
    them (a language) or to those that an instance may set (data); of the designer's own, `words`
    are values by what their columns are called."""

    id: str
    title: str
    reword: Reword | None = None
    repicture: Repicture | None = None
    everywhere: bool = False
    words: Map[str, Literals] = Map()


def _two_lines(text: str) -> str:
    middle = text.rfind(" ", 0, len(text) // 2 + 1)
    if middle < 0:
        return f"{text}\n{text}" if text else text
    return f"{text[:middle]}\n{text[middle + 1 :]}"


def _thrice(text: str) -> str:
    return " ".join([text] * 3) if text else text


def _letter(text: str) -> str:
    return next((c for c in text if c.isalnum()), "A") if text else text


def _if_any(new: str) -> Reword:
    return lambda text: new if text else text


def _wide(picture: Picture) -> Picture:
    return Picture(picture.asset, _SIDE, _SIDE / _WIDE) if picture.asset else picture


def _tall(picture: Picture) -> Picture:
    return Picture(picture.asset, _SIDE * _TALL, _SIDE) if picture.asset else picture


AS_IS = TrialContent("as-is", "As it is")
SHIPPED: tuple[TrialContent, ...] = (
    AS_IS,
    TrialContent("none", "Nothing", lambda _: ""),
    TrialContent("one-letter", "One letter", _letter),
    TrialContent("three-times", "Three times as long", _thrice),
    TrialContent("long-word", "One long word", _if_any(LONG_WORD)),
    TrialContent("two-lines", "Two lines", _two_lines),
    TrialContent("digits", "Digits and dates", _if_any(DIGITS)),
    TrialContent("growth", "As long as in German", grown, everywhere=True),
    TrialContent("made-up", "Accents, 40 % longer", made_up, everywhere=True),
    TrialContent("german", "German, long words", in_words_of(GERMAN, 1.3), everywhere=True),
    TrialContent("polish", "Polish", in_words_of(POLISH, 1.25), everywhere=True),
    TrialContent("hindi", "Hindi", in_words_of(HINDI, 1.1), everywhere=True),
    TrialContent("thai", "Thai, no spaces", in_words_of(THAI, 1.0), everywhere=True),
    TrialContent("arabic", "Arabic, right to left", in_words_of(ARABIC, 1.0), everywhere=True),
    TrialContent("hebrew", "Hebrew, right to left", in_words_of(HEBREW, 0.9), everywhere=True),
    TrialContent("japanese", "Japanese, no spaces", in_words_of(JAPANESE, 0.6), everywhere=True),
    TrialContent("chinese", "Chinese, no spaces", in_words_of(CHINESE, 0.6), everywhere=True),
    TrialContent("marks", "Emoji and marks", _if_any(_MARKS)),
    TrialContent("no-picture", "Missing picture", None, lambda _: NO_PICTURE, True),
    TrialContent("wide-picture", "Very wide picture", None, _wide, True),
    TrialContent("tall-picture", "Very tall picture", None, _tall, True),
)
"""All contents that ship, in the order of a sheet. To add one: a row here."""


def shipped(content_id: str) -> TrialContent | None:
    """The content that ships under an id."""
    return next((content for content in SHIPPED if content.id == content_id), None)


def usual_contents(document: Document, owner: Owner) -> tuple[TrialContent, ...]:
    """The contents that ship, without those of pictures where nothing shows one."""
    kinds = (node.kind for inner in shown_within(document, owner) for node in walk(inner.root))
    pictured = "image" in kinds
    return tuple(c for c in SHIPPED if pictured or c.repicture is None)


def own(title: str, words: Mapping[str, Literals]) -> TrialContent:
    """A row of the designer's own."""
    return TrialContent(title, title, words=Map(words))


# --- into the document --------------------------------------------------------------------------


def with_content(document: Document, owner_id: str, content: TrialContent) -> Document:
    """The document in which an owner has a content, and everything that it holds where the
    content comes everywhere. The same document where that changes nothing."""
    owner = document.owner(owner_id)
    if owner is None or content is AS_IS:
        return document
    if content.words:
        return _changed(document, _filled(document, owner, content.words))
    if not content.everywhere:
        return _changed(document, _Words(document, content, data=True).owner(owner))
    for inner in shown_within(document, owner):
        document = _changed(document, _Words(document, content, data=False).owner(inner))
    return document


def _changed(document: Document, owner: Owner) -> Document:
    return document if document.owner(owner.id) is owner else with_owner(document, owner)


def text_properties(component: Component) -> list[ComponentProperty]:
    """The properties of a component that are words."""
    return [prop for prop in component.properties if prop.kind == "text"]


class _Words:
    """Puts a content's words and pictures in the place of an owner's."""

    def __init__(self, document: Document, content: TrialContent, data: bool) -> None:
        self._document = document
        self._content = content
        self._data = data

    def owner(self, owner: Owner) -> Owner:
        if isinstance(owner, Component):
            owner = self._properties(owner)
            if self._data and text_properties(owner):
                return owner
        root = rebuilt_tree(owner.root, self._node)
        if not isinstance(owner, Component):
            return owner if root is owner.root else msgspec.structs.replace(owner, root=root)
        rules = tuple(
            self._rule(rule, self._says_words(owner, owner.root, rule)) for rule in owner.rules
        )
        return msgspec.structs.replace(owner, root=root, rules=rules)

    def _properties(self, component: Component) -> Component:
        properties = tuple(
            msgspec.structs.replace(prop, default=self._value(prop.default))
            if prop.kind == "text"
            else prop
            for prop in component.properties
        )
        if properties == component.properties:
            return component
        return msgspec.structs.replace(component, properties=properties)

    def _node(self, node: Node) -> Node:
        texts = self._texts_of(node.style.get("component"))
        style = node.style
        for name, value in node.style.items():
            after = self._value(value, name.removeprefix(CHOICE) in texts)
            if after is not value:
                style = style.set(name, after)
        overrides = tuple(
            self._rule(rule, not rule.node and rule.property.removeprefix(CHOICE) in texts)
            for rule in node.overrides
        )
        if style is node.style and overrides == node.overrides:
            return node
        return msgspec.structs.replace(node, style=style, overrides=overrides)

    def _texts_of(self, component_id: Value | None) -> set[str]:
        if not isinstance(component_id, str):
            return set()
        component = self._document.components.get(component_id)
        return {prop.id for prop in text_properties(component)} if component is not None else set()

    def _says_words(self, component: Component, root: Node, rule: Rule) -> bool:
        node = find(root, rule.node[0]) if len(rule.node) == 1 else None
        component_id = node.style.get("component") if node is not None else None
        return rule.property.removeprefix(CHOICE) in self._texts_of(component_id)

    def _rule(self, rule: Rule, says_words: bool) -> Rule:
        value = self._value(rule.value, says_words)
        return rule if value is rule.value else msgspec.structs.replace(rule, value=value)

    def _value(self, value: Value, says_words: bool = False) -> Value:
        """A value with the content's words or picture; choices of words are plain text."""
        reword, repicture = self._content.reword, self._content.repicture
        if reword is not None and is_content(value):
            return reworded(value, reword)
        if reword is not None and says_words and isinstance(value, str):
            return reword(value)
        if repicture is not None and isinstance(value, Picture):
            return repicture(value)
        return value


def reworded(content: Content, reword: Reword) -> Content:
    """Words made others, each run for itself where there are several."""
    runs = [msgspec.structs.replace(run, text=reword(run.text)) for run in content]
    return tuple(run for run in runs if run.text)


def _filled(document: Document, owner: Owner, words: Mapping[str, Literals]) -> Owner:
    """An owner with a row's values: a component's properties have them, or else the texts that
    are called like the columns; so have those of a screen."""
    if isinstance(owner, Component):
        properties = tuple(
            msgspec.structs.replace(prop, default=_fitting(prop, words))
            for prop in owner.properties
        )
        if properties != owner.properties:
            return msgspec.structs.replace(owner, properties=properties)
    root = rebuilt_tree(owner.root, lambda node: filled_node(document, node, words))
    return owner if root is owner.root else msgspec.structs.replace(owner, root=root)


def filled_node(document: Document, node: Node, words: Mapping[str, Literals]) -> Node:
    """A part with a row's values: an instance by its component's properties, a text by its
    name."""
    if node.kind == "text":
        value = column_for(words, node.id, node.name)
        if not isinstance(value, str):
            return node
        content = (Run(value),) if value else ()
        return msgspec.structs.replace(node, style=node.style.set("content", content))
    component_id = node.style.get("component")
    component = document.components.get(component_id) if isinstance(component_id, str) else None
    if component is None:
        return node
    style = node.style
    for prop in component.properties:
        value = column_for(words, prop.id, prop.name)
        if value is not None:
            style = style.set(CHOICE + prop.id, _choice(prop, value))
    return msgspec.structs.replace(node, style=style) if style is not node.style else node


def column_for(words: Mapping[str, Literals], key: str, name: str) -> Literals | None:
    """A row's value for what has this id and name; small and capital letters are alike."""
    if key in words:
        return words[key]
    same = (value for column, value in words.items() if column.casefold() == name.casefold())
    return next(same, None)


def _fitting(prop: ComponentProperty, words: Mapping[str, Literals]) -> Default:
    value = column_for(words, prop.id, prop.name)
    return prop.default if value is None else value_given(prop, value)


def _choice(prop: ComponentProperty, value: Literals) -> Value:
    fitted = value_given(prop, value)
    return plain(fitted) if is_content(fitted) else fitted
