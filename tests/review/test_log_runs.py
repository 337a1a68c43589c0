"""Runs of work as measurements; whether the monitor may be believed; what its other columns show."""

from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np
import pytest

from purvel.files import Document, attached
from purvel.review import Figures, Grade, remedies_for
from purvel.review.air import STAGE
from purvel.review.air.log_answers import LogAnswers
from purvel.review.air.log_runs import RunAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Air, Session, Shop, WorkInterval
from purvel.shop.air import LogStretch, LogUnit
from purvel.shop.edits import put
from tests.conftest import box_room
from tests.review.test_logs import MINUTES, checked, document, found, noise, stretch

SAY = Figures("metric")
RATE = 2.0  # 1/h in which all leaves the air of these logs


def levels(*runs: tuple[float, float, float]) -> np.ndarray:
    """Readings above a background of 10, of runs (from, to [min], what steadily is thrown off as a level)."""
    level, found = 0.0, []
    for minute in MINUTES:
        end = sum(steady for start, stop, steady in runs if start <= minute < stop)
        level += (end - level) * (1 - np.exp(-RATE / 360))
        found.append(level)
    return (10 + np.array(found)) * noise(3)


CALM = stretch("calm", "background", 0, 9)
BARE = stretch("bare", "work", 10, 25, hood="none", wood="oak", work="sanding")
FALL = stretch("fall", "decay", 25, 70)
HOODED = stretch("hooded", "work", 70, 85, hood="on", wood="oak", work="sanding")
RUNS = ((10.0, 25.0, 400.0), (70.0, 85.0, 60.0))


def test_what_a_hood_caught_is_told_from_two_runs_and_taken_over() -> None:
    """400 without and 60 with it: 85 % caught, at the rate that the decay between them shows."""
    work = (
        WorkInterval(id="sand", name="Sanding", start=10),
        WorkInterval(id="saw", name="Sawing", start=90),
    )
    made = document(levels(*RUNS), CALM, BARE, FALL, HOODED, session=Session(work=work, minutes=200))
    one = checked(made)
    (said,) = found(one, "log-capture")
    assert said.grade == Grade.WATCH and said.figures["share"] == pytest.approx(0.85, abs=0.04)
    assert said.figures["low"] < 0.85 < said.figures["high"] <= 1.0
    (cure,) = remedies_for(said, one.answers)
    assert "“Sanding”" in cure.label and "measured" in cure.label and "Good: " in cure.outcome
    after = cure.edit(made.shop).air.session.work[0]
    assert (
        after.measured
        and after.hood == ""
        and after.capture[1] == pytest.approx(said.figures["share"], abs=1e-3)
    )
    assert after.capture[0] <= after.capture[1] <= after.capture[2]
    again = checked(replace(made, shop=cure.edit(made.shop)))
    assert found(again, "log-capture")[0].grade == Grade.GOOD
    assert "What is caught at Sanding is your measurement" in found(again, "exposure")[0].why
    assert found(again, "capture-assumed") == []


def test_runs_that_differ_in_more_than_the_hood_are_no_capture() -> None:
    for changed in (
        {"wood": "pine"},
        {"work": "ripping"},
        {"door": "open"},
        {"cleaner": "high"},
        {"place": "door"},
    ):
        made = document(levels(*RUNS), CALM, BARE, FALL, replace(HOODED, **changed))
        assert found(checked(made), "log-capture") == []


def test_what_cannot_be_told_of_a_capture_says_why() -> None:
    made = document(levels(*RUNS), BARE, FALL, HOODED)  # no background
    (said,) = found(checked(made), "log-capture")
    assert said.grade == Grade.WATCH and "no background is marked" in said.sentence
    assert list(STAGE.remedies["log-capture"](said, checked(made).answers, SAY)) == []


def test_what_got_into_the_air_is_that_of_the_balance() -> None:
    """A steady level of 400 at 2 changes an hour in the room's volume."""
    made = document(levels(*RUNS), CALM, BARE, FALL, HOODED)
    answers = checked(made).answers
    runs, volume = answers.of(RunAnswers), answers.of(LogAnswers)._answers.of
    expected = 400 * RATE * volume(RoomAnswers).volume / 60
    one = runs.emissions["bare"]
    assert one.low < expected < one.high and one.rate == pytest.approx(expected, rel=0.1)
    rate = runs.removal(BARE)
    assert not isinstance(rate, str) and rate[0] == pytest.approx(RATE, rel=0.1)
    reckoned = runs.removal(replace(BARE, cleaner="off", door="open"))  # no decay of that: as the plan has it
    assert not isinstance(reckoned, str) and reckoned[1] == reckoned[0] / 2 and reckoned[0] > 8
    assert "door stood open" in str(runs.removal(replace(BARE, door="not noted", cleaner="not noted")))


