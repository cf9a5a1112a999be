"""A pytest plugin: whoever imports PyQt6 fails, as if it were not installed.

`bin/test core` loads it (`-p tests.without_qt -p no:pytest-qt`).
"""

import sys

sys.modules["PyQt6"] = None  # type: ignore[assignment]  # what import makes an ImportError of
