"""The Code sheet: what the selected part is in CSS, under which conditions, ready to be copied."""

from __future__ import annotations

from typing import NamedTuple

from outgrowth.core.document.records import Component, Document, Owner, Path
from outgrowth.core.exchange.web.evaluate import Evaluator
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.exchange.web.selectors import COMPONENT, SCREEN
from outgrowth.core.exchange.web.sheet import SheetMaker, sheet_text
from outgrowth.core.exchange.web.steps import AxisValues, Conditions, Steps
from outgrowth.core.layout.engine import content_size
from outgrowth.core.memo import ByIdentity
from outgrowth.core.resolve.scene_paths import positions_of
from outgrowth.workspace.engine import Engine


class CodeBlock(NamedTuple):
    """One rule: when it holds, in words, and its CSS."""

    when: str
    css: str


class NodeCode(NamedTuple):
    """A part in code: its element and its selector's owner, and its rules, those of its own
    component before those of what is around."""

    title: str
    blocks: tuple[CodeBlock, ...]

    @property
    def text(self) -> str:
        """All of it, to be copied."""
        return "\n".join(block.css for block in self.blocks)


# Names are those of a document; another edit makes others.
_names = ByIdentity(Names, 4)


def node_code(document: Document, engine: Engine, owner: Owner, path: Path) -> NodeCode:
    """The code of the part at a path, from an owner in."""
    path = () if path == (owner.root.id,) else path
    names = _names(document)
    blocks: list[CodeBlock] = []
    steps = Steps(document, owner)
    if steps.node_at(path) is None:
        return NodeCode("a part that is gone", ())
    inner = steps.component_at(path[:1]) if len(path) > 1 else None
    if inner is not None:
        blocks += node_code(document, engine, inner, path[1:]).blocks
    selectors = COMPONENT if isinstance(owner, Component) else SCREEN

    def measured(place: Path, cell: AxisValues) -> tuple[float, float]:
        return _measured(document, engine, owner, place)

    maker = SheetMaker(Evaluator(steps, names), (), measured, selectors)
    for when, rule in maker.rules_of(path):
        blocks.append(CodeBlock(_words(steps, when), sheet_text([rule])))
    element = names.owners[owner.id].element
    title = f"<{element}>" if isinstance(owner, Component) else f"screens/{element}.css"
    return NodeCode(title, tuple(blocks))


def _words(steps: Steps, when: Conditions) -> str:
    """“Kind: quiet, State: hover”; always, for none."""
    parts = []
    for (scope, key), value in sorted(when):
        component = steps.component_at(scope)
        axis = component.axis(key) if component is not None else None
        prop = component.property(key) if component is not None else None
        axis_value = axis.value(value) if axis is not None else None
        if axis is not None and axis_value is not None:
            parts.append(f"{axis.name}: {axis_value.name}")
        elif prop is not None:
            parts.append(f"{prop.name}: {value}")
    return ", ".join(parts) or "always"


def _measured(document: Document, engine: Engine, owner: Owner, path: Path) -> tuple[float, float]:
    view = engine.view(document, owner.id)
    scene, placed = view.scene, view.placed
    for n in positions_of(scene, path) or ():
        scene, placed = scene.children[n], placed.children[n]
    return content_size(scene.layout, placed)
