"""Everything Qt.

The window shows a shop and its review, and makes edits; it computes nothing about shops itself.
"""

import os
import sys
from pathlib import Path

from purvel.files import Document
from purvel.garbage import not_looked_for


def run(document: Document | None, path: Path | None) -> int:
    """Opens the window and runs until it is closed. Returns the exit code."""
    if not os.environ.get("DISPLAY") and not os.environ.get("WAYLAND_DISPLAY"):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    with not_looked_for():  # nothing that is loaded becomes garbage; looking for some is a tenth of the start
        from purvel.app.application import make_application
        from purvel.app.window import Window

    application = make_application(sys.argv[:1])
    window = Window()
    window.show()
    window.begin(document, path)
    return application.exec() if window.isVisible() else 0  # closed again while the shop was opened
