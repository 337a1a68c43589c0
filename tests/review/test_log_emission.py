"""The PM2.5 that a run gave off, told and taken over."""

from dataclasses import replace
from typing import Any

import pytest

from purvel.review import Grade, remedies_for
from purvel.review.air import STAGE
from purvel.review.air.answers import AirAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Session, WorkInterval
from tests.review.test_log_runs import BARE, CALM, FALL, HOODED, RATE, RUNS, SAY, levels
from tests.review.test_logs import checked, document, found


def test_the_pm25_that_got_into_the_air_is_taken_over_for_the_fine_dust_alone() -> None:
    """A steady 400 ug/m3 at 2 changes an hour: in 40 m3 32 mg an hour, 0.53 a minute."""
    work = (
        WorkInterval(id="sand", name="Sanding", start=10, minutes=30),
        WorkInterval(id="saw", name="Sawing", start=90, emission=(0.0, 0.0, 0.0)),
    )
    session = Session(work=work, minutes=200)
    runs = (levels(*RUNS), CALM, BARE, FALL, HOODED)
    assert found(checked(document(*runs, session=session)), "log-emission") == []  # counts are no mass
    made = document(*runs, session=session, head="pm2.5 ug/m3")
    before = checked(made)
    bare, hooded = found(before, "log-emission")
    expected = 400e-3 * RATE * before.answers.of(RoomAnswers).volume / 60
    assert bare.figures["emitted"] == pytest.approx(expected, rel=0.1)
    assert hooded.figures["emitted"] == pytest.approx(0.15 * expected, rel=0.2)
    low, high = bare.figures["low"], bare.figures["high"]
    assert 0.5 * expected < low < 0.9 * expected and 1.1 * expected < high < 2.0 * expected
    assert "mg of PM2.5 a minute" in bare.sentence
    assert (bare.grade, hooded.grade) == (Grade.WATCH, Grade.WATCH)
    (cure,) = remedies_for(bare, before.answers)
    assert "“Sanding”" in cure.label and "measured" in cure.label and "Good: " in cure.outcome
    after = cure.edit(made.shop)
    sand = after.air.session.work[0]
    assert sand.fine is not None and sand.fine[1] == pytest.approx(expected, rel=0.1)
    assert sand.fine[0] < sand.fine[1] < sand.fine[2] and not sand.measured
    again = checked(replace(made, shop=after))
    assert {one.about: one.grade for one in found(again, "log-emission")}[("bare",)] == Grade.GOOD
    why = found(again, "exposure")[0].why
    assert "What Sanding gives off of PM2.5 is as your monitor read it; the coarse dust" in why
    days = [one.answers.of(AirAnswers).day for one in (before, again)]
    assert days[0] is not None and days[1] is not None
    fine, all_dust = ([day.courses["central"] for day in days if day] for _ in range(2))
    # what is coarser hangs as before: all dust changed by just as much as the fine did
    changed = fine[1].fine - fine[0].fine
    assert all_dust[1].total - all_dust[0].total == pytest.approx(changed, abs=1e-9)
    assert float(abs(changed).max()) > 1e-3


@pytest.mark.parametrize(
    ("hood", "usually", "times"),
    [("on", 0.6, 2.5), ("none", 0.6, 1.0), ("not noted", 0.6, None), ("on", 0.97, None)],
)
def test_pm25_that_got_past_a_hood_is_reckoned_back_to_none(
    hood: Any, usually: float, times: float | None
) -> None:
    """Of what a hood takes 60 % of, 0.4 get past. A run of which no hood is noted tells nothing, nor does one
    of which next to nothing gets past.
    """
    sand = WorkInterval(id="sand", name="Sanding", start=10, capture=(usually - 0.1, usually, 1.0))
    runs = (levels(*RUNS), CALM, BARE, FALL, replace(HOODED, hood=hood))
    one = checked(document(*runs, session=Session(work=(sand,), minutes=200), head="pm2.5 ug/m3"))
    said = next(each for each in found(one, "log-emission") if each.about == ("hooded",))
    taken = [
        edit(one.answers.base).air.session.work[0].fine
        for _, edit in STAGE.remedies["log-emission"](said, one.answers, SAY)
    ]
    if times is None:
        assert taken == []
    else:
        assert [fine[1] for fine in taken] == [pytest.approx(said.figures["emitted"] * times, rel=0.01)]


def test_what_was_measured_is_taken_over_though_it_shows_that_the_air_is_worse() -> None:
    """A day that was called clear at once: measured, its fine dust is not."""
    sand = WorkInterval(id="sand", name="Sanding", start=10, minutes=30, emission=(0.0, 0.0, 0.0))
    made = document(
        levels((10.0, 25.0, 4000.0), (70.0, 85.0, 60.0)),
        CALM,
        BARE,
        FALL,
        session=Session(work=(sand,), minutes=200, run_on=0.0),
        head="pm2.5 ug/m3",
    )
    before = checked(made)
    (bare,) = found(before, "log-emission")
    (cure,) = remedies_for(bare, before.answers)
    after = checked(replace(made, shop=cure.edit(made.shop)))
    clearing = [found(one, "clearing")[0].grade for one in (before, after)]
    assert clearing[1] < clearing[0] == Grade.GOOD
