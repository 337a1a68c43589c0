import io
import json
import time
import zipfile
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.demo import NAMES, demo_bytes
from purvel.files import VERSION, Document, FileError, load, loads, save, saves
from purvel.files.autosave import Origin, Slot, discard, leftovers
from purvel.files.migrations import STEPS
from purvel.files.schema import schema
from purvel.shop import Ducts, Run, Shop


def zipped(**members: bytes | str) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as container:
        for name, content in members.items():
            container.writestr(name.replace("__", "."), content)
    return target.getvalue()


def with_shop(**shop: object) -> bytes:
    return zipped(shop__json=json.dumps({"format": "purvel-shop", "version": VERSION, "shop": shop}))


BOX = {"id": "box", "kind": "box", "width": 1, "depth": 1, "height": 1}
RUN = {"id": "r", "gates": [{"id": "g"}]}


def packed_with(method: int) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", method) as container:
        container.writestr("shop.json", json.dumps({"format": "purvel-shop", "version": VERSION, "shop": {}}))
    return target.getvalue()


def linked() -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as container:
        entry = zipfile.ZipInfo("shop.json")
        entry.external_attr = 0o120777 << 16
        container.writestr(entry, "/etc/passwd")
    return target.getvalue()


def sealed() -> bytes:
    data = bytearray(zipped(shop__json="{}"))
    at = data.rindex(b"PK\x01\x02")
    data[at + 8] |= 1
    return bytes(data)


@pytest.mark.parametrize("name", NAMES)
def test_demos_come_back_whole(name: str) -> None:
    document = loads(demo_bytes(name))
    assert document.shop.things
    assert loads(saves(document)).shop == document.shop
    assert saves(document) == saves(loads(saves(document)))


def test_left_out_fields_take_their_defaults() -> None:
    assert loads(with_shop(name="Bare")).shop == Shop(name="Bare")


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "not a whole shop file"),
        (b"hello", "not a whole shop file"),
        (demo_bytes("garage")[:-200], "not a whole shop file"),
        (zipped(), "no shop.json"),
        (zipped(other__txt="x"), "does not know"),
        (zipped(**{"../shop__json": "x"}), "outside"),
        (zipped(shop__json="{"), "not JSON"),
        (zipped(shop__json="[1]"), "not an object"),
        (zipped(shop__json="[" * 100_000), "deeply"),
        (zipped(shop__json="[" * 500 + "]" * 500), "deeply"),
        (zipped(shop__json="[" * 100 + "]" * 100), "not an object"),
        (zipped(shop__json='{"format": "other", "version": 1}'), "not a shop file"),
        (zipped(shop__json='{"format": "purvel-shop", "version": true}'), "not a shop file"),
        (zipped(shop__json='{"format": "purvel-shop", "version": 99, "shop": {}}'), "newer Purvel"),
        (zipped(shop__json='{"format": "purvel-shop", "version": 0, "shop": {}}'), "never was"),
        (zipped(shop__json=b"\xff\xfe"), "not JSON"),
        (
            zipped(shop__json='{"format": "purvel-shop", "version": 1, "shop": {"hand_room": NaN}}'),
            "not JSON",
        ),
        (
            zipped(shop__json='{"format": "purvel-shop", "version": 1, "shop": {"hand_room": 1e999}}'),
            "not JSON",
        ),
        (with_shop(hand_room=-1), "shop.hand_room"),
        (with_shop(hand_room="wide"), "shop.hand_room"),
        (with_shop(colour="red"), "shop.colour"),
        (with_shop(room={"walls": [{"id": "A", "length": 0}]}), "shop.room.walls[0].length"),
        (
            with_shop(things=[{"id": "x", "kind": "y", "width": 1, "depth": 1, "height": 1, "wheel": True}]),
            "shop.things[0].wheel",
        ),
        (with_shop(ducts={"runs": [{"id": "r", "source": "gone"}]}), "not there"),
        (with_shop(room={"walls": [{"id": "A", "length": 1}] * 2}), "used by 2 walls"),
        (
            with_shop(things=[BOX | {"id": "A"}], room={"walls": [{"id": "A", "length": 1}]}),
            "1 thing and 1 wall",
        ),
        (with_shop(things=[BOX | {"width": 1e-300}]), "shop.things[0].width"),
        (with_shop(things=[BOX | {"ports": [{"id": "p", "chips_flow": 0}]}]), "chips_flow"),
        (with_shop(things=[BOX | {"ports": [{"id": "p", "fine_flow": 0}]}]), "fine_flow"),
        (with_shop(air={"session": {"work": [{"id": "w", "operation": "juggle"}]}}), "juggle"),
        (with_shop(jobs=[{"id": "j", "steps": [{"operation": "juggle"}]}]), "juggle"),
        (with_shop(air={"session": {"work": [{"id": "w", "thing": "gone"}]}}), "not there"),
        (
            with_shop(
                room={
                    "walls": [{"id": "A", "length": 1}],
                    "ceiling": {"slopes": [{"wall": "A", "low": 1, "run": 1}] * 2},
                }
            ),
            "2 sloping ceilings",
        ),
        (
            with_shop(ducts={"runs": [RUN], "gate_sets": [{"id": "s", "open": ["g", "g"]}]}),
            "the gate “g” 2 times",
        ),
        (
            zipped(shop__json='{"format": "purvel-shop", "version": 4, "shop": {"name": "a", "name": "b"}}'),
            "“name” twice",
        ),
        (packed_with(zipfile.ZIP_LZMA), "packed in a way"),
        (packed_with(zipfile.ZIP_BZIP2), "packed in a way"),
        (linked(), "holds a link"),
        (sealed(), "packed in a way"),
    ],
)
def test_bad_files_are_refused_with_a_sentence_that_says_where(data: bytes, says: str) -> None:
    with pytest.raises(FileError) as refused:
        loads(data, "bad.purvel")
    assert says in str(refused.value)
    assert str(refused.value).startswith("bad.purvel")


