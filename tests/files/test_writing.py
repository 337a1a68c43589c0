"""Writing whole or not at all, whatever the place is: modes, links, long and strange names, scraps of the
dead.
"""

import os
import stat
from pathlib import Path

import pytest

from purvel.files import Document, load, save
from purvel.files.autosave import Origin, Slot, leftovers
from purvel.files.stamp import stamp_of
from purvel.files.writing import PART, backup_of, clear_left_behind, write_whole
from purvel.shop import Shop


def mode(path: Path) -> int:
    return stat.S_IMODE(path.stat().st_mode)


def names(folder: Path) -> list[str]:
    return sorted(path.name for path in folder.iterdir())


@pytest.mark.parametrize("wanted", [0o600, 0o640, 0o664])
def test_the_mode_stays_also_that_of_the_backup(tmp_path: Path, wanted: int) -> None:
    path = tmp_path / "mine"
    path.write_bytes(b"old")
    path.chmod(wanted)
    write_whole(path, b"new", backup=True)
    assert path.read_bytes() == b"new" and backup_of(path).read_bytes() == b"old"
    assert (mode(path), mode(backup_of(path))) == (wanted, wanted)


def test_a_new_file_has_the_mode_that_the_user_gives_files(tmp_path: Path) -> None:
    before = os.umask(0o027)
    try:
        write_whole(tmp_path / "mine", b"new")
    finally:
        os.umask(before)
    assert mode(tmp_path / "mine") == 0o640 and names(tmp_path) == ["mine"]


def test_a_symbolic_link_stays_one_and_what_it_leads_to_is_written(tmp_path: Path) -> None:
    (tmp_path / "far").mkdir()
    real, link = tmp_path / "far" / "real", tmp_path / "link"
    real.write_bytes(b"old")
    link.symlink_to(real)
    write_whole(link, b"new", backup=True)
    assert link.is_symlink() and real.read_bytes() == b"new"
    assert names(tmp_path / "far") == ["real", "real.bak"] and names(tmp_path) == ["far", "link"]


def test_a_link_to_nothing_yet_makes_what_it_leads_to(tmp_path: Path) -> None:
    link = tmp_path / "link"
    link.symlink_to(tmp_path / "real")
    write_whole(link, b"new")
    assert link.is_symlink() and (tmp_path / "real").read_bytes() == b"new"


def test_a_file_of_two_names_keeps_both(tmp_path: Path) -> None:
    path, twin = tmp_path / "mine", tmp_path / "twin"
    path.write_bytes(b"a longer old text")
    os.link(path, twin)
    write_whole(path, b"new", backup=True)
    assert (path.read_bytes(), twin.read_bytes()) == (b"new", b"new")
    assert path.stat().st_ino == twin.stat().st_ino and backup_of(path).read_bytes() == b"a longer old text"
    assert names(tmp_path) == ["mine", "mine.bak", "twin"]


def test_a_backup_that_is_a_link_is_replaced_not_followed(tmp_path: Path) -> None:
    path, other = tmp_path / "mine", tmp_path / "precious"
    path.write_bytes(b"old")
    other.write_bytes(b"not ours")
    backup_of(path).symlink_to(other)
    write_whole(path, b"new", backup=True)
    assert other.read_bytes() == b"not ours" and not backup_of(path).is_symlink()
    assert backup_of(path).read_bytes() == b"old"


@pytest.mark.parametrize(
    "name",
    ["x" * 248 + ".p", "ä" * 124 + ".p", os.fsdecode(b"b\xe4nk.purvel")],
    ids=["long", "wide", "latin"],
)
def test_long_and_strange_names_are_saved_backed_up_and_kept(tmp_path: Path, name: str) -> None:
    place, slots = tmp_path / "files", tmp_path / "slots"
    place.mkdir()
    save(Document(Shop(name="one")), place / name)
    save(Document(Shop(name="two")), place / name)
    assert load(place / name).shop.name == "two" and load(backup_of(place / name)).shop.name == "one"
    assert len(list(place.iterdir())) == 2
    slot = Slot(slots)
    slot.keep(Document(Shop(name="kept")), Origin(place / name, stamp_of(place / name)))
    slot.let_go()
    (left,) = leftovers(slots)
    assert left.origin == Origin(place / name, stamp_of(place / name)) and left.shop.name == "kept"


def dead_process() -> int:
    child = os.fork()
    if child == 0:
        os._exit(0)
    os.waitpid(child, 0)
    return child


def test_scraps_of_the_dead_are_cleared_and_those_of_the_living_stay(tmp_path: Path) -> None:
    write_whole(tmp_path / "mine", b"x")
    host = "".join(letter for letter in os.uname().nodename if letter.isalnum())[:24] or "here"
    dead, alive = (tmp_path / f".{host}-{process}-1{PART}" for process in (dead_process(), os.getppid()))
    elsewhere, strange = tmp_path / f".otherhost-1-1{PART}", tmp_path / f".{host}-abc-1{PART}"
    for scrap in (dead, alive, elsewhere, strange):
        scrap.write_bytes(b"half")
    clear_left_behind(tmp_path)
    assert names(tmp_path) == sorted([alive.name, elsewhere.name, strange.name, "mine"])
    dead.write_bytes(b"half")
    write_whole(tmp_path / "mine", b"y")
    assert not dead.exists() and alive.exists()


def test_dead_slots_without_work_are_cleared_and_those_with_work_stay(tmp_path: Path) -> None:
    empty, full, living = tmp_path / "empty", tmp_path / "full", Slot(tmp_path)
    for folder in (empty, full):
        folder.mkdir()
        (folder / "lock").write_text("")
    (full / "shop.json").write_text("{")
    Slot(tmp_path).close()
    assert not empty.exists() and full.exists() and living.path.exists()
    (full / "lock").chmod(0o000)
    assert leftovers(tmp_path) == []  # its work cannot be read; nothing is raised
    living.close()


@pytest.mark.parametrize("step", ["os.fsync", "pathlib.Path.replace", "os.fchmod"])
def test_where_writing_fails_the_old_file_stands_and_no_scrap_is_left(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, step: str
) -> None:
    path = tmp_path / "mine"
    path.write_bytes(b"old")

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(step, full)
    with pytest.raises(OSError, match="No space"):
        write_whole(path, b"new", backup=True)
    monkeypatch.undo()
    assert path.read_bytes() == b"old" and not any(PART in name for name in names(tmp_path))


def test_a_stamp_tells_another_writing(tmp_path: Path) -> None:
    path = tmp_path / "mine"
    assert stamp_of(path) is None and stamp_of(Path("a\0b")) is None
    write_whole(path, b"one")
    first = stamp_of(path)
    assert first is not None and first == stamp_of(path) and first[1] == 3
    os.utime(path, ns=(first[0], first[0] + 1))
    assert stamp_of(path) != first


def test_of_what_crashes_left_the_newest_comes_first(tmp_path: Path) -> None:
    for age, name in ((30, "older"), (10, "newest"), (50, "oldest")):
        slot = Slot(tmp_path)
        slot.keep(Document(Shop(name=name)), Origin())
        slot._lock.close()
        os.utime(slot.path / "shop.json", (1e9 - age, 1e9 - age))
    assert [left.shop.name for left in leftovers(tmp_path)] == ["newest", "older", "oldest"]


def test_a_backup_s_name_is_never_longer_than_names_may_be() -> None:
    assert backup_of(Path("/a/shop.purvel")) == Path("/a/shop.purvel.bak")
    assert backup_of(Path("x" * 251)).name == "x" * 251 + ".bak"
    assert backup_of(Path("x" * 255)).name == "x" * 251 + ".bak"
