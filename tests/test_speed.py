"""Benchmarks of the design's table as ratios and counts, wide enough for a shared machine; `pytest
--benchmark-enable` prints the medians.
"""

import time
from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest
from pytest_benchmark.fixture import BenchmarkFixture

from purvel.airflow.network import solve
from purvel.catalogue import dust_sizes
from purvel.review import Answers, Memory
from purvel.review.place.answers import PlaceAnswers
from purvel.review.reviewing import first_review
from purvel.roomair.day import simulate
from purvel.shop import Air, NextRoom, Passage, Session, WorkInterval
from purvel.shop.edits import move_thing
from tests.airflow.test_network import LEAKS, STANDARD, large_layout
from tests.crowd import crowded_shop


def taken(act: Callable[[], object]) -> float:
    """Of a processor, by this thread [s]."""
    start = time.thread_time()
    act()
    return time.thread_time() - start


def times_as_much(act: Callable[[], object], than: Callable[[], object], rounds: int = 7) -> float:
    """How many times as much of a processor one takes as the other, mostly: both by turns, so that what else
    runs here is in both.
    """
    return float(np.median([taken(act) / taken(than) for _ in range(rounds)]))


def yardstick() -> Callable[[], object]:
    """A fixed piece of array work, about 0.022 s, all in one thread: 40,000 figures sorted sixty times."""
    figures = np.random.default_rng(1).random(40_000)
    return lambda: [np.sort(figures) for _ in range(60)]


def test_two_hundred_gate_sets_cost_far_less_than_one_by_one(benchmark: BenchmarkFixture) -> None:
    layout, choices = large_layout(40)
    many = (choices * 5)[:200]

    def together() -> None:
        solve(layout, many, STANDARD, LEAKS)

    assert times_as_much(together, lambda: solve(layout, many[:1], STANDARD, LEAKS)) < 60
    benchmark(together)


def test_the_network_grows_no_faster_than_its_square(benchmark: BenchmarkFixture) -> None:
    def solver(hoods: int) -> Callable[[], object]:
        layout, choices = large_layout(hoods)
        return lambda: solve(layout, choices[:1], STANDARD, LEAKS)

    assert times_as_much(solver(40), solver(10)) < 8
    benchmark(solver(10))


def test_moving_one_of_sixty_things_recomputes_lanes_quickly(benchmark: BenchmarkFixture) -> None:
    shop, reviewer = crowded_shop(), Memory()

    def drag() -> None:
        drag.x += 0.01
        answers = Answers(move_thing(shop, "machine-2", drag.x, 1.75), reviewer)
        _ = (
            answers.of(PlaceAnswers).lanes,
            answers.of(PlaceAnswers).overlaps,
            answers.of(PlaceAnswers).standing,
        )

    drag.x = 5.6
    lanes = Answers(shop, reviewer).of(PlaceAnswers).lanes
    assert (
        len(lanes) == 12
    )  # of all that stands there the twelve with a duct are fed, the small ones are round
    assert times_as_much(drag, yardstick()) < 2
    benchmark(drag)


@pytest.mark.parametrize(("thing", "x", "y"), [("along-5.6-5", 5.5, 5.6), ("machine-8", 5.6, 4.35)])
def test_the_whole_review_after_one_of_sixty_things_moved(
    benchmark: BenchmarkFixture, thing: str, x: float, y: float
) -> None:
    """Twice what the yardstick takes; it was a hundred times."""
    shop, memory = crowded_shop(), Memory()
    first_review(shop, memory)

    def moved() -> None:
        moved.x += 0.01
        first_review(move_thing(shop, thing, moved.x, y), memory)

    moved.x = x
    assert times_as_much(moved, yardstick()) < 8
    benchmark(moved)


def test_a_day_and_three_rooms(benchmark: BenchmarkFixture, monkeypatch: pytest.MonkeyPatch) -> None:
    """Eight hours second by second in three rooms and five sizes: as long as the yardstick takes."""
    air = Air(
        session=Session(
            minutes=480, work=tuple(WorkInterval(id=f"s{k}", start=40.0 * k, minutes=15) for k in range(10))
        )
    )
    beyond = (NextRoom(id="house", volume=200.0), NextRoom(id="attic", volume=40.0))
    doors = (
        Passage(id="in", room="house", kind="given", exchange=0.1),
        Passage(id="up", room="attic", other="house", kind="given", exchange=0.05),
    )
    linked, sizes = replace(air, rooms=beyond, passages=doors), (*dust_sizes(), dust_sizes()[-1])
    monkeypatch.setattr("purvel.roomair.day.STEP", 1 / 3600)
    monkeypatch.setattr("purvel.roomair.stretches.LONGEST_WATCH", 0.0)
    assert len(simulate(60.0, linked, {}, sizes).times) > 28_800
    assert times_as_much(lambda: simulate(60.0, linked, {}, sizes), yardstick()) < 2
    monkeypatch.undo()
    benchmark(lambda: simulate(60.0, air, {}, dust_sizes()))
