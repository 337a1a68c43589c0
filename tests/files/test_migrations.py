"""Files of older versions open as what they were, and what is wrong in them is said as in new ones."""

import fcntl
import io
import json
import zipfile
from pathlib import Path
from typing import Any

import pytest

from purvel.demo import NAMES, demo_bytes
from purvel.files import VERSION, FileError, load, loads, save
from purvel.files.autosave import Origin, discard, leftovers
from purvel.files.migrations import migrate

SAMPLES = Path(__file__).parent / "v1"


def old(**shop: Any) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as container:
        container.writestr("shop.json", json.dumps({"format": "purvel-shop", "version": 1, "shop": shop}))
    return target.getvalue()


@pytest.mark.parametrize("name", NAMES)
def test_a_file_of_version_1_opens_as_what_it_was(name: str, tmp_path: Path) -> None:
    was, now = load(SAMPLES / f"{name}.purvel").shop, loads(demo_bytes(name)).shop
    assert (was.name, was.room, was.things, was.ducts, was.air) == (
        now.name, now.room, now.things, now.ducts, now.air
    )  # fmt: skip
    assert was.scenes == () and was.attachments == ()
    save(load(SAMPLES / f"{name}.purvel"), tmp_path / "new.purvel")
    with zipfile.ZipFile(tmp_path / "new.purvel") as container:
        text = json.loads(container.read("shop.json"))
    assert text["version"] == VERSION and load(tmp_path / "new.purvel").shop == was


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
