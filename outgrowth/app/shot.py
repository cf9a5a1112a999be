"""Pictures without a window: a screen or a component's variants as a PNG."""

from __future__ import annotations

import math

from immutables import Map
from PyQt6.QtCore import QBuffer, QByteArray, QIODevice
from PyQt6.QtGui import QImage, QPainter

from outgrowth.app.paint import QtPainter, Rasters
from outgrowth.core.document.records import Asset, Document
from outgrowth.core.exchange.variant_pictures import VariantPicture
from outgrowth.core.geometry import Rect
from outgrowth.core.layout import Placed
from outgrowth.core.paint import draw
from outgrowth.core.paint.fragment import Fragment
from outgrowth.core.refusal import Refusal, quoted
from outgrowth.core.resolve.scene import SceneNode
from outgrowth.workspace.handing_over import Rasterize

# Qt's painter takes coordinates of 15 bits.
LARGEST_SIDE = 16_384
MOST_PIXELS = 64_000_000
"""Of four bytes each."""
NO_ASSETS: Map[str, Asset] = Map()


class DrawingRefusal(Refusal):
    """The picture cannot be made; the message is a sentence for the user."""


def picture(
    scene: SceneNode,
    placed: Placed,
    scale: float = 1.0,
    cut: bool = False,
    assets: Map[str, Asset] = NO_ASSETS,
) -> QImage:
    """The scene on nothing: everything that it inks (shadows reach over), or, `cut`, just
    the border box of its root. Raises DrawingRefusal."""
    fragment = draw(scene, placed)
    bounds = Rect(0.0, 0.0, placed.width, placed.height) if cut else fragment.bounds
    return fragment_picture(fragment, bounds, scale, assets)


def fragment_picture(
    fragment: Fragment, bounds: Rect, scale: float, assets: Map[str, Asset] = NO_ASSETS
) -> QImage:
    """A part of a display list (px), so many pixels to a px, on nothing. Raises
    DrawingRefusal."""
    width, height = (math.ceil(side * scale) for side in (bounds.width, bounds.height))
    if not (0 < width <= LARGEST_SIDE and 0 < height <= LARGEST_SIDE):
        raise DrawingRefusal(
            f"A picture of {width} × {height} pixels cannot be made; "
            f"{LARGEST_SIDE} a side is the most."
        )
    if width * height > MOST_PIXELS:
        raise DrawingRefusal(
            f"A picture of {width} × {height} pixels cannot be made; {MOST_PIXELS:,} is the most."
        )
    image = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(0)
    painter = QPainter(image)
    QtPainter(painter, Rasters(lambda: assets), scale).draw(fragment, -bounds.x, -bounds.y)
    painter.end()
    return image


def png_of(
    fragment: Fragment, bounds: Rect, scale: float, assets: Map[str, Asset] = NO_ASSETS
) -> bytes:
    """The same as the bytes of a PNG file. Raises DrawingRefusal."""
    return encoded(fragment_picture(fragment, bounds, scale, assets))


def encoded(image: QImage, form: str = "PNG") -> bytes:
    """A picture as the bytes of a file of a form that Qt knows. Raises DrawingRefusal."""
    data = QByteArray()
    buffer = QBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if not image.save(buffer, form):
        raise DrawingRefusal(f"The picture cannot be written as {quoted(form, 20)}.")
    return data.data()


def rasterizer(document: Document) -> Rasterize:
    """What makes the PNGs of a hand-over. Each call raises DrawingRefusal, naming the picture."""

    def rasterize(drawn: VariantPicture, scale: float) -> bytes:
        try:
            return png_of(drawn.fragment, drawn.bounds, scale, document.assets)
        except DrawingRefusal as problem:
            raise DrawingRefusal(f"{drawn.name}: {problem}") from problem

    return rasterize
