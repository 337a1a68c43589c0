"""The stamp of a file: by it one sees that somebody else has written it."""

from pathlib import Path

Stamp = tuple[int, int]
"""When a file was written [ns] and how long it is."""


def stamp_of(path: Path) -> Stamp | None:
    """A file's stamp now; None where there is none."""
    try:
        status = path.stat()
    except (OSError, ValueError):
        return None
    return status.st_mtime_ns, status.st_size
