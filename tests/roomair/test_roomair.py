"""Room air against reference cases, an ODE solver, and what must hold for any day."""

from dataclasses import replace
from math import exp, log

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from purvel.catalogue import captures, cleaners, dust_sizes, operations
from purvel.roomair import dust
from purvel.roomair.day import simulate
from purvel.roomair.stretches import Extraction, past_hoods
from purvel.shop import Air, Cleaner, Session, WorkInterval
from tests.reference import CASES, holds

SIZES = dust_sizes()


def saw_for(
    minutes: float, start: float = 10.0, capture: tuple[float, float, float] = (0.0, 0.0, 0.0)
) -> WorkInterval:
    return WorkInterval(
        id=f"s{start}", start=start, minutes=minutes, emission=(34.0, 170.0, 850.0), capture=capture
    )


AIR = Air(session=Session(minutes=120, work=(saw_for(20),), run_on=30))


@pytest.mark.parametrize("case", [name for name in CASES if name.startswith("settle")])
def test_settling(case: str) -> None:
    size = CASES[case]["inputs"]["d_um"]
    assert holds(case, "Cc", dust.slip_correction(size))
    assert holds(case, "v_s", dust.settling_speed(size))
    assert holds(case, "k_dep", dust.settling_rate(size, 2.44))


def test_sampling_conventions() -> None:
    assert holds("box-07", "I10", dust.inhalable(10))
    assert holds("box-07", "T10", dust.thoracic(10))
    assert holds("box-07", "R4", dust.respirable(4))


def test_a_day_for_a_pocket_calculator() -> None:
    """One size only matters late: 30 min after the cut the fine dust has fallen by exp(-lambda/2) with its
    own lambda.
    """
    day = simulate(60.0, AIR, {}, SIZES)
    course = day.courses["central"]
    fine = course.by_size[:, 1]
    at = {minute: int(np.argmin(np.abs(day.times - minute))) for minute in (30.0, 60.0)}
    removal = 0.5 + SIZES[1].settling
    assert fine[at[60.0]] / fine[at[30.0]] == pytest.approx(exp(-removal * 0.5), rel=1e-9)
    released = 170 * 60 * SIZES[1].share
    assert fine[at[30.0]] == pytest.approx(released / 60 / removal * (1 - exp(-removal / 3)), rel=1e-9)


def test_a_day_agrees_with_an_ode_solver() -> None:
    cleaner = Cleaner(flow=0.2, efficiency=(0.5, 0.85, 0.9, 0.95), mixing=0.8)
    air = replace(AIR, session=replace(AIR.session, work=(saw_for(20), saw_for(15, 40.0, (0.5, 0.65, 0.8)))))
    day = simulate(60.0, air, {"box": cleaner}, SIZES)
    removal = np.array(
        [3600 * 0.2 * e * 0.8 / 60 + 0.5 + size.settling for e, size in zip(cleaner.efficiency, SIZES)]
    )
    shares = np.array([size.share for size in SIZES])

    def rate(minute: float) -> float:
        return 170.0 * (10 <= minute < 30) + 170.0 * 0.35 * (40 <= minute < 55)

    solved = np.zeros(4)
    dose = 0.0
    for a, b in ((0, 10), (10, 30), (30, 40), (40, 55), (55, 85)):
        middle = rate((a + b) / 2) * 60
        run = solve_ivp(
            lambda t, c, g=middle: g * shares / 60 - removal * c,
            (a / 60, b / 60),
            solved,
            rtol=1e-10,
            atol=1e-13,
            dense_output=True,
        )
        hours = np.linspace(a / 60, b / 60, 4001)
        dose += np.trapezoid(run.sol(hours).sum(axis=0), hours)
        solved = run.y[:, -1]
    at = int(np.argmin(np.abs(day.times - 85.0)))
    assert day.courses["central"].by_size[at] == pytest.approx(solved, rel=1e-6)
    until = day.courses["central"].mean * 2.0
    assert until == pytest.approx(dose, rel=0.001)  # what is left after minute 85 is next to nothing


