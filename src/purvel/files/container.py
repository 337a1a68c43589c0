"""`.purvel` files: a zip holding `shop.json`.

Reading checks every bound first and changes nothing; writing never leaves half a file.
"""

import io
import os
import shutil
import zipfile
import zlib
from pathlib import Path
from typing import Any

import msgspec

from purvel.catalogue.faults import unknown_keys
from purvel.files.migrations import migrate
from purvel.shop import Shop
from purvel.shop.faults import faults

FORMAT = "purvel-shop"
VERSION = 1
SUFFIX = ".purvel"
_LARGEST_FILE = 64 * 2**20
_LARGEST_JSON = 32 * 2**20
_MOST_ENTRIES = 64
_DEEPEST = 40


class FileError(Exception):
    """A file that cannot be read or written. The message is one plain sentence."""

    def __init__(self, sentence: str, path: Path | None = None) -> None:
        self.path = path
        super().__init__(sentence)


def load(path: Path) -> Shop:
    """The shop in a file. Raises FileError, with the place in the file where it is bad."""
    try:
        if path.is_dir():
            raise FileError(f"{path.name} is a folder, not a shop file.", path)
        if path.stat().st_size > _LARGEST_FILE:
            raise FileError(
                f"{path.name} is larger than {_LARGEST_FILE // 2**20} MB, too large for a shop file.", path
            )
        data = path.read_bytes()
    except OSError as exc:
        raise FileError(f"{path.name} cannot be read: {(exc.strerror or str(exc)).lower()}.", path) from exc
    return loads(data, path.name)


def loads(data: bytes, name: str = "This file") -> Shop:
    """The shop in the bytes of a file."""
    document = _document(_shop_json(data, name), name)
    version = document.get("version")
    if document.get("format") != FORMAT or not isinstance(version, int) or isinstance(version, bool):
        raise FileError(
            f"{name} is not a shop file: its shop.json says neither the format “{FORMAT}” nor a version."
        )
    if version > VERSION:
        raise FileError(
            f"{name} was made by a newer Purvel (file version {version}; this one reads up to {VERSION}). It"
            " was left untouched."
        )
    if version < 1:
        raise FileError(f"{name} has the file version {version}, which never was.")
    raw = migrate(document, version, VERSION).get("shop")
    try:
        shop = msgspec.convert(raw, Shop)
    except msgspec.ValidationError as exc:
        raise FileError(f"{name} has a bad value in shop.json: {exc}.".replace("$", "shop")) from exc
    unknown = _unknown_field(raw, msgspec.to_builtins(shop), "shop")
    if unknown:
        raise FileError(f"{name} has a field that Purvel does not know in shop.json: {unknown}.")
    if found := [*faults(shop), *unknown_keys(shop)]:
        raise FileError(f"{name} does not hold together: {found[0].sentence}")
    return shop


def _shop_json(data: bytes, name: str) -> bytes:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as container:
            entries = container.infolist()
            if len(entries) > _MOST_ENTRIES:
                raise FileError(f"{name} holds {len(entries)} parts, more than a shop file has.")
            for entry in entries:
                if (
                    entry.filename.startswith("/")
                    or ".." in entry.filename.split("/")
                    or "\\" in entry.filename
                ):
                    raise FileError(
                        f"{name} holds a part whose path leads outside the file: {entry.filename}."
                    )
                if entry.filename != "shop.json":
                    raise FileError(f"{name} holds a part that Purvel does not know: {entry.filename}.")
            if len(entries) != 1:
                raise FileError(
                    f"{name} has no shop.json inside."
                    if not entries
                    else f"{name} has shop.json more than once."
                )
            if entries[0].file_size > _LARGEST_JSON:
                raise FileError(f"{name} unpacks to more than {_LARGEST_JSON // 2**20} MB.")
            with container.open(entries[0]) as member:
                text = member.read(_LARGEST_JSON + 1)
            if len(text) > _LARGEST_JSON:
                raise FileError(f"{name} unpacks to more than {_LARGEST_JSON // 2**20} MB.")
            return text
    except (zipfile.BadZipFile, EOFError, OSError, RuntimeError, NotImplementedError, ValueError) as exc:
        raise FileError(f"{name} is not a whole shop file: it is cut short or was never one.") from exc
    except zlib.error as exc:
        raise FileError(f"{name} is damaged: its contents do not unpack.") from exc


def _document(text: bytes, name: str) -> dict[str, Any]:
    depth = deepest = 0
    for byte in text:
        if byte in b"[{":
            depth += 1
            deepest = max(deepest, depth)
        elif byte in b"]}":
            depth -= 1
    if deepest > _DEEPEST * 4:  # braces inside names count too, so the bound is generous
        raise FileError(f"{name} is nested more deeply than a shop file is.")
    try:
        document = msgspec.json.decode(text)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as exc:
        raise FileError(f"{name} has a shop.json that is not JSON: {exc}.") from exc
    if not isinstance(document, dict):
        raise FileError(f"{name} has a shop.json that is not an object.")
    return document


def _unknown_field(raw: Any, known: Any, where: str) -> str | None:
    """The first key that is in `raw` and was not read."""
    if isinstance(raw, dict) and isinstance(known, dict):
        for key, value in raw.items():
            if key not in known:
                return f"{where}.{key}"
            if found := _unknown_field(value, known[key], f"{where}.{key}"):
                return found
    elif isinstance(raw, list) and isinstance(known, list | tuple):
        for index, (value, read) in enumerate(zip(raw, known)):
            if found := _unknown_field(value, read, f"{where}[{index}]"):
                return found
    return None


def saves(shop: Shop) -> bytes:
    """The bytes of a shop file. The same shop always gives the same bytes."""
    text = msgspec.json.format(
        msgspec.json.encode({"format": FORMAT, "version": VERSION, "shop": shop}), indent=1
    )
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as container:
        container.writestr(zipfile.ZipInfo("shop.json", (1980, 1, 1, 0, 0, 0)), text, zipfile.ZIP_DEFLATED)
    return target.getvalue()


def save(shop: Shop, path: Path) -> None:
    """Writes the file beside its place, makes sure it is on the disk, keeps the previous one as `.bak`, then
    renames it into place.
    """
    beside = path.with_name(f".{path.name}.{os.getpid()}.part")
    try:
        with beside.open("wb") as target:
            target.write(saves(shop))
            target.flush()
            os.fsync(target.fileno())
        if path.exists():
            shutil.copy2(path, path.with_name(path.name + ".bak"))
        beside.replace(path)
        folder = os.open(path.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)
    except OSError as exc:
        beside.unlink(missing_ok=True)
        raise FileError(
            f"{path.name} could not be saved: {(exc.strerror or str(exc)).lower()}. The file is as it was"
            " before.",
            path,
        ) from exc
