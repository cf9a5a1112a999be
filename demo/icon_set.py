"""Makes the file of icons that the program offers, from an unpacked npm package of an open
icon set: `python -m demo.icon_set PACKAGE`.

One line of JSON an icon, packed: its name, words to find it by, and the path of its outline
and of its solid form, each in a square of 256. Marks of companies are left out.
"""

from __future__ import annotations

import gzip
import json
import re
import sys
from itertools import count
from pathlib import Path

from outgrowth.core.exchange.svg import drawn
from outgrowth.core.text import Typesetter
from outgrowth.core.text.fonts import shipped
from outgrowth.resources import FONTS, ICON_SET

_ENTRY = re.compile(
    r'readonly name: "([^"]+)";.*?readonly categories: readonly \[([^\]]*)\];'
    r".*?readonly tags: readonly \[([^\]]*)\]",
    re.DOTALL,
)


def main(package: Path) -> None:
    """Writes the file anew."""
    typesetter = Typesetter(shipped(FONTS))
    numbers = count()
    icons = []
    for name, kinds, tags in _ENTRY.findall((package / "dist/icons.d.ts").read_text("utf-8")):
        if name.endswith("-logo") or "BRAND" in kinds:
            continue
        paths = []
        for form, file in (("regular", name), ("fill", f"{name}-fill")):
            data = (package / "assets" / form / f"{file}.svg").read_bytes()
            result = drawn(data, file, lambda kind: f"{kind}-{next(numbers)}", typesetter)
            paths.append(result.node.style.get("path", ""))
        words = [word for word in re.findall(r'"([^"]+)"', tags) if not word.startswith("*")]
        if all(paths):
            icons.append([name, " ".join(words), *paths])
    text = "\n".join(json.dumps(icon, separators=(",", ":")) for icon in sorted(icons))
    ICON_SET.write_bytes(gzip.compress(text.encode(), 9, mtime=0))
    sys.stdout.write(f"{len(icons)} icons\n")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
