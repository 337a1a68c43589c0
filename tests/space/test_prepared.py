"""Areas that many threads ask at once."""

from concurrent.futures import ThreadPoolExecutor

from purvel.libraries import np, shapely
from purvel.space.prepared import Prepared

CHANCE = np.random.default_rng(1)


def test_two_threads_may_ask_one_area() -> None:
    """With a prepared area of the library itself this ends the process within a few rounds."""
    lines = np.asarray(shapely.linestrings(CHANCE.uniform(0, 10, (2000, 2, 2))))
    for _ in range(25):
        area = shapely.union_all(shapely.buffer(shapely.points(CHANCE.uniform(0, 10, (60, 2))), 0.8))
        ready, wanted = Prepared(area), shapely.covers(area, lines)
        with ThreadPoolExecutor(2) as hands:
            for found in hands.map(ready.covers, [lines, lines]):
                assert np.array_equal(found, wanted)


def test_edges_and_corners_are_covered_and_not_held() -> None:
    """A square from 0 to 2."""
    square = Prepared(shapely.box(0, 0, 2, 2))
    edge, inside, over = (
        shapely.LineString(ends) for ends in ([(0, 0), (2, 0)], [(0, 0), (1, 1)], [(1, 1), (3, 1)])
    )
    shapes = np.array([edge, inside, over], dtype=object)
    assert square.covers(shapes).tolist() == [True, True, False]
    assert square.contains(shapes).tolist() == [False, True, False]
    assert square.holds(np.array([1.0, 2.0, 0.0, 3.0]), np.array([1.0, 1.0, 0.0, 1.0])).tolist() == [
        True, False, False, False,
    ]  # fmt: skip
    assert not shapely.is_prepared(square.shape)  # what is shared stays as it is
