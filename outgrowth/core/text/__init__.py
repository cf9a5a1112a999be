"""Fonts, shaping and line breaking: text is measured from the glyphs that are drawn."""

from outgrowth.core.text.fonts import FontBook, FontFace
from outgrowth.core.text.paragraph import Line, Paragraph, TextStyle, Typesetter
from outgrowth.core.text.shaping import GlyphRun

__all__ = ["FontBook", "FontFace", "GlyphRun", "Line", "Paragraph", "TextStyle", "Typesetter"]
