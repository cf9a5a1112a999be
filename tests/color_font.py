"""A small font with colours, made on the spot."""

import io

from fontTools.colorLib.builder import buildCOLR, buildCPAL
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen

from outgrowth.core.text.fonts import FontSource, describe_with_coverage


def square(left: int, bottom: int, side: int):
    pen = TTGlyphPen(None)
    pen.moveTo((left, bottom))
    for x, y in ((left, bottom + side), (left + side, bottom + side), (left + side, bottom)):
        pen.lineTo((x, y))
    pen.closePath()
    return pen.glyph()


def _data() -> bytes:
    """👍 as a red square, whose lower left quarter is blue; “a” has no colours."""
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder([".notdef", "thumb", "low", "a"])
    builder.setupCharacterMap({0x1F44D: "thumb", ord("a"): "a"})
    glyphs = {".notdef": square(0, 0, 1), "thumb": square(0, 0, 800), "low": square(0, 0, 400)}
    builder.setupGlyf(glyphs | {"a": square(0, 0, 500)})
    builder.setupHorizontalMetrics(dict.fromkeys([".notdef", "thumb", "low", "a"], (1000, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Flags", "styleName": "Regular"})
    builder.setupOS2()
    builder.setupPost()
    builder.font["COLR"] = buildCOLR({"thumb": [("thumb", 0), ("low", 1)]}, version=0)
    builder.font["CPAL"] = buildCPAL([[(1, 0, 0, 1), (0, 0, 1, 1)]])
    data = io.BytesIO()
    builder.save(data)
    return data.getvalue()


def flags() -> FontSource:
    """The font, as a book takes it."""
    data = _data()
    about, covers = describe_with_coverage(data, "flags.ttf")
    return FontSource("flags", about, lambda: data, covers)
