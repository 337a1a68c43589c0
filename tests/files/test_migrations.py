"""Files of older versions open as what they were, and what is wrong in them is said as in new ones."""

import fcntl
import io
import json
import zipfile
from collections.abc import Iterator
from dataclasses import replace
from math import pi
from pathlib import Path
from typing import Any

import msgspec
import pytest

from purvel.files import VERSION, Document, FileError, load, loads, save, saves
from purvel.files.autosave import Origin, discard, leftovers
from purvel.files.migrations import STEPS, migrate
from purvel.shop import Air, Room

SAMPLES = Path(__file__).parent / "v1"
NAMES_THEN = ("garage", "garage-mended", "spare-room", "spare-room-mended")
SAMPLES_2 = Path(__file__).parent / "v2"
SAMPLES_3 = Path(__file__).parent / "v3"
LATER = [Path(__file__).parent / version for version in ("v4", "v5")]


def made(version: int, shop: dict[str, Any]) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as container:
        container.writestr(
            "shop.json", json.dumps({"format": "purvel-shop", "version": version, "shop": shop})
        )
    return target.getvalue()


def old(**shop: Any) -> bytes:
    return made(1, shop)


def bare(room: Room) -> Room:
    """A room without its studs, which came with version 3."""
    return replace(room, walls=tuple(replace(wall, stud_spacing=0.0, first_stud=0.0) for wall in room.walls))


def unmarked(air: Air) -> Air:
    """The air without the stretches of logs, which came with version 3."""
    return replace(air, stretches=())


@pytest.mark.parametrize("name", NAMES_THEN)
def test_a_file_of_version_1_opens_as_what_it_was(name: str, tmp_path: Path) -> None:
    was, now = load(SAMPLES / f"{name}.purvel").shop, load(SAMPLES_3 / f"{name}.purvel").shop
    assert (was.name, bare(was.room), was.things, was.ducts, was.air) == (
        now.name, bare(now.room), now.things, now.ducts, unmarked(now.air)
    )  # fmt: skip
    assert was.scenes == () and was.attachments == ()
    save(load(SAMPLES / f"{name}.purvel"), tmp_path / "new.purvel")
    with zipfile.ZipFile(tmp_path / "new.purvel") as container:
        text = json.loads(container.read("shop.json"))
    assert text["version"] == VERSION and load(tmp_path / "new.purvel").shop == was


@pytest.mark.parametrize("name", NAMES_THEN)
def test_a_file_of_version_2_opens_as_what_it_was(name: str) -> None:
    was, now = load(SAMPLES_2 / f"{name}.purvel").shop, load(SAMPLES_3 / f"{name}.purvel").shop
    assert (was.name, bare(was.room), was.things, was.ducts, was.air, was.scenes) == (
        now.name, bare(now.room), now.things, now.ducts, unmarked(now.air), now.scenes
    )  # fmt: skip
    assert was.jobs == ()


def test_lengths_keep_how_they_were_got() -> None:
    walls = [{"id": name, "length": 3.0, "how": how} for name, how in (("A", "paced"), ("B", "measured"))]
    thing = {"id": "saw", "kind": "table-saw", "width": 1, "depth": 1, "height": 1, "how": "paced"}
    shop = loads(old(room={"walls": walls}, things=[thing])).shop
    assert [wall.provenance for wall in shop.room.walls] == ["paced", "measured"]
    assert shop.things[0].provenance == "paced"


def test_work_at_a_thing_that_was_gone_is_work_at_no_thing() -> None:
    spell = {"id": "s1", "operation": "planer", "start": 5, "minutes": 10, "thing": "gone"}
    (work,) = loads(old(air={"session": {"minutes": 60, "spells": [spell]}})).shop.air.session.work
    assert (work.id, work.thing, work.start, work.minutes) == ("s1", None, 5, 10)


@pytest.mark.parametrize(
    ("shop", "says"),
    [
        ({"room": {"walls": [{"id": "A", "length": 1, "how": "dreamt"}]}}, "shop.room.walls[0].provenance"),
        ({"hand_room": -1}, "shop.hand_room"),
        ({"air": {"session": {"spells": 3}}}, "shop.air.session.work"),
        ({"air": {"session": {"spells": [7]}}}, "shop.air.session.work[0]"),
        ({"air": 5}, "shop.air"),
        ({"things": "none"}, "shop.things"),
        ({"colour": "red"}, "shop.colour"),
        ({"room": {"walls": [{"id": "A", "length": 1, "provenance": "paced", "why": 1}]}}, "walls[0].why"),
    ],
)
def test_what_is_wrong_in_an_old_file_is_said_as_in_a_new_one(shop: dict[str, Any], says: str) -> None:
    with pytest.raises(FileError) as refused:
        loads(old(**shop), "old.purvel")
    assert str(refused.value).startswith("old.purvel") and says in str(refused.value)


