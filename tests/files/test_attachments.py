"""Attachments go with the document, whole and once, and the slot writes only what is not there yet."""

import io
import json
import zipfile
from dataclasses import replace
from hashlib import sha256
from pathlib import Path

import pytest

from purvel.demo import demo_bytes
from purvel.files import Document, FileError, load, loads, save, saves
from purvel.files import document as documents
from purvel.files.autosave import Origin, Slot, leftovers
from purvel.files.document import AttachmentError, attached
from purvel.shop import Attachment, Shop
from purvel.shop.edits import remove

LOG = b"minute,dust\n0,0.02\n1,0.31\n"
SPARE_ROOM = loads(demo_bytes("spare-room")).shop
BARE = replace(SPARE_ROOM, attachments=(), air=replace(SPARE_ROOM.air, stretches=()))
DOCUMENT = attached(attached(Document(BARE), "day.csv", LOG, "log"), "note.txt", b"note")


def packed(shop: Shop, **blobs: bytes) -> bytes:
    """A container with a shop's text and parts that need not fit it."""
    text = loads_text(saves(Document(replace(shop, attachments=()))))
    text["shop"]["attachments"] = [
        {"id": one.id, "name": one.name, "kind": one.kind, "sha256": one.sha256} for one in shop.attachments
    ]
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as container:
        container.writestr("shop.json", json.dumps(text))
        for digest, data in blobs.items():
            container.writestr(f"attachments/{digest}", data)
    return target.getvalue()


def loads_text(data: bytes) -> dict[str, dict[str, object]]:
    with zipfile.ZipFile(io.BytesIO(data)) as container:
        text: dict[str, dict[str, object]] = json.loads(container.read("shop.json"))
    return text


def test_attachments_come_back_whole(tmp_path: Path) -> None:
    save(DOCUMENT, tmp_path / "shop.purvel")
    again = load(tmp_path / "shop.purvel")
    assert again.shop == DOCUMENT.shop and again.named() == DOCUMENT.named()
    log, note = again.shop.attachments
    assert (log.name, log.kind, log.sha256) == ("day.csv", "log", sha256(LOG).hexdigest())
    assert again.blobs[log.sha256] == LOG and again.blobs[note.sha256] == b"note"
    assert saves(again) == saves(DOCUMENT)


def test_equal_bytes_are_kept_once_and_ids_differ() -> None:
    twice = attached(DOCUMENT, "copy.csv", LOG)
    assert len(twice.shop.attachments) == 3 and len(twice.named()) == 2
    assert len({one.id for one in twice.shop.attachments}) == 3
    assert loads(saves(twice)).shop == twice.shop


def test_what_is_taken_away_is_not_written_but_undo_has_it(tmp_path: Path) -> None:
    less = replace(DOCUMENT, shop=remove(DOCUMENT.shop, DOCUMENT.shop.attachments[0].id))
    assert sorted(less.named().values()) == [b"note"] and len(less.blobs) == 2
    assert list(loads(saves(less)).blobs.values()) == [b"note"]


def test_a_missing_a_damaged_and_a_surplus_one_are_refused() -> None:
    digest, other = sha256(LOG).hexdigest(), sha256(b"x").hexdigest()
    shop = Shop(attachments=(Attachment(id="log", name="day.csv", kind="log", sha256=digest),))
    assert loads(packed(shop, **{digest: LOG})).blobs == {digest: LOG}
    for blobs, says in (
        ({}, "the attachment “day.csv” is missing"),
        ({digest: LOG[:-1]}, "the attachment “day.csv” is not what was attached"),
        ({digest: LOG, other: b"x"}, "does not name"),
    ):
        with pytest.raises(FileError, match=says):
            loads(packed(shop, **blobs), "x.purvel")


@pytest.mark.parametrize(
    "part", ["attachments/../shop.json", "attachments/readme", "attachments/" + "A" * 64, "other/" + "a" * 64]
)
def test_parts_that_are_no_attachments_are_refused(part: str) -> None:
    target = io.BytesIO(saves(Document(Shop())))
    with zipfile.ZipFile(target, "a") as container:
        container.writestr(part, b"x")
    with pytest.raises(FileError):
        loads(target.getvalue())


