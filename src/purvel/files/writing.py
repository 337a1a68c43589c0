"""Writing files whole or not at all: beside their place, put on the disk, then renamed into it."""

from __future__ import annotations

import os
import stat
from contextlib import suppress
from itertools import count
from pathlib import Path
from platform import node

PART = ".purvel-part"
_LONGEST_NAME = 255  # bytes that a file's name may have on the usual file systems
_numbers = count(1)


def write_whole(path: Path, data: bytes, *, backup: bool = False) -> None:
    """Writes a file so that at every moment the old one or the new one is there. Raises OSError.

    A link is followed and stays one; mode and owner stay as they were; a file with several names keeps them
    all. With `backup` the previous one is kept as `.bak` beside it.
    """
    target = Path(os.path.realpath(path))
    before = target.stat() if target.exists() else None
    clear_left_behind(target.parent)
    part = _written_beside(target.parent, data, before)
    try:
        if before is not None and backup:
            _back_up(target, before)
        if before is not None and before.st_nlink > 1:
            _write_into(target, data)
            part.unlink()
        else:
            part.replace(target)
        _sync_folder(target.parent)
    except OSError:
        part.unlink(missing_ok=True)
        raise


def _written_beside(folder: Path, data: bytes, like: os.stat_result | None) -> Path:
    """A new file with the data, with mode and owner of another where there is one."""
    part = folder / f".{_host()}-{os.getpid()}-{next(_numbers)}{PART}"
    handle = os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o666 if like is None else 0o600)
    try:
        with os.fdopen(handle, "wb") as target:
            target.write(data)
            target.flush()
            if like is not None:
                with suppress(PermissionError):
                    os.fchown(target.fileno(), like.st_uid, like.st_gid)
                os.fchmod(target.fileno(), stat.S_IMODE(like.st_mode))
            os.fsync(target.fileno())
    except OSError:
        part.unlink(missing_ok=True)
        raise
    return part


def _back_up(target: Path, before: os.stat_result) -> None:
    """The file as it is, whole, under its name with `.bak`; a link of that name is replaced, not followed."""
    part = _written_beside(target.parent, target.read_bytes(), before)
    try:
        part.replace(backup_of(target))
    except OSError:
        part.unlink(missing_ok=True)
        raise


def backup_of(path: Path) -> Path:
    """Where a file's previous state is kept; the name is shortened where it would grow too long."""
    name = os.fsencode(path.name)[: _LONGEST_NAME - len(b".bak")]
    return path.with_name(os.fsdecode(name) + ".bak")


def _write_into(target: Path, data: bytes) -> None:
    """Into the very file, for one that has other names too; the whole of it lies beside until it is done."""
    with target.open("r+b") as inside:
        inside.write(data)
        inside.truncate()
        inside.flush()
        os.fsync(inside.fileno())


def _sync_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _host() -> str:
    return "".join(letter for letter in node() if letter.isalnum())[:24] or "here"


def clear_left_behind(folder: Path) -> None:
    """Takes away what programs of this machine that are gone left half-written."""
    for part in folder.glob(f".{_host()}-*{PART}"):
        number = part.name.removeprefix(f".{_host()}-").partition("-")[0]
        if number.isdigit() and int(number) != os.getpid() and not _runs(int(number)):
            with suppress(OSError):
                part.unlink()


def _runs(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True
