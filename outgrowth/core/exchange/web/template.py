"""The tree of a component as data for the runtime: ["tag#id", {attributes}, ...children]."""

from __future__ import annotations

from typing import Any, NamedTuple

from defusedxml import ElementTree

from outgrowth.core.color import Gradient
from outgrowth.core.document.properties import CHOICE, TABLE
from outgrowth.core.document.records import Component, Node, Path
from outgrowth.core.document.types import Json
from outgrowth.core.document.values import FromProperty, Literals, Run, plain
from outgrowth.core.exchange.svg.write import path_data, svg_fill
from outgrowth.core.exchange.web.evaluate import Evaluated, Evaluator
from outgrowth.core.exchange.web.forced_colors import drawn_as
from outgrowth.core.exchange.web.held_open import own_place
from outgrowth.core.exchange.web.modules import PictureAddress
from outgrowth.core.exchange.web.names import OwnerNames
from outgrowth.core.exchange.web.selectors import has_frame
from outgrowth.core.exchange.web.shapes import is_round
from outgrowth.core.exchange.web.sheet import SheetMaker
from outgrowth.core.exchange.web.sides import DIRECTIONS
from outgrowth.core.exchange.web.steps import AxisValues, holding, last_plain, literal_at
from outgrowth.core.paint.draw import formed
from outgrowth.core.text.paragraph import BOLD

Element = list[Json]


class PicturePaths(NamedTuple):
    """Where the files of pictures lie, by their digests."""

    files: dict[str, PictureAddress]

    def address(self, digest: str) -> str:
        """What an `img` shows; nothing where the picture is not in the file."""
        return self.files.get(digest, EMPTY_PICTURE)


EMPTY_PICTURE = (
    "data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='24' height='24'/%3E"
)


