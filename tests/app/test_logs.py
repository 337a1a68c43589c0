"""A monitor's log, by hand: brought in, marked, recorded, taken away."""

import re
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtWidgets import QPushButton

from purvel.app.stages.air.day_chart import LOG
from purvel.app.stages.air.recorder import Recorder
from purvel.app.stages.air.stage import AirStage
from purvel.app.widgets.words import Words
from purvel.devices.monitor import Server
from purvel.review import Grade
from purvel.review.air.log_answers import LogAnswers
from purvel.shop.air import LogStretch
from purvel.shop.edits import put
from tests.app.conftest import Bench, choose, enter
from tests.app.test_flow import field
from tests.devices.test_monitor import played, serving


def stage(bench: Bench, demo: str = "garage-mended") -> AirStage:
    bench.demo(demo, "air")
    shown = bench.window.stage
    assert isinstance(shown, AirStage)
    shown.day.panes.choose(LOG)
    bench.settle()
    return shown


def csv(tmp_path: Path, name: str = "shed.csv") -> Path:
    path = tmp_path / name
    rows = [f"2026-05-01 10:{m:02d}:00,{5 if m < 10 else 5 + 100 * 0.9 ** (m - 10):.3f}" for m in range(60)]
    path.write_text("\n".join(["time,>0.5um", *rows]))
    return path


def pick_named(bench: Bench, name: str) -> LogStretch:
    found = next(one for one in bench.workspace.shop.air.stretches if one.name == name)
    bench.workspace.pick(found.id)
    bench.settle()
    return found


def test_a_csv_is_brought_in_and_marked(bench: Bench, tmp_path: Path) -> None:
    shown = stage(bench)
    shown.log_tool.take_file(csv(tmp_path))
    bench.settle()
    log = bench.workspace.shop.attachments[-1]
    assert log.name == "shed.csv" and log.kind == "log" and shown.log.log == log.id
    assert "60 readings over 59 min" in bench.window.notice.said.text()
    shown.log_tool.mark("background")
    shown.log_tool.mark("decay")
    bench.settle()
    calm, fall = bench.workspace.shop.air.stretches[-2:]
    assert calm.log == fall.log == log.id and calm.end <= 600 and 600 <= fall.start < 900
    assert bench.workspace.picked == fall.id
    enter(field(bench, "From this minute of the log"), "11")
    choose(field(bench, "How the door stood"), "shut")
    choose(field(bench, "How the cleaner ran"), "off")
    bench.settle(whole=True)
    now = bench.workspace.shop.air.stretches[-1]
    assert (now.start, now.door, now.cleaner) == (660.0, "shut", "off")
    said = next(one for one in bench.window.reviews.latest.of("air") if one.about == (now.id,))
    assert said.figures["rate"] == pytest.approx(6.32, rel=0.02)  # -60 ln 0.9
    assert any("falls 6.3/h" in one for one in shown_buttons(shown))
    bench.workspace.undo()
    assert bench.workspace.shop.air.stretches[-1].cleaner == "not noted"


def shown_buttons(shown: AirStage) -> list[str]:
    from purvel.app.widgets.names import NameButton

    return [button.text() for button in shown.log.marks.findChildren(NameButton)]


def test_what_is_marked_is_the_log_that_came_last_whatever_is_picked(bench: Bench, tmp_path: Path) -> None:
    shown = stage(bench)
    pick_named(bench, "Cleaner off")
    shown.log_tool.take_file(csv(tmp_path))
    bench.settle()
    log = bench.workspace.shop.attachments[-1].id
    assert shown.log.log == log
    for shows in ("work", "work", "work", "background"):
        shown.log_tool.mark(shows)
        bench.settle()
    made = [one for one in bench.workspace.shop.air.stretches if one.log == log]
    assert len(made) == 4 and all(0 <= one.start < one.end <= 59 * 60 for one in made)
    assert all(one.end - one.start > 60 for one in made)


def test_the_ends_follow_the_hand_in_one_step(bench: Bench) -> None:
    shown = stage(bench)
    one = pick_named(bench, "Cleaner off")
    shown.log.dragged.emit((one.id, 1700.0, 4000.0))
    bench.settle()
    moved = pick_named(bench, "Cleaner off")
    assert (moved.start, moved.end) == (1700.0, 4000.0)
    shown.log.dragged.emit((one.id, 1700.0, 1700.2))  # no stretch at all
    assert pick_named(bench, "Cleaner off") == moved
    bench.workspace.undo()
    assert pick_named(bench, "Cleaner off") == one


