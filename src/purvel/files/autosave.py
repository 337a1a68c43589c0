"""Autosave slots in the data folder, and what a crash left in them.

A running Purvel holds a lock on its slot; a slot with a document and no lock is what a crash left behind.
"""

import fcntl
import os
import uuid
from dataclasses import dataclass
from pathlib import Path
from typing import IO

from purvel.files.container import FileError, loads, saves
from purvel.shop import Shop


@dataclass(frozen=True, slots=True)
class Leftover:
    """A document that was being worked on when Purvel stopped: its slot, the shop and the file it came from."""

    slot: Path
    shop: Shop
    origin: Path | None


def default_folder() -> Path:
    """Where slots are kept."""
    from platformdirs import user_data_path

    return user_data_path("purvel", appauthor=False) / "autosave"


class Slot:
    """The autosave slot of one running document."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or default_folder()
        self.folder.mkdir(parents=True, exist_ok=True)
        self.path = self.folder / f"{uuid.uuid4().hex}.purvel"
        self._lock: IO[str] = self.path.with_suffix(".lock").open("w")
        fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)

    def keep(self, shop: Shop, origin: Path | None) -> None:
        """Writes the shop into the slot, whole or not at all."""
        beside = self.path.with_suffix(".part")
        with beside.open("wb") as target:
            target.write(saves(shop))
            target.flush()
            os.fsync(target.fileno())
        self.path.with_suffix(".origin").write_text("" if origin is None else str(origin), encoding="utf-8")
        beside.replace(self.path)

    def clear(self) -> None:
        """Forgets what is kept: the work is saved, or was given up on purpose."""
        discard(self.path)

    def let_go(self) -> None:
        """Gives up the lock and leaves what is kept for the next start."""
        self._lock.close()
        self.path.with_suffix(".lock").unlink(missing_ok=True)

    def close(self) -> None:
        """Clears the slot and lets its lock go."""
        self.clear()
        self._lock.close()
        self.path.with_suffix(".lock").unlink(missing_ok=True)


def leftovers(folder: Path | None = None) -> list[Leftover]:
    """What crashes left, newest first.

    Slots that still have an owner and slots that cannot be read are passed over.
    """
    place = folder or default_folder()
    found = []
    for slot in sorted(place.glob("*.purvel"), key=lambda path: path.stat().st_mtime, reverse=True):
        if _has_owner(slot):
            continue
        try:
            shop = loads(slot.read_bytes(), slot.name)
        except (FileError, OSError):
            continue
        note = slot.with_suffix(".origin")
        origin = note.read_text(encoding="utf-8") if note.exists() else ""
        found.append(Leftover(slot, shop, Path(origin) if origin else None))
    return found


def discard(slot: Path) -> None:
    """Takes a slot's document away."""
    slot.unlink(missing_ok=True)
    slot.with_suffix(".origin").unlink(missing_ok=True)
    if not _has_owner(slot):
        slot.with_suffix(".lock").unlink(missing_ok=True)


def _has_owner(slot: Path) -> bool:
    lock = slot.with_suffix(".lock")
    try:
        with lock.open("r") as handle:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            fcntl.flock(handle, fcntl.LOCK_UN)
    except FileNotFoundError:
        return False
    except BlockingIOError:
        return True
    return False
