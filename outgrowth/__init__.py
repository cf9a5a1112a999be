"""Outgrowth: reusable interface components, their variants, layout and behaviour."""

__version__ = "0.2.0"
