"""`shop.json`: decoded within bounds, carried to today's version, checked; errors in old data are said as in
new.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import msgspec

from purvel.catalogue.faults import unknown_keys
from purvel.files.migrations import migrate
from purvel.shop import Shop
from purvel.shop.faults import faults
from purvel.shop.own_ids import with_own_ids

FORMAT = "purvel-shop"
VERSION = 6  # of the file format
OWN_IDS = 4  # the version from which on no two items of a shop have one id
LARGEST_JSON = 32 * 2**20  # bytes of a shop.json
_DEEPEST = 40  # braces within braces
_MOST_ITEMS = 500_000  # lists and objects
_LONGEST_SENTENCE = 300  # letters
_CLOSERS = bytes.maketrans(b"{}", b"[]")
_NOT_BRACKETS = bytes(set(range(256)) - set(b"[]{}"))


class FileError(Exception):
    """A file that cannot be read or written. The message is one plain sentence: one line, printable, short,
    whatever the file holds.
    """

    def __init__(self, sentence: str, path: Path | None = None) -> None:
        self.path = path
        plain = "".join(letter if letter.isprintable() else " " for letter in sentence)
        half = _LONGEST_SENTENCE // 2
        super().__init__(plain if len(plain) <= 2 * half else f"{plain[:half]} … {plain[-half:]}")


def shop_json(shop: Shop) -> bytes:
    """The text of shop.json."""
    return msgspec.json.format(
        msgspec.json.encode({"format": FORMAT, "version": VERSION, "shop": shop}), indent=1
    )


def read_shop(text: bytes, name: str) -> tuple[Shop, str]:
    """The shop that a shop.json says, and what had to be changed in an old one. Raises FileError."""
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
    said = ""
    if version < OWN_IDS:
        shop, said = with_own_ids(shop)
    if found := [*faults(shop), *unknown_keys(shop)]:
        raise FileError(f"{name} does not hold together: {found[0].sentence}")
    return shop, said


def _decoded(text: bytes, name: str) -> dict[str, Any]:
    if text.count(b"[") + text.count(b"{") > _MOST_ITEMS:
        raise FileError(f"{name} has a shop.json with more items than a shop file has.")
    if _depth(text) > _DEEPEST * 4:  # braces inside names count too, so the bound is generous
        raise FileError(f"{name} is nested more deeply than a shop file is.")
    try:
        document = msgspec.json.decode(text)
        json.loads(text, object_pairs_hook=_once_each)
    except _TwiceError as exc:
        raise FileError(f"{name} has a shop.json that says “{exc}” twice in one place.") from exc
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, ValueError) as exc:
        raise FileError(f"{name} has a shop.json that is not JSON: {exc}.") from exc
    if not isinstance(document, dict):
        raise FileError(f"{name} has a shop.json that is not an object.")
    return document


class _TwiceError(Exception):
    """A key that stands twice in one object."""


def _once_each(pairs: list[tuple[str, Any]]) -> None:
    keys = set()
    for key, _ in pairs:
        if key in keys:
            raise _TwiceError(key)
        keys.add(key)


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
