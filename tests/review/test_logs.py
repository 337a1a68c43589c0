"""What logs say in the review, their cures, their report."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Any

import numpy as np
import pytest

from purvel.catalogue import dust_sizes, make_thing
from purvel.files import Document, attached
from purvel.review import Answers, Finding, Grade, Memory, Review, remedies_for, review
from purvel.review.air.log_answers import LogAnswers
from purvel.review.air.log_rules import known_changes
from purvel.review.room.answers import RoomAnswers
from purvel.roomair.dust import settling_rate
from purvel.shop import Air, Shop
from purvel.shop.air import LogStretch
from purvel.shop.edits import remove
from purvel.shop.faults import faults
from tests.conftest import box_room

MINUTES = np.arange(0, 120, 1 / 6)
RULES = ("log-unread", "log-odd", "log-puff", "log-decay", "log-compare", "log-untested")


def csv(levels: np.ndarray, head: str = "count 0.5um per l") -> bytes:
    start = datetime(2026, 3, 1, 9).timestamp() - datetime(1970, 1, 1).timestamp()
    stamps = np.datetime64(0, "s") + (start + MINUTES * 60).astype("timedelta64[s]")
    rows = [f"{stamp},{level:.5g}" for stamp, level in zip(stamps, levels)]
    return "\n".join([f"time,{head}", *rows]).encode()


def noise(seed: int = 1) -> np.ndarray:
    return 1 + 0.04 * np.random.default_rng(seed).normal(size=len(MINUTES))


def settles(height: float = 2.5) -> float:
    return max(dust_sizes()[0].settling, settling_rate(dust_sizes()[0].diameter, height))


def decaying(rate: float, start: float = 20.0) -> np.ndarray:
    """A background of 10, from a minute on a peak of 210 that falls by `rate` an hour."""
    return (10 + np.where(start > MINUTES, 0.0, 200 * np.exp(-rate * (MINUTES - start) / 60))) * noise()


def document(
    levels: np.ndarray,
    *stretches: LogStretch,
    things: tuple[Any, ...] = (),
    head: str = "count 0.5um per l",
    **air: Any,
) -> Document:
    made = attached(
        Document(Shop(units="metric", room=box_room(), things=things)), "log.csv", csv(levels, head), "log"
    )
    return replace(made, shop=replace(made.shop, air=Air(stretches=stretches, **air)))


def stretch(item: str, shows: Any, start: float, end: float, **noted: Any) -> LogStretch:
    noted = {"door": "shut", "cleaner": "off"} | noted
    return LogStretch(
        id=item, log="attachment-1", name=item, shows=shows, start=start * 60, end=end * 60, **noted
    )


def checked(made: Document) -> Review:
    return review(made.shop, Memory(attachments=made.named()))


def found(one: Review, rule: str) -> list[Finding]:
    return [finding for finding in one.findings if finding.rule == rule]


CALM = stretch("calm", "background", 0, 19)
FALL = stretch("fall", "decay", 20, 80)


def test_a_decay_less_what_settles_is_the_air_changes_and_is_taken_over() -> None:
    made = document(decaying(3.0 + settles()), CALM, FALL)
    one = checked(made)
    (said,) = found(one, "log-decay")
    assert said.grade is Grade.WATCH and said.figures["changes"] == pytest.approx(3.0, rel=0.06)
    assert said.figures["assumed"] == 0.5
    (cure,) = remedies_for(said, one.answers)
    after = cure.edit(made.shop)
    assert after.air.ach_closed == pytest.approx(3.0, rel=0.06) and after.air.ach_measured == "closed"
    assert "measured" in known_changes(after.air)
    (then,) = found(checked(replace(made, shop=after)), "log-decay")
    assert then.grade is Grade.GOOD
    assert "Take it over" in cure.label


def test_with_the_door_open_it_is_the_other_figure() -> None:
    fall = replace(FALL, door="open")
    one = checked(document(decaying(3.0 + settles()), CALM, fall, ach_measured="closed"))
    (said,) = found(one, "log-decay")
    (cure,) = remedies_for(said, one.answers)
    after = cure.edit(one.answers.base).air
    assert after.ach_open == pytest.approx(3.0, rel=0.06) and after.ach_measured == "both"
    assert after.ach_closed == 0.5


def test_what_a_cleaner_reaches_is_measured() -> None:
    cleaner = make_thing("air-cleaner", "cleaner", 2.0, 2.0)
    assert cleaner.cleaner is not None
    volume = Answers(Shop(room=box_room()), Memory()).of(RoomAnswers).volume
    whole = 3600 * cleaner.cleaner.flow * cleaner.cleaner.efficiency[0] / volume
    rate = 0.5 + 0.4 * whole + settles()
    one = checked(document(decaying(rate), CALM, replace(FALL, cleaner="high"), things=(cleaner,)))
    (said,) = found(one, "log-decay")
    assert said.figures["assumed"] == pytest.approx(0.5 + whole * cleaner.cleaner.mixing)
    (cure,) = remedies_for(said, one.answers)
    after = cure.edit(one.answers.base).things[0].cleaner
    assert after is not None and after.mixing == pytest.approx(0.4, rel=0.15)


@pytest.mark.parametrize(
    ("noted", "says"),
    [
        ({"door": "not noted"}, "whether a door stood open"),
        ({"cleaner": "not noted"}, "how the cleaner ran"),
        ({"cleaner": "low"}, "what the cleaner moves at low"),
    ],
)
def test_what_was_not_noted_is_asked_for_and_nothing_is_taken_over(noted: dict[str, Any], says: str) -> None:
    cleaner = make_thing("air-cleaner", "cleaner", 2.0, 2.0)
    one = checked(document(decaying(3.0), CALM, replace(FALL, **noted), things=(cleaner,)))
    (said,) = found(one, "log-decay")
    assert says in said.sentence and said.grade is Grade.WATCH
    assert remedies_for(said, one.answers) == ()


def test_a_decay_that_cannot_be_told() -> None:
    one = checked(document(50 * noise(), CALM, FALL))
    (said,) = found(one, "log-decay")
    assert "cannot be told" in said.sentence and said.figures == {} and remedies_for(said, one.answers) == ()


def two_cuts(second: float) -> np.ndarray:
    one, other = (MINUTES > 20) & (MINUTES < 40), (MINUTES > 60) & (MINUTES < 80)
    return (10 + 90.0 * one + second * other) * noise()


FIRST = stretch("first", "work", 21, 39, hood="none", wood="oak", work="ripping")
SECOND = stretch("second", "work", 61, 79, hood="on", wood="oak", work="ripping")


def test_one_difference_is_believed_and_named() -> None:
    (said,) = found(checked(document(two_cuts(30), CALM, FIRST, SECOND)), "log-compare")
    assert said.grade is Grade.GOOD and said.figures["ratio"] == pytest.approx(1 / 3, rel=0.05)
    assert "66% less dust" in said.sentence and "only the hood (none, then on) differed" in said.sentence


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"cleaner": "high"}, "how the cleaner ran (off, then high)"),
        ({"wood": "pine"}, "the wood (oak, then pine)"),
        ({"door": "open"}, "the door (shut, then open)"),
        ({"start": 72 * 60.0}, "the minutes (18, then 7)"),
        ({"work": "sanding"}, "the work (ripping, then sanding)"),
    ],
)
def test_two_differences_are_both_named_and_not_believed(changes: dict[str, Any], says: str) -> None:
    other = replace(SECOND, **changes)
    (said,) = found(checked(document(two_cuts(30), CALM, FIRST, other)), "log-compare")
    assert said.grade is Grade.WATCH and "cannot tell by what" in said.sentence
    assert "the hood" in said.sentence and says in said.sentence


def test_what_was_not_noted_keeps_a_comparison_open() -> None:
    (said,) = found(
        checked(document(two_cuts(30), CALM, FIRST, replace(SECOND, wood="", cleaner="not noted"))),
        "log-compare",
    )
    assert said.grade is Grade.WATCH and "until how the cleaner ran, the wood is noted" in said.sentence


def test_no_difference_cannot_be_told() -> None:
    (said,) = found(checked(document(two_cuts(90), CALM, FIRST, SECOND)), "log-compare")
    assert "cannot tell" in said.sentence and said.grade is Grade.WATCH


def test_a_puff_and_what_is_odd_are_said() -> None:
    levels = two_cuts(30)
    levels += np.where(MINUTES >= 61, 400 * np.exp(-(MINUTES - 61) * 60 / 20), 0)
    levels[20:35] = 12.0
    one = checked(document(levels, CALM, FIRST, SECOND))
    (said,) = found(one, "log-puff")
    assert said.about == ("second",) and said.figures["times"] > 10
    assert found(one, "log-odd") == []
    levels[0:100] = 12.0
    (odd,) = found(checked(document(levels, CALM)), "log-odd")
    assert "stood still for 16 min" in odd.sentence


def test_a_log_that_cannot_be_read_says_so() -> None:
    made = attached(Document(Shop(room=box_room())), "notes.csv", b"not a log", "log")
    one = checked(made)
    (said,) = found(one, "log-unread")
    assert "notes.csv" in said.sentence and "fewer than three lines" in said.why


def test_without_a_room_or_a_day_the_log_still_speaks() -> None:
    made = document(decaying(3.0), CALM, FALL)
    made = replace(made, shop=replace(made.shop, room=Shop().room))
    (said,) = found(checked(made), "log-decay")
    assert "without the room" in said.sentence
    assert {one.rule for one in checked(made).findings if one.stage == "air"} <= set(RULES)


def test_a_log_goes_with_its_stretches() -> None:
    made = document(decaying(3.0), CALM, FALL)
    assert faults(made.shop) == []
    gone = remove(made.shop, "attachment-1")
    assert gone.air.stretches == () and gone.attachments == ()


def test_a_stretch_has_the_readings_at_both_its_ends() -> None:
    """Every 10 s from minute 20 to minute 80: 6 x 60 and one more."""
    made = document(decaying(3.0), CALM, FALL)
    logs = checked(made).answers.of(LogAnswers)
    seconds, values = logs.readings(FALL)
    assert len(seconds) == len(values) == 361
    assert (seconds[0], seconds[-1]) == (20 * 60, 80 * 60)
