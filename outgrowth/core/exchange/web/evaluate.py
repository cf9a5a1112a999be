"""A node's style under some conditions, with tokens and properties kept by name."""

from __future__ import annotations

from typing import NamedTuple

import msgspec
import numpy as np

from outgrowth.core.color import Color, Gradient, darkened, oklab_of, srgb_of
from outgrowth.core.color.gamut import chroma_share
from outgrowth.core.document.properties import CHOICE, TABLE, StyleProperty, row_of
from outgrowth.core.document.records import (
    Component,
    ComponentProperty,
    Document,
    Path,
    Screen,
    lineage,
)
from outgrowth.core.document.types import NumberType
from outgrowth.core.document.values import (
    Literals,
    Shadow,
    Shift,
    Size,
    Token,
)
from outgrowth.core.exchange.web.css import ALONE, WINDOW, Around, Css, inside_of
from outgrowth.core.exchange.web.names import Names
from outgrowth.core.exchange.web.sides import TURNS
from outgrowth.core.exchange.web.steps import (
    NO,
    YES,
    AxisKey,
    AxisValues,
    ScopedStep,
    Steps,
    holding,
    is_color_row,
    last_plain,
    literal_at,
)
from outgrowth.core.exchange.web.symbols import (
    CssColor,
    CssNumber,
    CssShadows,
    CssText,
    color_text,
    number_text,
    px,
)
from outgrowth.core.exchange.web.tokens_css import mode_values
from outgrowth.core.resolve.cascade import plain_and_shifts, shifted
from outgrowth.core.resolve.resolver import keep_proportion
from outgrowth.core.resolve.scene import Interner, LayoutNode, PaintStyle

_STYLED = {
    row.name: row for row in TABLE.values() if row.affects in ("layout", "paint", "presence")
}


class Evaluated(NamedTuple):
    """What a node is under some conditions, read from left to right. `variables` are what its own
    custom properties are, `by_lines` whether its sides are the start and end of lines."""

    node: LayoutNode
    paint: PaintStyle
    shown: bool
    click_through: bool
    cursor: str
    order: float
    variables: Css
    by_lines: bool = False
    clears_edges: bool = False


