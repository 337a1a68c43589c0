"""Which reading a tape walk accuses, and that it accuses none where there was no slip."""

import math
import random
from dataclasses import replace

import pytest

from purvel.review import Grade, Memory, remedies_for
from purvel.review.reviewing import first_review
from purvel.shop import Room, Shop, Wall
from purvel.space.traverse import fair_gap, walk
from tests.conftest import box_room

NAMES = "ABCDEF"
BOX = [(0.0, 0.0), (6.0, 0.0), (6.0, 4.5), (0.0, 4.5)]
ELL = [(0.0, 0.0), (7.0, 0.0), (7.0, 3.0), (4.0, 3.0), (4.0, 6.0), (0.0, 6.0)]


def taped(rng: random.Random, *, skew: bool) -> tuple[list[float], list[float]]:
    """A walk round a box or an L: lengths to 3 mm, turns to a degree, square where the room is."""
    points = rng.choice((BOX, ELL))
    if skew:
        points = [(x + rng.uniform(-0.5, 0.5), y + rng.uniform(-0.5, 0.5)) for x, y in points]
    count = len(points)
    ways = [
        (points[(k + 1) % count][0] - points[k][0], points[(k + 1) % count][1] - points[k][1])
        for k in range(count)
    ]
    headings = [math.degrees(math.atan2(y, x)) for x, y in ways]
    turns = [(headings[(k + 1) % count] - headings[k] + 180) % 360 - 180 for k in range(count)]
    return [math.hypot(*way) + rng.gauss(0, 0.003) for way in ways], [float(round(turn)) for turn in turns]


def room_of(lengths: list[float], turns: list[float]) -> Room:
    return Room(
        walls=tuple(
            Wall(id=name, length=length, turn=turn) for name, length, turn in zip(NAMES, lengths, turns)
        )
    )


@pytest.mark.parametrize("skew", [False, True])
def test_a_walk_without_a_slip_accuses_nobody(skew: bool) -> None:
    rng = random.Random(11)
    for _ in range(200):
        trip = walk(room_of(*taped(rng, skew=skew)))
        assert trip.is_closed and trip.gap_length <= trip.fair and trip.slips == ()


@pytest.mark.parametrize("skew", [False, True])
def test_a_length_read_wrong_is_among_the_accused_with_its_value(skew: bool) -> None:
    rng = random.Random(12)
    told = 0
    for _ in range(150):
        lengths, turns = taped(rng, skew=skew)
        which, slip = rng.randrange(len(lengths)), rng.choice((-0.3048, 0.3048, 0.5))
        true, lengths[which] = lengths[which], lengths[which] + slip
        trip = walk(room_of(lengths, turns))
        if not trip.is_closed:
            continue
        own = [one for one in trip.slips if one.of == NAMES[which] and one.what == "length"]
        assert own, (lengths, turns, which)
        assert own[0].value == pytest.approx(true, abs=0.15 if skew else 0.06)
        told += all(one.what == "length" for one in trip.slips)
    assert told > 130


@pytest.mark.parametrize("skew", [False, True])
def test_a_turn_read_wrong_does_not_accuse_a_wall(skew: bool) -> None:
    rng = random.Random(13)
    closed = hit = walls = 0
    for _ in range(200):
        lengths, turns = taped(rng, skew=skew)
        which, slip = rng.randrange(len(turns) - 1), rng.choice((-10.0, -5.0, 5.0, 10.0))
        true, turns[which] = turns[which], turns[which] + slip
        trip = walk(room_of(lengths, turns))
        if trip.is_closed and trip.gap_length > trip.fair:
            closed += 1
            own = [one for one in trip.slips if one.of == NAMES[which] and one.what == "turn"]
            hit += bool(own) and abs(own[0].value - true) < 2.5
            walls += any(one.what == "length" for one in trip.slips)
    assert closed > 120 and hit > 0.85 * closed and walls < 0.1 * closed


def test_a_last_turn_that_was_never_taken_hides_no_slip() -> None:
    """A box whose last turn is left at 45 degrees, and wall C read 0.3 m short."""
    walls = box_room(6.0, 5.0).walls
    slipped = (*walls[:2], replace(walls[2], length=5.7), replace(walls[3], turn=45.0))
    trip = walk(Room(walls=slipped))
    assert {(one.of, one.what) for one in trip.slips} >= {("A", "length"), ("C", "length")}
    assert trip.gap_length > trip.fair


def test_what_is_fair_is_never_less_than_careful_taping_leaves() -> None:
    trip = walk(box_room(6.0, 5.0))
    assert trip.fair == fair_gap(22.0)
    skew = room_of([6.0, 5.0, 6.02, 4.97], [91.0, 88.0, 92.0, 89.0])
    assert walk(skew).fair >= fair_gap(22.0)


def test_the_finding_offers_the_reading_that_would_close_it() -> None:
    walls = box_room(6.0, 5.0).walls
    shop = Shop(units="metric", room=Room(walls=(*walls[:2], replace(walls[2], length=5.7), walls[3])))
    checked = first_review(shop, Memory())
    (gap,) = [one for one in checked.findings if one.rule == "closing-gap"]
    assert gap.grade == Grade.MEND and "wall A or C read wrong would explain it" in gap.sentence
    assert "wall C 6000 mm instead of 5700 mm" in gap.why
    moves = {move.label: move for move in remedies_for(gap, checked.answers)}
    fixed = moves["If wall C is 6000 mm: measure it again"].edit(shop)
    assert walk(fixed.room).gap_length < 1e-3
    turned = Shop(units="metric", room=Room(walls=(walls[0], replace(walls[1], turn=97.0), *walls[2:])))
    (gap,) = [one for one in first_review(turned, Memory()).findings if one.rule == "closing-gap"]
    assert "the turn at the end of B read wrong" in gap.sentence and "90° instead of 97°" in gap.why


def test_a_turn_that_was_read_to_parts_of_a_degree_is_named_to_them() -> None:
    """A box leaning by 3.4 degrees; the turn at B was read 6 degrees wide."""
    leaning = [86.6, 93.4, 86.6, 93.4]
    wrong = room_of([6.0, 5.0, 6.0, 5.0], [86.6, 99.4, 86.6, 93.4])
    (slip,) = [one for one in walk(wrong).slips if (one.of, one.what) == ("B", "turn")]
    assert slip.value == pytest.approx(leaning[1], abs=0.15) and slip.value != round(slip.value)
