"""Where the files that ship with the program are."""

from pathlib import Path

HERE = Path(__file__).parent
FONTS = HERE / "fonts"
ICONS = HERE / "icons"
DEMO = HERE / "ferry-line.outgrowth.json"
