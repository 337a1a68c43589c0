"""Takes pictures of all main views from the demo data: `take_shots.py --shots DIR [--only NAME]`.

Without words it refreshes docs/screenshots.
"""

import os
import sys
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QSettings

from purvel.app.application import make_application
from purvel.app.theme import DARK
from purvel.app.window import Window
from purvel.demo import demo_bytes
from purvel.files import Document, loads
from purvel.review.stages import STAGES
from purvel.shop import Shop


@dataclass(frozen=True)
class Shot:
    """A picture: its name, the demo (None: an empty shop), the stage, what is picked, and how the window is
    dressed.
    """

    name: str
    demo: str | None
    stage: str
    picked: str | None = None
    scene: str | None = None
    dark: bool = False
    pixels: int = 15
    size: tuple[int, int] = (1280, 800)


PICKED = {"place": "table-saw", "flow": "job-sheets-to-panels"}
SHOTS = (
    *(Shot(stage.key, "garage", stage.key, PICKED.get(stage.key)) for stage in STAGES),
    Shot("place-mended", "garage-mended", "place", "jointer"),
    Shot("ducts-mended", "garage-mended", "ducts", "planer"),
    Shot("air-mended", "garage-mended", "air"),
    Shot("spare-room", "spare-room", "place", "router-table"),
    Shot("log", "garage-mended", "air", "stretch-3"),
    Shot("night", "single-garage-mended", "place", "night", scene="night"),
    Shot("dark", "garage-mended", "place", "table-saw", dark=True),
    Shot("large-text", "garage", "place", "planer", pixels=24),
    Shot("small-window", "garage", "ducts", size=(1024, 700)),
    Shot("empty", None, "room"),
)


def settle(application: object, window: Window) -> None:
    """Waits until the review is done and drawn."""
    end = time.monotonic() + 60
    while time.monotonic() < end:
        application.processEvents()  # type: ignore[attr-defined]
        if not window.reviews.is_stale and not window.reviews.is_searching:
            break
        time.sleep(0.01)
    for _ in range(5):
        application.processEvents()  # type: ignore[attr-defined]


def take(shot: Shot, application: object, window: Window) -> None:
    """Brings a shot's shop and view into the window."""
    window.resize(*shot.size)
    window.keeper.open(loads(demo_bytes(shot.demo)) if shot.demo else Document(Shop()), None)
    if (window.theme.palette is DARK) != shot.dark:
        window.theme.switch_paper()
    window.theme.set_text(shot.pixels)
    window.show_stage(shot.stage)
    window.view.look_at(scene=shot.scene)
    settle(application, window)
    window.take_focus()
    window.workspace.pick(shot.picked)
    window.plan.fit()
    settle(application, window)


def main() -> None:
    """Takes the pictures."""
    words = sys.argv[1:]
    only = words[words.index("--only") + 1] if "--only" in words else None
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
        for shot in (one for one in SHOTS if only in (None, one.name)):
            take(shot, application, window)
            window.grab().save(str(folder / f"{shot.name}.png"))
            print(folder / f"{shot.name}.png")
        window.close()
        window.deleteLater()
        application.processEvents()


if __name__ == "__main__":
    main()
