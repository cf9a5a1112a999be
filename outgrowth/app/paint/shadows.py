"""Soft shadows as images: a Gaussian by three box blurs.

Source: CSS Backgrounds 3, section 6.1 (deviation is half the blur radius); Filter Effects 1,
section 9.6 (three box blurs approximate the Gaussian).
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage, QPainter, QPainterPath

from outgrowth.core.color import Color

Floats = NDArray[np.float64]

# Image px of deviation from which on a blur is worked out more coarsely: what is lost then is at
# most two of 255 levels (on a box, tests/app/test_painter.py).
_FINEST_DEVIATION = 40.0
# Of a shadow's image, however large the shadow is.
_MOST_PIXELS = 2_000_000.0


def soft(path: QPainterPath, bounds: QRectF, blur: float, color: Color, scale: float) -> QImage:
    """The path, blurred and coloured, as an image of `bounds` (px) at `scale`, or at a coarser
    one: a wide blur has no detail that a coarse image could lose, and a shadow as large as a
    street would take all memory."""
    scale = min(scale, _FINEST_DEVIATION * 2 / blur if blur > 0 else scale)
    area = max(bounds.width() * bounds.height(), 1.0)
    scale = min(scale, math.sqrt(_MOST_PIXELS / area))
    width = max(math.ceil(bounds.width() * scale), 1)
    height = max(math.ceil(bounds.height() * scale), 1)
    mask = QImage(width, height, QImage.Format.Format_Grayscale8)
    mask.fill(0)
    painter = QPainter(mask)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.scale(scale, scale)
    painter.translate(-bounds.x(), -bounds.y())
    painter.fillPath(path, 0xFFFFFFFF)
    painter.end()
    alpha = blurred(_pixels(mask), blur * scale / 2) * color.alpha
    return _colored(alpha, color)


def blurred(mask: Floats, deviation: float) -> Floats:
    """A mask after three box blurs that together have about this deviation, in pixels."""
    if deviation < 0.3:
        return mask
    side = max(int(deviation * 3 * math.sqrt(2 * math.pi) / 4 + 0.5), 1)
    half = side // 2
    # An even box has no middle: one to the left, one to the right, and a longer one between.
    boxes = [(side, half)] * 3 if side % 2 else [(side, half), (side, half - 1), (side + 1, half)]
    for axis in (0, 1):
        for width, before in boxes:
            mask = _box(mask, width, before, axis)
    return mask


def _box(mask: Floats, side: int, before: int, axis: int) -> Floats:
    """The mean over `side` pixels, of which `before` lie ahead of each pixel."""
    after = side - before
    pad = [(0, 0), (0, 0)]
    pad[axis] = (before + 1, after)
    sums = np.cumsum(np.pad(mask, pad), axis=axis)
    count = mask.shape[axis]
    ends = np.take(sums, range(side, side + count), axis=axis)
    starts = np.take(sums, range(count), axis=axis)
    return (ends - starts) / side


def _pixels(mask: QImage) -> Floats:
    bits = mask.constBits()
    assert bits is not None
    data = bits.asstring(mask.sizeInBytes())
    rows = np.frombuffer(data, np.uint8).reshape(mask.height(), mask.bytesPerLine())
    alpha: Floats = rows[:, : mask.width()] / 255.0
    return alpha


def _colored(alpha: Floats, color: Color) -> QImage:
    parts = np.stack([alpha * color.blue, alpha * color.green, alpha * color.red, alpha], axis=2)
    data = np.ascontiguousarray(np.clip(parts * 255 + 0.5, 0, 255).astype(np.uint8))
    height, width = alpha.shape
    image = QImage(
        data.tobytes(), width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied
    )
    return image.copy()