class Evaluator:
    """Evaluates the nodes of one owner."""

    def __init__(self, steps: Steps, names: Names) -> None:
        self.steps = steps
        self.names = names
        self._document: Document = steps.document
        # By node and cell: all children of a box ask the same.
        self._arounds: dict[object, Around] = {}
        self._lines: dict[Path, list[Path]] = {}

    def kind_at(self, path: Path) -> str:
        """The kind of node that is drawn at a path: of an instance, that of its root."""
        node = self.steps.node_at(path)
        if node is not None and node.kind == "instance" and path:
            component = self.steps.component_at(path)
            return component.root.kind if component is not None else "box"
        return node.kind if node is not None else "box"

    def evaluated(self, path: Path, cell: AxisValues, steps: tuple[ScopedStep, ...]) -> Evaluated:
        """A node under the conditions of a cell, by these of its steps."""
        holding_steps = holding(steps, cell)
        values: dict[str, Literals] = {}
        variables: Css = {}
        for name in sorted({step.property for step in holding_steps} & _STYLED.keys()):
            row = _STYLED[name]
            values[name] = self._value(path, row, holding_steps, steps, cell, variables)
        kind = self.kind_at(path)
        if kind == "image":
            keep_proportion(values)
        turns = values.pop("turns", False) is True
        intern = Interner()
        node = LayoutNode(kind, intern.style(values), ())  # type: ignore[arg-type]  # a kind
        order = values.get("order", 0.0)
        return Evaluated(
            node,
            intern.paint(values),
            values.get("shown") is not False,
            self._plain(holding_steps, "click-through", cell) is True,
            str(self._plain(holding_steps, "cursor", cell)),
            order if isinstance(order, float) else 0.0,
            variables
            | self._given(path, holding_steps, cell)
            | self._moded(steps, cell)
            | ({TURNS: "1"} if turns else {}),
            self._plain(holding_steps, "sides", cell) == "start-end",
            self._plain(holding_steps, "clears-edges", cell) is True,
        )

    def around(self, path: Path, cell: AxisValues) -> Around:
        """How the box around a node arranges it."""
        key = path, frozenset(cell.items())
        cached = self._arounds.get(key)
        if cached is None:
            line = self.line_to(path)
            cached = WINDOW if isinstance(self.steps.owner, Screen) else ALONE
            if line:
                parent = line[-1]
                styled = self.evaluated(parent, cell, self.steps.of(parent))
                outer = self.around(parent, cell)
                cached = inside_of(self.kind_at(parent), styled.node.style, outer)
            self._arounds[key] = cached
        return cached

    def line_to(self, path: Path) -> list[Path]:
        """The paths of all nodes around one, the outermost first."""
        line = self._lines.get(path)
        if line is not None:
            return line
        line = self._lines[path] = []
        for n in range(len(path)):
            owner = self.steps.owner_at(path[:n])
            if owner is None:
                break
            for node in lineage(owner.root, path[n])[:-1]:
                # An owner's root is said by its instance.
                line.append(path[:n] if node is owner.root else (*path[:n], node.id))
        return line

    # --- values -----------------------------------------------------------------------------

    def _plain(
        self, holding_steps: tuple[ScopedStep, ...], name: str, cell: AxisValues
    ) -> Literals:
        return self._literal(last_plain(holding_steps, name), name, cell)

    def _literal(self, step: ScopedStep | None, name: str, cell: AxisValues) -> Literals:
        prop = self.steps.property_at(step.scope, step.value) if step is not None else None
        if step is not None and prop is not None and prop.kind == "switch":
            value = cell.get(AxisKey(step.scope, prop.id), YES if prop.default is True else NO)
            return value == YES
        return literal_at(self._document, step, name, self.steps)

    def _value(
        self,
        path: Path,
        row: StyleProperty,
        holding_steps: tuple[ScopedStep, ...],
        steps: tuple[ScopedStep, ...],
        cell: AxisValues,
        variables: Css,
    ) -> Literals:
        said = [s for s in holding_steps if s.property == row.name]
        if any(self.steps.relative_default(s) is not None for s in said):
            return self._relative(said, row, cell)
        step, shifts = plain_and_shifts(said)
        plain = self._said(step, row.name, cell)
        variable = self.variable(path, row, steps)
        if variable:
            # A length keeps its unit by its name; any other number has none.
            length = getattr(row.type, "unit", "") == "px" and isinstance(plain, float)
            variables[variable] = px(plain) if length else _text(plain)  # type: ignore[arg-type]  # a float
            plain = _by_name(plain, f"var({variable})", isinstance(plain, float) and not length)
        for shift in shifts:
            plain = _shifted(plain, shift)
        return plain

    def _relative(self, said: list[ScopedStep], row: StyleProperty, cell: AxisValues) -> Literals:
        """The value where a property is a relative change as long as no instance gives it: what
        is given, else (the fallback of its custom property) what is below, changed."""
        plain = self._said(None, row.name, cell)
        shifts: list[Shift] = []
        for step in said:
            change = self.steps.relative_default(step)
            if isinstance(step.value, Shift):
                shifts.append(step.value)
            elif change is None:
                plain = self._said(step, row.name, cell)
            else:
                shifts.append(change)
                for shift in shifts:
                    plain = _shifted(plain, shift)
                css = f"var({self._variable_of(step)}, {_fallback(plain)})"
                plain = _by_name(plain, css, unitless=True)
                shifts = []
        for shift in shifts:
            plain = _shifted(plain, shift)
        return plain

    def variable(self, path: Path, row: StyleProperty, steps: tuple[ScopedStep, ...]) -> str:
        """The custom property that holds the plain value of what is shifted in the node's own
        component; "" for most."""
        deepest = max((s.depth for s in steps), default=0)
        own = [s for s in steps if s.property == row.name and s.depth == deepest]
        if not any(isinstance(s.value, Shift) for s in own):
            return ""
        plains = [s for s in steps if s.property == row.name and not isinstance(s.value, Shift)]
        literals = [literal_at(self._document, s, row.name, self.steps) for s in plains]
        if is_color_row(row.name):
            shifts = [s.value for s in own if isinstance(s.value, Shift)]
            if not all(isinstance(v, Color) and _stays_in_gamut(v, shifts) for v in literals):
                return ""
        elif not isinstance(row.type, NumberType):
            return ""
        scope = path[: len(path) - 1] if deepest < len(path) else path
        component = self.steps.owner_at(scope)
        node = "" if component is None or scope == path else path[-1]
        if component is None:
            return ""
        owner = self.names.owners[component.id]
        if node in ("", component.root.id):
            return f"--{owner.element}-{row.name}"
        return f"--{owner.element}-{owner.nodes[node]}-{row.name}"

    def _said(self, step: ScopedStep | None, name: str, cell: AxisValues) -> Literals:
        """The plain value, with what it is called in CSS where it has a name."""
        value = self._literal(step, name, cell)
        if step is None:
            return value
        if isinstance(step.value, Token):
            token = self._document.token(step.value.path)
            css = self.names.tokens.get(step.value.path)
            if token is None or css is None:
                return value
            return _by_name(value, f"var({css})", token.kind == "number")
        if name == "shadow" and isinstance(step.value, tuple):
            return tuple(map(self._said_shadow, value, step.value))  # type: ignore[arg-type]  # shadows both
        variable = self._variable_of(step)
        if variable is None:
            return value
        prop = self.steps.property_at(step.scope, step.value)
        default = prop.default if prop is not None else None
        css = f"var({variable})"
        if isinstance(default, Token):
            css = f"var({variable}, {self._token_fallback(default, value)})"
        return _by_name(value, css, unitless=True)

    def _token_fallback(self, default: Token, value: Literals) -> str:
        """What a token says where it is a property's default: by its name, in the mode of the part
        that it is shown in; a length by its number, since its name has a unit and the property
        has none."""
        token, css = self._document.token(default.path), self.names.tokens.get(default.path)
        if css is None or token is None or token.kind == "dimension":
            return _fallback(value)
        return f"var({css})"

    def _variable_of(self, step: ScopedStep) -> str | None:
        """The custom property of the property that a value comes from, if it has one."""
        prop = self.steps.property_at(step.scope, step.value)
        component = self.steps.component_at(step.scope)
        if prop is None or component is None or prop.kind not in ("color", "number"):
            return None
        return self.names.owners[component.id].properties[prop.id].variable

    def _said_shadow(self, settled: Shadow, stated: Shadow) -> Shadow:
        css = self.names.tokens.get(stated.token)
        if css is None:
            return settled
        color = _by_name(settled.color, f"var({css})")
        return Shadow(color, *msgspec.structs.astuple(settled)[1:])  # type: ignore[arg-type]  # a colour

    def _moded(self, steps: tuple[ScopedStep, ...], cell: AxisValues) -> Css:
        """What the tokens are that differ by mode, where the node can say one."""
        if not any(s.property == "mode" for s in steps):
            return {}
        said = self._literal(last_plain(holding(steps, cell), "mode"), "mode", cell)
        mode = self._document.mode_inside(said, None)
        values = mode_values(self._document, self.names, mode or "")
        return values if mode is not None else dict.fromkeys(values, "inherit")

    def _usual(self, component: Component) -> Css:
        """What the colours and numbers of a component are that nobody gives."""
        properties = self.names.owners[component.id].properties.values()
        kinds = ("color", "number")
        return {
            p.variable: self._default_text(p.property)
            for p in properties
            if p.property.kind in kinds
        }

    def _default_text(self, prop: ComponentProperty) -> str:
        """A property's default as its custom property holds it; nothing for a relative change and
        for a token, so that what refers to it falls back."""
        return "initial" if isinstance(prop.default, Shift | Token) else _text(prop.default)

    def _given(self, path: Path, holding_steps: tuple[ScopedStep, ...], cell: AxisValues) -> Css:
        """The colours and numbers that an instance gives to its component's properties."""
        node = self.steps.node_at(path)
        entire = not path or (node is not None and node.kind == "instance")
        component = self.steps.component_at(path) if entire else None
        css = self._usual(component) if component is not None else {}
        for step in holding_steps if component is not None and path else ():
            if not step.property.startswith(CHOICE) or component is None:
                continue
            prop = component.property(step.property.removeprefix(CHOICE))
            if prop is not None and prop.kind in ("color", "number"):
                variable = self.names.owners[component.id].properties[prop.id].variable
                css[variable] = _text(self._said(step, step.property, cell))
        return css


