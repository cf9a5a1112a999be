"""Fonts, shaping and line breaking: text is measured from the glyphs that are drawn."""

from outgrowth.core.text.fonts import Face, FontBook
from outgrowth.core.text.paragraph import Line, Paragraph, TextStyle, Typesetter
from outgrowth.core.text.shaping import GlyphRun

__all__ = ["Face", "FontBook", "GlyphRun", "Line", "Paragraph", "TextStyle", "Typesetter"]