def test_bounds_hold_when_attaching_and_when_reading(monkeypatch: pytest.MonkeyPatch) -> None:
    full = Document(Shop())
    for number in range(documents.MOST):
        full = attached(full, f"{number}", b"%d" % number)
    with pytest.raises(AttachmentError, match="at most 64"):
        attached(full, "one more", b"x")
    monkeypatch.setattr(documents, "LARGEST", 100)
    with pytest.raises(AttachmentError, match="“big” is larger"):
        attached(DOCUMENT, "big", bytes(101))
    assert attached(DOCUMENT, "just", bytes(100)).shop.attachments[-1].name == "just"
    monkeypatch.setattr(documents, "LARGEST_TOGETHER", 150)
    with pytest.raises(AttachmentError, match="together"):
        attached(attached(DOCUMENT, "a", bytes(90)), "b", bytes(range(60)))
    assert (
        len(attached(attached(DOCUMENT, "a", bytes(90)), "b", bytes(90)).shop.attachments) == 4
    )  # the same bytes


def test_a_file_with_more_parts_than_a_shop_file_has_is_refused() -> None:
    full = Document(Shop())
    for number in range(documents.MOST):
        full = attached(full, f"{number}", b"%d" % number)
    assert len(loads(saves(full)).blobs) == documents.MOST
    target = io.BytesIO(saves(full))
    with zipfile.ZipFile(target, "a") as container:
        container.writestr("attachments/" + "0" * 64, b"x")
    with pytest.raises(FileError, match=f"holds {documents.MOST + 2} parts"):
        loads(target.getvalue())


def test_a_part_that_is_there_twice_is_refused() -> None:
    target = io.BytesIO(saves(DOCUMENT))
    part = f"attachments/{DOCUMENT.shop.attachments[0].sha256}"
    with zipfile.ZipFile(target, "a") as container, pytest.warns(UserWarning, match="Duplicate"):
        container.writestr(part, LOG)
    with pytest.raises(FileError, match="more than once"):
        loads(target.getvalue())


def test_the_bound_of_all_attachments_does_not_count_the_text(monkeypatch: pytest.MonkeyPatch) -> None:
    together = sum(len(blob) for blob in DOCUMENT.named().values())
    monkeypatch.setattr("purvel.files.container.LARGEST_TOGETHER", together)
    assert loads(saves(DOCUMENT)).shop == DOCUMENT.shop  # its text alone is longer
    monkeypatch.setattr("purvel.files.container.LARGEST_TOGETHER", together - 1)
    with pytest.raises(FileError, match="attachments that unpack to more"):
        loads(saves(DOCUMENT))


def test_an_attachment_that_unpacks_to_too_much_is_not_unpacked(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("purvel.files.container.LARGEST", 10)
    with pytest.raises(FileError, match="attachment that unpacks to more"):
        loads(saves(DOCUMENT))
    monkeypatch.undo()
    monkeypatch.setattr("purvel.files.container.LARGEST_TOGETHER", 20)
    with pytest.raises(FileError, match="attachments that unpack to more"):
        loads(saves(DOCUMENT))


def test_the_slot_writes_an_attachment_once_and_brings_it_back(tmp_path: Path) -> None:
    slot = Slot(tmp_path)
    slot.keep(DOCUMENT, Origin())
    before = {path.name: path.stat().st_mtime_ns for path in (slot.path / "attachments").iterdir()}
    assert set(before) == set(DOCUMENT.named())
    slot.keep(replace(DOCUMENT, shop=replace(DOCUMENT.shop, name="Changed")), Origin())
    assert {path.name: path.stat().st_mtime_ns for path in (slot.path / "attachments").iterdir()} == before
    slot.let_go()
    (left,) = leftovers(tmp_path)
    assert left.shop.name == "Changed" and left.document.named() == DOCUMENT.named()


def test_kept_work_whose_attachment_is_damaged_is_left_where_it_is(tmp_path: Path) -> None:
    slot = Slot(tmp_path)
    slot.keep(DOCUMENT, Origin())
    slot.let_go()
    next((slot.path / "attachments").iterdir()).write_bytes(b"other")
    assert leftovers(tmp_path) == [] and (slot.path / "shop.json").exists()
    Slot(tmp_path).close()  # another start clears only what holds no work
    assert (slot.path / "shop.json").exists()
