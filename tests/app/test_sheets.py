"""What is written for the wall and the bench: whole, readable and in step with the report."""

import csv
import html
import io
import xml.etree.ElementTree as ET
from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import ezdxf
import pytest
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter
from PySide6.QtSvg import QSvgRenderer
from PySide6.QtWidgets import QApplication

from purvel.airflow.layout import length_of, run_paths
from purvel.app.sheets import ExportError, write
from purvel.app.sheets.binder import binder_text
from purvel.demo import NAMES, demo_bytes
from purvel.files import Document, loads
from purvel.lists import parts_csv, plan_dxf, setout_csv
from purvel.quantities import parse_length
from purvel.review import Figures, Grade, review
from purvel.review.place.answers import PlaceAnswers
from purvel.shop import Shop
from purvel.space.chains import chains
from purvel.space.ground import footprint
from purvel.space.setout import CORNERS, set_out
from purvel.space.shell import shell
from tests.conftest import box_room

SVG = "{http://www.w3.org/2000/svg}"


@pytest.mark.parametrize("name", NAMES)
def test_the_plan_is_sound_svg_with_every_wall_named(qapp: QApplication, tmp_path: Path, name: str) -> None:
    shop = loads(demo_bytes(name)).shop
    path = tmp_path / "plan.svg"
    write(Document(shop), path)
    root = ET.parse(path).getroot()
    assert root.tag == f"{SVG}svg"
    words = " ".join(text.text or "" for text in root.iter(f"{SVG}text"))
    for wall in shop.room.walls:
        assert f"{wall.id}  " in words or f"{wall.id} " in words
    renderer = QSvgRenderer(str(path))
    assert renderer.isValid()
    image = QImage(600, 600, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFF)
    painter = QPainter(image)
    renderer.render(painter, QRectF(0, 0, 600, 600))
    painter.end()
    dark = sum(image.pixelColor(x, y).lightness() < 100 for x in range(0, 600, 3) for y in range(0, 600, 3))
    assert dark > 200  # the walls at least


def test_the_binder_has_a_page_for_each_plan_and_more_for_the_words(
    qapp: QApplication, tmp_path: Path
) -> None:
    path = tmp_path / "binder.pdf"
    write(loads(demo_bytes("garage")), path)
    data = path.read_bytes()
    assert data.startswith(b"%PDF") and data.rstrip().endswith(b"%%EOF")
    assert data.count(b"/Type /Page\n") + data.count(b"/Type /Page ") + data.count(b"/Type/Page/") >= 4


def test_the_binders_words_are_the_reviews(qapp: QApplication) -> None:
    checked = review(loads(demo_bytes("garage")).shop)
    words = html.unescape(binder_text(checked))
    say = Figures(checked.shop.units)
    for one in checked.findings:
        if one.grade < Grade.GOOD:
            assert one.grade.word in words and one.sentence.split("“")[0][:20] in words
    for one in checked.answers.of(PlaceAnswers).lanes.values():
        assert say.length(one.longest_board) in words


def test_parts_add_up_to_the_pipe_as_it_lies_and_the_hose_stretched() -> None:
    for name in NAMES:
        shop = loads(demo_bytes(name)).shop
        rows = list(csv.DictReader(io.StringIO(parts_csv(shop))))
        paths = run_paths(shop.ducts, shop.things)
        laid = sum(float(row["amount"]) for row in rows if row["unit"] == "m")
        stretched = {run.id: 1 - run.slack if "hose" in run.material else 1.0 for run in shop.ducts.runs}
        bought = sum(length_of(paths[run]) / share for run, share in stretched.items())
        assert laid == pytest.approx(bought, abs=0.01 * len(shop.ducts.runs))
        gates = sum(int(row["amount"]) for row in rows if row["part"] == "Gate")
        assert gates == sum(len(run.gates) for run in shop.ducts.runs)
        branches = sum(int(row["amount"]) for row in rows if row["part"].startswith("Branch fitting"))
        assert branches == sum(run.joins is not None and run.joins.at is not None for run in shop.ducts.runs)


def test_the_binder_has_what_is_marked_on_the_floor_and_bought(qapp: QApplication) -> None:
    for name in ("garage", "spare-room-mended"):
        shop = loads(demo_bytes(name)).shop
        words, say = html.unescape(binder_text(review(shop))), Figures(shop.units)
        for row in list(csv.reader(io.StringIO(setout_csv(shop))))[1:]:
            mark = f"<td>{row[0]}</td><td>{row[1]}</td><td>{row[2]}: "
            assert mark in words
            told = words.split(mark)[1].split("</td>")[0]
            assert parse_length(told, shop.units) * 1000 == pytest.approx(float(row[3]), abs=1.5), row
        for row in list(csv.reader(io.StringIO(parts_csv(shop))))[1:]:
            before = f"<td>{row[0]}</td><td>{row[1]}</td><td>{say.size(float(row[2]) / 1000)}</td><td>"
            told = words.split(before)[1].split("</td>")[0]
            if row[3] == "m":
                assert parse_length(told, shop.units) == pytest.approx(float(row[4]), abs=0.007), row
            else:
                assert told == row[4], row


def test_the_set_out_gives_one_corner_two_walls_and_true_distances() -> None:
    shop = loads(demo_bytes("garage-mended")).shop
    rows = list(csv.reader(io.StringIO(setout_csv(shop))))[1:]
    items = [*shop.things, *shop.room.fixtures]
    assert len(rows) == len(items) + len(shop.room.openings)
    walls = shell(shop.room).sides
    for row, thing in zip(rows, items):
        _, corner, wall, distance, other, beyond, angle, _, _ = row
        x, y = footprint(thing)[CORNERS.index(corner)]
        for name, far in ((wall, distance), (other, beyond)):
            side = walls[name]
            outward = (side.start[0] - x) * side.out[0] + (side.start[1] - y) * side.out[1]
            assert float(far) == pytest.approx(outward * 1000, abs=0.51)
        assert wall != other and float(angle) == pytest.approx(thing.angle % 360, abs=0.06)


