"""The differences that have not yet run out, by their origins, and their sum at any time.

    shown = latest + Σ over origins of (difference · rest + speed · kick)

Each number that moves has a column; each origin keeps the columns that it moves, with the
difference it made in each. Rest and kick are one pair for a whole row (timing.py). All of a
frame is one pass in NumPy: of many origins each moves little, so the rows are kept sparse and
added up by column, always in the same order.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from outgrowth.core.document.cues import Motion, Path
from outgrowth.core.motion.forms import Form
from outgrowth.core.motion.mixing import Floats
from outgrowth.core.motion.timing import Begun, length

Columns = NDArray[np.intp]
PropertyKey = tuple[Path, str]
"""A node's path and the name of its value."""
Part = Motion | None
"""The row of an origin: None is the change's own motion, else that of single parts in it."""


# Unused columns that are not worth numbering all others anew.
_SPARE = 1024


class ColumnBlock(NamedTuple):
    """The columns of one value."""

    form: Form
    start: int

    @property
    def columns(self) -> range:
        """Its columns in the sums."""
        return range(self.start, self.start + self.form.size)


class Row(NamedTuple):
    """What one origin still adds: in which columns how much, and with what speed per s."""

    begun: Begun
    columns: Columns
    differences: Floats
    speeds: Floats


class _Flat(NamedTuple):
    """All rows one after the other."""

    rows: list[Row]
    counts: Columns
    columns: Columns
    differences: Floats
    speeds: Floats


class Delta(NamedTuple):
    """What a change adds to a row: columns, and differences in them."""

    columns: list[int]
    values: list[float]

    def add(self, block: ColumnBlock, before: Sequence[float], after: Sequence[float]) -> None:
        """The difference between a value's numbers before and after."""
        for column, a, b in zip(block.columns, before, after, strict=True):
            if a != b:
                self.columns.append(column)
                self.values.append(a - b)