def test_a_migration_leaves_what_it_was_given_as_it_was() -> None:
    spell = {"id": "s1", "operation": "planer", "start": 5, "minutes": 10, "thing": "gone"}
    document = {"version": 1, "shop": {"air": {"session": {"spells": [spell]}}, "things": []}}
    before = json.dumps(document)
    assert migrate(document, 1, VERSION)["version"] == VERSION
    assert json.dumps(document) == before


def test_work_that_the_first_version_kept_is_offered(tmp_path: Path) -> None:
    """A slot was a file then, with its lock and its origin beside it."""
    kept = tmp_path / "0123.purvel"
    kept.write_bytes((SAMPLES / "garage.purvel").read_bytes())
    kept.with_suffix(".origin").write_text("/somewhere/garage.purvel")
    with kept.with_suffix(".lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        assert leftovers(tmp_path) == []  # its owner lives
    (left,) = leftovers(tmp_path)
    assert (left.shop.name, left.origin) == ("Two-bay garage", Origin())
    discard(left.slot)
    assert not kept.exists() and leftovers(tmp_path) == []


@pytest.mark.parametrize("name", [path.stem for path in sorted(SAMPLES_3.glob("*.purvel"))])
def test_a_file_of_version_3_opens_as_what_it_was(name: str) -> None:
    """All that it says is there, but for what version 4 says otherwise."""
    path = SAMPLES_3 / f"{name}.purvel"
    with zipfile.ZipFile(path) as container:
        raw = json.loads(container.read("shop.json"))["shop"]
    was = load(path)
    changed = set(differing(raw, msgspec.to_builtins(was.shop), ""))
    ids = {"upkeep.cuts.parts.id"} if name == "spare-room-mended" else set()
    vacs = {"things.source.filter"} if any("vac" in thing["id"] for thing in raw["things"]) else set()
    assert changed == {"ducts.leak_area"} | ids | vacs
    assert bool(was.said) == bool(ids) and len(was.named()) == len(was.shop.attachments)


@pytest.mark.parametrize(
    "path", [path for folder in LATER for path in sorted(folder.glob("*.purvel"))], ids=str
)
def test_a_later_file_opens_as_what_it_was(path: Path) -> None:
    with zipfile.ZipFile(path) as container:
        document = json.loads(container.read("shop.json"))
    was = load(path)
    assert document["version"] == int(path.parent.name[1:]) and not was.said
    assert set(differing(document["shop"], msgspec.to_builtins(was.shop), "")) == set()


def test_saws_of_a_file_of_version_5_throw_back() -> None:
    box = {"width": 1, "depth": 1, "height": 1, "work_height": 1}
    feeds = {
        "planer": {}, "own-saw": {"sheets": True}, "bandsaw": {}, "mitre-saw": {"how": "across"}
    }  # fmt: skip
    things = [box | {"id": kind, "kind": kind, "feed": feed} for kind, feed in feeds.items()]
    shop = loads(made(5, {"things": [*things, box | {"id": "b", "kind": "bench"}]})).shop
    throwing = {thing.id for thing in shop.things if thing.feed is not None and thing.feed.throws}
    assert throwing == {"planer", "own-saw"} and len(shop.things) == 5


def differing(raw: Any, read: Any, where: str) -> Iterator[str]:
    """Where a file says something that was not read so."""
    if isinstance(raw, dict) and isinstance(read, dict):
        for key, value in raw.items():
            yield from differing(value, read.get(key), f"{where}.{key}".strip("."))
    elif isinstance(raw, list) and isinstance(read, list | tuple) and len(raw) == len(read):
        for one, other in zip(raw, read):
            yield from differing(one, other, where)
    elif raw != read:
        yield where


def test_gates_vacs_and_ports_of_version_3_mean_what_they_meant() -> None:
    port = {"id": "p", "diameter": 0.1}
    source = {
        "kind": "vac",
        "curve": [{"flow": 0, "pressure": 15000}, {"flow": 0.07, "pressure": 0}],
        "filter": {"area": 0.4, "resistance": 15000},
    }
    sizes = {"width": 1, "depth": 1, "height": 1}
    things = [
        sizes | {"id": "saw", "kind": "table-saw", "ports": [port]},
        sizes | {"id": "planer", "kind": "planer", "ports": [port]},
        sizes | {"id": "vac", "kind": "vac", "source": source},
        sizes | {"id": "own", "kind": "vac", "source": source | {"curve_from": "maker"}},
        sizes | {"id": "fan", "kind": "collector", "source": source | {"kind": "collector"}},
    ]
    runs = [
        {"id": "r", "diameter": 0.1, "gates": [{"id": "g"}]},
        {"id": "s", "diameter": 0.2, "gates": [{"id": "h"}]},
        {"id": "t", "diameter": 0.5},
    ]
    was = loads(made(3, {"things": things, "ducts": {"runs": runs, "leak_area": 1e-4}})).shop
    assert was.ducts.gate_gap == pytest.approx(1e-4 / (pi * 0.15))
    assert [thing.ports[0].carries for thing in was.things[:2]] == ["dust", "chips"]
    filters = [thing.source.filter is not None for thing in was.things if thing.source is not None]
    assert filters == [False, True, True]
    assert loads(made(3, {"ducts": {"leak_area": 0.009}})).shop.ducts.gate_gap == 0.005
    with pytest.raises(FileError, match="gate_gap"):
        loads(made(3, {"ducts": {"leak_area": "wide"}}))


def test_items_of_one_id_are_told_apart_and_what_refers_to_them_follows() -> None:
    """An opening and a part to cut, both called “door”, in a file of version 3."""
    was = load(SAMPLES_3 / "spare-room-mended.purvel")
    assert was.said == "Two things had one id: the cut part “door” is now “door-2”."
    assert [one.id for one in was.shop.room.openings if one.kind == "swing"] == ["door"]
    assert "door-2" in {part.id for part in was.shop.upkeep.cuts.parts}
    box = {"kind": "box", "width": 1, "depth": 1, "height": 1}
    shop = {
        "things": [box | {"id": "x"}, box | {"id": "y", "ports": [{"id": "p"}]}],
        "ducts": {
            "runs": [
                {"id": "x", "gates": [{"id": "y"}]},
                {"id": "r", "joins": {"run": "x"}, "port": {"thing": "y", "port": "p"}},
            ],
            "gate_sets": [{"id": "s", "open": ["y"]}],
        },
        "jobs": [{"id": "j", "comes_from": "x", "steps": [{"operation": "rip", "station": "x"}]}],
    }
    told = loads(made(3, shop))
    runs = {run.id: run for run in told.shop.ducts.runs}
    assert set(runs) == {"x-2", "r"} and runs["r"].joins is not None and runs["r"].joins.run == "x-2"
    assert runs["r"].port is not None and runs["r"].port.thing == "y"
    assert runs["x-2"].gates[0].id == "y-2" and told.shop.ducts.gate_sets[0].open == ("y-2",)
    assert told.shop.jobs[0].comes_from == "x" and told.shop.jobs[0].steps[0].station == "x"
    assert "the run “x” is now “x-2”" in told.said and "the gate “y” is now “y-2”" in told.said
    assert loads(saves(told)).said == "" and loads(saves(told)).shop == told.shop
    with pytest.raises(FileError, match="used by 1 thing and 1 run"):
        loads(made(VERSION, shop))
    twice = {"things": [box | {"id": "x"}, box | {"id": "x"}]}
    with pytest.raises(FileError, match="used by 2 things"):
        loads(made(3, twice))


def test_names_of_an_older_file_are_put_on_one_line_and_new_ones_refused() -> None:
    named = {"name": "Saw\x00 <b>\nline\x85\u2028end", "notes": "two\nlines"}
    shop = loads(made(3, named)).shop
    assert shop.name == "Saw <b> line end" and shop.notes == "two\nlines"
    assert shop == loads(saves(Document(shop))).shop
    with pytest.raises(FileError, match="bad value"):
        loads(made(VERSION, named))


def test_every_version_has_its_step() -> None:
    assert sorted(STEPS) == list(range(1, VERSION))
    for version in STEPS:
        assert migrate({"version": version, "shop": {}}, version, VERSION)["version"] == VERSION
