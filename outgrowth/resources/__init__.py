"""Where the files that ship with the program are."""

from pathlib import Path

HERE = Path(__file__).parent
FONTS = HERE / "fonts"
DEMO = HERE / "ferry-line.outgrowth.json"
