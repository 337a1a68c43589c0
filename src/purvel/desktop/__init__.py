"""The desktop's entry, icon and file type for Purvel: put in place in a person's own data folder, and taken
away again.
"""

from __future__ import annotations

import shutil
import subprocess
from importlib.resources import files
from pathlib import Path

ENTRY = Path("applications/purvel.desktop")
TYPE = Path("mime/packages/purvel.xml")
ICON = Path("icons/hicolor/scalable/apps/purvel.svg")
MIME_ICON = Path("icons/hicolor/scalable/mimetypes/application-x-purvel.svg")


def for_this_user(called: str, *, remove: bool) -> list[Path]:
    """Installs in the data folder of whoever runs it, or takes away; `called` is how the program was. What
    was written or taken away. Raises OSError.
    """
    from platformdirs import user_data_path

    folder = user_data_path()
    command = shutil.which(called) or shutil.which("purvel") or called
    return taken_away(folder) if remove else install(folder, str(Path(command).absolute()))


def install(folder: Path, command: str) -> list[Path]:
    """Writes entry, file type and icons below a data folder (XDG); the entry runs `command`. What was
    written. Raises OSError.
    """
    own = files("purvel.desktop")
    icon = files("purvel.app").joinpath("resources/icons/purvel.svg").read_text()
    entry = own.joinpath("purvel.desktop").read_text().replace("@COMMAND@", _quoted(command))
    texts = {ENTRY: entry, TYPE: own.joinpath("purvel.xml").read_text(), ICON: icon, MIME_ICON: icon}
    for path, text in texts.items():
        target = folder / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_text(text)
    _tell(folder)
    return [folder / path for path in texts]


def taken_away(folder: Path) -> list[Path]:
    """Takes away what `install` wrote; what was there. Raises OSError."""
    there = [folder / path for path in (ENTRY, TYPE, ICON, MIME_ICON) if (folder / path).is_file()]
    for path in there:
        path.unlink()
    _tell(folder)
    return there


def _quoted(command: str) -> str:
    """A command as an entry's Exec line has it (Desktop Entry Specification)."""
    escaped = "".join(f"\\{letter}" if letter in '"`$\\' else letter for letter in command)
    return f'"{escaped}"'.replace("\\", "\\\\").replace("%", "%%")


def _tell(folder: Path) -> None:
    """Has the desktop's own tools read it anew, where they are there."""
    for tool, where in (("update-desktop-database", "applications"), ("update-mime-database", "mime")):
        found = shutil.which(tool)
        if found and (folder / where).is_dir():
            subprocess.run([found, str(folder / where)], check=False, capture_output=True)
