"""Standard output and standard error on any machine: UTF-8 whatever the locale says, and what
cannot be written is told.

Whoever reads the output may have had enough (`outgrowth measure … | head`): the rest is let go,
and the command ends as it would have. A full disk or an output that is closed is another matter:
what was found is lost, and that is said.
"""

from __future__ import annotations

import contextlib
import errno
import io
import os
import sys
from collections.abc import Iterator
from typing import Any, TextIO, cast

from outgrowth.core.refusal import Refusal


class OutputLost(Refusal):
    """What a command found reached nobody."""


class _Stream(io.RawIOBase):
    """Writes to a standard stream. Lets the rest go once nobody reads any more.

    lost  why something could not be written, "" where all was
    """

    def __init__(self, number: int, is_closed: bool) -> None:
        self._number = number
        self._is_closed = is_closed
        self._is_left = False
        self.lost = ""

    def writable(self) -> bool:
        return True

    def write(self, data: Any, /) -> int:  # a buffer of bytes: a type that 3.11 has no name for
        size = len(memoryview(data))
        if self._is_closed:
            self.lost = "standard output is closed"
        if self._is_closed or self._is_left or self.lost:
            return size
        try:
            return os.write(self._number, data)
        except BrokenPipeError:
            self._is_left = True
        except OSError as problem:
            self.lost = problem.strerror or str(problem)
        return size


@contextlib.contextmanager
def standard_streams() -> Iterator[None]:
    """Puts streams in place that keep these promises, where the real ones are used.

    Raises OutputLost at the end where something could not be written.
    """
    if sys.stdout is not sys.__stdout__:
        yield  # somebody listens in this process
        return
    before = sys.stdout
    output = _Stream(1, is_closed=sys.stdout is None)
    errors = _Stream(2, is_closed=sys.stderr is None)
    _keep_free()
    sys.stdout = _text(output, is_seen=before is not None and before.isatty())
    sys.stderr = _text(errors, is_seen=True)
    sys.unraisablehook = _passed_over
    try:
        yield
    finally:
        sys.stdout.flush()
        sys.stdout = before  # standard error stays: why something was lost is told there
    if output.lost:
        raise OutputLost(f"What was found could not be written: {output.lost}.")


def _text(stream: _Stream, is_seen: bool) -> TextIO:
    """The stream for text: a line at a time where somebody looks on."""
    buffer = io.BufferedWriter(cast(Any, stream))  # the stubs know fewer raw streams than io does
    return io.TextIOWrapper(
        buffer, encoding="utf-8", errors="surrogateescape", line_buffering=is_seen
    )


def _passed_over(told: sys.UnraisableHookArgs) -> None:
    """What a file of a library says when it is thrown away half written: the write that failed
    was told already."""
    if not isinstance(told.exc_value, OSError):
        sys.__unraisablehook__(told)


def _keep_free() -> None:
    """Takes the numbers of streams that are closed: the first file that is opened would get one,
    and what goes to standard error would be written into it."""
    for number in (0, 1, 2):
        try:
            os.fstat(number)
        except OSError as problem:
            if problem.errno == errno.EBADF:
                with contextlib.suppress(OSError):
                    os.open(os.devnull, os.O_RDWR)