class TemplateMaker:
    """Makes the elements of one owner.

    exported  the parts of the instances inside that holders of this owner speak of, by the
              instance: their paths from it
    problems  what cannot be drawn, as sentences
    """

    def __init__(
        self,
        evaluator: Evaluator,
        sheet: SheetMaker,
        pictures: PicturePaths,
        exported: dict[str, list[Path]],
        sizes: dict[Path, tuple[float, float]],
    ) -> None:
        self._evaluator = evaluator
        self._steps = evaluator.steps
        self._sheet = sheet
        self._pictures = pictures
        self._exported = exported
        self._sizes = sizes
        self.names: OwnerNames = evaluator.names.owners[evaluator.steps.owner.id]
        self.imports: list[str] = []
        self.problems: list[str] = []

    def children_of_root(self) -> list[Json]:
        """What stands in the shadow tree (or on the page, in a screen's root)."""
        inside = self._inside(self._steps.owner.root, (), "root")
        return [["div#root", *inside]] if self._sheet.is_framed else inside

    def _element(self, node: Node) -> Json:
        name = self.names.nodes[node.id]
        if node.kind == "instance":
            return self._instance(node, name)
        tag = {"text": "p", "image": "img"}.get(node.kind, "div")
        if node.kind == "image":
            source: dict[str, Json] = {"alt": "", "src": self._picture((node.id,))}
            return [f"img#{name}", source, *self._direction(node)]
        directed = self._direction(node)
        scrolls = node.kind == "box" and self._made((node.id,)).node.style.scrolls != "none"
        # What is reached by scrolling only has to be reached by keys too (WCAG 2.2, 2.1.1).
        focusable: list[Json] = [{"tabindex": "0"}] if scrolls else []
        return [f"{tag}#{name}", *directed, *focusable, *self._inside(node, (node.id,), name)]

    def _direction(self, node: Node) -> list[dict[str, Json]]:
        """In which direction a part reads, where it says so: an attribute, as pages have it. No
        style sheet can change it."""
        said = [s for s in self._steps.of((node.id,)) if s.property == "direction"]
        if not said:
            return []
        if any(s.when or (s.depth == 0 and isinstance(s.value, FromProperty)) for s in said):
            self.problems.append(
                f"“{node.name}” of “{self._steps.owner.name}” reads in another direction in some "
                "cases; a page has one for all of them."
            )
        plain = [s.value for s in said if not s.when]
        value = DIRECTIONS.get(str(plain[-1])) if plain else None
        return [{"dir": value}] if value else []

    def _inside(self, node: Node, path: Path, name: str) -> list[Json]:
        styled = self._made(path)
        if node.kind == "text":
            words = content_of(
                literal_at(
                    self._steps.document,
                    last_plain(holding(self._steps.of(path), {}), "content"),
                    "content",
                    self._steps,
                ),
                styled,
            )
            # A root's words need an element to be put in by the runtime.
            return [[f"span#{name}-words", *words]] if not path else words
        children: list[Json] = []
        if self._has_strut(path):
            children.append([f"u#{name}-strut"])
        if node.kind == "shape":
            children.append(self._shape(path, name, styled))
        if node.kind == "image" and not path:
            if styled.node.style.width.mode == styled.node.style.height.mode == "fit":
                self.problems.append(
                    f"“{self._steps.owner.name}” is a picture as a whole, without a size of its "
                    "own: where there is little room a page makes it smaller. Give it a width."
                )
            children.append(["img#root-picture", {"alt": "", "src": self._picture(path)}])
        children += [self._element(child) for child in node.children]
        if node.kind == "box" and self._sheet.styles.edged(path):
            children.append([f"i#{name}-edge"])
        return children

    def _instance(self, node: Node, name: str) -> Json:
        value = node.style.get("component")
        component = self._steps.component_at((node.id,))
        attributes: dict[str, Json] = {}
        element = "span"
        if component is not None:
            inner = self._evaluator.names.owners[component.id]
            element = inner.element
            self._want(element)
            parts = self._exports(node, component)
            if parts:
                attributes["exportparts"] = parts
            attributes |= self._attributes(node, component)
        for directed in self._direction(node):
            attributes |= directed
        styled: Element = [f"{element}#{name}"]
        if component is None:
            attributes["hidden"] = ""
        if attributes:
            styled.append(attributes)
        if isinstance(value, FromProperty) and value.property in self.names.properties:
            slot = self.names.properties[value.property].attribute
            return [f"slot#{name}-slot", {"name": slot}, styled]
        return styled

    def _want(self, element: str) -> None:
        if element not in self.imports and element != self.names.element:
            self.imports.append(element)

    def _exports(self, node: Node, component: Component) -> str:
        """Which parts of an instance are handed on to what is around, and under which name."""
        steps = self._steps.other(component)
        outer = self.names.nodes[node.id]
        parts = []
        for path in self._exported.get(node.id, []):
            inner = "-".join(self._part_names(component, path)) or "root"
            if path:
                parts.append(f"{inner}: {outer}-{inner}")
            if has_frame(steps, path):
                root = f"{inner}-root" if path else inner
                parts.append(f"{root}: {outer}-{root}")
            kind = Evaluator(steps, self._evaluator.names).kind_at(path)
            if kind == "shape":
                parts.append(f"{inner}-form: {outer}-{inner}-form")
            if kind == "box" and self._held_open(component, path):
                parts.append(f"{inner}-strut: {outer}-{inner}-strut")
        return ", ".join(parts)

    def _held_open(self, component: Component, path: Path) -> bool:
        return own_place(self._steps.other(component), path) in self._sheet.adapts.held_open

    def _part_names(self, component: Component, path: Path) -> list[str]:
        steps = self._steps.other(component)
        names = []
        for n in range(len(path)):
            owner = steps.owner_at(path[:n])
            if owner is not None:
                names.append(self._evaluator.names.owners[owner.id].nodes[path[n]])
        return names

    def _attributes(self, node: Node, component: Component) -> dict[str, Json]:
        """The choices of an instance that hold in every case, as its attributes."""
        attributes: dict[str, Json] = {}
        steps = self._steps.of((node.id,))
        own = [s for s in steps if s.depth == 0 and s.property.startswith(CHOICE)]
        for step in own:
            siblings = [s for s in own if s.property == step.property]
            if len(siblings) == 1 and not step.when and not isinstance(step.value, FromProperty):
                value = literal_at(self._steps.document, step, step.property, self._steps)
                pair = attribute_of(self._evaluator, component, step.property, value)
                if pair is not None and isinstance(pair[1], str):
                    attributes[pair[0]] = pair[1]
        spoken = [s for s in steps if s.depth == 0 and s.property == "label"]
        if len(spoken) == 1 and not spoken[0].when:
            value = literal_at(self._steps.document, spoken[0], "label", self._steps)
            attributes |= {"aria-label": str(value)} if value else {}
        return attributes

    def _made(self, path: Path, cell: AxisValues | None = None) -> Evaluated:
        return self._evaluator.evaluated(path, cell or {}, self._steps.of(path))

    def _has_strut(self, path: Path) -> bool:
        return self._sheet.styles.strutted(path)

    def _picture(self, path: Path) -> str:
        return self._pictures.address(self._made(path).node.style.picture.asset)

    # --- shapes -----------------------------------------------------------------------------

    def _shape(self, path: Path, name: str, styled: Evaluated) -> Json:
        paint = styled.paint
        seen = drawn_as(paint)
        frame: dict[str, Json] = {"class": seen} if seen else {}
        if paint.form == "ellipse":
            if not is_round(paint):
                return _svg(frame, [f"ellipse#{name}-form", {"rx": "50%", "ry": "50%"}])
            ring: Element = [f"ellipse#{name}-form", {"pathLength": "360"}]
            if not self._hollow(path):
                frame |= {"viewBox": "0 0 100 100", "preserveAspectRatio": "none"}
                return _svg(frame, ring)
            width, height = self._sizes.get(path, (24.0, 24.0))
            if abs(width - height) > 0.5 and abs(paint.arc_sweep) < 360:
                self.problems.append(
                    f"“{name}” of “{self._steps.owner.name}” is a part of a ring that is not as "
                    "wide as high: a page draws it otherwise. Make it square, or a slice."
                )
            return _svg(frame, ring)
        data, box = shape_of(styled, self._sizes.get(path, (24.0, 24.0)))
        attributes: dict[str, Json] = {"d": data}
        if paint.fill_rule != "nonzero":
            attributes["fill-rule"] = paint.fill_rule
        attributes |= {"stroke-linecap": paint.line_ends, "stroke-linejoin": paint.line_joins}
        drawing: Element = []
        if isinstance(paint.fill, Gradient):
            fill, defined, _ = svg_fill(paint.fill, *paint.path_room)
            attributes["fill"] = fill
            drawing.append(["defs", *_elements(defined)])
        drawing.append([f"path#{name}-form", attributes])
        return _svg(frame | {"viewBox": box}, *drawing)

    def _hollow(self, path: Path) -> bool:
        """Whether a round shape is a ring in some case. A slice goes with its box, whatever the
        proportion of that is; a ring is as thick everywhere."""
        thickness = [s.value for s in self._steps.of(path) if s.property == "thickness"]
        return any(value != 0.0 for value in thickness)