def test_confounded_runs_say_what_each_difference_explains() -> None:
    """The minutes and the door: of a source that runs twice as long more hangs; by an open door much less."""
    other = replace(HOODED, hood="none", end=100 * 60, door="open")
    made = document(levels((10, 25, 400), (70, 100, 400)), CALM, BARE, FALL, other)
    one = checked(made)
    (said,) = found(one, "log-compare")
    assert said.grade == Grade.WATCH and "cannot tell by what" in said.sentence
    assert "the door alone would make it" in said.why and "the minutes alone would make it" in said.why
    (comparison,) = one.answers.of(LogAnswers).comparisons
    parts = dict(one.answers.of(RunAnswers).explained(comparison))
    assert parts["the door"][1] < 0.7 and parts["the minutes"][1] > 1.3
    assert all(low <= middle <= high for low, middle, high in parts.values())


@pytest.mark.parametrize(
    ("changed", "says"),
    [
        ({"place": "bench"}, "where the monitor stood (saw, then bench)"),
        ({"wood": "MDF"}, "the wood (oak, then MDF)"),
    ],
)
def test_where_the_monitor_stood_is_a_difference(changed: dict, says: str) -> None:
    first = replace(BARE, place="saw")
    other = replace(HOODED, **({"hood": "none", "place": "saw"} | changed))
    made = document(levels((10, 25, 400), (70, 85, 20)), CALM, first, FALL, other)
    (said,) = found(checked(made), "log-compare")
    assert says in said.sentence and said.grade == Grade.GOOD  # the only one


def two_logs(one: np.ndarray, other: np.ndarray, apart: float = 0.0, head: str = "pm2.5 µg/m3") -> Document:
    made = Document(Shop(units="metric", room=box_room()))
    begun = datetime(2026, 3, 1, 9)
    for number, values in enumerate((one, other)):
        rows = [
            f"{begun + timedelta(minutes=float(m) + number * apart):%Y-%m-%d %H:%M:%S},{v:.4g}"
            for m, v in zip(MINUTES, values)
        ]
        made = attached(made, f"log-{number}.csv", "\n".join([f"time,{head}", *rows]).encode(), "log")
    return made


def marked(made: Document, *stretches: LogStretch) -> Document:
    return replace(made, shop=replace(made.shop, air=Air(stretches=stretches)))


def test_runs_of_two_logs_are_compared_each_above_its_own_background() -> None:
    second = {"log": "attachment-2"}
    made = marked(
        two_logs(levels((10, 40, 300)), 30 + levels((10, 40, 150)), apart=24 * 60),
        stretch("calm", "background", 0, 9),
        stretch("first", "work", 10, 40, hood="none", wood="oak", work="saw"),
        replace(stretch("calm-2", "background", 0, 9), **second),
        replace(stretch("second", "work", 10, 40, hood="on", wood="oak", work="saw"), **second),
    )
    (said,) = found(checked(made), "log-compare")
    assert said.about == ("second", "first") and said.figures["ratio"] == pytest.approx(0.5, abs=0.05)
    assert "the background (" in said.sentence and "cannot tell by what" in said.sentence


def test_backgrounds_that_differ_by_next_to_nothing_explain_nothing() -> None:
    """8 and 13 under runs that rise by some hundred: the hood alone differs."""
    second = {"log": "attachment-2"}
    made = marked(
        two_logs(levels((10, 40, 900)) - 2, levels((10, 40, 450)) + 3, apart=24 * 60),
        stretch("calm", "background", 0, 9),
        stretch("first", "work", 10, 40, hood="none", wood="oak", work="saw"),
        replace(stretch("calm-2", "background", 0, 9), **second),
        replace(stretch("second", "work", 10, 40, hood="on", wood="oak", work="saw"), **second),
    )
    (said,) = found(checked(made), "log-compare")
    assert said.grade == Grade.GOOD and "only the hood" in said.sentence


