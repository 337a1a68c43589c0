"""Prints the packages of one of Purvel's environments, one on a line, from the lists in pyproject.toml: app,
core-tests (the core without the window) or dev.
"""

import sys
import tomllib
from pathlib import Path

WINDOW = ("PySide6", "pyqtgraph")  # what the core does without

data = tomllib.loads((Path(__file__).parent.parent / "pyproject.toml").read_text())
needed = data["project"]["dependencies"]
which = sys.argv[1]
if which == "core-tests":
    needed = [one for one in needed if not one.startswith(WINDOW)]
print("\n".join([*needed, *data["build-system"]["requires"], *data["dependency-groups"].get(which, [])]))
