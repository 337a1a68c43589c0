"""The .purvel container: reading within bounds, writing without loss, autosave and recovery."""

from purvel.files.container import VERSION, FileError, load, loads, save, saves
from purvel.files.document import AttachmentError, Document, attached

__all__ = [
    "VERSION",
    "AttachmentError",
    "Document",
    "FileError",
    "attached",
    "load",
    "loads",
    "save",
    "saves",
]
