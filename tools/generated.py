"""The files that are made from tables in the code: python -m tools.generated makes them anew;
with --check it only says which would be.

A test holds each against the code (tests/core/test_generated.py).
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from pathlib import Path

from demo import ferry_line
from outgrowth.core.exchange.native import dumps
from outgrowth.core.exchange.native.records import schema
from outgrowth.core.exchange.web.runtime_tables import with_constants
from outgrowth.core.review.report import review_schema, trials_schema
from outgrowth.core.runtime.script import script_schema
from outgrowth.resources import DEMO, WEB
from tools import make_styles

_ROOT = Path(__file__).resolve().parent.parent
_FORMATS = _ROOT / "docs" / "file-format"


def _json(value: object) -> str:
    return json.dumps(value, indent=1, sort_keys=True, ensure_ascii=False) + "\n"


GENERATED: dict[Path, Callable[[], str]] = {
    make_styles.HOME: make_styles.text,
    WEB / "runtime.js": lambda: with_constants((WEB / "runtime.js").read_text("utf-8")),
    DEMO: lambda: dumps(ferry_line()),
    _FORMATS / "outgrowth.schema.json": lambda: _json(schema()),
    _FORMATS / "script.schema.json": lambda: _json(script_schema()),
    _FORMATS / "review.schema.json": lambda: _json(review_schema()),
    _FORMATS / "trials.schema.json": lambda: _json(trials_schema()),
}
"""Each file and what makes its text."""


def main(arguments: list[str]) -> int:
    """Writes those that differ and says which; with --check it only says, and ends with 1."""
    check, differing = "--check" in arguments, 0
    for file, make in GENERATED.items():
        text = make()
        if not file.exists() or file.read_text("utf-8") != text:
            differing += 1
            if not check:
                file.write_text(text, "utf-8")
            print(f"{'Differs' if check else 'Made anew'}: {file.relative_to(_ROOT)}")
    return 1 if check and differing else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
