"""`shop.json`: decoded within bounds, carried to today's version, checked; errors in old data are said as in
new.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import msgspec

from purvel.catalogue.faults import unknown_keys
from purvel.files.migrations import migrate
from purvel.shop import Shop
from purvel.shop.faults import faults

FORMAT = "purvel-shop"
VERSION = 2
LARGEST_JSON = 32 * 2**20  # bytes of a shop.json
_DEEPEST = 40
_MOST_ITEMS = 500_000
_CLOSERS = bytes.maketrans(b"{}", b"[]")
_NOT_BRACKETS = bytes(set(range(256)) - set(b"[]{}"))


class FileError(Exception):
    """A file that cannot be read or written. The message is one plain sentence."""

    def __init__(self, sentence: str, path: Path | None = None) -> None:
        self.path = path
        super().__init__(sentence)


def shop_json(shop: Shop) -> bytes:
    """The text of shop.json."""
    return msgspec.json.format(
        msgspec.json.encode({"format": FORMAT, "version": VERSION, "shop": shop}), indent=1
    )


def read_shop(text: bytes, name: str) -> Shop:
    """The shop that a shop.json says. Raises FileError."""
    document = _decoded(text, name)
    version = document.get("version")
    if document.get("format") != FORMAT or not isinstance(version, int) or isinstance(version, bool):
        raise FileError(
            f"{name} is not a shop file: its shop.json says neither the format “{FORMAT}” nor a version."
        )
    if version > VERSION:
        raise FileError(
            f"{name} was made by a newer Purvel (file version {version}; this one reads up to {VERSION}). It was"
            " left untouched."
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


def _decoded(text: bytes, name: str) -> dict[str, Any]:
    if _depth(text) > _DEEPEST * 4:  # braces inside names count too, so the bound is generous
        raise FileError(f"{name} is nested more deeply than a shop file is.")
    if text.count(b"[") + text.count(b"{") > _MOST_ITEMS:
        raise FileError(f"{name} has a shop.json with more items than a shop file has.")
    try:
        document = msgspec.json.decode(text)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as exc:
        raise FileError(f"{name} has a shop.json that is not JSON: {exc}.") from exc
    if not isinstance(document, dict):
        raise FileError(f"{name} has a shop.json that is not an object.")
    return document


def _depth(text: bytes) -> int:
    """How deep brackets are nested: how often all innermost pairs can be taken out, bounded."""
    brackets = text.translate(_CLOSERS, _NOT_BRACKETS)
    for depth in range(_DEEPEST * 4 + 2):
        inner = brackets.replace(b"[]", b"")
        if len(inner) == len(brackets):
            return depth + (brackets.count(b"[") if brackets else 0)
        brackets = inner
    return _DEEPEST * 4 + 1


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
