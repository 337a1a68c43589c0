"""The .purvel container: reading within bounds, writing without loss, autosave and recovery."""

from purvel.files.container import VERSION, FileError, load, loads, save, saves

__all__ = ["VERSION", "FileError", "load", "loads", "save", "saves"]
