"""Prints the packages of one of Purvel's environments, one on a line, from the lists in pyproject.toml: app,
core-tests (the core without the window) or dev.
"""

import sys
import tomllib
from pathlib import Path

WINDOW = ("PySide6", "pyqtgraph")  # what the core does without


def needed(which: str) -> list[str]:
    """What an environment is made of, with the versions that do."""
    data = tomllib.loads((Path(__file__).parent.parent / "pyproject.toml").read_text())
    own = data["project"]["dependencies"]
    if which == "core-tests":
        own = [one for one in own if not one.startswith(WINDOW)]
    return [*own, *data["build-system"]["requires"], *data["dependency-groups"].get(which, [])]


if __name__ == "__main__":
    print("\n".join(needed(sys.argv[1])))