def test_a_stretch_cannot_end_before_it_starts(bench: Bench) -> None:
    stage(bench)
    one = pick_named(bench, "Cleaner off")
    enter(field(bench, "To this minute of the log"), "3")
    assert pick_named(bench, "Cleaner off") == one
    assert "ends after it starts" in bench.window.notice.said.text()


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("notes.csv", b"buy milk\nand bread\nand oil\n", "delimiter"),
        ("none.csv", b"", "fewer than three lines"),
        ("missing.csv", None, "no file"),
    ],
)
def test_what_is_no_log_changes_nothing(
    bench: Bench, tmp_path: Path, name: str, data: bytes | None, says: str
) -> None:
    shown = stage(bench)
    before, blobs = bench.workspace.base, dict(bench.workspace.blobs)
    if data is not None:
        (tmp_path / name).write_bytes(data)
    shown.log_tool.take_file(tmp_path / name)
    assert bench.workspace.base is before and bench.workspace.blobs == blobs
    assert (
        says in bench.window.notice.said.text() and "Nothing was changed" in bench.window.notice.said.text()
    )


def test_a_cure_takes_the_decay_over(bench: Bench) -> None:
    stage(bench)
    bench.settle(whole=True)
    said = next(
        one
        for one in bench.window.reviews.latest.of("air")
        if one.rule == "log-decay" and one.grade is Grade.WATCH and "Cleaner off" in one.sentence
    )
    cures = bench.window.reviews.latest.answers
    from purvel.review import remedies_for

    (cure,) = remedies_for(said, cures)
    bench.workspace.apply(cure.edit, cure.label)
    bench.settle()
    air = bench.workspace.shop.air
    assert air.ach_measured == "closed" and air.ach_closed == pytest.approx(
        said.figures["changes"], abs=0.006
    )


def test_another_column_is_looked_at(bench: Bench) -> None:
    shown = stage(bench)
    before = shown.answers().of(LogAnswers).channel("attachment-1").name
    choose(
        next(
            c for c in shown.log.findChildren(type(shown.limit)) if c.accessibleName() == "Column of the log"
        ),
        "pm10_ug_m3",
    )
    bench.settle()
    assert before != "pm10_ug_m3" == shown.answers().of(LogAnswers).channel("attachment-1").name


def wait_for(bench: Bench, recorder: Recorder) -> None:
    bench.bot.waitUntil(lambda: not recorder.is_on, timeout=10_000)
    bench.settle()