def test_the_dxf_reads_back_with_everything_on_its_layer() -> None:
    shop = loads(demo_bytes("garage")).shop
    drawing = ezdxf.read(io.StringIO(plan_dxf(shop)))
    space = drawing.modelspace()
    assert drawing.header["$INSUNITS"] == 4  # millimetres
    assert len(space.query('LWPOLYLINE[layer=="OPENINGS"]')) == len(shop.room.openings)
    assert len(space.query('LWPOLYLINE[layer=="FIXTURES"]')) == len(shop.room.fixtures)
    assert len(space.query('LWPOLYLINE[layer=="LANES"]')) == len(review(shop).answers.of(PlaceAnswers).lanes)
    assert len(space.query('POLYLINE[layer=="DUCTS"]')) == len(shop.ducts.runs)
    gates = [gate for run in shop.ducts.runs for gate in run.gates]
    assert len(space.query('POINT[layer=="GATES"]')) == len(gates) > 0
    told = [one.dxf.text for one in space.query('TEXT[layer=="DUCT-TEXT"]')]
    main = shop.ducts.runs[0]
    level = max(point.z for point in main.points)
    assert any(text.startswith(f"{main.name}: {main.diameter * 1000:.0f}, at ") for text in told)
    assert any(f"at {level * 1000:.0f}" in text for text in told)
    names = {text.dxf.text for text in space.query('TEXT[layer=="THINGS"]')}
    assert names == {thing.name for thing in shop.things}
    outline = space.query('LWPOLYLINE[layer=="THINGS"]')[0].get_points()
    assert [tuple(point[:2]) for point in outline] == [
        pytest.approx(tuple(corner * 1000)) for corner in footprint(shop.things[0])
    ]


def test_the_dxf_has_true_dimensions_and_nothing_to_audit() -> None:
    """What each dimension measures is what the walls, the openings and the set-out say [mm]."""
    shop = loads(demo_bytes("garage-mended")).shop
    drawing = ezdxf.read(io.StringIO(plan_dxf(shop)))
    assert not drawing.audit().errors and not drawing.audit().fixes
    space, room = drawing.modelspace(), shell(shop.room)
    told = sorted(round(one.get_measurement()) for one in space.query('DIMENSION[layer=="DIMENSIONS"]'))
    walls = [side.length for side in room.sides.values()]
    by_openings = [b - a for chain in chains(room) if len(chain.marks) > 2 for a, b in pairwise(chain.marks)]
    assert told == sorted(round(1000 * one) for one in (*walls, *by_openings))
    set_outs = [
        one.distance for thing in shop.things if (mark := set_out(thing, room)) for one in mark.measures
    ]
    told = sorted(round(one.get_measurement()) for one in space.query('DIMENSION[layer=="SETOUT"]'))
    assert told == sorted(round(1000 * one) for one in set_outs if one > 0.005)
    stands = [thing for thing in shop.things if thing.stand is not None]
    assert len(space.query('LWPOLYLINE[layer=="STANDING"]')) == len(stands)


def test_an_empty_shop_and_one_without_ducts_can_be_written(qapp: QApplication, tmp_path: Path) -> None:
    for number, shop in enumerate(
        (Shop(), Shop(room=box_room(4, 3)), replace(loads(demo_bytes("garage")).shop, ducts=Shop().ducts))
    ):
        for name in (
            "plan.svg",
            "binder.pdf",
            "tiles.pdf",
            "cutouts.pdf",
            "parts.csv",
            "setout.csv",
            "plan.dxf",
        ):
            path = tmp_path / f"{number}-{name}"
            write(Document(shop), path)
            assert path.stat().st_size > 0
    assert shell(Shop().room).sides == {}


@pytest.mark.parametrize("name", ["nowhere/plan.svg", "plan.png", "list.csv", "plan"])
def test_what_cannot_be_written_says_why(qapp: QApplication, tmp_path: Path, name: str) -> None:
    with pytest.raises(ExportError) as caught:
        write(Document(Shop()), tmp_path / name)
    assert str(caught.value).endswith(".") and "Error" not in str(caught.value)


@pytest.mark.parametrize("name", ["plan.svg", "binder.pdf", "plan.dxf", "parts.csv"])
def test_on_a_full_disk_it_is_said_and_the_old_sheet_stands(
    qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, name: str
) -> None:
    path = tmp_path / name
    path.write_bytes(b"the old sheet")

    def full(_: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(ExportError, match=f"{name} could not be written: no space left on device"):
        write(loads(demo_bytes("spare-room")), path)
    assert path.read_bytes() == b"the old sheet" and list(tmp_path.iterdir()) == [path]


def test_a_sheet_is_of_the_scene_and_says_so(qapp: QApplication, tmp_path: Path) -> None:
    shop = loads(demo_bytes("garage")).shop
    for scene in (None, "night"):
        write(Document(shop), tmp_path / f"plan-{scene}.svg", scene)
    drawn, night = ((tmp_path / f"plan-{scene}.svg").read_text() for scene in (None, "night"))
    assert (
        "<title>Two-bay garage</title>" in drawn and "<title>Two-bay garage: Night: car in</title>" in night
    )
    assert "a car stands here" in night and "a car stands here" not in drawn