def _fallback(value: Literals) -> str:
    """A value where it stands for a custom property that is not set."""
    if isinstance(value, CssColor):
        return value.css
    if isinstance(value, float):
        return number_text(float(value), 10)
    return _text(value)


def _text(value: Literals) -> str:
    """A value of a custom property."""
    if isinstance(value, Color):
        return color_text(value)
    if isinstance(value, float):
        return number_text(value, 10)
    return value.css if isinstance(value, Gradient) else str(value)


def _by_name(value: Literals, css: str, unitless: bool = False) -> Literals:
    """A value that is said by a name; the value alone where CSS cannot."""
    if isinstance(value, Color):
        return CssColor(value.red, value.green, value.blue, value.alpha, css)
    if isinstance(value, float) and not isinstance(value, bool):
        if unitless:
            return CssNumber(value, f"calc({css} * 1px)", css)
        return CssNumber(value, css, "")
    if isinstance(value, Size) and value.mode == "fixed":
        return Size("fixed", _number(value.amount, css))
    if isinstance(value, str):
        return CssText(value, css)
    if isinstance(value, tuple) and value and row_of("shadow").type.fit(value) == value:
        return CssShadows(value, css)  # type: ignore[arg-type]  # shadows
    return value


def _number(value: float, css: str) -> float:
    return CssNumber(value, css, "")


