"""Where grades change, by the figures themselves."""

import pytest

from purvel.review import Grade
from purvel.review.place.lane_rules import lane_grade
from purvel.space.lanes import FreeRun, Lane


def lane(
    longest: float, stock: float, *, across: bool = False, runs: tuple[float, float] = (2.0, 2.0)
) -> Lane:
    into, out = (FreeRun(length, ("wall", "A")) for length in runs)
    return Lane(
        "saw", (0.0, 0.0), 0.0, 0.2, 0.9, 0.925, into, out, 0.6, stock, longest, None, across, (9.0, 9.0)
    )


@pytest.mark.parametrize(
    ("longest", "stock", "grade"),
    [
        (0.29, 1.8, Grade.STOP),  # nothing is worked here
        (0.31, 1.8, Grade.MEND),
        (1.79, 1.8, Grade.MEND),
        (1.8, 1.8, Grade.GOOD),
        (0.2, 0.2, Grade.GOOD),  # small boards need no more
    ],
)
def test_a_lane_by_the_longest_board(longest: float, stock: float, grade: Grade) -> None:
    assert lane_grade(lane(longest, stock)) == grade


def test_a_crosscut_that_only_trims_is_one_to_watch() -> None:
    """0.5 m free to the left, 2.0 m to the right: a board of 1.8 m is trimmed, none cut in its middle."""
    assert lane_grade(lane(1.0, 1.8, across=True, runs=(0.5, 2.0))) == Grade.WATCH
    assert lane_grade(lane(0.2, 1.8, across=True, runs=(0.1, 0.25))) == Grade.STOP
    assert lane_grade(lane(0.2, 1.8, across=True, runs=(0.1, 0.9))) == Grade.MEND
