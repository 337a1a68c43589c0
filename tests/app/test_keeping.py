"""The work is kept: autosave that fails is tried again, closing asks, a file changed by others is not written
over.
"""

import os
from pathlib import Path

import pytest
from PySide6.QtCore import QSettings, Qt, QThread
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.app import keeping
from purvel.app.window import Window
from purvel.files import Document, load, save
from purvel.files.autosave import Origin, Slot, leftovers
from purvel.files.document import attached
from purvel.files.stamp import stamp_of
from purvel.shop import Shop
from purvel.shop.edits import change_shop
from tests.app.conftest import Bench

PICK = "purvel.app.filing.QFileDialog.getSaveFileName"


def name_it(bench: Bench, name: str) -> None:
    bench.workspace.apply(lambda shop: change_shop(shop, name=name), "Name")


def said(bench: Bench) -> str:
    return bench.window.notice.said.text()


def press(bench: Bench, words: str) -> None:
    button = next(one for one in bench.window.notice.buttons if one.text() == words)
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    QApplication.processEvents()


def named(folder: Path) -> set[str]:
    return {left.shop.name for left in leftovers(folder / "autosave")}


def full(*_: object) -> None:
    raise OSError(28, "No space left on device")


def crash_with(folder: Path, path: Path | None, name: str) -> None:
    """What is left by a program that stopped after an autosave."""
    slot = Slot(folder / "autosave")
    slot.keep(Document(Shop(name=name)), Origin(path, None if path is None else stamp_of(path)))
    slot.let_go()


