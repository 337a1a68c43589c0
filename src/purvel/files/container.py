"""`.purvel` files: a zip holding `shop.json` and attachments.

Reading checks every bound first and changes nothing; writing never leaves half a file.
"""

from __future__ import annotations

import io
import stat
import zipfile
import zlib
from collections.abc import Sequence
from hashlib import sha256
from pathlib import Path

from purvel.files.document import LARGEST, LARGEST_TOGETHER, MOST, Document
from purvel.files.reading import FORMAT, LARGEST_JSON, VERSION, FileError, read_shop, shop_json
from purvel.files.writing import write_whole

__all__ = ["FORMAT", "SUFFIX", "VERSION", "FileError", "load", "loads", "save", "saves"]

SUFFIX = ".purvel"
_LARGEST_FILE = LARGEST_TOGETHER + 64 * 2**20
_FOLDER = "attachments/"
_SEALED = 0x1  # the flag of an encrypted part
_EPOCH = (1980, 1, 1, 0, 0, 0)  # the earliest that a zip knows: the same shop is the same bytes


def load(path: Path) -> Document:
    """The document in a file. Raises FileError, with the place in the file where it is bad."""
    try:
        if path.is_dir():
            raise FileError(f"{path.name} is a folder, not a shop file.", path)
        if path.exists() and not path.is_file():
            raise FileError(f"{path.name} is a pipe or a device, not a shop file.", path)
        if path.stat().st_size > _LARGEST_FILE:
            raise FileError(
                f"{path.name} is larger than {_LARGEST_FILE // 2**20} MB, too large for a shop file.", path
            )
        data = path.read_bytes()
    except OSError as exc:
        raise FileError(f"{path.name} cannot be read: {(exc.strerror or str(exc)).lower()}.", path) from exc
    return loads(data, path.name)


def loads(data: bytes, name: str = "This file") -> Document:
    """The document in the bytes of a file."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as container:
            entries = _checked_entries(container.infolist(), name)
            text = _read(container, entries, "shop.json", LARGEST_JSON, name)
            blobs = {
                entry.filename.removeprefix(_FOLDER): _read(container, entries, entry.filename, LARGEST, name)
                for entry in entries
                if entry.filename != "shop.json"
            }
    except (zipfile.BadZipFile, EOFError, OSError, RuntimeError, NotImplementedError, ValueError) as exc:
        raise FileError(f"{name} is not a whole shop file: it is cut short or was never one.") from exc
    except zlib.error as exc:
        raise FileError(f"{name} is damaged: its contents do not unpack.") from exc
    shop, said = read_shop(text, name)
    _check_blobs({one.sha256: one.name for one in shop.attachments}, blobs, name)
    return Document(shop, blobs, said)


def _checked_entries(entries: Sequence[zipfile.ZipInfo], name: str) -> Sequence[zipfile.ZipInfo]:
    """The parts of a container, if they are the ones that a shop file has."""
    if len(entries) > MOST + 1:
        raise FileError(f"{name} holds {len(entries)} parts, more than a shop file has.")
    names = [entry.filename for entry in entries]
    for part in names:
        if part.startswith("/") or ".." in part.split("/") or "\\" in part:
            raise FileError(f"{name} holds a part whose path leads outside the file: {part}.")
        digest = part.removeprefix(_FOLDER)
        is_blob = part.startswith(_FOLDER) and len(digest) == 64 and set(digest) <= set("0123456789abcdef")
        if part != "shop.json" and not is_blob:
            raise FileError(f"{name} holds a part that Purvel does not know: {part}.")
        if names.count(part) > 1:
            raise FileError(f"{name} has {part} more than once.")
    for entry in entries:
        if entry.compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED) or entry.flag_bits & _SEALED:
            raise FileError(f"{name} is packed in a way that shop files are not: {entry.filename}.")
        if stat.S_ISLNK(entry.external_attr >> 16):
            raise FileError(f"{name} holds a link where a part should be: {entry.filename}.")
    if "shop.json" not in names:
        raise FileError(f"{name} has no shop.json inside.")
    if sum(entry.file_size for entry in entries if entry.filename != "shop.json") > LARGEST_TOGETHER:
        raise FileError(f"{name} has attachments that unpack to more than {LARGEST_TOGETHER // 2**20} MB.")
    return entries


def _read(
    container: zipfile.ZipFile, entries: Sequence[zipfile.ZipInfo], part: str, largest: int, name: str
) -> bytes:
    """One part, within its bound."""
    entry = next(one for one in entries if one.filename == part)
    what = name if part == "shop.json" else f"{name} has an attachment that"
    if entry.file_size > largest:
        raise FileError(f"{what} unpacks to more than {largest // 2**20} MB.")
    with container.open(entry) as member:
        data = member.read(largest + 1)
    if len(data) > largest:
        raise FileError(f"{what} unpacks to more than {largest // 2**20} MB.")
    return data


def _check_blobs(wanted: dict[str, str], blobs: dict[str, bytes], name: str) -> None:
    for digest, data in blobs.items():
        if digest not in wanted:
            raise FileError(f"{name} holds an attachment that its shop.json does not name: {digest[:12]}….")
        if sha256(data).hexdigest() != digest:
            raise FileError(f"{name} is damaged: the attachment “{wanted[digest]}” is not what was attached.")
    for digest, called in wanted.items():
        if digest not in blobs:
            raise FileError(f"{name} does not hold together: the attachment “{called}” is missing.")


def saves(document: Document) -> bytes:
    """The bytes of a shop file. The same document always gives the same bytes."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as container:
        _add(container, "shop.json", shop_json(document.shop))
        for digest, data in sorted(document.named().items()):
            _add(container, _FOLDER + digest, data)
    return target.getvalue()


def _add(container: zipfile.ZipFile, part: str, data: bytes) -> None:
    container.writestr(zipfile.ZipInfo(part, _EPOCH), data, zipfile.ZIP_DEFLATED)


def save(document: Document, path: Path) -> None:
    """Writes the file whole or not at all, and keeps the previous one as `.bak`. Raises FileError."""
    try:
        write_whole(path, saves(document), backup=True)
    except OSError as exc:
        reason = (exc.strerror or str(exc)).lower()
        raise FileError(
            f"{path.name} could not be saved: {reason}. The file is as it was before.", path
        ) from exc
