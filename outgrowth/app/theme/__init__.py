"""How the program looks: colours by role, type, icons, the style sheet."""

from outgrowth.app.theme.palette import DARK, LIGHT, Theme

__all__ = ["DARK", "LIGHT", "Theme"]