def test_a_refusal_is_one_short_printable_line() -> None:
    for data in (
        zipped(**{"a\x07\nb" * 4000: "x"}),
        with_shop(**{"colour\x1b[31m" + "r" * 5000: 1}),
        with_shop(ducts={"runs": [{"id": "r", "material": "x" * 60}]}),
        zipped(shop__json='{"format": "purvel-shop", "version": 4, "shop": {"' + "k" * 9000 + '": 1}}'),
    ):
        with pytest.raises(FileError) as refused:
            loads(data, "bad.purvel")
        assert str(refused.value).isprintable() and len(str(refused.value)) <= 310


def test_many_empty_lists_are_refused_at_once() -> None:
    text = b"[" + b"[]," * 10_000_000 + b"[]]"
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as container:
        container.writestr("shop.json", text)
    start = time.process_time()
    with pytest.raises(FileError, match="more items"):
        loads(target.getvalue())
    assert time.process_time() - start < 3.0  # it was 18 s


def test_a_bomb_is_not_unpacked() -> None:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as container:
        container.writestr("shop.json", b" " * (40 * 2**20))
    with pytest.raises(FileError, match="unpacks to more"):
        loads(target.getvalue())


@settings(max_examples=150, deadline=None)
@given(st.integers(0, 10_000), st.binary(min_size=1, max_size=8))
def test_a_damaged_file_is_read_or_refused_never_worse(at: int, noise: bytes) -> None:
    data = bytearray(demo_bytes("spare-room"))
    at %= len(data)
    data[at : at + len(noise)] = noise
    try:
        assert isinstance(loads(bytes(data)).shop, Shop)
    except FileError as refused:
        assert str(refused)


json_values = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(10**6), 10**6)
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text(max_size=8),
    lambda inner: (
        st.lists(inner, max_size=4)
        | st.dictionaries(
            st.sampled_from(["room", "walls", "things", "id", "length", "ducts", "runs", "x"]),
            inner,
            max_size=4,
        )
    ),
    max_leaves=12,
)