def test_two_monitors_side_by_side_agree_or_do_not() -> None:
    same = levels((10, 40, 300))
    (said,) = found(checked(marked(two_logs(same, same * 1.3))), "log-pair")
    assert said.grade == Grade.GOOD and said.figures["times"] == pytest.approx(1 / 1.3, rel=1e-3)
    (said,) = found(checked(marked(two_logs(same, same[::-1]))), "log-pair")
    assert said.grade == Grade.WATCH and "do not agree" in said.sentence
    (said,) = found(checked(marked(two_logs(same, same * 3))), "log-pair")
    assert said.grade == Grade.WATCH
    assert found(checked(marked(two_logs(same, same, apart=24 * 60))), "log-pair") == []


def test_a_monitor_is_tested_in_clean_air_and_before_a_source() -> None:
    values = levels((40, 60, 300))
    values[MINUTES > 90] = 0.5
    zero, source = stretch("zero", "zero", 95, 110), stretch("source", "source", 45, 60)
    one = checked(document(values, CALM, zero, source))
    assert {said.about[0]: said.grade for said in found(one, "log-test")} == {
        "zero": Grade.GOOD,
        "source": Grade.GOOD,
    }
    assert found(one, "log-untested") == []
    bad = checked(document(levels(), CALM, zero, source))
    assert {said.grade for said in found(bad, "log-test")} == {Grade.WATCH}
    untested = checked(document(values, CALM, BARE))
    (said,) = found(untested, "log-untested")
    assert said.grade == Grade.WATCH and found(checked(document(values, CALM)), "log-untested") == []


def test_a_background_that_moves_is_a_drift() -> None:
    values = levels() + np.where(MINUTES > 60, 8.0, 0.0)
    late = stretch("late", "background", 70, 90)
    (said,) = found(checked(document(values, CALM, late)), "log-drift")
    assert said.figures["times"] == pytest.approx(1.8, rel=0.05)
    assert found(checked(document(levels(), CALM, late)), "log-drift") == []


def other_columns(head: str, values: np.ndarray) -> Document:
    begun = datetime(2026, 3, 1, 9)
    rows = [
        f"{begun + timedelta(minutes=float(m)):%Y-%m-%d %H:%M:%S},5,{v:.5g}" for m, v in zip(MINUTES, values)
    ]
    made = Document(Shop(units="metric", room=box_room()))
    return attached(made, "log.csv", "\n".join([f"time,PM2.5,{head}", *rows]).encode(), "log")


@pytest.mark.parametrize(
    ("head", "level", "says"),
    [
        ("HCHO mg/m3", 0.2, "0.2 mg/m³ of formaldehyde"),
        ("HCHO mg/m3", 0.09, None),
        ("HCHO ppm", 0.09, "of formaldehyde"),
        ("TVOC mg/m3", 2.0, "ventilate"),
        ("TVOC mg/m3", 12.0, "do not stay"),
        ("TVOC mg/m3", 0.9, None),
        ("VOC index", 100.0, "not held against anything"),
        ("CO2 ppm", 1800.0, "carbon dioxide"),
        ("CO2 ppm", 1300.0, None),
    ],
)
def test_vapours_are_held_against_half_an_hours_mean(head: str, level: float, says: str | None) -> None:
    values = np.where((MINUTES > 30) & (MINUTES <= 70), level, 0.01)
    said = found(checked(other_columns(head, values)), "log-vapour")
    assert [says in one.sentence for one in said] == ([True] if says else [])
    short = np.where(
        (MINUTES > 30) & (MINUTES <= 35), level / 4, 0.01
    )  # a twenty-fourth of it over half an hour
    brief = found(checked(other_columns(head, short)), "log-vapour")
    assert ["not held" in one.sentence for one in brief] == ([True] if "index" in head else [])


def test_humid_air_is_told() -> None:
    damp = np.where(MINUTES > 80, 90.0, 50.0)
    (said,) = found(checked(other_columns("RH %", damp)), "log-humid")
    assert said.figures["share"] == pytest.approx(1 / 3, abs=0.02)
    assert found(checked(other_columns("RH %", damp * 0.8)), "log-humid") == []


def test_a_unit_that_is_told_counts() -> None:
    made = other_columns("HCHO", np.full(len(MINUTES), 90.0))
    told = replace(made, shop=put(made.shop, LogUnit(log="attachment-1", column="HCHO", unit="ppb")))
    assert found(checked(told), "log-vapour")[0].figures["level"] == pytest.approx(90 * 1.227e-3)
