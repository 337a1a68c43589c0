"""Upkeep by the day of the Air stage where there are no jobs; the bin in the calendar."""

from dataclasses import replace

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.lists.calendar import calendar_ics
from purvel.review import Answers, Memory
from purvel.review.air.days import keep_as_other
from purvel.review.keep.answers import KeepAnswers
from purvel.shop import Shop
from purvel.shop.edits import change_air
from purvel.shop.upkeep import Bin
from purvel.upkeep.bins import DAYS


@pytest.fixture
def shop() -> Shop:
    shop = loads(demo_bytes("garage-mended")).shop
    return replace(shop, jobs=())


def keep(shop: Shop) -> KeepAnswers:
    return Answers(shop, Memory()).of(KeepAnswers)


def test_hours_and_waste_follow_the_days_of_a_week(shop: Shop) -> None:
    one = shop.air.session.work[0]
    two, three = (keep(change_air(shop, days=(days, 0))) for days in (2, 3))
    assert two.hours[one.thing or ""] == pytest.approx(one.minutes / 60 * 2 * DAYS / 7)
    assert three.removed.mass == pytest.approx(1.5 * two.removed.mass) and two.removed.mass > 0
    both = keep(change_air(keep_as_other(shop), days=(2, 1)))
    assert both.removed.mass == pytest.approx(three.removed.mass)
    assert keep(change_air(shop, days=(0, 0))).removed.mass == 0.0


def test_with_jobs_the_jobs_count_alone(shop: Shop) -> None:
    with_jobs = loads(demo_bytes("garage-mended")).shop
    assert (
        keep(change_air(with_jobs, days=(5, 0))).removed == keep(change_air(with_jobs, days=(1, 0))).removed
    )


def test_the_bin_is_in_the_calendar_at_the_soonest(shop: Shop) -> None:
    full = replace(shop, upkeep=replace(shop.upkeep, bin=Bin(volume=0.1)))
    text = calendar_ics(full)
    assert "SUMMARY:Empty the bin" in text and "UID:bin@purvel" in text
    without = replace(shop, upkeep=replace(shop.upkeep, bin=None))
    assert "Empty the bin" not in calendar_ics(without)
