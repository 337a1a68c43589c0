"""What stands before a wall, by hand: a room 6 m by 5 m whose wall A runs from (0, 0) to (6, 0)."""

from dataclasses import replace

import pytest

from purvel.shop import Run, Vertex
from purvel.space.elevation import bench_depth, duct_lines, standing_before
from purvel.space.shell import Side, shell
from tests.conftest import block, box_room


@pytest.fixture
def wall() -> Side:
    return shell(box_room()).sides["A"]


def test_along_it_up_and_how_far_off(wall: Side) -> None:
    """A bench 1.2 by 0.6 m, its middle 0.7 m off the wall, begins 0.4 m off and reaches out to 1.0 m."""
    bench = block("bench", 2.0, 0.7, 1.2, 0.6, 0.9)
    (one,) = standing_before(wall, [bench])
    assert (one.left, one.right) == pytest.approx((1.4, 2.6))
    assert (one.low, one.high, one.off, one.out) == pytest.approx((0.0, 0.9, 0.4, 1.0))
    (through,) = standing_before(wall, [replace(bench, y=0.25)])
    assert through.off == 0.0 and through.out == pytest.approx(0.55)  # it stands a little in the wall


def test_what_is_far_off_behind_or_beside_is_not_before_it(wall: Side) -> None:
    bench = block("bench", 2.0, 0.7, 1.2, 0.6, 0.9)
    assert standing_before(wall, [replace(bench, y=1.51)]) == []  # begins 1.21 m off
    assert len(standing_before(wall, [replace(bench, y=1.49)])) == 1
    assert standing_before(wall, [replace(bench, y=-0.31)]) == []
    assert standing_before(wall, [replace(bench, x=-0.61)]) == []
    assert standing_before(wall, [replace(bench, x=6.61)]) == []
    far, near = replace(bench, id="far", y=1.0), replace(bench, id="near", y=0.5)
    assert [one.id for one in standing_before(wall, [near, far])] == ["far", "near"]


def test_one_reaches_over_what_is_as_high_as_a_bench_and_stands_against_the_wall(wall: Side) -> None:
    bench = block("bench", 2.0, 0.4, 1.2, 0.6, 0.9)  # 0.1 m off, out to 0.7 m

    def depth(*things: object, left: float = 1.5, right: float = 2.5) -> float:
        return bench_depth(standing_before(wall, things), left, right)  # type: ignore[arg-type]

    assert depth(bench) == pytest.approx(0.7)
    assert depth(bench, left=2.7, right=3.5) == 0.0  # beside it
    assert depth(replace(bench, y=0.5)) == 0.0  # 0.2 m off
    assert depth(replace(bench, height=0.45)) == depth(replace(bench, height=1.25)) == 0.0
    assert depth(bench, block("deeper", 2.2, 0.45, 0.6, 0.8, 0.8)) == pytest.approx(0.85)


def test_ducts_on_a_wall(wall: Side) -> None:
    """The first leg lies 0.2 m off the wall, the second leaves it."""
    points = tuple(Vertex(x=x, y=y, z=z) for x, y, z in ((1.0, 0.2, 2.2), (3.0, 0.2, 2.0), (3.0, 1.0, 2.0)))
    run = Run(id="run", diameter=0.1, points=points)
    assert duct_lines(wall, run) == [((1.0, 2.2), (3.0, 2.0))]
    beside = replace(run, points=tuple(replace(point, x=point.x + 6.0) for point in points))
    assert duct_lines(wall, beside) == []
