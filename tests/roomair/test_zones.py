"""Rooms that share their air: against the reference case, an ODE solver, and what must hold for any rooms."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from purvel.catalogue import dust_sizes
from purvel.roomair.day import simulate
from purvel.roomair.mixing import even, respond
from purvel.roomair.people import breathed_by
from purvel.roomair.zones import doorway, exchange, hatch
from purvel.shop import Air, Cleaner, NextRoom, Passage, Person, Session, Spell, WorkInterval

SIZES = dust_sizes()
SAW = WorkInterval(id="saw", start=10, minutes=20, emission=(34.0, 170.0, 850.0))
HOUSE = NextRoom(id="house", name="the house", volume=200.0, changes=0.5)
GIVEN = Passage(id="door", room="house", kind="given", exchange=0.1)
AIR = Air(session=Session(minutes=120, work=(SAW,), run_on=30.0))
LINKED = replace(AIR, rooms=(HOUSE,), passages=(GIVEN,))


def two(exchanged: float, *between: tuple[int, int], rooms: int = 2) -> np.ndarray:
    found = np.zeros((rooms, rooms))
    for a, b in between or ((0, 1),):
        found[a, b] = found[b, a] = exchanged
    return found


@settings(max_examples=25, deadline=None)
@given(
    st.lists(st.floats(0.5, 500.0), min_size=2, max_size=4),
    st.floats(0.0, 20_000.0),
    st.floats(0.0, 20.0),
    st.floats(0.05, 2.0),
)
def test_linked_rooms_agree_with_an_ode_solver(
    volumes: list[float], exchanged: float, removed: float, hours: float
) -> None:
    """A row of rooms, each exchanging with the next, however stiff; nothing is lost but what is removed."""
    many = len(volumes)
    v = np.array(volumes)
    links = two(exchanged, *((k, k + 1) for k in range(many - 1)), rooms=many)
    removal = np.array([[removed * k for k in range(many)]])
    source = np.zeros((1, 1, many))
    source[0, 0, 0] = 100.0 / v[0]
    start = np.ones((1, 1, many))
    states, sums = respond(removal, links, v, source, start, even(hours, 0.01))
    matrix = links / v[:, None] - np.diag(links.sum(axis=1) / v + removal[0])
    run = solve_ivp(
        lambda _, c: matrix @ c + source[0, 0], (0, hours), start[0, 0], method="Radau", rtol=1e-8, atol=1e-10
    )
    assert states[0, 0, :, -1] == pytest.approx(run.y[:, -1], rel=1e-5)
    gone = float((removal[0] * v * sums[0, 0]).sum())
    assert float(v @ states[0, 0, :, -1]) + gone == pytest.approx(float(v.sum()) + 100.0 * hours, rel=1e-8)


def test_a_door_a_hatch_and_what_is_given() -> None:
    """The table: 0.9 by 2.03 m, sharp-edged: 0.043, 0.097, 0.216 m3/s at 0.2, 1 and 5 K; a garage opening of
    2.4 by 2.1 m 0.272 at 1 K.
    """
    sharp = [doorway(0.9, 2.03, kelvin, 0.61) for kelvin in (0.2, 1.0, 5.0)]
    assert sharp == pytest.approx([0.043, 0.097, 0.216], rel=0.01)
    assert doorway(2.4, 2.1, 1.0, 0.61) == pytest.approx(0.272, rel=0.01)
    assert [round(doorway(0.9, 2.03, kelvin), 3) for kelvin in (0.2, 1.0, 10.0)] == [0.028, 0.064, 0.223]
    assert doorway(0.9, 2.03, -1.0) == doorway(0.9, 2.03, 1.0) and doorway(0.9, 2.03, 0.0) == 0.0
    assert hatch(0.5, 5.0) == pytest.approx(0.1 * (2 * 9.80665 * 5 * 0.5**2.5 / 586.0) ** 0.5)
    door = Passage(id="d", room="house", width=0.9, height=2.03, warmer=1.0)
    low, middle, high = exchange(door)
    assert (middle, high) == (pytest.approx(0.064 + 0.05, abs=6e-4), pytest.approx(0.197, abs=6e-4))
    assert low == pytest.approx(0.7 * 0.064 + 0.02, abs=6e-4)
    above = replace(door, kind="hatch", warmer=-3.0)  # the warm air is above: only what is pushed through
    assert exchange(above) == (0.02, 0.05, 0.1)
    vent = hatch(0.5 * 1.2, 3.0)
    wide = exchange(replace(above, width=0.5, height=1.2, warmer=3.0))
    assert wide == pytest.approx((0.7 * vent + 0.02, vent + 0.05, vent + 0.1))
    assert exchange(replace(door, kind="stair")) == exchange(door)
    assert exchange(GIVEN) == (0.1, 0.1, 0.1)


def test_a_room_beyond_takes_from_the_shop_what_it_gets() -> None:
    alone, linked = simulate(60.0, AIR, {}, SIZES), simulate(60.0, LINKED, {}, SIZES)
    shut = simulate(60.0, replace(LINKED, passages=(replace(GIVEN, open="never"),)), {}, SIZES)
    assert linked.rooms[""]["central"].average_8h < alone.courses["central"].average_8h
    assert shut.courses["central"].total == pytest.approx(alone.courses["central"].total, rel=1e-9)
    assert shut.rooms["house"]["central"].peak == 0.0
    house = linked.rooms["house"]["central"]
    assert 0.0 < house.peak < linked.rooms[""]["central"].peak
    # all that was thrown off has left both rooms in the end, by what each removes
    thrown = 170.0 * 20.0
    out = 0.0
    for room, volume, changes in (("", 60.0, 0.5), ("house", 200.0, 0.5)):
        doses = linked.rooms[room]["central"].sums[-1]
        out += sum(d * volume * (changes + size.settling) for d, size in zip(doses, SIZES))
        out += volume * float(linked.rooms[room]["central"].total[-1])
    assert out == pytest.approx(thrown, rel=1e-6)


def test_a_door_that_stands_open_for_a_part_of_the_day_lets_through_only_then() -> None:
    part = replace(LINKED, passages=(replace(GIVEN, open="part", start=40.0, minutes=20.0),))
    day = simulate(60.0, part, {}, SIZES)
    house = day.rooms["house"]["central"].total
    at = {minute: float(np.interp(minute, day.times, house)) for minute in (39.0, 60.0, 61.0, 100.0)}
    assert at[39.0] == 0.0 < at[60.0] and at[100.0] < at[61.0] <= at[60.0]
    assert {40.0, 60.0} <= {one.start for one in day.stretches}


def test_a_third_room_hangs_on_the_second() -> None:
    attic = NextRoom(id="attic", volume=40.0, changes=0.0)
    up = Passage(id="up", room="attic", other="house", kind="given", exchange=0.05)
    day = simulate(60.0, replace(LINKED, rooms=(HOUSE, attic), passages=(GIVEN, up)), {}, SIZES)
    peaks = [day.rooms[room]["central"].peak for room in ("", "house", "attic")]
    assert peaks[0] > peaks[1] > peaks[2] > 0.0
    cleaned = replace(HOUSE, cleaning=0.2)
    less = simulate(60.0, replace(LINKED, rooms=(cleaned, attic), passages=(GIVEN, up)), {}, SIZES)
    assert less.rooms["attic"]["central"].peak < peaks[2]


def test_who_is_about_breathes_the_room_while_there() -> None:
    cook = Person(id="cook", room="house", start=30.0, minutes=60.0)
    day = simulate(60.0, replace(LINKED, people=(cook,)), {}, SIZES)
    course = day.rooms["house"]["central"]
    found = breathed_by(day, cook, "central")
    inside = (day.times >= 30.0) & (day.times <= 90.0)
    by_hand = np.trapezoid(course.total[inside], day.times[inside]) / 60.0 / 8.0
    assert found.average_8h == pytest.approx(by_hand, rel=1e-4)
    assert found.peak == pytest.approx(course.total[inside].max())
    assert 0 < found.fine_mean < found.peak
    for start in (1400.0, float(day.times[-1])):  # behind the watch, and as it ends
        late = breathed_by(day, replace(cook, start=start), "central")
        assert (late.average_8h, late.peak, late.fine_mean) == (0.0, 0.0, 0.0)
    with pytest.raises(ValueError, match="cook is not of this day"):
        breathed_by(day, replace(cook, minutes=61.0), "central")


def test_a_cleaner_with_times_of_its_own_runs_only_then_and_at_its_speed() -> None:
    cleaner = Cleaner(flow=0.2, efficiency=(1.0, 1.0, 1.0, 1.0), mixing=1.0)
    spell = Spell(id="high", thing="box", start=40.0, minutes=30.0, speed=0.5)
    air = replace(AIR, session=replace(AIR.session, spells=(spell,)))
    day = simulate(60.0, air, {"box": cleaner}, SIZES)
    on = [one for one in day.stretches if one.cleaner_on]
    assert (on[0].start, on[-1].end) == (40.0, 70.0)
    assert on[0].removal[1] == pytest.approx(0.5 + SIZES[1].settling + 3600 * 0.2 * 0.5 / 60)
    loaded = simulate(60.0, air, {"box": replace(cleaner, loaded=0.25)}, SIZES)
    assert loaded.stretches[-1].removal == day.stretches[-1].removal
    half = next(one for one in loaded.stretches if one.cleaner_on)
    assert half.removal[1] == pytest.approx(0.5 + SIZES[1].settling + 3600 * 0.2 * 0.5 * 0.75 / 60)


def test_doors_open_for_a_time() -> None:
    spell = Spell(id="air", start=30.0, minutes=15.0)
    air = replace(AIR, session=replace(AIR.session, spells=(spell,)))
    rates = {one.start: one.air_changes for one in simulate(60.0, air, {}, SIZES).stretches}
    assert rates[30.0] == air.ach_open and rates[45.0] == air.ach_closed
    assert {one.air_changes for one in simulate(60.0, air, {}, SIZES, leads_out=False).stretches} == {0.5}


def test_what_hangs_at_the_start_and_outdoors_by_size() -> None:
    air = replace(AIR, at_start=(0.01, 0.02, 0.0, 0.0), outdoors=0.1, outdoor_sizes=(1.0, 0.0, 0.0, 0.0))
    day = simulate(60.0, air, {}, SIZES)
    outside = 0.5 * 0.8 * 0.1 / (0.5 + SIZES[0].settling)
    assert day.courses["central"].by_size[0] == pytest.approx([outside + 0.01, 0.02, 0.0, 0.0])
    assert day.courses["central"].average_8h == pytest.approx(
        simulate(60.0, AIR, {}, SIZES).courses["central"].average_8h
    )  # no wood dust of the session
