"""Autosave slots in the data folder, and what a crash left in them.

A slot is a folder: `shop.json`, `attachments/<sha256>`, and `origin.json` that says which file the work is of
and how that file was when it was read. A running Purvel holds a lock on its slot; a slot with work and no
lock is what a crash left behind. A single `.purvel` file is what the first version
kept; it is offered as work of no file.
"""

from __future__ import annotations

import fcntl
import os
import shutil
import uuid
from contextlib import suppress
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from typing import IO

import msgspec

from purvel.files.container import SUFFIX, load
from purvel.files.document import LARGEST, Document
from purvel.files.reading import LARGEST_JSON, FileError, read_shop, shop_json
from purvel.files.stamp import Stamp
from purvel.files.writing import clear_left_behind, write_whole
from purvel.shop import Shop


@dataclass(frozen=True, slots=True)
class Origin:
    """The file that work is of, None if it was never saved, and the file's stamp when the work was read from
    it.
    """

    path: Path | None = None
    stamp: Stamp | None = None


@dataclass(frozen=True, slots=True)
class Leftover:
    """Work that was under way when Purvel stopped: its slot, the document and where it came from."""

    slot: Path
    document: Document
    origin: Origin

    @property
    def shop(self) -> Shop:
        """The shop of the document."""
        return self.document.shop


@dataclass(frozen=True, slots=True)
class _OriginFile:
    """`origin.json`: the path as hexadecimal bytes, for names need not be text."""

    path: str | None = None
    stamp: tuple[int, int] | None = None


def default_folder() -> Path:
    """Where slots are kept."""
    from platformdirs import user_data_path

    return user_data_path("purvel", appauthor=False) / "autosave"


class Slot:
    """The autosave slot of one running document."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or default_folder()
        self.folder.mkdir(parents=True, exist_ok=True)
        _clear_dead(self.folder)
        self.path = self.folder / uuid.uuid4().hex
        self.path.mkdir()
        self._lock: IO[str] = (self.path / "lock").open("w")
        fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)

    def keep(self, document: Document, origin: Origin) -> None:
        """Writes the work into the slot, whole or not at all; of attachments only those that are not there
        yet.
        """
        blobs = self.path / "attachments"
        for digest, data in document.named().items():
            if not (blobs / digest).exists():
                blobs.mkdir(exist_ok=True)
                write_whole(blobs / digest, data)
        path = None if origin.path is None else os.fsencode(origin.path).hex()
        write_whole(self.path / "origin.json", msgspec.json.encode(_OriginFile(path, origin.stamp)))
        write_whole(self.path / "shop.json", shop_json(document.shop))

    @property
    def holds_work(self) -> bool:
        """Whether anything is kept."""
        return (self.path / "shop.json").exists()

    def clear(self) -> None:
        """Forgets what is kept: the work is saved, or was given up on purpose."""
        _clear_work(self.path)

    def let_go(self) -> None:
        """Gives up the lock and leaves what is kept for the next start."""
        self._lock.close()
        (self.path / "lock").unlink(missing_ok=True)
        if not self.holds_work:
            shutil.rmtree(self.path, ignore_errors=True)

    def close(self) -> None:
        """Clears the slot and lets its lock go."""
        self.clear()
        self.let_go()


def leftovers(folder: Path | None = None) -> list[Leftover]:
    """What crashes left, newest first.

    Slots that still have an owner and slots that cannot be read are passed over.
    """
    place = folder or default_folder()
    found: list[tuple[float, Leftover]] = []
    for slot in place.iterdir() if place.is_dir() else ():
        work = slot / "shop.json" if slot.is_dir() else slot
        with suppress(OSError, FileError, msgspec.DecodeError, ValueError):
            if (slot.is_dir() or slot.suffix == SUFFIX) and work.is_file() and not _has_owner(slot):
                left = _read(slot) if slot.is_dir() else Leftover(slot, load(slot), Origin())
                found.append((work.stat().st_mtime, left))
    return [left for _, left in sorted(found, key=lambda dated: dated[0], reverse=True)]


def _read(slot: Path) -> Leftover:
    with (slot / "shop.json").open("rb") as kept:
        shop, said = read_shop(kept.read(LARGEST_JSON), "Kept work")
    blobs = {}
    for one in shop.attachments:
        with (slot / "attachments" / one.sha256).open("rb") as kept:
            data = kept.read(LARGEST + 1)
        if sha256(data).hexdigest() != one.sha256:
            raise FileError("An attachment of kept work is damaged.")
        blobs[one.sha256] = data
    origin = msgspec.json.decode((slot / "origin.json").read_bytes(), type=_OriginFile)
    path = None if origin.path is None else Path(os.fsdecode(bytes.fromhex(origin.path)))
    return Leftover(slot, Document(shop, blobs, said), Origin(path, origin.stamp))


def discard(slot: Path) -> None:
    """Takes a slot's work away, and the slot where nobody owns it."""
    if not slot.is_dir():
        slot.unlink(missing_ok=True)
        return
    _clear_work(slot)
    if not _has_owner(slot):
        shutil.rmtree(slot, ignore_errors=True)


def _clear_work(slot: Path) -> None:
    """shop.json first: without it there is no work to be found."""
    for name in ("shop.json", "origin.json"):
        (slot / name).unlink(missing_ok=True)
    shutil.rmtree(slot / "attachments", ignore_errors=True)


def _clear_dead(folder: Path) -> None:
    """Takes away slots that hold no work and that nobody owns, and half-written files in the others."""
    for slot in folder.iterdir():
        with suppress(OSError):
            if slot.is_dir() and not _has_owner(slot):
                clear_left_behind(slot)
                if not (slot / "shop.json").exists():
                    shutil.rmtree(slot, ignore_errors=True)


def _has_owner(slot: Path) -> bool:
    lock = slot / "lock" if slot.is_dir() else slot.with_suffix(".lock")
    try:
        with lock.open("r") as handle:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            fcntl.flock(handle, fcntl.LOCK_UN)
    except FileNotFoundError:
        return False
    except OSError:
        return True  # held, or not ours to look into
    return False
