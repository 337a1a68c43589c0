"""The day that it is."""

from datetime import date


def today() -> date:
    """The day that it is."""
    return date.today()
