"""What is written for the wall and the bench: drawings, the binder, lists."""

from purvel.app.sheets.write import ExportError, write

__all__ = ["ExportError", "write"]