def test_recovered_work_is_not_written_over_a_file_that_was_saved_meanwhile(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "shop.purvel"
    save(Document(Shop(name="At the crash")), path)
    crash_with(tmp_path, path, "Recovered")
    save(Document(Shop(name="Saved meanwhile")), path)
    bench.window.filing.offer_recovery()
    press(bench, "Open that work")
    assert bench.workspace.shop.name == "Recovered" and bench.window.keeper.path == path
    assert not bench.window.filing.save() and "written by another" in said(bench)
    assert load(path).shop.name == "Saved meanwhile"
    monkeypatch.setattr(PICK, lambda *_: (str(tmp_path / "other.purvel"), ""))
    press(bench, "Save under another name")
    assert load(tmp_path / "other.purvel").shop.name == "Recovered"
    assert load(path).shop.name == "Saved meanwhile"


def test_recovered_work_whose_file_is_as_it_was_is_saved_there(bench: Bench, tmp_path: Path) -> None:
    path = tmp_path / "shop.purvel"
    save(Document(Shop(name="At the crash")), path)
    crash_with(tmp_path, path, "Recovered")
    bench.window.filing.offer_recovery()
    press(bench, "Open that work")
    assert bench.window.keeper.is_dirty and bench.window.filing.save()
    assert load(path).shop.name == "Recovered" and not bench.window.keeper.is_dirty
    assert named(tmp_path) == set()


def test_the_stamp_stays_with_the_work_through_a_second_crash(bench: Bench, tmp_path: Path) -> None:
    path = tmp_path / "shop.purvel"
    save(Document(Shop(name="At the crash")), path)
    before = stamp_of(path)
    crash_with(tmp_path, path, "Recovered")
    save(Document(Shop(name="Saved meanwhile, longer")), path)
    bench.window.filing.offer_recovery()
    press(bench, "Open that work")
    bench.window.close()
    (left,) = leftovers(tmp_path / "autosave")
    assert left.origin == Origin(path, before) and before != stamp_of(path)


def test_a_file_that_was_taken_away_is_written_again_unasked(bench: Bench, tmp_path: Path) -> None:
    path = tmp_path / "shop.purvel"
    save(Document(Shop(name="Old")), path)
    bench.window.filing.open_path(path)
    name_it(bench, "New")
    path.unlink()
    assert bench.window.filing.save() and load(path).shop.name == "New"


def test_autosave_runs_off_the_interfaces_thread(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    threads = []
    keep = Slot.keep

    def noted(slot: Slot, document: Document, origin: Origin) -> None:
        threads.append(QThread.currentThread() is bench.window.thread())
        keep(slot, document, origin)

    monkeypatch.setattr(Slot, "keep", noted)
    monkeypatch.setattr(keeping, "AUTOSAVE_AFTER", 10)
    name_it(bench, "Kept")
    bench.bot.waitUntil(lambda: bench.window.keeper.is_kept, timeout=10_000)
    assert threads == [False] and bench.window.keeper.is_dirty


def test_autosave_that_failed_is_said_once_tried_again_and_works_then(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(keeping, "AUTOSAVE_AFTER", 10)
    monkeypatch.setattr(keeping, "TRY_AGAIN_AFTER", 20)
    tries = []

    def fails_twice(slot: Slot, document: Document, origin: Origin) -> None:
        tries.append(document.shop.name)
        if len(tries) < 3:
            full()
        keep(slot, document, origin)

    keep = Slot.keep
    monkeypatch.setattr(Slot, "keep", fails_twice)
    sentences: list[str] = []
    bench.workspace.said.connect(sentences.append)
    name_it(bench, "Kept")
    bench.bot.waitUntil(lambda: bench.window.keeper.is_kept, timeout=10_000)
    assert tries == ["Kept"] * 3
    assert [one for one in sentences if "Autosave" in one] == [
        "Autosave failed (no space left on device) and is tried again. Save your work with Ctrl+S."
    ]


def test_an_autosave_that_fails_again_later_is_said_again(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    sentences: list[str] = []
    bench.workspace.said.connect(sentences.append)
    for name, works in (("One", False), ("Two", True), ("Three", False), ("Four", False)):
        with monkeypatch.context() as patch:
            if not works:
                patch.setattr(Slot, "keep", full)
            name_it(bench, name)
            assert bench.window.keeper.keep_now() is works
    assert len([one for one in sentences if "Autosave failed" in one]) == 2


def test_a_dialog_that_is_given_up_saves_nothing(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    name_it(bench, "Mine")
    monkeypatch.setattr(PICK, lambda *_: ("", ""))
    assert not bench.window.filing.save() and bench.window.keeper.is_dirty
    assert list(tmp_path.glob("*.purvel")) == [] and bench.window.filing.recent() == []


def test_closing_asks_when_the_work_is_kept_nowhere(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(Slot, "keep", full)
    name_it(bench, "Mine")
    assert not bench.window.close() and bench.window.isVisible()
    assert "would lose it" in said(bench) and bench.workspace.shop.name == "Mine"
    monkeypatch.setattr(PICK, lambda *_: (str(tmp_path / "mine.purvel"), ""))
    press(bench, "Save it")
    assert load(tmp_path / "mine.purvel").shop.name == "Mine"
    assert bench.window.close()


def test_closing_and_losing_is_possible_when_it_is_said(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(Slot, "keep", full)
    name_it(bench, "Mine")
    bench.window.close()
    press(bench, "Close and lose it")
    assert not bench.window.isVisible() and named(tmp_path) == set()


@pytest.mark.parametrize("hindrance", ["file", "removed"])
def test_a_data_folder_that_cannot_be_used_is_said_and_loses_nothing(
    qapp: QApplication, tmp_path: Path, hindrance: str
) -> None:
    folder = tmp_path / "autosave"
    if hindrance == "file":
        folder.write_text("in the way")
    window = Window(folder, QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    window.show()
    QApplication.processEvents()
    if hindrance == "removed":
        assert window.keeper.slot is not None
        window.keeper.slot.path.rename(tmp_path / "gone")
        folder.rmdir()
        folder.write_text("in the way")
    else:
        assert "Autosave is off" in window.notice.said.text()
    window.workspace.apply(lambda shop: change_shop(shop, name="Mine"), "Name")
    assert not window.close() and "would lose it" in window.notice.said.text()
    folder.unlink()  # the hindrance goes: closing keeps the work
    if hindrance == "removed":
        folder.mkdir()
        (tmp_path / "gone").rename(window.keeper.slot.path)  # type: ignore[union-attr]
    assert window.close() and {left.shop.name for left in leftovers(folder)} == {"Mine"}
    window.deleteLater()


def test_save_as_asks_before_it_writes_over_a_name_with_the_ending_added(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "two.purvel"
    save(Document(Shop(name="Theirs")), path)
    name_it(bench, "Mine")
    monkeypatch.setattr(PICK, lambda *_: (str(tmp_path / "two"), ""))
    assert not bench.window.filing.save_as()
    assert load(path).shop.name == "Theirs" and "two.purvel already" in said(bench)
    press(bench, "Write over it")
    assert load(path).shop.name == "Mine" and load(tmp_path / "two.purvel.bak").shop.name == "Theirs"


def test_saving_takes_what_is_being_typed(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(PICK, lambda *_: (str(tmp_path / "mine.purvel"), ""))
    bench.demo("garage", "place")
    bench.workspace.pick("planer")
    bench.window.activateWindow()
    field = bench.window.header.name
    field.line.setFocus()
    QApplication.processEvents()
    field.line.selectAll()
    QTest.keyClicks(field.line, "Half typed")
    assert bench.workspace.shop.name == "Two-bay garage"
    assert bench.window.filing.save()
    assert load(tmp_path / "mine.purvel").shop.name == "Half typed" and said(bench) == "Saved mine.purvel."
    bench.settle()


def test_saving_says_what_stands_in_a_field_and_cannot_be_read(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from purvel.app.widgets.fields import TextField

    monkeypatch.setattr(PICK, lambda *_: (str(tmp_path / "mine.purvel"), ""))
    bench.demo("garage", "place")
    bench.workspace.pick("planer")
    field = next(one for one in bench.window.inspector.findChildren(TextField) if one.name == "Width")
    field.line.setFocus()
    field.line.selectAll()
    QTest.keyClicks(field.line, "broad")
    assert bench.window.filing.save() and "without what stands in “Width”" in said(bench)
    assert field.line.text() == "broad"
    field.line.setModified(False)


def test_attachments_go_through_the_window_and_come_back_by_undo(bench: Bench, tmp_path: Path) -> None:
    document = attached(Document(Shop(name="With a log")), "log.csv", b"0,1\n", "log")
    path = tmp_path / "shop.purvel"
    save(document, path)
    bench.window.filing.open_path(path)
    (log,) = bench.workspace.shop.attachments
    bench.workspace.apply(lambda shop: change_shop(shop, attachments=()), "Take the log away")
    assert bench.window.filing.save() and load(path).named() == {}
    bench.workspace.undo()
    assert bench.window.filing.save() and load(path).named() == {log.sha256: b"0,1\n"}
    name_it(bench, "Changed")
    assert bench.window.keeper.keep_now()
    bench.window.close()
    (left,) = leftovers(tmp_path / "autosave")
    assert left.document.named() == {log.sha256: b"0,1\n"} and left.shop.name == "Changed"


@pytest.mark.parametrize("text", ["huge", "", "-4", "1e9", "none"])
def test_settings_that_make_no_sense_are_passed_over(qapp: QApplication, tmp_path: Path, text: str) -> None:
    settings = QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat)
    settings.setValue("text", text)
    settings.setValue("look", text)
    settings.setValue("recent", ["a\0b.purvel", str(tmp_path / "gone.purvel"), ""])
    window = Window(tmp_path / "autosave", settings)
    assert window.theme.pixels == 15
    assert [path.name for path in window.filing.recent()] == ["gone.purvel"]
    window.filing.begin(None, None, "")
    assert "gone.purvel" in window.notice.said.text()
    window.close()
    window.deleteLater()


def test_a_name_that_is_not_text_is_opened_saved_and_kept(bench: Bench, tmp_path: Path) -> None:
    path = tmp_path / os.fsdecode(b"b\xe4nk.purvel")
    save(Document(Shop(name="Bench")), path)
    bench.window.filing.open_path(path)
    name_it(bench, "Bench, changed")
    assert bench.window.keeper.keep_now() and bench.window.filing.save()
    assert load(path).shop.name == "Bench, changed"
