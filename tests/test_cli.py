"""The command line as scripts use it."""

import csv
import io
import json
import subprocess
import sys
from pathlib import Path

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.lists import parts_csv, plan_dxf, setout_csv


def purvel(*words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "purvel", *words], capture_output=True, text=True, timeout=120, check=False
    )


def test_version() -> None:
    done = purvel("--version")
    assert (done.returncode, done.stdout.startswith("purvel ")) == (0, True)


def test_report_of_a_file_and_of_a_demo_are_the_same(tmp_path: Path) -> None:
    path = tmp_path / "mine.purvel"
    path.write_bytes(demo_bytes("spare-room"))
    of_file, of_demo = (
        purvel("report", str(path), "--json"),
        purvel("report", "--demo", "spare-room", "--json"),
    )
    assert of_file.returncode == of_demo.returncode == 0
    assert of_file.stdout == of_demo.stdout
    assert json.loads(of_file.stdout)["format"] == "purvel-report"


def test_text_report_and_demo_without_a_name() -> None:
    done = purvel("report", "--demo")
    assert done.returncode == 0 and done.stdout.startswith("Two-bay garage\n")


@pytest.mark.parametrize(
    "words",
    [
        ("report", "missing.purvel"),
        ("report",),
        ("report", "--demo", "castle"),
        ("report", "--demo", "garage", "--scene", "midnight"),
        ("report", "--nonsense"),
        ("export", "--demo", "garage"),
        ("export", "--demo", "garage", "--to", "plan.xyz"),
        ("export", "--demo", "garage", "--to", "list.csv"),
        ("export", "--demo", "garage", "--to", "/nowhere/parts.csv"),
        ("open", "missing.purvel"),
    ],
)
def test_bad_usage_ends_with_one_plain_line(words: tuple[str, ...]) -> None:
    done = purvel(*words)
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1 and done.stderr.startswith("purvel: ")
    assert "Traceback" not in done.stderr


def test_a_bad_file_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "half.purvel"
    path.write_bytes(demo_bytes("garage")[:1000])
    done = purvel("report", str(path))
    assert done.returncode == 2 and "not a whole shop file" in done.stderr
    assert path.read_bytes() == demo_bytes("garage")[:1000]


def test_a_scene_is_reported_and_drawn_by_its_name(tmp_path: Path) -> None:
    said = {}
    for words in ((), ("--scene", "night"), ("--scene", "Night: car in"), ("--scene", "as drawn")):
        done = purvel("report", "--demo", "garage", "--json", *words)
        assert done.returncode == 0, done.stderr
        said[words[-1:]] = json.loads(done.stdout)
    night, drawn = said[("night",)], said[()]
    assert (night["scene"], night["scene_id"]) == ("Night: car in", "night")
    assert (drawn["scene"], drawn["scene_id"]) == ("as drawn", None)
    assert night == said[("Night: car in",)] and drawn == said[("as drawn",)]
    assert {one["rule"] for one in night["findings"]} - {one["rule"] for one in drawn["findings"]} >= {
        "run-let-go"
    }
    for words in ((), ("--scene", "night")):
        done = purvel("export", "--demo", "garage", "--to", str(tmp_path / f"setout{len(words)}.csv"), *words)
        assert done.returncode == 0, done.stderr
    assert (tmp_path / "setout0.csv").read_text() != (tmp_path / "setout2.csv").read_text()
    for words, air in (((), "\nAir: peak"), (("--scene", "day"), "\nAir, in the shop as drawn: peak")):
        assert air in purvel("report", "--demo", "garage", *words).stdout
    refused = purvel("report", "--demo", "garage", "--scene", "noon")
    assert refused.stderr == (
        "purvel: There is no scene “noon”; this shop has as drawn, Night: car in, Day: door open.\n"
    )


def test_lists(tmp_path: Path) -> None:
    for name in ("parts.csv", "setout.csv"):
        assert purvel("export", "--demo", "garage", "--to", str(tmp_path / name)).returncode == 0
    shop = loads(demo_bytes("garage")).shop
    parts = list(csv.DictReader(io.StringIO((tmp_path / "parts.csv").read_text())))
    assert sum(row["part"] == "Gate" for row in parts) == 3
    main = next(row for row in parts if row["run"] == "Main" and row["unit"] == "m")
    assert float(main["amount"]) == pytest.approx(0.1 + 1.7 + 4.92, abs=0.02)
    rows = list(csv.reader(io.StringIO(setout_csv(shop))))
    assert len(rows) == 1 + len(shop.things) and rows[0][0] == "thing"
    assert parts_csv(shop) == (tmp_path / "parts.csv").read_text()


def test_the_dxf_holds_the_room_in_millimetres() -> None:
    import ezdxf

    shop = loads(demo_bytes("garage-mended")).shop
    drawing = ezdxf.read(io.StringIO(plan_dxf(shop)))
    walls = drawing.modelspace().query('LWPOLYLINE[layer=="WALLS"]')
    points = [tuple(point[:2]) for point in walls[0].get_points()]
    assert max(x for x, _ in points) == pytest.approx(6604, abs=1)
    assert len(drawing.modelspace().query('LWPOLYLINE[layer=="THINGS"]')) == len(shop.things)


def test_a_fault_of_our_own_is_one_line_too() -> None:
    code = (
        "import sys, purvel.review\ndef fail(*_, **__): raise KeyError('odd\\nthing')\npurvel.review.review ="
        " fail\nfrom purvel.cli import main\nmain()"
    )
    done = subprocess.run(
        [sys.executable, "-c", code, "report", "--demo", "garage"],
        capture_output=True,
        text=True,
        timeout=120,
        check=False,
    )
    assert done.returncode == 1 and done.stdout == ""
    assert (
        done.stderr.startswith("purvel: something went wrong inside (KeyError")
        and len(done.stderr.splitlines()) == 1
    )
