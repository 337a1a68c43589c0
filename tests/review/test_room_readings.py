"""What is said of a room's readings: the wrong one, the next one, heights against the ceiling."""

import math
from dataclasses import replace

import pytest

from purvel.review import Finding, Grade, Memory, remedies_for
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.reviewing import first_review
from purvel.review.room.heights import height_words
from purvel.review.room.readings import misfit_words
from purvel.review.room.report import report
from purvel.shop import Ceiling, Diagonal, Offset, Room, Shop, Slope, Spot, WallHeight
from purvel.space.traverse import Misfit, walk
from tests.conftest import box_room


def found(room: Room, rule: str) -> tuple[list[Finding], Answers]:
    checked = first_review(Shop(units="metric", room=room), Memory())
    return [one for one in checked.findings if one.rule == rule], checked.answers


def test_readings_that_contradict_each_other_are_told_though_the_walk_closes() -> None:
    room = replace(box_room(6.0, 5.0), diagonals=(Diagonal(id="d", start="A", end="C", length=8.0),))
    ((gap,), answers) = found(room, "closing-gap")
    assert gap.grade == Grade.MEND
    assert gap.sentence.startswith(
        "The readings contradict each other, the length from corner A to corner C by"
    )
    assert "the length from corner A to corner C read wrong would explain it" in gap.sentence
    assert "from corner A to corner C 7810 mm instead of 8000 mm" in gap.why
    labels = {one.label for one in remedies_for(gap, answers)}
    assert "If the length from corner A to corner C is 7810 mm: measure it again" in labels


def test_a_spots_length_is_named_and_taken() -> None:
    lengths = {
        "A": math.hypot(3, 4),
        "B": math.hypot(3, 4),
        "C": math.hypot(3, 1) + 0.3,
        "D": math.hypot(3, 1),
    }
    spot = Spot(id="s", name="Drain", offsets=tuple(Offset(corner=k, length=v) for k, v in lengths.items()))
    room = replace(box_room(6.0, 5.0), spots=(spot,))
    ((gap,), answers) = found(room, "closing-gap")
    assert "the length from corner C to Drain read wrong would explain it" in gap.sentence
    (move,) = remedies_for(gap, answers)
    (after,) = move.edit(answers.shop).room.spots
    assert {one.corner: one.length for one in after.offsets} == {
        **lengths,
        "C": pytest.approx(3.162, abs=0.003),
    }
    assert walk(move.edit(answers.shop).room).holds


def test_what_to_read_next_is_told_with_what_it_would_be() -> None:
    walls = box_room(6.0, 5.0).walls
    room = Room(walls=(*walls[:2], replace(walls[2], length=5.6952), walls[3]))
    ((gap,), answers) = found(room, "closing-gap")
    assert "Measure from corner A to corner C: that settles whether wall A or wall C is wrong" in gap.why
    told = report(answers)["room"]
    assert told["next_reading"]["corners"] == ["A", "C"] and told["next_reading"]["again"] is None
    assert [one["if"]["wall"] for one in told["next_reading"]["would_be"]] == ["A", "C"]
    assert [slip["of"] for slip in told["slips"]] == told["suspect_walls"] == ["A", "C"]
    assert not told["readings_agree"] and len(told["readings"]) == 8


def test_a_height_under_the_ceiling_is_to_be_mended_and_one_over_it_seen() -> None:
    heights = tuple(
        WallHeight(id=f"h{k}", wall="A", along=along, height=high)
        for k, (along, high) in enumerate(((0.0, 2.31), (6.0, 2.45), (3.0, 2.405)))
    )
    room = replace(box_room(6.0, 5.0, ceiling=Ceiling(height=2.4)), heights=heights)
    told, answers = found(room, "wall-height")
    assert [(one.about, one.grade) for one in told] == [(("h0",), Grade.MEND), (("h1",), Grade.WATCH)]
    assert "2310 mm high, 90 mm less than the ceiling" in told[0].sentence
    (move,) = remedies_for(told[0], answers)
    assert move.label == "Set the ceiling to 2310 mm, the lowest that was read"
    assert move.edit(answers.shop).room.ceiling.height == 2.31


def test_how_far_a_height_is_from_the_ceiling_is_said() -> None:
    say = Figures("metric")
    assert height_words(2.31, 2.4, say) == "90 mm under the ceiling"
    assert height_words(2.45, 2.4, say) == "50 mm over the ceiling"
    assert height_words(2.4004, 2.4, say) == "as the ceiling"


def test_a_height_under_a_slope_is_held_against_the_slope() -> None:
    sloped = Ceiling(height=2.4, slopes=(Slope(wall="A", low=1.2, run=2.4),))
    fits = WallHeight(id="fits", wall="A", along=2.0, height=1.205)
    beside = WallHeight(id="beside", wall="B", along=1.2, height=1.80)  # half way up it
    off = WallHeight(id="off", wall="C", along=1.0, height=1.2)  # the far wall: flat
    told, _ = found(replace(box_room(6.0, 5.0, ceiling=sloped), heights=(fits, beside, off)), "wall-height")
    assert [one.about for one in told] == [("off",)]
    paced = replace(off, height=2.2, provenance="paced")  # within what a guess is worth
    assert found(replace(box_room(6.0, 5.0, ceiling=sloped), heights=(paced,)), "wall-height")[0] == []


@pytest.mark.parametrize(
    ("what", "adjusted", "words"),
    [
        ("length", 5.0003, "fits"),
        ("length", 5.004, "+4 mm"),
        ("length", 4.99, "−10 mm"),
        ("turn", 5.3, "+0.3°"),
        ("turn", 4.9, "−0.1°"),
        ("turn", 5.01, ""),
    ],
)
def test_a_misfit_in_words(what: str, adjusted: float, words: str) -> None:
    one = Misfit(what, "A", "", 5.0, adjusted, 0.004)  # type: ignore[arg-type]
    assert misfit_words(one, Figures("metric")) == words