def test_time_to_clear_is_the_logarithm() -> None:
    """With one size class alone the time from C to the level is ln(C/level)/lambda."""
    only = (replace(SIZES[0], share=1.0),)
    cleaner = Cleaner(flow=0.0, efficiency=(0.0, 0.0, 0.0, 0.0))
    air = replace(AIR, ach_closed=2.0, session=replace(AIR.session, run_on=0.0))
    day = simulate(60.0, air, {"box": cleaner}, only)
    course = day.courses["central"]
    removal = 2.0 + only[0].settling
    assert course.peak_at == pytest.approx(30.0)
    assert course.clear_after == pytest.approx(60 * log(course.peak / air.clean_level) / removal, rel=1e-6)


def test_coarse_dust_falls_longer_in_a_high_room_and_fine_dust_as_it_was_measured() -> None:
    low, high = dust.settled(SIZES, 2.44), dust.settled(SIZES, 4.88)
    assert low[3].settling == pytest.approx(18.0, rel=0.03)  # 20 um: 0.0121 m/s x 3600 / 2.44
    assert high[3].settling == pytest.approx(low[3].settling / 2)
    assert [size.settling for size in high[:3]] == [size.settling for size in SIZES[:3]]
    assert dust.settled(SIZES, 1000.0) == SIZES
    averages = [simulate(60.0, AIR, {}, sizes).courses["central"].average_8h for sizes in (low, high)]
    assert averages[0] < averages[1]


def test_nothing_is_clear_where_nothing_leaves() -> None:
    still = (replace(SIZES[0], share=1.0, settling=0.0),)
    day = simulate(60.0, replace(AIR, ach_closed=0.0), {}, still)
    assert day.courses["central"].clear_after is None


def test_what_gets_past_the_hoods_is_what_is_cut_within_the_session() -> None:
    """170 mg/min, 65 % caught: 15 min leave 892.5 mg; of the interval that begins 10 min before the end only
    10 min count, uncaught.
    """
    intervals = (
        replace(saw_for(15, 0.0, (0.5, 0.65, 0.8)), thing="saw"),
        replace(saw_for(30, 50.0), id="late", thing="saw"),
        saw_for(5, 20.0),
    )
    air = replace(AIR, session=replace(AIR.session, minutes=60.0, work=intervals))
    assert past_hoods(air) == {"saw": pytest.approx(170 * 15 * 0.35 + 170 * 10)}
    in_the_air = (
        simulate(60.0, replace(air, ach_closed=0.0), {}, tuple(replace(size, settling=0.0) for size in SIZES))
        .courses["central"]
        .total[-1]
        * 60
    )
    unnamed = 170 * 5
    assert in_the_air == pytest.approx(past_hoods(air)["saw"] + unnamed, rel=1e-3)


def test_mass_is_kept() -> None:
    """All that is thrown off is in the air when nothing removes it: 170 mg/min x 20 min in 60 m3."""
    still = tuple(replace(size, settling=0.0) for size in SIZES)
    day = simulate(60.0, replace(AIR, ach_closed=0.0), {}, still)
    assert day.courses["central"].total[-1] == pytest.approx(
        170 * 20 / 60 * sum(size.share for size in SIZES), rel=1e-9
    )


@settings(max_examples=30, deadline=None)
@given(st.floats(10, 300), st.floats(0.01, 0.5), st.floats(0.1, 5))
def test_more_clean_air_is_never_worse_and_bands_keep_their_order(
    volume: float, flow: float, changes: float
) -> None:
    air = replace(AIR, ach_closed=changes)
    cleaner = Cleaner(flow=flow, efficiency=(0.5, 0.85, 0.9, 0.95))
    without, with_it = simulate(volume, air, {}, SIZES), simulate(volume, air, {"box": cleaner}, SIZES)
    assert with_it.courses["central"].average_8h <= without.courses["central"].average_8h
    low, central, high = (with_it.courses[band].average_8h for band in ("low", "central", "high"))
    assert low <= central <= high


def test_the_catalogue_of_dust_holds_together() -> None:
    assert sum(size.share for size in SIZES) == pytest.approx(1.0, abs=1e-3)
    assert [size.settling for size in SIZES] == sorted(size.settling for size in SIZES)
    for one in operations().values():
        assert one.hoods[0] == "none" and 0 < one.cutting < 1
        shares = [captures()[key].share[1] for key in one.hoods]
        assert shares == sorted(shares)
    for capture in captures().values():
        assert list(capture.share) == sorted(capture.share)
    assert cleaners()["hepa"].efficiency[0] > 0.99


