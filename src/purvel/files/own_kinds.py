"""Kinds of the user's own: things as they were placed once, kept in a library and exchanged as TOML."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

import msgspec

from purvel.files.reading import FileError
from purvel.files.writing import write_whole
from purvel.shop import Shop, Thing
from purvel.shop.faults import faults

MARK = "purvel-kinds"
VERSION = 1  # of such files
LARGEST = 1_000_000  # bytes
MOST = 300  # kinds
_POSE = ("id", "x", "y", "angle", "settled", "outlet", "cord")
"""What a kind does not say: where one of it stands, and what it hangs on there."""


def as_kind(thing: Thing) -> Thing:
    """A thing without what belongs to its place."""
    return replace(thing, x=0.0, y=0.0, angle=0.0, settled=False, outlet=None, cord=None)


def kinds_toml(kinds: Mapping[str, Thing]) -> bytes:
    """Own kinds by name, as a file."""
    import tomli_w

    told = {name: _told(thing) for name, thing in kinds.items()}
    return tomli_w.dumps({MARK: VERSION, "kinds": told}).encode()


def _told(thing: Thing) -> dict[str, Any]:
    raw: dict[str, Any] = msgspec.to_builtins(thing)
    return {key: _known(value) for key, value in raw.items() if key not in _POSE and _says(value)}


def _known(value: Any) -> Any:
    """A value without what is not known: TOML has no word for that."""
    if isinstance(value, dict):
        return {key: _known(inner) for key, inner in value.items() if _says(inner)}
    return [_known(inner) for inner in value] if isinstance(value, list | tuple) else value


def _says(value: Any) -> bool:
    return value is not None and value not in ([], ())


def read_kinds(data: bytes, name: str) -> dict[str, Thing]:
    """The own kinds that a file holds. Raises FileError with one sentence."""
    if len(data) > LARGEST:
        raise FileError(f"{name} is larger than 1 MB, too large for a list of kinds.")
    try:
        raw = msgspec.toml.decode(data)
    except (msgspec.DecodeError, UnicodeDecodeError, ValueError) as exc:
        raise FileError(f"{name} is no TOML: {exc}.") from None
    told = raw.get("kinds") if isinstance(raw, dict) else None
    if not isinstance(raw, dict) or MARK not in raw or not isinstance(told, dict):
        raise FileError(f"{name} is no list of kinds: it does not begin with “{MARK}”.")
    if raw[MARK] != VERSION:
        raise FileError(
            f"{name} was written by a newer Purvel; this one reads version {VERSION} of such lists."
        )
    if len(told) > MOST:
        raise FileError(f"{name} holds more than {MOST} kinds.")
    found = {}
    for number, (key, value) in enumerate(told.items(), start=1):
        found[key] = _read(key, value, f"kind-{number}", name)
    return found


def _read(key: str, value: Any, thing_id: str, name: str) -> Thing:
    if not isinstance(value, dict):
        raise FileError(f"{name}: the kind “{key}” says nothing of itself.")
    strange = [field for field in value if field in _POSE or field not in Thing.__dataclass_fields__]
    if strange:
        raise FileError(f"{name}: the kind “{key}” says “{strange[0]}”, which no kind has.")
    try:
        thing = msgspec.convert({**value, "id": thing_id}, Thing)
    except (msgspec.ValidationError, TypeError) as exc:
        raise FileError(f"{name}: the kind “{key}”: {exc}.") from None
    wrong = [fault.sentence for fault in faults(Shop(things=(thing,)))]
    if wrong:
        raise FileError(f"{name}: the kind “{key}”: {wrong[0]}")
    return thing


def library_path() -> Path:
    """Where the user's own kinds are kept."""
    from platformdirs import user_data_path

    return user_data_path("purvel", appauthor=False) / "kinds.toml"


class Library:
    """The user's own kinds by name, each kept at once. What cannot be read is left as it is, and nothing is
    kept over it.
    """

    def __init__(self, path: Path | None = None) -> None:
        self.path = path or library_path()

    def kinds(self) -> dict[str, Thing]:
        """All of them. Raises FileError."""
        try:
            data = self.path.read_bytes()
        except FileNotFoundError:
            return {}
        except OSError as exc:
            raise FileError(f"Your own kinds cannot be read: {(exc.strerror or str(exc)).lower()}.") from None
        return read_kinds(data, self.path.name)

    def keep(self, kinds: Mapping[str, Thing]) -> None:
        """Keeps kinds, over those of the same name. Raises FileError."""
        self._write({**self.kinds(), **{name: as_kind(thing) for name, thing in kinds.items()}})

    def forget(self, name: str) -> None:
        """Takes one out. Raises FileError."""
        self._write({key: thing for key, thing in self.kinds().items() if key != name})

    def take_in(self, path: Path) -> None:
        """Keeps the kinds of a file, over those of the same name. Raises FileError."""
        try:
            data = path.read_bytes()
        except OSError as exc:
            raise FileError(f"{path.name} cannot be read: {(exc.strerror or str(exc)).lower()}.") from None
        self.keep(read_kinds(data, path.name))

    def write_out(self, path: Path) -> None:
        """All of them to a file. Raises FileError."""
        try:
            write_whole(path, kinds_toml(self.kinds()))
        except OSError as exc:
            raise FileError(f"{path.name} cannot be written: {(exc.strerror or str(exc)).lower()}.") from None

    def _write(self, kinds: Mapping[str, Thing]) -> None:
        if len(kinds) > MOST:
            raise FileError(f"There is room for {MOST} kinds of your own: forget some first.")
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            write_whole(self.path, kinds_toml(kinds), backup=True)
        except OSError as exc:
            raise FileError(f"Your own kinds cannot be kept: {(exc.strerror or str(exc)).lower()}.") from None