@settings(max_examples=150, deadline=None)
@given(json_values)
def test_any_json_is_read_or_refused(value: object) -> None:
    try:
        loads(zipped(shop__json=json.dumps({"format": "purvel-shop", "version": 1, "shop": value})))
    except FileError as refused:
        assert str(refused)


def test_saving_keeps_the_previous_file_and_leaves_no_scraps(tmp_path: Path) -> None:
    path = tmp_path / "mine.purvel"
    save(Document(Shop(name="one")), path)
    save(Document(Shop(name="two")), path)
    assert load(path).shop.name == "two"
    assert load(path.with_name("mine.purvel.bak")).shop.name == "one"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["mine.purvel", "mine.purvel.bak"]


def test_a_save_that_fails_leaves_the_file_as_it_was(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "mine.purvel"
    save(Document(Shop(name="one")), path)

    def full_disk(_: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full_disk)
    with pytest.raises(FileError, match="no space left"):
        save(Document(Shop(name="two")), path)
    assert load(path).shop.name == "one"
    assert [p.name for p in tmp_path.iterdir()] == ["mine.purvel"]


@pytest.mark.parametrize("place", ["missing.purvel", "."])
def test_what_cannot_be_opened_is_said(tmp_path: Path, place: str) -> None:
    with pytest.raises(FileError):
        load(tmp_path / place)


def test_autosave_is_left_by_a_crash_and_not_by_a_living_program(tmp_path: Path) -> None:
    slot = Slot(tmp_path)
    slot.keep(Document(Shop(name="at work")), Origin(Path("/somewhere/shop.purvel"), (1, 2)))
    assert leftovers(tmp_path) == []  # its owner lives
    slot._lock.close()  # what the system does when a program is killed
    (left,) = leftovers(tmp_path)
    assert left.shop.name == "at work" and left.origin == Origin(Path("/somewhere/shop.purvel"), (1, 2))
    discard(left.slot)
    assert leftovers(tmp_path) == [] and list(tmp_path.iterdir()) == []


def test_a_torn_autosave_is_passed_over(tmp_path: Path) -> None:
    slot = Slot(tmp_path)
    slot.keep(Document(Shop(name="at work")), Origin())
    slot.let_go()
    kept = slot.path / "shop.json"
    kept.write_bytes(kept.read_bytes()[:50])
    assert leftovers(tmp_path) == []


def test_every_older_version_has_a_step() -> None:
    assert sorted(STEPS) == list(range(1, VERSION))


def test_the_published_schema_is_the_one_that_reads() -> None:
    published = json.loads((Path(__file__).parents[2] / "docs" / "shop.schema.json").read_text())
    assert published == json.loads(json.dumps(schema()))
    assert published["$defs"]["Thing"]["required"] == ["id", "kind", "width", "depth", "height"]


@pytest.mark.parametrize(
    ("field", "words"), [("material", "made of “cardboard”"), ("elbow", "elbows “cardboard”")]
)
def test_a_duct_of_something_unknown_is_refused(field: str, words: str) -> None:
    run = replace(Run(id="main"), **{field: "cardboard"})
    with pytest.raises(FileError, match=words):
        loads(saves(Document(Shop(ducts=Ducts(runs=(run,))))), "x.purvel")


def test_a_long_refusal_keeps_its_two_ends() -> None:
    said = str(FileError("a" * 200 + "b" * 200 + "c" * 200))
    assert said == "a" * 150 + " … " + "c" * 150
    assert str(FileError("a" * 300)) == "a" * 300


def test_items_are_counted_with_braces_and_brackets_together() -> None:
    many = ",".join(["[]"] * 260_000 + ["{}"] * 260_000)
    text = f'{{"format": "purvel-shop", "version": {VERSION}, "shop": {{"x": [{many}]}}}}'
    with pytest.raises(FileError, match="more items"):
        loads(zipped(**{"shop.json": text}))
