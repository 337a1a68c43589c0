"""What is picked: one form for each kind of item, and the panel that shows it."""

from purvel.app.picked.inspector import Inspector

__all__ = ["Inspector"]
