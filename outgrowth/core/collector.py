"""Python's garbage collector, which looks through all objects again and again while many are
made: nothing it could collect comes of reading and writing, whose records hold no circles."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def paused() -> Iterator[None]:
    """Lets it rest meanwhile; it goes on afterwards if it did before."""
    was_on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_on:
            gc.enable()
