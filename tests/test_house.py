"""The house itself: arrows between rooms, what loads at start-up, the catalogue, the words, the pictures."""

import ast
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from purvel.catalogue import duct_sizes, elbows, kinds, limits, make_thing, materials, operations
from purvel.review.stages import STAGES

ROOT = Path(__file__).parents[1]


@pytest.mark.parametrize(
    ("room", "line"),
    [
        ("space/lanes.py", "import PySide6.QtCore"),
        (
            "roomair/dust.py",
            "def draw() -> None:\n    from purvel.app.running import run\n    run(None, None)",
        ),
        ("airflow/air.py", "from purvel.space import lanes"),
        ("shop/air.py", "from purvel.review import review"),
    ],
)
def test_a_planted_arrow_is_caught(tmp_path: Path, room: str, line: str) -> None:
    shutil.copytree(ROOT / "src", tmp_path / "src", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", tmp_path)
    planted = tmp_path / "src" / "purvel" / room
    planted.write_text(planted.read_text() + "\n" + line + "\n")
    lint = Path(sys.executable).parent / "lint-imports"
    done = subprocess.run(
        [lint, "--no-cache"],
        cwd=tmp_path,
        env={"PYTHONPATH": str(tmp_path / "src"), "PATH": "/usr/bin:/bin"},
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode != 0 and "BROKEN" in done.stdout, done.stdout + done.stderr


FORMULAS = (
    "airflow/air.py",
    "airflow/fittings.py",
    "airflow/friction.py",
    "airflow/hoods.py",
    "airflow/separators.py",
    "roomair/dust.py",
    "roomair/mixing.py",
    "walls/shelves.py",
)


@pytest.mark.parametrize("room", FORMULAS)
def test_every_formula_is_its_own_data_sheet(room: str) -> None:
    """Units in brackets, and an example that `./check` runs."""
    tree = ast.parse((ROOT / "src" / "purvel" / room).read_text())
    formulas = [
        one
        for one in tree.body
        if isinstance(one, ast.FunctionDef) and not one.name.startswith("_") and one.returns is not None
        if ast.unparse(one.returns) == "float" or "Array" in ast.unparse(one.returns)
    ]
    assert formulas
    for one in formulas:
        sheet = ast.get_docstring(one) or ""
        assert "[" in sheet and ">>>" in sheet, one.name


HEAVY = ("scipy", "shapely", "ezdxf", "pint", "pyqtgraph", "fluids", "numpy")


def loaded_by(code: str) -> list[str]:
    code += f"\nprint([name for name in {HEAVY!r} if name in sys.modules])"
    done = subprocess.run(
        [sys.executable, "-c", "import sys\n" + code], capture_output=True, text=True, check=True
    )
    found: list[str] = ast.literal_eval(done.stdout.splitlines()[-1])
    return found


def test_heavy_libraries_stay_out_of_the_command_line() -> None:
    """They load when a result asks for them."""
    assert (
        loaded_by("import purvel.cli, purvel.files, purvel.shop, purvel.quantities, purvel.catalogue") == []
    )
    assert loaded_by("import purvel.review") == []


def test_the_first_window_is_painted_before_heavy_libraries_load() -> None:
    code = """
import os, tempfile
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from pathlib import Path
from PySide6.QtCore import QSettings
from purvel.app.application import make_application
from purvel.app.window import Window
folder = Path(tempfile.mkdtemp())
application = make_application(["purvel"])
window = Window(folder, QSettings(str(folder / "settings"), QSettings.Format.IniFormat))
window.show()
application.processEvents()
assert not window.grab().isNull()
"""
    assert loaded_by(code) == []


def test_the_frame_is_painted_before_anything_of_shops_loads() -> None:
    """What it loads is all that the first paint waits for."""
    code = """
import os
os.environ["QT_QPA_PLATFORM"] = "offscreen"
import purvel.cli, purvel.app.running
own = {".".join(name.split(".")[:3]) for name in sys.modules if name.startswith("purvel.")}
assert own == {
    "purvel.cli", "purvel.commands", "purvel.commands.common", "purvel.commands.ducts", "purvel.demo",
    "purvel.app", "purvel.app.application", "purvel.app.frame", "purvel.app.running",
    "purvel.app.theme", "purvel.app.widgets",
}, own
"""
    assert loaded_by(code) == []


RACE = """
import sys
from threading import Barrier, Thread
from purvel.libraries import np, shapely

together, ended = Barrier(2), []


def ask(act):
    together.wait()
    ended.append(act())


asks = (lambda: np.array([1.0]), lambda: shapely.Point(0, 0))
hands = [Thread(target=ask, args=(act,), daemon=True) for act in asks]
for one in hands:
    one.start()
for one in hands:
    one.join()
assert len(ended) == 2
"""


def test_two_threads_may_ask_for_libraries_first() -> None:
    """As the window and the review do where there is one processor: of twenty six broke."""
    for _ in range(8):
        done = subprocess.run([sys.executable, "-c", RACE], capture_output=True, text=True, check=False)
        assert done.returncode == 0, done.stderr[-400:]


def test_catalogue_kinds_have_what_the_engines_read() -> None:
    assert len(kinds()) >= 14
    for key, kind in kinds().items():
        thing = make_thing(key, "x")
        assert kind.name and kind.group
        if thing.feed is not None:
            assert thing.work_height is not None and thing.stand is not None, key
        if kind.operation is not None:
            assert kind.operation in operations(), key
        for port in thing.ports:
            assert 0 < port.chips_flow <= port.fine_flow, key
            assert min(abs(port.diameter - size) for size in duct_sizes()) < 1e-9, key
        if thing.source is not None:
            assert thing.source.kind in ("vac", "collector", "cyclone")
    for group in (materials(), elbows()):
        for one in group.values():
            assert one.source and one.spread[0] <= one.spread[1]
    for limit in limits().values():
        assert limit.fraction == "inhalable" and limit.year


def test_each_stage_has_a_picture_that_the_readme_shows() -> None:
    readme = (ROOT / "README.md").read_text()
    pictures = sorted(path.name for path in (ROOT / "docs" / "screenshots").glob("*.png"))
    assert 4 <= len(pictures) < 20
    for stage in STAGES:
        assert f"{stage.key}.png" in pictures
    assert all(f"docs/screenshots/{name}" in readme for name in pictures)


def test_the_product_never_calls_anything_safe() -> None:
    for path in (ROOT / "src").rglob("*.py"):
        for number, line in enumerate(path.read_text().splitlines(), start=1):
            assert "safe" not in line.lower(), f"{path.name}:{number}"


def sources() -> list[Path]:
    """All Python of the repository."""
    return [path for place in ("src", "tests", "tools") for path in sorted((ROOT / place).rglob("*.py"))]


@pytest.mark.parametrize("path", sources(), ids=lambda path: str(path.relative_to(ROOT)))
def test_files_and_functions_are_short(path: Path) -> None:
    """Lines that hold a sentence for the reader may be longer."""
    text = path.read_text()
    lines = text.splitlines()
    assert len(lines) <= 350
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.FunctionDef):
            assert node.end_lineno is not None and node.end_lineno - node.lineno < 50, node.name
    assert [
        line for line in lines if len(line) > 110 and '"' not in line and "type: ignore" not in line
    ] == []


def test_no_area_that_threads_share_is_prepared() -> None:
    """A prepared area that two threads ask ends the process; these prepare one that nobody else has."""
    alone = {"space/prepared.py", "space/cut_off.py", "space/placing.py", "space/free_spans.py"}
    root = ROOT / "src" / "purvel"
    found = {
        path.relative_to(root).as_posix()
        for path in root.rglob("*.py")
        if "shapely.prepare(" in path.read_text()
    }
    assert found == alone
    # these prepare the area that they are given
    words = ("contains_xy(", "intersects_xy(")
    found = {
        path.relative_to(root).as_posix()
        for path in root.rglob("*.py")
        if any(f"shapely.{word}" in path.read_text() for word in words)
    }
    assert found == {"space/prepared.py", "space/cut_off.py"}


def test_all_of_it_is_typed() -> None:
    import tomllib

    mypy = tomllib.loads((ROOT / "pyproject.toml").read_text())["tool"]["mypy"]
    assert mypy["strict"] and mypy["packages"] == ["purvel"] and "exclude" not in mypy
    lax = [one for one in mypy["overrides"] if any(name.startswith("purvel") for name in one["module"])]
    assert lax == []