def test_a_day_is_recorded_from_the_simulated_monitor(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    shown = stage(bench, "spare-room")
    recorder = shown.log_tool.recorder
    monkeypatch.setattr(recorder, "folder", tmp_path / "recordings")
    with serving(played()) as port:
        shown.log_tool.record(port)
        assert "Recording" in shown.log.live
        wait_for(bench, recorder)
    log = bench.workspace.shop.attachments[-1]
    assert log.name.startswith("recording ") and shown.log.live == ""
    assert (
        "came to the end" in bench.window.notice.said.text()
        and "181 readings" in bench.window.notice.said.text()
    )
    assert len(shown.answers().of(LogAnswers).logs[log.id].seconds) == 181
    assert list((tmp_path / "recordings").iterdir()) == []
    bench.workspace.undo()
    assert log not in bench.workspace.shop.attachments


def test_what_was_recorded_is_kept_when_another_shop_is_opened(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    shown = stage(bench, "spare-room")
    monkeypatch.setattr(shown.log_tool.recorder, "folder", tmp_path / "recordings")
    with serving(played(), speed=400.0) as port:
        shown.log_tool.record(port)
        bench.bot.waitUntil(lambda: shown.log_tool.recorder._count >= 12, timeout=10_000)
        (kept,) = (tmp_path / "recordings").iterdir()
        assert len(kept.read_text().splitlines()) >= 7  # a machine that stops now has lost little
        seen = []
        bench.window.filing.leaving.connect(lambda: seen.append(bench.workspace.shop.attachments))
        bench.window.filing.open_demo("garage")
    assert not shown.log_tool.recorder.is_on
    assert any(one.name.startswith("recording") for one in seen[-1])
    assert not any(one.name.startswith("recording") for one in bench.workspace.shop.attachments)


def test_where_there_is_no_monitor(bench: Bench) -> None:
    shown = stage(bench, "spare-room")
    server = Server(played())
    server._socket.close()  # a port that was free a moment ago
    before = bench.workspace.base
    shown.log_tool.record(server.port)
    wait_for(bench, shown.log_tool.recorder)
    assert "No monitor answers" in bench.window.notice.said.text() and bench.workspace.base is before


def test_a_log_is_taken_away_with_its_stretches(bench: Bench) -> None:
    shown = stage(bench)
    shown.log_tool.take_away()
    bench.settle()
    assert bench.workspace.shop.attachments == () and bench.workspace.shop.air.stretches == ()
    assert "No log yet" in shown.log.said.text()
    shown.log_tool.mark("work")
    assert "no log to mark" in bench.window.notice.said.text()
    bench.workspace.undo()
    assert len(bench.workspace.shop.air.stretches) == 5


def test_an_event_is_noted_with_one_key_and_said_what_it_was(bench: Bench, tmp_path: Path) -> None:
    shown = stage(bench)
    shown.log_tool.take_file(csv(tmp_path))
    bench.settle()
    shown.log_tool.key.activated.emit()
    bench.settle()
    (event,) = bench.workspace.shop.air.events
    assert event.at == pytest.approx(59 * 60 / 2, abs=1) and bench.workspace.picked == event.id
    enter(field(bench, "What happened"), "first cut")
    enter(field(bench, "At this minute of the log"), "12")
    (event,) = bench.workspace.shop.air.events
    assert (event.name, event.at) == ("first cut", 720.0)
    assert any(text.startswith("12.0 min · first cut") for text in shown_buttons(shown))
    shown.log_tool.take_away()
    assert bench.workspace.shop.air.events == ()


def test_events_are_noted_while_it_records(bench: Bench) -> None:
    shown = stage(bench)
    with serving(played(), speed=500.0) as port:
        shown.log_tool.record(port)
        bench.bot.waitUntil(lambda: shown.log_tool.recorder.passed > 0, timeout=10_000)
        shown.log_tool.note_event()
        bench.bot.waitUntil(lambda: not shown.log_tool.recorder.is_on, timeout=20_000)
        bench.settle()
    (event,) = bench.workspace.shop.air.events
    assert event.name == "event 1" and event.at > 0 and event.log == bench.workspace.shop.attachments[-1].id


def test_a_columns_unit_is_asked_for_where_its_name_does_not_tell_it(bench: Bench, tmp_path: Path) -> None:
    from purvel.app.widgets.fields import ChoiceField

    shown = stage(bench)
    path = tmp_path / "pm.csv"
    path.write_text("\n".join(["time,PM2.5", *(f"2026-05-01 10:{m:02d}:00,0.0{m % 7}" for m in range(60))]))
    shown.log_tool.take_file(path)
    bench.settle()

    def asked() -> list[ChoiceField]:
        found = shown.log.findChildren(ChoiceField)
        return [
            one
            for one in found
            if "Unit of this column" in one.accessibleName() and one.isVisibleTo(shown.log)
        ]

    (unit,) = asked()
    choose(unit, "mg/m³")
    bench.settle()
    (told,) = bench.workspace.shop.air.log_units
    assert (told.column, told.unit) == ("PM2.5", "mg/m³")
    assert shown.log.logs is not None
    assert shown.log.logs.channel(told.log).values[1] == pytest.approx(10.0)
    assert len(asked()) == 1
    shown.log_tool.take_file(csv(tmp_path))
    bench.settle()


def test_the_day_is_laid_over_the_log(bench: Bench) -> None:
    shown = stage(bench)
    shown.log.over.setChecked(True)
    bench.settle()
    assert re.search("The day begins at minute|No simulated day", shown.log.said.text())
    work = bench.workspace.shop.air.session.work[0]
    bench.workspace.apply(lambda shop: put(shop, replace(work, start=work.start + 5)), "Later")
    bench.settle()  # drawn once more, with another day
    assert re.search("The day begins at minute|No simulated day", shown.log.said.text())
    shown.log.over.setChecked(False)
    bench.settle()
    assert "The day begins" not in shown.log.said.text()


def test_pm25_that_was_measured_is_told_and_gives_way(bench: Bench) -> None:
    """By its button, and when the work is changed to what was not measured; each undone in one step."""
    stage(bench)
    work = bench.workspace.shop.air.session.work[0]
    bench.workspace.apply(lambda shop: put(shop, replace(work, fine=(0.4, 0.8, 1.6))), "Measure")
    bench.settle()
    bench.workspace.pick(work.id)
    bench.settle()

    def fine() -> object:
        return next(one for one in bench.workspace.shop.air.session.work if one.id == work.id).fine

    assert any(
        "Its PM2.5, 0.8 mg/min before the hood, is your measurement" in one.text()
        for one in bench.window.findChildren(Words)
    )
    for act in (
        lambda: button(bench, "Go by the estimate again").click(),
        lambda: choose(field(bench, "Wood that is worked"), "board"),
        lambda: choose(field(bench, "How sharp the tool is"), "dull"),
        lambda: choose(field(bench, "Work"), "bandsaw"),
    ):
        act()
        bench.settle()
        assert fine() is None and not any(
            "is your measurement" in one.text() for one in bench.window.findChildren(Words) if one.isVisible()
        )
        bench.workspace.undo()
        bench.settle()
        assert fine() == (0.4, 0.8, 1.6)


def button(bench: Bench, text: str) -> QPushButton:
    return next(one for one in bench.window.findChildren(QPushButton) if one.text() == text)
