"""All files of a document's hand-over, as bytes by their paths."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from outgrowth.core.document.records import Component, Document, Owner, Path, Screen
from outgrowth.core.document.sentences import guidance
from outgrowth.core.document.types import Json
from outgrowth.core.exchange.web.css import ALONE, Around, inside_of
from outgrowth.core.exchange.web.definition import DefinitionMaker
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.forced_colors import forced_strokes
from outgrowth.core.exchange.web.held_open import own_place
from outgrowth.core.exchange.web.modules import (
    declarations,
    definition_text,
    events_of,
    module,
)
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.exchange.web.screens import Page, page
from outgrowth.core.exchange.web.selectors import COMPONENT, SCREEN
from outgrowth.core.exchange.web.sheet import (
    NOTHING_ELSE,
    Adapts,
    CssRule,
    SheetMaker,
    sheet_text,
)
from outgrowth.core.exchange.web.sides import DIRECTIONS
from outgrowth.core.exchange.web.standing import StandingBox, standing, standing_css, standing_in
from outgrowth.core.exchange.web.steps import YES, AxisValues, Steps
from outgrowth.core.exchange.web.template import PicturePaths, TemplateMaker
from outgrowth.core.layout import Layout, Placed
from outgrowth.core.layout.engine import content_size
from outgrowth.core.resolve.cascade import InstanceInput
from outgrowth.core.resolve.resolver import Resolver
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.core.resolve.scene_paths import positions_of

Exports = dict[str, dict[str, list[Path]]]
"""By component and instance in it: the paths inside that what is around speaks of."""


class Code(NamedTuple):
    """The code of one component: its module in full, what of it a page without modules takes, its
    types, its style sheet, its definition, what could not be said, as sentences, and what
    stands for its elements before they are defined."""

    javascript: str
    classic: str
    types: str
    css: str
    definition: dict[str, Json]
    imports: list[str]
    rules: list[CssRule]
    problems: list[str]
    standing: list[StandingBox]


class WebCode:
    """Makes the code of a document's components, each once."""

    def __init__(self, document: Document, layout: Layout, names: Names) -> None:
        self.document = document
        self.names = names
        self._layout = layout
        self._resolver = Resolver()
        self._others: dict[str, Steps] = {}
        self.pictures = PicturePaths({})
        self.families: tuple[str, ...] = ()
        self.fonts: dict[str, list[str]] = {}
        self._adapts = NOTHING_ELSE
        self.exports = self._exports()

    def steps(self, owner: Owner) -> Steps:
        """The steps of an owner."""
        if isinstance(owner, Component):
            steps = self._others.get(owner.id)
            if steps is None:
                steps = self._others[owner.id] = Steps(self.document, owner, self._others)
            return steps
        return Steps(self.document, owner, self._others)

    def component(self, component: Component) -> Code:
        """The module, the types and the style sheet of a component."""
        evaluator = Evaluator(self.steps(component), self.names)
        measured = self._measured(component)
        sheet = SheetMaker(evaluator, self.families, measured, COMPONENT, self._adapts)
        rules = sheet.rules()
        templates = TemplateMaker(
            evaluator,
            sheet,
            self.pictures,
            self.exports.get(component.id, {}),
            self._sizes(component),
        )
        template = templates.children_of_root()
        maker = DefinitionMaker(evaluator, self.pictures, self.document)
        definition = maker.made()
        fonts = self.fonts.get(component.id, [])
        if fonts:
            definition["fonts"] = list(fonts)
        names = self.names.owners[component.id]
        css = "\n".join(filter(None, [sheet_text(rules), forced_strokes(rules)]))
        classic = definition_text(names, definition, template, css, modular=False)
        body = definition_text(names, definition, template, css, modular=True)
        text = module(names, body, templates.imports, guidance(component))
        events = events_of(definition)
        problems = [*sheet.problems, *templates.problems]
        types = declarations(names, definition, events)
        stands = standing(component, names, partial(self._size_alone, component))
        return Code(
            text, classic, types, css, definition, templates.imports, rules, problems, stands
        )

    def _size_alone(self, component: Component, cell: AxisValues) -> tuple[float, float]:
        _, placed = self._scene(component, cell)
        return placed.width, placed.height

    def _standing_on(self, screen: Screen) -> Iterator[StandingBox]:
        """What stands for the elements of a screen."""
        names = self.names.owners[screen.id].nodes

        def below(node: SceneNode, place: Placed, holder: Around) -> Iterator[StandingBox]:
            inside = inside_of(node.kind, node.layout.style, holder)
            for node_id, child, here in zip(node.ids, node.children, place.children, strict=True):
                if child.component:
                    selector = f"#{names[node_id]}"
                    yield standing_in(selector, child.layout, inside, here.width, here.height)
                else:
                    yield from below(child, here, inside)

        return below(*self._scene(screen, {}), ALONE)

    def screen(self, screen: Screen) -> Page:
        """The page of a screen."""
        evaluator = Evaluator(self.steps(screen), self.names)
        measured = self._measured(screen)
        sheet = SheetMaker(evaluator, self.families, measured, SCREEN, self._adapts)
        stands = standing_css((), self._standing_on(screen))
        rules = sheet.rules()
        css = "\n".join(filter(None, [sheet_text(rules), forced_strokes(rules), stands]))
        sizes = self._sizes(screen)
        templates = TemplateMaker(evaluator, sheet, self.pictures, {}, sizes)
        template = templates.children_of_root()
        definition = DefinitionMaker(evaluator, self.pictures, self.document).made()
        links: Json = {
            self.names.owners[s.id].element: f"{self.names.owners[s.id].element}.html"
            for s in self.document.screens_in_order()
        }
        screen_data: dict[str, Json] = definition | {"links": links}
        name = self.names.owners[screen.id].element
        reads = DIRECTIONS.get(str(screen.root.style.get("direction")), "")
        made = page(screen, name, self.names.prefix, template, css, screen_data, reads)
        return made._replace(problems=(*sheet.problems, *templates.problems))

    # --- what has to be measured -----------------------------------------------------------------

    def _scene(self, component: Owner, cell: AxisValues) -> tuple[SceneNode, Placed]:
        if not isinstance(component, Component):
            scene = self._resolver.screen(self.document, component)
            return self._layout.view(scene)
        choices: list[tuple[str, object]] = []
        live: list[tuple[Path, str, object]] = []
        steps = self.steps(component)
        for (scope, key), value in cell.items():
            inner = steps.component_at(scope)
            prop = inner.property(key) if inner is not None else None
            settled: object = value if prop is None else value == YES
            axis = inner.axis(key) if inner is not None else None
            if scope or (axis is not None and axis.driver == "room"):
                live.append((scope, key, settled))
            else:
                choices.append((key, settled))
        given = InstanceInput(component.id, tuple(sorted(choices)), (), tuple(sorted(live)))  # type: ignore[arg-type]  # choices
        scene = self._resolver.instance(self.document, given)
        return self._layout.view(scene)

    def _measured(self, owner: Owner):  # type: ignore[no-untyped-def]  # a function
        def measured(path: Path, cell: AxisValues) -> tuple[float, float]:
            scene, placed = self._scene(owner, cell)
            way = positions_of(scene, path)
            if way is None:
                return 0.0, 0.0
            for n in way:
                scene, placed = scene.children[n], placed.children[n]
            return content_size(scene.layout, placed)

        return measured

    def _sizes(self, component: Owner) -> dict[Path, tuple[float, float]]:
        scene, placed = self._scene(component, {})
        sizes: dict[Path, tuple[float, float]] = {(): (placed.width, placed.height)}

        def below(node: SceneNode, place: Placed, path: Path) -> None:
            for n, child in enumerate(node.children):
                inside = (*path, node.ids[n])
                here = place.children[n]
                sizes[inside] = here.width, here.height
                if not child.component:
                    below(child, here, path)

        below(scene, placed, ())
        return sizes

    def _exports(self) -> Exports:
        exports: Exports = {}

        def need(steps: Steps, path: Path) -> None:
            """What is spoken of at a path must be a part of each instance on the way."""
            component = steps.component_at(path[:1])
            if component is None or len(path) < 2:
                return
            inner = self.steps(component)
            node = inner.node_at(path[1:2])
            if node is not None and node.kind == "instance":
                part_names = exports.setdefault(component.id, {}).setdefault(path[1], [])
                if path[2:] not in part_names:
                    part_names.append(path[2:])
                need(inner, path[1:])

        padded: set[str] = set()
        held_open: set[tuple[str, Path]] = set()
        for owner in self.document.owners():
            steps = self.steps(owner)
            evaluator = Evaluator(steps, self.names)
            maker = SheetMaker(evaluator, (), lambda p, c: (0.0, 0.0))
            padded |= maker.paths.padded_components()
            held_open |= {own_place(steps, path) for path in maker.paths.restated}
            for path in sorted(maker.paths.inside_instances()):
                need(steps, path)
        self._adapts = Adapts(frozenset(padded), frozenset(held_open))
        return exports
