"""The look: warm paper, graphite lines, wood tones, one accent; a dark sheet of the same design."""

from purvel.app.theme.palette import DARK, LIGHT, Palette
from purvel.app.theme.theme import FAMILY, Theme, ink_all, inked, style_sheet

__all__ = ["DARK", "FAMILY", "LIGHT", "Palette", "Theme", "ink_all", "inked", "style_sheet"]