def _svg(attributes: dict[str, Json], *inside: Json) -> Json:
    return ["svg", *([attributes] if attributes else []), *inside]


def shape_of(styled: Evaluated, size: tuple[float, float]) -> tuple[str, str]:
    """A shape's path data, and the box that it is drawn in."""
    paint = styled.paint
    width, height = paint.path_room
    data = paint.path
    if paint.form != "path":
        width, height = size
        data = formed(paint, width, height)
    return path_data(data) if data else "", f"0 0 {width:.10g} {height:.10g}"


def _elements(markup: str) -> list[Json]:
    """SVG definitions that we wrote ourselves, as template elements."""

    def element_of(element: Any) -> Json:
        return [element.tag, dict(element.attrib), *[element_of(child) for child in element]]

    return [element_of(child) for child in ElementTree.fromstring(f"<defs>{markup}</defs>")]


def content_of(content: Literals, styled: Evaluated) -> list[Json]:
    """A text's runs as template elements; one plain run is a string."""
    if not isinstance(content, tuple):
        return []
    weight = max(styled.node.style.font_weight, BOLD)
    parts: list[Json] = []
    for run in content:
        assert isinstance(run, Run)
        part: Json = run.text.replace("\t", " ")
        if run.bold:
            part = ["b", part] if weight == BOLD else ["b", {"class": "own"}, part]
        parts.append(["i", part] if run.italic else part)
    return parts


def attribute_of(
    evaluator: Evaluator, component: Component, choice: str, value: Literals
) -> tuple[str, Json] | None:
    """A choice of an instance as an attribute of its element: its name and value, None as the
    value for a boolean attribute that is not there. None for what is no attribute."""
    names = evaluator.names.owners[component.id]
    key = choice.removeprefix(CHOICE)
    if key in names.axes:
        axis = names.axes[key]
        if axis.boolean:
            return axis.attribute, "" if value == axis.yes_id else None
        return (axis.attribute, axis.values[str(value)]) if str(value) in axis.values else None
    if key not in names.properties:
        return None
    prop = names.properties[key]
    if prop.property.kind == "switch":
        return prop.attribute, "" if (value is True) == prop.yes else None
    if prop.property.kind == "text":
        text = plain(value) if isinstance(value, tuple) else str(value)  # type: ignore[arg-type]  # runs
        return prop.attribute, text
    if prop.property.kind == "slot":
        target = evaluator.names.owners.get(str(value))
        return prop.attribute, target.element if target is not None else ""
    return None


GEOMETRY = frozenset({"path", "path-size", "path-height", "form"})
TOLD = frozenset({"content", "picture", "label", "component"}) | GEOMETRY
"""Rows that no style sheet can say: the runtime sets them."""
assert set(TABLE) >= TOLD
