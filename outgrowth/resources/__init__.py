"""Where the files that ship with the program are."""

from pathlib import Path

HERE = Path(__file__).parent
FONTS = HERE / "fonts"
PICTURES = HERE / "pictures"
ICONS = HERE / "icons"
ICON_SET = HERE / "icon-set.json.gz"
"""Icons to place: see `demo/icon_set.py`."""
GUIDE = HERE / "guide" / "README.md"
DEMO = HERE / "ferry-line.outgrowth.json"
WEB = HERE / "web"
"""What exported elements share in a browser."""
