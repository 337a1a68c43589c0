"""From the first paint to the last: the frame, then what it holds."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from purvel.app.application import make_application
from purvel.app.frame import Frame

if TYPE_CHECKING:
    from purvel.files import Document


def run(path: Path | None, read: Callable[[], Document] | None) -> int:
    """Opens the window and runs until it is closed. Returns the exit code.

    `read` gives the document to begin with, which `path` is the file of; None goes on with the last shop, and
    so does FileError, which the window then says. It is asked once the frame is painted: reading and
    reviewing shops takes several times as long to load.
    """
    if not os.environ.get("DISPLAY") and not os.environ.get("WAYLAND_DISPLAY"):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    application = make_application(sys.argv[:1])
    frame = Frame(path.name if path else "")
    frame.appear()
    if not frame.isVisible():  # closed again already
        return 0
    from purvel.files import FileError

    document, refused = None, ""
    try:
        document = read() if read else None
    except FileError as exc:
        refused = f"{exc} It was not opened."
    from purvel.app.window import Window

    window = Window(frame=frame)
    frame.hold(window)
    window.begin(document, path, refused)
    return application.exec()
