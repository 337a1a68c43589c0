"""Bands of a day, and that a day is linear in what is thrown off: by hand."""

from dataclasses import replace

import numpy as np
import pytest

from purvel.catalogue import dust_sizes
from purvel.roomair.day import simulate
from purvel.roomair.stretches import NEAR_EXCHANGE, Extraction
from purvel.shop import Air, Session, WorkInterval

SIZES = dust_sizes()
WORK = WorkInterval(
    id="w", start=10.0, minutes=20.0, emission=(30.0, 100.0, 900.0), capture=(0.1, 0.5, 0.8), cutting=0.5
)
AIR = Air(session=Session(minutes=60, work=(WORK,)))
THROWN = {"low": 30.0 * 0.2, "central": 100.0 * 0.5, "high": 900.0 * 0.9}
"""What gets past the hood [mg/min] while it cuts: the least with the best hood, the most with the worst."""


@pytest.mark.parametrize("band", ["low", "central", "high"])
def test_the_least_is_thrown_past_the_best_hood(band: str) -> None:
    """Half the minutes are really cutting; by size as its share."""
    day = simulate(50.0, AIR, {}, SIZES)
    (cutting,) = [one for one in day.stretches if one.intervals == ("w",)]
    wanted = [THROWN[band] * 0.5 * 60.0 * size.share for size in SIZES]
    assert cutting.released[band] == pytest.approx(tuple(wanted))
    near = THROWN[band] * 0.5 / NEAR_EXCHANGE[band]
    assert cutting.near[band] == pytest.approx(near)
    assert all(one.near[band] == 0.0 for one in day.stretches if one is not cutting)


@pytest.mark.parametrize("band", ["low", "central", "high"])
def test_what_is_caught_comes_back_through_the_filter(band: str) -> None:
    """A filter that holds 0.9 of every size lets a tenth of what the hood catches back into the room."""
    caught = {"low": 30.0 * 0.8, "central": 100.0 * 0.5, "high": 900.0 * 0.1}[band]
    blows_back = Extraction("collector", 0.2, (0.9,) * len(SIZES))
    day = simulate(50.0, AIR, {}, SIZES, {"w": blows_back})
    (cutting,) = [one for one in day.stretches if one.intervals == ("w",)]
    whole = (THROWN[band] + 0.1 * caught) * 0.5 * 60.0
    assert sum(cutting.released[band]) == pytest.approx(whole)
    outdoors = simulate(50.0, AIR, {}, SIZES, {"w": replace(blows_back, outdoors=True)})
    (cutting,) = [one for one in outdoors.stretches if one.intervals == ("w",)]
    assert sum(cutting.released[band]) == pytest.approx(THROWN[band] * 0.5 * 60.0)


def test_three_times_the_dust_is_three_times_the_day() -> None:
    indoors = replace(AIR, outdoors=0.0)
    more = replace(WORK, emission=tuple(3 * one for one in WORK.emission))
    one = simulate(50.0, indoors, {}, SIZES).courses
    three = simulate(50.0, replace(indoors, session=replace(AIR.session, work=(more,))), {}, SIZES).courses
    for band, course in one.items():
        assert np.allclose(three[band].total, 3 * course.total)
        for figure in ("peak", "mean", "average_8h", "personal_8h", "personal_peak", "respirable_8h"):
            assert getattr(three[band], figure) == pytest.approx(3 * getattr(course, figure)), figure
        assert three[band].peak_at == course.peak_at == 30.0
        assert (three[band].clear_after or 0.0) > (course.clear_after or 0.0)


def test_two_pieces_apart_add_up_in_the_room() -> None:
    indoors = replace(AIR, outdoors=0.0)
    later = replace(WORK, id="x", start=40.0, minutes=10.0, emission=(10.0, 20.0, 40.0))

    def course(*work: WorkInterval) -> np.ndarray:
        day = simulate(50.0, replace(indoors, session=replace(AIR.session, work=work)), {}, SIZES)
        within = day.times <= 60.0
        marks = np.arange(0.0, 60.0, 1.0)
        return np.interp(marks, day.times[within], day.courses["central"].total[within])

    assert np.allclose(course(WORK) + course(later), course(WORK, later), rtol=1e-4, atol=1e-4)


def test_a_room_twice_as_large_with_the_same_air_changes_holds_half() -> None:
    indoors = replace(AIR, outdoors=0.0)
    one, other = (simulate(volume, indoors, {}, SIZES).courses["central"] for volume in (50.0, 100.0))
    assert np.allclose(one.total, 2 * other.total)


def test_measured_pm25_takes_the_place_of_what_is_thrown_off_up_to_that_size() -> None:
    """0.6, 1 and 2 mg a minute, whatever the emission; in the shares of the two fine sizes, less what the
    hood usually takes, and with what its collector lets through.
    """
    (work,) = AIR.session.work
    fine = replace(work, fine=(0.6, 1.0, 2.0))
    leaky = Extraction("vac", 0.01, (0.5, 0.9, 0.99, 1.0))
    for blows, passes in (({}, (1.0, 1.0)), ({"w": leaky}, (0.5, 0.1))):
        measured = simulate(50.0, replace(AIR, session=replace(AIR.session, work=(fine,))), {}, SIZES, blows)
        plain = simulate(50.0, AIR, {}, SIZES, blows)
        at = next(k for k, one in enumerate(plain.stretches) if one.intervals)
        shares = [size.share / (SIZES[0].share + SIZES[1].share) for size in SIZES[:2]]
        caught = work.capture[1]
        for band, rate in (("low", 0.6), ("central", 1.0), ("high", 2.0)):
            thrown = measured.stretches[at].released[band]
            back = (caught * one for one in passes) if blows else (0.0, 0.0)
            assert thrown[:2] == pytest.approx(
                [60.0 * rate * share * (1 - caught + more) for share, more in zip(shares, back)]
            )
            assert thrown[2:] == plain.stretches[at].released[band][2:] and thrown[2] > 0
        assert measured.stretches[at].near == plain.stretches[at].near