BAG = Extraction("bag", 0.2, (0.5, 0.9, 0.98, 0.999))


def test_work_that_begins_after_the_session_counts_for_nothing() -> None:
    late = replace(saw_for(20, 200.0), id="late")
    air = replace(AIR, session=replace(AIR.session, minutes=60.0, work=(saw_for(20), late)))
    day, without = simulate(60.0, air, {}, SIZES), simulate(60.0, AIR, {}, SIZES)
    assert day.last_cut == without.last_cut == 30.0
    assert day.courses["central"].clear_after == pytest.approx(without.courses["central"].clear_after)


def test_only_what_is_really_cut_is_thrown_off() -> None:
    third = replace(AIR, session=replace(AIR.session, work=(replace(saw_for(20), cutting=0.3),)))
    whole, part = (simulate(60.0, air, {}, SIZES).courses["central"] for air in (AIR, third))
    assert part.average_8h == pytest.approx(0.3 * whole.average_8h)
    assert part.personal_8h == pytest.approx(0.3 * whole.personal_8h)


def test_at_the_tool_there_is_more_than_in_the_room() -> None:
    """170 mg/min past no hood into 8 m3/min are 21.25 mg/m3 more while it runs, 20 min of 8 h: 0.885 mg/m3;
    the band runs from 34/30 to 850/6.
    """
    day = simulate(60.0, AIR, {}, SIZES)
    for band, more in (("low", 34 / 30), ("central", 170 / 8), ("high", 850 / 6)):
        course = day.courses[band]  # type: ignore[index]
        at = int(np.argmin(np.abs(day.times - 20.0)))
        assert course.personal[at] - course.total[at] == pytest.approx(more)
        shares = sum(size.share for size in SIZES)
        assert course.personal_8h - course.average_8h == pytest.approx(more * 20 / 480 * shares)
        after = int(np.argmin(np.abs(day.times - 50.0)))
        assert course.personal[after] == course.total[after]
    central = day.courses["central"]
    assert central.personal_peak == pytest.approx(float(central.total.max()) + 170 / 8, rel=0.01)


def test_two_pieces_of_work_at_once_are_breathed_at_the_worse() -> None:
    both = (saw_for(20), replace(saw_for(20, capture=(0.5, 0.65, 0.8)), id="other"))
    day = simulate(60.0, replace(AIR, session=replace(AIR.session, work=both)), {}, SIZES)
    running = next(one for one in day.stretches if len(one.intervals) == 2)
    assert running.near["central"] == pytest.approx(170 / 8)


def test_a_collector_that_blows_back_cleans_the_room_and_dirties_it() -> None:
    """What it lets through comes back, by size; its flow times its efficiency takes dust out of the air."""
    caught = replace(AIR, session=replace(AIR.session, work=(saw_for(20, capture=(0.8, 0.9, 1.0)),)))
    day = simulate(60.0, caught, {}, SIZES, {"s10.0": BAG})
    running = next(one for one in day.stretches if one.intervals)
    for index, size in enumerate(SIZES):
        past = 170 * 60 * (0.1 + 0.9 * (1 - BAG.efficiency[index])) * size.share
        assert running.released["central"][index] == pytest.approx(past)
        cleaned = 3600 * 0.2 * BAG.efficiency[index] / 60 + 0.5 + size.settling
        assert running.removal[index] == pytest.approx(cleaned)
    idle = next(one for one in day.stretches if not one.intervals)
    assert idle.removal[0] == pytest.approx(0.5 + SIZES[0].settling)
    fine = simulate(60.0, caught, {}, SIZES, {"s10.0": replace(BAG, efficiency=(0.999,) * 4)})
    assert fine.courses["central"].average_8h < day.courses["central"].average_8h


