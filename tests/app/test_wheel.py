"""The wheel as others install it, in an environment with what it names as its dependencies and no more."""

import subprocess
import sys
from importlib.metadata import Distribution, distribution, distributions
from pathlib import Path

import pytest
from packaging.requirements import Requirement

ROOT = Path(__file__).parents[2]


def needed(of: Distribution, known: set[str]) -> set[str]:
    """The names of all that a package needs here, directly or through others."""
    for text in of.requires or ():
        one = Requirement(text)
        if one.name not in known and (one.marker is None or one.marker.evaluate({"extra": ""})):
            known.add(one.name)
            needed(distribution(one.name), known)
    return known


def link(name: str, to: Path) -> None:
    """Puts an installed package into another environment without copying it."""
    of = distribution(name)
    for top in {file.parts[0] for file in of.files or () if file.parts[0] not in ("..", "__pycache__")}:
        if not (to / top).exists():
            (to / top).symlink_to(Path(str(of.locate_file(top))))


@pytest.mark.slow
def test_it_runs_in_an_empty_environment(tmp_path: Path) -> None:
    pip = [sys.executable, "-m", "pip", "--disable-pip-version-check", "-q"]
    subprocess.run(
        [*pip, "wheel", "--no-deps", "--no-build-isolation", "-w", str(tmp_path), str(ROOT)], check=True
    )
    (wheel,) = tmp_path.glob("purvel-*.whl")
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(tmp_path / "venv")], check=True)
    python = tmp_path / "venv" / "bin" / "python"
    subprocess.run(
        [*pip, "--python", str(python), "install", "--no-compile", "--no-deps", str(wheel)], check=True
    )
    (packages,) = (tmp_path / "venv").glob("lib/python*/site-packages")
    (purvel,) = distributions(path=[str(packages)])
    names = needed(purvel, set())
    assert {"PySide6-Essentials", "numpy", "typer"} <= names and not {"pytest", "Pint"} & names
    for name in names:
        link(name, packages)
    bare = {"PATH": "/usr/bin:/bin", "HOME": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [tmp_path / "venv" / "bin" / "purvel", "report", "--demo", "garage-mended"],
        cwd=tmp_path,
        env=bare,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0 and done.stderr == "", done.stderr
    assert "Two-bay garage" in done.stdout and "cfm" in done.stdout
    code = (
        "from purvel.app.application import make_application; from purvel.app.window import Window;"
        "a = make_application(['x']); w = Window(); w.show(); a.processEvents(); w.close();"
        "import purvel; print(purvel.__file__)"
    )
    window = subprocess.run(
        [python, "-c", code], cwd=tmp_path, env=bare, capture_output=True, text=True, check=False
    )
    assert window.returncode == 0, window.stderr
    assert Path(window.stdout.strip()).is_relative_to(packages)
