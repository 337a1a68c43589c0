"""Gives another environment packages of the one that this runs in, with all that they need, without copying
them: `share_packages.py LIST FOLDER`, where LIST is one of those in packages.py.
"""

import sys
from collections.abc import Iterable
from importlib.metadata import distribution
from pathlib import Path

from packaging.requirements import Requirement

from packages import needed


def all_needed(wanted: Iterable[str], known: set[str] | None = None) -> set[str]:
    """The names of packages that are wanted here, and of all that those need."""
    known = set() if known is None else known
    for one in map(Requirement, wanted):
        if one.name not in known and (one.marker is None or one.marker.evaluate({"extra": ""})):
            known.add(one.name)
            all_needed(distribution(one.name).requires or (), known)
    return known


def share(names: Iterable[str], environment: Path) -> None:
    """Links installed packages into an environment; what lies in it already stays."""
    (to,) = environment.glob("lib/python*/site-packages")
    for of in map(distribution, names):
        tops = {file.parts[0] for file in of.files or ()} - {"..", "__pycache__"}
        for top in tops:
            if not (to / top).exists():
                (to / top).symlink_to(Path(str(of.locate_file(top))).resolve())


if __name__ == "__main__":
    share({*all_needed(needed(sys.argv[1])), "purvel"}, Path(sys.argv[2]))
