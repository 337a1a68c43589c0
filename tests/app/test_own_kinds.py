"""Kinds of the user's own at the window."""

from pathlib import Path

from PySide6.QtWidgets import QMenu, QToolButton

from purvel.shop.edits import change
from tests.app.conftest import Bench


def offered(bench: Bench) -> list[str]:
    """What stands under “Your own” in the menu."""
    button = next(b for b in bench.window.stage.strip.findChildren(QToolButton) if b.text() == "Place ▾")
    menu = next(menu for menu in button.menu().findChildren(QMenu) if menu.title() == "Your own")
    return [action.text() for action in menu.actions()]


def test_a_placed_thing_becomes_a_kind_that_is_placed_again(bench: Bench, tmp_path: Path) -> None:
    bench.demo("garage", "place")
    stage = bench.window.stages["place"]
    bench.workspace.pick(None)
    stage.own.keep_picked()
    assert "Pick a thing first" in bench.window.notice.said.text() and len(offered(bench)) == 2
    bench.workspace.apply(lambda shop: change(shop, "jointer", width=1.93, name="Long jointer"), "Widen")
    bench.workspace.pick("jointer")
    stage.own.keep_picked()
    assert offered(bench)[0] == "Long jointer" and "Forget Long jointer" in offered(bench)
    before = bench.workspace.shop
    dict(stage.own.entries(stage.place_own))["Long jointer"]()
    new = bench.workspace.shop.things[-1]
    old = bench.workspace.shop.thing("jointer")
    assert old is not None and new.id != old.id and (new.width, new.ports) == (1.93, old.ports)
    assert (new.x, new.y) != (old.x, old.y) and bench.workspace.picked == new.id
    bench.workspace.undo()
    assert bench.workspace.shop == before
    stage.own.forget("Long jointer")
    assert len(offered(bench)) == 2 and bench.workspace.shop == before


def test_kinds_go_out_and_come_in_and_what_is_none_changes_nothing(bench: Bench, tmp_path: Path) -> None:
    bench.demo("garage", "place")
    own, file = bench.window.stages["place"].own, tmp_path / "out.toml"
    bench.workspace.pick("planer")
    own.keep_picked()
    own.write_out(file)
    own.forget("Planer")
    own.take_in(file)
    assert list(own.kinds()) == ["Planer"]
    file.write_text("purvel-kinds = 1\n[kinds.Planer")
    own.take_in(file)
    assert "is no TOML" in bench.window.notice.said.text() and list(own.kinds()) == ["Planer"]
    own.take_in(tmp_path / "nowhere.toml")
    assert "cannot be read" in bench.window.notice.said.text()
    own.write_out(tmp_path / "no" / "folder.toml")
    assert "cannot be written" in bench.window.notice.said.text()
    own.library.path.write_text("rubbish")
    assert own.kinds() == {} and "Nothing" not in bench.window.notice.said.text()
    bench.workspace.pick("planer")
    own.keep_picked()
    assert (
        own.library.path.read_text() == "rubbish" and "Nothing was changed" in bench.window.notice.said.text()
    )


def test_a_name_is_offered_as_it_is_written(bench: Bench) -> None:
    bench.demo("garage", "place")
    bench.workspace.apply(lambda shop: change(shop, "planer", name="Plane & Co"), "Name it")
    bench.workspace.pick("planer")
    bench.window.stages["place"].own.keep_picked()
    assert offered(bench)[0] == "Plane && Co"  # as Qt writes a letter that is to be seen
