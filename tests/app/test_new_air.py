"""Two rooms as a new user would reckon them: a monitor's log from a cellar with open stairs, logged with the
collector and without but with the cleaner set differently; and a whole shop in a lived-in room.
"""

from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from purvel.app.stages.air.stage import AirStage
from purvel.app.widgets.fields import ChoiceField
from purvel.catalogue import make_thing
from purvel.review import Finding, Grade
from purvel.review.air.answers import AirAnswers
from purvel.shop import Shop
from purvel.shop.edits import put
from tests.app.conftest import Bench, choose, enter, field
from tests.conftest import box_room


def cellar_log(path: Path) -> Path:
    """Two hours of PM2.5 in a cellar: calm, a run that settles by 3 an hour, and one by 7 with the cleaner on
    high and half as much thrown off.
    """
    level, rows = 0.0, []
    chance = np.random.default_rng(4)
    for minute in np.arange(0.0, 150.0, 1 / 6):
        thrown, rate = (600.0, 3.0) if 15 <= minute < 30 else (0.0, 3.0)
        if minute >= 90:
            thrown, rate = (300.0 if minute < 105 else 0.0), 7.0
        level += (thrown - rate * level) / 360
        stamp = datetime(2026, 11, 20, 19) + timedelta(minutes=float(minute))
        rows.append(f"{stamp:%d.%m.%Y %H:%M:%S};{(8 + level) * (1 + 0.05 * chance.normal()):.2f}")
    path.write_text("\n".join(["Zeit;PM2,5 (µg/m³)", *rows]))
    return path


def told(bench: Bench, rule: str) -> list[Finding]:
    return [one for one in bench.window.reviews.latest.of("air") if one.rule == rule]


def mark(bench: Bench, air: AirStage, shows: str, start: float, end: float, **noted: str) -> None:
    """Marks a stretch and notes its conditions in its form, as a hand does."""
    air.log_tool.mark(shows)
    bench.settle()
    enter(field(bench, "To this minute of the log"), f"{end}")
    enter(field(bench, "From this minute of the log"), f"{start}")
    names = {
        "cleaner": "How the cleaner ran",
        "door": "How the door stood",
        "hood": "Whether dust was collected",
    }
    for key, value in noted.items():
        if key in names:
            of = [one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == names[key]]
            choose(of[0], value)
        else:
            enter(field(bench, {"wood": "Wood that was worked", "work": "Work that was done"}[key]), value)
    bench.settle()


@pytest.fixture
def cellar(bench: Bench) -> AirStage:
    """A cellar of 5 by 4 m with a cleaner, drawn already."""
    shop = put(Shop(room=box_room(5.0, 4.0), units="metric"), make_thing("air-cleaner", "cleaner", 2.0, 2.0))
    bench.workspace.open(shop)
    bench.stage("air")
    shown = bench.window.stage
    assert isinstance(shown, AirStage)
    return shown


def test_a_cellars_log_with_the_cleaner_set_differently_is_not_believed(
    bench: Bench, cellar: AirStage, tmp_path: Path
) -> None:
    cellar.add_work("random-orbit-sander")
    cellar.menu.add_room()
    bench.settle()
    stair = bench.workspace.shop.air.passages[0].id
    bench.workspace.pick(stair)
    bench.settle()
    kind = next(one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == "What it is")
    choose(kind, "stair")
    bench.settle(whole=True)
    (above,) = told(bench, "room-beyond")
    assert above.figures["share"] > 0.1 and bench.workspace.shop.air.passages[0].kind == "stair"
    cellar.log_tool.take_file(cellar_log(tmp_path / "cellar.csv"))
    bench.settle()
    same = {"door": "shut", "wood": "oak", "work": "sanding"}
    mark(bench, cellar, "background", 0, 14)
    mark(bench, cellar, "work", 15, 30, cleaner="off", hood="none", **same)
    mark(bench, cellar, "decay", 30, 85, cleaner="off", door="shut")
    mark(bench, cellar, "work", 90, 105, cleaner="high", hood="on", **same)
    bench.settle(whole=True)
    (compared,) = told(bench, "log-compare")
    assert compared.grade == Grade.WATCH and "cannot tell by what" in compared.sentence
    assert "how the cleaner ran (off, then high)" in compared.sentence and "the hood" in compared.sentence
    assert "the cleaner alone would make it" in compared.why
    assert told(bench, "log-capture") == []  # the cleaner differed: no pair
    (decay,) = told(bench, "log-decay")
    assert decay.figures["low"] < 3.0 < decay.figures["high"]
    assert told(bench, "log-untested")


def test_a_whole_shop_in_a_lived_in_room(bench: Bench) -> None:
    """The flat behind an open door gets its share, and its door shut is the cure."""
    bench.demo("spare-room", "air")
    bench.settle(whole=True)
    (flat,) = told(bench, "room-beyond")
    (child,) = told(bench, "person-breathes")
    assert flat.figures["share"] > 0.2 and child.figures["average_8h"] > 0
    bench.workspace.pick("flat-door")
    bench.settle()
    opens = next(
        one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == "When it stands open"
    )
    choose(opens, "never")
    bench.settle(whole=True)
    (now,) = told(bench, "room-beyond")
    assert now.figures["share"] == 0.0 and now.grade == Grade.GOOD
    day = bench.window.reviews.latest.answers.of(AirAnswers).day
    assert day is not None and day.rooms["flat"]["central"].peak == 0.0
    bench.workspace.undo()
    assert replace(bench.workspace.shop.air.passages[0], open="never") != bench.workspace.shop.air.passages[0]
