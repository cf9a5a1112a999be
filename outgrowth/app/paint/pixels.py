"""The colours of the pictures that a file holds."""

from __future__ import annotations

from collections.abc import Callable

from immutables import Map
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage

from outgrowth.core.color import Color
from outgrowth.core.document.records import Asset
from outgrowth.core.document.values import Picture
from outgrowth.core.memo import ByIdentity

_SIDE = 24


def pixels_of(assets: Map[str, Asset]) -> Callable[[Picture], list[Color] | None]:
    """What looks pictures up: their colours, of areas as large as a letter roughly; None for
    what is no picture."""

    def look(picture: Picture) -> list[Color] | None:
        asset = assets.get(picture.asset)
        return _colors_of(asset) if asset is not None else None

    return look


def _colors(asset: Asset) -> list[Color] | None:
    image = QImage.fromData(asset.data)
    if image.isNull():
        return None
    small = image.scaled(
        _SIDE,
        _SIDE,
        Qt.AspectRatioMode.IgnoreAspectRatio,
        Qt.TransformationMode.SmoothTransformation,
    )
    colors = set()
    for y in range(small.height()):
        for x in range(small.width()):
            color = small.pixelColor(x, y)
            colors.add(Color(color.redF(), color.greenF(), color.blueF(), color.alphaF()).rounded)
    return sorted(colors, key=lambda c: (c.red, c.green, c.blue, c.alpha))


# By asset: a picture is read once, however often its ground is asked for.
_colors_of = ByIdentity(_colors, 256)
