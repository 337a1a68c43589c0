"""Kinds of the user's own: what they say, what comes back, what is refused."""

import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import pytest

from purvel.catalogue import kinds, make_thing
from purvel.files import FileError
from purvel.files.own_kinds import LARGEST, MOST, Library, as_kind, kinds_toml, read_kinds
from purvel.shop import Stock, Thing
from purvel.shop.power import Plate


def own() -> Thing:
    """A saw that stands somewhere, with a board, a plate and an outlet of its own."""
    saw = make_thing("table-saw", "saw-7", 2.0, 3.0, 90.0, name="Grandfather's saw")
    return replace(
        saw,
        width=1.43,
        stock=Stock(length=2.2, width=0.3, thickness=0.03),
        plate=Plate(volts=230),
        outlet="o",
        settled=True,
    )


@pytest.mark.parametrize("key", kinds())
def test_each_kind_of_the_catalogue_comes_back_as_it_went(key: str) -> None:
    thing = as_kind(make_thing(key, "kind-1"))
    assert read_kinds(kinds_toml({"mine": thing}), "f") == {"mine": thing}


def test_a_kind_says_nothing_of_the_place_where_it_stood() -> None:
    text = kinds_toml({"Saw": own()}).decode()
    assert text.startswith("purvel-kinds = 1\n") and "saw-7" not in text
    back = read_kinds(text.encode(), "f")["Saw"]
    assert back == replace(as_kind(own()), id="kind-1")
    assert (back.x, back.angle, back.outlet, back.settled, back.width) == (0.0, 0.0, None, False, 1.43)
    assert back.stock == Stock(length=2.2, width=0.3, thickness=0.03) and back.plate == Plate(volts=230)


def test_the_library_keeps_replaces_and_forgets(tmp_path: Path) -> None:
    library = Library(tmp_path / "deep" / "kinds.toml")
    assert library.kinds() == {}
    library.keep({"Saw": own(), "Planer": make_thing("planer", "p")})
    library.keep({"Saw": replace(own(), width=1.5)})
    assert {name: one.width for name, one in library.kinds().items()} == {"Saw": 1.5, "Planer": 0.6}
    library.forget("Planer")
    library.forget("nobody")
    assert list(library.kinds()) == ["Saw"]


def test_a_library_that_cannot_be_read_is_left_as_it_is(tmp_path: Path) -> None:
    path = tmp_path / "kinds.toml"
    path.write_text("purvel-kinds = 1\n[kinds.Saw")
    library = Library(path)
    for act in (library.kinds, lambda: library.keep({"Saw": own()}), lambda: library.forget("Saw")):
        with pytest.raises(FileError, match="is no TOML"):
            act()
    assert path.read_text() == "purvel-kinds = 1\n[kinds.Saw"
    with pytest.raises(FileError, match="room for"):
        Library(tmp_path / "other.toml").keep({f"kind {k}": own() for k in range(MOST + 1)})


SAYS = 'purvel-kinds = 1\n[kinds.Saw]\nkind = "table-saw"\nwidth = 1.0\ndepth = 1.0\nheight = 1.0\n'


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("", "is no list of kinds"),
        ("a = 1\n", "is no list of kinds"),
        ("purvel-kinds = 2\nkinds = {}\n", "newer Purvel"),
        ("purvel-kinds = 1\nkinds = 3\n", "is no list of kinds"),
        ("purvel-kinds = 1\nkinds.Saw = 3\n", "says nothing of itself"),
        (SAYS.replace("1.0", "-1.0", 1), "“Saw”"),
        (SAYS.replace("width = 1.0", 'width = "wide"'), "“Saw”"),
        (SAYS + "colour = 3\n", "“colour”"),
        (SAYS + "x = 3.0\n", "“x”"),
        (SAYS + "mass = nan\n", "“Saw”"),
        ("purvel-kinds = 1\n[kinds]\n" + "".join(f"k{k} = 1\n" for k in range(MOST + 1)), "more than"),
        ("x" * (LARGEST + 1), "larger than 1 MB"),
        ("\x00", "is no TOML"),
    ],
)
def test_what_is_no_list_of_kinds_is_refused_in_a_sentence(text: str, sentence: str) -> None:
    with pytest.raises(FileError, match=sentence):
        read_kinds(text.encode(), "my.toml")
    assert read_kinds(SAYS.encode(), "my.toml")["Saw"].height == 1.0


def test_what_cannot_be_read_or_written_is_said_in_a_sentence(tmp_path: Path) -> None:
    there = Library(tmp_path)  # a folder is no file
    with pytest.raises(FileError, match="Your own kinds cannot be read: is a directory"):
        there.kinds()
    library = Library(tmp_path / "kinds.toml")
    with pytest.raises(FileError, match=r"none.toml cannot be read: no such file"):
        library.take_in(tmp_path / "none.toml")
    with pytest.raises(FileError, match=f"{tmp_path.name} cannot be written: "):
        library.write_out(tmp_path)
    (tmp_path / "in").write_text("a file where a folder should be")
    with pytest.raises(FileError, match="Your own kinds cannot be kept: "):
        Library(tmp_path / "in" / "deep" / "kinds.toml")._write({})


def test_the_command_takes_in_lists_and_writes_out(tmp_path: Path) -> None:
    given, out = tmp_path / "given.toml", tmp_path / "out.toml"
    given.write_text(SAYS)

    def run(*words: str) -> tuple[int, str, str]:
        done = subprocess.run(
            [sys.executable, "-m", "purvel", "kinds", *words],
            capture_output=True, text=True, check=False, env={"XDG_DATA_HOME": str(tmp_path), "PATH": "/usr/bin"},
        )  # fmt: skip
        return done.returncode, done.stdout, done.stderr

    assert "no kinds of your own yet" in run()[1]
    assert run("--take-in", str(given), "--write-out", str(out))[1] == "Saw: 1.000 by 1.000 m, 1.000 m high\n"
    assert read_kinds(out.read_bytes(), "out") == read_kinds(SAYS.encode(), "given")
    given.write_text("rubbish = [")
    code, _, err = run("--take-in", str(given))
    assert code == 2 and err.count("\n") == 1 and "is no TOML" in err
    assert run("--take-in", str(tmp_path / "none.toml"))[0] == 2
    assert "Saw" in run()[1]
