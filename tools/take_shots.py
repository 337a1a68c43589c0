"""Takes pictures of all main views from the demo data: `take_shots.py --shots DIR [--demo NAME]`.

Without words it refreshes docs/screenshots.
"""

import os
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QSettings

from purvel.app.application import make_application
from purvel.app.window import Window
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.shop import Shop

# name, demo (None: an empty shop), stage, picked, dark, text size, window
VIEWS = (
    ("room", "garage", 0, None, False, 15, (1280, 800)),
    ("place", "garage", 1, "table-saw", False, 15, (1280, 800)),
    ("ducts", "garage", 2, None, False, 15, (1280, 800)),
    ("air", "garage", 3, None, False, 15, (1280, 800)),
    ("place-mended", "garage-mended", 1, "jointer", False, 15, (1280, 800)),
    ("ducts-mended", "garage-mended", 2, "planer", False, 15, (1280, 800)),
    ("air-mended", "garage-mended", 3, None, False, 15, (1280, 800)),
    ("spare-room", "spare-room", 1, "router-table", False, 15, (1280, 800)),
    ("spare-room-air", "spare-room-mended", 3, None, False, 15, (1280, 800)),
    ("dark", "garage-mended", 1, "table-saw", True, 15, (1280, 800)),
    ("large-text", "garage", 1, "planer", False, 24, (1280, 800)),
    ("small-window", "garage", 2, None, False, 15, (1024, 700)),
    ("empty", None, 0, None, False, 15, (1280, 800)),
)


def settle(application: object, window: Window) -> None:
    """Waits until the review is done and drawn."""
    end = time.monotonic() + 60
    while time.monotonic() < end:
        application.processEvents()  # type: ignore[attr-defined]
        if not window.bench.is_stale:
            break
        time.sleep(0.01)
    for _ in range(5):
        application.processEvents()  # type: ignore[attr-defined]


def main() -> None:
    """Takes the pictures."""
    words = sys.argv[1:]
    folder = (
        Path(words[words.index("--shots") + 1])
        if "--shots" in words
        else Path(__file__).parent.parent / "docs" / "screenshots"
    )
    folder.mkdir(parents=True, exist_ok=True)
    application = make_application(["purvel"])
    with tempfile.TemporaryDirectory() as scratch:
        settings = QSettings(str(Path(scratch) / "settings.ini"), QSettings.Format.IniFormat)
        window = Window(Path(scratch), settings)
        window.show()
        for name, demo, stage, picked, dark, pixels, size in VIEWS:
            window.resize(*size)
            window.desk.open(loads(demo_bytes(demo)) if demo else Shop(), None)
            if (window.look.name == "dark") != dark:
                window.switch_look()
            window.set_text(pixels)
            window.show_stage(stage)
            settle(application, window)
            window.take_focus()
            window.desk.pick(picked)
            window.findings.open_key = None
            window.plan.fit()
            settle(application, window)
            window.grab().save(str(folder / f"{name}.png"))
            print(folder / f"{name}.png")
        window.close()
        window.deleteLater()
        application.processEvents()


if __name__ == "__main__":
    main()
