"""Reads the catalogue's TOML files from the package."""

from importlib.resources import files
from typing import TypeVar

import msgspec

_T = TypeVar("_T")


def read(name: str, kind: type[_T]) -> _T:
    """The file `name` decoded and checked as `kind`."""
    return msgspec.toml.decode(files("purvel.catalogue").joinpath(name).read_bytes(), type=kind)