def _shifted(value: Literals, shift: Shift) -> Literals:
    """The value with a relative change, said as one where the browser comes to the same."""
    shifted_value = shifted(value, shift)
    if isinstance(value, CssColor) and isinstance(shifted_value, Color):
        css = _relative(value, shift)
        return CssColor(
            shifted_value.red, shifted_value.green, shifted_value.blue, shifted_value.alpha, css
        )
    if isinstance(value, CssNumber) and isinstance(shifted_value, float):
        sign = f"+ {number_text(shift.amount)}" if shift.how == "add" else ""
        if shift.how == "multiply":
            sign = f"* {number_text(shift.amount)}"
        with_px = f"calc({value.with_px} {sign}{'px' if shift.how == 'add' else ''})"
        plain = f"calc({value.plain} {sign})" if value.plain else ""
        return CssNumber(shifted_value, with_px, plain)
    return shifted_value


def _relative(color: CssColor, shift: Shift) -> str:
    """Source: CSS Color 5, section 4 (relative colours)."""
    amount = shift.amount
    if shift.how == "fade":
        return f"rgb(from {color.css} r g b / calc(alpha * {number_text(1 - amount)}))"
    if amount >= 0:
        light = f"calc(l * {number_text(1 - amount)})"
    else:
        light = f"calc(l + (1 - l) * {number_text(-amount)})"
    share = _chroma(color, amount)
    chroma = "c" if share >= 1 else f"calc(c * {share:.4g})"
    return f"oklch(from {color.css} {light} {chroma} h)"


def _chroma(color: Color, amount: float) -> float:
    """How much of the chroma sRGB can still show; a browser cuts off what it cannot, which is no
    matter as long as nobody sees it."""
    lab = oklab_of(np.array([color.red, color.green, color.blue]))
    light = lab[0] * (1 - amount) if amount >= 0 else lab[0] + (1 - lab[0]) * -amount
    light = float(min(max(light, 0.0), 1.0))
    cut = np.clip(srgb_of(np.array([light, *lab[1:]])), 0.0, 1.0)
    ours = darkened(color, amount)
    if np.max(np.abs(cut - np.array([ours.red, ours.green, ours.blue]))) <= _UNSEEN:
        return 1.0
    return chroma_share(light, lab[1:])


# One of 255 levels.
_UNSEEN = 1 / 255


def _stays_in_gamut(color: Color, shifts: list[Shift]) -> bool:
    return all(_chroma(color, shift.amount) >= 1 for shift in shifts if shift.how == "darken")
