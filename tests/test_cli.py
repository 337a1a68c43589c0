"""The command line as scripts use it."""

import csv
import gc
import io
import json
import socket
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import replace
from functools import reduce
from pathlib import Path

import pytest

from purvel.cli import main
from purvel.commands.common import scene_id
from purvel.demo import demo_bytes
from purvel.files import load, loads, save
from purvel.lists import parts_csv, plan_dxf, setout_csv
from purvel.review import Memory
from purvel.review.reviewing import first_review
from purvel.shop.edits import change_shop, remove


def as_program(*words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "purvel", *words], capture_output=True, text=True, timeout=120, check=False
    )


def purvel(*words: str) -> subprocess.CompletedProcess[str]:
    """The command in this process: to begin another takes a second."""
    said, refused = io.StringIO(), io.StringIO()
    with (
        pytest.MonkeyPatch.context() as patch,
        redirect_stdout(said),
        redirect_stderr(refused),
        pytest.raises(SystemExit) as ended,
    ):
        patch.setattr(sys, "argv", ["purvel", *words])
        main()
    return subprocess.CompletedProcess(words, int(ended.value.code or 0), said.getvalue(), refused.getvalue())


def test_version() -> None:
    done = as_program("--version")
    assert (done.returncode, done.stdout.startswith("purvel ")) == (0, True)


def test_report_of_a_file_and_of_a_demo_are_the_same(tmp_path: Path) -> None:
    path = tmp_path / "mine.purvel"
    path.write_bytes(demo_bytes("garage-mended"))
    of_file, of_demo = purvel("report", str(path)), purvel("report", "--demo", "garage-mended")
    assert of_file.returncode == of_demo.returncode == 0
    assert of_file.stdout == of_demo.stdout
    assert of_file.stdout.startswith("Two-bay garage, mended\n") and "\nAir: peak" in of_file.stdout


def test_no_garbage_is_looked_for_while_a_report_is_made(monkeypatch: pytest.MonkeyPatch) -> None:
    looks, was = list[bool](), gc.isenabled()
    monkeypatch.setattr("purvel.report.as_text", lambda _: str(looks.append(gc.isenabled())))
    assert purvel("report", "--demo", "spare-room-mended").returncode == 0
    assert looks == [False] and gc.isenabled() == was


def test_a_demo_without_a_name_is_the_garage(tmp_path: Path) -> None:
    for words in ((), ("garage",)):
        done = purvel("export", "--demo", *words, "--to", str(tmp_path / f"setout{len(words)}.csv"))
        assert done.returncode == 0, done.stderr
    assert (tmp_path / "setout0.csv").read_text() == (tmp_path / "setout1.csv").read_text() != ""


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


def test_a_window_without_qt_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    """As where a library that it needs is not there."""
    for name in [name for name in sys.modules if name.startswith(("purvel.app", "PySide6"))]:
        monkeypatch.delitem(sys.modules, name)
    monkeypatch.setitem(sys.modules, "PySide6", None)
    for words in ((), ("--demo", "garage"), ("mine.purvel",)):  # each of them opens the window
        done = purvel(*words)
        assert done.returncode == 2
        assert done.stderr.startswith("purvel: The window needs Qt, which does not load")
        assert "./start" in done.stderr and len(done.stderr.splitlines()) == 1


def test_a_bad_file_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "half.purvel"
    path.write_bytes(demo_bytes("garage")[:1000])
    done = purvel("report", str(path))
    assert done.returncode == 2 and "not a whole shop file" in done.stderr
    assert path.read_bytes() == demo_bytes("garage")[:1000]


