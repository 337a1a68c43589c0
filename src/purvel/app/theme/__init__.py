"""The look: warm paper, graphite lines, wood tones, one accent; a dark sheet of the same design."""

from purvel.app.theme.look import DARK, LIGHT, Look, style_sheet

__all__ = ["DARK", "LIGHT", "Look", "style_sheet"]
