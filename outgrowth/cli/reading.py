"""Files read for a command: what does not act as it is written is told beside its output."""

from __future__ import annotations

import sys
from pathlib import Path

from outgrowth.core.document.records import Document
from outgrowth.core.exchange import native
from outgrowth.core.review.gone import gone_text


def read_document(path: Path) -> Document:
    """The document of a file or folder; cues and rules in it that name what is not there are told
    on standard error. Raises FileRefusal."""
    document = native.load(path)
    told = gone_text(document)
    if told:
        print(f"outgrowth: {told}", file=sys.stderr)
    return document
