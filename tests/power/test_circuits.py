"""Draws, breakers and voltage: published figures, and sums for a pocket calculator."""

import pytest

from purvel.catalogue import kinds, make_thing
from purvel.catalogue.power import conductors, plate_kinds
from purvel.power.circuits import Consumer, Loading, drop_at, loadings, thinnest, voltage_drop
from purvel.power.plates import draw, full_load
from purvel.shop.power import Circuit, Plate
from tests.conftest import block
from tests.reference import CASES, holds


def test_voltage_drop_as_in_the_reference_case() -> None:
    i = CASES["elec-01"]["inputs"]
    dropped = voltage_drop(i["I"], i["L_ft"] * 0.3048, i["R_kft"] / 0.3048)
    assert holds("elec-01", "dV", dropped)


def test_what_runs_long_counts_a_quarter_more() -> None:
    """80 % of 20 A is 16 A for hours: 16 x 1.25 = 20."""
    case_ = CASES["elec-03"]["inputs"]
    rating = case_["breaker_A"]
    for amps, is_enough in ((16.0, True), (16.1, False)):
        load = Loading("c", (Consumer("x", "c", amps, True),), rating)
        assert load.holds is is_enough and not load.trips
    mixed = Loading("c", (Consumer("a", "c", 10.0, False), Consumer("b", "c", 8.0, True)), 20.0)
    assert mixed.counted == pytest.approx(20.0) and mixed.holds and mixed.amps == 18.0
    assert Loading("c", (Consumer("a", "c", 20.1, False),), 20.0).trips


@pytest.mark.parametrize(
    ("hp", "volts", "expected"),
    [
        (1.5, 120, 20.0),
        (3.0, 240, 17.0),
        (0.5, 230, 4.9),
        (1.2, 120, 20.0),
        (10.0, 240, 50.0),
        (20.0, 240, 100.0),
    ],
)
def test_full_load_current_is_the_table_s_next_size_up(hp: float, volts: int, expected: float) -> None:
    assert full_load(hp, volts) == pytest.approx(expected)  # type: ignore[arg-type]


def test_a_plate_beats_the_kind() -> None:
    saw = make_thing("table-saw", "saw")
    usual = draw(saw, "120/240")
    assert usual is not None and (usual.volts, usual.amps, usual.is_plate) == (120, 20.0, False)
    typed = draw(make_plate(saw, Plate(volts=240, amps=12.5)), "120/240")
    assert typed is not None and (typed.volts, typed.amps, typed.is_plate) == (240, 12.5, True)
    watts = draw(make_plate(saw, Plate(volts=230, watts=2300)), "230")
    assert watts is not None and watts.amps == pytest.approx(10.0)


def make_plate(thing, plate):  # type: ignore[no-untyped-def]
    from dataclasses import replace

    return replace(thing, plate=plate)


def test_a_big_motor_wants_the_higher_voltage() -> None:
    collector = draw(make_thing("collector", "c"), "120/240")
    assert collector is not None and (collector.volts, collector.amps) == (240, 12.0)
    metric = draw(make_thing("collector", "c"), "230")
    assert metric is not None and metric.volts == 230
    assert metric.amps == pytest.approx(2 * 745.7 / (230 * 0.68), rel=1e-3)


def test_what_is_no_machine_draws_nothing() -> None:
    assert draw(block("b", 0, 0, 1, 1, 1), "230") is None
    assert set(plate_kinds()) <= set(kinds())


def test_loads_are_sorted_by_circuit() -> None:
    circuits = (Circuit(id="a", rating=15.0), Circuit(id="b"))
    one, other = loadings(circuits, [Consumer("x", "b", 5.0, False), Consumer("y", "b", 2.0, True)])
    assert (one.amps, other.amps, other.counted) == (0.0, 7.0, 7.5)


def test_the_voltage_at_a_machine() -> None:
    """10 A through 20 m of 6.50 ohm/km lose 2.6 V, 6 A through 5 m of 10.3 ohm/km 0.618 V."""
    consumer = Consumer("x", "c", 6.0, False)
    load = Loading("c", (consumer, Consumer("y", "c", 4.0, False)), 20.0)
    drop = drop_at(consumer, load, 120.0, (20.0, 6.50), (5.0, 10.3))
    assert (drop.circuit, drop.cord) == (pytest.approx(2.6), pytest.approx(0.618))
    assert drop.branch == pytest.approx(2.6 / 120) and drop.total == pytest.approx(3.218 / 120)


@pytest.mark.parametrize(
    ("amps", "feet", "volts", "wire"),
    [
        (12, 76, 120, "awg-12"),
        (16, 91, 120, "awg-10"),
        (17, 171, 240, "awg-10"),
        (28, 165, 240, "awg-8"),
        (12, 78, 120, "awg-10"),
    ],
)
def test_how_far_a_conductor_carries_for_three_per_cent(
    amps: float, feet: float, volts: float, wire: str
) -> None:
    """The lengths that follow from NEC chapter 9 table 8, to the whole foot."""
    by_size = {key: one.ohm_per_km for key, one in conductors().items() if key.startswith("awg")}
    assert thinnest(amps, (feet - 1) * 0.3048, volts, 0.03, by_size) == wire


def test_no_conductor_carries_everything_anywhere() -> None:
    assert thinnest(100.0, 1000.0, 120.0, 0.03, {"x": 1.0}) is None
