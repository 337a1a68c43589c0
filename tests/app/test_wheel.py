"""The wheel as others install it, in an environment with what it names as its dependencies and no more."""

import subprocess
import sys
from importlib.metadata import distributions
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]


@pytest.mark.slow
def test_it_runs_in_an_empty_environment(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(ROOT / "tools")
    from share_packages import all_needed, share

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
    names = all_needed(purvel.requires or ())
    assert {"PySide6-Essentials", "numpy", "typer"} <= names and not {"pytest", "Pint"} & names
    share(names, tmp_path / "venv")
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