class Sums:
    """Blocks of columns by value, rows by origin. Times in ms."""

    def __init__(self) -> None:
        self.blocks: dict[PropertyKey, ColumnBlock] = {}
        self.rows: dict[Hashable, dict[Part, Row]] = {}
        self.size = 0
        self._flat: _Flat | None = None

    # --- columns ------------------------------------------------------------------------

    def add(self, key: PropertyKey, form: Form) -> ColumnBlock:
        """Columns for a value that begins to move."""
        block = self.blocks[key] = ColumnBlock(form, self.size)
        self.size += form.size
        return block

    def widen(self, key: PropertyKey, form: Form, goes_on: list[int]) -> ColumnBlock:
        """Other columns for a value of a wider form: `goes_on` says of which of the old ones
        each takes over what is left (-1: of none)."""
        old = self.blocks[key]
        block = self.add(key, form)
        for rows in self.rows.values():
            for part, row in rows.items():
                rows[part] = self._widened(row, old, block, goes_on)
        # Invariant: the flat arrays are those of the rows as they are; whoever changes rows drops
        # them.
        self._flat = None
        return block

    def _widened(self, row: Row, old: ColumnBlock, new: ColumnBlock, goes_on: list[int]) -> Row:
        differences, speeds = self._dense(row.columns, row.differences, row.speeds)
        for column, source in zip(new.columns, goes_on, strict=True):
            if source >= 0:
                differences[column] = differences[old.start + source]
                speeds[column] = speeds[old.start + source]
        differences[list(old.columns)] = speeds[list(old.columns)] = 0.0
        return _sparse(row.begun, differences, speeds)

    def drop(self, keys: Iterable[PropertyKey]) -> None:
        """Forgets values: they are where they should be at once."""
        removed = np.zeros(self.size, dtype=bool)
        blocks = [block for key in keys if (block := self.blocks.pop(key, None)) is not None]
        for block in blocks:
            removed[block.start : block.columns.stop] = True
        if not blocks:
            return
        for origin, rows in list(self.rows.items()):
            for part, row in rows.items():
                staying = ~removed[row.columns]
                if not staying.all():
                    rest = row.columns[staying], row.differences[staying], row.speeds[staying]
                    rows[part] = Row(row.begun, *rest)
            self._without_empty(origin)
        self._flat = None

    def rename(self, old: PropertyKey, new: PropertyKey) -> bool:
        """Lets a value go on under another key; whether there was one."""
        block = self.blocks.pop(old, None)
        if block is not None:
            self.blocks[new] = block
        return block is not None

    # --- origins ------------------------------------------------------------------------

    def change(
        self, origin: Hashable, motion: Motion, deltas: dict[Part, Delta], now: float
    ) -> None:
        """An origin changes (again): it takes over what is left of its own, with the new
        motion, and nobody else's. A motion without length is a cut."""
        # Only what this origin added before is turned: others run on as they began.
        old_rows = self.rows.pop(origin, {})
        new_rows: dict[Part, Row] = {}
        for part in (*old_rows, *[part for part in deltas if part not in old_rows]):
            begun = Begun(part or motion, now)
            if length(begun.motion) <= 0:
                continue
            differences, speeds = np.zeros(self.size), np.zeros(self.size)
            row = old_rows.get(part)
            if row is not None:
                left = row.begun.at_time(now)
                # What is left of it now becomes the new beginning, so nothing jumps.
                differences[row.columns] = row.differences * left.rest + row.speeds * left.kick
                # Springs take over the speed too; curves start as their text says.
                if begun.keeps_speed:
                    rates = row.differences * left.rest_rate + row.speeds * left.kick_rate
                    speeds[row.columns] = rates
            delta = deltas.get(part)
            if delta is not None:
                differences[delta.columns] += delta.values
            new_rows[part] = _sparse(begun, differences, speeds)
        self.rows[origin] = new_rows
        self._without_empty(origin)
        self._flat = None

    def split(self, group: Hashable, origin: Hashable, deltas: dict[Part, Delta]) -> None:
        """Hands a part of what a group of origins adds to one of them, as it runs. What others
        of the group had outweighed comes to light on both sides."""
        mine: dict[Part, Row] = {}
        for part, delta in deltas.items():
            row = self.rows.get(group, {}).get(part)
            if row is None:
                continue
            differences, speeds = self._dense(row.columns, row.differences, row.speeds)
            own = np.zeros(self.size)
            own[delta.columns] = delta.values
            self.rows[group][part] = _sparse(row.begun, differences - own, speeds)
            mine[part] = _sparse(row.begun, own, np.zeros(self.size))
        self.rows[origin] = mine
        self._without_empty(origin)
        self._without_empty(group)
        self._flat = None

    def _without_empty(self, origin: Hashable) -> None:
        nonempty = {part: row for part, row in self.rows[origin].items() if row.columns.size}
        if nonempty:
            self.rows[origin] = nonempty
        else:
            del self.rows[origin]

    def _dense(self, columns: Columns, *lists: Floats) -> list[Floats]:
        results = []
        for values in lists:
            wide = np.zeros(self.size)
            wide[columns] = values
            results.append(wide)
        return results

    # --- time ---------------------------------------------------------------------------

    @property
    def next_end(self) -> float:
        """When the next of the rows has run out; infinite where there is none."""
        ends = [row.begun.end for rows in self.rows.values() for row in rows.values()]
        return min(ends, default=float("inf"))

    def prune(self, now: float) -> None:
        """Forgets what has run out."""
        for origin, rows in list(self.rows.items()):
            over = [part for part, row in rows.items() if row.begun.end <= now]
            for part in over:
                del rows[part]
                self._flat = None
            if not rows:
                del self.rows[origin]

    def sweep(self) -> None:
        """Gives up the columns in which nothing is added any more."""
        used = np.zeros(self.size + 1, dtype=bool)
        used[self._flattened().columns] = True
        before = np.concatenate(([0], np.cumsum(used)))
        starts = np.array([block.start for block in self.blocks.values()], dtype=np.intp)
        sizes = np.array([block.form.size for block in self.blocks.values()], dtype=np.intp)
        busy = (before[starts + sizes] > before[starts]).tolist()
        if not all(busy):
            pairs = zip(self.blocks.items(), busy, strict=True)
            self.blocks = {key: block for (key, block), retain in pairs if retain}
        # Numbered anew only when more than half is empty: else each sweep would copy all.
        if self.size > 2 * int(sizes.sum()) + _SPARE:
            self._close_up()

    def _close_up(self) -> None:
        """Numbers the columns that are still used anew, so that what never rests does not grow."""
        moved = np.zeros(self.size, dtype=np.intp)
        self.size = 0
        for key, block in self.blocks.items():
            moved[block.start : block.columns.stop] = range(self.size, self.size + block.form.size)
            self.blocks[key] = ColumnBlock(block.form, self.size)
            self.size += block.form.size
        for rows in self.rows.values():
            for part, row in rows.items():
                rows[part] = row._replace(columns=moved[row.columns])
        self._flat = None

    def at_time(self, now: float) -> Floats:
        """(size,) what all origins together add to each column."""
        flat = self._flattened()
        left = [row.begun.at_time(now) for row in flat.rows]
        # One multiplication for all rows: each row's share, spread over its columns.
        rest = np.repeat([motions.rest for motions in left], flat.counts)
        kick = np.repeat([motions.kick for motions in left], flat.counts)
        # A row adds its differences as far as they have not run out.
        added = flat.differences * rest + flat.speeds * kick
        # bincount adds in the order of the entries, so two runs give equal bytes.
        return np.asarray(np.bincount(flat.columns, added, self.size), dtype=np.float64)

    def row_bytes(self) -> Callable[[ColumnBlock], bytes]:
        """Gives a function from a block to the bytes of all that is added to it. Two blocks of one
        form with equal bytes get the same values at any time."""
        flat = self._flattened()
        # Stable, so that equal blocks come out in one order of rows.
        order = np.argsort(flat.columns, kind="stable")
        columns = flat.columns[order]
        entries = np.empty((order.size, 4))
        entries[:, 0] = columns
        entries[:, 1] = np.repeat(np.arange(len(flat.rows)), flat.counts)[order]
        entries[:, 2] = flat.differences[order]
        entries[:, 3] = flat.speeds[order]
        begins = np.searchsorted(columns, np.arange(self.size + 1))

        def bytes_of(block: ColumnBlock) -> bytes:
            own = entries[begins[block.start] : begins[block.columns.stop]].copy()
            # Columns from the block's own beginning: where it lies says nothing.
            own[:, 0] -= block.start
            return own.tobytes()

        return bytes_of

    def _flattened(self) -> _Flat:
        if self._flat is None:
            rows = [row for parts in self.rows.values() for row in parts.values()]
            self._flat = _Flat(
                rows,
                np.array([row.columns.size for row in rows], dtype=np.intp),
                np.concatenate([row.columns for row in rows] or [np.zeros(0, dtype=np.intp)]),
                np.concatenate([row.differences for row in rows] or [np.zeros(0)]),
                np.concatenate([row.speeds for row in rows] or [np.zeros(0)]),
            )
        return self._flat


def _sparse(begun: Begun, differences: Floats, speeds: Floats) -> Row:
    (columns,) = np.nonzero((differences != 0) | (speeds != 0))
    return Row(begun, columns, differences[columns], speeds[columns])
