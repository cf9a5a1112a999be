"""Painting what was read with the window's own painter, without a window."""

from __future__ import annotations

import contextlib
import sys
from collections.abc import Callable

from PyQt6.QtWidgets import QApplication

from outgrowth.app.shot import DrawingRefusal, picture


def painter() -> Callable:
    """Paints a scene at half its size; a picture that cannot be made is a sentence."""
    app = QApplication.instance() or QApplication(sys.argv[:1])

    def paint(scene, placed, assets) -> None:
        assert app is not None
        with contextlib.suppress(DrawingRefusal):
            picture(scene, placed, 0.5, True, assets)

    return paint