def test_a_scene_is_reported_and_drawn_by_its_name(tmp_path: Path) -> None:
    document, path = loads(demo_bytes("single-garage-mended")), tmp_path / "small.purvel"
    others = {one.id for one in document.shop.things} - {"vac", "bandsaw", "router-table"}
    shop = change_shop(reduce(remove, others, document.shop), jobs=())
    save(replace(document, shop=shop), path)
    assert [scene_id(shop, name) for name in ("night", "Night: car in", "as drawn", None)] == [
        "night"
    ] * 2 + [None] * 2
    done = purvel("report", str(path), "--json", "--scene", "Night: car in")
    assert done.returncode == 0, done.stderr
    night, drawn = json.loads(done.stdout), first_review(shop, Memory())
    assert night["format"] == "purvel-report"
    assert (night["scene"], night["scene_id"]) == ("Night: car in", "night")
    new = {one["rule"] for one in night["findings"]} - {one.rule for one in drawn.findings}
    assert "run-let-go" in new
    for words in ((), ("--scene", "night")):
        done = purvel("export", str(path), "--to", str(tmp_path / f"setout{len(words)}.csv"), *words)
        assert done.returncode == 0, done.stderr
    assert (tmp_path / "setout0.csv").read_text() != (tmp_path / "setout2.csv").read_text()
    told = purvel("report", str(path), "--scene", "day").stdout
    assert "\nAir, in the shop as drawn: peak" in told
    refused = purvel("report", str(path), "--scene", "noon")
    assert refused.stderr == (
        "purvel: There is no scene “noon”; this shop has as drawn, Night: car in, Day: car out, door open.\n"
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
    marked = len(shop.things) + len(shop.room.fixtures) + len(shop.room.openings)
    assert len(rows) == 1 + marked and rows[0][0] == "thing"
    assert parts_csv(shop) == (tmp_path / "parts.csv").read_text()


def test_the_dxf_holds_the_room_in_millimetres() -> None:
    import ezdxf

    shop = loads(demo_bytes("garage-mended")).shop
    drawing = ezdxf.read(io.StringIO(plan_dxf(shop)))
    walls = drawing.modelspace().query('LWPOLYLINE[layer=="WALLS"]')
    points = [tuple(point[:2]) for point in walls[0].get_points()]
    assert max(x for x, _ in points) == pytest.approx(6604, abs=1)
    assert len(drawing.modelspace().query('LWPOLYLINE[layer=="THINGS"]')) == len(shop.things)
    letters = {one.override().get("dimtxt") for one in drawing.modelspace().query("DIMENSION")}
    assert letters == {60}  # mm: read at 1:25 or larger


def test_a_fault_of_our_own_is_one_line_too() -> None:
    code = (
        "import sys, purvel.review.told as told\ndef fail(*_, **__): raise KeyError('odd\\nthing')\n"
        "told.whole_review = fail\nfrom purvel.cli import main\nmain()"
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


def test_lists_are_taken_in_and_a_bad_one_writes_nothing(tmp_path: Path) -> None:
    shop, tools, bad = tmp_path / "mine.purvel", tmp_path / "tools.csv", tmp_path / "bad.csv"
    shop.write_bytes(demo_bytes("spare-room"))
    tools.write_text("tool,width mm\nMallet,90\nMy own jig,400\n")
    bad.write_text("tool,width mm\nMallet,wide\n")
    before = shop.read_bytes()
    done = purvel("import", str(tools), str(bad), "--into", str(shop))
    assert done.returncode == 2 and "Row 2" in done.stderr and "Nothing was written" in done.stderr
    assert shop.read_bytes() == before
    done = purvel("import", str(tools), "--into", str(shop), "--to", str(tmp_path / "more.purvel"))
    assert done.returncode == 0 and "1 new, 1 changed" in done.stdout and shop.read_bytes() == before
    names = [tool.name for tool in load(tmp_path / "more.purvel").shop.storage.tools]
    assert names.count("Mallet") == 1 and names[-1] == "My own jig"


def test_a_log_is_told_of_and_a_monitor_simulated(tmp_path: Path) -> None:
    log = tmp_path / "shed.csv"
    rows = [f"2026-05-01 10:{m:02d}:00,{5 + 100 * 0.9 ** (m - 10) if m >= 10 else 5:.3f}" for m in range(60)]
    log.write_text("\n".join(["time,>0.5um", *rows]))
    done = purvel("log", str(log), "--background", "0-9", "--decay", "10-59")
    told = json.loads(done.stdout)
    assert told["background"] == 5.0
    assert told["marks"][1]["decay"]["rate"] == pytest.approx(6.32, rel=0.01)
    words = ("simulate", "monitor", "--demo", "garage", "--port", "0", "--speed", "10000")
    with subprocess.Popen(
        [sys.executable, "-m", "purvel", *words],
        stdout=subprocess.PIPE,
        text=True,
    ) as playing:
        assert playing.stdout is not None
        port = int(playing.stdout.readline().split("port ")[1].split()[0])
        with socket.create_connection(("127.0.0.1", port), timeout=20) as line, line.makefile() as heard:
            said = [heard.readline() for _ in range(4)]
        playing.terminate()
    assert said[0] == "purvel-monitor 1\n" and said[1].startswith("seconds ")
    assert [reading.split()[0] for reading in said[2:]] == ["0.0", "10.0"]


@pytest.mark.parametrize(
    "words",
    [
        ("log", "missing.csv"),
        ("log", "/dev/null", "--decay", "x"),
        ("simulate", "meter"),
        ("simulate", "monitor", "missing.purvel"),
        ("simulate", "monitor", "--demo", "garage", "--speed", "0"),
        ("import", "missing.csv", "--into", "missing.purvel"),
        ("import", "missing.csv"),
    ],
)
def test_bad_usage_of_lists_and_logs_ends_with_one_plain_line(words: tuple[str, ...]) -> None:
    done = purvel(*words)
    assert done.returncode == 2 and done.stderr.startswith("purvel: ") and done.stderr.count("\n") == 1


def test_sizes_are_found_told_and_written(tmp_path: Path) -> None:
    to = tmp_path / "sized.purvel"
    done = purvel("sizes", "--demo", "single-garage-mended", "--json", "--to", str(to))
    assert (done.returncode, done.stderr) == (0, "")
    found = json.loads(done.stdout)
    assert found["holds"] and found["proven"] and found["best"]["growth"] >= 1.0
    sized = load(to).shop
    assert {run.id: run.diameter for run in sized.ducts.runs} == found["best"]["runs"]
    assert "Manifold 63 mm → 50 mm" in purvel("sizes", "--demo", "single-garage-mended").stdout
    for words in (["--aim", "beauty"], ["--source", "nobody"]):
        done = purvel("sizes", "--demo", "single-garage-mended", *words)
        assert done.returncode == 2 and done.stdout == "" and done.stderr.count("\n") == 1


def test_routes_are_proposed_told_and_written(tmp_path: Path) -> None:
    to, small = tmp_path / "routed.purvel", tmp_path / "small.purvel"
    document = loads(demo_bytes("garage-mended"))
    others = {one.id for one in document.shop.things} - {"collector", "planer", "jointer"}
    save(replace(document, shop=reduce(remove, others, document.shop)), small)
    done = purvel("routes", str(small), "--json", "--take", "2", "--to", str(to))
    told = json.loads(done.stdout)["routes"]
    assert {"name", "cost", "pipe", "hose", "share", "not_kept"} <= set(told[1]) and told[0]["pipe"] > 5
    runs = load(to).shop.ducts.runs
    assert any("Planer" in run.name and run.port and run.port.thing == "planer" for run in runs)
    for words, why in (
        (("--source", "planer"), "is no source"),
        (("--take", "9", "--to", str(to)), "is none of them"),
    ):
        assert why in purvel("routes", str(small), *words).stderr
