"""Opening, saving and recovering: whatever happens, no work is lost."""

from pathlib import Path

import pytest
from PySide6.QtCore import QSettings, Qt
from PySide6.QtTest import QTest

from purvel.app.window import Window
from purvel.files import Document, FileError, load, save
from purvel.files.autosave import Origin, Slot, leftovers
from purvel.files.reading import read_shop
from purvel.shop import Shop
from purvel.shop.edits import change_shop
from tests.app.conftest import Bench


def name_it(bench: Bench, name: str) -> None:
    bench.workspace.apply(lambda shop: change_shop(shop, name=name), "Name")


def kept(folder: Path) -> set[str]:
    return {left.shop.name for left in leftovers(folder / "autosave")}


def test_opening_another_shop_puts_unsaved_work_aside(bench: Bench, tmp_path: Path) -> None:
    name_it(bench, "Mine")
    bench.window.filing.open_demo("garage")
    assert bench.workspace.shop.name == "Two-bay garage" and not bench.window.keeper.is_dirty
    assert kept(tmp_path) == {"Mine"}
    assert "put aside" in bench.window.notice.said.text()


def test_recovering_keeps_what_was_begun_meanwhile(bench: Bench, tmp_path: Path) -> None:
    slot = Slot(tmp_path / "autosave")
    slot.keep(Document(Shop(name="Before the crash")), Origin())
    slot.let_go()
    bench.window.filing.offer_recovery()
    name_it(bench, "Begun meanwhile")
    QTest.mouseClick(bench.window.notice.buttons[0], Qt.MouseButton.LeftButton)
    assert bench.workspace.shop.name == "Before the crash" and bench.window.keeper.is_dirty
    assert kept(tmp_path) == {"Begun meanwhile"}
    bench.window.close()
    assert kept(tmp_path) == {"Begun meanwhile", "Before the crash"}


def test_work_on_the_plan_leaves_an_open_question_standing(bench: Bench, tmp_path: Path) -> None:
    slot = Slot(tmp_path / "autosave")
    slot.keep(Document(Shop(name="Before the crash")), Origin())
    slot.let_go()
    bench.window.filing.offer_recovery()
    notice = bench.window.notice
    bench.workspace.said.emit("")
    assert notice.isVisible() and "Unsaved work" in notice.said.text()
    QTest.mouseClick(notice.buttons[-1], Qt.MouseButton.LeftButton)
    assert not notice.isVisible() and kept(tmp_path) == {"Before the crash"}


def test_thrown_away_is_gone_and_the_next_is_offered(bench: Bench, tmp_path: Path) -> None:
    for name in ("One", "Two"):
        slot = Slot(tmp_path / "autosave")
        slot.keep(Document(Shop(name=name)), Origin())
        slot.let_go()
    bench.window.filing.offer_recovery()
    first = bench.window.notice.said.text()
    QTest.mouseClick(bench.window.notice.buttons[1], Qt.MouseButton.LeftButton)
    assert len(kept(tmp_path)) == 1 and bench.window.notice.said.text() != first
    QTest.mouseClick(bench.window.notice.buttons[1], Qt.MouseButton.LeftButton)
    assert kept(tmp_path) == set() and not bench.window.notice.isVisible()


