"""How a component's faces lie in its grid: what stands along rows and columns, and which face
in each cell."""

from __future__ import annotations

from itertools import product
from typing import NamedTuple

from immutables import Map

from outgrowth.core.document.records import Axis, AxisValue, Component
from outgrowth.core.document.variants import Variant, is_switch, laid


class Faces(NamedTuple):
    """The faces of a component as its grid lays them: the values along columns and rows,
    and the variants row by row."""

    columns: list[tuple[str, ...]]
    rows: list[tuple[str, ...]]
    lines: list[list[Variant]]


def faces_of(component: Component, held: Variant) -> Faces:
    """The grid's faces; axes shown one value at a time stand at their value in `held`."""
    row_axes, column_axes, chips = laid(component)
    columns, rows = _along(column_axes), _along(row_axes)
    fixed = Map({axis.id: held.get(axis.id, axis.default) for axis in chips})
    return Faces(
        [_named(column_axes, values) for values in columns],
        [_named(row_axes, values) for values in rows],
        [[fixed.update(row).update(column) for column in columns] for row in rows],
    )


def _along(axes: list[Axis]) -> list[Variant]:
    every = product(*(axis.values for axis in axes))
    return [Map({a.id: v.id for a, v in zip(axes, values, strict=True)}) for values in every]


def _named(axes: list[Axis], values: Variant) -> tuple[str, ...]:
    found = [(axis, axis.value(values[axis.id])) for axis in axes]
    return tuple(face_text(axis, value) for axis, value in found if value is not None)


def face_text(axis: Axis, value: AxisValue) -> str:
    """What a row or column is called: yes and no need their axis, other values do not."""
    return f"{axis.name}: {value.name}" if is_switch(axis) else value.name