def test_a_collector_that_blows_outdoors_takes_the_rooms_air_with_it() -> None:
    caught = replace(
        AIR, outdoors=0.02, session=replace(AIR.session, work=(saw_for(20, capture=(0.8, 0.9, 1.0)),))
    )
    out = replace(BAG, outdoors=True, efficiency=(0.0,) * 4)
    running = next(
        one for one in simulate(60.0, caught, {}, SIZES, {"s10.0": out}).stretches if one.intervals
    )
    assert running.removal[0] == pytest.approx(12.0 + 0.5 + SIZES[0].settling)
    assert running.released["central"][0] == pytest.approx(170 * 60 * 0.1 * SIZES[0].share)
    assert running.entering[0] == pytest.approx((0.5 * 60 + 720) * 0.8 * 0.02 / 2)  # make-up air


def test_two_hoods_on_one_collector_draw_once() -> None:
    both = (saw_for(20), replace(saw_for(20), id="other"))
    air = replace(AIR, session=replace(AIR.session, work=both))
    more = replace(BAG, flow=0.3)
    running = next(
        one
        for one in simulate(60.0, air, {}, SIZES, {"s10.0": BAG, "other": more}).stretches
        if one.intervals
    )
    assert running.removal[0] == pytest.approx(3600 * 0.3 * 0.5 / 60 + 0.5 + SIZES[0].settling)


def test_outdoor_dust_is_the_background_and_no_wood_dust() -> None:
    """It starts where the shut room holds it, C_out P ACH/(ACH + k), and stays there without work."""
    air = replace(
        AIR, outdoors=0.04, session=Session(minutes=240, work=(replace(saw_for(1), emission=(0, 0, 0)),))
    )
    course = simulate(60.0, air, {}, SIZES).courses["central"]
    for index in (0, 1):
        steady_level = 0.5 * 0.8 * 0.02 / (0.5 + SIZES[index].settling)
        assert course.by_size[:, index] == pytest.approx(np.full(len(course.total), steady_level))
    assert course.average_8h == 0 and course.personal_8h == 0 and course.mean == 0
    assert course.peak == pytest.approx(course.total[0]) and course.peak > 0


def test_doors_that_lead_into_the_house_bring_no_outdoor_air() -> None:
    opened = replace(AIR, session=replace(AIR.session, doors_open=True))
    inner = simulate(60.0, opened, {}, SIZES, leads_out=False)
    shut = simulate(60.0, AIR, {}, SIZES)
    assert inner.courses["central"].average_8h == pytest.approx(shut.courses["central"].average_8h)
    assert (
        simulate(60.0, opened, {}, SIZES).courses["central"].average_8h < inner.courses["central"].average_8h
    )


def test_fine_dust_clears_by_its_own_level() -> None:
    """Below 2.5 um: the first two classes, until they are under 15 ug/m3; the logarithm for one class."""
    only = (replace(SIZES[0], share=1.0),)
    air = replace(AIR, ach_closed=2.0, clean_fine=0.05)
    course = simulate(60.0, air, {}, only).courses["central"]
    assert course.fine_clear_after == pytest.approx(
        60 * log(course.peak / 0.05) / (2.0 + only[0].settling), rel=1e-6
    )
    coarse = (replace(SIZES[3], share=1.0),)
    assert simulate(60.0, air, {}, coarse).courses["central"].fine_clear_after == 0.0


def test_the_shares_are_those_of_inhalable_dust() -> None:
    """Log-normal 15 um, 2.5, weighted by the inhalable convention and put to 1: by numerical integration."""
    diameters = np.exp(np.linspace(log(0.01), log(300.0), 200_001))
    density = np.exp(-(np.log(diameters / 15.0) ** 2) / (2 * log(2.5) ** 2))
    weight = density * np.array([dust.inhalable(d) for d in diameters])
    for size, low, high in zip(SIZES, (0.0, 1.0, 2.5, 10.0), (1.0, 2.5, 10.0, 1e9)):
        within = weight[(diameters >= low) & (diameters < high)].sum() / weight.sum()
        assert size.share == pytest.approx(within, abs=0.002)


def test_cleaners_are_quoted_for_fine_dust() -> None:
    cleaner = Cleaner(flow=0.25, efficiency=(0.5, 0.85, 0.9, 0.95), mixing=0.8)
    assert simulate(60.0, AIR, {"box": cleaner}, SIZES).clean_delivery == pytest.approx(0.25 * 0.85 * 0.8)