def test_the_next_start_goes_on_with_the_shop_that_was_saved_last(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    filing, names = bench.window.filing, iter([str(tmp_path / "one.purvel"), str(tmp_path / "two")])
    monkeypatch.setattr("purvel.app.filing.QFileDialog.getSaveFileName", lambda *_: (next(names), ""))
    filing.begin(None, None, "")
    assert bench.workspace.shop == Shop() and bench.window.keeper.path is None  # nothing was saved yet
    for name in ("One", "Two"):
        name_it(bench, name)
        assert filing.save_as()
    again = Window(
        tmp_path / "autosave", QSettings(bench.window.settings.fileName(), QSettings.Format.IniFormat)
    )
    again.begin(None, None)
    assert (again.workspace.shop.name, again.keeper.path, again.keeper.is_dirty) == (
        "Two",
        tmp_path / "two.purvel",
        False,
    )
    (lately,) = [
        action.menu()
        for action in again.header.menu_button.menu().actions()
        if action.text() == "Opened lately"
    ]
    lately.aboutToShow.emit()
    assert [action.text() for action in lately.actions()] == ["two", "one"]
    lately.actions()[1].trigger()
    assert again.workspace.shop.name == "One" and [path.stem for path in again.filing.recent()] == [
        "one",
        "two",
    ]
    again.close()
    again.deleteLater()


def test_what_another_window_saved_is_not_written_over_unasked(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path, filing, notice = tmp_path / "shop.purvel", bench.window.filing, bench.window.notice
    save(Document(Shop(name="Both")), path)
    filing.open_path(path)
    name_it(bench, "Mine")
    assert filing.save()
    save(Document(Shop(name="Theirs, from another window")), path)
    name_it(bench, "Mine again")
    assert (
        not filing.save()
        and load(path).shop.name == "Theirs, from another window"
        and bench.window.keeper.is_dirty
    )
    assert [button.text() for button in notice.buttons][:2] == ["Save under another name", "Write over it"]
    monkeypatch.setattr(
        "purvel.app.filing.QFileDialog.getSaveFileName", lambda *_: (str(tmp_path / "mine.purvel"), "")
    )
    QTest.mouseClick(notice.buttons[0], Qt.MouseButton.LeftButton)
    assert (
        load(tmp_path / "mine.purvel").shop.name == "Mine again"
        and load(path).shop.name == "Theirs, from another window"
    )
    save(Document(Shop(name="Theirs, from another window")), tmp_path / "mine.purvel")
    name_it(bench, "Mine at last")
    assert not filing.save()
    QTest.mouseClick(notice.buttons[1], Qt.MouseButton.LeftButton)
    assert (
        load(tmp_path / "mine.purvel").shop.name == "Mine at last"
        and not bench.window.keeper.is_dirty
        and filing.save()
    )


@pytest.mark.parametrize("left", [None, b"half a file"])
def test_a_last_shop_that_cannot_be_read_leaves_an_empty_page(
    bench: Bench, tmp_path: Path, left: bytes | None
) -> None:
    filing = bench.window.filing
    for name in ("kept.purvel", "gone.purvel"):
        save(Document(Shop(name=name)), tmp_path / name)
        filing.open_path(tmp_path / name)
    filing.new()
    gone = tmp_path / "gone.purvel"
    gone.unlink() if left is None else gone.write_bytes(left)
    filing.begin(None, None, "")
    assert bench.workspace.shop == Shop() and bench.window.keeper.path is None
    assert bench.window.notice.said.text().startswith("gone.purvel") and [
        path.stem for path in filing.recent()
    ] == ["kept"]
    assert left is None or gone.read_bytes() == left


def test_where_nothing_can_be_put_aside_nothing_is_opened(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    name_it(bench, "Mine")

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(Slot, "keep", full)
    save(Document(Shop(name="Other")), tmp_path / "other.purvel")
    for open_one in (
        lambda: bench.window.filing.open_demo("garage"),
        lambda: bench.window.filing.open_path(tmp_path / "other.purvel"),
    ):
        open_one()
        assert bench.workspace.shop.name == "Mine" and bench.window.filing.recent() == []
        assert "Nothing was opened" in bench.window.notice.said.text()


def test_saving_where_it_cannot_be_says_so_and_keeps_the_old_file(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "shop.purvel"
    save(Document(Shop(name="Old")), path)
    name_it(bench, "New")

    def refuse(*_: object) -> None:
        raise FileError(
            "shop.purvel could not be saved: no space left on device. The file is as it was before."
        )

    monkeypatch.setattr("purvel.app.keeping.save", refuse)
    monkeypatch.setattr("purvel.app.filing.QFileDialog.getSaveFileName", lambda *_: (str(path), ""))
    assert not bench.window.filing.save()
    assert load(path).shop.name == "Old" and bench.window.keeper.is_dirty
    assert "could not be saved" in bench.window.notice.said.text()
    monkeypatch.undo()
    assert (
        not bench.window.keeper.save(path)
        and load(path).shop.name == "New"
        and not bench.window.keeper.is_dirty
    )
    assert load(path.with_name("shop.purvel.bak")).shop.name == "Old"


def test_work_is_kept_by_itself_within_a_few_seconds(bench: Bench, tmp_path: Path) -> None:
    name_it(bench, "Kept")
    bench.bot.waitUntil(lambda: any((tmp_path / "autosave").glob("*/shop.json")), timeout=20_000)
    slot = bench.window.keeper.slot
    assert slot is not None
    shop, said = read_shop((slot.path / "shop.json").read_bytes(), "Kept work")
    assert (shop.name, said) == ("Kept", "")
    bench.workspace.undo()
    # nothing is left that is not saved
    bench.bot.waitUntil(lambda: not any((tmp_path / "autosave").glob("*/shop.json")), timeout=20_000)


def test_the_menu_lists_the_demo_shops_by_name_once_it_is_opened(bench: Bench) -> None:
    (demos,) = [
        action.menu()
        for action in bench.window.header.menu_button.menu().actions()
        if action.text() == "Demo shops"
    ]
    for _ in range(2):
        demos.aboutToShow.emit()
        assert [action.text() for action in demos.actions()] == [
            "Two-bay garage",
            "Two-bay garage, mended",
            "Spare room",
            "Spare room, mended",
            "One-car garage",
            "One-car garage, mended",
        ]
    demos.actions()[2].trigger()
    assert bench.workspace.shop.name == "Spare room" and bench.window.keeper.path is None


def test_a_list_is_taken_in_with_one_step_of_undo_and_a_bad_one_changes_nothing(
    bench: Bench, tmp_path: Path
) -> None:
    bench.demo("garage")
    before = bench.workspace.base
    good, bad = tmp_path / "tools.csv", tmp_path / "bad.csv"
    good.write_text("tool,used\nMy own jig,daily\nMallet,rarely\n")
    bad.write_text("tool,used\nMallet,hourly\n")
    bench.window.filing.take_in(bad)
    assert bench.workspace.base is before
    assert (
        "Row 2" in bench.window.notice.said.text()
        and "Nothing was changed" in bench.window.notice.said.text()
    )
    bench.window.filing.take_in(tmp_path / "none.csv")
    assert bench.workspace.base is before and "no file" in bench.window.notice.said.text()
    bench.window.filing.take_in(good)
    assert "1 new, 1 changed" in bench.window.notice.said.text()
    tools = {tool.name: tool for tool in bench.workspace.base.storage.tools}
    assert tools["Mallet"].use == "rarely" and tools["My own jig"].use == "daily"
    assert tools["Mallet"].home == "cleat-d"
    bench.workspace.undo()
    assert bench.workspace.base == before
